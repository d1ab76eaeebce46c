import type { SideName } from "./facts.js";
import type { QuickFix } from "./quick-fix.js";
import type { Place } from "./place.js";

export const SEVERITIES = ["error", "warning", "note"] as const;
export type Severity = (typeof SEVERITIES)[number];

/** What a rule reports, before severities and acceptances are applied. */
export interface RawFinding {
  side?: SideName;
  sdk?: string;
  message: string;
  fix: string;
  places: Place[];
  /** The package or thing that the message names, where it does not begin with it. */
  about?: string;
  /** What the finding is about, and what is needed: without words, found values and places, as the fingerprint is made of it. */
  subject: string;
  /** For this case only, where a rule reports cases of different weight. */
  severity?: Severity;
  /** Changes that mend it safely and exactly, where there are such. */
  quickFix?: QuickFix[];
}

export interface Finding {
  rule: string;
  severity: Severity;
  app: string;
  side?: SideName;
  sdk?: string;
  message: string;
  fix: string;
  places: Place[];
  about?: string;
  fingerprint: string;
  quickFix?: QuickFix[];
  /** Set on accepted findings, which are left out of the report's findings. */
  accepted?: { reason: string; until?: string };
}
