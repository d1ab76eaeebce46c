import { segmentsOf, type WantedName } from "../gather/code/wanted.js";
import type { SourceQuestion } from "../gather/platforms/source-text.js";
import type { App } from "../model/app.js";
import type { CodeNeedKind } from "../model/code.js";
import { SIDES, type SideName } from "../model/facts.js";
import { itemsIn, mainText, sheetsFor, textIn, type Sheet } from "../model/sheet.js";
import { isNowhere, shapeOf } from "./keys.js";
import { NEEDS } from "./kinds/index.js";

/** Names and keys that sheets require in source code. */
export function questionOf(sheets: readonly Sheet[]): SourceQuestion {
  const names = new Map<SideName, Set<string>>(SIDES.map((side) => [side, new Set()]));
  const keys = new Set<string>();
  for (const need of sheets.flatMap((sheet) => sheet.needs)) {
    for (const [side, set] of names) for (const { name } of NEEDS[need.kind].names?.(need, side) ?? []) if (name !== "") set.add(name);
    if (need.uses !== undefined) for (const set of names.values()) set.add(need.uses);
    if (need.kind !== "key") continue;
    const places = itemsIn(need.value, "in");
    for (const place of places) keys.add(textIn(place, "code") ?? "");
  }
  keys.delete("");
  const shapes = sheets.flatMap((sheet) =>
    sheet.needs.flatMap((need) => (isNowhere(need) ? SIDES.flatMap((side) => shapeOf(sheet, need, side) ?? []) : [])),
  );
  return { names, keys, shapes };
}

/** The names of calls that are looked for in the code of an app: those of the sheets whose SDKs are in. */
export function wantedNames(app: App, sheets: readonly Sheet[]): WantedName[] {
  return sheetsFor(app, sheets)
    .filter(({ sdk }) => app.sheets.includes(sdk))
    .flatMap(({ sdk, needs }) => [
      ...needs.flatMap(({ uses }) =>
        uses === undefined
          ? []
          : SIDES.map((side): WantedName => ({ sdk, kind: "use", side, name: uses, segments: segmentsOf(uses), language: undefined })),
      ),
      ...needs.flatMap((need) =>
        SIDES.filter((side) => need.on === side || need.on === "both").flatMap((side) =>
          (NEEDS[need.kind].names?.(need, side) ?? []).flatMap(({ name, language }): WantedName[] => {
            const segments = segmentsOf(name);
            return segments.length === 0 ? [] : [{ sdk, kind: need.kind as CodeNeedKind, side, name, segments, language }];
          }),
        ),
      ),
    ]);
}

/** Entries of settings assets that sheets require: `NAME.PATH`. */
export function assetNamesOf(sheets: readonly Sheet[]): string[] {
  return sheets.flatMap(({ needs }) =>
    needs.flatMap(({ kind, value }) => (kind === "key" ? itemsIn(value, "in").flatMap((place) => textIn(place, "asset") ?? []) : [])),
  );
}

/** Names of files that sheets require. */
export function fileNamesOf(sheets: readonly Sheet[]): { service: string[]; licence: string[] } {
  const needs = sheets.flatMap((sheet) => sheet.needs);
  const of = (files: "service" | "licence"): string[] =>
    needs.flatMap(({ kind, value }) => (NEEDS[kind].files === files ? [mainText(value, NEEDS[kind].main ?? "name")] : []));
  return { service: of("service"), licence: of("licence") };
}
