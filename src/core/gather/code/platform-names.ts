import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { SystemName } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/** Something that names the platform it runs on, and the names that it gives. */
interface Teller {
  form: RegExp;
  names: readonly string[];
  /** The one kind of app in which it means the platform: elsewhere it may be data. */
  kind?: App["kind"];
}

/**
 * Sources: reactnative.dev, "Platform" (OS); capacitorjs.com, "Core APIs" (getPlatform); cordova.apache.org, "cordova-plugin-device" (device.platform) and
 * `cordova.platformId`; api.dart.dev, `Platform.operatingSystem`; learn.microsoft.com, `Device.RuntimePlatform` of Xamarin.Forms.
 */
const TELLERS: readonly Teller[] = [
  { form: compared(String.raw`\bPlatform\s*\.\s*OS`), names: ["ios", "android", "web", "windows", "macos"] },
  { form: compared(String.raw`\bgetPlatform\s*\(\s*\)`), names: ["ios", "android", "web"] },
  { form: compared(String.raw`\bcordova\s*\.\s*platformId`), names: ["ios", "android", "browser", "electron"] },
  { form: compared(String.raw`\bdevice\s*\.\s*platform`), names: ["iOS", "Android", "browser"], kind: "cordova" },
  { form: compared(String.raw`\bPlatform\s*\.\s*operatingSystem`), names: ["ios", "android", "linux", "macos", "windows", "fuchsia"] },
  { form: compared(String.raw`\bDevice\s*\.\s*RuntimePlatform`), names: ["iOS", "Android", "UWP", "macOS", "GTK", "Tizen", "WPF"] },
];

/** An expression that is compared with a text, on either side. */
function compared(expression: string): RegExp {
  return new RegExp(
    `${expression}\\s*[!=]==?\\s*(["'])([\\w ]+)\\1|(["'])([\\w ]+)\\3\\s*[!=]==?\\s*(?:\\w+\\s*\\.\\s*)*${expression}(?![\\w.])`,
    "g",
  );
}

const ANY = /\bPlatform\s*\.|\bgetPlatform\b|\bplatformId\b|\bdevice\s*\.\s*platform\b|\bRuntimePlatform\b/;

/** Names of platforms in conditions that no platform has, and that are almost those of one: the condition never holds. */
export function platformNames({ kind }: App, sources: readonly SourceFile[]): SystemName[] {
  const tellers = TELLERS.filter((teller) => teller.kind === undefined || teller.kind === kind);
  return sources.flatMap((source): SystemName[] => {
    if (source.side !== "shared" || !ANY.test(source.text)) return [];
    const text = withoutComments(source.text);
    const found = (name: string, offset: number, names: readonly string[]): SystemName[] => {
      const near = names.includes(name)
        ? undefined
        : names.find((other) => distance(other.toLowerCase(), name.toLowerCase()) <= (name.length > 5 && other.length > 5 ? 2 : 0));
      return near === undefined ? [] : [{ kind: "platform name", name, near, side: "shared", at: source.place(offset) }];
    };
    return [
      ...tellers.flatMap(({ form, names }) =>
        [...text.matchAll(form)].flatMap((match) => {
          const name = (match[2] ?? match[4]) as string;
          return found(name, match.index + match[0].lastIndexOf(name), names);
        }),
      ),
      ...[...text.matchAll(/\bPlatform\s*\.\s*select\s*(?:<[^>()]*>)?\(\s*\{/g)].flatMap((match) => {
        const open = match.index + match[0].length - 1;
        return keysOf(text, open).flatMap(([name, offset]) =>
          found(name, offset, ["ios", "android", "native", "default", "web", "windows", "macos"]),
        );
      }),
    ];
  });
}

/** The keys of an object literal, without those of objects in it. */
function keysOf(text: string, open: number): [name: string, offset: number][] {
  const end = closing(text, open);
  const keys: [string, number][] = [];
  for (let at = open + 1; at < end; at++) {
    const key = /^\s*(?:["'](\w+)["']|(\w+))\s*:/.exec(text.slice(at, Math.min(end, at + 200)));
    if (key) keys.push([(key[1] ?? key[2]) as string, at + key[0].search(/[\w]/)]);
    // To the comma behind the value.
    for (at += key ? key[0].length : 0; at < end && text[at] !== ","; at++)
      if (/[([{"'`]/.test(text[at] as string)) at = /["'`]/.test(text[at] as string) ? endOfText(text, at) : closing(text, at);
  }
  return keys;
}

function endOfText(text: string, open: number): number {
  let at = open + 1;
  for (; at < text.length && text[at] !== text[open]; at++) if (text[at] === "\\") at++;
  return at;
}
