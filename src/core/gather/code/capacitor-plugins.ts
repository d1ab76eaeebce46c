import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, ModuleHalf } from "../../model/code.js";
import { argumentsIn, closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { callsOf } from "./module-functions.js";
import { givenOptions, misread } from "./module-options.js";
import type { SourceFile } from "./sources.js";

/** A method of a plugin as one side has it. */
interface PluginMethod {
  source: SourceFile;
  side: "android" | "ios";
  name: string;
  offset: number;
  returns: "promise" | "callback" | "none";
  /** What the method is given, and its body. */
  call: string;
  body: string;
}

interface Plugin {
  name: string;
  side: "android" | "ios";
  methods: PluginMethod[];
}

/**
 * Methods of the app's own Capacitor plugins that do not answer, that answer otherwise on the other side, or that read another option than scripts
 * give. Sources: capacitorjs.com, "Custom native Android code" and "Custom native iOS code" (PluginCall, return types, keepAlive).
 */
export function pluginMethods(app: App, sources: readonly SourceFile[]): ModuleHalf[] {
  if (app.kind !== "capacitor") return [];
  const plugins = sources.flatMap((source) => pluginIn(source) ?? []);
  const names = sources.flatMap(namesAsked);
  if (plugins.length === 0) return names;
  const methods = plugins.flatMap((plugin) => plugin.methods.map((method) => ({ ...method, plugin: plugin.name })));
  const calls = callsOf(sources, app.ownPackages);
  const halves = methods.flatMap((method): ModuleHalf[] => {
    const other = methods.find(({ plugin, name, side }) => plugin === method.plugin && name === method.name && side !== method.side);
    const at = method.source.place(method.offset);
    const half = (what: ModuleHalf["what"], near?: string): ModuleHalf => ({
      what,
      side: method.side,
      name: `${method.name} of ${method.plugin}`,
      near,
      at,
    });
    if (method.returns !== "none" && !answers(method)) return [half("no answer")];
    if (other && method.returns === "promise" && other.returns === "callback") return [half("other answer", other.side)];
    const given = givenOptions(method.plugin, method.name, calls);
    return misread(optionsRead(method), other && optionsRead(other), given, sources).map(([read, given]) =>
      half("option", `${read} ${given}`),
    );
  });
  return [...halves, ...names];
}

/**
 * Aliases of permissions and methods that answer, which a plugin's code of Android asks for by names that it does not have. Source: capacitorjs.com,
 * "Custom native Android code" (permissions, @PermissionCallback, @ActivityCallback).
 */
function namesAsked(source: SourceFile): ModuleHalf[] {
  if (source.side !== "android" || !source.text.includes("@CapacitorPlugin")) return [];
  const code = withoutComments(source.text);
  // What a class has of its parent may be more.
  if (!/\bclass\s+\w+(?:\s+extends\s+|\s*(?:\(\s*\)\s*)?:\s*)Plugin\b/.test(code)) return [];
  const textIn = (expression: string): string | undefined =>
    /^\s*"(\w+)"\s*$/.exec(expression)?.[1] ??
    new RegExp(`\\b${expression.trim().split(".").at(-1) ?? ""}\\b\\s*(?::\\s*String\\s*)?=\\s*"(\\w+)"`).exec(code)?.[1];
  const aliases = [...code.matchAll(/\bPermission\s*\([^()]*?\balias\s*=\s*([\w."]+)/g)].map(([, alias = ""]) => textIn(alias));
  const callbacks = [...code.matchAll(/@(?:Permission|Activity)Callback\b[^{;]*?\b(\w+)\s*\(/g)].map(([, name = ""]) => name);
  const told = new Set<string>();
  const tell = (
    what: "permission alias" | "named callback",
    name: string | undefined,
    known: readonly (string | undefined)[],
    at: number,
  ): ModuleHalf[] => {
    if (name === undefined || known.includes(undefined) || known.includes(name) || told.has(`${what} ${name}`)) return [];
    told.add(`${what} ${name}`);
    const near = known.find((other) => other !== undefined && distance(other, name) <= 4);
    return [{ what, side: "android", name, near, at: source.place(at) }];
  };
  return [...code.matchAll(/\b(getPermissionState|requestPermissionForAlias|startActivityForResult)\s*\(/g)].flatMap(
    (match): ModuleHalf[] => {
      const given = argumentsIn(code, match.index + match[0].length - 1);
      const [first = "", , third = ""] = given;
      const answer = match[1] === "getPermissionState" ? undefined : textIn(third);
      const alias = match[1] === "startActivityForResult" || aliases.length === 0 ? undefined : textIn(first);
      return [...tell("permission alias", alias, aliases, match.index), ...tell("named callback", answer, callbacks, match.index)];
    },
  );
}

/** Whether a method hands its call on or answers it: it does more than look at what it was given. */
function answers({ body, call }: PluginMethod): boolean {
  const rest = body.replace(
    new RegExp(`\\b${call}\\s*[?!]?\\s*\\.\\s*(?:get\\w+|hasOption|options|data|callbackId|methodName|pluginId)\\b`, "g"),
    "",
  );
  return new RegExp(`\\b${call}\\b`).test(rest) || /\b(?:fatalError|throw)\b/.test(rest);
}

const READ = (call: string): RegExp =>
  new RegExp(
    `\\b${call}\\s*[?!]?\\s*\\.\\s*(?:get[A-Z]\\w*|hasOption)\\s*(?:<[^>]*>)?\\(\\s*"(\\w+)"|\\b${call}\\s*[?!]?\\s*\\.\\s*options\\s*\\[\\s*"(\\w+)"`,
    "g",
  );

function optionsRead({ body, call }: PluginMethod): Set<string> {
  return new Set([...body.matchAll(READ(call))].map((match) => (match[1] ?? match[2]) as string));
}

function pluginIn(source: SourceFile): Plugin | undefined {
  if (!/CapacitorPlugin|CAPBridgedPlugin/.test(source.text)) return undefined;
  const code = withoutComments(source.text);
  return source.side === "android" ? androidPlugin(source, code) : source.side === "ios" ? swiftPlugin(source, code) : undefined;
}

function androidPlugin(source: SourceFile, code: string): Plugin | undefined {
  const name = /@CapacitorPlugin\s*\([^)]{0,400}?\bname\s*=\s*"([^"\n]+)"/.exec(code)?.[1];
  if (name === undefined) return undefined;
  const methods = [
    ...code.matchAll(
      /@PluginMethod\b(?:\s*\(([^()]{0,200})\))?\s*(?:@\w+(?:\([^()]*\))?\s*)*(?:(?:public|open|override|final|synchronized|suspend|void|fun)\s+)+(\w+)\s*\(\s*(?:final\s+)?(?:PluginCall\s+(\w+)|(\w+)\s*:\s*PluginCall)\s*\)[^{;]*\{/g,
    ),
  ].map((match): PluginMethod => ({
    source,
    side: "android",
    name: match[2] as string,
    offset: match.index,
    returns: /CALLBACK/.test(match[1] ?? "") ? "callback" : /NONE/.test(match[1] ?? "") ? "none" : "promise",
    call: (match[3] ?? match[4]) as string,
    body: blockAt(code, match.index + match[0].length - 1),
  }));
  return { name, side: "android", methods };
}

function swiftPlugin(source: SourceFile, code: string): Plugin | undefined {
  const name = /\bjsName\s*(?::\s*String\s*)?=\s*"([^"\n]+)"/.exec(code)?.[1];
  if (name === undefined) return undefined;
  const methods = [...code.matchAll(/\bCAPPluginMethod\s*\(\s*name\s*:\s*"(\w+)"\s*,\s*returnType\s*:\s*(?:\w+\.)?(\w+)/g)].flatMap(
    (match): PluginMethod[] => {
      const method = match[1] as string;
      const declared = new RegExp(`\\bfunc\\s+${method}\\s*\\(\\s*_\\s+(\\w+)\\s*:\\s*CAPPluginCall\\s*\\)[^{;]*\\{`).exec(code);
      if (!declared) return [];
      return [
        {
          source,
          side: "ios",
          name: method,
          offset: declared.index,
          returns: /callback/i.test(match[2] ?? "") ? "callback" : /none/i.test(match[2] ?? "") ? "none" : "promise",
          call: declared[1] as string,
          body: blockAt(code, declared.index + declared[0].length - 1),
        },
      ];
    },
  );
  return { name, side: "ios", methods };
}

function blockAt(code: string, open: number): string {
  return code.slice(open, closing(code, open));
}

/** Events that scripts wait for, against what each side's code sends. Source: capacitorjs.com, "Plugin events" (notifyListeners, addListener). */
export function pluginEvents(
  app: App,
  sources: readonly SourceFile[],
  guardsAt: (source: SourceFile, at: number) => BridgeFact["guards"],
): BridgeFact[] {
  if (app.kind !== "capacitor") return [];
  const native = sources
    .filter(({ side, text }) => (side === "android" || side === "ios") && text.includes('"'))
    .map((source) => ({ source, code: withoutComments(source.text) }));
  const offered = new Set(native.flatMap(({ source }) => pluginIn(source)?.name ?? []));
  const sent = native.flatMap(({ code }) => [...code.matchAll(/\bnotifyListeners\s*\(\s*"(\w+)"/g)].map(([, name = ""]) => name));
  return callsOf(sources, app.ownPackages).flatMap(({ name, source, calls }) =>
    !offered.has(name)
      ? []
      : calls.flatMap(({ method, offset }): BridgeFact[] => {
          if (method !== "addListener") return [];
          const text = withoutComments(source.text);
          const event = /^\s*["'](\w+)["']\s*$/.exec(argumentsIn(text, text.indexOf("(", offset))[0] ?? "")?.[1];
          if (event === undefined) return [];
          const fact: BridgeFact = {
            kind: "event",
            name: event,
            role: "asked",
            side: "shared",
            guards: guardsAt(source, offset),
            at: source.place(offset),
          };
          const sides = native.filter(({ code }) => code.includes(`"${event}"`));
          if (sides.length === 0) {
            const near = sent.find((other) => distance(other, event) <= 2 || other.toLowerCase().endsWith(event.toLowerCase()));
            return near === undefined ? [] : [{ ...fact, near }];
          }
          return [
            fact,
            ...sides.map(({ source: home, code }): BridgeFact => ({
              kind: "event",
              name: event,
              role: "offered",
              side: home.side,
              guards: [],
              at: home.place(code.indexOf(`"${event}"`)),
            })),
          ];
        }),
  );
}
