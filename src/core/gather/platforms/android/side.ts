import { PLATFORM_PLUGIN } from "../../../knowledge/platform-packages.js";
import { withoutComments } from "../../../syntax/comments.js";
import { baseName, isInstalled, join } from "../../../model/paths.js";
import { samePlace } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import type { ProjectFiles } from "../../project-files.js";
import type { AndroidSide, IosSide } from "../../../model/app.js";
import type { FactSink } from "../../sink.js";
import type { BuildPluginFact, PathFact, RequiredLevel, LevelFact, LevelName } from "../../../model/facts.js";
import { either, known, textOf, unknown, type Value } from "../../../model/value.js";
import { FIXED_BY_FRAMEWORK, PLATFORM_PACKAGES } from "../../../knowledge/platform-packages.js";
import { descendants } from "../../../syntax/xml.js";
import { isTestScope } from "./configurations.js";
import { sideOfSet, sourceSetOf, variantOfConfiguration } from "../../../knowledge/source-sets.js";
import { moduleAt, type AndroidSetting, type GradleBuildFacts, type GradleDependency, type GradleModule } from "../../../model/gradle.js";

const SDK_LEVELS: Record<string, LevelName> = {
  minSdk: "minSdk",
  minSdkVersion: "minSdk",
  targetSdk: "targetSdk",
  targetSdkVersion: "targetSdk",
  compileSdk: "compileSdk",
  compileSdkVersion: "compileSdk",
};

function isApplication(module: GradleModule): boolean {
  return (
    module.plugins.some(({ id, applied }) => applied && (id === "com.android.application" || id === "android")) ||
    hasSetting(module, "applicationId")
  );
}

function hasSetting(module: GradleModule, name: string): boolean {
  return module.settings.some((setting) => setting.name === name && setting.block !== "");
}

/** Levels that a module states, its own and per variant. */
export function moduleLevels(module: GradleModule, owner: LevelFact["owner"]): LevelFact[] {
  const facts: LevelFact[] = [];
  /** Those under a condition that nobody can tell from the files. */
  const open = new Set<LevelFact>();
  for (const setting of module.settings) {
    const count = facts.length;
    const level = SDK_LEVELS[setting.name];
    const [value] = setting.values;
    if (level && value && (setting.block === "" || setting.block === "defaultConfig" || /^(flavor|buildType):[^.]+$/.test(setting.block))) {
      facts.push({ level, value: levelText(value), owner, of: module.path, variant: variantOf(setting.block), at: setting.at });
    } else if (setting.block === "compileOptions" && setting.name === "targetCompatibility" && value) {
      facts.push({ level: "java", value: levelText(value), owner, of: module.path, at: setting.at });
    } else if (setting.name === "jvmToolchain" && value) facts.push({ level: "java", value, owner, of: module.path, at: setting.at });
    const added = facts.length > count ? facts.at(-1) : undefined;
    if (added && setting.conditional) open.add(added);
  }
  // The last statement for one variant counts.
  const last = new Map<string, LevelFact>();
  for (const fact of facts) {
    const key = `${fact.level}\0${fact.variant ?? ""}`;
    const before = last.get(key);
    last.set(key, open.has(fact) ? { ...fact, value: perhaps(fact.value, before?.value) } : fact);
  }
  return [...last.values()];
}

/** What a level may be that a condition gives, beside what stands there without it. */
function perhaps(value: Value, before: Value | undefined): Value {
  return either([before ?? unknown(reason("condition-gives-value"), value.place), value], value.place);
}

/** `android-34` is level 34; `1.8` is Java 8. */
function levelText(value: Value): Value {
  if (value.kind === "known") {
    const match = /^(?:android-|1\.)?(\d+(?:\.\d+)?)$/.exec(value.text.trim());
    return match && match[1] !== value.text ? { ...value, text: match[1] as string } : value;
  }
  return value.kind === "either" ? { ...value, options: value.options.map(levelText) } : value;
}

function variantOf(block: string): string | undefined {
  return /^(?:flavor|buildType):([^.]+)/.exec(block)?.[1];
}

/** Application modules of a build. */
export function applicationModules(build: GradleBuildFacts): GradleModule[] {
  const all = [...build.modules.values()].filter(isApplication);
  return all.length > 0 || !isApplication(build.root) ? all : [build.root];
}

