import { reason } from "../model/reason.js";
import { known, truthValue, unknown, type KnownValue } from "../model/value.js";
import { formatted } from "./format.js";
import { table, type MethodCall } from "./method.js";
import { plainPattern } from "./patterns.js";
import { MAX_TEXT } from "./run.js";
import { kindOf, toBoolean, toInteger } from "./semantics.js";
import { integerIn, listOf, NOTHING, numberOf, textIn, type Result } from "./values.js";

export type TextMethod = (receiver: KnownValue, call: MethodCall) => Result | undefined;

const asText = ({ fallback, place }: KnownValue, text: string): Result =>
  text.length > MAX_TEXT ? unknown(reason("text-too-long"), place) : { kind: "known", text, place, ...(fallback ? { fallback } : {}) };

const change =
  (work: (text: string, call: MethodCall) => string | undefined): TextMethod =>
  (receiver, call) => {
    const text = work(receiver.text, call);
    return text === undefined ? undefined : asText(receiver, text);
  };

const asks =
  (work: (text: string, other: string) => boolean): TextMethod =>
  (receiver, { args, place }) => {
    const others = args.map(textIn);
    if (others.length === 0 || others.some((other) => other === undefined)) return undefined;
    return truthValue(
      others.some((other) => work(receiver.text, other as string)),
      place,
    );
  };

const number: TextMethod = (receiver, { frame, args, place }) => {
  if (args.length > 0) return undefined;
  const text = toInteger(receiver.text, frame.dialect);
  return text === undefined
    ? unknown(reason("no-whole-number", { text: receiver.text.slice(0, 40) }), place)
    : { ...receiver, text, type: "number" };
};

const decimal: TextMethod = (receiver, { place, frame }) => {
  const text = receiver.text.trim();
  if (!/^-?\d+(\.\d+)?$/.test(text)) return unknown(reason("no-number", { text: text.slice(0, 40) }), place);
  const whole = !text.includes(".") && frame.dialect !== "javascript" && frame.dialect !== "groovy";
  return { ...receiver, text: whole ? `${text}.0` : text, type: "number" };
};

/** First match, or all, of a text or a pattern. */
const replaced =
  (all: boolean, textIsPattern: boolean): TextMethod =>
  (receiver, { args, place }) => {
    const [what, by] = args;
    const to = textIn(by);
    if (!what || to === undefined) return args.length === 2 ? unknown(reason("replacement-missing"), place) : undefined;
    if (what.kind === "known" && !textIsPattern)
      return asText(receiver, all ? receiver.text.split(what.text).join(to) : receiver.text.replace(what.text, () => to));
    const pattern =
      what.kind === "pattern" ? what : what.kind === "known" ? { kind: "pattern" as const, text: what.text, flags: "" } : undefined;
    const compiled = pattern && plainPattern(pattern, receiver.text);
    if (!compiled) return unknown(reason("pattern-not-matched"), place);
    const once = all ? compiled : new RegExp(compiled.source, compiled.flags.replace("g", ""));
    // \1 in Ruby, $1 in the others.
    return asText(receiver, receiver.text.replace(once, to.replace(/\\(\d)/g, "$$$1")));
  };

const split: TextMethod = (receiver, { name, args, place, frame }) => {
  const [by] = args;
  const list = (parts: readonly string[]): Result => listOf(parts.map((part) => known(part, receiver.place)));
  if (!by) return list(receiver.text.trim().split(/\s+/).filter(Boolean));
  if (by.kind === "known" && name === "tokenize") return list(receiver.text.split(new RegExp(`[${escaped(by.text)}]`)).filter(Boolean));
  const most = integerIn(args[1]);
  let parts: string[];
  if (by.kind === "known" && !(frame.dialect === "groovy" && /[\\.|*+?()[\]{}^$]/.test(by.text))) parts = receiver.text.split(by.text);
  else {
    const pattern = by.kind === "pattern" ? by : by.kind === "known" ? { kind: "pattern" as const, text: by.text, flags: "" } : undefined;
    const compiled = pattern && plainPattern(pattern, receiver.text);
    if (!compiled) return unknown(reason("pattern-not-matched"), place);
    // Java: a dot alone is any character, and nothing is left.
    parts = receiver.text.split(compiled);
  }
  if (most !== undefined && most > 0 && parts.length > most && by.kind === "known")
    parts = [...parts.slice(0, most - 1), parts.slice(most - 1).join(by.text)];
  // Java and Ruby leave out what is empty at the end.
  if (frame.dialect === "groovy" || frame.dialect === "ruby") while (parts.length > 0 && parts.at(-1) === "") parts.pop();
  return list(parts);
};

