import { nearest } from "../model/suggest.js";
import { reason, type Reason } from "../model/reason.js";
import { known, lacking, truthValue, unknown, type Value } from "../model/value.js";
import type { Place } from "../model/place.js";
import {
  callOf,
  pathOf,
  type Argument,
  type AssignStatement,
  type CallExpr,
  type Expr,
  type LoopStatement,
  type Parameter,
  type Statement,
  type SwitchStatement,
} from "../syntax/script/ast.js";
import { Variables, type Assignment, type CallPart, type Frame, type Given, type Outcome } from "./frame.js";
import { LIST_METHODS } from "./list-methods.js";
import { callMethod } from "./methods.js";
import type { MethodCall } from "./method.js";
import { cast, holds, isOfType, operate, OPEN, truth } from "./operators.js";
import { plainPattern } from "./patterns.js";
import { MAX_TEXT, MOST_ROUNDS } from "./run.js";
import { structureOf } from "./structure.js";
import { builtIn } from "./built-in.js";
import { pairsOf } from "./map-methods.js";
import {
  asFallback,
  integerIn,
  isValue,
  joined,
  listOf,
  mapOf,
  NOTHING,
  numberOf,
  textIn,
  toValue,
  withEntry,
  type FunctionResult,
  type Result,
} from "./values.js";

const INVOLVED = reason("too-involved");
const DONE: Outcome = { value: undefined, end: undefined, sure: true };

/** Works an expression out without running anything of the project; what cannot be worked out is an unknown value with the reason. */
export function evaluate(expr: Expr, frame: Frame): Result {
  return guarded(expr, frame, () => valueOf(expr, frame));
}

function guarded(expr: Expr, frame: Frame, work: () => Result): Result {
  const { run } = frame;
  if (run.exhausted()) return unknown(INVOLVED, frame.source.place(expr.start));
  run.nesting++;
  let result: Result;
  try {
    result = run.timed(work);
  } catch (error) {
    // The stack can be short already where this is called.
    if (!(error instanceof RangeError)) throw error;
    result = unknown(INVOLVED, frame.source.place(expr.start));
  } finally {
    run.nesting--;
  }
  if (result.kind === "unknown") run.doubts++;
  return result;
}

/** As `evaluate`, for where a single value is expected. */
export function evaluateValue(expr: Expr, frame: Frame): Value {
  return toValue(evaluate(expr, frame), frame.source.place(expr.start));
}

// eslint-disable-next-line complexity -- one case for each kind of expression
function valueOf(expr: Expr, frame: Frame): Result {
  const place = (): Place => frame.source.place(expr.start);
  switch (expr.kind) {
    case "literal":
      if (expr.text === "null" || expr.text === "nil") return NOTHING;
      return { ...known(expr.text, place()), type: expr.text === "true" || expr.text === "false" ? "boolean" : "number" };
    case "text":
      return text(expr.parts, expr, frame);
    case "pattern":
      return { kind: "pattern", text: expr.text, flags: expr.flags };
    case "list":
      return list(expr.items, frame);
    case "map":
      return map(expr.entries, frame);
    case "closure":
      return { kind: "function", parameters: expr.parameters, body: expr.body, frame, isMethod: false };
    case "do":
      return blockValue(expr.body, frame);
    case "condition":
      return condition(expr, frame);
    case "binary": {
      const left = evaluate(expr.left, frame);
      if (expr.right.kind === "name" && /^(is|instanceof|as)$/.test(expr.operator))
        return expr.operator === "as" ? cast(left, expr.right.name, place(), frame) : typed(left, expr.right.name, place());
      const mutated = expr.operator === "<<" && (left.kind === "list" || (left.kind === "map" && frame.dialect === "groovy"));
      const result = operate(expr.operator, { left, right: () => evaluate(expr.right, frame), leftExpr: expr.left, place: place() }, frame);
      const asks = expr.operator === "?:" || expr.operator === "??";
      if (mutated && frame.dialect !== "kotlin") store(expr.left, result, frame);
      return asks && result === left && result.kind === "nothing" ? NOTHING : result;
    }
    case "name":
      return name(expr, frame);
    case "member":
      return member(expr, frame);
    case "index":
      return index(expr, frame);
    case "call":
      return call(expr, frame);
    case "spread":
      return evaluate(expr.value, frame);
    default:
      return lacking(snippet(expr, frame) || "this", place(), false);
  }
}

function typed(value: Result, type: string, place: Place): Result {
  const answer = isOfType(value, type);
  return answer === undefined ? unknown(reason("type-not-worked-out"), place) : truthValue(answer, place);
}

/** The value of statements in the place of an expression; an end of something further out is on its way then. */
function blockValue(body: readonly Statement[], frame: Frame): Result {
  const outcome = execute(body, frame);
  if (outcome.end !== undefined) frame.run.leaving = outcome;
  return outcome.value ?? NOTHING;
}

function text(parts: readonly (string | Expr)[], expr: Expr, frame: Frame): Result {
  const place = frame.source.place(expr.start);
  const [first] = parts;
  if (parts.length <= 1 && (first === undefined || typeof first === "string")) return known(first ?? "", place);
  let options = [""];
  let single: Value | undefined;
  for (const part of parts) {
    if (typeof part === "string") {
      options = options.map((option) => option + part);
      continue;
    }
    const found = evaluate(part, frame);
    const result = (found.kind === "nothing" && absentEntry(part, frame)) || found;
    // Ruby writes nothing for nothing, the others the word.
    const value = valueInText(frame, result, place, part);
    if (value.kind === "unknown") return { ...value, place };
    single ??= value;
    const texts = value.kind === "known" ? [value.text] : value.options.flatMap((option) => (option.kind === "known" ? [option.text] : []));
    if (value.kind === "either" && texts.length < value.options.length) return unknown(reason("part-of-text-open"), place);
    options = options.flatMap((option) => texts.map((inner) => option + inner)).slice(0, 16);
    if (options.some((option) => option.length > MAX_TEXT)) return unknown(reason("text-too-long"), place);
  }
  // "$version" alone is the value itself, with the value's own place, as a text.
  if (parts.length === 1 && single)
    return single.kind === "known"
      ? { kind: "known", text: single.text, place: single.place, ...(single.fallback ? { fallback: true } : {}) }
      : single;
  return joined(
    options.map((option) => known(option, place)),
    place,
  );
}

/** What stands in a text for a result: Ruby writes nothing for nothing, the others the word. */
function valueInText(frame: Frame, result: Result, place: Place, part: Expr): Value {
  return result.kind === "nothing" && frame.dialect === "ruby" ? known("", place) : toValue(result, frame.source.place(part.start));
}

/**
 * An entry that a script asks of a map that has none of that name: in Groovy and Kotlin a text has the word `null` in its place, and a declaration
 * is given nothing. `undefined` for anything else.
 */
export function absentEntry(expr: Expr, frame: Frame): Result | undefined {
  const key = expr.kind === "member" ? expr.name : expr.kind === "index" ? textIn(evaluate(expr.index, frame)) : undefined;
  if ((frame.dialect !== "groovy" && frame.dialect !== "kotlin") || (expr.kind !== "member" && expr.kind !== "index")) return undefined;
  const map = expr.object && evaluate(expr.object, frame);
  if (key === undefined || map?.kind !== "map" || map.otherwise !== undefined || map.entries.has(key)) return undefined;
  const near = nearest(key, [...map.entries.keys()]);
  return { ...lacking(snippet(expr, frame), frame.source.place(expr.start)), absent: near === undefined ? {} : { near } };
}

