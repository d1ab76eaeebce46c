import type { FileTree } from "../../files/tree.js";
import { join } from "../../model/paths.js";

/** A version of a package, as Maven names it. */
export interface Coordinates {
  group: string;
  artifact: string;
  version: string;
}

/** Where files of packages lie that were fetched or come with the project: the cache of Gradle, or a folder laid out as a repository. */
export interface MavenStore {
  kind: "cache" | "repository";
  folder: string;
}

/**
 * The store that a folder is: a home of Gradle with its cache, or a repository. Sources: docs.gradle.org, "The Directories and Files Gradle Uses";
 * maven.apache.org, "Maven2 Repository Layout".
 */
export function mavenStoreAt(tree: FileTree, folder: string): MavenStore | undefined {
  const cache = join(folder, "caches/modules-2/files-2.1");
  if (tree.isFolder(cache)) return { kind: "cache", folder: cache };
  return tree.isFolder(folder) ? { kind: "repository", folder } : undefined;
}

/** A file of a package by its ending (`pom`, `module`, `aar`, `jar`); the first store that has it. */
export function fileIn(
  tree: FileTree,
  stores: readonly MavenStore[],
  { group, artifact, version }: Coordinates,
  ending: string,
): string | undefined {
  // Nothing of a project leads out of a store.
  if (![group, artifact, version].every((part) => /^[\w.+-]+$/.test(part) && !/^\.+$/.test(part) && !part.includes(".."))) return undefined;
  const name = `${artifact}-${version}.${ending}`;
  for (const { kind, folder } of stores) {
    if (kind === "repository") {
      const file = join(folder, `${group.replaceAll(".", "/")}/${artifact}/${version}/${name}`);
      if (tree.isFile(file)) return file;
      continue;
    }
    const versions = join(folder, `${group}/${artifact}`);
    if (!tree.isFolder(versions)) continue;
    const own = join(versions, version);
    for (const entry of tree.list(own)) {
      const file = join(own, `${entry.name}/${name}`);
      if (entry.kind === "folder" && tree.isFile(file)) return file;
    }
  }
  return undefined;
}
