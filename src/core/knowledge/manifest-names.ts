import { COMPONENT_PERMISSIONS, DESCRIBED_ACTIONS, SYSTEM_BASES } from "./component-permissions.js";
import { INTENT_ACTIONS, INTENT_CATEGORIES } from "./intent-names.js";

const names = (prefix: string, text: string): string[] =>
  text
    .trim()
    .split(/\s+/)
    .map((name) => prefix + name);

/**
 * Actions that the system sends to components of an app, beside those of `Intent`. Sources: developer.android.com, the references of
 * `AppWidgetManager`, `DeviceAdminReceiver`, `NfcAdapter`, `UsbManager`, "Create your first tile in Wear OS"; not all of them, as names are only
 * held against those that are near.
 */
const SYSTEM_ACTIONS: readonly string[] = [
  ...names(
    "android.appwidget.action.",
    `APPWIDGET_UPDATE APPWIDGET_UPDATE_OPTIONS APPWIDGET_DELETED APPWIDGET_ENABLED APPWIDGET_DISABLED APPWIDGET_RESTORED
    APPWIDGET_HOST_RESTORED APPWIDGET_CONFIGURE APPWIDGET_PICK APPWIDGET_BIND`,
  ),
  ...names(
    "android.app.action.",
    `DEVICE_ADMIN_ENABLED DEVICE_ADMIN_DISABLED DEVICE_ADMIN_DISABLE_REQUESTED PROFILE_PROVISIONING_COMPLETE
    PROVISIONING_SUCCESSFUL ADMIN_POLICY_COMPLIANCE GET_PROVISIONING_MODE`,
  ),
  ...names("android.nfc.action.", "NDEF_DISCOVERED TECH_DISCOVERED TAG_DISCOVERED"),
  ...names("android.hardware.usb.action.", "USB_DEVICE_ATTACHED USB_DEVICE_DETACHED USB_ACCESSORY_ATTACHED USB_ACCESSORY_DETACHED"),
  ...names("android.net.conn.", "CONNECTIVITY_CHANGE"),
  ...names("android.media.browse.", "MediaBrowserService"),
  "androidx.wear.tiles.action.BIND_UPDATE_REQUESTER",
  "androidx.health.ACTION_SHOW_PERMISSIONS_RATIONALE",
  "android.intent.action.VIEW_PERMISSION_USAGE",
  "android.intent.action.TTS_SERVICE",
  "androidx.media3.session.MediaSessionService",
  "androidx.media3.session.MediaLibraryService",
  "android.content.action.DOCUMENTS_PROVIDER",
  ...Object.keys(DESCRIBED_ACTIONS),
  ...Object.keys(COMPONENT_PERMISSIONS).filter((name) => !name.startsWith("android.intent.action.")),
];

/**
 * Features of devices. Source: developer.android.com, the reference of `PackageManager` (FEATURE_*); held only against names that are near.
 */
