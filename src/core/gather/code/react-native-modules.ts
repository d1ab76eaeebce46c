import { closing } from "../../syntax/code/callee.js";
import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact, CodeFacts, Guard, ModuleHalf } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, entriesOf, placeOf } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { unansweredPromises } from "./module-answers.js";
import { ModuleEvents, unlistedEvents } from "./module-events.js";
import { codeGeneration, type Native } from "./code-generation.js";
import { isScript, type SourceFile } from "./sources.js";

/** What a list of native modules extends. Source: reactnative.dev, "Native Modules" (packages). */
export const PACKAGE_OF_MODULES = /^(?:ReactPackage|BaseReactPackage|TurboReactPackage)$/;

/**
 * The app's own native modules and views of React Native, beyond their names: whether a package makes them, whether the two languages of iOS
 * name the same class, what the code generation makes, the events and the properties of views. Sources: reactnative.dev, "Android Native
 * Modules", "iOS Native Modules" (RCT_EXTERN_MODULE, sending events), "Native Components", "Codegen".
 */
export interface ReactNativeModules {
  halves: ModuleHalf[];
  bridges: BridgeFact[];
  unnamed: CodeFacts["unnamed"];
}

/** How far a misspelt name is from the one that is meant, in letters. */
const NEAR = 2;

export type GuardsAt = (source: SourceFile, offset: number) => Guard[];

export function reactNativeModules(
  app: App,
  sources: readonly SourceFile[],
  project: ProjectFiles,
  guardsAt: GuardsAt,
): ReactNativeModules {
  const none: ReactNativeModules = { halves: [], bridges: [], unnamed: [] };
  if (app.kind !== "react-native" && app.kind !== "expo") return none;
  if (!sources.some(({ side, text }) => side !== "shared" && HINT.test(text))) return none;
  const natives = (of: "android" | "ios"): Native[] =>
    sources.flatMap((source) => (source.side === of ? { source, text: withoutComments(source.text) } : []));
  const android = natives("android");
  const ios = natives("ios");
  return {
    halves: [
      ...externClasses(ios),
      ...unlistedEvents(ios),
      ...unansweredPromises([...android, ...ios]),
      ...codeGeneration(app, [...android, ...ios], sources, project),
    ],
    bridges: [
      ...bySpecification(android, sources),
      ...byConfiguration(app, project),
      ...new ModuleEvents(sources, android, ios).asked(guardsAt),
      ...properties(sources, android, ios, guardsAt),
    ],
    unnamed: unmade(android, sources),
  };
}

const HINT = /ReactContextBaseJavaModule|BaseJavaModule|ViewManager|Native\w+Spec\b|RCT_EX|RCTEventEmitter|ModuleDefinition/;

const ANDROID_BASE =
  /\b(ReactContextBaseJavaModule|BaseJavaModule|SimpleViewManager|ViewGroupManager|BaseViewManager|ViewManager|Native\w+Spec)\b/;

interface ModuleClass {
  name: string;
  base: string;
  offset: number;
}

