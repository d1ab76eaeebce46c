import type { Severity } from "../../model/finding.js";
import type { Confirmation } from "./confirm.js";

/** How bad an answer is: silence, errors and a wrong order are errors. */
export function severityOf(confirmation: Confirmation): Severity | undefined {
  const { state, complaints, outOfOrder } = confirmation;
  if (state === "silent" || outOfOrder.length > 0 || complaints.some(({ level }) => level === "error")) return "error";
  if (complaints.length > 0) return "warning";
  return state === "unknown" ? "note" : undefined;
}