function escaped(text: string): string {
  return text.replace(/[\\\]^-]/g, "\\$&");
}

const part =
  (work: (text: string, a: number, b: number | undefined) => string | undefined): TextMethod =>
  (receiver, { args }) => {
    const a = args.length === 0 ? 0 : integerIn(args[0]);
    const b = args.length < 2 ? undefined : integerIn(args[1]);
    if (a === undefined || (args.length > 1 && b === undefined)) return undefined;
    const text = work(receiver.text, a, b);
    return text === undefined ? NOTHING : asText(receiver, text);
  };

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** From a position counted from the end where it is below 0. */
const at = (text: string, index: number): number => (index < 0 ? text.length + index : index);

const matched: TextMethod = (receiver, { name, args, place }) => {
  const [what] = args;
  const pattern =
    what?.kind === "pattern" ? what : what?.kind === "known" ? { kind: "pattern" as const, text: what.text, flags: "" } : undefined;
  const compiled = pattern && plainPattern(pattern, receiver.text);
  if (!compiled) return unknown(reason("pattern-not-matched"), place);
  const found = compiled.exec(receiver.text);
  if (name === "match?" || name === "matches" || name === "test")
    return truthValue(found !== null && (name !== "matches" || found[0] === receiver.text), place);
  if (!found) return NOTHING;
  return listOf(found.map((text) => (text === undefined ? NOTHING : known(text, receiver.place))));
};

