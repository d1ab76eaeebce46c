import type { App } from "../../model/app.js";
import type { LevelFact } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const spread = defineRule({
  name: "level/spread",
  severity: "warning",
  title: "A level has several values",
  looksAt:
    "The deployment target in the target's configurations, the project, the Podfile and its hooks; the compile level of the modules of one Android app.",
  silentFor: ".NET and Unity, where one property states the level of the whole app; Expo before the native folders are made.",
  why: "Pods or modules built for newer systems than the app may call what old devices do not have. A build tested with one value and shipped with another hides it.",
  advice: "Use one value everywhere: the app target's.",
  examples: {
    reported: iosExample({ target: "14.0" }, { Podfile: "platform :ios, '15.1'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n" }),
    silent: iosExample({ target: "15.1" }, { Podfile: "platform :ios, '15.1'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n" }),
  },
  check({ app }) {
    return [...iosSpread(app), ...androidSpread(app)];
  },
});

function iosSpread(app: App): RawFinding[] {
  const facts = (app.ios?.levels ?? []).filter((fact) => fact.level === "iosTarget" && isLevel(textOf(fact.value) ?? ""));
  const own = facts.filter((fact) => fact.owner === "app" && fact.of === app.ios?.target.name);
  const appFacts = own.length > 0 ? own : facts.filter((fact) => fact.owner === "project");
  const findings: RawFinding[] = [];
  configurationsApart(appFacts, findings);
  const lowest = [...appFacts].sort((a, b) => compareLevels(textOf(a.value) ?? "0", textOf(b.value) ?? "0"))[0];
  const appValue = textOf(lowest?.value);
  if (!lowest || appValue === undefined) return findings;
  for (const fact of facts) {
    if (fact.owner === "app") continue;
    const text = textOf(fact.value) ?? "";
    const order = compareLevels(text, appValue);
    // The project's value is only a default for targets: it matters where no target overrides it.
    if (order === 0 || (fact.owner === "project" && own.length > 0)) continue;
    const higher = order > 0;
    const title =
      fact.owner === "podfile"
        ? "the Podfile's platform"
        : fact.owner === "pods"
          ? "the deployment target that the Podfile's hook sets"
          : "the project's deployment target";
    findings.push({
      side: "ios",
      severity: higher ? undefined : "note",
      message: higher
        ? `${title} is ${text}, higher than the app's ${appValue}: pods are built for newer systems than the app`
        : `${title} is ${text}, the app's deployment target is ${appValue}`,
      fix: higher ? `raise the app target's deployment target to ${text}` : `use ${appValue} in both places`,
      places: uniquePlaces([fact.value.place, lowest.value.place]),
      subject: fact.owner,
    });
  }
  return findings;
}

/** One target whose configurations have different deployment targets. */
function configurationsApart(appFacts: LevelFact[], findings: RawFinding[]): void {
  const values = new Set(appFacts.map((fact) => normal(fact)));
  if (values.size > 1) {
    const listed = appFacts.map((fact) => `${textOf(fact.value) ?? ""} in ${fact.variant ?? fact.of}`);
    findings.push({
      side: "ios",
      message: `the deployment target differs between configurations: ${listed.join(", ")}`,
      fix: "give all configurations of the target the same deployment target",
      places: uniquePlaces(appFacts.map((fact) => fact.value.place)),
      subject: "configurations",
    });
  }
}

function normal(fact: LevelFact): string {
  return (textOf(fact.value) ?? "").replace(/(\.0)+$/, "");
}

function androidSpread(app: App): RawFinding[] {
  const facts = (app.android?.levels ?? []).filter(
    (fact) => fact.level === "compileSdk" && fact.variant === undefined && isLevel(textOf(fact.value) ?? ""),
  );
  const own = facts.find((fact) => fact.owner === "app");
  if (!own) return [];
  const others = facts.filter((fact) => fact.owner === "module" && textOf(fact.value) !== textOf(own.value));
  if (others.length === 0) return [];
  const listed = others.slice(0, 4).map((fact) => `${fact.of} ${textOf(fact.value) ?? ""}`);
  return [
    {
      side: "android",
      message: `modules of one app are compiled against different levels: ${app.android?.module.path ?? ""} ${textOf(own.value) ?? ""}, ${listed.join(", ")}${others.length > 4 ? ` and ${others.length - 4} more` : ""}`,
      fix: `use compileSdk ${textOf(own.value) ?? ""} in all modules, from one shared value`,
      places: uniquePlaces([own.value.place, ...others.map((fact) => fact.value.place)]),
      subject: "compileSdk of modules",
    },
  ];
}
