import { Flags } from "@oclif/core";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "./base.js";

export default class StartupCommand extends EnredoCommand {
  static override summary = "What runs at launch, in order, on each side, and why in that order";
  static override description =
    "Reads the app's own source code: providers and initializers come first, then the application, the first screen and the shared code.";
  static override examples = [
    "<%= config.bin %> startup",
    "<%= config.bin %> startup --side android",
    "<%= config.bin %> startup --format mermaid",
  ];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    format: Flags.string({ description: "output format", options: ["text", "json", "dot", "mermaid"], default: "text" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(StartupCommand);
    const { project, survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const startups = (await project.startup()).map(({ app, answer }) => ({
      app,
      sides: answer.filter(({ side }) => flags.side === undefined || side === flags.side),
    }));
    if (flags.json || flags.format === "json") {
      const { startupDocument } = await import("../views/json/startup.js");
      this.output(this.json(startupDocument(survey.root, startups)));
    } else if (flags.format !== "text") {
      const { startupDot, startupMermaid } = await import("../views/graph/startup.js");
      this.output(flags.format === "dot" ? startupDot(startups) : startupMermaid(startups));
    } else {
      const { startupText } = await import("../views/text/startup.js");
      this.output(startupText(startups, this.style(flags), { verbose: flags.verbose }));
    }
  }
}
