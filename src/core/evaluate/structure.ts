import type { Argument, Expr, Parameter } from "../syntax/script/ast.js";
import type { Frame } from "./frame.js";
import type { FunctionResult } from "./values.js";

/** A function that makes a structure of what it is given: `data class Lib(val name: String)`, `Struct.new(:name)`. */
export function structureOf(
  parameters: readonly Parameter[],
  frame: Frame,
  { start, end }: { start: number; end: number },
): FunctionResult {
  const entries = parameters.map(({ name: own }): Argument => ({
    name: own,
    nameStart: start,
    value: { kind: "name", name: own, start, end },
  }));
  const value: Expr = { kind: "map", entries, start, end };
  return { kind: "function", parameters, body: [{ kind: "expression", value, start, end }], frame, isMethod: false };
}
