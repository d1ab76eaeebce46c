// Loads the program with the code that an earlier run compiled, where there is some: without it a good part of a
// short run goes into compiling. The program is two bundles: the commands with oclif, and the core, which a run that finds
// its project unchanged does without. Node.js has such a cache only from version 22 on, and there this one still saves about
// a quarter more, as it also keeps what is compiled in the course of a run. The variables are those of Node.js (its
// documentation, "Module compile cache"): NODE_DISABLE_COMPILE_CACHE=1 keeps nothing, NODE_COMPILE_CACHE=DIR names the folder.
"use strict";
const { isAscii } = require("node:buffer");
const fs = require("node:fs");
const { createHash, randomBytes } = require("node:crypto");
const Module = require("node:module");
const path = require("node:path");
const vm = require("node:vm");
const { bytesOf, cacheFolders, makeFolder } = require("./cache-folder.js");

/** Compiled code is removed after this many days, so that what other versions left does not pile up; what is still used is made anew. */
const KEPT_DAYS = 30;

/** Compiled code above this size, in bytes, is not this program's. */
const LARGEST = 64 * 1024 * 1024;

/**
 * A digest of compiled code and of what it was compiled from. V8 itself only compares the length of the source and trusts every byte:
 * a damaged one ends the process.
 */
function digestOf(source, code) {
  return createHash("blake2b512").update(source).update("\0").update(code).digest();
}

const DIGEST = 64;

/** Reads what an earlier run of the same command, program and Node.js left: a digest and the code. What is damaged counts as not there. */
function cacheOf(folder, file, command, source) {
  const { size, mtimeMs } = fs.statSync(file);
  const name = [command.slice(0, 20), path.basename(file, ".cjs"), size, Math.round(mtimeMs), process.version, process.arch]
    .join("-")
    .replace(/[^\w.-]/g, "_");
  const cache = { file: path.join(folder, `${name}.bin`), data: undefined };
  const bytes = bytesOf(cache.file, LARGEST);
  if (bytes && bytes.length > DIGEST) {
    const code = bytes.subarray(DIGEST);
    if (digestOf(source, code).equals(bytes.subarray(0, DIGEST))) cache.data = code;
  }
  return cache;
}

/** Names of this program's own files, whole and in the making. */
const OWN_NAME = /^[\w.-]+\.bin(\.[0-9a-f]{16}\.part)?$/;

/** Leaves the compiled code for the next run; a folder that cannot be written is no fault. */
function keep(cache, script, source) {
  const folder = path.dirname(cache.file);
  // Whole or not at all, also beside another run; a name that nobody can foresee, and no file that is there already.
  const part = `${cache.file}.${randomBytes(8).toString("hex")}.part`;
  try {
    makeFolder(folder);
    const code = script.createCachedData();
    fs.writeFileSync(part, Buffer.concat([digestOf(source, code), code]), { mode: 0o600, flag: "wx" });
    fs.renameSync(part, cache.file);
    const oldest = Date.now() - KEPT_DAYS * 86_400_000;
    for (const name of fs.readdirSync(folder)) {
      const file = path.join(folder, name);
      const stat = OWN_NAME.test(name) ? fs.lstatSync(file, { throwIfNoEntry: false }) : undefined;
      if (stat?.isFile() && stat.mtimeMs < oldest) fs.rmSync(file, { force: true });
    }
  } catch {
    // The next run compiles again; half a file is of no use to it.
    try {
      fs.rmSync(part, { force: true });
    } catch {
      // What could not be written cannot always be removed.
    }
  }
}

/**
 * The exports of a CommonJS bundle. What it requires with `./` before its name is a bundle too.
 * @param {string} file absolute path of the bundle
 * @param {string} command the command that runs: each needs other parts of the program
 * @param {string | undefined} folder where compiled code is kept
 */
function load(file, command, folder) {
  const loader = vm.constants?.USE_MAIN_CONTEXT_DEFAULT_LOADER;
  if (folder === undefined || loader === undefined) return require(file);
  const known = require.cache[file];
  if (known) return known.exports;
  const source = fs.readFileSync(file);
  const cache = cacheOf(folder, file, command, source);
  // The build writes plain ASCII, which takes a third of the time that UTF-8 does.
  const script = new vm.Script(Module.wrap(source.toString(isAscii(source) ? "latin1" : "utf8")), {
    filename: file,
    cachedData: cache.data,
    importModuleDynamically: loader,
  });
  const loaded = new Module(file, module);
  loaded.filename = file;
  loaded.paths = module.paths;
  require.cache[file] = loaded;
  const requireFrom = (name) => (name.startsWith("./") ? load(path.join(path.dirname(file), name), command, folder) : loaded.require(name));
  script.runInThisContext().call(loaded.exports, loaded.exports, requireFrom, loaded, file, path.dirname(file));
  loaded.loaded = true;
  if (!cache.data || script.cachedDataRejected)
    process.on("exit", (code) => {
      if (code < 2) keep(cache, script, source);
    });
  return loaded.exports;
}

/**
 * Starts the program in a folder of its package.
 * @param {string} root absolute path of the package
 * @param {string[]} args the command line
 */
exports.start = function start(root, args) {
  const { code, readings } = cacheFolders(args);
  const program = path.join(root, "dist", "program.cjs");
  const { start: run } = load(program, args[0], code);
  const { size, mtimeMs } = fs.statSync(path.join(root, "dist", "core.cjs"));
  return run({ root, args, cache: readings && { folder: readings, build: `${size} ${mtimeMs}` } });
};
