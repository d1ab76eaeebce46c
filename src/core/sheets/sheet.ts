import type { AppFacts } from "../model/app.js";
import { isWithin } from "../model/paths.js";
import type { Place } from "../model/place.js";
import type { Data } from "../syntax/data.js";
import type { Agreement, NeedKind, PackageKey } from "./kinds.js";

/** Tells whether the whole of a text has a pattern; linear in the length of the text. */
export type Pattern = (text: string) => boolean;

/** One entry of a sheet's `needs`, as it is written. */
export interface SheetNeed {
  kind: NeedKind;
  /** The value under the kind's key. */
  value: Data;
  on: "android" | "ios" | "both" | "shared";
  from: string | undefined;
  before: string | undefined;
  frameworks: string[];
  variant: string | undefined;
  with: string | undefined;
  why: string | undefined;
  at: Place;
}

/** A sheet that was read; what was wrong in it is left out. */
export interface Sheet {
  sdk: string;
  title: string;
  docs: string | undefined;
  file: string;
  /** The folder whose apps it holds for; "" for all. */
  scope: string;
  agree: Agreement | undefined;
  packages: Map<PackageKey, string[]>;
  needs: SheetNeed[];
  /** Patterns of the sheet by their text. */
  patterns: Map<string, Pattern>;
  /** Patterns that are looked for anywhere in a text (log lines). */
  searches: Map<string, Pattern>;
  at: Place;
}

/** The sheets that hold for an app: of two for one SDK the one that lies nearer to it. */
export function sheetsFor(app: Pick<AppFacts, "path">, sheets: readonly Sheet[]): Sheet[] {
  const found = new Map<string, Sheet>();
  for (const sheet of sheets) {
    if (sheet.scope !== "" && !isWithin(app.path, sheet.scope)) continue;
    const known = found.get(sheet.sdk);
    if (!known || sheet.scope.length > known.scope.length) found.set(sheet.sdk, sheet);
  }
  return [...found.values()];
}
