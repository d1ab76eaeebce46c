import { gunzipSync } from "node:zlib";
import { parseTar } from "nanotar";

/** How large an unpacked archive may be, in bytes. */
const LARGEST = 64 * 1024 * 1024;

/** The texts of files in a packed archive, those whose names are wanted; none when it cannot be unpacked or is too large. */
export function readTarball(bytes: Uint8Array, wanted: (name: string) => boolean): Record<string, string> | undefined {
  try {
    // A copy: the reader takes the whole memory that a buffer lies in, which Node.js shares among small ones.
    const archive = new Uint8Array(gunzipSync(bytes, { maxOutputLength: LARGEST }));
    if (!moves(archive)) return undefined;
    const files = parseTar(archive.buffer, { filter: ({ name }) => wanted(name) });
    return Object.fromEntries(files.map(({ name, text }) => [name, text]));
  } catch {
    return undefined;
  }
}

/** Whether every size in an archive's headers is one: at a negative one the reader would stay for ever. Source: POSIX, "ustar Interchange Format". */
function moves(archive: Uint8Array): boolean {
  const block = 512;
  for (let offset = 0; offset + block <= archive.length && archive[offset] !== 0;) {
    const size = String.fromCharCode(...archive.subarray(offset + 124, offset + 136));
    if (!/^ *[0-7]+[ \0]*$/.test(size)) return false;
    offset += block + block * Math.ceil(Number.parseInt(size, 8) / block);
  }
  return true;
}
