import { structuredPatch } from "diff";
import type { PatchedFile } from "../../core/project/patch/plan.js";
import { clean } from "../text/style.js";

export interface UnifiedDiff {
  text: string;
  /** Lines with a secret that the patch cannot do without: they change, or nothing else tells where the change belongs. */
  shows: { file: string; line: number }[];
}

/** How many unchanged lines stand around a change, where none of them has a secret. */
const CONTEXT = 3;

/** A run of changed lines: `from` to `to` (from 0, exclusive) of the old text, and what stands in their place. */
interface Run {
  from: number;
  to: number;
  lines: string[];
}

/**
 * A unified diff, as `git apply` takes it; each hunk's head says which findings it mends. Paths are relative to the root. Unchanged lines for
 * which `isSecret` says so stay out of it.
 */
export function unifiedDiff(files: readonly PatchedFile[], isSecret: (line: string) => boolean = () => false): UnifiedDiff {
  const lines: string[] = [];
  const shows: UnifiedDiff["shows"] = [];
  for (const { file, before, after, edits } of files) {
    const from = before === "" ? "/dev/null" : `a/${file}`;
    lines.push(
      `diff --git a/${file} b/${file}`,
      ...(before === "" ? ["new file mode 100644"] : []),
      `--- ${quoted(from)}`,
      `+++ ${quoted(`b/${file}`)}`,
    );
    const old = linesOf(before);
    const runs = structuredPatch(file, file, before, after, "", "", { context: 0 }).hunks.map((hunk): Run => ({
      from: hunk.oldStart - 1,
      to: hunk.oldStart - 1 + hunk.oldLines,
      lines: hunk.lines,
    }));
    let shift = 0;
    for (const { from: start, to: end, lines: body, added } of hunksOf(old, runs, isSecret)) {
      const own = edits.filter(({ from: at }) => {
        const line = before.slice(0, at).split("\n").length;
        return line >= start && line <= end + 1;
      });
      const findings = [...new Set(own.flatMap((edit) => edit.findings))];
      const title = findings.map(({ rule, message }) => `${rule}: ${clean(message).replaceAll("##", "# #")}`).join("; ");
      const count = end - start;
      lines.push(`@@ -${range(start + 1, count)} +${range(start + 1 + shift, count + added)} @@ ${title}`.trimEnd(), ...body);
      shift += added;
      let line = start;
      for (const text of body) {
        if (/^[ -]/.test(text)) line++;
        if (!text.startsWith("\\") && isSecret(text.slice(1))) shows.push({ file, line: Math.max(1, line) });
      }
    }
  }
  return { text: lines.length === 0 ? "" : `${lines.join("\n")}\n`, shows };
}

/** The lines of a text, without the empty one behind its last line end; `undefined` as the last where there is no line end. */
function linesOf(text: string): { text: string; cut: boolean }[] {
  const lines = text.split("\n");
  const cut = lines.at(-1) !== "";
  if (!cut) lines.pop();
  return lines.map((line, index) => ({ text: line, cut: cut && index === lines.length - 1 }));
}

/** Runs with the lines around them; runs that are near each other, with nothing secret between, become one hunk. */
function hunksOf(
  old: readonly { text: string; cut: boolean }[],
  runs: readonly Run[],
  isSecret: (line: string) => boolean,
): (Run & { added: number })[] {
  const secret = (index: number): boolean => isSecret(old[index]?.text ?? "");
  const context = (from: number, to: number): string[] =>
    old.slice(from, to).flatMap(({ text, cut }) => [` ${text}`, ...(cut ? ["\\ No newline at end of file"] : [])]);
  const found: (Run & { added: number })[] = [];
  for (const [index, run] of runs.entries()) {
    const previous = found.at(-1);
    let from = run.from;
    while (from > (previous?.to ?? 0) && run.from - from < CONTEXT && !secret(from - 1)) from--;
    let to = run.to;
    const next = runs[index + 1]?.from ?? old.length;
    while (to < next && to - run.to < CONTEXT && !secret(to)) to++;
    // Without a line behind it, a change is taken to stand at the end of the file.
    if (to === run.to && to < old.length && next > to) to++;
    const added = run.lines.filter((line) => line.startsWith("+")).length - run.lines.filter((line) => line.startsWith("-")).length;
    const body = [...context(from, run.from), ...run.lines, ...context(run.to, to)];
    if (previous && from === previous.to)
      Object.assign(previous, { to, lines: [...previous.lines, ...body], added: previous.added + added });
    else found.push({ from, to, lines: body, added });
  }
  return found;
}

function range(start: number, lines: number): string {
  return lines === 1 ? String(start) : `${lines === 0 ? Math.max(0, start - 1) : start},${lines}`;
}

/** Source: git-scm.com, "git-diff", "core.quotePath": names with special characters stand in quotes. */
function quoted(name: string): string {
  return /["\\\t\n]/.test(name) ? JSON.stringify(name) : /\s/.test(name) ? `${name}\t` : name;
}