function list(items: readonly Expr[], frame: Frame): Result {
  const results: Result[] = [];
  let perhapsFrom: number | undefined;
  for (const item of items) {
    const result = evaluate(item, frame);
    if (item.kind !== "spread") {
      results.push(result);
      continue;
    }
    const part = asItems(result, frame.source.place(item.start));
    if (!part) return unknown(reason("part-of-list-missing"), frame.source.place(item.start));
    if (part.perhapsFrom !== undefined) perhapsFrom ??= results.length + part.perhapsFrom;
    results.push(...part.items);
  }
  return listOf(results, perhapsFrom);
}

function map(entries: readonly Argument[], frame: Frame): Result {
  const found = new Map<string, Result>();
  const keys = new Map<string, Place>();
  for (const { name: key, nameStart, key: computed, value } of entries) {
    if (key === "...") {
      const spread = evaluate(value, frame);
      if (spread.kind !== "map") continue;
      for (const [inner, item] of spread.entries) found.set(inner, item);
      for (const [inner, place] of spread.keys ?? []) keys.set(inner, place);
      continue;
    }
    const text_ = computed ? textIn(evaluate(computed, frame)) : key;
    if (text_ === undefined) continue;
    found.set(text_, evaluate(value, frame));
    keys.set(text_, frame.source.place(nameStart ?? computed?.start ?? value.start));
  }
  return { kind: "map", entries: found, keys };
}

function condition(expr: Expr & { kind: "condition" }, frame: Frame): Result {
  const decided = truth(evaluate(expr.test, frame), frame.dialect);
  if (decided === true) return evaluate(expr.then, frame);
  if (decided === false) {
    const otherwise = evaluate(expr.otherwise, frame);
    return asksForPresence(expr.test) ? asFallback(otherwise) : otherwise;
  }
  const place = frame.source.place(expr.start);
  const open = { ...frame, conditional: true };
  return joined(
    frame.run.fork(
      [expr.then, expr.otherwise],
      () => place,
      (branch) => evaluate(branch, open),
    ),
    place,
  );
}

/** `hasProperty("x") ? x : 21`: the second branch is the fallback of a look-up. */
function asksForPresence(test: Expr): boolean {
  if (test.kind === "call")
    return (
      (test.callee.kind === "member" || test.callee.kind === "name") &&
      /^(has|hasProperty|containsKey|contains|isPresent|key\?|has_key\?|defined\?)$/.test(test.callee.name)
    );
  if (test.kind !== "binary") return false;
  if (test.operator === "!") return asksForPresence(test.left);
  return asksForPresence(test.left) || asksForPresence(test.right) || (test.operator === "!=" && test.right.kind === "literal");
}

// Names

function name(expr: Expr & { kind: "name" }, frame: Frame): Result {
  const result = frame.variables.get(expr.name);
  if (result) return result.kind === "function" && result.isMethod && frame.dialect === "ruby" ? call(callOf(expr), frame) : result;
  const found = frame.host.lookup?.([expr.name], frame, expr.start);
  if (found) return found;
  // Ruby calls a method by its bare name.
  if (frame.dialect === "ruby") return call(callOf(expr), frame);
  return lacking(expr.name, frame.source.place(expr.start));
}

function member(expr: Expr & { kind: "member" }, frame: Frame): Result {
  const path = pathOf(expr);
  if (path && expr.object) {
    const result = frame.variables.get(path[0] as string);
    if (!result) {
      const found = frame.host.lookup?.(path, frame, expr.start);
      if (found) return found;
    }
  }
  const place = frame.source.place(expr.start);
  // JavaVersion.VERSION_17, JvmTarget.JVM_11
  const constant = /^(?:VERSION|JVM)_(?:1_)?(\d+)$/.exec(expr.name);
  if (constant) return known(constant[1] as string, frame.source.place(expr.end - expr.name.length));
  if (frame.dialect === "ruby" && !/^[A-Z]/.test(expr.name)) return call(callOf(expr), frame);
  const object = expr.object ? evaluate(expr.object, frame) : NOTHING;
  const own = memberOf(object, expr.name);
  if (own) return own;
  const converted = callMethod(object, methodCall(object, callOf(expr), frame));
  if (converted) return converted;
  // A host can know more of a file or an object of its own.
  const hosted = object.kind === "object" || object.kind === "known" ? frame.host.call?.(new Calling(callOf(expr), frame)) : undefined;
  if (hosted) return hosted;
  if (object.kind === "unknown" || object.kind === "nothing") return object;
  return lacking(path ? path.join(".") : snippet(expr, frame), place);
}

/** What a map has under a name; of a list, what its items have. */
function memberOf(object: Result, key: string): Result | undefined {
  if (object.kind === "map") {
    const found = object.entries.get(key);
    // A method of maps (`size`, `values`) is none of its keys.
    return found ?? (METHOD_OF_MAPS.test(key) ? undefined : NOTHING);
  }
  if (object.kind === "list" && object.items.length > 0 && object.items.every(({ kind }) => kind === "map") && !LIST_METHODS.has(key))
    return listOf(object.items.map((item) => memberOf(item, key) ?? NOTHING));
  return undefined;
}

const METHOD_OF_MAPS = /^(size|isEmpty|keys|values|keySet|entries|entrySet|class|length|count|empty)$/;

// eslint-disable-next-line complexity -- what can be taken out of each kind of value
function index(expr: Expr & { kind: "index" }, frame: Frame): Result {
  const object = evaluate(expr.object, frame);
  const part =
    expr.index.kind === "binary" && (object.kind === "list" || object.kind === "known") ? rangeOf(object, expr.index, frame) : undefined;
  if (part) return part;
  const key = evaluate(expr.index, frame);
  const place = frame.source.place(expr.start);
  if (object.kind === "either") return unknown(OPEN, place);
  // A lambda that is called by brackets.
  if (object.kind === "function")
    return invoke(object, [key, ...(expr.second ? [evaluate(expr.second, frame)] : [])], new Map(), undefined, frame);
  if (object.kind === "map") {
    const text_ = textIn(key);
    if (text_ === undefined) return unknown(reason("key-missing"), place);
    return object.entries.get(text_) ?? object.otherwise ?? NOTHING;
  }
  const second = expr.second && evaluate(expr.second, frame);
  if (object.kind === "list" || object.kind === "known") {
    const part = sliced(object, key, second, place);
    if (part) return part;
  }
  const path = pathOf(expr.object);
  const text_ = textIn(key);
  if (path && text_ !== undefined && !frame.variables.get(path[0] as string)) {
    const found = frame.host.lookup?.([...path, text_], frame, expr.start);
    if (found) return found;
  }
  if (object.kind === "object" || (path && object.kind === "unknown")) {
    const asked = frame.host.call?.(
      new Calling(
        callOf({ kind: "member", object: expr.object, name: "[]", start: expr.start, end: expr.end }, [{ value: expr.index }], false),
        frame,
      ),
    );
    if (asked) return asked;
  }
  if (object.kind === "nothing") return NOTHING;
  return object.kind === "unknown" ? object : lacking(snippet(expr, frame), place, false);
}

