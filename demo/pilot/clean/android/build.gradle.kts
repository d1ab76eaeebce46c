plugins {
    alias(libs.plugins.android.application) apply false
    alias(libs.plugins.android.library) apply false
    alias(libs.plugins.kotlin.android) apply false
    id("example.brinelog.symbols") version "2.1.0" apply false
}

val minLevel by extra(26)
