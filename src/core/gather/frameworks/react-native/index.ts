import { noteUnsaidCache } from "../script-config.js";
import path from "node:path";
import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, unknown } from "../../../model/value.js";
import { PLATFORM_PACKAGES } from "../../../knowledge/platform-packages.js";
import { LAST_REACT_NATIVE, REACT_NATIVE_LEVELS } from "../../../knowledge/react-native-levels.js";
import type { Script } from "../../../syntax/script/ast.js";
import { readCatalog } from "../../platforms/android/gradle/catalog.js";
import { readGradleBuild } from "../../platforms/android/gradle/build.js";
import { helperValue, type HelperScripts } from "../../platforms/ios/ruby-host.js";
import {
  findInstalled,
  hasNodeModules,
  readManifest,
  type InstalledPackage,
  type NpmDeclaration,
  type NpmManifest,
} from "../../packages/packages.js";
import { findMember, findPackage, reachedMembers } from "../../packages/workspace-packages.js";
import { findLockFile, readJsLock, type JsLock, type LockedVersion } from "../../packages/locks.js";
import { notePath, npmDependency } from "../npm-dependency.js";
import { readPatches } from "../npm-patches.js";
import { readNpmLock } from "../npm-lock.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";
import { take, type AndroidCandidate, type DetectedApp, type Discovery, type Framework } from "../framework.js";
import { linksOnAndroid, readLinking, readPeers } from "./linking.js";
import { noteRunScripts } from "./run-scripts.js";
import { CONFIG_FILES, nativeCode, readConfig, type NativeCode, type NativeConfig } from "./native-code.js";
import { noteCommandLine, noteWatchedFolders } from "./native-lines.js";
import { noteFrameworkPackages, noteLockedPods, noteNativeLines, noteSwitches, releaseOf } from "./template.js";

const PACKAGE = "react-native";

export const reactNative: Framework = {
  kind: "react-native",
  find(discovery) {
    const found: DetectedApp[] = [];
    const beside: { folder: string; manifest: NpmManifest }[] = [];
    const folders = [...discovery.index.keys()].filter((folder) => discovery.index.get(folder)?.files.includes("package.json"));
    // The deepest first: an app inside a workspace goes before the workspace's own root.
    for (const folder of folders.sort((a, b) => b.length - a.length || (a < b ? -1 : 1))) {
      const manifest = readManifest(discovery.project, folder);
      const declared = manifest?.declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
      if (!manifest || !declared) continue;
      const config = readConfig(discovery.project, folder);
      const androidFolder = join(folder, config.androidFolder ?? "android");
      const iosFolder = join(folder, config.iosFolder ?? "ios");
      const [android] = take(discovery.android, ({ build }) => build.folder === androidFolder);
      const [ios] = take(discovery.ios, ({ xcode }) => xcode.folder === iosFolder);
      if (android || ios) found.push({ kind: "react-native", name: appName(manifest, folder), path: folder, android, ios, shared: folder });
      else if (declared.section === "dependencies") beside.push({ folder, manifest });
    }
    // Native apps that take the scripts of a folder beside them in.
    for (const { folder, manifest } of beside) {
      const host = discovery.android.find((candidate) => leadsTo(discovery.project, androidScripts(candidate), folder));
      const hostIos = discovery.ios.find(({ xcode }) => leadsTo(discovery.project, [join(xcode.folder, "Podfile")], folder));
      const [android] = take(discovery.android, (candidate) => candidate === host);
      const [ios] = take(discovery.ios, (candidate) => candidate === hostIos);
      if (android || ios) found.push({ kind: "react-native", name: appName(manifest, folder), path: folder, android, ios, shared: folder });
    }
    return found.sort((a, b) => (a.path < b.path ? -1 : 1));
  },

  withoutNative(discovery) {
    const { index, project } = discovery;
    return [...index.keys()].filter((folder) => {
      const entry = index.get(folder);
      if (!entry?.files.includes("package.json") || entry.folders.includes("android") || entry.folders.includes("ios")) return false;
      return (
        readManifest(project, folder)?.declarations.some(({ name, section }) => name === PACKAGE && section === "dependencies") ?? false
      );
    });
  },

  helpers: helperScriptsOf,

  linked: ({ project }, { path: folder }) => readConfig(project, folder).linked,

  complete(discovery, detected, app) {
    const { project } = discovery;
    const manifest = readManifest(project, detected.path);
    if (!manifest) return;
    const framework = findInstalled(project, detected.path, PACKAGE);
    const declared = manifest.declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
    app.hybrid({
      folder: detected.path,
      framework: { name: "React Native", package: PACKAGE, declared: declared?.specifier, installed: framework?.version },
    });
    noteUnsaidCache(project, app, detected.path);
    readNpmLock(discovery, manifest, app);
    readPackages(discovery, detected, manifest, app);
    readPatches(project, app, detected.path);
    noteRunScripts(project, app, manifest);
    noteTemplateLines(project, detected, app, framework?.version ?? declared?.specifier.text);
    noteNativeLines(discovery, detected, app, framework?.version ?? declared?.specifier.text);
    noteWatchedFolders(project, app, detected.path, manifest);
    noteCommandLine(project, app, manifest, releaseOf(framework?.version ?? declared?.specifier.text));
    noteSwitches(project, app);
    noteFrameworkPackages(project, detected, app, manifest);
    noteLockedPods(project, detected, app);
    if (framework) readFramework(project, detected, framework.folder, app, helperScriptsOf(discovery, detected));
    else withoutFramework(app, declared);
  },
};

