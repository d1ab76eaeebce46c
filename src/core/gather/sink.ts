import { isPlatformPackage } from "../knowledge/platform-packages.js";
import type { AndroidSide, AppFacts, AssemblyFact, AppKind, FrameworkFact, FurtherTarget, IosSide, PartTarget } from "../model/app.js";
import type {
  BlindSpot,
  BuildPluginFact,
  CodeName,
  RequiredLevel,
  Dependency,
  Entry,
  LinkFact,
  LinkingFact,
  LockFact,
  NamedFile,
  NativeLibrary,
  OptionFact,
  PackageNeed,
  PackageGraph,
  PathFact,
  RepositoryFact,
  RepositoryNeed,
  RulesFile,
  ServiceFile,
  ShrinkFact,
  SideName,
} from "../model/facts.js";
import type { GradleBuildFacts, GradleModule } from "../model/gradle.js";
import { sdkIdOf, versionInName } from "../model/sdk-id.js";
import type { IosTarget } from "./platforms/ios/xcode-project.js";

/** The iOS side while it is read: the build settings of its targets can be asked for. */
export interface IosReading extends IosSide {
  targets: IosTarget[];
  allTargets: IosTarget[];
  target: IosTarget;
}

/** An app's facts as they are kept, beside its Gradle build: of the build's modules, that of the application first, only the paths. */
export interface KeptFacts extends Omit<AppFacts, "android"> {
  android?: Omit<AndroidSide, "build" | "module" | "modules"> & { modules: (string | GradleModule)[] };
}

type Item<K extends keyof AppFacts> = AppFacts[K] extends readonly (infer T)[] ? T : never;

/** A package as a reader states it; what is left out is what most packages have. */
export type DependencyDraft = Pick<Dependency, "side" | "ecosystem" | "name" | "scope" | "in" | "places"> & Partial<Dependency>;

/** What is known of a lock file; what is left out is empty. */
export type LockDraft = Omit<LockFact, "installedApart" | "declaredApart" | "needed"> & Partial<LockFact>;

/**
 * Where gathering writes what it finds of one app. What was found so far can be read from it, and only its own functions write. `finish` gives
 * the facts as plain data.
 */
