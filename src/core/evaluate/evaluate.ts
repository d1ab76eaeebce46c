import { either, known, truthValue, unknown, type Value } from "../model/value.js";
import type { Place } from "../model/place.js";
import type { Source } from "../syntax/source.js";
import { compute, dialectOf, isTrue, toBoolean, toInteger, type DialectName } from "./semantics.js";
import { pathOf, type Argument, type CallExpr, type Expr, type Parameter, type Statement } from "../syntax/script/ast.js";

export interface ListResult {
  kind: "list";
  items: Result[];
}

export interface MapResult {
  kind: "map";
  entries: Map<string, Result>;
}

/** A function of the script: a declaration, or a closure held by a variable. */
export interface FunctionResult {
  kind: "function";
  parameters: Parameter[];
  body: Statement[];
  scope: Scope;
}

/** Nothing there: `null`, or a look-up that found nothing. */
export interface NothingResult {
  kind: "nothing";
}

export type Result = Value | ListResult | MapResult | FunctionResult | NothingResult;

export const NOTHING: NothingResult = { kind: "nothing" };

/** What a script can see: variables, and the calls whose meaning the reader knows. */
export interface Scope {
  source: Source;
  /** The value of a dotted name; `undefined` when this scope does not know the name. */
  lookup(path: string[]): Result | undefined;
  /** The value of a call; `undefined` when this scope does not know it. `callee` is the dotted name. */
  call?(callee: string[], call: CallExpr, evaluate: (expr: Expr) => Result): Result | undefined;
}

/**
 * What one evaluation may spend, in all that it leads to: there is one for the outermost call of `evaluate`, and whatever is evaluated on
 * the way (arguments, bodies of functions, what a scope looks up) spends from it.
 */
interface State {
  steps: number;
  /** Calls of functions inside of each other. */
  depth: number;
  /** Expressions inside of each other. */
  nesting: number;
  /** When to give up at the latest, in milliseconds of `performance.now`. */
  until: number;
}

const MAX_STEPS = 20_000;
const MAX_DEPTH = 40;
const MAX_NESTING = 400;
/** Of a text, in UTF-16 units: no version, path or address is as long. */
const MAX_TEXT = 65_536;
/** Of a list or map. */
const MAX_ITEMS = 20_000;
/** Milliseconds for one evaluation, and for all of one file. */
const ONE_LIMIT = 500;
const FILE_LIMIT = 2_000;

const INVOLVED = "too involved to work out";

let current: State | undefined;
const spent = new WeakMap<Source, number>();

/** Works an expression out without running anything; what cannot be worked out is an unknown value with the reason. */
export function evaluate(expr: Expr, scope: Scope): Result {
  if (current) return run(expr, scope, current);
  const before = spent.get(scope.source) ?? 0;
  if (before > FILE_LIMIT) return unknown("working out this file takes too long", scope.source.place(expr.start));
  const start = performance.now();
  current = { steps: 0, depth: 0, nesting: 0, until: start + ONE_LIMIT };
  try {
    return run(expr, scope, current);
  } catch (error) {
    // The stack can be short already where this is called.
    if (!(error instanceof RangeError)) throw error;
    return unknown(INVOLVED, scope.source.place(expr.start));
  } finally {
    // What is worked out in no time is not worth a note.
    if (current.steps > 200) spent.set(scope.source, before + performance.now() - start);
    current = undefined;
  }
}

/** Counts a step; `true` when nothing more may be spent. */
function exhausted(state: State): boolean {
  if (++state.steps % 256 === 0 && performance.now() > state.until) state.steps = MAX_STEPS;
  return state.steps > MAX_STEPS || state.depth > MAX_DEPTH || state.nesting > MAX_NESTING;
}

/** What is done one call deeper. */
function deeper<T>(state: State, work: () => T): T {
  state.depth++;
  try {
    return work();
  } finally {
    state.depth--;
  }
}

