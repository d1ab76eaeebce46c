import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, readdirSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { TestProject } from "vitest/node";
import { expectFresh } from "./fresh.js";

declare module "vitest" {
  interface ProvidedContext {
    /** The sample apps, with their mistakes and without, laid down once for all tests. None may change them. */
    sampleApps: { demo: string; clean: string };
  }
}

/** The tests of the program run what is built, most of them on the sample apps. */
export default function setup(project: TestProject): () => void {
  expectFresh("dist/program.cjs", "src", "bin");
  const folder = mkdtempSync(path.join(tmpdir(), "enredo-sample-apps-"));
  const demo = path.join(folder, "demo");
  const clean = path.join(folder, "clean");
  for (const args of [
    ["demo", demo],
    ["demo", clean, "--clean"],
  ]) {
    const { status, stderr } = spawnSync(process.execPath, ["bin/enredo.js", ...args], { cwd: project.config.root, encoding: "utf8" });
    if (status !== 0) throw new Error(`enredo ${args.join(" ")}: ${stderr}`);
  }
  const before = stateOf(folder);
  project.provide("sampleApps", { demo, clean });
  return () => {
    const isSame = stateOf(folder) === before;
    rmSync(folder, { recursive: true, force: true });
    if (!isSame) throw new Error("a test changed the sample apps that all tests share: let it lay down its own");
  };
}

/** Names, sizes and times of all files below a folder. */
function stateOf(folder: string): string {
  const hash = createHash("sha256");
  for (const entry of readdirSync(folder, { recursive: true, encoding: "utf8" }).sort()) {
    const { size, mtimeMs, mode } = statSync(path.join(folder, entry));
    hash.update(`${entry} ${mode} ${size} ${mtimeMs}\n`);
  }
  return hash.digest("hex");
}
