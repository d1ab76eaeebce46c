import type { Sheet } from "../../core/model/sheet.js";
import type { InputProblem } from "../../core/settings/validate.js";
import { table, wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";

/** The sheets that hold for a project, and the apps in which their SDKs are. */
export function sheetListText(sheets: { sheet: Sheet; apps: string[] }[], style: Style): string {
  if (sheets.length === 0) return "no sheets: put NAME.sdk.yaml files into enredo/sheets/, or write one with `enredo sheet new`\n";
  const rows = sheets.map(({ sheet, apps }) => [
    clean(sheet.sdk),
    String(sheet.needs.length),
    clean([...sheet.packages.keys()].join(", ")),
    apps.length > 0 ? clean(apps.join(", ")) : "in no app",
    style.place(clean(`${sheet.file}:${sheet.at.line}:${sheet.at.column}`)),
  ]);
  return `${table(style, ["SDK", "needs", "comes from", "in", "sheet"], rows, 0)}\n\n${plural(sheets.length, "sheet")}; enredo trace SDK checks one against the apps.\n`;
}

/** What is wrong in sheets, with place and suggestion. */
export function sheetProblemsText(sheets: number, problems: readonly InputProblem[], style: Style): string {
  const lines = problems.flatMap(({ message, fix, place }) => [
    `${style.error("✗ error")}   ${wrapped(style, clean(message), 10).trimStart()}`,
    `          ${style.place(clean(`${place.file}:${place.line}:${place.column}`))}`,
    wrapped(style, `→ ${clean(fix)}`, 10),
    "",
  ]);
  lines.push(
    problems.length === 0
      ? `${style.good("✓")} ${plural(sheets, "sheet")}, nothing wrong`
      : `${plural(problems.length, "error")} in ${plural(sheets, "sheet")} that could be read`,
  );
  return `${lines.join("\n")}\n`;
}
