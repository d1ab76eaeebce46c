/** A capability that both platforms ask people for: permissions of the one, purpose texts of the other. */
export interface PermissionPair {
  capability: string;
  android: string[];
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
];
