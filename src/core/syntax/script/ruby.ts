import type { Problem, Source } from "../source.js";
import { mostLinks, TOO_DEEP } from "./limits.js";
import type { Argument, CallExpr, ClosureExpr, Expr, Parameter, Script, Statement, TextExpr } from "./ast.js";

interface Token {
  kind: "name" | "constant" | "number" | "text" | "symbol" | "label" | "words" | "mark" | "end";
  text: string;
  start: number;
  end: number;
  newline: boolean;
  spaced: boolean;
  parts?: (string | { start: number; code: string })[];
  contentStart?: number;
  /** Starts of the words of `%w[…]`. */
  words?: { text: string; start: number }[];
}

const MARKS = [
  "<=>",
  "===",
  "**=",
  "||=",
  "&&=",
  "...",
  "=>",
  "==",
  "!=",
  ">=",
  "<=",
  "&&",
  "||",
  "<<",
  ">>",
  "+=",
  "-=",
  "*=",
  "..",
  "::",
  "&.",
  "=~",
  "!~",
  "->",
  "**",
];
const OPENERS = new Set(["if", "unless", "while", "until", "case", "def", "class", "module", "begin", "for"]);
const PRECEDENCE: Record<string, number> = {
  or: 1,
  and: 1,
  "..": 2,
  "...": 2,
  "||": 3,
  "&&": 4,
  "==": 6,
  "!=": 6,
  "=~": 6,
  "!~": 6,
  "===": 6,
  "<=>": 6,
  "<": 7,
  ">": 7,
  "<=": 7,
  ">=": 7,
  "<<": 8,
  ">>": 8,
  "+": 9,
  "-": 9,
  "*": 10,
  "/": 10,
  "%": 10,
  "**": 11,
};
const MODIFIERS = new Set(["if", "unless", "while", "until", "rescue"]);
const MAX_DEPTH = 150;

/** Parses the declarative subset of Ruby that Podfiles and podspecs are written in, into the common script tree. Total. */
export function parseRuby(source: Source): Script {
  const { tokens, problems } = tokenize(source, source.text, 0);
  const parser = new RubyParser(source, tokens, problems);
  const body = parser.statements(new Set());
  return { source, body, problems: problems.slice(0, 3) };
}

