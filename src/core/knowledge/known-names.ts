/**
 * The names that kinds of files know. None of the lists has to be whole: names are only held against those that are near, and what is near none is
 * left alone. What a vendor adds to a format is in none of them.
 */

/** The keys of a document by the path to them: `*` stands for any key, `[]` for the items of a list. */
export type KeyNames = ReadonlyMap<string, readonly string[]>;

/** The elements of a document, and for each its attributes. */
export type ElementNames = ReadonlyMap<string, readonly string[]>;

/** A line for each path or element: its name, a colon, and what it knows. */
function table(lines: string): ReadonlyMap<string, readonly string[]> {
  return new Map(
    lines
      .trim()
      .split("\n")
      .map((line) => {
        const end = line.indexOf(":");
        return [
          line.slice(0, end).trim(),
          line
            .slice(end + 1)
            .split(/\s+/)
            .filter(Boolean),
        ] as const;
      }),
  );
}

/** Source: ExpoConfig.d.ts of @expo/config-types 58.0.3, read 2026-12-01, and keys that earlier editions had besides. */
export const EXPO_KEYS: KeyNames = table(`
: name description slug owner currentFullName originalFullName sdkVersion runtimeVersion version platforms orientation userInterfaceStyle backgroundColor primaryColor icon notification androidStatusBar androidNavigationBar developmentClient scheme extra updates locales assetBundlePatterns plugins buildCacheProvider splash jsEngine newArchEnabled privacy hooks isDetached detach ios android web experiments packagerOpts entryPoint
android: publishManifestPath publishBundlePath package versionCode backgroundColor userInterfaceStyle scheme icon adaptiveIcon playStoreUrl permissions blockedPermissions config splash intentFilters allowBackup softwareKeyboardLayoutMode jsEngine runtimeVersion version predictiveBackGestureEnabled edgeToEdgeEnabled enableDangerousExperimentalLeanBuilds
android.intentFilters.[]: autoVerify action data category
android.intentFilters.[].data.[]: scheme host port path pathPattern pathAdvancedPattern pathPrefix pathSuffix mimeType
android.adaptiveIcon: foregroundImage monochromeImage backgroundImage backgroundColor
ios: appleTeamId publishManifestPath publishBundlePath bundleIdentifier buildNumber deploymentTarget backgroundColor scheme icon appStoreUrl bitcode config splash supportsTablet isTabletOnly requireFullScreen userInterfaceStyle infoPlist entitlements privacyManifests associatedDomains usesIcloudStorage usesAppleSignIn usesBroadcastPushNotifications accessesContactNotes jsEngine runtimeVersion version
ios.privacyManifests: NSPrivacyAccessedAPITypes NSPrivacyTrackingDomains NSPrivacyTracking NSPrivacyCollectedDataTypes
ios.privacyManifests.NSPrivacyAccessedAPITypes.[]: NSPrivacyAccessedAPIType NSPrivacyAccessedAPITypeReasons
ios.icon: light dark tinted
updates: enabled checkAutomatically useEmbeddedUpdate fallbackToCacheTimeout url codeSigningCertificate codeSigningMetadata requestHeaders assetPatternsToBeBundled disableAntiBrickingMeasures useNativeDebug enableBsdiffPatchSupport
`);

/**
 * Sources: declarations.d.ts of @capacitor/cli 7.6.9, definitions.d.ts of @capacitor/splash-screen 8.0.2, push-notifications 8.1.2, local-notifications
 * 8.3.1, keyboard 8.0.5 and status-bar 8.0.3, read 2026-12-01, and keys that earlier editions had besides.
 */
