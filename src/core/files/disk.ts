import {
  closeSync,
  fstatSync,
  lstatSync,
  openSync,
  readSync,
  readdirSync,
  readFileSync,
  realpathSync,
  statSync,
  type Stats,
} from "node:fs";
import path from "node:path";
import type { FileTree, ReadResult, TreeEntry } from "./tree.js";

/** Files above this size (in bytes) are not read: no build file is as large. */
export const MAX_FILE_SIZE = 24 * 1024 * 1024;

/** A folder on disk. */
export class DiskTree implements FileTree {
  readonly root: string;
  readonly unreadable = new Map<string, string>();
  private readonly lists = new Map<string, TreeEntry[]>();
  private readonly names = new Map<string, Map<string, TreeEntry>>();

  constructor(root: string) {
    this.root = path.resolve(root);
  }

  private full(relative: string): string {
    if (relative === "") return this.root;
    // Nothing has to be changed in a path where the separator is the same.
    return path.sep === "/" ? `${this.root}/${relative}` : path.join(this.root, relative);
  }

  list(folder: string): TreeEntry[] {
    const cached = this.lists.get(folder);
    if (cached) return cached;
    const entries: TreeEntry[] = [];
    try {
      for (const item of readdirSync(this.full(folder), { withFileTypes: true })) {
        if (item.isFile()) entries.push({ name: item.name, kind: "file", link: false });
        else if (item.isDirectory()) entries.push({ name: item.name, kind: "folder", link: false });
        else if (item.isSymbolicLink()) {
          const target = this.target(path.join(this.full(folder), item.name));
          if (target?.isFile()) entries.push({ name: item.name, kind: "file", link: true });
          else if (target?.isDirectory()) entries.push({ name: item.name, kind: "folder", link: true });
        }
      }
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code !== "ENOENT" && code !== "ENOTDIR") this.unreadable.set(folder, reason(code));
    }
    entries.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
    this.lists.set(folder, entries);
    return entries;
  }

  /** What a link points to; nothing when it points nowhere or in a circle. */
  private target(link: string): Stats | undefined {
    try {
      return statSync(link, { throwIfNoEntry: false });
    } catch {
      return undefined;
    }
  }

  read(file: string): ReadResult {
    let handle: number | undefined;
    try {
      handle = openSync(this.full(file), "r");
      const { size } = fstatSync(handle);
      if (size > MAX_FILE_SIZE) return { ok: false, why: `it is larger than ${MAX_FILE_SIZE / 1024 / 1024} MB` };
      // Few calls for the many small files; what grows or has no size beforehand is read to its end.
      const bytes = Buffer.allocUnsafeSlow(size);
      const length = size === 0 ? 0 : readSync(handle, bytes, 0, size, 0);
      return { ok: true, bytes: length === size && size > 0 ? bytes : readFileSync(handle) };
    } catch (error) {
      return { ok: false, why: reason((error as NodeJS.ErrnoException).code) };
    } finally {
      if (handle !== undefined) closeSync(handle);
    }
  }

  /** A file as UTF-8 text, read in one step; `undefined` when it cannot be read. */
  text(file: string): string | undefined {
    try {
      return readFileSync(this.full(file), "utf8");
    } catch {
      return undefined;
    }
  }

  head(file: string, length: number): Uint8Array | undefined {
    let handle: number | undefined;
    try {
      handle = openSync(this.full(file), "r");
      const buffer = Buffer.alloc(length);
      return buffer.subarray(0, readSync(handle, buffer, 0, length, 0));
    } catch {
      return undefined;
    } finally {
      if (handle !== undefined) closeSync(handle);
    }
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
    let names = this.names.get(folder);
    if (!names) {
      names = new Map(this.list(folder).map((entry) => [entry.name, entry]));
      this.names.set(folder, names);
    }
    return names.get(name);
  }

  realPath(relative: string): string | undefined {
    try {
      const real = realpathSync(this.full(relative));
      return path.relative(realpathSync(this.root), real).split(path.sep).join("/");
    } catch {
      return undefined;
    }
  }
}

function reason(code: string | undefined): string {
  switch (code) {
    case "EACCES":
    case "EPERM":
      return "there is no permission to read it";
    case "ELOOP":
      return "its links go in a circle";
    case "ENOENT":
      return "it does not exist";
    case "EISDIR":
      return "it is a folder";
    default:
      return `the system says ${code ?? "it cannot be read"}`;
  }
}
