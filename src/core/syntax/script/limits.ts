/**
 * How many operators or calls of one chain (`a + b + …`, `a.b().c()…`) are read: each makes the tree one level deeper. Fewer inside of
 * something that is deep already, so that the whole tree stays one that can be walked.
 */
export function mostLinks(depth: number): number {
  return depth > 20 ? 25 : 250;
}

/** Told once for a file that is nested or chained beyond what is read. */
export const TOO_DEEP = "nested or chained too deeply; the rest of the expression is not read";
