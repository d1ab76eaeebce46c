import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { homedir } from "node:os";
import path from "node:path";
import { DiskTree } from "../files/disk.js";
import type { FileTree } from "../files/tree.js";
import type { LevelRow } from "../derive/level-table.js";
import { outlineOf, type App, type Survey } from "../model/app.js";
import { choices } from "../model/suggest.js";
import type { Trace } from "../needs/index.js";
import type { LoadedSettings } from "../settings/load.js";
import type { LoadedSheets, SheetFile } from "../sheets/load.js";
import { withoutPatterns, withPatterns } from "../sheets/patterns.js";
import { SnapshotCache } from "./cache/snapshot-cache.js";
import type { CheckOptions, Report, ReportOutline, RuleFindings } from "./check.js";
import type { CompareRow } from "./compare.js";
import type { AppDiff } from "./diff.js";
import { earlyParser, isParsed } from "./early-parser.js";
import { answers } from "./lazily.js";
import type { PatchPlan } from "./patch/plan.js";
import type { AppPermits } from "./permits.js";
import { ProjectProblem } from "./problem.js";
import type { ProjectReading, ReadingInputs, ReadingStep } from "./read.js";
import type { SideStartup } from "./startup.js";
import { reason, reasonText } from "../model/reason.js";

/** How a project is read. All of it may be left out. */
export interface ProjectOptions {
  /** A settings file in place of the project's `enredo.yaml`. */
  settings?: string | undefined;
  /** Folders with further sheets (`*.sdk.yaml`), beside those of the project. */
  sheets?: readonly string[] | undefined;
  /**
   * Folders where fetched packages lie: homes of Gradle, Maven repositories, NuGet's packages, Xcode's derived data. Without it those of this
   * machine, where there are any; an empty list reads none.
   */
  packages?: readonly string[] | undefined;
  /** Only the app of this name, in any case. */
  app?: string | undefined;
  /** The day of the answers, `YYYY-MM-DD`: acceptances end, stores change what they ask for. Today where it is left out. */
  today?: string | undefined;
  /**
   * Where readings are kept between runs, an absolute path, and what tells this edition of the program from another. A kept reading is used as
   * long as every file and folder that it rests on is the same; where some are not, what rests on the others is used. It is written on the next
   * turn, when the answer is out. Without it nothing is kept.
   */
  cache?: { folder: string; build: string } | undefined;
  /** Ends the reading with the signal's reason. */
  signal?: AbortSignal | undefined;
  /** Told what the reading is at: settings, sheets, files (once for each app), rules. */
  onProgress?: ((step: ReadingStep) => void) | undefined;
}

/** An app, and what was found out about it. */
export interface OfApp<Answer> {
  app: App;
  answer: Answer;
}

/**
 * Opens a project: a folder, or files that lie elsewhere. Nothing is read before the first question; each question after that is answered from
 * the same reading.
 * @throws ProjectProblem where the folder, or one of the files and folders in the options, is not there or cannot be read
 */
export function openProject(from: string | FileTree, options: ProjectOptions = {}): Project {
  const inputs = {
    settings: settingsFile(options.settings),
    sheets: sheetsIn(options.sheets ?? []),
    packages: packageFolders(options.packages),
  };
  return new Project(typeof from === "string" ? diskTree(from, inputs.packages) : from, options, inputs);
}

function diskTree(dir: string, packages: readonly string[]): DiskTree {
  const root = path.resolve(dir);
  const stat = statSync(root, { throwIfNoEntry: false });
  if (!stat) throw new ProjectProblem("folder-missing", `there is no folder ${dir}`);
  if (!stat.isDirectory()) throw new ProjectProblem("not-a-folder", `${dir} is a file; give the project's folder`);
  const tree = new DiskTree(root, packages);
  tree.list("");
  if (tree.unreadable.has(""))
    throw new ProjectProblem(
      "folder-unreadable",
      `the folder ${dir} cannot be read: ${reasonText(tree.unreadable.get("") ?? reason("system-refuses"))}`,
    );
  return tree;
}

/** A project that was opened. Its answers are the program's. */
export class Project {
  private readonly cache: SnapshotCache<ProjectReading> | undefined;
  private reading: Promise<ProjectReading> | undefined;
  private report: Promise<Report> | undefined;
  /** Whether the reading was made in this run. */
  private fresh = false;

  /** @see openProject */
  constructor(
    private readonly files: FileTree,
    private readonly options: ProjectOptions,
    private readonly inputs: Pick<ReadingInputs, "settings" | "sheets" | "packages">,
  ) {
    const { cache } = options;
    this.cache =
      cache && files instanceof DiskTree ? new SnapshotCache(cache.folder, [cache.build, ...this.dependsOn()], files) : undefined;
  }

  /** The folder of the project, an absolute path. */
  get root(): string {
    return this.files.root;
  }

  /** Everything that was found: apps with their sides, packages, levels, entries, calls. */
  async survey(): Promise<Survey> {
    return (await this.read()).survey;
  }

  /** The settings that hold, and what is wrong in them. */
  async settings(): Promise<LoadedSettings> {
    return (await this.read()).settings;
  }

