import { createHash } from "node:crypto";
import type { DiskTree } from "./disk.js";
import { MARK, WHOLE_ARCHIVE, type AskLog, type LoggedTree, type ReadResult, type TreeEntry } from "./tree.js";

/**
 * A folder on disk that writes down what it is asked, in order, and what it answers, as a digest: whoever asks the same again and gets
 * the same digest has seen the same files.
 */
export class RecordingTree implements LoggedTree, AskLog {
  /**
   * One letter for the kind of question, and the path: `l` entries of a folder, `r` bytes of a file, `n` bytes of a file that could not be
   * read, `b` some bytes, `s` size, `p` real path, `i` is it a file, `f` is it a folder.
   */
  readonly asks: string[] = [];
  private readonly stream = new DigestStream();
  private readonly asked = new Set<string>();
  private readonly lengths = new Map<string, number>();
  /** The folder that was asked for last: questions come in runs. */
  private last: string | undefined;
  /** Each answer by its ask, short ones as they are: for those who rest on some of them. */
  private readonly answers: Map<string, string> | undefined;
  /** How much more is left to the next tree, in bytes. */
  private left = MOST_HANDED_ON;
  /** What is asked while something is worked out, the innermost last. */
  private readonly logs: Set<string>[] = [];
  /** Asks about sizes and parts of files, by file: whoever looks into an archive rests on what was read of it. */
  private readonly parts = new Map<string, string[]>();

  /**
   * @param detailed whether the answers are told apart, for `logged` and `digestOf`
   * @param justRead files that this run has read: a tree that only looks what changed leaves them to the next, which so does not read them once more
   */
  constructor(
    private readonly tree: DiskTree,
    detailed = false,
    private readonly justRead = new Map<string, ReadResult & { ok: true }>(),
  ) {
    if (detailed) this.answers = new Map();
  }

  get log(): AskLog | undefined {
    return this.answers && this;
  }

  logged<T>(work: () => T): { value: T; asks: string[] } {
    const log = new Set<string>();
    this.logs.push(log);
    try {
      const value = work();
      return { value, asks: [...log].flatMap((ask) => (ask.startsWith(WHOLE_ARCHIVE) ? this.asksOfArchive(ask.slice(1)) : [ask])) };
    } finally {
      this.logs.pop();
      this.again(log);
    }
  }

  again(asks: Iterable<string>): void {
    const log = this.logs.at(-1);
    if (log) for (const ask of asks) log.add(ask);
  }

  /** All that was read of an archive so far, and the listing that it stands in. */
  private asksOfArchive(file: string): string[] {
    const slash = file.lastIndexOf("/");
    return [...(file.startsWith("..") ? [`i${file}`] : [`l${slash === -1 ? "" : file.slice(0, slash)}`]), ...(this.parts.get(file) ?? [])];
  }

  /** 32 bytes; what was not asked yet in this run is. */
  digestOf(asks: Iterable<string>): Buffer | undefined {
    const hash = createHash("sha512-256");
    let text = "";
    for (const ask of asks) {
      if (ask.startsWith(MARK)) continue;
      if (!this.answers?.has(ask)) this.askUnseen(ask);
      const answer = this.answers?.get(ask);
      if (answer === undefined) return undefined;
      text += `${ask}\0${answer}\n`;
      if (text.length > BLOCK) {
        hash.update(text);
        text = "";
      }
    }
    return hash.update(text).digest();
  }

