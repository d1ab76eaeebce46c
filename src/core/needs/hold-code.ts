import { brokenFileOf } from "../derive/incomplete.js";
import { isPlaceholderText } from "../knowledge/placeholder-texts.js";
import type { App } from "../model/app.js";
import { MOMENTS, type Guard, type Moment, type SdkCall } from "../model/code.js";
import type { SideName } from "../model/facts.js";
import { baseName } from "../model/paths.js";
import { uniquePlaces } from "../model/place.js";
import { textOf } from "../model/value.js";
import { at, itemsOf, textAt } from "../syntax/data.js";
import { codeName, codeNames } from "./code-names.js";
import { part, type Held, type Holding } from "./context.js";
import { mask } from "./mask.js";
import type { WireFault } from "./wire.js";

/** In words, when something runs. */
export const MOMENT_TITLES: Record<Moment, string> = {
  beforeLaunch: "before launch",
  provider: "by a provider, before the application",
  launch: "at launch",
  firstScreen: "with the first screen",
  later: "later, on a screen or when something happens",
};

/** A need about source code held against the calls that were found. */
export function holdCode(holding: Holding): Held {
  const { app, need, side, sheet } = holding;
  const names = codeNames(need.value, side);
  const shared = side === "shared" ? [] : codeNames(need.value, "shared").filter(() => need.value.kind === "map");
  const wanted = names[0]?.name ?? shared[0]?.name;
  if (wanted === undefined) return { state: "unneeded", wanted: "", why: "the sheet asks for nothing in this side's code" };
  const all = [...names, ...shared];
  const calls = (app.code?.calls ?? []).filter(
    (call) =>
      call.sdk === sheet.sdk &&
      call.kind === need.kind &&
      all.some(({ name }) => name === call.name) &&
      (call.side === side || (call.side === "shared" && shared.some(({ name }) => name === call.name) && !runsElsewhere(call, side))),
  );
  if (need.kind === "import") return holdImport(holding, wanted);
  const faults: WireFault[] = [];
  const live = calls.filter(({ reach }) => reach !== "never");
  switch (need.kind) {
    case "start":
      faults.push(
        ...neverReached(calls, sheet.sdk),
        ...twice(live, holding),
        ...late(live, holding),
        ...order(live, holding),
        ...wrongArguments(live, holding),
        ...unguarded(live, holding),
      );
      break;
    case "registration":
      faults.push(...neverReached(calls, sheet.sdk), ...wrongArguments(live, holding));
      break;
    case "use":
      faults.push(...tooEarly(live, holding), ...unguarded(live, holding));
      break;
    case "debugOnly":
      faults.push(...leftOn(live, sheet.sdk));
      break;
  }
  const [fault] = faults;
  if (fault)
    return {
      state: "loose",
      problem: fault.problem,
      wanted,
      found: fault.found,
      why: fault.why,
      fix: fault.fix,
      places: fault.places,
      faults,
    };
  if (calls.length > 0) return { state: "connected", wanted, found: shownCall(calls), places: uniquePlaces(calls.map((call) => call.at)) };
  if (need.kind === "use" || need.kind === "debugOnly") return { state: "unneeded", wanted, why: "the app's code does not call it" };
  const automatic = automaticStart(holding);
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
      why: `its words are in ${baseName(text[0]?.at.file ?? "")}, whose code was not parsed`,
      places: text.map(({ at: place }) => place),
    };
  return absent(holding, wanted, shared.length > 0);
}

/** Whether a condition around a call of shared code keeps it off a side. */
function runsElsewhere({ guards }: SdkCall, side: SideName): boolean {
  const other = side === "android" ? "ios" : side === "ios" ? "android" : undefined;
  return guards.some(({ kind }) => kind === other) && !guards.some(({ kind }) => kind === side);
}

