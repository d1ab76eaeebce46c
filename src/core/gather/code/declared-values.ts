import type { CodeFile, CodeFunction, CodeType } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { expressionAt, givenAt, type GivenValue } from "../../syntax/code/expression.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import { escaped } from "./mentions.js";
import { headerOf } from "./parameters.js";
import { isScript } from "./sources.js";

/** Where a name is given what it stands for. */
export interface Declaration {
  at: number;
  /** Where its value begins; `undefined` where only its type is said. */
  value: number | undefined;
  /** The value is what a closure gives that begins there. */
  inBraces: boolean;
  type: string | undefined;
  /** The member of the value that it stands for, where that is taken apart. */
  key: string | undefined;
}

/** The declarations of a name in a file, in their order. */
export function declarationsIn({ plain, language }: CodeFile, name: string): Declaration[] {
  const own = escaped(name);
  const found: Declaration[] = [];
  const add = (at: number, value: number | undefined, more: Partial<Declaration> = {}): void =>
    void found.push({ at, value, inBraces: false, type: undefined, key: undefined, ...more });
  const word =
    "(?:val|var|let|const|final|late|static|readonly|private|public|internal|get|set|string|bool|int|dynamic|object|[A-Z][\\w.]*(?:<[^;={}()]*>)?\\??(?:\\[\\])?)";
  // Commas stand in the brackets of a type as well: `Record<Stage, string>`, `(a: A, b: B) => C`.
  const part = "(?:[^=\\n{};<>,()]|<(?:[^<>=;]|<[^<>=;]*>)*>|\\([^()]*\\)|=>)";
  const typed = `(?:\\s*[?!]?\\s*:\\s*(${part}{1,120}?(?:\\{[^{}]*\\})?${part}{0,60}?))?`;
  for (const match of plain.matchAll(
    new RegExp(
      `(?<![\\w$.])${word}[ \\t]+${own}(?![\\w$])${typed}\\s*(=>|=(?![=>])|\\{|by\\s+lazy\\b[^{\\n]{0,60}(?=\\{)|\\n?\\s*get\\(\\)\\s*=|(?=[;\\n,)}]))`,
      "g",
    ),
  )) {
    const end = match.index + match[0].length;
    const sign = match[2] ?? "";
    const type = match[1]?.trim();
    if (sign === "{") {
      // A computed property of Swift, or a getter of Dart; in C# what gives and takes it.
      if (language === "swift" || language === "dart")
        add(match.index, end - 1, { inBraces: true, ...(type === undefined ? {} : { type }) });
    } else if (sign === "") {
      if (type !== undefined || /^[A-Z]/.test(match[0])) add(match.index, undefined, { type: type ?? /^[A-Z][\w.]*/.exec(match[0])?.[0] });
    } else add(match.index, end, { inBraces: sign.startsWith("by"), ...(type === undefined ? {} : { type }) });
  }
  if (isScript(language))
    for (const match of plain.matchAll(new RegExp(`\\b(?:const|let|var)\\s*\\{([^{}=]*?)\\}\\s*(?::[^=\\n]{1,80})?=\\s*`, "g"))) {
      const part = (match[1] ?? "").split(",").find((item) => new RegExp(`^\\s*(?:[\\w$]+\\s*:\\s*)?${own}\\s*$`).test(item));
      if (part !== undefined) add(match.index, match.index + match[0].length, { key: /^\s*([\w$]+)/.exec(part)?.[1] });
    }
  return found.sort((a, b) => a.at - b.at);
}

/** Whether an offset stands in a function; those that only give a first value are none. */
export function isInFunction({ functions }: CodeFile, at: number): boolean {
  return functions.some(({ kind, from, to }) => kind !== "initializer" && kind !== "property" && at > from && at < to);
}

/** Whether an offset stands in a type or function. */
export function isInside(code: CodeFile, at: number): boolean {
  return isInFunction(code, at) || code.types.some(({ from, to }) => at >= from && at < to);
}

/** The innermost function around an offset; -1 outside of any. */
export function innermost({ functions }: CodeFile, at: number): number {
  let found = -1;
  functions.forEach(({ from, to, kind }, index) => {
    const known = functions[found];
    if (kind !== "initializer" && at > from && at < to && (!known || to - from < known.to - known.from)) found = index;
  });
  return found;
}

/** Whether a value says that there is nothing yet: `null`, `nil!`. */
export function isNothing({ plain }: CodeFile, at: number): boolean {
  return /^(?:null|nil|undefined|default)\b/.test(plain.slice(at, at + 12));
}

/** The innermost type around an offset. */
export function typeAt({ types }: CodeFile, at: number): string {
  return types.filter(({ from, to }) => at >= from && at < to).sort((a, b) => a.to - a.from - (b.to - b.from))[0]?.name ?? "";
}

