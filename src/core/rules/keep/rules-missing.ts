import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet('on: android, keepRule: "-keep class example.quaymap.**"');
const shrinking = "  buildTypes {\n    release {\n      minifyEnabled true\n      proguardFiles 'rules.pro'\n    }\n  }\n";

export const rulesMissing = defineRule({
  name: "keep/rules-missing",
  severity: "error",
  title: "Keep rules are missing",
  looksAt:
    "Whether release builds shrink their code, the rules files that they name, the consumer rules of modules and installed libraries, against the rules that sheets give.",
  silentFor: "iOS; .NET and Unity builds that state no shrinking in the files.",
  why: "The release build loses classes that the SDK looks up by name: it works in debug and fails in the store.",
  advice: "Add the rule to a rules file that the release build uses.",
  examples: {
    reported: { ...quaymapAndroid({ android: shrinking }, { "app/rules.pro": "-keep class example.tollbuoy.** { *; }\n" }), ...sheet },
    silent: { ...quaymapAndroid({ android: shrinking }, { "app/rules.pro": "-keep class example.quaymap.** { *; }\n" }), ...sheet },
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "keep/rules-missing" });
  },
});
