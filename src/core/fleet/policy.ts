import { suggestion } from "../model/suggest.js";
import type { Policy } from "../settings/settings.js";
import { compareAny } from "../versions/ecosystem.js";
import { order, type Fleet, type Violation } from "./fleet.js";
import type { AppTally, ProjectTally } from "./tally.js";

/** Where the apps do not keep to the policy, by app. What is not known is none. */
export function violationsOf(
  fleet: Pick<Fleet, "unanswered" | "problems">,
  apps: readonly { name: string; project: ProjectTally; app: AppTally }[],
  policy: Policy,
): Violation[] {
  const violations: Violation[] = fleet.unanswered.map(({ project, why }) => ({
    app: project,
    what: "answer",
    subject: "answer",
    wanted: policy.maxAge === undefined ? "a whole answer" : `a whole answer of the last ${policy.maxAge} days`,
    found: why,
  }));
  for (const { name, app } of apps) {
    for (const { sdk, package: name_, side, version, ecosystem } of app.sdks.values()) {
      const wanted = policy.sdks.get(sdk) ?? policy.sdks.get(name_);
      if (wanted !== undefined && version !== null && compareAny(ecosystem, version, wanted) < 0)
        violations.push({ app: name, what: "sdk", subject: `${sdk} (${side})`, wanted: `${wanted} or newer`, found: version });
    }
    for (const [key, value] of app.levels) {
      const level = key.split(" ")[1] ?? "";
      const wanted = policy.levels.get(level);
      if (wanted !== undefined && value !== null && compareAny(undefined, value, wanted) < 0)
        violations.push({ app: name, what: "level", subject: level, wanted: `${wanted} or higher`, found: value });
    }
    for (const [rule, counts] of app.rules)
      if (policy.rules.some((one) => one === rule || rule.startsWith(`${one}/`))) {
        const findings = counts.error + counts.warning + counts.note;
        violations.push({ app: name, what: "rule", subject: rule, wanted: "no finding", found: String(findings) });
      }
  }
  return violations.sort((a, b) => order(a.app, b.app) || order(a.subject, b.subject));
}

/** SDKs of the policy that no app has, each with the name that was perhaps meant. */
export function unusedSdks(fleet: Pick<Fleet, "sdks">, policy: Policy): string[] {
  const names = new Set(fleet.sdks.flatMap(({ sdk, packages }) => [sdk, ...packages]));
  return [...policy.sdks.keys()]
    .filter((sdk) => !names.has(sdk))
    .map((sdk) => `the policy lists the SDK ${sdk}, which no app has${suffix(suggestion(sdk, [...names]))}`);
}

function suffix(text: string | undefined): string {
  return text === undefined ? "" : `; ${text}`;
}
