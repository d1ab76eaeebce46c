import type { App } from "../model/app.js";
import { sidesOf } from "../model/app.js";
import { NOTHING_LEADS, LIFE_CYCLE_PHASES, type AutoStart, type Guard, type LifeCyclePhase, type SdkCall } from "../model/code.js";
import type { SideName } from "../model/facts.js";
import type { Place } from "../model/place.js";
import { reason, reasonText, type Reason } from "../model/reason.js";
import type { Sheet } from "../model/sheet.js";
import { runsBefore } from "../needs/calls.js";
import { wiresOf } from "../needs/index.js";

/** Something that is wrong with a step, or that a reader should know of it. */
export interface StepMark {
  kind: "order" | "circle" | "debugOnly" | "twice" | "late" | "never" | "call" | "unguarded" | "conditional" | "removed";
  text: string;
}

/** One thing that runs while an app comes up. */
export interface StartupStep {
  /**
   * Position from 1 on, of the side's own code and of the shared code apart: all with a smaller number that it comes behind run before it, and
   * those of one number have no order among them. `undefined` when its place is not known.
   */
  number: number | undefined;
  kind: "provider" | "initializer" | "start" | "likely start" | "registration" | "use" | "debug only";
  sdk: string | undefined;
  /** The call or class, as it is written. */
  what: string;
  phase: LifeCyclePhase | undefined;
  /** The function around it. */
  within: string | undefined;
  /** Why it stands where it stands. */
  why: Reason | undefined;
  guards: string[];
  /** Handed over to another thread, or to run a little later. */
  thread: "background" | "handed over" | undefined;
  side: SideName;
  marks: StepMark[];
  /** Names of steps that have to come first. */
  needs: string[];
  /** The steps right before it, of which it is certain that they are. */
  behind: StartupStep[];
  at: Place;
}

export interface SideStartup {
  side: SideName;
  steps: StartupStep[];
  /** Calls whose time is not known, and those that are never made. */
  others: StartupStep[];
  /** Whether an entry point of the side was found. */
  entries: number;
  /** There is source code, and nothing in it had to be read: no word of a sheet, no call on a package that is named like a start. */
  unread: boolean;
}

const KINDS: Partial<Record<SdkCall["kind"], StartupStep["kind"]>> = {
  start: "start",
  heuristicStart: "likely start",
  registration: "registration",
  use: "use",
  debugOnly: "debug only",
};

/** What runs at launch on each side, in order: providers and initializers, the application, the first screen, the shared code. */
export function startupOf(app: App, sheets: readonly Sheet[]): SideStartup[] {
  const { code } = app;
  if (!code) return [];
  const marks = marksOf(app, sheets);
  const natives = sidesOf(app).filter((side) => side !== "shared");
  const sides: SideName[] = natives.length > 0 ? natives : ["shared"];
  return sides.map((side) => {
    const placed: PlacedStep[] = side === "android" ? autoSteps(app) : [];
    const others: StartupStep[] = [];
    const calls = code.calls
      .map((call): SdkCall => (side === "shared" ? call : { ...call, ...call.moments?.[side] }))
      .filter(
        (call) =>
          call.side === side ||
          (call.side === "shared" && !call.guards.some(({ kind }) => (kind === "android" || kind === "ios") && kind !== side)),
      );
    const own = calls.filter((call) => call.side === side);
    const shared = calls.filter((call) => call.side !== side);
    const rank = (call: SdkCall): number => (call.phase === undefined ? 9 : LIFE_CYCLE_PHASES.indexOf(call.phase));
    for (const call of [...own, ...shared].sort(
      (a, b) => Number(a.side !== side) - Number(b.side !== side) || rank(a) - rank(b) || (a.order ?? 0) - (b.order ?? 0),
    )) {
      const step = stepOf(call, marks.get(keyOf(call.at)) ?? []);
      if (!step) continue;
      if (call.order !== undefined && call.phase !== "later") placed.push({ step, call });
      else others.push(step);
    }
    const steps = numbered(placed);
    const files = code.files.filter((entry) => entry.side === side || entry.side === "shared");
    return {
      side,
      steps,
      others,
      entries: code.entries.filter((entry) => entry.side === side || entry.side === "shared").length,
      unread: files.some(({ searched }) => searched > 0) && files.every(({ parsed }) => parsed === 0),
    };
  });
}

/** A step with what its place in the order follows from: the call that it is, or what the system makes by itself. */
interface PlacedStep {
  step: StartupStep;
  call?: SdkCall;
  auto?: AutoStart;
}

/** Steps with their numbers, in the order of these within each moment. */
function numbered(placed: readonly PlacedStep[]): StartupStep[] {
  const known = placed.filter(
    ({ step, call }) => (call === undefined || call.sure) && !step.marks.some(({ kind }) => kind === "removed" || kind === "circle"),
  );
  const numbers = new Map<PlacedStep, number>();
  const numberOf = (one: PlacedStep): number => {
    const found = numbers.get(one);
    if (found !== undefined) return found;
    // What leads back to itself ends here.
    numbers.set(one, 1);
    let number = 1;
    for (const other of known) if (other !== one && comesBefore(other, one)) number = Math.max(number, numberOf(other) + 1);
    numbers.set(one, number);
    return number;
  };
  for (const one of known) one.step.number = numberOf(one);
  for (const one of known)
    one.step.behind = known.flatMap((other) =>
      other.step.number === (one.step.number ?? 0) - 1 && comesBefore(other, one) ? other.step : [],
    );
  const moment = ({ step: { side, phase } }: PlacedStep): string => `${side} ${phase ?? ""}`;
  const moments = [...new Set(placed.map(moment))];
  return moments.flatMap((name) => {
    const here = placed.filter((one) => moment(one) === name).map(({ step }) => step);
    // What has no number stays behind what it stands behind.
    let last = 0;
    return here
      .map((step) => ({ step, rank: (last = step.number ?? last) }))
      .sort((a, b) => a.rank - b.rank)
      .map(({ step }) => step);
  });
}

