import { endOfSlashy } from "../script/lexer.js";

/** Where a bracket that opens at an offset is closed; the end of the text when it is not. */
export function closing(text: string, open: number): number {
  let depth = 0;
  for (let i = open; i < text.length; i++) {
    const char = text[i] as string;
    if (char === '"' || char === "'" || char === "`") {
      for (i++; i < text.length && text[i] !== char && text[i] !== "\n"; i++) if (text[i] === "\\") i++;
    } else if (char === "(" || char === "[" || char === "{") depth++;
    else if (char === ")" || char === "]" || char === "}") {
      depth--;
      if (depth <= 0) return i;
    }
  }
  return text.length;
}

const GENERICS = /<[\w\s,.?<>[\]:&]*>(?=\s*[.(?!]|$)/y;

/** Whether no block that holds the first place ends before the second. */
export function isInSight(text: string, from: number, to: number): boolean {
  let depth = 0;
  for (let index = from; index < to; index++) {
    if (text[index] === "{") depth++;
    else if (text[index] === "}" && --depth < 0) return false;
  }
  return true;
}

/** The arguments of a call whose bracket opens at `open`, split at its own commas. */
export function argumentsIn(text: string, open: number): string[] {
  const end = closing(text, open);
  const found: string[] = [];
  let start = open + 1;
  for (let i = start; i < end; i++) {
    const char = text[i] as string;
    if ("([{".includes(char)) i = closing(text, i);
    else if (char === '"' || char === "'" || char === "`") {
      for (i++; i < end && text[i] !== char; i++) if (text[i] === "\\") i++;
    } else if (char === ",") {
      found.push(text.slice(start, i));
      start = i + 1;
    }
  }
  return [...found, text.slice(start, end)];
}

/**
 * The name that an expression calls, in one spelling for all languages: `Quaymap.Builder(this)?.key("a")!!.build` is
 * `Quaymap.Builder.key.build`. Arguments, type arguments, comments and white space are left out.
 */
// eslint-disable-next-line complexity -- one case for each sign that stands in a callee
export function calleeText(expression: string): string {
  const text = expression.length > 6_000 ? expression.slice(0, 6_000) : expression;
  let result = "";
  for (let i = 0; i < text.length; i++) {
    const char = text[i] as string;
    if (/\s/.test(char)) continue;
    if (char === "/" && (text[i + 1] === "/" || text[i + 1] === "*")) {
      const end = text[i + 1] === "/" ? text.indexOf("\n", i) : text.indexOf("*/", i);
      i = end === -1 ? text.length : end + (text[i + 1] === "/" ? 0 : 1);
      continue;
    }
    // A regular expression that is asked for something.
    if (char === "/" && result === "") {
      const end = endOfSlashy(text, i, true);
      i = end === -1 ? text.length : end + (/^[a-z]*/.exec(text.slice(end + 1))?.[0].length ?? 0);
      continue;
    }
    if (char === "(" || char === "{" || char === "[") {
      const end = closing(text, i);
      // A cast or an expression in brackets at the start is what is called.
      if (result === "" && char === "(")
        result += calleeText(
          text
            .slice(i + 1, end)
            .replace(/^\s*\([A-Z][\w.<>]*\)\s*(?=[\w(])/, "")
            .replace(/\s+as[!?]?\s+.*$/s, ""),
        );
      i = end;
      continue;
    }
    if (char === "<") {
      GENERICS.lastIndex = i;
      const generics = GENERICS.exec(text);
      if (generics) {
        i += generics[0].length - 1;
        continue;
      }
    }
    if (char === "?" || char === "!") continue;
    if (char === ":" && text[i + 1] === ":") {
      result += ".";
      i++;
      continue;
    }
    if (char === "-" && text[i + 1] === ">") {
      result += ".";
      i++;
      continue;
    }
    result += char;
  }
  return result
    .replace(/^(await|new|try|const)(?=[A-Z])/, "")
    .replace(/\.{2,}/g, ".")
    .replace(/^\./, "");
}
