import { ignoreMatcher } from "../../../../settings/ignore.js";
import { baseName, join, relativeTo } from "../../../../model/paths.js";
import type { Place } from "../../../../model/place.js";
import {
  at,
  entriesOf,
  keyPlace,
  mapOf,
  placeOf,
  scalarOf,
  textAt,
  textsOf,
  valueAt,
  type Data,
  type MapData,
} from "../../../../syntax/data.js";
import type { Requirement } from "../../../../versions/swiftpm.js";
import { isKeptOut } from "../../../git-ignored.js";
import type { ProjectFiles } from "../../../project-files.js";
import { BuildSettings, layerOf, layerOfFile, type SettingLayer } from "../settings.js";
import { searchPaths, type IosConfiguration, type IosTarget, type SwiftPackageReference, type XcodeProject } from "../xcode-project.js";
import { oneOrMore, ProjectSpec, rewritten } from "./merge.js";
import { schemesOf } from "./schemes.js";

/** Names of specs that projects are written from. Source: XcodeGen, "Usage". */
export const SPEC_NAMES: ReadonlySet<string> = new Set(["project.yml", "project.yaml"]);

/**
 * Reads the spec that an Xcode project is written from, where that project itself is kept out of the repository, into what would be in it. Property lists and lists
 * of entitlements that are written from the spec are laid down as it has them. Source: XcodeGen, "ProjectSpec".
 */
export function readProjectSpec(project: ProjectFiles, file: string): XcodeProject | undefined {
  const spec = new ProjectSpec(project, file);
  const isSpec = entriesOf(at(spec.root, "targets")).some(
    ([, { value }]) => at(value, "type") !== undefined || at(value, "templates") !== undefined,
  );
  if (!spec.root || !isSpec) return undefined;
  const path = join(spec.folder, `${textAt(spec.root, "name") ?? "Project"}.xcodeproj`);
  // One that is in the repository is what is built.
  if (project.tree.isFile(join(path, "project.pbxproj")) && !isKeptOut(project, path)) return undefined;
  const xcode = new SpecReader(project, spec, spec.root, path).read();
  // What would be an app's is lost with it.
  if (!xcode.targets.some(({ type }) => type === "com.apple.product-type.application"))
    for (const { what = "file", text, at: place } of spec.faults)
      project.complain({
        file: place.file,
        message: `names the ${what} ${text}, which is not there: no project is written from it`,
        place,
      });
  return xcode;
}

/** A configuration of the spec. */
interface Kind {
  name: string;
  type: string;
}

interface SpecTarget {
  name: string;
  data: Data;
  type: string;
  platform: string;
  at: Place;
  product: string;
}

/** Ends of the names of what targets make. Source: Xcode help, "Product types". */
const ENDINGS: readonly [type: RegExp, ending: string][] = [
  [/^application/, ".app"],
  [/^(app|extensionkit|watchkit\d?|tv-app)-extension/, ".appex"],
  [/^framework/, ".framework"],
  [/^bundle\.(unit-test|ui-testing)/, ".xctest"],
  [/^library\.static/, ".a"],
  [/^bundle/, ".bundle"],
];

/** Systems that a target is built for, by what the spec calls them. */
const ROOTS: Readonly<Record<string, string>> = {
  iOS: "iphoneos",
  tvOS: "appletvos",
  macOS: "macosx",
  watchOS: "watchos",
  visionOS: "xros",
};

/** Systems of supported destinations. */
const DESTINATIONS: Readonly<Record<string, string>> = {
  iOS: "iphoneos iphonesimulator",
  tvOS: "appletvos appletvsimulator",
  macOS: "macosx",
  macCatalyst: "",
  watchOS: "watchos watchsimulator",
  visionOS: "xros xrsimulator",
};

/** What a property list has that is written from a spec. Source: XcodeGen, "ProjectSpec" (info). */
const LIST_DEFAULTS: readonly [key: string, value: string][] = [
  ["CFBundleIdentifier", "$(PRODUCT_BUNDLE_IDENTIFIER)"],
  ["CFBundleInfoDictionaryVersion", "6.0"],
  ["CFBundleName", "$(PRODUCT_NAME)"],
  ["CFBundleExecutable", "$(EXECUTABLE_NAME)"],
  ["CFBundlePackageType", "$(PRODUCT_BUNDLE_PACKAGE_TYPE)"],
  ["CFBundleDevelopmentRegion", "$(DEVELOPMENT_LANGUAGE)"],
  ["CFBundleShortVersionString", "1.0"],
  ["CFBundleVersion", "1"],
];

