import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, permission: android.permission.ACCESS_FINE_LOCATION");

export const permissionMissing = defineRule({
  name: "permit/permission-missing",
  severity: "error",
  title: "A permission that an SDK needs is missing",
  looksAt: "The permissions in the app's manifests, its modules' and those that installed libraries bring, against what sheets require.",
  why: "The call that needs it fails on the device, often without a message.",
  advice: "Add the permission to the main manifest.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({ manifest: `  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n` }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "permit/permission-missing" });
  },
});
