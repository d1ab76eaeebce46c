import { insideArchive } from "../../files/archives.js";
import type { FileTree } from "../../files/tree.js";
import type { Dependency } from "../../model/facts.js";
import { join } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { compareIn } from "../../versions/ecosystem.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { readAppleFramework } from "./apple-frameworks.js";

/** Folders of a package that hold what goes into the apps of a side, by the framework that they are for. */
const FOLDERS = {
  android: /^(?:net(\d+(?:\.\d+)?)-android[\d.]*|monoandroid[\d.]*)$/i,
  ios: /^(?:net(\d+(?:\.\d+)?)-ios[\d.]*|xamarin\.?ios[\d.]*)$/i,
};

/**
 * What the packages of an app of .NET bring as archives of Android and as frameworks of Apple, as far as they lie in the folder of
 * fetched packages: of each the version that the lock or the project states. Sources: learn.microsoft.com, "Managing the global packages, cache, and temp
 * folders" (layout), "Target frameworks in SDK-style projects" (names), "Binding a Java library" (archives in packages), "One .NET CLI project for
 * bindings" (native references beside the assembly in `NAME.resources`, packed or not).
 */
export function readNugetPackages(project: ProjectFiles, app: FactSink): void {
  if (app.kind !== "dotnet") return;
  for (const dependency of app.dependencies) {
    const { ecosystem, name, sdk, side, test, places } = dependency;
    const lib = ecosystem === "nuget" && !test ? libraryFolder(project, dependency) : undefined;
    if (lib === undefined) continue;
    if (app.android && side !== "ios")
      for (const file of filesFor(project.tree, lib, "android"))
        if (/\.(aar|jar)$/i.test(file)) app.androidLibrary({ file, by: name, sdk, places });
    if (app.ios && side !== "android")
      for (const framework of frameworksIn(project.tree, filesFor(project.tree, lib, "ios")))
        readAppleFramework(project, app, framework, name, sdk);
  }
}

/** The folder with the assemblies of a fetched package; the first place that has it. */
function libraryFolder({ tree, packageFolders }: ProjectFiles, { name, locked, declared }: Dependency): string | undefined {
  const version = locked ?? textOf(declared);
  if (version === undefined || !/^[\w.+-]+$/.test(version) || !/^[\w.-]+$/.test(name)) return undefined;
  return packageFolders
    .map((store) => join(store, `${name.toLowerCase()}/${version.toLowerCase()}/lib`))
    .find((folder) => tree.isFolder(folder));
}

/** What lies in the folder for the newest framework of a side: files and folders. */
function filesFor(tree: FileTree, lib: string, side: "android" | "ios"): string[] {
  const rank = (folder: string): string => FOLDERS[side].exec(folder)?.[1] ?? "0";
  const [newest] = tree
    .list(lib)
    .flatMap(({ name, kind }) => (kind === "folder" && FOLDERS[side].test(name) ? name : []))
    .sort((a, b) => compareIn("nuget", rank(b), rank(a)));
  return newest === undefined ? [] : tree.list(join(lib, newest)).map(({ name }) => join(lib, `${newest}/${name}`));
}

/** Frameworks beside the assembly, and those that lie in a folder or an archive with its resources. */
function frameworksIn(tree: FileTree, files: readonly string[]): string[] {
  const inside = files.flatMap((file) => {
    const folder = /\.resources$/.test(file) ? file : /\.resources\.zip$/.test(file) ? insideArchive(file, "") : undefined;
    return folder === undefined ? [] : tree.list(folder).map(({ name }) => (folder === file ? join(folder, name) : `${folder}${name}`));
  });
  return [...files, ...inside].filter((path) => /\.(xc)?framework$/.test(path));
}
