/**
 * The JSON documents of the commands, as other programs read them. Their JSON Schemas in `schemas/` are made of these types. Fields may be added;
 * none is renamed or taken away while the number in `schema` stays the same. `null` stands where something is not known or not there.
 */
import type { AppKind, FrameworkFact } from "../../core/model/app.js";
import type { LevelName, SideName } from "../../core/model/facts.js";
import type { Severity } from "../../core/model/finding.js";
import type { FleetLevel, FleetPermit, FleetRule, FleetSdk, Unanswered, Violation } from "../../core/fleet/fleet.js";
import type { LineProblem } from "../../core/fleet/tally.js";
import type { Baseline, BaselineEntry } from "../../core/project/baseline.js";
import type { Rule } from "../../core/rules/rule.js";
import type { SettingsProblem } from "../../core/settings/load.js";
import type { Place } from "../../core/model/place.js";
import type { WireProblem, WireState } from "../../core/needs/wire.js";

/** An app: its name, its kind, and its folder below the root (`.` for the root itself). */
export interface AppHead {
  name: string;
  kind: AppKind;
  path: string;
}

/** A value; `null` where it is not known, with the reason, and with all values that it may have where it depends on the build. */
export interface ValueFields {
  value: string | null;
  why?: string;
  either?: string[];
}

type BySide<Answer> = Partial<Record<SideName, Answer>>;

/** A finding. `fingerprint` stays the same when lines move and words change. */
export interface FindingDocument {
  rule: string;
  severity: Severity;
  /** The app's name; empty for the whole folder. */
  app: string;
  side?: SideName;
  sdk?: string;
  message: string;
  fix: string;
  places: Place[];
  fingerprint: string;
  accepted?: { reason: string; until?: string };
  about?: unknown;
}

/** `check --json`, `report --json` */
export interface CheckDocument {
  schema: "enredo.check/1";
  root: string;
  apps: (AppHead & { sides: SideName[] })[];
  findings: FindingDocument[];
  accepted: FindingDocument[];
  blindSpots: { app: string; side: SideName; what: string; why: string; places: Place[] }[];
  summary: { errors: number; warnings: number; notes: number; files: number; sdks: number };
}

/** `levels --json` */
export interface LevelsDocument {
  schema: "enredo.levels/1";
  root: string;
  apps: (AppHead & { sides: BySide<LevelDocument[]> })[];
}

export interface LevelDocument {
  level: LevelName;
  declared: (ValueFields & { by: string; owner: string; variant?: string; places: Place[] })[];
  effective: string | null;
  why?: string;
  effectiveFrom?: unknown;
  demands: (ValueFields & { by: string; from: string; places: Place[] })[];
  headroom: unknown;
  tooLowIn?: unknown[];
}

/** A need of an SDK on a side, and whether it is met. */
export interface WireDocument {
  need: string;
  kind: string;
  step: number;
  state: WireState;
  problem: WireProblem | null;
  found: string | null;
  wanted: string;
  why: string | null;
  fix: string | null;
  derived: string | null;
  optional?: true;
  target?: string;
  places: Place[];
  /** Where it is asked for. */
  asked: Place;
  /** With `--at`: the installed version does not ask for it. */
  additional?: boolean;
}

/** `trace --json` */
export interface TraceDocument {
  schema: "enredo.trace/1";
  root: string;
  sdk: string;
  at?: string;
  apps: (AppHead & { sheet: string | null; sides: BySide<WireDocument[]>; versions: BySide<string | null> })[];
}

export interface CellDocument {
  version?: string;
  packages: string[];
  known: boolean;
  states: Record<WireState, number>;
}

/** `compare --json` */
export interface CompareDocument {
  schema: "enredo.compare/1";
  root: string;
  comparisons: {
    app: string;
    left: string;
    right: string;
    rows: {
      sdk: string;
      left: CellDocument | null;
      right: CellDocument | null;
      differences: string[];
      agreement: "alike" | "open" | "partly" | "version" | "untold";
      only: string | null;
    }[];
  }[];
}

export interface PermitDocument {
  kind: string;
  name: string;
  asked: boolean;
  values: string[];
  variants: string[];
  by: { name: string | null; place: Place }[];
  removed: Place | null;
  limit: { level: string; by: string | null; place: Place } | null;
  counterpart: { capability: string; names: string[]; there: string[] } | null;
  neededBy: string[];
  usedBy: (string | null)[];
  inCode: boolean | null;
}

/** `permits --json` */
export interface PermitsDocument {
  schema: "enredo.permits/1";
  root: string;
  apps: (AppHead & { packages: { known: number; unknown: number }; sides: BySide<{ permits: PermitDocument[]; open: string[] }> })[];
}

/** `needs --json` */
export interface NeedsDocument {
  schema: "enredo.needs/1";
  root: string;
  package: string;
  page: string | null;
  apps: (AppHead & { sdk: string; isIn: boolean; sides: BySide<WireDocument[]> })[];
  byHand: { file: string; section: string; line: number; optional: boolean; text: string }[];
  elsewhere: { to: string; line: number }[];
}

export interface StepDocument {
  number: number | null;
  kind: string;
  sdk: string | null;
  what: string;
  moment: string | null;
  within: string | null;
  why: string | null;
  guards: unknown[];
  thread: string | null;
  side: SideName;
  marks: unknown[];
  needs: unknown;
  place: Place;
}

