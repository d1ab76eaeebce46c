import type { ReportOutline } from "../../core/project/check.js";
import { KIND_TITLES, sidesOf, type AppOutline } from "../../core/model/app.js";
import { SEVERITIES, type Finding } from "../../core/model/finding.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { flowing, table, wrapped } from "./layout.js";
import { clean, colored, plural, SEVERITY_MARKS, type Style } from "./style.js";
import { reasonText } from "../../core/model/reason.js";

export type Grouping = "app" | "rule" | "sdk";

export interface CheckTextOptions {
  /** Lists every place and every blind spot. */
  verbose: boolean;
  /** Findings only, without the opening and the closing lines. */
  quiet: boolean;
  /** What the findings stand together by; the app where it is left out. */
  groupBy?: Grouping;
  /** The folder as it was given, for commands that a reader may run next; absent where none is to be named. */
  dir?: string | undefined;
}

/**
 * The findings in groups, the worst first; what could not be seen, and the count. Of several apps it begins with the answer: how many findings
 * each has.
 */
export function checkText(report: ReportOutline, style: Style, options: CheckTextOptions): string {
  const { survey, findings } = report;
  const lines: string[] = [];
  if (!options.quiet && survey.apps.length > 1 && findings.length > 0) lines.push(...countsOfApps(report, style), "");
  for (const group of options.groupBy === undefined || options.groupBy === "app"
    ? groupsByApp(report, style)
    : groupsBy(options.groupBy, report, style)) {
    lines.push(group.head, "");
    let title: string | undefined;
    for (const [finding, ...alike] of folded(group.findings, options)) {
      const next = group.titleOf(finding);
      if (next !== title && next !== "") lines.push(`  ${style.bold(next)}`);
      title = next;
      lines.push(findingText(finding, alike, style, options), "");
    }
  }
  if (!options.quiet) lines.push(...closing(report, style, options));
  return `${lines.join("\n").trimEnd()}\n`;
}

/** Findings that stand together. */
interface Group {
  head: string;
  findings: Finding[];
  /** Under which title a finding stands in its group; empty for none. */
  titleOf: (finding: Finding) => string;
}

/** By app, in each by side. */
function groupsByApp({ survey, findings }: ReportOutline, style: Style): Group[] {
  const order = survey.apps.map(({ name }) => name);
  return [...grouped(findings, ({ app }) => app)]
    .sort(([a], [b]) => order.indexOf(a) - order.indexOf(b))
    .map(([name, own]) => {
      const app = survey.apps.find((candidate) => candidate.name === name);
      return {
        head: app ? appLine(app, style) : style.bold("This folder"),
        findings: [...grouped(own, ({ side }) => side ?? "").values()].flat(),
        // What is said about the folder itself is about no side.
        titleOf: ({ side }) => (side === undefined ? (app ? "Both sides" : "") : SIDE_TITLES[side]),
      };
    });
}

/** By rule or SDK, in each by app and side: those with most errors first. */
function groupsBy(what: "rule" | "sdk", { survey, findings }: ReportOutline, style: Style): Group[] {
  const weight = (own: readonly Finding[]): number =>
    own.reduce((sum, { severity }) => sum + (severity === "error" ? 1_000_000 : severity === "warning" ? 1_000 : 1), 0);
  const whole = survey.apps.length < 2;
  return [...grouped(findings, (finding) => (what === "rule" ? finding.rule : (finding.sdk ?? "")))]
    .sort(([nameA, a], [nameB, b]) => Number(nameA === "") - Number(nameB === "") || weight(b) - weight(a) || (nameA < nameB ? -1 : 1))
    .map(([name, own]) => ({
      head: `${style.bold(name === "" ? "No SDK of its own" : clean(name))}  ${style.dim(countsText(own))}`,
      findings: [...grouped(own, ({ app, side }) => `${app}\0${side ?? ""}`).values()].flat(),
      titleOf: ({ app, side }) =>
        [whole ? "" : app === "" ? "This folder" : clean(app), side === undefined ? (app === "" ? "" : "both sides") : SIDE_TITLES[side]]
          .filter(Boolean)
          .join(", "),
    }));
}

function grouped(findings: readonly Finding[], keyOf: (finding: Finding) => string): Map<string, Finding[]> {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = keyOf(finding);
    const group = groups.get(key);
    if (group) group.push(finding);
    else groups.set(key, [finding]);
  }
  return groups;
}

