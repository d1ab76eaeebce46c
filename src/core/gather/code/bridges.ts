import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, CodeFile, Guard } from "../../model/code.js";
import { readChannels } from "./channels.js";
import { moduleFunctions } from "./module-functions.js";
import { nativeInterfaces } from "./native-interfaces.js";
import type { Program } from "./program.js";
import { enclosing } from "./reach.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { keptOff } from "../platforms/directives.js";
import { inComment, type SourceFile } from "./sources.js";

/** How one mechanism between shared code and native code is written: the first group is the name, or a constant that holds it. */
interface BridgeForm {
  kind: BridgeFact["kind"];
  role: BridgeFact["role"];
  of: RegExp;
}

const NAME = String.raw`["']([^"'\n]+)["']`;

/**
 * Source: reactnative.dev, "Native Modules", "Turbo Native Modules", "Native Components"; docs.expo.dev, "Expo Modules API";
 * capacitorjs.com, "Plugins"; learn.microsoft.com, "DependencyService" and what `csharpServices` names.
 */
const FORMS: readonly BridgeForm[] = [
  {
    kind: "native module",
    role: "asked",
    of: new RegExp(String.raw`TurboModuleRegistry\s*\.\s*get(?:Enforcing)?\s*(?:<[^>]*>)?\(\s*${NAME}`, "g"),
  },
  { kind: "native module", role: "asked", of: /\bNativeModules\s*\??\.\s*([A-Za-z_]\w*)/g },
  { kind: "native module", role: "asked", of: new RegExp(String.raw`\brequire(?:Optional)?NativeModule\s*(?:<[^>]*>)?\(\s*${NAME}`, "g") },
  {
    kind: "view manager",
    role: "asked",
    of: new RegExp(
      String.raw`\b(?:requireNativeComponent|codegenNativeComponent|requireNativeView(?:Manager)?)\s*(?:<[^>]*>)?\(\s*${NAME}`,
      "g",
    ),
  },
  { kind: "plugin", role: "asked", of: new RegExp(String.raw`\bregisterPlugin\s*(?:<[^>]*>)?\(\s*${NAME}`, "g") },
  { kind: "service", role: "asked", of: /\bDependencyService\s*\.\s*(?:Get|Resolve)\s*<\s*(\w+)\s*>/g },
];

