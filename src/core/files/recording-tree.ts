import { createHash } from "node:crypto";
import type { DiskTree } from "./disk.js";
import { MARK, WHOLE_ARCHIVE, type AskLog, type FileTree, type LoggedTree, type ReadResult, type TreeEntry } from "./tree.js";
import { reasonText, type Reason } from "../model/reason.js";

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
  private readonly answers = new Map<string, string>();
  /** What is asked while something is worked out, the innermost last. */
  private readonly logs: Set<string>[] = [];
  /** Asks about sizes and parts of files, by file: whoever looks into an archive rests on what was read of it. */
  private readonly parts = new Map<string, string[]>();

  /** @param justRead files that this run has read already, to see whether they changed */
  constructor(
    private readonly tree: DiskTree,
    private readonly justRead: ReadonlyMap<string, ReadResult & { ok: true }> = new Map(),
  ) {}

  get log(): AskLog {
    return this;
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
      if (!this.answers.has(ask)) this.askUnseen(ask);
      const answer = this.answers.get(ask);
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
      this.ask(ask);
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

  get unreadable(): Map<string, Reason> {
    return this.tree.unreadable;
  }

  get passedOver(): ReadonlyMap<string, Reason> {
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

  /** Asks what another run asked. An ask that cannot be understood is passed over: there is no answer to it. */
  private ask(ask: string): void {
    const path = ask.slice(1);
    const { file, start, length } = partOf(ask) ?? { file: path, start: 0, length: 0 };
    // What was a file may be something by now whose bytes never end.
    if (/^[nsb]/.test(ask) && !this.tree.isFile(file)) return;
    if (ask.startsWith("l")) this.list(path);
    else if (ask.startsWith("r") || ask.startsWith("n")) this.read(path);
    else if (ask.startsWith("p")) this.realPath(path);
    else if (ask.startsWith("i")) this.isFile(path);
    else if (ask.startsWith("f")) this.isFolder(path);
    else if (ask.startsWith("s")) this.size(path);
    else if (ask.startsWith("b")) this.part(file, start, length);
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
    if (this.isNew(`l${folder}`)) this.note(`l${folder}`, listing(this.tree, folder));
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
        this.answers.set(ask, digestOf(result.bytes));
      } else this.note(ask, refusal(result.why));
    }
    return result;
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
      this.note(ask, bytes ? digestOf(bytes) : NOTHING);
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
    if (this.isNew(`p${path}`)) this.note(`p${path}`, real ?? NOTHING);
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
    this.answers.set(ask, answer.length <= SHORT ? answer : digestOf(answer));
  }
}

/** What a tree answers to what another run asked of it. */
export interface Replay {
  /** The digest of the answers: the same as that of the recording tree where all of them are the same. */
  digest: Buffer;
  /** Files whose length is not what it was. */
  changed: string[];
  /** Files that were read for it; of a large project not all. */
  justRead: Map<string, ReadResult & { ok: true }>;
}

/**
 * Asks a tree what a recording tree wrote down, and nothing else. Most runs do only this, so it goes straight through: files are read into the
 * blocks that are digested, and nothing is noted by its name.
 */
export function replay(tree: DiskTree, written: readonly string[]): Replay {
  const stream = new DigestStream();
  const changed: string[] = [];
  const justRead: Replay["justRead"] = new Map();
  let left = MOST_HANDED_ON;
  const read = (file: string): ReadResult => {
    const result = tree.read(file, (size) => stream.room(size, left >= size));
    if (!result.ok) stream.add(refusal(result.why));
    else if (left >= result.bytes.length) {
      left -= result.bytes.length;
      justRead.set(file, result);
    }
    return result;
  };
  for (const line of written) {
    const tab = line.startsWith("r") ? line.lastIndexOf("\t") : -1;
    const path = tab === -1 ? line.slice(1) : line.slice(1, tab);
    switch (line[0]) {
      case "l":
        stream.add(listing(tree, path));
        break;
      case "r": {
        const result = tree.isFile(path) ? read(path) : undefined;
        if (!result?.ok || result.bytes.length !== Number(line.slice(tab + 1))) changed.push(path);
        break;
      }
      case "n":
        if (tree.isFile(path)) read(path);
        break;
      default:
        stream.add(answerOf(tree, line) ?? "");
    }
  }
  return { digest: stream.digest(), changed, justRead };
}

