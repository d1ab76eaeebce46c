import type { App } from "../../model/app.js";
import type { AutoStart, LifeCyclePhase, SdkCall } from "../../model/code.js";
import { flavorsOf } from "../../derive/flavors.js";
import { itemsIn, textIn, type Sheet } from "../../model/sheet.js";
import {
  PHASE_TITLES,
  automaticStart,
  codeNeed,
  fault,
  checkCalls,
  indexOf,
  isPlain,
  neverReached,
  runsBefore,
  sureWays,
  twoWays,
  unguarded,
  wrongArguments,
} from "../calls.js";
import type { NeedOnSide } from "../context.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import type { WireFault } from "../wire.js";

export const start = codeNeed(
  "start",
  ["start/missing", "start/never-reached", "start/twice", "start/too-late", "start/order", "start/wrong-call", "start/unguarded"],
  (subject) =>
    checkCalls(subject, (calls, live) => [
      ...neverReached(calls, subject.sheet.sdk),
      ...keptOff(live, subject),
      ...twice(live, subject),
      ...late(live, subject),
      ...order(live, subject),
      ...wrongArguments(live, subject),
      ...unguarded(live, subject),
    ]),
  draft,
);

/** The calls that start it in the app's own code, each once for a side. */
function draft({ app, sdk }: DraftSubject): DraftedNeed[] {
  const calls = (app.code?.calls ?? []).filter(
    ({ sdk: own, kind, reach }) => own === sdk && reach !== "never" && (kind === "heuristicStart" || kind === "start"),
  );
  return [...new Map(calls.toReversed().map((call) => [`${call.side} ${call.callee}`, call])).values()].toReversed().map((call) => {
    const atLaunch = call.phase === "launch" || call.phase === "beforeLaunch" || call.phase === "provider";
    return {
      on: call.side,
      value: `{ ${call.side}: ${scalar(call.callee)}${atLaunch ? ", at: launch" : ""} }`,
      from: call.at,
      ...(call.kind === "heuristicStart" ? { unsure: "it is named like a start" } : {}),
    };
  });
}

/** Started under a condition that keeps every start out of the builds that ship, or off one of the sides that share the code. */
// eslint-disable-next-line complexity -- one question for each kind of condition; the first that holds for every start gives the answer
function keptOff(live: readonly SdkCall[], { app, sheet, side, presence }: NeedOnSide): WireFault[] {
  const [first] = live;
  if (!first || live.some(({ doubtful }) => doubtful)) return [];
  const has = (kind: SdkCall["guards"][number]["kind"]): boolean =>
    live.every(({ guards, ways }) => [{ guards }, ...ways].every((way) => way.guards.some((guard) => guard.kind === kind)));
  // What only goes into debug builds is only started there.
  if (has("debug") && !presence.packages.every(({ scope }) => /debug/i.test(scope ?? "")))
    return [
      fault(
        "never",
        `${sheet.sdk} is started in debug builds only: ${first.callee} in ${first.within} is behind a condition for them`,
        `move ${first.callee} out of the condition`,
        live,
        `in ${first.within}, in debug builds only`,
      ),
    ];
  if (has("never")) {
    const guard = first.guards.find(({ kind }) => kind === "never");
    return [
      guard?.compiled
        ? fault(
            "never",
            `${sheet.sdk} is started in no build: ${first.callee} in ${first.within} is compiled only with ${guard.text}, which nothing defines`,
            `define the symbol${side === "shared" ? " for both sides" : ""}, or move ${first.callee} out of the condition`,
            live,
            `in ${first.within}, which is not compiled`,
          )
        : fault(
            "never",
            `${sheet.sdk} is never started: ${first.callee} in ${first.within} is ${guard?.text ?? ""}`,
            `remove what is before it`,
            live,
            `in ${first.within}, ${guard?.text ?? ""}`,
          ),
    ];
  }
  if (has("emulator"))
    return [
      fault(
        "never",
        `${sheet.sdk} is started on emulators and simulators only: ${first.callee} in ${first.within} is behind a condition for them`,
        `move ${first.callee} out of the condition`,
        live,
        `in ${first.within}, on emulators only`,
      ),
    ];
  const variants = new Set(live.flatMap(({ guards }) => guards.flatMap(({ kind, text }) => (kind === "variant" ? [text] : []))));
  const others = (side === "android" ? flavorsOf(app) : []).filter((flavor) => !variants.has(flavor));
  if (has("variant") && others.length > 0)
    return [
      fault(
        "never",
        `${sheet.sdk} is not started in the builds of ${others.join(", ")}: ${first.callee} in ${first.within} belongs to ${[...variants].join(", ")}`,
        `start it in the sources of ${others.join(", ")} too`,
        live,
        `in ${first.within}, in the builds of ${[...variants].join(", ")} only`,
      ),
    ];
  if (side !== "shared") return [];
  const only = (["android", "ios"] as const).find((own) => has(own) && !has(own === "android" ? "ios" : "android"));
  const other = only === "android" ? "ios" : "android";
  const startsItself = (app.code?.calls ?? []).some(
    (call) => call.sdk === sheet.sdk && (call.kind === "start" || call.kind === "heuristicStart") && call.side === other,
  );
  if (only === undefined || startsItself || !app[other]) return [];
  const title = other === "ios" ? "iOS" : "Android";
  return [
    fault(
      "never",
      `${sheet.sdk} is not started on ${title}: ${first.callee} in ${first.within} runs on ${other === "ios" ? "Android" : "iOS"} alone`,
      `start it on ${title} too`,
      live,
      `in ${first.within}, on ${other === "ios" ? "Android" : "iOS"} only`,
    ),
  ];
}

