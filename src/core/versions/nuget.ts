/**
 * NuGet's order of versions and its ranges.
 * Source: learn.microsoft.com, "NuGet package versioning" (normalized versions, ranges, floating versions).
 */
import { compareNumbers } from "./gradle.js";

interface Parsed {
  numbers: string[];
  pre: string[];
}

function parse(text: string): Parsed | undefined {
  const match = /^v?(\d+(?:\.\d+){0,3})(?:-([0-9A-Za-z.-]+))?(?:\+[0-9A-Za-z.-]*)?$/.exec(text.trim());
  if (!match) return undefined;
  const numbers = (match[1] as string).split(".");
  while (numbers.length < 4) numbers.push("0");
  return { numbers, pre: match[2]?.toLowerCase().split(".") ?? [] };
}

function isValid(version: string): boolean {
  return parse(version) !== undefined;
}

/** Negative when `a` is older than `b`. Case and build metadata do not count; `1.0` and `1.0.0.0` are one version. */
export function compare(a: string, b: string): number {
  const left = parse(a);
  const right = parse(b);
  if (!left || !right) return left ? 1 : right ? -1 : 0;
  for (let index = 0; index < 4; index++) {
    const order = compareNumbers(left.numbers[index] as string, right.numbers[index] as string);
    if (order !== 0) return Math.sign(order);
  }
  return comparePrereleases(left.pre, right.pre);
}

/** The parts behind the dash: none is newer than any, numbers come before words. */
function comparePrereleases(left: readonly string[], right: readonly string[]): number {
  if (left.length === 0 || right.length === 0) return left.length === right.length ? 0 : left.length === 0 ? 1 : -1;
  for (let index = 0; index < Math.max(left.length, right.length); index++) {
    const one = left[index];
    const other = right[index];
    if (one === undefined || other === undefined) return one === undefined ? -1 : 1;
    if (one === other) continue;
    const numbers = [/^\d+$/.test(one), /^\d+$/.test(other)];
    if (numbers[0] && numbers[1]) {
      const order = compareNumbers(one, other);
      if (order !== 0) return Math.sign(order);
    } else if (numbers[0] !== numbers[1]) return numbers[0] ? -1 : 1;
    else return one < other ? -1 : 1;
  }
  return 0;
}

/** True for a notation that takes what is newest: `*`, `1.*`, `1.0.0-*`. */
function isFloating(notation: string): boolean {
  return notation.includes("*");
}

/** `1.0` (this or newer), `[1.0]`, `[1.0,2.0)`, `(,2.0]`, `1.*`. `undefined` for what is no range. */
export function satisfies(version: string, range: string): boolean | undefined {
  const text = range.trim();
  if (!isValid(version)) return undefined;
  if (isFloating(text) && !/[[\](),]/.test(text)) return fitsFloating(version, text);
  if (isValid(text)) return compare(version, text) >= 0;
  const exact = /^\[\s*([^,\s]+)\s*\]$/.exec(text);
  if (exact) return isValid(exact[1] as string) ? compare(version, exact[1] as string) === 0 : undefined;
  return isWithinBounds(version, text);
}

/** `1.*`: the part before the star must be the same, and nothing may be older. */
function fitsFloating(version: string, range: string): boolean | undefined {
  const lowest = range.replace(/\.?\*$/, "").replace(/-$/, "-0");
  if (lowest === "") return true;
  if (!isValid(lowest)) return undefined;
  const fixed = range.includes("-") ? 4 : (lowest.split("-")[0]?.split(".").length ?? 0);
  const [own, wanted] = [version, lowest].map((text) => parse(text)?.numbers.slice(0, fixed).join("."));
  return own === wanted && compare(version, lowest) >= 0;
}

/** `[1.0,2.0)`, `(,2.0]`: each bound is in or out. */
function isWithinBounds(version: string, text: string): boolean | undefined {
  const match = /^([[(])\s*([^,\s]*)\s*,\s*([^,\s]*)\s*([\])])$/.exec(text);
  if (!match) return undefined;
  const [, open, low = "", high = "", close] = match;
  if ((low !== "" && !isValid(low)) || (high !== "" && !isValid(high))) return undefined;
  if (low !== "") {
    const order = compare(version, low);
    if (open === "[" ? order < 0 : order <= 0) return false;
  }
  if (high !== "") {
    const order = compare(version, high);
    if (close === "]" ? order > 0 : order >= 0) return false;
  }
  return true;
}