/** What is answered to an ask that is neither for a listing nor for a whole file. */
function answerOf(tree: FileTree, ask: string): string | undefined {
  const path = ask.slice(1);
  switch (ask[0]) {
    case "p":
      return tree.realPath(path) ?? NOTHING;
    case "i":
      return String(tree.isFile(path));
    case "f":
      return String(tree.isFolder(path));
    case "s":
      return tree.isFile(path) ? String(tree.size(path)) : undefined;
    case "b": {
      const part = partOf(ask);
      if (!part || !tree.isFile(part.file)) return undefined;
      const bytes = tree.part(part.file, part.start, part.length);
      return bytes ? digestOf(bytes) : NOTHING;
    }
    default:
      return undefined;
  }
}

function partOf(ask: string): { file: string; start: number; length: number } | undefined {
  const [, start, length, file] = (ask.startsWith("b") && /^b(\d+)\+(\d+):(.*)$/s.exec(ask)) || [];
  return file === undefined ? undefined : { file, start: Number(start), length: Number(length) };
}

/** The entries of a folder as one answer. */
function listing(tree: FileTree, folder: string): string {
  const entries = tree.list(folder);
  const closed = tree.unreadable.get(folder);
  let text = closed ? reasonText(closed) : "";
  for (const { name, kind, link } of entries) text += `\0${name}\0${kind}${link ? "+" : ""}`;
  return text;
}

/** What is answered where there is nothing. */
const NOTHING = "\0";

function refusal(why: Reason): string {
  return `\0${reasonText(why)}`;
}

/** Digests many short answers in few steps; the length of each, in bytes, stands before it and keeps it apart from the next. */
class DigestStream {
  private readonly hash = createHash("blake2b512");
  private block = Buffer.allocUnsafeSlow(BLOCK);
  private used = 0;
  /** Whether somebody keeps what lies in the block: then it is not written over. */
  private held = false;
  /** What was too large for a block, and is to be digested before all that comes after it. */
  private large: Buffer | undefined;

  add(answer: string | Uint8Array): void {
    const room = this.room(typeof answer === "string" ? Buffer.byteLength(answer) : answer.length);
    if (typeof answer === "string") room.write(answer);
    else room.set(answer);
  }

  /** Where an answer of so many bytes is to be written. */
  room(length: number, held = false): Buffer {
    if (this.used + length + LENGTH > BLOCK) this.flush();
    this.digestLarge();
    this.used += this.block.write(`${length}:`, this.used, "latin1");
    if (length + LENGTH > BLOCK) {
      this.flush();
      return (this.large = Buffer.allocUnsafeSlow(length));
    }
    this.held ||= held;
    return this.block.subarray(this.used, (this.used += length));
  }

  /** 32 bytes, of all so far. */
  digest(): Buffer {
    this.flush();
    return this.hash.copy().digest().subarray(0, 32);
  }

  private digestLarge(): void {
    if (this.large) this.hash.update(this.large);
    this.large = undefined;
  }

  private flush(): void {
    this.digestLarge();
    this.hash.update(this.block.subarray(0, this.used));
    if (this.held) this.block = Buffer.allocUnsafeSlow(BLOCK);
    this.held = false;
    this.used = 0;
  }
}

/** So much is handed on at most, in bytes. */
const MOST_HANDED_ON = 32 * 1024 * 1024;

/** Enough for one step of the digest, in bytes; the same for a text that is digested, in UTF-16 units. */
const BLOCK = 262_144;

/** The most that the length of an answer takes, in bytes. */
const LENGTH = 20;

/** An answer of this many UTF-16 units is no longer than its digest. */
const SHORT = 44;

/** No short answer is as long. */
function digestOf(answer: string | Uint8Array): string {
  return `${createHash("sha512-256").update(answer).digest("base64")}#`;
}
