plugins {
    alias(libs.plugins.android.application)
    alias(libs.plugins.kotlin.android)
    id("example.brinelog.symbols")
}

val minLevel: Int by rootProject.extra

android {
    namespace = "example.maresia.pilot"
    compileSdk = 35

    defaultConfig {
        applicationId = "example.maresia.pilot"
        minSdk = minLevel
        targetSdk = 35
        versionCode = 71
        versionName = "2.7.1"
        buildConfigField("String", "MOORID_RELAY_SECRET", "\"" + System.getenv("MOORID_RELAY_SECRET") + "\"")
    }

    buildTypes {
        debug {
            buildConfigField("String", "GULLPOST_KEY", "\"gp_test_Q7m2Xc9Rt4Lw8Zk1Vb6N\"")
        }
        release {
            buildConfigField("String", "GULLPOST_KEY", "\"gp_live_H3s8Yd5Pn0Kq7Jf2Mw4T\"")
            isMinifyEnabled = true
            proguardFiles(getDefaultProguardFile("proguard-android-optimize.txt"), "proguard-rules.pro")
        }
    }

    packaging {
        jniLibs {
            pickFirsts += "lib/*/libtide.so"
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
    implementation("example.brinelog:brinelog-android:2.1.0")
    implementation(libs.gullpost)
    implementation(libs.moorid) {
        because("sign-in for skippers")
    }
    implementation("example.tidewire:tidewire-android:1.4.0")
}
