import path from "node:path";
import type { PluginGap } from "../../../model/app.js";
import type { Dependency, LockFact, SideName } from "../../../model/facts.js";
import { PUBSPEC_KEYS } from "../../../knowledge/known-names.js";
import { isInstalled, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, textOf, type Value } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, itemsOf, keyPlace, placeOf, textAt, valueAt, type Data } from "../../../syntax/data.js";
import { gitReference } from "../../../versions/git-reference.js";
import { ancestors } from "../../packages/packages.js";
import { noHelpers } from "../../platforms/ios/ruby-host.js";
import { readSwiftManifest } from "../../platforms/ios/swift-manifest.js";
import type { ProjectFiles } from "../../project-files.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import { noteSwiftModules } from "../../platforms/ios/own-pods.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";

/** A declaration of a section: what is said, and where the name stands. */
type Entry = ReturnType<typeof entriesOf>[number][1];

/** Packages of the framework and of the language's own team. Source: pub.dev publishers dart.dev, tools.dart.dev and the Flutter SDK itself. */
const PLATFORM =
  /^(flutter|flutter_test|flutter_driver|flutter_localizations|flutter_web_plugins|integration_test|sky_engine|flutter_lints|lints|cupertino_icons|meta|collection|async|path|test|build_runner|intl|material_color_utilities|vector_math|characters)$/;

/** The folder of the Dart code: the app's, or the module's where native apps take one in. */
export function dartFolder({ shared, path: own }: DetectedApp): string {
  return shared ?? own;
}

interface Located {
  folder: string;
  root: Data;
}

/** A package that declares others: the app's own, or one of the tree that the app takes in. */
interface Owner extends Located {
  name: string;
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

/** What the lock says of one package, and where it stands. */
interface Locked {
  data: Data | undefined;
  place: Place | undefined;
}

/** The packages of an app, from what its pubspec declares, what the lock and the overrides say of them, and where they lie. */
export function readPackages(discovery: Discovery, detected: DetectedApp, app: FactSink, root: Data): void {
  new PubPackages(discovery, detected, app, root).read();
}

class PubPackages {
  private readonly project: ProjectFiles;
  private readonly folder: string;
  /** The folder with the lock. */
  private readonly home: string | undefined;
  private readonly locked: Data | undefined;
  private readonly overridesFile: string | undefined;
  private readonly overrides: Data | undefined;
  private readonly members: ReturnType<typeof workspaceMembers>;
  private readonly folders: Map<string, string>;
  private readonly lockFact: LockFact;
  /** Places of packages whose folder is not here. */
  private readonly missing: Place[] = [];
  private readonly taken = new Set<string>();
  private readonly plugins = new Set<string>();
  private readonly inTree: { name: string; root: Data }[] = [];
  private readonly own: Owner;

  constructor(
    discovery: Discovery,
    private readonly detected: DetectedApp,
    private readonly app: FactSink,
    private readonly root: Data,
  ) {
    const { project } = discovery;
    this.project = project;
    this.folder = dartFolder(detected);
    this.own = { name: textAt(root, "name") ?? detected.name, folder: this.folder, root };
    const home = (this.home = workspaceOf(project, this.folder, root));
    const lockFile = home === undefined ? undefined : join(home, "pubspec.lock");
    const lock = lockFile === undefined ? undefined : project.yaml(lockFile)?.root;
    this.locked = at(lock, "packages");
    this.overridesFile = [this.folder, home ?? this.folder]
      .map((folder) => join(folder, "pubspec_overrides.yaml"))
      .find((candidate) => project.tree.isFile(candidate));
    const beside = this.overridesFile === undefined ? undefined : at(project.yaml(this.overridesFile)?.root, "dependency_overrides");
    // The file beside wins as a whole. Source: dart.dev, "The pubspec file", "Dependency overrides".
    this.overrides = beside ?? at(root, "dependency_overrides");
    this.members = workspaceMembers(project, home);
    this.folders = this.findFolders();
    const fetched = [...entriesOf(at(root, "dependencies"))].some(([, { value }]) => !at(value, "sdk") && !at(value, "path"));
    this.lockFact = {
      manager: "pub",
      side: "shared",
      manifest: { file: join(this.folder, "pubspec.yaml"), line: 1, column: 1 },
      lockName: "pubspec.lock",
      lock: lock ? lockFile : undefined,
      expected: discovery.versioned && home !== undefined,
      needed: fetched && home !== undefined,
      installedApart: [],
      declaredApart: [],
    };
  }

