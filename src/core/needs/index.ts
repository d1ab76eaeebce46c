import { exemption, type Exemption } from "../derive/conditions.js";
import { brokenFileOf } from "../derive/incomplete.js";
import { furtherApps } from "../derive/further-targets.js";
import type { App } from "../model/app.js";
import { isUntold } from "../knowledge/generated-projects.js";
import { sideOf, sidesOf } from "../model/app.js";
import type { SideName } from "../model/facts.js";
import type { Place } from "../model/place.js";
import { reason } from "../model/reason.js";
import { sheetsFor, type Sheet, type SheetNeed } from "../model/sheet.js";
import type { NeedOnSide, WireResult } from "./context.js";
import { leftOpen, type LeftOpen } from "./left-open.js";
import type { Home } from "./definition.js";
import { derivedWires } from "./derived.js";
import { describe, NEEDS } from "./kinds/index.js";
import { isOfThirdParty, partOn, presenceOf, type Presence } from "../derive/presence.js";
import type { Need, Wire } from "./wire.js";

/** The wires of one SDK in one app: on each side in the vendor's order, what is derived after it. */
export interface Trace {
  sdk: string;
  sheet: Sheet | undefined;
  sides: { side: SideName; version: string | undefined; wires: Wire[] }[];
}

export interface TraceOptions {
  /** Holds the needs of this version of the SDK instead of the one that is in. */
  at?: string;
}

/** Holds every need of an SDK against an app. */
export function traceOf(app: App, sheets: readonly Sheet[], sdk: string, options: TraceOptions = {}): Trace {
  const sheet = sheetsFor(app, sheets).find((candidate) => candidate.sdk === sdk);
  const trace: Trace = { sdk, sheet, sides: [] };
  for (const side of sidesOf(app)) {
    const presence = sheet ? presenceOf(app, sheet, side) : undefined;
    const here =
      presence !== undefined ||
      app.dependencies.some((dependency) => dependency.sdk === sdk && dependency.side === side && !dependency.test);
    if (!here) continue;
    const version = options.at ?? presence?.version ?? partOn(app, sdk, side)?.version;
    const wires = sheet && presence ? sheetWires(app, sheet, side, { ...presence, version }, sheetsFor(app, sheets)) : [];
    if (sheet && side === "ios") wires.push(...furtherWires(app, sheet, sheetsFor(app, sheets), options.at, wires));
    const told = new Set(wires.flatMap(({ need, wanted }) => [need.kind as string, wanted]));
    wires.push(...derivedWires(app, sdk, side, wires.length + 1, told));
    if (side !== "shared" || wires.length > 0) trace.sides.push({ side, version, wires });
  }
  return trace;
}

/** Every SDK of an app that could be traced: third-party packages of a side, in alphabetical order. */
export function tracedSdks(app: App): string[] {
  const found = new Set(app.sheets);
  for (const dependency of app.dependencies) if (isOfThirdParty(app, dependency)) found.add(dependency.sdk);
  return [...found].sort();
}

/** The SDK that a word means: its id, in any case, or the name of one of its packages. `undefined` where nothing is called so. */
export function sdkCalled(word: string, known: readonly string[], apps: readonly App[]): string | undefined {
  if (known.includes(word)) return word;
  const plain = word.toLowerCase();
  return (
    known.find((sdk) => sdk.toLowerCase() === plain) ??
    apps.flatMap(({ dependencies }) => dependencies).find(({ name, sdk }) => name.toLowerCase() === plain && known.includes(sdk))?.sdk
  );
}

/** The wires of all SDKs of an app that a sheet describes. */
export function wiresOf(app: App, sheets: readonly Sheet[]): Wire[] {
  return sheetsFor(app, sheets)
    .filter(({ sdk }) => app.sheets.includes(sdk))
    .flatMap((sheet) =>
      traceOf(app, sheets, sheet.sdk).sides.flatMap(({ wires }) => wires.filter(({ need }) => need.derived === undefined)),
    );
}

function sheetWires(app: App, sheet: Sheet, side: SideName, presence: Presence, sheets: readonly Sheet[]): Wire[] {
  return sheet.needs
    .filter((need) => need.on === side || (need.on === "both" && side !== "shared"))
    .map((need, index) => {
      const stated: Need = {
        sdk: sheet.sdk,
        side,
        kind: need.kind,
        step: index + 1,
        what: describe(need, side),
        why: need.why,
        derived: undefined,
        at: need.at,
        ...(need.optional ? { optional: true } : {}),
      };
      const exempt = exemption(app, need, presence) ?? unused(app, sheet.sdk, need);
      const seen: WireResult = exempt
        ? { ...exempt, wanted: describe(need, need.on) }
        : NEEDS[need.kind].check({ app: inVariant(app, need.variant), sheet, need, side, presence, sheets });
      const broken = seen.state === "missing" ? brokenFileOf(app, side) : undefined;
      const added =
        seen.state === "missing" && seen.problem !== "empty" && sideOf(app, side)?.generated
          ? mayBeAdded({ app, sheet, need, side, presence, sheets }, seen.wanted)
          : undefined;
      const result: WireResult =
        broken !== undefined
          ? { state: "unknown", wanted: seen.wanted, why: reason("incomplete-file", { file: broken }) }
          : added
            ? { state: "unknown", wanted: seen.wanted, ...added }
            : seen;
      return {
        need: stated,
        state: result.state,
        problem: result.problem,
        found: result.found,
        wanted: result.wanted,
        why: result.why,
        fix: result.fix,
        faults: result.faults,
        quickFix: result.quickFix,
        places: result.state === "missing" && !result.places?.length ? whereMissing(app, need, side, presence) : (result.places ?? []),
      };
    });
}

