import { distance } from "fastest-levenshtein";
import { ownPackageOf, type App } from "../../model/app.js";
import type { BridgeFact } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { isWithin } from "../../model/paths.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { nameOfModule } from "./react-native-modules.js";
import { escaped } from "./mentions.js";
import { stemOf, stemsMeant } from "./modules.js";
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
  /** Events that it says it sends, where its form says that. */
  events?: Map<string, number>;
  /** Parts of it stand elsewhere, so that more may be defined. */
  open: boolean;
}

/**
 * Functions of native modules that shared code calls, against those that each side's definition has: lost on one side, or misspelt.
 * Source: docs.expo.dev, "Module API reference" (Name, Function, AsyncFunction, Property, Constant).
 */
export function moduleFunctions(app: App, sources: readonly SourceFile[], guards: Conditions): BridgeFact[] {
  const modules = definedModules(sources);
  for (const [name, definitions] of specified(sources))
    if (modules.get(name)?.every(({ functions }) => functions.size === 0) ?? true) modules.set(name, definitions);
  if (modules.size === 0) return [];
  const facts: BridgeFact[] = [];
  const wrappers = new Wrappers(app, sources, guards);
  for (const { name, source, calls } of callsOf(sources, app.ownPackages)) {
    const definitions = modules.get(name) ?? [];
    const sides = new Set(definitions.map(({ side }) => side));
    if (definitions.some(({ open }) => open) || sides.size === 0) continue;
    const asked = new Set(calls.map(({ method }) => method));
    factsOfCalls(calls, name, source, definitions, asked);
  }
  return facts;

  /** The functions that are called, and the sides that have them. */
  function factsOfCalls(
    calls: ModuleCalls["calls"],
    name: string,
    source: SourceFile,
    definitions: Definition[],
    asked: Set<string>,
  ): void {
    for (const { method, offset, read } of calls) {
      if (read && !definitions.some(({ functions }) => functions.has(method))) continue;
      if (method === "addListener") facts.push(...eventsAsked(name, source, offset, definitions));
      const guards = INHERITED.has(method) ? undefined : wrappers.guardsOf(source, offset);
      if (!guards) continue;
      const fact: BridgeFact = {
        kind: "module function",
        name: `${method} of ${name}`,
        role: "asked",
        side: "shared",
        guards,
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
}

/** A constant with its name, in Kotlin and in Swift. */
const CONSTANT = /"(\w+)"\s*(?:to\b|:)/;

/** The modules that native code defines, by their names. */
function definedModules(sources: readonly SourceFile[]): Map<string, Definition[]> {
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
    const constants = [...text.matchAll(/\bConstants\s*[({]/g)].map((match) => {
      const from = match.index + match[0].length - 1;
      return { from, text: text.slice(from, closing(text, from)) };
    });
    const isRead = constants.every((one) => CONSTANT.test(one.text));
    for (const one of constants)
      for (const match of one.text.matchAll(new RegExp(CONSTANT, "g"))) functions.set(match[1] as string, one.from + match.index);
    const open = !isRead || /\bFunction\s*\(\s*[A-Za-z_]|\bClass\s*\(/.test(text);
    const events = new Map(
      [...text.matchAll(/\bEvents\s*\(([^()]*)\)/g)].flatMap((match) =>
        [...(match[1] as string).matchAll(/"(\w+)"/g)].map(([, event = ""]) => [event, match.index] as const),
      ),
    );
    modules.set(name, [...(modules.get(name) ?? []), { source, side: source.side, functions, events, open }]);
  }
  return modules;
}

/**
 * Modules by their specifications: both sides have what one says, or are told to lack it. Source: reactnative.dev, "Turbo Native Modules"
 * (specification).
 */
function specified(sources: readonly SourceFile[]): Map<string, Definition[]> {
  const found = new Map<string, Definition[]>();
  for (const source of sources) {
    if (source.side !== "shared" || !isScript(source.language) || !source.text.includes("TurboModuleRegistry")) continue;
    const text = withoutComments(source.text);
    const name = new RegExp(SPECIFIED).exec(text)?.[1];
    const head = /\binterface\s+\w+\s+extends\s+TurboModule\s*\{/.exec(text);
    if (name === undefined || !head) continue;
    const open = head.index + head[0].length - 1;
    const body = text.slice(open + 1, closing(text, open));
    const functions = new Map(
      [...body.matchAll(/(?:^|[;,\n])\s*(?:readonly\s+)?(\w+)\s*\??\s*[(:]/g)].map((match) => [match[1] as string, open + 1 + match.index]),
    );
    found.set(
      name,
      (["android", "ios"] as const).map((side) => ({ source, side, functions, open: false })),
    );
  }
  return found;
}

/** The conditions of a place: with all that its file looks at, and without what concerns other functions of it. */
type Conditions = Record<"guardsAt" | "guardsNear", (source: SourceFile, at: number) => BridgeFact["guards"]>;

/** Functions of packages around the app, which offer what a native module can do: what of it the app asks for. */
class Wrappers {
  private readonly scripts: readonly SourceFile[];

  constructor(
    private readonly app: Pick<App, "path" | "ownPackages">,
    sources: readonly SourceFile[],
    private readonly conditions: Conditions,
  ) {
    this.scripts = sources.filter(({ language, side }) => isScript(language) && side === "shared");
  }

  /** Whether a file is the app's, or of a package that lies in the app's folder. */
  private isOwn(file: string): boolean {
    const home = ownPackageOf(this.app, file);
    return home === undefined || isWithin(home.folder, this.app.path);
  }

  /** Under which conditions a place is reached; `undefined` where nothing of the app asks for it. */
  guardsOf(source: SourceFile, at: number): BridgeFact["guards"] | undefined {
    if (this.isOwn(source.file)) return this.conditions.guardsAt(source, at);
    const guards = this.conditions.guardsNear(source, at);
    const asked = this.askedFor(source, at, new Set());
    if (asked.length === 0) return undefined;
    const [first = []] = asked;
    return asked.every((of) => of.length > 0) ? [...guards, ...first] : guards;
  }

  /** The conditions of each place from which one is reached: in the app, or outside of all functions. */
  private askedFor(source: SourceFile, at: number, seen: Set<string>): BridgeFact["guards"][] {
    const name = nameAround(source, at);
    if (name === undefined) return [this.conditions.guardsAt(source, at)];
    if (seen.has(name)) return [];
    seen.add(name);
    return this.scripts.flatMap((other) => {
      const own = this.isOwn(other.file);
      if (!other.text.includes(name)) return [];
      const text = other.code?.plain ?? other.text;
      // What the app names it may call; within the package names are handed on.
      const form = new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])${own ? "" : "\\s*\\("}`, "g");
      return [...text.matchAll(form)].flatMap(({ index }) => {
        if (!own) return nameAround(other, index) === name ? [] : this.askedFor(other, index, seen);
        return IMPORTS.test(text.slice(Math.max(0, index - 300), index)) ? [] : [this.conditions.guardsNear(other, index)];
      });
    });
  }
}

/** What stands before a name that is only brought in. */
const IMPORTS = /(?:^|\n)\s*(?:import\s[^;'"]*|export\s*\{[^}]*)$/;

/** The name by which others know the function around a place. */
function nameAround({ code }: SourceFile, at: number): string | undefined {
  const around = code?.functions.filter(({ from, to }) => from <= at && at < to).sort((a, b) => b.from - a.from) ?? [];
  for (const { name, from } of around) {
    const own = name === "" ? /([\w$]+)\s*[:=]\s*$/.exec(code?.plain.slice(Math.max(0, from - 120), from) ?? "")?.[1] : name;
    if (own !== undefined && own !== "") return own;
  }
  return undefined;
}

/** An event that a listener waits for, and the sides that say they send it. Source: docs.expo.dev, "Module API reference" (Events). */
function eventsAsked(module: string, source: SourceFile, offset: number, definitions: readonly Definition[]): BridgeFact[] {
  const event =
    /^(?:[\w.$\s?]*?addListener\s*(?:<[^()]{0,200}>)?\(|useEvent(?:Listener)?\s*(?:<[^()]{0,200}>)?\(\s*[\w.$]+\s*,)\s*["'](\w+)["']/.exec(
      source.text.slice(offset, offset + 300),
    )?.[1];
  const having = definitions.filter(({ events }) => event !== undefined && events?.has(event));
  // An event that a side makes out of something is in no list.
  if (event === undefined || definitions.some(({ events }) => !events || events.size === 0)) return [];
  if (having.length === 0) {
    if (!definitions.every(({ source: owner }) => isListed(owner.text))) return [];
    const all = definitions.flatMap(({ events }) => [...(events?.keys() ?? [])]);
    const near = all.find((other) => distance(other, event) <= NEAR) ?? "";
    return [{ kind: "event", name: `${event} of ${module}`, role: "asked", side: "shared", guards: [], near, at: source.place(offset) }];
  }
  const name = `${event} of ${module}`;
  return [
    { kind: "event", name, role: "asked", side: "shared", guards: [...source.guards], at: source.place(offset) },
    ...having.map(({ source: owner, side, events }): BridgeFact => ({
      kind: "event",
      name,
      role: "offered",
      side,
      guards: [],
      at: owner.place(events?.get(event) ?? 0),
    })),
  ];
}

/** Whether every event of a definition is written out. */
function isListed(text: string): boolean {
  return [...text.matchAll(/\bEvents\s*\(([^()]*)\)/g)].every(([, list = ""]) => list.split(",").every((one) => /^\s*"\w+"\s*$/.test(one)));
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
      ? // The methods of a specification need no macro; where the interface stands in the file, it says whether it has one.
        functions.size === 0 &&
        (!/@interface\s+\w+\s*:/.test(text) || /Spec\b|getTurboModule|@interface\s+\w+\s*:(?!\s*(?:NSObject|RCTEventEmitter)\b)/.test(text))
      : !/\b(?:ReactContextBaseJavaModule|BaseJavaModule)\b/.test(text);
  return { name: name.replace(/^RCT/, ""), definition: { source, side: source.side, functions, open } };
}

/** Calls on what holds a native module. */
export interface ModuleCalls {
  /** The module's name. */
  name: string;
  source: SourceFile;
  /** What is only read is a constant or a property. */
  calls: { method: string; offset: number; read?: true }[];
}

/** A module by its specification. */
const SPECIFIED = String.raw`\bTurboModuleRegistry\s*\.\s*get(?:Enforcing)?\s*(?:<[^()]{0,80}>)?\(\s*["']([\w-]+)["']`;

const MADE =
  /\b(?:require(?:Optional)?NativeModule|registerPlugin|TurboModuleRegistry\s*\.\s*get(?:Enforcing)?)\s*(?:<[^()]{0,200}?>)?\(\s*["']([^"'\n]+)["']\s*[,)]/;

/** The calls on variables that hold a module: in the file that asks for it, and in those that import it from there. */
export function callsOf(sources: readonly SourceFile[], packages: App["ownPackages"]): ModuleCalls[] {
  return new CallsOfModules(sources, packages).read();
}

/** What a script gives out under a name: a module, or what another script has under one. */
interface GivenOut {
  module?: string;
  from?: { specifier: string; name: string };
}

class CallsOfModules {
  private readonly scripts: readonly SourceFile[];
  private readonly found: ModuleCalls[] = [];
  /** By the stem of the script, then by the name; `default` and `*` among them. */
  private readonly given = new Map<string, Map<string, GivenOut[]>>();
  private readonly files = new Map<string, string>();

  constructor(
    sources: readonly SourceFile[],
    private readonly packages: App["ownPackages"],
  ) {
    this.scripts = sources.filter(({ language, side }) => isScript(language) && side === "shared");
  }

  read(): ModuleCalls[] {
    for (const source of this.scripts) this.made(source);
    for (const source of this.scripts) if (source.text.includes("NativeModules")) this.older(source);
    if (this.given.size === 0) return this.found;
    for (const source of this.scripts) this.handedOn(source);
    for (const source of this.scripts) this.imported(source);
    return this.found;
  }

  private add(source: SourceFile, variable: string, name: string): void {
    const text = withoutComments(source.text);
    const written = variable.replace(/[$.]/g, "\\$&");
    const calls = [...text.matchAll(new RegExp(`(?<![\\w$.])${written}(\\?)?\\.(\\w+)\\s*\\(`, "g"))]
      // What is asked whether it is there may be missing.
      .filter((match) => match[1] === undefined)
      .map((match): ModuleCalls["calls"][number] => ({ method: match[2] as string, offset: match.index }))
      .filter(({ method }) => !new RegExp(`(?<![\\w$.])${written}\\??\\.${method}\\s*(?:&&|\\?|\\)|[!=]==?)`).test(text));
    // Events by the hooks of the framework. Source: docs.expo.dev, "Module API reference" (useEvent, useEventListener).
    for (const match of text.matchAll(new RegExp(`\\buseEvent(?:Listener)?\\s*(?:<[^()]{0,200}>)?\\(\\s*${written}\\s*,`, "g")))
      calls.push({ method: "addListener", offset: match.index });
    for (const match of text.matchAll(new RegExp(`(?<![\\w$.])${written}\\.(\\w+)\\b(?!\\s*(?:[(.?]|=(?!=)))`, "g")))
      calls.push({ method: match[1] as string, offset: match.index, read: true });
    if (calls.length > 0) this.found.push({ name, source, calls });
  }

  private give(source: SourceFile, name: string, what: GivenOut): void {
    const of = this.given.get(stemOf(source.file)) ?? new Map<string, GivenOut[]>();
    of.set(name, [...(of.get(name) ?? []), what]);
    this.given.set(stemOf(source.file), of);
    this.files.set(stemOf(source.file), source.file);
  }

  /** Modules that a script asks for, and gives out. */
  private made(source: SourceFile): void {
    const direct = new RegExp(`\\b(?:const|let|var)\\s+(\\w+)\\s*(?::[^=\\n]{0,80})?=\\s*${MADE.source}`, "g");
    for (const match of source.text.matchAll(direct)) {
      const [, variable = "", module = ""] = match;
      this.add(source, variable, module);
      if (new RegExp(`\\bexport\\s+default\\s+${variable}\\b`).test(source.text)) this.give(source, "default", { module });
      if (new RegExp(`\\bexport\\s*(?:(?:const|let|var)\\s+|\\{[^{}]{0,200}\\b)${variable}\\b`).test(source.text))
        this.give(source, variable, { module });
    }
    const whole = new RegExp(`\\bexport\\s+default\\s+${MADE.source}`).exec(source.text)?.[1];
    if (whole !== undefined) this.give(source, "default", { module: whole });
  }

  private older(source: SourceFile): void {
    for (const match of source.text.matchAll(/\b(?:const|let|var)\s*\{([^{}]{1,300})\}\s*=\s*NativeModules\b/g))
      for (const part of (match[1] ?? "").split(",")) {
        const [, name, local] = /^\s*(\w+)\s*(?::\s*(\w+))?\s*$/.exec(part) ?? [];
        if (name !== undefined) this.add(source, local ?? name, name);
      }
    for (const match of source.text.matchAll(/\b(?:const|let|var)\s+(\w+)\s*=\s*NativeModules\.(\w+)\s*[;\n]/g))
      this.add(source, match[1] as string, match[2] as string);
    for (const name of new Set([...source.text.matchAll(/\bNativeModules\.(\w+)\./g)].map((match) => match[1] as string)))
      this.add(source, `NativeModules.${name}`, name);
  }

  /** What a script only hands on from another. */
  private handedOn(source: SourceFile): void {
    for (const match of source.text.matchAll(/^[ \t]*export\s*(?:\*|\{([^{}]{1,400})\})\s*from\s*["']([^"'\n]+)["']/gm)) {
      const [, list, specifier = ""] = match;
      for (const { name, local } of list === undefined ? [{ name: "*", local: "*" }] : namesIn(list))
        this.give(source, local, { from: { specifier, name } });
    }
  }

  private imported(source: SourceFile): void {
    for (const match of source.text.matchAll(
      /^[ \t]*import\s+(?!type\b)(?:(\w+)\s*,?\s*)?(?:\{([^{}]{1,400})\}\s*)?from\s*["']([^"'\n]*)["']/gm,
    )) {
      const [, whole, list, specifier = ""] = match;
      const names = [...(whole === undefined ? [] : [{ name: "default", local: whole }]), ...namesIn(list ?? "")];
      for (const { name, local } of names) {
        const module = this.moduleOf(source.file, specifier, name, 0);
        if (module !== undefined) this.add(source, local, module);
      }
    }
  }

  /** The module that a name means where it is imported from. */
  private moduleOf(file: string, specifier: string, name: string, hop: number): string | undefined {
    if (hop > MOST_HOPS) return undefined;
    for (const target of stemsMeant(file, specifier, this.packages)) {
      const of = this.given.get(target);
      for (const { module, from } of [...(of?.get(name) ?? []), ...(of?.get("*") ?? [])]) {
        const found =
          module ??
          (from && this.moduleOf(this.files.get(target) ?? target, from.specifier, from.name === "*" ? name : from.name, hop + 1));
        if (found !== undefined) return found;
      }
    }
    return undefined;
  }
}

const MOST_HOPS = 6;

function namesIn(list: string): { name: string; local: string }[] {
  return list.split(",").flatMap((part) => {
    const [, name, local] = /^\s*(?!type\b)(\w+)(?:\s+as\s+(\w+))?\s*$/.exec(part) ?? [];
    return name === undefined ? [] : [{ name, local: local ?? name }];
  });
}
