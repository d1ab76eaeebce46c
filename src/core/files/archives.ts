import { fromRandomAccessReader, RandomAccessReader, type Entry, type ZipFile } from "yauzl";
import { inflateRawSync, constants } from "node:zlib";
import { WHOLE_ARCHIVE, type AskLog, type LoggedTree, type ReadResult, type TreeEntry } from "./tree.js";
import { reason, reasonText, type Reason } from "../model/reason.js";

/** Between the path of an archive and the path inside it, as in the addresses of jar files. */
const INSIDE = "!/";

/** The form of archive that is looked into. */
export const ARCHIVE = /\.(aar|jar|zip|apk)$/i;

const MB = 1024 * 1024;
/** Bounds on one archive: its size, its entries, what one entry unpacks to, and an entry's name in bytes and levels. */
const MOST = { size: 512 * MB, entries: 65_535, unpacked: 64 * MB, name: 1024, depth: 40 };
/** How many bytes are read at least of the list of entries. */
const BLOCK = 64 * 1024;
/** Archives in archives: a library in a library goes no deeper. */
const DEEPEST = 2;

/** Whether a path leads into an archive. */
export function isInArchive(path: string): boolean {
  return path.includes(INSIDE);
}

/** The path of something in an archive. */
export function insideArchive(archive: string, path: string): string {
  return `${archive}${INSIDE}${path}`;
}

/**
 * A tree in which archives are folders too: `libs/a.aar!/AndroidManifest.xml`. Of an archive only what is asked for is read: the list of its
 * entries, and those entries. Nothing is unpacked to disk, and what an archive says of its sizes is not believed. What is no archive at all
 * is told in `unreadable`; reading anything in one that is not opened (more than 512 MB, names that no build writes) says why.
 */
export class ArchivesTree implements LoggedTree {
  readonly root: string;
  private readonly opened = new Map<string, Archive | Closed>();

  constructor(private readonly below: LoggedTree) {
    this.root = below.root;
  }

  get place(): string | undefined {
    return this.below.place;
  }

  get unreadable(): Map<string, Reason> {
    return this.below.unreadable;
  }

  get passedOver(): ReadonlyMap<string, Reason> | undefined {
    return this.below.passedOver;
  }

  get log(): AskLog | undefined {
    return this.below.log;
  }

  list(folder: string): TreeEntry[] {
    const inside = this.locate(folder);
    return inside ? inside.archive.list(inside.path) : this.below.list(folder);
  }

  read(file: string): ReadResult {
    const inside = this.locate(file);
    return inside ? inside.archive.read(inside.path) : this.below.read(file);
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const inside = this.locate(file);
    if (!inside) return this.below.part(file, start, length);
    const read = inside.archive.read(inside.path, start + length);
    return read?.ok ? read.bytes.subarray(start, start + length) : undefined;
  }

  size(file: string): number | undefined {
    const inside = this.locate(file);
    return inside ? inside.archive.sizeOf(inside.path) : this.below.size(file);
  }

  isFile(path: string): boolean {
    const inside = this.locate(path);
    return inside ? inside.archive.sizeOf(inside.path) !== undefined : this.below.isFile(path);
  }

  isFolder(path: string): boolean {
    const inside = this.locate(path);
    return inside ? inside.archive.isFolder(inside.path) : this.below.isFolder(path);
  }

  realPath(path: string): string | undefined {
    if (!this.locate(path)) return this.below.realPath(path);
    return this.isFile(path) || this.isFolder(path) ? path : undefined;
  }

  /** The archive that a path leads into; nothing for a path of the tree below. */
  private locate(path: string): { archive: Archive | Closed; path: string } | undefined {
    if (!path.includes("!")) return undefined;
    const at = path.endsWith("!") ? path.length - 1 : path.lastIndexOf(INSIDE);
    if (at === -1 || !ARCHIVE.test(path.slice(0, at)) || path.split(INSIDE).length > DEEPEST + 1) return undefined;
    const file = path.slice(0, at);
    let archive = this.opened.get(file);
    if (!archive) this.opened.set(file, (archive = this.open(file)));
    this.log?.again([`${WHOLE_ARCHIVE}${file.split(INSIDE)[0] as string}`]);
    return { archive, path: path.slice(at + INSIDE.length) };
  }

