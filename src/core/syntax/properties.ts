import { mapOf, scalarOf, type MapData } from "./data.js";
import type { Source } from "./source.js";

/** Reads a Java properties file: `key=value`, `key: value`, `key value`, `#` and `!` comments, `\` line joins and escapes. */
export function readProperties(source: Source): MapData {
  const map = mapOf(source, 0);
  const { text } = source;
  let offset = 0;
  while (offset < text.length) {
    const start = offset;
    let end = lineEnd(text, offset);
    let line = text.slice(start, end);
    while (/(^|[^\\])(\\\\)*\\$/.test(line) && end < text.length && !/^\s*[#!]/.test(line)) {
      const next = nextLine(text, end);
      const nextEnd = lineEnd(text, next);
      line = line.slice(0, -1) + text.slice(next, nextEnd).trimStart();
      end = nextEnd;
      if (next >= text.length) break;
    }
    offset = nextLine(text, end);
    const match = /^(\s*)((?:\\.|[^\s=:\\#!])(?:\\.|[^\s=:\\])*)(\s*[=:]?\s*)(.*)$/.exec(line);
    if (!match) continue;
    const [, indent = "", key = "", separator = "", value = ""] = match;
    const keyStart = start + indent.length;
    map.entries.set(unescape(key), {
      start: keyStart,
      value: scalarOf(source, keyStart + key.length + separator.length, unescape(value.trimEnd())),
    });
  }
  return map;
}

function lineEnd(text: string, from: number): number {
  for (let index = from; index < text.length; index++) {
    const code = text.charCodeAt(index);
    if (code === 10 || code === 13) return index;
  }
  return text.length;
}

function nextLine(text: string, end: number): number {
  return text[end] === "\r" && text[end + 1] === "\n" ? end + 2 : end + 1;
}

function unescape(text: string): string {
  if (!text.includes("\\")) return text;
  return text.replace(/\\(u[0-9a-fA-F]{4}|.)/g, (_, escaped: string) => {
    if (escaped.length === 5) return String.fromCharCode(Number.parseInt(escaped.slice(1), 16));
    return { n: "\n", t: "\t", r: "\r", f: "\f" }[escaped] ?? escaped;
  });
}
