import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet(
  'on: android, key: { name: mapKey, shape: "qm_(live|test)_[0-9a-f]{8}", secret: true, in: [ manifest: example.quaymap.KEY, plist: QuaymapKey ], environments: { test: "^qm_test", live: "^qm_live" } }',
);
const metaData = (value: string): string => `    <meta-data android:name="example.quaymap.KEY" android:value="${value}" />\n`;

export const shape = defineRule({
  name: "key/shape",
  severity: "error",
  title: "A key does not have the form that the vendor uses",
  looksAt:
    "Keys and ids at the places that a sheet names, against the pattern that it gives; says when the value has the form of another key.",
  why: "A key of another product, of the other side, or cut off when copied is refused by the vendor's server, and nothing in the app says so.",
  advice: "Copy the key again from the vendor's console.",
  examples: {
    reported: { ...quaymapAndroid({ application: metaData("qm_live_0123") }), ...sheet },
    silent: { ...quaymapAndroid({ application: metaData("qm_live_01234567") }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { kinds: ["key"], problems: ["shape"] });
  },
});
