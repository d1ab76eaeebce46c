import { isForDevelopment } from "../model/app.js";
import { brokenFileOf } from "../derive/incomplete.js";
import { isPlaceholderText } from "../knowledge/placeholder-texts.js";
import {
  type CallWay,
  type Guard,
  LIFE_CYCLE_PHASES,
  type LifeCyclePhase,
  type SdkArgument,
  type SdkCall,
  NOTHING_LEADS,
} from "../model/code.js";
import type { SideName } from "../model/facts.js";
import { baseName } from "../model/paths.js";
import { type Place, samePlace, uniquePlaces } from "../model/place.js";
import { reason, reasonText, type Reason } from "../model/reason.js";
import { isTable, itemsIn, textIn } from "../model/sheet.js";
import { textOf } from "../model/value.js";
import { CODE_FORM } from "./code-form.js";
import { type CodeName, codeName, codeNames } from "./code-names.js";
import type { WireResult, NeedOnSide } from "./context.js";
import type { NeedDefinition } from "./definition.js";
import { mask } from "./mask.js";
import type { WireFault } from "./wire.js";

/** In words, when something runs. */
export const PHASE_TITLES: Record<LifeCyclePhase, string> = {
  beforeLaunch: "before launch",
  provider: "by a provider, before the application",
  launch: "at launch",
  firstScreen: "with the first screen",
  later: "later, on a screen or when something happens",
};

/** How the calls of a kind of need can be wrong: those that were found, those of them that run, and what is held. */
type Faults = (calls: readonly SdkCall[], live: readonly SdkCall[], subject: NeedOnSide) => WireFault[];

/** A kind of need about source code: a name for each side or language, and what can be wrong with the calls of it. */
export function codeNeed(
  title: string,
  rules: NeedDefinition["rules"],
  check: NeedDefinition["check"],
  draft?: NeedDefinition["draft"],
): NeedDefinition {
  return {
    title,
    rules,
    ...(draft === undefined ? {} : { draft }),
    code: true,
    form: CODE_FORM,
    names: ({ value }, side) => codeNames(value, side),
    what: ({ value }, side) => `${title} ${codeName(value, side) ?? ""}`.trim(),
    check,
  };
}

/** The names that a need asks for on a side: its own, and those of shared code that runs there. */
export function namesOf({ need, side }: NeedOnSide): { own: CodeName[]; shared: CodeName[]; wanted: string | undefined } {
  const own = codeNames(need.value, side);
  // One text for both sides is one for the code that they share, too.
  const shared = side === "shared" || (!isTable(need.value) && need.on !== "both") ? [] : codeNames(need.value, "shared");
  return { own, shared, wanted: own[0]?.name ?? shared[0]?.name };
}

/**
 * The calls that a side is asked about. In .NET the projects of both phones are of one language with what they share: what each does there is
 * done for all. Source: learn.microsoft.com, "Target multiple platforms".
 */
function callsFor({ kind, code }: NeedOnSide["app"], side: SideName): readonly SdkCall[] {
  const calls = code?.calls ?? [];
  if (side !== "shared" || kind !== "dotnet") return calls;
  return calls.map((call): SdkCall => {
    if (call.side === "shared") return call;
    const own: Guard = { kind: call.side, text: `in the code for ${call.side === "ios" ? "iOS" : "Android"}` };
    return {
      ...call,
      side: "shared",
      guards: [...call.guards, own],
      ways: call.ways.map((way) => ({ ...way, guards: [...way.guards, own] })),
    };
  });
}

