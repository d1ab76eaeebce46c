/** What a config plugin of the framework's own packages writes into the native projects. */
export interface ExpoPlugin {
  /** Purpose texts, by the option that words each; without the option the plugin writes a text of its own, with `false` none. */
  texts?: Readonly<Record<string, string | readonly string[]>>;
  /** Permissions of Android: all, or those that an option switches off (`unless` it is false) or on (`when` it is true). */
  permissions?: readonly { name: string; unless?: string; when?: string }[];
  /** Entitlements that it writes. */
  entitlements?: readonly string[];
  /** Background modes that an option switches on. */
  modes?: Readonly<Record<string, string>>;
  /** It is run where its package is installed, whether the configuration lists it or not. */
  anyway?: true;
}

/**
 * Config plugins of the framework's own packages whose documentation tells what each writes; those with nothing here write no entry of a manifest
 * or a property list. Source: docs.expo.dev, the pages of the packages, "Configuration in app config"; which are run anyway: the package
 * @expo/prebuild-config, `withDefaultPlugins` (the same in the releases for SDK 49 to 57; read 2026-11).
 */
export const EXPO_PLUGINS: Readonly<Record<string, ExpoPlugin | undefined>> = {
  "expo-build-properties": {},
  "expo-font": {},
  "expo-asset": {},
  "expo-splash-screen": {},
  "expo-router": {},
  "expo-sqlite": {},
  "expo-localization": {},
  "expo-notifications": { anyway: true, entitlements: ["aps-environment"] },
  "expo-camera": {
    anyway: true,
    texts: { cameraPermission: "NSCameraUsageDescription", microphonePermission: "NSMicrophoneUsageDescription" },
    permissions: [{ name: "android.permission.CAMERA" }, { name: "android.permission.RECORD_AUDIO", unless: "recordAudioAndroid" }],
  },
  "expo-location": {
    anyway: true,
    texts: {
      locationWhenInUsePermission: "NSLocationWhenInUseUsageDescription",
      locationAlwaysAndWhenInUsePermission: "NSLocationAlwaysAndWhenInUseUsageDescription",
      locationAlwaysPermission: "NSLocationAlwaysUsageDescription",
    },
    modes: { isIosBackgroundLocationEnabled: "location" },
    permissions: [
      { name: "android.permission.ACCESS_COARSE_LOCATION" },
      { name: "android.permission.ACCESS_FINE_LOCATION" },
      { name: "android.permission.ACCESS_BACKGROUND_LOCATION", when: "isAndroidBackgroundLocationEnabled" },
    ],
  },
  "expo-image-picker": {
    anyway: true,
    texts: {
      photosPermission: "NSPhotoLibraryUsageDescription",
      cameraPermission: "NSCameraUsageDescription",
      microphonePermission: "NSMicrophoneUsageDescription",
    },
    permissions: [{ name: "android.permission.RECORD_AUDIO", unless: "microphonePermission" }],
  },
  "expo-contacts": {
    anyway: true,
    texts: { contactsPermission: "NSContactsUsageDescription" },
    permissions: [{ name: "android.permission.READ_CONTACTS" }, { name: "android.permission.WRITE_CONTACTS" }],
  },
  "expo-calendar": {
    anyway: true,
    texts: {
      calendarPermission: ["NSCalendarsUsageDescription", "NSCalendarsFullAccessUsageDescription"],
      remindersPermission: ["NSRemindersUsageDescription", "NSRemindersFullAccessUsageDescription"],
    },
    permissions: [{ name: "android.permission.READ_CALENDAR" }, { name: "android.permission.WRITE_CALENDAR" }],
  },
  "expo-media-library": {
    anyway: true,
    texts: { photosPermission: "NSPhotoLibraryUsageDescription", savePhotosPermission: "NSPhotoLibraryAddUsageDescription" },
  },
  "expo-local-authentication": {
    anyway: true,
    texts: { faceIDPermission: "NSFaceIDUsageDescription" },
    permissions: [{ name: "android.permission.USE_BIOMETRIC" }, { name: "android.permission.USE_FINGERPRINT" }],
  },
  "expo-secure-store": { texts: { faceIDPermission: "NSFaceIDUsageDescription" } },
  "expo-sensors": { anyway: true, texts: { motionPermission: "NSMotionUsageDescription" } },
  "expo-tracking-transparency": { texts: { userTrackingPermission: "NSUserTrackingUsageDescription" } },
  "expo-av": {
    anyway: true,
    texts: { microphonePermission: "NSMicrophoneUsageDescription" },
    permissions: [
      { name: "android.permission.RECORD_AUDIO", unless: "microphonePermission" },
      { name: "android.permission.MODIFY_AUDIO_SETTINGS" },
    ],
  },
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

/**
 * Native code that the router cannot do without and that an app has to list itself, as the framework links what it lists. Source: docs.expo.dev, "Install
 * Expo Router"; the `peerDependencies` of expo-router 3.5.0, 4.0.0 and 6.0.0, read 2026-12-01.
 */
export const OF_EXPO_ROUTER = ["expo-linking", "react-native-safe-area-context", "react-native-screens"];
