import { furtherApps } from "./further-targets.js";
import type { App } from "../model/app.js";
import { sideOf, sideOfLevel } from "../model/app.js";
import { LEVELS, type RequiredLevel, type LevelFact, type LevelName } from "../model/facts.js";
import { textOf, type Value } from "../model/value.js";
import { compareLevels, isLevel } from "../versions/level.js";

/** One level of an app: who states it, what holds in the end, who asks for how much. */
export interface LevelRow {
  level: LevelName;
  side: "android" | "ios";
  declared: LevelFact[];
  effective: Value | undefined;
  /** Where a level that nothing states comes from. */
  effectiveFrom: string | undefined;
  /** Highest first. */
  requiredLevels: RequiredLevel[];
  /** How far the level is above the highest demand, in whole levels (majors for versions with dots); negative when it is below. */
  headroom: number | undefined;
  /** Further application targets whose own level is below what their packages ask for. */
  tooLowIn: string[];
}

/** The ledger of levels of an app: Android's first, then those of iOS, each in the order of `LEVELS`. */
export function levelTable(app: App): LevelRow[] {
  const levels = [...LEVELS].sort((a, b) => (sideOfLevel(a) < sideOfLevel(b) ? -1 : sideOfLevel(a) > sideOfLevel(b) ? 1 : 0));
  return levels.flatMap((level): LevelRow[] => {
    const side = sideOfLevel(level);
    const owner = sideOf(app, side);
    if (!owner) return [];
    const declared = owner.levels.filter((fact) => fact.level === level);
    const requiredLevels = app.requiredLevels.filter((required) => required.level === level).sort(highestFirst);
    const effective = owner.effective[level];
    if (declared.length === 0 && requiredLevels.length === 0 && !effective) return [];
    return [
      {
        level,
        side,
        declared,
        effective,
        effectiveFrom: owner.defaults[level]?.from,
        requiredLevels: requiredLevels,
        headroom: headroomOf(effective, requiredLevels),
        tooLowIn: level === "iosTarget" ? targetsTooLow(app) : [],
      },
    ];
  });
}

function targetsTooLow(app: App): string[] {
  return furtherApps(app).flatMap(({ target, app: { ios, requiredLevels: requiredLevels } }) => {
    const asked = [...requiredLevels].sort(highestFirst);
    const own = ios?.levels.filter(({ level, owner }) => level === "iosTarget" && owner === "app") ?? [];
    return own.some(({ value }) => (headroomOf(value, asked) ?? 0) < 0) ? target : [];
  });
}

function highestFirst(a: RequiredLevel, b: RequiredLevel): number {
  return compareLevels(textOf(b.value) ?? "0", textOf(a.value) ?? "0");
}

function headroomOf(effective: Value | undefined, requiredLevels: RequiredLevel[]): number | undefined {
  const has = textOf(effective);
  const asks = requiredLevels.map(({ value }) => textOf(value)).find((text) => text !== undefined && isLevel(text));
  if (has === undefined || asks === undefined || !isLevel(has)) return undefined;
  const whole = Math.trunc(Number.parseFloat(has)) - Math.trunc(Number.parseFloat(asks));
  if (whole !== 0) return whole;
  return Math.sign(compareLevels(has, asks)) < 0 ? -1 : 0;
}
