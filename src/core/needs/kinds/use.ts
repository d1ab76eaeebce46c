import type { LifeCyclePhase, SdkCall } from "../../model/code.js";
import { codeNeed, fault, checkCalls, indexOf, isPlain, unguarded } from "../calls.js";
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
  if (starts.length === 0 || starts.some((start) => start.phase === undefined || start.doubtful || start.order === undefined)) return [];
  const first = starts.reduce((a, b) =>
    indexOf(a.phase as LifeCyclePhase) < indexOf(b.phase as LifeCyclePhase) || (a.phase === b.phase && (a.order ?? 0) < (b.order ?? 0))
      ? a
      : b,
  );
  const early = live.find((use) => {
    if (use.phase === undefined || use.doubtful || use.optional || use.reach !== "entry" || use.side !== first.side || !isPlain(use.guards))
      return false;
    const [useAt, startAt] = [indexOf(use.phase), indexOf(first.phase as LifeCyclePhase)];
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
