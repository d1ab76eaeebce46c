import { APPLE_MODULES } from "../../knowledge/apple-frameworks.js";
import type { App } from "../../model/app.js";
import type { CodeFacts, CodeFile, Language } from "../../model/code.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { namesGiven } from "./lost-exports.js";
import { escaped } from "./mentions.js";
import { inFull, type Program } from "./program.js";
import { isScript, type SourceFile } from "./sources.js";
import { packageOfImport, type Wanted } from "./wanted.js";

interface File {
  source: SourceFile;
  code: CodeFile;
}

/**
 * Calls of an SDK whose first name nothing in the file brings in. Told only where nothing else can: neither a file that hands on what it
 * imports, nor one of the same package or namespace, nor a declaration of the app's own.
 * @param more whether a project of .NET takes in namespaces for all of its files, and whether a prefix header does so for Objective-C; frameworks of
 * Kotlin, which hand on nothing
 */
export function missingImports(
  app: App,
  program: Program,
  wanted: Wanted,
  more: { globalUsings: boolean; prefixHeader: boolean; kotlinFrameworks: readonly string[] },
): CodeFacts["missingImports"] {
  if (app.kind === "cordova") return [];
  const found: CodeFacts["missingImports"] = [];
  const shared = sharedBy(program, app, wanted, more.kotlinFrameworks);
  const exported = isBundled(app) ? exportsOf(app, program) : undefined;
  for (const file of program.files) {
    const { source, code } = file;
    if (exported && isScript(source.language) && source.side === "shared") found.push(...lostNames(app, program, file, exported));
    if ((source.language === "csharp" && more.globalUsings) || (source.language === "objc" && more.prefixHeader)) continue;
    // Each first name is looked at once for a file.
    const seen = new Set<string>();
    for (const call of code.calls) {
      const { callee } = inFull(call);
      const head = callee.split(".")[0] as string;
      if (call.optional || seen.has(head)) continue;
      const sdk = sdkOf(callee, source, wanted);
      if (sdk === undefined) continue;
      seen.add(head);
      if (isDeclared(program, code, head) || hasImport(code, head, sdk, wanted, file, program, shared)) continue;
      const brought = broughtBy(app, program, wanted, sdk, head, file);
      if (brought === undefined) continue;
      found.push({ sdk, callee: call.callee, wanted: brought, side: source.side, at: source.place(call.from) });
    }
  }
  return found;
}

/** Names of a framework that scripts use as they are, and the package they come from. Sources: reactnative.dev, the API; capacitorjs.com, "Plugin API". */
const OF_FRAMEWORKS: ReadonlyMap<string, string> = new Map([
  ...["AppRegistry", "NativeModules", "NativeEventEmitter", "TurboModuleRegistry", "PermissionsAndroid", "DeviceEventEmitter"].map(
    (name) => [name, "react-native"] as const,
  ),
  ["registerPlugin", "@capacitor/core"],
  ["registerRootComponent", "expo"],
]);

/** Whether scripts are put together by their imports, so that a name that nothing brings in is none. */
function isBundled({ kind }: App): boolean {
  return kind === "react-native" || kind === "expo" || kind === "capacitor";
}

/** Tools that bring names into scripts which import nothing. */
const IMPORTS_BY_ITSELF = /auto-import|^unimport$|^nuxt$|^@nuxt\/|provide-plugin/;

/** Functions and constants that scripts of the app's own hand out by their names, with the files that do; none where a tool brings them in. */
function exportsOf({ dependencies }: App, { files }: Program): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, string[]>();
  if (dependencies.some(({ ecosystem, name }) => ecosystem === "npm" && IMPORTS_BY_ITSELF.test(name))) return found;
  for (const { source, code } of files) {
    if (!isScript(source.language)) continue;
    // One that is given out as the default has a name as well.
    const byDefault = /^export\s+default\s+(?:async\s+)?function\*?\s+([\w$]+)/m.exec(code.plain)?.[1];
    for (const name of new Set([...(namesGiven(code.plain) ?? []), ...(byDefault === undefined ? [] : [byDefault])]))
      found.set(name, [...(found.get(name) ?? []), source.file]);
  }
  // What is put into the global object is there without an import.
  for (const { code } of files)
    for (const [, name = ""] of code.plain.matchAll(/\b(?:global|globalThis|window)\s*\.\s*([\w$]+)\s*=(?!=)/g)) found.delete(name);
  return found;
}

