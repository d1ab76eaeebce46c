/** The core of Enredo, for other programs: `survey` reads a project, `check` holds it against the rules. No interface code. */
export { survey } from "./survey.js";
export { check, type CheckOptions, type Report } from "./check.js";
export { DiskTree } from "./files/disk.js";
export { MemoryTree } from "./files/memory.js";
export type { FileTree, ReadResult, TreeEntry } from "./files/tree.js";
export { findSettings, loadSettings, type LoadedSettings, type SettingsProblem } from "./settings/load.js";
export { noSettings, type Settings, type Severity } from "./settings/settings.js";
export { RULES, RULE_NAMES, findRule } from "./rules/index.js";
export type { Rule, ProjectRule, RuleContext } from "./rules/rule.js";
export { sidesOf, type App, type AppKind, type Survey } from "./model/app.js";
export type * from "./model/facts.js";
export type { Finding } from "./model/finding.js";
export type { Place } from "./model/place.js";
export type { Value } from "./model/value.js";
