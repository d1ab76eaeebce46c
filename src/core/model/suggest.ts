import { closest, distance } from "fastest-levenshtein";

/** `did you mean "…"?` for a word that is near a known one; `undefined` when none is near. */
export function suggestion(word: string, known: readonly string[]): string | undefined {
  if (known.length === 0) return undefined;
  const near = closest(word, [...known]);
  return distance(word, near) <= Math.max(2, Math.floor(near.length / 3)) ? `did you mean "${near}"?` : undefined;
}

/** What could have been meant by a word that nothing is called: the near one, then what there is. `what` names the kind, for none at all. */
export function choices(word: string, known: readonly string[], what: string): string {
  const near = suggestion(word, known);
  const listed = known.slice(0, 20).join(", ");
  const found = known.length === 0 ? `no ${what} was found` : `found: ${listed}${known.length > 20 ? ", …" : ""}`;
  return near === undefined ? found : `${near} ${found.charAt(0).toUpperCase()}${found.slice(1)}`;
}
