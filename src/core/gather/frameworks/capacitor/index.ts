import { distance } from "fastest-levenshtein";
import { withoutComments } from "../../../syntax/comments.js";
import type { ProjectFiles } from "../../project-files.js";
import { findPackage } from "../../packages/workspace-packages.js";
import type { FactSink } from "../../sink.js";
import type { SideName } from "../../../model/facts.js";
import { noHelpers } from "../../platforms/ios/ruby-host.js";
import { foldersBelow } from "../../../files/walk.js";
import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { ofRelease } from "../../../model/app.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { findLockFile, readJsLock } from "../../packages/locks.js";
import {
  findInstalled,
  hasNodeModules,
  readManifest,
  type InstalledPackage,
  type NpmDeclaration,
  type NpmManifest,
} from "../../packages/packages.js";
import { readPodspec } from "../../platforms/ios/podspec.js";
import { known } from "../../../model/value.js";
import { at, entriesOf, placeOf, textAt, type Data, valueAt } from "../../../syntax/data.js";
import { notePlugin } from "../cordova/plugin-facts.js";
import { readPluginXml } from "../../packages/cordova-plugin.js";
import { take, type DetectedApp, type Discovery, type Framework } from "../framework.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";
import { notePath, npmDependency } from "../npm-dependency.js";
import { readPatches } from "../npm-patches.js";
import { readNpmLock } from "../npm-lock.js";
import { iosSources } from "../native-sources.js";
import { readOptions } from "../options.js";
import { angularBuilder, viteBuilder } from "../../packages/page-builder.js";
import { noteLostExport, readExportedObject } from "../script-config.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import { CAPACITOR_KEYS } from "../../../knowledge/known-names.js";

const CONFIG = /^capacitor\.config\.(json|ts|js|mjs|cjs)$/;
/** The framework's own packages. Source: capacitorjs.com, "Installing Capacitor". */
const OWN = /^@capacitor\/(core|cli|android|ios)$/;

/**
 * The folder that goes into the app is taken for what is built from `src`, where there is one, and not looked at: said where it has scripts.
 * Source: capacitorjs.com, "Capacitor Configuration", webDir.
 */
function tellWebFolder({ project, index }: Discovery, detected: DetectedApp, app: FactSink): void {
  const config = project.tree.list(detected.path).find(({ name }) => CONFIG.test(name));
  const root = config && readExportedObject(project, join(detected.path, config.name));
  const folder = join(detected.path, textAt(root, "webDir") ?? "www");
  if (!index.has(join(detected.path, "src")) || isWithin(folder, join(detected.path, "src"))) return;
  for (const [inner, { files }] of foldersBelow(index, folder)) {
    const script = files.find((name) => /\.m?js$/.test(name));
    if (script === undefined) continue;
    app.blindSpot({
      side: "shared",
      what: `the scripts in ${folder}`,
      why: reason("plugins-built-from-source"),
      places: [{ file: join(inner, script), line: 1, column: 1 }],
    });
    return;
  }
}

/** What the configuration hands to plugins. Source: capacitorjs.com, "Capacitor Configuration", plugins. */
function readPluginOptions({ project }: Discovery, detected: DetectedApp, app: FactSink, { declarations }: NpmManifest): void {
  const config = project.tree.list(detected.path).find(({ name }) => CONFIG.test(name));
  if (!config) return;
  app.optionsIn = join(detected.path, config.name);
  const root = readExportedObject(project, app.optionsIn);
  noteLostExport(project, app, app.optionsIn);
  noteMisspeltKeys(app, root, CAPACITOR_KEYS);
  const known = declarations.map(({ name }) => pluginName(name));
  for (const [name, { value, start }] of entriesOf(at(root, "plugins"))) {
    readOptions(app, name, value);
    const near = known.includes(name)
      ? undefined
      : known.find((other) => other.length > 4 && distance(other.toLowerCase(), name.toLowerCase()) === 1);
    if (near !== undefined) app.lostProperty({ name, near, of: "options", at: value.source.place(start) });
    // Source: capacitorjs.com, "Splash Screen API" (launchAutoHide: false waits for hide).
    const stays = name === "SplashScreen" ? valueAt(value, "launchAutoHide") : undefined;
    if (stays?.kind === "known" && stays.text === "false") app.splashStays = stays.place;
  }
  // Source: capacitorjs.com, "Capacitor Configuration" (server.url: for live reload, not for production; webContentsDebuggingEnabled).
  const server = valueAt(root, "server", "url");
  if (server?.kind === "known" && server.text !== "")
    app.debugOption({ what: "development server", side: "shared", text: `server.url ${server.text}`, at: server.place });
  for (const side of ["android", "ios"] as const) {
    const inspected = valueAt(root, side, "webContentsDebuggingEnabled");
    if (inspected?.kind === "known" && inspected.text === "true")
      app.debugOption({ what: "page inspection", side, text: `${side}.webContentsDebuggingEnabled`, at: inspected.place });
  }
}

