import type { AppFacts } from "../model/app.js";
import type { SheetNeed } from "../model/sheet.js";
import { compareIn } from "../versions/ecosystem.js";
import type { Presence } from "./presence.js";
import { reason, type Reason } from "../model/reason.js";

/** A need that does not hold here, or of which nobody can tell. */
export interface Exemption {
  state: "unneeded" | "unknown";
  why: Reason;
}

/** Why a need does not hold here, from its conditions. */
export function exemption(app: AppFacts, need: SheetNeed, { version, ecosystem }: Presence): Exemption | undefined {
  if (need.frameworks.length > 0 && !need.frameworks.includes(app.kind))
    return { state: "unneeded", why: reason("only-in-frameworks", { frameworks: need.frameworks.join(", ") }) };
  if (need.with !== undefined && !app.dependencies.some(({ name, sdk }) => name === need.with || sdk === need.with))
    return { state: "unneeded", why: reason("only-with", { package: need.with }) };
  if (need.variant !== undefined && !hasVariant(app, need.variant))
    return { state: "unneeded", why: reason("no-such-variant", { variant: need.variant }) };
  if (need.from === undefined && need.before === undefined) return undefined;
  if (version === undefined) return { state: "unknown", why: reason("depends-on-sdk-version") };
  if (need.from !== undefined && compareIn(ecosystem, version, need.from) < 0)
    return { state: "unneeded", why: reason("only-from-version", { from: need.from, installed: version }) };
  if (need.before !== undefined && compareIn(ecosystem, version, need.before) >= 0)
    return { state: "unneeded", why: reason("only-before-version", { before: need.before, installed: version }) };
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
