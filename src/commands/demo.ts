import { cpSync, existsSync, mkdirSync, readdirSync } from "node:fs";
import path from "node:path";
import { Args, Flags } from "@oclif/core";
import { COMMON_FLAGS, EnredoCommand, UsageProblem } from "./base.js";
import { core } from "./core.js";

const MARK = ".enredo-demo";

export default class DemoCommand extends EnredoCommand {
  static override summary = "Lay down the sample apps and run the full example on them";
  static override description =
    "The apps of Maresia Lines, a made-up ferry company, with real mistakes in their wiring. With --clean the mistakes are mended.";
  static override examples = ["<%= config.bin %> demo", "<%= config.bin %> demo /tmp/apps --clean"];
  static override args = { dir: Args.string({ description: "folder to lay the apps into", default: "enredo-demo" }) };
  static override flags = {
    clean: Flags.boolean({ description: "lay down the apps without their mistakes" }),
    "no-color": COMMON_FLAGS["no-color"],
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(DemoCommand);
    const target = path.resolve(args.dir);
    this.layDown(target, flags.clean);
    const style = this.style(flags);
    const step = (number: number, command: string, shows: string): void =>
      this.output(`\n${style.bold(`${number}. enredo ${command}`)}\n${style.dim(shows)}\n\n`);
    const shown = path.relative(process.cwd(), target) || ".";
    this.output(`The apps of Maresia Lines, a made-up ferry company, are in ${shown}.\n`);

    const { survey, loaded, sheets } = await this.load(target, {});
    const { check, traceOf } = await core();
    const { surveyText } = await import("../views/text/survey.js");
    const { levelsText } = await import("../views/text/levels.js");
    const { checkText } = await import("../views/text/check.js");
    step(1, `survey ${shown}`, "What is in here: every SDK with its route, the version that is declared and the one that is locked.");
    this.output(surveyText(survey, style, { verbose: flags.verbose, quiet: true }));
    step(2, `levels ${shown}`, "Who states each level, and who asks for how much.");
    this.output(levelsText(survey, style, { verbose: flags.verbose }));
    step(3, `check ${shown}`, "Does it hold together: what is wrong, where, and what to do.");
    this.output(
      checkText(
        check(survey, {
          settings: loaded.settings,
          settingsProblems: loaded.problems,
          sheets: sheets.sheets,
          sheetProblems: sheets.problems,
        }),
        style,
        {
          verbose: flags.verbose,
          quiet: false,
        },
      ),
    );
    const traces = survey.apps.flatMap((app) => app.sheets.map((sdk) => ({ app, trace: traceOf(app, sheets.sheets, sdk) })));
    const open = ({ trace }: (typeof traces)[number]): number =>
      trace.sides.reduce((sum, { wires }) => sum + wires.filter(({ state }) => state === "loose" || state === "missing").length, 0);
    const [worst] = traces.sort((a, b) => open(b) - open(a));
    if (worst) {
      const { traceText } = await import("../views/text/trace.js");
      step(
        4,
        `trace ${worst.trace.sdk} ${shown} --app ${worst.app.name}`,
        "The SDK with the most loose wires, held against its sheet, in the vendor's order.",
      );
      this.output(traceText([worst], style, { verbose: flags.verbose }));
    }
    this.output(`\nNext: enredo compare ${shown}, enredo explain level/below-need, or enredo check in a project of your own.\n`);
  }

  /** Copies the apps, with what is installed in them; never into a folder that holds something else. */
  private layDown(target: string, clean: boolean): void {
    const source = path.join(this.config.root, "demo");
    if (existsSync(target) && readdirSync(target).length > 0 && !existsSync(path.join(target, MARK))) {
      throw new UsageProblem(`${target} is not empty; give a new folder: enredo demo DIR`);
    }
    try {
      mkdirSync(path.join(target, MARK), { recursive: true });
      for (const entry of readdirSync(source, { withFileTypes: true })) {
        if (!entry.isDirectory() || entry.name === "sheets") continue;
        const app = path.join(target, entry.name);
        const layers: [string, string][] = [
          ["project", app],
          ["installed", path.join(app, "node_modules")],
        ];
        if (clean) layers.push(["clean", app]);
        for (const [layer, to] of layers) {
          const from = path.join(source, entry.name, layer);
          if (existsSync(from)) cpSync(from, to, { recursive: true, force: true });
        }
      }
      cpSync(path.join(source, "sheets"), path.join(target, "enredo/sheets"), { recursive: true });
    } catch (error) {
      throw new UsageProblem(`the sample apps cannot be laid into ${target}: ${(error as Error).message}`);
    }
  }
}
