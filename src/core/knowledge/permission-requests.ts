import type { Language } from "../model/code.js";

/** How code of a kind asks a person for a permission of Android by its name. */
export interface PermissionDialog {
  languages: readonly Language[];
  /** A call that asks. */
  asks: RegExp;
  /** What names permissions; the first group that holds is the name, as the platform or a binding writes it. */
  names: RegExp;
}

/**
 * Sources: developer.android.com, "Request runtime permissions"; reactnative.dev, "PermissionsAndroid"; docs.unity3d.com, "Permission.RequestUserPermission";
 * learn.microsoft.com, "Permissions in .NET for Android" (Android.Manifest.Permission).
 */
export const PERMISSION_DIALOGS: readonly PermissionDialog[] = [
  {
    languages: ["kotlin", "java"],
    asks: /\brequestPermissions?\s*\(|\bRequest(?:Multiple)?Permissions?\s*\(|\blaunchPermissionRequest\b|\bremember(?:Multiple)?PermissionsState\s*\(|@Permission\s*\(/,
    names: /(?<!\bandroid\.)\b(?:Manifest\.)?permission\.([A-Z][A-Z_]+)\b|"android\.permission\.([A-Z_]+)"/g,
  },
  {
    languages: ["javascript", "typescript", "tsx"],
    asks: /\bPermissionsAndroid\s*\.\s*request(?:Multiple)?\s*\(/,
    names: /\bPERMISSIONS\s*(?:\.\s*|\[\s*["'])([A-Z_]+)\b|["']android\.permission\.([A-Z_]+)["']/g,
  },
  {
    languages: ["csharp"],
    asks: /\bRequestUserPermissions?\s*\(|\bRequestPermissions\s*\(/,
    names: /\bManifest\.Permission\.([A-Z]\w+)|"android\.permission\.([A-Z_]+)"/g,
  },
];

/** A call of a framework's own interface that the system guards. */
export interface GuardedCall {
  /** "jvm": code in Kotlin and Java of any app; "native": that of native apps, where nothing else brings what it needs. */
  framework: "dotnet" | "unity" | "capacitor" | "react-native" | "jvm" | "native";
  languages: readonly Language[];
  pattern: RegExp;
  /** The package that a file has to import. */
  imports?: string;
  /** What it asks for, as a sentence goes on after "uses". */
  capability: string;
  /** Permissions of Android, one of which the manifest must have. */
  permissions?: readonly string[];
  /** Keys of the property list of iOS, one of which must be there. */
  texts?: readonly string[];
  /** The target level from which on the system asks for the permission. */
  since?: number;
  /** A person grants it: code that looks whether it is granted goes on without. */
  asked?: true;
}

const CAMERA = "android.permission.CAMERA";
const MICROPHONE = "android.permission.RECORD_AUDIO";
const FINE = "android.permission.ACCESS_FINE_LOCATION";
const COARSE = "android.permission.ACCESS_COARSE_LOCATION";

const dotnet = (pattern: RegExp, capability: string, permissions: readonly string[], ...texts: readonly string[]): GuardedCall => ({
  framework: "dotnet",
  languages: ["csharp"],
  pattern,
  capability,
  permissions,
  texts,
});
const ofAndroid = (name: string): string => `android.permission.${name}`;
const capacitor = (
  imports: string,
  pattern: RegExp,
  capability: string,
  permissions: readonly string[],
  ...texts: readonly string[]
): GuardedCall => ({
  framework: "capacitor",
  languages: ["javascript", "typescript", "tsx"],
  pattern,
  imports,
  capability,
  permissions,
  texts,
});

const jvm = (
  pattern: RegExp,
  capability: string,
  permissions: readonly string[],
  more: Pick<GuardedCall, "imports" | "since"> = {},
): GuardedCall => ({
  framework: "jvm",
  languages: ["kotlin", "java"],
  pattern,
  capability,
  permissions: permissions.map((name) => (name.includes(".") ? name : `android.permission.${name}`)),
  ...more,
});

const NETWORK: GuardedCall = {
  framework: "native",
  languages: ["kotlin", "java"],
  pattern:
    /\bMediaItem\s*\.\s*fromUri\s*\(\s*"https?:|\.\s*loadUrl\s*\(\s*"https?:|\bopenConnection\s*\(\s*\)|\bOkHttpClient\s*(?:\(|\.\s*Builder\b)|\bHttpClient\s*\(\s*(?:\)|CIO|OkHttp|Android)|\bRetrofit\s*\.\s*Builder\b/,
  capability: "the network",
  permissions: ["android.permission.INTERNET"],
};

/**
 * Calls of the platform that fail, or do nothing, without a permission that is granted with the installation. Sources: developer.android.com, the
 * reference of `AlarmManager` ("SCHEDULE_EXACT_ALARM", from target level 31 on), `NotificationCompat.Builder.setFullScreenIntent` (29), `Settings`
 * (ACTION_MANAGE_OVERLAY_PERMISSION and others: the app has to request the permission), `Vibrator`, `PowerManager.newWakeLock`, `NfcAdapter.enableReaderMode`,
 * `AudioManager.setSpeakerphoneOn`, `WifiManager`, `WifiP2pManager`, `ConsumerIrManager`, `AlarmClock`, `ContentResolver` (adapters of accounts),
 * `WallpaperManager`, `ActivityManager`, `Intent.ACTION_UNINSTALL_PACKAGE` (28), "Notification runtime permission" (33), "Connect to the network".
 */
const CALLS_OF_ANDROID: readonly GuardedCall[] = [
  jvm(/\.\s*(?:setExactAndAllowWhileIdle|setAlarmClock)\s*\(/, "exact alarms", ["SCHEDULE_EXACT_ALARM", "USE_EXACT_ALARM"], {
    imports: "AlarmManager",
    since: 31,
  }),
  jvm(/\.\s*setFullScreenIntent\s*\(/, "notifications that fill the screen", ["USE_FULL_SCREEN_INTENT"], { since: 29 }),
  jvm(/\bcanDrawOverlays\s*\(|\bACTION_MANAGE_OVERLAY_PERMISSION\b|\bTYPE_APPLICATION_OVERLAY\b/, "windows over other apps", [
    "SYSTEM_ALERT_WINDOW",
  ]),
  jvm(/\.\s*vibrate\s*\(/, "the vibrator", ["VIBRATE"], { imports: "android.os.Vibrat" }),
  jvm(/\.\s*newWakeLock\s*\(/, "a wake lock", ["WAKE_LOCK"]),
  jvm(/\.\s*(?:enableReaderMode|enableForegroundDispatch)\s*\(/, "NFC", ["NFC"], { imports: "android.nfc" }),
  jvm(
    /\bsetSpeakerphoneOn\s*\(|\bisSpeakerphoneOn\s*=(?!=)|\.\s*setCommunicationDevice\s*\(|\.\s*startBluetoothSco\s*\(/,
    "the ways of sound",
    ["MODIFY_AUDIO_SETTINGS"],
    { imports: "android.media.AudioManager" },
  ),
  jvm(/\bcanRequestPackageInstalls\s*\(|\bACTION_MANAGE_UNKNOWN_APP_SOURCES\b/, "the installation of apps", ["REQUEST_INSTALL_PACKAGES"]),
  jvm(/\bACTION_REQUEST_IGNORE_BATTERY_OPTIMIZATIONS\b/, "an exception from saving the battery", ["REQUEST_IGNORE_BATTERY_OPTIMIZATIONS"]),
  jvm(/\bACTION_MANAGE_(?:APP_)?ALL_FILES_ACCESS_PERMISSION\b/, "all files", ["MANAGE_EXTERNAL_STORAGE"]),
  jvm(/\bACTION_MANAGE_WRITE_SETTINGS\b|\bSettings\.System\.canWrite\s*\(/, "the settings of the system", ["WRITE_SETTINGS"]),
  jvm(/\.\s*(?:queryUsageStats|queryEvents)\s*\(/, "the use of other apps", ["PACKAGE_USAGE_STATS"], { imports: "UsageStatsManager" }),
  jvm(
    /\.\s*register(?:Default)?NetworkCallback\s*\(|\.\s*getActiveNetwork(?:Info)?\s*\(|\.\s*activeNetwork(?:Info)?\b/,
    "the state of the network",
    ["ACCESS_NETWORK_STATE"],
    { imports: "ConnectivityManager" },
  ),
  jvm(/\.\s*(?:getConnectionInfo\s*\(|connectionInfo\b|getScanResults\s*\(|scanResults\b)/, "the state of Wi-Fi", ["ACCESS_WIFI_STATE"], {
    imports: "android.net.wifi.WifiManager",
  }),
  jvm(
    /\.\s*setWifiEnabled\s*\(|\bisWifiEnabled\s*=(?!=)|\.\s*(?:add|remove)NetworkSuggestions\s*\(/,
    "changes of Wi-Fi",
    ["CHANGE_WIFI_STATE"],
    {
      imports: "android.net.wifi.WifiManager",
    },
  ),
  jvm(/\.\s*discoverPeers\s*\(/, "Wi-Fi Direct", ["CHANGE_WIFI_STATE"], { imports: "android.net.wifi.p2p" }),
  jvm(/\.\s*transmit\s*\(/, "the infrared light", ["TRANSMIT_IR"], { imports: "ConsumerIrManager" }),
  jvm(/\bAlarmClock\s*\.\s*ACTION_SET_(?:ALARM|TIMER)\b/, "alarms of the clock", ["com.android.alarm.permission.SET_ALARM"]),
  jvm(
    /\bContentResolver\s*\.\s*(?:setSyncAutomatically|setIsSyncable|addPeriodicSync|setMasterSyncAutomatically)\s*\(/,
    "settings of what is kept in step with an account",
    ["WRITE_SYNC_SETTINGS"],
  ),
  jvm(
    /\bContentResolver\s*\.\s*(?:getSyncAutomatically|getIsSyncable|getMasterSyncAutomatically)\s*\(/,
    "what is kept in step with an account",
    ["READ_SYNC_SETTINGS"],
  ),
  jvm(/\.\s*set(?:Bitmap|Stream|Resource)\s*\(/, "the wallpaper", ["SET_WALLPAPER"], { imports: "android.app.WallpaperManager" }),
  jvm(/\.\s*moveTaskToFront\s*\(/, "the order of apps", ["REORDER_TASKS"], { imports: "ActivityManager" }),
  jvm(/\.\s*killBackgroundProcesses\s*\(/, "the end of other apps", ["KILL_BACKGROUND_PROCESSES"], { imports: "ActivityManager" }),
  jvm(/\bACTION_UNINSTALL_PACKAGE\b/, "the removal of apps", ["REQUEST_DELETE_PACKAGES"], { since: 28 }),
  jvm(/\.\s*startScan\s*\(\s*\)/, "changes of Wi-Fi", ["CHANGE_WIFI_STATE"], { imports: "android.net.wifi.WifiManager" }),
];

/**
 * Calls whose permission a person grants, and which nobody can grant where no manifest declares it. Sources: developer.android.com, the references of the
 * classes named ("Requires …"), "Bluetooth permissions" (from target level 31 on), "Motion sensors" (ACTIVITY_RECOGNITION, from level 29 on), `Intent.ACTION_CALL`.
 */
const CALLS_THAT_ARE_ASKED_FOR: readonly GuardedCall[] = [
  jvm(/\.\s*send(?:Multipart)?TextMessage\s*\(/, "sending texts", ["SEND_SMS"], { imports: "android.telephony.SmsManager" }),
  jvm(/\bIntent\s*\(\s*(?:Intent\s*\.\s*)?ACTION_CALL\b/, "calls", ["CALL_PHONE"]),
  jvm(
    /\bsetAudioSource\s*\(\s*(?:MediaRecorder\s*\.\s*)?AudioSource\s*\.\s*(?:MIC|CAMCORDER|VOICE_RECOGNITION|VOICE_COMMUNICATION|UNPROCESSED|DEFAULT)\b|(?:\bnew\s+|=\s*)AudioRecord\s*\(/,
    "the microphone",
    ["RECORD_AUDIO"],
    { imports: "android.media." },
  ),
  jvm(/Scanner\s*(?:\(\s*\))?\s*[!?]*\s*\.\s*startScan\s*\(/i, "the search for devices by Bluetooth", ["BLUETOOTH_SCAN"], {
    imports: "android.bluetooth",
    since: 31,
  }),
  jvm(/\.\s*connectGatt\s*\(/, "connections by Bluetooth", ["BLUETOOTH_CONNECT"], { imports: "android.bluetooth", since: 31 }),
  jvm(/\bgetDefaultSensor\s*\(\s*(?:Sensor\s*\.\s*)?TYPE_STEP_(?:COUNTER|DETECTOR)\b/, "the counter of steps", ["ACTIVITY_RECOGNITION"], {
    since: 29,
  }),
  jvm(/\bgetDefaultSensor\s*\(\s*(?:Sensor\s*\.\s*)?TYPE_HEART_RATE\b/, "the heart rate", [
    "BODY_SENSORS",
    "android.permission.health.READ_HEART_RATE",
  ]),
  jvm(/\bquery\s*\(\s*CalendarContract\s*\.[\w.\s]*\bCONTENT_URI\b/, "calendars", ["READ_CALENDAR"]),
  jvm(/\bquery\s*\(\s*ContactsContract\s*\.[\w.\s]*\bCONTENT_URI\b/, "contacts", ["READ_CONTACTS"]),
  jvm(/\bquery\s*\(\s*CallLog\s*\.\s*Calls\s*\.\s*CONTENT_URI\b/, "the list of calls", ["READ_CALL_LOG"]),
  jvm(/\.\s*openCamera\s*\(/, "the camera", ["CAMERA"], { imports: "android.hardware.camera2" }),
  jvm(
    /\.\s*(?:requestLocationUpdates|requestSingleUpdate|getLastKnownLocation)\s*\(/,
    "the location",
    ["ACCESS_FINE_LOCATION", "ACCESS_COARSE_LOCATION"],
    {
      imports: "android.location.LocationManager",
    },
  ),
];

const PHOTO = /\bCamera\s*\.\s*(?:getPhoto|takePhoto)\s*\(/;

/** Asks for or checks one of the framework's permissions. */
const permission = (name: string): RegExp => new RegExp(`\\bPermissions\\s*\\.\\s*RequestAsync\\s*<\\s*(?:\\w+\\.)*${name}\\s*>`);

/**
 * Calls of a framework's own interfaces that end in an exception, or end the app, where a side does not declare what they need.
 * Sources: learn.microsoft.com, ".NET MAUI" (and Xamarin.Essentials): "Permissions", "Geolocation", "Media picker", "Contacts", "Vibration", and the reference of .NET for iOS;
 * reactnative.dev, "Vibration" (Android apps request the permission VIBRATE);
 * capacitorjs.com, "Camera API" and "Geolocation API" (the keys of the property list, the permissions of Android); docs.unity3d.com, "iOS Player settings", "Other Settings" (usage descriptions); developer.mozilla.org, "MediaDevices: getUserMedia()", with
 * developer.android.com, "PermissionRequest" (RESOURCE_VIDEO_CAPTURE, RESOURCE_AUDIO_CAPTURE), and Apple, "Requesting authorization to capture and save media".
 */
export const GUARDED_CALLS: readonly GuardedCall[] = [
  {
    framework: "react-native",
    languages: ["javascript", "typescript", "tsx"],
    pattern: /(?<!["']ios["'][^\n]{0,60})\bVibration\s*\.\s*vibrate\s*\(/,
    imports: "react-native",
    capability: "the vibrator",
    permissions: [ofAndroid("VIBRATE")],
  },
  {
    ...dotnet(
      /\.\s*(?:SetExactAndAllowWhileIdle|SetAlarmClock)\s*\(/,
      "exact alarms",
      ["SCHEDULE_EXACT_ALARM", "USE_EXACT_ALARM"].map(ofAndroid),
    ),
    since: 31,
  },
  { ...dotnet(/\.\s*SetFullScreenIntent\s*\(/, "notifications that fill the screen", [ofAndroid("USE_FULL_SCREEN_INTENT")]), since: 29 },
  dotnet(/\bCanDrawOverlays\s*\(|\bActionManageOverlayPermission\b/, "windows over other apps", [ofAndroid("SYSTEM_ALERT_WINDOW")]),
  dotnet(/\.\s*NewWakeLock\s*\(/, "a wake lock", [ofAndroid("WAKE_LOCK")]),
  dotnet(
    /\bConnectivity\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:NetworkAccess|ConnectionProfiles|ConnectivityChanged)\b/,
    "the state of the network",
    [ofAndroid("ACCESS_NETWORK_STATE")],
  ),
  dotnet(/\bFlashlight\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?TurnO(?:n|ff)Async\b/, "the flashlight", [ofAndroid("FLASHLIGHT")]),
  dotnet(
    /\bBattery\s*\.\s*(?:(?:Default|Current)\s*\.\s*(?:State|\w*BatteryInfoChanged)|(?:(?:Default|Current)\s*\.\s*)?(?:ChargeLevel|PowerSource))\b/,
    "the battery",
    [ofAndroid("BATTERY_STATS")],
  ),
  dotnet(/\bnew\s+HttpClient\s*\(|\bAddHttpClient\s*[<(]|\bHttpClient\s+\w+\s*=\s*new\s*\(/, "the network", [ofAndroid("INTERNET")]),
  dotnet(
    /\bHKHealthStore\s*(?:\(|\s\w+\s*=\s*new\s*\()/,
    "health data",
    [],
    "NSHealthShareUsageDescription",
    "NSHealthUpdateUsageDescription",
  ),
  dotnet(/\bCM(?:MotionActivityManager|Pedometer)\s*(?:\(|\s\w+\s*=\s*new\s*\()/, "physical activity", [], "NSMotionUsageDescription"),
  dotnet(/\.\s*RequestFullAccessToEvents(?:Async)?\s*\(/, "all of the calendars", [], "NSCalendarsFullAccessUsageDescription"),
  dotnet(/\.\s*RequestFullAccessToReminders(?:Async)?\s*\(/, "all of the reminders", [], "NSRemindersFullAccessUsageDescription"),
  dotnet(/\bNFC(?:Ndef|Tag)ReaderSession\s*(?:\(|\s\w+\s*=\s*new\s*\()/, "tags by NFC", [], "NFCReaderUsageDescription"),
  ...CALLS_OF_ANDROID,
  ...CALLS_THAT_ARE_ASKED_FOR.map((call): GuardedCall => ({ ...call, asked: true })),
  NETWORK,
  dotnet(permission("Camera"), "the camera", [CAMERA], "NSCameraUsageDescription"),
  dotnet(permission("Microphone"), "the microphone", [MICROPHONE], "NSMicrophoneUsageDescription"),
  dotnet(permission("Speech"), "speech recognition", [MICROPHONE], "NSSpeechRecognitionUsageDescription"),
  dotnet(permission("LocationWhenInUse"), "the location", [FINE, COARSE], "NSLocationWhenInUseUsageDescription"),
  dotnet(permission("LocationAlways"), "the location at all times", [FINE, COARSE], "NSLocationAlwaysAndWhenInUseUsageDescription"),
  dotnet(permission("ContactsRead"), "contacts", ["android.permission.READ_CONTACTS"], "NSContactsUsageDescription"),
  dotnet(permission("ContactsWrite"), "contacts", ["android.permission.WRITE_CONTACTS"], "NSContactsUsageDescription"),
  dotnet(
    permission("CalendarRead"),
    "calendars",
    ["android.permission.READ_CALENDAR"],
    "NSCalendarsUsageDescription",
    "NSCalendarsFullAccessUsageDescription",
  ),
  dotnet(
    permission("CalendarWrite"),
    "calendars",
    ["android.permission.WRITE_CALENDAR"],
    "NSCalendarsUsageDescription",
    "NSCalendarsFullAccessUsageDescription",
    "NSCalendarsWriteOnlyAccessUsageDescription",
  ),
  dotnet(permission("Photos"), "photos", [], "NSPhotoLibraryUsageDescription"),
  dotnet(permission("PhotosAddOnly"), "adding photos", [], "NSPhotoLibraryAddUsageDescription"),
  dotnet(permission("PostNotifications"), "notifications", ["android.permission.POST_NOTIFICATIONS"]),
  dotnet(
    /\bGeolocation\s*\.\s*(?:Default\s*\.\s*)?(?:Get(?:LastKnown)?LocationAsync|StartListeningForegroundAsync)\s*\(/,
    "the location",
    [FINE, COARSE],
    "NSLocationWhenInUseUsageDescription",
  ),
  dotnet(/\bMediaPicker\s*\.\s*(?:Default\s*\.\s*)?Capture(?:Photo|Video)Async\s*\(/, "the camera", [CAMERA], "NSCameraUsageDescription"),
  dotnet(
    /\bContacts\s*\.\s*(?:Default\s*\.\s*)?(?:PickContactAsync|GetAllAsync)\s*\(/,
    "contacts",
    ["android.permission.READ_CONTACTS"],
    "NSContactsUsageDescription",
  ),
  dotnet(/\bVibration\s*\.\s*(?:Default\s*\.\s*)?Vibrate\s*\(|\bHapticFeedback\s*\.\s*(?:Default\s*\.\s*)?Perform\s*\(/, "vibration", [
    "android.permission.VIBRATE",
  ]),
  // The system's own interfaces, as bindings name them.
  dotnet(/\bRequestWhenInUseAuthorization\s*\(/, "the location", [], "NSLocationWhenInUseUsageDescription"),
  dotnet(/\bRequestAlwaysAuthorization\s*\(/, "the location at all times", [], "NSLocationAlwaysAndWhenInUseUsageDescription"),
  dotnet(/\bRequestAccessForMediaType(?:Async)?\s*\(\s*AV\w+\.Video\b/, "the camera", [], "NSCameraUsageDescription"),
  dotnet(
    /\bRequestAccessForMediaType(?:Async)?\s*\(\s*AV\w+\.Audio\b|\bRequestRecordPermission\s*\(/,
    "the microphone",
    [],
    "NSMicrophoneUsageDescription",
  ),
  dotnet(/\bnew\s+CB(?:Central|Peripheral)Manager\s*\(/, "Bluetooth", [], "NSBluetoothAlwaysUsageDescription"),
  dotnet(/\bnew\s+CM(?:Pedometer|MotionActivityManager)\s*\(/, "physical activity", [], "NSMotionUsageDescription"),
  dotnet(/\bSFSpeechRecognizer\s*\.\s*RequestAuthorization\s*\(/, "speech recognition", [], "NSSpeechRecognitionUsageDescription"),
  dotnet(/\bRequestTrackingAuthorization(?:Async)?\s*\(/, "tracking", [], "NSUserTrackingUsageDescription"),
  dotnet(/\bRequestAccess(?:Async)?\s*\(\s*(?:\w+\s*\.\s*)*CNEntityType\s*\.\s*Contacts\b/, "contacts", [], "NSContactsUsageDescription"),
  dotnet(
    /\bPHPhotoLibrary\s*\.\s*RequestAuthorization(?:Async)?\s*\(\s*PHAccessLevel\s*\.\s*AddOnly\b|\.\s*SaveToPhotosAlbum\s*\(/,
    "adding photos",
    [],
    "NSPhotoLibraryAddUsageDescription",
    "NSPhotoLibraryUsageDescription",
  ),
  dotnet(/\bDeviceOwnerAuthenticationWithBiometrics\b/, "Face ID", [], "NSFaceIDUsageDescription"),
  capacitor("@capacitor/camera", PHOTO, "the camera", [], "NSCameraUsageDescription"),
  capacitor("@capacitor/camera", PHOTO, "photos", [], "NSPhotoLibraryUsageDescription"),
  capacitor("@capacitor/camera", PHOTO, "adding photos", [], "NSPhotoLibraryAddUsageDescription"),
  capacitor(
    "@capacitor/geolocation",
    /\bGeolocation\s*\.\s*(?:getCurrentPosition|watchPosition)\s*\(/,
    "the location",
    [FINE, COARSE],
    "NSLocationWhenInUseUsageDescription",
  ),
  {
    framework: "unity",
    languages: ["csharp"],
    pattern: /\bnew\s+WebCamTexture\s*\(/,
    capability: "the camera",
    texts: ["NSCameraUsageDescription"],
  },
  {
    framework: "unity",
    languages: ["csharp"],
    pattern: /\bMicrophone\s*\.\s*Start\s*\(/,
    capability: "the microphone",
    texts: ["NSMicrophoneUsageDescription"],
  },
  {
    framework: "unity",
    languages: ["csharp"],
    pattern: /\bInput\s*\.\s*location\s*\.\s*Start\s*\(/,
    capability: "the location",
    texts: ["NSLocationWhenInUseUsageDescription"],
  },
];

/** What a page of an app can capture: members of the argument of `getUserMedia`. */
export const PAGE_CAPTURE: readonly (Required<Pick<GuardedCall, "capability" | "permissions" | "texts">> & { member: RegExp })[] = [
  { member: /\bvideo\s*:\s*(?!false\b)/, capability: "the camera", permissions: [CAMERA], texts: ["NSCameraUsageDescription"] },
  { member: /\baudio\s*:\s*(?!false\b)/, capability: "the microphone", permissions: [MICROPHONE], texts: ["NSMicrophoneUsageDescription"] },
];