/** Nothing calls it by that name: missing where nothing of the side's code could be it, unknown otherwise. */
function absent({ app, need, side, sheet }: Holding, wanted: string, alsoShared: boolean): Held {
  const sides: SideName[] = alsoShared ? [side, "shared"] : [side];
  if (!app.code || !app.code.files.some((files) => sides.includes(files.side) && files.searched > 0))
    return { state: "unknown", wanted, why: "no source files of this side are here" };
  if (need.kind !== "start") return { state: "unknown", wanted, why: "a look through the source files does not find it by this name" };
  const broken = sides.map((of) => brokenFileOf(app, of)).find((file) => file !== undefined);
  if (broken !== undefined) return { state: "unknown", wanted, why: `${broken} could not be read in full` };
  // A wrapper around the SDK can start it: whoever imports it may do it in another way.
  const nearby = app.code.calls.filter((call) => call.sdk === sheet.sdk && sides.includes(call.side) && call.kind !== "debugOnly");
  const withdrawn = nearby.find(({ kind }) => kind === "withdrawn");
  if (withdrawn) return { state: "unknown", wanted, why: `${withdrawn.callee} is called in its place` };
  const mentioned = app.code.mentioned.find((fact) => fact.sdk === sheet.sdk && sides.includes(fact.side));
  if (mentioned)
    return { state: "unknown", wanted, why: "its words are in the code, and no call by this name was made out", places: [mentioned.at] };
  const where = side === "android" ? "the application class" : side === "ios" ? "the app delegate" : "the shared code's entry";
  const message = `${sheet.sdk} is in and nothing starts it: no call of ${wanted} in the ${side === "ios" ? "iOS" : side === "android" ? "Android" : "shared"} code`;
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
  const when = first.moment === undefined ? "" : `, ${MOMENT_TITLES[first.moment].split(",")[0] ?? ""}`;
  return `in ${first.within}${when}${calls.length > 1 ? ` and ${calls.length - 1} more` : ""}`;
}

/** The provider or initializer by which an SDK starts itself, where the merged manifest has it. */
function automaticStart({ app, need, side }: Holding): { kind: string; name: string; at: SdkCall["at"] } | undefined {
  const name = side === "android" ? part(need.value, "automatic") : undefined;
  if (name === undefined) return undefined;
  return app.code?.autoStarts.find((entry) => !entry.removed && entry.name === name);
}

function fault(
  problem: WireFault["problem"],
  message: string,
  fix: string,
  calls: readonly { at: SdkCall["at"] }[],
  found?: string,
  why?: string,
  other?: string,
): WireFault {
  const places = uniquePlaces(calls.map((call) => call.at));
  return { problem, message, fix, found, why, places, ...(other === undefined ? {} : { other }) };
}

function neverReached(calls: readonly SdkCall[], sdk: string): WireFault[] {
  if (calls.length === 0 || !calls.every(({ reach, doubtful }) => reach === "never" && !doubtful)) return [];
  const [first] = calls as [SdkCall];
  return [
    fault(
      "never",
      `${sdk} is never started: ${first.callee} stands in ${first.within}, and ${first.why ?? "nothing leads there"}`,
      first.why?.includes("class")
        ? `use the class, or move the call to where the app starts`
        : `call ${first.within.split(".").at(-1) ?? ""} where the app starts`,
      calls,
      `in ${first.within}`,
      first.why,
    ),
  ];
}

const isPlain = (guards: readonly Guard[]): boolean => guards.every(({ kind }) => kind === "android" || kind === "ios");

