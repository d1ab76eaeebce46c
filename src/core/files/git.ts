import { spawnSync } from "node:child_process";
import { devNull } from "node:os";
import { join, parentOf, baseName, isWithin } from "../model/paths.js";
import { MAX_FILE_SIZE } from "./disk.js";
import type { FileTree, ReadResult, TreeEntry } from "./tree.js";
import { reason, type Reason } from "../model/reason.js";

/** Blobs above this size are fetched one by one, and only when they are asked for. */
const EAGER_SIZE = 512 * 1024;
const EAGER_TOTAL = 256 * 1024 * 1024;

/** Files whose text is never asked for. */
const NO_TEXT =
  /\.(png|jpe?g|gif|webp|ico|icns|svg|pdf|mp[34]|m4a|wav|mov|ttf|otf|woff2?|zip|gz|tgz|jar|aar|so|a|dylib|exe|dll|bin|keystore|jks|p12|psd|ai|sketch)$/i;

interface Entry {
  mode: string;
  id: string;
  size: number;
}

export type OpenedRevision = { ok: true; tree: GitTree } | { ok: false; why: Reason };

/** Runs git on a repository; nothing of the project is run by it, and nothing is fetched. */
function git(folder: string, args: readonly string[], input?: string): { ok: boolean; output: Buffer; error: Reason } {
  const { status, stdout, stderr, error } = spawnSync(
    "git",
    ["--no-replace-objects", "-c", "core.fsmonitor=false", "-c", `core.hooksPath=${devNull}`, ...args],
    {
      cwd: folder,
      input,
      maxBuffer: 2 ** 31 - 1,
      windowsHide: true,
      env: { ...gitEnvironment(), GIT_OPTIONAL_LOCKS: "0", GIT_TERMINAL_PROMPT: "0", GIT_NO_LAZY_FETCH: "1", LC_ALL: "C" },
    },
  );
  if (error)
    return {
      ok: false,
      output: Buffer.alloc(0),
      error:
        (error as NodeJS.ErrnoException).code === "ENOENT" ? reason("git-not-installed") : reason("git-says", { message: error.message }),
    };
  const message = stderr
    .toString("utf8")
    .trim()
    .split("\n")[0]
    ?.replace(/^fatal: /, "");
  return { ok: status === 0, output: stdout, error: message ? reason("git-says", { message }) : reason("no-git-repository") };
}

/** The environment without what would point git at another repository. */
function gitEnvironment(): NodeJS.ProcessEnv {
  return Object.fromEntries(
    Object.entries(process.env).filter(([name]) => !/^GIT_(DIR|WORK_TREE|INDEX_FILE|OBJECT_DIRECTORY|CONFIG)/.test(name)),
  );
}

/** Opens a revision of the repository that a folder lies in: a branch, a tag, a commit. The folder's place inside it is the root. */
export function openRevision(folder: string, revision: string): OpenedRevision {
  // What begins like an option is no revision.
  if (revision.startsWith("-") || /[\0\n]/.test(revision)) return { ok: false, why: reason("no-revision", { revision }) };
  const commit = git(folder, ["rev-parse", "--verify", "--quiet", "--end-of-options", `${revision}^{commit}`]);
  if (!commit.ok) {
    const inside = git(folder, ["rev-parse", "--is-inside-work-tree"]);
    return {
      ok: false,
      why: inside.ok ? reason("no-folder-or-revision", { name: revision }) : inside.error,
    };
  }
  const prefix = git(folder, ["rev-parse", "--show-prefix"]).output.toString("utf8").trim().replace(/\/$/, "");
  const id = commit.output.toString("utf8").trim();
  const listed = git(folder, ["ls-tree", "-r", "-l", "-z", "--full-tree", id]);
  if (!listed.ok) return { ok: false, why: missingFiles(countMissing(folder, id), revision) ?? listed.error };
  const entries = new Map<string, Entry>();
  for (const line of listed.output.toString("utf8").split("\0")) {
    const match = /^(\d+) (\w+) ([0-9a-f]+) +(\d+|-)\t([\s\S]+)$/.exec(line);
    if (match?.[2] === "blob")
      entries.set(match[5] as string, { mode: match[1] as string, id: match[3] as string, size: Number(match[4]) || 0 });
  }
  const tree = new GitTree(folder, revision, prefix, entries);
  const why = missingFiles(tree.missing(), revision);
  return why === undefined ? { ok: true, tree } : { ok: false, why };
}

/** How many objects of a commit a clone without all of them (`--filter`) lacks. */
function countMissing(folder: string, id: string): number {
  const { output } = git(folder, ["rev-list", "--objects", "--no-walk", "--missing=print", "--end-of-options", id]);
  return output.toString("latin1").match(/^\?/gm)?.length ?? 0;
}

function missingFiles(count: number, revision: string): Reason | undefined {
  if (count === 0) return undefined;
  return count === 1 ? reason("one-file-not-in-clone", { revision }) : reason("files-not-in-clone", { count, revision });
}

/** The files of one revision, read from the object store without a checkout. */
class GitTree implements FileTree {
  readonly root: string;
  readonly place: string;
  readonly unreadable = new Map<string, Reason>();
  readonly passedOver = new Map<string, Reason>();
  private readonly folders = new Map<string, Map<string, TreeEntry>>([["", new Map()]]);
  private blobs: Map<string, Buffer> | undefined;

