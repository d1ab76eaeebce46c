import { expect } from "vitest";
import { reportOf } from "./memory.js";

export type Files = Readonly<Record<string, string | Uint8Array>>;

/** What a tired person does: texts that are replaced by file, a file that is gone, one that comes, or one that lies elsewhere. */
export type Changes = [file: string, from: string, to: string][] | string | { moved: readonly [from: string, to: string] } | Files;

/** An app with a mistake in it. */
export function changed(app: Files, changes: Changes): Record<string, string | Uint8Array> {
  if (typeof changes === "string") return Object.fromEntries(Object.entries(app).filter(([file]) => file !== changes));
  if (isMove(changes)) {
    const [from, to] = changes.moved;
    expect(app[from]).toBeDefined();
    return Object.fromEntries(Object.entries(app).map(([file, text]) => [file === from ? to : file, text]));
  }
  if (!Array.isArray(changes)) return { ...app, ...changes };
  const files = { ...app };
  for (const [file, from, to] of changes) {
    const text = String(files[file]);
    expect(text).toContain(from);
    files[file] = text.replaceAll(from, to);
  }
  return files;
}

function isMove(changes: Exclude<Changes, string>): changes is { moved: readonly [from: string, to: string] } {
  return !Array.isArray(changes) && Array.isArray(changes.moved);
}

/** What is told of an app, as rule and message. */
async function told(files: Files): Promise<string[]> {
  return (await reportOf(files)).findings.map(({ rule, message }) => `${rule}: ${message}`);
}

/** Expects that a mistake is told by one of the rules (a pattern of their names), by a finding that is not there without it. */
export async function expectTold(app: Files, changes: Changes, rules: string): Promise<void> {
  const before = await told(app);
  const found = (await told(changed(app, changes))).filter((finding) => !before.includes(finding));
  expect(
    found.filter((finding) => new RegExp(`^(?:${rules}): `).test(finding)),
    found.join("\n"),
  ).not.toEqual([]);
}
