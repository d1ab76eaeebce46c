import { gitReference } from "../../../versions/git-reference.js";
import path from "node:path";
import { noHelpers } from "../../platforms/ios/ruby-host.js";
import { HIGHEST_FLUTTER_MIN_SDK } from "../../../knowledge/flutter-levels.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { Dependency, LevelName, LockFact, SideName } from "../../../model/facts.js";
import { baseName, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, textOf, unknown, type Value } from "../../../model/value.js";
import { at, entriesOf, itemsOf, keyPlace, placeOf, textAt, valueAt, type Data } from "../../../syntax/data.js";
import { take, type DetectedApp, type Discovery, type Framework } from "../framework.js";
import { ancestors } from "../../packages/packages.js";
import { moduleApps, noteHosts, type Hosts } from "./module.js";
import { noteTemplate } from "./template.js";
import { readSwiftManifest } from "../../platforms/ios/swift-manifest.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";

/** Packages of the framework and of the language's own team. Source: pub.dev publishers dart.dev, tools.dart.dev and the Flutter SDK itself. */
const PLATFORM =
  /^(flutter|flutter_test|flutter_driver|flutter_localizations|flutter_web_plugins|integration_test|sky_engine|flutter_lints|lints|cupertino_icons|meta|collection|async|path|test|build_runner|intl|material_color_utilities|vector_math|characters)$/;

/** Apps made with Flutter. Source: dart.dev, "The pubspec file"; docs.flutter.dev, "Developing packages and plugins". */
export const flutter: Framework<Hosts> = {
  kind: "flutter",
  find(discovery) {
    const found: DetectedApp<Hosts>[] = moduleApps(discovery);
    for (const [folder, { files }] of discovery.index) {
      if (!files.includes("pubspec.yaml")) continue;
      const root = discovery.project.yaml(join(folder, "pubspec.yaml"))?.root;
      if (textAt(root, "dependencies", "flutter", "sdk") !== "flutter" || at(root, "flutter", "plugin") || at(root, "flutter", "module"))
        continue;
      const [android] = take(discovery.android, ({ build }) => build.folder === join(folder, "android"));
      const [ios] = take(discovery.ios, ({ xcode }) => xcode.folder === join(folder, "ios"));
      if (!android && !ios) continue;
      found.push({
        kind: "flutter",
        name: textAt(root, "name") ?? (baseName(folder) || "app"),
        path: folder,
        android,
        ios,
        shared: folder,
      });
    }
    return found;
  },
  complete(discovery, detected, app) {
    const { project } = discovery;
    const file = join(dartFolder(detected), "pubspec.yaml");
    const root = project.yaml(file)?.root;
    if (!root) return;
    const sdk = flutterSdk(project, detected);
    app.hybrid({
      folder: dartFolder(detected),
      framework: {
        name: "Flutter",
        package: "flutter",
        declared: valueAt(root, "environment", "flutter") ?? valueAt(root, "environment", "sdk"),
        installed: sdk && sdkVersion(project, sdk),
      },
    });
    const home = workspaceOf(project, dartFolder(detected), root);
    readPackages(discovery, detected, app, root, home);
    noteTemplate(
      discovery,
      detected,
      app,
      noteHosts(discovery, detected, app),
      app.dependencies.some(
        ({ ecosystem, platform, test, native, nativeUnknown }) =>
          ecosystem === "pub" && !platform && !test && (nativeUnknown || native?.ios === true),
      ),
    );
    if (detected.android?.build.folder === join(dartFolder(detected), "android")) shrinkByDefault(app);
    noteFlavors(project, app);
    readDefaults(project, app, sdk);
  },
};

/** The folder of the Dart code: the app's, or the module's where native apps take one in. */
function dartFolder({ shared, path: own }: DetectedApp): string {
  return shared ?? own;
}

interface Located {
  folder: string;
  root: Data;
}

/**
 * The folder with the lock and the list of packages: the app's own, or that of the workspace which it is a member of; `undefined` for a
 * member whose workspace is not in the files. Source: dart.dev, "Pub workspaces".
 */
