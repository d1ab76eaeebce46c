import { execFileSync, spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import path from "node:path";
import { expect, it } from "vitest";
import { ROOT, temporaryFolder } from "../helpers/program.js";

/** What `npm version` runs: the change log gets the new version. */

const script = path.join(ROOT, "scripts/version.mjs");
const log = (released: string): string => `# Changes\n\n## Unreleased\n\n### Added\n- \`fleet\`.\n- More.\n${released}`;

function repository(changes: string): string {
  const folder = temporaryFolder({ "package.json": '{ "version": "1.2.0" }', "CHANGELOG.md": changes });
  execFileSync("git", ["init", "-q"], { cwd: folder });
  return folder;
}

it("what is unreleased becomes the version's", () => {
  const folder = repository(log("\n## 1.1.0 (2026-01-01)\n\n- Less.\n"));
  expect(execFileSync(process.execPath, [script], { cwd: folder, encoding: "utf8" })).toBe("1.2.0: 2 changes\n");
  const text = readFileSync(path.join(folder, "CHANGELOG.md"), "utf8");
  expect(text).toMatch(/^# Changes\n\n## Unreleased\n\n## 1\.2\.0 \(\d{4}-\d\d-\d\d\)\n\n### Added\n- `fleet`\.\n- More\.\n\n## 1\.1\.0 /);
  expect(execFileSync("git", ["diff", "--cached", "--name-only"], { cwd: folder, encoding: "utf8" })).toBe("CHANGELOG.md\n");
});

it.each([
  ["# Changes\n\n## Unreleased\n\n", "nothing is unreleased"],
  [log("\n## 1.2.0 (2026-01-01)\n"), "already has 1.2.0"],
  ["# Changes\n\n## 1.1.0 (2026-01-01)\n", "does not begin with ## Unreleased"],
])("and nothing is written where there is none, or twice", (changes, message) => {
  const folder = repository(changes);
  const { status, stderr } = spawnSync(process.execPath, [script], { cwd: folder, encoding: "utf8" });
  expect(status).not.toBe(0);
  expect(stderr).toContain(message);
  expect(readFileSync(path.join(folder, "CHANGELOG.md"), "utf8")).toBe(changes);
});
