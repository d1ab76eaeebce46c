import { distance } from "fastest-levenshtein";
import type { BridgeFact } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import { keptOff } from "../platforms/directives.js";
import type { SourceFile } from "./sources.js";

/**
 * Functions and classes of native code that C# asks for by name, where the project's own native code has what they seem to mean under another
 * one. What libraries offer is not in the files, so that a name which nothing here resembles is left alone.
 * Source: docs.unity3d.com, "Native plug-ins for iOS" (DllImport of __Internal), "Call Java and Kotlin plug-in code" (AndroidJavaClass).
 */
export function nativeInterfaces(sources: readonly SourceFile[]): BridgeFact[] {
  const found: BridgeFact[] = [];
  const shared = sources.filter(({ language, side }) => language === "csharp" && side === "shared");
  found.push(...functionsOfC(shared, sources), ...classesOfJava(shared, sources), ...methodsOfJava(shared, sources));
  return found;
}

/** What gives functions their plain names in C++, or may: a header of the project's own, a macro. */
const C_LINKAGE = /\bextern\s+"C"|#\s*(?:import|include)\s*"|\b(?:EXTERN_C|\w*_EXTERN\w*|\w*EXPORT\w*)\b/;

function functionsOfC(shared: readonly SourceFile[], sources: readonly SourceFile[]): BridgeFact[] {
  const all = shared.flatMap((source) =>
    [
      ...source.text.matchAll(
        /\[DllImport\s*\(\s*"(\w+)"([^\]\n]{0,200})\]\s*(?:\[[^\]\n]{0,200}\]\s*)*(?:(?:private|public|internal|protected|static|extern|unsafe)\s+)+[\w.[\]<>*]+\s+(\w+)\s*\(/g,
      ),
    ].map((match) => ({
      source,
      library: match[1] as string,
      name: /EntryPoint\s*=\s*"(\w+)"/.exec(match[2] ?? "")?.[1] ?? (match[3] as string),
      from: match.index,
    })),
  );
  const asked = all.filter(({ library }) => library === "__Internal");
  if (all.length === 0) return [];
  const offered = new Set<string>();
  /** Functions of files in C++ that say nowhere that they are to be found by their plain names. */
  const mangled = new Set<string>();
  for (const { text, language, file } of sources) {
    if (language !== "objc" && !/\.(c|cpp|swift|h)$/.test(file)) continue;
    const plain = withoutComments(text);
    for (const match of plain.matchAll(/@_cdecl\(\s*"(\w+)"/g)) offered.add(match[1] as string);
    if (language === "objc" || /\.(c|cpp)$/.test(file))
      for (const match of plain.matchAll(
        /^[ \t]*(?:extern[ \t]+"C"[ \t]+)?(?:const[ \t]+)?[A-Za-z_][\w*]{0,80}[ \t*]{1,8}(\w+)[ \t]*\([^;{}()]{0,400}\)[ \t]*(?:\r?\n[ \t]*)?\{/gm,
      ))
        (/\.(mm|cpp)$/.test(file) && !C_LINKAGE.test(plain) ? mangled : offered).add(match[1] as string);
  }
  const names = new Set(asked.map(({ name }) => name));
  const isForIos = ({ source, from }: Asked): boolean => {
    const off = keptOff(source.text)(from);
    return off.has("android") && !off.has("ios");
  };
  const fault = ({ source, from }: Asked, shown: string, advice: string): BridgeFact => ({
    kind: "native function",
    name: shown,
    near: "",
    advice,
    role: "asked",
    side: "shared",
    guards: [],
    at: source.place(from),
  });
  return [
    ...misspelt(
      asked.filter(({ name: own }) => !mangled.has(own)),
      offered,
      [...offered].filter((name) => !names.has(name)),
      "native function",
    ),
    ...asked
      .filter(({ name }) => mangled.has(name) && !offered.has(name))
      .map((one) => fault(one, `${one.name} by its plain name`, `put ${one.name} into extern "C" { } in the native code`)),
    // Source: docs.unity3d.com, "Native plug-ins for iOS": its code is linked into the app.
    ...all
      .filter((one) => one.library !== "__Internal" && offered.has(one.name) && isForIos(one))
      .map((one) => fault(one, `${one.name} of ${one.library}`, 'import it from "__Internal": on iOS native code is part of the app')),
    ...asked.flatMap((one) => {
      const use = callOnAndroid(one);
      return use === undefined
        ? []
        : [
            fault(
              { ...one, from: use },
              `${one.name} on Android`,
              "call it under #if UNITY_IOS alone: __Internal is the app itself on iOS",
            ),
          ];
    }),
  ];
}

/** Where the function is called in what is compiled for Android alone. */
function callOnAndroid({ source, name }: Asked): number | undefined {
  const text = withoutComments(source.text);
  const kept = keptOff(text);
  return [...text.matchAll(new RegExp(`(?<![\\w.])${name}\\s*\\(`, "g"))].find(({ index }) => {
    const off = kept(index);
    return off.has("ios") && !off.has("android");
  })?.index;
}

function classesOfJava(shared: readonly SourceFile[], sources: readonly SourceFile[]): BridgeFact[] {
  const offered = new Set<string>();
  for (const { text, language } of sources) {
    if (language !== "java" && language !== "kotlin") continue;
    const plain = withoutComments(text);
    const of = /^[ \t]*package\s+([\w.]+)/m.exec(plain)?.[1];
    for (const match of plain.matchAll(/\b(?:class|object|interface|enum)\s+(\w+)/g))
      offered.add(of === undefined ? (match[1] as string) : `${of}.${match[1] as string}`);
  }
  if (offered.size === 0) return [];
  const packages = new Set([...offered].map(packageOf));
  const simple = new Map([...offered].map((name) => [simpleOf(name), name]));
  const asked = shared.flatMap((source) =>
    [...source.text.matchAll(/new\s+AndroidJava(?:Class|Object)\s*\(\s*"([\w.$/]+)"/g)].map((match) => ({
      source,
      name: (match[1] as string).replaceAll("/", "."),
      from: match.index,
    })),
  );
  const names = new Set(asked.map(({ name }) => name));
  const plain = asked.filter(({ name }) => !name.includes("$"));
  return [
    // A package that own code declares is mostly the team's alone.
    ...misspelt(
      plain.filter(({ name }) => packages.has(packageOf(name))),
      offered,
      [...offered].filter((name) => !names.has(name)),
      "native class",
    ),
    // The team's class by its name, in another package.
    ...plain.flatMap(({ source, name, from }): BridgeFact[] => {
      const near = simple.get(simpleOf(name));
      return offered.has(name) || near === undefined || packages.has(packageOf(name)) || names.has(near)
        ? []
        : [{ kind: "native class", name, near, role: "asked", side: "shared", guards: [], at: source.place(from) }];
    }),
  ];
}

/** A method of a class of the project's own native code. */
interface JavaMethod {
  name: string;
  isStatic: boolean;
  /** How many parameters it has; `undefined` where it takes any number. */
  parameters: number | undefined;
}

/** Calls of methods by name on classes of the project's own, which lack such a method. Source: docs.unity3d.com, "AndroidJavaObject". */
function methodsOfJava(shared: readonly SourceFile[], sources: readonly SourceFile[]): BridgeFact[] {
  const classes = new Map<string, JavaMethod[]>();
  for (const { text, language } of sources) {
    if (language !== "java") continue;
    const plain = withoutComments(text);
    // Of a file with one class alone, and of a class that inherits nothing, all methods are here.
    const declared = [...plain.matchAll(/\b(?:class|interface|enum)\s+(\w+)([^{]*)\{/g)];
    const [only] = declared;
    if (!only || declared.length > 1 || /\bextends\b/.test(only[2] ?? "")) continue;
    const of = /^[ \t]*package\s+([\w.]+)/m.exec(plain)?.[1];
    classes.set(of === undefined ? (only[1] as string) : `${of}.${only[1] as string}`, javaMethods(plain));
  }
  return shared.flatMap((source) =>
    [...source.text.matchAll(/(?:(\w+)\s*=\s*)?new\s+AndroidJavaClass\s*\(\s*"([\w./]+)"\s*\)(\s*\.)?/g)].flatMap((match) => {
      const methods = classes.get((match[2] as string).replaceAll("/", "."));
      if (!methods) return [];
      const rest = source.text.slice(match.index + match[0].length);
      const form = /^CallStatic(?:<[^<>]{0,80}>)?\s*\(\s*"(\w+)"\s*([^;]{0,400})/;
      const calls =
        match[3] !== undefined
          ? [{ at: match.index, call: form.exec(rest) }]
          : match[1] === undefined
            ? []
            : [...rest.matchAll(new RegExp(`\\b${match[1]}\\s*\\.\\s*(?=CallStatic\\b)`, "g"))].map((use) => ({
                at: match.index + match[0].length + use.index,
                call: form.exec(rest.slice(use.index + use[0].length)),
              }));
      return calls.flatMap(({ at, call }) => {
        // A list of objects stands for as many arguments.
        const list = /^,\s*(?:new\s+object\s*\[|(\w+)\s*\))/.exec(call?.[2] ?? "");
        const many = list && (list[1] === undefined || new RegExp(`\\bobject\\s*\\[\\]\\s+${list[1]}\\b`).test(source.text));
        const fault = call && methodFault(methods, call[1] as string, many ? "" : (call[2] ?? ""));
        return fault ? [{ ...fault, name: `${simpleOf(match[2] as string)}.${fault.name}`, at: source.place(at) }] : [];
      });
    }),
  );
}

const JAVA_METHOD =
  /((?:\b(?:public|protected|private|static|final|synchronized|native)\s+|@\w+(?:\([^()]*\))?\s+)*)(?:<[^<>]*>\s*)?[\w.<>[\],? ]*[\w>\]]\s+(\w+)\s*\(([^()]*(?:\([^()]*\)[^()]*)*)\)\s*(?:throws[\w\s.,]+)?\{/g;

function javaMethods(plain: string): JavaMethod[] {
  return [...plain.matchAll(JAVA_METHOD)].map(([whole, , name = "", list = ""]) => {
    let types = list;
    for (let before = ""; before !== types;) types = (before = types).replace(/<[^<>]*>|\([^()]*\)/g, "");
    return {
      name,
      isStatic: /\bstatic\b/.test(whole.slice(0, whole.indexOf("("))),
      parameters: types.includes("...") ? undefined : types.trim() === "" ? 0 : types.split(",").length,
    };
  });
}

/** What is wrong with a static call of a method by its name; nothing where one fits. */
function methodFault(methods: readonly JavaMethod[], name: string, rest: string): BridgeFact | undefined {
  const named = methods.filter((method) => method.name === name);
  const fault = (shown: string, near: string, advice?: string): BridgeFact => ({
    kind: "native method",
    name: shown,
    near,
    ...(advice === undefined ? {} : { advice }),
    role: "asked",
    side: "shared",
    guards: [],
    at: { file: "", line: 1, column: 1 },
  });
  if (named.length === 0) {
    const near = methods.map((method) => ({ name: method.name, apart: distance(method.name, name) })).sort((a, b) => a.apart - b.apart)[0];
    return fault(name, near && near.apart <= Math.max(2, name.length / 3) ? near.name : "");
  }
  if (!named.some(({ isStatic }) => isStatic))
    return fault(`${name} as a static method`, "", `make ${name} static, or call it on an object`);
  const count = argumentCount(rest);
  if (count === undefined || named.some(({ parameters }) => parameters === undefined || parameters === count)) return undefined;
  return fault(
    `${name} with ${count} ${count === 1 ? "argument" : "arguments"}`,
    "",
    `give ${name} as many arguments as it has parameters`,
  );
}

/** How many arguments follow the name of the method; `undefined` where that cannot be told. */
function argumentCount(rest: string): number | undefined {
  let depth = 0;
  let count = 0;
  if (/["']/.test(rest) && /[(),]/.test(rest.replace(/[^"']*(["'])[^"'\n]*\1[^"']*/g, ""))) return undefined;
  for (const sign of rest) {
    if (sign === "(" || sign === "[" || sign === "{") depth++;
    else if (sign === ")" && depth === 0) return count;
    else if (sign === ")" || sign === "]" || sign === "}") depth--;
    else if (sign === "," && depth === 0) count++;
  }
  return undefined;
}

function simpleOf(name: string): string {
  return name.split(/[./]/).at(-1) ?? name;
}

function packageOf(name: string): string {
  return name.split(".").slice(0, -1).join(".");
}

interface Asked {
  source: SourceFile;
  name: string;
  from: number;
}

/** Whether functions of C have the prefix that a team or a library gives all of its own: `knot_`. */
function ofOneFamily(one: string, other: string): boolean {
  const prefix = /^[A-Za-z]{3,}_/.exec(one)?.[0];
  return prefix !== undefined && other.startsWith(prefix);
}

/** Names that nothing offers and that resemble one which nobody asks for. */
function misspelt(
  asked: readonly Asked[],
  offered: ReadonlySet<string>,
  unasked: readonly string[],
  kind: BridgeFact["kind"],
): BridgeFact[] {
  return asked.flatMap(({ source, name, from }) => {
    if (offered.has(name)) return [];
    const near = unasked
      .map((other) => ({ other, apart: other.startsWith(name) || name.startsWith(other) ? 1 : distance(other, name) }))
      .filter(({ other, apart }) => apart <= Math.max(1, Math.floor(Math.min(other.length, name.length) / 5)) || ofOneFamily(other, name))
      .sort((a, b) => a.apart - b.apart)[0];
    return near
      ? [{ kind, name, near: near.other, role: "asked" as const, side: "shared" as const, guards: [], at: source.place(from) }]
      : [];
  });
}
