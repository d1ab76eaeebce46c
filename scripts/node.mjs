// Runs the tests or the bench on other releases of Node.js, which the registry has as the package `node`:
//   node scripts/node.mjs 20 22 24 -- test/cli        (Vitest with these files, without any all)
//   node scripts/node.mjs 22 24 --bench
// They are installed into node_modules/.cache/nodes, once.
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
const args = process.argv.slice(2);
const split = args.indexOf("--");
const own = split === -1 ? args : args.slice(0, split);
const rest = split === -1 ? [] : args.slice(split + 1);
const releases = own.filter((arg) => /^\d+(\.\d+)*$/.test(arg));
let worst = 0;

/** The program of a release, installed where it is not there yet. */
function programOf(release) {
  const folder = path.join(root, "node_modules/.cache/nodes", release);
  const program = path.join(folder, "node_modules/node/bin", process.platform === "win32" ? "node.exe" : "node");
  if (!existsSync(program)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(path.join(folder, "package.json"), "{}\n");
    // The package fetches nothing else: its install script puts the program of this system in place.
    execFileSync("npm", ["install", "--no-audit", "--no-fund", `node@${release}`], {
      cwd: folder,
      stdio: ["ignore", "ignore", "inherit"],
      shell: process.platform === "win32",
    });
  }
  return program;
}

for (const release of releases.length > 0 ? releases : ["20", "22", "24"]) {
  const program = programOf(release);
  console.log(`\nNode.js ${execFileSync(program, ["--version"], { encoding: "utf8" }).trim()}`);
  const script = own.includes("--bench") ? ["bench/run.mjs"] : ["scripts/test.mjs", ...rest];
  const { status } = spawnSync(program, script, { cwd: root, stdio: "inherit" });
  worst = Math.max(worst, status ?? 1);
}
process.exitCode = worst;
