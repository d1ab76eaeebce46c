import { scriptFrame } from "../../../../evaluate/frame.js";
import { execute } from "../../../../evaluate/interpret.js";
import type { Result } from "../../../../evaluate/values.js";
import { PROPERTY_PLUGINS } from "../../../../knowledge/property-plugins.js";
import { newModule, type GradleBuildFacts, type GradleModule } from "../../../../model/gradle.js";
import { baseName, isInstalled, isWithin, join, parentOf } from "../../../../model/paths.js";
import { misspelling } from "../../../../model/suggest.js";
import { withoutComments } from "../../../../syntax/comments.js";
import type { Place } from "../../../../model/place.js";
import { reason } from "../../../../model/reason.js";
import { known, unknown } from "../../../../model/value.js";
import { at, placeOf, valueAt, type Data } from "../../../../syntax/data.js";
import { pathOf, plainText, type Script, type Statement } from "../../../../syntax/script/ast.js";
import { findInstalled } from "../../../packages/packages.js";
import type { ProjectFiles } from "../../../project-files.js";
import { readCatalog, type Catalog } from "./catalog.js";
import { GradleHost } from "./host.js";
import { frameWithHelpers } from "./plugins-block.js";
import { buildFileIn, tell, type BuildReading, type Reading } from "./reading.js";
import { newVariables, property, type ProjectVariables } from "./variables.js";

/** A Gradle build, and what is needed to read further scripts as parts of it. */
interface EvaluatedBuild {
  facts: GradleBuildFacts;
  variables: ProjectVariables;
  conventions: Map<string, Script>;
  helpers: Script[];
}

function settingsFileIn(project: ProjectFiles, folder: string): string | undefined {
  for (const name of ["settings.gradle.kts", "settings.gradle"]) {
    const file = join(folder, name);
    if (project.tree.isFile(file)) return file;
  }
  return undefined;
}

/** What the Gradle build whose root is `folder` says: an earlier run may know it. */
export function readGradleBuild(project: ProjectFiles, folder: string): GradleBuildFacts {
  return project.part("gradle", [folder], () => evaluatedBuild(project, folder).facts);
}

function evaluatedBuild(project: ProjectFiles, folder: string): EvaluatedBuild {
  return project.memo(`Gradle build ${folder}`, () => evaluateBuild(project, folder));
}

