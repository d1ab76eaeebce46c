import Table from "cli-table3";
import stringWidth from "string-width";
import wrapAnsi from "wrap-ansi";
import type { Style } from "./style.js";

const NO_BORDERS = {
  top: "",
  "top-mid": "",
  "top-left": "",
  "top-right": "",
  bottom: "",
  "bottom-mid": "",
  "bottom-left": "",
  "bottom-right": "",
  left: "",
  "left-mid": "",
  mid: "",
  "mid-mid": "",
  right: "",
  "right-mid": "",
  middle: "  ",
};

/**
 * A table without borders. Where it would be wider than the terminal, the last column moves to a line of its own under its row:
 * nothing is cut, so that a path stays a path.
 */
export function table(style: Style, head: string[], rows: string[][], indent = 2): string {
  if (rows.length === 0) return "";
  const pad = " ".repeat(indent);
  const all = [head, ...rows];
  const widths = head.map((_, column) => Math.max(...all.map((row) => stringWidth(row[column] ?? ""))));
  const total = indent + widths.reduce((sum, width) => sum + width + 2, 0);
  const fold = total > style.width && head.length > 1;
  const columns = fold ? head.length - 1 : head.length;
  const options = { chars: NO_BORDERS, style: { "padding-left": 0, "padding-right": 0, head: [], border: [], compact: true } };
  const grid = new Table(options);
  grid.push(head.slice(0, columns).map((cell) => style.dim(cell)));
  for (const row of rows) grid.push(row.slice(0, columns));
  const lines = grid
    .toString()
    .split("\n")
    .map((line) => (pad + line).trimEnd());
  if (!fold) return lines.join("\n");
  const out = [lines[0] as string];
  rows.forEach((row, index) => {
    out.push(lines[index + 1] as string);
    const last = row[columns];
    if (last) out.push(wrapped(style, last, indent + 4));
  });
  return out.join("\n");
}

/** Wraps text to the width, with an indent on every line. Words that are longer than the line (paths) stay whole. */
export function wrapped(style: Style, text: string, indent: number): string {
  const pad = " ".repeat(indent);
  return wrapAnsi(text, Math.max(20, style.width - indent), { hard: false, trim: true })
    .split("\n")
    .map((line) => pad + line)
    .join("\n");
}

/** Parts beside each other as far as the width goes, each whole, on as many lines as it takes. */
export function flowing(style: Style, parts: { text: string; show: (text: string) => string }[], indent: number): string {
  const pad = " ".repeat(indent);
  const lines: string[] = [];
  let left = 0;
  for (const { text, show } of parts) {
    const width = stringWidth(text);
    if (lines.length > 0 && width + 2 <= left) {
      lines[lines.length - 1] += `  ${show(text)}`;
      left -= width + 2;
    } else {
      lines.push(pad + show(text));
      left = style.width - indent - width;
    }
  }
  return lines.join("\n");
}
