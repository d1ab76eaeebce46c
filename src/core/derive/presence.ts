import type { App, AppFacts } from "../model/app.js";
import { referenceText, type Dependency, type Ecosystem, type SideName } from "../model/facts.js";
import { textOf } from "../model/value.js";
import { wildcard } from "../model/wildcard.js";
import { KEY_OF, type PackageKey } from "../model/sheet.js";
import type { Sheet } from "../model/sheet.js";

/**
 * Whether a package is a third party's that can bring something into a native side: one of a side, one of shared code with native code, or
 * one that a sheet describes.
 */
export function isOfThirdParty(app: Pick<App, "sheets">, { platform, test, side, native, sdk }: Dependency): boolean {
  return !platform && !test && (side !== "shared" || native?.android === true || native?.ios === true || app.sheets.includes(sdk));
}

/** True when the dependency is one of the sheet's packages. */
export function isPackageOf(sheet: Sheet, ecosystem: Ecosystem, name: string): boolean {
  const key = KEY_OF[ecosystem] ?? (ecosystem as PackageKey);
  return (sheet.packages.get(key) ?? []).some((pattern) => fits(key, pattern, name));
}

function fits(key: PackageKey, pattern: string, name: string): boolean {
  if (key === "cocoapods") return name === pattern || name.startsWith(`${pattern}/`);
  if (key === "swiftpm" || key === "carthage") return address(pattern) === address(name);
  if (pattern.includes("*")) return wildcard(pattern, name);
  return name === pattern || (key === "binary" && name.split("/").at(-1) === pattern);
}

function address(url: string): string {
  return url
    .toLowerCase()
    .replace(/^\w+:\/\/|^git@/, "")
    .replace(":", "/")
    .replace(/\.git\/?$|\/$/g, "");
}

/** Ecosystems of packages that are native code of one side. */
export const NATIVE: ReadonlySet<Ecosystem> = new Set(["maven", "cocoapods", "swiftpm", "carthage", "binary"]);

/** Ecosystems in which one package stands for both sides, and pods, which may wrap others. */
export const WRAPPERS: Ecosystem[] = ["npm", "pub", "cordova", "nuget", "unity", "cocoapods"];

/** How an SDK comes into one side of an app. */
export interface Presence {
  /** Packages of this side, native ones first. */
  packages: Dependency[];
  version: string | undefined;
  ecosystem: Ecosystem | undefined;
}

/** The SDK's packages on a side; nothing when it is not in there. */
export function presenceOf(app: AppFacts, sheet: Sheet, side: SideName): Presence | undefined {
  const own = app.dependencies.filter((dependency) => !dependency.test && isPackageOf(sheet, dependency.ecosystem, dependency.name));
  const here = own.filter((dependency) => dependency.side === side || (dependency.side === "shared" && isForBoth(dependency)));
  // Unpacked into a Unity project, or listed beside it, an SDK of that engine brings its C# code along.
  const unpacked = app.kind === "unity" && sheet.packages.has("unity");
  if (
    side === "shared"
      ? own.length === 0 || (!unpacked && !own.some(({ side: of, ecosystem }) => of === "shared" || !NATIVE.has(ecosystem)))
      : here.length === 0
  )
    return undefined;
  const packages = (side === "shared" ? own : here).sort((a, b) => Number(NATIVE.has(b.ecosystem)) - Number(NATIVE.has(a.ecosystem)));
  // A wrapper's own build may fix the native version.
  const wrapped = app.packageNeeds.find(
    (need) =>
      need.side === side &&
      need.requirement !== undefined &&
      isPackageOf(sheet, need.ecosystem, need.name) &&
      packages.some(({ name }) => name === need.by),
  );
  const shared = side === "shared" ? own.find(({ ecosystem }) => !NATIVE.has(ecosystem)) : undefined;
  if (shared) return { packages, version: versionOf(shared), ecosystem: shared.ecosystem };
  const native = packages.find((dependency) => NATIVE.has(dependency.ecosystem) && versionOf(dependency) !== undefined);
  if (native) return { packages, version: versionOf(native), ecosystem: native.ecosystem };
  if (wrapped?.requirement !== undefined && baseVersion(wrapped.requirement) !== undefined)
    return { packages, version: baseVersion(wrapped.requirement), ecosystem: wrapped.ecosystem };
  const other = packages.find((dependency) => versionOf(dependency) !== undefined);
  return { packages, version: other && versionOf(other), ecosystem: other?.ecosystem };
}

/** A package of shared code whose native sides are not known (nothing is installed) counts for both. */
function isForBoth(dependency: Dependency): boolean {
  return dependency.native === undefined || (!dependency.native.android && !dependency.native.ios && dependency.nativeUnknown === true);
}

/** What an SDK without a sheet is at on a side: its native package before the one of shared code; `known` unless nothing tells whether it is there. */
export function partOn(
  app: AppFacts,
  sdk: string,
  side: SideName,
): { version: string | undefined; packages: Dependency[]; known: boolean } | undefined {
  const own = app.dependencies.filter((dependency) => dependency.sdk === sdk && !dependency.test);
  const here = own.filter((dependency) => dependency.side === side);
  // Nothing is installed: whether it has native code for the side is not in the files.
  const perhaps =
    side === "shared" ? [] : own.filter((dependency) => dependency.side === "shared" && isForBoth(dependency) && dependency.nativeUnknown);
  const packages = here.length > 0 ? here : perhaps;
  if (packages.length === 0) return undefined;
  const ordered = [...packages].sort((a, b) => Number(NATIVE.has(b.ecosystem)) - Number(NATIVE.has(a.ecosystem)));
  const version = ordered
    .map((dependency) => versionOf(dependency) ?? referenceText(dependency) ?? textOf(dependency.declared))
    .find((text) => text !== undefined);
  return { version, packages: ordered, known: here.length > 0 };
}

/** The version that is in the app, where one is certain: the locked one, or else a declared one that is no range and no reference. */
export function exactVersion({ locked, declared }: Dependency): string | undefined {
  if (locked !== undefined) return locked;
  const text = textOf(declared);
  return text !== undefined && /^v?\d+(?:\.\d+)*(?:[-+.][\w.+-]*)?$/.test(text) && !text.endsWith("+") ? text : undefined;
}

export function versionOf(dependency: Dependency): string | undefined {
  return dependency.locked ?? baseVersion(textOf(dependency.declared));
}

/** The lowest version that a notation allows: `~> 4.2` → `4.2`. */
function baseVersion(notation: string | undefined): string | undefined {
  return notation === undefined ? undefined : /\d+(\.\d+)*([-.]?[A-Za-z][\w.-]*)?/.exec(notation)?.[0]?.replace(/\.$/, "");
}