/**
 * Names that a script calls, or asks for something, and that nothing in it brings in: those of the framework, and those that one file of the app hands out.
 * The line ends with an error when it runs.
 */
function lostNames(
  { dependencies }: App,
  program: Program,
  file: File,
  exported: ReadonlyMap<string, readonly string[]>,
): CodeFacts["missingImports"] {
  const { source, code } = file;
  const seen = new Set<string>();
  const used = code.calls.flatMap(({ callee, from, arguments: list, optional }) => [
    ...(optional ? [] : [{ name: callee.split(/[.?]/)[0] as string, callee, from }]),
    ...list.flatMap(({ text, from: at }) => {
      const name = /^([A-Za-z_$][\w$]*)\.[\w$.]+$/.exec(text.trim())?.[1];
      return name === undefined ? [] : [{ name, callee: text.trim(), from: at }];
    }),
  ]);
  return used.flatMap(({ name, callee, from }): CodeFacts["missingImports"] => {
    const homes = exported.get(name) ?? [];
    const framework = OF_FRAMEWORKS.get(name);
    const isThere = framework !== undefined && dependencies.some(({ ecosystem, name: of }) => ecosystem === "npm" && of === framework);
    const [home] = homes;
    if (seen.has(name) || (!isThere && (homes.length !== 1 || home === source.file)) || name in globalThis) return [];
    seen.add(name);
    const isKnown =
      code.imports.some(({ names }) => names.some(({ local }) => local === name)) ||
      code.functions.some((fn) => fn.name === name) ||
      new RegExp(`(?<![\\w$.])${escaped(name)}\\s*=>|\\bimport\\b[^;'"]*\\b${escaped(name)}\\b`).test(code.plain);
    if (isKnown || isDeclared(program, code, name)) return [];
    return [{ sdk: undefined, callee, wanted: isThere ? framework : (home as string), side: source.side, at: source.place(from) }];
  });
}

/** The SDK whose call a call is, by the words of a sheet in full. */
function sdkOf(callee: string, { side, language }: SourceFile, { names }: Wanted): string | undefined {
  const parts = callee.split(".");
  return names.find(
    ({ side: of, segments, kind, language: only }) =>
      (of === side || ((side === "shared" || of === "shared") && language === "csharp")) &&
      (only === undefined || only === language) &&
      kind !== "import" &&
      segments.length > 1 &&
      parts.length >= segments.length &&
      segments.every((segment, index) => (index < segments.length - 1 ? parts[index] === segment : true)) &&
      (parts[segments.length - 1] === segments.at(-1) || language === "objc"),
  )?.sdk;
}

