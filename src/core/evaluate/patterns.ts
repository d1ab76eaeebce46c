import type { PatternResult } from "./values.js";

/** No text that is matched in a build script is longer. */
const MAX_SUBJECT = 2_000;

/**
 * A regular expression of a script, to be matched here. Only such as cannot take long: without groups that repeat, look-around and
 * back-references, and with few parts that repeat. `undefined` for others.
 */
export function plainPattern({ text, flags }: PatternResult, subject: string): RegExp | undefined {
  if (subject.length > MAX_SUBJECT || text.length > 200) return undefined;
  if (/\)[*+?{]|\(\?[^:]|\\[1-9kGK]|\\p|\[\[:|&&/.test(text)) return undefined;
  if ((text.match(/(?<!\\)[*+]|\{\d+,\}/g)?.length ?? 0) > 3) return undefined;
  // The ends of a text, as Ruby and Java write them.
  const plain = text
    .replace(/\\A/g, "^")
    .replace(/\\[zZ]/g, "$")
    .replace(/\\h/g, "[0-9a-fA-F]");
  try {
    return new RegExp(plain, `g${flags.includes("i") ? "i" : ""}`);
  } catch {
    return undefined;
  }
}