function evaluateBuild(project: ProjectFiles, folder: string): EvaluatedBuild {
  const settingsFile = settingsFileIn(project, folder);
  const variables = newVariables(folder, baseName(folder), propertyFiles(project, folder), undefined);
  for (const [name, catalog] of defaultCatalogs(project, folder)) variables.catalogs.set(name, catalog);
  const sources: BuildSources = { conventions: new Map(), helpers: [] };
  const { conventions, helpers } = sources;
  if (project.tree.isFolder(join(folder, "buildSrc"))) readConventions(project, join(folder, "buildSrc"), variables, sources);

  const places = new Map<string, { folder: string; at: Place | undefined }>();
  const named = new Set<string>();
  const build: BuildReading = {
    folder,
    conventions,
    helpers,
    projects: new Map(),
    included: [],
    include: (path, included) => {
      named.add(path);
      if (!places.has(path)) places.set(path, { folder: join(folder, path.split(":").filter(Boolean).join("/")), at: included });
    },
    place: (path, placed, set) => {
      if (placed === undefined) places.delete(path);
      else places.set(path, { folder: placed, at: set });
    },
  };
  const reading = (module: GradleModule, own: ProjectVariables): Reading => ({
    project,
    module,
    variables: own,
    build,
    applied: new Set(),
    deferred: [],
  });

  const settings = newModule("settings", folder, settingsFile);
  // What settings set is theirs; catalogs and constants are the build's.
  readScripts(reading(settings, { ...variables, extra: new Map() }), settingsFile);
  for (const { folder: included } of build.included) readIncludedSettings(reading, settings, included);
  for (const { folder: included } of build.included)
    if (!/(^|\/)node_modules\//.test(included)) readConventions(project, included, variables, sources);
  if (settingsFile === undefined) includeFolders(project, folder, build);

  const unincluded = [...places].flatMap(([path, { at }]) =>
    at && path !== ":" && !named.has(path) && ![...named].some((other) => other.startsWith(`${path}:`)) ? [{ path, at }] : [],
  );

  const root = newModule(":", folder, buildFileIn(project, folder));
  const rootReading = reading(root, variables);
  build.projects.set(":", rootReading);
  for (const [path, { folder: moduleFolder }] of places) {
    if (path === ":") continue;
    const own = newVariables(moduleFolder, path.split(":").at(-1) ?? "", propertyFiles(project, moduleFolder), variables);
    build.projects.set(path, reading(newModule(path, moduleFolder, buildFileIn(project, moduleFolder)), own));
  }
  // The root is read first: what it says of the others happens before their own scripts.
  readScripts(rootReading, root.buildFile);
  readPropertyPlugins(project, root, variables);
  for (const [path, one] of build.projects) if (path !== ":") readScripts(one, one.module.buildFile);
  const absent = tellMissing(project, places, build, reading(settings, variables));

  const modules = new Map([...build.projects].flatMap(([path, { module }]) => (path === ":" ? [] : [[path, module] as const])));
  readLockFiles(project, [root, ...modules.values()]);
  return {
    variables,
    conventions,
    helpers,
    facts: {
      folder,
      settingsFile,
      root,
      modules,
      wrapper: readWrapper(project, folder),
      settings,
      includedBuilds: build.included.map((included) => included.folder),
      absent,
      absentBuilds: build.included.filter((included) => isGone(project, included.folder)),
      catalog: [...variables.catalogs.values()].flatMap(({ libraries }) =>
        [...libraries.values()].map(({ group, artifact, at }) => ({ group, artifact, at })),
      ),
      hasOwnCode: project.tree.isFolder(join(folder, "buildSrc")),
      accessorsOff: accessorsOff(project, settingsFile),
      outside: settingsFile === undefined ? [] : modulesOutside(project, folder, build, modules),
      unincluded: settings.unread.some(({ lost }) => !lost) ? [] : unincluded,
      conventions: [...conventions.keys()],
      openConventions: openConventions(sources),
      daemonJdk: valueAt(project.properties(join(folder, "gradle/gradle-daemon-jvm.properties")), "toolchainVersion"),
    },
  };
}

/** Reads a project's script, and what it left for the end. */
function readScripts(reading: Reading, file: string | undefined): void {
  const script = file === undefined ? undefined : reading.project.script(file);
  if (script) execute(script.body, frameWithHelpers(script.source, new GradleHost(reading)));
  // What is done later can leave more for later.
  for (let work = reading.deferred.shift(); work; work = reading.deferred.shift()) work();
}

/** Paths that the settings of a build that is taken in name, such as the catalog that it shares. */
function readIncludedSettings(
  reading: (module: GradleModule, own: ProjectVariables) => Reading,
  settings: GradleModule,
  folder: string,
): void {
  if (/(^|\/)node_modules\//.test(folder)) return;
  const inner = newModule("settings", folder, undefined);
  const own = reading(inner, newVariables(folder, baseName(folder), [], undefined));
  const file = settingsFileIn(own.project, folder);
  const build = { ...own.build, folder, projects: new Map(), included: [], include: () => undefined, place: () => undefined };
  readScripts({ ...own, build }, file);
  settings.paths.push(...inner.paths);
}

/** A project whose settings are not there yet, or are written on build: the folders with a script are its modules. */
function includeFolders(project: ProjectFiles, folder: string, build: BuildReading): void {
  for (const { name, kind, link } of project.tree.list(folder))
    if (kind === "folder" && !link && name !== "buildSrc" && buildFileIn(project, join(folder, name)) !== undefined)
      build.include(`:${name}`, { file: join(folder, name), line: 1, column: 1 });
}

/** What a script has that applies a plugin for Android. */
const APPLIES_ANDROID =
  /\bcom\.android\.(application|library|dynamic-feature|test)\b|\balias\s*\(\s*libs\.plugins\.android\.?(application|library)/i;

/** Folders beside those of modules with a script and a manifest of their own, and no settings: none of the build's, and of no other. */
function modulesOutside(
  project: ProjectFiles,
  folder: string,
  { included }: BuildReading,
  modules: ReadonlyMap<string, GradleModule>,
): { path: string; at: Place }[] {
  const own = new Set([...[...modules.values()].map((module) => module.folder), ...included.map((one) => one.folder)]);
  const parents = new Set([...modules.values()].flatMap((module) => (isWithin(module.folder, folder) ? parentOf(module.folder) : [])));
  return [...parents].flatMap((parent) =>
    project.tree.list(parent).flatMap(({ name, kind, link }): { path: string; at: Place }[] => {
      const beside = join(parent, name);
      if (kind !== "folder" || link || own.has(beside) || /^(buildSrc|build|node_modules)$|^\./.test(name)) return [];
      const script = buildFileIn(project, beside);
      if (script === undefined || settingsFileIn(project, beside) !== undefined) return [];
      if (!project.tree.isFile(join(beside, "src/main/AndroidManifest.xml")) || !APPLIES_ANDROID.test(project.text(script)?.text ?? ""))
        return [];
      return [{ path: beside, at: { file: script, line: 1, column: 1 } }];
    }),
  );
}

/** Whether a folder is certainly gone: of installed packages only where one of almost its name is there, as others may not be installed. */
function isGone(project: ProjectFiles, folder: string): boolean {
  const above = parentOf(folder);
  if (folder.startsWith("..") || project.tree.isFolder(folder) || !project.tree.isFolder(above)) return false;
  const beside = project.tree.list(above).flatMap(({ name, kind }) => (kind === "folder" ? name : []));
  return !isInstalled(`${folder}/`) || misspelling(baseName(folder), beside) !== undefined;
}

/** Modules and builds whose folders are not there: what they hold is not known. */
function tellMissing(
  project: ProjectFiles,
  places: ReadonlyMap<string, { folder: string; at: Place | undefined }>,
  build: BuildReading,
  settings: Reading,
): GradleBuildFacts["absent"] {
  const absent = [...places].flatMap(([path, { folder, at }]) =>
    at && !project.tree.isFolder(folder) && !isIntermediate(path, places) ? [{ path, folder, at }] : [],
  );
  for (const { path, folder, at } of absent) tell(settings, `the module ${path}`, reason("not-there", { what: folder }), at, "lost");
  for (const { folder, at: place } of build.included)
    if (!project.tree.isFolder(folder)) tell(settings, "a build that is taken in", reason("not-there", { what: folder }), place, "lost");
  return absent;
}

/** `:a` of `:a:b`, which Gradle includes by itself. */
function isIntermediate(path: string, places: ReadonlyMap<string, unknown>): boolean {
  return [...places.keys()].some((other) => other.startsWith(`${path}:`));
}

/**
 * Reads a further project as one of a build, such as a package's `android/` folder, which the app's build takes in.
 * @param build the folder of the build's root
 * @param file a script of another name than the usual ones
 */
export function readModule(project: ProjectFiles, build: string, path: string, folder: string, file?: string): GradleModule {
  const { variables: above, conventions, helpers } = evaluatedBuild(project, build);
  const module = newModule(path, folder, file ?? buildFileIn(project, folder));
  const variables = newVariables(folder, path.split(":").at(-1) ?? "", propertyFiles(project, folder), above);
  const shared: BuildReading = {
    folder: build,
    conventions,
    helpers,
    projects: new Map(),
    included: [],
    include: () => undefined,
    place: () => undefined,
  };
  readScripts({ project, module, variables, build: shared, applied: new Set(), deferred: [] }, module.buildFile);
  return module;
}

function propertyFiles(project: ProjectFiles, folder: string): Data[] {
  const file = project.properties(join(folder, "gradle.properties"));
  return file ? [file] : [];
}

/** Catalogs and extra properties that plugins of the root project bring from an installed package. */
function readPropertyPlugins(project: ProjectFiles, root: GradleModule, variables: ProjectVariables): void {
  for (const { plugin, catalog: name, package: owner, file, properties, overrides } of PROPERTY_PLUGINS) {
    const applied = root.plugins.find((entry) => entry.id === plugin && entry.applied);
    if (!applied) continue;
    const installed = findInstalled(project, variables.folder, owner);
    const catalog = installed && readCatalog(project, join(installed.folder, file));
    const versions = new Map(catalog?.versions);
    for (const [entry, by] of Object.entries(overrides)) {
      const value = property(variables, by);
      if (value?.kind === "known") versions.set(entry, value);
    }
    if (catalog) variables.catalogs.set(name, { ...catalog, versions });
    for (const [extra, entry] of Object.entries(properties)) {
      const value = versions.get(entry) ?? unknown(reason("catalog-owner-not-installed", { package: owner }), applied.at);
      if (!variables.extra.has(extra)) variables.extra.set(extra, value);
    }
  }
}

/** Every `gradle/NAME.versions.toml` is a catalog; `libs` is the one Gradle imports by itself. */
function defaultCatalogs(project: ProjectFiles, folder: string): [string, Catalog][] {
  const catalogs: [string, Catalog][] = [];
  for (const entry of project.tree.list(join(folder, "gradle"))) {
    const name = /^(\w+)\.versions\.toml$/.exec(entry.name)?.[1];
    if (name !== "libs" || entry.kind !== "file") continue;
    const catalog = readCatalog(project, join(folder, "gradle", entry.name));
    if (catalog) catalogs.push([name, catalog]);
  }
  return catalogs;
}

/** What the build's own code brings. */
type BuildSources = Pick<BuildReading, "conventions" | "helpers">;

/** Constants, functions and convention plugins of `buildSrc` and `build-logic`. */
function readConventions(project: ProjectFiles, folder: string, variables: ProjectVariables, { conventions, helpers }: BuildSources): void {
  const classes = new Map<string, Script>();
  const open: { folder: string; depth: number }[] = [{ folder, depth: 0 }];
  const buildFiles: string[] = [];
  let budget = 400;
  for (let next = open.pop(); next && budget > 0; next = open.pop()) {
    for (const entry of project.tree.list(next.folder)) {
      const path = join(next.folder, entry.name);
      if (entry.kind === "folder") {
        if (!entry.link && next.depth < 14 && !/^(build|\.gradle|test|\.git|\.kotlin)$/.test(entry.name))
          open.push({ folder: path, depth: next.depth + 1 });
        continue;
      }
      if (!/\.(kts?|gradle|groovy|java)$/.test(entry.name) || budget-- <= 0) continue;
      const convention = /^(.+)\.gradle(\.kts)?$/.exec(entry.name);
      if (convention && path.includes("/src/main/")) {
        const script = project.script(path);
        if (script) conventions.set(convention[1] as string, script);
      } else if (/^build\.gradle(\.kts)?$/.test(entry.name)) buildFiles.push(path);
      else if (/\.(kt|java|groovy)$/.test(entry.name) && path.includes("/src/")) {
        const script = project.script(path);
        if (script) readOwnCode(project, script, variables, classes, helpers);
      }
    }
  }
  for (const file of buildFiles) registerPlugins(project, file, classes, conventions);
}

/** A file of the build's own code: its constants, its classes of plugins, and what else plugins and scripts call. */
function readOwnCode(
  project: ProjectFiles,
  script: Script,
  variables: ProjectVariables,
  classes: Map<string, Script>,
  helpers: Script[],
): void {
  readConstants(project, script, variables);
  const others = script.body.filter((statement) => {
    if (statement.kind !== "type" || !isPlugin(statement)) return statement.kind === "function" || statement.kind === "type";
    classes.set(statement.name, { ...script, body: [statement] });
    return false;
  });
  if (others.length > 0) helpers.push({ ...script, body: others });
}

/**
 * What a build can do beyond what its blocks say: tasks, variants, sources that are made. Source: developer.android.com, "Write Gradle plugins"
 * (androidComponents); docs.gradle.org, "Implementing Binary Plugins".
 */
const DOES_MORE =
  /\b(?:tasks|TaskProvider|androidComponents|AndroidComponentsExtension|(?:on|before)Variants|finalizeDsl|\w+Variants|artifacts|afterEvaluate|projectsEvaluated|do(?:Last|First)|exec|ProcessBuilder|add(?:Static|Generated)\w+|extensions\s*\.\s*(?:create|add)|objects|gradle\s*\.|ServiceLoader|readText|Properties)\b/;

/** A function, with the project among what it is handed: what it does is known only where it is here. */
const HANDS_ON = /(?<![\w.])([A-Za-z_]\w*)\s*\(\s*(?:[^()]*,\s*)?(?:target|this|project|self)\b/g;
/** Calls by which a script goes on with what it is handed. */
const GOES_ON = /^(?:with|apply|run|also|let|configure|if|when|while|for|return|super|fun|beforeEvaluate)$/;

/** Plugins of the build's own that do, or call a function that does, what the scripts do not say. */
function openConventions({ conventions, helpers }: BuildSources): string[] {
  const here = new Set(helpers.flatMap(({ body }) => body.flatMap((part) => (part.kind === "function" ? part.name : []))));
  const isOpen = (text: string): boolean => {
    const code = text.replace(/^import .*$/gm, "");
    return DOES_MORE.test(code) || [...code.matchAll(HANDS_ON)].some(([, name = ""]) => !here.has(name) && !GOES_ON.test(name));
  };
  const open = new Set(
    helpers.flatMap(({ source, body }) =>
      body.flatMap((part) =>
        (part.kind === "function" || part.kind === "type") && isOpen(source.text.slice(part.start, part.end)) ? part.name : [],
      ),
    ),
  );
  const names = [...open].filter((name) => /^\w+$/.test(name));
  const calls = names.length === 0 ? undefined : new RegExp(`\\b(?:${names.join("|")})\\b`);
  return [...conventions].flatMap(([id, { source }]) => (isOpen(source.text) || calls?.test(source.text) ? id : []));
}

/** A class that is applied to a project. Source: docs.gradle.org, "Implementing Binary Plugins". */
function isPlugin({ body }: Extract<Statement, { kind: "type" }>): boolean {
  return body.some((member) => member.kind === "function" && member.name === "apply");
}

/** `register("x") { id = "…"; implementationClass = "…" }` */
function registerPlugins(project: ProjectFiles, file: string, classes: Map<string, Script>, conventions: Map<string, Script>): void {
  const script = project.script(file);
  if (!script) return;
  const visit = (body: Statement[]): void => {
    let id: string | undefined;
    let implementation: string | undefined;
    for (const statement of body) {
      if (statement.kind === "assign") {
        const name = pathOf(statement.target)?.at(-1);
        if (name === "id") id = plainText(statement.value);
        if (name === "implementationClass") implementation = plainText(statement.value)?.split(".").at(-1);
      } else if (statement.kind === "expression" && statement.value.kind === "call" && statement.value.closure)
        visit(statement.value.closure.body);
    }
    const found = implementation === undefined ? undefined : classes.get(implementation);
    if (id !== undefined && found) conventions.set(id, found);
  };
  visit(script.body);
}

/** Constants of a class or object of the build's own code, by their dotted names. */
function readConstants(project: ProjectFiles, script: Script, variables: ProjectVariables): void {
  const reading: Reading = {
    project,
    module: newModule("", variables.folder, undefined),
    variables,
    build: {
      folder: variables.folder,
      conventions: new Map(),
      helpers: [],
      projects: new Map(),
      included: [],
      include: () => undefined,
      place: () => undefined,
    },
    applied: new Set(),
    deferred: [],
  };
  const frame = scriptFrame(script.source, { lookup: (path, inner, offset) => new GradleHost(reading).lookup(path, inner, offset) });
  execute(
    script.body.filter(({ kind }) => kind !== "expression"),
    frame,
  );
  const note = (prefix: string, result: Result): void => {
    if (result.kind === "map") for (const [key, value] of result.entries) note(`${prefix}.${key}`, value);
    if (result.kind !== "function") variables.constants.set(prefix, result);
  };
  for (const cells of [frame.variables.cells, frame.variables.shared().cells]) for (const [name, value] of cells) note(name, value);
}

function readWrapper(project: ProjectFiles, folder: string): GradleBuildFacts["wrapper"] {
  const file = project.properties(join(folder, "gradle/wrapper/gradle-wrapper.properties"));
  const url = at(file, "distributionUrl");
  const match = url?.kind === "scalar" ? /gradle-(\d[\w.+-]*?)-(?:bin|all)\.zip/.exec(String(url.value)) : null;
  return url && match ? { version: known(match[1] as string, placeOf(url)), at: placeOf(url) } : undefined;
}

/** `gradle.lockfile`: `group:artifact:version=configurations`. Source: Gradle user guide, "Locking dependency versions". */
function readLockFiles(project: ProjectFiles, modules: GradleModule[]): void {
  for (const module of modules) {
    const file = join(module.folder, "gradle.lockfile");
    const source = project.tree.isFile(file) ? project.text(file) : undefined;
    if (!source) continue;
    module.lockFile = file;
    let offset = 0;
    for (const line of source.text.split("\n")) {
      const match = /^([^#:=\s]+:[^:=\s]+):([^:=\s]+)=/.exec(line);
      if (match) module.locked.set(match[1] as string, { version: match[2] as string, at: source.place(offset) });
      offset += line.length + 1;
    }
  }
}

/**
 * Whether the settings leave the accessors of modules (`projects.core`) switched off. Source: docs.gradle.org, "Type-safe project accessors" (an incubating
 * feature, which settings ask for).
 */
function accessorsOff(project: ProjectFiles, settingsFile: string | undefined): boolean {
  const source = settingsFile === undefined ? undefined : project.text(settingsFile);
  return source !== undefined && !/TYPESAFE_PROJECT_ACCESSORS|\bapply\b/.test(withoutComments(source.text));
}

/** A script that makes its module an application, by its text. */
const APPLIES_APPLICATION =
  /\bcom\.android\.application["')`]*(?!["')`]*\s*(?:version\s*\S+\s*)?\.?apply[\s(]*false)|\balias\s*\(?\s*libs\.plugins\.android\.application\s*\)(?!\s*\.?apply[\s(]*false)/;

/** Folders of scripts that are filled in, tried or run by tools, and are no part of a build. */
const OF_TOOLS = /(^|\/)(templates?|tests?|testData|fixtures|resources|buildSrc|build-logic)(\/|$)/i;

/** Scripts of applications below a build with settings that no build takes in, as far as its settings were read. */
export function applicationsLeftOut(
  project: ProjectFiles,
  folders: Iterable<[string, { files: string[] }]>,
  builds: readonly GradleBuildFacts[],
): string[] {
  const roots = builds.flatMap(({ settingsFile, folder }) => (settingsFile === undefined ? [] : [folder]));
  const taken = new Set(builds.flatMap(({ folder, modules }) => [folder, ...[...modules.values()].map((module) => module.folder)]));
  const included = builds.flatMap(({ includedBuilds }) => includedBuilds);
  return [...folders].flatMap(([folder, { files }]) => {
    const name = files.find((one) => one === "build.gradle" || one === "build.gradle.kts");
    if (name === undefined || taken.has(folder) || !roots.some((root) => isWithin(folder, root))) return [];
    if (isInstalled(`${folder}/`) || OF_TOOLS.test(folder) || included.some((other) => isWithin(folder, other))) return [];
    const file = join(folder, name);
    return APPLIES_APPLICATION.test(withoutComments(project.text(file)?.text ?? "")) ? [file] : [];
  });
}

/** Folders that hold a Gradle build: with settings, or with a root script that no settings above include. */
export function gradleRoots(folders: Iterable<[string, { files: string[] }]>): string[] {
  const withSettings: string[] = [];
  const withBuild: string[] = [];
  for (const [folder, { files }] of folders) {
    if (files.includes("settings.gradle") || files.includes("settings.gradle.kts")) withSettings.push(folder);
    else if (files.includes("build.gradle") || files.includes("build.gradle.kts")) withBuild.push(folder);
  }
  const roots = new Set(withSettings);
  for (const folder of withBuild.sort((a, b) => a.length - b.length)) {
    let above: string | undefined = folder;
    let covered = false;
    while (above !== undefined && !covered) {
      covered = roots.has(above);
      above = above === "" ? undefined : parentOf(above);
    }
    if (!covered) roots.add(folder);
  }
  return [...roots].sort();
}
