/** What many patterns of calls and names begin with: one look at a place of the text then tells all that begin with it. */
const LEADS = [String.raw`\.\s*`, String.raw`\b`];

/**
 * Whether any of some patterns is found in a text. Those that begin alike are asked together: a plain alternation of a hundred patterns tries each
 * at every letter (measured on 8 MB of code: 350 ms so, 50 ms apart).
 * @param patterns without groups that are referred to; those with flags are asked one by one
 */
export function anyOf(patterns: readonly RegExp[]): (text: string) => boolean {
  const asked = patterns.filter(({ flags }) => flags !== "");
  const plain = patterns.flatMap(({ flags, source }) => (flags === "" ? alternatives(source) : []));
  for (const lead of [...LEADS, ""]) {
    const rest = plain.filter((source) => leadOf(source) === lead).map((source) => source.slice(lead.length));
    if (rest.length > 0) asked.push(new RegExp(`${lead}(?:${rest.join("|")})`));
  }
  return (text) => asked.some((pattern) => pattern.test(text));
}

function leadOf(source: string): string {
  return LEADS.find((start) => source.startsWith(start)) ?? "";
}

/** The parts of a pattern between the bars that stand in no group and no class. */
function alternatives(source: string): string[] {
  const parts = [""];
  let depth = 0;
  let inClass = false;
  for (const [token] of source.matchAll(/\\.|[^\\]/gs)) {
    if (token === "[") inClass = true;
    else if (token === "]") inClass = false;
    else if (token === "(" && !inClass) depth++;
    else if (token === ")" && !inClass) depth--;
    if (token === "|" && depth === 0 && !inClass) parts.push("");
    else parts.push((parts.pop() ?? "") + token);
  }
  return parts;
}