export const CAPACITOR_KEYS: KeyNames = table(`
: appId appName webDir bundledWebRuntime loggingBehavior hideLogs overrideUserAgent appendUserAgent backgroundColor zoomEnabled initialFocus android ios server cordova plugins includePlugins npmClient linuxAndroidStudioPath
plugins: CapacitorCookies CapacitorHttp SplashScreen PushNotifications LocalNotifications Keyboard StatusBar
plugins.CapacitorHttp: enabled
plugins.CapacitorCookies: enabled
plugins.SplashScreen: launchShowDuration launchAutoHide launchFadeOutDuration backgroundColor androidSplashResourceName androidScaleType showSpinner androidSpinnerStyle iosSpinnerStyle spinnerColor splashFullScreen splashImmersive layoutName useDialog
plugins.PushNotifications: presentationOptions
plugins.LocalNotifications: smallIcon iconColor sound presentationOptions
plugins.Keyboard: resize style resizeOnFullScreen autoBackdropColor
plugins.StatusBar: overlaysWebView style backgroundColor
cordova: accessOrigins preferences failOnUninstalledPlugins staticPlugins
server: hostname iosScheme androidScheme url cleartext allowNavigation errorPath appStartPath
ios: path scheme overrideUserAgent appendUserAgent backgroundColor zoomEnabled contentInset scrollEnabled minVersion cordovaLinkerFlags allowsLinkPreview loggingBehavior hideLogs includePlugins limitsNavigationsToAppBoundDomains preferredContentMode handleApplicationNotifications webContentsDebuggingEnabled initialFocus buildOptions
android: path overrideUserAgent appendUserAgent backgroundColor zoomEnabled allowMixedContent captureInput webContentsDebuggingEnabled loggingBehavior hideLogs includePlugins flavor initialFocus minWebViewVersion buildOptions useLegacyBridge resolveServiceWorkerRequests adjustMarginsForEdgeToEdge
`);

/** Sources: dart.dev, "The pubspec file"; docs.flutter.dev, "Flutter pubspec options", "Developing packages & plugins" (plugin). */
export const PUBSPEC_KEYS: KeyNames = table(`
: name description version homepage repository issue_tracker documentation environment dependencies dev_dependencies dependency_overrides executables platforms publish_to funding false_secrets screenshots topics ignored_advisories workspace resolution flutter hooks
environment: sdk flutter
flutter: uses-material-design assets fonts generate plugin module shaders licenses deferred-components default-flavor config
flutter.fonts.[]: family fonts
flutter.fonts.[].fonts.[]: asset weight style
flutter.module: androidX androidPackage iosBundleIdentifier
flutter.plugin: platforms implements androidPackage pluginClass iosPrefix
flutter.plugin.platforms: android ios linux macos windows web
flutter.plugin.platforms.*: package pluginClass dartPluginClass dartFileName ffiPlugin default_package sharedDarwinSource fileName supportedVariants
`);

/** Source: docs.npmjs.com, "package.json"; yarnpkg.com, "Manifest" (resolutions). */
export const PACKAGE_KEYS: KeyNames = table(`
: dependencies devDependencies peerDependencies peerDependenciesMeta optionalDependencies bundleDependencies bundledDependencies dependenciesMeta workspaces overrides resolutions packageManager scripts cordova capacitor codegenConfig
cordova: platforms plugins id
capacitor: android ios
capacitor.android: src
capacitor.ios: src
codegenConfig: name type jsSrcsDir android ios outputDir includesGeneratedCode
codegenConfig.android: javaPackageName
codegenConfig.ios: componentProvider modules modulesProvider modulesConformingToProtocol
`);

/**
 * What stands below keys of a property list; those on top have a list of their own. Source: developer.apple.com, "Information Property List" (the page of
 * each key), "NSExtension".
 */
