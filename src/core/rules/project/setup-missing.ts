import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, gradleProperty: { name: quaymap.tiles, value: large }");

export const setupMissing = defineRule({
  name: "project/setup-missing",
  severity: "error",
  title: "A setting that an SDK needs in the build or the framework's configuration is missing or different",
  looksAt:
    "Gradle properties, string resources, calls in the Podfile, options that the framework's configuration passes to packages, and its list of config plugins, against what sheets require. What some widely used packages need once where the app begins: a view around the others, or a call; plugins of the script compiler, scripts of Gradle and other packages that some of them ask for.",
  why: "The SDK is built or set up in a way that its vendor does not intend, or not at all.",
  advice: "Add the setting to the file named.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({}, { "gradle.properties": "quaymap.tiles=large\n" }), ...sheet },
  },
  check({ app, wires }) {
    return [
      ...findingsFromWires(wires, { rule: "project/setup-missing" }),
      ...(app.code?.lackingRoots ?? []).map(({ package: name, what, without, at, isStep }) => ({
        side: "shared" as const,
        message: isStep
          ? `${name} needs ${what}, which is not there: ${without}`
          : `code uses ${name}, and nothing in the app has ${what}: ${without}`,
        fix: isStep ? `add it, as the documents of ${name} say` : `add ${what} where the app begins, as the documents of ${name} say`,
        places: [at],
        subject: `root ${name} ${what}`,
      })),
    ];
  },
});
