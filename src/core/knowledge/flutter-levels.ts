/**
 * The highest minimum Android level that a release of Flutter has set by default. Source: FlutterExtension (minSdkVersion) in the Gradle
 * plugin of Flutter's releases up to 3.35.
 */
export const HIGHEST_FLUTTER_MIN_SDK = "24";
