import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { ModuleHalf } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** What one side hands to scripts under a name, with its keys, and what scripts read of it. */
interface Handed {
  side: "android" | "ios";
  keys: Set<string>;
  source: SourceFile;
  at: number;
}

/**
 * Values that scripts read of an event, and that native code of a side sends under another key. Sources: reactnative.dev, "Sending Events to JavaScript";
 * capacitorjs.com, "Plugin events" (notifyListeners).
 */
export function misreadEvents(app: App, sources: readonly SourceFile[]): ModuleHalf[] {
  if (app.kind !== "react-native" && app.kind !== "capacitor" && app.kind !== "expo") return [];
  const read = new Map<string, Set<string>>();
  for (const source of sources)
    if (source.side === "shared" && isScript(source.language) && source.text.includes("addListener"))
      readIn(withoutComments(source.text), read);
  if (read.size === 0) return [];
  const sent = new Map<string, Handed[]>();
  for (const source of sources)
    if ((source.side === "android" || source.side === "ios") && SENDS.test(source.text)) sentIn(source, source.side, read, sent);
  return [...sent].flatMap(([event, all]) =>
    all.flatMap((one): ModuleHalf[] => {
      const others = all.filter(({ side }) => side !== one.side);
      const there = all.filter(({ side }) => side === one.side);
      const own = new Set(there.flatMap(({ keys }) => [...keys]));
      const asked = read.get(event) ?? new Set<string>();
      const lost = [...asked].filter((key) => !own.has(key));
      const given = [...own].filter((key) => !asked.has(key));
      const [first] = lost;
      // What the other side has under that name is meant, or what is almost the same.
      const isMeant = first !== undefined && (others.some(({ keys }) => keys.has(first)) || given.some((key) => distance(key, first) <= 2));
      return isMeant && given[0] !== undefined && there[0] === one
        ? [{ what: "event value", side: one.side, name: event, near: `${first} ${given[0]}`, at: one.source.place(one.at) }]
        : [];
    }),
  );
}

const SENDS = /\bemit\s*\(|\bsendEvent|\bnotifyListeners\b/;
const LISTENS =
  /\baddListener\s*(?:<[^()]*>)?\(\s*(["'])(\w+)\1\s*,\s*(?:async\s*)?\(?\s*(?:\{([^{}]*)\}|(\w+))\s*(?::[^()=]{0,120}?)?\)?\s*=>/g;

/** The values that listeners read, by the event. */
function readIn(text: string, read: Map<string, Set<string>>): void {
  for (const match of text.matchAll(LISTENS)) {
    const [all, , event = "", taken, parameter] = match;
    const keys = read.get(event) ?? new Set<string>();
    read.set(event, keys);
    // What has a value of its own may be left out.
    for (const part of (taken ?? "").split(",")) {
      const key = /^\s*(\w+)\s*(?::\s*\w+\s*)?$/.exec(part)?.[1];
      if (key !== undefined) keys.add(key);
    }
    if (parameter === undefined) continue;
    const body = text.slice(match.index + all.length, closing(text, text.indexOf("(", match.index)));
    for (const [, key = ""] of body.matchAll(new RegExp(`(?<![\\w.])${parameter}\\.(\\w+)\\b(?!\\s*(?:\\?|\\(|\\|\\|))`, "g")))
      keys.add(key);
  }
}

/** What a side sends, by the event: the keys of what is put together in the function that sends it. */
function sentIn(source: SourceFile, side: "android" | "ios", read: ReadonlyMap<string, Set<string>>, sent: Map<string, Handed[]>): void {
  const text = withoutComments(source.text);
  for (const match of text.matchAll(/\b(?:emit|notifyListeners|sendEvent(?:WithName)?)\b\s*[(:]?\s*(?:withName\s*:\s*)?@?"(\w+)"/g)) {
    const event = match[1] as string;
    if (!read.has(event)) continue;
    const start = Math.max(text.lastIndexOf("func ", match.index), text.lastIndexOf("fun ", match.index), lastMethod(text, match.index), 0);
    const rest = /[;\n}]/.exec(text.slice(match.index + match[0].length));
    const open = text.indexOf("(", match.index);
    const end =
      text[match.index + match[0].length] === "," || open < match.index + match[0].length
        ? closing(text, open)
        : match.index + match[0].length + (rest?.index ?? 0);
    const keys = new Set([...text.slice(start, end).matchAll(GIVEN)].map((one) => (one[1] ?? one[2] ?? one[3]) as string));
    if (keys.size > 0) sent.set(event, [...(sent.get(event) ?? []), { side, keys, source, at: match.index }]);
  }
}

const GIVEN = /\bput(?:String|Int|Double|Boolean|Map|Array|Null)?\s*\(\s*"(\w+)"|@?"(\w+)"\s*:|"(\w+)"\s+to\b/g;

/** Where the method of Java or Objective-C begins that a place is in. */
function lastMethod(text: string, at: number): number {
  return (
    [
      ...text
        .slice(0, at)
        .matchAll(/^[ \t]*(?:-\s*\(\w+\)|(?:public|private|protected)\s+(?:static\s+)?void\s+\w+\s*\(|RCT_EXPORT_METHOD)/gm),
    ].at(-1)?.index ?? 0
  );
}
