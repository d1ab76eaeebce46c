/**
 * The form of a value in a sheet, as data. The validator and the JSON Schema of sheets are made of it, and by it a sheet's patterns and
 * names of files are found.
 */
export type Form = TextForm | TableForm | { form: "flag" | "version" | "span" | "texts" | "names" | "value" } | WordForm | TablesForm;

export interface TextForm {
  form: "text";
  /** Must not be empty. */
  filled?: true;
  /** Must look like this; what is said where it does not. */
  matches?: { pattern: RegExp; message: string };
  /** A pattern of the whole of a text, one that is looked for anywhere in it, or the name of a file inside the project. */
  holds?: "pattern" | "search" | "path";
}

/** One of several words. */
export interface WordForm {
  form: "word";
  of: readonly string[];
}

export interface TableForm {
  form: "table";
  keys: Readonly<Record<string, KeyForm>>;
  /** A plain text is a short form of the table, and has this form. */
  short?: TextForm;
}

export interface TablesForm {
  form: "tables";
  of: TableForm;
  /** What is said of something that is no list. */
  message?: string;
}

export type KeyForm = Form & { optional?: true };

export const TEXT: TextForm = { form: "text" };
export const WORDS: TextForm = { form: "text", filled: true };
export const PATH: TextForm = { form: "text", holds: "path" };
export const PATTERN: TextForm = { form: "text", holds: "pattern" };
export const SEARCH: TextForm = { form: "text", holds: "search" };
export const FLAG: Form = { form: "flag" };
/** A text, a number or a switch. */
export const VALUE: Form = { form: "value" };
export const VERSION: Form = { form: "version" };
export const SPAN: Form = { form: "span" };
export const TEXTS: Form = { form: "texts" };
/** A text, or a list of texts. */
export const NAMES: Form = { form: "names" };

/** Something that may be left out. */
export function optional<F extends Form>(form: F): F & { optional: true } {
  return { ...form, optional: true };
}

export function words(...of: string[]): WordForm {
  return { form: "word", of };
}

export function matching(pattern: RegExp, message: string): TextForm {
  return { form: "text", matches: { pattern, message } };
}

export function table(keys: TableForm["keys"], options: { short?: TextForm } = {}): TableForm {
  return { form: "table", keys, ...options };
}

/** A list of tables. */
export function tables(of: TableForm["keys"] | TableForm): TablesForm {
  return { form: "tables", of: isTableForm(of) ? of : table(of) };
}

function isTableForm(of: TableForm["keys"] | TableForm): of is TableForm {
  return of.form === "table";
}
