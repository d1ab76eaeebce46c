/**
 * Members of `ProjectCapabilityManager` and what each writes: an entitlement, with the values where the call gives them, or a framework that
 * is linked. Only those of which the documentation tells the entitlement. Sources: docs.unity3d.com, "ProjectCapabilityManager"; Apple,
 * "Entitlements".
 */
export const CAPABILITIES: Readonly<
  Record<string, { entitlement?: string; values?: "argument" | "development" | readonly string[]; framework?: string }>
> = {
  AddPushNotifications: { entitlement: "aps-environment", values: "development" },
  AddAssociatedDomains: { entitlement: "com.apple.developer.associated-domains", values: "argument" },
  AddSignInWithApple: { entitlement: "com.apple.developer.applesignin", values: ["Default"] },
  AddAppGroups: { entitlement: "com.apple.security.application-groups", values: "argument" },
  AddKeychainSharing: { entitlement: "keychain-access-groups", values: "argument" },
  AddHealthKit: { entitlement: "com.apple.developer.healthkit" },
  AddHomeKit: { entitlement: "com.apple.developer.homekit" },
  AddSiri: { entitlement: "com.apple.developer.siri" },
  AddAccessWiFiInformation: { entitlement: "com.apple.developer.networking.wifi-info" },
  AddApplePay: { entitlement: "com.apple.developer.in-app-payments", values: "argument" },
  AddInAppPurchase: { framework: "StoreKit.framework" },
  AddGameCenter: { framework: "GameKit.framework" },
};

/** Members of `PBXCapabilityType` and the entitlement of each. Sources: as above. */
export const CAPABILITY_TYPES: Readonly<Record<string, string | undefined>> = {
  PushNotifications: "aps-environment",
  AssociatedDomains: "com.apple.developer.associated-domains",
  SignInWithApple: "com.apple.developer.applesignin",
  AppGroups: "com.apple.security.application-groups",
  KeychainSharing: "keychain-access-groups",
  HealthKit: "com.apple.developer.healthkit",
  HomeKit: "com.apple.developer.homekit",
  Siri: "com.apple.developer.siri",
  AccessWiFiInformation: "com.apple.developer.networking.wifi-info",
  ApplePay: "com.apple.developer.in-app-payments",
};

/** Members of `BackgroundModesOptions`. Sources: docs.unity3d.com, "BackgroundModesOptions"; Apple, "UIBackgroundModes". */
export const BACKGROUND_OPTIONS: Readonly<Record<string, string>> = {
  AudioAirplayPiP: "audio",
  LocationUpdates: "location",
  VoiceOverIP: "voip",
  NewsstandDownloads: "newsstand-content",
  ExternalAccessoryCommunication: "external-accessory",
  UsesBluetoothLEAccessory: "bluetooth-central",
  ActsAsABluetoothLEAccessory: "bluetooth-peripheral",
  BackgroundFetch: "fetch",
  RemoteNotifications: "remote-notification",
  Processing: "processing",
};

/** Bits of `iOSBackgroundModes` in the player settings, from the lowest. Source: docs.unity3d.com, "iOSBackgroundMode". */
export const BACKGROUND_BITS: readonly string[] = [
  "audio",
  "location",
  "voip",
  "newsstand-content",
  "external-accessory",
  "bluetooth-central",
  "bluetooth-peripheral",
  "fetch",
  "remote-notification",
];

/** What `iosAppInBackgroundBehavior` holds where the background modes count. Source: docs.unity3d.com, "iOSAppInBackgroundBehavior" (Custom). */
export const CUSTOM_BACKGROUND = "-1";

/** Entries of the property list that player settings write. Source: docs.unity3d.com, "iOS Player settings", "Other Settings". */
export const USAGE_TEXTS: readonly (readonly [setting: string, key: string])[] = [
  ["cameraUsageDescription", "NSCameraUsageDescription"],
  ["locationUsageDescription", "NSLocationWhenInUseUsageDescription"],
  ["microphoneUsageDescription", "NSMicrophoneUsageDescription"],
];

/**
 * Permissions that the editor adds to the manifest when scripts use these interfaces. Source: docs.unity3d.com, "Declare permissions for an
 * application" and "Android manifest" (permissions that Unity adds by itself).
 */
