// Which folder runs keep things in, and whether it can be trusted: what is kept there is run as code, or taken for what a project says.
"use strict";
const fs = require("node:fs");
const os = require("node:os");
const path = require("node:path");

/**
 * Whether this user has a home folder that can be used. In containers the user may be a mere number, which the system knows nothing of;
 * oclif asks for a home folder and a shell all the same, and is told some.
 */
function hasHome() {
  let known = true;
  try {
    fs.accessSync(os.homedir(), fs.constants.R_OK | fs.constants.X_OK);
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

/** The real path of the nearest folder above that exists, with the rest of the path behind it. */
function realPathOf(folder) {
  const missing = [];
  for (let at = folder; ; at = path.dirname(at)) {
    try {
      return path.join(fs.realpathSync.native(at), ...missing);
    } catch {
      if (path.dirname(at) === at) return folder;
      missing.unshift(path.basename(at));
    }
  }
}

const isWithin = (file, folder) => file === folder || file.startsWith(folder.endsWith(path.sep) ? folder : folder + path.sep);

/** The folder of the repository around a folder; the folder itself where there is none. */
function repositoryOf(folder) {
  for (let at = folder; ; at = path.dirname(at)) {
    if (fs.existsSync(path.join(at, ".git"))) return at;
    if (path.dirname(at) === at) return folder;
  }
}

/** What lies at a path, a link as a link; `undefined` where nothing does. */
function statOf(file) {
  try {
    return fs.lstatSync(file, { throwIfNoEntry: false });
  } catch {
    return undefined;
  }
}

/** Why a folder must not be used by this user; `undefined` when nothing speaks against it. It need not exist yet. */
function objection(folder, projects) {
  const real = realPathOf(folder);
  for (const project of projects) if (isWithin(real, project)) return "it lies inside the project";
  const user = process.getuid?.();
  for (let at = folder; ; at = path.dirname(at)) {
    const own = at === folder;
    const stat = statOf(own ? at : realPathOf(at));
    if (stat) {
      if (own && stat.isSymbolicLink()) return "it is a link";
      if (!stat.isDirectory()) return "it is not a folder";
      if (user !== undefined) {
        if (own && stat.uid !== user) return "it belongs to another user";
        // In a folder with the sticky bit nobody can replace what is another's; a group of one's own is common further up.
        if (stat.mode & (own ? 0o022 : 0o002) && (own || !(stat.mode & 0o1000))) return "other users can write to it";
        if (!own && stat.uid !== user && stat.uid !== 0) return "a folder above it belongs to another user";
      }
    }
    if (path.dirname(at) === at) return undefined;
  }
}

/** The folders that a command line is about: the current one and every argument that is one, with the repositories around them. */
function projectsOf(args) {
  const folders = new Set();
  for (const arg of [".", ...args.slice(1)]) {
    try {
      const real = fs.realpathSync.native(arg.replace(/^--[\w-]+=/, ""));
      if (real === os.homedir()) continue;
      if (fs.statSync(real).isDirectory()) folders.add(real).add(repositoryOf(real));
    } catch {
      // No folder of that name.
    }
  }
  // What stands at the top of the system is no project.
  return [...folders].filter((folder) => path.dirname(folder) !== folder);
}

/**
 * Where runs keep what later ones can use: compiled code and readings of projects, each in a folder of its own, as what is old in them is
 * removed; `undefined` where nothing is to be kept. ENREDO_CACHE names another folder, or is `off`.
 * @param {string[]} args the command line: nothing is kept inside the project that it is about, where whoever changes the project
 *   could leave code
 */
exports.cacheFolders = function cacheFolders(args) {
  const { ENREDO_CACHE: named, NODE_COMPILE_CACHE: code, NODE_DISABLE_COMPILE_CACHE: noCode } = process.env;
  const home = hasHome();
  if (named === "off" || (!home && !named)) return {};
  const base = named ? path.resolve(named) : require("env-paths")("enredo", { suffix: "" }).cache;
  const projects = projectsOf(args);
  const told = new Map();
  const usable = (folder, of) => {
    if (!told.has(of)) {
      const why = objection(of, projects) ?? (fs.existsSync(folder) ? objection(folder, projects) : undefined);
      told.set(of, why);
      if (why && !args.includes("--quiet")) process.stderr.write(`enredo: nothing is kept in ${JSON.stringify(of)}: ${why}\n`);
    }
    return told.get(of) ? undefined : folder;
  };
  const ownCode = noCode ? undefined : code ? path.resolve(code) : base;
  return {
    code: ownCode && usable(path.join(ownCode, code ? "enredo" : "compiled"), ownCode),
    readings: usable(path.join(base, "readings"), base),
  };
};

/** Makes a folder and those above it, as far as they are missing, for this user alone. */
exports.makeFolder = function makeFolder(folder) {
  const missing = [];
  for (let at = folder; !fs.existsSync(at) && path.dirname(at) !== at; at = path.dirname(at)) missing.unshift(at);
  // One by one: Node.js does not come back from `recursive` where the system refuses (below /proc).
  for (const at of missing)
    try {
      fs.mkdirSync(at, { mode: 0o700 });
    } catch (error) {
      if (error.code !== "EEXIST") throw error;
    }
};

/** The bytes of a regular file of at most `limit` bytes that is no link; `undefined` for anything else. */
exports.bytesOf = function bytesOf(file, limit) {
  let handle;
  try {
    const { O_RDONLY, O_NOFOLLOW = 0, O_NONBLOCK = 0 } = fs.constants;
    handle = fs.openSync(file, O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
    const stat = fs.fstatSync(handle);
    if (!stat.isFile() || stat.size > limit) return undefined;
    const bytes = Buffer.allocUnsafeSlow(stat.size);
    return fs.readSync(handle, bytes, 0, stat.size, 0) === stat.size ? bytes : undefined;
  } catch {
    return undefined;
  } finally {
    if (handle !== undefined) fs.closeSync(handle);
  }
};
