/** A position in a file. `file` is relative to the survey's root, with `/`; `line` and `column` start at 1. */
export interface Place {
  file: string;
  line: number;
  column: number;
}

export function samePlace(a: Place, b: Place): boolean {
  return a.file === b.file && a.line === b.line && a.column === b.column;
}

/** Drops doubles, keeps the order of first appearance. */
export function uniquePlaces(places: readonly (Place | undefined)[]): Place[] {
  const seen = new Set<string>();
  const result: Place[] = [];
  for (const place of places) {
    if (!place) continue;
    const key = `${place.file}\0${place.line}\0${place.column}`;
    if (seen.has(key)) continue;
    seen.add(key);
    result.push(place);
  }
  return result;
}

/** Orders places by file, then line, then column. */
export function comparePlaces(a: Place | undefined, b: Place | undefined): number {
  if (!a || !b) return a ? -1 : b ? 1 : 0;
  if (a.file !== b.file) return a.file < b.file ? -1 : 1;
  return a.line - b.line || a.column - b.column;
}

/** Where a file begins: the place of what is said of the file as a whole. */
export function startOf(file: string): Place {
  return { file, line: 1, column: 1 };
}
