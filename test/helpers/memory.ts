import { reasonText } from "../../src/core/model/reason.js";
import { check, type CheckOptions, type Report } from "../../src/core/project/check.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import type { App, Survey } from "../../src/core/model/app.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { noSettings } from "../../src/core/settings/settings.js";
import { findSheets } from "../../src/core/project/sheet-files.js";
import { loadSheets } from "../../src/core/sheets/load.js";
import { folderIndex, survey, surveyBuildFiles } from "../../src/core/project/survey.js";
import { packed } from "./archives.js";
import { findSettings, loadSettings } from "../../src/core/settings/load.js";
import { RULE_NAMES } from "../../src/core/rules/index.js";
import { traceOf, type Trace } from "../../src/core/needs/index.js";
import type { Value } from "../../src/core/model/value.js";

type Files = Readonly<Record<string, string | Uint8Array>>;

export function surveyOf(files: Files): Survey {
  return surveyBuildFiles(new MemoryTree(packed(files)));
}

/** The only app of a small project. */
export function appOf(files: Files): App {
  const { apps } = surveyOf(files);
  if (apps.length !== 1 || !apps[0]) throw new Error(`one app expected, found ${apps.map(({ name }) => name).join(", ") || "none"}`);
  return apps[0];
}

/** Surveys and checks files in memory, with their `enredo.yaml` where there is one. */
export async function reportOf(files: Files, options: CheckOptions = {}): Promise<Report> {
  const tree = new MemoryTree(packed(files));
  const file = findSettings(tree);
  const loaded = file === undefined ? undefined : await loadSettings(file, String(files[file]), RULE_NAMES);
  const project = new ProjectFiles(tree);
  const { sheets, problems } = await loadSheets(findSheets(project, folderIndex(project, loaded?.settings ?? noSettings())));
  return check(await survey(project, loaded?.settings, sheets), {
    settings: loaded?.settings,
    settingsProblems: loaded?.problems,
    sheets,
    sheetProblems: problems,
    ...options,
  });
}

/** What stands in the files at a value's place: the rest of that line. */
export function textAtPlace(files: Record<string, string>, place: { file: string; line: number; column: number }): string {
  return (files[place.file]?.split("\n")[place.line - 1] ?? "").slice(place.column - 1);
}

export function shown(value: Value | undefined): string {
  if (!value) return "none";
  if (value.kind === "known") return value.text;
  return value.kind === "unknown"
    ? `unknown: ${reasonText(value.why)}`
    : `either: ${value.options.map((option) => shown(option)).join(", ")}`;
}

/** The wires of one SDK in files in memory, with the sheets that lie among them. */
export async function tracesOf(
  files: Record<string, string>,
  sdk: string,
): Promise<{ apps: readonly App[]; traces: Trace[]; problems: unknown[] }> {
  const project = new ProjectFiles(new MemoryTree(packed(files)));
  const { sheets, problems } = await loadSheets(findSheets(project, folderIndex(project, noSettings())));
  const { apps } = await survey(project, noSettings(), sheets);
  return { apps, traces: apps.map((app) => traceOf(app, sheets, sdk)), problems };
}
