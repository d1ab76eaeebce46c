import { createHash } from "node:crypto";
import type { RecordingTree } from "../../files/recording-tree.js";
import type { KeptValues } from "../../files/tree.js";
import { decrypt, encrypt } from "./encrypted.js";

/** One value as it lies in the file. */
interface Entry {
  asks: readonly string[];
  /** Values that were asked for while it was made: they stay as long as it does. */
  inner: readonly string[];
  encrypted: Uint8Array;
}

/** The first line of the file: of each value its name, its asks, its length in bytes, and the values that stay with it. */
type Head = [id: string, asks: string[], length: number, inner: string[]][];

/**
 * Values that were made of some files each, for runs that find the project changed: those that rest on nothing that changed are taken over. As
 * with a whole snapshot the answers are the key, so a value opens only where all that was asked for it is answered the same.
 */
export class Values implements KeptValues {
  private readonly entries = new Map<string, Entry>();
  /** What is left for the next run: what was taken over as it is, and what is still to be encrypted. */
  private readonly next = new Map<string, () => Entry | undefined>();
  private changed = false;
  /** Values that are asked for while something is made, the innermost last. */
  private readonly asked: Set<string>[] = [];

  /**
   * @param bytes the file of an earlier run; one that is damaged holds nothing
   * @param tree the tree of this run, which knows its answers
   */
  constructor(
    bytes: Buffer | undefined,
    private readonly tree: () => RecordingTree,
  ) {
    const end = bytes?.indexOf(10) ?? -1;
    if (!bytes || end === -1) return;
    let at = end + 1;
    for (const [id, asks, length, inner] of headOf(bytes.toString("utf8", 0, end))) {
      this.entries.set(id, { asks, inner, encrypted: bytes.subarray(at, at + length) });
      at += length;
    }
  }

  get any(): boolean {
    return this.entries.size > 0;
  }

  open(name: string, inputs: readonly string[]): { value: unknown; asks: readonly string[]; key: string } | undefined {
    const id = this.idOf(name, inputs);
    const entry = this.entries.get(id);
    const key = entry && this.keyOf(name, inputs, entry.asks);
    const value = key && decrypt(entry.encrypted, key);
    if (!entry || !key || value === undefined) return undefined;
    this.takeOver(id);
    return { value, asks: entry.asks, key: key.toString("hex") };
  }

  /** Leaves a value for the next run as it is, with those that stay with it. */
  private takeOver(id: string): void {
    const entry = this.entries.get(id);
    if (!entry || this.next.has(id)) return;
    this.next.set(id, () => entry);
    for (const each of entry.inner) this.takeOver(each);
  }

  keep(name: string, inputs: readonly string[], { value, asks, inner }: Parameters<KeptValues["keep"]>[2]): string | undefined {
    // Names with line ends would make other asks of these.
    if (asks.some((ask) => ask.includes("\n"))) return undefined;
    const id = this.idOf(name, inputs);
    const key = this.keyOf(name, inputs, asks);
    this.changed = true;
    this.next.set(id, () => {
      const encrypted = key && encrypt(value, key);
      return encrypted && { asks, inner, encrypted };
    });
    return key?.toString("hex");
  }

  within<T>(work: () => T): { value: T; inner: readonly string[] } {
    const asked = new Set<string>();
    this.asked.push(asked);
    try {
      return { value: work(), inner: [...asked] };
    } finally {
      this.asked.pop();
      const outer = this.asked.at(-1);
      if (outer) for (const id of asked) outer.add(id);
    }
  }

  private idOf(name: string, inputs: readonly string[]): string {
    const id = digest("id", name, inputs).toString("hex", 0, 16);
    this.asked.at(-1)?.add(id);
    return id;
  }

  /** The file for the next run; `undefined` where the one that is there serves as well. */
  bytes(): Buffer | undefined {
    if (!this.changed && this.next.size === this.entries.size) return undefined;
    const head: Head = [];
    const parts: Uint8Array[] = [];
    for (const [id, make] of this.next) {
      const entry = make();
      if (!entry) continue;
      head.push([id, [...entry.asks], entry.encrypted.length, entry.inner.filter((each) => this.next.has(each))]);
      parts.push(entry.encrypted);
    }
    return Buffer.concat([Buffer.from(`${JSON.stringify(head)}\n`), ...parts]);
  }

  private keyOf(name: string, inputs: readonly string[], asks: readonly string[]): Buffer | undefined {
    const answers = asks.length === 0 ? "" : this.tree().digestOf(asks)?.toString("hex");
    return answers === undefined ? undefined : digest("key", name, [...inputs, answers]);
  }
}

/** 32 bytes; the lengths before the texts keep them apart. */
function digest(use: string, name: string, inputs: readonly string[]): Buffer {
  const hash = createHash("sha512-256");
  for (const text of [use, name, ...inputs]) hash.update(`${text.length}:${text}`);
  return hash.digest();
}

function headOf(line: string): Head {
  try {
    const head = JSON.parse(line) as unknown;
    return Array.isArray(head) ? (head as unknown[]).filter(isItem) : [];
  } catch {
    return [];
  }
}

function isItem(item: unknown): item is Head[number] {
  if (!Array.isArray(item)) return false;
  const [id, asks, length, inner] = item as unknown[];
  return typeof id === "string" && isTexts(asks) && isTexts(inner) && Number.isSafeInteger(length) && (length as number) >= 0;
}

function isTexts(list: unknown): boolean {
  return Array.isArray(list) && list.every((item) => typeof item === "string");
}