/** The modules that go into an application, itself first. */
function reachableModules(build: GradleBuildFacts, application: GradleModule): GradleModule[] {
  const found: GradleModule[] = [];
  const open = [application, ...dynamicFeatures(build, application)];
  const seen = new Set<string>();
  for (let next = open.shift(); next; next = open.shift()) {
    if (seen.has(next.path)) continue;
    seen.add(next.path);
    found.push(next);
    for (const { path, configuration } of next.modules) {
      if (isTestScope(configuration)) continue;
      const module = moduleAt(build, path);
      if (module) open.push(module);
    }
  }
  return found;
}

/**
 * Modules that are delivered beside an application, and depend on it: they are parts of it. Source: developer.android.com, "Configure on-demand
 * delivery" (com.android.dynamic-feature).
 */
function dynamicFeatures(build: GradleBuildFacts, application: GradleModule): GradleModule[] {
  return [...build.modules.values()].filter(
    ({ plugins, modules }) =>
      plugins.some(({ id, applied }) => applied && id === "com.android.dynamic-feature") &&
      modules.some(({ path }) => moduleAt(build, path) === application),
  );
}

export function readAndroidSide(project: ProjectFiles, build: GradleBuildFacts, application: GradleModule): AndroidSide {
  const modules = reachableModules(build, application);
  const levels: LevelFact[] = moduleLevels(application, "app");
  for (const module of modules.slice(1)) levels.push(...moduleLevels(module, "module"));
  levels.push(...toolLevels(build, modules));
  const side: AndroidSide = {
    side: "android",
    folder: build.folder,
    build,
    module: application,
    modules,
    ids: readIds(application),
    levels,
    effective: {},
    defaults: {},
  };
  readManifestLevels(project, side);
  readEffective(side);
  return side;
}

/** Old projects state levels and the id in the manifest. Source: developer.android.com, "uses-sdk". */
function readManifestLevels(project: ProjectFiles, side: AndroidSide): void {
  const file = manifestFile(project, side.module);
  const manifest = file ? project.xml(file) : undefined;
  const root = manifest?.root;
  if (!root) return;
  for (const element of descendants(root, "uses-sdk")) {
    for (const [attribute, level] of [
      ["android:minSdkVersion", "minSdk"],
      ["android:targetSdkVersion", "targetSdk"],
    ] as const) {
      const found = element.attributes.get(attribute);
      if (!found || side.levels.some((fact) => fact.level === level && fact.owner === "app")) continue;
      const at = root.source.place(found.start);
      side.levels.push({
        level,
        value: /^\d+$/.test(found.value) ? known(found.value, at) : unknown(reason("manifest-has", { text: found.value }), at),
        owner: "app",
        of: side.module.path,
        at,
      });
    }
  }
  const id = root.attributes.get("package");
  if (side.ids.length === 0 && id) {
    const at = root.source.place(id.start);
    side.ids.push({
      value: id.value.includes("${") ? unknown(reason("manifest-placeholder"), at) : known(id.value, at),
      variant: undefined,
      at,
    });
  }
}

export function manifestFile(project: ProjectFiles, module: GradleModule): string | undefined {
  const stated = module.settings.find(
    ({ block, name, values }) => block === "sourceSets.main" && name === "manifest.srcFile" && values[0]?.kind === "known",
  );
  const custom = textOf(stated?.values[0]);
  for (const file of [
    custom && join(module.folder, custom),
    join(module.folder, "src/main/AndroidManifest.xml"),
    join(module.folder, "src/androidMain/AndroidManifest.xml"),
    join(module.folder, "AndroidManifest.xml"),
  ]) {
    if (file && project.tree.isFile(file)) return file;
  }
  return undefined;
}

