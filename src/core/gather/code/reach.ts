import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { projectSides } from "../platforms/source-text.js";
import { ANDROID_STEPS, CLOSING_METHODS, COMPONENT_STEPS, DOTNET_STEPS, IOS_STEPS, UNITY_STEPS } from "../../knowledge/life-cycle.js";
import { type FolderIndex, foldersBelow } from "../../files/walk.js";
import type { SideName } from "../../model/facts.js";
import { ownPackageOf, type App } from "../../model/app.js";
import type { CodeCall, CodeFile, CodeFunction, CodeValue, Language } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import {
  escaped,
  isDefaultExport,
  isIdle,
  isInImport,
  isInInterface,
  isMember,
  isSignature,
  onlyDeclares,
  onlyDeclaresMethod,
  onlyHandsOn,
} from "./mentions.js";
import { importedScripts, rootScripts } from "./modules.js";
import type { HiddenTypes } from "./entries.js";
import { bridgedNames } from "./bridged-names.js";
import { type FunctionRef, functionOf, lazyValues } from "./function-ref.js";
import { ADDS, callOf, type HeldValues } from "./held-values.js";
import { keeperOf, type Keeper } from "./keepers.js";
import { isStatement, standsIdle } from "./order.js";
import type { Program } from "./program.js";
import { PACKAGE_OF_MODULES } from "./react-native-modules.js";
import { type SceneState, type Switching, Scenes, runsInScene } from "./scenes.js";
import { START_VERB, type SourceFile, isScript, mentions } from "./sources.js";
import { WordIndex } from "./word-index.js";
import { distance } from "fastest-levenshtein";
import { reason, type Reason } from "../../model/reason.js";

/** Annotations that say nothing about who calls. */
const PLAIN_ANNOTATIONS =
  /^(override|deprecated|suppress\w*|discardableresult|mainactor|jvmstatic|nonnull|nullable|optin|visiblefortesting|requires\w*|available|inlinable|throws|protected|usedimplicitly|safevarargs|experimental\w*|objc|objcmembers|nonobjc|preconcurrency|sendable|composable)$/i;

/** Functions that systems and frameworks call by name. */
const CALLED_BY_NAME = new Set(
  [...ANDROID_STEPS, ...IOS_STEPS, ...DOTNET_STEPS, ...UNITY_STEPS]
    .flatMap(({ names }) => names)
    .concat(COMPONENT_STEPS, [
      "main",
      "init",
      "static",
      "deinit",
      "body",
      "get",
      "set",
      "viewDidLoad",
      "viewWillAppear",
      "viewDidAppear",
      "makeUIView",
      "Update",
      "FixedUpdate",
      "LateUpdate",
      "OnDestroy",
      "OnDisable",
      "OnApplicationPause",
      "OnApplicationFocus",
      "OnGUI",
      "render",
      "constructor",
      "componentDidMount",
      "componentWillMount",
      "UNSAFE_componentWillMount",
      "componentDidUpdate",
      "componentWillUnmount",
      "ngOnInit",
      "connectedCallback",
      "setup",
      "mounted",
      "created",
      "toString",
      "invoke",
      "call",
      "build",
      "Dispose",
      "DisposeAsync",
      "ShouldRender",
      "SetParametersAsync",
    ]),
);

/** Languages in which a method that another type asks for need not be marked as such. */
const UNMARKED = new Set(["swift", "objc", "csharp", "java", "javascript", "typescript", "tsx"]);

/** Types of the platforms whose methods do not begin like a start, apart from those that are known by name. */
const KNOWN_BASES =
  /^(UIResponder|NSObject|UIApplicationDelegate|UIWindowSceneDelegate|UISceneDelegate|UNUserNotificationCenterDelegate|UIViewController|FlutterAppDelegate|RCTAppDelegate|ExpoAppDelegate|CAPBridgeViewController|App|View|ObservableObject|Application|MultiDexApplication|ReactApplication|Activity|AppCompatActivity|ComponentActivity|FragmentActivity|ReactActivity|BridgeActivity|CordovaActivity|FlutterActivity|FlutterFragmentActivity|MauiApplication|MauiUIApplicationDelegate|MauiAppCompatActivity|MonoBehaviour|ContentPage|ComponentBase|LayoutComponentBase|OwningComponentBase|Component|PureComponent|React\.Component|StatelessWidget|StatefulWidget|State)$/;

/**
 * Marks and protocols of a language that call nothing of a type but what they name themselves. Sources: docs.swift.org, "Attributes", and the
 * protocols of the Swift standard library; learn.microsoft.com, "INotifyPropertyChanged".
 */
const ASKS_FOR_NOTHING =
  /^(MainActor|Observable|Sendable|Identifiable|Equatable|Hashable|Codable|Decodable|Encodable|CaseIterable|Comparable|Error|LocalizedError|CustomStringConvertible|INotifyPropertyChanged|Serializable|Cloneable|Parcelable)$/;