/** `list[1..-2]`: from one position to another, both counted from the end where they are below 0. */
function rangeOf(
  object: Result & { kind: "list" | "known" },
  { operator, left, right }: Expr & { kind: "binary" },
  frame: Frame,
): Result | undefined {
  if (!/^\.\.\.?$|^\.\.<$/.test(operator)) return undefined;
  const [from, to] = [integerIn(evaluate(left, frame)), right.kind === "opaque" ? -1 : integerIn(evaluate(right, frame))];
  if (from === undefined || to === undefined || (object.kind === "list" && object.perhapsFrom !== undefined)) return undefined;
  const items = object.kind === "list" ? object.items : [...object.text];
  const [start, end] = [from, to].map((position) => (position < 0 ? items.length + position : position)) as [number, number];
  // Groovy reads backwards where the end stands before the start.
  if (end < start)
    return operator === ".." && frame.dialect === "groovy" && end >= 0 && to >= 0
      ? undefined
      : object.kind === "list"
        ? listOf([])
        : known("", object.place);
  const last = operator === ".." || (operator === "..." && frame.dialect !== "ruby") ? end + 1 : end;
  return object.kind === "list"
    ? listOf(object.items.slice(start, last))
    : known([...object.text].slice(start, last).join(""), object.place);
}

/** `list[1]`, `list[-1]`, `list[1..2]`, `text[0, 3]`, `text[/\d+/]` */
// eslint-disable-next-line complexity -- one question for each kind of key
function sliced(object: Result & { kind: "list" | "known" }, key: Result, second: Result | undefined, place: Place): Result | undefined {
  const items: readonly Result[] = object.kind === "list" ? object.items : [...object.text].map((char) => known(char, object.place));
  const made = (part: readonly Result[]): Result =>
    object.kind === "list" ? listOf(part) : known(part.map((item) => textIn(item) ?? "").join(""), object.place);
  if (object.kind === "list" && object.perhapsFrom !== undefined && (integerIn(key) ?? Infinity) >= object.perhapsFrom)
    return unknown(OPEN, place);
  const from = integerIn(key);
  if (from !== undefined && second !== undefined) {
    const count = integerIn(second);
    const start = from < 0 ? items.length + from : from;
    return count === undefined ? undefined : made(items.slice(start, start + count));
  }
  if (from !== undefined) {
    const item = items.at(from);
    return item ?? NOTHING;
  }
  if (key.kind === "list" && key.items.every((item) => integerIn(item) !== undefined)) {
    const positions = key.items.map((item) => integerIn(item) as number);
    return made(positions.flatMap((position) => items.at(position) ?? []));
  }
  if (key.kind === "pattern" && object.kind === "known") {
    const compiled = plainPattern(key, object.text);
    if (!compiled) return unknown(reason("pattern-not-matched"), place);
    const match = compiled.exec(object.text);
    const group = match?.[second ? (integerIn(second) ?? 0) : 0];
    return group === undefined ? NOTHING : known(group, object.place);
  }
  return undefined;
}

// Calls

/** A call with its arguments, which are worked out once. */
class Calling implements CallPart {
  readonly name: string;
  readonly path: readonly string[] | undefined;
  private givenReceiver: { result: Result | undefined } | undefined;
  private given: { positional: Given[]; named: Map<string, Given & { start: number }>; block: FunctionResult | undefined } | undefined;

  constructor(
    readonly expr: CallExpr,
    readonly frame: Frame,
    receiver?: Result,
    readonly isStatement = false,
  ) {
    const { callee } = expr;
    this.name =
      callee.kind === "name" || callee.kind === "member"
        ? callee.name
        : callee.kind === "text"
          ? (textIn(text(callee.parts, callee, frame)) ?? "")
          : "";
    this.path = pathOf(callee);
    if (receiver) this.givenReceiver = { result: receiver };
  }

  get place(): Place {
    return this.frame.source.place(this.expr.start);
  }

  receiver(): Result | undefined {
    const { callee } = this.expr;
    this.givenReceiver ??= {
      result:
        callee.kind === "member" && callee.object
          ? evaluate(callee.object, this.frame)
          : callee.kind === "name"
            ? this.frame.variables.get(SELF)
            : undefined,
    };
    return this.givenReceiver.result;
  }

  private work(): NonNullable<Calling["given"]> {
    if (this.given) return this.given;
    const { frame, expr } = this;
    const given: NonNullable<Calling["given"]> = { positional: [], named: new Map(), block: undefined };
    this.given = given;
    for (const { name: label, nameStart, key, value, block } of expr.args) {
      const result = evaluate(value, frame);
      if (block) given.block = result.kind === "function" ? result : undefined;
      else if (label === "..." || (key === undefined && label === undefined && value.kind === "spread")) {
        if (result.kind === "map")
          for (const [inner, item] of result.entries) given.named.set(inner, { result: item, expr: value, start: value.start });
        else
          for (const item of asItems(result, frame.source.place(value.start))?.items ?? [result])
            given.positional.push({ result: item, expr: value });
      } else if (label !== undefined) given.named.set(label, { result, expr: value, start: nameStart ?? value.start });
      else if (key) {
        const text_ = textIn(evaluate(key, frame));
        if (text_ !== undefined) given.named.set(text_, { result, expr: value, start: key.start });
      } else given.positional.push({ result, expr: value });
    }
    return given;
  }

  positional(): readonly Given[] {
    return this.work().positional;
  }

  named(): ReadonlyMap<string, Given & { start: number }> {
    return this.work().named;
  }

  block(): FunctionResult | undefined {
    const { closure } = this.expr;
    if (closure) return { kind: "function", parameters: closure.parameters, body: closure.body, frame: this.frame, isMethod: false };
    if (this.expr.args.some(({ block }) => block)) return this.work().block;
    // A closure as the last argument, or a variable that holds one.
    const last = this.expr.args.at(-1);
    if (
      last?.name !== undefined ||
      (last?.value.kind !== "closure" && !(last?.value.kind === "name" && this.frame.variables.get(last.value.name)?.kind === "function"))
    )
      return undefined;
    const result = this.work().positional.at(-1)?.result;
    return result?.kind === "function" ? result : undefined;
  }
}

// eslint-disable-next-line complexity -- the ways in which a call finds what it calls, the nearest first
function call(expr: CallExpr, frame: Frame, isStatement = false): Result {
  const calling = new Calling(expr, frame, undefined, isStatement);
  const { name: called, path } = calling;
  const own = functionCalled(expr, path, frame);
  if (own) return invokeBy(calling, own);
  const hosted = frame.host.call?.(calling);
  if (hosted) return hosted;
  const general = builtIn(calling);
  if (general) return general;
  const { callee } = expr;
  const self = callee.kind === "name" ? frame.variables.get(SELF) : undefined;
  if (callee.kind === "member" && callee.object) {
    const receiver = calling.receiver() as Result;
    const result = callOn(receiver, calling);
    if (result) return result;
  } else if (self) {
    // Inside of `apply { }` and the like: a method of what it is applied to.
    const result = callOn(self, calling);
    if (result) return result;
  } else if (called === "yield" && frame.block) {
    return runClosure(
      frame.block,
      calling.positional().map(({ result }) => result),
      frame,
    );
  } else if (BUILDERS.has(called) && calling.block()) return built(calling, calling.block() as FunctionResult);
  else if (called === "block_given?") return truthValue(frame.block !== undefined, calling.place);
  else if (callee.kind !== "name" && callee.kind !== "text") {
    const result = evaluate(callee, frame);
    if (result.kind === "function") return invokeBy(calling, result);
  }
  // What it is given can have meaning all the same.
  calling.positional();
  return expr.bare && path ? lacking(path.join("."), calling.place) : lacking(snippet(expr, frame), calling.place, false);
}

/** Calls a function with what a call gives: only in Ruby is the closure behind it none of the arguments. */
function invokeBy(calling: Calling, fn: FunctionResult): Result {
  const { expr, frame } = calling;
  const args = calling.positional().map(({ result }) => result);
  const block = calling.block();
  if (expr.closure && block && frame.dialect !== "ruby") args.push(block);
  return invoke(fn, args, namedResults(calling), block, frame);
}

