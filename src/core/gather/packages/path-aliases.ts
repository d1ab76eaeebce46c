import { baseName, join, parentOf } from "../../model/paths.js";
import { at, entriesOf, itemsOf, textAt, type Data } from "../../syntax/data.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";

/** A name by which scripts import files of a folder, or one file: `@/*` for `src/*`. */
export interface PathAlias {
  /** Without the star: `@` of `@/*`. */
  name: string;
  folder: string;
  /** The file that an exact name means, from the folder on. */
  entries: readonly string[];
}

const OWN_FOLDER = "${configDir}";

/** So many files extend each other. */
const MOST = 6;

/**
 * The paths of a project's TypeScript settings, those of the settings that it extends among them; of each its places, in the order in which they are tried.
 * Source: typescriptlang.org, "TSConfig reference" (paths, baseUrl, extends, configDir).
 */
export function pathAliases(project: ProjectFiles, folder: string): PathAlias[] {
  for (const name of ["tsconfig.json", "jsconfig.json"]) {
    const found = pathsIn(project, join(folder, name), folder, 0);
    // The longest name that fits is the one that counts.
    if (found) return found.sort((a, b) => b.name.length - a.name.length);
  }
  return [];
}

function pathsIn(project: ProjectFiles, file: string, folder: string, depth: number): PathAlias[] | undefined {
  const root = project.tree.isFile(file) && depth < MOST ? project.json(file)?.root : undefined;
  if (!root) return undefined;
  const options = at(root, "compilerOptions");
  const paths = at(options, "paths");
  if (!paths) return inherited(project, file, at(root, "extends"), folder, depth);
  const base = join(parentOf(file), textAt(options, "baseUrl") ?? ".");
  const targets = entriesOf(paths).flatMap(([pattern, { value }]) =>
    (pattern.match(/\*/g) ?? []).length > 1 ? [] : itemsOf(value).map((item) => ({ pattern, target: textAt(item) })),
  );
  return targets.flatMap(({ pattern, target }) => {
    if (target === undefined) return [];
    // The folder of the settings that are asked for, whichever file names it.
    const path = target.startsWith(OWN_FOLDER) ? join(folder, `.${target.slice(OWN_FOLDER.length)}`) : join(base, target);
    // `./*` of the project's own folder is `*`.
    if (/[^/]\/\*$/.test(pattern) && /(^|\/)\*$/.test(path)) return [{ name: pattern.slice(0, -2), folder: parentOf(path), entries: [] }];
    if (pattern.includes("*")) return [];
    return [{ name: pattern, folder: parentOf(path), entries: [path.slice(parentOf(path).length).replace(/^\//, "")] }];
  });
}

function inherited(project: ProjectFiles, file: string, above: Data | undefined, folder: string, depth: number): PathAlias[] | undefined {
  const named = above?.kind === "list" ? above.items.map((item) => textAt(item)) : [textAt(above)];
  for (const path of named.toReversed()) {
    // Settings of packages know nothing of the project's folders.
    if (path === undefined || !path.startsWith(".")) continue;
    const base = join(parentOf(file), path);
    const found = pathsIn(project, base.endsWith(".json") ? base : `${base}.json`, folder, depth + 1);
    if (found) return found;
  }
  return depth === 0 ? [] : undefined;
}

/** Settings of what puts scripts together, in which a name can be given another meaning. */
const TOOLS: ReadonlySet<string> = new Set([
  "babel.config.js",
  ".babelrc",
  ".babelrc.js",
  "babel.config.cjs",
  "babel.config.json",
  "metro.config.js",
  "metro.config.cjs",
  "package.json",
  "vite.config.ts",
  "vite.config.js",
  "vite.config.mjs",
  "webpack.config.js",
  "quasar.config.js",
  "quasar.config.ts",
  "nuxt.config.ts",
]);

/** Names that settings of tools give to folders, files and packages. */
export interface ToolAliases {
  names: ReadonlySet<string>;
  /** Those of folders of the project. */
  folders: PathAlias[];
  /** Names are given in a way that is not worked out. */
  isOpen: boolean;
}

/** A name that a module of settings gives, with what it means. */
const ENTRY = /^\s*(?:(["'`])([^"'`\n]+)\1|([A-Za-z_$][\w$]*))\s*:\s*([\s\S]*?)\s*$/;

/** Where settings speak of aliases; it ends with the bracket of an object that has them. */
const MENTION = /(?<![\w-])(["']?)(?:alias|extraNodeModules)\1(?![\w-])(?:\s*:\s*\{)?/g;

/**
 * Sources: the README of babel-plugin-module-resolver (alias); metrobundler.dev, "Resolver Options" (extraNodeModules, resolveRequest); vite.dev,
 * "resolve.alias"; webpack.js.org, "Resolve" (alias).
 */
export function toolAliases(project: ProjectFiles, folder: string): ToolAliases {
  return project.memo(`aliases of tools ${folder}`, () => {
    const names = new Set<string>();
    const folders: PathAlias[] = [];
    let isOpen = false;
    for (const { name: file } of project.tree.list(folder)) {
      if (!TOOLS.has(file)) continue;
      const text = withoutComments(project.text(join(folder, file))?.text ?? "");
      if (/\bresolveRequest\b|\brootPathPrefix\b|\brootPathSuffix\b/.test(text)) isOpen = true;
      for (const match of text.matchAll(MENTION)) {
        const start = match.index + match[0].length - 1;
        // Set by a statement, taken from another file, a list of patterns.
        if (text[start] !== "{") isOpen = true;
        for (const written of text[start] === "{" ? argumentsIn(text, start) : []) {
          const { name, path } = entryOf(written);
          if (written.trim() !== "" && (name === undefined || /[\^$*()]/.test(name))) isOpen = true;
          if (name !== undefined) names.add(name);
          if (name !== undefined && path !== undefined) folders.push({ name, ...path, folder: join(folder, path.folder) });
        }
      }
    }
    return { names, folders, isOpen };
  });
}

/** What an entry of such settings calls what, where it is written out; a place ends in a file or is a folder. */
function entryOf(written: string): { name?: string; path?: Pick<PathAlias, "folder" | "entries"> } {
  const entry = ENTRY.exec(written);
  const name = (entry?.[2] ?? entry?.[3])?.replace(/\/(?:\*)?$/, "");
  const path = pathIn(entry?.[4] ?? "");
  if (name === undefined || path === undefined) return { ...(name === undefined ? {} : { name }) };
  const isFile = /\.\w+$/.test(path);
  return { name, path: { folder: isFile ? parentOf(path) : path, entries: isFile ? [baseName(path)] : [] } };
}

/** The folder that a value of settings names, where all of it is written out. */
function pathIn(value: string): string | undefined {
  const plain = /^["'`](\.{1,2}(?:\/[^"'`$]*)?)["'`]$/.exec(value)?.[1] ?? /\bnew\s+URL\s*\(\s*["'](\.{1,2}\/[^"']*)["']/.exec(value)?.[1];
  if (plain !== undefined) return plain.replace(/\/(?:\*)?$/, "");
  const parts = /^(?:path\s*\.\s*)?(?:resolve|join)\s*\(\s*__dirname\s*,((?:\s*["'][^"'$]*["']\s*,?)+)\s*\)$/.exec(value)?.[1];
  return parts && [...parts.matchAll(/["']([^"']*)["']/g)].map(([, part]) => part).join("/");
}
