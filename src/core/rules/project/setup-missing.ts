import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, gradleProperty: { name: quaymap.tiles, value: large }");

export const setupMissing = defineRule({
  name: "project/setup-missing",
  severity: "error",
  title: "A setting that an SDK needs in the build or the framework's configuration is missing or different",
  looksAt:
    "Gradle properties, string resources, calls in the Podfile, options that the framework's configuration passes to packages, and its list of config plugins, against what sheets require.",
  why: "The SDK is built or set up in a way that its vendor does not intend, or not at all.",
  advice: "Add the setting to the file named.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({}, { "gradle.properties": "quaymap.tiles=large\n" }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "project/setup-missing" });
  },
});
