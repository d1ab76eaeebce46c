import { distance } from "fastest-levenshtein";
import { ownPackageOf, type App } from "../../model/app.js";
import type { ModuleHalf } from "../../model/code.js";
import { isWithin, join } from "../../model/paths.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, textAt, type Data } from "../../syntax/data.js";
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
      return config?.kind === "list" ? [] : [...generatedHeaders(config, own), ...generatedPackages(config, own)];
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
    if (config?.kind === "list") continue;
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

/** The package of generated classes where the configuration names none. Source: reactnative.dev, "Codegen" (android.javaPackageName). */
const USUAL_PACKAGE = "com.facebook.fbreact.specs";

/** Native classes that take a generated one from another package than it is made in. */
function generatedPackages(config: Config, natives: readonly Native[]): ModuleHalf[] {
  if (config === undefined) return [];
  const made = textAt(at(config, "android"), "javaPackageName") ?? USUAL_PACKAGE;
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

/** Methods that the framework's own classes have. Source: reactnative.dev, "Native Modules" (constants, RCTEventEmitter). */
const OF_THE_FRAMEWORK: ReadonlySet<string> = new Set(["getConstants", "constantsToExport", "addListener", "removeListeners"]);

/** Classes of the framework that a module inherits from, and that have no method that a specification could mean. */
const BASE_CLASS = /^(?:NSObject|RCTEventEmitter|Native\w+SpecBase)$/;

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
    const body = text.slice(open + 1, closing(text, open));
    const methods = [...body.matchAll(/(?:^|[;,\n])\s*(\w+)\s*(\?)?\s*\(/g)].flatMap(([, method = "", optional]) =>
      optional === undefined && !OF_THE_FRAMEWORK.has(method) ? [method] : [],
    );
    return natives.flatMap((native): ModuleHalf[] => {
      const classes = native.source.side === "ios" ? implementationOf(native, name, natives) : undefined;
      if (classes === undefined) return [];
      const own = [...classes.matchAll(/^-\s*\([^()]*\)\s*(\w+)/gm)].map(([, other = ""]) => other);
      return methods.flatMap((method): ModuleHalf[] => {
        if (
          new RegExp(
            `(?:[-+]\\s*\\([^()]*(?:\\([^()]*\\)[^()]*)*\\)\\s*|RCT_(?:EXPORT|REMAP)_\\w*METHOD\\w*\\s*\\(\\s*(?:[\\w ]+,\\s*)?)${method}\\b`,
          ).test(classes)
        )
          return [];
        return [
          {
            what: "specification method",
            side: "ios",
            name: `${name}.${method}`,
            near: own.find((other) => distance(other, method) <= 4 || other.startsWith(method) || method.startsWith(other)),
            at: native.source.place(Math.max(0, native.text.indexOf("@implementation"))),
          },
        ];
      });
    });
  });
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
