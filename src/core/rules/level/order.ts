import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf, type Value } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const levelOrder = defineRule({
  name: "level/order",
  severity: "error",
  title: "Minimum, target and compile level are out of order",
  looksAt: "minSdk, targetSdk and compileSdk of the app's module.",
  why: "minSdk ≤ targetSdk ≤ compileSdk must hold: a target above the compile level claims behaviour that the code was never compiled against, and the build tools reject a minimum above the target.",
  advice: "Raise compileSdk first, then targetSdk; lower minSdk only if the app really supports it.",
  examples: {
    reported: androidExample(androidBlock("minSdk 24\n    targetSdk 36")),
    silent: androidExample(androidBlock("minSdk 24\n    targetSdk 35")),
  },
  check({ app }) {
    const { effective } = app.android ?? {};
    if (!effective) return [];
    const pairs = [
      ["minSdk", "targetSdk"],
      ["targetSdk", "compileSdk"],
      ["minSdk", "compileSdk"],
    ] as const;
    const findings: RawFinding[] = [];
    for (const [low, high] of pairs) {
      const a = textOf(effective[low]);
      const b = textOf(effective[high]);
      if (a === undefined || b === undefined || !isLevel(a) || !isLevel(b) || compareLevels(a, b) <= 0) continue;
      findings.push({
        side: "android",
        message: `${low} ${a} is higher than ${high} ${b}`,
        fix: `raise ${high} to at least ${a}`,
        places: uniquePlaces([effective[high]?.place, effective[low]?.place]),
        subject: `${low} ${high}`,
        quickFix: [{ do: "replace", at: (effective[high] as Value).place, from: b, to: a }],
      });
    }
    return findings.slice(0, 2);
  },
});
