/**
 * pub's order of versions and its constraints.
 * Source: dart.dev, "Package dependencies, Version constraints"; the package pub_semver (build numbers rank, unlike in SemVer).
 */
import { compareNumbers } from "./gradle.js";

interface Parsed {
  numbers: [string, string, string];
  pre: string[];
  build: string[];
}

function isValid(version: string): boolean {
  return parse(version) !== undefined;
}

function parse(text: string): Parsed | undefined {
  const match = /^(\d+)\.(\d+)\.(\d+)(?:-([0-9A-Za-z-]+(?:\.[0-9A-Za-z-]+)*))?(?:\+([0-9A-Za-z-]+(?:\.[0-9A-Za-z-]+)*))?$/.exec(
    text.trim(),
  );
  if (!match) return undefined;
  return {
    numbers: [match[1] as string, match[2] as string, match[3] as string],
    pre: match[4]?.split(".") ?? [],
    build: match[5]?.split(".") ?? [],
  };
}

/** Negative when `a` is older than `b`. Texts that are no versions rank lowest. */
export function compare(a: string, b: string): number {
  const left = parse(a);
  const right = parse(b);
  if (!left || !right) return left ? 1 : right ? -1 : 0;
  for (let index = 0; index < 3; index++) {
    const order = compareNumbers(left.numbers[index] as string, right.numbers[index] as string);
    if (order !== 0) return Math.sign(order);
  }
  if ((left.pre.length === 0) !== (right.pre.length === 0)) return left.pre.length === 0 ? 1 : -1;
  return compareParts(left.pre, right.pre) || compareParts(left.build, right.build);
}

function compareParts(a: string[], b: string[]): number {
  for (let index = 0; index < Math.max(a.length, b.length); index++) {
    const left = a[index];
    const right = b[index];
    if (left === undefined || right === undefined) return left === undefined ? -1 : 1;
    if (left === right) continue;
    const numbers = [/^\d+$/.test(left), /^\d+$/.test(right)];
    if (numbers[0] && numbers[1]) {
      const order = compareNumbers(left, right);
      if (order !== 0) return Math.sign(order);
    } else if (numbers[0] !== numbers[1]) return numbers[0] ? -1 : 1;
    else return left < right ? -1 : 1;
  }
  return 0;
}

/** `any`, `1.2.3`, `^1.2.3`, `>=1.0.0 <2.0.0`. `undefined` for what is no constraint. */
export function satisfies(version: string, constraint: string): boolean | undefined {
  const text = constraint.trim();
  if (!isValid(version)) return undefined;
  if (text === "any" || text === "") return true;
  const caret = /^\^\s*(\S+)$/.exec(text);
  if (caret) {
    const from = parse(caret[1] as string);
    if (!from) return undefined;
    return compare(version, caret[1] as string) >= 0 && below(version, nextBreaking(from), caret[1] as string);
  }
  const comparisons = [...text.matchAll(/(>=|<=|>|<|)\s*(\d[^\s<>=]*)/g)];
  if (comparisons.length === 0 || comparisons.some((match) => !isValid(match[2] as string))) return undefined;
  const lowest = comparisons.find((match) => match[1] === ">=" || match[1] === ">")?.[2];
  return comparisons.every(([, operator, bound = ""]) => {
    const order = compare(version, bound);
    if (operator === ">=") return order >= 0;
    if (operator === ">") return order > 0;
    if (operator === "<=") return order <= 0;
    return operator === "<" ? below(version, bound, lowest) : order === 0;
  });
}

/** `<2.0.0` leaves out the pre-releases of 2.0.0, unless the lower bound is one of them. */
function below(version: string, bound: string, lowest: string | undefined): boolean {
  if (compare(version, bound) >= 0) return false;
  const own = parse(version);
  const top = parse(bound);
  if (!own || !top || top.pre.length > 0 || own.pre.length === 0 || own.numbers.join(".") !== top.numbers.join(".")) return true;
  const low = lowest === undefined ? undefined : parse(lowest);
  return low !== undefined && low.pre.length > 0 && low.numbers.join(".") === top.numbers.join(".");
}

function nextBreaking({ numbers }: Parsed): string {
  const [major, minor] = numbers;
  return major === "0" ? `0.${Number(minor) + 1}.0` : `${Number(major) + 1}.0.0`;
}
