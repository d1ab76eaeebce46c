import { distance } from "fastest-levenshtein";
import { ownPackageOf, type App } from "../../model/app.js";
import type { ModuleHalf } from "../../model/code.js";
import { baseName, isWithin, join } from "../../model/paths.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, entriesOf, placeOf, textAt, type Data } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { isScript, type SourceFile } from "./sources.js";

/** A file of native code without its comments, which stay as blanks. */
export interface Native {
  source: SourceFile;
  text: string;
}

type Config = Data | undefined;

/**
 * What React Native's code generation makes, against the native code that takes it, in the app and in each package of the repository. Source:
 * reactnative.dev, "Codegen", "Turbo Native Modules".
 */
export function codeGeneration(app: App, natives: readonly Native[], sources: readonly SourceFile[], project: ProjectFiles): ModuleHalf[] {
  const homes = new Map<string, Native[]>();
  for (const native of natives) {
    const home = homeOf(app, native.source);
    homes.set(home, [...(homes.get(home) ?? []), native]);
  }
  return [
    ...lostSpecifications(app, natives, sources, project),
    ...specificationMethods(natives, sources),
    ...[...homes].flatMap(([home, own]) => {
      const config = at(project.json(join(home, "package.json"))?.root, "codegenConfig");
      return isSeveral(config)
        ? []
        : [
            ...generatedHeaders(config, own),
            ...generatedPackages(config, own, packageOfScript(project, home)),
            ...providedClasses(config, own),
            ...leftOutOfType(
              config,
              sources.filter((source) => homeOf(app, source) === home),
            ),
            ...withoutPlugin(app, config, own),
          ];
    }),
  ];
}

/** The package of the repository, or the app, that a file belongs to. */
function homeOf(app: App, { file }: SourceFile): string {
  return ownPackageOf(app, file)?.folder ?? app.path;
}

/** The class of the code generation that a file of native code is written for. */
function specificationsWanted({ source, text }: Native): { source: SourceFile; name: string; stem: string; offset: number }[] {
  const form =
    source.language === "objc"
      ? /@interface[^\n<]*<[^>\n]*?\b(Native(\w+)Spec)\b|:\s*(Native(\w+)Spec)Base\b/
      : /(?:\bextends\s+|\)\s*:\s*|\bclass\s+\w+\s*:\s*)(Native(\w+)Spec)\b/;
  const match = form.exec(text);
  const name = match?.[1] ?? match?.[3];
  return match && name !== undefined
    ? [{ source, name, stem: `Native${(match[2] ?? match[4]) as string}`, offset: match.index + match[0].indexOf(name) }]
    : [];
}

/** Classes that native code takes from the code generation, and that it does not make: no specification of that name is where it looks. */
function lostSpecifications(app: App, natives: readonly Native[], sources: readonly SourceFile[], project: ProjectFiles): ModuleHalf[] {
  const declared = new Set(
    natives.flatMap(({ text }) =>
      [...text.matchAll(/(?:\bclass|@protocol|@interface)\s+(Native\w+Spec)\b/g)].map((match) => match[1] as string),
    ),
  );
  const wanted = natives.flatMap((native) => specificationsWanted(native)).filter(({ name }) => !declared.has(name));
  if (wanted.length === 0) return [];
  const found: ModuleHalf[] = [];
  for (const { source, name, stem, offset } of wanted) {
    // Each package of the repository has its own.
    const home = homeOf(app, source);
    const file = join(home, "package.json");
    const config = at(project.json(file)?.root, "codegenConfig");
    if (isSeveral(config)) continue;
    const folder = textAt(config, "jsSrcsDir");
    const within = join(home, folder ?? ".");
    const files = sources.filter(
      ({ file: path, side, language }) =>
        side === "shared" &&
        isScript(language) &&
        path
          .split("/")
          .at(-1)
          ?.replace(/\.\w+$/, "") === stem,
    );
    const place = source.place(offset);
    if (config === undefined) {
      found.push({ what: "code generation", side: source.side, name, near: file, at: place });
      continue;
    }
    // A specification of a package that is not here: its code is generated with the package.
    if (files.some(({ file: path }) => isWithin(path, within)) || (files.length === 0 && !asksFor(sources, name))) continue;
    found.push({ what: "generated class", side: source.side, name, near: files[0]?.file ?? folder ?? "", at: place });
  }
  return found;
}

