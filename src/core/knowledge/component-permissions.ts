import type { App } from "../model/app.js";

/**
 * What the manifest has to say beside an action that a component listens to, so that the system sends it: a permission that the app requests
 * (`requests`), or one that the component itself asks of whoever binds it (`asks`); and whether it has to be exported, as another app binds it
 * (`open`). Sources: developer.android.com, the reference of `Intent`
 * (ACTION_BOOT_COMPLETED and others), `NotificationListenerService`, `AccessibilityService`, `TileService`, `WallpaperService`, `VpnService`,
 * `InputMethodService`, `DreamService`, "Create your first tile in Wear OS", `HostApduService`, `ConnectionService`, `InCallService`, `AutofillService`, `ControlsProviderService`, `PrintService`,
 * "Background playback with a MediaSessionService", as known 2026-12-01.
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
  "android.nfc.cardemulation.action.HOST_APDU_SERVICE": { asks: "android.permission.BIND_NFC_SERVICE", open: true },
  "android.telecom.ConnectionService": { asks: "android.permission.BIND_TELECOM_CONNECTION_SERVICE" },
  "android.telecom.InCallService": { asks: "android.permission.BIND_INCALL_SERVICE" },
  "android.service.autofill.AutofillService": { asks: "android.permission.BIND_AUTOFILL_SERVICE" },
  "android.service.controls.ControlsProviderService": { asks: "android.permission.BIND_CONTROLS", open: true },
  "android.printservice.PrintService": { asks: "android.permission.BIND_PRINT_SERVICE" },
  "androidx.car.app.CarAppService": { open: true },
  "android.view.InputMethod": { asks: "android.permission.BIND_INPUT_METHOD" },
  "android.service.dreams.DreamService": { asks: "android.permission.BIND_DREAM_SERVICE" },
  "android.telecom.CallScreeningService": { asks: "android.permission.BIND_SCREENING_SERVICE" },
  "android.app.action.DEVICE_ADMIN_ENABLED": { asks: "android.permission.BIND_DEVICE_ADMIN" },
};

/**
 * Actions whose taker says in a file of resources what it is for; the file is named by meta-data of this name, without which nothing is sent to it. Sources:
 * developer.android.com, "USB host overview", "USB accessory overview", "NFC basics" (TECH_DISCOVERED), the references of `AbstractAccountAuthenticator`,
 * `AbstractThreadedSyncAdapter` and `DeviceAdminReceiver`, as known 2026-12-01.
 */
export const DESCRIBED_ACTIONS: Readonly<Record<string, string>> = {
  "android.hardware.usb.action.USB_DEVICE_ATTACHED": "android.hardware.usb.action.USB_DEVICE_ATTACHED",
  "android.hardware.usb.action.USB_ACCESSORY_ATTACHED": "android.hardware.usb.action.USB_ACCESSORY_ATTACHED",
  "android.nfc.action.TECH_DISCOVERED": "android.nfc.action.TECH_DISCOVERED",
  "android.accounts.AccountAuthenticator": "android.accounts.AccountAuthenticator",
  "android.content.SyncAdapter": "android.content.SyncAdapter",
  "android.app.action.DEVICE_ADMIN_ENABLED": "android.app.device_admin",
};

/** What one app sends to another, which only comes to filters of the default category. Source: developer.android.com, "Receiving an implicit intent". */
export const SENT_BY_OTHERS = /^android\.(intent\.action\.(SEND|SEND_MULTIPLE|PROCESS_TEXT)|nfc\.action\.NDEF_DISCOVERED)$/;

/** A class of the platform whose heirs the system starts by what their element in the manifest has. */
export interface SystemBase {
  /** The package that a file imports it from: others have classes of the same name. */
  from: string;
  /** One of these; none where an action is not needed. */
  actions: readonly string[];
  /** The permission that the element asks of who binds it, where no action tells. */
  asks?: string;
  /** The name of the meta-data that says what the service is, where it is not started without. */
  data?: string;
}

/** Widgets, whose elements in a manifest have checks of their own. Source: developer.android.com, "Create a simple widget". */
export const WIDGET_BASE: SystemBase = {
  from: "android.appwidget",
  actions: ["android.appwidget.action.APPWIDGET_UPDATE"],
  data: "android.appwidget.provider",
};

