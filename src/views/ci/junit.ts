import junit from "junit-report-builder";
import type { ReportOutline } from "../../core/project/check.js";
import type { Rule, ProjectRule } from "../../core/rules/rule.js";
import { placeText, SIDE_TITLES } from "../text/check.js";
import { clean } from "../text/style.js";

/** The package is its builder; its types know it under another name. */
const builder = junit as unknown as typeof junit.default;

/**
 * JUnit's XML: a suite for each app, a case for each finding and for each rule without one. `fails` tells which severities fail;
 * the others are passing cases with their text in `system-out`.
 */
export function junitXml(report: ReportOutline, rules: readonly (Rule | ProjectRule)[], fails: (severity: string) => boolean): string {
  const xml = builder.newBuilder();
  const names = [...new Set([...report.survey.apps.map(({ name }) => name), ...report.findings.map(({ app }) => app)])];
  for (const name of names) {
    const suite = xml.testSuite().name(clean(name === "" ? "this folder" : name));
    const own = report.findings.filter(({ app }) => app === name);
    const told = new Set(own.map(({ rule }) => rule));
    for (const finding of own) {
      const where = finding.places.map((place) => placeText(place)).join("\n");
      const text = clean(finding.message);
      const test = suite
        .testCase()
        .className(clean(`${name}.${finding.side === undefined ? "Both sides" : SIDE_TITLES[finding.side]}`))
        .name(`${finding.rule}: ${text}`);
      const [first] = finding.places;
      if (first) test.file(clean(first.file));
      if (fails(finding.severity)) test.failure(`${where}\n${clean(finding.fix)}`, finding.severity);
      else test.standardOutput(`${finding.severity}: ${text}\n${where}\n${clean(finding.fix)}`);
    }
    for (const { name: rule } of rules) if (!told.has(rule)) suite.testCase().className(clean(name)).name(rule);
  }
  return `${xml.build()}\n`;
}
