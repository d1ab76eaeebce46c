import { exactVersion, isOfThirdParty } from "../../core/derive/presence.js";
import { LINE_SCHEMA, type Line } from "../../core/fleet/lines.js";
import type { Report } from "../../core/project/check.js";
import type { AppPermits } from "../../core/project/permits.js";
import { ofRelease } from "../../core/model/app.js";
import { reasonText } from "../../core/model/reason.js";
import { textOf } from "../../core/model/value.js";
import type { Place } from "../../core/model/place.js";
import { purlOf } from "./survey.js";

export interface LinesContext {
  /** What the project is called in the fleet. */
  project: string;
  /** When the answer was made, as ISO 8601 writes it. */
  at: string;
  /** The version of this tool. */
  tool: string;
}

type Unheaded<L> = L extends Line ? Omit<L, "schema" | "project"> : never;

/** `check --format ndjson`: an answer as flat lines, the first a `run`, the last an `end`. */
// eslint-disable-next-line complexity -- one kind of record after the other
export function answerLines(report: Report, permits: readonly AppPermits[], { project, at, tool }: LinesContext): Line[] {
  const lines: Line[] = [];
  const add = (line: Unheaded<Line>): void => void lines.push({ schema: LINE_SCHEMA, project, ...line });
  add({ record: "run", at, tool });
  for (const app of report.survey.apps) {
    const { name } = app;
    add({ record: "app", app: name, kind: app.kind, path: app.path || "." });
    for (const side of [app.android, app.ios]) {
      if (!side) continue;
      add({ record: "side", app: name, side: side.side, id: textOf(ofRelease(side.ids)?.value) ?? null });
      for (const [level, value] of Object.entries(side.effective))
        add({ record: "level", app: name, side: side.side, level: level as keyof typeof side.effective, value: textOf(value) ?? null });
    }
    for (const dependency of app.dependencies)
      add({
        record: "sdk",
        app: name,
        side: dependency.side,
        sdk: dependency.sdk,
        package: dependency.name,
        ecosystem: dependency.ecosystem,
        purl: purlOf(dependency),
        declared: textOf(dependency.declared) ?? null,
        locked: dependency.locked ?? null,
        version: exactVersion(dependency) ?? null,
        route: dependency.route,
        direct: dependency.direct,
        test: dependency.test,
        thirdParty: isOfThirdParty(app, dependency),
        ...placed(dependency.places),
      });
  }
  for (const { app, sides } of permits)
    for (const { side, permits: own } of sides)
      for (const { kind, name, by, removed } of own)
        if (!removed)
          for (const { name: bringer, at: place } of by)
            add({ record: "permit", app: app.name, side, kind, name, by: bringer ?? null, ...placed([place]) });
  for (const finding of [...report.findings, ...report.accepted])
    add({
      record: "finding",
      app: finding.app,
      side: finding.side ?? null,
      sdk: finding.sdk ?? null,
      rule: finding.rule,
      severity: finding.severity,
      message: finding.message,
      fix: finding.fix,
      fingerprint: finding.fingerprint,
      accepted: finding.accepted?.reason ?? null,
      ...placed(finding.places),
    });
  for (const { app, side, what, why, places } of report.blindSpots)
    add({ record: "blindSpot", app, side, what, why: reasonText(why), ...placed(places) });
  const { errors, warnings, notes, files } = report.summary;
  add({ record: "end", lines: lines.length + 1, errors, warnings, notes, files });
  return lines;
}

function placed([place]: readonly Place[]): { file: string | null; line: number | null; column: number | null } {
  return { file: place?.file ?? null, line: place?.line ?? null, column: place?.column ?? null };
}