  private open(file: string): Archive | Closed {
    const size = this.isFile(file) ? this.size(file) : undefined;
    if (size === undefined) return new Closed(reason("file-absent"));
    if (size > MOST.size) return new Closed(reason("larger-than", { size: MOST.size / MB }));
    try {
      if (!this.locate(file)) return new Archive(size, (start, length) => this.below.part(file, start, length));
      const whole = this.read(file);
      return whole.ok
        ? new Archive(whole.bytes.length, (start, length) => whole.bytes.subarray(start, start + length))
        : new Closed(whole.why);
    } catch (error) {
      if (error instanceof Unopened) return new Closed(error.why);
      const message = (error as Error).message.toLowerCase();
      // The library's words for a file without the list that every archive ends with.
      if (/^end of central directory/.test(message)) this.unreadable.set(file, reason("no-archive"));
      return new Closed(reason("archive-says", { message }));
    }
  }
}

/** Why an archive is not opened, in a form that goes through the library. */
class Unopened extends Error {
  constructor(readonly why: Reason) {
    super(reasonText(why));
  }
}

/** An archive that is not opened: nothing is found in it. */
class Closed {
  constructor(private readonly why: Reason) {}

  list(): TreeEntry[] {
    return [];
  }

  isFolder(): boolean {
    return false;
  }

  sizeOf(): undefined {
    return undefined;
  }

  read(): ReadResult {
    return { ok: false, why: this.why };
  }
}

/** Gives the library the bytes that it asks for, at once: a file of the tree in blocks, so that its list of entries is not read in small pieces. */
class Bytes extends RandomAccessReader {
  private blocks: { start: number; bytes: Uint8Array }[] | undefined = [];

  constructor(
    private readonly size: number,
    private readonly part: (start: number, length: number) => Uint8Array | undefined,
  ) {
    super();
  }

  override read(buffer: Buffer, offset: number, length: number, position: number, callback: (error: Error | null) => void): void {
    const block =
      this.blocks?.find(({ start, bytes }) => start <= position && position + length <= start + bytes.length) ??
      this.load(position, length);
    if (block) buffer.set(block.bytes.subarray(position - block.start, position - block.start + length), offset);
    callback(block ? null : new Unopened(reason("archive-ends-early")));
  }

  private load(start: number, length: number): { start: number; bytes: Uint8Array } | undefined {
    const bytes = this.part(start, this.blocks ? Math.min(Math.max(length, BLOCK), this.size - start) : length);
    if (!bytes || bytes.length < length) return undefined;
    const block = { start, bytes };
    this.blocks?.unshift(block);
    return block;
  }

  /** The list is read: what is asked for from now on stands apart, and nothing is held. */
  release(): void {
    this.blocks = undefined;
  }

  override close(done: (error: Error | null) => void): void {
    done(null);
  }
}

/** One archive, of which the list of entries is read, and then what is asked for. */
class Archive {
  private readonly zip: ZipFile;
  private readonly entries = new Map<string, Entry>();
  private readonly folders = new Map<string, Map<string, TreeEntry>>([["", new Map()]]);

  /**
   * @param part gives some bytes of the archive, fewer where it ends
   * @throws where the library cannot read it, and where it is beyond the bounds
   */
  constructor(
    size: number,
    private readonly part: (start: number, length: number) => Uint8Array | undefined,
  ) {
    const bytes = new Bytes(size, part);
    this.zip = atOnce<ZipFile>((done) =>
      fromRandomAccessReader(bytes, size, { lazyEntries: true, autoClose: false, decodeStrings: false, validateEntrySizes: false }, done),
    );
    if (this.zip.entryCount > MOST.entries) throw new Unopened(reason("too-many-entries", { count: MOST.entries }));
    this.readEntries();
    bytes.release();
    for (const name of this.entries.keys()) if (!name.endsWith("/")) this.note(name, "file");
  }

  private readEntries(): void {
    let problem: Error | undefined;
    let count = 0;
    this.zip.on("error", (error: Error) => (problem = error));
    this.zip.on("entry", (entry: Entry) => {
      count++;
      const name = nameOf(entry.fileNameRaw);
      if (this.entries.has(name)) throw new Unopened(reason("entry-twice", { name }));
      if (!isClimbing(name)) this.entries.set(name, entry);
    });
    for (let wanted = 1; wanted <= this.zip.entryCount; wanted++) {
      this.zip.readEntry();
      if (count < wanted) throw problem ?? new Unopened(reason("list-of-entries-damaged"));
    }
  }

