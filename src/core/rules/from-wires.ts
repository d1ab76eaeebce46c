import type { RawFinding } from "../model/finding.js";
import type { Wire, WireProblem } from "../wiring/wire.js";

/** Which wires a rule speaks about. */
export interface WireFilter {
  kinds: readonly Wire["need"]["kind"][];
  /** Only wires with one of these problems; without it all loose and missing ones. */
  problems?: readonly (WireProblem | undefined)[];
}

/** Loose and missing wires as findings. A need without a place in the app is reported at the sheet's line. */
export function findingsFromWires(wires: readonly Wire[], { kinds, problems }: WireFilter): RawFinding[] {
  return wires
    .filter(
      ({ state, need, problem }) =>
        (state === "loose" || state === "missing") && kinds.includes(need.kind) && (!problems || problems.includes(problem)),
    )
    .map(({ need, state, found, wanted, fix, why, places }) => ({
      side: need.side,
      sdk: need.sdk,
      message:
        state === "missing"
          ? `${need.sdk} needs the ${need.what}${found === undefined ? ", and it is not there" : `: it is ${found.replace(/[()]/g, "")}`}`
          : `${need.sdk} needs the ${need.what}: ${found ?? "what is there does not fit"}${wanted !== "" && !need.what.includes(wanted) && !(found ?? "").includes(wanted) ? `; wanted is ${wanted}` : ""}${why === undefined ? "" : ` (${why})`}`,
      fix: fix ?? `see what ${need.sdk} asks for: enredo trace ${need.sdk}`,
      places: places.length > 0 ? places : [need.at],
      subject: `${need.sdk} ${need.kind} ${need.what} ${found ?? state}`,
    }));
}
