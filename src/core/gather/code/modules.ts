import type { CodeFile, CodeValue } from "../../model/code.js";
import type { App } from "../../model/app.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import type { FunctionRef } from "./function-ref.js";
import { escaped } from "./mentions.js";
import { isScript, type SourceFile } from "./sources.js";

interface File {
  source: SourceFile;
  code: CodeFile;
}

/** A name that a module of a script gives out, and where it is its own. */
interface Exported {
  file: File;
  name: string;
}

const TAILS = [
  "",
  ".ts",
  ".tsx",
  ".js",
  ".jsx",
  ".mjs",
  ".dart",
  "/index.ts",
  "/index.tsx",
  "/index.js",
  "/index.jsx",
  ".android.js",
  ".ios.js",
  ".native.js",
  ".android.ts",
  ".ios.ts",
  ".native.ts",
  ".android.tsx",
  ".ios.tsx",
  ".native.tsx",
];

/** So many files hand a name on, one after the other. */
const MOST_HOPS = 6;

/** What scripts import from each other: default exports, names that are changed on the way, and files that only hand on. */
export class Modules {
  private readonly byPath = new Map<string, File>();
  private readonly resolved = new Map<string, File | undefined>();
  private readonly exports = new Map<string, Exported[]>();

  constructor(
    private readonly files: readonly File[],
    private readonly packages: App["ownPackages"] = [],
  ) {
    for (const file of files) this.byPath.set(file.source.file, file);
  }

  /** The own file that a relative import means, one by an alias for the folder of the sources (`@/start`), or one of a package of the repository. */
  resolve(file: string, specifier: string): File | undefined {
    const own = packagesMeant(specifier, this.packages);
    if (own.length > 0) {
      if (!this.resolved.has(specifier)) this.resolved.set(specifier, this.inPackages(own, specifier));
      return this.resolved.get(specifier);
    }
    if (!/^[.@~]/.test(specifier)) return undefined;
    const key = specifier.startsWith(".") ? join(parentOf(file), specifier) : specifier;
    if (!this.resolved.has(key)) this.resolved.set(key, this.find(specifier.startsWith("."), key));
    return this.resolved.get(key);
  }

  private inPackages(packages: App["ownPackages"], specifier: string): File | undefined {
    for (const path of packages.flatMap((own) => pathsMeant(own, specifier))) {
      const found = this.find(true, path);
      if (found) return found;
    }
    return undefined;
  }

