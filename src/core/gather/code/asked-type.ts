import type { Language } from "../../model/code.js";
import { isScript } from "./sources.js";

/** How far back the brackets of a call are looked for, in characters. */
const FARTHEST = 2_000;

/** Longer than the names in front of such a bracket. */
const LONGEST_NAME = 200;

/** A call that is told the type of what it has to give, and the name by which it is called. */
export interface AskedType {
  type: string;
  by: string;
}

/**
 * The type that a call asks for, where an expression ends with such a call: `locator<Maps>()`, `get<Maps>()`, `resolve(Maps.self)!`,
 * `create(Maps::class.java)`, `inject(Maps)` of a script. The text ends behind the call.
 */
export function askedType(text: string, language: Language): AskedType | undefined {
  let last = text.length;
  while (last > 0 && /[?!.\s]/.test(text[last - 1] as string)) last--;
  if (text[last - 1] !== ")") return undefined;
  const end = text.slice(Math.max(0, last - FARTHEST), last);
  const open = openingOf(end);
  if (open === undefined) return undefined;
  const given = end.slice(open + 1, -1);
  const head = end.slice(Math.max(0, open - LONGEST_NAME), open);
  const [, by, type] = /(\w+)\s*<\s*(?:\w+\.)*([A-Z]\w*)\s*>\s*$/.exec(head) ?? [];
  if (by !== undefined && type !== undefined) return { type, by };
  const name = /(\w+)\s*$/.exec(head)?.[1];
  const named =
    /^\s*(?:\w+\s*:\s*)?([A-Z]\w*)\s*(?:\.self|\.class|::class(?:\.java(?:ObjectType)?)?)\s*(?:,|$)/.exec(given)?.[1] ??
    (isScript(language) && /^(inject|get|resolve)$/.test(name ?? "") ? /^\s*([A-Z]\w*)\s*(?:,|$)/.exec(given)?.[1] : undefined);
  return name !== undefined && named !== undefined ? { type: named, by: name } : undefined;
}

/** Where the bracket is opened that a text ends with. */
function openingOf(text: string): number | undefined {
  let depth = 0;
  for (let i = text.length - 1; i >= 0; i--) {
    if (text[i] === ")") depth++;
    else if (text[i] === "(" && --depth === 0) return i;
  }
  return undefined;
}
