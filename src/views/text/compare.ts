import type { Cell, CompareRow } from "../../core/project/compare.js";
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
          ? style.warning(openText(row, left, right))
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
    const rest = rows.filter(({ only, differences }) => only === undefined && differences.length === 0);
    const open = rest.filter(({ agreement }) => agreement === "open").length;
    const untold = rest.filter(({ agreement }) => agreement === "untold").length;
    const same = rest.length - open - untold;
    lines.push(
      "",
      wrapped(
        style,
        `${plural(rows.length, "SDK")}: ${[
          same > 0 ? `${same} alike` : "",
          apart > 0 ? `${apart} that ${apart === 1 ? "differs" : "differ"}` : "",
          one("left") > 0 ? `${one("left")} only ${left}` : "",
          one("right") > 0 ? `${one("right")} only ${right}` : "",
          open > 0 ? `${open} open` : "",
          untold > 0 ? `${untold} not known` : "",
        ]
          .filter(Boolean)
          .join(", ")}`,
        2,
      ),
      "",
    );
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

/** Where something is open, although nothing differs that could be held beside each other. */
function openText({ left, right }: CompareRow, leftTitle: string, rightTitle: string): string {
  const isOpen = (cell: Cell | undefined): boolean => cell !== undefined && cell.states.loose + cell.states.missing > 0;
  if (isOpen(left) && isOpen(right)) return "! open on both";
  return `! open on ${isOpen(left) ? leftTitle : rightTitle}`;
}

const AGREEMENTS: Record<CompareRow["agreement"], string> = {
  alike: "= alike",
  open: "! open",
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