export const PROPERTY_LIST_KEYS: KeyNames = table(`
CFBundleURLTypes.[]: CFBundleTypeRole CFBundleURLName CFBundleURLSchemes CFBundleURLIconFile
CFBundleDocumentTypes.[]: CFBundleTypeName CFBundleTypeRole CFBundleTypeExtensions CFBundleTypeIconFiles CFBundleTypeIconFile CFBundleTypeMIMETypes CFBundleTypeOSTypes LSItemContentTypes LSHandlerRank LSTypeIsPackage NSDocumentClass
UIApplicationSceneManifest: UIApplicationSupportsMultipleScenes UISceneConfigurations UIApplicationSupportsTabbedSceneCollection
UIApplicationSceneManifest.UISceneConfigurations: UIWindowSceneSessionRoleApplication UIWindowSceneSessionRoleExternalDisplay UIWindowSceneSessionRoleExternalDisplayNonInteractive CPTemplateApplicationSceneSessionRoleApplication
UIApplicationSceneManifest.UISceneConfigurations.*.[]: UISceneConfigurationName UISceneDelegateClassName UISceneStoryboardFile UISceneClassName
UIApplicationShortcutItems.[]: UIApplicationShortcutItemType UIApplicationShortcutItemTitle UIApplicationShortcutItemSubtitle UIApplicationShortcutItemIconType UIApplicationShortcutItemIconFile UIApplicationShortcutItemIconSymbolName UIApplicationShortcutItemUserInfo
UILaunchScreen: UIColorName UIImageName UIImageRespectsSafeAreaInsets UINavigationBar UITabBar UIToolbar
NSExtension: NSExtensionPointIdentifier NSExtensionPrincipalClass NSExtensionMainStoryboard NSExtensionAttributes NSExtensionActionWantsFullScreenPresentation
NSExtension.NSExtensionAttributes: NSExtensionActivationRule NSExtensionJavaScriptPreprocessingFile UNNotificationExtensionCategory UNNotificationExtensionDefaultContentHidden UNNotificationExtensionInitialContentSizeRatio UNNotificationExtensionUserInteractionEnabled IntentsSupported IntentsRestrictedWhileLocked WKAppBundleIdentifier PHSupportedMediaTypes RequestsOpenAccess PrimaryLanguage IsASCIICapable PrefersRightToLeft
NSPrivacyAccessedAPITypes.[]: NSPrivacyAccessedAPIType NSPrivacyAccessedAPITypeReasons
NSPrivacyCollectedDataTypes.[]: NSPrivacyCollectedDataType NSPrivacyCollectedDataTypeLinked NSPrivacyCollectedDataTypeTracking NSPrivacyCollectedDataTypePurposes
`);

/** Source: docs.expo.dev, "Configure EAS Build with eas.json", the schema of the file. */
export const BUILD_PROFILE_KEYS: KeyNames = table(`
: $schema cli build submit
cli: version requireCommit appVersionSource promptToConfigurePushNotifications updateAssetHostOverride
build.*: extends credentialsSource channel distribution developmentClient withoutCredentials env environment node npm pnpm bun yarn corepack autoIncrement cache config resourceClass prebuildCommand buildArtifactPaths android ios releaseChannel
build.*.android: withoutCredentials image resourceClass ndk autoIncrement buildType gradleCommand applicationArchivePath env node credentialsSource distribution channel config prebuildCommand cache environment
build.*.ios: withoutCredentials simulator enterpriseProvisioning autoIncrement image resourceClass bundler cocoapods scheme buildConfiguration applicationArchivePath env node credentialsSource distribution channel config prebuildCommand cache environment
`);

/** Keys of the file that names the edition of Gradle. Source: docs.gradle.org, "Gradle Wrapper". */
export const WRAPPER_KEYS: KeyNames = table(`
: distributionBase distributionPath distributionUrl distributionSha256Sum networkTimeout retries validateDistributionUrl zipStoreBase zipStorePath
`);

/** Folders that a provider of files can name. Source: developer.android.com, "FileProvider" (Specifying available files). */
export const FILE_PATH_ELEMENTS: ElementNames = table(`
paths:
root-path: name path
files-path: name path
cache-path: name path
external-path: name path
external-files-path: name path
external-cache-path: name path
external-media-path: name path
`);

