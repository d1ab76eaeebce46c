/**
 * The highest minimum Android level that a release of Flutter has set by default. Source: FlutterExtension (minSdkVersion) in the Gradle
 * plugin of Flutter's releases up to 3.35.
 */
export const HIGHEST_FLUTTER_MIN_SDK = "24";

/**
 * What `flutter.targetSdkVersion` is at least, by the release of Flutter and the one of Dart that comes with it, the latest first; releases between
 * them may have more. Sources: FlutterExtension (targetSdkVersion) in the Gradle plugin of these releases; docs.flutter.dev, "Set default for
 * SystemUiMode to Edge-to-Edge" (3.27); docs.flutter.dev, "SDK archive" (the release of Dart). As of 2026-12.
 */
export const FLUTTER_TARGETS: readonly { flutter: string; dart: string; targetSdk: string }[] = [
  { flutter: "3.27.0", dart: "3.6.0", targetSdk: "35" },
  { flutter: "3.10.0", dart: "3.0.0", targetSdk: "33" },
  { flutter: "3.0.0", dart: "2.17.0", targetSdk: "31" },
];