  /** The sheets of the project and of the options, and what is wrong in them. */
  async sheets(): Promise<LoadedSheets> {
    return (await this.read()).sheets;
  }

  /** The findings, with the survey that they are about. */
  async check(): Promise<Report> {
    this.report ??= this.judge().catch((error: unknown) => {
      this.report = undefined;
      throw error;
    });
    return this.report;
  }

  /**
   * The findings, and of the survey only the names of the apps. Where an earlier run of this day kept its answer, nothing else is loaded.
   */
  async findings(): Promise<ReportOutline> {
    const kept = this.options.app === undefined ? (this.cache?.made("report") as Judged | undefined) : undefined;
    if (kept?.day === this.today) return kept.report;
    const report = await this.check();
    const outline: ReportOutline = { ...report, survey: outlineOf(report.survey) };
    if (this.options.app === undefined) this.cache?.keepMade("report", { day: this.today, report: outline });
    return outline;
  }

  /** For each app its levels: declared where, in effect, asked for by whom. */
  async levels(): Promise<OfApp<LevelRow[]>[]> {
    const { levelTable } = await answers();
    return this.ofApps((app) => levelTable(app));
  }

  /**
   * For each app the wires of one SDK, on each side in the vendor's order.
   * @param sdk its short id, or the name of one of its packages
   * @param at a version to hold in place of the one that is in
   * @throws ProjectProblem where no SDK is called so
   */
  async trace(sdk: string, { at }: { at?: string | undefined } = {}): Promise<OfApp<Trace>[]> {
    const [{ survey, sheets }, { sdkCalled, traceOf }] = await Promise.all([this.read(), answers()]);
    const known = await this.sdks();
    const called = sdkCalled(sdk, known, survey.apps);
    if (called === undefined)
      throw new ProjectProblem("sdk-unknown", `there is no SDK "${sdk}"; ${choices(sdk, known, "third-party SDK")}`);
    return this.ofApps((app) => traceOf(app, sheets.sheets, called, at === undefined ? {} : { at }));
  }

  /** The SDKs that can be traced: those in the apps, and those that a sheet describes. */
  async sdks(): Promise<string[]> {
    const [{ survey, sheets }, { tracedSdks }] = await Promise.all([this.read(), answers()]);
    return [...new Set([...survey.apps.flatMap(tracedSdks), ...sheets.sheets.map(({ sdk }) => sdk)])].sort();
  }

  /** For each app its two sides beside each other, an SDK a row. */
  async compare(): Promise<OfApp<CompareRow[]>[]> {
    const [{ sheets }, { compareSides }] = await Promise.all([this.read(), answers()]);
    return this.ofApps((app) => compareSides(app, sheets.sheets));
  }

  /** For each app what runs at launch, in order, on each side. */
  async startup(): Promise<OfApp<SideStartup[]>[]> {
    const [{ sheets }, { startupOf }] = await Promise.all([this.read(), answers()]);
    return this.ofApps((app) => startupOf(app, sheets.sheets));
  }

  /** For each app what it asks people for and declares, by whom, and what the other side has for it. */
  async permits(): Promise<OfApp<AppPermits>[]> {
    const [{ sheets }, { permitsOf }] = await Promise.all([this.read(), answers()]);
    return this.ofApps((app) => permitsOf(app, sheets.sheets));
  }

  /** What changed from this project to another, or to a later state of it. */
  async diff(after: Project): Promise<AppDiff[]> {
    const { diffStates } = await answers();
    const state = async (project: Project) => ({ report: await project.check(), sheets: (await project.sheets()).sheets });
    return diffStates(await state(this), await state(after));
  }

  /**
   * What of the findings can be mended safely: the files as they would be, and what is left. Nothing is written.
   * @param rules only findings of these rules
   */
  async patch({ rules }: { rules?: readonly string[] | undefined } = {}): Promise<PatchPlan> {
    const [{ settings, sheets }, report, { planPatch }] = await Promise.all([this.read(), this.check(), answers()]);
    const findings = report.findings.map((finding) =>
      rules?.includes(finding.rule) === false ? { ...finding, quickFix: undefined } : finding,
    );
    return planPatch({
      tree: this.files,
      report: { ...report, findings },
      sheets: sheets.sheets,
      settings: settings.settings,
      options: this.checkOptions(await this.read()),
    });
  }

  private get today(): string {
    return this.options.today ?? new Date().toISOString().slice(0, 10);
  }

  private async ofApps<Answer>(of: (app: App) => Answer): Promise<OfApp<Answer>[]> {
    return (await this.survey()).apps.map((app) => ({ app, answer: of(app) }));
  }

  private async judge(): Promise<Report> {
    const [reading, { check }] = await Promise.all([this.read(), answers()]);
    this.step("rules");
    // What rules say of apps that are as they were is known, where the files are not all as they were.
    const values = this.fresh ? this.cache?.values : undefined;
    return check(reading.survey, {
      ...this.checkOptions(reading),
      perApp: (app, judge) => {
        const key = reading.keys.get(app.name);
        if (!values || key === undefined) return judge();
        const inputs = [key, this.today];
        const known = values.open("findings", inputs)?.value as RuleFindings | undefined;
        if (known) return known;
        const findings = judge();
        values.keep("findings", inputs, { value: findings, asks: [], inner: [] });
        return findings;
      },
    });
  }