export class FactSink implements AppFacts {
  android?: AndroidSide;
  ios?: IosReading;
  shared?: { folder: string; framework: FrameworkFact };
  readonly dependencies: readonly Dependency[] = [];
  readonly requiredLevels: readonly RequiredLevel[] = [];
  readonly repositories: readonly RepositoryFact[] = [];
  readonly repositoryNeeds: readonly RepositoryNeed[] = [];
  readonly buildPlugins: readonly BuildPluginFact[] = [];
  readonly paths: readonly PathFact[] = [];
  readonly locks: readonly LockFact[] = [];
  readonly lockedNames: ReadonlySet<string> = new Set<string>();
  readonly workspaceBypasses: AppFacts["workspaceBypasses"] = [];
  readonly doubles: AppFacts["doubles"] = [];
  readonly blindSpots: readonly BlindSpot[] = [];
  readonly broken: ReadonlyMap<string, SideName> = new Map<string, SideName>();
  readonly entries: readonly Entry[] = [];
  readonly serviceFiles: readonly ServiceFile[] = [];
  readonly bundledFiles: AppFacts["bundledFiles"] = [];
  readonly namedFiles: readonly NamedFile[] = [];
  readonly shrink: readonly ShrinkFact[] = [];
  readonly rulesFiles: readonly RulesFile[] = [];
  readonly links: readonly LinkFact[] = [];
  readonly options: readonly OptionFact[] = [];
  readonly linking: readonly LinkingFact[] = [];
  readonly packageNeeds: readonly PackageNeed[] = [];
  readonly codeNames: readonly CodeName[] = [];
  readonly codeRead: readonly SideName[] = [];
  readonly leftOutOfGit: ReadonlySet<string> = new Set<string>();
  readonly configuredApart: AppFacts["configuredApart"] = [];
  readonly centralVersions: AppFacts["centralVersions"] = [];
  readonly uncovered: AppFacts["uncovered"] = [];
  readonly otherProjects: AppFacts["otherProjects"] = [];
  readonly blockedLinks: AppFacts["blockedLinks"] = [];
  readonly unfitProjects: AppFacts["unfitProjects"] = [];
  readonly debugOptions: AppFacts["debugOptions"] = [];
  readonly flavorGaps: AppFacts["flavorGaps"] = [];
  readonly pluginGaps: AppFacts["pluginGaps"] = [];
  readonly templateLines: AppFacts["templateLines"] = [];
  readonly sourceFolders: AppFacts["sourceFolders"] = [];
  readonly swiftModules: AppFacts["swiftModules"] = [];
  readonly ownPods: AppFacts["ownPods"] = [];
  readonly packageModules: AppFacts["packageModules"] = [];
  readonly throughPackages: AppFacts["throughPackages"] = [];
  readonly ownPackages: AppFacts["ownPackages"] = [];
  readonly uncompiled: AppFacts["uncompiled"] = new Map<string, ("android" | "ios")[]>();
  readonly openConfig: readonly SideName[] = [];
  readonly wholeConfig: AppFacts["wholeConfig"] = [];
  readonly unlistedPlugins: AppFacts["unlistedPlugins"] = [];
  readonly configPlugins: AppFacts["configPlugins"] = [];
  readonly openParts: AppFacts["openParts"] = [];
  readonly webPages: AppFacts["webPages"] = [];
  readonly webOrigins: AppFacts["webOrigins"] = [];
  readonly oneSidedPackages: AppFacts["oneSidedPackages"] = [];
  readonly patches: AppFacts["patches"] = [];
  readonly leftovers: AppFacts["leftovers"] = [];
  readonly unseenPackages: AppFacts["unseenPackages"] = [];
  readonly editorPermissions: readonly string[] = [];
  readonly packageRequirements: AppFacts["packageRequirements"] = [];
  buildSymbols?: AppFacts["buildSymbols"];
  graph?: PackageGraph;
  optionsIn?: string;
  optionNames?: readonly string[] | undefined;
  readonly copies: AppFacts["copies"] = [];
  readonly agreements: AppFacts["agreements"] = [];
  readonly manifests: readonly string[] = [];
  readonly propertyLists: readonly string[] = [];
  readonly assemblies: AppFacts["assemblies"] = new Map<string, AssemblyFact>();
  readonly furtherTargets: readonly FurtherTarget[] = [];
  readonly partTargets: readonly PartTarget[] = [];
  readonly partUses: AppFacts["partUses"] = [];
  readonly codegen: AppFacts["codegen"] = [];
  readonly libraryManifests: AppFacts["libraryManifests"] = [];
  readonly elements: AppFacts["elements"] = [];
  readonly nativeLibraries: readonly NativeLibrary[] = [];
  readonly looseArchives: AppFacts["looseArchives"] = [];
  readonly podRequirements: AppFacts["podRequirements"] = [];
  readonly androidLibraries: AppFacts["androidLibraries"] = [];
  readonly extensionFaults: AppFacts["extensionFaults"] = [];
  readonly componentFaults: AppFacts["componentFaults"] = [];
  readonly lostProperties: AppFacts["lostProperties"] = [];
  readonly replacedFiles: AppFacts["replacedFiles"] = [];
  splashStays: AppFacts["splashStays"];
  readonly misspellings: AppFacts["misspellings"] = [];
  readonly debugEntitlements: AppFacts["debugEntitlements"] = [];
  readonly emptyTexts: AppFacts["emptyTexts"] = [];
  readonly unfitValues: AppFacts["unfitValues"] = [];
  readonly ownPlugins: readonly string[] = [];
  readonly appGroups: AppFacts["appGroups"] = [];
  readonly guardedUses: AppFacts["guardedUses"] = [];
  readonly restrictedUses: AppFacts["restrictedUses"] = [];
  readonly privacyManifests: AppFacts["privacyManifests"] = [];
  readonly privacyOpen: readonly string[] = [];
  readonly iosPackagesRead: AppFacts["iosPackagesRead"] = [];
  readonly frameworks: AppFacts["frameworks"] = [];
  readonly doubledClasses: AppFacts["doubledClasses"] = [];
  readonly desugaringNeeds: AppFacts["desugaringNeeds"] = [];
  readonly placeholderNeeds: AppFacts["placeholderNeeds"] = [];
  readonly overriddenLibraries: readonly string[] = [];

  constructor(
    public name: string,
    readonly kind: AppKind,
    readonly path: string,
  ) {}

