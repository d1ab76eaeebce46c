import type { Problem, Source } from "../source.js";
import { mostLinks, TOO_DEEP } from "./limits.js";
import { callOf, closureCalling } from "./ast.js";
import type { Argument, CallExpr, ClosureExpr, Expr, Parameter, Script, Statement, TextExpr } from "./ast.js";
import { tokenizeRuby, type Token } from "./ruby-lexer.js";

const OPENERS = new Set(["if", "unless", "while", "until", "case", "def", "class", "module", "begin", "for"]);
/** Words that end what stands before them. */
const ENDS = new Set(["do", "then", "and", "or", "end", "else", "elsif", "when", "in", "ensure", "rescue"]);
const MODIFIERS = new Set(["if", "unless", "while", "until", "rescue"]);
const ASSIGNS = new Set(["=", "+=", "-=", "*=", "/=", "%=", "**=", "||=", "&&=", "<<=", "|="]);
const MAX_DEPTH = 150;

/** Source: ruby-doc.org, "Precedence". */
const BAR = 8;

const PRECEDENCE: Record<string, number> = {
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
  "|": BAR,
  "&": 8,
  "<<": 9,
  ">>": 9,
  "+": 10,
  "-": 10,
  "*": 11,
  "/": 11,
  "%": 11,
  "**": 12,
};

/** Parses the part of Ruby that Podfiles and podspecs are written in, into the common script tree. Total. */
export function parseRuby(source: Source): Script {
  const { tokens, problems } = tokenizeRuby(source, source.text, 0);
  const body = new RubyParser(source, tokens, problems).statements(new Set());
  return { source, body, problems: problems.slice(0, 3) };
}

class RubyParser {
  private index = 0;
  private depth = 0;
  /** `do` belongs to a command or loop further out, not to the call that is being read. */
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

  private get lastEnd(): number {
    return this.tokens[this.index - 1]?.end ?? 0;
  }

  private get atEnd(): boolean {
    return this.token.kind === "end";
  }

  private peek(distance = 1): Token {
    return this.tokens[Math.min(this.index + distance, this.tokens.length - 1)] as Token;
  }

  private is(mark: string): boolean {
    return this.token.kind === "mark" && this.token.text === mark;
  }

  private word(...names: string[]): boolean {
    return this.token.kind === "name" && names.includes(this.token.text);
  }

  private accept(mark: string): boolean {
    if (!this.is(mark)) return false;
    this.index++;
    return true;
  }

  private acceptWord(name: string): boolean {
    if (!this.word(name)) return false;
    this.index++;
    return true;
  }

  private next(): Token {
    const { token } = this;
    if (token.kind !== "end") this.index++;
    return token;
  }

  private fail(message: string, offset: number): void {
    if (this.problems.length < 3) this.problems.push(this.source.problem(message, offset));
  }

  private opaque(start: number): Expr {
    return { kind: "opaque", start, end: Math.max(start, this.lastEnd) };
  }

  /** What is read with `do` bound to what stands further out, or with that taken back (inside of brackets). */
  private withDo<T>(noDo: boolean, read: () => T): T {
    const saved = this.noDo;
    this.noDo = noDo;
    const result = read();
    this.noDo = saved;
    return result;
  }

  // Statements