/** As `evaluate`, for where a single value is expected. */
export function evaluateValue(expr: Expr, scope: Scope): Value {
  return toValue(evaluate(expr, scope), expr, scope);
}

export function toValue(result: Result, expr: Expr, scope: Scope): Value {
  if (result.kind === "known" || result.kind === "unknown" || result.kind === "either") return result;
  const place = scope.source.place(expr.start);
  if (result.kind === "nothing") return unknown("nothing in the files gives it a value", place);
  return unknown(`a ${result.kind} where a value is expected`, place);
}

/** `true`, `false`, or `undefined` when the files cannot tell; `source` tells the language. */
export function truth(result: Result, source: Source): boolean | undefined {
  const dialect = dialectOf(source.file);
  if (result.kind === "nothing") return dialect === "kotlin" || dialect === "swift" ? undefined : false;
  if (result.kind === "list" || result.kind === "map") return dialect === "groovy" ? sizeOf(result) > 0 : true;
  if (result.kind === "function") return true;
  if (result.kind === "known") return isTrue(result, dialect);
  if (result.kind === "either") {
    const all = new Set(result.options.map((option) => truth(option, source)));
    return all.size === 1 ? [...all][0] : undefined;
  }
  return undefined;
}

function run(expr: Expr, scope: Scope, state: State): Result {
  if (exhausted(state)) return unknown(INVOLVED, scope.source.place(expr.start));
  state.nesting++;
  const result = valueOf(expr, scope, state);
  state.nesting--;
  return result;
}

function valueOf(expr: Expr, scope: Scope, state: State): Result {
  const place = () => scope.source.place(expr.start);
  switch (expr.kind) {
    case "literal":
      if (expr.text === "null" || expr.text === "nil") return NOTHING;
      return { ...known(expr.text, place()), type: expr.text === "true" || expr.text === "false" ? "boolean" : "number" };
    case "text":
      return text(expr.parts, expr, scope, state);
    case "list":
      return { kind: "list", items: expr.items.map((item) => run(item, scope, state)) };
    case "map":
      return mapResult(expr.entries, scope, state);
    case "closure":
      return { kind: "function", parameters: expr.parameters.map((name) => ({ name })), body: expr.body, scope };
    case "condition": {
      const test = run(expr.test, scope, state);
      const decided = truth(test, scope.source);
      if (decided === true) return run(expr.then, scope, state);
      if (decided === false) {
        const otherwise = run(expr.otherwise, scope, state);
        return asksForPresence(expr.test) ? asFallback(otherwise) : otherwise;
      }
      const options = [run(expr.then, scope, state), run(expr.otherwise, scope, state)];
      return joined(options, expr, scope);
    }
    case "binary":
      return binary(expr.operator, expr.left, expr.right, expr, scope, state);
    case "name":
    case "member":
      return reference(expr, scope, state);
    case "index": {
      const object = run(expr.object, scope, state);
      const index = run(expr.index, scope, state);
      if (object.kind === "map" && index.kind === "known") return object.entries.get(index.text) ?? NOTHING;
      if (object.kind === "list" && index.kind === "known") return object.items[Number(index.text)] ?? NOTHING;
      const path = pathOf(expr.object);
      const found = path && index.kind === "known" ? scope.lookup([...path, index.text]) : undefined;
      return found ?? (object.kind === "nothing" ? NOTHING : unknown(`${snippet(expr, scope)} cannot be worked out`, place()));
    }
    case "call":
      return call(expr, scope, state);
    default:
      return unknown(`${snippet(expr, scope) || "this"} cannot be worked out`, place());
  }
}

function joined(options: Result[], expr: Expr, scope: Scope): Result {
  return either(
    options.map((option) => toValue(option, expr, scope)),
    scope.source.place(expr.start),
  );
}

