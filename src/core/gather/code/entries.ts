import {
  ANDROID_STEPS,
  COMPONENT_STEPS,
  DOTNET_STEPS,
  IOS_STEPS,
  UNITY_LOAD_TYPES,
  UNITY_STEPS,
  type LifeCycleStep,
} from "../../knowledge/life-cycle.js";
import type { App } from "../../model/app.js";
import type { AutoStart, CodeFile, CodeFunction, LifeCyclePhase } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";
import { baseName, join } from "../../model/paths.js";
import type { AndroidComponents } from "../platforms/android/components.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import type { Program } from "./program.js";
import { escaped } from "./mentions.js";
import { isScript, type SourceFile } from "./sources.js";

/** A function that the system or the framework calls by itself. */
export interface EntryPoint {
  ref: FunctionRef;
  /** The type of the object on which it is called: the function can be one that it inherits. */
  self: string;
  side: SideName;
  phase: LifeCyclePhase;
  /** Smaller ones run first within a side. */
  rank: number;
  title: string;
  /** Titles of those of its moment that certainly come before it: of providers and initializers, which have no other order. */
  behind?: readonly string[];
  at: Place;
}

/** Types of the system's that it does not come upon by itself. */
export interface HiddenTypes {
  /** Activities, by simple name, that the app's own code alone can open. */
  screens: ReadonlySet<string>;
  /** Delegates that nothing gives to the application. */
  delegates: ReadonlySet<string>;
}

/** The main function of an entry file of Flutter. */
function isFlutterMain({ side, file }: SourceFile, { name, type }: CodeFunction): boolean {
  return side === "shared" && name === "main" && type === "" && /(^|\/)lib\/main\w*\.dart$/.test(file);
}

/** Activities, by simple name, that the app's own code alone can open; none where a file in which it begins is not here. */
export function closedScreens({ screens, launchers }: AndroidComponents, sources: readonly SourceFile[]): Set<string> {
  const begins = launchers.map(({ name }) => simpleName(name));
  const files = new Set(sources.map(({ file }) => baseName(file).replace(/\.\w+$/, "")));
  if (begins.length === 0 || !begins.every((name) => files.has(name))) return new Set();
  const open = new Set([...begins, ...screens.filter(({ closed }) => !closed).map(({ name }) => simpleName(name))]);
  return new Set(screens.map(({ name }) => simpleName(name)).filter((name) => !open.has(name)));
}

/**
 * Delegates of the application that nothing gives to it: where SwiftUI begins the app, only an adaptor does. Source: developer.apple.com,
 * "UIApplicationDelegateAdaptor".
 */
export function unadaptedDelegates(program: Program, sources: readonly SourceFile[]): Set<string> {
  const types = program.files.filter(({ code }) => code.language === "swift").flatMap(({ code }) => code.types);
  const isBegun = types.some(({ annotations, supers }) => annotations.includes("main") && supers.includes("App"));
  if (
    !isBegun ||
    sources.some(({ side, text }) => side === "ios" && /\bUI(?:Application)?(?:DelegateAdaptor|ApplicationMain)\b/.test(text))
  )
    return new Set();
  return new Set(types.flatMap(({ name }) => (program.heritage(name).has("UIApplicationDelegate") ? name : [])));
}

