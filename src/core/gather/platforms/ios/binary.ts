import type { FileTree } from "../../../files/tree.js";
import { baseName, join } from "../../../model/paths.js";
import { at, textAt } from "../../../syntax/data.js";
import { formOfBinary, type ReadBytes } from "../../../syntax/mach-o.js";
import type { ProjectFiles } from "../../project-files.js";

/**
 * Whether a framework, XCFramework or library is linked at run time or into the app. `undefined` when the binary is not there.
 */
export function binaryForm(tree: FileTree, path: string): "dynamic" | "static" | undefined {
  if (path.endsWith(".a")) return tree.isFile(path) ? "static" : undefined;
  if (path.endsWith(".dylib")) return tree.isFile(path) ? "dynamic" : undefined;
  if (path.endsWith(".framework")) return formOf(tree, binaryOf(path));
  if (!path.endsWith(".xcframework")) return undefined;
  for (const slice of tree.list(path)) {
    if (slice.kind !== "folder") continue;
    for (const entry of tree.list(join(path, slice.name))) {
      const inner = join(path, slice.name, entry.name);
      if (entry.name.endsWith(".framework")) return formOf(tree, binaryOf(inner));
      if (entry.name.endsWith(".a")) return "static";
      if (entry.name.endsWith(".dylib")) return "dynamic";
    }
  }
  return undefined;
}

/** The binary of a framework, as iOS lays it out; of a library the file itself. */
export function binaryOf(path: string): string {
  return path.endsWith(".framework") ? join(path, baseName(path).replace(/\.framework$/, "")) : path;
}

/** Reads a file by its bytes. */
export function bytesIn(tree: FileTree, file: string): ReadBytes {
  return (offset, length) => tree.part(file, offset, length);
}

function formOf(tree: FileTree, file: string): "dynamic" | "static" | undefined {
  return tree.isFile(file) ? formOfBinary(bytesIn(tree, file)) : undefined;
}

/** The version that a framework, or the part of an XCFramework for devices, says in its property list. */
export function versionOfFramework(project: ProjectFiles, path: string): string | undefined {
  const { tree } = project;
  const part = tree.list(path).find(({ name, kind }) => kind === "folder" && /^ios-/.test(name) && !/-(simulator|maccatalyst)$/.test(name));
  const folder = path.endsWith(".xcframework") && part ? join(path, part.name) : undefined;
  const inside = folder === undefined ? undefined : tree.list(folder).find(({ name }) => name.endsWith(".framework"));
  const file = join(inside && folder !== undefined ? join(folder, inside.name) : path, "Info.plist");
  const text = tree.isFile(file) ? textAt(at(project.plist(file)?.root, "CFBundleShortVersionString")) : undefined;
  return text !== undefined && /^\d+(\.\d+)*$/.test(text) ? text : undefined;
}
