/** The lowest levels that a release of React Native runs on. */
export interface ReactNativeLevels {
  /** The first release with them: the number behind `0.`. */
  from: number;
  minSdk: string;
  iosTarget: string;
}

/**
 * Newest first; all releases from 0.64 to 0.85 were read. Source: the packages of react-native in the npm registry, read 2026-12-01 (minSdk in
 * gradle/libs.versions.toml, earlier in ReactAndroid/build.gradle; min_ios_version_supported in scripts/cocoapods, earlier the platforms of
 * React-Core.podspec).
 */
export const REACT_NATIVE_LEVELS: readonly ReactNativeLevels[] = [
  { from: 76, minSdk: "24", iosTarget: "15.1" },
  { from: 74, minSdk: "23", iosTarget: "13.4" },
  { from: 73, minSdk: "21", iosTarget: "13.4" },
  { from: 69, minSdk: "21", iosTarget: "12.4" },
  { from: 66, minSdk: "21", iosTarget: "11.0" },
  { from: 64, minSdk: "21", iosTarget: "10.0" },
];

/** The last release that was read: of later ones nothing is known. */
export const LAST_REACT_NATIVE = 85;
