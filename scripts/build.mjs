// Bundles the program and the core, so that starting up reads few files, and writes the type declarations of the core.
import { execFileSync } from "node:child_process";
import { mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import path from "node:path";
import { brotliCompressSync, constants } from "node:zlib";
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
  // Less text to read at every start, and to fetch.
  minify: true,
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

/** What oclif loads for plugins and commands that are looked for by patterns, and here are listed by name; and its moving signs, but for those it takes. */
const unusedInOclif = {
  name: "unused-in-oclif",
  setup(bundler) {
    bundler.onResolve({ filter: /^(tinyglobby|minimatch)$/ }, ({ path: name, importer }) =>
      /@oclif[\\/]core[\\/]/.test(importer) ? { path: name, namespace: "unused" } : undefined,
    );
    bundler.onLoad({ filter: /.*/, namespace: "unused" }, () => ({ contents: "" }));
    // What only a page in a browser loads.
    bundler.onLoad({ filter: /[\\/]debug[\\/]src[\\/]browser\.js$/ }, () => ({ contents: "" }));
    bundler.onLoad({ filter: /cli-spinners[\\/]spinners\.json$/ }, ({ path: file }) => {
      const { line, dots2 } = JSON.parse(readFileSync(file, "utf8"));
      return { contents: JSON.stringify({ line, dots2 }), loader: "json" };
    });
  },
};

/** Of the list of licences, their names: what each is about is of no use in a bill of materials; and nothing that writes one as XML. */
const onlyNames = {
  name: "only-names",
  setup(bundler) {
    bundler.onLoad(
      {
        filter:
          /cyclonedx-library[\\/]dist\.node[\\/](serialize[\\/]xml[\\/]normalize|validation[\\/](base|json|xml)\w+(\.node)?|contrib[\\/]fromNodePackageJson[\\/]\w+)\.js$/,
      },
      () => ({
        contents: "module.exports = {};",
      }),
    );
    bundler.onLoad({ filter: /spdx\.SNAPSHOT\.schema\.json$/ }, ({ path: file }) => {
      const names = JSON.parse(readFileSync(file, "utf8"));
      delete names["meta:enum"];
      return { contents: JSON.stringify(names), loader: "json" };
    });
  },
};

rmSync(path.join(root, "dist"), { recursive: true, force: true });
/** The engine for patterns is a file of its own: the core, the program and the door share it. */
const engineApart = {
  name: "engine-apart",
  setup(bundler) {
    bundler.onLoad({ filter: /src[\\/]core[\\/]sheets[\\/]re2\.ts$/ }, () => ({
      contents: 'export const { RE2JS } = require("./re2.cjs");',
    }));
    bundler.onResolve({ filter: /^\.\/re2\.cjs$/ }, ({ path: file }) => ({ path: file, external: true }));
  },
};
/** What the program loads from bundles beside its own: the core, and forms of output whose libraries few runs need. */
const apart = {
  name: "apart",
  setup(bundler) {
    for (const [file, name] of [
      ["commands[\\\\/]core", "core"],
      ["core[\\\\/]project[\\\\/]lazily", "answers"],
    ])
      bundler.onLoad({ filter: new RegExp(`src[\\\\/]${file}\\.ts$`) }, () => ({
        contents: `export const ${name} = async () => require("./core.cjs");`,
      }));
    for (const [file, name] of [
      ["junit", "junitXml"],
      ["cyclonedx", "cycloneDx"],
    ])
      bundler.onLoad({ filter: new RegExp(`src[\\\\/]views[\\\\/]\\w+[\\\\/]${file}\\.ts$`) }, () => ({
        contents: `export const ${name} = (...args) => require("./${file}.cjs").${name}(...args);`,
      }));
    bundler.onResolve({ filter: /^\.\/(core|junit|cyclonedx)\.cjs$/ }, ({ path: file }) => ({ path: file, external: true }));
  },
};

/**
 * Of the readers of pages: parts of that of HTML that change nothing when they are loaded (the file that says so lies where the bundler
 * does not look), and one table of entities for both, in place of a copy each.
 */
const readersOfPages = {
  name: "readers-of-pages",
  setup(bundler) {
    bundler.onResolve({ filter: /^(domutils|dom-serializer)$/ }, async ({ path: name, pluginData, ...from }) =>
      pluginData === "asked" ? undefined : { ...(await bundler.resolve(name, { ...from, pluginData: "asked" })), sideEffects: false },
    );
    bundler.onResolve({ filter: /^entities(\/|$)/ }, ({ path: name, pluginData, kind }) =>
      pluginData === "asked"
        ? undefined
        : bundler.resolve(name, { kind, resolveDir: path.join(root, "node_modules/markdown-it"), pluginData: "asked" }),
    );
  },
};

// The program: the commands with oclif and the core, whose compiled code is kept between runs (bin/load.js). The core is for other programs too.
for (const [entry, file, plugins] of [
  ["src/program.ts", "program.cjs", [plainOrder, unusedInOclif, apart, engineApart]],
  ["src/core/internal.ts", "core.cjs", [engineApart, readersOfPages]],
  ["src/core/sheets/re2.ts", "re2.cjs", []],
  ["src/core/index.ts", "index.cjs", [apart, engineApart]],
  ["src/views/ci/junit.ts", "junit.cjs", []],
  ["src/views/json/cyclonedx.ts", "cyclonedx.cjs", [onlyNames]],
]) {
  await build({
    ...common,
    entryPoints: [entry],
    outfile: `dist/${file}`,
    format: "cjs",
    define: { "import.meta.url": "bundleUrl" },
    banner: { js: 'const bundleUrl = require("node:url").pathToFileURL(__filename).href;' },
    // Only where a command is not built, and for forms of output that are not written.
    external: ["typescript", "xmlbuilder2", "libxmljs2", "ajv", "ajv-formats", "ajv-formats-draft2019"],
    plugins,
  });
  writeAscii(path.join(root, "dist", file));
}
// The process that parses source code: beside the grammars that it loads.
await build({
  ...common,
  entryPoints: ["src/core/syntax/code/serve.ts"],
  outfile: "dist/grammars/parse.cjs",
  format: "cjs",
  define: { "import.meta.url": "bundleUrl" },
  banner: { js: 'const bundleUrl = require("node:url").pathToFileURL(__filename).href;' },
});
// The grammars of the languages whose source code is read, and their engine: just the
// compiled files, not the packages around them, and those packed: of 22 MB a twentieth is left.
/** Packed as small as it goes where the package is made, else fast. */
const quality = process.argv.includes("--small") ? 11 : 9;
const grammars = path.join(root, "dist/grammars");
mkdirSync(grammars, { recursive: true });
for (const file of [
  "web-tree-sitter/web-tree-sitter.wasm",
  "@tree-sitter-grammars/tree-sitter-kotlin/tree-sitter-kotlin.wasm",
  "tree-sitter-java/tree-sitter-java.wasm",
  "tree-sitter-objc/tree-sitter-objc.wasm",
  "tree-sitter-c-sharp/tree-sitter-c_sharp.wasm",
  "tree-sitter-typescript/tree-sitter-typescript.wasm",
  "tree-sitter-typescript/tree-sitter-tsx.wasm",
  "@repomix/tree-sitter-wasms/out/tree-sitter-swift.wasm",
  "@repomix/tree-sitter-wasms/out/tree-sitter-dart.wasm",
])
  writeFileSync(
    path.join(grammars, `${path.basename(file)}.br`),
    brotliCompressSync(readFileSync(path.join(root, "node_modules", file)), {
      params: { [constants.BROTLI_PARAM_LGWIN]: 24, [constants.BROTLI_PARAM_QUALITY]: quality },
    }),
  );
await build({
  ...common,
  bundle: false,
  entryPoints: ["node_modules/web-tree-sitter/web-tree-sitter.cjs"],
  outfile: "dist/grammars/web-tree-sitter.cjs",
});
const node = process.execPath;
execFileSync(node, [path.join(root, "node_modules/typescript/bin/tsc"), "-p", path.join(root, "tsconfig.build.json")], {
  stdio: "inherit",
});
keepReachable(path.join(root, "dist/core"), "index.d.ts");
execFileSync(node, [path.join(root, "node_modules/oclif/bin/run.js"), "manifest", root], {
  stdio: ["ignore", "ignore", "inherit"],
  cwd: root,
});

/** Removes the declarations that those of the door do not lead to. */
function keepReachable(folder, entry) {
  const reached = new Set();
  const open = [path.join(folder, entry)];
  for (let file = open.pop(); file !== undefined; file = open.pop()) {
    if (reached.has(file)) continue;
    reached.add(file);
    for (const [, from] of readFileSync(file, "utf8").matchAll(/(?:from |import\()"(\.[^"]+)\.js"/g))
      open.push(`${path.resolve(path.dirname(file), from)}.d.ts`);
  }
  for (const name of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const file = path.join(name.parentPath, name.name);
    if (name.isFile() && !reached.has(file)) rmSync(file);
  }
}

/** Writes the signs that the bundler leaves as they are, in patterns and tagged texts, as escapes: text of one byte a sign is read and compiled sooner. */
function writeAscii(file) {
  const text = readFileSync(file, "utf8");
  if (/String\.raw`[^`]*[^\x00-\x7f]/.test(text))
    throw new Error(`${file} has a sign that stands for itself in a raw text: write it as an escape`);
  writeFileSync(
    file,
    text.replace(/[^\x00-\x7f]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`),
  );
}