export const PERMISSIONS_BY_USE: readonly { uses: RegExp; permissions: readonly string[] }[] = [
  { uses: /\bWebCamTexture\b/, permissions: ["android.permission.CAMERA"] },
  { uses: /\bMicrophone\s*\./, permissions: ["android.permission.RECORD_AUDIO"] },
  { uses: /\bHandheld\s*\.\s*Vibrate\b/, permissions: ["android.permission.VIBRATE"] },
  { uses: /\bInput\s*\.\s*location\b|\bLocationService\b/, permissions: ["android.permission.ACCESS_FINE_LOCATION"] },
];

/** What the editor adds by itself as soon as anything uses the network, unless the settings ask for it anyway. Source: as above. */
export const NETWORK_PERMISSIONS: readonly string[] = ["android.permission.INTERNET", "android.permission.ACCESS_NETWORK_STATE"];

/**
 * Packages of the engine's maker whose documentation names nothing that they write into a finished Xcode or Gradle project.
 * Source: docs.unity3d.com, the manuals of the packages.
 */
export const WRITES_NOTHING =
  /^com\.unity\.(modules\..*|ugui|textmeshpro|inputsystem|cinemachine|timeline|test-framework(\..*)?|ide\..*|collab-proxy|visualscripting|2d\..*|burst|mathematics|collections|render-pipelines\..*|shadergraph|probuilder|postprocessing|recorder|feature\..*|nuget\..*|splines|ai\.navigation|formats\..*)$/;

/** Numbers of the groups of build targets, as older editors write them. Source: docs.unity3d.com, "BuildTargetGroup". */
export const TARGET_GROUPS: Readonly<Record<string, "android" | "ios" | undefined>> = {
  Android: "android",
  "7": "android",
  iPhone: "ios",
  iOS: "ios",
  "4": "ios",
};

/** Symbols that the editor defines by itself. Source: docs.unity3d.com, "Conditional compilation". */
export const OWN_SYMBOLS =
  /^(UNITY_\w+|ENABLE_\w+|DEVELOPMENT_BUILD|DEBUG|TRACE|RELEASE|NET_\w+|NETSTANDARD\w*|NETFX\w*|CSHARP_\w+|PLATFORM_\w+|INCLUDE_\w+|USE_SEARCH_\w+|RENDER_\w+|TEXTCORE_\w+)$/;

/** The option under which the player settings' processors stand. */
export const ARCHITECTURES = "architectures";

/** Bits of `AndroidTargetArchitectures` in the player settings. Source: docs.unity3d.com, "AndroidArchitecture" (ARMv7 is 1, ARM64 is 2). */
export const ARCHITECTURE_BITS: readonly (readonly [bit: number, processor: string])[] = [
  [1, "armeabi-v7a"],
  [2, "arm64-v8a"],
];

/** Tags that each project has. Source: docs.unity3d.com, "Tags". */
export const ENGINE_TAGS: readonly string[] = ["Untagged", "Respawn", "Finish", "EditorOnly", "MainCamera", "Player", "GameController"];

/** Assemblies of the engine, of its packages and of the runtime. Source: docs.unity3d.com, "Managed code stripping" (link.xml). */
export const ENGINE_ASSEMBLIES =
  /^(Unity(Engine|Editor)?\b.*|System\b.*|mscorlib|netstandard|Mono\..*|Microsoft\..*|Newtonsoft\..*|Assembly-CSharp-firstpass)$/;

/**
 * Marks of the Gradle templates, which the editor replaces. Only held against those that are near: the list does not have to be whole.
 * Source: docs.unity3d.com, "Gradle template files variables" and the templates of the editor.
 */
export const TEMPLATE_MARKS: readonly string[] = `
DEPS APIVERSION MINSDK MINSDKVERSION TARGETSDK TARGETSDKVERSION BUILDTOOLS NDKPATH NDKVERSION ABIFILTERS APPLICATIONID VERSIONCODE VERSIONNAME
STREAMING_ASSETS BUILTIN_NOCOMPRESS PACKAGING PACKAGING_OPTIONS USER_PROGUARD MINIFY_DEBUG MINIFY_RELEASE SIGN SIGNCONFIG SPLITS SPLITS_VERSION_CODE
BUILT_APK_LOCATION SOURCE_BUILD_SETUP IL_CPP_BUILD_SETUP EXTERNAL_SOURCES LAUNCHER_SOURCE_BUILD_SETUP DEFAULT_CONFIG_SETUP JVM_HEAP_SIZE
ADDITIONAL_PROPERTIES INCLUDES ARTIFACTORYREPOSITORY BUILD_SCRIPT_DEPS APPLY_PLUGINS PLAY_ASSET_PACKS DIR_GRADLEPROJECT DIR_UNITYPROJECT
`
  .trim()
  .split(/\s+/);
