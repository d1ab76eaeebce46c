import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, ModuleHalf } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

type Guards = (source: SourceFile, at: number) => BridgeFact["guards"];

/** A view that a module defines on one side. */
interface DefinedView {
  type: string;
  props: ReadonlySet<string>;
  events: ReadonlySet<string>;
  at: number;
}

/** A module of the app's own, as one side defines it. */
interface Definition {
  name: string;
  side: "android" | "ios";
  source: SourceFile;
  code: string;
  views: DefinedView[];
  /** Events that it lists, and those that its code sends. */
  listed: ReadonlySet<string>;
  sent: { name: string; at: number }[];
}

/**
 * Views and events of the app's own modules, as scripts ask for them and as each side defines them. Source: docs.expo.dev, "Module API reference"
 * (View, Prop, Events, sendEvent, EventDispatcher), "requireNativeView".
 */
export function moduleViews(app: App, sources: readonly SourceFile[], guardsAt: Guards): { bridges: BridgeFact[]; halves: ModuleHalf[] } {
  const none = { bridges: [], halves: [] };
  if (app.kind !== "expo" && app.kind !== "react-native") return none;
  const definitions = sources.flatMap((source) => definitionIn(source) ?? []);
  if (definitions.length === 0) return none;
  return {
    bridges: sources.flatMap((source) =>
      source.side === "shared" && isScript(source.language) ? asked(source, definitions, guardsAt) : [],
    ),
    halves: definitions.flatMap((definition) => [...unlisted(definition), ...undispatched(definition, sources)]),
  };
}

const texts = (list: string): string[] => [...list.matchAll(/"(\w+)"/g)].map(([, name = ""]) => name);

