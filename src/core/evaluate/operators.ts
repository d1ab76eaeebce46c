import { reason } from "../model/reason.js";
import { known, truthValue, unknown, type KnownValue } from "../model/value.js";
import type { Place } from "../model/place.js";
import type { Expr } from "../syntax/script/ast.js";
import { compare as compareGems } from "../versions/rubygems.js";
import { formatted } from "./format.js";
import type { Frame } from "./frame.js";
import { plainPattern } from "./patterns.js";
import { MAX_ITEMS, MAX_TEXT } from "./run.js";
import { compute, isTrue, ordered, toInteger } from "./semantics.js";
import { asFallback, isValue, joined, listOf, mapOf, NOTHING, numberOf, textIn, toValue, type Result } from "./values.js";

/** `true`, `false`, or `undefined` when the files cannot tell. */
export function truth(result: Result, dialect: Frame["dialect"]): boolean | undefined {
  switch (result.kind) {
    case "nothing":
      return dialect === "kotlin" || dialect === "swift" ? undefined : false;
    case "list":
      return dialect === "groovy" ? (result.perhapsFrom === 0 ? undefined : result.items.length > 0) : true;
    case "map":
      return dialect === "groovy" ? result.entries.size > 0 : true;
    case "known":
      return isTrue(result, dialect);
    case "either": {
      const all = new Set(result.options.map((option) => truth(option, dialect)));
      return all.size === 1 ? [...all][0] : undefined;
    }
    case "unknown":
      return undefined;
    default:
      return true;
  }
}

export const OPEN = reason("depends-on-build");

/** How the sides of an operator are worked out: the right one only where the language looks at it. */
export interface Sides {
  left: Result;
  right: () => Result;
  leftExpr: Expr;
  place: Place;
}

/** What an operator gives. */
export function operate(operator: string, sides: Sides, frame: Frame): Result {
  switch (operator) {
    case "?:":
    case "??":
      return presence(operator, sides, frame);
    case "||":
    case "or":
    case "&&":
    case "and":
      return logic(operator === "||" || operator === "or", sides, frame);
    case "!": {
      const decided = truth(sides.left, frame.dialect);
      return decided === undefined ? unknown(OPEN, sides.place) : truthValue(!decided, sides.place);
    }
    case "typeof":
      return typeName(sides.left, sides.place);
    case "void":
    case "delete":
    case "yield":
      return unknown(OPEN, sides.place);
    default:
      return plain(operator, sides.left, sides.right(), sides.place, frame);
  }
}

/** What JavaScript calls the kind of a value; of nothing it depends on whether it is `null` or was never there. */
function typeName(value: Result, place: Place): Result {
  switch (value.kind) {
    case "known":
      return known(value.type ?? "string", place);
    case "function":
      return known("function", place);
    case "list":
    case "map":
    case "pattern":
      return known("object", place);
    default:
      return unknown(OPEN, place);
  }
}

/** Groovy's `?:` asks for truth, the others for something that is there. */
function presence(operator: string, { left, right, place }: Sides, { dialect }: Frame): Result {
  const there = operator === "?:" && dialect === "groovy" ? truth(left, dialect) : isThere(left);
  if (there === true) return left;
  if (there === false) return asFallback(right());
  return joined([left, right()], place);
}

/** Whether a value is something and not nothing. */
function isThere(result: Result): boolean | undefined {
  if (result.kind === "nothing") return false;
  return result.kind === "unknown" ? undefined : true;
}

function logic(isOr: boolean, { left, right, place }: Sides, { dialect }: Frame): Result {
  const decided = truth(left, dialect);
  // In Ruby and JavaScript the operator gives one of the two.
  const gives = dialect === "ruby" || dialect === "javascript";
  if (decided === isOr) return gives ? left : truthValue(isOr, place);
  const other = right();
  if (decided === !isOr) {
    if (gives) return isOr && left.kind === "nothing" ? asFallback(other) : other;
    const value = truth(other, dialect);
    return value === undefined ? unknown(OPEN, place) : truthValue(value, place);
  }
  if (truth(other, dialect) === isOr && !gives) return truthValue(isOr, place);
  if (!gives) return unknown(OPEN, place);
  if (isOr) return joined([left, other], place);
  return truth(other, dialect) === false ? truthValue(false, place) : unknown(OPEN, place);
}

