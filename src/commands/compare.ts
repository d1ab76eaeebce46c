import { Flags } from "@oclif/core";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, UsageProblem } from "./base.js";
import type { CompareRow } from "../core/project/compare.js";
import { core } from "./core.js";

export default class CompareCommand extends EnredoCommand {
  static override summary = "Android beside iOS, an SDK a row: versions, wires, what only one side has";
  static override description = "With --with, this app beside that one, side by side.";
  static override examples = ["<%= config.bin %> compare", "<%= config.bin %> compare apps/deckpass --with apps/kiosk"];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    with: Flags.string({ description: "folder of another app to set beside this one", helpValue: "DIR" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(CompareCommand);
    const { project, survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const { compareApps } = await core();
    const { appLine } = await import("../views/text/check.js");
    const { clean } = await import("../views/text/style.js");
    const style = this.style(flags);
    const comparisons: { app: string; title: string; left: string; right: string; rows: CompareRow[] }[] = [];
    if (flags.with !== undefined) {
      const other = await this.load(flags.with, { ...flags, app: undefined, config: undefined });
      const [left, ...moreLeft] = survey.apps;
      const [right, ...moreRight] = other.survey.apps;
      if (!left || !right || moreLeft.length > 0 || moreRight.length > 0)
        throw new UsageProblem(
          `--with needs one app on each side; found ${survey.apps.map(({ name }) => name).join(", ")} and ${other.survey.apps.map(({ name }) => name).join(", ")}; choose with --app or a deeper folder`,
        );
      const all = [...sheets.sheets, ...other.sheets.sheets.filter(({ sdk }) => !sheets.sheets.some((sheet) => sheet.sdk === sdk))];
      const names = left.name === right.name ? [`${left.name} here`, `${right.name} there`] : [left.name, right.name];
      for (const side of ["android", "ios"] as const) {
        if ((flags.side !== undefined && flags.side !== side) || (!left[side] && !right[side])) continue;
        comparisons.push({
          app: `${left.name} ${side}`,
          title: style.bold(side === "android" ? "Android" : "iOS"),
          left: clean(names[0] ?? ""),
          right: clean(names[1] ?? ""),
          rows: compareApps(left, right, side, all),
        });
      }
    } else {
      for (const { app, answer } of await project.compare())
        comparisons.push({
          app: app.name,
          title: appLine(app, style),
          left: "Android",
          right: "iOS",
          rows: answer,
        });
    }
    if (flags.json) {
      const { compareDocument } = await import("../views/json/trace.js");
      this.output(this.json(compareDocument(survey.root, comparisons)));
      return;
    }
    const { compareText } = await import("../views/text/compare.js");
    this.output(compareText(comparisons, style));
  }
}
