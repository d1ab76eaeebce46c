import xml, { type XMLElement } from "xmlbuilder";
import type { ReportOutline } from "../../core/project/check.js";
import type { Rule, ProjectRule } from "../../core/rules/rule.js";
import { placeText, SIDE_TITLES } from "../text/labels.js";
import { clean } from "../text/style.js";

interface Case {
  classname: string;
  name: string;
  file?: string;
  failure?: { message: string; type: string };
  output?: string;
}

/**
 * JUnit's XML: a suite for each app, a case for each finding and for each rule without one. `fails` tells which severities fail;
 * the others are passing cases with their text in `system-out`. Form: the schema "junit-10.xsd" of the Jenkins plug-in, which the
 * continuous-integration services read.
 */
export function junitXml(report: ReportOutline, rules: readonly (Rule | ProjectRule)[], fails: (severity: string) => boolean): string {
  const names = [...new Set([...report.survey.apps.map(({ name }) => name), ...report.findings.map(({ app }) => app)])];
  const suites = names.map((app) => ({ app, cases: casesOf(app, report, rules, fails) }));
  const root = xml.create("testsuites", { encoding: "UTF-8", invalidCharReplacement: "" });
  count(
    root,
    suites.flatMap(({ cases }) => cases),
  );
  for (const { app, cases } of suites) {
    const suite = root.element("testsuite", { name: clean(app === "" ? "this folder" : app) });
    count(suite, cases);
    for (const { failure, output, ...attributes } of cases) {
      const test = suite.element("testcase", attributes);
      if (failure) test.element("failure", failure);
      if (output !== undefined) test.element("system-out").cdata(output);
    }
  }
  return `${root.end({ pretty: true })}\n`;
}

function casesOf(app: string, report: ReportOutline, rules: readonly (Rule | ProjectRule)[], fails: (severity: string) => boolean): Case[] {
  const own = report.findings.filter((finding) => finding.app === app);
  const told = new Set(own.map(({ rule }) => rule));
  const found = own.map((finding): Case => {
    const where = finding.places.map((place) => placeText(place)).join("\n");
    const text = clean(finding.message);
    const file = finding.places[0]?.file;
    return {
      classname: clean(`${app}.${finding.side === undefined ? "Both sides" : SIDE_TITLES[finding.side]}`),
      name: `${finding.rule}: ${text}`,
      ...(file !== undefined && { file: clean(file) }),
      ...(fails(finding.severity)
        ? { failure: { message: `${where}\n${clean(finding.fix)}`, type: finding.severity } }
        : { output: `${finding.severity}: ${text}\n${where}\n${clean(finding.fix)}` }),
    };
  });
  const quiet = rules.filter(({ name }) => !told.has(name)).map(({ name }): Case => ({ classname: clean(app), name }));
  return [...found, ...quiet];
}

function count(element: XMLElement, cases: readonly Case[]): void {
  const failures = cases.filter(({ failure }) => failure).length;
  for (const [name, value] of Object.entries({ tests: cases.length, failures, errors: 0, skipped: 0 })) element.attribute(name, value);
}
