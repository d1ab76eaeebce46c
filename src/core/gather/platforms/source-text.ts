import type { AppFacts } from "../../model/app.js";
import { looksLikeToken } from "../../knowledge/key-shapes.js";
import type { ProjectFiles } from "../project-files.js";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { FactSink } from "../sink.js";
import { buildRegions, variantAt, type BuildRegion } from "./build-regions.js";
import { SPEC_NAMES } from "./ios/project-spec/index.js";
import { isAside } from "./own-files.js";
import { sourceSetSide } from "../../knowledge/source-sets.js";
import type { SideName } from "../../model/facts.js";
import { isInstalled, isWithin, join, parentOf } from "../../model/paths.js";
import type { Pattern } from "../../model/sheet.js";
import { sourceFolders } from "../../model/gradle.js";
import { known } from "../../model/value.js";

const SOURCE_FILE = /\.(kt|java|swift|m|mm|h|js|jsx|ts|tsx|mjs|cjs|vue|svelte|razor|dart|cs)$/;
const MAX_FILES = 20_000;

/** What to look for in the app's source files. */
export interface SourceQuestion {
  /** Names of types and calls that sheets give, per side. */
  names: Map<SideName, Set<string>>;
  /** Names that stand before a key's value. */
  keys: Set<string>;
  /** The shapes of keys of which a sheet says that they may stand nowhere: a text of one of them is noted, whatever it looks like. */
  shapes: readonly Pattern[];
}

/** The app's own source files with the side that they belong to. */
// eslint-disable-next-line complexity -- one question after the other for each folder and file
export function sourceFiles(index: FolderIndex, app: AppFacts): { file: string; side: SideName }[] {
  const found: { file: string; side: SideName }[] = [];
  const androidFolders = app.android?.modules.map(({ folder }) => folder) ?? [];
  const sideOf = projectSides(app);
  const below = (name: string): string => (app.path === "" ? name : `${app.path}/${name}`);
  // What a framework copies into the native projects is not the app's own code, and neither is what it lays down as a whole.
  const copied = copiedFolders(app, below, index, androidFolders);
  const foreign = foreignModules(index, app);
  const ofOtherProject = foreignProjects(index, app);
  const listed = new Set(app.ios?.allTargets.flatMap(({ sources }) => sources));
  const apart = new Map(app.sourceFolders.map(({ folder, side }) => [folder, side]));
  // Native projects can lie beside the shared code.
  const native = [...androidFolders, ...(app.ios ? [app.ios.folder] : [])].filter((folder) => !isWithin(folder, app.path));
  const roots = [...new Set([app.path, ...native, ...apart.keys()])];
  // Of folders that lie in each other, each is looked at once.
  for (const [folder, { files }] of new Map(roots.flatMap((root) => [...foldersBelow(index, root)]))) {
    if (isAsideAssembly(app, folder) || isInstalled(`${folder}/`)) continue;
    if (copied.some((other) => isWithin(folder, other)) || (app.kind === "capacitor" && /\/App\/public(\/|$)/.test(folder))) continue;
    const set = sourceSetSide(folder);
    if (set === "none") continue;
    const given = nearestFolder(folder, apart);
    const isOwn = isWithin(folder, app.path);
    // A package may lie around an app that shows what it does: the app's folder is not the package's, and neither is that of another app.
    if (given !== undefined && !isOwn && isInAppBelow(index, given, folder)) continue;
    const isAround = given !== undefined && isOwn && given !== app.path && isWithin(app.path, given);
    const side = set ?? (given === undefined || isAround ? undefined : apart.get(given)) ?? sideOf(folder) ?? sideBeside(app);
    if (side === undefined) continue;
    const isForeign = given === undefined && foreign(folder);
    const isOther = given === undefined && ofOtherProject(folder);
    for (const name of files) {
      if (!SOURCE_FILE.test(name) || found.length >= MAX_FILES) continue;
      const gone = app.uncompiled.get(join(folder, name)) ?? [];
      if (gone.length > 0 && (gone.length > 1 || gone[0] === side)) continue;
      if (isAsideOf(app, folder, name) || (isForeign && /\.(kt|java)$/.test(name))) continue;
      if (isOther && /\.(swift|mm?|h)$/.test(name) && !listed.has(join(folder, name))) continue;
      const own: SideName =
        set === undefined && side !== "shared" && app.shared === undefined && /\.(kt|java)$/.test(name) && app.android ? "android" : side;
      found.push({ file: join(folder, name), side: own });
    }
  }
  return found;
}