class SpecReader {
  private readonly kinds: readonly Kind[];
  private readonly targets: readonly SpecTarget[];
  private readonly packages: readonly SwiftPackageReference[];
  private readonly binaries: XcodeProject["binaries"] = [];

  constructor(
    private readonly project: ProjectFiles,
    private readonly spec: ProjectSpec,
    private readonly root: MapData,
    private readonly path: string,
  ) {
    const stated = entriesOf(at(root, "configs")).map(([name, { value }]) => ({ name, type: textAt(value) ?? "" }));
    this.kinds =
      stated.length > 0
        ? stated
        : [
            { name: "Debug", type: "debug" },
            { name: "Release", type: "release" },
          ];
    this.targets = entriesOf(at(root, "targets")).flatMap(([name, { value, start }]) =>
      this.targetsOf(name, spec.withTemplates(name, value, "targetTemplates"), value.source.place(start)),
    );
    this.packages = entriesOf(at(root, "packages")).flatMap(([name, { value }]) => this.packageOf(name, value) ?? []);
  }

  read(): XcodeProject {
    const { spec, root, path } = this;
    this.noteConfigurations(root);
    const targets = this.targets.map((target) => this.target(target));
    return {
      path,
      file: spec.file,
      folder: spec.folder,
      targets,
      packages: [...this.packages],
      references: entriesOf(at(root, "projectReferences")).flatMap(([, { value }]) => {
        const stated = at(value, "path");
        return (stated && spec.pathOf(stated)) ?? [];
      }),
      binaries: this.binaries,
      searchPaths: searchPaths(targets, spec.folder),
      start: spec.root?.source.place(0) ?? placeOf(root),
      spec: {
        faults: spec.faults,
        schemes: schemesOf(
          spec,
          this.targets.map(({ name, data }) => ({ name, data })),
          this.kinds,
        ),
      },
    };
  }

  /** A target, or one for each system that it is built for. */
  private targetsOf(name: string, data: Data, place: Place): SpecTarget[] {
    const type = textAt(data, "type") ?? "";
    const systems = textsOf(at(data, "platform"));
    const product = (of: string): string => {
      const ending = ENDINGS.find(([form]) => form.test(type))?.[1] ?? "";
      return `${type === "library.static" ? "lib" : ""}${textAt(data, "productName") ?? of}${ending}`;
    };
    if (type === "") return [];
    if (at(data, "platform")?.kind !== "list")
      return [{ name, data, type, platform: systems[0] ?? "auto", at: place, product: product(name) }];
    const suffix = textAt(data, "platformSuffix");
    const prefix = textAt(data, "platformPrefix") ?? "";
    return systems.map((platform) => {
      const own = rewritten(data, (text) => text.replaceAll("${platform}", platform));
      const of = `${prefix.replaceAll("${platform}", platform)}${name}${suffix?.replaceAll("${platform}", platform) ?? `_${platform}`}`;
      return { name: of, data: own, type, platform, at: place, product: product(name) };
    });
  }

  private target({ name, data, type, platform, at: place, product }: SpecTarget): IosTarget {
    const { spec } = this;
    this.noteConfigurations(data);
    const lists = [this.list(data, "info", type), this.list(data, "entitlements", type)].flatMap((path) => path ?? []);
    const target: IosTarget = {
      name,
      type: `com.apple.product-type.${type}`,
      configurations: this.kinds.map((kind) => this.configuration(name, data, kind, platform)),
      defaultConfiguration:
        textAt(this.root, "options", "defaultConfig") ?? this.kinds.find((kind) => kind.type === "release")?.name ?? "Release",
      at: place,
      linked: [],
      embedded: [],
      resources: [],
      copied: [],
      placed: [],
      sources: [],
      scripts: [],
      scriptsBehindSources: [],
      sourcesAt: new Map(),
      resourcesAt: new Map(),
      packageProducts: [],
      lost: [],
      synchronized: [],
      leftOut: lists,
      product,
    };
    for (const source of oneOrMore(at(data, "sources"))) this.takeSource(target, source);
    for (const dependency of oneOrMore(at(data, "dependencies"))) this.takeDependency(target, type, dependency);
    for (const [keys, isBehind] of [
      [["preBuildScripts", "prebuildScripts"], false],
      [["postCompileScripts", "postBuildScripts", "postbuildScripts"], true],
    ] as const)
      for (const script of keys.flatMap((key) => oneOrMore(at(data, key)))) {
        const stated = at(script, "path");
        const file = stated && spec.pathOf(stated);
        if (stated && file !== undefined && !this.project.tree.isFile(file)) spec.absent(stated, file);
        const text = (file === undefined ? undefined : this.project.text(file)?.text) ?? textAt(script, "script") ?? "";
        target.scripts.push(text);
        if (isBehind) target.scriptsBehindSources.push(text);
      }
    // A list that no key names is one that lies among the sources.
    this.takeListBeside(target);
    return target;
  }