function workspaceOf(project: ProjectFiles, folder: string, root: Data): string | undefined {
  if (textAt(root, "resolution") !== "workspace") return folder;
  return ancestors(project, folder).find((above) => {
    const file = join(above, "pubspec.yaml");
    return above !== folder && project.tree.isFile(file) && at(project.yaml(file)?.root, "workspace") !== undefined;
  });
}

function readPackages(discovery: Discovery, detected: DetectedApp, app: FactSink, root: Data, home: string | undefined): void {
  const { project } = discovery;
  const lockFile = home === undefined ? undefined : join(home, "pubspec.lock");
  const lock = lockFile === undefined ? undefined : project.yaml(lockFile)?.root;
  const file = join(dartFolder(detected), "pubspec.yaml");
  const locked = at(lock, "packages");
  const overridesFile = [dartFolder(detected), home ?? dartFolder(detected)]
    .map((folder) => join(folder, "pubspec_overrides.yaml"))
    .find((candidate) => project.tree.isFile(candidate));
  const beside = overridesFile === undefined ? undefined : at(project.yaml(overridesFile)?.root, "dependency_overrides");
  // The file beside wins as a whole. Source: dart.dev, "The pubspec file", "Dependency overrides".
  const overrides = beside ?? at(root, "dependency_overrides");
  const members = workspaceMembers(project, home);
  noteLostMembers(project, app, home);
  const folders = packageFolders(project, dartFolder(detected), home);
  for (const [name, { folder }] of members) {
    folders.set(name, folder);
    app.lockedName(`pub ${name}`);
  }
  for (const [name, { value }] of entriesOf(locked)) {
    const where = textAt(value, "source") === "path" ? textAt(value, "description", "path") : undefined;
    if (where !== undefined && home !== undefined && !folders.has(name)) folders.set(name, fromRoot(project, home, where));
  }
  const fetched = [...entriesOf(at(root, "dependencies"))].some(([, { value }]) => !at(value, "sdk") && !at(value, "path"));
  const lockFact: LockFact = {
    manager: "pub",
    side: "shared",
    manifest: { file, line: 1, column: 1 },
    lockName: "pubspec.lock",
    lock: lock ? lockFile : undefined,
    expected: discovery.versioned && home !== undefined,
    needed: fetched && home !== undefined,
    installedApart: [],
    declaredApart: [],
  };
  for (const [name] of entriesOf(locked)) app.lockedName(`pub ${name}`);
  const missing: Place[] = [];
  const taken = new Set<string>();
  const inTree: { name: string; root: Data }[] = [];
  // What packages of the tree refer to is in the app too, and so are the plugins among it.
  const takeIn = (name: string, { folder, root: own }: Located, place: Place): void => {
    if (taken.has(name) || folder.startsWith("..")) return;
    taken.add(name);
    if (!isInstalledPackage(folder)) {
      app.sourceFolder({ folder: join(folder, "lib"), side: "shared" });
      checkPlugin(project, app, name, { folder, root: own });
      inTree.push({ name, root: own });
    }
    for (const [other, { value }] of entriesOf(at(own, "dependencies"))) {
      if (at(value, "sdk") || at(root, "dependencies", other)) continue;
      const next = locate(project, folder, other, value, folders);
      if (!next || isInstalledPackage(next.folder)) continue;
      if (at(next.root, "flutter", "plugin", "platforms")) readPlugin(project, detected, app, other, next, place, folders);
      takeIn(other, next, place);
    }
  };
  for (const section of ["dependencies", "dev_dependencies"] as const) {
    for (const [name, entry] of entriesOf(at(root, section))) {
      const value = at(overrides, name) ?? entry.value;
      if (at(value, "sdk")) continue;
      const declared = declaration(value);
      const inLock = at(locked, name);
      const located = locate(project, dartFolder(detected), name, value, folders);
      const platforms = located && at(located.root, "flutter", "plugin", "platforms");
      const sides = sidesOf(app, located, folders);
      const place = entry.value.source.place(entry.start);
      if (!located && !PLATFORM.test(name) && section === "dependencies") missing.push(place);
      const git = at(value, "git");
      for (const side of sides.length > 0 ? sides : (["shared"] as SideName[])) {
        const dependency: Dependency = {
          sdk: sdkIdOf("pub", name),
          side,
          ecosystem: "pub",
          name,
          route: git ? "git" : at(value, "path") ? "path" : "registry",
          declared,
          locked: textAt(inLock, "version"),
          scope: section,
          in: textAt(root, "name") ?? detected.name,
          direct: true,
          test: section === "dev_dependencies",
          platform: PLATFORM.test(name),
          conditional: false,
          native: { android: sides.includes("android"), ios: sides.includes("ios") },
          nativeUnknown: located === undefined,
          places: [place],
        };
        const member = members.get(name);
        if (member && !at(value, "path") && !git) {
          // A member of the workspace is in no lock: its own file says which version it is.
          dependency.route = "path";
          dependency.fixedBy = "the workspace";
          if (member.version) {
            dependency.locked = textOf(member.version);
            dependency.lockedAt = member.version.place;
          }
        }
        const lockPlace = keyPlace(locked, name);
        const before = at(overrides, name) && declaration(entry.value);
        if (before?.kind === "known" && declared?.kind === "known") dependency.overridden = before;
        if (inLock && lockPlace) dependency.lockedAt = at(inLock, "version") ? placeOf(at(inLock, "version") as Data) : lockPlace;
        if (git) {
          const ref = textAt(git, "ref");
          const recorded = textAt(inLock, "description", "ref");
          if (recorded !== undefined && recorded !== (ref ?? "HEAD") && !lockFact.declaredApart.some((apart) => apart.name === name))
            lockFact.declaredApart.push({ name, declared: ref ?? "the default branch", recorded, places: [place, lockPlace ?? place] });
          dependency.reference = gitReference(ref, textAt(git, "url") ?? textAt(git) ?? "");
        }
        if (at(value, "path")) {
          dependency.reference = { kind: "path", text: textAt(value, "path") ?? "" };
          dependency.fixedBy = "a path";
        }
        app.dependency(dependency);
      }
      const local = valueAt(value, "path");
      if (local?.kind === "known") {
        const absolute = path.posix.isAbsolute(local.text) || /^[A-Za-z]:|^~/.test(local.text);
        const from = overridesFile !== undefined && local.place.file === overridesFile ? parentOf(overridesFile) : dartFolder(detected);
        const resolved = absolute ? undefined : join(from, local.text);
        app.pathFollowed({
          text: local.text,
          resolved,
          kind: "package",
          exists: resolved === undefined ? undefined : project.tree.isFolder(resolved),
          side: "shared",
          generated: false,
          at: local.place,
        });
      }
      if (located && section === "dependencies") {
        if (platforms) readPlugin(project, detected, app, name, located, place, folders);
        takeIn(name, located, place);
      }
    }
  }
  checkHalves(app, inTree, new Set(entriesOf(at(root, "dependencies")).map(([name]) => name)));
  app.lock(lockFact);
  if (missing.length > 0)
    app.blindSpot({
      side: "shared",
      what:
        missing.length === 1 ? "what one package asks for" : `what ${missing.length} packages ask for, and which of them have native code`,
      why: folders.size === 0 ? "nothing is fetched: .dart_tool/package_config.json is not there" : "their folders are not on this machine",
      places: missing.slice(0, 1),
    });
}