  /** The shared code of a hybrid, and its framework. */
  hybrid(shared: { folder: string; framework: FrameworkFact }): void {
    this.shared = shared;
  }

  dependency(...drafts: readonly DependencyDraft[]): void {
    for (const draft of drafts)
      put(this.dependencies, {
        sdk: sdkIdOf(draft.ecosystem, draft.name),
        route: "registry",
        declared: undefined,
        locked: undefined,
        direct: true,
        test: false,
        conditional: false,
        ...draft,
        // A file has the version that it is named for.
        ...(draft.ecosystem === "binary" && draft.locked === undefined ? { locked: versionInName(draft.name) } : {}),
        platform: draft.platform ?? isPlatformPackage(draft.ecosystem, draft.name),
      });
  }

  extensionFault(...faults: readonly Item<"extensionFaults">[]): void {
    put(this.extensionFaults, ...faults);
  }

  componentFault(...faults: readonly Item<"componentFaults">[]): void {
    put(this.componentFaults, ...faults);
  }

  debugEntitlement(...facts: readonly Item<"debugEntitlements">[]): void {
    put(this.debugEntitlements, ...facts);
  }

  misspelling(...facts: readonly Item<"misspellings">[]): void {
    put(this.misspellings, ...facts);
  }

  emptyText(...texts: readonly Item<"emptyTexts">[]): void {
    put(this.emptyTexts, ...texts);
  }

  unfitValue(...facts: readonly Item<"unfitValues">[]): void {
    put(this.unfitValues, ...facts);
  }

  ownPlugin(...folders: readonly string[]): void {
    put(this.ownPlugins, ...folders);
  }

  replacedFile(...facts: readonly Item<"replacedFiles">[]): void {
    put(this.replacedFiles, ...facts);
  }
  lostProperty(...facts: readonly Item<"lostProperties">[]): void {
    put(this.lostProperties, ...facts);
  }

  appGroup(...groups: readonly Item<"appGroups">[]): void {
    put(this.appGroups, ...groups);
  }

  androidLibrary(...libraries: readonly Item<"androidLibraries">[]): void {
    put(this.androidLibraries, ...libraries);
  }

  nativeLibrary(...libraries: readonly NativeLibrary[]): void {
    put(this.nativeLibraries, ...libraries);
  }

  podRequirement(...requirements: readonly Item<"podRequirements">[]): void {
    put(this.podRequirements, ...requirements);
  }

  looseArchive(...archives: readonly Item<"looseArchives">[]): void {
    put(this.looseArchives, ...archives);
  }

  guardedUse(...uses: readonly Item<"guardedUses">[]): void {
    put(this.guardedUses, ...uses);
  }

  restrictedUse(...uses: readonly Item<"restrictedUses">[]): void {
    put(this.restrictedUses, ...uses);
  }

  privacyManifest(...facts: readonly Item<"privacyManifests">[]): void {
    put(this.privacyManifests, ...facts);
  }

  privacyUnknown(...packages: readonly string[]): void {
    put(this.privacyOpen, ...packages);
  }

  iosPackageRead(...packages: readonly Item<"iosPackagesRead">[]): void {
    put(this.iosPackagesRead, ...packages);
  }

  frameworkParts(...facts: readonly Item<"frameworks">[]): void {
    put(this.frameworks, ...facts);
  }

  doubledClass(...facts: readonly Item<"doubledClasses">[]): void {
    put(this.doubledClasses, ...facts);
  }

  desugaringNeed(...needs: readonly Item<"desugaringNeeds">[]): void {
    put(this.desugaringNeeds, ...needs);
  }

  placeholderNeed(...needs: readonly Item<"placeholderNeeds">[]): void {
    put(this.placeholderNeeds, ...needs);
  }

  overridesLibrary(...names: readonly string[]): void {
    put(this.overriddenLibraries, ...names);
  }

  lock(draft: LockDraft): void {
    put(this.locks, { needed: true, installedApart: [], declaredApart: [], ...draft });
  }

  blindSpot(...spots: readonly BlindSpot[]): void {
    put(this.blindSpots, ...spots);
  }

  entry(...entries: readonly Entry[]): void {
    put(this.entries, ...entries);
  }

  required(...requiredLevels: readonly RequiredLevel[]): void {
    put(this.requiredLevels, ...requiredLevels);
  }

