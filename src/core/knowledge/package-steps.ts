/**
 * What packages of scripts ask for besides a line in package.json, where nothing of them is installed that says so: each with its source, the documents of
 * the package; written down 2026-12-02, from memory.
 */
export interface PackageStep {
  package: string;
  /** The major versions that ask for it: from this one on, and below that one. */
  from?: number;
  below?: number;
  /** A plugin of the script compiler, or a script that the Android app applies. */
  in: "babel" | "gradle";
  /** How it is written there. */
  form: RegExp;
  what: string;
  /** Whether it has to be the last of the list. */
  isLast?: boolean;
  without: string;
}

export const PACKAGE_STEPS: readonly PackageStep[] = [
  {
    // The documents of react-native-reanimated 3, "Getting started" ("has to be listed last").
    package: "react-native-reanimated",
    below: 4,
    in: "babel",
    form: /react-native-reanimated\/plugin/,
    what: "react-native-reanimated/plugin",
    isLast: true,
    without: "worklets are no worklets, and the first animation fails",
  },
  {
    // The documents of react-native-reanimated 4, "Getting started" (the plugin is that of react-native-worklets; the old name hands on to it).
    package: "react-native-reanimated",
    from: 4,
    in: "babel",
    form: /react-native-(?:worklets|reanimated)\/plugin/,
    what: "react-native-worklets/plugin",
    isLast: true,
    without: "worklets are no worklets, and the first animation fails",
  },
  {
    // The README of react-native-config, "Setup, Android".
    package: "react-native-config",
    in: "gradle",
    form: /\bdotenv\.gradle\b/,
    what: "its script dotenv.gradle",
    without: "on Android every value is undefined",
  },
];

/** Packages that others ask for as their peers. Sources: package.json of the package, in the major version named. */
export const PACKAGE_PEERS: readonly { package: string; from: number; needs: readonly string[] }[] = [
  { package: "@react-navigation/native-stack", from: 6, needs: ["react-native-screens", "react-native-safe-area-context"] },
  { package: "@react-navigation/bottom-tabs", from: 6, needs: ["react-native-screens", "react-native-safe-area-context"] },
  { package: "@react-navigation/stack", from: 6, needs: ["react-native-gesture-handler", "react-native-safe-area-context"] },
  { package: "@react-navigation/drawer", from: 7, needs: ["react-native-gesture-handler", "react-native-reanimated"] },
  { package: "react-native-reanimated", from: 4, needs: ["react-native-worklets"] },
];
