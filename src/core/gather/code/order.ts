import { CLOSURE_TIMES, LAUNCH_EVENTS } from "../../knowledge/life-cycle.js";
import type { CodeCall, CodeFile, CodeFunction, CodeValue, Guard, LifeCyclePhase } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import type { EntryPoint } from "./entries.js";
import { initializersAskedFor } from "./initializers.js";
import { functionOf, lazyValues, type FunctionRef } from "./function-ref.js";
import { ADDS, type HeldValues, type Runnable } from "./held-values.js";
import type { Context, Program, Target } from "./program.js";
import { isScript, type SourceFile } from "./sources.js";

/** One way in which an entry point leads to a call. */
export interface Hit extends Way {
  /** Position in the order of everything that runs. */
  order: number;
  /** Where the calls stand that lead from the entry point to it: two ways by the same ones are one. */
  trail: readonly Step[];
  /** It stands in a closure that some value held, and who called that is known. */
  held: boolean;
}

interface Step {
  source: SourceFile;
  from: number;
  held: boolean;
  /** The function that is given there by its name, and taken to be called some time. */
  handed?: CodeFunction | undefined;
}

interface Way {
  entry: EntryPoint;
  phase: LifeCyclePhase;
  guards: readonly Guard[];
  /** No call on the way can mean another function. */
  sure: boolean;
  /**
   * Closures that are run later than what stands beside them, outermost first, each by what it was handed over to and where: what has the
   * same lane runs in order, and a lane runs behind the one that it begins with.
   */
  lane: string;
  /** A closure or function on the way was handed over to wait for something. */
  ready: boolean;
  background: boolean;
  /** It runs again on each render of its component. */
  repeats: boolean;
  /** Whatever asks for it, it runs once. */
  once: boolean;
  /** The function at which another isolate begins: what runs in it has nothing of the app's own state. */
  isolate: string | undefined;
}

/** Source: dart.dev and docs.flutter.dev, "Background processes": what a background isolate begins with carries this mark. */
const ISOLATE = "vm:entry-point";

const MAX_DEPTH = 14;
const MAX_HITS = 4;
const MAX_VISITS = 20_000;