/** `2 errors, 1 note`: what there is none of is not named. */
function countsText(findings: readonly Finding[]): string {
  return SEVERITIES.flatMap((severity) => {
    const count = findings.filter((finding) => finding.severity === severity).length;
    return count === 0 ? [] : [plural(count, SEVERITY_MARKS[severity].word)];
  }).join(", ");
}

/** Each app with how much was found in it. */
function countsOfApps({ survey, findings }: ReportOutline, style: Style): string[] {
  const byApp = grouped(findings, ({ app }) => app);
  const rows = [
    ...survey.apps.map(({ name, kind }) => ({ name, kind: KIND_TITLES[kind] as string })),
    ...(byApp.has("") ? [{ name: "", kind: "" }] : []),
  ];
  const cell = (own: readonly Finding[], severity: Finding["severity"]): string => {
    const count = own.filter((finding) => finding.severity === severity).length;
    return count === 0 ? style.dim("–") : colored(style, severity, `${SEVERITY_MARKS[severity].sign} ${count}`);
  };
  return [
    table(
      style,
      ["app", "kind", "errors", "warnings", "notes"],
      rows.map(({ name, kind }) => {
        const own = byApp.get(name) ?? [];
        return [name === "" ? "this folder" : style.bold(clean(name)), kind, ...SEVERITIES.map((severity) => cell(own, severity))];
      }),
    ),
  ];
}

export function appLine(app: AppOutline, style: Style): string {
  const sides = sidesOf(app)
    .filter((side) => side !== "shared")
    .map((side) => SIDE_TITLES[side]);
  return `${style.bold(clean(app.name))}  ${style.dim(`${KIND_TITLES[app.kind]}, ${sides.join(" and ")}${app.path ? `, in ${clean(app.path)}` : ""}`)}`;
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

function closing(report: ReportOutline, style: Style, options: CheckTextOptions): string[] {
  const lines: string[] = [];
  const { summary, blindSpots, accepted } = report;
  if (blindSpots.length > 0) {
    const shown = options.verbose ? blindSpots : blindSpots.slice(0, 4);
    lines.push(style.bold(plural(blindSpots.length, "blind spot")) + style.dim(": what the files alone do not tell"));
    for (const spot of shown) {
      const [place] = spot.places;
      lines.push(wrapped(style, `? ${clean(spot.app)}, ${SIDE_TITLES[spot.side]}: ${clean(spot.what)}: ${clean(reasonText(spot.why))}`, 2));
      if (place && options.verbose) lines.push(`    ${style.place(placeText(place))}`);
    }
    if (shown.length < blindSpots.length) lines.push(style.dim(`  … and ${blindSpots.length - shown.length} more; --verbose lists them`));
    lines.push("");
  }
  if (accepted.length > 0)
    lines.push(
      style.dim(`${plural(accepted.length, "finding")} accepted in ${report.survey.apps.length > 0 ? "the settings" : "enredo.yaml"}`),
    );
  const patched = report.findings.filter(({ quickFix }) => quickFix !== undefined && quickFix.length > 0).length;
  if (patched > 0 && options.dir !== undefined)
    lines.push(
      wrapped(
        style,
        `→ ${style.bold(`enredo patch ${shellWord(options.dir)}`.trimEnd())} has fixes for up to ${plural(patched, "finding")}`,
        0,
      ),
      "",
    );
  const clear = summary.errors + summary.warnings + summary.notes === 0;
  const counts = [
    summary.errors > 0 ? style.error(plural(summary.errors, "error")) : "",
    summary.warnings > 0 ? style.warning(plural(summary.warnings, "warning")) : "",
    summary.notes > 0 ? plural(summary.notes, "note") : "",
  ]
    .filter(Boolean)
    .join(", ");
  const base = `${plural(report.survey.apps.length, "app")}, ${plural(summary.sdks, "SDK")}, ${plural(summary.files, "file")} read`;
  lines.push(clear ? `${style.good("✓ nothing to report")} ${style.dim(`in ${base}`)}` : `${counts} ${style.dim(`in ${base}`)}`);
  return lines;
}

/** A folder as a shell takes it; nothing for the current one. */
function shellWord(dir: string): string {
  return dir === "." ? "" : /^[\w./\\:@%+=~-]+$/.test(dir) ? dir : `"${clean(dir)}"`;
}