function readIds(module: GradleModule): AndroidSide["ids"] {
  const of = (predicate: (setting: AndroidSetting) => boolean): AndroidSetting | undefined => module.settings.findLast(predicate);
  const base =
    of(({ block, name }) => block === "defaultConfig" && name === "applicationId") ??
    of(({ block, name }) => block === "" && name === "namespace");
  const baseValue = base?.values[0];
  const ids: AndroidSide["ids"] = [];
  const flavors = new Map<string, { value: Value; at: AndroidSetting["at"] }>();
  for (const setting of module.settings) {
    const flavor = /^flavor:([^.]+)$/.exec(setting.block)?.[1];
    const [value] = setting.values;
    if (!flavor || !value) continue;
    if (setting.name === "applicationId") flavors.set(flavor, { value, at: setting.at });
    else if (setting.name === "applicationIdSuffix" && !flavors.has(flavor))
      flavors.set(flavor, { value: suffixed(baseValue, value), at: setting.at });
  }
  if (base && baseValue) ids.push({ value: baseValue, variant: undefined, at: base.at });
  for (const [variant, { value, at }] of flavors) ids.push({ value, variant, at });
  for (const setting of module.settings) {
    const buildType = /^buildType:([^.]+)$/.exec(setting.block)?.[1];
    const [value] = setting.values;
    if (buildType && value && setting.name === "applicationIdSuffix")
      ids.push({ value: suffixed(baseValue, value), variant: buildType, at: setting.at });
  }
  return ids;
}

function suffixed(base: Value | undefined, suffix: Value): Value {
  if (base?.kind !== "known" || suffix.kind !== "known") return base ?? unknown(reason("base-missing"), suffix.place);
  return known(base.text + (suffix.text.startsWith(".") ? "" : ".") + suffix.text, suffix.place);
}

/** Versions of the build's tools: Android plugin, Kotlin, Gradle. */
function toolLevels(build: GradleBuildFacts, modules: GradleModule[]): LevelFact[] {
  const facts: LevelFact[] = [];
  const add = (level: LevelName, value: Value | undefined, of: string, at: LevelFact["at"]): void => {
    if (value && !facts.some((fact) => fact.level === level))
      facts.push({ level, value, owner: "project", of: of === ":" ? "the root script" : of === "settings" ? "the settings" : of, at });
  };
  const everywhere = [build.settings, build.root, ...modules];
  for (const module of everywhere) {
    for (const plugin of module.plugins) {
      if (/^com\.android\.(application|library)$/.test(plugin.id)) add("androidPlugin", plugin.version, module.path, plugin.at);
      if (/^org\.jetbrains\.kotlin\.(android|multiplatform|jvm)$/.test(plugin.id) || plugin.id === "kotlin-android")
        add("kotlin", plugin.version, module.path, plugin.at);
    }
    for (const dependency of module.dependencies) {
      if (dependency.kind !== "classpath" && !/^(implementation|api|compileOnly)$/.test(dependency.configuration)) continue;
      const at = dependency.places[0];
      if (!at) continue;
      if (dependency.group === "com.android.tools.build" && dependency.artifact === "gradle")
        add("androidPlugin", dependency.version, module.path, at);
      if (dependency.group === "org.jetbrains.kotlin" && dependency.artifact === "kotlin-gradle-plugin")
        add("kotlin", dependency.version, module.path, at);
    }
  }
  if (build.wrapper) add("gradle", build.wrapper.version, "wrapper", build.wrapper.at);
  return facts;
}

/** The level that the app gets: the default configuration's, or where all flavours state their own, the lowest of theirs. */
function readEffective(side: AndroidSide): void {
  for (const level of ["minSdk", "targetSdk", "compileSdk", "kotlin", "androidPlugin", "gradle", "java"] as const) {
    const facts = side.levels.filter((fact) => fact.level === level && (fact.owner === "app" || fact.owner === "project"));
    const plain = facts.find((fact) => fact.variant === undefined);
    const value = plain?.value ?? facts[0]?.value;
    if (value) side.effective[level] = value;
  }
}

/** How many statements of a module that were not understood are told. */
const MOST_TOLD = 10;

