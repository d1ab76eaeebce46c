import type { SnapshotCache } from "../core/project/cache/snapshot-cache.js";
import type { DiskTree } from "../core/files/disk.js";

/** Where readings are kept, and what tells one build of the program from another. */
export interface CachePlace {
  folder: string;
  build: string;
}

let place: CachePlace | undefined;

/** Says where readings are kept, before a command runs; without it nothing is. */
export function keepReadingsIn(where: CachePlace | undefined): void {
  place = where;
}

/** The cache for the files of a tree; `undefined` where nothing is to be kept. */
export async function readingCache<Reading>(tree: DiskTree, depends: readonly string[]): Promise<SnapshotCache<Reading> | undefined> {
  if (!place) return undefined;
  const { SnapshotCache: Cache } = await import("../core/project/cache/snapshot-cache.js");
  return new Cache<Reading>(place.folder, [place.build, ...depends], tree);
}
