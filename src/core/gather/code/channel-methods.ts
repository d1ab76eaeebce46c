import type { ModuleHalf } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { argumentsAt, type Channel } from "./channel.js";
import { escaped } from "./mentions.js";
import { inComment, type SourceFile } from "./sources.js";

/** Works out the text that an expression is, at a place of a file; `undefined` where that cannot be made out. */
type TextOf = (expression: string, source: SourceFile, at: number) => string | undefined;

/** What Dart hands to a method of a channel: the keys of its maps; `undefined` where a call hands over something that is worked out. */
interface Asked {
  keys: Set<string> | undefined;
  /** Whether the call's answer is waited for or handed on. */
  waits: boolean;
}

/**
 * Methods of channels whose native code never answers, or reads a value by a key that no call of Dart hands over. Sources: docs.flutter.dev, "Writing custom
 * platform-specific code"; api.flutter.dev, `MethodChannel.invokeMethod` (the future ends with the answer).
 */
export function channelHalves(made: readonly Channel[], textOf: TextOf): ModuleHalf[] {
  const channels = made.filter(({ kind, name }) => kind === "method channel" && name !== undefined);
  const alone = (channel: Channel): boolean => !made.some((other) => other !== channel && other.source === channel.source);
  return [...new Set(channels.map(({ name }) => name as string))].flatMap((name) => {
    const own = channels.filter((channel) => channel.name === name);
    const asking = own.filter(({ source }) => source.language === "dart");
    if (asking.length === 0 || !own.every(alone)) return [];
    const asked = callsIn(asking, textOf);
    return own.filter(({ source }) => source.language !== "dart").flatMap((channel) => ofNative(channel.source, asked));
  });
}

