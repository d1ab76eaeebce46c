import type { Ecosystem } from "../model/facts.js";

/** Keys of a need that say when it holds and why. */
export const CONDITION_KEYS = ["on", "from", "before", "framework", "variant", "with", "why"] as const;

/** Kinds of need that ask for a level. */
export const LEVEL_KINDS = ["minSdk", "compileSdk", "targetSdk", "iosTarget", "kotlin", "swift", "androidPlugin", "gradle"] as const;

/** Kinds of need: each entry of `needs` has exactly one of them. */
export const NEED_KINDS = [
  ...LEVEL_KINDS,
  "repository",
  "buildPlugin",
  "companion",
  "serviceFile",
  "licenceFile",
  "key",
  "permission",
  "purposeText",
  "manifestEntry",
  "plistEntry",
  "entitlement",
  "backgroundMode",
  "urlScheme",
  "queriedScheme",
  "host",
  "systemFramework",
  "linkerFlag",
  "embed",
  "searchPath",
  "keepRule",
  "packaging",
  "import",
  "start",
  "registration",
  "use",
  "debugOnly",
  "withdrawn",
  "logLine",
] as const;
export type NeedKind = (typeof NEED_KINDS)[number];

/** Kinds of need that only one side can have. */
export const SIDE_OF_KIND: Partial<Record<NeedKind, "android" | "ios">> = {
  minSdk: "android",
  compileSdk: "android",
  targetSdk: "android",
  kotlin: "android",
  androidPlugin: "android",
  gradle: "android",
  buildPlugin: "android",
  permission: "android",
  manifestEntry: "android",
  keepRule: "android",
  packaging: "android",
  iosTarget: "ios",
  swift: "ios",
  purposeText: "ios",
  plistEntry: "ios",
  entitlement: "ios",
  backgroundMode: "ios",
  systemFramework: "ios",
  linkerFlag: "ios",
  embed: "ios",
  searchPath: "ios",
};

export const AGREEMENTS = ["exact", "patch", "minor", "major", "free"] as const;
export type Agreement = (typeof AGREEMENTS)[number];

/** Ecosystems that a sheet can name packages of. */
export const PACKAGE_KEYS = ["maven", "cocoapods", "swiftpm", "carthage", "npm", "pub", "nuget", "unity", "cordova", "binary"] as const;
export type PackageKey = (typeof PACKAGE_KEYS)[number];

/** Kinds of need about source code. */
export const CODE_KINDS: ReadonlySet<NeedKind> = new Set(["import", "start", "registration", "use", "debugOnly"]);

/** Which of a sheet's packages a dependency can be. */
export const KEY_OF: Partial<Record<Ecosystem, PackageKey>> = {
  maven: "maven",
  cocoapods: "cocoapods",
  swiftpm: "swiftpm",
  carthage: "carthage",
  npm: "npm",
  pub: "pub",
  nuget: "nuget",
  unity: "unity",
  cordova: "cordova",
  binary: "binary",
};