/** `startup --json` */
export interface StartupDocument {
  schema: "enredo.startup/1";
  root: string;
  apps: (AppHead & { sides: BySide<{ steps: StepDocument[]; others: StepDocument[] }> })[];
}

export interface LogEntryDocument {
  line: number;
  time: string | null;
  level: string;
  tag: string | null;
  message: string;
}

/** `confirm --json` */
export interface ConfirmDocument {
  schema: "enredo.confirm/1";
  root: string;
  log: { file: string; form: string; entries: number };
  apps: (AppHead & {
    sides: BySide<
      {
        sdk: string;
        state: string;
        order: number | null;
        severity: Severity | null;
        entry: LogEntryDocument | null;
        wanted: string | null;
        complaints: LogEntryDocument[];
        outOfOrder: unknown;
      }[]
    >;
  })[];
}

/** `diff --json` */
export interface DiffDocument {
  schema: "enredo.diff/1";
  before: string;
  after: string;
  apps: (AppHead & {
    only: "before" | "after" | null;
    changes: {
      kind: string;
      how: string;
      side: SideName;
      what: string;
      before: string | null;
      after: string | null;
      sdk: string | null;
      place: Place | null;
    }[];
    findings: { new: FindingDocument[]; gone: FindingDocument[]; still: number };
  })[];
}

export interface SideDocument {
  id: string | null;
  ids: (ValueFields & { variant: string | null; places: Place[] })[];
  folder: string;
  levels: Partial<Record<LevelName, ValueFields & { places: Place[] }>>;
}

export interface SdkDocument {
  sdk: string;
  side: SideName;
  /** A package URL. */
  purl: string | null;
  name: string;
  ecosystem: string;
  declared: string | null;
  why?: string | undefined;
  locked: string | null;
  route: string;
  scope: string;
  in: string;
  direct: boolean;
  test: boolean;
  /** Whether the app has it depends on a condition that is not known. */
  conditional?: true;
  platform: boolean;
  places: Place[];
}

/** `survey --json` */
export interface SurveyDocument {
  schema: "enredo.survey/1";
  root: string;
  apps: (AppHead & {
    sides: {
      android?: SideDocument;
      ios?: SideDocument;
      shared?: { framework: Omit<FrameworkFact, "declared" | "installed"> & { declared: string | null; installed: string | null } };
    };
    sdks: SdkDocument[];
    repositories: (ValueFields & { kind: string; for: string; places: Place[] })[];
    buildPlugins: { id: string; version: string | null; applied: boolean; module: string; places: Place[] }[];
    blindSpots: { side: SideName; what: string; why: string; places: Place[] }[];
  })[];
  passedOver: { file: string; why: string }[];
  unreadable: { file: string; message: string; places: Place[] }[];
}

/** `fleet --json` */
export interface FleetDocument {
  schema: "enredo.fleet/1";
  /** The day of the question, `YYYY-MM-DD`. */
  day: string;
  /** How many projects have an answer that counts. */
  projects: number;
  apps: {
    name: string;
    project: string;
    kind: string;
    at: string;
    age: number;
    errors: number;
    warnings: number;
    notes: number;
    blindSpots: number;
  }[];
  sdks: FleetSdk[];
  levels: FleetLevel[];
  rules: FleetRule[];
  permits: (Omit<FleetPermit, "by"> & { by: (string | null)[] })[];
  unanswered: Unanswered[];
  superseded: { project: string; answers: number }[];
  problems: LineProblem[];
  violations: Violation[];
  linesRead: number;
}

/** `patch --json` */
export interface PatchDocument {
  schema: "enredo.patch/1";
  root: string;
  /** Whether the files were changed. */
  written: boolean;
  /** A unified diff, with paths from `root`. */
  diff: string;
  /** The findings that it fixes. */
  mended: BaselineEntry[];
  /** Findings that could be fixed by a change, and why they are not. */
  left: (BaselineEntry & { why: string })[];
  /** Lines of the diff that show a key or password and that it cannot do without. */
  shows: { file: string; line: number }[];
}

/** What `check --baseline FILE --write-baseline` writes. */
export type BaselineDocument = Baseline;

/** `sheet list --json` */
export interface SheetsDocument {
  schema: "enredo.sheets/1";
  root: string;
  sheets: { sdk: string; title?: string; needs: number; packages: Record<string, string[]>; apps: string[]; places: Place[] }[];
  problems: SettingsProblem[];
}

/** `sheet check --json` */
export interface SheetCheckDocument {
  schema: "enredo.sheet-check/1";
  sheets: { sdk: string; file: string }[];
  problems: SettingsProblem[];
}

/** What a rule says of itself; `mend` is its advice. */
export interface RuleFields extends Pick<Rule, "name" | "severity" | "title" | "looksAt" | "silentFor" | "why"> {
  mend: string;
}

/** `explain --json` */
export interface RulesDocument {
  schema: "enredo.rules/1";
  rules: RuleFields[];
}

/** `explain RULE --json` */
export interface RuleDocument extends RuleFields {
  schema: "enredo.rule/1";
  /** Files of a small project that the rule reports, and of one that it does not. */
  examples: { reported: Record<string, string>; silent: Record<string, string> };
}
