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

/** Something that is wrong, or that a reader should know. */
export interface Finding {
  /** The rule's name: `level/below-need`. */
  rule: string;
  severity: Severity;
  /** The app's name; empty for the whole folder. */
  app: string;
  /** Absent where it is about both sides. */
  side?: SideName;
  /** The short id of the SDK that it is about. */
  sdk?: string;
  /** What is wrong, with the values that were found. Keys are masked. */
  message: string;
  /** What to do, as a sentence. */
  fix: string;
  /** The place to look at first comes first. */
  places: Place[];
  /** The package or thing that the message names, where it does not begin with it. */
  about?: string;
  /** Stays the same when lines move and words change. */
  fingerprint: string;
  /** Changes that mend it safely and exactly, where there are such. */
  quickFix?: QuickFix[];
  /** Set on accepted findings, which are left out of the report's findings. */
  accepted?: { reason: string; until?: string };
}
