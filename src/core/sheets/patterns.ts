import type { Pattern, Sheet } from "../model/sheet.js";

/** Makes a pattern of a regular expression, for the whole of a text or for any part of it; throws on what is none. */
export type PatternCompiler = (expression: string, whole: boolean) => Pattern;

/** The engine is slow to load: only where there is a pattern. */
export async function patternCompiler(): Promise<PatternCompiler> {
  const { RE2JS } = await import("./re2.js");
  return (expression, whole) => {
    const compiled = RE2JS.compile(expression);
    return whole ? (text) => compiled.matches(text) : (text) => compiled.matcher(text).find();
  };
}

/** Sheets whose patterns are mere texts, as they can be kept. */
export function withoutPatterns(sheets: readonly Sheet[]): Sheet[] {
  return sheets.map((sheet) => ({ ...sheet, ...mapped(sheet, () => NOTHING) }));
}

/** The same sheets with their patterns, each made when it is first used. */
export async function withPatterns(sheets: readonly Sheet[]): Promise<Sheet[]> {
  if (sheets.every(({ patterns, searches }) => patterns.size === 0 && searches.size === 0)) return [...sheets];
  const compile = await patternCompiler();
  const onUse = (expression: string, whole: boolean): Pattern => {
    let pattern: Pattern | undefined;
    return (text) => (pattern ??= compile(expression, whole))(text);
  };
  return sheets.map((sheet) => ({ ...sheet, ...mapped(sheet, onUse) }));
}

/** Stands where a pattern will be; no function, as these cannot be kept. */
const NOTHING = undefined as unknown as Pattern;

function mapped({ patterns, searches }: Sheet, make: PatternCompiler): Pick<Sheet, "patterns" | "searches"> {
  const all = (map: Map<string, Pattern>, whole: boolean): Map<string, Pattern> =>
    new Map([...map.keys()].map((expression) => [expression, make(expression, whole)]));
  return { patterns: all(patterns, true), searches: all(searches, false) };
}
