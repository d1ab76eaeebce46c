import type { FileTree, ReadResult, TreeEntry } from "./tree.js";
import type { Reason } from "../model/reason.js";

/** A tree with other texts in place of some of its files. */
export class OverlayTree implements FileTree {
  readonly root: string;
  readonly place: string;
  readonly unreadable: Map<string, Reason>;
  readonly passedOver: ReadonlyMap<string, Reason>;

  constructor(
    private readonly below: FileTree,
    private readonly texts: ReadonlyMap<string, string>,
  ) {
    this.root = below.root;
    this.place = below.place ?? "";
    this.unreadable = below.unreadable;
    this.passedOver = below.passedOver ?? new Map();
  }

  /** Also of a link to a file with another text. */
  private textOf(file: string): string | undefined {
    return this.texts.get(file) ?? this.texts.get(this.below.realPath(file) ?? file);
  }

  list(folder: string): TreeEntry[] {
    return this.below.list(folder);
  }

  read(file: string): ReadResult {
    const text = this.textOf(file);
    return text === undefined ? this.below.read(file) : { ok: true, bytes: Buffer.from(text, "utf8") };
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const text = this.textOf(file);
    return text === undefined ? this.below.part(file, start, length) : Buffer.from(text, "utf8").subarray(start, start + length);
  }

  size(file: string): number | undefined {
    const text = this.textOf(file);
    return text === undefined ? this.below.size(file) : Buffer.byteLength(text);
  }

  isFile(path: string): boolean {
    return this.below.isFile(path);
  }

  isFolder(path: string): boolean {
    return this.below.isFolder(path);
  }

  realPath(path: string): string | undefined {
    return this.below.realPath(path);
  }
}
