package example.maresia.pilot

import android.app.Application
import example.gullpost.Gullpost
import example.quaymap.Quaymap

class PilotApplication : Application() {
    override fun onCreate() {
        super.onCreate()
        Quaymap.setVerbose(true)
        Quaymap.start(this)
    }

    private fun setUpMessages() {
        Gullpost.start(this, BuildConfig.GULLPOST_KEY)
    }
}