/** Source: developer.android.com, "Back up user data with Auto Backup" (fullBackupContent, dataExtractionRules). */
export const BACKUP_ELEMENTS: ElementNames = table(`
full-backup-content:
data-extraction-rules:
cloud-backup: disableIfNoEncryptionCapabilities
device-transfer:
cross-platform-transfer: platform
include: domain path requireFlags
exclude: domain path
`);

/** What a rule of the backup is about. Source: the same (syntax of the elements). */
export const BACKUP_DOMAINS: readonly string[] =
  "root file database sharedpref external device_root device_file device_database device_sharedpref".split(" ");

/** Source: developer.android.com, "Per-app language preferences" (localeConfig). */
export const LOCALE_ELEMENTS: ElementNames = table(`
locale-config:
locale:
`);

/** Source: docs.expo.dev, "expo-module.config.json" (module config). */
export const EXPO_MODULE_KEYS: KeyNames = table(`
: platforms apple ios android tvos web devtools coreFeatures name
android: name modules services modulesClassNames gradlePath path projects gradlePlugins publication packages
apple: modules modulesClassNames swiftModuleName swiftModuleNames appDelegateSubscribers reactDelegateHandlers podspecPath debugOnly
ios: modules modulesClassNames swiftModuleName swiftModuleNames appDelegateSubscribers reactDelegateHandlers podspecPath debugOnly
`);

/** Source: docs.gradle.org, "Version catalogs" (the TOML file format). */
export const CATALOG_KEYS: KeyNames = table(`
: metadata versions libraries bundles plugins
libraries.*: module group name version
libraries.*.version: ref strictly require prefer reject rejectAll
plugins.*: id version
plugins.*.version: ref strictly require prefer reject rejectAll
`);

/** Attributes of a specification. Source: CocoaPods, "Podspec Syntax Reference". */
export const PODSPEC_ATTRIBUTES: readonly string[] = `
name version cocoapods_version authors author social_media_url license homepage source summary description screenshots documentation_url readme changelog
prepare_command static_framework deprecated deprecated_in_favor_of platform platforms deployment_target dependency info_plist requires_arc frameworks framework
weak_frameworks weak_framework libraries library compiler_flags pod_target_xcconfig user_target_xcconfig xcconfig prefix_header_contents
prefix_header_file module_name header_dir header_mappings_dir script_phases script_phase source_files public_header_files project_header_files
private_header_files vendored_frameworks vendored_framework vendored_libraries vendored_library resource_bundles resource_bundle resources resource
exclude_files preserve_paths preserve_path module_map swift_version swift_versions default_subspecs default_subspec requires_app_host app_host_name
test_type scheme on_demand_resources weak_library weak_libraries
`
  .trim()
  .split(/\s+/);

/** Source: developer.apple.com, "Entitlements". */
export const ENTITLEMENT_KEYS: KeyNames = table(`
: aps-environment keychain-access-groups get-task-allow com.apple.developer.associated-domains com.apple.developer.applesignin com.apple.developer.in-app-payments com.apple.developer.pass-type-identifiers com.apple.developer.icloud-container-identifiers com.apple.developer.icloud-services com.apple.developer.ubiquity-container-identifiers com.apple.developer.ubiquity-kvstore-identifier com.apple.security.application-groups com.apple.developer.healthkit com.apple.developer.healthkit.access com.apple.developer.healthkit.background-delivery com.apple.developer.homekit com.apple.developer.nfc.readersession.formats com.apple.developer.networking.wifi-info com.apple.developer.networking.multicast com.apple.developer.networking.networkextension com.apple.developer.networking.vpn.api com.apple.developer.networking.HotspotConfiguration com.apple.developer.siri com.apple.developer.usernotifications.communication com.apple.developer.usernotifications.time-sensitive com.apple.developer.usernotifications.critical-alerts com.apple.developer.usernotifications.filtering com.apple.developer.default-data-protection com.apple.developer.devicecheck.appattest-environment com.apple.developer.game-center com.apple.developer.kernel.increased-memory-limit com.apple.developer.kernel.extended-virtual-addressing com.apple.developer.push-to-talk com.apple.developer.carplay-audio com.apple.developer.weatherkit com.apple.developer.family-controls com.apple.external-accessory.wireless-configuration com.apple.developer.ClassKit-environment com.apple.developer.location.push com.apple.developer.group-session
`);

