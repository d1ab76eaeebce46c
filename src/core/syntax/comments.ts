const FORMS = {
  /** C and its kin: `//`, and blocks that may be left open. */
  c: /\/\*[\s\S]*?(?:\*\/|$)|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|\/\/[^\n]*/g,
  /** Scripts with `#`; what is put into a text begins with the same sign. */
  hash: /"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|#[^\n{]*/g,
};

/** How many characters of texts without comments are kept at most: many questions are asked of each source file. */
const MOST_KEPT = 10_000_000;

const kept = { c: new Map<string, string>(), hash: new Map<string, string>() };
let keptLength = 0;

/** A text with its comments blanked out, of the same length and with the same lines; texts in quotes stay as they are. */
export function withoutComments(text: string, form: keyof typeof FORMS = "c"): string {
  const known = kept[form].get(text);
  if (known !== undefined) return known;
  const plain = text.replace(FORMS[form], (part) =>
    part.startsWith('"') || part.startsWith("'") ? part : part.replace(/[^\n]+/g, blanks),
  );
  // A part of a text is asked for once.
  if (text.length < SHORT) return plain;
  if ((keptLength += text.length) > MOST_KEPT) {
    for (const one of Object.values(kept)) one.clear();
    keptLength = text.length;
  }
  kept[form].set(text, plain);
  return plain;
}

const SHORT = 500;

function blanks(part: string): string {
  return " ".repeat(part.length);
}
