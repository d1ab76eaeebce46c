import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import type { Project } from "../../files/project.js";
import type { App } from "../../model/app.js";
import type { Dependency, LinkingFact, PackageNeed, SideName } from "../../model/facts.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { unknown } from "../../model/value.js";
import { at, entriesOf, placeOf, textAt } from "../../syntax/data.js";
import { NATIVE_NAME, PLATFORM_PACKAGES } from "../../knowledge/platform-packages.js";
import { pathOf, type Expr, type Script } from "../../syntax/script/ast.js";
import { evaluate, type Result } from "../../syntax/script/evaluate.js";
import { readCatalog } from "../../platforms/android/catalog.js";
import { readGradleBuild } from "../../platforms/android/gradle-build.js";
import { rubyScope, type HelperScripts } from "../../platforms/ios/podfile.js";
import { readPodspec } from "../../platforms/ios/podspec.js";
import { findInstalled, hasNodeModules, readManifest, type NpmDeclaration, type NpmManifest } from "../../platforms/javascript/packages.js";
import { findLockFile, readJsLock } from "../../platforms/javascript/locks.js";
import { notePath, npmDependency } from "../npm-dependency.js";
import { readNpmLock } from "../npm-lock.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";
import { claim, type AndroidCandidate, type AppSeed, type Discovery, type Framework } from "../framework.js";

const PACKAGE = "react-native";

const helpersOf = new WeakMap<AppSeed, HelperScripts>();