  private find(relative: boolean, path: string): File | undefined {
    if (relative) {
      const base = path.replace(/\.js$/, "");
      for (const tail of TAILS) {
        const found = this.byPath.get(base + tail);
        if (found) return found;
      }
      return undefined;
    }
    const rest = path.replace(/^[@~][\w-]*\//, "/");
    // A file of the name goes before a folder of it.
    for (const tails of [TAILS.filter((tail) => !tail.startsWith("/")), TAILS]) {
      const fitting = this.files.filter(({ source }) => tails.some((tail) => source.file.endsWith(rest + tail)));
      if (fitting.length > 0) return fitting.length === 1 ? fitting[0] : undefined;
    }
    return undefined;
  }

  /** What a name of a file means that it imports from another own file. */
  private imported(from: FunctionRef, local: string): Exported[] {
    const { code, source } = from;
    for (const { source: specifier, names } of code.imports)
      for (const { local: own, imported } of names) {
        if (own !== local || imported === "*") continue;
        const file = this.resolve(source.file, specifier);
        if (file) return this.exported(file, imported, 0);
      }
    return [];
  }

  /** Where the name that a file gives out is declared. */
  private exported(file: File, name: string, hop: number): Exported[] {
    if (hop > MOST_HOPS) return [];
    const key = `${file.source.file} ${name}`;
    let found = this.exports.get(key);
    if (!found) this.exports.set(key, (found = this.findExported(file, name, hop)));
    return found;
  }

  private findExported(file: File, name: string, hop: number): Exported[] {
    const { plain } = file.code;
    for (const [, list = "", specifier] of plain.matchAll(/\bexport\s*\{([^}]*)\}(?:\s*from\s*["']([^"'\n]+)["'])?/g)) {
      const part = list
        .split(",")
        .map((item) => /^\s*(?:type\s+)?([\w$]+)(?:\s+as\s+([\w$]+))?/.exec(item))
        .find((match) => match && (match[2] ?? match[1]) === name);
      if (!part) continue;
      const inner = part[1] as string;
      if (specifier === undefined) return this.declared(file, inner, hop);
      const next = this.resolve(file.source.file, specifier);
      return next ? this.exported(next, inner, hop + 1) : [];
    }
    if (name === "default") {
      const own =
        /\bexport\s+default\s+(?:async\s+)?(?:function\*?|class)?\s*(?:[\w.]+\(\s*)*([A-Za-z_$][\w$]*)/.exec(plain)?.[1] ??
        /\bexport\s*\{[^}]*?([\w$]+)\s+as\s+default\b/.exec(plain)?.[1] ??
        /\bmodule\.exports\s*=\s*(?:async\s+)?(?:function\*?|class)?\s*([A-Za-z_$][\w$]*)/.exec(plain)?.[1];
      return own === undefined ? [] : this.declared(file, own, hop);
    }
    if (declares(file.code, name)) return [{ file, name }];
    for (const [, specifier = ""] of plain.matchAll(/\bexport\s*\*\s*from\s*["']([^"'\n]+)["']/g)) {
      const next = this.resolve(file.source.file, specifier);
      const found = next ? this.exported(next, name, hop + 1) : [];
      if (found.length > 0) return found;
    }
    return [];
  }

  /** A name inside of a file: its own, or one that it imports and hands on. */
  private declared(file: File, name: string, hop: number): Exported[] {
    if (declares(file.code, name)) return [{ file, name }];
    const handed = this.imported({ ...file, index: -1 }, name);
    return handed.length > 0 || hop > MOST_HOPS ? handed : [{ file, name }];
  }

  private refs(exported: readonly Exported[]): FunctionRef[] {
    return exported.flatMap(({ file, name }) =>
      file.code.functions.flatMap((fn, index) => (fn.name === name && fn.type === "" ? [{ ...file, index }] : [])),
    );
  }

  /** The functions of other files that a name of a file means; with `import * as all` any of that file. */
  functions(from: FunctionRef, local: string): FunctionRef[] {
    return this.refs(this.imported(from, local));
  }

  /** The functions that a member of an imported name means: of a whole module, or of an object of functions. */
  members(from: FunctionRef, local: string, name: string): FunctionRef[] {
    for (const { source: specifier, names } of from.code.imports)
      for (const { local: own, imported } of names) {
        const file = own === local && imported === "*" ? this.resolve(from.source.file, specifier) : undefined;
        if (file) return this.refs(this.exported(file, name, 0));
      }
    const homes = declares(from.code, local)
      ? [{ file: { source: from.source, code: from.code }, name: local }]
      : this.imported(from, local);
    return homes.flatMap(({ file, name: object }) => {
      const at = new RegExp(`\\b(?:const|let|var)\\s+${escaped(object)}\\s*(?::[^=]*)?=\\s*\\{`).exec(file.code.plain);
      if (!at) return [];
      return file.code.functions.flatMap((fn, index) =>
        fn.name === name && fn.type === "" && fn.from > at.index ? [{ ...file, index }] : [],
      );
    });
  }

  /** The class of another file that a name means. */
  typeName(from: FunctionRef, local: string): string | undefined {
    return this.imported(from, local).find(({ file, name }) => file.code.types.some((type) => type.name === name))?.name;
  }

  /** What an imported name stands for. */
  value(from: FunctionRef, local: string): (CodeValue & { ref: FunctionRef }) | undefined {
    for (const { file, name } of this.imported(from, local)) {
      const value = file.code.values.get(name);
      if (value) return { ...value, ref: { ...file, index: -1 } };
    }
    return undefined;
  }

  /** Where a name that a file imports from another own one is declared, and under which name. */
  origin(from: FunctionRef, local: string): { ref: FunctionRef; name: string } | undefined {
    const [found] = this.imported(from, local);
    return found && { ref: { ...found.file, index: -1 }, name: found.name };
  }

  /** Whether a name of a file is imported from another own one. */
  isOwn(from: FunctionRef, local: string): boolean {
    return from.code.imports.some(
      ({ source, names }) => names.some((name) => name.local === local) && this.resolve(from.source.file, source) !== undefined,
    );
  }

  /** Whether a name in a file can mean a function of another: it is imported from there, or in a way that is not followed. */
  sees(from: FunctionRef, local: string, target: FunctionRef): boolean {
    if (from.code === target.code || !isScript(from.source.language)) return true;
    const found = this.functions(from, local);
    if (found.length > 0) return found.some((ref) => ref.code === target.code);
    const bound = from.code.imports.filter(({ names }) => names.some((name) => name.local === local));
    // What another package brings, or the file declares itself, is not it.
    if (bound.length > 0) return bound.some(({ source }) => /^[.@~]/.test(source) && this.resolve(from.source.file, source) === undefined);
    // What a module neither imports nor declares is not there; scripts of a page share their names.
    return !declares(from.code, local) && from.code.imports.length === 0 && !/\bexport\b/.test(from.code.plain);
  }
}

/** Whether a file has a function, class or value of a name of its own. */
function declares(code: CodeFile, name: string): boolean {
  return (
    code.functions.some((fn) => fn.name === name && fn.type === "") ||
    code.types.some((type) => type.name === name) ||
    code.values.has(name)
  );
}

/** The scripts with which an app of React Native or Expo begins; none where that is not certain. */
export function rootScripts(app: Pick<App, "kind" | "shared">, sources: readonly SourceFile[]): SourceFile[] {
  if ((app.kind !== "react-native" && app.kind !== "expo") || !app.shared) return [];
  const { folder } = app.shared;
  const shared = sources.filter(({ side, language }) => side === "shared" && isScript(language));
  const first = shared.filter(
    ({ file }) => parentOf(file) === folder && /^index(\.(android|ios|native))?\.[cm]?[jt]sx?$/.test(baseName(file)),
  );
  // Routes are files of a folder, which the framework loads. Source: docs.expo.dev, "Core concepts of file-based routing".
  const routes = shared.filter(({ file }) => ["app", "src/app"].some((below) => isWithin(file, join(folder, below))));
  if (first.length > 0) return [...first, ...(shared.some(({ text }) => text.includes("expo-router")) ? routes : [])];
  return [];
}

/** The path of a script as imports write it: without what tells platforms, its ending, and the name of a folder's own file. */
export function stemOf(file: string): string {
  return file.replace(/(\.(android|ios|native|web))?\.[cm]?[jt]sx?$/, "").replace(/\/index$/, "");
}

/** The packages and folders of the repository that an import by name can mean, in the order in which they are tried. */
export function packagesMeant(specifier: string, packages: App["ownPackages"]): App["ownPackages"] {
  // A name for a file stands for itself alone, and one for a folder for what follows it.
  return packages.filter(({ name, alias, entries }) =>
    specifier === name ? !alias || entries.length > 0 : specifier.startsWith(`${name}/`) && !(alias && entries.length > 0),
  );
}

/** The paths in a package or folder of the repository that an import of it can mean, without what may follow them. */
export function pathsMeant({ name, folder, entries, alias }: App["ownPackages"][number], specifier: string): string[] {
  const path = specifier.slice(name.length + 1);
  return (path === "" ? entries : alias ? [path] : [path, `src/${path}`]).map((entry) => join(folder, entry));
}

/** The stems of the scripts that an import can mean: beside the file, or in a package or folder of the repository that has the name. */
export function stemsMeant(file: string, specifier: string, packages: App["ownPackages"]): string[] {
  if (specifier.startsWith(".")) return [stemOf(scriptPath(join(parentOf(file), specifier)))];
  return packagesMeant(specifier, packages).flatMap((own) => pathsMeant(own, specifier).map((path) => stemOf(scriptPath(path))));
}

/** A path of a script with an ending, so that a point in its name is none. */
function scriptPath(path: string): string {
  return `${path.replace(/\.[cm]?[jt]sx?$/, "")}.js`;
}

export function scriptsByStem(scripts: readonly SourceFile[]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const { file } of scripts) found.set(stemOf(file), [...(found.get(stemOf(file)) ?? []), file]);
  return found;
}

