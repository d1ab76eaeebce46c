import type { CodeFile, Language } from "../../model/code.js";
import { closing } from "./callee.js";
import { isScript } from "./languages.js";

/** A value of a call, with the label that stands before it. */
export interface GivenValue {
  label: string | undefined;
  value: Expression;
}

/** An expression of any of the languages, as far as what it holds can be told from how it is written; offsets are those of the file. */
export type Expression = { from: number; to: number } & (
  | { kind: "name"; name: string }
  /** A text, a number, or a word of the language that holds nothing. */
  | { kind: "literal" }
  /** `of` is missing where the language leaves it to what is asked for (`.live` of Swift). */
  | { kind: "member"; of: Expression | undefined; name: string }
  | { kind: "call"; callee: Expression; given: readonly GivenValue[] }
  /** A function that is handed over and not called: `::start`, `maps::start`, `#selector(start)`. */
  | { kind: "reference"; of: Expression | undefined; name: string }
  | { kind: "element"; of: Expression; key: string | undefined }
  /** `tuple`: several values that belong together, and not several of a kind. */
  | { kind: "list"; items: readonly Expression[]; tuple?: true }
  /** An object that is written out, by its keys; `others` are objects that it takes up. */
  | { kind: "object"; members: readonly { key: string; value: Expression }[]; others: readonly Expression[] }
  /** A function without a name; `gives` is what it gives where that is all it does. */
  | { kind: "closure"; parameters: readonly string[]; body: { from: number; to: number }; gives: Expression | undefined }
  /** `test` is the question that decides, where there is one: the first is meant where it holds. */
  | { kind: "either"; options: readonly Expression[]; test: string | undefined }
  | { kind: "joined"; parts: readonly Expression[] }
  /** An expression with the type that it is taken for: `application as FerryApp`. */
  | { kind: "typed"; of: Expression; type: string }
  | { kind: "other" }
);

/** Deeper expressions are not looked into. */
const DEEPEST = 12;

/** Longer ones neither, in UTF-16 units. */
const LONGEST = 4_000;

