import { Flags } from "@oclif/core";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "./base.js";
import { core } from "./core.js";

export default class ReportCommand extends EnredoCommand {
  static override summary = "One self-contained HTML page of all of it";
  static override description =
    "Whether each app is ready and what stands in the way; the findings with filters and search; each SDK on each side, levels, permissions, the start order. The page loads nothing and can be read without scripts too.";
  static override examples = ["<%= config.bin %> report --output enredo.html", "<%= config.bin %> report apps/deckpass > report.html"];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(ReportCommand);
    const loaded = await this.load(args.dir, flags);
    const report = await this.reportOf(loaded.project, flags);
    if (flags.json) {
      this.output(this.json((await import("../views/json/documents.js")).checkDocument(report)), flags.output);
      return;
    }
    const [{ reportPage }, { tracedSdks, traceOf, startupOf, permitsOf }] = await Promise.all([import("../views/html/report.js"), core()]);
    const { sheets } = loaded.sheets;
    const page = reportPage(report, {
      tracesOf: (app) => tracedSdks(app).map((sdk) => traceOf(app, sheets, sdk)),
      startupOf: (app) => startupOf(app, sheets),
      permitsOf: (app) => permitsOf(app, sheets),
    });
    this.output(page, flags.output);
  }
}
