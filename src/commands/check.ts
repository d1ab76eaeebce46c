import { existsSync, watch } from "node:fs";
import path from "node:path";
import { Flags } from "@oclif/core";
import type { ReportOutline } from "../core/project/check.js";
import type { Project } from "../core/project/open.js";
import { SEVERITIES } from "../core/model/finding.js";
import type { Grouping } from "../views/text/check.js";
import type { BaselineDocument } from "../views/json/types.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, rank, isTold, readText, UsageProblem, type CommonFlags, Exact } from "./base.js";
import { core } from "./core.js";

const GROUPINGS: Grouping[] = ["app", "rule", "sdk"];
const FORMATS = ["text", "json", "sarif", "junit", "markdown", "github", "gitlab", "ndjson"];

interface CheckFlags extends CommonFlags {
  format: string;
  "fail-on": string;
  "min-severity": string;
  output?: string;
  baseline?: string;
  project?: string;
  "group-by": string;
}

export default class CheckCommand extends EnredoCommand {
  static override summary = "Does it hold together: findings with file and line, and what to do";
  static override description = "Exit codes: 0 nothing at or above --fail-on, 1 findings, 2 the command could not do its work.";
  static override examples = [
    "<%= config.bin %> check",
    "<%= config.bin %> check --fail-on warning",
    "<%= config.bin %> check --group-by rule",
    "<%= config.bin %> check --format sarif --output enredo.sarif",
    "<%= config.bin %> check --baseline enredo-baseline.json",
    "<%= config.bin %> check --format ndjson --output answers/deckpass.ndjson",
  ];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    format: Flags.string({ description: "output format", options: FORMATS, default: "text" }),
    "fail-on": Flags.string({
      description: "lowest severity that makes the exit code 1",
      options: [...SEVERITIES, "never"],
      default: "error",
    }),
    "min-severity": Flags.string({ description: "lowest severity that is shown", options: [...SEVERITIES], default: "note" }),
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
    baseline: Flags.string({ description: "report only what is new since this file was written", helpValue: "FILE" }),
    watch: Flags.boolean({ description: "check again whenever a file changes, until Ctrl-C", exclusive: ["output", "write-baseline"] }),
    "group-by": Flags.string({ description: "how findings are grouped in text", options: GROUPINGS, default: "app" }),
    project: Flags.string({ description: "project name in the lines of --format ndjson; default: the folder's name", helpValue: "NAME" }),
    "write-baseline": Flags.boolean({ description: "write the current findings to the file of --baseline", dependsOn: ["baseline"] }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(CheckCommand);
    const part = (["side", "baseline", "min-severity", "app"] as const).find((name) =>
      name === "app" ? flags.app !== undefined && flags.project === undefined : flags[name] !== undefined && flags[name] !== "note",
    );
    // A part would stand for the whole in a fleet.
    if (!flags.json && flags.format === "ndjson" && part !== undefined)
      throw new UsageProblem(
        `--format ndjson writes a whole answer; leave out --${part}${part === "app" ? ", or give the app a --project of its own" : ""}`,
      );
    if (flags.watch) return this.watch(args.dir, flags);
    if (flags["write-baseline"] && flags.baseline !== undefined) {
      const { baselineOf } = await core();
      const report = await this.findingsOf(this.project(args.dir, flags), flags);
      this.output(this.json(baselineOf(report) satisfies BaselineDocument), flags.baseline);
      this.say(`enredo: ${report.findings.length} findings written to ${flags.baseline}`);
      return;
    }
    const { report, text } = await this.answer(args.dir, flags);
    this.output(text, flags.output);
    const failing = flags["fail-on"] !== "never" && report.findings.some(({ severity }) => rank(severity) <= rank(flags["fail-on"]));
    process.exitCode = failing ? 1 : 0;
  }

  /** The findings that are not known by the baseline, and those of them that are shown in the form that is asked for. */
  private async answer(
    dir: string,
    flags: CheckFlags,
    signal?: AbortSignal,
  ): Promise<{ report: ReportOutline; shown: ReportOutline; text: string | Exact }> {
    const project = this.project(dir, flags, signal);
    const format = flags.json ? "json" : flags.format;
    // Lines say more than findings: all is read for them.
    let report: ReportOutline = format === "ndjson" ? await this.reportOf(project, flags) : await this.findingsOf(project, flags);
    if (flags.baseline !== undefined) report = await this.sinceBaseline(report, flags.baseline);
    const shown = { ...report, findings: report.findings.filter(({ severity }) => rank(severity) <= rank(flags["min-severity"])) };
    return {
      report,
      shown,
      text: format === "ndjson" ? await this.lines(project, shown, flags) : await this.rendered(dir, shown, format, flags),
    };
  }

