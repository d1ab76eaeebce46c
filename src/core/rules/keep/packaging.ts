import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, packaging: { option: pickFirst, value: lib/x86/libtiles.so }");

export const packaging = defineRule({
  name: "keep/packaging",
  severity: "error",
  title: "A packaging option or linker flag is missing",
  looksAt: "Packaging options on Android, linker flags and search paths on iOS, against what sheets require.",
  silentFor: "Only a sheet can tell: without one, the rule is silent.",
  why: "Two libraries contain the same file and the build stops, or a category of the SDK is left out of the app and its calls fail.",
  advice: "Add the option that the finding names.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({ android: "  packagingOptions {\n    pickFirst 'lib/x86/libtiles.so'\n  }\n" }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "keep/packaging" });
  },
});