/** Follows the calls from the entry points on, in the order in which they run; what was reached, with how. */
export function follow(program: Program, held: HeldValues, entries: readonly EntryPoint[]): Map<CodeCall, Hit[]> {
  const hits = new Map<CodeCall, Hit[]>();
  /** Calls in closures that some value held, by their files and offsets. */
  const inHeld = new Map<CodeFile, Set<number>>();
  /** Functions that were run as what a value held. */
  const heldOnes = new Set<CodeFunction | undefined>();
  const loaded = new Set<CodeFile>();
  const made = new Set<CodeValue>();
  /** Lazy values of a file, and those that a function asks for, each with the offset. */
  const lazies = new Map<CodeFile, [string, CodeValue][]>();
  const reads = new Map<CodeFunction, { at: number; value: CodeValue }[]>();
  let order = 0;
  let visits = 0;
  /** The app of Dart is shown: what stands behind that runs with the first screen. Source: api.flutter.dev, `runApp`. */
  let isShown = false;
  for (const entry of entries) {
    isShown = false;
    run(
      entry.ref,
      entry.self,
      {
        entry,
        phase: entry.phase,
        guards: entry.ref.source.guards,
        sure: true,
        lane: "",
        ready: false,
        background: false,
        repeats: false,
        once: false,
        isolate: undefined,
      },
      new Set(),
      [],
    );
  }
  const isAssumed = ({ source: { code }, from, held: isHeld, handed }: Step): boolean =>
    handed ? heldOnes.has(handed) : !isHeld && code !== null && code !== undefined && inHeld.get(code)?.has(from) === true;
  if (inHeld.size + heldOnes.size > 0) for (const [call, found] of hits) hits.set(call, withoutAssumed(found, isAssumed));
  return hits;

  function run(ref: FunctionRef, self: string, from: Way, path: ReadonlySet<string>, trail: readonly Step[]): void {
    const fn = functionOf(ref);
    const isolate =
      ref.source.language === "dart" &&
      fn?.annotations.includes("pragma") &&
      ref.source.text.slice(Math.max(0, fn.from - 120), fn.from).includes(ISOLATE)
        ? fn.name
        : undefined;
    const way = isolate === undefined ? from : { ...from, isolate };
    const key = `${ref.source.file} ${ref.index} ${self}`;
    if (path.has(key) || path.size > MAX_DEPTH || visits++ > MAX_VISITS) return;
    const inner = new Set(path).add(key);
    if (isScript(ref.source.language)) loadImports(ref, way, inner, trail);
    const own = lazyOf(ref.code);
    const isLazy = (call: CodeCall): boolean => own.some(([, { from: start, to }]) => call.from >= start && call.from < to);
    const steps: { at: number; do: () => void }[] = program
      .calls(ref)
      .filter((call) => !isLazy(call))
      .map((call) => ({ at: call.from, do: () => perform(call, ref, self, way, inner, trail) }));
    for (const { at, value } of fn && fn.kind !== "initializer" ? readsOf(fn, ref.code) : [])
      if (!made.has(value)) steps.push({ at, do: () => make(value, ref, self, way, inner, trail) });
    for (const step of steps.sort((a, b) => a.at - b.at)) step.do();
  }

  /** What is made when it is first asked for. */
  function make(value: CodeValue, ref: FunctionRef, self: string, way: Way, path: ReadonlySet<string>, trail: readonly Step[]): void {
    if (made.has(value)) return;
    made.add(value);
    for (const call of ref.code.calls)
      if (call.from >= value.from && call.from < value.to)
        perform(
          // Made where it is asked for, and not in the closure in which it is written.
          call.closures[0] === "lazy" ? { ...call, closures: call.closures.slice(1), closuresAt: call.closuresAt.slice(1) } : call,
          { ...ref, index: call.in },
          self,
          way,
          path,
          trail,
          call,
        );
  }

  function perform(
    call: CodeCall,
    ref: FunctionRef,
    self: string,
    way: Way,
    path: ReadonlySet<string>,
    trail: readonly Step[],
    written = call,
    isHeld = false,
  ): void {
    const time = timeOf(program, call, way, { ref, self, side: way.entry.side });
    const here = isShown ? { ...time, phase: onScreen(time.phase) } : time;
    const found = hits.get(written) ?? [];
    // Each phone has ways of its own to what both share.
    if (found.filter(({ entry }) => entry.side === here.entry.side).length < MAX_HITS)
      found.push({ ...here, order: order++, trail, held: isHeld });
    const next = [...trail, { source: ref.source, from: call.from, held: isHeld }];
    hits.set(written, found);
    runTargets(call, ref, self, here, path, next);
    for (const target of pluginsGiven(program, call, { ref, self, side: way.entry.side })) run(target.ref, target.self, here, path, next);
    for (const target of initializersAskedFor(program, call)) run(target, functionOf(target)?.type ?? "", here, path, next);
    runHanded(call, ref, self, way, here.guards, path, next);
    isShown ||= showsApp(call, ref, here);
  }

  /** Runs what a call means, or what the value holds that it calls. */
  function runTargets(call: CodeCall, ref: FunctionRef, self: string, here: Way, path: ReadonlySet<string>, next: readonly Step[]): void {
    const targets = program.targets(call, { ref, self, side: here.entry.side });
    if (targets.length === 0 && !call.assignment) runHeld(call, ref, self, here, path, next);
    // Calling what iterates runs nothing of it.
    for (const { ref: target, self: of, certain, shown } of targets)
      if (!functionOf(target)?.iterates || !isStatement(ref.code, call))
        run(
          target,
          of,
          {
            ...here,
            phase: shown && !isScript(ref.source.language) ? onScreen(here.phase) : here.phase,
            guards: target.source === ref.source ? here.guards : [...here.guards, ...target.source.guards],
            sure: here.sure && certain,
          },
          path,
          next,
        );
  }

  /** Runs what a value holds that is called. */
  function runHeld(call: CodeCall, ref: FunctionRef, self: string, here: Way, path: ReadonlySet<string>, next: readonly Step[]): void {
    const { runs, certain } = held.calledBy(call, ref, self);
    for (const one of runs) runOne(one, here, certain, call, ref, path, next);
  }

  function runOne(
    one: Runnable,
    here: Way,
    certain: boolean,
    call: CodeCall,
    ref: FunctionRef,
    path: ReadonlySet<string>,
    next: readonly Step[],
  ): void {
    const way = { ...here, sure: here.sure && certain };
    if (one.kind === "closure") runClosure(one, way, path, next);
    else {
      held.note(one.ref, call, ref);
      heldOnes.add(functionOf(one.ref));
      run(one.ref, one.self, way, path, next);
    }
  }

  function runClosure(
    { closure }: Extract<Runnable, { kind: "closure" }>,
    way: Way,
    path: ReadonlySet<string>,
    trail: readonly Step[],
  ): void {
    const { ref, self, expression } = closure;
    const key = `${ref.source.file} @${expression.from}`;
    if (path.has(key) || path.size > MAX_DEPTH || visits++ > MAX_VISITS) return;
    const inner = new Set(path).add(key);
    const known = inHeld.get(ref.code) ?? new Set();
    inHeld.set(ref.code, known);
    for (const call of ref.code.calls) {
      if (call.from < expression.body.from || call.from >= expression.body.to) continue;
      known.add(call.from);
      // It runs where it is called, and not where it is written.
      const outer = call.closuresAt.findLastIndex((at) => at >= 0 && at <= expression.from) + 1;
      const inside = { ...call, closures: call.closures.slice(outer), closuresAt: call.closuresAt.slice(outer) };
      perform(inside, { ...ref, index: call.in }, self, way, inner, trail, call, true);
    }
  }

  /** Runs the functions that a call is given, by reference or name, as what it runs some time. */
  function runHanded(
    call: CodeCall,
    ref: FunctionRef,
    self: string,
    way: Way,
    guards: readonly Guard[],
    path: ReadonlySet<string>,
    next: readonly Step[],
  ): void {
    const whenHanded = (): Way =>
      timeOf(
        program,
        { ...call, closures: [...call.closures, call.callee], closuresAt: [...call.closuresAt, call.from], guards: [] },
        way,
        { ref, self, side: way.entry.side },
      );
    // A function of the app's own says itself when it calls what it gets.
    const isOwn = KEEPS_OR_PRINTS.test(call.callee) || program.targets(call, { ref, self, side: way.entry.side }).length > 0;
    const runValue = (name: string, at: number): void => {
      const { runs, certain } = held.handedTo(call, name, at, ref, self);
      for (const one of runs) runOne(one, { ...whenHanded(), guards }, certain, call, ref, path, next);
    };
    for (const { text, literal, from } of call.arguments) {
      if (!isOwn && literal === undefined && /^_?[a-z]\w*$/.test(text) && program.named(text).length === 0) runValue(text, from);
      const name = literal ?? /^nameof\(\s*(?:[\w.]*\.)?(\w+)\s*\)$/.exec(text)?.[1] ?? handedOver(text, ref);
      if (name === undefined || program.named(name.split(".").at(-1) as string).length === 0) continue;
      const handed = whenHanded();
      // A selector is that of what the message goes to.
      const callee = /\.performSelector\w*$/.test(call.callee) ? call.callee.replace(/\w+$/, name) : name;
      for (const { ref: target, self: of, certain } of program.targets({ ...call, callee }, { ref, self, side: way.entry.side }))
        run(target, of, { ...handed, guards, sure: handed.sure && certain && literal === undefined }, path, [
          ...next.slice(0, -1),
          { ...(next.at(-1) as Step), handed: functionOf(target) },
        ]);
    }
  }

  function lazyOf(code: CodeFile): [string, CodeValue][] {
    let found = lazies.get(code);
    if (!found) lazies.set(code, (found = lazyValues(code)));
    return found;
  }

  function readsOf(fn: CodeFunction, code: CodeFile): { at: number; value: CodeValue }[] {
    let found = reads.get(fn);
    if (!found) {
      const words = lazyOf(code).length === 0 ? new Map<string, number>() : wordsOf(code.plain, fn);
      found = lazyOf(code).flatMap(([name, value]) => {
        const at = words.get(name);
        return at === undefined || (at >= value.from && at < value.to) ? [] : [{ at, value }];
      });
      reads.set(fn, found);
    }
    return found;
  }

  /** The code of a script's imports runs before its own. */
  function loadImports(ref: FunctionRef, way: Way, path: ReadonlySet<string>, trail: readonly Step[]): void {
    if (ref.index !== -1 && loaded.has(ref.code)) return;
    loaded.add(ref.code);
    for (const { source, from } of ref.code.imports) {
      const file = program.resolve(ref.source.file, source);
      if (!file || loaded.has(file.code)) continue;
      run({ ...file, index: -1 }, "", { ...way, guards: [...way.guards, ...file.source.guards] }, path, [
        ...trail,
        { source: ref.source, from, held: false },
      ]);
    }
  }
}

