import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import { OWN_SYMBOLS } from "../../knowledge/unity.js";
import type { App } from "../../model/app.js";
import type { AutoStart, CallMoment, CodeCall, CodeFacts, CodeFile, CodeFunction, Guard, SdkCall } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { baseName, join } from "../../model/paths.js";
import type { Batch } from "../../syntax/code/process.js";
import { androidComponents } from "../platforms/android/components.js";
import { buildRegions, variantAt, type BuildRegion } from "../platforms/build-regions.js";
import { isCompiled } from "../platforms/directives.js";
import type { KeptPart, Stage } from "../kept-part.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import type { AppCode, CodeOfApp, CodeTarget } from "./app-code.js";
import { argumentValue, optionsOf } from "./argument-values.js";
import { bridgeFacts } from "./bridges.js";
import { settleConstants } from "./constant-conditions.js";
import { componentFaults } from "./components.js";
import { Callers } from "./callers.js";
import { importsElsewhere } from "./elsewhere.js";
import { closedScreens, entryPoints, unadaptedDelegates } from "./entries.js";
import { flutterAssets } from "./flutter-assets.js";
import { generatedNames } from "./generated.js";
import { dependenciesOf } from "./initializers.js";
import { nativeViews } from "./native-view.js";
import { guardedRequests, lentPurposes, misnamedConstants } from "./permission-requests.js";
import { type Match, matchOf } from "./matches.js";
import { developmentOptions } from "./development-options.js";
import { misspeltPods, unimportedModules, unseenModules, unseenPods } from "./swift-modules.js";
import { missingImports } from "./missing-imports.js";
import { frameworkImports, frameworkNames, importsOfOnePhone, undeclaredPods } from "./multiplatform.js";
import { type Hit, follow, isStatement } from "./order.js";
import { oneSidedCalls, requestsOf } from "./pages.js";
import { type FunctionRef, functionOf } from "./function-ref.js";
import { Program } from "./program.js";
import { Reach } from "./reach.js";
import { Scenes, runsInScene } from "./scenes.js";
import { serializedValue } from "./serialized-values.js";
import { unityFaults } from "./unity-names.js";
import {
  type SourceFile,
  beginToParse,
  candidates,
  gatherSources,
  inComment,
  isScript,
  mayHoldEntries,
  mentions,
  outsideTargets,
  parseAll,
} from "./sources.js";
import { csharpNames } from "./csharp-names.js";
import { HeldValues } from "./held-values.js";
import { heldSplash } from "./held-splash.js";
import { isolateHandlers } from "./isolate-handlers.js";
import { developerTools } from "./dotnet-names.js";
import { xamlPages } from "./xaml-pages.js";
import { unhandedLinks, unreadLinks } from "./links-handed-on.js";
import { lostImports } from "./lost-files.js";
import { undeclaredPackages } from "./undeclared-packages.js";
import { sharedCalls } from "./shared-interfaces.js";
import { scriptPictures } from "./script-pictures.js";
import { scriptFonts } from "./script-fonts.js";
import { alternateIcons, applePictures } from "./apple-pictures.js";
import { androidNames } from "./android-names.js";
import { systemNames } from "./system-names.js";
import { settleSwiftConditions } from "./swift-conditions.js";
import { unnamedClasses } from "./unnamed-classes.js";
import { angularFaults } from "./angular.js";
import { lostPluginEvents } from "./plugin-events.js";
import { dartEnvironment } from "./dart-environment.js";
import { lackingRoots } from "./package-roots.js";
import { lackingSteps } from "./package-steps.js";
import { lostScreens } from "./screen-names.js";
import { unusedPackages } from "./unused-packages.js";
import { type Wanted, wantedOf } from "./wanted.js";
import { reason, type Reason } from "../../model/reason.js";

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

/** What has to be known of files whatever they start: classes that lists name, and under which conditions scripts ask for native modules. */
const NEEDS_A_TREE: Record<SideName, readonly RegExp[]> = {
  android: [LISTED_CLASS],
  ios: [/\bCAP(?:Bridged)?Plugin\b|\bCAPBridgeViewController\b/],
  shared: [/\bNativeModules\b|\brequire(?:Optional)?NativeModule\b|\bTurboModuleRegistry\b|\bregisterPlugin\b/, /\bPlatform\b/],
};