function namedResults(calling: CallPart): ReadonlyMap<string, Result> {
  return new Map([...calling.named()].map(([key, { result }]) => [key, result]));
}

/** The function of the script that a call means. */
function functionCalled(expr: CallExpr, path: readonly string[] | undefined, frame: Frame): FunctionResult | undefined {
  if (!path) return undefined;
  const plain = path.length === 2 && /^(self|this|owner|delegate)$/.test(path[0] as string) ? path.slice(1) : path;
  let at: Result | undefined = frame.variables.get(plain[0] as string);
  if (plain.length === 1 && at?.kind === "map") at = frame.variables.get(`${MAKES}${plain[0] ?? ""}`);
  for (const step of plain.slice(1)) at = at?.kind === "map" ? at.entries.get(step) : undefined;
  if (!at && path.length > 0) {
    const found = frame.host.lookup?.(path, frame, expr.start);
    if (found?.kind === "function") at = found;
  }
  return at?.kind === "function" ? at : undefined;
}

// eslint-disable-next-line complexity -- the ways in which a method is found on a value, the nearest first
function callOn(receiver: Result, calling: Calling): Result | undefined {
  const { name: called, frame } = calling;
  if (receiver.kind === "function") {
    if (/^(call|invoke|execute|run|\(\)|doCall)$/.test(called)) return invokeBy(calling, receiver);
    if (called === "new") return invokeBy(calling, receiver);
    if (called === "to_proc" || called === "freeze") return receiver;
  }
  if (called === "getOrElse" || called === "orElse" || called === "getOrDefault") {
    const [first, second] = calling.positional();
    if (receiver.kind === "nothing") return asFallback((called === "getOrDefault" ? second : first)?.result ?? NOTHING);
    if (receiver.kind !== "map") return receiver;
  }
  if (receiver.kind === "map") {
    const result = receiver.entries.get(called);
    if (result?.kind === "function") return invokeBy(calling, result);
  }
  const asked = calling.expr.args[0]?.value;
  if (/^(is_a|kind_of|instance_of)\?$/.test(called) && asked?.kind === "name") return typed(receiver, asked.name, calling.place);
  const result = callMethod(receiver, methodCall(receiver, calling.expr, frame, calling));
  if (result) return result;
  // What a structure has under a name.
  if (receiver.kind === "map" && calling.expr.bare) return receiver.entries.get(called);
  if (receiver.kind === "nothing") return NOTHING;
  if (receiver.kind !== "unknown") return undefined;
  // Nobody knows over what it loops: what the body does may happen.
  const block = calling.block();
  if (block) perhapsOnce(block.body, block.parameters, receiver.why, block.frame, { ...frame, conditional: true });
  return receiver;
}

function methodCall(receiver: Result, expr: CallExpr, frame: Frame, calling: Calling = new Calling(expr, frame, receiver)): MethodCall {
  let last: Variables | undefined;
  return {
    name: calling.name,
    args: expr.args.length === 0 ? [] : withMap(calling),
    block: calling.block(),
    place: calling.place,
    frame,
    run: (fn, args) => {
      const inner = closureFrame(fn, args, frame);
      last = inner.variables;
      return closureValue(fn, inner);
    },
    last: (parameter) => last?.cells.get(parameter),
    runOn: (fn, self) => runOn(fn, self, frame),
    rounds: (fn, items, perhapsFrom) => rounds(fn, items, perhapsFrom, frame),
    store: (value) => {
      const { callee } = expr;
      if (callee.kind === "member" && callee.object) store(callee.object, value, frame);
      const self = callee.kind === "name" ? frame.variables.holder(SELF) : undefined;
      if (self) frame.run.write(self.cells, SELF, value);
    },
  };
}

/** Arguments without the closure among them; named ones are a map at the end. */
function withMap(calling: Calling): readonly Result[] {
  const block = calling.block();
  const plain = calling
    .positional()
    .flatMap(({ result }) => (block && result.kind === "function" && result.body === block.body ? [] : [result]));
  const named = namedResults(calling);
  return named.size === 0 ? plain : [...plain, mapOf(named)];
}

/** Calls a function of the script: its statements count as if they stood where it is called. */
export function invoke(
  fn: FunctionResult,
  args: readonly Result[],
  named: ReadonlyMap<string, Result>,
  block: FunctionResult | undefined,
  frame: Frame,
): Result {
  const { run } = frame;
  const place = frame.source.place(0);
  const key = args.map(shape).join("\u0001") + [...named].map(([name_, value]) => `${name_}=${shape(value)}`).join("\u0001");
  // A function that calls itself with the same has no end in the files.
  if (run.calls.some((other) => other.body === fn.body && other.key === key)) return unknown(INVOLVED, place);
  if (run.exhausted()) return unknown(INVOLVED, place);
  const lexical =
    fn.isMethod && (fn.frame.dialect === "ruby" || fn.frame.dialect === "groovy") ? fn.frame.variables.shared() : fn.frame.variables;
  const inner: Frame = {
    run,
    source: fn.frame.source,
    dialect: fn.frame.dialect,
    variables: new Variables(lexical),
    host: frame.host,
    conditional: frame.conditional,
    block: fn.isMethod ? block : (fn.frame.block ?? block),
  };
  if (!fn.isMethod && fn.parameters.length === 0) run.write(inner.variables.cells, "it", args[0] ?? NOTHING);
  bind(fn.parameters, args, named, block, inner);
  run.calls.push({ body: fn.body, key });
  run.depth++;
  const outcome = execute(fn.body, inner);
  run.depth--;
  run.calls.pop();
  return outcome.value ?? NOTHING;
}

/** A result in short, to tell whether two calls are given the same. */
function shape(result: Result): string {
  if (result.kind === "known") return `=${result.text}`;
  if (result.kind === "list") return `[${result.items.map(shape).join()}]`;
  return result.kind === "map" ? `{${[...result.entries].map(([key, value]) => key + shape(value)).join()}}` : result.kind;
}

// eslint-disable-next-line complexity -- one case for each kind of parameter; each takes from what the others left
function bind(
  parameters: readonly Parameter[],
  args: readonly Result[],
  named: ReadonlyMap<string, Result>,
  block: FunctionResult | undefined,
  inner: Frame,
): void {
  const write = (name_: string, value: Result): void => inner.run.write(inner.variables.cells, name_, value);
  const names = new Set(parameters.map(({ name: own }) => own));
  const takesNamed = [...named.keys()].some((key) => names.has(key)) || parameters.some(({ rest }) => rest === "map");
  const left = [...args];
  if (named.size > 0 && !takesNamed) {
    // Groovy gives a map of them first, Ruby and JavaScript last.
    if (inner.dialect === "groovy") left.unshift(mapOf(named));
    else left.push(mapOf(named));
  }
  const plain = parameters.filter(({ rest }) => rest === undefined).length;
  // What is left beside those that must be given goes to those with a default, from the first on.
  let optional = left.length - parameters.filter(({ rest, fallback }) => rest === undefined && !fallback).length;
  let position = 0;
  for (const parameter of parameters) {
    const { name: own, rest, parts, fallback } = parameter;
    if (rest === "block") write(own, block ?? NOTHING);
    else if (rest === "map") write(own, mapOf([...named].filter(([key]) => !names.has(key))));
    else if (rest === "list") {
      const count = Math.max(0, left.length - (plain - position));
      write(own, listOf(left.splice(position, count)));
    } else if (parts) {
      takeApart(parts, left[position] ?? NOTHING, inner);
      position++;
    } else {
      const given = named.get(own) ?? (named.size > 0 && takesNamed && position >= left.length ? undefined : left[position]);
      if (named.has(own)) write(own, given as Result);
      else if (fallback && optional <= 0) write(own, evaluate(fallback, inner));
      else {
        if (fallback) optional--;
        position++;
        write(own, given ?? (fallback ? evaluate(fallback, inner) : NOTHING));
      }
    }
  }
}

