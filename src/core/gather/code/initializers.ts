import type { CodeCall } from "../../model/code.js";
import type { Place } from "../../model/place.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import type { Program } from "./program.js";

/** A class that is named as such: `Name::class`, `Name::class.java`, `Name.class`. */
const CLASS = /\b([A-Z]\w*)\s*(?:::class|\.class)\b/g;

/** What an initializer of Android's start-up library says in `dependencies()`: it runs after these. */
export function dependenciesOf(program: Program, type: string): { name: string; at: Place }[] {
  return methods(program, type, "dependencies").flatMap(({ source, code, index }) => {
    const { from, to } = functionOf({ source, code, index }) ?? { from: 0, to: 0 };
    return [...code.plain.slice(from, to).matchAll(CLASS)]
      .filter(([, name]) => name !== "Initializer")
      .map((match) => ({ name: match[1] as string, at: source.place(from + match.index) }));
  });
}

/**
 * The `create` functions that run because code asks for an initializer, those it depends on first.
 * Source: developer.android.com, "App Startup", "Manually initialize components".
 */
export function initializersAskedFor(program: Program, call: CodeCall): FunctionRef[] {
  if (!/(^|\.)initializeComponent$/.test(call.callee)) return [];
  const found: FunctionRef[] = [];
  const seen = new Set<string>();
  const visit = (type: string): void => {
    if (seen.has(type)) return;
    seen.add(type);
    for (const { name } of dependenciesOf(program, type)) visit(name);
    found.push(...methods(program, type, "create"));
  };
  for (const { text } of call.arguments) for (const [, name] of text.matchAll(CLASS)) visit(name as string);
  return found;
}

function methods(program: Program, type: string, name: string): FunctionRef[] {
  return program
    .types(type)
    .flatMap(({ source, code }) =>
      code.functions.flatMap((fn, index) => (fn.type === type && fn.name === name ? [{ source, code, index }] : [])),
    );
}
