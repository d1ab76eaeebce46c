import type { ReportOutline } from "../../core/project/check.js";
import type { Finding } from "../../core/model/finding.js";
import { KIND_TITLES } from "../../core/model/app.js";
import { placeText, SIDE_TITLES } from "../text/labels.js";
import { plural } from "../text/style.js";
import { code, escaped } from "./text.js";
import { reasonText } from "../../core/model/reason.js";

const SIGNS: Record<Finding["severity"], string> = { error: "✗ error", warning: "! warning", note: "· note" };

/** The findings as Markdown, fit for a comment on a pull request. */
export function checkMarkdown(report: ReportOutline): string {
  const { summary, findings, accepted, blindSpots, survey } = report;
  const lines = ["## Enredo: how the SDKs are wired", ""];
  const clear = summary.errors + summary.warnings + summary.notes === 0;
  const base = `${plural(survey.apps.length, "app")}, ${plural(summary.sdks, "SDK")}`;
  lines.push(
    clear
      ? `Nothing to report in ${base}.`
      : `**${plural(summary.errors, "error")}**, ${plural(summary.warnings, "warning")}, ${plural(summary.notes, "note")} in ${base}.`,
    "",
  );
  const names = [...new Set(findings.map(({ app }) => app))];
  for (const name of names) {
    const app = survey.apps.find((candidate) => candidate.name === name);
    lines.push(`### ${app ? `${escaped(name)} (${KIND_TITLES[app.kind]})` : "This folder"}`, "");
    for (const finding of findings.filter((candidate) => candidate.app === name)) lines.push(...findingLines(finding));
    lines.push("");
  }
  if (accepted.length > 0) lines.push(`${plural(accepted.length, "finding")} accepted in the settings.`, "");
  if (blindSpots.length > 0) {
    lines.push(`<details><summary>${plural(blindSpots.length, "blind spot")}: what the files alone do not tell</summary>`, "");
    for (const spot of blindSpots)
      lines.push(`- ${escaped(spot.app)}, ${SIDE_TITLES[spot.side]}: ${escaped(spot.what)}: ${escaped(reasonText(spot.why))}`);
    lines.push("", "</details>", "");
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

/** One finding as an item of a list. */
export function findingLines(finding: Finding): string[] {
  const side = finding.side === undefined ? "both sides" : SIDE_TITLES[finding.side];
  return [
    `- **${SIGNS[finding.severity]}** (${side}) ${escaped(finding.message)}  `,
    `  ${finding.places
      .slice(0, 3)
      .map((place) => code(placeText(place)))
      .join(" ")} · ${code(finding.rule)}  `,
    `  → ${escaped(finding.fix)}`,
  ];
}
