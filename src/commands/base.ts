import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { homedir } from "node:os";
import { pathToFileURL } from "node:url";
import { Args, Command, Flags } from "@oclif/core";
import type { Report, ReportOutline } from "../core/project/check.js";
import { outlineOf, type Survey } from "../core/model/app.js";
import type { SideName } from "../core/model/facts.js";
import type { SnapshotCache } from "../core/project/cache/snapshot-cache.js";
import { DiskTree } from "../core/files/disk.js";
import type { FileTree } from "../core/files/tree.js";
import type { mavenStoreAt, MavenStore } from "../core/gather/packages/maven-store.js";
import type { LoadedSettings } from "../core/settings/load.js";
import type { LoadedSheets, SheetFile } from "../core/sheets/load.js";
import { safeAddresses } from "../core/model/address.js";
import { choices, suggestion } from "../core/model/suggest.js";
import { withoutPatterns, withPatterns } from "../core/sheets/patterns.js";
import { createSupportsHyperlinks } from "supports-hyperlinks";
import { clean, forStream, styleFor, type Style } from "../views/text/style.js";
import { core } from "./core.js";
import { earlyParser } from "./early-parser.js";
import { readingCache } from "./snapshot-cache.js";

/** A failure that the reader can do something about; ends with exit code 2. */
export class UsageProblem extends Error {}

/** Text in a format that is read by programs: it is written as it is. */
export class Exact {
  constructor(readonly text: string) {}
}

export const DIR_ARG = { dir: Args.string({ description: "folder to look at", default: "." }) };

export const COMMON_FLAGS = {
  json: Flags.boolean({ description: "print one JSON document and nothing else" }),
  app: Flags.string({ description: "only this app", helpValue: "NAME" }),
  side: Flags.string({ description: "only this side", options: ["android", "ios"] }),
  sheets: Flags.string({
    description: "folder with further sheets (may be repeated)",
    multiple: true,
    multipleNonGreedy: true,
    helpValue: "DIR",
  }),
  packages: Flags.string({
    description: "folder where fetched Android packages lie: a home of Gradle, or a Maven repository (may be repeated)",
    multiple: true,
    multipleNonGreedy: true,
    helpValue: "DIR",
  }),
  config: Flags.string({ description: "settings file to use instead of enredo.yaml", helpValue: "FILE" }),
  "no-color": Flags.boolean({ description: "print without colours (as the variable NO_COLOR does)" }),
  "no-cache": Flags.boolean({ description: "read everything anew, whatever earlier runs kept, and keep nothing" }),
  quiet: Flags.boolean({ description: "print findings and results only" }),
  verbose: Flags.boolean({ description: "print everything, and stack traces of failures" }),
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

/**
 * Folders in which fetched packages lie, as absolute paths: those that are given, else the home of Gradle.
 * Source: docs.gradle.org, "The Directories and Files Gradle Uses".
 */
function packageFolders(given: readonly string[] | undefined): string[] {
  if (given) {
    for (const folder of given)
      if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory()) throw new UsageProblem(`there is no folder of packages ${folder}`);
    return given.map((folder) => path.resolve(folder));
  }
  const home = process.env.GRADLE_USER_HOME || path.join(homedir(), ".gradle");
  return existsSync(path.join(home, "caches", "modules-2", "files-2.1")) ? [path.resolve(home)] : [];
}

/** The same folders as a tree of the project reaches them; what lies on another drive is not reached. */
function storesOf(tree: FileTree, folders: readonly string[], storeAt: typeof mavenStoreAt): MavenStore[] {
  if (tree.place === undefined || !path.isAbsolute(tree.place)) return [];
  const from = tree.place;
  return folders.flatMap((folder) => {
    const relative = path.relative(from, folder);
    return path.isAbsolute(relative) ? [] : (storeAt(tree, relative.split(path.sep).join("/")) ?? []);
  });
}

/** A project that was read, with the settings and sheets that hold for it. */
export interface Loaded {
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

  /** Reads the settings and surveys the folder; an app or a folder that is not there ends the command. */
  protected async load(dir: string, flags: CommonFlags): Promise<Loaded> {
    return onlyApp(await ready(await this.open(dir, flags, await this.cacheOf(dir, flags))), flags);
  }

  /** The same for files that lie somewhere else than in a folder. */
  protected async loadTree(tree: FileTree, flags: CommonFlags): Promise<Loaded> {
    return onlyApp(await this.read(tree, flags), flags);
  }

  /** What earlier runs kept of a folder; `undefined` where nothing is to be kept. */
  private async cacheOf(dir: string, flags: CommonFlags): Promise<SnapshotCache<Loaded> | undefined> {
    this.wantsTrace = flags.verbose ?? false;
    return flags["no-cache"] ? undefined : readingCache<Loaded>(this.treeOf(dir, flags), this.dependsOn(flags));
  }

