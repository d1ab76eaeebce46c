import type { Cell, CompareRow } from "../../core/compare.js";
import { wrapped, table } from "./layout.js";
import { clean, plural, type Style } from "./style.js";

export interface Comparison {
  title: string;
  left: string;
  right: string;
  rows: CompareRow[];
}

/** Two sides, or two apps, an SDK a row; what differs stands out. */
export function compareText(comparisons: Comparison[], style: Style): string {
  const lines: string[] = [];
  for (const { title, left, right, rows } of comparisons) {
    lines.push(title, "");
    if (rows.length === 0) {
      lines.push("  no third-party SDK found", "");
      continue;
    }
    const said = (row: CompareRow): string => {
      if (row.only !== undefined) return style.warning(`! only ${row.only === "left" ? left : right}`);
      return row.differences.length > 0 ? style.error(`≠ ${clean(row.differences.join(", "))}`) : style.good("= alike");
    };
    lines.push(
      table(
        style,
        ["SDK", left, right, ""],
        rows.map((row) => [clean(row.sdk), cellText(row.left), cellText(row.right), said(row)]),
      ),
    );
    const apart = rows.filter(({ differences }) => differences.length > 0).length;
    const one = (side: "left" | "right"): number => rows.filter(({ only }) => only === side).length;
    lines.push(
      "",
      wrapped(
        style,
        `${plural(rows.length, "SDK")}: ${rows.length - apart - one("left") - one("right")} alike, ${apart} that ${apart === 1 ? "differs" : "differ"}, ${one("left")} only ${left}, ${one("right")} only ${right}`,
        2,
      ),
      "",
    );
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

function cellText(cell: Cell | undefined): string {
  if (!cell) return "–";
  const { connected, loose, missing } = cell.states;
  const open = [missing > 0 ? `${missing} missing` : "", loose > 0 ? `${loose} loose` : ""].filter(Boolean).join(", ");
  return `${clean(cell.version ?? "?")}${open !== "" ? ` (${open})` : connected > 0 ? ` (${connected} connected)` : ""}`;
}
