import { findingsFromWires } from "../from-wires.js";
import { quaymapIos, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, purposeText: NSLocationWhenInUseUsageDescription");

export const purposeMissing = defineRule({
  name: "permit/purpose-missing",
  severity: "error",
  title: "A purpose text is missing or empty",
  looksAt: "The purpose texts in the property lists of all configurations, against what sheets ask for.",
  why: "The system ends the app at the moment it asks for the resource, and the store rejects it.",
  advice: "Say in one sentence, in the reader's language, what the app uses the resource for.",
  examples: {
    reported: { ...quaymapIos(), ...sheet },
    silent: { ...quaymapIos("  <key>NSLocationWhenInUseUsageDescription</key>\n  <string>Shows where the ferry is.</string>\n"), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "permit/purpose-missing" });
  },
});