function tokenize(source: Source, code: string, base: number): { tokens: Token[]; problems: Problem[] } {
  const tokens: Token[] = [];
  const problems: Problem[] = [];
  const length = code.length;
  let position = 0;
  let newline = true;
  let spaced = true;
  const heredocs: { token: Token; tag: string; raw: boolean }[] = [];

  const push = (kind: Token["kind"], start: number, end: number, extra?: Partial<Token>): Token => {
    const token: Token = { kind, text: code.slice(start, end), start: base + start, end: base + end, newline, spaced, ...extra };
    tokens.push(token);
    newline = false;
    spaced = false;
    position = end;
    return token;
  };

  while (position < length) {
    const char = code[position] as string;
    if (char === "\n") {
      newline = true;
      spaced = true;
      position++;
      if (heredocs.length > 0) readHeredocs();
      if (code.startsWith("=begin", position)) {
        const end = code.indexOf("\n=end", position);
        position = end === -1 ? length : end + 5;
      } else if (code.startsWith("__END__", position)) position = length;
      continue;
    }
    if (char === " " || char === "\t" || char === "\r" || char === "\f") {
      spaced = true;
      position++;
      continue;
    }
    if (char === "\\" && /^\\\r?\n/.test(code.slice(position, position + 3))) {
      position += code[position + 1] === "\r" ? 3 : 2;
      spaced = true;
      continue;
    }
    if (char === "#") {
      const end = code.indexOf("\n", position);
      position = end === -1 ? length : end;
      continue;
    }
    const rest = code.slice(position, position + 120);
    const name = /^[@$]{0,2}[A-Za-z_]\w*[?!]?/.exec(rest);
    if (name) {
      let word = name[0];
      if (/[?!]$/.test(word) && code[position + word.length] === "=" && code[position + word.length + 1] !== "=") word = word.slice(0, -1);
      const after = code[position + word.length];
      const label = after === ":" && code[position + word.length + 1] !== ":" && !/^[?]/.test(tokens.at(-1)?.text ?? "");
      if (label && tokens.at(-1)?.text !== "?") {
        push("label", position, position + word.length + 1, { text: word });
        continue;
      }
      push(/^[A-Z]/.test(word) ? "constant" : "name", position, position + word.length);
      continue;
    }
    if (/^[0-9]/.test(char)) {
      const match = /^[0-9][0-9_]*(?:\.[0-9]+)*/.exec(rest);
      push("number", position, position + (match?.[0].length ?? 1));
      continue;
    }
    if (char === '"' || char === "'" || char === "`") {
      const token = readQuoted(position, position + 1, char, char, char !== "'");
      if (code[position] === ":" && code[position + 1] !== ":" && char !== "`") {
        token.kind = "label";
        position++;
      }
      continue;
    }
    const percent = /^%([wWiIqQ]?)([([{<|!/])/.exec(rest);
    if (percent && (spaced || newline || tokens.at(-1)?.kind === "mark")) {
      const open = percent[2] as string;
      const close = { "(": ")", "[": "]", "{": "}", "<": ">" }[open] ?? open;
      const contentStart = position + percent[0].length;
      if (/[wWiI]/.test(percent[1] ?? "")) {
        let end = code.indexOf(close, contentStart);
        if (end === -1) end = length;
        const words = [...code.slice(contentStart, end).matchAll(/\S+/g)].map((match) => ({
          text: match[0],
          start: base + contentStart + match.index,
        }));
        push("words", position, Math.min(end + 1, length), { words });
      } else readQuoted(position, contentStart, close, open, percent[1] !== "q");
      continue;
    }
    if (char === ":" && /^:[A-Za-z_]/.test(rest)) {
      const symbol = /^:[A-Za-z_]\w*[?!=]?/.exec(rest)?.[0] ?? ":";
      const trimmed = symbol.endsWith("=") ? symbol.slice(0, -1) : symbol;
      push("symbol", position, position + trimmed.length, { text: trimmed.slice(1) });
      continue;
    }
    if (char === ":" && (code[position + 1] === '"' || code[position + 1] === "'")) {
      const quote = code[position + 1] as string;
      const token = readQuoted(position, position + 2, quote, quote, quote === '"');
      token.kind = "symbol";
      continue;
    }
    const heredoc = /^<<[~-]?(["']?)([A-Z_][A-Za-z0-9_]*)\1/.exec(rest);
    if (heredoc && tokens.at(-1)?.kind !== "number") {
      const token = push("text", position, position + heredoc[0].length, { text: "", parts: [""] });
      heredocs.push({ token, tag: heredoc[2] as string, raw: heredoc[1] === "'" });
      continue;
    }
    if (char === "/" && regexMayStart(tokens.at(-1), spaced, code[position + 1])) {
      const end = endOfRegex(code, position);
      if (end !== -1) {
        const content = code.slice(position + 1, end);
        const flags = /^[a-z]*/.exec(code.slice(end + 1, end + 8))?.[0].length ?? 0;
        push("text", position, end + 1 + flags, { text: content, parts: [content], contentStart: base + position + 1 });
        continue;
      }
    }
    const mark = MARKS.find((candidate) => code.startsWith(candidate, position)) ?? char;
    push("mark", position, position + mark.length);
  }
  tokens.push({ kind: "end", text: "", start: base + length, end: base + length, newline: true, spaced: true });
  return { tokens, problems };

  function readQuoted(start: number, contentStart: number, close: string, open: string, interpolates: boolean): Token {
    const parts: NonNullable<Token["parts"]> = [];
    let plain = "";
    let depth = 0;
    let index = contentStart;
    let closed = false;
    while (index < length) {
      const char = code[index] as string;
      if (char === "\\") {
        const escaped = code[index + 1] ?? "";
        plain += interpolates
          ? ({ n: "\n", t: "\t", "\n": "" }[escaped] ?? escaped)
          : escaped === close || escaped === "\\"
            ? escaped
            : `\\${escaped}`;
        index += 2;
        continue;
      }
      if (interpolates && char === "#" && code[index + 1] === "{") {
        let nesting = 0;
        let end = index + 1;
        for (; end < length; end++) {
          if (code[end] === "{") nesting++;
          else if (code[end] === "}" && --nesting === 0) break;
        }
        parts.push(plain, { start: base + index + 2, code: code.slice(index + 2, end) });
        plain = "";
        index = end + 1;
        continue;
      }
      if (open !== close && char === open) depth++;
      else if (char === close && depth-- === 0) {
        closed = true;
        break;
      }
      plain += char;
      index++;
    }
    if (!closed && problems.length === 0) problems.push(source.problem("a text is not closed", base + start));
    if (plain !== "" || parts.length === 0) parts.push(plain);
    const token = push("text", start, Math.min(length, closed ? index + 1 : index), {
      parts: parts.filter((part) => part !== "" || parts.length === 1),
      contentStart: base + contentStart,
    });
    token.text = code.slice(contentStart, index);
    return token;
  }

  function readHeredocs(): void {
    for (const { token, tag } of heredocs.splice(0)) {
      const from = position;
      const match = new RegExp(`^[ \\t]*${tag}[ \\t\\r]*$`, "m").exec(code.slice(from));
      const end = match ? from + match.index : length;
      token.parts = [code.slice(from, end)];
      token.text = token.parts[0] as string;
      token.contentStart = base + from;
      position = match ? end + match[0].length : length;
      if (!match && problems.length === 0) problems.push(source.problem(`the text that ends with ${tag} is not closed`, token.start));
    }
  }
}

function regexMayStart(previous: Token | undefined, spaced: boolean, following: string | undefined): boolean {
  if (!previous) return true;
  if (previous.kind === "mark") return !/^[)\]}]$/.test(previous.text);
  return previous.kind === "name" && spaced && following !== " " && following !== "=";
}

function endOfRegex(code: string, start: number): number {
  let inClass = false;
  for (let index = start + 1; index < code.length; index++) {
    const char = code[index];
    if (char === "\n") return -1;
    if (char === "\\") index++;
    else if (char === "[") inClass = true;
    else if (char === "]") inClass = false;
    else if (char === "/" && !inClass) return index;
  }
  return -1;
}

class RubyParser {
  private index = 0;
  private depth = 0;
  /** `do` belongs to the loop, not to the call, in the head of `while`, `until` and `for`. */
  private noDo = false;

  constructor(
    private readonly source: Source,
    private readonly tokens: Token[],
    private readonly problems: Problem[],
  ) {}

  private tooDeep(): void {
    if (!this.problems.some(({ message }) => message === TOO_DEEP)) this.problems.unshift(this.source.problem(TOO_DEEP, this.token.start));
  }

  private get token(): Token {
    return this.tokens[this.index] as Token;
  }

  private peek(distance = 1): Token {
    return this.tokens[Math.min(this.index + distance, this.tokens.length - 1)] as Token;
  }

  private is(mark: string): boolean {
    return this.token.kind === "mark" && this.token.text === mark;
  }

  private word(name: string): boolean {
    return this.token.kind === "name" && this.token.text === name;
  }

  private accept(mark: string): boolean {
    if (!this.is(mark)) return false;
    this.index++;
    return true;
  }

  private fail(message: string, offset: number): void {
    if (this.problems.length < 3) this.problems.push(this.source.problem(message, offset));
  }

  /** Statements up to one of the closing words or `}` (not taken), or the end. */
  statements(closers: Set<string>): Statement[] {
    const body: Statement[] = [];
    for (;;) {
      const { token } = this;
      if (token.kind === "end") return body;
      if (token.kind === "name" && closers.has(token.text)) return body;
      if (token.kind === "mark" && closers.has(token.text)) return body;
      if (token.kind === "name" && token.text === "end" && closers.size === 0) {
        this.fail('"end" closes nothing', token.start);
        this.index++;
        continue;
      }
      const before = this.index;
      const statement = this.statement();
      if (statement) body.push(statement);
      if (this.index === before) this.index++;
    }
  }

  private until(opened: Token, ...closers: string[]): Statement[] {
    if (this.depth >= MAX_DEPTH) {
      this.tooDeep();
      this.index = this.tokens.length - 1;
      return [];
    }
    this.depth++;
    const saved = this.noDo;
    this.noDo = false;
    const body = this.statements(new Set(closers));
    this.noDo = saved;
    this.depth--;
    if (this.token.kind === "end") this.fail(`the block that "${opened.text}" opens is never closed`, opened.start);
    return body;
  }

  private closeBlock(opened: Token): Statement[] {
    const body = this.until(opened, "end", "rescue", "ensure", "else");
    const all = [...body];
    while (this.word("rescue") || this.word("ensure") || this.word("else")) {
      const clause = this.token;
      this.index++;
      // rescue StandardError => e
      while (!this.token.newline && this.token.kind !== "end") this.index++;
      const rest = this.until(clause, "end", "rescue", "ensure", "else");
      all.push({ kind: "if", test: this.opaque(clause.start), then: rest, otherwise: [], start: clause.start, end: this.token.start });
    }
    if (this.word("end")) this.index++;
    return all;
  }

  private statement(): Statement | undefined {
    let statement = this.plainStatement();
    while (this.token.kind === "name" && MODIFIERS.has(this.token.text) && !this.token.newline) {
      const modifier = this.token;
      this.index++;
      const test = this.expression();
      if (!statement || modifier.text === "rescue") continue;
      const body = [statement];
      const { start } = statement;
      statement =
        modifier.text === "unless"
          ? { kind: "if", test, then: [], otherwise: body, start, end: test.end }
          : { kind: "if", test, then: body, otherwise: [], start, end: test.end };
    }
    return statement;
  }

  /** `a, b = 1, 2` and `a, b = list`: one assignment for each name. */
  private severalAssigned(): Statement | undefined {
    const { start } = this.token;
    const names: Token[] = [];
    let ahead = 0;
    for (;;) {
      const token = this.peek(ahead);
      if ((token.kind !== "name" && token.kind !== "constant") || (ahead > 0 && token.newline)) return undefined;
      names.push(token);
      const mark = this.peek(ahead + 1);
      if (mark.kind !== "mark" || mark.newline) return undefined;
      if (mark.text === "=") break;
      if (mark.text !== ",") return undefined;
      ahead += 2;
    }
    if (names.length < 2) return undefined;
    this.index += ahead + 2;
    const values = [this.expression()];
    while (this.is(",") && !this.token.newline) {
      this.index++;
      values.push(this.expression());
    }
    const end = this.token.start;
    const [only] = values as [Expr];
    const list: Expr = values.length > 1 ? { kind: "list", items: values, start: only.start, end } : only;
    const body = names.map((name, index): Statement => {
      const value: Expr =
        values.length > 1
          ? (values[index] ?? { kind: "literal", text: "nil", start, end })
          : { kind: "index", object: list, index: { kind: "literal", text: String(index), start, end }, start: list.start, end };
      return {
        kind: "assign",
        target: { kind: "name", name: name.text, start: name.start, end: name.end },
        operator: "=",
        value,
        declared: false,
        start,
        end,
      };
    });
    return { kind: "if", test: { kind: "literal", text: "true", start, end: start }, then: body, otherwise: [], start, end };
  }

  private plainStatement(): Statement | undefined {
    const opened = this.token;
    const { start } = opened;
    if (this.accept(";")) return undefined;
    if (opened.kind === "name" && OPENERS.has(opened.text)) {
      switch (opened.text) {
        case "if":
        case "unless":
          return this.conditional();
        case "def":
          return this.definition();
        case "class":
        case "module": {
          this.index++;
          const path: string[] = [];
          while (!this.token.newline && this.token.kind !== "end") {
            if (this.token.kind === "constant" && !path.includes("<")) path.push(this.token.text);
            if (this.is("<") || this.is("<<")) path.push("<");
            this.index++;
          }
          const body = this.closeBlock(opened);
          return {
            kind: "type",
            name: path.slice(0, path.includes("<") ? path.indexOf("<") : undefined).join("::"),
            body,
            start,
            end: this.token.start,
          };
        }
        case "begin": {
          this.index++;
          return {
            kind: "if",
            test: { kind: "literal", text: "true", start, end: start },
            then: this.closeBlock(opened),
            otherwise: [],
            start,
            end: this.token.start,
          };
        }
        case "case":
          return this.caseStatement();
        case "for": {
          this.index++;
          const names: string[] = [];
          while (this.token.kind === "name" && !this.word("in")) {
            names.push(this.token.text);
            this.index++;
            this.accept(",");
          }
          if (!this.word("in"))
            return { kind: "if", test: this.opaque(start), then: this.closeBlock(opened), otherwise: [], start, end: this.token.start };
          this.index++;
          const saved = this.noDo;
          this.noDo = true;
          const list = this.expression();
          this.noDo = saved;
          if (this.word("do")) this.index++;
          return {
            kind: "if",
            test: this.opaque(start),
            loop: { names, list },
            then: this.closeBlock(opened),
            otherwise: [],
            start,
            end: this.token.start,
          };
        }
        default: {
          this.index++;
          const saved = this.noDo;
          this.noDo = true;
          while (!this.token.newline && this.token.kind !== "end" && !this.word("do")) this.index++;
          this.noDo = saved;
          if (this.word("do")) this.index++;
          return { kind: "if", test: this.opaque(start), then: this.closeBlock(opened), otherwise: [], start, end: this.token.start };
        }
      }
    }
    if (this.word("return")) {
      this.index++;
      const none = this.token.newline || (this.token.kind === "name" && MODIFIERS.has(this.token.text)) || this.is("}");
      return { kind: "return", value: none ? undefined : this.expression(), start, end: this.token.start };
    }
    const several = this.severalAssigned();
    if (several) return several;
    const target = this.expression();
    if (
      this.token.kind === "mark" &&
      !this.token.newline &&
      (this.token.text === "=" || this.token.text === "+=" || this.token.text === "||=")
    ) {
      const operator = this.token.text as "=" | "+=" | "||=";
      this.index++;
      let value = this.expression();
      if (this.is(",") && !this.token.newline) {
        // a = 1, 2 makes a list
        const items = [value];
        while (this.accept(",")) items.push(this.expression());
        value = { kind: "list", items, start: value.start, end: this.token.start };
      }
      return { kind: "assign", target, operator, value, declared: false, start, end: this.token.start };
    }
    if (this.is(",") && !this.token.newline) this.index++;
    if (target.kind === "opaque" && target.end === target.start) return undefined;
    return { kind: "expression", value: target, start, end: target.end };
  }

  private conditional(): Statement {
    const opened = this.token;
    this.index++;
    const test = this.expression();
    if (this.word("then")) this.index++;
    const body = this.until(opened, "end", "else", "elsif");
    let otherwise: Statement[] = [];
    if (this.word("elsif")) otherwise = [this.conditional()];
    else {
      if (this.word("else")) {
        this.index++;
        otherwise = this.until(opened, "end");
      }
      if (this.word("end")) this.index++;
    }
    const end = this.token.start;
    return opened.text === "unless"
      ? { kind: "if", test, then: otherwise, otherwise: body, start: opened.start, end }
      : { kind: "if", test, then: body, otherwise, start: opened.start, end };
  }

  private caseStatement(): Statement {
    const opened = this.token;
    this.index++;
    while (!this.token.newline && this.token.kind !== "end") this.index++;
    const branches: Statement[] = [];
    while (this.word("when") || this.word("else")) {
      const clause = this.token;
      this.index++;
      if (clause.text === "when") while (!this.token.newline && !this.word("then") && this.token.kind !== "end") this.index++;
      if (this.word("then")) this.index++;
      branches.push({
        kind: "if",
        test: this.opaque(clause.start),
        then: this.until(opened, "end", "when", "else"),
        otherwise: [],
        start: clause.start,
        end: this.token.start,
      });
    }
    if (this.word("end")) this.index++;
    return {
      kind: "if",
      test: { kind: "literal", text: "true", start: opened.start, end: opened.start },
      then: branches,
      otherwise: [],
      start: opened.start,
      end: this.token.start,
    };
  }

  private definition(): Statement {
    const opened = this.token;
    this.index++;
    let name = this.token.text;
    this.index++;
    if (this.is(".")) {
      this.index++;
      name = this.token.text;
      this.index++;
    }
    const parameters: Parameter[] = [];
    const bracketed = this.is("(") && this.accept("(");
    while (this.token.kind !== "end" && (bracketed ? !this.is(")") : !this.token.newline && !this.is("=") && !this.is(";"))) {
      if (this.token.kind === "label") {
        const parameter: Parameter = { name: this.token.text };
        this.index++;
        if (!this.is(",") && !this.is(")") && !this.token.newline) parameter.fallback = this.expression();
        parameters.push(parameter);
      } else if (this.token.kind === "name") {
        const parameter: Parameter = { name: this.token.text };
        this.index++;
        if (this.accept("=")) parameter.fallback = this.expression();
        parameters.push(parameter);
      } else this.index++;
    }
    if (bracketed) this.accept(")");
    if (this.is("=") && !this.token.newline) {
      this.index++;
      const value = this.expression();
      return {
        kind: "function",
        name,
        parameters,
        body: [{ kind: "return", value, start: value.start, end: value.end }],
        start: opened.start,
        end: value.end,
      };
    }
    return { kind: "function", name, parameters, body: this.closeBlock(opened), start: opened.start, end: this.token.start };
  }

  private opaque(start: number): Expr {
    return { kind: "opaque", start, end: Math.max(start, this.tokens[this.index - 1]?.end ?? start) };
  }

  expression(): Expr {
    if (this.depth >= MAX_DEPTH) {
      this.tooDeep();
      this.index++;
      return this.opaque(this.token.start);
    }
    this.depth++;
    const expr = this.ternary();
    this.depth--;
    return expr;
  }

  private ternary(): Expr {
    const test = this.binary(1);
    if (this.is("?") && !this.token.newline) {
      this.index++;
      const then = this.expression();
      if (then.kind === "name" && this.tokens[this.index - 1]?.kind === "label")
        return { kind: "condition", test, then, otherwise: this.expression(), start: test.start, end: this.token.start };
      const otherwise = this.accept(":") ? this.expression() : this.opaque(this.token.start);
      return { kind: "condition", test, then, otherwise, start: test.start, end: otherwise.end };
    }
    return test;
  }

  private binary(minimum: number): Expr {
    let left = this.unary();
    for (let links = 0; ; links++) {
      const { token } = this;
      const operator = token.kind === "mark" || (token.kind === "name" && (token.text === "and" || token.text === "or")) ? token.text : "";
      const precedence = PRECEDENCE[operator];
      if (precedence === undefined || precedence < minimum || token.newline) return left;
      if (this.depth >= MAX_DEPTH || links >= mostLinks(this.depth)) {
        this.tooDeep();
        while (this.token.kind !== "end" && !this.token.newline) this.index++;
        return this.opaque(left.start);
      }
      this.index++;
      this.depth++;
      const right = this.binary(precedence + 1);
      this.depth--;
      left = { kind: "binary", operator, left, right, start: left.start, end: right.end };
    }
  }

  private unary(): Expr {
    const { token } = this;
    if (this.is("!") || this.word("not")) {
      this.index++;
      const value = this.depth < MAX_DEPTH ? (this.depth++, this.unary()) : this.opaque(token.start);
      this.depth = Math.max(0, this.depth - 1);
      return { kind: "binary", operator: "!", left: value, right: value, start: token.start, end: value.end };
    }
    if (this.is("-") || this.is("*") || this.is("&") || this.is("**")) {
      this.index++;
      const value = this.postfix(this.primary());
      return token.text === "-" && value.kind === "literal" ? { ...value, text: `-${value.text}`, start: token.start } : value;
    }
    return this.postfix(this.primary());
  }

  private primary(): Expr {
    const { token } = this;
    const { start, end } = token;
    switch (token.kind) {
      case "number":
        this.index++;
        return { kind: "literal", text: token.text.replaceAll("_", ""), start, end };
      case "text": {
        this.index++;
        const text = this.text(token);
        // 'a' 'b' stand for one text
        while (this.token.kind === "text" && !this.token.newline) {
          text.parts.push(...this.text(this.token).parts);
          this.index++;
        }
        return text;
      }
      case "symbol":
        this.index++;
        return { kind: "text", parts: [token.text], start: token.contentStart ?? start + 1, end };
      case "words":
        this.index++;
        return {
          kind: "list",
          items: (token.words ?? []).map((word) => ({
            kind: "text",
            parts: [word.text],
            start: word.start,
            end: word.start + word.text.length,
          })),
          start,
          end,
        };
      case "label":
        // x ? a : b written as `x ? a: b`
        this.index++;
        return { kind: "name", name: token.text, start, end };
      case "name":
      case "constant": {
        if (token.kind === "name" && OPENERS.has(token.text)) return this.blockExpression();
        if (token.text === "defined?") {
          this.index++;
          this.expression();
          return this.opaque(start);
        }
        this.index++;
        if (token.text === "true" || token.text === "false" || token.text === "nil")
          return { kind: "literal", text: token.text, start, end };
        if (token.text === "lambda" || token.text === "proc") {
          const closure = this.closureIf();
          if (closure) return closure;
        }
        return { kind: "name", name: token.text, start, end };
      }
      default:
        break;
    }
    if (this.accept("(")) {
      const inner = this.is(")") ? this.opaque(start) : this.expression();
      while (this.token.kind !== "end" && !this.is(")") && !this.word("end")) this.index++;
      this.accept(")");
      return inner;
    }
    if (this.is("[")) return this.list();
    if (this.is("{")) return this.hash();
    if (this.accept("->")) {
      if (this.is("(")) this.skipTo(")");
      return this.closureIf() ?? this.opaque(start);
    }
    if (this.is("::")) {
      while (this.is("::")) this.index++;
      return this.primary();
    }
    if (token.kind === "mark" && !/^[)\]},;|]$/.test(token.text)) this.index++;
    return { kind: "opaque", start, end: start };
  }

  private skipTo(mark: string): void {
    while (this.token.kind !== "end" && !this.is(mark)) this.index++;
    this.accept(mark);
  }

  /** `x = if … end`: the values of the branches become a condition. */
  private blockExpression(): Expr {
    const { start } = this.token;
    const statement = this.plainStatement();
    if (statement?.kind !== "if") return this.opaque(start);
    const value = (branch: Statement[]): Expr => {
      const last = branch.at(-1);
      if (last?.kind === "expression") return last.value;
      if (last?.kind === "if")
        return { kind: "condition", test: last.test, then: value(last.then), otherwise: value(last.otherwise), start, end: last.end };
      return { kind: "literal", text: "nil", start, end: start };
    };
    return {
      kind: "condition",
      test: statement.test,
      then: value(statement.then),
      otherwise: value(statement.otherwise),
      start,
      end: this.token.start,
    };
  }

  private text(token: Token): TextExpr {
    const parts = (token.parts ?? []).map((part): string | Expr => {
      if (typeof part === "string" || this.depth > MAX_DEPTH - 20) return typeof part === "string" ? part : "";
      const { tokens } = tokenize(this.source, part.code, part.start);
      const inner = new RubyParser(this.source, tokens, this.problems);
      inner.depth = this.depth + 10;
      return inner.expression();
    });
    return { kind: "text", parts, start: token.contentStart ?? token.start, end: token.end };
  }

  private list(): Expr {
    const { start } = this.token;
    this.index++;
    const items: Expr[] = [];
    while (this.token.kind !== "end" && !this.is("]")) {
      const before = this.index;
      items.push(this.argument().value);
      this.accept(",");
      if (this.index === before) {
        if (this.word("end") || this.is("}") || this.is(")")) break;
        this.index++;
      }
    }
    this.accept("]");
    return { kind: "list", items, start, end: this.tokens[this.index - 1]?.end ?? start };
  }

  private hash(): Expr {
    const { start } = this.token;
    this.index++;
    const entries: Argument[] = [];
    while (this.token.kind !== "end" && !this.is("}")) {
      const before = this.index;
      entries.push(this.argument());
      this.accept(",");
      if (this.index === before) {
        if (this.word("end") || this.is("]") || this.is(")")) break;
        this.index++;
      }
    }
    this.accept("}");
    return { kind: "map", entries, start, end: this.tokens[this.index - 1]?.end ?? start };
  }

  private argument(): Argument {
    const { token } = this;
    if (token.kind === "label") {
      this.index++;
      const nothing = this.is(",") || this.is(")") || this.is("}") || this.token.kind === "end";
      return {
        name: token.text,
        nameStart: token.contentStart ?? token.start,
        value: nothing ? { kind: "name", name: token.text, start: token.start, end: token.end } : this.expression(),
      };
    }
    const value = this.expression();
    if (this.is("=>")) {
      this.index++;
      const first = value.kind === "text" ? value.parts[0] : undefined;
      const name = typeof first === "string" ? first : value.kind === "literal" ? value.text : "";
      return { name, nameStart: value.start, value: this.expression() };
    }
    return { value };
  }

  private postfix(primary: Expr): Expr {
    let expr = primary;
    for (let links = 0; ; links++) {
      const { token } = this;
      if (links >= 2 * mostLinks(this.depth)) {
        this.tooDeep();
        while (this.token.kind !== "end" && !this.token.newline) this.index++;
        return this.opaque(expr.start);
      }
      if ((this.is(".") || this.is("&.") || this.is("::")) && /^(name|constant|label)$/.test(this.peek().kind)) {
        this.index++;
        const name = this.token;
        this.index++;
        expr = { kind: "member", object: expr, name: name.text, start: expr.start, end: name.end };
        if (name.kind === "label") {
          // `x ? a.b: c`
          return expr;
        }
        continue;
      }
      if (token.newline) return expr;
      if (this.is("(") && !token.spaced && (expr.kind === "name" || expr.kind === "member")) {
        this.index++;
        const args = this.args(")");
        this.accept(")");
        expr = this.withBlock({
          kind: "call",
          callee: expr,
          args,
          closure: undefined,
          infix: [],
          start: expr.start,
          end: this.tokens[this.index - 1]?.end ?? expr.end,
        });
        continue;
      }
      if (this.is("[") && !token.spaced) {
        this.index++;
        const index = this.is("]") ? this.opaque(token.start) : this.expression();
        while (this.token.kind !== "end" && !this.is("]") && !this.word("end")) this.index++;
        this.accept("]");
        expr = { kind: "index", object: expr, index, start: expr.start, end: this.tokens[this.index - 1]?.end ?? expr.end };
        continue;
      }
      if (expr.kind === "name" || expr.kind === "member") {
        if (this.startsArgument(expr)) {
          const args = this.args("");
          expr = this.withBlock({
            kind: "call",
            callee: expr,
            args,
            closure: undefined,
            infix: [],
            start: expr.start,
            end: this.tokens[this.index - 1]?.end ?? expr.end,
          });
          continue;
        }
        const closure = this.closureIf();
        if (closure) {
          expr = { kind: "call", callee: expr, args: [], closure, infix: [], start: expr.start, end: closure.end };
          continue;
        }
      }
      return expr;
    }
  }

  private startsArgument(callee: Expr): boolean {
    const { token } = this;
    if (!token.spaced) return false;
    if (callee.kind === "name" && /^[A-Z]/.test(callee.name) && token.kind !== "text") return false;
    switch (token.kind) {
      case "text":
      case "symbol":
      case "label":
      case "number":
      case "constant":
      case "words":
        return true;
      case "name":
        return (
          !MODIFIERS.has(token.text) && !["do", "then", "and", "or", "end", "else", "elsif", "when", "in", "ensure"].includes(token.text)
        );
      case "mark":
        if (token.text === "[") return true;
        if (token.text === "*" || token.text === "&" || token.text === "-" || token.text === "::") return !this.peek().spaced;
        if (token.text === "->") return true;
        return token.text === "!" && this.peek().text !== "=";
      default:
        return false;
    }
  }

  private args(closer: string): Argument[] {
    // Behind a command's arguments `do` belongs to the command, not to the last of them; in parentheses to the call inside.
    const saved = this.noDo;
    this.noDo = closer === "";
    const args = this.readArgs(closer);
    this.noDo = saved;
    return args;
  }

  private readArgs(closer: string): Argument[] {
    const args: Argument[] = [];
    while (this.token.kind !== "end" && !(closer && this.is(closer))) {
      const before = this.index;
      args.push(this.argument());
      if (!closer) {
        if (!this.is(",") || this.token.newline) return args;
        this.index++;
        continue;
      }
      this.accept(",");
      if (this.index === before) {
        if (this.word("end") || this.is("}") || this.is("]")) return args;
        this.index++;
      }
    }
    return args;
  }

  private withBlock(call: CallExpr): CallExpr {
    const closure = this.closureIf();
    return closure ? { ...call, closure, end: closure.end } : call;
  }

  private closureIf(): ClosureExpr | undefined {
    const opened = this.token;
    const brace = this.is("{") && !opened.newline;
    if (!brace && !(this.word("do") && !this.noDo && !opened.newline)) return undefined;
    this.index++;
    const parameters: string[] = [];
    if (this.is("|")) {
      this.index++;
      while (this.token.kind !== "end" && !this.is("|")) {
        if (this.token.kind === "name") parameters.push(this.token.text);
        this.index++;
      }
      this.accept("|");
    } else if (this.is("||")) this.index++;
    let body: Statement[];
    if (brace) {
      body = this.until(opened, "}");
      this.accept("}");
    } else body = this.closeBlock(opened);
    return { kind: "closure", parameters, body, start: opened.start, end: this.tokens[this.index - 1]?.end ?? opened.end };
  }
}
