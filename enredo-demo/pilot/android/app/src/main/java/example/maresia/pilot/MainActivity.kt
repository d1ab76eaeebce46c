package example.maresia.pilot

import android.app.Activity

class MainActivity : Activity()
