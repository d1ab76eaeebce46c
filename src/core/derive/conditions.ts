import type { AppFacts } from "../model/app.js";
import type { SheetNeed } from "../model/sheet.js";
import { compareIn } from "../versions/ecosystem.js";
import type { Presence } from "./presence.js";

/** A need that does not hold here, or of which nobody can tell. */
export interface Exemption {
  state: "unneeded" | "unknown";
  why: string;
}

/** Why a need does not hold here, from its conditions. */
export function exemption(app: AppFacts, need: SheetNeed, { version, ecosystem }: Presence): Exemption | undefined {
  if (need.frameworks.length > 0 && !need.frameworks.includes(app.kind))
    return { state: "unneeded", why: `only in ${need.frameworks.join(", ")} apps` };
  if (need.with !== undefined && !app.dependencies.some(({ name, sdk }) => name === need.with || sdk === need.with))
    return { state: "unneeded", why: `only together with ${need.with}` };
  if (need.variant !== undefined && !hasVariant(app, need.variant))
    return { state: "unneeded", why: `the app has no variant ${need.variant}` };
  if (need.from === undefined && need.before === undefined) return undefined;
  if (version === undefined) return { state: "unknown", why: "it depends on the SDK's version, which is not in the files" };
  if (need.from !== undefined && compareIn(ecosystem, version, need.from) < 0)
    return { state: "unneeded", why: `only from version ${need.from} on; ${version} is installed` };
  if (need.before !== undefined && compareIn(ecosystem, version, need.before) >= 0)
    return { state: "unneeded", why: `only before version ${need.before}; ${version} is installed` };
  return undefined;
}

function hasVariant(app: AppFacts, name: string): boolean {
  const android = app.android?.module.settings.some(({ block }) => block === `flavor:${name}` || block === `buildType:${name}`) ?? false;
  return (
    android ||
    /^(debug|release)$/i.test(name) ||
    (app.ios?.target.configurations.some((configuration) => configuration.name === name) ?? false)
  );
}
