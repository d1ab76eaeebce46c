import type { Problem, Source } from "../source.js";
import type { Argument, CallExpr, ClosureExpr, Expr, Parameter, Script, Statement, TextExpr } from "./ast.js";
import { tokenize, type Dialect, type Token } from "./lexer.js";
import { mostLinks, TOO_DEEP } from "./limits.js";

const MODIFIERS = new Set([
  "def",
  "val",
  "var",
  "const",
  "let",
  "final",
  "static",
  "private",
  "public",
  "internal",
  "protected",
  "override",
  "lateinit",
  "abstract",
  "open",
  "sealed",
  "data",
  "export",
  "default",
  "async",
  "await",
  "new",
  "lazy",
  "suspend",
  "inline",
  "fileprivate",
  "transient",
]);
const DECLARES = new Set(["def", "val", "var", "const", "let", "final", "static"]);
const TYPES = new Set(["class", "interface", "object", "enum", "struct", "extension", "trait", "protocol", "namespace", "companion"]);
const WORD_OPERATORS = new Set(["in", "instanceof", "is", "as", "to", "satisfies", "downTo", "until", "or", "and"]);
const MAX_DEPTH = 150;

const PRECEDENCE: Record<string, number> = {
  "||": 2,
  or: 2,
  "&&": 3,
  and: 3,
  "==": 4,
  "!=": 4,
  "===": 4,
  "!==": 4,
  "=~": 4,
  "<=>": 4,
  "<": 5,
  ">": 5,
  "<=": 5,
  ">=": 5,
  in: 5,
  instanceof: 5,
  is: 5,
  as: 9,
  satisfies: 9,
  to: 6,
  until: 6,
  downTo: 6,
  "..": 6,
  "...": 6,
  "..<": 6,
  "<<": 6,
  "+": 7,
  "-": 7,
  "*": 8,
  "/": 8,
  "%": 8,
};

/** Parses a Gradle script, a Swift package manifest or a JavaScript settings file. Total: whatever is not understood is passed over. */
export function parseScript(source: Source, dialect: Dialect): Script {
  const { tokens, problems } = tokenize(source, dialect);
  const body = new Parser(source, dialect, tokens, problems).block(false);
  return { source, body, problems };
}

class Parser {
  private index = 0;
  private depth = 0;
  /** No trailing closure while this is set (the head of an `if`, `for`, `while`). */
  private noClosure = false;

  constructor(
    private readonly source: Source,
    private readonly dialect: Dialect,
    private readonly tokens: Token[],
    private readonly problems: Problem[],
  ) {}

  private tooDeep(): void {
    if (!this.problems.some(({ message }) => message === TOO_DEEP)) this.problems.unshift(this.source.problem(TOO_DEEP, this.token.start));
  }