/** Build settings of Xcode. Source: developer.apple.com, "Build settings reference". */
export const BUILD_SETTINGS: readonly string[] = `
PRODUCT_BUNDLE_IDENTIFIER PRODUCT_NAME PRODUCT_MODULE_NAME INFOPLIST_FILE GENERATE_INFOPLIST_FILE CODE_SIGN_ENTITLEMENTS CODE_SIGN_IDENTITY CODE_SIGN_STYLE
CODE_SIGNING_ALLOWED CODE_SIGNING_REQUIRED DEVELOPMENT_TEAM PROVISIONING_PROFILE PROVISIONING_PROFILE_SPECIFIER IPHONEOS_DEPLOYMENT_TARGET
MARKETING_VERSION CURRENT_PROJECT_VERSION SWIFT_VERSION SWIFT_OBJC_BRIDGING_HEADER SWIFT_OBJC_INTERFACE_HEADER_NAME
SWIFT_ACTIVE_COMPILATION_CONDITIONS SWIFT_OPTIMIZATION_LEVEL SWIFT_COMPILATION_MODE TARGETED_DEVICE_FAMILY ASSETCATALOG_COMPILER_APPICON_NAME
ASSETCATALOG_COMPILER_LAUNCHIMAGE_NAME ASSETCATALOG_COMPILER_GLOBAL_ACCENT_COLOR_NAME OTHER_LDFLAGS OTHER_CFLAGS OTHER_SWIFT_FLAGS OTHER_CPLUSPLUSFLAGS
FRAMEWORK_SEARCH_PATHS LIBRARY_SEARCH_PATHS HEADER_SEARCH_PATHS LD_RUNPATH_SEARCH_PATHS ENABLE_BITCODE ENABLE_USER_SCRIPT_SANDBOXING
ENABLE_TESTABILITY GCC_PREPROCESSOR_DEFINITIONS GCC_OPTIMIZATION_LEVEL CLANG_ENABLE_MODULES CLANG_ENABLE_OBJC_ARC ONLY_ACTIVE_ARCH EXCLUDED_ARCHS
SUPPORTED_PLATFORMS SDKROOT VERSIONING_SYSTEM VALIDATE_PRODUCT BUNDLE_LOADER TEST_HOST WRAPPER_EXTENSION SKIP_INSTALL DEFINES_MODULE
BUILD_LIBRARY_FOR_DISTRIBUTION ALWAYS_EMBED_SWIFT_STANDARD_LIBRARIES STRIP_INSTALLED_PRODUCT DEBUG_INFORMATION_FORMAT DEAD_CODE_STRIPPING
`
  .trim()
  .split(/\s+/);

/** Properties of a Gradle build. Sources: developer.android.com, "gradle.properties"; docs.gradle.org, "Build environment"; reactnative.dev, the template. */
export const GRADLE_PROPERTIES: readonly string[] = `
android.useAndroidX android.enableJetifier android.nonTransitiveRClass android.nonFinalResIds android.enableR8.fullMode android.suppressUnsupportedCompileSdk
android.defaults.buildfeatures.buildconfig org.gradle.jvmargs org.gradle.parallel org.gradle.daemon org.gradle.caching org.gradle.configureondemand
org.gradle.configuration-cache org.gradle.java.home newArchEnabled hermesEnabled reactNativeArchitectures edgeToEdgeEnabled kotlin.code.style
`
  .trim()
  .split(/\s+/);

