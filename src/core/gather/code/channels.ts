import { distance } from "fastest-levenshtein";
import type { BridgeFact } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { inComment, type SourceFile } from "./sources.js";

/** Dart and the native languages, whose constants see each other. */
type Family = "dart" | "jvm" | "apple";
const FAMILY: Partial<Record<SourceFile["language"], Family>> = {
  dart: "dart",
  kotlin: "jvm",
  java: "jvm",
  swift: "apple",
  objc: "apple",
};

/** How far a misspelt name is from the one that is meant, in letters. */
const NEAR = 2;
const DEEPEST = 6;

/** A channel that a file makes. */
interface Channel {
  source: SourceFile;
  name: string | undefined;
  offset: number;
}

/**
 * Channels between Dart and native code: the names that are asked for and offered, worked out through constants of other files, and the
 * methods of each. What cannot be worked out is offered under no name, so that nothing is said to be missing on its side.
 * Source: docs.flutter.dev, "Writing custom platform-specific code".
 */
export function readChannels(
  sources: readonly SourceFile[],
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): BridgeFact[] {
  const relevant = sources.filter(({ language, text }) => FAMILY[language] !== undefined && /Channel/.test(text));
  if (relevant.length === 0) return [];
  const constants = new Constants(sources);
  const made = relevant.flatMap((source) => channelsIn(source, constants));
  const facts: BridgeFact[] = made.map(({ source, name, offset }) => ({
    kind: "method channel",
    name: name ?? "",
    role: source.language === "dart" ? "asked" : "offered",
    side: source.language === "dart" ? "shared" : source.side,
    guards: guardsAt(source, offset),
    at: source.place(offset),
  }));
  const asked = new Set(facts.flatMap(({ role, name }) => (role === "asked" ? name : [])));
  const unasked = [...new Set(facts.flatMap(({ role, name }) => (role === "offered" && name !== "" && !asked.has(name) ? name : [])))];
  for (const fact of facts)
    if (fact.role === "asked" && fact.name !== "" && !facts.some(({ role, name }) => role === "offered" && name === fact.name)) {
      const near = nearest(fact.name, unasked);
      if (near !== undefined) fact.near = near;
    }
  return [...facts.filter(({ role, name }) => role === "offered" || name !== ""), ...methodsOf(made, constants, guardsAt)];
}

