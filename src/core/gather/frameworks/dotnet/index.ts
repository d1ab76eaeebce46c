import type { ProjectFiles } from "../../project-files.js";
import { foldersBelow } from "../../../files/walk.js";
import type { FactSink } from "../../sink.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { baseName, join, parentOf, relativeTo } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, type Value } from "../../../model/value.js";
import { at, entriesOf, placeOf, textAt } from "../../../syntax/data.js";
import { children } from "../../../syntax/xml.js";
import type { DetectedApp, Discovery, Framework, TakenIn } from "../framework.js";
import { frameworkAndroid, frameworkIos } from "../framework-sides.js";
import { expand, projectReferences, property, readMsbuild, type Item, type MsbuildProject, type Platform } from "./msbuild.js";

/** Kinds of project in the older form. Source: learn.microsoft.com, the project type ids of Xamarin. */
const OLD_KINDS: Record<Platform, RegExp> = {
  android: /EFBA0AD7-5A72-4C68-AF49-83D382785DCF/i,
  ios: /FEACFBD2-3405-455C-9665-78FE426C6842/i,
};
/** Packages of the platform's own makers. Source: nuget.org, the owners Microsoft and dotnetframework. */
const PLATFORM =
  /^(Microsoft\.|System\.|Xamarin\.(AndroidX|Essentials|Forms|Google\.Android\.Material|Build|Kotlin|Jetbrains|Legacy)|NETStandard\.|CommunityToolkit\.|runtime\.)/i;
/** Build actions that take a file nowhere. */
const NO_ACTION = /^(None|Content|Compile|Folder)$/;

interface DotnetProjects {
  android: MsbuildProject | undefined;
  ios: MsbuildProject | undefined;
}

const projectsOf = new WeakMap<DetectedApp, DotnetProjects>();

/** Mobile apps in .NET: one project for both sides, or one for each. Source: learn.microsoft.com, ".NET MAUI single project" and "Xamarin". */
export const dotnet: Framework = {
  kind: "dotnet",
  find(discovery) {
    const candidates: { project: MsbuildProject; platforms: Platform[] }[] = [];
    for (const [folder, { files }] of discovery.index) {
      if (/(^|\/)(bin|obj)(\/|$)/.test(folder)) continue;
      for (const name of files) {
        if (!name.endsWith(".csproj")) continue;
        const project = readMsbuild(discovery.project, join(folder, name));
        const platforms = project ? applicationPlatforms(project) : [];
        if (project && platforms.length > 0) candidates.push({ project, platforms });
      }
    }
    const found: DetectedApp[] = [];
    while (candidates.length > 0) {
      const { project, platforms } = candidates.shift() as (typeof candidates)[number];
      const projects: DotnetProjects = {
        android: platforms.includes("android") ? project : undefined,
        ios: platforms.includes("ios") ? project : undefined,
      };
      if (platforms.length === 1) {
        const stem = stemOf(project);
        const other = candidates.findIndex(
          (candidate) => candidate.platforms.length === 1 && candidate.platforms[0] !== platforms[0] && stemOf(candidate.project) === stem,
        );
        if (other !== -1) {
          const [twin] = candidates.splice(other, 1);
          if (twin) projects[twin.platforms[0] as Platform] = twin.project;
        }
      }
      found.push(detectedOf(discovery.project, projects));
    }
    return found;
  },
  complete(discovery, detected, app) {
    const projects = projectsOf.get(detected);
    if (!projects) return;
    const both = projects.android !== undefined && projects.android === projects.ios;
    const first = projects.android ?? projects.ios;
    if (!first) return;
    const framework = property(first, both ? "TargetFrameworks" : "TargetFramework", undefined);
    app.hybrid({ folder: detected.path, framework: { name: ".NET", package: "dotnet", declared: framework, installed: undefined } });
    readPackages(discovery, app, projects, both);
    readAttributes(discovery, app, projects);
    readNativeReferences(discovery.project, app, projects);
  },
  takesIn(_discovery, detected, app) {
    const projects = projectsOf.get(detected);
    return projects ? itemsTaken(app, projects) : [];
  },
  judgeFiles(_discovery, detected, app) {
    const projects = projectsOf.get(detected);
    if (projects) readServiceActions(app, projects);
  },
};

