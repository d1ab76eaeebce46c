import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const startMissing = defineRule({
  name: "start/missing",
  severity: "error",
  title: "An SDK is in, and nothing starts it",
  looksAt:
    "The start calls that sheets name, in the syntax trees of the app's own Kotlin, Java, Swift, Objective-C, JavaScript, TypeScript, Dart and C# files, and the providers and initializers of the merged manifest. Where the words of the call stand in a file and no call of it can be made out, nothing is said.",
  why: "The SDK is built in and does nothing: no reports, no messages, no map.",
  advice: "Call the start as the vendor describes it, where the app starts.",
  examples: { reported: startExample({ onCreate: "" }), silent: startExample({ onCreate: "    Quaymap.start(this)\n" }) },
  check({ wires }) {
    return findingsFromFaults(wires, "absent");
  },
});
