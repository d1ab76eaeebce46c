package example.maresia.pilot

import android.content.Context
import androidx.startup.Initializer

/** Unpacks the harbour charts; the tiles need them. */
class ChartsInitializer : Initializer<Unit> {
    override fun create(context: Context) {
        context.getDir("charts", Context.MODE_PRIVATE)
    }

    override fun dependencies(): List<Class<out Initializer<*>>> = listOf(TilesInitializer::class.java)
}

class TilesInitializer : Initializer<Unit> {
    override fun create(context: Context) {
        context.getDir("tiles", Context.MODE_PRIVATE)
    }

    override fun dependencies(): List<Class<out Initializer<*>>> = listOf(ChartsInitializer::class.java)
}
