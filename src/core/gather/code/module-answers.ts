import type { ModuleHalf } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import type { Native } from "./code-generation.js";

/** A method of a native module that is given a promise: its name, where its parameters begin and what they are called. */
interface Answering {
  name: string;
  offset: number;
  promises: string[];
  body: string;
}

/**
 * Methods of React Native's native modules that are given a promise and never look at it. Source: reactnative.dev, "Android Native Modules" (Promises), "iOS
 * Native Modules" (RCTPromiseResolveBlock).
 */
export function unansweredPromises(natives: readonly Native[]): ModuleHalf[] {
  return natives.flatMap(({ source, text }) =>
    (source.side === "android" ? ofAndroid(text) : ofIos(text)).flatMap(({ name, offset, promises, body }): ModuleHalf[] => {
      const isUsed = promises.some((promise) => new RegExp(`\\b${promise}\\b`).test(body));
      return isUsed || /\b(throw|fatalError|TODO|NSAssert|super)\b/.test(body)
        ? []
        : [{ what: "no answer", side: source.side, name, near: undefined, at: source.place(offset) }];
    }),
  );
}

function ofAndroid(text: string): Answering[] {
  return [...text.matchAll(/(?:@ReactMethod\b(?:\([^)]*\))?|@?\b[oO]verride\b)[^(){};]{0,80}?\b(?:fun|void)\s+(\w+)\s*\(/g)].flatMap(
    (match): Answering[] => {
      const open = match.index + match[0].length - 1;
      const end = closing(text, open);
      const parameters = text.slice(open, end);
      const promise = /\b(\w+)\s*:\s*Promise\b|\bPromise\s+(\w+)/.exec(parameters);
      const body = bodyBehind(text, end);
      return promise && body !== undefined
        ? [{ name: match[1] as string, offset: match.index, promises: [(promise[1] ?? promise[2]) as string], body }]
        : [];
    },
  );
}

function ofIos(text: string): Answering[] {
  const swift = [...text.matchAll(/\bfunc\s+(\w+)\s*\(/g)].map((match) => ({ match, open: match.index + match[0].length - 1 }));
  const found = swift.flatMap(({ match, open }): Answering[] => {
    const end = closing(text, open);
    const promises = [...text.slice(open, end).matchAll(/\b(\w+)\s*:\s*(?:@escaping\s+)?RCTPromise(?:Resolve|Reject)Block/g)].map(
      ([, name = ""]) => name,
    );
    const body = bodyBehind(text, end);
    return promises.length > 0 && body !== undefined ? [{ name: match[1] as string, offset: match.index, promises, body }] : [];
  });
  const objective = [...text.matchAll(/\bRCT_(?:EXPORT|REMAP)_METHOD\s*\(|^-\s*\(\s*void\s*\)\s*/gm)].flatMap((match): Answering[] => {
    const isMacro = match[0].startsWith("RCT");
    const open = match.index + match[0].length - (isMacro ? 1 : 0);
    const brace = text.indexOf("{", match.index);
    const end = isMacro ? closing(text, open) : brace;
    const head = end > 0 ? text.slice(open, end) : "";
    const promises = [...head.matchAll(/RCTPromise(?:Resolve|Reject)Block\s*\)\s*(\w+)/g)].map(([, name = ""]) => name);
    const body = promises.length > 0 && !/;/.test(head) ? bodyBehind(text, end) : undefined;
    return body === undefined ? [] : [{ name: /\(?\s*(\w+)/.exec(head)?.[1] ?? "", offset: match.index, promises, body }];
  });
  return [...found, ...objective];
}

/** What a function does, behind its parameters: its block, or what stands behind the sign of one expression. */
function bodyBehind(text: string, end: number): string | undefined {
  const head = /^[^{};=]*(?:=|\{)/.exec(text.slice(end, end + 200))?.[0];
  if (head === undefined) return text[end] === "{" ? text.slice(end, closing(text, end)) : undefined;
  const at = end + head.length - 1;
  return text[at] === "{" ? text.slice(at, closing(text, at)) : (text.slice(at, at + 400).split(/\n\s*\n|\n\s*@/, 1)[0] ?? "");
}
