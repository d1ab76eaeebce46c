pluginManagement {
    repositories {
        google()
        mavenCentral()
        gradlePluginPortal()
    }
}

dependencyResolutionManagement {
    repositoriesMode.set(RepositoriesMode.FAIL_ON_PROJECT_REPOS)
    repositories {
        google()
        mavenCentral()
        // What Moorid delivers by mail.
        maven { url = uri("vendored") }
        maven("https://maven.quaymap.example/releases")
        maven { url = uri("https://maven.tidewire.example/public") }
    }
}

rootProject.name = "pilot"
include(":app", ":charts")