  /** Asks again for whoever compares, and for no work that is being done: that rests on what is compared only where it takes it over. */
  private askUnseen(ask: string): void {
    this.logs.push(new Set());
    try {
      this.askAgain([ask]);
    } finally {
      this.logs.pop();
    }
  }

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
    return this.stream.digest();
  }

  /** The asks so far as they are written down: with the length of what was read, in bytes. */
  get written(): string[] {
    return this.asks.map((ask) => (this.lengths.has(ask) ? `${ask}\t${this.lengths.get(ask)}` : ask));
  }

  /** Files whose length is not what it was when the asks were written down that were asked again. */
  readonly changed: string[] = [];

  /** Asks what another run asked. An ask that cannot be understood is passed over: the digest will not fit. */
  askAgain(asks: readonly string[]): void {
    for (const written of asks) {
      const tab = written.startsWith("r") ? written.lastIndexOf("\t") : -1;
      const ask = tab === -1 ? written : written.slice(0, tab);
      const path = ask.slice(1);
      // What was a file may be something by now whose bytes never end.
      const [, start, length, file = path] = ask.startsWith("b") ? (/^(\d+)\+(\d+):(.*)$/s.exec(path) ?? []) : [];
      if (/^[nsb]/.test(ask) && !this.tree.isFile(file)) continue;
      if (tab !== -1) {
        this.read(path);
        if (this.lengths.get(ask) !== Number(written.slice(tab + 1))) this.changed.push(path);
      } else if (ask.startsWith("l")) this.list(path);
      else if (ask.startsWith("r") || ask.startsWith("n")) this.read(path);
      else if (ask.startsWith("p")) this.realPath(path);
      else if (ask.startsWith("i")) this.isFile(path);
      else if (ask.startsWith("f")) this.isFolder(path);
      else if (ask.startsWith("s")) this.size(path);
      else if (ask.startsWith("b")) this.part(file, Number(start), Number(length));
    }
  }

  private isNew(ask: string): boolean {
    this.logs.at(-1)?.add(ask);
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
      this.note(`l${folder}`, text);
    }
    return entries;
  }

  read(file: string): ReadResult {
    // Of what is no file only that counts, which the listing of the folder above it tells.
    if (!this.isFile(file)) return this.tree.read(file);
    const result = this.justRead.get(file) ?? this.tree.read(file);
    const ask = `${result.ok ? "r" : "n"}${file}`;
    if (this.isNew(ask)) {
      if (result.ok) {
        this.lengths.set(ask, result.bytes.length);
        this.stream.add(result.bytes);
        this.answers?.set(ask, digestOf(result.bytes));
        this.handOn(file, result);
      } else this.note(ask, `\0${result.why}`);
    }
    return result;
  }

  private handOn(file: string, result: ReadResult & { ok: true }): void {
    if (this.answers || this.left < result.bytes.length) return;
    this.left -= result.bytes.length;
    this.justRead.set(file, result);
  }

  size(file: string): number | undefined {
    if (!this.isFile(file)) return undefined;
    const size = this.tree.size(file);
    const ask = `s${file}`;
    if (this.isNew(ask)) {
      this.notePart(file, ask);
      this.note(ask, String(size));
    }
    return size;
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    if (!this.isFile(file)) return undefined;
    const bytes = this.tree.part(file, start, length);
    const ask = `b${start}+${length}:${file}`;
    if (this.isNew(ask)) {
      this.notePart(file, ask);
      // Of archives much is read: it goes through a digest once.
      this.note(ask, bytes ? digestOf(bytes) : "\0");
    }
    return bytes;
  }

  private notePart(file: string, ask: string): void {
    const asks = this.parts.get(file);
    if (asks) asks.push(ask);
    else this.parts.set(file, [ask]);
  }

  realPath(path: string): string | undefined {
    const real = this.tree.realPath(path);
    if (this.isNew(`p${path}`)) this.note(`p${path}`, real ?? "\0");
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
      if (this.isNew(`${kind}${path}`)) this.note(`${kind}${path}`, String(answer));
      return;
    }
    const slash = path.lastIndexOf("/");
    const parent = slash === -1 ? "" : path.slice(0, slash);
    this.logs.at(-1)?.add(`l${parent}`);
    if (parent !== this.last && !this.asked.has(`l${parent}`)) this.list(parent);
    this.last = parent;
  }

  private note(ask: string, answer: string): void {
    this.stream.add(answer);
    this.answers?.set(ask, answer.length <= SHORT ? answer : digestOf(answer));
  }
}

/** Digests many short answers in few steps; the length of each, in bytes, stands before it and keeps it apart from the next. */
class DigestStream {
  private readonly hash = createHash("sha512-256");
  private readonly block = Buffer.allocUnsafeSlow(BLOCK);
  private used = 0;

  add(answer: string | Uint8Array): void {
    const length = typeof answer === "string" ? Buffer.byteLength(answer) : answer.length;
    this.write(`${length}:`, 20);
    this.write(answer, length);
  }

  /** 32 bytes, of all so far. */
  digest(): Buffer {
    this.flush();
    return this.hash.copy().digest();
  }

  /** @param most how many bytes it takes at most */
  private write(part: string | Uint8Array, most: number): void {
    if (this.used + most > BLOCK) this.flush();
    if (most > BLOCK) this.hash.update(part);
    else if (typeof part === "string") this.used += this.block.write(part, this.used);
    else {
      this.block.set(part, this.used);
      this.used += part.length;
    }
  }

  private flush(): void {
    this.hash.update(this.block.subarray(0, this.used));
    this.used = 0;
  }
}

/** So much is handed on at most, in bytes. */
const MOST_HANDED_ON = 32 * 1024 * 1024;

/** Enough for one step of the digest: UTF-16 units of a text, bytes of a stream. */
const BLOCK = 65_536;

/** An answer of this many UTF-16 units is no longer than its digest. */
const SHORT = 44;

/** No short answer is as long. */
function digestOf(answer: string | Uint8Array): string {
  return `${createHash("sha512-256").update(answer).digest("base64")}#`;
}
