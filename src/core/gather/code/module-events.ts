import { distance } from "fastest-levenshtein";
import type { BridgeFact, ModuleHalf } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import type { Native } from "./code-generation.js";
import { escaped } from "./mentions.js";
import { nameOfModule, type GuardsAt } from "./react-native-modules.js";
import { isScript, type SourceFile } from "./sources.js";

/** How far a misspelt name is from the one that is meant, in letters. */
const NEAR = 2;

/** Events that a module sends and does not list among those it supports, where both are written out. */
export function unlistedEvents(ios: readonly Native[]): ModuleHalf[] {
  const overrides = ios.some(({ text }) => /\bsupportedEvents\b/.test(text));
  const isEmitter = ios.some(({ text }) => /:\s*RCTEventEmitter\b/.test(text));
  return ios.flatMap(({ source, text }) => {
    if (!overrides && isEmitter)
      return sendsOf(text)
        .slice(0, 1)
        .map(([name, offset]) => listed(source, name, offset));
    const list =
      /\bsupportedEvents\s*\(\s*\)\s*->\s*\[String\]!?\??\s*\{\s*(?:return\s*)?\[([^\]]*)\]\s*\}/.exec(text) ??
      /\bsupportedEvents\s*\{\s*return\s*@\[([^\]]*)\]\s*;\s*\}/.exec(text);
    if (!list) return [];
    const parts = (list[1] ?? "").split(",").flatMap((part) => (part.trim() === "" ? [] : part.trim()));
    const names = parts.map((part) => /^@?"([^"\n]*)"$/.exec(part)?.[1]);
    if (names.some((name) => name === undefined) || [...text.matchAll(/\bsupportedEvents\b/g)].length !== 1) return [];
    return sendsOf(text).flatMap(([name, offset]) => (names.includes(name) ? [] : [listed(source, name, offset)]));
  });
}

function listed(source: SourceFile, name: string, offset: number): ModuleHalf {
  return { what: "listed event", side: "ios", name, near: undefined, at: source.place(offset) };
}

