/** What code for iOS cannot do unless the app's property list or its entitlements say so. */
export interface AppleCapability {
  /** What the code does, as a sentence goes on after "the app's code". */
  does: string;
  /** A call or assignment, as Swift and Objective-C write it, without comments. */
  pattern: RegExp;
  /** What must be there: a mode of UIBackgroundModes, the key of an entitlement, or a key of the property list that says yes. */
  needs: { backgroundMode: string } | { entitlement: string } | { plist: string };
  /** What happens without it. */
  otherwise: string;
}

/**
 * Source: Apple, "UIBackgroundModes", "Entitlements", and the reference pages of the interfaces named, read 2026-11. Only what fails without the
 * entry is listed.
 */
export const APPLE_CAPABILITIES: readonly AppleCapability[] = [
  {
    does: "asks for locations in the background (allowsBackgroundLocationUpdates)",
    pattern: /\b[aA]llowsBackgroundLocationUpdates\s*=\s*(?:true|YES)\b|\bsetAllowsBackgroundLocationUpdates\s*:\s*YES\b/,
    needs: { backgroundMode: "location" },
    otherwise: "the system ends it there",
  },
  {
    does: "restores Bluetooth connections in the background",
    pattern: /\bCBCentralManagerOptionRestoreIdentifierKey\b|\bCBCentralInitOptions\s*\(\)\s*\{[^{}]*\bRestoreIdentifier\s*=/,
    needs: { backgroundMode: "bluetooth-central" },
    otherwise: "the system ends it there",
  },
  {
    does: "takes calls over the network (PKPushRegistry)",
    pattern: /\bPKPushRegistry\s*\(|\bPKPushRegistry\s+alloc\b/,
    needs: { backgroundMode: "voip" },
    otherwise: "no call comes in",
  },
  {
    does: "registers for remote notifications",
    pattern: /\b[rR]egisterForRemoteNotifications\b(?!\s*(?:=|WithTypes))|\bcapacitorDidRegisterForRemoteNotifications\b/,
    needs: { entitlement: "aps-environment" },
    otherwise: "registration fails",
  },
  {
    does: "signs people in with their Apple account",
    pattern: /\bASAuthorizationAppleI[dD]Provider\s*(?:\(|alloc\b|new\b)/,
    needs: { entitlement: "com.apple.developer.applesignin" },
    otherwise: "every attempt fails",
  },
  {
    does: "reads health data (HKHealthStore)",
    pattern: /\bHKHealthStore\s*(?:\(|alloc\b|new\b|\w+\s*=\s*new\s*\()/,
    needs: { entitlement: "com.apple.developer.healthkit" },
    otherwise: "every request is refused",
  },
  {
    does: "reads tags by NFC",
    pattern: /\bNFC(?:NDEF|Tag)ReaderSession\s*(?:\(|alloc\b)/,
    needs: { entitlement: "com.apple.developer.nfc.readersession.formats" },
    otherwise: "no session begins",
  },
  {
    does: "keeps data in CloudKit (CKContainer)",
    pattern: /\bCKContainer\s*(?:\(|\.\s*(?:default|fromIdentifier)\s*\(|\.\s*defaultContainer\b|alloc\b|defaultContainer\b)/,
    needs: { entitlement: "com.apple.developer.icloud-services" },
    otherwise: "the system ends it there",
  },
  {
    does: "keeps data in containers of iCloud (CKContainer)",
    pattern: /\bCKContainer\s*(?:\(|\.\s*(?:default|fromIdentifier)\s*\(|\.\s*defaultContainer\b|alloc\b|defaultContainer\b)/,
    needs: { entitlement: "com.apple.developer.icloud-container-identifiers" },
    otherwise: "the system ends it there",
  },
  {
    does: "asks for the weather (WeatherService)",
    pattern: /\bWeatherService\s*(?:\.\s*shared\b|\()/,
    needs: { entitlement: "com.apple.developer.weatherkit" },
    otherwise: "every request is refused",
  },
  {
    does: "asks for the name of the network (NEHotspotNetwork, CNCopyCurrentNetworkInfo)",
    pattern: /\bNEHotspotNetwork\s*\.?\s*fetchCurrent(?:WithCompletionHandler)?\b|\bCNCopyCurrentNetworkInfo\s*\(/,
    needs: { entitlement: "com.apple.developer.networking.wifi-info" },
    otherwise: "it gets none",
  },
  {
    does: "sets up connections of its own (NEVPNManager)",
    pattern: /\bNEVPNManager\s*(?:\.\s*shared\b|sharedManager\b)/,
    needs: { entitlement: "com.apple.developer.networking.vpn.api" },
    otherwise: "every request is refused",
  },
  {
    does: "reads the home (HMHomeManager)",
    pattern: /\bHMHomeManager\s*(?:\(|alloc\b|new\b)/,
    needs: { entitlement: "com.apple.developer.homekit" },
    otherwise: "every request is refused",
  },
  {
    does: "asks for critical alerts",
    pattern: /\brequestAuthorization\s*\(\s*options\s*:\s*\[[^\]]*\.criticalAlert\b/,
    needs: { entitlement: "com.apple.developer.usernotifications.critical-alerts" },
    otherwise: "they are not granted",
  },
  {
    does: "marks notifications as time sensitive",
    pattern: /\binterruptionLevel\s*=\s*(?:UNNotificationInterruptionLevel)?\.?\s*timeSensitive\b/i,
    needs: { entitlement: "com.apple.developer.usernotifications.time-sensitive" },
    otherwise: "they come as all others",
  },
  {
    does: "is woken for health data (enableBackgroundDelivery)",
    pattern: /\benableBackgroundDelivery\s*\(\s*for\b|\benableBackgroundDeliveryForType\b/,
    needs: { entitlement: "com.apple.developer.healthkit.background-delivery" },
    otherwise: "every request is refused",
  },
  {
    does: "keeps values in iCloud (NSUbiquitousKeyValueStore)",
    pattern: /\bNSUbiquitousKeyValueStore\s*(?:\.\s*default\b|defaultStore\b)/,
    needs: { entitlement: "com.apple.developer.ubiquity-kvstore-identifier" },
    otherwise: "nothing is kept",
  },
  {
    does: "limits the use of apps (AuthorizationCenter)",
    pattern: /\bAuthorizationCenter\s*\.\s*shared\s*\.\s*requestAuthorization\b/,
    needs: { entitlement: "com.apple.developer.family-controls" },
    otherwise: "every request is refused",
  },
  {
    does: "takes spoken messages over the network (PTChannelManager)",
    pattern: /\bPTChannelManager\s*\.\s*channelManager\b/,
    needs: { backgroundMode: "push-to-talk" },
    otherwise: "it cannot be made",
  },
  {
    does: "joins networks (NEHotspotConfigurationManager)",
    pattern: /\bNEHotspotConfigurationManager\s*(?:\.\s*shared\b|sharedManager\b)/,
    needs: { entitlement: "com.apple.developer.networking.HotspotConfiguration" },
    otherwise: "every request is refused",
  },
  {
    does: "asks for the use of Siri",
    pattern: /\bINPreferences\s*\.?\s*requestSiriAuthorization\b/,
    needs: { entitlement: "com.apple.developer.siri" },
    otherwise: "the system ends it there",
  },
  {
    does: "shows live activities (Activity.request)",
    pattern: /\bActivity\s*(?:<\s*\w+\s*>)?\s*\.\s*request\s*\(\s*attributes\b/,
    needs: { plist: "NSSupportsLiveActivities" },
    otherwise: "every request fails",
  },
  {
    does: "asks to be woken to fetch (setMinimumBackgroundFetchInterval)",
    pattern: /\bsetMinimumBackgroundFetchInterval\s*[(:]/,
    needs: { backgroundMode: "fetch" },
    otherwise: "the system never wakes it",
  },
  {
    does: "asks to be woken for a refresh (BGAppRefreshTaskRequest)",
    pattern: /\bBGAppRefreshTaskRequest\s*(?:\(|alloc\b)/,
    needs: { backgroundMode: "fetch" },
    otherwise: "the request is refused",
  },
  {
    does: "asks for time in the background (BGProcessingTaskRequest)",
    pattern: /\bBGProcessingTaskRequest\s*(?:\(|alloc\b)/,
    needs: { backgroundMode: "processing" },
    otherwise: "the request is refused",
  },
  {
    does: "takes payments with Apple Pay (PKPaymentRequest)",
    pattern: /\bPKPaymentRequest\s*(?:\(|alloc\b|new\b)/,
    needs: { entitlement: "com.apple.developer.in-app-payments" },
    otherwise: "the payment sheet does not show",
  },
];
