import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { Args, Command, Flags } from "@oclif/core";
import type { Report, ReportOutline } from "../core/project/check.js";
import type { Survey } from "../core/model/app.js";
import type { SideName } from "../core/model/facts.js";
import { DiskTree } from "../core/files/disk.js";
import type { FileTree } from "../core/files/tree.js";
import { openProject, sheetsIn, type Project } from "../core/project/open.js";
import { isProjectProblem, type ProjectProblem } from "../core/project/problem.js";
import type { LoadedSettings } from "../core/settings/load.js";
import type { LoadedSheets } from "../core/sheets/load.js";
import { safeAddresses } from "../core/model/address.js";
import { suggestion } from "../core/model/suggest.js";
import { createSupportsHyperlinks } from "supports-hyperlinks";
import { clean, forStream, styleFor, type Style } from "../views/text/style.js";
import { core } from "./core.js";
import { readingsPlace } from "./readings-place.js";

/** A failure that the reader can do something about; ends with exit code 2. */
export class UsageProblem extends Error {
  readonly code = "usage";
}

/** Whether an error is one that the reader can do something about, with words for it. */
export function isTold(error: unknown): error is UsageProblem | ProjectProblem {
  return error instanceof UsageProblem || isProjectProblem(error);
}

/** Text in a format that is read by programs: it is written as it is. */
export class Exact {
  constructor(readonly text: string) {}
}

export const DIR_ARG = { dir: Args.string({ description: "folder to look at", default: "." }) };

/** Under which heading of a command's help the options stand that all have. */
const COMMON = "COMMON";

export const COMMON_FLAGS = {
  json: Flags.boolean({ helpGroup: COMMON, description: "print one JSON document and nothing else" }),
  app: Flags.string({ helpGroup: COMMON, description: "only this app", helpValue: "NAME" }),
  side: Flags.string({ helpGroup: COMMON, description: "only this side", options: ["android", "ios"] }),
  sheets: Flags.string({
    helpGroup: COMMON,
    description: "folder with further sheets (may be repeated)",
    multiple: true,
    multipleNonGreedy: true,
    helpValue: "DIR",
  }),
  packages: Flags.string({
    helpGroup: COMMON,
    description: "folder with fetched packages: a Gradle home, a Maven repository, NuGet's or Xcode's (may be repeated)",
    multiple: true,
    multipleNonGreedy: true,
    helpValue: "DIR",
  }),
  config: Flags.string({ helpGroup: COMMON, description: "settings file to use instead of enredo.yaml", helpValue: "FILE" }),
  "no-color": Flags.boolean({ helpGroup: COMMON, description: "print without colours (as the variable NO_COLOR does)" }),
  "no-cache": Flags.boolean({ helpGroup: COMMON, description: "read everything again, ignore what earlier runs kept, and keep nothing" }),
  quiet: Flags.boolean({ helpGroup: COMMON, description: "print findings and results only" }),
  verbose: Flags.boolean({ helpGroup: COMMON, description: "print everything, and stack traces of failures" }),
};

export interface CommonFlags {
  json?: boolean;
  app?: string;
  side?: string;
  config?: string;
  sheets?: string[];
  packages?: string[];
  "no-color"?: boolean;
  "no-cache"?: boolean;
  quiet?: boolean;
  verbose?: boolean;
}

/** A project that was read, with the settings and sheets that hold for it. */
export interface Loaded {
  project: Project;
  survey: Survey;
  loaded: LoadedSettings;
  sheets: LoadedSheets;
}

/** What all commands share: how they find the project, where output goes, how failures become words. */
export abstract class EnredoCommand extends Command {
  private wantsTrace = false;
  private colored = false;

  protected style(flags: CommonFlags, toFile = false): Style {
    const forced = process.env.FORCE_COLOR !== undefined && process.env.FORCE_COLOR !== "0" && process.env.FORCE_COLOR !== "";
    const terminal = process.stdout.isTTY === true && process.env.TERM !== "dumb";
    const color = !toFile && !flags["no-color"] && !process.env.NO_COLOR && (forced || terminal);
    const columns = Number(process.env.COLUMNS) || process.stdout.columns || 100;
    this.colored = color;
    return styleFor({ color, width: columns, link: color && process.stdout.isTTY ? this.linked() : undefined });
  }

