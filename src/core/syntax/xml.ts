import { SaxesParser } from "saxes";
import type { Source, Problem } from "./source.js";

/** An element with its offset (of `<`), its attributes with theirs (of the value), its children and its own text. */
export interface XmlElement {
  name: string;
  source: Source;
  start: number;
  attributes: Map<string, XmlAttribute>;
  children: XmlElement[];
  text: string;
  /** Offset of the first character of text that is not white space; -1 without text. */
  textStart: number;
}

export interface XmlAttribute {
  value: string;
  start: number;
}

export interface XmlFile {
  source: Source;
  root: XmlElement | undefined;
  problems: Problem[];
}

const MAX_DEPTH = 500;

/** Stands for `<` in a value, where it is taken as it is. */
const LESS = "\uE000";

/** How many characters the entities of a document may come to, all their uses together. */
const MOST_EXPANDED = 1_000_000;

/**
 * Gives a parser the texts that a document type declares for its entities. Entities within them are not expanded but for signs by their number, and what
 * stands in other files is not read.
 */
function declareEntities(parser: { ENTITIES: Record<string, string> }, doctype: string): void {
  let expanded = 0;
  for (const [, name = "", double, single] of doctype.matchAll(/<!ENTITY\s+([\w.:-]+)\s+(?:"([^"]*)"|'([^']*)')\s*>/g)) {
    const text = (double ?? single ?? "").replace(/&#(?:x([0-9a-fA-F]{1,6})|([0-9]{1,7}));/g, (whole, hex?: string, decimal?: string) => {
      const code = hex === undefined ? Number(decimal) : Number.parseInt(hex, 16);
      return code <= 0x10_ff_ff ? String.fromCodePoint(code) : whole;
    });
    if (name in parser.ENTITIES) continue;
    Object.defineProperty(parser.ENTITIES, name, { get: () => ((expanded += text.length) > MOST_EXPANDED ? "" : text) });
  }
}

/**
 * Reads XML. Of the entities that a document type declares those with a text are expanded, once; what stands before a mistake is kept.
 * @param lenient whether `<` may stand in the value of an attribute, as tools take it that are not strict
 */
export function readXml(source: Source, lenient = false): XmlFile {
  const problems: Problem[] = [];
  const parser = new SaxesParser({ position: true, xmlns: false });
  const stack: XmlElement[] = [];
  let root: XmlElement | undefined;
  let tagStart = 0;
  let pending = new Map<string, XmlAttribute>();

  parser.on("error", (error) => {
    if (problems.length === 0) problems.push(source.problem(`not valid XML: ${error.message.replace(/^\d+:\d+: /, "")}`, parser.position));
  });
  parser.on("doctype", (doctype) => declareEntities(parser, doctype));
  parser.on("opentagstart", () => {
    tagStart = source.text.lastIndexOf("<", Math.max(0, parser.position - 1));
    pending = new Map();
  });
  parser.on("attribute", ({ name, value }) => {
    const end = parser.position;
    const quote = source.text.lastIndexOf(source.text[end - 1] ?? '"', end - 2);
    pending.set(name, { value: lenient ? value.replaceAll(LESS, "<") : value, start: quote + 1 });
  });
  parser.on("opentag", (tag) => {
    const element: XmlElement = { name: tag.name, source, start: tagStart, attributes: pending, children: [], text: "", textStart: -1 };
    const parent = stack.at(-1);
    if (parent && stack.length < MAX_DEPTH) parent.children.push(element);
    else if (parent && problems.length === 0)
      problems.push(source.problem(`nested more than ${MAX_DEPTH} levels deep; what is deeper is not read`, tagStart));
    root ??= element;
    stack.push(element);
  });
  parser.on("closetag", () => void stack.pop());
  const addText = (text: string): void => {
    const element = stack.at(-1);
    if (!element) return;
    if (element.textStart === -1 && text.trim() !== "") {
      // The event comes when the text is over: look back for its first character.
      const bodyStart = element.children.length === 0 ? source.text.indexOf(">", element.start) + 1 : element.start;
      const lead = /\S/.exec(source.text.slice(bodyStart, bodyStart + 4096));
      element.textStart = bodyStart + (lead?.index ?? 0);
    }
    element.text += text;
  };
  parser.on("text", addText);
  parser.on("cdata", addText);
  try {
    const text = lenient ? source.text.replace(/=\s*"[^"\n]*<[^"\n]*"/g, (value) => value.replaceAll("<", LESS)) : source.text;
    parser.write(text).close();
  } catch (error) {
    if (problems.length === 0) problems.push(source.problem(`not valid XML: ${(error as Error).message}`, 0));
  }
  if (!root && problems.length === 0) problems.push(source.problem("not valid XML: no element in it", 0));
  return { source, root, problems };
}

/** Every element below (and including) `element`, in document order. */
export function allElements(element: XmlElement | undefined): XmlElement[] {
  const found: XmlElement[] = [];
  const open = element ? [element] : [];
  for (let next = open.pop(); next; next = open.pop()) {
    found.push(next);
    for (let index = next.children.length - 1; index >= 0; index--) open.push(next.children[index] as XmlElement);
  }
  return found;
}

/** Those of them with a name. */
export function descendants(element: XmlElement | undefined, name: string): XmlElement[] {
  return allElements(element).filter((one) => one.name === name);
}

export function children(element: XmlElement | undefined, name: string): XmlElement[] {
  return element ? element.children.filter((child) => child.name === name) : [];
}