/** Packages of the Android side, with what fixes their versions. */
export function androidDependencies(app: FactSink, side: AndroidSide): void {
  const { build } = side;
  const constraints = new Map<string, GradleDependency>();
  const boms: string[] = [];
  const declaredElsewhere = new Map<string, Value>();
  for (const module of [build.root, ...side.modules]) {
    for (const dependency of module.dependencies) {
      const name = `${dependency.group}:${dependency.artifact}`;
      if (dependency.kind === "constraint" || dependency.kind === "force") constraints.set(name, dependency);
      if (dependency.kind === "bom") boms.push(dependency.group);
      if (dependency.version && dependency.kind === "module") declaredElsewhere.set(name, dependency.version);
    }
  }
  const lockedBy = (module: GradleModule, name: string) =>
    module.locked.get(name) ?? (module === side.module ? undefined : side.module.locked.get(name));
  // What the settings include and is not there is told where it is referred to.
  tellUnread(app, build, side);
  for (const module of side.modules) {
    for (const dependency of module.dependencies) {
      if (dependency.kind !== "module") continue;
      const name = `${dependency.group}:${dependency.artifact}`;
      const locked = lockedBy(module, name);
      const constraint = constraints.get(name);
      const fixedBy = fixedByOf(name, dependency, constraint, boms, declaredElsewhere, side);
      for (const own of sidesOf(dependency))
        app.dependency({
          side: own,
          ecosystem: "maven",
          name,
          declared: dependency.version ?? constraint?.version,
          locked: locked?.version,
          lockedAt: locked?.at,
          scope: dependency.configuration,
          in: module.path,
          test: isTestScope(dependency.configuration),
          conditional: dependency.conditional,
          fixedBy,
          places: dependency.places,
        });
    }
    for (const path of module.paths) {
      app.pathFollowed(path);
      if (path.kind === "binary") addBinary(app, path, module.path);
    }
  }
  for (const [name, { version, at }] of side.module.locked) {
    if (app.dependencies.some((dependency) => dependency.ecosystem === "maven" && dependency.name === name)) continue;
    app.dependency({
      side: "android",
      ecosystem: "maven",
      name,
      locked: version,
      lockedAt: at,
      scope: "",
      in: side.module.path,
      direct: false,
      places: [at],
    });
  }
}

/** The phones whose code a dependency is for: of shared Kotlin code that of both, and of source sets for other systems none. */
function sidesOf({ configuration }: GradleDependency): ("android" | "ios")[] {
  const set = sourceSetOf(configuration);
  const side = set === undefined ? undefined : sideOfSet(set);
  return side === "shared" ? ["android", "ios"] : side === "none" ? [] : [side ?? "android"];
}

/** What scripts around the app's modules lead to, and what was not read in them: what the settings include and is not there is told where it is referred to. */
function tellUnread(app: FactSink, build: GradleBuildFacts, side: AndroidSide): void {
  const around = [build.settings, build.root].filter((module) => !side.modules.includes(module));
  for (const path of around.flatMap(({ paths }) => paths))
    if (/^(script|property|catalog|catalog entry)$/.test(path.kind)) app.pathFollowed(path);
  for (const { path, unread } of [...around, ...side.modules])
    for (const { what, why, at } of path === "settings" ? [] : unread.slice(0, MOST_TOLD))
      app.blindSpot({ side: "android", what: `${what} of ${path === ":" ? "the root script" : path}`, why, places: [at] });
}

/** What fixes the version of a dependency that states none, or another than it states. */
function fixedByOf(
  name: string,
  dependency: GradleDependency,
  constraint: GradleDependency | undefined,
  boms: string[],
  declaredElsewhere: Map<string, Value>,
  side: AndroidSide,
): string | undefined {
  if (FIXED_BY_FRAMEWORK.test(name)) return "the framework's Gradle plugin";
  if (dependency.version) return constraint?.kind === "force" ? "a forced version" : undefined;
  if (constraint) return "a constraint";
  if (boms.some((group) => sharesGroup(group, dependency.group))) return "a BOM";
  if (dependency.group === "org.jetbrains.kotlin") return "the Kotlin plugin";
  if (dependency.group.startsWith("org.jetbrains.compose.")) return "the Compose plugin";
  if (declaredElsewhere.has(name)) return "another module";
  if (boms.length > 0) return "perhaps a BOM";
  return side.build.includedBuilds.length > 0 && PLATFORM_PACKAGES.maven.test(name) ? "the framework's Gradle plugin" : undefined;
}