const NATIVE_FORMS: readonly BridgeForm[] = [
  {
    kind: "native module",
    role: "offered",
    of: /\bgetName\s*\(\s*\)\s*(?::\s*String)?\s*(?:\{\s*return|=)\s*(?:["']([^"'\n]+)["']|(\w+))/g,
  },
  { kind: "native module", role: "offered", of: new RegExp(String.raw`@ReactModule\s*\(\s*(?:name\s*=\s*)?${NAME}`, "g") },
  { kind: "native module", role: "offered", of: /\bRCT_EXPORT_MODULE\s*\(\s*([A-Za-z_]\w*)\s*\)/g },
  { kind: "native module", role: "offered", of: /\bRCT_EXTERN_(?:REMAP_)?MODULE\s*\(\s*([A-Za-z_]\w*)/g },
  { kind: "native module", role: "offered", of: new RegExp(String.raw`\bName\s*\(\s*${NAME}\s*\)`, "g") },
  {
    kind: "plugin",
    role: "offered",
    of: new RegExp(String.raw`@CapacitorPlugin\s*\(\s*(?:\w+\s*=\s*[^,()]*,\s*)*name\s*=\s*${NAME}`, "g"),
  },
  { kind: "plugin", role: "offered", of: new RegExp(String.raw`\bCAP_PLUGIN\s*\(\s*\w+\s*,\s*${NAME}`, "g") },
  { kind: "plugin", role: "offered", of: new RegExp(String.raw`\bjsName\s*=\s*${NAME}`, "g") },
];

/** A class without a name of its own is offered under the class's name. Source: reactnative.dev, "iOS Native Modules". */
const UNNAMED_MODULE = /@implementation\s+(\w+)[\s\S]{0,2000}?\bRCT_EXPORT_MODULE\s*\(\s*\)/g;

const HINT =
  /NativeModule|TurboModule|NativeComponent|NativeView|registerPlugin|DependencyService|ReactContextBaseJavaModule|ReactModule|ViewManager|RCT_EX|CapacitorPlugin|CAP_PLUGIN|jsName|\[assembly:|ModuleDefinition|\bpartial\s|Add(?:Singleton|Transient|Scoped|Handler)\s*</;

/** Services, modules and channels that code asks for by name or offers under one; `[assembly: …]` registrations of .NET too. */
export function readBridges(app: App, sources: readonly SourceFile[], program: Program): BridgeFact[] {
  const found: BridgeFact[] = [];
  for (const source of sources) {
    if (!HINT.test(source.text)) continue;
    const text = source.code?.plain ?? source.text;
    const asking = source.side === "shared";
    for (const { kind, role, of } of asking ? FORMS : NATIVE_FORMS) {
      for (const match of text.matchAll(of)) {
        const name = match[1] ?? constantIn(source, match[2]);
        if (name === undefined || inLineComment(text, match.index)) continue;
        found.push({ kind, name, role, side: source.side, guards: guardsAt(source, match.index), at: source.place(match.index) });
      }
    }
    if (asking)
      for (const match of text.matchAll(/\{([^{}]*)\}\s*=\s*NativeModules\b/g))
        for (const part of (match[1] ?? "").split(",")) {
          const name = /^\s*(\w+)/.exec(part)?.[1];
          if (name !== undefined)
            found.push({
              kind: "native module",
              name,
              role: "asked",
              side: "shared",
              guards: guardsAt(source, match.index),
              at: source.place(match.index),
            });
        }
    else
      for (const match of text.matchAll(UNNAMED_MODULE)) {
        const name = (match[1] as string).replace(/^RCT/, "");
        found.push({ kind: "native module", name, role: "offered", side: source.side, guards: [], at: source.place(match.index) });
      }
    if (source.language === "csharp") csharpServices(source, program, (fact) => found.push(fact));
  }
  if (app.kind === "unity") found.push(...nativeInterfaces(sources));
  noteMisspelt(found);
  // A view manager is offered like a module, and its component may be asked for without the ending.
  if (!app.shared) return [];
  return [
    ...found,
    ...askedByType(found, sources),
    ...readChannels(sources, guardsAt),
    ...moduleFunctions(sources, guardsAt),
    ...rootComponents(app, sources, guardsAt),
  ];
}

/**
 * The root component that native code asks for, against those that the scripts register. Source: reactnative.dev, "AppRegistry", "Integration with
 * Existing Apps".
 */
function rootComponents({ kind }: App, sources: readonly SourceFile[], guards: (source: SourceFile, at: number) => Guard[]): BridgeFact[] {
  if (kind !== "react-native") return [];
  const registered = new Set<string>();
  for (const { text, side } of sources) {
    if (side !== "shared" || !text.includes("registerComponent")) continue;
    for (const match of text.matchAll(/\bregisterComponent\s*\(\s*(?:["']([^"'\n]+)["']|(\w[\w.]*))/g)) {
      // A name that comes from elsewhere may be any.
      if (match[1] === undefined) return [];
      registered.add(match[1]);
    }
  }
  const [only] = registered;
  if (only === undefined) return [];
  return sources.flatMap((source) => {
    if (source.side !== "android" && source.side !== "ios") return [];
    const match =
      /\bmoduleName\s*=\s*@?"([^"\n]+)"/.exec(source.text) ??
      /\bgetMainComponentName\s*\(\s*\)\s*(?::\s*String\??)?\s*(?:=|\{\s*return)\s*"([^"\n]+)"/.exec(source.text) ??
      /\bwithModuleName\s*:\s*"([^"\n]+)"/.exec(source.text);
    const name = match?.[1];
    if (!match || name === undefined || registered.has(name) || inComment(source.text, match.index)) return [];
    return [
      {
        kind: "root component" as const,
        name,
        near: registered.size === 1 ? only : "",
        role: "asked" as const,
        side: source.side,
        guards: guards(source, match.index),
        at: source.place(match.index + match[0].indexOf(name)),
      },
    ];
  });
}

/** Kinds that are asked for by a name in a text, which no compiler looks at. */
const BY_TEXT: ReadonlySet<BridgeFact["kind"]> = new Set<BridgeFact["kind"]>(["native module", "plugin", "view manager"]);

/** Names that nothing here offers, and that are nearly one which the app's own code offers and nothing asks for. */
function noteMisspelt(facts: readonly BridgeFact[]): void {
  const asked = new Set(facts.flatMap(({ role, name }) => (role === "asked" ? name : [])));
  for (const fact of facts) {
    if (fact.role !== "asked" || !BY_TEXT.has(fact.kind) || facts.some(({ role, name }) => role === "offered" && name === fact.name))
      continue;
    const near = facts.find(
      ({ role, kind, name }) =>
        role === "offered" &&
        BY_TEXT.has(kind) &&
        !asked.has(name) &&
        Math.abs(name.length - fact.name.length) <= 2 &&
        distance(name, fact.name) <= 2,
    );
    if (near) fact.near = near.name;
  }
}

/**
 * Services of C#: those that an attribute registers, those that a container is given under a platform's condition, and halves of partial
 * methods. Sources: learn.microsoft.com, "DependencyService", "Dependency injection" (.NET MAUI), "Invoke platform code".
 */
