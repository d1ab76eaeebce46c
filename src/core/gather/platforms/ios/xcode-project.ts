import { baseName, join, parentOf } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, keyPlace, placeOf, textAt, textsOf, valueAt, type Data } from "../../../syntax/data.js";
import type { Requirement } from "../../../versions/swiftpm.js";
import type { IosTargetFacts } from "../../../model/xcode.js";
import { BuildSettings, layerOf, layerOfFile, type SettingLayers } from "./settings.js";

/** A configuration with its build settings, which are worked out when they are asked for. */
export interface IosConfiguration {
  name: string;
  settings: BuildSettings;
}

/** A target while it is read. */
export interface IosTarget extends IosTargetFacts {
  configurations: IosConfiguration[];
  /** The file name of what it makes. */
  product: string | undefined;
  /** Names of files that it copies, into whichever folder. */
  copied: string[];
}

export interface SwiftPackageReference {
  id: string;
  /** Repository address, or the path of a local package. */
  location: string;
  local: boolean;
  requirement: Requirement | undefined;
  requirementText: string | undefined;
  at: Place;
  requirementAt: Place | undefined;
}

export interface FileReference {
  path: string;
  /** Relative to the survey's root; absent when the project does not fix it. */
  resolved: string | undefined;
  absolute: boolean;
  at: Place;
}

export interface XcodeProject {
  /** The `.xcodeproj` folder. */
  path: string;
  file: string;
  folder: string;
  targets: IosTarget[];
  packages: SwiftPackageReference[];
  binaries: FileReference[];
  searchPaths: FileReference[];
  start: Place;
}

/** Files of a synchronized folder that a target leaves out, or that one takes in which has not the folder. */
interface FolderException {
  group: string;
  folder: string;
  /** The target's id. */
  of: string | undefined;
  files: string[];
}

/** Source: Xcode 16's project files (PBXFileSystemSynchronizedBuildFileExceptionSet). */
function exceptionsIn(objects: Data, paths: ReturnType<typeof resolveGroups>): FolderException[] {
  return entriesOf(objects).flatMap(([group, { value }]) => {
    const folder = textAt(value, "isa") === "PBXFileSystemSynchronizedRootGroup" ? paths.get(group)?.resolved : undefined;
    if (folder === undefined) return [];
    return textsOf(at(value, "exceptions")).map((id) => ({
      group,
      folder,
      of: textAt(at(objects, id), "target"),
      files: textsOf(at(objects, id, "membershipExceptions")),
    }));
  });
}

/** The same as it is kept between runs. */
interface KeptXcodeProject extends Omit<XcodeProject, "targets"> {
  targets: (Omit<IosTarget, "configurations"> & { configurations: { name: string; settings: SettingLayers }[] })[];
}

/** Reads `project.pbxproj`, of which an earlier run may know. Source: the format's own files; Xcode help for the meaning of build phases and settings. */
export function readXcodeProject(project: ProjectFiles, path: string): XcodeProject | undefined {
  let made: XcodeProject | undefined;
  const kept = project.part("xcode", [path], (): KeptXcodeProject | undefined => {
    made = parseXcodeProject(project, path);
    return (
      made && {
        ...made,
        targets: made.targets.map((target) => ({
          ...target,
          configurations: target.configurations.map(({ name, settings }) => ({ name, settings: settings.plain })),
        })),
      }
    );
  });
  if (made || !kept) return made;
  const targets = kept.targets.map((target) => ({
    ...target,
    configurations: target.configurations.map(({ name, settings }) => ({ name, settings: new BuildSettings(...settings) })),
  }));
  return { ...kept, targets };
}

