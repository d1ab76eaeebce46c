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
    api(libs.quaymap)
    implementation(libs.gullpost)
}
