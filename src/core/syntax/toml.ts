import { parseTOML, type AST } from "toml-eslint-parser";
import { listOf, mapOf, scalarOf, type Data, type DataFile, type MapData } from "./data.js";
import type { Source } from "./source.js";
import { type Problem } from "./source.js";

/** Reads TOML. A line that breaks the format is reported and left out, so that the rest of a half-edited catalog still counts. */
export function readToml(source: Source): DataFile {
  const problems: Problem[] = [];
  let text = source.text;
  for (let attempt = 0; attempt < 20; attempt++) {
    try {
      const program = parseTOML(text);
      return { source, root: table(source, program.body[0]), problems };
    } catch (error) {
      const { message, index, lineNumber } = error as { message: string; index?: number; lineNumber?: number };
      const offset = Math.min(index ?? 0, text.length);
      problems.push(source.problem(`not valid TOML: ${message}`, offset));
      const blanked = lineNumber === undefined ? undefined : blankLine(text, offset);
      if (blanked === undefined || blanked === text) return { source, root: undefined, problems: problems.slice(0, 1) };
      text = blanked;
    }
  }
  return { source, root: undefined, problems: problems.slice(0, 1) };
}

function blankLine(text: string, offset: number): string | undefined {
  let start = text.lastIndexOf("\n", Math.max(0, offset - 1)) + 1;
  let end = text.indexOf("\n", start);
  if (end === -1) end = text.length;
  if (text.slice(start, end).trim() === "" && start > 0) {
    end = start - 1;
    start = text.lastIndexOf("\n", Math.max(0, end - 1)) + 1;
  }
  if (start >= end) return undefined;
  return text.slice(0, start) + " ".repeat(end - start) + text.slice(end);
}

function table(source: Source, top: AST.TOMLTopLevelTable): MapData {
  const root = mapOf(source, 0);
  for (const node of top.body) {
    if (node.type === "TOMLKeyValue") assign(source, root, node);
    else {
      const list = node.kind === "array";
      const target = descend(source, root, node.key.keys.map(keyName), node.range[0] + 1, list);
      for (const pair of node.body) assign(source, target, pair);
    }
  }
  return root;
}

function assign(source: Source, map: MapData, pair: AST.TOMLKeyValue): void {
  const names = pair.key.keys.map(keyName);
  const last = names.pop();
  if (last === undefined) return;
  const target = descend(source, map, names, pair.range[0], false);
  target.entries.set(last, { start: pair.key.keys.at(-1)?.range[0] ?? pair.range[0], value: convert(source, pair.value) });
}

function descend(source: Source, map: MapData, names: string[], start: number, list: boolean): MapData {
  let current = map;
  names.forEach((name, index) => {
    let next = current.entries.get(name)?.value;
    if (list && index === names.length - 1) {
      if (next?.kind !== "list") current.entries.set(name, { start, value: (next = listOf(source, start)) });
      const item = mapOf(source, start);
      next.items.push(item);
      current = item;
      return;
    }
    if (next?.kind === "list") next = next.items.at(-1);
    if (next?.kind !== "map") current.entries.set(name, { start, value: (next = mapOf(source, start)) });
    current = next;
  });
  return current;
}

function convert(source: Source, node: AST.TOMLContentNode): Data {
  const [start] = node.range;
  if (node.type === "TOMLArray")
    return listOf(
      source,
      start,
      node.elements.map((element) => convert(source, element)),
    );
  if (node.type === "TOMLInlineTable") {
    const map = mapOf(source, start);
    for (const pair of node.body) assign(source, map, pair);
    return map;
  }
  if (node.kind === "string") return scalarOf(source, start + 1, node.value);
  if (node.kind === "boolean") return scalarOf(source, start, node.value);
  return scalarOf(source, start, source.text.slice(node.range[0], node.range[1]));
}

function keyName(key: AST.TOMLBare | AST.TOMLQuoted): string {
  return key.type === "TOMLBare" ? key.name : key.value;
}