/** A need checked against the calls that were found. `optional`: an app that does not call it needs nothing. */
export function checkCalls(subject: NeedOnSide, faultsOf: Faults, { optional = false } = {}): WireResult {
  const { app, need, side, sheet } = subject;
  const { own, shared, wanted } = namesOf(subject);
  if (wanted === undefined) return { state: "unneeded", wanted: "", why: reason("sheet-asks-no-code") };
  const all = [...own, ...shared];
  const calls = callsFor(app, side).filter(
    (call) =>
      call.sdk === sheet.sdk &&
      call.kind === need.kind &&
      all.some(({ name }) => name === call.name) &&
      (call.side === side || (call.side === "shared" && shared.some(({ name }) => name === call.name) && !runsElsewhere(call, side))),
  );
  const faults = faultsOf(
    calls,
    calls.filter(({ reach }) => reach !== "never"),
    subject,
  );
  const [worst] = faults;
  if (worst)
    return {
      state: "loose",
      problem: worst.problem,
      wanted,
      found: worst.found,
      why: worst.why,
      fix: worst.fix,
      places: worst.places,
      faults,
    };
  if (calls.length > 0) return { state: "connected", wanted, found: shownCall(calls), places: uniquePlaces(calls.map((call) => call.at)) };
  if (optional) return { state: "unneeded", wanted, why: reason("not-called") };
  const automatic = automaticStart(subject);
  if (automatic)
    return {
      state: "connected",
      wanted,
      found: `by ${automatic.kind} ${baseName(automatic.name.replaceAll(".", "/"))}`,
      places: [automatic.at],
    };
  const text = app.codeNames.filter(
    (fact) =>
      all.some(({ name }) => name === fact.name) &&
      (fact.side === side || (fact.side === "shared" && shared.length > 0)) &&
      !app.code?.parsed.has(fact.at.file),
  );
  // A word in a text that could not be parsed is not a call.
  if (text.length > 0)
    return {
      state: "unknown",
      wanted,
      why: reason("name-in-unparsed", { file: baseName(text[0]?.at.file ?? "") }),
      places: text.map(({ at: place }) => place),
    };
  return absent(subject, wanted, shared.length > 0);
}

/** Whether a condition around a call of shared code keeps it off a side. */
function runsElsewhere({ guards }: SdkCall, side: SideName): boolean {
  const other = side === "android" ? "ios" : side === "ios" ? "android" : undefined;
  return guards.some(({ kind }) => kind === other) && !guards.some(({ kind }) => kind === side);
}

/** Nothing calls it by that name: missing where nothing of the side's code could be it, unknown otherwise. */
function absent({ app, need, side, sheet }: NeedOnSide, wanted: string, alsoShared: boolean): WireResult {
  const sides: SideName[] = alsoShared ? [side, "shared"] : [side];
  if (!app.code || !app.code.files.some((files) => sides.includes(files.side) && files.searched > 0))
    return { state: "unknown", wanted, why: reason("no-sources") };
  if (need.kind !== "start") return { state: "unknown", wanted, why: reason("not-in-sources") };
  const broken = sides.map((of) => brokenFileOf(app, of)).find((file) => file !== undefined);
  if (broken !== undefined) return { state: "unknown", wanted, why: reason("incomplete-file", { file: broken }) };
  // A wrapper around the SDK can start it: whoever imports it may do it in another way.
  const nearby = app.code.calls.filter((call) => call.sdk === sheet.sdk && sides.includes(call.side) && call.kind !== "debugOnly");
  const withdrawn = nearby.find(({ kind }) => kind === "withdrawn");
  if (withdrawn) return { state: "unknown", wanted, why: reason("replaced-by-call", { call: withdrawn.callee }) };
  const mentioned = app.code.mentioned.find((fact) => fact.sdk === sheet.sdk && sides.includes(fact.side));
  if (mentioned) return { state: "unknown", wanted, why: reason("no-call-recognised"), places: [mentioned.at] };
  const where = side === "android" ? "the application class" : side === "ios" ? "the app delegate" : "the shared code's entry";
  const message = `${sheet.sdk} is installed, but nothing starts it: no call of ${wanted} in the ${side === "ios" ? "iOS" : side === "android" ? "Android" : "shared"} code`;
  const fix = `call ${wanted} in ${where}`;
  return {
    state: "missing",
    problem: "absent",
    wanted,
    fix,
    faults: [{ problem: "absent", message, fix, found: undefined, why: undefined, places: [] }],
  };
}

function shownCall(calls: readonly SdkCall[]): string {
  const [first] = calls;
  if (!first) return "";
  const when = first.phase === undefined ? "" : `, ${PHASE_TITLES[first.phase].split(",")[0] ?? ""}`;
  return `in ${first.within}${when}${calls.length > 1 ? ` and ${calls.length - 1} more` : ""}`;
}

/** The provider or initializer by which an SDK starts itself, where the merged manifest has it. */
export function automaticStart({ app, need, side }: NeedOnSide): { kind: string; name: string; at: SdkCall["at"] } | undefined {
  const name = side === "android" ? textIn(need.value, "automatic") : undefined;
  if (name === undefined) return undefined;
  return app.code?.autoStarts.find((entry) => !entry.removed && entry.name === name);
}