/** Asks a folder and those above it, the nearest first, for what one of them answers; each folder once. */
function askedUpwards(answer: (folder: string) => boolean | undefined): (folder: string) => boolean {
  const known = new Map<string, boolean>();
  const ask = (folder: string): boolean => {
    let found = known.get(folder);
    if (found === undefined) known.set(folder, (found = answer(folder) ?? (folder !== "" && ask(parentOf(folder)))));
    return found;
  };
  return ask;
}

/** Build scripts of Gradle: a folder with one is a module. */
const GRADLE_SCRIPT = /^build\.gradle(\.kts)?$/;

/**
 * Whether a folder's code for Android goes into a module of Gradle that the app does not take in: the nearest build script above is that of another,
 * and no module of the app names the folder among its sources.
 */
function foreignModules(index: FolderIndex, { android, path }: AppFacts): (folder: string) => boolean {
  if (!android) return () => false;
  const own = new Set(["", path, android.build.folder, ...android.modules.map(({ folder }) => folder)]);
  const named = android.modules.flatMap(sourceFolders).map(({ folder }) => folder);
  const isForeign = askedUpwards((folder) => {
    if (own.has(folder)) return false;
    return (index.get(folder)?.files ?? []).some((name) => GRADLE_SCRIPT.test(name)) || undefined;
  });
  return (folder) => isForeign(folder) && !named.some((root) => isWithin(folder, root));
}

/** Whether a folder's code for iOS belongs to an Xcode project that has nothing to do with the app's: the nearest one above is such a project. */
function foreignProjects(index: FolderIndex, { ios }: AppFacts): (folder: string) => boolean {
  if (!ios) return () => false;
  const own = new Set(ios.projects);
  return askedUpwards((folder) => {
    if (folder === ios.folder) return false;
    const { folders = [], files = [] } = index.get(folder) ?? {};
    const projects = folders.filter((name) => name.endsWith(".xcodeproj"));
    return projects.length === 0 && !files.some((name) => SPEC_NAMES.has(name))
      ? undefined
      : ![...own].some((path) => parentOf(path) === folder);
  });
}

/** Whether a file lies beside the app's code, by its path in the app. */
function isAsideOf(app: AppFacts, folder: string, name: string): boolean {
  return isAside(
    isWithin(folder, app.path) ? join(folder, name).slice(app.path === "" ? 0 : app.path.length + 1) : join(folder, name),
    app.kind,
  );
}

/** What a framework copies into the native projects, or lays down as a whole. */
function copiedFolders(app: AppFacts, below: (name: string) => string, index: FolderIndex, androidFolders: string[]): string[] {
  return app.kind === "cordova"
    ? [below("platforms"), below("plugins")]
    : app.kind === "capacitor"
      ? [
          ...(index.has(below("src")) ? [below("www"), below("dist"), below("public")] : []),
          ...androidFolders.map((folder) => `${folder}/src/main/assets`),
        ]
      : [];
}

/** The side whose project a folder lies in, the nearest where one lies in the other's; `undefined` in neither. */
export function projectSides(app: Pick<AppFacts, "android" | "ios" | "path">): (folder: string) => "android" | "ios" | undefined {
  const ios = app.ios?.folder;
  const android = app.android?.folder;
  const modules = new Map((app.android?.modules ?? []).flatMap(({ folder }) => (folder === "" ? [] : [[folder, folder] as const])));
  return (folder) => {
    const around = android !== undefined && android !== "" && android !== ios && isWithin(folder, android) ? android : undefined;
    const nearest = nearestOf(folder, modules) ?? around;
    const inIos = ios !== undefined && ios !== app.path && isWithin(folder, ios);
    if (inIos && (nearest === undefined || nearest.length < ios.length)) return "ios";
    return nearest === undefined ? undefined : "android";
  };
}

/** The side of code that lies in no side's project. */
function sideBeside({ shared, ios, android }: AppFacts): SideName | undefined {
  if (shared) return "shared";
  return ios ? "ios" : android && "android";
}

