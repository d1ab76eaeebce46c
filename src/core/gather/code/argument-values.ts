import type { App } from "../../model/app.js";
import type { CodeArgument } from "../../model/code.js";
import type { EntryKind } from "../../model/facts.js";
import { reason } from "../../model/reason.js";
import { known, unknown, type Value } from "../../model/value.js";
import { guardOf } from "../../syntax/code/guard.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { closing } from "../../syntax/code/callee.js";
import { endOfValue } from "../../syntax/code/names.js";
import { literalOf } from "../../syntax/code/shapes.js";
import type { FunctionRef } from "./function-ref.js";
import type { HeldValues, Located } from "./held-values.js";
import type { Program } from "./program.js";
import { isScript } from "./sources.js";

/** What an argument comes to: in all builds, or in each variant that has a value of its own; `written` is the expression that it stands for. */
export interface ArgumentValue {
  value: Value | undefined;
  byVariant: { variant: string; value: Value }[];
  written: string;
  /** The entry of the app's property list that code asks for, and that is in none of them; with `extra` before it, one of Expo's configuration. */
  lacks?: string;
}

const MOST_HOPS = 5;
const NOTHING: Omit<ArgumentValue, "written"> = { value: undefined, byVariant: [] };

/** Follows an argument to its text: through names, members of objects, and entries of the build that code asks for by name. */
export function argumentValue(
  app: App,
  program: Program,
  held: HeldValues,
  { text, literal, from }: CodeArgument,
  ref: FunctionRef,
): ArgumentValue {
  if (literal !== undefined) return { value: known(literal, ref.source.place(from + quoteOf(text))), byVariant: [], written: text };
  return inProduction(app, program, follow({ app, program, held }, text, from, ref, 0));
}

/** Where texts are looked up. */
interface Sources {
  app: App;
  program: Program;
  held: HeldValues;
}

