import { ANDROID_PERMISSION_PREFIX, ASKED_PERMISSIONS } from "../knowledge/android-permissions.js";
import { usesWithoutReason } from "../derive/reasons.js";
import { PERMISSION_PAIRS } from "../knowledge/permission-pairs.js";
import type { App } from "../model/app.js";
import type { Entry, EntryKind } from "../model/facts.js";
import { mainText, type Sheet } from "../model/sheet.js";
import type { Place } from "../model/place.js";
import { reason, reasonText, type Reason } from "../model/reason.js";
import { textOf } from "../model/value.js";

/** What a system or a store asks people about, or has to be told. */
export const PERMIT_KINDS = [
  "permission",
  "purposeText",
  "entitlement",
  "backgroundMode",
  "queriedScheme",
  "accessReason",
  "collectedData",
  "trackingDomain",
] as const satisfies EntryKind[];
export type PermitKind = (typeof PERMIT_KINDS)[number];

/** One of them, as the finished app has it. */
export interface Permit {
  kind: PermitKind;
  name: string;
  /** People are asked for it when the app runs. */
  asked: boolean;
  /** The words of a purpose text, what an entitlement holds; where several variants differ, the shipped one's comes first. */
  values: string[];
  /** The variants that have it; empty where all do. */
  variants: string[];
  /** Who brings it: the app's own files under no name, a package or module, by way of what else where it comes with another. */
  by: { name: string | undefined; at: Place }[];
  /** A marker in the app's manifest takes it out again, also where a package brings it. */
  removed: Place | undefined;
  /** The highest level of the system on which it is there, and who says so. */
  limit: { level: string; by: string | undefined; at: Place } | undefined;
  /** What stands for the same capability on the other side; absent for what has no counterpart. */
  counterpart: { capability: string; names: string[]; there: string[] } | undefined;
  /** SDKs whose sheets ask for it. */
  neededBy: string[];
  /** Packages whose native code uses what it is for; the app's own code under no name. With nobody who brings it, it is missing. */
  usedBy: (string | undefined)[];
  /** Whether source code names it; `undefined` where the code was not looked through for it. */
  inCode: boolean | undefined;
}

export interface SidePermits {
  side: "android" | "ios";
  permits: Permit[];
  /** Why there may be more than what is listed. */
  open: Reason[];
}

export interface AppPermits {
  app: App;
  sides: SidePermits[];
  /** Packages of the Android side whose description is on this machine, and those of which nothing tells what they bring. */
  packages: { known: number; unknown: number };
}

/** Everything that the finished app asks for and declares, who brings it, and what stands against it on the other side. */
export function permitsOf(app: App, sheets: readonly Sheet[]): AppPermits {
  const gaps = new Set(app.graph?.gaps.map(({ name }) => name));
  const known = app.graph?.packages.filter(({ name }) => !gaps.has(name)).length ?? 0;
  const unknown = app.graph ? gaps.size : registryPackages(app).length;
  return {
    app,
    packages: { known, unknown },
    sides: (["android", "ios"] as const).flatMap((side) =>
      app[side] ? [{ side, permits: permitsOn(app, side, sheets), open: openOf(app, side, unknown) }] : [],
    ),
  };
}

function permitsOn(app: App, side: "android" | "ios", sheets: readonly Sheet[]): Permit[] {
  const groups = new Map<string, Entry[]>();
  for (const entry of app.entries) {
    if (entry.side !== side || !(PERMIT_KINDS as readonly EntryKind[]).includes(entry.kind) || entry.name === "") continue;
    const key = `${entry.kind} ${entry.name}`;
    groups.set(key, [...(groups.get(key) ?? []), entry]);
  }
  const permits = [...groups.values()].map((entries) => permitOf(app, side, entries as [Entry, ...Entry[]], sheets));
  if (side === "ios") permits.push(...missingTexts(app), ...missingReasons(app));
  const order = (permit: Permit): number => PERMIT_KINDS.indexOf(permit.kind);
  return permits.sort(
    (a, b) => order(a) - order(b) || Number(b.asked) - Number(a.asked) || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0),
  );
}

/** Purpose texts that native code needs and that are not there, under the first of the keys that would do. */
function missingTexts({ entries, guardedUses }: App): Permit[] {
  const there = new Set(entries.flatMap(({ kind, name }) => (kind === "purposeText" ? name : [])));
  const open = guardedUses.filter(({ keys, perhaps }) => !perhaps && !keys.some((key) => there.has(key)));
  return [...new Set(open.map(({ keys }) => keys[0] ?? ""))].map((name) =>
    missing(
      "purposeText",
      name,
      open.filter(({ keys }) => keys[0] === name),
    ),
  );
}

/** Kinds of interfaces that are used, and for which no privacy manifest in the app gives a reason. */
function missingReasons(app: App): Permit[] {
  const open = app.ios?.generated ? [] : usesWithoutReason(app);
  return [...new Set(open.map(({ category }) => category))].map((name) =>
    missing(
      "accessReason",
      name,
      open.filter(({ category }) => category === name),
    ),
  );
}