function text(parts: (string | Expr)[], expr: Expr, scope: Scope, state: State): Result {
  const [first] = parts;
  if (parts.length <= 1 && (first === undefined || typeof first === "string")) return known(first ?? "", scope.source.place(expr.start));
  let options = [""];
  let single: Value | undefined;
  for (const part of parts) {
    if (typeof part === "string") {
      options = options.map((option) => option + part);
      continue;
    }
    const value = toValue(run(part, scope, state), part, scope);
    if (value.kind === "unknown") return unknown(value.why, scope.source.place(expr.start));
    single ??= value;
    const texts = value.kind === "known" ? [value.text] : value.options.flatMap((option) => (option.kind === "known" ? [option.text] : []));
    if (value.kind === "either" && texts.length < value.options.length)
      return unknown("a part of the text depends on the build", scope.source.place(expr.start));
    options = options.flatMap((option) => texts.map((inner) => option + inner)).slice(0, 16);
    if (options.some((option) => option.length > MAX_TEXT)) return unknown("a text that is too long", scope.source.place(expr.start));
  }
  // "$version" alone is the value itself, with the value's own place.
  if (parts.length === 1 && single) return single;
  const place = scope.source.place(expr.start);
  return either(
    options.map((option) => known(option, place)),
    place,
  );
}

function mapResult(entries: Argument[], scope: Scope, state: State): MapResult {
  const map = new Map<string, Result>();
  for (const { name, value } of entries) {
    if (name === "...") {
      const spread = run(value, scope, state);
      if (spread.kind === "map") for (const [key, item] of spread.entries) map.set(key, item);
    } else if (name !== undefined) map.set(name, run(value, scope, state));
  }
  return { kind: "map", entries: map };
}

/** `hasProperty("x") ? x : 21`: the second branch is the fallback of a look-up. */
function asksForPresence(test: Expr): boolean {
  if (test.kind === "call") {
    const callee = test.callee.kind === "member" || test.callee.kind === "name" ? test.callee.name : "";
    return /^(has|hasProperty|containsKey|contains|isPresent)$/.test(callee);
  }
  if (test.kind === "binary" && test.operator === "!") return asksForPresence(test.left);
  if (test.kind === "binary")
    return asksForPresence(test.left) || asksForPresence(test.right) || (test.operator === "!=" && test.right.kind === "literal");
  return false;
}

function asFallback(result: Result): Result {
  return result.kind === "known" ? { ...result, fallback: true } : result;
}

function binary(operator: string, leftExpr: Expr, rightExpr: Expr, expr: Expr, scope: Scope, state: State): Result {
  const place = () => scope.source.place(expr.start);
  const left = run(leftExpr, scope, state);
  const dialect = dialectOf(scope.source.file);
  const decided = truth(left, scope.source);
  if (operator === "?:" || operator === "??") {
    // Groovy asks for truth, the others for something that is there.
    const there = operator === "?:" && dialect === "groovy" ? decided : isThere(left);
    if (there === true) return left;
    if (there === false) return asFallback(run(rightExpr, scope, state));
    return joined([left, run(rightExpr, scope, state)], expr, scope);
  }
  if (operator === "||" || operator === "or") {
    const right = (): Result => run(rightExpr, scope, state);
    if (dialect === "ruby" || dialect === "javascript") {
      // The operator gives one of the two.
      if (decided === true) return left;
      if (decided === false) return left.kind === "nothing" ? asFallback(right()) : right();
      return joined([left, right()], expr, scope);
    }
    if (decided === true) return truthValue(true, place());
    const other = truth(right(), scope.source);
    if (other === true) return truthValue(true, place());
    return decided === false && other === false ? truthValue(false, place()) : unknown("depends on the build", place());
  }
  if (operator === "!") {
    return decided === undefined ? unknown("depends on the build", place()) : truthValue(!decided, place());
  }
  if (operator === "&&" || operator === "and") {
    if (decided === false) return dialect === "ruby" || dialect === "javascript" ? left : truthValue(false, place());
    const right = run(rightExpr, scope, state);
    if (dialect === "ruby" || dialect === "javascript") {
      if (decided === true) return right;
      return truth(right, scope.source) === false ? truthValue(false, place()) : unknown("depends on the build", place());
    }
    const other = truth(right, scope.source);
    if (other === false) return truthValue(false, place());
    return decided === true && other === true ? truthValue(true, place()) : unknown("depends on the build", place());
  }
  const right = run(rightExpr, scope, state);
  if (operator === "to") return { kind: "map", entries: new Map(left.kind === "known" ? [[left.text, right]] : []) };
  if (left.kind === "nothing" || right.kind === "nothing") {
    if (operator === "==" || operator === "!=") {
      if (left.kind === "unknown" || right.kind === "unknown") return unknown("depends on the build", place());
      return truthValue((left.kind === right.kind) === (operator === "=="), place());
    }
  }
  if (operator === "+" && sizeOf(left) + sizeOf(right) > MAX_ITEMS) return unknown("a list that is too long", place());
  if (operator === "+" && left.kind === "map" && right.kind === "map")
    return { kind: "map", entries: new Map([...left.entries, ...right.entries]) };
  if (operator === "+" && left.kind === "list" && right.kind === "list") return { kind: "list", items: [...left.items, ...right.items] };
  if (left.kind === "known" && right.kind === "known") {
    if (operator === "+" && left.text.length + right.text.length > MAX_TEXT) return unknown("a text that is too long", place());
    const result = compute(operator, left, right, dialect);
    if (result) return { kind: "known", place: left.place, ...result };
  }
  if (left.kind === "unknown") return left;
  if (right.kind === "unknown") return right;
  return unknown(`${snippet(expr, scope)} cannot be worked out`, place());
}

