import type { CodeFile } from "../../model/code.js";
import { isScript } from "../../syntax/code/languages.js";
import { ADDS, MAKES_LIST } from "./held-values.js";

/** What keeps a function that is not called where it stands: a name that is given it, or the parameter of what it is handed over to. */
export type Keeper =
  | { kind: "name"; name: string; at: number; declared: boolean }
  | { kind: "parameter"; callee: string; label: string | undefined; index: number; at: number };

interface Bracket {
  open: number;
  close: number;
}

const found = new WeakMap<CodeFile, readonly Bracket[]>();

/** The brackets of a file, in the order in which they open. */
function bracketsOf(code: CodeFile): readonly Bracket[] {
  let known = found.get(code);
  if (!known) found.set(code, (known = bracketsIn(code.plain)));
  return known;
}

function bracketsIn(text: string): Bracket[] {
  const brackets: Bracket[] = [];
  const open: Bracket[] = [];
  for (let i = 0; i < text.length; i++) {
    const sign = text[i] as string;
    if (sign === '"' || sign === "'" || sign === "`") {
      for (i++; i < text.length && text[i] !== sign && text[i] !== "\n"; i++) if (text[i] === "\\") i++;
    } else if (sign === "(" || sign === "[" || sign === "{") {
      const bracket = { open: i, close: text.length };
      brackets.push(bracket);
      open.push(bracket);
    } else if (sign === ")" || sign === "]" || sign === "}") {
      const last = open.pop();
      if (last) last.close = i;
    }
  }
  return brackets;
}

/** Words before brackets that belong to a statement. */
const STATEMENT = /\b(?:if|for|foreach|while|switch|when|catch|guard|repeat|synchronized|using|lock|with)\s*$/;

/** What adds to a list that has a name. */
const FILLS = new RegExp(`(?:^|\\b(?:this|self)\\.)(\\w+)[?!]*\\.(?:${ADDS})$`);

/** Functions that hand on what they are given, and call nothing. */
const HANDS_ON = /^(?:freeze|useCallback|markRaw|unmodifiable|bind)$/;

/**
 * What keeps a function that stands at an offset, by its name or as a closure around it; `undefined` where it is called there, or handed over
 * to something that nobody here knows.
 * @param named it stands there by its name, and is not called
 * @param stop the offset at which the function or type around it begins
 */
// eslint-disable-next-line complexity -- one case for each bracket that can stand around it
export function keeperOf(code: CodeFile, at: number, named: boolean, stop: number): Keeper | undefined {
  const { plain } = code;
  const around = bracketsOf(code).filter(({ open, close }) => open >= stop && open < at && close > at);
  let kept = named;
  let start = named ? beginOf(plain, at) : at;
  for (let level = around.length; level >= 0; level--) {
    const arrow = kept ? undefined : arrowBefore(code, start, around[level - 1]);
    if (arrow !== undefined) {
      kept = true;
      start = arrow;
    }
    if (kept) {
      const name = givenTo(code, start, around[level - 1]);
      if (name) return name;
    }
    const bracket = around[level - 1];
    if (!bracket) return undefined;
    const sign = plain[bracket.open] as string;
    if (sign === "{") {
      const closure = closureStart(code, bracket.open);
      if (closure === undefined) {
        if (kept) return undefined;
        start = bracket.open;
        continue;
      }
      kept = !isCalledThere(plain, bracket);
      start = closure.start;
      if (kept && closure.callee !== undefined)
        return { kind: "parameter", callee: closure.callee, label: undefined, index: -1, at: closure.at };
    } else if (!kept) start = beginOf(plain, bracket.open);
    else if (sign === "[") {
      if (/[\w)\]]\s*$/.test(plain.slice(Math.max(0, bracket.open - 3), bracket.open))) return undefined;
      start = bracket.open;
    } else {
      const before = plain.slice(Math.max(0, bracket.open - 200), bracket.open);
      const callee = /((?:[\w$]+\s*(?:\?\.|\.|::)\s*)*[\w$]+)\s*(?:<[\w\s,.?<>]*>)?$/.exec(before)?.[1]?.replace(/\s/g, "");
      if (callee === undefined) {
        start = bracket.open;
        kept = !isCalledThere(plain, bracket);
      } else if (STATEMENT.test(before)) return undefined;
      else {
        const last = callee.split(/\.|::/).at(-1) as string;
        const begin = bracket.open - (before.length - before.lastIndexOf(callee.slice(-last.length)));
        const list = FILLS.exec(callee)?.[1];
        if (list !== undefined) return { kind: "name", name: list, at: begin, declared: false };
        if (!MAKES_LIST.test(last) && !HANDS_ON.test(last))
          return { kind: "parameter", callee, ...placeIn(code, bracket.open, start), at: begin };
        start = bracket.open - (/(?:new\s+)?(?:[\w$]+\s*\.\s*)*[\w$]+\s*(?:<[\w\s,.?<>]*>)?$/.exec(before)?.[0].length ?? 0);
      }
    }
  }
  return undefined;
}

