import { execFileSync } from "node:child_process";
import path from "node:path";
import { expect, it } from "vitest";
import { ROOT } from "../helpers/program.js";

it("every command in the guide and the how-to pages gives what the page shows", () => {
  const stdout = execFileSync(process.execPath, [path.join(ROOT, "scripts/guide.mjs"), "--check"], { encoding: "utf8" });
  expect(stdout).toMatch(/^([7-9]|1\d) pages run, 0 stale$/m);
});
