import type { ProjectFiles } from "../project-files.js";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { FactSink } from "../sink.js";
import type { AutoStart, CodeCall, CodeFacts, CodeFile, CodeFunction, Guard, Language, SdkCall, Unreached } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { OWN_SYMBOLS } from "../../knowledge/unity.js";
import { baseName, join } from "../../model/paths.js";
import { androidComponents, type AndroidComponents } from "../platforms/android/components.js";
import { isCompiled } from "../platforms/directives.js";
import { findInstalled, readManifest } from "../packages/packages.js";
import { at, textAt, type Data } from "../../syntax/data.js";
import type { Batch } from "../../syntax/code/process.js";
import { argumentValue, optionsOf } from "./argument-values.js";
import { readBridges } from "./bridges.js";
import { importsElsewhere } from "./elsewhere.js";
import { entryPoints } from "./entries.js";
import { dependenciesOf } from "./initializers.js";
import { follow, isStatement, type Hit } from "./order.js";
import { missingImports } from "./missing-imports.js";
import { functionOf, Program, RECEIVER_SCOPE, type FunctionRef } from "./program.js";
import { oneSidedCalls, requestsOf } from "./pages.js";
import { Reach } from "./reach.js";
import { lostHandlers, runsInScene, Scenes } from "./scenes.js";
import {
  beginToParse,
  candidates,
  gatherSources,
  inComment,
  isScript,
  mayHoldEntries,
  mentions,
  outsideTargets,
  parseAll,
  START_VERB,
  type SourceFile,
} from "./sources.js";
import { fits, packageOfImport, wantedOf, type Wanted, type WantedName } from "./wanted.js";

/** How often files that call a function of interest are looked for, and how many are read at most. */
const ROUNDS = 10;
const MAX_PARSED = 400;

/** What the source code of the apps says, and whether a file was given up for time. */
export interface CodeReading {
  facts: ReadonlyMap<FactSink, CodeFacts>;
  cutShort: boolean;
}

/** Classes that only live when a manifest or a list names them. */
const LISTED_CLASS =
  /\b(?:Base|Turbo)?ReactPackage\b|@CapacitorPlugin|\b(?:Multi[dD]ex)?Application\s*\(\s*\)|extends\s+(?:Multi[dD]ex)?Application\b/;

/** An app whose source code is read: where blind spots go, how it is seen with the ids of SDKs, and the names that are looked for. */
export interface CodeTarget {
  sink: FactSink;
  app: App;
  names: readonly WantedName[];
}

interface AppCode extends CodeTarget {
  wanted: Wanted;
  sources: SourceFile[];
  /** Files of iOS that no target compiles. */
  outside: readonly SourceFile[];
  /** Those that can matter, as far as is known before any is parsed. */
  first: SourceFile[];
  components: AndroidComponents;
}

/** The source code of apps, while it is read. */
export class CodeReader {
  private readonly apps: AppCode[] = [];
  private readonly batch: Batch = { stopped: 0 };

  constructor(
    private readonly project: ProjectFiles,
    private readonly index: FolderIndex,
  ) {}

  /**
   * Looks through the source files of an app, and has those parsed that can matter: a process of its own does so beside this one, which
   * goes on with the next app.
   */
  begin({ sink, app, names }: CodeTarget): void {
    const { project, index, batch } = this;
    const wanted = wantedOf(app, names);
    const all = gatherSources(project, index, app, wanted);
    const outside = outsideTargets(app, all);
    const sources = all.filter((source) => !outside.has(source));
    const found = candidates(sources, wanted);
    const code: AppCode = {
      sink,
      app,
      names,
      wanted,
      sources,
      outside: [...outside],
      first: [],
      components: { applications: [], launchers: [], screens: [], providers: [], initializers: [] },
    };
    this.apps.push(code);
    const listed = sources.filter(({ side, text }) =>
      side === "android" ? LISTED_CLASS.test(text) : side === "ios" && /\bCAPBridgedPlugin\b|\bCAPBridgeViewController\b/.test(text),
    );
    if (found.length === 0 && listed.length === 0 && app.libraryManifests.length === 0) return;
    code.components = androidComponents(project, app);
    code.first.push(...unread([...found, ...listed]));
    if (found.length > 0) code.first.push(...unread([...sources.filter(mayHoldEntries).slice(0, 120), ...componentFiles(code)]));
    beginToParse(code.first, batch);
  }

