import type { FolderIndex } from "../../files/walk.js";
import { ownPackageOf, type App } from "../../model/app.js";
import type { LostImport } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript } from "../../syntax/code/languages.js";
import { ignoredByGit } from "../git-ignored.js";
import { toolAliases } from "../packages/path-aliases.js";
import type { ProjectFiles } from "../project-files.js";
import { Exports } from "./lost-exports.js";
import { standsInCode } from "./stands-in-code.js";
import { packagesMeant, pathsMeant } from "./modules.js";
import type { SourceFile } from "./sources.js";

/** Frameworks whose shared code is put together from the files as they are. */
const KINDS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["flutter", "react-native", "expo", "capacitor", "cordova"]);

const DART = /^[ \t]*(?:import|export|part)\s+(["'])((?![\w+.-]*:)[^"'$\n]+|package:[^"'$\n]+)\1/gm;
/** Files of an Angular component. Source: angular.dev, "Component" (templateUrl, styleUrl). */
const OF_COMPONENT = /\b(?:templateUrl|styleUrl)\s*:\s*(["'])(\.[^"'\n]+)\1/g;
const SCRIPT =
  /^[ \t]*(?:(?:import|export)\s[^'"\n;]*?from\s*|import\s*|\}\s*from\s*)(["'])([.@~\w][^"'\n?!:]*)\1|\brequire\(\s*(["'])([.@~\w][^"'\n?!:]*)\3\s*\)|\bimport\(\s*(["'])(\.[^"'\n?!:]*)\5\s*\)/gm;

/** Files that tools write from others: `tide.g.dart`, `graphql/__generated__/`. */
const MADE = /\.\w+\.dart$|(^|\/)(generated|__generated__|gen|l10n|\.dart_tool)(\/|$)|\.(css|scss|graphql|gql)$/;

const ENDINGS = [".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".json", ".d.ts"];

/**
 * Imports of files of the app's own that are not there: the build stops. What a tool makes or Git leaves out is passed over. Sources: dart.dev,
 * "Libraries & imports"; reactnative.dev, "Platform-specific code"; metrobundler.dev, "Module resolution".
 */
// eslint-disable-next-line complexity -- one question after the other for each import
export function lostImports(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): LostImport[] {
  if (!KINDS.has(app.kind) || !app.shared) return [];
  const { folder } = app.shared;
  const libraries = app.kind === "flutter" ? librariesOf(project, app, folder) : new Map<string, string>();
  const isThere = (file: string): boolean => index.get(parentOf(file))?.files.includes(baseName(file)) ?? false;
  const names = new ImportNames(index);
  const found: (LostImport & { by: string })[] = [];
  const imported = new Set<string>();
  // The builders of pages know such names without a setting.
  const mayBeBare = app.kind === "react-native" || app.kind === "expo";
  const unknownAliases = new Map<string, LostImport>();
  for (const source of sources) {
    const { file, language, text, place } = source;
    const home = homeOf(app, folder, source);
    // Scripts of a plugin of Cordova ask for modules by the names that its description gives them.
    if (home === undefined || (app.ownPlugins.some((plugin) => isWithin(file, plugin)) && !isWithin(file, folder))) continue;
    const dart = language === "dart";
    let plain: string | undefined;
    for (const match of text.matchAll(dart ? DART : SCRIPT)) {
      const written = (match[2] ?? match[4] ?? match[6]) as string;
      if (match[2] === undefined && isInTry(text, match.index)) continue;
      const targets = dart ? ofDart(written, file, libraries) : ofScript(written, file, app.ownPackages);
      const [target] = targets;
      const alias = target === undefined ? aliasIn(written, mayBeBare) : undefined;
      const isOwn = (path: string): boolean =>
        !path.startsWith("..") && (isWithin(path, home) || [...libraries.values()].some((library) => isWithin(path, library)));
      if (alias === undefined ? target === undefined || !isOwn(target) : unknownAliases.has(alias)) continue;
      const real = firstOf(targets, (path) => (!dart ? names.find(path) : isThere(path) ? path : undefined));
      if (real !== undefined) imported.add(real);
      if (real !== undefined || !standsInCode(match, (plain ??= withoutComments(text))) || TYPE_ALONE.test(match[0])) continue;
      const at = place(match.index + match[0].lastIndexOf(written));
      if (alias !== undefined) unknownAliases.set(alias, { name: written, file: written, certain: true, at });
      if (target === undefined || MADE.test(target) || MADE.test(written) || index.has(target) || !index.has(parentOf(file))) continue;
      if (!isInHidden(project, target)) found.push({ name: written, file: target, by: file, certain: false, at });
    }
  }
  found.push(...lostTemplates(sources, folder, isThere));
  const exports = new Exports(sources, (specifier, file) =>
    firstOf(
      [...ofScript(specifier, file, []), ...packagesMeant(specifier, app.ownPackages).flatMap((own) => pathsMeant(own, specifier))],
      (path) => (path.startsWith("..") ? undefined : names.find(path)),
    ),
  );
  const lostNames = sources.flatMap((source): LostImport[] =>
    isScript(source.language) && homeOf(app, folder, source) !== undefined
      ? exports.lostIn(source).map(({ name, from, offset }) => ({
          name,
          file: from,
          certain: false,
          at: source.place(offset),
          inFile: true,
        }))
      : [],
  );
  // A name for a folder that none of the settings gives.
  const given = unknownAliases.size > 0 ? toolAliases(project, folder) : undefined;
  const nameless = given?.isOpen === false ? [...unknownAliases].flatMap(([name, lost]) => (given.names.has(name) ? [] : [lost])) : [];
  const lostFiles = keptInGit(project, found, imported);
  return [...lostFiles, ...nameless, ...lostNames];
}

/** The folder of the app or of a package of the repository in which a file lies that can import others; `undefined`: it is none. */
function homeOf(app: App, folder: string, { file, language, text }: SourceFile): string | undefined {
  if (language === "dart" ? !/^[ \t]*(?:import|export|part)\b/m.test(text) : !isScript(language)) return undefined;
  if (isWithin(file, folder)) return folder;
  return language === "dart"
    ? app.sourceFolders.find((own) => own.package !== undefined && isWithin(file, own.folder))?.folder
    : ownPackageOf(app, file)?.folder;
}

/** Where the libraries of the app and of the packages of the tree lie, by the names under which they are imported. */
function librariesOf(project: ProjectFiles, app: App, folder: string): Map<string, string> {
  const own = /^name:\s*["']?(\w+)/m.exec(project.text(join(folder, "pubspec.yaml"))?.text ?? "")?.[1];
  const found = new Map(app.sourceFolders.flatMap((one) => (one.package === undefined ? [] : [[one.package, one.folder] as const])));
  return own === undefined ? found : found.set(own, join(folder, "lib"));
}

/** The name for a folder with which an import begins: a scope alone is no package. */
const aliasIn = (written: string, mayBeBare: boolean): string | undefined =>
  mayBeBare && /^[@~]\//.test(written) ? written.slice(0, 1) : /^@[\w-]+$/.exec(written)?.[0];

/** Types alone are gone before anything looks for them. */
const TYPE_ALONE = /^[ \t]*(?:import|export)\s+type\b/;

/** Folders of tools, whose names begin with a point, are not walked; in templates they have another first letter. */
const isInHidden = ({ tree }: ProjectFiles, target: string): boolean =>
  [target, target.replace(/(^|\/)\.(?=\w)/g, "$1_")].some((path) => tree.isFolder(path) || tree.isFile(path));

/** Without what is kept out of the repository, which is made or fetched before a build. */
function keptInGit(project: ProjectFiles, found: (LostImport & { by: string })[], imported: Set<string>): LostImport[] {
  const above = (path: string): string[] => path.split("/").map((_, at, parts) => parts.slice(0, at).join("/"));
  const lostFiles = found.flatMap(({ by, ...lost }): LostImport[] => {
    const ignored = ignoredByGit(project, above(lost.file));
    if (lost.file.split("/").some((part) => ignored(part) || ignored(`${part}/`) || ENDINGS.some((ending) => ignored(part + ending))))
      return [];
    return [{ ...lost, certain: imported.has(by) || /^(main\w*|index|App|_layout)\.\w+$/.test(baseName(by)) }];
  });
  return lostFiles;
}

/** Files of components that are not there. */
function lostTemplates(
  sources: readonly SourceFile[],
  folder: string,
  isThere: (file: string) => boolean,
): (LostImport & { by: string })[] {
  return sources.flatMap(({ file, language, text, place }) =>
    !isScript(language) || !isWithin(file, folder) || !text.includes("@Component")
      ? []
      : [...withoutComments(text).matchAll(OF_COMPONENT)].flatMap((match) => {
          const name = match[2] as string;
          const target = join(parentOf(file), name);
          return isThere(target) || !isWithin(target, folder)
            ? []
            : [{ name, file: target, by: file, certain: true, at: place(match.index) }];
        }),
  );
}

function firstOf(paths: readonly string[], find: (path: string) => string | undefined): string | undefined {
  for (const path of paths) {
    const found = find(path);
    if (found !== undefined) return found;
  }
  return undefined;
}

function ofDart(written: string, file: string, libraries: ReadonlyMap<string, string>): string[] {
  if (!written.startsWith("package:")) return [join(parentOf(file), written)];
  const [, name = "", below = ""] = /^package:(\w+)\/(.*)$/.exec(written) ?? [];
  const library = libraries.get(name);
  return library === undefined ? [] : [join(library, below)];
}

/** Whether an offset is inside of a `try`: what may be absent is asked for like this. */
export function isInTry(text: string, offset: number): boolean {
  return /\btry\s*\{[^}]*$/.test(text.slice(Math.max(0, offset - 200), offset));
}

/** The file that a relative path means, or those by names for folders, in the order in which they are tried. */
function ofScript(written: string, file: string, packages: App["ownPackages"]): string[] {
  if (/^\.{1,2}\//.test(written)) return [join(parentOf(file), written)];
  const aliases = packages.filter(({ alias }) => alias);
  return packagesMeant(written, aliases).flatMap((alias) => pathsMeant(alias, written));
}

/** The names under which the files of each folder can be imported: with and without endings, platforms and densities. */
class ImportNames {
  private readonly byFolder = new Map<string, Map<string, string>>();

  constructor(private readonly index: FolderIndex) {}

  /** The file that a path of a script means; a folder for what it holds under the name of an index. */
  find(target: string): string | undefined {
    const plain = target.replace(/\/$/, "");
    const names = this.in(parentOf(plain));
    const name = baseName(plain);
    const own = names.get(name) ?? names.get(name.replace(/\.(?:js|jsx|mjs|cjs|ts|tsx)$/, ""));
    if (own !== undefined) return join(parentOf(plain), own);
    if (!this.index.has(plain)) return undefined;
    const inside = this.in(plain);
    const first = inside.get("index") ?? inside.get("package.json");
    return first === undefined ? plain : join(plain, first);
  }

  private in(folder: string): ReadonlyMap<string, string> {
    const known = this.byFolder.get(folder);
    if (known) return known;
    const names = new Map<string, string>();
    for (const file of this.index.get(folder)?.files ?? []) {
      const [, stem = file, ending = ""] = /^(.*?)(?:@\dx)?(?:\.(?:ios|android|native|web))?(\.\w+)$/.exec(file) ?? [];
      for (const name of [
        file,
        `${stem}${ending}`,
        ...(SCRIPT_ENDING.test(file) ? [stem, stem.replace(/\.d$/, ""), file.replace(SCRIPT_ENDING, "")] : []),
      ])
        if (!names.has(name)) names.set(name, file);
    }
    this.byFolder.set(folder, names);
    return names;
  }
}

const SCRIPT_ENDING = /\.(?:[cm]?[jt]sx?|json)$/;