/** Gives the parts of a list, or the entries of a map, to names. */
function takeApart(parts: readonly Parameter[], value: Result, inner: Frame): void {
  if (value.kind === "map") {
    for (const { name: own, fallback } of parts)
      inner.run.write(inner.variables.cells, own, value.entries.get(own) ?? (fallback ? evaluate(fallback, inner) : NOTHING));
    return;
  }
  if (value.kind === "list") bind(parts, value.items, new Map(), undefined, inner);
  else for (const { name: own } of parts) inner.run.write(inner.variables.cells, own, value.kind === "unknown" ? value : NOTHING);
}

/** The frame in which a closure runs: it sees the variables around it, and does what it does where it is called. */
function closureFrame(fn: FunctionResult, args: readonly Result[], frame: Frame): Frame {
  const own = fn.frame;
  const inner: Frame = {
    run: frame.run,
    source: own.source,
    dialect: own.dialect,
    variables: new Variables(own.variables),
    host: frame.host,
    conditional: frame.conditional,
    block: own.block,
  };
  const { parameters } = fn;
  if (parameters.length === 0) {
    const [first] = args;
    if (first && own.dialect !== "swift") inner.run.write(inner.variables.cells, "it", first);
    return inner;
  }
  // A list is taken apart where several parameters are there for one argument.
  const [only] = args;
  const spread = args.length === 1 && only?.kind === "list" && parameters.filter(({ rest }) => rest !== "block").length > 1;
  bind(parameters, spread ? only.items : args, new Map(), undefined, inner);
  return inner;
}

function closureValue(fn: FunctionResult, inner: Frame): Result {
  const { run } = inner;
  if (run.exhausted()) return unknown(INVOLVED, inner.source.place(0));
  run.depth++;
  const outcome = execute(fn.body, inner);
  run.depth--;
  if (outcome.end === "break" || outcome.end === "raise" || (outcome.end === "return" && inner.dialect === "ruby" && !fn.isMethod))
    run.leaving = outcome;
  return outcome.value ?? NOTHING;
}

/** Runs a closure where it is given over, with the host that stands there now. */
export function runClosure(fn: FunctionResult, args: readonly Result[], frame: Frame): Result {
  const result = closureValue(fn, closureFrame(fn, args, frame));
  if (frame.run.leaving?.end === "break" || frame.run.leaving?.end === "next") frame.run.leaving = undefined;
  return result;
}

/** The variable in which a closure holds what its calls without a receiver are made on. */
const SELF = "\0self";

/** Runs a closure in which calls without a receiver are made on something; what that is in the end, and the closure's value. */
function runOn(fn: FunctionResult, self: Result, frame: Frame): { value: Result; self: Result } {
  const inner = closureFrame(fn, [self], frame);
  frame.run.write(inner.variables.cells, SELF, self);
  const value = closureValue(fn, inner);
  return { value, self: inner.variables.cells.get(SELF) ?? self };
}

/** Functions that run a closure: as often as they say, or to build something with it. */
const BUILDERS = new Set(["loop", "repeat", "buildList", "buildSet", "buildMap", "buildString"]);

function built(calling: Calling, fn: FunctionResult): Result {
  const { name: called, frame, place } = calling;
  switch (called) {
    case "buildList":
    case "buildSet":
      return runOn(fn, listOf([]), frame).self;
    case "buildMap":
      return runOn(fn, mapOf([]), frame).self;
    case "buildString":
      return runOn(fn, known("", place), frame).self;
    default: {
      const count = called === "loop" ? MOST_ROUNDS : integerIn(calling.positional()[0]?.result ?? NOTHING);
      if (count === undefined || count > MOST_ROUNDS) {
        perhapsOnce(fn.body, fn.parameters, OPEN, fn.frame, frame);
        return NOTHING;
      }
      rounds(
        fn,
        Array.from({ length: count }, (_, index) => (called === "loop" ? [] : [numberOf(index, place)])),
        undefined,
        frame,
      );
      return NOTHING;
    }
  }
}

/**
 * What a closure may do that nobody runs here: the variables that it assigns may be other ones afterwards.
 */
export function mayChange(fn: FunctionResult, why: Reason): void {
  const { frame } = fn;
  const place = frame.source.place(fn.body[0]?.start ?? 0);
  const open: unknown[] = [...fn.body];
  for (let next = open.pop(), steps = 0; next !== undefined && steps < 20_000; next = open.pop(), steps++) {
    if (typeof next !== "object" || next === null) continue;
    const node = next as Partial<AssignStatement>;
    const name_ = node.kind === "assign" && !node.declared && node.target?.kind === "name" ? node.target.name : undefined;
    const holder = name_ === undefined ? undefined : frame.variables.holder(name_);
    if (holder && name_ !== undefined)
      frame.run.write(holder.cells, name_, joined([holder.cells.get(name_) ?? NOTHING, unknown(why, place)], place));
    for (const child of Object.values(next)) if (typeof child === "object") open.push(child);
  }
}

/** Runs a closure once for each item; a round that may end the loop leaves those behind it in doubt. */
function rounds(fn: FunctionResult, items: readonly (readonly Result[])[], perhapsFrom: number | undefined, given: Frame): void {
  let frame = given;
  const { run } = frame;
  for (const [position, args] of items.slice(0, MOST_ROUNDS).entries()) {
    if (position === perhapsFrom) frame = { ...frame, conditional: true };
    closureValue(fn, closureFrame(fn, args, frame));
    const { leaving } = run;
    if (!leaving) continue;
    if (leaving.end === "break") {
      run.leaving = undefined;
      if (leaving.sure) return;
    } else if (leaving.sure) return;
    frame = { ...frame, conditional: true };
  }
}

/** What may be run, and over what nobody knows: once, with parameters that have no value. */
function perhapsOnce(body: readonly Statement[], parameters: readonly Parameter[], why: Reason, lexical: Frame, frame: Frame): void {
  const inner: Frame = { ...lexical, host: frame.host, variables: new Variables(lexical.variables), conditional: true };
  const place = lexical.source.place(body[0]?.start ?? 0);
  const names =
    parameters.length > 0 ? parameters.flatMap(({ name: own, parts }) => [own, ...(parts ?? []).map((part) => part.name)]) : ["it"];
  for (const own of names) frame.run.write(inner.variables.cells, own, unknown(why, place));
  frame.run.fork(
    [body, []],
    () => place,
    (branch) => execute(branch, inner),
  );
}

/** What a value gives when it is spread, or looped over. */
function asItems(value: Result, place: Place): (Result & { kind: "list" }) | undefined {
  if (value.kind === "list") return value;
  if (value.kind === "nothing") return listOf([]) as Result & { kind: "list" };
  return value.kind === "map" ? (listOf(pairsOf(value, place)) as Result & { kind: "list" }) : undefined;
}

// Statements

/** Runs statements: their effects go to the host, and what they assign into the variables. */
export function execute(statements: readonly Statement[], frame: Frame): Outcome {
  const { run } = frame;
  run.nesting++;
  try {
    return run.timed(() => executeAll(statements, frame));
  } catch (error) {
    // The stack can be short already where this is called.
    if (!(error instanceof RangeError)) throw error;
    run.doubts++;
    return { value: unknown(INVOLVED, frame.source.place(statements[0]?.start ?? 0)), end: "return", sure: false };
  } finally {
    run.nesting--;
  }
}

