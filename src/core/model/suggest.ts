import { closest, distance } from "fastest-levenshtein";

/** `did you mean "…"?` for a word that is near a known one; `undefined` when none is near. */
export function suggestion(word: string, known: readonly string[]): string | undefined {
  if (known.length === 0) return undefined;
  const near = closest(word, [...known]);
  return distance(word, near) <= Math.max(2, Math.floor(near.length / 3)) ? `did you mean "${near}"?` : undefined;
}
