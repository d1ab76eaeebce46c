import pc from "picocolors";
import type { Severity } from "../../core/settings/settings.js";

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

/** Takes control characters out of text that comes from files. */
export function clean(text: string): string {
  return text.replace(/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g, "\ufffd").replace(/[\n\t]/g, " ");
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
