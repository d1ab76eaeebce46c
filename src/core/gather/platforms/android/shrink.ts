import type { ProjectFiles } from "../../project-files.js";
import type { AndroidSide } from "../../../model/app.js";
import type { FactSink } from "../../sink.js";
import type { ShrinkFact } from "../../../model/facts.js";
import { isInstalled, join } from "../../../model/paths.js";
import { known, possibleTexts, textOf, type Value } from "../../../model/value.js";
import type { AndroidSetting, GradleModule } from "../../../model/gradle.js";

const RULES_FILE = /^(proguard|consumer|r8)[\w.-]*\.(pro|txt|cfg)$/i;

/**
 * Whether release variants are shrunk, by which rules files, and what those hold; packaging options.
 * Source: developer.android.com, "Enable app optimization" and the reference of the Android Gradle plugin (packaging).
 */
export function readShrinking(project: ProjectFiles, app: FactSink, side: AndroidSide): void {
  const { module } = side;
  const types = new Set(["release", ...module.settings.flatMap(({ block }) => /^buildType:([^.]+)$/.exec(block)?.[1] ?? [])]);
  for (const type of types) {
    if (type === "debug") continue;
    const block = `buildType:${type}`;
    const enabled = module.settings.findLast((setting) => setting.block === block && setting.name === "minifyEnabled");
    const fact: ShrinkFact = {
      variant: type,
      enabled: enabled?.values[0] ?? known("false", { file: module.buildFile ?? module.folder, line: 1, column: 1 }),
      files: ruleFilesOf(
        module,
        (setting) => (setting.block === block || setting.block === "defaultConfig") && /^proguardFiles?$/.test(setting.name),
      ),
      module: module.path,
    };
    app.shrinking(fact);
  }
  noteLostRules(
    project,
    app,
    app.shrink.flatMap(({ enabled, files }) => (textOf(enabled) === "true" ? files : [])),
  );
  // Library modules hand their consumer rules to the app.
  const consumed = side.modules.flatMap((other) =>
    ruleFilesOf(other, ({ name }) => /^consumerProguardFiles?$/.test(name)).map((file) => ({ ...file, by: other.path })),
  );
  const own = new Set(side.modules.flatMap(({ path, folder }) => (isInstalled(`${folder}/`) ? [] : path)));
  noteLostRules(
    project,
    app,
    consumed.filter(({ by }) => own.has(by)),
  );
  const named = new Map<string, string | undefined>();
  for (const { files } of app.shrink) for (const { resolved } of files) if (resolved !== undefined) named.set(resolved, undefined);
  for (const { resolved, by } of consumed) if (resolved !== undefined && !named.has(resolved)) named.set(resolved, by);
  for (const entry of project.tree.list(module.folder))
    if (entry.kind === "file" && RULES_FILE.test(entry.name) && !named.has(join(module.folder, entry.name)))
      named.set(join(module.folder, entry.name), undefined);
  for (const [file, by] of named) readRulesFile(project, app, file, by);
  readPackaging(app, module);
}

/**
 * Files of rules that are named and not there: by a build that shrinks its code, or by a library for whoever uses it. What a build writes itself
 * lies in its folder.
 */
function noteLostRules(project: ProjectFiles, app: FactSink, files: ShrinkFact["files"]): void {
  for (const { path, resolved, at } of files) {
    if (!/\.(pro|txt|cfg)$/.test(path) || /(^|\/)(build|node_modules)\/|^\//.test(path)) continue;
    if (resolved === undefined || resolved.startsWith("..") || project.tree.isFile(resolved)) continue;
    if (!app.paths.some((other) => other.resolved === resolved))
      app.pathFollowed({ text: path, resolved, kind: "rules file", exists: false, side: "android", generated: false, at });
  }
}

/** Rules that an installed library's own build hands to the app. */
export function readLibraryRules(project: ProjectFiles, app: FactSink, module: GradleModule, by: string): void {
  for (const { resolved } of ruleFilesOf(module, ({ name }) => /^consumerProguardFiles?$/.test(name)))
    if (resolved !== undefined) readRulesFile(project, app, resolved, by);
}

function ruleFilesOf(module: GradleModule, fits: (setting: AndroidSetting) => boolean): ShrinkFact["files"] {
  return module.settings
    .filter(fits)
    .flatMap((setting) =>
      setting.values.flatMap((value: Value) =>
        possibleTexts(value).flatMap((path) => ({ path, resolved: join(module.folder, path), at: value.place })),
      ),
    );
}

/** The rules in a file for the shrinker; `by`: the library that hands it to whoever uses it. */
export function readRulesFile(project: ProjectFiles, app: FactSink, file: string, by: string | undefined): void {
  const source = project.tree.isFile(file) ? project.text(file) : undefined;
  if (!source || app.rulesFiles.some((known_) => known_.file === file)) return;
  const rules: { text: string; at: ReturnType<typeof source.place> }[] = [];
  for (const match of source.text.matchAll(/^[ \t]*(-[a-z]\w*[^#\n]*)/gm))
    rules.push({ text: (match[1] ?? "").replace(/\s+/g, " ").trim(), at: source.place(match.index + match[0].indexOf("-")) });
  app.rulesFile({ file, rules, by });
}

const PACKAGING = /^(packagingOptions|packaging)(\.|$)/;

function readPackaging(app: FactSink, module: GradleModule): void {
  for (const setting of module.settings) {
    if (!PACKAGING.test(setting.block) && !PACKAGING.test(setting.name)) continue;
    app.option({
      side: "android",
      name: setting.name.split(".").at(-1) as string,
      values: setting.values.flatMap(possibleTexts),
      at: setting.at,
    });
  }
}
