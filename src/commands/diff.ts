import { statSync } from "node:fs";
import { Args, Flags } from "@oclif/core";
import { SEVERITIES } from "../core/model/finding.js";
import { COMMON_FLAGS, EnredoCommand, rank, UsageProblem, type CommonFlags, type Loaded } from "./base.js";
import { core } from "./core.js";
import { reasonText } from "../core/model/reason.js";

export default class DiffCommand extends EnredoCommand {
  static override summary = "What changed in the wiring between two folders or two Git revisions";
  static override description =
    "BEFORE and AFTER are folders or revisions of the repository here (a branch, a tag, a commit), also as BEFORE..AFTER; without AFTER, the files in this folder. Revisions are read from the object store, without a checkout.";
  static override examples = [
    "<%= config.bin %> diff main",
    "<%= config.bin %> diff v1.4..HEAD --format markdown",
    "<%= config.bin %> diff ../old ../new",
  ];
  static override args = {
    before: Args.string({ description: "folder or revision, or BEFORE..AFTER", required: true }),
    after: Args.string({ description: "folder or revision; default: the files here" }),
  };
  static override flags = {
    ...COMMON_FLAGS,
    format: Flags.string({ description: "output format", options: ["text", "json", "markdown"], default: "text" }),
    "fail-on": Flags.string({
      description: "lowest severity of a new finding that makes the exit code 1",
      options: [...SEVERITIES, "never"],
      default: "never",
    }),
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(DiffCommand);
    const range = args.after === undefined ? /^(.*?)\.\.\.?(.*)$/.exec(args.before) : null;
    const isFolder = statSync(args.before, { throwIfNoEntry: false })?.isDirectory() === true;
    const [from, to] = range && !isFolder ? [range[1] || "HEAD", range[2] || "HEAD"] : [args.before, args.after ?? "."];
    const before = await this.state(from, flags);
    const after = await this.state(to, flags);
    const { diffStates } = await core();
    const diffs = diffStates(
      { report: await this.reportOf(before.project, flags), sheets: before.sheets.sheets },
      { report: await this.reportOf(after.project, flags), sheets: after.sheets.sheets },
    );
    if (flags.side !== undefined) for (const diff of diffs) diff.changes = diff.changes.filter(({ side }) => side === flags.side);
    const names = [from, to === "." ? "the files here" : to] as const;
    const format = flags.json ? "json" : flags.format;
    if (format === "json") this.output(this.json((await import("../views/json/diff.js")).diffDocument(diffs, ...names)), flags.output);
    else if (format === "markdown") this.output((await import("../views/markdown/diff.js")).diffMarkdown(diffs, ...names), flags.output);
    else {
      const { diffText } = await import("../views/text/diff.js");
      this.output(
        diffText(diffs, this.style(flags, flags.output !== undefined), { before: names[0], after: names[1], verbose: flags.verbose }),
        flags.output,
      );
    }
    const failing =
      flags["fail-on"] !== "never" &&
      diffs.some(({ findings }) => findings.fresh.some(({ severity }) => rank(severity) <= rank(flags["fail-on"])));
    process.exitCode = failing ? 1 : 0;
  }

  /** A folder where there is one of that name, else a revision. */
  private async state(name: string, flags: CommonFlags): Promise<Loaded> {
    if (statSync(name, { throwIfNoEntry: false })?.isDirectory()) return this.load(name, flags);
    const { openRevision } = await core();
    const opened = openRevision(process.cwd(), name);
    if (!opened.ok) throw new UsageProblem(reasonText(opened.why));
    return this.load(opened.tree, flags);
  }
}
