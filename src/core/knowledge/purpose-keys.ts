/** Purpose texts of the property list. Source: Apple, "Information Property List, Protected resources". */
export const PURPOSE_KEYS: readonly string[] = `
NSAppleEventsUsageDescription NSAppleMusicUsageDescription NSBluetoothAlwaysUsageDescription NSBluetoothPeripheralUsageDescription
NSCalendarsFullAccessUsageDescription NSCalendarsUsageDescription NSCalendarsWriteOnlyAccessUsageDescription NSCameraUsageDescription
NSContactsUsageDescription NSDesktopFolderUsageDescription NSDocumentsFolderUsageDescription NSDownloadsFolderUsageDescription NSFaceIDUsageDescription
NSFallDetectionUsageDescription NSFileProviderDomainUsageDescription NSFileProviderPresenceUsageDescription NSFinancialDataUsageDescription
NSFocusStatusUsageDescription NSGKFriendListUsageDescription NSHandsTrackingUsageDescription NSHealthClinicalHealthRecordsShareUsageDescription
NSHealthShareUsageDescription NSHealthUpdateUsageDescription NSHomeKitUsageDescription NSIdentityUsageDescription NSLocalNetworkUsageDescription
NSLocationAlwaysAndWhenInUseUsageDescription NSLocationAlwaysUsageDescription NSLocationTemporaryUsageDescriptionDictionary NSLocationUsageDescription
NSLocationWhenInUseUsageDescription NSMainCameraUsageDescription NSMicrophoneUsageDescription NSMotionUsageDescription NSNearbyInteractionAllowOnceUsageDescription
NSNearbyInteractionUsageDescription NSNetworkVolumesUsageDescription NSPhotoLibraryAddUsageDescription NSPhotoLibraryUsageDescription
NSRemindersFullAccessUsageDescription NSRemindersUsageDescription NSRemovableVolumesUsageDescription NSSensorKitUsageDescription NSSiriUsageDescription
NSSpeechRecognitionUsageDescription NSSystemAdministrationUsageDescription NSUserTrackingUsageDescription NSVideoSubscriberAccountUsageDescription
NSVoIPUsageDescription NSWorldSensingUsageDescription NSAudioCaptureUsageDescription NFCReaderUsageDescription OSBundleUsageDescription
`
  .trim()
  .split(/\s+/);

/** Further keys of the property list that SDKs ask for. Source: Apple, "Information Property List". */
export const PLIST_KEYS: readonly string[] = `
CFBundleURLTypes CFBundleURLSchemes LSApplicationQueriesSchemes UIBackgroundModes NSAppTransportSecurity UIFileSharingEnabled
LSSupportsOpeningDocumentsInPlace SKAdNetworkItems UIApplicationSceneManifest ITSAppUsesNonExemptEncryption NSUserActivityTypes
BGTaskSchedulerPermittedIdentifiers NSBonjourServices UIRequiredDeviceCapabilities
CFBundleIdentifier CFBundleExecutable CFBundleVersion CFBundleShortVersionString CFBundleDisplayName
UILaunchStoryboardName UIMainStoryboardFile UIAppFonts UISupportedInterfaceOrientations
`
  .trim()
  .split(/\s+/);

/** Keys whose values are lists. Source: Apple, "Information Property List" (Type: array of …), read 2026-11. */
export const LIST_KEYS: ReadonlySet<string> = new Set([
  "CFBundleURLTypes",
  "LSApplicationQueriesSchemes",
  "UIBackgroundModes",
  "SKAdNetworkItems",
  "NSUserActivityTypes",
  "BGTaskSchedulerPermittedIdentifiers",
  "NSBonjourServices",
  "WKAppBoundDomains",
]);

/** Source: Apple, "NSAppTransportSecurity", "NSExceptionDomains". */
export const TRANSPORT_KEYS: readonly string[] = [
  "NSAllowsArbitraryLoads",
  "NSAllowsArbitraryLoadsForMedia",
  "NSAllowsArbitraryLoadsInWebContent",
  "NSAllowsLocalNetworking",
  "NSExceptionDomains",
  "NSPinnedDomains",
  "NSIncludesSubdomains",
  "NSExceptionAllowsInsecureHTTPLoads",
  "NSExceptionMinimumTLSVersion",
  "NSExceptionRequiresForwardSecrecy",
  "NSRequiresCertificateTransparency",
  "NSTemporaryExceptionAllowsInsecureHTTPLoads",
  "NSThirdPartyExceptionAllowsInsecureHTTPLoads",
];

/** Source: Apple, "UIBackgroundModes", possible values. */
export const BACKGROUND_MODES: readonly string[] = [
  "audio",
  "location",
  "voip",
  "external-accessory",
  "bluetooth-central",
  "bluetooth-peripheral",
  "fetch",
  "remote-notification",
  "processing",
  "push-to-talk",
  "nearby-interaction",
  "newsstand-content",
  "network-authentication",
];
