import { readdirSync, type Dirent } from "node:fs";
import { availableParallelism } from "node:os";
import path from "node:path";
import { forkParser, type ForkedParser } from "../syntax/code/child.js";
import { languageOf } from "../syntax/code/languages.js";

/** How many folders are looked through for a file of source code. */
const MOST_FOLDERS = 60;

/** Folders with code that is not the app's, or none. */
const PASSED_OVER = /^(\..*|node_modules|Pods|build|dist|vendor|Carthage)$/;

/** A program that reads again has its process already. */
let started = false;

/**
 * Starts the process that parses source code, where a quick look finds some: it gets ready on another processor while the core is loaded
 * here. `undefined` where it is left to the core, which knows the project.
 */
export function earlyParser(root: string): ForkedParser | undefined {
  if (started || availableParallelism() < 2 || !hasSource(root)) return undefined;
  started = true;
  return forkParser(true);
}

/** Whether a file is source code that has to be parsed; JavaScript alone is often only the settings of tools. */
export function isParsed(file: string): boolean {
  const language = languageOf(file);
  return language !== undefined && language !== "javascript";
}

/** Whether such a file is near. */
function hasSource(root: string): boolean {
  const folders = [root];
  for (let index = 0; index < Math.min(folders.length, MOST_FOLDERS); index++) {
    const folder = folders[index] as string;
    for (const entry of entriesOf(folder)) {
      if (entry.isDirectory()) {
        if (!PASSED_OVER.test(entry.name)) folders.push(path.join(folder, entry.name));
      } else if (entry.isFile()) {
        if (isParsed(entry.name)) return true;
      }
    }
  }
  return false;
}

function entriesOf(folder: string): Dirent[] {
  try {
    return readdirSync(folder, { withFileTypes: true });
  } catch {
    // Whoever reads the project tells it.
    return [];
  }
}
