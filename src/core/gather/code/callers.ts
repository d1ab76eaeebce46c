import type { CodeCall, CodeFile } from "../../model/code.js";
import { baseName, join } from "../../model/paths.js";
import type { AppCode } from "./app-code.js";
import { matchOf } from "./matches.js";
import { type SourceFile, isScript, mentions } from "./sources.js";
import type { Wanted } from "./wanted.js";

/** How many files are looked into at most. */
const MAX_FILES = 400;

/** A name that stands in more files than this leads nowhere in particular. */
const COMMON_NAME = 40;

/** Files that mention a function with a call of interest, which are not parsed yet. */
export function callersOf({ sources, wanted, app }: AppCode, asked: Set<string>): SourceFile[] {
  const names = new Set<string>();
  for (const source of sources) {
    const { code } = source;
    if (!code) continue;
    const of = new Set<number>();
    const inFile = new Set<string>();
    // Within a file names lead on that stand in too many others to be looked for.
    for (let more = true; more;) {
      more = false;
      for (const call of code.calls) {
        const last = call.callee.split(".").at(-1) as string;
        const named = (name: string): boolean => asked.has(name) || inFile.has(name);
        const handsOver = (): boolean =>
          call.arguments.some(({ text }) => /^[\w.:]+$/.test(text) && named(text.split(/\.|::/).at(-1) as string));
        if (call.in !== -1 && of.has(call.in)) continue;
        const matters = interest(call, code, source, wanted) || named(last) || named(call.callee.split(".")[0] as string) || handsOver();
        if (!matters) continue;
        if (call.in === -1) {
          // A value of the file that holds what matters: who uses it leads there.
          for (const [name, value] of code.values)
            if (value && call.from >= value.from && call.from < value.to && !inFile.has(name)) {
              more = inFile.add(name).size > 0;
              if (name.length > 3 && !isScript(source.language) && !asked.has(name)) names.add(name);
            }
          continue;
        }
        of.add(call.in);
        const name = code.functions[call.in]?.name;
        if (name !== undefined && name !== "") inFile.add(name);
        more = true;
      }
    }
    for (const index of of) {
      const fn = code.functions[index];
      if (
        fn &&
        fn.name !== "" &&
        fn.kind === "function" &&
        !/^(onCreate|main|init|build|render|body|OnCreate|application|Start|Awake|start|run|get|set)$/.test(fn.name) &&
        !asked.has(fn.name)
      )
        for (const name of [fn.name, ...otherNames(sources, source, fn.name)]) if (!asked.has(name)) names.add(name);
      // What makes an object of the type can be what leads to it.
      if (fn && fn.type !== "" && !asked.has(fn.type)) names.add(fn.type);
    }
  }
  for (const name of names) asked.add(name);
  if (names.size === 0) return [];
  const found = new Set<SourceFile>();
  for (const name of names) {
    const files = sources.filter(({ text, file }) => !file.endsWith(".h") && text.includes(name) && mentions(text, name) > 0);
    if (files.length <= COMMON_NAME)
      for (const source of files) if (source.code === undefined && (source.side !== "shared" || app.shared)) found.add(source);
  }
  return [...found].slice(0, MAX_FILES);
}

/** Files with values that arguments of calls of interest name: what a script imports, or the type whose constant it is. */
export function valuesOf({ sources, wanted }: AppCode, asked: ReadonlySet<string>): SourceFile[] {
  const found = new Set<SourceFile>();
  for (const source of sources) {
    const { code } = source;
    if (!code) continue;
    const heads = new Set(
      code.calls.flatMap((call) =>
        call.arguments.some(({ literal }) => literal === undefined) &&
        (asked.has(call.callee.split(".").at(-1) as string) || interest(call, code, source, wanted))
          ? call.arguments.flatMap(({ text }) => text.match(/[A-Za-z_$][\w$]*/g) ?? [])
          : [],
      ),
    );
    // What a type of interest extends says which of its methods others call.
    for (const { name, supers } of code.types) if (asked.has(name)) for (const above of supers) heads.add(above);
    for (const head of heads) for (const more of code.values.get(head)?.text.match(/[A-Za-z_$][\w$]*/g) ?? []) heads.add(more);
    if (heads.size === 0) continue;
    if (isScript(source.language)) {
      for (const { source: specifier, names } of code.imports)
        if (specifier.startsWith(".") && names.some(({ local }) => heads.has(local))) {
          const base = join(source.file.split("/").slice(0, -1).join("/"), specifier).replace(/\.js$/, "");
          for (const other of sources)
            if (
              other.code === undefined &&
              other.file.startsWith(base) &&
              /^(\/index)?(\.\w+)?\.[cm]?[jt]sx?$/.test(other.file.slice(base.length))
            )
              found.add(other);
        }
    } else
      for (const head of heads) {
        // A constant of its own, outside of any type.
        if (head.length > 3 && !code.values.has(head) && !code.constants.has(head))
          for (const other of sources)
            if (
              other.code === undefined &&
              other.language === source.language &&
              other.text.includes(head) &&
              new RegExp(`\\b${head.replace(/\$/g, "\\$")}\\s*=\\s*@?["']`).test(other.text)
            )
              found.add(other);
        if (/^[A-Z]/.test(head))
          for (const other of sources)
            if (
              other.code === undefined &&
              other.language === source.language &&
              other.text.includes(head) &&
              new RegExp(`\\b(?:class|object|struct|enum|interface|record)\\s+${head}\\b`).test(other.text)
            )
              found.add(other);
      }
  }
  return [...found].slice(0, 40);
}

/** Names under which scripts import a function: changed in an import or export, or chosen for what a file gives out as its one thing. */
function otherNames(sources: readonly SourceFile[], home: SourceFile, name: string): string[] {
  if (!isScript(home.language)) return [];
  const plain = home.code?.plain ?? home.text;
  const found = new Set<string>();
  const renamed = new RegExp(`(?<![\\w$])${name.replace(/\$/g, "\\$")}\\s+as\\s+([\\w$]+)`, "g");
  for (const { text, language } of sources)
    if (isScript(language) && text.includes(name)) for (const [, alias] of text.matchAll(renamed)) found.add(alias as string);
  if (new RegExp(`export\\s+default\\s[^;{]{0,60}\\b${name.replace(/\$/g, "\\$")}\\b`).test(plain)) {
    const file = baseName(home.file).replace(/(\.(android|ios|native))?\.\w+$/, "");
    const folder = home.file.split("/").at(-2) ?? "";
    const imported = new RegExp(
      `\\bimport\\s+([\\w$]+)[^;"']*from\\s*["'][^"']*(?:${escapedName(file)}${file === "index" ? `|${escapedName(folder)}` : ""})["']`,
      "g",
    );
    for (const { text, language } of sources)
      if (isScript(language)) for (const [, local] of text.matchAll(imported)) found.add(local as string);
  }
  found.delete("default");
  return [...found].slice(0, 10);
}

function escapedName(name: string): string {
  return name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}

/** Calls whose way from an entry point matters; what is merely used can be anywhere. */
function interest(call: CodeCall, code: CodeFile, source: SourceFile, wanted: Wanted): boolean {
  const kind = matchOf(call, code, source, wanted)?.kind;
  return kind !== undefined && kind !== "use";
}