const WORD = /[A-Za-z_$][\w$]*/y;
/** Words before an expression that say nothing of what it holds. */
const BEFORE = /(?:await|async|new|try[?!]?|return|const|void|throws|consuming|borrowing)(?![\w$])\s*(?![=:,)\]};])/y;
/** Signs behind an expression that make another one of it. */
const GOES_ON = /\s*(?:&&|[=!]==?|[<>]=?|[*/%^](?!\/)|[-+](?![->])|\?(?!\.)|\b(?:is|in|instanceof)\s)/y;
const TYPE_ARGUMENTS = /<[\w\s,.?<>[\]:&|]*>(?=\s*(?:[.({]|::))/y;
const CAST = /\s*\b(?:as[?!]?|satisfies)\s+(?:const\b|(?:any\s+|some\s+)?([A-Za-z_$][\w$.]*(?:<[^<>]*>)?(?:\[[^\]]*\])*)\??)/y;

/** The expression that begins at an offset of a file. */
export function expressionAt({ plain, language }: Pick<CodeFile, "plain" | "language">, from: number): Expression {
  return new Reader(plain, language, Math.min(plain.length, from + LONGEST)).expression(from, 0);
}

/** What a call is given whose called name ends at an offset, closures behind the brackets too. */
export function givenAt({ plain, language }: Pick<CodeFile, "plain" | "language">, end: number): readonly GivenValue[] {
  return new Reader(plain, language, Math.min(plain.length, end + LONGEST)).given(end);
}

/** The names of the parameters of a function without a name. */
function namesIn(list: string, first: boolean): string[] {
  return list
    .replace(/[()]/g, "")
    .split(",")
    .flatMap((part) => (first ? /^\s*\.*([\w$]+)/.exec(part)?.[1] : /(\w+)\s*$/.exec(part)?.[1]) ?? []);
}

class Reader {
  constructor(
    private readonly text: string,
    private readonly language: Language,
    private readonly end: number,
  ) {}

  expression(start: number, depth: number): Expression {
    const from = this.skipped(start);
    if (depth > DEEPEST || from >= this.end) return { kind: "other", from, to: from };
    let found = this.primary(from, depth);
    for (;;) {
      const next = found.kind === "other" ? undefined : this.behind(found, from, depth);
      // What goes on in a way that is not understood is something else.
      if (!next) return this.isAt(GOES_ON, found.to) ? { kind: "other", from, to: found.to } : found;
      found = next;
    }
  }

  given(end: number): readonly GivenValue[] {
    let found: Expression = { kind: "name", name: "", from: end, to: end };
    for (let steps = 0; steps < 4; steps++) {
      const next: Expression | undefined = this.behind(found, end, 0);
      if (!next || (found.kind === "call" && (next.kind !== "call" || next.given.length === found.given.length))) break;
      found = next;
    }
    return found.kind === "call" ? found.given : [];
  }

  /** Where the text goes on behind spaces and words that say nothing. */
  private skipped(start: number): number {
    let at = start;
    for (;;) {
      while (at < this.end && /[\s@&]/.test(this.text[at] as string)) at++;
      BEFORE.lastIndex = at;
      const word = BEFORE.exec(this.text);
      if (!word) return at;
      at += word[0].length;
    }
  }

  private isAt(form: RegExp, at: number): RegExpExecArray | null {
    form.lastIndex = at;
    return form.exec(this.text);
  }

  // eslint-disable-next-line complexity -- one case for each way in which an expression begins
  private primary(from: number, depth: number): Expression {
    const { text, language } = this;
    const arrow = this.closureAt(from, depth);
    if (arrow) return arrow;
    const sign = text[from] as string;
    if (sign === "(") {
      const to = closing(text, from) + 1;
      const cast =
        language === "csharp" || language === "java" ? this.isAt(/\(\s*([A-Z][\w.]*)(?:<[^()]*>)?\s*\)(?=\s*[\w(])/y, from) : undefined;
      if (cast) {
        const of = this.expression(to, depth + 1);
        return { kind: "typed", of, type: cast[1] as string, from, to: of.to };
      }
      const inner = this.expression(from + 1, depth + 1);
      if (!/^\s*,/.test(text.slice(inner.to, inner.to + 20))) return { ...inner, to };
      return { kind: "list", items: this.items(from, depth).map(({ value }) => value), tuple: true, from, to };
    }
    if (sign === "[") return language === "objc" ? this.other(from) : this.list(from, from, depth);
    if (sign === "{") {
      if (language === "kotlin" || language === "swift") return this.braces(from, depth);
      return isScript(language) ? this.object(from, depth) : this.other(from);
    }
    if (sign === "." && language === "swift") {
      const name = this.isAt(WORD, from + 1)?.[0];
      return name === undefined ? this.other(from) : { kind: "member", of: undefined, name, from, to: from + 1 + name.length };
    }
    if (text.startsWith("::", from)) {
      const name = this.isAt(WORD, from + 2)?.[0];
      return name === undefined ? this.other(from) : { kind: "reference", of: undefined, name, from, to: from + 2 + name.length };
    }
    const selector = this.isAt(/#selector\(\s*(?:self\.)?(\w+)[^()]*(?:\([^()]*\))?\s*\)/y, from);
    if (selector) return { kind: "reference", of: undefined, name: selector[1] as string, from, to: from + selector[0].length };
    if (sign === "$" && text[from + 1] === "0") return { kind: "name", name: "$0", from, to: from + 2 };
    const literal = this.isAt(/(["'`])(?:\\.|(?!\1)[^\\\n])*\1|\d[\w.]*|(?:null|nil|true|false|undefined|YES|NO)\b/y, from);
    if (literal) return { kind: "literal", from, to: from + literal[0].length };
    const name = this.isAt(WORD, from)?.[0];
    if (name === undefined) return this.other(from);
    if (name === "if" && text[this.skipped(from + 2)] === "(")
      return language === "dart" ? this.element(from, depth) : this.choice(from, depth);
    if (/^(?:if|when|switch|function|throw|class|object)$/.test(name)) return this.other(from);
    return { kind: "name", name, from, to: from + name.length };
  }

  private other(from: number): Expression {
    return { kind: "other", from, to: from };
  }

  /** `if (test) a else b` of Kotlin. */
  private choice(from: number, depth: number): Expression {
    const open = this.text.indexOf("(", from);
    const first = this.branch(closing(this.text, open) + 1, depth);
    const word = this.isAt(/\s*else\b/y, first.to);
    if (!word) return this.other(from);
    const second = this.branch(first.to + word[0].length, depth);
    return { kind: "either", options: [first, second], test: this.text.slice(open + 1, closing(this.text, open)), from, to: second.to };
  }

  /** `if (test) a else b` in a list of Dart. */
  private element(from: number, depth: number): Expression {
    const open = this.text.indexOf("(", from);
    const test = this.text.slice(open + 1, closing(this.text, open));
    const first = this.expression(closing(this.text, open) + 1, depth + 1);
    const word = this.isAt(/\s*else\b/y, first.to);
    const second = word ? this.expression(first.to + word[0].length, depth + 1) : undefined;
    return { kind: "either", options: second ? [first, second] : [first], test, from, to: (second ?? first).to };
  }

  private branch(start: number, depth: number): Expression {
    const at = this.skipped(start);
    if (this.text[at] !== "{") return this.expression(at, depth + 1);
    return { ...this.expression(at + 1, depth + 1), from: at, to: closing(this.text, at) + 1 };
  }

  /** A function without a name that is no more than braces: `{ step -> step() }`, `{ step in step() }`. */
  private braces(from: number, depth: number): Expression {
    const { text, language } = this;
    const to = closing(text, from) + 1;
    const head =
      language === "kotlin"
        ? /^\{\s*([\w\s,:.<>?()]*?)\s*->/.exec(text.slice(from, Math.min(to, from + 200)))
        : /^\{\s*(?:\[[^\]]*\]\s*)?(?:@\w+\s+)?\(?([\w\s,:.]*?)\)?\s*(?:async\s+)?(?:throws\s+)?(?:->\s*[\w.]+\s+)?in\b/.exec(
            text.slice(from, Math.min(to, from + 200)),
          );
    const parameters = (head?.[1] ?? "").split(",").flatMap((part) => /^\s*(\w+)/.exec(part)?.[1] ?? []);
    const body = { from: from + (head?.[0].length ?? 1), to: to - 1 };
    return { kind: "closure", parameters, body, gives: this.only(body, depth), from, to };
  }

  /** What a body gives where it is a single expression. */
  private only(body: { from: number; to: number }, depth: number): Expression | undefined {
    const found = this.expression(body.from, depth + 1);
    return found.kind !== "other" && this.text.slice(found.to, body.to).trim().replace(/;$/, "") === "" ? found : undefined;
  }

  /** A function without a name in the languages that have an arrow or a word for it. */
  // eslint-disable-next-line complexity -- one question for each way in which the languages write a function without a name
  private closureAt(from: number, depth: number): Expression | undefined {
    const { text, language } = this;
    if (language === "kotlin" || language === "swift") return undefined;
    const word = isScript(language) ? this.isAt(/(?:async\s+)?function\s*\*?\s*(?:[\w$]+\s*)?(?=\()/y, from) : undefined;
    const begin = word ? from + word[0].length : from;
    const bracket = text[begin] === "(";
    const name = bracket ? undefined : this.isAt(/([A-Za-z_$][\w$]*)\s*(?==>|->)/y, begin);
    if (!bracket && !name) return undefined;
    const close = bracket ? closing(text, begin) + 1 : begin + (name?.[0].length ?? 0);
    const sign = this.isAt(
      isScript(language) ? /\s*(?::[^={}()]{1,80})?=>\s*/y : language === "java" ? /\s*->\s*/y : /\s*(?:async\*?\s*)?=>\s*/y,
      close,
    );
    // A block of Dart, and of what a word begins.
    const block = sign
      ? undefined
      : word || language === "dart"
        ? this.isAt(/\s*(?::[^={}()]{1,80})?(?:async\*?\s*)?(?=\{)/y, close)
        : undefined;
    if (!sign && !block) return undefined;
    const parameters = namesIn(text.slice(begin, close), isScript(language));
    const open = close + (sign ?? block ?? "")[0].length;
    if (text[open] === "{") {
      const to = closing(text, open) + 1;
      const body = { from: open + 1, to: to - 1 };
      return { kind: "closure", parameters, body, gives: this.returned(body, depth), from, to };
    }
    const gives = this.expression(open, depth + 1);
    const to = gives.kind === "other" ? this.endOfOther(open) : gives.to;
    return { kind: "closure", parameters, body: { from: open, to }, gives: gives.kind === "other" ? undefined : gives, from, to };
  }

  /** What a block gives by its only `return`, where nothing stands before that. */
  private returned(body: { from: number; to: number }, depth: number): Expression | undefined {
    const word = /^\s*return\b/.exec(this.text.slice(body.from, Math.min(body.to, body.from + 80)));
    return word ? this.only({ from: body.from + word[0].length, to: body.to }, depth) : undefined;
  }

  private endOfOther(from: number): number {
    for (let at = from; at < this.end; at++) {
      const sign = this.text[at] as string;
      if ("([{".includes(sign)) at = closing(this.text, at);
      else if (",;)]}\n".includes(sign)) return at;
    }
    return this.end;
  }

  /** What stands between brackets, one after the other. */
  private items(open: number, depth: number): { label: string | undefined; value: Expression }[] {
    const close = closing(this.text, open);
    const found: { label: string | undefined; value: Expression }[] = [];
    for (let at = open + 1; at < close; at++) {
      const start = this.skipped(at);
      if (start >= close) break;
      const label = this.isAt(this.language === "kotlin" ? /([A-Za-z_]\w*)\s*=(?!=)/y : /([A-Za-z_$][\w$]*)\s*:(?!:)/y, start);
      const value = this.expression(label ? start + label[0].length : start, depth + 1);
      found.push({ label: label?.[1], value });
      at = value.to;
      while (at < close && this.text[at] !== ",") at = "([{".includes(this.text[at] as string) ? closing(this.text, at) + 1 : at + 1;
    }
    return found;
  }

  private list(from: number, open: number, depth: number): Expression {
    return { kind: "list", items: this.items(open, depth).map(({ value }) => value), from, to: closing(this.text, open) + 1 };
  }

  private object(from: number, depth: number): Expression {
    const close = closing(this.text, from);
    const members: { key: string; value: Expression }[] = [];
    const others: Expression[] = [];
    for (let at = from + 1; at < close; at++) {
      while (at < close && /\s/.test(this.text[at] as string)) at++;
      const spread = this.isAt(/\.\.\./y, at);
      const key = spread ? undefined : this.isAt(/(?:async\s+)?["']?([\w$-]+)["']?\s*([:,}(]|$)/y, at);
      let end = at;
      if (spread) others.push(this.expression(at + 3, depth + 1));
      else if (key?.[2] === ":") {
        const value = this.expression(at + key[0].length, depth + 1);
        members.push({ key: key[1] as string, value });
        end = Math.max(value.to, at + key[0].length);
      } else if (key && key[2] !== "(")
        members.push({
          key: key[1] as string,
          value: { kind: "name", name: key[1] as string, from: at, to: at + (key[1] as string).length },
        });
      else if (key) {
        // A method is a function of the file.
        const open = at + key[0].length - 1;
        members.push({ key: key[1] as string, value: { kind: "other", from: at, to: at } });
        end = this.text.indexOf("{", closing(this.text, open));
        if (end === -1) break;
      }
      for (at = end; at < close && this.text[at] !== ",";)
        at = "([{".includes(this.text[at] as string) ? closing(this.text, at) + 1 : at + 1;
    }
    return { kind: "object", members, others, from, to: close + 1 };
  }

  /** What goes on behind an expression. */
  // eslint-disable-next-line complexity -- one case for each sign that can stand behind one
  private behind(of: Expression, from: number, depth: number): Expression | undefined {
    const { text, language } = this;
    const at = of.to;
    const types = this.isAt(TYPE_ARGUMENTS, at);
    if (types) return { ...of, to: at + types[0].length };
    const marks = this.isAt(/!!?(?!=)|\?(?=[.(![;,)])/y, at);
    if (marks && marks[0] !== "") return { ...of, to: at + marks[0].length };
    // A function of Swift by its labels: `begin(key:)`.
    const labels = language === "swift" && (of.kind === "name" || of.kind === "member") ? this.isAt(/\((?:\w+:)+\)/y, at) : undefined;
    if (labels) {
      const before = of.kind === "member" ? of.of : undefined;
      return { kind: "reference", of: before, name: (of as { name: string }).name, from, to: at + labels[0].length };
    }
    if (text[at] === "(") return { kind: "call", callee: of, given: this.items(at, depth), from, to: closing(text, at) + 1 };
    if (text[at] === "[") {
      const to = closing(text, at) + 1;
      const key = /^\[\s*["'`]([^"'`]*)["'`]\s*\]$/.exec(text.slice(at, to))?.[1];
      return { kind: "element", of, key, from, to };
    }
    const member = this.isAt(/\s*(?:\?\.|\.)\s*(?=[A-Za-z_$(])/y, at);
    if (member) {
      const name = this.isAt(WORD, at + member[0].length)?.[0];
      // `step?.()` calls what it stands behind.
      if (name === undefined) return { ...of, to: at + member[0].length };
      return { kind: "member", of, name, from, to: at + member[0].length + name.length };
    }
    const reference = this.isAt(/::\s*([A-Za-z_]\w*)/y, at);
    if (reference) return { kind: "reference", of, name: reference[1] as string, from, to: at + reference[0].length };
    const brace = language === "kotlin" || language === "swift" ? this.isAt(/ ?(?=\{)/y, at) : undefined;
    if (brace && (of.kind === "name" || of.kind === "member" || of.kind === "call")) {
      const closure = this.braces(at + brace[0].length, depth);
      const last = { label: undefined, value: closure };
      return of.kind === "call" && text[of.to - 1] === ")"
        ? { ...of, given: [...of.given, last], to: closure.to }
        : { kind: "call", callee: of, given: [last], from, to: closure.to };
    }
    const cast = this.isAt(CAST, at);
    if (cast)
      return cast[1] === undefined
        ? { ...of, to: at + cast[0].length }
        : { kind: "typed", of, type: cast[1], from, to: at + cast[0].length };
    return this.combined(of, from, depth);
  }

  /** What two expressions make: one or the other, or both. */
  private combined(of: Expression, from: number, depth: number): Expression | undefined {
    const at = of.to;
    const otherwise = this.isAt(/\s*(?:\?\?=?|\?:|\|\|=?)\s*/y, at);
    if (otherwise) {
      const other = this.expression(at + otherwise[0].length, depth + 1);
      return { kind: "either", options: [of, other], test: undefined, from, to: Math.max(other.to, at + otherwise[0].length) };
    }
    const plus = this.isAt(/\s*\+\s*(?=[[A-Za-z_])/y, at);
    if (plus) {
      const other = this.expression(at + plus[0].length, depth + 1);
      return { kind: "joined", parts: [of, other], from, to: other.to };
    }
    if (this.language === "kotlin") return undefined;
    // Up to the question it is a test.
    const test = this.isAt(/\s*(?:(?:[=!]==?|[<>]=?|&&)[^?;{}\n]{1,80}?)?\s*\?\s*(?=[^.?:,)])/y, at);
    if (!test) return undefined;
    const first = this.expression(at + test[0].length, depth + 1);
    const colon = first.kind === "other" ? undefined : this.isAt(/\s*:\s*/y, first.to);
    if (!colon) return undefined;
    const second = this.expression(first.to + colon[0].length, depth + 1);
    const asked = this.text.slice(from, at + test[0].lastIndexOf("?"));
    return { kind: "either", options: [first, second], test: asked.trim(), from, to: second.to };
  }
}
