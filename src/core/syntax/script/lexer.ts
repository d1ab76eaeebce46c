import type { Problem, Source } from "../source.js";

export type Dialect = "groovy" | "kotlin" | "swift" | "javascript";

export interface Token {
  kind: "name" | "number" | "text" | "pattern" | "mark" | "end";
  /** Name, number or mark as written; for a text the raw content between the quotes. */
  text: string;
  start: number;
  end: number;
  /** A line break stands before it. */
  newline: boolean;
  /** White space stands before it. */
  spaced: boolean;
  /** For a text: its parts, plain or interpolated (the offset and code of an expression). */
  parts?: (string | { start: number; code: string })[];
  contentStart?: number;
  /** Of a regular expression. */
  flags?: string;
}

const MARKS = [
  "..<",
  "...",
  "===",
  "!==",
  "<=>",
  "?:",
  "?.",
  "!!",
  "->",
  "=>",
  "==",
  "!=",
  ">=",
  "<=",
  "&&",
  "||",
  "??",
  "..",
  "+=",
  "-=",
  "*=",
  "++",
  "--",
  "::",
  "*.",
  ".&",
  "*=",
  "/=",
  "??=",
  "||=",
  "&&=",
  "?=",
  "<<",
  "=~",
];
const MARKS_BY_FIRST = new Map<string, string[]>();
for (const mark of [...new Set(MARKS)].sort((a, b) => b.length - a.length))
  MARKS_BY_FIRST.set(mark[0] as string, [...(MARKS_BY_FIRST.get(mark[0] as string) ?? []), mark]);

const CLOSERS: Record<string, string> = { ")": "(", "]": "[", "}": "{" };

