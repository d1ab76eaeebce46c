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

/**
 * How far two words are apart, in letters: two neighbours that changed places are one. More than `most` is not worked out; most pairs are told
 * apart by what they begin and end with.
 */
function letters(a: string, b: string, most: number): number {
  const shorter = Math.min(a.length, b.length);
  let start = 0;
  while (start < shorter && a.charCodeAt(start) === b.charCodeAt(start)) start++;
  let end = 0;
  while (end < shorter - start && a.charCodeAt(a.length - 1 - end) === b.charCodeAt(b.length - 1 - end)) end++;
  const [left, right] = [a.slice(start, a.length - end), b.slice(start, b.length - end)];
  const rest = Math.max(left.length, right.length);
  if (rest < 2) return rest;
  if (isSwapped(left, right)) return 1;
  return most < 2 ? most + 1 : distance(left, right);
}

/** Whether two pairs of letters are one the other way round. */
function isSwapped(a: string, b: string): boolean {
  return a.length === 2 && b.length === 2 && a[0] === b[1] && a[1] === b[0];
}

/**
 * The known name that another one was meant to be, where names tell large letters from small: the same in other letters, one letter away, two where
 * it is long. `undefined` where it is known itself, or near none.
 * @param atMost how many letters may differ, where names that are all right lie close together
 */
export function misspelling(name: string, known: Iterable<string>, atMost = 2): string | undefined {
  if (known instanceof Set && known.has(name)) return undefined;
  const most = Math.min(atMost, name.length < 3 ? 0 : name.length < 8 ? 1 : 2);
  const lower = name.toLowerCase();
  let best: string | undefined;
  let least = most + 1;
  for (const other of known) {
    if (other === name) return undefined;
    if (Math.abs(other.length - name.length) > (name.length < 4 ? 0 : most)) continue;
    const far = other.length === name.length && other.toLowerCase() === lower ? 0 : letters(name, other, most);
    // Of short words one letter makes another: only two that changed places are a slip.
    if (name.length < 4 && [...name].sort().join() !== [...other].sort().join()) continue;
    if (far < least) [best, least] = [other, far];
  }
  return best;
}
