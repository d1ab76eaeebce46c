import { isAlias, isMap, isScalar, isSeq, parseDocument, type Alias, type Document, type Node, type YAMLMap } from "yaml";
import { listOf, mapOf, scalarOf, type Data, type DataFile } from "./data.js";
import type { Problem, Source } from "./source.js";

/** Of a line, in UTF-16 units: the parser takes a time that grows with the square of it. */
const LONGEST_LINE = 8_192;
/** Of a text, in UTF-16 units. */
const LONGEST = 512 * 1024;

/** Why a text is not given to the parser; `undefined` where it is. */
function oversize(source: Source): Problem | undefined {
  const { text } = source;
  if (text.length > LONGEST) return source.problem(`larger than ${LONGEST / 1024} kB, which no such file is; it is not read`, 0);
  for (let start = 0; start < text.length;) {
    const end = text.indexOf("\n", start);
    const stop = end === -1 ? text.length : end;
    if (stop - start > LONGEST_LINE) return source.problem(`not readable: a line is longer than ${LONGEST_LINE} characters`, start);
    start = stop + 1;
  }
  return undefined;
}

/** How many aliases of a document are followed, and how many parts they may bring: beyond that they read as their names. */
const MOST_ALIASES = 500;
const MOST_BROUGHT = 20_000;

/** Reads the first document of a YAML file. Aliases stand for what they name, and `<<` brings the entries of a map. Source: yaml.org, "Merge key". */
export function readYaml(source: Source): DataFile {
  const tooLarge = oversize(source);
  if (tooLarge) return { source, root: undefined, problems: [tooLarge] };
  try {
    const document = parseDocument(source.text, { prettyErrors: false, uniqueKeys: false, logLevel: "silent" });
    const first = document.errors[0];
    const problems = first ? [source.problem(`not valid YAML: ${first.message}`, first.pos[0])] : [];
    const { contents } = document;
    return { source, root: contents ? new Conversion(source, document).convert(contents as Node, 0) : undefined, problems };
  } catch (error) {
    return { source, root: undefined, problems: [source.problem(`not valid YAML: ${(error as Error).message}`, 0)] };
  }
}

class Conversion {
  private aliases = 0;
  private brought = 0;
  /** How many aliases stand around what is read. */
  private inside = 0;

  constructor(
    private readonly source: Source,
    private readonly document: Document,
  ) {}

  convert(node: Node | null, depth: number): Data {
    const { source } = this;
    const start = node?.range?.[0] ?? 0;
    if (!node || depth > 200 || (this.inside > 0 && ++this.brought > MOST_BROUGHT)) return scalarOf(source, start, null);
    if (isMap(node)) return this.map(node, start, depth);
    if (isSeq(node))
      return listOf(
        source,
        start,
        node.items.map((item) => this.convert(item as Node | null, depth + 1)),
      );
    if (isAlias(node)) return this.alias(node, start, depth);
    if (!isScalar(node)) return scalarOf(source, start, null);
    const quoted = node.type === "QUOTE_DOUBLE" || node.type === "QUOTE_SINGLE";
    const value = node.value;
    // A plain scalar keeps its text: the version 1.10 is not the number 1.1.
    if (typeof value === "number" && node.source !== undefined) return scalarOf(source, start, node.source);
    if (typeof value === "string" || typeof value === "boolean" || value === null)
      return scalarOf(source, quoted ? start + 1 : start, value);
    return scalarOf(source, start, String(value));
  }

  private alias(node: Alias, start: number, depth: number): Data {
    const named = ++this.aliases > MOST_ALIASES ? undefined : node.resolve(this.document);
    if (!named) return scalarOf(this.source, start, `*${node.source}`);
    this.inside++;
    const result = this.convert(named, depth + 1);
    this.inside--;
    return result;
  }

  private map(node: YAMLMap, start: number, depth: number): Data {
    const { source } = this;
    const map = mapOf(source, start);
    const brought: Data[] = [];
    for (const pair of node.items) {
      const key = pair.key as Node | null;
      const name = isScalar(key) ? String(key.value) : undefined;
      if (name === undefined) continue;
      const value = pair.value as Node | null;
      const keyStart = key?.range?.[0] ?? start;
      const read = value ? this.convert(value, depth + 1) : scalarOf(source, keyStart, null);
      if (name === "<<" && read.kind !== "scalar") brought.push(...(read.kind === "list" ? read.items : [read]));
      else map.entries.set(name, { start: keyStart, value: read });
    }
    for (const of of brought)
      if (of.kind === "map") for (const [name, entry] of of.entries) if (!map.entries.has(name)) map.entries.set(name, entry);
    return map;
  }
}