function callsIn(asking: readonly Channel[], textOf: TextOf): Map<string, Asked> {
  const asked = new Map<string, Asked>();
  for (const { source } of asking)
    for (const match of source.text.matchAll(/\binvoke(?:List|Map)?Method\s*(?:<[^();]{0,80}>)?\s*\(/g)) {
      if (inComment(source.text, match.index)) continue;
      const { parts, end } = argumentsAt(source.text, match.index + match[0].length - 1);
      const method = textOf(parts[0] ?? "", source, match.index);
      if (method === undefined) continue;
      const keys = parts[1] === undefined || parts[1] === "" ? new Set<string>() : keysOf(parts[1]);
      const before = asked.get(method);
      const waits =
        /\b(?:await|return)\b[^;{}]*$|=>[^;{}]*$/.test(source.text.slice(Math.max(0, match.index - 120), match.index)) ||
        /^\s*\.\s*then\b/.test(source.text.slice(end, end + 20));
      asked.set(method, {
        keys: before ? before.keys && keys && new Set([...before.keys, ...keys]) : keys,
        waits: waits || before?.waits === true,
      });
    }
  return asked;
}

/** The keys of a map that is written out. */
function keysOf(expression: string): Set<string> | undefined {
  const inner = /^(?:const\s+)?(?:<[^{}]*>\s*)?\{([^]*)\}$/.exec(expression.trim())?.[1];
  if (inner === undefined || /\.\.\.|\bif\s*\(|\bfor\s*\(/.test(inner)) return undefined;
  const keys = [...inner.matchAll(/(?:^|[,{])\s*(["'])(\w+)\1\s*:/g)].map((match) => match[2] as string);
  const others = [...inner.matchAll(/(?:^|,)\s*[A-Za-z_][\w.]*\s*:/g)];
  return others.length > 0 ? undefined : new Set(keys);
}

function ofNative(source: SourceFile, asked: ReadonlyMap<string, Asked>): ModuleHalf[] {
  const text = withoutComments(source.text);
  const answer = answerOf(text);
  const reads = readsOf(text);
  // What is put away first may be answered by from anywhere.
  const isKept =
    answer !== undefined &&
    new RegExp(`[\\w\\])?]\\s*=\\s*${answer}\\b(?!\\s*[.(])|\\b(?:add|append|put|offer)\\w*\\s*\\([^()]*\\b${answer}\\b`).test(text);
  return [...asked].flatMap(([method, { keys, waits }]): ModuleHalf[] => {
    const branch = branchOf(text, method);
    if (!branch) return [];
    const { body, at } = branch;
    const half = (what: ModuleHalf["what"], near?: string): ModuleHalf => ({
      what,
      side: source.side,
      name: method,
      near,
      at: source.place(at),
    });
    if (waits && answer !== undefined && !isKept && !branch.isValue && neverAnswers(body, answer)) return [half("no answer")];
    // Who is handed the call or all that it brings may read the rest.
    if (!keys || keys.size === 0 || HANDED_ON.test(body)) return [];
    const read = new Set([...body.matchAll(reads)].map((match) => match.slice(1).find((key) => key !== undefined) as string));
    const lost = [...read].filter((key) => !keys.has(key));
    const unread = [...keys].filter((key) => !read.has(key) && !new RegExp(`["']${key}["']`).test(body));
    return lost.length > 0 && unread.length >= lost.length ? [half("option", `${lost[0] ?? ""} ${unread[0] ?? ""}`)] : [];
  });
}

/** How native code reads one of the values that it is handed: by the call, or by a variable that holds them all. */
function readsOf(text: string): RegExp {
  const held = [...text.matchAll(/\b(\w+)\s*(?::[^=\n]{1,60})?=\s*[^\n;]{0,80}\barguments\b/g)].map(([, name]) => name as string);
  const variables = [...new Set(["arguments", ...held])].join("|");
  return new RegExp(
    `\\bargument\\s*(?:<[^()"]*>)?\\s*\\(\\s*"(\\w+)"|\\b(?:${variables})\\s*[?!]*\\s*(?:\\.\\s*get\\s*\\(|\\[)\\s*@?"(\\w+)"|\\barguments\\b[^;\\n]{0,60}\\)\\s*[?!]?\\s*\\[\\s*"(\\w+)"`,
    "g",
  );
}

/** The call, or all values of it, as an argument of something. */
const HANDED_ON = /[(,:]\s*(?:call|(?:call\s*\.\s*)?\w*[aA]rg(?:ument)?s)\s*[!?]*\s*[,)]/;

/** What the handler calls the function or object that it answers by. */
function answerOf(text: string): string | undefined {
  const names = [
    ...text.matchAll(
      /\b(\w+)\s*:\s*(?:@escaping\s+)?(?:MethodChannel\s*\.\s*Result|FlutterResult|Result)\b|\b(?:MethodChannel\s*\.\s*)?Result\s+(\w+)\s*[,)]|\bFlutterResult\s*\)?\s*(\w+)|\{\s*(?:\[[^\]]*\]\s*)?\(?\s*\w+(?:\s*:\s*[\w.]+)?\s*,\s*(\w+)(?:\s*:\s*[^()\n]{1,60})?\)?\s*(?:->|(?:->\s*\w+\s*)?in\b)|\(\s*\w+\s*,\s*(\w+)\s*\)\s*->/g,
    ),
  ].map((match) => match.slice(1).find((one) => one !== undefined) as string);
  const [first] = names;
  return first !== undefined && names.every((name) => name === first) ? first : undefined;
}

/** Whether what a branch does neither names what it could answer by nor leaves the function by an error. */
function neverAnswers(body: string, answer: string): boolean {
  return body.trim() !== "" && !new RegExp(`\\b${answer}\\b|\\b(?:throw|fatalError|TODO|error)\\b`).test(body);
}

/** What native code does for a method, where it tells methods apart in one place. */
function branchOf(text: string, method: string): { body: string; at: number; isValue: boolean } | undefined {
  const found = [...text.matchAll(new RegExp(`@?"${escaped(method)}"`, "g"))];
  const [match] = found;
  if (!match || found.length > 1) return undefined;
  const { index: at } = match;
  const rest = text.slice(at + match[0].length);
  const start = at + match[0].length;
  const arrow = /^(?:\s*,\s*"\w+")*\s*->\s*/.exec(rest);
  if (arrow) {
    const open = start + arrow[0].length;
    const lineEnd = /\n\s*(?=["}]|else\b|default\b|case\b)/.exec(text.slice(open));
    const end = text[open] === "{" ? closing(text, open) + 1 : open + (lineEnd?.index ?? text.length - open);
    return { body: text.slice(open, end), at, isValue: isValue(text, at) };
  }
  const colon = /^(?:\s*,\s*"\w+")*\s*:/.exec(rest);
  if (colon && /\bcase\s+[^:\n]*$/.test(text.slice(Math.max(0, at - 80), at))) {
    const open = start + colon[0].length;
    return { body: text.slice(open, endOfCase(text, open)), at, isValue: isValue(text, at) };
  }
  const then = /^\s*\]?\s*\)\s*(?=\{)/.exec(rest);
  if (then && /\bif\s*\(?[^{};\n]*$/.test(text.slice(Math.max(0, at - 120), at))) {
    const open = start + then[0].length;
    const end = closing(text, open) + 1;
    // What stands behind all the branches answers for each.
    return { body: text.slice(open, end), at, isValue: !/^\s*(?:else\b|\}|return\b|if\b|$)/.test(text.slice(end, end + 60)) };
  }
  return undefined;
}

/** Where the branch of a `case` ends: at the next one, or with the block. */
function endOfCase(text: string, open: number): number {
  for (let index = open; index < text.length; index++) {
    const character = text[index] as string;
    if ("([{".includes(character)) index = closing(text, index);
    else if (character === '"') index += /^"(?:[^"\\\n]|\\.)*/.exec(text.slice(index, index + 2_000))?.[0].length ?? 0;
    else if (character === "}") return index;
    else if (/^\s(?:case\b|default\b)/.test(text.slice(index, index + 9))) return index;
  }
  return text.length;
}

/** Whether what tells methods apart is a value, or more stands behind it in its function: something else answers then. */
function isValue(text: string, at: number): boolean {
  const heads = [...text.slice(0, at).matchAll(/\b(?:when|switch)\b[^{}\n]*\{/g)];
  const head = heads.findLast((one) => closing(text, one.index + one[0].length - 1) > at);
  if (!head) return true;
  const before = text.slice(text.lastIndexOf("\n", head.index) + 1, head.index);
  const behind = text.slice(closing(text, head.index + head[0].length - 1) + 1).trimStart();
  return /[=(]\s*$|\breturn\b/.test(before) || !behind.startsWith("}");
}
