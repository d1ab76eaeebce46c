import type { Severity } from "../model/finding.js";
import type { SideName } from "../model/facts.js";
import type { QuickFix } from "../model/quick-fix.js";
import type { Place } from "../model/place.js";
import type { Reason } from "../model/reason.js";
import type { NeedKind } from "../model/sheet.js";

/** `connected`; `loose`: there, but wrong; `missing`; `unneeded`: does not apply here; `unknown`: cannot be told from the files. */
export const WIRE_STATES = ["connected", "loose", "missing", "unneeded", "unknown"] as const;
export type WireState = (typeof WIRE_STATES)[number];

/** What is wrong with a loose or missing wire, where one kind of need can be wrong in several ways. */
export type WireProblem =
  | "absent"
  | "empty"
  | "placeholder"
  | "shape"
  | "apart"
  | "swapped"
  | "environment"
  | "misplaced"
  | "mismatch"
  | "scheme"
  | "variant"
  | "unused"
  | "never"
  | "twice"
  | "late"
  | "order"
  | "call"
  | "unguarded"
  | "debug"
  | "exposed"
  | "import";

/** One thing that is wrong with a wire in code; a wire can have several. */
export interface WireFault {
  problem: WireProblem;
  message: string;
  fix: string;
  found: string | undefined;
  why: Reason | undefined;
  places: Place[];
  /** The other SDK that it is about, where there is one. */
  other?: string;
  /** Where it weighs less than the rule that tells of it. */
  severity?: Severity;
}

/** Something that an SDK asks of one side of an app. */
export interface Need {
  sdk: string;
  side: SideName;
  kind: NeedKind | "dependency";
  /** Position in the vendor's order, from 1. */
  step: number;
  /** What the need is about, in a few words: `permission android.permission.CAMERA`. */
  what: string;
  /** Why the SDK needs it, as the sheet says. */
  why: string | undefined;
  /** What it was derived from ("podspec", "android folder"); absent for a sheet's own. */
  derived: string | undefined;
  at: Place;
  /** Only some apps need it. */
  optional?: boolean;
  /** The application target that has to meet it, where that is another than the shipped one. */
  target?: string;
}

/** One need checked against the facts of one side. Keys are masked in all texts. */
export interface Wire {
  need: Need;
  state: WireState;
  problem: WireProblem | undefined;
  found: string | undefined;
  wanted: string;
  /** Why the state is what it is, where that is not plain. */
  why: Reason | undefined;
  /** What to do, for loose and missing wires. */
  fix: string | undefined;
  places: Place[];
  /** Changes that mend it exactly. */
  quickFix?: QuickFix[] | undefined;
  /** What is wrong with a wire in code, the worst first. */
  faults?: WireFault[] | undefined;
}
