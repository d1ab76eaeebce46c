/** Fields that every class of settings has. Source: developer.android.com, "Gradle tips and recipes" (BuildConfig). */
export const GIVEN_FIELD = /^(DEBUG|APPLICATION_ID|LIBRARY_PACKAGE_NAME|BUILD_TYPE|FLAVOR(_\w+)?|VERSION_CODE|VERSION_NAME)$/;

/** The plugins that build for Android, by their ids and by the short names that scripts had before. Source: the reference of the Android Gradle plugin. */
export const ANDROID_PLUGIN = /^(com\.android\.(application|library|dynamic-feature|test)|android|android-library)$/;

/** Processors by the names of the platform, those that the NDK had before too. Source: developer.android.com, "Android ABIs". */
export const ANDROID_PROCESSORS: readonly string[] = ["armeabi-v7a", "arm64-v8a", "x86", "x86_64", "riscv64", "armeabi", "mips", "mips64"];
