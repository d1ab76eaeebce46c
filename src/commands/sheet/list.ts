import type { SheetsDocument } from "../../views/json/types.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "../base.js";

export default class SheetListCommand extends EnredoCommand {
  static override summary = "The sheets that apply here, and the apps that have their SDKs";
  static override examples = ["<%= config.bin %> sheet list"];
  static override args = DIR_ARG;
  static override flags = COMMON_FLAGS;

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SheetListCommand);
    const { survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const listed = sheets.sheets.map((sheet) => ({
      sheet,
      apps: survey.apps.filter((app) => app.sheets.includes(sheet.sdk)).map(({ name }) => name),
    }));
    if (flags.json) {
      this.output(
        this.json({
          schema: "enredo.sheets/1",
          root: survey.root,
          sheets: listed.map(({ sheet, apps }) => ({
            sdk: sheet.sdk,
            title: sheet.title,
            needs: sheet.needs.length,
            packages: Object.fromEntries(sheet.packages),
            apps,
            places: [sheet.at],
          })),
          problems: sheets.problems,
        } satisfies SheetsDocument),
      );
      return;
    }
    const { sheetListText } = await import("../../views/text/sheets.js");
    this.output(sheetListText(listed, this.style(flags)));
  }
}