function missing(kind: PermitKind, name: string, uses: readonly { by: string | undefined }[]): Permit {
  return {
    kind,
    name,
    asked: kind === "purposeText",
    values: [],
    variants: [],
    by: [],
    removed: undefined,
    limit: undefined,
    counterpart: undefined,
    neededBy: [],
    usedBy: uses.map(({ by }) => by),
    inCode: undefined,
  };
}

function permitOf(app: App, side: "android" | "ios", entries: [Entry, ...Entry[]], sheets: readonly Sheet[]): Permit {
  const [{ kind, name }] = entries;
  const live = entries.filter(({ removed }) => !removed);
  const variants = live.some(({ variant }) => variant === undefined) ? [] : [...new Set(live.flatMap(({ variant }) => variant ?? []))];
  const short = name.split(".").at(-1) ?? name;
  // What people are asked for is asked for in code, by its name; the rest holds by itself.
  const looked = kind === "permission" && ASKED_PERMISSIONS.has(name) && app.sheets.length > 0 && app.codeRead.includes("android");
  return {
    kind: kind as PermitKind,
    name,
    asked: kind === "purposeText" || ASKED_PERMISSIONS.has(name),
    values: [...new Set(live.flatMap(({ value }) => textOf(value) ?? []))],
    variants,
    by: [...new Map(live.map(({ by, at }) => [by ?? "", { name: by, at }])).values()],
    removed: entries.find(({ removed, variant }) => removed && variant === undefined)?.at,
    limit: limitOf(live),
    counterpart: counterpartOf(app, side, kind, name),
    usedBy: [
      ...(kind === "purposeText" ? app.guardedUses.filter(({ keys }) => keys.includes(name)) : []),
      ...(kind === "accessReason" ? app.restrictedUses.filter(({ category }) => category === name) : []),
    ].map(({ by }) => by),
    neededBy: sheets
      .filter(
        ({ sdk, needs }) =>
          app.sheets.includes(sdk) && needs.some((need) => need.kind === kind && mainText(need.value, "name").includes(name)),
      )
      .map(({ sdk }) => sdk),
    inCode: looked ? app.codeNames.some((fact) => fact.name === short) : undefined,
  };
}

/**
 * The app's own manifest says first, then packages: a limit that a package states holds for the app too, where the app's own says none.
 * Source: developer.android.com, "Manage manifest files", "Merge conflict heuristics".
 */
function limitOf(entries: readonly Entry[]): Permit["limit"] {
  const stated = entries.filter(({ limits }) => limits?.highest !== undefined);
  const own = entries.filter(({ by }) => by === undefined);
  const found = stated.find(({ by }) => by === undefined) ?? (own.some(({ limits }) => limits?.alone) ? undefined : stated[0]);
  return found?.limits?.highest === undefined ? undefined : { level: found.limits.highest, by: found.by, at: found.at };
}

function counterpartOf(app: App, side: "android" | "ios", kind: EntryKind, name: string): Permit["counterpart"] {
  const other = side === "android" ? "ios" : "android";
  if (!app[other] || (kind !== "permission" && kind !== "purposeText")) return undefined;
  const pair = PERMISSION_PAIRS.find(({ android, ios }) =>
    side === "android" ? android.some((short) => ANDROID_PERMISSION_PREFIX + short === name) : ios.includes(name),
  );
  if (!pair) return undefined;
  const names = side === "android" ? pair.ios : pair.android.map((short) => ANDROID_PERMISSION_PREFIX + short);
  const there = app.entries
    .filter((entry) => entry.side === other && names.includes(entry.name) && !entry.removed)
    .map((entry) => entry.name);
  return { capability: pair.capability, names, there: [...new Set(there)] };
}

function registryPackages(app: App): string[] {
  return app.dependencies.flatMap(({ side, ecosystem, route, name, test, platform }) =>
    side === "android" && ecosystem === "maven" && route === "registry" && !test && !platform ? name : [],
  );
}

function openOf(app: App, side: "android" | "ios", unknown: number): Reason[] {
  const open = app.openParts.filter((part) => part.side === side).map(({ why }) => why);
  if (app.openConfig.includes(side)) open.push(reason("configuration-made-by-program"));
  if (side === "android" && unknown > 0)
    open.push(unknown === 1 ? reason("one-registry-package-away") : reason("registry-packages-away", { count: unknown }));
  if (app.dependencies.some(({ nativeUnknown, test }) => nativeUnknown && !test)) open.push(reason("shared-packages-not-installed"));
  if (side === "ios" && app.ios?.pods && app.ios.pods.declared.size > 0) open.push(reason("pod-code-absent"));
  return [...new Map(open.map((why) => [reasonText(why), why])).values()];
}