/** The name under which a plugin's options stand: that of its package, each word with a capital letter. Source: capacitorjs.com, "Official plugins". */
function pluginName(name: string): string {
  return (name.split("/").at(-1) ?? name)
    .split("-")
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join("");
}

/** The folder of pages that the sync takes, against the one that their builder writes; files that a production build takes in place of others. */
function notePages({ project }: Discovery, detected: DetectedApp, app: FactSink): void {
  const builder = angularBuilder(project, detected.path) ?? viteBuilder(project, detected.path);
  if (!builder) return;
  const config = project.tree.list(detected.path).find(({ name }) => CONFIG.test(name));
  const file = config && join(detected.path, config.name);
  const root = file === undefined ? undefined : readExportedObject(project, file);
  // Source: capacitorjs.com, "Capacitor Configuration" (webDir: www by default).
  const isUnsaid = root?.kind === "map" && file !== undefined && at(root, "webDir") === undefined;
  const stated = isUnsaid ? known("www", placeOf(root)) : valueAt(root, "webDir");
  const { output, replaced } = builder;
  if (output && stated?.kind === "known" && stated.text.replace(/^\.\/|\/$/g, "") !== output.folder)
    app.configuredOtherwise({
      what: "the folder of the pages",
      side: "shared",
      configured: stated,
      native: { kind: "known", text: output.folder, place: output.at },
      files: [config?.name ?? "the configuration", builder.by],
    });
  for (const { file, by, at: place } of replaced) {
    app.replacedFile({ file, by });
    if (!project.tree.isFile(by))
      app.pathFollowed({ text: by, resolved: by, kind: "file", exists: false, side: "shared", generated: false, at: place });
  }
}

/** Apps made with Capacitor. Source: capacitorjs.com, "Capacitor Configuration" and "Workflow" (sync). */
export const capacitor: Framework = {
  kind: "capacitor",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const [folder, { files }] of discovery.index) {
      const config = files.find((name) => CONFIG.test(name));
      // Copies of the configuration lie in the native projects.
      if (config === undefined || !files.includes("package.json")) continue;
      const root = readExportedObject(discovery.project, join(folder, config));
      const { androidFolder, iosFolder } = platformFolders(folder, root);
      const [android] = take(discovery.android, ({ build }) => build.folder === androidFolder);
      const [ios] = take(discovery.ios, ({ xcode }) => xcode.folder === iosFolder);
      if (!android && !ios) continue;
      const manifest = readManifest(discovery.project, folder);
      const name = textAt(root, "appName") ?? manifest?.name?.replace(/^@[^/]+\//, "") ?? (baseName(folder) || "app");
      found.push({ kind: "capacitor", name, path: folder, android, ios, shared: folder });
    }
    return found;
  },
  withoutNative: ({ index, project }) =>
    [...index].flatMap(([folder, { files }]) => {
      const config = files.find((name) => CONFIG.test(name));
      if (config === undefined || !files.includes("package.json")) return [];
      const { androidFolder, iosFolder } = platformFolders(folder, readExportedObject(project, join(folder, config)));
      return project.tree.isFolder(androidFolder) || project.tree.isFolder(iosFolder) ? [] : [folder];
    }),
  complete(discovery, detected, app) {
    const { project } = discovery;
    const manifest = readManifest(project, detected.path);
    if (!manifest) return;
    const core = manifest.declarations.find(({ name }) => name === "@capacitor/core");
    tellWebFolder(discovery, detected, app);
    noteTemplateLines(discovery, app, manifest);
    readPluginOptions(discovery, detected, app, manifest);
    notePages(discovery, detected, app);
    app.hybrid({
      folder: detected.path,
      framework: {
        name: "Capacitor",
        package: "@capacitor/core",
        declared: core?.specifier,
        installed: findInstalled(project, detected.path, "@capacitor/core")?.version,
      },
    });
    readNpmLock(discovery, manifest, app);
    const lockFile = findLockFile(project, detected.path);
    const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
    const missing: Place[] = [];
    for (const declaration of manifest.declarations.filter(({ section }) => section !== "peerDependencies")) {
      const installed = findPackage(project, detected.path, declaration.name, declaration.specifier.text);
      const native = installed && nativeFolders(project, installed.folder);
      const brings = {
        android: native?.android !== undefined && app.android !== undefined,
        ios: native?.podspec !== undefined && app.ios !== undefined,
      };
      const sides = (["android", "ios"] as SideName[]).filter((side) => brings[side as "android" | "ios"]);
      const locked = lock?.locked(detected.path, declaration.name, declaration.specifier.text);
      if (!installed && declaration.section === "dependencies") missing.push(declaration.at);
      for (const side of sides.length > 0 && !OWN.test(declaration.name) ? sides : (["shared"] as SideName[])) {
        const dependency = npmDependency(declaration, {
          side,
          locked,
          in: manifest.name ?? detected.name,
          native: brings,
          nativeUnknown: installed === undefined,
          testOnly: sides.length === 0,
        });
        if (OWN.test(declaration.name)) dependency.platform = true;
        app.dependency(dependency);
      }
      notePath(project, app, detected.path, declaration);
      if (!OWN.test(declaration.name)) noteWiring(project, app, declaration, installed, native);
    }
    noteLeftovers(project, app, manifest);
    noteRegistration(discovery, app);
    readPatches(project, app, detected.path);
    agree(app, detected, project);
    noteAppId(discovery, detected, app);
    tellMissing(project, app, detected, missing);
  },
};

