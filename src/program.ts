/** The program as one bundle: oclif, and every command by its id. The core is another one. */
import { execute } from "@oclif/core";
import { autocomplete, autocompleteCreate, autocompleteScript, help } from "./commands/plugins.js";
import check from "./commands/check.js";
import compare from "./commands/compare.js";
import confirm from "./commands/confirm.js";
import demo from "./commands/demo.js";
import diff from "./commands/diff.js";
import explain from "./commands/explain.js";
import fleet from "./commands/fleet.js";
import levels from "./commands/levels.js";
import needs from "./commands/needs.js";
import next from "./commands/next.js";
import patch from "./commands/patch.js";
import permits from "./commands/permits.js";
import report from "./commands/report.js";
import sheetCheck from "./commands/sheet/check.js";
import sheetDraft from "./commands/sheet/draft.js";
import sheetList from "./commands/sheet/list.js";
import sheetNew from "./commands/sheet/new.js";
import startup from "./commands/startup.js";
import survey from "./commands/survey.js";
import trace from "./commands/trace.js";
import { keepReadingsIn, type CachePlace } from "./commands/readings-place.js";

export { notFound } from "./commands/not-found.js";
export { run } from "@oclif/core";
export { keepReadingsIn };

/** Runs the command line `args`; `root` is the folder of the program's package, `cache` where readings are kept, if anywhere. */
export async function start({ root, args, cache }: { root: string; args: string[]; cache: CachePlace | undefined }): Promise<void> {
  keepReadingsIn(cache);
  await execute({ dir: root, args });
}

export const COMMANDS = {
  autocomplete,
  "autocomplete:create": autocompleteCreate,
  "autocomplete:script": autocompleteScript,
  check,
  compare,
  confirm,
  demo,
  diff,
  explain,
  fleet,
  help,
  levels,
  needs,
  next,
  patch,
  permits,
  report,
  "sheet:check": sheetCheck,
  "sheet:draft": sheetDraft,
  "sheet:list": sheetList,
  "sheet:new": sheetNew,
  startup,
  survey,
  trace,
};
