/** What is asked of a binary file: some of its bytes; fewer where it ends, nothing where it is not there. */
export type ReadBytes = (offset: number, length: number) => Uint8Array | undefined;

/** What a binary for Apple's systems uses of what is not in it. */
export interface BinaryUses {
  /** Names of symbols that it takes from elsewhere, as C writes them: without the underscore in front. */
  symbols: Set<string>;
  /** Messages of Objective-C that it sends or answers. */
  selectors: Set<string>;
}

/** The part of a file in which one architecture's code, or its archive, lies. */
interface Span {
  offset: number;
  length: number;
}

const ARCHIVE = "!<arch>\n";
const FAT = 0xcafebabe;
const WIDE_LITTLE_ENDIAN = 0xfeedfacf;
const NARROW_LITTLE_ENDIAN = 0xfeedface;
const ARM64 = 0x0100000c;
const DYNAMIC_LIBRARY = 6;
const SEGMENT_64 = 0x19;
const SYMBOLS = 0x2;
const DYNAMIC_SYMBOLS = 0xb;

const MOST_ARCHITECTURES = 16;
const MOST_MEMBERS = 20_000;
const MOST_COMMANDS = 1 << 20;
/** How many bytes of names are read. */
const MOST_NAMES = 16 << 20;
/** An archive is read in one piece; larger ones are not. */
const LARGEST_ARCHIVE = 16 << 20;

/**
 * Whether a binary is linked when the app runs, or becomes part of it. `undefined` for what is neither.
 * Source: Apple, mach-o/loader.h (file types) and mach-o/fat.h; the archive format of `ar`.
 */
export function formOfBinary(read: ReadBytes): "dynamic" | "static" | undefined {
  const span = deviceSpan(read);
  const head = span && bytesOf(read, span.offset, 16);
  if (!head) return undefined;
  if (isArchive(head)) return "static";
  const magic = head.readUInt32LE(0);
  if (magic !== WIDE_LITTLE_ENDIAN && magic !== NARROW_LITTLE_ENDIAN) return undefined;
  return head.readUInt32LE(12) === DYNAMIC_LIBRARY ? "dynamic" : "static";
}

/**
 * What the code for devices in a binary or an archive of object files uses of what others bring. What is cut off or lies about its sizes gives
 * what can be read of it; an archive that is too large to be read gives `undefined`.
 * Source: Apple, mach-o/loader.h (load commands), mach-o/nlist.h; the archive format of `ar` with long names as BSD writes them.
 */
export function usesOfBinary(read: ReadBytes, size: number): BinaryUses | undefined {
  const uses: BinaryUses = { symbols: new Set(), selectors: new Set() };
  const span = deviceSpan(read);
  if (!span) return uses;
  const budget = { names: MOST_NAMES };
  if (isArchive(bytesOf(read, span.offset, 8))) {
    const length = Math.min(span.length, size - span.offset);
    if (length > LARGEST_ARCHIVE) return undefined;
    const whole = bytesOf(read, span.offset, length);
    if (whole) for (const member of membersOf(whole)) addUses(reading(member), member.length, uses, budget);
  } else addUses((offset, length) => read(span.offset + offset, length), span.length, uses, budget);
  return uses;
}

function reading(bytes: Buffer): ReadBytes {
  return (offset, length) => bytes.subarray(offset, offset + length);
}

function bytesOf(read: ReadBytes, offset: number, length: number): Buffer | undefined {
  const bytes = read(offset, length);
  return bytes && bytes.length >= length ? Buffer.from(bytes.buffer, bytes.byteOffset, length) : undefined;
}

function isArchive(head: Buffer | undefined): boolean {
  return head?.toString("latin1", 0, 8) === ARCHIVE;
}

/** Where the code for devices is: of several architectures that of 64 bits, else the first. */
function deviceSpan(read: ReadBytes): Span | undefined {
  const head = bytesOf(read, 0, 8);
  if (head?.readUInt32BE(0) !== FAT) return head && { offset: 0, length: Number.MAX_SAFE_INTEGER };
  const count = Math.min(head.readUInt32BE(4), MOST_ARCHITECTURES);
  const table = bytesOf(read, 8, count * 20);
  if (!table || count === 0) return undefined;
  const parts = Array.from({ length: count }, (_, index) => ({
    processor: table.readUInt32BE(index * 20),
    offset: table.readUInt32BE(index * 20 + 8),
    length: table.readUInt32BE(index * 20 + 12),
  }));
  return parts.find(({ processor }) => processor === ARM64) ?? parts[0];
}

