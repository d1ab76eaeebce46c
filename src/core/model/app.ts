import type { GradleBuildFacts, GradleModule } from "./gradle.js";
import type { IosTarget } from "../gather/platforms/ios/xcode-project.js";
import type {
  BlindSpot,
  BuildPluginFact,
  CodeName,
  Demand,
  Dependency,
  Entry,
  IdFact,
  LevelFact,
  LevelName,
  LinkFact,
  LinkingFact,
  LockFact,
  NamedFile,
  OptionFact,
  PackageNeed,
  PathFact,
  RepositoryFact,
  RepositoryNeed,
  RulesFile,
  ServiceFile,
  ShrinkFact,
  SideName,
} from "./facts.js";
import type { CodeFacts } from "./code.js";
import type { Place } from "./place.js";
import type { Value } from "./value.js";

export const APP_KINDS = ["native", "react-native", "expo", "flutter", "cordova", "capacitor", "dotnet", "unity"] as const;
export type AppKind = (typeof APP_KINDS)[number];

/** One side of an app. */
export interface Side {
  side: SideName;
  /** Folder of the native project, relative to the root. */
  folder: string;
  ids: IdFact[];
  levels: LevelFact[];
  /** The level that the app gets in the end, per level. */
  effective: Partial<Record<LevelName, Value>>;
  /** Levels that nothing in the project states: the framework's or the platform's default holds. */
  defaults: Partial<Record<LevelName, { value: Value; from: string }>>;
  /** Of levels that are left to a default which is not known: what it is at least, since the framework itself asks for it. */
  defaultAtLeast?: Partial<Record<LevelName, string>>;
  /** The native project is written by the framework when it builds, and is not in the files. */
  generated?: boolean;
  /** Where the project says that it leaves a level to the framework. */
  leftTo?: Partial<Record<LevelName, Place>>;
}

export interface AndroidSide extends Side {
  side: "android";
  build: GradleBuildFacts;
  /** The application's module. */
  module: GradleModule;
  /** The app's own modules that go into it, the application's first. */
  modules: GradleModule[];
}

export interface IosSide extends Side {
  side: "ios";
  projectFile: string;
  targets: IosTarget[];
  /** Every target of the project, extensions and frameworks too. */
  allTargets: IosTarget[];
  /** The target that is shipped. */
  target: IosTarget;
  usesPods: boolean;
  pods?: PodsFact;
}

/** What the Podfile and its lock say of linking. */
export interface PodsFact {
  file: string;
  /** Helpers of frameworks that bring pods of their own. */
  helpers: string[];
  declared: Map<string, Place>;
  locked: Map<string, { version: string; at: Place }> | undefined;
  lockFile: string;
  usesFrameworks: boolean;
  /** The targets that the Podfile names, each within which. */
  targets: { name: string; parent: string | undefined }[];
}

/** An application target beside the one that an app is read from: its property list and entitlements, and what it links. */
export interface FurtherTarget {
  target: IosTarget;
  entries: Entry[];
  propertyLists: string[];
  /** The targets of the Podfile whose pods it gets: its own, and those around it. */
  podTargets: string[];
  /** Addresses of the Swift packages of which it takes a product. */
  packages: string[];
}

/** One thing that is shipped under one name. */
export interface App {
  name: string;
  kind: AppKind;
  path: string;
  android?: AndroidSide;
  ios?: IosSide;
  /** The folder of the shared code, in a hybrid. */
  shared?: { folder: string; framework: FrameworkFact };
  dependencies: Dependency[];
  demands: Demand[];
  repositories: RepositoryFact[];
  repositoryNeeds: RepositoryNeed[];
  buildPlugins: BuildPluginFact[];
  paths: PathFact[];
  locks: LockFact[];
  /** Everything that a lock file has, direct or not: ecosystem and name with a space between. */
  lockedNames: Set<string>;
  /** Places where a script or CI builds the Xcode project although pods ask for the workspace. */
  workspaceBypasses: { command: string; at: Place }[];
  /** The same native package installed more than once. */
  doubles: { name: string; versions: { version: string; at: Place }[] }[];
  blindSpots: BlindSpot[];
  /** Files of the app that could not be read in full, with the side that they belong to. */
  broken: Map<string, SideName>;
  entries: Entry[];
  serviceFiles: ServiceFile[];
  namedFiles: NamedFile[];
  shrink: ShrinkFact[];
  rulesFiles: RulesFile[];
  links: LinkFact[];
  options: OptionFact[];
  linking: LinkingFact[];
  packageNeeds: PackageNeed[];
  /** Names that sheets ask for, where the app's own source files have them. */
  codeNames: CodeName[];
  /** Sides whose source files could be looked through. */
  codeRead: SideName[];
  /** Names of files that sheets ask for and that version control leaves out. */
  leftOutOfGit: Set<string>;
  /** SDKs of this app that a sheet describes: what asks the app for something is known for them. */
  sheets: string[];
  /** What a framework's configuration says and the native project says otherwise. */
  configuredApart: { what: string; side: "android" | "ios"; configured: Value; native: Value }[];
  /** Plugins that a framework's configuration names, and whether a package of the project brings them. */
  configPlugins: { name: string; found: boolean; at: Place }[];
  /** Files of an installed package that stand in the project a second time. */
  copies: { package: string; sdk: string; side: "android" | "ios"; at: Place; declared: Place }[];
  /** Packages that must be at versions near each other, as their framework says. */
  agreements: { title: string; members: { name: string; version: string; at: Place }[]; wanted: string | undefined }[];
  /** The app's own manifests and property lists that could be read. */
  manifests: string[];
  propertyLists: string[];
  /** Folders whose code is an assembly of its own, and whether that is for tests or the editor alone; the nearest folder above a file decides. */
  assemblies: Map<string, { aside: boolean }>;
  /** What further targets of the Xcode project that are apps too have of their own. */
  furtherTargets: FurtherTarget[];
  /** Packages whose native interfaces the framework generates from a specification, by their codegen settings. */
  codegen: { package: string; name: string; at: Place }[];
  /** Manifests that packages bring. */
  libraryManifests: { file: string; by: string }[];
  /** What the source code says; absent when it was not read. */
  code?: CodeFacts;
  /** Elements of the app's own manifests. */
  elements: { name: string; parent: string; at: Place }[];
  /** Levels for which a sheet and the package's own files say different things; the sheet's counts. */
  sheetDifferences: { sdk: string; level: LevelName; sheet: Value; own: Value; by: string }[];
}

