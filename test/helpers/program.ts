import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = fileURLToPath(new URL("../..", import.meta.url));
export const PROGRAM = path.join(ROOT, "bin/enredo.js");

/** What runs keep is kept here, for all tests together: none may see more of it than that it is faster. */
const CACHE = path.join(tmpdir(), "enredo-test-cache");

/** No test depends on what was fetched on the machine. */
const NO_PACKAGES = path.join(tmpdir(), "enredo-test-no-packages");

export interface Run {
  code: number | null;
  stdout: string;
  stderr: string;
}

/** The variables of a run: no colours, a width, and nothing that was fetched on the machine. */
export const ENVIRONMENT = { FORCE_COLOR: "", NO_COLOR: "1", COLUMNS: "100", ENREDO_CACHE: CACHE, GRADLE_USER_HOME: NO_PACKAGES };

/** Runs the built program as a process of its own. */
export function enredoProcess(args: string[], options: { cwd?: string; env?: Record<string, string> } = {}): Run {
  const { status, stdout, stderr } = spawnSync(process.execPath, [PROGRAM, ...args], {
    cwd: options.cwd ?? ROOT,
    encoding: "utf8",
    env: { ...process.env, ...ENVIRONMENT, ...options.env },
    maxBuffer: 64 * 1024 * 1024,
  });
  return { code: status, stdout, stderr };
}

export function temporaryFolder(files: Record<string, string | Buffer> = {}): string {
  const folder = mkdtempSync(path.join(tmpdir(), "enredo-test-"));
  write(folder, files);
  return folder;
}

export function write(folder: string, files: Record<string, string | Buffer>): void {
  for (const [file, text] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(folder, file)), { recursive: true });
    writeFileSync(path.join(folder, file), text);
  }
}