function csharpServices(source: SourceFile, program: Program, put: (fact: BridgeFact) => void): void {
  const { text } = source;
  const off = keptOff(text);
  const regions = buildRegions(text);
  const offered = (name: string, at: number): void => {
    // What only debug builds have is in no release.
    if (variantAt(regions, at) === "debug") return;
    const kept = off(at);
    const own = (["android", "ios"] as const).find((platform) => source.guards.some(({ kind }) => kind === platform));
    const side = source.side !== "shared" ? source.side : (own ?? (kept.size === 1 ? (kept.has("android") ? "ios" : "android") : "shared"));
    if (kept.size < 2) put({ kind: "service", name, role: "offered", side, guards: guardsAt(source, at), at: source.place(at) });
  };
  for (const match of text.matchAll(/\[assembly:\s*(?:[\w.]*\.)?Dependency\s*\(\s*typeof\s*\(\s*([\w.]+)\s*\)/g)) {
    const type = (match[1] as string).split(".").at(-1) as string;
    const parsed = [...program.heritage(type)];
    const written = new RegExp(`\\bclass\\s+${type}\\s*:\\s*([^{]+)`).exec(text)?.[1]?.match(/\w+/g) ?? [];
    const supers = parsed.length > 0 ? parsed : written;
    for (const name of supers.length > 0 ? supers : [type]) offered(name, match.index);
  }
  for (const match of text.matchAll(
    /\b(?:(?:Try)?Add(?:Singleton|Transient|Scoped)|DependencyService\s*\.\s*Register|AddHandler)\s*<\s*(?:[\w.]*\.)?(\w+)\s*,\s*[\w.]+\s*>\s*\(/g,
  ))
    if (!inComment(text, match.index)) offered(match[1] as string, match.index);
  for (const match of text.matchAll(/\bpartial\s+([\w.<>?[\],]+)\s+(\w+)\s*(?:<[^>]{0,200}>\s*)?\(([^()]{0,2000})\)\s*(;|=>|\{)/g)) {
    const [, type = "", name = "", , end] = match;
    if (/^(class|struct|interface|record)$/.test(type) || inComment(text, match.index)) continue;
    const owner = [...text.slice(0, match.index).matchAll(/\bpartial\s+(?:class|struct|record)\s+(\w+)/g)].at(-1)?.[1] ?? "";
    if (end !== ";") offered(`${owner}.${name}`, match.index);
    else if (source.side === "shared" && source.guards.length === 0 && off(match.index).size === 0)
      put({ kind: "service", name: `${owner}.${name}`, role: "asked", side: "shared", guards: [], at: source.place(match.index) });
  }
}

/** Shared code that takes a service by its type, in a constructor or from the container, where one side alone registers it. */
function askedByType(found: readonly BridgeFact[], sources: readonly SourceFile[]): BridgeFact[] {
  const names = new Set(
    found.flatMap(({ kind, role, name, side }) => (kind === "service" && role === "offered" && side !== "shared" ? name : [])),
  );
  const asked: BridgeFact[] = [];
  for (const source of sources) {
    if (source.language !== "csharp" || source.side !== "shared" || source.guards.length > 0 || names.size === 0) continue;
    const off = keptOff(source.text);
    for (const name of names) {
      if (name.includes(".") || !source.text.includes(name)) continue;
      const use = new RegExp(`\\bGet(?:Required)?Service\\s*<\\s*${name}\\s*>|[(,]\\s*${name}\\s+\\w+\\s*[,)]`).exec(source.text);
      if (use && off(use.index).size === 0 && !inComment(source.text, use.index))
        asked.push({
          kind: "service",
          name,
          role: "asked",
          side: "shared",
          guards: guardsAt(source, use.index),
          at: source.place(use.index),
        });
    }
  }
  return asked;
}

/** A constant of the same file that stands where a name is asked for. */
function constantIn({ text, code }: SourceFile, name: string | undefined): string | undefined {
  if (name === undefined) return undefined;
  return code?.constants.get(name)?.text ?? new RegExp(`\\b${name}\\s*(?::\\s*\\w+\\s*)?=\\s*["']([^"'\\n]+)["']`).exec(text)?.[1];
}

function guardsAt(source: SourceFile, at: number): Guard[] {
  const code: CodeFile | null | undefined = source.code;
  if (!code)
    return /\bPlatform\b/.test(source.text) ? [...source.guards, { kind: "other", text: "the file looks at the platform" }] : source.guards;
  // The call nearest to the place knows the conditions around it.
  const around = enclosing(code, at);
  let near: { from: number; guards: Guard[] } | undefined;
  for (const call of code.calls)
    if (call.from <= at && (around === undefined || call.in === around) && call.from >= (near?.from ?? 0)) near = call;
  const looks = /\bPlatform\b|isAndroid|isIOS|DeviceInfo/.test(code.plain)
    ? [{ kind: "other" as const, text: "the file looks at the platform" }]
    : [];
  return [...source.guards, ...(near?.guards ?? []), ...looks];
}

function inLineComment(text: string, at: number): boolean {
  return /(^|[^:"'])\/\//.test(text.slice(text.lastIndexOf("\n", at) + 1, at));
}
