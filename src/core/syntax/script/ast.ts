import type { Problem, Source } from "../source.js";

/**
 * The tree of a build script, whatever its language: Gradle (Groovy and Kotlin), Ruby (Podfile, podspec), Swift
 * (Package.swift) and JavaScript settings all come down to blocks, calls and assignments. Offsets are into the source.
 */
export type Expr =
  | TextExpr
  | LiteralExpr
  | PatternExpr
  | NameExpr
  | MemberExpr
  | IndexExpr
  | CallExpr
  | ListExpr
  | MapExpr
  | SpreadExpr
  | BinaryExpr
  | ConditionExpr
  | ClosureExpr
  | DoExpr
  | OpaqueExpr;

interface Span {
  start: number;
  end: number;
}

/** A string; `parts` alternates plain text and interpolated expressions. `start` is inside the quotes. */
export interface TextExpr extends Span {
  kind: "text";
  parts: (string | Expr)[];
}

/** A number, `true`, `false`, `null` or `nil`; a Ruby symbol is a `TextExpr`. */
export interface LiteralExpr extends Span {
  kind: "literal";
  text: string;
}

/** A regular expression, as its language writes it, without the slashes. */
export interface PatternExpr extends Span {
  kind: "pattern";
  text: string;
  flags: string;
}

export interface NameExpr extends Span {
  kind: "name";
  name: string;
}

/** `object.name`; `object` is absent for Swift's leading dot. */
export interface MemberExpr extends Span {
  kind: "member";
  object: Expr | undefined;
  name: string;
}

export interface IndexExpr extends Span {
  kind: "index";
  object: Expr;
  index: Expr;
  /** The second of two indices: `text[0, 3]`. */
  second?: Expr;
}

export interface Argument {
  /** The name of a named argument, or the key of a map entry; `...` for a map that is spread. */
  name?: string;
  nameStart?: number;
  /** The key of a map entry that has to be worked out. */
  key?: Expr;
  value: Expr;
  /** Handed over as the block of a call (`&block`). */
  block?: boolean;
}

/** A call. `infix` holds what follows on the same line (`id("x") version "y" apply false`). */
export interface CallExpr extends Span {
  kind: "call";
  callee: Expr;
  args: Argument[];
  closure: ClosureExpr | undefined;
  infix: Argument[];
  /** Nothing but a name is written: a method without arguments, or nothing that is known. */
  bare?: boolean;
}

export interface ListExpr extends Span {
  kind: "list";
  items: Expr[];
}

export interface MapExpr extends Span {
  kind: "map";
  entries: Argument[];
}

/** The items of a list in place of the list (`*list`, `...list`). */
export interface SpreadExpr extends Span {
  kind: "spread";
  value: Expr;
}

export interface BinaryExpr extends Span {
  kind: "binary";
  operator: string;
  left: Expr;
  right: Expr;
}

export interface ConditionExpr extends Span {
  kind: "condition";
  test: Expr;
  then: Expr;
  otherwise: Expr;
}

export interface ClosureExpr extends Span {
  kind: "closure";
  parameters: Parameter[];
  body: Statement[];
}

/** Statements in the place of an expression (`x = if … end`, `a = b = 1`): the last value is theirs. */
export interface DoExpr extends Span {
  kind: "do";
  body: Statement[];
}

/** Something that was recognised as code and whose meaning is not needed. */
export interface OpaqueExpr extends Span {
  kind: "opaque";
}

export type Statement =
  | { kind: "expression"; value: Expr; start: number; end: number }
  | AssignStatement
  | { kind: "if"; test: Expr; then: Statement[]; otherwise: Statement[]; start: number; end: number }
  | LoopStatement
  | SwitchStatement
  /** `clauses`: what runs where the body fails; `last`: what runs in the end. */
  | { kind: "try"; body: Statement[]; clauses: Statement[][]; last: Statement[]; start: number; end: number }
  | FunctionStatement
  /** `parameters`: those by which an object of it is made, where they are its properties too. `listed`: its body begins with all there are. */
  | { kind: "type"; name: string; parameters?: Parameter[]; listed?: true; body: Statement[]; start: number; end: number }
  | { kind: "return"; value: Expr | undefined; start: number; end: number }
  /** `next` and `continue` end a round of a loop, `break` the loop, `raise` (`throw`) everything. */
  | { kind: "jump"; word: "next" | "break" | "raise"; value: Expr | undefined; start: number; end: number };

