import type { AndroidSide } from "../model/app.js";
import { sideOf, sideOfLevel, type App } from "../model/app.js";
import type { LevelFact, LevelName } from "../model/facts.js";

/** The statements of a level that the app really gets. */
export function statementsOf(app: App, level: LevelName): LevelFact[] {
  if (level === "iosTarget") {
    const all = app.ios?.levels.filter((fact) => fact.level === level && fact.owner === "app" && fact.of === app.ios?.target.name) ?? [];
    return all.length > 0 ? all : (app.ios?.levels.filter((fact) => fact.level === level && fact.owner === "project") ?? []);
  }
  const side = sideOf(app, sideOfLevel(level));
  // Tools have one version for the whole build.
  if (side && level !== "minSdk" && level !== "targetSdk" && level !== "compileSdk")
    return side.levels.filter((fact) => fact.level === level && (fact.owner === "app" || fact.owner === "project"));
  if (!app.android || side !== app.android) return [];
  return appLevels(app.android, level);
}

/** The app's statements of a level that some variant really gets. */
function appLevels(side: AndroidSide, level: LevelName): LevelFact[] {
  const facts = side.levels.filter((fact) => fact.level === level && fact.owner === "app");
  const flavors = new Set(side.module.settings.flatMap(({ block }) => /^flavor:([^.]+)/.exec(block)?.[1] ?? []));
  const overriding = new Set(facts.flatMap((fact) => (fact.variant !== undefined && flavors.has(fact.variant) ? [fact.variant] : [])));
  const defaultUnused = flavors.size > 0 && overriding.size === flavors.size;
  return facts.filter((fact) => fact.variant !== undefined || !defaultUnused);
}
