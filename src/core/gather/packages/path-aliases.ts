import { join, parentOf } from "../../model/paths.js";
import { at, entriesOf, itemsOf, textAt, type Data } from "../../syntax/data.js";
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
