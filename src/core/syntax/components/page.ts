import { Pieces, type ComponentScript } from "./pieces.js";

const SCRIPT = /<script\b((?:"[^"]*"|'[^']*'|[^<>"'])*)>([\s\S]*?)(?:<\/script\s*>|$)|<!--[\s\S]*?(?:-->|$)/gi;
const HANDLER = /\s(on[a-z]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/gi;

/** How many handlers of a page are looked at. */
const MOST = 500;

/**
 * The code that stands in a page itself: its scripts, and the handlers of its elements. Nothing where there is none. Source: html.spec.whatwg.org,
 * "The script element", "Event handler content attributes".
 */
export function codeOfPage(text: string): ComponentScript | undefined {
  const made = new Pieces(text);
  let isEmpty = true;
  let rest = "";
  for (const match of text.matchAll(SCRIPT)) {
    const [all, attributes = "", code = ""] = match;
    rest += text.slice(rest.length, match.index) + " ".repeat(all.length);
    const isCode = !/\bsrc\s*=/i.test(attributes) && !/\btype\s*=\s*["']?(?!(?:text|application)\/javascript|module)/i.test(attributes);
    if (!isCode || code.trim() === "") continue;
    const from = match.index + all.indexOf(">", attributes.length) + 1;
    made.take(from, from + code.length);
    made.add("\n");
    isEmpty = false;
  }
  rest += text.slice(rest.length);
  let seen = 0;
  for (const match of rest.matchAll(HANDLER)) {
    const code = match[2] ?? match[3] ?? "";
    if (code.trim() === "" || ++seen > MOST) continue;
    const from = match.index + match[0].length - 1 - code.length;
    made.add(`window.addEventListener("${(match[1] as string).slice(2).toLowerCase()}", function () { `);
    made.take(from, from + code.length);
    made.add(" });\n");
    isEmpty = false;
  }
  return isEmpty ? undefined : made;
}
