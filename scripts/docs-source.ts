/** What the documentation is generated from; bundled by scripts/docs.mjs. */
import type { ProjectRule, Rule } from "../src/core/rules/rule.js";
import { checkText } from "../src/views/text/check.js";
import { styleFor } from "../src/views/text/style.js";
import { reportOf } from "../test/helpers/memory.js";

export { RULES } from "../src/core/rules/index.js";
export { settingsSchema, sheetSchema } from "../src/core/sheets/schema.js";
export { ruleMarkdown } from "../src/views/text/explain.js";

/** What `enredo check` says of a rule's reported example, as far as the rule says it. */
export async function ruleAnswer(rule: Rule | ProjectRule, today: string): Promise<string> {
  const report = await reportOf(rule.examples.reported, { today });
  const findings = report.findings.filter((finding) => finding.rule === rule.name);
  return checkText({ ...report, findings }, styleFor({ color: false, width: 100 }), { verbose: false, quiet: true }).trimEnd();
}
