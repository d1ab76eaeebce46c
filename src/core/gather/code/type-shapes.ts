import type { CodeFile } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { escaped } from "./mentions.js";

/** What an interface or type of TypeScript says. */
export function shapeOf({ plain, language }: CodeFile, name: string): string | undefined {
  if (language === "javascript") return undefined;
  const found = new RegExp(`\\binterface\\s+${escaped(name)}\\b[^{]*(?=\\{)|\\btype\\s+${escaped(name)}(?:<[^=]*>)?\\s*=\\s*`).exec(plain);
  if (!found) return undefined;
  const from = found.index + found[0].length;
  if (plain[from] === "{") return plain.slice(from, closing(plain, from) + 1);
  return /^[^;\n]+/.exec(plain.slice(from, from + 300))?.[0];
}

/** The members of a type that is written out, with the type of each. */
export function membersOfShape(shape: string): { key: string; type: string }[] {
  if (!shape.startsWith("{")) return [];
  const found: { key: string; type: string }[] = [];
  for (let at = 1; at < shape.length; at++) {
    const match = /\s*(?:readonly\s+)?([\w$]+)\??\s*:\s*/y;
    match.lastIndex = at;
    const key = match.exec(shape);
    if (!key) continue;
    const from = at + key[0].length;
    let end = from;
    for (; end < shape.length && !/[;\n,}]/.test(shape[end] as string); end++)
      if ("([{<".includes(shape[end] as string)) end = shape[end] === "<" ? shape.indexOf(">", end) : closing(shape, end);
    found.push({ key: key[1] as string, type: shape.slice(from, end).trim() });
    at = end;
  }
  return found;
}

/** The type argument of a call that begins at an offset: `createContext<Services | null>(null)`. */
export function typeArgument(plain: string, at: number): string | undefined {
  const head = /^[\w$.]+\s*</.exec(plain.slice(at, at + 80));
  if (!head) return undefined;
  let depth = 0;
  for (let i = at + head[0].length - 1; i < Math.min(plain.length, at + 400); i++) {
    if (plain[i] === "<") depth++;
    else if (plain[i] === ">" && plain[i - 1] !== "=" && --depth === 0) return plain.slice(at + head[0].length, i);
  }
  return undefined;
}
