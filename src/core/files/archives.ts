import AdmZip from "adm-zip";
import { inflateRawSync, constants } from "node:zlib";
import { WHOLE_ARCHIVE, type AskLog, type LoggedTree, type ReadResult, type TreeEntry } from "./tree.js";

/** Between the path of an archive and the path inside it, as in the addresses of jar files. */
const INSIDE = "!/";

/** The form of archive that is looked into. */
export const ARCHIVE = /\.(aar|jar|zip|apk)$/i;

const MB = 1024 * 1024;
/** Bounds on one archive: its size, its entries, what one entry unpacks to, and an entry's name in bytes and levels. */
const MOST = { size: 512 * MB, entries: 65_535, unpacked: 64 * MB, name: 1024, depth: 40 };
/** How much of the end is read at first, and where the list of entries begins before that. In bytes. */
const TAILS = [64 * 1024, 8 * MB];
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

  get unreadable(): Map<string, string> {
    return this.below.unreadable;
  }

  get passedOver(): ReadonlyMap<string, string> | undefined {
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
    if (size === undefined) return new Closed("it does not exist");
    if (size > MOST.size) return new Closed(`it is larger than ${MOST.size / MB} MB`);
    try {
      if (!this.locate(file)) return new Archive(Buffer.alloc(size), (start, length) => this.below.part(file, start, length));
      const whole = this.read(file);
      return whole.ok ? new Archive(Buffer.from(whole.bytes), () => undefined) : new Closed(whole.why);
    } catch (error) {
      const why = (error as Error).message.replace(/^ADM-ZIP: /, "").toLowerCase();
      // The library's word for a file without the list that every archive ends with.
      if (/no end header/.test(why)) this.unreadable.set(file, `no archive that can be read (${why})`);
      return new Closed(why);
    }
  }
}

/** An archive that is not opened: nothing is found in it. */
class Closed {
  constructor(private readonly why: string) {}

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

/** Names as the library is to read them. It notes every folder above an entry by its whole path: a deep name is a trap. */
const NAMES = {
  efs: true,
  encode: (name: string): Buffer => Buffer.from(name),
  decode: (name: Uint8Array): string => {
    if (name.length > MOST.name) throw new Error(`a name in it is longer than ${MOST.name} bytes`);
    const text = Buffer.from(name).toString("utf8");
    if (text.split("/").length > MOST.depth) throw new Error(`a name in it has more than ${MOST.depth} levels`);
    return text;
  },
};

/** One archive. The library works on a window of the archive's size, into which only those bytes are filled that it looks at. */
class Archive {
  private readonly entries: ReadonlyMap<string, AdmZip.IZipEntry>;
  private readonly folders = new Map<string, Map<string, TreeEntry>>([["", new Map()]]);

  /**
   * @param part gives some bytes of the archive; nothing where the window holds them already
   * @throws where the library cannot read it, and where it is beyond the bounds
   */
  constructor(
    private readonly window: Buffer,
    private readonly part: (start: number, length: number) => Uint8Array | undefined,
  ) {
    this.entries = new Map(this.entriesOf().flatMap((entry) => (isClimbing(entry.entryName) ? [] : [[entry.entryName, entry]])));
    for (const [name, { isDirectory }] of this.entries) if (!isDirectory) this.note(name, "file");
  }

  private entriesOf(): AdmZip.IZipEntry[] {
    let problem: unknown;
    for (const tail of TAILS) {
      const start = Math.max(0, this.window.length - tail);
      this.fill(start, this.window.length - start);
      try {
        const zip = new AdmZip(this.window, { noSort: true, decoder: NAMES });
        if (zip.getEntryCount() > MOST.entries) throw new Error(`more than ${MOST.entries} entries`);
        return zip.getEntries();
      } catch (error) {
        problem = error;
      }
      if (start === 0) break;
    }
    throw problem;
  }

  private fill(start: number, length: number): void {
    const bytes = this.part(start, Math.min(length, this.window.length - start));
    if (bytes) this.window.set(bytes, start);
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
    const entry = this.entries.get(path);
    return entry && !entry.isDirectory ? entry.header.size : undefined;
  }

  /** @param most how many bytes from its start are wanted */
  read(path: string, most = Infinity): ReadResult {
    const entry = this.entries.get(path);
    if (!entry || entry.isDirectory) return { ok: false, why: "it does not exist" };
    const { header } = entry;
    const wanted = Math.min(most, MOST.unpacked);
    try {
      if (header.encrypted) return { ok: false, why: "it is encrypted" };
      this.fill(header.offset, LOCAL_HEADER);
      const packed = entry.getCompressedData();
      // A view of the window, which is filled only now, and only as far as that can matter for what is wanted.
      const length = Math.min(packed.length, most === Infinity ? packed.length : wanted + 1024);
      this.fill(header.realDataOffset, length);
      const bytes = packed.subarray(0, length);
      if (header.method === STORED) return bytes.length > wanted ? { ok: true, bytes: bytes.subarray(0, wanted) } : { ok: true, bytes };
      if (header.method !== DEFLATED) return { ok: false, why: "it is packed in a way that is not known" };
      const whole = length === packed.length;
      const unpacked = inflateRawSync(bytes, {
        maxOutputLength: MOST.unpacked,
        finishFlush: whole ? constants.Z_FINISH : constants.Z_SYNC_FLUSH,
      });
      return { ok: true, bytes: unpacked.subarray(0, wanted) };
    } catch (error) {
      const tooMuch = (error as NodeJS.ErrnoException).code === "ERR_BUFFER_TOO_LARGE";
      return { ok: false, why: tooMuch ? `it unpacks to more than ${MOST.unpacked / MB} MB` : "its archive is damaged there" };
    }
  }
}

/** Bytes before a file's name in an archive, and ways of packing. Source: PKWARE, "APPNOTE.TXT", 4.3.7 and 4.4.5. */
const LOCAL_HEADER = 30;
const STORED = 0;
const DEFLATED = 8;

/** No path inside: it leads out, or is another system's. */
function isClimbing(name: string): boolean {
  return (
    name.startsWith("/") || name.includes("\\") || name.includes("\0") || name.split("/").some((part) => part === ".." || part === ".")
  );
}
