import type { Problem, Source } from "./source.js";

/** One line of a configuration file: a setting, or an include. Offsets are of the key and of the value. */
export interface XcconfigSetting {
  key: string;
  /** `sdk=iphoneos*` and the like, without the brackets; empty without a condition. */
  condition: string;
  value: string;
  start: number;
  valueStart: number;
}

export interface XcconfigFile {
  source: Source;
  includes: { path: string; optional: boolean; start: number }[];
  settings: XcconfigSetting[];
  problems: Problem[];
}

/** Reads an `.xcconfig` file: settings with conditions, `#include` and `#include?`, `//` comments. */
export function readXcconfig(source: Source): XcconfigFile {
  const file: XcconfigFile = { source, includes: [], settings: [], problems: [] };
  const { text } = source;
  let offset = 0;
  for (const raw of text.split("\n")) {
    const start = offset;
    offset += raw.length + 1;
    const comment = raw.indexOf("//");
    const line = comment === -1 ? raw : raw.slice(0, comment);
    if (line.trim() === "") continue;
    const include = /^\s*#include(\??)\s*"([^"]*)"/.exec(raw);
    if (include) {
      file.includes.push({
        path: include[2] ?? "",
        optional: include[1] === "?",
        start: start + (include[0].length - (include[2] ?? "").length - 1),
      });
      continue;
    }
    const setting = /^(\s*)([A-Za-z_][\w.]*)((?:\[[^\]]*\])*)(\s*=\s*)(.*?)\s*;?\s*$/.exec(line);
    if (!setting) {
      file.problems.push(source.problem('a line is neither a setting "NAME = value" nor an include', start));
      continue;
    }
    const [, indent = "", key = "", condition = "", equals = "", value = ""] = setting;
    // Source: Xcode help, "Build configuration file (xcconfig) reference" (comments).
    if (comment !== -1 && /\w:$/.test(raw.slice(0, comment)) && /^\/\/[\w$]/.test(raw.slice(comment)))
      file.problems.push(source.problem(`the value of ${key} ends before //, which begins a comment: write ${value}/$()/ instead`, start));
    file.settings.push({
      key,
      condition: condition.replace(/^\[|\]$/g, ""),
      value,
      start: start + indent.length,
      valueStart: start + indent.length + key.length + condition.length + equals.length,
    });
  }
  return file;
}
