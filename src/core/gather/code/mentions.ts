import type { CodeFile } from "../../model/code.js";
import { type SourceFile, isScript, mentions } from "./sources.js";

/** Whether an offset stands in an import, in a line that hands on what others give out, or in one that names the package of the file. */
export function isInImport({ language }: Pick<SourceFile, "language">, text: string, at: number): boolean {
  if (!isScript(language))
    return /^\s*(?:import|export|show|hide|package|using|namespace)\b[^(={]*$/.test(text.slice(text.lastIndexOf("\n", at) + 1, at));
  const near = text.slice(Math.max(0, at - 2_000), at);
  const start = Math.max(...[";", "\n\n", "\nimport", "\nexport"].map((sign) => near.lastIndexOf(sign)), -1);
  const before = near.slice(start + 1);
  return /^\s*(?:import\b(?!\s*\()|export\s*(?:\{|\*))[^;()=]*$/.test(before) && !/["']\s*\n[^}]*$/.test(before);
}

/**
 * What stands before a function that a closure gives to whoever asks it only to do something: an effect (which calls it when it ends), what
 * somebody touches, a timer, a frame. Sources: react.dev, "useEffect", "Responding to Events"; api.flutter.dev, `addPostFrameCallback`.
 */
const GIVEN_TO_NOBODY =
  /(?:\buse(?:Layout|Insertion)?Effect\(\s*\(\)|\bon[A-Z]\w*=\{\s*\([^()]*\)|\bset(?:Timeout|Immediate|Interval)\(\s*\(\)|\baddPostFrameCallback\(\s*\([^()]*\)|\bonPressed:\s*\(\)|\bonTap:\s*\(\)|\bFuture(?:\.(?:sync|microtask))?\(\s*\(\))\s*=>\s*(?:this\.|\w+\.)?$/;

/** Whether a name is that of a member of something else, which is only read. */
export function isMember(plain: string, at: number, name: string): boolean {
  return (
    /\.\s*$/.test(plain.slice(Math.max(0, at - 4), at)) && !/^\s*[(.)\],;}]/.test(plain.slice(at + name.length, at + name.length + 10))
  );
}

/** Whether a name is that of a method that is only declared: `void start();`. */
export function isSignature(plain: string, at: number, name: string): boolean {
  return (
    /(?:^|[;{}\n])\s*(?:[\w<>?,[\]]+\s+)+$/.test(plain.slice(Math.max(0, at - 80), at)) &&
    !/\b(?:return|await|new|throw|else)\s+$/.test(plain.slice(Math.max(0, at - 10), at)) &&
    /^\s*\([^()]*\)\s*;/.test(plain.slice(at + name.length, at + name.length + 200))
  );
}

/** Whether a name is that of a method that an interface of TypeScript declares: `start(key: string): void;`. */
export function isInInterface(plain: string, at: number, name: string): boolean {
  return (
    /[{;\n]\s*$/.test(plain.slice(Math.max(0, at - 20), at)) &&
    /^\??\s*(?:<[^<>()]*>)?\([^(){}]*(?:\([^()]*\)[^(){}]*)*\)\s*:\s*[^;{}=\n]+(?:[;\n,])/.test(
      plain.slice(at + name.length, at + name.length + 300),
    )
  );
}

/** Whether a name stands as a statement of its own, and nobody takes it. */
export function isIdle(plain: string, at: number, name: string): boolean {
  return (
    (GIVEN_TO_NOBODY.test(plain.slice(Math.max(0, at - 120), at)) &&
      /^\s*(?:[,;)}]|as\b)/.test(plain.slice(at + name.length, at + name.length + 20))) ||
    (/(?:^|[;{}\n])\s*(?:void\s+)?(?:[\w$]+(?:\([^()\n]*\))?[?!]?\.)*$/.test(plain.slice(Math.max(0, at - 120), at)) &&
      /^\s*(?:;|\n\s*[})]|$)/.test(plain.slice(at + name.length, at + name.length + 40)))
  );
}

/** Whether a file that was not parsed names something only to hand it on. */
export function onlyHandsOn(source: SourceFile, name: string): boolean {
  const { text } = source;
  return [...text.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))].every(({ index: at }) =>
    isInImport(source, text, at),
  );
}

/** Whether a header only declares the method of a name. */
export function onlyDeclaresMethod(text: string, name: string): boolean {
  return [...text.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))].every(({ index: at }) =>
    /^\s*[-+]\s*\(|^\s*\/\//.test(text.slice(text.lastIndexOf("\n", at) + 1, at)),
  );
}

export function isDefaultExport(code: CodeFile, name: string): boolean {
  return new RegExp(
    `export\\s+default\\s+(?:async\\s+)?(?:function\\s+|class\\s+|\\w+\\(\\s*)?${escaped(name)}\\b|export\\s*\\{[^}]*\\b${escaped(name)}\\s+as\\s|module\\.exports\\s*=\\s*(?:\\{[^}]*)?\\b${escaped(name)}\\b`,
  ).test(code.plain);
}

export function onlyDeclares(text: string, type: string): boolean {
  return mentions(text, type) <= (text.match(new RegExp(`@(?:interface|class|protocol)\\s+${escaped(type)}\\b`, "g"))?.length ?? 0);
}

export function escaped(name: string): string {
  return name.replace(/[$.*+?^(){}|[\]\\]/g, "\\$&");
}
