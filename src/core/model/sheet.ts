import type { AppFacts } from "./app.js";
import type { Ecosystem } from "./facts.js";
import { isWithin } from "./paths.js";
import type { Place } from "./place.js";

/** Kinds of need that ask for a level. */
export const LEVEL_KINDS = ["minSdk", "compileSdk", "targetSdk", "iosTarget", "kotlin", "swift", "androidPlugin", "gradle"] as const;

/** Kinds of need: each entry of `needs` has exactly one of them. `needs/kinds/` defines them. */
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
  "privacyManifest",
  "systemFramework",
  "linkerFlag",
  "embed",
  "searchPath",
  "keepRule",
  "packaging",
  "gradleProperty",
  "resource",
  "podfileCall",
  "option",
  "configPlugin",
  "import",
  "start",
  "registration",
  "use",
  "debugOnly",
  "withdrawn",
  "logLine",
] as const;
export type NeedKind = (typeof NEED_KINDS)[number];

export const AGREEMENTS = ["exact", "patch", "minor", "major", "free"] as const;
export type Agreement = (typeof AGREEMENTS)[number];

/** Ecosystems that a sheet can name packages of. */
export const PACKAGE_KEYS = ["maven", "cocoapods", "swiftpm", "carthage", "npm", "pub", "nuget", "unity", "cordova", "binary"] as const;
export type PackageKey = (typeof PACKAGE_KEYS)[number];

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

/** What a need asks for: a text (numbers and booleans as texts), or a table of keys. */
export type NeedValue = string | NeedTable;
export interface NeedTable {
  readonly [key: string]: NeedPart;
}
export type NeedPart = NeedValue | readonly NeedPart[];

/** Tells whether the whole of a text has a pattern; linear in the length of the text. */
export type Pattern = (text: string) => boolean;

/** One entry of a sheet's `needs`, as it is written. */
export interface SheetNeed {
  kind: NeedKind;
  /** The value under the kind's key. */
  value: NeedValue;
  on: "android" | "ios" | "both" | "shared";
  from: string | undefined;
  before: string | undefined;
  frameworks: string[];
  variant: string | undefined;
  with: string | undefined;
  /** Only where the app's code calls this. */
  uses?: string;
  why: string | undefined;
  /** Only some apps need it: a note where it is missing, never an error. */
  optional?: boolean;
  at: Place;
  /** Where the value itself begins. */
  valueAt: Place;
}

/** A sheet that was read; what was wrong in it is left out. */
export interface Sheet {
  sdk: string;
  title: string;
  docs: string | undefined;
  file: string;
  /** The folder whose apps it holds for; "" for all. */
  scope: string;
  agree: Agreement | undefined;
  packages: Map<PackageKey, string[]>;
  needs: SheetNeed[];
  /** Patterns of the sheet by their text. */
  patterns: Map<string, Pattern>;
  /** Patterns that are looked for anywhere in a text (log lines). */
  searches: Map<string, Pattern>;
  at: Place;
}

/** The sheets that hold for an app: of two for one SDK the one that lies nearer to it. */
export function sheetsFor(app: Pick<AppFacts, "path">, sheets: readonly Sheet[]): Sheet[] {
  const found = new Map<string, Sheet>();
  for (const sheet of sheets) {
    if (sheet.scope !== "" && !isWithin(app.path, sheet.scope)) continue;
    const known = found.get(sheet.sdk);
    if (!known || sheet.scope.length > known.scope.length) found.set(sheet.sdk, sheet);
  }
  return [...found.values()];
}

/** Whether a need is written in its long form. */
export function isTable(part: NeedPart | undefined): part is NeedTable {
  return typeof part === "object" && !Array.isArray(part);
}

function partIn(part: NeedPart | undefined, path: readonly string[]): NeedPart | undefined {
  let current = part;
  for (const key of path) current = isTable(current) && Object.hasOwn(current, key) ? current[key] : undefined;
  return current;
}

/** The text under these keys; of a text itself without any. */
export function textIn(part: NeedPart | undefined, ...path: string[]): string | undefined {
  const found = partIn(part, path);
  return typeof found === "string" ? found : undefined;
}

/** The items of the list under these keys. */
export function itemsIn(part: NeedPart | undefined, ...path: string[]): readonly NeedPart[] {
  const found = partIn(part, path);
  return Array.isArray(found) ? (found as readonly NeedPart[]) : [];
}

/** The texts under these keys: one that stands by itself, or those of a list. */
export function textsIn(part: NeedPart | undefined, ...path: string[]): string[] {
  const found = partIn(part, path);
  return typeof found === "string" ? [found] : Array.isArray(found) ? found.filter((item) => typeof item === "string") : [];
}

/** The text of a short form, or of `key` in the long form. */
export function mainText(value: NeedValue, key: string): string {
  return (isTable(value) ? textIn(value, key) : value) ?? "";
}