/** The ways to a call without those on which a closure was taken to run where it is written, though who calls it is known. */
function withoutAssumed(hits: Hit[], isAssumed: (step: Step) => boolean): Hit[] {
  const kept = hits.filter(({ trail }) => !trail.some(isAssumed));
  const called = kept.some(({ held }) => held) ? kept.filter(({ held }) => held) : kept;
  return called.length > 0 ? called : hits;
}

/** The words of a function, each with the offset at which it stands first. */
function wordsOf(plain: string, { from, to }: CodeFunction): Map<string, number> {
  const found = new Map<string, number>();
  for (const match of plain.slice(from, to).matchAll(/[A-Za-z_$][\w$]*/g))
    if (!found.has(match[0])) found.set(match[0], from + match.index);
  return found;
}

/** Whether a call certainly shows the app. Source: api.flutter.dev, `runApp`. */
function showsApp({ callee }: CodeCall, { source }: FunctionRef, { lane, guards }: Way): boolean {
  return callee === "runApp" && source.language === "dart" && lane === "" && guards.length === 0;
}

/** What an application runs of a plugin that it is given: `app.use(reports)`. Source: vuejs.org, "Plugins" (install). */
function pluginsGiven(program: Program, call: CodeCall, context: Context): Target[] {
  const [plugin] = call.arguments;
  if (!isScript(context.ref.source.language) || !/\.use$/.test(call.callee) || !plugin || !/^[A-Za-z_$][\w$]*$/.test(plugin.text))
    return [];
  // The method has one name in all plugins: that of the file which the name is imported from.
  const { code, source } = context.ref;
  const specifier = code.imports.find(({ names }) => names.some(({ local }) => local === plugin.text))?.source;
  const home = specifier === undefined ? code : program.resolve(source.file, specifier)?.code;
  const installed = program.targets({ ...call, callee: `${plugin.text}.install` }, context).filter(({ ref }) => ref.code === home);
  return installed.length > 0 ? installed : program.targets({ ...call, callee: plugin.text }, context);
}

