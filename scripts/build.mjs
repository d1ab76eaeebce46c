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

/**
 * oclif sorts its commands in the order of a language, for which Node.js loads the rules of all languages: 20 ms at every start. Ids of
 * commands are plain letters. A version of oclif that does this elsewhere stops the build here, so that it is looked at again.
 */
const plainOrder = {
  name: "plain-order",
  setup(bundler) {
    bundler.onLoad({ filter: /@oclif[\\/]core[\\/]lib[\\/]config[\\/]plugin\.js$/ }, ({ path: file }) => {
      const text = readFileSync(file, "utf8");
      const contents = text.replace("(a, b) => a.id.localeCompare(b.id)", "(a, b) => (a.id < b.id ? -1 : 1)");
      if (contents === text) return { errors: [{ text: `${file} does not sort its commands any more: take this step out` }] };
      return { contents };
    });
  },
};

rmSync(path.join(root, "dist"), { recursive: true, force: true });
/** The core is loaded from the bundle beside the program's. */
const coreApart = {
  name: "core-apart",
  setup(bundler) {
    bundler.onLoad({ filter: /src[\\/]commands[\\/]core\.ts$/ }, () => ({
      contents: 'export const core = async () => require("./core.cjs");',
    }));
    bundler.onResolve({ filter: /^\.\/core\.cjs$/ }, () => ({ path: "./core.cjs", external: true }));
  },
};

// The program: two files, the commands with oclif and the core, whose compiled code is kept between runs (bin/load.js).
for (const [entry, file, plugins] of [
  ["src/program.ts", "program.cjs", [plainOrder, coreApart]],
  ["src/core/index.ts", "core.cjs", []],
])
  await build({
    ...common,
    entryPoints: [entry],
    outfile: `dist/${file}`,
    format: "cjs",
    define: { "import.meta.url": "bundleUrl" },
    banner: { js: 'const bundleUrl = require("node:url").pathToFileURL(__filename).href;' },
    // Rarely needed, or only where a command is not built (TypeScript).
    external: ["@cyclonedx/cyclonedx-library", "junit-report-builder", "typescript"],
    plugins,
  });
// The process that parses source code: beside the grammars that it loads.
await build({
  ...common,
  entryPoints: ["src/core/syntax/code/serve.ts"],
  outfile: "dist/grammars/parse.cjs",
  format: "cjs",
  define: { "import.meta.url": "bundleUrl" },
  banner: { js: 'const bundleUrl = require("node:url").pathToFileURL(__filename).href;' },
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
