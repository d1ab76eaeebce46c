/** What the documentation is generated from; used by scripts/docs.mjs only. */
export { RULES } from "./core/rules/index.js";
export { settingsSchema, sheetSchema } from "./core/sheets/schema.js";
export { ruleMarkdown } from "./views/text/explain.js";
