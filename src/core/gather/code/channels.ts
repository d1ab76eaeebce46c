import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, CodeFacts, ModuleHalf } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { isWithin, parentOf } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { closing, isInSight } from "../../syntax/code/callee.js";
import { argumentsAt, type Channel } from "./channel.js";
import { channelHalves } from "./channel-methods.js";
import { inComment, type SourceFile } from "./sources.js";

/** Dart and the native languages, whose constants see each other. */
type Family = "dart" | "jvm" | "apple";
const FAMILY: Partial<Record<SourceFile["language"], Family>> = {
  dart: "dart",
  kotlin: "jvm",
  java: "jvm",
  swift: "apple",
  objc: "apple",
};

/** How far a misspelt name is from the one that is meant, in letters. */
const NEAR = 2;
const DEEPEST = 6;

/** What generated bindings are called by: the interface that their channels belong to. Source: the generator's output, version 22. */
const GENERATED = /^dev\.flutter\.pigeon\.[\w.]*?(\w+)\.\w+$/;

/**
 * Channels between Dart and native code: the names that are asked for and offered, worked out through constants of other files, and the
 * methods of each. What cannot be worked out is offered under no name, so that nothing is said to be missing on its side.
 * Source: docs.flutter.dev, "Writing custom platform-specific code".
 */
export function readChannels(
  sources: readonly SourceFile[],
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): { bridges: BridgeFact[]; halves: ModuleHalf[] } {
  const relevant = sources.filter(
    ({ language, text }) => FAMILY[language] !== undefined && /Channel|PlatformView|UiKitView|AndroidView|withId\b|ViewFactory/.test(text),
  );
  if (!relevant.some(({ language }) => language === "dart")) return { bridges: [], halves: [] };
  const constants = new Constants(sources);
  const made = relevant.flatMap((source) => [...channelsIn(source, constants), ...viewsIn(source, constants)]);
  const facts: BridgeFact[] = made
    // What was generated is set up as a whole, or not: that is told of its interface.
    .filter(
      (channel) =>
        channel.source.language === "dart" ||
        GENERATED.test(channel.name ?? "") ||
        (isHandled(channel, sources) && isMade(channel, sources)),
    )
    .map(({ source, kind, name, offset, on }) => ({
      kind,
      name: name ?? "",
      role: source.language === "dart" ? "asked" : "offered",
      side: source.language === "dart" ? "shared" : source.side,
      ...(on ? { on } : {}),
      // A widget of one phone is looked for there alone, whatever else its file asks.
      guards: on && source.language === "dart" ? [] : guardsAt(source, offset),
      at: source.place(offset),
    }));
  facts.push(...generatedInterfaces(made, sources));
  noteMeant(facts);
  return {
    bridges: [...facts.filter(({ role, name }) => role === "offered" || name !== ""), ...methodsOf(made, constants, guardsAt)],
    halves: channelHalves(made, (expression, source, at) => constants.textOf(expression, source, at)),
  };
}

/** Channels that nobody offers, with the one that seems to be meant: native code offers it and nothing asks for it. */
function noteMeant(facts: readonly BridgeFact[]): void {
  const asked = new Set(facts.flatMap(({ role, name }) => (role === "asked" ? name : [])));
  const unasked = facts.filter(({ role, name }) => role === "offered" && name !== "" && !asked.has(name));
  const offered = new Set(facts.flatMap(({ role, name }) => (role === "offered" ? name : [])));
  for (const fact of facts) {
    if (fact.role !== "asked" || fact.name === "" || fact.kind === "generated interface" || offered.has(fact.name)) continue;
    // A name that cannot be made out may be any, on either side.
    const isOpen = facts.some(({ kind, name }) => kind === fact.kind && name === "");
    const names = (list: readonly BridgeFact[]): string[] => [...new Set(list.map(({ name }) => name))];
    const related = isOpen ? [] : names(unasked.filter(({ kind, name }) => kind === fact.kind && isRelated(name, fact.name)));
    const near = nearest(fact.name, names(unasked)) ?? (related.length === 1 ? related[0] : undefined);
    if (near !== undefined) fact.near = near;
  }
}

