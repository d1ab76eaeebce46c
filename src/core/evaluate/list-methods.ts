import { reason } from "../model/reason.js";
import { truthValue, unknown } from "../model/value.js";
import { table, type MethodCall } from "./method.js";
import { distinct, holds, isPlain, joinTexts, OPEN, truth } from "./operators.js";
import { MAX_ITEMS } from "./run.js";
import {
  integerIn,
  joined,
  listOf,
  mapOf,
  NOTHING,
  numberOf,
  onParts,
  textIn,
  type FunctionResult,
  type ListResult,
  type Result,
} from "./values.js";

export type ListMethod = (receiver: ListResult, call: MethodCall) => Result | undefined;

/** What a closure says of each item: `true`, `false`, or `undefined` where nobody can tell. */
function verdicts(items: readonly Result[], block: FunctionResult, { run, frame }: MethodCall): (boolean | undefined)[] {
  return items.map((item) => truth(run(block, [item]), frame.dialect));
}

/** For what needs to know all items. */
const whole =
  (work: ListMethod): ListMethod =>
  (receiver, call) =>
    receiver.perhapsFrom === undefined ? work(receiver, call) : unknown(OPEN, call.place);

const chosen =
  (wanted: boolean): ListMethod =>
  (receiver, call) => {
    const { block } = call;
    if (!block) return undefined;
    let from: number | undefined;
    const kept: Result[] = [];
    verdicts(receiver.items, block, call).forEach((verdict, index) => {
      if (verdict === !wanted) return;
      if (verdict === undefined || index >= (receiver.perhapsFrom ?? Infinity)) from ??= kept.length;
      kept.push(receiver.items[index] as Result);
    });
    return listOf(kept, from);
  };

const found =
  (wanted: boolean, otherwise: (call: MethodCall) => Result): ListMethod =>
  (receiver, call) => {
    const { block, place } = call;
    if (!block) return undefined;
    for (const item of receiver.items) {
      const verdict = truth(call.run(block, [item]), call.frame.dialect);
      if (verdict === undefined) return unknown(OPEN, place);
      if (verdict === wanted) return item;
    }
    return otherwise(call);
  };

const all =
  (decide: (verdicts: (boolean | undefined)[]) => boolean | undefined): ListMethod =>
  (receiver, call) => {
    if (!call.block) return undefined;
    const answer = decide(verdicts(receiver.items, call.block, call));
    return answer === undefined ? unknown(OPEN, call.place) : truthValue(answer, call.place);
  };

const each =
  (items: (list: ListResult, call: MethodCall) => readonly (readonly Result[])[]): ListMethod =>
  (receiver, call) => {
    if (call.block) call.rounds(call.block, items(receiver, call), receiver.perhapsFrom);
    return receiver;
  };

const withIndex = (list: ListResult, { place }: MethodCall): (readonly Result[])[] =>
  list.items.map((item, index) => [item, numberOf(index, place)]);

const nth =
  (choose: (items: readonly Result[], index: number) => Result | undefined): ListMethod =>
  (receiver, { args, place }) => {
    const index = args.length === 0 ? 0 : integerIn(args[0]);
    if (index === undefined) return undefined;
    if (receiver.perhapsFrom !== undefined && index >= receiver.perhapsFrom) return unknown(OPEN, place);
    return choose(receiver.items, index) ?? NOTHING;
  };

/** Puts items into the list that a variable holds. */
const added =
  (place: (list: ListResult, items: readonly Result[]) => ListResult, spread: boolean): ListMethod =>
  (receiver, { args, store, place: at }) => {
    if (args.length === 0) return undefined;
    const items = spread ? args.flatMap((arg) => (arg.kind === "list" ? arg.items : [arg])) : args;
    if (receiver.items.length + items.length > MAX_ITEMS) return unknown(reason("list-too-long"), at);
    const result = place(receiver, items);
    store(result);
    return result;
  };

