import { ANDROID_PERMISSION_PREFIX, ANDROID_PERMISSIONS } from "../../knowledge/android-permissions.js";
import { PURPOSE_KEYS } from "../../knowledge/purpose-keys.js";
import type { NeedKind, NeedValue, SheetNeed } from "../../model/sheet.js";
import type { PageBlock } from "../../syntax/page.js";

/** Something that a page tells people to do and that can be held against an app. */
export interface PageStep {
  on: SheetNeed["on"];
  kind: NeedKind;
  value: NeedValue;
  /** Only for some apps, as the page says. */
  optional: boolean;
  /** Only for apps that Expo makes the native projects of. */
  expo: boolean;
  line: number;
  /** The heading that it stands under. */
  section: string;
}

/** Something in a part about setting up that a person has to do by hand, or that was not understood. */
export interface PageRest {
  section: string;
  line: number;
  /** Only for some apps, as the page says. */
  optional: boolean;
  /** The first line of it. */
  text: string;
}

/** Where a page leads to for setting up. */
export interface PageLink {
  to: string;
  line: number;
  section: string;
}

export interface PageReading {
  steps: PageStep[];
  rest: PageRest[];
  links: PageLink[];
}

/** Links that lead to a page about setting up, by what they say or where they lead. */
const LEADS_TO_SETUP = /set-?up|install|getting[-_ ]?started|configur|permission|integrat|quick-?start/i;

/** Headings of parts that are about setting up, and of parts that are not. */
const SETUP =
  /\b(install(ation|ing)?|set[- ]?up|getting started|quick ?start|configur\w*|permissions?|linking|requirements?|prerequisites?|integration|plugin variables|(supported|minimum) (platforms?|versions?))\b/i;
/** Headings below which a system with a number is a level that is asked for. */
const LISTS_LEVELS = /\b(requirements?|prerequisites?|(supported|minimum) (platforms?|versions?))\b/i;
const PLATFORM = /\b(ios|android|expo|podfile|info\.?plist|manifest|gradle|proguard|native|manual\w*|bare)\b/i;
const ASIDE =
  /\b(api(?!s? (level )?\d)|props?|methods?|events?|examples?|troubleshoot\w*|faq|quirks?|(known|common) issues|change ?log|contribut\w*|licen[cs]e|migrat\w*|upgrad\w*|updating|breaking|deprecat\w*|test(s|ing)?|jest|mock\w*|web|windows|macos|tvos|types?|hooks?|reference|maintain\w*|sponsors?|credits?|roadmap|compatib\w*|releases?|version history|todo|demo|screenshots?|why|features?|comparison|development|error)\b/i;

/** Words by which a page says that a step is for some apps only. */
const OPTIONAL =
  /\boptional(ly)?\b|\bif (you|your app|the app|needed|required|necessary)\b|\bonly (if|when|those|the ones|needed)\b|\bin case\b|\bwhen you (want|need|use)\b|\buncomment\b|\bas needed\b|\bdepending on\b|\bwhich you (need|use)\b|\byou (may|can) (also )?(want|need|add|choose|remove)\b|\bremove (the ones|those|any)\b|\bkeep (only|those)\b|\bpick\b|\bchoose\b|\bto (enable|use|support) [^.,:]{0,50}\b(features?|functionality|support|mode)\b|\bAPI (level )?\d\d and (below|lower|older)\b/i;

/** What asks for something, in a sentence. */
const ASKS =
  /\b(add(ing)?|needs?|requir\w*|must|include|set|provide|declare|specify|put|append|insert|make sure|define|supports?|works? (with|on)|minimum|at least|bump|update|change|increase)\b/i;

/** A block that is no heading. */
type Content = Exclude<PageBlock, { kind: "heading" }>;

/** Where what stands around says that it is for some apps only; how far words reach. */
interface Part {
  level: number;
  setup: boolean | undefined;
  optional: boolean;
  /** What a package manager or the framework's linking does as well. */
  byHand: boolean;
  expo: boolean;
  title: string;
}

const MOST_LINKS = 10;

/** So many permissions or texts at once are a list to choose from, where a comment in it says so. */
const CATALOGUE = 6;
const CHOICE = /\bkeep (only|those)\b|\bonly (those|the ones)\b|\bwhich you\b|\buncomment\b|\bchoose\b|\bpick\b|\bremove\b/i;