function androidScripts({ build, module }: AndroidCandidate): string[] {
  return [build.settingsFile, module.buildFile].filter((file) => file !== undefined);
}

/** Whether a script of a native project names a folder, or the packages in it, by a path. Source: reactnative.dev, "Integration with Existing Apps". */
function leadsTo(project: ProjectFiles, files: readonly string[], folder: string): boolean {
  const wanted = [folder, join(folder, "node_modules")];
  return files.some((file) => {
    const text = project.tree.isFile(file) ? project.text(file)?.text : undefined;
    return [...(text?.matchAll(/["'](?:#\{[^}"']*\}\/)?(\.{1,2}\/[^"'\n#$]*)["']/g) ?? [])].some(([, path = ""]) => {
      const to = join(parentOf(file), path.replace(/\/node_modules\/.*$/, "/node_modules").replace(/\/+$/, ""));
      return wanted.includes(to);
    });
  });
}

/**
 * Lines of the native projects without which a release has no JavaScript. Sources: the framework's templates from 0.71 on (build plugin, build
 * phase); reactnative.dev, "Integration with Existing Apps".
 */
const LINKING_SCRIPT = /\bapply\s*\(?\s*from\b[^\n]*native_modules\.gradle[^\n]*/g;

function noteTemplateLines(
  project: ProjectFiles,
  { android, ios, generated }: DetectedApp,
  app: FactSink,
  version: string | undefined,
): void {
  const minor = releaseOf(version);
  if (!(minor >= 60)) return;
  // Its plugin came with 0.71.
  if (minor >= 71) noteBuildPlugin(project, app, generated, android);
  const target = generated ? undefined : ios?.targets[0];
  if (
    ios &&
    target &&
    target.sources.length + target.synchronized.length > 0 &&
    !target.scripts.some((phase) => /react-native-xcode|bundle|export:embed/i.test(phase)) &&
    !target.resources.some((file) => file.endsWith(".jsbundle"))
  )
    app.templateLine({ line: "bundle of scripts", side: "ios", at: target.at });
}

/** The framework's build plugin in the app's script. */
function noteBuildPlugin(
  project: ProjectFiles,
  app: FactSink,
  generated: boolean | undefined,
  android: AndroidCandidate | undefined,
): void {
  const script = generated ? undefined : android?.module.buildFile;
  const text = script === undefined ? undefined : project.text(script)?.text;
  if (
    script !== undefined &&
    text !== undefined &&
    !/["']com\.facebook\.react["']|react\.gradle/.test(text) &&
    // Another script, or a plugin of the project's own, may apply it.
    !/\bapply\s*\(?\s*from\b/.test(text.replace(LINKING_SCRIPT, "")) &&
    !android?.build.conventions.length &&
    ![android?.build.root.buildFile, android?.build.settingsFile].some(
      (file) => file !== undefined && /["']com\.facebook\.react["']/.test(project.text(file)?.text ?? ""),
    )
  )
    app.templateLine({ line: "framework's build plugin", side: "android", at: startOf(script) });
}

function appName(manifest: NpmManifest, folder: string): string {
  const fromFolder = baseName(folder);
  return (manifest.name?.replace(/^@[^/]+\//, "") ?? fromFolder) || "app";
}

/** The scripts that an app's framework brings for Podfiles and podspecs, read when they are first needed. */
export function helperScriptsOf({ project }: Discovery, { path }: DetectedApp): HelperScripts {
  return {
    of: `React Native of ${path}`,
    scripts: () => project.memo(`helpers of React Native ${path}`, () => helperScripts(project, path)),
  };
}

/** Ruby scripts that define the helpers of Podfiles and podspecs. */
function helperScripts(project: ProjectFiles, from: string): Script[] {
  const installed = findInstalled(project, from, PACKAGE);
  if (!installed) return [];
  const files = [join(installed.folder, "scripts/react_native_pods.rb")];
  const folder = join(installed.folder, "scripts/cocoapods");
  for (const entry of project.tree.list(folder))
    if (entry.kind === "file" && entry.name.endsWith(".rb")) files.push(join(folder, entry.name));
  return files.flatMap((file) => (project.tree.isFile(file) ? (project.script(file) ?? []) : []));
}

function readPackages(discovery: Discovery, detected: DetectedApp, manifest: NpmManifest, app: FactSink): void {
  const { project } = discovery;
  const config = readConfig(project, detected.path);
  const lockFile = findLockFile(project, detected.path);
  const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
  const anythingInstalled = hasNodeModules(project, detected.path);
  const links = detected.android && !detected.generated ? linksOnAndroid(project, detected.android) : { automatic: true };
  const missing: NpmDeclaration[] = [];
  const declared = manifest.declarations.filter(({ section }) => section !== "peerDependencies");
  for (const declaration of [...declared, ...linkedAlone(config, manifest)]) {
    const { name } = declaration;
    const installed = findPackage(project, detected.path, name, declaration.specifier.text) ?? linkedFrom(config, name);
    const platform = PLATFORM_PACKAGES.npm.test(name);
    const native = installed && name !== PACKAGE ? nativeCode(project, installed.folder) : undefined;
    if (!installed && declaration.section === "dependencies") missing.push(declaration);
    const locked = lock?.locked(detected.path, name, declaration.specifier.text);
    const off = config.off.filter((item) => item.name === name);
    const brings = broughtTo(app, native, off);
    noteDependency(app, declaration, { brings, locked, in: manifest.name ?? detected.name, isInstalled: installed !== undefined });
    notePath(project, app, detected.path, declaration);
    if (native && (brings.android || brings.ios)) readNativeNeeds(discovery, detected, app, name, native, brings);
    if (native && installed && !platform && declaration.section !== "devDependencies") {
      readLinking(project, app, declaration, native, { off, links, helpers: helperScriptsOf(discovery, detected) });
      readPeers(project, detected, app, manifest, { name, folder: installed.folder, native: brings.android || brings.ios });
    }
    noteDouble(app, native, lock, name, detected, lockFile);
  }
  tellMissing(app, missing, anythingInstalled);
  readThroughMembers(project, detected, { manifest, config, app, lock });
}

/** A package as the configuration links it from a folder of the repository. */
function linkedFrom({ linked }: NativeConfig, name: string): InstalledPackage | undefined {
  const found = linked.find((one) => one.name === name);
  return found && { name, folder: found.folder, version: undefined };
}

/**
 * Packages that the configuration links from a folder of the repository, and that the app's list does not have. Source: the React Native command
 * line's documentation, "Dependencies" (root).
 */
function linkedAlone({ linked }: NativeConfig, { folder: from, declarations }: NpmManifest): NpmDeclaration[] {
  return linked.flatMap(({ name, folder, place }): NpmDeclaration[] =>
    declarations.some((declaration) => declaration.name === name)
      ? []
      : [{ name, specifier: known(`file:${path.posix.relative(from, folder) || "."}`, place), section: "dependencies", at: place }],
  );
}

/**
 * Packages that packages of the repository bring: their scripts are in the app, their native code is not, as only what the app's own list has is
 * linked. Source: the framework's command line, "Autolinking" (dependencies of the project's package.json).
 */
function readThroughMembers(
  project: ProjectFiles,
  detected: DetectedApp<unknown>,
  { manifest, config, app, lock }: { manifest: NpmManifest; config: NativeConfig; app: FactSink; lock: JsLock | undefined },
): void {
  const { path, name: appName_ } = detected;
  const isLinked = linkedByHand(project, detected, app);
  const listed = new Set(manifest.declarations.map(({ name }) => name));
  for (const { text, folder, place } of config.lost)
    app.pathFollowed({ text, resolved: folder, kind: "package", exists: false, side: "shared", generated: false, at: place });
  for (const { folder } of config.linked) {
    const linked = readManifest(project, folder);
    if (linked) notePodspecGap(project, app, linked);
  }
  for (const member of reachedMembers(project, path)) {
    notePodspecGap(project, app, member);
    for (const declaration of member.declarations) {
      const { name, section, specifier } = declaration;
      if (section !== "dependencies" || listed.has(name) || PLATFORM_PACKAGES.npm.test(name) || findMember(project, path, name)) continue;
      listed.add(name);
      const installed = findInstalled(project, member.folder, name);
      const native = installed && nativeCode(project, installed.folder);
      const brings = { android: false, ios: false };
      const locked = lock?.locked(member.folder, name, specifier.text);
      noteDependency(app, declaration, { brings, locked, in: member.name ?? member.folder, isInstalled: installed !== undefined });
      if (app.kind !== "react-native" || isLinked(name)) continue;
      for (const side of sidesOf(native))
        if (app[side])
          app.throughPackage({ package: name, by: member.name ?? member.folder, in: manifest.name ?? appName_, side, at: declaration.at });
    }
  }
}

/** The sides that a package has native code for. */
function sidesOf(native: NativeCode | undefined): ("android" | "ios")[] {
  const isIn = { android: native?.androidFolder !== undefined, ios: (native?.podspecs.length ?? 0) > 0 };
  return (["android", "ios"] as const).filter((side) => isIn[side]);
}

/**
 * Whether a file of the app that says what is linked names a package, or works out what it says. Source: the React Native command line's documentation,
 * "Dependencies" (dependencies of the project's configuration, with a root).
 */
function linkedByHand(project: ProjectFiles, { path, android }: DetectedApp<unknown>, app: FactSink): (name: string) => boolean {
  const textOfFile = (file: string): string => project.text(file)?.text ?? "";
  const configs = CONFIG_FILES.map((name) => join(path, name)).flatMap((file) => (project.tree.isFile(file) ? textOfFile(file) : []));
  const isWorkedOut = configs.some((text) => /\bdependencies\b/.test(text) && /\.\.\.|\bObject\s*\.|\breduce\b|\bforEach\b/.test(text));
  const scripts = [...(android ? androidScripts(android) : []), ...(app.ios?.pods ? [app.ios.pods.file] : [])];
  const texts = [...configs, ...scripts.map(textOfFile)];
  return (name) => isWorkedOut || texts.some((text) => text.includes(name));
}

/** A package of the repository with code for both phones, which only a podspec would take into the iOS app. */
function notePodspecGap(project: ProjectFiles, app: FactSink, { folder, name, file }: NpmManifest): void {
  const { tree } = project;
  const native =
    app.ios && tree.isFolder(join(folder, "ios")) && tree.isFolder(join(folder, "android")) ? nativeCode(project, folder) : undefined;
  const isCode = tree.list(join(folder, "ios")).some(({ name: own }) => /\.(?:mm?|swift)$/.test(own));
  if (native && native.androidFolder !== undefined && native.podspecs.length === 0 && isCode)
    app.pluginGap({ package: name ?? folder, side: "ios", type: undefined, what: "podspec", at: startOf(file) });
}

/** The sides to which a package brings native code that is linked. */
function broughtTo(
  app: FactSink,
  native: NativeCode | undefined,
  off: { name: string; side: SideName; place: Dependency["places"][number] }[],
): { android: boolean; ios: boolean } {
  return {
    android: native?.androidFolder !== undefined && app.android !== undefined && !off.some(({ side }) => side === "android"),
    ios: (native?.podspecs.length ?? 0) > 0 && app.ios !== undefined && !off.some(({ side }) => side === "ios"),
  };
}

/** The package as a dependency of the sides to which it brings native code, or of the shared code. */
function noteDependency(
  app: FactSink,
  declaration: NpmDeclaration,
  {
    brings,
    locked,
    in: owner,
    isInstalled,
  }: { brings: Record<"android" | "ios", boolean>; locked: LockedVersion | undefined; in: string; isInstalled: boolean },
): void {
  const sides: SideName[] = [];
  if (brings.android) sides.push("android");
  if (brings.ios) sides.push("ios");
  if (sides.length === 0) sides.push("shared");
  for (const side of sides)
    app.dependency(
      npmDependency(declaration, {
        side,
        locked,
        in: owner,
        native: brings,
        nativeUnknown: !isInstalled,
        testOnly: sides[0] === "shared",
      }),
    );
}

/** A package with native code of which the lock has several versions. */
function noteDouble(
  app: FactSink,
  native: NativeCode | undefined,
  lock: JsLock | undefined,
  name: string,
  detected: DetectedApp<unknown>,
  lockFile: string | undefined,
): void {
  const versions = native && (native.androidFolder !== undefined || native.podspecs.length > 0) ? (lock?.versions(name) ?? []) : [];
  const distinct = [...new Map(versions.map((entry) => [entry.version, entry])).values()];
  if (distinct.length > 1 && ownVersions(versions, detected.path, lockFile)) app.double({ name, versions: distinct });
}

/** Packages that are not here: what they ask for is not known. */
function tellMissing(app: FactSink, missing: NpmDeclaration[], anythingInstalled: boolean): void {
  if (missing.length > 0 && !platformOnly(missing)) {
    const first = missing[0] as NpmDeclaration;
    const names = missing.map(({ name }) => name);
    const listed = names.length > 4 ? `${names.slice(0, 4).join(", ")} and ${names.length - 4} more` : names.join(", ");
    app.blindSpot({
      side: "shared",
      what: anythingInstalled
        ? `what ${listed} ask${names.length === 1 ? "s" : ""} for`
        : "what the JavaScript packages ask for, and which of them have native code",
      why: anythingInstalled ? reason("not-installed") : reason("no-node-modules"),
      places: [first.at],
    });
  }
}

function platformOnly(missing: NpmDeclaration[]): boolean {
  return missing.every(({ name }) => name === "react");
}

/** In a workspace other apps may well have other versions; only a layout that says where helps to tell. */
function ownVersions(versions: { folder?: string }[], path: string, lockFile: string | undefined): boolean {
  const lockFolder = lockFile === undefined ? "" : parentOf(lockFile);
  if (versions.every(({ folder }) => folder !== undefined)) {
    const own = versions.filter(({ folder }) => {
      const owner = join(lockFolder, (folder as string).split("node_modules/")[0] ?? "");
      return owner === lockFolder || isWithin(path, owner);
    });
    return own.length > 1;
  }
  return lockFolder === path;
}

function readNativeNeeds(
  discovery: Discovery,
  detected: DetectedApp,
  app: FactSink,
  name: string,
  native: NativeCode,
  brings: { android: boolean; ios: boolean },
): void {
  const { project } = discovery;
  const sdk = sdkIdOf("npm", name);
  if (brings.android && native.androidFolder !== undefined && app.android)
    noteAndroidPackage(project, app, app.android, name, sdk, native.androidFolder);
  if (!brings.ios || !app.ios) return;
  const helpers = helperScriptsOf(discovery, detected);
  for (const file of native.podspecs) if (project.tree.isFile(file)) notePodspec(project, app, file, name, sdk, helpers);
}

/** What the installed framework itself asks for, and the versions that its own scripts and catalogs set. */
function readFramework(project: ProjectFiles, detected: DetectedApp, folder: string, app: FactSink, helpers: HelperScripts): void {
  if (app.android) {
    const catalogFile = join(folder, "gradle/libs.versions.toml");
    const catalog = project.tree.isFile(catalogFile) ? readCatalog(project, catalogFile) : undefined;
    const ownBuild = project.tree.isFolder(join(folder, "ReactAndroid"))
      ? readGradleBuild(project, join(folder, "ReactAndroid"))
      : undefined;
    const minimum =
      catalog?.versions.get("minSdk") ??
      ownBuild?.root.settings.find(({ name, block }) => /^minSdk(Version)?$/.test(name) && block === "defaultConfig")?.values[0];
    if (minimum?.kind === "known") app.required({ level: "minSdk", value: minimum, by: PACKAGE, sdk: PACKAGE, from: "its own build" });
    const plugin =
      findInstalled(project, folder, "@react-native/gradle-plugin") ?? findInstalled(project, detected.path, "@react-native/gradle-plugin");
    const pluginCatalogFile = plugin && join(plugin.folder, "gradle/libs.versions.toml");
    const pluginCatalog = pluginCatalogFile && project.tree.isFile(pluginCatalogFile) ? readCatalog(project, pluginCatalogFile) : undefined;
    for (const [level, alias] of [
      ["androidPlugin", "agp"],
      ["kotlin", "kotlin"],
    ] as const) {
      const value = pluginCatalog?.versions.get(alias);
      if (!value || app.android.effective[level]) continue;
      app.android.defaults[level] = { value, from: "React Native's Gradle plugin" };
      app.android.effective[level] = value;
    }
  }
  noteLeastIos(project, app, helpers);
}

/** The least iOS that the pod scripts of the framework build for. */
function noteLeastIos(project: ProjectFiles, app: FactSink, helpers: HelperScripts): void {
  if (app.ios) {
    const scripts = helpers.scripts();
    const [first] = scripts;
    if (first) {
      const minimum = helperValue(project, first.source, helpers, "min_ios_version_supported");
      if (minimum?.kind === "known")
        app.required({ level: "iosTarget", value: minimum, by: PACKAGE, sdk: PACKAGE, from: "its pod scripts" });
    }
  }
}

/** What is known of a framework that is not installed, by the release that the app declares; what its scripts would give is not. */
function withoutFramework(app: FactSink, declared: NpmDeclaration | undefined): void {
  const release = releaseOf(declared?.specifier.text);
  const levels = release <= LAST_REACT_NATIVE ? REACT_NATIVE_LEVELS.find(({ from }) => release >= from) : undefined;
  if (declared && levels)
    for (const level of ["minSdk", "iosTarget"] as const)
      if (level === "minSdk" ? app.android : app.ios)
        app.required({
          level,
          value: known(levels[level], declared.specifier.place),
          by: PACKAGE,
          sdk: PACKAGE,
          from: `React Native 0.${release}`,
        });
  markUnknownDefaults(app);
}

function markUnknownDefaults(app: FactSink): void {
  const why = reason("react-native-not-installed");
  for (const side of [app.android, app.ios]) {
    for (const fact of side?.levels ?? []) {
      if (fact.value.kind === "unknown" && fact.value.lacks !== undefined) fact.value = unknown(why, fact.value.place);
    }
  }
  if (app.android && !app.android.effective.androidPlugin) {
    const place = { file: app.android.build.root.buildFile ?? app.android.folder, line: 1, column: 1 };
    app.android.effective.androidPlugin = unknown(why, place);
  }
}
