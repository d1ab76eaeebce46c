import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/** Classes of the engine: what they bring is not in the files. */
const ENGINE = /^(MonoBehaviour|ScriptableObject|Component|Behaviour|Object)$/;

/** What every component has, as events name it. */
const INHERITED =
  /^((?:set|get)_(?:enabled|name|tag|hideFlags|useGUILayout|runInEditMode)|SetActive|SendMessage|BroadcastMessage|Invoke|StopAllCoroutines|CancelInvoke|StartCoroutine|StopCoroutine)$/;

const CLASS = /\bclass\s+(\w+)/g;

const TYPE = /\b(?:class|struct|enum|interface|record(?:\s+(?:class|struct))?|delegate\s+[\w.<>]+)\s+(\w+)/g;

interface ScriptClass {
  /** Names in its files that a method or property may have. */
  has: ReadonlySet<string>;
  above: string[];
}

/** Code of a script, without its comments. */
export interface ScriptCode {
  source: SourceFile;
  code: string;
}

/** The classes of a project in C#, by their names: looked at as texts, as many are asked for by name alone. */
export class ScriptClasses {
  readonly all: readonly ScriptCode[];
  private readonly classes = new Map<string, ScriptClass | undefined>();
  private constants: Map<string, string | undefined> | undefined;
  private homes: Map<string, ScriptCode[]> | undefined;
  private files: Map<string, ScriptCode[]> | undefined;

  constructor(sources: readonly SourceFile[]) {
    this.all = sources.filter(({ language }) => language === "csharp").map((source) => ({ source, code: withoutComments(source.text) }));
  }

  /** Whether the app's own code declares it. */
  knows(type: string): boolean {
    return this.look(type) !== undefined;
  }

  /** Whether a class may have a method: it, one that it extends, or one of which not all is here. */
  may(type: string, method: string, depth = 0): boolean {
    if (ENGINE.test(type)) return INHERITED.test(method);
    const found = depth < 8 ? this.look(type) : undefined;
    return !found || found.has.has(method) || found.above.some((above) => !/^I[A-Z]/.test(above) && this.may(above, method, depth + 1));
  }

  /** Whether a class extends one of the engine's, through others of the app's own. */
  extends(type: string, base: RegExp, depth = 0): boolean {
    const above = depth < 8 ? (this.look(type)?.above ?? []) : [];
    return above.some((name) => base.test(name) || this.extends(name, base, depth + 1));
  }

  /** Names of the methods of a class. */
  methodsOf(type: string): string[] {
    return this.homesOf(type).flatMap(({ code }) =>
      [...code.matchAll(/\b(?:void|IEnumerator|async\s+\w+|bool|int|float|string)\s+(\w+)\s*\(/g)].map(([, name = ""]) => name),
    );
  }

  /** Simple names of all types that are declared, with the namespaces of their files. */
  types(): ReadonlyMap<string, ReadonlySet<string>> {
    const found = new Map<string, Set<string>>();
    for (const { code } of this.all) {
      const spaces = [...code.matchAll(/\bnamespace\s+([\w.]+)/g)].map(([, name = ""]) => name);
      for (const [, name = ""] of code.matchAll(TYPE)) {
        const known = found.get(name) ?? new Set();
        for (const space of spaces.length > 0 ? spaces : [""]) known.add(space);
        found.set(name, known);
      }
    }
    return found;
  }

  /** The files that declare a type, or a part of it. */
  filesOf(type: string): readonly ScriptCode[] {
    this.files ??= this.byNames(TYPE);
    return this.files.get(type) ?? [];
  }

  /** The text of a constant, where all that are named so agree. */
  constant(path: string): string | undefined {
    if (!this.constants) {
      this.constants = new Map();
      for (const { code } of this.all)
        for (const [, name = "", text = ""] of code.matchAll(/\b(?:const|static\s+readonly)\s+string\s+(\w+)\s*=\s*"([^"\\\n]*)"\s*;/g))
          this.constants.set(name, this.constants.has(name) && this.constants.get(name) !== text ? undefined : text);
    }
    return this.constants.get(path.split(".").at(-1) ?? path);
  }

  /** The class around a place of a file; the last that begins before it. */
  classAt({ code }: ScriptCode, offset: number): string | undefined {
    return [...code.slice(0, offset).matchAll(CLASS)].at(-1)?.[1];
  }

  /** The files by the names that a form finds in them. */
  private byNames(form: RegExp): Map<string, ScriptCode[]> {
    const found = new Map<string, ScriptCode[]>();
    for (const script of this.all)
      for (const name of new Set([...script.code.matchAll(form)].map(([, own = ""]) => own))) {
        const known = found.get(name);
        if (known) known.push(script);
        else found.set(name, [script]);
      }
    return found;
  }

  private homesOf(type: string): readonly ScriptCode[] {
    this.homes ??= this.byNames(CLASS);
    return this.homes.get(type) ?? [];
  }

  private look(type: string): ScriptClass | undefined {
    if (!this.classes.has(type)) this.classes.set(type, this.read(type));
    return this.classes.get(type);
  }

  private read(type: string): ScriptClass | undefined {
    const own = this.homesOf(type).map(({ code }) => code);
    if (own.length === 0) return undefined;
    const head = new RegExp(`\\bclass\\s+${type}\\b[^:{]*:([^{]*)`);
    return {
      has: new Set(own.flatMap((code) => code.match(/\b[A-Za-z_]\w*(?=\s*[(<{=;])/g) ?? [])),
      above: own
        .flatMap((code) => (head.exec(code)?.[1] ?? "").split(","))
        .map((name) => name.trim().split(/[<\s]/)[0]?.split(".").at(-1) ?? "")
        .filter(Boolean),
    };
  }
}

/** The attributes of a class: what stands between the end of what is before it and its name. */
export function attributesBefore(code: string, at: number): string {
  const before = code.slice(0, at);
  return before.slice(Math.max(before.lastIndexOf(";"), before.search(/\n\s*[{}]\s*\n(?!(?:[\s\S]*\n)\s*[{}]\s*\n)/)) + 1);
}
