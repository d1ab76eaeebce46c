// Bundles the program and the core, so that starting up reads few files, and writes the type declarations of the core.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import path from "node:path";
import { build } from "esbuild";

const root = fileURLToPath(new URL("..", import.meta.url));
/** What the bundles of the program and of the core share. */
const common = {
  absWorkingDir: root,
  bundle: true,
  platform: "node",
  mainFields: ["module", "main"],
  target: "node20",
  sourcemap: false,
  // Less text to read at every start; names stay, for readable stack traces.
  minifyWhitespace: true,
  minifySyntax: true,
  logLevel: "warning",
  legalComments: "none",
};

rmSync(path.join(root, "dist"), { recursive: true, force: true });
// The program: one file, oclif in it, whose compiled code is kept between runs (bin/load.js).
await build({
  ...common,
  entryPoints: ["src/program.ts"],
  outfile: "dist/program.cjs",
  format: "cjs",
  define: { "import.meta.url": "programUrl" },
  banner: { js: 'const programUrl = require("node:url").pathToFileURL(__filename).href;' },
  // Rarely needed, or only where a command is not built (TypeScript).
  external: ["@cyclonedx/cyclonedx-library", "junit-report-builder", "typescript"],
});
// The core for other programs, and what the scripts of the docs need.
await build({
  ...common,
  entryPoints: ["src/core/index.ts", "src/docs.ts"],
  outdir: "dist",
  outbase: "src",
  splitting: true,
  format: "esm",
  banner: { js: 'import { createRequire as enredoRequire } from "node:module"; const require = enredoRequire(import.meta.url);' },
  chunkNames: "chunks/[name]-[hash]",
});
// The grammars of the languages whose source code is read, and their engine: just the compiled files, not the packages around them.
const grammars = path.join(root, "dist/grammars");
mkdirSync(grammars, { recursive: true });
for (const file of [
  "web-tree-sitter/web-tree-sitter.wasm",
  "@tree-sitter-grammars/tree-sitter-kotlin/tree-sitter-kotlin.wasm",
  "tree-sitter-java/tree-sitter-java.wasm",
  "tree-sitter-objc/tree-sitter-objc.wasm",
  "tree-sitter-c-sharp/tree-sitter-c_sharp.wasm",
  "tree-sitter-javascript/tree-sitter-javascript.wasm",
  "tree-sitter-typescript/tree-sitter-typescript.wasm",
  "tree-sitter-typescript/tree-sitter-tsx.wasm",
  "@repomix/tree-sitter-wasms/out/tree-sitter-swift.wasm",
  "@repomix/tree-sitter-wasms/out/tree-sitter-dart.wasm",
])
  copyFileSync(path.join(root, "node_modules", file), path.join(grammars, path.basename(file)));
const engine = readFileSync(path.join(root, "node_modules/web-tree-sitter/web-tree-sitter.cjs"), "utf8");
writeFileSync(path.join(grammars, "web-tree-sitter.cjs"), engine.replace(/^\/\/# sourceMappingURL=.*$/m, ""));
const node = process.execPath;
execFileSync(node, [path.join(root, "node_modules/typescript/bin/tsc"), "-p", path.join(root, "tsconfig.build.json")], {
  stdio: "inherit",
});
execFileSync(node, [path.join(root, "node_modules/oclif/bin/run.js"), "manifest", root], {
  stdio: ["ignore", "ignore", "inherit"],
  cwd: root,
});
