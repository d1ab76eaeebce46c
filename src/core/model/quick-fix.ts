import type { Place } from "./place.js";

/** A change to one file that mends a finding exactly; what it needs is in it, and nothing else of the file is touched. */
export type QuickFix =
  /** Another text in place of the one that is written there. */
  | { do: "replace"; at: Place; from: string; to: string }
  /** A permission in the manifest. */
  | { do: "permission"; file: string; name: string }
  /** An entry of the property list: a text, or a further text in a list. */
  | { do: "plist"; file: string; key: string; value: string; list: boolean }
  /** A package repository behind one that is named there. */
  | { do: "repository"; after: Place; url: string }
  /** A rules file behind one that the release build names. */
  | { do: "rulesFile"; after: Place; name: string };
