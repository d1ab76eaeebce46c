/**
 * Events that plugins of Capacitor send, by the package and the object that it gives out: a listener of another name is never called. Source:
 * capacitorjs.com, the API of each plugin (addListener), major versions 4 to 7; written down 2026-12-02, from memory.
 */
export const PLUGIN_EVENTS: readonly { package: string; object: string; events: readonly string[] }[] = [
  {
    package: "@capacitor/push-notifications",
    object: "PushNotifications",
    events: ["registration", "registrationError", "pushNotificationReceived", "pushNotificationActionPerformed"],
  },
  {
    package: "@capacitor/local-notifications",
    object: "LocalNotifications",
    events: ["localNotificationReceived", "localNotificationActionPerformed"],
  },
  {
    package: "@capacitor/app",
    object: "App",
    events: ["appStateChange", "pause", "resume", "appUrlOpen", "appRestoredResult", "backButton"],
  },
  { package: "@capacitor/network", object: "Network", events: ["networkStatusChange"] },
  {
    package: "@capacitor/keyboard",
    object: "Keyboard",
    events: ["keyboardWillShow", "keyboardDidShow", "keyboardWillHide", "keyboardDidHide"],
  },
  { package: "@capacitor/browser", object: "Browser", events: ["browserFinished", "browserPageLoaded"] },
];