const behind = (list: ListResult, items: readonly Result[]): ListResult => listOf([...list.items, ...items], list.perhapsFrom);

const mapped =
  (items: (list: ListResult, call: MethodCall) => readonly (readonly Result[])[], flat = false): ListMethod =>
  (receiver, call) => {
    const { block, run } = call;
    if (!block) return undefined;
    const results = items(receiver, call).map((args) => run(block, args));
    if (!flat) return listOf(results, receiver.perhapsFrom);
    return receiver.perhapsFrom === undefined
      ? listOf(results.flatMap((result) => (result.kind === "list" ? result.items : [result])))
      : unknown(OPEN, call.place);
  };

const single = (list: ListResult): (readonly Result[])[] => list.items.map((item) => [item]);

const flattened = (items: readonly Result[]): readonly Result[] =>
  items.flatMap((item) => (item.kind === "list" ? flattened(item.items) : [item]));

const sorted: ListMethod = (receiver, call) => {
  const { block, run, place } = call;
  const keys = block && block.parameters.length < 2 ? receiver.items.map((item) => run(block, [item])) : block ? undefined : receiver.items;
  if (!keys?.every(isPlain)) return unknown(reason("order-not-worked-out"), place);
  const numbers = keys.every(({ type }) => type === "number");
  const order = keys
    .map((key, index) => ({ key: key.text, index }))
    .sort((a, b) => (numbers ? Number(a.key) - Number(b.key) : a.key < b.key ? -1 : a.key > b.key ? 1 : 0) || a.index - b.index);
  const items = order.map(({ index }) => receiver.items[index] as Result);
  return listOf(call.name.includes("Descending") ? items.reverse() : items);
};

const folded: ListMethod = (receiver, { name, args, block, run }) => {
  if (!block) return undefined;
  const start = args[0] ?? receiver.items[0];
  const rest = args.length > 0 ? receiver.items : receiver.items.slice(1);
  if (!start) return name === "fold" ? undefined : NOTHING;
  return rest.reduce((sum, item) => run(block, [sum, item]), start);
};

/** A list of pairs as a map. */
function pairs(items: readonly Result[]): Result | undefined {
  const entries: [string, Result][] = [];
  for (const item of items) {
    if (item.kind === "map") {
      entries.push(...item.entries);
      continue;
    }
    const key = item.kind === "list" ? textIn(item.items[0]) : undefined;
    if (item.kind !== "list" || key === undefined) return undefined;
    entries.push([key, item.items[1] ?? NOTHING]);
  }
  return mapOf(entries);
}

const keyed =
  (entry: (item: Result, made: Result) => readonly [Result, Result]): ListMethod =>
  (receiver, { block, run, place }) => {
    if (!block) return undefined;
    const made = receiver.items.map((item) => {
      const [key, value] = entry(item, run(block, [item]));
      return listOf([key, value]);
    });
    return pairs(made) ?? unknown(reason("keys-missing"), place);
  };

const most =
  (largest: boolean): ListMethod =>
  (receiver, { block }) => {
    const { items } = receiver;
    const [first] = items;
    if (block || !items.every(isPlain) || !first) return undefined;
    const numbers = items.every(({ type }) => type === "number");
    return items.reduce<Result>((a, b) => {
      const [x, y] = [textIn(a) ?? "", textIn(b) ?? ""];
      const bigger = numbers ? Number(y) > Number(x) : y > x;
      return bigger === largest && x !== y ? b : a;
    }, first);
  };

