import { readdirSync } from "node:fs";
import path from "node:path";
import { enredo } from "./in-process.js";
import { temporaryFolder } from "./program.js";

/** The answers of the sample apps, each as the CI of its repository would write it, in a folder `answers`. */
export async function demoAnswers(): Promise<string> {
  const folder = temporaryFolder();
  const demo = path.join(folder, "demo");
  await enredo(["demo", demo]);
  for (const { name } of readdirSync(demo, { withFileTypes: true }).filter(
    (entry) => entry.isDirectory() && !/^(\.|enredo)/.test(entry.name),
  ))
    await enredo(["check", path.join(demo, name), "--format", "ndjson", "--output", path.join(folder, `answers/${name}.ndjson`)]);
  return folder;
}