  constructor(
    private readonly repository: string,
    readonly revision: string,
    private readonly prefix: string,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {
    this.root = repository;
    this.place = prefix;
    for (const [path, { mode }] of entries) if (mode !== "120000") this.add(path, "file", false);
    for (const [path, { mode }] of entries) if (mode === "120000") this.addLink(path);
  }

  private add(path: string, kind: TreeEntry["kind"], link: boolean): void {
    if (path === "") return;
    const parent = parentOf(path);
    if (!this.folders.has(parent)) {
      this.folders.set(parent, new Map());
      this.add(parent, "folder", false);
    }
    if (!this.folders.get(parent)?.has(baseName(path))) this.folders.get(parent)?.set(baseName(path), { name: baseName(path), kind, link });
  }

  private addLink(path: string): void {
    const target = this.follow(path);
    if (target === undefined) {
      if (isWithin(path, this.prefix))
        this.passedOver.set(this.prefix === "" ? path : path.slice(this.prefix.length + 1), reason("points-outside"));
      return;
    }
    if (this.entries.has(target)) this.add(path, "file", true);
    else if (this.folders.has(target)) this.add(path, "folder", true);
  }

  /** A path of the tree as the repository knows it; `undefined` above the repository. */
  private full(path: string): string | undefined {
    return this.follow(join(this.prefix, path));
  }

  /** Follows the links in a path of the repository; `undefined` where they lead out of it or in a circle. */
  private follow(path: string): string | undefined {
    let full = path;
    for (let hops = 0; hops < 16 && !full.startsWith(".."); hops++) {
      const parts = full.split("/");
      const at = parts.findIndex((_, index) => this.entries.get(parts.slice(0, index + 1).join("/"))?.mode === "120000");
      if (at === -1) return full;
      const link = parts.slice(0, at + 1).join("/");
      full = join(parentOf(link), this.blob((this.entries.get(link) as Entry).id)?.toString("utf8") ?? "..", ...parts.slice(at + 1));
    }
    return undefined;
  }

  list(folder: string): TreeEntry[] {
    const full = this.full(folder);
    return full === undefined
      ? []
      : [...(this.folders.get(full)?.values() ?? [])].sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0));
  }

  read(file: string): ReadResult {
    const full = this.full(file);
    const entry = full === undefined ? undefined : this.entries.get(full);
    if (!entry) return { ok: false, why: reason("file-absent") };
    if (entry.size > MAX_FILE_SIZE) return { ok: false, why: reason("larger-than", { size: MAX_FILE_SIZE / 1024 / 1024 }) };
    const bytes = this.blob(entry.id);
    return bytes ? { ok: true, bytes } : { ok: false, why: reason("not-in-clone") };
  }

  part(file: string, start: number, length: number): Uint8Array | undefined {
    const read = this.read(file);
    return read.ok ? read.bytes.subarray(start, start + length) : undefined;
  }

  size(file: string): number | undefined {
    const read = this.read(file);
    return read.ok ? read.bytes.length : undefined;
  }

  isFile(path: string): boolean {
    const full = this.full(path);
    return full !== undefined && this.entries.has(full);
  }

  isFolder(path: string): boolean {
    const full = this.full(path);
    return full !== undefined && (full === "" || this.folders.has(full));
  }

  realPath(path: string): string | undefined {
    const full = this.full(path);
    if (full === undefined || !(this.entries.has(full) || this.folders.has(full))) return undefined;
    return this.prefix === "" ? full : full.startsWith(`${this.prefix}/`) ? full.slice(this.prefix.length + 1) : undefined;
  }

  /** How many of the files that can be asked for the clone lacks. */
  missing(): number {
    this.blobs ??= this.fetch();
    let count = 0;
    for (const id of this.wanted) if (!this.blobs.has(id)) count++;
    return count;
  }

  /** A blob's bytes. The first question fetches all that can be asked for, in one run of git. */
  private blob(id: string): Buffer | undefined {
    this.blobs ??= this.fetch();
    let bytes = this.blobs.get(id);
    if (!bytes) {
      bytes = parseBatch(git(this.repository, ["cat-file", "--batch"], `${id}\n`).output).get(id);
      if (bytes) this.blobs.set(id, bytes);
    }
    return bytes;
  }

  private readonly wanted = new Set<string>();

  private fetch(): Map<string, Buffer> {
    let total = 0;
    for (const [path, { id, size }] of this.entries) {
      if (size > EAGER_SIZE || total + size > EAGER_TOTAL || NO_TEXT.test(path)) continue;
      total += size;
      this.wanted.add(id);
    }
    return parseBatch(git(this.repository, ["cat-file", "--batch"], `${[...this.wanted].join("\n")}\n`).output);
  }
}

/** Source: git-scm.com, git-cat-file, "Batch output": a line with id, type and size, then the contents and a line end. */
function parseBatch(output: Buffer): Map<string, Buffer> {
  const blobs = new Map<string, Buffer>();
  for (let at = 0; at < output.length;) {
    const end = output.indexOf(10, at);
    if (end === -1) break;
    const [id = "", type, size] = output.toString("latin1", at, end).split(" ");
    at = end + 1;
    if (type === undefined || type === "missing" || size === undefined) continue;
    const length = Number(size);
    blobs.set(id, output.subarray(at, at + length));
    at += length + 1;
  }
  return blobs;
}