// eslint-disable-next-line complexity -- the operators, those with a meaning of their own first
function plain(operator: string, left: Result, right: Result, place: Place, frame: Frame): Result {
  const { dialect } = frame;
  switch (operator) {
    case "to":
      return listOf([left, right]);
    case "in":
    case "!in": {
      const found = holds(right, left);
      return found === undefined ? unknown(OPEN, place) : truthValue(found === (operator === "in"), place);
    }
    case "..":
    case "...":
    case "..<":
    case "until":
    case "downTo":
      return range(operator, left, right, place, frame);
    case "=~":
    case "==~":
    case "!~":
      return matches(operator, left, right, place, dialect);
    case "%":
      if (dialect === "ruby" && left.kind === "known" && !left.type) return format(left, right, place);
      break;
    default:
      break;
  }
  if (/^[!=]==?$/.test(operator) && (left.kind === "nothing" || right.kind === "nothing")) {
    if (left.kind === "unknown" || right.kind === "unknown") return unknown(OPEN, place);
    if (left.kind === "either" || right.kind === "either") return spread(operator, left, right, place, frame);
    return truthValue((left.kind === right.kind) === operator.startsWith("="), place);
  }
  if (operator === "+" && dialect !== "ruby" && dialect !== "swift") {
    const said = withNull(left, right);
    if (said) return said;
  }
  const together = containers(operator, left, right, place, frame);
  if (together) return together;
  if (left.kind === "object" && right.kind === "object") return compareObjects(operator, left, right, place);
  if (left.kind === "either" || right.kind === "either") return spread(operator, left, right, place, frame);
  if (left.kind === "known" && right.kind === "known") {
    if (left.text.length + right.text.length > MAX_TEXT) return unknown(reason("text-too-long"), place);
    const result = compute(operator, left, right, dialect);
    if (result) return { kind: "known", place: left.place, ...result };
  }
  if (left.kind === "unknown") return left;
  if (right.kind === "unknown") return right;
  return unknown(reason("operator-not-worked-out", { operator }), place);
}

/** A text and nothing: the word for nothing is put behind it. */
function withNull(left: Result, right: Result): Result | undefined {
  const [text, other] = left.kind === "known" && !left.type ? [left, right] : right.kind === "known" && !right.type ? [right, left] : [];
  if (!text || other?.kind !== "nothing") return undefined;
  return { kind: "known", text: text === left ? `${text.text}null` : `null${text.text}`, place: text.place };
}

/** An operator on each of the values that a side may have. */
function spread(operator: string, left: Result, right: Result, place: Place, frame: Frame): Result {
  const lefts = left.kind === "either" ? left.options : [left];
  const rights = right.kind === "either" ? right.options : [right];
  if (lefts.length * rights.length > 32) return unknown(OPEN, place);
  return joined(
    lefts.flatMap((a) => rights.map((b) => plain(operator, a, b, place, frame))),
    place,
  );
}

