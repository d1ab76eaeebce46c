import type { SdkCall } from "../../model/code.js";
import { codeNeed, fault, checkCalls, isPlain, runsBefore, unguarded } from "../calls.js";
import type { NeedOnSide } from "../context.js";
import type { WireFault } from "../wire.js";

export const use = codeNeed("use", ["start/too-late", "start/unguarded", "parity/one-sided"], (subject) =>
  checkCalls(subject, (_, live) => [...tooEarly(live, subject), ...unguarded(live, subject)], { optional: true }),
);

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
