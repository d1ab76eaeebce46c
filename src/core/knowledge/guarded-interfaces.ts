/** An interface that the system guards: whoever's code is in the app, its property list needs a text that says what for. */
export interface GuardedInterface {
  capability: string;
  /** A call or the making of an object, as Swift and Objective-C write it, without comments. */
  pattern: RegExp;
  /** Keys of the property list, one of which must be there. */
  keys: readonly string[];
  /** The same in a binary: symbols that it takes from the system, and messages. Only what names the resource without doubt. */
  inBinary?: { symbols?: readonly string[]; selectors?: readonly string[] };
  /** Many packages can use it and do so only where the app wants it: without the text it is a note. */
  perhaps?: true;
  /** Looked for in the app's own code alone: what packages do of it depends on the app. */
  own?: true;
}

/**
 * Source: Apple, "Requesting access to protected resources", and the reference pages of the classes named, "important" notes; a store refuses an
 * upload whose code refers to such an interface without its text. Only what names the resource without doubt is listed.
 */
export const GUARDED_INTERFACES: readonly GuardedInterface[] = [
  {
    capability: "the camera",
    pattern: /requestAccess\s*\(\s*for\s*:\s*(?:AVMediaType)?\.video\b|requestAccessForMediaType\s*:\s*AVMediaTypeVideo\b/,
    keys: ["NSCameraUsageDescription"],
  },
  {
    capability: "the microphone",
    pattern:
      /requestAccess\s*\(\s*for\s*:\s*(?:AVMediaType)?\.audio\b|requestAccessForMediaType\s*:\s*AVMediaTypeAudio\b|\brequestRecordPermission\b|\bAVAudioApplication\s*\.\s*requestRecordPermission/,
    inBinary: { selectors: ["requestRecordPermission:"] },
    keys: ["NSMicrophoneUsageDescription"],
  },
  {
    capability: "the location",
    pattern: /\brequestWhenInUseAuthorization\b/,
    inBinary: { selectors: ["requestWhenInUseAuthorization"] },
    keys: ["NSLocationWhenInUseUsageDescription"],
  },
  {
    capability: "the location at all times",
    pattern: /\brequestAlwaysAuthorization\b/,
    inBinary: { selectors: ["requestAlwaysAuthorization"] },
    keys: ["NSLocationAlwaysAndWhenInUseUsageDescription"],
    perhaps: true,
  },
  {
    capability: "the location at all times, which asks for its use in front first",
    pattern: /\brequestAlwaysAuthorization\b/,
    keys: ["NSLocationWhenInUseUsageDescription"],
    own: true,
  },
  {
    capability: "all of the calendars",
    pattern: /\brequestFullAccessToEvents(?:WithCompletion)?\b/,
    keys: ["NSCalendarsFullAccessUsageDescription"],
    own: true,
  },
  {
    capability: "all of the reminders",
    pattern: /\brequestFullAccessToReminders(?:WithCompletion)?\b/,
    keys: ["NSRemindersFullAccessUsageDescription"],
    own: true,
  },
  {
    capability: "reading health data",
    pattern: /\brequestAuthorization\s*\(\s*toShare\s*:[^;{}]*?\bread\s*:\s*(?!nil\b|\[\s*\]|Set\s*\(\s*\)|\w+\s*\))[^)]/,
    keys: ["NSHealthShareUsageDescription"],
    own: true,
  },
  {
    capability: "writing health data",
    pattern: /\brequestAuthorization\s*\(\s*toShare\s*:\s*(?:\[\s*[\w.(]|Set\s*\(\s*\[\s*[\w.(])/,
    keys: ["NSHealthUpdateUsageDescription"],
    own: true,
  },
  {
    capability: "Siri",
    pattern: /\bINPreferences\s*\.?\s*requestSiriAuthorization\b/,
    keys: ["NSSiriUsageDescription"],
  },
  {
    capability: "photos",
    pattern:
      /\bPHPhotoLibrary\s*\.\s*requestAuthorization\s*(?:\{|\(\s*(?:\{|for\s*:\s*\.readWrite))|\bPHPhotoLibrary\s+requestAuthorization(?:ForAccessLevel\s*:\s*PHAccessLevelReadWrite|\s*:)/,
    keys: ["NSPhotoLibraryUsageDescription"],
  },
  {
    capability: "adding photos",
    pattern:
      /\bUIImageWriteToSavedPhotosAlbum\s*\(|\bUISaveVideoAtPathToSavedPhotosAlbum\s*\(|\brequestAuthorizationForAccessLevel\s*:\s*PHAccessLevelAddOnly\b|requestAuthorization\s*\(\s*for\s*:\s*\.addOnly/,
    inBinary: { symbols: ["UIImageWriteToSavedPhotosAlbum", "UISaveVideoAtPathToSavedPhotosAlbum"] },
    keys: ["NSPhotoLibraryAddUsageDescription", "NSPhotoLibraryUsageDescription"],
  },
  {
    capability: "contacts",
    pattern: /requestAccess\s*\(\s*for\s*:\s*(?:CNEntityType)?\.contacts\b|requestAccessForEntityType\s*:\s*CNEntityTypeContacts\b/,
    inBinary: { symbols: ["OBJC_CLASS_$_CNContactStore"] },
    keys: ["NSContactsUsageDescription"],
  },
  {
    capability: "calendars",
    pattern:
      /requestAccess\s*\(\s*to\s*:\s*(?:EKEntityType)?\.event\b|requestAccessToEntityType\s*:\s*EKEntityTypeEvent\b|\brequestFullAccessToEvents(?:WithCompletion)?\b|\brequestWriteOnlyAccessToEvents(?:WithCompletion)?\b/,
    keys: ["NSCalendarsUsageDescription", "NSCalendarsFullAccessUsageDescription", "NSCalendarsWriteOnlyAccessUsageDescription"],
  },
  {
    capability: "reminders",
    pattern:
      /requestAccess\s*\(\s*to\s*:\s*(?:EKEntityType)?\.reminder\b|requestAccessToEntityType\s*:\s*EKEntityTypeReminder\b|\brequestFullAccessToReminders(?:WithCompletion)?\b/,
    keys: ["NSRemindersUsageDescription", "NSRemindersFullAccessUsageDescription"],
  },
  {
    capability: "physical activity",
    pattern: /\bCMMotionActivityManager\s*(?:\(|\s+(?:alloc|new)\b)|\bCMPedometer\s*(?:\(|\s+(?:alloc|new)\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_CMMotionActivityManager", "OBJC_CLASS_$_CMPedometer"] },
    keys: ["NSMotionUsageDescription"],
  },
  {
    capability: "Bluetooth",
    pattern: /\bCB(?:Central|Peripheral)Manager\s*(?:\(|\s+(?:alloc|new)\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_CBCentralManager", "OBJC_CLASS_$_CBPeripheralManager"] },
    keys: ["NSBluetoothAlwaysUsageDescription"],
  },
  {
    capability: "speech recognition",
    pattern: /\bSFSpeechRecognizer\s*\.\s*requestAuthorization\b|\bSFSpeechRecognizer\s+requestAuthorization\b/,
    inBinary: { symbols: ["OBJC_CLASS_$_SFSpeechRecognizer"] },
    keys: ["NSSpeechRecognitionUsageDescription"],
  },
  {
    capability: "tracking",
    pattern: /\brequestTrackingAuthorization(?:WithCompletionHandler)?\b/,
    inBinary: { selectors: ["requestTrackingAuthorizationWithCompletionHandler:"] },
    keys: ["NSUserTrackingUsageDescription"],
  },
  {
    capability: "Face ID",
    pattern: /\.\s*deviceOwnerAuthenticationWithBiometrics\b|\bLAPolicyDeviceOwnerAuthenticationWithBiometrics\b/,
    keys: ["NSFaceIDUsageDescription"],
  },
  {
    capability: "tags by NFC",
    pattern: /\bNFC(?:NDEF|Tag)ReaderSession\s*(?:\(|\s+alloc\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_NFCNDEFReaderSession", "OBJC_CLASS_$_NFCTagReaderSession"] },
    keys: ["NFCReaderUsageDescription"],
  },
  {
    capability: "health data",
    pattern: /\bHKHealthStore\s*(?:\(|\s+(?:alloc|new)\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_HKHealthStore"] },
    keys: ["NSHealthShareUsageDescription", "NSHealthUpdateUsageDescription"],
  },
  {
    capability: "the home",
    pattern: /\bHMHomeManager\s*(?:\(|\s+(?:alloc|new)\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_HMHomeManager"] },
    keys: ["NSHomeKitUsageDescription"],
  },
  {
    capability: "the state of Focus",
    pattern: /\bINFocusStatusCenter\b[^;{}]{0,60}?\brequestAuthorization/,
    keys: ["NSFocusStatusUsageDescription"],
  },
  {
    capability: "the distance of devices nearby",
    pattern: /\bNISession\s*(?:\(|\s+(?:alloc|new)\b)/,
    inBinary: { symbols: ["OBJC_CLASS_$_NISession"] },
    keys: ["NSNearbyInteractionUsageDescription", "NSNearbyInteractionAllowOnceUsageDescription"],
  },
  {
    capability: "the media library",
    pattern: /\bMPMediaLibrary\s*\.\s*requestAuthorization\b|\bMPMediaLibrary\s+requestAuthorization\b/,
    keys: ["NSAppleMusicUsageDescription"],
  },
];

/** One look tells whether a file can have any of them. */
export const ANY_GUARDED = new RegExp(GUARDED_INTERFACES.map(({ pattern }) => pattern.source).join("|"));
