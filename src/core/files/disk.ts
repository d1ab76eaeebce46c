import {
  closeSync,
  constants,
  existsSync,
  fstatSync,
  lstatSync,
  openSync,
  readSync,
  readdirSync,
  realpathSync,
  statSync,
  type Stats,
} from "node:fs";
import path from "node:path";
import type { FileTree, ReadResult, TreeEntry } from "./tree.js";
import { reason, type Reason } from "../model/reason.js";

/** Files above this size (in bytes) are not read: no build file is as large. */
export const MAX_FILE_SIZE = 24 * 1024 * 1024;

/**
 * Folders in which package managers lay down packages, by the names that their paths have. What lies in one may be read wherever it is: it
 * is an installed package, never the project's own.
 */
const PACKAGE_STORE = new RegExp(
  `(?:^|/)(?:${[
    "node_modules",
    "\\.pnpm(?:-store)?",
    "\\.yarn",
    "\\.bun",
    "\\.pub-cache",
    "Pub/Cache",
    "hosted/[^/]+/\\w+-\\d[^/]*",
    "\\.gradle",
    "\\.cocoapods",
    "\\.nuget",
    "packages/(?:flutter\\w*|integration_test)",
  ].join("|")})(?:/|$)`,
);

/** Where package managers put a link to each package that lies elsewhere (a checkout beside the project, a store of the machine). */
const LINKS_TO_PACKAGES = /(?:^|\/)(?:node_modules(?:\/@[^/]+)?|\.symlinks\/plugins|\.plugin_symlinks)$/;

/** Why something was passed over. */
const OUTSIDE = reason("points-outside");

/**
 * A folder on disk. Its files are those below the real root of its repository (of the folder itself where there is none): what a link or a
 * path leads to outside of it is not there, and told in `passedOver`. Installed packages are the exception, wherever their store is.
 */
export class DiskTree implements FileTree {
  readonly root: string;
  readonly unreadable = new Map<string, Reason>();
  readonly passedOver = new Map<string, Reason>();
  private readonly lists = new Map<string, TreeEntry[]>();
  /** For each folder the real folder in which its links may lead about; `null` where nothing is read. */
  private readonly homes = new Map<string, string | null>();
  private repository: string | undefined;
  private real: string | undefined;

  /** @param stores folders outside of the project in which fetched packages lie: what is in them may be read (absolute paths) */
  constructor(
    root: string,
    private readonly stores: readonly string[] = [],
  ) {
    this.root = path.resolve(root);
  }

  private isStore(real: string): boolean {
    return PACKAGE_STORE.test(slashed(real)) || this.stores.some((store) => within(real, realFolder(store) ?? store));
  }

  get place(): string {
    return slashed(realFolder(this.root) ?? this.root);
  }

  private full(relative: string): string {
    if (relative === "") return this.root;
    // Nothing has to be changed in a path where the separator is the same.
    return path.sep === "/" ? `${this.root}/${relative}` : path.join(this.root, relative);
  }

  /** The real folder of the repository that the root lies in, or of the workspace of packages; the root's own where there is neither. */
  private boundary(): string {
    return (this.repository ??= boundaryOf(realFolder(this.root) ?? this.root));
  }

  private home(folder: string): string | null {
    const known = this.homes.get(folder);
    if (known !== undefined) return known;
    let home: string | null;
    if (folder === "") home = this.boundary();
    else if (folder === ".." || folder.startsWith("../")) home = this.homeAbove(folder);
    else {
      const slash = folder.lastIndexOf("/");
      const parent = slash === -1 ? "" : folder.slice(0, slash);
      const above = this.home(parent);
      // Listing the folder above sets the homes of the links in it.
      const entry = above === null ? undefined : this.entry(folder);
      home = entry?.link ? (this.homes.get(folder) ?? null) : entry ? above : null;
    }
    this.homes.set(folder, home);
    return home;
  }

  /** Of a folder that is reached by steps up from the root. */
  private homeAbove(folder: string): string | null {
    const real = realFolder(this.full(folder));
    if (real === undefined) return null;
    if (within(real, this.boundary())) return this.boundary();
    if (this.isStore(real)) return real;
    if (!/^[./]+$/.test(folder)) this.passedOver.set(folder, OUTSIDE);
    return null;
  }

