import { textOf } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** How many third-party packages make the limit of 65,536 methods a near certainty rather than a guess. */
const MANY = 6;

const packages = ["quaymap-android", "brinelog-android", "tollbuoy-android", "gullpost-android", "tidewire-android", "moorid-android"];
const dependencies = `dependencies {\n${packages.map((name) => `  implementation 'example.${name.split("-")[0] ?? ""}:${name}:1.0.0'`).join("\n")}\n}\n`;

export const methodLimit = defineRule({
  name: "level/method-limit",
  severity: "warning",
  title: "Too many methods for old systems",
  looksAt: "A minimum level under 21 without multidex, in an app with many third-party packages.",
  silentFor: "iOS, and apps whose minSdk is not in the files.",
  why: "One dex file holds 65,536 methods. From level 21 on the system loads several by itself; below, the app needs the multidex library or the build stops.",
  advice: "Set multiDexEnabled true and add the multidex library, or raise minSdk to 21.",
  examples: {
    reported: androidExample(androidBlock("minSdk 19\n    targetSdk 35") + dependencies),
    silent: androidExample(androidBlock("minSdk 19\n    targetSdk 35\n    multiDexEnabled true") + dependencies),
  },
  check({ app }) {
    const value = app.android?.effective.minSdk;
    const text = textOf(value);
    if (!app.android || !value || text === undefined || !isLevel(text) || compareLevels(text, "21") >= 0) return [];
    const multidex = app.android.module.settings.some(
      (setting) => setting.name === "multiDexEnabled" && textOf(setting.values[0]) !== "false",
    );
    const packages_ = new Set(
      app.dependencies.flatMap((dependency) =>
        dependency.side === "android" && dependency.direct && !dependency.test && !dependency.platform ? dependency.name : [],
      ),
    );
    if (multidex || packages_.size < MANY) return [];
    return [
      {
        side: "android",
        message: `minSdk ${text} with ${packages_.size} third-party packages and no multidex: the limit on methods is near`,
        fix: "set multiDexEnabled true and add the multidex library, or raise minSdk to 21",
        places: [value.place],
        subject: "minSdk",
      },
    ];
  },
});
