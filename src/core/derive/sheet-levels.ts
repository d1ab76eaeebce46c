import { sidesOf, sideOfLevel, type App } from "../model/app.js";
import type { RequiredLevel, LevelName } from "../model/facts.js";
import { textOf } from "../model/value.js";
import { LEVEL_KINDS, textIn, type Sheet } from "../model/sheet.js";
import { compareLevels } from "../versions/level.js";
import { exemption } from "./conditions.js";
import { presenceOf } from "./presence.js";

const ASKS_LEVEL: ReadonlySet<string> = new Set(LEVEL_KINDS);

/** The levels that sheets require, where their conditions hold, beside what packages ask for. A sheet wins over what the package's own build says. */
export function withSheetLevels(app: App, sheets: readonly Sheet[]): App {
  const requiredLevels = sheets.flatMap((sheet) => levelsOf(app, sheet));
  if (requiredLevels.length === 0) return app;
  const differences: App["sheetDifferences"][number][] = [];
  const kept = app.requiredLevels.filter((own) => {
    const stated = requiredLevels.filter(({ sdk, level }) => sdk === own.sdk && level === own.level);
    const [first] = stated;
    if (!first || !own.sdk) return true;
    const text = textOf(own.value);
    if (text !== undefined && !stated.some(({ value }) => compareLevels(textOf(value) ?? "0", text) >= 0))
      differences.push({ sdk: own.sdk, level: own.level, sheet: first.value, own: own.value, by: own.by });
    return false;
  });
  return { ...app, requiredLevels: [...kept, ...requiredLevels], sheetDifferences: differences };
}

function levelsOf(app: App, sheet: Sheet): RequiredLevel[] {
  const found: RequiredLevel[] = [];
  for (const side of sidesOf(app)) {
    const presence = presenceOf(app, sheet, side);
    if (!presence) continue;
    for (const need of sheet.needs) {
      const level = need.kind as LevelName;
      if (!ASKS_LEVEL.has(need.kind) || sideOfLevel(level) !== side || (need.on !== side && need.on !== "both")) continue;
      // Where it depends on a version that nobody knows, nothing is asked.
      if (exemption(app, need, presence)) continue;
      found.push({
        level,
        value: { kind: "known", text: textIn(need.value) ?? "", place: need.valueAt },
        by: sheet.sdk,
        sdk: sheet.sdk,
        from: "sheet",
      });
    }
  }
  return found;
}
