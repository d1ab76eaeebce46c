import type { Problem, Source } from "../source.js";

export interface Token {
  kind: "name" | "constant" | "number" | "text" | "command" | "pattern" | "symbol" | "label" | "words" | "mark" | "end";
  text: string;
  start: number;
  end: number;
  /** A line break stands before it. */
  newline: boolean;
  /** White space stands before it. */
  spaced: boolean;
  /** Of a text: plain parts, and the code of what is interpolated with its offset. */
  parts?: (string | { start: number; code: string })[];
  contentStart?: number;
  /** Words of `%w[…]` with their offsets. */
  words?: { text: string; start: number }[];
  flags?: string;
}

const MARKS = [
  "<=>",
  "===",
  "**=",
  "||=",
  "&&=",
  "<<=",
  "...",
  "=>",
  "==",
  "!=",
  ">=",
  "<=",
  "&&",
  "||",
  "<<",
  ">>",
  "+=",
  "-=",
  "*=",
  "/=",
  "%=",
  "|=",
  "..",
  "::",
  "&.",
  "=~",
  "!~",
  "->",
  "**",
];

const CLOSING: Record<string, string> = { "(": ")", "[": "]", "{": "}", "<": ">" };
const ESCAPES: Record<string, string> = { n: "\n", t: "\t", s: " ", e: "\u001b", "0": "\0", "\n": "" };

/** Splits Ruby into tokens. Total: a text that does not end goes to the end of the file, and is told. */
export function tokenizeRuby(source: Source, code: string, base: number): { tokens: Token[]; problems: Problem[] } {
  const lexer = new Lexer(source, code, base);
  lexer.read();
  return lexer;
}

class Lexer {
  readonly tokens: Token[] = [];
  readonly problems: Problem[] = [];
  private position = 0;
  private newline = true;
  private spaced = true;
  private readonly heredocs: { token: Token; tag: string; raw: boolean; indented: boolean }[] = [];

  constructor(
    private readonly source: Source,
    private readonly code: string,
    private readonly base: number,
  ) {}

  read(): void {
    while (this.position < this.code.length) if (!this.blank() && !this.word() && !this.literal()) this.mark();
    const end = this.base + this.code.length;
    this.tokens.push({ kind: "end", text: "", start: end, end, newline: true, spaced: true });
  }

  private push(kind: Token["kind"], start: number, end: number, extra?: Partial<Token>): Token {
    const { base, code, newline, spaced } = this;
    const token: Token = { kind, text: code.slice(start, end), start: base + start, end: base + end, newline, spaced, ...extra };
    this.tokens.push(token);
    this.newline = false;
    this.spaced = false;
    this.position = end;
    return token;
  }

  private fail(message: string, offset: number): void {
    if (this.problems.length === 0) this.problems.push(this.source.problem(message, this.base + offset));
  }

  /** White space, line breaks, comments; what stands behind `__END__`. */
  private blank(): boolean {
    const { code, position } = this;
    const char = code[position];
    if (char === "\n") {
      this.newline = true;
      this.spaced = true;
      this.position++;
      if (this.heredocs.length > 0) this.readHeredocs();
      if (code.startsWith("=begin", this.position)) {
        const end = code.indexOf("\n=end", this.position);
        const line = end === -1 ? -1 : code.indexOf("\n", end + 1);
        this.position = line === -1 ? code.length : line;
      } else if (/^__END__\r?(\n|$)/.test(code.slice(this.position, this.position + 9))) this.position = code.length;
      return true;
    }
    if (char === " " || char === "\t" || char === "\r" || char === "\f") {
      this.spaced = true;
      this.position++;
      return true;
    }
    if (char === "\\" && /^\\\r?\n/.test(code.slice(position, position + 3))) {
      this.position += code[position + 1] === "\r" ? 3 : 2;
      this.spaced = true;
      return true;
    }
    if (char !== "#") return false;
    const end = code.indexOf("\n", position);
    this.position = end === -1 ? code.length : end;
    return true;
  }

  private word(): boolean {
    const { code, position } = this;
    const name = /^[@$]{0,2}[A-Za-z_]\w*[?!]?/.exec(code.slice(position, position + 120));
    if (!name) return false;
    let [text] = name;
    // `a != b`, and `a ?b : c` is none of this.
    if (/[?!]$/.test(text) && code[position + text.length] === "=" && !/[=~]/.test(code[position + text.length + 1] ?? ""))
      text = text.slice(0, -1);
    const after = code[position + text.length];
    if (after === ":" && code[position + text.length + 1] !== ":" && this.tokens.at(-1)?.text !== "?") {
      this.push("label", position, position + text.length + 1, { text });
      return true;
    }
    this.push(/^[A-Z]/.test(text) ? "constant" : "name", position, position + text.length);
    return true;
  }