function sizeOf(result: Result): number {
  return result.kind === "list" ? result.items.length : result.kind === "map" ? result.entries.size : 0;
}

/** Whether a value is something and not nothing. */
function isThere(result: Result): boolean | undefined {
  if (result.kind === "nothing") return false;
  return result.kind === "unknown" ? undefined : true;
}

function reference(expr: Expr, scope: Scope, state: State): Result {
  const path = pathOf(expr);
  if (path) {
    const found = scope.lookup(path);
    if (found) return found;
  }
  if (expr.kind === "member" && expr.object) {
    // JavaVersion.VERSION_17
    const constant = /^VERSION_(?:1_)?(\d+)$/.exec(expr.name) ?? /^JVM_(?:1_)?(\d+)$/.exec(expr.name);
    if (constant) return known(constant[1] as string, scope.source.place(expr.end - expr.name.length));
    const object = run(expr.object, scope, state);
    if (object.kind === "map") return object.entries.get(expr.name) ?? NOTHING;
    const converted = convert(expr.name, object, [], dialectOf(scope.source.file));
    if (converted) return converted;
    if (object.kind === "unknown") return object;
    if (object.kind === "nothing") return NOTHING;
  }
  return unknown(`${path ? path.join(".") : snippet(expr, scope)} has no value in the files`, scope.source.place(expr.start));
}

/** Methods and properties that change the form of a value and not what it says. */
const TRANSPARENT = new Set([
  "get",
  "asProvider",
  "orNull",
  "value",
  "to_sym",
  "freeze",
  "getOrNull",
  "forUseAtConfigurationTime",
  "string",
  "toVersion",
  "of",
  "jvmTarget",
  "requiredVersion",
  "first",
]);

