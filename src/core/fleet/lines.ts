/**
 * The lines of `check --format ndjson`: one JSON object a line, flat, so that any database reads them as rows. Their JSON Schema in `schemas/`
 * is made of these types. Fields may be added; none is renamed or taken away while the number in `schema` stays the same. `null` stands where
 * something is not known or not there. The first line of an answer is a `run`, the last an `end`: an answer without its end was broken off.
 */
import type { AppKind } from "../model/app.js";
import type { Ecosystem, LevelName, SideName } from "../model/facts.js";
import type { Severity } from "../model/finding.js";

/** The value of `schema` in every line. */
export const LINE_SCHEMA = "enredo.line/1";

/** What every line says. */
interface OfProject {
  schema: typeof LINE_SCHEMA;
  /** The project that the line is about: its folder's name, or what `--project` says. */
  project: string;
}

interface OfApp extends OfProject {
  app: string;
}

interface OfSide extends OfApp {
  side: SideName;
}

interface Placed {
  /** Relative to the root, with `/`. */
  file: string | null;
  /** From 1. */
  line: number | null;
  column: number | null;
}

/** The first line: when the answer was made, and by which edition. */
export interface RunLine extends OfProject {
  record: "run";
  /** In UTC, as ISO 8601 writes it. */
  at: string;
  tool: string;
}

export interface AppLine extends OfApp {
  record: "app";
  kind: AppKind;
  /** Its folder below the root; `.` for the root itself. */
  path: string;
}

export interface SideLine extends OfSide {
  record: "side";
  /** The application id or bundle id. */
  id: string | null;
}

export interface LevelLine extends OfSide {
  record: "level";
  level: LevelName;
  value: string | null;
}

/** A package that the app takes in on a side. */
export interface SdkLine extends OfSide, Placed {
  record: "sdk";
  sdk: string;
  package: string;
  ecosystem: Ecosystem;
  /** A package URL. */
  purl: string | null;
  declared: string | null;
  locked: string | null;
  /** The locked version, else the declared one where it is exact. */
  version: string | null;
  route: string;
  direct: boolean;
  /** For tests only. */
  test: boolean;
  /** Neither the platform's own, nor for tests, nor code of the shared side alone. */
  thirdParty: boolean;
}

/** A permission, purpose text, entitlement or the like, and one that brings it. */
export interface PermitLine extends OfSide, Placed {
  record: "permit";
  kind: string;
  name: string;
  /** The package that brings it; `null` for the app itself. */
  by: string | null;
}

export interface FindingLine extends OfProject, Placed {
  record: "finding";
  /** Empty for the whole folder. */
  app: string;
  /** `null` for both sides. */
  side: SideName | null;
  sdk: string | null;
  rule: string;
  severity: Severity;
  message: string;
  fix: string;
  fingerprint: string;
  /** Why the settings accept it; `null` for an open finding. */
  accepted: string | null;
}

export interface BlindSpotLine extends OfSide, Placed {
  record: "blindSpot";
  what: string;
  why: string;
}

/** The last line. */
export interface EndLine extends OfProject {
  record: "end";
  /** How many lines the answer has, this one and the first included. */
  lines: number;
  errors: number;
  warnings: number;
  notes: number;
  files: number;
}

export type Line = RunLine | AppLine | SideLine | LevelLine | SdkLine | PermitLine | FindingLine | BlindSpotLine | EndLine;
