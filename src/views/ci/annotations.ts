import type { ReportOutline } from "../../core/project/check.js";
import type { Finding } from "../../core/model/finding.js";
import { clean } from "../text/style.js";
import { repositoryPath } from "./paths.js";

/** Workflow commands of GitHub Actions, one line a finding. Source: docs.github.com, "Workflow commands for GitHub Actions". */
export function githubAnnotations(report: ReportOutline): string {
  const lines = report.findings.map((finding) => {
    const [place] = finding.places;
    const where = place ? `file=${property(repositoryPath(report.survey, place.file))},line=${place.line},col=${place.column},` : "";
    const word = finding.severity === "note" ? "notice" : finding.severity;
    return `::${word} ${where}title=${property(finding.rule)}::${message(`${clean(finding.message)}\n${clean(finding.fix)}`)}`;
  });
  return lines.length === 0 ? "" : `${lines.join("\n")}\n`;
}

function message(text: string): string {
  return text.replaceAll("%", "%25").replaceAll("\r", "%0D").replaceAll("\n", "%0A");
}

function property(text: string): string {
  return message(clean(text)).replaceAll(":", "%3A").replaceAll(",", "%2C");
}

const QUALITY: Record<Finding["severity"], string> = { error: "critical", warning: "minor", note: "info" };

/** A Code Quality report. Source: docs.gitlab.com, "Code Quality", "Code Quality report format". */
export function codeQuality(report: ReportOutline): unknown[] {
  const seen = new Map<string, number>();
  return report.findings.map((finding) => {
    const count = (seen.get(finding.fingerprint) ?? 0) + 1;
    seen.set(finding.fingerprint, count);
    const [place] = finding.places;
    return {
      description: clean(`${finding.message}: ${finding.fix}`),
      check_name: finding.rule,
      // The service asks for one of a kind.
      fingerprint: count === 1 ? finding.fingerprint : `${finding.fingerprint}-${count}`,
      severity: QUALITY[finding.severity],
      location: { path: repositoryPath(report.survey, place?.file ?? ""), lines: { begin: place?.line ?? 1 } },
    };
  });
}