function executeAll(statements: readonly Statement[], given: Frame): Outcome {
  let frame = given;
  const { run } = frame;
  declare(statements, frame);
  let last: Result | undefined;
  let ending: Outcome | undefined;
  for (const statement of statements) {
    if (run.exhausted()) {
      run.doubts++;
      return { value: unknown(INVOLVED, frame.source.place(statement.start)), end: "return", sure: false };
    }
    let outcome = perform(statement, frame);
    if (run.leaving) {
      outcome = run.leaving;
      run.leaving = undefined;
    }
    if (outcome.value) last = outcome.value;
    if (outcome.end === undefined) continue;
    if (outcome.sure) return ending ? merged(ending, outcome, frame.source.place(statement.start)) : outcome;
    // What stands behind runs only where nothing ended before.
    ending = ending ? merged(ending, outcome, frame.source.place(statement.start)) : outcome;
    if (!frame.conditional) frame = { ...frame, conditional: true };
  }
  if (!ending) return { value: last, end: undefined, sure: true };
  return merged(ending, { value: last, end: undefined, sure: true }, frame.source.place(statements[0]?.start ?? 0));
}

/** How something ended that ended in one of two ways. */
function merged(a: Outcome, b: Outcome, place: Place): Outcome {
  const value = a.end === "return" || b.end === "return" ? joined([a.value ?? NOTHING, b.value ?? NOTHING], place) : b.value;
  return { value, end: a.end ?? b.end, sure: a.end === b.end && b.sure };
}

/** Functions are known before the statements that declare them run. */
function declare(statements: readonly Statement[], frame: Frame): void {
  const lexical = frame.dialect === "kotlin" || frame.dialect === "javascript" || frame.dialect === "swift";
  for (const statement of statements)
    if (statement.kind === "function" && statement.name !== "") {
      const holder = lexical ? frame.variables : frame.variables.shared();
      const { parameters, body } = statement;
      frame.run.write(holder.cells, statement.name, { kind: "function", parameters, body, frame, isMethod: true });
    }
}

// eslint-disable-next-line complexity -- one case for each kind of statement
function perform(statement: Statement, frame: Frame): Outcome {
  switch (statement.kind) {
    case "expression": {
      const { value: expr } = statement;
      // A name alone can be a command: `google()` without its brackets, `java` among plugins.
      if ((expr.kind === "name" || expr.kind === "member") && frame.dialect !== "ruby" && !isHeld(expr, frame)) {
        const value = frame.host.call?.(new Calling(callOf(expr), frame, undefined, true));
        return value ? { value, end: undefined, sure: true } : { value: evaluate(expr, frame), end: undefined, sure: true };
      }
      if (expr.kind === "opaque") frame.host.lost?.(expr, reason("not-understood", { what: snippet(expr, frame) }), frame);
      // Each branch is a statement: `x ? implementation(a) : implementation(b)`.
      if (expr.kind === "condition") return choose(asStatement(expr), frame);
      const command = commandOf(expr, frame);
      const value = command ? guarded(expr, frame, () => call(command, frame, true)) : evaluate(expr, frame);
      return { value, end: undefined, sure: true };
    }
    case "assign":
      return { value: assign(statement, frame), end: undefined, sure: true };
    case "if":
      return choose(statement, frame);
    case "loop":
      return loop(statement, frame);
    case "switch":
      return switched(statement, frame);
    case "try":
      return tried(statement, frame);
    case "type":
      return namespace(statement, frame);
    case "return":
      return { value: statement.value ? evaluate(statement.value, frame) : NOTHING, end: "return", sure: true };
    case "jump":
      return { value: statement.value && evaluate(statement.value, frame), end: statement.word, sure: true };
    default:
      return DONE;
  }
}

/** The call that a statement is; `versionCode (a) + 1` is Groovy for `versionCode(a)`, whose value nobody takes. */
function commandOf(expr: Expr, frame: Frame): CallExpr | undefined {
  if (expr.kind === "call") return expr;
  let left: Expr = expr;
  while (left.kind === "binary" && /^[-+*/%]$/.test(left.operator)) left = left.left;
  if (frame.dialect !== "groovy" || left.kind !== "call" || left.callee.kind !== "name") return undefined;
  // Written with a space, as commands are.
  return /^\s\(/.test(frame.source.text.slice(left.callee.end, left.callee.end + 2)) ? left : undefined;
}

function asStatement({ test, then, otherwise, start, end }: Expr & { kind: "condition" }): Extract<Statement, { kind: "if" }> {
  const statement = (value: Expr): Statement[] => [{ kind: "expression", value, start: value.start, end: value.end }];
  return { kind: "if", test, then: statement(then), otherwise: statement(otherwise), start, end };
}

function isHeld(expr: Expr, frame: Frame): boolean {
  const path = pathOf(expr);
  return path !== undefined && frame.variables.get(path[0] as string) !== undefined;
}

function choose(statement: Extract<Statement, { kind: "if" }>, frame: Frame): Outcome {
  const decided = truth(evaluate(statement.test, frame), frame.dialect);
  if (decided !== undefined) {
    const outcome = execute(decided ? statement.then : statement.otherwise, frame);
    return !decided && asksForPresence(statement.test) && outcome.value ? { ...outcome, value: asFallback(outcome.value) } : outcome;
  }
  return open([statement.then, statement.otherwise], statement, frame);
}

/** Several branches of which nobody can tell which one is taken. */
function open(branches: readonly (readonly Statement[])[], statement: Statement, frame: Frame): Outcome {
  // A build that stops is none that ships: what stops it is not taken.
  const going = branches.filter((branch) => !stops(branch));
  const [only] = going;
  if (going.length === 1 && only) return execute(only, frame);
  const place = frame.source.place(statement.start);
  const inner = { ...frame, conditional: true };
  const ways = frame.run
    .fork(
      going,
      () => place,
      (branch) => execute(branch, inner),
      ({ end, sure }) => end === "raise" && sure,
    )
    .filter(({ end, sure }) => !(end === "raise" && sure));
  const [first] = ways;
  if (!first) return { value: NOTHING, end: "raise", sure: false };
  return ways.slice(1).reduce((a, b) => together(a, b, place), first);
}

function together(a: Outcome, b: Outcome, place: Place): Outcome {
  return {
    value: joined([a.value ?? NOTHING, b.value ?? NOTHING], place),
    end: a.end ?? b.end,
    sure: a.end === b.end && a.sure && b.sure,
  };
}

function stops(body: readonly Statement[]): boolean {
  const last = body.at(-1);
  return last?.kind === "jump" && last.word === "raise";
}

function loop(statement: LoopStatement, frame: Frame): Outcome {
  const { names, list: listExpr, body } = statement;
  const place = frame.source.place(statement.start);
  if (!listExpr) return whileLoop(statement, frame);
  const found = evaluate(listExpr, frame);
  const items = asItems(found, place);
  if (!items || items.items.length > MOST_ROUNDS) {
    perhapsOnce(body, names, found.kind === "unknown" ? found.why : OPEN, frame, frame);
    return DONE;
  }
  let at = frame;
  for (const [position, item] of items.items.entries()) {
    if (position === items.perhapsFrom) at = { ...at, conditional: true };
    if (names.length > 1 && item.kind === "list") bindHere(names, item.items, at);
    else bindHere(names, [item], at);
    const { end, sure, value } = execute(body, at);
    if (end === "return" || end === "raise") return { value, end, sure };
    if (end === "break") {
      if (sure) break;
      at = { ...at, conditional: true };
    }
  }
  return DONE;
}

/** The variables of a loop are those of the statements around it. */
function bindHere(names: readonly Parameter[], values: readonly Result[], frame: Frame): void {
  names.forEach(({ name: own, parts }, position) => {
    const value = values[position] ?? NOTHING;
    if (parts) takeApart(parts, value, frame);
    else frame.run.write(frame.variables.cells, own, value);
  });
}

function whileLoop(statement: LoopStatement, frame: Frame): Outcome {
  const { test, body, before = [], step = [] } = statement;
  execute(before, frame);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const asked = test && !(statement.after && round === 0) ? truth(evaluate(test, frame), frame.dialect) : true;
    if (asked === false) return DONE;
    if (asked === undefined) {
      const place = frame.source.place(statement.start);
      frame.run.fork(
        [body, []],
        () => place,
        (branch) => execute(branch, { ...frame, conditional: true }),
      );
      return DONE;
    }
    const { end, sure, value } = execute(body, frame);
    if (end === "return" || end === "raise") return { value, end, sure };
    if (end === "break") return DONE;
    execute(step, frame);
    if (frame.run.exhausted()) return DONE;
  }
  return DONE;
}

