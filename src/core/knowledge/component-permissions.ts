/**
 * What the manifest has to say beside an action that a component listens to, so that the system sends it: a permission that the app requests
 * (`requests`), or one that the component itself asks of whoever binds it (`asks`); and whether it has to be exported, as another app binds it
 * (`open`). Sources: developer.android.com, the reference of `Intent`
 * (ACTION_BOOT_COMPLETED and others), `NotificationListenerService`, `AccessibilityService`, `TileService`, `WallpaperService`, `VpnService`,
 * `InputMethodService`, `DreamService`, "Create your first tile in Wear OS", as known 2026-12-01.
 */
export const COMPONENT_PERMISSIONS: Readonly<Record<string, { requests?: string; asks?: string; open?: true }>> = {
  "android.intent.action.BOOT_COMPLETED": { requests: "android.permission.RECEIVE_BOOT_COMPLETED" },
  "android.intent.action.LOCKED_BOOT_COMPLETED": { requests: "android.permission.RECEIVE_BOOT_COMPLETED" },
  "android.provider.Telephony.SMS_RECEIVED": { requests: "android.permission.RECEIVE_SMS" },
  "android.intent.action.PHONE_STATE": { requests: "android.permission.READ_PHONE_STATE" },
  "android.service.notification.NotificationListenerService": { asks: "android.permission.BIND_NOTIFICATION_LISTENER_SERVICE" },
  "android.accessibilityservice.AccessibilityService": { asks: "android.permission.BIND_ACCESSIBILITY_SERVICE" },
  "android.service.quicksettings.action.QS_TILE": {
    asks: "android.permission.BIND_QUICK_SETTINGS_TILE",
    open: true,
  },
  "androidx.wear.tiles.action.BIND_TILE_PROVIDER": {
    asks: "com.google.android.wearable.permission.BIND_TILE_PROVIDER",
    open: true,
  },
  "android.service.wallpaper.WallpaperService": { asks: "android.permission.BIND_WALLPAPER" },
  "android.net.VpnService": { asks: "android.permission.BIND_VPN_SERVICE" },
  "android.view.InputMethod": { asks: "android.permission.BIND_INPUT_METHOD" },
  "android.service.dreams.DreamService": { asks: "android.permission.BIND_DREAM_SERVICE" },
};

/**
 * Permissions that the manifests of the platform's own packages bring into every app that has them. Source: the manifest of androidx.work:work-runtime
 * (developer.android.com, "WorkManager", releases from 2.0 on), read 2026-11-29.
 */
export const BROUGHT_PERMISSIONS: readonly { packages: RegExp; permissions: readonly string[] }[] = [
  {
    packages: /^androidx\.work:work-/,
    permissions: ["RECEIVE_BOOT_COMPLETED", "FOREGROUND_SERVICE", "WAKE_LOCK", "ACCESS_NETWORK_STATE"].map(
      (name) => `android.permission.${name}`,
    ),
  },
];