function applicationPlatforms(project: MsbuildProject): Platform[] {
  const kinds = property(project, "ProjectTypeGuids", undefined);
  const library = (["android", "ios"] as Platform[]).every((platform) => {
    const type = property(project, "OutputType", platform);
    return type?.kind !== "known" || !/^(Exe|WinExe)$/i.test(type.text);
  });
  if (kinds?.kind === "known") {
    const application = property(project, "AndroidApplication", undefined);
    if (OLD_KINDS.android.test(kinds.text)) return application?.kind === "known" && /true/i.test(application.text) ? ["android"] : [];
    return OLD_KINDS.ios.test(kinds.text) && !library ? ["ios"] : [];
  }
  if (library) return [];
  const texts = project.properties.flatMap(({ name, text }) => (name === "TargetFrameworks" || name === "TargetFramework" ? [text] : []));
  return (["android", "ios"] as Platform[]).filter((platform) =>
    texts.some((text) => new RegExp(`net\\d+\\.\\d+-${platform}`, "i").test(text)),
  );
}

/** `Lockkeeper.Android` and `Lockkeeper.iOS` are one app. */
function stemOf({ file }: MsbuildProject): string {
  return baseName(file)
    .replace(/\.csproj$/, "")
    .replace(/[._-]?(android|droid|ios|iphone|touch)$/i, "")
    .toLowerCase();
}

function detectedOf(project: ProjectFiles, projects: DotnetProjects): DetectedApp {
  const { android, ios } = projects;
  const first = (android ?? ios) as MsbuildProject;
  const path = android && ios && android !== ios ? commonParent(android.folder, ios.folder) : first.folder;
  const title = property(first, "ApplicationTitle", undefined);
  const name = baseName(first.file)
    .replace(/\.csproj$/, "")
    .replace(/[._-]?(android|droid|ios|iphone|touch)$/i, "");
  const detected: DetectedApp = { kind: "dotnet", name: name || (title?.kind === "known" ? title.text : "app"), path, shared: path };
  if (android) {
    const folder = sideFolder(project, android, "android", android === ios);
    const manifest = [property(android, "AndroidManifest", "android"), undefined]
      .flatMap((value) =>
        value?.kind === "known"
          ? [join(android.folder, value.text.replaceAll("\\", "/"))]
          : [join(folder, "AndroidManifest.xml"), join(android.folder, "Properties/AndroidManifest.xml")],
      )
      .find((file) => project.tree.isFile(file));
    const target = levelOfFramework(android, "android");
    detected.android = frameworkAndroid(
      {
        folder,
        file: android.file,
        start: { file: android.file, line: 1, column: 1 },
        id: property(android, "ApplicationId", "android"),
        levels: {
          minSdk: wholeLevel(property(android, "SupportedOSPlatformVersion", "android")),
          targetSdk: wholeLevel(property(android, "TargetPlatformVersion", "android")) ?? target,
          compileSdk: target,
        },
      },
      manifest,
    );
  }
  if (ios) {
    const folder = sideFolder(project, ios, "ios", android === ios);
    const plist = [join(folder, "Info.plist"), join(ios.folder, "Info.plist")].find((file) => project.tree.isFile(file));
    const entitlements = property(ios, "CodesignEntitlements", "ios");
    const start = { file: ios.file, line: 1, column: 1 };
    const inFolder = (file: string): Value => known(relativeTo(folder, file), start);
    const stated =
      entitlements?.kind === "known" ? join(ios.folder, entitlements.text.replaceAll("\\", "/")) : join(folder, "Entitlements.plist");
    detected.ios = frameworkIos(
      {
        folder,
        file: ios.file,
        start,
        id: property(ios, "ApplicationId", "ios"),
        levels: { iosTarget: property(ios, "SupportedOSPlatformVersion", "ios") },
      },
      name,
      {
        INFOPLIST_FILE: plist === undefined ? undefined : inFolder(plist),
        CODE_SIGN_ENTITLEMENTS: project.tree.isFile(stated) ? inFolder(stated) : undefined,
      },
    );
    // In the older form the level stands in the property list.
    const minimum = plist === undefined ? undefined : project.plist(plist)?.root;
    const value = at(minimum, "MinimumOSVersion");
    const layer = detected.ios.targets[0]?.configurations[0]?.settings;
    if (value?.kind === "scalar" && layer && !layer.value("IPHONEOS_DEPLOYMENT_TARGET"))
      layer.state("IPHONEOS_DEPLOYMENT_TARGET", known(String(value.value), placeOf(value)) as Value & { kind: "known" });
  }
  projectsOf.set(detected, projects);
  return detected;
}