/** Pods that modules of shared Kotlin code bring to the iOS side. */
export function readSharedPods(app: FactSink, side: AndroidSide, { pods }: IosSide): void {
  for (const module of side.modules) {
    if (module.podTarget)
      app.required({ level: "iosTarget", value: module.podTarget, by: module.path, sdk: undefined, from: "cocoapods block" });
    for (const { name, version, at } of module.pods) {
      const locked = pods?.locked?.get(name);
      app.dependency({
        side: "ios",
        ecosystem: "cocoapods",
        name,
        declared: version,
        locked: locked?.version,
        lockedAt: locked?.at,
        scope: "cocoapods",
        in: module.path,
        places: [at],
      });
    }
  }
}

function addBinary(app: FactSink, { text, resolved, exists, configuration = "files", at }: PathFact, module: string): void {
  app.dependency({
    side: "android",
    ecosystem: "binary",
    name: baseName(text),
    route: "binary",
    scope: "files",
    in: module,
    test: isTestScope(configuration),
    ...(resolved !== undefined && exists === true ? { file: resolved } : {}),
    ...variantOfConfiguration(configuration),
    places: [at],
  });
}

function sharesGroup(a: string, b: string): boolean {
  const left = a.split(".");
  const right = b.split(".");
  return left[0] === right[0] && left[1] === right[1];
}

/** Repositories and plugins in the order in which the build sees them. */
export function androidBuildFacts(app: FactSink, side: AndroidSide): void {
  const { build } = side;
  const modules = [build.settings, build.root, ...side.modules.filter((module) => module !== build.root)];
  const seen = new Set<string>();
  for (const module of modules) {
    for (const repository of module.repositories) app.repository(repository);
    for (const plugin of module.plugins) {
      const key = `${plugin.id}\0${plugin.module}\0${plugin.at.file}:${plugin.at.line}`;
      if (!seen.has(key)) app.buildPlugin(plugin satisfies BuildPluginFact);
      seen.add(key);
    }
  }
}

/** Plugins of the settings that include no modules. */
const PLAIN_SETTINGS =
  /^(com\.android\.(settings|application|library)|org\.jetbrains\.kotlin\b.*|org\.gradle\.toolchains\..*|com\.gradle\..*)$/;

/**
 * Modules that the build of the app refers to and that the settings do not include: the build stops. Only where nothing but the settings' own text
 * includes modules. Source: docs.gradle.org, "Structuring Multi-Project Builds".
 */
export function noteLostModules(project: ProjectFiles, app: FactSink, { build, module, modules }: AndroidSide): void {
  const { settings, settingsFile } = build;
  for (const { folder, at } of build.absentBuilds)
    app.pathFollowed({ text: folder, resolved: folder, kind: "project", exists: false, side: "android", generated: false, at });
  const text = settingsFile === undefined ? undefined : project.text(settingsFile)?.text;
  // What is not there of what the settings include is told of each module that refers to it.
  if (text === undefined || settings.unread.some(({ lost }) => !lost)) return;
  if (!includesPlainly(project, build.folder, text) || settings.plugins.some(({ id, applied }) => applied && !PLAIN_SETTINGS.test(id)))
    return;
  for (const other of modules)
    for (const { path, configuration, conditional, at } of other.modules) {
      if (conditional || isTestScope(configuration)) continue;
      const full = path.startsWith(":") ? path : `:${path}`;
      const included = full === ":" ? undefined : moduleAt(build, path);
      // Without a folder there is nothing that could be taken.
      const folder = included && !project.tree.isFolder(included.folder) ? included.folder : undefined;
      // What packages bring is there once they are installed.
      if (full === ":" || (included && (folder === undefined || isInstalled(`${folder}/`)))) continue;
      app.pathFollowed({ text: full, resolved: folder, kind: "module", exists: false, side: "android", generated: false, at });
    }
  noteLostFeatures(app, build, module);
  noteIdleModules(app, build, module);
  noteModulesOutside(app, build, module, text);
}

/** Folders that look like modules and that the settings do not name; what they name behind a comment is left out on purpose. */
function noteModulesOutside(app: FactSink, build: GradleBuildFacts, module: GradleModule, text: string): void {
  if (applicationModules(build)[0] !== module) return;
  for (const { path, at } of build.outside)
    if (!text.includes(`:${baseName(path)}`))
      app.pathFollowed({
        text: path,
        resolved: path,
        kind: "module outside the build",
        exists: false,
        side: "android",
        generated: false,
        at,
      });
}

