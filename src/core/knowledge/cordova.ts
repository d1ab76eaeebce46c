/**
 * Preferences of a configuration that the platforms and the common plugins know, in any case. Sources: cordova.apache.org, "Config.xml"; the files of
 * cordova-android 14.0.1 and cordova-ios 8.1.1 (what they ask for by name), read 2026-11-29.
 */
export const PREFERENCES: readonly string[] = `
Allow3DTouchLinkPreview AllowBackForwardNavigationGestures AllowInlineMediaPlayback AllowNewWindows AllowsAirPlayForMediaPlayback
android-buildToolsVersion android-compileSdkVersion android-maxSdkVersion android-minSdkVersion android-targetSdkVersion AndroidEdgeToEdge
AndroidInsecureFileModeEnabled AndroidLaunchMode AndroidPersistentFileLocation AndroidWindowSplashScreenAnimatedIcon
AndroidWindowSplashScreenAnimationDuration AndroidWindowSplashScreenBackground AndroidWindowSplashScreenBrandingImage
AndroidWindowSplashScreenIconBackgroundColor AppendUserAgent AutoHideSplashScreen BackgroundColor CordovaWebViewEngine CrashRecoveryBehavior
DefaultVolumeStream deployment-target DisallowOverscroll EnableViewportScale ErrorUrl FadeSplashScreen FadeSplashScreenDuration Fullscreen
FullscreenNotImmersive GapBetweenPages GradlePluginKotlinCodeStyle GradlePluginKotlinEnabled GradlePluginKotlinVersion GradleVersion hostname
InspectableWebview iosPersistentFileLocation JavaScriptCanOpenWindowsAutomatically JavaScriptEnabled KeepRunning
KeyboardDisplayRequiresUserAction LimitsNavigationsToAppBoundDomains LoadUrlTimeoutValue LogLevel MediaPermissionGrantType
MediaPlaybackAllowsAirPlay MediaTypesRequiringUserActionForPlayback MinimumFontSize Orientation OverrideUserAgent PageLength PaginationBreakingMode
PaginationMode PreferredContentMode ResolveServiceWorkerRequests Scheme SetFullscreen ShowTitle SplashScreen SplashScreenBackgroundColor
SplashScreenDelay StatusBarBackgroundColor StatusBarDefaultScrollToTop StatusBarOverlaysWebView StatusBarStyle Suppresses3DTouchGesture
SuppressesIncrementalRendering SuppressesLongPressGesture SwiftVersion target-device WKWebViewDecelerationSpeed
`
  .trim()
  .split(/\s+/);

/** Kinds of hooks. Source: cordova.apache.org, "Hooks Guide" (hook types), read 2026-11-30. */
export const HOOK_TYPES: readonly string[] = `
before_platform_add after_platform_add before_platform_rm after_platform_rm before_platform_ls after_platform_ls before_prepare after_prepare
before_compile after_compile before_deploy before_build after_build before_emulate after_emulate before_run after_run before_serve after_serve
before_clean after_clean before_plugin_add after_plugin_add before_plugin_rm after_plugin_rm before_plugin_ls after_plugin_ls
before_plugin_search after_plugin_search before_plugin_install after_plugin_install before_plugin_uninstall pre_package
`
  .trim()
  .split(/\s+/);

/** Preferences whose value is a file. Source: cordova.apache.org, "Icons" and "SplashScreen". */
export const FILE_PREFERENCES: readonly string[] = ["AndroidWindowSplashScreenAnimatedIcon", "AndroidWindowSplashScreenBrandingImage"];

/** Values of preferences of which only a few words are known. Source: cordova.apache.org, "Config.xml" (Orientation). */
export const PREFERENCE_VALUES: Readonly<Record<string, readonly string[]>> = {
  orientation: ["default", "landscape", "portrait", "all"],
};

/** Platforms that a configuration can have a part for. Source: cordova.apache.org, "Platform Support", and those that it had. */
export const PLATFORM_NAMES: readonly string[] = ["android", "ios", "browser", "electron", "osx", "windows"];

/**
 * What each edition of cordova-android sets where the configuration says nothing. Source: framework/cdv-gradle-config-defaults.json of 10.1.2,
 * 11.0.0, 12.0.1, 13.0.0, 14.0.1 and 15.1.0, read 2026-11-29.
 */
export const ANDROID_EDITIONS: Readonly<Record<string, Readonly<Record<"minSdk" | "targetSdk", string>>>> = {
  10: { minSdk: "22", targetSdk: "30" },
  11: { minSdk: "22", targetSdk: "32" },
  12: { minSdk: "24", targetSdk: "33" },
  13: { minSdk: "24", targetSdk: "34" },
  14: { minSdk: "24", targetSdk: "35" },
  15: { minSdk: "24", targetSdk: "36" },
};

/**
 * For which iOS each edition of cordova-ios is built, its own library too. Source: the project files of 6.3.0, 7.1.1 and 8.1.1
 * (IPHONEOS_DEPLOYMENT_TARGET), read 2026-11-29.
 */
export const IOS_EDITIONS: Readonly<Record<string, string>> = { 6: "11.0", 7: "11.0", 8: "13.0" };

/** Objects under `navigator` that the web view of each phone has by itself. Source: developer.mozilla.org, "Navigator" (browser compatibility). */
export const OF_THE_WEB_VIEW: ReadonlySet<string> = new Set([
  "navigator.geolocation",
  "navigator.mediaDevices",
  "navigator.language",
  "navigator.onLine",
  "window.open",
]);
