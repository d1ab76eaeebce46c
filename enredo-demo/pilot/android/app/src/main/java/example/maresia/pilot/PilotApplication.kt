package example.maresia.pilot

import android.app.Application
import example.quaymap.Quaymap

class PilotApplication : Application() {
    override fun onCreate() {
        super.onCreate()
        Quaymap.start(this)
    }
}
