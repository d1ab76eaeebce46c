import type { CodeFile, CodeValue } from "../../model/code.js";
import { closing } from "./callee.js";
import { isScript } from "./languages.js";

/** A value is looked at as far as this many characters go. */
const MOST = 300;

/** Constants with a text, the types that declarations name, and what names stand for. */
export function readNames(file: CodeFile): void {
  const { plain } = file;
  for (const match of plain.matchAll(/\b(\w+)\s*(?::\s*[\w?]+\s*)?=\s*@?(["'])([^"'\n\\]*)\2/g))
    if (!file.constants.has(match[1] as string))
      file.constants.set(match[1] as string, {
        text: match[3] as string,
        from: match.index + match[0].length - (match[3] as string).length - 1,
      });
  readTypes(file);
  readValues(file);
  leaveOpen(file);
}

/** What a name stands for is not known where it is given another value later. */
function leaveOpen({ plain, constants, values }: CodeFile): void {
  for (const match of plain.matchAll(/(?<![\w$.>])(?:(?:this|self)(?:\.|->))?([A-Za-z_$][\w$]*)\s*=(?![=>~])\s*/g)) {
    const name = match[1] as string;
    const constant = constants.get(name);
    const value = values.get(name);
    if (!constant && !value) continue;
    const from = match.index + match[0].length;
    // What is behind a word is declared, and what is in a list an argument by its name, or one that may be left out.
    const before = plain.slice(Math.max(0, match.index - MOST), match.index);
    if (!/(?:^|[;{})]|[^,(\s]\s*\n)\s*$/.test(before)) continue;
    const text = plain.slice(from, endOfValue(plain, from)).trim().replace(WORDS, "");
    if (value && value.text !== text) values.set(name, null);
    if (constant && text.replace(/^@/, "").slice(1, -1) !== constant.text) constants.delete(name);
  }
}

/** Types that hold others: what goes through them is of another type. */
const HOLDS_OTHERS =
  /^(?:\w*(?:List|Set|Map|Array|Collection|Iterable|Sequence|Queue|Stream|Flow|Observable|Optional|Promise)|Record|Pair|Result)$/;

/** Variables, properties and parameters, with the type that their declaration or first value names. */
function readTypes({ plain, variables, language }: CodeFile): void {
  const several = new Set<string>();
  const add = (name: string | undefined, type: string | undefined): void => {
    if (name === undefined || type === undefined || HOLDS_OTHERS.test(type)) return;
    const known = variables.get(name);
    if (known !== undefined && known !== type) several.add(name);
    variables.set(name, type);
  };
  for (const [, name, declared, made] of plain.matchAll(
    /\b(?:val|var|let|const|final)\s+(\w+)\s*(?::\s*(?:any\s+|some\s+)?([A-Z][\w.]*)[^=\n]{0,80})?(?:=\s*(?:await\s+|new\s+|try\s+)?([A-Z][\w.]*))?/g,
  ))
    add(name, declared ?? made);
  for (const [, type, name] of plain.matchAll(/(?:^|[\s(;{])([A-Z]\w*)(?:\s+|\s*\*\s*)(\w+)\s*=(?!=)/g)) add(name, type);
  for (const [, name, type] of plain.matchAll(/\bthis\.(\w+)\s*=\s*(?:await\s+)?new\s+([A-Z][\w.]*)/g)) add(name, type);
  // What holds one that is made when it is asked for.
  for (const [, type, name] of plain.matchAll(/\b(?:Lazy|Provider|ThreadLocal|WeakReference|Task|Future)<([A-Z]\w*)>\s+(\w+)/g))
    variables.set(name as string, type as string);
  // Parameters, and fields without a value.
  if (language === "kotlin" || language === "swift" || isScript(language))
    for (const [, name, type] of plain.matchAll(
      /[(,]\s*(?:(?:private|public|internal|readonly|override|val|var)\s+)*(?:\w+\s+)?(\w+)\s*:\s*(?:any\s+|some\s+)?([A-Z]\w*)(?!\w|\s*[.(])/g,
    ))
      add(name, type);
  else
    for (const [, type, name] of plain.matchAll(/(?:^|[(,;{}\s])([A-Z]\w*)(?:<[\w<>, ?]*>)?\s*[*?]?\s+\*?(_?[a-z]\w*)\s*[,);]/g))
      add(name, type);
  // Properties of C#, whatever gives and takes them.
  if (language === "csharp")
    for (const [, type, name] of plain.matchAll(
      /\b([A-Z]\w*)\??\s+(?:\w+\.)?([A-Z]\w*)\s*\{\s*(?:(?:private|protected|internal)\s+)*(?:get|set|init)\b/g,
    ))
      add(name, type);
  // Who a name means in a file with several of it nobody says.
  for (const name of several) variables.delete(name);
}

/** Words that a value can begin with and that say nothing of it. */
const WORDS = /^(?:(?:await|new|try[!?]?|return|const)\s+)+/;

function readValues(file: CodeFile): void {
  const { plain, values } = file;
  const add = (name: string, from: number, to: number, more: Pick<CodeValue, "lazy" | "element"> = {}): void => {
    const written = plain.slice(from, to).trim();
    const text = written.replace(WORDS, "");
    if (text === "" || name === "it") return;
    const known = values.get(name);
    if (known === null || (known && known.text !== text)) values.set(name, null);
    else values.set(name, { text, from: plain.indexOf(text, from), to, ...more });
  };
  // `val a = …`, `private lazy var a: A = …`, `static const a = …`, `final A a = …`, `A a = …`, `A a => …`, `A get a => …`
  for (const match of plain.matchAll(
    /\b(lazy\s+)?(?:val|var|let|const|final|readonly|static|private|late|get|string|bool|int|dynamic|NSString\s*\*|[A-Z][\w<>?[\], ]*)\s*(?<=[\s*])(\w+)\s*(?:[?!]?\s*:\s*[^=\n{}]{1,80}?|\{\s*get;[^}\n]*\})?\s*(=>|=(?!=)|by\s+lazy\b[^{\n]{0,60}\{)/g,
  )) {
    const [whole, lazy, name, sign] = match as unknown as [string, string | undefined, string, string];
    const from = match.index + whole.length;
    // An arm of a switch in C#: `MapService m => Run(m)`.
    if (sign === "=>" && /(?:,|\bswitch\s*\{)\s*$/.test(plain.slice(Math.max(0, match.index - 200), match.index))) continue;
    if (sign.startsWith("by")) add(name, from, closing(plain, from - 1), { lazy: true });
    else {
      // Source: dart.dev, "Late variables" (one with an initializer is made when it is first used).
      const late =
        file.language === "dart" &&
        sign === "=" &&
        /\blate\s+(?:final\s+)?[\w<>?]*\s*$/.test(plain.slice(Math.max(0, match.index - 40), match.index + whole.lastIndexOf(name)));
      add(name, from, endOfValue(plain, from), lazy === undefined && !late ? {} : { lazy: true });
    }
  }
  // A property of Kotlin with a getter that is one expression.
  for (const match of plain.matchAll(/\b(?:val|var)\s+(\w+)\s*(?::[^=\n]{1,60})?\s*\n?\s*get\(\)\s*=/g)) {
    const from = match.index + match[0].length;
    add(match[1] as string, from, endOfValue(plain, from));
  }
  // What goes through a list, or stands for what a closure is given.
  for (const match of plain.matchAll(/\b(?:for|foreach)\s*\(?\s*(?:const|let|var|final|[A-Z]\w*)?\s*(\w+)\s+(?:in|of)\s+([\w.]+)/g))
    add(match[1] as string, match.index + match[0].length - (match[2] as string).length, match.index + match[0].length, { element: true });
  for (const match of plain.matchAll(
    /([\w.]+)\??\.(forEach|map|compactMap|onEach|ForEach|let|also|filter)\s*[({]+\s*\(?\s*(?:final\s+|var\s+)?(\w+)\s*\)?\s*(?:->|=>|in\b)/g,
  ))
    add(
      match[3] as string,
      match.index,
      match.index + (match[1] as string).length,
      /^(let|also)$/.test(match[2] as string) ? {} : { element: true },
    );
  // Functions and computed properties that only give something back.
  addGiven(file, plain, add);
}

/** Functions and computed properties that only give something back. */
function addGiven(
  file: CodeFile,
  plain: string,
  add: (name: string, from: number, to: number, more?: Pick<CodeValue, "lazy" | "element">) => void,
): void {
  for (const { name, from, to } of file.functions) {
    if (name === "" || to - from > 400) continue;
    const open = plain.indexOf("{", from);
    const body = open === -1 || open >= to ? undefined : plain.slice(open + 1, to - 1);
    if (body === undefined) {
      const arrow = /^[^={]*?(?:=>|=)\s*(?=[^\s=])/.exec(plain.slice(from, to))?.[0];
      if (arrow !== undefined) add(name, from + arrow.length, endOfValue(plain, from + arrow.length));
      continue;
    }
    const single = /^\s*(?:return\s+)?([^\s;{}][^;\n{}]*)[;\s]*$/.exec(body);
    if (single && !/^(?:if|for|while|guard|switch|throw|let|var|val|const)\b/.test(single[1] as string)) {
      const at = open + 1 + body.indexOf(single[1] as string);
      add(name, at, at + (single[1] as string).length);
    }
  }
}

/** Where a value that begins at an offset ends: with its line, a comma or a bracket that is not its own. */
export function endOfValue(plain: string, from: number): number {
  let at = from;
  while (/\s/.test(plain[at] ?? "")) at++;
  for (const end = at + MOST; at < Math.min(end, plain.length); at++) {
    const sign = plain[at] as string;
    if (sign === "(" || sign === "[" || sign === "{") at = closing(plain, at);
    else if (/[;,)\]}]/.test(sign)) return at;
    else if (sign === "\n" && !/^\s*(?:\?\.|\.|\?\?|\?:|\|\||as\b)/.test(plain.slice(at, at + 80))) return at;
    else if (sign === '"' || sign === "'" || sign === "`")
      for (at++; at < plain.length && plain[at] !== sign && plain[at] !== "\n"; at++) if (plain[at] === "\\") at++;
  }
  return Math.min(at, plain.length);
}