/** Modules that the settings include, whose folders are not there, and to which no module refers: told once for a build, with its first application. */
function noteIdleModules(app: FactSink, build: GradleBuildFacts, module: GradleModule): void {
  if (applicationModules(build)[0] !== module) return;
  const referred = new Set(
    [build.root, ...build.modules.values()].flatMap(({ modules }) => modules.map(({ path }) => moduleAt(build, path)?.path)),
  );
  for (const { path, folder, at } of build.absent)
    if (!referred.has(path) && !isInstalled(`${folder}/`) && !folder.startsWith(".."))
      app.pathFollowed({ text: path, resolved: folder, kind: "included module", exists: false, side: "android", generated: false, at });
  // Source: docs.gradle.org, `Settings.project` (it fails for a path that is not included).
  for (const { path, at } of build.unincluded)
    app.pathFollowed({ text: path, resolved: undefined, kind: "module", exists: false, side: "android", generated: false, at });
}

/** Features that an application lists and that the settings do not include. */
function noteLostFeatures(app: FactSink, build: GradleBuildFacts, module: GradleModule): void {
  const listed = module.settings.flatMap(({ name, values }) => (name === "dynamicFeatures" ? values : []));
  for (const value of listed)
    if (value.kind === "known" && !build.modules.has(value.text))
      app.pathFollowed({
        text: value.text,
        resolved: undefined,
        kind: "module",
        exists: false,
        side: "android",
        generated: false,
        at: value.place,
      });
}

/** Whether settings include modules by their own text, and by that of scripts of the project which do the same. */
function includesPlainly(project: ProjectFiles, folder: string, text: string, depth = 0): boolean {
  const plain = withoutComments(text);
  const scripts = [...plain.matchAll(/\bapply\s*\(?\s*from\s*[:=]\s*(?:file\s*\(\s*)?(["'])([^"'$\n]+)\1/g)];
  if (/\bincludeFlat\b|\bevaluate\b/.test(plain) || (plain.match(/\bapply\b/g) ?? []).length > scripts.length) return false;
  return scripts.every(([, , path = ""]) => {
    const file = join(folder, path);
    const script = depth < 3 && !isInstalled(file) && project.tree.isFile(file) ? project.text(file)?.text : undefined;
    return script !== undefined && includesPlainly(project, folder, script, depth + 1);
  });
}

/**
 * Names in the notation of a dependency that no script and no file of properties gives: the build stops. Only where nothing but what was read gives
 * names; a value from the command line is not in the files. Source: docs.gradle.org, "Writing Build Scripts" (extra properties).
 */
export function noteLostNames(app: FactSink, { build, modules }: AndroidSide): void {
  const isPlain = ({ unread, plugins, lostNames }: GradleModule): boolean =>
    unread.every(({ at }) => lostNames.some((lost) => samePlace(lost.at, at))) &&
    plugins.every(({ id, applied }) => !applied || PLATFORM_PLUGIN.test(id));
  if (!isPlain(build.root) || build.conventions.length > 0) return;
  for (const module of new Set([build.root, ...modules]))
    if (isPlain(module) && !isInstalled(`${module.folder}/`))
      for (const { name, at, near } of module.lostNames)
        // What the root script takes may come with the command; not a name that is almost one of its own.
        if (near !== undefined || modules.includes(module))
          app.pathFollowed({
            text: name,
            resolved: undefined,
            kind: "variable",
            exists: false,
            side: "android",
            generated: false,
            at,
            ...(near === undefined ? {} : { near }),
          });
}

/** What library modules ask the application for: their own minimum level must not be higher. */
export function requiredByModule(app: FactSink, side: AndroidSide): void {
  for (const module of side.modules.slice(1)) {
    for (const fact of moduleLevels(module, "module")) {
      if (fact.level !== "minSdk" || fact.variant !== undefined) continue;
      app.required({ level: "minSdk", value: fact.value, by: module.path, sdk: undefined, from: "module" } satisfies RequiredLevel);
    }
  }
}
