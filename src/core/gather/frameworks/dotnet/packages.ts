import type { Evaluated, MsbuildItem } from "../../../evaluate/msbuild/evaluation.js";
import type { Dependency, LockFact, SideName } from "../../../model/facts.js";
import { baseName, isAbsolutePath, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, textOf, type Value } from "../../../model/value.js";
import { at, entriesOf, placeOf, textAt } from "../../../syntax/data.js";
import { children, type XmlElement } from "../../../syntax/xml.js";
import { compare, satisfies } from "../../../versions/nuget.js";
import type { ProjectFiles } from "../../project-files.js";
import type { AppFacts } from "../../../model/app.js";
import type { FactSink } from "../../sink.js";
import { includesOf, isOn, textOfProperty, updatesOf, type DotnetProject, type Platform } from "./project.js";

/** Packages of the platform's own makers. Source: nuget.org, the owners Microsoft and dotnetframework. */
const PLATFORM_PACKAGE =
  /^(Microsoft\.|System\.|Xamarin\.(AndroidX|Essentials|Forms|Google\.Android\.Material|Build|Kotlin|Jetbrains|Legacy)|NETStandard\.|CommunityToolkit\.|runtime\.|FSharp\.)/i;

/** A project of an app, and the sides that it is built for. */
export interface UnitOfApp {
  project: DotnetProject;
  platforms: readonly Platform[];
}

/** Packages of the app's projects: of the project files, of the central list, or of `packages.config`. */
export function readPackages(files: ProjectFiles, app: FactSink, units: readonly UnitOfApp[]): void {
  for (const unit of units) {
    const { project, platforms } = unit;
    const sidesOf = sidesByPackage(unit);
    const lock = readLock(files, project);
    const declared: Dependency[] = [];
    for (const [name, { item, sides, build, open }] of sidesOf) {
      for (const side of sides) {
        const dependency = dependencyOf(
          project,
          name,
          versionOf(build, item),
          side,
          item.at,
          textOf(item.metadata.get("PrivateAssets")?.value),
        );
        const locked = lock?.packages.get(name.toLowerCase());
        if (locked?.resolved) {
          dependency.locked = locked.resolved.version;
          dependency.lockedAt = locked.resolved.at;
        }
        if (open) dependency.conditional = true;
        declared.push(dependency);
      }
    }
    for (const { id, version, at: place } of packagesConfig(files, project.folder))
      for (const side of platforms.length === 1 && project.frameworks.length === 0 ? platforms : (["shared"] as const))
        declared.push(dependencyOf(project, id, version, side, place, undefined));
    app.dependency(...declared);
    for (const name of lock?.names ?? []) app.lockedName(`nuget ${name}`);
    noteLock(files, app, unit, lock, declared);
  }
  agree(app);
}

/** Packages that are one release of the framework. Source: learn.microsoft.com, ".NET MAUI workloads and packages" (MauiVersion). */
function agree(app: FactSink): void {
  const members = app.dependencies.flatMap(({ ecosystem, name, locked, declared, lockedAt, places }) => {
    const version = locked ?? /^\d+(?:\.\d+)+/.exec(textOf(declared) ?? "")?.[0];
    const place = lockedAt ?? places[0];
    return ecosystem === "nuget" && OF_MAUI.test(name) && version !== undefined && place ? [{ name, version, at: place }] : [];
  });
  if (new Set(members.map(({ version }) => version.split(".")[0])).size > 1)
    app.agreement({ title: "packages of .NET MAUI are of different major versions", members, wanted: undefined });
}

const OF_MAUI = /^Microsoft\.(?:Maui\.(?:Controls(?:\.Compatibility)?|Core|Essentials|Graphics)|AspNetCore\.Components\.WebView\.Maui)$/;

/** Where each package of a project goes: into both sides, or the side whose build alone has it. */
function sidesByPackage({
  project,
  platforms,
}: UnitOfApp): Map<string, { item: MsbuildItem; sides: SideName[]; build: Evaluated; open: boolean }> {
  const found = new Map<string, { item: MsbuildItem; build: Evaluated; on: Platform[]; open: boolean }>();
  for (const platform of platforms) {
    const build = project.build(platform);
    for (const kind of ["PackageReference", "GlobalPackageReference"])
      for (const item of includesOf(build, kind)) {
        const known_ = found.get(item.include);
        if (known_) known_.on.push(platform);
        else found.set(item.include, { item, build, on: [platform], open: item.open });
      }
  }
  // A project for one platform has its packages there; of one for both, what both builds have is shared.
  const single =
    platforms.length === 1 && project.frameworks.some(({ platform }) => platform === platforms[0]) && project.frameworks.length === 1;
  return new Map(
    [...found].map(([name, { item, build, on, open }]) => [
      name,
      {
        item,
        build,
        open,
        sides:
          single || (platforms.length === 1 && project.frameworks.length === 0)
            ? [...platforms]
            : on.length === platforms.length
              ? ["shared"]
              : on,
      },
    ]),
  );
}

