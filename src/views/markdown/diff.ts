import type { AppDiff } from "../../core/project/diff.js";
import { KIND_TITLES } from "../../core/model/app.js";
import { SIDE_TITLES } from "../text/labels.js";
import { changeText } from "../text/diff.js";
import { plural } from "../text/style.js";
import { findingLines } from "./check.js";
import { escaped } from "./text.js";

const SIGNS = { added: "➕", removed: "➖", changed: "✏️" } as const;

/** What changed in the wiring, fit for a comment on a pull request. */
export function diffMarkdown(diffs: readonly AppDiff[], before: string, after: string): string {
  const lines = ["## Enredo: what changed in the wiring", "", `From ${escaped(before)} to ${escaped(after)}.`, ""];
  let told = false;
  for (const { app, only, changes, findings } of diffs) {
    if (only === undefined && changes.length + findings.fresh.length + findings.gone.length === 0) continue;
    told = true;
    lines.push(`### ${escaped(app.name)} (${KIND_TITLES[app.kind]})`, "");
    if (only !== undefined) lines.push(only === "after" ? "The app is new." : "The app is gone.", "");
    if (changes.length > 0) {
      lines.push("| | side | what | change |", "|---|---|---|---|");
      for (const change of changes)
        lines.push(
          `| ${SIGNS[change.how]} ${change.how} | ${SIDE_TITLES[change.side]} | ${change.kind} ${escaped(change.what)} | ${escaped(changeText(change))} |`,
        );
      lines.push("");
    }
    if (findings.fresh.length > 0) lines.push("**New findings**", "", ...findings.fresh.flatMap(findingLines), "");
    if (findings.gone.length > 0)
      lines.push(
        `<details><summary>${plural(findings.gone.length, "finding")} gone</summary>`,
        "",
        ...findings.gone.map(({ message, rule }) => `- ~~${escaped(message)}~~ ${escaped(rule)}`),
        "",
        "</details>",
        "",
      );
    if (findings.still > 0) lines.push(`${plural(findings.still, "finding")} still there.`, "");
  }
  if (!told) lines.push("Nothing changed.");
  return `${lines.join("\n").trimEnd()}\n`;
}