/** Lists and maps put together, taken apart and compared. */
// eslint-disable-next-line complexity -- what each operator means for lists and maps
function containers(operator: string, left: Result, right: Result, place: Place, { dialect }: Frame): Result | undefined {
  if (left.kind === "map" && right.kind === "map" && (operator === "+" || (operator === "<<" && dialect === "groovy")))
    return mapOf([...left.entries, ...right.entries]);
  // Kotlin: a map and a pair.
  if (left.kind === "map" && right.kind === "list" && operator === "+" && dialect === "kotlin") {
    const pairs = right.items.every((item) => item.kind === "list") ? right.items : [right];
    return mapOf([
      ...left.entries,
      ...pairs.flatMap((pair) => {
        const key = pair.kind === "list" ? textIn(pair.items[0]) : undefined;
        return pair.kind === "list" && key !== undefined ? [[key, pair.items[1] ?? NOTHING] as const] : [];
      }),
    ]);
  }
  if (left.kind !== "list") return undefined;
  if ((operator === "+" || operator === "|") && right.kind === "list") {
    if (left.items.length + right.items.length > MAX_ITEMS) return unknown(reason("list-too-long"), place);
    const from = left.perhapsFrom ?? (right.perhapsFrom === undefined ? undefined : left.items.length + right.perhapsFrom);
    const items = operator === "+" ? [...left.items, ...right.items] : distinct([...left.items, ...right.items]);
    return listOf(items, from);
  }
  if (operator === "+" && dialect !== "ruby" && dialect !== "javascript") return listOf([...left.items, right], left.perhapsFrom);
  if (operator === "<<") return listOf([...left.items, right], left.perhapsFrom);
  if (operator === "-" || operator === "&") {
    const others = right.kind === "list" ? right.items : [right];
    if (!left.items.every(isPlain) || !others.every(isPlain)) return undefined;
    return listOf(left.items.filter((item) => others.some((other) => textIn(other) === textIn(item)) === (operator === "&")));
  }
  if (operator === "*" && dialect === "ruby" && right.kind === "known" && !right.type) return joinTexts(left.items, right.text, place);
  if ((operator === "==" || operator === "!=") && right.kind === "list" && left.items.every(isPlain) && right.items.every(isPlain)) {
    const same = left.items.length === right.items.length && left.items.every((item, index) => textIn(item) === textIn(right.items[index]));
    return truthValue(same === (operator === "=="), place);
  }
  return undefined;
}

export function isPlain(result: Result): result is KnownValue {
  return result.kind === "known";
}

export function distinct(items: readonly Result[]): Result[] {
  const seen = new Set<string>();
  return items.filter((item) => {
    if (item.kind !== "known") return true;
    const key = `${item.type ?? ""} ${item.text}`;
    return !seen.has(key) && seen.add(key);
  });
}

/** The texts of a list in one, with what stands between them. */
export function joinTexts(items: readonly Result[], glue: string, place: Place): Result {
  const texts: string[] = [];
  for (const item of items) {
    const value = toValue(item, place);
    if (value.kind === "unknown") return value;
    if (value.kind === "either") return unknown(OPEN, place);
    texts.push(value.text);
  }
  if (texts.reduce((sum, text) => sum + text.length + glue.length, 0) > MAX_TEXT) return unknown(reason("text-too-long"), place);
  const [first] = items;
  return { kind: "known", text: texts.join(glue), place: first && isValue(first) ? first.place : place };
}

/** Whether something is in a list, range, map or text; `undefined` where nobody can tell. */
export function holds(container: Result, item: Result): boolean | undefined {
  const text = textIn(item);
  if (text === undefined) return undefined;
  if (container.kind === "known") return container.text.includes(text);
  if (container.kind === "map") return container.entries.has(text);
  if (container.kind === "nothing") return undefined;
  if (container.kind !== "list") return undefined;
  const sure = container.items.slice(0, container.perhapsFrom);
  if (sure.some((own) => textIn(own) === text)) return true;
  return container.perhapsFrom === undefined && container.items.every(isPlain) ? false : undefined;
}

/** `'21' as Integer`, `(int) x`, `(String) x`: Groovy converts, the others only say of which type a value is. */
export function cast(value: Result, type: string, place: Place, { dialect }: Frame): Result {
  if (dialect !== "groovy" || value.kind !== "known") return value;
  if (/^(int|Integer|long|Long)$/.test(type)) {
    const number = /^-?\d+\.\d+$/.test(value.text) && value.type === "number" ? value.text.split(".")[0] : toInteger(value.text, dialect);
    return number === undefined
      ? unknown(reason("no-whole-number", { text: value.text.slice(0, 40) }), place)
      : { ...value, text: number, type: "number" };
  }
  if (/^(String|GString)$/.test(type)) return { kind: "known", text: value.text, place: value.place };
  if (/^[bB]oolean$/.test(type)) return { ...value, text: String(isTrue(value, dialect)), type: "boolean" };
  return value;
}

/** Whether a value is of a type, by the names that the languages have for it; `undefined` for other types, and where nobody can tell. */
export function isOfType(value: Result, type: string): boolean | undefined {
  const kind = KINDS[type];
  if (!kind || value.kind === "unknown" || value.kind === "either") return undefined;
  return (value.kind === "known" ? (value.type ?? "text") : value.kind) === kind;
}

