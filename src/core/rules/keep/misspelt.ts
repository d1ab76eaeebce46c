import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import { packageKept } from "../../needs/keep-rule.js";
import { textOf } from "../../model/value.js";
import { quaymapAndroid } from "../examples.js";
import { defineRule } from "../rule.js";

const shrinking = "  buildTypes {\n    release {\n      minifyEnabled true\n      proguardFiles 'rules.pro'\n    }\n  }\n";
const app = (rule: string) => quaymapAndroid({ android: shrinking }, { "app/rules.pro": `${rule}\n` });

export const keepMisspelt = defineRule({
  name: "keep/misspelt",
  severity: "warning",
  title: "A keep rule names a package that is almost one of the app's",
  looksAt:
    "The packages that keep rules of the app name, against its namespaces and the groups of its packages: one that is none of them, and a letter or two off from one that no rule names.",
  why: "The rule keeps nothing, and says so nowhere: the release build loses the classes that it was written for.",
  advice: "Write the package as it is.",
  examples: {
    reported: app("-keep class example.quaymaps.** { *; }"),
    silent: app("-keep class example.quaymap.** { *; }"),
  },
  check({ app: model }) {
    const names = packagesOf(model);
    const rules = model.rulesFiles
      .filter(({ by }) => by === undefined)
      .flatMap(({ rules: own }) => own.flatMap(({ text, at }) => ({ name: packageKept(text) ?? "", at })));
    const kept = new Set(rules.map(({ name }) => name));
    return rules.flatMap(({ name, at }) => {
      if (name === "" || [...names].some((other) => other === name || other.startsWith(`${name}.`) || name.startsWith(`${other}.`)))
        return [];
      const near = [...names].find((other) => !kept.has(other) && isAlmost(name, other));
      if (near === undefined) return [];
      return [
        {
          side: "android" as const,
          message: `a rule keeps ${name}, and the app has no such package; it has ${near}`,
          fix: `write ${near}`,
          places: [at],
          subject: `keep ${name}`,
        },
      ];
    });
  },
});

/** One part differs, by a letter of a long one: short ones, and numbers, tell real packages apart. */
function isAlmost(name: string, other: string): boolean {
  const [own, parts] = [name.split("."), other.split(".")];
  const apart = own.flatMap((part, index) => (part === parts[index] ? [] : [[part, parts[index] ?? ""] as const]));
  const [only, ...more] = apart;
  if (own.length !== parts.length || !only || more.length > 0) return false;
  const [a, b] = only;
  return a.length > 5 && b.length > 5 && distance(a.replace(/\d/g, ""), b.replace(/\d/g, "")) === 1 && distance(a, b) === 1;
}

/** The packages that an app has for certain, by their names: namespaces of its modules, its id, and the groups of what it depends on. */
function packagesOf({ android, dependencies }: App): ReadonlySet<string> {
  const own = (android?.modules ?? []).flatMap(({ settings }) =>
    settings.flatMap(({ name, values }) => (name === "namespace" || name === "applicationId" ? (textOf(values[0]) ?? []) : [])),
  );
  const groups = dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "maven" ? (name.split(":")[0] ?? []) : []));
  return new Set([...own, ...groups]);
}