  /** Which SDKs the code calls, when, and under which conditions. */
  async finish(): Promise<CodeReading> {
    const { project, index, batch } = this;
    const facts = new Map<FactSink, CodeFacts>();
    for (const code of this.apps) {
      await parseAll(code.first, batch);
      const { sink, sources } = code;
      if (sources.some((source) => source.code)) {
        const asked = new Set<string>();
        for (let round = 0; round < ROUNDS; round++) {
          const known = asked.size;
          const more = [...new Set([...callersOf(code, asked), ...valuesOf(code, asked)])];
          if (more.length === 0 && asked.size === known) break;
          await parseAll(unread(more), batch);
        }
        facts.set(sink, judge(project, index, code));
      } else
        facts.set(sink, {
          ...emptyFacts(code),
          unused: unusedPackages(project, code),
          bridges: readBridges(code.app, sources, new Program(sources)),
          lostHandlers: code.app.kind === "unity" ? lostHandlers(new Scenes(project, index, code.app).handlers(), sources) : [],
        });
      for (const { code: read, failed, side, file } of sources)
        if (read === null)
          sink.blindSpot({
            side,
            what: `the code of ${baseName(file)}`,
            why: failed ?? "it could not be parsed",
            places: [{ file, line: 1, column: 1 }],
          });
    }
    return { facts, cutShort: this.apps.some(({ sources }) => sources.some(({ code }) => code === null)) };
  }
}

/**
 * Calls of plugins in Dart's `main` before the framework is bound: their channels are not there yet. Told only where nothing binds it before.
 * Source: api.flutter.dev, "WidgetsFlutterBinding.ensureInitialized".
 */
function unboundCalls({ kind, dependencies }: App, program: Program, calls: readonly SdkCall[]): CodeFacts["unbound"] {
  if (kind === "cordova") return beforeReady(calls);
  if (kind !== "flutter") return [];
  const native = new Set(
    dependencies.flatMap(({ ecosystem, sdk, native: of, side }) =>
      ecosystem === "pub" && (side !== "shared" || of?.android || of?.ios) ? sdk : [],
    ),
  );
  const found: CodeFacts["unbound"] = [];
  for (const { source, code } of program.files) {
    const main = source.language === "dart" ? code.functions.findIndex(({ name, type }) => name === "main" && type === "") : -1;
    if (main === -1) continue;
    const inMain = code.calls.filter((call) => call.in === main).sort((a, b) => a.from - b.from);
    const runs = inMain.find(({ callee }) => callee === "runApp");
    // Another function of the file may bind it, and so may a mixin or a wrapper of the team's.
    const binds = source.text.search(/\bensureInitialized\b|\b\w*Binding\b/);
    if (!runs || (binds !== -1 && binds < runs.from && !inMain.some(({ callee }) => callee.endsWith("ensureInitialized")))) continue;
    const bound = inMain.find(({ callee }) => callee.endsWith(".ensureInitialized"));
    for (const call of inMain) {
      if (call.from >= runs.from || call.optional || (bound && call.from > bound.from)) break;
      const fact = calls.find(
        ({ at: place, sdk, kind: of }) =>
          place.file === source.file && place.line === source.place(call.from).line && (of === "start" || native.has(sdk)),
      );
      if (fact && !fact.doubtful) {
        found.push({ sdk: fact.sdk, callee: fact.callee, at: fact.at });
        break;
      }
    }
  }
  return found;
}

/** Calls of plugins that run as soon as a page's script is loaded, when plugins are not there yet. Source: cordova.apache.org, "Events" (deviceready). */
function beforeReady(calls: readonly SdkCall[]): CodeFacts["unbound"] {
  return calls.flatMap(({ sdk, kind, side, reach, ready, callee, doubtful, guards, at }) =>
    kind === "start" && side === "shared" && reach === "entry" && !ready && !doubtful && guards.length === 0 ? { sdk, callee, at } : [],
  );
}

function unread(files: readonly SourceFile[]): SourceFile[] {
  return files.filter(({ code }) => code === undefined).slice(0, MAX_PARSED);
}

/** Files of classes that a manifest names. */
function componentFiles({ components, sources }: AppCode): SourceFile[] {
  const names = new Set(
    [...components.applications, ...components.launchers, ...components.screens, ...components.providers, ...components.initializers].map(
      ({ name }) => name.split(/[.$]/).at(-1),
    ),
  );
  return sources.filter(({ file, side }) => side === "android" && names.has(baseName(file).replace(/\.\w+$/, "")));
}

/** Files that mention a function with a call of interest, which are not parsed yet. */
function callersOf({ sources, wanted, app }: AppCode, asked: Set<string>): SourceFile[] {
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
  return [...found].slice(0, MAX_PARSED);
}

