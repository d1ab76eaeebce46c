import type { Place } from "../../model/place.js";
import { expand, type Scope, type Worked } from "./expression.js";

/**
 * Whether a condition holds; `undefined` where the files do not tell. A property that nothing sets is empty where it is compared with
 * nothing; compared with a text it is undecided, as whoever starts the build can set it.
 * Source: learn.microsoft.com, "MSBuild conditions".
 */
export function holds(text: string, at: Place, scope: Scope): boolean | undefined {
  try {
    const parser = new ConditionParser(text, at, scope);
    const value = parser.either();
    return parser.done ? value : undefined;
  } catch (error) {
    if (error instanceof NotRead) return undefined;
    throw error;
  }
}

class NotRead extends Error {}

const DEEPEST = 60;

class ConditionParser {
  private index = 0;
  private depth = 0;

  constructor(
    private readonly text: string,
    private readonly at: Place,
    private readonly scope: Scope,
  ) {}

  get done(): boolean {
    this.space();
    return this.index >= this.text.length;
  }

  either(): boolean | undefined {
    const parts = [this.both()];
    while (this.word("or")) parts.push(this.both());
    return parts.includes(true) ? true : parts.includes(undefined) ? undefined : false;
  }

  private both(): boolean | undefined {
    const parts = [this.not()];
    while (this.word("and")) parts.push(this.not());
    return parts.includes(false) ? false : parts.includes(undefined) ? undefined : true;
  }

  private not(): boolean | undefined {
    if (++this.depth > DEEPEST) throw new NotRead();
    this.space();
    let value: boolean | undefined;
    if (this.text[this.index] === "!" && this.text[this.index + 1] !== "=") {
      this.index++;
      const inner = this.not();
      value = inner === undefined ? undefined : !inner;
    } else if (this.text[this.index] === "(") {
      this.index++;
      value = this.either();
      this.space();
      if (this.text[this.index++] !== ")") throw new NotRead();
    } else value = this.comparison();
    this.depth--;
    return value;
  }

  private comparison(): boolean | undefined {
    const call = /^(Exists|HasTrailingSlash)\s*\(/i.exec(this.rest());
    if (call) {
      this.index += call[0].length;
      const path = this.operand();
      this.space();
      if (this.text[this.index++] !== ")") throw new NotRead();
      if (path.why !== undefined || path.unset !== undefined) return undefined;
      return alike(
        path.options.map(({ text }) => {
          if (/^HasTrailingSlash/i.test(call[0])) return /[\\/]$/.test(text);
          if (text === "") return false;
          const file = this.scope.resolve(text);
          return file === undefined ? undefined : this.scope.exists(file);
        }),
      );
    }
    const left = this.operand();
    const operator = /^\s*(==|!=|<=|>=|<|>)/.exec(this.rest());
    if (!operator) return truth(left);
    this.index += operator[0].length;
    return compared(left, operator[1] as string, this.operand());
  }

  private operand(): Worked {
    this.space();
    const rest = this.rest();
    if (rest.startsWith("'")) {
      const inner = quotedText(rest);
      this.index += inner.length + 2;
      return expand(inner, this.at, this.scope);
    }
    if (rest.startsWith("$(")) {
      const end = referenceEnd(rest);
      if (end === -1) throw new NotRead();
      this.index += end;
      return expand(rest.slice(0, end), this.at, this.scope);
    }
    const word = /^[\w.+-]+/.exec(rest);
    if (!word) throw new NotRead();
    this.index += word[0].length;
    return { options: [{ text: word[0], at: this.at }] };
  }

  private word(word: string): boolean {
    const match = new RegExp(`^\\s*${word}(?![\\w.])`, "i").exec(this.rest());
    if (match) this.index += match[0].length;
    return match !== null;
  }

  private space(): void {
    while (/\s/.test(this.text[this.index] ?? "")) this.index++;
  }

  private rest(): string {
    this.space();
    return this.text.slice(this.index);
  }
}

/** The text after a quote up to the quote that ends it: quotes inside of `$( )` are part of it. */
function quotedText(rest: string): string {
  let depth = 0;
  for (let index = 1; index < rest.length; index++) {
    if (rest.startsWith("$(", index)) {
      depth++;
      index++;
    } else if (depth > 0 && rest[index] === "(") depth++;
    else if (depth > 0 && rest[index] === ")") depth--;
    else if (depth === 0 && rest[index] === "'") return rest.slice(1, index);
  }
  throw new NotRead();
}

function referenceEnd(rest: string): number {
  let depth = 0;
  for (let index = 1; index < rest.length; index++) {
    if (rest[index] === "(") depth++;
    else if (rest[index] === ")" && --depth === 0) return index + 1;
  }
  return -1;
}

const TRUE = /^(true|on|yes|!false|!off|!no)$/i;
const FALSE = /^(false|off|no|!true|!on|!yes)$/i;

function truth(worked: Worked): boolean | undefined {
  if (worked.why !== undefined || worked.unset !== undefined) return undefined;
  return alike(worked.options.map(({ text }) => (TRUE.test(text.trim()) ? true : FALSE.test(text.trim()) ? false : undefined)));
}

function compared(a: Worked, operator: string, b: Worked): boolean | undefined {
  if (a.why !== undefined || b.why !== undefined) return undefined;
  const empty = (worked: Worked): boolean => worked.options.every(({ text }) => text === "") && worked.unset === undefined;
  // What nobody sets is certain only where it is asked whether it is set.
  if ((a.unset !== undefined && !empty(b)) || (b.unset !== undefined && !empty(a))) return undefined;
  return alike(a.options.flatMap((left) => b.options.map((right) => comparedTexts(left.text, operator, right.text))));
}

function comparedTexts(a: string, operator: string, b: string): boolean | undefined {
  const [x, y] = [numberOf(a), numberOf(b)];
  const same = x !== undefined && y !== undefined ? x === y : a.toLowerCase() === b.toLowerCase() || sameTruth(a, b);
  if (operator === "==") return same;
  if (operator === "!=") return !same;
  if (x === undefined || y === undefined) return undefined;
  return operator === "<" ? x < y : operator === "<=" ? x <= y : operator === ">" ? x > y : x >= y;
}

function sameTruth(a: string, b: string): boolean {
  return (TRUE.test(a) && TRUE.test(b)) || (FALSE.test(a) && FALSE.test(b));
}

function numberOf(text: string): number | undefined {
  return /^[+-]?\d+(\.\d+)?$/.test(text) ? Number(text) : /^0x[0-9a-f]+$/i.test(text) ? parseInt(text, 16) : undefined;
}

/** The answer that all share. */
function alike(answers: readonly (boolean | undefined)[]): boolean | undefined {
  const [first] = answers;
  return answers.every((answer) => answer === first) ? first : undefined;
}
