import type { Ecosystem } from "../model/facts.js";
import { compareIn } from "./ecosystem.js";

const VERSION = String.raw`v?\d[\w.+-]*`;
const COMPARISON = new RegExp(String.raw`^(<=|>=|<|>|=)?\s*(${VERSION})$`);
const INTERVAL = new RegExp(String.raw`^([[(])\s*(${VERSION})?\s*,\s*(${VERSION})?\s*([\])])$`);

/**
 * A span of versions as sheets write it, the same for every ecosystem, whose order decides: comparisons (`<4.2.0`; `>=4.0 <4.2`: both
 * hold), an interval (`[4.0,4.2)`), one version, or several of these with `||` between them. `undefined` when the text is none of these.
 */
export function inSpan(ecosystem: Ecosystem | undefined, version: string, span: string): boolean | undefined {
  let within = false;
  for (const alternative of span.split("||")) {
    const result = holds(ecosystem, version, alternative.trim());
    if (result === undefined) return undefined;
    within ||= result;
  }
  return within;
}

/** Whether a text is a span of versions. */
export function isSpan(span: string): boolean {
  return inSpan(undefined, "1", span) !== undefined;
}

function holds(ecosystem: Ecosystem | undefined, version: string, text: string): boolean | undefined {
  const interval = INTERVAL.exec(text);
  if (interval) {
    const [, open, low, high, close] = interval;
    const fromLow = low === undefined ? 1 : compareIn(ecosystem, version, low);
    const fromHigh = high === undefined ? -1 : compareIn(ecosystem, version, high);
    return (open === "[" ? fromLow >= 0 : fromLow > 0) && (close === "]" ? fromHigh <= 0 : fromHigh < 0);
  }
  const comparisons = text.replace(/([<>=])\s+/g, "$1").split(/[\s,]+/);
  let within = true;
  for (const comparison of comparisons) {
    const match = COMPARISON.exec(comparison);
    if (!match) return undefined;
    const order = compareIn(ecosystem, version, match[2] as string);
    const sign = match[1] ?? "=";
    within &&= (order < 0 && sign.startsWith("<")) || (order > 0 && sign.startsWith(">")) || (order === 0 && sign.endsWith("="));
  }
  return within;
}
