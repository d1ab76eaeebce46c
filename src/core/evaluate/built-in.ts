import { reason } from "../model/reason.js";
import { known, unknown } from "../model/value.js";
import { formatted } from "./format.js";
import { structureOf } from "./structure.js";
import type { CallPart } from "./frame.js";
import { asFallback, integerIn, listOf, mapOf, NOTHING, numberOf, textIn, type Result } from "./values.js";

/** Functions that a language brings along, by their names: conversions, lists, maps, the smaller and the larger of two. */
export function builtIn(call: CallPart): Result | undefined {
  const { path } = call;
  if (!path) return undefined;
  const name = path.at(-1) as string;
  const owner = path.length > 1 ? path[0] : undefined;
  // A method of a variable is none of the language's functions.
  if (owner !== undefined && !/^[A-Z]/.test(owner) && !/^(kotlin|java|process)$/.test(owner)) return undefined;
  const plain = owner === undefined || LIBRARIES.test(owner);
  const work = FUNCTIONS.get(owner === undefined ? name : path.join(".")) ?? (plain ? FUNCTIONS.get(name) : undefined);
  if (!work) return undefined;
  return work(
    call,
    call.positional().map(({ result }) => result),
  );
}

const LIBRARIES = /^(Math|Integer|String|Boolean|Long|JavaVersion|JvmTarget|Object|kotlin|java)$/;

type Work = (call: CallPart, args: readonly Result[]) => Result | undefined;

const integer: Work = (_, [value]) => {
  if (!value) return undefined;
  if (value.kind !== "known") return value;
  const text = /^\s*-?\d+\s*$/.exec(value.text)?.[0].trim();
  return text === undefined
    ? unknown(reason("no-whole-number", { text: value.text.slice(0, 40) }), value.place)
    : { ...value, text, type: "number" };
};

const boolean: Work = (_, [value]) =>
  value?.kind === "known" ? { ...value, text: String(value.text.toLowerCase() === "true"), type: "boolean" } : value;

const same: Work = (_, args) => (args.length === 1 ? args[0] : undefined);

const text: Work = (_, [value]) => (value?.kind === "known" ? { kind: "known", text: value.text, place: value.place } : value);

const list: Work = (call, args) => (call.block() ? undefined : listOf(args));

const pairs: Work = (call, args) => {
  const entries: [string, Result][] = [...call.named()].map(([key, { result }]) => [key, result]);
  for (const arg of args) {
    if (arg.kind === "map") entries.push(...arg.entries);
    const key = arg.kind === "list" ? textIn(arg.items[0]) : undefined;
    if (arg.kind === "list" && key !== undefined) entries.push([key, arg.items[1] ?? NOTHING]);
  }
  return mapOf(entries);
};

const extreme =
  (largest: boolean): Work =>
  (_, args) => {
    const [a, b] = args;
    if (args.length !== 2 || a?.kind !== "known" || b?.kind !== "known") return undefined;
    return Number(a.text) >= Number(b.text) === largest ? a : b;
  };

const format: Work = (call, [pattern, ...rest]) => {
  const plain = textIn(pattern);
  const values = rest.map(textIn);
  const made = plain !== undefined && values.every((value) => value !== undefined) ? formatted(plain, values) : undefined;
  return made === undefined ? unknown(reason("format-not-worked-out"), call.place) : known(made, call.place);
};

const nothing: Work = () => NOTHING;

const comparable: Work = (_, [value]) => {
  const version = textIn(value);
  return version === undefined ? value : { kind: "object", name: "Gem::Version", of: version };
};

/** Source: the libraries of the languages. */
const FUNCTIONS = new Map<string, Work>(
  Object.entries<Work>({
    parseInt: integer,
    Integer: integer,
    "Integer.valueOf": integer,
    Number: integer,
    parseBoolean: boolean,
    Boolean: boolean,
    valueOf: same,
    toVersion: same,
    Float: same,
    fromTarget: same,
    JvmTarget: same,
    uri: same,
    URI: same,
    String: text,
    Pathname: text,
    "Pathname.new": text,
    Array: (_, [value]) =>
      value?.kind === "list" ? value : value?.kind === "nothing" ? listOf([]) : value && value.kind !== "unknown" ? listOf([value]) : value,
    listOf: list,
    arrayOf: list,
    setOf: list,
    mutableListOf: list,
    arrayListOf: list,
    mutableSetOf: list,
    linkedSetOf: list,
    emptyList: list,
    listOfNotNull: (call, args) => (call.block() ? undefined : listOf(args.filter(({ kind }) => kind !== "nothing"))),
    buildList: () => undefined,
    Pair: list,
    "Struct.new": (call, args) => {
      const names = args.map(textIn);
      const parameters = names.flatMap((name) => (name === undefined ? [] : [{ name }]));
      return structureOf(parameters, call.frame, call.expr);
    },
    "Hash.new": (call, [otherwise]) => (call.block() ? undefined : { ...mapOf([]), ...(otherwise ? { otherwise } : {}) }),
    "Hash.[]": (call, [value]) => (value?.kind === "list" ? pairs(call, value.items) : value),
    mapOf: pairs,
    mutableMapOf: pairs,
    hashMapOf: pairs,
    linkedMapOf: pairs,
    emptyMap: pairs,
    max: extreme(true),
    min: extreme(false),
    maxOf: extreme(true),
    minOf: extreme(false),
    format,
    sprintf: format,
    "Gem.Version.new": comparable,
    puts: nothing,
    print: nothing,
    println: nothing,
    warn: nothing,
    p: nothing,
    pp: nothing,
    "process.exit": nothing,
    abs: (_, [value]) => (value?.kind === "known" ? { ...value, text: value.text.replace(/^-/, "") } : undefined),
    requireNotNull: same,
    checkNotNull: same,
    "Object.keys": (call, [value]) =>
      value?.kind === "map" ? listOf([...value.entries.keys()].map((key) => known(key, call.place))) : undefined,
    "Object.values": (_, [value]) => (value?.kind === "map" ? listOf([...value.entries.values()]) : undefined),
    "Object.entries": (call, [value]) =>
      value?.kind === "map" ? listOf([...value.entries].map(([key, item]) => listOf([known(key, call.place), item]))) : undefined,
    "Object.assign": (_, args) =>
      args.every((arg) => arg.kind === "map") ? mapOf(args.flatMap((arg) => (arg.kind === "map" ? [...arg.entries] : []))) : undefined,
    "Object.freeze": same,
    "Array.isArray": (call, [value]) =>
      value && value.kind !== "unknown" ? { ...known(String(value.kind === "list"), call.place), type: "boolean" } : undefined,
    Range: (call, [from, to]) => {
      const [a, b] = [integerIn(from), integerIn(to)];
      if (a === undefined || b === undefined || b - a > 1000) return undefined;
      return listOf(Array.from({ length: Math.max(0, b - a + 1) }, (_, index) => numberOf(a + index, call.place)));
    },
    ENV: (call) => unknown(reason("environment"), call.place),
    orElse: (_, [value]) => value && asFallback(value),
  }),
);
