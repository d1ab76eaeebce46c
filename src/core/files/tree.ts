import type { Reason } from "../model/reason.js";
/** An entry of a folder. A symbolic link is reported as what it points to, with `link` set. */
export interface TreeEntry {
  name: string;
  kind: "file" | "folder";
  link: boolean;
}

export type ReadResult = { ok: true; bytes: Uint8Array } | { ok: false; why: Reason };

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
  readonly unreadable: Map<string, Reason>;
  /** What was asked for, lies outside of the project, and was therefore not read: path, and why. */
  readonly passedOver?: ReadonlyMap<string, Reason>;
}

/** A tree that may know what it is asked, and so can tell what some work rests on. */
export interface LoggedTree extends FileTree {
  readonly log?: AskLog | undefined;
}

/** Begins an ask that stands for all that was read of an archive. */
export const WHOLE_ARCHIVE = "a";

/** Begins a mark among asks that is none: it says something of the work that was done. */
export const MARK = "\0";

/** What is asked of a tree while something is worked out. An ask is a text: what is asked, and the path. */
export interface AskLog {
  /** Does some work; its asks are those that were made meanwhile, each once, in order. Work in work is part of it. */
  logged<T>(work: () => T): { value: T; asks: string[] };
  /** Stands for what is answered to some asks; `undefined` where one is answered otherwise in kind. */
  digestOf(asks: Iterable<string>): Buffer | undefined;
  /** What is worked out now rests on these asks too, whose answers are known from before. */
  again(asks: Iterable<string>): void;
}

/**
 * What was made of files and is kept between runs. A kept value is given back where all that was asked for it is answered as it was then, and all
 * else that it rests on (`inputs`) is the same. Values are plain data.
 */
export interface KeptValues {
  /** Whether an earlier run kept something. */
  readonly any: boolean;
  /** The value with the asks that it rests on, and what stands for both; `undefined` where there is none that holds. */
  open(name: string, inputs: readonly string[]): { value: unknown; asks: readonly string[]; key: string } | undefined;
  /**
   * Keeps a value; it is written after the answer of this run is out. Gives what stands for all that it rests on.
   * @param made `inner` are values that were opened or kept while it was made (`within`): as long as it holds they are kept as well
   */
  keep(
    name: string,
    inputs: readonly string[],
    made: { value: unknown; asks: readonly string[]; inner: readonly string[] },
  ): string | undefined;
  /** Does some work, and tells which values were asked for meanwhile. */
  within<T>(work: () => T): { value: T; inner: readonly string[] };
}
