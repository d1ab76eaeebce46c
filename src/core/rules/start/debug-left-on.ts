import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

const needs = ["on: android, debugOnly: Quaymap.setVerbose"];

export const debugLeftOn = defineRule({
  name: "start/debug-left-on",
  severity: "warning",
  title: "Test mode or talkative logs reach release builds",
  looksAt:
    "Calls that a sheet lists under debugOnly, outside of conditions, flavors and source folders that only debug builds have; a condition may stand in a variable, in an early return, or be the argument itself. Calls that switch it off are right.",
  why: "A release that talks tells everybody's log what it knows; a test mode shows test data to real people.",
  advice: "Put the call behind a condition for debug builds.",
  examples: {
    reported: startExample({ onCreate: "    Quaymap.start(this)\n    Quaymap.setVerbose(true)\n", needs }),
    silent: startExample({ onCreate: "    Quaymap.start(this)\n    if (BuildConfig.DEBUG) Quaymap.setVerbose(true)\n", needs }),
  },
  check({ wires }) {
    return findingsFromFaults(wires, "debug");
  },
});