function switched(statement: SwitchStatement, frame: Frame): Outcome {
  const subject = statement.subject && evaluate(statement.subject, frame);
  if (statement.name !== undefined && subject) frame.run.write(frame.variables.cells, statement.name, subject);
  const bodies: (readonly Statement[])[] = [];
  let certain = false;
  for (const [position, { tests, isDefault }] of statement.cases.entries()) {
    if (isDefault) continue;
    const verdict = matchesAny(tests, subject, statement, frame);
    if (verdict === false) continue;
    bodies.push(bodyFrom(statement, position));
    certain = verdict === true;
    if (certain) break;
  }
  if (!certain) {
    const position = statement.cases.findIndex(({ isDefault }) => isDefault);
    bodies.push(position === -1 ? [] : bodyFrom(statement, position));
  }
  const [only] = bodies;
  const outcome = bodies.length === 1 && only ? execute(only, frame) : open(bodies, { ...statement, kind: "switch" }, frame);
  return statement.fallsThrough && outcome.end === "break" ? { ...outcome, end: undefined, sure: true } : outcome;
}

/** The statements of a case, and where it goes on with the next, of those behind it. */
function bodyFrom({ cases, fallsThrough }: SwitchStatement, position: number): readonly Statement[] {
  return fallsThrough ? cases.slice(position).flatMap(({ body }) => body) : (cases[position]?.body ?? []);
}

function matchesAny(tests: readonly Expr[], subject: Result | undefined, statement: SwitchStatement, frame: Frame): boolean | undefined {
  let found: boolean | undefined = false;
  for (const test of tests) {
    // A question of its own (Kotlin's `in`, or without a subject).
    const verdict =
      test.kind === "condition" || !subject
        ? truth(evaluate(test.kind === "condition" ? test.test : test, frame), frame.dialect)
        : ((test.kind === "name" ? isOfType(subject, test.name) : undefined) ??
          matchesOne(evaluate(test, frame), subject, test, statement, frame));
    if (verdict === true) return true;
    if (verdict === undefined) found = undefined;
  }
  return found;
}

function matchesOne(test: Result, subject: Result, expr: Expr, statement: SwitchStatement, frame: Frame): boolean | undefined {
  const place = frame.source.place(statement.start);
  if (test.kind === "list") return frame.dialect === "kotlin" ? undefined : holds(test, subject);
  if (test.kind === "pattern")
    return truth(operate("=~", { left: subject, right: () => test, leftExpr: expr, place }, frame), frame.dialect);
  if (test.kind === "function") return truth(runClosure(test, [subject], frame), frame.dialect);
  if (test.kind === "nothing" && subject.kind === "known") return false;
  if (expr.kind === "spread" && test.kind !== "known") return undefined;
  return truth(operate("==", { left: subject, right: () => test, leftExpr: expr, place }, frame), frame.dialect);
}

function tried(statement: Extract<Statement, { kind: "try" }>, frame: Frame): Outcome {
  const { run } = frame;
  const before = run.doubts;
  if (statement.clauses.length > 0) run.guards++;
  const outcome = execute(statement.body, frame);
  if (statement.clauses.length > 0) run.guards--;
  let result = outcome;
  if (statement.clauses.length > 0) {
    if (outcome.end === "raise" && outcome.sure)
      result = statement.clauses.length === 1 ? execute(statement.clauses[0] ?? [], frame) : open(statement.clauses, statement, frame);
    // Where everything is known nothing fails.
    else if (run.doubts > before) {
      const place = frame.source.place(statement.start);
      const ways = run.fork(
        [[], ...statement.clauses],
        () => place,
        (clause) => execute(clause, { ...frame, conditional: true }),
      );
      const values = ways.slice(1).flatMap(({ value }) => value ?? []);
      if (values.length > 0 && outcome.value && outcome.end === undefined)
        result = { ...outcome, value: joined([outcome.value, ...values], place) };
    }
  }
  const end = execute(statement.last, frame);
  return end.end ? end : result.end === "raise" && statement.clauses.length > 0 ? DONE : result;
}

/** A class or module: its constants and methods under its name. */
function namespace(statement: Extract<Statement, { kind: "type" }>, frame: Frame): Outcome {
  if (frame.host.type?.(statement, frame)) return DONE;
  const path = statement.name.split("::");
  const head = path[0] as string;
  const known_ = frame.variables.get(head);
  const inner: Frame = { ...frame, variables: new Variables(frame.variables, "type") };
  if (known_?.kind === "map" && path.length === 1) for (const [key, value] of known_.entries) inner.variables.cells.set(key, value);
  execute(statement.listed ? listConstants(statement, inner) : statement.body, inner);
  let made: Result = mapOf(inner.variables.cells);
  for (const step of path.slice(1).reverse()) made = mapOf([[step, made]]);
  if (path.length > 1 && known_?.kind === "map" && made.kind === "map") made = mapOf([...known_.entries, ...made.entries]);
  // A companion's members are those of the class around it.
  const holder = head === "" ? frame.variables : frame.variables.kind === "type" ? frame.variables : frame.variables.shared();
  if (statement.parameters && head !== "")
    frame.run.write(holder.cells, `${MAKES}${head}`, structureOf(statement.parameters, inner, statement));
  if (head === "") for (const [key, value] of inner.variables.cells) frame.run.write(holder.cells, key, value);
  else frame.run.write(holder.cells, head, made);
  return DONE;
}

/** Notes the constants that a type lists, each with its name and what it is given; gives the rest of the type's body. */
function listConstants({ body, parameters = [], start, end }: Extract<Statement, { kind: "type" }>, frame: Frame): Statement[] {
  const { cells } = frame.variables;
  const constants: Result[] = [];
  const rest: Statement[] = [];
  for (const statement of body) {
    const value = statement.kind === "expression" ? statement.value : undefined;
    const callee = value?.kind === "call" ? value.callee : value;
    if (callee?.kind !== "name") {
      rest.push(statement);
      continue;
    }
    const place = frame.source.place(callee.start);
    const given = value?.kind === "call" ? value.args : [];
    const constant = new Map<string, Result>([
      ["name", known(callee.name, place)],
      ["ordinal", known(String(constants.length), place)],
    ]);
    for (const [index, { name, fallback }] of parameters.entries()) {
      const expr = given.find((argument) => argument.name === name)?.value ?? given[index]?.value ?? fallback;
      constant.set(name, expr ? evaluate(expr, frame) : NOTHING);
    }
    constants.push(mapOf(constant));
    frame.run.write(cells, callee.name, mapOf(constant));
  }
  // `entries` as a property, `values()` as a function.
  frame.run.write(cells, "entries", { kind: "list", items: constants });
  const all: Statement = { kind: "return", value: { kind: "name", name: "entries", start, end }, start, end };
  frame.run.write(cells, "values", { kind: "function", parameters: [], body: [all], frame, isMethod: true });
  return rest;
}

