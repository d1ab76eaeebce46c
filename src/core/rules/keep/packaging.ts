import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, packaging: { option: pickFirst, value: lib/x86/libtiles.so }");

export const packaging = defineRule({
  name: "keep/packaging",
  severity: "error",
  title: "A packaging option or linker flag is missing",
  looksAt: "Packaging options on Android, linker flags and search paths on iOS, against what sheets ask for.",
  silentFor: "What only a sheet can tell: without one it is silent.",
  why: "Two libraries bring the same file and the build stops, or a category of the SDK is left out of the app and its calls fail.",
  advice: "Add the option that is named.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({ android: "  packagingOptions {\n    pickFirst 'lib/x86/libtiles.so'\n  }\n" }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "keep/packaging" });
  },
});
