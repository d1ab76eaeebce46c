/** What the commands use of the core beside its door (`index.ts`). Nothing of it is for other programs. */
export * from "./project/answers.js";
export { adoptParser } from "./syntax/code/process.js";
export { folderIndex, prepareParser, survey, surveyBuildFiles } from "./project/survey.js";
export { ProjectFiles } from "./gather/project-files.js";
export { mavenStoreAt, type MavenStore } from "./gather/packages/maven-store.js";
export { findSheets } from "./project/sheet-files.js";
export { loadSheets, type LoadedSheets, type SheetFile } from "./sheets/load.js";
export type { Sheet, SheetNeed } from "./model/sheet.js";
export { traceOf, sdkCalled, tracedSdks, wiresOf, type Trace, type TraceOptions } from "./needs/index.js";
export type { Need, Wire, WireState } from "./needs/wire.js";
export { check, type CheckOptions, type Report, type ReportOutline } from "./project/check.js";
export { broughtIn, diffStates, type AppDiff, type Change, type State } from "./project/diff.js";
export { openRevision, GitTree } from "./files/git.js";
export { DiskTree } from "./files/disk.js";
export { MemoryTree } from "./files/memory.js";
export type { FileTree, ReadResult, TreeEntry } from "./files/tree.js";
export { findSettings, loadSettings, type LoadedSettings, type SettingsProblem } from "./settings/load.js";
export { noSettings, type Settings } from "./settings/settings.js";
export { RULES, RULE_NAMES, findRule } from "./rules/index.js";
export type { Rule, ProjectRule, RuleContext } from "./rules/rule.js";
export { sidesOf, type App, type AppKind, type Survey } from "./model/app.js";
export type * from "./model/facts.js";
export type { Finding, Severity } from "./model/finding.js";
export type { Place } from "./model/place.js";
export type { Value } from "./model/value.js";
export {
  packageNeeds,
  pageIn,
  pageOfPackage,
  pagesBeside,
  readPage,
  sheetFromPage,
  type PackageNeeds,
  type PackagePage,
} from "./project/package-needs/index.js";
export { permitsOf, type AppPermits, type Permit, type SidePermits } from "./project/permits.js";
export { compareApps, compareSides, type Cell, type CompareRow } from "./project/compare.js";
export { draftSheet } from "./needs/draft.js";
export {
  confirmLog,
  severityOf as confirmSeverity,
  sidesOfLog,
  type Confirmation,
  type SideConfirmation,
} from "./project/confirm/confirm.js";
export { readLog, type Log, type LogEntry } from "./project/confirm/read-log.js";
export { againstBaseline, baselineOf, readBaseline, type Baseline, type BaselineEntry } from "./project/baseline.js";
export { acceptEntries } from "./project/patch/accept.js";
export { planPatch, type PatchPlan, type PatchedFile } from "./project/patch/plan.js";
export { startupOf, type SideStartup, type StartupStep } from "./project/startup.js";
export { LIFE_CYCLE_PHASES as MOMENTS, type CodeFacts, type LifeCyclePhase as Moment, type SdkCall } from "./model/code.js";
export { secretsOf, withoutSecrets } from "./needs/secrets.js";
export { stringify as yamlOf } from "yaml";
