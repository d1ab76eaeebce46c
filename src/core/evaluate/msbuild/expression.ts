import type { Place } from "../../model/place.js";
import { reason, type Reason } from "../../model/reason.js";
import { either, known, unknown, type Value } from "../../model/value.js";
import { functionOf, memberOf, type Called } from "./functions.js";

/** One text that an expression may have, and where it is written. */
export interface Option {
  text: string;
  at: Place;
}

/** What an expression can be: one of some texts, or unknown. */
export interface Worked {
  options: readonly Option[];
  /** Why it cannot be worked out; the options then say nothing. */
  why?: Reason;
  /** A property in it that nothing in the files sets: its text is empty, unless the caller of the build or the SDK says otherwise. */
  unset?: string;
}

/** What expressions are worked out against. */
export interface Scope {
  /** A property as it is at this point of the evaluation. */
  property(name: string): Worked | undefined;
  /** Files, by a path as `resolve` gives it. */
  exists(path: string): boolean;
  textOf(path: string): string | undefined;
  /** A path of the project, from the survey's root; `undefined` where it is absolute. */
  resolve(path: string): string | undefined;
}

/** Stands before a path that starts at the survey's root. XML cannot hold the character, so no text of a project has it. */
export const ROOT = "\u0001";
/** So many different texts are kept of one value. */
export const MOST_OPTIONS = 8;
/** No value of a build is longer; repeated doubling would be. */
const LONGEST = 20_000;
const DEEPEST = 40;

const TOO_DEEP: Worked = { options: [], why: reason("nested-too-deeply") };

/** Puts properties and property functions into a text. Source: learn.microsoft.com, "Property functions" and "MSBuild special characters". */
export function expand(text: string, at: Place, scope: Scope, depth = 0): Worked {
  if (!text.includes("$(") && !text.includes("@(")) return { options: [{ text: unescaped(text), at }] };
  if (depth > DEEPEST) return TOO_DEEP;
  if (text.includes("@(")) return { options: [], why: reason("made-of-items") };
  const parts: Worked[] = [];
  let from = 0;
  for (let start = text.indexOf("$("); start !== -1; start = text.indexOf("$(", from)) {
    const end = closing(text, start + 1);
    if (end === -1) return { options: [], why: reason("bracket-open") };
    if (start > from) parts.push({ options: [{ text: unescaped(text.slice(from, start)), at }] });
    parts.push(reference(text.slice(start + 2, end), at, scope, depth + 1));
    from = end + 1;
  }
  if (from < text.length) parts.push({ options: [{ text: unescaped(text.slice(from)), at }] });
  return parts.length === 1 ? (parts[0] as Worked) : combined(parts, (texts) => texts.join(""), at);
}

/** Works a function out for every choice of its arguments' texts; `undefined` from it is unknown. */
function combined(parts: readonly Worked[], work: (texts: string[]) => string | undefined, at: Place): Worked {
  const why = parts.find((part) => part.why !== undefined)?.why;
  if (why !== undefined) return { options: [], why };
  let choices: string[][] = [[]];
  for (const { options } of parts) {
    choices = choices.flatMap((choice) => options.map(({ text }) => [...choice, text]));
    if (choices.length > MOST_OPTIONS) return { options: [], why: reason("too-many-values") };
  }
  const texts = new Set<string>();
  for (const choice of choices) {
    const text = work(choice);
    if (text === undefined) return { options: [], why: reason("function-not-worked-out") };
    if (text.length > LONGEST) return { options: [], why: reason("value-too-long") };
    texts.add(text);
  }
  const unset = parts.find((part) => part.unset !== undefined)?.unset;
  return { options: [...texts].map((text) => ({ text, at })), ...(unset === undefined ? {} : { unset }) };
}