  // eslint-disable-next-line complexity -- one case for each sign that can begin a literal
  private literal(): boolean {
    const { code, position } = this;
    const char = code[position] as string;
    const rest = code.slice(position, position + 120);
    const previous = this.tokens.at(-1);
    if (/^[0-9]/.test(char)) {
      const match = /^(?:0[xX][0-9a-fA-F_]+|[0-9][0-9_]*(?:\.[0-9][0-9_]*)*)/.exec(rest);
      this.push("number", position, position + (match?.[0].length ?? 1));
      return true;
    }
    if (char === '"' || char === "'" || char === "`") {
      const token = this.quoted(position, position + 1, char, char, char !== "'");
      if (char === "`") token.kind = "command";
      else if (code[this.position] === ":" && code[this.position + 1] !== ":" && previous?.text !== "?") {
        token.kind = "label";
        this.position++;
      }
      return true;
    }
    const percent = /^%([wWiIqQr]?)([([{<|!/])/.exec(rest);
    if (percent && (this.newline || (this.spaced && code[position + 1] !== " ") || previous?.kind === "mark")) {
      this.percent(percent);
      return true;
    }
    const symbol = /^:[A-Za-z_]\w*[?!]?/.exec(rest)?.[0];
    if (symbol !== undefined) {
      this.push("symbol", position, position + symbol.length, { text: symbol.slice(1) });
      return true;
    }
    if (char === ":" && (code[position + 1] === '"' || code[position + 1] === "'")) {
      const quote = code[position + 1] as string;
      this.quoted(position, position + 2, quote, quote, quote === '"').kind = "symbol";
      return true;
    }
    const heredoc = /^<<([~-]?)(["']?)([A-Z_][A-Za-z0-9_]*)\2/.exec(rest);
    if (heredoc && previous?.kind !== "number" && (heredoc[1] !== "" || this.spaced)) {
      const token = this.push("text", position, position + heredoc[0].length, { text: "", parts: [""] });
      this.heredocs.push({ token, tag: heredoc[3] as string, raw: heredoc[2] === "'", indented: heredoc[1] === "~" });
      return true;
    }
    if (char === "?" && /^\?\w(?!\w)/.test(rest) && (this.spaced || previous?.kind === "mark") && previous?.kind === "mark") {
      this.push("text", position, position + 2, {
        text: rest[1] as string,
        parts: [rest[1] as string],
        contentStart: this.base + position + 1,
      });
      return true;
    }
    const end = char === "/" && regexMayStart(previous, this.spaced, code[position + 1]) ? endOfRegex(code, position) : -1;
    if (end === -1) return false;
    const flags = /^[a-z]*/.exec(code.slice(end + 1, end + 8))?.[0] ?? "";
    this.push("pattern", position, end + 1 + flags.length, {
      text: code.slice(position + 1, end),
      flags,
      contentStart: this.base + position + 1,
    });
    return true;
  }

  private percent(percent: RegExpExecArray): void {
    const { code, position, base } = this;
    const open = percent[2] as string;
    const close = CLOSING[open] ?? open;
    const contentStart = position + percent[0].length;
    if (percent[1] === "r") {
      const token = this.quoted(position, contentStart, close, open, false);
      const flags = /^[a-z]*/.exec(code.slice(this.position, this.position + 6))?.[0] ?? "";
      this.position += flags.length;
      Object.assign(token, { kind: "pattern", flags });
    } else if (/[wWiI]/.test(percent[1] ?? "")) {
      let end = code.indexOf(close, contentStart);
      if (end === -1) {
        this.fail("a list of words is not closed", position);
        end = code.length;
      }
      const words = [...code.slice(contentStart, end).matchAll(/\S+/g)].map((match) => ({
        text: match[0],
        start: base + contentStart + match.index,
      }));
      this.push("words", position, Math.min(end + 1, code.length), { words });
    } else this.quoted(position, contentStart, close, open, percent[1] !== "q");
  }

  private quoted(start: number, contentStart: number, close: string, open: string, interpolates: boolean): Token {
    const { code, base } = this;
    const { parts, end, closed } = this.content(contentStart, close, open, interpolates);
    if (!closed) this.fail("a string is not closed", start);
    const token = this.push("text", start, Math.min(code.length, closed ? end + 1 : end), { parts, contentStart: base + contentStart });
    token.text = code.slice(contentStart, end);
    return token;
  }

  /** What stands up to a closing mark: plain parts and interpolated ones. */
  private content(
    from: number,
    close: string,
    open: string,
    interpolates: boolean,
  ): { parts: NonNullable<Token["parts"]>; end: number; closed: boolean } {
    const { code, base } = this;
    const parts: NonNullable<Token["parts"]> = [];
    let plain = "";
    let depth = 0;
    let index = from;
    let closed = false;
    while (index < code.length) {
      const char = code[index] as string;
      if (char === "\\") {
        const escaped = code[index + 1] ?? "";
        plain += interpolates ? (ESCAPES[escaped] ?? escaped) : escaped === close || escaped === "\\" ? escaped : `\\${escaped}`;
        index += 2;
        continue;
      }
      if (interpolates && char === "#" && code[index + 1] === "{") {
        const end = endOfInterpolation(code, index + 1);
        parts.push(plain, { start: base + index + 2, code: code.slice(index + 2, end) });
        plain = "";
        index = end + 1;
        continue;
      }
      if (open !== close && char === open) depth++;
      else if (char === close && depth-- === 0) {
        closed = true;
        break;
      }
      plain += char;
      index++;
    }
    if (plain !== "" || parts.length === 0) parts.push(plain);
    return { parts: parts.filter((part) => part !== "" || parts.length === 1), end: index, closed };
  }

  private readHeredocs(): void {
    for (const { token, tag, raw, indented } of this.heredocs.splice(0)) {
      const from = this.position;
      const match = new RegExp(`^[ \\t]*${tag}[ \\t\\r]*$`, "m").exec(this.code.slice(from));
      const end = match ? from + match.index : this.code.length;
      // A mark that cannot occur: the content ends where the closing word stands.
      const inner = new Lexer(this.source, this.code.slice(0, end), this.base);
      const { parts } = inner.content(from, "\0", "\0", !raw);
      token.parts = indented ? withoutIndent(parts) : parts;
      token.text = this.code.slice(from, end);
      token.contentStart = this.base + from;
      this.position = match ? end + match[0].length : this.code.length;
      if (!match && this.problems.length === 0)
        this.problems.push(this.source.problem(`the text that ends with ${tag} is not closed`, token.start));
    }
  }

  private mark(): void {
    const { code, position } = this;
    const mark = MARKS.find((candidate) => code.startsWith(candidate, position)) ?? (code[position] as string);
    this.push("mark", position, position + mark.length);
  }
}

/** `<<~`: without the indentation that all lines share. */
function withoutIndent(parts: NonNullable<Token["parts"]>): NonNullable<Token["parts"]> {
  const lines = parts
    .map((part) => (typeof part === "string" ? part : "x"))
    .join("")
    .split("\n");
  const indents = lines.filter((line) => line.trim() !== "").map((line) => /^[ \t]*/.exec(line)?.[0].length ?? 0);
  const shared = Math.min(...indents, 200);
  if (!Number.isFinite(shared) || shared === 0) return parts;
  const cut = new RegExp(`(^|\\n)[ \\t]{1,${shared}}`, "g");
  return parts.map((part, index) =>
    typeof part !== "string"
      ? part
      : part.replace(cut, (whole, before: string, at: number) => (before === "" && (index > 0 || at > 0) ? whole : before)),
  );
}

function endOfInterpolation(code: string, open: number): number {
  let nesting = 0;
  let end = open;
  for (; end < code.length; end++) {
    if (code[end] === "{") nesting++;
    else if (code[end] === "}" && --nesting === 0) break;
  }
  return end;
}

function regexMayStart(previous: Token | undefined, spaced: boolean, following: string | undefined): boolean {
  if (!previous) return true;
  if (previous.kind === "mark") return !/^[)\]}]$/.test(previous.text);
  if (previous.kind === "name" && /^(if|unless|when|and|or|not|return|while|until|elsif|then)$/.test(previous.text)) return true;
  return previous.kind === "name" && spaced && following !== " " && following !== "=";
}

function endOfRegex(code: string, start: number): number {
  let inClass = false;
  for (let index = start + 1; index < code.length; index++) {
    const char = code[index];
    if (char === "\n") return -1;
    if (char === "\\") index++;
    else if (char === "[") inClass = true;
    else if (char === "]") inClass = false;
    else if (char === "/" && !inClass) return index;
  }
  return -1;
}
