/** `*` stands for anything; compared piece by piece, so that no pattern can be slow. */
export function wildcard(pattern: string, text: string): boolean {
  const pieces = pattern.split("*");
  const first = pieces[0] as string;
  const last = pieces.at(-1) as string;
  if (pieces.length === 1) return pattern === text;
  if (!text.startsWith(first) || !text.endsWith(last) || text.length < first.length + last.length) return false;
  let from = first.length;
  for (const piece of pieces.slice(1, -1)) {
    const found = text.indexOf(piece, from);
    if (found === -1) return false;
    from = found + piece.length;
  }
  return from <= text.length - last.length;
}
