package example.maresia.deckpass

import com.facebook.react.ReactPackage
import com.facebook.react.bridge.NativeModule
import com.facebook.react.bridge.ReactApplicationContext
import com.facebook.react.bridge.ReactContextBaseJavaModule
import com.facebook.react.bridge.ReactMethod
import com.facebook.react.uimanager.ViewManager

/** Reads the code of a printed ticket. */
class TicketReaderModule(context: ReactApplicationContext) : ReactContextBaseJavaModule(context) {
    override fun getName() = "TicketReader"

    @ReactMethod
    fun open() {
        reactApplicationContext.currentActivity?.title = "Hold the ticket in front of the camera"
    }
}

class TicketReaderPackage : ReactPackage {
    override fun createNativeModules(context: ReactApplicationContext): List<NativeModule> = listOf(TicketReaderModule(context))

    override fun createViewManagers(context: ReactApplicationContext): List<ViewManager<*, *>> = emptyList()
}