const FEATURES: readonly string[] = [
  ...names(
    "android.hardware.",
    `audio.low_latency audio.output audio.pro bluetooth bluetooth_le camera camera.any camera.ar camera.autofocus
    camera.capability.manual_post_processing camera.capability.manual_sensor camera.capability.raw camera.concurrent camera.external camera.flash
    camera.front camera.level.full consumerir context_hub ethernet faketouch faketouch.multitouch.distinct faketouch.multitouch.jazzhand fingerprint
    gamepad hardware_keystore identity_credential location location.gps location.network microphone nfc nfc.ese nfc.hce nfc.hcef nfc.uicc nfc.any
    opengles.aep ram.low ram.normal screen.landscape screen.portrait security.model.compatible sensor.accelerometer sensor.ambient_temperature
    sensor.barometer sensor.compass sensor.gyroscope sensor.heading sensor.heartrate sensor.heartrate.ecg sensor.hifi_sensors sensor.hinge_angle
    sensor.light sensor.proximity sensor.relative_humidity sensor.stepcounter sensor.stepdetector strongbox_keystore telephony telephony.calling
    telephony.cdma telephony.data telephony.euicc telephony.gsm telephony.ims telephony.mbms telephony.messaging telephony.radio.access
    telephony.subscription touchscreen touchscreen.multitouch touchscreen.multitouch.distinct touchscreen.multitouch.jazzhand tv.tuner
    type.automotive type.embedded type.pc type.television type.watch usb.accessory usb.host uwb vr.headtracking vr.high_performance vulkan.compute
    vulkan.level vulkan.version wifi wifi.aware wifi.direct wifi.passpoint wifi.rtt`,
  ),
  ...names(
    "android.software.",
    `activities_on_secondary_displays app_enumeration app_widgets autofill backup cant_save_state companion_device_setup
    connectionservice controls credentials device_admin device_lock expanded_picture_in_picture file_based_encryption freeform_window_management
    game_service home_screen input_methods ipsec_tunnels leanback leanback_only live_tv live_wallpaper managed_users midi opengles.deqp.level
    picture_in_picture print secure_lock_screen securely_removes_users sip sip.voip telecom verified_boot voice_recognizers vr.mode
    vulkan.deqp.level webview window_magnification`,
  ),
];

/**
 * Names of `<meta-data>` by which the system finds what a component says of itself. Sources: developer.android.com, "Create a simple widget",
 * "Create shortcuts", "Set up search", "Accessibility services", "Device administration", "FileProvider", "Standalone versus non-standalone Wear OS
 * apps", "Create your first tile in Wear OS", "NFC basics", "USB host".
 */
const META_DATA: readonly string[] = [
  "android.appwidget.provider",
  "android.support.FILE_PROVIDER_PATHS",
  "android.support.PARENT_ACTIVITY",
  "android.app.shortcuts",
  "android.app.searchable",
  "android.app.default_searchable",
  "android.app.device_admin",
  "android.app.lib_name",
  "android.autofill",
  "android.accessibilityservice",
  "android.accounts.AccountAuthenticator",
  "android.content.SyncAdapter",
  "android.content.APP_RESTRICTIONS",
  "android.hardware.usb.action.USB_DEVICE_ATTACHED",
  "android.hardware.usb.action.USB_ACCESSORY_ATTACHED",
  "android.nfc.action.TECH_DISCOVERED",
  "android.nfc.cardemulation.host_apdu_service",
  "android.service.dream",
  "android.service.wallpaper",
  "android.view.im",
  "android.max_aspect",
  "android.webkit.WebView.EnableSafeBrowsing",
  "android.webkit.WebView.MetricsOptOut",
  "com.google.android.wearable.standalone",
  "androidx.wear.tiles.PREVIEW",
];

/** Permissions that a component asks of who binds it, beside those of the platform. Source: developer.android.com, "Create your first tile in Wear OS". */
const BINDING_PERMISSIONS: readonly string[] = [
  "com.google.android.wearable.permission.BIND_TILE_PROVIDER",
  ...[...Object.values(COMPONENT_PERMISSIONS), ...Object.values(SYSTEM_BASES)].flatMap(({ asks }) => asks ?? []),
];

/** By the element and the attribute that has it, what names of the platform are known there, and how a message calls one. */
export const NAMES_IN_MANIFESTS: Readonly<Record<string, { attribute: string; what: string; known: readonly string[] }>> = {
  action: { attribute: "android:name", what: "action", known: [...INTENT_ACTIONS, ...SYSTEM_ACTIONS] },
  category: { attribute: "android:name", what: "category", known: INTENT_CATEGORIES },
  "uses-feature": { attribute: "android:name", what: "feature", known: FEATURES },
  "meta-data": { attribute: "android:name", what: "meta-data", known: META_DATA },
  service: { attribute: "android:permission", what: "permission", known: BINDING_PERMISSIONS },
  receiver: { attribute: "android:permission", what: "permission", known: BINDING_PERMISSIONS },
};
