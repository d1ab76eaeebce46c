// Measures the check on a large workspace as a ratio to a floor measured in the same run; prints, and asserts nothing.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { writeFleet, writeRepository, writeSmall, writeSources, writeWithSheets, writeWorkspace } from "./workspace.mjs";

const here = path.dirname(fileURLToPath(import.meta.url));
const program = path.join(here, "../bin/enredo.js");
const runs = Number(process.env.BENCH_RUNS ?? 7);
const scratch = mkdtempSync(path.join(tmpdir(), "enredo-bench-"));

const env = { ...process.env, NO_COLOR: "1", ENREDO_CACHE: path.join(scratch, "cache") };
const started = (args, cwd) => {
  const result = spawnSync(process.execPath, args, { encoding: "utf8", cwd, env, maxBuffer: 1 << 28 });
  if (result.status === 2 || result.status === null) throw new Error(result.stderr);
  return result;
};

const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/**
 * Runs Node programs in turn, so that what else the machine does meets all of them alike: the median wall-clock seconds of each, and the
 * median of the ratio of each to the last. One round before is not counted: it leaves the compiled code and the readings that later runs find.
 */
function measure(...programs) {
  const rounds = [];
  for (let round = 0; round <= runs; round++)
    rounds.push(
      programs.map(({ args, cwd, before }) => {
        before?.();
        const start = process.hrtime.bigint();
        started(args, cwd);
        return Number(process.hrtime.bigint() - start) / 1e9;
      }),
    );
  rounds.shift();
  const each = (value) => programs.map((_, index) => median(rounds.map((round) => value(round, index))));
  return { seconds: each((round, index) => round[index]), ratios: each((round, index) => round[index] / round.at(-1)) };
}

/** The largest resident set in MB, in a run of its own: what reports it takes time too. */
function memory(args) {
  const { stderr } = started(["--import", pathToFileURL(path.join(here, "memory.mjs")).href, ...args]);
  return Number(/maxrss (\d+)/.exec(stderr)?.[1] ?? 0) / 1024;
}

/** What the check lists and reads, by a tree that writes it down. */
async function footprint(root) {
  const { openProject, DiskTree } = await import(pathToFileURL(path.join(here, "../dist/index.cjs")).href);
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
  await openProject(new Recorder(root), { packages: [] }).survey();
  return { root, folders: [...folders], files: [...files] };
}

function countFiles(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && !/\.git([/\\]|$)/.test(entry.parentPath),
  ).length;
}

/** A check after one file was changed, beside one that finds all as it was, with a run between them that takes up the change. */
function oneFile(name, root, file) {
  const check = [program, "check", root, "--json"];
  const text = readFileSync(file, "utf8");
  let times = 0;
  const { ratios, seconds } = measure(
    { args: check, before: () => writeFileSync(file, `${text}${"\n".repeat(++times)}`) },
    { args: check },
  );
  writeFileSync(file, text);
  console.log(
    `${name}, ${path.relative(root, file)} changed: ${seconds[0].toFixed(2)} s, ${ratios[0].toFixed(2)} times a check of the same files`,
  );
}

async function ratio(name, write, changing) {
  const root = path.join(scratch, name);
  write(root);
  const list = path.join(scratch, `${name}.json`);
  const recorded = await footprint(root);
  writeFileSync(list, JSON.stringify(recorded));
  const check = [program, "check", root, "--json"];
  const anew = [...check, "--no-cache"];
  const { seconds, ratios } = measure({ args: check }, { args: anew }, { args: [path.join(here, "floor.mjs"), list] });
  if (changing !== undefined) oneFile(name, root, path.join(root, changing));
  const shown = (index) => `${seconds[index].toFixed(2)} s (${ratios[index].toFixed(2)})`;
  console.log(
    `${name}: ${recorded.files.length} files, ${recorded.folders.length} folders; floor ${seconds[2].toFixed(2)} s, check on files as an earlier run found them ${shown(0)}, with nothing kept ${shown(1)}, ${memory(anew).toFixed(0)} MB`,
  );
}

try {
  const modules = (count) => (root) => writeWorkspace(root, { modules: count, apps: 0, pods: 0, packages: 0 });
  await ratio("full", (root) => writeWorkspace(root, { modules: 1000, apps: 20, pods: 300, packages: 1000 }));
  await ratio(
    "20 apps",
    (root) => writeWorkspace(root, { modules: 0, apps: 20, pods: 0, packages: 0 }),
    "apps/app-2/android/app/build.gradle",
  );
  await ratio("one app of each kind", writeFleet, "apps/kiosk/android/app/build.gradle");
  const fleet = path.join(scratch, "one app of each kind");
  oneFile("one app of each kind", fleet, path.join(fleet, "apps/deckpass/src/App.tsx"));
  await ratio("200 packages, a sheet of 60 needs", (root) => writeWithSheets(root, { packages: 200, needs: 60 }));
  await ratio("200 packages, no sheet", (root) => writeWithSheets(root, { packages: 200, needs: 0 }));
  await ratio("5000 source files in four languages", (root) => writeSources(root, { files: 5000, calls: 100 }), "ios/Big/Screen46.swift");
  await ratio("small app with its source code", (root) => writeSmall(root, { sources: true }));
  await ratio("small app without it", (root) => writeSmall(root, { sources: false }));
  const [withCode, withoutCode] = ["small app with its source code", "small app without it"].map((name) => ({
    args: [program, "check", path.join(scratch, name), "--json", "--no-cache"],
  }));
  console.log(`source code of a small app: ${measure(withCode, withoutCode).ratios[0].toFixed(2)} times the time without it`);
  for (const count of [100, 1000, 1])
    await ratio(`${count}-modules`, modules(count), count > 5 ? "native/android/module5/build.gradle.kts" : undefined);
  // In turn, as the difference is small beside what a machine does otherwise.
  const [large, small, tiny] = measure(
    ...[1000, 100, 1].map((count) => ({ args: [program, "check", path.join(scratch, `${count}-modules`), "--json", "--no-cache"] })),
  ).seconds;
  console.log(`growth from 100 to 1000 modules, start-up taken off: ${((large - tiny) / (small - tiny)).toFixed(2)} (linear: 10)`);
  const repository = path.join(scratch, "repository");
  writeRepository(repository);
  const both = measure(
    { args: [program, "diff", "before..HEAD", "--json"], cwd: repository },
    { args: [program, "check", repository, "--json", "--no-cache"] },
  );
  console.log(
    `diff between two revisions of ${countFiles(repository)} files ${both.seconds[0].toFixed(2)} s, two checks ${(2 * both.seconds[1]).toFixed(2)} s, ratio ${(both.ratios[0] / 2).toFixed(2)}`,
  );
  const version = measure({ args: [program, "--version"] }, { args: [path.join(here, "empty/run.mjs"), "nothing"] });
  console.log(
    `--version ${version.seconds[0].toFixed(3)} s, an empty oclif command ${version.seconds[1].toFixed(3)} s, ratio ${version.ratios[0].toFixed(2)}`,
  );
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
