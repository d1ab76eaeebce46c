import { join, parentOf } from "../../model/paths.js";
import type { Project } from "../../files/project.js";
import type { Place } from "../../model/place.js";
import { known, type Value } from "../../model/value.js";
import { at, entriesOf, placeOf, textAt, textsOf, type Data } from "../../syntax/data.js";

export type Section = "dependencies" | "devDependencies" | "optionalDependencies" | "peerDependencies";

export interface NpmDeclaration {
  name: string;
  specifier: Value & { kind: "known" };
  section: Section;
  at: Place;
}

export interface NpmManifest {
  file: string;
  folder: string;
  name: string | undefined;
  version: string | undefined;
  declarations: NpmDeclaration[];
  workspaces: string[];
  scripts: { name: string; command: string; at: Place }[];
  root: Data;
}

const SECTIONS: Section[] = ["dependencies", "devDependencies", "optionalDependencies", "peerDependencies"];

export function readManifest(project: Project, folder: string): NpmManifest | undefined {
  const file = join(folder, "package.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  if (root?.kind !== "map") return undefined;
  const declarations: NpmDeclaration[] = [];
  for (const section of SECTIONS) {
    for (const [name, { value, start }] of entriesOf(at(root, section))) {
      if (value.kind === "scalar" && typeof value.value === "string") {
        declarations.push({
          name,
          section,
          specifier: known(value.value, placeOf(value)) as NpmDeclaration["specifier"],
          at: value.source.place(start),
        });
      }
    }
  }
  const workspaces = at(root, "workspaces");
  return {
    file,
    folder,
    name: textAt(root, "name"),
    version: textAt(root, "version"),
    declarations,
    workspaces: textsOf(workspaces?.kind === "map" ? at(workspaces, "packages") : workspaces),
    scripts: entriesOf(at(root, "scripts")).flatMap(([name, { value }]) =>
      value.kind === "scalar" ? [{ name, command: String(value.value), at: placeOf(value) }] : [],
    ),
    root,
  };
}

export interface InstalledPackage {
  name: string;
  /** Folder as reached through `node_modules`, relative to the survey's root. */
  folder: string;
  version: string | undefined;
}

/** Finds an installed package as Node does: `node_modules` beside, then above. Links are followed by the file system. */
export function findInstalled(project: Project, from: string, name: string): InstalledPackage | undefined {
  for (const modules of moduleFolders(project, from)) {
    const folder = `${modules}/${name}`;
    const file = `${folder}/package.json`;
    if (!project.tree.isFolder(folder) || !project.tree.isFile(file)) continue;
    return { name, folder, version: textAt(project.json(file)?.root, "version") };
  }
  return undefined;
}

const moduleFolderCache = new WeakMap<Project, Map<string, string[]>>();

/** The `node_modules` folders that are seen from a folder, the nearest first. */
function moduleFolders(project: Project, from: string): string[] {
  let cache = moduleFolderCache.get(project);
  if (!cache) moduleFolderCache.set(project, (cache = new Map()));
  let folders = cache.get(from);
  if (!folders) {
    folders = ancestors(project, from)
      .map((folder) => join(folder, "node_modules"))
      .filter((folder) => project.tree.isFolder(folder));
    cache.set(from, folders);
  }
  return folders;
}

/** True when a `node_modules` folder with something in it is beside or above. */
export function hasNodeModules(project: Project, from: string): boolean {
  return moduleFolders(project, from).length > 0;
}

/** The folder and those above it, up to the root of the repository, or of the survey where there is none. */
export function ancestors(project: Project, from: string): string[] {
  const folders: string[] = [];
  let current = from;
  while (current !== "" && !current.startsWith("../")) {
    folders.push(current);
    current = parentOf(current);
  }
  folders.push("");
  // The survey may have been asked for a part of a repository only.
  let above = "";
  for (let depth = 0; depth < 8 && !project.tree.isFolder(join(above, ".git")) && !project.tree.isFile(join(above, ".git")); depth++) {
    above = above === "" ? ".." : `../${above}`;
    if (!project.tree.isFolder(above)) break;
    if (project.tree.isFolder(join(above, ".git"))) {
      for (let step = ".."; step.length <= above.length; step = `../${step}`) folders.push(step);
      break;
    }
  }
  return folders;
}
