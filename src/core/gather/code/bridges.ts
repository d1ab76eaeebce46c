import { cordovaBridges } from "./cordova-plugins.js";
import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, CodeFacts, CodeFile, Guard } from "../../model/code.js";
import { misspelling } from "../../model/suggest.js";
import { notificationDelegates, unnamedAppleTypes } from "./apple-parts.js";
import { readChannels, unaddedPlugins } from "./channels.js";
import { escaped } from "./mentions.js";
import { misreadEvents } from "./handed-values.js";
import { misreadByModules } from "./module-options.js";
import { moduleFunctions } from "./module-functions.js";
import { nativeInterfaces } from "./native-interfaces.js";
import { expectedDeclarations, misnamedFunctions } from "./multiplatform.js";
import { oneSidedMembers, oneSidedTypes } from "./one-sided-types.js";
import { withoutAttribute } from "./unnamed-classes.js";
import { undeclaredComponents } from "./android-components.js";
import type { ProjectFiles } from "../project-files.js";
import type { Program } from "./program.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, textAt } from "../../syntax/data.js";
import { moduleViews } from "./expo-modules.js";
import { pluginEvents, pluginMethods } from "./capacitor-plugins.js";
import { capacitorHalves, reactNativeModules } from "./react-native-modules.js";
import { enclosing } from "./reach.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { keptOff } from "../platforms/directives.js";
import { join, parentOf } from "../../model/paths.js";
import { inComment, isScript, type SourceFile } from "./sources.js";

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
    of: new RegExp(String.raw`TurboModuleRegistry\s*\.\s*get(?:Enforcing)?\s*(?:<[\s\S]{0,400}?>)?\(\s*${NAME}`, "g"),
  },
  { kind: "native module", role: "asked", of: /\bNativeModules\s*\??\.\s*([A-Za-z_]\w*)/g },
  {
    kind: "native module",
    role: "asked",
    of: new RegExp(String.raw`\brequire(?:Optional)?NativeModule\s*(?:<[\s\S]{0,400}?>)?\(\s*${NAME}`, "g"),
  },
  {
    kind: "view manager",
    role: "asked",
    of: new RegExp(
      String.raw`\b(?:requireNativeComponent|codegenNativeComponent|requireNativeView(?:Manager)?)\s*(?:<[\s\S]{0,400}?>)?\(\s*${NAME}`,
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
    of: /\bgetName\s*\(\s*\)\s*(?::\s*String)?\s*(?:\{\s*return|=)\s*(?:["']([^"'\n]+)["']|([\w.]+))/g,
  },
  { kind: "native module", role: "offered", of: /\+\s*\(NSString \*\)\s*moduleName\s*\{\s*return\s+@"([^"\n]+)"/g },
  { kind: "native module", role: "offered", of: /\bRCT_EXPORT_MODULE_NO_LOAD\s*\(\s*([A-Za-z_]\w*)/g },
  { kind: "view manager", role: "offered", of: /\bconcreteComponentDescriptorProvider\s*<\s*(\w+)ComponentDescriptor\s*>/g },
  { kind: "view manager", role: "offered", of: /\bClass\s*<\s*RCTComponentViewProtocol\s*>\s*(\w+)Cls\s*\(/g },
  { kind: "native module", role: "offered", of: new RegExp(String.raw`@ReactModule\s*\(\s*(?:name\s*=\s*)?(?:${NAME}|([\w.]+))`, "g") },
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
const UNNAMED_MODULE = /@implementation\s+(\w+)(?:(?!@implementation\b)[\s\S]){0,4000}?\bRCT_EXPORT_MODULE\s*\(\s*\)/g;

const HINT =
  /NativeModule|TurboModule|NativeComponent|NativeView|registerPlugin|DependencyService|ReactContextBaseJavaModule|ReactModule|Native\w+Spec|ViewManager|RCT_EX|ComponentDescriptor|RCTComponentViewProtocol|moduleName|CapacitorPlugin|CAP_PLUGIN|jsName|\[assembly:|ModuleDefinition|\bpartial\s|Add(?:Singleton|Transient|Scoped|Handler)\s*</;

/** What shared and native code ask each other for and offer, and what is only half there. */
export function bridgeFacts(
  app: App,
  sources: readonly SourceFile[],
  program: Program,
  project: ProjectFiles,
): Pick<CodeFacts, "bridges" | "halves" | "unnamed"> {
  const guarded = byImporters(sources.filter(({ file, side }) => side !== "shared" || !OTHER_SYSTEM.test(file)));
  const { bridges, halves, unnamed } = reactNativeModules(app, guarded, project, guardsAt);
  const views = moduleViews(app, guarded, guardsAt);
  const channels = app.shared ? readChannels(guarded, guardsAt) : { bridges: [], halves: [] };
  return {
    bridges: [
      ...nearModules([...readBridges(app, guarded, program, project), ...bridges]),
      ...views.bridges,
      ...channels.bridges,
      ...cordovaBridges(project, app, sources),
    ],
    halves: [
      ...halves,
      ...views.halves,
      ...channels.halves,
      ...capacitorHalves(app, guarded),
      ...pluginMethods(app, guarded),
      ...misreadByModules(app, guarded),
      ...misreadEvents(app, guarded),
    ],
    unnamed: [
      ...unnamed,
      ...unaddedPlugins(app, guarded),
      ...undeclaredComponents(project, app, guarded),
      ...unnamedAppleTypes(app, guarded),
      ...notificationDelegates(app, guarded),
      ...withoutAttribute(app, guarded, project),
    ],
  };
}

/** Native modules that nothing offers, under almost the name of one of the app's own for which no script asks. */
function nearModules(facts: BridgeFact[]): BridgeFact[] {
  const named = (role: BridgeFact["role"]): Set<string> =>
    new Set(facts.flatMap((fact) => (fact.kind === "native module" && fact.role === role ? fact.name : [])));
  const [asked, offered] = [named("asked"), named("offered")];
  const unasked = [...offered].filter((name) => name !== "" && !asked.has(name));
  return facts.map((fact) => {
    if (fact.kind !== "native module" || fact.role !== "asked" || fact.near !== undefined || offered.has(fact.name)) return fact;
    const near = misspelling(fact.name, unasked);
    return near === undefined ? fact : { ...fact, near };
  });
}

/** Scripts of systems that are no phone's. Source: reactnative.dev, "Platform-specific code". */
const OTHER_SYSTEM = /\.(windows|macos|web|tvos|visionos)\.[cm]?[jt]sx?$/;

/** Scripts that only those of one platform import are that platform's too. */
function byImporters(sources: readonly SourceFile[]): SourceFile[] {
  const scripts = sources.filter(({ side, language }) => side === "shared" && isScript(language));
  if (!scripts.some(({ guards }) => guards.length > 0)) return [...sources];
  const importers = new Map<string, SourceFile[]>();
  for (const source of scripts)
    for (const match of source.text.matchAll(/(?:\bfrom|\bimport|\brequire\s*\(|\bimport\s*\()\s*["'](\.[^"'\n]*)["']/g)) {
      const target = scriptStem(join(parentOf(source.file), match[1] as string));
      importers.set(target, [...(importers.get(target) ?? []), source]);
    }
  const ofImporters = (source: SourceFile, depth: number): Guard[] => {
    if (source.guards.length > 0 || depth > 3) return source.guards;
    const all = (importers.get(scriptStem(source.file)) ?? [])
      .filter((other) => other !== source)
      .map((other) => ofImporters(other, depth + 1));
    return all.length > 0 && all.every((guards) => guards.some(({ kind }) => kind === "android" || kind === "ios")) ? (all[0] ?? []) : [];
  };
  return sources.map((source) => {
    const guards = source.side === "shared" && isScript(source.language) ? ofImporters(source, 0) : source.guards;
    return guards === source.guards || guards.length === source.guards.length ? source : { ...source, guards };
  });
}

function scriptStem(file: string): string {
  return file.replace(/(?:\.(?:android|ios|native))?\.[cm]?[jt]sx?$/, "").replace(/\/index$/, "");
}

/** Services, modules and channels that code asks for by name or offers under one; `[assembly: …]` registrations of .NET too. */
function readBridges(app: App, sources: readonly SourceFile[], program: Program, project: ProjectFiles): BridgeFact[] {
  // Native code alone asks itself, but for what phones share of Kotlin.
  if (!app.shared) return [...expectedDeclarations(app, sources), ...misnamedFunctions(app, sources)];
  const found: BridgeFact[] = [];
  for (const source of sources) {
    if (!HINT.test(source.text)) continue;
    const text = source.code?.plain ?? source.text;
    const asking = source.side === "shared";
    for (const { kind, role, of } of asking ? FORMS : NATIVE_FORMS) {
      for (const match of text.matchAll(of)) {
        const name = match[1] ?? constantIn(source, match[2], sources);
        // A name that cannot be made out may be any, where it is offered.
        if ((name === undefined && asking) || inLineComment(text, match.index)) continue;
        const guards = [...guardsAt(source, match.index), ...excluded(text, match.index + match[0].length)];
        found.push({ kind, name: name ?? "", role, side: source.side, guards, at: source.place(match.index) });
      }
    }
    if (asking) unpackedModules(text, found, source);
    else
      for (const match of text.matchAll(UNNAMED_MODULE)) {
        const name = (match[1] as string).replace(/^RCT/, "");
        found.push({ kind: "native module", name, role: "offered", side: source.side, guards: [], at: source.place(match.index) });
      }
    if (source.language === "csharp") csharpServices(source, program, (fact) => found.push(fact));
  }
  if (app.kind === "unity") found.push(...nativeInterfaces(sources));
  found.push(...oneSidedTypes(app, sources), ...oneSidedMembers(app, sources));
  noteMisspelt(found);
  return [
    ...found,
    ...askedByType(found, sources),
    ...moduleFunctions(app, sources, { guardsAt, guardsNear }),
    ...pluginEvents(app, sources, guardsAt),
    ...rootComponents(app, project, sources, guardsAt),
  ];
}

/** Modules that are taken out of the object of all modules. */
function unpackedModules(text: string, found: BridgeFact[], source: SourceFile): void {
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
}

/**
 * The root component that native code asks for, against those that the scripts register. Source: reactnative.dev, "AppRegistry", "Integration with
 * Existing Apps".
 */
function rootComponents(
  app: App,
  project: ProjectFiles,
  sources: readonly SourceFile[],
  guards: (source: SourceFile, at: number) => Guard[],
): BridgeFact[] {
  const { kind } = app;
  if (kind !== "react-native" && kind !== "expo") return [];
  const registered = new Set<string>();
  for (const { text: written, side } of sources) {
    if (side !== "shared" || !/\bregister(?:Root)?Component\b/.test(written)) continue;
    const text = withoutComments(written);
    // Source: docs.expo.dev, "registerRootComponent".
    if (/\bregisterRootComponent\s*\(/.test(text)) registered.add("main");
    for (const match of text.matchAll(/\bregisterComponent\s*\(\s*(?:["']([^"'\n]+)["']|(\w[\w.]*))/g)) {
      const named = match[1] ?? nameInAppJson(app, project, text, match[2] as string);
      // A name that comes from elsewhere may be any.
      if (named === undefined) return [];
      registered.add(named);
    }
  }
  const [only] = registered;
  // The root script is there, and neither it nor another registers anything.
  const registersNothing =
    (kind === "react-native" || beginsWithOwnScript(app, project)) &&
    sources.some(
      ({ file, side }) => side === "shared" && /^index(\.\w+)?\.[jt]sx?$/.test(file.slice(app.path === "" ? 0 : app.path.length + 1)),
    ) &&
    !sources.some(({ text, side }) => side === "shared" && REGISTERS.test(text) && REGISTERS.test(withoutComments(text)));
  if (only === undefined && !registersNothing) return [];
  return sources.flatMap((source) => {
    if (source.side !== "android" && source.side !== "ios") return [];
    const match =
      /\bmoduleName\s*=\s*@?"([^"\n]+)"/.exec(source.text) ??
      /\bgetMainComponentName\s*\(\s*\)\s*(?::\s*String\??)?\s*(?:=|\{\s*return)\s*"([^"\n]+)"/.exec(source.text) ??
      /\b(?:withModuleName|moduleName)\s*:\s*@?"([^"\n]+)"/.exec(source.text);
    const name = match?.[1];
    if (!match || name === undefined || registered.has(name) || inComment(source.text, match.index)) return [];
    return [
      {
        kind: "root component" as const,
        name,
        near: registered.size === 1 ? (only ?? "") : "",
        role: "asked" as const,
        side: source.side,
        guards: guards(source, match.index),
        at: source.place(match.index + match[0].indexOf(name)),
      },
    ];
  });
}

const REGISTERS = /\bregister\w*Component\s*[(?]|\bAppRegistry\s*[.[]/;

/** Whether an app of Expo begins with a root script of its own: what packages begin with registers by itself. Source: docs.expo.dev, "registerRootComponent". */
function beginsWithOwnScript({ kind, path }: App, project: ProjectFiles): boolean {
  const main = textAt(project.json(join(path, "package.json"))?.root, "main");
  return kind === "expo" && (main === undefined || /^(\.\/)?index(\.[jt]sx?)?$/.test(main));
}

/** What a name stands for that a script takes from `app.json`, as the framework's template does. */
function nameInAppJson({ shared, path }: App, project: ProjectFiles, text: string, name: string): string | undefined {
  const imported = new RegExp(`\\bname(?:\\s+as\\s+${name})?\\b[^;]*from\\s+["'][./]+app\\.json["']`).test(text);
  if (!imported || !(name === "name" || text.includes(`name as ${name}`))) return undefined;
  const { root, problems = [] } = project.json(join(shared?.folder ?? path, "app.json")) ?? {};
  // A configuration without it gives the component no name.
  return textAt(root, "name") ?? (root?.kind === "map" && problems.length === 0 && at(root, "name") === undefined ? "" : undefined);
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
  partialMethods(text, offered, source, off, put);
}

/** Halves of methods whose other half a side has to have. */
function partialMethods(
  text: string,
  offered: (name: string, at: number) => void,
  source: SourceFile,
  off: (offset: number) => ReadonlySet<"android" | "ios">,
  put: (fact: BridgeFact) => void,
): void {
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
      const use = new RegExp(
        `\\bGet(?:Required)?Service\\s*<\\s*${name}\\s*>|[(,]\\s*${name}\\s+\\w+\\s*[,)]|\\[\\s*Inject\\s*\\][^;{}]{0,60}?\\b${name}\\s+\\w+\\s*\\{`,
      ).exec(source.text);
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

/** Systems that the definition of a native component leaves out. Source: the code generation's options (excludedPlatforms). */
function excluded(text: string, end: number): Guard[] {
  const left = /^\s*,\s*\{[^{}]{0,300}?\bexcludedPlatforms\s*:\s*\[([^\]]*)\]/.exec(text.slice(end, end + 400))?.[1]?.toLowerCase();
  if (left === undefined) return [];
  const kind = left.includes("ios") ? "android" : left.includes("android") ? "ios" : undefined;
  return kind === undefined ? [] : [{ kind, text: "excludedPlatforms" }];
}

/** A constant that stands where a name is asked for: of the same file, or of another class of its side. */
function constantIn(source: SourceFile, name: string | undefined, sources: readonly SourceFile[]): string | undefined {
  const [owner, last] = [name?.split(".").at(-2), name?.split(".").at(-1)];
  if (last === undefined) return undefined;
  if (owner !== undefined) {
    const home = sources.find(
      ({ side, file, text }) =>
        side === source.side && file !== source.file && new RegExp(`\\b(?:class|object|interface)\\s+${owner}\\b`).test(text),
    );
    if (home) return constantIn(home, last, []);
  }
  const { text, code } = source;
  return code?.constants.get(last)?.text ?? new RegExp(`\\b${last}\\s*(?::\\s*\\w+\\s*)?=\\s*["']([^"'\\n]+)["']`).exec(text)?.[1];
}

/** The conditions of a place. That its file looks at the platform is one too: who calls a function may stand in another file. */
const guardsAt = (source: SourceFile, at: number): Guard[] => conditionsAt(source, at, ({ plain }) => LOOKS.test(plain));

/** The same where whoever asks looks at the callers in other files himself. */
const guardsNear = (source: SourceFile, at: number): Guard[] => conditionsAt(source, at, looksAround);

function conditionsAt(source: SourceFile, at: number, looksAt: (code: CodeFile, around: number | undefined) => boolean): Guard[] {
  const code: CodeFile | null | undefined = source.code;
  if (!code) return LOOKS.test(source.text) ? [...source.guards, { kind: "other", text: "the file looks at the platform" }] : source.guards;
  // The call nearest to the place knows the conditions around it.
  const around = enclosing(code, at);
  let near: { from: number; guards: Guard[] } | undefined;
  for (const call of code.calls)
    if (call.from <= at && (around === undefined || call.in === around) && call.from >= (near?.from ?? 0)) near = call;
  const looks = looksAt(code, around) ? [{ kind: "other" as const, text: "the file looks at the platform" }] : [];
  return [...source.guards, ...(near?.guards ?? []), ...looks];
}

const LOOKS = /\bPlatform\b|isAndroid|isIOS|DeviceInfo|\bgetPlatform\b|\bisPluginAvailable\b/;

/** Whether a function, or code of its file that names it, looks at the platform in a way that its calls do not tell. */
function looksAround({ plain, functions }: CodeFile, around: number | undefined): boolean {
  const fn = around === undefined ? undefined : functions[around];
  if (!LOOKS.test(plain)) return false;
  if (!fn) return true;
  const outer = functions.filter(({ from, to }) => from <= fn.from && fn.to <= to);
  if (outer.some(({ from, to }) => LOOKS.test(plain.slice(from, to)))) return true;
  const names = outer.flatMap(({ name }) => (/^[\w$]+$/.test(name) ? name : []));
  // A function without a name may be called from anywhere.
  if (names.length === 0) return true;
  return names.some((name) =>
    [...plain.matchAll(new RegExp(`(?<![\\w$])${escaped(name)}(?![\\w$])`, "g"))].some(({ index }) => {
      const holder = functions.filter(({ from, to }) => from <= index && index < to).at(-1);
      if (holder && outer.includes(holder)) return false;
      // Outside of all functions its line and the one before say that.
      const line = plain.lastIndexOf("\n", plain.lastIndexOf("\n", index) - 1) + 1;
      const end = plain.indexOf("\n", index);
      const [from, to] = holder ? [holder.from, holder.to] : [line, end === -1 ? plain.length : end];
      return LOOKS.test(plain.slice(from, to));
    }),
  );
}

function inLineComment(text: string, at: number): boolean {
  return /(^|[^:"'])\/\//.test(text.slice(text.lastIndexOf("\n", at) + 1, at));
}
