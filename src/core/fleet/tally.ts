import type { Ecosystem } from "../model/facts.js";
import { SEVERITIES, type Severity } from "../model/finding.js";
import { LINE_SCHEMA } from "./lines.js";

/** What is kept of one answer: as much as the tables of a fleet need, and no text of a finding. */
export interface ProjectTally {
  project: string;
  /** When the answer was made, as its first line says. */
  at: string;
  tool: string;
  /** Where it was read: the name of the file. */
  from: string;
  apps: Map<string, AppTally>;
}

export interface SdkTally {
  side: string;
  sdk: string;
  ecosystem: Ecosystem | undefined;
  package: string;
  version: string | null;
  declared: string | null;
}

export interface AppTally {
  app: string;
  kind: string;
  counts: Record<Severity, number>;
  sdks: Map<string, SdkTally>;
  /** Side and level with a space between → value. */
  levels: Map<string, string | null>;
  /** Rule → findings by severity. */
  rules: Map<string, Record<Severity, number>>;
  /** Side, kind and name with NUL between → who brings it; empty text for the app itself. */
  permits: Map<string, Set<string>>;
  blindSpots: number;
}

/** Something that is wrong in what was given, and where. */
export interface LineProblem {
  /** `file`, or `file:line`. */
  at: string;
  message: string;
}

/** How many facts of one project are kept: an answer with more is no answer of the tool. */
const FACTS_KEPT = 100_000;

/** How many problems of one source are told one by one. */
const TOLD = 3;

type Fields = Record<string, unknown>;

/**
 * Merges answers line by line. Of each project the newest whole answer counts; what is kept grows with projects and their facts, not with lines.
 */
export class FleetTally {
  readonly projects = new Map<string, ProjectTally>();
  readonly problems: LineProblem[] = [];
  /** Projects of which an older answer gave way to a newer one, and how many. */
  readonly superseded = new Map<string, number>();
  /** Projects whose last answer has no end. */
  readonly brokenOff = new Map<string, LineProblem>();
  linesRead = 0;
  private readonly texts = new Map<string, string>();

  /** Reads one source: lines in order, each without its line end. Never throws at what a line holds. */
  // eslint-disable-next-line complexity -- one pass over lines, each of which must fit what came before it
  async read(from: string, lines: AsyncIterable<string>): Promise<void> {
    const open = new Map<string, { tally: ProjectTally; facts: number; lines: number; at: number }>();
    let number = 0;
    let wrong = 0;
    let good = 0;
    const tell = (message: string): void => {
      wrong++;
      if (wrong <= TOLD) this.problems.push({ at: `${from}:${number}`, message });
    };
    for await (const text of lines) {
      number++;
      if (text.trim() === "") continue;
      const fields = parsed(number === 1 ? text.replace(/^\ufeff/, "") : text);
      if (!fields) {
        tell("no JSON object in this line; the lines of `enredo check --format ndjson` are expected");
        continue;
      }
      if (fields.schema !== LINE_SCHEMA) {
        tell(
          typeof fields.schema === "string" && fields.schema.startsWith("enredo.line/")
            ? `the line is ${fields.schema} and this edition reads ${LINE_SCHEMA}; take a newer edition`
            : `no ${LINE_SCHEMA} line; the lines of \`enredo check --format ndjson\` are expected`,
        );
        continue;
      }
      const project = this.text(fields.project);
      if (project === undefined) {
        tell("the line names no project");
        continue;
      }
      if (fields.record === "run") {
        const at = this.text(fields.at);
        if (at === undefined || Number.isNaN(Date.parse(at))) {
          tell("the run has no valid time (ISO 8601)");
          continue;
        }
        const earlier = open.get(project);
        if (earlier) this.brokenOff.set(project, { at: `${from}:${earlier.at}`, message: "the answer has no end line" });
        open.set(project, {
          tally: { project, at: new Date(at).toISOString(), tool: this.text(fields.tool) ?? "", from, apps: new Map() },
          facts: 0,
          lines: 1,
          at: number,
        });
        good++;
        continue;
      }
      const run = open.get(project);
      if (!run) {
        tell(`a line of ${project} before its run line: the beginning is missing`);
        continue;
      }
      good++;
      run.lines++;
      if (fields.record === "end") {
        open.delete(project);
        if (typeof fields.lines === "number" && fields.lines !== run.lines)
          this.brokenOff.set(project, {
            at: `${from}:${number}`,
            message: `the answer has ${run.lines} lines where its end counts ${fields.lines}`,
          });
        else this.take(run.tally);
      } else if (run.facts++ < FACTS_KEPT) this.add(run.tally, fields);
      else if (run.facts === FACTS_KEPT + 1) tell(`${project} has more than ${FACTS_KEPT} lines; the rest is left out`);
    }
    this.linesRead += number;
    for (const [project, { at }] of open) this.brokenOff.set(project, { at: `${from}:${at}`, message: "the answer has no end line" });
    if (wrong > TOLD) this.problems.push({ at: from, message: `and ${plural(wrong - TOLD)}` });
    if (good === 0 && wrong === 0) this.problems.push({ at: from, message: "the file is empty" });
  }