function declaration(value: Data): Value | undefined {
  if (value.kind === "scalar") return value.value === null ? undefined : known(String(value.value), placeOf(value));
  return valueAt(value, "version");
}

/** Packages that a package manager laid down. */
function isInstalledPackage(folder: string): boolean {
  return /(^|\/)(\.pub-cache|hosted|\.symlinks|ephemeral)(\/|$)/.test(folder);
}

/** The members of a workspace by name: where each lies and which version it is. Source: dart.dev, "Pub workspaces". */
function workspaceMembers(project: ProjectFiles, home: string | undefined): Map<string, { folder: string; version: Value | undefined }> {
  const found = new Map<string, { folder: string; version: Value | undefined }>();
  const root = home === undefined ? undefined : project.yaml(join(home, "pubspec.yaml"))?.root;
  if (home === undefined) return found;
  for (const item of itemsOf(at(root, "workspace"))) {
    const text = textAt(item);
    if (text === undefined) continue;
    const star = text.indexOf("*");
    const base = join(home, star === -1 ? text : text.slice(0, star));
    const folders = star === -1 ? [base] : project.tree.list(base).flatMap(({ kind, name }) => (kind === "folder" ? join(base, name) : []));
    for (const folder of folders) {
      const own = project.tree.isFile(join(folder, "pubspec.yaml")) ? project.yaml(join(folder, "pubspec.yaml"))?.root : undefined;
      const name = textAt(own, "name");
      if (name !== undefined) found.set(name, { folder, version: valueAt(own, "version") });
    }
  }
  return found;
}

