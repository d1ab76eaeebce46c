import { Flags } from "@oclif/core";
import type { SideName } from "../core/model/facts.js";
import { safeAddresses } from "../core/model/address.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, Exact } from "./base.js";

export default class SurveyCommand extends EnredoCommand {
  static override summary = "What is in here: apps, sides, ids, levels, SDKs with route, declared and locked version";
  static override examples = ["<%= config.bin %> survey", "<%= config.bin %> survey apps/deckpass --json"];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    format: Flags.string({ description: "output format", options: ["text", "json", "cyclonedx"], default: "text" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SurveyCommand);
    const { survey } = await this.load(args.dir, flags);
    if (!flags.json && flags.format === "cyclonedx") {
      const { cycloneDx } = await import("../views/json/cyclonedx.js");
      this.output(new Exact(safeAddresses(cycloneDx(survey, this.config.version))));
      return;
    }
    if (flags.json || flags.format === "json") {
      const { surveyDocument } = await import("../views/json/survey.js");
      this.output(this.json(surveyDocument(survey)));
      return;
    }
    const { surveyText } = await import("../views/text/survey.js");
    this.output(
      surveyText(survey, this.style(flags), { verbose: flags.verbose, quiet: flags.quiet, side: flags.side as SideName | undefined }),
    );
  }
}
