import { PACKAGE_PEERS, PACKAGE_STEPS, type PackageStep } from "../../knowledge/package-steps.js";
import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { startOf, type Place } from "../../model/place.js";
import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";
import { majorOf } from "./package-roots.js";
import { isScript, type SourceFile } from "./sources.js";

type Dependency = App["dependencies"][number];

/** What packages ask for besides their line in package.json, and that is not there: where nothing of them is installed that says so. */
export function lackingSteps(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["lackingRoots"] {
  if (app.kind !== "react-native") return [];
  const declared = new Map(
    app.dependencies.flatMap((one) => (one.ecosystem === "npm" && one.direct && !one.test ? [[one.name, one] as const] : [])),
  );
  // A version that is not written out may be any.
  const major = (own: Dependency): number => majorOf(own) || NaN;
  const steps = PACKAGE_STEPS.flatMap((step): CodeFacts["lackingRoots"] => {
    const own = declared.get(step.package);
    if (!own || !(major(own) >= (step.from ?? 0)) || !(major(own) < (step.below ?? Infinity)) || !isUsed(step.package, sources)) return [];
    const lack = step.in === "babel" ? lackInBabel(project, app, step) : lackInGradle(project, app, step);
    return lack ? [{ package: step.package, what: lack.what, without: lack.without ?? step.without, at: lack.at, isStep: true }] : [];
  });
  const peers = PACKAGE_PEERS.flatMap(({ package: name, from, needs }): CodeFacts["lackingRoots"] => {
    const own = declared.get(name);
    const [place] = own?.places ?? [];
    // What is installed says by itself what it asks for.
    if (!own || !place || !(major(own) >= from) || own.nativeUnknown !== true) return [];
    const [lacking] = needs.filter((need) => !app.dependencies.some((one) => one.ecosystem === "npm" && one.name === need && one.direct));
    return lacking === undefined
      ? []
      : [{ package: name, what: lacking, without: "the app is not built, or ends when it is used", at: place, isStep: true }];
  });
  return [...steps, ...peers];
}

const isUsed = (name: string, sources: readonly SourceFile[]): boolean =>
  sources.some(({ side, language, text }) => side === "shared" && isScript(language) && new RegExp(`["']${name}["']`).test(text));

/** Settings of the compiler that may say more than their text does. */
const OTHER_SETTINGS = /\bextends\b|\brequire\s*\(\s*["']\.|\bimport\b|\.\.\.|nativewind|babel-preset-expo/;
const PRESET = /presets\s*:\s*\[\s*(?:\[\s*)?["'](?:module:)?@?(?:metro-)?react-native[\w/-]*["']/;

/** What lacks, where, and what happens without, where that is not what its step says. */
interface Lack {
  what: string;
  without?: string;
  at: Place;
}

function lackInBabel(project: ProjectFiles, app: App, step: PackageStep): Lack | undefined {
  const folder = app.shared?.folder ?? "";
  const files = ["babel.config.js", "babel.config.cjs", "babel.config.json", ".babelrc", ".babelrc.js"]
    .map((name) => join(folder, name))
    .filter((file) => project.tree.isFile(file));
  const [file] = files;
  const source = file !== undefined && files.length === 1 ? project.text(file) : undefined;
  if (file === undefined || !source) return undefined;
  const text = withoutComments(source.text);
  if (!PRESET.test(text) || OTHER_SETTINGS.test(text)) return undefined;
  const found = step.form.exec(text);
  if (!found) return { what: `${step.what} among the plugins of ${file}`, at: startOf(file) };
  const rest = /^["']\s*(?:,[^\]]*)?\]/.exec(text.slice(found.index + found[0].length))?.[0] ?? "";
  return step.isLast && /["']/.test(rest.slice(1)) && !/^["']\s*,\s*\{/.test(rest)
    ? {
        what: `${step.what} as the last plugin of ${file}`,
        without: "plugins behind it change the code first",
        at: source.place(found.index),
      }
    : undefined;
}

function lackInGradle(project: ProjectFiles, { android }: App, step: PackageStep): Lack | undefined {
  const file = android?.generated ? undefined : android?.module.buildFile;
  const source = file === undefined ? undefined : project.text(file);
  if (file === undefined || !source || step.form.test(source.text) || /\bapply\s*(?:\(\s*)?from\s*[:=]?\s*["'(]/.test(source.text))
    return undefined;
  return { what: `${step.what} in ${file}`, at: startOf(file) };
}