export function fault(
  problem: WireFault["problem"],
  message: string,
  fix: string,
  calls: readonly { at: SdkCall["at"] }[],
  found?: string,
  why?: Reason,
  other?: string,
): WireFault {
  const places = uniquePlaces(calls.map((call) => call.at));
  return { problem, message, fix, found, why, places, ...(other === undefined ? {} : { other }) };
}

/** Whether nothing leads to any of the calls, as far as the code could be parsed. */
export const allNever = (calls: readonly SdkCall[]): boolean => calls.every(({ reach, doubtful }) => reach === "never" && !doubtful);

export function neverReached(calls: readonly SdkCall[], sdk: string): WireFault[] {
  const [first] = calls;
  if (!first || !allNever(calls)) return [];
  return [
    fault(
      "never",
      `${sdk} is never started: ${first.callee} is in ${first.within}, and ${reasonText(first.unreached ?? NOTHING_LEADS)}`,
      first.unreached?.code === "class-unused"
        ? `use the class, or move the call to where the app starts`
        : `call ${first.within.split(".").at(-1) ?? ""} where the app starts`,
      calls,
      `in ${first.within}`,
      first.unreached,
    ),
  ];
}

export const isPlain = (guards: readonly Guard[]): boolean => guards.every(({ kind }) => kind === "android" || kind === "ios");

export const indexOf = (phase: LifeCyclePhase): number => LIFE_CYCLE_PHASES.indexOf(phase);

/**
 * Whether one call runs before another; `undefined` where nobody can tell. What is handed over to run later comes behind what runs at once from
 * the same entry point on, and two that are handed over apart have no order.
 */
// eslint-disable-next-line complexity -- one question after the other about two moments; the first that has an answer gives it
export function runsBefore(a: SdkCall, b: SdkCall): boolean | undefined {
  if (!a.sure || !b.sure || a.order === undefined || b.order === undefined || a.phase === undefined || b.phase === undefined)
    return undefined;
  const [first, second] = [indexOf(a.phase), indexOf(b.phase)];
  if (first !== second) {
    // What waits in an earlier phase can run in a later one; on the thread that starts the app it waits until the launch is over.
    const earlier = first < second ? a : b;
    const launch = indexOf("launch");
    if (earlier.lane !== "" && !earlier.background && first <= launch && second <= launch && (earlier === a ? b : a).lane === "")
      return earlier === b;
    return earlier.lane === "" || `${(earlier === a ? b : a).lane}/`.startsWith(`${earlier.lane}/`) ? first < second : undefined;
  }
  // Providers and initializers come in no order of their own.
  if (a.behind && b.behind && a.entry !== b.entry)
    return a.entry !== undefined && b.behind.includes(a.entry)
      ? true
      : b.entry !== undefined && a.behind.includes(b.entry)
        ? false
        : undefined;
  if (a.lane === b.lane) return a.order < b.order;
  if (`${b.lane}/`.startsWith(`${a.lane}/`)) return a.order < b.order || a.entry === b.entry ? true : undefined;
  if (`${a.lane}/`.startsWith(`${b.lane}/`)) return b.order < a.order || a.entry === b.entry ? false : undefined;
  return undefined;
}

/** One way to a call that certainly runs, without a condition and more than once if asked for more than once. */
interface SureWay {
  call: SdkCall;
  way: CallWay;
}

/** The ways to calls that certainly run when the app comes up, or when a screen does. */
export function sureWays(calls: readonly SdkCall[]): SureWay[] {
  return calls.flatMap((call) =>
    call.doubtful || call.reach !== "entry"
      ? []
      : call.ways
          .filter((way) => way.sure && !way.once && isPlain(way.guards) && (way.phase !== "later" || way.screen))
          .map((way) => ({ call, way })),
  );
}

