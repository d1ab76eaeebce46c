import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet(
  'on: android, key: { name: mapKey, shape: "qm_(live|test)_[0-9a-f]{8}", secret: true, in: [ manifest: example.quaymap.KEY, plist: QuaymapKey ], environments: { test: "^qm_test", live: "^qm_live" } }',
);
const metaData = (value: string): string => `    <meta-data android:name="example.quaymap.KEY" android:value="${value}" />\n`;

export const environment = defineRule({
  name: "key/environment",
  severity: "error",
  title: "A test key in a release build",
  looksAt: "Keys per build type, flavour and configuration, against the patterns by which a sheet tells test keys from production keys.",
  why: "Real users' data lands in the test project and payments are not taken; or test data spoils the production figures.",
  advice: "Give each variant its own key.",
  examples: {
    reported: { ...quaymapAndroid({ application: metaData("qm_test_01234567") }), ...sheet },
    silent: { ...quaymapAndroid({ application: metaData("qm_live_01234567") }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { kinds: ["key"], problems: ["environment"] });
  },
});