/** Classes of Java and Kotlin that are modules or view managers, and can be made. */
function moduleClasses(text: string): ModuleClass[] {
  return [...text.matchAll(/(\b(?:abstract|open|sealed)\s+)?\bclass\s+(\w+)([^{;]*)/g)].flatMap((match) => {
    const [, open, name = "", header = ""] = match;
    // Bounds of type parameters are no base classes; the arguments of a constructor neither.
    const plain = stripped(stripped(header, "<", ">"), "(", ")");
    const supers = /(?:\bextends\b|:)([^]*)/.exec(plain)?.[1] ?? "";
    const base = ANDROID_BASE.exec(supers)?.[1];
    return open !== undefined || base === undefined ? [] : [{ name, base, offset: match.index + match[0].indexOf(name) }];
  });
}

function stripped(text: string, open: string, close: string): string {
  let depth = 0;
  let plain = "";
  for (const character of text)
    if (character === open) depth++;
    else if (character === close) depth--;
    else if (depth <= 0) plain += character;
  return plain;
}

/** Classes of modules and views that shared code asks for and that no code makes: no package gives them to the framework. */
function unmade(android: readonly Native[], sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  // What an injection or a look-up by name makes is not seen.
  if (android.some(({ text }) => /Class\.forName\s*\(|ServiceLoader/.test(text))) return [];
  return android.flatMap(({ source, text }) =>
    moduleClasses(text).flatMap(({ name, base, offset }) => {
      const called = nameOfModule(text) ?? (base.startsWith("Native") ? nameOfSpecification(base, sources) : undefined);
      if (called === undefined || /@Inject\b|@AssistedInject\b/.test(text) || !isAskedFor(called, sources)) return [];
      const elsewhere = new RegExp(`(?<!\\bclass\\s{1,8})\\b${name}\\s*(?:\\(|::|\\.class\\b)|::\\s*${name}\\b`);
      const here = new RegExp(
        `\\bnew\\s+${name}\\b|\\b${name}(?:::|\\.class\\b)|(?<![\\w.]|\\b(?:class|public|protected|private|internal)\\s{1,8})${name}\\s*\\(`,
      );
      const makers = android.filter((other) => (other.source === source ? here : elsewhere).test(other.text));
      const view = base.includes("View");
      if (makers.some((maker) => !isNoPackage(maker, view))) return [];
      return [
        {
          name,
          what: view ? "view manager" : "native module",
          side: "android" as const,
          wanted: view ? "createViewManagers of a package" : "the modules of a package",
          at: source.place(offset),
        },
      ];
    }),
  );
}

/**
 * Whether what makes a module does not hand it to the framework: its class is called a package and is none, or the list of its modules, by which
 * they are looked up, is empty. Source: reactnative.dev, "Turbo Native Modules: Android" (BaseReactPackage, getReactModuleInfoProvider).
 */
function isNoPackage({ text }: Native, view: boolean): boolean {
  if (/\bclass\s+\w+Package\s*(?:\(\s*\)\s*)?\{/.test(text) && !/\bReact\w*Package\b/.test(text.replace(/\bclass\s+\w+/g, ""))) return true;
  return (
    !view &&
    /\b(?:BaseReactPackage|TurboReactPackage)\b/.test(text) &&
    /\bgetReactModuleInfoProvider\b[^]*?\b(?:emptyMap(?:<[^>]*>)?\s*\(|mapOf\s*(?:<[^>]*>)?\(\s*\)|emptyHashMap)/.test(text) &&
    !/\bReactModuleInfo\s*\(/.test(text)
  );
}

function isAskedFor(name: string, sources: readonly SourceFile[]): boolean {
  const quoted = new RegExp(`["']${name}["']|\\bNativeModules\\b[^;]{0,200}\\b${name}\\b|\\b${name}\\b[^;]{0,200}\\bNativeModules\\b`);
  return sources.some(({ side, text }) => side === "shared" && text.includes(name) && quoted.test(text));
}

/** The name under which the specification of a generated class is asked for: the class has it without a line of its own. */
function nameOfSpecification(spec: string, sources: readonly SourceFile[]): string | undefined {
  const stem = spec.replace(/Spec$/, "");
  const file = sources.find(({ side, file: path }) => side === "shared" && new RegExp(`(^|/)${stem}\\.[jt]sx?$`).test(path));
  return /TurboModuleRegistry\s*\.\s*get(?:Enforcing)?\s*(?:<[^>]*>)?\(\s*["']([^"'\n]+)["']/.exec(file?.text ?? "")?.[1];
}

/** Modules whose name stands in their specification alone. */
function bySpecification(android: readonly Native[], sources: readonly SourceFile[]): BridgeFact[] {
  return android.flatMap(({ source, text }) =>
    moduleClasses(text).flatMap(({ base, offset }): BridgeFact[] => {
      const name = base.startsWith("Native") && nameOfModule(text) === undefined ? nameOfSpecification(base, sources) : undefined;
      return name === undefined
        ? []
        : [{ kind: "native module", name, role: "offered", side: "android", guards: [], at: source.place(offset) }];
    }),
  );
}

/** Modules and views of iOS that the configuration of the code generation names. Source: reactnative.dev, "Codegen" (ios.modulesProvider). */
function byConfiguration(app: App, project: ProjectFiles): BridgeFact[] {
  const ios = at(project.json(join(app.path, "package.json"))?.root, "codegenConfig", "ios");
  return (
    [
      ["native module", "modulesProvider"],
      ["native module", "modules"],
      ["view manager", "componentProvider"],
      ["view manager", "components"],
    ] as const
  ).flatMap(([kind, key]) =>
    entriesOf(at(ios, key)).map(([name, entry]): BridgeFact => ({
      kind,
      name,
      role: "offered",
      side: "ios",
      guards: [],
      at: placeOf(entry.value),
    })),
  );
}

/** Classes of Swift that Objective-C offers as modules, by the name that Objective-C sees. */
function externClasses(ios: readonly Native[]): ModuleHalf[] {
  const named = new Map<string, string>();
  const unnamed = new Set<string>();
  for (const { source, text } of ios)
    if (source.language === "swift")
      for (const match of text.matchAll(
        /(@objc\s*(?:\(\s*(\w+)\s*\))?\s*(?:@\w+\s*)*)?(?:\b(?:public|open|final|internal)\s+)*\bclass\s+(\w+)\b/g,
      ))
        if (match[2] !== undefined) named.set(match[2], match[3] as string);
        else unnamed.add(match[3] as string);
  const declared = new Set(
    ios.flatMap(({ source, text }) =>
      source.language === "objc" ? [...text.matchAll(/@(?:implementation|interface)\s+(\w+)/g)].map((match) => match[1] as string) : [],
    ),
  );
  if (named.size === 0 && unnamed.size === 0) return [];
  return ios.flatMap(({ source, text }) =>
    source.language !== "objc"
      ? []
      : [...text.matchAll(/\bRCT_EXTERN_(REMAP_)?MODULE\s*\(\s*(\w+)\s*,\s*(\w+)/g)].flatMap((match): ModuleHalf[] => {
          const name = (match[1] === undefined ? match[2] : match[3]) as string;
          if (named.has(name) || declared.has(name)) return externMethods(ios, text, source, match.index, name);
          const near = unnamed.has(name) ? name : [...named.keys()].find((other) => distance(other, name) <= NEAR + 2);
          return [{ what: "swift class", side: "ios", name, near, at: source.place(match.index) }];
        }),
  );
}

/**
 * Methods that a plugin of Capacitor lists and that its Swift class does not show to Objective-C, by which they are called. Source:
 * capacitorjs.com, "Custom native iOS code" (pluginMethods, CAP_PLUGIN_METHOD).
 */
export function capacitorHalves({ kind }: App, sources: readonly SourceFile[]): ModuleHalf[] {
  if (kind !== "capacitor") return [];
  const swift = sources
    .filter(({ side, language }) => side === "ios" && language === "swift")
    .map((source) => ({ source, text: withoutComments(source.text) }));
  const listed = (source: SourceFile, text: string, type: string, form: RegExp): ModuleHalf[] => {
    const own = swift.filter((other) => new RegExp(`\\b(?:class|extension)\\s+${type}\\b`).test(other.text));
    const all = own.map((other) => other.text).join("\n");
    if (own.length === 0) return [];
    return [...text.matchAll(form)].flatMap((match) => {
      const method = match[1] as string;
      return hiddenMethod(all, method, { name: `${method} of ${type}`, at: source.place(match.index) });
    });
  };
  return [
    ...swift.flatMap(({ source, text }) => {
      const types = [...text.matchAll(/\bclass\s+(\w+)\s*:[^{]*\bCAPBridgedPlugin\b/g)];
      return types.length === 1 ? listed(source, text, types[0]?.[1] as string, /\bCAPPluginMethod\s*\(\s*name\s*:\s*"(\w+)"/g) : [];
    }),
    ...sources.flatMap((source) => {
      const text = source.side === "ios" && source.language === "objc" ? withoutComments(source.text) : "";
      const types = [...text.matchAll(/\bCAP_PLUGIN\s*\(\s*(\w+)/g)];
      return types.length === 1 ? listed(source, text, types[0]?.[1] as string, /\bCAP_PLUGIN_METHOD\s*\(\s*(\w+)/g) : [];
    }),
  ];
}

/** Methods that Objective-C offers and the class of Swift does not have. */
function externMethods(ios: readonly Native[], text: string, source: SourceFile, from: number, name: string): ModuleHalf[] {
  const owner = ios.find(
    ({ source: { language }, text: other }) => language === "swift" && new RegExp(`@objc\\s*\\(\\s*${name}\\s*\\)`).test(other),
  );
  const end = text.indexOf("@end", from);
  if (!owner || [...owner.text.matchAll(/@objc\s*\(\s*\w+\s*\)/g)].length > 1) return [];
  const type = new RegExp(`@objc\\s*\\(\\s*${name}\\s*\\)[^{]*?\\bclass\\s+(\\w+)`).exec(owner.text)?.[1] ?? name;
  // What extensions in other files bring counts too.
  const all = ios
    .filter((other) => other === owner || new RegExp(`\\bextension\\s+${type}\\b`).test(other.text))
    .map((other) => other.text)
    .join("\n");
  return [...text.slice(from, end < 0 ? undefined : end).matchAll(/\bRCT_EXTERN(?:__BLOCKING_SYNCHRONOUS)?_METHOD\s*\(\s*(\w+)/g)].flatMap(
    (match) => {
      const method = match[1] as string;
      const hidden = hiddenMethod(all, method, { name: `${method} of ${name}`, at: source.place(from + match.index) });
      return hidden.length > 0
        ? hidden
        : otherSelector(all, method, name, text.slice(from + match.index), source.place(from + match.index));
    },
  );
}

/**
 * A method whose labels are not those under which Swift's code shows it: it is found when it is called, and not before. Where the selector is written
 * out in Swift. Source: reactnative.dev, "iOS Native Modules" (Exporting Swift).
 */
function otherSelector(code: string, method: string, name: string, declared: string, at: ModuleHalf["at"]): ModuleHalf[] {
  const written = [...code.matchAll(new RegExp(`@objc\\s*\\(\\s*(${method}(?::[\\w:]*)?)\\s*\\)`, "g"))].map((match) => match[1] as string);
  const open = declared.indexOf("(");
  const body = declared.slice(open + 1, closing(declared, open)).trim();
  const labels = [...body.replace(/\((?:[^()]|\([^()]*\))*\)/g, "").matchAll(/(\w+)\s*:/g)].map((match) => `${match[1] as string}:`);
  const selector = labels.length === 0 ? method : labels.join("");
  const [only] = written;
  if (written.length !== 1 || only === undefined || only === selector || !/^\w+\s*(:|$)/.test(body)) return [];
  return [{ what: "swift method", side: "ios", name: `${selector} of ${name}`, near: only, at }];
}

/** A method that Swift's code of a class does not have, or does not show to Objective-C. */
function hiddenMethod(code: string, method: string, half: Pick<ModuleHalf, "name" | "at">): ModuleHalf[] {
  const there = new RegExp(`\\bfunc\\s+${method}\\b`).test(code);
  const shown = new RegExp(`@objc\\b[^{}]{0,120}?\\bfunc\\s+${method}\\b|@objc\\s*\\(\\s*${method}\\b`).test(code);
  if (shown || (there && /@objcMembers/.test(code))) return [];
  const others = [...code.matchAll(/\bfunc\s+(\w+)/g)].map((match) => match[1] as string);
  return [{ what: "swift method", side: "ios", ...half, near: there ? method : others.find((other) => distance(other, method) <= NEAR) }];
}

/** Properties of views that shared code gives, and that one side's view manager alone has. */
function properties(sources: readonly SourceFile[], android: readonly Native[], ios: readonly Native[], guardsAt: GuardsAt): BridgeFact[] {
  const managers = new Map<string, Map<"android" | "ios", Map<string, [Native, number]>>>();
  const add = (name: string, side: "android" | "ios", native: Native, form: RegExp): void => {
    const view = viewName(name);
    const sides = managers.get(view) ?? new Map<"android" | "ios", Map<string, [Native, number]>>();
    managers.set(view, sides);
    const found = sides.get(side) ?? new Map<string, [Native, number]>();
    sides.set(side, found);
    for (const match of native.text.matchAll(form)) found.set((match[1] ?? match[2]) as string, [native, match.index]);
  };
  for (const native of android) {
    // A manager of the code generation has the properties of its specification, which the compiler looks at.
    if (!/ViewManager|ViewGroupManager/.test(native.text) || /ManagerInterface/.test(native.text)) continue;
    const name = nameOfModule(native.text);
    if (name !== undefined)
      add(name, "android", native, /@ReactProp(?:Group)?\s*\(\s*(?:name\s*=\s*)?"(\w+)"|@ReactProp\s*\([^)]*?\bname\s*=\s*"(\w+)"/g);
  }
  for (const native of ios) {
    if (!/RCTViewManager/.test(native.text)) continue;
    const match = /\bRCT_EXTERN_MODULE\s*\(\s*(\w+)|\bRCT_EXPORT_MODULE\s*\(\s*(\w*)\s*\)/.exec(native.text);
    const name = match?.[1] ?? (match?.[2] || /@implementation\s+(\w+)/.exec(native.text)?.[1]);
    if (name !== undefined) add(name, "ios", native, /\bRCT_(?:EXPORT|CUSTOM|REMAP)_VIEW_PROPERTY\s*\(\s*(\w+)/g);
  }
  const facts: BridgeFact[] = factsOfTags(sources, managers, guardsAt);
  return facts;
}

const viewName = (name: string): string => name.replace(/^RCT/, "").replace(/Manager$/, "");

/** The properties that components are given, and the sides whose managers have them. */
function factsOfTags(
  sources: readonly SourceFile[],
  managers: Map<string, Map<"android" | "ios", Map<string, [Native, number]>>>,
  guardsAt: GuardsAt,
): BridgeFact[] {
  const facts: BridgeFact[] = [];
  for (const { source, component, view } of componentsOf(sources)) {
    const sides = managers.get(view);
    // A side without the view is told as that.
    if (!sides || sides.size < 2) continue;
    const text = withoutComments(source.text);
    for (const tag of text.matchAll(new RegExp(`<${component}\\b([^<>]*)`, "g")))
      for (const match of (tag[1] ?? "").matchAll(/(?<![\w.{])(\w+)\s*=\s*[{"']/g)) {
        const name = `${match[1] as string} of ${view}`;
        const offset = tag.index + tag[0].indexOf(match[0]);
        const having = [...sides].filter(([, found]) => found.has(match[1] as string));
        if (having.length === 0) continue;
        facts.push({
          kind: "view property",
          name,
          role: "asked",
          side: "shared",
          guards: guardsAt(source, offset),
          at: source.place(offset),
        });
        for (const [side, found] of having) {
          const [native, index] = found.get(match[1] as string) as [Native, number];
          facts.push({ kind: "view property", name, role: "offered", side, guards: [], at: native.source.place(index) });
        }
      }
  }
  return facts;
}

/** What a module of Android calls itself: a text, or a constant of the same file. */
export function nameOfModule(text: string): string | undefined {
  const match =
    /\bgetName\s*\(\s*\)\s*(?::\s*String)?\s*(?:\{\s*return|=)\s*(?:"([^"\n]+)"|([\w.]+))/.exec(text) ??
    /@ReactModule\s*\(\s*(?:name\s*=\s*)?(?:"([^"\n]+)"|([\w.]+))/.exec(text);
  if (match?.[1] !== undefined) return match[1];
  const constant = match?.[2]?.split(".").at(-1);
  return constant === undefined ? undefined : new RegExp(`\\b${constant}\\s*(?::\\s*\\w+\\s*)?=\\s*"([^"\\n]+)"`).exec(text)?.[1];
}

/** Components of native views with the names under which files use them: where they are made, and where they are imported from there. */
function componentsOf(sources: readonly SourceFile[]): { source: SourceFile; component: string; view: string }[] {
  const scripts = sources.filter(({ side, language }) => side === "shared" && isScript(language));
  const made: { source: SourceFile; component: string; view: string }[] = [];
  for (const source of scripts)
    for (const match of source.text.matchAll(
      /\b(?:const|let|var)\s+([A-Z]\w*)\s*(?::[^=\n]{0,80})?=\s*requireNativeComponent\s*(?:<[\s\S]{0,400}?>)?\(\s*["']([^"'\n]+)["']/g,
    ))
      made.push({ source, component: match[1] as string, view: viewName(match[2] as string) });
  const names = new Set(made.map(({ component }) => component));
  // One name for one view, or the tag does not tell which is meant.
  if (names.size !== made.length) return made;
  return [
    ...made,
    ...scripts.flatMap((source) =>
      made.flatMap(({ source: home, component, view }) =>
        source !== home && new RegExp(`\\bimport\\b[^;'"]*\\b${component}\\b[^;'"]*from\\s*["']\\.`).test(source.text)
          ? { source, component, view }
          : [],
      ),
    ),
  ];
}