/** An assignment; `target` is a list or a map where several names are given at once. `by` is Kotlin's delegation. */
export interface AssignStatement extends Span {
  kind: "assign";
  target: Expr;
  /** `=`, `by`, or a compound one such as `+=`. */
  operator: string;
  value: Expr;
  declared: boolean;
}

/** A loop over a list (`names`, `list`), or while a test holds (`test`). */
export interface LoopStatement extends Span {
  kind: "loop";
  names: Parameter[];
  list: Expr | undefined;
  test: Expr | undefined;
  /** The test is asked for the first time after the first round. */
  after?: boolean;
  /** `for (before; test; step)`. */
  before?: Statement[];
  step?: Statement[];
  body: Statement[];
}

export interface SwitchStatement extends Span {
  kind: "switch";
  subject: Expr | undefined;
  /** The name that the subject gets in the cases (Kotlin). */
  name?: string;
  /** Without tests: the default. */
  cases: { tests: Expr[]; isDefault: boolean; body: Statement[] }[];
  /** A case goes on with the next one unless it ends with `break`. */
  fallsThrough: boolean;
}

export interface FunctionStatement extends Span {
  kind: "function";
  name: string;
  parameters: Parameter[];
  body: Statement[];
}

export interface Parameter {
  name: string;
  fallback?: Expr;
  /** Takes all that is left: as a list, as a map of named ones, or the block. */
  rest?: "list" | "map" | "block";
  /** A list that is taken apart: `|(a, b), c|`. */
  parts?: Parameter[];
}

export interface Script {
  source: Source;
  body: Statement[];
  problems: Problem[];
}

/** `a.b.c` as `["a", "b", "c"]`; `undefined` when it is anything but names and dots. */
export function pathOf(expr: Expr | undefined): string[] | undefined {
  const path: string[] = [];
  let current = expr;
  while (current?.kind === "member") {
    path.push(current.name);
    current = current.object;
    if (!current) return path.reverse();
  }
  if (current?.kind !== "name") return undefined;
  path.push(current.name);
  return path.reverse();
}

/** The last name of a call: `foo.bar("x")` → `bar`; a configuration named by a text (`"implementation"("x")`) counts. */
export function callName(call: CallExpr): string | undefined {
  if (call.callee.kind === "name" || call.callee.kind === "member") return call.callee.name;
  return plainText(call.callee);
}

/** The text of a string without interpolation. */
export function plainText(expr: Expr | undefined): string | undefined {
  if (expr?.kind !== "text") return undefined;
  if (expr.parts.length === 0) return "";
  const [only] = expr.parts;
  return expr.parts.length === 1 && typeof only === "string" ? only : undefined;
}

export function namedArg(call: CallExpr, name: string): Expr | undefined {
  return call.args.find((arg) => arg.name === name)?.value;
}

/** Positional arguments, in order. */
export function positional(call: CallExpr): Expr[] {
  return call.args.filter((arg) => arg.name === undefined && !arg.block && arg.key === undefined).map((arg) => arg.value);
}

/** A call that is not written as one: a bare name, a method that is handed over. */
export function callOf(callee: Expr, args: Argument[] = [], bare = true): CallExpr {
  return { kind: "call", callee, args, closure: undefined, infix: [], start: callee.start, end: callee.end, bare };
}

/** A method that is handed over by its name (`&:strip`, `::implementation`): a closure that calls it. */
export function closureCalling(make: (it: Expr) => Expr, start: number, end: number): ClosureExpr {
  const it: Expr = { kind: "name", name: "it", start, end };
  return {
    kind: "closure",
    parameters: [{ name: "it" }],
    body: [{ kind: "expression", value: make(it), start, end }],
    start,
    end,
  };
}
