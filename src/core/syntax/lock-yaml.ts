import { listOf, mapOf, scalarOf, type Data, type DataFile, type ListData, type MapData } from "./data.js";
import type { Problem, Source } from "./source.js";

interface Frame {
  indent: number;
  node: MapData | ListData;
}

/**
 * Reads the block-style subset of YAML that package managers write into their lock files (CocoaPods, pnpm, Yarn of both
 * generations), in one pass over the lines. Lock files run to megabytes; a full YAML parser takes seconds for one.
 * Merge markers are reported, and both halves are read.
 */
// eslint-disable-next-line complexity -- one pass over the lines of files with tens of thousands of them
export function readLockYaml(source: Source): DataFile {
  const { text } = source;
  const problems: Problem[] = [];
  const root = mapOf(source, 0);
  const stack: Frame[] = [{ indent: -1, node: root }];
  // The value slot of the last `key:` without a value, waiting for a deeper line.
  let open: { map: MapData; key: string; indent: number } | undefined;
  let position = 0;

  while (position < text.length) {
    let end = text.indexOf("\n", position);
    if (end === -1) end = text.length;
    const start = position;
    position = end + 1;
    if (text.charCodeAt(end - 1) === 13) end--;
    let first = start;
    while (first < end && text.charCodeAt(first) === 32) first++;
    if (first >= end) continue;
    const code = text.charCodeAt(first);
    if (code === 35) continue; // #
    if (code === 37 && first === start) continue; // % begins a directive
    const indent = first - start;
    // Marks of an unfinished merge; the project tells of them, in every form of file.
    if (indent === 0 && /^(<{7}|={7}|>{7}|\|{7})( |$)/.test(text.slice(first, Math.min(end, first + 8)))) continue;
    if (indent === 0 && text.startsWith("---", first)) continue;

    const isItem = code === 45 && (first + 1 === end || text.charCodeAt(first + 1) === 32);
    if (open && (indent > open.indent || (isItem && indent === open.indent))) {
      const node = isItem ? listOf(source, first) : mapOf(source, first);
      setValue(open.map, open.key, node);
      stack.push({ indent, node });
    }
    open = undefined;
    let frame = stack.at(-1) as Frame;
    while (stack.length > 1 && (frame.indent > indent || (frame.indent === indent && frame.node.kind === "list" && !isItem))) {
      stack.pop();
      frame = stack.at(-1) as Frame;
    }
    if (frame.indent === -1 && frame.node === root) frame = { indent, node: root };

    if (isItem) {
      if (frame.node.kind !== "list") continue;
      const list = frame.node;
      let item = first + 1;
      while (item < end && text.charCodeAt(item) === 32) item++;
      const pair = splitPair(text, item, end, false);
      if (pair) {
        const map = mapOf(source, item);
        list.items.push(map);
        const itemIndent = item - start;
        open = addPair(source, map, pair, end, itemIndent);
        stack.push({ indent: itemIndent, node: map });
      } else list.items.push(scalar(source, item, end));
      continue;
    }
    if (frame.node.kind !== "map") continue;
    const pair = splitPair(text, first, end, true);
    if (pair) open = addPair(source, frame.node, pair, end, indent);
    else if (problems.length === 0) problems.push(source.problem('a line is neither "key: value" nor a list item', first));
  }
  return { source, root, problems };
}

interface Pair {
  key: string;
  keyStart: number;
  valueStart: number;
}

/** Splits `key: value` (YAML); with `spaced` also `key value` and `a, b:` (Yarn's first generation). */
function splitPair(text: string, start: number, end: number, spaced: boolean): Pair | undefined {
  const quote = text.charCodeAt(start);
  if (quote === 34 || quote === 39) {
    const close = text.indexOf(String.fromCharCode(quote), start + 1);
    if (close === -1 || close >= end) return undefined;
    const after = text.charCodeAt(close + 1);
    // Several quoted names before one colon: "a@1", "a@2":
    if (after === 44) {
      const colon = text.lastIndexOf(":", end);
      return colon > close ? { key: text.slice(start, colon).replaceAll('"', ""), keyStart: start, valueStart: end } : undefined;
    }
    if (after === 58 || after === 32)
      return { key: text.slice(start + 1, close), keyStart: start + 1, valueStart: skipSpaces(text, close + 2, end) };
    return undefined;
  }
  for (let index = start; index < end; index++) {
    if (text.charCodeAt(index) === 58 && (index + 1 === end || text.charCodeAt(index + 1) === 32)) {
      return { key: text.slice(start, index).replaceAll('"', ""), keyStart: start, valueStart: skipSpaces(text, index + 1, end) };
    }
  }
  const space = spaced ? text.indexOf(" ", start) : -1;
  if (space === -1 || space >= end) return undefined;
  if (!/^[\w@/.+-]+$/.test(text.slice(start, space))) return undefined;
  return { key: text.slice(start, space), keyStart: start, valueStart: skipSpaces(text, space, end) };
}

function skipSpaces(text: string, from: number, end: number): number {
  let index = from;
  while (index < end && text.charCodeAt(index) === 32) index++;
  return Math.min(index, end);
}

function addPair(
  source: Source,
  map: MapData,
  pair: Pair,
  end: number,
  indent: number,
): { map: MapData; key: string; indent: number } | undefined {
  const empty = pair.valueStart >= end;
  map.entries.set(pair.key, {
    start: pair.keyStart,
    value: empty ? scalarOf(source, pair.keyStart, null) : scalar(source, pair.valueStart, end),
  });
  return empty ? { map, key: pair.key, indent } : undefined;
}

function setValue(map: MapData, key: string, value: Data): void {
  const entry = map.entries.get(key);
  if (entry) entry.value = value;
}

/** A scalar, or a flow map of scalars (`{integrity: …, tarball: …}`), which pnpm writes on one line. */
function scalar(source: Source, start: number, end: number): Data {
  const raw = source.text.slice(start, end).trimEnd();
  const quote = raw[0];
  if ((quote === '"' || quote === "'") && raw.length > 1 && raw.endsWith(quote)) return scalarOf(source, start + 1, raw.slice(1, -1));
  if (quote === "{" && raw.endsWith("}")) {
    const map = mapOf(source, start);
    for (const match of raw.slice(1, -1).matchAll(/\s*([\w.-]+):\s*([^,]*?)\s*(?:,|$)/g)) {
      map.entries.set(match[1] as string, {
        start: start + 1 + match.index,
        value: scalarOf(source, start + 1 + match.index, match[2] as string),
      });
    }
    return map;
  }
  return scalarOf(source, start, raw);
}
