import { structuredPatch } from "diff";
import type { PatchedFile } from "../../core/patch/plan.js";
import { clean } from "../text/style.js";

/** A unified diff, as `git apply` takes it; each hunk's head says which findings it mends. Paths are relative to the root. */
export function unifiedDiff(files: readonly PatchedFile[]): string {
  const lines: string[] = [];
  for (const { file, before, after, edits } of files) {
    const patch = structuredPatch(file, file, before, after, "", "", { context: 3 });
    const from = before === "" ? "/dev/null" : `a/${file}`;
    lines.push(
      `diff --git a/${file} b/${file}`,
      ...(before === "" ? ["new file mode 100644"] : []),
      `--- ${quoted(from)}`,
      `+++ ${quoted(`b/${file}`)}`,
    );
    for (const hunk of patch.hunks) {
      const own = edits.filter(({ from: at }) => {
        const line = before.slice(0, at).split("\n").length;
        return line >= hunk.oldStart - 1 && line <= hunk.oldStart + hunk.oldLines;
      });
      const findings = [...new Set(own.flatMap((edit) => edit.findings))];
      const title = findings.map(({ rule, message }) => `${rule}: ${clean(message)}`).join("; ");
      lines.push(`@@ -${range(hunk.oldStart, hunk.oldLines)} +${range(hunk.newStart, hunk.newLines)} @@ ${title}`.trimEnd(), ...hunk.lines);
    }
  }
  return lines.length === 0 ? "" : `${lines.join("\n")}\n`;
}

function range(start: number, lines: number): string {
  return lines === 1 ? String(start) : `${lines === 0 ? Math.max(0, start - 1) : start},${lines}`;
}

/** Source: git-scm.com, "git-diff", "core.quotePath": names with special characters stand in quotes. */
function quoted(name: string): string {
  return /["\\\t\n]/.test(name) ? JSON.stringify(name) : /\s/.test(name) ? `${name}\t` : name;
}
