import { withoutComments } from "../../../syntax/comments.js";
import { distance } from "fastest-levenshtein";
import { gitReference } from "../../../versions/git-reference.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FolderIndex } from "../../../files/walk.js";
import { foldersBelow } from "../../../files/walk.js";
import type { FactSink, IosReading } from "../../sink.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { baseName, isWithin, join } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { ANDROID_EDITIONS, IOS_EDITIONS, OF_THE_WEB_VIEW } from "../../../knowledge/cordova.js";
import { PLATFORM_PACKAGES } from "../../../knowledge/platform-packages.js";
import { known, textOf, unknown, type Value } from "../../../model/value.js";
import { readModule } from "../../platforms/android/gradle/build.js";
import { isTestScope } from "../../platforms/android/configurations.js";
import { at, entriesOf, placeOf, textAt, textsOf, valueAt } from "../../../syntax/data.js";
import { children, type XmlElement } from "../../../syntax/xml.js";
import { readXcodeProject } from "../../platforms/ios/xcode-project.js";
import { findInstalled, hasNodeModules, readManifest, type InstalledPackage, type NpmManifest } from "../../packages/packages.js";
import { findLockFile, readJsLock, type JsLock } from "../../packages/locks.js";
import { satisfiesIn } from "../../../versions/ecosystem.js";
import { parseSpecifier, type Specifier } from "../../../versions/npm.js";
import { take, type DetectedApp, type Discovery, type Framework, type TakenIn } from "../framework.js";
import { readNpmLock } from "../npm-lock.js";
import { frameworkAndroid, frameworkIos, type FrameworkSide } from "../framework-sides.js";
import { noteManifest, notePlist, notePlugin, orphanClasses, sdkOfPlugin } from "./plugin-facts.js";
import { execCalls } from "../../packages/cordova-scripts.js";
import { noteConfigFiles, noteConfigValues } from "./config-values.js";
import { folderOfPlugin, readOwnPlugin } from "./own-plugins.js";
import { readPages } from "./page.js";
import { insertionPoint, readPluginXml, type CordovaPlugin } from "../../packages/cordova-plugin.js";
import type { AndroidSide } from "../../../model/app.js";

type Platform = "android" | "ios";
const PLATFORMS: Platform[] = ["android", "ios"];

/** Apps made with Cordova. Their native projects are written from `config.xml`, which is what counts. Source: cordova.apache.org, "Config.xml". */
export const cordova: Framework = {
  kind: "cordova",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const [folder, widget] of configurationsIn(discovery)) {
      // The native projects under platforms/ are copies of what stands here.
      take(discovery.android, ({ build }) => isWithin(build.folder, join(folder, "platforms")));
      take(discovery.ios, ({ xcode }) => isWithin(xcode.folder, join(folder, "platforms")));
      const sides = platformsOf(discovery.project, folder, widget);
      if (sides.size === 0) continue;
      const name = children(widget, "name")[0]?.text.trim() || baseName(folder) || "app";
      found.push({
        kind: "cordova",
        name,
        path: folder,
        shared: folder,
        android: sides.has("android")
          ? frameworkAndroid(sideFromConfig(folder, widget, "android"), platformManifest(discovery.project, folder))
          : undefined,
        ios: sides.has("ios") ? frameworkIos(sideFromConfig(folder, widget, "ios"), name) : undefined,
      });
    }
    return found;
  },
  withoutNative: (discovery) =>
    configurationsIn(discovery).flatMap(([folder, widget]) => (platformsOf(discovery.project, folder, widget).size === 0 ? [folder] : [])),
  takesIn(discovery, detected, app) {
    const widget = discovery.project.xml(join(detected.path, "config.xml"))?.root;
    return widget ? resourceFiles(detected, app, widget) : [];
  },
  complete(discovery, detected, app) {
    const { project } = discovery;
    const widget = project.xml(join(detected.path, "config.xml"))?.root;
    if (!widget) return;
    const manifest = readManifest(project, detected.path);
    app.hybrid({ folder: detected.path, framework: { name: "Cordova", package: "cordova", declared: undefined, installed: undefined } });
    if (manifest) readNpmLock(discovery, manifest, app);
    readEngines(project, detected, app, widget);
    readConfigEntries(app, widget);
    readPlugins(discovery, detected, app, widget);
    readPages(discovery, detected, app, widget);
    noteConfigFiles(project, detected.path, app, widget);
    noteConfigValues(app, widget);
  },
};