  /** The newest answer of a project counts; of two of the same time the one read last. */
  private take(tally: ProjectTally): void {
    const known = this.projects.get(tally.project);
    if (known) this.superseded.set(tally.project, (this.superseded.get(tally.project) ?? 0) + 1);
    if (!known || known.at <= tally.at) this.projects.set(tally.project, tally);
  }

  // eslint-disable-next-line complexity -- one case for each record of a line
  private add(tally: ProjectTally, fields: Fields): void {
    const name = this.text(fields.app);
    if (name === undefined) return;
    const app = this.appOf(tally, name);
    const side = this.text(fields.side) ?? "";
    switch (fields.record) {
      case "app":
        app.kind = this.text(fields.kind) ?? "";
        break;
      case "level":
        app.levels.set(this.interned(`${side} ${this.text(fields.level) ?? ""}`), this.text(fields.value) ?? null);
        break;
      case "sdk":
        if (fields.thirdParty === true) this.addSdk(app, side, fields);
        break;
      case "permit": {
        const key = this.interned([side, this.text(fields.kind) ?? "", this.text(fields.name) ?? ""].join("\0"));
        const by = app.permits.get(key) ?? new Set();
        app.permits.set(key, by.add(this.text(fields.by) ?? ""));
        break;
      }
      case "finding": {
        const severity = SEVERITIES.find((one) => one === fields.severity);
        const rule = this.text(fields.rule);
        if (severity === undefined || rule === undefined || typeof fields.accepted === "string") break;
        app.counts[severity]++;
        const counts = app.rules.get(rule) ?? { error: 0, warning: 0, note: 0 };
        counts[severity]++;
        app.rules.set(rule, counts);
        break;
      }
      case "blindSpot":
        app.blindSpots++;
        break;
      default:
      // A record of a later edition: fields and records may be added.
    }
  }

  /** An SDK of several packages stands once a side, by its package that says a version. */
  private addSdk(app: AppTally, side: string, fields: Fields): void {
    const sdk = this.text(fields.sdk);
    if (sdk === undefined) return;
    const key = this.interned(`${side}\0${sdk}`);
    const known = app.sdks.get(key);
    const version = this.text(fields.version) ?? null;
    if (known && (known.version !== null || version === null)) return;
    app.sdks.set(key, {
      side,
      sdk,
      ecosystem: this.text(fields.ecosystem) as Ecosystem | undefined,
      package: this.text(fields.package) ?? "",
      version,
      declared: this.text(fields.declared) ?? null,
    });
  }

  private appOf(tally: ProjectTally, name: string): AppTally {
    let app = tally.apps.get(name);
    if (!app)
      tally.apps.set(
        name,
        (app = {
          app: name,
          kind: "",
          counts: { error: 0, warning: 0, note: 0 },
          sdks: new Map(),
          levels: new Map(),
          rules: new Map(),
          permits: new Map(),
          blindSpots: 0,
        }),
      );
    return app;
  }

  private text(value: unknown): string | undefined {
    return typeof value === "string" ? this.interned(value) : undefined;
  }

  /** The same text is kept once, however many answers hold it. */
  private interned(text: string): string {
    const known = this.texts.get(text);
    if (known !== undefined) return known;
    this.texts.set(text, text);
    return text;
  }
}

function parsed(text: string): Fields | undefined {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === "object" && value !== null && !Array.isArray(value) ? (value as Fields) : undefined;
  } catch {
    return undefined;
  }
}

function plural(count: number): string {
  return count === 1 ? "1 further line that is not valid" : `${count} further lines that are not valid`;
}