/** The entry points of an app's sides, in the order in which they run. */
export function entryPoints(
  app: App,
  program: Program,
  components: AndroidComponents,
  hidden: HiddenTypes,
  autoStarts: readonly AutoStart[],
  live: (type: string, ref: FunctionRef) => boolean,
): EntryPoint[] {
  const entries: EntryPoint[] = [];
  const add: Add = (ref, side, phase, rank, title, self = selfOf(program, ref), behind) => {
    const fn = functionOf(ref);
    entries.push({ ref, self, side, phase, rank, title, ...(behind ? { behind } : {}), at: ref.source.place(fn?.from ?? 0) });
  };
  const simple = simpleName;
  const applications = new Set(components.applications.map(({ name }) => simple(name)));
  const launchers = new Set(components.launchers.map(({ name }) => simple(name)));
  const screens = new Set(components.screens.map(({ name }) => simple(name)).filter((name) => !launchers.has(name)));
  const ofAndroid = (type: string): string =>
    applications.has(type)
      ? "Application"
      : launchers.has(type) || screens.has(type)
        ? `Activity ${[...program.heritage(type)].join(" ")}`
        : "";
  const shown = app.kind === "dotnet" ? shownComponents(program) : undefined;
  for (const { source, code } of program.files) {
    code.functions.forEach((fn, index) => {
      const ref = { source, code, index };
      const heritage = fn.type === "" ? "" : [...program.heritage(fn.type)].join(" ");
      if (source.side === "android") {
        const auto = autoStarts.find(({ name, removed }) => !removed && simple(name) === fn.type);
        if (auto && fn.name === (auto.kind === "provider" ? "onCreate" : "create"))
          add(ref, "android", "provider", 20 + auto.position / 1000, titleOf(auto), undefined, behindOf(auto, autoStarts));
        const own = /(^| )Application( |$)/.test(annotated(program, fn.type))
          ? "Application"
          : isMainLauncher(source.text, fn.type)
            ? `Activity ${heritage}`
            : ofAndroid(fn.type);
        if (!hidden.screens.has(fn.type) || live(fn.type, ref)) step(ANDROID_STEPS, ref, own, fn.type, screens.has(fn.type));
      } else if (source.side === "ios" && !hidden.delegates.has(fn.type)) iosStep(ref, fn, heritage, { step, live, add });
      if (shown) dotnetStep(ref, fn, heritage, { step, live, add }, shown);
      if (app.kind === "unity") unityStep(ref, fn, heritage, { step, live, add });
      if (app.kind === "flutter" && isFlutterMain(source, fn)) add(ref, "shared", "launch", 10, "main");
    });
  }
  // What a component of the system inherits runs as its own.
  for (const type of [...applications, ...launchers, ...screens])
    for (const { names } of ANDROID_STEPS)
      for (const name of names)
        for (const ref of program.lookUp(type, name, "android"))
          if (functionOf(ref)?.type !== type && ref.source.side === "android")
            step(ANDROID_STEPS, ref, ofAndroid(type), type, screens.has(type));
  scriptEntries(app, program, add);
  if (app.kind === "flutter") flutterRoots(program, add);
  return entries.sort((a, b) => a.rank - b.rank || (a.at.file < b.at.file ? -1 : 1));

  function step(steps: readonly LifeCycleStep[], ref: FunctionRef, of: string, self?: string, isScreen = false): void {
    const fn = functionOf(ref);
    if (!fn) return;
    for (const { names, of: wanted, phase, rank, title } of steps) {
      if ((names.includes(fn.selector) || names.includes(fn.name)) && wanted.test(of)) {
        if ((names[0] === "main" && fn.type !== "") || !mayBeStep(fn, ref.source)) continue;
        if (isScreen) add(ref, ref.source.side, "later", rank + 100, `the screen ${self ?? ""}`, self);
        else add(ref, ref.source.side, phase, rank, title, self);
        return;
      }
    }
  }
}

/** Whether the system can call a function of that name as it is declared. */
function mayBeStep({ name, type, kind, isStatic, overrides }: CodeFunction, { side, language }: SourceFile): boolean {
  // `+load` is a class method.
  if (name === "load" && side === "ios" && !(isStatic && language === "objc")) return false;
  // In Kotlin what the system calls is marked. Source: kotlinlang.org, "Overriding methods".
  if (language === "kotlin" && type !== "" && kind === "function" && !overrides) return false;
  // The names of .NET begin with a capital letter.
  return !/^[A-Z]/.test(name) || language === "csharp";
}

const simpleName = (name: string): string => name.split(/[.$]/).at(-1) as string;
const titleOf = ({ kind, name }: AutoStart): string => `${kind} ${simpleName(name)}`;

interface Steps {
  step: (steps: readonly LifeCycleStep[], ref: FunctionRef, of: string, self?: string, isScreen?: boolean) => void;
  live: (type: string, ref: FunctionRef) => boolean;
  add: Add;
}

