import { CLOSURE_TIMES } from "../../knowledge/life-cycle.js";
import type { CodeCall, CodeFile, Guard, LifeCyclePhase } from "../../model/code.js";
import type { EntryPoint } from "./entries.js";
import { initializersAskedFor } from "./initializers.js";
import { functionOf, type FunctionRef, type Program } from "./program.js";
import { isScript } from "./sources.js";

/** One way in which an entry point leads to a call. */
export interface Hit {
  entry: EntryPoint;
  phase: LifeCyclePhase;
  /** Position in the order of everything that runs. */
  order: number;
  guards: Guard[];
  ordered: boolean;
  /** A closure or function on the way was handed over to wait for something. */
  ready: boolean;
  background: boolean;
  /** The function at which another isolate begins: what runs in it has nothing of the app's own state. */
  isolate: string | undefined;
}

interface Way {
  entry: EntryPoint;
  phase: LifeCyclePhase;
  guards: readonly Guard[];
  ordered: boolean;
  ready: boolean;
  background: boolean;
  isolate: string | undefined;
}

/** Source: dart.dev and docs.flutter.dev, "Background processes": what a background isolate begins with carries this mark. */
const ISOLATE = "vm:entry-point";

const MAX_DEPTH = 14;
const MAX_HITS = 4;
const MAX_VISITS = 20_000;

/** Follows the calls from the entry points on, in the order in which they run; what was reached, with how. */
export function follow(program: Program, entries: readonly EntryPoint[]): Map<CodeCall, Hit[]> {
  const hits = new Map<CodeCall, Hit[]>();
  const loaded = new Set<CodeFile>();
  let order = 0;
  let visits = 0;
  for (const entry of entries)
    run(
      entry.ref,
      { entry, phase: entry.phase, guards: entry.ref.source.guards, ordered: true, ready: false, background: false, isolate: undefined },
      new Set(),
    );
  return hits;

  function run(ref: FunctionRef, from: Way, path: ReadonlySet<unknown>): void {
    const fn = functionOf(ref);
    const isolate =
      ref.source.language === "dart" &&
      fn?.annotations.includes("pragma") &&
      ref.source.text.slice(Math.max(0, fn.from - 120), fn.from).includes(ISOLATE)
        ? fn.name
        : undefined;
    const way = isolate === undefined ? from : { ...from, isolate };
    const key = fn ?? ref.code;
    if (path.has(key) || path.size > MAX_DEPTH || visits++ > MAX_VISITS) return;
    const inner = new Set(path).add(key);
    if (isScript(ref.source.language)) loadImports(ref, way, inner);
    for (const call of program.calls(ref)) {
      const here = timeOf(call, way);
      const found = hits.get(call) ?? [];
      if (found.length < MAX_HITS) found.push({ ...here, guards: [...here.guards], order: order++ });
      hits.set(call, found);
      const { refs, certain } = program.targets(call, ref);
      // Calling what iterates runs nothing of it.
      for (const target of refs)
        if (!functionOf(target)?.iterates || !isStatement(ref.code, call))
          run(target, { ...here, ordered: here.ordered && certain }, inner);
      for (const target of initializersAskedFor(program, call)) run(target, here, inner);
      for (const { text, literal } of call.arguments) {
        const name = literal ?? /^nameof\(\s*(?:[\w.]*\.)?(\w+)\s*\)$/.exec(text)?.[1] ?? handedOver(text, ref);
        if (name === undefined || program.named(name).length === 0) continue;
        const handed = timeOf({ ...call, closures: [...call.closures, call.callee], guards: [] }, { ...here, guards: here.guards });
        for (const target of program.targets({ ...call, callee: name }, ref).refs) run(target, { ...handed, ordered: false }, inner);
      }
    }
  }

  /** The code of a script's imports runs before its own. */
  function loadImports(ref: FunctionRef, way: Way, path: ReadonlySet<unknown>): void {
    if (ref.index !== -1 && loaded.has(ref.code)) return;
    loaded.add(ref.code);
    for (const { source } of ref.code.imports) {
      const file = program.resolve(ref.source.file, source);
      if (!file || loaded.has(file.code)) continue;
      run({ ...file, index: -1 }, { ...way, guards: [...way.guards, ...file.source.guards] }, path);
    }
  }
}

/** Whether a call stands as a statement of its own, so that nobody takes what it gives. */
export function isStatement({ plain }: CodeFile, call: CodeCall): boolean {
  return call.closures.length === 0 && /(?:[;{}]|\belse|^)\s*$/.test(plain.slice(Math.max(0, call.from - 200), call.from));
}

/** The function that an argument hands over: `::name`, `#selector(name)`, `this.name`, or its bare name where the language has that. */
function handedOver(text: string, ref: FunctionRef): string | undefined {
  const { language } = ref.source;
  const marked = /^(?:(?:this|\w*)::|self\.|this\.|#selector\((?:self\.)?|@selector\()_?([A-Za-z_]\w*)[^\w]*(?:\bbind\(.*)?$/.exec(
    text,
  )?.[1];
  if (marked !== undefined || language === "kotlin" || language === "java" || language === "objc") return marked;
  const bare = /^_?[A-Za-z_]\w*$/.test(text) ? text : undefined;
  const fn = functionOf(ref);
  // A parameter can have the name of a function.
  if (
    bare === undefined ||
    (fn && new RegExp(`[(,\\s]${bare}\\s*[:,)=]`).test(ref.code.plain.slice(fn.from, Math.min(fn.to, fn.from + 300)).split("{")[0] ?? ""))
  )
    return undefined;
  return bare;
}

/** Functions that call what they get there and then. */
const RUNS_AT_ONCE = /(^|\.)(forEach|map|filter|some|every|reduce|call|apply|bind|freeze|assign)$/;

/** When a call runs, from the closures and conditions around it. */
function timeOf(call: CodeCall, way: Way): Way {
  let { phase, ordered, background } = way;
  const ready = way.ready || call.closures.some((closure) => !RUNS_AT_ONCE.test(closure));
  for (const closure of call.closures) {
    const time = CLOSURE_TIMES.find(({ names }) => names.test(closure));
    if (time?.when === "now") continue;
    if (time?.when === "effect") ordered = false;
    else if (time?.when === "event") {
      // What waits for the device to be ready is part of the launch.
      if (!/addEventListener$/.test(closure)) phase = "later";
      ordered = false;
    } else if (time) {
      ordered = false;
      background ||= time.background ?? false;
    } else {
      ordered = false;
      // Parts of a screen get their closures for later.
      if (/^[A-Z]\w*$/.test(closure.split(".").at(-1) ?? "") && call.closures.length > 0 && way.entry.side === "shared") phase = "later";
    }
  }
  return { entry: way.entry, phase, guards: [...way.guards, ...call.guards], ordered, ready, background, isolate: way.isolate };
}
