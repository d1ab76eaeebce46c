import { clean } from "../text/style.js";

/** Text from files as Markdown: nothing in it is taken as markup. */
export function escaped(text: string): string {
  return clean(text).replace(/[\\`*_{}[\]<>#|~]/g, (char) => (char === "<" ? "&lt;" : char === ">" ? "&gt;" : `\\${char}`));
}

/** Text as code; a longer fence where the text has one itself. */
export function code(text: string): string {
  const plain = clean(text);
  const fence = plain.includes("`") ? "``" : "`";
  return fence === "``" ? `${fence} ${plain} ${fence}` : `${fence}${plain}${fence}`;
}
