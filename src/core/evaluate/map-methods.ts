import { reason } from "../model/reason.js";
import { known, truthValue, unknown } from "../model/value.js";
import { table, type MethodCall } from "./method.js";
import { OPEN, truth } from "./operators.js";
import { asFallback, listOf, mapOf, NOTHING, numberOf, textIn, type MapResult, type Result } from "./values.js";

export type MapMethod = (receiver: MapResult, call: MethodCall) => Result | undefined;

const keyOf = (key: string, { place }: MethodCall): Result => known(key, place);

/** Entries as pairs of key and value. */
export function pairsOf(map: MapResult, place: MethodCall["place"]): Result[] {
  return [...map.entries].map(([key, value]) => listOf([known(key, place), value]));
}

const got: MapMethod = (receiver, { name, args, block, run, place }) => {
  const key = args[0] === undefined ? undefined : textIn(args[0]);
  if (args.length === 0) return undefined;
  if (key === undefined) return unknown(reason("key-missing"), place);
  const value = receiver.entries.get(key);
  if (name === "dig" && args.length > 1) {
    let at: Result | undefined = value;
    for (const step of args.slice(1)) {
      const text = textIn(step);
      at =
        at?.kind === "map" && text !== undefined
          ? at.entries.get(text)
          : at?.kind === "list" && text !== undefined
            ? at.items.at(Number(text))
            : undefined;
    }
    return at ?? NOTHING;
  }
  if (value) return value;
  if (block) return asFallback(run(block, [keyOf(key, { place } as MethodCall)]));
  return args[1] ? asFallback(args[1]) : NOTHING;
};

const chosen =
  (wanted: boolean): MapMethod =>
  (receiver, call) => {
    const { block, run, frame, place } = call;
    if (!block) return undefined;
    const kept: [string, Result][] = [];
    for (const [key, value] of receiver.entries) {
      const verdict = truth(run(block, pairArgs(block.parameters.length, key, value, call)), frame.dialect);
      if (verdict === undefined) return unknown(OPEN, place);
      if (verdict === wanted) kept.push([key, value]);
    }
    return mapOf(kept);
  };

/** A closure with one parameter gets the entry, one with two its key and its value. */
function pairArgs(parameters: number, key: string, value: Result, call: MethodCall): readonly Result[] {
  const pair = [keyOf(key, call), value];
  return parameters > 1 ? pair : [listOf(pair)];
}

const each: MapMethod = (receiver, call) => {
  const { block } = call;
  if (!block) return undefined;
  call.rounds(
    block,
    [...receiver.entries].map(([key, value]) => pairArgs(block.parameters.length, key, value, call)),
  );
  return receiver;
};

const mapped =
  (flat: boolean): MapMethod =>
  (receiver, call) => {
    const { block, run } = call;
    if (!block) return undefined;
    const results = [...receiver.entries].map(([key, value]) => run(block, pairArgs(block.parameters.length, key, value, call)));
    return listOf(flat ? results.flatMap((result) => (result.kind === "list" ? result.items : [result])) : results);
  };

const merged: MapMethod = (receiver, { name, args, store }) => {
  const entries = [...receiver.entries];
  for (const other of args) {
    const maps = other.kind === "list" ? other.items : [other];
    for (const map of maps) {
      if (map.kind === "map") entries.push(...map.entries);
      else if (map.kind === "list" && textIn(map.items[0]) !== undefined)
        entries.push([textIn(map.items[0]) as string, map.items[1] ?? NOTHING]);
      else return undefined;
    }
  }
  const result: MapResult = { ...receiver, entries: new Map(entries) };
  if (/^(merge!|update|putAll|plusAssign)$/.test(name)) store(result);
  return result;
};