  linkage(...facts: readonly LinkingFact[]): void {
    put(this.linking, ...facts);
  }

  linked(...facts: readonly LinkFact[]): void {
    put(this.links, ...facts);
  }

  option(...facts: readonly OptionFact[]): void {
    put(this.options, ...facts);
  }

  packageNeed(...needs: readonly PackageNeed[]): void {
    put(this.packageNeeds, ...needs);
  }

  repository(...facts: readonly RepositoryFact[]): void {
    put(this.repositories, ...facts);
  }

  repositoryNeed(...needs: readonly RepositoryNeed[]): void {
    put(this.repositoryNeeds, ...needs);
  }

  buildPlugin(...facts: readonly BuildPluginFact[]): void {
    put(this.buildPlugins, ...facts);
  }

  pathFollowed(...facts: readonly PathFact[]): void {
    put(this.paths, ...facts);
  }

  /** Takes back that paths lead nowhere. */
  leavePaths(isOpen: (path: PathFact) => boolean): void {
    const left = this.paths.map((path) => (isOpen(path) ? { ...path, exists: undefined } : path));
    (this.paths as PathFact[]).splice(0, this.paths.length, ...left);
  }

  lockedName(name: string): void {
    (this.lockedNames as Set<string>).add(name);
  }

  workspaceBypass(...facts: readonly Item<"workspaceBypasses">[]): void {
    put(this.workspaceBypasses, ...facts);
  }

  double(...facts: readonly Item<"doubles">[]): void {
    put(this.doubles, ...facts);
  }

  brokenFile(file: string, side: SideName): void {
    (this.broken as Map<string, SideName>).set(file, side);
  }

  serviceFile(...files: readonly ServiceFile[]): void {
    put(this.serviceFiles, ...files);
  }

  namedFile(...files: readonly NamedFile[]): void {
    put(this.namedFiles, ...files);
  }

  shrinking(...facts: readonly ShrinkFact[]): void {
    put(this.shrink, ...facts);
  }

  rulesFile(...files: readonly RulesFile[]): void {
    put(this.rulesFiles, ...files);
  }

  codeName(...names: readonly CodeName[]): void {
    put(this.codeNames, ...names);
  }

  /** Sides whose source files could be looked through. */
  readCode(sides: Iterable<SideName>): void {
    put(this.codeRead, ...sides);
  }

  outOfGit(name: string): void {
    (this.leftOutOfGit as Set<string>).add(name);
  }

  configuredOtherwise(...facts: readonly Item<"configuredApart">[]): void {
    put(this.configuredApart, ...facts);
  }

  centralVersion(...facts: readonly Item<"centralVersions">[]): void {
    put(this.centralVersions, ...facts);
  }

  repositoryUncovered(...facts: readonly Item<"uncovered">[]): void {
    put(this.uncovered, ...facts);
  }

  debugOption(...facts: readonly Item<"debugOptions">[]): void {
    put(this.debugOptions, ...facts);
  }

  blockedLink(...facts: readonly Item<"blockedLinks">[]): void {
    put(this.blockedLinks, ...facts);
  }

  otherProject(...names: readonly string[]): void {
    put(this.otherProjects, ...names);
  }

  unfitProject(...facts: readonly Item<"unfitProjects">[]): void {
    put(this.unfitProjects, ...facts);
  }

  flavorGap(...facts: readonly Item<"flavorGaps">[]): void {
    put(this.flavorGaps, ...facts);
  }

  pluginGap(...facts: readonly Item<"pluginGaps">[]): void {
    put(this.pluginGaps, ...facts);
  }

  templateLine(...facts: readonly Item<"templateLines">[]): void {
    put(this.templateLines, ...facts);
  }

  throughPackage(...facts: readonly Item<"throughPackages">[]): void {
    put(this.throughPackages, ...facts);
  }

  ownPackage(...facts: readonly Item<"ownPackages">[]): void {
    put(this.ownPackages, ...facts);
  }

  sourceFolder(...facts: readonly Item<"sourceFolders">[]): void {
    put(this.sourceFolders, ...facts.filter(({ folder }) => !this.sourceFolders.some((other) => other.folder === folder)));
  }

