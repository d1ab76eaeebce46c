import type { Severity } from "../model/finding.js";
import type { LineProblem } from "./tally.js";

/** An app of the fleet, with what its answer counts. */
export interface FleetApp {
  /** The app's name; with its project before it where another app has the same name. */
  name: string;
  project: string;
  kind: string;
  /** When its answer was made. */
  at: string;
  /** Whole days before the day of the question. */
  age: number;
  counts: Record<Severity, number>;
  blindSpots: number;
}

/** An SDK on a side, over all apps. */
export interface FleetSdk {
  sdk: string;
  side: string;
  packages: string[];
  /** The newest version first; `null` where the version is not known. */
  versions: { version: string | null; apps: string[] }[];
  /** Apps with an older version than the newest of the fleet. */
  behind: number;
}

export interface FleetLevel {
  side: string;
  level: string;
  /** The lowest first; `null` where it is not known. */
  values: { value: string | null; apps: string[] }[];
}

export interface FleetRule {
  rule: string;
  severity: Severity;
  findings: number;
  apps: string[];
}

export interface FleetPermit {
  side: string;
  kind: string;
  name: string;
  apps: string[];
  /** Packages that bring it; the apps themselves as the empty text. */
  by: string[];
}

/** A project that has no answer that counts, or an old one. */
export interface Unanswered {
  project: string;
  why: string;
}

/** Everything that the answers of a fleet say together. */
export interface Fleet {
  day: string;
  projects: number;
  apps: FleetApp[];
  sdks: FleetSdk[];
  levels: FleetLevel[];
  rules: FleetRule[];
  permits: FleetPermit[];
  unanswered: Unanswered[];
  problems: LineProblem[];
  superseded: { project: string; answers: number }[];
  violations: Violation[];
  linesRead: number;
}

/** One way in which an app does not keep to the policy. */
export interface Violation {
  /** The app, or the project where it is about all of it. */
  app: string;
  what: "sdk" | "level" | "rule" | "answer";
  /** The SDK with its side, the level, the rule. */
  subject: string;
  wanted: string;
  /** `null` where it is not known. */
  found: string | null;
}

/** As people read names: in any case; the same everywhere. */
export function order(a: string, b: string): number {
  const [left, right] = [a.toLowerCase(), b.toLowerCase()];
  return left < right ? -1 : left > right ? 1 : a < b ? -1 : a > b ? 1 : 0;
}

/** What an SDK is called: its id; by its package's own name where one package alone is it, and the id is a part of that name. */
export function titleOfSdk({ sdk, packages }: Pick<FleetSdk, "sdk" | "packages">): string {
  const [own = ""] = packages;
  return packages.length === 1 && own.endsWith(sdk) ? own : sdk;
}