export const reactNative: Framework = {
  kind: "react-native",
  find(discovery) {
    const seeds: AppSeed[] = [];
    const folders = [...discovery.index.keys()].filter((folder) => discovery.index.get(folder)?.files.includes("package.json"));
    // The deepest first: an app inside a workspace goes before the workspace's own root.
    for (const folder of folders.sort((a, b) => b.length - a.length || (a < b ? -1 : 1))) {
      const manifest = readManifest(discovery.project, folder);
      const declared = manifest?.declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
      if (!manifest || !declared) continue;
      const config = readConfig(discovery.project, folder);
      const androidFolder = join(folder, config.androidFolder ?? "android");
      const iosFolder = join(folder, config.iosFolder ?? "ios");
      const [android] = claim(discovery.android, ({ build }) => build.folder === androidFolder);
      const [ios] = claim(discovery.ios, ({ xcode }) => xcode.folder === iosFolder);
      if (!android && !ios) continue;
      seeds.push({ kind: "react-native", name: appName(manifest, folder), path: folder, android, ios, shared: folder });
    }
    return seeds.sort((a, b) => (a.path < b.path ? -1 : 1));
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

  helpers(discovery, seed) {
    let helpers = helpersOf.get(seed);
    if (!helpers) {
      let scripts: Script[] | undefined;
      helpers = () => (scripts ??= helperScripts(discovery.project, seed.path));
      helpersOf.set(seed, helpers);
    }
    return helpers;
  },

  complete(discovery, seed, app) {
    const { project } = discovery;
    const manifest = readManifest(project, seed.path);
    if (!manifest) return;
    const framework = findInstalled(project, seed.path, PACKAGE);
    const declared = manifest.declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
    app.shared = {
      folder: seed.path,
      framework: { name: "React Native", package: PACKAGE, declared: declared?.specifier, installed: framework?.version },
    };
    readNpmLock(discovery, manifest, app);
    readPackages(discovery, seed, manifest, app);
    if (framework) readFramework(project, seed, framework.folder, app, this.helpers(discovery, seed));
    else markUnknownDefaults(app);
  },
};

function appName(manifest: NpmManifest, folder: string): string {
  const fromFolder = baseName(folder);
  return (manifest.name?.replace(/^@[^/]+\//, "") ?? fromFolder) || "app";
}

/** Ruby scripts that define the helpers of Podfiles and podspecs. */
function helperScripts(project: Project, from: string): Script[] {
  const installed = findInstalled(project, from, PACKAGE);
  if (!installed) return [];
  const files = [join(installed.folder, "scripts/react_native_pods.rb")];
  const folder = join(installed.folder, "scripts/cocoapods");
  for (const entry of project.tree.list(folder))
    if (entry.kind === "file" && entry.name.endsWith(".rb")) files.push(join(folder, entry.name));
  return files.flatMap((file) => (project.tree.isFile(file) ? (project.script(file) ?? []) : []));
}

interface NativeConfig {
  androidFolder?: string;
  iosFolder?: string;
  /** Packages whose linking is switched off, per side. */
  off: { name: string; side: SideName; place: Dependency["places"][number] }[];
  /** For a package's own file: sides that it does not link. */
  own: { android?: string | false; ios?: string | false };
}

const CONFIG_FILES = ["react-native.config.js", "react-native.config.cjs", "react-native.config.mjs", "react-native.config.ts"];

/** Reads `react-native.config.js` statically. Source: the React Native command line's documentation, "Configuration". */
function readConfig(project: Project, folder: string): NativeConfig {
  const config: NativeConfig = { off: [], own: {} };
  const file = CONFIG_FILES.map((name) => join(folder, name)).find((candidate) => project.tree.isFile(candidate));
  const script = file ? project.script(file) : undefined;
  const exported = script && exportedObject(script);
  if (!script || exported?.kind !== "map") return config;
  const entry = (expr: Expr | undefined, name: string): Expr | undefined =>
    expr?.kind === "map" ? expr.entries.find((item) => item.name === name)?.value : undefined;
  const text = (expr: Expr | undefined): string | undefined => {
    const result = expr && evaluate(expr, { source: script.source, lookup: () => undefined });
    return result?.kind === "known" ? result.text : undefined;
  };
  config.androidFolder = text(entry(entry(entry(exported, "project"), "android"), "sourceDir"));
  config.iosFolder = text(entry(entry(entry(exported, "project"), "ios"), "sourceDir"));
  const isNull = (expr: Expr | undefined): boolean => expr?.kind === "literal" && (expr.text === "null" || expr.text === "false");
  const dependencies = entry(exported, "dependencies");
  for (const item of dependencies?.kind === "map" ? dependencies.entries : []) {
    if (item.name === undefined) continue;
    const platforms = entry(item.value, "platforms");
    for (const side of ["android", "ios"] as const) {
      if (isNull(entry(platforms, side)))
        config.off.push({ name: item.name, side, place: script.source.place(item.nameStart ?? item.value.start) });
    }
  }
  const own = entry(entry(exported, "dependency"), "platforms");
  for (const side of ["android", "ios"] as const) {
    const value = entry(own, side);
    if (isNull(value)) config.own[side] = false;
    else {
      const folderText = text(entry(value, side === "android" ? "sourceDir" : "podspecPath"));
      if (folderText !== undefined) config.own[side] = folderText;
    }
  }
  return config;
}

function exportedObject(script: Script): Expr | undefined {
  const constants = new Map<string, Expr>();
  let found: Expr | undefined;
  for (const statement of script.body) {
    if (statement.kind === "assign") {
      const path = pathOf(statement.target)?.join(".");
      if (path === "module.exports" || path === "exports.default") found = statement.value;
      else if (path !== undefined) constants.set(path, statement.value);
    } else if (statement.kind === "expression" && statement.value.kind === "map") found ??= statement.value;
  }
  if (found?.kind === "name") return constants.get(found.name);
  if (found?.kind === "call" && found.args[0]) return found.args[0].value;
  return found;
}

interface NativeCode {
  androidFolder: string | undefined;
  podspecs: string[];
}

/** What an installed package ships: an `android/` folder, podspecs. */
function nativeCode(project: Project, folder: string): NativeCode {
  const entries = project.tree.list(folder);
  const hasConfig = entries.some(({ name }) => name.startsWith("react-native.config."));
  const own = hasConfig ? readConfig(project, folder).own : {};
  const podspecs =
    own.ios === false
      ? []
      : typeof own.ios === "string"
        ? [join(folder, own.ios)]
        : linkedPodspec(
            entries.flatMap(({ name, kind }) => (kind === "file" && name.endsWith(".podspec") ? name : [])),
            folder,
          );
  // Packages of Expo keep their podspec beside their sources. Source: docs.expo.dev, "Module config".
  if (podspecs.length === 0 && own.ios !== false && entries.some(({ name }) => name === "expo-module.config.json"))
    podspecs.push(
      ...linkedPodspec(
        project.tree.list(join(folder, "ios")).flatMap(({ name }) => (name.endsWith(".podspec") ? name : [])),
        join(folder, "ios"),
      ),
    );
  let androidFolder: string | undefined;
  if (own.android !== false) {
    const candidate = join(folder, typeof own.android === "string" ? own.android : "android");
    if (project.tree.isFolder(candidate) && project.tree.list(candidate).some(({ name }) => /^build\.gradle(\.kts)?$|^src$/.test(name)))
      androidFolder = candidate;
  }
  return { androidFolder, podspecs };
}

/**
 * Of several podspecs the one that is linked by itself; the others are for people to name in their Podfile.
 * Source: the React Native command line, platform-apple, findPodspec: the one named after the folder, else the first.
 */
function linkedPodspec(names: string[], folder: string): string[] {
  const named = `${baseName(folder)}.podspec`;
  const chosen = names.includes(named) ? named : names[0];
  return chosen === undefined ? [] : [join(folder, chosen)];
}

function readPackages(discovery: Discovery, seed: AppSeed, manifest: NpmManifest, app: App): void {
  const { project } = discovery;
  const config = readConfig(project, seed.path);
  const lockFile = findLockFile(project, seed.path);
  const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
  const anythingInstalled = hasNodeModules(project, seed.path);
  const links = seed.android && !seed.generated ? linksOnAndroid(project, seed.android) : { automatic: true };
  const missing: NpmDeclaration[] = [];
  for (const declaration of manifest.declarations) {
    if (declaration.section === "peerDependencies") continue;
    const { name } = declaration;
    const installed = findInstalled(project, seed.path, name);
    const platform = PLATFORM_PACKAGES.npm.test(name);
    const native = installed && name !== PACKAGE ? nativeCode(project, installed.folder) : undefined;
    if (!installed && declaration.section === "dependencies") missing.push(declaration);
    const locked = lock?.locked(seed.path, name, declaration.specifier.text);
    const off = config.off.filter((item) => item.name === name);
    const brings = {
      android: native?.androidFolder !== undefined && app.android !== undefined && !off.some(({ side }) => side === "android"),
      ios: (native?.podspecs.length ?? 0) > 0 && app.ios !== undefined && !off.some(({ side }) => side === "ios"),
    };
    const sides: SideName[] = [];
    if (brings.android) sides.push("android");
    if (brings.ios) sides.push("ios");
    if (sides.length === 0) sides.push("shared");
    for (const side of sides)
      app.dependencies.push(
        npmDependency(declaration, {
          side,
          locked,
          in: manifest.name ?? seed.name,
          native: brings,
          nativeUnknown: installed === undefined,
          testOnly: sides[0] === "shared",
        }),
      );
    notePath(project, app, seed.path, declaration);
    if (native && (brings.android || brings.ios)) readNativeNeeds(discovery, seed, app, name, native, brings);
    if (native && installed && !platform && declaration.section !== "devDependencies") {
      readLinking(discovery, seed, app, declaration, native, { off, links });
      readPeers(project, seed, app, manifest, { name, folder: installed.folder, native: brings.android || brings.ios });
    }
    const versions = native && (native.androidFolder !== undefined || native.podspecs.length > 0) ? (lock?.versions(name) ?? []) : [];
    const distinct = [...new Map(versions.map((entry) => [entry.version, entry])).values()];
    if (distinct.length > 1 && ownVersions(versions, seed.path, lockFile)) app.doubles.push({ name, versions: distinct });
  }
  if (missing.length > 0 && !platformOnly(missing)) {
    const first = missing[0] as NpmDeclaration;
    const names = missing.map(({ name }) => name);
    const listed = names.length > 4 ? `${names.slice(0, 4).join(", ")} and ${names.length - 4} more` : names.join(", ");
    app.blindSpots.push({
      side: "shared",
      what: anythingInstalled
        ? `what ${listed} ask${names.length === 1 ? "s" : ""} for`
        : "what the JavaScript packages ask for, and which of them have native code",
      why: anythingInstalled ? "not installed" : "node_modules is not there: nothing is installed",
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

/** What links the packages of Expo, and with them the others. */
const EXPO_LINKS = /expo-autolinking|useExpoModules/;

/**
 * The two halves that link packages on Android: the settings take their projects in, a module's script depends on them.
 * Sources: the React Native templates 0.60 to 0.74, and those from 0.75 on.
 */
const LINKS = [
  {
    settings: /autolinkLibrariesFrom\w+/,
    app: /autolinkLibrariesWithApp/,
    calls: ["autolinkLibrariesFromCommand()", "autolinkLibrariesWithApp()"],
  },
  {
    settings: /applyNativeModulesSettingsGradle/,
    app: /applyNativeModulesAppBuildGradle/,
    calls: ["applyNativeModulesSettingsGradle(settings)", "applyNativeModulesAppBuildGradle(project)"],
  },
] as const;

/** Whether packages are linked by themselves on Android, and else the half that is missing. */
function linksOnAndroid(project: Project, { build, module }: AndroidCandidate): Pick<LinkingFact, "automatic" | "lacks"> {
  const textOfScript = (file: string | undefined): string =>
    (file === undefined ? "" : (project.text(file)?.text ?? "")).replace(/\/\*[\s\S]*?\*\/|(^|[^:"'])\/\/.*$/gm, "$1");
  const [settings, app] = [build.settingsFile, module.buildFile].map(textOfScript) as [string, string];
  if (EXPO_LINKS.test(settings) || EXPO_LINKS.test(app)) return { automatic: true };
  const half = LINKS.find(({ settings: inSettings, app: inApp }) => inSettings.test(settings) || inApp.test(app));
  const [taken, used] = [half?.settings.test(settings) ?? false, half?.app.test(app) ?? false];
  // A script that is applied, a plugin of the build's own or another module may have what is not in the two files.
  const hidden =
    build.conventions.size > 0 ||
    build.includedBuilds.some((folder) => !folder.includes("node_modules")) ||
    [...(taken ? [] : [settings]), ...(used ? [] : [app])].some((text) =>
      /\bapply\s*\(?\s*from\b/.test(text.replace(/^.*(native_modules|node_modules).*$/gm, "")),
    );
  if (hidden || (taken && used)) return { automatic: true };
  if (!half) return { automatic: false };
  if ([build.root, ...build.modules.values()].some(({ buildFile }) => (taken ? half.app : half.settings).test(textOfScript(buildFile))))
    return { automatic: true };
  const file = taken ? module.buildFile : build.settingsFile;
  return file === undefined ? { automatic: true } : { automatic: false, lacks: { call: half.calls[taken ? 1 : 0], file } };
}

/** Who links a package on each side: the framework's own mechanism, people by hand, or nobody. */
function readLinking(
  discovery: Discovery,
  seed: AppSeed,
  app: App,
  declaration: NpmDeclaration,
  native: NativeCode,
  { off, links }: { off: NativeConfig["off"]; links: Pick<LinkingFact, "automatic" | "lacks"> },
): void {
  const { project } = discovery;
  const base = { package: declaration.name, sdk: sdkIdOf("npm", declaration.name), declared: declaration.at };
  if (app.android && native.androidFolder !== undefined) {
    const { build, module } = app.android;
    const folder = native.androidFolder;
    const own = [...build.modules.values()].find(
      (candidate) => candidate.folder === folder || candidate.folder.endsWith(`node_modules/${declaration.name}/android`),
    );
    const reference = own && module.modules.find(({ path }) => (path.startsWith(":") ? path : `:${path}`) === own.path);
    app.linking.push({
      ...base,
      side: "android",
      ...links,
      off: off.find(({ side }) => side === "android")?.place,
      manual: reference?.at,
      native: declaration.name,
      installed: undefined,
      list: { file: build.settingsFile ?? module.buildFile ?? build.folder, line: 1, column: 1 },
    });
  }
  const [podspec] = native.podspecs;
  if (app.ios?.pods && podspec !== undefined && project.tree.isFile(podspec)) {
    const helpers = reactNative.helpers(discovery, seed);
    const name = readPodspec(project, podspec, helpers)?.name ?? baseName(podspec).replace(/\.podspec(\.json)?$/, "");
    const { pods } = app.ios;
    app.linking.push({
      ...base,
      side: "ios",
      automatic: pods.helpers.some((helper) => /^use_(native|expo)_modules!$/.test(helper)),
      off: off.find(({ side }) => side === "ios")?.place,
      manual: pods.declared.get(name),
      native: name,
      installed: pods.locked && [...pods.locked.keys()].some((pod) => pod === name || pod.startsWith(`${name}/`)),
      list: pods.locked ? { file: pods.lockFile, line: 1, column: 1 } : { file: pods.file, line: 1, column: 1 },
    });
  }
}

/**
 * Other packages that an installed package wants beside it. Sources: npm documentation, "peerDependencies"; what links packages reads all
 * three sections of the app's own package.json (the React Native command line, cli-config, findDependencies).
 */
function readPeers(
  project: Project,
  seed: AppSeed,
  app: App,
  manifest: NpmManifest,
  { name, folder, native }: { name: string; folder: string; native: boolean },
): void {
  const root = project.json(join(folder, "package.json"))?.root;
  const generated = native ? at(root, "codegenConfig", "name") : undefined;
  const title = generated === undefined ? undefined : textAt(generated);
  if (generated !== undefined && title !== undefined) app.codegen.push({ package: name, name: title, at: placeOf(generated) });
  for (const [peer, { value, start }] of entriesOf(at(root, "peerDependencies"))) {
    const requirement = textAt(value);
    if (requirement === undefined || textAt(root, "peerDependenciesMeta", peer, "optional") === "true") continue;
    // What code without native parts wants of other such code is not about the wiring.
    if (!native && !NATIVE_NAME.test(peer)) continue;
    const declared = manifest.declarations.some((own) => own.name === peer);
    app.packageNeeds.push({
      by: name,
      sdk: sdkIdOf("npm", name),
      side: "shared",
      ecosystem: "npm",
      name: peer,
      requirement,
      from: "peerDependencies",
      ...(declared ? {} : { undeclared: howInstalled(project, seed, app, manifest, peer, folder) }),
      at: value.source.place(start),
    });
  }
}

/** How a package is installed that only another package asks for. Some package managers put it beside that one's real folder. */
function howInstalled(
  project: Project,
  { path, android }: AppSeed,
  { ios }: App,
  manifest: NpmManifest,
  peer: string,
  folder: string,
): PackageNeed["undeclared"] {
  const real = project.tree.realPath(folder);
  const found = findInstalled(project, folder, peer) ?? (real === undefined ? undefined : findInstalled(project, real, peer));
  if (!found) return "not at all";
  const { androidFolder, podspecs } = nativeCode(project, found.folder);
  if (androidFolder === undefined && podspecs.length === 0) return "without native code";
  // Source: docs.expo.dev, "Autolinking": there dependencies of dependencies are linked too.
  if (manifest.declarations.some(({ name }) => name === "expo")) return "without native code";
  const lists = [
    ...CONFIG_FILES.map((name) => join(path, name)),
    ...(android ? [android.build.settingsFile, android.module.buildFile] : []),
    ios?.pods?.file,
  ];
  return lists.some((file) => file !== undefined && project.text(file)?.text.includes(peer)) ? "linked by hand" : "with native code";
}

function readNativeNeeds(
  discovery: Discovery,
  seed: AppSeed,
  app: App,
  name: string,
  native: NativeCode,
  brings: { android: boolean; ios: boolean },
): void {
  const { project } = discovery;
  const sdk = sdkIdOf("npm", name);
  if (brings.android && native.androidFolder !== undefined && app.android)
    noteAndroidPackage(project, app, app.android, name, sdk, native.androidFolder);
  if (!brings.ios || !app.ios) return;
  const helpers = reactNative.helpers(discovery, seed);
  for (const file of native.podspecs) if (project.tree.isFile(file)) notePodspec(project, app, file, name, sdk, helpers);
}

/** What the installed framework itself asks for, and the versions that its own scripts and catalogs set. */
function readFramework(project: Project, seed: AppSeed, folder: string, app: App, helpers: () => Script[]): void {
  if (app.android) {
    const catalogFile = join(folder, "gradle/libs.versions.toml");
    const catalog = project.tree.isFile(catalogFile) ? readCatalog(project, catalogFile) : undefined;
    const ownBuild = project.tree.isFolder(join(folder, "ReactAndroid"))
      ? readGradleBuild(project, join(folder, "ReactAndroid"))
      : undefined;
    const minimum =
      catalog?.versions.get("minSdk") ??
      ownBuild?.root.settings.find(({ name, block }) => /^minSdk(Version)?$/.test(name) && block === "defaultConfig")?.values[0];
    if (minimum?.kind === "known") app.demands.push({ level: "minSdk", value: minimum, by: PACKAGE, sdk: PACKAGE, from: "its own build" });
    const plugin = findInstalled(project, seed.path, "@react-native/gradle-plugin");
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
  if (app.ios) {
    const scripts = helpers();
    const [first] = scripts;
    if (first) {
      const scope = rubyScope(project, first.source, new Map<string, Result>(), helpers);
      const minimum = scope.lookup(["min_ios_version_supported"]);
      if (minimum?.kind === "known")
        app.demands.push({ level: "iosTarget", value: minimum, by: PACKAGE, sdk: PACKAGE, from: "its pod scripts" });
    }
  }
}

function markUnknownDefaults(app: App): void {
  const why = "React Native is not installed: its scripts and catalogs cannot be read";
  for (const side of [app.android, app.ios]) {
    for (const fact of side?.levels ?? []) {
      if (fact.value.kind === "unknown" && /no value in the files|cannot be worked out/.test(fact.value.why))
        fact.value = unknown(why, fact.value.place);
    }
  }
  if (app.android && !app.android.effective.androidPlugin) {
    const place = { file: app.android.build.root.buildFile ?? app.android.folder, line: 1, column: 1 };
    app.android.effective.androidPlugin = unknown(why, place);
  }
}
