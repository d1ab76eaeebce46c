// Bundles the commands and the core, so that starting up reads few files, and writes the type declarations of the core.
import { execFileSync } from "node:child_process";
import { readdirSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";
import path from "node:path";
import { build } from "esbuild";

const root = fileURLToPath(new URL("..", import.meta.url));
const commands = readdirSync(path.join(root, "src/commands"), { recursive: true })
  .map(String)
  .filter((file) => file.endsWith(".ts") && !file.endsWith("base.ts"))
  .map((file) => path.join("src/commands", file));

rmSync(path.join(root, "dist"), { recursive: true, force: true });
await build({
  absWorkingDir: root,
  entryPoints: [...commands, "src/core/index.ts", "src/docs.ts"],
  outdir: "dist",
  outbase: "src",
  bundle: true,
  splitting: true,
  format: "esm",
  platform: "node",
  mainFields: ["module", "main"],
  target: "node20",
  // What stays outside is either loaded by oclif itself or rarely needed.
  external: ["@oclif/core"],
  banner: { js: 'import { createRequire as enredoRequire } from "node:module"; const require = enredoRequire(import.meta.url);' },
  chunkNames: "chunks/[name]-[hash]",
  sourcemap: false,
  logLevel: "warning",
  legalComments: "none",
});
const node = process.execPath;
execFileSync(node, [path.join(root, "node_modules/typescript/bin/tsc"), "-p", path.join(root, "tsconfig.build.json")], {
  stdio: "inherit",
});
execFileSync(node, [path.join(root, "node_modules/oclif/bin/run.js"), "manifest", root], {
  stdio: ["ignore", "ignore", "inherit"],
  cwd: root,
});
