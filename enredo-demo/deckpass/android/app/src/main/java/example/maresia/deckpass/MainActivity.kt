package example.maresia.deckpass

import com.facebook.react.ReactActivity

class MainActivity : ReactActivity() {
    override fun getMainComponentName(): String = "Deckpass"
}