function convert(name: string, object: Result, args: Result[], dialect: DialectName): Result | undefined {
  if (name === "nil?" && object.kind !== "unknown" && object.kind !== "either")
    return truthValue(object.kind === "nothing", object.kind === "known" ? object.place : { file: "", line: 1, column: 1 });
  if (object.kind === "known" && args.length === 0) {
    const { place, text } = object;
    if (/^(toInteger|toInt|asInt|intValue|to_i)$/.test(name)) {
      const number = toInteger(text, dialect);
      return number === undefined
        ? unknown(`"${text.slice(0, 40)}" is no whole number`, place)
        : { ...object, text: number, type: "number" };
    }
    if (/^(toFloat|toDouble|toBigDecimal|to_f)$/.test(name))
      return /^-?\d+(\.\d+)?$/.test(text.trim())
        ? { ...object, text: text.trim(), type: "number" }
        : unknown(`"${text.slice(0, 40)}" is no number`, place);
    if (/^(toBoolean|toBooleanStrict)$/.test(name))
      return { ...object, text: String(object.type === "boolean" ? text === "true" : toBoolean(text, dialect)), type: "boolean" };
    if (name === "toString" || name === "to_s") {
      return { kind: "known", text, place, ...(object.fallback ? { fallback: true } : {}) };
    }
    if (name === "trim" || name === "strip" || name === "chomp")
      return { ...object, text: name === "chomp" ? text.replace(/\r?\n$/, "") : text.trim() };
    if (name === "toUpperCase" || name === "uppercase" || name === "upcase") return { ...object, text: text.toUpperCase() };
  }
  if (
    /^(toInteger|toInt|asInt|intValue|to_i|toString|to_s|toBoolean|trim|strip|toFloat|toDouble|to_f)$/.test(name) &&
    args.length === 0 &&
    object.kind !== "known" &&
    object.kind !== "list"
  )
    return object;
  if (TRANSPARENT.has(name) && args.length === 0) return object;
  if (object.kind === "known") {
    const [first, second] = args;
    const a = first?.kind === "known" ? first.text : undefined;
    const b = second?.kind === "known" ? second.text : undefined;
    if (name === "isEmpty" || name === "empty?") return truthValue(object.text === "", object.place);
    if (name === "toLowerCase" || name === "lowercase" || name === "downcase") return { ...object, text: object.text.toLowerCase() };
    if (name === "startsWith" && a !== undefined) return truthValue(object.text.startsWith(a), object.place);
    if (name === "contains" && a !== undefined) return truthValue(object.text.includes(a), object.place);
    if (name === "replace" && a !== undefined && b !== undefined) {
      const text = a.length * 4 < b.length ? undefined : object.text.replaceAll(a, b);
      return text === undefined || text.length > MAX_TEXT ? unknown("a text that is too long", object.place) : { ...object, text };
    }
    if (name === "equals" && a !== undefined) return truthValue(object.text === a, object.place);
    if (name === "equalsIgnoreCase" && a !== undefined) return truthValue(object.text.toLowerCase() === a.toLowerCase(), object.place);
    if (name === "endsWith" && a !== undefined) return truthValue(object.text.endsWith(a), object.place);
    if (name === "split" && a !== undefined) return { kind: "list", items: object.text.split(a).map((part) => known(part, object.place)) };
  }
  if (object.kind === "map") {
    const key = args[0];
    if ((name === "get" || name === "getAt" || name === "fetch" || name === "getOrDefault" || name === "dig") && key?.kind === "known") {
      const found = object.entries.get(key.text);
      return found ?? (args[1] ? asFallback(args[1]) : NOTHING);
    }
    if (/^(has|containsKey|contains|key\?|has_key\?)$/.test(name) && key?.kind === "known")
      return truthValue(object.entries.has(key.text), key.place);
  }
  if (object.kind === "list") {
    if (name === "size" || name === "length" || name === "count")
      return { ...known(String(object.items.length), firstPlace(object) ?? { file: "", line: 1, column: 1 }), type: "number" };
    if (name === "join") {
      const glue = args[0]?.kind === "known" ? args[0].text : "";
      const texts = object.items.map((item) => (item.kind === "known" ? item : undefined));
      const first = texts[0];
      if (first && texts.every((item) => item !== undefined)) {
        const length = texts.reduce((sum, { text }) => sum + text.length + glue.length, 0);
        return length > MAX_TEXT
          ? unknown("a text that is too long", first.place)
          : known(texts.map((item) => item.text).join(glue), first.place);
      }
    }
  }
  return undefined;
}

function firstPlace(list: ListResult) {
  const [first] = list.items;
  return first?.kind === "known" ? first.place : undefined;
}

