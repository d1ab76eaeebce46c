import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

export const withdrawn = defineRule({
  name: "version/withdrawn",
  severity: "warning",
  title: "A version or call that the vendor has withdrawn",
  looksAt: "Versions and calls that a sheet marks as withdrawn, against the installed version and the names in the app's source files.",
  why: "The vendor no longer fixes it, and its service can stop answering this version on any day.",
  advice: "Use the replacement that the sheet names.",
  examples: {
    reported: { ...quaymapAndroid(), ...quaymapSheet('on: android, withdrawn: { versions: "[4.0,4.3)", instead: "4.3 or newer" }') },
    silent: { ...quaymapAndroid(), ...quaymapSheet('on: android, withdrawn: { versions: "[4.0,4.2)", instead: "4.2 or newer" }') },
  },
  check({ wires }) {
    return findingsFromWires(wires, { kinds: ["withdrawn"], problems: [undefined] });
  },
});
