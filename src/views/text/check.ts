import type { ReportOutline } from "../../core/project/check.js";
import { KIND_TITLES, sidesOf, type AppOutline } from "../../core/model/app.js";
import type { SideName } from "../../core/model/facts.js";
import type { Finding } from "../../core/model/finding.js";
import type { Place } from "../../core/model/place.js";
import { flowing, wrapped } from "./layout.js";
import { clean, colored, plural, SEVERITY_MARKS, type Style } from "./style.js";

export interface CheckTextOptions {
  /** Lists every place and every blind spot. */
  verbose: boolean;
  /** Findings only, without the closing lines. */
  quiet: boolean;
}

export const SIDE_TITLES: Record<SideName, string> = { android: "Android", ios: "iOS", shared: "Shared code" };

/** The findings, grouped by app and side, the worst first; then what could not be seen, and the count. */
export function checkText(report: ReportOutline, style: Style, options: CheckTextOptions): string {
  const lines: string[] = [];
  const groups = new Map<string, Finding[]>();
  for (const finding of report.findings) groups.set(finding.app, [...(groups.get(finding.app) ?? []), finding]);
  const order = report.survey.apps.map(({ name }) => name);
  for (const [name, findings] of [...groups].sort(([a], [b]) => order.indexOf(a) - order.indexOf(b))) {
    const app = report.survey.apps.find((candidate) => candidate.name === name);
    lines.push(app ? appLine(app, style) : style.bold("This folder"), "");
    let side: SideName | undefined | null = null;
    for (const [finding, ...alike] of folded(bySide(findings), options)) {
      // What is said about the folder itself is about no side.
      if (finding.side !== side && (finding.side !== undefined || app))
        lines.push(`  ${style.bold(finding.side === undefined ? "Both sides" : SIDE_TITLES[finding.side])}`);
      side = finding.side;
      lines.push(findingText(finding, alike, style, options), "");
    }
  }
  if (!options.quiet) lines.push(...closing(report, style, options));
  return `${lines.join("\n").trimEnd()}\n`;
}

export function appLine(app: AppOutline, style: Style): string {
  const sides = sidesOf(app)
    .filter((side) => side !== "shared")
    .map((side) => SIDE_TITLES[side]);
  return `${style.bold(clean(app.name))}  ${style.dim(`${KIND_TITLES[app.kind]}, ${sides.join(" and ")}${app.path ? `, in ${clean(app.path)}` : ""}`)}`;
}

/** Keeps the order inside a side; sides follow each other by their worst finding. */
function bySide(findings: Finding[]): Finding[] {
  const sides = new Map<SideName | undefined, Finding[]>();
  for (const finding of findings) sides.set(finding.side, [...(sides.get(finding.side) ?? []), finding]);
  return [...sides.values()].flat();
}

/** So many findings that say the same of different packages are shown as one. */
const FOLDED = 3;

/** How many names of folded findings are listed. */
const NAMED = 8;

/** Findings that say the same of different packages, together, at the place of the first; each alone where all is to be listed. */
function folded(findings: readonly Finding[], options: CheckTextOptions): [Finding, ...Finding[]][] {
  const groups = new Map<string, [Finding, ...Finding[]]>();
  for (const finding of findings) {
    const { rule, severity, side, message, fix } = finding;
    const name = nameIn(finding);
    const key = [rule, severity, side, ...[message, fix].map((text) => text.replaceAll(name, "\0"))].join("\n");
    const group = groups.get(key);
    if (group) group.push(finding);
    else groups.set(key, [finding]);
  }
  return [...groups.values()].flatMap((group): [Finding, ...Finding[]][] =>
    options.verbose || group.length < FOLDED || new Set(group.map(nameIn)).size < group.length
      ? group.map((finding) => [finding])
      : [group],
  );
}

/** What a finding is about; where it does not say, its message begins with it. */
function nameIn({ message, about }: Finding): string {
  return about ?? message.slice(0, message.search(/ |$/));
}

function findingText(finding: Finding, alike: readonly Finding[], style: Style, options: CheckTextOptions): string {
  const { sign, word } = SEVERITY_MARKS[finding.severity];
  const label = `${sign} ${word}`.padEnd(10);
  const shown = options.verbose ? finding.places : finding.places.slice(0, 2);
  const more = finding.places.length - shown.length;
  const parts = shown.map((place) => ({ text: placeText(place), show: style.place }));
  if (more > 0) parts.push({ text: `and ${more} more`, show: style.dim });
  parts.push({ text: finding.rule, show: style.dim });
  const indent = 4 + label.length;
  const [head = "", ...rest] = wrapped(style, clean(finding.message), indent).split("\n");
  return [
    `    ${colored(style, finding.severity, label)}${head.trimStart()}`,
    ...rest,
    flowing(style, parts, indent),
    wrapped(style, `→ ${clean(finding.fix)}`, indent),
    ...(alike.length === 0 ? [] : [wrapped(style, style.dim(`likewise ${named(alike)}`), indent)]),
  ].join("\n");
}

function named(findings: readonly Finding[]): string {
  const names = findings.map((finding) => clean(nameIn(finding)));
  const shown = names.slice(0, NAMED);
  const more = names.length - shown.length;
  return `${shown.join(", ")}${more > 0 ? ` and ${more} more` : ""}; --verbose shows each`;
}

export function placeText(place: Place): string {
  return clean(`${place.file}:${place.line}:${place.column}`);
}

function closing(report: ReportOutline, style: Style, options: CheckTextOptions): string[] {
  const lines: string[] = [];
  const { summary, blindSpots, accepted } = report;
  if (blindSpots.length > 0) {
    const shown = options.verbose ? blindSpots : blindSpots.slice(0, 4);
    lines.push(style.bold(plural(blindSpots.length, "blind spot")) + style.dim(": what the files alone do not tell"));
    for (const spot of shown) {
      const [place] = spot.places;
      lines.push(wrapped(style, `? ${clean(spot.app)}, ${SIDE_TITLES[spot.side]}: ${clean(spot.what)}: ${clean(spot.why)}`, 2));
      if (place && options.verbose) lines.push(`    ${style.place(placeText(place))}`);
    }
    if (shown.length < blindSpots.length) lines.push(style.dim(`  … and ${blindSpots.length - shown.length} more; --verbose lists them`));
    lines.push("");
  }
  if (accepted.length > 0)
    lines.push(
      style.dim(`${plural(accepted.length, "finding")} accepted in ${report.survey.apps.length > 0 ? "the settings" : "enredo.yaml"}`),
    );
  const clear = summary.errors + summary.warnings + summary.notes === 0;
  const counts = [
    summary.errors > 0 ? style.error(plural(summary.errors, "error")) : plural(summary.errors, "error"),
    summary.warnings > 0 ? style.warning(plural(summary.warnings, "warning")) : plural(summary.warnings, "warning"),
    plural(summary.notes, "note"),
  ].join(", ");
  const base = `${plural(report.survey.apps.length, "app")}, ${plural(summary.sdks, "SDK")}, ${plural(summary.files, "file")} read`;
  lines.push(clear ? `${style.good("✓ nothing to report")} ${style.dim(`in ${base}`)}` : `${counts} ${style.dim(`in ${base}`)}`);
  return lines;
}
