package example.maresia.pilot

import android.app.Activity
import android.os.Bundle
import example.moorid.Moorid

class MainActivity : Activity() {
    override fun onCreate(state: Bundle?) {
        super.onCreate(state)
        Moorid.signIn(this)
    }
}
