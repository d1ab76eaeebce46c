/**
 * Maven's order of versions and ranges.
 * Source: Maven documentation, "POM Reference: Version Order Specification" and "Dependency Version Requirement Specification".
 */
import { compareNumbers } from "./gradle.js";

type Item = { number: string } | { word: string } | Item[];

const QUALIFIERS = ["alpha", "beta", "milestone", "rc", "snapshot", "", "sp"];
const ALIASES: Record<string, string> = { ga: "", final: "", release: "", cr: "rc" };
const SHORT: Record<string, string> = { a: "alpha", b: "beta", m: "milestone" };

/** Negative when `a` is older than `b`, positive when newer, 0 when equal (`1` equals `1.0.0`, `1-ga` equals `1`). */
export function compare(a: string, b: string): number {
  return compareItems(parse(a), parse(b));
}

/** A dash, and every change between digits and letters, opens a list inside the list. */
function parse(version: string): Item[] {
  const text = version.toLowerCase();
  const root: Item[] = [];
  const lists: Item[][] = [root];
  let list = root;
  let start = 0;
  let digits = false;
  const nest = (): void => {
    const inner: Item[] = [];
    list.push(inner);
    lists.push(inner);
    list = inner;
  };
  const item = (end: number): Item => {
    const part = text.slice(start, end);
    return digits ? { number: part } : { word: ALIASES[part] ?? part };
  };
  for (let index = 0; index < text.length; index++) {
    const char = text[index] as string;
    if (char === "." || char === "-") {
      list.push(index === start ? { number: "0" } : item(index));
      start = index + 1;
      if (char === "-") nest();
    } else if (/\d/.test(char)) {
      if (!digits && index > start) {
        if (list.length > 0) nest();
        const part = text.slice(start, index);
        const long = SHORT[part] ?? part;
        list.push({ word: ALIASES[long] ?? long });
        start = index;
        nest();
      }
      digits = true;
    } else {
      if (digits && index > start) {
        list.push(item(index));
        start = index;
        nest();
      }
      digits = false;
    }
  }
  if (text.length > start) {
    if (!digits && list.length > 0) nest();
    list.push(item(text.length));
  }
  for (const inner of lists.reverse()) normalize(inner);
  return root;
}

/** Drops empty parts from the end, up to the last part that says something. */
function normalize(list: Item[]): void {
  for (let index = list.length - 1; index >= 0; index--) {
    const item = list[index] as Item;
    if (isEmpty(item)) list.splice(index, 1);
    else if (!Array.isArray(item)) return;
  }
}

function isEmpty(item: Item): boolean {
  if (Array.isArray(item)) return item.length === 0;
  return "number" in item ? /^0*$/.test(item.number) : item.word === "";
}

function rank(word: string): string {
  const index = QUALIFIERS.indexOf(word);
  return index === -1 ? `${QUALIFIERS.length}-${word}` : String(index);
}

function compareWords(a: string, b: string): number {
  const left = rank(a);
  const right = rank(b);
  return left < right ? -1 : left > right ? 1 : 0;
}

/** Where kinds differ: a number stands above a list, a list above a word. */
function height(item: Item): number {
  if (Array.isArray(item)) return 1;
  return "number" in item ? 2 : 0;
}

function compareItems(a: Item | undefined, b: Item | undefined): number {
  if (a === undefined) return b === undefined ? 0 : -compareItems(b, undefined);
  if (b === undefined) {
    if (!Array.isArray(a)) return "number" in a ? (isEmpty(a) ? 0 : 1) : compareWords(a.word, "");
    for (const item of a) {
      const result = compareItems(item, undefined);
      if (result !== 0) return result;
    }
    return 0;
  }
  if (Array.isArray(a) && Array.isArray(b)) {
    for (let index = 0; index < Math.max(a.length, b.length); index++) {
      const result = compareItems(a[index], b[index]);
      if (result !== 0) return result;
    }
    return 0;
  }
  if ("number" in a && "number" in b) return Math.sign(compareNumbers(a.number, b.number));
  if ("word" in a && "word" in b) return compareWords(a.word, b.word);
  return Math.sign(height(a) - height(b));
}

/** Whether `version` lies in a Maven range (`[1.0,2.0)`, `(,1.0],[1.2,)`); a plain version is a recommendation that any version fits. */
export function satisfies(version: string, range: string): boolean {
  const sets = [...range.matchAll(/([[(])([^\])]*)([\])])/g)];
  if (sets.length === 0) return true;
  return sets.some(([, open, inner = "", close]) => {
    const [low = "", high] = inner.split(",").map((part) => part.trim());
    if (high === undefined) return compare(version, low) === 0;
    const above = low === "" || (open === "[" ? compare(version, low) >= 0 : compare(version, low) > 0);
    const below = high === "" || (close === "]" ? compare(version, high) <= 0 : compare(version, high) < 0);
    return above && below;
  });
}
