import type { SourceFile } from "./sources.js";

/** A channel that a file makes. */
export interface Channel {
  source: SourceFile;
  kind: "method channel" | "event channel" | "message channel" | "platform view";
  name: string | undefined;
  /** The phone on which shared code asks for it, where it is one alone. */
  on?: "android" | "ios";
  offset: number;
  /** Where the call that makes it ends. */
  end: number;
}

/** The arguments of the call whose bracket opens at `open`, and where it ends. */
export function argumentsAt(text: string, open: number): { parts: string[]; end: number } {
  const found: string[] = [];
  let depth = 0;
  let start = open + 1;
  for (let index = open; index < Math.min(text.length, open + 2_000); index++) {
    const character = text[index] as string;
    if (character === '"' || character === "'") {
      for (index++; index < text.length && text[index] !== character && text[index] !== "\n"; index++) if (text[index] === "\\") index++;
    } else if ("([{".includes(character)) depth++;
    else if (")]}".includes(character)) {
      if (--depth > 0) continue;
      const last = text.slice(start, index).trim();
      return { parts: last === "" ? found : [...found, last], end: index + 1 };
    } else if (character === "," && depth === 1) {
      found.push(text.slice(start, index).trim());
      start = index + 1;
    }
  }
  return { parts: found, end: text.length };
}
