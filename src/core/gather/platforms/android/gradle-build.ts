import { baseName, join, parentOf } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import { known, unknown, type Value } from "../../../model/value.js";
import type { Place } from "../../../model/place.js";
import { at, placeOf, valueAt, type Data } from "../../../syntax/data.js";
import { callName, pathOf, plainText, positional, type Script, type Statement } from "../../../syntax/script/ast.js";
import { evaluate, evaluateValue, type Result } from "../../../evaluate/evaluate.js";
import { readCatalog, type Catalog } from "./catalog.js";
import { newModule, type GradleModule } from "./gradle-facts.js";
import { ModuleReader } from "./module-reader.js";
import { PROPERTY_PLUGINS } from "../../../knowledge/property-plugins.js";
import { findInstalled } from "../../packages/packages.js";
import { property, scriptScope, type ProjectVariables } from "./scope.js";

/** A Gradle build: its settings, its root and its modules. */
export interface GradleBuild {
  folder: string;
  settingsFile: string | undefined;
  root: GradleModule;
  modules: Map<string, GradleModule>;
  wrapper: { version: Value; at: Place } | undefined;
  variables: ProjectVariables;
  conventions: Map<string, Script>;
  /** Plugins and repositories that the settings declare for the whole build. */
  settings: GradleModule;
  includedBuilds: string[];
  /** The JDK that the build's daemon runs on, where the project fixes it. */
  daemonJdk: Value | undefined;
}

export function buildFileIn(project: ProjectFiles, folder: string): string | undefined {
  for (const name of ["build.gradle.kts", "build.gradle"]) {
    const file = join(folder, name);
    if (project.tree.isFile(file)) return file;
  }
  return undefined;
}

export function settingsFileIn(project: ProjectFiles, folder: string): string | undefined {
  for (const name of ["settings.gradle.kts", "settings.gradle"]) {
    const file = join(folder, name);
    if (project.tree.isFile(file)) return file;
  }
  return undefined;
}

