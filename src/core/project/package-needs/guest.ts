import { MountedTree } from "../../files/mounted.js";
import { OverlayTree } from "../../files/overlay.js";
import type { FileTree } from "../../files/tree.js";
import { ancestors } from "../../gather/packages/packages.js";
import { ProjectFiles } from "../../gather/project-files.js";
import type { App } from "../../model/app.js";
import { GUEST } from "../../model/guest.js";
import { join } from "../../model/paths.js";
import { textAt } from "../../syntax/data.js";

/**
 * The files of a project as they would be if an app had a package: its folder where the package manager would lay it, and its name among what the
 * app declares. `undefined` where shared code gets its packages in another way.
 * @param folder the package's own files
 */
export function withPackage(tree: FileTree, { path, kind }: App, name: string, folder: FileTree): FileTree | undefined {
  switch (kind) {
    case "react-native":
    case "expo":
    case "capacitor":
    case "cordova":
      return withNpmPackage(tree, path, name, folder);
    case "flutter":
      return withDartPackage(tree, path, name, folder);
    default:
      return undefined;
  }
}

function withNpmPackage(tree: FileTree, app: string, name: string, folder: FileTree): FileTree | undefined {
  const manifest = ancestors(new ProjectFiles(tree), app)
    .map((one) => join(one, "package.json"))
    .find((file) => tree.isFile(file));
  const stated = manifest === undefined ? undefined : objectIn(tree, manifest);
  if (manifest === undefined || !stated) return undefined;
  const version = textAt(new ProjectFiles(folder).json("package.json")?.root, "version") ?? "*";
  const cordova = stated.cordova as { plugins?: object } | undefined;
  const text = JSON.stringify({
    ...stated,
    dependencies: { ...(stated.dependencies as object | undefined), [name]: version },
    ...(folder.isFile("plugin.xml") ? { cordova: { ...cordova, plugins: { ...cordova?.plugins, [name]: {} } } } : {}),
  });
  return new OverlayTree(new MountedTree(tree, join(app, `node_modules/${name}`), folder), new Map([[manifest, text]]));
}

function withDartPackage(tree: FileTree, app: string, name: string, folder: FileTree): FileTree | undefined {
  const file = join(app, "pubspec.yaml");
  const read = tree.read(file);
  const text = read.ok ? Buffer.from(read.bytes).toString("utf8") : "";
  if (!/^dependencies:[ \t]*\r?$/m.test(text)) return undefined;
  const added = text.replace(/^dependencies:[ \t]*\r?\n/m, `dependencies:\n  ${name}:\n    path: ${GUEST}\n`);
  return new OverlayTree(new MountedTree(tree, join(app, GUEST), folder), new Map([[file, added]]));
}

/** What a JSON file holds, where that is an object. */
function objectIn(tree: FileTree, file: string): Record<string, unknown> | undefined {
  const read = tree.read(file);
  try {
    const value: unknown = read.ok
      ? JSON.parse(
          Buffer.from(read.bytes)
            .toString("utf8")
            .replace(/^\ufeff/, ""),
        )
      : undefined;
    return typeof value === "object" && value !== null ? (value as Record<string, unknown>) : undefined;
  } catch {
    return undefined;
  }
}
