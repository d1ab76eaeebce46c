import { mkdtempSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import path from "node:path";
import { ENVIRONMENT, PROGRAM, ROOT, type Run } from "./program.js";

/** The built program, so that many thousand runs are possible. */
const program = createRequire(import.meta.url)(path.join(ROOT, "dist/program.cjs")) as {
  run(args: string[], root: string): Promise<unknown>;
  keepReadingsIn(place: { folder: string; build: string } | undefined): void;
};

/** What runs keep, for the tests of one file together: none may see more of it than that it is faster. */
const readings = mkdtempSync(path.join(tmpdir(), "enredo-test-readings-"));

export interface RunOptions {
  cwd?: string;
  env?: Record<string, string>;
  /** Where readings are kept; `null`: nowhere. */
  cache?: string | null;
  /** Every failure shows where it comes from. */
  traces?: boolean;
}

/**
 * Runs the built program in this process, one run after the other: most of a short run of its own process goes into starting. What is
 * about processes, streams, signals and compiled code is tested with `enredoProcess`. A crash has no exit code.
 */
export async function enredo(args: string[], options: RunOptions = {}): Promise<Run> {
  const run = before.then(() => runHere(args, options));
  before = run;
  return run;
}

/** The run before: a process has one standard output. */
let before: Promise<unknown> = Promise.resolve();

async function runHere(args: string[], { cwd, env = {}, cache = readings, traces = false }: RunOptions): Promise<Run> {
  const texts = { stdout: "", stderr: "" };
  const real = { stdout: process.stdout.write, stderr: process.stderr.write };
  const around = { argv: process.argv, env: process.env, cwd: process.cwd() };
  for (const name of ["stdout", "stderr"] as const)
    process[name].write = ((chunk: string | Uint8Array): boolean => {
      texts[name] += String(chunk);
      return true;
    }) as typeof process.stdout.write;
  process.argv = [process.execPath, PROGRAM, ...args, ...(traces ? ["--verbose"] : [])];
  process.env = { ...around.env, ...ENVIRONMENT, ...env };
  process.exitCode = 0;
  let code: number | null;
  try {
    process.chdir(cwd ?? ROOT);
    program.keepReadingsIn(cache === null ? undefined : { folder: cache, build: "test" });
    await program.run(args, ROOT);
    code = Number(process.exitCode);
  } catch (error) {
    code = (error as { oclif?: { exit?: number } }).oclif?.exit ?? null;
    if (code === null) texts.stderr += (error as Error).stack ?? "";
  } finally {
    Object.assign(process.stdout, { write: real.stdout });
    Object.assign(process.stderr, { write: real.stderr });
    process.chdir(around.cwd);
    process.argv = around.argv;
    process.env = around.env;
    process.exitCode = 0;
  }
  return { code, ...texts };
}