/** Members that a workspace names and that are no packages: fetching stops. */
function noteLostMembers(project: ProjectFiles, app: FactSink, home: string | undefined): void {
  if (home === undefined) return;
  for (const item of itemsOf(at(project.yaml(join(home, "pubspec.yaml"))?.root, "workspace"))) {
    const text = textAt(item);
    if (text === undefined || text.includes("*") || project.tree.isFile(join(home, text, "pubspec.yaml"))) continue;
    app.pathFollowed({
      text,
      resolved: join(home, text),
      kind: "package",
      exists: false,
      side: "shared",
      generated: false,
      at: placeOf(item),
    });
  }
}

const PLUGIN_CODE = { android: /\.(kt|java)$/, ios: /\.(swift|mm?|h)$/ } as const;

/** The level that a plugin's Swift package asks for. Source: docs.flutter.dev, "Swift Package Manager for plugin authors". */
function noteSwiftPackage(project: ProjectFiles, app: FactSink, file: string, by: string, sdk: string): void {
  const manifest = project.tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
  if (manifest?.iosTarget) app.required({ level: "iosTarget", value: manifest.iosTarget, by, sdk, from: "Package.swift" });
}

/**
 * A package of the tree that is a plugin's half for a side which the plugin does not name: without its own entry in the app nothing registers it.
 * Source: docs.flutter.dev, "Federated plugins" (endorsed implementations).
 */
function checkHalves(app: FactSink, located: readonly { name: string; root: Data }[], direct: ReadonlySet<string>): void {
  for (const { name, root } of located) {
    const whole = textAt(root, "flutter", "plugin", "implements");
    const owner = whole === undefined ? undefined : located.find((other) => other.name === whole);
    const platforms = owner && at(owner.root, "flutter", "plugin", "platforms");
    if (!platforms || direct.has(name)) continue;
    for (const side of ["android", "ios"] as const)
      if (app[side] && at(root, "flutter", "plugin", "platforms", side) && !at(platforms, side))
        app.pluginGap({ package: owner.name, side, type: undefined, at: placeOf(platforms) });
  }
}

