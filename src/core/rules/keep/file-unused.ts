import type { App } from "../../model/app.js";
import type { QuickFix } from "../../model/quick-fix.js";
import { textOf } from "../../model/value.js";
import { quaymapAndroid } from "../examples.js";
import { defineRule } from "../rule.js";

const rules = { "app/proguard-quaymap.pro": "-keep class example.quaymap.** { *; }\n" };
const shrinking = (files: string): string =>
  `  buildTypes {\n    release {\n      minifyEnabled true\n      proguardFiles ${files}\n    }\n  }\n`;

export const fileUnused = defineRule({
  name: "keep/file-unused",
  severity: "warning",
  title: "A keep rules file that no build type uses",
  looksAt: "Keep rules files in the application's folder that are not empty, where a release build shrinks its code.",
  silentFor: "iOS, .NET and Expo before the native folders are made: no Gradle script names rules files there.",
  why: "Somebody wrote the rules for an SDK, but the build does not read them.",
  advice: "Add the file to the build type's proguardFiles, or delete it.",
  examples: {
    reported: quaymapAndroid({ android: shrinking("'proguard-rules.pro'") }, { ...rules, "app/proguard-rules.pro": "# none\n" }),
    silent: quaymapAndroid(
      { android: shrinking("'proguard-rules.pro', 'proguard-quaymap.pro'") },
      { ...rules, "app/proguard-rules.pro": "# none\n" },
    ),
  },
  check({ app }) {
    const shrunk = app.shrink.filter(({ enabled }) => textOf(enabled) !== "false");
    if (shrunk.length === 0) return [];
    const named = new Set(shrunk.flatMap(({ files }) => files.map(({ resolved }) => resolved)));
    return app.rulesFiles.flatMap(({ file, rules: own, by }) => {
      const [first] = own;
      if (by !== undefined || named.has(file) || !first) return [];
      return [
        {
          side: "android" as const,
          message: `${file} has ${own.length} ${own.length === 1 ? "rule" : "rules"}, but no release build uses the file`,
          fix: "add it to the build type's proguardFiles, or delete it",
          places: [first.at],
          subject: file.split("/").at(-1) ?? file,
          ...nameBehind(shrunk, file),
        },
      ];
    });
  },
});

/** Names the file behind the last one that a release build names, where that is written in the module of the file. */
function nameBehind(shrunk: App["shrink"], file: string): { quickFix?: QuickFix[] } {
  const quickFix = shrunk.flatMap(({ files }): QuickFix[] => {
    const last = files.filter(({ path }) => /\.(pro|txt|cfg)$/.test(path)).at(-1);
    const folder = last?.at.file.slice(0, last.at.file.lastIndexOf("/") + 1);
    return last && folder !== undefined && file.startsWith(folder)
      ? [{ do: "rulesFile", after: last.at, name: file.slice(folder.length) }]
      : [];
  });
  return quickFix.length === shrunk.length && quickFix.length > 0 ? { quickFix } : {};
}
