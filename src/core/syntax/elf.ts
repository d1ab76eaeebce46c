/** What the head of a native library of Linux and Android says. */
export interface ElfHead {
  bits: 32 | 64;
  /** The smallest alignment of the parts that are loaded, in bytes: on a system with larger pages it does not load. */
  alignment: number;
}

/** How many bytes of a library are read for that: its header and the table of its parts. */
export const ELF_HEAD = 8_192;

const LITTLE_ENDIAN = 1;
const LOADED = 1;
const MOST_PARTS = 256;

/**
 * Reads the header and the program headers. `undefined` for what is no such file, is cut off, or has its table elsewhere than near the start.
 * Source: System V Application Binary Interface, "Object Files" and "Program Loading" (ELF header, program header).
 */
export function readElf(head: Uint8Array): ElfHead | undefined {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  if (head.length < 64 || view.getUint32(0) !== 0x7f454c46 || head[5] !== LITTLE_ENDIAN) return undefined;
  const wide = head[4] === 2;
  const table = wide ? Number(view.getBigUint64(0x20, true)) : view.getUint32(0x1c, true);
  const size = view.getUint16(wide ? 0x36 : 0x2a, true);
  const count = view.getUint16(wide ? 0x38 : 0x2c, true);
  if (count === 0 || count > MOST_PARTS || size < (wide ? 56 : 32) || table + size * count > head.length) return undefined;
  const alignments: number[] = [];
  for (let index = 0; index < count; index++) {
    const at = table + index * size;
    if (view.getUint32(at, true) !== LOADED) continue;
    alignments.push(wide ? Number(view.getBigUint64(at + 48, true)) : view.getUint32(at + 28, true));
  }
  return alignments.length === 0 ? undefined : { bits: wide ? 64 : 32, alignment: Math.min(...alignments) };
}
