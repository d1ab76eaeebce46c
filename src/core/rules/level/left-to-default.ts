import { sideOf, sideOfLevel } from "../../model/app.js";
import { statementsOf } from "../../derive/level-statements.js";
import { textOf } from "../../model/value.js";
import { compareLevels } from "../../versions/level.js";
import { androidBlock, reactNativeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const chart = {
  "node_modules/chart-deck/package.json": '{ "name": "chart-deck", "version": "2.0.0" }',
  "node_modules/chart-deck/android/build.gradle": "android {\n  defaultConfig {\n    minSdkVersion 26\n  }\n}\n",
};

export const leftToDefault = defineRule({
  name: "level/left-to-default",
  severity: "warning",
  title: "A level is left to a default, but an SDK requires a certain one",
  looksAt: "Levels that the project does not set itself, where an installed package requires one.",
  why: "A default changes with the framework or the build tools, and nobody notices. When it is lower than what the package requires, the build fails or the app crashes on old devices.",
  advice: "Set the level in the app's own build file, at least as high as the package requires.",
  examples: {
    reported: reactNativeExample(
      { "chart-deck": "2.0.0" },
      { ...chart, "android/app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock("targetSdk 35")}` },
    ),
    silent: reactNativeExample(
      { "chart-deck": "2.0.0" },
      { ...chart, "android/app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock("minSdk 26")}` },
    ),
  },
  check({ app }) {
    // eslint-disable-next-line complexity -- one question after the other for each level
    return (["minSdk", "iosTarget"] as const).flatMap((level) => {
      const side = sideOf(app, sideOfLevel(level));
      if (!side || statementsOf(app, level).length > 0) return [];
      // Expo's template states levels, and is not here where the framework is not installed.
      if (app.kind === "expo" && side.generated && app.shared?.framework?.installed === undefined) return [];
      // The values that other parts state (Podfile, project) are statements too.
      if (side.levels.some((fact) => fact.level === level && fact.owner !== "module")) return [];
      const asks = app.requiredLevels.filter((required) => required.level === level && textOf(required.value) !== undefined);
      const highest = asks.sort((a, b) => compareLevels(textOf(b.value) ?? "0", textOf(a.value) ?? "0"))[0];
      if (!highest) return [];
      const known = side.defaults[level];
      const has = known ? textOf(known.value) : side.defaultAtLeast?.[level];
      if (has !== undefined && compareLevels(has, textOf(highest.value) ?? "0") >= 0) return [];
      const file =
        app.android && side === app.android ? (app.android.module.buildFile ?? app.android.folder) : (app.ios?.projectFile ?? app.path);
      if (app.broken.has(file)) return [];
      // Expo's configuration states levels by a plugin alone. Source: docs.expo.dev, "BuildProperties".
      const by = app.kind === "expo" && /\.(json|[cm]?[jt]s)$/.test(file) ? ", with the plugin expo-build-properties" : "";
      return [
        {
          side: side.side,
          sdk: highest.sdk,
          message: `${known ? `${level} is left to ${known.from}'s default` : `nothing in the project sets ${level}`}, but ${highest.by} needs ${textOf(highest.value) ?? ""}`,
          fix: `set ${level} to ${textOf(highest.value) ?? ""} or higher in ${file}${by}`,
          places: [side.leftTo?.[level] ?? { file, line: 1, column: 1 }, highest.value.place],
          subject: `${level} ${highest.by} ${textOf(highest.value) ?? ""}`,
        },
      ];
    });
  },
});