  /** Statements up to one of the closing words or `}` (not taken), or the end. */
  statements(closers: Set<string>): Statement[] {
    const body: Statement[] = [];
    for (;;) {
      const { token } = this;
      if (token.kind === "end") return body;
      if ((token.kind === "name" || token.kind === "mark") && closers.has(token.text)) return body;
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
    const body = this.withDo(false, () => this.statements(new Set(closers)));
    this.depth--;
    if (this.atEnd) this.fail(`the block that "${opened.text}" opens is never closed`, opened.start);
    return body;
  }

  /** A body up to `end`, with what is run where it fails. */
  private closeBlock(opened: Token): Statement[] {
    const { start } = this.token;
    const body = this.until(opened, "end", "rescue", "ensure", "else");
    const clauses: Statement[][] = [];
    let last: Statement[] = [];
    while (this.word("rescue", "ensure", "else")) {
      const clause = this.next();
      // rescue StandardError => e
      if (clause.text === "rescue") while (!this.token.newline && !this.atEnd && !this.word("then") && !this.is(";")) this.index++;
      this.acceptWord("then");
      const rest = this.until(clause, "end", "rescue", "ensure", "else");
      if (clause.text === "ensure") last = rest;
      else if (clause.text === "else") body.push(...rest);
      else clauses.push(rest);
    }
    this.acceptWord("end");
    return clauses.length === 0 && last.length === 0 ? body : [{ kind: "try", body, clauses, last, start, end: this.lastEnd }];
  }

  private statement(): Statement | undefined {
    if (this.accept(";")) return undefined;
    let statement = this.plainStatement();
    for (let modifiers = 0; this.token.kind === "name" && MODIFIERS.has(this.token.text) && !this.token.newline; modifiers++) {
      if (modifiers > 20) {
        this.tooDeep();
        while (!this.atEnd && !this.token.newline) this.index++;
        break;
      }
      const modifier = this.next();
      const test = this.lowExpression();
      if (!statement) continue;
      const body = [statement];
      const { start } = statement;
      const { end } = test;
      if (modifier.text === "rescue")
        statement = { kind: "try", body, clauses: [[{ kind: "expression", value: test, start: test.start, end }]], last: [], start, end };
      else if (modifier.text === "while" || modifier.text === "until") {
        const asked = modifier.text === "until" ? not(test) : test;
        statement = { kind: "loop", names: [], list: undefined, test: asked, after: statement.kind === "try", body, start, end };
      } else
        statement = {
          kind: "if",
          test,
          then: modifier.text === "if" ? body : [],
          otherwise: modifier.text === "if" ? [] : body,
          start,
          end,
        };
    }
    return statement;
  }

  // eslint-disable-next-line complexity -- one case for each word that can begin a statement
  private plainStatement(): Statement | undefined {
    const { token } = this;
    const { start } = token;
    if (token.kind === "name") {
      if (OPENERS.has(token.text)) return this.opened();
      if (token.text === "return" || token.text === "next" || token.text === "break" || token.text === "redo") {
        this.index++;
        const value = this.endsHere() ? undefined : this.valueList();
        if (token.text === "return") return { kind: "return", value, start, end: this.lastEnd };
        return { kind: "jump", word: token.text === "break" ? "break" : "next", value, start, end: this.lastEnd };
      }
      if (token.text === "alias" || token.text === "undef") {
        while (!this.token.newline && !this.atEnd) this.index++;
        return undefined;
      }
    }
    const value = this.severalAssigned() ?? this.lowExpression();
    if (this.is(",") && !this.token.newline) this.index++;
    if (value.kind === "do" && value.body.length === 1) return value.body[0];
    if (value.kind === "opaque" && value.end === value.start) return undefined;
    if (value.kind === "call" && value.callee.kind === "name" && /^(raise|abort|exit|fail|throw)!?$/.test(value.callee.name))
      return { kind: "jump", word: "raise", value: undefined, start, end: value.end };
    if (value.kind === "name" && /^(raise|abort|exit!?)$/.test(value.name))
      return { kind: "jump", word: "raise", value: undefined, start, end: value.end };
    return { kind: "expression", value, start, end: value.end };
  }

  /** `a, b = 1, 2`, `a, *b = list`, `(a, b), c = …`. */
  private severalAssigned(): Expr | undefined {
    const { start } = this.token;
    const saved = this.index;
    const items: Expr[] = [];
    for (;;) {
      const { token } = this;
      const spread = this.accept("*");
      if (
        (this.token.kind !== "name" && this.token.kind !== "constant") ||
        this.token.newline !== (token === this.tokens[saved] && token.newline)
      )
        break;
      const name = this.next();
      let item: Expr = { kind: "name", name: name.text, start: name.start, end: name.end };
      while (this.is(".") && this.peek().kind === "name") {
        this.index++;
        const member = this.next();
        item = { kind: "member", object: item, name: member.text, start: item.start, end: member.end };
      }
      items.push(spread ? { kind: "spread", value: item, start: item.start, end: item.end } : item);
      if (!this.is(",") || this.token.newline) break;
      this.index++;
    }
    if ((items.length < 2 && items[0]?.kind !== "spread") || !this.is("=") || this.token.newline) {
      this.index = saved;
      return undefined;
    }
    this.index++;
    const value = this.valueList();
    const target: Expr = { kind: "list", items, start, end: this.lastEnd };
    return this.assigning({ kind: "assign", target, operator: "=", value, declared: false, start, end: this.lastEnd });
  }

  private assigning(statement: Extract<Statement, { kind: "assign" }>): Expr {
    return { kind: "do", body: [statement], start: statement.start, end: statement.end };
  }

  /** `1` or `1, 2`, which is a list. */
  private valueList(): Expr {
    const { start } = this.token;
    const first = this.spreadable();
    if (!this.is(",") || this.token.newline)
      return first.kind === "spread" ? { kind: "list", items: [first], start, end: this.lastEnd } : first;
    const items = [first];
    while (this.accept(",")) items.push(this.spreadable());
    return { kind: "list", items, start: first.start, end: this.lastEnd };
  }

  private spreadable(): Expr {
    const { start } = this.token;
    if (this.is("*") && !this.peek().spaced) {
      this.index++;
      const value = this.expression();
      return { kind: "spread", value, start, end: value.end };
    }
    return this.expression();
  }

  /** Whether nothing follows that could be a value: `return if x`. */
  private endsHere(): boolean {
    const { token } = this;
    if (token.newline || token.kind === "end") return true;
    if (token.kind === "name") return MODIFIERS.has(token.text) || ENDS.has(token.text);
    return token.kind === "mark" && /^[;})\]]$/.test(token.text);
  }

  private opened(): Statement | undefined {
    const opened = this.token;
    const { start } = opened;
    switch (opened.text) {
      case "if":
      case "unless":
        return this.continued(this.conditional());
      case "def":
        return this.definition();
      case "case":
        return this.continued(this.caseStatement());
      case "class":
      case "module":
        return this.typeDefinition();
      case "begin": {
        this.index++;
        const body = this.closeBlock(opened);
        const only = body[0];
        if (body.length === 1 && only?.kind === "try") return only;
        return { kind: "try", body, clauses: [], last: [], start, end: this.lastEnd };
      }
      case "for": {
        this.index++;
        const names: Parameter[] = [];
        while (this.token.kind === "name" && !this.word("in")) {
          names.push({ name: this.next().text });
          this.accept(",");
        }
        this.acceptWord("in");
        const list = this.withDo(true, () => this.valueList());
        this.acceptWord("do");
        return { kind: "loop", names, list, test: undefined, body: this.closeBlock(opened), start, end: this.lastEnd };
      }
      default: {
        this.index++;
        const test = this.withDo(true, () => this.lowExpression());
        this.acceptWord("do");
        const body = this.closeBlock(opened);
        const asked = opened.text === "until" ? not(test) : test;
        return { kind: "loop", names: [], list: undefined, test: asked, body, start, end: this.lastEnd };
      }
    }
  }

  /** `if … end.each do`, `case … end + 1`: a statement that goes on as an expression. */
  private continued(statement: Statement): Statement {
    if (!(this.is(".") || this.is("&.")) || statement.kind === "expression") return statement;
    const value = this.postfix({ kind: "do", body: [statement], start: statement.start, end: statement.end });
    return { kind: "expression", value, start: statement.start, end: value.end };
  }

  private typeDefinition(): Statement {
    const opened = this.next();
    const path: string[] = [];
    let above = false;
    while (!this.token.newline && !this.atEnd && !this.is(";")) {
      if (this.is("<") || this.is("<<")) above = true;
      else if (this.token.kind === "constant" && !above) path.push(this.token.text);
      this.index++;
    }
    return { kind: "type", name: path.join("::"), body: this.closeBlock(opened), start: opened.start, end: this.lastEnd };
  }

  private conditional(): Statement {
    const opened = this.next();
    const test = this.withDo(true, () => this.lowExpression());
    this.acceptWord("then");
    const body = this.until(opened, "end", "else", "elsif");
    let otherwise: Statement[] = [];
    if (this.word("elsif")) otherwise = [this.conditional()];
    else {
      if (this.acceptWord("else")) otherwise = this.until(opened, "end");
      this.acceptWord("end");
    }
    const end = this.lastEnd;
    return opened.text === "unless"
      ? { kind: "if", test, then: otherwise, otherwise: body, start: opened.start, end }
      : { kind: "if", test, then: body, otherwise, start: opened.start, end };
  }

  private caseStatement(): Statement {
    const opened = this.next();
    const subject = this.token.newline || this.is(";") ? undefined : this.lowExpression();
    this.accept(";");
    const cases: Extract<Statement, { kind: "switch" }>["cases"] = [];
    while (this.word("when", "else", "in")) {
      const clause = this.next();
      const tests: Expr[] = [];
      if (clause.text !== "else") {
        do tests.push(clause.text === "in" ? this.passedOver() : this.spreadable());
        while (this.accept(","));
      }
      this.acceptWord("then");
      cases.push({ tests, isDefault: clause.text === "else", body: this.until(opened, "end", "when", "else", "in") });
    }
    if (this.atEnd) this.fail('the block that "case" opens is never closed', opened.start);
    this.acceptWord("end");
    return { kind: "switch", subject, cases, fallsThrough: false, start: opened.start, end: this.lastEnd };
  }

  /** A pattern of `case … in`, whose meaning is not worked out. */
  private passedOver(): Expr {
    const { start } = this.token;
    while (!this.token.newline && !this.atEnd && !this.word("then")) this.index++;
    return this.opaque(start);
  }

  private definition(): Statement {
    const opened = this.next();
    let name = this.next().text;
    if (this.accept(".")) name = this.next().text;
    const bracketed = this.accept("(");
    const parameters = this.parameters(() => (bracketed ? this.is(")") : this.token.newline || this.is("=") || this.is(";")));
    if (bracketed) this.accept(")");
    const { start } = opened;
    if (this.is("=") && !this.token.newline) {
      this.index++;
      const value = this.lowExpression();
      const body: Statement[] = [{ kind: "return", value, start: value.start, end: value.end }];
      return { kind: "function", name, parameters, body, start, end: value.end };
    }
    return { kind: "function", name, parameters, body: this.closeBlock(opened), start, end: this.lastEnd };
  }

  /** Parameters of methods and blocks: plain ones, with defaults, named, the rest of them, and lists taken apart. */
  private parameters(ended: () => boolean, fallback = (): Expr => this.ternary()): Parameter[] {
    const parameters: Parameter[] = [];
    while (!this.atEnd && !ended()) {
      const before = this.index;
      if (this.accept(",")) continue;
      if (this.accept("(")) {
        parameters.push({ name: "", parts: this.parameters(() => this.is(")")) });
        this.accept(")");
      } else if (this.is("*") || this.is("**") || this.is("&")) {
        const rest = ({ "*": "list", "**": "map", "&": "block" } as const)[this.next().text as "*" | "**" | "&"];
        parameters.push({ name: this.token.kind === "name" ? this.next().text : "", rest });
      } else if (this.token.kind === "label") {
        const name = this.next().text;
        const bare = this.is(",") || ended() || this.token.newline;
        parameters.push(bare ? { name } : { name, fallback: fallback() });
      } else if (this.token.kind === "name") {
        const name = this.next().text;
        parameters.push(this.is("=") && this.accept("=") ? { name, fallback: fallback() } : { name });
      }
      if (this.index === before) this.index++;
    }
    return parameters;
  }

  // Expressions

  /** With the operators that bind less than an assignment: `not`, `and`, `or`. */
  private lowExpression(): Expr {
    let left = this.negated();
    while (this.word("and", "or") && !this.token.newline) {
      const operator = this.next().text === "and" ? "&&" : "||";
      const right = this.lowRight();
      left = { kind: "binary", operator, left, right, start: left.start, end: right.end };
    }
    return left;
  }

  /** `x or raise`, `x and next`: the right side can be a statement. */
  private lowRight(): Expr {
    if (!this.word("raise", "abort", "exit", "next", "break", "return")) return this.negated();
    const { start } = this.token;
    const statement = this.plainStatement();
    return statement ? { kind: "do", body: [statement], start, end: this.lastEnd } : this.opaque(start);
  }

  private negated(): Expr {
    if (!this.word("not")) return this.expression();
    const { start } = this.next();
    const value = this.expression();
    return { ...not(value), start };
  }

  expression(): Expr {
    if (this.depth >= MAX_DEPTH) {
      this.tooDeep();
      this.index++;
      return this.opaque(this.token.start);
    }
    this.depth++;
    const expr = this.assignment();
    this.depth--;
    return expr;
  }

  private assignment(): Expr {
    const target = this.ternary();
    const operator = this.token.kind === "mark" && !this.token.newline ? this.token.text : "";
    if (!ASSIGNS.has(operator) || !/^(name|member|index)$/.test(target.kind)) return target;
    this.index++;
    let value: Expr;
    // `a = 1, 2` is a list, except among arguments, where the comma separates them.
    if (this.listDepth === 0) value = this.valueList();
    else value = this.expression();
    if (this.word("rescue") && !this.token.newline) {
      const { start } = this.next();
      const other = this.expression();
      const statement = (expr: Expr): Statement => ({ kind: "expression", value: expr, start: expr.start, end: expr.end });
      value = {
        kind: "do",
        body: [{ kind: "try", body: [statement(value)], clauses: [[statement(other)]], last: [], start, end: other.end }],
        start: value.start,
        end: other.end,
      };
    }
    return this.assigning({ kind: "assign", target, operator, value, declared: false, start: target.start, end: this.lastEnd });
  }

  /** How many lists of arguments or items are open around what is read. */
  private listDepth = 0;

  private ternary(): Expr {
    const test = this.binary(1);
    if (!this.is("?") || this.token.newline) return test;
    this.index++;
    const then = this.ternary();
    // `x ? a: b` reads `a:` as a label.
    if (this.tokens[this.index - 1]?.kind === "label") {
      const otherwise = this.ternary();
      return { kind: "condition", test, then, otherwise, start: test.start, end: otherwise.end };
    }
    const otherwise = this.accept(":") ? this.ternary() : this.opaque(this.token.start);
    return { kind: "condition", test, then, otherwise, start: test.start, end: otherwise.end };
  }

  private binary(minimum: number): Expr {
    let left = this.unary();
    for (let links = 0; ; links++) {
      const { token } = this;
      const operator = token.kind === "mark" ? token.text : "";
      const precedence = PRECEDENCE[operator];
      // A line that begins with an operator goes on with the one before only for these.
      if (precedence === undefined || precedence < minimum || (token.newline && operator !== "||" && operator !== "&&")) return left;
      if (this.depth >= MAX_DEPTH || links >= mostLinks(this.depth)) {
        this.tooDeep();
        while (!this.atEnd && !this.token.newline) this.index++;
        return this.opaque(left.start);
      }
      this.index++;
      this.depth++;
      const right = this.binary(operator === "**" ? precedence : precedence + 1);
      this.depth--;
      left = { kind: "binary", operator, left, right, start: left.start, end: right.end };
    }
  }

  private unary(): Expr {
    const { token } = this;
    if (token.kind !== "mark" || !/^(!|-|\+|&|\*|\*\*)$/.test(token.text)) return this.postfix(this.primary());
    this.index++;
    const value = this.depth < MAX_DEPTH ? (this.depth++, this.unary()) : this.opaque(token.start);
    this.depth = Math.max(0, this.depth - 1);
    if (token.text === "!") return { ...not(value), start: token.start };
    if (token.text === "-" && value.kind === "literal") return { ...value, text: `-${value.text}`, start: token.start };
    if (token.text === "-") {
      const zero: Expr = { kind: "literal", text: "0", start: token.start, end: token.start };
      return { kind: "binary", operator: "-", left: zero, right: value, start: token.start, end: value.end };
    }
    return token.text === "*" ? { kind: "spread", value, start: token.start, end: value.end } : value;
  }

  // eslint-disable-next-line complexity -- one case for each token that can begin an expression
  private primary(): Expr {
    const { token } = this;
    const { start, end } = token;
    switch (token.kind) {
      case "number":
        this.index++;
        return { kind: "literal", text: token.text.replaceAll("_", ""), start, end };
      case "text":
        return this.texts();
      case "command":
        this.index++;
        return { kind: "opaque", start, end };
      case "pattern":
        this.index++;
        return { kind: "pattern", text: token.text, flags: token.flags ?? "", start: token.contentStart ?? start, end };
      case "symbol":
        this.index++;
        return token.parts ? this.text(token) : { kind: "text", parts: [token.text], start: token.contentStart ?? start + 1, end };
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
        // `x ? a : b` written as `x ? a: b`
        this.index++;
        return { kind: "name", name: token.text, start, end };
      case "name":
      case "constant":
        return this.named();
      default:
        break;
    }
    if (this.accept("(")) return this.parenthesis(start);
    if (this.is("[")) return this.list();
    if (this.is("{")) return this.hash();
    if (this.accept("->")) {
      let parameters: Parameter[] = [];
      if (this.accept("(")) {
        parameters = this.parameters(() => this.is(")"));
        this.accept(")");
      } else if (this.token.kind === "name" && !this.word("do")) parameters = this.parameters(() => this.is("{") || this.word("do"));
      const closure = this.withDo(false, () => this.closureIf());
      return closure ? { ...closure, parameters: [...parameters, ...closure.parameters] } : this.opaque(start);
    }
    if (this.is("::")) {
      while (this.is("::")) this.index++;
      return this.primary();
    }
    if (token.kind === "mark" && !/^[)\]},;|]$/.test(token.text)) this.index++;
    return { kind: "opaque", start, end: start };
  }

  private named(): Expr {
    const { token } = this;
    const { start, end } = token;
    if (token.kind === "name" && OPENERS.has(token.text)) {
      const statement = this.withDo(false, () => this.opened());
      if (!statement) return this.opaque(start);
      return statement.kind === "expression" ? statement.value : { kind: "do", body: [statement], start, end: this.lastEnd };
    }
    if (token.text === "defined?") {
      this.index++;
      const asked = this.accept("(") ? this.expression() : this.unary();
      this.accept(")");
      const path = asked.kind === "name" ? asked.name : "";
      return callOf({ kind: "name", name: "defined?", start, end }, [
        { value: { kind: "text", parts: [path], start: asked.start, end: asked.end } },
      ]);
    }
    this.index++;
    if (token.text === "true" || token.text === "false" || token.text === "nil") return { kind: "literal", text: token.text, start, end };
    if (token.text === "lambda" || token.text === "proc") {
      const closure = this.withDo(false, () => this.closureIf());
      if (closure) return closure;
    }
    return { kind: "name", name: token.text, start, end };
  }

  private parenthesis(start: number): Expr {
    const body = this.withDo(false, () => {
      const depth = this.listDepth;
      this.listDepth = 0;
      const found: Statement[] = [];
      while (!this.atEnd && !this.is(")") && !this.word("end")) {
        const before = this.index;
        const statement = this.statement();
        if (statement) found.push(statement);
        if (this.index === before) this.index++;
      }
      this.listDepth = depth;
      return found;
    });
    this.accept(")");
    const [only] = body;
    if (body.length === 1 && only?.kind === "expression") return only.value;
    return body.length === 0 ? this.opaque(start) : { kind: "do", body, start, end: this.lastEnd };
  }

  /** `'a' 'b'` stand for one text. */
  private texts(): TextExpr {
    const text = this.text(this.next());
    while (this.token.kind === "text" && !this.token.newline) text.parts.push(...this.text(this.next()).parts);
    return text;
  }

  private text(token: Token): TextExpr {
    const parts = (token.parts ?? []).map((part): string | Expr => {
      if (typeof part === "string" || this.depth > MAX_DEPTH - 20) return typeof part === "string" ? part : "";
      const { tokens } = tokenizeRuby(this.source, part.code, part.start);
      const inner = new RubyParser(this.source, tokens, this.problems);
      inner.depth = this.depth + 10;
      return inner.lowExpression();
    });
    return { kind: "text", parts, start: token.contentStart ?? token.start, end: token.end };
  }

  private list(): Expr {
    const { start } = this.token;
    this.index++;
    const items = this.withDo(false, () => this.items("]"));
    this.accept("]");
    const end = this.lastEnd;
    // ['a', b: 1] ends with a hash.
    const plain = items.filter(({ name, key }) => name === undefined && key === undefined).map(({ value }) => value);
    const entries = items.filter(({ name, key }) => name !== undefined || key !== undefined);
    if (entries.length > 0) plain.push({ kind: "map", entries, start, end });
    return { kind: "list", items: plain, start, end };
  }

  private hash(): Expr {
    const { start } = this.token;
    this.index++;
    const entries = this.withDo(false, () => this.items("}"));
    this.accept("}");
    return { kind: "map", entries, start, end: this.lastEnd };
  }

  private items(closer: string): Argument[] {
    const items: Argument[] = [];
    this.listDepth++;
    while (!this.atEnd && !this.is(closer)) {
      const before = this.index;
      items.push(this.argument());
      this.accept(",");
      if (this.index === before) {
        if (this.word("end") || (this.token.kind === "mark" && /^[)\]}]$/.test(this.token.text))) break;
        this.index++;
      }
    }
    this.listDepth--;
    return items;
  }

  // eslint-disable-next-line complexity -- the forms of an argument
  private argument(): Argument {
    const { token } = this;
    if (token.kind === "label") {
      this.index++;
      const nothing = this.is(",") || this.is(")") || this.is("}") || this.is("]") || this.atEnd;
      const value: Expr = nothing ? { kind: "name", name: token.text, start: token.start, end: token.end } : this.expression();
      // "#{x}": a label whose text is worked out.
      if (token.parts?.some((part) => typeof part !== "string")) return { key: this.text(token), value };
      return { name: token.parts ? token.parts.join("") : token.text, nameStart: token.contentStart ?? token.start, value };
    }
    if (this.is("**")) {
      this.index++;
      return { name: "...", value: this.expression() };
    }
    if (this.is("&") && !this.peek().spaced) {
      this.index++;
      return { value: this.handedOver(), block: true };
    }
    if (this.is("*") && !this.peek().spaced) return { value: this.spreadable() };
    const value = this.expression();
    if (!this.accept("=>")) return { value };
    const first =
      value.kind === "text" && value.parts.length <= 1 ? (value.parts[0] ?? "") : value.kind === "literal" ? value.text : undefined;
    if (typeof first === "string") return { name: first, nameStart: value.start, value: this.expression() };
    return { key: value, value: this.expression() };
  }

  /** `&:strip`, `&method(:pod)`, `&block`. */
  private handedOver(): Expr {
    const { token } = this;
    const { start } = token;
    if (token.kind === "symbol" && !token.parts) {
      this.index++;
      return closureCalling((it) => callOf({ kind: "member", object: it, name: token.text, start, end: token.end }), start, token.end);
    }
    return this.expression();
  }

  private postfix(primary: Expr): Expr {
    let expr = primary;
    for (let links = 0; ; links++) {
      if (links >= 2 * mostLinks(this.depth)) {
        this.tooDeep();
        while (!this.atEnd && !this.token.newline) this.index++;
        return this.opaque(expr.start);
      }
      const further = this.link(expr);
      if (!further) return expr;
      expr = further;
      // `x ? a.b: c`
      if (expr.kind === "member" && this.tokens[this.index - 1]?.kind === "label") return expr;
    }
  }

  /** One more part of a chain; `undefined` where it ends. */
  private link(expr: Expr): Expr | undefined {
    const { token } = this;
    if (this.is(".") || this.is("&.") || this.is("::")) return this.memberLink(expr);
    if (token.newline) return undefined;
    if (this.is("(") && !token.spaced && (expr.kind === "name" || expr.kind === "member")) {
      this.index++;
      const args = this.withDo(false, () => this.items(")"));
      this.accept(")");
      return this.withBlock(this.callExpr(expr, args));
    }
    if (this.is("[") && (!token.spaced || (expr.kind !== "name" && expr.kind !== "member"))) {
      this.index++;
      const items = this.withDo(false, () => this.items("]")).map(({ value }) => value);
      this.accept("]");
      const index = items[0] ?? this.opaque(token.start);
      const second = items[1];
      return { kind: "index", object: expr, index, ...(second ? { second } : {}), start: expr.start, end: this.lastEnd };
    }
    if (expr.kind !== "name" && expr.kind !== "member") return undefined;
    if (this.startsArgument(expr)) {
      const args = this.withDo(true, () => this.commandArguments());
      return this.withBlock(this.callExpr(expr, args));
    }
    const closure = this.closureIf();
    return closure && { kind: "call", callee: expr, args: [], closure, infix: [], start: expr.start, end: closure.end };
  }

  private memberLink(expr: Expr): Expr | undefined {
    const after = this.peek();
    // x.(1)
    if (after.text === "(" && this.is(".")) {
      this.index++;
      return { kind: "member", object: expr, name: "call", start: expr.start, end: this.lastEnd };
    }
    if (!/^(name|constant|label)$/.test(after.kind)) return undefined;
    this.index++;
    const name = this.next();
    return { kind: "member", object: expr, name: name.text, start: expr.start, end: name.end };
  }

  private callExpr(callee: Expr, args: Argument[]): CallExpr {
    return { kind: "call", callee, args, closure: undefined, infix: [], start: callee.start, end: this.lastEnd };
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
      case "command":
      case "pattern":
        return true;
      case "name":
        return !MODIFIERS.has(token.text) && !ENDS.has(token.text);
      case "mark":
        if (token.text === "[") return true;
        if (/^(\*\*?|&|-|::)$/.test(token.text)) return !this.peek().spaced;
        if (token.text === "->") return true;
        return token.text === "!" && this.peek().text !== "=";
      default:
        return false;
    }
  }

  /** Arguments without parentheses: to the end of the line, and on behind a comma. */
  private commandArguments(): Argument[] {
    const args: Argument[] = [];
    this.listDepth++;
    do args.push(this.argument());
    while (this.is(",") && !this.token.newline && this.accept(",") && !this.endsCommand());
    this.listDepth--;
    return args;
  }

  /** A comma behind the last argument. */
  private endsCommand(): boolean {
    return this.atEnd || (this.token.newline && this.word("end", "pod", "target"));
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
    const depth = this.listDepth;
    this.listDepth = 0;
    let parameters: Parameter[] = [];
    if (this.accept("|")) {
      // A bar ends a default here, and is no operator in it.
      parameters = this.parameters(
        () => this.is("|"),
        () => this.binary(BAR + 1),
      );
      this.accept("|");
    } else this.accept("||");
    let body: Statement[];
    if (brace) {
      body = this.until(opened, "}");
      this.accept("}");
    } else body = this.closeBlock(opened);
    this.listDepth = depth;
    if (parameters.length === 0) parameters = numbered(opened.end, this.source, this.lastEnd);
    return { kind: "closure", parameters, body, start: opened.start, end: this.lastEnd };
  }
}

/** `_1`, `_2`: parameters that are only named where they are used; `it` else. */
function numbered(from: number, source: Source, to: number): Parameter[] {
  const text = source.text.slice(from, to);
  if (/\b_2\b/.test(text)) return [{ name: "_1" }, { name: "_2" }];
  return /\b_1\b/.test(text) ? [{ name: "_1" }] : [];
}

function not(value: Expr): Expr {
  return { kind: "binary", operator: "!", left: value, right: value, start: value.start, end: value.end };
}