/** The id in the configuration, from which the native projects were once made. */
function noteAppId({ index, project }: Discovery, detected: DetectedApp, app: FactSink): void {
  const name = index.get(detected.path)?.files.find((file) => CONFIG.test(file));
  const configured = name === undefined ? undefined : valueAt(readExportedObject(project, join(detected.path, name)), "appId");
  if (configured?.kind !== "known") return;
  for (const side of ["android", "ios"] as const) {
    const id = ofRelease(app[side]?.ids ?? [])?.value;
    // A flavour or a configuration may add a part to the id.
    if (
      id?.kind === "known" &&
      id.text !== configured.text &&
      !(id.text.startsWith(configured.text) && /^[._-]/.test(id.text.slice(configured.text.length)))
    )
      app.configuredOtherwise({ what: side === "android" ? "the application id" : "the bundle id", side, configured, native: id });
  }
}

/** Where the native projects lie, as the configuration says it. */
function platformFolders(folder: string, config: Data | undefined): { androidFolder: string; iosFolder: string } {
  return {
    androidFolder: join(folder, textAt(config, "android", "path") ?? "android"),
    iosFolder: join(folder, textAt(config, "ios", "path") ?? "ios", "App"),
  };
}

interface NativeFolders {
  android: string | undefined;
  podspec: string | undefined;
  /** It is a plugin of Cordova, which the framework takes as well. */
  cordova: string | undefined;
}

/** What a package ships; only one that says it is a plugin is linked. */
function nativeFolders(project: ProjectFiles, folder: string): NativeFolders {
  const root = project.json(join(folder, "package.json"))?.root;
  const own = at(root, "capacitor");
  const result: NativeFolders = {
    android: undefined,
    podspec: undefined,
    cordova: project.tree.isFile(join(folder, "plugin.xml")) ? folder : undefined,
  };
  const android = textAt(own, "android", "src");
  if (android !== undefined) result.android = join(folder, android);
  if (at(own, "ios"))
    result.podspec = project.tree.list(folder).flatMap(({ name }) => (name.endsWith(".podspec") ? join(folder, name) : []))[0];
  return result;
}

/** What a package that is no part of the framework asks for, where it is here, and whether the lists have it. */
function noteWiring(
  project: ProjectFiles,
  app: FactSink,
  declaration: NpmDeclaration,
  installed: InstalledPackage | undefined,
  native: NativeFolders | undefined,
): void {
  if (installed) {
    if (native) readPlugin(project, app, declaration, native, installed.folder);
    readPeers(project, app, declaration, installed.folder);
  } else if (declaration.section === "dependencies") noteUnsynced(project, app, declaration);
}

