import { createHash, randomBytes } from "node:crypto";
import { existsSync, lstatSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { RecordingTree, replay } from "../../files/recording-tree.js";
import { readRegular, type DiskTree } from "../../files/disk.js";
import type { FileTree } from "../../files/tree.js";
import type { KeptValues, ReadResult } from "../../files/tree.js";
import { encrypt, decrypt } from "./encrypted.js";
import { Values } from "./kept-values.js";

/** What was left this many days ago is removed. */
const KEPT_DAYS = 30;

/** How many files are kept, and how much in all, in bytes; the oldest go first. */
const KEPT_FILES = 100;
const KEPT_BYTES = 128 * 1024 * 1024;

/** A file above this size, in bytes, is reason enough to look whether it is too much. */
const LARGE = 1024 * 1024;

/**
 * What an earlier run made of a project's files, for as long as every file that it read and every folder that it listed is the same.
 *
 * Beside the kept snapshot lies the list of what the run asked of the tree. A later run asks all of it again; the answers are the key
 * that opens the snapshot. So nothing old is taken for new, whatever changed and however it did; and the snapshot, which holds what the
 * project's files hold, is of no use to anyone who does not have these files.
 */
export class SnapshotCache<Snapshot> {
  private readonly file: string;
  /** What was read from the file, and not yet opened. */
  private encrypted: Uint8Array | undefined;
  private key: Uint8Array | undefined;
  private snapshot: Snapshot | undefined;
  private anew: RecordingTree | undefined;
  private parts: Values | undefined;
  /** Files that were read to see whether the snapshot holds. */
  private justRead = new Map<string, ReadResult & { ok: true }>();
  /** Files that have another length than in the earlier run. */
  readonly changed: readonly string[] = [];
  /** What is written when the answer is out. */
  private readonly later: (() => void)[] = [];

  /**
   * @param folder where snapshots are kept, an absolute path
   * @param depends what else than the files a snapshot depends on: the version of the program, options, files outside the project
   */
  constructor(
    private readonly folder: string,
    depends: readonly string[],
    private readonly disk: DiskTree,
  ) {
    const name = createHash("sha256")
      .update(JSON.stringify([process.version, disk.root, ...depends]))
      .digest("hex");
    this.file = path.join(folder, name.slice(0, 40));
    const bytes = bytesOf(`${this.file}.reading`);
    const end = bytes?.indexOf(END) ?? -1;
    if (!bytes || end === -1) return;
    const { digest, changed, justRead } = replay(disk, bytes.toString("utf8", 0, end).split("\n"));
    this.changed = changed;
    this.justRead = justRead;
    this.encrypted = bytes.subarray(end + END.length);
    this.key = digest;
  }

  /** The snapshot of an earlier run, if it still holds. */
  kept(): Snapshot | undefined {
    const { encrypted, key } = this;
    this.encrypted = undefined;
    if (encrypted && key) this.snapshot = decrypt(encrypted, key) as Snapshot | undefined;
    if (this.snapshot === undefined) this.key = undefined;
    else this.justRead.clear();
    return this.snapshot;
  }

  /** The project's files, for a snapshot in place of one that does not hold: it will depend on all that is asked here. */
  get tree(): FileTree {
    return this.recording();
  }

  private recording(): RecordingTree {
    return (this.anew ??= new RecordingTree(this.disk, this.justRead));
  }

  /** What an earlier run made of parts of the project, where the whole does not hold any more. */
  get values(): KeptValues {
    return (this.parts ??= new Values(bytesOf(`${this.file}.parts`), () => this.recording()));
  }

  /** Leaves a snapshot of `tree` for later runs; a folder that cannot be written, or a snapshot that cannot be kept, is no fault. */
  keep(reading: Snapshot): void {
    const written = this.anew?.written ?? [];
    // Names with line ends would make other questions of these.
    if (!this.anew || written.some((ask) => ask.includes("\n"))) return;
    this.justRead.clear();
    const key = this.anew.digest();
    this.key = key;
    this.afterwards(() => {
      const encrypted = encrypt(reading, key);
      if (encrypted) this.write("reading", Buffer.concat([Buffer.from(written.join("\n")), END, encrypted]));
      const parts = this.parts?.bytes();
      if (parts) this.write("parts", parts);
    });
  }

  /** Does what nobody waits for on a later turn: who asked has its answer by then. */
  private afterwards(work: () => void): void {
    if (this.later.push(work) > 1) return;
    setImmediate(() => {
      for (const each of this.later.splice(0)) each();
    });
  }

  /** What was made of the snapshot under this name, if the snapshot still holds. */
  made(name: string): unknown {
    const bytes = this.key && bytesOf(`${this.file}.${name}`);
    return bytes && this.key && decrypt(bytes, this.key);
  }

  /** Leaves what was made of the snapshot. */
  keepMade(name: string, value: unknown): void {
    const { key } = this;
    if (key)
      this.afterwards(() => {
        const encrypted = encrypt(value, key);
        if (encrypted) this.write(name, encrypted);
      });
  }

  private write(name: string, bytes: Uint8Array): void {
    // Whole or not at all, also beside another run; a name that nobody can foresee, and no file that is there already.
    const part = `${this.file}.${randomBytes(8).toString("hex")}.part`;
    try {
      makeFolder(this.folder);
      writeFileSync(part, bytes, { mode: 0o600, flag: "wx" });
      renameSync(part, `${this.file}.${name}`);
      const names = readdirSync(this.folder);
      // Not at every run.
      if (names.length > 2 * KEPT_FILES || bytes.length > LARGE) this.removeOld(names);
    } catch {
      // The next run reads again; half a file is of no use to it.
      remove(part);
    }
  }

  private removeOld(names: readonly string[]): void {
    if (!lstatSync(this.folder).isDirectory()) return;
    const files = names
      .filter((name) => OWN_NAME.test(name))
      .map((name) => path.join(this.folder, name))
      .flatMap((file) => {
        const stat = lstatSync(file, { throwIfNoEntry: false });
        return stat?.isFile() ? [{ file, size: stat.size, time: stat.mtimeMs }] : [];
      })
      .sort((a, b) => b.time - a.time);
    const oldest = Date.now() - KEPT_DAYS * 86_400_000;
    let total = 0;
    for (const [index, { file, size, time }] of files.entries()) {
      total += size;
      if (index >= KEPT_FILES || total > KEPT_BYTES || time < oldest) remove(file);
    }
  }
}

/** Names of the files that are kept, whole and in the making. */
const OWN_NAME = /^[0-9a-f]{40}\.(\w+|[0-9a-f]{16}\.part)$/;

function remove(file: string): void {
  try {
    rmSync(file, { force: true });
  } catch {
    // What cannot be removed stays.
  }
}

/** Makes a folder and those above it for this user alone. One by one: `recursive` does not come back where the system refuses (below /proc). */
function makeFolder(folder: string): void {
  const missing: string[] = [];
  for (let at = folder; !existsSync(at) && path.dirname(at) !== at; at = path.dirname(at)) missing.unshift(at);
  for (const at of missing) mkdirSync(at, { mode: 0o700 });
}

/** Between the questions and the encrypted snapshot. */
const END = Buffer.from("\n\0\n");

function bytesOf(file: string): Buffer | undefined {
  const read = readRegular(file, KEPT_BYTES, { noLink: true });
  return read.ok ? read.bytes : undefined;
}
