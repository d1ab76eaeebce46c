// Loads the program with the code that an earlier run compiled, where there is some: without it a good part of a
// short run goes into compiling. The program is two bundles: the commands with oclif, and the core, which a run that finds
// its project unchanged does without. Node.js has such a cache only from version 22 on, and there this one still saves about
// a quarter more, as it also keeps what is compiled in the course of a run. The variables are those of Node.js (its
// documentation, "Module compile cache"): NODE_DISABLE_COMPILE_CACHE=1 keeps nothing, NODE_COMPILE_CACHE=DIR names the folder.
"use strict";
const fs = require("node:fs");
const Module = require("node:module");
const os = require("node:os");
const path = require("node:path");
const v8 = require("node:v8");
const vm = require("node:vm");

/** Compiled code is removed after this many days, so that what other versions left does not pile up; what is still used is made anew. */
const KEPT_DAYS = 30;

/**
 * Whether this user has a home folder. In containers the user may be a mere number, which the system knows nothing of; oclif asks for a
 * home folder and a shell all the same, and is told some.
 */
function hasHome() {
  let known = true;
  try {
    os.homedir();
  } catch {
    known = false;
    process.env.HOME = os.tmpdir();
  }
  try {
    os.userInfo();
  } catch {
    process.env.SHELL ||= "/bin/sh";
  }
  return known;
}

/**
 * Where runs keep what later ones can use: compiled code and readings of projects, each in a folder of its own, as what is old in them is
 * removed; `undefined` where nothing is to be kept. ENREDO_CACHE names another folder, or is `off`.
 */
function cacheFolders() {
  const { ENREDO_CACHE: named, NODE_COMPILE_CACHE: code, NODE_DISABLE_COMPILE_CACHE: noCode } = process.env;
  // What others can write to is no place for code.
  const home = hasHome();
  const base = !home || named === "off" ? undefined : named ? path.resolve(named) : require("env-paths")("enredo", { suffix: "" }).cache;
  return {
    code: !home || noCode || named === "off" ? undefined : code ? path.join(code, "enredo") : path.join(base, "compiled"),
    readings: base && path.join(base, "readings"),
  };
}

/** Reads what an earlier run of the same command, program and Node.js left. */
function cacheOf(folder, file, command) {
  const { size, mtimeMs } = fs.statSync(file);
  const name = [command.slice(0, 20), path.basename(file, ".cjs"), size, Math.round(mtimeMs), process.version, process.arch]
    .join("-")
    .replace(/[^\w.-]/g, "_");
  const cache = { file: path.join(folder, `${name}.bin`), data: undefined };
  try {
    cache.data = fs.readFileSync(cache.file);
  } catch {
    // The first run; or the folder cannot be read.
  }
  return cache;
}

/** Leaves the compiled code for the next run; a folder that cannot be written is no fault. */
function keep(cache, script) {
  try {
    const folder = path.dirname(cache.file);
    fs.mkdirSync(folder, { recursive: true, mode: 0o700 });
    // Whole or not at all, also beside another run.
    const part = `${cache.file}.${process.pid}`;
    fs.writeFileSync(part, script.createCachedData(), { mode: 0o600 });
    fs.renameSync(part, cache.file);
    const oldest = Date.now() - KEPT_DAYS * 86_400_000;
    for (const name of fs.readdirSync(folder)) {
      const file = path.join(folder, name);
      if (/\.bin(\.\d+)?$/.test(name) && fs.statSync(file).mtimeMs < oldest) fs.rmSync(file, { force: true });
    }
  } catch {
    // The next run compiles again.
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
  const cache = cacheOf(folder, file, command);
  const script = new vm.Script(Module.wrap(fs.readFileSync(file, "utf8")), {
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
      if (code < 2) keep(cache, script);
    });
  return loaded.exports;
}

/**
 * Starts the program in a folder of its package.
 * @param {string} root absolute path of the package
 * @param {string[]} args the command line
 */
exports.start = function start(root, args) {
  // Compiled code holds only under the flags that it was made under, and the grammars need this one: V8's optimising
  // compiler takes seconds for some of them, its baseline compiler milliseconds.
  v8.setFlagsFromString("--liftoff-only");
  const { code, readings } = cacheFolders();
  const program = path.join(root, "dist", "program.cjs");
  const { start: run } = load(program, args[0], code);
  const { size, mtimeMs } = fs.statSync(path.join(root, "dist", "core.cjs"));
  return run({ root, args, cache: readings && { folder: readings, build: `${size} ${mtimeMs}` } });
};
