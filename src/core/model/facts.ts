import type { Place } from "./place.js";
import type { Reason } from "./reason.js";
import type { Value } from "./value.js";

export const SIDES = ["android", "ios", "shared"] as const;
export type SideName = (typeof SIDES)[number];

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
export interface RequiredLevel {
  level: LevelName;
  value: Value;
  /** Who asks: a package or a module. */
  by: string;
  sdk: string | undefined;
  /** What it was read from: "podspec", "android folder", "version catalog", … */
  from: string;
}

export type Ecosystem = "maven" | "cocoapods" | "swiftpm" | "npm" | "carthage" | "pub" | "nuget" | "unity" | "cordova" | "binary";
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
  /** The package of shared code that a pod is the native half of, by the path that it comes from. */
  broughtBy?: { ecosystem: "npm" | "pub"; name: string };
  /** What fixes the version where the declaration does not: a BOM, a constraint, a framework, a parent. */
  fixedBy?: string;
  /** Which sides it brings native code to (npm packages). */
  native?: { android: boolean; ios: boolean };
  /** The package is not installed, so that nothing tells whether it has native code. */
  nativeUnknown?: boolean;
  /** The flavour or build type that has it (binaries); absent where all do. */
  variant?: string;
  /** The file that it is, in the tree (binaries). */
  file?: string;
  /** What was declared before an override took its place. */
  overridden?: Value;
  places: Place[];
}

/** What a package from Git follows, since an address is no version; `undefined` for other routes. */
export function referenceText({ route, reference }: Dependency): string | undefined {
  if (route !== "git" || !reference) return undefined;
  return reference.kind === "none" ? "default branch" : reference.text;
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
  /** A block that names no address. */
  empty?: true;
  /** The module of a package declares it for every project of the build that takes it in. */
  forAll?: true;
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
  kind:
    | "package"
    | "binary"
    | "search path"
    | "module"
    | "included module"
    | "module outside the build"
    | "repository"
    | "project"
    | "product"
    | "source file"
    | "entitlements file"
    | "bridging header"
    | "catalog"
    | "catalog entry"
    | "file"
    | "target"
    | "configuration"
    | "scheme"
    | "variant"
    | "rules file"
    | "script"
    | "property"
    | "pattern"
    | "variable"
    | "hook"
    | "project object"
    | "name of the spec";
  exists: boolean | undefined;
  side: SideName;
  /** Laid down by a tool, so that it may be absent in a fresh checkout. */
  generated: boolean;
  at: Place;
  /** The configuration of the build that takes it in. */
  configuration?: string;
  /** What is there under a name that is almost the same. */
  near?: string;
}

/** A package that the Android app gets in the end, as the build chooses it. */
export interface ResolvedPackage {
  /** `group:artifact` */
  name: string;
  version: string;
  /** Who asks for it, and for which version; the app itself under no name. */
  asked: readonly { by: string | undefined; version: string | undefined }[];
  /** The packages by way of which it comes, the app's own first; empty for the app's own. */
  way: readonly string[];
  sdk: string;
  /** A part of the platform or the framework, not a third party. */
  platform: boolean;
}

/** The packages of the Android side with what they bring, as far as their descriptions are on this machine. */
export interface PackageGraph {
  packages: readonly ResolvedPackage[];
  /** What could not be followed: nothing tells what it brings. */
  gaps: readonly { name: string; version: string | undefined; by: string | undefined }[];
}

/** A library of machine code for one kind of processor, as it comes into the Android app. */
export interface NativeLibrary {
  /** Its path, in an archive too. */
  file: string;
  name: string;
  /** As the folders are called: `arm64-v8a`. */
  processor: string;
  /** The smallest alignment of its loaded parts in bytes; `undefined` where it cannot be read. */
  alignment: number | undefined;
  /** Who brings it: a file, a package, a module; absent for the app's own. */
  by: string | undefined;
  sdk: string | undefined;
  /** The flavour or build type that has it; absent where all do. */
  variant: string | undefined;
}

export type PackageManager =
  "npm" | "yarn" | "pnpm" | "cocoapods" | "swiftpm" | "gradle" | "carthage" | "pub" | "nuget" | "unity" | "cordova";

/** What is known of one package manager's lock file in an app. */
export interface LockFact {
  manager: PackageManager;
  side: SideName;
  /** The file that declares. */
  manifest: Place;
  /** The lock file's name, also when it is missing. */
  lockName: string;
  lock: string | undefined;
  /** The lock, or the file that declares, could not be read in full: they cannot be held against each other. */
  broken?: boolean;
  /** Whether something is installed (or the folder is under version control), so that a lock file should be there. */
  expected: boolean;
  /** Something to fetch is declared at all. */
  needed: boolean;
  /** The lock was made for another state of the manifest. */
  checksum?: { same: boolean; at: Place };
  /** Lock files of other package managers beside it. */
  rivals?: string[];
  /** Installed packages that are not what the lock says. */
  installedApart: { name: string; locked: string | undefined; installed: string | undefined; at: Place }[];
  /** Without a lock: installed packages that are out of what is declared. */
  installedOutside?: { name: string; declared: string; installed: string; at: Place }[];
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
  why: Reason;
  places: Place[];
}

