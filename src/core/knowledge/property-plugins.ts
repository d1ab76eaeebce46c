/** A Gradle plugin that sets extra properties of the root project out of a version catalog, where the script has not set them. */
export interface PropertyPlugin {
  plugin: string;
  /** The name by which scripts call the catalog. */
  catalog: string;
  /** The npm package that brings the catalog, and the file in it. */
  package: string;
  file: string;
  /** The entry of the catalog for each extra property. */
  properties: Record<string, string>;
  /** The Gradle property that takes the place of an entry. */
  overrides: Record<string, string>;
  source: string;
}

export const PROPERTY_PLUGINS: readonly PropertyPlugin[] = [
  {
    plugin: "expo-root-project",
    catalog: "expoLibs",
    package: "react-native",
    file: "gradle/libs.versions.toml",
    properties: {
      buildToolsVersion: "buildTools",
      minSdkVersion: "minSdk",
      compileSdkVersion: "compileSdk",
      targetSdkVersion: "targetSdk",
      ndkVersion: "ndkVersion",
      kotlinVersion: "kotlin",
    },
    overrides: {
      buildTools: "android.buildToolsVersion",
      minSdk: "android.minSdkVersion",
      compileSdk: "android.compileSdkVersion",
      targetSdk: "android.targetSdkVersion",
      kotlin: "android.kotlinVersion",
    },
    source: "expo-modules-autolinking, ExpoRootProjectPlugin.kt and ExpoAutolinkingSettingsExtension.kt",
  },
];