function definitionIn(source: SourceFile): Definition | undefined {
  const { side } = source;
  if ((side !== "android" && side !== "ios") || !source.text.includes("ModuleDefinition")) return undefined;
  const code = withoutComments(source.text);
  const names = [...code.matchAll(/\bName\s*\(\s*"([^"\n]+)"\s*\)/g)];
  const name = names[0]?.[1];
  if (name === undefined || names.length > 1) return undefined;
  const views: DefinedView[] = [];
  let rest = code;
  for (const match of code.matchAll(/\bView\s*\(\s*(\w+)(?:::class|\.self)(?:\.java)?\s*\)\s*\{/g)) {
    const open = match.index + match[0].length - 1;
    const end = closing(code, open);
    const body = code.slice(open, end);
    rest = `${rest.slice(0, open)}${" ".repeat(end - open)}${rest.slice(end)}`;
    views.push({
      type: match[1] as string,
      props: new Set([...body.matchAll(/\bProp\s*(?:<[^>]*>)?\s*\(\s*"(\w+)"/g)].map(([, prop = ""]) => prop)),
      events: new Set([...body.matchAll(/\bEvents\s*\(([^)]*)\)/g)].flatMap(([, list = ""]) => texts(list))),
      at: match.index,
    });
  }
  const lists = [...rest.matchAll(/\bEvents\s*\(([^)]*)\)/g)].map(([, list = ""]) => list);
  return {
    name,
    side,
    source,
    code,
    views,
    listed: new Set(lists.flatMap(texts)),
    // A list that is worked out may have any.
    sent: lists.some((list) => /\w/.test(list.replace(/"\w*"/g, "")))
      ? []
      : [...rest.matchAll(/\bsendEvent\s*\(\s*"(\w+)"/g)].map((match) => ({ name: match[1] as string, at: match.index })),
  };
}

/** Events that a side sends and does not list: sending them fails. */
function unlisted({ name, side, source, listed, sent }: Definition): ModuleHalf[] {
  return sent.flatMap(({ name: event, at }) =>
    listed.has(event)
      ? []
      : [{ what: "module event" as const, side, name: `${event} of ${name}`, near: nearOf(event, listed), at: source.place(at) }],
  );
}

/** Events of a view for which its class has no dispatcher of that name. */
function undispatched({ side, source, views }: Definition, sources: readonly SourceFile[]): ModuleHalf[] {
  return views.flatMap(({ type, events, at }) => {
    const declared = new RegExp(`\\bclass\\s+${type}\\b`);
    const home = sources.find((other) => other.side === side && declared.test(other.text));
    if (!home) return [];
    const code = withoutComments(home.text);
    const dispatchers = new Set(
      [
        ...code.matchAll(/\b(?:let|val|var)\s+(\w+)\s*(?:=\s*|by\s+|:\s*[\w.<>?, ]+\s*by\s+|:\s*\w+\s*=\s*)(?:\w+\.)*EventDispatcher\b/g),
      ].map(([, name = ""]) => name),
    );
    return [...events].flatMap((event) =>
      dispatchers.has(event)
        ? []
        : [{ what: "view event" as const, side, name: `${event} of ${type}`, near: nearOf(event, dispatchers), at: source.place(at) }],
    );
  });
}

function nearOf(name: string, known: ReadonlySet<string>): string | undefined {
  return [...known].find((other) => distance(other, name) <= 3 || other.startsWith(name) || name.startsWith(other));
}

/** Properties that each view of React Native has. Source: reactnative.dev, "View" (props); react.dev, "Common components" (key, ref). */
const COMMON =
  /^(style|children|key|ref|testID|nativeID|id|role|pointerEvents|collapsable|hitSlop|removeClippedSubviews|needsOffscreenAlphaCompositing|focusable|tabIndex|onLayout|onStartShouldSet\w+|onMoveShouldSet\w+|onResponder\w+|onTouch\w+|onAccessibility\w+|onMagicTap|accessib\w+|aria-[\w-]+|importantForAccessibility|renderToHardwareTextureAndroid|shouldRasterizeIOS)$/;

function asked(source: SourceFile, definitions: readonly Definition[], guardsAt: Guards): BridgeFact[] {
  if (!source.text.includes("requireNativeView")) return [];
  const code = withoutComments(source.text);
  return [
    ...code.matchAll(
      /\b(?:const|let|var)\s+(\w+)\s*(?::[^=\n]{0,160})?=\s*requireNativeView(?:Manager)?\s*(?:<[^()]{0,300}?>)?\(\s*["'](\w+)["']\s*(?:,\s*["'](\w+)["']\s*)?,?\s*\)/g,
    ),
  ].flatMap((match): BridgeFact[] => {
    const [, variable = "", name = "", view] = match;
    const at = source.place(match.index);
    const fact = (kind: BridgeFact["kind"], of: string, role: BridgeFact["role"], side: BridgeFact["side"], place = at): BridgeFact => ({
      kind,
      name: of,
      role,
      side,
      guards: role === "asked" ? guardsAt(source, match.index) : [],
      at: place,
    });
    const own = definitions.filter((definition) => definition.name === name);
    if (own.length === 0) {
      const near = definitions.find(
        (other) => other.views.length > 0 && (distance(other.name, name) <= 2 || name === other.views[0]?.type),
      );
      return near ? [{ ...fact("view of a module", name, "asked", "shared"), near: near.name }] : [];
    }
    const viewOf = ({ views }: Definition): DefinedView | undefined =>
      view === undefined ? (views.find(({ type }) => type === name) ?? views[0]) : views.find(({ type }) => type === view);
    const shown = view ?? name;
    const facts = [
      fact("view of a module", shown, "asked", "shared"),
      ...own.flatMap((definition) => {
        const found = viewOf(definition);
        return found ? [fact("view of a module", shown, "offered", definition.side, definition.source.place(found.at))] : [];
      }),
    ];
    for (const attribute of attributesOf(code, variable)) {
      if (COMMON.test(attribute)) continue;
      const has = own.filter((definition) => {
        const found = viewOf(definition);
        return found && (found.events.has(attribute) || found.props.has(attribute));
      });
      const title = `${attribute} of ${shown}`;
      const all = own.flatMap((definition) => [...(viewOf(definition)?.props ?? []), ...(viewOf(definition)?.events ?? [])]);
      const near = has.length === 0 ? nearOf(attribute, new Set(all)) : undefined;
      if (has.length === 0 && near === undefined) continue;
      facts.push({ ...fact("view property", title, "asked", "shared"), ...(near === undefined ? {} : { near }) });
      facts.push(
        ...has.map((definition) =>
          fact("view property", title, "offered", definition.side, definition.source.place(viewOf(definition)?.at ?? 0)),
        ),
      );
    }
    return facts;
  });
}

/** The attributes that a component is given where it is shown; of what is spread nothing is told. */
function attributesOf(code: string, component: string): Set<string> {
  const found = new Set<string>();
  for (const match of code.matchAll(new RegExp(`<${component}\\b`, "g"))) {
    let depth = 0;
    let plain = "";
    for (let at = match.index + match[0].length; at < code.length; at++) {
      const sign = code[at] as string;
      if (depth === 0 && (sign === ">" || (sign === "/" && code[at + 1] === ">"))) break;
      if (sign === "{") depth++;
      else if (sign === "}") depth--;
      else if (depth === 0) plain += sign;
    }
    for (const [, name = ""] of plain.matchAll(/(?<![\w-])([A-Za-z][\w-]*)(?=\s*(?:=|\s|$))/g)) found.add(name);
  }
  return found;
}
