import { clean } from "../text/style.js";

/** Text from files as Markdown: nothing in it is taken as markup. */
export function escaped(text: string): string {
  return (
    clean(text)
      .replace(/[\\`*_{}[\]<>#|~]/g, (char) => (char === "<" ? "&lt;" : char === ">" ? "&gt;" : `\\${char}`))
      // A service links names, addresses and numbers by itself, and tells people that they were named.
      .replace(/[@#](?=\w)|:(?=\/\/)|\bwww(?=\.)/gi, `$&${NOTHING}`)
  );
}

/** A sign of no width. */
const NOTHING = "\u200b";

/** Text as code; the fence is one longer than the longest in the text itself. Source: spec.commonmark.org, "Code spans". */
export function code(text: string): string {
  const plain = clean(text);
  const longest = Math.max(0, ...[...plain.matchAll(/`+/g)].map(([run]) => run.length));
  const fence = "`".repeat(longest + 1);
  return longest > 0 ? `${fence} ${plain} ${fence}` : `${fence}${plain}${fence}`;
}
