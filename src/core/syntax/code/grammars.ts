import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { setFlagsFromString } from "node:v8";
import type * as WebTreeSitter from "web-tree-sitter";
import type { Parser } from "web-tree-sitter";
import { GRAMMAR_FILES, type Language } from "./languages.js";

/** One node of a syntax tree; only named nodes and errors, offsets in the text. */
export interface SyntaxNode {
  type: string;
  /** The role in the parent, as the grammar names it. */
  field: string | undefined;
  from: number;
  to: number;
  children: SyntaxNode[];
}

type Engine = typeof WebTreeSitter;

const parsers = new Map<Language, Parser>();
const engines = new Map<string, Promise<Engine>>();

/** How long one file may take, in milliseconds; a longer one is not read. */
const PARSE_LIMIT = 3_000;

/** Makes the languages ready. Their grammars lie beside the program; nothing is fetched. */
export async function loadGrammars(languages: Iterable<Language>): Promise<void> {
  for (const language of languages) {
    if (parsers.has(language)) continue;
    // Swift's grammar reads wrongly in an engine that has loaded another one before it: it gets an engine of its own.
    const { Language: Grammar, Parser } = await engineOf(language === "swift" ? "swift" : "others");
    const grammar = await Grammar.load(readFileSync(path.join(grammarFolder(), GRAMMAR_FILES[language])));
    const parser = new Parser();
    parser.setLanguage(grammar);
    parsers.set(language, parser);
  }
}

function engineOf(group: string): Promise<Engine> {
  let engine = engines.get(group);
  if (!engine) {
    engine = startEngine(group);
    engines.set(group, engine);
  }
  return engine;
}

async function startEngine(group: string): Promise<Engine> {
  // V8's optimising compiler takes seconds for some grammars; its baseline compiler takes milliseconds.
  setFlagsFromString("--liftoff-only");
  // Another query makes another instance of the module.
  const engine = (await import(`${pathToFileURL(path.join(grammarFolder(), "web-tree-sitter.js")).href}?${group}`)) as Engine;
  await engine.Parser.init({ wasmBinary: readFileSync(path.join(grammarFolder(), "web-tree-sitter.wasm")) });
  return engine;
}

let folder: string | undefined;

/** The folder of the grammars: beside the built program, or in the build of the project that this file is a source of. */
function grammarFolder(): string {
  let at = path.dirname(fileURLToPath(import.meta.url));
  while (folder === undefined) {
    folder = [path.join(at, "grammars"), path.join(at, "dist", "grammars")].find((candidate) => existsSync(candidate));
    if (path.dirname(at) === at) folder ??= at;
    at = path.dirname(at);
  }
  return folder;
}

/** The tree of a text; `undefined` when its language is not loaded, or the text takes too long. */
export function parseTree(language: Language, text: string): SyntaxNode | undefined {
  const parser = parsers.get(language);
  if (!parser) return undefined;
  const end = performance.now() + PARSE_LIMIT;
  const tree = parser.parse(text, null, { progressCallback: () => performance.now() > end });
  if (!tree) {
    parser.reset();
    return undefined;
  }
  const cursor = tree.walk();
  const root = nodeAt();
  const open = [root];
  // Down, right, and up again until the root is reached.
  for (let down = true; ;) {
    if (down && cursor.gotoFirstChild()) enter();
    else if (cursor.gotoNextSibling()) {
      open.pop();
      enter();
      down = true;
    } else if (cursor.gotoParent()) {
      open.pop();
      down = false;
    } else break;
  }
  cursor.delete();
  tree.delete();
  return root;

  function nodeAt(): SyntaxNode {
    return {
      type: cursor.nodeType,
      field: cursor.currentFieldName ?? undefined,
      from: cursor.startIndex,
      to: cursor.endIndex,
      children: [],
    };
  }

  /** Puts the node under the cursor under its parent. */
  function enter(): void {
    const node = nodeAt();
    if (cursor.nodeIsNamed || node.type === "ERROR") open.at(-1)?.children.push(node);
    open.push(node);
  }
}