export type EntryKind =
  | "permission"
  | "component"
  | "metaData"
  | "feature"
  /** What the root of a manifest states of the app itself: its version. */
  | "manifestAttribute"
  | "placeholder"
  | "string"
  | "buildConfig"
  | "urlScheme"
  | "queriedScheme"
  | "host"
  | "clearText"
  | "purposeText"
  | "plist"
  | "entitlement"
  | "backgroundMode"
  | "backgroundTask"
  /** A host whose links of the web open the app. */
  | "linkHost"
  /** An address that a configuration names for the app to go to. */
  | "address"
  /** Of privacy manifests: an interface with the reasons for its use, a kind of collected data, a domain that is used for tracking. */
  | "accessReason"
  | "collectedData"
  | "trackingDomain"
  | "buildSetting"
  | "env"
  | "variable"
  /** An option that the framework's configuration hands to a package: the package, a space, the option with dots. */
  | "option"
  | "configPlugin"
  | "gradleProperty"
  /** A call in the Podfile, an entry for each thing that it is given: `a`, `linkage: static`. */
  | "podfileCall"
  | "asset"
  | "code";

/** One named thing that a side has: a permission, an entry of the property list, a key in an environment file, … */
export interface Entry {
  kind: EntryKind;
  side: SideName;
  /** As its format writes it: name of the permission, key of the entry (nested ones with dots), scheme, host. */
  name: string;
  /** What it holds, where it holds something. */
  value: Value | undefined;
  /** The flavour, build type or configuration that has it; absent when all have it. */
  variant?: string;
  /** The library or package that brings it; absent when the app states it itself. */
  by?: string;
  /** A merge marker that takes the entry out again, also where a library brings it. */
  removed?: boolean;
  /** The levels of the system on which it is there (permissions); `alone`: what a library says of it does not count. */
  limits?: { lowest?: string; highest?: string; alone?: boolean };
  /** What a permission says of its use, as the manifest writes it. */
  flags?: string;
  at: Place;
}

/** A file in which a vendor's settings come, recognised by its shape: it names an app id. */
export interface ServiceFile {
  file: string;
  side: "android" | "ios";
  /** Values that name an app, with the key that they stand under. */
  ids: { key: string; value: Value & { kind: "known" } }[];
  /** Every text in it: path with dots → value. */
  texts: Map<string, Value & { kind: "known" }>;
  variant: string | undefined;
  /** The application targets that take it in, where there are several. */
  targets?: string[];
  /** Whether the build takes it in; `undefined` when that cannot be told. */
  read: boolean | undefined;
  /** Why it is not read. */
  why: Reason | undefined;
  /** What to do so that the build takes it in. */
  advice: string;
}

/** A file of the app that a sheet names, or that comes in a pair for the two sides. */
export interface NamedFile {
  file: string;
  side: "android" | "ios" | "shared";
  variant: string | undefined;
}

/** Whether a variant's code is shrunk, and by which rules. */
export interface ShrinkFact {
  variant: string;
  enabled: Value;
  files: { path: string; resolved: string | undefined; at: Place }[];
  module: string;
}

/** A rules file for the shrinker, with its rules. */
export interface RulesFile {
  file: string;
  rules: { text: string; at: Place }[];
  /** The library that brings it to whoever uses it. */
  by: string | undefined;
}

/** A system framework, library or binary that a target links or embeds. */
export interface LinkFact {
  /** File name: `CoreLocation.framework`, `libz.tbd`, `Quaymap.xcframework`. */
  name: string;
  target: string;
  linked: boolean;
  embedded: boolean;
  /** What the binary is; `undefined` when it is not on disk or part of the system. */
  form: "dynamic" | "static" | undefined;
  system: boolean;
  at: Place;
}

/** An option of the build with its values: linker flags, search paths, packaging options. */
export interface OptionFact {
  side: "android" | "ios";
  name: string;
  values: string[];
  variant?: string;
  at: Place;
}

/** A name that was looked for in the app's own source files, and where it stands. */
export interface CodeName {
  name: string;
  side: SideName;
  at: Place;
}

/** How a package with native code comes into one side of a hybrid app. */
export interface LinkingFact {
  package: string;
  sdk: string;
  side: "android" | "ios";
  /** Linked by the framework's own mechanism. */
  automatic: boolean;
  /** The call of a script that links packages, where it is another than React Native's. */
  by?: string;
  /** The half of the mechanism that is not there, where the other one is: a call, and the file that it belongs into. */
  lacks?: { call: string; file: string };
  /** Switched off by a setting. */
  off: Place | undefined;
  /** Linked by hand as well. */
  manual: Place | undefined;
  /** The native package under which it would show up (pod name). */
  native: string;
  /** What the last installation linked; `undefined` when nothing tells. */
  installed: boolean | undefined;
  declared: Place;
  /** The lock or list that was asked. */
  list: Place | undefined;
  /** What brings the list up to date; running pod install without it. */
  refresh?: string;
  /** Its pod is in the lock in another version than the installed package has. */
  lockedApart?: { locked: string; installed: string; at: Place };
}

/** A dependency that a package's own build or specification declares. */
export interface PackageNeed {
  by: string;
  sdk: string;
  side: SideName;
  ecosystem: Ecosystem;
  name: string;
  requirement: string | undefined;
  /** What it was read from: "podspec", "android folder", "peerDependencies". */
  from: string;
  /** How a package that the app itself does not declare is installed all the same; without it that is not known. */
  undeclared?: "with native code" | "without native code" | "linked by hand" | "not at all";
  at: Place;
}
