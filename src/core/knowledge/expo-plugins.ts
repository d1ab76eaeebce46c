/** What a config plugin of the framework's own packages writes into the native projects. */
export interface ExpoPlugin {
  /** Purpose texts, by the option that words each; without the option the plugin writes a text of its own, with `false` none. */
  texts?: Readonly<Record<string, string>>;
  /** Entitlements that it writes. */
  entitlements?: readonly string[];
  /** Background modes that an option switches on. */
  modes?: Readonly<Record<string, string>>;
}

/**
 * Config plugins of the framework's own packages whose documentation tells what each writes; those with nothing here write no entry of a manifest
 * or a property list. Source: docs.expo.dev, the pages of the packages, "Configuration in app config".
 */
export const EXPO_PLUGINS: Readonly<Record<string, ExpoPlugin | undefined>> = {
  "expo-build-properties": {},
  "expo-font": {},
  "expo-asset": {},
  "expo-splash-screen": {},
  "expo-router": {},
  "expo-sqlite": {},
  "expo-localization": {},
  "expo-notifications": { entitlements: ["aps-environment"] },
  "expo-camera": { texts: { cameraPermission: "NSCameraUsageDescription", microphonePermission: "NSMicrophoneUsageDescription" } },
  "expo-location": {
    texts: {
      locationWhenInUsePermission: "NSLocationWhenInUseUsageDescription",
      locationAlwaysAndWhenInUsePermission: "NSLocationAlwaysAndWhenInUseUsageDescription",
      locationAlwaysPermission: "NSLocationAlwaysUsageDescription",
    },
    modes: { isIosBackgroundLocationEnabled: "location" },
  },
  "expo-image-picker": {
    texts: {
      photosPermission: "NSPhotoLibraryUsageDescription",
      cameraPermission: "NSCameraUsageDescription",
      microphonePermission: "NSMicrophoneUsageDescription",
    },
  },
  "expo-contacts": { texts: { contactsPermission: "NSContactsUsageDescription" } },
  "expo-calendar": { texts: { calendarPermission: "NSCalendarsUsageDescription", remindersPermission: "NSRemindersUsageDescription" } },
  "expo-media-library": {
    texts: { photosPermission: "NSPhotoLibraryUsageDescription", savePhotosPermission: "NSPhotoLibraryAddUsageDescription" },
  },
  "expo-local-authentication": { texts: { faceIDPermission: "NSFaceIDUsageDescription" } },
  "expo-secure-store": { texts: { faceIDPermission: "NSFaceIDUsageDescription" } },
  "expo-sensors": { texts: { motionPermission: "NSMotionUsageDescription" } },
  "expo-tracking-transparency": { texts: { userTrackingPermission: "NSUserTrackingUsageDescription" } },
  "expo-av": { texts: { microphonePermission: "NSMicrophoneUsageDescription" } },
  "expo-audio": { texts: { microphonePermission: "NSMicrophoneUsageDescription" } },
};

/**
 * The versions that each release of Expo is made for. Source: docs.expo.dev, "Expo SDK" reference, table of React Native and React versions, and the
 * release notes of SDK 52 (React Native 0.77 may be chosen); read 2026-11.
 */
export const EXPO_RELEASES: Readonly<Record<string, Readonly<Record<string, string>> | undefined>> = {
  "50": { "react-native": "0.73.x", react: "18.2.x" },
  "51": { "react-native": "0.74.x", react: "18.2.x" },
  "52": { "react-native": "0.76.x || 0.77.x", react: "18.3.x" },
  "53": { "react-native": "0.79.x", react: "19.0.x" },
  "54": { "react-native": "0.81.x", react: "19.1.x" },
};