/** A plugin of the tree: whether its code has the class that it names, and whether it names every side that it has code for. */
function checkPlugin(project: ProjectFiles, app: FactSink, name: string, { folder, root }: Located): void {
  const platforms = at(root, "flutter", "plugin", "platforms");
  if (!platforms) return;
  for (const side of ["android", "ios"] as const) {
    if (!app[side]) continue;
    const platform = at(platforms, side);
    const native = side === "ios" && project.tree.isFolder(join(folder, "darwin")) ? "darwin" : side;
    const sources = project.tree.isFolder(join(folder, native)) ? filesBelow(project, join(folder, native), PLUGIN_CODE[side]) : [];
    const texts = sources.flatMap((file) => project.text(file)?.text ?? []);
    const named = at(platform, "pluginClass");
    const type = textAt(named);
    if (type !== undefined && type !== "none" && texts.length > 0) {
      const known_ = texts.some((text) =>
        new RegExp(`(?:class|object|@interface|@implementation)\\s+${type.replace(/[^\w]/g, "")}\\b`).test(text),
      );
      if (!known_ && named) app.pluginGap({ package: name, side, type, at: placeOf(named) });
    } else if (
      !platform &&
      texts.some((text) => /:\s*(?:\w+,\s*)*FlutterPlugin\b|<FlutterPlugin>|implements\s[^{]*\bFlutterPlugin\b/.test(text))
    )
      app.pluginGap({ package: name, side, type: undefined, at: placeOf(platforms) });
  }
}

function filesBelow(project: ProjectFiles, folder: string, ending: RegExp): string[] {
  const found: string[] = [];
  const open = [folder];
  for (let next = open.pop(); next !== undefined && found.length < 400; next = open.pop())
    for (const { kind, name } of project.tree.list(next)) {
      const path_ = join(next, name);
      if (kind === "folder" && !/^(build|\.gradle|Pods|test|androidTest|\w*Tests)$/.test(name)) open.push(path_);
      else if (kind === "file" && ending.test(name)) found.push(path_);
    }
  return found;
}

/** Where packages lie, as the last fetch wrote it down: name → folder relative to the survey's root. */
function packageFolders(project: ProjectFiles, folder: string, home: string | undefined): Map<string, string> {
  const found = new Map<string, string>();
  const tools = join(home ?? folder, ".dart_tool");
  const list = join(tools, "package_config.json");
  const config = project.tree.isFile(list) ? project.json(list)?.root : undefined;
  for (const item of itemsOf(at(config, "packages"))) {
    const name = textAt(item, "name");
    const uri = textAt(item, "rootUri");
    const inside = name === undefined || uri === undefined ? undefined : fromUri(project, tools, uri);
    if (name !== undefined && inside !== undefined) found.set(name, inside);
  }
  const listed = project.tree.isFile(join(folder, ".flutter-plugins-dependencies"))
    ? project.json(join(folder, ".flutter-plugins-dependencies"))?.root
    : undefined;
  for (const [, { value }] of entriesOf(at(listed, "plugins"))) {
    for (const plugin of itemsOf(value)) {
      const name = textAt(plugin, "name");
      const where = textAt(plugin, "path");
      if (name !== undefined && where !== undefined && !found.has(name)) found.set(name, fromRoot(project, folder, where));
    }
  }
  return found;
}

function fromUri(project: ProjectFiles, base: string, uri: string): string | undefined {
  if (!uri.startsWith("file:")) return /^\w+:/.test(uri) ? undefined : join(base, decoded(uri));
  return fromRoot(project, base, decoded(uri.replace(/^file:\/\/(\/(?=[A-Za-z]:))?/, "")));
}

/** An absolute path as seen from the survey's root. */
function fromRoot(project: ProjectFiles, base: string, where: string): string {
  const plain = where.replaceAll("\\", "/").replace(/\/$/, "");
  if (!path.isAbsolute(plain) && !/^[A-Za-z]:/.test(plain)) return join(base, plain);
  return path.relative(project.tree.root, plain).split(path.sep).join("/");
}

function locate(project: ProjectFiles, folder: string, name: string, value: Data, folders: Map<string, string>): Located | undefined {
  const local = textAt(value, "path");
  for (const candidate of [folders.get(name), local === undefined ? undefined : join(folder, local)]) {
    const file = candidate === undefined ? undefined : join(candidate, "pubspec.yaml");
    const root = file !== undefined && project.tree.isFile(file) ? project.yaml(file)?.root : undefined;
    if (candidate !== undefined && root) return { folder: candidate, root };
  }
  return undefined;
}

/** The sides to which a plugin brings native code, itself or through the package that it names for a platform. */
function sidesOf(app: FactSink, located: Located | undefined, folders: Map<string, string>): SideName[] {
  if (!located) return [];
  const platforms = at(located.root, "flutter", "plugin", "platforms");
  return (["android", "ios"] as const).filter((side) => {
    if (!app[side]) return false;
    const platform = at(platforms, side);
    const other = textAt(platform, "default_package");
    if (other !== undefined) return folders.has(other);
    return (
      platform !== undefined &&
      (textAt(platform, "pluginClass") ?? textAt(platform, "ffiPlugin")) !== undefined &&
      textAt(platform, "pluginClass") !== "none"
    );
  });
}

/** What a plugin's own folders say: levels, permissions, dependencies; and whether the app's lists have it. */
function readPlugin(
  project: ProjectFiles,
  detected: DetectedApp,
  app: FactSink,
  name: string,
  located: Located,
  declared: Place,
  folders: Map<string, string>,
): void {
  for (const side of ["android", "ios"] as const) {
    if (!app[side]) continue;
    const platform = at(located.root, "flutter", "plugin", "platforms", side);
    const other = textAt(platform, "default_package");
    const owner = other ?? name;
    const folder = other === undefined ? located.folder : folders.get(other);
    if (folder === undefined) continue;
    if (side === "android" && app.android && project.tree.isFolder(join(folder, "android")))
      noteAndroidPackage(project, app, app.android, owner, sdkIdOf("pub", name), join(folder, "android"), ["minSdk", "compileSdk"]);
    if (side !== "ios" || !app.ios) continue;
    const native = project.tree.isFolder(join(folder, "darwin")) ? "darwin" : "ios";
    const spec = [`${native}/${owner}.podspec`, `${owner}.podspec`]
      .map((file) => join(folder, file))
      .find((file) => project.tree.isFile(file));
    if (spec !== undefined) notePodspec(project, app, spec, owner, sdkIdOf("pub", name), noHelpers);
    noteSwiftPackage(project, app, join(folder, native, owner, "Package.swift"), owner, sdkIdOf("pub", name));
    const { pods } = app.ios;
    const usesSwiftPackages = app.ios.targets.some(({ packageProducts }) =>
      packageProducts.some(({ product }) => product === "FlutterGeneratedPluginSwiftPackage"),
    );
    if (spec !== undefined && pods && !usesSwiftPackages) {
      app.linkage({
        package: name,
        sdk: sdkIdOf("pub", name),
        side: "ios",
        automatic: pods.helpers.some((helper) => /^(flutter_)?install_all_/.test(helper)),
        by: "flutter_install_all_ios_pods",
        off: undefined,
        manual: pods.declared.get(owner),
        native: owner,
        installed: pods.locked && pods.locked.has(owner),
        declared,
        list: { file: pods.locked ? pods.lockFile : pods.file, line: 1, column: 1 },
        refresh: "run flutter pub get and pod install, and commit the lock file",
      });
    }
  }
  checkRegistrant(project, detected, app, name, located, declared);
}

/** The list of plugins that the framework writes; where it is there, it has to have the plugin. */
function checkRegistrant(
  project: ProjectFiles,
  detected: DetectedApp,
  app: FactSink,
  name: string,
  located: Located,
  declared: Place,
): void {
  const files = {
    android: "android/app/src/main/java/io/flutter/plugins/GeneratedPluginRegistrant.java",
    ios: "ios/Runner/GeneratedPluginRegistrant.m",
  };
  for (const side of ["android", "ios"] as const) {
    const pluginClass = textAt(located.root, "flutter", "plugin", "platforms", side, "pluginClass");
    const file = join(dartFolder(detected), files[side]);
    const text = app[side] && pluginClass && pluginClass !== "none" && project.tree.isFile(file) ? project.text(file)?.text : undefined;
    if (text === undefined || pluginClass === undefined || text.includes(pluginClass)) continue;
    app.linkage({
      package: name,
      sdk: sdkIdOf("pub", name),
      side,
      automatic: true,
      off: undefined,
      manual: undefined,
      native: pluginClass,
      installed: false,
      declared,
      list: { file, line: 1, column: 1 },
      refresh: "run flutter pub get, which writes the list again",
    });
  }
}

/** The SDK that the Android side was last built with, relative to the survey's root. */
function flutterSdk(project: ProjectFiles, detected: DetectedApp): string | undefined {
  const local = project.properties(join(dartFolder(detected), "android/local.properties"));
  const stated = textAt(local, "flutter.sdk");
  const folder = stated === undefined ? undefined : fromRoot(project, "", stated);
  return folder !== undefined && project.tree.isFolder(folder) ? folder : undefined;
}

function sdkVersion(project: ProjectFiles, sdk: string): string | undefined {
  return project.text(join(sdk, "version"))?.text.trim() || undefined;
}

/** Levels that are left to `flutter.…`: from the SDK where it is there. */
function readDefaults(project: ProjectFiles, app: FactSink, sdk: string | undefined): void {
  const { android } = app;
  if (!android) return;
  const files = [
    "packages/flutter_tools/gradle/src/main/kotlin/FlutterExtension.kt",
    "packages/flutter_tools/gradle/src/main/groovy/flutter.groovy",
    "packages/flutter_tools/gradle/flutter.gradle",
  ];
  const source =
    sdk === undefined
      ? undefined
      : files
          .map((file) => join(sdk, file))
          .map((file) => (project.tree.isFile(file) ? project.text(file) : undefined))
          .find((text) => text !== undefined);
  for (const [level, name] of [
    ["minSdk", "minSdkVersion"],
    ["targetSdk", "targetSdkVersion"],
    ["compileSdk", "compileSdkVersion"],
  ] as [LevelName, string][]) {
    const left = android.levels.filter(
      (fact) =>
        fact.level === level && fact.owner === "app" && fact.value.kind === "unknown" && /^flutter(\.\w+)?$/.test(fact.value.lacks ?? ""),
    );
    const [first] = left;
    if (!first) continue;
    const match = source && new RegExp(`\\b${name}\\s*(?::\\s*Int\\s*)?=\\s*(\\d+)`).exec(source.text);
    const value: Value =
      source && match
        ? known(match[1] as string, source.place(match.index + match[0].length - (match[1] as string).length))
        : unknown("left to Flutter's default, but android/local.properties points to no Flutter SDK on this machine", first.value.place);
    android.effective[level] = value;
    android.levels = android.levels.filter((fact) => !left.includes(fact));
    // Without the SDK the highest default that a release has had is taken: only what is above it is certainly too low.
    android.defaults[level] = {
      value: value.kind === "known" || level !== "minSdk" ? value : known(HIGHEST_FLUTTER_MIN_SDK, first.value.place),
      from: "Flutter",
    };
    android.leftTo = { ...android.leftTo, [level]: first.value.place };
  }
}

/**
 * A flavour is built on iOS by the scheme of its name and the configuration `Release-NAME`. Only where the Xcode project has some of them:
 * an app may have flavours on Android alone. Source: docs.flutter.dev, "Set up Flutter flavors for iOS and macOS".
 */
function noteFlavors(project: ProjectFiles, app: FactSink): void {
  const { android, ios } = app;
  if (!android || !ios) return;
  const flavors = new Map(
    android.module.settings.flatMap(({ block, at: place }) => {
      const flavor = /^flavor:([^.]+)$/.exec(block)?.[1];
      return flavor === undefined ? [] : [[flavor, place] as const];
    }),
  );
  const folder = parentOf(ios.projectFile);
  const schemes = project.tree
    .list(join(folder, "xcshareddata/xcschemes"))
    .flatMap(({ name }) => (name.endsWith(".xcscheme") ? name.replace(/\.xcscheme$/, "").toLowerCase() : []));
  const configurations = ios.target.configurations.map(({ name }) => name.toLowerCase());
  const has = (flavor: string): { scheme: boolean; configuration: boolean } => ({
    scheme: schemes.includes(flavor.toLowerCase()),
    configuration: configurations.some((name) => name === `release-${flavor.toLowerCase()}` || name === `release ${flavor.toLowerCase()}`),
  });
  const found = [...flavors].map(([flavor, place]) => ({ flavor, place, ...has(flavor) }));
  if (!found.some(({ scheme, configuration }) => scheme || configuration)) return;
  for (const { flavor, place, scheme, configuration } of found) {
    if (!configuration) app.flavorGap({ flavor, lacks: "configuration", at: place, project: ios.projectFile });
    // Schemes that nobody shares are on the machine of whoever made them.
    else if (!scheme && schemes.length > 0) app.flavorGap({ flavor, lacks: "scheme", at: place, project: ios.projectFile });
  }
}

/** A release build is shrunk unless the build script says otherwise. Source: docs.flutter.dev, "Build and release an Android app", "Shrink your code". */
function shrinkByDefault(app: FactSink): void {
  const { android } = app;
  if (!android) return;
  const file = android.module.buildFile;
  const states = android.module.settings.some(({ block, name }) => block === "buildType:release" && name === "minifyEnabled");
  if (file === undefined || states) return;
  app.revise("shrink", (facts) =>
    facts.map((fact) => (fact.variant === "release" ? { ...fact, enabled: known("true", startOf(file)) } : fact)),
  );
}

/** An address without its escapes; one that is written wrongly stays as it is. */
function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