function call(expr: CallExpr, scope: Scope, state: State): Result {
  const place = () => scope.source.place(expr.start);
  const path = pathOf(expr.callee);
  const inner = (argument: Expr): Result => run(argument, scope, state);
  if (path) {
    const known = scope.call?.(path, expr, inner);
    if (known) return known;
    const found =
      scope.lookup(path) ??
      (path.length > 1 && /^(project|rootProject|ext|extra|this|self)$/.test(path[0] as string) ? scope.lookup(path.slice(-1)) : undefined);
    if (found?.kind === "function") return invoke(found, expr.args, scope, state);
    if (found && expr.args.length === 0 && found.kind !== "nothing") return found;
    const plain = maths(path, expr, inner);
    if (plain) return plain;
  }
  const args = expr.args.filter((arg) => arg.name === undefined).map((arg) => inner(arg.value));
  if (expr.callee.kind === "member" && expr.callee.object) {
    const object = inner(expr.callee.object);
    const { name } = expr.callee;
    if (name === "getOrElse" || name === "orElse") return object.kind === "nothing" ? asFallback(args[0] ?? NOTHING) : object;
    if (name === "getOrDefault" && object.kind === "nothing") return asFallback(args[1] ?? NOTHING);
    if ((name === "let" || name === "run" || name === "map") && expr.closure)
      return object.kind === "nothing" ? NOTHING : invokeClosure(expr.closure, [object], scope, state);
    if (object.kind === "function" && name === "call") return invoke(object, expr.args, scope, state);
    const converted = convert(name, object, args, dialectOf(scope.source.file));
    if (converted) return converted;
    if (object.kind === "nothing") return NOTHING;
    if (object.kind === "unknown") return object;
  }
  return unknown(`${snippet(expr, scope)} cannot be worked out`, place());
}

function maths(path: string[], expr: CallExpr, inner: (argument: Expr) => Result): Result | undefined {
  const name = path.at(-1) as string;
  if (name === "max" || name === "min" || name === "maxOf" || name === "minOf") {
    const values = expr.args.map((arg) => inner(arg.value));
    if (values.length !== 2) return undefined;
    const [a, b] = values as [Result, Result];
    if (a.kind === "known" && b.kind === "known") return Number(a.text) >= Number(b.text) === name.startsWith("max") ? a : b;
    return undefined;
  }
  if (/^(parseInt|Integer|parseBoolean|Boolean)$/.test(name) && expr.args.length === 1) {
    const value = inner(expr.args[0]?.value as Expr);
    if (value.kind !== "known") return value;
    if (/oolean/.test(name)) return { ...value, text: String(value.text.toLowerCase() === "true"), type: "boolean" };
    const number = /^\s*-?\d+\s*$/.test(value.text) ? value.text.trim() : undefined;
    return number === undefined
      ? unknown(`"${value.text.slice(0, 40)}" is no whole number`, value.place)
      : { ...value, text: number, type: "number" };
  }
  if (/^(valueOf|toVersion|Float|fromTarget|JvmTarget|uri|String)$/.test(name) && expr.args.length === 1)
    return inner(expr.args[0]?.value as Expr);
  if ((name === "listOf" || name === "arrayOf" || name === "setOf" || name === "mutableListOf") && !expr.closure)
    return { kind: "list", items: expr.args.map((arg) => inner(arg.value)) };
  if (name === "mapOf" || name === "mutableMapOf") {
    const entries = new Map<string, Result>();
    for (const arg of expr.args) {
      const pair = inner(arg.value);
      if (pair.kind === "map") for (const [key, value] of pair.entries) entries.set(key, value);
    }
    return { kind: "map", entries };
  }
  return undefined;
}

function invokeClosure(closure: Extract<Expr, { kind: "closure" }>, args: Result[], scope: Scope, state: State): Result {
  const locals = new Map<string, Result>();
  const names = closure.parameters.length > 0 ? closure.parameters : ["it"];
  names.forEach((name, index) => locals.set(name, args[index] ?? NOTHING));
  return deeper(state, () => body(closure.body, withLocals(scope, locals), state)) ?? NOTHING;
}

