import { closing } from "../code/callee.js";
import { Pieces, type ComponentScript } from "./pieces.js";

/** Directives that stand alone on a line, with what they are given. */
const DIRECTIVE =
  /^[ \t]*@(page|using|inject|inherits|implements|layout|namespace|attribute|typeparam|rendermode|preservewhitespace)\b[ \t]*(.*?)[ \t]*;?[ \t]*$/gm;
const CODE_BLOCK = /@(?:code|functions)\s*\{|@(?=\{)/g;
const COMMENT = /@\*[\s\S]*?(?:\*@|$)|<!--[\s\S]*?(?:-->|$)/g;
/** How many expressions of the markup are looked at, and how long one may be. */
const MOST = 2_000;
const LONGEST = 3_000;
/** How far a block in the markup is followed, in characters. */
const FARTHEST = 30_000;

interface Piece {
  from: number;
  to: number;
}

interface Block extends Piece {
  isMember: boolean;
  /** Where its mark stands. */
  start: number;
}

/**
 * A component of Razor as the part of a class that it is compiled to: what it is given as properties, its blocks of code as they are, and its markup as
 * the method that builds it, which evaluates the markup's expressions, hands handlers to events, and shows other components. Source:
 * learn.microsoft.com, "ASP.NET Core Razor components", "Razor syntax reference for ASP.NET Core".
 * @param steps what the framework calls of each component that is shown, in its order
 */
export function codeOfRazor(whole: string, name: string, steps: readonly string[]): ComponentScript {
  const made = new Pieces(whole);
  const text = whole.replace(COMMENT, (comment) => comment.replace(/[^\n]/g, " "));
  const directives = [...text.matchAll(DIRECTIVE)].map((match) => {
    const [all, kind = "", given = ""] = match;
    const from = match.index + all.indexOf(given, all.indexOf(kind) + kind.length);
    return { kind, given, from, start: match.index, end: match.index + all.length };
  });
  const of = (kind: string): typeof directives => directives.filter((one) => one.kind === kind);
  for (const { given, from } of of("using")) {
    made.add("using ");
    made.take(from, from + given.length);
    made.add(";\n");
  }
  for (const { given } of of("namespace")) made.add(`namespace ${given};\n`);
  for (const { given, from } of of("page")) {
    made.add("[Route(");
    made.take(from, from + given.length);
    made.add(")]\n");
  }
  for (const { given } of of("layout")) made.add(`[Layout(typeof(${given}))]\n`);
  const types = of("typeparam").map(({ given }) => given.split(/\s/)[0] ?? "T");
  const above = [of("inherits")[0]?.given ?? "ComponentBase", ...of("implements").map(({ given }) => given)];
  made.add(`public partial class ${name}${types.length > 0 ? `<${types.join(", ")}>` : ""} : ${above.join(", ")}\n{\n`);
  for (const { given, from } of of("inject")) {
    made.add("  [Inject] public ");
    made.take(from, from + given.length);
    made.add(" { get; set; }\n");
  }
  const blocks = blocksOf(text);
  for (const { from, to, isMember } of blocks)
    if (isMember) {
      made.take(from, to);
      made.add("\n");
    }
  made.add("  protected override void BuildRenderTree(RenderTreeBuilder builder)\n  {\n");
  const gone = [
    ...directives.map(({ start, end }) => ({ from: start, to: end })),
    ...blocks.filter(({ isMember }) => isMember).map(({ start, to }) => ({ from: start, to: to + 1 })),
  ];
  writeMarkup(made, blanked(text, gone), name, steps);
  made.add("  }\n}\n");
  return made;
}

/** Blocks of code: members of the class, and statements of its markup. */
function blocksOf(text: string): Block[] {
  const found: Block[] = [];
  CODE_BLOCK.lastIndex = 0;
  for (let match = CODE_BLOCK.exec(text); match; match = CODE_BLOCK.exec(text)) {
    if (text[match.index - 1] === "@") continue;
    const open = text.indexOf("{", match.index);
    const to = closing(text, open);
    found.push({ start: match.index, from: open + 1, to, isMember: /^@[cf]/.test(match[0]) });
    CODE_BLOCK.lastIndex = to;
  }
  return found;
}

function blanked(text: string, gone: readonly Piece[]): string {
  let left = "";
  for (const { from, to } of [...gone].sort((a, b) => a.from - b.from)) {
    if (from < left.length) continue;
    left += text.slice(left.length, from);
    left += text.slice(from, to).replace(/[^\n]/g, " ");
  }
  return left + text.slice(left.length);
}

/** What the markup evaluates, in its order. */
function writeMarkup(made: Pieces, text: string, name: string, steps: readonly string[]): void {
  const found: { at: number; write: () => void }[] = [];
  const taken = new Set<number>();
  const take = (from: number, to: number, before: string, after: string): void => {
    const inside = text.slice(from, to);
    // What stands in a block in a block is met twice.
    if (inside.trim() === "" || inside.length > LONGEST || found.length >= MOST || taken.has(from)) return;
    taken.add(from);
    found.push({
      at: from,
      write: () => {
        made.add(`    ${before}`);
        made.take(from, to);
        made.add(`${after}\n`);
      },
    });
  };
  const shown = new Set([name]);
  for (const match of text.matchAll(/<([A-Z]\w*(?:\.[A-Z]\w*)*)(?=[\s/>])/g)) {
    const type = (match[1] as string).split(".").at(-1) as string;
    // Each once; itself it would show for ever.
    if (shown.has(type)) continue;
    shown.add(type);
    const at = match.index + 1;
    found.push({
      at,
      write: () => {
        for (const step of steps) {
          made.add("    new ");
          made.take(at, at + (match[1] as string).length);
          made.add(`().${step}();\n`);
        }
      },
    });
  }
  // Handlers, which may be written without a mark: `@onclick="Reload"`, `OnValidSubmit="Send"`.
  for (const match of text.matchAll(/\s(?:@on\w+|On[A-Z]\w*|\w+Changed)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
    const value = match[1] ?? match[2] ?? "";
    const from = match.index + match[0].length - 1 - value.length;
    const lead = /^@?\(?/.exec(value)?.[0] ?? "";
    if (lead.endsWith("(") && /^@?\([^()]*\)\s*=>/.test(value))
      take(from + (value.startsWith("@") ? 1 : 0), from + value.length, "OnEvent(", ");");
    else if (lead.endsWith("(")) take(from + lead.length, from + closing(value, lead.length - 1), "OnEvent(", ");");
    else if (/^@?[\w.]+$|=>/.test(value)) take(from + lead.length, from + value.length, "OnEvent(", ");");
  }
  for (const match of text.matchAll(/\s(?:@bind(?:-\w+)?(?::\w+)?|@ref|@key)\s*=\s*"@?([\w.]+)"/g)) {
    const at = match.index + match[0].length - 1 - (match[1] as string).length;
    take(at, at + (match[1] as string).length, "Show(", ");");
  }
  // What is not a text for a component is code without a mark: `Type="typeof(Gate)"`.
  for (const match of text.matchAll(/\s[A-Z]\w*\s*=\s*"((?:typeof\(|new\s)[^"]*)"/g)) {
    const at = match.index + match[0].length - 1 - (match[1] as string).length;
    take(at, at + (match[1] as string).length, "Show(", ");");
  }
  let seen = 0;
  for (const match of text.matchAll(/(?<![\w@.])@(?!on\w+\s*=|bind|ref\b|key\b|@)/g)) {
    if (++seen > MOST) break;
    writeExpression(text.slice(match.index + 1, match.index + 1 + FARTHEST), match.index + 1, take);
  }
  for (const { write } of found.sort((a, b) => a.at - b.at)) write();
}

type Take = (from: number, to: number, before: string, after: string) => void;

/** What stands behind the mark that changes from markup to code; `rest` begins there, `at` in the file. */
function writeExpression(rest: string, at: number, take: Take): void {
  if (rest.startsWith("(")) take(at + 1, at + closing(rest, 0), "Show(", ");");
  else if (rest.startsWith("{")) statements(rest.slice(1, closing(rest, 0)), at + 1, take);
  else if (/^(?:if|foreach|for|while|switch|lock|using|try|do)\b/.test(rest)) writeControl(rest, at, take);
  else writeImplicit(rest, at, take);
}

/** A statement around markup: what it asks for, and the statements in it. */
function writeControl(rest: string, at: number, take: Take): void {
  const [head = "", word = ""] = /^(\w+)\s*/.exec(rest) ?? [];
  let open = head.length;
  if (rest[open] === "(") {
    const end = closing(rest, open);
    const list = word === "foreach" ? (/^[\s\S]*?\bin\b/.exec(rest.slice(open + 1, end))?.[0].length ?? 0) : 0;
    if (word === "for") take(at + open + 1, at + end, "for (", ") { }");
    else take(at + open + 1 + list, at + end, "Show(", ");");
    open = end + 1;
  }
  const body = open + Math.max(0, rest.slice(open).search(/\S/));
  if (rest[body] === "{") statements(rest.slice(body + 1, closing(rest, body)), at + body + 1, take);
}

/** An expression without brackets ends with a blank outside of brackets. */
function writeImplicit(rest: string, at: number, take: Take): void {
  const awaited = /^await\s+/.exec(rest)?.[0].length ?? 0;
  const start = /^[A-Za-z_]\w*/.exec(rest.slice(awaited))?.[0];
  if (start === undefined) return;
  let end = awaited + start.length;
  for (;;) {
    const next = rest[end] as string | undefined;
    if (next === "(" || next === "[") end = closing(rest, end) + 1;
    else {
      const member = /^(?:[?!]?\.[A-Za-z_]\w*|[?!](?=[.[(]))/.exec(rest.slice(end))?.[0];
      if (member === undefined) break;
      end += member.length;
    }
  }
  take(at, at + end, awaited > 0 ? "" : "Show(", awaited > 0 ? ";" : ");");
}

/** Statements among markup: lines that end like one, and are no markup. */
function statements(text: string, from: number, take: Take): void {
  for (const match of text.matchAll(/^[ \t]*(?![<@}{/])(\S[^\n]*;)[ \t]*\r?$/gm)) {
    const line = match[1] as string;
    const at = from + match.index + match[0].indexOf(line);
    if (isWhole(line)) take(at, at + line.length, "", "");
  }
}

function isWhole(line: string): boolean {
  const plain = line.replace(/"(?:\\.|[^"\\])*"/g, "");
  return ["()", "[]", "{}"].every(([open = "", close = ""]) => plain.split(open).length === plain.split(close).length);
}