/** The source code of apps, while it is read. */
export class CodeReader {
  private readonly apps: (AppCode | { sink: FactSink; part: KeptPart<CodeOfApp> })[] = [];
  private readonly texts = new Map<AppCode, TextFacts>();
  readonly batch: Batch;

  constructor(
    private readonly project: ProjectFiles,
    private readonly index: FolderIndex,
  ) {
    this.batch = { stopped: 0, kept: project.kept };
  }

  /**
   * Looks through the source files of an app, and has those parsed that can matter: a process of its own does so beside this one, which
   * goes on with the next app.
   */
  begin(target: CodeTarget): void {
    const { app, names } = target;
    const { project, index, batch } = this;
    const wanted = wantedOf(app, names);
    const all = gatherSources(project, index, app, wanted);
    const outside = outsideTargets(app, all);
    const sources = all.filter((source) => !outside.has(source));
    const found = candidates(sources, wanted);
    const views = app.kind === "dotnet" ? nativeViews(sources) : [];
    const code: AppCode = {
      ...target,
      wanted,
      sources,
      views,
      outside: [...outside],
      first: [],
      components: { applications: [], launchers: [], screens: [], providers: [], initializers: [] },
      requests: guardedRequests(app, sources, views),
    };
    this.apps.push(code);
    const listed = sources.filter(({ side, text }) => NEEDS_A_TREE[side].every((form) => form.test(text)));
    if (found.length === 0 && listed.length === 0 && app.libraryManifests.length === 0) return;
    code.components = androidComponents(project, app);
    code.first.push(...unread([...found, ...listed]));
    if (found.length > 0) code.first.push(...unread([...sources.filter(mayHoldEntries).slice(0, 120), ...componentFiles(code)]));
    beginToParse(code.first, batch);
  }

  /** Takes over what an earlier run read of an app's source code. */
  takeOver(sink: FactSink, part: KeptPart<CodeOfApp>): void {
    part.replay("at once");
    this.apps.push({ sink, part });
  }

  /** Which SDKs the code calls, when, and under which conditions. */
  async finish(): Promise<CodeReading> {
    const facts = new Map<FactSink, CodeFacts>();
    // While the other process parses. What scripts of a build write is in an app's facts only when they have been read.
    for (const code of this.apps)
      if ("part" in code) code.part.replay("meanwhile");
      else if (!code.scripts) this.textsOf(code, "meanwhile");
    for (const code of this.apps) {
      if ("part" in code) {
        const { sink, part } = code;
        part.replay("at the end");
        if (part.known) {
          sink.add(part.known.added);
          facts.set(sink, part.known.facts);
        }
      } else facts.set(code.sink, await this.finishApp(code));
    }
    return { facts, cutShort: this.batch.stopped > 0 || this.apps.some((code) => "sources" in code && isCutShort(code)) };
  }

  private textsOf(code: AppCode, at: Stage): TextFacts {
    const known = this.texts.get(code) ?? code.kept.part.step(() => textFacts(this.project, this.index, code), at);
    this.texts.set(code, known);
    return known;
  }

  private async finishApp(code: AppCode): Promise<CodeFacts> {
    const { project, index, batch } = this;
    const {
      sink,
      sources,
      requests,
      scripts,
      kept: { before, part },
    } = code;
    // What is asked of the files now belongs to the app: while files are parsed nothing is.
    const step = <T>(work: () => T): T => part.step(work, "at the end");
    await scripts;
    await parseAll(code.first, batch);
    sink.guardedUse(...requests.texts.map((use) => ({ ...use, by: undefined, sdk: undefined, perhaps: false })));
    if (sources.some((source) => source.code)) {
      const callers = step(() => new Callers(code));
      for (let round = 0; round < ROUNDS; round++) {
        const more = step(() => callers.next());
        if (!more) break;
        await step(() => parseAll(unread(more), batch));
      }
    }
    const unhanded = unhandedLinks(code.app, sources);
    if (unhanded) sink.templateLine({ line: "links handed on", side: "ios", at: unhanded });
    const unheard = unreadLinks(code.app, sources);
    if (unheard) sink.templateLine({ line: "links read", side: "android", at: unheard });
    for (const line of heldSplash(code.app, sources)) sink.templateLine(line);
    const texts = this.textsOf(code, "at the end");
    const facts = step(() => (sources.some((source) => source.code) ? judge : withoutCode)(project, index, code, texts));
    for (const { code: read, failed, side, file } of sources)
      if (read === null)
        sink.blindSpot({
          side,
          what: `the code of ${baseName(file)}`,
          why: failed ?? reason("not-parsed"),
          places: [{ file, line: 1, column: 1 }],
        });
    part.keep(() => {
      const added = isCutShort(code) || batch.stopped > 0 || !before ? undefined : sink.since(before);
      return added && { facts, added };
    });
    return facts;
  }
}