/** Events that a module of iOS sends under a name that is written out. */
function sendsOf(text: string): [name: string, offset: number][] {
  return [...text.matchAll(/\bsendEvent\s*\(\s*withName\s*:\s*"([^"\n]+)"|\bsendEventWithName\s*:\s*@"([^"\n]+)"/g)].map((match) => [
    (match[1] ?? match[2]) as string,
    match.index,
  ]);
}

/**
 * The events that native code sends by the framework's calls, also through a function of its own that hands the name on; `undefined` for one whose
 * name is worked out.
 */
function sentIn(text: string): (string | undefined)[] {
  const found: (string | undefined)[] = [];
  for (const match of text.matchAll(
    /\.emit\s*\(\s*(?:"(\w+)"|(\w+(?:\.\w+)*))|\bsendEvent\s*\(\s*withName\s*:\s*(?:"(\w+)"|(\w+))|\bsendEventWithName\s*:\s*(?:@"(\w+)"|(\w+))/g,
  )) {
    const literal = match[1] ?? match[3] ?? match[5];
    const name = (match[2] ?? match[4] ?? match[6])?.split(".").at(-1);
    if (literal !== undefined || name === undefined) {
      found.push(literal);
      continue;
    }
    const constant = new RegExp(`\\b${name}\\b\\s*(?::\\s*String\\s*)?=\\s*@?"(\\w+)"`).exec(text)?.[1];
    // The nearest function before it that is given the name.
    const helper = [
      ...text.slice(0, match.index).matchAll(new RegExp(`\\b(\\w+)\\s*\\([^(){}]*\\b(?:${name}\\s*:\\s*String|String\\s+${name})\\b`, "g")),
    ].at(-1)?.[1];
    const handed =
      helper === undefined
        ? []
        : [...text.matchAll(new RegExp(`(?<!\\bfun\\s|\\bvoid\\s)\\b${helper}\\s*\\([^()"]*"(\\w+)"`, "g"))].map(([, event]) => event);
    if (constant === undefined && handed.length === 0) found.push(undefined);
    else found.push(...(constant === undefined ? handed : [constant]));
  }
  return found;
}

/** What makes listeners of events in a script, and the module that each is made for. */
interface Emitters {
  names: ReadonlySet<string>;
  /** Modules of Expo, which are their own emitters, by the variables that hold them. */
  own: ReadonlyMap<string, string>;
  /** What is written in the brackets of an emitter that a variable holds. */
  heldFor: ReadonlyMap<string, string>;
}

function emittersIn(text: string): Emitters {
  const pairs = (form: RegExp): [string, string][] => [...text.matchAll(form)].map((match) => [match[1] as string, match[2] ?? ""]);
  const own = new Map(
    pairs(/\b(?:const|let|var)\s+(\w+)\s*(?::[^=\n]{1,60})?=\s*require(?:Optional)?NativeModule\s*(?:<[^()]{0,80}>)?\(\s*["'](\w+)["']/g),
  );
  const heldFor = new Map(pairs(/\b(\w+)\s*(?::[^=\n]{1,60})?=\s*new\s+NativeEventEmitter\b(?:\s*\(([^()]*)\))?/g));
  return { names: new Set(["DeviceEventEmitter", "NativeEventEmitter", ...own.keys(), ...heldFor.keys()]), own, heldFor };
}

/** Events of native modules, by the names under which native code sends them. Source: reactnative.dev, "Native Modules" (sending events). */
export class ModuleEvents {
  private readonly natives: readonly Native[];
  private readonly sent: readonly (string | undefined)[];
  /** The modules that the code of this tree offers. */
  private readonly modules: ReadonlySet<string>;

  constructor(
    private readonly sources: readonly SourceFile[],
    private readonly android: readonly Native[],
    private readonly ios: readonly Native[],
  ) {
    this.natives = [...android, ...ios];
    this.sent = this.natives.flatMap(({ text }) => sentIn(text));
    this.modules = new Set(this.natives.flatMap(({ text }) => nameOfModule(text) ?? exportedOnIos(text) ?? []));
  }

  /** Events that shared code listens to, and that one side's code alone has the name of. */
  asked(guardsAt: GuardsAt): BridgeFact[] {
    return this.sources.flatMap((source): BridgeFact[] => {
      if (source.side !== "shared" || !isScript(source.language)) return [];
      if (!/NativeEventEmitter|DeviceEventEmitter|NativeModule\s*[<(]/.test(source.text)) return [];
      const text = withoutComments(source.text);
      const emitters = emittersIn(text);
      return [...text.matchAll(/(\w+)(?:\s*\(([^()]*)\))?\s*\.\s*addListener\s*\(\s*["']([^"'\n]+)["']/g)].flatMap(
        (match): BridgeFact[] => {
          const [, emitter = "", brackets, name = ""] = match;
          if (!emitters.names.has(emitter)) return [];
          const near = this.isNamed(name) ? undefined : this.meant(name, emitters, emitter, brackets);
          const asked: BridgeFact = {
            kind: "event",
            name,
            role: "asked",
            side: "shared",
            guards: guardsAt(source, match.index),
            at: source.place(match.index),
            ...(near === undefined ? {} : { near }),
          };
          return [asked, ...this.offered(name)];
        },
      );
    });
  }

  private isNamed(name: string): boolean {
    return this.natives.some(({ text }) => text.includes(`"${name}"`));
  }

  private offered(name: string): BridgeFact[] {
    const sides = [
      ["android", this.android],
      ["ios", this.ios],
    ] as const;
    return sides.flatMap(([side, natives]) =>
      natives.flatMap(({ source, text }): BridgeFact[] => {
        const offset = text.indexOf(`"${name}"`);
        return offset < 0 ? [] : [{ kind: "event", name, role: "offered", side, guards: [], at: source.place(offset) }];
      }),
    );
  }

  /** The event that is meant by one which native code does not name; empty where it is certain that there is none, `undefined` where it is not. */
  private meant(name: string, { own, heldFor }: Emitters, emitter: string, brackets: string | undefined): string | undefined {
    const defined = this.natives.filter(({ text }) => text.includes(`Name("${own.get(emitter) ?? ""}")`));
    if (defined.length > 1) {
      const listed = defined.flatMap(({ text }) =>
        [...text.matchAll(/\bEvents\s*\(([^)]*)\)/g)].flatMap((list) =>
          [...(list[1] ?? "").matchAll(/"(\w+)"/g)].map((one) => one[1] as string),
        ),
      );
      return listed.find((other) => distance(other, name) <= NEAR) ?? "";
    }
    if (defined.length > 0) return undefined;
    const others = this.unheard();
    const near = others.find((other) => distance(other, name) <= NEAR);
    // What is sent under a name that is worked out may be any event of the module.
    const isOnly = others.length === 1 && !this.sent.includes(undefined) && this.isOwn(brackets ?? heldFor.get(emitter));
    return near ?? (isOnly ? others[0] : undefined);
  }

  /** Whether an emitter is made for a module that the code of this tree offers, by what stands in its brackets. */
  private isOwn(brackets: string | undefined): boolean {
    const module = brackets
      ?.replace(/\s+as\s.*$|!$/, "")
      .split(".")
      .at(-1)
      ?.trim();
    return module !== undefined && (this.modules.has(module) || this.modules.has(module.replace(/^Native/, "")));
  }

  /** The events that are sent and that no script names. */
  private unheard(): string[] {
    const isHeard = (name: string): boolean => {
      const quoted = new RegExp(`["'\`]${escaped(name)}["'\`]`);
      return this.sources.some(({ side, text }) => side === "shared" && quoted.test(text));
    };
    return [...new Set(this.sent.flatMap((name) => name ?? []))].filter((name) => !isHeard(name));
  }
}

/** The name under which a class of Objective-C is a module. */
function exportedOnIos(text: string): string | undefined {
  const name = /\bRCT_EXPORT_MODULE\s*\(\s*(\w*)/.exec(text)?.[1];
  return name === "" ? /@implementation\s+(\w+)/.exec(text)?.[1] : name;
}
