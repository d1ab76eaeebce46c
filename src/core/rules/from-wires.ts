import type { RawFinding } from "../model/finding.js";
import { uniquePlaces } from "../model/place.js";
import { reasonText } from "../model/reason.js";
import { NEEDS } from "../needs/kinds/index.js";
import type { Wire, WireProblem } from "../needs/wire.js";

/** Which wires a rule speaks about: those with some problems of some kinds, or all that are wrong of the kinds that name the rule. */
export type WireFilter =
  { kinds: readonly Wire["need"]["kind"][]; problems: readonly (WireProblem | undefined)[] } | { rule: `${string}/${string}` };

/** Loose and missing wires as findings: where it is wrong, or the file where it is missing and the sheet's line that asks. */
export function findingsFromWires(wires: readonly Wire[], filter: WireFilter): RawFinding[] {
  return wires
    .filter(({ state, need, problem }) => {
      if (state !== "loose" && state !== "missing") return false;
      if ("rule" in filter) return need.kind !== "dependency" && isAlone(NEEDS[need.kind].rules, filter.rule);
      return filter.kinds.includes(need.kind) && filter.problems.includes(problem);
    })
    .map(({ need, state, found, wanted, fix, why, problem, places, quickFix }) => ({
      ...(quickFix === undefined ? {} : { quickFix }),
      ...(need.optional ? { severity: "note" as const } : {}),
      side: need.side,
      sdk: need.sdk,
      message: sentence({ need, state, found, wanted, problem }, why && reasonText(why)),
      fix: fix ?? `see what ${need.sdk} needs: enredo trace ${need.sdk}`,
      places: state === "missing" || places.length === 0 ? uniquePlaces([...places, need.at]) : places,
      subject: `${need.sdk} ${need.kind} ${need.what}${problem === undefined ? "" : ` ${problem}`}${need.target === undefined ? "" : ` ${need.target}`}`,
    }));
}

/** Whether a rule reports all that can be wrong with a kind of need. */
function isAlone(rules: readonly string[], rule: string): boolean {
  return rules.length === 1 && rules[0] === rule;
}

/** What is wrong, with what was found and what is wanted. */
// eslint-disable-next-line complexity -- one sentence for each problem of a wire
function sentence(
  { need, state, found, wanted, problem }: Pick<Wire, "need" | "state" | "found" | "wanted" | "problem">,
  why: string | undefined,
): string {
  const { sdk, what, kind, optional } = need;
  if (optional && state === "missing" && found === undefined) return `${sdk} can use the ${what}, but it is missing`;
  if (state === "missing")
    return found === undefined
      ? `${sdk} needs the ${what}, but it is missing`
      : `${sdk} needs the ${what}: it is ${found.replace(/[()]/g, "")}`;
  if (kind === "withdrawn")
    return `${sdk} uses ${found ?? "something"}, which the vendor has withdrawn${why === undefined ? "" : `: ${why}`}`;
  if (problem === "exposed") return `${sdk}: the ${what} belongs on a server, but ${found ?? ""}`;
  if (problem === "scheme" && kind === "serviceFile") return `${sdk} needs ${wanted}, but it is missing`;
  if (problem === "misplaced")
    return `${sdk} needs the ${what}: it is ${kind === "serviceFile" ? `in ${found ?? ""}` : (found ?? "")}${why === undefined ? "" : `; ${why}`}`;
  const shown = found ?? "what is there does not match";
  // For a key the places are in the finding; elsewhere the wanted value says more.
  const more = kind === "key" || wanted === "" || what.includes(wanted) || shown.includes(wanted) ? "" : `; expected ${wanted}`;
  return `${sdk} needs the ${what}: ${shown}${more}${why === undefined ? "" : ` (${why})`}`;
}