/**
 * Sources: developer.android.com, the references of the classes ("To extend this class, you must declare the service in your manifest file with …"),
 * "Background playback with a MediaSessionService", "Build a media browser service", "Host-based card emulation overview", "Using the Car App Library", "JobService", "JobIntentService",
 * "Create a custom document provider".
 */
export const SYSTEM_BASES: Readonly<Record<string, SystemBase>> = {
  JobService: { from: "android.app.job", actions: [], asks: "android.permission.BIND_JOB_SERVICE" },
  JobIntentService: { from: "androidx.core.app", actions: [], asks: "android.permission.BIND_JOB_SERVICE" },
  CallScreeningService: { from: "android.telecom", actions: ["android.telecom.CallScreeningService"] },
  DeviceAdminReceiver: { from: "android.app.admin", actions: ["android.app.action.DEVICE_ADMIN_ENABLED"] },
  DocumentsProvider: {
    from: "android.provider",
    actions: ["android.content.action.DOCUMENTS_PROVIDER"],
    asks: "android.permission.MANAGE_DOCUMENTS",
  },
  NotificationListenerService: {
    from: "android.service.notification",
    actions: ["android.service.notification.NotificationListenerService"],
  },
  AccessibilityService: { from: "android.accessibilityservice", actions: ["android.accessibilityservice.AccessibilityService"] },
  TileService: { from: "android.service.quicksettings", actions: ["android.service.quicksettings.action.QS_TILE"] },
  WallpaperService: {
    from: "android.service.wallpaper",
    actions: ["android.service.wallpaper.WallpaperService"],
    data: "android.service.wallpaper",
  },
  VpnService: { from: "android.net", actions: ["android.net.VpnService"] },
  InputMethodService: { from: "android.inputmethodservice", actions: ["android.view.InputMethod"], data: "android.view.im" },
  DreamService: { from: "android.service.dreams", actions: ["android.service.dreams.DreamService"] },
  HostApduService: {
    from: "android.nfc.cardemulation",
    actions: ["android.nfc.cardemulation.action.HOST_APDU_SERVICE"],
    data: "android.nfc.cardemulation.host_apdu_service",
  },
  ConnectionService: { from: "android.telecom", actions: ["android.telecom.ConnectionService"] },
  InCallService: { from: "android.telecom", actions: ["android.telecom.InCallService"] },
  AutofillService: { from: "android.service.autofill", actions: ["android.service.autofill.AutofillService"] },
  ControlsProviderService: { from: "android.service.controls", actions: ["android.service.controls.ControlsProviderService"] },
  PrintService: { from: "android.printservice", actions: ["android.printservice.PrintService"] },
  MediaSessionService: {
    from: "androidx.media3.session",
    actions: ["androidx.media3.session.MediaSessionService", "android.media.browse.MediaBrowserService"],
  },
  MediaLibraryService: {
    from: "androidx.media3.session",
    actions: [
      "androidx.media3.session.MediaLibraryService",
      "androidx.media3.session.MediaSessionService",
      "android.media.browse.MediaBrowserService",
    ],
  },
  MediaBrowserServiceCompat: { from: "androidx.media", actions: ["android.media.browse.MediaBrowserService"] },
  CarAppService: { from: "androidx.car.app", actions: ["androidx.car.app.CarAppService"] },
};

/**
 * Permissions that the manifests of the platform's own packages bring into every app that has them. Source: the manifest of androidx.work:work-runtime
 * (developer.android.com, "WorkManager", releases from 2.0 on), read 2026-11-29.
 */
const BROUGHT_PERMISSIONS: readonly { packages: RegExp; permissions: readonly string[] }[] = [
  {
    packages: /^androidx\.work:work-/,
    permissions: ["RECEIVE_BOOT_COMPLETED", "FOREGROUND_SERVICE", "WAKE_LOCK", "ACCESS_NETWORK_STATE"].map(
      (name) => `android.permission.${name}`,
    ),
  },
];

/** Permissions that packages of the platform bring into the app by their own manifests. */
export function broughtPermissions({ dependencies }: Pick<App, "dependencies">): ReadonlySet<string> {
  return new Set(
    BROUGHT_PERMISSIONS.flatMap(({ packages, permissions }) =>
      dependencies.some(({ ecosystem, side, name, test }) => ecosystem === "maven" && side === "android" && !test && packages.test(name))
        ? permissions
        : [],
    ),
  );
}
