import type { ReportOutline } from "../../core/project/check.js";
import type { Finding } from "../../core/model/finding.js";
import { checkText, type CheckTextOptions } from "./check.js";
import { wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";

/**
 * What came and what went between two answers about the same project, and the count as it is now. A finding that is about the same as before
 * and says something else (another value that is wrong too) came, and did not go.
 */
export function changesText(before: ReportOutline, after: ReportOutline, style: Style, options: CheckTextOptions): string {
  const came = without(after.findings, before.findings, whole);
  const went = without(before.findings, after.findings, ({ fingerprint }) => fingerprint);
  const lines: string[] = [];
  if (went.length > 0) {
    lines.push(style.bold(`- ${plural(went.length, "finding")} gone`));
    for (const { app, message, rule } of went)
      lines.push(wrapped(style, `${style.good("✓")} ${app === "" ? "" : `${clean(app)}: `}${clean(message)}  ${style.dim(rule)}`, 4));
    lines.push("");
  }
  if (came.length > 0) lines.push(style.bold(`+ ${plural(came.length, "new finding")}`), "");
  else if (went.length === 0) lines.push(style.dim("No finding came, and none went."));
  const shown = checkText({ ...after, findings: came }, style, { ...options, quiet: true }).trimEnd();
  if (came.length > 0) lines.push(shown, "");
  lines.push(countsOf(after));
  return `${lines.join("\n").trimEnd()}\n`;
}

/** What is not in another list, as often as it stands there. */
function without(findings: readonly Finding[], others: readonly Finding[], keyOf: (finding: Finding) => string): Finding[] {
  const left = new Map<string, number>();
  for (const other of others) left.set(keyOf(other), (left.get(keyOf(other)) ?? 0) + 1);
  return findings.filter((finding) => {
    const count = left.get(keyOf(finding)) ?? 0;
    left.set(keyOf(finding), count - 1);
    return count <= 0;
  });
}

function whole({ fingerprint, message }: Finding): string {
  return `${fingerprint} ${message}`;
}

function countsOf({ summary: { errors, warnings, notes } }: ReportOutline): string {
  if (errors + warnings + notes === 0) return "Now: nothing to report";
  return `Now: ${[
    [errors, "error"],
    [warnings, "warning"],
    [notes, "note"],
  ]
    .flatMap(([count, word]) => ((count as number) > 0 ? [plural(count as number, word as string)] : []))
    .join(", ")}`;
}
