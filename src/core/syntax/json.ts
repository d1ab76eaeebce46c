import { parseTree, printParseErrorCode, type Node, type ParseError } from "jsonc-parser";
import { listOf, mapOf, scalarOf, type Data, type DataFile } from "./data.js";
import type { Source } from "./source.js";

/** Reads JSON, with comments and trailing commas allowed where tools allow them. */
export function readJson(source: Source): DataFile {
  const errors: ParseError[] = [];
  if (nestingDepth(source.text) > 500) {
    return { source, root: undefined, problems: [source.problem("nested more than 500 levels deep", 0)] };
  }
  const tree = parseTree(source.text, errors, { allowTrailingComma: true, disallowComments: false, allowEmptyContent: false });
  const first = errors[0];
  const problems = first ? [source.problem(`not valid JSON: ${spaced(printParseErrorCode(first.error))}`, first.offset)] : [];
  return { source, root: tree ? convert(source, tree) : undefined, problems };
}

function convert(source: Source, node: Node): Data {
  if (node.type === "object") {
    const map = mapOf(source, node.offset);
    for (const property of node.children ?? []) {
      const [key, value] = property.children ?? [];
      if (key && value && typeof key.value === "string")
        map.entries.set(key.value, { start: key.offset + 1, value: convert(source, value) });
    }
    return map;
  }
  if (node.type === "array")
    return listOf(
      source,
      node.offset,
      (node.children ?? []).map((child) => convert(source, child)),
    );
  const value = node.value as string | number | boolean | null;
  return scalarOf(source, typeof value === "string" ? node.offset + 1 : node.offset, value);
}

function spaced(code: string): string {
  return code.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
}

/** The parser recurses; a cheap count beforehand keeps hostile input from exhausting the stack. Brackets in strings are none. */
function nestingDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (let index = 0; index < text.length; index++) {
    const code = text.charCodeAt(index);
    if (code === QUOTE) {
      for (index++; index < text.length; index++) {
        const inside = text.charCodeAt(index);
        if (inside === BACKSLASH) index++;
        // A text that is not closed ends with its line, as the parser sees it too.
        else if (inside === QUOTE || inside === LINE_END) break;
      }
    } else if (code === 0x7b || code === 0x5b) deepest = Math.max(deepest, ++depth);
    else if (code === 0x7d || code === 0x5d) depth--;
  }
  return deepest;
}

const QUOTE = 0x22;
const BACKSLASH = 0x5c;
const LINE_END = 0x0a;
