import { baseName, join, parentOf } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, keyPlace, placeOf, textAt, textsOf, valueAt, type Data, type DataFile } from "../../../syntax/data.js";
import type { Requirement } from "../../../versions/swiftpm.js";
import type { IosTargetFacts } from "../../../model/xcode.js";
import { BuildSettings, layerOf, layerOfFile, type SettingLayer, type SettingLayers } from "./settings.js";

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
  /** Products that it copies, each with the folder inside the product where it puts them, "" for the one that the phase's kind gives. */
  placed: { name: string; folder: string }[];
  /** Objects that it refers to and that the project file does not have, by what their comments call them. */
  lost: { name: string; at: Place }[];
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
  /** Other projects that it refers to. */
  references: string[];
  binaries: FileReference[];
  searchPaths: FileReference[];
  start: Place;
  /** Where the project is written from a spec and is not there itself. */
  spec?: { faults: readonly SpecFault[]; schemes: readonly SchemeFacts[] };
}

/** What a spec names and does not have, or that is not there; no project is written from it then. */
export interface SpecFault {
  /** Absent for files and folders. */
  what?: "target" | "package" | "template" | "settings group" | "configuration";
  text: string;
  /** Where a file would lie. */
  resolved: string | undefined;
  /** What could be meant. */
  among: readonly string[];
  at: Place;
}

/** What a shared scheme builds, and by which configuration. */
export interface SchemeFacts {
  name: string;
  targets: string[];
  actions: { action: string; configuration: string; at: Place }[];
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
  const data = project.plist(join(path, "project.pbxproj"));
  const objects = at(data?.root, "objects");
  const file = join(path, "project.pbxproj");
  if (data && !project.unreadable.some((one) => one.file === file)) {
    // Source: the format's own files: what is in a project hangs on its root object.
    const lacks = objects?.kind !== "map" ? "objects" : at(objects, textAt(data.root, "rootObject") ?? "") ? undefined : "its root object";
    if (lacks !== undefined)
      project.complain({ file, message: `has no ${lacks}: no tool can open the project`, place: data.source.place(0) });
  }
  if (!data || objects?.kind !== "map") return undefined;
  const made = new PbxProject(project, path, data, objects).read();
  const list = at(at(objects, textAt(data.root, "rootObject") ?? ""), "targets");
  const [first] = itemsOf(list);
  if (first && made.targets.length === 0)
    project.complain({
      file,
      message: `names targets that it does not have (${named(first).name}): no app is built from it`,
      place: placeOf(first),
    });
  return made;
}

/** What the phases of a target take in. */
type PhaseContents = Pick<
  IosTarget,
  | "linked"
  | "embedded"
  | "resources"
  | "copied"
  | "placed"
  | "sources"
  | "scripts"
  | "scriptsBehindSources"
  | "sourcesAt"
  | "resourcesAt"
  | "packageProducts"
  | "lost"
>;

/** The objects of a project file, asked for by their ids. */
class PbxProject {
  private readonly folder: string;
  private readonly root: Data | undefined;
  private readonly start: Place;
  /** The folder that paths of the project are counted from. */
  private readonly base: string;
  private readonly paths: ReturnType<typeof resolveGroups>;
  private readonly exceptions: readonly FolderException[];

  constructor(
    private readonly project: ProjectFiles,
    private readonly path: string,
    data: DataFile,
    private readonly objects: Data,
  ) {
    this.folder = parentOf(path);
    this.root = this.get(textAt(data.root, "rootObject"));
    this.start = data.source.place(0);
    this.base = join(this.folder, textAt(this.root, "projectDirPath") ?? "");
    this.paths = resolveGroups(objects, textAt(this.root, "mainGroup"), this.base);
    this.exceptions = exceptionsIn(objects, this.paths);
  }

