import type { SheetCheckDocument } from "../../views/json/types.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, UsageProblem } from "../base.js";

export default class SheetCheckCommand extends EnredoCommand {
  static override summary = "Validate sheets: unknown keys, values of the wrong form, two sheets for one SDK";
  static override description = "Exit codes: 0 nothing wrong, 1 something is, 2 no sheet was found.";
  static override examples = [
    "<%= config.bin %> sheet check",
    "<%= config.bin %> sheet check ../our-sheets",
    "<%= config.bin %> sheet check --sheets ../our-sheets",
  ];
  static override args = DIR_ARG;
  static override flags = {
    json: COMMON_FLAGS.json,
    sheets: COMMON_FLAGS.sheets,
    "no-color": COMMON_FLAGS["no-color"],
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SheetCheckCommand);
    const { loaded, count } = await this.loadSheetFiles(args.dir, flags.sheets ?? []);
    if (count === 0)
      throw new UsageProblem(
        `no sheet found in ${args.dir}: sheets are NAME.sdk.yaml files in enredo/sheets/, in the folder itself, or in one given with --sheets`,
      );
    if (flags.json)
      this.output(
        this.json({
          schema: "enredo.sheet-check/1",
          sheets: loaded.sheets.map(({ sdk, file }) => ({ sdk, file })),
          problems: loaded.problems,
        } satisfies SheetCheckDocument),
      );
    else {
      const { sheetProblemsText } = await import("../../views/text/sheets.js");
      this.output(sheetProblemsText(loaded.sheets.length, loaded.problems, this.style(flags)));
    }
    process.exitCode = loaded.problems.length > 0 ? 1 : 0;
  }
}
