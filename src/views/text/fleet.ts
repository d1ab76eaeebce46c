import { titleOfSdk, type Fleet, type FleetApp, type FleetSdk } from "../../core/fleet/fleet.js";
import { KIND_TITLES } from "../../core/model/app.js";
import { SIDE_TITLES } from "./labels.js";
import { KIND_HEADS, shortName } from "./permits.js";
import { table, wrapped } from "./layout.js";
import { clean, plural, SEVERITY_MARKS, type Style } from "./style.js";

export interface FleetTextOptions {
  /** Lists every row, and every app by name. */
  verbose: boolean;
  /** Without the closing lines. */
  quiet: boolean;
}

/** How many rows of a table, and names in a cell, are shown where not all are asked for. */
const ROWS = 12;
const BREACHES = 40;
const NAMES = 3;

/** The fleet in tables: what is wrong with it first, then apps, versions, levels, rules, permissions. */
export function fleetText(fleet: Fleet, style: Style, options: FleetTextOptions): string {
  const { apps, projects, unanswered, violations } = fleet;
  const lines: string[] = [headText(fleet, style), ""];
  const section = (title: string, head: string[], rows: string[][], most = ROWS): void => {
    if (rows.length === 0) return;
    const shown = options.verbose ? rows : rows.slice(0, most);
    lines.push(style.bold(title), table(style, head, shown));
    if (shown.length < rows.length) lines.push(style.dim(`  … and ${rows.length - shown.length} more; --verbose lists them`));
    lines.push("");
  };
  section(
    "Against the policy",
    ["app", "", "has", "must have"],
    violations.map(({ app, what, subject, found, wanted }) => [
      clean(app),
      `${style.error("✗")} ${clean(what === "answer" ? "no answer" : subject)}`,
      clean(what === "rule" ? plural(Number(found), "finding") : (found ?? "?")),
      clean(wanted),
    ]),
    BREACHES,
  );
  // With a policy these stand above.
  if (!violations.some(({ what }) => what === "answer"))
    section(
      "Without an answer, or with an old one",
      ["project", "why"],
      unanswered.map(({ project, why }) => [clean(project), clean(why)]),
    );
  section(
    "Apps",
    ["app", "kind", "of", "errors", "warnings", "notes", "blind spots"],
    [...apps]
      .sort((a, b) => b.counts.error - a.counts.error || b.counts.warning - a.counts.warning || (a.name < b.name ? -1 : 1))
      .map((app) => [
        style.bold(clean(app.name)),
        kindOf(app),
        app.at.slice(0, 10),
        number(app.counts.error, style.error),
        number(app.counts.warning, style.warning),
        number(app.counts.note),
        number(app.blindSpots),
      ]),
  );
  section(
    "SDKs",
    ["SDK", "side", "apps", "behind", "versions, the newest first"],
    fleet.sdks.map((sdk) => [
      clean(titleOfSdk(sdk)),
      sideOf(sdk.side),
      String(appsOf(sdk)),
      sdk.behind > 0 ? style.warning(`! ${sdk.behind}`) : style.dim("0"),
      valuesText(
        sdk.versions.map(({ version, apps: names }) => ({ value: version, apps: names })),
        // Those that are behind are who is looked for.
        (index) => index > 0,
        style,
        options,
      ),
    ]),
  );
  section(
    "Levels",
    ["level", "side", "values, the lowest first"],
    fleet.levels.map(({ level, side, values }) => [
      clean(level),
      sideOf(side),
      valuesText(values, (index) => index === 0 && values.length > 1 && isFew(values[0]?.apps, values), style, options),
    ]),
  );
  section(
    "Rules that fire",
    ["rule", "", "findings", "apps"],
    fleet.rules.map(({ rule, severity, findings, apps: names }) => [
      clean(rule),
      `${SEVERITY_MARKS[severity].sign} ${SEVERITY_MARKS[severity].word}`,
      String(findings),
      namesText(names, options),
    ]),
  );
  section(
    "Permissions and the like",
    ["name", "", "side", "apps", "added by"],
    fleet.permits.map(({ name, kind, side, apps: names, by }) => [
      clean(shortName(name)),
      titleIn(KIND_HEADS, kind),
      sideOf(side),
      options.verbose ? namesText(names, options) : String(names.length),
      by.map((one) => clean(one === "" ? "the app" : one)).join(", "),
    ]),
  );
  if (options.quiet) return `${lines.join("\n").trimEnd()}\n`;
  if (fleet.superseded.length > 0)
    lines.push(
      style.dim(
        `${plural(fleet.superseded.length, "project")} with more than one answer: the newest counts (${namesText(
          fleet.superseded.map(({ project }) => project),
          options,
        )})`,
      ),
    );
  lines.push(style.dim(`${plural(projects, "project")}, ${plural(fleet.linesRead, "line")} read`));
  return `${lines.join("\n").trimEnd()}\n`;
}

function headText({ apps, projects, sdks, violations, unanswered }: Fleet, style: Style): string {
  const failing = apps.filter(({ counts }) => counts.error > 0).length;
  const base = `${plural(apps.length, "app")} of ${plural(projects, "project")}`;
  const parts = [
    ...(apps.length === 0 ? [] : [failing > 0 ? style.error(`✗ ${failing} with errors`) : style.good("✓ none with errors")]),
    ...(violations.length > 0 ? [style.error(`✗ ${plural(violations.length, "breach", "breaches")} of the policy`)] : []),
    ...(unanswered.length > 0 ? [style.warning(`! ${unanswered.length} without a fresh answer`)] : []),
    ...(sdks.some(({ behind }) => behind > 0)
      ? [style.warning(`! ${plural(sdks.filter(({ behind }) => behind > 0).length, "SDK")} in several versions`)]
      : []),
  ];
  return wrapped(style, `${style.bold(base)}: ${parts.join(", ")}`, 0);
}

function kindOf({ kind }: FleetApp): string {
  return titleIn(KIND_TITLES, kind);
}

export function sideOf(side: string): string {
  return titleIn(SIDE_TITLES, side);
}

/** A title by a word that a line brought along; the word itself where it has none. */
export function titleIn(titles: Readonly<Record<string, string>>, word: string): string {
  return Object.hasOwn(titles, word) ? (titles[word] as string) : clean(word);
}

function appsOf({ versions }: FleetSdk): number {
  return versions.reduce((sum, { apps }) => sum + apps.length, 0);
}

function number(value: number, show: (text: string) => string = (text) => text): string {
  return value > 0 ? show(String(value)) : "0";
}

/** Whether these are no more than half of all. */
function isFew(names: readonly string[] = [], values: readonly { apps: readonly string[] }[]): boolean {
  return names.length * 2 <= values.reduce((sum, { apps }) => sum + apps.length, 0);
}

/** Values with how many apps have each, by name where `named` says so. */
function valuesText(
  values: readonly { value: string | null; apps: readonly string[] }[],
  named: (index: number) => boolean,
  style: Style,
  options: FleetTextOptions,
): string {
  return values
    .map(({ value, apps }, index) => {
      const who = options.verbose || named(index) ? namesText(apps, options) : `${apps.length}`;
      return `${clean(value ?? "not known")} ${style.dim(`(${who})`)}`;
    })
    .join(", ");
}

/** Names as far as they are few, else how many. */
function namesText(names: readonly string[], { verbose }: FleetTextOptions): string {
  const shown = verbose ? names : names.slice(0, NAMES);
  const more = names.length - shown.length;
  return `${shown.map(clean).join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
}
