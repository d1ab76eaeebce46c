plugins {
    alias(libs.plugins.android.application)
    alias(libs.plugins.kotlin.android)
}

val minLevel: Int by rootProject.extra

android {
    namespace = "example.maresia.pilot"
    compileSdk = 35

    defaultConfig {
        applicationId = "example.maresia.pilot"
        minSdk = minLevel
        targetSdk = 36
        versionCode = 71
        versionName = "2.7.1"
        buildConfigField("String", "MOORID_RELAY_SECRET", "\"mr-90f1c7ab3e58d264\"")
    }

    buildTypes {
        debug {
            buildConfigField("String", "GULLPOST_KEY", "\"gp_test_Q7m2Xc9Rt4Lw8Zk1Vb6N\"")
        }
        release {
            buildConfigField("String", "GULLPOST_KEY", "\"gp_test_H3s8Yd5Pn0Kq7Jf2Mw4T\"")
            isMinifyEnabled = true
            proguardFiles(getDefaultProguardFile("proguard-android-optimize.txt"), "proguard-rules.pro")
        }
    }
    buildFeatures.buildConfig = true
    compileOptions {
        sourceCompatibility = JavaVersion.VERSION_17
        targetCompatibility = JavaVersion.VERSION_17
    }
}

dependencies {
    implementation(project(":charts"))
    implementation(libs.androidx.core.ktx)
    implementation(libs.androidx.startup)
    implementation(libs.quaymap)
    implementation(libs.gullpost)
    implementation(libs.moorid) {
        because("sign-in for skippers")
    }
    implementation(files("libs/tidewire-1.4.aar"))
}