/** What the nearest folder above, or the folder itself, has. */
function nearestOf<T>(folder: string, of: ReadonlyMap<string, T>): T | undefined {
  const nearest = nearestFolder(folder, of);
  return nearest === undefined ? undefined : of.get(nearest);
}

function nearestFolder(folder: string, of: ReadonlyMap<string, unknown>): string | undefined {
  if (of.size === 0) return undefined;
  for (let at = folder; ; at = parentOf(at)) {
    if (of.has(at)) return at;
    if (at === "") return undefined;
  }
}

/** Whether a folder of a package lies in that of an app: one with a list of packages of its own, and native projects or a configuration. */
function isInAppBelow(index: FolderIndex, home: string, folder: string): boolean {
  for (let at = folder; at !== home && at !== ""; at = parentOf(at)) {
    const { files = [], folders = [] } = index.get(at) ?? {};
    if (files.includes("package.json") && (files.includes("app.json") || folders.includes("android") || folders.includes("ios")))
      return true;
  }
  return false;
}

/** Whether the assembly that a folder's code belongs to is for tests or for the editor alone. */
function isAsideAssembly({ assemblies }: Pick<AppFacts, "assemblies">, folder: string): boolean {
  return nearestOf(folder, assemblies)?.aside ?? false;
}

/**
 * A first, textual look at the source files: where the names stand that sheets require, and long texts that look like keys.
 * Comments count as text; what the code does with a name is not looked at.
 */
export function readSourceText(project: ProjectFiles, index: FolderIndex, app: FactSink, question: SourceQuestion): void {
  const files = sourceFiles(index, app);
  app.readCode(new Set(files.map(({ side }) => side)));
  for (const { file, side } of files) {
    const source = project.text(file);
    if (!source || source.text.length > 2_000_000) continue;
    const { text } = source;
    let regions: BuildRegion[] | undefined;
    const push = (name: string, value: string, offset: number): void => {
      const at = source.place(offset);
      const variant = variantAt((regions ??= buildRegions(text)), offset);
      app.entry({ kind: "code", side, name, value: known(value, at), at, ...(variant === undefined ? {} : { variant }) });
    };
    for (const name of question.names.get(side) ?? []) {
      for (const from of occurrences(text, name)) {
        app.codeName({ name, side, at: source.place(from) });
        break;
      }
    }
    for (const name of question.keys) {
      for (const from of occurrences(text, name)) {
        const value = /^\s*(?::\s*[\w?]+\s*)?[=:(,]?\s*\(?\s*(?:\w+:\s*)?@?(["'`])([^"'`\n]*)\1/.exec(
          text.slice(from + name.length, from + name.length + 400),
        );
        if (!value) continue;
        push(name, value[2] ?? "", from + name.length + value[0].length - (value[2] ?? "").length - 1);
      }
    }
    for (const match of text.matchAll(/(["'`])([A-Za-z0-9][\w.-]{14,120})\1/g)) {
      const literal = match[2] as string;
      if (!looksLikeToken(literal)) continue;
      push("", literal, match.index + 1);
    }
    if (question.shapes.length > 0)
      for (const match of text.matchAll(/(["'`])([^"'`\n]{4,200})\1/g)) {
        const literal = match[2] as string;
        if (!looksLikeToken(literal) && question.shapes.some((fits) => fits(literal))) push("", literal, match.index + 1);
      }
  }
}

/** Where a name stands as a whole word outside of line comments. A name without a letter stands nowhere. */
function* occurrences(text: string, name: string): Generator<number> {
  if (name.trim() === "") return;
  for (let from = text.indexOf(name); from !== -1; from = text.indexOf(name, from + name.length))
    if (isWhole(text, from, name) && !inLineComment(text, from)) yield from;
}

function isWhole(text: string, start: number, name: string): boolean {
  const before = text[start - 1] ?? " ";
  const after = text[start + name.length] ?? " ";
  return !/[\w$]/.test(before) && !/\w/.test(after);
}

function inLineComment(text: string, offset: number): boolean {
  const line = text.slice(text.lastIndexOf("\n", offset) + 1, offset);
  return /(^|[^:])\/\//.test(line) || /^\s*\*/.test(line) || /^\s*#(?!import|include|if)/.test(line);
}