  private treeOf(dir: string, flags: CommonFlags): DiskTree {
    const root = path.resolve(dir);
    const stat = statSync(root, { throwIfNoEntry: false });
    if (!stat) throw new UsageProblem(`there is no folder ${dir}`);
    if (!stat.isDirectory()) throw new UsageProblem(`${dir} is a file; give the folder of the project`);
    const tree = new DiskTree(root, packageFolders(flags.packages));
    tree.list("");
    if (tree.unreadable.has("")) throw new UsageProblem(`the folder ${dir} cannot be read: ${tree.unreadable.get("") ?? ""}`);
    this.root = root;
    return tree;
  }

  /** What is known of a folder: as an earlier run kept it, when nothing changed since, else read now. Its sheets have no patterns yet. */
  private async open(dir: string, flags: CommonFlags, cache: SnapshotCache<Loaded> | undefined): Promise<Loaded> {
    const kept = cache?.kept();
    if (kept) return kept;
    const read = await this.read(cache?.tree ?? this.treeOf(dir, flags), flags);
    const loaded = { ...read, sheets: { ...read.sheets, sheets: withoutPatterns(read.sheets.sheets) } };
    if (!loaded.survey.cutShort) cache?.keep(loaded);
    return loaded;
  }

  /** What an answer depends on besides the project's files. */
  private dependsOn(flags: CommonFlags): string[] {
    const config = flags.config === undefined ? [] : ["settings", flags.config, settingsText(flags.config)];
    const sheets = this.sheetFolders(flags.sheets ?? []).flatMap(({ file, text }) => ["sheet", file, text]);
    return [this.config.version, ...config, ...sheets, ...packageFolders(flags.packages)];
  }

  private async read(tree: FileTree, flags: CommonFlags): Promise<Loaded> {
    const { root } = tree;
    const parser = earlyParser(root);
    const { adoptParser, survey, ProjectFiles, loadSettings, noSettings, findSettings, findSheets, folderIndex, mavenStoreAt, ...rest } =
      await core();
    const { loadSheets, prepareParser, RULE_NAMES } = rest;
    adoptParser(parser);
    let loaded: LoadedSettings = { settings: noSettings(), problems: [] };
    const own = findSettings(tree);
    if (flags.config !== undefined) {
      loaded = await loadSettings(flags.config, settingsText(flags.config), RULE_NAMES);
    } else if (own !== undefined) {
      const read = tree.read(own);
      if (!read.ok) throw new UsageProblem(`${own} cannot be read: ${read.why}`);
      loaded = await loadSettings(own, Buffer.from(read.bytes).toString("utf8"), RULE_NAMES);
    }
    // A long run says that it is at work; a short one is over before.
    const progress =
      process.stderr.isTTY && !flags.quiet && !flags.json ? setTimeout(() => process.stderr.write("enredo: reading …\r"), 800) : undefined;
    const project = new ProjectFiles(tree, storesOf(tree, packageFolders(flags.packages), mavenStoreAt));
    prepareParser(project, loaded.settings);
    const sheets = await loadSheets([
      ...this.sheetFolders(flags.sheets ?? []),
      ...findSheets(project, folderIndex(project, loaded.settings)),
    ]);
    const found = await survey(project, loaded.settings, sheets.sheets);
    clearTimeout(progress);
    if (found.apps.length === 0) {
      const [first] = found.unreadable;
      const unread = first ? `; ${first.file}:${first.place.line} could not be read: ${first.message}` : "";
      const [bare] = found.withoutNative;
      const shared = bare ? `; ${await withoutNativeText(bare)}` : "";
      const seen = found.noApps
        .slice(0, 5)
        .map(({ file, why }) => `; ${file} is none: ${why}`)
        .join("");
      throw new UsageProblem(
        `no app found in ${root}: an Android app has a Gradle module with an applicationId, an iOS app an .xcodeproj with an application target${shared}${seen}${unread}`,
      );
    }
    return { survey: found, loaded, sheets };
  }

  /** The sheets of a folder, without a look at its apps. */
  protected async loadSheetFiles(dir: string, folders: readonly string[]): Promise<{ loaded: LoadedSheets; count: number }> {
    const { ProjectFiles, findSheets, folderIndex, loadSheets, noSettings } = await core();
    const project = new ProjectFiles(new DiskTree(path.resolve(dir)));
    const files = [...this.sheetFolders(folders), ...findSheets(project, folderIndex(project, noSettings()))];
    return { loaded: await loadSheets(files), count: files.length };
  }