/** Two ways that both lead to a start, or one beside an automatic one. */
function twice(live: readonly SdkCall[], subject: NeedOnSide): WireFault[] {
  const { sheet, side } = subject;
  const sure = sureWays(live.filter(({ exact }) => exact));
  const automatic = automaticStart(subject);
  const [first] = sure;
  if (!first) return [];
  const { call } = first;
  if (automatic)
    return [
      fault(
        "twice",
        `${sheet.sdk} starts itself by its ${automatic.kind} ${automatic.name.split(".").at(-1) ?? ""}, and the app starts it again in ${call.within}`,
        `remove the call, or remove the ${automatic.kind} with tools:node="remove"`,
        [call, automatic],
        "automatically and by hand",
      ),
    ];
  const two = twoWays(sure);
  if (two)
    return [
      fault(
        "twice",
        `${sheet.sdk} is started twice${side === "shared" ? "" : ` on ${side === "ios" ? "iOS" : "Android"}`}: ${two.words.join(" and ")}`,
        `start it once: remove one of the two calls`,
        two.places.map((at) => ({ at })),
        two.words.join(" and "),
      ),
    ];
  const again = sure.find(({ way }) => way.repeats);
  return again
    ? [
        fault(
          "twice",
          `${sheet.sdk} is started again on each render: ${again.call.callee} in ${again.call.within} runs in an effect without a dependency list`,
          "give the effect an empty dependency list",
          [again.call],
          "again on each render",
        ),
      ]
    : [];
}

/** Started after the moment that the sheet asks for; only where every start is known to be. */
function late(live: readonly SdkCall[], { need, sheet }: NeedOnSide): WireFault[] {
  const wanted = textIn(need.value, "at");
  if (wanted !== "launch" && wanted !== "firstScreen") return [];
  const sure = live.filter(({ doubtful }) => !doubtful);
  if (sure.length === 0 || sure.length < live.length || !sure.every(({ phase }) => phase !== undefined && indexOf(phase) > indexOf(wanted)))
    return [];
  const [first] = sure as [SdkCall];
  return [
    fault(
      "late",
      `${sheet.sdk} must be started ${PHASE_TITLES[wanted]} and is started ${PHASE_TITLES[first.phase as LifeCyclePhase]}: in ${first.within}`,
      `move ${first.callee} to where the app starts`,
      sure,
      `in ${first.within}, ${PHASE_TITLES[first.phase as LifeCyclePhase].split(",")[0] ?? ""}`,
    ),
  ];
}

/** The provider or initializer by which another SDK starts itself, as its sheet says. */
function automaticOf({ code }: App, sheets: readonly Sheet[], sdk: string | undefined): AutoStart | undefined {
  return sheets
    .filter((sheet) => sheet.sdk === sdk)
    .flatMap(({ needs }) => needs.flatMap(({ kind, value }) => (kind === "start" ? (textIn(value, "automatic") ?? []) : [])))
    .map((name) => code?.autoStarts.find((entry) => entry.name === name && !entry.removed))
    .find((entry) => entry !== undefined);
}

/** Before another start that must come first, or after one that must come later. */
// eslint-disable-next-line complexity -- the words for each way in which an order is not kept
function order(live: readonly SdkCall[], { app, need, sheet, sheets, side }: NeedOnSide): WireFault[] {
  const placed = (call: SdkCall): boolean => call.reach === "entry" && call.sure && !call.doubtful && call.order !== undefined;
  const own = live.find(placed);
  if (!own) return [];
  const found: WireFault[] = [];
  for (const key of ["before", "after"] as const) {
    for (const item of itemsIn(need.value, key)) {
      const other = textIn(item);
      const start = (app.code?.calls ?? []).find(
        (call) =>
          call.sdk === other &&
          (call.kind === "start" || call.kind === "heuristicStart") &&
          call.side === own.side &&
          placed(call) &&
          isPlain(call.guards),
      );
      if (start && isPlain(own.guards)) {
        const earlier = runsBefore(own, start);
        if (earlier !== undefined && earlier !== (key === "before"))
          found.push(
            fault(
              "order",
              key === "before"
                ? `${sheet.sdk} must start before ${start.sdk} and starts after it, in ${own.within}`
                : `${sheet.sdk} needs ${start.sdk} to be started first and starts before it, in ${own.within}`,
              `move ${own.callee} ${key === "before" ? "before" : "after"} ${start.callee}`,
              [own, start],
              `${key === "before" ? "after" : "before"} ${start.sdk}`,
              undefined,
              start.sdk,
            ),
          );
        continue;
      }
      // What starts itself by a provider is there before any call of the application.
      const automatic = automaticOf(app, sheets, other);
      if (automatic && key === "before" && side === "android" && indexOf(own.phase ?? "later") > indexOf("provider"))
        found.push(
          fault(
            "order",
            `${sheet.sdk} must start before ${other ?? ""}, which starts itself by its ${automatic.kind}; ${sheet.sdk} starts in ${own.within}`,
            `start ${other ?? ""} by hand after ${own.callee}, and remove its ${automatic.kind}`,
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
