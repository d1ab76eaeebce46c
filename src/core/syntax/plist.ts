import { readBinaryPlist } from "./binary-plist.js";
import { listOf, mapOf, scalarOf, type Data, type DataFile, type MapData } from "./data.js";
import type { Source } from "./source.js";
import { type Problem } from "./source.js";
import { readXml, type XmlElement } from "./xml.js";

/** Reads a property list in any of its three forms: XML, binary (`bytes`), and the old text form that project files use. */
export function readPlist(source: Source, bytes?: Uint8Array): DataFile {
  if (bytes && isBinaryPlist(bytes)) return readBinary(source, bytes);
  if (/^\s*(<\?xml|<!DOCTYPE|<!--|<plist)/.test(source.text.slice(0, 512))) return readXmlPlist(source);
  return readTextPlist(source);
}

export function isBinaryPlist(bytes: Uint8Array): boolean {
  return Buffer.from(bytes.subarray(0, 6)).toString("latin1") === "bplist";
}

function readBinary(source: Source, bytes: Uint8Array): DataFile {
  try {
    return { source, root: readBinaryPlist(source, bytes), problems: [] };
  } catch (error) {
    return { source, root: undefined, problems: [source.problem(`not a valid binary property list: ${(error as Error).message}`, 0)] };
  }
}

function readXmlPlist(source: Source): DataFile {
  const xml = readXml(source);
  const top = xml.root?.name === "plist" ? xml.root.children[0] : xml.root;
  const problems = [...xml.problems];
  if (xml.root?.name === "plist" && !top && problems.length === 0)
    problems.push(source.problem("the property list holds nothing: it is refused", xml.root.start));
  return { source, root: top ? fromElement(source, top, problems) : undefined, problems };
}

/** Elements with one value. Source: the document type of property lists (PropertyList-1.0.dtd). */
const VALUES: ReadonlySet<string> = new Set(["string", "integer", "real", "date", "data"]);

/** What the system's own reader refuses is a problem: a key without a value, a value without a key, an element that there is not. */
function fromElement(source: Source, element: XmlElement, problems: Problem[]): Data {
  switch (element.name) {
    case "dict": {
      const map = mapOf(source, element.start);
      for (let index = 0; index < element.children.length; index++) {
        const key = element.children[index];
        const value = element.children[index + 1];
        if (!key || !value || key.name !== "key" || value.name === "key") {
          if (key && problems.length === 0) {
            const stray = `<${key.name}> has no key in front of it`;
            problems.push(source.problem(key.name === "key" ? `the key ${key.text} has no value` : stray, key.start));
          }
          continue;
        }
        map.entries.set(key.text, { start: key.textStart === -1 ? key.start : key.textStart, value: fromElement(source, value, problems) });
        index++;
      }
      return map;
    }
    case "array":
      return listOf(
        source,
        element.start,
        element.children.map((child) => fromElement(source, child, problems)),
      );
    case "true":
    case "false":
      return scalarOf(source, element.start, element.name === "true");
    default:
      if (!VALUES.has(element.name) && problems.length === 0)
        problems.push(source.problem(`<${element.name}> is no value of a property list`, element.start));
      return scalarOf(source, element.textStart === -1 ? element.start : element.textStart, element.text);
  }
}

const MAX_DEPTH = 200;

/** Characters that end a bare word, by code. */
const ENDS_BARE: Record<number, true> = Object.fromEntries([..." \n\r\t\f;,={}()<>\"'"].map((char) => [char.charCodeAt(0), true] as const));

/** The old text form: `{ key = value; }`, `( a, b )`, quoted and bare text, `<hex>` data, comments. */
function readTextPlist(source: Source): DataFile {
  const { text } = source;
  const problems: Problem[] = [];
  let position = 0;

  const fail = (message: string, offset: number): void => {
    if (problems.length === 0) problems.push(source.problem(message, offset));
  };

  const skip = (): void => {
    for (;;) {
      const code = text.charCodeAt(position);
      if (code === 32 || code === 10 || code === 13 || code === 9) position++;
      else if (code === 47 && text.charCodeAt(position + 1) === 47) {
        const end = text.indexOf("\n", position);
        position = end === -1 ? text.length : end;
      } else if (code === 47 && text.charCodeAt(position + 1) === 42) {
        const end = text.indexOf("*/", position + 2);
        if (end === -1) {
          fail("a comment is not closed", position);
          position = text.length;
        } else position = end + 2;
      } else return;
    }
  };

  const quoted = (): string => {
    const quote = text[position];
    const start = position++;
    let result = "";
    for (;;) {
      if (position >= text.length) {
        fail("a quoted string is not closed", start);
        return result;
      }
      const char = text[position++] as string;
      if (char === quote) return result;
      if (char !== "\\") {
        result += char;
        continue;
      }
      const escaped = text[position++] ?? "";
      result += { n: "\n", t: "\t", r: "\r" }[escaped] ?? escaped;
    }
  };

  const bare = (): string => {
    const start = position;
    while (position < text.length && !ENDS_BARE[text.charCodeAt(position)]) position++;
    return text.slice(start, position);
  };

  const scalar = (): Data => {
    const start = position;
    const char = text[position];
    if (char === '"' || char === "'") return scalarOf(source, start + 1, quoted());
    if (char === "<") {
      const end = text.indexOf(">", position);
      position = end === -1 ? text.length : end + 1;
      return scalarOf(source, start, text.slice(start + 1, position - 1));
    }
    return scalarOf(source, start, bare());
  };

  const value = (depth: number): Data => {
    skip();
    const start = position;
    if (depth > MAX_DEPTH) {
      fail(`nested more than ${MAX_DEPTH} levels deep`, start);
      position = text.length;
      return scalarOf(source, start, null);
    }
    if (text[position] === "{") return dictionary(depth);
    if (text[position] === "(") return array(depth);
    return scalar();
  };

  const dictionary = (depth: number): MapData => {
    const map = mapOf(source, position);
    const open = position++;
    for (;;) {
      skip();
      if (position >= text.length) {
        fail("the file ends inside a { that is opened here", open);
        return map;
      }
      if (text[position] === "}") {
        position++;
        return map;
      }
      const start = position;
      const key = scalar();
      skip();
      if (text[position] !== "=") {
        fail(`"=" expected after ${String((key as { value?: unknown }).value).slice(0, 40) || "this"}`, position);
        if (position === start) position++;
        continue;
      }
      position++;
      const name = key.kind === "scalar" ? String(key.value) : "";
      map.entries.set(name, { start: key.start, value: value(depth + 1) });
      skip();
      if (text[position] === ";") position++;
      else if (position < text.length) fail(`";" expected after the value of ${name.slice(0, 40)}`, position);
    }
  };

  const array = (depth: number): Data => {
    const list = listOf(source, position);
    const open = position++;
    for (;;) {
      skip();
      if (position >= text.length) {
        fail("the file ends inside a ( that is opened here", open);
        return list;
      }
      if (text[position] === ")") {
        position++;
        return list;
      }
      const start = position;
      list.items.push(value(depth + 1));
      skip();
      if (text[position] === ",") position++;
      else if (text[position] !== ")" && position < text.length) {
        fail('"," expected in a list', position);
        if (position === start) position++;
      }
    }
  };

  skip();
  if (text[position] !== "{" && text[position] !== "(") {
    fail("not a property list: it starts neither with XML nor with a {", position);
    return { source, root: undefined, problems };
  }
  return { source, root: value(0), problems };
}
