/** What answers are made with: loaded when a project is first read. */
export { levelTable } from "../derive/level-table.js";
export { sdkCalled, traceOf, tracedSdks } from "../needs/index.js";
export { check } from "./check.js";
export { compareApps, compareSides } from "./compare.js";
export { diffStates } from "./diff.js";
export { planPatch } from "./patch/plan.js";
export { permitsOf } from "./permits.js";
export { readProject } from "./read.js";
export { startupOf } from "./startup.js";