const KINDS: Record<string, string | undefined> = {
  String: "text",
  CharSequence: "text",
  GString: "text",
  Integer: "number",
  Int: "number",
  Numeric: "number",
  Number: "number",
  Boolean: "boolean",
  Array: "list",
  List: "list",
  Collection: "list",
  Hash: "map",
  Map: "map",
  NilClass: "nothing",
  Proc: "function",
  Closure: "function",
};

function range(operator: string, left: Result, right: Result, place: Place, frame: Frame): Result {
  const [from, to] = [textIn(left), textIn(right)];
  if (from === undefined || to === undefined) return unknown(reason("range-ends-missing"), place);
  if (/^[a-z]$/i.test(from) && /^[a-z]$/i.test(to) && operator === "..") {
    const codes = [from.charCodeAt(0), to.charCodeAt(0)] as const;
    const items = Array.from({ length: Math.max(0, codes[1] - codes[0] + 1) }, (_, index) => ({
      kind: "known" as const,
      text: String.fromCharCode(codes[0] + index),
      place,
    }));
    return listOf(items);
  }
  if (!/^-?\d{1,9}$/.test(from) || !/^-?\d{1,9}$/.test(to)) return unknown(reason("range-of-texts"), place);
  const excludes = operator === "..<" || operator === "until" || (operator === "..." && frame.dialect === "ruby");
  const [start, stop] = [Number(from), Number(to)];
  // Only Groovy counts down where the end is smaller.
  const down = operator === "downTo" || (start > stop && frame.dialect === "groovy");
  const count = Math.max(0, (down ? start - stop : stop - start) + (excludes ? 0 : 1));
  if (count > MAX_ITEMS) return unknown(reason("list-too-long"), place);
  return listOf(Array.from({ length: count }, (_, index) => numberOf(down ? start - index : start + index, place)));
}

function matches(operator: string, left: Result, right: Result, place: Place, dialect: Frame["dialect"]): Result {
  const subject = textIn(left);
  const pattern =
    right.kind === "pattern" ? right : right.kind === "known" ? { kind: "pattern" as const, text: right.text, flags: "" } : undefined;
  if (subject === undefined || !pattern) return left.kind === "nothing" ? truthValue(operator === "!~", place) : unknown(OPEN, place);
  const compiled = plainPattern(pattern, subject);
  if (!compiled) return unknown(reason("pattern-not-matched"), place);
  // Groovy gives all that is found, each with its groups; nothing found is false.
  if (operator === "=~" && dialect === "groovy")
    return listOf(
      [...subject.matchAll(compiled)].map((match) => {
        const groups = match.map((text: string | undefined): Result => (text === undefined ? NOTHING : { kind: "known", text, place }));
        return groups.length > 1 ? listOf(groups) : (groups[0] ?? NOTHING);
      }),
    );
  const found = compiled.exec(subject);
  const whole = operator !== "==~" || found?.[0] === subject;
  return truthValue((found !== null && whole) === (operator !== "!~"), place);
}

/** Ruby: `"%s-%s" % [a, b]` */
function format(left: KnownValue, right: Result, place: Place): Result {
  const values = (right.kind === "list" ? right.items : [right]).map(textIn);
  const text = values.every((value) => value !== undefined) ? formatted(left.text, values) : undefined;
  return text === undefined ? unknown(reason("format-not-worked-out"), place) : { kind: "known", text, place: left.place };
}

/** Versions that were made to be compared (`Gem::Version.new("1.2") >= …`). */
function compareObjects(operator: string, left: Result & { kind: "object" }, right: Result & { kind: "object" }, place: Place): Result {
  const compare = left.name === right.name ? COMPARED[left.name] : undefined;
  if (!compare || typeof left.of !== "string" || typeof right.of !== "string") return unknown(OPEN, place);
  const order = compare(left.of, right.of);
  if (operator === "==" || operator === "!=") return truthValue((order === 0) === (operator === "=="), place);
  const result = ordered(operator, order);
  return result ? { kind: "known", place, ...result } : unknown(OPEN, place);
}

/** How objects of a name are ordered. */
const COMPARED: Record<string, (a: string, b: string) => number> = { "Gem::Version": compareGems };