/** Whether two names differ in their last part alone, or one has a part more. */
function isRelated(one: string, other: string): boolean {
  const [first, second] = [one, other].map((name) => name.split(/[/.:]/)) as [string[], string[]];
  const above = Math.min(first.length, second.length) - (first.length === second.length ? 1 : 0);
  return above > 1 && Math.abs(first.length - second.length) <= 1 && first.slice(0, above).every((part, index) => part === second[index]);
}

/**
 * Interfaces of generated bindings: a side offers one where its code sets it up. Source: the generator's output for Kotlin, Java, Swift and
 * Objective-C (`setUp`, `XSetup`, `SetUpX`).
 */
function generatedInterfaces(made: readonly Channel[], sources: readonly SourceFile[]): BridgeFact[] {
  const facts: BridgeFact[] = [];
  const seen = new Set<string>();
  for (const { source, name, offset } of made) {
    const api = GENERATED.exec(name ?? "")?.[1];
    if (api === undefined || seen.has(`${api} ${source.side} ${source.language === "dart" ? "dart" : ""}`)) continue;
    seen.add(`${api} ${source.side} ${source.language === "dart" ? "dart" : ""}`);
    const others = sources.filter((other) => other !== source && other.side === source.side);
    const dart = source.language === "dart";
    const used = dart
      ? new RegExp(`(?<![\\w$])${api}\\s*\\(`)
      : new RegExp(
          `(?<![\\w$])\\w*${api}(?:Setup)?\\s*\\.\\s*(?:Companion\\s*\\.\\s*)?set[uU]p\\s*\\(([^()]|\\([^()]*\\))*?(?<!null|nil)\\s*\\)|\\bSetUp\\w*${api}\\s*\\(|\\b\\w*${api}Setup\\s*\\(`,
        );
    const by = others.flatMap((other) => {
      const match = used.exec(other.text);
      return match && !inComment(other.text, match.index) ? [other.place(match.index)] : [];
    })[0];
    // Generated code that nothing uses asks for nothing, and offers nothing.
    if (by)
      facts.push({
        kind: "generated interface",
        name: api,
        role: dart ? "asked" : "offered",
        side: dart ? "shared" : source.side,
        guards: [],
        at: by,
      });
    else if (!dart)
      facts.push({
        kind: "generated interface",
        name: `${api} `,
        role: "offered",
        side: source.side,
        guards: [],
        at: source.place(offset),
      });
  }
  // Set up on neither side, although both have what was generated.
  for (const fact of facts)
    if (
      fact.role === "asked" &&
      !facts.some(({ role, name }) => role === "offered" && name === fact.name) &&
      facts.some(({ name }) => name === `${fact.name} `)
    )
      fact.near = "";
  return facts.filter(({ name }) => !name.endsWith(" "));
}

/**
 * The app's own plugin classes that nothing adds to the engine: the generated registrant has those of packages only. Source: docs.flutter.dev,
 * "Plugins in apps" (FlutterEngine.plugins.add, register(with:)).
 */
