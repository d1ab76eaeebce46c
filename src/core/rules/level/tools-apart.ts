import type { AndroidSide } from "../../model/app.js";
import type { LevelName } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf, type Value } from "../../model/value.js";
import { TOOL_COMPATIBILITY } from "../../knowledge/tool-compatibility.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const root = (version: string): string =>
  `buildscript {\n  repositories {\n    google()\n    mavenCentral()\n  }\n  dependencies {\n    classpath 'com.android.tools.build:gradle:${version}'\n  }\n}\n`;
const wrapper = "distributionUrl=https\\://services.gradle.org/distributions/gradle-8.2-bin.zip\n";

export const toolsApart = defineRule({
  name: "level/tools-apart",
  severity: "error",
  title: "Build tools that do not work together",
  looksAt:
    "The versions of the Android Gradle plugin, Gradle, Kotlin, the compile level and the daemon's JDK, against the tables that their vendors publish.",
  silentFor:
    "Apps without Gradle files in the tree: .NET, Unity without its own Gradle templates, Expo and Cordova before the native folders are made.",
  why: "The build stops with a message about something else, or warns in a log that nobody reads; an SDK upgrade that raises one of them pulls the others along.",
  advice: "Raise the tool that is too old to the version named.",
  examples: {
    reported: androidExample(androidBlock().replace("compileSdk 35", "compileSdk 34").replace("targetSdk 35", "targetSdk 34"), {
      "build.gradle": root("8.5.0"),
      "gradle/wrapper/gradle-wrapper.properties": wrapper,
    }),
    silent: androidExample(androidBlock().replace("compileSdk 35", "compileSdk 34").replace("targetSdk 35", "targetSdk 34"), {
      "build.gradle": root("8.2.0"),
      "gradle/wrapper/gradle-wrapper.properties": wrapper,
    }),
  },
  check({ app }) {
    const { android } = app;
    if (!android) return [];
    return TOOL_COMPATIBILITY.flatMap(({ tool, toolTitle, other, otherTitle, rows, severity, source }) => {
      const value = toolValue(android, tool);
      const otherValue = toolValue(android, other);
      const version = textOf(value);
      const otherVersion = textOf(otherValue);
      if (!value || !otherValue || version === undefined || otherVersion === undefined || !isLevel(version) || !isLevel(otherVersion))
        return [];
      const row = rows.findLast(({ from }) => compareLevels(version, from) >= 0);
      if (!row || compareLevels(otherVersion, row.needs) >= 0) return [];
      return [
        {
          side: "android" as const,
          severity,
          message: `${toolTitle} ${version} needs ${otherTitle} ${row.needs} or newer; this build has ${otherVersion} (${source})`,
          fix: `raise ${otherTitle} to ${row.needs} or newer`,
          places: uniquePlaces([otherValue.place, value.place]),
          subject: `${tool} ${other}`,
        },
      ];
    });
  },
});

function toolValue(android: AndroidSide, tool: LevelName): Value | undefined {
  // Gradle runs on the daemon's JDK; the level of the language is another thing.
  return tool === "java" ? android.build.daemonJdk : android.effective[tool];
}