  /** A list that is written from the spec: laid down as it has it. */
  private list(data: Data, key: "info" | "entitlements", type: string): string | undefined {
    const own = at(data, key);
    const stated = at(own, "path");
    const path = stated && this.spec.pathOf(stated);
    if (own?.kind !== "map" || path === undefined) return undefined;
    const root = mapOf(own.source, own.start);
    const properties = at(own, "properties");
    if (key === "info" && !/^library/.test(type))
      for (const [name, value] of LIST_DEFAULTS)
        root.entries.set(name, { start: own.start, value: scalarOf(own.source, own.start, value) });
    for (const [name, entry] of entriesOf(properties)) root.entries.set(name, entry);
    this.project.lay(path, {
      source: own.source,
      root: properties ? { ...root, source: properties.source, start: properties.start } : root,
      problems: [],
    });
    return path;
  }

  private configuration(name: string, data: Data, kind: Kind, platform: string): IosConfiguration {
    const { root } = this;
    const layers: SettingLayer[] = [
      this.fileLayer(root, kind, "project file"),
      layerOf("project", this.settingsOf(root, kind, this.levelsOf(at(root, "options", "deploymentTarget"), platform))),
      this.fileLayer(data, kind, "target file"),
      layerOf("target", this.settingsOf(data, kind, this.ownSettings(name, data, platform))),
    ];
    // What stands in braces may come from where the project is written.
    for (const layer of layers) layer.openBraces = true;
    const destinations = textsOf(at(data, "supportedDestinations")).flatMap((destination) => DESTINATIONS[destination] ?? []);
    const hasPresets = !/^(none|targets)$/.test(textAt(root, "options", "settingPresets") ?? "");
    const builtIn = new Map([
      ["TARGET_NAME", name],
      ["TARGETNAME", name],
      ["PRODUCT_NAME", name],
      ["CONFIGURATION", kind.name],
      ["SRCROOT", ""],
      ["PROJECT_DIR", ""],
      ["PROJECT_NAME", baseName(this.path).replace(/\.xcodeproj$/, "")],
      ...(ROOTS[platform] === undefined ? [] : [["SDKROOT", ROOTS[platform]] as const]),
      ...(destinations.length === 0 ? [] : [["SUPPORTED_PLATFORMS", destinations.join(" ")] as const]),
      ...(kind.type === "debug" && hasPresets ? [["SWIFT_ACTIVE_COMPILATION_CONDITIONS", "DEBUG"] as const] : []),
    ]);
    return { name: kind.name, settings: new BuildSettings(layers, builtIn, placeOf(data)) };
  }

  private fileLayer(of: Data, { name }: Kind, from: "project file" | "target file"): SettingLayer {
    const stated = at(of, "configFiles", name);
    const file = stated && this.spec.pathOf(stated);
    return file === undefined ? { from, values: new Map() } : layerOfFile(this.project, from, file);
  }

  /** What keys of a target say that are build settings in the project. */
  private ownSettings(name: string, data: Data, platform: string): MapData {
    const result = this.levelsOf(at(data, "deploymentTarget"), platform);
    const state = (setting: string, of: Data | undefined, text: string | undefined): void => {
      if (of && text !== undefined) result.entries.set(setting, { start: of.start, value: scalarOf(of.source, of.start, text) });
    };
    const prefix = at(this.root, "options", "bundleIdPrefix");
    if (/^[A-Za-z0-9-]+$/.test(name)) state("PRODUCT_BUNDLE_IDENTIFIER", prefix, `${textAt(prefix) ?? ""}.${name}`);
    const product = at(data, "productName");
    state("PRODUCT_NAME", product, textAt(product));
    for (const [key, setting] of [
      ["info", "INFOPLIST_FILE"],
      ["entitlements", "CODE_SIGN_ENTITLEMENTS"],
    ] as const) {
      const stated = at(data, key, "path");
      const path = stated && this.spec.pathOf(stated);
      state(setting, stated, path === undefined ? textAt(stated) : relativeTo(this.spec.folder, path));
    }
    return result;
  }

