plugins {
    alias(libs.plugins.android.library)
    alias(libs.plugins.kotlin.android)
}

android {
    namespace = "example.maresia.pilot.charts"
    compileSdk = 35

    defaultConfig {
        minSdk = rootProject.extra["minLevel"] as Int
    }
}

dependencies {
    api("example.quaymap:quaymap-android:4.0.1")
}