/** Two starts that both run, or one by hand beside an automatic one. */
function twice(live: readonly SdkCall[], holding: Holding): WireFault[] {
  const { sheet, side } = holding;
  const sure = live.filter(
    (call) => call.reach === "entry" && call.exact && !call.doubtful && call.moment !== "later" && isPlain(call.guards),
  );
  const automatic = automaticStart(holding);
  const [first] = sure;
  if (!first) return [];
  if (automatic)
    return [
      fault(
        "twice",
        `${sheet.sdk} starts itself by its ${automatic.kind} ${automatic.name.split(".").at(-1) ?? ""}, and the app starts it again in ${first.within}`,
        `take the call out, or take the ${automatic.kind} out with tools:node="remove"`,
        [first, automatic],
        "automatically and by hand",
      ),
    ];
  const second = sure.find(
    (call) => call !== first && together(call, first) && (call.at.line !== first.at.line || call.at.file !== first.at.file),
  );
  if (!second) return [];
  return [
    fault(
      "twice",
      `${sheet.sdk} is started twice${side === "shared" ? "" : ` on ${side === "ios" ? "iOS" : "Android"}`}: in ${first.within} and in ${second.within}`,
      `start it once: take one of the two calls out`,
      [first, second],
      `in ${first.within} and in ${second.within}`,
    ),
  ];
}

/** Whether no condition keeps two calls apart: they run in one process, and not only one of them. */
function together(a: SdkCall, b: SdkCall): boolean {
  if (a.isolate !== b.isolate) return false;
  // Main functions in different files are for different builds of the app.
  if (a.entry === "main" && b.entry === "main" && a.entryFile !== b.entryFile) return false;
  const platforms = new Set([...a.guards, ...b.guards].map(({ kind }) => kind));
  return !(platforms.has("android") && platforms.has("ios"));
}

const indexOf = (moment: Moment): number => MOMENTS.indexOf(moment);

/** Started after the moment that the sheet asks for; only where every start is known to be. */
function late(live: readonly SdkCall[], { need, sheet }: Holding): WireFault[] {
  const wanted = part(need.value, "at");
  if (wanted !== "launch" && wanted !== "firstScreen") return [];
  const sure = live.filter(({ doubtful }) => !doubtful);
  if (
    sure.length === 0 ||
    sure.length < live.length ||
    !sure.every(({ moment }) => moment !== undefined && indexOf(moment) > indexOf(wanted))
  )
    return [];
  const [first] = sure as [SdkCall];
  return [
    fault(
      "late",
      `${sheet.sdk} must be started ${MOMENT_TITLES[wanted]} and is started ${MOMENT_TITLES[first.moment as Moment]}: in ${first.within}`,
      `move ${first.callee} to where the app starts`,
      sure,
      `in ${first.within}, ${MOMENT_TITLES[first.moment as Moment].split(",")[0] ?? ""}`,
    ),
  ];
}

/** Before another start that must come first, or after one that must come later. */
function order(live: readonly SdkCall[], { app, need, sheet, sheets, side }: Holding): WireFault[] {
  const own = live.find((call) => call.reach === "entry" && call.ordered && !call.doubtful && call.order !== undefined);
  if (!own) return [];
  const found: WireFault[] = [];
  for (const key of ["before", "after"] as const) {
    for (const item of need.value.kind === "map" ? itemsOf(at(need.value, key)) : []) {
      const other = textAt(item);
      const start = (app.code?.calls ?? []).find(
        (call) =>
          call.sdk === other &&
          (call.kind === "start" || call.kind === "likeStart") &&
          call.side === own.side &&
          call.reach === "entry" &&
          call.ordered &&
          !call.doubtful &&
          call.order !== undefined &&
          isPlain(call.guards),
      );
      if (start?.order !== undefined && own.order !== undefined && isPlain(own.guards)) {
        const [ownAt, otherAt] = [own.moment, start.moment].map((moment) => indexOf(moment ?? "later")) as [number, number];
        const earlier = ownAt !== otherAt ? ownAt < otherAt : own.order < start.order;
        if (key === "before" ? !earlier : earlier)
          found.push(
            fault(
              "order",
              key === "before"
                ? `${sheet.sdk} must start before ${start.sdk} and starts after it, in ${own.within}`
                : `${sheet.sdk} needs ${start.sdk} to be started first and starts before it, in ${own.within}`,
              `move ${own.callee} ${key === "before" ? "before" : "behind"} ${start.callee}`,
              [own, start],
              `${key === "before" ? "after" : "before"} ${start.sdk}`,
              undefined,
              start.sdk,
            ),
          );
        continue;
      }
      // What starts itself by a provider is there before any call of the application.
      const automatic = sheets
        .filter(({ sdk }) => sdk === other)
        .flatMap(({ needs }) => needs.flatMap(({ kind, value }) => (kind === "start" ? [part(value, "automatic")] : [])))
        .map((name) => app.code?.autoStarts.find((entry) => name !== undefined && entry.name === name && !entry.removed))
        .find((entry) => entry !== undefined);
      if (automatic && key === "before" && side === "android" && indexOf(own.moment ?? "later") > indexOf("provider"))
        found.push(
          fault(
            "order",
            `${sheet.sdk} must start before ${other ?? ""}, which starts itself by its ${automatic.kind}; ${sheet.sdk} starts in ${own.within}`,
            `start ${other ?? ""} by hand behind ${own.callee}, and take its ${automatic.kind} out`,
            [own, automatic],
            `after ${other ?? ""}`,
            undefined,
            other,
          ),
        );
    }
  }
  return found;
}