/**
 * Whether one step certainly runs before another of the same side. Source: developer.android.com, "<provider>" (initOrder), "App Startup" (the
 * dependencies of initializers).
 */
function comesBefore(a: PlacedStep, b: PlacedStep): boolean {
  if (a.step.side !== b.step.side) return false;
  if (a.call && b.call) return runsBefore(a.call, b.call) === true;
  if (a.auto && b.auto)
    return a.auto.kind === "initializer" && b.auto.kind === "initializer"
      ? b.step.needs.includes(a.step.what.split(/[.$]/).at(-1) ?? "")
      : a.auto.kind === "provider" && a.auto.initOrder > (b.auto.kind === "provider" ? b.auto.initOrder : 0);
  const own = a.auto && b.call?.entry === `${a.auto.kind} ${a.auto.name.split(/[.$]/).at(-1) ?? ""}`;
  if (a.auto) return own === true || LIFE_CYCLE_PHASES.indexOf(b.step.phase ?? "provider") > LIFE_CYCLE_PHASES.indexOf("provider");
  return LIFE_CYCLE_PHASES.indexOf(a.step.phase ?? "later") < LIFE_CYCLE_PHASES.indexOf("provider");
}

function keyOf({ file, line, column }: Place): string {
  return `${file}:${line}:${column}`;
}

function stepOf(call: SdkCall, faults: readonly StepMark[]): StartupStep | undefined {
  const kind = KINDS[call.kind];
  if (!kind) return undefined;
  const marks = [...faults];
  if (call.reach === "never" && !marks.some((mark) => mark.kind === "never"))
    marks.push({ kind: "never", text: `never reached: ${reasonText(call.unreached ?? NOTHING_LEADS)}` });
  if (call.guards.some((guard) => guard.kind === "debug")) marks.push({ kind: "debugOnly", text: "only in debug builds" });
  return {
    number: undefined,
    kind,
    sdk: call.sdk,
    what: `${call.callee}${call.arguments.length > 0 ? "(…)" : "()"}`,
    phase: call.phase,
    within: call.within,
    why:
      call.entry === undefined
        ? call.reach === "possible"
          ? reason("no-entry-point-leads")
          : undefined
        : reason("started-by", { entry: call.entry }),
    guards: shownGuards(call.guards),
    thread: call.background ? "background" : call.ordered || call.order === undefined ? undefined : "handed over",
    side: call.side,
    marks,
    needs: [],
    behind: [],
    at: call.at,
  };
}

function shownGuards(guards: readonly Guard[]): string[] {
  return [...new Set(guards.map(({ text }) => text))];
}

/** Providers and initializers, with what each needs. */
function autoSteps(app: App): PlacedStep[] {
  const simple = (name: string): string => name.split(/[.$]/).at(-1) as string;
  return (app.code?.autoStarts ?? []).map((entry) => {
    const needs = entry.needs.map(({ name }) => simple(name));
    const marks: StepMark[] = [];
    if (entry.removed) marks.push({ kind: "removed", text: "removed by a merge marker" });
    if (needs.some((name) => leadsTo(app, name, simple(entry.name))))
      marks.push({ kind: "circle", text: `in a circle with ${needs.join(", ")}` });
    const why =
      entry.kind === "provider"
        ? entry.initOrder !== 0
          ? reason("init-order", { order: entry.initOrder })
          : reason("providers-first")
        : needs.length > 0
          ? reason("after-needed", { names: needs.join(", ") })
          : reason("by-startup-provider");
    const sdk = app.dependencies.find(({ name, sdk: id }) => entry.by !== undefined && (name === entry.by || id === entry.by))?.sdk;
    const step: StartupStep = {
      number: undefined,
      kind: entry.kind,
      sdk,
      what: entry.name,
      phase: "provider",
      within: undefined,
      why: entry.by === undefined ? why : reason("brought-by", { why, package: entry.by }),
      guards: [],
      thread: undefined,
      side: "android",
      marks,
      needs,
      behind: [],
      at: entry.at,
    };
    return { step, auto: entry };
  });
}

/** Whether one initializer asks for another, over any number of steps. */
function leadsTo(app: App, from: string, to: string): boolean {
  const simple = (name: string): string => name.split(/[.$]/).at(-1) as string;
  const open = [from];
  const seen = new Set<string>();
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (name === to) return true;
    if (seen.has(name)) continue;
    seen.add(name);
    for (const entry of app.code?.autoStarts ?? [])
      if (simple(entry.name) === name) open.push(...entry.needs.map((need) => simple(need.name)));
  }
  return false;
}

/** What is wrong at which place, from the wires. */
function marksOf(app: App, sheets: readonly Sheet[]): Map<string, StepMark[]> {
  const found = new Map<string, StepMark[]>();
  for (const { faults } of wiresOf(app, sheets))
    for (const { problem, message, places } of faults ?? []) {
      const kind = problem === "debug" ? undefined : (problem as StepMark["kind"]);
      const at = places[0];
      if (!at || !kind || problem === "absent" || problem === "import") continue;
      const known = found.get(keyOf(at)) ?? [];
      if (!known.some(({ text }) => text === message)) known.push({ kind, text: message });
      found.set(keyOf(at), known);
    }
  return found;
}