/** The steps of a page that it gives for setting up, in its order, each once; what is said twice is asked for if it is once. */
// eslint-disable-next-line complexity -- one pass over blocks, each of which is read by what came before it
export function stepsOf(blocks: readonly PageBlock[], own: string): PageReading {
  const steps = new Map<string, PageStep>();
  const rest: PageRest[] = [];
  const links = new Map<string, PageLink>();
  const parts: Part[] = [];
  let before = "";
  for (const block of blocks) {
    if (block.kind === "heading") {
      while (parts.length > 0 && (parts.at(-1)?.level ?? 0) >= block.level) parts.pop();
      parts.push(partOf(block, parts.at(-1)));
      before = "";
      continue;
    }
    const part = parts.at(-1);
    const section = part?.title ?? "";
    if (block.kind === "text" && part?.setup !== false)
      for (const { text, to } of block.links)
        if (!/^#|^mailto:/.test(to) && LEADS_TO_SETUP.test(`${text} ${to}`)) links.set(to, { to, line: block.line, section });
    const texts = block.kind === "code" && part?.setup === false && IOS.test(part.title) ? fromElements(block.text) : [];
    if (!part || (part.setup !== true && texts.length === 0)) continue;
    // What the package does by itself is shown, and no step.
    if (block.kind === "code" && DONE_BY_ITSELF.test(before)) continue;
    const optional = part.optional || OPTIONAL.test(before);
    const found = draftsOf(texts, block, own, section);
    addSteps(found, part, block, optional, section, steps);
    addRest(block, found, rest, section, optional, part);
    // Words reach as far as the next block.
    if (block.kind !== "row") before = block.kind === "text" ? block.text : "";
  }
  return { steps: [...steps.values()], rest, links: [...links.values()].slice(0, MOST_LINKS) };
}

/** What a part about one platform asks of the property list it asks of all, also among remarks on how the platform behaves. */
const IOS = /\bios\b/i;

/** The steps that a block asks for, by its kind. */
function draftsOf(texts: Found[], block: Content, own: string, section: string): Draft[] {
  return texts.length > 0
    ? texts
    : block.kind === "code"
      ? fromCode(block, own)
      : block.kind === "row"
        ? named(block.cells.join(" | "))
        : fromText(block.text, LISTS_LEVELS.test(section));
}

/** The steps of a block, each once; what is asked for anywhere without a condition is asked for. */
function addSteps(found: Draft[], part: Part, block: Content, optional: boolean, section: string, steps: Map<string, PageStep>): void {
  for (const draft of found) {
    const value = draft.value;
    const key = `${draft.on} ${draft.kind} ${typeof value === "string" ? value : JSON.stringify(value)}`;
    const step: PageStep = {
      on: draft.on,
      kind: draft.kind,
      value,
      expo: part.expo,
      line: block.line + (draft.offset ?? 0),
      optional: part.optional || draft.optional === true || (block.kind !== "text" && optional),
      section,
    };
    const known = steps.get(key);
    if (!known) steps.set(key, step);
    else {
      known.optional &&= step.optional;
      known.expo &&= step.expo;
    }
  }
}

/** Native code of the page that was not understood. */
function addRest(block: Content, found: Draft[], rest: PageRest[], section: string, optional: boolean, part: Part): void {
  if (block.kind === "code" && found.length === 0 && isNative(block))
    rest.push({
      section,
      line: block.line,
      optional: optional || part.byHand,
      text:
        block.text
          .split("\n")
          .find((line) => line.trim() !== "")
          ?.trim()
          .slice(0, 120) ?? "",
    });
}

function partOf({ level, text }: PageBlock & { kind: "heading" }, above: Part | undefined): Part {
  const words = text.replace(/react[- ]native/gi, "");
  const strong = SETUP.test(words);
  const setup = ASIDE.test(words) && !strong ? false : strong ? true : PLATFORM.test(words) ? above?.setup !== false : above?.setup;
  return {
    level,
    title: text,
    setup,
    optional: (above?.optional ?? false) || OPTIONAL.test(text),
    byHand: (above?.byHand ?? false) || BY_HAND.test(text),
    expo: (above?.expo ?? false) || (/\bexpo\b/i.test(text) && !/\b(bare|cli|native)\b/i.test(text)),
  };
}

const DONE_BY_ITSELF =
  /\btakes? care of (adding|setting|linking)\b|\b(is|are|gets?|will be) (added|set|linked) (for you|automatically)\b|\bautomatically (adds?|sets?|links?)\b/i;
const BY_HAND = /\bmanual(ly)?\b/i;

interface Draft {
  on: SheetNeed["on"];
  kind: NeedKind;
  value: NeedValue;
  /** Lines below the start of the block. */
  offset?: number;
  optional?: boolean;
}

/** A change of a file of the native projects or of their settings: no command, and no use of the package in shared code. */
function isNative({ language, text }: PageBlock & { kind: "code" }): boolean {
  if (/^(bash|sh|shell|console|zsh|terminal|cmd|powershell|jsx?|tsx?|javascript|typescript|text|plain|dart|html)$/.test(language))
    return false;
  if (
    /^\s*(\$ |npm |npx |yarn |pnpm |bun |cd |pod (install|update)|flutter |ionic |cordova |phonegap |react-native |<(button|script|gap:plugin)\b)/.test(
      text,
    )
  )
    return false;
  return !/^\s*(import\b.*\bfrom\b|import\s*\{|const |let |var |export |await |<[A-Z]|require\()/m.test(text);
}

/** What somebody is to put into a file is short: a longer block is something else. In UTF-16 units. */
const LONGEST_BLOCK = 32_768;

function fromCode(block: PageBlock & { kind: "code" }, own: string): Draft[] {
  if (block.text.length > LONGEST_BLOCK) return [];
  const text = block.language === "diff" || (/^\+ ?\S/m.test(block.text) && block.language === "") ? addedLines(block.text) : block.text;
  const { shown, optional, isChoice } = withoutComments(text);
  const lineOf = (index: number): number => shown.slice(0, index).split("\n").length - 1;
  const found = [
    ...fromManifest(shown),
    ...fromPropertyList(shown),
    ...fromGradle(shown),
    ...fromPodfile(shown),
    ...fromKeepRules(shown),
    ...fromConfiguration(shown, block.language, own),
    ...fromProperties(shown, block.language),
    ...fromCommands(block, own),
  ];
  return found.map(({ at, ...draft }) => ({
    ...draft,
    offset: lineOf(at),
    optional: (isChoice && found.length >= CATALOGUE) || optional.some(([from, to]) => at >= from && at < to),
  }));
}

type Found = Draft & { at: number };

/** Lines that a change adds, in their places; what it takes away and what stands around is blanked out. */
function addedLines(text: string): string {
  return text
    .split("\n")
    .map((line) => (/^\s*\+(?!\+\+)/.test(line) ? line.replace(/^(\s*)\+/, "$1 ") : ""))
    .join("\n");
}

/** Comments are blanked out; one that says that something is optional holds for what follows it, up to the next empty line or comment. */
function withoutComments(text: string): { shown: string; optional: [from: number, to: number][]; isChoice: boolean } {
  const optional: [number, number][] = [];
  let isChoice = false;
  const shown = text.replace(
    /<!--[\s\S]*?(?:-->|$(?![\s\S]))|^[ \t]*(?:\/\/|#(?!if|else|endif|import|include)).*$/gm,
    (comment, offset: number) => {
      isChoice ||= CHOICE.test(comment);
      if (OPTIONAL.test(comment)) {
        const from = offset + comment.length;
        const next = /\n[ \t]*\n|<!--/.exec(text.slice(from));
        optional.push([from, next ? from + next.index : text.length]);
      }
      return comment.replace(/[^\n]/g, " ");
    },
  );
  return { shown, optional, isChoice };
}

function fromManifest(text: string): Found[] {
  const found: Found[] = [];
  for (const { 0: tag, index } of text.matchAll(/<uses-permission(?:-sdk-23)?\b[^<>]*/g)) {
    const of = (attribute: string): string | undefined => new RegExp(`\\bandroid:${attribute}\\s*=\\s*["']([\\w.|]+)["']`).exec(tag)?.[1];
    const name = of("name");
    if (name === undefined) continue;
    const attributes = Object.entries({ maxSdkVersion: of("maxSdkVersion"), flags: of("usesPermissionFlags") }).filter(
      ([, value]) => value !== undefined,
    );
    found.push({
      on: "android",
      kind: "permission",
      value: attributes.length === 0 ? name : { name, ...(Object.fromEntries(attributes) as Record<string, string>) },
      at: index,
    });
  }
  if (text.includes("<resources"))
    for (const match of text.matchAll(/<string\s[^<>]*?name\s*=\s*["'](\w+)["']/g))
      found.push({ on: "android", kind: "resource", value: match[1] ?? "", at: match.index });
  for (const match of text.matchAll(/<(activity|service|receiver|provider|meta-data)\b[^<>]*?android:name\s*=\s*["']([\w.$]+)["']/g))
    // The app's own screen is what such a block is put into.
    if (!/^\.?Main\w*$/.test(match[2] ?? "")) found.push({ on: "android", kind: "manifestEntry", value: match[2] ?? "", at: match.index });
  return found;
}

/** Purpose texts that the configuration of Cordova, or a plugin's, puts into the property list. */
function fromElements(text: string): Found[] {
  return [...text.matchAll(/<(?:edit-config|config-file)\b[^<>]*?\b(?:target|parent)\s*=\s*["']([\w.]+)["']/g)].flatMap(
    ({ 1: key = "", index }) => (PURPOSE_KEYS.includes(key) ? { on: "ios", kind: "purposeText", value: key, at: index } : []),
  );
}

function fromPropertyList(text: string): Found[] {
  const found: Found[] = fromElements(text);
  const lists: Readonly<Record<string, NeedKind>> = { UIBackgroundModes: "backgroundMode", LSApplicationQueriesSchemes: "queriedScheme" };
  for (const match of text.matchAll(/<key>\s*([\w.-]+)\s*<\/key>\s*(?:<(string|array|dict|true|false|integer|real)\b[^<>]*>)?/g)) {
    const [, key = "", type] = match;
    const at = match.index;
    if (PURPOSE_KEYS.includes(key)) found.push({ on: "ios", kind: "purposeText", value: key, at });
    else if (lists[key] !== undefined && type === "array") {
      const inside = /^([\s\S]*?)<\/array>/.exec(text.slice(at + match[0].length))?.[1] ?? "";
      for (const [, item = ""] of inside.matchAll(/<string>\s*([^<]*?)\s*<\/string>/g))
        if (/^[\w.+-]+$/.test(item)) found.push({ on: "ios", kind: lists[key], value: item, at });
    } else if (/^com\.apple\.(developer|security)\.|^aps-environment$/.test(key))
      found.push({ on: "ios", kind: "entitlement", value: key, at });
    else if (/^((NS|UI|LS|SK|IT|BG)[A-Z]\w+|CFBundleLocalizations)$/.test(key) && type !== undefined && isOutermost(text, at))
      found.push({ on: "ios", kind: "plistEntry", value: key, at });
  }
  return found;
}

/** Whether a key stands in no table inside of the block. */
function isOutermost(text: string, at: number): boolean {
  const before = text.slice(0, at);
  const open = (before.match(/<dict>/g)?.length ?? 0) - (before.match(/<\/dict>/g)?.length ?? 0);
  return open <= (/<plist\b/.test(before) ? 1 : 0) || (open === 1 && /^\s*(<\?xml[\s\S]*?)?<dict>/.test(before));
}

const GRADLE_LEVELS: Readonly<Record<string, NeedKind>> = {
  minSdk: "minSdk",
  compileSdk: "compileSdk",
  targetSdk: "targetSdk",
  kotlin: "kotlin",
};

function fromGradle(text: string): Found[] {
  const found: Found[] = [];
  for (const match of text.matchAll(/\b(minSdk|compileSdk|targetSdk|kotlin)(?:Version)?\s*[=( ]\s*["']?(\d+(?:\.\d+)*)\b/g)) {
    const kind = GRADLE_LEVELS[match[1] ?? ""];
    // The level that a template has anyway is an example of where the line stands.
    if (kind && kind !== "targetSdk") found.push({ on: "android", kind, value: match[2] ?? "", at: match.index });
  }
  for (const match of text.matchAll(
    /\bmaven\s{0,9}(?:\{\s{0,99}url|\(\s{0,9}(?:url\s{0,9}=)?)\s{0,9}[=(]?\s{0,9}(?:uri\()?["'](https?:\/\/[^"'\s]+)["']/g,
  ))
    found.push({ on: "android", kind: "repository", value: match[1] ?? "", at: match.index });
  return found;
}

function fromPodfile(text: string): Found[] {
  return [...text.matchAll(/^\s*platform\s*\(?\s*:ios\s*,\s*["']?(\d+(?:\.\d+)*)/gm)].map((match) => ({
    on: "ios" as const,
    kind: "iosTarget" as const,
    value: match[1] ?? "",
    at: match.index,
  }));
}

/** Entries of a file of properties: those of the Gradle build. */
function fromProperties(text: string, language: string): Found[] {
  if (language !== "properties") return [];
  return [...text.matchAll(/^[ \t]*([A-Za-z][\w.-]{0,99})[ \t]*=[ \t]*(\S{1,99})[ \t]*$/gm)].map((match) => ({
    on: "android" as const,
    kind: "gradleProperty" as const,
    value: { name: match[1] ?? "", ...(/^(true|false|\d[\d.]*)$/.test(match[2] ?? "") ? { value: match[2] ?? "" } : {}) },
    at: match.index,
  }));
}

function fromKeepRules(text: string): Found[] {
  return [...text.matchAll(/^[ \t]*(-keep\w*[ \t]+[^\n{]+(?:\{[^}]{0,2000}\})?)/gm)].map((match) => ({
    on: "android" as const,
    kind: "keepRule" as const,
    value: (match[1] ?? "").replace(/\s+/g, " ").trim(),
    at: match.index,
  }));
}

/** Purpose texts, permissions and the like in a framework's configuration. */
function fromConfiguration(text: string, language: string, own: string): Found[] {
  if (!/^(json5?|jsonc|js|javascript|ts|typescript|)$/.test(language)) return [];
  const found: Found[] = [];
  const plugins = /["']?\bplugins["']?\s*:\s*\[/.exec(text);
  if (plugins && [`"${own}"`, `'${own}'`].some((name) => text.includes(name, plugins.index)))
    found.push({ on: "shared", kind: "configPlugin", value: own, at: plugins.index });
  for (const match of text.matchAll(/["']?\b((?:NS\w+|NFCReader)UsageDescription)\b["']?\s*:/g))
    if (PURPOSE_KEYS.includes(match[1] ?? "")) found.push({ on: "ios", kind: "purposeText", value: match[1] ?? "", at: match.index });
  for (const match of text.matchAll(/["']permissions["']\s*:\s*\[([^\][]{0,2000})\]/g))
    for (const [, name = ""] of (match[1] ?? "").matchAll(/["']((?:android\.permission\.)?[A-Z_]+)["']/g)) {
      const full = name.startsWith(ANDROID_PERMISSION_PREFIX) ? name : ANDROID_PERMISSION_PREFIX + name;
      if (ANDROID_PERMISSIONS.includes(full.slice(ANDROID_PERMISSION_PREFIX.length)))
        found.push({ on: "android", kind: "permission", value: full, at: match.index });
    }
  return found;
}

/** Packages that an installation names beside the package itself. */
function fromCommands({ text, language }: PageBlock & { kind: "code" }, own: string): Found[] {
  if (language !== "" && !/^(bash|sh|shell|console|zsh|terminal)$/.test(language)) return [];
  const found: Found[] = [];
  for (const { 0: command, index } of text.matchAll(/^[ \t$>]*(?:cordova|ionic cordova|phonegap) plugins? add\b[^\n]*/gm))
    if (command.includes(own))
      for (const [, name = ""] of command.matchAll(/--variable\s+(\w+)=/g))
        found.push({ on: "shared", kind: "option", value: { of: own, name }, at: index });
  for (const match of text.matchAll(
    /^[ \t$>]*(?:npm (?:install|i|add)|yarn add|pnpm add|bun add|npx expo install|expo install)\b([^\n]*)/gm,
  )) {
    const words = (match[1] ?? "")
      .replace(/\s#.*/, "")
      .replace(/[;&|].*/, "")
      .trim()
      .split(/\s+/);
    if (words.some((word) => /^(-D|--dev|--save-dev|-g|--global)$/.test(word))) continue;
    const names = words
      .filter((word) => /^(@[\w.-]+\/)?[\w.-]+(@[\w.^~-]+)?$/.test(word) && !word.startsWith("-"))
      .map((word) => word.replace(/(?<=.)@[^/]*$/, ""));
    if (!names.includes(own)) continue;
    // A sentence in place of a command has no names of packages.
    for (const name of names)
      if (name !== own && /[-/]/.test(name)) found.push({ on: "both", kind: "companion", value: { package: name }, at: match.index });
  }
  return found;
}

/** Names of texts, permissions and levels in a sentence that asks for them. */
function fromText(text: string, listsLevels: boolean): Draft[] {
  return text
    .slice(0, LONGEST_BLOCK)
    .split(/(?<=[.!?:;])\s+/)
    .flatMap((sentence) => {
      if (!ASKS.test(sentence) && !listsLevels) return [];
      const levels = (listsLevels || ASKS_LEVEL.test(sentence)) && !TELLS_OF_DEVICES.test(sentence) ? levelsIn(sentence) : [];
      const optional = OPTIONAL.test(sentence);
      return [...named(sentence), ...levels].map((draft) => ({ ...draft, optional }));
    });
}

/** What asks for a level of the project, and what tells how systems behave. */
const ASKS_LEVEL = /\b(requires?|required|minimum|target|at least|bump|set|update|increase|needs?|raise)\b/i;
const TELLS_OF_DEVICES = /\b(running|devices?|users?|starting|since|previously|before|earlier|older|simulator)\b/i;

/** What says that something is not asked for. */
const DENIES = /\b(no longer|not|n't|without|instead of|remove)\b|n't\b/i;

function named(text: string): Draft[] {
  const found: Draft[] = [];
  // As the editor of the property list shows them.
  for (const [, title = ""] of text.matchAll(/\bPrivacy\s*[-–]\s*([\w ]+?) Usage Description\b/g)) {
    const plain = `ns${title.replace(/ /g, "")}usagedescription`.toLowerCase();
    const key = PURPOSE_KEYS.find((name) => name.toLowerCase() === plain);
    if (key !== undefined) found.push({ on: "ios", kind: "purposeText", value: key });
  }
  for (const [, key = ""] of text.matchAll(/\b((?:NS\w+|NFCReader)UsageDescription)\b/g))
    if (PURPOSE_KEYS.includes(key)) found.push({ on: "ios", kind: "purposeText", value: key });
  if (/\bentitlements?\b/i.test(text))
    for (const [key] of text.matchAll(/\bcom\.apple\.(?:developer|security)\.[\w-]+(?:\.[\w-]+)*/g))
      found.push({ on: "ios", kind: "entitlement", value: key });
  for (const [, name = ""] of text.matchAll(/\bandroid\.permission\.([A-Z_]+)\b/g))
    if (ANDROID_PERMISSIONS.includes(name)) found.push({ on: "android", kind: "permission", value: ANDROID_PERMISSION_PREFIX + name });
  if (/\bpermissions?\b/i.test(text) && /manifest/i.test(text) && !DENIES.test(text))
    for (const [, name = ""] of text.matchAll(/(?<![.\w])([A-Z]+(?:_[A-Z]+)*)\b/g))
      if (ANDROID_PERMISSIONS.includes(name)) found.push({ on: "android", kind: "permission", value: ANDROID_PERMISSION_PREFIX + name });
  return found;
}

function levelsIn(text: string): Draft[] {
  const found: Draft[] = [];
  for (const [, name = "", value = ""] of text.matchAll(/\b(minSdk|compileSdk)(?:Version)?\b[^\d\n.]{0,24}(\d{2})\b/g))
    found.push({ on: "android", kind: name as NeedKind, value });
  for (const [, value = ""] of text.matchAll(/\bAPI (?:level )?(\d{2})\s*(?:\+|(?:or|and) (?:later|higher|newer|above|up)\b)/gi))
    found.push({ on: "android", kind: "minSdk", value });
  for (const [, value = ""] of text.matchAll(/\biOS (\d{1,2}(?:\.\d)?)\s*(?:\+|(?:or|and) (?:later|higher|newer|above|up)|minimum)/gi))
    found.push({ on: "ios", kind: "iosTarget", value });
  for (const [, value = ""] of text.matchAll(/\b(?:deployment target|minimum iOS(?: version)?)\b[^\d\n.]{0,24}(\d{1,2}(?:\.\d)?)\b/gi))
    found.push({ on: "ios", kind: "iosTarget", value });
  return found;
}