  /**
   * Checks at once, and again when files changed; a failure is told and the next change tries again. In text, all is shown once, and then what
   * came and what went.
   */
  private async watch(dir: string, flags: CheckFlags): Promise<void> {
    // Nothing to watch: told as without it.
    if (!existsSync(dir)) return void (await this.findingsOf(this.project(dir, flags), flags));
    const format = flags.json ? "json" : flags.format;
    const terminal = process.stdin.isTTY && format === "text";
    let last: ReportOutline | undefined;
    let current = new AbortController();
    const answer = async (): Promise<void> => {
      const { signal } = (current = new AbortController());
      const started = performance.now();
      try {
        const { shown, text } = await this.answer(dir, flags, signal);
        const before = last;
        last = shown;
        this.output(before && format === "text" ? await this.changes(before, shown, dir, flags) : text);
      } catch (error) {
        // Files changed meanwhile: the next answer is about these.
        if (signal.aborted) return;
        if (!isTold(error)) throw error;
        this.say(`enredo: ${error.message}`);
      }
      const keys = terminal ? "; a shows all findings, q ends" : "";
      this.say(`enredo: checked in ${Math.round(performance.now() - started)} ms; waiting for changes${keys}`);
    };
    const passedOver = /(^|[/\\])(node_modules|\.git|build|Pods|DerivedData|\.gradle|\.dart_tool)([/\\]|$)/;
    // Before the first answer: what changes while it is looked for is not lost.
    const changes = watch(dir, { recursive: true });
    let waiting: NodeJS.Timeout | undefined;
    await new Promise<void>((resolve, reject) => {
      let running = answer().catch(reject);
      const again = (): void => {
        running = running.then(answer).catch(reject);
      };
      changes.on("change", (_, name) => {
        if (passedOver.test(String(name))) return;
        current.abort();
        // An editor writes a file in several steps.
        clearTimeout(waiting);
        waiting = setTimeout(again, 120);
      });
      changes.on("error", reject);
      if (terminal) process.stdin.setRawMode(true).resume();
      if (terminal)
        process.stdin.on("data", (key) => {
          // A terminal in this mode sends no signal for Ctrl-C.
          if (/^[q\u0003\u0004]/.test(String(key))) resolve();
          else if (String(key) === "a" && last) void this.rendered(dir, last, format, flags).then((text) => this.output(text), reject);
        });
      process.once("SIGINT", resolve);
      process.once("SIGTERM", resolve);
    });
    clearTimeout(waiting);
    current.abort();
    changes.close();
    if (terminal) process.stdin.setRawMode(false).pause();
  }

  private async changes(before: ReportOutline, after: ReportOutline, dir: string, flags: CheckFlags): Promise<string> {
    const { changesText } = await import("../views/text/changes.js");
    return changesText(before, after, this.style(flags), { verbose: flags.verbose ?? false, quiet: flags.quiet ?? false, dir });
  }

  private async sinceBaseline(report: ReportOutline, file: string): Promise<ReportOutline> {
    if (!existsSync(file)) throw new UsageProblem(`there is no baseline ${file}; --write-baseline writes it`);
    const { againstBaseline, readBaseline } = await core();
    const read = readBaseline(readText(file));
    if (!read.ok) throw new UsageProblem(`${file} ${read.why}; write it again with --write-baseline`);
    const { report: fresh, known, gone, isEarlier } = againstBaseline(report, read.baseline);
    if (isEarlier) this.say(`enredo: ${file} was written by an earlier edition; write it again with --write-baseline`);
    if (known > 0) this.say(`enredo: ${known} known by ${file}`);
    if (gone.length > 0) {
      this.say(
        `enredo: ${gone.length} of ${file} ${gone.length === 1 ? "is" : "are"} gone; --write-baseline makes it shorter`,
        ...gone.slice(0, 5).map(({ rule, app, message }) => `  gone: ${app} ${rule} ${message}`),
      );
    }
    return fresh;
  }

  /** The answer as flat lines, for `enredo fleet` and databases. */
  private async lines(project: Project, shown: ReportOutline, flags: CheckFlags): Promise<Exact> {
    const [survey, permits, { answerLines }] = await Promise.all([project.survey(), project.permits(), import("../views/json/lines.js")]);
    const lines = answerLines(
      { ...shown, survey },
      permits.map(({ answer }) => answer),
      { project: flags.project ?? path.basename(project.root), at: this.now().toISOString(), tool: this.config.version },
    );
    return new Exact(lines.map((line) => this.line(line)).join(""));
  }

  private async rendered(dir: string, report: ReportOutline, format: string, flags: CheckFlags): Promise<string | Exact> {
    switch (format) {
      case "json":
        return this.json((await import("../views/json/documents.js")).checkDocument(report));
      case "sarif": {
        const [{ sarifLog }, { RULES }] = await Promise.all([import("../views/ci/sarif.js"), core()]);
        return this.json(sarifLog(report, RULES, this.config.version));
      }
      case "junit": {
        const [{ junitXml }, { RULES }] = await Promise.all([import("../views/ci/junit.js"), core()]);
        return new Exact(junitXml(report, RULES, (severity) => flags["fail-on"] !== "never" && rank(severity) <= rank(flags["fail-on"])));
      }
      case "markdown":
        return (await import("../views/markdown/check.js")).checkMarkdown(report);
      case "github":
        return new Exact((await import("../views/ci/annotations.js")).githubAnnotations(report));
      case "gitlab":
        return this.json((await import("../views/ci/annotations.js")).codeQuality(report));
      default: {
        const { checkText } = await import("../views/text/check.js");
        return checkText(report, this.style(flags, flags.output !== undefined), {
          verbose: flags.verbose ?? false,
          quiet: flags.quiet ?? false,
          groupBy: flags["group-by"] as Grouping,
          dir,
        });
      }
    }
  }
}
