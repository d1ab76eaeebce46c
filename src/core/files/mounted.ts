import type { FileTree, ReadResult, TreeEntry } from "./tree.js";
import type { Reason } from "../model/reason.js";

/** A tree in which a folder of another one is seen, as if it lay there. */
export class MountedTree implements FileTree {
  readonly root: string;
  readonly place: string;
  readonly unreadable: Map<string, Reason>;
  readonly passedOver: ReadonlyMap<string, Reason>;
  /** Names of folders that only lead to the mounted one, by the folder that they are in. */
  private readonly steps = new Map<string, string>();

  /** @param at where the folder is seen: a path from the root */
  constructor(
    private readonly below: FileTree,
    private readonly at: string,
    private readonly guest: FileTree,
  ) {
    this.root = below.root;
    this.place = below.place ?? "";
    this.unreadable = below.unreadable;
    this.passedOver = below.passedOver ?? new Map();
    const parts = at.split("/");
    for (const [index, name] of parts.entries()) this.steps.set(parts.slice(0, index).join("/"), name);
  }

  /** The tree that has a path, and what the path is there. */
  private of(path: string): [tree: FileTree, path: string] {
    if (path === this.at) return [this.guest, ""];
    return path.startsWith(`${this.at}/`) ? [this.guest, path.slice(this.at.length + 1)] : [this.below, path];
  }

  list(folder: string): TreeEntry[] {
    const [tree, path] = this.of(folder);
    const entries = tree.list(path);
    const step = tree === this.below ? this.steps.get(folder) : undefined;
    if (step === undefined || entries.some(({ name }) => name === step)) return entries;
    const more: TreeEntry = { name: step, kind: "folder", link: false };
    return [...entries, more].sort((a, b) => (a.name < b.name ? -1 : 1));
  }

  read(file: string): ReadResult {
    const [tree, path] = this.of(file);
    return tree.read(path);
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const [tree, path] = this.of(file);
    return tree.part(path, start, length);
  }

  size(file: string): number | undefined {
    const [tree, path] = this.of(file);
    return tree.size(path);
  }

  isFile(file: string): boolean {
    const [tree, path] = this.of(file);
    return tree.isFile(path);
  }

  isFolder(folder: string): boolean {
    const [tree, path] = this.of(folder);
    return tree.isFolder(path) || (tree === this.below && this.steps.has(folder));
  }

  realPath(path: string): string | undefined {
    const [tree, inside] = this.of(path);
    if (tree === this.guest) return tree.isFile(inside) || tree.isFolder(inside) ? path : undefined;
    return tree.realPath(inside) ?? (this.isFolder(path) ? path : undefined);
  }
}
