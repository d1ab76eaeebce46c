/**
 * The order of RubyGems, which CocoaPods uses, and its requirements.
 * Source: RubyGems documentation of Gem::Version and Gem::Requirement.
 */
import { compareNumbers } from "./gradle.js";

export function isValid(version: string): boolean {
  return /^\s*([0-9]+(\.[0-9a-zA-Z]+)*(-[0-9A-Za-z-]+(\.[0-9A-Za-z-]+)*)?)?\s*$/.test(version);
}

/** Digits and words in order; a dash stands for `.pre.`. */
function segments(version: string): string[] {
  return (
    version
      .trim()
      .replaceAll("-", ".pre.")
      .match(/[0-9]+|[a-z]+/gi) ?? []
  );
}

/** Trailing zeros count for nothing, neither at the end nor before the first word. */
function canonical(version: string): string[] {
  const all = segments(version);
  const firstWord = all.findIndex((part) => /^[a-z]/i.test(part));
  const release = firstWord === -1 ? all : all.slice(0, firstWord);
  const rest = firstWord === -1 ? [] : all.slice(firstWord);
  return [...withoutTrailingZeros(release), ...withoutTrailingZeros(rest)];
}

function withoutTrailingZeros(parts: string[]): string[] {
  let end = parts.length;
  while (end > 0 && /^0+$/.test(parts[end - 1] as string)) end--;
  return parts.slice(0, end);
}

/** Negative when `a` is older than `b`, positive when newer, 0 when equal (`1.0` equals `1`). A word makes a pre-release. */
export function compare(a: string, b: string): number {
  const left = canonical(a);
  const right = canonical(b);
  for (let index = 0; index < Math.max(left.length, right.length); index++) {
    const l = left[index] ?? "0";
    const r = right[index] ?? "0";
    if (l === r) continue;
    const lWord = /^[a-z]/i.test(l);
    const rWord = /^[a-z]/i.test(r);
    if (lWord && !rWord) return -1;
    if (!lWord && rWord) return 1;
    const result = lWord ? (l < r ? -1 : 1) : Math.sign(compareNumbers(l, r));
    if (result !== 0) return result;
  }
  return 0;
}

/** Whether a version meets all requirements (`~> 1.2`, `>= 1.0`, `!= 1.3`, `1.0`). */
export function satisfies(version: string, ...requirements: string[]): boolean {
  return requirements
    .flatMap((requirement) => requirement.split(","))
    .map((requirement) => requirement.trim())
    .filter((requirement) => requirement !== "")
    .every((requirement) => meets(version, requirement));
}

function meets(version: string, requirement: string): boolean {
  const match = /^(=|!=|>=|<=|~>|>|<)?\s*(.+)$/.exec(requirement);
  if (!match) return true;
  const [, operator = "=", wanted = ""] = match;
  const order = compare(version, wanted);
  switch (operator) {
    case "!=":
      return order !== 0;
    case ">":
      return order > 0;
    case "<":
      return order < 0;
    case ">=":
      return order >= 0;
    case "<=":
      return order <= 0;
    case "~>":
      return order >= 0 && compare(release(version), bump(wanted)) < 0;
    default:
      return order === 0;
  }
}

/** The version without its pre-release part. */
function release(version: string): string {
  const parts = segments(version);
  const word = parts.findIndex((part) => /^[a-z]/i.test(part));
  return (word === -1 ? parts : parts.slice(0, word)).join(".") || "0";
}

/** `1.2.3` → `1.3`, `1.2` → `2`, `1` → `2`: what `~>` stays below. */
function bump(version: string): string {
  const parts = release(version).split(".");
  if (parts.length > 1) parts.pop();
  parts.push(String(BigInt(parts.pop() ?? "0") + 1n));
  return parts.join(".");
}
