// Runs Vitest and closes with a plain line that any reader of the log understands: "N passed, N failed".
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
const folder = mkdtempSync(path.join(tmpdir(), "enredo-vitest-"));
const file = path.join(folder, "result.json");
const vitest = path.join(root, "node_modules/vitest/vitest.mjs");
const { status } = spawnSync(
  process.execPath,
  [vitest, "run", "--reporter=default", "--reporter=json", `--outputFile.json=${file}`, ...process.argv.slice(2)],
  { cwd: root, stdio: "inherit" },
);
let passed = 0;
let failed = status === 0 ? 0 : 1;
try {
  const result = JSON.parse(readFileSync(file, "utf8"));
  passed = result.numPassedTests;
  failed = Math.max(result.numFailedTests, status === 0 ? 0 : 1);
} catch {
  console.error("Vitest wrote no result");
}
rmSync(folder, { recursive: true, force: true });
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = status ?? 1;