  /** Where packages lie: as the last fetch wrote it down, as members of the workspace, and by the paths that the lock has. */
  private findFolders(): Map<string, string> {
    const { project, home } = this;
    const folders = packageFolders(project, this.folder, home);
    for (const [name, { folder }] of this.members) folders.set(name, folder);
    for (const [name, { value }] of entriesOf(this.locked)) {
      const where = textAt(value, "source") === "path" ? textAt(value, "description", "path") : undefined;
      if (where !== undefined && home !== undefined && !folders.has(name)) folders.set(name, fromRoot(project, home, where));
    }
    return folders;
  }

  read(): void {
    const { project, app, home, root, members } = this;
    noteLostMembers(project, app, home);
    noteUnsaidMembers(project, app, members);
    noteUnfetchable(app, this.folder, root);
    for (const [name] of members) app.lockedName(`pub ${name}`);
    for (const [name] of entriesOf(this.locked)) app.lockedName(`pub ${name}`);
    for (const section of ["dependencies", "dev_dependencies"] as const)
      for (const [name, entry] of entriesOf(at(root, section))) this.readDeclared(this.own, section, name, entry);
    checkHalves(app, this.inTree, new Set(entriesOf(at(root, "dependencies")).map(([name]) => name)));
    app.lock(this.lockFact);
    this.tellMissing();
  }

  private tellMissing(): void {
    const { missing, folders } = this;
    if (missing.length === 0) return;
    this.app.blindSpot({
      side: "shared",
      what:
        missing.length === 1 ? "what one package asks for" : `what ${missing.length} packages ask for, and which of them have native code`,
      why: folders.size === 0 ? reason("no-package-configuration") : reason("folders-elsewhere"),
      places: missing.slice(0, 1),
    });
  }

  private readDeclared(owner: Owner, section: "dependencies" | "dev_dependencies", name: string, entry: Entry): void {
    const { project, app, folders, detected } = this;
    const value = at(this.overrides, name) ?? entry.value;
    if (at(value, "sdk")) return;
    const located = locate(project, owner.folder, name, value, folders);
    const sides = sidesOf(app, located, folders);
    const place = entry.value.source.place(entry.start);
    if (!located && !PLATFORM.test(name) && section === "dependencies") this.missing.push(place);
    const locked: Locked = { data: at(this.locked, name), place: keyPlace(this.locked, name) };
    for (const side of sides.length > 0 ? sides : (["shared"] as SideName[])) {
      const dependency: Dependency = {
        ...this.dependencyOf(owner, section, name, value, locked),
        side,
        native: { android: sides.includes("android"), ios: sides.includes("ios") },
        nativeUnknown: located === undefined,
        places: [place],
      };
      const before = at(this.overrides, name) && declaration(entry.value);
      if (before?.kind === "known" && dependency.declared?.kind === "known") dependency.overridden = before;
      app.dependency(dependency);
    }
    this.noteReference(name, value, locked, place);
    this.notePath(owner, value);
    if (!located || section !== "dependencies") return;
    const isFirst = !this.plugins.has(name);
    this.plugins.add(name);
    if (isFirst) noteOwnKeys(app, located);
    if (isFirst && at(located.root, "flutter", "plugin", "platforms")) readPlugin(project, detected, app, name, located, place, folders);
    this.takeIn({ ...located, name });
  }

  /** What is said of a package wherever it brings code. */
  private dependencyOf(
    owner: Owner,
    section: "dependencies" | "dev_dependencies",
    name: string,
    value: Data,
    { data, place }: Locked,
  ): Omit<Dependency, "side" | "places"> {
    const git = at(value, "git");
    const local = at(value, "path");
    const member = local || git ? undefined : this.members.get(name);
    const version = at(data, "version");
    const lockedAt = version ? placeOf(version) : (place ?? member?.version?.place);
    return {
      sdk: sdkIdOf("pub", name),
      ecosystem: "pub",
      name,
      // A member of the workspace is in no lock: its own file says which version it is.
      route: git ? "git" : (local ?? member) ? "path" : "registry",
      declared: declaration(value),
      locked: member?.version ? textOf(member.version) : textAt(data, "version"),
      ...(lockedAt ? { lockedAt } : {}),
      scope: section,
      in: owner.name,
      direct: true,
      test: section === "dev_dependencies",
      platform: PLATFORM.test(name),
      conditional: false,
      ...(member ? { fixedBy: "the workspace" } : {}),
      ...(git ? { reference: gitReference(textAt(git, "ref"), textAt(git, "url") ?? textAt(git) ?? "") } : {}),
      ...(local ? { reference: { kind: "path" as const, text: textAt(value, "path") ?? "" }, fixedBy: "a path" } : {}),
    };
  }

