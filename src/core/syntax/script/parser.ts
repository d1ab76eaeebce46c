import type { Problem, Source } from "../source.js";
import { callOf, closureCalling } from "./ast.js";
import type { Argument, CallExpr, ClosureExpr, Expr, Parameter, Script, Statement, SwitchStatement, TextExpr } from "./ast.js";
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
/** Words that declare a type. In other languages they are names: `namespace rootProject.ext.id` is a setting of Android. */
const TYPE_WORDS: Record<Dialect, ReadonlySet<string>> = {
  groovy: new Set(["class", "interface", "enum", "trait"]),
  kotlin: new Set(["class", "interface", "object", "enum", "companion"]),
  swift: new Set(["class", "struct", "enum", "extension", "protocol"]),
  javascript: new Set(["class", "interface", "enum", "namespace"]),
};
const WORD_OPERATORS = new Set(["in", "instanceof", "is", "as", "to", "satisfies", "downTo", "until", "or", "and"]);
/** Words of JavaScript that stand before a value. */
const PREFIX_WORDS = new Set(["typeof", "void", "delete", "yield"]);
const ASSIGNS = new Set(["=", "+=", "-=", "*=", "/=", "?=", "??=", "||=", "&&="]);
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
  "!in": 5,
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
  private readonly types: ReadonlySet<string>;

  constructor(
    private readonly source: Source,
    private readonly dialect: Dialect,
    private readonly tokens: Token[],
    private readonly problems: Problem[],
  ) {
    this.types = TYPE_WORDS[dialect];
  }

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

  // eslint-disable-next-line complexity -- the forms of a statement, in the order in which they must be tried
  private readStatement(): Statement | undefined {
    const { start } = this.token;
    if (this.accept(";") || this.accept(",")) return undefined;
    if (this.is("{") && this.dialect === "javascript") {
      const body = this.braces();
      return { kind: "expression", value: { kind: "do", body, start, end: this.lastEnd }, start, end: this.lastEnd };
    }
    if (this.token.kind !== "name") return this.expressionStatement(false);
    const word = this.token.text;
    if (word.startsWith("@")) {
      this.skipAnnotation();
      return undefined;
    }
    if ((word === "import" || word === "package") && this.startsImport()) return this.skipLine();
    if (word === "guard" && this.dialect === "swift") return this.skipLine();
    const control = this.controlStatement(word);
    if (control) return control;
    if (word === "return") {
      this.index++;
      const value = this.token.newline || this.is("}") || this.is(";") ? undefined : this.commandExpression();
      return { kind: "return", value, start, end: this.token.start };
    }
    if (word === "fun" || word === "func" || (word === "function" && this.dialect === "javascript")) {
      const found = this.functionDeclaration();
      if (found) return found;
    }
    if (this.types.has(word) && (this.peek().kind === "name" || (word === "object" && this.peek().text === "{")))
      return this.typeDeclaration();
    if (MODIFIERS.has(word)) {
      const next = this.peek();
      const goesOn = next.kind === "name" || next.text === "(" || next.text === "{" || next.text === "[" || next.kind === "text";
      if (goesOn && !(next.text === "(" && !next.spaced)) return this.declaration();
    }
    return this.looksTyped() ? this.declaration() : this.expressionStatement(false);
  }

  private startsImport(): boolean {
    const next = this.peek();
    return next.kind === "name" || next.kind === "text" || (next.text === "{" && this.dialect === "javascript") || next.text === "*";
  }

  /** A statement that says what runs, and how often. */
  // eslint-disable-next-line complexity -- one case for each word that begins a statement of control
  private controlStatement(word: string): Statement | undefined {
    const next = this.peek().text;
    const headed = next === "(" || this.dialect === "swift";
    switch (word) {
      case "if":
        return this.isAssignment() ? undefined : this.ifStatement();
      case "for":
      case "while":
        return headed ? this.loop() : undefined;
      case "do":
        return next === "{" ? this.doLoop() : undefined;
      case "switch":
        return headed ? this.switchStatement() : undefined;
      case "when":
        return this.dialect === "kotlin" && (next === "(" || next === "{") ? this.whenStatement() : undefined;
      case "try":
        return next === "{" || (next === "(" && this.dialect === "groovy") ? this.tryStatement() : undefined;
      case "throw":
      case "break":
      case "continue":
        return this.isAssignment() || next === "(" ? undefined : this.jump(word);
      default:
        return undefined;
    }
  }

  private jump(word: string): Statement {
    const { start } = this.next();
    const value = this.token.newline || this.is("}") || this.is(";") ? undefined : this.expression();
    return { kind: "jump", word: word === "throw" ? "raise" : word === "break" ? "break" : "next", value, start, end: this.lastEnd };
  }

  private get lastEnd(): number {
    return this.tokens[this.index - 1]?.end ?? 0;
  }

  private doLoop(): Statement {
    const { start } = this.next();
    const body = this.braces();
    if (!this.isName("while")) return { kind: "try", body, clauses: [], last: [], start, end: this.lastEnd };
    this.index++;
    return { kind: "loop", names: [], list: undefined, test: this.head(), after: true, body, start, end: this.lastEnd };
  }

  private tryStatement(): Statement {
    const { start } = this.next();
    if (this.is("(")) this.skipBalanced();
    const body = this.braces();
    const clauses: Statement[][] = [];
    let last: Statement[] = [];
    while (this.isName("catch") || this.isName("finally")) {
      const clause = this.next().text;
      if (this.is("(")) this.skipBalanced();
      while (!this.atEnd() && !this.is("{") && !this.token.newline) this.index++;
      if (!this.is("{")) break;
      if (clause === "catch") clauses.push(this.braces());
      else last = this.braces();
    }
    return { kind: "try", body, clauses, last, start, end: this.lastEnd };
  }

  /** `switch (x) { case "a": …; break; default: … }`; in Swift without falling through. */
  private switchStatement(): Statement {
    const { start } = this.next();
    const subject = this.head();
    const cases: SwitchStatement["cases"] = [];
    if (this.accept("{"))
      while (!this.atEnd() && !this.accept("}")) {
        const before = this.index;
        const isDefault = this.isName("default");
        const tests: Expr[] = [];
        if (isDefault) this.index++;
        else if (this.isName("case")) {
          this.index++;
          do tests.push(this.expression());
          while (this.accept(","));
        }
        if (this.is(":") || this.is("->")) this.index++;
        cases.push({ tests, isDefault, body: this.caseBody() });
        if (this.index === before) this.index++;
      }
    return { kind: "switch", subject, cases, fallsThrough: this.dialect !== "swift", start, end: this.lastEnd };
  }

  /** Statements up to the next case or the end of the switch (not taken). */
  private caseBody(): Statement[] {
    const body: Statement[] = [];
    while (!this.atEnd() && !this.is("}") && !this.isName("case") && !(this.isName("default") && this.peek().text === ":")) {
      const before = this.index;
      const statement = this.statement();
      if (statement) body.push(statement);
      if (this.index === before) this.index++;
    }
    return body;
  }

  /** Kotlin: `when (x) { "a", "b" -> …; in list -> …; is Type -> …; else -> … }`, and without a subject. */
  private whenStatement(): Statement {
    const { start } = this.next();
    let name: string | undefined;
    let subject: Expr | undefined;
    if (this.accept("(")) {
      if (this.isName("val") && this.peek(2).text === "=") {
        this.index++;
        name = this.next().text;
        this.index++;
      }
      subject = this.insideBrackets(() => this.expression());
      this.accept(")");
    }
    const cases: SwitchStatement["cases"] = [];
    if (this.accept("{"))
      while (!this.atEnd() && !this.accept("}")) {
        const before = this.index;
        const isDefault = this.isName("else");
        const tests: Expr[] = [];
        if (isDefault) this.index++;
        else
          do tests.push(this.whenTest(subject));
          while (this.accept(","));
        this.accept("->");
        cases.push({ tests, isDefault, body: this.branch() });
        while (this.accept(";"));
        if (this.index === before) this.index++;
      }
    return { kind: "switch", subject, ...(name === undefined ? {} : { name }), cases, fallsThrough: false, start, end: this.lastEnd };
  }

  /** `in list` and `!in list` ask whether the subject is in it; a type is not worked out. */
  private whenTest(subject: Expr | undefined): Expr {
    const { start } = this.token;
    const negated = this.is("!") && this.peek().text === "in";
    if (subject && (negated || this.isName("in"))) {
      this.index += negated ? 2 : 1;
      const right = this.expression();
      const test: Expr = { kind: "binary", operator: negated ? "!in" : "in", left: subject, right, start, end: right.end };
      // A test of its own: it is not compared with the subject.
      return { kind: "condition", test, then: subject, otherwise: this.opaque(start), start, end: right.end };
    }
    if (this.isName("is")) {
      this.index++;
      this.skipType();
      return this.opaque(start);
    }
    return this.expression();
  }

  private insideBrackets<T>(read: () => T): T {
    const saved = this.noClosure;
    this.noClosure = false;
    const result = read();
    this.noClosure = saved;
    return result;
  }

  /** `String name = …`, `int x = 1`, `List<String> y = …`, `String[] z = …` without a modifier (Groovy, Java). */
  private looksTyped(): boolean {
    if (this.dialect !== "groovy" || !/^(?:[A-Z]\w*|int|long|boolean|double|float|void)$/.test(this.token.text)) return false;
    const saved = this.index;
    this.index++;
    while (this.is(".") && this.peek().kind === "name") this.index += 2;
    if (this.is("<")) this.skipGenerics();
    while (this.is("[") && this.peek().text === "]") this.index += 2;
    const found = this.isName() && !this.token.newline && (this.peek().text === "=" || this.peek().text === "(") && !this.peek().newline;
    const spaced = this.peek().text !== "(" || !this.peek().spaced;
    this.index = saved;
    return found && spaced;
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

  // eslint-disable-next-line complexity -- the forms of a declaration in five languages, in the order in which they must be tried
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
      const isDefault = this.token.text === "default" && this.dialect === "javascript";
      this.index++;
      if (isDefault) return this.defaultExport(start);
    }
    const word = this.token.text;
    if (this.token.kind === "name") {
      if (word === "fun" || word === "func" || (word === "function" && this.dialect === "javascript")) return this.functionDeclaration();
      if (this.types.has(word)) return this.typeDeclaration();
    }
    // Groovy: def (a, b) = …; Kotlin: val (a, b) = …
    if (this.is("(") || this.is("[") || (this.is("{") && declared)) {
      return declared ? this.takenApart(start) : this.expressionStatement(false);
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

  /** `export default x`: an assignment to what the file exports. */
  private defaultExport(start: number): Statement | undefined {
    if (this.isName("class")) return this.typeDeclaration();
    const value = this.expression();
    const exports: Expr = { kind: "name", name: "exports", start, end: start };
    const target: Expr = { kind: "member", object: exports, name: "default", start, end: start };
    return { kind: "assign", target, operator: "=", value, declared: false, start, end: this.lastEnd };
  }

  /** `def (a, b) = list`, `val (a, b) = pair`, `const { a, b: c } = object`, `const [a, b] = list`. */
  private takenApart(start: number): Statement | undefined {
    const open = this.next().text;
    const names: Argument[] = [];
    while (!this.atEnd() && !this.is(")") && !this.is("]") && !this.is("}")) {
      const before = this.index;
      if (this.isName() || this.token.kind === "text") {
        let name = this.next();
        const key = name.text;
        // Groovy: def (String a, int b)
        if (open !== "{" && this.isName() && !this.token.newline) name = this.next();
        if (open === "{" && this.is(":") && this.peek().kind === "name") {
          this.index++;
          name = this.next();
        } else if (this.accept(":")) this.skipType();
        if (this.accept("=")) this.expression();
        names.push({ name: key, value: { kind: "name", name: name.text, start: name.start, end: name.end } });
      }
      this.accept(",");
      if (this.index === before) this.index++;
    }
    this.index++;
    if (this.accept(":")) this.skipType();
    if (!this.accept("=")) return undefined;
    const value = this.commandExpression();
    const target: Expr =
      open === "{"
        ? { kind: "map", entries: names, start, end: value.start }
        : { kind: "list", items: names.map(({ value: item }) => item), start, end: value.start };
    return { kind: "assign", target, operator: "=", value, declared: true, start, end: this.lastEnd };
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

  // eslint-disable-next-line complexity -- the forms of a parameter in five languages
  private parameters(): Parameter[] {
    const parameters: Parameter[] = [];
    this.index++; // (
    while (!this.atEnd() && !this.is(")")) {
      let name = "";
      let fallback: Expr | undefined;
      let rest: Parameter["rest"];
      let parts: Parameter[] | undefined;
      while (!this.atEnd() && !this.is(",") && !this.is(")")) {
        if (this.is("...") || this.isName("vararg")) rest = "list";
        if (this.dialect === "javascript" && name === "" && (this.is("{") || this.is("["))) {
          parts = this.takenParameter();
          continue;
        }
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
      if (name || parts)
        parameters.push({ name, ...(fallback ? { fallback } : {}), ...(rest ? { rest } : {}), ...(parts ? { parts } : {}) });
      this.accept(",");
    }
    this.accept(")");
    return parameters;
  }

  /** `({ config }) => …`: names of an object, by their keys. */
  private takenParameter(): Parameter[] {
    const names: Parameter[] = [];
    const close = this.next().text === "{" ? "}" : "]";
    while (!this.atEnd() && !this.is(close)) {
      if (this.isName()) {
        const { text } = this.next();
        if (this.accept(":") && this.isName()) this.index++;
        const fallback = this.accept("=") ? this.expression() : undefined;
        names.push(fallback ? { name: text, fallback } : { name: text });
      } else this.index++;
      this.accept(",");
    }
    this.index++;
    return names;
  }

  private typeDeclaration(): Statement | undefined {
    const { start } = this.token;
    let isListed = false;
    while (this.isName() && this.types.has(this.token.text)) isListed = this.next().text === "enum" || isListed;
    const name = this.isName() ? this.next().text : "";
    const parameters = this.dialect === "kotlin" && this.is("(") ? this.parameters() : undefined;
    while (!this.atEnd() && !this.is("{") && !this.is("}")) {
      if (this.token.newline && !this.is(":") && !this.is("(") && !this.is(",") && !this.isName("extends") && !this.isName("implements"))
        break;
      if (this.is("(")) this.skipBalanced();
      else this.index++;
    }
    const body = this.is("{") ? this.braces() : [];
    return {
      kind: "type",
      name,
      ...(parameters ? { parameters } : {}),
      ...(isListed ? { listed: true } : {}),
      body,
      start,
      end: this.token.start,
    };
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
    const each = text === "for" ? this.loopHead() : undefined;
    const counted = each || text !== "for" ? undefined : this.countedHead(saved);
    if (!each && !counted) this.index = saved;
    const test = each ? undefined : (counted?.test ?? this.head());
    const body = this.is("{") ? this.braces() : this.branch();
    const { names, list } = each ?? { names: [], list: undefined };
    return { kind: "loop", names, list, test, ...counted, body, start, end: this.lastEnd };
  }

  /** `(int i = 0; i < n; i++)` */
  private countedHead(from: number): { before: Statement[]; test: Expr; step: Statement[] } | undefined {
    this.index = from;
    if (!this.accept("(")) return undefined;
    const first = this.statement();
    if (!this.accept(";")) return undefined;
    const test = this.expression();
    if (!this.accept(";")) return undefined;
    const step = this.is(")") ? undefined : this.statement();
    if (!this.accept(")")) return undefined;
    return { before: first ? [first] : [], test, step: step ? [step] : [] };
  }

  /** `(x in list)`, `(String x : list)`, `((a, b) in pairs)`, `(const x of list)`, `x in list`: the variables and the list. */
  // eslint-disable-next-line complexity -- the forms of a loop's head in five languages
  private loopHead(): { names: Parameter[]; list: Expr } | undefined {
    const inside = this.accept("(");
    while (this.token.kind === "name" && MODIFIERS.has(this.token.text) && this.peek().text !== "in" && this.peek().text !== "of")
      this.index++;
    const names: Parameter[] = [];
    if (this.is("(") || this.is("[")) {
      this.index++;
      while (!this.atEnd() && !this.is(")") && !this.is("]")) {
        if (this.isName()) names.push({ name: this.token.text });
        this.index++;
      }
      this.index++;
    } else {
      // A type before the name.
      if (this.isName() && this.peek().kind === "name" && !/^(in|of)$/.test(this.peek().text)) this.index++;
      if (!this.isName()) return undefined;
      names.push({ name: this.next().text });
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
      const test = this.inBrackets();
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
    const operator = this.token.kind === "mark" && !this.token.newline ? this.token.text : "";
    if (ASSIGNS.has(operator) && /^(name|member|index|call|text|list)$/.test(target.kind)) {
      this.index++;
      const value = this.assignedValue();
      return { kind: "assign", target, operator, value, declared, start, end: this.lastEnd };
    }
    if (operator === "++" || operator === "--") {
      this.index++;
      const value: Expr = { kind: "literal", text: "1", start, end: start };
      return { kind: "assign", target, operator: `${operator[0] ?? ""}=`, value, declared: false, start, end: this.lastEnd };
    }
    if (target.kind === "opaque" && target.start === target.end) return undefined;
    return { kind: "expression", value: target, start, end: target.end };
  }

  /** `a = b = 1`: the value can be an assignment itself. */
  private assignedValue(): Expr {
    const { start } = this.token;
    const value = this.commandExpression();
    if (!this.is("=") || this.token.newline || !/^(name|member|index)$/.test(value.kind)) return value;
    this.index++;
    const inner = this.nested(
      () => this.assignedValue(),
      () => this.opaque(start),
    );
    const body: Statement[] = [{ kind: "assign", target: value, operator: "=", value: inner, declared: false, start, end: inner.end }];
    return { kind: "do", body, start, end: inner.end };
  }

  /** An expression, or a Groovy command (`implementation "x", { … }`), or a Kotlin infix chain (`id("x") version "y"`). */
  private commandExpression(): Expr {
    const expr = this.expression();
    if (this.token.newline || this.atEnd()) return expr;
    if (this.dialect === "groovy" && (expr.kind === "name" || expr.kind === "member" || expr.kind === "text") && this.startsArgument()) {
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

  // eslint-disable-next-line complexity -- the forms of an argument in five languages
  private argument(): Argument {
    const token = this.token;
    if ((token.kind === "name" || token.kind === "text" || token.kind === "number") && this.peek().kind === "mark") {
      const mark = this.peek().text;
      if (mark === ":" || (mark === "=" && (this.dialect === "kotlin" || this.dialect === "swift"))) {
        // A text whose parts are worked out is no name.
        const computed = token.parts?.some((part) => typeof part !== "string") ? this.text(token) : undefined;
        this.index += 2;
        const value = this.expression();
        return computed ? { key: computed, value } : { name: token.text, nameStart: token.contentStart ?? token.start, value };
      }
    }
    if (this.is("*") || this.is("...")) {
      this.index++;
      if (this.dialect === "groovy" && this.accept(":")) return { name: "...", value: this.expression() };
      const value = this.expression();
      return { value: { kind: "spread", value, start: token.start, end: value.end } };
    }
    if (this.is("&")) this.index++;
    const value = this.expression();
    // Groovy: (key): value
    if (this.is(":") && this.dialect === "groovy" && token.text === "(") {
      this.index++;
      return { key: value, value: this.expression() };
    }
    return { value };
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

  // eslint-disable-next-line complexity -- climbs by precedence: what is an operator depends on the language and on what stands around it
  private binary(minimum: number): Expr {
    let left = this.unary();
    for (let links = 0; ; links++) {
      const token = this.token;
      const notIn = token.text === "!" && this.peek().text === "in" && !this.peek().spaced && this.dialect !== "javascript";
      const operator = notIn ? "!in" : token.kind === "mark" || (token.kind === "name" && WORD_OPERATORS.has(token.text)) ? token.text : "";
      const precedence = PRECEDENCE[operator];
      if (precedence === undefined || precedence < minimum) return left;
      if (notIn) this.index++;
      if (token.newline && operator !== "&&" && operator !== "||" && operator !== "+") return left;
      if (token.newline && operator === "+" && this.dialect !== "javascript") return left;
      if (operator === "as" || operator === "is" || operator === "instanceof" || operator === "satisfies") {
        this.index++;
        if (this.is("?") || this.is("!")) this.index++;
        const typeStart = this.index;
        const type = this.token;
        this.skipCastType();
        if (this.index === typeStart) return left;
        if (operator === "satisfies") continue;
        const right: Expr = { kind: "name", name: type.text, start: type.start, end: type.end };
        left = { kind: "binary", operator, left, right, start: left.start, end: this.lastEnd };
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
      // String? ?: "x"
      if (this.dialect === "kotlin") this.accept("?");
      if (!this.accept(".")) return;
    }
  }

  /** Whether a value can begin with a token, on the line of the one before it. */
  private startsValue({ kind, text, newline }: Token): boolean {
    return !newline && kind !== "end" && (kind !== "mark" || /^[([{!+-]$/.test(text));
  }

  // eslint-disable-next-line complexity -- the operators that stand in front, in five languages
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
      !this.peek().newline &&
      (this.peek().kind === "name" || (token.text === "await" && this.dialect === "javascript" && this.startsValue(this.peek())))
    ) {
      this.index++;
      return this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
    }
    if (this.dialect === "javascript" && token.kind === "name" && PREFIX_WORDS.has(token.text) && this.startsValue(this.peek())) {
      this.index++;
      const value = this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
      return token.text === "await"
        ? value
        : { kind: "binary", operator: token.text, left: value, right: value, start: token.start, end: value.end };
    }
    // Groovy cast: (String) value
    if (
      token.text === "(" &&
      this.dialect === "groovy" &&
      this.peek().kind === "name" &&
      this.peek(2).text === ")" &&
      !this.peek(3).newline &&
      (this.peek(3).kind === "name" || this.peek(3).kind === "text" || this.peek(3).kind === "number") &&
      /^(?:[A-Z]\w*|int|long|boolean|double|float)$/.test(this.peek().text)
    ) {
      const type = this.peek();
      this.index += 3;
      const value = this.nested(
        () => this.unary(),
        () => this.opaque(token.start),
      );
      const right: Expr = { kind: "name", name: type.text, start: type.start, end: type.end };
      return { kind: "binary", operator: "as", left: value, right, start: token.start, end: value.end };
    }
    return this.postfix(this.primary());
  }

  // eslint-disable-next-line complexity -- one case for each token that can begin an expression
  private primary(): Expr {
    const token = this.token;
    const { start, end } = token;
    if (token.kind === "number") {
      this.index++;
      return { kind: "literal", text: token.text.replaceAll("_", "").replace(/[lLfFdDgGiI]$/, ""), start, end };
    }
    if (token.kind === "text") {
      this.index++;
      return this.text(token);
    }
    if (token.kind === "name") {
      if (token.text === "if" && this.peek().text === "(") return this.asExpression(() => this.ifStatement());
      if (this.dialect === "kotlin" && token.text === "when" && /^[({]$/.test(this.peek().text))
        return this.asExpression(() => this.whenStatement());
      if (this.dialect === "kotlin" && token.text === "try" && this.peek().text === "{")
        return this.asExpression(() => this.tryStatement());
      if (this.dialect === "kotlin" && (token.text === "throw" || token.text === "return"))
        return this.asExpression(() => this.readStatement() ?? { kind: "expression", value: this.opaque(start), start, end });
      if ((token.text === "function" || token.text === "async") && this.dialect === "javascript") return this.functionExpression();
      this.index++;
      if (token.text === "true" || token.text === "false" || token.text === "null" || token.text === "nil")
        return { kind: "literal", text: token.text, start, end };
      if (this.is("=>") && this.dialect === "javascript") return this.arrowBody([{ name: token.text }], start);
      return { kind: "name", name: token.text, start, end };
    }
    if (token.kind === "pattern") {
      this.index++;
      return { kind: "pattern", text: token.text, flags: token.flags ?? "", start: token.contentStart ?? start, end };
    }
    // Kotlin: ::implementation
    if (this.is("::") && this.peek().kind === "name") {
      this.index++;
      const name = this.next();
      return closureCalling(
        (it) => ({ ...callOf({ kind: "name", name: name.text, start, end: name.end }, [{ value: it }]), bare: false }),
        start,
        name.end,
      );
    }
    // Groovy: ~/x.*/
    if (this.is("~") && this.peek().kind === "text") {
      this.index++;
      const { text, start: from, contentStart, end: to } = this.next();
      return { kind: "pattern", text, flags: "", start: contentStart ?? from, end: to };
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

  /** A statement whose last value counts: `val x = if (…) … else …`. */
  private asExpression(read: () => Statement): Expr {
    const statement = this.insideBrackets(read);
    return { kind: "do", body: [statement], start: statement.start, end: this.lastEnd };
  }

  private functionExpression(): Expr {
    const { start } = this.token;
    let name = "";
    while (this.isName() || this.is("*")) name = this.next().text;
    if (this.is("=>")) return this.arrowBody([{ name }], start);
    if (this.is("(")) {
      const parameters = this.parameters();
      if (this.is("=>")) return this.arrowBody(parameters, start);
      if (this.accept(":")) this.skipType();
      if (this.is("=>")) return this.arrowBody(parameters, start);
      if (this.is("{")) return { kind: "closure", parameters, body: this.braces(), start, end: this.lastEnd };
    }
    return this.opaque(start);
  }

  private arrowBody(parameters: Parameter[], start: number): Expr {
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
        const parameters = this.parameters();
        if (this.accept(":")) while (!this.atEnd() && !this.is("=>")) this.index++;
        return this.arrowBody(parameters, start);
      }
    }
    const saved = this.noClosure;
    this.noClosure = false;
    const inner = this.inBrackets();
    this.noClosure = saved;
    return inner;
  }

  /** A value up to the bracket that closes: where more stands there than is understood, it is none that can be worked out. */
  private inBrackets(): Expr {
    const { start } = this.token;
    const value = this.assignedValue();
    const values = [value];
    // JavaScript: the last of several is the value.
    while (this.dialect === "javascript" && this.accept(",")) values.push(this.assignedValue());
    // The rest of a type that it is taken for.
    if (this.is("<")) this.skipGenerics();
    while (this.is("?") || this.is("!")) this.index++;
    let isRead = true;
    while (!this.atEnd() && !this.is(")")) {
      if (this.is("{") || this.is("}") || this.is("]")) return value;
      isRead = false;
      if (this.is("(") || this.is("[")) this.skipBalanced();
      else this.index++;
    }
    this.accept(")");
    const end = this.lastEnd;
    if (!isRead)
      return {
        ...callOf(
          this.opaque(start),
          values.map((of) => ({ value: of })),
        ),
        start,
        end,
      };
    if (values.length === 1) return value;
    const body = values.map((of): Statement => ({ kind: "expression", value: of, start: of.start, end: of.end }));
    return { kind: "do", body, start, end };
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
      const item = this.argument();
      items.push(item);
      isMap ||= item.name !== undefined || item.key !== undefined;
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

  // eslint-disable-next-line complexity -- the forms of an entry in an object
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
          const parameters = this.parameters();
          if (this.accept(":")) this.skipType();
          if (this.is("{")) {
            const body = this.braces();
            entries.push({ name, nameStart: key.start, value: { kind: "closure", parameters, body, start: key.start, end: this.lastEnd } });
          }
        } else if (key.kind === "name" && (key.text === "get" || key.text === "async") && this.isName()) continue;
        else if (key.kind === "name")
          entries.push({ name, nameStart: key.start, value: { kind: "name", name, start: key.start, end: key.end } });
      } else if (this.accept("[")) {
        const key = this.expression();
        this.accept("]");
        if (this.accept(":")) entries.push({ key, value: this.expression() });
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

  /** `name, name: Type, (a, b), x = 1 ->`; in Swift `name in`. Nothing, and nothing is taken, where there are none. */
  private closureParameters(): Parameter[] {
    const saved = this.index;
    const arrow = (): boolean => this.is("->") || (this.dialect === "swift" && this.isName("in"));
    const parameters: Parameter[] = [];
    for (let guard = 0; guard < 40 && !this.atEnd(); guard++) {
      if (arrow()) {
        this.index++;
        return parameters;
      }
      if (this.token.newline && this.index > saved && !this.is(",") && this.peek(-1).text !== ",") break;
      const parameter = this.closureParameter();
      if (!parameter) break;
      parameters.push(parameter);
      if (!this.accept(",") && !arrow()) break;
    }
    this.index = saved;
    return [];
  }

  private closureParameter(): Parameter | undefined {
    if (this.accept("(")) {
      const parts: Parameter[] = [];
      while (!this.atEnd() && !this.is(")")) {
        const part = this.closureParameter();
        if (!part) return undefined;
        parts.push(part);
        this.accept(",");
      }
      this.accept(")");
      return { name: "", parts };
    }
    if (!this.isName()) return undefined;
    let name = this.next().text;
    // Groovy and Java write the type first.
    if (this.dialect === "groovy") {
      if (this.is("<") && !this.skipGenerics()) return undefined;
      while (this.is("[") && this.peek().text === "]") this.index += 2;
      if (this.isName() && !this.token.newline) name = this.next().text;
    }
    if (this.accept(":")) this.skipParameterType();
    if (this.is("=") && this.dialect === "groovy") {
      this.index++;
      return { name, fallback: this.expression() };
    }
    return { name };
  }

  /** A type up to the comma or arrow behind it. */
  private skipParameterType(): void {
    for (let guard = 0; guard < 40 && !this.atEnd(); guard++) {
      if (this.is("->") || this.is(",") || this.is(")") || this.token.newline) return;
      if (this.is("<") && this.skipGenerics()) continue;
      if (this.is("(")) {
        this.skipBalanced();
        // (String) -> Unit
        if (this.is("->") && this.isType(1)) this.index++;
      } else this.index++;
    }
  }

  private isType(distance: number): boolean {
    const next = this.peek(distance);
    return next.kind === "name" && /^[A-Z]/.test(next.text) && /^(->|,|\))$/.test(this.peek(distance + 1).text);
  }

  // eslint-disable-next-line complexity -- one case for each token that can follow an expression
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
        (token.text === "." || token.text === "?." || token.text === "*." || token.text === "::" || token.text === ".&") &&
        (this.peek().kind === "name" || this.peek().kind === "text") &&
        !(token.text === "::" && this.dialect === "kotlin" && token.newline)
      ) {
        if (token.newline && this.dialect === "swift" && expr.kind !== "call") return expr;
        this.index++;
        const name = this.next();
        expr = this.memberOf(expr, token.text, name);
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
      if (token.newline && !this.opensBelow(expr)) return expr;
      if (token.text === "<" && expr.kind === "name" && this.dialect === "kotlin" && this.genericCall()) continue;
      if (token.text === "(") {
        if (expr.kind === "literal" || (this.dialect === "groovy" && token.spaced && expr.kind === "closure")) return expr;
        expr = this.call(expr);
        continue;
      }
      if (token.text === "[" && !token.spaced) {
        this.index++;
        const index = this.insideBrackets(() => this.expression());
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

  /**
   * A block whose brace stands on a line of its own, below the name that it belongs to. Sources: Groovy 2.4 (tried), kotlinlang.org, "Grammar"
   * (`annotatedLambda` in `callSuffix` may follow on the next line).
   */
  private opensBelow(expr: Expr): boolean {
    if (this.token.text !== "{" || (this.dialect !== "groovy" && this.dialect !== "kotlin")) return false;
    return expr.kind === "call" ? expr.closure === undefined : expr.kind === "name" || expr.kind === "member";
  }

  /** `a.b`; `a*.b` of each item; `a::b` and `a.&b` hand the method over. */
  private memberOf(object: Expr, mark: string, { text: name, end }: Token): Expr {
    const { start } = object;
    if (mark === "*.") {
      const called = this.is("(") && !this.token.newline;
      const each = closureCalling(
        (it) => {
          const member: Expr = { kind: "member", object: it, name, start, end };
          return called ? this.call(member) : member;
        },
        start,
        end,
      );
      return {
        kind: "call",
        callee: { kind: "member", object, name: "collect", start, end },
        args: [],
        closure: each,
        infix: [],
        start,
        end,
      };
    }
    const handedOver = mark === ".&" || (mark === "::" && name !== "class" && this.dialect !== "swift");
    if (!handedOver) return { kind: "member", object, name, start, end };
    const own = object.kind === "name" && /^(this|self|super)$/.test(object.name);
    const callee: Expr = own ? { kind: "name", name, start, end } : { kind: "member", object, name, start, end };
    return closureCalling((it) => ({ ...callOf(callee, [{ value: it }]), bare: false }), start, end);
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
