import { expect } from "vitest";
import { reportOf } from "./memory.js";

export type Files = Readonly<Record<string, string>>;

/** What a tired person does: texts that are replaced by file, a file that is gone, or one that comes. */
export type Changes = [file: string, from: string, to: string][] | string | Files;

/** An app with a mistake in it. */
export function changed(app: Files, changes: Changes): Record<string, string> {
  if (typeof changes === "string") return Object.fromEntries(Object.entries(app).filter(([file]) => file !== changes));
  if (!Array.isArray(changes)) return { ...app, ...changes };
  const files = { ...app };
  for (const [file, from, to] of changes) {
    expect(files[file]).toContain(from);
    files[file] = (files[file] ?? "").replaceAll(from, to);
  }
  return files;
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
