import { reason } from "../model/reason.js";
import { either, known, unknown, type KnownValue, type Value } from "../model/value.js";
import type { Place } from "../model/place.js";
import { placeOf, type Data } from "../syntax/data.js";
import type { Parameter, Statement } from "../syntax/script/ast.js";
import type { Frame } from "./frame.js";

export interface ListResult {
  kind: "list";
  items: readonly Result[];
  /** From which item on it depends on the build whether they are in it. */
  perhapsFrom?: number;
}

export interface MapResult {
  kind: "map";
  entries: ReadonlyMap<string, Result>;
  /** Where the keys are written, where that is in one file. */
  keys?: ReadonlyMap<string, Place>;
  /** What it gives for keys that it does not have; nothing without it. */
  otherwise?: Result;
}

/** A function of the script: a declaration, or a closure. */
export interface FunctionResult {
  kind: "function";
  parameters: readonly Parameter[];
  body: readonly Statement[];
  /** Where it was written: whose variables it sees. */
  frame: Frame;
  /** Has a name of its own: `return` ends it. */
  isMethod: boolean;
}

/** Something with a meaning of its own, which a host or the evaluation gave out: a specification, a version that can be compared. */
export interface ObjectResult {
  kind: "object";
  name: string;
  of: unknown;
}

/** A regular expression. */
export interface PatternResult {
  kind: "pattern";
  text: string;
  flags: string;
}

/** Nothing there: `null`, or a look-up that found nothing. */
export interface NothingResult {
  kind: "nothing";
}

export type Result = Value | ListResult | MapResult | FunctionResult | ObjectResult | PatternResult | NothingResult;

export const NOTHING: NothingResult = { kind: "nothing" };

export function listOf(items: readonly Result[], perhapsFrom?: number): ListResult {
  return perhapsFrom === undefined || perhapsFrom >= items.length ? { kind: "list", items } : { kind: "list", items, perhapsFrom };
}

export function mapOf(entries: Iterable<readonly [string, Result]>): MapResult {
  return { kind: "map", entries: new Map(entries) };
}

/** A map with one entry more, or another one. */
export function withEntry(map: MapResult, key: string, value: Result): MapResult {
  return { ...map, entries: new Map([...map.entries, [key, value]]) };
}

export function numberOf(value: number | string, place: Place): KnownValue {
  return { ...known(String(value), place), type: "number" };
}

export function isValue(result: Result): result is Value {
  return result.kind === "known" || result.kind === "unknown" || result.kind === "either";
}

/** A result where a single value is expected. */
export function toValue(result: Result, place: Place): Value {
  if (isValue(result)) return result;
  if (result.kind === "nothing") return unknown(reason("nothing-gives-value"), place);
  if (result.kind === "object" && typeof result.of === "string") return known(result.of, place);
  return unknown(reason("not-a-value", { kind: result.kind }), place);
}

/** The text of a result that is certain. */
export function textIn(result: Result | undefined): string | undefined {
  return result?.kind === "known" ? result.text : undefined;
}

/** The whole number that a result is for certain. */
export function integerIn(result: Result | undefined): number | undefined {
  const text = textIn(result);
  return text !== undefined && /^-?\d{1,9}$/.test(text) ? Number(text) : undefined;
}

function placeIn(result: Result): Place | undefined {
  if (isValue(result)) return result.place;
  const first = result.kind === "list" ? result.items[0] : undefined;
  return first && isValue(first) ? first.place : undefined;
}

/** Says of a value that it only holds since a look-up found nothing. */
export function asFallback(result: Result): Result {
  return result.kind === "known" ? { ...result, fallback: true } : result;
}

/** What something is that may be any of several results. */
export function joined(results: readonly Result[], place: Place): Result {
  const [first] = results;
  if (!first) return NOTHING;
  if (results.every((result) => same(result, first))) return first;
  if (results.every((result) => result.kind === "list")) {
    const list = joinedLists(results);
    if (list) return list;
  }
  if (results.every((result) => result.kind === "map")) {
    const keys = new Set(results.flatMap(({ entries }) => [...entries.keys()]));
    return mapOf(
      [...keys].map((key) => [
        key,
        joined(
          results.map(({ entries }) => entries.get(key) ?? NOTHING),
          place,
        ),
      ]),
    );
  }
  const where = results.map(placeIn).find((found) => found !== undefined) ?? place;
  return either(
    results.map((result) => (result.kind === "nothing" ? unknown(reason("value-in-one-way-alone"), where) : toValue(result, where))),
    where,
  );
}

function same(a: Result, b: Result): boolean {
  if (a === b || (a.kind === "nothing" && b.kind === "nothing")) return true;
  return a.kind === "known" && b.kind === "known" && a.text === b.text && a.type === b.type;
}

/** Lists of which one begins like the others: what they share is in, the rest may be. */
function joinedLists(lists: readonly ListResult[]): ListResult | undefined {
  const longest = lists.reduce((a, b) => (b.items.length > a.items.length ? b : a));
  let shared = Math.min(...lists.map(({ items, perhapsFrom }) => Math.min(items.length, perhapsFrom ?? Infinity)));
  for (let index = 0; index < shared; index++) {
    const item = longest.items[index] as Result;
    if (!lists.every(({ items }) => same(items[index] as Result, item))) shared = index;
  }
  // What stands behind is in the list of one of the ways.
  const rest: Result[] = [];
  for (const { items } of lists) for (const item of items.slice(shared)) if (!rest.some((known_) => same(known_, item))) rest.push(item);
  return listOf([...longest.items.slice(0, shared), ...rest], shared);
}

/** Applies what works on each item for itself to a list of which a part may be missing. */
export function onParts(list: ListResult, work: (items: readonly Result[]) => readonly Result[]): ListResult {
  if (list.perhapsFrom === undefined) return listOf(work(list.items));
  const sure = work(list.items.slice(0, list.perhapsFrom));
  return listOf([...sure, ...work(list.items.slice(list.perhapsFrom))], sure.length);
}

/** What a data file holds, with its places. */
export function fromData(data: Data | undefined): Result {
  if (!data) return NOTHING;
  if (data.kind === "list") return listOf(data.items.map(fromData));
  if (data.kind === "map") return mapOf([...data.entries].map(([key, { value }]) => [key, fromData(value)] as const));
  return fromPlain(data.value, placeOf(data));
}

/** A text in JSON; `undefined` where it is none. */
export function fromText(text: string, place: Place): Result | undefined {
  try {
    return fromPlain(JSON.parse(text), place);
  } catch {
    return undefined;
  }
}

function fromPlain(value: unknown, place: Place): Result {
  if (value === null || value === undefined) return NOTHING;
  if (Array.isArray(value)) return listOf(value.map((item) => fromPlain(item, place)));
  if (typeof value === "object") return mapOf(Object.entries(value).map(([key, item]) => [key, fromPlain(item, place)] as const));
  if (typeof value === "number" || typeof value === "boolean")
    return { ...known(String(value), place), type: typeof value === "number" ? "number" : "boolean" };
  return known(String(value), place);
}