  /** Says on stderr what is wrong in sheets, for commands whose answer is about something else. */
  protected warnOf(problems: readonly { message: string; place: { file: string; line: number } }[]): void {
    this.say(...problems.slice(0, 5).map(({ message, place }) => `enredo: ${place.file}:${place.line}: ${message}`));
    if (problems.length > 5) this.say(`enredo: and ${problems.length - 5} more; see \`enredo sheet check\``);
  }

  /** The sheets in folders outside the project. */
  protected sheetFolders(folders: readonly string[]): SheetFile[] {
    return folders.flatMap((folder) => {
      if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory()) throw new UsageProblem(`there is no folder of sheets ${folder}`);
      return readdirSync(folder)
        .filter((name) => /\.sdk\.ya?ml$/.test(name))
        .sort()
        .map((name) => ({ file: path.join(folder, name).split(path.sep).join("/"), text: readText(path.join(folder, name)) }));
    });
  }

  /** The findings of a folder. */
  protected async checkReport(dir: string, flags: CommonFlags): Promise<ReportOutline> {
    const cache = await this.cacheOf(dir, flags);
    // What is judged depends on the day, as acceptances end.
    const judged = flags.app === undefined ? (cache?.made("report") as Judged | undefined) : undefined;
    if (judged?.day === today()) return onlySide(judged.report, flags);
    const report = await this.judge(onlyApp(await ready(await this.open(dir, flags, cache)), flags));
    const outline: ReportOutline = { ...report, survey: outlineOf(report.survey) };
    if (flags.app === undefined) cache?.keepMade("report", { day: today(), report: outline });
    return onlySide(outline, flags);
  }

  protected async reportOf(loaded: Loaded, flags: CommonFlags): Promise<Report> {
    return onlySide(await this.judge(loaded), flags);
  }

  private async judge({ survey, loaded, sheets }: Loaded): Promise<Report> {
    const { check } = await core();
    return check(survey, {
      settings: loaded.settings,
      settingsProblems: loaded.problems,
      sheets: sheets.sheets,
      sheetProblems: sheets.problems,
      today: today(),
    });
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
    const text = JSON.stringify(document, undefined, 2).replace(
      /[\u007f-\u009f\u061c\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff]/g,
      (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`,
    );
    return new Exact(`${safe ? text : safeAddresses(text)}\n`);
  }

  /** One line on stderr for each text. */
  protected say(...texts: string[]): void {
    for (const text of texts) process.stderr.write(forStream(`${clean(text)}\n`, false));
  }

  protected override async catch(error: Error & { exitCode?: number; oclif?: { exit?: number } }): Promise<void> {
    if (error instanceof UsageProblem) {
      this.say(`enredo: ${error.message}`);
      if (this.wantsTrace) process.stderr.write(`${error.stack ?? ""}\n`);
      this.exit(2);
    }
    if (error.oclif?.exit !== undefined && !isUsageError(error)) throw error;
    const [first = ""] = error.message.split("\n");
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

function isUsageError(error: Error): boolean {
  return /(Nonexistent flag|Unexpected argument|Missing \d+ required|expects a value|Expected --|Parsing --|not allowed)/.test(
    error.message,
  );
}

/** Findings as they are kept. */
interface Judged {
  day: string;
  report: ReportOutline;
}

function today(): string {
  return new Date().toISOString().slice(0, 10);
}

/** With the patterns of its sheets, as rules and traces need it. */
async function ready(loaded: Loaded): Promise<Loaded> {
  return { ...loaded, sheets: { ...loaded.sheets, sheets: await withPatterns(loaded.sheets.sheets) } };
}

function onlyApp(read: Loaded, flags: CommonFlags): Loaded {
  if (flags.app === undefined) return read;
  const apps = read.survey.apps.filter(({ name }) => name.toLowerCase() === flags.app?.toLowerCase());
  if (apps.length === 0) {
    const names = read.survey.apps.map(({ name }) => name);
    throw new UsageProblem(`no app is called "${flags.app}"; ${choices(flags.app, names, "app")}`);
  }
  return { ...read, survey: { ...read.survey, apps } };
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

async function withoutNativeText({ folder, kind }: Survey["withoutNative"][number]): Promise<string> {
  const { KIND_TITLES } = await import("../views/text/check.js");
  return `${folder === "" ? "this folder" : folder} holds a ${KIND_TITLES[kind]} app without a native project: add its platforms first`;
}

function settingsText(file: string): string {
  if (!existsSync(file)) throw new UsageProblem(`there is no settings file ${file}`);
  return readText(file);
}

const RANK: Record<string, number> = { error: 0, warning: 1, note: 2 };

/** The place of a severity, the worst first. */
export function rank(severity: string): number {
  return RANK[severity] ?? 0;
}