  private levelsOf(stated: Data | undefined, platform: string): MapData {
    const source = stated ?? this.root;
    const result = mapOf(source.source, source.start);
    const level = stated?.kind === "map" ? at(stated, platform === "auto" ? "iOS" : platform) : stated;
    if (level && (platform === "iOS" || platform === "auto"))
      result.entries.set("IPHONEOS_DEPLOYMENT_TARGET", { start: level.start, value: level });
    return result;
  }

  /** The settings of the project or of a target in a configuration: groups, what holds for all, what holds for the configuration. */
  private settingsOf(of: Data, kind: Kind, first: MapData): MapData {
    const result = mapOf(first.source, first.start);
    for (const [name, entry] of first.entries) result.entries.set(name, entry);
    for (const [name, { start, value }] of this.settingsIn(at(of, "settings"), kind, 0))
      result.entries.set(name, { start, value: value.kind === "scalar" ? asSetting(value) : value });
    return result;
  }

  private settingsIn(settings: Data | undefined, kind: Kind, depth: number): MapData["entries"] {
    const result: MapData["entries"] = new Map();
    const take = (entries: MapData["entries"]): void => {
      for (const [name, entry] of entries) result.set(name, entry);
    };
    const isPlain = !["base", "configs", "groups"].some((key) => at(settings, key) !== undefined);
    if (settings?.kind !== "map" || depth > 8) return result;
    if (isPlain) return settings.entries;
    const groups = at(this.root, "settingGroups");
    for (const item of oneOrMore(at(settings, "groups"))) {
      const group = at(groups, textAt(item) ?? "");
      if (group) take(this.settingsIn(group, kind, depth + 1));
      else if (kind === this.kinds[0])
        this.spec.lost(
          "settings group",
          item,
          entriesOf(groups).map(([key]) => key),
        );
    }
    const base = at(settings, "base");
    if (base?.kind === "map") take(base.entries);
    for (const [name, { value }] of entriesOf(at(settings, "configs")))
      if (this.isOf(kind, name)) take(this.settingsIn(value, kind, depth + 1));
    return result;
  }

  /** Whether what is said for a name holds for a configuration: that of the name, or all whose names have it in them. Source: XcodeGen, "ProjectSpec" (settings). */
  private isOf({ name }: Kind, stated: string): boolean {
    return name === stated || (name.toLowerCase().includes(stated.toLowerCase()) && !this.kinds.some((other) => other.name === stated));
  }

