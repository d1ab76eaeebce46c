// Runs the commands of the guide and the how-to pages on the sample apps, and writes what comes back under each of them.
// With --check it writes nothing, and fails where a page is not what a run gives.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
const scratch = mkdtempSync(path.join(tmpdir(), "enredo-guide-"));
const pages = ["docs/guide.md", ...readdirSync(path.join(root, "docs/how-to")).map((name) => `docs/how-to/${name}`)];

/** When the answers of the pages were made: the same each time. */
const DAY = String(Date.UTC(2026, 10, 28) / 1000);

/** What a command prints, stdout first, with the first lines only where the page asks for it. */
function run(command, most) {
  const words = command.match(/"[^"]*"|\S+/g).slice(1);
  const { stdout, stderr, status } = spawnSync(
    process.execPath,
    [path.join(root, "bin/enredo.js"), ...words.map((word) => word.replaceAll('"', ""))],
    { cwd: scratch, encoding: "utf8", env: { ...process.env, NO_COLOR: "1", FORCE_COLOR: "", COLUMNS: "100", SOURCE_DATE_EPOCH: DAY } },
  );
  if (status === 2 || status === null) throw new Error(`${command}: ${stderr}`);
  const lines = `${stdout}${stderr}`.trimEnd().split("\n");
  return lines.length > most ? [...lines.slice(0, most), "…"] : lines;
}

try {
  run("enredo demo apps", 1);
  for (const { name } of readdirSync(path.join(scratch, "apps"), { withFileTypes: true }).filter((entry) => entry.isDirectory()))
    if (!/^(\.|enredo$)/.test(name)) run(`enredo check apps/${name} --format ndjson --output answers/${name}.ndjson`, 1);
  let stale = 0;
  for (const page of pages) {
    const before = readFileSync(path.join(root, page), "utf8");
    const after = before.replace(
      /(<!-- (\d+) -->\n)?```console\n\$ (enredo [^\n]*)\n[\s\S]*?```/g,
      (_, mark = "", most, command) => `${mark}\`\`\`console\n$ ${command}\n${run(command, Number(most ?? 60)).join("\n")}\n\`\`\``,
    );
    if (after === before) continue;
    stale++;
    if (process.argv.includes("--check")) console.log(`${page} is not what its commands give`);
    else writeFileSync(path.join(root, page), after);
  }
  console.log(
    process.argv.includes("--check") ? `${pages.length} pages run, ${stale} stale` : `${pages.length} pages run, ${stale} written`,
  );
  process.exitCode = process.argv.includes("--check") && stale > 0 ? 1 : 0;
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
