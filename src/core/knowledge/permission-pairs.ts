/** A capability that both platforms ask people for: permissions of the one, purpose texts of the other. */
export interface PermissionPair {
  capability: string;
  android: string[];
  /** Those of them that show a gap on iOS; all where it is absent. A headset alone needs a permission on Android and nothing on iOS. */
  shows?: string[];
  ios: string[];
  /** Android never grants the capability without the permission, so that a purpose text alone shows a gap. */
  always: boolean;
}

/**
 * Source: developer.android.com, "Permissions on Android" and Apple, "Requesting access to protected resources". Photos and files are left
 * out: both platforms have pickers that need neither.
 */
export const PERMISSION_PAIRS: PermissionPair[] = [
  { capability: "the camera", android: ["CAMERA"], ios: ["NSCameraUsageDescription"], always: false },
  { capability: "the microphone", android: ["RECORD_AUDIO"], ios: ["NSMicrophoneUsageDescription"], always: true },
  {
    capability: "the location",
    android: ["ACCESS_FINE_LOCATION", "ACCESS_COARSE_LOCATION"],
    ios: [
      "NSLocationWhenInUseUsageDescription",
      "NSLocationAlwaysAndWhenInUseUsageDescription",
      "NSLocationAlwaysUsageDescription",
      "NSLocationUsageDescription",
    ],
    always: true,
  },
  { capability: "contacts", android: ["READ_CONTACTS", "WRITE_CONTACTS"], ios: ["NSContactsUsageDescription"], always: false },
  {
    capability: "calendars",
    android: ["READ_CALENDAR", "WRITE_CALENDAR"],
    ios: ["NSCalendarsUsageDescription", "NSCalendarsFullAccessUsageDescription", "NSCalendarsWriteOnlyAccessUsageDescription"],
    always: false,
  },
  {
    capability: "Bluetooth",
    android: ["BLUETOOTH_SCAN", "BLUETOOTH_CONNECT", "BLUETOOTH_ADVERTISE", "BLUETOOTH", "BLUETOOTH_ADMIN"],
    shows: ["BLUETOOTH_SCAN", "BLUETOOTH_ADVERTISE"],
    ios: ["NSBluetoothAlwaysUsageDescription", "NSBluetoothPeripheralUsageDescription"],
    always: true,
  },
  { capability: "tags by NFC", android: ["NFC"], ios: ["NFCReaderUsageDescription"], always: true },
  {
    capability: "physical activity",
    android: ["ACTIVITY_RECOGNITION"],
    ios: ["NSMotionUsageDescription", "NSHealthShareUsageDescription"],
    always: false,
  },
  { capability: "biometrics", android: ["USE_BIOMETRIC", "USE_FINGERPRINT"], ios: ["NSFaceIDUsageDescription"], always: false },
];

/**
 * Packages that have films recorded: iOS asks the app itself for the microphone, Android's recorder is another app. Sources: the setup of each package
 * (NSMicrophoneUsageDescription for iOS, no RECORD_AUDIO for Android); learn.microsoft.com, "Media picker"; written down 2026-12-02, from memory.
 */
export const RECORDERS = {
  text: "NSMicrophoneUsageDescription",
  packages: new Set(["image_picker", "react-native-image-picker", "react-native-image-crop-picker", "cordova-plugin-media-capture"]),
  ofDotnet: /\bI?MediaPicker\b/,
};