/** The version that a reference asks for. Source: learn.microsoft.com, "Central package management", "PackageReference in project files". */
function versionOf(build: Evaluated, item: MsbuildItem): Value | undefined {
  const of = (from: MsbuildItem | undefined, ...names: string[]): Value | undefined =>
    from && names.flatMap((name) => from.metadata.get(name)?.value ?? [])[0];
  const updated = updatesOf(build, "PackageReference", item.include);
  const override =
    of(item, "VersionOverride") ?? updated.map((update) => of(update, "VersionOverride")).findLast((value) => value !== undefined);
  if (override) return override;
  if (isCentral(build)) return central(build, item.include) ?? of(item, "Version");
  return (
    updated.map((update) => of(update, "Version")).findLast((value) => value !== undefined) ??
    of(item, "Version") ??
    central(build, item.include)
  );
}

function central(build: Evaluated, name: string): Value | undefined {
  const last = build.items.findLast(
    ({ kind, include, metadata, does }) =>
      (kind === "PackageVersion" || kind === "GlobalPackageReference") &&
      include.toLowerCase() === name.toLowerCase() &&
      (does === "remove" || metadata.has("Version")),
  );
  return last?.does === "remove" ? undefined : last?.metadata.get("Version")?.value;
}

function isCentral(build: Evaluated): boolean {
  return isOn(build, "ManagePackageVersionsCentrally");
}

type CentralMistake = AppFacts["centralVersions"][number];

/**
 * References that the central list leaves without a version, versions in a project whose list is central, and references without any: the restore fails, or
 * takes the lowest version. Source: learn.microsoft.com, "Central package management"; NuGet's warning NU1604.
 */
export function centralMistakes(units: readonly UnitOfApp[]): CentralMistake[] {
  const found = new Map<string, CentralMistake>();
  for (const { project, platforms } of units)
    for (const platform of platforms) {
      const build = project.build(platform);
      const side = platforms.length > 1 ? "shared" : platform;
      const mistakes = isCentral(build) ? besideList(project, build, side) : unversioned(project, build, side);
      for (const mistake of mistakes) {
        const key = `${mistake.name} ${mistake.at.file} ${mistake.at.line}`;
        if (!found.has(key)) found.set(key, mistake);
      }
    }
  return [...found.values()];
}

function besideList(project: DotnetProject, build: Evaluated, side: SideName): CentralMistake[] {
  const property = build.property("ManagePackageVersionsCentrally");
  return includesOf(build, "PackageReference").flatMap((item): CentralMistake[] => {
    if (item.open || item.metadata.get("IsImplicitlyDefined")) return [];
    const own = item.metadata.get("Version");
    const fixed =
      item.metadata.has("VersionOverride") ||
      updatesOf(build, "PackageReference", item.include).some(({ metadata }) => metadata.has("VersionOverride"));
    const what = own ? "own version" : !fixed && central(build, item.include) === undefined ? "no version" : undefined;
    // Of a list that could not be read to its end nobody knows what it leaves out.
    if (what === undefined || (what === "no version" && build.imports.some(({ exists }) => exists !== true))) return [];
    return [{ name: item.include, what, side, at: own?.at ?? item.at, list: property?.place ?? startOf(project.file) }];
  });
}

/** Packages of the framework to which its own edition gives the version. Source: learn.microsoft.com, "Implicit package references". */
const IMPLICIT = /^(?:Microsoft\.(?:AspNetCore|NETCore)\.(?:App|All)|NETStandard\.Library|FSharp\.Core)$/i;

function unversioned(project: DotnetProject, build: Evaluated, side: SideName): CentralMistake[] {
  if (build.imports.some(({ exists }) => exists !== true)) return [];
  return includesOf(build, "PackageReference").flatMap((item): CentralMistake[] => {
    const updates = updatesOf(build, "PackageReference", item.include);
    const has = (name: string): boolean => item.metadata.has(name) || updates.some(({ metadata }) => metadata.has(name));
    if (item.open || item.include.includes("$") || has("IsImplicitlyDefined") || has("Version") || has("VersionOverride")) return [];
    if (IMPLICIT.test(item.include)) return [];
    const listed = central(build, item.include);
    return [
      {
        name: item.include,
        what: listed ? "list switched off" : "none at all",
        side,
        at: item.at,
        list: listed?.place ?? startOf(project.file),
      },
    ];
  });
}