function commonParent(a: string, b: string): string {
  let current = a;
  while (current !== "" && b !== current && !b.startsWith(`${current}/`)) current = parentOf(current);
  return current;
}

function sideFolder(project: ProjectFiles, source: MsbuildProject, platform: Platform, single: boolean): string {
  if (!single) return source.folder;
  const folder = join(source.folder, platform === "android" ? "Platforms/Android" : "Platforms/iOS");
  return project.tree.isFolder(folder) ? folder : join(source.folder, platform === "android" ? "Platforms/Android" : "Platforms/iOS");
}

/** `21.0` is level 21 on Android. */
function wholeLevel(value: Value | undefined): Value | undefined {
  return value?.kind === "known" ? { ...value, text: value.text.replace(/\.0+$/, "") } : value;
}

/** `net8.0-android34.0` compiles against level 34; without a number the SDK decides. */
function levelOfFramework(project: MsbuildProject, platform: Platform): Value | undefined {
  for (const { name, text, at: place } of project.properties) {
    if (name !== "TargetFrameworks" && name !== "TargetFramework") continue;
    const match = new RegExp(`net\\d+\\.\\d+-${platform}(\\d+)(?:\\.\\d+)?`, "i").exec(text);
    if (match)
      return known(match[1] as string, {
        ...place,
        column: place.column + match.index + match[0].indexOf(match[1] as string, match[0].toLowerCase().indexOf(platform)),
      });
  }
  return undefined;
}

/** Packages: of the project file, of its central list, or of `packages.config`. */
function readPackages(discovery: Discovery, app: FactSink, projects: DotnetProjects, both: boolean): void {
  const { project } = discovery;
  const seen = new Set<MsbuildProject>();
  const librariesSeen = new Set<string>();
  for (const [platform, source] of Object.entries(projects) as [Platform, MsbuildProject | undefined][]) {
    if (!source || seen.has(source)) continue;
    seen.add(source);
    // A library that both platform projects refer to is read once.
    const libraries = projectReferences(source)
      .filter((file) => !librariesSeen.has(file))
      .flatMap((file) => {
        librariesSeen.add(file);
        return readMsbuild(project, file) ?? [];
      });
    for (const owner of [source, ...libraries]) {
      const locked = readLock(project, owner, app);
      for (const item of owner.items.filter(({ kind, removed }) => kind === "PackageReference" && !removed)) {
        if (item.include.includes("$(")) continue;
        const version = versionOf(owner, item, platform);
        const sides: SideName[] = both ? (item.platforms ?? ["shared"]) : [owner === source ? platform : "shared"];
        for (const side of sides)
          app.dependency(
            dependencyOf(
              owner,
              item.include,
              version,
              side,
              locked.get(item.include.toLowerCase()),
              item.at,
              item.metadata.get("PrivateAssets")?.text,
            ),
          );
      }
      for (const { id, version, at: place } of packagesConfig(project, owner.folder))
        app.dependency(dependencyOf(owner, id, version, owner === source ? platform : "shared", undefined, place, undefined));
    }
  }
  // What shared code uses has to be in both platform projects, in the form where each project lists its own.
  if (both || !projects.android || !projects.ios) return;
  const oldForm = [projects.android, projects.ios].every(({ folder }) => project.tree.isFile(join(folder, "packages.config")));
  if (!oldForm) return;
  for (const dependency of app.dependencies.filter(({ side, ecosystem }) => side === "shared" && ecosystem === "nuget")) {
    for (const side of ["android", "ios"] as const) {
      if (
        dependency.platform ||
        app.dependencies.some(
          (other) => other.ecosystem === "nuget" && other.side === side && other.name.toLowerCase() === dependency.name.toLowerCase(),
        )
      )
        continue;
      const place = dependency.places[0];
      if (place)
        app.linkage({
          package: dependency.name,
          sdk: dependency.sdk,
          side,
          automatic: true,
          off: undefined,
          manual: undefined,
          native: dependency.name,
          installed: false,
          declared: place,
          list: { file: join(projects[side]?.folder ?? "", "packages.config"), line: 1, column: 1 },
          refresh: `install ${dependency.name} in the project of this side as well`,
        });
    }
  }
}