/** Splits a script into tokens; says where a text, a comment or a bracket is not closed. */
// eslint-disable-next-line complexity -- one case for each sign that can begin a token, in the order in which they must be tried
export function tokenize(source: Source, dialect: Dialect, code = source.text, base = 0): { tokens: Token[]; problems: Problem[] } {
  const tokens: Token[] = [];
  const problems: Problem[] = [];
  const brackets: { mark: string; start: number }[] = [];
  const length = code.length;
  let position = 0;
  let newline = true;
  let spaced = true;

  const fail = (message: string, offset: number): void => {
    if (problems.length < 5) problems.push(source.problem(message, base + offset));
  };
  const push = (kind: Token["kind"], start: number, end: number, extra?: Partial<Token>): void => {
    tokens.push({ kind, text: code.slice(start, end), start: base + start, end: base + end, newline, spaced, ...extra });
    newline = false;
    spaced = false;
    position = end;
  };

  if (code.startsWith("#!")) {
    position = code.indexOf("\n");
    if (position === -1) position = length;
  }

  while (position < length) {
    const char = code[position] as string;
    if (char === "\n" || char === "\r") {
      newline = true;
      spaced = true;
      position++;
      continue;
    }
    if (char === " " || char === "\t" || char === "\u00a0" || char === "\f") {
      spaced = true;
      position++;
      continue;
    }
    if (char === "\\" && /^\\\r?\n/.test(code.slice(position, position + 3))) {
      position += code[position + 1] === "\r" ? 3 : 2;
      continue;
    }
    if (char === "/" && code[position + 1] === "/") {
      const end = code.indexOf("\n", position);
      position = end === -1 ? length : end;
      continue;
    }
    if (char === "/" && code[position + 1] === "*") {
      const start = position;
      position = endOfComment(code, position, dialect === "kotlin" || dialect === "swift");
      if (position === -1) {
        fail("a comment is not closed", start);
        position = length;
      }
      spaced = true;
      if (code.slice(start, position).includes("\n")) newline = true;
      continue;
    }
    if (isNameStart(char)) {
      let end = position + 1;
      while (end < length && isNamePart(code[end] as string)) end++;
      push("name", position, end);
      continue;
    }
    if (char === "`" && dialect !== "javascript") {
      const end = code.indexOf("`", position + 1);
      const close = end === -1 ? length : end;
      push("name", position, Math.min(close + 1, length), { text: code.slice(position + 1, close) });
      continue;
    }
    if (char >= "0" && char <= "9") {
      const match = /^(?:0[xX][0-9a-fA-F_]+|[0-9][0-9_]*(?:\.[0-9][0-9_]*)*)[a-zA-Z]?/.exec(code.slice(position, position + 64));
      push("number", position, position + (match?.[0].length ?? 1));
      continue;
    }
    if (char === '"' || char === "'" || (char === "`" && dialect === "javascript")) {
      readText(char);
      continue;
    }
    if (char === "/" && (dialect === "groovy" || dialect === "javascript") && startsExpression(tokens.at(-1), newline)) {
      const end = endOfSlashy(code, position, dialect === "javascript");
      if (end !== -1) {
        const content = code.slice(position + 1, end);
        const contentStart = base + position + 1;
        if (dialect === "javascript") {
          const flags = /^[a-z]*/.exec(code.slice(end + 1, end + 8))?.[0] ?? "";
          push("pattern", position, end + 1 + flags.length, { text: content, flags, contentStart });
        } else if (/\$[{A-Za-z_]/.test(content)) readSlashy(end);
        else push("text", position, end + 1, { text: content, parts: [content.replaceAll("\\/", "/")], contentStart });
        continue;
      }
    }
    if (char === "$" && code[position + 1] === "/" && dialect === "groovy") {
      const end = code.indexOf("/$", position + 2);
      if (end !== -1) {
        const content = code.slice(position + 2, end);
        push("text", position, end + 2, { text: content, parts: [content], contentStart: base + position + 2 });
        continue;
      }
    }
    const mark = MARKS_BY_FIRST.get(char)?.find((candidate) => code.startsWith(candidate, position)) ?? char;
    if (mark === "(" || mark === "[" || mark === "{") brackets.push({ mark, start: position });
    else if (CLOSERS[mark]) {
      const opened = brackets.at(-1);
      if (opened?.mark === CLOSERS[mark]) brackets.pop();
      else if (!opened) fail(`"${mark}" closes nothing`, position);
      else {
        fail(
          `"${mark}" closes nothing: the last bracket opened is "${opened.mark}" in line ${source.place(base + opened.start).line}`,
          position,
        );
        // Take the nearest bracket that fits, so that one mistake gives one message.
        const fitting = brackets.findLastIndex((bracket) => bracket.mark === CLOSERS[mark]);
        if (fitting !== -1) brackets.length = fitting;
      }
    }
    push("mark", position, position + mark.length);
  }
  const unclosed = brackets.at(-1);
  if (unclosed && problems.length === 0) fail(`"${unclosed.mark}" is never closed`, unclosed.start);
  tokens.push({ kind: "end", text: "", start: base + length, end: base + length, newline: true, spaced: true });
  return { tokens, problems };

  /** Groovy: a text between slashes, with what is interpolated. */
  function readSlashy(end: number): void {
    const start = position;
    const parts: NonNullable<Token["parts"]> = [];
    let from = start + 1;
    for (const match of code.slice(from, end).matchAll(/\$(?:\{([^}]*)\}|([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*))/g)) {
      const at = start + 1 + match.index;
      const name = match[1] ?? match[2] ?? "";
      parts.push(code.slice(from, at), { start: base + at + (match[1] === undefined ? 1 : 2), code: name });
      from = at + match[0].length;
    }
    parts.push(code.slice(from, end));
    push("text", start, end + 1, {
      text: code.slice(start + 1, end),
      parts: parts.filter((part) => part !== ""),
      contentStart: base + start + 1,
    });
  }

  // eslint-disable-next-line complexity -- one case for each sign inside of a text
  function readText(quote: string): void {
    const start = position;
    const triple = quote !== "`" && code.startsWith(quote.repeat(3), position);
    const fence = triple ? quote.repeat(3) : quote;
    const multiline = triple || quote === "`";
    const interpolates = quote === "`" || quote === '"' || dialect === "kotlin" || dialect === "swift";
    let index = position + fence.length;
    const contentStart = index;
    const parts: NonNullable<Token["parts"]> = [];
    let plain = "";
    let closed = false;
    while (index < length) {
      if (code.startsWith(fence, index)) {
        // Quotes in front of the last three belong to the text.
        while (triple && code[index + 3] === quote && dialect === "kotlin") {
          plain += quote;
          index++;
        }
        closed = true;
        break;
      }
      const char = code[index] as string;
      if (char === "\n" && !multiline) break;
      // In a raw text of Kotlin a backslash is one.
      if (char === "\\" && !(triple && dialect === "kotlin")) {
        if (dialect === "swift" && code[index + 1] === "(") {
          const end = matchBracket(code, index + 1);
          parts.push(plain, { start: base + index + 2, code: code.slice(index + 2, end) });
          plain = "";
          index = end + 1;
          continue;
        }
        plain += { n: "\n", t: "\t", r: "\r" }[code[index + 1] ?? ""] ?? code[index + 1] ?? "";
        index += 2;
        continue;
      }
      if (char === "$" && interpolates && dialect !== "swift" && (quote === '"' || quote === "`")) {
        if (code[index + 1] === "{") {
          const end = matchBracket(code, index + 1);
          parts.push(plain, { start: base + index + 2, code: code.slice(index + 2, end) });
          plain = "";
          index = end + 1;
          continue;
        }
        const name = dialect === "javascript" ? null : /^[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*/.exec(code.slice(index + 1, index + 200));
        if (name) {
          const reference = dialect === "kotlin" ? (name[0].split(".")[0] as string) : name[0];
          parts.push(plain, { start: base + index + 1, code: reference });
          plain = "";
          index += 1 + reference.length;
          continue;
        }
      }
      plain += char;
      index++;
    }
    if (plain !== "" || parts.length === 0) parts.push(plain);
    if (!closed) {
      fail("a string is not closed", start);
      // Where it ends nobody knows: what it says is unknown, like an expression that cannot be worked out.
      parts.push({ start: base + index, code: "" });
    }
    const cleaned = parts.filter((part) => part !== "" || parts.length === 1);
    const end = closed ? index + fence.length : index;
    push("text", start, end, { text: code.slice(contentStart, index), parts: cleaned, contentStart: base + contentStart });
  }
}

function isNameStart(char: string): boolean {
  return (char >= "a" && char <= "z") || (char >= "A" && char <= "Z") || char === "_" || char === "@" || char === "#" || char > "\u00ff";
}

function isNamePart(char: string): boolean {
  return (
    (char >= "a" && char <= "z") ||
    (char >= "A" && char <= "Z") ||
    char === "_" ||
    (char >= "0" && char <= "9") ||
    char === "$" ||
    char > "\u00ff"
  );
}

/** Words after which a value stands, so that a slash begins one. */
const BEFORE_VALUE = new Set(["return", "case", "in", "else", "throw", "typeof", "void", "delete", "await", "yield", "of"]);

function startsExpression(previous: Token | undefined, newline: boolean): boolean {
  if (!previous || newline) return true;
  if (previous.kind === "name") return BEFORE_VALUE.has(previous.text);
  return previous.kind === "mark" && !/^[)\]}]$/.test(previous.text);
}

