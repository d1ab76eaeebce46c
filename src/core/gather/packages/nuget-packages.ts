import { join } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { compareIn } from "../../versions/ecosystem.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { readAndroidBinary } from "./android-binaries.js";

/** Folders of a package that hold what goes into Android apps, by the framework that they are for. */
const FOR_ANDROID = /^(?:net(\d+(?:\.\d+)?)-android([\d.]*)|monoandroid([\d.]*))$/i;

/**
 * What the packages of an app of .NET bring as archives of Android, as far as they lie in the folder of fetched packages: of each the version that
 * the lock or the project states. Sources: learn.microsoft.com, "Managing the global packages, cache, and temp folders" (layout), "Target frameworks in
 * SDK-style projects" (names), "Binding a Java library" (archives in packages).
 */
export function readNugetPackages(project: ProjectFiles, app: FactSink): void {
  const { tree, packageFolders } = project;
  if (app.kind !== "dotnet" || !app.android) return;
  for (const { ecosystem, name, sdk, side, test, locked, declared } of app.dependencies) {
    const version = locked ?? textOf(declared);
    if (ecosystem !== "nuget" || side === "ios" || test || version === undefined || !/^[\w.+-]+$/.test(version) || !/^[\w.-]+$/.test(name))
      continue;
    for (const store of packageFolders) {
      const lib = join(store, `${name.toLowerCase()}/${version.toLowerCase()}/lib`);
      const folder = nearest(tree.list(lib).flatMap((entry) => (entry.kind === "folder" ? entry.name : [])));
      if (folder === undefined) continue;
      for (const entry of tree.list(join(lib, folder)))
        if (entry.kind === "file" && /\.(aar|jar)$/i.test(entry.name))
          readAndroidBinary(project, app, { file: join(lib, `${folder}/${entry.name}`), by: name, sdk });
      break;
    }
  }
}

/** The folder for the newest framework. */
function nearest(folders: readonly string[]): string | undefined {
  const rank = (folder: string): string => {
    const [, net, , mono] = FOR_ANDROID.exec(folder) ?? [];
    return net ?? (mono === undefined ? "0" : "1");
  };
  return folders.filter((folder) => FOR_ANDROID.test(folder)).sort((a, b) => compareIn("nuget", rank(b), rank(a)))[0];
}