function dependencyOf(
  owner: DotnetProject,
  name: string,
  version: Value | undefined,
  side: SideName,
  place: Place,
  privateAssets: string | undefined,
): Dependency {
  return {
    sdk: sdkIdOf("nuget", name),
    side,
    ecosystem: "nuget",
    name,
    route: "registry",
    declared: version,
    locked: undefined,
    scope: "PackageReference",
    in: baseName(owner.file),
    direct: true,
    test: privateAssets?.toLowerCase() === "all",
    platform: PLATFORM_PACKAGE.test(name),
    conditional: false,
    places: [place],
  };
}

function packagesConfig(files: ProjectFiles, folder: string): { id: string; version: Value; at: Place }[] {
  const file = join(folder, "packages.config");
  const root = files.tree.isFile(file) ? files.xml(file)?.root : undefined;
  return children(root, "package").flatMap((element) => {
    const id = element.attributes.get("id");
    const version = element.attributes.get("version");
    return id && version
      ? [{ id: id.value, version: known(version.value, element.source.place(version.start)), at: element.source.place(id.start) }]
      : [];
  });
}

interface NugetLock {
  file: string;
  /** Every package by its name in lower case: what the direct ones ask for and get. */
  packages: Map<string, { requested: { text: string; at: Place } | undefined; resolved: { version: string; at: Place } | undefined }>;
  names: string[];
  /** The frameworks that it was made for. */
  frameworks: string[];
}

/** `packages.lock.json`: framework → package → resolved version. Source: learn.microsoft.com, "Locking dependencies". */
function readLock(files: ProjectFiles, project: DotnetProject): NugetLock | undefined {
  const named = textOfProperty(project.base, "NuGetLockFilePath");
  const file = join(project.folder, (named ?? "packages.lock.json").replaceAll("\\", "/"));
  const root = files.tree.isFile(file) ? files.json(file)?.root : undefined;
  if (!root) return undefined;
  const lock: NugetLock = { file, packages: new Map(), names: [], frameworks: [] };
  for (const [framework, { value }] of entriesOf(at(root, "dependencies"))) {
    lock.frameworks.push(framework);
    for (const [name, entry] of entriesOf(value)) {
      lock.names.push(name);
      const resolved = at(entry.value, "resolved");
      const requested = at(entry.value, "requested");
      if (textAt(entry.value, "type") !== "Direct" || lock.packages.has(name.toLowerCase())) continue;
      lock.packages.set(name.toLowerCase(), {
        requested: requested?.kind === "scalar" ? { text: String(requested.value), at: placeOf(requested) } : undefined,
        resolved: resolved?.kind === "scalar" ? { version: String(resolved.value), at: placeOf(resolved) } : undefined,
      });
    }
  }
  return lock;
}

/** The lock of a project: there, asked for and missing, or made for other references. */
function noteLock(
  files: ProjectFiles,
  app: FactSink,
  { project, platforms }: UnitOfApp,
  lock: NugetLock | undefined,
  declared: readonly Dependency[],
): void {
  const wanted = project.all.some((build) => isOn(build, "RestorePackagesWithLockFile") || isOn(build, "RestoreLockedMode"));
  if (!lock && !wanted) return;
  const side: SideName = platforms.length === 1 && project.frameworks.length <= 1 ? (platforms[0] as Platform) : "shared";
  const fact: LockFact = {
    manager: "nuget",
    side,
    manifest: startOf(project.file),
    lockName: "packages.lock.json",
    lock: lock?.file,
    expected: true,
    needed: declared.length > 0,
    installedApart: [],
    declaredApart: [],
    broken: files.unreadable.some(({ file }) => file === lock?.file || file === project.file),
  };
  if (lock)
    for (const dependency of declared) {
      if (dependency.conditional) continue;
      const entry = lock.packages.get(dependency.name.toLowerCase());
      const text = textOf(dependency.declared);
      if (!entry) {
        if (!fact.declaredApart.some(({ name }) => name === dependency.name))
          fact.declaredApart.push({
            name: dependency.name,
            declared: text,
            recorded: undefined,
            places: [...dependency.places, startOf(lock.file)],
          });
      } else if (text !== undefined && entry.resolved && !isMadeFor(text, entry))
        fact.declaredApart.push({
          name: dependency.name,
          declared: text,
          recorded: entry.requested?.text ?? entry.resolved.version,
          places: [...dependency.places, entry.resolved.at],
        });
    }
  app.lock(fact);
}

/** Whether a lock's entry was made for what is declared: it records the range, in which `1.0` is `[1.0.0, )`. */
function isMadeFor(
  declared: string,
  { requested, resolved }: { requested?: { text: string } | undefined; resolved?: { version: string } | undefined },
): boolean {
  if (resolved && satisfies(resolved.version, declared) === false) return false;
  const lowest = (range: string): string | undefined => /^[[(]?\s*([\d][^,\s\])]*)/.exec(range.trim())?.[1];
  const [own, recorded] = [lowest(declared), requested && lowest(requested.text)];
  return own === undefined || recorded === undefined || own.includes("*") || recorded.includes("*") || compare(own, recorded) === 0;
}