  swiftModule(...facts: readonly Item<"swiftModules">[]): void {
    put(this.swiftModules, ...facts.filter(({ folder }) => !this.swiftModules.some((other) => other.folder === folder)));
  }

  ownPod(...facts: readonly Item<"ownPods">[]): void {
    put(this.ownPods, ...facts.filter(({ name }) => !this.ownPods.some((other) => other.name === name)));
  }

  packageModule(...facts: readonly Item<"packageModules">[]): void {
    put(this.packageModules, ...facts.filter(({ folder }) => !this.packageModules.some((other) => other.folder === folder)));
  }

  configIsOpen(...sides: SideName[]): void {
    put(this.openConfig, ...sides.filter((side) => !this.openConfig.includes(side)));
  }

  configIsWhole(...facts: readonly Item<"wholeConfig">[]): void {
    put(this.wholeConfig, ...facts);
  }

  partIsOpen(...facts: readonly Item<"openParts">[]): void {
    put(this.openParts, ...facts);
  }

  webPage(...pages: readonly Item<"webPages">[]): void {
    put(this.webPages, ...pages);
  }

  webOrigin(...origins: readonly Item<"webOrigins">[]): void {
    put(this.webOrigins, ...origins);
  }

  oneSidedPackage(...facts: readonly Item<"oneSidedPackages">[]): void {
    put(this.oneSidedPackages, ...facts);
  }

  patch(...facts: readonly Item<"patches">[]): void {
    put(this.patches, ...facts);
  }

  leftover(...facts: readonly Item<"leftovers">[]): void {
    put(this.leftovers, ...facts);
  }

  packageUnseen(...facts: readonly Item<"unseenPackages">[]): void {
    put(this.unseenPackages, ...facts);
  }

  permissionByEditor(name: string): void {
    put(this.editorPermissions, name);
  }

  packageWants(...facts: readonly Item<"packageRequirements">[]): void {
    put(this.packageRequirements, ...facts);
  }

  /** The symbols that the shared code is compiled with. */
  compiledWith(symbols: NonNullable<AppFacts["buildSymbols"]>): void {
    this.buildSymbols = symbols;
  }

  unlistedPlugin(...facts: readonly Item<"unlistedPlugins">[]): void {
    put(this.unlistedPlugins, ...facts);
  }

  configPlugin(...facts: readonly Item<"configPlugins">[]): void {
    put(this.configPlugins, ...facts);
  }

  copy(...facts: readonly Item<"copies">[]): void {
    put(this.copies, ...facts);
  }

  agreement(...facts: readonly Item<"agreements">[]): void {
    put(this.agreements, ...facts);
  }

  bundledFile(...files: readonly Item<"bundledFiles">[]): void {
    put(this.bundledFiles, ...files);
  }

  manifest(...files: readonly string[]): void {
    put(this.manifests, ...files);
  }

  propertyList(...files: readonly string[]): void {
    put(this.propertyLists, ...files);
  }

  assembly(folder: string, of: AssemblyFact): void {
    (this.assemblies as Map<string, AssemblyFact>).set(folder, of);
  }

  furtherTarget(...targets: readonly FurtherTarget[]): void {
    put(this.furtherTargets, ...targets);
  }

  partTarget(...targets: readonly PartTarget[]): void {
    put(this.partTargets, ...targets);
  }

  partUse(...facts: readonly Item<"partUses">[]): void {
    put(this.partUses, ...facts);
  }

  generatedCode(...facts: readonly Item<"codegen">[]): void {
    put(this.codegen, ...facts);
  }

  libraryManifest(...facts: readonly Item<"libraryManifests">[]): void {
    put(this.libraryManifests, ...facts);
  }

  element(...facts: readonly Item<"elements">[]): void {
    put(this.elements, ...facts);
  }

  notCompiled(file: string, sides: readonly ("android" | "ios")[]): void {
    (this.uncompiled as Map<string, readonly ("android" | "ios")[]>).set(file, sides);
  }

  /** Puts other facts in the place of a list of them, where later reading knows better. */
  revise<K extends "locks" | "linking" | "serviceFiles" | "shrink">(list: K, work: (items: AppFacts[K]) => AppFacts[K]): void {
    const items = this[list] as unknown[];
    items.splice(0, items.length, ...work([...items] as never));
  }

