import type { App } from "../model/app.js";
import type { Entry, EntryKind, SideName } from "../model/facts.js";
import type { Place } from "../model/place.js";
import type { Sheet, SheetNeed } from "../model/sheet.js";
import type { Presence } from "../derive/presence.js";
import type { Wire, WireState } from "./wire.js";

/** One need of a sheet on one side, and what there is to check it against. */
export interface NeedOnSide {
  app: App;
  sheet: Sheet;
  need: SheetNeed;
  side: SideName;
  presence: Presence;
  /** All sheets that hold for the app. */
  sheets: readonly Sheet[];
}

/** The answer for one need. */
export interface WireResult extends Partial<Pick<Wire, "problem" | "found" | "why" | "fix" | "places" | "faults" | "quickFix">> {
  state: WireState;
  wanted: string;
}

/** Entries of a kind and name on a side that hold in the end, and those that are taken out. */
export function entriesNamed(app: App, side: SideName, kind: EntryKind, name: string): { here: Entry[]; removed: Entry[] } {
  const all = app.entries.filter((entry) => entry.kind === kind && entry.side === side && entry.name === name);
  return { here: all.filter((entry) => !entry.removed), removed: all.filter((entry) => entry.removed) };
}

export function placesOf(entries: readonly { at: Place; value?: { place: Place } | undefined }[]): Place[] {
  return entries.map((entry) => entry.value?.place ?? entry.at);
}

/** A loose wire, where only variants that do not ship, or not all configurations, have the entries. */
export function onlyInSomeVariants(
  app: App,
  side: SideName,
  entries: readonly Entry[],
  wanted: string,
  fix: string,
): WireResult | undefined {
  const only = onlyInVariants(app, side, entries);
  return only && { state: "loose", problem: "variant", wanted, found: `only in ${only.join(", ")}`, fix, places: placesOf(entries) };
}

function onlyInVariants(app: App, side: SideName, entries: readonly Entry[]): string[] | undefined {
  if (entries.length === 0 || entries.some(({ variant }) => variant === undefined)) return undefined;
  const variants = [...new Set(entries.map(({ variant }) => variant as string))];
  const all = side === "ios" ? (app.ios?.target.configurations.map(({ name }) => name) ?? []) : [];
  if (side === "ios") return all.every((name) => variants.includes(name)) ? undefined : variants;
  // A flavour of several, or the release build, is what ships; an entry of the debug build alone is not.
  if (variants.every((variant) => /debug/i.test(variant))) return variants;
  // Beside a flavour that is named for the store an entry of others alone does not ship either.
  const flavors = new Set(app.android?.module.settings.flatMap(({ block }) => /^flavor:([^.]+)/.exec(block)?.[1] ?? []) ?? []);
  const shipped = [...flavors].filter((flavor) => /^(prod|production|live|store|release)$/i.test(flavor));
  const own = variants.filter((variant) => flavors.has(variant));
  return shipped.length > 0 && own.length === variants.length && !own.some((flavor) => shipped.includes(flavor)) ? variants : undefined;
}

/** Whether the entries of a side's manifest or property list are not in the files, so that nothing can be said to be missing in it. */
export function isUnseen(app: App, side: "android" | "ios"): boolean {
  const files = side === "android" ? app.manifests : app.propertyLists;
  return files.length === 0 && !app.wholeConfig.some((whole) => whole.side === side);
}

/** The file to which an entry of a side would be added. */
export function homeOf(app: App, side: SideName, kind: "manifest" | "plist" | "build" | "entitlements"): string {
  const whole = app.wholeConfig.find((config) => config.side === side);
  if (whole && (side === "android" ? app.manifests : app.propertyLists).length === 0) return whole.file;
  if (side === "android") {
    const { module } = app.android ?? {};
    if (kind === "build") return module?.buildFile ?? "the app's build script";
    return app.manifests[0] ?? "AndroidManifest.xml";
  }
  if (kind === "plist") return app.propertyLists[0] ?? "Info.plist";
  return app.entries.find((entry) => entry.side === "ios" && entry.kind === "entitlement")?.at.file ?? "the target's entitlements";
}

/** Whether an SDK comes as a package, which links what it needs by itself. */
export function comesAsPackage({ presence }: NeedOnSide): boolean {
  return presence.packages.some(({ ecosystem }) => ecosystem === "cocoapods" || ecosystem === "swiftpm" || ecosystem === "npm");
}
