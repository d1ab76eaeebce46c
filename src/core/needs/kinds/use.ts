import { NOTHING_LEADS, type SdkCall } from "../../model/code.js";
import { allNever, codeNeed, fault, checkCalls, isPlain, runsBefore, unguarded } from "../calls.js";
import type { NeedOnSide } from "../context.js";
import type { WireFault } from "../wire.js";
import { reasonText } from "../../model/reason.js";

export const use = codeNeed("use", ["start/never-reached", "start/too-late", "start/unguarded", "parity/one-sided"], (subject) =>
  checkCalls(subject, (calls, live) => [...neverUsed(calls, subject.sheet.sdk), ...tooEarly(live, subject), ...unguarded(live, subject)], {
    optional: true,
  }),
);

/** Used in code alone to which nothing leads. */
function neverUsed(calls: readonly SdkCall[], sdk: string): WireFault[] {
  const [first] = calls;
  if (!first || !allNever(calls)) return [];
  return [
    {
      ...fault(
        "never",
        `${sdk} is used only in code that never runs: ${first.callee} is in ${first.within}, and ${reasonText(first.unreached ?? NOTHING_LEADS)}`,
        "lead to that code from where the app goes, or take it out",
        calls,
        `in ${first.within}`,
        first.unreached,
      ),
      // It does no harm, and may be on its way in.
      severity: "warning",
    },
  ];
}

/** Used before it is started. */
function tooEarly(live: readonly SdkCall[], { app, sheet, side }: NeedOnSide): WireFault[] {
  const starts = (app.code?.calls ?? []).filter(
    (call) => call.sdk === sheet.sdk && call.kind === "start" && call.reach !== "never" && (call.side === side || call.side === "shared"),
  );
  // One start whose time is not known may be the one that comes first.
  const [first] = starts;
  if (!first || starts.some((start) => start.phase === undefined || start.doubtful || start.order === undefined)) return [];
  const early = live.find(
    (use) =>
      !use.doubtful &&
      !use.optional &&
      use.reach === "entry" &&
      isPlain(use.guards) &&
      starts.every((start) => start.side === use.side && runsBefore(use, start) === true),
  );
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