  private note(path: string, kind: TreeEntry["kind"]): void {
    const slash = path.lastIndexOf("/");
    const parent = slash === -1 ? "" : path.slice(0, slash);
    const name = path.slice(slash + 1);
    let entries = this.folders.get(parent);
    if (!entries) {
      this.folders.set(parent, (entries = new Map<string, TreeEntry>()));
      this.note(parent, "folder");
    }
    entries.set(name, { name, kind, link: false });
  }

  list(folder: string): TreeEntry[] {
    return [...(this.folders.get(folder)?.values() ?? [])].sort((a, b) => (a.name < b.name ? -1 : 1));
  }

  isFolder(path: string): boolean {
    return this.folders.has(path);
  }

  /** As the archive says. */
  sizeOf(path: string): number | undefined {
    return path.endsWith("/") ? undefined : this.entries.get(path)?.uncompressedSize;
  }

  /** @param most how many bytes from its start are wanted */
  read(path: string, most = Infinity): ReadResult {
    const entry = path.endsWith("/") ? undefined : this.entries.get(path);
    if (!entry) return { ok: false, why: reason("file-absent") };
    const { compressedSize, compressionMethod } = entry;
    const wanted = Math.min(most, MOST.unpacked);
    try {
      if (entry.isEncrypted()) return { ok: false, why: reason("encrypted") };
      const { fileDataStart } = atOnce<{ fileDataStart: number }>((done) => this.zip.readLocalFileHeader(entry, { minimal: true }, done));
      // Only as far as that can matter for what is wanted.
      const length = most === Infinity ? compressedSize : Math.min(compressedSize, wanted + 1024);
      const bytes = length === 0 ? new Uint8Array() : this.part(fileDataStart, length);
      if (bytes?.length !== length) return { ok: false, why: reason("archive-cut-off") };
      if (compressionMethod === STORED) return { ok: true, bytes: bytes.subarray(0, wanted) };
      if (compressionMethod !== DEFLATED) return { ok: false, why: reason("packing-unknown") };
      const whole = length === compressedSize;
      const unpacked = inflateRawSync(bytes, {
        maxOutputLength: MOST.unpacked,
        finishFlush: whole ? constants.Z_FINISH : constants.Z_SYNC_FLUSH,
      });
      return { ok: true, bytes: unpacked.subarray(0, wanted) };
    } catch (error) {
      const tooMuch = (error as NodeJS.ErrnoException).code === "ERR_BUFFER_TOO_LARGE";
      return { ok: false, why: tooMuch ? reason("unpacks-to-more-than", { size: MOST.unpacked / MB }) : reason("archive-damaged") };
    }
  }
}

/** Ways of packing. Source: PKWARE, "APPNOTE.TXT", 4.4.5. */
const STORED = 0;
const DEFLATED = 8;

/** What a callback is called with, which is called before the call that it is handed to returns. */
function atOnce<T>(call: (done: (error: Error | null, value: T) => void) => void): T {
  let result: { value: T } | { error: Error } = { error: new Unopened(reason("archive-not-read")) };
  call((error, value) => (result = error ? { error } : { value }));
  const { value, error } = result as { value?: T; error?: Error };
  if (error) throw error;
  return value as T;
}

/** The library notes nothing of names, which may be any: a deep one is a trap. */
function nameOf(bytes: Buffer): string {
  if (bytes.length > MOST.name) throw new Unopened(reason("name-too-long", { length: MOST.name }));
  let levels = 1;
  for (const byte of bytes) if (byte === SLASH) levels++;
  if (levels > MOST.depth) throw new Unopened(reason("too-many-levels", { count: MOST.depth }));
  return bytes.toString("utf8");
}

const SLASH = 0x2f;

/** No path inside: it leads out, or is another system's. */
function isClimbing(name: string): boolean {
  return (
    name.startsWith("/") || name.includes("\\") || name.includes("\0") || name.split("/").some((part) => part === ".." || part === ".")
  );
}
