import type { FileTree } from "../../../files/tree.js";
import { baseName, join } from "../../../model/paths.js";

const ARCHIVE = "!<arch>\n";

/**
 * Whether a framework, XCFramework or library is linked at run time or into the app.
 * Source: Apple, mach-o/loader.h (file types) and mach-o/fat.h; the archive format of `ar`. `undefined` when the binary is not there.
 */
export function binaryForm(tree: FileTree, path: string): "dynamic" | "static" | undefined {
  if (path.endsWith(".a")) return tree.isFile(path) ? "static" : undefined;
  if (path.endsWith(".dylib")) return tree.isFile(path) ? "dynamic" : undefined;
  const name = baseName(path).replace(/\.(xc)?framework$/, "");
  if (path.endsWith(".framework")) return formOf(tree, join(path, name));
  if (!path.endsWith(".xcframework")) return undefined;
  for (const slice of tree.list(path)) {
    if (slice.kind !== "folder") continue;
    for (const entry of tree.list(join(path, slice.name))) {
      const inner = join(path, slice.name, entry.name);
      if (entry.name.endsWith(".framework")) return formOf(tree, join(inner, entry.name.replace(/\.framework$/, "")));
      if (entry.name.endsWith(".a")) return "static";
      if (entry.name.endsWith(".dylib")) return "dynamic";
    }
  }
  return undefined;
}

function formOf(tree: FileTree, file: string): "dynamic" | "static" | undefined {
  if (!tree.isFile(file)) return undefined;
  const head = tree.part(file, 0, 4096);
  if (!head || head.length < 16) return undefined;
  const bytes = Buffer.from(head);
  if (bytes.toString("latin1", 0, 8) === ARCHIVE) return "static";
  switch (bytes.readUInt32BE(0)) {
    case 0xcffaedfe: // 64 bit, little endian
    case 0xcefaedfe:
      return bytes.readUInt32LE(12) === 6 ? "dynamic" : "static";
    case 0xcafebabe: {
      // Several architectures: what the first of them is. Its offset may lie beyond what was read.
      const offset = bytes.length >= 20 ? bytes.readUInt32BE(16) : 0;
      const inner = tree.part(file, 0, offset + 16);
      if (!inner || inner.length < offset + 16 || offset > 1 << 24) return undefined;
      const slice = Buffer.from(inner.subarray(offset));
      if (slice.toString("latin1", 0, 8) === ARCHIVE) return "static";
      return slice.readUInt32LE(12) === 6 ? "dynamic" : "static";
    }
    default:
      return undefined;
  }
}
