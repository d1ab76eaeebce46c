import type { RawFinding } from "../model/finding.js";
import { uniquePlaces } from "../model/place.js";
import type { Wire, WireProblem } from "../needs/wire.js";

/** What is wrong with wires in code, as findings; `needs` limits it to some kinds of need. */
export function findingsFromFaults(wires: readonly Wire[], problem: WireProblem, needs?: readonly Wire["need"]["kind"][]): RawFinding[] {
  return wires.flatMap(({ need, faults, places }) =>
    (faults ?? [])
      .filter((fault) => fault.problem === problem && (!needs || needs.includes(need.kind)))
      .map((fault) => ({
        ...(need.optional ? { severity: "note" as const } : fault.severity ? { severity: fault.severity } : {}),
        side: need.side,
        sdk: need.sdk,
        message: fault.message,
        fix: fault.fix,
        // Where something is missing, the sheet's line says who asks for it.
        places: fault.places.length > 0 ? fault.places : uniquePlaces([...places, need.at]),
        subject: `${need.sdk} ${need.kind} ${need.what} ${problem}${fault.other === undefined ? "" : ` ${fault.other}`}`,
      })),
  );
}