  read(): XcodeProject {
    const { path, folder, start } = this;
    const above = this.configurationsOf(textAt(this.root, "buildConfigurationList"));
    const targets = ids(at(this.root, "targets")).flatMap((id) => this.target(id, above) ?? []);
    const [first] = targets;
    if (first) first.lost.push(...this.lostAround(this.root), ...this.lostOf(at(this.root, "targets")));
    const packages = this.packages();
    for (const { packageProducts } of targets)
      for (const product of packageProducts) {
        const location = packages.find(({ id }) => id === product.package)?.location;
        if (location !== undefined) product.location = location;
      }
    const file = join(path, "project.pbxproj");
    const references = itemsOf(at(this.root, "projectReferences")).flatMap(
      (item) => this.paths.get(textAt(item, "ProjectRef") ?? "")?.resolved ?? [],
    );
    return {
      path,
      file,
      folder,
      targets,
      packages,
      references,
      binaries: this.binaries(),
      searchPaths: searchPaths(targets, folder),
      start,
    };
  }

  private get(id: string | undefined): Data | undefined {
    return id === undefined ? undefined : at(this.objects, id);
  }

  private configurationsOf(listId: string | undefined): NamedConfiguration[] {
    return ids(at(this.get(listId), "buildConfigurations")).flatMap((id) => {
      const data = this.get(id);
      const name = textAt(data, "name");
      return data && name ? [{ name, data }] : [];
    });
  }

  /** The settings of the file that a configuration is based on. */
  private fileLayer(configuration: Data | undefined, from: "project file" | "target file"): SettingLayer {
    const reference = textAt(configuration, "baseConfigurationReference");
    const anchor = textAt(configuration, "baseConfigurationReferenceAnchor");
    const relative = textAt(configuration, "baseConfigurationReferenceRelativePath");
    const anchored = anchor && relative ? join(this.paths.get(anchor)?.resolved ?? this.base, relative) : undefined;
    const resolved = anchored ?? (reference === undefined ? undefined : this.paths.get(reference)?.resolved);
    return resolved === undefined ? { from, values: new Map() } : layerOfFile(this.project, from, resolved);
  }

  private configuration(target: string, { name, data }: NamedConfiguration, ofProject: readonly NamedConfiguration[]): IosConfiguration {
    const above = ofProject.find((candidate) => candidate.name === name)?.data;
    const layers = [
      this.fileLayer(above, "project file"),
      layerOf("project", at(above, "buildSettings")),
      this.fileLayer(data, "target file"),
      layerOf("target", at(data, "buildSettings")),
    ];
    const builtIn = new Map([
      ["TARGET_NAME", target],
      ["TARGETNAME", target],
      ["PRODUCT_NAME", target],
      ["CONFIGURATION", name],
      ["SRCROOT", ""],
      ["PROJECT_DIR", ""],
      ["PROJECT_NAME", baseName(this.path).replace(/\.xcodeproj$/, "")],
    ]);
    return { name, settings: new BuildSettings(layers, builtIn, placeOf(data)) };
  }

  private target(id: string, above: readonly NamedConfiguration[]): IosTarget | undefined {
    const target = this.get(id);
    const name = textAt(target, "name");
    if (!target || !name) return undefined;
    const listId = textAt(target, "buildConfigurationList");
    const own = ids(at(target, "fileSystemSynchronizedGroups"));
    const contents = this.contents(target);
    return {
      name,
      type: textAt(target, "productType") ?? textAt(target, "isa") ?? "",
      configurations: this.configurationsOf(listId).map((configuration) => this.configuration(name, configuration, above)),
      defaultConfiguration: textAt(this.get(listId), "defaultConfigurationName") ?? "Release",
      at: valueAt(target, "name")?.place ?? placeOf(target),
      ...contents,
      synchronized: own.flatMap((group) => this.paths.get(group)?.resolved ?? []),
      leftOut: this.leftOut(id, own, contents),
      product: textAt(this.get(textAt(target, "productReference")), "path"),
    };
  }

  /** Files of the target's own synchronized folders that it leaves out; those that it takes of other folders are put to the others. */
  private leftOut(id: string, own: readonly string[], { sources, resources }: PhaseContents): string[] {
    const leftOut: string[] = [];
    for (const { group, folder, of, files } of this.exceptions) {
      if (of !== id) continue;
      for (const file of files.map((one) => join(folder, one)))
        if (own.includes(group)) leftOut.push(file);
        else (/\.(swift|mm?|c|cc|cpp)$/.test(file) ? sources : resources).push(file);
    }
    return leftOut;
  }

