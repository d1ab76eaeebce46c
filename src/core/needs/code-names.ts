import { LANGUAGES, type Language } from "../model/code.js";
import type { SideName } from "../model/facts.js";
import { textAt, type Data } from "../syntax/data.js";
import { part } from "./context.js";

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

/** The names that a sheet gives for the code of a side: one for all its languages, and those of single languages. */
export function codeNames(value: Data, side: SideName): { name: string; language: Language | undefined }[] {
  if (value.kind !== "map") {
    const name = textAt(value);
    return name === undefined ? [] : [{ name, language: undefined }];
  }
  const own = part(value, side);
  const names: { name: string; language: Language | undefined }[] = own === undefined ? [] : [{ name: own, language: undefined }];
  for (const language of LANGUAGES) {
    const key = KEY_OF[language];
    const name = key === undefined || !LANGUAGES_OF[side].includes(language) ? undefined : part(value, key);
    if (name !== undefined) names.push({ name, language });
  }
  return names;
}

/** The first of the names, to show. */
export function codeName(value: Data, side: string): string | undefined {
  return codeNames(value, side === "both" ? "android" : (side as SideName))[0]?.name;
}
