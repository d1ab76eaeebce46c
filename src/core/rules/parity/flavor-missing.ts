import { startOf } from "../../model/place.js";
import { flutterExample, xcodeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const scheme = '<?xml version="1.0"?>\n<Scheme version="1.7" />\n';
const app = (...schemes: string[]) => ({
  ...flutterExample({
    "android/app/build.gradle.kts": [
      "    defaultConfig {",
      '    flavorDimensions += "stage"\n    productFlavors {\n        create("store") {\n            dimension = "stage"\n        }\n        create("staging") {\n            dimension = "stage"\n        }\n    }\n    defaultConfig {',
    ],
  }),
  "ios/Runner.xcodeproj/project.pbxproj": xcodeExample({
    configurations: ["Debug-store", "Release-store", "Debug-staging", "Release-staging"],
  }),
  ...Object.fromEntries(schemes.map((name) => [`ios/Runner.xcodeproj/xcshareddata/xcschemes/${name}.xcscheme`, scheme])),
});

export const flavorMissing = defineRule({
  name: "parity/flavor-missing",
  severity: "warning",
  title: "A flavour exists on one side only",
  looksAt:
    "The flavours of a Flutter app's Android side against the schemes and configurations of its Xcode project, by the names under which the framework asks for them; only where some of the flavours are there.",
  silentFor: "Every app but those of Flutter, and those whose Xcode project has none of the flavours.",
  why: "The build of that flavour fails on iOS, or uses the settings of another one.",
  advice:
    "Add a shared scheme with the flavour's name, and the configurations Debug-, Profile- and Release- with it; or rename them alike.",
  examples: { reported: app("store"), silent: app("store", "staging") },
  check({ app: { flavorGaps } }) {
    return flavorGaps.map(({ flavor, lacks, at, project }) => ({
      side: "ios" as const,
      message:
        lacks === "scheme"
          ? `the flavour ${flavor} of Android has no shared scheme of that name on iOS`
          : `the flavour ${flavor} of Android has no configuration Release-${flavor} on iOS`,
      fix: lacks === "scheme" ? `add a shared scheme ${flavor}` : `add the configurations of ${flavor}, and a scheme of that name`,
      places: [at, startOf(project)],
      subject: `${flavor} ${lacks}`,
    }));
  },
});
