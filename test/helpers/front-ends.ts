import { parsed } from "./code.js";
import { Source } from "../../src/core/syntax/source.js";
import { callName } from "../../src/core/syntax/script/ast.js";
import { parseScript } from "../../src/core/syntax/script/parser.js";

const DIALECT = { kts: "kotlin", swift: "swift", js: "javascript", ts: "javascript" } as const;

/** The names of the calls of a build file in alphabetical order, as the reader of build scripts makes them out. */
export function callsOfScript(file: string, text: string): string[] {
  const source = new Source(file, text);
  const found: string[] = [];
  // What stands on both sides of an operator with one is one.
  const seen = new Set<object>();
  const visit = (node: unknown): void => {
    if (Array.isArray(node)) for (const item of node) visit(item);
    else if (typeof node === "object" && node !== null && !(node instanceof Source) && !seen.has(node)) {
      seen.add(node);
      const call = node as Parameters<typeof callName>[0] & { bare?: boolean };
      if ((call.kind as string) === "call" && !call.bare) {
        const name = callName(call);
        if (name !== undefined) found.push(name);
      }
      for (const value of Object.values(node)) visit(value);
    }
  };
  visit(parseScript(source, DIALECT[file.slice(file.lastIndexOf(".") + 1) as keyof typeof DIALECT]).body);
  return found.sort();
}

/** The same calls as the grammar of the language makes them out. */
export async function callsOfGrammar(file: string, text: string): Promise<string[]> {
  const { calls } = await parsed(file.replace(/\.kts$/, ".kt"), text);
  return calls.flatMap(({ callee, assignment }) => (assignment ? [] : [callee.split(".").at(-1) ?? ""])).sort();
}
