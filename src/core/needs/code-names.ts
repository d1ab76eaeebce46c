import { LANGUAGES, type Language } from "../model/code.js";
import type { SideName } from "../model/facts.js";
import { isTable, textsIn, type NeedValue } from "../model/sheet.js";

/** Which key of a sheet names a language; the two forms of TypeScript are read like JavaScript. */
const KEY_OF: Partial<Record<Language, string>> = {
  kotlin: "kotlin",
  java: "java",
  swift: "swift",
  objc: "objc",
  javascript: "javascript",
  typescript: "javascript",
  tsx: "javascript",
  dart: "dart",
  csharp: "csharp",
};

const LANGUAGES_OF: Record<SideName, readonly Language[]> = {
  android: ["kotlin", "java", "csharp"],
  ios: ["swift", "objc", "csharp"],
  shared: ["javascript", "typescript", "tsx", "dart", "csharp"],
};

/** A name of a call, in all languages of a side or in one. */
export interface CodeName {
  name: string;
  language: Language | undefined;
}

/** The names that a sheet gives for the code of a side: one for all its languages, and those of single languages. */
export function codeNames(value: NeedValue, side: SideName): CodeName[] {
  if (!isTable(value)) return [{ name: value, language: undefined }];
  return [...textsIn(value, side).map((name) => ({ name, language: undefined })), ...languageNames(value, side)];
}

/** Those of single languages. */
export function languageNames(value: NeedValue, side: SideName): CodeName[] {
  return LANGUAGES.flatMap((language) => {
    const key = KEY_OF[language];
    return key === undefined || !LANGUAGES_OF[side].includes(language) ? [] : textsIn(value, key).map((name) => ({ name, language }));
  });
}

/** The first of the names, to show. */
export function codeName(value: NeedValue, side: string): string | undefined {
  return codeNames(value, side === "both" ? "android" : (side as SideName))[0]?.name;
}
