import { createRequire } from "node:module";
import path from "node:path";
import { ROOT, type Run } from "./program.js";

/** The built program, so that many thousand runs are possible. */
const program = createRequire(import.meta.url)(path.join(ROOT, "dist/program.cjs")) as {
  run(args: string[], root: string): Promise<unknown>;
  keepReadingsIn(place: { folder: string; build: string } | undefined): void;
};

/** Runs the built program in this process; readings are kept in `cache`, or not at all. A crash has no exit code. */
export async function enredoHere(args: string[], cache?: string): Promise<Run> {
  const texts = { stdout: "", stderr: "" };
  const real = { stdout: process.stdout.write, stderr: process.stderr.write };
  const before = process.argv;
  for (const name of ["stdout", "stderr"] as const)
    process[name].write = ((chunk: string | Uint8Array): boolean => {
      texts[name] += String(chunk);
      return true;
    }) as typeof process.stdout.write;
  // Every failure shows where it comes from.
  process.argv = [...before.slice(0, 2), "--verbose"];
  process.exitCode = 0;
  let code: number | null;
  try {
    program.keepReadingsIn(cache === undefined ? undefined : { folder: cache, build: "test" });
    await program.run(args, ROOT);
    code = Number(process.exitCode);
  } catch (error) {
    code = (error as { oclif?: { exit?: number } }).oclif?.exit ?? null;
    if (code === null) texts.stderr += (error as Error).stack ?? "";
  } finally {
    Object.assign(process.stdout, { write: real.stdout });
    Object.assign(process.stderr, { write: real.stderr });
    process.argv = before;
    process.exitCode = 0;
  }
  return { code, ...texts };
}
