import type { SdkCall } from "../../model/code.js";
import { sureWays, twoWays } from "../../needs/calls.js";
import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const startTwice = defineRule({
  name: "start/twice",
  severity: "warning",
  title: "An SDK is started twice",
  looksAt:
    "Start calls at two places that both run when the app comes up, without a condition that keeps them apart; one call that two ways lead to; an effect of a component that runs after every render; a start by hand beside the provider or initializer by which a sheet says that the SDK starts itself.",
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
    // Without a sheet: the same call to the letter, made twice. Of a type there may be several objects.
    const same = new Map<string, SdkCall[]>();
    for (const call of app.code?.calls ?? []) {
      if (call.kind !== "heuristicStart" || !call.exact || !/\.(start|init|initiali[sz]e|configure)$/i.test(call.callee)) continue;
      const key = `${call.sdk} ${call.side} ${call.callee} ${call.arguments.map(({ text }) => text).join()}`;
      same.set(key, [...(same.get(key) ?? []), call]);
    }
    for (const calls of same.values()) {
      const [first] = calls;
      const two = twoWays(sureWays(calls).filter(({ way }) => way.guards.length === 0));
      if (first && two)
        findings.push({
          side: first.side,
          sdk: first.sdk,
          message: `${first.callee} is called twice when the app comes up: ${two.words.join(" and ")}`,
          fix: "take one of the two calls out",
          places: two.places,
          subject: `${first.sdk} ${first.side} ${first.callee} twice`,
        });
    }
    return findings;
  },
});