/** The constructors of a type in a file. */
export function constructorsOf({ functions }: CodeFile, type: string): { fn: CodeFunction; index: number }[] {
  return functions.flatMap((fn, index) => (fn.type === type && fn.kind === "constructor" ? [{ fn, index }] : []));
}

/** Whether a file gives a name a value in another statement than its declaration, which stands between two offsets. */
export function isSetElsewhere({ plain }: CodeFile, name: string, from: number, to: number): boolean {
  return [...plain.matchAll(new RegExp(`(?<![\\w$.>])(?:(?:this|self)(?:\\.|->))?${escaped(name)}\\s*=(?![=>~])`, "g"))].some(
    ({ index: at }) => !(at >= from && at < to) && /(?:^|[;{})]|[^,(\s]\s*\n)\s*$/.test(plain.slice(Math.max(0, at - 200), at)),
  );
}

/** Whether a function gives a name another value behind its declaration. */
export function isSetAgain({ plain }: CodeFile, { to }: CodeFunction, name: string, declared: number): boolean {
  return new RegExp(`(?:^|[;{}\\n])\\s*${escaped(name)}\\s*(?:[-*/|&?]{1,2})?=(?![=>])`).test(
    plain.slice(plain.indexOf("\n", declared), to),
  );
}

/** What a constant of an enumeration is made with: `production(mapKey: "…")`. Sources: dart.dev, "Enumerated types"; kotlinlang.org, "Enum classes". */
export function constantIn(code: CodeFile, { from, to }: CodeType, name: string): readonly GivenValue[] | undefined {
  if (!/\benum\s+(?:class\s+)?$/.test(code.plain.slice(Math.max(0, from - 20), from))) return undefined;
  const body = code.plain.indexOf("{", from);
  const found = new RegExp(`(?:^\\{|[,{])\\s*${escaped(name)}\\s*(?=\\()`).exec(code.plain.slice(body, to));
  return found ? givenAt(code, body + found.index + found[0].length) : undefined;
}

/** The name that a constructor has beside that of its type. Source: dart.dev, "Constructors" (named constructors). */
export function constructorName({ plain, language }: CodeFile, { from, type }: CodeFunction): string | undefined {
  if (language !== "dart") return undefined;
  return new RegExp(`^(?:(?:const|factory|external)\\s+)*${escaped(type)}\\.(\\w+)`).exec(plain.slice(from, from + 200))?.[1];
}

/** Where the values begin that a function gives a property: `self.steps = `, `_steps = `. */
export function assignmentsIn({ plain }: CodeFile, { from, to }: CodeFunction, name: string): number[] {
  const found = new RegExp(`(?:^|[;{}\\n:,])\\s*(?:(?:this|self)\\s*\\.\\s*)?${escaped(name)}\\s*=(?![=>])\\s*`, "g");
  const body = plain.indexOf("{", from);
  return [...plain.slice(from, to).matchAll(found)]
    .filter(({ index, 0: text }) => from + index + text.length > body || /^:/.test(text.trim()))
    .map(({ index, 0: text }) => from + index + text.length);
}

/** Where the values of the returns of a block stand, those of functions in it left out. */
export function returns({ plain, functions }: CodeFile, from: number, to: number, own?: CodeFunction): number[] {
  return [...plain.slice(from, to).matchAll(/(?<![\w$.])return\s+(?=[^\s;}])/g)].flatMap(({ index, 0: text }) => {
    const at = from + index;
    const nested = functions.some((fn) => fn !== own && fn.kind !== "initializer" && fn.from > from && at > fn.from && at < fn.to);
    return nested ? [] : [at + text.length];
  });
}

/** Where the values begin that a function gives back. */
export function givenBack(ref: FunctionRef): number[] {
  const fn = functionOf(ref);
  if (!fn) return [];
  const { code } = ref;
  const { plain, language } = code;
  const header = headerOf(code, fn);
  const start = header ? closing(plain, header.open) + 1 : fn.from;
  const arrow = /^(?:[^={};]|\{[^{}]*\})*?(?:=>|=(?!=))\s*/.exec(plain.slice(start, Math.min(fn.to, start + 200)));
  const open = plain.indexOf("{", start);
  if (arrow && (open === -1 || start + arrow[0].length <= open || language === "kotlin")) {
    const at = start + arrow[0].length;
    if (plain[at] !== "{") return [at];
  }
  if (open === -1 || open >= fn.to) return [];
  const found = returns(code, open + 1, fn.to, fn);
  if (found.length > 0 || language !== "swift") return found;
  // The only expression of a function of Swift is what it gives.
  const expression = expressionAt(code, open + 1);
  return expression.kind !== "other" && plain.slice(expression.to, fn.to - 1).trim() === "" ? [open + 1] : [];
}
