import type { App, Survey } from "../model/app.js";
import type { RawFinding } from "../model/finding.js";
import type { Severity } from "../model/finding.js";
import type { Settings } from "../settings/settings.js";
import type { Sheet } from "../model/sheet.js";
import type { Wire } from "../needs/wire.js";

/** A small project, as files: path → text. What has `!/` in its path lies in an archive. */
export type Example = Record<string, string>;

export interface RuleContext {
  app: App;
  /** The folder of the repository, where there is one: the root itself is the empty text. */
  repository: string | undefined;
  settings: Settings;
  sheets: readonly Sheet[];
  /** The needs of the app's SDKs that have a sheet, held against its facts. */
  wires: readonly Wire[];
  /** The day of the check, `YYYY-MM-DD`; absent where it does not matter. */
  today?: string | undefined;
}

/** One rule: what it says of itself, and one pure function. Its page and its tests are made from this. */
export interface Rule {
  /** `concern/what-is-wrong`. */
  name: string;
  severity: Severity;
  title: string;
  /** What it looks at. */
  looksAt: string;
  /** Apps and sides to which it cannot apply; absent where it holds for every kind of app. */
  silentFor?: string;
  /** Why it matters to the person who ships the app. */
  why: string;
  /** How to fix it. */
  advice: string;
  /** A project that it reports, and the same one mended. */
  examples: { reported: Example; silent: Example };
  check(context: RuleContext): RawFinding[];
}

/** A rule about the whole run and not about one app. */
export interface ProjectRule extends Omit<Rule, "check"> {
  /** Findings of the run; one that is of a single app names it. */
  checkProject(survey: Survey): (RawFinding & { app?: string })[];
}

export function defineRule<T extends Rule | ProjectRule>(rule: T): T {
  return rule;
}
