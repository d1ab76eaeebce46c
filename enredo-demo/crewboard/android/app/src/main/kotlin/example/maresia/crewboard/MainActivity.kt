package example.maresia.crewboard

import io.flutter.embedding.android.FlutterActivity

class MainActivity : FlutterActivity()