export function unaddedPlugins({ kind, sourceFolders }: App, sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  if (kind !== "flutter") return [];
  const found: CodeFacts["unnamed"] = [];
  // Native code beside the library of a package is the registrant's to add.
  const libraries = new Set(sourceFolders.flatMap(({ folder, side }) => (side === "shared" ? parentOf(folder) : [])));
  const ofPackages = sourceFolders.filter(({ folder, side }) => side !== "shared" && libraries.has(parentOf(folder)));
  for (const source of sources) {
    const { side, language } = source;
    if (ofPackages.some(({ folder }) => isWithin(source.file, folder))) continue;
    if ((side !== "android" && side !== "ios") || !source.text.includes("FlutterPlugin")) continue;
    const text = withoutComments(source.text);
    const form =
      language === "objc"
        ? /@interface\s+(\w+)\s*:[^\n<]*<[^>\n]*\bFlutterPlugin\b/g
        : /(?<!abstract\s|open\s)\bclass\s+(\w+)[^{;]*?(?::|\bimplements\b|\bextends\b)[^{;]*\bFlutterPlugin\b(?!\.)/g;
    for (const match of text.matchAll(form)) {
      const name = match[1] as string;
      const added =
        side === "ios"
          ? new RegExp(
              `\\b${name}\\s*\\.\\s*(?:self\\s*\\.\\s*)?register\\s*\\(|\\[\\s*${name}\\s+(?:registerWith|class)|\\b${name}\\.self\\b`,
            )
          : new RegExp(`(?<!\\bclass\\s)\\b${name}\\s*\\(|::\\s*${name}\\b|\\b${name}::`);
      const body = (other: SourceFile): string => withoutComments(other.text);
      if (sources.some((other) => other !== source && other.side === side && other.text.includes(name) && added.test(body(other))))
        continue;
      // An object of Kotlin, and what its own file makes.
      if (new RegExp(`\\bobject\\s+${name}\\b|\\.plugins\\b[^\\n]*\\b${name}\\b`).test(text)) continue;
      found.push({
        name,
        what: "plugin",
        side,
        wanted:
          side === "ios" ? `the plugins of the engine: ${name}.register(with:)` : "the plugins of the engine, in configureFlutterEngine",
        at: source.place(match.index + match[0].indexOf(name)),
      });
    }
  }
  return found;
}

/** Whether anything answers on a channel of native code: a handler is set, or it goes on to something else. */
function isHandled({ source, offset, end, kind }: Channel, sources: readonly SourceFile[]): boolean {
  if (kind === "platform view") return true;
  const { text, side } = source;
  if (/^\s*[?!]?\s*\.\s*\w/.test(text.slice(end, end + 60))) return true;
  const before = text.slice(Math.max(0, offset - 160), offset);
  const variable = /([\w.]+)\s*(?::\s*[\w<>?.!]+\s*)?=\s*\[?$/.exec(before)?.[1]?.split(".").at(-1);
  // Part of a larger expression, or a statement of its own, which goes nowhere.
  if (variable === undefined) return !/(^|[;{}\n])\s*$/.test(before);
  const use = new RegExp(
    `\\b${variable}\\b\\s*[!?]*\\s*\\.\\s*(?:set\\w*Handler(?!\\s*\\(\\s*(?:null|nil)\\b)|invokeMethod|send|apply|also|let|run)\\b|[(,:]\\s*(?:\\w+\\.)?${variable}\\b\\s*[!?]*\\s*[,)\\]]|channel:\\s*(?:\\w+\\.)?${variable}\\b|\\[\\s*(?:\\w+\\.)?${variable}\\s+(?:set|invoke|send)|\\breturn\\s+${variable}\\b|\\bwith\\s*\\(\\s*${variable}\\b`,
  );
  if (use.test(text)) return true;
  // A member may be used by another file, with its owner before it.
  const member = new RegExp(`[\\w)\\]?!]\\s*\\.\\s*${variable}\\b`);
  return sources.some((other) => other.side === side && other.file !== source.file && member.test(other.text));
}

/** Types of which the system or the framework makes the objects. */
const MADE_BY_OTHERS = /Plugin|AppDelegate|SceneDelegate|Activity|Application|Service|Receiver|Provider|ViewController|Fragment|@main/;

/**
 * Whether a channel is ever made: something makes an object of its class, more than a property that nothing is put into, and something calls the function that it is
 * made in.
 */
function isMade({ source, offset }: Channel, sources: readonly SourceFile[]): boolean {
  const { language, side, file } = source;
  if (language !== "swift" && language !== "kotlin" && language !== "java") return true;
  const plain = withoutComments(source.text);
  const around = [...plain.slice(0, offset).matchAll(/^[ \t]*(?:[\w@()]+[ \t]+)*class[ \t]+(\w+)[^{;]*\{/gm)].filter(
    (head) => closing(plain, head.index + head[0].length - 1) > offset,
  );
  const name = around.at(-1)?.[1];
  if (name === undefined || around.some(([head]) => MADE_BY_OTHERS.test(head))) return true;
  const named = new RegExp(`(?<![\\w$])${name}(?![\\w$])`);
  const others = sources.filter((other) => other.file !== file && other.side === side && other.text.includes(name));
  // `.init(…)` makes what the property is.
  const rest = (text: string): string =>
    /=\s*\.init\s*\(/.test(text)
      ? text
      : text.replace(new RegExp(`${PROPERTY}${name}\\s*[?!]?[ \\t]*(?:=\\s*n(?:il|ull)\\s*)?;?[ \\t]*$`, "gm"), "");
  if (
    !named.test(plain.replace(new RegExp(`\\b(?:class|extension)\\s+${name}\\b`, "g"), "")) &&
    !others.some((other) => named.test(rest(withoutComments(other.text))))
  )
    return false;
  const holder = functionAround(plain, offset, language);
  if (holder === undefined) return true;
  const called = new RegExp(`(?<!\\b(?:func|fun|void)\\s{1,8})\\b${holder}\\b`);
  return [plain, ...others.map((other) => withoutComments(other.text))].some((text) => called.test(text));
}

/** A property or field without a value, which nothing that injects fills. */
const PROPERTY =
  "(?<!Inject(?:ed)?\\s{1,40})^[ \\t]*(?:(?:private|fileprivate|internal|protected|public|weak|lateinit|final|static)[ \\t]+)*(?:(?:var|let|val)[ \\t]+\\w+[ \\t]*:[ \\t]*|(?=\\w+[ \\t]+\\w+[ \\t]*;))";

/** The name of the function of a class that an offset is in, where only the app's own code can call it: what overrides is called by others. */
function functionAround(plain: string, offset: number, language: SourceFile["language"]): string | undefined {
  const form =
    language === "java"
      ? /^[ \t]*((?:@\w+\s+)*)(?:(?:public|private|protected|static|final)[ \t]+)*void[ \t]+(\w+)\s*\(/gm
      : /^[ \t]*((?:@\w+(?:\([^)\n]*\))?\s+|[a-z]+[ \t]+)*)fun(?:c)?[ \t]+(\w+)\s*\(/gm;
  for (const match of [...plain.slice(0, offset).matchAll(form)].reverse()) {
    const end = closing(plain, match.index + match[0].length - 1);
    const open = plain.slice(end + 1, end + 120).search(/\{/);
    if (end < 0 || open < 0 || closing(plain, end + 1 + open) < offset) continue;
    return /override|@|@objc/i.test(match[1] ?? "") ? undefined : match[2];
  }
  return undefined;
}

function channelsIn(source: SourceFile, constants: Constants): Channel[] {
  const { text, language } = source;
  const found: Channel[] = [];
  const add = (kind: string | undefined, expression: string | undefined, offset: number, end: number): void => {
    if (expression === undefined || inComment(text, offset)) return;
    const lower = (kind ?? "").toLowerCase();
    found.push({
      source,
      kind: lower.includes("event") ? "event channel" : lower.includes("message") ? "message channel" : "method channel",
      name: constants.textOf(expression, source, offset),
      offset,
      end,
    });
  };
  if (language === "objc") {
    for (const match of text.matchAll(/\b(method|event|message)\w*WithName:\s*([\s\S]{1,300}?)\s*binaryMessenger:/g)) {
      // The variable stands before the class, the end behind the bracket.
      const open = text.lastIndexOf("[", match.index);
      const end = text.indexOf("]", match.index + match[0].length);
      add(match[1], match[2], open < 0 ? match.index : open, end < 0 ? text.length : end + 1);
    }
    return found;
  }
  const form =
    language === "swift"
      ? /\bFlutter(Method|Event|BasicMessage)Channel\s*\(/g
      : /\b(?:Optional)?(Method|Event|BasicMessage)Channel\s*(?:<[^()]{0,80}?>)?\(/g;
  for (const match of text.matchAll(form)) {
    const open = match.index + match[0].length - 1;
    const list = argumentsAt(text, open);
    // Java says `new` before it.
    const start = /\bnew\s+$/.exec(text.slice(Math.max(0, match.index - 8), match.index))?.[0].length ?? 0;
    const offset = match.index - start;
    const end = list.end;
    if (language === "dart") add(match[1], list.parts[0], offset, end);
    else if (language === "swift")
      add(match[1], list.parts.find((part) => /^name\s*:/.test(part))?.replace(/^name\s*:\s*/, ""), offset, end);
    // The messenger comes first; a parameter of that type in a declaration has no second argument.
    else if (list.parts.length > 1) add(match[1], list.parts[1]?.replace(/^name\s*=\s*/, ""), offset, end);
  }
  return found;
}

/**
 * Views of native code that Dart puts into its own, by the widget of each phone, and the factories that native code registers. Source:
 * docs.flutter.dev, "Hosting native Android views", "Hosting native iOS views".
 */
function viewsIn(source: SourceFile, constants: Constants): Channel[] {
  const { text, language } = source;
  const found: Channel[] = [];
  const add = (expression: string | undefined, offset: number, end: number, on?: "android" | "ios"): void => {
    if (expression === undefined || inComment(text, offset)) return;
    found.push({ source, kind: "platform view", name: constants.textOf(expression, source, offset), offset, end, ...(on ? { on } : {}) });
  };
  if (language === "dart") {
    for (const match of text.matchAll(
      /\b(?:(AndroidView|PlatformViewLink|init(?:Surface|Expensive)?AndroidView)|(UiKitView|initUiKitView))\s*\(/g,
    )) {
      const { parts, end } = argumentsAt(text, match.index + match[0].length - 1);
      const type = parts.find((part) => /^viewType\s*:/.test(part))?.replace(/^viewType\s*:\s*/, "");
      add(type, match.index, end, match[1] === undefined ? "ios" : "android");
    }
  } else if (language === "objc") {
    for (const match of text.matchAll(/\bregisterViewFactory:[\s\S]{1,200}?\bwithId:\s*([^\]\s]+)/g))
      add(match[1], match.index, match.index + match[0].length);
  } else
    for (const match of text.matchAll(language === "swift" ? /\.\s*register\s*\(/g : /\bregisterViewFactory\s*\(/g)) {
      const { parts, end } = argumentsAt(text, match.index + match[0].length - 1);
      const id =
        language === "swift"
          ? parts.find((part) => /^withId\s*:/.test(part))?.replace(/^withId\s*:\s*/, "")
          : parts.length > 1
            ? parts[0]?.replace(/^viewTypeId\s*=\s*/, "")
            : undefined;
      add(id, match.index, end);
    }
  return found;
}

/** The methods that Dart calls on a channel, and those that each side's file with the channel names. */
function methodsOf(
  made: readonly Channel[],
  constants: Constants,
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): BridgeFact[] {
  const facts: BridgeFact[] = [];
  const byFile = new Map<SourceFile, Channel[]>();
  // Only a method channel has methods.
  for (const channel of made)
    if (channel.kind === "method channel") byFile.set(channel.source, [...(byFile.get(channel.source) ?? []), channel]);
  const handlers = handlersOf(made, byFile);
  for (const [source, channels] of byFile) {
    const [channel] = channels;
    if (source.language !== "dart" || channels.length !== 1 || channel?.name === undefined) continue;
    const sides = handlers.get(channel.name);
    // A side without the channel is told as that, and a library for one phone has no other.
    const wanted = source.guards.some(({ kind }) => kind === "android" || kind === "ios") ? 1 : 2;
    if (!sides || sides.size < wanted) continue;
    const calls: { method: string; offset: number }[] = [];
    for (const match of source.text.matchAll(/\binvoke(?:List|Map)?Method\s*(?:<[^();]{0,80}>)?\s*\(/g)) {
      const method = constants.textOf(argumentsAt(source.text, match.index + match[0].length - 1).parts[0] ?? "", source, match.index);
      if (method !== undefined && !inComment(source.text, match.index)) calls.push({ method, offset: match.index });
    }
    facts.push(...factsOfCalls(source, channel.name, calls, sides, { constants, guardsAt }));
  }
  return facts;
}

/** The files of each side that handle a channel, by its name. */
function handlersOf(
  made: readonly Channel[],
  byFile: Map<SourceFile, Channel[]>,
): Map<string, Map<"android" | "ios" | "shared", SourceFile[]>> {
  const handlers = new Map<string, Map<SideName, SourceFile[]>>();
  for (const { source, name, kind } of made) {
    if (kind !== "method channel" || source.language === "dart" || name === undefined || byFile.get(source)?.length !== 1) continue;
    const sides = handlers.get(name) ?? new Map<SideName, SourceFile[]>();
    handlers.set(name, sides.set(source.side, [...(sides.get(source.side) ?? []), source]));
  }
  return handlers;
}

/** The methods that are called, and the sides that take them. */
function factsOfCalls(
  source: SourceFile,
  channel: string,
  calls: readonly { method: string; offset: number }[],
  sides: ReadonlyMap<SideName, SourceFile[]>,
  { constants, guardsAt }: { constants: Constants; guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"] },
): BridgeFact[] {
  const facts: BridgeFact[] = [];
  const asked = new Set(calls.map(({ method }) => method));
  const all = [...sides].map(([side, files]) => [side, handledIn(files, asked, constants)] as const);
  for (const { method, offset } of calls) {
    const name = `${method} of ${channel}`;
    const fact: BridgeFact = {
      kind: "channel method",
      name,
      role: "asked",
      side: "shared",
      guards: guardsAt(source, offset),
      at: source.place(offset),
    };
    if (all.every(([, methods]) => methods !== undefined && !methods.has(method))) {
      const [first] = all;
      fact.near =
        nearest(
          method,
          [...(first?.[1] ?? [])].filter((other) => !asked.has(other)),
        ) ?? "";
    }
    facts.push(fact);
    for (const [side, methods] of all) {
      const file = sides.get(side)?.[0];
      if (file && (methods === undefined || methods.has(method)))
        facts.push({
          kind: "channel method",
          name,
          role: "offered",
          side,
          guards: [],
          at: file.place(Math.max(0, file.text.indexOf(method))),
        });
    }
  }
  return facts;
}

/** Constants that a call's method is compared with: of a branch, of a `case`, behind `==` or a method that compares. */
const COMPARED =
  /^[ \t]*([A-Z]\w*(?:\.\w+)*)(?:\s*,\s*[A-Z][\w.]*)*\s*->|\bcase\s+\.?([A-Za-z]\w*(?:\.\w+)*)(?:\.rawValue)?\s*:|\b(?:method\s*==|isEqualToString:|\.equals\s*\()\s*([A-Za-z]\w*(?:\.\w+)*)/gm;

/** The names that the files with a channel compare a call's method with; `undefined` where they hand the calls on to something else. */
function handledIn(files: readonly SourceFile[], asked: ReadonlySet<string>, constants: Constants): Set<string> | undefined {
  const found = new Set<string>();
  // The method is turned into a value of another type first.
  let isTurned = false;
  for (const source of files) {
    const { text } = source;
    isTurned ||= /\b(?:rawValue\s*:|valueOf\s*\(|[A-Z]\w*\s*\.\s*\w+\s*\()\s*call\s*\.\s*method\b/.test(text);
    for (const match of text.matchAll(COMPARED)) {
      const name = (match[1] ?? match[2] ?? match[3]) as string;
      const method = constants.textOf(name, source, match.index);
      if (method !== undefined) found.add(method);
    }
    for (const match of text.matchAll(/"((?:[^"\\\n]|\\.)*)"/g)) {
      const literal = match[1] as string;
      const around = text.slice(Math.max(0, match.index - 40), match.index + match[0].length + 6);
      if (asked.has(literal) || /\bmethod\b|\bcase\s*@?"|->|isEqualToString:/.test(around)) found.add(literal);
    }
  }
  if (isTurned && [...asked].some((method) => !found.has(method))) return undefined;
  return [...asked].some((method) => found.has(method)) || (found.size > 0 && files.some(({ text }) => /\.method\b/.test(text)))
    ? found
    : undefined;
}

function nearest(name: string, others: readonly string[]): string | undefined {
  return others.find((other) => Math.abs(other.length - name.length) <= NEAR && distance(name, other) <= NEAR);
}

/** A name that is given a text or something made of others: the rest of the line, or of the next where that has nothing. */
const CONSTANT =
  /(?:\b(?:const|final|static|let|val|var|String)\b|NSString\s*\*)[^=\n;{}]{0,120}?\b(\w+)\s*(?::[^=\n]{1,60})?=(?![=>])\s*(@?["'\w][^;\n]{0,300})|#\s*define\s+(\w+)\s+(@?"[^\n]{0,300})/g;

/** Parts of an expression that can be a text: literals and names, put together with `+`. */
const PART = /^\s*(?:@?(["'])((?:(?!\1)[^\\\n]|\\.)*)\1|([A-Za-z_][\w.]*))\s*(?:(\+)|(?:\/\/.*)?$)/;

interface Definition {
  expression: string;
  source: SourceFile;
  offset: number;
}

/** Constants of texts of all files, by their names. */
class Constants {
  private readonly found = new Map<string, Definition[]>();

  constructor(sources: readonly SourceFile[]) {
    for (const source of sources) {
      const family = FAMILY[source.language];
      if (family === undefined) continue;
      for (const match of source.text.matchAll(CONSTANT)) {
        const key = `${family} ${match[1] ?? match[3] ?? ""}`;
        const list = this.found.get(key) ?? [];
        list.push({ expression: (match[2] ?? match[4] ?? "").replace(/[\s,)}]+$/, ""), source, offset: match.index });
        this.found.set(key, list);
      }
    }
  }

  /**
   * What an expression is: a text, with what is put into it, a constant, or several of them put together; `undefined` where that cannot be made
   * out.
   * @param at where it stands: of names that a file gives to several things, the one before it whose block is still open is meant
   */
  textOf(expression: string, source: SourceFile, at: number, depth = 0): string | undefined {
    if (depth > DEEPEST) return undefined;
    let rest = expression;
    let whole = "";
    for (;;) {
      const part = PART.exec(rest);
      if (!part) return undefined;
      const [all, quote, literal = "", name = "", more] = part;
      const text = quote === undefined ? this.named(name, source, at, depth) : this.filled(literal, source, at, depth);
      if (text === undefined) return undefined;
      whole += text;
      if (more === undefined) return whole;
      rest = rest.slice(all.length);
    }
  }

  /** The text of a constant by its name. */
  private named(name: string, source: SourceFile, at: number, depth: number): string | undefined {
    const list = this.found.get(`${FAMILY[source.language] ?? ""} ${name.split(".").at(-1) ?? ""}`) ?? [];
    const own = list.filter((one) => one.source === source);
    const texts = new Set(
      (own.length > 0 ? own : list).flatMap((one) => this.textOf(one.expression, one.source, one.offset, depth + 1) ?? []),
    );
    if (texts.size < 2) return [...texts][0];
    const last = own.filter(({ offset }) => offset < at).at(-1);
    return last && isInSight(source.text, last.offset, at) ? this.textOf(last.expression, source, last.offset, depth + 1) : undefined;
  }

  private filled(text: string, source: SourceFile, at: number, depth: number): string | undefined {
    const put =
      source.language === "swift"
        ? /\\\(([\w.]+)\)/g
        : source.language === "dart" || source.language === "kotlin"
          ? /\$\{([\w.]+)\}|\$(\w+)/g
          : undefined;
    if (!put) return text;
    let open = false;
    const filled = text.replace(put, (_, a: string | undefined, b: string | undefined) => {
      // The suffix of generated bindings is empty where nobody gives one.
      const inner = /[cC]hannelSuffix$/.test(a ?? b ?? "") ? "" : this.named(a ?? b ?? "", source, at, depth + 1);
      if (inner === undefined) open = true;
      return inner ?? "";
    });
    return open || (source.language !== "objc" && /\$\{|\\\(/.test(filled)) ? undefined : filled;
  }
}
