import type { Place } from "./place.js";
import { join } from "./paths.js";
import { possibleTexts, textOf, type Unread, type Value } from "./value.js";
import type { BuildPluginFact, PathFact, RepositoryFact } from "./facts.js";

/** One dependency as a Gradle script declares it. */
export interface GradleDependency {
  configuration: string;
  group: string;
  artifact: string;
  version: Value | undefined;
  /** Places of the declaration: the use first, then the catalog's line. */
  places: Place[];
  kind: "module" | "project" | "bom" | "constraint" | "force" | "classpath";
  conditional: boolean;
  /** What is left out of what it depends on; `*` for any. */
  exclusions?: { group: string; artifact: string }[];
  /** Nothing that it depends on is taken with it. */
  alone?: boolean;
}

/** A statement inside `android { … }`. */
export interface AndroidSetting {
  /** "" for the android block itself, `defaultConfig`, `flavor:free`, `buildType:release`, or any other block's name. */
  block: string;
  name: string;
  values: Value[];
  /** Values of named arguments or map entries (`manifestPlaceholders = [a: "b"]`). */
  named: Map<string, Value>;
  conditional: boolean;
  at: Place;
}

/** A reference of one module to another. */
export interface ModuleReference {
  path: string;
  configuration: string;
  conditional: boolean;
  /** Written as `projects.core` and not as `project(":core")`. */
  byAccessor?: boolean;
  at: Place;
}

/** What one Gradle project (the root or a module) says. */
export interface GradleModule {
  /** `:app`; ":" for the root. */
  path: string;
  folder: string;
  buildFile: string | undefined;
  plugins: BuildPluginFact[];
  settings: AndroidSetting[];
  dependencies: GradleDependency[];
  modules: ModuleReference[];
  repositories: RepositoryFact[];
  /** Configurations that the script itself makes or works on. */
  configurations: string[];
  /** What no configuration takes in. */
  exclusions: { group: string; artifact: string }[];
  paths: PathFact[];
  /** Statements in a block that holds facts, which were not understood: what they could have given, and why they did not. */
  unread: Unread[];
  /** Names in notations of dependencies that nothing which was read gives a value. */
  lostNames: { name: string; at: Place; near?: string }[];
  /** Blocks, calls and files of rules that are almost one of Gradle's or of the Android plugin's. */
  strayNames: { what: string; name: string; right: string; at: Place }[];
  /** Pods of shared Kotlin code, and the deployment target that it is built for. */
  pods: { name: string; version: Value | undefined; at: Place }[];
  podTarget: Value | undefined;
  /** Dynamic versions are locked by a lock file of this module. */
  lockFile: string | undefined;
  locked: Map<string, { version: string; at: Place }>;
}

export function newModule(path: string, folder: string, buildFile: string | undefined): GradleModule {
  return {
    path,
    folder,
    buildFile,
    plugins: [],
    settings: [],
    dependencies: [],
    modules: [],
    repositories: [],
    configurations: [],
    exclusions: [],
    paths: [],
    unread: [],
    lostNames: [],
    strayNames: [],
    pods: [],
    podTarget: undefined,
    lockFile: undefined,
    locked: new Map(),
  };
}

/** A Gradle build: its settings, its root and its modules. */
export interface GradleBuildFacts {
  folder: string;
  settingsFile: string | undefined;
  root: GradleModule;
  modules: Map<string, GradleModule>;
  wrapper: { version: Value; at: Place } | undefined;
  /** Plugins and repositories that the settings declare for the whole build. */
  settings: GradleModule;
  includedBuilds: string[];
  /** Modules that the settings include and whose folders are not there. */
  absent: { path: string; folder: string; at: Place }[];
  /** Builds that the settings take in and whose folders are not there, though what would hold them is. */
  absentBuilds: { folder: string; at: Place }[];
  /** Libraries that the build's catalogs have, used or not. */
  catalog: { group: string; artifact: string; at: Place }[];
  /** The build has code of its own (buildSrc), which may bring any plugin. */
  hasOwnCode: boolean;
  /** The settings do not ask for accessors of modules. */
  accessorsOff: boolean;
  /** Folders beside those of modules that are modules by their looks, and that the settings do not include. */
  outside: { path: string; at: Place }[];
  /** Modules that the settings give a folder and do not include. */
  unincluded: { path: string; at: Place }[];
  /** Plugins of the build's own, by their ids, and those of them that may do what no script says: what they say was read, but is not all. */
  conventions: string[];
  openConventions: string[];
  /** The JDK that the build's daemon runs on, where the project fixes it. */
  daemonJdk: Value | undefined;
}

/** The package of the classes that the build makes for a module, as its script states it. */
export function namespaceIn({ settings }: GradleModule): string | undefined {
  return textOf(settings.find(({ block, name }) => block === "" && name === "namespace")?.values[0]);
}

/**
 * The manifest placeholders that a module gives, with the variants that have each ("" for all); `undefined` where code works them out.
 */
export function placeholdersGiven({ settings }: GradleModule): ReadonlyMap<string, ReadonlySet<string>> | undefined {
  const stated = settings.filter(({ name }) => /^manifestPlaceholders(\.|$)/.test(name));
  if (stated.some(({ name, named }) => name === "manifestPlaceholders" && named.size === 0)) return undefined;
  const given = new Map<string, Set<string>>();
  for (const { named, name, block } of stated)
    for (const placeholder of [...named.keys(), name.replace(/^manifestPlaceholders\./, "")]) {
      const variants = given.get(placeholder) ?? new Set();
      given.set(placeholder, variants.add(/^(?:flavor|buildType):([^.]+)$/.exec(block)?.[1] ?? ""));
    }
  return given;
}

/** Folders that a module's script gives its source sets of Kotlin and Java besides the usual ones. */
export function sourceFolders({ folder, settings }: GradleModule): { folder: string; set: string }[] {
  return settings.flatMap(({ block, name, values }) => {
    const set = /^sourceSets\.(\w+)\.(?:java|kotlin)$/.exec(block)?.[1];
    if (set === undefined || !/^(srcDirs?|setSrcDirs)$/.test(name)) return [];
    return values.flatMap(possibleTexts).map((text) => ({ folder: join(folder, text), set }));
  });
}

const plainPaths = new WeakMap<ReadonlyMap<string, GradleModule>, ReadonlyMap<string, GradleModule>>();

/** The module that a reference of a script names: by its path, or by its accessor (`projects.coreUi`). Source: docs.gradle.org, "Type-safe project accessors". */
export function moduleAt({ modules }: Pick<GradleBuildFacts, "modules">, path: string): GradleModule | undefined {
  const found = modules.get(path.startsWith(":") ? path : `:${path}`);
  if (found) return found;
  const plain = (text: string): string => text.replace(/[-_.]/g, "").toLowerCase();
  let byPlainPath = plainPaths.get(modules);
  if (!byPlainPath) {
    byPlainPath = new Map([...modules.values()].toReversed().map((module) => [plain(module.path), module]));
    plainPaths.set(modules, byPlainPath);
  }
  return byPlainPath.get(plain(path));
}

/** Whether modules refer to others that the settings, as far as they were read, do not include: what these hold is not known. */
export function hasLostModules(build: Pick<GradleBuildFacts, "modules">, modules: readonly GradleModule[]): boolean {
  return modules.some((module) => module.modules.some(({ path }) => path !== ":" && moduleAt(build, path) === undefined));
}
