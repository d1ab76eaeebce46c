import { join } from "../model/paths.js";
import type { FileTree, TreeEntry } from "./tree.js";

/** Folders that hold what tools lay down; an app is never looked for in there. */
const LAID_DOWN = new Set([
  "node_modules",
  "Pods",
  "build",
  "DerivedData",
  "Carthage",
  "bower_components",
  "xcuserdata",
  "__MACOSX",
  "Intermediates.noindex",
  ".git",
  ".gradle",
  ".idea",
  ".yarn",
  ".build",
  ".cxx",
  ".dart_tool",
  ".pub-cache",
  ".expo",
  ".swiftpm",
  ".svn",
  ".hg",
]);

const MAX_DEPTH = 24;

/**
 * Folders that a tool makes anew whenever it likes, by what stands beside them.
 * Sources: docs.unity3d.com, "Special folder names" and the editor's list for version control (Library, Temp, Logs, UserSettings; names that
 * end in `~`); docs.flutter.dev, "Add Flutter to an existing app" (.android and .ios of a module), and Flutter's template for version
 * control (Flutter/ephemeral); learn.microsoft.com, "Common MSBuild project properties" (bin, obj).
 */
function generatedIn(folder: string, entries: readonly TreeEntry[]): (name: string) => boolean {
  const has = (name: string): boolean => entries.some((entry) => entry.name === name);
  if (has("Assets") && has("ProjectSettings")) return (name) => UNITY.has(name) || name.endsWith("~");
  if (has("pubspec.yaml")) return (name) => name === ".android" || name === ".ios";
  if (/(^|\/)[Ff]lutter$/.test(folder)) return (name) => name === "ephemeral";
  if (entries.some(({ name, kind }) => kind === "file" && /\.(cs|fs)proj$/.test(name))) return (name) => name === "bin" || name === "obj";
  return (name) => name.endsWith("~");
}

const UNITY = new Set(["Library", "Temp", "Logs", "obj", "UserSettings", "MemoryCaptures", "Recordings"]);

/** The names of the files in each folder of a project. */
export type FolderIndex = Map<string, { files: string[]; folders: string[] }>;

/**
 * Lists every folder of the project that people write, once. Links to folders are not followed (no circles); what tools lay
 * down and what `ignored` names is passed over.
 */
export function walk(tree: FileTree, ignored: (path: string) => boolean): FolderIndex {
  const index: FolderIndex = new Map();
  const open: { folder: string; depth: number }[] = [{ folder: "", depth: 0 }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { folder, depth } = next;
    const files: string[] = [];
    const folders: string[] = [];
    const entries = tree.list(folder);
    const generated = generatedIn(folder, entries);
    for (const entry of entries) {
      const path = folder === "" ? entry.name : `${folder}/${entry.name}`;
      if (entry.kind === "file") {
        files.push(entry.name);
        continue;
      }
      if (entry.link || LAID_DOWN.has(entry.name) || generated(entry.name) || ignored(`${path}/`)) continue;
      folders.push(entry.name);
      // A project bundle is opened by name later on; there are no apps in it.
      if (/\.(xcassets|xcworkspace|xcodeproj|framework|xcframework|bundle|lproj)$/.test(entry.name) || depth >= MAX_DEPTH) continue;
      open.push({ folder: join(path), depth: depth + 1 });
    }
    index.set(folder, { files, folders });
  }
  return index;
}

/** The folders below one of them, itself first. */
export function* foldersBelow(index: FolderIndex, folder: string): Generator<[string, { files: string[]; folders: string[] }]> {
  const entry = index.get(folder);
  if (!entry) return;
  yield [folder, entry];
  for (const name of entry.folders) yield* foldersBelow(index, folder === "" ? name : `${folder}/${name}`);
}