/** Headers that are taken in by a name close to that of the generated library. */
function generatedHeaders(config: Config, natives: readonly Native[]): ModuleHalf[] {
  const library = textAt(config, "name");
  return natives.flatMap(({ source, text }): ModuleHalf[] => {
    const [, name = "", file] = (source.language === "objc" ? /#\s*import\s*<(\w+)\/(\w+)\.h>/.exec(text) : null) ?? [];
    return library !== undefined && name === file && name !== library && distance(name, library) <= 4 && name.endsWith("Spec")
      ? [{ what: "generated header", side: "ios", name, near: library, at: source.place(text.indexOf(`<${name}/`)) }]
      : [];
  });
}

/** Several libraries of one package, in either of the two forms. Source: reactnative.dev, "Codegen" (libraries, in releases before 0.71). */
function isSeveral(config: Config): boolean {
  return config?.kind === "list" || at(config, "libraries") !== undefined;
}

/**
 * The package of generated classes that a library's build script names, where its package.json names none. Source: @react-native/gradle-plugin,
 * ReactExtension (codegenJavaPackageName).
 */
function packageOfScript(project: ProjectFiles, home: string): string | undefined {
  const file = ["android/build.gradle", "android/build.gradle.kts"]
    .map((name) => join(home, name))
    .find((name) => project.tree.isFile(name));
  const text = file === undefined ? undefined : project.text(file)?.text;
  return /\bcodegenJavaPackageName\s*(?:=|\.set\s*\()\s*["']([\w.]+)["']/.exec(text ?? "")?.[1];
}

/** The package of generated classes where the configuration names none. Source: reactnative.dev, "Codegen" (android.javaPackageName). */
const USUAL_PACKAGE = "com.facebook.fbreact.specs";

/** Native classes that take a generated one from another package than it is made in. */
function generatedPackages(config: Config, natives: readonly Native[], stated: string | undefined): ModuleHalf[] {
  if (config === undefined) return [];
  const made = textAt(at(config, "android"), "javaPackageName") ?? stated ?? USUAL_PACKAGE;
  return natives.flatMap((native): ModuleHalf[] => {
    const { source, text } = native;
    const [wanted] = source.side === "android" ? specificationsWanted(native) : [];
    if (!wanted || /^[ \t]*import\s+[\w.]+\.\*/m.test(text)) return [];
    // For the older architecture packages have a class of that name themselves.
    if (natives.some((other) => new RegExp(`\\bclass\\s+${wanted.name}\\b`).test(other.text))) return [];
    const imported = new RegExp(`^[ \\t]*import\\s+([\\w.]+)\\.${wanted.name}\\b`, "m").exec(text)?.[1];
    const own = imported ?? /^\s*package\s+([\w.]+)/m.exec(text)?.[1];
    return own === undefined || own === made
      ? []
      : [{ what: "generated package", side: "android", name: wanted.name, near: made, at: source.place(wanted.offset) }];
  });
}

/** Classes of components that the configuration names and the native code does not have. Source: reactnative.dev, "Codegen" (ios.componentProvider). */
function providedClasses(config: Config, natives: readonly Native[]): ModuleHalf[] {
  const texts = natives.filter(({ source }) => source.language === "objc" || source.language === "swift").map(({ text }) => text);
  if (texts.length === 0) return [];
  return entriesOf(at(config, "ios", "componentProvider")).flatMap(([component, { value }]): ModuleHalf[] => {
    const type = textAt(value);
    if (type === undefined || texts.some((text) => new RegExp(`@implementation\\s+${type}\\b|\\bclass\\s+${type}\\b`).test(text)))
      return [];
    return [{ what: "component class", side: "ios", name: component, near: type, at: placeOf(value) }];
  });
}

/** Specifications of a kind that the configuration leaves out. Source: reactnative.dev, "Codegen" (type: modules, components or all). */
function leftOutOfType(config: Config, sources: readonly SourceFile[]): ModuleHalf[] {
  const type = textAt(config, "type");
  const stated = at(config, "type");
  const form =
    type === "modules"
      ? /\bcodegenNativeComponent\s*(?:<[^()]{0,80}>)?\s*\(/
      : type === "components"
        ? /\bTurboModuleRegistry\s*\.\s*get/
        : undefined;
  if (!form || !stated) return [];
  const left = sources.find(
    ({ text, file, side }) => side === "shared" && !/(^|\/)__tests__\//.test(file) && form.test(withoutComments(text)),
  );
  return left && type !== undefined
    ? [{ what: "left out specification", side: "shared", name: baseName(left.file), near: type, at: placeOf(stated) }]
    : [];
}

/**
 * A library whose class extends a generated one, and whose script does not apply the framework's build plugin, which generates it. Source:
 * reactnative.dev, "Create a Library for your Module" (apply plugin: com.facebook.react).
 */
function withoutPlugin(app: App, config: Config, natives: readonly Native[]): ModuleHalf[] {
  if (config === undefined) return [];
  return app.packageModules.flatMap(({ folder, plugins, unread, buildFile }): ModuleHalf[] => {
    const own = natives.filter(({ source }) => source.side === "android" && isWithin(source.file, folder));
    const wanted = own.flatMap((native) => specificationsWanted(native));
    const declared = own.some(({ text }) => /\bclass\s+Native\w+Spec\b/.test(text));
    const [first] = wanted;
    if (!first || declared || unread.length > 0 || buildFile === undefined || plugins.some(({ id }) => id === "com.facebook.react"))
      return [];
    return [{ what: "generating plugin", side: "android", name: first.name, near: buildFile, at: first.source.place(first.offset) }];
  });
}

/** Methods that the framework's own classes have. Source: reactnative.dev, "Native Modules" (constants, RCTEventEmitter). */
const OF_THE_FRAMEWORK: ReadonlySet<string> = new Set(["getConstants", "constantsToExport", "addListener", "removeListeners"]);

/** Classes of the framework that a module inherits from, and that have no method that a specification could mean. */
const BASE_CLASS = /^(?:NSObject|RCTEventEmitter|Native\w+SpecBase)$/;

/** A method of a specification: its name, those of its parameters, and whether a promise answers it. */
interface Asked {
  name: string;
  parameters: string[];
  promise: boolean;
}

/** The methods that each class has to have: those of a specification that are not optional. */
function methodsOf(body: string): Asked[] {
  return [...body.matchAll(/(?:^|[;,\n])\s*(\w+)\s*(\?)?\s*\(/g)].flatMap((match) => {
    const [head, name = "", optional] = match;
    if (optional !== undefined || OF_THE_FRAMEWORK.has(name)) return [];
    const open = match.index + head.length - 1;
    const end = closing(body, open);
    const parameters = partsOf(body.slice(open + 1, end)).flatMap((part) => /^\s*(?:readonly\s+)?(\w+)\s*\??\s*:/.exec(part)?.[1] ?? []);
    return [{ name, parameters, promise: /^\s*:\s*Promise\b/.test(body.slice(end + 1)) }];
  });
}

/** The parts of a list between its commas, those inside of brackets left whole. */
function partsOf(list: string): string[] {
  const parts = [""];
  let depth = 0;
  for (const character of list) {
    if ("([{<".includes(character)) depth++;
    else if (")]}".includes(character) || (character === ">" && !(parts.at(-1) ?? "").endsWith("="))) depth--;
    if (character === "," && depth === 0) parts.push("");
    else parts[parts.length - 1] += character;
  }
  return parts;
}

/** The selector under which the generated code calls a method. Source: reactnative.dev, "Turbo Native Modules: iOS" (generated protocol). */
function selectorOf({ name, parameters, promise }: Asked): string {
  const labels = [name, ...parameters.slice(1), ...(promise ? ["resolve", "reject"].slice(parameters.length === 0 ? 1 : 0) : [])];
  return parameters.length === 0 && !promise ? name : labels.map((label) => `${label}:`).join("");
}

/** The selectors of the methods that a class of Objective-C has. */
function selectorsIn(text: string): string[] {
  return [
    ...text.matchAll(/^[ \t]*-\s*\([^()]*(?:\([^()]*\)[^()]*)*\)\s*(\w[^;{]*)[;{]|\bRCT_EXPORT_\w*METHOD\w*\s*\(\s*([^{;]*)\)\s*\{/gm),
  ].map(([, own, exported]) => {
    // Types stand in brackets, those of blocks with more inside.
    let plain = own ?? exported ?? "";
    for (let before = ""; before !== plain;) {
      before = plain;
      plain = plain.replace(/\([^()]*\)/g, " ");
    }
    const labels = [...plain.matchAll(/(\w+)\s*:/g)].map(([, label = ""]) => `${label}:`);
    return labels.length > 0 ? labels.join("") : plain.trim();
  });
}

/**
 * Methods of a specification that the class of one side does not have: in Objective-C nothing but a warning says so while it is built. Source:
 * reactnative.dev, "Turbo Native Modules" (specification, NativeXSpec).
 */
function specificationMethods(natives: readonly Native[], sources: readonly SourceFile[]): ModuleHalf[] {
  return sources.flatMap((source): ModuleHalf[] => {
    if (source.side !== "shared" || !isScript(source.language) || !source.text.includes("TurboModuleRegistry")) return [];
    const text = withoutComments(source.text);
    const name = /\bTurboModuleRegistry\s*\.\s*get(?:Enforcing)?\s*(?:<[^()]{0,60}>)?\s*\(\s*["']([\w-]+)["']/.exec(text)?.[1];
    const head = /\binterface\s+\w+\s+extends\s+(?:\w+\s*,\s*)*TurboModule\b[^{]*\{/.exec(text);
    if (name === undefined || !head) return [];
    const open = head.index + head[0].length - 1;
    const methods = methodsOf(text.slice(open + 1, closing(text, open)));
    const stem = baseName(source.file).replace(/\.\w+$/, "");
    return natives.flatMap((native) => [
      ...methodsOnIos(native, name, methods, natives),
      ...methodsOnAndroid(native, `${stem}Spec`, name, methods),
    ]);
  });
}

function methodsOnIos(native: Native, name: string, methods: readonly Asked[], natives: readonly Native[]): ModuleHalf[] {
  const classes = native.source.side === "ios" ? implementationOf(native, name, natives) : undefined;
  if (classes === undefined) return [];
  const own = selectorsIn(classes);
  return methods.flatMap((method): ModuleHalf[] => {
    const selector = selectorOf(method);
    if (own.includes(selector)) return [];
    const first = (other: string): string => other.split(":")[0] ?? other;
    const sameName = own.find((other) => first(other) === method.name);
    const isThere = new RegExp(
      `(?:[-+]\\s*\\([^()]*(?:\\([^()]*\\)[^()]*)*\\)\\s*|RCT_(?:EXPORT|REMAP)_\\w*METHOD\\w*\\s*\\(\\s*(?:[\\w ]+,\\s*)?)${method.name}\\b`,
    ).test(classes);
    // It is there in a form that was not read, or for one of the two architectures.
    if (isThere && (sameName === undefined || /RCT_NEW_ARCH_ENABLED|RCT_REMAP/.test(native.text))) return [];
    return [
      {
        what: "specification method",
        side: "ios",
        name: `${name}.${sameName === undefined ? method.name : selector}`,
        near:
          sameName ??
          own
            .map(first)
            .find((other) => distance(other, method.name) <= 4 || other.startsWith(method.name) || method.name.startsWith(other)),
        at: native.source.place(Math.max(0, native.text.indexOf("@implementation"))),
      },
    ];
  });
}

/** The same for the class of Kotlin or Java that extends the generated one. */
function methodsOnAndroid({ source, text }: Native, spec: string, name: string, methods: readonly Asked[]): ModuleHalf[] {
  const [wanted] = source.side === "android" && text.includes(spec) ? specificationsWanted({ source, text }) : [];
  if (wanted?.name !== spec || new RegExp(`\\b(?:abstract|open|sealed)\\s+(?:\\w+\\s+)*class\\b[^{]*\\b${spec}\\b`).test(text)) return [];
  return methods.flatMap((method): ModuleHalf[] =>
    new RegExp(source.language === "kotlin" ? `\\bfun\\s+${method.name}\\b` : `\\b${method.name}\\s*\\(`).test(text)
      ? []
      : [
          {
            what: "specification method",
            side: "android",
            name: `${name}.${method.name}`,
            near: undefined,
            at: source.place(wanted.offset),
          },
        ],
  );
}

/** The text of the class of Objective-C that is a module under a name, where all of it is there. */
function implementationOf({ source, text }: Native, name: string, natives: readonly Native[]): string | undefined {
  const exported = /\bRCT_EXPORT_MODULE(?:_NO_LOAD)?\s*\(\s*@?"?(\w*)/.exec(text)?.[1];
  const own = exported === "" ? /@implementation\s+(?:RCT)?(\w+)/.exec(text)?.[1] : exported;
  if (source.language !== "objc" || own !== name || /-Swift\.h|forwardInvocation|\bSwift\b/.test(text)) return undefined;
  const classes = [...text.matchAll(/@implementation\s+(\w+)/g)];
  const type = classes[0]?.[1] ?? "";
  // What a class has of its parent, or in a category, is as good as its own.
  const elsewhere = new RegExp(`@implementation\\s+${type}\\s*\\(|@interface\\s+${type}\\s*:\\s*(\\w+)`);
  for (const other of natives) {
    const match = elsewhere.exec(other.text);
    if (match && (match[1] === undefined || !BASE_CLASS.test(match[1]))) return undefined;
  }
  return classes.length === 1 && /Spec(?:JSI|Base)?\b|getTurboModule/.test(text) ? text.slice(classes[0]?.index ?? 0) : undefined;
}

/** A specification of the app's own that has another file name: it asks for a module that has the class's name. */
function asksFor(sources: readonly SourceFile[], spec: string): boolean {
  const name = spec.replace(/^Native|Spec$/g, "");
  return sources.some(
    ({ side, text }) =>
      side === "shared" && new RegExp(`TurboModuleRegistry\\s*\\.\\s*get(?:Enforcing)?[^("']{0,60}\\(\\s*["']${name}["']`).test(text),
  );
}
