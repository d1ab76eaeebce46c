import { distance } from "fastest-levenshtein";
import type { BridgeFact } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { join, parentOf } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { nameOfModule } from "./react-native-modules.js";
import { isScript, type SourceFile } from "./sources.js";

/** What every module has, those of the older form included. Source: docs.expo.dev, "Module API reference" (events). */
const INHERITED: ReadonlySet<string> = new Set([
  "addListener",
  "removeListener",
  "removeListeners",
  "removeAllListeners",
  "checkPermissions",
  "requestPermissions",
  "emit",
  "listenerCount",
  "then",
  "toString",
]);

/** How far a misspelt name is from the one that is meant, in letters. */
const NEAR = 2;

/** A native module as a side's code defines it. */
interface Definition {
  source: SourceFile;
  side: SideName;
  functions: Map<string, number>;
  /** Parts of it stand elsewhere, so that more may be defined. */
  open: boolean;
}

/**
 * Functions of native modules that shared code calls, against those that each side's definition has: lost on one side, or misspelt.
 * Source: docs.expo.dev, "Module API reference" (Name, Function, AsyncFunction, Property, Constant).
 */
export function moduleFunctions(
  sources: readonly SourceFile[],
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): BridgeFact[] {
  const modules = new Map<string, Definition[]>();
  for (const source of sources) {
    if (source.side !== "android" && source.side !== "ios") continue;
    const plugin = pluginOf(source) ?? legacyModuleOf(source);
    if (plugin) modules.set(plugin.name, [...(modules.get(plugin.name) ?? []), plugin.definition]);
    if (!/\bModuleDefinition\b/.test(source.text)) continue;
    const text = withoutComments(source.text);
    const names = [...text.matchAll(/\bName\s*\(\s*"([^"\n]+)"\s*\)/g)].map((match) => match[1] as string);
    const [name] = names;
    // A file with several definitions does not tell which function is whose.
    if (name === undefined || names.length !== 1) continue;
    const functions = new Map<string, number>();
    for (const match of text.matchAll(
      /\b(?:Async)?Function\s*(?:<[^>\n]{0,80}>)?\s*\(\s*"(\w+)"|\b(?:Property|Constant|SuspendFunction|Events?|StaticFunction|StaticAsyncFunction|Prop)\s*(?:<[^>\n]{0,80}>)?\s*\(\s*"(\w+)"|\bCoroutine\s*\(\s*"(\w+)"/g,
    ))
      functions.set((match[1] ?? match[2] ?? match[3]) as string, match.index);
    const open = /\bConstants\s*[({]|\bFunction\s*\(\s*[A-Za-z_]|\bClass\s*\(/.test(text);
    modules.set(name, [...(modules.get(name) ?? []), { source, side: source.side, functions, open }]);
  }
  if (modules.size === 0) return [];
  const facts: BridgeFact[] = [];
  for (const { name, source, calls } of callsOf(sources)) {
    const definitions = modules.get(name) ?? [];
    const sides = new Set(definitions.map(({ side }) => side));
    if (definitions.some(({ open }) => open) || sides.size === 0) continue;
    const asked = new Set(calls.map(({ method }) => method));
    for (const { method, offset } of calls) {
      if (INHERITED.has(method)) continue;
      const fact: BridgeFact = {
        kind: "module function",
        name: `${method} of ${name}`,
        role: "asked",
        side: "shared",
        guards: guardsAt(source, offset),
        at: source.place(offset),
      };
      const having = definitions.filter(({ functions }) => functions.has(method));
      if (having.length === 0) {
        const others = [...new Set(definitions.flatMap(({ functions }) => [...functions.keys()]))].filter((other) => !asked.has(other));
        fact.near = others.find((other) => Math.abs(other.length - method.length) <= NEAR && distance(other, method) <= NEAR) ?? "";
      }
      facts.push(fact);
      for (const { source: owner, side, functions } of having)
        facts.push({
          kind: "module function",
          name: fact.name,
          role: "offered",
          side,
          guards: [],
          at: owner.place(functions.get(method) ?? 0),
        });
    }
  }
  return facts;
}

/** A plugin of Capacitor with its methods. Source: capacitorjs.com, "Custom native Android code", "Custom native iOS code". */
function pluginOf(source: SourceFile): { name: string; definition: Definition } | undefined {
  if (!/CapacitorPlugin|CAPPlugin|CAP_PLUGIN/.test(source.text)) return undefined;
  const text = withoutComments(source.text);
  const name = (/@CapacitorPlugin\s*\([^)]{0,400}?\bname\s*=\s*"([^"\n]+)"/.exec(text) ??
    /\bjsName\s*=\s*"([^"\n]+)"/.exec(text) ??
    /\bCAP_PLUGIN\s*\(\s*\w+\s*,\s*"([^"\n]+)"/.exec(text))?.[1];
  if (name === undefined) return undefined;
  const functions = new Map<string, number>();
  for (const match of text.matchAll(
    /@PluginMethod\b(?:\s*\([^()]{0,200}\))?\s*(?:@\w+\s*)*(?:(?:public|open|override|final|synchronized|void|fun)\s+)+(\w+)\s*\(|\bCAPPluginMethod\s*\(\s*(?:name\s*:\s*)?"(\w+)"|\bCAPPluginMethod\s*\(\s*#selector\(\s*(?:\w+\.)?(\w+)|\bCAP_PLUGIN_METHOD\s*\(\s*(\w+)/g,
  ))
    functions.set((match[1] ?? match[2] ?? match[3] ?? match[4]) as string, match.index);
  return functions.size === 0 ? undefined : { name, definition: { source, side: source.side, functions, open: false } };
}

/** A native module of the older form with its methods. Source: reactnative.dev, "Native Modules" (RCT_EXPORT_METHOD, ReactMethod). */
function legacyModuleOf(source: SourceFile): { name: string; definition: Definition } | undefined {
  if (!/RCT_EX|ReactMethod|ReactContextBaseJavaModule/.test(source.text)) return undefined;
  const text = withoutComments(source.text);
  const name =
    (/\bRCT_EXTERN_(?:REMAP_)?MODULE\s*\(\s*(\w+)/.exec(text) ?? /\bRCT_EXPORT_MODULE\s*\(\s*(\w+)\s*\)/.exec(text))?.[1] ??
    nameOfModule(text) ??
    /@implementation\s+(\w+)/.exec(/\bRCT_EXPORT_MODULE\s*\(\s*\)/.test(text) ? text : "")?.[1];
  if (name === undefined) return undefined;
  const functions = new Map<string, number>();
  for (const match of text.matchAll(
    /@ReactMethod\b(?:\s*\([^()]{0,200}\))?\s*(?:@\w+\s*)*(?:(?:public|private|protected|internal|open|override|final|synchronized|suspend|void|fun|[A-Z]\w*)\s+)+(\w+)\s*\(|\bRCT_(?:EXPORT|EXTERN)(?:_BLOCKING_SYNCHRONOUS|__BLOCKING_SYNCHRONOUS)?_METHOD\s*\(\s*(\w+)|\bRCT_(?:EXPORT|EXTERN)_SYNCHRONOUS_TYPED_METHOD\s*\([^,()]{1,80},\s*(\w+)|\bRCT_REMAP_METHOD\s*\(\s*(\w+)/g,
  ))
    functions.set((match[1] ?? match[2] ?? match[3] ?? match[4]) as string, match.index);
  // What a base class of the team's brings is not seen here, nor what another file of the class has.
  const open = /RCT_EXTERN_/.test(text)
    ? false
    : /\bRCT_EXPORT_MODULE\b/.test(text)
      ? functions.size === 0
      : !/\b(?:ReactContextBaseJavaModule|BaseJavaModule)\b/.test(text);
  return { name: name.replace(/^RCT/, ""), definition: { source, side: source.side, functions, open } };
}

interface Calls {
  name: string;
  source: SourceFile;
  calls: { method: string; offset: number }[];
}

const MADE = /\b(?:require(?:Optional)?NativeModule|registerPlugin)\s*(?:<[^()]{0,200}?>)?\(\s*["']([^"'\n]+)["']\s*[,)]/;

/** The calls on variables that hold a module: in the file that asks for it, and in those that import it from there. */
function callsOf(sources: readonly SourceFile[]): Calls[] {
  const found: Calls[] = [];
  const exported = new Map<string, { name: string; variable: string | undefined }>();
  const scripts = sources.filter(({ language, side }) => isScript(language) && side === "shared");
  const add = (source: SourceFile, variable: string, name: string): void => {
    const text = withoutComments(source.text);
    const calls = [...text.matchAll(new RegExp(`(?<![\\w$.])${variable.replace(/[$.]/g, "\\$&")}(\\?)?\\.(\\w+)\\s*\\(`, "g"))]
      // What is asked whether it is there may be missing.
      .filter((match) => match[1] === undefined)
      .map((match) => ({ method: match[2] as string, offset: match.index }))
      .filter(
        ({ method }) =>
          !new RegExp(`(?<![\\w$.])${variable.replace(/[$.]/g, "\\$&")}\\??\\.${method}\\s*(?:&&|\\?|\\)|[!=]==?)`).test(text),
      );
    if (calls.length > 0) found.push({ name, source, calls });
  };
  for (const source of scripts) {
    const direct = new RegExp(`\\b(?:const|let|var)\\s+(\\w+)\\s*(?::[^=\\n]{0,80})?=\\s*${MADE.source}`, "g");
    for (const match of source.text.matchAll(direct)) {
      add(source, match[1] as string, match[2] as string);
      if (new RegExp(`\\bexport\\s+default\\s+${match[1] as string}\\b`).test(source.text))
        exported.set(stem(source.file), { name: match[2] as string, variable: undefined });
      const named = new RegExp(`\\bexport\\s*(?:(?:const|let|var)\\s+|\\{[^{}]{0,200}\\b)${match[1] as string}\\b`).test(source.text);
      if (named) exported.set(`${stem(source.file)}#${match[1] as string}`, { name: match[2] as string, variable: match[1] as string });
    }
    const whole = new RegExp(`\\bexport\\s+default\\s+${MADE.source}`).exec(source.text)?.[1];
    if (whole !== undefined) exported.set(stem(source.file), { name: whole, variable: undefined });
  }
  for (const source of scripts) {
    if (!/\bNativeModules\b/.test(source.text)) continue;
    for (const match of source.text.matchAll(/\b(?:const|let|var)\s*\{([^{}]{1,300})\}\s*=\s*NativeModules\b/g))
      for (const part of (match[1] ?? "").split(",")) {
        const [, name, local] = /^\s*(\w+)\s*(?::\s*(\w+))?\s*$/.exec(part) ?? [];
        if (name !== undefined) add(source, local ?? name, name);
      }
    for (const match of source.text.matchAll(/\b(?:const|let|var)\s+(\w+)\s*=\s*NativeModules\.(\w+)\s*[;\n]/g))
      add(source, match[1] as string, match[2] as string);
    for (const name of new Set([...source.text.matchAll(/\bNativeModules\.(\w+)\./g)].map((match) => match[1] as string)))
      add(source, `NativeModules.${name}`, name);
  }
  if (exported.size === 0) return found;
  for (const source of scripts)
    for (const match of source.text.matchAll(/^[ \t]*import\s+(\w+)[^'"\n]{0,200}from\s*["'](\.[^"'\n]*)["']/gm)) {
      const target = exported.get(stem(join(parentOf(source.file), match[2] as string)));
      if (target) add(source, match[1] as string, target.name);
    }
  for (const source of scripts)
    for (const match of source.text.matchAll(/^[ \t]*import\s+(?:\w+\s*,\s*)?\{([^{}]{1,400})\}\s*from\s*["'](\.[^"'\n]*)["']/gm))
      for (const part of (match[1] as string).split(",")) {
        const [, name, local] = /^\s*(\w+)(?:\s+as\s+(\w+))?\s*$/.exec(part) ?? [];
        const target = exported.get(`${stem(join(parentOf(source.file), match[2] as string))}#${name ?? ""}`);
        if (target && name !== undefined) add(source, local ?? name, target.name);
      }
  return found;
}

function stem(file: string): string {
  return file.replace(/\.[cm]?[jt]sx?$/, "").replace(/\/index$/, "");
}