  private contents(target: Data): PhaseContents {
    const sourcesAt = new Map<string, Place>();
    const resourcesAt = new Map<string, Place>();
    const contents: PhaseContents = {
      linked: [],
      embedded: [],
      resources: [],
      copied: [],
      placed: [],
      sources: [],
      scripts: [],
      scriptsBehindSources: [],
      sourcesAt,
      resourcesAt,
      packageProducts: [],
      lost: this.lostIn(target),
    };
    const products = new Set<string>();
    let isCompiled = false;
    for (const phase of ids(at(target, "buildPhases")).map((id) => this.get(id)))
      switch (textAt(phase, "isa")) {
        case "PBXShellScriptBuildPhase":
          contents.scripts.push(textAt(phase, "shellScript") ?? "");
          if (isCompiled) contents.scriptsBehindSources.push(textAt(phase, "shellScript") ?? "");
          break;
        case "PBXSourcesBuildPhase":
          isCompiled = true;
          this.takeFiles(phase, contents.sources, sourcesAt);
          break;
        case "PBXResourcesBuildPhase":
          this.takeFiles(phase, contents.resources, resourcesAt);
          break;
        case "PBXFrameworksBuildPhase":
        case "PBXCopyFilesBuildPhase":
          this.takeProducts(phase, contents, products);
          break;
        default:
          break;
      }
    contents.packageProducts = ids(at(target, "packageProductDependencies")).flatMap((dependency) => {
      const entry = this.get(dependency);
      const product = valueAt(entry, "productName");
      return product?.kind === "known"
        ? [{ product: product.text, package: textAt(entry, "package"), linked: products.has(dependency), at: product.place }]
        : [];
    });
    return contents;
  }

  /**
   * What the phases of a target name and the project file does not have: a merge took it out, and the file or product is not built. Source: the format's own
   * files (an id has its object's name behind it as a comment).
   */
  private lostIn(target: Data): PhaseContents["lost"] {
    const lost = [...this.lostAround(target), ...this.lostOf(at(target, "dependencies")), ...this.lostOf(at(target, "buildPhases"))];
    const isLost = (id: string | undefined): boolean => id !== undefined && id !== "" && this.get(id) === undefined;
    for (const phase of itemsOf(at(target, "buildPhases")))
      for (const file of itemsOf(at(this.get(textAt(phase)), "files"))) {
        const built = this.get(textAt(file));
        const adrift = this.adrift(textAt(built, "fileRef"));
        if (adrift !== undefined) lost.push({ ...named(file), name: adrift });
        else if (!built || isLost(textAt(built, "fileRef")) || isLost(textAt(built, "productRef"))) lost.push(named(file, / in [\w ]+$/));
      }
    return lost;
  }

  /** The name of a file whose group the project does not have, so that it is looked up beside the project, and that is not there. */
  private adrift(id: string | undefined): string | undefined {
    const reference = this.get(id);
    const path = textAt(reference, "path") ?? "";
    // A file in a group of languages hangs on that.
    const isFile = textAt(reference, "isa") === "PBXFileReference" && textAt(reference, "sourceTree") === "<group>";
    if (id === undefined || path === "" || !isFile || this.paths.has(id)) return undefined;
    const { tree } = this.project;
    return tree.isFile(join(this.base, path)) || tree.isFolder(join(this.base, path)) ? undefined : baseName(path);
  }

  /** The configurations of a target or of the project, without which no tool opens it. */
  private lostAround(owner: Data | undefined): PhaseContents["lost"] {
    const list = at(owner, "buildConfigurationList");
    const object = this.get(textAt(list));
    return list && !object ? [named(list)] : this.lostOf(at(object, "buildConfigurations"));
  }

  /** Of a list of ids those that are of nothing. */
  private lostOf(list: Data | undefined): PhaseContents["lost"] {
    return itemsOf(list).flatMap((item) => (this.get(textAt(item)) ? [] : named(item)));
  }

  /** Files that a target compiles or copies, each with the place where the project names it. */
  private takeFiles(phase: Data | undefined, files: string[], named: Map<string, Place>): void {
    for (const buildFile of ids(at(phase, "files")).map((id) => this.get(id))) {
      const reference = textAt(buildFile, "fileRef") ?? "";
      // A localized file is a group of its languages.
      for (const id of [reference, ...ids(at(this.get(reference), "children"))]) {
        const resolved = this.paths.get(id)?.resolved;
        if (resolved === undefined) continue;
        files.push(resolved);
        const entry = this.get(id);
        if (entry) named.set(resolved, placeOf(entry));
      }
    }
  }