/** Where a text between slashes ends that begins at an offset; -1 where it does not on its line. `classes`: a slash in square brackets is none. */
export function endOfSlashy(code: string, start: number, classes: boolean): number {
  let inClass = false;
  for (let index = start + 1; index < code.length; index++) {
    const char = code[index];
    if (char === "\n") return -1;
    if (char === "\\") index++;
    else if (classes && char === "[") inClass = true;
    else if (char === "]") inClass = false;
    else if (char === "/" && !inClass) return index;
  }
  return -1;
}

function endOfComment(code: string, start: number, nested: boolean): number {
  if (!nested) {
    const end = code.indexOf("*/", start + 2);
    return end === -1 ? -1 : end + 2;
  }
  let depth = 0;
  for (let index = start; index < code.length - 1; index++) {
    if (code[index] === "/" && code[index + 1] === "*") {
      depth++;
      index++;
    } else if (code[index] === "*" && code[index + 1] === "/") {
      index++;
      if (--depth === 0) return index + 1;
    }
  }
  return -1;
}

/** Longer than any expression inside of a text that people write. */
const LONGEST_INTERPOLATION = 5_000;

/** The offset of the bracket that closes the one at `open`, texts inside of it left out; just behind `open` where nothing closes it. */
function matchBracket(code: string, open: number): number {
  const limit = Math.min(code.length, open + LONGEST_INTERPOLATION);
  const end = endOfInterpolation(code, open, limit);
  if (end === -1) return endOnLine(code, open);
  const line = code.indexOf("\n", open);
  if (line === -1 || line > end) return end;
  // Over several lines: the text that it stands in goes on behind it and is closed there; otherwise it is half-written.
  const next = code.indexOf("\n", end);
  return /["`]/.test(code.slice(end + 1, next === -1 ? code.length : next)) ? end : endOnLine(code, open);
}

function endOfInterpolation(code: string, open: number, limit: number): number {
  const opener = code[open] as string;
  const closer = opener === "{" ? "}" : ")";
  let depth = 0;
  for (let index = open; index < limit; index++) {
    const char = code[index] as string;
    if (char === opener) depth++;
    else if (char === closer && --depth === 0) return index;
    else if (char === '"' || char === "`") {
      index = endOfNested(code, index, limit);
      if (index === -1) return -1;
    } else if (char === "'") index += /^(?:\\.|[^'\\\n])*'/.exec(code.slice(index + 1, index + 200))?.[0].length ?? 0;
  }
  return -1;
}

/** The last sign of a text that begins inside of an interpolation; -1 where it has no end. */
function endOfNested(code: string, start: number, limit: number): number {
  const quote = code[start] as string;
  const fence = quote === '"' && code.startsWith('"""', start) ? '"""' : quote;
  for (let index = start + fence.length; index < limit; index++) {
    if (code.startsWith(fence, index)) return index + fence.length - 1;
    if (code[index] === "\n" && fence === '"') return -1;
    if (code[index] === "\\") {
      if (code[index + 1] === "(") {
        index = endOfInterpolation(code, index + 1, limit);
        if (index === -1) return -1;
      } else index++;
    } else if (code[index] === "$" && code[index + 1] === "{") {
      index = endOfInterpolation(code, index + 1, limit);
      if (index === -1) return -1;
    }
  }
  return -1;
}

/** The same by counting brackets on the line alone. */
function endOnLine(code: string, open: number): number {
  const opener = code[open] as string;
  const closer = opener === "{" ? "}" : ")";
  let depth = 0;
  for (let index = open; index < code.length && code[index] !== "\n"; index++) {
    if (code[index] === opener) depth++;
    else if (code[index] === closer && --depth === 0) return index;
  }
  return Math.min(code.length, open + 1);
}
