import { closest, distance } from "fastest-levenshtein";

/** The known word that is meant by one that is near it; `undefined` when none is near. */
export function nearest(word: string, known: readonly string[]): string | undefined {
  if (known.length === 0) return undefined;
  const near = closest(word, [...known]);
  return distance(word, near) <= Math.max(2, Math.floor(near.length / 3)) ? near : undefined;
}

/**
 * The known word that a longer one is certainly a slip of: where that alone decides that something is wrong, and not how it is told. Short words
 * are near to each other without being meant.
 */
export function slipOf(word: string, known: readonly string[]): string | undefined {
  if (word.length < 5 || known.length === 0) return undefined;
  const near = closest(word, [...known]);
  return near.length > 3 && distance(word, near) <= Math.min(2, Math.floor(word.length / 4)) ? near : undefined;
}

/** `did you mean "…"?` for a word that is near a known one; `undefined` when none is near. */
export function suggestion(word: string, known: readonly string[]): string | undefined {
  const near = nearest(word, known);
  return near === undefined ? undefined : `did you mean "${near}"?`;
}

/** `a, b and c` */
export function inWords(parts: readonly string[]): string {
  return parts.length < 2 ? parts.join("") : `${parts.slice(0, -1).join(", ")} and ${parts.at(-1) ?? ""}`;
}

/** What could have been meant by a word that nothing is called: the near one, then what there is. `what` names the kind, for none at all. */
export function choices(word: string, known: readonly string[], what: string): string {
  const near = suggestion(word, known);
  const listed = known.slice(0, 20).join(", ");
  const found = known.length === 0 ? `no ${what} was found` : `found: ${listed}${known.length > 20 ? ", …" : ""}`;
  return near === undefined ? found : `${near} ${found.charAt(0).toUpperCase()}${found.slice(1)}`;
}
