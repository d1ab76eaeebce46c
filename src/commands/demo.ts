import { cpSync, existsSync, mkdirSync, readdirSync } from "node:fs";
import path from "node:path";
import { Args, Flags } from "@oclif/core";
import type { Finding } from "../core/model/finding.js";
import { COMMON_FLAGS, EnredoCommand, UsageProblem } from "./base.js";
import { core } from "./core.js";

const MARK = ".enredo-demo";

/** So many lines are a screen, with what stands around them. */
const SCREEN = 26;

export default class DemoCommand extends EnredoCommand {
  static override summary = "Create the sample apps and run the full example on them";
  static override description =
    "The apps of Maresia Lines, a made-up ferry company, with real mistakes in their wiring. With --clean the mistakes are fixed.";
  static override examples = ["<%= config.bin %> demo", "<%= config.bin %> demo /tmp/apps --clean"];
  static override args = { dir: Args.string({ description: "folder to create the apps in", default: "enredo-demo" }) };
  static override flags = {
    clean: Flags.boolean({ description: "create the apps without their mistakes" }),
    "no-color": COMMON_FLAGS["no-color"],
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(DemoCommand);
    const target = path.resolve(args.dir);
    this.layDown(target, flags.clean);
    const style = this.style(flags);
    const shown = path.relative(process.cwd(), target) || ".";
    const { survey, project, sheets } = await this.load(target, {});
    const report = await project.check();
    const { traceOf } = await core();
    const [{ surveyText }, { levelsText }, { checkText }, { traceText }, { plural }] = await Promise.all([
      import("../views/text/survey.js"),
      import("../views/text/levels.js"),
      import("../views/text/check.js"),
      import("../views/text/trace.js"),
      import("../views/text/style.js"),
    ]);
    let number = 0;
    /** One screen of what a command gives, and how to see the rest. */
    const step = (command: string, shows: string, text: string, whole = plural(text.trimEnd().split("\n").length, "line")): void => {
      const lines = text.trimEnd().split("\n");
      const cut = flags.verbose || lines.length <= SCREEN ? undefined : lastBlank(lines, SCREEN);
      const rest = cut === undefined ? "" : `\n  ${style.dim(`… ${whole} in all:`)} ${style.bold(`enredo ${command}`)}\n`;
      this.output(
        `\n${style.bold(`${++number}. enredo ${command}`)}\n${style.dim(shows)}\n\n${lines.slice(0, cut).join("\n").trimEnd()}\n${rest}`,
      );
    };
    this.output(
      `The ${survey.apps.length} apps of Maresia Lines, a made-up ferry company, are in ${shown}. What Enredo says of them, a screen for each question:\n`,
    );

    const first = survey.apps.find(({ name }) => name === "deckpass") ?? survey.apps[0];
    if (!first) return;
    const one = { ...survey, apps: [first] };
    step(
      `survey ${shown} --app ${first.name}`,
      "What is in here: every SDK with its route, and its declared and locked version.",
      surveyText(one, style, { verbose: flags.verbose, quiet: true }),
    );
    const examples = flags.verbose ? report.findings : oneOfEach(report.findings, first.name);
    step(
      `check ${shown}`,
      "Does it hold together: what is wrong, where, and what to do. Here one finding of each kind:",
      checkText({ ...report, findings: examples }, style, {
        verbose: flags.verbose,
        quiet: true,
      }),
      plural(report.findings.length, "finding"),
    );
    step(
      `levels ${shown} --app ${first.name}`,
      "Who sets each level, and who asks for how much.",
      levelsText(one, style, { verbose: flags.verbose }),
    );
    const traces = survey.apps.flatMap((app) => app.sheets.map((sdk) => ({ app, trace: traceOf(app, sheets.sheets, sdk) })));
    const open = ({ trace }: (typeof traces)[number]): number =>
      trace.sides.reduce((sum, { wires }) => sum + wires.filter(({ state }) => state === "loose" || state === "missing").length, 0);
    const [worst] = traces.sort((a, b) => open(b) - open(a));
    if (worst)
      step(
        `trace ${worst.trace.sdk} ${shown} --app ${worst.app.name}`,
        "Everything one SDK needs, by its sheet, in the vendor's order.",
        traceText([worst], style, { verbose: flags.verbose }),
      );
    const next: [string, string][] = [
      [`enredo report ${shown} --output report.html`, "all of it as one page"],
      [`enredo patch ${shown}`, "what can be fixed safely, as a diff"],
      ["enredo explain level/below-need", "what a rule looks at, and why"],
      ["enredo check", "in a project of your own: nothing has to be set up"],
      ["enredo needs PACKAGE", "there: what a package asks for, and what of it is done"],
    ];
    const width = Math.max(...next.map(([command]) => command.length)) + 2;
    this.output(`\nNext:\n${next.map(([command, why]) => `  ${style.bold(command.padEnd(width))}${why}`).join("\n")}\n`);
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
        if (clean) layers.push(["clean", app], ["clean-installed", path.join(app, "node_modules")]);
        for (const [layer, to] of layers) {
          const from = path.join(source, entry.name, layer);
          if (existsSync(from)) cpSync(from, to, { recursive: true, force: true });
        }
      }
      cpSync(path.join(source, "sheets"), path.join(target, "enredo/sheets"), { recursive: true });
    } catch (error) {
      throw new UsageProblem(`the sample apps cannot be created in ${target}: ${(error as Error).message}`);
    }
  }
}

/** Of each concern the first error, else its first finding: of one app as far as it has some, then of the others. */
function oneOfEach(findings: readonly Finding[], app: string): Finding[] {
  const first = new Map<string, Finding>();
  const weight = (finding: Finding): number => Number(finding.app === app) * 2 + Number(finding.severity === "error");
  for (const finding of findings) {
    const concern = finding.rule.split("/")[0] as string;
    const known = first.get(concern);
    if (!known || weight(known) < weight(finding)) first.set(concern, finding);
  }
  const chosen = new Set(first.values());
  return findings.filter((finding) => chosen.has(finding));
}

/** Where to cut so that a paragraph stays whole: after the last blank line of the first `most`. */
function lastBlank(lines: readonly string[], most: number): number {
  const blank = lines.slice(0, most).lastIndexOf("");
  return blank < most / 2 ? most : blank;
}