/** What the system calls on iOS: methods of delegates that are made, and functions of no type. */
function iosStep(ref: FunctionRef, fn: CodeFunction, heritage: string, { step, live }: Steps): void {
  // In Objective-C the header says what a class extends.
  const delegate = /Delegate/.test(heritage) || ref.source.language === "objc" ? `${heritage} ${fn.type}`.trim() : heritage;
  if (fn.type === "" || !/Delegate/.test(delegate) || live(fn.type, ref)) step(IOS_STEPS, ref, delegate);
}

/** What .NET's frameworks call. */
function dotnetStep(ref: FunctionRef, fn: CodeFunction, heritage: string, { step, live, add }: Steps, shown: ShownComponents): void {
  step(DOTNET_STEPS, ref, heritage);
  // Source: learn.microsoft.com, "Handle events" (a sender and its arguments), "Page.OnAppearing".
  if (/\(\s*object\??\s+\w+\s*,\s*\w*EventArgs\b/.test(ref.code.plain.slice(fn.from, fn.from + 200)) && live(fn.type, ref))
    add(ref, ref.source.side, "later", 200, `the event ${fn.name}`);
  else if ((fn.name === "OnAppearing" || fn.kind === "constructor") && /\b\w*Page\b/.test(heritage) && live(fn.type, ref))
    add(ref, ref.source.side, "firstScreen", 60, `the page ${fn.type}`);
  else if (/\b\w*ComponentBase\b/.test(heritage) && isComponentStep(fn.name) && live(fn.type, ref)) {
    const phase = shown(fn.type);
    if (phase) add(ref, ref.source.side, phase, phase === "later" ? 210 : 62, `the component ${fn.type}`);
  }
}

const isComponentStep = (name: string): boolean => (COMPONENT_STEPS as readonly string[]).includes(name);

/** When a component of Razor is shown; `undefined` for those that others show in their markup. */
type ShownComponents = (type: string) => LifeCyclePhase | undefined;

/** Source: learn.microsoft.com, "ASP.NET Core Blazor routing and navigation" (@page, Router), "Host a Blazor web app in a .NET MAUI app". */
function shownComponents(program: Program): ShownComponents {
  const named = new Set<string>();
  const inMarkup = new Set<string>();
  for (const { source } of program.files) {
    if (source.language !== "csharp") continue;
    for (const [, type = ""] of source.text.matchAll(/\btypeof\s*\(\s*(?:\w+\.)*(\w+)\s*\)(?!\s*\.\s*Assembly\b)/g)) named.add(type);
    for (const [, type = ""] of source.text.matchAll(/\bnew\s+(?:\w+\.)*(\w+)\(\)\.BuildRenderTree\(\)/g)) inMarkup.add(type);
  }
  return (type) => {
    const routes = program.types(type).flatMap(({ source }) => [...source.text.matchAll(/^\[Route\("([^"]*)"\)\]/gm)]);
    if (routes.length > 0) return routes.some(([, route]) => route === "/") ? "firstScreen" : "later";
    return inMarkup.has(type) && !named.has(type) ? undefined : "firstScreen";
  };
}

/** What the engine calls: methods marked for the load, and those of objects in scenes. */
function unityStep(ref: FunctionRef, fn: CodeFunction, heritage: string, { step, live, add }: Steps): void {
  const onLoad = fn.annotations.includes("RuntimeInitializeOnLoadMethod");
  if (onLoad && fn.isStatic) {
    const type = /RuntimeInitializeLoadType\.(\w+)/.exec(ref.source.text.slice(fn.from, fn.from + 300))?.[1] ?? "AfterSceneLoad";
    add(
      ref,
      "shared",
      type === "AfterSceneLoad" ? "firstScreen" : "launch",
      10 + Math.max(0, UNITY_LOAD_TYPES.indexOf(type)),
      `on load, ${type}`,
    );
  } else if (/MonoBehaviour/.test(heritage) && live(fn.type, ref)) step(UNITY_STEPS, ref, heritage);
}

/**
 * What the system makes before one provider or initializer: what an initializer asks for, and providers of a higher order; the library's provider
 * that runs initializers has none. Sources: developer.android.com, "App Startup"; "<provider>" (initOrder).
 */
function behindOf(auto: AutoStart, all: readonly AutoStart[]): string[] {
  const found = new Set<AutoStart>();
  const open = [auto];
  for (let one = open.pop(); one; one = open.pop())
    for (const { name } of one.needs)
      for (const other of all)
        if (other.kind === "initializer" && simpleName(other.name) === simpleName(name) && other !== auto && !found.has(other)) {
          found.add(other);
          open.push(other);
        }
  for (const other of all)
    if (other.kind === "provider" && other !== auto && other.initOrder > (auto.kind === "provider" ? auto.initOrder : 0)) found.add(other);
  return [...found].map(titleOf);
}

function annotated(program: Program, type: string): string {
  return program
    .types(type)
    .flatMap((found) => (found.source.language === "csharp" ? found.type.annotations : []))
    .join(" ");
}

/** Source: learn.microsoft.com, "Activity attribute" (MainLauncher). */
function isMainLauncher(text: string, type: string): boolean {
  return new RegExp(`MainLauncher\\s*=\\s*true[\\s\\S]{0,400}class\\s+${type}\\b`).test(text);
}

type Add = (
  ref: FunctionRef,
  side: SideName,
  phase: LifeCyclePhase,
  rank: number,
  title: string,
  self?: string,
  behind?: readonly string[],
) => void;

/** The type of the object on which the system calls a method: the only one that inherits it, or the type in which it stands. */
function selfOf(program: Program, ref: FunctionRef): string {
  const fn = functionOf(ref);
  if (!fn || fn.type === "") return "";
  const inheriting = [...program.below(fn.type)].filter(
    (type) => !program.isAbstract(type) && program.lookUp(type, fn.name, ref.source.side)[0]?.code === ref.code,
  );
  const [only] = inheriting;
  return inheriting.length === 1 && only !== undefined ? only : fn.type;
}

/** Scripts of a hybrid app: the file that the framework loads first, and the root component that it names. */
function scriptEntries(app: App, program: Program, add: Add): void {
  if (!app.shared) return;
  const { folder } = app.shared;
  const inPages = scriptsOfPages(app);
  const names = /^(index|App|main)(\.(android|ios|native))?\.[cm]?[jt]sx?$/;
  for (const { source, code } of program.files) {
    if (source.side !== "shared" || !isScript(source.language)) continue;
    const position = inPages.get(source.file);
    if (position !== undefined) {
      add({ source, code, index: -1 }, "shared", "launch", 10 + position / 1_000, baseName(source.file));
      continue;
    }
    const isRoot = ["", "src", "app", "src/app", "www/js", "www", "src/js"].some(
      (below) => source.file === join(folder, below, baseName(source.file)),
    );
    const ready = code.calls.filter(
      ({ callee, arguments: list }) => /addEventListener$/.test(callee) && list[0]?.literal === "deviceready",
    );
    const first =
      isRoot && (/^(index|main)\b/.test(baseName(source.file)) || (/^(App|_layout)\./.test(baseName(source.file)) && !hasIndex()));
    if (!first && ready.length === 0) continue;
    if (!names.test(baseName(source.file)) && !/^_layout\./.test(baseName(source.file)) && ready.length === 0) continue;
    const file = { source, code, index: -1 };
    add(file, "shared", "launch", 10, baseName(source.file));
    addRoot(code, program, source, file, add);
    addComponent(code, program, add);
  }

  function hasIndex(): boolean {
    return program.files.some(
      ({ source }) =>
        source.side === "shared" &&
        /^index\.[cm]?[jt]sx?$/.test(baseName(source.file)) &&
        source.file === join(folder, baseName(source.file)),
    );
  }
}

/**
 * The scripts that the first page loads, in their order, and what stands in the page itself behind them. Source: html.spec.whatwg.org, "The script
 * element" (classic scripts run in order).
 */
function scriptsOfPages({ kind, webPages }: App): Map<string, number> {
  const first = kind === "cordova" ? webPages.find((page) => page.first) : undefined;
  return new Map([...(first?.scripts ?? []), ...(first ? [first.file] : [])].map((file, index) => [file, index]));
}

/** The component that is registered as the root, wherever its file is. */
function addRoot(
  code: CodeFile,
  program: Program,
  source: SourceFile,
  file: { source: SourceFile; code: CodeFile; index: number },
  add: Add,
): void {
  const registered = code.calls.find(({ callee }) => /registerComponent$|registerRootComponent$/.test(callee));
  // Sources: vuejs.org, "Application API" (createApp); svelte.dev, "Imperative component API" (mount).
  const mounted = code.calls.find(({ callee }) => /^(?:\w+\.)?(?:createApp|createSSRApp|mount)$/.test(callee));
  const root =
    (registered?.arguments.at(-1) ?? mounted?.arguments[0])?.text.match(/([A-Za-z_$][\w$]*)\s*$/)?.[1] ??
    /export\s+default\s+(?:async\s+)?(?:function|class)?\s*(\w+)/.exec(code.plain)?.[1];
  if (root !== undefined) {
    const binding = code.imports.find((imported) => imported.names.some(({ local }) => local === root));
    let home = binding ? program.resolve(source.file, binding.source) : file;
    // A file can hand on what another one exports.
    for (let hop = 0; home && hop < 4; hop++) {
      const { source: from, code: inner } = home;
      const handed = inner.imports.find(
        ({ source: of, names: list }) =>
          list.some(({ local }) => local === "default" || local === root) &&
          new RegExp(`export\\s*\\{[^}]*\\}\\s*from\\s*["']${escaped(of)}["']`).test(inner.plain),
      );
      if (!handed) break;
      home = program.resolve(from.file, handed.source);
    }
    const name = binding && home ? (/export\s+default\s+(?:function|class)?\s*(\w+)/.exec(home.code.plain)?.[1] ?? root) : root;
    home?.code.functions.forEach((fn, index) => {
      if (fn.name === name || (fn.type === name && /^(componentDidMount|(UNSAFE_)?componentWillMount|init|render)$/.test(fn.name)))
        add({ source: home.source, code: home.code, index }, "shared", "launch", 20, `root component ${name}`);
    });
  }
}

/** What a component of Angular is called for first, in this order. */
const CALLED_FIRST = ["constructor", "ngOnInit", "ngAfterViewInit"];

/**
 * The component that Angular begins with, by itself or as that of a module, and what it is called for first. Source: angular.dev, "Bootstrapping an application",
 * "Component lifecycle".
 */
function addComponent(code: CodeFile, program: Program, add: Add): void {
  const begun = code.calls.find(({ callee }) => /^(?:bootstrapApplication|(?:[\w.()]+\.)?bootstrapModule)$/.test(callee));
  const name = /^\s*(\w+)\s*$/.exec(begun?.arguments[0]?.text ?? "")?.[1];
  if (begun === undefined || name === undefined) return;
  const roots = /bootstrapModule$/.test(begun.callee)
    ? program.types(name).flatMap(({ code: home }) => /\bbootstrap\s*:\s*\[\s*(\w+)\s*,?\s*\]/.exec(home.plain)?.[1] ?? [])
    : [name];
  for (const root of roots) {
    const [own, another] = program.types(root);
    if (!own || another) continue;
    const { source, code: home } = own;
    home.functions.forEach((fn, index) => {
      const position = fn.type === root ? CALLED_FIRST.indexOf(fn.name) : -1;
      if (position !== -1) add({ source, code: home, index }, "shared", "launch", 20 + position, `${root}.${fn.name}`);
    });
  }
}

/** The widget that `runApp` shows, and its state. */
function flutterRoots(program: Program, add: Add): void {
  for (const { code } of program.files) {
    for (const call of code.calls) {
      if (call.callee !== "runApp") continue;
      for (const [, root] of call.arguments[0]?.text.matchAll(/\b([A-Z]\w*)\s*\(/g) ?? []) {
        for (const { source, code: home } of program.files) {
          home.functions.forEach((fn, index) => {
            const isState =
              fn.type !== "" &&
              program.types(fn.type).some(({ type }) => type.supers.includes("State") && type.supers.includes(root as string));
            if ((fn.type === root || isState) && /^(initState|build|didChangeDependencies|init|createState)$/.test(fn.name))
              add({ source, code: home, index }, "shared", "firstScreen", 30, `${fn.type}.${fn.name}`);
          });
        }
      }
    }
  }
}
