import { closing } from "../../syntax/code/callee.js";
import { isScript } from "../../syntax/code/languages.js";
import { withoutComments } from "../../syntax/comments.js";
import { standsInCode } from "./stands-in-code.js";
import type { SourceFile } from "./sources.js";

/** A statement of a script that takes names from another one, for itself or to hand them on, but for those of types alone. */
const IMPORT = /^[ \t]*(?:import|export)\s+(?!type\b)(?:([A-Za-z_$][\w$]*)\s*,?\s*)?(?:\{([^{}]*)\}\s*)?from\s*(["'])([^"'\n]+)\3/gm;

/** A name that is taken from a script when it is loaded: `import("./account").then((m) => m.AccountPage)`. */
const LOADED = /\bimport\(\s*(["'])([^"'\n]+)\1\s*\)\s*\.\s*then\(\s*(?:\(\s*)?(\w+)\s*(?:\)\s*)?=>\s*\3\s*\.\s*(\w+)/g;

/** What gives out names that nobody sees here. Sources: nodejs.org, "CommonJS modules"; typescriptlang.org, "export =". */
const OPEN = /\bexports\b|\bexport\s*=|\bexport\s+import\b/;

/** A name that a script imports and the file of the app's own that it imports it from does not give out. */
export interface LostName {
  name: string;
  /** The file that should have it. */
  from: string;
  offset: number;
}

/** What scripts give out, by their files; read once for each. */
export class Exports {
  private readonly byFile: ReadonlyMap<string, SourceFile>;
  private readonly known = new Map<string, ReadonlySet<string> | undefined>();

  /** @param resolve the file that a specifier means in a file; `undefined` where it is none of the app's own */
  constructor(
    sources: readonly SourceFile[],
    private readonly resolve: (specifier: string, file: string) => string | undefined,
  ) {
    this.byFile = new Map(sources.flatMap((source) => (isScript(source.language) ? [[source.file, source] as const] : [])));
  }

  /** The names that a script takes from files of the app's own and that these do not have: they are undefined when it runs. */
  lostIn(source: SourceFile): LostName[] {
    let plain: string | undefined;
    const loaded = [...source.text.matchAll(LOADED)].flatMap((match): LostName[] => {
      const [whole, , specifier = "", , name = ""] = match;
      const file = this.resolve(specifier, source.file);
      const given = file === undefined ? undefined : this.of(file);
      if (file === undefined || given === undefined || given.has(name) || !standsInCode(match, (plain ??= withoutComments(source.text))))
        return [];
      return [{ name, from: file, offset: match.index + whole.length - name.length }];
    });
    const taken = [...source.text.matchAll(IMPORT)].flatMap((match): LostName[] => {
      const [, whole, list = "", , specifier = ""] = match;
      const file = this.resolve(specifier, source.file);
      const given = file === undefined ? undefined : this.of(file);
      if (file === undefined || given === undefined) return [];
      const named = list.split(",").flatMap((part) => /^\s*(?!type\s)([\w$]+)/.exec(part)?.[1] ?? []);
      const lost = [...(whole === undefined || given.has("default") ? [] : [whole]), ...named.filter((name) => !given.has(name))];
      if (lost.length === 0 || !standsInCode(match, (plain ??= withoutComments(source.text)))) return [];
      return lost.map((name) => ({ name, from: file, offset: match.index + match[0].indexOf(name, 6) }));
    });
    return [...taken, ...loaded];
  }

  /** The names that a file gives out; `undefined` where it may give out others. */
  private of(file: string): ReadonlySet<string> | undefined {
    if (this.known.has(file)) return this.known.get(file);
    // Files that hand on each other's names give nothing more the second time.
    this.known.set(file, new Set());
    const source = this.byFile.get(file);
    const found = source && !file.endsWith(".d.ts") ? this.read(source) : undefined;
    this.known.set(file, found);
    return found;
  }

  private read({ text, file }: SourceFile): Set<string> | undefined {
    const plain = withoutComments(text);
    const names = namesGiven(plain);
    if (!names) return undefined;
    for (const [, as, specifier = ""] of plain.matchAll(/\bexport\s*(?:type\s*)?\*\s*(?:as\s+([\w$]+)\s*)?from\s*["']([^"'\n]+)["']/g)) {
      const next = as === undefined ? this.resolve(specifier, file) : undefined;
      const handed = as !== undefined ? [as] : next === undefined ? undefined : this.of(next);
      if (handed === undefined) return undefined;
      for (const name of handed) if (name !== "default") names.add(name);
    }
    return names;
  }
}

/**
 * The names that a script declares and gives out itself, and more where a statement declares several; `undefined` where it may give out others.
 * @param plain its text without comments
 */
export function namesGiven(plain: string): Set<string> | undefined {
  if (OPEN.test(plain)) return undefined;
  const names = new Set<string>();
  for (const [, name = ""] of plain.matchAll(
    /\bexport\s+(?:declare\s+)?(?:abstract\s+)?(?:async\s+)?(?:const\s+enum|function\s*\*?|class|enum|interface|type|opaque\s+type|namespace|module)\s+([\w$]+)/g,
  ))
    names.add(name);
  if (/\bexport\s+default\b/.test(plain)) names.add("default");
  for (const match of plain.matchAll(/\bexport\s+(?:declare\s+)?(?:const|let|var)\s+(?!enum\b)/g))
    for (const name of declaredFrom(plain, match.index + match[0].length)) names.add(name);
  for (const [, list = ""] of plain.matchAll(/\bexport\s*(?:type\s*)?\{([^}]*)\}/g))
    for (const part of list.split(",")) {
      const [, own, as] = /^\s*(?:type\s+)?([\w$]+)(?:\s+as\s+([\w$]+|"[^"]*"))?/.exec(part) ?? [];
      if (own !== undefined) names.add(as ?? own);
    }
  return names;
}

/** What a declaration names: `a`, `{ a, b: c = 1 }`, and what stands behind further commas, up to the end of the statement or the next one at the margin. */
function declaredFrom(plain: string, from: number): string[] {
  const taken = /[{[]/.test(plain[from] ?? "") ? plain.slice(from, closing(plain, from)) : "";
  const end = /;|\n(?=\S)/.exec(plain.slice(from))?.index ?? plain.length;
  const more = plain.slice(from, from + end).matchAll(/,\s*([\w$]+)(?=\s*[=:,]|\s*$)/g);
  return [
    ...(taken === "" ? (/^[\w$]+/.exec(plain.slice(from, from + 200)) ?? []) : (taken.match(/[\w$]+/g) ?? [])),
    ...[...more].map((match) => match[1] as string),
  ];
}