function channelsIn(source: SourceFile, constants: Constants): Channel[] {
  const { text, language } = source;
  const found: Channel[] = [];
  const add = (expression: string | undefined, offset: number): void => {
    if (expression !== undefined && !inComment(text, offset)) found.push({ source, name: constants.textOf(expression, source), offset });
  };
  if (language === "objc") {
    for (const match of text.matchAll(/\b(?:method|event|message)\w*WithName:\s*([\s\S]{1,300}?)\s*binaryMessenger:/g))
      add(match[1], match.index);
    return found;
  }
  const form =
    language === "swift"
      ? /\bFlutter(?:Method|Event|BasicMessage)Channel\s*\(/g
      : /\b(?:Optional)?(?:Method|Event|BasicMessage)Channel\s*(?:<[^()]{0,80}?>)?\(/g;
  for (const match of text.matchAll(form)) {
    const list = argumentsAt(text, match.index + match[0].length - 1);
    if (language === "dart") add(list[0], match.index);
    else if (language === "swift") add(list.find((part) => /^name\s*:/.test(part))?.replace(/^name\s*:\s*/, ""), match.index);
    // The messenger comes first; a parameter of that type in a declaration has no second argument.
    else if (list.length > 1) add(list[1]?.replace(/^name\s*=\s*/, ""), match.index);
  }
  return found;
}

/** The methods that Dart calls on a channel, and those that each side's file with the channel names. */
function methodsOf(
  made: readonly Channel[],
  constants: Constants,
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): BridgeFact[] {
  const facts: BridgeFact[] = [];
  const byFile = new Map<SourceFile, Channel[]>();
  for (const channel of made) byFile.set(channel.source, [...(byFile.get(channel.source) ?? []), channel]);
  const handlers = new Map<string, Map<SideName, SourceFile[]>>();
  for (const { source, name } of made) {
    if (source.language === "dart" || name === undefined || byFile.get(source)?.length !== 1) continue;
    const sides = handlers.get(name) ?? new Map<SideName, SourceFile[]>();
    handlers.set(name, sides.set(source.side, [...(sides.get(source.side) ?? []), source]));
  }
  for (const [source, channels] of byFile) {
    const [channel] = channels;
    if (source.language !== "dart" || channels.length !== 1 || channel?.name === undefined) continue;
    const sides = handlers.get(channel.name);
    // A side without the channel is told as that.
    if (!sides || sides.size < 2) continue;
    const calls: { method: string; offset: number }[] = [];
    for (const match of source.text.matchAll(/\binvoke(?:List|Map)?Method\s*(?:<[^();]{0,80}>)?\s*\(/g)) {
      const method = constants.textOf(argumentsAt(source.text, match.index + match[0].length - 1)[0] ?? "", source);
      if (method !== undefined && !inComment(source.text, match.index)) calls.push({ method, offset: match.index });
    }
    const asked = new Set(calls.map(({ method }) => method));
    const handled = new Map<SideName, Set<string> | undefined>();
    for (const [side, files] of sides) handled.set(side, handledIn(files, asked));
    for (const { method, offset } of calls) {
      const name = `${method} of ${channel.name}`;
      const fact: BridgeFact = {
        kind: "channel method",
        name,
        role: "asked",
        side: "shared",
        guards: guardsAt(source, offset),
        at: source.place(offset),
      };
      const all = [...handled];
      if (all.length > 1 && all.every(([, methods]) => methods !== undefined && !methods.has(method))) {
        const [first] = all;
        fact.near =
          nearest(
            method,
            [...(first?.[1] ?? [])].filter((other) => !asked.has(other)),
          ) ?? "";
      }
      facts.push(fact);
      for (const [side, methods] of all) {
        const file = sides.get(side)?.[0];
        if (file && (methods === undefined || methods.has(method)))
          facts.push({
            kind: "channel method",
            name,
            role: "offered",
            side,
            guards: [],
            at: file.place(Math.max(0, file.text.indexOf(method))),
          });
      }
    }
  }
  return facts;
}

/** The names that the files with a channel compare a call's method with; `undefined` where they hand the calls on to something else. */
function handledIn(files: readonly SourceFile[], asked: ReadonlySet<string>): Set<string> | undefined {
  const found = new Set<string>();
  for (const { text } of files)
    for (const match of text.matchAll(/"((?:[^"\\\n]|\\.)*)"/g)) {
      const literal = match[1] as string;
      const around = text.slice(Math.max(0, match.index - 40), match.index + match[0].length + 6);
      if (asked.has(literal) || /\bmethod\b|\bcase\s*@?"|->|isEqualToString:/.test(around)) found.add(literal);
    }
  return [...asked].some((method) => found.has(method)) || (found.size > 0 && files.some(({ text }) => /\.method\b/.test(text)))
    ? found
    : undefined;
}

function nearest(name: string, others: readonly string[]): string | undefined {
  return others.find((other) => Math.abs(other.length - name.length) <= NEAR && distance(name, other) <= NEAR);
}

/** The arguments of the call whose bracket opens at `open`. */
function argumentsAt(text: string, open: number): string[] {
  const found: string[] = [];
  let depth = 0;
  let start = open + 1;
  for (let index = open; index < Math.min(text.length, open + 2_000); index++) {
    const character = text[index] as string;
    if (character === '"' || character === "'") {
      for (index++; index < text.length && text[index] !== character && text[index] !== "\n"; index++) if (text[index] === "\\") index++;
    } else if ("([{".includes(character)) depth++;
    else if (")]}".includes(character)) {
      if (--depth > 0) continue;
      const last = text.slice(start, index).trim();
      return last === "" ? found : [...found, last];
    } else if (character === "," && depth === 1) {
      found.push(text.slice(start, index).trim());
      start = index + 1;
    }
  }
  return found;
}

const CONSTANT =
  /(?:\b(?:const|final|static|let|val|var|String)\b|NSString\s*\*)[^=\n;{}]{0,120}?\b(\w+)\s*(?::[^=\n]{1,60})?=\s*@?(?:"((?:[^"\\\n]|\\.)*)"|'((?:[^'\\\n]|\\.)*)')|#\s*define\s+(\w+)\s+@?"((?:[^"\\\n]|\\.)*)"/g;

/** Constants of texts of all files, by their names. */
class Constants {
  private readonly found = new Map<string, { text: string; file: string }[]>();

  constructor(sources: readonly SourceFile[]) {
    for (const { language, text, file } of sources) {
      const family = FAMILY[language];
      if (family === undefined) continue;
      for (const match of text.matchAll(CONSTANT)) {
        const key = `${family} ${match[1] ?? match[4] ?? ""}`;
        const list = this.found.get(key) ?? [];
        list.push({ text: match[2] ?? match[3] ?? match[5] ?? "", file });
        this.found.set(key, list);
      }
    }
  }

  /** What an expression is: a text, with what is put into it, or a constant; `undefined` where that cannot be made out. */
  textOf(expression: string, source: SourceFile, depth = 0): string | undefined {
    if (depth > DEEPEST) return undefined;
    const plain = expression.trim().replace(/^@/, "");
    const literal = /^(["'])((?:(?!\1)[^\\\n]|\\.)*)\1$/.exec(plain);
    if (literal) return this.filled(literal[2] as string, source, depth);
    if (!/^[\w.]+$/.test(plain)) return undefined;
    const list = this.found.get(`${FAMILY[source.language] ?? ""} ${plain.split(".").at(-1) ?? ""}`) ?? [];
    const own = list.filter(({ file }) => file === source.file);
    const texts = new Set((own.length > 0 ? own : list).map(({ text }) => text));
    const [text] = texts;
    return texts.size === 1 && text !== undefined ? this.filled(text, source, depth + 1) : undefined;
  }

  private filled(text: string, source: SourceFile, depth: number): string | undefined {
    const put =
      source.language === "swift"
        ? /\\\(([\w.]+)\)/g
        : source.language === "dart" || source.language === "kotlin"
          ? /\$\{([\w.]+)\}|\$(\w+)/g
          : undefined;
    if (!put) return text;
    let open = false;
    const filled = text.replace(put, (_, a: string | undefined, b: string | undefined) => {
      const inner = this.textOf(a ?? b ?? "", source, depth + 1);
      if (inner === undefined) open = true;
      return inner ?? "";
    });
    return open || (source.language !== "objc" && /\$\{|\\\(/.test(filled)) ? undefined : filled;
  }
}
