import { checkPackageNeed } from "../../needs/derived.js";
import { reactNativeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const wrapper = {
  "node_modules/chart-deck/package.json": '{ "name": "chart-deck", "version": "2.0.0" }',
  "node_modules/chart-deck/android/build.gradle":
    "apply plugin: 'com.android.library'\ndependencies {\n  implementation 'example.chartdeck:chartdeck-android:5.1.0'\n}\n",
};
const app = (version: string) => ({
  "android/app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n  }\n}\ndependencies {\n  implementation 'example.chartdeck:chartdeck-android:${version}'\n}\n`,
});

export const wrapperApart = defineRule({
  name: "version/wrapper-apart",
  severity: "error",
  title: "A wrapper was written for another native version",
  looksAt:
    "The native packages that a wrapper's podspec or android folder depends on, against the version that the app itself pins or locks. Gradle takes the higher of two versions: there only a forced lower one, or another major version, is reported.",
  silentFor: "Native apps: it compares what packages of shared code ask for.",
  why: "The wrapper calls what the native version does not have or has changed: it fails to compile, or at run time.",
  advice: "Remove the app's own pin, or bring it to the version that the wrapper requires.",
  examples: {
    reported: reactNativeExample({ "chart-deck": "2.0.0" }, { ...wrapper, ...app("4.8.0") }),
    silent: reactNativeExample({ "chart-deck": "2.0.0" }, { ...wrapper, ...app("5.1.0") }),
  },
  check({ app: model }) {
    return model.packageNeeds.flatMap((need) => {
      if (need.from === "peerDependencies" || need.requirement === undefined) return [];
      const result = checkPackageNeed(model, need);
      if (result.state !== "loose") return [];
      return [
        {
          side: need.side,
          sdk: need.sdk,
          message: `${need.by} requires ${need.name} ${need.requirement}; this app has ${result.found ?? "another version"}`,
          fix: `bring ${need.name} to a version in ${need.requirement}, or remove the app's own pin`,
          places: [...result.places, need.at],
          subject: `${need.by} ${need.name} ${need.requirement}`,
        },
      ];
    });
  },
});