/** The folders of apps, each with its configuration. */
function configurationsIn({ index, project }: Discovery): [folder: string, widget: XmlElement][] {
  return [...index].flatMap(([folder, { files }]): [string, XmlElement][] => {
    if (!files.includes("config.xml") || /(^|\/)platforms\//.test(`${folder}/`)) return [];
    // An example or a test that an installed plugin brings is nobody's app.
    const plugin = /^(?:.*\/)?plugins\/[^/]+(?=\/)/.exec(`${folder}/`)?.[0];
    if (plugin !== undefined && project.tree.isFile(join(plugin, "plugin.xml"))) return [];
    const widget = project.xml(join(folder, "config.xml"))?.root;
    return widget?.name !== "widget" || files.some((name) => /^capacitor\.config\./.test(name)) ? [] : [[folder, widget]];
  });
}

/**
 * Gradle scripts that a plugin adds to the app's build: what they declare is the app's. Source: cordova.apache.org, "Plugin.xml", framework
 * with `type="gradleReference"`.
 */
function noteGradleReferences(project: ProjectFiles, app: FactSink, plugin: CordovaPlugin): void {
  if (!app.android) return;
  for (const { name, frameworks } of plugin.platforms)
    for (const { src, kind } of name === "android" ? frameworks : []) {
      const file = join(plugin.folder, src);
      if (kind !== "gradle" || !project.tree.isFile(file)) continue;
      const module = readModule(project, app.android.build.folder, `:${plugin.id}`, plugin.folder, file);
      app.repository(...module.repositories);
      app.buildPlugin(...module.plugins);
      for (const { kind: form, group, artifact, version, configuration, places } of module.dependencies) {
        const [at] = places;
        const id = `${group}:${artifact}`;
        if (form !== "module" || !at || isTestScope(configuration) || PLATFORM_PACKAGES.maven.test(id)) continue;
        app.packageNeed({
          by: plugin.id,
          sdk: sdkOfPlugin(plugin.id),
          side: "android",
          ecosystem: "maven",
          name: id,
          requirement: textOf(version),
          from: "plugin.xml",
          at,
        });
      }
    }
}

/** Files that the configuration puts into the platforms. Source: cordova.apache.org, "Config.xml", resource-file. */
function resourceFiles(detected: DetectedApp, app: FactSink, widget: XmlElement): TakenIn[] {
  return [widget, ...children(widget, "platform")].flatMap((owner) => {
    const platform = owner.attributes.get("name")?.value;
    const sides = PLATFORMS.filter((side) => app[side] && (owner === widget || platform === side));
    return children(owner, "resource-file").flatMap((element) => {
      const src = element.attributes.get("src")?.value;
      const target = element.attributes.get("target")?.value.replaceAll("\\", "/") ?? "";
      // Since its seventh edition the project is a folder below the platform's: what lies beside that folder is in no app.
      const taken = sides.filter((side) => side !== "android" || target === "" || target.includes("/"));
      return src === undefined ? [] : taken.map((side) => ({ path: join(detected.path, src.replaceAll("\\", "/")), side }));
    });
  });
}

/** The platforms that the project is for: by its configuration, its packages, or the folders that are there. */
function platformsOf(project: ProjectFiles, folder: string, widget: XmlElement): Set<Platform> {
  const found = new Set<Platform>();
  const manifest = readManifest(project, folder);
  for (const platform of PLATFORMS) {
    const engine = children(widget, "engine").some((element) => element.attributes.get("name")?.value === platform);
    const listed = textsOf(at(manifest?.root, "cordova", "platforms")).includes(platform);
    const declared = manifest?.declarations.some(({ name }) => name === `cordova-${platform}`) ?? false;
    if (engine || listed || declared || project.tree.isFolder(join(folder, "platforms", platform))) found.add(platform);
  }
  // A project whose platforms are added on build: both, as far as the configuration has something for them.
  if (found.size === 0)
    for (const element of children(widget, "platform"))
      for (const platform of PLATFORMS) if (element.attributes.get("name")?.value === platform) found.add(platform);
  return found;
}

/** Preferences hold for all platforms or stand under one; the one of the platform counts. */
function preference(widget: XmlElement, platform: Platform, name: string): Value | undefined {
  const owners = [...children(widget, "platform").filter((element) => element.attributes.get("name")?.value === platform), widget];
  for (const owner of owners) {
    const element = children(owner, "preference").find(
      (candidate) => candidate.attributes.get("name")?.value.toLowerCase() === name.toLowerCase(),
    );
    const value = element?.attributes.get("value");
    if (element && value) return known(value.value, element.source.place(value.start));
  }
  return undefined;
}

function sideFromConfig(folder: string, widget: XmlElement, platform: Platform): FrameworkSide {
  const file = join(folder, "config.xml");
  const own =
    widget.attributes.get(platform === "android" ? "android-packageName" : "ios-CFBundleIdentifier") ?? widget.attributes.get("id");
  const start = { file, line: 1, column: 1 };
  const levels: FrameworkSide["levels"] =
    platform === "android"
      ? {
          minSdk: preference(widget, platform, "android-minSdkVersion"),
          targetSdk: preference(widget, platform, "android-targetSdkVersion"),
          compileSdk: preference(widget, platform, "android-compileSdkVersion"),
        }
      : { iosTarget: preference(widget, platform, "deployment-target") };
  return { folder: join(folder, "platforms", platform), file, start, id: own && known(own.value, widget.source.place(own.start)), levels };
}

function platformManifest(project: ProjectFiles, folder: string): string | undefined {
  return ["platforms/android/app/src/main/AndroidManifest.xml", "platforms/android/AndroidManifest.xml"]
    .map((file) => join(folder, file))
    .find((file) => project.tree.isFile(file));
}

/** The platform packages, and the levels that they set where the configuration says nothing. */
function readEngines(project: ProjectFiles, detected: DetectedApp, app: FactSink, widget: XmlElement): void {
  const lockFile = findLockFile(project, detected.path);
  const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
  for (const platform of PLATFORMS) {
    const side = app[platform];
    if (!side) continue;
    const installed = findInstalled(project, detected.path, `cordova-${platform}`);
    const start = startOf(join(detected.path, "config.xml"));
    const manifest = readManifest(project, detected.path);
    const edition = editionOf(
      installed?.version ??
        manifest?.declarations.find(({ name }) => name === `cordova-${platform}`)?.specifier.text ??
        children(widget, "engine")
          .find((element) => element.attributes.get("name")?.value === platform)
          ?.attributes.get("spec")?.value,
    );
    noteEngineLevels(project, app, side, { platform, installed, edition, start });
    noteDeclaredEngine(app, detected, platform, { widget, manifest, lock, installed });
  }
}

/** The levels that the platform package sets where nothing is said, and the least that its edition builds for. */
function noteEngineLevels(
  project: ProjectFiles,
  app: FactSink,
  side: AndroidSide | IosReading,
  {
    platform,
    installed,
    edition,
    start,
  }: { platform: Platform; installed: InstalledPackage | undefined; edition: string | undefined; start: Place },
): void {
  const levels =
    platform === "android"
      ? androidDefaults(project, installed?.folder, start, edition)
      : iosDefaults(project, installed?.folder, start, edition);
  const least = platform === "ios" && edition !== undefined ? IOS_EDITIONS[edition] : undefined;
  if (least !== undefined)
    app.required({
      level: "iosTarget",
      value: known(least, start),
      by: "cordova-ios",
      sdk: "cordova-ios",
      from: "its own build",
    });
  // Source: framework/cordova.gradle of cordova-android: what it compiles against is what it targets, unless it is said.
  if (platform === "android") levels.compileSdk ??= side.effective.targetSdk ?? levels.targetSdk;
  for (const [level, value] of Object.entries(levels) as [keyof typeof side.effective, Value | undefined][]) {
    if (side.effective[level]) continue;
    side.effective[level] = value ?? unknown(reason("left-to-platform-package", { platform }), start);
    if (value) side.defaults[level] = { value, from: `cordova-${platform} ${installed?.version ?? edition ?? ""}`.trim() };
  }
}

/** The platform package as the configuration or package.json declares it. */
function noteDeclaredEngine(
  app: FactSink,
  detected: DetectedApp,
  platform: Platform,
  {
    widget,
    manifest,
    lock,
    installed,
  }: { widget: XmlElement; manifest: NpmManifest | undefined; lock: JsLock | undefined; installed: InstalledPackage | undefined },
): void {
  const declaredAs = manifest?.declarations.find(({ name }) => name === `cordova-${platform}`);
  const engine = children(widget, "engine").find((element) => element.attributes.get("name")?.value === platform);
  const spec = engine?.attributes.get("spec");
  const locked = declaredAs && lock?.locked(detected.path, declaredAs.name, declaredAs.specifier.text)?.version;
  if (!(engine && spec) && declaredAs) noteEngine(app, detected, platform, declaredAs.specifier, installed?.version ?? locked);
  const named = engine?.attributes.get("name");
  if (engine && spec)
    noteEngine(
      app,
      detected,
      platform,
      known(spec.value, engine.source.place(spec.start)),
      installed?.version,
      engine.source.place(named?.start ?? spec.start),
    );
}

function noteEngine(
  app: FactSink,
  detected: DetectedApp,
  platform: Platform,
  declared: Value & { kind: "known" },
  installed: string | undefined,
  at: Place = declared.place,
): void {
  app.dependency({
    sdk: `cordova-${platform}`,
    side: platform,
    ecosystem: "cordova",
    name: `cordova-${platform}`,
    declared,
    locked: installed,
    scope: "engine",
    in: detected.name,
    platform: true,
    places: [at],
  });
}

/** The edition that a version, or a range of one edition alone, is of. */
function editionOf(text: string | undefined): string | undefined {
  return text === undefined ? undefined : /^[\^~=v\s]*(\d+)(?:\.[\dx*.]+)?(?:-[\w.]+)?$/.exec(text.trim())?.[1];
}

function androidDefaults(
  project: ProjectFiles,
  folder: string | undefined,
  place: Place,
  edition: string | undefined,
): Record<string, Value | undefined> {
  const ofEdition = folder === undefined && edition !== undefined ? ANDROID_EDITIONS[edition] : undefined;
  if (ofEdition) return Object.fromEntries(Object.entries(ofEdition).map(([level, text]) => [level, known(text, place)]));
  const file = folder === undefined ? undefined : join(folder, "framework/cdv-gradle-config-defaults.json");
  const root = file !== undefined && project.tree.isFile(file) ? project.json(file)?.root : undefined;
  return {
    minSdk: valueAt(root, "MIN_SDK_VERSION"),
    targetSdk: valueAt(root, "SDK_VERSION"),
    compileSdk: valueAt(root, "COMPILE_SDK_VERSION"),
    androidPlugin: valueAt(root, "AGP_VERSION"),
    gradle: valueAt(root, "GRADLE_VERSION"),
  };
}

function iosDefaults(
  project: ProjectFiles,
  folder: string | undefined,
  place: Place,
  edition: string | undefined,
): Record<string, Value | undefined> {
  const ofEdition = folder === undefined && edition !== undefined ? IOS_EDITIONS[edition] : undefined;
  if (ofEdition !== undefined) return { iosTarget: known(ofEdition, place) };
  for (const inner of folder === undefined ? [] : ["templates/project", "bin/templates/project"]) {
    for (const { name } of project.tree.list(join(folder as string, inner))) {
      if (!name.endsWith(".xcodeproj")) continue;
      const target = readXcodeProject(project, join(folder as string, inner, name))?.targets[0];
      const value = target?.configurations[0]?.settings.value("IPHONEOS_DEPLOYMENT_TARGET");
      if (value) return { iosTarget: value };
    }
  }
  return { iosTarget: undefined };
}

/** Entries that the configuration itself puts into the platforms' files, and hosts that it allows. */
function readConfigEntries(app: FactSink, widget: XmlElement): void {
  for (const owner of [widget, ...children(widget, "platform")]) {
    const platform = owner.attributes.get("name")?.value;
    for (const tag of ["config-file", "edit-config"]) {
      for (const element of children(owner, tag)) {
        const { target, parent } = insertionPoint(element);
        if (app.android && platform !== "ios" && /AndroidManifest\.xml$/.test(target))
          for (const child of element.children) noteManifest(app, child, undefined, parent);
        if (app.ios && platform !== "android" && /Info\.plist$/.test(target)) notePlist(app, parent, element.children, undefined);
      }
    }
    noteAllowedHosts(app, owner, platform, widget);
  }
}

interface Declared {
  id: string;
  spec: Value | undefined;
  variables: Map<string, { value: string; at: Place }>;
  at: Place;
}

/** Hosts that the configuration allows. */
function noteAllowedHosts(app: FactSink, owner: XmlElement, platform: string | undefined, widget: XmlElement): void {
  for (const tag of ["access", "allow-navigation"]) {
    for (const element of children(owner, tag)) {
      const origin = element.attributes.get(tag === "access" ? "origin" : "href");
      if (!origin) continue;
      const place = element.source.place(origin.start);
      const host = origin.value.replace(/^\w+:\/\//, "").replace(/\/.*$/, "");
      for (const side of PLATFORMS) {
        if (!app[side] || (platform !== undefined && owner !== widget && platform !== side)) continue;
        if (host === "*") app.entry({ kind: "clearText", side, name: "*", value: known("true", place), at: place });
        else app.entry({ kind: "host", side, name: host.replace(/^\*\./, ""), value: known("true", place), at: place });
      }
    }
  }
}

/** Plugins that the project declares: in its configuration, or in its packages. */
function declaredPlugins(project: ProjectFiles, detected: DetectedApp, widget: XmlElement): Declared[] {
  const found = new Map<string, Declared>();
  for (const element of children(widget, "plugin")) {
    const name = element.attributes.get("name") ?? element.attributes.get("id");
    if (!name) continue;
    const spec = element.attributes.get("spec") ?? element.attributes.get("version") ?? element.attributes.get("src");
    const variables = new Map(
      children(element, "variable").flatMap((variable) => {
        const value = variable.attributes.get("value");
        return [
          [
            variable.attributes.get("name")?.value ?? "",
            { value: value?.value ?? "", at: variable.source.place(value?.start ?? variable.start) },
          ] as const,
        ];
      }),
    );
    found.set(name.value, {
      id: name.value,
      spec: spec && known(spec.value, element.source.place(spec.start)),
      variables,
      at: element.source.place(name.start),
    });
  }
  const manifest = readManifest(project, detected.path);
  for (const [id, { value, start }] of entriesOf(at(manifest?.root, "cordova", "plugins"))) {
    const variables = new Map(
      entriesOf(value).map(([name, entry]) => [name, { value: textAt(entry.value) ?? "", at: placeOf(entry.value) }] as const),
    );
    const package_ = manifest?.declarations.find(({ name }) => name === id);
    const known_ = found.get(id);
    if (known_) for (const [name, variable] of variables) known_.variables.set(name, variable);
    else found.set(id, { id, spec: package_?.specifier, variables, at: package_?.at ?? value.source.place(start) });
  }
  return [...found.values()];
}

function readPlugins(discovery: Discovery, detected: DetectedApp, app: FactSink, widget: XmlElement): void {
  const { project } = discovery;
  const declared = declaredPlugins(project, detected, widget);
  const lockFile = findLockFile(project, detected.path);
  const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
  const lists = new Map(PLATFORMS.map((platform) => [platform, installedOn(project, detected, platform)] as const));
  const missing: Declared[] = [];
  for (const plugin of declared) {
    const home = folderOfPlugin(detected.path, plugin.spec);
    const own = home === undefined ? undefined : readOwnPlugin(project, app, home, plugin);
    const description = own ?? describe(project, detected, plugin.id);
    if (!description) missing.push(plugin);
    const sides = PLATFORMS.filter((platform) => app[platform] && (description?.platforms.some(({ name }) => name === platform) ?? false));
    for (const side of sides.length > 0 ? sides : (["shared"] as SideName[])) {
      app.dependency({
        ...pluginDependency(plugin, description, sides),
        side,
        locked: lockedOf(detected, lock, plugin, description),
        in: detected.name,
      });
    }
    app.optionsIn ??= plugin.at.file;
    noteVariables(app, plugin, description);
    if (!description) continue;
    if (own) notePackages(app, detected, own);
    notePlugin(project, app, description, sdkOfPlugin(plugin.id));
    noteGradleReferences(project, app, description);
    noteLinking(app, plugin, description, lists);
    noteBrokenClasses(project, app, description, plugin);
    noteCopies(app, discovery.index, detected, plugin, description);
    noteSources(project, app, description);
    noteOneSide(app, description, plugin.at);
    readEngineNeeds(app, plugin, description);
  }
  noteUnlisted(project, detected, app, declared);
  noteLists(project, detected, app, declared);
  noteInstalled(project, detected, app, declared, (id, text) => lock?.locked(detected.path, id, text));
  const hooked = [widget, ...children(widget, "platform")].some((owner) =>
    children(owner, "hook").some((hook) => mayWrite(project.text(join(detected.path, hook.attributes.get("src")?.value ?? ""))?.text)),
  );
  if (missing.length === 0 && !hooked)
    for (const side of PLATFORMS) if (app[side]) app.configIsWhole({ side, file: join(detected.path, "config.xml") });
  tellMissingPlugins(project, app, missing, detected);
}

const specifierOf = ({ spec }: Declared): Specifier => parseSpecifier(textOf(spec) ?? "*");

/** The version that is installed or locked; of a branch none: what is installed today is what the branch was on that day. */
function lockedOf(
  { path }: DetectedApp,
  lock: JsLock | undefined,
  plugin: Declared,
  description: CordovaPlugin | undefined,
): string | undefined {
  if (specifierOf(plugin).kind === "git") return undefined;
  return description?.version ?? lock?.locked(path, plugin.id, textOf(plugin.spec) ?? "*")?.version;
}

/** A plugin as a dependency, but for the side that gets it. */
function pluginDependency(
  plugin: Declared,
  description: CordovaPlugin | undefined,
  sides: readonly Platform[],
): Omit<Dependency, "side" | "locked" | "in"> {
  const specifier = specifierOf(plugin);
  return {
    sdk: sdkOfPlugin(plugin.id),
    ecosystem: "cordova",
    name: plugin.id,
    route: specifier.kind === "git" ? "git" : specifier.kind === "path" ? "path" : "registry",
    declared: plugin.spec,
    scope: "plugin",
    direct: true,
    test: false,
    platform: false,
    conditional: false,
    native: { android: sides.includes("android"), ios: sides.includes("ios") },
    nativeUnknown: description === undefined,
    places: [plugin.at],
    ...(specifier.kind === "git" ? { reference: gitReference(specifier.ref, specifier.url) } : {}),
  };
}

/** Native classes that the plugin's scripts and its description call by names which do not fit. */
function noteBrokenClasses(project: ProjectFiles, app: FactSink, description: CordovaPlugin, plugin: Declared): void {
  for (const { name, side, at: place } of unknownServices(project, description))
    noteUnlinked(app, plugin.id, side, {
      native: `feature ${name}`,
      declared: place,
      list: { file: description.file, line: 1, column: 1 },
      refresh: "call the feature by the name that plugin.xml gives it",
    });
  for (const { name, side, at: place } of orphanClasses(project, description))
    noteUnlinked(app, plugin.id, side, {
      native: `class ${name}`,
      declared: plugin.at,
      list: place,
      refresh: "use a version of the plugin whose files contain the class",
    });
}

/** Plugins that are not here: what they ask for is not known. */
function tellMissingPlugins(project: ProjectFiles, app: FactSink, missing: readonly Declared[], detected: DetectedApp): void {
  if (missing.length > 0)
    app.blindSpot({
      side: "shared",
      what: `what ${missing.length === 1 ? (missing[0]?.id ?? "") : `${missing.length} plugins`} ask${missing.length === 1 ? "s" : ""} for`,
      why: hasNodeModules(project, detected.path) ? reason("not-installed") : reason("no-plugins-no-node-modules"),
      places: missing.slice(0, 1).map(({ at: place }) => place),
    });
}

/** Whether a script that runs while a platform is prepared may change its files; one that is not here may. */
function mayWrite(script: string | undefined): boolean {
  return (
    script === undefined ||
    !/\bmodule\.exports\b/.test(script) ||
    /\bwrite|append|copy|\brename|\bset\w*\(|plist|manifest|config\.xml|xcode|child_process|\bexec|\bspawn|shelljs|\bstream/i.test(
      withoutComments(script),
    )
  );
}

/** Packages that a plugin of the project's own takes in: they are declared here and nowhere else. */
function notePackages(app: FactSink, { name }: DetectedApp, { id, platforms }: CordovaPlugin): void {
  for (const { name: platform, frameworks, pods } of platforms) {
    if (app.android && platform === "android")
      for (const { src, kind, at: place } of frameworks) {
        const [group = "", artifact = "", version] = src.split(":");
        if (kind !== "maven" || src.includes("$") || PLATFORM_PACKAGES.maven.test(`${group}:${artifact}`)) continue;
        app.dependency({
          side: "android",
          ecosystem: "maven",
          name: `${group}:${artifact}`,
          declared: version === undefined ? undefined : known(version, place),
          scope: id,
          in: name,
          places: [place],
        });
      }
    if (app.ios && platform === "ios")
      for (const { name: pod, spec, at: place } of pods)
        app.dependency({
          side: "ios",
          ecosystem: "cocoapods",
          name: pod,
          declared: spec === undefined ? undefined : known(spec, place),
          scope: id,
          in: name,
          places: [place],
        });
  }
}

/** Plugins in the folder `plugins` against the lock: another version, or not there while others are. */
function noteInstalled(
  project: ProjectFiles,
  detected: DetectedApp,
  app: FactSink,
  declared: readonly Declared[],
  lockedAs: (id: string, text: string) => { version: string; at: Place } | undefined,
): void {
  const laid = declared.map(({ id, spec }) => {
    const locked = lockedAs(id, spec?.kind === "known" ? spec.text : "*");
    const folder = join(detected.path, "plugins", id);
    // The description may be behind its package.
    const package_ = project.tree.isFile(join(folder, "package.json")) ? project.json(join(folder, "package.json"))?.root : undefined;
    const described = readPluginXml(project, folder);
    return { name: id, locked, installed: described && (textAt(package_, "version") ?? described.version) };
  });
  if (laid.every(({ installed }) => installed === undefined)) return;
  const outside = declared.flatMap(({ id, spec, at: place }) => {
    const text = spec?.kind === "known" && parseSpecifier(spec.text).kind === "range" ? spec.text : undefined;
    const installed = laid.find(({ name }) => name === id)?.installed;
    return text !== undefined && installed !== undefined && satisfiesIn("cordova", installed, text) === false
      ? [{ name: id, declared: text, recorded: installed, places: [place] }]
      : [];
  });
  if (outside.length > 0)
    app.lock({
      manager: "cordova",
      side: "shared",
      manifest: { file: join(detected.path, "package.json"), line: 1, column: 1 },
      lockName: "the folder plugins",
      lock: join(detected.path, "plugins"),
      expected: false,
      declaredApart: outside,
    });
  const apart = laid.flatMap(({ name, locked, installed }) =>
    locked && installed !== locked.version && !findInstalled(project, detected.path, name)
      ? [{ name, locked: locked.version, installed, at: locked.at }]
      : [],
  );
  if (apart.length > 0)
    app.revise("locks", (locks) =>
      locks.map((lock) => (lock.lock !== undefined ? { ...lock, installedApart: [...lock.installedApart, ...apart] } : lock)),
    );
}

/**
 * The lists of package.json against each other: a platform that is a package and not in the list is not built in a fresh copy, a plugin of the list
 * that is no package comes in whatever version is newest. Source: cordova.apache.org, "Platforms and Plugins Version Management".
 */
function noteLists(project: ProjectFiles, { path }: DetectedApp, app: FactSink, declared: readonly Declared[]): void {
  const manifest = readManifest(project, path);
  if (!manifest) return;
  const list = at(manifest.root, "cordova", "platforms");
  const listed = new Set(textsOf(list));
  for (const side of PLATFORMS) {
    const package_ = manifest.declarations.find(({ name }) => name === `cordova-${side}`);
    if (list && listed.size > 0 && package_ && !listed.has(side) && app[side])
      app.templateLine({ line: "platform of the list", side, at: placeOf(list) });
    if (listed.has(side) && !package_ && app[side] && manifest.declarations.some(({ name }) => name.startsWith("cordova-")))
      app.lock({
        manager: "cordova",
        side,
        manifest: placeOf(list ?? manifest.root),
        lockName: "the dependencies",
        lock: manifest.file,
        expected: false,
        declaredApart: [{ name: `cordova-${side}`, declared: undefined, recorded: undefined, places: [placeOf(list ?? manifest.root)] }],
      });
  }
  const packages = new Set(manifest.declarations.map(({ name }) => name));
  const plugins = at(manifest.root, "cordova", "plugins");
  for (const { id, spec, at: place } of plugins?.kind === "map" ? declared : [])
    if (spec === undefined && !packages.has(id) && at(plugins, id))
      app.lock({
        manager: "cordova",
        side: "shared",
        manifest: place,
        lockName: "the dependencies",
        lock: manifest.file,
        expected: false,
        declaredApart: [{ name: id, declared: undefined, recorded: undefined, places: [place] }],
      });
}

/** Native code of a plugin that something a build needs does not name. */
function noteUnlinked(
  app: FactSink,
  id: string,
  side: Platform,
  link: { native: string; declared: Place; list: Place; refresh: string },
): void {
  if (app[side])
    app.linkage({ package: id, sdk: sdkOfPlugin(id), side, automatic: true, off: undefined, manual: undefined, installed: false, ...link });
}

/**
 * Packages of the project that are plugins and that the list of plugins lacks: a fresh copy of the project is built without them. Source:
 * cordova.apache.org, "Platforms and Plugins Version Management".
 */
function noteUnlisted(project: ProjectFiles, detected: DetectedApp, app: FactSink, declared: readonly Declared[]): void {
  const manifest = readManifest(project, detected.path);
  const list = at(manifest?.root, "cordova", "plugins");
  // Without any list the plugins are added by hand.
  if (!manifest || list?.kind !== "map" || list.entries.size === 0) return;
  const ids = new Set(
    declared.flatMap(({ id }) => [id, ...(describe(project, detected, id)?.dependencies.map((other) => other.id) ?? [])]),
  );
  for (const { name, section, at: place } of manifest.declarations) {
    if (section === "peerDependencies" || ids.has(name) || !/cordova|phonegap/i.test(name)) continue;
    const plugin = describe(project, detected, name);
    // One that is not here is known by its name.
    const isNamed = plugin === undefined && /^(?:@[\w-]+\/)?cordova-plugin-/.test(name);
    for (const side of plugin?.id === name || isNamed ? PLATFORMS : [])
      if (isNamed || plugin?.platforms.some((platform) => platform.name === side))
        noteUnlinked(app, name, side, {
          native: `${name} under cordova.plugins`,
          declared: place,
          list: placeOf(list),
          refresh: `run cordova plugin add ${name}, and commit the list`,
        });
  }
}

/** A plugin that is for one of the phones alone. */
function noteOneSide(app: FactSink, { id, platforms, globals }: CordovaPlugin, at: Place): void {
  if (!app.android || !app.ios || globals.length === 0) return;
  const lacking = PLATFORMS.filter((side) => !platforms.some(({ name }) => name === side));
  const [lacks] = lacking;
  // What the web view has by itself needs no plugin there.
  const names = globals.filter((name) => !OF_THE_WEB_VIEW.has(name.replace(/^window\.(?=navigator)/, "")));
  if (lacking.length === 1 && lacks && names.length > 0) app.oneSidedPackage({ package: id, sdk: sdkOfPlugin(id), lacks, names, at });
}

/** Paths of files that another package brings, or that hold a variable. */
const FROM_ELSEWHERE = /\$|(^|\/)node_modules\/|^\.\.\//;

/** Source files that a plugin names and does not have; not of one that came without any of its code. */
function noteSources(project: ProjectFiles, app: FactSink, { folder, platforms, modules }: CordovaPlugin): void {
  const files = platforms.flatMap(({ name, sources, resources, frameworks }) => {
    const side = PLATFORMS.find((platform) => platform === name);
    const named = frameworks.flatMap(({ src, kind, at: place }) =>
      kind === "gradle" || kind === "custom" ? { file: src, at: place } : [],
    );
    return side && app[side]
      ? [...sources, ...resources, ...named].map((source) => ({ ...source, side, resolved: join(folder, source.file) }))
      : [];
  });
  const there = files.map(({ resolved }) => project.tree.isFile(resolved) || project.tree.isFolder(resolved));
  if (!there.includes(true)) return;
  for (const [index, { file, side, resolved, at: place }] of files.entries())
    // What lies in another package comes when that is installed.
    if (!FROM_ELSEWHERE.test(file))
      app.pathFollowed({ text: file, resolved, kind: "binary", exists: there[index], side, generated: false, at: place });
  for (const { file, at: place } of modules) {
    if (FROM_ELSEWHERE.test(file)) continue;
    const resolved = join(folder, file);
    const exists = project.tree.isFile(resolved);
    if (!exists) app.pathFollowed({ text: file, resolved, kind: "source file", exists, side: "shared", generated: false, at: place });
  }
}

/**
 * Names under which a plugin's scripts call native code and that its description gives no class on a side. Source: cordova.apache.org, "Plugin
 * Development Guide" (exec: the service's name is that of the feature).
 */
function unknownServices(
  project: ProjectFiles,
  { folder, platforms, modules }: CordovaPlugin,
): { name: string; side: Platform; at: Place }[] {
  const found: { name: string; side: Platform; at: Place }[] = [];
  const texts = modules.map(({ file }) => project.text(join(folder, file)));
  const asked = new Set(
    texts.flatMap((source) => [...(source?.text.matchAll(/["']([\w.]+)["']/g) ?? [])].map((match) => match[1] as string)),
  );
  for (const source of texts) {
    for (const { service: name, offset } of execCalls(source?.text ?? ""))
      for (const { name: platform, services, sources } of platforms) {
        const side = PLATFORMS.find((one) => one === platform);
        if (!side || services.includes(name) || /^(CoreAndroid|App|Console|File)$/.test(name)) continue;
        // A service of one side alone may be asked for there alone; a side with native code and without any feature has lost it.
        const elsewhere = platforms.some((other) => other.services.includes(name));
        // One that no script asks for is the same under another name.
        const other =
          (!elsewhere && services.some((own) => distance(own, name) <= 2)) ||
          (services.length === 1 && services.every((own) => !asked.has(own)));
        // Scripts may ask for what further plugins bring.
        if ((services.length > 0 && !other) || (elsewhere && sources.length === 0)) continue;
        if (source && !found.some((other) => other.name === name && other.side === side))
          found.push({ name, side, at: source.place(offset) });
      }
  }
  return found;
}

function describe(project: ProjectFiles, detected: DetectedApp, id: string): CordovaPlugin | undefined {
  const installed = findInstalled(project, detected.path, id);
  return readPluginXml(project, join(detected.path, "plugins", id)) ?? (installed && readPluginXml(project, installed.folder));
}

/** The plugins that a platform's own register has; `undefined` when the platform is not there. */
function installedOn(project: ProjectFiles, detected: DetectedApp, platform: Platform): { names: Set<string>; file: string } | undefined {
  const file = join(detected.path, "platforms", platform, `${platform}.json`);
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  if (!root) return undefined;
  return {
    file,
    names: new Set(["installed_plugins", "dependent_plugins"].flatMap((key) => entriesOf(at(root, key)).map(([name]) => name))),
  };
}

function noteLinking(
  app: FactSink,
  plugin: Declared,
  description: CordovaPlugin,
  lists: Map<Platform, { names: Set<string>; file: string } | undefined>,
): void {
  for (const platform of PLATFORMS) {
    if (!app[platform] || !description.platforms.some(({ name }) => name === platform)) continue;
    const list = lists.get(platform);
    app.linkage({
      package: plugin.id,
      sdk: sdkOfPlugin(plugin.id),
      side: platform,
      automatic: true,
      off: undefined,
      manual: undefined,
      native: plugin.id,
      installed: list?.names.has(plugin.id),
      declared: plugin.at,
      list: list && { file: list.file, line: 1, column: 1 },
      refresh: `remove the platform ${platform} and add it again, which installs every declared plugin`,
    });
  }
}

/** Variables without a default have to be given. */
function noteVariables(app: FactSink, { id, at: place, variables }: Declared, description: CordovaPlugin | undefined): void {
  const variable = (name: string, value: string, where: Place): void =>
    app.entry({ kind: "variable", side: "shared", name: `${id} ${name}`, value: known(value, where), at: where });
  for (const [name, given] of variables) variable(name, given.value, given.at);
  for (const { name, fallback } of description?.variables ?? [])
    if (fallback === undefined && !variables.has(name)) variable(name, "", place);
}

/** A plugin's native files that stand in the project a second time. */
function noteCopies(app: FactSink, index: FolderIndex, detected: DetectedApp, plugin: Declared, description: CordovaPlugin): void {
  const plugins = [...foldersBelow(index, detected.path)].flatMap(([folder, { files: names }]) =>
    names.includes("plugin.xml") ? folder : [],
  );
  const files = new Map(description.platforms.flatMap(({ name, sources }) => sources.map(({ file }) => [baseName(file), name] as const)));
  for (const [folder, { files: names }] of foldersBelow(index, detected.path)) {
    if (/(^|\/)(plugins|platforms|node_modules)(\/|$)/.test(folder.slice(detected.path.length))) continue;
    // The plugin itself lies there, or another.
    if (plugins.some((other) => isWithin(folder, other))) continue;
    for (const name of names) {
      const platform = files.get(name);
      if ((platform !== "android" && platform !== "ios") || !app[platform] || !/\.(java|kt|m|mm|swift)$/.test(name)) continue;
      app.copy({
        package: plugin.id,
        sdk: sdkOfPlugin(plugin.id),
        side: platform,
        at: { file: join(folder, name), line: 1, column: 1 },
        declared: plugin.at,
      });
    }
  }
}

/** The platform versions that a plugin asks for. */
function readEngineNeeds(app: FactSink, plugin: Declared, description: CordovaPlugin): void {
  for (const { name, version, at: place } of description.engines) {
    if (!/^cordova-(android|ios)$/.test(name)) continue;
    app.packageNeed({
      by: plugin.id,
      sdk: sdkOfPlugin(plugin.id),
      side: name.endsWith("ios") ? "ios" : "android",
      ecosystem: "cordova",
      name,
      requirement: version.replace(/\s*&\s*/g, " "),
      from: "plugin.xml",
      at: place,
    });
  }
}
