import { createHash } from "node:crypto";
import path from "node:path";
import type { FileTree, KeptValues } from "../files/tree.js";
import { ProjectFiles } from "../gather/project-files.js";
import { KIND_TITLES, type Survey } from "../model/app.js";
import { RULE_NAMES } from "../rules/index.js";
import { findSettings, loadSettings, type LoadedSettings } from "../settings/load.js";
import { noSettings } from "../settings/settings.js";
import { loadSheets, type LoadedSheets, type SheetFile } from "../sheets/load.js";
import { adoptParser } from "../syntax/code/process.js";
import type { ForkedParser } from "../syntax/code/child.js";
import { ProjectProblem } from "./problem.js";
import { findSheets } from "./sheet-files.js";
import { folderIndex, prepareParser, surveyWithKeys } from "./survey.js";
import { reasonText } from "../model/reason.js";

/** A project that was read, with the settings and sheets that hold for it. */
export interface ProjectReading {
  survey: Survey;
  /** By the name of an app what stands for all that its facts rest on, the settings and sheets among it, where that is known. */
  keys: ReadonlyMap<string, string>;
  settings: LoadedSettings;
  sheets: LoadedSheets;
}

/** What is read beside the files of the project. */
export interface ReadingInputs {
  /** A settings file in place of the project's own: its name and its text. */
  settings?: { file: string; text: string } | undefined;
  /** Sheets beside those of the project. */
  sheets: readonly SheetFile[];
  /** Folders where fetched packages lie, as absolute paths. */
  packages: readonly string[];
  /** What earlier runs made of parts of the project. */
  kept?: KeptValues | undefined;
  /** A process for source code that was started before. */
  parser?: ForkedParser | undefined;
  /** Told before each step, and where it is made up of several; the reading ends with what it throws. */
  step: (step: ReadingStep) => void;
}

/** What a reading is at. */
export type ReadingStep = "settings" | "sheets" | "files" | "rules";

/**
 * Reads the settings, the sheets and all apps of a tree.
 * @throws ProjectProblem where settings cannot be read, or no app is found
 */
export async function readProject(tree: FileTree, { parser, step, ...inputs }: ReadingInputs): Promise<ProjectReading> {
  adoptParser(parser);
  step("settings");
  const project = new ProjectFiles(tree, reachedFrom(tree, inputs.packages), inputs.kept);
  const stated = settingsTextOf(tree, inputs.settings);
  const settings = await settingsOf(stated);
  prepareParser(project, settings.settings);
  step("sheets");
  const found = [...inputs.sheets, ...findSheets(project, folderIndex(project, settings.settings))];
  project.foundation = [digestOf([stated, found])];
  const sheets = await loadSheets(found, inputs.kept);
  step("files");
  const { survey: read, keys } = await surveyWithKeys(project, settings.settings, sheets.sheets, () => step("files"));
  if (read.apps.length === 0) throw new ProjectProblem("no-app", noAppText(read));
  return { survey: read, keys, settings, sheets };
}

/** Stands for plain data, for this run and the next. */
function digestOf(data: unknown): string {
  return createHash("sha512-256").update(JSON.stringify(data)).digest("base64");
}

async function settingsOf(stated: ReadingInputs["settings"]): Promise<LoadedSettings> {
  return stated ? loadSettings(stated.file, stated.text, RULE_NAMES) : { settings: noSettings(), problems: [] };
}

/** The settings file that is given, else the project's own. */
function settingsTextOf(tree: FileTree, given: ReadingInputs["settings"]): ReadingInputs["settings"] {
  if (given) return given;
  const own = findSettings(tree);
  if (own === undefined) return undefined;
  const read = tree.read(own);
  if (!read.ok) throw new ProjectProblem("settings-unreadable", `${own} cannot be read: ${reasonText(read.why)}`);
  return { file: own, text: Buffer.from(read.bytes).toString("utf8") };
}

/** Folders of packages as a tree of the project reaches them; what lies on another drive is not reached. */
function reachedFrom(tree: FileTree, folders: readonly string[]): string[] {
  if (tree.place === undefined || !path.isAbsolute(tree.place)) return [];
  const from = tree.place;
  return folders.flatMap((folder) => {
    const relative = path.relative(from, folder);
    return path.isAbsolute(relative) ? [] : relative.split(path.sep).join("/");
  });
}

function noAppText({ root, unreadable, withoutNative, noApps }: Survey): string {
  const [first] = unreadable;
  const unread = first ? `; ${first.file}:${first.place.line} could not be read: ${first.message}` : "";
  const [bare] = withoutNative;
  const shared = bare
    ? `; ${bare.folder === "" ? "this folder" : bare.folder} holds a ${KIND_TITLES[bare.kind]} app without a native project: add its platforms first`
    : "";
  const seen = noApps
    .slice(0, 5)
    .map(({ file, why }) => `; ${file} is not an app: ${reasonText(why)}`)
    .join("");
  return `no app found in ${root}: an Android app has a Gradle module with an applicationId, an iOS app an .xcodeproj, or a project.yml, with an application target${shared}${seen}${unread}`;
}
