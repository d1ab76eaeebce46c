/** Packages that are parts of a platform or framework and no third party, and versions that a framework fixes by itself. */
interface PlatformPackages {
  maven: RegExp;
  npm: RegExp;
  cocoapods: RegExp;
  swiftpm: RegExp;
}

/**
 * Group and package names of the platforms.
 * Source: Google's Maven repository index (androidx, com.android), kotlinlang.org ("Maven coordinates"), reactnative.dev ("Architecture, packages").
 */
export const PLATFORM_PACKAGES: PlatformPackages = {
  maven:
    /^(androidx\.|com\.android\.|com\.google\.android\.material:|com\.google\.android:|android\.arch\.|org\.jetbrains\.(?:kotlinx?|compose|androidx)[.:]|com\.facebook\.react:|com\.facebook\.hermes:|org\.apache\.cordova:|org\.webkit:android-jsc|io\.github\.react-native-community:jsc-android)/,
  npm: /^(react|react-dom|react-native|expo|jsc-android|hermes-engine|typescript|metro|jest|eslint|prettier)$|^(@react-native|@types|@babel)\/|^@react-native-community\/cli|^(metro|babel|eslint|jest)-/,
  cocoapods:
    /^(React|React-.*|RCT.*|Yoga|hermes-engine|ReactCommon|ReactCodegen|ReactAppDependencyProvider|FBLazyVector|FBReactNativeSpec|Flutter|FlutterMacOS|Capacitor|CapacitorCordova|Cordova|ExpoModulesCore|EXConstants|Expo)$/,
  swiftpm: /apple\/swift-/,
};

/** Whether a package is a part of a platform or framework and no third party, by its name. */
export function isPlatformPackage(ecosystem: string, name: string): boolean {
  switch (ecosystem) {
    case "maven":
    case "npm":
    case "swiftpm":
      return PLATFORM_PACKAGES[ecosystem].test(name);
    case "cocoapods":
      return PLATFORM_PACKAGES.cocoapods.test(name.split("/")[0] as string);
    default:
      return false;
  }
}

/**
 * What Compose Multiplatform gives its packages for short in Gradle scripts: `compose.foundation`. Their version is that of its plugin. Source:
 * the Compose Multiplatform Gradle plugin, `ComposePlugin.Dependencies` (1.5 to 1.8), read 2026-11.
 */
export const COMPOSE_ACCESSORS: Readonly<Record<string, string>> = {
  runtime: "runtime:runtime",
  runtimeSaveable: "runtime:runtime-saveable",
  ui: "ui:ui",
  uiTest: "ui:ui-test",
  uiTooling: "ui:ui-tooling",
  uiUtil: "ui:ui-util",
  preview: "ui:ui-tooling-preview",
  foundation: "foundation:foundation",
  animation: "animation:animation",
  animationGraphics: "animation:animation-graphics",
  material: "material:material",
  material3: "material3:material3",
  materialIconsExtended: "material:material-icons-extended",
  "components.resources": "components:components-resources",
  "components.uiToolingPreview": "components:components-ui-tooling-preview",
};

/**
 * Maven packages whose version the framework sets although the build file leaves it open.
 * Source: the React Native Gradle plugin (DependencyUtils: versions of its own packages); before 0.71 the packages came from the
 * local repository inside `node_modules`, so `+` meant the installed version.
 */
export const FIXED_BY_FRAMEWORK =
  /^(com\.facebook\.react:|com\.facebook\.hermes:|org\.webkit:android-jsc|io\.github\.react-native-community:jsc-android)/;

/** Maven groups that only Google's repository has. Source: the group index of Google's Maven repository. */
export const GOOGLE_ONLY_GROUPS =
  /^(androidx\.|com\.android\.(tools|support|billingclient|volley)|android\.arch\.|com\.google\.android\.material)/;

/**
 * Names of npm packages that bring native code for mobile platforms, by the habits of the field; those for other platforms are left out.
 * Source: reactnative.dev, "Native modules as npm packages" (react-native-*); docs.expo.dev, "Expo modules" (expo-*).
 */
export const NATIVE_NAME = /(^|[/-])react-native-(?!(web|windows|macos)$)|^expo-/;

/**
 * Build plugins of the platform, which add no names of their own to what a build generates.
 * Source: developer.android.com, "Android Gradle plugin"; kotlinlang.org, "Configure a Gradle project".
 */
export const PLATFORM_BUILD_PLUGIN =
  /^(com\.android\.(application|library)$|org\.jetbrains\.kotlin\.|kotlin-|kotlin$|dev\.flutter\.|androidx\.)/;

/**
 * Plugins of the platforms and of Gradle itself: they come with others, or without a class path. Source: docs.gradle.org, "Gradle Plugin Reference".
 */
export const PLATFORM_PLUGIN =
  /^(com\.android\.|org\.jetbrains\.|org\.gradle\.|com\.facebook\.react|dev\.flutter\.|androidx\.|kotlin|java|groovy|maven|ivy|idea|eclipse|application|base|distribution|jacoco|checkstyle|signing|wrapper|lint)/;

/**
 * Roots of what Android, its libraries and the frameworks of shared code bring to each module. Source: developer.android.com, "Android
 * API reference" and "AndroidX releases" (packages); the names of the frameworks' own packages of Java.
 */
export const BROUGHT_ALONG =
  /^(?:android|androidx|com\.android|com\.google\.(?:android|common|errorprone)|dalvik|java|javax|jdk|kotlin|kotlinx|org\.(?:json|xmlpull|xml|w3c|jetbrains|intellij|jspecify|apache\.(?:http|cordova))|io\.flutter|com\.facebook|expo|com\.getcapacitor|libcore|sun)(?:\.|$)/;