  /** What a link in a folder is to this tree; nothing when it points nowhere, in a circle, or out. */
  private linked(folder: string, name: string, home: string): TreeEntry | undefined {
    const relative = folder === "" ? name : `${folder}/${name}`;
    const full = this.full(relative);
    const stat = target(full);
    const kind = stat?.isFile() ? "file" : stat?.isDirectory() ? "folder" : undefined;
    const real = kind && realFolder(full);
    if (!kind || real === undefined) return undefined;
    let to = within(real, this.boundary()) ? this.boundary() : within(real, home) ? home : this.isStore(real) ? real : undefined;
    if (kind === "folder" && (LINKS_TO_PACKAGES.test(folder) || (name === "node_modules" && home === this.boundary()))) to ??= real;
    if (to === undefined) {
      this.passedOver.set(relative, OUTSIDE);
      return undefined;
    }
    if (kind === "folder") this.homes.set(relative, to);
    return { name, kind, link: true };
  }

  list(folder: string): TreeEntry[] {
    const cached = this.lists.get(folder);
    if (cached) return cached;
    const entries: TreeEntry[] = [];
    this.lists.set(folder, entries);
    const home = this.home(folder);
    try {
      if (home !== null)
        for (const item of readdirSync(this.full(folder), { withFileTypes: true })) {
          if (item.isFile()) entries.push({ name: item.name, kind: "file", link: false });
          else if (item.isDirectory()) entries.push({ name: item.name, kind: "folder", link: false });
          else if (item.isSymbolicLink()) {
            const entry = this.linked(folder, item.name, home);
            if (entry) entries.push(entry);
          }
        }
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code !== "ENOENT" && code !== "ENOTDIR") this.unreadable.set(folder, refused(code));
    }
    entries.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
    return entries;
  }

  /** @param room where the bytes are written, which are as many as the system says that the file has */
  read(file: string, room?: (size: number) => Buffer): ReadResult {
    return this.isFile(file) ? readRegular(this.full(file), MAX_FILE_SIZE, { room }) : { ok: false, why: refused("ENOENT") };
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const read = this.isFile(file) ? readRegular(this.full(file), Infinity, { start, most: length }) : undefined;
    return read?.ok ? read.bytes : undefined;
  }

  size(file: string): number | undefined {
    const stat = this.isFile(file) ? target(this.full(file)) : undefined;
    return stat?.isFile() ? stat.size : undefined;
  }

  isFile(relative: string): boolean {
    return this.entry(relative)?.kind === "file";
  }

  isFolder(relative: string): boolean {
    return relative === "" || this.entry(relative)?.kind === "folder";
  }

  /** Asks the listing of the parent: one call for many questions, and exact about the case of names on every system. */
  private entry(relative: string): TreeEntry | undefined {
    const slash = relative.lastIndexOf("/");
    const folder = slash === -1 ? "" : relative.slice(0, slash);
    const name = relative.slice(slash + 1);
    if (name === "..")
      return lstatSync(this.full(relative), { throwIfNoEntry: false })?.isDirectory() ? { name, kind: "folder", link: false } : undefined;
    return named(this.list(folder), name);
  }

  realPath(relative: string): string | undefined {
    const real = realFolder(this.full(relative));
    const root = (this.real ??= realFolder(this.root));
    if (real === undefined || root === undefined) return undefined;
    return slashed(real.startsWith(root + path.sep) ? real.slice(root.length + 1) : path.relative(root, real));
  }
}

/**
 * The bytes of a regular file: as many as the system says that it has, whatever it would go on to give. A file that has no size (below
 * /proc) is empty; what is no file (a device, a pipe) is not opened for long.
 * @param limit the largest size that is read, in bytes
 * @param noLink a link is not followed
 * @param start the first byte that is wanted
 * @param most how many bytes from there are wanted
 * @param room where they are written
 */
