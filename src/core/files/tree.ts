/** An entry of a folder. A symbolic link is reported as what it points to, with `link` set. */
export interface TreeEntry {
  name: string;
  kind: "file" | "folder";
  link: boolean;
}

export type ReadResult = { ok: true; bytes: Uint8Array } | { ok: false; why: string };

/**
 * Where text comes from: a folder on disk, memory, and whatever else can list and read. Paths are relative to the root, with `/`,
 * without a leading `./`; the root itself is the empty text. Paths above the root start with `../`.
 */
export interface FileTree {
  /** How the root is named to people: an absolute path for a folder on disk. */
  readonly root: string;
  /** The path of the root inside whatever lies above it, with `/`: what folders above call it. Absent where nothing lies above. */
  readonly place?: string;
  /** The entries of a folder, sorted by name; an empty list when it cannot be read (`unreadable` then tells why). */
  list(folder: string): TreeEntry[];
  read(file: string): ReadResult;
  /** Some bytes of a file, whatever its size; fewer where it ends, `undefined` when it cannot be read. */
  part(file: string, start: number, length: number): Uint8Array | undefined;
  /** The size of a file in bytes; `undefined` where there is none. */
  size(file: string): number | undefined;
  isFile(path: string): boolean;
  isFolder(path: string): boolean;
  /** The path with links resolved, relative to the root; `undefined` when it does not exist. */
  realPath(path: string): string | undefined;
  /** Folders that could not be listed, and why. */
  readonly unreadable: Map<string, string>;
  /** What was asked for, lies outside of the project, and was therefore not read: path, and why. */
  readonly passedOver?: ReadonlyMap<string, string>;
}
