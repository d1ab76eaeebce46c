/**
 * The door of Enredo for other programs: `openProject` reads a folder, and answers what the commands answer. What is not exported here is internal.
 *
 * @example
 * const project = openProject("apps/deckpass");
 * for (const { rule, message, places } of (await project.check()).findings) console.log(rule, message, places[0]?.file);
 */
export { openProject, type OfApp, type Project, type ProjectOptions } from "./project/open.js";
export { ProjectProblem, isProjectProblem, type ProblemCode } from "./project/problem.js";
export { MemoryTree } from "./files/memory.js";
export { OverlayTree } from "./files/overlay.js";
export { DiskTree } from "./files/disk.js";
export type { FileTree, ReadResult, TreeEntry } from "./files/tree.js";
export type { Report, ReportOutline } from "./project/check.js";
export type { Finding, Severity } from "./model/finding.js";
export type { App, AppKind, Survey } from "./model/app.js";
export type { Place } from "./model/place.js";
export { reason, reasonText, type Reason, type ReasonCode } from "./model/reason.js";
export type { Value } from "./model/value.js";
export type { LevelRow } from "./derive/level-table.js";
export type { Trace } from "./needs/index.js";
export type { Need, Wire, WireState } from "./needs/wire.js";
export type { CompareRow } from "./project/compare.js";
export type { SideStartup, StartupStep } from "./project/startup.js";
export type { AppPermits, Permit } from "./project/permits.js";
export type { AppDiff, Change } from "./project/diff.js";
export type { PatchPlan, PatchedFile } from "./project/patch/plan.js";
export type { ReadingStep } from "./project/read.js";
export type { LoadedSettings, SettingsProblem } from "./settings/load.js";
export type { LoadedSheets } from "./sheets/load.js";
