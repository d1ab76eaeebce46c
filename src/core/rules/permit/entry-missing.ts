import { findingsFromWires } from "../from-wires.js";
import { quaymapIos, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, backgroundMode: location");

export const entryMissing = defineRule({
  name: "permit/entry-missing",
  severity: "error",
  title: "An entry that an SDK needs is missing",
  looksAt:
    "Components, meta-data and features of the manifest, entries of the property list, entitlements and background modes, against what sheets require.",
  why: "The SDK is installed but part of it never runs: no message arrives, no file is shared, its settings do not reach it.",
  advice: "Add the entry to the file named, for all variants that ship.",
  examples: {
    reported: { ...quaymapIos(), ...sheet },
    silent: { ...quaymapIos("  <key>UIBackgroundModes</key>\n  <array>\n    <string>location</string>\n  </array>\n"), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "permit/entry-missing" });
  },
});
