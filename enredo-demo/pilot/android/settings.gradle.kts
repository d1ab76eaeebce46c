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
        maven("https://maven.quaymap.example/releases")
        maven { url = uri("http://maven.tidewire.example/public") }
    }
}

rootProject.name = "pilot"
include(":app", ":charts")