  private root: string | undefined;

  /** Places as links to their file, in terminals that say that they know them. */
  private linked(): ((text: string) => string) | undefined {
    const { root } = this;
    if (root === undefined || !createSupportsHyperlinks(process.stdout)) return undefined;
    return (text) => {
      const file = /^(.*?):\d+:\d+$/.exec(text)?.[1];
      // Source: the convention for links in terminals, OSC 8.
      return file === undefined ? text : `\u001b]8;;${pathToFileURL(path.resolve(root, file)).href}\u001b\\${text}\u001b]8;;\u001b\\`;
    };
  }

  /** A folder, or files that lie somewhere else, with the options that all commands have; `signal` ends its reading. */
  protected project(from: string | FileTree, flags: CommonFlags, signal?: AbortSignal): Project {
    this.wantsTrace = flags.verbose ?? false;
    if (typeof from === "string") this.root = path.resolve(from);
    const place = flags["no-cache"] ? undefined : readingsPlace();
    return openProject(from, {
      settings: flags.config,
      sheets: flags.sheets,
      packages: flags.packages,
      app: flags.app,
      signal,
      cache: place && { folder: place.folder, build: `${place.build} ${this.config.version}` },
    });
  }

  /** Reads the settings and surveys the folder; an app or a folder that is not there ends the command. */
  protected async load(from: string | FileTree, flags: CommonFlags): Promise<Loaded> {
    const project = this.project(from, flags);
    const survey = await this.atWork(flags, project.survey());
    return { project, survey, loaded: await project.settings(), sheets: await project.sheets() };
  }

  /** A long run says that it is at work; a short one is over before. */
  private async atWork<Answer>(flags: CommonFlags, work: Promise<Answer>): Promise<Answer> {
    const progress =
      process.stderr.isTTY && !flags.quiet && !flags.json ? setTimeout(() => process.stderr.write("enredo: reading …\r"), 800) : undefined;
    return work.finally(() => clearTimeout(progress));
  }

  /** The sheets of a folder, without a look at its apps. */
  protected async loadSheetFiles(dir: string, folders: readonly string[]): Promise<{ loaded: LoadedSheets; count: number }> {
    const { ProjectFiles, findSheets, folderIndex, loadSheets, noSettings } = await core();
    const project = new ProjectFiles(new DiskTree(path.resolve(dir)));
    // The folder may be one of sheets itself.
    const itself =
      !folders.some((folder) => path.resolve(folder) === path.resolve(dir)) &&
      project.tree.list("").some(({ name, kind }) => kind === "file" && /\.sdk\.ya?ml$/.test(name));
    const files = [...sheetsIn(itself ? [...folders, dir] : folders), ...findSheets(project, folderIndex(project, noSettings()))];
    return { loaded: await loadSheets(files), count: files.length };
  }

  /** Says on stderr what is wrong in sheets, for commands whose answer is about something else. */
  protected warnOf(problems: readonly { message: string; place: { file: string; line: number } }[]): void {
    this.say(...problems.slice(0, 5).map(({ message, place }) => `enredo: ${place.file}:${place.line}: ${message}`));
    if (problems.length > 5) this.say(`enredo: and ${problems.length - 5} more; see \`enredo sheet check\``);
  }

  /** The findings of a project. */
  protected async findingsOf(project: Project, flags: CommonFlags): Promise<ReportOutline> {
    return onlySide(await this.atWork(flags, project.findings()), flags);
  }

  protected async reportOf(project: Project, flags: CommonFlags): Promise<Report> {
    return onlySide(await project.check(), flags);
  }

  /**
   * Writes to stdout, or to a file when one is asked for. Text is cleaned of what comes from files and would do something where it is
   * shown.
   */
  protected output(text: string | Exact, file?: string): void {
    const shown = text instanceof Exact ? text.text : forStream(text, file === undefined && this.colored);
    if (file === undefined) {
      process.stdout.write(shown);
      return;
    }
    try {
      mkdirSync(path.dirname(path.resolve(file)), { recursive: true });
      writeFileSync(file, shown);
    } catch (error) {
      throw new UsageProblem(`${file} cannot be written: ${(error as Error).message}`);
    }
  }