function parseXcodeProject(project: ProjectFiles, path: string): XcodeProject | undefined {
  const file = join(path, "project.pbxproj");
  const data = project.plist(file);
  const objects = at(data?.root, "objects");
  if (!data || objects?.kind !== "map") return undefined;
  const folder = parentOf(path);
  const get = (id: string | undefined): Data | undefined => (id === undefined ? undefined : at(objects, id));
  const ids = (data_: Data | undefined): string[] => itemsOf(data_).flatMap((item) => (item.kind === "scalar" ? String(item.value) : []));
  const rootObject = get(textAt(data.root, "rootObject"));
  const start = data.source.place(0);

  const mainGroup = textAt(rootObject, "mainGroup");
  const projectDir = textAt(rootObject, "projectDirPath") ?? "";
  const base = join(folder, projectDir);
  const paths = resolveGroups(objects, mainGroup, base);

  const configurationsOf = (listId: string | undefined): { id: string; name: string; data: Data }[] =>
    ids(at(get(listId), "buildConfigurations")).flatMap((id) => {
      const configuration = get(id);
      const name = textAt(configuration, "name");
      return configuration && name ? [{ id, name, data: configuration }] : [];
    });
  const fileLayer = (configuration: Data | undefined, from: "project file" | "target file") => {
    const reference = textAt(configuration, "baseConfigurationReference");
    const anchor = textAt(configuration, "baseConfigurationReferenceAnchor");
    const relative = textAt(configuration, "baseConfigurationReferenceRelativePath");
    const anchored = anchor && relative ? join(paths.get(anchor)?.resolved ?? base, relative) : undefined;
    const resolved = anchored ?? (reference === undefined ? undefined : paths.get(reference)?.resolved);
    return resolved === undefined ? { from, values: new Map() } : layerOfFile(project, from, resolved);
  };

  const projectConfigurations = configurationsOf(textAt(rootObject, "buildConfigurationList"));
  const exceptions = exceptionsIn(objects, paths);
  const targets: IosTarget[] = [];
  for (const id of ids(at(rootObject, "targets"))) {
    const target = get(id);
    const name = textAt(target, "name");
    if (!target || !name) continue;
    const listId = textAt(target, "buildConfigurationList");
    const configurations = configurationsOf(listId).map((configuration): IosConfiguration => {
      const above = projectConfigurations.find((candidate) => candidate.name === configuration.name);
      const layers = [
        fileLayer(above?.data, "project file"),
        layerOf("project", at(above?.data, "buildSettings")),
        fileLayer(configuration.data, "target file"),
        layerOf("target", at(configuration.data, "buildSettings")),
      ];
      const builtIn = new Map([
        ["TARGET_NAME", name],
        ["TARGETNAME", name],
        ["PRODUCT_NAME", name],
        ["CONFIGURATION", configuration.name],
        ["SRCROOT", ""],
        ["PROJECT_DIR", ""],
        ["PROJECT_NAME", baseName(path).replace(/\.xcodeproj$/, "")],
      ]);
      return { name: configuration.name, settings: new BuildSettings(layers, builtIn, placeOf(configuration.data)) };
    });
    const phases = ids(at(target, "buildPhases")).map(get);
    const linked: IosTarget["linked"] = [];
    const embedded: IosTarget["embedded"] = [];
    const resources: string[] = [];
    const copied: string[] = [];
    const sources: string[] = [];
    const scripts: string[] = [];
    const sourcesAt = new Map<string, Place>();
    const resourcesAt = new Map<string, Place>();
    const products = new Set<string>();
    for (const phase of phases) {
      const isa = textAt(phase, "isa");
      if (isa === "PBXShellScriptBuildPhase") scripts.push(textAt(phase, "shellScript") ?? "");
      if (isa === "PBXResourcesBuildPhase" || isa === "PBXSourcesBuildPhase") {
        for (const buildFile of ids(at(phase, "files")).map(get)) {
          const reference = textAt(buildFile, "fileRef") ?? "";
          // A localized file is a group of its languages.
          for (const id_ of [reference, ...ids(at(get(reference), "children"))]) {
            const resolved = paths.get(id_)?.resolved;
            if (resolved === undefined) continue;
            (isa === "PBXSourcesBuildPhase" ? sources : resources).push(resolved);
            const named = get(id_);
            if (named) (isa === "PBXSourcesBuildPhase" ? sourcesAt : resourcesAt).set(resolved, placeOf(named));
          }
        }
      }
      if (isa !== "PBXFrameworksBuildPhase" && isa !== "PBXCopyFilesBuildPhase") continue;
      for (const buildFile of ids(at(phase, "files")).map(get)) {
        products.add(textAt(buildFile, "productRef") ?? "");
        const reference = get(textAt(buildFile, "fileRef"));
        const label = textAt(reference, "name") ?? baseName(textAt(reference, "path") ?? "");
        if (!reference || !label) continue;
        if (isa === "PBXCopyFilesBuildPhase") {
          copied.push(label);
          if (textAt(phase, "dstSubfolderSpec") === "10") embedded.push({ name: label, at: placeOf(reference) });
        } else linked.push({ name: label, path: paths.get(textAt(buildFile, "fileRef") ?? "")?.resolved, at: placeOf(reference) });
      }
    }
    const packageProducts = ids(at(target, "packageProductDependencies")).flatMap((dependency) => {
      const entry = get(dependency);
      const product = valueAt(entry, "productName");
      return product?.kind === "known"
        ? [{ product: product.text, package: textAt(entry, "package"), linked: products.has(dependency), at: product.place }]
        : [];
    });
    const own = ids(at(target, "fileSystemSynchronizedGroups"));
    const leftOut: string[] = [];
    for (const { group, folder, of, files } of exceptions) {
      if (of !== id) continue;
      for (const file of files.map((one) => join(folder, one)))
        if (own.includes(group)) leftOut.push(file);
        else (/\.(swift|mm?|c|cc|cpp)$/.test(file) ? sources : resources).push(file);
    }
    targets.push({
      name,
      type: textAt(target, "productType") ?? textAt(target, "isa") ?? "",
      configurations,
      defaultConfiguration: textAt(get(listId), "defaultConfigurationName") ?? "Release",
      at: valueAt(target, "name")?.place ?? placeOf(target),
      linked,
      embedded,
      resources,
      sources,
      synchronized: own.flatMap((group) => paths.get(group)?.resolved ?? []),
      leftOut,
      copied,
      product: textAt(get(textAt(target, "productReference")), "path"),
      scripts,
      packageProducts,
      sourcesAt,
      resourcesAt,
    });
  }

  const packages: SwiftPackageReference[] = [];
  for (const [id, { value }] of entriesOf(objects)) {
    const isa = textAt(value, "isa");
    if (isa === "XCRemoteSwiftPackageReference") {
      const location = valueAt(value, "repositoryURL");
      if (location?.kind !== "known") continue;
      const requirement = at(value, "requirement");
      packages.push({
        id,
        location: location.text,
        local: false,
        requirement: requirementOf(requirement),
        requirementText: undefined,
        at: location.place,
        requirementAt: versionPlace(requirement),
      });
    } else if (isa === "XCLocalSwiftPackageReference") {
      const location = valueAt(value, "relativePath");
      if (location?.kind === "known")
        packages.push({
          id,
          location: location.text,
          local: true,
          requirement: undefined,
          requirementText: undefined,
          at: location.place,
          requirementAt: undefined,
        });
    }
  }

  for (const { packageProducts } of targets)
    for (const product of packageProducts) {
      const location = packages.find(({ id }) => id === product.package)?.location;
      if (location !== undefined) product.location = location;
    }

  const binaries: FileReference[] = [];
  for (const [id, reference] of paths) {
    if (reference.isBinary)
      binaries.push({
        path: reference.path,
        resolved: reference.resolved,
        absolute: reference.absolute,
        at: reference.at ?? keyPlace(objects, id) ?? start,
      });
  }
  return { path, file, folder, targets, packages, binaries, searchPaths: searchPaths(targets, folder), start };
}

