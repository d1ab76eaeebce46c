const FORMS = {
  /** C and its kin: `//`, and blocks that may be left open. */
  c: /\/\*[\s\S]*?(?:\*\/|$)|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|\/\/[^\n]*/g,
  /** Scripts with `#`; what is put into a text begins with the same sign. */
  hash: /"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|#[^\n{]*/g,
};

/** A text with its comments blanked out, of the same length and with the same lines; texts in quotes stay as they are. */
export function withoutComments(text: string, form: keyof typeof FORMS = "c"): string {
  return text.replace(FORMS[form], (part) => (/^["']/.test(part) ? part : part.replace(/[^\n]/g, " ")));
}
