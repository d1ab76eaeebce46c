import { findingsFromWires } from "../from-wires.js";
import { androidBlock, androidExample, iosExample, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet(
  "on: both, key: { name: mapKey, sameOnBothSides: false, in: [ manifest: example.quaymap.KEY, plist: QuaymapKey ] }",
);
const sides = (ios: string) => ({
  ...Object.fromEntries(
    Object.entries(
      androidExample(`${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`, {
        "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application>\n    <meta-data android:name="example.quaymap.KEY" android:value="qm-android-1" />\n  </application>\n</manifest>\n`,
      }),
    ).map(([file, text]) => [`android/${file}`, text]),
  ),
  ...iosExample(
    { settings: "INFOPLIST_FILE = Pilot/Info.plist;" },
    {
      "ios/Podfile": "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n",
      "ios/Pilot/Info.plist": `<plist version="1.0">\n<dict>\n  <key>QuaymapKey</key>\n  <string>${ios}</string>\n</dict>\n</plist>\n`,
    },
    "ios/",
  ),
  ...sheet,
});

export const sidesSwapped = defineRule({
  name: "key/sides-swapped",
  severity: "error",
  title: "A side has the other side's key",
  looksAt: "Keys that must be different on each side, by the sheet's patterns for the two sides; one value on both sides.",
  silentFor: "Apps of one side only, and SDKs without a sheet.",
  why: "The vendor's server rejects the key, or counts one side as the other.",
  advice: "Put each side's own key there.",
  examples: { reported: sides("qm-android-1"), silent: sides("qm-ios-1") },
  check({ wires }) {
    return findingsFromWires(wires, { kinds: ["key"], problems: ["swapped"] });
  },
});