function requirementOf(data: Data | undefined): Requirement | undefined {
  const text = (key: string) => textAt(data, key) ?? "";
  switch (textAt(data, "kind")) {
    case "exactVersion":
      return { kind: "exact", version: text("version") };
    case "upToNextMajorVersion":
      return { kind: "upToNextMajor", version: text("minimumVersion") };
    case "upToNextMinorVersion":
      return { kind: "upToNextMinor", version: text("minimumVersion") };
    case "versionRange":
      return { kind: "range", from: text("minimumVersion"), to: text("maximumVersion"), closed: false };
    case "branch":
      return { kind: "branch", name: text("branch") };
    case "revision":
      return { kind: "revision", name: text("revision") };
    default:
      return undefined;
  }
}

function versionPlace(requirement: Data | undefined): Place | undefined {
  for (const key of ["version", "minimumVersion", "branch", "revision"]) {
    const value = valueAt(requirement, key);
    if (value) return value.place;
  }
  return undefined;
}

interface ResolvedReference {
  path: string;
  resolved: string | undefined;
  absolute: boolean;
  isBinary: boolean;
  at: Place | undefined;
}

/** Where every file and group lies, from the tree of groups; circles are cut. */
function resolveGroups(objects: Data, mainGroup: string | undefined, base: string): Map<string, ResolvedReference> {
  const result = new Map<string, ResolvedReference>();
  const open: { id: string; parent: string | undefined }[] = mainGroup === undefined ? [] : [{ id: mainGroup, parent: base }];
  for (let next = open.pop(); next; next = open.pop()) {
    if (result.has(next.id)) continue;
    const data = at(objects, next.id);
    const path = textAt(data, "path");
    const tree = textAt(data, "sourceTree") ?? "<group>";
    let resolved: string | undefined;
    if (tree === "<group>") resolved = next.parent === undefined ? undefined : join(next.parent, path ?? "");
    else if (tree === "SOURCE_ROOT") resolved = join(base, path ?? "");
    const absolute = tree === "<absolute>" || (path?.startsWith("/") ?? false);
    if (absolute) resolved = undefined;
    const isBinary =
      path !== undefined && (absolute || tree === "<group>" || tree === "SOURCE_ROOT") && /\.(framework|xcframework|a|dylib)$/.test(path);
    result.set(next.id, { path: path ?? "", resolved, absolute, isBinary, at: valueAt(data, "path")?.place });
    for (const child of itemsOf(at(data, "children")))
      if (child.kind === "scalar") open.push({ id: String(child.value), parent: resolved });
  }
  return result;
}

const SEARCH_PATHS = ["FRAMEWORK_SEARCH_PATHS", "LIBRARY_SEARCH_PATHS", "HEADER_SEARCH_PATHS"];

function searchPaths(targets: IosTarget[], folder: string): FileReference[] {
  const found = new Map<string, FileReference>();
  for (const target of targets) {
    for (const configuration of target.configurations) {
      for (const name of SEARCH_PATHS) {
        for (const { value } of configuration.settings.statements(name)) {
          if (value.kind !== "known") continue;
          for (const entry of value.text.match(/"[^"]*"|\S+/g) ?? []) {
            const text = entry.replaceAll('"', "").replace(/\/\*\*$/, "");
            if (text === "" || text.includes("$")) continue;
            const absolute = text.startsWith("/");
            if (absolute && !/^\/(Users|home|Volumes|private|tmp|opt\/homebrew|usr\/local)\//.test(text)) continue;
            if (!found.has(text))
              found.set(text, { path: text, resolved: absolute ? undefined : join(folder, text), absolute, at: value.place });
          }
        }
      }
    }
  }
  return [...found.values()];
}