  /** A Git reference that is not the one which the lock was made for. */
  private noteReference(name: string, value: Data, { data, place: lockPlace }: Locked, place: Place): void {
    const git = at(value, "git");
    const ref = textAt(git, "ref");
    const recorded = textAt(data, "description", "ref");
    const { declaredApart } = this.lockFact;
    if (!git || recorded === undefined || recorded === (ref ?? "HEAD") || declaredApart.some((apart) => apart.name === name)) return;
    declaredApart.push({ name, declared: ref ?? "the default branch", recorded, places: [place, lockPlace ?? place] });
  }

  private notePath(owner: Owner, value: Data): void {
    const local = valueAt(value, "path");
    if (local?.kind !== "known") return;
    const absolute = path.posix.isAbsolute(local.text) || /^[A-Za-z]:|^~/.test(local.text);
    const { overridesFile, project } = this;
    const from = overridesFile !== undefined && local.place.file === overridesFile ? parentOf(overridesFile) : owner.folder;
    const resolved = absolute ? undefined : join(from, local.text);
    this.app.pathFollowed({
      text: local.text,
      resolved,
      kind: "package",
      exists: resolved === undefined ? undefined : project.tree.isFolder(resolved),
      side: "shared",
      generated: false,
      at: local.place,
    });
  }

