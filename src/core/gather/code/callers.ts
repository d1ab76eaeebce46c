import type { CodeCall, CodeFile, Language } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import type { AppCode } from "./app-code.js";
import { matchOf } from "./matches.js";
import { escaped } from "./mentions.js";
import { scriptsByStem, stemOf, stemsMeant } from "./modules.js";
import { type SourceFile, isScript, mentions } from "./sources.js";
import { WordIndex } from "./word-index.js";

/** How many files are looked into at most in one round, and how many for their values. */
const MOST_FILES = 400;
const MOST_VALUES = 40;

/** A name that stands in more files than this leads nowhere in particular. */
const COMMON_NAME = 40;

/** Names of functions that stand in too many files to be looked for: their types are. */
const GENERAL_NAME = /^(onCreate|main|init|build|render|body|OnCreate|application|Start|Awake|start|run|get|set)$/;

/** Types as most languages declare them. */
const TYPE = /\b(?:class|object|struct|enum|interface|record|protocol)\s+([A-Z]\w*)/g;

/** Types, and constants with a text; those are looked for from the sign of equality back, of which there are few. */
function* declaredNames(text: string): Generator<string> {
  for (const [, name] of text.matchAll(TYPE)) yield name as string;
  for (const { index } of text.matchAll(/=\s*@?["']/g)) {
    const name = /\b(\w{4,})\s*$/.exec(text.slice(Math.max(0, index - 100), index))?.[1];
    if (name !== undefined) yield name;
  }
}

/** What one parsed file says to those who look for callers. */
interface Calls {
  /** Those of SDKs, whose way from an entry point matters. */
  interesting: readonly CodeCall[];
  /** Calls by the name that they call, the name that stands first in them, and the functions that they hand over. */
  byName: ReadonlyMap<string, CodeCall[]>;
  /** Names of types by the words that objects of them are made with: what they hold may be called there. */
  heldBy: ReadonlyMap<string, ReadonlySet<string>>;
}

const lastStep = (path: string): string => path.slice(path.lastIndexOf("/") + 1);

/** Looks, in rounds, for the files that can lead to calls of interest, and for those with the values that such calls are given. */
export class Callers {
  private readonly asked = new Set<string>();
  private readonly calls = new Map<CodeFile, Calls>();
  /** Last steps of the paths of scripts that do something of interest when they are imported. */
  private readonly importedFor = new Set<string>();
  /** Scripts that lead to calls of interest, and the names that are imported from each file. */
  private readonly leads = new Set<CodeFile>();
  private readonly importedFrom = new Map<string, Set<string>>();
  private declared: Map<string, SourceFile[]> | undefined;
  private stems: Map<string, string[]> | undefined;

  private readonly words: WordIndex<SourceFile>;

  constructor(private readonly code: AppCode) {
    this.words = new WordIndex(code.sources.filter(({ file }) => !file.endsWith(".h")));
  }

  /** The files of the next round, which are not parsed yet; `undefined` when there is nothing left to look for. */
  next(): SourceFile[] | undefined {
    const known = this.asked.size;
    const found = new Set([...this.withCallers(), ...this.withValues()]);
    return found.size === 0 && this.asked.size === known ? undefined : [...found];
  }

  /** Files that mention a function that leads to a call of interest. */
  private withCallers(): SourceFile[] {
    const names = new Set<string>();
    for (const source of this.code.sources) if (source.code) for (const name of this.leading(source, source.code)) names.add(name);
    for (const name of names) if (this.asked.has(name)) names.delete(name);
    for (const name of names) this.asked.add(name);
    const found = new Set<SourceFile>();
    for (const name of names) {
      const files = this.words.having(name).filter(({ text }) => mentions(text, name) > 0);
      if (files.length <= COMMON_NAME) for (const source of files) if (source.code === undefined) found.add(source);
    }
    return [...found].slice(0, MOST_FILES);
  }

  /** Names of functions, types and values of a file that lead to a call of interest. */
  private leading(source: SourceFile, code: CodeFile): Set<string> {
    const { interesting, byName } = this.callsOf(source, code);
    const names = new Set<string>();
    const functions = new Set<number>();
    const open = [...interesting];
    const inFile = new Set<string>();
    // Within a file names lead on that stand in too many others to be looked for.
    const follow = (name: string): void => {
      if (name === "" || inFile.has(name)) return;
      inFile.add(name);
      open.push(...(byName.get(name) ?? []));
    };
    for (const name of byName.keys()) if (this.asked.has(name)) follow(name);
    if (isScript(source.language) && this.runsOnImport(code, interesting)) {
      const stem = lastStep(stemOf(source.file));
      this.importedFor.add(stem);
      names.add(stem);
    }
    for (let call = open.pop(); call !== undefined; call = open.pop()) {
      if (call.in !== -1) {
        if (functions.has(call.in)) continue;
        // Who calls the function around it makes the object of which it is a part.
        for (const index of [call.in, ...(isScript(source.language) ? outerFunctions(code, call.in) : [])]) {
          functions.add(index);
          follow(code.functions[index]?.name ?? "");
        }
        continue;
      }
      // A value of the file that holds what matters: who uses it leads there.
      for (const [name, value] of code.values)
        if (value && call.from >= value.from && call.from < value.to) {
          follow(name);
          if (name.length > 3 && !isScript(source.language)) names.add(name);
        }
    }
    this.addNames(functions, code, source, names);
    if (names.size > 0 || functions.size > 0) this.leads.add(code);
    return names;
  }

  /** Whether importing a script makes a call of interest: it stands outside of functions, there or in what the script imports. */
  private runsOnImport(code: CodeFile, interesting: readonly CodeCall[]): boolean {
    return (
      interesting.some(({ in: index, closures }) => index === -1 && closures.length === 0) ||
      code.imports.some(({ source }) => this.importedFor.has(lastStep(stemOf(source))))
    );
  }

  /** The names by which other files can lead to these functions. */
  private addNames(functions: Set<number>, code: CodeFile, source: SourceFile, names: Set<string>): void {
    for (const index of functions) {
      const fn = code.functions[index];
      if (!fn || fn.name === "") continue;
      if (fn.kind === "function" && !GENERAL_NAME.test(fn.name) && !this.asked.has(fn.name))
        for (const name of [fn.name, ...otherNames(this.code.sources, source, fn.name)]) names.add(name);
      // What makes an object of the type can be what leads to it.
      if (fn.type !== "") names.add(fn.type);
    }
  }

  private callsOf(source: SourceFile, code: CodeFile): Calls {
    const known = this.calls.get(code);
    if (known) return known;
    const { wanted } = this.code;
    const byName = new Map<string, CodeCall[]>();
    const heldBy = new Map<string, Set<string>>();
    for (const call of code.calls) {
      const parts = call.callee.split(".");
      for (const type of new Set([parts[0], parts.at(-1)]))
        if (type !== undefined && /^[A-Z]/.test(type))
          for (const { text, literal } of call.arguments)
            for (const [word] of literal === undefined ? text.matchAll(/[A-Za-z_]\w*/g) : [])
              heldBy.set(word, (heldBy.get(word) ?? new Set()).add(type));
      const handed = call.arguments.flatMap(({ text }) => (/^[\w.:]+$/.test(text) ? (text.split(/\.|::/).at(-1) as string) : []));
      for (const name of new Set([parts[0] as string, parts.at(-1) as string, ...handed])) {
        const list = byName.get(name);
        if (list) list.push(call);
        else byName.set(name, [call]);
      }
    }
    // What is merely used can be anywhere.
    const interesting = code.calls.filter((call) => (matchOf(call, code, source, wanted)?.kind ?? "use") !== "use");
    const found = { interesting, byName, heldBy };
    this.calls.set(code, found);
    return found;
  }

  /** Files with values that arguments of calls of interest name, and with the types that types of interest extend. */
  private withValues(): SourceFile[] {
    const found = new Set<SourceFile>();
    const heads = new Map<Language, Set<string>>();
    for (const source of this.code.sources) {
      const { code, language } = source;
      if (!code) continue;
      const own = this.namesOfValues(source, code);
      if (isScript(language)) for (const file of this.imported(source, code, own)) found.add(file);
      else heads.set(language, new Set([...(heads.get(language) ?? []), ...own]));
    }
    for (const [language, names] of heads)
      for (const name of names)
        for (const source of this.declaring(name)) if (source.code === undefined && source.language === language) found.add(source);
    return [...found].slice(0, MOST_VALUES);
  }

  private namesOfValues(source: SourceFile, code: CodeFile): Set<string> {
    const { interesting, byName, heldBy } = this.callsOf(source, code);
    const calls = new Set(interesting);
    for (const [name, list] of byName) if (this.asked.has(name)) for (const call of list) if (call.callee.endsWith(name)) calls.add(call);
    const heads = new Set<string>();
    const add = (text: string): void => {
      for (const [name] of text.matchAll(/[A-Za-z_$][\w$]*/g)) heads.add(name);
    };
    for (const [word, types] of heldBy) if (this.asked.has(word)) for (const type of types) heads.add(type);
    for (const call of calls) for (const { text, literal } of call.arguments) if (literal === undefined) add(text);
    if (isScript(source.language)) for (const name of this.namesThatHold(source, code)) heads.add(name);
    // What a type of interest extends says which of its methods others call.
    for (const { name, supers } of code.types) if (this.asked.has(name)) for (const above of supers) heads.add(above);
    // What is added on the way is followed too.
    for (const head of heads) add(code.values.get(head)?.text ?? "");
    return heads;
  }

  /** What a script that leads there calls things on, and what others import from it: functions may be held by either. */
  private *namesThatHold({ file }: SourceFile, code: CodeFile): Generator<string> {
    if (this.leads.has(code)) {
      for (const { callee } of code.calls) if (callee.includes(".")) yield callee.slice(0, callee.indexOf("."));
      for (const [, list] of code.plain.matchAll(/\bof\s+([A-Za-z_$][\w$]*)/g)) yield list as string;
    }
    yield* this.importedFrom.get(file) ?? [];
  }

  /** Files in which a type or a constant of a name is declared. */
  private declaring(name: string): readonly SourceFile[] {
    if (!this.declared) {
      this.declared = new Map();
      for (const source of this.code.sources) {
        if (source.code !== undefined || isScript(source.language)) continue;
        for (const own of declaredNames(source.text)) {
          const list = this.declared.get(own);
          if (!list) this.declared.set(own, [source]);
          else if (list.at(-1) !== source) list.push(source);
        }
      }
    }
    return this.declared.get(name) ?? [];
  }

  /** Scripts that are not parsed yet, from which a file imports one of some names. */
  private imported(source: SourceFile, code: CodeFile, names: ReadonlySet<string>): SourceFile[] {
    const { sources, app } = this.code;
    this.stems ??= scriptsByStem(sources.filter(({ language }) => isScript(language)));
    const files = new Set<string>();
    for (const { source: specifier, names: own } of code.imports)
      for (const { local, imported } of own)
        if (names.has(local))
          for (const stem of stemsMeant(source.file, specifier, app.ownPackages))
            for (const file of this.stems.get(stem) ?? []) {
              files.add(file);
              this.importedFrom.set(file, (this.importedFrom.get(file) ?? new Set()).add(imported));
            }
    // What a production build takes in place of one of them.
    for (const { file, by } of app.replacedFiles) if (files.has(file)) files.add(by);
    return files.size === 0 ? [] : sources.filter(({ file, code: read }) => read === undefined && files.has(file));
  }
}

/** The functions with a name in which another one stands. */
function outerFunctions({ functions }: CodeFile, of: number): number[] {
  const inner = functions[of];
  if (!inner) return [];
  return functions.flatMap((fn, index) =>
    fn !== inner && fn.kind === "function" && fn.name !== "" && fn.from <= inner.from && fn.to >= inner.to ? [index] : [],
  );
}

/** Names under which scripts import a function: changed in an import or export, or chosen for what a file gives out as its one thing. */
function otherNames(sources: readonly SourceFile[], home: SourceFile, name: string): string[] {
  if (!isScript(home.language)) return [];
  const plain = home.code?.plain ?? home.text;
  const found = new Set<string>();
  const renamed = new RegExp(`(?<![\\w$])${escaped(name)}\\s+as\\s+([\\w$]+)`, "g");
  for (const { text, language } of sources)
    if (isScript(language) && text.includes(name)) for (const [, alias] of text.matchAll(renamed)) found.add(alias as string);
  if (new RegExp(`export\\s+default\\s[^;{]{0,60}\\b${escaped(name)}\\b`).test(plain)) {
    const file = baseName(stemOf(home.file));
    const imported = new RegExp(`\\bimport\\s+([\\w$]+)[^;"']*from\\s*["'][^"']*${escaped(file)}["']`, "g");
    for (const { text, language } of sources)
      if (isScript(language)) for (const [, local] of text.matchAll(imported)) found.add(local as string);
  }
  found.delete("default");
  return [...found].slice(0, 10);
}
