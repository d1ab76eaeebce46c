import { quaymapAndroid, quaymapSheet, reactNativeExample } from "../examples.js";
import type { Example } from "../rule.js";

const SOURCES = "app/src/main/java/example/maresia/pilot";

export interface StartExample {
  /** The body of the application's `onCreate`. */
  onCreate: string;
  /** Further members of the application class. */
  members?: string;
  /** Further lines of the sheet's entry for the start. */
  start?: string;
  /** Further needs. */
  needs?: string[];
  files?: Example;
  application?: string;
}

/** An Android app with an application class, and a sheet that asks for `Quaymap.start` at launch. */
export function startExample({ onCreate, members = "", start = "", needs = [], files = {}, application = "" }: StartExample): Example {
  const manifest = `<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools" package="example.maresia.pilot">\n  <application android:name=".PilotApplication">\n${application}  </application>\n</manifest>\n`;
  return quaymapAndroid(
    {},
    {
      ...quaymapSheet(`on: android, start: { android: Quaymap.start, at: launch${start} }`, ...needs),
      "app/src/main/AndroidManifest.xml": manifest,
      [`${SOURCES}/PilotApplication.kt`]: `package example.maresia.pilot\n\nimport android.app.Application\nimport example.quaymap.Quaymap\n\nclass PilotApplication : Application() {\n  override fun onCreate() {\n    super.onCreate()\n${onCreate}  }\n${members}}\n`,
      ...files,
    },
  );
}

/** A React Native app that uses a package with native code; `app` is the file of its root component. */
export function scriptExample(app: string, needs: string[], more: Example = {}): Example {
  return reactNativeExample(
    { "@quaymap/react-native": "4.2.0" },
    {
      "node_modules/@quaymap/react-native/package.json": '{ "name": "@quaymap/react-native", "version": "4.2.0", "main": "index.js" }',
      "node_modules/@quaymap/react-native/android/build.gradle": "apply plugin: 'com.android.library'\n",
      "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages:\n  npm: "@quaymap/react-native"\nneeds:\n${needs.map((need) => `  - { ${need} }\n`).join("")}`,
      "index.js":
        'import { AppRegistry } from "react-native";\nimport App from "./App";\n\nAppRegistry.registerComponent("deckpass", () => App);\n',
      "App.tsx": app,
      ...more,
    },
  );
}

/** A second sheet, for an SDK that `quaymap` has to do with. */
export const brinelogSheet: Example = {
  "enredo/sheets/brinelog.sdk.yaml":
    "sdk: brinelog\npackages:\n  maven: example.brinelog:brinelog-android\nneeds:\n  - on: android\n    start: { android: Brinelog.start, at: launch }\n",
  "app/build.gradle":
    "apply plugin: 'com.android.application'\n\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n  }\n}\ndependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n  implementation 'example.brinelog:brinelog-android:2.1.0'\n}\n",
};
