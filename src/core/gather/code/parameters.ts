import type { CodeFile, CodeFunction } from "../../model/code.js";
import { argumentsIn, closing } from "../../syntax/code/callee.js";
import { escaped } from "./mentions.js";
import { isScript } from "./sources.js";

/** A parameter of a function, or of the head of a class. */
export interface Parameter {
  name: string;
  label: string | undefined;
  index: number;
  /** It holds all that is given from its place on. */
  rest: boolean;
  type: string | undefined;
  /** The keys of an object that it takes apart, by the names that they get. */
  taken: ReadonlyMap<string, string> | undefined;
}

/** Where the brackets of a function open, and the type that it says it gives. */
export function headerOf(
  { plain, language }: CodeFile,
  { from, to, name }: CodeFunction,
): { open: number; returns: string | undefined } | undefined {
  const limit = Math.min(to, from + 400);
  const bare = isScript(language) && /^(?:async\s+)?[\w$]+\s*=>/.test(plain.slice(from, from + 60));
  const open = bare ? -1 : plain.indexOf("(", from);
  if (open === -1 || open > limit) return undefined;
  const behind = plain.slice(closing(plain, open) + 1, closing(plain, open) + 160);
  const returns =
    language === "swift"
      ? /^\s*(?:async\s+)?(?:throws\s+)?->\s*([\w.<>?]+)/.exec(behind)?.[1]
      : language === "kotlin" || isScript(language)
        ? /^\s*:\s*([^={\n]+(?:\[[^\]]*\])?)/.exec(behind)?.[1]?.trim()
        : new RegExp(`([A-Z]\\w*)\\??\\s+${escaped(name)}\\s*$`).exec(plain.slice(from, open))?.[1];
  return { open, returns };
}

/** The parameters between brackets. */
export function parametersIn({ plain, language }: CodeFile, open: number): Parameter[] {
  const list = argumentsIn(plain, open).map((part) => part.trim());
  if (language === "csharp" && /^this\s/.test(list[0] ?? "")) list.shift();
  return list.flatMap((written, index): Parameter[] => {
    const part = written
      .replace(/^(?:@\w+(?:\([^()]*\))?\s+)+/, "")
      .replace(/^[[{]\s*(?=[\w])|\s*[\]}]$/g, (sign) => (language === "dart" ? "" : sign));
    if (part.startsWith("{")) {
      const close = closing(part, 0);
      const taken = new Map(
        part
          .slice(1, close)
          .split(",")
          .flatMap((item) => {
            const [, key, as] = /^\s*([\w$]+)\s*(?::\s*([\w$]+))?/.exec(item) ?? [];
            return key === undefined ? [] : [[as ?? key, key] as const];
          }),
      );
      const type = /^\s*:\s*([\s\S]+?)(?:=\s*\{\s*\})?$/.exec(part.slice(close + 1))?.[1]?.trim();
      return [{ name: "", label: undefined, index, rest: false, type, taken }];
    }
    const rest = /^\.\.\.|\bvararg\s|^params\s|\.\.\.\s*(?:\w+)?$/.test(part);
    if (language === "kotlin" || language === "swift" || isScript(language)) {
      const match =
        /^(?:\.\.\.)?(?:(?:private|public|internal|protected|readonly|override|vararg|val|var|inout)\s+)*(?:(\w+)\s+)?([\w$]+)\s*\??\s*(?::\s*([\s\S]+?))?(?:\s*=[\s\S]*)?$/.exec(
          part,
        );
      return match
        ? [{ name: match[2] as string, label: match[1], index, rest, type: rest ? undefined : match[3]?.trim(), taken: undefined }]
        : [];
    }
    const match =
      /^(?:(?:required|final|this|in|ref|out|params)\s+)*(?:([\w.<>?,\s()[\]]+?)\s+)?(?:this\.)?_?([A-Za-z]\w*)(?:\s*=[\s\S]*)?$/.exec(
        part,
      );
    return match
      ? [{ name: match[2] as string, label: undefined, index, rest, type: rest ? undefined : match[1]?.trim(), taken: undefined }]
      : [];
  });
}

/** Constructors of Dart without a body are no functions of the file: `const Startup(this._steps);`. */
export function dartHead(code: CodeFile, type: string, { from, to }: { from: number; to: number }): Parameter[] {
  const head = new RegExp(`(?:^|[;{}\\n])\\s*(?:const\\s+)?${escaped(type)}\\s*\\(`).exec(code.plain.slice(from, to));
  return head ? parametersIn(code, from + head.index + head[0].length - 1) : [];
}
