import type { Place } from "../model/place.js";
import type { Reason } from "../model/reason.js";
import type { Source } from "../syntax/source.js";
import { type AssignStatement, type CallExpr, type Expr, type Statement } from "../syntax/script/ast.js";
import { dialectOf, type DialectName } from "./semantics.js";
import { Run } from "./run.js";
import type { FunctionResult, Result } from "./values.js";

/**
 * The variables that a part of a script sees: its own, and those around it. At the outermost level stand what a whole script shares (constants
 * and globals of Ruby, what Groovy assigns without `def`) and its functions.
 */
export class Variables {
  readonly cells = new Map<string, Result>();

  constructor(
    readonly parent?: Variables,
    /** `script`: of a whole file; `type`: of a class or module, and shared by what it holds. */
    readonly kind: "shared" | "script" | "type" | "block" = "block",
  ) {}

  get(name: string): Result | undefined {
    return this.holder(name)?.cells.get(name);
  }

  /** The nearest variables in which a name has a value. */
  holder(name: string): Variables | undefined {
    return this.cells.has(name) ? this : this.parent?.holder(name);
  }

  /** What methods see of the variables around them where only shared ones are seen. */
  shared(): Variables {
    return !this.parent || this.kind === "shared" || this.kind === "type" ? this : this.parent.shared();
  }
}

/** How a list of statements ended: at its end, or before it; `sure` unless that depends on the build. */
export interface Outcome {
  value: Result | undefined;
  end: "return" | "next" | "break" | "raise" | undefined;
  sure: boolean;
}

/** Where something is worked out. Frames are never changed: what holds inside of something is another frame. */
export interface Frame {
  readonly run: Run;
  readonly source: Source;
  readonly dialect: DialectName;
  readonly variables: Variables;
  readonly host: Host;
  /** Whether it runs depends on what nobody can tell from the files. */
  readonly conditional: boolean;
  /** The block that the method around was given. */
  readonly block: FunctionResult | undefined;
}

/** Gives meaning to what a language leaves to its tools: names, commands and assignments of Podfiles, build scripts, settings files. */
export interface Host {
  /** The value of a dotted name that no variable has. */
  lookup?(path: readonly string[], frame: Frame, at: number): Result | undefined;
  /** A call of what the script does not define; `undefined` where it means nothing here. */
  call?(call: CallPart): Result | undefined;
  /** An assignment to what is no variable of the script; `true` where it was taken. */
  assign?(assignment: Assignment): boolean;
  /** A class of the script; `true` where it was taken. */
  type?(statement: Extract<Statement, { kind: "type" }>, frame: Frame): boolean;
  /** A part of a statement that was not understood. */
  lost?(expr: Expr, why: Reason, frame: Frame): void;
}

/** An argument that was worked out, with where it stands. */
export interface Given {
  result: Result;
  expr: Expr;
}

/** A call, as hosts see it: its arguments are worked out when they are asked for, and once. */
export interface CallPart {
  readonly expr: CallExpr;
  readonly frame: Frame;
  readonly name: string;
  /** The dotted name of what is called, where it is one. */
  readonly path: readonly string[] | undefined;
  readonly place: Place;
  /** It stands as a statement of its own, and not in an expression whose value is asked for. */
  readonly isStatement: boolean;
  /** What it is called on; `undefined` for a plain name. */
  receiver(): Result | undefined;
  positional(): readonly Given[];
  named(): ReadonlyMap<string, Given & { start: number }>;
  /** The closure or method that it was given. */
  block(): FunctionResult | undefined;
}

export interface Assignment {
  readonly statement: AssignStatement;
  readonly frame: Frame;
  /** The dotted name of the target, where it is one. */
  readonly path: readonly string[] | undefined;
  /** For `a[key] = …` and `a.key = …`: what it is assigned to, and under which key. */
  receiver(): Result | undefined;
  readonly key: string | undefined;
  value(): Result;
}

/** The frame of a whole script. */
export function scriptFrame(source: Source, host: Host, options: { run?: Run; shared?: Variables; conditional?: boolean } = {}): Frame {
  return {
    run: options.run ?? new Run(),
    source,
    dialect: dialectOf(source.file),
    variables: new Variables(options.shared ?? new Variables(undefined, "shared"), "script"),
    host,
    conditional: options.conditional ?? false,
    block: undefined,
  };
}