function invoke(target: FunctionResult, args: Argument[], scope: Scope, state: State): Result {
  const locals = new Map<string, Result>();
  const plain = args.filter((arg) => arg.name === undefined);
  target.parameters.forEach((parameter, index) => {
    const named = args.find((arg) => arg.name === parameter.name)?.value ?? plain[index]?.value;
    if (named) locals.set(parameter.name, run(named, scope, state));
    else if (parameter.fallback) locals.set(parameter.name, run(parameter.fallback, target.scope, state));
    else locals.set(parameter.name, NOTHING);
  });
  return deeper(state, () => body(target.body, withLocals(target.scope, locals), state)) ?? NOTHING;
}

export function withLocals(scope: Scope, locals: Map<string, Result>): Scope {
  return {
    source: scope.source,
    lookup(path) {
      const [first, ...rest] = path;
      let found = locals.get(first as string);
      if (!found) return scope.lookup(path);
      for (const step of rest) {
        if (found?.kind !== "map") return undefined;
        found = found.entries.get(step);
      }
      return found;
    },
    call: scope.call?.bind(scope),
  };
}

/** The value that a function's statements return: `return`, or the last expression. */
function body(statements: Statement[], scope: Scope, state: State): Result | undefined {
  const locals = new Map<string, Result>();
  return block(statements, withLocals(scope, locals), locals, state).value;
}

/** What a block comes to: its last value, and whether it returned with it (`perhaps`: it depends on the build). */
interface Outcome {
  value: Result | undefined;
  returned: boolean | "perhaps";
}

/** Runs statements on variables that blocks inside of each other share. */
function block(statements: readonly Statement[], inner: Scope, locals: Map<string, Result>, state: State): Outcome {
  let last: Result | undefined;
  for (const [index, statement] of statements.entries()) {
    if (exhausted(state)) return { value: unknown(INVOLVED, inner.source.place(statement.start)), returned: true };
    switch (statement.kind) {
      case "return":
        return { value: statement.value ? run(statement.value, inner, state) : NOTHING, returned: true };
      case "assign": {
        last = run(assigned(statement), inner, state);
        const name = statement.target.kind === "name" ? statement.target.name : undefined;
        if (name && !(statement.operator === "||=" && truth(locals.get(name) ?? NOTHING, inner.source) === true)) locals.set(name, last);
        break;
      }
      case "expression":
        last = run(statement.value, inner, state);
        break;
      case "if": {
        if (statement.loop) {
          const list = run(statement.loop.list, inner, state);
          let left: Outcome | undefined;
          const ran = runRounds(
            statement.loop.names,
            list,
            () => inner.source.place(statement.start),
            locals,
            () => {
              const round = deeper(state, () => block(statement.then, inner, locals, state));
              if (round.returned === true) left = round;
              return left && "last";
            },
          );
          if (left) return left;
          if (ran) break;
        }
        const decided = statement.loop ? undefined : truth(run(statement.test, inner, state), inner.source);
        if (decided === undefined) {
          const rest = statements.slice(index + 1);
          const ways = eitherWay(locals, [statement.then, statement.otherwise], (branch) =>
            deeper(state, () => block(branch, inner, locals, state)),
          );
          if (!ways.some(({ returned }) => returned !== false)) {
            last = joinedHere(
              ways.map(({ value }) => value ?? NOTHING),
              statement,
              inner,
            );
            break;
          }
          const after = ways.every(({ returned }) => returned === true)
            ? undefined
            : deeper(state, () => block(rest, inner, locals, state));
          const results = ways.flatMap(({ value, returned }) =>
            returned === true ? [value] : returned === false ? [after?.value ?? value] : [value, after?.value],
          );
          return {
            value: joinedHere(
              results.map((value) => value ?? NOTHING),
              statement,
              inner,
            ),
            returned: true,
          };
        }
        const branch = decided ? statement.then : statement.otherwise;
        const result = deeper(state, () => block(branch, inner, locals, state));
        if (result.returned !== false)
          return !decided && asksForPresence(statement.test) ? { ...result, value: asFallback(result.value ?? NOTHING) } : result;
        if (branch.length > 0) last = result.value;
        // if (has(x)) return x; return default
        if (!decided && branch.length === 0 && asksForPresence(statement.test)) {
          const rest = deeper(state, () => block(statements.slice(index + 1), inner, locals, state));
          return { value: rest.value && asFallback(rest.value), returned: true };
        }
        break;
      }
      default:
        break;
    }
  }
  return { value: last, returned: false };
}

