import { createHash } from "node:crypto";
import type { RecordingTree } from "../../files/recording-tree.js";
import type { KeptValues } from "../../files/tree.js";
import { decrypt, encrypt } from "./encrypted.js";

/** One value as it lies in the file. */
interface Entry {
  asks: readonly string[];
  encrypted: Uint8Array;
}

/** The first line of the file: of each value its name, its asks and its length in bytes. */
type Head = [id: string, asks: string[], length: number][];

/**
 * Values that were made of some files each, for runs that find the project changed: those that rest on nothing that changed are taken over. As
 * with a whole snapshot the answers are the key, so a value opens only where all that was asked for it is answered the same.
 */
export class Values implements KeptValues {
  private readonly entries = new Map<string, Entry>();
  /** What is left for the next run: what was taken over as it is, and what is still to be encrypted. */
  private readonly next = new Map<string, () => Entry | undefined>();
  private changed = false;

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
    for (const [id, asks, length] of headOf(bytes.toString("utf8", 0, end))) {
      this.entries.set(id, { asks, encrypted: bytes.subarray(at, at + length) });
      at += length;
    }
  }

  get any(): boolean {
    return this.entries.size > 0;
  }

  open(name: string, inputs: readonly string[]): { value: unknown; asks: readonly string[] } | undefined {
    const id = digest("id", name, inputs).toString("hex", 0, 16);
    const entry = this.entries.get(id);
    const key = entry && this.keyOf(name, inputs, entry.asks);
    const value = key && decrypt(entry.encrypted, key);
    if (!entry || value === undefined) return undefined;
    this.next.set(id, () => entry);
    return { value, asks: entry.asks };
  }

  keep(name: string, inputs: readonly string[], { value, asks }: { value: unknown; asks: readonly string[] }): void {
    // Names with line ends would make other asks of these.
    if (asks.some((ask) => ask.includes("\n"))) return;
    this.changed = true;
    this.next.set(digest("id", name, inputs).toString("hex", 0, 16), () => {
      const key = this.keyOf(name, inputs, asks);
      const encrypted = key && encrypt(value, key);
      return encrypted && { asks, encrypted };
    });
  }

  /** The file for the next run; `undefined` where the one that is there serves as well. */
  bytes(): Buffer | undefined {
    if (!this.changed && this.next.size === this.entries.size) return undefined;
    const head: Head = [];
    const parts: Uint8Array[] = [];
    for (const [id, make] of this.next) {
      const entry = make();
      if (!entry) continue;
      head.push([id, [...entry.asks], entry.encrypted.length]);
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
  const [id, asks, length] = item as unknown[];
  return (
    typeof id === "string" &&
    Array.isArray(asks) &&
    asks.every((ask) => typeof ask === "string") &&
    Number.isSafeInteger(length) &&
    (length as number) >= 0
  );
}