/** Whether what stands in brackets is called where it stands: `{ Maps() }()`. */
function isCalledThere(plain: string, { close }: Bracket): boolean {
  return /^\s*\(/.test(plain.slice(close + 1, close + 20));
}

/** Where the names begin that stand before one: `this.charts::install`. */
function beginOf(plain: string, at: number): number {
  const before = plain.slice(Math.max(0, at - 200), at);
  return at - (/(?:(?:[\w$]+(?:\(\))?[?!]*\s*(?:\.|::)\s*)|::)*$/.exec(before)?.[0].length ?? 0);
}

/** Where a closure begins that is an arrow and an expression, before an offset in brackets. */
function arrowBefore(code: CodeFile, start: number, around: Bracket | undefined): number | undefined {
  const { plain, language } = code;
  if (!around || language === "kotlin" || language === "swift" || language === "objc" || plain[around.open] === "{") return undefined;
  const inner = bracketsOf(code).filter(({ open, close }) => open > around.open && close < start);
  let end = start;
  for (let at = start - 1; at > around.open; at--) {
    const closed = ")]}".includes(plain[at] as string) ? inner.find(({ close }) => close === at) : undefined;
    if (closed) at = closed.open;
    else if (plain[at] === "," || plain[at] === ";") break;
    else if (plain[at] === ">" && /[=-]/.test(plain[at - 1] ?? "")) end = at - 1;
  }
  if (end === start) return undefined;
  const head = /((?:\basync\s*)?(?:\((?:[^()]|\([^()]*\))*\)|[\w$]+)\s*(?::[^={}()]{1,80})?(?:async\*?\s*)?)\s*$/.exec(
    plain.slice(Math.max(around.open + 1, end - 200), end),
  );
  return head ? end - head[0].length : undefined;
}

/** The name that is given what begins at an offset. */
function givenTo({ plain, language }: CodeFile, start: number, around: Bracket | undefined): Keeper | undefined {
  const before = plain.slice(Math.max(around?.open ?? 0, start - 300), start);
  const match =
    /(?:\b(val|var|let|const|final|static|readonly|[A-Z][\w.]*(?:<[^;={}]*>)?\??)\s+|(?<![\w$.])(?:this|self)\s*\.\s*|(?:^|[;{}\n])\s*)([A-Za-z_$][\w$]*)\s*(?:[?!]?\s*:\s*[^=\n;{}]{1,120})?\s*=\s*$/.exec(
      before,
    );
  if (!match) return undefined;
  const name = match[2] as string;
  // An argument by its name.
  if (language === "kotlin" && around && plain[around.open] === "(" && match[1] === undefined) return undefined;
  return { kind: "name", name, at: start - (before.length - before.lastIndexOf(name)), declared: match[1] !== undefined };
}

/** The label and the place of an argument. */
function placeIn(code: CodeFile, open: number, start: number): { label: string | undefined; index: number } {
  const { plain, language } = code;
  const label = (language === "kotlin" ? /[(,]\s*(\w+)\s*=\s*$/ : /[(,]\s*(\w+)\s*:\s*$/).exec(plain.slice(open, start))?.[1];
  let index = 0;
  for (let at = open + 1; at < start; at++) {
    const inner = "([{".includes(plain[at] as string) ? bracketsOf(code).find((bracket) => bracket.open === at) : undefined;
    if (inner) at = inner.close;
    else if (plain[at] === ",") index++;
  }
  return { label, index };
}

/**
 * Where a closure begins whose braces open at an offset, and the call behind which it stands; `undefined` where the braces belong to a statement
 * or a function with a name.
 */
function closureStart(code: CodeFile, open: number): { start: number; callee?: string; at: number } | undefined {
  const { plain, language } = code;
  const before = plain.slice(Math.max(0, open - 300), open);
  if (language === "kotlin" || language === "swift") {
    if (/(?:[=([,:]|\breturn)\s*$/.test(before)) return { start: open, at: open };
    if (/\b(?:else|do|try|defer|finally|init|get|set|willSet|didSet|in)\s*$/.test(before)) return undefined;
    const call = /((?:[\w$]+\s*(?:\?\.|!!\.|\.)\s*)*[a-z_]\w*)\s*(\((?:[^()]|\([^()]*\))*\))?\s?$/.exec(before);
    if (
      !call ||
      /\b(?:fun|func|class|struct|extension|enum|object|interface|protocol|if|for|while|switch|when|guard|catch|->)\b[^\n{};]*$/.test(
        before,
      )
    )
      return undefined;
    const callee = (call[1] as string).replace(/\s/g, "");
    return {
      start: open - call[0].length,
      callee,
      at: open - call[0].length + (call[1] as string).length - (callee.split(".").at(-1)?.length ?? 0),
    };
  }
  const arrow = /((?:\basync\s*)?(?:\((?:[^()]|\([^()]*\))*\)|[\w$]+)\s*(?::[^={}()]{1,80})?)\s*(?:=>|->)\s*$/.exec(before);
  if (arrow) return { start: open - arrow[0].length, at: open };
  const block = isScript(language) ? /\bfunction\s*\((?:[^()]|\([^()]*\))*\)\s*$/.exec(before) : null;
  if (block) return { start: open - block[0].length, at: open };
  const dart = language === "dart" ? /(?:^|[=([,:]|\breturn)\s*(\((?:[^()]|\([^()]*\))*\)\s*(?:async\*?\s*)?)$/.exec(before) : null;
  return dart ? { start: open - (dart[1] as string).length, at: open } : undefined;
}