  /** Configurations for which something is said and that are not there. */
  private noteConfigurations(of: Data): void {
    const unchecked = textsOf(at(this.root, "options", "disabledValidations"));
    if (unchecked.some((name) => /^missingConfig/.test(name))) return;
    for (const [keys, isExact] of [
      [["configFiles"], true],
      [["settings", "configs"], false],
    ] as const) {
      const map = at(of, ...keys);
      for (const [name, { value, start }] of entriesOf(map)) {
        if (name.includes("$")) continue;
        if (!this.kinds.some((kind) => (isExact ? kind.name === name : this.isOf(kind, name))))
          this.spec.lost(
            "configuration",
            scalarOf(value.source, start, name),
            this.kinds.map((kind) => kind.name),
          );
        const file = isExact ? this.spec.pathOf(value) : undefined;
        if (file !== undefined && !this.project.tree.isFile(file) && !/(^|\/)Pods\//.test(file)) this.spec.absent(value, file);
      }
    }
  }

  private packageOf(name: string, data: Data): SwiftPackageReference | undefined {
    const path = valueAt(data, "path");
    const short = valueAt(data, "github");
    const url = valueAt(data, "url") ?? short;
    const location = path ?? url;
    if (location?.kind !== "known") return undefined;
    const stated = path ? undefined : requirementOf(data);
    const folder = path && this.spec.pathOf(at(data, "path") as Data);
    return {
      id: name,
      location:
        folder !== undefined
          ? relativeTo(this.spec.folder, folder)
          : short && url === short
            ? `https://github.com/${short.kind === "known" ? short.text : ""}`
            : location.text,
      local: path !== undefined,
      requirement: stated?.requirement,
      requirementText: undefined,
      at: location.place,
      requirementAt: stated?.at,
    };
  }

  private takeSource(target: IosTarget, source: Data): void {
    const { spec } = this;
    const { tree } = this.project;
    const stated = source.kind === "map" ? at(source, "path") : source;
    const path = stated && spec.pathOf(stated);
    const phase = textAt(source, "buildPhase");
    if (!stated || path === undefined) return;
    if (tree.isFile(path)) {
      if (phase === "none") return;
      const isSource = /\.(swift|mm?|c|cc|cpp)$/.test(path);
      (isSource ? target.sources : target.resources).push(path);
      (isSource ? (target.sourcesAt as Map<string, Place>) : (target.resourcesAt as Map<string, Place>)).set(path, placeOf(stated));
      return;
    }
    if (!tree.isFolder(path)) {
      // A binary that is laid down, or what a script writes, may come later.
      if (textAt(source, "optional") !== "true" && !/[*?[]/.test(path)) spec.absent(stated, path);
      return;
    }
    if (phase === "none") return;
    target.synchronized.push(path);
    target.leftOut.push(...this.leftOut(path, textsOf(at(source, "excludes")), textsOf(at(source, "includes"))));
  }

  /** Files below a folder that patterns leave out, or that are not among those that they take in. */
  private leftOut(folder: string, excludes: readonly string[], includes: readonly string[]): string[] {
    const fromHere = (patterns: readonly string[]): string[] => patterns.map((pattern) => `/${pattern.replace(/^\/+/, "")}`);
    const [isExcluded, isIncluded] = [ignoreMatcher(fromHere(excludes)), ignoreMatcher(fromHere(includes))];
    const found: string[] = [];
    const walk = (at_: string, depth: number): void => {
      for (const { name, kind } of depth > 24 ? [] : this.project.tree.list(at_)) {
        const path = join(at_, name);
        const own = path.slice(folder === "" ? 0 : folder.length + 1);
        const isWhole = kind === "folder" && !/\.(lproj|xcassets|bundle|xcframework|framework)$/.test(name);
        if (isExcluded(isWhole ? `${own}/` : own)) found.push(path);
        else if (isWhole) walk(path, depth + 1);
        // Every target leaves out the lists that are no resources.
        else if ((includes.length > 0 && !isIncluded(own)) || name === "Info.plist" || name.endsWith(".entitlements")) found.push(path);
      }
    };
    walk(folder, 0);
    return found;
  }

  private takeListBeside(target: IosTarget): void {
    const isNamed = target.configurations.some(
      ({ settings }) => settings.value("INFOPLIST_FILE") !== undefined || settings.value("GENERATE_INFOPLIST_FILE") !== undefined,
    );
    const found = isNamed
      ? undefined
      : [
          ...target.leftOut.filter((path) => baseName(path) === "Info.plist"),
          ...target.resources.filter((path) => baseName(path) === "Info.plist"),
        ].find((path) => this.project.tree.isFile(path));
    if (found === undefined) return;
    for (const { settings } of target.configurations)
      settings.state("INFOPLIST_FILE", { kind: "known", text: relativeTo(this.spec.folder, found), place: target.at });
  }

  private takeDependency(target: IosTarget, type: string, dependency: Data): void {
    const isApp = /^application/.test(type);
    const embed = textAt(dependency, "embed");
    const links = textAt(dependency, "link") !== "false";
    const [kind] = ["target", "framework", "package", "sdk", "carthage", "bundle"].filter((key) => at(dependency, key) !== undefined);
    const stated = at(dependency, kind ?? "");
    const text = textAt(stated);
    if (!stated || text === undefined) return;
    const place = placeOf(stated);
    const embeds = (name: string): void => {
      target.copied.push(name);
      target.embedded.push({ name, at: place });
      target.placed.push({ name, folder: "" });
    };
    switch (kind) {
      case "target":
        this.takeTarget(target, { isApp, embed, links }, stated, embeds);
        break;
      case "framework":
        if (links) target.linked.push({ name: baseName(text), path: this.spec.pathOf(stated), at: place });
        if (embed === undefined ? isApp : embed === "true") embeds(baseName(text));
        this.takeBinary(stated, text);
        break;
      case "package":
        this.takePackage(target, dependency, stated, links);
        break;
      case "sdk":
      case "carthage":
        target.linked.push({ name: kind === "sdk" ? baseName(text) : `${text}.framework`, path: undefined, at: place });
        if (kind === "carthage" && embed !== "false" && isApp) embeds(`${text}.framework`);
        break;
      default:
        target.copied.push(text);
    }
  }

  private takeBinary(stated: Data, text: string): void {
    const path = this.spec.pathOf(stated);
    if (path !== undefined && !this.binaries.some(({ resolved }) => resolved === path))
      this.binaries.push({ path: text, resolved: path, absolute: false, at: placeOf(stated) });
  }

  /** Products of a package, by default the one of its name. */
  private takePackage({ packageProducts }: IosTarget, dependency: Data, stated: Data, linked: boolean): void {
    const text = textAt(stated) ?? "";
    const known = this.packages.find(({ id }) => id === text);
    if (!known && !text.includes("$")) {
      const among = this.packages.map(({ id }) => id);
      this.spec.lost("package", stated, among);
    }
    const named = at(dependency, "product");
    const products = textsOf(at(dependency, "products") ?? named);
    for (const product of products.length > 0 ? products : [text])
      packageProducts.push({
        product,
        package: text,
        ...(known ? { location: known.location } : {}),
        linked,
        at: placeOf(named ?? stated),
      });
  }

  /** A dependency on another target: what it makes is linked, or lies in the app. */
  private takeTarget(
    target: IosTarget,
    { isApp, embed, links }: { isApp: boolean; embed: string | undefined; links: boolean },
    stated: Data,
    embeds: (name: string) => void,
  ): void {
    const text = textAt(stated) ?? "";
    // Of another project, or of one for each system.
    const others = this.targets.filter(({ name }) => name === text || name.startsWith(`${text}_`));
    const system = textOfSystem(target);
    const other = others.find(({ platform }) => ROOTS[platform] === system) ?? others[0];
    const aggregates = entriesOf(at(this.root, "aggregateTargets")).map(([name]) => name);
    if (!other) {
      if (!text.includes("/") && !text.includes("$") && !aggregates.includes(text))
        this.spec.lost("target", stated, [...this.targets.map(({ name }) => name), ...aggregates]);
      return;
    }
    if (/^(framework|library)/.test(other.type) && links) target.linked.push({ name: other.product, path: undefined, at: placeOf(stated) });
    const isStatic = /static/.test(other.type);
    const isPart = /extension|watchapp|^application$/.test(other.type);
    if (isApp && !isStatic && (embed === undefined ? isPart || other.type === "framework" : embed === "true")) {
      embeds(other.product);
      const last = target.placed.at(-1);
      if (last && (/watchapp/.test(other.type) || (other.platform === "watchOS" && other.type === "application")))
        last.folder = "$(CONTENTS_FOLDER_PATH)/Watch";
    }
  }
}

function textOfSystem({ configurations: [first] }: IosTarget): string | undefined {
  const value = first?.settings.value("SDKROOT");
  return value?.kind === "known" ? value.text : undefined;
}

/** Values of the format as Xcode writes them. */
function asSetting(data: Data): Data {
  return data.kind === "scalar" && typeof data.value === "boolean" ? scalarOf(data.source, data.start, data.value ? "YES" : "NO") : data;
}

/** Source: XcodeGen, "ProjectSpec" (packages). */
function requirementOf(data: Data): { requirement: Requirement; at: Place | undefined } | undefined {
  const found = (key: string): string | undefined => textAt(data, key);
  const make = (key: string, of: (text: string) => Requirement) => {
    const text = found(key);
    return text === undefined ? undefined : { requirement: of(text), at: keyPlace(data, key) };
  };
  const [from, to] = [found("minVersion"), found("maxVersion")];
  if (from !== undefined && to !== undefined)
    return { requirement: { kind: "range", from, to, closed: false }, at: keyPlace(data, "minVersion") };
  return (
    make("from", (version) => ({ kind: "upToNextMajor", version })) ??
    make("majorVersion", (version) => ({ kind: "upToNextMajor", version })) ??
    make("minorVersion", (version) => ({ kind: "upToNextMinor", version })) ??
    make("exactVersion", (version) => ({ kind: "exact", version })) ??
    make("exact", (version) => ({ kind: "exact", version })) ??
    make("version", (version) => ({ kind: "exact", version })) ??
    make("branch", (name) => ({ kind: "branch", name })) ??
    make("revision", (name) => ({ kind: "revision", name }))
  );
}
