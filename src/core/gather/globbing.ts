import type { FileTree } from "../files/tree.js";
import { join } from "../model/paths.js";

const MOST_FILES = 2_000;
const DEEPEST = 8;

/**
 * Files and folders below a folder whose path fits a pattern of a build script (`*`, `**`, `?`, `{a,b}`), in the order of their names. Paths are
 * relative to the folder. Only what the project holds is seen, and no more than `MOST_FILES`.
 */
export function filesMatching(tree: FileTree, folder: string, pattern: string): string[] {
  const found: string[] = [];
  for (const single of alternatives(pattern.replace(/^(\.\/)+/, ""))) walk("", single.split("/"), 0);
  return [...new Set(found)].sort();

  function walk(at: string, steps: readonly string[], depth: number): void {
    const [step, ...rest] = steps;
    if (step === undefined || found.length >= MOST_FILES || depth > DEEPEST) return;
    if (step === ".." || step === ".") return walk(join(at, step), rest, depth + 1);
    if (step === "**") walk(at, rest, depth + 1);
    const fits = step === "**" ? undefined : segmentPattern(step);
    for (const entry of tree.list(join(folder, at))) {
      const path = join(at, entry.name);
      if (step === "**") {
        if (entry.kind === "folder" && !entry.link && !entry.name.startsWith(".")) walk(path, steps, depth + 1);
      } else if (fits?.(entry.name)) {
        if (rest.length === 0) found.push(path);
        else if (entry.kind === "folder") walk(path, rest, depth + 1);
      }
    }
  }
}

/** `a.{b,c}` is `a.b` and `a.c`. */
function alternatives(pattern: string): string[] {
  const match = /^(.*?)\{([^{}]*)\}(.*)$/s.exec(pattern);
  if (!match) return [pattern];
  const [, before = "", inside = "", after = ""] = match;
  return inside
    .split(",")
    .slice(0, 20)
    .flatMap((choice) => alternatives(before + choice + after))
    .slice(0, 50);
}

/** Tells whether a name has a pattern: compared piece by piece, so that no pattern can be slow. */
function segmentPattern(step: string): (name: string) => boolean {
  const pieces = step.split("*");
  return (name) => {
    if (name.startsWith(".") && !step.startsWith(".")) return false;
    if (pieces.length === 1) return same(step, name);
    const first = pieces[0] as string;
    const last = pieces.at(-1) as string;
    if (
      name.length < first.length + last.length ||
      !same(first, name.slice(0, first.length)) ||
      !same(last, name.slice(name.length - last.length))
    )
      return false;
    let from = first.length;
    for (const piece of pieces.slice(1, -1)) {
      const index = indexOf(name, piece, from);
      if (index === -1) return false;
      from = index + piece.length;
    }
    return from <= name.length - last.length;
  };
}

/** Whether two texts are the same, where `?` stands for any one character. */
function same(piece: string, text: string): boolean {
  return piece.length === text.length && [...piece].every((char, index) => char === "?" || char === text[index]);
}

function indexOf(name: string, piece: string, from: number): number {
  for (let at = from; at + piece.length <= name.length; at++) if (same(piece, name.slice(at, at + piece.length))) return at;
  return -1;
}