/** Why a need does not hold that is only for apps whose code calls something. */
function unused({ code, codeNames }: App, sdk: string, { uses }: SheetNeed): Exemption | undefined {
  if (uses === undefined || code?.calls.some((call) => call.sdk === sdk && call.name === uses && call.reach !== "never")) return undefined;
  if (!code?.files.some(({ searched }) => searched > 0))
    return { state: "unknown", why: reason("use-open-without-sources", { call: uses }) };
  const [word] = codeNames.filter(({ name, at }) => name === uses && !code.parsed.has(at.file));
  return word
    ? { state: "unknown", why: reason("use-open-in-unparsed", { call: uses, file: word.at.file }) }
    : { state: "unneeded", why: reason("only-where-called", { call: uses }) };
}

/** What is wrong in application targets beside the shipped one, where the same is not wrong there; only where the SDK is surely in them. */
function furtherWires(app: App, sheet: Sheet, sheets: readonly Sheet[], at: string | undefined, shipped: readonly Wire[]): Wire[] {
  return furtherApps(app).flatMap(({ target, app: seen }) => {
    const presence = presenceOf(seen, sheet, "ios");
    if (!presence) return [];
    return sheetWires(seen, sheet, "ios", { ...presence, version: at ?? presence.version }, sheets).flatMap((wire) => {
      if (!isOfTarget(wire.need.kind) || (wire.state !== "missing" && wire.state !== "loose")) return [];
      const twin = shipped.find(({ need }) => need.step === wire.need.step);
      // A property list that both have is told once.
      if (twin?.state === wire.state && twin.places[0]?.file === wire.places[0]?.file && twin.places[0]?.line === wire.places[0]?.line)
        return [];
      return [{ ...wire, need: { ...wire.need, what: `${wire.need.what} in the target ${target}`, target } }];
    });
  });
}

/** Why something that writes a native project can add what its configuration does not name; `undefined` where nothing can. */
function mayBeAdded(subject: NeedOnSide, wanted: string): LeftOpen | undefined {
  const { app, side, need } = subject;
  // Without a plugin Expo writes what the configuration says, and no more.
  if (
    app.kind === "expo" &&
    app.configPlugins.every(({ open }) => side === "shared" || !open.includes(side)) &&
    !app.openConfig.includes(side)
  )
    return undefined;
  if (app.kind === "unity" && app.wholeConfig.some((whole) => whole.side === side)) return leftOpen(subject, wanted);
  return isUntold(app.kind, side, need.kind) ? { why: reason("generated-when-built"), places: [] } : undefined;
}

/** Whether each application target of an Xcode project has to meet a need of this kind itself. */
function isOfTarget(kind: Need["kind"]): boolean {
  return kind !== "dependency" && NEEDS[kind].ofTarget === true;
}

/** The file to which a missing thing would be added. */
function whereMissing(app: App, need: SheetNeed, side: SideName, { packages }: Presence): Place[] {
  const { code, home } = NEEDS[need.kind];
  if (code) {
    // A call is added where the side starts; without such a place it is told where the package is declared.
    const entry = app.code?.entries.find((candidate) => candidate.side === side && candidate.phase === "launch");
    return entry ? [entry.at] : packages.flatMap(({ places }) => places.slice(0, 1)).slice(0, 1);
  }
  const file = side === "shared" ? undefined : fileOf(app, side, (typeof home === "function" ? home(need) : home)?.[side]);
  return file === undefined ? [] : [{ file, line: 1, column: 1 }];
}

function fileOf(app: App, side: "android" | "ios", home: Home | undefined): string | undefined {
  if (side === "android") return app.android && ((home === "manifest" ? app.manifests[0] : undefined) ?? app.android.module.buildFile);
  if (!app.ios) return undefined;
  return (home === "plist" ? app.propertyLists[0] : home === "pods" ? app.ios.pods?.file : undefined) ?? app.ios.projectFile;
}

/** The app as one variant sees it: what holds for all, and its own. */
function inVariant(app: App, variant: string | undefined): App {
  if (variant === undefined) return app;
  return {
    ...app,
    entries: app.entries.flatMap((entry) =>
      entry.variant === undefined ? entry : entry.variant === variant ? { ...entry, variant: undefined } : [],
    ),
  };
}