/** The scripts that others bring in, beginning with some; empty where a script is brought in by a name that is only made when it runs. */
export function importedScripts(
  sources: readonly SourceFile[],
  roots: readonly string[],
  packages: App["ownPackages"],
): ReadonlySet<string> {
  const scripts = sources.filter(({ language }) => isScript(language));
  const byPath = new Map(scripts.map((source) => [source.file, source]));
  const byStem = scriptsByStem(scripts);
  const byName = new Map<string, string[]>();
  for (const stem of byStem.keys()) byName.set(baseName(stem), [...(byName.get(baseName(stem)) ?? []), stem]);
  const found = new Set<string>();
  const open = [...roots];
  for (let file = open.pop(); file !== undefined; file = open.pop()) {
    const source = byPath.get(file);
    if (found.has(file) || !source) continue;
    found.add(file);
    if (/\b(?:require|import)\(\s*[^"'`\s)/]|\brequire\.context\b/.test(source.text)) return new Set();
    for (const match of source.text.matchAll(/\b(import\s+type\b[^;"'`]*)?\b(?:from|import|require)\s*\(?\s*["'`]([^"'`\n]+)["'`]/g)) {
      // Imports of types alone are gone at run time.
      if (match[1] !== undefined) continue;
      const specifier = (match[2] as string).replace(/\.[cm]?[jt]sx?$/, "");
      const own = packagesMeant(specifier, packages);
      if (own.length > 0) {
        const files = stemsMeant(file, specifier, own).flatMap((stem) => byStem.get(stem) ?? []);
        const built = files.length > 0 ? undefined : own.find(({ alias }) => !alias);
        // What it gives out is built: any of its files may go into that.
        open.push(...(built ? [...byPath.keys()].filter((one) => isWithin(one, built.folder)) : files));
      } else if (specifier.startsWith(".")) open.push(...stemsMeant(file, specifier, []).flatMap((stem) => byStem.get(stem) ?? []));
      else {
        // By an alias, or from the folder of the sources on: any file whose path ends so.
        const rest = `/${specifier.replace(/^[@~#][\w-]*\//, "")}`.replace(/\/index$/, "");
        for (const stem of byName.get(baseName(rest)) ?? []) if (`/${stem}`.endsWith(rest)) open.push(...(byStem.get(stem) ?? []));
      }
    }
  }
  return found;
}