/** Reads the Gradle build whose root is `folder`. */
export function readGradleBuild(project: ProjectFiles, folder: string): GradleBuild {
  const settingsFile = settingsFileIn(project, folder);
  const rootBuildFile = buildFileIn(project, folder);
  const properties = propertyFiles(project, folder);
  const variables = newVariables(folder, baseName(folder), properties, undefined);
  for (const [name, catalog] of defaultCatalogs(project, folder)) variables.catalogs.set(name, catalog);
  const conventions = new Map<string, Script>();
  readBuildSources(project, folder, variables, conventions);

  const settings = newModule("settings", folder, settingsFile);
  const places = new Map<string, string>();
  const include = (path: string): void => {
    if (!places.has(path)) places.set(path, join(folder, path.split(":").filter(Boolean).join("/")));
  };
  const settingsScript = settingsFile ? project.script(settingsFile) : undefined;
  const includedBuilds: string[] = [];
  if (settingsScript) {
    const settingsVariables = { ...variables, extra: new Map<string, Result>(), folder };
    settingsVariables.root = settingsVariables;
    const reader = withCatalogFiles(new ModuleReader(project, settings, settingsVariables, conventions, include), project, folder);
    reader.readScript(settingsScript);
    includedBuilds.push(...reader.included);
    readProjectFolders(settingsScript, settingsVariables, folder, places);
    for (const included of reader.included)
      if (!/(^|\/)node_modules\//.test(included)) readConventions(project, included, variables, conventions);
  }

  const root = newModule(":", folder, rootBuildFile);
  const rootReader = withCatalogFiles(new ModuleReader(project, root, variables, conventions, include), project, folder);
  const rootScript = rootBuildFile ? project.script(rootBuildFile) : undefined;
  if (rootScript) rootReader.readScript(rootScript);
  readPropertyPlugins(project, root, variables);

  if (settingsFile === undefined) {
    // A project whose settings are not there yet, or are written on build: the folders with a script are its modules.
    for (const entry of project.tree.list(folder)) {
      if (
        entry.kind === "folder" &&
        !entry.link &&
        entry.name !== "buildSrc" &&
        buildFileIn(project, join(folder, entry.name)) !== undefined
      )
        include(`:${entry.name}`);
    }
  }

  const modules = new Map<string, GradleModule>();
  const build: GradleBuild = {
    folder,
    settingsFile,
    root,
    modules,
    wrapper: readWrapper(project, folder),
    variables,
    conventions,
    settings,
    includedBuilds,
    daemonJdk: valueAt(project.properties(join(folder, "gradle/gradle-daemon-jvm.properties")), "toolchainVersion"),
  };
  for (const block of rootReader.shared) if (block.withRoot) rootReader.readShared(block);
  const sharedBlocks = [...rootReader.shared];
  for (const [path, moduleFolder] of places) {
    if (path === ":") continue;
    modules.set(path, readModule(project, build, path, moduleFolder, sharedBlocks));
  }
  readLockFiles(project, [root, ...modules.values()]);
  return build;
}

/** Reads one project of a build; also used for a package's `android/` folder, which the app's build takes in. `file` names a script of another name. */
export function readModule(
  project: ProjectFiles,
  build: GradleBuild,
  path: string,
  folder: string,
  shared: ModuleReader["shared"] = [],
  file?: string,
): GradleModule {
  const buildFile = file ?? buildFileIn(project, folder);
  const module = newModule(path, folder, buildFile);
  const variables = newVariables(folder, path.split(":").at(-1) ?? "", moduleProperties(project, folder), build.variables);
  const reader = withCatalogFiles(new ModuleReader(project, module, variables, build.conventions), project, build.folder);
  for (const block of shared) reader.readShared(block);
  const script = buildFile ? project.script(buildFile) : undefined;
  if (script) reader.readScript(script);
  return module;
}

function newVariables(folder: string, name: string, properties: Data[], parent: ProjectVariables | undefined): ProjectVariables {
  const variables: ProjectVariables = {
    folder,
    name,
    extra: new Map(),
    properties,
    parent,
    root: undefined as unknown as ProjectVariables,
    catalogs: parent?.catalogs ?? new Map<string, Catalog>(),
    constants: parent?.constants ?? new Map<string, Result>(),
  };
  variables.root = parent?.root ?? variables;
  return variables;
}

function propertyFiles(project: ProjectFiles, folder: string): Data[] {
  const file = project.properties(join(folder, "gradle.properties"));
  return file ? [file] : [];
}

function moduleProperties(project: ProjectFiles, folder: string): Data[] {
  return propertyFiles(project, folder);
}

function withCatalogFiles(reader: ModuleReader, project: ProjectFiles, folder: string): ModuleReader {
  reader.catalogFile = (entry, context, catalog) => {
    for (const arg of positional(entry)) {
      const value = evaluateValue(arg, context.scope);
      if (value.kind !== "known") continue;
      const file = readCatalog(project, join(folder, value.text));
      if (!file) continue;
      for (const key of ["versions", "libraries", "bundles", "plugins"] as const)
        for (const [alias, item] of file[key]) (catalog[key] as Map<string, unknown>).set(alias, item);
    }
  };
  return reader;
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
      const value = versions.get(entry) ?? unknown(`${owner} is not installed: its version catalog cannot be read`, applied.at);
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

/** `project(":x").projectDir = file("../x")` */
function readProjectFolders(script: Script, variables: ProjectVariables, folder: string, places: Map<string, string>): void {
  const scope = scriptScope(script.source, variables, new Map());
  for (const statement of script.body) {
    if (statement.kind !== "assign" || statement.target.kind !== "member" || statement.target.name !== "projectDir") continue;
    const owner = statement.target.object;
    const path = owner?.kind === "call" && callName(owner) === "project" ? plainText(owner.args[0]?.value) : undefined;
    if (path === undefined) continue;
    const value = evaluateValue(statement.value, scope);
    if (value.kind === "known") places.set(path.startsWith(":") ? path : `:${path}`, join(folder, value.text));
    else places.delete(path.startsWith(":") ? path : `:${path}`);
  }
}

/** Constants and convention plugins of `buildSrc` and `build-logic`. */
function readBuildSources(project: ProjectFiles, folder: string, variables: ProjectVariables, conventions: Map<string, Script>): void {
  if (project.tree.isFolder(join(folder, "buildSrc"))) readConventions(project, join(folder, "buildSrc"), variables, conventions);
}

function readConventions(project: ProjectFiles, folder: string, variables: ProjectVariables, conventions: Map<string, Script>): void {
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
        if (!script) continue;
        readConstants(script, script.body, "", variables);
        for (const statement of script.body) if (statement.kind === "type") classes.set(statement.name, { ...script, body: [statement] });
      }
    }
  }
  for (const file of buildFiles) registerPlugins(project, file, classes, conventions);
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

function readConstants(script: Script, body: Statement[], prefix: string, variables: ProjectVariables): void {
  const scope = scriptScope(script.source, variables, new Map());
  for (const statement of body) {
    if (statement.kind === "type")
      readConstants(script, statement.body, statement.name === "" ? prefix : `${prefix}${statement.name}.`, variables);
    else if (statement.kind === "assign") {
      const name = pathOf(statement.target)?.at(-1);
      if (!name) continue;
      const inner =
        prefix === ""
          ? scope
          : { ...scope, lookup: (path: string[]) => scope.lookup(path) ?? variables.constants.get(`${prefix}${path.join(".")}`) };
      const value = evaluate(statement.value, inner);
      if (value.kind === "known") variables.constants.set(`${prefix}${name}`, value);
    }
  }
}

function readWrapper(project: ProjectFiles, folder: string): GradleBuild["wrapper"] {
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