  /**
   * Facts of an earlier run, to which more can be added.
   * @param build the Gradle build of the app, which is kept for itself
   */
  static of({ android, ...facts }: KeptFacts, build: GradleBuildFacts | undefined): FactSink {
    const sink = Object.assign(new FactSink(facts.name, facts.kind, facts.path), facts);
    if (!android || !build) return sink;
    const [module, ...modules] = android.modules.map((of) => (typeof of === "string" ? moduleOf(build, of) : of));
    if (module) sink.android = { ...android, build, module, modules: modules.filter((of) => of !== undefined) };
    return sink;
  }

  /** The facts as plain data, without what is only needed to read; nothing changes them any more. */
  finish(): AppFacts {
    return frozen(this.plain());
  }

  /** The facts until now as plain data, to be kept: what is added later is not among them. */
  soFar(): AppFacts {
    return Object.fromEntries(Object.entries(this.plain()).map(([name, facts]) => [name, copied(facts)])) as unknown as AppFacts;
  }

  /** The same without the Gradle build. */
  toKeep(): KeptFacts {
    const { android, ...facts } = this.soFar();
    if (!android) return facts;
    const { build, module, modules, ...side } = android;
    const ofBuild = (of: GradleModule): string | GradleModule => (moduleOf(build, of.path) === of ? of.path : of);
    return { ...facts, android: { ...side, modules: [module, ...modules].map(ofBuild) } };
  }

  /**
   * What was added since `before` was all: of lists the new items, of maps and sets all. `undefined` where something else was done than adding.
   */
  since(before: AppFacts): Partial<AppFacts> | undefined {
    const added: Record<string, unknown> = {};
    for (const [name, now] of Object.entries(this)) {
      const then = before[name as keyof AppFacts] as unknown;
      if (Array.isArray(now) && Array.isArray(then)) {
        if (then.some((item, index) => item !== now[index])) return undefined;
        if (now.length > then.length) added[name] = now.slice(then.length);
      } else if ((now instanceof Map && then instanceof Map) || (now instanceof Set && then instanceof Set)) {
        if (now.size !== then.size) added[name] = copied(now);
      }
    }
    return added;
  }

  /** Adds what was added in an earlier run. */
  add(added: Partial<AppFacts>): void {
    for (const [name, facts] of Object.entries(added)) {
      const own = this[name as keyof this] as unknown;
      if (Array.isArray(own)) put(own, ...(facts as unknown[]));
      else if (own instanceof Map) for (const [key, value] of facts as Map<unknown, unknown>) own.set(key, value);
      else if (own instanceof Set) for (const item of facts as Set<unknown>) own.add(item);
    }
  }

  private plain(): AppFacts {
    const { ios, ...rest } = this;
    return {
      ...rest,
      ...(ios
        ? {
            ios: {
              ...ios,
              targets: ios.targets.map(plainTarget),
              allTargets: ios.allTargets.map(plainTarget),
              target: plainTarget(ios.target),
            },
          }
        : {}),
      furtherTargets: this.furtherTargets.map((further) => ({ ...further, target: plainTarget(further.target) })),
      partTargets: this.partTargets.map((part) => ({ ...part, target: plainTarget(part.target) })),
    };
  }
}

function moduleOf({ root, modules }: GradleBuildFacts, path: string): GradleModule | undefined {
  return path === root.path ? root : modules.get(path);
}

/** A collection of its own with the same items. */
function copied(facts: unknown): unknown {
  if (Array.isArray(facts)) return [...(facts as unknown[])];
  return facts instanceof Map ? new Map(facts) : facts instanceof Set ? new Set(facts) : facts;
}

function put<T>(list: readonly T[], ...items: readonly T[]): void {
  (list as T[]).push(...items);
}

function plainTarget<T extends IosSide["target"]>(target: T): IosSide["target"] {
  return { ...target, configurations: target.configurations.map(({ name }) => ({ name })) };
}

/** Data that cannot be changed any more; maps and sets are only readable by their types. */
function frozen<T extends object>(data: T): T {
  const open: unknown[] = [data];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    if (typeof next !== "object" || next === null || Object.isFrozen(next)) continue;
    if (next instanceof Map || next instanceof Set) {
      for (const item of next.values()) open.push(item);
      continue;
    }
    Object.freeze(next);
    for (const value of Object.values(next)) if (typeof value === "object") open.push(value);
  }
  return data;
}
