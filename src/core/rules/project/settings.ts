import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** Reported by the run itself, which reads the settings; the rule holds what is said about it. */
export const settingsRule = defineRule({
  name: "project/settings",
  severity: "error",
  title: "The tool's own settings are wrong",
  looksAt:
    "enredo.yaml: unknown keys, values of the wrong form, rules that do not exist, accepted findings without a reason or past their date.",
  why: "A setting that is misspelt does nothing, and nobody notices.",
  mend: "Correct the line named; the message suggests the nearest known word.",
  examples: {
    reported: androidExample(androidBlock(), { "enredo.yaml": "acept:\n  - rule: version/floating\n" }),
    silent: androidExample(androidBlock(), { "enredo.yaml": "accept: []\n" }),
  },
  checkProject: () => [],
});
