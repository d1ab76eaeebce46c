import { existsSync, statSync } from "node:fs";
import { Args, Flags } from "@oclif/core";
import type { SideName } from "../core/model/facts.js";
import { SEVERITIES } from "../core/model/finding.js";
import { severityOf } from "../core/project/confirm/severity.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, rank, readText, UsageProblem } from "./base.js";
import { core } from "./core.js";

const LARGEST_LOG = 200_000_000;

export default class ConfirmCommand extends EnredoCommand {
  static override summary = "Which SDKs came up, in which order, by a saved device log";
  static override description =
    "Reads logcat in its common forms, Apple's log as text or JSON, and captures of a console, and holds it against the lines that the sheets name (logLine). Exit codes are those of check: an SDK that stays silent, or writes errors, is an error.";
  static override examples = ["<%= config.bin %> confirm launch.log", "<%= config.bin %> confirm console.txt --side ios"];
  static override args = { log: Args.string({ description: "saved log of a device or simulator", required: true }), ...DIR_ARG };
  static override flags = {
    ...COMMON_FLAGS,
    "fail-on": Flags.string({
      description: "lowest severity that makes the exit code 1",
      options: [...SEVERITIES, "never"],
      default: "error",
    }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(ConfirmCommand);
    if (!existsSync(args.log)) throw new UsageProblem(`there is no log ${args.log}`);
    const stat = statSync(args.log);
    if (!stat.isFile()) throw new UsageProblem(`${args.log} is not a file; give a saved log`);
    if (stat.size > LARGEST_LOG)
      throw new UsageProblem(`${args.log} is larger than ${LARGEST_LOG / 1_000_000} MB; save the part where the app starts`);
    const { confirmLog, readLog, sidesOfLog } = await core();
    const log = readLog(readText(args.log));
    if (log.entries.length === 0) throw new UsageProblem(`${args.log} contains no log lines`);
    const { survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const side = flags.side as SideName | undefined;
    const results = survey.apps
      .map((app) => ({ app, sides: confirmLog(app, sheets.sheets, log, side) }))
      .filter(({ sides }) => sides.length > 0);
    if (results.length === 0)
      throw new UsageProblem(
        `the log is of ${sidesOfLog(log, side).join(" or ")}, and no app here has that side; --side says it where the form of the log does not`,
      );
    // A log is of one app: where several are here, those that it names by their process or id count.
    const named = results.filter(({ app }) =>
      names(app).some((name) => log.entries.some((entry) => entry.process === name || entry.message.includes(name))),
    );
    const shown = named.length > 0 ? named : results;
    if (flags.json) {
      const { confirmDocument } = await import("../views/json/confirm.js");
      this.output(this.json(confirmDocument(survey.root, args.log, log, shown)));
    } else {
      const { confirmText } = await import("../views/text/confirm.js");
      this.output(confirmText(log, shown, this.style(flags), { file: args.log, verbose: flags.verbose }));
    }
    const worst = shown.flatMap(({ sides }) => sides.flatMap(({ sdks }) => sdks.map(severityOf)));
    const failing =
      flags["fail-on"] !== "never" && worst.some((severity) => severity !== undefined && rank(severity) <= rank(flags["fail-on"]));
    process.exitCode = failing ? 1 : 0;

    function names(app: (typeof survey.apps)[number]): string[] {
      const ids = [...(app.android?.ids ?? []), ...(app.ios?.ids ?? [])].flatMap(({ value }) =>
        value.kind === "known" ? [value.text] : [],
      );
      return [...ids, ...(app.ios ? [app.ios.target.name] : [])].filter((name) => name.length > 3);
    }
  }
}
