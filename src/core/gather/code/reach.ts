import type { ProjectFiles } from "../project-files.js";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import { ANDROID_STEPS, DOTNET_STEPS, IOS_STEPS, UNITY_STEPS } from "../../knowledge/life-cycle.js";
import type { App } from "../../model/app.js";
import type { CodeFile, CodeFunction, Unreached } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import { functionOf, type FunctionRef, type Program } from "./program.js";
import { guidIn, runsInScene, Scenes, type SceneState } from "./scenes.js";
import { isScript, mentions, START_VERB, type SourceFile } from "./sources.js";

/** Annotations that say nothing about who calls. */
const PLAIN_ANNOTATIONS =
  /^(override|deprecated|suppress\w*|discardableresult|mainactor|jvmstatic|nonnull|nullable|optin|visiblefortesting|requires\w*|available|inlinable|throws|protected|usedimplicitly|safevarargs|experimental\w*|objc|objcmembers|nonobjc|preconcurrency|sendable)$/i;

/** Functions that systems and frameworks call by name. */
const CALLED_BY_NAME = new Set(
  [...ANDROID_STEPS, ...IOS_STEPS, ...DOTNET_STEPS, ...UNITY_STEPS]
    .flatMap(({ names }) => names)
    .concat([
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
    ]),
);

/** Languages in which a method that another type asks for need not be marked as such. */
const UNMARKED = new Set(["swift", "objc", "csharp", "java", "javascript", "typescript", "tsx"]);

/** Types of the platforms whose methods do not begin like a start, apart from those that are known by name. */
const KNOWN_BASES =
  /^(UIResponder|NSObject|UIApplicationDelegate|UIWindowSceneDelegate|UISceneDelegate|UNUserNotificationCenterDelegate|UIViewController|FlutterAppDelegate|RCTAppDelegate|ExpoAppDelegate|CAPBridgeViewController|App|View|ObservableObject|Application|MultiDexApplication|ReactApplication|Activity|AppCompatActivity|ComponentActivity|FragmentActivity|ReactActivity|BridgeActivity|CordovaActivity|FlutterActivity|FlutterFragmentActivity|MauiApplication|MauiUIApplicationDelegate|MauiAppCompatActivity|MonoBehaviour|ContentPage|Component|PureComponent|React\.Component|StatelessWidget|StatefulWidget|State)$/;