  private checkOptions({ settings, sheets }: ProjectReading): CheckOptions {
    return {
      settings: settings.settings,
      settingsProblems: settings.problems,
      sheets: sheets.sheets,
      sheetProblems: sheets.problems,
      today: this.today,
    };
  }

  private step(step: ReadingStep): void {
    this.options.signal?.throwIfAborted();
    this.options.onProgress?.(step);
  }

  /** The reading, once; one that failed is tried again by the next question. */
  private async read(): Promise<ProjectReading> {
    this.options.signal?.throwIfAborted();
    this.reading ??= this.open().catch((error: unknown) => {
      this.reading = undefined;
      throw error;
    });
    return this.reading;
  }

  private async open(): Promise<ProjectReading> {
    const { cache, options } = this;
    let reading = cache?.kept();
    if (!reading) {
      // Code that an earlier run parsed is known, but for files that changed.
      const parses = !cache?.values.any || cache.changed.some(isParsed);
      const parser = this.files instanceof DiskTree && parses ? earlyParser(this.root) : undefined;
      const { readProject } = await answers();
      const read = await readProject(cache?.tree ?? this.files, {
        ...this.inputs,
        kept: cache?.values,
        parser,
        step: (step) => this.step(step),
      });
      // Patterns cannot be kept.
      this.fresh = true;
      reading = { ...read, sheets: { ...read.sheets, sheets: withoutPatterns(read.sheets.sheets) } };
      if (!reading.survey.cutShort) cache?.keep(reading);
    }
    const sheets = { ...reading.sheets, sheets: await withPatterns(reading.sheets.sheets) };
    return { ...reading, sheets, survey: onlyApp(reading.survey, options.app) };
  }

  /** What an answer depends on besides the project's files. */
  private dependsOn(): string[] {
    const { settings, sheets, packages } = this.inputs;
    return [
      ...(settings ? ["settings", settings.file, settings.text] : []),
      ...sheets.flatMap(({ file, text }) => ["sheet", file, text]),
      ...packages,
    ];
  }
}

/** Findings as they are kept. */
interface Judged {
  day: string;
  report: ReportOutline;
}

function onlyApp(survey: Survey, name: string | undefined): Survey {
  if (name === undefined) return survey;
  const apps = survey.apps.filter((app) => app.name.toLowerCase() === name.toLowerCase());
  if (apps.length > 0) return { ...survey, apps };
  const names = survey.apps.map((app) => app.name);
  throw new ProjectProblem("app-unknown", `there is no app "${name}"; ${choices(name, names, "app")}`);
}

function settingsFile(file: string | undefined): { file: string; text: string } | undefined {
  if (file === undefined) return undefined;
  if (!existsSync(file)) throw new ProjectProblem("settings-missing", `there is no settings file ${file}`);
  return { file, text: textOf(file) };
}

/** The sheets in folders outside the project. */
export function sheetsIn(folders: readonly string[]): SheetFile[] {
  return folders.flatMap((folder) => {
    if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
      throw new ProjectProblem("sheets-missing", `there is no folder of sheets ${folder}`);
    return readdirSync(folder)
      .filter((name) => /\.sdk\.ya?ml$/.test(name))
      .sort()
      .map((name) => ({ file: path.join(folder, name).split(path.sep).join("/"), text: textOf(path.join(folder, name)) }));
  });
}

/**
 * Folders in which fetched packages lie, as absolute paths: those that are given, else where the tools on this machine keep them.
 * Sources: docs.gradle.org, "The Directories and Files Gradle Uses"; learn.microsoft.com, "Managing the global packages, cache, and temp folders"
 * (NUGET_PACKAGES); developer.apple.com, "Locations settings" (derived data).
 */
function packageFolders(given: readonly string[] | undefined): string[] {
  if (given) {
    for (const folder of given)
      if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
        throw new ProjectProblem("packages-missing", `there is no folder of packages ${folder}`);
    return given.map((folder) => path.resolve(folder));
  }
  const { GRADLE_USER_HOME, NUGET_PACKAGES } = process.env;
  const gradle = GRADLE_USER_HOME || path.join(homedir(), ".gradle");
  return [
    ...(existsSync(path.join(gradle, "caches", "modules-2", "files-2.1")) ? [gradle] : []),
    ...[
      NUGET_PACKAGES || path.join(homedir(), ".nuget", "packages"),
      path.join(homedir(), "Library", "Developer", "Xcode", "DerivedData"),
    ].filter((folder) => existsSync(folder)),
  ].map((folder) => path.resolve(folder));
}

function textOf(file: string): string {
  try {
    return readFileSync(file, "utf8");
  } catch (error) {
    throw new ProjectProblem("file-unreadable", `${file} cannot be read: ${(error as Error).message}`);
  }
}
