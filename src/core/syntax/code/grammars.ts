import { existsSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { brotliDecompress } from "node:zlib";
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

/** A language that is ready: gives a parser, whose memory is as it was when the grammar was loaded. */
interface Loaded {
  parser(text: string): Parser;
  /** The name of a type of nodes by its number; `undefined` for mere tokens. */
  nameOf(type: number): string | undefined;
  /** The parser is of no use any more. */
  release(parser: Parser): void;
}

/** The type of a piece of text that fits nowhere. Source: tree-sitter, api.h, `ts_builtin_sym_error`. */
const ERROR = 65_535;

/** Stands for everything that has no name of its own. */
const TOKEN: SyntaxNode = { type: "", field: undefined, from: 0, to: 0, children: [] };

/** By grammar file: two languages may share one. */
const loaded = new Map<string, Loaded>();
let shared: Promise<Engine> | undefined;

/** How long one file may keep the processor, in milliseconds, as long as the engine asks; a longer one is not read. See also `process.ts`. */
const PARSE_LIMIT = 1_500;

/** Makes the languages ready. Their grammars lie beside the program; nothing is fetched. */
export async function loadGrammars(languages: Iterable<Language>): Promise<void> {
  const files = new Set([...languages].map((language) => GRAMMAR_FILES[language]));
  await Promise.all([...files].filter((file) => !loaded.has(file)).map(loadGrammar));
}

async function loadGrammar(file: string): Promise<void> {
  const bytes = await unpacked(file);
  if (file === GRAMMAR_FILES.swift) {
    loaded.set(file, await isolated(bytes));
    return;
  }
  const { Language: Grammar, Parser } = await (shared ??= startEngine());
  const grammar = await Grammar.load(bytes);
  const parser = new Parser();
  parser.setLanguage(grammar);
  loaded.set(file, { parser: () => parser, nameOf: namesOf(grammar), release: () => undefined });
}

/**
 * An engine of its own for one grammar, whose memory is put back before every file. The scanner of Swift's grammar takes what
 * earlier files left in memory for its own state, and then reads conditional compilation and the like wrongly.
 */
async function isolated(bytes: Uint8Array): Promise<Loaded> {
  const { Memory } = (
    globalThis as unknown as { WebAssembly: { Memory: new (size: { initial: number; maximum: number }) => { buffer: ArrayBuffer } } }
  ).WebAssembly;
  const memory = new Memory({ initial: 512, maximum: 32_768 });
  const { Language: Grammar, Parser } = await startEngine({ wasmMemory: memory });
  const grammar = await Grammar.load(bytes);
  const used = usedBytes(memory.buffer);
  const first = new Uint8Array(memory.buffer).slice(0, used);
  let clean = true;
  return {
    parser(text) {
      // Only what begins with this sign is read by that part of the scanner.
      if (!clean && text.includes("#")) putBack();
      clean = false;
      const parser = new Parser();
      parser.setLanguage(grammar);
      return parser;
    },
    nameOf: namesOf(grammar),
    release: (parser) => parser.delete(),
  };

  function putBack(): void {
    const now = new Uint8Array(memory.buffer);
    now.fill(0, used);
    now.set(first);
  }
}

/** Asks the engine once for each type. */
function namesOf(grammar: WebTreeSitter.Language): Loaded["nameOf"] {
  const names: (string | null | undefined)[] = [];
  return (type) => {
    const known = names[type];
    if (known !== undefined) return known ?? undefined;
    const name = type === ERROR ? "ERROR" : grammar.nodeTypeIsNamed(type) ? grammar.types[type] : undefined;
    names[type] = name ?? null;
    return name;
  };
}

/** Where the last page of memory that holds something ends, in bytes. */
function usedBytes(memory: ArrayBuffer): number {
  const page = 65_536;
  const empty = Buffer.alloc(page);
  let end = memory.byteLength;
  while (end > 0 && empty.equals(new Uint8Array(memory, end - page, page))) end -= page;
  return end;
}

/** A compiled file, which the package has packed. Several are unpacked beside each other. */
async function unpacked(file: string): Promise<Uint8Array> {
  return promisify(brotliDecompress)(readFileSync(path.join(grammarFolder(), `${file}.br`)));
}

async function startEngine(options: Record<string, unknown> = {}): Promise<Engine> {
  // A module that is taken out of the cache is loaded anew, as an engine of its own.
  const load = createRequire(import.meta.url);
  const file = path.join(grammarFolder(), "web-tree-sitter.cjs");
  const engine = load(file) as Engine;
  Reflect.deleteProperty(load.cache, load.resolve(file));
  await engine.Parser.init({ ...options, wasmBinary: await unpacked("web-tree-sitter.wasm") });
  return engine;
}

let folder: string | undefined;

/** The folder of the grammars: beside the built program, or in the build of the project that this file is a source of. */
export function grammarFolder(): string {
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
  const ready = loaded.get(GRAMMAR_FILES[language]);
  if (!ready) return undefined;
  const { nameOf } = ready;
  const parser = ready.parser(text);
  const end = performance.now() + PARSE_LIMIT;
  const began = process.cpuUsage();
  // On a busy machine time passes in which nothing was done.
  const isOver = (): boolean => performance.now() > end && process.cpuUsage(began).user / 1_000 > PARSE_LIMIT;
  const tree = parser.parse(text, null, { progressCallback: isOver });
  if (!tree) {
    parser.reset();
    ready.release(parser);
    return undefined;
  }
  const cursor = tree.walk();
  const root = nodeAt(cursor.nodeType);
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
  ready.release(parser);
  return root;

  function nodeAt(type: string): SyntaxNode {
    return { type, field: cursor.currentFieldName ?? undefined, from: cursor.startIndex, to: cursor.endIndex, children: [] };
  }

  /** Puts the node under the cursor under its parent. Every question to the cursor is a call into the engine: few for mere tokens. */
  function enter(): void {
    const type = nameOf(cursor.nodeTypeId);
    const node = type === undefined ? TOKEN : nodeAt(type);
    if (type !== undefined) open.at(-1)?.children.push(node);
    open.push(node);
  }
}