/** Scripts that bring in others in ways that are not followed. */
const LOADS_SCRIPTS =
  /createElement\s*\(\s*["']script|document\.write|importScripts|getScript\s*\(|\bSystem\.import|\bimport\s*\(\s*[^"'\s]/;

/** Source: learn.microsoft.com, ".NET MAUI pages", "ContentView". */
const PAGE = /^(Content|Flyout|Navigation|Tabbed)Page$|^(Shell|ContentView|ResourceDictionary)$/;

/** Whether a page of XAML names a type as the class of its own code alone. Source: learn.microsoft.com, "x:Class Directive". */
function namesOwnPage(text: string, type: string, mentions: number): boolean {
  return mentions === 1 && new RegExp(`\\bx:Class\\s*=\\s*["'](?:[\\w.]*\\.)?${escaped(type)}["']`).test(text);
}

/** Whether the system calls a function of a name in a language: those of .NET begin with a capital letter. */
function isStep(name: string, language: Language): boolean {
  // A method of that name is an ordinary one where constructors are called otherwise.
  if (name === "init" && language !== "objc" && language !== "swift") return false;
  return CALLED_BY_NAME.has(name) && (language === "csharp" || !/^[A-Z]/.test(name));
}

/** Methods that Android calls: in Kotlin only those that are marked. */
const ANDROID_NAMES = new Set(ANDROID_STEPS.flatMap(({ names }) => names).filter((name) => name !== "main"));

const LOWER_STEPS = new Set([...CALLED_BY_NAME].map((name) => name.toLowerCase()));

/** A method that is nearly one which the system calls by name, and is not: nothing calls it. */
function isMisspeltStep({ name, selector }: CodeFunction, language: Language): boolean {
  if (name.length > 6 && LOWER_STEPS.has(name.toLowerCase()) && !isStep(name, language)) return true;
  return (
    selector.length > 16 &&
    [...CALLED_BY_NAME].some((name) => name.length > 16 && name !== selector && distance(name, selector) <= (name.length > 30 ? 3 : 2))
  );
}

function isScriptFile(file: string): boolean {
  return /\.m?js$/.test(file);
}

/** Methods of script components that the engine calls by their names. Source: docs.unity3d.com, "MonoBehaviour" (messages). */
const ENGINE_MESSAGE = /^(Awake|Start|Update|FixedUpdate|LateUpdate|Reset|On[A-Z]\w*)$/;

const OTHER_TEXT = /\.(xml|storyboard|xib|html|plist|xaml|json|csproj|unity|prefab|asset|pbxproj)$/;

/** Whether a name alone means a part of another object, in a file that has one of that name itself. */
function isOtherPart(code: CodeFile, target: FunctionRef, { name, owner }: CodeFunction): boolean {
  return (
    owner !== undefined &&
    code !== target.code &&
    code.imports.length === 0 &&
    code.functions.some((other) => other.name === name && other.owner !== undefined)
  );
}

/** Whether an object gives a function out under its own name: `return { begin: begin }`, `{ begin }`. Who calls it says that name. */
function isGivenOut(plain: string, at: number, name: string): boolean {
  const before = plain.slice(Math.max(0, at - 120), at);
  return (
    new RegExp(`[{,]\\s*(?:${escaped(name)}\\s*:\\s*)?$`).test(before) &&
    /^\s*[,}]/.test(plain.slice(at + name.length, at + name.length + 40))
  );
}

/**
 * Whether a function gives another one back as a part of an object, under its own name: `return { begin, show }`. Who calls it says that name.
 * What a closure gives goes to whoever that was handed over to.
 */
function isGivenBack(code: CodeFile, around: number | undefined, at: number, name: string): boolean {
  const { plain } = code;
  const fn = around === undefined ? undefined : code.functions[around];
  if (fn?.kind !== "function" || fn.name === "" || !isGivenOut(plain, at, name)) return false;
  const open = plain.lastIndexOf("{", at);
  return /(?:\breturn|=>\s*\()\s*$/.test(plain.slice(Math.max(fn.from, open - 20), open)) && closing(plain, open) > at;
}

/** A place at which something is named: the call that it is, and the function around it. */
interface Mention {
  at: number;
  call: CodeCall | undefined;
  around: number | undefined;
}

/** So many mentions are followed in an app; what is open then counts as living. */
const MOST_CONSIDERED = 500_000;

/** So many functions and types one after the other are asked. */
const DEEPEST = 200;

/** Answers whether anything in an app could lead to a function. Only where nothing could, the answer is a reason. */
export class Reach {
  /** What is known of functions and types. */
  private readonly answers = new Map<unknown, Reason | undefined>();
  /** What the question that is open has asked on its way, with the reason why it would be dead. */
  private readonly asked = new Map<unknown, Reason>();
  private depth = 0;
  private considered = 0;
  /** Mentions in a file that can lead somewhere, by the name. */
  private readonly places = new Map<CodeFile, Map<string, readonly Mention[]>>();
  private readonly lazies = new Map<CodeFile, [string, CodeValue][]>();
  private readonly texts = new Map<string, { file: string; count: number }[]>();
  private loaded: Set<string> | undefined;
  private readonly sceneStates = new Map<string, SceneState>();
  private switchings: Switching | undefined;
  private other: { file: string; text: string }[] | undefined;
  private words: WordIndex<{ file: string; text: string }> | undefined;
  readonly scenes: Scenes;
  private readonly bySource: ReadonlyMap<string, SourceFile>;
  private imported: ReadonlySet<string> | undefined;
  /** Scripts that the framework loads by itself. */
  private readonly plain = new Map<string, string>();
  private begun: boolean | undefined;
  private projectSide: ReturnType<typeof projectSides> | undefined;
  private readonly roots: readonly string[];

  constructor(
    private readonly project: ProjectFiles,
    private readonly index: FolderIndex,
    private readonly app: App,
    private readonly sources: readonly SourceFile[],
    private readonly program: Program,
    private readonly held: HeldValues,
    private readonly isEntry: (fn: CodeFunction) => boolean,
    /** That a manifest declares screens shows none of these; and no delegate of these hears of anything. */
    private readonly hidden: HiddenTypes,
    /** What has to begin: methods that run when something ends lead to nothing. */
    private readonly begins = false,
  ) {
    this.scenes = new Scenes(project, index, app);
    this.bySource = new Map(sources.map((source) => [source.file, source]));
    this.roots = rootScripts(app, sources).map(({ file }) => file);
  }

  /** Why a function never comes to be that stands in another one: nothing leads to that. */
  neverMade(ref: FunctionRef): Reason | undefined {
    const fn = functionOf(ref);
    // In what could not be read in full, functions may stand elsewhere.
    if (!fn || !isScript(ref.source.language) || fn.name === "" || ref.code.errors.length > 0) return undefined;
    for (const [index, outer] of ref.code.functions.entries()) {
      if (outer === fn || outer.kind !== "function" || outer.name === "" || outer.from > fn.from || outer.to < fn.to) continue;
      const why = this.never({ ...ref, index });
      if (why) return why;
    }
    return this.ofUnusedObject(ref, fn);
  }

  /** Why nothing asks for the object of a script of which a function is a part: `const charts = { begin() { … } }`. */
  private ofUnusedObject({ source, code }: FunctionRef, fn: CodeFunction): Reason | undefined {
    const found = [...code.plain.slice(0, fn.from).matchAll(OBJECT)].findLast(
      ({ index, 0: text }) => closing(code.plain, index + text.length - 1) >= fn.to,
    );
    const name = found?.[1];
    if (
      !found ||
      name === undefined ||
      code.functions.some(({ from, to, kind }) => kind === "function" && from < found.index && to > fn.to)
    )
      return undefined;
    if (isDefaultExport(code, name)) return undefined;
    for (const { file, count } of this.mentionsFor(name, source.side)) {
      const home = this.bySource.get(file);
      if (file === source.file ? count > 1 : !home || !onlyHandsOn(home, name)) return undefined;
    }
    return reason("value-unasked", { name });
  }

  /** Why nothing leads to a function; `undefined` when something does or could. */
  never(ref: FunctionRef): Reason | undefined {
    const fn = functionOf(ref);
    if (!fn || fn.name === "" || this.isEntry(fn)) return undefined;
    return this.ask(fn, reason("callers-uncalled", { name: fn.name }), () => this.work(ref, fn));
  }

  /**
   * Asks backwards from a function or type for anything that lives. What was asked on the way already is not asked again: it leads somewhere
   * only if something else on the way does, so that circles which nothing enters are dead. Only what is certain then is remembered.
   */
  private ask(key: unknown, dead: Reason, work: () => Reason | undefined): Reason | undefined {
    if (this.answers.has(key)) return this.answers.get(key);
    const before = this.asked.get(key);
    if (before) return before;
    // What is still open at such a depth counts as living.
    if (this.depth > DEEPEST) return undefined;
    const outermost = this.asked.size === 0;
    this.asked.set(key, dead);
    this.depth++;
    const why = work();
    this.depth--;
    if (why) this.asked.set(key, why);
    else this.answers.set(key, undefined);
    if (outermost) {
      if (why) for (const [own, reason] of this.asked) if (!this.answers.has(own)) this.answers.set(own, reason);
      this.asked.clear();
    }
    return why;
  }

  /** A script of a page's folder that no page loads, and no other script brings in. Source: html.spec.whatwg.org, "The script element". */
  notLoaded(source: SourceFile): Reason | undefined {
    const { file } = source;
    const { webPages } = this.app;
    const [page] = webPages.filter(({ first }) => first);
    const alone = this.notImported(source);
    if (alone) return alone;
    if (!page || !isScriptFile(file) || !isWithin(file, parentOf(page.file))) return undefined;
    this.loaded ??= this.loadedScripts();
    return this.loaded.has(file) || this.loaded.has("*") ? undefined : reason("in-no-page", { name: baseName(file) });
  }

  /** A script that no other brings in, beginning with those that the framework loads. */
  private notImported(source: SourceFile): Reason | undefined {
    if (!isScript(source.language) || source.side !== "shared" || this.app.webPages.length > 0) return undefined;
    this.imported ??= importedScripts(this.sources, this.roots, this.app.ownPackages);
    return this.imported.size === 0 || this.imported.has(source.file)
      ? undefined
      : reason("module-unimported", { name: baseName(source.file) });
  }

  private loadedScripts(): Set<string> {
    const { webPages } = this.app;
    const loaded = new Set<string>();
    const waiting = webPages.flatMap(({ scripts }) => scripts);
    if (webPages.some(({ open }) => open) || this.sources.some(({ text, file }) => isScriptFile(file) && LOADS_SCRIPTS.test(text)))
      loaded.add("*");
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
      if (loaded.has(next)) continue;
      loaded.add(next);
      const text = this.sources.find(({ file }) => file === next)?.text;
      for (const match of text?.matchAll(/\b(?:import|from|require)\b\s*\(?\s*["'](\.[^"'\n]+)["']/g) ?? []) {
        const target = join(parentOf(next), match[1] as string);
        waiting.push(target, `${target}.js`, `${target}/index.js`);
      }
    }
    return loaded;
  }

  // eslint-disable-next-line complexity -- one question after the other; the first that has an answer gives it
  private work(ref: FunctionRef, fn: CodeFunction): Reason | undefined {
    const { source, code } = ref;
    const unloaded = this.notLoaded(source);
    if (unloaded) return unloaded;
    const still = this.app.kind === "unity" ? this.notInScene(fn) : undefined;
    if (still) return still;
    // A method of that name in a type that extends nothing is an ordinary one.
    if (
      this.begins &&
      CLOSING_METHODS.has(fn.name) &&
      (fn.overrides || /^(?:deinit|Finalize)$/.test(fn.name) || this.program.heritage(fn.type).size > 0)
    )
      return reason("runs-at-end", { name: fn.name });
    if (fn.annotations.some((annotation) => !PLAIN_ANNOTATIONS.test(annotation))) return undefined;
    // Called by the bare name of an object.
    if (source.language === "swift" && fn.name === "callAsFunction") return this.typeNever(ref, fn);
    const ofOwn = fn.overrides && fn.kind === "function" && this.declaredAbove(fn);
    if (
      (fn.overrides && !ofOwn) ||
      fn.kind !== "function" ||
      (isStep(fn.name, source.language) && !(source.language === "kotlin" && !fn.overrides && ANDROID_NAMES.has(fn.name))) ||
      (fn.selector !== fn.name && CALLED_BY_NAME.has(fn.selector))
    ) {
      if (this.hidden.delegates.has(fn.type) && fn.kind === "function") return reason("callers-uncalled", { name: fn.name });
      return this.shadowed(ref, fn) ?? this.typeNever(ref, fn);
    }
    if (isScript(source.language) && isDefaultExport(code, fn.name)) return this.defaultNever(ref, fn);
    if (isScript(source.language) && fn.type === "" && /\bmodule\.exports\b|\bexports\.|\bwindow\./.test(code.plain)) {
      if (new RegExp(`(exports|window)(\\.default)?\\s*(\\.\\s*${escaped(fn.name)}\\s*)?=`).test(code.plain)) return undefined;
    }
    const unmade = this.neverMade(ref);
    if (unmade) return unmade;
    const mentioned = this.mentionedIn(ref, fn);
    // Functions that are added to other types are called without the name of their own.
    if (mentioned === "lives" && fn.isStatic) return undefined;
    if (mentioned === "lives" || mentioned === "unread") return this.typeNever(ref, fn);
    if (mentioned === "none" && this.mayBeAskedFor(ref, fn)) return undefined;
    if (isScript(source.language) && isMemberOfWhole(code.plain, fn.from)) return undefined;
    return reason(mentioned === "none" ? "function-uncalled" : fn.iterates ? "iterator-never-run" : "callers-uncalled", { name: fn.name });
  }

  /**
   * What all mentions of a function say: one can lead to it, or stands in a file that was not parsed (`unread`); all stand where nothing leads;
   * there is none.
   */
  private mentionedIn(ref: FunctionRef, fn: CodeFunction): "lives" | "unread" | "dead" | "none" {
    const { source } = ref;
    let found: "dead" | "none" = "none";
    for (const name of new Set([fn.name, ...this.aliasesOf(ref, fn), ...bridgedNames(fn, source.language)]))
      for (const { file, count } of this.mentionsFor(name, source.side)) {
        const home = this.bySource.get(file);
        const parsed = home?.code;
        const declared = parsed ? declarationsOf(parsed, name) : 0;
        if (count <= declared || (home && isOtherName(home, name, source, fn))) continue;
        // A mention counts unless it is something else's, or stands in a function that nothing leads to.
        if (!home || !parsed) return "unread";
        const how = this.mentionsIn(home, parsed, ref, fn, name);
        if (how === "lives") return how;
        if (how === "dead") found = how;
      }
    return found;
  }

  /** Whether a type of others, which a method's own type extends, may ask for it: in languages that do not mark what is overridden. */
  private mayBeAskedFor({ source, code }: FunctionRef, fn: CodeFunction): boolean {
    const isPrivate = /\b(?:private|fileprivate)\b/.test(code.plain.slice(fn.from, fn.from + 200).split(/[({=]/)[0] ?? "");
    if (fn.type === "" || !UNMARKED.has(source.language) || isPrivate || isMisspeltStep(fn, source.language)) return false;
    // A function inside of another one is called by nobody else.
    if (
      code.functions.some(
        (other) => other !== fn && other.kind === "function" && other.name !== "" && other.from < fn.from && other.to >= fn.to,
      )
    )
      return false;
    const supers = [...this.program.heritage(fn.type)].filter(
      (name) => /^[A-Z]/.test(name) && !/^(main|objc\w*|Application|Register)$/.test(name) && !ASKS_FOR_NOTHING.test(name),
    );
    // What asks for a method calls it; of the app's own types that would be a mention.
    const foreign = supers.filter((name) => name !== "NSObject" && this.program.types(name).length === 0);
    const isMessage = this.app.kind !== "unity" || !supers.includes("MonoBehaviour") || ENGINE_MESSAGE.test(fn.name);
    return foreign.some((name) => !KNOWN_BASES.test(name)) || (isMessage && foreign.length > 0 && !START_VERB.test(fn.name));
  }

  /** Whether a type of the app's own, above that of a method, has the method too: it is called through that one. */
  private declaredAbove(fn: CodeFunction): boolean {
    const declares = new RegExp(`(?<![\\w$.])${escaped(fn.name)}\\s*[(<:]`);
    return [...this.program.heritage(fn.type)].some((above) =>
      this.program.types(above).some(({ code, type }) => declares.test(code.plain.slice(type.from, type.to))),
    );
  }

  /**
   * A method that the system calls, in a type of which there are only objects of types that have their own, and do not call the one of the
   * type above.
   */
  private shadowed({ source, code }: FunctionRef, fn: CodeFunction): Reason | undefined {
    if (fn.type === "" || fn.kind !== "function" || !fn.overrides || !this.program.isAbstract(fn.type)) return undefined;
    const below = [...this.program.below(fn.type)].filter((type) => !this.program.isAbstract(type));
    const hidden = (type: string): boolean => {
      const [found] = this.program.lookUp(type, fn.name, source.side);
      const own = found && functionOf(found);
      return (
        found !== undefined &&
        own !== undefined &&
        own.type !== fn.type &&
        !new RegExp(`\\bsuper\\s*\\.\\s*${escaped(fn.name)}\\b`).test(found.code.plain.slice(own.from, own.to))
      );
    };
    return below.length > 0 && below.every(hidden) && code.functions.includes(fn)
      ? reason("function-uncalled", { name: fn.name })
      : undefined;
  }

  /** Names by which scripts know a function that they import under another one. */
  private aliasesOf({ source }: FunctionRef, fn: CodeFunction): string[] {
    if (!isScript(source.language) || fn.type !== "") return [];
    const found = new Set<string>();
    const open = [fn.name];
    for (let name = open.pop(); name !== undefined; name = open.pop()) {
      const renamed = new RegExp(
        `(?<![\\w$])${escaped(name)}\\s+as\\s+(?!(?:unknown|any|const)\\b)([\\w$]+)|(?<![\\w$.])${escaped(name)}\\s*:\\s*([\\w$]+)\\s*[,}]`,
        "g",
      );
      for (const { file } of this.mentionsFor(name, source.side))
        for (const [, as, destructured] of this.bySource.get(file)?.text.matchAll(renamed) ?? []) {
          const alias = as ?? destructured;
          if (alias !== undefined && alias !== "default" && !found.has(alias) && found.size < 20) open.push((found.add(alias), alias));
        }
    }
    return [...found];
  }

  /** A function that a file gives out as its one thing: dead where other files import that, and none of them uses it. */
  private defaultNever(ref: FunctionRef, fn: CodeFunction): Reason | undefined {
    const users = this.program.files.flatMap(({ source, code }) =>
      code.imports.flatMap(({ source: specifier, names }) =>
        names
          .filter(
            ({ imported, local }) =>
              imported === "default" && local !== "default" && this.program.resolve(source.file, specifier)?.code === ref.code,
          )
          .map(({ local }) => ({ source, code, local })),
      ),
    );
    const parsedAll = this.sources.every(({ code, text }) => code || !text.includes(baseName(ref.source.file).replace(/\.\w+$/, "")));
    if (users.length === 0 || !parsedAll) return undefined;
    const dead = users.every(({ source, code, local }) => this.mentionsIn(source, code, ref, fn, local) !== "lives");
    return dead && this.mentionsIn(ref.source, ref.code, ref, fn, fn.name) !== "lives"
      ? reason("function-uncalled", { name: fn.name })
      : undefined;
  }

  /**
   * What the mentions of a function in a file say: it `lives` where one of them can lead to it, `dead` where all that can stand in functions
   * to which nothing leads, `none` where none can.
   */
  private mentionsIn(source: SourceFile, code: CodeFile, target: FunctionRef, fn: CodeFunction, name: string): "lives" | "dead" | "none" {
    let found: "dead" | "none" = "none";
    for (const { at, call, around } of this.leadingMentions(source, code, name)) {
      const holder = around === undefined ? undefined : code.functions[around];
      if (holder === fn) continue;
      if (this.considered++ > MOST_CONSIDERED) return "lives";
      if (call && !this.program.canMean(call, { source, code, index: call.in }, target)) continue;
      if (!call && (isOtherPart(code, target, fn) || !this.canBeHandedOver(source, code, at, name, target))) continue;
      // Calling what iterates runs nothing of it.
      if (call && fn.iterates && isStatement(code, call) && this.app.kind !== "unity") {
        found = "dead";
        continue;
      }
      // Behind a return nothing runs.
      const runs =
        !call?.guards.some(({ kind }) => kind === "never") && !(call && standsIdle(this.program, call, { source, code, index: call.in }));
      if (runs && this.livesAt(source, code, at, around, call === undefined)) return "lives";
      found = "dead";
    }
    return found;
  }

  /** Whether something leads to a place: to the function around it, and to what keeps the closure in which it stands. */
  private livesAt(source: SourceFile, code: CodeFile, at: number, around: number | undefined, named: boolean): boolean {
    if (around !== undefined && this.never({ source, code, index: around }) !== undefined) return false;
    return this.keptAway(code, at, named) === undefined;
  }

  /** Whether a function that is handed over by its name, as a member of something, can be the one that is meant. */
  private canBeHandedOver(source: SourceFile, code: CodeFile, at: number, name: string, target: FunctionRef): boolean {
    const text = code.plain.slice(Math.max(0, at - 120), at);
    const before = /(?<![\w$.)\]])((?:[A-Za-z_$][\w$]*\s*(?:\.|::)\s*)+)$/.exec(text)?.[1];
    const index = enclosing(code, at) ?? -1;
    if (before === undefined) {
      // The bare name of a member means that only where its own type stands around it.
      const bare =
        !isScript(source.language) && source.language !== "objc" && functionOf(target)?.type !== "" && !/["'.:@(]\s*$/.test(text);
      return !bare || this.program.canMean(callOf(name, at, { source, code, index }), { source, code, index }, target);
    }
    const callee = `${before.replace(/\s/g, "").replace(/::/g, ".")}${name}`;
    return this.program.canMean(callOf(callee, at, { source, code, index }), { source, code, index }, target);
  }

  /** Why nothing takes the function that stands at a place from what keeps it; `named`: by its name, and not as a closure. */
  keptAway(code: CodeFile, at: number, named = false): Reason | undefined {
    if (code.errors.length > 0) return undefined;
    const index = enclosing(code, at);
    const holder = index === undefined ? undefined : code.functions[index];
    const keeper = keeperOf(code, at, named, holder?.from ?? 0);
    if (!keeper) return undefined;
    if (keeper.kind === "parameter") return this.parameterAway(code, keeper);
    // What stands in a function and is declared there is its own.
    const own = holder && holder.kind === "function" && keeper.declared;
    if (own) return undefined;
    const type = code.types.filter(({ from, to }) => keeper.at >= from && keeper.at < to).sort((a, b) => b.from - a.from)[0];
    return type && this.propertyAway(type.name, keeper.name);
  }

  /** The same for what is handed over: to the making of one of the app's own objects, or to one of its functions. */
  private parameterAway(code: CodeFile, keeper: Keeper & { kind: "parameter" }): Reason | undefined {
    const last = keeper.callee.split(/\.|::/).at(-1) as string;
    const types = this.program.types(last).filter(({ type }) => !type.extension);
    const functions = this.program.named(last).filter((ref) => functionOf(ref)?.kind === "function");
    const [type, ...more] = types;
    if (type && more.length === 0 && functions.length === 0) {
      const name = keeper.label ?? this.held.headNames(last)[keeper.index];
      return name === undefined ? undefined : this.propertyAway(last, name.replace(/^_/, ""));
    }
    const [only, ...others] = functions;
    if (!only || others.length > 0 || types.length > 0) return undefined;
    const call = code.calls.find(({ at }) => at === keeper.at);
    // What others have under the same name may be meant.
    if (
      !call ||
      !this.program
        .targets(call, { ref: { ...only, code, index: call.in }, self: "" })
        .some(({ ref }) => functionOf(ref) === functionOf(only))
    )
      return undefined;
    return this.argumentAway(only, keeper);
  }

  /** Why a function of the app's own does nothing that runs with what it is given. */
  private argumentAway(ref: FunctionRef, { label, index }: Keeper & { kind: "parameter" }): Reason | undefined {
    const fn = functionOf(ref);
    const name = fn && this.held.parameterName(ref, index, label);
    if (!fn || name === undefined) return undefined;
    const why = reason("value-unasked", { name });
    return this.ask(`${ref.source.file} ${fn.from} takes ${name}`, why, () => {
      const { code, source } = ref;
      const body = code.plain.slice(fn.from, fn.to);
      for (const { index: at } of body.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))) {
        const place = fn.from + at;
        if (this.considered++ > MOST_CONSIDERED) return undefined;
        if (isGiven(code, place, name) || place < fn.from + this.held.headEnd(ref)) continue;
        const called = /^\s*[?!]*\s*(?:\(|\.)/.test(code.plain.slice(place + name.length, place + name.length + 8));
        if (this.livesAt(source, code, place, enclosing(code, place), !called)) return undefined;
      }
      return why;
    });
  }

  /** Why nothing that runs asks for a property. */
  private propertyAway(type: string, name: string): Reason | undefined {
    return this.ask(`${type} holds ${name}`, reason("value-unasked", { name }), () => this.propertyWork(type, name));
  }

  private propertyWork(type: string, name: string): Reason | undefined {
    const declared = this.program.types(type);
    const [home] = declared;
    if (!home || this.isOthers(type, name)) return undefined;
    const isApart = declared.some(({ code, type: { from } }) =>
      /\b(?:data\s+class|record(?:\s+\w+)?)\s+$/.test(code.plain.slice(Math.max(0, from - 40), from)),
    );
    for (const own of [name, `_${name}`])
      for (const { file } of this.mentionsFor(own, home.source.side)) {
        const source = this.bySource.get(file);
        const isNamed = source ? !source.code : /\.(xml|xaml|storyboard|xib|unity|prefab|asset|html)$/.test(file);
        if (isNamed || (isApart && source?.code && TAKES_APART.test(source.code.plain))) return undefined;
        if (source?.code && this.isAskedIn(source, source.code, own)) return undefined;
      }
    return reason("value-unasked", { name });
  }

  /** Whether a property is of a type that others extend or read by the names in it: it is theirs to ask for. */
  private isOthers(type: string, name: string): boolean {
    const override = new RegExp(`\\boverride\\b[^\\n]*\\b${escaped(name)}\\b`);
    return (
      [...this.program.heritage(type)].some((above) => this.program.types(above).length === 0 && !ASKS_FOR_NOTHING.test(above)) ||
      this.program
        .types(type)
        .some(
          ({ code, type: { annotations, from, to } }) =>
            annotations.some((one) => !PLAIN_ANNOTATIONS.test(one)) || override.test(code.plain.slice(from, to)),
        )
    );
  }

  /** Whether something in a file that runs asks for what has a name. */
  private isAskedIn(source: SourceFile, code: CodeFile, name: string): boolean {
    for (const { index: at } of code.plain.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))) {
      if (this.considered++ > MOST_CONSIDERED) return true;
      const behind = code.plain.slice(at + name.length, at + name.length + 40);
      if (isInImport(source, code.plain, at) || isGiven(code, at, name) || FILLED.test(behind)) continue;
      const called = /^\s*[?!]*\s*\(/.test(behind);
      if (this.livesAt(source, code, at, enclosing(code, at), !called)) return true;
    }
    return false;
  }

  /** The places at which a file names something in a way that can lead to it, each with the call that it is and the function around it. */
  private leadingMentions(source: SourceFile, code: CodeFile, name: string): readonly Mention[] {
    let inFile = this.places.get(code);
    if (!inFile) this.places.set(code, (inFile = new Map()));
    let found = inFile.get(name);
    if (!found) {
      const calls = new Map(
        code.calls.filter(({ callee }) => callee === name || callee.endsWith(`.${name}`)).map((call) => [call.at, call]),
      );
      found = [...code.plain.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))].flatMap(({ index: at }): Mention[] => {
        const around = enclosing(code, at);
        const call = calls.get(at);
        const isPart =
          !call &&
          isScript(source.language) &&
          code.imports.length === 0 &&
          code.functions.some((fn) => fn.name === name && fn.owner !== undefined);
        if (isPart && isGivenOut(code.plain, at, name)) return [];
        if (!call && isScript(source.language) && isGivenBack(code, around, at, name) && !this.isGoneThrough(code, around)) return [];
        return declaresAt(code, around, at, name) || this.leadsNowhere(source, code, name, at, call) ? [] : [{ at, call, around }];
      });
      inFile.set(name, found);
    }
    return found;
  }

  private leadsNowhereInScript(code: CodeFile, name: string, at: number): boolean {
    const { plain } = code;
    return (
      isMember(plain, at, name) ||
      (isIdle(plain, at, name) && !this.isGetter(name)) ||
      isInInterface(plain, at, name) ||
      /\btypeof\s+$/.test(plain.slice(Math.max(0, at - 12), at)) ||
      namesClosure(code, at, name)
    );
  }

  /** Whether something of a name runs when it is only read. */
  private isGetter(name: string): boolean {
    return this.program
      .named(name)
      .some(
        (ref) =>
          functionOf(ref)?.kind === "property" ||
          /^(?:static\s+)?get\s/.test(ref.code.plain.slice(functionOf(ref)?.from, (functionOf(ref)?.from ?? 0) + 20)),
      );
  }

  /** Whether a file that mentions a function may go through all that objects have. */
  private isGoneThrough({ functions }: CodeFile, index: number | undefined): boolean {
    const name = index === undefined ? undefined : functions[index]?.name;
    return (
      name === undefined ||
      this.sources.some(({ text }) => text.includes(name) && /\bObject\.(?:values|entries|keys|assign)\s*\(/.test(text))
    );
  }

  /** Whether a place at which a name stands calls nothing and hands nothing over. */
  private leadsNowhere(source: SourceFile, code: CodeFile, name: string, at: number, call: CodeCall | undefined): boolean {
    const { plain } = code;
    const { language } = source;
    if (isInImport(source, plain, at) || this.unreadValue(source, code, at) !== undefined) return true;
    if (call) return false;
    if (isScript(language)) return this.leadsNowhereInScript(code, name, at);
    if (language === "dart" && isIdle(plain, at, name) && !this.isGetter(name)) return true;
    // `_ = launcher.launch`
    if (isDroppedReference(plain, at, name)) return true;
    // A tear-off of Dart that nothing takes.
    if (
      language === "dart" &&
      /^\s*;/.test(plain.slice(at + name.length, at + name.length + 20)) &&
      /[;{}]\s*(?:\w+\.)*$/.test(plain.slice(Math.max(0, at - 80), at))
    )
      return true;
    // A declaration without a body, as protocols and interfaces have.
    if (/\b(?:func|fun|function)\s+$/.test(plain.slice(Math.max(0, at - 12), at)) || isSignature(plain, at, name)) return true;
    // A name without brackets is no function there, but in a reference to it or in a text.
    return (language === "java" || language === "kotlin") && !/(?:::\s*|["'${])$/.test(plain.slice(Math.max(0, at - 4), at));
  }

  /** The name of the value in which an offset stands, where that is made when it is asked for and nothing asks for it. */
  unreadValue({ side }: SourceFile, code: CodeFile, at: number): string | undefined {
    let lazies = this.lazies.get(code);
    if (!lazies) this.lazies.set(code, (lazies = lazyValues(code)));
    return lazies.find(
      ([name, { from, to }]) => at >= from && at < to && this.mentionsFor(name, side).reduce((sum, { count }) => sum + count, 0) <= 1,
    )?.[0];
  }

  /** Why a method of a script component is not run: its component stands in no scene that is built, or is switched off there. */
  notInScene(fn: CodeFunction): Reason | undefined {
    if (fn.type === "" || fn.isStatic || !this.program.heritage(fn.type).has("MonoBehaviour")) return undefined;
    const state = this.sceneState(fn.type);
    if (state === "used" || runsInScene(state, fn.name)) return undefined;
    // What is switched off is called by others all the same.
    const isEvent = /^(Awake|OnEnable|Start)$/.test(fn.name);
    const name = fn.type;
    if (state === "off" || state === "disabled")
      return isEvent ? reason(state === "off" ? "object-disabled" : "component-disabled", { name }) : undefined;
    return reason(state === "nowhere" ? "in-no-scene" : "in-unbuilt-scenes", { name });
  }

  /** A method that is called by whoever has an object: dead when nothing names its type. */
  private typeNever(ref: FunctionRef, fn: CodeFunction): Reason | undefined {
    return fn.type === "" ? undefined : this.unnamed(fn.type, ref);
  }

  /** Why no object of a type can come to be: nothing in the app names it. */
  unnamed(type: string, { source, code }: FunctionRef): Reason | undefined {
    return this.ask(`${source.file} ${type}`, reason("class-unused", { name: type }), () =>
      this.typeWork(type, source, code, this.program.types(type)),
    );
  }

  // eslint-disable-next-line complexity -- one question after the other about each place that names the type
  private typeWork(
    type: string,
    source: SourceFile,
    code: CodeFile,
    declared: readonly { source: SourceFile; type: { extension: boolean; annotations: string[]; from: number; to: number } }[],
  ): Reason | undefined {
    // A type of another module that is only added to is known there.
    if (!declared.some((part) => !part.type.extension)) return undefined;
    if (declared.some((part) => part.type.annotations.some((annotation) => !PLAIN_ANNOTATIONS.test(annotation)))) return undefined;
    if (this.isLinked(type, source)) return undefined;
    if (/^_?[A-Z]/.test(type) === false || (isScript(source.language) && isDefaultExport(code, type))) return undefined;
    // Without the file in which the app begins, whatever that file names is not known.
    if (source.side === "ios" && !this.beginsOnIos()) return undefined;
    for (const { file, count } of this.mentionsFor(type, source.side)) {
      const home = this.bySource.get(file);
      if (!home?.code) {
        if (home?.file.endsWith(".h") && onlyDeclares(home.text, type)) continue;
        if (file.endsWith(".pbxproj") || (this.hidden.screens.has(type) && count === 1 && baseName(file) === "AndroidManifest.xml"))
          continue;
        if (file.endsWith(".xaml") && this.isPlainPage(type) && namesOwnPage(this.project.text(file)?.text ?? "", type, count)) continue;
        return undefined;
      }
      // Mentions in the type itself say nothing, nor those that declare it.
      const inside = declared.filter((part) => part.source === home).map((part) => part.type);
      const plain = home.code.plain;
      const outside = mentionsOutside(plain, type, inside, home);
      for (const { index: at } of count > 0 ? outside : []) {
        // What only extends it lives by itself.
        const below = home.code.types.find(
          ({ from, to }) => at > from && at < Math.min(to, from + 400) && !plain.slice(from, at).includes("{"),
        );
        if (below && below.name !== type && home.code.types.some(({ name, supers }) => name === below.name && supers.includes(type))) {
          if (this.unnamed(below.name, { source: home, code: home.code, index: -1 }) === undefined) return undefined;
          continue;
        }
        // In a function to which nothing leads nothing is made.
        const around = enclosing(home.code, at);
        const holder = around === undefined ? undefined : home.code.functions[around];
        if (holder && holder.type !== type && holder.kind === "function" && around !== undefined) {
          if (this.never({ source: home, code: home.code, index: around }) === undefined) return undefined;
          continue;
        }
        return undefined;
      }
    }
    return reason("class-unused", { name: type });
  }

  /** A list of modules in a package of the repository: the code that the framework makes names it. */
  private isLinked(type: string, { side, file }: SourceFile): boolean {
    return (
      side === "android" &&
      ownPackageOf(this.app, file) !== undefined &&
      [...this.program.heritage(type)].some((above) => PACKAGE_OF_MODULES.test(above))
    );
  }

  private mentionsOf(name: string): { file: string; count: number }[] {
    let found = this.texts.get(name);
    if (!found) {
      this.words ??= new WordIndex([...this.sources, ...this.otherTexts()]);
      found = this.words.having(name).flatMap(({ file, text }) => {
        const count = mentions(this.plainOf(file, text), name);
        return count > 0 ? [{ file, count }] : [];
      });
      this.texts.set(name, found);
    }
    return found;
  }

  /** A text without its comments, which mention what they like; of code that was parsed the parser says what they are. */
  private plainOf(file: string, text: string): string {
    const source = this.bySource.get(file);
    if (source?.code) return text;
    let plain = this.plain.get(file);
    if (plain === undefined) this.plain.set(file, (plain = source ? withoutComments(text) : text.replace(/<!--[\s\S]*?-->/g, "")));
    return plain;
  }

  /** Whether a file of the iOS app says where it begins. */
  private beginsOnIos(): boolean {
    const says = /UIApplicationMain\b|@main\b/;
    this.begun ??= this.sources.some(({ side, text }) => side === "ios" && says.test(text) && says.test(withoutComments(text)));
    return this.begun;
  }

  /** A page of the framework's own kinds: those of other bases may be looked up by their names. */
  private isPlainPage(type: string): boolean {
    return [...this.program.heritage(type)].every((above) => PAGE.test(above) || this.program.types(above).length > 0);
  }

  /** Mentions that can matter to code of a side: what belongs to the other phone does not lead there. */
  private mentionsFor(name: string, side: SideName): { file: string; count: number }[] {
    const all = this.mentionsOf(name);
    if (side === "shared" || !this.app.android || !this.app.ios) return all;
    return all.filter(({ file }) => [side, "shared"].includes(this.sideOf(file)));
  }

  /** The side to which a file belongs, by its source or by the project in which it lies. */
  private sideOf(file: string): SideName {
    const own = this.bySource.get(file)?.side;
    if (own) return own;
    this.projectSide ??= projectSides(this.app);
    return this.projectSide(parentOf(file)) ?? "shared";
  }

  /** Files of interface builder that lie in a language's folder. */
  private localized(folder: string, folders: readonly string[]): string[] {
    return folders.flatMap((name) =>
      name.endsWith(".lproj")
        ? this.project.tree
            .list(join(folder, name))
            .flatMap((entry) => (/\.(storyboard|xib)$/.test(entry.name) ? `${name}/${entry.name}` : []))
        : [],
    );
  }

  /** Files beside the source code that can name a class or a function. */
  private otherTexts(): { file: string; text: string }[] {
    if (this.other) return this.other;
    this.other = [];
    const roots = new Set([this.app.path, this.app.android?.folder ?? this.app.path, this.app.ios?.folder ?? this.app.path]);
    const seen = new Set<string>();
    for (const root of roots)
      for (const [folder, { files, folders }] of foldersBelow(this.index, root))
        for (const name of [...files, ...this.localized(folder, folders)]) {
          const file = join(folder, name);
          if (!OTHER_TEXT.test(name) || /package-lock\.json$/.test(name) || seen.has(file)) continue;
          seen.add(file);
          const text = this.project.text(file)?.text;
          if (text !== undefined && text.length < 2_000_000) this.other.push({ file, text });
        }
    return this.other;
  }

  /** How a script component of Unity, or one that extends it, stands in scenes and prefabs; code that adds or switches it on makes it used. */
  sceneState(type: string): SceneState {
    const known = this.sceneStates.get(type);
    if (known) return known;
    const found = this.workSceneState(type);
    this.sceneStates.set(type, found);
    return found;
  }

  private workSceneState(type: string): SceneState {
    const declared = this.program.files.flatMap(({ source, code }) =>
      code.types
        .filter(({ name }) => name === type || this.program.heritage(name).has(type))
        .map((found) => ({ source, name: found.name })),
    );
    const states = declared.map(({ source, name }): SceneState => {
      const guid = this.scenes.idOfScript(source.file);
      return guid === undefined || this.isAddedByCode(name) ? "used" : this.scenes.stateOf(guid, this.switching(name, source.file));
    });
    return SCENE_STATES.find((state) => states.includes(state)) ?? "used";
  }

  /** Whether code puts a component of a type on an object: by its type, or by a function of the app's own that takes types. */
  private isAddedByCode(type: string): boolean {
    const name = escaped(type);
    const added = new RegExp(`\\b(\\w+)\\s*<\\s*${name}\\s*>\\s*\\(|\\btypeof\\s*\\(\\s*(?:\\w+\\.)*${name}\\s*\\)`, "g");
    return this.sources.some(
      ({ text }) =>
        text.includes(type) &&
        [...text.matchAll(added)].some(
          ({ 1: by, index }) =>
            !LOOKS_FOR.test(by ?? "") && !/\[\s*RequireComponent\s*\([^\])]{0,200}$/.test(text.slice(Math.max(0, index - 240), index)),
        ),
    );
  }

  /** What code and events of scenes do that may switch on what a scene has off. */
  private switching(type: string, home: string): Switching {
    const handled = this.scenes.handlers();
    const any = (form: RegExp): boolean => this.sources.some(({ text }) => form.test(text));
    this.switchings ??= {
      objects: handled.some(({ method }) => method === "SetActive") || any(/\.SetActive\s*\(\s*(?!false\b)/),
      searches: any(
        /\bFindObjectsOfTypeAll\b|\bGetRootGameObjects\b|\bFindObjectsInactive\b|\bFindObjects?OfType\w*\s*(?:<[^<>]*>)?\s*\(\s*(?:typeof[^,)]*,\s*)?true/,
      ),
      components: handled.some(({ method }) => method === "set_enabled") || any(/\.enabled\s*=\s*(?!false\b)/),
    };
    // A script that no other names is switched on by none.
    const named = new RegExp(`\\b${escaped(type)}\\b`);
    const { components, ...others } = this.switchings;
    return { ...others, components: components && this.sources.some(({ file, text }) => file !== home && named.test(text)) };
  }
}

/** What follows the name of a list that gets something: that asks for nothing it has. */
const FILLED = new RegExp(`^[?!]*\\s*(?:\\.\\s*(?:${ADDS})\\s*[({]|\\+=)`);

/** Kotlin and C# take objects apart without naming what they have. */
const TAKES_APART = /\b(?:val|var)\s*\(/;

/** Whether a name stands where something is given to it: its declaration, a parameter or a label of the name, the left of a value. */
function isGiven({ plain, language }: CodeFile, at: number, name: string): boolean {
  const before = plain.slice(Math.max(0, at - 120), at);
  const behind = plain.slice(at + name.length, at + name.length + 60);
  if (
    /^\s*:(?!:)/.test(behind) &&
    /[(,{]\s*(?:(?:private|public|internal|protected|readonly|override|vararg|val|var|required)\s+)*$/.test(before)
  )
    return true;
  if (language === "kotlin" && /[(,]\s*$/.test(before) && /^\s*=(?!=)/.test(behind)) return true;
  if (/\b(?:val|var|let|const|final|late|readonly|static|get)\s+$/.test(before)) return true;
  if (/(?:^|[\s(,;{}])[A-Z][\w.]*(?:<[^;={}]*>)?\??\s+$/.test(before) && /^\s*(?:[=;,){]|=>)/.test(behind)) return true;
  // `this.steps` in the head of a constructor of Dart; `self.steps = steps`, on both sides.
  if (language === "dart" && /[({,]\s*(?:required\s+)?this\.$/.test(before)) return true;
  if (/^\s*=(?![=>])/.test(behind) && /(?:^|[;{}\n:,])\s*(?:(?:this|self)\s*\.\s*)?$/.test(before)) return true;
  return (
    new RegExp(`(?<![\\w$])_?${escaped(name.replace(/^_/, ""))}\\s*=\\s*(?:this\\.|self\\.)?$`).test(before) && /^\s*[;,\n{})]/.test(behind)
  );
}

/** From what certainly runs to what certainly does not. */
const SCENE_STATES: readonly SceneState[] = ["used", "disabled", "off", "unbuilt", "nowhere"];

/** Functions that look for a component, and do not make one. */
const LOOKS_FOR = /^(Try)?(Get|Find|Object|Resources)/;

/** Mentions of a type outside of it and of imports. */
function mentionsOutside(
  plain: string,
  type: string,
  inside: { extension: boolean; annotations: string[]; from: number; to: number }[],
  home: SourceFile,
): RegExpExecArray[] {
  return [...plain.matchAll(new RegExp(`(?<![\\w$])${escaped(type)}(?![\\w$])`, "g"))].filter(
    ({ index: at }) =>
      !inside.some(({ from, to }) => at >= from - 200 && at < to && (at >= from || !/[;}]/.test(plain.slice(at, from)))) &&
      !/#\s*(?:import|include)[^\n]*$/.test(plain.slice(Math.max(0, at - 60), at)) &&
      !isInImport(home, plain, at),
  );
}

/** Whether what a file mentions is nothing that a function means. */
function isOtherName(home: SourceFile, name: string, { language }: SourceFile, fn: CodeFunction): boolean {
  // Native code knows what scripts have by a text alone.
  if (isScript(language) && !isScript(home.language))
    if (!new RegExp(`["'][^"'\\n]*(?<![\\w$])${escaped(name)}(?![\\w$])[^"'\\n]*["']`).test(home.text)) return true;
  if (home.code) return false;
  // What belongs to a type is called with the name of that.
  if (fn.isStatic && fn.type !== "" && !isScript(language) && mentions(home.text, fn.type) === 0) return true;
  return onlyHandsOn(home, name) || (home.file.endsWith(".h") && onlyDeclaresMethod(home.text, name));
}

/** How often a file writes a name to declare a function: constructors, and what values of properties run in, have one that is not written. */
function declarationsOf({ functions, plain }: CodeFile, name: string): number {
  const isWritten = ({ kind, from }: CodeFunction): boolean =>
    (kind !== "constructor" && kind !== "initializer") || /\b(?:init|static)\b/.test(plain.slice(from, from + 200).split("{", 1)[0] ?? "");
  return functions.filter((fn) => fn.name === name && isWritten(fn)).length;
}

/** Whether a function of the name begins there. */
function declaresAt(code: CodeFile, around: number | undefined, at: number, name: string): boolean {
  const holder = around === undefined ? undefined : code.functions[around];
  if (holder?.name !== name || at >= holder.from + 200) return false;
  const before = code.plain.slice(holder.from, at);
  return before.trim().length < 120 && !before.includes("{");
}

/** Whether a function of a script gets its name there: `const begin = () => …`, `begin: async () => …`. */
function namesClosure({ functions, plain }: CodeFile, at: number, name: string): boolean {
  return functions.some(
    (fn) =>
      fn.name === name &&
      fn.from > at &&
      fn.from - at < 300 &&
      /^\s*(?::[^;=]*)?[=:]\s*(?:async\s*)?$/.test(plain.slice(at + name.length, fn.from)),
  );
}

/** Whether a function is named as a member of something, and nobody takes it: `_ = launcher.launch`. */
function isDroppedReference(plain: string, at: number, name: string): boolean {
  return (
    /(?:^|[;{}\n])\s*_\s*=\s*(?:[\w$]+(?:\([^()\n]*\))?[?!]?\.)+$/.test(plain.slice(Math.max(0, at - 160), at)) &&
    /^\s*(?:;|\n|\}|$)/.test(plain.slice(at + name.length, at + name.length + 40))
  );
}

/** The innermost function around an offset. */
export function enclosing(code: CodeFile, at: number): number | undefined {
  let best: number | undefined;
  code.functions.forEach((fn, index) => {
    if (at < fn.from || at >= fn.to || (fn.kind === "initializer" && fn.name === "init" && fn.to - fn.from > 100_000)) return;
    const known = best === undefined ? undefined : code.functions[best];
    if (!known || fn.to - fn.from < known.to - known.from) best = index;
  });
  return best;
}

/** An object that a variable holds, up to its brace. */
const OBJECT = /\b(?:const|let|var)\s+([\w$]+)\s*(?::[^=;{}]*(?:\{[^{}]*\}[^=;{}]*)?(?:=>[^=;{}]*)*)?=\s*\{/g;

/** Whether a function of a script is a member of an object that is handed on or gone through as a whole: `Object.values(steps)`, `steps[name]`. */
function isMemberOfWhole(plain: string, at: number): boolean {
  for (const match of plain.matchAll(OBJECT)) {
    if (match.index > at) return false;
    const open = match.index + match[0].length - 1;
    if (closing(plain, open) < at) continue;
    const name = match[1] as string;
    const whole = new RegExp(`(?<![\\w$.]|(?:const|let|var)\\s|export default )${escaped(name)}(?![\\w$]|\\s*[.:=(]|\\s*\\?\\.)`, "g");
    if ([...plain.matchAll(whole)].some(({ index }) => index < match.index || index > open)) return true;
  }
  return false;
}
