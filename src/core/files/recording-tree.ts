import { createHash } from "node:crypto";
import type { DiskTree } from "./disk.js";
import type { FileTree, ReadResult, TreeEntry } from "./tree.js";

/**
 * A folder on disk that writes down what it is asked, in order, and what it answers, as a digest: whoever asks the same again and gets
 * the same digest has seen the same files.
 */
export class RecordingTree implements FileTree {
  /**
   * One letter for the kind of question, and the path: `l` entries of a folder, `r` bytes of a file, `n` bytes of a file that could not be
   * read, `b` some bytes, `s` size, `p` real path, `i` is it a file, `f` is it a folder.
   */
  readonly asks: string[] = [];
  private readonly hash = createHash("sha512-256");
  /** Answers that are texts, until there are enough of them for the digest. */
  private texts = "";
  private readonly asked = new Set<string>();
  /** The folder that was asked for last: questions come in runs. */
  private last: string | undefined;

  constructor(private readonly tree: DiskTree) {}

  get root(): string {
    return this.tree.root;
  }

  get place(): string {
    return this.tree.place;
  }

  get unreadable(): Map<string, string> {
    return this.tree.unreadable;
  }

  get passedOver(): ReadonlyMap<string, string> {
    return this.tree.passedOver;
  }

  /** Of all answers so far: 32 bytes. */
  digest(): Buffer {
    this.flush();
    return this.hash.copy().digest();
  }

  /** Asks what another run asked. An ask that cannot be understood is passed over: the digest will not fit. */
  askAgain(asks: readonly string[]): void {
    for (const ask of asks) {
      const path = ask.slice(1);
      // What was a file may be something by now whose bytes never end.
      const [, start, length, file = path] = ask.startsWith("b") ? (/^(\d+)\+(\d+):(.*)$/s.exec(path) ?? []) : [];
      if (/^[rnsb]/.test(ask) && !this.tree.isFile(file)) continue;
      if (ask.startsWith("l")) this.list(path);
      else if (ask.startsWith("r")) this.readAgain(path);
      else if (ask.startsWith("n")) this.read(path);
      else if (ask.startsWith("p")) this.realPath(path);
      else if (ask.startsWith("i")) this.isFile(path);
      else if (ask.startsWith("f")) this.isFolder(path);
      else if (ask.startsWith("s")) this.size(path);
      else if (ask.startsWith("b")) this.part(file, Number(start), Number(length));
    }
  }

  private isNew(ask: string): boolean {
    if (this.asked.has(ask)) return false;
    this.asked.add(ask);
    this.asks.push(ask);
    return true;
  }

  list(folder: string): TreeEntry[] {
    const entries = this.tree.list(folder);
    if (this.isNew(`l${folder}`)) {
      let text = this.tree.unreadable.get(folder) ?? "";
      for (const { name, kind, link } of entries) text += `\0${name}\0${kind}${link ? "+" : ""}`;
      this.note(text);
    }
    return entries;
  }

  read(file: string): ReadResult {
    const result = this.tree.read(file);
    if (this.isNew(`${result.ok ? "r" : "n"}${file}`)) {
      if (result.ok) this.noteBytes(result.bytes);
      else this.note(`\0${result.why}`);
    }
    return result;
  }

  /** The same answer by the fastest way there is, for a file that was text before. */
  private readAgain(file: string): void {
    const text = this.tree.text(file);
    // Where a sign stands for bytes that are no text, other bytes could have the same text.
    if (text === undefined || text.includes("\ufffd")) this.read(file);
    else if (this.isNew(`r${file}`)) this.note(text);
  }

  size(file: string): number | undefined {
    const size = this.tree.size(file);
    if (this.isNew(`s${file}`)) this.note(String(size));
    return size;
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const bytes = this.tree.part(file, start, length);
    if (this.isNew(`b${start}+${length}:${file}`)) {
      if (bytes) this.noteBytes(bytes);
      else this.note("\0");
    }
    return bytes;
  }

  realPath(path: string): string | undefined {
    const real = this.tree.realPath(path);
    if (this.isNew(`p${path}`)) this.note(real ?? "\0");
    return real;
  }

  isFile(path: string): boolean {
    const answer = this.tree.isFile(path);
    this.noteKind("i", path, answer);
    return answer;
  }

  isFolder(path: string): boolean {
    const answer = this.tree.isFolder(path);
    this.noteKind("f", path, answer);
    return answer;
  }

  /**
   * The tree answers what a path is from the listing of the folder above it. Above the root only the answer counts: folders there are
   * others' business, and change.
   */
  private noteKind(kind: "i" | "f", path: string, answer: boolean): void {
    if (path.startsWith("..")) {
      if (this.isNew(`${kind}${path}`)) this.note(String(answer));
      return;
    }
    const slash = path.lastIndexOf("/");
    const parent = slash === -1 ? "" : path.slice(0, slash);
    if (parent !== this.last && !this.asked.has(`l${parent}`)) this.list(parent);
    this.last = parent;
  }

  /** The length before the answer, in bytes, keeps answers apart. */
  private note(answer: string): void {
    this.texts += `${Buffer.byteLength(answer)}:${answer}`;
    if (this.texts.length > BLOCK) this.flush();
  }

  private noteBytes(answer: Uint8Array): void {
    this.texts += `${answer.length}:`;
    this.flush();
    this.hash.update(answer);
  }

  private flush(): void {
    this.hash.update(this.texts);
    this.texts = "";
  }
}

/** Enough text for one step of the digest, in UTF-16 units. */
const BLOCK = 65_536;