/** Source: docs.unity3d.com, "Project manifest", "Scoped registries". */
export const UNITY_MANIFEST_KEYS: KeyNames = table(`
: dependencies scopedRegistries testables enableLockFile resolutionStrategy registry useSatSolver
scopedRegistries.[]: name url scopes overrideBuiltIns
`);

/** Source: docs.unity3d.com, "Assembly Definition file format". */
export const ASSEMBLY_KEYS: KeyNames = table(`
: name rootNamespace references includePlatforms excludePlatforms allowUnsafeCode overrideReferences precompiledReferences autoReferenced defineConstraints versionDefines noEngineReferences optionalUnityReferences
versionDefines.[]: name expression define
`);

/** Lists of native packages that plug-ins for the Unity editor bring (`*Dependencies.xml`), as their authors write them. */
export const DEPENDENCY_LIST_ELEMENTS: ElementNames = table(`
dependencies:
androidPackages:
androidPackage: spec
androidSdkPackageIds:
androidSdkPackageId:
repositories:
repository:
iosPods:
iosPod: name version path minTargetSdk bitcodeEnabled addToAllTargets configurations subspecs modular_headers git branch tag commit
sources:
source:
`);

/** Source: learn.microsoft.com, "Trimming options" (descriptor format); docs.unity3d.com, "Preserving code using annotations" (link.xml). */
export const TRIMMER_ELEMENTS: ElementNames = table(`
linker:
assembly: fullname preserve ignoreIfMissing ignoreIfUnreferenced windowsruntime feature featurevalue
namespace: fullname preserve
type: fullname preserve serialized required feature featurevalue
method: name signature preserve
field: name signature preserve
property: name signature preserve accessors
event: name signature preserve
`);

/** Source: cordova.apache.org, "Config.xml". */
export const CORDOVA_CONFIG_ELEMENTS: ElementNames = table(`
widget: id version android-versionCode ios-CFBundleVersion android-packageName ios-CFBundleIdentifier android-activityName packageName defaultlocale
name: short xml:lang
description: xml:lang
author: email href
content: src type encoding
access: origin subdomains launch-external minimum-tls-version requires-forward-secrecy requires-certificate-transparency allows-arbitrary-loads-in-web-content allows-arbitrary-loads-in-media allows-local-networking
allow-navigation: href minimum-tls-version requires-forward-secrecy requires-certificate-transparency allows-arbitrary-loads-in-web-content allows-arbitrary-loads-in-media allows-local-networking
allow-intent: href
engine: name spec
plugin: name spec src version
variable: name value
preference: name value
feature: name
param: name value onload
platform: name
hook: type src
resource-file: src target
config-file: target parent after device-target platform
edit-config: file target mode platform
icon: src density width height foreground background monochrome qualifier target purpose
splash: src density width height qualifier
`);

/** Source: cordova.apache.org, "Plugin.xml". */
export const CORDOVA_PLUGIN_ELEMENTS: ElementNames = table(`
plugin: id version
engines:
engine: name version platform scriptSrc
name:
description:
author:
keywords:
license:
info:
repo:
issue:
asset: src target
js-module: src name
clobbers: target
merges: target
runs:
dependency: id version url subdir commit
platform: name
source-file: src target-dir framework compiler-flags target
header-file: src target-dir target type
lib-file: src arch device-target versions target
resource-file: src target target-dir versions arch device-target reference
framework: src custom weak type parent embed link spec arch device-target versions
podspec:
config:
source: url
pods: use-frameworks inhibit-all-warnings
pod: name spec type swift-version version git tag branch commit configurations http options subspecs podspec
config-file: target parent after versions device-target
edit-config: file target mode
hook: type src
uninstall:
preference: name default
variable: name value
feature: name
param: name value onload
`);

