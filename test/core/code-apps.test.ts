import { readFileSync, readdirSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { ROOT } from "../helpers/program.js";
import { reportOf } from "../helpers/memory.js";
import { changed } from "../helpers/mistakes.js";

const FOLDER = path.join(ROOT, "test/cases/code");

/** What somebody does to an app: texts that are replaced in files, files that come and go; and the rules that tell it, or nothing. */
interface Change {
  what: string;
  told: string | null;
  edits?: [file: string, from: string, to: string][];
  more?: Record<string, string>;
  less?: string[];
}

/** The files of an app, each behind its name; what package managers lay down is kept below `installed`. */
function filesOf(name: string): Record<string, string> {
  const [, ...parts] = readFileSync(path.join(FOLDER, `${name}.app.txt`), "utf8").split(/^--- /m);
  return Object.fromEntries(
    parts.map((part) => {
      const end = part.indexOf("\n");
      return [part.slice(0, end).replace(/^installed\//, "node_modules/"), part.slice(end + 1)];
    }),
  );
}

function changesOf(name: string): Change[] {
  const lines = readFileSync(path.join(FOLDER, `${name}.changes.jsonl`), "utf8").split("\n");
  return lines.filter((line) => line !== "").map((line) => JSON.parse(line) as Change);
}

async function toldOf(files: Readonly<Record<string, string | Uint8Array>>): Promise<string[]> {
  const { findings } = await reportOf(files);
  return findings.flatMap(({ rule, severity, message }) => (severity === "note" ? [] : `${rule}: ${message}`));
}

const apps = readdirSync(FOLDER)
  .filter((file) => file.endsWith(".app.txt"))
  .map((file) => file.replace(".app.txt", ""));

describe.each(apps)("source code as people write it: %s", (name) => {
  const app = filesOf(name);
  const changes = changesOf(name);
  const apply = ({ edits = [], more = {}, less = [] }: Change): Record<string, string | Uint8Array> => {
    const files = Object.fromEntries(Object.entries(app).filter(([file]) => !less.includes(file)));
    return changed({ ...files, ...more }, edits);
  };

  it("is quiet", async () => expect(await toldOf(app)).toEqual([]));

  it.each(changes.filter(({ told }) => told !== null))("tells: $what", async (change) => {
    const found = await toldOf(apply(change));
    expect(
      found.filter((finding) => new RegExp(`^(?:${change.told ?? ""}): `).test(finding)),
      found.join("\n"),
    ).not.toEqual([]);
  });

  it.each(changes.filter(({ told }) => told === null))("is quiet: $what", async (change) =>
    expect(await toldOf(apply(change))).toEqual([]),
  );
});
