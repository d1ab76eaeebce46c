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

/** How far two words are apart, in letters: two neighbours that changed places are one. */
function letters(a: string, b: string): number {
  return isSwapped(a, b) ? 1 : distance(a, b);
}

function isSwapped(a: string, b: string): boolean {
  const first = [...a].findIndex((letter, index) => letter !== b[index]);
  return (
    a.length === b.length &&
    first !== -1 &&
    a[first] === b[first + 1] &&
    a[first + 1] === b[first] &&
    a.slice(first + 2) === b.slice(first + 2)
  );
}

/**
 * The known name that another one was meant to be, where names tell large letters from small: the same in other letters, one letter away, two where
 * it is long. `undefined` where it is known itself, or near none.
 * @param atMost how many letters may differ, where names that are all right lie close together
 */
export function misspelling(name: string, known: Iterable<string>, atMost = 2): string | undefined {
  const most = Math.min(atMost, name.length < 3 ? 0 : name.length < 8 ? 1 : 2);
  const lower = name.toLowerCase();
  let best: string | undefined;
  let least = most + 1;
  for (const other of known) {
    if (other === name) return undefined;
    // Of short words one letter makes another: only two that changed places are a slip.
    if (Math.abs(other.length - name.length) > (name.length < 4 ? 0 : most) || (name.length < 4 && !isSwapped(name, other))) continue;
    const far = other.toLowerCase() === lower ? 0 : letters(name, other);
    if (far < least) [best, least] = [other, far];
  }
  return best;
}
