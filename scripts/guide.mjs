// Runs the commands of the guide and the how-to pages on the sample apps, and writes what comes back under each of them.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));
export const pages = ["docs/guide.md", ...readdirSync(path.join(root, "docs/how-to")).map((name) => `docs/how-to/${name}`)];

/** When the answers of the pages were made: the same each time. */
const DAY = String(Date.UTC(2026, 10, 28) / 1000);

/**
 * The pages whose commands give something else than they show, by their path, as they should be.
 * @param {(args: string[], options: { cwd: string; env: Record<string, string> }) => Run | Promise<Run>} start runs the program
 * @typedef {{ code: number | null; stdout: string; stderr: string }} Run
 */
export async function stalePages(start) {
  const cwd = mkdtempSync(path.join(tmpdir(), "enredo-guide-"));
  /** What a command prints, stdout first, with the first lines only where the page asks for it. */
  const run = async (command, most) => {
    const words = command.match(/"[^"]*"|\S+/g).slice(1);
    const { stdout, stderr, code } = await start(
      words.map((word) => word.replaceAll('"', "")),
      { cwd, env: { NO_COLOR: "1", FORCE_COLOR: "", COLUMNS: "100", SOURCE_DATE_EPOCH: DAY } },
    );
    if (code === 2 || code === null) throw new Error(`${command}: ${stderr}`);
    const lines = `${stdout}${stderr}`.trimEnd().split("\n");
    return lines.length > most ? [...lines.slice(0, most), "…"] : lines;
  };
  try {
    await run("enredo demo apps", 1);
    for (const { name } of readdirSync(path.join(cwd, "apps"), { withFileTypes: true }).filter((entry) => entry.isDirectory()))
      if (!/^(\.|enredo$)/.test(name)) await run(`enredo check apps/${name} --format ndjson --output answers/${name}.ndjson`, 1);
    const stale = new Map();
    for (const page of pages) {
      const before = readFileSync(path.join(root, page), "utf8");
      let after = "";
      let end = 0;
      for (const { 0: whole, 1: mark = "", 2: most, 3: command, index } of before.matchAll(
        /(<!-- (\d+) -->\n)?```console\n\$ (enredo [^\n]*)\n[\s\S]*?```/g,
      )) {
        const shown = (await run(command, Number(most ?? 60))).join("\n");
        after += `${before.slice(end, index)}${mark}\`\`\`console\n$ ${command}\n${shown}\n\`\`\``;
        end = index + whole.length;
      }
      after += before.slice(end);
      if (after !== before) stale.set(page, after);
    }
    return stale;
  } finally {
    rmSync(cwd, { recursive: true, force: true });
  }
}

/** Writes the stale pages, with what the built program gives. */
export async function renewPages() {
  const stale = await stalePages((args, { cwd, env }) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [path.join(root, "bin/enredo.js"), ...args], {
      cwd,
      encoding: "utf8",
      env: { ...process.env, ...env },
    });
    return { code: status, stdout, stderr };
  });
  for (const [page, text] of stale) writeFileSync(path.join(root, page), text);
  console.log(`${pages.length} pages run, ${stale.size} written`);
}
