import pc from "picocolors";
import { safeAddresses } from "../../core/model/address.js";
import type { Severity } from "../../core/model/finding.js";

/** How text goes to the terminal: colours or not, and how wide it is. */
export interface Style {
  width: number;
  bold(text: string): string;
  dim(text: string): string;
  error(text: string): string;
  warning(text: string): string;
  good(text: string): string;
  place(text: string): string;
}

/** Shows a place as a link, where the terminal knows links; `undefined` where it does not. */
export type Linked = (text: string) => string;

export function styleFor(options: { color: boolean; width: number; link?: Linked | undefined }): Style {
  const colors = pc.createColors(options.color);
  return {
    width: Math.max(40, options.width),
    bold: colors.bold,
    dim: colors.dim,
    error: (text) => colors.red(text),
    warning: (text) => colors.yellow(text),
    good: (text) => colors.green(text),
    place: (text) => colors.cyan(options.link ? options.link(text) : text),
  };
}

/** A sign and a word go with every colour. */
export const SEVERITY_MARKS: Record<Severity, { sign: string; word: string }> = {
  error: { sign: "✗", word: "error" },
  warning: { sign: "!", word: "warning" },
  note: { sign: "·", word: "note" },
};

export function colored(style: Style, severity: Severity, text: string): string {
  return severity === "error" ? style.error(text) : severity === "warning" ? style.warning(text) : style.dim(text);
}

/**
 * Signs that do something to a terminal or a page in place of being seen: escape sequences (C0 and C1), those that turn the direction of
 * writing, and those that separate lines.
 */
const UNSEEN = "\\u0000-\\u0008\\u000b-\\u001f\\u007f-\\u009f\\u061c\\u200e\\u200f\\u2028-\\u202e\\u2066-\\u2069\\ufeff";
const ALL_UNSEEN = new RegExp(`[${UNSEEN}]`, "g");
const LINE = /[\n\t]/g;

/** Text that comes from files, fit for a line of output: without control characters, line ends and passwords in addresses. */
export function clean(text: string): string {
  return safeAddresses(text.replace(ALL_UNSEEN, "\ufffd").replace(LINE, " "));
}

/** Colours as this program writes them, and links to files. */
const OWN_SEQUENCE = /(\u001b\[(?:0|1|2|22|3[1-69]|39)m|\u001b\]8;;(?:file:\/\/[^\u0000-\u0020\u007f-\uffff]*)?\u001b\\)/;

/**
 * The last look at what goes to a terminal, a file or a service's log: only line ends and this program's own colours (where there are any)
 * are left of control characters, and no line is a command to a service that runs the program (`::…`, `##…[`).
 */
export function forStream(text: string, color: boolean): string {
  const parts = color ? text.split(OWN_SEQUENCE) : [text];
  const shown = parts.map((part, index) => (index % 2 === 1 ? part : part.replace(ALL_UNSEEN, "\ufffd"))).join("");
  // Source: docs.github.com, "Workflow commands for GitHub Actions"; learn.microsoft.com, "Logging commands".
  return safeAddresses(shown.replace(/^(\s*):(?=:)/gm, "$1: ").replace(/##(?=[\w-]*\[)/g, "# #"));
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
