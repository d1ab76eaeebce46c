import { Args } from "@oclif/core";
import { suggestion } from "../core/model/suggest.js";
import type { RuleDocument, RulesDocument } from "../views/json/types.js";
import { COMMON_FLAGS, EnredoCommand, UsageProblem } from "./base.js";
import { core } from "./core.js";

export default class ExplainCommand extends EnredoCommand {
  static override summary = "What a rule looks at, why, and how to fix it";
  static override examples = ["<%= config.bin %> explain", "<%= config.bin %> explain level/below-need"];
  static override args = { rule: Args.string({ description: "name of the rule; without it all rules are listed" }) };
  static override flags = { json: COMMON_FLAGS.json, "no-color": COMMON_FLAGS["no-color"], verbose: COMMON_FLAGS.verbose };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(ExplainCommand);
    const { RULES, RULE_NAMES, findRule } = await core();
    const { explainText, ruleListText } = await import("../views/text/explain.js");
    if (args.rule === undefined) {
      const document: RulesDocument = {
        schema: "enredo.rules/1",
        rules: RULES.map(({ name, severity, title, looksAt, silentFor, why, advice: mend }) => ({
          name,
          severity,
          title,
          looksAt,
          silentFor,
          why,
          mend,
        })),
      };
      this.output(flags.json ? this.json(document) : ruleListText(RULES, this.style(flags)));
      return;
    }
    const rule = findRule(args.rule);
    if (!rule) {
      throw new UsageProblem(`there is no rule "${args.rule}"; ${suggestion(args.rule, RULE_NAMES) ?? ""} \`enredo explain\` lists them`);
    }
    const { name, severity, title, looksAt, silentFor, why, advice: mend, examples } = rule;
    this.output(
      flags.json
        ? this.json({ schema: "enredo.rule/1", name, severity, title, looksAt, silentFor, why, mend, examples } satisfies RuleDocument)
        : explainText(rule, this.style(flags)),
    );
  }
}
