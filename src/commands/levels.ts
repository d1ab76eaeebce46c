import type { SideName } from "../core/model/facts.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "./base.js";

export default class LevelsCommand extends EnredoCommand {
  static override summary = "The ledger of levels: where each is set, what applies, who requires how much, and the headroom";
  static override examples = ["<%= config.bin %> levels", "<%= config.bin %> levels --side ios"];
  static override args = DIR_ARG;
  static override flags = COMMON_FLAGS;

  async run(): Promise<void> {
    const { args, flags } = await this.parse(LevelsCommand);
    const { survey } = await this.load(args.dir, flags);
    if (flags.json) {
      const { levelsDocument } = await import("../views/json/documents.js");
      this.output(this.json(levelsDocument(survey)));
      return;
    }
    const { levelsText } = await import("../views/text/levels.js");
    this.output(levelsText(survey, this.style(flags), { verbose: flags.verbose, side: flags.side as SideName | undefined }));
  }
}