/** Two ways that both run: to calls at two places, or to one. In words, and the places at which they part. */
export function twoWays(ways: readonly SureWay[]): { words: [string, string]; places: Place[] } | undefined {
  const isAlso = (other: SureWay, { call, way }: SureWay): boolean =>
    together(other.way, way) &&
    (other.call.at.line !== call.at.line || other.call.at.file !== call.at.file || apartAt(other.way, way) !== undefined);
  const first = ways.find((one) => ways.some((other) => isAlso(other, one)));
  const second = first && ways.find((other) => isAlso(other, first));
  if (!first || !second) return undefined;
  const { call, way } = first;
  if (second.call !== call) {
    // In one function the lines tell them apart.
    const here = ({ within, at }: SdkCall): string => `in ${within}${call.within === second.call.within ? `, line ${at.line}` : ""}`;
    return { words: [here(call), here(second.call)], places: [call.at, second.call.at] };
  }
  const parted = [apartAt(way, second.way), apartAt(second.way, way)] as const;
  const by = (of: CallWay, at: Place | undefined): string =>
    at === undefined ? `in ${call.within}` : `by ${of.entry}, ${baseName(at.file)}:${at.line}`;
  return {
    words: [by(way, parted[0]), by(second.way, parted[1])],
    places: [call.at, ...parted.filter((at) => at !== undefined)],
  };
}

/** Where one way to a call leaves another one to the same call; `undefined` where they are one. */
function apartAt(way: CallWay, other: CallWay): Place | undefined {
  const index = way.trail.findIndex((place, at) => !other.trail[at] || !samePlace(place, other.trail[at]));
  return index === -1 && way.trail.length === other.trail.length ? undefined : (way.trail[index] ?? way.trail.at(-1));
}

/** Whether no condition keeps two calls apart: they run in one process, and not only one of them. */
function together(a: CallWay, b: CallWay): boolean {
  if (a.isolate !== b.isolate) return false;
  // Main functions in different files are for different builds of the app, and so are delegates of several targets.
  if (a.entry === b.entry && a.entryFile !== b.entryFile && /^(main|CreateMauiApp|didFinishLaunching)$/.test(a.entry)) return false;
  const platforms = new Set([...a.guards, ...b.guards].map(({ kind }) => kind));
  return !(platforms.has("android") && platforms.has("ios"));
}

/** Arguments that are missing, or whose text does not have the wanted form. */
// eslint-disable-next-line complexity -- one question after the other for each argument
export function wrongArguments(live: readonly SdkCall[], { need, sheet, side, app }: NeedOnSide): WireFault[] {
  const specs = itemsIn(need.value, "arguments");
  const found: WireFault[] = [];
  for (const spec of specs) {
    const [label, position, on, shape] = ["label", "position", "on", "shape"].map((key) => textIn(spec, key));
    if (on !== undefined && on !== side) continue;
    for (const call of live) {
      if (call.doubtful || !call.exact) continue;
      const title = label ?? `argument ${position ?? ""}`;
      const argument = argumentOf(call, label, position);
      if (argument === "open") continue;
      if (!argument) {
        found.push(fault("call", `${sheet.sdk} is started without ${title}`, `give ${call.callee} ${title}`, [call], `without ${title}`));
        continue;
      }
      const wrong = (text: string | undefined, at: SdkCall["at"], variant?: string): void => {
        if (text === undefined) return;
        const where = variant === undefined ? "" : ` in the builds of ${variant}`;
        if (text === "" || isPlaceholderText(text))
          found.push(
            fault(
              "call",
              `${sheet.sdk} is started with ${text === "" ? "an empty text" : "a placeholder from the instructions"} as ${title}${where}`,
              `put the real value in`,
              [{ at }],
              "no real value",
            ),
          );
        else if (shape !== undefined && sheet.patterns.get(shape)?.(text) === false)
          found.push(
            fault(
              "call",
              `${sheet.sdk} is started with ${mask(text)} as ${title}${where}; it must have another form`,
              `put a value of the form ${shape} in`,
              [{ at }],
              mask(text),
            ),
          );
      };
      wrong(textOf(argument.value), argument.at);
      // What is of the wanted form stands at another place.
      const misplaced =
        shape !== undefined && argument.value === undefined && argument.byVariant.length === 0 && position !== undefined
          ? call.arguments.find((other) => other !== argument && textsOf(other).some((text) => sheet.patterns.get(shape)?.(text)))
          : undefined;
      if (misplaced)
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started with ${mask(textsOf(misplaced)[0] ?? "")} in another position than as ${title}`,
            `give the arguments of ${call.callee} in their order`,
            [{ at: misplaced.at }],
            "in another position",
          ),
        );
      const shipped = argument.byVariant.filter(({ variant }) => !isForDevelopment(variant));
      for (const { variant, value } of shipped) wrong(textOf(value), value.place, variant);
      if (argument.lacks !== undefined) {
        const option = /^extra (.*)$/.exec(argument.lacks)?.[1];
        const name = option ?? argument.lacks;
        const home = option === undefined ? "the property list" : `extra in ${app.optionsIn ?? "the configuration"}`;
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started with ${option === undefined ? "the property-list entry" : "extra"} ${name} as ${title}, but there is no such entry`,
            `add ${name} to ${home}, or use an entry that exists`,
            [{ at: argument.at }],
            `no entry ${argument.lacks}`,
          ),
        );
      }
      // A setting that no file defines is empty.
      const empty = shipped.find(({ value }) => value.kind === "unknown" && value.lacks !== undefined);
      if (empty && argument.byVariant.some(({ value }) => textOf(value) !== undefined))
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started without a value as ${title} in the builds of ${empty.variant}: ${empty.value.kind === "unknown" ? (empty.value.lacks ?? "") : ""} is not defined there`,
            `define it for ${empty.variant} too`,
            [{ at: empty.value.place }],
            `no value in the builds of ${empty.variant}`,
          ),
        );
      if (argument.byVariant.length > 0 && shipped.length === 0 && argument.value === undefined)
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started with ${argument.written} as ${title}, which has a value in debug builds only`,
            `give ${argument.written} a value in release builds too`,
            [{ at: argument.at }],
            "a value in debug builds only",
          ),
        );
    }
  }
  return found;
}

