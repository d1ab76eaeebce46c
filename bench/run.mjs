// Measures the check on a large workspace as a ratio to a floor measured in the same run; prints, and asserts nothing.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { writeFleet, writeRepository, writeSmall, writeSources, writeWithSheets, writeWorkspace } from "./workspace.mjs";

const here = path.dirname(fileURLToPath(import.meta.url));
const program = path.join(here, "../bin/enredo.js");
const runs = Number(process.env.BENCH_RUNS ?? 7);
const scratch = mkdtempSync(path.join(tmpdir(), "enredo-bench-"));

/** Median of wall-clock seconds, and the largest resident set in MB, of a Node program. */
function measure(args, cwd = process.cwd()) {
  const times = [];
  let memory = 0;
  for (let run = 0; run < runs; run++) {
    const start = process.hrtime.bigint();
    const result = spawnSync(process.execPath, args, { encoding: "utf8", cwd, env: { ...process.env, NO_COLOR: "1" }, maxBuffer: 1 << 28 });
    times.push(Number(process.hrtime.bigint() - start) / 1e9);
    if (result.status === 2 || result.status === null) throw new Error(result.stderr);
    memory = Math.max(memory, Number(/maxrss (\d+)/.exec(result.stderr)?.[1] ?? 0) / 1024);
  }
  times.sort((a, b) => a - b);
  return { seconds: times[Math.floor(times.length / 2)], memory };
}

/** What the check lists and reads, by a tree that writes it down. */
async function footprint(root) {
  const { survey, DiskTree } = await import(pathToFileURL(path.join(here, "../dist/core/index.js")).href);
  const folders = new Set();
  const files = new Set();
  class Recorder extends DiskTree {
    list(folder) {
      folders.add(folder);
      return super.list(folder);
    }
    read(file) {
      files.add(file);
      return super.read(file);
    }
  }
  await survey(new Recorder(root));
  return { root, folders: [...folders], files: [...files] };
}

function countFiles(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && !/\.git([/\\]|$)/.test(entry.parentPath),
  ).length;
}

async function ratio(name, write) {
  const root = path.join(scratch, name);
  write(root);
  const list = path.join(scratch, `${name}.json`);
  const recorded = await footprint(root);
  writeFileSync(list, JSON.stringify(recorded));
  const floor = measure([path.join(here, "floor.mjs"), list]);
  const check = measure(["--import", pathToFileURL(path.join(here, "memory.mjs")).href, program, "check", root, "--json"]);
  console.log(
    `${name}: ${recorded.files.length} files, ${recorded.folders.length} folders; check ${check.seconds.toFixed(2)} s, floor ${floor.seconds.toFixed(2)} s, ratio ${(check.seconds / floor.seconds).toFixed(2)}; ${check.memory.toFixed(0)} MB`,
  );
  return check.seconds;
}

try {
  const modules = (count) => (root) => writeWorkspace(root, { modules: count, apps: 0, pods: 0, packages: 0 });
  await ratio("full", (root) => writeWorkspace(root, { modules: 1000, apps: 20, pods: 300, packages: 1000 }));
  await ratio("one app of each kind", writeFleet);
  await ratio("200 packages, a sheet of 60 needs", (root) => writeWithSheets(root, { packages: 200, needs: 60 }));
  await ratio("200 packages, no sheet", (root) => writeWithSheets(root, { packages: 200, needs: 0 }));
  await ratio("5000 source files in four languages", (root) => writeSources(root, { files: 5000, calls: 100 }));
  const withCode = await ratio("small app with its source code", (root) => writeSmall(root, { sources: true }));
  const withoutCode = await ratio("small app without it", (root) => writeSmall(root, { sources: false }));
  console.log(`source code of a small app: ${(withCode / withoutCode).toFixed(2)} times the time without it`);
  const small = await ratio("100-modules", modules(100));
  const large = await ratio("1000-modules", modules(1000));
  const tiny = await ratio("1-module", modules(1));
  console.log(`growth from 100 to 1000 modules, start-up taken off: ${((large - tiny) / (small - tiny)).toFixed(2)} (linear: 10)`);
  const repository = path.join(scratch, "repository");
  writeRepository(repository);
  const one = measure([program, "check", repository, "--json"]);
  const both = measure([program, "diff", "before..HEAD", "--json"], repository);
  console.log(
    `diff between two revisions of ${countFiles(repository)} files ${both.seconds.toFixed(2)} s, two checks ${(2 * one.seconds).toFixed(2)} s, ratio ${(both.seconds / (2 * one.seconds)).toFixed(2)}`,
  );
  const version = measure([program, "--version"]);
  const empty = measure([path.join(here, "empty/run.mjs"), "nothing"]);
  console.log(
    `--version ${version.seconds.toFixed(3)} s, an empty oclif command ${empty.seconds.toFixed(3)} s, ratio ${(version.seconds / empty.seconds).toFixed(2)}`,
  );
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
