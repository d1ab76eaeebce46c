import { createReadStream, existsSync, readdirSync, statSync } from "node:fs";
import path from "node:path";
import { pipeline, type Readable } from "node:stream";
import { Args, Flags } from "@oclif/core";
import split from "split2";
import type { Fleet } from "../core/fleet/fleet.js";
import type { Policy } from "../core/settings/settings.js";
import { COMMON_FLAGS, EnredoCommand, Exact, readText, UsageProblem } from "./base.js";
import { core } from "./core.js";

const FORMATS = ["text", "json", "csv", "html"];

/** Of a line, in bytes: no line of the tool is that long. */
const LONGEST_LINE = 1024 * 1024;

/** A source of lines: what it is called, and its text. */
interface LineSource {
  name: string;
  open: () => Readable;
}

export default class FleetCommand extends EnredoCommand {
  static override summary = "Many apps together: SDK versions and who is behind, levels, rules, permissions, from the results of each CI";
  static override description =
    "Reads what `enredo check --format ndjson` wrote in each repository: files, folders with *.ndjson and *.jsonl, or `-` for stdin. Of each project the newest answer counts. Exit codes: 0 the policy holds or there is none, 1 an app does not keep to the policy, 2 nothing could be read.";
  static override examples = [
    "<%= config.bin %> fleet answers/",
    "<%= config.bin %> fleet answers/ --config policy.yaml --format html --output fleet.html",
    "cat answers/*.ndjson | <%= config.bin %> fleet - --format csv",
  ];
  static override strict = false;
  static override args = { file: Args.string({ description: "files or folders with answers; - for stdin", required: true }) };
  static override flags = {
    json: COMMON_FLAGS.json,
    config: Flags.string({ description: "settings file with the `policy`; default: enredo.yaml in this folder", helpValue: "FILE" }),
    format: Flags.string({ description: "output format", options: FORMATS, default: "text" }),
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
    "no-color": COMMON_FLAGS["no-color"],
    quiet: COMMON_FLAGS.quiet,
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { argv, flags } = await this.parse(FleetCommand);
    const policy = await this.policy(flags.config);
    const { FleetTally, fleetOf, unusedSdks } = await core();
    const tally = new FleetTally();
    for (const source of this.sources(argv as string[])) {
      try {
        const lines = split(/\r?\n/, { maxLength: LONGEST_LINE });
        // What fails here ends the lines with the same error.
        pipeline(source.open(), lines, () => {});
        await tally.read(source.name, lines as AsyncIterable<string>);
      } catch (error) {
        const { message } = error as Error;
        const why =
          message === "maximum buffer reached" ? `a line is longer than ${LONGEST_LINE / 1024} kB, which none of an answer is` : message;
        tally.problems.push({ at: source.name, message: `cannot be read to its end: ${why}` });
      }
    }
    const fleet = fleetOf(tally, policy, this.now().toISOString().slice(0, 10));
    if (fleet.projects === 0 && fleet.unanswered.length === 0) {
      this.say(...fleet.problems.map(({ at, message }) => `enredo: ${at}: ${message}`));
      throw new UsageProblem("there is no answer in what was given; `enredo check --format ndjson --output FILE` writes one");
    }
    if (policy) this.say(...unusedSdks(fleet, policy).map((text) => `enredo: ${text}`));
    const format = flags.json ? "json" : flags.format;
    if (format !== "json") this.say(...fleet.problems.map(({ at, message }) => `enredo: ${at}: ${message}`));
    this.output(await this.rendered(fleet, format, flags), flags.output);
    process.exitCode = fleet.violations.length > 0 ? 1 : 0;
  }

  private async rendered(
    fleet: Fleet,
    format: string,
    flags: { verbose?: boolean; quiet?: boolean; "no-color"?: boolean; output?: string | undefined },
  ): Promise<string | Exact> {
    switch (format) {
      case "json":
        return this.json((await import("../views/json/fleet.js")).fleetDocument(fleet));
      case "csv":
        return new Exact((await import("../views/json/fleet.js")).fleetCsv(fleet));
      case "html":
        return (await import("../views/html/fleet.js")).fleetPage(fleet);
      default: {
        const { fleetText } = await import("../views/text/fleet.js");
        return fleetText(fleet, this.style(flags, flags.output !== undefined), {
          verbose: flags.verbose ?? false,
          quiet: flags.quiet ?? false,
        });
      }
    }
  }

  private async policy(file: string | undefined): Promise<Policy | undefined> {
    const found = file ?? ["enredo.yaml", "enredo.yml"].find((name) => existsSync(name));
    if (found === undefined) return undefined;
    if (!existsSync(found)) throw new UsageProblem(`there is no settings file ${found}`);
    const { loadSettings, RULE_NAMES } = await core();
    const { settings, problems } = await loadSettings(found, readText(found), RULE_NAMES);
    const [first] = problems;
    // A policy that is read in part would let something through.
    if (first && (file !== undefined || settings.policy))
      throw new UsageProblem(`${first.place.file}:${first.place.line}: ${first.message}; ${first.fix}`);
    if (file !== undefined && !settings.policy) throw new UsageProblem(`${file} has no policy; docs/how-to/fleet.md shows one`);
    return settings.policy;
  }

  private sources(given: readonly string[]): LineSource[] {
    return given.flatMap((name): LineSource[] => {
      if (name === "-") return [{ name: "stdin", open: () => process.stdin }];
      const stat = statSync(name, { throwIfNoEntry: false });
      if (!stat) throw new UsageProblem(`there is no file ${name}`);
      const files = stat.isDirectory() ? linesIn(name) : [name];
      if (files.length === 0) throw new UsageProblem(`no *.ndjson and no *.jsonl file lies in ${name}`);
      return files.map((file) => ({ name: file.split(path.sep).join("/"), open: () => createReadStream(file) }));
    });
  }
}

/** The files with lines below a folder, in an order that is always the same. */
function linesIn(folder: string): string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(ndjson|jsonl)$/i.test(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name))
    .sort((a, b) => (a < b ? -1 : 1));
}