/** Used before it is started. */
function tooEarly(live: readonly SdkCall[], { app, sheet, side }: Holding): WireFault[] {
  const starts = (app.code?.calls ?? []).filter(
    (call) => call.sdk === sheet.sdk && call.kind === "start" && call.reach !== "never" && (call.side === side || call.side === "shared"),
  );
  // One start whose time is not known may be the one that comes first.
  if (starts.length === 0 || starts.some((start) => start.moment === undefined || start.doubtful || start.order === undefined)) return [];
  const first = starts.reduce((a, b) =>
    indexOf(a.moment as Moment) < indexOf(b.moment as Moment) || (a.moment === b.moment && (a.order ?? 0) < (b.order ?? 0)) ? a : b,
  );
  const early = live.find((use) => {
    if (
      use.moment === undefined ||
      use.doubtful ||
      use.optional ||
      use.reach !== "entry" ||
      use.side !== first.side ||
      !isPlain(use.guards)
    )
      return false;
    const [useAt, startAt] = [indexOf(use.moment), indexOf(first.moment as Moment)];
    if (useAt !== startAt) return useAt < startAt;
    return use.ordered && first.ordered && (use.order ?? 0) < (first.order ?? 0);
  });
  if (!early) return [];
  return [
    fault(
      "late",
      `${sheet.sdk} is used in ${early.within} before it is started in ${first.within}`,
      `start it before ${early.callee} is called`,
      [early, first],
      `in ${early.within}, before the start`,
    ),
  ];
}