function textsOf({ value, byVariant }: SdkArgument): string[] {
  return [value, ...byVariant.map((variant) => variant.value)].flatMap((own) => textOf(own) ?? []);
}

/** Languages whose labels do not change the order of arguments. Source: docs.swift.org, "Function Argument Labels". */
const LABELS_IN_ORDER = /\.(swift|mm?)$/;
/** Languages in which a labelled argument can stand anywhere. Source: kotlinlang.org, "Named arguments"; learn.microsoft.com, "Named arguments". */
const LABELS_ANYWHERE = /\.(kt|cs)$/;

/** The argument that a label or position means; `open` where it may be among those that are there, `undefined` where it is not. */
function argumentOf(call: SdkCall, label: string | undefined, position: string | undefined): SdkArgument | "open" | undefined {
  const { file } = call.at;
  const list = call.arguments;
  const named = label === undefined ? undefined : list.find((argument) => argument.label === label);
  if (named) return named;
  const plain = list.filter((argument) => argument.label === undefined);
  if (position !== undefined) {
    const index = Number(position) - 1;
    if (LABELS_IN_ORDER.test(file)) return list[index];
    const found = plain[index];
    if (found) return found;
    return LABELS_ANYWHERE.test(file) && list.length > index ? "open" : undefined;
  }
  // Options that come in a variable may hold it, and so may what is spread into them, or made by a call.
  const open = plain.some(({ text, written, value }) => {
    if (value !== undefined && textOf(value) !== undefined) return false;
    if (/^["'`\d]/.test(text)) return false;
    const options = /^\{[\s\S]*\}$/.test(text) ? text : written;
    if (!/^\{/.test(options)) return true;
    return /\.\.\./.test(options) || new RegExp(`[{,\\s]${label ?? ""}\\s*(?:[,}:(]|$)`).test(options);
  });
  return open ? "open" : undefined;
}

/** Shared code that calls without asking whether the plugin is there. */
export function unguarded(live: readonly SdkCall[], { need, sheet }: NeedOnSide): WireFault[] {
  if (textIn(need.value, "guard") !== "true") return [];
  const open = live.filter(
    (call) =>
      call.side === "shared" &&
      !call.optional &&
      !call.doubtful &&
      !call.guards.some(({ kind }) => kind === "presence" || kind === "android" || kind === "ios" || kind === "other"),
  );
  const [first] = open;
  if (!first) return [];
  return [
    fault(
      "unguarded",
      `${first.callee} in ${first.within} runs without checking whether ${sheet.sdk} is available`,
      `check first: the plugin is not available on every platform that this code runs on`,
      open,
      `in ${first.within}, without a guard`,
    ),
  ];
}