/** Packages that are not here: what they ask for is not known. */
function tellMissing(project: ProjectFiles, app: FactSink, { path }: DetectedApp, missing: readonly Place[]): void {
  if (missing.length > 0)
    app.blindSpot({
      side: "shared",
      what: "what the JavaScript packages ask for, and which of them have native code",
      why: hasNodeModules(project, path) ? reason("some-not-installed", { count: missing.length }) : reason("no-node-modules"),
      places: missing.slice(0, 1),
    });
}

/** Whether the app's list makes a dependency of the project that the settings name for a folder; the app applies the list. */
function isDepended(
  { name, lies }: { name: string; lies?: { folder: string; from: string } },
  settings: string | undefined,
  build: string | undefined,
): boolean {
  const stated = [...(settings ?? "").matchAll(/project\(['"](:[^'"\n]+)['"]\)\.projectDir\s*=\s*new File\(['"]([^'"\n]+)/g)];
  const path = stated.find(([, , to = ""]) => to.includes(`node_modules/${name}/`) || (lies && join(lies.from, to) === lies.folder))?.[1];
  return path === undefined || build === undefined || build.includes(`project('${path}')`) || build.includes(`project("${path}")`);
}

/** What a plugin asks for, and whether the last sync wrote it into the native projects. */
function readPlugin(project: ProjectFiles, app: FactSink, declaration: NpmDeclaration, native: NativeFolders, folder: string): void {
  const { name } = declaration;
  const sdk = sdkIdOf("npm", name);
  if (native.cordova !== undefined && native.android === undefined && native.podspec === undefined) {
    const description = readPluginXml(project, native.cordova);
    if (description) notePlugin(project, app, description, sdk);
    return;
  }
  const base = {
    package: name,
    sdk,
    automatic: true,
    off: undefined,
    manual: undefined,
    declared: declaration.at,
    refresh: "run cap sync, which writes the lists again",
  };
  if (app.android && native.android !== undefined) {
    noteAndroidPackage(project, app, app.android, name, sdk, native.android);
    const list = join(app.android.folder, "capacitor.settings.gradle");
    const text = project.tree.isFile(list) ? project.text(list)?.text : undefined;
    const buildList = join(app.android.module.folder, "capacitor.build.gradle");
    const build = project.tree.isFile(buildList) ? project.text(buildList)?.text : undefined;
    const listed =
      text === undefined ? undefined : text.includes(`node_modules/${name}/`) || leadsTo(project, text, app.android.folder, native.android);
    const depended = isDepended({ name, lies: { folder: native.android, from: app.android.folder } }, text, build);
    app.linkage({
      ...base,
      side: "android",
      native: name,
      installed: listed && depended,
      list: text === undefined ? undefined : startOf(listed === true && !depended ? buildList : list),
    });
  }
  noteOnIos(project, app, native, folder, base);
}

/** Whether a list has a package by the path at which it really lies: a link of a workspace is written as what it leads to. */
function leadsTo(project: ProjectFiles, list: string, from: string, folder: string): boolean {
  const real = project.tree.realPath(folder) ?? folder;
  return [...list.matchAll(/["'](\.\.?\/[^"'\n]+)["']/g)].some(([, path = ""]) => join(from, path) === real);
}

/** Plugins of the framework's own with code for both sides. Source: capacitorjs.com, "Official plugins", the tables of platforms; read 2026-11. */
const ON_BOTH =
  /^@capacitor\/(action-sheet|app|app-launcher|browser|camera|clipboard|device|dialog|filesystem|geolocation|haptics|keyboard|local-notifications|network|preferences|push-notifications|screen-orientation|screen-reader|share|splash-screen|status-bar|text-zoom|toast)$/;

/** Its iOS part, and whether the list that the last sync wrote has it. */
function noteOnIos(
  project: ProjectFiles,
  app: FactSink,
  native: NativeFolders,
  folder: string,
  base: { package: string; sdk: string; automatic: boolean; off: undefined; manual: undefined; declared: Place; refresh: string },
): void {
  const { package: name, sdk } = base;
  if (app.ios && native.podspec !== undefined) {
    notePodspec(project, app, native.podspec, name, sdk, noHelpers);
    const pod = readPodspec(project, native.podspec, noHelpers)?.name ?? baseName(native.podspec).replace(/\.podspec$/, "");
    const list = [join(app.ios.folder, "Podfile"), join(app.ios.folder, "CapApp-SPM/Package.swift")].find((file) =>
      project.tree.isFile(file),
    );
    const text = list === undefined ? undefined : project.text(list)?.text;
    app.linkage({
      ...base,
      side: "ios",
      native: pod,
      installed:
        text === undefined
          ? undefined
          : (text.includes(`node_modules/${name}'`) ||
              text.includes(`node_modules/${name}"`) ||
              leadsTo(project, text, parentOf(list ?? ""), folder)) &&
            isTaken(text, name, (path) => join(parentOf(list ?? ""), path) === (project.tree.realPath(folder) ?? folder)) !== false,
      list: list === undefined ? undefined : { file: list, line: 1, column: 1 },
    });
  }
}

/** A plugin that is not installed, where the lists of the last sync say enough: it is in one of them and not in the one that goes with it. */
function noteUnsynced(project: ProjectFiles, app: FactSink, { name, at: declared }: NpmDeclaration): void {
  const base = {
    package: name,
    sdk: sdkIdOf("npm", name),
    automatic: true,
    off: undefined,
    manual: undefined,
    declared,
    installed: false,
    refresh: "run cap sync, which writes the lists again",
  };
  const text = (file: string | undefined): string | undefined =>
    file === undefined || !project.tree.isFile(file) ? undefined : project.text(file)?.text;
  const names = (list: string | undefined): boolean => list !== undefined && new RegExp(`node_modules/${name}(?=["'/])`).test(list);
  const settings = app.android && join(app.android.folder, "capacitor.settings.gradle");
  const buildList = app.android && join(app.android.module.folder, "capacitor.build.gradle");
  const podfile = app.ios && listOnIos(project, app);
  const [android, build, ios] = [text(settings), text(buildList), text(podfile)];
  if (settings !== undefined && android !== undefined && buildList !== undefined) {
    const isLeftOut = !isDepended({ name }, android, build);
    if (isLeftOut || (ON_BOTH.test(name) && !names(android) && names(ios)))
      app.linkage({ ...base, side: "android", native: name, list: startOf(isLeftOut ? buildList : settings) });
  }
  if (podfile === undefined || ios === undefined) return;
  const isLost = ON_BOTH.test(name) && !names(ios) && names(android);
  if (isLost || isTaken(ios, name) === false) app.linkage({ ...base, side: "ios", native: name, list: startOf(podfile) });
}

/** The list of plugins that the last sync wrote for iOS. */
function listOnIos(project: ProjectFiles, app: FactSink): string | undefined {
  return ["Podfile", "CapApp-SPM/Package.swift"].map((file) => join(app.ios?.folder ?? "", file)).find((file) => project.tree.isFile(file));
}

/** The editions of the framework that a plugin wants. Source: npm documentation, "peerDependencies". */
function readPeers(project: ProjectFiles, app: FactSink, { name }: NpmDeclaration, folder: string): void {
  const root = project.json(join(folder, "package.json"))?.root;
  for (const [peer, { value, start }] of entriesOf(at(root, "peerDependencies"))) {
    const requirement = textAt(value);
    if (requirement === undefined || !OWN.test(peer)) continue;
    app.packageNeed({
      by: name,
      sdk: sdkIdOf("npm", name),
      side: "shared",
      ecosystem: "npm",
      name: peer,
      requirement,
      from: "peerDependencies",
      undeclared: "without native code",
      at: value.source.place(start),
    });
  }
}

/** Plugins have to be registered before the bridge starts. Source: capacitorjs.com, "Custom native Android code" (registerPlugin). */
function noteRegistration({ project, index }: Discovery, app: FactSink): void {
  if (!app.android) return;
  for (const [folder, { files }] of foldersBelow(index, join(app.android.module.folder, "src/main")))
    for (const name of files) {
      const source = /\.(java|kt)$/.test(name) ? project.text(join(folder, name)) : undefined;
      if (!source || !/\bBridgeActivity\b/.test(source.text)) continue;
      const text = withoutComments(source.text);
      const started = /\bsuper\.onCreate\s*\(/.exec(text);
      const late = started && /\bregisterPlugin\s*\(/.exec(text.slice(started.index));
      if (started && late && !/\bregisterPlugin\s*\(/.test(text.slice(0, started.index)))
        app.templateLine({ line: "order of registration", side: "android", at: source.place(started.index + late.index) });
    }
}

/**
 * Lines of the framework's template without which plugins are not in the app or hear nothing. Sources: capacitorjs.com, "Deep Links" and "Push
 * Notifications" (iOS), the template of its command line, read 2026-11.
 */
function noteTemplateLines(discovery: Discovery, app: FactSink, { declarations, file }: NpmManifest): void {
  const { project } = discovery;
  const declares = (name: string): boolean => declarations.some((declaration) => declaration.name === name);
  noteAppliedScripts(project, app);
  notePlatforms(app, file, declares);
  if (!app.ios) return;
  noteTarget(project, app, app.ios);
  const podfile = join(app.ios.folder, "Podfile");
  const pods = project.tree.isFile(podfile) ? withoutComments(project.text(podfile)?.text ?? "", "hash") : undefined;
  if (pods !== undefined && /\bdef\s+capacitor_pods\b/.test(pods) && (pods.match(/\bcapacitor_pods\b/g) ?? []).length === 1)
    app.templateLine({ line: "pods of the target", side: "ios", at: startOf(podfile) });
  if (
    pods !== undefined &&
    /\bdef\s+capacitor_pods\b/.test(pods) &&
    !["Capacitor", "CapacitorCordova"].every((name) => new RegExp(`\\bpod\\s*\\(?\\s*["']${name}["']`).test(pods))
  )
    app.templateLine({ line: "core pods", side: "ios", at: startOf(podfile) });
  const code = iosSources(discovery, app.ios, /\.(swift|mm?)$/);
  const delegate = code.find((one) => /\bclass\s+\w*AppDelegate\b|@implementation\s+AppDelegate\b/.test(one.text));
  if (!delegate || !/\bimport\s+Capacitor\b/.test(delegate.text)) return;
  const has = (pattern: RegExp): boolean => code.some((one) => pattern.test(one.text));
  if (
    declares("@capacitor/app") &&
    !has(/ApplicationDelegateProxy\.shared\.application\s*\([^)]*\bopen\b|\.capacitorOpenURL\b|CapacitorBridge\.handleOpenUrl/)
  )
    app.templateLine({ line: "links handed on", side: "ios", at: startOf(delegate.source.file) });
  if (
    declares("@capacitor/push-notifications") &&
    !has(/capacitorDidRegisterForRemoteNotifications|CAPNotifications|didRegisterForRemoteNotificationsWithDeviceToken\s+NSNotification/)
  )
    app.templateLine({ line: "push handed on", side: "ios", at: startOf(delegate.source.file) });
}

/** Source: capacitorjs.com, "Installing Capacitor" (a platform is a package); the command line takes no platform whose package package.json does not have. */
function notePlatforms(app: FactSink, manifest: string, declares: (name: string) => boolean): void {
  for (const side of ["android", "ios"] as const)
    if (app[side] && declares("@capacitor/core") && !declares(`@capacitor/${side}`))
      app.templateLine({ line: "package of the platform", side, at: startOf(manifest) });
}

/** The script of plugins and the framework's module, which the app's build script takes in. */
function noteAppliedScripts(project: ProjectFiles, app: FactSink): void {
  const script = app.android?.module.buildFile;
  const text = script === undefined ? undefined : withoutComments(project.text(script)?.text ?? "");
  if (
    app.android &&
    script !== undefined &&
    text !== undefined &&
    project.tree.isFile(join(app.android.module.folder, "capacitor.build.gradle"))
  ) {
    if (!/capacitor\.build\.gradle/.test(text)) app.templateLine({ line: "script of plugins", side: "android", at: startOf(script) });
    if (!/:capacitor-android\b/.test(text)) app.templateLine({ line: "framework's module", side: "android", at: startOf(script) });
  }
}

/** What the app's target has to take in: the package with the framework and the plugins, the pages, and the configuration. */
function noteTarget(project: ProjectFiles, app: FactSink, { folder, target }: NonNullable<FactSink["ios"]>): void {
  const swift = join(folder, `${PLUGINS_PACKAGE}/Package.swift`);
  if (project.tree.isFile(swift) && !target.packageProducts.some(({ product }) => product === PLUGINS_PACKAGE))
    app.templateLine({ line: "package of plugins", side: "ios", at: target.at });
  if (target.synchronized.length > 0 || target.resources.length === 0) return;
  for (const [name, line] of [
    ["public", "pages in the target"],
    ["capacitor.config.json", "configuration in the target"],
  ] as const)
    if (!target.resources.some((file) => baseName(file) === name)) app.templateLine({ line, side: "ios", at: target.at });
}

/** The Swift package that a sync writes. Source: capacitorjs.com, "Using Swift Package Manager". */
const PLUGINS_PACKAGE = "CapApp-SPM";

/** Whether a list of Swift packages has a plugin, by the path of the installed one or another, and a target of it takes its product; `undefined` where it does not name it. */
function isTaken(list: string, name: string, isMeant: (path: string) => boolean = () => false): boolean | undefined {
  const [, own] =
    [...list.matchAll(/\.package\(\s*name:\s*"([^"]+)"\s*,\s*path:\s*"([^"]*)"/g)].find(
      ([, , path = ""]) => path.endsWith(`node_modules/${name}`) || isMeant(path),
    ) ?? [];
  return own === undefined ? undefined : list.includes(`package: "${own}"`);
}

/** Packages that the lists of the last sync name and that the app no longer declares. */
function noteLeftovers(project: ProjectFiles, app: FactSink, { declarations }: NpmManifest): void {
  const declared = new Set(declarations.map(({ name }) => name));
  // Where the workspace above declares the framework, it may declare its plugins too.
  if (!declared.has("@capacitor/core")) return;
  const lists: [side: "android" | "ios", file: string | undefined][] = [
    ["android", app.android && join(app.android.folder, "capacitor.settings.gradle")],
    ["ios", app.ios && join(app.ios.folder, "Podfile")],
    ["ios", app.ios && join(app.ios.folder, "CapApp-SPM/Package.swift")],
  ];
  for (const [side, file] of lists) {
    const source = file === undefined ? undefined : project.text(file);
    const told = new Set<string>();
    for (const match of source?.text.matchAll(/node_modules\/((?:@[\w.-]+\/)?[\w.-]+)(?=["'/])/g) ?? []) {
      const name = match[1] as string;
      // With other layouts of installed packages the folder is no package's name.
      if (declared.has(name) || told.has(name) || OWN.test(name) || name.startsWith(".") || name.startsWith("@capacitor-cordova")) continue;
      told.add(name);
      app.leftover({
        package: name,
        sdk: sdkIdOf("npm", name),
        side,
        refresh: "run cap sync, which writes the lists again",
        at: (source as NonNullable<typeof source>).place(match.index),
      });
    }
  }
}

/** Core, the command line, Android and iOS have to be of one major version. Source: capacitorjs.com, "Updating Capacitor". */
function agree(app: FactSink, detected: DetectedApp, project: ProjectFiles): void {
  const members = app.dependencies.flatMap(({ name, locked, declared, lockedAt, places }) => {
    const version =
      locked ??
      findInstalled(project, detected.path, name)?.version ??
      (declared?.kind === "known" ? /\d+(\.\d+)*/.exec(declared.text)?.[0] : undefined);
    const place = lockedAt ?? places[0];
    return /^@capacitor\/(core|cli|android|ios)$/.test(name) && version !== undefined && place ? [{ name, version, at: place }] : [];
  });
  if (new Set(members.map(({ version }) => version.split(".")[0])).size > 1)
    app.agreement({ title: "Capacitor's packages are of different major versions", members, wanted: undefined });
  const core = members.find(({ name }) => name === "@capacitor/core");
  const edition = Number.parseInt(core?.version ?? "", 10);
  for (const { name, locked, declared, lockedAt, places } of app.dependencies) {
    const version = locked ?? (declared?.kind === "known" ? /\d+(\.\d+)*/.exec(declared.text)?.[0] : undefined);
    const place = lockedAt ?? places[0];
    const own = Number.parseInt(version ?? "", 10);
    // Up to 6 each edition of a plugin is made for the edition of the framework with its number.
    if (core && version !== undefined && place && ON_BOTH.test(name) && own !== edition && Math.min(own, edition) < 7)
      app.agreement({
        title: `${name} is made for Capacitor ${own}`,
        members: [core, { name, version, at: place }],
        wanted: `${edition}.x`,
      });
  }
}
