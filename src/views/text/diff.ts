import type { AppDiff, Change } from "../../core/project/diff.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { clean, colored, plural, SEVERITY_MARKS, type Style } from "./style.js";

const SIGNS: Record<Change["how"], string> = { added: "+", removed: "-", changed: "~" };

/** What a change did, in a few words: `4.1.0 → 4.2.0`. */
export function changeText({ how, before, after }: Change): string {
  if (how === "added") return after ?? "";
  if (how === "removed") return before === undefined ? "" : `was ${before}`;
  return `${before ?? "nothing"} → ${after ?? "nothing"}`;
}

/** What changed in the wiring, app by app; then the findings that are new and those that are gone. */
export function diffText(diffs: readonly AppDiff[], style: Style, options: { before: string; after: string; verbose: boolean }): string {
  const lines: string[] = [style.dim(clean(`from ${options.before} to ${options.after}`)), ""];
  const shown = diffs.filter(
    ({ only, changes, findings }) => only !== undefined || changes.length + findings.fresh.length + findings.gone.length > 0,
  );
  for (const { app, only, changes, findings } of shown) {
    lines.push(appLine(app, style), "");
    if (only !== undefined) lines.push(`  ${only === "after" ? style.good("+ the app is new") : style.error("- the app is gone")}`, "");
    for (const side of ["android", "ios", "shared"] as const) {
      const own = changes.filter((change) => change.side === side);
      if (own.length === 0) continue;
      lines.push(`  ${style.bold(SIDE_TITLES[side])}`);
      for (const change of own) {
        const paint = change.how === "added" ? style.good : change.how === "removed" ? style.error : style.warning;
        const label = `    ${SIGNS[change.how]} `;
        const [head = "", ...rest] = wrapped(
          style,
          `${change.kind} ${clean(change.what)}: ${clean(changeText(change))}`,
          label.length,
        ).split("\n");
        lines.push(`${paint(label)}${head.trimStart()}`, ...rest);
        if (change.at && (options.verbose || change.how !== "removed")) lines.push(`      ${style.place(placeText(change.at))}`);
      }
      lines.push("");
    }
    const list = (title: string, found: typeof findings.fresh, sign: string): void => {
      if (found.length === 0) return;
      lines.push(`  ${style.bold(title)}`);
      for (const finding of found) {
        const label = `    ${sign} ${SEVERITY_MARKS[finding.severity].word.padEnd(8)}`;
        const [head = "", ...rest] = wrapped(style, clean(finding.message), label.length).split("\n");
        lines.push(`${colored(style, finding.severity, label)}${head.trimStart()}`, ...rest);
        const [place] = finding.places;
        lines.push(`${" ".repeat(label.length)}${place ? `${style.place(placeText(place))}  ` : ""}${style.dim(finding.rule)}`);
      }
      lines.push("");
    };
    list("New findings", findings.fresh, "+");
    list("Gone", findings.gone, "-");
  }
  const sum = (of: (diff: AppDiff) => number): number => diffs.reduce((total, diff) => total + of(diff), 0);
  if (shown.length === 0) lines.push(style.good("✓ nothing changed in the wiring"));
  const fresh = sum(({ findings }) => findings.fresh.length);
  lines.push(
    `${plural(
      sum(({ changes }) => changes.length),
      "change",
    )}; findings: ${fresh > 0 ? style.error(`${fresh} new`) : "0 new"}, ${sum(({ findings }) => findings.gone.length)} gone, ${sum(({ findings }) => findings.still)} still there`,
  );
  return `${lines.join("\n").trimEnd()}\n`;
}
