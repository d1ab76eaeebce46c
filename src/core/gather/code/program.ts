import type { CodeCall, CodeFile, CodeFunction, CodeType } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { join, parentOf } from "../../model/paths.js";
import { isScript, type SourceFile } from "./sources.js";

/** A function with the file in which it stands; `index` -1 is the code of the file outside of any function. */
export interface FunctionRef {
  source: SourceFile;
  code: CodeFile;
  index: number;
}

export function functionOf({ code, index }: FunctionRef): CodeFunction | undefined {
  return code.functions[index];
}

/** The parsed files of an app, by the names in them. */
export class Program {
  readonly files: { source: SourceFile; code: CodeFile }[];
  private readonly byName = new Map<string, FunctionRef[]>();
  private readonly typesByName = new Map<string, { source: SourceFile; code: CodeFile; type: CodeType }[]>();
  private readonly supers = new Map<string, Set<string>>();
  private readonly callsByFunction = new Map<CodeFile, Map<number, CodeCall[]>>();
  private readonly byPath = new Map<string, { source: SourceFile; code: CodeFile }>();

  constructor(files: readonly SourceFile[]) {
    this.files = files.flatMap((source) => (source.code ? [{ source, code: source.code }] : []));
    for (const { source, code } of this.files) {
      this.byPath.set(source.file, { source, code });
      code.functions.forEach((fn, index) => push(this.byName, fn.name, { source, code, index }));
      for (const type of code.types) {
        push(this.typesByName, type.name, { source, code, type });
        const known = this.supers.get(type.name) ?? new Set();
        for (const above of [...type.supers, ...type.annotations]) known.add(above);
        this.supers.set(type.name, known);
      }
      const calls = new Map<number, CodeCall[]>();
      for (const call of code.calls) push(calls, call.in, call);
      this.callsByFunction.set(code, calls);
    }
  }

  calls({ code, index }: FunctionRef): readonly CodeCall[] {
    return this.callsByFunction.get(code)?.get(index) ?? [];
  }

  named(name: string): readonly FunctionRef[] {
    return this.byName.get(name) ?? [];
  }

  types(name: string): readonly { source: SourceFile; code: CodeFile; type: CodeType }[] {
    return this.typesByName.get(name) ?? [];
  }

  /** What a type extends and is marked with, through the app's own types. */
  heritage(type: string): Set<string> {
    const found = new Set<string>();
    const open = [type];
    for (let name = open.pop(); name !== undefined; name = open.pop()) {
      for (const above of this.supers.get(name) ?? []) {
        if (found.has(above)) continue;
        found.add(above);
        open.push(above);
      }
    }
    return found;
  }

  /** The functions that a call can mean, by its name: those of the same type, then of the named type, then of the same file. */
  targets(call: CodeCall, from: FunctionRef): { refs: FunctionRef[]; certain: boolean } {
    const parts = call.callee.split(".");
    const name = parts.at(-1) as string;
    const head = parts.length > 1 ? (parts[0] as string) : undefined;
    const own = functionOf(from)?.type ?? "";
    const sameSide = (ref: FunctionRef): boolean => ref.source.side === from.source.side || from.source.side === "shared";
    const all = this.named(name).filter(sameSide);
    const pick = (refs: FunctionRef[]): { refs: FunctionRef[]; certain: boolean } | undefined =>
      refs.length > 0 ? { refs: refs.slice(0, 4), certain: refs.length === 1 } : undefined;
    if (head === undefined || head === "this" || head === "self") {
      if (parts.length <= 2) {
        const mine = own === "" ? [] : all.filter((ref) => functionOf(ref)?.type === own);
        const here =
          mine.length > 0 ? mine : all.filter((ref) => ref.code === from.code && (head === undefined || functionOf(ref)?.type === own));
        const found =
          pick(here) ??
          (head === undefined ? pick(all.filter((ref) => functionOf(ref)?.type === "" || this.importsFrom(from, name, ref))) : undefined);
        if (found) return found;
      }
    } else {
      const type = from.code.variables.get(head) ?? head;
      const found = pick(
        all.filter((ref) => functionOf(ref)?.type === type || functionOf(ref)?.type === head || this.importsFrom(from, head, ref)),
      );
      if (found) return found;
    }
    // Making an object runs its constructor.
    const made = this.types(name).filter(({ source }) => source.side === from.source.side || from.source.side === "shared");
    if (parts.length <= 2 && made.length > 0) {
      const refs = made.flatMap(({ code, source, type }) =>
        code.functions.flatMap((fn, index) =>
          fn.type === type.name && (fn.kind === "constructor" || fn.kind === "initializer") ? [{ source, code, index }] : [],
        ),
      );
      return { refs: refs.slice(0, 4), certain: made.length === 1 };
    }
    return { refs: [], certain: true };
  }

  /** Whether a script file gets a name from the file of a function. */
  private importsFrom(from: FunctionRef, local: string, ref: FunctionRef): boolean {
    if (!isScript(from.source.language)) return false;
    return from.code.imports.some(
      ({ source, names }) => names.some((name) => name.local === local) && this.resolve(from.source.file, source)?.code === ref.code,
    );
  }

  /** The own file that a relative import of a script means. */
  resolve(file: string, specifier: string): { source: SourceFile; code: CodeFile } | undefined {
    if (!/^[.@~]/.test(specifier)) return undefined;
    const base = specifier.startsWith(".") ? join(parentOf(file), specifier) : undefined;
    const tails = [
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
      ".android.tsx",
      ".ios.tsx",
    ];
    if (base !== undefined) {
      for (const tail of tails) {
        const found = this.byPath.get(base + tail);
        if (found) return found;
      }
      return undefined;
    }
    // An alias for the folder of the sources (`@/start`): the only file that ends so.
    const rest = specifier.replace(/^[@~][\w-]*\//, "/");
    const fitting = this.files.filter(({ source }) => tails.some((tail) => source.file.endsWith(rest + tail)));
    return fitting.length === 1 ? fitting[0] : undefined;
  }

  /** Parsed files of a side. */
  ofSide(side: SideName): readonly { source: SourceFile; code: CodeFile }[] {
    return this.files.filter(({ source }) => source.side === side);
  }
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
}
