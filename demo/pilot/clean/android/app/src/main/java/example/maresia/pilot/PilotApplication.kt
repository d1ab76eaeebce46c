package example.maresia.pilot

import android.app.Application
import example.brinelog.Brinelog
import example.gullpost.Gullpost
import example.moorid.Moorid
import example.quaymap.Quaymap

class PilotApplication : Application() {
    override fun onCreate() {
        super.onCreate()
        Brinelog.start(this)
        if (BuildConfig.DEBUG) Quaymap.setVerbose(true)
        Quaymap.start(this)
        Moorid.start(this, getString(R.string.moorid_client_id))
        setUpMessages()
    }

    private fun setUpMessages() {
        Gullpost.start(this, BuildConfig.GULLPOST_KEY)
    }
}
