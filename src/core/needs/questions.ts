import { sideOfLevel, type App } from "../model/app.js";
import type { Demand, LevelName, SideName } from "../model/facts.js";
import type { SourceQuestion } from "../gather/platforms/source-text.js";
import { textOf } from "../model/value.js";
import { compareLevels } from "../versions/level.js";
import { at, itemsOf, placeOf, textAt } from "../syntax/data.js";
import { CODE_KINDS, LEVEL_KINDS, type NeedKind } from "../sheets/kinds.js";
import type { Sheet } from "../sheets/sheet.js";
import { mainText } from "./context.js";
import { codeNames } from "./code-names.js";
import { traceOf } from "./index.js";

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

const ASKS_LEVEL: ReadonlySet<string> = new Set(LEVEL_KINDS);

/** Adds the levels that sheets ask for, where their conditions hold. A sheet wins over what the package's own build says. */
export function addDemandsOfSheets(app: App, sheets: readonly Sheet[]): void {
  const demands: Demand[] = [];
  for (const sheet of sheets) {
    if (!sheet.needs.some(({ kind }) => ASKS_LEVEL.has(kind))) continue;
    for (const { wires, version } of traceOf(app, [sheet], sheet.sdk).sides) {
      for (const { need, state } of wires) {
        const written = sheet.needs.find(({ at: place }) => place === need.at);
        if (!ASKS_LEVEL.has(need.kind) || state === "unneeded" || need.derived !== undefined || need.target !== undefined || !written)
          continue;
        // Whether it holds depends on a version that nobody knows.
        if (version === undefined && (written.from !== undefined || written.before !== undefined)) continue;
        const level = need.kind as LevelName;
        if (sideOfLevel(level) !== need.side) continue;
        demands.push({
          level,
          value: { kind: "known", text: textAt(written.value) ?? "", place: placeOf(written.value) },
          by: sheet.sdk,
          sdk: sheet.sdk,
          from: "sheet",
        });
      }
    }
  }
  app.demands = app.demands.filter((own) => {
    const stated = demands.filter(({ sdk, level }) => sdk === own.sdk && level === own.level);
    const [first] = stated;
    if (!first || !own.sdk) return true;
    const text = textOf(own.value);
    if (text !== undefined && !stated.some(({ value }) => compareLevels(textOf(value) ?? "0", text) >= 0))
      app.sheetDifferences.push({ sdk: own.sdk, level: own.level, sheet: first.value, own: own.value, by: own.by });
    return false;
  });
  app.demands.push(...demands);
}