  /** What packages of the tree refer to is in the app too, and so are the plugins among it. */
  private takeIn(owner: Owner): void {
    const { project, app } = this;
    const { name, folder, root } = owner;
    if (this.taken.has(name) || folder.startsWith("..") || isInstalledPackage(folder)) return;
    this.taken.add(name);
    const only = sideImplemented(root);
    app.sourceFolder(
      { folder: join(folder, "lib"), side: "shared", package: name, ...(only ? { only } : {}) },
      { folder: join(folder, "android"), side: "android" },
      { folder: join(folder, "ios"), side: "ios" },
      { folder: join(folder, "darwin"), side: "ios" },
    );
    noteUnfetchable(app, owner.folder, owner.root);
    checkPlugin(project, app, name, owner);
    this.inTree.push({ name, root });
    for (const [other, entry] of entriesOf(at(root, "dependencies"))) this.readDeclared(owner, "dependencies", other, entry);
  }
}

/**
 * The one phone on which the code of a package runs: it implements a plugin of another package for that phone alone, and the framework
 * registers it there. Source: docs.flutter.dev, "Developing packages and plugins", "Federated plugins".
 */
function sideImplemented(root: Data): "android" | "ios" | undefined {
  const plugin = at(root, "flutter", "plugin");
  if (textAt(plugin, "implements") === undefined) return undefined;
  const sides = (["android", "ios"] as const).filter((side) => at(plugin, "platforms", side) !== undefined);
  return sides.length === 1 ? sides[0] : undefined;
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

/** Members that do not say themselves that they are: fetching stops. Source: dart.dev, "Pub workspaces" (`resolution: workspace`). */
function noteUnsaidMembers(project: ProjectFiles, app: FactSink, members: ReturnType<typeof workspaceMembers>): void {
  for (const [name, { folder }] of members) {
    const root = project.yaml(join(folder, "pubspec.yaml"))?.root;
    const said = at(root, "resolution");
    if (root && textAt(said) !== "workspace")
      app.unfitValue({
        what: "workspace member",
        value: name,
        side: "shared",
        at: said ? placeOf(said) : startOf(join(folder, "pubspec.yaml")),
      });
  }
}

const PLUGIN_CODE = { android: /\.(kt|java)$/, ios: /\.(swift|mm?|h)$/ } as const;

/**
 * What a plugin's Swift package asks for, and whether it has the product by which the framework takes it in: the plugin's name with hyphens.
 * Source: docs.flutter.dev, "Swift Package Manager for plugin authors".
 */
function noteSwiftPackage(project: ProjectFiles, app: FactSink, { folder, by, sdk }: { folder: string; by: string; sdk: string }): void {
  const file = join(folder, "Package.swift");
  const manifest = project.tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
  if (!manifest) return;
  if (manifest.iosTarget) app.required({ level: "iosTarget", value: manifest.iosTarget, by, sdk, from: "Package.swift" });
  if (folder.startsWith("..") || isInstalledPackage(folder)) return;
  noteSwiftModules(project, app, folder);
  const product = by.replaceAll("_", "-");
  if (manifest.products.length > 0 && !manifest.open && !manifest.products.includes(product))
    app.pluginGap({ package: by, side: "ios", type: product, what: "product of Swift", at: startOf(file) });
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

/** Code of the native side that is a plugin. */
const IS_PLUGIN = /:\s*(?:\w+,\s*)*FlutterPlugin\b|<FlutterPlugin>|implements\s[^{]*\bFlutterPlugin\b/;

/** The section of a plugin from before there were platforms: it names one class for both. */
const isOlder = (section: Data | undefined): boolean => ["androidPackage", "iosPrefix", "pluginClass"].some((key) => at(section, key));

/** A plugin of the tree: whether its code has the class that it names, and whether it names every side that it has code for. */
function checkPlugin(project: ProjectFiles, app: FactSink, name: string, located: Located): void {
  const section = at(located.root, "flutter", "plugin");
  const platforms = at(section, "platforms");
  if (!section || (!platforms && isOlder(section))) return;
  for (const side of ["android", "ios"] as const) {
    const platform = at(platforms, side);
    if (!app[side]) continue;
    if (platform && !isSection(platform, side)) app.unfitValue({ what: "section of a plugin", value: name, side, at: placeOf(platform) });
    checkNames(project, app, name, side, located);
    checkCode(project, app, { name, side, folder: located.folder, platform, section: platforms ?? section });
  }
}

interface PluginSide {
  name: string;
  side: "android" | "ios";
  folder: string;
  platform: Data | undefined;
  /** What is stated of all sides. */
  section: Data;
}

/** The native code of a plugin for a side, against the class that it names. */
function checkCode(project: ProjectFiles, app: FactSink, { name, side, folder, platform, section }: PluginSide): void {
  const native = side === "ios" && project.tree.isFolder(join(folder, "darwin")) ? "darwin" : side;
  const sources = project.tree.isFolder(join(folder, native)) ? filesBelow(project, join(folder, native), PLUGIN_CODE[side]) : [];
  const texts = sources.flatMap((file) => project.text(file)?.text ?? []);
  const named = at(platform, "pluginClass");
  const type = textAt(named);
  if (type !== undefined && type !== "none" && texts.length > 0) {
    if (!declares(texts, type) && named) app.pluginGap({ package: name, side, type, at: placeOf(named) });
    const fault = named && faultOfClass(texts, type, side);
    if (fault) app.pluginGap({ package: name, side, type, what: fault, at: placeOf(named) });
  } else if (!named && !at(platform, "ffiPlugin") && texts.some((text) => IS_PLUGIN.test(text)))
    app.pluginGap({ package: name, side, type: undefined, at: placeOf(platform ?? section) });
}

/** Whether what a plugin states of a side is enough for the framework. Source: docs.flutter.dev, "Developing packages and plugins". */
function isSection(platform: Data, side: "android" | "ios"): boolean {
  const has = (key: string): boolean => at(platform, key) !== undefined;
  if (has("pluginClass")) return side === "ios" || has("package");
  return has("dartPluginClass") || has("ffiPlugin") || has("default_package");
}

/** What a package is not fetched without. Source: dart.dev, "The pubspec file" (name, environment: required). */
function noteUnfetchable(app: FactSink, folder: string, root: Data): void {
  const file = join(folder, "pubspec.yaml");
  if (textAt(root, "name") === undefined)
    app.unfitValue({ what: "package without a name", value: file, side: "shared", at: startOf(file) });
  if (textAt(root, "environment", "sdk") === undefined)
    app.unfitValue({ what: "package without a constraint", value: file, side: "shared", at: startOf(file) });
}

/**
 * The names by which the framework's generated registrants take a plugin in: a class of Dart, the package of an Android class, the package
 * that has a side. Source: docs.flutter.dev, "Developing packages and plugins" (dartPluginClass, default_package).
 */
function checkNames(project: ProjectFiles, app: FactSink, name: string, side: "android" | "ios", { folder, root }: Located): void {
  const platform = at(root, "flutter", "plugin", "platforms", side);
  const tell = (what: PluginGap["what"], named: Data): void =>
    app.pluginGap({ package: name, side, type: textAt(named) ?? "", what, at: placeOf(named) });
  const textsOf = (below: string, ending: RegExp): string[] =>
    filesBelow(project, join(folder, below), ending).flatMap((file) => project.text(file)?.text ?? []);
  const other = at(platform, "default_package");
  if (other && !at(root, "dependencies", textAt(other) ?? "")) tell("package of a side", other);
  const dart = at(platform, "dartPluginClass");
  const type = textAt(dart);
  const library = dart && type !== undefined ? textsOf("lib", /\.dart$/) : [];
  if (dart && type !== undefined && type !== "none" && library.length > 0 && !declares(library, type)) tell("class of Dart", dart);
  const native = at(platform, "package");
  const wanted = textAt(native);
  const nativeClass = textAt(platform, "pluginClass");
  if (side !== "android" || !native || wanted === undefined || nativeClass === undefined) return;
  const declaring = textsOf("android", PLUGIN_CODE.android).filter((text) => declares([text], nativeClass));
  const packages = declaring.flatMap((text) => /^\s*package\s+([\w.]+)/m.exec(text)?.[1] ?? []);
  if (packages.length > 0 && !packages.includes(wanted)) tell("package of a class", native);
}

/**
 * What keeps the framework's registrant, which is compiled outside of the plugin, from taking a class: nothing of what it states makes it a
 * plugin, or it is not public. Source: docs.flutter.dev, "Developing packages and plugins" (FlutterPlugin).
 */
function faultOfClass(texts: readonly string[], type: string, side: "android" | "ios"): PluginGap["what"] | undefined {
  const name = type.replace(/[^\w]/g, "");
  const head = new RegExp(`^[ \\t]*((?:[\\w@()]+[ \\t]+)*)class[ \\t]+${name}\\b([^{]*)\\{`, "m");
  const [, words, stated] = texts.map((text) => head.exec(withoutComments(text))).find((match) => match !== null) ?? [];
  if (words === undefined || stated === undefined) return undefined;
  if (side === "ios" && !/\b(?:public|open)\b/.test(words)) return "closed class";
  const extended = new RegExp(`\\bextension\\s+${name}\\s*:[^{]*\\bFlutterPlugin\\b`);
  // What another class does is not looked for.
  const inherits =
    side === "ios" ? /:\s*(?!NSObject\b)[A-Z]\w*/.test(stated) : /\bextends\b|:[^{]*\w\s*\(/.test(stated.replace(/^\s*\([^)]*\)/, ""));
  return /\bFlutterPlugin\b/.test(stated) || inherits || texts.some((text) => extended.test(text)) ? undefined : "no plugin";
}

function declares(texts: readonly string[], type: string): boolean {
  const declaration = new RegExp(`(?:class|object|@interface|@implementation)\\s+${type.replace(/[^\w]/g, "")}\\b`);
  return texts.some((text) => declaration.test(text));
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
export function fromRoot(project: ProjectFiles, base: string, where: string): string {
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

/** Keys of a package of the repository; what is fetched cannot be mended. */
function noteOwnKeys(app: FactSink, { folder, root }: Located): void {
  if (!folder.startsWith("..") && !isInstalled(`${folder}/`) && !folder.includes(".pub-cache")) noteMisspeltKeys(app, root, PUBSPEC_KEYS);
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
    noteSwiftPackage(project, app, { folder: join(folder, native, owner), by: owner, sdk: sdkIdOf("pub", name) });
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

/** An address without its escapes; one that is written wrongly stays as it is. */
function decoded(uri: string): string {
  try {
    return decodeURIComponent(uri);
  } catch {
    return uri;
  }
}
