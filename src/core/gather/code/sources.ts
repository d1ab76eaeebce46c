import { COMPONENT_FILE, codeOfComponent, codeOfPage } from "../../syntax/components/index.js";
import type { Source } from "../../syntax/source.js";
import type { ProjectFiles } from "../project-files.js";
import type { FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { CodeFile, Guard, Language } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { COMPONENT_STEPS } from "../../knowledge/life-cycle.js";
import { baseName, isWithin, parentOf } from "../../model/paths.js";
import { takesIn } from "../../model/xcode.js";
import { sourceFiles } from "../platforms/source-text.js";
import { isScript, languageOf } from "../../syntax/code/languages.js";
import { parseCode, type Batch, type ParsedCode } from "../../syntax/code/process.js";
import { packageOfImport, type Imported, type Wanted } from "./wanted.js";
import type { Reason } from "../../model/reason.js";

/** One own source file of an app. */
export interface SourceFile {
  file: string;
  side: SideName;
  language: Language;
  text: string;
  /** Only in this variant or on this platform, as its folder or name says. */
  guards: Guard[];
  /** What it says, once it was parsed; `null` when it could not be. */
  code: CodeFile | null | undefined;
  /** Why it could not be parsed. */
  failed: Reason | undefined;
  /** Set when its parsing has begun. */
  parsing: Promise<ParsedCode> | undefined;
  /** Packages of the app that it imports, as far as a look at its lines tells. */
  imports: (Imported & { offset: number })[];
  place(offset: number): { file: string; line: number; column: number };
}

const MAX_LENGTH = 1_000_000;

/** Statements that bring names in; the source of a module stands in quotes or behind the word. */
const JVM_IMPORT = /^[ \t]*import\s+(?:static\s+)?([\w.]+)/gm;
const SCRIPT_IMPORT =
  /^[ \t]*(?:(?:import|export)\s[^'"\n;]*?from\s*["']([^"'\n]+)|(?:import|export)\s*["']([^"'\n]+)|\}\s*from\s*["']([^"'\n]+))|\b(?:require|import)\(\s*["']([^"'\n]+)/gm;
const IMPORTS: Record<Language, RegExp> = {
  kotlin: JVM_IMPORT,
  java: JVM_IMPORT,
  swift: /^[ \t]*(?:@testable\s+|@_exported\s+)?import\s+(?:class\s+|struct\s+|func\s+|enum\s+|protocol\s+)?([\w.]+)/gm,
  objc: /^[ \t]*(?:#\s*(?:import|include)\s*[<"]([^>"\n]+)|@import\s+([\w.]+))/gm,
  dart: /^[ \t]*(?:import|export)\s*["']([^"'\n]+)/gm,
  csharp: /^[ \t]*(?:global\s+)?using\s+(?:static\s+)?(?:\w+\s*=\s*)?([\w.]+)\s*;/gm,
  javascript: SCRIPT_IMPORT,
  typescript: SCRIPT_IMPORT,
  tsx: SCRIPT_IMPORT,
};

/** A call whose name is that of a start; what listens only is none. */
export const START_VERB =
  /^_?(?:[sS]tart|[iI]nit|[iI]nitiali[sz]e|[cC]onfigure|[sS]et_?[uU]p|[rR]egister)(?=$|[A-Z_])(?!\w*(?:Listener|Callback|Observer|Receiver|Delegate|Handler)s?$)/;
const START_CALL = /\b(?:[sS]tart|[iI]nit|[iI]nitiali[sz]e|[cC]onfigure|[sS]et_?[uU]p|[rR]egister)(?:[A-Z_]\w*)?\s*[(:\]]/;

/** The app's own source files with what they import. Nothing is parsed yet. */
export function gatherSources(project: ProjectFiles, index: FolderIndex, app: App, wanted: Wanted): SourceFile[] {
  const found: SourceFile[] = [];
  const flavors = flavorsIn(app);
  for (const { file, side } of sourceFiles(index, app)) {
    const language = languageOf(file);
    const gone = app.uncompiled.get(file) ?? [];
    const whole = language === undefined ? undefined : project.text(file);
    const source = whole && COMPONENT_FILE.test(file) ? componentIn(whole, file) : whole;
    if (!source || language === undefined || source.text.length > MAX_LENGTH || /\.(min|bundle)\.js$|\.d\.ts$/.test(file)) continue;
    const { text } = source;
    const entry: SourceFile = {
      file,
      side,
      language,
      text,
      guards: [
        ...guardsOfFile(file, side),
        ...guardsOfPackage(app, file),
        ...flavors.flatMap((flavor): Guard[] =>
          IN_SOURCE_SET.test(file) && file.includes(`/src/${flavor}/`) ? [{ kind: "variant", text: flavor }] : [],
        ),
        ...gone.map((of): Guard => ({
          kind: of === "android" ? "ios" : "android",
          text: `${baseName(file)} is taken out of the other side's build`,
        })),
      ],
      code: undefined,
      failed: undefined,
      parsing: undefined,
      imports: [],
      place: (offset) => source.place(offset),
    };
    const seen = new Set<string>();
    for (const match of text.matchAll(IMPORTS[language])) {
      const name = match.slice(1).find((part) => part !== undefined) as string;
      if (seen.has(name)) continue;
      seen.add(name);
      const imported = packageOfImport(wanted, language, name);
      if (imported) entry.imports.push({ ...imported, offset: match.index + match[0].indexOf(match[0].trimStart()) });
    }
    found.push(entry);
  }
  return [...found, ...scriptsOfPages(project, app)];
}

/** The code that stands in the app's own pages. */
function scriptsOfPages(project: ProjectFiles, { kind, webPages }: App): SourceFile[] {
  if (kind !== "cordova") return [];
  return webPages.flatMap(({ file }): SourceFile[] => {
    const page = project.text(file);
    const code = page && codeOfPage(page.text);
    if (!page || !code || code.text.length > MAX_LENGTH) return [];
    return [
      {
        file,
        side: "shared",
        language: "javascript",
        text: code.text,
        guards: [],
        code: undefined,
        failed: undefined,
        parsing: undefined,
        imports: [],
        place: (offset) => page.place(code.offsetOf(offset)),
      },
    ];
  });
}

/** The code of a file that holds a component whole, with places in the file. */
function componentIn(whole: Pick<Source, "text" | "place">, file: string): Pick<Source, "text" | "place"> {
  const { text, offsetOf } = codeOfComponent(whole.text, componentName(file), file, COMPONENT_STEPS);
  return { text, place: (offset) => whole.place(offsetOf(offset)) };
}

/** The name of a component, as its file has it: `+page.svelte` → `Page`. */
function componentName(file: string): string {
  const words =
    baseName(file)
      .replace(/\.\w+$/, "")
      .match(/[A-Za-z0-9]+/g) ?? [];
  const name = words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join("");
  return /^[A-Z]/.test(name) ? name : `Component${name}`;
}

/** Flavours of the Android side: their folders hold code of one of them. */
function flavorsIn({ android }: App): string[] {
  return [...new Set(android?.module.settings.flatMap(({ block }) => /^flavor:([^.]+)$/.exec(block)?.[1] ?? []))];
}

/**
 * Source files of iOS that no target compiles, although others of their folder are compiled: where folders count as a whole, or a tool writes the
 * project, nothing is said.
 */
export function outsideTargets({ ios }: App, sources: readonly SourceFile[]): Set<SourceFile> {
  const targets = ios?.allTargets ?? [];
  const listed = new Set(targets.flatMap((target) => target.sources));
  const folders = new Set([...listed].map(parentOf));
  const whole = targets.flatMap(({ synchronized }) => synchronized);
  const leftOut = targets.flatMap((target) => target.leftOut);
  return new Set(
    sources.filter(
      ({ file, side }) =>
        side === "ios" &&
        /\.(swift|mm?)$/.test(file) &&
        !listed.has(file) &&
        (whole.some((folder) => isWithin(file, folder))
          ? leftOut.includes(file) && !targets.some((target) => takesIn(target, file))
          : folders.has(parentOf(file))),
    ),
  );
}

/** Code that Gradle takes from the folder of a variant: scripts and other languages have folders named `src` of their own. */
const IN_SOURCE_SET = /\.(kt|java)$/;

/** The phone that the library of a package is for. */
function guardsOfPackage({ sourceFolders }: App, file: string): Guard[] {
  return sourceFolders.flatMap(({ folder, only, package: name }): Guard[] =>
    only !== undefined && isWithin(file, folder) ? [{ kind: only, text: `${name ?? folder} is registered on one platform` }] : [],
  );
}

/** Folders and names that say where a file goes in. */
function guardsOfFile(file: string, side: SideName): Guard[] {
  const guards: Guard[] = [];
  if (!IN_SOURCE_SET.test(file)) {
    // Variants are for Gradle.
  } else if (/\/src\/\w*[dD]ebug\//.test(file)) guards.push({ kind: "debug", text: "in the debug variant's sources" });
  else if (/\/src\/\w*[rR]elease\//.test(file)) guards.push({ kind: "release", text: "in the release variant's sources" });
  const platform = (/\.(android|ios)\.\w+$/i.exec(file) ??
    /(?:^|\/)merges\/(android|ios)\//.exec(file) ??
    (file.endsWith(".cs") ? /(?:^|\/)Platforms\/(android|ios)\//i.exec(file) : null))?.[1]?.toLowerCase() as "android" | "ios" | undefined;
  if (platform && platform !== side) guards.push({ kind: platform, text: `${baseName(file)} is for one platform` });
  return guards;
}

/** Files that can matter: they have a word of a sheet, or import a package and have something named like a start. */
export function candidates(files: readonly SourceFile[], wanted: Wanted): SourceFile[] {
  const words = [...wanted.words].filter((word) => /^[\w$]+$/.test(word));
  const pattern = words.length > 0 ? new RegExp(`\\b(?:${words.map((word) => word.replace(/\$/g, "\\$")).join("|")})`) : undefined;
  const described = new Set(wanted.names.map(({ sdk }) => sdk));
  return files.filter(
    ({ text, imports, file }) =>
      !file.endsWith(".h") &&
      ((pattern?.test(text) ?? false) || imports.some(({ sdk }) => described.has(sdk)) || (imports.length > 0 && START_CALL.test(text))),
  );
}

/** Files with entry points or bridges, by words that these cannot do without. */
export function mayHoldEntries({ text, language, file }: SourceFile): boolean {
  switch (language) {
    case "kotlin":
    case "java":
      return (
        /\bApplication\b|\bActivity\b|Activity\s*[:({]|ContentProvider|\bInitializer\b/.test(text) &&
        /\b(?:onCreate|attachBaseContext|create|load)\b/.test(text)
      );
    case "swift":
      return /ApplicationDelegate|SceneDelegate|@main|\bFlutterAppDelegate\b|AppDelegate\b/.test(text);
    case "objc":
      return !file.endsWith(".h") && /didFinishLaunching|UIApplicationMain|\+\s*\(void\)\s*load\b/.test(text);
    case "dart":
      return /\bmain\s*\(/.test(text);
    case "csharp":
      return /MauiApp|\bApplication\b|ComponentBase\b|FinishedLaunching|MainLauncher|RuntimeInitializeOnLoadMethod/.test(text);
    default:
      return /(^|\/)(index|main|App|app|_layout)(\.(android|ios))?\.[cm]?[jt]sx?$|\.html?$/.test(file) || /deviceready/.test(text);
  }
}

/** Begins to parse files, those that were not begun before. */
export function beginToParse(files: readonly SourceFile[], batch: Batch): void {
  for (const source of files) source.parsing ??= parseCode(source, batch);
}

/** Parses files, those that were not parsed before. */
export async function parseAll(files: readonly SourceFile[], batch: Batch): Promise<void> {
  beginToParse(files, batch);
  for (const source of files) {
    const result = await source.parsing;
    if (source.code !== undefined || !result) continue;
    if ("code" in result) source.code = result.code;
    else {
      source.code = null;
      source.failed = result.failed;
    }
  }
}

export { isScript };

/** Whether a name stands in a text as a whole word, outside of line comments, more often than some number of times. */
export function mentions(text: string, name: string): number {
  let count = 0;
  // Half-edited code has types without a name; nothing stands everywhere.
  if (name === "") return 0;
  for (let from = text.indexOf(name); from !== -1; from = text.indexOf(name, from + name.length))
    if (!/[\w$]/.test(text[from - 1] ?? " ") && !/[\w$]/.test(text[from + name.length] ?? " ") && !inComment(text, from)) count++;
  return count;
}

export function inComment(text: string, offset: number): boolean {
  const line = text.slice(text.lastIndexOf("\n", offset - 1) + 1, offset);
  return /(^|[^:"'])\/\//.test(line) || /^\s*(\*|\/\*)/.test(line);
}

/** What shared code asks for the platform that it runs on, in any language. */
const LOOKS_AT_PLATFORM =
  /#\s*(?:el)?if\b[^\n]*\b(?:IOS|ANDROID|__IOS__|__ANDROID__|UNITY_\w+)\b|\bPlatform\s*\.\s*(?:OS|select|is[A-Z]\w*)\b|\bgetPlatform\b|\bisPlatform\s*\(|\bdefaultTargetPlatform\b|\bTargetPlatform\b|\bDevicePlatform\b|\bOperatingSystem\s*\.\s*Is\w+|\bplatformId\b|\bdevice\s*\.\s*platform\b|\bis_?(?:ios|android)\b/i;

/** Whether code may do on each phone what goes there. */
export const looksAtPlatform = (text: string): boolean => LOOKS_AT_PLATFORM.test(text);
