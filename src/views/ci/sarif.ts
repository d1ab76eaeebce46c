import { pathToFileURL } from "node:url";
import type { Log, ReportingDescriptor, Result } from "sarif";
import type { ReportOutline } from "../../core/project/check.js";
import type { Finding } from "../../core/model/finding.js";
import type { Rule, ProjectRule } from "../../core/rules/rule.js";
import { clean } from "../text/style.js";
import { repositoryPath } from "./paths.js";

const LEVELS = { error: "error", warning: "warning", note: "note" } as const;

/**
 * SARIF 2.1.0 (OASIS standard): the rules with their help, the findings with regions and fingerprints, accepted findings as
 * suppressed results. Paths are relative to `SRCROOT`, the root of version control or the folder that was checked.
 */
export function sarifLog(report: ReportOutline, rules: readonly (Rule | ProjectRule)[], version: string): Log {
  const { survey, findings, accepted } = report;
  const used = new Set([...findings, ...accepted].map(({ rule }) => rule));
  const known = rules.filter(({ name }) => used.has(name));
  const depth = survey.repository === undefined || survey.repository === "" ? 0 : survey.repository.split("/").length;
  const base = new URL(`${"../".repeat(depth)}`, `${pathToFileURL(survey.root).href}/`).href;
  const result = (finding: Finding): Result => {
    const [first, ...others] = finding.places;
    const where = ({ file, line, column }: Finding["places"][number]): NonNullable<Result["locations"]>[number] => ({
      physicalLocation: {
        artifactLocation: { uri: encodePath(repositoryPath(survey, file)), uriBaseId: "SRCROOT" },
        region: { startLine: line, startColumn: column },
      },
    });
    return {
      ruleId: finding.rule,
      ruleIndex: known.findIndex(({ name }) => name === finding.rule),
      level: LEVELS[finding.severity],
      message: { text: clean(`${finding.message}. To do: ${finding.fix}.`) },
      ...(first ? { locations: [where(first)] } : {}),
      ...(others.length > 0 ? { relatedLocations: others.map((place, index) => ({ id: index, ...where(place) })) } : {}),
      partialFingerprints: { "enredo/2": finding.fingerprint },
      properties: { app: finding.app, ...(finding.side ? { side: finding.side } : {}), ...(finding.sdk ? { sdk: finding.sdk } : {}) },
      ...(finding.accepted
        ? { suppressions: [{ kind: "external", status: "accepted", justification: clean(finding.accepted.reason) }] }
        : {}),
    };
  };
  return {
    version: "2.1.0",
    $schema: "https://json.schemastore.org/sarif-2.1.0.json",
    runs: [
      {
        tool: { driver: { name: "Enredo", semanticVersion: version, rules: known.map(descriptor) } },
        originalUriBaseIds: { SRCROOT: { uri: base } },
        columnKind: "utf16CodeUnits",
        results: [...findings, ...accepted].map(result),
      },
    ],
  };
}

function descriptor(rule: Rule | ProjectRule): ReportingDescriptor {
  const help = `${rule.looksAt}\n\n${rule.why}\n\n${rule.advice}`;
  return {
    id: rule.name,
    shortDescription: { text: rule.title },
    fullDescription: { text: rule.looksAt },
    help: { text: help, markdown: `**Looks at:** ${rule.looksAt}\n\n**Why:** ${rule.why}\n\n**Fix:** ${rule.advice}` },
    defaultConfiguration: { level: LEVELS[rule.severity] },
  };
}

function encodePath(path: string): string {
  return path.split("/").map(encodeURIComponent).join("/");
}
