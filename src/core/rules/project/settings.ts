import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** Reported by the run itself, which reads the settings; the rule holds what is said about it. */
export const settingsRule = defineRule({
  name: "project/settings",
  severity: "error",
  title: "The tool's own settings are wrong",
  looksAt:
    "enredo.yaml and the sheets: unknown keys, values of the wrong form, rules that do not exist, accepted findings without a reason, pairs of folders without an app, two sheets for one SDK; as a note, a sheet that requires less than the package's own files.",
  why: "A misspelt setting does nothing, and nobody notices.",
  advice: "Correct the line named; the message suggests the nearest known word.",
  examples: {
    reported: androidExample(androidBlock(), { "enredo.yaml": "acept:\n  - rule: version/floating\n" }),
    silent: androidExample(androidBlock(), { "enredo.yaml": "accept: []\n" }),
  },
  checkProject: ({ apps, unpaired }) => [
    ...unpaired.map(({ side, folder, at }) => ({
      message: `pair names ${folder}, but there is no ${side === "ios" ? "Xcode project" : "Android app"}`,
      fix: "write the folder of the app, relative to the folder that is checked",
      places: [at],
      subject: `pair ${side} ${folder}`,
    })),
    ...apps.flatMap(({ sheetDifferences }) =>
      sheetDifferences.map(({ sdk, level, sheet, own, by }) => ({
        sdk,
        severity: "note" as const,
        message: `the sheet of ${sdk} requires ${level} ${textOf(sheet) ?? ""}, but the files of ${by} require ${textOf(own) ?? ""}`,
        fix: "correct the sheet, or state in it from which version on the level applies",
        places: [sheet.place, own.place],
        subject: `${sdk} ${level}`,
      })),
    ),
  ],
});