/** Files with values that arguments of calls of interest name: what a script imports, or the type whose constant it is. */
function valuesOf({ sources, wanted }: AppCode, asked: ReadonlySet<string>): SourceFile[] {
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

/** A name that stands in more files than this leads nowhere in particular. */
const COMMON_NAME = 40;

interface Match {
  sdk: string;
  kind: SdkCall["kind"];
  name: string;
  exact: boolean;
}

const KIND_ORDER: SdkCall["kind"][] = ["start", "registration", "withdrawn", "debugOnly", "use", "import", "heuristicStart"];

/** What a call is of, by the sheets' names or by what the file imports. */
function matchOf(written: CodeCall, code: CodeFile, source: SourceFile, wanted: Wanted): Match | undefined {
  // In such a closure a name alone is one of what stands before it.
  const scope = written.callee.includes(".") ? undefined : RECEIVER_SCOPE.exec(written.closures.at(-1) ?? "")?.[1];
  const call = scope !== undefined && /^[A-Z]/.test(scope) ? { ...written, callee: `${scope}.${written.callee}` } : written;
  let best: Match | undefined;
  const last = call.callee.split(".").at(-1) as string;
  for (const name of wanted.names) {
    if (name.kind === "import" || !sideFits(name, source, call)) continue;
    const tail = name.segments.at(-1) as string;
    if (
      tail !== last &&
      tail !== "init" &&
      !(call.selector !== undefined && last.startsWith(tail)) &&
      !(call.assignment && tail === `set${last.charAt(0).toUpperCase()}${last.slice(1)}`) &&
      !(call.callee.split(".").length === 1)
    )
      continue;
    const owner = (imported: string): boolean => packageOfImport(wanted, code.language, imported)?.sdk === name.sdk;
    const how = fits(call, name, code, owner);
    if (!how) continue;
    const match: Match = { sdk: name.sdk, kind: name.kind, name: name.name, exact: how === "exact" };
    if (
      !best ||
      Number(match.exact) > Number(best.exact) ||
      (match.exact === best.exact && KIND_ORDER.indexOf(match.kind) < KIND_ORDER.indexOf(best.kind))
    )
      best = match;
  }
  return best ?? startLike(call, code, source, wanted);
}

/** Shared files of .NET and Unity hold code of one platform between conditions. */
function sideFits(name: WantedName, source: SourceFile, call: CodeCall): boolean {
  if (name.side === source.side) return true;
  return source.side === "shared" && source.language === "csharp" && call.guards.some(({ kind }) => kind === name.side);
}

/** A call that is named like a start, on something that a package of the app brings, where no sheet tells the package's start. */
function startLike(call: CodeCall, code: CodeFile, source: SourceFile, wanted: Wanted): Match | undefined {
  if (source.imports.length === 0 || call.assignment) return undefined;
  const parts = call.callee.split(".");
  const last = parts.at(-1) as string;
  if (!START_VERB.test(last) || parts.length > 4) return undefined;
  const head = parts[0] as string;
  const binding = code.imports.find(({ names }) => names.some(({ local }) => local === head));
  let imported = binding ? packageOfImport(wanted, code.language, binding.source) : undefined;
  if (!binding && parts.length > 1 && /^[A-Z]/.test(head) && !isScript(code.language)) {
    const stem = (text: string): string => text.toLowerCase().replace(/sdk|kit|_flutter|flutter_|[-_.]/g, "");
    imported = source.imports.find(
      (entry) => stem(entry.package.split(/[/:]/).at(-1) ?? "") === stem(head) || stem(entry.sdk) === stem(head),
    );
  }
  if (!imported || wanted.names.some(({ sdk, kind }) => sdk === imported.sdk && kind === "start")) return undefined;
  return { sdk: imported.sdk, kind: "heuristicStart", name: call.callee, exact: true };
}

/** Types of files that no target compiles, where the code of a target uses them. */
function usedFromOutside(outside: readonly SourceFile[], sources: readonly SourceFile[]): CodeFacts["outside"] {
  const apple = sources.filter(({ side }) => side === "ios");
  return outside.flatMap((source) => {
    const names = [
      ...source.text.matchAll(
        /^[ \t]*(?:@\w+[ \t]+)*(?:(?:public|open|internal|final|indirect)[ \t]+)*(?:class|struct|enum|protocol|actor)[ \t]+([A-Z]\w*)|^@implementation[ \t]+(\w+)/gm,
      ),
    ].map((match) => (match[1] ?? match[2]) as string);
    for (const name of names) {
      const declared = new RegExp(`(?:class|struct|enum|protocol|actor|typealias|@implementation)\\s+${name}\\b`);
      if (apple.some(({ text }) => declared.test(text))) continue;
      const user = apple.find(({ text, file }) => !file.endsWith(".h") && text.includes(name) && mentions(text, name) > 0);
      if (user)
        return [
          { file: source.file, name, at: source.place(0), used: user.place(new RegExp(`\\b${name}\\b`).exec(user.text)?.index ?? 0) },
        ];
    }
    return [];
  });
}

function emptyFacts({ app, sources, outside, wanted }: AppCode): CodeFacts {
  const sides = (["android", "ios", "shared"] as const).filter((side) => sources.some((source) => source.side === side));
  return {
    calls: [],
    imports: importFacts(sources),
    missingImports: [],
    unbound: [],
    elsewhere: importsElsewhere(app, sources),
    mentioned: mentionsOfStarts(sources, wanted),
    autoStarts: [],
    bridges: [],
    unused: [],
    unnamed: [],
    requests: app.webPages.length > 0 ? requestsOf(sources) : [],
    oneSidedCalls: oneSidedCalls(app, sources),
    outside: usedFromOutside(outside, sources),
    lostHandlers: [],
    entries: [],
    parsed: new Set(sources.flatMap(({ file, code }) => (code ? file : []))),
    files: sides.map((side) => ({
      side,
      searched: sources.filter((source) => source.side === side).length,
      parsed: sources.filter((source) => source.side === side && source.code).length,
    })),
  };
}

/** Files with all words of a start: where no call of it is found there, it may be made in a way that is not seen. */
function mentionsOfStarts(
  sources: readonly SourceFile[],
  { names }: Wanted,
  called: ReadonlySet<string> = new Set(),
): CodeFacts["mentioned"] {
  const found: CodeFacts["mentioned"] = [];
  for (const { kind, segments, sdk, side, name } of names) {
    if (kind !== "start") continue;
    for (const file of sources) {
      // Where a call of it was made out, its words are that call's.
      const at = file.side === side && !called.has(`${sdk} ${name} ${file.file}`) ? mentionOf(file, segments) : undefined;
      if (at === undefined) continue;
      found.push({ sdk, name, side, at: file.place(at) });
      break;
    }
  }
  return found;
}

/** Words of one statement stand at most so many characters apart. */
const NEAR = 300;

/**
 * Where the words of a start stand together in a file, in a way that could be a call of it: the verb of a call on something else (another
 * type, what another package brings) is that call's. `undefined` where they do not.
 */
function mentionOf({ text, code }: SourceFile, segments: readonly string[]): number | undefined {
  const words = segments.filter((segment) => segment !== "init");
  const [first, ...rest] = words;
  if (first === undefined || words.some((word) => !text.includes(word))) return undefined;
  const heads = new Set(code?.imports.flatMap(({ names }) => names.map(({ local }) => local)));
  const plain = code?.plain ?? text;
  const calls = new Map(code?.calls.map((call) => [call.at, call]));
  const taken = (from: number, word: string): boolean => {
    const call = word === first ? undefined : calls.get(from);
    // A call that was made out, without a receiver or on something whose type is known.
    if (call) {
      const [head = "", ...more] = call.callee.split(".");
      if (more.length === 0) return !call.closures.some((closure) => segments.includes(closure.split(".")[0] as string));
      const type = code?.variables.get(head);
      if ((type !== undefined || code?.values.get(head)) && !segments.includes(head) && !segments.includes(type ?? "")) return true;
    }
    const line = plain.slice(plain.lastIndexOf("\n", from - 1) + 1, from);
    // An import calls nothing, and neither does a declaration.
    if (
      code?.functions.some((fn) => fn.name === word && fn.from <= from && from < fn.from + 200 && !/[{=]/.test(plain.slice(fn.from, from)))
    )
      return true;
    if (
      code &&
      (/^\s*(?:@\w+\s+)?(?:import|using|package|#\s*(?:import|include))\b/.test(line) ||
        /\b(?:fun|func|function)\s+(?:\w+\.)?$|^\s*[-+]\s*\([^)]*\)\s*$/.test(line))
    )
      return true;
    const before = /([A-Za-z_$][\w$]*)\s*(?:\??\.|::|\s)\s*$/.exec(plain.slice(Math.max(0, from - 80), from))?.[1];
    if (before === undefined || segments.includes(before) || code === undefined || code === null) return false;
    return word !== first && (/^[A-Z]/.test(before) || heads.has(before));
  };
  const places = (word: string): number[] => {
    const found: number[] = [];
    for (let at = plain.indexOf(word); at !== -1; at = plain.indexOf(word, at + word.length))
      if (!/[\w$]/.test(plain[at - 1] ?? " ") && !/[\w$]/.test(plain[at + word.length] ?? " ") && !inComment(plain, at) && !taken(at, word))
        found.push(at);
    return found;
  };
  const others = rest.map(places);
  return places(first).find((at) => others.every((list) => list.some((other) => Math.abs(other - at) <= NEAR)));
}

function importFacts(sources: readonly SourceFile[]): CodeFacts["imports"] {
  return sources.flatMap((source) => {
    const told = new Set<string>();
    return source.imports.flatMap(({ sdk, package: name, offset }) => {
      if (told.has(name)) return [];
      told.add(name);
      return [{ sdk, package: name, side: source.side, at: source.place(offset) }];
    });
  });
}

function judge(project: ProjectFiles, index: FolderIndex, code: AppCode): CodeFacts {
  const { app, sources, wanted, components } = code;
  const facts = emptyFacts(code);
  for (const source of sources)
    if (source.code === null)
      code.sink.blindSpot({
        side: source.side,
        what: `the code in ${baseName(source.file)}`,
        why: "it could not be parsed",
        places: [source.place(0)],
      });
  settleConditions(app, sources);
  const program = new Program(sources);
  facts.autoStarts = autoStartsOf(code, program);
  const entryFunctions = new Set<unknown>();
  const reach = new Reach(project, index, app, sources, program, (fn) => entryFunctions.has(fn));
  const entries = entryPoints(app, program, components, facts.autoStarts, (type, ref) =>
    app.kind === "unity" ? runsInScene(reach.sceneState(type), functionOf(ref)?.name) : reach.unnamed(type, ref) === undefined,
  );
  for (const { ref } of entries) entryFunctions.add(functionOf(ref));
  facts.entries = entries.map(({ side, phase, title, at }) => ({ side, phase, title, at }));
  const hits = follow(
    program,
    entries.filter(({ ref }) => reach.notLoaded(ref.source) === undefined),
  );
  for (const { source, code: file } of program.files) {
    for (const call of file.calls) {
      const match = matchOf(call, file, source, wanted);
      if (match) facts.calls.push(callFact(call, file, source, match, hits.get(call)));
    }
  }
  facts.missingImports = missingImports(app, program, wanted, {
    globalUsings: app.kind === "dotnet" && hasGlobalUsings(project, app.path),
    // Source: Xcode build settings, GCC_PREFIX_HEADER.
    prefixHeader: [...foldersBelow(index, app.ios?.folder ?? app.path)].some(([, { files }]) =>
      files.some((file) => file.endsWith(".pch")),
    ),
  });
  facts.calls = withoutDoubles(facts.calls).sort(
    (a, b) =>
      (a.order ?? Infinity) - (b.order ?? Infinity) || (a.at.file < b.at.file ? -1 : a.at.file > b.at.file ? 1 : a.at.line - b.at.line),
  );
  facts.mentioned = mentionsOfStarts(
    sources,
    wanted,
    new Set(facts.calls.map(({ sdk, name, at: place }) => `${sdk} ${name} ${place.file}`)),
  );
  facts.bridges = readBridges(app, sources, program);
  facts.unbound = unboundCalls(app, program, facts.calls);
  facts.unused = unusedPackages(project, code);
  if (app.kind === "unity") facts.lostHandlers = lostHandlers(reach.scenes.handlers(), sources);
  facts.unnamed = unnamedClasses(code, program, reach);
  for (const { source, code: file } of program.files)
    if (file.errors.some(({ from, to }) => to - from > source.text.length / 3))
      code.sink.blindSpot({
        side: source.side,
        what: `parts of ${baseName(source.file)}`,
        why: "its code could not be parsed in full",
        places: [source.place(file.errors[0]?.from ?? 0)],
      });
  return facts;

  function callFact(call: CodeCall, file: CodeFile, source: SourceFile, match: Match, found: Hit[] | undefined): SdkCall {
    const ref: FunctionRef = { source, code: file, index: call.in };
    const fn = functionOf(ref);
    // A way without a debug condition says more than one with it.
    const hit = found?.find(({ guards }) => !guards.some(({ kind }) => kind === "debug" || kind === "never")) ?? found?.[0];
    const platform =
      source.side === "shared" && file.language === "csharp"
        ? call.guards.find(({ kind }) => kind === "android" || kind === "ios")
        : undefined;
    // What is merely used may be dead; only for what has to run does it matter.
    let unreached: Unreached | undefined = hit || call.in === -1 || match.kind === "use" ? undefined : reach.never(ref);
    if (match.kind !== "use") unreached ??= reach.notLoaded(source);
    // Nothing can call an object that never comes to be.
    if (unreached === undefined && app.kind === "unity" && fn && match.kind !== "use") unreached = reach.notInScene(fn);
    if (!hit && unreached === undefined && fn && match.kind !== "use") unreached = notStarted(fn, program);
    const screen = !hit && unreached === undefined && fn ? laterOf(fn.type, fn.name, [...program.heritage(fn.type)]) : false;
    return {
      sdk: match.sdk,
      side: platform ? (platform.kind as SideName) : source.side,
      kind: match.kind,
      name: match.name,
      callee: call.callee,
      within: fn ? `${fn.type === "" ? "" : `${fn.type}.`}${fn.name}` : baseName(source.file),
      arguments: call.arguments
        .flatMap((argument) => [
          { argument, ref },
          ...(isScript(file.language) && argument.label === undefined ? optionsOf(program, argument, ref) : []),
        ])
        .map(({ argument, ref: of }) => ({
          label: argument.label,
          text: argument.text.slice(0, 160),
          ...argumentValue(app, program, argument, of),
          at: of.source.place(argument.from),
        })),
      guards: hit ? [...hit.guards] : [...source.guards, ...call.guards],
      reach: unreached !== undefined ? "never" : hit ? "entry" : "possible",
      unreached,
      phase: hit?.phase ?? (screen ? "later" : undefined),
      entry: hit?.entry.title,
      entryFile: hit?.entry.at.file,
      isolate: hit?.isolate,
      order: hit?.order,
      lane: hit?.lane ?? "",
      ordered: hit !== undefined && hit.sure && hit.lane === "",
      sure: hit?.sure ?? false,
      ways: (found ?? []).map(({ sure, phase, guards, isolate, entry, trail, repeats, once }) => ({
        sure,
        phase,
        guards: [...guards],
        isolate,
        screen: entry.phase === "later",
        entry: entry.title,
        entryFile: entry.at.file,
        once,
        trail: trail.map((step) => step.source.place(step.from)),
        repeats,
      })),
      ready: hit?.ready ?? false,
      background: hit?.background ?? false,
      exact: match.exact,
      doubtful: file.errors.some(({ from, to }) => (fn ? from < fn.to && to > fn.from : true) || to - from > source.text.length / 3),
      optional: call.optional,
      at: source.place(call.from),
    };
  }
}

/** Conditions of the compiler that ask for a project's own symbols, as what they come to on the phones. */
function settleConditions({ buildSymbols }: App, sources: readonly SourceFile[]): void {
  if (!buildSymbols) return;
  for (const { code, language, text } of sources) {
    if (!code || language !== "csharp") continue;
    const own = new Set([...text.matchAll(/^[ \t]*#[ \t]*(?:define|undef)[ \t]+(\w+)/gm)].map((match) => match[1] as string));
    const defined = (symbol: string, phone: "android" | "ios"): boolean | undefined =>
      own.has(symbol) || buildSymbols.open.includes(symbol) || OWN_SYMBOLS.test(symbol)
        ? undefined
        : buildSymbols.defined[phone].includes(symbol);
    for (const { guards } of code.calls)
      guards.forEach((guard, index) => {
        if (!guard.compiled || (guard.kind !== "other" && guard.kind !== "presence")) return;
        const negated = /^not \((.*)\)$/s.exec(guard.text)?.[1];
        const [android, ios] = (["android", "ios"] as const).map((phone) => {
          const holds = isCompiled(negated ?? guard.text, phone, defined);
          return negated === undefined || holds === undefined ? holds : !holds;
        });
        if (android === false || ios === false)
          guards[index] = { ...guard, kind: android === false && ios === false ? "never" : android === false ? "ios" : "android" };
      });
  }
}

/** Source: learn.microsoft.com, "MSBuild reference for .NET SDK projects" (Using). */
function hasGlobalUsings(project: ProjectFiles, folder: string): boolean {
  return ["", ...folder.split("/").map((_, index, parts) => parts.slice(0, index + 1).join("/"))].some((above) =>
    project.tree
      .list(above)
      .some(
        ({ name, kind }) =>
          kind === "file" && /\.(csproj|props|targets)$/.test(name) && /<Using\s/.test(project.text(join(above, name))?.text ?? ""),
      ),
  );
}

/** A mark that runs a method on load, on a method that is not static; a coroutine that is only called. */
function notStarted(fn: CodeFunction, program: Program): Unreached | undefined {
  if (fn.annotations.includes("RuntimeInitializeOnLoadMethod") && !fn.isStatic) return { code: "instance", name: fn.name };
  if (!fn.iterates) return undefined;
  const calls = program.files.flatMap(({ code }) =>
    code.calls.filter(({ callee }) => callee.split(".").at(-1) === fn.name).map((call) => ({ code, call })),
  );
  // A name in a text may be what starts it.
  const named = program.files.some(({ code }) => new RegExp(`["'\\s(]${fn.name}["')]`).test(code.plain.replaceAll(`${fn.name}()`, "")));
  return calls.length > 0 && !named && calls.every(({ code, call }) => isStatement(code, call))
    ? { code: "iterator", name: fn.name }
    : undefined;
}

/** A method of a screen, or one that waits for somebody's touch. */
function laterOf(type: string, name: string, heritage: readonly string[]): boolean {
  return (
    /(Activity|Fragment|ViewController)$/.test(type) &&
    heritage.some((above) => /(Activity|Fragment|Controller)/.test(above)) &&
    /^(onCreate|onResume|onStart|onViewCreated|onCreateView|viewDidLoad|viewWillAppear|viewDidAppear)/.test(name)
  );
}

/** A chain of calls (`Quaymap.builder().start()`) is one call. */
function withoutDoubles(calls: readonly SdkCall[]): SdkCall[] {
  const seen = new Map<string, SdkCall>();
  for (const call of calls) {
    const key = `${call.sdk} ${call.kind} ${call.name} ${call.at.file}:${call.at.line}:${call.at.column}`;
    if (!seen.has(key)) seen.set(key, call);
  }
  return [...seen.values()];
}

/** Providers and initializers in the order in which the system runs them. */
function autoStartsOf({ components }: AppCode, program: Program): AutoStart[] {
  const simple = (name: string): string => name.split(/[.$]/).at(-1) as string;
  const unique = <T extends { name: string; removed: boolean }>(list: readonly T[]): T[] =>
    list.filter((entry, index) => list.findIndex((other) => other.name === entry.name && other.removed === entry.removed) === index);
  const providers = unique(components.providers)
    .filter((entry) => !entry.removed || !components.providers.some((other) => other.name === entry.name && !other.removed))
    .map((provider): AutoStart => ({ ...provider, kind: "provider", needs: [], position: 0 }))
    .sort((a, b) => b.initOrder - a.initOrder);
  providers.forEach((provider, index) => (provider.position = index + 1));
  const initializers = unique(components.initializers).map((entry): AutoStart => ({
    ...entry,
    kind: "initializer",
    initOrder: 0,
    position: 0,
    needs: dependenciesOf(program, simple(entry.name)),
  }));
  // What an initializer asks for runs even where no entry names it.
  for (let i = 0; i < initializers.length && i < 200; i++) {
    const { needs, by, removed } = initializers[i] as AutoStart;
    for (const { name, at } of needs)
      if (!initializers.some((other) => simple(other.name) === simple(name)))
        initializers.push({
          kind: "initializer",
          name,
          by,
          removed,
          needs: dependenciesOf(program, simple(name)),
          initOrder: 0,
          position: 0,
          at,
        });
  }
  let next = 500;
  const visit = (entry: AutoStart, path: readonly AutoStart[]): void => {
    if (entry.position !== 0 || path.includes(entry)) return;
    for (const { name } of entry.needs) {
      const needed = initializers.find((other) => simple(other.name) === simple(name));
      if (needed) visit(needed, [...path, entry]);
    }
    entry.position = ++next;
  };
  for (const entry of initializers) visit(entry, []);
  return [...providers, ...initializers.sort((a, b) => a.position - b.position)];
}

/** Packages of shared code with native parts that nothing of the app's own names: no source file and no configuration. */
function unusedPackages(project: ProjectFiles, { app, sources }: AppCode): CodeFacts["unused"] {
  const { shared } = app;
  if (!shared || sources.filter(({ side }) => side === "shared").length === 0) return [];
  const configs = new Set<string>();
  for (const folder of new Set([app.path, shared.folder, ""]))
    for (const { name, kind } of project.tree.list(folder))
      if (
        kind === "file" &&
        /\.(json|[cm]?[jt]s|ya?ml)$|rc$/.test(name) &&
        !/^(package(-lock)?|pnpm-lock|yarn)\b|lock\.(json|yaml)$|^pubspec/.test(name)
      )
        configs.add(join(folder, name));
  const texts = [...configs].map((file) => project.text(file)?.text ?? "");
  const scripts = project.text(join(shared.folder, "package.json"))?.text ?? "";
  let asked: Set<string> | undefined;
  const unused = app.dependencies.flatMap(({ ecosystem, name, sdk, direct, test, platform, native, nativeUnknown, places }) => {
    if (!direct || test || platform || (ecosystem !== "npm" && ecosystem !== "pub") || app.kind === "cordova") return [];
    if (!(native?.android || native?.ios) || nativeUnknown) return [];
    // Another package can ask the app for it, and use it itself.
    if (app.packageNeeds.some((need) => need.name === name && need.by !== name)) return [];
    if (ecosystem === "pub" && /_(android|ios|darwin|platform_interface|foundation)$/.test(name)) return [];
    const written = ecosystem === "pub" ? `package:${name}/` : name;
    if (sources.some(({ text }) => text.includes(written)) || texts.some((text) => text.includes(name))) return [];
    const inScripts = (scripts.match(new RegExp(`["'/ ]${name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}["'/ ]`, "g")) ?? []).length;
    const [at] = places;
    if (inScripts > 1 || !at) return [];
    // Only for what is left: this looks into every package.
    if (
      ecosystem === "npm" &&
      ((asked ??= askedByPackages(project, app, shared.folder)).has(name) || worksUnnamed(project, app, shared.folder, name))
    )
      return [];
    return [{ package: name, sdk, at }];
  });
  // What is loaded by a name that is only made when it runs can be any package.
  const dynamic = ({ side, language, text }: SourceFile): boolean =>
    side === "shared" && isScript(language) && /\b(?:require|import)\(\s*[^"'`\s)/]/.test(text);
  return unused.length === 0 || sources.some(dynamic) ? [] : unused;
}

/** What the installed packages that the app declares name among their own dependencies or peers, optional ones too. */
function askedByPackages(project: ProjectFiles, app: App, folder: string): Set<string> {
  const names = new Set<string>();
  for (const name of new Set(app.dependencies.flatMap((other) => (other.ecosystem === "npm" ? other.name : [])))) {
    const installed = findInstalled(project, folder, name);
    for (const declaration of (installed && readManifest(project, installed.folder)?.declarations) ?? [])
      if (declaration.section !== "devDependencies" && declaration.name !== name) names.add(declaration.name);
  }
  return names;
}

/**
 * Whether a package does its work without being named: it has no code for scripts to import, a plugin of its own for the configuration, or
 * components that the system starts.
 */
function worksUnnamed(project: ProjectFiles, app: App, folder: string, name: string): boolean {
  const installed = findInstalled(project, folder, name);
  if (!installed) return true;
  const root = readManifest(project, installed.folder)?.root;
  const file = (path: string): boolean => project.tree.isFile(join(installed.folder, path));
  const main = root && (textAt(root, "main") ?? textAt(root, "module") ?? textAt(root, "react-native"));
  const script = main !== undefined || at(root as Data, "exports") !== undefined || ["index.js", "index.ts", "index.tsx"].some(file);
  if (!script || file("app.plugin.js")) return true;
  return app.entries.some(({ kind, by }) => kind === "component" && by === name);
}

/** Classes that only live when a manifest, a list or an attribute names them. */
function unnamedClasses({ app, components, sources }: AppCode, program: Program, reach: Reach): CodeFacts["unnamed"] {
  const found: CodeFacts["unnamed"] = [];
  for (const { source, code } of program.files) {
    for (const type of code.types) {
      if (type.extension || /\babstract\b|\bopen\b/.test(code.plain.slice(Math.max(0, type.from - 40), type.from))) continue;
      const ref = { source, code, index: -1 };
      if (
        source.side === "android" &&
        type.supers.some((above) => /^(ReactPackage|BaseReactPackage|TurboReactPackage)$/.test(above)) &&
        reach.unnamed(type.name, ref) !== undefined
      )
        found.push({
          name: type.name,
          what: "package of native modules",
          side: "android",
          wanted: "the list of packages in the application class",
          at: source.place(type.from),
        });
      if (
        source.side === "android" &&
        [...program.heritage(type.name)].some((above) => /^(Multi[dD]ex)?Application$/.test(above)) &&
        source.language !== "csharp" &&
        components.applications.length === 0 &&
        app.manifests.length > 0 &&
        // Whatever its marks are: only a manifest makes the system take it.
        program.below(type.name).size === 0
      )
        found.push({
          name: type.name,
          what: "application class",
          side: "android",
          wanted: `android:name=".${type.name}" of the manifest's application`,
          at: source.place(type.from),
        });
    }
    if (source.side === "ios" && app.kind === "capacitor" && source.language === "swift")
      for (const type of code.types) {
        const named = (ending: RegExp): boolean =>
          sources.some(({ text, side, file }) => side === "ios" && file !== source.file && ending.test(text));
        // Since its sixth edition the framework looks for no plugins of the app's own by itself.
        if (type.supers.includes("CAPBridgedPlugin") && !named(new RegExp(`registerPlugin(?:Instance|Type)\\(\\s*${type.name}\\b`)))
          found.push({
            name: type.name,
            what: "plugin",
            side: "ios",
            wanted: "registerPluginInstance in the view controller",
            at: source.place(type.from),
          });
        // The storyboard makes the controller, by its name.
        if (type.supers.includes("CAPBridgeViewController") && reach.unnamed(type.name, { source, code, index: -1 }) !== undefined)
          found.push({
            name: type.name,
            what: "view controller of the framework",
            side: "ios",
            wanted: "the custom class of the view controller in Main.storyboard",
            at: source.place(type.from),
          });
      }
    if (source.side === "android" && app.kind === "capacitor")
      for (const type of code.types)
        if (
          type.annotations.includes("CapacitorPlugin") &&
          !sources.some(({ file, text, side }) => side === "android" && file !== source.file && mentions(text, type.name) > 0)
        )
          found.push({
            name: type.name,
            what: "plugin",
            side: "android",
            wanted: "registerPlugin in the activity",
            at: source.place(type.from),
          });
  }
  return found;
}

export { type Guard, type Language };
