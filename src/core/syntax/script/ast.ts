import type { Problem, Source } from "../source.js";

/**
 * The tree of a build script, whatever its language: Gradle (Groovy and Kotlin), Ruby (Podfile, podspec), Swift
 * (Package.swift) and JavaScript settings all come down to blocks, calls and assignments. Offsets are into the source.
 */
export type Expr =
  | TextExpr
  | LiteralExpr
  | NameExpr
  | MemberExpr
  | IndexExpr
  | CallExpr
  | ListExpr
  | MapExpr
  | BinaryExpr
  | ConditionExpr
  | ClosureExpr
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
}

export interface Argument {
  /** The name of a named argument, or the key of a map entry. */
  name?: string;
  nameStart?: number;
  value: Expr;
}

/** A call. `infix` holds what follows on the same line (`id("x") version "y" apply false`). */
export interface CallExpr extends Span {
  kind: "call";
  callee: Expr;
  args: Argument[];
  closure: ClosureExpr | undefined;
  infix: Argument[];
}

export interface ListExpr extends Span {
  kind: "list";
  items: Expr[];
}

export interface MapExpr extends Span {
  kind: "map";
  entries: Argument[];
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
  parameters: string[];
  body: Statement[];
}

/** Something that was recognised as code and whose meaning is not needed. */
export interface OpaqueExpr extends Span {
  kind: "opaque";
}

export type Statement =
  | { kind: "expression"; value: Expr; start: number; end: number }
  | { kind: "assign"; target: Expr; operator: "=" | "+=" | "||=" | "by"; value: Expr; declared: boolean; start: number; end: number }
  | {
      kind: "if";
      test: Expr;
      then: Statement[];
      otherwise: Statement[];
      /** A loop over a list: whether and how often its body runs is known where the list is. */
      loop?: { names: string[]; list: Expr };
      start: number;
      end: number;
    }
  | { kind: "function"; name: string; parameters: Parameter[]; body: Statement[]; start: number; end: number }
  | { kind: "type"; name: string; body: Statement[]; start: number; end: number }
  | { kind: "return"; value: Expr | undefined; start: number; end: number };

export interface Parameter {
  name: string;
  fallback?: Expr;
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
  return call.args.filter((arg) => arg.name === undefined).map((arg) => arg.value);
}