/** The name under which the function is kept that makes an object of a class. */
const MAKES = "\0makes ";

// Assignments

// eslint-disable-next-line complexity -- one case for each kind of target
function assign(statement: AssignStatement, frame: Frame): Result {
  const { target, operator } = statement;
  if (target.kind === "list" || target.kind === "map") {
    const value = evaluate(statement.value, frame);
    assignParts(target, value, statement, frame);
    return value;
  }
  const result = target.kind === "name" ? frame.variables.holder(target.name) : undefined;
  if (operator === "||=" || operator === "&&=" || operator === "?=" || operator === "??=") {
    const now = target.kind === "name" ? (result?.cells.get(target.name) ?? NOTHING) : evaluate(target, frame);
    const there = operator === "??=" ? now.kind !== "nothing" : truth(now, frame.dialect);
    if (there === (operator !== "&&=")) return now;
    if (there === undefined) {
      const value = joined([now, evaluate(statement.value, frame)], frame.source.place(statement.start));
      store(target, value, frame);
      return value;
    }
  }
  const assignment = new Assigning(statement, frame);
  // Among blocks of a tool a name is the tool's, unless the script has a variable of that name.
  const isVariable = target.kind === "name" && result !== undefined && (frame.dialect !== "kotlin" || result.kind === "block");
  if ((operator === "by" || (!statement.declared && !isVariable)) && frame.host.assign?.(assignment)) return NOTHING;
  const value = assignment.value();
  if (target.kind === "name") {
    const holder = statement.declared ? frame.variables : (result ?? homeOf(target.name, frame));
    frame.run.write(holder.cells, target.name, value);
  } else store(target, value, frame);
  return value;
}

/** Where a name that is assigned for the first time belongs. */
function homeOf(name_: string, frame: Frame): Variables {
  if (frame.dialect === "ruby") return /^[$@A-Z]/.test(name_) ? frame.variables.shared() : frame.variables;
  return frame.dialect === "groovy" ? frame.variables.shared() : frame.variables;
}

function assignParts(target: Expr & { kind: "list" | "map" }, value: Result, statement: AssignStatement, frame: Frame): void {
  const place = frame.source.place(statement.start);
  const missing = (): Result =>
    value.kind === "unknown" ? value : value.kind === "list" || value.kind === "map" ? NOTHING : unknown(OPEN, place);
  if (target.kind === "map") {
    for (const { name: key, value: part } of target.entries)
      store(part, (key !== undefined && value.kind === "map" ? value.entries.get(key) : undefined) ?? missing(), frame, statement.declared);
    return;
  }
  const items = value.kind === "list" ? value.items : undefined;
  const spreadAt = target.items.findIndex(({ kind }) => kind === "spread");
  target.items.forEach((part, position) => {
    if (part.kind === "spread") {
      store(
        part.value,
        items ? listOf(items.slice(position, items.length - (target.items.length - position - 1))) : missing(),
        frame,
        statement.declared,
      );
      return;
    }
    const from = spreadAt !== -1 && position > spreadAt && items ? items.length - (target.items.length - position) : position;
    // Ruby: what is no list is the first of its parts.
    const only = !items && position === 0 && isValue(value) ? value : undefined;
    store(part, items?.[from] ?? only ?? missing(), frame, statement.declared);
  });
}

/** Gives a variable, or an entry of what a variable holds, another value. */
// eslint-disable-next-line complexity -- one case for each kind of target
function store(target: Expr, value: Result, frame: Frame, declared = false): void {
  // What is no variable of the script may be the host's: `ext.versions << [quay: "1"]`.
  const [head] = declared || frame.dialect === "ruby" ? [] : (pathOf(target) ?? []);
  if (head !== undefined && !frame.variables.holder(head) && frame.host.assign?.(new Stored(target, value, frame))) return;
  if (target.kind === "name") {
    const holder = declared ? frame.variables : (frame.variables.holder(target.name) ?? homeOf(target.name, frame));
    frame.run.write(holder.cells, target.name, value);
    return;
  }
  // list << a << b
  if (target.kind === "binary" && target.operator === "<<") return store(target.left, value, frame);
  if (target.kind !== "member" && target.kind !== "index") return;
  const { object } = target;
  if (!object) return;
  const key = target.kind === "member" ? target.name : textIn(evaluate(target.index, frame));
  const holder = evaluate(object, frame);
  if (key === undefined) {
    // Some entry is another one now.
    if (holder.kind === "map" || holder.kind === "list")
      store(object, unknown(reason("written-under-missing-key"), frame.source.place(target.start)), frame);
    return;
  }
  if (holder.kind === "map") store(object, withEntry(holder, key, value), frame);
  else if (holder.kind === "list" && /^\d{1,5}$/.test(key)) {
    const items = [...holder.items];
    items[Number(key)] = value;
    store(
      object,
      listOf(
        Array.from(items, (item: Result | undefined) => item ?? NOTHING),
        holder.perhapsFrom,
      ),
      frame,
    );
  } else if (holder.kind === "nothing" && frame.dialect === "javascript") store(object, mapOf([[key, value]]), frame);
  // `ext.versions.quay = "1"`: the host holds what is written to.
  else if (holder.kind !== "object") frame.host.assign?.(new Stored(target, value, frame));
}

class Assigning implements Assignment {
  readonly path: readonly string[] | undefined;
  private worked: Result | undefined;
  private result: { result: Result | undefined } | undefined;

  constructor(
    readonly statement: AssignStatement,
    readonly frame: Frame,
  ) {
    this.path = pathOf(statement.target);
  }

  get key(): string | undefined {
    const { target } = this.statement;
    if (target.kind === "member" || target.kind === "name") return target.name;
    return target.kind === "index" ? textIn(evaluate(target.index, this.frame)) : undefined;
  }

  receiver(): Result | undefined {
    const { target } = this.statement;
    this.result ??= {
      result: (target.kind === "member" || target.kind === "index") && target.object ? evaluate(target.object, this.frame) : undefined,
    };
    return this.result.result;
  }

  value(): Result {
    const { target, operator, value, start, end } = this.statement;
    if (!this.worked) {
      const plain = operator === "=" || operator === "by" || /^(\|\||&&|\?|\?\?)=$/.test(operator);
      const expr: Expr = plain
        ? value
        : {
            kind: "binary",
            operator: operator.slice(0, -1),
            left: target,
            right: value,
            start: value.start || start,
            end: value.end || end,
          };
      this.worked = evaluate(expr, this.frame);
    }
    return this.worked;
  }
}

/** A value that is written to what a host holds, from an assignment further in. */
class Stored extends Assigning {
  constructor(
    target: Expr,
    private readonly made: Result,
    frame: Frame,
  ) {
    super({ kind: "assign", target, operator: "=", value: target, declared: false, start: target.start, end: target.end }, frame);
  }

  override value(): Result {
    return this.made;
  }
}

/** The text of an expression, in short. */
function snippet(expr: Expr, frame: Pick<Frame, "source">): string {
  const raw = frame.source.text.slice(expr.start, Math.max(expr.end, expr.start)).replace(/\s+/g, " ").trim();
  return raw.length > 60 ? `${raw.slice(0, 57)}…` : raw;
}