/** Source: the libraries of the languages; one entry for what means the same in all that have it. */
export const MAP_METHODS = table<MapMethod>({
  "get getAt fetch getOrDefault dig getProperty getValue getOrElse": got,
  "containsKey key? has_key? include? contains has member? hasProperty": (receiver, { args, place }) => {
    const key = textIn(args[0]);
    return key === undefined ? undefined : truthValue(receiver.entries.has(key), place);
  },
  "keys keySet": (receiver, call) => listOf([...receiver.entries.keys()].map((key) => keyOf(key, call))),
  values: (receiver) => listOf([...receiver.entries.values()]),
  "size length count": (receiver, { args, block, place }) =>
    args.length > 0 || block ? undefined : numberOf(receiver.entries.size, place),
  "isEmpty empty?": (receiver, { place }) => truthValue(receiver.entries.size === 0, place),
  isNotEmpty: (receiver, { place }) => truthValue(receiver.entries.size > 0, place),
  "any? any": (receiver, call) => {
    if (!call.block) return truthValue(receiver.entries.size > 0, call.place);
    const kept = chosen(true)(receiver, call);
    return kept?.kind === "map" ? truthValue(kept.entries.size > 0, call.place) : kept;
  },
  "merge merge! update plus putAll": merged,
  "put store set []= setProperty": (receiver, { args, store }) => {
    const key = textIn(args[0]);
    if (key === undefined || !args[1]) return undefined;
    store(mapOf([...receiver.entries, [key, args[1]]]));
    return args[1];
  },
  "remove delete minus except": (receiver, { name, args, store }) => {
    const keys = args.flatMap((arg) => (arg.kind === "list" ? arg.items.map(textIn) : [textIn(arg)]));
    if (keys.length === 0 || keys.some((key) => key === undefined)) return undefined;
    const rest = mapOf([...receiver.entries].filter(([key]) => !keys.includes(key)));
    if (name === "minus" || name === "except") return rest;
    store(rest);
    return receiver.entries.get(keys[0] as string) ?? NOTHING;
  },
  "slice subMap": (receiver, { args }) => {
    const keys = args.flatMap((arg) => (arg.kind === "list" ? arg.items.map(textIn) : [textIn(arg)]));
    return mapOf([...receiver.entries].filter(([key]) => keys.includes(key)));
  },
  "each forEach each_pair each_entry": each,
  each_key: (receiver, call) => {
    if (call.block)
      call.rounds(
        call.block,
        [...receiver.entries.keys()].map((key) => [keyOf(key, call)]),
      );
    return receiver;
  },
  each_value: (receiver, call) => {
    if (call.block)
      call.rounds(
        call.block,
        [...receiver.entries.values()].map((value) => [value]),
      );
    return receiver;
  },
  "each_with_index eachWithIndex": (receiver, call) => {
    if (!call.block) return undefined;
    call.rounds(
      call.block,
      pairsOf(receiver, call.place).map((pair, index) => [pair, numberOf(index, call.place)]),
    );
    return receiver;
  },
  "map collect": mapped(false),
  "flat_map flatMap collectMany": mapped(true),
  "select filter findAll keep_if": chosen(true),
  "reject filterNot delete_if": chosen(false),
  filterKeys: (receiver, call) => {
    const { block, run, frame } = call;
    return block && mapOf([...receiver.entries].filter(([key]) => truth(run(block, [keyOf(key, call)]), frame.dialect) === true));
  },
  "find detect": (receiver, call) => {
    const kept = chosen(true)(receiver, call);
    if (kept?.kind !== "map") return kept;
    return pairsOf(kept, call.place)[0] ?? NOTHING;
  },
  "transform_values mapValues": (receiver, call) => {
    const { block, run } = call;
    if (!block) return undefined;
    const kotlin = call.name === "mapValues";
    return mapOf(
      [...receiver.entries].map(([key, value]) => [key, run(block, kotlin ? [listOf([keyOf(key, call), value])] : [value])] as const),
    );
  },
  "transform_keys mapKeys": (receiver, call) => {
    const { block, run } = call;
    if (!block) return undefined;
    const entries = [...receiver.entries].map(([key, value]) => [textIn(run(block, [keyOf(key, call)])), value] as const);
    return entries.every(([key]) => key !== undefined) ? mapOf(entries as [string, Result][]) : undefined;
  },
  "collectEntries to_h toMap freeze dup clone compact toMutableMap": (receiver, call) => {
    if (!call.block)
      return call.name === "compact" ? mapOf([...receiver.entries].filter(([, value]) => value.kind !== "nothing")) : receiver;
    const made = mapped(false)(receiver, call);
    if (made?.kind !== "list") return undefined;
    return mapOf(
      made.items.flatMap((item): [string, Result][] => {
        if (item.kind === "map") return [...item.entries];
        const key = item.kind === "list" ? textIn(item.items[0]) : undefined;
        return item.kind === "list" && key !== undefined ? [[key, item.items[1] ?? NOTHING]] : [];
      }),
    );
  },
  "to_a toList entries entrySet sort": (receiver, { name, place }) => {
    const pairs = pairsOf(receiver, place);
    if (name === "sort")
      pairs.sort((a, b) =>
        ((a.kind === "list" && textIn(a.items[0])) || "") < ((b.kind === "list" && textIn(b.items[0])) || "") ? -1 : 1,
      );
    return listOf(pairs);
  },
  values_at: (receiver, { args }) => listOf(args.map((arg) => receiver.entries.get(textIn(arg) ?? "") ?? NOTHING)),
  first: (receiver, { place }) => pairsOf(receiver, place)[0] ?? NOTHING,
  key: (receiver, call) => {
    const value = textIn(call.args[0]);
    const found = [...receiver.entries].find(([, own]) => value !== undefined && textIn(own) === value);
    return found ? keyOf(found[0], call) : NOTHING;
  },
});
