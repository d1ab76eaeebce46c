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

export function readingsPlace(): CachePlace | undefined {
  return place;
}
