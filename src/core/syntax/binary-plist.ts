import { listOf, mapOf, scalarOf, type Data } from "./data.js";
import type { Source } from "./source.js";

/** How many values a list may unfold to: one part of it can stand in it many times over, in a few bytes. */
const MAX_NODES = 200_000;
const MAX_DEPTH = 200;

const EPOCH_2001 = 978_307_200_000;

/**
 * Reads a binary property list. The library for it unfolds what is shared without an end, hence an own reader. A binary file has no lines:
 * every part has the place of the file's start. Throws with a reason in words on what is no such list.
 *
 * Source of the layout: opensource.apple.com, CoreFoundation, CFBinaryPList.c, the comment "HEADER, OBJECT TABLE, OFFSET TABLE, TRAILER".
 */
export function readBinaryPlist(source: Source, bytes: Uint8Array): Data {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (buffer.length < 40) throw new Error("it is cut off");
  const trailer = buffer.subarray(buffer.length - 32);
  const [offsetSize, referenceSize] = [trailer.readUInt8(6), trailer.readUInt8(7)];
  const [count, top, table] = [whole(trailer, 8, 8), whole(trailer, 16, 8), whole(trailer, 24, 8)];
  if (offsetSize < 1 || offsetSize > 8 || referenceSize < 1 || referenceSize > 8 || table + count * offsetSize > buffer.length - 32)
    throw new Error("its table lies outside of the file");
  let nodes = 0;
  return object(top, 0);

  function object(index: number, depth: number): Data {
    if (++nodes > MAX_NODES) throw new Error(`it unfolds to more than ${MAX_NODES} values`);
    if (depth > MAX_DEPTH) throw new Error(`it is nested more than ${MAX_DEPTH} levels deep`);
    if (index >= count) throw new Error("it refers to a value that is not there");
    const at = whole(buffer, table + index * offsetSize, offsetSize);
    if (at >= table) throw new Error("a value lies outside of the file");
    const marker = buffer.readUInt8(at);
    const [kind, info] = [marker >> 4, marker & 15];
    switch (kind) {
      case 0x0:
        return scalarOf(source, 0, info === 8 ? false : info === 9 ? true : null);
      case 0x1:
        return scalarOf(source, 0, whole(buffer, at + 1, 2 ** info));
      case 0x2:
        return scalarOf(source, 0, real(at, info));
      case 0x3:
        return scalarOf(source, 0, String(new Date(EPOCH_2001 + real(at, 3) * 1000)));
      case 0x4:
        return scalarOf(source, 0, text(at, info, 1, "latin1"));
      case 0x5:
        return scalarOf(source, 0, text(at, info, 1, "ascii"));
      case 0x6:
        return scalarOf(source, 0, text(at, info, 2, "utf16be"));
      case 0x8:
        return scalarOf(source, 0, whole(buffer, at + 1, info + 1));
      case 0xa:
      case 0xc: {
        const { from, length } = extent(at, info, referenceSize);
        return listOf(
          source,
          0,
          Array.from({ length }, (_, item) => object(whole(buffer, from + item * referenceSize, referenceSize), depth + 1)),
        );
      }
      case 0xd: {
        const { from, length } = extent(at, info, 2 * referenceSize);
        const map = mapOf(source, 0);
        for (let item = 0; item < length; item++) {
          const key = object(whole(buffer, from + item * referenceSize, referenceSize), depth + 1);
          const value = object(whole(buffer, from + (length + item) * referenceSize, referenceSize), depth + 1);
          if (key.kind === "scalar") map.entries.set(String(key.value), { start: 0, value });
        }
        return map;
      }
      default:
        throw new Error("it has a value of a kind that is not known");
    }
  }

  /** Where the parts of a value begin, and how many of a size there are; they must lie in the file. */
  function extent(at: number, info: number, size: number): { from: number; length: number } {
    let [from, length] = [at + 1, info];
    if (info === 15) {
      const width = 2 ** (buffer.readUInt8(at + 1) & 15);
      length = whole(buffer, at + 2, width);
      from = at + 2 + width;
    }
    if (from + length * size > table) throw new Error("a value lies outside of the file");
    return { from, length };
  }

  function text(at: number, info: number, size: number, encoding: "latin1" | "ascii" | "utf16be"): string {
    const { from, length } = extent(at, info, size);
    const part = buffer.subarray(from, from + length * size);
    return encoding === "utf16be" ? Buffer.from(part).swap16().toString("utf16le") : part.toString(encoding);
  }

  function real(at: number, info: number): number {
    return info === 2 ? buffer.readFloatBE(at + 1) : buffer.readDoubleBE(at + 1);
  }
}

/** A whole number of up to 16 bytes, the last eight of which count. */
function whole(buffer: Buffer, at: number, size: number): number {
  if (at + size > buffer.length) throw new Error("it is cut off");
  if (size > 6) return Number(BigInt.asIntN(64, buffer.readBigUInt64BE(at + size - 8)));
  return buffer.readUIntBE(at, size);
}
