import type { App } from "../model/app.js";
import type { Sheet } from "../model/sheet.js";
import { partOn, presenceOf } from "../derive/presence.js";
import { traceOf, tracedSdks } from "../needs/index.js";
import { WIRE_STATES, type Wire, type WireState } from "../needs/wire.js";

/** An SDK on one side of one app. */
export interface Cell {
  version: string | undefined;
  packages: string[];
  /** Whether the files tell that it is there at all. */
  known: boolean;
  /** How many wires there are in each state; without a sheet only what packages ask for themselves. */
  states: Record<WireState, number>;
}

export interface CompareRow {
  sdk: string;
  left: Cell | undefined;
  right: Cell | undefined;
  /** What differs, in words; empty where nothing does. */
  differences: string[];
  /** The side or app that alone has it. */
  only: "left" | "right" | undefined;
  /**
   * What may be said of a row without a difference: `alike`: a sheet's needs hold alike and none is unknown; `open`: alike, with things missing
   * on both; `partly`: alike as far as the files tell; `version`: no sheet, the versions are the same; `untold`: nothing to hold beside each
   * other.
   */
  agreement: "alike" | "open" | "partly" | "version" | "untold";
}

/** The two sides of an app beside each other, an SDK a row. */
export function compareSides(app: App, sheets: readonly Sheet[]): CompareRow[] {
  return comparedSdks(app).map((sdk) =>
    row(
      sdk,
      cellOf(app, sheets, sdk, "android"),
      cellOf(app, sheets, sdk, "ios"),
      sheets,
      wiresOn(app, sheets, sdk, "android"),
      wiresOn(app, sheets, sdk, "ios"),
    ),
  );
}

/** What others bring along is theirs, on whatever side they bring it. */
function comparedSdks(app: App): string[] {
  const own = new Set(app.dependencies.flatMap(({ sdk, direct, broughtBy, platform }) => ((direct || broughtBy) && !platform ? sdk : [])));
  const perhaps = app.dependencies.flatMap(({ sdk, side, nativeUnknown, platform, test }) =>
    side === "shared" && nativeUnknown && !platform && !test ? sdk : [],
  );
  const onSide = new Set(app.dependencies.flatMap(({ sdk, side }) => (side === "shared" ? [] : sdk)));
  return [...new Set([...tracedSdks(app), ...perhaps.filter((sdk) => onSide.has(sdk))])]
    .filter((sdk) => own.has(sdk) || app.sheets.includes(sdk))
    .sort();
}

/** One side of two apps beside each other. */
export function compareApps(left: App, right: App, side: "android" | "ios", sheets: readonly Sheet[]): CompareRow[] {
  const sdks = [...new Set([...tracedSdks(left), ...tracedSdks(right)])].sort();
  return sdks
    .map((sdk) =>
      row(
        sdk,
        cellOf(left, sheets, sdk, side),
        cellOf(right, sheets, sdk, side),
        [],
        wiresOn(left, sheets, sdk, side),
        wiresOn(right, sheets, sdk, side),
      ),
    )
    .filter((line) => line.left ?? line.right);
}

function wiresOn(app: App, sheets: readonly Sheet[], sdk: string, side: "android" | "ios"): Wire[] {
  return traceOf(app, sheets, sdk).sides.find((entry) => entry.side === side)?.wires ?? [];
}

function cellOf(app: App, sheets: readonly Sheet[], sdk: string, side: "android" | "ios"): Cell | undefined {
  const part = partOn(app, sdk, side);
  const sheet = sheets.find((candidate) => candidate.sdk === sdk);
  const presence = sheet && presenceOf(app, sheet, side);
  if (!part && !presence) return undefined;
  const packages = part?.packages ?? presence?.packages ?? [];
  const states = Object.fromEntries(WIRE_STATES.map((state) => [state, 0])) as Record<WireState, number>;
  for (const { state, need } of wiresOn(app, sheets, sdk, side)) states[need.optional && state === "missing" ? "unneeded" : state]++;
  return {
    version: presence?.version ?? part?.version,
    known: part?.known ?? packages.some(({ side: of, nativeUnknown }) => of !== "shared" || !nativeUnknown),
    packages: [...new Set(packages.map(({ name }) => name))],
    states,
  };
}

function row(
  sdk: string,
  left: Cell | undefined,
  right: Cell | undefined,
  sheets: readonly Sheet[],
  leftWires: Wire[],
  rightWires: Wire[],
): CompareRow {
  const only = left && !right ? "left" : right && !left ? "right" : undefined;
  const differences: string[] = [];
  if (left && right) {
    const free = sheets.find((sheet) => sheet.sdk === sdk)?.agree === "free";
    if (
      left.version !== undefined &&
      right.version !== undefined &&
      left.known &&
      right.known &&
      !alike(left.version, right.version) &&
      !free
    )
      differences.push("version");
    for (const wire of leftWires) {
      const twin = rightWires.find(
        ({ need }) => need.what === wire.need.what && need.kind === wire.need.kind && need.derived === wire.need.derived,
      );
      if (twin && twin.state !== wire.state && bad(twin.state) !== bad(wire.state)) differences.push(wire.need.what);
    }
  }
  return { sdk, left, right, differences, only, agreement: agreementOf(sdk, left, right, sheets, [...leftWires, ...rightWires]) };
}

function agreementOf(
  sdk: string,
  left: Cell | undefined,
  right: Cell | undefined,
  sheets: readonly Sheet[],
  wires: readonly Wire[],
): CompareRow["agreement"] {
  if (wires.some(({ state }) => bad(state))) return "open";
  const described = sheets.some((sheet) => sheet.sdk === sdk) || wires.some(({ need }) => need.derived === undefined);
  if (left?.known === false || right?.known === false) return "untold";
  if (described) return wires.some(({ state }) => state === "unknown") ? "partly" : "alike";
  return left?.version !== undefined && right?.version !== undefined ? "version" : "untold";
}

/** Alike as far as both say: `4.2` (the least that a range allows) beside `4.2.0`. */
function alike(a: string, b: string): boolean {
  const left = a.split(".");
  const right = b.split(".");
  return left.slice(0, right.length).join(".") === right.slice(0, left.length).join(".");
}

function bad(state: WireState): boolean {
  return state === "loose" || state === "missing";
}