/** The value of a file that a production build takes another for: each has its own. */
function inProduction({ replacedFiles }: App, program: Program, found: ArgumentValue): ArgumentValue {
  const { value } = found;
  if (value?.kind !== "known") return found;
  const of = (file: string | undefined): string | undefined => program.files.find(({ source }) => source.file === file)?.code.plain;
  const replaced = replacedFiles.find(({ file }) => file === value.place.file);
  const [plain, other] = [of(replaced?.file), of(replaced?.by)];
  if (!replaced || plain === undefined || other === undefined) return found;
  // The member of that text, as the other file has it.
  const at = [...plain.matchAll(/(\w+)\s*[:=]\s*(["'`])([^"'`\n]*)\2/g)].find((match) => match[3] === value.text);
  const match = at && new RegExp(`\\b${at[1] as string}\\s*[:=]\\s*(["'\`])([^"'\`\\n]*)\\1`).exec(other);
  const home = program.files.find(({ source }) => source.file === replaced.by)?.source;
  if (!at || !home) return found;
  const release = match
    ? known(match[2] as string, home.place(match.index + match[0].indexOf(match[1] as string) + 1))
    : unknown(reason("replacement-without-value", { file: replaced.by, name: at[1] as string }), home.place(0));
  return {
    ...found,
    value: undefined,
    byVariant: [
      { variant: "debug", value },
      { variant: "release", value: release },
    ],
  };
}

// eslint-disable-next-line complexity -- the ways to a value, the nearest first
function follow(of: Sources, expression: string, from: number, ref: FunctionRef, hop: number): ArgumentValue {
  const { app, program } = of;
  // What is taken where there is nothing, and casts, say nothing more.
  const text = expression
    .replace(/^(?:await|try[?!]?)\s+/, "")
    .replace(/\s+as[?!]?\s+[\w.<>?]+/g, "")
    .replace(/\s*(?:\?\?|\?:|\|\|)\s*(?:""|''|null|nil)\s*$/, "")
    .replace(/(?:!!?|\(\))$/, "")
    .trim();
  const literal = literalOf(text);
  if (literal !== undefined)
    return {
      value: known(literal, ref.source.place(from + Math.max(0, expression.indexOf(text)) + quoteOf(text))),
      byVariant: [],
      written: text,
    };
  const named = ref.source.language === "csharp" ? /^nameof\(\s*(?:[\w.]*\.)?(\w+)\s*\)$/.exec(text)?.[1] : undefined;
  if (named !== undefined) return { value: known(named, ref.source.place(from)), byVariant: [], written: text };
  const entry = entryOf(text, isScript(ref.source.language));
  if (entry) return { ...entryValues(app, ...entry), written: text };
  const either = hop > MOST_HOPS ? undefined : perBuild(text, from + Math.max(0, expression.indexOf(text)));
  if (either) {
    const byVariant = (["debug", "release"] as const).map((variant) => {
      const branch = either[variant];
      const { value } = follow(of, branch.text, branch.from, ref, hop + 1);
      return { variant, value: value ?? unknown(reason("not-followed", { what: branch.text }), ref.source.place(branch.from)) };
    });
    return { value: undefined, byVariant, written: text };
  }
  if (hop > MOST_HOPS) return { ...NOTHING, written: text };
  const held = heldText(of, from + Math.max(0, expression.indexOf(text)), text, ref);
  if (held) return follow(of, held.text, held.from, held.ref, hop + 1);
  const perKind = heldPerBuild(of, from + Math.max(0, expression.indexOf(text)), text, ref, hop);
  if (perKind) return perKind;
  if (!/^[\w$]+(?:\??!?\.[\w$]+)*$/.test(text)) return { ...NOTHING, written: text };
  const path = text.replace(/[?!]/g, "").split(".");
  if (/^(this|self|Self|it)$/.test(path[0] as string)) path.shift();
  const last = path.at(-1) as string;
  const branches = path.length > 2 ? [] : valuesPerBuild(program, path, ref);
  if (branches.length > 0) return { value: undefined, byVariant: branches, written: text };
  const own = ref.code.values.get(last) === null ? undefined : ref.code.constants.get(last);
  if (own) return { value: known(own.text, ref.source.place(own.from)), byVariant: [], written: text };
  if (ref.code.values.has(last)) return { ...NOTHING, written: text };
  const others = program.files.filter((other) => other.source.side === ref.source.side && other.code.constants.has(last));
  const [other] = others;
  const constant = others.length === 1 ? other?.code.constants.get(last) : undefined;
  return other && constant
    ? { value: known(constant.text, other.source.place(constant.from)), byVariant: [], written: text }
    : { ...NOTHING, written: text };
}

/** Names of the stage that ships. */
const SHIPS = /^(?:prod|production|live|release)$/i;

/** The expression for which one stands, where it is one alone, or the same text wherever it is written; in all builds, or in one kind of them. */
function heldText({ held }: Sources, from: number, text: string, ref: FunctionRef, build?: "debug" | "release"): Written | undefined {
  const all = held.writtenFor(from, from + text.length, ref, build);
  // Of the stages that an enumeration has the one that ships counts.
  const shipped = all.filter((one) => one.kind === "written" && one.constant !== undefined && SHIPS.test(one.constant));
  const found = (shipped.length > 0 ? shipped : all).map((one): Written | undefined => {
    const located = one.kind === "written" ? one.located : one.kind === "object" ? one.object : undefined;
    return located && writtenOf(located);
  });
  const [first] = found;
  const isOther = first && (first.from !== from || first.ref.code !== ref.code) && first.text !== text;
  return isOther && found.every((other) => other?.text === first.text) ? first : undefined;
}

function writtenOf({ expression: { kind, from, to }, ref }: Located): Written {
  const { plain } = ref.code;
  const end = kind === "other" ? endOfValue(plain, from) : kind === "object" ? closing(plain, from) + 1 : to;
  return { text: plain.slice(from, end).trim(), from, ref };
}

/** The texts of an expression in builds for debugging and in others, where it stands for another one in each. */
function heldPerBuild(of: Sources, from: number, text: string, ref: FunctionRef, hop: number): ArgumentValue | undefined {
  const branches = (["debug", "release"] as const).map((variant) => ({ variant, written: heldText(of, from, text, ref, variant) }));
  const [debug, release] = branches;
  if (!debug?.written || !release?.written || debug.written.text === release.written.text) return undefined;
  const byVariant = branches.flatMap(({ variant, written }) => {
    const value = written && follow(of, written.text, written.from, written.ref, hop + 1).value;
    return value ? [{ variant, value }] : [];
  });
  return byVariant.length === 2 ? { value: undefined, byVariant, written: text } : undefined;
}

/** The two values of `if (C) a else b` and `C ? a : b`, where the condition asks whether the build is one for debugging. */
function perBuild(text: string, from: number): Record<"debug" | "release", Branch> | undefined {
  const match =
    /^if\s*\(([^()]*(?:\([^()]*\)[^()]*)*)\)\s*([^\s{][^{}]*?)\s+else\s+([^\s{][^{}]*)$/s.exec(text) ??
    /^([^?]+?)\s*\?\s+([^:]+?)\s+:\s+([^:?]+)$/s.exec(text);
  if (!match) return undefined;
  const [, condition = "", first = "", second = ""] = match;
  const { kind } = guardOf(condition, false);
  if (kind !== "debug" && kind !== "release") return undefined;
  const branches = [first, second].map((branch) => ({ text: branch.trim(), from: from + text.lastIndexOf(branch) }));
  const [yes, no] = branches as [Branch, Branch];
  return kind === "debug" ? { debug: yes, release: no } : { debug: no, release: yes };
}

/** Arguments are looked at as far as this many UTF-16 units. */
const MOST_OF_ARGUMENT = 400;

interface Branch {
  text: string;
  from: number;
}

/** How far behind the name of a property its value may end, in UTF-16 units. */
const MOST_OF_PROPERTY = 600;

/**
 * The texts of a name that is declared once for debug builds and once for others, or whose body gives one text for each; nothing where that is
 * not so.
 */
function valuesPerBuild(program: Program, path: readonly string[], ref: FunctionRef): ArgumentValue["byVariant"] {
  const last = path.at(-1) as string;
  const files = path.length === 1 ? [{ source: ref.source, code: ref.code }] : program.types(path[0] as string);
  for (const { source, code } of files) {
    const { plain } = code;
    if (!plain.includes(last) || !/DEBUG|__DEV__|kDebugMode|kReleaseMode/.test(plain)) continue;
    const regions = buildRegions(plain);
    if (regions.length === 0) continue;
    const found = new Map<string, Value>();
    let others = 0;
    for (const match of plain.matchAll(new RegExp(`\\b${last}\\b\\s*(?::\\s*[\\w.?<>]+)?\\s*([={])(?!=)\\s*`, "g"))) {
      const start = match.index + match[0].length;
      const end = match[1] === "{" ? closing(plain, start - match[0].length + match[0].lastIndexOf("{")) : plain.indexOf("\n", start);
      const body = plain.slice(start, Math.min(end === -1 ? plain.length : end, start + MOST_OF_PROPERTY));
      for (const text of body.matchAll(/@?"([^"\\\n]*)"/g)) {
        const at = start + text.index;
        const variant = variantAt(regions, at);
        if (variant === undefined || found.has(variant)) others++;
        else found.set(variant, known(text[1] as string, source.place(at + text[0].indexOf('"') + 1)));
      }
    }
    if (others === 0 && found.size === 2) return [...found].map(([variant, value]) => ({ variant, value }));
  }
  return [];
}

interface Written {
  text: string;
  from: number;
  ref: FunctionRef;
}

/** The options that an argument holds which stands for a written object. */
export function optionsOf(
  held: HeldValues,
  { text, from }: CodeArgument,
  ref: FunctionRef,
): { argument: CodeArgument; ref: FunctionRef }[] {
  if (text.startsWith("{")) return [];
  const found = held.writtenFor(from, from + text.trim().length, ref, "release");
  const [only] = found;
  if (only?.kind !== "object" || found.length > 1) return [];
  return held.membersOf(only.object).map(({ key, value }) => {
    const { text: written, from: at, ref: of } = writtenOf(value);
    const short = written.slice(0, MOST_OF_ARGUMENT);
    return { argument: { label: key, text: short, literal: literalOf(short), from: at }, ref: of };
  });
}

/** Where the text of a literal begins in what is written. */
function quoteOf(text: string): number {
  return /^@?["'`]/.exec(text)?.[0].length ?? 1;
}

/** The entry of the build for which code asks by name. */
function entryOf(text: string, script: boolean): [EntryKind, string] | undefined {
  const field = /^(?:\w+\.)*BuildConfig\.(\w+)$/.exec(text)?.[1];
  if (field !== undefined) return ["buildConfig", field];
  const resource = /R\.string\.(\w+)/.exec(text)?.[1];
  if (resource !== undefined) return ["string", resource];
  const plist =
    /forInfoDictionaryKey:?\s*@?"([^"]+)"|objectForInfoDictionaryKey:\s*@"([^"]+)"|\binfoDictionary\b[^"]{0,8}\[\s*@?"([^"]+)"/.exec(text);
  if (plist) return ["plist", plist[1] ?? plist[2] ?? (plist[3] as string)];
  const variable = script ? /(?:process\.env|Config|import\.meta\.env)\.(\w+)$/.exec(text)?.[1] : undefined;
  if (variable !== undefined) return ["env", variable];
  // Source: docs.expo.dev, "expo-constants" (expoConfig.extra).
  const extra = script ? /\b(?:expoConfig|manifest)\s*[?!]?\.\s*extra\s*[?!]?\.\s*(\w+)$/.exec(text)?.[1] : undefined;
  return extra === undefined ? undefined : ["option", `extra ${extra}`];
}

function entryValues(app: App, kind: EntryKind, name: string): Omit<ArgumentValue, "written"> {
  const found = app.entries.filter((entry) => entry.kind === kind && entry.name === name && !entry.removed);
  const byVariant = found.flatMap(({ variant, value }) => (variant === undefined || !value ? [] : [{ variant, value }]));
  const plain = found.filter(({ variant }) => variant === undefined);
  // Xcode writes entries of the system itself.
  if (
    kind === "plist" &&
    found.length === 0 &&
    !/^(?:CF|NS|UI|LS)[A-Z]/.test(name) &&
    app.propertyLists.length > 0 &&
    app.openParts.length === 0
  )
    return { ...NOTHING, lacks: name };
  if (kind === "option" && found.length === 0 && app.optionNames?.includes(name.replace(/^extra /, "")) === false)
    return { ...NOTHING, lacks: name };
  return { value: plain.length === 1 && byVariant.length === 0 ? plain[0]?.value : undefined, byVariant };
}