/** Source: the libraries of the languages; one entry for what means the same in all that have it. */
export const TEXT_METHODS = table<TextMethod>({
  "trim strip": change((text, { args }) => (args.length > 0 ? undefined : text.trim())),
  "trimIndent stripIndent": change((text) => {
    const lines = text.split("\n");
    const indents = lines.filter((line) => line.trim() !== "").map((line) => /^[ \t]*/.exec(line)?.[0].length ?? 0);
    const shared = indents.length === 0 ? 0 : Math.min(...indents);
    const cut = lines.map((line) => line.slice(Math.min(shared, line.length)));
    if (cut[0]?.trim() === "") cut.shift();
    if (cut.at(-1)?.trim() === "") cut.pop();
    return cut.join("\n");
  }),
  append: (receiver, { args, store }) => {
    const other = textIn(args[0]);
    if (other === undefined) return undefined;
    const text = asText(receiver, receiver.text + other);
    store(text);
    return text;
  },
  "lstrip trimStart stripLeading": change((text, { args }) => (args.length > 0 ? undefined : text.trimStart())),
  "rstrip trimEnd stripTrailing": change((text, { args }) => (args.length > 0 ? undefined : text.trimEnd())),
  chomp: change((text, { args }) => {
    const ending = args.length === 0 ? undefined : textIn(args[0]);
    if (args.length === 0) return text.replace(/\r?\n$/, "");
    return ending === undefined ? undefined : text.endsWith(ending) ? text.slice(0, text.length - ending.length) : text;
  }),
  chop: change((text) => text.slice(0, -1)),
  "toUpperCase uppercase upcase": change((text) => text.toUpperCase()),
  "toLowerCase lowercase downcase": change((text) => text.toLowerCase()),
  "capitalize replaceFirstChar": change((text, { name, frame }) =>
    name === "replaceFirstChar" ? capital(text) : frame.dialect === "ruby" ? capital(text.toLowerCase()) : capital(text),
  ),
  "decapitalize uncapitalize": change((text) => text.charAt(0).toLowerCase() + text.slice(1)),
  reverse: change((text) => [...text].reverse().join("")),
  "toString to_s to_str name": change((text, { args }) => (args.length > 0 ? undefined : text)),
  "toInteger toInt asInt intValue to_i toLong toBigInteger": number,
  "toIntOrNull toLongOrNull": (receiver, { frame }) => {
    const text = toInteger(receiver.text, frame.dialect);
    return text === undefined ? NOTHING : { ...receiver, text, type: "number" };
  },
  "toFloat toDouble toBigDecimal to_f": decimal,
  "toBoolean toBooleanStrict toBooleanStrictOrNull": (receiver, { frame }) => ({
    ...receiver,
    text: String(receiver.type === "boolean" ? receiver.text === "true" : toBoolean(receiver.text, frame.dialect)),
    type: "boolean",
  }),
  "isEmpty empty?": (receiver, { place }) => truthValue(receiver.text === "", place),
  "isBlank blank? isAllWhitespace isNullOrBlank": (receiver, { place }) => truthValue(receiver.text.trim() === "", place),
  isNullOrEmpty: (receiver, { place }) => truthValue(receiver.text === "", place),
  isNotEmpty: (receiver, { place }) => truthValue(receiver.text !== "", place),
  "isNotBlank present?": (receiver, { place }) => truthValue(receiver.text.trim() !== "", place),
  isInteger: (receiver, { place }) => truthValue(/^-?\d+$/.test(receiver.text.trim()), place),
  "isNumber isBigDecimal": (receiver, { place }) => truthValue(/^-?\d+(\.\d+)?$/.test(receiver.text.trim()), place),
  "length size count": (receiver, { name, args, block, place }) => {
    const other = textIn(args[0]);
    if (name === "count" && other) return numberOf(receiver.text.split(other).length - 1, place);
    return args.length > 0 || block || kindOf(receiver) !== "text" ? undefined : numberOf(receiver.text.length, place);
  },
  "startsWith start_with? hasPrefix": asks((text, other) => text.startsWith(other)),
  "endsWith end_with? hasSuffix": asks((text, other) => text.endsWith(other)),
  "contains include? includes": asks((text, other) => text.includes(other)),
  "equals eql? equal?": asks((text, other) => text === other),
  "equalsIgnoreCase casecmp?": asks((text, other) => text.toLowerCase() === other.toLowerCase()),
  "replace gsub replaceAll replaceFirst sub tr delete": (receiver, call) => {
    const { name, frame, args } = call;
    if (name === "delete")
      return args.length === 1 && textIn(args[0])?.length === 1
        ? replaced(true, false)(receiver, { ...call, args: [...args, known("", call.place)] })
        : undefined;
    if (name === "tr")
      return textIn(args[0])?.length === 1 && textIn(args[1])?.length === 1 ? replaced(true, false)(receiver, call) : undefined;
    const first = name === "sub" || name === "replaceFirst" || (name === "replace" && frame.dialect === "javascript");
    return replaced(!first, frame.dialect === "groovy" && name !== "replace")(receiver, call);
  },
  "removePrefix delete_prefix": change((text, { args }) => {
    const other = textIn(args[0]);
    return other === undefined ? undefined : text.startsWith(other) ? text.slice(other.length) : text;
  }),
  "removeSuffix delete_suffix": change((text, { args }) => {
    const other = textIn(args[0]);
    return other === undefined ? undefined : text.endsWith(other) ? text.slice(0, text.length - other.length) : text;
  }),
  "substringBefore substringAfter substringBeforeLast substringAfterLast": change((text, { name, args }) => {
    const other = textIn(args[0]);
    if (other === undefined) return undefined;
    const index = name.endsWith("Last") ? text.lastIndexOf(other) : text.indexOf(other);
    if (index === -1) return text;
    return name.includes("Before") ? text.slice(0, index) : text.slice(index + other.length);
  }),
  "split tokenize": split,
  "lines readLines each_line": (receiver, { block, rounds, frame }) => {
    // Ruby keeps the line ends.
    const parts = receiver.text.split(frame.dialect === "ruby" ? /(?<=\n)/ : /\r?\n/);
    const items = (parts.at(-1) === "" ? parts.slice(0, -1) : parts).map((line) => known(line, receiver.place));
    if (!block) return listOf(items);
    rounds(
      block,
      items.map((item) => [item]),
    );
    return receiver;
  },
  "chars toList": (receiver) => listOf([...receiver.text].map((char) => known(char, receiver.place))),
  substring: part((text, a, b) => text.slice(a, b)),
  slice: part((text, a, b) => (b === undefined ? text.charAt(at(text, a)) : text.slice(at(text, a), at(text, a) + b))),
  take: part((text, a) => text.slice(0, a)),
  drop: part((text, a) => text.slice(a)),
  takeLast: part((text, a) => text.slice(Math.max(0, text.length - a))),
  dropLast: part((text, a) => text.slice(0, Math.max(0, text.length - a))),
  "charAt getAt": part((text, a) => text.charAt(at(text, a))),
  "indexOf index": (receiver, { args, place, frame }) => {
    const other = textIn(args[0]);
    if (other === undefined) return undefined;
    const found = receiver.text.indexOf(other);
    return found === -1 && frame.dialect === "ruby" ? NOTHING : numberOf(found, place);
  },
  "lastIndexOf rindex": (receiver, { args, place }) => {
    const other = textIn(args[0]);
    return other === undefined ? undefined : numberOf(receiver.text.lastIndexOf(other), place);
  },
  "plus concat": (receiver, { args }) => {
    const other = textIn(args[0]);
    return other === undefined || receiver.type ? undefined : asText(receiver, receiver.text + other);
  },
  minus: (receiver, { args }) => {
    const other = textIn(args[0]);
    return other === undefined || receiver.type
      ? undefined
      : asText(
          receiver,
          receiver.text.replace(other, () => ""),
        );
  },
  "padLeft padStart rjust": change((text, { args }) => {
    const length = integerIn(args[0]);
    return length === undefined || length > 200 ? undefined : text.padStart(length, textIn(args[1]) ?? " ");
  }),
  "padRight padEnd ljust": change((text, { args }) => {
    const length = integerIn(args[0]);
    return length === undefined || length > 200 ? undefined : text.padEnd(length, textIn(args[1]) ?? " ");
  }),
  "match? matches test match": matched,
  format: (receiver, { args, place }) => {
    const values = args.map(textIn);
    const text = values.every((value) => value !== undefined) ? formatted(receiver.text, values) : undefined;
    return text === undefined ? unknown(reason("format-not-worked-out"), place) : asText(receiver, text);
  },
  times: (receiver, { block, rounds, place, name }) => {
    const count = integerIn(receiver);
    if (name !== "times" || count === undefined) return undefined;
    const items = Array.from({ length: Math.min(count, 10_000) }, (_, index) => numberOf(index, place));
    if (!block) return listOf(items);
    rounds(
      block,
      items.map((item) => [item]),
    );
    return receiver;
  },
  "upto downto": (receiver, { args, block, rounds, place, name }) => {
    const [from, to] = [integerIn(receiver), integerIn(args[0])];
    if (from === undefined || to === undefined || Math.abs(from - to) > 10_000) return undefined;
    const count = Math.max(0, (name === "upto" ? to - from : from - to) + 1);
    const items = Array.from({ length: count }, (_, index) => numberOf(name === "upto" ? from + index : from - index, place));
    if (!block) return listOf(items);
    rounds(
      block,
      items.map((item) => [item]),
    );
    return receiver;
  },
  "even? isEven": (receiver, { place }) =>
    integerIn(receiver) === undefined ? undefined : truthValue(Number(receiver.text) % 2 === 0, place),
  "odd? isOdd": (receiver, { place }) =>
    integerIn(receiver) === undefined ? undefined : truthValue(Math.abs(Number(receiver.text) % 2) === 1, place),
  "zero?": (receiver, { place }) => (receiver.type === "number" ? truthValue(Number(receiver.text) === 0, place) : undefined),
  "positive?": (receiver, { place }) => (receiver.type === "number" ? truthValue(Number(receiver.text) > 0, place) : undefined),
  abs: (receiver) => (receiver.type === "number" ? { ...receiver, text: receiver.text.replace(/^-/, "") } : undefined),
  coerceAtLeast: (receiver, { args }) => larger(receiver, args[0], true),
  coerceAtMost: (receiver, { args }) => larger(receiver, args[0], false),
  compareTo: (receiver, { args, place }) => {
    const other = args[0];
    if (receiver.type !== "number" || other?.kind !== "known" || other.type !== "number") return undefined;
    return numberOf(Math.sign(Number(receiver.text) - Number(other.text)), place);
  },
  "ifEmpty ifBlank": (receiver, { block, run, name }) => {
    const nothing = name === "ifEmpty" ? receiver.text === "" : receiver.text.trim() === "";
    return nothing ? (block ? run(block, []) : undefined) : receiver;
  },
  "takeIf takeUnless": (receiver, { name, block, run }) => {
    const holds = block && textIn(run(block, [receiver]));
    if (holds !== "true" && holds !== "false") return undefined;
    return (holds === "true") === (name === "takeIf") ? receiver : NOTHING;
  },
});

function larger(a: KnownValue, b: Result | undefined, most: boolean): Result | undefined {
  if (a.type !== "number" || b?.kind !== "known" || b.type !== "number") return undefined;
  return Number(a.text) >= Number(b.text) === most ? a : b;
}