export interface FrameworkFact {
  name: string;
  package: string;
  declared: Value | undefined;
  installed: string | undefined;
}

/** Everything that was found under a folder. */
export interface Survey {
  root: string;
  /** Depth of the version-control root above `root`, as a path (`""` when it is `root` itself); `undefined` when there is none. */
  repository: string | undefined;
  apps: App[];
  /** Folders with shared code of a framework and without any native project. */
  withoutNative: { folder: string; kind: AppKind }[];
  /** Folders that a setting pairs, where no app's side of that kind lies. */
  unpaired: { side: "android" | "ios"; folder: string; at: Place }[];
  unreadable: { file: string; message: string; place: Place; template: boolean }[];
  /** Files and folders that lie outside of the repository, where a link or a path leads; they were not read. */
  passedOver: { file: string; why: string }[];
  /** Whether a file was given up because it took too long: another run may see more. */
  cutShort: boolean;
  filesRead: number;
}

/** Of an app what lists of findings say: its name, kind, place and sides. */
export type AppOutline = Pick<App, "name" | "kind" | "path"> & { android?: object; ios?: object; shared?: object };

/** Of a survey what lists of findings say. */
export type SurveyOutline = Pick<Survey, "root" | "repository"> & { apps: AppOutline[] };

export function outlineOf({ root, repository, apps }: Survey): SurveyOutline {
  const mark = (side: object | undefined): object | undefined => side && {};
  return {
    root,
    repository,
    apps: apps.map((app) => ({
      name: app.name,
      kind: app.kind,
      path: app.path,
      android: mark(app.android),
      ios: mark(app.ios),
      shared: mark(app.shared),
    })),
  };
}

export function sidesOf(app: AppOutline): SideName[] {
  const sides: SideName[] = [];
  if (app.android) sides.push("android");
  if (app.ios) sides.push("ios");
  if (app.shared) sides.push("shared");
  return sides;
}

/** How much a variant's name speaks of the build that is shipped. */
function shipped(variant: string | undefined): number {
  if (variant === undefined) return 1;
  const debug = /debug|profile/i.test(variant) ? -4 : 0;
  const other = /(^|[^a-z])(dev|develop|development|stag|staging|stage|test|qa|uat|alpha|beta|internal|mock|local|nightly)/i.test(
    variant.replace(/([a-z])([A-Z])/g, "$1-$2"),
  )
    ? -2
    : 0;
  return debug + other + (/release/i.test(variant) ? 2 : 0) + (/prod|live|store/i.test(variant) ? 1 : 0);
}

/** Of things that each variant has, the one of the build that is shipped; the first of several. */
export function ofRelease<T extends { variant: string | undefined }>(items: readonly T[]): T | undefined {
  let best: T | undefined;
  for (const item of items) if (!best || shipped(item.variant) > shipped(best.variant)) best = item;
  return best;
}

/** Whether a variant is one that is made for developers and not shipped, by its name. */
export function isForDevelopment(variant: string | undefined): boolean {
  return variant !== undefined && /debug/i.test(variant);
}

/** The levels of both sides. */
export function levelsOf(app: App): LevelFact[] {
  return [...(app.android?.levels ?? []), ...(app.ios?.levels ?? [])];
}

export function sideOf(app: App, side: SideName): Side | undefined {
  return side === "android" ? app.android : side === "ios" ? app.ios : undefined;
}

/** An app of which nothing is known yet. */
export function emptyApp(name: string, kind: AppKind, path: string): App {
  return {
    name,
    kind,
    path,
    dependencies: [],
    demands: [],
    repositories: [],
    repositoryNeeds: [],
    buildPlugins: [],
    paths: [],
    locks: [],
    workspaceBypasses: [],
    doubles: [],
    blindSpots: [],
    broken: new Map(),
    entries: [],
    serviceFiles: [],
    namedFiles: [],
    shrink: [],
    rulesFiles: [],
    links: [],
    options: [],
    linking: [],
    packageNeeds: [],
    lockedNames: new Set(),
    codeNames: [],
    codeRead: [],
    leftOutOfGit: new Set(),
    sheets: [],
    sheetDifferences: [],
    elements: [],
    manifests: [],
    agreements: [],
    copies: [],
    configuredApart: [],
    configPlugins: [],
    propertyLists: [],
    furtherTargets: [],
    assemblies: new Map(),
    codegen: [],
    libraryManifests: [],
  };
}

/** Which side a level belongs to. */
export function sideOfLevel(level: LevelName): "android" | "ios" {
  return level === "iosTarget" || level === "swift" ? "ios" : "android";
}