/** How often a loop over a known list is run at most. */
export const MOST_ROUNDS = 500;

/**
 * Runs a loop once for each item of a known list, or pair of a known map, with the loop's variables bound; they are as before after it.
 * `false`, and nothing is run, where the list is not known or too long. A round that answers `"last"` is the last.
 */
export function runRounds(
  names: readonly string[],
  list: Result,
  at: () => Place,
  locals: Map<string, Result>,
  round: () => unknown,
): boolean {
  const items =
    list.kind === "list"
      ? list.items
      : list.kind === "map"
        ? [...list.entries].map(([key, value]): Result => ({ kind: "list", items: [known(key, at()), value] }))
        : undefined;
  if (!items || items.length > MOST_ROUNDS) return false;
  const bound = names.length === 0 ? ["it"] : names;
  const saved = bound.map((name) => [name, locals.get(name)] as const);
  for (const item of items) {
    if (bound.length > 1 && item.kind === "list") bound.forEach((name, index) => locals.set(name, item.items[index] ?? NOTHING));
    else locals.set(bound[0] ?? "it", item);
    if (round() === "last") break;
  }
  for (const [name, value] of saved)
    if (value) locals.set(name, value);
    else locals.delete(name);
  return true;
}

/** The value that an assignment gives: `n += 4` takes in what was there. */
export function assigned({ target, operator, value }: Extract<Statement, { kind: "assign" }>): Expr {
  return operator === "+=" ? { kind: "binary", operator: "+", left: target, right: value, start: value.start, end: value.end } : value;
}

/**
 * Runs several branches of which nobody can tell which one is taken, each from the same state of some variables, and leaves in every variable
 * all the values that it may have then.
 */
export function eitherWay<B, T>(variables: Map<string, Result>, branches: readonly B[], work: (branch: B) => T): T[] {
  const before = new Map(variables);
  const outcomes: Map<string, Result>[] = [];
  const results = branches.map((branch) => {
    variables.clear();
    for (const [name, value] of before) variables.set(name, value);
    const result = work(branch);
    outcomes.push(new Map(variables));
    return result;
  });
  variables.clear();
  for (const name of new Set(outcomes.flatMap((outcome) => [...outcome.keys()]))) {
    const values = outcomes.map((outcome) => outcome.get(name));
    const [first] = values;
    if (values.every((value) => value === first) && first) {
      variables.set(name, first);
      continue;
    }
    const place = values.map((value) => (value && "place" in value ? value.place : undefined)).find((found) => found !== undefined) ?? {
      file: "",
      line: 1,
      column: 1,
    };
    const options = values.map((value): Value => {
      if (value === undefined || value.kind === "nothing") return unknown("it has a value in one of the ways alone", place);
      return value.kind === "known" || value.kind === "unknown" || value.kind === "either"
        ? value
        : unknown("it depends on the build", place);
    });
    variables.set(name, either(options, place));
  }
  return results;
}

function joinedHere(options: Result[], { start, end }: Statement, scope: Scope): Result {
  return joined(options, { kind: "opaque", start, end }, scope);
}

function snippet(expr: Expr, scope: Scope): string {
  const raw = scope.source.text.slice(expr.start, Math.max(expr.end, expr.start)).replace(/\s+/g, " ").trim();
  return raw.length > 60 ? `${raw.slice(0, 57)}…` : raw;
}