export function readRegular(
  file: string,
  limit: number,
  {
    noLink = false,
    start = 0,
    most = Infinity,
    room = (size) => Buffer.allocUnsafeSlow(size),
  }: { noLink?: boolean; start?: number; most?: number; room?: ((size: number) => Buffer) | undefined } = {},
): { ok: true; bytes: Buffer } | { ok: false; why: Reason } {
  let handle: number | undefined;
  try {
    handle = openSync(file, constants.O_RDONLY | NONBLOCK | (noLink ? NOFOLLOW : 0));
    const stat = fstatSync(handle);
    if (!stat.isFile()) return { ok: false, why: stat.isDirectory() ? refused("EISDIR") : reason("not-regular-file") };
    if (stat.size > limit) return { ok: false, why: reason("larger-than", { size: Math.round(limit / 1024 / 1024) }) };
    const size = Math.max(0, Math.min(stat.size - start, most));
    const bytes = room(size);
    let length = 0;
    while (length < size) {
      const read = readSync(handle, bytes, length, size - length, start + length);
      if (read === 0) break;
      length += read;
    }
    return { ok: true, bytes: length === size ? bytes : bytes.subarray(0, length) };
  } catch (error) {
    return { ok: false, why: refused((error as NodeJS.ErrnoException).code) };
  } finally {
    if (handle !== undefined) closeSync(handle);
  }
}

/** Not everywhere there: Windows has neither. */
const { O_NONBLOCK: NONBLOCK = 0, O_NOFOLLOW: NOFOLLOW = 0 } = constants as Partial<typeof constants>;

function boundaryOf(folder: string): string {
  let workspace: string | undefined;
  for (let at = folder, depth = 0; path.dirname(at) !== at && depth < 24; at = path.dirname(at), depth++) {
    if (existsSync(path.join(at, ".git"))) return at;
    if (depth > 0 && depth < 5 && WORKSPACES.some(([file, mark]) => mark.test(headOf(path.join(at, file)) ?? ""))) workspace ??= at;
  }
  return workspace ?? folder;
}

/**
 * What makes a folder the root of a workspace of packages. Sources: docs.npmjs.com and yarnpkg.com, "Workspaces"; pnpm.io,
 * "pnpm-workspace.yaml"; dart.dev, "Pub workspaces".
 */
const WORKSPACES: readonly (readonly [file: string, mark: RegExp])[] = [
  ["pnpm-workspace.yaml", /\S/],
  ["package.json", /"workspaces"\s*:/],
  ["pubspec.yaml", /^workspace\s*:/m],
];

/** The start of a file as text; `undefined` where there is none. */
function headOf(file: string): string | undefined {
  const read = readRegular(file, Infinity, { most: 65_536 });
  return read.ok ? read.bytes.toString("utf8") : undefined;
}

/** The entry of this name in a listing, which is sorted. */
function named(entries: readonly TreeEntry[], name: string): TreeEntry | undefined {
  let from = 0;
  let to = entries.length;
  while (from < to) {
    const middle = (from + to) >>> 1;
    const entry = entries[middle] as TreeEntry;
    if (entry.name === name) return entry;
    if (entry.name < name) from = middle + 1;
    else to = middle;
  }
  return undefined;
}

/** What a link points to; nothing when it points nowhere or in a circle. */
function target(link: string): Stats | undefined {
  try {
    return statSync(link, { throwIfNoEntry: false });
  } catch {
    return undefined;
  }
}

function realFolder(full: string): string | undefined {
  try {
    return realpathSync.native(full);
  } catch {
    return undefined;
  }
}

function within(file: string, folder: string): boolean {
  return file === folder || file.startsWith(folder.endsWith(path.sep) ? folder : folder + path.sep);
}

function slashed(file: string): string {
  return path.sep === "/" ? file : file.split(path.sep).join("/");
}

function refused(code: string | undefined): Reason {
  switch (code) {
    case "EACCES":
    case "EPERM":
      return reason("no-permission");
    case "ELOOP":
      return reason("links-in-loop");
    case "ENOENT":
      return reason("file-absent");
    case "EISDIR":
      return reason("is-folder");
    default:
      return code === undefined ? reason("system-refuses") : reason("system-says", { code });
  }
}
