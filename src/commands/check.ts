import { Flags } from "@oclif/core";
import { SEVERITIES } from "../core/settings/settings.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, rank } from "./base.js";

export default class CheckCommand extends EnredoCommand {
  static override summary = "Does it hold together: findings, with file and line, why they matter and what to do";
  static override description = "Exit codes: 0 nothing at or above --fail-on, 1 findings, 2 the command could not do its work.";
  static override examples = [
    "<%= config.bin %> check",
    "<%= config.bin %> check --fail-on warning",
    "<%= config.bin %> check --json --output report.json",
  ];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    format: Flags.string({ description: "form of the output", options: ["text", "json"], default: "text" }),
    "fail-on": Flags.string({
      description: "lowest severity that makes the exit code 1",
      options: [...SEVERITIES, "never"],
      default: "error",
    }),
    "min-severity": Flags.string({ description: "lowest severity that is shown", options: [...SEVERITIES], default: "note" }),
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(CheckCommand);
    const report = await this.checkReport(args.dir, flags);
    const failing = flags["fail-on"] !== "never" && report.findings.some(({ severity }) => rank(severity) <= rank(flags["fail-on"]));
    const shown = { ...report, findings: report.findings.filter(({ severity }) => rank(severity) <= rank(flags["min-severity"])) };
    if (flags.json || flags.format === "json") {
      const { checkDocument } = await import("../views/json/documents.js");
      this.output(this.json(checkDocument(shown)), flags.output);
    } else {
      const { checkText } = await import("../views/text/check.js");
      this.output(
        checkText(shown, this.style(flags, flags.output !== undefined), { verbose: flags.verbose, quiet: flags.quiet }),
        flags.output,
      );
    }
    process.exitCode = failing ? 1 : 0;
  }
}