/** What stands between `$(` and `)`: a property, its members, or a function of a type. */
// eslint-disable-next-line complexity -- one pass over a reference: what it begins with, then each member in turn
function reference(text: string, at: Place, scope: Scope, depth: number): Worked {
  if (depth > DEEPEST) return TOO_DEEP;
  const trimmed = text.trim();
  const type = /^\[([\w.]+)\]::(\w+)/.exec(trimmed);
  const name = type ? undefined : /^[A-Za-z_][\w-]*/.exec(trimmed)?.[0];
  let rest: string;
  let value: Worked;
  if (type) {
    rest = trimmed.slice(type[0].length);
    const call = argumentsOf(rest, at, scope, depth);
    rest = call?.rest ?? rest;
    const work = functionOf(`${type[1] as string}::${type[2] as string}`, scope);
    value = work
      ? combined(call?.values ?? [], work, at)
      : { options: [], why: reason("call-not-worked-out", { call: type[2] as string }) };
  } else if (name !== undefined) {
    rest = trimmed.slice(name.length);
    value = scope.property(name) ?? { options: [{ text: "", at }], unset: name };
  } else return { options: [], why: reason("property-not-worked-out", { expression: trimmed.slice(0, 40) }) };
  for (rest = rest.trim(); rest !== "" && value.why === undefined; rest = rest.trim()) {
    const member = /^\.\s*(\w+)/.exec(rest);
    const index = /^\[\s*(\d{1,4})\s*\]/.exec(rest);
    if (!member && !index) return { options: [], why: reason("property-not-worked-out", { expression: trimmed.slice(0, 40) }) };
    let called: Called;
    if (member) {
      rest = rest.slice(member[0].length);
      const call = argumentsOf(rest, at, scope, depth);
      rest = call?.rest ?? rest;
      called = { name: member[1] as string, arguments: call?.values };
    } else {
      rest = rest.slice((index as RegExpExecArray)[0].length);
      called = { name: "[]", arguments: [{ options: [{ text: (index as RegExpExecArray)[1] as string, at }] }] };
    }
    const work = memberOf(called);
    value = work
      ? combined([value, ...(called.arguments ?? [])], work, at)
      : { options: [], why: reason("call-not-worked-out", { call: called.name }) };
  }
  return value;
}

/** Arguments in brackets at the start of a text, and what stands after them. */
function argumentsOf(text: string, at: Place, scope: Scope, depth: number): { values: Worked[]; rest: string } | undefined {
  const open = /^\s*\(/.exec(text);
  if (!open) return undefined;
  const end = closing(text, open[0].length - 1);
  if (end === -1) return { values: [{ options: [], why: reason("bracket-open") }], rest: "" };
  const inner = text.slice(open[0].length, end);
  const values = inner.trim() === "" ? [] : splitArguments(inner).map((part) => argument(part, at, scope, depth));
  return { values, rest: text.slice(end + 1) };
}

function argument(text: string, at: Place, scope: Scope, depth: number): Worked {
  const quoted = /^(['"`])([\s\S]*)\1$/.exec(text.trim());
  return expand(quoted ? (quoted[2] as string) : text.trim(), at, scope, depth);
}

function splitArguments(text: string): string[] {
  const parts: string[] = [];
  let from = 0;
  scan(text, 0, (index, depth) => {
    if (text[index] === "," && depth === 0) {
      parts.push(text.slice(from, index));
      from = index + 1;
    }
    return false;
  });
  return [...parts, text.slice(from)];
}

/** Where the bracket at `open` is closed; -1 where it is not. */
function closing(text: string, open: number): number {
  let found = -1;
  scan(text, open, (index, depth) => {
    if (text[index] !== ")" || depth !== 0) return false;
    found = index;
    return true;
  });
  return found;
}

/** Goes over a text outside of quotes; `depth` is that of the brackets around the character. */
function scan(text: string, from: number, stop: (index: number, depth: number) => boolean): void {
  let depth = 0;
  let quote: string | undefined;
  for (let index = from; index < text.length; index++) {
    const character = text[index] as string;
    if (quote !== undefined) {
      if (character === quote) quote = undefined;
      continue;
    }
    if (character === "'" || character === '"' || character === "`") quote = character;
    else if (character === "(") depth++;
    else if (character === ")") depth--;
    if (stop(index, depth)) return;
  }
}

/** `%3B` is a semicolon. */
function unescaped(text: string): string {
  return text.includes("%") ? text.replace(/%([0-9A-Fa-f]{2})/g, (_, code: string) => String.fromCharCode(parseInt(code, 16))) : text;
}

/** What is worked out as a value of the model: paths lose the mark of the root. */
export function valueOf(worked: Worked, at: Place): Value {
  if (worked.why !== undefined) return unknown(worked.why, at);
  if (worked.unset !== undefined) return unknown(reason("msbuild-property-without-value", { name: worked.unset }), at);
  return either(
    worked.options.map((option) => known(option.text.replaceAll(ROOT, ""), option.at)),
    at,
  );
}
