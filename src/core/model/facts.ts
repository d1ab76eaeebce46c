import type { Place } from "./place.js";
import type { Value } from "./value.js";

export type SideName = "android" | "ios" | "shared";

export const LEVELS = ["minSdk", "targetSdk", "compileSdk", "iosTarget", "kotlin", "swift", "androidPlugin", "gradle", "java"] as const;

/** A platform or tool version that the app fixes. */
export type LevelName = (typeof LEVELS)[number];

/** One statement of a level. */
export interface LevelFact {
  level: LevelName;
  value: Value;
  /** Who states it: the app itself, or a part whose value only counts next to the app's. */
  owner: "app" | "module" | "project" | "podfile" | "pods" | "package";
  /** The owner's name: a module's path, a target, a file. */
  of: string;
  /** The flavour, build type or configuration that it holds for; absent when it holds for all. */
  variant?: string;
  /** Where the level is set; the value itself may stand elsewhere (`value.place`). */
  at: Place;
}

/** A level that a package or module asks the app for. */
export interface Demand {
  level: LevelName;
  value: Value;
  /** Who asks: a package or a module. */
  by: string;
  sdk: string | undefined;
  /** What it was read from: "podspec", "android folder", "version catalog", … */
  from: string;
}

export type Ecosystem = "maven" | "cocoapods" | "swiftpm" | "npm" | "carthage" | "binary";
export type Route = "registry" | "git" | "path" | "binary";

/** A package that one side gets. */
export interface Dependency {
  /** The short id of the SDK that it belongs to. */
  sdk: string;
  side: SideName;
  ecosystem: Ecosystem;
  /** As the ecosystem writes it: `group:artifact`, pod name with subspec, repository URL, npm name. */
  name: string;
  route: Route;
  /** What the app declares; absent where nothing is said about the version. */
  declared: Value | undefined;
  /** How the declared text is to be read. */
  requirement?: unknown;
  /** The version in the lock file. */
  locked: string | undefined;
  lockedAt?: Place;
  /** Configuration, target or section that it is declared in. */
  scope: string;
  /** The module or target that declares it. */
  in: string;
  direct: boolean;
  /** Only for tests or for the build itself. */
  test: boolean;
  /** A part of the platform or the framework, not a third party. */
  platform: boolean;
  /** Declared in a branch whose condition is not known. */
  conditional: boolean;
  /** A Git reference or a path, where the route has one. */
  reference?: { kind: "branch" | "tag" | "revision" | "none" | "path" | "url"; text: string };
  /** What fixes the version where the declaration does not: a BOM, a constraint, a framework, a parent. */
  fixedBy?: string;
  /** Which sides it brings native code to (npm packages). */
  native?: { android: boolean; ios: boolean };
  places: Place[];
}

export interface RepositoryFact {
  /** `google`, `mavenCentral` and the like, or `url`. */
  kind: "google" | "mavenCentral" | "gradlePluginPortal" | "jcenter" | "mavenLocal" | "url" | "flatDir";
  url: Value | undefined;
  /** Whether packages of the app or plugins of the build are looked up in it. */
  for: "packages" | "plugins";
  /** Groups that it is limited to; empty without a limit. */
  groups: string[];
  /** Who declares it: a module's path, `settings`, or a Podfile. */
  module: string;
  at: Place;
}

export interface BuildPluginFact {
  id: string;
  version: Value | undefined;
  applied: boolean;
  /** Named in a branch whose condition is not known. */
  conditional: boolean;
  /** The module that names it; "" for the root or the settings. */
  module: string;
  at: Place;
}

/** A package repository that a package's own build names for what it depends on. */
export interface RepositoryNeed {
  by: string;
  sdk: string;
  url: string;
  /** The dependency that is looked up there. */
  dependency: string;
  at: Place;
}

/** A path that the build follows: a local package, a binary, a search path. */
export interface PathFact {
  text: string;
  /** Relative to the survey's root; absent when it cannot be worked out. */
  resolved: string | undefined;
  kind: "package" | "binary" | "search path" | "module" | "repository";
  exists: boolean | undefined;
  side: SideName;
  /** Laid down by a tool, so that it may be absent in a fresh checkout. */
  generated: boolean;
  at: Place;
}

export type PackageManager = "npm" | "yarn" | "pnpm" | "cocoapods" | "swiftpm" | "gradle" | "carthage";

/** What is known of one package manager's lock file in an app. */
export interface LockFact {
  manager: PackageManager;
  side: SideName;
  /** The file that declares. */
  manifest: Place;
  /** The lock file's name, also when it is missing. */
  lockName: string;
  lock: string | undefined;
  /** Whether something is installed (or the folder is under version control), so that a lock file should be there. */
  expected: boolean;
  /** Something to fetch is declared at all. */
  needed: boolean;
  /** The lock was made for another state of the manifest. */
  checksum?: { same: boolean; at: Place };
  /** Installed packages that are not what the lock says. */
  installedApart: { name: string; locked: string | undefined; installed: string | undefined; at: Place }[];
  /** Declared requirements that the lock records differently. */
  declaredApart: { name: string; declared: string | undefined; recorded: string | undefined; places: Place[] }[];
}

/** An application id or bundle id, per variant. */
export interface IdFact {
  value: Value;
  variant: string | undefined;
  at: Place;
}

export interface BlindSpot {
  side: SideName;
  what: string;
  why: string;
  places: Place[];
}
