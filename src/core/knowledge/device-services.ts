/**
 * Interfaces of .NET MAUI to the device, which its builder does not register: an app that has them injected registers each, best the default of the class
 * of the same name. Source: learn.microsoft.com, ".NET MAUI, Access the device's sensors … (platform integration)" and "Dependency injection" (register
 * `Connectivity.Current` for `IConnectivity`); written down 2026-12-02, from memory.
 */
export const DEVICE_SERVICES: ReadonlySet<string> = new Set(
  (
    "Accelerometer AppActions AppInfo Barometer Battery Browser Clipboard Compass Connectivity Contacts DeviceDisplay DeviceInfo Email FilePicker " +
    "FileSystem Flashlight Geocoding Geolocation Gyroscope HapticFeedback Launcher Magnetometer Map MediaPicker OrientationSensor PhoneDialer Preferences " +
    "Screenshot SecureStorage SemanticScreenReader Share Sms TextToSpeech VersionTracking Vibration WebAuthenticator"
  )
    .split(" ")
    .map((name) => `I${name}`),
);
