import { readFileSync } from "node:fs";
import AdmZip from "adm-zip";

type Content = string | Uint8Array;

/** Files in which what has `!/` in its path (`libs/a.aar!/AndroidManifest.xml`) is in an archive, unless that is given as a whole. */
export function packed(files: Readonly<Record<string, Content>>): Record<string, Content> {
  const result: Record<string, Content> = {};
  const archives = new Map<string, Record<string, Content>>();
  for (const [path, content] of Object.entries(files)) {
    const at = path.indexOf("!/");
    if (at === -1) result[path] = content;
    else {
      const archive = path.slice(0, at);
      archives.set(archive, { ...archives.get(archive), [path.slice(at + 2)]: content });
    }
  }
  for (const [archive, inside] of archives) result[archive] ??= zip(packed(inside));
  return result;
}

/** An archive with these files. */
export function zip(files: Readonly<Record<string, Content>>): Buffer {
  const made = new AdmZip();
  for (const [path, content] of Object.entries(files)) made.addFile(path, Buffer.from(content));
  return made.toBuffer();
}

/** A file on disk, or one in an archive there (`libs/a.aar!/AndroidManifest.xml`). */
export function unpacked(file: string): Buffer {
  const [archive = "", ...inside] = file.split("!/");
  return inside.reduce<Buffer>((bytes, name) => new AdmZip(bytes).readFile(name) ?? Buffer.alloc(0), readFileSync(archive));
}

/** What a binary for Apple's systems is made of. */
export interface Binary {
  /** 6 is a dynamic library, 1 an object file, which goes into the app. */
  type?: number;
  /** Names that it takes from elsewhere, as C writes them. */
  symbols?: readonly string[];
  /** Names that it has itself. */
  own?: readonly string[];
  /** Messages that it sends. */
  selectors?: readonly string[];
}

/** A binary of 64 bits. Layout: mach-o/loader.h, mach-o/nlist.h. */
export function machO({ type = 6, symbols = [], own = [], selectors = [] }: Binary): Buffer {
  const names = ["", ...own, ...symbols].map((name) => `_${name}\0`);
  const messages = Buffer.from(selectors.map((name) => `${name}\0`).join(""));
  const [segment, table, dynamic] = [Buffer.alloc(152), Buffer.alloc(24), Buffer.alloc(80)];
  const start = 32 + segment.length + table.length + dynamic.length;
  const entries = Buffer.alloc((own.length + symbols.length) * 16);
  let at = (names[0] as string).length;
  for (const [index, name] of names.slice(1).entries()) {
    entries.writeUInt32LE(at, index * 16);
    entries[index * 16 + 4] = index < own.length ? 0x0f : 0x01;
    at += name.length;
  }
  const text = Buffer.from(names.join(""));
  segment.writeUInt32LE(0x19, 0);
  segment.writeUInt32LE(segment.length, 4);
  segment.write("__objc_methname", 72);
  segment.write("__TEXT", 88);
  segment.writeBigUInt64LE(BigInt(messages.length), 72 + 40);
  segment.writeUInt32LE(start + entries.length + text.length, 72 + 48);
  for (const [index, value] of [0x2, table.length, start, own.length + symbols.length, start + entries.length, text.length].entries())
    table.writeUInt32LE(value, index * 4);
  for (const [index, value] of [0xb, dynamic.length, 0, 0, 0, own.length, own.length, symbols.length].entries())
    dynamic.writeUInt32LE(value, index * 4);
  const head = Buffer.alloc(32);
  for (const [index, value] of [0xfeedfacf, 0x0100000c, 0, type, 3, segment.length + table.length + dynamic.length].entries())
    head.writeUInt32LE(value, index * 4);
  return Buffer.concat([head, segment, table, dynamic, entries, text, messages]);
}

/** Several architectures in one file, each by its processor. */
export function fatBinary(parts: readonly (readonly [processor: number, bytes: Buffer])[]): Buffer {
  const head = Buffer.alloc(8 + parts.length * 20);
  head.writeUInt32BE(0xcafebabe, 0);
  head.writeUInt32BE(parts.length, 4);
  let offset = head.length;
  for (const [index, [processor, bytes]] of parts.entries()) {
    const at = 8 + index * 20;
    head.writeUInt32BE(processor, at);
    head.writeUInt32BE(offset, at + 8);
    head.writeUInt32BE(bytes.length, at + 12);
    offset += bytes.length;
  }
  return Buffer.concat([head, ...parts.map(([, bytes]) => bytes)]);
}

/** A static library of object files, with names as BSD writes them. */
export function staticLibrary(members: Readonly<Record<string, Buffer>>): Buffer {
  const parts = Object.entries(members).flatMap(([name, bytes]) => {
    const size = name.length + bytes.length;
    const head = `#1/${name.length}`.padEnd(48) + String(size).padEnd(10) + "`\n";
    return [Buffer.from(head + name), bytes, Buffer.from(size % 2 === 1 ? "\n" : "")];
  });
  return Buffer.concat([Buffer.from("!<arch>\n"), ...parts]);
}
