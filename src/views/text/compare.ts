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
      if (row.differences.length > 0) return style.error(`≠ ${clean(row.differences.join(", "))}`);
      return row.agreement === "alike"
        ? style.good(AGREEMENTS.alike)
        : row.agreement === "open"
          ? style.warning(AGREEMENTS.open)
          : style.dim(AGREEMENTS[row.agreement]);
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
    const same = rows.filter(
      ({ only, differences, agreement }) => only === undefined && differences.length === 0 && agreement !== "untold",
    ).length;
    const untold = rows.length - apart - same - one("left") - one("right");
    lines.push(
      "",
      wrapped(
        style,
        `${plural(rows.length, "SDK")}: ${same} alike as far as was looked, ${apart} that ${apart === 1 ? "differs" : "differ"}, ${one("left")} only ${left}, ${one("right")} only ${right}${untold > 0 ? `, ${untold} not known` : ""}`,
        2,
      ),
      "",
    );
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

const AGREEMENTS: Record<CompareRow["agreement"], string> = {
  alike: "= alike",
  open: "! open on both",
  partly: "= as far as the files tell",
  version: "= same version, no sheet",
  untold: "? not known",
};

function cellText(cell: Cell | undefined): string {
  if (!cell) return "–";
  if (!cell.known) return `? (${clean(cell.version ?? "not installed")} in the shared code)`;
  const { connected, loose, missing } = cell.states;
  const open = [missing > 0 ? `${missing} missing` : "", loose > 0 ? `${loose} loose` : ""].filter(Boolean).join(", ");
  return `${clean(cell.version ?? "?")}${open !== "" ? ` (${open})` : connected > 0 ? ` (${connected} connected)` : ""}`;
}