/** Source: the libraries of the languages; one entry for what means the same in all that have it. */
export const LIST_METHODS = table<ListMethod>({
  "each forEach reverse_each onEach each_entry": (receiver, call) =>
    each(({ items }) => (call.name === "reverse_each" ? [...items].reverse() : items).map((item) => [item]))(receiver, call),
  "each_with_index eachWithIndex": each(withIndex),
  forEachIndexed: each((list, call) => withIndex(list, call).map(([item, index]) => [index as Result, item as Result])),
  each_slice: (receiver, call) => {
    const size = integerIn(call.args[0]);
    if (!size || size < 1 || receiver.perhapsFrom !== undefined) return undefined;
    const slices = Array.from({ length: Math.ceil(receiver.items.length / size) }, (_, index) =>
      listOf(receiver.items.slice(index * size, (index + 1) * size)),
    );
    return call.block
      ? (call.rounds(
          call.block,
          slices.map((slice) => [slice]),
        ),
        receiver)
      : listOf(slices);
  },
  "map collect map!": mapped(single),
  "flatMap flat_map collectMany": mapped(single, true),
  mapIndexed: mapped((list, call) => withIndex(list, call).map(([item, index]) => [index as Result, item as Result])),
  "mapNotNull filter_map": (receiver, { block, run }) =>
    block &&
    onParts(receiver, (items) =>
      items.map((item) => run(block, [item])).filter((item) => item.kind !== "nothing" && textIn(item) !== "false"),
    ),
  "with_index each_with_index withIndex": (receiver, call) => {
    const items = receiver.items.map((item, index) => listOf([item, numberOf(index + (integerIn(call.args[0]) ?? 0), call.place)]));
    if (!call.block) return listOf(items, receiver.perhapsFrom);
    call.rounds(
      call.block,
      items.map(({ items: pair }) => pair),
      receiver.perhapsFrom,
    );
    return receiver;
  },
  "select filter findAll keep_if select! filter!": chosen(true),
  "reject filterNot reject! delete_if": chosen(false),
  "find detect firstOrNull": (receiver, call) => (call.block ? found(true, () => NOTHING)(receiver, call) : (receiver.items[0] ?? NOTHING)),
  "any any? some": (receiver, call) => {
    if (!call.block) return call.args.length > 0 ? undefined : truthValue(receiver.items.length > 0, call.place);
    return all((list) => (list.includes(true) ? true : list.includes(undefined) ? undefined : false))(receiver, call);
  },
  "all all? every": all((list) => (list.includes(false) ? false : list.includes(undefined) ? undefined : true)),
  "none none?": (receiver, call) => {
    if (!call.block) return truthValue(receiver.items.length === 0, call.place);
    return all((list) => (list.includes(true) ? false : list.includes(undefined) ? undefined : true))(receiver, call);
  },
  "first getFirst head": (receiver, call) => {
    if (call.block) return found(true, () => NOTHING)(receiver, call);
    const count = integerIn(call.args[0]);
    return count === undefined ? (receiver.items[0] ?? NOTHING) : listOf(receiver.items.slice(0, count));
  },
  "last getLast lastOrNull": whole((receiver, { args }) => {
    const count = integerIn(args[0]);
    return count === undefined ? (receiver.items.at(-1) ?? NOTHING) : listOf(receiver.items.slice(-count));
  }),
  "get getAt elementAt getOrNull at fetch": nth((items, index) => items.at(index)),
  "size length count": (receiver, call) => {
    if (receiver.perhapsFrom !== undefined) return unknown(OPEN, call.place);
    if (!call.block) return call.args.length > 0 ? undefined : numberOf(receiver.items.length, call.place);
    const list = verdicts(receiver.items, call.block, call);
    return list.includes(undefined) ? unknown(OPEN, call.place) : numberOf(list.filter(Boolean).length, call.place);
  },
  "isEmpty empty?": whole((receiver, { place }) => truthValue(receiver.items.length === 0, place)),
  isNotEmpty: whole((receiver, { place }) => truthValue(receiver.items.length > 0, place)),
  "contains include? includes member?": (receiver, { args, place }) => {
    const [item] = args;
    const answer = item && holds(receiver, item);
    return answer === undefined ? unknown(OPEN, place) : truthValue(answer, place);
  },
  containsAll: () => undefined,
  "join joinToString": whole((receiver, { name, args, block, run, place }) => {
    const [first] = args;
    // joinToString(separator = "."): Kotlin's separator is a comma where none is given.
    const named = first?.kind === "map" ? first.entries : undefined;
    const glue = named ? (textIn(named.get("separator")) ?? ", ") : first === undefined ? (name === "join" ? "" : ", ") : textIn(first);
    if (glue === undefined) return undefined;
    const items = block ? receiver.items.map((item) => run(block, [item])) : receiver.items;
    const joined_ = joinTexts(items, glue, place);
    const [before, after] = [textIn(named?.get("prefix")), textIn(named?.get("postfix"))];
    return joined_.kind === "known" ? { ...joined_, text: `${before ?? ""}${joined_.text}${after ?? ""}` } : joined_;
  }),
  plus: (receiver, { args }) =>
    args[0] && listOf([...receiver.items, ...(args[0].kind === "list" ? args[0].items : [args[0]])], receiver.perhapsFrom),
  minus: (receiver, { args }) => {
    const others = args[0]?.kind === "list" ? args[0].items : args;
    if (!receiver.items.every(isPlain) || !others.every(isPlain)) return undefined;
    return onParts(receiver, (items) => items.filter((item) => !others.some((other) => textIn(other) === textIn(item))));
  },
  "push append add << plusAssign": added(behind, false),
  "addAll concat push_all": added(behind, true),
  "unshift prepend": added(
    (list, items) => listOf([...items, ...list.items], list.perhapsFrom === undefined ? undefined : list.perhapsFrom + items.length),
    false,
  ),
  "delete remove": (receiver, { args, store }) => {
    const text = textIn(args[0]);
    if (text === undefined || !receiver.items.every(isPlain)) return undefined;
    store(onParts(receiver, (items) => items.filter((item) => textIn(item) !== text)));
    return args[0];
  },
  clear: (receiver, { store }) => {
    store(listOf([]));
    return receiver;
  },
  "reverse reversed": whole((receiver) => listOf([...receiver.items].reverse())),
  "uniq unique distinct toSet to_set": (receiver) => listOf(distinct(receiver.items), receiver.perhapsFrom),
  flatten: (receiver) => onParts(receiver, flattened),
  "compact filterNotNull": (receiver) => onParts(receiver, (items) => items.filter((item) => item.kind !== "nothing")),
  "sort sorted sort_by sortedBy sortBy toSorted sortedDescending sort!": whole(sorted),
  take: (receiver, { args }) => {
    const count = integerIn(args[0]);
    return count === undefined ? undefined : listOf(receiver.items.slice(0, count), receiver.perhapsFrom);
  },
  drop: whole((receiver, { args }) => {
    const count = integerIn(args[0]);
    return count === undefined ? undefined : listOf(receiver.items.slice(count));
  }),
  dropLast: whole((receiver, { args }) => listOf(receiver.items.slice(0, -(integerIn(args[0]) ?? 1)))),
  "tail rest": whole((receiver) => listOf(receiver.items.slice(1))),
  "subList slice": whole((receiver, { args }) => {
    const [from, to] = [integerIn(args[0]), integerIn(args[1])];
    return from === undefined || to === undefined ? undefined : listOf(receiver.items.slice(from, to));
  }),
  zip: whole((receiver, { args }) => {
    const others = args.map((arg) => (arg.kind === "list" ? arg.items : undefined));
    if (others.some((other) => !other)) return undefined;
    return listOf(receiver.items.map((item, index) => listOf([item, ...others.map((other) => other?.[index] ?? NOTHING)])));
  }),
  transpose: whole((receiver) => {
    const rows = receiver.items.map((item) => (item.kind === "list" ? item.items : undefined));
    if (rows.some((row) => !row)) return undefined;
    const width = Math.min(...rows.map((row) => row?.length ?? 0));
    return listOf(
      Array.from({ length: Number.isFinite(width) ? width : 0 }, (_, column) => listOf(rows.map((row) => row?.[column] ?? NOTHING))),
    );
  }),
  product: whole((receiver, { args }) => {
    const other = args[0]?.kind === "list" ? args[0].items : undefined;
    return other && receiver.items.length * other.length < 1000
      ? listOf(receiver.items.flatMap((a) => other.map((b) => listOf([a, b]))))
      : undefined;
  }),
  each_cons: () => undefined,
  "inject reduce fold": whole(folded),
  sum: whole((receiver, { block, run, place }) => {
    const items = block ? receiver.items.map((item) => run(block, [item])) : receiver.items;
    if (!items.every((item) => integerIn(item) !== undefined)) return undefined;
    return numberOf(
      items.reduce((sum, item) => sum + (integerIn(item) ?? 0), 0),
      place,
    );
  }),
  "max maxOrNull": whole(most(true)),
  "min minOrNull": whole(most(false)),
  "to_h toMap collectEntries": whole((receiver, { block, run, place }) => {
    const items = block ? receiver.items.map((item) => run(block, [item])) : receiver.items;
    return pairs(items) ?? unknown(reason("keys-missing"), place);
  }),
  associate: whole((receiver, { block, run, place }) =>
    block ? (pairs(receiver.items.map((item) => run(block, [item]))) ?? unknown(reason("keys-missing"), place)) : undefined,
  ),
  associateWith: whole(keyed((item, made) => [item, made])),
  associateBy: whole(keyed((item, made) => [made, item])),
  each_with_object: whole((receiver, { args, block, run, last }) => {
    const name = block?.parameters[1]?.name;
    let [holder] = args;
    if (!block || !holder || name === undefined) return undefined;
    for (const item of receiver.items) {
      run(block, [item, holder]);
      holder = last(name) ?? holder;
    }
    return holder;
  }),
  partition: whole((receiver, call) => {
    if (!call.block) return undefined;
    const list = verdicts(receiver.items, call.block, call);
    if (list.includes(undefined)) return unknown(OPEN, call.place);
    return listOf([true, false].map((wanted) => listOf(receiver.items.filter((_, index) => list[index] === wanted))));
  }),
  "group_by groupBy": whole((receiver, { block, run, place }) => {
    if (!block) return undefined;
    const groups = new Map<string, Result[]>();
    for (const item of receiver.items) {
      const key = textIn(run(block, [item]));
      if (key === undefined) return unknown(reason("keys-missing"), place);
      groups.set(key, [...(groups.get(key) ?? []), item]);
    }
    return mapOf([...groups].map(([key, items]) => [key, listOf(items)]));
  }),
  "indexOf index": (receiver, { args, block, place }) => {
    const text = block ? undefined : textIn(args[0]);
    if (text === undefined || !receiver.items.every(isPlain)) return undefined;
    return numberOf(
      receiver.items.findIndex((item) => textIn(item) === text),
      place,
    );
  },
  "key getKey component1": (receiver) => receiver.items[0],
  "value getValue component2 second": (receiver) => receiver.items[1],
  "to_a toList toArray entries indices": (receiver, { name, place }) =>
    name === "indices" ? listOf(receiver.items.map((_, index) => numberOf(index, place))) : receiver,
  dig: (receiver, { args, place }) => {
    const index = integerIn(args[0]);
    if (index === undefined) return undefined;
    return args.length === 1 ? (receiver.items.at(index) ?? NOTHING) : unknown(OPEN, place);
  },
  "random sample shuffle shuffled": (_, { place }) => unknown(reason("different-each-time"), place),
  ifEmpty: (receiver, { block, run }) => (receiver.items.length > 0 ? receiver : block ? run(block, []) : undefined),
  values_at: (receiver, { args }) => listOf(args.map((arg) => receiver.items.at(integerIn(arg) ?? 0) ?? NOTHING)),
  either: (receiver, { place }) => joined(receiver.items, place),
});