  /** Passes over what is left of a chain that is too long. */
  private skipChain(): void {
    this.tooDeep();
    while (!this.atEnd() && !/^[)\]};,]$/.test(this.token.kind === "mark" ? this.token.text : "")) {
      // A line that goes on with a dot or an operator is part of it.
      if (this.token.newline && this.token.kind === "name") return;
      if (this.is("(") || this.is("[") || this.is("{")) this.skipBalanced();
      else this.index++;
    }
  }

  private get token(): Token {
    return this.peek(0);
  }

  private peek(distance = 1): Token {
    return this.tokens[Math.min(this.index + distance, this.tokens.length - 1)] as Token;
  }

  private atEnd(): boolean {
    return this.peek(0).kind === "end";
  }

  private is(mark: string): boolean {
    return this.token.kind === "mark" && this.token.text === mark;
  }

  private isName(name?: string): boolean {
    return this.token.kind === "name" && (name === undefined || this.token.text === name);
  }

  private next(): Token {
    const token = this.token;
    if (token.kind !== "end") this.index++;
    return token;
  }

  private accept(mark: string): boolean {
    if (!this.is(mark)) return false;
    this.index++;
    return true;
  }

  /** Statements up to `}` (taken, when `braced`) or the end of the file. */
  block(braced: boolean): Statement[] {
    const body: Statement[] = [];
    for (;;) {
      if (this.atEnd()) return body;
      if (this.is("}")) {
        if (braced) {
          this.index++;
          return body;
        }
        this.index++; // closes nothing: reported by the lexer
        continue;
      }
      const before = this.index;
      const statement = this.statement();
      if (statement) body.push(statement);
      if (this.index === before) this.index++;
    }
  }

  private nested<T>(read: () => T, otherwise: () => T): T {
    if (this.depth >= MAX_DEPTH) {
      this.tooDeep();
      this.skipBalanced();
      return otherwise();
    }
    this.depth++;
    const saved = this.noClosure;
    try {
      return read();
    } finally {
      this.depth--;
      this.noClosure = saved;
    }
  }

  private skipBalanced(): void {
    let depth = 0;
    do {
      const token = this.next();
      if (token.kind === "end") return;
      if (token.kind !== "mark") continue;
      if (/^[([{]$/.test(token.text)) depth++;
      else if (/^[)\]}]$/.test(token.text)) depth--;
    } while (depth > 0);
  }

  private statement(): Statement | undefined {
    return this.nested<Statement | undefined>(
      () => this.readStatement(),
      () => undefined,
    );
  }

  private readStatement(): Statement | undefined {
    const { start } = this.token;
    if (this.accept(";") || this.accept(",")) return undefined;
    if (this.token.kind === "name") {
      const word = this.token.text;
      if (word.startsWith("@")) {
        this.skipAnnotation();
        return undefined;
      }
      if (word === "import" || word === "package") {
        if (
          this.peek().kind === "name" ||
          this.peek().kind === "text" ||
          (this.peek().text === "{" && this.dialect === "javascript") ||
          this.peek().text === "*"
        )
          return this.skipLine();
      }
      if (word === "if" && !this.isAssignment()) return this.ifStatement();
      if (word === "guard" && this.dialect === "swift") return this.skipLine();
      if (
        (word === "for" || word === "while" || word === "switch" || word === "when" || word === "catch") &&
        (this.peek().text === "(" || this.dialect === "swift")
      )
        return this.loop();
      if ((word === "try" || word === "finally" || word === "else" || word === "do") && this.peek().text === "{") {
        this.index++;
        return { kind: "if", test: this.opaque(start), then: this.braces(), otherwise: [], start, end: this.token.start };
      }
      if (word === "return") {
        this.index++;
        const value = this.token.newline || this.is("}") ? undefined : this.commandExpression();
        return { kind: "return", value, start, end: this.token.start };
      }
      if (word === "fun" || word === "func" || (word === "function" && this.dialect === "javascript")) {
        const found = this.functionDeclaration();
        if (found) return found;
      }
      if (
        TYPES.has(word) &&
        (this.peek().kind === "name" ||
          (word === "companion" && this.peek().kind === "name") ||
          (word === "object" && this.peek().text === "{"))
      )
        return this.typeDeclaration();
      if (MODIFIERS.has(word)) {
        const next = this.peek();
        if (next.kind === "name" || next.text === "(" || next.text === "{" || next.text === "[" || next.kind === "text") {
          if (!(next.text === "(" && !next.spaced)) return this.declaration();
        }
      }
      if (this.looksTyped()) return this.declaration();
    }
    return this.expressionStatement(false);
  }

  /** `String name = …`, `int x = 1`, `List<String> y = …` without a modifier (Groovy, Java). */
  private looksTyped(): boolean {
    if (this.dialect !== "groovy") return false;
    const first = this.token.text;
    const second = this.peek();
    return (
      /^(?:[A-Z]\w*|int|long|boolean|double|float|void)$/.test(first) &&
      second.kind === "name" &&
      !second.newline &&
      (this.peek(2).text === "=" || this.peek(2).text === "(")
    );
  }

  private isAssignment(): boolean {
    return this.peek().text === "=" || this.peek().text === ".";
  }

  private skipAnnotation(): void {
    this.index++;
    while (this.is(".") || this.is(":")) {
      this.index++;
      if (this.isName()) this.index++;
    }
    if (this.is("(") && !this.token.newline) this.skipBalanced();
  }

  private skipLine(): undefined {
    do {
      if (this.is("{") || this.is("(") || this.is("[")) this.skipBalanced();
      else this.next();
    } while (!this.atEnd() && !this.token.newline && !this.is("}") && !this.is(";"));
    return undefined;
  }

  private declaration(): Statement | undefined {
    const { start } = this.token;
    let declared = false;
    while (
      this.token.kind === "name" &&
      MODIFIERS.has(this.token.text) &&
      (this.peek().kind === "name" ||
        this.peek().text === "(" ||
        this.peek().text === "{" ||
        this.peek().text === "[" ||
        this.peek().kind === "text")
    ) {
      declared ||= DECLARES.has(this.token.text);
      this.index++;
    }
    const word = this.token.text;
    if (this.token.kind === "name") {
      if (word === "fun" || word === "func" || (word === "function" && this.dialect === "javascript")) return this.functionDeclaration();
      if (TYPES.has(word)) return this.typeDeclaration();
    }
    // Groovy: def (a, b) = …; Kotlin: val (a, b) = …
    if (this.is("(") || this.is("[") || (this.is("{") && declared)) {
      if (!declared && !this.is("(")) return this.expressionStatement(false);
      if (declared) {
        this.skipBalanced();
        if (this.accept("=")) this.expression();
        return undefined;
      }
      return this.expressionStatement(false);
    }
    if (!this.isName()) return this.expressionStatement(declared);
    // A type before the name: String x = …, Map<String, String> x = …, def String x
    if (this.dialect === "groovy") {
      const saved = this.index;
      this.index++;
      while (this.is(".") && this.peek().kind === "name") this.index += 2;
      if (this.is("<")) this.skipGenerics();
      if (this.is("[") && this.peek().text === "]") this.index += 2;
      if (!(
        this.isName() &&
        !this.token.newline &&
        (this.peek().text === "=" || this.peek().text === "(" || this.peek().text === ";" || this.peek().newline)
      ))
        this.index = saved;
      if (this.isName() && this.peek().text === "(" && (declared || this.index !== saved)) {
        const named = this.functionDeclaration(true);
        if (named) return named;
      }
    }
    // Kotlin receiver or extension property: val Project.x
    if (this.dialect !== "groovy" && declared && this.peek().text === "." && this.peek(2).kind === "name") this.index += 2;
    if (declared && (this.dialect === "kotlin" || this.dialect === "swift" || this.dialect === "javascript")) {
      const target: Expr = { kind: "name", name: this.token.text, start: this.token.start, end: this.token.end };
      const save = this.index;
      this.index++;
      if (this.accept(":")) this.skipType();
      if (this.is("=") || this.isName("by")) {
        const operator = this.next().text === "by" ? ("by" as const) : ("=" as const);
        const value = this.commandExpression();
        return { kind: "assign", target, operator, value, declared: true, start, end: this.token.start };
      }
      if (this.isName("get") && this.peek().text === "(") {
        // Kotlin computed property: val x get() = "…"
        this.index++;
        this.skipBalanced();
        if (this.accept("="))
          return { kind: "assign", target, operator: "=", value: this.commandExpression(), declared: true, start, end: this.token.start };
      }
      if (this.is("{") && this.dialect === "swift") {
        this.skipBalanced();
        return undefined;
      }
      this.index = save;
    }
    return this.expressionStatement(declared);
  }

  /** Skips a type: names, dots, generics, `?`, brackets. */
  private skipType(): void {
    for (;;) {
      if (this.is("<")) {
        // Type arguments that do not end are the end of what can be told to be a type.
        if (!this.skipGenerics()) return;
      } else if (this.is("[") || this.is("(")) this.skipBalanced();
      else if (
        (this.isName() && !this.isName("by") && !this.isName("get")) ||
        this.is(".") ||
        this.is("?") ||
        this.is("|") ||
        this.is("->") ||
        this.is("=>")
      )
        this.index++;
      else return;
      if (this.token.newline) return;
    }
  }

  private skipGenerics(): boolean {
    const saved = this.index;
    let depth = 0;
    for (let guard = 0; guard < 60; guard++) {
      if (this.is("<")) depth++;
      else if (this.is(">")) depth--;
      else if (!(
        this.isName() ||
        this.is(".") ||
        this.is(",") ||
        this.is("?") ||
        this.is("*") ||
        this.is(":") ||
        this.is("[") ||
        this.is("]") ||
        this.token.kind === "text" ||
        this.is("|") ||
        this.is("&")
      ))
        break;
      this.index++;
      if (depth === 0) return true;
    }
    this.index = saved;
    return false;
  }

  private functionDeclaration(bare = false): Statement | undefined {
    const saved = this.index;
    const { start } = this.token;
    if (!bare) this.index++;
    if (this.is("<")) this.skipGenerics();
    while (this.isName() && this.peek().text === ".") this.index += 2;
    const name = this.isName() || this.token.kind === "text" ? this.next().text : "";
    if (!this.is("(")) {
      this.index = saved;
      return undefined;
    }
    const parameters = this.parameters();
    if (this.accept(":") || this.accept("->")) this.skipType();
    if (this.isName("throws")) this.skipLineUntilBrace();
    if (this.is("{")) return { kind: "function", name, parameters, body: this.braces(), start, end: this.token.start };
    if (this.accept("=")) {
      const value = this.commandExpression();
      return {
        kind: "function",
        name,
        parameters,
        body: [{ kind: "return", value, start: value.start, end: value.end }],
        start,
        end: this.token.start,
      };
    }
    if (bare) {
      this.index = saved;
      return undefined;
    }
    return { kind: "function", name, parameters, body: [], start, end: this.token.start };
  }

  private skipLineUntilBrace(): void {
    while (!this.atEnd() && !this.is("{") && !this.token.newline) this.index++;
  }

  private parameters(): Parameter[] {
    const parameters: Parameter[] = [];
    this.index++; // (
    while (!this.atEnd() && !this.is(")")) {
      let name = "";
      let fallback: Expr | undefined;
      while (!this.atEnd() && !this.is(",") && !this.is(")")) {
        if (this.is("=")) {
          this.index++;
          fallback = this.expression();
        } else if (this.is(":")) {
          this.index++;
          this.skipType();
        } else if (this.is("<")) {
          if (!this.skipGenerics()) this.index++;
        } else if (this.is("(") || this.is("[") || this.is("{")) this.skipBalanced();
        else {
          if (this.isName()) name = this.token.text;
          this.index++;
        }
      }
      if (name) parameters.push(fallback ? { name, fallback } : { name });
      this.accept(",");
    }
    this.accept(")");
    return parameters;
  }

  private typeDeclaration(): Statement | undefined {
    const { start } = this.token;
    while (this.isName() && TYPES.has(this.token.text)) this.index++;
    const name = this.isName() ? this.next().text : "";
    while (!this.atEnd() && !this.is("{") && !this.is("}")) {
      if (this.token.newline && !this.is(":") && !this.is("(") && !this.is(",") && !this.isName("extends") && !this.isName("implements"))
        break;
      if (this.is("(")) this.skipBalanced();
      else this.index++;
    }
    const body = this.is("{") ? this.braces() : [];
    return { kind: "type", name, body, start, end: this.token.start };
  }

  private ifStatement(): Statement {
    const { start } = this.next();
    const test = this.head();
    const then = this.branch();
    let otherwise: Statement[] = [];
    while (this.is(";")) this.index++;
    if (this.isName("else")) {
      this.index++;
      otherwise = this.branch();
    }
    return { kind: "if", test, then, otherwise, start, end: this.token.start };
  }

  private loop(): Statement {
    const { start, text } = this.next();
    const saved = this.index;
    const loop = text === "for" ? this.loopHead() : undefined;
    if (!loop) this.index = saved;
    const test = loop?.list ?? this.head();
    return {
      kind: "if",
      test: { ...this.opaque(start), end: test.end },
      then: this.is("{") ? this.braces() : this.branch(),
      otherwise: [],
      ...(loop ? { loop } : {}),
      start,
      end: this.token.start,
    };
  }

  /** `(x in list)`, `(String x : list)`, `((a, b) in pairs)`, `(const x of list)`, `x in list`: the variables and the list. */
  private loopHead(): { names: string[]; list: Expr } | undefined {
    const inside = this.accept("(");
    while (this.token.kind === "name" && MODIFIERS.has(this.token.text) && this.peek().text !== "in" && this.peek().text !== "of")
      this.index++;
    const names: string[] = [];
    if (this.is("(") || this.is("[")) {
      this.index++;
      while (!this.atEnd() && !this.is(")") && !this.is("]")) {
        if (this.isName()) names.push(this.token.text);
        this.index++;
      }
      this.index++;
    } else {
      // A type before the name.
      if (this.isName() && this.peek().kind === "name" && !/^(in|of)$/.test(this.peek().text)) this.index++;
      if (!this.isName()) return undefined;
      names.push(this.next().text);
      if (this.is(":") && this.dialect === "kotlin") {
        this.index++;
        this.skipType();
      }
    }
    if (!this.isName("in") && !this.isName("of") && !(this.is(":") && this.dialect === "groovy")) return undefined;
    this.index++;
    const closures = this.noClosure;
    this.noClosure = !inside;
    const list = this.expression();
    this.noClosure = closures;
    if (inside && !this.accept(")")) return undefined;
    return names.length > 0 ? { names, list } : undefined;
  }

  private head(): Expr {
    const saved = this.noClosure;
    this.noClosure = true;
    if (this.is("(") && this.dialect !== "swift") {
      this.index++;
      this.noClosure = false;
      const test = this.expression();
      // for (a in b), for (;;): the rest is not needed.
      let depth = 0;
      while (!this.atEnd()) {
        if (this.is("(")) depth++;
        if (this.is(")") && depth-- === 0) break;
        if (this.is("{")) break;
        this.index++;
      }
      this.accept(")");
      this.noClosure = saved;
      return test;
    }
    const test = this.expression();
    while (!this.atEnd() && !this.is("{") && !this.token.newline) this.index++;
    this.noClosure = saved;
    return test;
  }

  private branch(): Statement[] {
    if (this.is("{")) return this.braces();
    const statement = this.statement();
    return statement ? [statement] : [];
  }

  private braces(): Statement[] {
    return this.nested(
      () => {
        this.noClosure = false;
        this.index++;
        return this.block(true);
      },
      () => [],
    );
  }

  private expressionStatement(declared: boolean): Statement | undefined {
    const { start } = this.token;
    const target = this.commandExpression();
    if (this.token.kind === "mark" && !this.token.newline && (this.token.text === "=" || this.token.text === "+=")) {
      const operator = this.next().text as "=" | "+=";
      const value = this.commandExpression();
      return { kind: "assign", target, operator, value, declared, start, end: this.token.start };
    }
    if (target.kind === "opaque" && target.start === target.end) return undefined;
    return { kind: "expression", value: target, start, end: target.end };
  }

  /** An expression, or a Groovy command (`implementation "x", { … }`), or a Kotlin infix chain (`id("x") version "y"`). */
  private commandExpression(): Expr {
    const expr = this.expression();
    if (this.token.newline || this.atEnd()) return expr;
    if (this.dialect === "groovy" && (expr.kind === "name" || expr.kind === "member") && this.startsArgument()) {
      const call: CallExpr = {
        kind: "call",
        callee: expr,
        args: this.commandArguments(),
        closure: undefined,
        infix: [],
        start: expr.start,
        end: expr.end,
      };
      const last = call.args.at(-1);
      if (last?.name === undefined && last?.value.kind === "closure") {
        call.closure = last.value;
        call.args.pop();
      }
      this.infixChain(call);
      call.end = this.tokens[this.index - 1]?.end ?? call.end;
      return call;
    }
    if (expr.kind === "call" && (this.dialect === "kotlin" || this.dialect === "groovy")) {
      this.infixChain(expr);
      expr.end = this.tokens[this.index - 1]?.end ?? expr.end;
    }
    return expr;
  }

  private infixChain(call: CallExpr): void {
    while (this.token.kind === "name" && !this.token.newline && !WORD_OPERATORS.has(this.token.text) && this.token.text !== "else") {
      const name = this.next();
      if (this.token.newline || this.atEnd() || this.is("}") || this.is(")")) {
        call.infix.push({ name: name.text, nameStart: name.start, value: this.opaque(name.start) });
        return;
      }
      call.infix.push({ name: name.text, nameStart: name.start, value: this.expression() });
    }
  }

  private startsArgument(): boolean {
    const { kind, text, spaced } = this.token;
    if (kind === "text" || kind === "number") return true;
    if (kind === "name") return !WORD_OPERATORS.has(text);
    if (kind !== "mark") return false;
    return (text === "[" && spaced) || text === "!" || text === "{";
  }

  private commandArguments(): Argument[] {
    const args: Argument[] = [];
    for (;;) {
      const before = this.index;
      args.push(this.argument());
      if (this.index === before) break;
      if (this.is("{") && !this.token.newline) {
        // implementation("x") { … } written without the comma
        args.push({ value: this.closure() });
        break;
      }
      if (!this.is(",")) break;
      this.index++;
    }
    return args;
  }

  private argument(): Argument {
    const token = this.token;
    if ((token.kind === "name" || token.kind === "text" || token.kind === "number") && this.peek().kind === "mark") {
      const mark = this.peek().text;
      if (mark === ":" || (mark === "=" && (this.dialect === "kotlin" || this.dialect === "swift"))) {
        this.index += 2;
        return { name: token.text, nameStart: token.contentStart ?? token.start, value: this.expression() };
      }
    }
    if (this.is("*") || this.is("...") || this.is("&")) this.index++;
    return { value: this.expression() };
  }

  private opaque(start: number): Expr {
    return { kind: "opaque", start, end: Math.max(start, this.tokens[this.index - 1]?.end ?? start) };
  }

  expression(): Expr {
    return this.nested(
      () => this.ternary(),
      () => this.opaque(this.token.start),
    );
  }

  private ternary(): Expr {
    const test = this.binary(1);
    if (this.is("?:") || this.is("??")) {
      const operator = this.next().text;
      const right = this.expression();
      return { kind: "binary", operator, left: test, right, start: test.start, end: right.end };
    }
    if (this.is("?") && this.dialect !== "kotlin") {
      this.index++;
      const then = this.expression();
      const otherwise = this.accept(":") ? this.expression() : this.opaque(this.token.start);
      return { kind: "condition", test, then, otherwise, start: test.start, end: otherwise.end };
    }
    return test;
  }

  private binary(minimum: number): Expr {
    let left = this.unary();
    for (let links = 0; ; links++) {
      const token = this.token;
      const operator = token.kind === "mark" || (token.kind === "name" && WORD_OPERATORS.has(token.text)) ? token.text : "";
      const precedence = PRECEDENCE[operator];
      if (precedence === undefined || precedence < minimum) return left;
      if (token.newline && operator !== "&&" && operator !== "||" && operator !== "+") return left;
      if (token.newline && operator === "+" && this.dialect !== "javascript") return left;
      if (operator === "as" || operator === "is" || operator === "instanceof" || operator === "satisfies") {
        this.index++;
        if (this.is("?") || this.is("!")) this.index++;
        const typeStart = this.index;
        this.skipCastType();
        if (this.index === typeStart) return left;
        continue;
      }
      if (operator === "<" && left.kind === "name" && this.dialect !== "swift") {
        const saved = this.index;
        if (this.skipGenerics() && (this.is("(") || this.is("{"))) {
          left = this.postfix(left);
          continue;
        }
        this.index = saved;
      }
      if (links >= mostLinks(this.depth)) {
        this.skipChain();
        return this.opaque(left.start);
      }
      this.index++;
      const right = this.nested(
        () => this.binary(precedence + 1),
        () => this.opaque(token.start),
      );
      left = { kind: "binary", operator, left, right, start: left.start, end: right.end };
    }
  }

  private skipCastType(): void {
    while (this.isName() && !this.token.newline) {
      this.index++;
      if (this.is("<")) this.skipGenerics();
      if (!this.accept(".")) return;
    }
  }

  private unary(): Expr {
    const token = this.token;
    if (token.kind === "mark" && (token.text === "!" || token.text === "-" || token.text === "+")) {
      this.index++;
      const value = this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
      if (token.text === "-" && value.kind === "literal") return { ...value, text: `-${value.text}`, start: token.start };
      return token.text === "!" ? { kind: "binary", operator: "!", left: value, right: value, start: token.start, end: value.end } : value;
    }
    if (
      token.kind === "name" &&
      (token.text === "new" || token.text === "await" || token.text === "try") &&
      this.peek().kind === "name" &&
      !this.peek().newline
    ) {
      this.index++;
      return this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
    }
    // Groovy cast: (String) value
    if (
      token.text === "(" &&
      this.dialect === "groovy" &&
      this.peek().kind === "name" &&
      this.peek(2).text === ")" &&
      !this.peek(3).newline &&
      (this.peek(3).kind === "name" || this.peek(3).kind === "text")
    ) {
      this.index += 3;
      return this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
    }
    return this.postfix(this.primary());
  }

  private primary(): Expr {
    const token = this.token;
    const { start, end } = token;
    if (token.kind === "number") {
      this.index++;
      return { kind: "literal", text: token.text.replaceAll("_", "").replace(/[lLfFdD]$/, ""), start, end };
    }
    if (token.kind === "text") {
      this.index++;
      return this.text(token);
    }
    if (token.kind === "name") {
      if (token.text === "if" && this.peek().text === "(") return this.ifExpression();
      if ((token.text === "function" || token.text === "async") && this.dialect === "javascript") return this.functionExpression();
      this.index++;
      if (token.text === "true" || token.text === "false" || token.text === "null" || token.text === "nil")
        return { kind: "literal", text: token.text, start, end };
      if (this.is("=>") && this.dialect === "javascript") return this.arrowBody([token.text], start);
      return { kind: "name", name: token.text, start, end };
    }
    if (this.is("(")) return this.parenthesis();
    if (this.is("[")) return this.bracketLiteral();
    if (this.is("{")) return this.dialect === "javascript" ? this.objectLiteral() : this.closure();
    if (this.is(".") && this.peek().kind === "name") {
      this.index++;
      const name = this.next();
      return { kind: "member", object: undefined, name: name.text, start, end: name.end };
    }
    if (token.kind === "mark" && !/^[)\]},;]$/.test(token.text)) this.index++;
    return { kind: "opaque", start, end: start };
  }

  private ifExpression(): Expr {
    const statement = this.ifStatement();
    if (statement.kind !== "if") return this.opaque(statement.start);
    const value = (branch: Statement[]): Expr => {
      const last = branch.at(-1);
      return last?.kind === "expression" ? last.value : this.opaque(statement.start);
    };
    return {
      kind: "condition",
      test: statement.test,
      then: value(statement.then),
      otherwise: value(statement.otherwise),
      start: statement.start,
      end: this.token.start,
    };
  }

  private functionExpression(): Expr {
    const { start } = this.token;
    while (this.isName()) this.index++;
    if (this.is("(")) {
      const parameters = this.parameters();
      if (this.is("=>"))
        return this.arrowBody(
          parameters.map(({ name }) => name),
          start,
        );
      if (this.accept(":")) this.skipType();
      if (this.is("{"))
        return { kind: "closure", parameters: parameters.map(({ name }) => name), body: this.braces(), start, end: this.token.start };
    }
    return this.opaque(start);
  }

  private arrowBody(parameters: string[], start: number): Expr {
    this.index++; // =>
    if (this.is("{")) {
      const body = this.braces();
      return { kind: "closure", parameters, body, start, end: this.tokens[this.index - 1]?.end ?? start };
    }
    const value = this.expression();
    return { kind: "closure", parameters, body: [{ kind: "return", value, start: value.start, end: value.end }], start, end: value.end };
  }

  private parenthesis(): Expr {
    const { start } = this.next();
    if (this.dialect === "javascript") {
      const close = this.closing();
      const after = this.tokens[close + 1];
      if (after?.text === "=>" || (after?.text === ":" && this.arrowAfterType(close + 2))) {
        this.index--;
        const parameters = this.parameters().map(({ name }) => name);
        if (this.accept(":")) while (!this.atEnd() && !this.is("=>")) this.index++;
        return this.arrowBody(parameters, start);
      }
    }
    const saved = this.noClosure;
    this.noClosure = false;
    const inner = this.expression();
    this.noClosure = saved;
    while (!this.atEnd() && !this.is(")")) {
      if (this.is("}") || this.is("]")) return inner;
      if (this.is("(") || this.is("[") || this.is("{")) this.skipBalanced();
      else this.index++;
    }
    this.accept(")");
    return inner;
  }

  /** Index of the token that closes the bracket before the current token. */
  private closing(): number {
    let depth = 1;
    for (let index = this.index; index < this.tokens.length; index++) {
      const { kind, text } = this.tokens[index] as Token;
      if (kind !== "mark") continue;
      if (text === "(") depth++;
      else if (text === ")" && --depth === 0) return index;
    }
    return this.tokens.length - 1;
  }

  private arrowAfterType(from: number): boolean {
    for (let index = from; index < Math.min(from + 12, this.tokens.length); index++) {
      const { text } = this.tokens[index] as Token;
      if (text === "=>") return true;
      if (text === ";" || text === ",") return false;
    }
    return false;
  }

  private bracketLiteral(): Expr {
    const { start } = this.next();
    const items: Argument[] = [];
    let isMap = false;
    if (this.is(":") && this.peek().text === "]") {
      this.index += 2;
      return { kind: "map", entries: [], start, end: this.tokens[this.index - 1]?.end ?? start };
    }
    while (!this.atEnd() && !this.is("]")) {
      const before = this.index;
      // Groovy: [(key): value]
      const item = this.argument();
      if (item.name === undefined && this.is(":")) {
        this.index++;
        const value = this.expression();
        items.push({ name: item.value.kind === "text" ? String(item.value.parts[0] ?? "") : "", nameStart: item.value.start, value });
      } else items.push(item);
      isMap ||= items.at(-1)?.name !== undefined;
      this.accept(",");
      if (this.index === before) {
        if (this.is("}") || this.is(")")) break;
        this.index++;
      }
    }
    this.accept("]");
    const end = this.tokens[this.index - 1]?.end ?? start;
    return isMap ? { kind: "map", entries: items, start, end } : { kind: "list", items: items.map(({ value }) => value), start, end };
  }

  private objectLiteral(): Expr {
    const { start } = this.next();
    const entries: Argument[] = [];
    while (!this.atEnd() && !this.is("}")) {
      const before = this.index;
      if (this.is("...")) {
        this.index++;
        const value = this.expression();
        entries.push({ name: "...", nameStart: value.start, value });
      } else if (this.token.kind === "name" || this.token.kind === "text" || this.token.kind === "number") {
        const key = this.next();
        const name = key.text;
        if (this.accept(":")) entries.push({ name, nameStart: key.contentStart ?? key.start, value: this.expression() });
        else if (this.is("(")) {
          this.skipBalanced();
          if (this.is("{")) this.skipBalanced();
        } else if (key.kind === "name")
          entries.push({ name, nameStart: key.start, value: { kind: "name", name, start: key.start, end: key.end } });
      } else if (this.is("[")) {
        this.skipBalanced();
        if (this.accept(":")) this.expression();
      }
      this.accept(",");
      if (this.index === before) this.index++;
    }
    this.accept("}");
    return { kind: "map", entries, start, end: this.tokens[this.index - 1]?.end ?? start };
  }

  private text(token: Token): TextExpr {
    const parts = (token.parts ?? []).map((part): string | Expr => {
      if (typeof part === "string") return part;
      return this.nested(
        () => {
          const { tokens } = tokenize(this.source, this.dialect, part.code, part.start);
          const inner = new Parser(this.source, this.dialect, tokens, this.problems);
          inner.depth = this.depth;
          return inner.expression();
        },
        () => this.opaque(part.start),
      );
    });
    return { kind: "text", parts, start: token.contentStart ?? token.start, end: token.end };
  }

  private closure(): ClosureExpr {
    const { start } = this.token;
    return this.nested<ClosureExpr>(
      () => {
        this.noClosure = false;
        this.index++;
        const parameters = this.closureParameters();
        const body = this.block(true);
        return { kind: "closure", parameters, body, start, end: this.tokens[this.index - 1]?.end ?? start };
      },
      () => ({ kind: "closure", parameters: [], body: [], start, end: start }),
    );
  }

  private closureParameters(): string[] {
    // name, name: Type, … ->
    let ahead = this.index;
    const names: string[] = [];
    let expectName = true;
    for (let guard = 0; guard < 40; guard++, ahead++) {
      const token = this.tokens[ahead];
      if (!token || token.kind === "end") return [];
      if (token.kind === "mark" && token.text === "->") {
        this.index = ahead + 1;
        return names;
      }
      if (token.kind === "name" && token.text === "in" && this.dialect === "swift") {
        this.index = ahead + 1;
        return names;
      }
      if (token.kind === "name") {
        if (expectName) names.push(token.text);
        else names[names.length - 1] = token.text;
        expectName = false;
      } else if (token.text === ",") expectName = true;
      else if (
        token.text === ":" ||
        token.text === "." ||
        token.text === "<" ||
        token.text === ">" ||
        token.text === "?" ||
        token.text === "(" ||
        token.text === ")"
      )
        continue;
      else return [];
      if (token.newline && guard > 0) return [];
    }
    return [];
  }

  private postfix(primary: Expr): Expr {
    let expr = primary;
    for (let links = 0; ; links++) {
      const token = this.token;
      if (token.kind !== "mark") return expr;
      if (links >= 2 * mostLinks(this.depth)) {
        this.skipChain();
        return this.opaque(expr.start);
      }
      if (
        (token.text === "." || token.text === "?." || token.text === "*." || token.text === "::") &&
        (this.peek().kind === "name" || this.peek().kind === "text")
      ) {
        if (token.newline && this.dialect === "swift" && expr.kind !== "call") return expr;
        this.index++;
        const name = this.next();
        expr = { kind: "member", object: expr, name: name.text, start: expr.start, end: name.end };
        if (this.is("<") && (this.dialect === "kotlin" || this.dialect === "groovy")) this.genericCall();
        continue;
      }
      if (token.text === "?." && (this.peek().text === "[" || this.peek().text === "(")) {
        this.index++;
        continue;
      }
      if (token.text === "!!" || (token.text === "!" && !token.spaced && this.dialect !== "groovy")) {
        this.index++;
        continue;
      }
      if (token.newline) return expr;
      if (token.text === "<" && expr.kind === "name" && this.dialect === "kotlin" && this.genericCall()) continue;
      if (token.text === "(") {
        if (expr.kind === "literal" || (this.dialect === "groovy" && token.spaced && expr.kind === "closure")) return expr;
        expr = this.call(expr);
        continue;
      }
      if (token.text === "[" && !token.spaced) {
        this.index++;
        const index = this.expression();
        while (!this.atEnd() && !this.is("]") && !this.is("}") && !this.is(")")) this.index++;
        this.accept("]");
        expr = { kind: "index", object: expr, index, start: expr.start, end: this.tokens[this.index - 1]?.end ?? expr.end };
        continue;
      }
      if (
        token.text === "{" &&
        !this.noClosure &&
        this.dialect !== "javascript" &&
        (expr.kind === "name" || expr.kind === "member" || expr.kind === "call" || (expr.kind === "text" && this.dialect === "kotlin"))
      ) {
        const closure = this.closure();
        if (expr.kind === "call" && !expr.closure) expr = { ...expr, closure, end: closure.end };
        else expr = { kind: "call", callee: expr, args: [], closure, infix: [], start: expr.start, end: closure.end };
        continue;
      }
      return expr;
    }
  }

  /** Passes over `<Type>` when a call follows. */
  private genericCall(): boolean {
    const saved = this.index;
    if (this.skipGenerics() && (this.is("(") || this.is("{"))) return true;
    this.index = saved;
    return false;
  }

  private call(callee: Expr): CallExpr {
    this.index++; // (
    const saved = this.noClosure;
    this.noClosure = false;
    const args: Argument[] = [];
    while (!this.atEnd() && !this.is(")")) {
      const before = this.index;
      args.push(this.argument());
      if (this.is("=") && args.at(-1)?.value.kind === "name") {
        // Groovy: a default in a call-like head; passed over
        this.index++;
        this.expression();
      }
      this.accept(",");
      if (this.index === before) {
        if (this.is("}") || this.is("]")) break;
        this.index++;
      }
    }
    this.accept(")");
    this.noClosure = saved;
    return {
      kind: "call",
      callee,
      args,
      closure: undefined,
      infix: [],
      start: callee.start,
      end: this.tokens[this.index - 1]?.end ?? callee.end,
    };
  }
}
