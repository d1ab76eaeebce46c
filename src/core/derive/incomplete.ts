import type { AppFacts } from "../model/app.js";
import type { SideName } from "../model/facts.js";

/** Locks and vendors' settings hold no evidence for anything but themselves. */
const SPEAKS_FOR_ITSELF =
  /(-lock\.(json|yaml)|\.lock|\.lockfile|\.resolved|-services\.json|\.(kt|java|swift|m|mm|dart|cs|ts|tsx|js|jsx))$/i;

/** A file of one side that could not be read in full, or of both: what is missing on that side may stand in it. */
export function brokenFileOf(app: AppFacts, side: SideName): string | undefined {
  for (const [file, of] of app.broken)
    if ((of === side || of === "shared" || side === "shared") && !SPEAKS_FOR_ITSELF.test(file)) return file;
  return undefined;
}
