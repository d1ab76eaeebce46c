/** What the commands use of the core beside its door (`index.ts`). Nothing of it is for other programs. */
export * from "./project/answers.js";
export { DiskTree } from "./files/disk.js";
export { openRevision } from "./files/git.js";
export { ProjectFiles } from "./gather/project-files.js";
export { draftSheet } from "./needs/draft.js";
export { secretsOf, withoutSecrets } from "./needs/secrets.js";
export { againstBaseline, baselineOf, readBaseline } from "./project/baseline.js";
export { confirmLog, severityOf as confirmSeverity, sidesOfLog } from "./project/confirm/confirm.js";
export { readLog } from "./project/confirm/read-log.js";
export { broughtIn } from "./project/diff.js";
export { packageNeeds, pageIn, pageOfPackage, pagesBeside, readPage, sheetFromPage } from "./project/package-needs/index.js";
export { acceptEntries } from "./project/patch/accept.js";
export { findSheets } from "./project/sheet-files.js";
export { folderIndex } from "./project/survey.js";
export { findRule, RULE_NAMES, RULES } from "./rules/index.js";
export { noSettings } from "./settings/settings.js";
export { loadSheets } from "./sheets/load.js";
export { stringify as yamlOf } from "yaml";