function versionOf(project: MsbuildProject, item: Item, platform: Platform): Value | undefined {
  const own = item.metadata.get("VersionOverride") ?? item.metadata.get("Version");
  if (own) return expand(project, own.text, own.at, platform);
  const central = project.items.find(
    ({ kind, include }) => kind === "PackageVersion" && include.toLowerCase() === item.include.toLowerCase(),
  );
  const update = project.items.find(
    (other) =>
      other !== item &&
      other.kind === "PackageReference" &&
      other.include.toLowerCase() === item.include.toLowerCase() &&
      other.metadata.has("Version"),
  );
  const stated = central?.metadata.get("Version") ?? update?.metadata.get("Version");
  return stated && expand(project, stated.text, stated.at, platform);
}

function dependencyOf(
  owner: MsbuildProject,
  name: string,
  version: Value | undefined,
  side: SideName,
  locked: { version: string; at: Place } | undefined,
  place: Place,
  privateAssets: string | undefined,
): Dependency {
  const dependency: Dependency = {
    sdk: sdkIdOf("nuget", name),
    side,
    ecosystem: "nuget",
    name,
    route: "registry",
    declared: version,
    locked: locked?.version,
    scope: "PackageReference",
    in: baseName(owner.file),
    direct: true,
    test: privateAssets?.toLowerCase() === "all",
    platform: PLATFORM.test(name),
    conditional: false,
    places: [place],
  };
  if (locked) dependency.lockedAt = locked.at;
  return dependency;
}

function packagesConfig(project: ProjectFiles, folder: string): { id: string; version: Value; at: Place }[] {
  const file = join(folder, "packages.config");
  const root = project.tree.isFile(file) ? project.xml(file)?.root : undefined;
  return children(root, "package").flatMap((element) => {
    const id = element.attributes.get("id");
    const version = element.attributes.get("version");
    return id && version
      ? [{ id: id.value, version: known(version.value, element.source.place(version.start)), at: element.source.place(id.start) }]
      : [];
  });
}