/** The files in an archive, without its own tables. */
function* membersOf(archive: Buffer): Generator<Buffer> {
  let at = ARCHIVE.length;
  for (let count = 0; count < MOST_MEMBERS && at + 60 <= archive.length; count++) {
    const head = archive.toString("latin1", at, at + 60);
    const size = Number(/^\d+/.exec(head.slice(48, 58))?.[0] ?? Number.NaN);
    if (head.slice(58) !== "`\n" || !Number.isSafeInteger(size)) return;
    const longName = Number(/^#1\/(\d+)/.exec(head)?.[1] ?? 0);
    if (longName < size) yield archive.subarray(at + 60 + longName, at + 60 + size);
    at += 60 + size + (size % 2);
  }
}

function addUses(read: ReadBytes, length: number, uses: BinaryUses, budget: { names: number }): void {
  const head = bytesOf(read, 0, 32);
  if (head?.readUInt32LE(0) !== WIDE_LITTLE_ENDIAN) return;
  const commands = bytesOf(read, 32, Math.min(head.readUInt32LE(20), MOST_COMMANDS));
  const inside = (from: number, size: number): Buffer | undefined => {
    if (from + size > length || size > budget.names) return undefined;
    budget.names -= size;
    return bytesOf(read, from, size);
  };
  let table: { at: number; count: number; names: number; size: number } | undefined;
  let wanted = { from: 0, count: Number.MAX_SAFE_INTEGER };
  for (const [command, body] of commandsIn(commands)) {
    if (command === SYMBOLS && body.length >= 24)
      table = { at: body.readUInt32LE(8), count: body.readUInt32LE(12), names: body.readUInt32LE(16), size: body.readUInt32LE(20) };
    if (command === DYNAMIC_SYMBOLS && body.length >= 32) wanted = { from: body.readUInt32LE(24), count: body.readUInt32LE(28) };
    if (command === SEGMENT_64) for (const { at, size } of messagesIn(body)) addNames(inside(at, size), uses.selectors);
  }
  if (!table) return;
  const count = Math.max(0, Math.min(wanted.count, table.count - wanted.from));
  const entries = inside(table.at + wanted.from * 16, count * 16);
  const names = inside(table.names, table.size);
  if (!entries || !names) return;
  for (let at = 0; at < entries.length; at += 16) {
    const type = entries[at + 4] ?? 0;
    const start = entries.readUInt32LE(at);
    // External and defined nowhere in this file; no entry of a debugger.
    if ((type & 0xe0) !== 0 || (type & 0x0f) !== 0x01 || start >= names.length) continue;
    const end = names.indexOf(0, start);
    uses.symbols.add(names.toString("latin1", start, end < 0 ? undefined : end).replace(/^_/, ""));
  }
}

function* commandsIn(commands: Buffer | undefined): Generator<[command: number, body: Buffer]> {
  if (!commands) return;
  for (let at = 0; at + 8 <= commands.length;) {
    const size = commands.readUInt32LE(at + 4);
    if (size < 8 || at + size > commands.length) return;
    yield [commands.readUInt32LE(at), commands.subarray(at, at + size)];
    at += size;
  }
}

/** Where a segment has the names of messages. */
function messagesIn(segment: Buffer): { at: number; size: number }[] {
  if (segment.length < 72) return [];
  const found: { at: number; size: number }[] = [];
  for (let at = 72; at + 80 <= segment.length; at += 80)
    if (segment.toString("latin1", at, at + 16).replace(/\0.*$/s, "") === "__objc_methname")
      found.push({ at: segment.readUInt32LE(at + 48), size: Number(segment.readBigUInt64LE(at + 40)) });
  return found;
}

function addNames(bytes: Buffer | undefined, names: Set<string>): void {
  for (const name of bytes?.toString("latin1").split("\0") ?? []) if (name !== "") names.add(name);
}
