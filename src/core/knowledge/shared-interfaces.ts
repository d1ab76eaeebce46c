import type { AppKind } from "../model/app.js";

/** A call of a framework's own interface from code that both phones run. */
export interface SharedInterface {
  /** How the code calls it. */
  name: string;
  kinds: readonly AppKind[];
  /** The call, without comments. */
  pattern: RegExp;
  /** What shows that it is meant otherwise. */
  unless?: RegExp;
  /** The module that a file has to bring in. */
  imports: string;
  /** Names of which it has to take one from there. */
  from?: string;
  /** The one phone that it is for; or an entry of the property list that goes with it. */
  needs: { phone: "android" | "ios" } | { plist: PlistNeed };
  /** What happens otherwise, as a sentence goes on. */
  otherwise: string;
}

/** What the property list has to say. */
export interface PlistNeed {
  key: string;
  /** What its value is where the call does what it should; `undefined` of what a list has to have one of. */
  right: RegExp;
  /** Whether it does so too where the key is not there. */
  orAbsent: boolean;
  fix: string;
}

const REACT: readonly AppKind[] = ["react-native", "expo"];

const one = (
  kinds: readonly AppKind[],
  imports: string,
  phone: "android" | "ios",
  name: string,
  pattern: RegExp,
  otherwise: string,
  unless?: RegExp,
): SharedInterface => ({ kinds, imports, name, pattern, needs: { phone }, otherwise, ...(unless ? { unless } : {}) });

/** What a key of the device does, which one phone has. */
const BACK = /back_?button|hardwareBackPress/i;

const reactNative = (phone: "android" | "ios", name: string, pattern: RegExp, otherwise: string): SharedInterface => ({
  ...one(REACT, "react-native", phone, name, pattern, otherwise, BACK),
  from: name.split(".")[0] as string,
});
const ofCapacitor = (module: string, phone: "android" | "ios", name: string, pattern: RegExp): SharedInterface =>
  one(["capacitor"], `@capacitor/${module}`, phone, name, pattern, "it is refused", BACK);

const FOLLOWS_STYLE: PlistNeed = {
  key: "UIUserInterfaceStyle",
  right: /^Automatic$/,
  orAbsent: true,
  fix: "remove UIUserInterfaceStyle from the property list, or do without the dark style on both sides",
};

/**
 * Sources: reactnative.dev, "ActionSheetIOS", "ToastAndroid", "PermissionsAndroid", "Alert" (prompt), "Linking" (sendIntent), "DrawerLayoutAndroid", "Settings", "StatusBar",
 * "Appearance", docs.expo.dev, "Color themes", and the sources of the framework for the other platform; api.flutter.dev, `AndroidView`, `UiKitView`, `MaterialApp.darkTheme`,
 * `SystemChrome.setPreferredOrientations`; capacitorjs.com, "App API", "Keyboard API", "Push Notifications API", "Local Notifications API", "Status Bar API"; cordova.apache.org,
 * "Android Platform Guide" (navigator.app); developer.apple.com, "UIUserInterfaceStyle", "UIViewControllerBasedStatusBarAppearance",
 * "UISupportedInterfaceOrientations", as known 2026-12-01.
 */
export const SHARED_INTERFACES: readonly SharedInterface[] = [
  reactNative("ios", "ActionSheetIOS", /\bActionSheetIOS\s*\.\s*show\w+\s*\(/, "the app ends there"),
  reactNative("android", "ToastAndroid", /\bToastAndroid\s*\.\s*show\w*\s*\(/, "nothing is shown"),
  reactNative(
    "android",
    "PermissionsAndroid",
    /\bPermissionsAndroid\s*\.\s*(?:request|requestMultiple|check)\s*\(/,
    "it counts as refused",
  ),
  reactNative("ios", "Alert.prompt", /\bAlert\s*\.\s*prompt\s*\(/, "nothing is shown"),
  reactNative("android", "Linking.sendIntent", /\bLinking\s*\.\s*sendIntent\s*\(/, "it fails"),
  reactNative("android", "DrawerLayoutAndroid", /<DrawerLayoutAndroid\b/, "nothing of it is shown"),
  reactNative("ios", "Settings", /\bSettings\s*\.\s*(?:get|set|watchKeys)\s*\(/, "it keeps nothing"),
  one(["flutter"], "package:flutter/", "android", "AndroidView", /\bAndroidView\s*\(/, "the view is not made"),
  one(["flutter"], "package:flutter/", "ios", "UiKitView", /\bUiKitView\s*\(/, "the view is not made"),
  ofCapacitor("app", "android", "App.exitApp", /\bApp\s*\.\s*(?:exitApp|minimizeApp)\s*\(/),
  ofCapacitor("keyboard", "ios", "Keyboard", /\bKeyboard\s*\.\s*(?:setAccessoryBarVisible|setScroll|setStyle|setResizeMode)\s*\(/),
  ofCapacitor(
    "push-notifications",
    "android",
    "PushNotifications.createChannel",
    /\bPushNotifications\s*\.\s*(?:createChannel|deleteChannel|listChannels)\s*\(/,
  ),
  ofCapacitor(
    "local-notifications",
    "android",
    "LocalNotifications.createChannel",
    /\bLocalNotifications\s*\.\s*(?:createChannel|deleteChannel|listChannels)\s*\(/,
  ),
  one(
    ["cordova"],
    "",
    "android",
    "navigator.app",
    /\bnavigator\s*\.\s*app\s*\.\s*(?:exitApp|backHistory|clearHistory|overrideBackbutton)\s*\(/,
    "the script ends there",
    BACK,
  ),
  {
    name: "StatusBar",
    kinds: ["react-native"],
    imports: "react-native",
    from: "StatusBar",
    pattern: /<StatusBar\b[^>]*\b(?:barStyle|hidden)\b|\bStatusBar\s*\.\s*(?:setBarStyle|setHidden)\s*\(/,
    needs: {
      plist: {
        key: "UIViewControllerBasedStatusBarAppearance",
        right: /^(false|no)$/i,
        orAbsent: false,
        fix: "add UIViewControllerBasedStatusBarAppearance with the value NO to the property list",
      },
    },
    otherwise: "it stays as it is",
  },
  {
    name: "the style that the system has",
    kinds: ["react-native"],
    imports: "react-native",
    from: "useColorScheme|Appearance",
    pattern: /\buseColorScheme\s*\(|\bAppearance\s*\.\s*(?:getColorScheme|addChangeListener)\s*\(/,
    needs: { plist: FOLLOWS_STYLE },
    otherwise: "it is always the same there",
  },
  {
    name: "the style that the system has",
    kinds: ["expo"],
    imports: "react-native",
    from: "useColorScheme|Appearance",
    pattern: /\buseColorScheme\s*\(|\bAppearance\s*\.\s*(?:getColorScheme|addChangeListener)\s*\(/,
    needs: { plist: { ...FOLLOWS_STYLE, fix: 'write "userInterfaceStyle": "automatic" in the configuration' } },
    otherwise: "it is always the same there",
  },
  {
    name: "darkTheme",
    kinds: ["flutter"],
    imports: "package:flutter/",
    unless: /\bThemeMode\s*\.\s*(?:light|dark)\b/,
    pattern: /\bdarkTheme\s*:|\bplatformBrightnessOf\s*\(/,
    needs: { plist: FOLLOWS_STYLE },
    otherwise: "it is always the same there",
  },
];