/** What is shown is there with the first screen at the earliest. */
function onScreen(phase: LifeCyclePhase): LifeCyclePhase {
  return phase === "later" ? phase : "firstScreen";
}

/** Whether a call stands as a statement of its own, so that nobody takes what it gives. */
export function isStatement({ plain, language }: CodeFile, call: CodeCall): boolean {
  // The last statement of a closure is what it gives in Kotlin and Swift.
  const inBody = call.closures.length === 0 || isScript(language) || language === "csharp" || language === "dart";
  return inBody && /(?:[;{}]|\belse|^)\s*(?:(?:void|await)\s+)?$/.test(plain.slice(Math.max(0, call.from - 200), call.from));
}

/** The function that an argument hands over: `::name`, `#selector(name)`, `this.name`, or its bare name where the language has that. */
function handedOver(text: string, ref: FunctionRef): string | undefined {
  const { language } = ref.source;
  // `starter::start` of Kotlin and Java: on what stands before it.
  const bound = language === "kotlin" || language === "java" ? /^(?!this\b)(\w+)::([A-Za-z_]\w*)$/.exec(text) : undefined;
  if (bound) return `${bound[1] ?? ""}.${bound[2] ?? ""}`;
  const marked = /^(?:(?:this|\w*)::|self\.|this\.|#selector\((?:self\.)?|@selector\()_?([A-Za-z_]\w*)[^\w]*(?:\bbind\(.*)?$/.exec(
    text,
  )?.[1];
  if (marked !== undefined || language === "kotlin" || language === "java" || language === "objc") return marked;
  // A method of something, as it is: `locator.maps.show`.
  const method = /^([A-Za-z_]\w*(?:\.\w+)+?)(?:\.bind\([\w.]*\))?$/.exec(text)?.[1];
  if (method !== undefined && language !== "csharp") return method;
  const bare = /^_?[A-Za-z_]\w*$/.test(text) ? text : undefined;
  const fn = functionOf(ref);
  // A parameter can have the name of a function.
  if (
    bare === undefined ||
    (fn &&
      new RegExp(`[(,\\s]${bare}\\s*[:,)=]`).test(ref.code.plain.slice(fn.from, Math.min(fn.to, fn.from + 300)).split(/\{|=>/)[0] ?? ""))
  )
    return undefined;
  return bare;
}

/** Functions that keep what they are given, or write it down, and never call it. */
const KEEPS_OR_PRINTS = new RegExp(`(^|\\.)(${ADDS}|put|set|insert|remove|contains|equals|print|println|debugPrint|log)$`);

/** Functions that call what they get there and then. */
const RUNS_AT_ONCE = /(^|\.)(forEach|map|filter|some|every|reduce|call|apply|bind|freeze|assign)$/;

/** Whether a call means a function of the app's own that calls what it is given there and then. */
function callsWhatItIsGiven(program: Program, call: CodeCall, context: Context): boolean {
  const targets = program.targets(call, context);
  return (
    targets.length > 0 &&
    targets.every(({ ref }) => {
      const fn = functionOf(ref);
      const header = fn ? (ref.code.plain.slice(fn.from, fn.from + 400).split("{")[0] ?? "") : "";
      return program
        .calls(ref)
        .some(
          ({ callee, closures }) =>
            closures.length === 0 &&
            /^[a-z_]\w*$/.test(callee) &&
            program.named(callee).length === 0 &&
            new RegExp(`[(,\\s]${callee}\\s*[:,)]`).test(header),
        );
    })
  );
}

/** A time to wait that is more than a moment: 1000 and above, or some seconds. */
const A_WHILE =
  /^\d[\d_]{3,}L?$|\b(?:seconds|minutes)\s*:\s*[1-9]|\.seconds\(\s*[1-9]|\+\s*[1-9]\d*(?:\.\d+)?$|[1-9]\d*\s*\*\s*1000|\bFromSeconds\(/;

/** Whether a condition asks a flag that the file sets itself: what is behind it runs the first time. */
function isOwnFlag({ kind, text }: Guard, plain: string): boolean {
  const name = kind === "other" ? /^(?:!\s*|not \(\s*)(?:this\.|self\.)?(\w+)\s*\)?$/.exec(text)?.[1] : undefined;
  return name !== undefined && new RegExp(`(?<![\\w.])(?:this\\.|self\\.)?${name}\\s*=\\s*(?:true|YES|1)\\b`).test(plain);
}

/** When a call runs, from the closures and conditions around it. */
function timeOf(program: Program, call: CodeCall, way: Way, context: Context): Way {
  const { ref } = context;
  let { phase, background, lane, repeats, sure, once } = way;
  let idle: Guard | undefined;
  const ready = way.ready || call.closures.some((closure) => !RUNS_AT_ONCE.test(closure));
  // eslint-disable-next-line complexity -- each kind of closure changes another part of the moment
  call.closures.forEach((closure, index) => {
    const time = CLOSURE_TIMES.find(({ names }) => names.test(closure));
    const handed = program.callTo(ref.code, closure, call.closuresAt[index] ?? -1);
    if (/(^|\.)(dispatch_once|lazy|once)$/.test(closure)) once = true;
    if (handed && isIdleClosure(closure, handed, ref))
      idle = { kind: "never", text: `in what ${closure.split(".").at(-1) ?? ""} gives, and nothing goes through that` };
    if (time?.when === "now" || (!time && handed && callsWhatItIsGiven(program, handed, context))) return;
    // Source: react.dev, "useEffect": without a list of dependencies it runs after every rendering.
    if (/(^|\.)useEffect$/.test(closure) && handed?.arguments.length === 1) repeats = true;
    // Effects of one component run in order.
    if (time?.when === "effect") lane += `/effect ${functionOf(ref)?.from ?? 0}`;
    else lane += `/${closure} ${call.closuresAt[index] ?? 0}`;
    if (time?.when === "event") {
      const event = handed?.arguments[0];
      if (!/addEventListener$/.test(closure) || (event?.literal !== undefined && !LAUNCH_EVENTS.has(event.literal))) phase = "later";
      // The event has a name that is not written out.
      else if (event?.literal === undefined) sure = false;
    } else if (time) {
      background ||= time.background ?? false;
      if (time.drawn) phase = onScreen(phase);
      const waits = handed?.selector?.includes("afterDelay") ? /^[1-9]/ : A_WHILE;
      if (handed?.arguments.some(({ text }) => waits.test(text))) phase = "later";
    } else {
      // Nobody knows when it runs; parts of a screen get their closures for later.
      sure = false;
      const name = closure.split(".").at(-1) ?? "";
      const isObject = isScript(ref.source.language) && program.types(name).length > 0;
      if (/^[A-Z]\w*$/.test(name) && !isObject && way.entry.side === "shared" && ref.source.language !== "csharp") phase = "later";
    }
  });
  const guards = call.guards.filter((guard) => !isOwnFlag(guard, ref.code.plain));
  once ||= guards.length < call.guards.length;
  return { ...way, phase, lane, background, ready, repeats, sure, once, guards: [...way.guards, ...guards, ...(idle ? [idle] : [])] };
}

/**
 * Functions that give something which runs their closure only when somebody goes through it. Sources: api.dart.dev, `Iterable` (lazy);
 * learn.microsoft.com, "Classification of standard query operators" (deferred), "Task Constructors" (not started), "Lazy Initialization";
 * kotlinlang.org, "Sequences", "Flows are cold"; developer.apple.com, `LazySequence`, `DispatchWorkItem`; docs.oracle.com, `Thread` (begins with start).
 */
const GIVES_LATER: Partial<Record<CodeFile["language"], RegExp>> = {
  dart: /(^|\.)(map|where|expand|skipWhile|takeWhile|asyncMap)$/,
  csharp: /(^|\.)(Select|Where|SelectMany|OrderBy|TakeWhile|SkipWhile)$|^(Task|Thread|Lazy)$/,
  kotlin: /(^|\.)(flow|sequence|channelFlow|callbackFlow)$|\basSequence\.(map|filter|onEach)$|^(Thread|Runnable|Callable|FutureTask)$/,
  java: /^(Thread|FutureTask)$/,
  swift: /(^|\.)lazy\.(map|filter|compactMap|flatMap)$|^(Thread|DispatchWorkItem|BlockOperation)$/,
  ...Object.fromEntries(
    // Source: react.dev, "useCallback"; reactnative.dev, "Platform Specific Code" (select gives what it is given).
    (["javascript", "typescript", "tsx"] as const).map((language) => [language, /(^|\.)(useCallback|Platform\.select)$/]),
  ),
};

/** Whether a closure runs only when somebody goes through what it was handed over to, and nobody does. */
function isIdleClosure(closure: string, handed: CodeCall, ref: FunctionRef): boolean {
  const name = closure.replace(/<[^<>]*>$/, "");
  // Source: kotlinlang.org, "Lazily started async".
  const isLazy =
    ref.code.language === "kotlin" && /(^|\.)(launch|async)$/.test(name) && handed.arguments.some(({ text }) => /\bLAZY$/.test(text));
  return (isLazy || GIVES_LATER[ref.code.language]?.test(name) === true) && isUnused(ref, handed);
}

/** Whether a call stands in such a closure. */
export function standsIdle(program: Program, call: CodeCall, ref: FunctionRef): boolean {
  return call.closures.some((closure, index) => {
    const handed = program.callTo(ref.code, closure, call.closuresAt[index] ?? -1);
    return handed !== undefined && isIdleClosure(closure, handed, ref);
  });
}

/** Whether what comes behind a text begins a statement: a new line does where nothing is left open before it. */
function beginsStatement(before: string): boolean {
  const stem = before.trimEnd();
  return /[;{}]$/.test(stem) || (/\n\s*$/.test(before) && !/(?:[=(,+\-*/&|?:<>.[]|\b(?:return|else|throw|in|yield|await|by))$/.test(stem));
}

/** Whether nobody takes what a call gives: it is a statement, or what it gives is held by a name that nobody mentions. */
function isUnused({ code, index }: FunctionRef, call: CodeCall): boolean {
  const { plain, language } = code;
  const fn = code.functions[index];
  const before = plain.slice(Math.max(0, call.from - 200), call.from);
  const name = /\b(?:val|var|final|let)\s+(\w+)\s*=\s*$/.exec(before)?.[1];
  const held = name !== undefined && name !== "_" && fn;
  // In Swift the only statement of a function is what it gives.
  const stands = /[;{}]\s*(?:void\s+)?$/.test(before);
  const dropped = isDropped(before, language);
  // The last statement of a closure in Kotlin and Swift is what it gives.
  const inClosure = call.closures.length > 0 && !(stands && (isScript(language) || language === "dart" || language === "csharp"));
  if (inClosure || !(dropped || held)) return false;
  const open = plain.slice(call.at, call.at + 400).search(/[({]/);
  if (open === -1) return false;
  let end = closing(plain, call.at + open) + 1;
  // A closure behind the brackets.
  if (/^\s*\{/.test(plain.slice(end, end + 20))) end = closing(plain, plain.indexOf("{", end)) + 1;
  if (end === 0 || !/^\s*(?:[;}]|[A-Za-z@]|$)/.test(plain.slice(end, end + 200))) return false;
  if (!held) return true;
  const mentioned = new RegExp(`(?<![\\w$])${name}(?![\\w$])`);
  return (
    !mentioned.test(plain.slice(fn.from, call.from - before.length + before.lastIndexOf(name))) && !mentioned.test(plain.slice(end, fn.to))
  );
}

/** Whether what a call gives goes nowhere, by what stands before it. */
function isDropped(before: string, language: string): boolean {
  return (
    /(?:^|[\s;{}])_\s*=\s*$/.test(before) ||
    (language === "csharp" && /\bvoid\s+\w+\s*\([^()]*\)\s*=>\s*$/.test(before)) ||
    (language !== "swift" && beginsStatement(before))
  );
}
