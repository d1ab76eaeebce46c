import type { ReportOutline } from "../../core/project/check.js";
import { levelTable } from "../../core/derive/level-table.js";
import { sidesOf, type App, type Survey } from "../../core/model/app.js";
import type { LevelFact, SideName } from "../../core/model/facts.js";
import type { Finding } from "../../core/model/finding.js";
import { reasonText } from "../../core/model/reason.js";
import { possibleTexts, type Value } from "../../core/model/value.js";
import type { CheckDocument, FindingDocument, LevelDocument, LevelsDocument, ValueFields } from "./types.js";

/** `check --json`: see docs/architecture.md, "JSON documents". */
export function checkDocument(report: ReportOutline): CheckDocument {
  return {
    schema: "enredo.check/1",
    root: report.survey.root,
    apps: report.survey.apps.map((app) => ({ name: app.name, kind: app.kind, path: app.path || ".", sides: sidesOf(app) })),
    findings: report.findings.map(withoutQuickFix),
    accepted: report.accepted.map(withoutQuickFix),
    blindSpots: report.blindSpots.map(({ app, side, what, why, places }) => ({ app, side, what, why: reasonText(why), places })),
    summary: report.summary,
  };
}

/** A finding as documents show it: how it would be mended is the business of `patch`. */
export function withoutQuickFix(finding: Finding): FindingDocument {
  return Object.fromEntries(Object.entries(finding).filter(([key]) => key !== "quickFix")) as unknown as FindingDocument;
}

/** A value, `null` with the reason, or `null` with all the values that it may have. */
export function valueFields(value: Value | undefined): ValueFields {
  if (!value) return { value: null };
  if (value.kind === "known") return { value: value.text };
  if (value.kind === "unknown") return { value: null, why: reasonText(value.why) };
  return { value: null, why: "depends on the build", either: possibleTexts(value) };
}

/** `levels --json`. */
export function levelsDocument(survey: Survey): LevelsDocument {
  return {
    schema: "enredo.levels/1",
    root: survey.root,
    apps: survey.apps.map((app) => ({ name: app.name, kind: app.kind, path: app.path || ".", sides: sideLevels(app) })),
  };
}

function sideLevels(app: App): Partial<Record<SideName, LevelDocument[]>> {
  const sides: Partial<Record<SideName, LevelDocument[]>> = {};
  for (const line of levelTable(app)) {
    (sides[line.side] ??= []).push({
      level: line.level,
      declared: line.declared.map((fact: LevelFact) => ({
        ...valueFields(fact.value),
        by: fact.of,
        owner: fact.owner,
        ...(fact.variant ? { variant: fact.variant } : {}),
        places: [fact.value.place],
      })),
      effective: valueFields(line.effective).value,
      ...(line.effective?.kind === "unknown" ? { why: reasonText(line.effective.why) } : {}),
      ...(line.effectiveFrom ? { effectiveFrom: line.effectiveFrom } : {}),
      demands: line.requiredLevels.map((required) => ({
        by: required.by,
        from: required.from,
        ...valueFields(required.value),
        places: [required.value.place],
      })),
      headroom: line.headroom ?? null,
      ...(line.tooLowIn.length > 0 ? { tooLowIn: line.tooLowIn } : {}),
    });
  }
  return sides;
}