  /** A document as text: signs that a terminal would not show stand in it as `\\u`; `safe` says that no address in it has to be looked at. */
  protected json(document: unknown, safe = false): Exact {
    const text = visible(JSON.stringify(document, undefined, 2));
    return new Exact(`${safe ? text : safeAddresses(text)}\n`);
  }

  /** A document as one line. */
  protected line(document: unknown): string {
    return `${safeAddresses(visible(JSON.stringify(document)))}\n`;
  }

  /** The time of the answer. Source of the variable: reproducible-builds.org, "SOURCE_DATE_EPOCH". */
  protected now(): Date {
    const epoch = process.env.SOURCE_DATE_EPOCH;
    return epoch !== undefined && /^\d{1,11}$/.test(epoch) ? new Date(Number(epoch) * 1000) : new Date();
  }

  /** One line on stderr for each text. */
  protected say(...texts: string[]): void {
    for (const text of texts) process.stderr.write(forStream(`${clean(text)}\n`, false));
  }

  protected override async catch(error: Error & { exitCode?: number; oclif?: { exit?: number } }): Promise<void> {
    if (isTold(error)) {
      this.say(`enredo: ${error.message}`);
      if (this.wantsTrace) process.stderr.write(`${error.stack ?? ""}\n`);
      this.exit(2);
    }
    if (error.oclif?.exit !== undefined && !isUsageError(error)) throw error;
    const [head = "", next = ""] = error.message.split("\n");
    // What is missing stands in the next line.
    const first = head.endsWith(":") ? `${head} ${next.trim().replace(/\s{2,}/g, ": ")}` : head;
    this.say(`enredo: ${first}`);
    if (isUsageError(error)) process.stderr.write(`${this.flagHint(first)}See \`enredo ${this.id ?? ""} --help\`.\n`);
    if (this.wantsTrace || process.argv.includes("--verbose")) process.stderr.write(`${error.stack ?? ""}\n`);
    this.exit(2);
  }

  /** A misspelt option gets the nearest one. */
  private flagHint(message: string): string {
    const wrong = /Nonexistent flags?: (--?[\w-]+)/.exec(message)?.[1];
    if (!wrong) return "";
    const near = suggestion(
      wrong,
      Object.keys((this.constructor as typeof Command).flags).map((name) => `--${name}`),
    );
    return near ? `${near}\n` : "";
  }
}

/** JSON in which signs that a terminal would not show stand as `\\u`. */
function visible(json: string): string {
  return json.replace(
    /[\u007f-\u009f\u061c\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`,
  );
}

function isUsageError(error: Error): boolean {
  return /(Nonexistent flag|Unexpected argument|Missing \d+ required|expects a value|Expected --|Parsing --|not allowed)/.test(
    error.message,
  );
}

function onlySide<Kind extends ReportOutline>(report: Kind, flags: CommonFlags): Kind {
  const side = flags.side as SideName | undefined;
  if (side === undefined) return report;
  const keep = <T extends { side?: SideName }>(items: T[]): T[] => items.filter((item) => item.side === undefined || item.side === side);
  const findings = keep(report.findings);
  const count = (severity: string): number => findings.filter((finding) => finding.severity === severity).length;
  return {
    ...report,
    findings,
    accepted: keep(report.accepted),
    blindSpots: keep(report.blindSpots),
    summary: { ...report.summary, errors: count("error"), warnings: count("warning"), notes: count("note") },
  };
}

export function readText(file: string): string {
  try {
    return readFileSync(file, "utf8");
  } catch (error) {
    throw new UsageProblem(`${file} cannot be read: ${(error as Error).message}`);
  }
}

const RANK: Record<string, number> = { error: 0, warning: 1, note: 2 };

/** The place of a severity, the worst first. */
export function rank(severity: string): number {
  return RANK[severity] ?? 0;
}