/** Source: developer.android.com, "Network security configuration". */
export const NETWORK_ELEMENTS: ElementNames = table(`
network-security-config:
base-config: cleartextTrafficPermitted hstsEnforced
domain-config: cleartextTrafficPermitted hstsEnforced
domain: includeSubdomains
trust-anchors:
certificates: src overridePins
pin-set: expiration
pin: digest
debug-overrides:
certificateTransparency: enabled
domainEncryption: mode
`);

/**
 * Attributes of a manifest, without their namespace. Source: developer.android.com, "App manifest overview" and the page of each element.
 */
export const MANIFEST_ATTRIBUTES: readonly string[] = `
allowAudioPlaybackCapture allowBackup allowClearUserData allowNativeHeapPointerTagging allowTaskReparenting alwaysRetainTaskState appCategory
appComponentFactory attributionTags authorities autoRemoveFromRecents autoVerify backupAgent backupInForeground banner clearTaskOnLaunch
colorMode configChanges dataExtractionRules debuggable defaultToDeviceProtectedStorage description directBootAware documentLaunchMode
enableOnBackInvokedCallback enabled excludeFromRecents exported extractNativeLibs finishOnTaskLaunch foregroundServiceType
fullBackupContent fullBackupOnly functionalTest glEsVersion grantUriPermissions gwpAsanMode handleProfiling hardwareAccelerated hasCode
hasFragileUserData host icon immersive initOrder installLocation isGame isolatedProcess isMonitoringTool killAfterRestore knownActivityEmbeddingCerts
label largeHeap largeScreens launchMode localeConfig lockTaskMode logo manageSpaceActivity maxAspectRatio maxRecents maxSdkVersion memtagMode
mimeType minAspectRatio minSdkVersion multiprocess name networkSecurityConfig noHistory normalScreens parentActivityName path pathAdvancedPattern
pathPattern pathPrefix pathSuffix permission permissionFlags permissionGroup permissionGroupFlags persistent persistableMode pointerIcon port
preserveLegacyExternalStorage priority process profileable protectionLevel readPermission recreateOnConfigChanges relinquishTaskIdentity required
requestLegacyExternalStorage requestRawExternalStorageAccess requiredAccountType requiredSplitTypes resizeable resizeableActivity resource
restoreAnyVersion restoreNeedsApplication restrictedAccountType roundIcon scheme screenOrientation sharedUserId sharedUserLabel shell
showForAllUsers showOnLockScreen showWhenLocked singleUser smallScreens splitName splitTypes ssp sspPattern sspPrefix stateNotNeeded stopWithTask
supportsPictureInPicture supportsRtl syncable targetActivity targetClass targetPackage targetSandboxVersion targetSdkVersion taskAffinity testOnly
theme turnScreenOn uiOptions usesCleartextTraffic usesNonSdkApi usesPermissionFlags value version versionCode versionCodeMajor versionName
visibleToInstantApps vmSafeMode windowSoftInputMode writePermission xlargeScreens zygotePreloadName canDisplayOnRemoteDevices allowEmbedded
allowSingleTap allowUndo anyDensity sessionService settingsActivity showMetadataInPreview supportsUploading turnScreenOn inheritShowWhenLocked
rotationAnimation preferMinimalPostProcessing playHomeTransitionSound requireDeviceUnlock requiresSmallestWidthDp
compatibleWidthLimitDp largestWidthLimitDp uiOptions useEmbeddedDex allowUpdateOwnership enableVrMode externalService
`
  .trim()
  .split(/\s+/);

/** Namespaces of a manifest by the prefix that everybody gives them. Source: developer.android.com, "App manifest overview", "Merge multiple manifest files". */
export const MANIFEST_NAMESPACES: Readonly<Record<string, string>> = {
  "xmlns:android": "http://schemas.android.com/apk/res/android",
  "xmlns:tools": "http://schemas.android.com/tools",
  "xmlns:app": "http://schemas.android.com/apk/res-auto",
};