/** `packages.lock.json`: framework → package → resolved version. Source: learn.microsoft.com, "Locking dependencies". */
function readLock(project: ProjectFiles, owner: MsbuildProject, app: FactSink): Map<string, { version: string; at: Place }> {
  const file = join(owner.folder, "packages.lock.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  const found = new Map<string, { version: string; at: Place }>();
  for (const [, { value }] of entriesOf(at(root, "dependencies")))
    for (const [name, entry] of entriesOf(value)) {
      const resolved = at(entry.value, "resolved");
      app.lockedName(`nuget ${name}`);
      if (textAt(entry.value, "type") === "Direct" && resolved?.kind === "scalar" && !found.has(name.toLowerCase()))
        found.set(name.toLowerCase(), { version: String(resolved.value), at: placeOf(resolved) });
    }
  return found;
}

/** Attributes in code that write manifest entries. Source: learn.microsoft.com, "Android manifest in .NET". */
function readAttributes(discovery: Discovery, app: FactSink, { android }: DotnetProjects): void {
  if (!android || !app.android) return;
  for (const [folder, { files }] of foldersBelow(discovery.index, android.folder)) {
    if (/(^|\/)(bin|obj|Platforms\/(iOS|Windows|MacCatalyst|Tizen))(\/|$)/.test(folder.slice(android.folder.length))) continue;
    for (const name of files) {
      if (!name.endsWith(".cs")) continue;
      const source = discovery.project.text(join(folder, name));
      if (!source?.text.includes("[")) continue;
      const code = withoutComments(source.text);
      for (const match of code.matchAll(
        /^\s*\[assembly:\s*UsesPermission\(\s*(?:Name\s*=\s*)?(?:"([^"]+)"|(?:Android\.)?Manifest\.Permission\.(\w+))/gm,
      )) {
        const permission = match[1] ?? `android.permission.${constantName(match[2] as string)}`;
        app.entry({
          kind: "permission",
          side: "android",
          name: permission,
          value: undefined,
          at: source.place(match.index + match[0].length - (match[1] ?? match[2] ?? "").length),
        });
      }
      for (const match of code.matchAll(/\bDataScheme\s*=\s*"([^"]+)"/g)) {
        const place = source.place(match.index + match[0].indexOf('"') + 1);
        app.entry({
          kind: "urlScheme",
          side: "android",
          name: match[1] as string,
          value: known(match[1] as string, place),
          at: place,
        });
      }
    }
  }
  if (app.manifests.length === 0 && app.entries.some(({ kind, side }) => kind === "permission" && side === "android"))
    app.manifest(android.file);
}

/** A text of C# with its comments blanked out, of the same length. */
function withoutComments(text: string): string {
  return text.replace(/\/\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"|\/\/[^\n]*/g, (part) =>
    part.startsWith('"') ? part : part.replace(/[^\n]/g, " "),
  );
}

/** `AccessFineLocation` → `ACCESS_FINE_LOCATION`. */
function constantName(name: string): string {
  return name.replace(/([a-z0-9])([A-Z])/g, "$1_$2").toUpperCase();
}

/**
 * What the items of a project and the folders of its kind take into a side. Sources: learn.microsoft.com, "Build items" (.NET for Android and
 * for iOS) and ".NET MAUI single project" (Resources/Raw, Platforms).
 */
function itemsTaken(app: FactSink, projects: DotnetProjects): TakenIn[] {
  const taken: TakenIn[] = [];
  for (const [side, owner] of Object.entries(projects) as [Platform, MsbuildProject | undefined][]) {
    if (!owner || !app[side]) continue;
    const own = side === "android" ? ["Assets", "Platforms/Android/Assets"] : ["Resources", "Platforms/iOS/Resources"];
    for (const folder of projects.android === projects.ios ? [own[1] ?? "", "Resources/Raw"] : [...own, "Resources/Raw"])
      taken.push({ path: join(owner.folder, folder), side });
    for (const { kind, include, removed, platforms } of owner.items) {
      if (removed || NO_ACTION.test(kind) || /Reference$|^Compile$|\$\(/.test(kind + include) || (platforms && !platforms.includes(side)))
        continue;
      const path = include.replace(/\/?\*\*.*$|\/?\*[^/]*$/, "");
      if (path !== "" && !path.startsWith("/")) taken.push({ path: join(owner.folder, path), side });
    }
  }
  return taken;
}

/** Whether files with a vendor's settings have a build action that takes them into the app. */
function readServiceActions(app: FactSink, projects: DotnetProjects): void {
  for (const file of app.serviceFiles) {
    const owner = projects[file.side];
    if (!owner) continue;
    const inside = relativeTo(owner.folder, file.file);
    const items = owner.items.filter(
      ({ include, removed }) =>
        !removed && (include === inside || include.endsWith(`/${baseName(file.file)}`) || include === baseName(file.file)),
    );
    const used = items.find(({ kind }) => !NO_ACTION.test(kind));
    const fixed =
      /(^|\/)(Resources\/Raw|Platforms\/(Android\/Assets|iOS\/Resources))\//.test(`/${inside}`) || /^(Assets|Resources)\//.test(inside);
    const folder = owner.items.some(
      ({ include, kind, removed }) =>
        !removed &&
        !NO_ACTION.test(kind) &&
        include.includes("*") &&
        inside.startsWith(include.replace(/\*.*$/, "")) &&
        include !== "*" &&
        !include.startsWith("**"),
    );
    file.read = used !== undefined || fixed || folder;
    file.why = file.read
      ? undefined
      : items[0]
        ? `its build action is ${items[0].kind}, which takes it nowhere`
        : "no item of the project gives it a build action";
    file.advice = `list it in ${baseName(owner.file)} with the build action that its vendor names`;
  }
}

/** Native references and binding libraries. */
function readNativeReferences(project: ProjectFiles, app: FactSink, projects: DotnetProjects): void {
  const seen = new Set<string>();
  for (const [side, owner] of Object.entries(projects) as [Platform, MsbuildProject | undefined][]) {
    for (const item of owner?.items ?? []) {
      if (
        !owner ||
        !/^(NativeReference|AndroidLibrary|AndroidAarLibrary|AndroidJavaLibrary|AndroidNativeLibrary)$/.test(item.kind) ||
        item.removed ||
        /[*$]/.test(item.include)
      )
        continue;
      const of: Platform = item.kind === "NativeReference" ? "ios" : "android";
      if (of !== side || seen.has(`${side} ${item.include}`)) continue;
      seen.add(`${side} ${item.include}`);
      const absolute = /^([/~]|[A-Za-z]:)/.test(item.include);
      const resolved = absolute ? undefined : join(owner.folder, item.include);
      app.pathFollowed({
        text: item.include,
        resolved,
        kind: "binary",
        exists: resolved === undefined ? undefined : project.tree.isFile(resolved) || project.tree.isFolder(resolved),
        side,
        generated: false,
        at: item.at,
      });
      const name = baseName(item.include);
      app.dependency({
        side,
        ecosystem: "binary",
        name,
        route: "binary",
        scope: item.kind,
        in: baseName(owner.file),
        places: [item.at],
      });
    }
  }
}
