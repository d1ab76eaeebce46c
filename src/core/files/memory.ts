import type { FileTree, ReadResult, TreeEntry } from "./tree.js";
import { parentOf, baseName } from "../model/paths.js";
import { reason, type Reason } from "../model/reason.js";

/** Files held in memory: path → text or bytes. For tests, and for other programs that hold a project in memory. */
export class MemoryTree implements FileTree {
  readonly root: string;
  readonly unreadable = new Map<string, Reason>();
  private readonly files: Map<string, string | Uint8Array>;
  private readonly folders = new Map<string, Map<string, TreeEntry>>([["", new Map()]]);

  constructor(files: Readonly<Record<string, string | Uint8Array>>, root = "/memory") {
    this.root = root;
    this.files = new Map(Object.entries(files));
    for (const file of this.files.keys()) this.add(file, "file");
  }

  private add(path: string, kind: TreeEntry["kind"]): void {
    if (path === "") return;
    const parent = parentOf(path);
    if (!this.folders.has(parent)) {
      this.folders.set(parent, new Map());
      this.add(parent, "folder");
    }
    this.folders.get(parent)?.set(baseName(path), { name: baseName(path), kind, link: false });
  }

  list(folder: string): TreeEntry[] {
    return [...(this.folders.get(folder)?.values() ?? [])].sort((a, b) => (a.name < b.name ? -1 : 1));
  }

  read(file: string): ReadResult {
    const text = this.files.get(file);
    return text === undefined ? { ok: false, why: reason("file-absent") } : { ok: true, bytes: Buffer.from(text) };
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const text = this.files.get(file);
    return text === undefined ? undefined : Buffer.from(text).subarray(start, start + length);
  }

  size(file: string): number | undefined {
    const text = this.files.get(file);
    return text === undefined ? undefined : Buffer.byteLength(text);
  }

  isFile(path: string): boolean {
    return this.files.has(path);
  }

  isFolder(path: string): boolean {
    return this.folders.has(path);
  }

  realPath(path: string): string | undefined {
    return this.isFile(path) || this.isFolder(path) ? path : undefined;
  }
}
