import { ANDROID_STEPS, DOTNET_STEPS, IOS_STEPS, UNITY_LOAD_TYPES, UNITY_STEPS, type LifeCycleStep } from "../../knowledge/life-cycle.js";
import type { App } from "../../model/app.js";
import type { AutoStart, LifeCyclePhase } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";
import { baseName, join } from "../../model/paths.js";
import type { AndroidComponents } from "../platforms/android/components.js";
import { functionOf, type FunctionRef, type Program } from "./program.js";
import { isScript } from "./sources.js";

/** A function that the system or the framework calls by itself. */
export interface EntryPoint {
  ref: FunctionRef;
  side: SideName;
  phase: LifeCyclePhase;
  /** Smaller ones run first within a side. */
  rank: number;
  title: string;
  at: Place;
}

/** The entry points of an app's sides, in the order in which they run. */
export function entryPoints(
  app: App,
  program: Program,
  components: AndroidComponents,
  autoStarts: readonly AutoStart[],
  live: (type: string, ref: FunctionRef) => boolean,
): EntryPoint[] {
  const entries: EntryPoint[] = [];
  const add = (ref: FunctionRef, side: SideName, phase: LifeCyclePhase, rank: number, title: string): void => {
    const fn = functionOf(ref);
    entries.push({ ref, side, phase, rank, title, at: ref.source.place(fn?.from ?? 0) });
  };
  const simple = (name: string): string => name.split(/[.$]/).at(-1) as string;
  const applications = new Set(components.applications.map(({ name }) => simple(name)));
  const launchers = new Set(components.launchers.map(({ name }) => simple(name)));
  for (const { source, code } of program.files) {
    code.functions.forEach((fn, index) => {
      const ref = { source, code, index };
      const heritage = fn.type === "" ? "" : [...program.heritage(fn.type)].join(" ");
      if (source.side === "android") {
        const auto = autoStarts.find(({ name, removed }) => !removed && simple(name) === fn.type);
        if (auto && fn.name === (auto.kind === "provider" ? "onCreate" : "create"))
          add(
            ref,
            "android",
            "provider",
            20 + auto.position / 1000,
            auto.kind === "provider" ? `provider ${fn.type}` : `initializer ${fn.type}`,
          );
        const own =
          applications.has(fn.type) || /(^| )Application( |$)/.test(annotated(program, fn.type))
            ? "Application"
            : launchers.has(fn.type) || isMainLauncher(source.text, fn.type)
              ? `Activity ${heritage}`
              : "";
        step(ANDROID_STEPS, ref, own);
        // What the application's superclass in the app does runs with it.
      } else if (source.side === "ios") {
        // In Objective-C the header says what a class extends.
        const delegate = /Delegate/.test(heritage) || source.language === "objc" ? `${heritage} ${fn.type}`.trim() : heritage;
        if (fn.type === "" || !/Delegate/.test(delegate) || live(fn.type, ref)) step(IOS_STEPS, ref, delegate);
      }
      if (app.kind === "dotnet") step(DOTNET_STEPS, ref, heritage);
      if (app.kind === "unity") {
        const onLoad = fn.annotations.includes("RuntimeInitializeOnLoadMethod");
        if (onLoad && fn.isStatic) {
          const type = /RuntimeInitializeLoadType\.(\w+)/.exec(source.text.slice(fn.from, fn.from + 300))?.[1] ?? "AfterSceneLoad";
          add(
            ref,
            "shared",
            type === "AfterSceneLoad" ? "firstScreen" : "launch",
            10 + Math.max(0, UNITY_LOAD_TYPES.indexOf(type)),
            `on load, ${type}`,
          );
        } else if (/MonoBehaviour/.test(heritage) && live(fn.type, ref)) step(UNITY_STEPS, ref, heritage);
      }
      if (
        app.kind === "flutter" &&
        source.side === "shared" &&
        fn.name === "main" &&
        fn.type === "" &&
        /(^|\/)lib\/main\w*\.dart$/.test(source.file)
      )
        add(ref, "shared", "launch", 10, "main");
    });
  }
  scriptEntries(app, program, add);
  if (app.kind === "flutter") flutterRoots(program, add);
  return entries.sort((a, b) => a.rank - b.rank || (a.at.file < b.at.file ? -1 : 1));

  function step(steps: readonly LifeCycleStep[], ref: FunctionRef, of: string): void {
    const fn = functionOf(ref);
    if (!fn) return;
    for (const { names, of: wanted, phase, rank, title } of steps) {
      if ((names.includes(fn.selector) || names.includes(fn.name)) && wanted.test(of)) {
        // `+load` is a class method; a main function stands outside of any type.
        if (fn.name === "load" && ref.source.side === "ios" && !(fn.isStatic && ref.source.language === "objc")) continue;
        if (names[0] === "main" && fn.type !== "") continue;
        add(ref, ref.source.side, phase, rank, title);
        return;
      }
    }
  }
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

type Add = (ref: FunctionRef, side: SideName, phase: LifeCyclePhase, rank: number, title: string) => void;

/** Scripts of a hybrid app: the file that the framework loads first, and the root component that it names. */
function scriptEntries(app: App, program: Program, add: Add): void {
  if (!app.shared) return;
  const { folder } = app.shared;
  const names = /^(index|App|main)(\.(android|ios|native))?\.[cm]?[jt]sx?$/;
  for (const { source, code } of program.files) {
    if (source.side !== "shared" || !isScript(source.language)) continue;
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
    const registered = code.calls.find(({ callee }) => /registerComponent$|registerRootComponent$/.test(callee));
    const root =
      registered?.arguments.at(-1)?.text.match(/([A-Za-z_$][\w$]*)\s*$/)?.[1] ??
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
            new RegExp(`export\\s*\\{[^}]*\\}\\s*from\\s*["']${of.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}["']`).test(inner.plain),
        );
        if (!handed) break;
        home = program.resolve(from.file, handed.source);
      }
      const name = binding && home ? (/export\s+default\s+(?:function|class)?\s*(\w+)/.exec(home.code.plain)?.[1] ?? root) : root;
      home?.code.functions.forEach((fn, index) => {
        if (fn.name === name || (fn.type === name && /^(componentDidMount|init|render)$/.test(fn.name)))
          add({ source: home.source, code: home.code, index }, "shared", "launch", 20, `root component ${name}`);
      });
    }
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