/** Where packages come from: `NuGet.config` in the folders above, the nearest first. */
export interface PackageSources {
  sources: { key: string; url: string; at: Place }[];
  /** Patterns of packages by source; empty without a mapping. */
  mapping: { source: string; pattern: string; at: Place }[];
  file: Place | undefined;
  /** What the machine and the person have is not asked. */
  cleared: boolean;
}

/**
 * The sources in the `NuGet.config` files from a folder up to the root. Files of the machine and of the person, which nobody can see, add
 * theirs, unless one here clears the list. Source: learn.microsoft.com, "nuget.config reference", "Package source mapping".
 */
function packageSources(files: ProjectFiles, folder: string): PackageSources {
  const chain: XmlElement[] = sourceFiles(files, folder);
  const result: PackageSources = { sources: [], mapping: [], file: undefined, cleared: false };
  const off = new Set<string>();
  for (const root of chain) {
    result.file = root.source.place(root.start);
    for (const section of root.children)
      for (const element of section.children) {
        const key = element.attributes.get("key")?.value ?? "";
        if (section.name === "packageSources") {
          const value = element.attributes.get("value");
          if (element.name === "clear") {
            result.sources = [];
            result.cleared = true;
          } else if (element.name === "remove") result.sources = result.sources.filter((source) => source.key !== key);
          else if (element.name === "add" && value) result.sources.push({ key, url: value.value, at: element.source.place(value.start) });
        } else if (section.name === "disabledPackageSources") {
          if (element.name === "clear") off.clear();
          else if (/^true$/i.test(element.attributes.get("value")?.value ?? "")) off.add(key);
        } else if (section.name === "packageSourceMapping") {
          if (element.name === "clear") result.mapping = [];
          else
            for (const one of children(element, "package")) {
              const pattern = one.attributes.get("pattern");
              if (pattern) result.mapping.push({ source: key, pattern: pattern.value, at: one.source.place(pattern.start) });
            }
        }
      }
  }
  result.sources = result.sources.filter(({ key }) => !off.has(key));
  return result;
}

/** The files of sources above a folder, the nearest last. */
function sourceFiles(files: ProjectFiles, folder: string): XmlElement[] {
  const chain: XmlElement[] = [];
  for (let current = folder; ; current = parentOf(current)) {
    const named = files.tree.list(current).find(({ name, kind }) => kind === "file" && name.toLowerCase() === "nuget.config");
    const root = named && files.xml(join(current, named.name))?.root;
    if (root?.name === "configuration") chain.unshift(root);
    if (current === "" || current.startsWith("..")) break;
  }
  return chain;
}

/** Notes the sources, the folders among them, and the packages that no mapping covers. */
export function noteSources(files: ProjectFiles, app: FactSink, folder: string, side: SideName): void {
  const { sources, mapping, file, cleared } = packageSources(files, folder);
  for (const { url, at: place } of sources) {
    if (/^\w+:\/\//.test(url)) {
      app.repository({ kind: "url", url: known(url, place), for: "packages", groups: [], module: "NuGet.config", at: place });
      continue;
    }
    const text = url.replaceAll("\\", "/");
    // A variable of the environment is the machine's.
    const resolved = isAbsolutePath(text) || text.includes("%") ? undefined : join(parentOf(place.file), text);
    app.pathFollowed({
      text,
      resolved,
      kind: "repository",
      exists: resolved === undefined ? undefined : files.tree.isFolder(resolved),
      side,
      generated: false,
      at: place,
    });
  }
  // Sources of the machine come on top, unless the list is cleared.
  for (const { source, at: place } of cleared ? mapping : [])
    if (!sources.some(({ key }) => key.toLowerCase() === source.toLowerCase()))
      app.unfitValue({ what: "source of a mapping", value: source, side, at: place });
  if (mapping.length === 0 || !file) return;
  const patterns = mapping.map(({ pattern }) => pattern.toLowerCase());
  const covered = (name: string): boolean =>
    patterns.some((pattern) => (pattern.endsWith("*") ? name.startsWith(pattern.slice(0, -1)) : name === pattern));
  const [first] = mapping;
  for (const dependency of app.dependencies)
    if (dependency.ecosystem === "nuget" && !covered(dependency.name.toLowerCase()) && first)
      app.repositoryUncovered({
        package: dependency.name,
        sdk: dependency.sdk,
        side: dependency.side,
        at: dependency.places[0] ?? file,
        list: first.at,
      });
}
