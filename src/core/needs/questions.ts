import type { SideName } from "../model/facts.js";
import type { SourceQuestion } from "../gather/platforms/source-text.js";
import { at, itemsOf, textAt } from "../syntax/data.js";
import { CODE_KINDS, type NeedKind } from "../sheets/kinds.js";
import type { Sheet } from "../sheets/sheet.js";
import { mainText } from "./context.js";
import { codeNames } from "./code-names.js";

/** Names and keys that sheets ask for in source code. */
export function questionOf(sheets: readonly Sheet[]): SourceQuestion {
  const names = new Map<SideName, Set<string>>([
    ["android", new Set()],
    ["ios", new Set()],
    ["shared", new Set()],
  ]);
  const keys = new Set<string>();
  for (const { kind, value } of sheets.flatMap((sheet) => sheet.needs)) {
    for (const [side, set] of names) {
      if (CODE_KINDS.has(kind)) for (const { name } of codeNames(value, side)) set.add(name);
      if (kind === "withdrawn") for (const call of itemsOf(at(value, "calls"))) set.add(textAt(call) ?? "");
      set.delete("");
    }
    if (kind === "key") for (const place of itemsOf(at(value, "in"))) keys.add(textAt(place, "code") ?? "");
  }
  keys.delete("");
  return { names, keys };
}

/** Names of files that sheets ask for. */
export function fileNamesOf(sheets: readonly Sheet[]): { service: string[]; licence: string[] } {
  const needs = sheets.flatMap((sheet) => sheet.needs);
  const of = (kind: NeedKind): string[] => needs.filter((need) => need.kind === kind).map(({ value }) => mainText(value, "name"));
  return { service: of("serviceFile"), licence: of("licenceFile") };
}