/** Arguments that are missing, or whose text does not have the wanted form. */
function wrongArguments(live: readonly SdkCall[], { need, sheet, side }: Holding): WireFault[] {
  const specs = need.value.kind === "map" ? itemsOf(at(need.value, "arguments")) : [];
  const found: WireFault[] = [];
  for (const spec of specs) {
    const [label, position, on, shape] = ["label", "position", "on", "shape"].map((key) => textAt(spec, key));
    if (on !== undefined && on !== side) continue;
    for (const call of live) {
      if (call.doubtful || !call.exact) continue;
      const named = label === undefined ? undefined : call.arguments.find((argument) => argument.label === label);
      const plain = call.arguments.filter((argument) => argument.label === undefined);
      const argument = named ?? (position === undefined ? undefined : plain[Number(position) - 1]);
      const title = label ?? `argument ${position ?? ""}`;
      if (!argument) {
        // Options that come in a variable may hold it.
        if (
          plain.length > 0 &&
          label !== undefined &&
          position === undefined &&
          plain.some(({ text }) => !/^["'`\d]/.test(text) && !/^\{[^.]*\}$/s.test(text))
        )
          continue;
        found.push(fault("call", `${sheet.sdk} is started without ${title}`, `give ${call.callee} ${title}`, [call], `without ${title}`));
        continue;
      }
      const text = textOf(argument.value);
      if (text === undefined) continue;
      if (text === "" || isPlaceholderText(text))
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started with ${text === "" ? "an empty text" : "an instruction text"} as ${title}`,
            `put the real value in`,
            [{ at: argument.at }],
            "no real value",
          ),
        );
      else if (shape !== undefined && sheet.patterns.get(shape)?.(text) === false)
        found.push(
          fault(
            "call",
            `${sheet.sdk} is started with ${mask(text)} as ${title}; that is not of the form that it asks for`,
            `put a value of the form ${shape} in`,
            [{ at: argument.at }],
            mask(text),
          ),
        );
    }
  }
  return found;
}

/** Shared code that calls without asking whether the plugin is there. */
function unguarded(live: readonly SdkCall[], { need, sheet }: Holding): WireFault[] {
  if (part(need.value, "guard") !== "true") return [];
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
      `${first.callee} in ${first.within} runs without asking whether ${sheet.sdk} is there`,
      `ask first: the plugin is not there on every platform that this code runs on`,
      open,
      `in ${first.within}, without a guard`,
    ),
  ];
}

const OFF = /^(?:@?(?:false|NO|0|nil|null|none|\.none|["']?(?:off|none|error)["']?)|\w*\.(?:none|off|error|NONE|OFF|ERROR))$/i;

/** Test modes and talkative logs outside of conditions that keep them out of a release. */
function leftOn(live: readonly SdkCall[], sdk: string): WireFault[] {
  const open = live.filter(
    (call) =>
      !call.doubtful &&
      call.exact &&
      !call.guards.some(({ kind }) => kind === "debug" || kind === "other" || kind === "presence") &&
      !call.arguments.some(
        ({ text }) =>
          OFF.test(text.trim()) || /debug|__DEV__|kReleaseMode/i.test(text.replace(/LogLevel\.\w+|\.debug\b|["']debug["']/g, "")),
      ),
  );
  const [first] = open;
  if (!first) return [];
  return [
    fault(
      "debug",
      `${first.callee} of ${sdk} in ${first.within} reaches release builds`,
      "put it behind a condition for debug builds, or take it out",
      open,
      `in ${first.within}, in every build`,
    ),
  ];
}

function holdImport({ app, side, sheet, need }: Holding, wanted: string): Held {
  const missing = (app.code?.missingImports ?? []).filter((fact) => fact.sdk === sheet.sdk && fact.side === side);
  const [first] = missing;
  if (first) {
    const message = `${first.callee} is called in ${baseName(first.at.file)}, and nothing there imports ${first.wanted}`;
    const fix = `import ${first.wanted} in ${first.at.file}`;
    return {
      state: "loose",
      problem: "import",
      wanted,
      found: "not imported where it is called",
      fix,
      places: missing.map((fact) => fact.at),
      faults: [{ problem: "import", message, fix, found: undefined, why: undefined, places: missing.map((fact) => fact.at) }],
    };
  }
  const names = codeNames(need.value, side).map(({ name }) => name);
  const imports = (app.code?.imports ?? []).filter((fact) => fact.sdk === sheet.sdk && fact.side === side);
  if (imports.length > 0)
    return {
      state: "connected",
      wanted,
      found: `in ${imports.length === 1 ? baseName(imports[0]?.at.file ?? "") : `${imports.length} files`}`,
      places: imports.map((fact) => fact.at),
    };
  const text = app.codeNames.filter((fact) => fact.side === side && names.includes(fact.name));
  if (text.length > 0) return { state: "connected", wanted, found: "in the source code", places: text.map((fact) => fact.at) };
  return { state: "unknown", wanted, why: "a look through the source files does not find it by this name" };
}

/** Features that the code of one side uses and that of the other does not; for needs that hold on both. */
export function usedOn(app: App, sdk: string, name: string): Set<SideName> {
  return new Set(
    (app.code?.calls ?? [])
      .filter((call) => call.sdk === sdk && call.kind === "use" && call.name === name && call.reach !== "never")
      .map(({ side }) => side),
  );
}

export { codeName };
