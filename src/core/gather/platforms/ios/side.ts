import { distance } from "fastest-levenshtein";
import { samePlace, startOf, type Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { ofRelease, type IosSide } from "../../../model/app.js";
import { isWithin, baseName, isAbsolutePath, isInstalled, join, parentOf } from "../../../model/paths.js";
import { filesMatching } from "../../globbing.js";
import { ignoredByGit, isKeptOut } from "../../git-ignored.js";
import type { ProjectFiles } from "../../project-files.js";
import type { DependencyDraft, FactSink, IosReading } from "../../sink.js";
import type { Dependency, LevelFact, LockFact, Route } from "../../../model/facts.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { nearest } from "../../../model/suggest.js";
import { known, textOf, unknown, type Value, type KnownValue } from "../../../model/value.js";
import { PLATFORM_PACKAGES } from "../../../knowledge/platform-packages.js";
import { at, entriesOf, valueAt } from "../../../syntax/data.js";
import { versionOfFramework } from "./binary.js";
import { podfileChecksums, readCartfile, readPodLock, type PodLock } from "./locks.js";
import { readPodfile, type Podfile } from "./podfile.js";
import type { HelperScripts } from "./ruby-host.js";
import { noteOwnPod } from "./own-pods.js";
import { noteLoadedScripts } from "./pod-scripts.js";
import { readPodspec } from "./podspec.js";
import { readSchemes } from "./schemes.js";
import { projectsTogether } from "./workspaces.js";
import { readSwiftPackages } from "./swift-packages.js";
import type { IosConfiguration, IosTarget, XcodeProject } from "./xcode-project.js";

export const APPLICATION = "com.apple.product-type.application";

export interface IosContext {
  project: ProjectFiles;
  xcode: XcodeProject;
  helpers: HelperScripts;
  /** Whether the project lies under version control: a lock file is then expected. */
  versioned: boolean;
}

export function applicationTargets(xcode: XcodeProject): IosTarget[] {
  return xcode.targets.filter((target) => target.type === APPLICATION && !isForOtherSystem(target));
}

/** A target for the Mac, the watch or the TV is no iOS app. */
function isForOtherSystem(target: IosTarget): boolean {
  const [configuration] = target.configurations;
  const root = configuration?.settings.value("SDKROOT");
  const platforms = configuration?.settings.value("SUPPORTED_PLATFORMS");
  if (platforms?.kind === "known" && platforms.text.trim() !== "") return !/iphoneos/.test(platforms.text);
  return root?.kind === "known" && /^(macosx|watchos|appletvos|xros)$/.test(root.text);
}

export function readIosSide(context: IosContext, targets: IosTarget[]): IosReading {
  const { xcode } = context;
  const projectName = baseName(xcode.path).replace(/\.xcodeproj$/, "");
  const target = targets.find(({ name }) => name === projectName) ?? (targets[0] as IosTarget);
  const side: IosReading = {
    side: "ios",
    folder: xcode.folder,
    projectFile: xcode.file,
    projects: projectsTogether(context.project, xcode),
    idsApart: idsApart(context, target),
    targets,
    allTargets: context.xcode.targets,
    target,
    ids: [],
    levels: [],
    effective: {},
    defaults: {},
    usesPods: false,
  };
  for (const item of [target, ...targets.filter((other) => other !== target)]) readTarget(context, side, item, targets.length > 1);
  const shipped = configurationOf(target);
  for (const [level, name] of [
    ["iosTarget", "IPHONEOS_DEPLOYMENT_TARGET"],
    ["swift", "SWIFT_VERSION"],
  ] as const) {
    const value = shipped?.settings.value(name);
    if (value) side.effective[level] = value;
  }
  return side;
}

export function configurationOf(target: IosTarget): IosConfiguration | undefined {
  return (
    target.configurations.find(({ name }) => name === "Release") ??
    ofRelease(target.configurations.map((configuration) => ({ configuration, variant: configuration.name })))?.configuration
  );
}

function readTarget(context: IosContext, side: IosReading, target: IosTarget, several: boolean): void {
  for (const configuration of target.configurations) {
    const variant = several ? `${target.name} ${configuration.name}` : configuration.name;
    const id = bundleId(context, configuration);
    if (id) side.ids.push({ value: id, variant, at: id.place });
    for (const [level, name] of [
      ["iosTarget", "IPHONEOS_DEPLOYMENT_TARGET"],
      ["swift", "SWIFT_VERSION"],
    ] as const) {
      const statements = configuration.settings.statements(name);
      const [strongest] = statements;
      if (strongest) side.levels.push({ level, value: strongest.value, owner: "app", of: target.name, variant, at: strongest.value.place });
      if (level !== "iosTarget") continue;
      for (const statement of statements.slice(1)) {
        if (statement.from !== "project") continue;
        const known_ = side.levels.some(
          (fact) => fact.owner === "project" && fact.at.line === statement.value.place.line && fact.at.file === statement.value.place.file,
        );
        if (!known_)
          side.levels.push({
            level,
            value: statement.value,
            owner: "project",
            of: "project",
            variant: configuration.name,
            at: statement.value.place,
          });
      }
    }
  }
}

function bundleId(context: IosContext, configuration: IosConfiguration): Value | undefined {
  const value = configuration.settings.value("PRODUCT_BUNDLE_IDENTIFIER");
  const plist = infoPlist(context, configuration);
  const written = plist && valueAt(plist, "CFBundleIdentifier");
  if (written?.kind === "known" && !written.text.includes("$(") && !written.text.includes("${")) return written;
  if (value) return value;
  return written?.kind === "known" ? unknown(reason("list-names-unset-setting"), written.place) : undefined;
}

/** Bundle ids that a property list writes out, and that are not those of the build. */
function idsApart(context: IosContext, { configurations }: IosTarget): IosSide["idsApart"] {
  const found = new Map<string, IosSide["idsApart"][number]>();
  for (const configuration of configurations) {
    const setting = configuration.settings.value("PRODUCT_BUNDLE_IDENTIFIER");
    const plist = infoPlist(context, configuration);
    const written = plist && valueAt(plist, "CFBundleIdentifier");
    if (setting?.kind !== "known" || written?.kind !== "known" || /[$&]/.test(written.text + setting.text) || written.text === setting.text)
      continue;
    found.set(written.text, { written, setting });
  }
  return [...found.values()];
}

/** The property list of a configuration. */
export function infoPlist(context: IosContext, configuration: IosConfiguration) {
  const setting = configuration.settings.value("INFOPLIST_FILE");
  if (setting?.kind !== "known" || setting.text === "") return undefined;
  const file = join(context.xcode.folder, setting.text.replaceAll('"', ""));
  return context.project.plist(file)?.root;
}

/** Pods, Swift packages, Carthage entries and binaries of the iOS side. */
export function iosDependencies(context: IosContext, app: FactSink, side: IosReading): void {
  const podfile = findPodfile(context, side);
  if (podfile) {
    readPods(context, app, side, podfile);
    noteLoadedScripts(context.project, app, podfile.file);
  }
  noteSourceFiles(context, app, side);
  readSchemes(context, app, side);
  readSwiftPackages(context, app, side);
  readCarthage(context, app, side);
  readBinaries(context, app, side);
}

function findPodfile(context: IosContext, side: IosReading): Podfile | undefined {
  for (const folder of [side.folder, parentOf(side.folder)]) {
    const file = join(folder, "Podfile");
    if (!context.project.tree.isFile(file)) continue;
    const podfile = readPodfile(context.project, file, context.helpers);
    if (!podfile) return undefined;
    if (
      folder === side.folder ||
      podfile.projects.some((path) => join(folder, path.endsWith(".xcodeproj") ? path : `${path}.xcodeproj`) === context.xcode.path)
    )
      return podfile;
  }
  return undefined;
}

function readPods(context: IosContext, app: FactSink, side: IosReading, podfile: Podfile): void {
  const { project } = context;
  const folder = parentOf(podfile.file);
  const lock = readPodLock(project, join(folder, "Podfile.lock"));
  const installed = readPodLock(project, join(folder, "Pods/Manifest.lock"));
  side.usesPods = podfile.pods.length > 0 || podfile.helpers.length > 0;
  side.levels.push(...podLevels(podfile, side.levels));
  for (const { url, at } of podfile.sources) app.repository({ kind: "url", url, for: "packages", groups: [], module: "Podfile", at });
  side.pods = {
    file: podfile.file,
    helpers: podfile.helpers.map(({ name }) => name),
    declared: new Map(podfile.pods.map((pod) => [pod.name, pod.at])),
    locked: lock && new Map([...lock.pods].map(([name, { version, at }]) => [name, { version, at }])),
    lockFile: join(folder, "Podfile.lock"),
    usesFrameworks: podfile.usesFrameworks,
    targets: podfile.targets.map(({ name, parent }) => ({ name, parent })),
  };
  for (const { name, given, at } of podfile.calls)
    for (const value of given.length === 0 ? [undefined] : given) app.entry({ kind: "podfileCall", side: "ios", name, value, at });
  noteLostTargets(context, app, podfile);
  for (const { what, why, at } of podfile.unread) app.blindSpot({ side: "ios", what, why, places: [at] });
  for (const { name, right, at } of podfile.misspelt) app.misspelling({ what: "command", name, right, side: "ios", at });
  for (const pod of podfile.pods) readDeclaredPod(context, app, folder, pod, lock);
  const declared = new Set(podfile.pods.map(({ name }) => name));
  if (lock) for (const dependency of lockedPods(lock, declared, side.target.name)) app.dependency(dependency);
  readPodLockState(context, app, podfile, lock, installed);
  readInstalledSpecs(context, app, folder, declared);
}

/** The levels that a Podfile states, and those that its hooks set. */
function podLevels({ targets, hookTargets }: Podfile, known: readonly LevelFact[]): LevelFact[] {
  const found: LevelFact[] = [];
  const isKnown = ({ file, line }: Place): boolean =>
    [...known, ...found].some(({ owner, at }) => owner === "podfile" && at.line === line && at.file === file);
  for (const { name, abstract, platform } of targets) {
    if (abstract && name !== "" && targets.some((other) => other.parent === name)) continue;
    if (!platform || /Tests?$/.test(name) || isKnown(platform.place)) continue;
    found.push({ level: "iosTarget", value: platform, owner: "podfile", of: "Podfile", at: platform.place });
  }
  const ofHooks = hookTargets.map((value): LevelFact => ({
    level: "iosTarget",
    value,
    owner: "pods",
    of: "Podfile's hook",
    at: value.place,
  }));
  return [...found, ...ofHooks];
}

/** Options that say where a pod comes from, and the route that each means. */
const POD_ROUTES = [
  ["git", "git"],
  ["path", "path"],
  ["podspec", "path"],
  ["http", "binary"],
] as const;

function readDeclaredPod(
  context: IosContext,
  app: FactSink,
  folder: string,
  pod: Podfile["pods"][number],
  lock: PodLock | undefined,
): void {
  const entry = lock?.pods.get(pod.name) ?? [...(lock?.pods.values() ?? [])].find(({ name }) => name.startsWith(`${pod.name}/`));
  const dependency: Dependency = {
    sdk: sdkIdOf("cocoapods", pod.name),
    side: "ios",
    ecosystem: "cocoapods",
    name: pod.name,
    route: "registry",
    declared: pod.requirement,
    locked: entry?.version,
    lockedAt: entry?.at,
    scope: "pod",
    in: pod.target,
    direct: true,
    test: /Tests?$/.test(pod.target),
    platform: PLATFORM_PACKAGES.cocoapods.test(pod.name.split("/")[0] as string),
    conditional: pod.conditional,
    places: [pod.at],
  };
  const builds = textOf(pod.options.get("configurations") ?? pod.options.get("configuration"));
  if (builds !== undefined) dependency.variant = builds;
  for (const [kind, route] of POD_ROUTES) {
    const value = pod.options.get(kind);
    if (!value) continue;
    dependency.route = route;
    if (route === "git") dependency.reference = podReference(pod, value);
    else if (value.kind === "known") {
      dependency.reference = { kind: "path", text: value.text };
      const owner = packageOfPath(value.text);
      if (owner) dependency.broughtBy = owner;
      if (kind === "path") addLocalPod(context, app, folder, pod, value);
    }
  }
  app.dependency(dependency);
}

function podReference({ options }: Podfile["pods"][number], url: Value): NonNullable<Dependency["reference"]> {
  const ref = (["commit", "tag", "branch"] as const).find((name) => options.has(name));
  const text = textOf(ref && options.get(ref)) ?? textOf(url) ?? "";
  return { kind: ref === "commit" ? "revision" : (ref ?? "none"), text };
}

/** Pods that are locked and that the Podfile does not declare itself. */
function lockedPods({ pods, external: sources }: PodLock, declared: ReadonlySet<string>, target: string): DependencyDraft[] {
  return [...pods.values()].flatMap(({ name, version, at }): DependencyDraft[] => {
    const [root] = name.split("/") as [string];
    if (declared.has(name) || declared.has(root) || (name.includes("/") && pods.has(root))) return [];
    const external = sources.get(root);
    const owner = external ? packageOfPath(external.text) : undefined;
    return [
      {
        ...(owner ? { broughtBy: owner } : {}),
        side: "ios",
        ecosystem: "cocoapods",
        name,
        route: external ? (external.kind === "git" ? "git" : "path") : "registry",
        locked: version,
        lockedAt: at,
        scope: "pod",
        in: target,
        direct: false,
        platform: PLATFORM_PACKAGES.cocoapods.test(root) || /node_modules\/react-native(\/|$)/.test(external?.text ?? ""),
        places: [at],
      },
    ];
  });
}

/**
 * The package of shared code whose folder a pod's path leads into. Sources: the React Native command line (pods by
 * `:path => "../node_modules/…"`), Flutter's podhelper.rb (`.symlinks/plugins/…`), Capacitor's Podfile.
 */
function packageOfPath(path: string): Dependency["broughtBy"] {
  const plugin = /(?:^|\/)\.symlinks\/plugins\/([^/]+)/.exec(path)?.[1];
  if (plugin !== undefined) return { ecosystem: "pub", name: plugin };
  const npm = /.*(?:^|\/)node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(path)?.[1];
  return npm === undefined ? undefined : { ecosystem: "npm", name: npm };
}

/** A pod by path brings its specification, and with it a level. */
function addLocalPod(
  context: IosContext,
  app: FactSink,
  folder: string,
  { name, conditional }: Podfile["pods"][number],
  { text: path, place: at }: KnownValue,
): void {
  const absolute = /^([/~]|[A-Za-z]:)/.test(path);
  const resolved = absolute ? undefined : join(folder, path);
  const exists = resolved === undefined ? undefined : context.project.tree.isFolder(resolved) || context.project.tree.isFile(resolved);
  // What only some builds take in may be on their machines alone.
  if (exists !== false || !conditional)
    app.pathFollowed({ text: path, resolved, kind: "package", exists, side: "ios", generated: /node_modules|\.symlinks/.test(path), at });
  if (!exists || resolved === undefined) return;
  // Its code is the app's own; packages of shared code bring more than pods, and are taken in as such.
  if (app.kind === "native" && !isWithin(resolved, app.path) && !isInstalled(`${resolved}/`) && context.project.tree.isFolder(resolved))
    app.sourceFolder({ folder: resolved, side: "ios" });
  const [root = name] = name.split("/");
  const { tree } = context.project;
  const files = tree.isFile(resolved) ? [resolved] : [`${root}.podspec`, `${root}.podspec.json`].map((one) => join(resolved, one));
  const file = files.find((one) => tree.isFile(one));
  if (file !== undefined) {
    addSpecLevel(context, app, file, sdkIdOf("cocoapods", name));
    noteSpecFiles(context, app, file, root);
  } else if (tree.isFolder(resolved) && !isInstalled(`${resolved}/`) && !/\.symlinks|Flutter/.test(path))
    // Source: guides.cocoapods.org, "Using the files from a folder local to the machine" (a podspec of the pod's name).
    app.pathFollowed({
      text: `${root}.podspec`,
      resolved: join(resolved, `${root}.podspec`),
      kind: "file",
      exists: false,
      side: "ios",
      generated: false,
      at,
      ...orNear(tree.list(resolved).find((entry) => /\.podspec(\.json)?$/.test(entry.name))?.name),
    });
}

export function orNear(name: string | undefined): { near?: string } {
  return name === undefined ? {} : { near: name };
}

/** What the specification of a pod of the repository takes in and that is not there. Source: guides.cocoapods.org, "Podspec Syntax Reference". */
export function noteSpecFiles(
  { project, helpers }: Pick<IosContext, "project" | "helpers">,
  app: FactSink,
  file: string,
  pod: string,
): void {
  const spec = readPodspec(project, file, helpers);
  if (!spec || isInstalled(file) || spec.unread.length > 0) return;
  noteOwnPod(project, app, spec);
  const folder = parentOf(file);
  // What pub laid down is nobody's to mend.
  if (spec.lacking.length > 0 && !/(^|\/)(?:\.pub-cache|\.symlinks|ephemeral)\//.test(file))
    app.unfitValue({ what: "attribute of a pod", value: `${spec.name} ${spec.lacking.join(", ")}`, side: "ios", at: spec.at });
  const lost = (pattern: string): boolean => !/[$#]/.test(pattern) && filesMatching(project.tree, folder, pattern).length === 0;
  const tell = (text: string): void =>
    app.pathFollowed({
      text,
      resolved: join(folder, text),
      kind: "pattern",
      exists: false,
      side: "ios",
      generated: spec.prepares || /^build\//.test(text),
      at: spec.at,
    });
  for (const [, { sources, open }] of spec.parts) if (!open && sources.length > 0 && sources.every(lost)) tell(sources[0] as string);
  if (!spec.resourcesOpen) for (const pattern of spec.resources) if (lost(pattern)) tell(pattern);
  if (spec.name !== pod && file.endsWith(`${pod}.podspec`))
    app.pathFollowed({
      text: pod,
      resolved: file,
      kind: "package",
      exists: false,
      side: "ios",
      generated: false,
      at: spec.at,
      near: spec.name,
    });
  for (const { name, requirement, conditional, at } of spec.dependencies) {
    if (requirement === undefined || conditional) continue;
    app.podRequirement({ name, requirement, by: pod, at });
  }
}

export function addSpecLevel(
  context: Pick<IosContext, "project" | "helpers">,
  app: FactSink,
  file: string,
  sdk: string,
  by?: string,
): void {
  const spec = readPodspec(context.project, file, context.helpers);
  const name = by ?? spec?.name ?? "";
  for (const { what, why, at } of spec?.unread ?? [])
    if (!app.blindSpots.some(({ places }) => places.some((place) => samePlace(place, at))))
      app.blindSpot({ side: "ios", what: `${what} in the specification of ${name}`, why, places: [at] });
  if (!spec?.iosTarget) return;
  if (
    app.requiredLevels.some(
      (required) => required.by === name && required.level === "iosTarget" && required.value.place.file === spec.iosTarget?.place.file,
    )
  )
    return;
  app.required({ level: "iosTarget", value: spec.iosTarget, by: name, sdk, from: "podspec" });
}

/** CocoaPods keeps the specifications of local pods as JSON once they are installed. */
function readInstalledSpecs(context: IosContext, app: FactSink, folder: string, declared: Set<string>): void {
  const specs = join(folder, "Pods/Local Podspecs");
  for (const entry of context.project.tree.list(specs)) {
    if (!entry.name.endsWith(".podspec.json")) continue;
    const name = entry.name.replace(/\.podspec\.json$/, "");
    if (PLATFORM_PACKAGES.cocoapods.test(name) || declared.has(name)) continue;
    addSpecLevel(context, app, join(specs, entry.name), sdkIdOf("cocoapods", name));
  }
}

function readPodLockState(
  context: IosContext,
  app: FactSink,
  podfile: Podfile,
  lock: PodLock | undefined,
  installed: PodLock | undefined,
): void {
  const folder = parentOf(podfile.file);
  const lockFile = join(folder, "Podfile.lock");
  const needed = podfile.pods.some((pod) => !pod.options.has("path")) || podfile.helpers.length > 0;
  const fact: LockFact = {
    manager: "cocoapods",
    side: "ios",
    manifest: podfile.at,
    lockName: "Podfile.lock",
    lock: lock ? lockFile : undefined,
    expected: installed !== undefined || context.versioned,
    needed,
    installedApart: [],
    declaredApart: [],
  };
  if (lock) fact.declaredApart.push(...otherSources(podfile, lock));
  if (lock?.checksum) {
    const raw = context.project.tree.read(podfile.file);
    const text = raw.ok ? Buffer.from(raw.bytes).toString("utf8") : podfile.source.text;
    fact.checksum = { same: podfileChecksums(text).includes(lock.checksum.text), at: lock.checksum.at };
  }
  if (lock && installed) {
    for (const pod of lock.pods.values()) {
      const other = installed.pods.get(pod.name);
      if (other?.version !== pod.version)
        fact.installedApart.push({ name: pod.name, locked: pod.version, installed: other?.version, at: pod.at });
    }
    for (const pod of installed.pods.values())
      if (!lock.pods.has(pod.name)) fact.installedApart.push({ name: pod.name, locked: undefined, installed: pod.version, at: pod.at });
  }
  app.lock(fact);
}

/** Pods that the Podfile takes from a repository or a folder, and the lock from elsewhere, or the other way round. */
function otherSources({ pods }: Podfile, { pods: locked, external }: PodLock): LockFact["declaredApart"] {
  const told = new Set<string>();
  return pods.flatMap((pod) => {
    const [root = pod.name] = pod.name.split("/");
    const entry = locked.get(pod.name) ?? locked.get(root);
    const kind = ["git", "path", "podspec"].find((name) => pod.options.has(name));
    if (!entry || pod.conditional || told.has(root) || pod.options.has("http") || (kind !== undefined) === external.has(root)) return [];
    // Another line of the Podfile may be the one that says where it comes from.
    if (pods.some((other) => other !== pod && other.name.split("/")[0] === root && (other.conditional || other.options.size > 0)))
      return [];
    told.add(root);
    const words = (of: string | undefined): string =>
      of === undefined ? "a released version" : of === "git" ? "a Git repository" : "a folder";
    return [{ name: pod.name, declared: words(kind), recorded: words(external.get(root)?.kind), places: [pod.at, entry.at] }];
  });
}

/**
 * Targets that a Podfile names and the Xcode project does not have: the installation stops. Only where the folder has one project, and the Podfile
 * names no other. Source: guides.cocoapods.org, "Podfile Syntax" (target, project).
 */
function noteLostTargets({ project, xcode }: IosContext, app: FactSink, { file, targets, configurations: mapped }: Podfile): void {
  const projects = project.tree.list(parentOf(file)).filter(({ name }) => name.endsWith(".xcodeproj"));
  const text = project.text(file)?.text ?? "";
  if (projects.length !== 1 || xcode.targets.length === 0 || join(parentOf(file), projects[0]?.name ?? "") !== xcode.path) return;
  const own = new Set([...xcode.targets.map(({ name }) => name), (projects[0]?.name ?? "").replace(/\.xcodeproj$/, "")]);
  const named = /^[ \t]*(?:project|xcodeproj)\s*\(?\s*['"]([^'"\n]+)/m.exec(text)?.[1]?.replace(/\.xcodeproj$/, "");
  if (named !== undefined && !own.has(named)) return;
  const configurations = new Set(xcode.targets.flatMap((target) => target.configurations.map(({ name }) => name)));
  // Further ones harm nothing; one that is almost the project's leaves that one without its kind.
  noteMappedConfigurations(app, mapped, configurations, file);
  for (const { name, abstract, at } of targets)
    if (!abstract && name !== "" && !own.has(name))
      app.pathFollowed({ text: name, resolved: file, kind: "target", exists: false, side: "ios", generated: false, at });
}

/** Build settings that name a file. Source: developer.apple.com, "Build settings reference". */
const NAMED_FILES = [
  ["CODE_SIGN_ENTITLEMENTS", "entitlements file"],
  ["SWIFT_OBJC_BRIDGING_HEADER", "bridging header"],
  ["INFOPLIST_FILE", "file"],
] as const;

/** Configurations that the Podfile gives a kind: further ones harm nothing; one that is almost the project's leaves that one without its kind. */
function noteMappedConfigurations(app: FactSink, mapped: { name: string; at: Place }[], configurations: Set<string>, file: string): void {
  // One that no line maps is built as a release, so that its pods lack what is there for debugging.
  const [first] = mapped;
  for (const name of first ? configurations : [])
    if (
      /debug/i.test(name) &&
      name !== "Debug" &&
      !mapped.some((other) => other.name === name) &&
      !mapped.some((other) => distance(other.name, name) <= 2)
    )
      app.templateLine({ line: "configuration of the pods", side: "ios", at: first?.at ?? startOf(file) });
  for (const { name, at } of mapped) {
    const isMeant = (own: string): boolean => !mapped.some((other) => other.name === own) && distance(own, name) <= 2;
    if (name.length > 4 && !configurations.has(name) && [...configurations].some(isMeant))
      app.pathFollowed({ text: name, resolved: file, kind: "configuration", exists: false, side: "ios", generated: false, at });
  }
}

/**
 * Configuration files of the app's own that are not there, that do not bring the settings of the pods, where those of another configuration do, or bring those of
 * another one. Source: guides.cocoapods.org, "Integration with existing projects" (base configurations).
 */
function notePodSettings(project: ProjectFiles, app: FactSink, { target, usesPods }: IosReading): void {
  const own = target.configurations.flatMap(({ name, settings }) =>
    settings.file && project.tree.isFile(settings.file.file) ? [{ name, ...settings.file }] : [],
  );
  // Files with keys are on the machines of those who build.
  const isKeptOut = (file: string): boolean => {
    const parts = file.split("/");
    return ignoredByGit(
      project,
      parts.map((_, index) => parts.slice(0, index).join("/")),
    )(baseName(file));
  };
  for (const { settings } of target.configurations) {
    const named = settings.file?.file;
    if (named === undefined || project.tree.isFile(named) || /(^|\/)(Pods|Flutter)\//.test(named) || isKeptOut(named)) continue;
    if (app.paths.some(({ resolved }) => resolved === named)) continue;
    app.pathFollowed({ text: baseName(named), resolved: named, kind: "file", exists: false, side: "ios", generated: false, at: target.at });
  }
  // A release on the file of the debug build, where its own lies beside that.
  for (const { name, file } of own) {
    const meant =
      /^release$/i.test(name) && /debug/i.test(baseName(file)) ? baseName(file).replace(/debug/i, "release").toLowerCase() : undefined;
    if (meant !== undefined && project.tree.list(parentOf(file)).some((entry) => entry.name.toLowerCase() === meant))
      app.templateLine({ line: "settings of this build", side: "ios", at: target.at });
  }
  const podsOf = (includes: readonly string[]): string[] => includes.filter((path) => /(^|\/)Pods-[^/]*\.xcconfig$/.test(path));
  if (!usesPods || own.every(({ includes }) => podsOf(includes).length === 0)) return;
  const names = new Set(target.configurations.map(({ name }) => name.toLowerCase()));
  for (const { file, includes } of own) {
    const pods = podsOf(includes);
    // The file of a configuration that is based on another one.
    const foreign = pods.some((path) => {
      const of = /\.([^./]+)\.xcconfig$/.exec(path)?.[1];
      return of !== undefined && names.has(of) && !own.some((other) => other.file === file && other.name.toLowerCase() === of);
    });
    if ((pods.length === 0 && app.kind !== "flutter") || foreign)
      app.templateLine({ line: foreign ? "pods file of this build" : "pods file", side: "ios", at: startOf(file) });
  }
}

/** What the project file names and does not have, but for what its tests alone are made of. */
function noteLostObjects({ targets, file }: XcodeProject, app: FactSink): void {
  for (const { lost, type } of targets)
    for (const { name, at } of type.includes("test") ? [] : lost)
      app.pathFollowed({ text: name, resolved: file, kind: "project object", exists: false, side: "ios", generated: false, at });
}

/** Keys that stand in lists of the repository and not in the spec that they are written from. */
function noteWrittenLists(project: ProjectFiles, app: FactSink, { targets, folder }: IosReading): void {
  const settings = targets.flatMap(({ configurations }) => configurations);
  const files = settings.flatMap(({ settings: of }) =>
    ["INFOPLIST_FILE", "CODE_SIGN_ENTITLEMENTS"].flatMap((name) => textOf(of.value(name)) ?? []),
  );
  for (const file of new Set(files.map((text) => join(folder, text)))) {
    const laid = project.isLaid(file) ? project.plist(file) : undefined;
    if (!laid || !project.tree.isFile(file) || isKeptOut(project, file)) continue;
    for (const [key, { value, start }] of entriesOf(project.readList(file)?.root))
      // What builds put in by themselves.
      if (!/^CFBundle|^DT|^LSRequiresIPhoneOS$/.test(key) && at(laid.root, key) === undefined)
        app.configuredOtherwise({
          what: key,
          side: "ios",
          configured: known(key, value.source.place(start)),
          native: undefined,
          files: [baseName(file), baseName(laid.source.file)],
          isWritten: true,
        });
  }
}

/** What the spec of a project names and does not have. */
function noteLostInSpec({ spec, file }: XcodeProject, app: FactSink): void {
  const told = new Set<string>();
  for (const { what, text, resolved, among, at } of spec?.faults ?? []) {
    const key = `${at.file}:${at.line}:${at.column} ${text}`;
    if (told.has(key)) continue;
    told.add(key);
    app.pathFollowed({
      text: what === undefined ? text : `${what} ${text}`,
      resolved: resolved ?? file,
      kind: what === undefined ? "file" : "name of the spec",
      exists: false,
      side: "ios",
      generated: resolved !== undefined && WRITTEN_BEFORE.test(resolved),
      at,
      ...orNear(nearest(text, among)),
    });
  }
}

/**
 * Files that the targets name or compile and that are not on disk, but for what tools write before a build; and a release that is compiled as a
 * debug build.
 */
function noteSourceFiles({ project, xcode }: IosContext, app: FactSink, side: IosReading): void {
  notePodSettings(project, app, side);
  noteLostObjects(xcode, app);
  noteLostInSpec(xcode, app);
  noteWrittenLists(project, app, side);
  for (const { name, settings } of side.target.configurations)
    for (const setting of ["SWIFT_ACTIVE_COMPILATION_CONDITIONS", "GCC_PREPROCESSOR_DEFINITIONS"]) {
      const value = /^release$/i.test(name) ? settings.value(setting) : undefined;
      if (value?.kind === "known" && /(^|\s)"?DEBUG(=1)?"?(\s|$)/.test(value.text))
        app.debugOption({ what: "debug symbol", side: "ios", text: `${setting} of ${name} has DEBUG`, at: value.place });
    }
  for (const { configurations } of side.targets)
    for (const [setting, kind] of NAMED_FILES) {
      const told = new Set<string>();
      for (const { settings } of configurations) {
        const value = settings.value(setting);
        const text = textOf(value)?.replaceAll('"', "").trim() ?? "";
        if (text === "" || /[$*]/.test(text) || isAbsolutePath(text) || told.has(text)) continue;
        told.add(text);
        const resolved = join(xcode.folder, text);
        if (value && !project.tree.isFile(resolved) && !project.isLaid(resolved))
          app.pathFollowed({
            text,
            resolved,
            kind,
            exists: false,
            side: "ios",
            generated: /(^|\/)(build|Pods|DerivedSources)\//.test(text),
            at: value.place,
          });
      }
    }
  noteHeaders(app, side);
  noteAbsentSources(project, app, side);
  noteLostResources(project, app, side);
  notePodScripts(app, side);
}

/** Configurations without the bridging header that others of their target have. Source: developer.apple.com, "Importing Objective-C into Swift". */
function noteHeaders(app: FactSink, { targets }: IosReading): void {
  const setting = "SWIFT_OBJC_BRIDGING_HEADER";
  for (const { configurations, sources, at } of targets) {
    if (!sources.some((file) => file.endsWith(".swift")) || configurations.every(({ settings }) => !settings.value(setting))) continue;
    for (const { name, settings } of configurations)
      if (!settings.value(setting)) app.unfitValue({ what: "bridging header", value: name, side: "ios", at });
  }
}

/** What tools write before a build. */
const WRITTEN_BEFORE = /generated|\.g\.|(^|\/)(build|DerivedSources|Pods)\//i;

/** Source files of the targets that are not there. */
function noteAbsentSources(project: ProjectFiles, app: FactSink, side: IosReading): void {
  for (const { sourcesAt } of side.targets)
    for (const [file, at] of sourcesAt)
      if (/\.(swift|mm?|c|cc|cpp)$/.test(file) && !project.tree.isFile(file))
        app.pathFollowed({
          text: baseName(file),
          resolved: file,
          kind: "source file",
          exists: false,
          side: "ios",
          generated: WRITTEN_BEFORE.test(file),
          at,
        });
}

/** Files of settings and interfaces that a target copies and that are not there: the build stops. Others may be made by a script, or are kept out. */
function noteLostResources(project: ProjectFiles, app: FactSink, { targets }: IosReading): void {
  for (const { resourcesAt, scripts, type } of targets) {
    // A text that is there in no language, or lacks in many, is told once.
    const byText = new Map<string, { file: string; at: Place }[]>();
    for (const [file, at] of resourcesAt) {
      if (!/\.(plist|json|storyboard|xib|xcassets|xcprivacy|strings)$/.test(file) || WRITTEN_BEFORE.test(file) || /test/i.test(type))
        continue;
      if (project.tree.isFile(file) || project.tree.isFolder(file) || file.startsWith("..")) continue;
      const [folder, name] = [parentOf(file), baseName(file)];
      const parts = folder.split("/");
      const folders = ["", ...parts.map((_, index) => parts.slice(0, index + 1).join("/"))];
      // A script may lay it down, or each who builds has one of his own.
      if (scripts.some((script) => script.includes(name)) || ignoredByGit(project, folders)(name)) continue;
      if (app.paths.some(({ resolved }) => resolved === file)) continue;
      const text = file.replace(/[^/]+(?=\.lproj\/[^/]+$)/, "*");
      byText.set(text, [...(byText.get(text) ?? []), { file, at }]);
    }
    for (const lost of byText.values())
      for (const { file, at } of lost.length < MANY_LANGUAGES ? lost : lost.slice(0, 1)) {
        const name = /[^/]+\.lproj\/[^/]+$/.exec(file)?.[0] ?? baseName(file);
        const text = lost.length < MANY_LANGUAGES ? name : `${name} (and those of ${lost.length - 1} more languages)`;
        app.pathFollowed({ text, resolved: file, kind: "file", exists: false, side: "ios", generated: false, at });
      }
  }
}

const MANY_LANGUAGES = 4;

/** Pods whose tools a script of a target runs, and that no lock has. Source: guides.cocoapods.org (PODS_ROOT). */
function notePodScripts(app: FactSink, { targets, pods }: IosReading): void {
  const locked = pods?.locked;
  if (!locked || locked.size === 0) return;
  const roots = new Set([...locked.keys(), ...pods.declared.keys()].map((name) => name.split("/")[0]));
  for (const { scripts, at } of targets)
    for (const match of scripts.join("\n").matchAll(/\$[{(]?PODS_ROOT[)}]?\/([\w.+-]+)\//g)) {
      const name = match[1] as string;
      if (roots.has(name) || /^(Target Support Files|Headers|Local Podspecs|Pods\.xcodeproj|\.\.)$/.test(name)) continue;
      if (app.paths.some((path) => path.kind === "package" && path.text === name)) continue;
      app.pathFollowed({ text: name, resolved: undefined, kind: "package", exists: false, side: "ios", generated: false, at });
    }
}

function readCarthage(context: IosContext, app: FactSink, side: IosReading): void {
  const folder = [side.folder, parentOf(side.folder)].find((candidate) => context.project.tree.isFile(join(candidate, "Cartfile")));
  if (folder === undefined) return;
  const entries = readCartfile(context.project, join(folder, "Cartfile")) ?? [];
  const resolved = readCartfile(context.project, join(folder, "Cartfile.resolved"));
  for (const entry of entries) {
    const locked = resolved?.find((candidate) => candidate.location === entry.location);
    const branch = entry.requirement !== "" && !/^(==|>=|~>|=)/.test(entry.requirement);
    const route: Route = entry.kind === "binary" ? "binary" : branch ? "git" : "registry";
    app.dependency({
      side: "ios",
      ecosystem: "carthage",
      name: entry.location,
      route,
      declared: entry.requirement ? known(entry.requirement, entry.at) : undefined,
      locked: locked?.requirement,
      lockedAt: locked?.at,
      scope: "Cartfile",
      in: side.target.name,
      reference: branch ? { kind: /^[0-9a-f]{40}$/.test(entry.requirement) ? "revision" : "branch", text: entry.requirement } : undefined,
      places: [entry.at],
    });
  }
  if (entries.length > 0) {
    app.lock({
      manager: "carthage",
      side: "ios",
      manifest: entries[0]?.at ?? side.target.at,
      lockName: "Cartfile.resolved",
      lock: resolved ? join(folder, "Cartfile.resolved") : undefined,
      expected: context.versioned || context.project.tree.isFolder(join(folder, "Carthage")),
      needed: true,
      installedApart: [],
      declaredApart: [],
    });
  }
}

function readBinaries(context: IosContext, app: FactSink, side: IosReading): void {
  const { project, xcode } = context;
  for (const reference of xcode.binaries) {
    const exists =
      reference.resolved === undefined ? undefined : project.tree.isFile(reference.resolved) || project.tree.isFolder(reference.resolved);
    const generated =
      /(^|\/)(Pods|Carthage|build|node_modules|\.symlinks|Flutter)\//.test(reference.resolved ?? "") ||
      /^libPods|^Pods_/.test(baseName(reference.path)) ||
      // What another project makes is found among its products, by the name alone.
      (exists === false && xcode.references.length > 0 && /^lib[^/]+\.a$/.test(reference.path));
    app.pathFollowed({
      text: reference.path,
      resolved: reference.absolute ? undefined : reference.resolved,
      kind: "binary",
      exists,
      side: "ios",
      generated,
      at: reference.at,
    });
    const system = reference.absolute && /\/(Developer|Xcode|System|usr\/lib)\//.test(reference.path);
    if (generated || system || !/\.(framework|xcframework|a)$/.test(reference.path)) continue;
    app.dependency({
      side: "ios",
      ecosystem: "binary",
      name: baseName(reference.path),
      route: "binary",
      scope: "linked",
      in: side.target.name,
      locked: reference.absolute || reference.resolved === undefined ? undefined : versionOfFramework(project, reference.resolved),
      places: [reference.at],
    });
  }
  for (const reference of xcode.searchPaths) {
    app.pathFollowed({
      text: reference.path,
      resolved: reference.resolved,
      kind: "search path",
      exists: undefined,
      side: "ios",
      generated: false,
      at: reference.at,
    });
  }
}
