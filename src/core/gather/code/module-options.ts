import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { ModuleHalf } from "../../model/code.js";
import { argumentsIn, closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import type { Native } from "./code-generation.js";
import { callsOf, type ModuleCalls } from "./module-functions.js";
import { nameOfModule } from "./react-native-modules.js";
import type { SourceFile } from "./sources.js";

/** A method of a native module with the options that it reads. */
interface Reading {
  side: "android" | "ios";
  module: string;
  name: string;
  read: ReadonlySet<string>;
  source: SourceFile;
  at: number;
}

/** A module of iOS whose methods are given an object. */
const OF_IOS = /@objc\b[^]*?(?:\bNSDictionary\b|\[\s*(?:String|AnyHashable)\s*:)|\bRCT_EXPORT_MODULE\b[^]*?\bNSDictionary\b/;

/**
 * Options that methods of React Native's native modules read and no script gives, beside one that scripts give and the method does not read. Sources:
 * reactnative.dev, "Android Native Modules" (ReadableMap), "iOS Native Modules" (NSDictionary).
 */
export function misreadByModules(app: App, sources: readonly SourceFile[]): ModuleHalf[] {
  if (app.kind !== "react-native" && app.kind !== "expo") return [];
  const natives = sources.flatMap((source): Native[] =>
    (source.side === "android" && /\bReadableMap\b/.test(source.text)) || (source.side === "ios" && OF_IOS.test(source.text))
      ? [{ source, text: withoutComments(source.text) }]
      : [],
  );
  if (natives.length === 0) return [];
  const calls = callsOf(sources, app.ownPackages);
  const methods = natives.flatMap((native) => (native.source.side === "android" ? ofAndroid(native) : ofIos(native)));
  return methods.flatMap((method) => {
    const other = methods.find(({ side, module, name }) => side !== method.side && module === method.module && name === method.name);
    return misread(method.read, other?.read, givenOptions(method.module, method.name, calls), sources).map(([read, given]): ModuleHalf => ({
      what: "option",
      side: method.side,
      name: `${method.name} of ${method.module}`,
      near: `${read} ${given}`,
      at: method.source.place(method.at),
    }));
  });
}

function ofAndroid({ source, text }: Native): Reading[] {
  const module = nameOfModule(text);
  if (module === undefined) return [];
  return [
    ...text.matchAll(
      /@ReactMethod\b(?:\([^)]*\))?[^(){};]{0,60}?\b(?:fun|void)\s+(\w+)\s*\(\s*(?:(\w+)\s*:\s*ReadableMap\b|(?:final\s+)?ReadableMap\s+(\w+))/g,
    ),
  ].flatMap((match) => readingOf(source, text, match, { side: "android", module, options: (match[2] ?? match[3]) as string }));
}

function ofIos({ source, text }: Native): Reading[] {
  const module =
    /@objc\s*\(\s*(\w+)\s*\)\s*(?:final\s+|public\s+|open\s+)*class\b/.exec(text)?.[1] ??
    /\bRCT_EXPORT_MODULE\s*\(\s*(\w+)\s*\)/.exec(text)?.[1] ??
    (/\bRCT_EXPORT_MODULE\s*\(\s*\)/.test(text) ? /@implementation\s+(?:RCT)?(\w+)/.exec(text)?.[1] : undefined);
  if (module === undefined) return [];
  const swift = [
    ...text.matchAll(/\bfunc\s+(\w+)\s*\(\s*(?:_\s+)?(\w+)\s*:\s*(?:NS(?:Mutable)?Dictionary|\[\s*(?:String|AnyHashable)\s*:)/g),
  ];
  const objective = [
    ...text.matchAll(
      /\bRCT_(?:EXPORT|REMAP)_METHOD\s*\(\s*(?:\w+\s*,\s*)?(\w+)\s*:\s*\(\s*NSDictionary\s*\*\s*(?:_Nonnull\s*|nonnull\s*)?\)\s*(\w+)/g,
    ),
  ];
  return [...swift, ...objective].flatMap((match) => readingOf(source, text, match, { side: "ios", module, options: match[2] as string }));
}

function readingOf(
  source: SourceFile,
  text: string,
  match: RegExpMatchArray & { index: number },
  { side, module, options }: { side: "android" | "ios"; module: string; options: string },
): Reading[] {
  const parameters = text.indexOf("(", match.index + (match[0].startsWith("@ReactMethod(") ? match[0].indexOf(")") : 0));
  const open = text.indexOf("{", closing(text, parameters));
  const body = open < 0 ? "" : text.slice(open, closing(text, open));
  const form = new RegExp(
    `\\b${options}\\s*[?!]*\\s*\\.\\s*(?:get[A-Z]\\w*|hasKey|isNull)\\s*\\(\\s*"(\\w+)"|\\b${options}\\s*[?!]?\\s*\\[\\s*@?"(\\w+)"|\\b${options}\\s*\\.\\s*(?:value|object)\\s*\\(\\s*forKey\\s*:\\s*"(\\w+)"`,
    "g",
  );
  const read = new Set([...body.matchAll(form)].map((one) => (one[1] ?? one[2] ?? one[3]) as string));
  return read.size > 0 ? [{ side, module, name: match[1] as string, read, source, at: match.index }] : [];
}

/** Options that one side reads and nobody gives, beside one that scripts give and it does not read. */
export function misread(
  read: ReadonlySet<string>,
  there: ReadonlySet<string> | undefined,
  given: ReadonlySet<string> | undefined,
  sources: readonly SourceFile[],
): [read: string, given: string][] {
  if (!given) return [];
  return [...read].flatMap((name): [string, string][] => {
    // An option that some script or type names is meant.
    const named = new RegExp(`\\b${name}\\b`);
    if (given.has(name) || there?.has(name) || sources.some(({ side, text }) => side === "shared" && named.test(text))) return [];
    const meant = [...given].find(
      (one) => !read.has(one) && (there?.has(one) === true || distance(one, name) <= 2 || name.startsWith(one)),
    );
    return meant === undefined ? [] : [[name, meant]];
  });
}

/** The options that all calls of a method give; `undefined` where one of them is not written out. */
export function givenOptions(module: string, method: string, calls: readonly ModuleCalls[]): ReadonlySet<string> | undefined {
  const given = new Set<string>();
  let any = false;
  for (const { name, source, calls: own } of calls) {
    if (name !== module) continue;
    for (const call of own) {
      if (call.method !== method) continue;
      const text = withoutComments(source.text);
      const [first = ""] = argumentsIn(text, text.indexOf("(", call.offset));
      const object = /^\s*\{([\s\S]*)\}\s*$/.exec(first)?.[1];
      if (object === undefined || object.includes("...")) return undefined;
      any = true;
      for (const part of argumentsIn(`(${object})`, 0)) {
        const key = /^\s*["']?(\w+)["']?\s*(?::|$)/.exec(part)?.[1];
        if (key !== undefined) given.add(key);
      }
    }
  }
  return any ? given : undefined;
}