  /** Frameworks, libraries and products that a target links or copies. */
  private takeProducts(phase: Data | undefined, { copied, placed, embedded, linked }: PhaseContents, products: Set<string>): void {
    const copies = textAt(phase, "isa") === "PBXCopyFilesBuildPhase";
    for (const buildFile of ids(at(phase, "files")).map((id) => this.get(id))) {
      products.add(textAt(buildFile, "productRef") ?? "");
      const id = textAt(buildFile, "fileRef");
      const reference = this.get(id);
      const label = textAt(reference, "name") ?? baseName(textAt(reference, "path") ?? "");
      if (!reference || !label) continue;
      if (!copies) linked.push({ name: label, path: this.paths.get(id ?? "")?.resolved, at: placeOf(reference) });
      else {
        copied.push(label);
        placed.push({ name: label, folder: textAt(phase, "dstPath") ?? "" });
        if (textAt(phase, "dstSubfolderSpec") === "10") embedded.push({ name: label, at: placeOf(reference) });
      }
    }
  }

  private packages(): SwiftPackageReference[] {
    return entriesOf(this.objects).flatMap(([id, { value }]): SwiftPackageReference[] => {
      const isa = textAt(value, "isa");
      const local = isa === "XCLocalSwiftPackageReference";
      if (!local && isa !== "XCRemoteSwiftPackageReference") return [];
      const location = valueAt(value, local ? "relativePath" : "repositoryURL");
      if (location?.kind !== "known") return [];
      const requirement = local ? undefined : at(value, "requirement");
      return [
        {
          id,
          location: location.text,
          local,
          requirement: requirementOf(requirement),
          requirementText: undefined,
          at: location.place,
          requirementAt: versionPlace(requirement),
        },
      ];
    });
  }

  private binaries(): FileReference[] {
    return [...this.paths].flatMap(([id, { isBinary, path, resolved, absolute, at: place }]) =>
      isBinary ? [{ path, resolved, absolute, at: place ?? keyPlace(this.objects, id) ?? this.start }] : [],
    );
  }
}

/** What an id is of, by the comment behind it, and where it stands. */
function named(item: Data, without = /^$/): PhaseContents["lost"][number] {
  const { source, start } = item;
  const label = /^\s*"?\w+"?\s*\/\*\s*(.*?)\s*\*\//.exec(source.text.slice(start, start + 300).split("\n", 1)[0] ?? "")?.[1];
  return { name: (label ?? textAt(item) ?? "").replace(without, ""), at: source.place(start) };
}

interface NamedConfiguration {
  name: string;
  data: Data;
}

function ids(data: Data | undefined): string[] {
  return itemsOf(data).flatMap((item) => (item.kind === "scalar" ? String(item.value) : []));
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
    const absolute = tree === "<absolute>" || (path?.startsWith("/") ?? false);
    // What a template leaves open.
    const isOpen = /\$[A-Za-z{]/.test(path ?? "");
    const above = tree === "<group>" ? next.parent : tree === "SOURCE_ROOT" ? base : undefined;
    const resolved = absolute || isOpen || above === undefined ? undefined : join(above, path ?? "");
    const isBinary = !isOpen && namesBinary(path, absolute, tree);
    result.set(next.id, { path: path ?? "", resolved, absolute, isBinary, at: valueAt(data, "path")?.place });
    for (const child of itemsOf(at(data, "children")))
      if (child.kind === "scalar") open.push({ id: String(child.value), parent: resolved });
  }
  return result;
}

const SEARCH_PATHS = ["FRAMEWORK_SEARCH_PATHS", "LIBRARY_SEARCH_PATHS", "HEADER_SEARCH_PATHS"];

/** Whether a reference is to a library that lies in the tree. */
function namesBinary(path: string | undefined, absolute: boolean, tree: string): boolean {
  return (
    path !== undefined && (absolute || tree === "<group>" || tree === "SOURCE_ROOT") && /\.(framework|xcframework|a|dylib)$/.test(path)
  );
}

export function searchPaths(targets: IosTarget[], folder: string): FileReference[] {
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
