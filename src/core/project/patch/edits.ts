import type { QuickFix } from "../../model/quick-fix.js";
import { closing } from "../../syntax/code/callee.js";

/** Text to put in place of a range, in UTF-16 units of the file's text. */
export interface Edit {
  from: number;
  to: number;
  text: string;
}

/** The edits that a mend means in a file's text; `undefined` where the text is not what the mend expects. */
export function editOf(quickFix: QuickFix, text: string): Edit | undefined {
  switch (quickFix.do) {
    case "replace":
      return replacement(text, offsetOf(text, quickFix.at), quickFix.from, quickFix.to);
    case "permission":
      return permission(text, quickFix.name);
    case "plist":
      return plistEntry(text, quickFix.key, quickFix.value, quickFix.list);
    case "repository":
      return repository(text, offsetOf(text, quickFix.after), quickFix.url, quickFix.after.file.endsWith(".kts"));
    case "rulesFile":
      return rulesFile(text, offsetOf(text, quickFix.after), quickFix.name);
  }
}

export function fileOf(quickFix: QuickFix): string {
  return quickFix.do === "permission" || quickFix.do === "plist"
    ? quickFix.file
    : quickFix.do === "replace"
      ? quickFix.at.file
      : quickFix.after.file;
}

/** A place's offset; a byte order mark at the start is no column. */
function offsetOf(text: string, { line, column }: { line: number; column: number }): number {
  let at = 0;
  for (let count = 1; count < line; count++) {
    at = text.indexOf("\n", at) + 1;
    if (at === 0) return text.length;
  }
  return at + column - 1 + (line === 1 && text.startsWith("\ufeff") ? 1 : 0);
}

function lineEnd(text: string): string {
  return text.includes("\r\n") ? "\r\n" : "\n";
}

function replacement(text: string, at: number, from: string, to: string): Edit | undefined {
  if (from === "") return undefined;
  const name = from.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  // The text itself, a place that is that of the quotes around it, a level that is written with `.0`, a version behind `group:artifact:`.
  const written = new RegExp(`^(["'\`]?(?:[\\w.-]+:[\\w.-]+:)?)(${name})((?:\\.0)?)(?![\\w.])`).exec(text.slice(at, at + 400));
  if (!written) return undefined;
  const start = at + (written[1] as string).length;
  const ending = written[3] as string;
  return { from: start, to: start + from.length + ending.length, text: to + (ending !== "" && !to.includes(".") ? ending : "") };
}

function permission(text: string, name: string): Edit | undefined {
  const eol = lineEnd(text);
  const tag = (indent: string): string => `${indent}<uses-permission android:name="${name}" />`;
  const last = [...text.matchAll(/^([ \t]*)<uses-permission\b[^<>]*(?:\/>|>\s*<\/uses-permission>)[ \t]*$/gm)].at(-1);
  if (last) {
    const end = last.index + last[0].replace(/\r$/, "").length;
    return { from: end, to: end, text: `${eol}${tag(last[1] ?? "")}` };
  }
  const root = /<manifest\b[^>]*[^/]>/.exec(text);
  if (!root) return undefined;
  const end = root.index + root[0].length;
  const indent = /\n([ \t]+)</.exec(text.slice(end))?.[1] ?? "    ";
  return { from: end, to: end, text: `${eol}${tag(indent)}` };
}

function plistEntry(text: string, key: string, value: string, list: boolean): Edit | undefined {
  const eol = lineEnd(text);
  const escaped = value.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");
  const name = key.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  const known = new RegExp(`([ \\t]*)<key>${name}</key>\\s*`).exec(text);
  if (known) {
    const at = known.index + known[0].length;
    const rest = text.slice(at);
    if (!list) {
      const empty = /^<string\s*\/>|^<string>\s*<\/string>/.exec(rest);
      return empty ? { from: at, to: at + empty[0].length, text: `<string>${escaped}</string>` } : undefined;
    }
    const open = /^<array>/.exec(rest);
    const indent = `${known[1] ?? ""}${/\n([ \t]*)<string>/.exec(rest)?.[1]?.slice((known[1] ?? "").length) || unitOf(text)}`;
    return open ? { from: at + open[0].length, to: at + open[0].length, text: `${eol}${indent}<string>${escaped}</string>` } : undefined;
  }
  const end = /([ \t]*)<\/dict>\s*<\/plist>\s*$/.exec(text);
  if (!end) return undefined;
  const indent = `${end[1] ?? ""}${unitOf(text)}`;
  const keyIndent = /\n([ \t]*)<key>/.exec(text)?.[1] ?? indent;
  const body = list
    ? `${keyIndent}<array>${eol}${keyIndent}${unitOf(text)}<string>${escaped}</string>${eol}${keyIndent}</array>`
    : `${keyIndent}<string>${escaped}</string>`;
  return { from: end.index, to: end.index, text: `${keyIndent}<key>${key}</key>${eol}${body}${eol}` };
}

/** One step of indentation, as the file has it. */
function unitOf(text: string): string {
  return /\n(\t| {2,4})<key>/.exec(text)?.[1] ?? "\t";
}

function repository(text: string, at: number, url: string, kotlin: boolean): Edit | undefined {
  const word = /^[\w.]+/.exec(text.slice(at));
  if (!word) return undefined;
  let end = at + word[0].length;
  for (let next = /^[ \t]*[({]/.exec(text.slice(end)); next; next = /^[ \t]*[({]/.exec(text.slice(end))) {
    const close = closing(text, end + next[0].length - 1);
    if (close >= text.length) return undefined;
    end = close + 1;
  }
  const statement = kotlin ? `maven("${url}")` : `maven { url '${url}' }`;
  const lineStart = text.lastIndexOf("\n", at - 1) + 1;
  const indent = text.slice(lineStart, at);
  const rest = /^[^\r\n]*/.exec(text.slice(end))?.[0] ?? "";
  if (indent.trim() === "" && /^\s*(\/\/.*)?$/.test(rest)) {
    const lineStop = end + rest.length;
    return { from: lineStop, to: lineStop, text: `${lineEnd(text)}${indent}${statement}` };
  }
  return { from: end, to: end, text: `; ${statement}` };
}

function rulesFile(text: string, at: number, name: string): Edit | undefined {
  const start = /["']/.test(text[at] ?? "") ? at : /["']/.test(text[at - 1] ?? "") ? at - 1 : -1;
  if (start === -1) return undefined;
  const quote = text[start] as string;
  const end = text.indexOf(quote, start + 1);
  if (end === -1 || text.slice(start, end).includes("\n")) return undefined;
  return { from: end + 1, to: end + 1, text: `, ${quote}${name}${quote}` };
}