function isCutShort({ sources }: AppCode): boolean {
  return sources.some(({ code }) => code === null);
}

/** What the code of an app says of which nothing was parsed. */
function withoutCode(project: ProjectFiles, index: FolderIndex, code: AppCode, texts: TextFacts): CodeFacts {
  const { app, sources } = code;
  return {
    ...emptyFacts(code, texts),
    unused: unusedPackages(project, code),
    ...bridgeFacts(app, sources, new Program(sources, app.ownPackages), project),
    components: componentFaults(project, index, app, sources, code.views),
    sceneFaults: unityFaults(project, index, app, sources, new Scenes(project, index, app)),
  };
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
  const isBound = /\bensureInitialized\b|\b\w*Binding\b/;
  const elsewhere = program.files.filter(({ source }) => source.language === "dart" && isBound.test(source.text));
  for (const { source, code } of program.files) {
    // What `main` calls may show the app in its place: told only where nothing else binds the framework.
    const shows = new Set(code.calls.flatMap((call) => (call.callee === "runApp" ? call.in : [])));
    const main =
      source.language === "dart"
        ? code.functions.findIndex(
            ({ name, type }, of) =>
              type === "" && (name === "main" || (shows.has(of) && elsewhere.every((other) => other.source === source))),
          )
        : -1;
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

/** What binds the framework, or may: `instance` of a binding only asks for it. */
const BINDS = /\bensureInitialized\b|\b(?:with|extends|implements)\b[^{;]*\b\w*Binding\b|\b\w*Binding\(/;

/** What `main` leads to before the app is shown, in other functions: told where no file binds the framework. */
function beforeShown(
  { kind }: App,
  sources: readonly SourceFile[],
  program: Program,
  calls: readonly SdkCall[],
  hits: ReadonlyMap<CodeCall, readonly Hit[]>,
): CodeFacts["unbound"] {
  if (kind !== "flutter" || sources.some(({ language, text }) => language === "dart" && BINDS.test(text))) return [];
  const shown = program.files.flatMap(({ code }) => code.calls.filter(({ callee }) => callee === "runApp"));
  const [only] = shown.flatMap((call) => hits.get(call) ?? []);
  const first = calls.find(
    (call) =>
      call.kind === "start" &&
      call.sure &&
      call.lane === "" &&
      !call.doubtful &&
      call.order !== undefined &&
      only &&
      call.order < only.order,
  );
  return first && shown.length === 1 && only?.lane === "" ? [{ sdk: first.sdk, callee: first.callee, at: first.at }] : [];
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

/** What the texts of an app's files say, whether they are parsed or not. */
type TextFacts = ReturnType<typeof textFacts>;

function textFacts(project: ProjectFiles, index: FolderIndex, { app, sources, views, outside }: AppCode) {
  const pages = xamlPages(project, index, app, sources);
  const angular = angularFaults(project, app, sources);
  return {
    imports: importFacts(sources),
    elsewhere: [
      ...importsElsewhere(project, app, sources),
      ...undeclaredPackages(project, index, app, sources),
      ...undeclaredPods(project, app, sources),
      ...importsOfOnePhone(app, sources),
      ...unseenPods(app, sources),
      ...unseenModules(app, sources),
      ...misspeltPods(app, sources),
    ],
    missingImports: [...frameworkImports(project, app, sources), ...unimportedModules(app, sources)],
    ...generatedNames(app, sources),
    lackingRoots: [...lackingRoots(app, sources, pages.texts), ...angular.roots, ...lackingSteps(project, app, sources)],
    lostScreens: [...lostScreens(app, sources), ...angular.screens],
    unsetVariables: [...dartEnvironment(project, app, sources), ...pages.unset],
    lostImports: [...lostImports(project, index, app, sources), ...angular.imports],
    assets: [
      ...flutterAssets(project, app, sources),
      ...applePictures(project, index, app, sources),
      ...alternateIcons(project, index, app, sources),
      ...scriptFonts(project, index, app, sources),
      ...scriptPictures(project, index, app, sources),
      ...pages.assets,
      ...angular.assets,
    ],
    pageFaults: [...pages.faults, ...angular.faults, ...lostPluginEvents(app, sources)],
    isolateHandlers: isolateHandlers(app, sources),
    debugOptions: [...developmentOptions(app, sources), ...developerTools(app, sources)],
    network: networkUse(app, sources),
    androidNames: androidNames(project, app, sources),
    systemNames: [...systemNames(app, sources, views), ...csharpNames(app, sources), ...misnamedConstants(sources)],
    requests: app.webPages.length > 0 ? requestsOf(sources) : [],
    lentPurposes: lentPurposes(app, sources),
    oneSidedCalls: oneSidedCalls(app, sources),
    sharedCalls: sharedCalls(app, sources),
    outside: usedFromOutside(outside, sources),
  };
}

/** The facts of an app as far as they are known before a call is followed. */
function emptyFacts({ sources, wanted, requests }: AppCode, texts: TextFacts): CodeFacts {
  const sides = (["android", "ios", "shared"] as const).filter((side) => sources.some((source) => source.side === side));
  return {
    ...texts,
    calls: [],
    unbound: [],
    mentioned: mentionsOfStarts(sources, wanted),
    autoStarts: [],
    bridges: [],
    unused: [],
    unnamed: [],
    halves: [],
    components: [],
    permissionRequests: requests.permissions,
    sceneFaults: [],
    entries: [],
    parsed: new Set(sources.flatMap(({ file, code }) => (code ? file : []))),
    files: sides.map((side) => ({
      side,
      searched: sources.filter((source) => source.side === side).length,
      parsed: sources.filter((source) => source.side === side && source.code).length,
    })),
  };
}

/** Source: docs.flutter.dev, "Networking"; api.flutter.dev (Image.network, NetworkImage); dart.dev, "HttpClient". */
const DART_NETWORK =
  /\b(HttpClient|NetworkImage|Image\.network|WebSocket\.connect)\s*\(|^import\s+["']package:(http|dio|web_socket_channel|cached_network_image)\//m;

/** Source: reactnative.dev, "Networking" (the framework's own interfaces, and libraries of scripts upon them). */
const SCRIPT_NETWORK =
  /\b(fetch|XMLHttpRequest|WebSocket)\s*\(|^[ \t]*import\s+\w+[^'"\n]*\bfrom\s+["'](axios|ky|superagent|graphql-request)["']/m;

function networkUse({ kind }: App, sources: readonly SourceFile[]): CodeFacts["network"] {
  for (const source of sources) {
    const pattern =
      source.language === "dart"
        ? DART_NETWORK
        : kind === "react-native" && source.side === "shared" && isScript(source.language)
          ? SCRIPT_NETWORK
          : undefined;
    const match = source.guards.length === 0 ? pattern?.exec(source.text) : undefined;
    if (match && !inComment(source.text, match.index)) return { what: (match[1] ?? match[2]) as string, at: source.place(match.index) };
  }
  return undefined;
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

/** Whether a name is followed by a call of another method than `init`, and nothing close behind is called so. */
function isOfOther(plain: string, end: number): boolean {
  const member = /^\s*\??\.\s*([a-z]\w*)\s*\(/.exec(plain.slice(end, end + 60))?.[1];
  return (
    member !== undefined && !/^(?:init|shared|instance|default|get)/i.test(member) && !/\binit\w*\s*\(/.test(plain.slice(end, end + NEAR))
  );
}

/** Whether a word stands in an import or names what is declared: neither calls anything. */
function isDeclared(code: CodeFile, plain: string, from: number, word: string): boolean {
  if (code.functions.some((fn) => fn.name === word && fn.from <= from && from < fn.from + 200 && !/[{=]/.test(plain.slice(fn.from, from))))
    return true;
  const line = plain.slice(plain.lastIndexOf("\n", from - 1) + 1, from);
  return (
    /^\s*(?:@\w+\s+)?(?:import|using|package|#\s*(?:import|include))\b/.test(line) ||
    /\b(?:fun|func|function)\s+(?:\w+\.)?$|^\s*[-+]\s*\([^)]*\)\s*$/.test(line)
  );
}

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
  // eslint-disable-next-line complexity -- one question after the other about a word
  const taken = (from: number, word: string): boolean => {
    const call = word === first ? undefined : calls.get(from);
    // A call that was made out, without a receiver or on something whose type is known.
    if (call) {
      const [head = "", ...more] = call.callee.split(".");
      if (more.length === 0) return !call.closures.some((closure) => segments.includes(closure.split(".")[0] as string));
      const type = code?.variables.get(head);
      if ((type !== undefined || code?.values.get(head)) && !segments.includes(head) && !segments.includes(type ?? "")) return true;
    }
    if (code && isDeclared(code, plain, from, word)) return true;
    // Of `Maps.init` what else is called on it is no mention.
    if (word === first && code && segments.length > 1 && segments.at(-1) === "init" && isOfOther(plain, from + word.length)) return true;
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
    let found: BuildRegion[] | undefined;
    const regions = (): BuildRegion[] => (found ??= buildRegions(source.text));
    return source.imports.flatMap(({ sdk, package: name, offset }) => {
      if (told.has(name)) return [];
      told.add(name);
      const guard = source.guards.find(({ kind }) => kind === "debug" || kind === "release" || kind === "variant");
      const variant = guard?.kind === "variant" ? guard.text : (guard?.kind ?? variantAt(regions(), offset));
      return [{ sdk, package: name, side: source.side, at: source.place(offset), ...(variant === undefined ? {} : { variant }) }];
    });
  });
}

/** When a call is made, by the way that leads to it; `screen`: without one, on a screen. */
function momentOf(hit: Hit | undefined, screen: boolean): Omit<CallMoment, "guards"> {
  if (!hit)
    return {
      phase: screen ? "later" : undefined,
      entry: undefined,
      entryFile: undefined,
      isolate: undefined,
      order: undefined,
      lane: "",
      ordered: false,
      sure: false,
      ready: false,
      background: false,
    };
  const { phase, entry, isolate, order, lane, sure, ready, background } = hit;
  return {
    phase,
    entry: entry.title,
    ...(entry.behind ? { behind: entry.behind } : {}),
    entryFile: entry.at.file,
    isolate,
    order,
    lane,
    ordered: sure && lane === "",
    sure,
    ready,
    background,
  };
}

/** The hit that says most: one without a debug condition says more than one with it. */
function bestOf(hits: readonly Hit[]): Hit | undefined {
  return hits.find(({ guards }) => !guards.some(({ kind }) => kind === "debug" || kind === "never")) ?? hits[0];
}

/** The phone to whose entry points those of a call in shared code belong; `undefined` where they are shared themselves. */
function phoneOf({ entry }: Hit, source: SourceFile): "android" | "ios" | undefined {
  return source.side === "shared" && entry.side !== "shared" ? entry.side : undefined;
}

/** When a call of shared code runs on each phone, where both come to it by entry points of their own. */
function momentsOf(hits: readonly Hit[], source: SourceFile): Pick<SdkCall, "moments"> {
  const of = (phone: "android" | "ios"): Hit[] => hits.filter((hit) => phoneOf(hit, source) === phone);
  const [android, ios] = [bestOf(of("android")), bestOf(of("ios"))];
  return android && ios
    ? {
        moments: {
          android: { ...momentOf(android, false), guards: [...android.guards] },
          ios: { ...momentOf(ios, false), guards: [...ios.guards] },
        },
      }
    : {};
}

/** The conditions on the way to a call; where entry points of one phone alone lead to shared code, that is one. */
function conditionsOf(hit: Hit, source: SourceFile, hits: readonly Hit[]): Guard[] {
  const phone = phoneOf(hit, source);
  return phone !== undefined && hits.every((other) => phoneOf(other, source) === phone) ? [...hit.guards, onPhone(phone)] : [...hit.guards];
}

function onPhone(phone: "android" | "ios"): Guard {
  return { kind: phone, text: `only the ${phone === "ios" ? "iOS" : "Android"} app leads there` };
}

/** One of the ways that lead to a call. */
function wayOf(hit: Hit, source: SourceFile): SdkCall["ways"][number] {
  const { sure, phase, guards, isolate, entry, trail, repeats, once } = hit;
  const phone = phoneOf(hit, source);
  return {
    sure,
    phase,
    guards: phone === undefined ? [...guards] : [...guards, onPhone(phone)],
    isolate,
    screen: entry.phase === "later",
    entry: entry.title,
    entryFile: entry.at.file,
    once,
    trail: trail.map((step) => step.source.place(step.from)),
    repeats,
  };
}

function judge(project: ProjectFiles, index: FolderIndex, code: AppCode, texts: TextFacts): CodeFacts {
  const { app, sources, wanted, components } = code;
  const facts = emptyFacts(code, texts);
  for (const source of sources)
    if (source.code === null)
      code.sink.blindSpot({
        side: source.side,
        what: `the code in ${baseName(source.file)}`,
        why: reason("not-parsed"),
        places: [source.place(0)],
      });
  settleConditions(app, sources);
  settleSwiftConditions(project, index, app, sources);
  const program = new Program(sources, app.ownPackages);
  for (const { code: file } of program.files) for (const { name } of file.types) wanted.ownTypes.add(name);
  settleConstants(program);
  facts.autoStarts = autoStartsOf(code, program);
  const entryFunctions = new Set<unknown>();
  const hidden = { screens: closedScreens(components, sources), delegates: unadaptedDelegates(program, sources) };
  const held = new HeldValues(program);
  const reach = new Reach(project, index, app, sources, program, held, (fn) => entryFunctions.has(fn), hidden);
  // What starts something has to be led to by what begins.
  const beginning = new Reach(project, index, app, sources, program, held, (fn) => entryFunctions.has(fn), hidden, true);
  const entries = entryPoints(app, program, components, hidden, facts.autoStarts, (type, ref) =>
    app.kind === "unity" ? runsInScene(reach.sceneState(type), functionOf(ref)?.name) : reach.unnamed(type, ref) === undefined,
  );
  for (const { ref } of entries) entryFunctions.add(functionOf(ref));
  facts.entries = entries.map(({ side, phase, title, at }) => ({ side, phase, title, at }));
  const hits = follow(
    program,
    held,
    entries.filter(({ ref }) => reach.notLoaded(ref.source) === undefined),
  );
  for (const { source, code: file } of program.files) {
    for (const call of file.calls) {
      const match = matchOf(call, file, source, wanted);
      if (match) facts.calls.push(callFact(call, file, source, match, hits.get(call)));
    }
  }
  facts.missingImports = [
    ...facts.missingImports,
    ...missingImports(app, program, wanted, {
      kotlinFrameworks: frameworkNames(project, app),
      globalUsings: app.kind === "dotnet" && hasGlobalUsings(project, app.path),
      // Source: Xcode build settings, GCC_PREFIX_HEADER.
      prefixHeader: [...foldersBelow(index, app.ios?.folder ?? app.path)].some(([, { files }]) =>
        files.some((file) => file.endsWith(".pch")),
      ),
    }),
  ];
  facts.calls = withoutDoubles(facts.calls).sort(
    (a, b) =>
      (a.order ?? Infinity) - (b.order ?? Infinity) || (a.at.file < b.at.file ? -1 : a.at.file > b.at.file ? 1 : a.at.line - b.at.line),
  );
  facts.mentioned = mentionsOfStarts(
    sources,
    wanted,
    new Set(facts.calls.map(({ sdk, name, at: place }) => `${sdk} ${name} ${place.file}`)),
  );
  facts.unbound = unboundCalls(app, program, facts.calls);
  if (facts.unbound.length === 0) facts.unbound = beforeShown(app, sources, program, facts.calls, hits);
  facts.unused = unusedPackages(project, code);
  facts.sceneFaults = unityFaults(project, index, app, sources, reach.scenes);
  Object.assign(facts, bridgeFacts(app, sources, program, project));
  facts.components = componentFaults(project, index, app, sources, code.views);
  facts.unnamed.push(...unnamedClasses(project, code, program, reach));
  for (const { source, code: file } of program.files)
    if (file.errors.some(({ from, to }) => to - from > source.text.length / 3))
      code.sink.blindSpot({
        side: source.side,
        what: `parts of ${baseName(source.file)}`,
        why: reason("not-parsed-in-full"),
        places: [source.place(file.errors[0]?.from ?? 0)],
      });
  return facts;

  /** Why a call is never made; `undefined`: it is, or anything could lead to it. */
  function unreachedOf(call: CodeCall, ref: FunctionRef, kind: Match["kind"], hit: Hit | undefined): Reason | undefined {
    const { source, code: file } = ref;
    const fn = functionOf(ref);
    // Animations and other assets call methods of components, too; what starts an SDK is not left to them.
    const mayBeCalled = app.kind === "unity" && kind === "use";
    const of = kind === "start" ? beginning : reach;
    const byCallers = hit || call.in === -1 || mayBeCalled ? undefined : of.never(ref);
    const found = byCallers ?? (hit && of.neverMade(ref)) ?? keptAway(of, call, file, hit) ?? reach.notLoaded(source);
    if (found) return found;
    const unread = hit ? undefined : reach.unreadValue(source, file, call.from);
    if (unread !== undefined) return reason("value-unasked", { name: unread });
    // Nothing can call an object that never comes to be.
    const still = app.kind === "unity" && fn ? reach.notInScene(fn) : undefined;
    return still ?? (!hit && fn ? notStarted(fn, program) : undefined);
  }

  /** Why nothing takes the closure in which a call stands, or one of those that lead to it. */
  function keptAway(of: Reach, call: CodeCall, file: CodeFile, hit: Hit | undefined): Reason | undefined {
    if (hit?.sure) return undefined;
    const own = of.keptAway(file, call.at);
    if (own || !hit) return own;
    for (const { source, from, held: isHeld } of hit.trail) {
      const found = isHeld || !source.code ? undefined : of.keptAway(source.code, from);
      if (found) return found;
    }
    return undefined;
  }

  /** The arguments, and the options of objects among them, with their values. */
  function argumentsOf(call: CodeCall, ref: FunctionRef): SdkCall["arguments"] {
    return call.arguments
      .flatMap((argument) => [
        { argument, ref },
        ...(isScript(ref.source.language) && argument.label === undefined ? optionsOf(held, argument, ref) : []),
      ])
      .map(({ argument, ref: of }) => ({
        label: argument.label,
        text: argument.text.slice(0, 160),
        ...argumentValue(app, program, held, argument, of),
        ...(app.kind === "unity" ? serializedValue(reach.scenes, argument, of) : {}),
        at: of.source.place(argument.from),
      }));
  }

  function callFact(call: CodeCall, file: CodeFile, source: SourceFile, match: Match, found: Hit[] | undefined): SdkCall {
    const ref: FunctionRef = { source, code: file, index: call.in };
    const fn = functionOf(ref);
    const hit = bestOf(found ?? []);
    const platform =
      source.side === "shared" && file.language === "csharp"
        ? call.guards.find(({ kind }) => kind === "android" || kind === "ios")
        : undefined;
    const unreached = unreachedOf(call, ref, match.kind, hit);
    const screen = !hit && unreached === undefined && fn ? laterOf(fn.type, fn.name, [...program.heritage(fn.type)]) : false;
    return {
      sdk: match.sdk,
      side: platform ? (platform.kind as SideName) : source.side,
      kind: match.kind,
      name: match.name,
      callee: call.callee,
      within: fn ? `${fn.type === "" ? "" : `${fn.type}.`}${fn.name}` : baseName(source.file),
      arguments: argumentsOf(call, ref),
      guards: hit ? conditionsOf(hit, source, found ?? []) : [...source.guards, ...call.guards],
      reach: unreached !== undefined ? "never" : hit ? "entry" : "possible",
      unreached,
      ...momentOf(hit, screen),
      ...momentsOf(found ?? [], source),
      ways: (found ?? []).map((way) => wayOf(way, source)),
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
function notStarted(fn: CodeFunction, program: Program): Reason | undefined {
  if (fn.annotations.includes("RuntimeInitializeOnLoadMethod") && !fn.isStatic) return reason("not-static", { name: fn.name });
  if (!fn.iterates) return undefined;
  const calls = program.files.flatMap(({ code }) =>
    code.calls.filter(({ callee }) => callee.split(".").at(-1) === fn.name).map((call) => ({ code, call })),
  );
  // A name in a text may be what starts it.
  const named = program.files.some(({ code }) => new RegExp(`["'\\s(]${fn.name}["')]`).test(code.plain.replaceAll(`${fn.name}()`, "")));
  return calls.length > 0 && !named && calls.every(({ code, call }) => isStatement(code, call))
    ? reason("iterator-never-run", { name: fn.name })
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
