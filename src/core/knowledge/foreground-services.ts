/**
 * What each type of foreground service needs the manifest to ask for, from target level 34 on. Source: developer.android.com, "Foreground service
 * types" and "Foreground service types are required" (Android 14), read 2026-11-28.
 */
export const FOREGROUND_SERVICE_PERMISSIONS: Readonly<Record<string, string>> = {
  camera: "android.permission.FOREGROUND_SERVICE_CAMERA",
  connectedDevice: "android.permission.FOREGROUND_SERVICE_CONNECTED_DEVICE",
  dataSync: "android.permission.FOREGROUND_SERVICE_DATA_SYNC",
  health: "android.permission.FOREGROUND_SERVICE_HEALTH",
  location: "android.permission.FOREGROUND_SERVICE_LOCATION",
  mediaPlayback: "android.permission.FOREGROUND_SERVICE_MEDIA_PLAYBACK",
  mediaProjection: "android.permission.FOREGROUND_SERVICE_MEDIA_PROJECTION",
  microphone: "android.permission.FOREGROUND_SERVICE_MICROPHONE",
  phoneCall: "android.permission.FOREGROUND_SERVICE_PHONE_CALL",
  remoteMessaging: "android.permission.FOREGROUND_SERVICE_REMOTE_MESSAGING",
  specialUse: "android.permission.FOREGROUND_SERVICE_SPECIAL_USE",
  systemExempted: "android.permission.FOREGROUND_SERVICE_SYSTEM_EXEMPTED",
};

/** The target level from which a type needs its permission. */
export const FOREGROUND_TYPES_SINCE = 34;

/** The target level from which a component with a filter has to say whether others may start it. Source: developer.android.com, "Safer component exporting" (Android 12). */
export const EXPORTED_SINCE = 31;

/** The service by which a worker is shown while it runs. Source: developer.android.com, "Support for long-running workers". */
export const WORKER_SERVICE = "androidx.work.impl.foreground.SystemForegroundService";
