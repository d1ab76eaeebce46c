import { loadGrammars } from "../../src/core/syntax/code/grammars.js";
import { languageOf, readCode } from "../../src/core/syntax/code/index.js";
import type { App } from "../../src/core/model/app.js";
import type { CodeFacts, CodeFile } from "../../src/core/model/code.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { noSettings } from "../../src/core/settings/settings.js";
import { findSheets } from "../../src/core/project/sheet-files.js";
import { loadSheets } from "../../src/core/sheets/load.js";
import type { Sheet } from "../../src/core/model/sheet.js";
import { folderIndex, survey } from "../../src/core/project/survey.js";

/** Parses one source text; the name tells the language. */
export async function parsed(file: string, text: string): Promise<CodeFile> {
  const language = languageOf(file);
  if (!language) throw new Error(`no language for ${file}`);
  await loadGrammars([language]);
  const code = readCode(language, text);
  if (!code) throw new Error(`${file} could not be parsed`);
  return code;
}

/** Calls in short: `Type.function: callee if guard in closure`. */
export function shownCalls({ calls, functions }: CodeFile): string[] {
  return calls.map(({ callee, in: index, guards, closures, optional, assignment }) => {
    const fn = functions[index];
    const where = fn ? `${fn.type === "" ? "" : `${fn.type}.`}${fn.name}: ` : "";
    const when = guards.map(({ kind }) => kind).join("+");
    return `${where}${callee}${assignment ? " =" : ""}${optional ? " ?" : ""}${when === "" ? "" : ` if ${when}`}${closures.length > 0 ? ` in ${closures.join(" > ")}` : ""}`;
  });
}

/** The only app of files in memory, with its source code and the sheets that lie among the files. */
export async function appWithCode(files: Record<string, string>): Promise<{ app: App; code: CodeFacts; sheets: Sheet[] }> {
  const project = new ProjectFiles(new MemoryTree(files));
  const { sheets } = await loadSheets(findSheets(project, folderIndex(project, noSettings())));
  const { apps } = await survey(project, noSettings(), sheets);
  const [app] = apps;
  if (apps.length !== 1 || !app?.code) throw new Error(`one app with code expected, found ${apps.length}`);
  return { app, code: app.code, sheets };
}

/** What is known of each call: `sdk kind within: reach moment`. */
export function shownFacts({ calls }: CodeFacts): string[] {
  return calls.map(({ sdk, kind, within, reach, phase }) => `${sdk} ${kind} ${within}: ${reach}${phase === undefined ? "" : ` ${phase}`}`);
}
