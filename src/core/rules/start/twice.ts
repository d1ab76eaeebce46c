import type { SdkCall } from "../../model/code.js";
import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const startTwice = defineRule({
  name: "start/twice",
  severity: "warning",
  title: "An SDK is started twice",
  looksAt:
    "Start calls at two places that both run when the app comes up, without a condition that keeps them apart; a start by hand beside the provider or initializer by which a sheet says that the SDK starts itself.",
  why: "The second start throws away the settings of the first, or runs into an error of the SDK.",
  advice: "Start it once.",
  examples: {
    reported: startExample({
      onCreate: "    Quaymap.start(this)\n    setUp()\n",
      members: "\n  private fun setUp() {\n    Quaymap.start(this)\n  }\n",
    }),
    silent: startExample({
      onCreate: "    if (BuildConfig.DEBUG) {\n      Quaymap.start(this)\n    } else {\n      setUp()\n    }\n",
      members: "\n  private fun setUp() {\n    Quaymap.start(this)\n  }\n",
    }),
  },
  check({ app, wires }) {
    const findings = findingsFromFaults(wires, "twice");
    // Without a sheet: the same call to the letter, made twice.
    const seen = new Map<string, SdkCall>();
    for (const call of app.code?.calls ?? []) {
      if (
        call.kind !== "heuristicStart" ||
        call.reach !== "entry" ||
        !call.ordered ||
        call.doubtful ||
        call.guards.length > 0 ||
        !/\.(start|init|initiali[sz]e|configure)$/i.test(call.callee)
      )
        continue;
      const key = `${call.sdk} ${call.side} ${call.callee} ${call.arguments.map(({ text }) => text).join()}`;
      const first = seen.get(key);
      if (!first) seen.set(key, call);
      else if (first.at.file !== call.at.file || first.at.line !== call.at.line)
        findings.push({
          side: call.side,
          sdk: call.sdk,
          message: `${call.callee} is called twice when the app comes up: in ${first.within} and in ${call.within}`,
          fix: "take one of the two calls out",
          places: [first.at, call.at],
          subject: `${call.sdk} ${call.side} ${call.callee} twice`,
        });
    }
    return findings;
  },
});
