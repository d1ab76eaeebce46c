import type { ProjectFiles } from "../project-files.js";
import { listOf, mapOf, scalarOf, type Data } from "../../syntax/data.js";
import { pathOf, type Expr, type Script, type Statement } from "../../syntax/script/ast.js";
import { evaluate, type Result, type Scope } from "../../evaluate/evaluate.js";
import type { Source } from "../../syntax/source.js";

/**
 * Reads the object that a settings file in JavaScript or TypeScript exports, statically: literals, constants of the file, spreads, functions that
 * return an object. What cannot be worked out is left out. JSON files are read as they are.
 */
export function readExportedObject(project: ProjectFiles, file: string): Data | undefined {
  if (file.endsWith(".json")) return project.json(file)?.root;
  const script = project.script(file);
  if (!script) return undefined;
  const constants = new Map<string, Result>();
  const scope: Scope = {
    source: script.source,
    lookup(path) {
      const [first, ...rest] = path;
      let found = constants.get(first as string);
      for (const step of rest) found = found?.kind === "map" ? found.entries.get(step) : undefined;
      return found;
    },
  };
  let exported: Expr | undefined;
  const functions = new Map<string, Statement[]>();
  for (const statement of script.body) {
    if (statement.kind === "function") functions.set(statement.name, statement.body);
    if (statement.kind !== "assign") {
      if (statement.kind === "expression") exported ??= objectIn(statement.value);
      continue;
    }
    const path = pathOf(statement.target)?.join(".");
    if (path === "module.exports" || path === "exports.default") exported = statement.value;
    else if (path !== undefined) constants.set(path, evaluate(statement.value, scope));
  }
  const expr = exported === undefined ? lastObject(script) : returned(exported, functions);
  if (expr?.kind === "name") {
    const held = constants.get(expr.name);
    return held && toData(held, script.source, expr.start, scope);
  }
  return expr && exprToData(expr, script.source, scope);
}

/** The object that an expression is or gives back: `{…}`, `() => ({…})`, `defineConfig({…})`. */
function objectIn(expr: Expr): Expr | undefined {
  if (expr.kind === "map") return expr;
  if (expr.kind === "call") return expr.args.map(({ value }) => objectIn(value)).find((found) => found !== undefined);
  if (expr.kind === "closure") return returnedFrom(expr.body);
  return undefined;
}

function returned(expr: Expr, functions: Map<string, Statement[]>): Expr | undefined {
  const own = objectIn(expr);
  if (own) return own;
  const body = expr.kind === "name" ? functions.get(expr.name) : undefined;
  return body ? returnedFrom(body) : expr.kind === "name" ? expr : undefined;
}

function returnedFrom(body: Statement[]): Expr | undefined {
  for (const statement of body) {
    if (statement.kind === "return" && statement.value) return objectIn(statement.value);
    if (statement.kind === "expression") {
      const found = objectIn(statement.value);
      if (found) return found;
    }
  }
  return undefined;
}

/** The last object that stands in the file: what a form of export that is not known exports. */
function lastObject(script: Script): Expr | undefined {
  let found: Expr | undefined;
  for (const statement of script.body) {
    if (statement.kind === "function") found = returnedFrom(statement.body) ?? found;
    if (statement.kind === "assign" && statement.value.kind === "map") found = statement.value;
  }
  return found;
}

function exprToData(expr: Expr, source: Source, scope: Scope): Data | undefined {
  if (expr.kind === "map") {
    const map = mapOf(source, expr.start);
    for (const { name, nameStart, value } of expr.entries) {
      if (name === "...") {
        const spread = toData(evaluate(value, scope), source, value.start, scope);
        if (spread?.kind === "map") for (const [key, entry] of spread.entries) map.entries.set(key, entry);
        continue;
      }
      const data = name === undefined ? undefined : exprToData(value, source, scope);
      if (name !== undefined && data) map.entries.set(name, { start: nameStart ?? value.start, value: data });
    }
    return map;
  }
  if (expr.kind === "list")
    return listOf(
      source,
      expr.start,
      expr.items.flatMap((item) => exprToData(item, source, scope) ?? []),
    );
  return toData(evaluate(expr, scope), source, expr.start, scope);
}

function toData(result: Result, source: Source, start: number, scope: Scope): Data | undefined {
  if (result.kind === "known")
    return scalarOf(source, start, result.text === "true" ? true : result.text === "false" ? false : result.text);
  if (result.kind === "list")
    return listOf(
      source,
      start,
      result.items.flatMap((item) => toData(item, source, start, scope) ?? []),
    );
  if (result.kind !== "map") return undefined;
  const map = mapOf(source, start);
  for (const [key, value] of result.entries) {
    const data = toData(value, source, start, scope);
    if (data) map.entries.set(key, { start, value: data });
  }
  return map;
}