/** Whether a name is declared in the file in any way, or is a type of the app's own. */
function isDeclared(program: Program, code: CodeFile, head: string): boolean {
  if (program.types(head).length > 0 || code.variables.has(head) || code.values.has(head)) return true;
  return isScript(code.language)
    ? // Declared in any way, handed in, or asked for first: it comes from somewhere.
      new RegExp(
        `\\b(?:const|let|var|function|class|declare|global|globalThis\\.|window\\.|typeof)\\s*${head}\\b|[({,]\\s*${head}\\s*[,}):=]|\\b${head}\\s*=(?!=)`,
      ).test(code.plain.replace(/^[ \t]*import\s+type\b[^;'"]*/gm, ""))
    : new RegExp(`\\b(?:class|struct|enum|object|typealias|typedef|interface|protocol|val|var|let|final)\\s+${head}\\b`).test(code.plain);
}

/** What a file has to import: as other files of the app that call it do, or the package itself. */
function broughtBy(
  { dependencies }: App,
  program: Program,
  wanted: Wanted,
  sdk: string,
  head: string,
  { source, code }: File,
): string | undefined {
  if (isScript(source.language)) return dependencies.find((own) => own.sdk === sdk && own.ecosystem === "npm")?.name;
  if (source.language === "dart") {
    const name = dependencies.find((own) => own.sdk === sdk && own.ecosystem === "pub")?.name;
    return name === undefined ? undefined : `package:${name}`;
  }
  const ofFile = ({ code: other }: File): string | undefined =>
    other.imports.find(
      ({ source: from, names }) =>
        packageOfImport(wanted, other.language, from)?.sdk === sdk &&
        (isJvm(other.language) ? names.some(({ local }) => local === head) : true),
    )?.source;
  const others = program.files.filter(
    (file) =>
      file.code !== code &&
      isJvm(file.source.language) === isJvm(source.language) &&
      (file.source.side === source.side || source.language === "csharp"),
  );
  const known = others.map(ofFile).find((from) => from !== undefined);
  if (known !== undefined) return known;
  if (isJvm(source.language)) return head;
  if (source.language === "csharp") return dependencies.find((own) => own.sdk === sdk && own.ecosystem === "nuget")?.name;
  if (source.side !== "ios") return undefined;
  const pod = dependencies.find((own) => own.sdk === sdk && own.ecosystem === "cocoapods")?.name.split("/")[0];
  return pod ?? [...wanted.packages.modules].find(([, { sdk: of }]) => of === sdk)?.[0];
}

function isJvm(language: Language): boolean {
  return language === "kotlin" || language === "java";
}

/** Packages of the platforms: they bring nothing of an SDK. */
const PLATFORM_IMPORT =
  /^(?:java|javax|kotlin|kotlinx|android|androidx|System|Microsoft)(?:[./]|$)|^dart:|^package:(?:flutter|meta|collection|async)\//;

function isPlatform(source: string): boolean {
  return PLATFORM_IMPORT.test(source) || APPLE_MODULES.has(source.split(/[./]/, 1)[0] ?? "");
}

/** What files see without importing it themselves, asked once for an app. */
interface Shared {
  /** Packages of the app's own. */
  packages: ReadonlySet<string>;
  /** A file of Swift hands on what it imports. */
  swift: boolean;
  csharp: boolean;
  /** Whether a module is of an SDK from a registry, which hands on nothing of another one. */
  registry: (language: Language, module: string) => boolean;
}

function sharedBy({ files }: Program, { dependencies }: App, wanted: Wanted, kotlinFrameworks: readonly string[]): Shared {
  const fetched = new Set(
    dependencies.flatMap(({ sdk, ecosystem, side, locked, route }) =>
      side === "ios" &&
      sdk !== undefined &&
      (ecosystem === "cocoapods" || ecosystem === "swiftpm") &&
      (locked !== undefined || route === undefined)
        ? sdk
        : [],
    ),
  );
  // What comes as a framework that was built before hands on nothing either.
  for (const { sdk, side, ecosystem } of dependencies) if (side === "ios" && ecosystem === "binary") fetched.add(sdk);
  for (const { sdk, route } of dependencies) if (sdk !== undefined && /path/.test(route ?? "")) fetched.delete(sdk);
  return {
    registry: (language, module) => {
      const sdk = packageOfImport(wanted, language, module)?.sdk;
      return kotlinFrameworks.includes(module) || (sdk !== undefined && fetched.has(sdk));
    },
    packages: new Set(files.flatMap(({ code }) => (isJvm(code.language) ? (packageOf(code) ?? []) : []))),
    swift: files.some(({ code }) => code.language === "swift" && /@_exported\s+import|\bpublic\s+import/.test(code.plain)),
    csharp: files.some(({ code }) => code.language === "csharp" && /\bglobal\s+using\b/.test(code.plain)),
  };
}

function packageOf({ plain }: CodeFile): string | undefined {
  return /^\s*package\s+([\w.]+)/m.exec(plain)?.[1];
}

function hasImport(code: CodeFile, head: string, sdk: string, wanted: Wanted, file: File, program: Program, shared: Shared): boolean {
  const { imports, language } = code;
  if (imports.some(({ names }) => names.some(({ local }) => local === head))) return true;
  if (isScript(language)) return false;
  const ofSdk = ({ source }: { source: string }): boolean => packageOfImport(wanted, language, source)?.sdk === sdk;
  switch (language) {
    case "kotlin":
    case "java":
      // With a wildcard nobody sees what comes; the package of the file itself may be the SDK's.
      return (
        imports.some(({ source, names }) => names.length === 0 && !isPlatform(source) && !shared.packages.has(source)) ||
        packageOfImport(wanted, language, packageOf(code) ?? "")?.sdk === sdk ||
        /^\s*import\s+static\s+[\w.]+\.\*/m.test(code.plain)
      );
    case "swift":
      // A module of the team's can hand on what it imports, and so can another file of the target.
      return (
        shared.swift ||
        program.headers.some(
          (header) =>
            header.side === "ios" &&
            /-Bridging-Header\.h$/.test(header.file) &&
            headersSee(undefined, { source: header }, program, ofSdk, new Set()),
        ) ||
        imports.some((entry) => ofSdk(entry) || (!isPlatform(entry.source) && !shared.registry(language, entry.source)))
      );
    case "objc":
      return headersSee(code, file, program, ofSdk, new Set());
    case "dart":
      return (
        imports.some(ofSdk) ||
        /^\s*part\s+of\b/m.test(code.plain) ||
        imports.some(({ source }) => handsOn(program, file.source, source, ofSdk, 0))
      );
    case "csharp":
      return imports.some(ofSdk) || shared.csharp || mayBring(code, program, ofSdk);
    default:
      return true;
  }
}

/** Whether what a file of C# imports besides may bring the type. */
function mayBring(code: CodeFile, program: Program, ofSdk: (imported: { source: string }) => boolean): boolean {
  if (!code.plain.includes("namespace ")) return true;
  // Where another file imports the package itself, that is where it comes from.
  if (program.files.some(({ code: other }) => other !== code && other.imports.some(ofSdk))) return false;
  return code.imports.some(({ source }) => !isPlatform(source) && !isOwnNamespace(program, source));
}

function isOwnNamespace({ files }: Program, name: string): boolean {
  const declared = new RegExp(`\\bnamespace\\s+${name.replace(/\./g, "\\.")}\\b`);
  return files.some(({ code }) => code.language === "csharp" && declared.test(code.plain));
}

/** Whether a file of Objective-C, or a header of the app's own that it takes in, imports the SDK; one that is not here may. */
function headersSee(
  code: CodeFile | undefined,
  file: { source: SourceFile },
  program: Program,
  ofSdk: (entry: { source: string }) => boolean,
  seen: Set<string>,
): boolean {
  const text = code?.plain ?? file.source.text;
  const entries = [...text.matchAll(/^[ \t]*(?:#\s*(?:import|include)\s*([<"])([^>"\n]+)[>"]|@import\s+([\w.]+))/gm)].map((match) => ({
    quoted: match[1] === '"',
    source: (match[2] ?? match[3]) as string,
  }));
  return entries.some((entry) => {
    if (ofSdk(entry) || /-Swift\.h$/.test(entry.source)) return true;
    // A module of others can hand on what it imports.
    if (!entry.quoted && !isPlatform(entry.source)) return true;
    if (!entry.quoted || seen.has(entry.source)) return false;
    seen.add(entry.source);
    const header = program.headers.find((other) => baseName(other.file) === baseName(entry.source));
    return header ? headersSee(undefined, { source: header }, program, ofSdk, seen) : true;
  });
}

/** Whether a library of Dart that a file imports exports the SDK; one that is not here may. */
function handsOn(
  program: Program,
  from: SourceFile,
  specifier: string,
  ofSdk: (entry: { source: string }) => boolean,
  hop: number,
): boolean {
  if (specifier.startsWith("dart:") || /^package:flutter\//.test(specifier)) return false;
  const below = /^package:[^/]+\/(.*)$/.exec(specifier)?.[1];
  const library = /^(.*?(?:^|\/)lib\/)/.exec(from.file)?.[1] ?? "lib/";
  const target = program.source(below === undefined ? join(parentOf(from.file), specifier) : `${library}${below}`);
  // A package of others, or a file that is generated.
  if (!target || hop > 4) return true;
  return [...target.text.matchAll(/^[ \t]*export\s+['"]([^'"]+)['"]/gm)].some(
    ([, source = ""]) => ofSdk({ source }) || handsOn(program, target, source, ofSdk, hop + 1),
  );
}
