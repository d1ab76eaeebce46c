import type { App } from "../../model/app.js";
import { NOTHING_LEADS, type SdkCall } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import type { Place } from "../../model/place.js";
import { reasonText } from "../../model/reason.js";
import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const neverReached = defineRule({
  name: "start/never-reached",
  severity: "error",
  title: "The start call stands in code that nothing calls",
  looksAt:
    "Start calls that no entry point of the app leads to: functions that no call, reference, selector or layout can mean, by the types of what they are called on; lazy values that nothing reads; types that nothing makes; script files that nothing imports; an application class that the manifest leaves out, a script component in no scene; of what a sheet says of use, whether all of it stands in such code; as notes, calls that look like a start and that stand under a condition for debugging, or for one of the phones that share the code. Imports, header declarations and other languages do not count as calls. Overrides of the platform's types, annotated functions and names that stand in texts do, and where anything unknown could lead there it says nothing.",
  why: "The call is there and is never made; in the code everything looks right.",
  advice: "Call the function where the app starts, or name the class where the system looks for it.",
  examples: {
    reported: startExample({ onCreate: "", members: "\n  private fun startMap() {\n    Quaymap.start(this)\n  }\n" }),
    silent: startExample({ onCreate: "    startMap()\n", members: "\n  private fun startMap() {\n    Quaymap.start(this)\n  }\n" }),
  },
  check({ app, wires }) {
    const findings: RawFinding[] = findingsFromFaults(wires, "never");
    const starts = (app.code?.calls ?? []).filter(({ kind }) => kind === "heuristicStart");
    for (const call of starts) {
      if (
        call.reach !== "never" ||
        call.doubtful ||
        starts.some((other) => other.sdk === call.sdk && other.side === call.side && other.reach !== "never")
      )
        continue;
      findings.push({
        side: call.side,
        sdk: call.sdk,
        severity: "warning",
        message: `${call.callee} looks like a start of ${call.sdk}, and it is never made: it stands in ${call.within}, and ${reasonText(call.unreached ?? NOTHING_LEADS)}`,
        fix: `call ${call.within.split(".").at(-1) ?? ""} where the app starts, or take it out`,
        places: [call.at],
        subject: `${call.sdk} ${call.side} ${call.callee} never`,
      });
    }
    findings.push(...keptOff(app, starts));
    // Where a start in such a class is told, its class is in the sentence.
    const places = new Set(findings.flatMap((finding) => finding.places.map(keyOf)));
    const told = new Set((app.code?.calls ?? []).flatMap(({ at, within }) => (places.has(keyOf(at)) ? within.split(".", 1) : [])));
    for (const { name, what, side, wanted, at } of app.code?.unnamed ?? []) {
      if (what !== "application class" || told.has(name)) continue;
      findings.push({
        side,
        severity: "warning",
        message: `${name} is an application class, and no manifest names it: none of its code runs`,
        fix: `add ${wanted}`,
        places: [at],
        subject: `${name} unnamed`,
      });
    }
    return findings;
  },
});

/** Packages that are for developers alone, by their names. */
const FOR_DEVELOPERS = /debug|dev-?(?:tool|client|menu)|inspect|leak|profil|(?:^|[-_./@])(?:mock|test)/i;

/** Likely starts of an SDK all of which stand under a condition: for builds that are not shipped, or for one of the phones that share the code. */
function keptOff(app: App, starts: readonly SdkCall[]): RawFinding[] {
  const found: RawFinding[] = [];
  for (const sdk of new Set(starts.map((call) => call.sdk))) {
    const live = starts.filter((call) => call.sdk === sdk && call.reach !== "never");
    const [first] = live;
    const own = app.dependencies.filter((one) => one.sdk === sdk);
    if (!first || live.some(({ doubtful }) => doubtful) || own.some(({ scope }) => /debug/i.test(scope ?? ""))) continue;
    const has = (kind: SdkCall["guards"][number]["kind"]): boolean =>
      live.every(({ guards, ways }) => [{ guards }, ...ways].every((way) => way.guards.some((guard) => guard.kind === kind)));
    const only = (["android", "ios"] as const).find(
      (side) => has(side) && live.every((call) => call.side === side || call.side === "shared"),
    );
    const isOfBoth = own.length > 0 && own.every(({ side, variant }) => side === "shared" && variant === undefined);
    const told =
      has("debug") && !FOR_DEVELOPERS.test(sdk)
        ? "builds for debugging alone make it"
        : only !== undefined && isOfBoth && app.android && app.ios
          ? `${only === "android" ? "Android" : "iOS"} alone makes it`
          : undefined;
    if (told === undefined) continue;
    found.push({
      side: first.side,
      sdk,
      severity: "note",
      message: `${first.callee} looks like a start of ${sdk}, and ${told}`,
      fix: "move it out of the condition, if every build and both phones need it",
      places: live.map(({ at }) => at),
      subject: `${sdk} ${first.callee} under a condition`,
    });
  }
  return found;
}

const keyOf = ({ file, line, column }: Place): string => `${file}:${line}:${column}`;