/** Scripts that bring in others in ways that are not followed. */
const LOADS_SCRIPTS =
  /createElement\s*\(\s*["']script|document\.write|importScripts|getScript\s*\(|\bSystem\.import|\bimport\s*\(\s*[^"'\s]/;

function isScriptFile(file: string): boolean {
  return /\.m?js$/.test(file);
}

/** Methods of script components that the engine calls by their names. Source: docs.unity3d.com, "MonoBehaviour" (messages). */
const ENGINE_MESSAGE = /^(Awake|Start|Update|FixedUpdate|LateUpdate|Reset|On[A-Z]\w*)$/;

const OTHER_TEXT = /\.(xml|storyboard|xib|html|plist|xaml|json|csproj|unity|prefab|asset|pbxproj)$/;

/** Answers whether anything in an app could lead to a function. Only where nothing could, the answer is a reason. */
export class Reach {
  private readonly known = new Map<CodeFunction, Unreached | undefined>();
  private readonly types = new Map<string, Unreached | undefined>();
  private readonly texts = new Map<string, { file: string; count: number }[]>();
  private loaded: Set<string> | undefined;
  private readonly sceneStates = new Map<string, SceneState>();
  private other: { file: string; text: string }[] | undefined;
  readonly scenes: Scenes;

  constructor(
    private readonly project: ProjectFiles,
    private readonly index: FolderIndex,
    private readonly app: App,
    private readonly sources: readonly SourceFile[],
    private readonly program: Program,
    private readonly isEntry: (fn: CodeFunction) => boolean,
  ) {
    this.scenes = new Scenes(project, index, app);
  }

  /** Why nothing leads to a function; `undefined` when something does or could. */
  never(ref: FunctionRef): Unreached | undefined {
    const fn = functionOf(ref);
    if (!fn || fn.name === "" || this.isEntry(fn)) return undefined;
    if (this.known.has(fn)) return this.known.get(fn);
    // A circle of functions that call each other is not told to be dead.
    this.known.set(fn, undefined);
    const why = this.work(ref, fn);
    this.known.set(fn, why);
    return why;
  }

  /** A script of a page's folder that no page loads, and no other script brings in. Source: html.spec.whatwg.org, "The script element". */
  notLoaded({ file }: SourceFile): Unreached | undefined {
    const { webPages } = this.app;
    const [page] = webPages.filter(({ first }) => first);
    if (!page || !isScriptFile(file) || !isWithin(file, parentOf(page.file))) return undefined;
    this.loaded ??= this.loadedScripts();
    return this.loaded.has(file) || this.loaded.has("*") ? undefined : { code: "page", name: baseName(file) };
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

  private work(ref: FunctionRef, fn: CodeFunction): Unreached | undefined {
    const { source, code } = ref;
    const unloaded = this.notLoaded(source);
    if (unloaded) return unloaded;
    const still = this.app.kind === "unity" ? this.notInScene(fn) : undefined;
    if (still) return still;
    if (fn.annotations.some((annotation) => !PLAIN_ANNOTATIONS.test(annotation))) return undefined;
    if (fn.overrides || fn.kind !== "function" || CALLED_BY_NAME.has(fn.name) || CALLED_BY_NAME.has(fn.selector))
      return this.typeNever(ref, fn);
    if (isScript(source.language) && isDefaultExport(code, fn.name)) return undefined;
    if (isScript(source.language) && fn.type === "" && /\bmodule\.exports\b|\bexports\.|\bwindow\./.test(code.plain)) {
      if (new RegExp(`(exports|window)(\\.default)?\\s*(\\.\\s*${escaped(fn.name)}\\s*)?=`).test(code.plain)) return undefined;
    }
    let others = 0;
    for (const { file, count } of this.mentionsOf(fn.name)) {
      const home = this.sources.find((candidate) => candidate.file === file);
      // The code of one phone does not call that of the other.
      if (home && home.side !== source.side && home.side !== "shared" && source.side !== "shared") continue;
      const parsed = home?.code;
      const declared = parsed ? parsed.functions.filter(({ name }) => name === fn.name).length : 0;
      if (count <= declared) continue;
      // A mention counts unless it stands in a function that nothing leads to.
      if (!home || !parsed || !this.allDead(home, parsed, fn)) return this.typeNever(ref, fn);
      others++;
    }
    if (others === 0 && fn.type !== "" && UNMARKED.has(source.language)) {
      const supers = [...this.program.heritage(fn.type)].filter(
        (name) => /^[A-Z]/.test(name) && !/^(main|objc\w*|Application|Register)$/.test(name),
      );
      // A method of a protocol or interface is called through it.
      const isMessage = this.app.kind !== "unity" || !supers.includes("MonoBehaviour") || ENGINE_MESSAGE.test(fn.name);
      if (supers.some((name) => !KNOWN_BASES.test(name) && this.program.types(name).length === 0)) return undefined;
      if (isMessage && (supers.some((name) => !KNOWN_BASES.test(name)) || (supers.length > 0 && !START_VERB.test(fn.name))))
        return undefined;
    }
    return { code: others === 0 ? "function" : "caller", name: fn.name };
  }

  /** Whether all mentions of a function in a file stand in functions to which nothing leads. */
  private allDead(source: SourceFile, code: CodeFile, fn: CodeFunction): boolean {
    const { plain } = code;
    const pattern = new RegExp(`(?<![\\w$])${escaped(fn.name)}(?![\\w$])`, "g");
    for (const { index: at } of plain.matchAll(pattern)) {
      const around = enclosing(code, at);
      const holder = around === undefined ? undefined : code.functions[around];
      if (holder === fn) continue;
      if (
        holder &&
        holder.name === fn.name &&
        at < holder.from + 200 &&
        plain.slice(holder.from, at).trim().length < 120 &&
        !plain.slice(holder.from, at).includes("{")
      )
        continue;
      if (around === undefined || !holder || this.never({ source, code, index: around }) === undefined) return false;
    }
    return true;
  }

  /** Why a method of a script component is not run: its component stands in no scene that is built, or is switched off there. */
  notInScene(fn: CodeFunction): Unreached | undefined {
    if (fn.type === "" || fn.isStatic || !this.program.heritage(fn.type).has("MonoBehaviour")) return undefined;
    const state = this.sceneState(fn.type);
    if (state === "used" || runsInScene(state, fn.name)) return undefined;
    // What is switched off is called by others all the same.
    const isEvent = /^(Awake|OnEnable|Start)$/.test(fn.name);
    if (state === "off" || state === "disabled") return isEvent ? { code: state, name: fn.type } : undefined;
    return { code: state === "nowhere" ? "scene" : state, name: fn.type };
  }

  /** A method that is called by whoever has an object: dead when nothing names its type. */
  private typeNever(ref: FunctionRef, fn: CodeFunction): Unreached | undefined {
    return fn.type === "" ? undefined : this.unnamed(fn.type, ref);
  }

  /** Why no object of a type can come to be: nothing in the app names it. */
  unnamed(type: string, { source, code }: FunctionRef): Unreached | undefined {
    const key = `${source.file} ${type}`;
    if (this.types.has(key)) return this.types.get(key);
    const declared = this.program.types(type);
    const why = this.typeWork(type, source, code, declared);
    this.types.set(key, why);
    return why;
  }

  private typeWork(
    type: string,
    source: SourceFile,
    code: CodeFile,
    declared: readonly { source: SourceFile; type: { extension: boolean; annotations: string[]; from: number; to: number } }[],
  ): Unreached | undefined {
    // A type of another module that is only added to is known there.
    if (!declared.some((part) => !part.type.extension)) return undefined;
    if (declared.some((part) => part.type.annotations.some((annotation) => !PLAIN_ANNOTATIONS.test(annotation)))) return undefined;
    if (/^_?[A-Z]/.test(type) === false || (isScript(source.language) && isDefaultExport(code, type))) return undefined;
    // Without the file in which the app begins, whatever that file names is not known.
    if (source.side === "ios" && !this.sources.some(({ side, text }) => side === "ios" && /UIApplicationMain\b|@main\b/.test(text)))
      return undefined;
    for (const { file, count } of this.mentionsOf(type)) {
      const home = this.sources.find((candidate) => candidate.file === file);
      if (home && home.side !== source.side && home.side !== "shared" && source.side !== "shared") continue;
      if (!home?.code) {
        if (home?.file.endsWith(".h") && onlyDeclares(home.text, type)) continue;
        if (file.endsWith(".pbxproj")) continue;
        return undefined;
      }
      // Mentions in the type itself say nothing, nor those that declare it.
      const inside = declared.filter((part) => part.source === home).map((part) => part.type);
      const plain = home.code.plain;
      const outside = [...plain.matchAll(new RegExp(`(?<![\\w$])${escaped(type)}(?![\\w$])`, "g"))].filter(
        ({ index: at }) =>
          !inside.some(({ from, to }) => at >= from - 200 && at < to && (at >= from || !/[;}]/.test(plain.slice(at, from)))) &&
          !/#\s*(?:import|include)[^\n]*$/.test(plain.slice(Math.max(0, at - 60), at)),
      );
      if (count > 0 && outside.length > 0) return undefined;
    }
    return { code: "class", name: type };
  }

  private mentionsOf(name: string): { file: string; count: number }[] {
    let found = this.texts.get(name);
    if (!found) {
      found = [...this.sources, ...this.otherTexts()].flatMap(({ file, text }) => {
        const count = text.includes(name) ? mentions(text, name) : 0;
        return count > 0 ? [{ file, count }] : [];
      });
      this.texts.set(name, found);
    }
    return found;
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
      const guid = guidIn(this.project.text(`${source.file}.meta`)?.text ?? "");
      if (guid === undefined || this.isAddedByCode(name)) return "used";
      const state = this.scenes.stateOf(guid);
      return (state === "off" || state === "disabled") && this.switchesOn() ? "used" : state;
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

  /** Whether code or an event of a scene switches objects or components on: it may be any of them. */
  private switchesOn(): boolean {
    return (
      this.sources.some(({ text }) => /\.SetActive\s*\(\s*(?!false\b)|\.enabled\s*=\s*(?!false\b)/.test(text)) ||
      this.scenes.handlers().some(({ method }) => method === "SetActive" || method === "set_enabled")
    );
  }
}

/** From what certainly runs to what certainly does not. */
const SCENE_STATES: readonly SceneState[] = ["used", "disabled", "off", "unbuilt", "nowhere"];

/** Functions that look for a component, and do not make one. */
const LOOKS_FOR = /^(Try)?(Get|Find|Object|Resources)/;

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

function isDefaultExport(code: CodeFile, name: string): boolean {
  return new RegExp(
    `export\\s+default\\s+(?:async\\s+)?(?:function\\s+|class\\s+|\\w+\\(\\s*)?${escaped(name)}\\b|export\\s*\\{[^}]*\\b${escaped(name)}\\s+as\\s|module\\.exports\\s*=\\s*(?:\\{[^}]*)?\\b${escaped(name)}\\b`,
  ).test(code.plain);
}

function onlyDeclares(text: string, type: string): boolean {
  return mentions(text, type) <= (text.match(new RegExp(`@(?:interface|class|protocol)\\s+${escaped(type)}\\b`, "g"))?.length ?? 0);
}

function escaped(name: string): string {
  return name.replace(/[$.*+?^(){}|[\]\\]/g, "\\$&");
}
