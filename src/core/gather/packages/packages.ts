import { join, parentOf } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import type { Place } from "../../model/place.js";
import { misspelling } from "../../model/suggest.js";
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

/** A section under a name that is almost its own: what it has is meant all the same, and the name is told. */
function misspeltSection(root: Data, section: Section): Data | undefined {
  return entriesOf(root).find(([key]) => !(SECTIONS as string[]).includes(key) && misspelling(key, [section]) !== undefined)?.[1].value;
}

export function readManifest(project: ProjectFiles, folder: string): NpmManifest | undefined {
  const file = join(folder, "package.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  if (root?.kind !== "map") return undefined;
  const declarations: NpmDeclaration[] = [];
  for (const section of SECTIONS) {
    for (const [name, { value, start }] of entriesOf(at(root, section) ?? misspeltSection(root, section))) {
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

/**
 * Finds an installed package as Node does: `node_modules` beside, then above. What an installed package asks for is looked for from its
 * real folder first, which some package managers keep elsewhere, with its own packages beside it. Source: nodejs.org, "Modules: CommonJS
 * modules", "All together" and "--preserve-symlinks".
 */
export function findInstalled(project: ProjectFiles, from: string, name: string): InstalledPackage | undefined {
  const real = /(^|\/)node_modules\//.test(from) ? project.tree.realPath(from) : undefined;
  for (const modules of [...(real === undefined || real === from ? [] : moduleFolders(project, real)), ...moduleFolders(project, from)]) {
    const folder = `${modules}/${name}`;
    const file = `${folder}/package.json`;
    if (!project.tree.isFolder(folder) || !project.tree.isFile(file)) continue;
    return { name, folder, version: textAt(project.json(file)?.root, "version") };
  }
  return undefined;
}

/** The `node_modules` folders that are seen from a folder, the nearest first. */
function moduleFolders(project: ProjectFiles, from: string): string[] {
  return project.memo(`module folders ${from}`, () =>
    ancestors(project, from)
      .map((folder) => join(folder, "node_modules"))
      .filter((folder) => project.tree.isFolder(folder)),
  );
}

/** True when a `node_modules` folder with something in it is beside or above. */
export function hasNodeModules(project: ProjectFiles, from: string): boolean {
  return moduleFolders(project, from).length > 0;
}

/** The folder and those above it, up to the root of the repository, or of the survey where there is none. */
export function ancestors(project: ProjectFiles, from: string): string[] {
  const folders: string[] = [];
  let current = from;
  while (current !== "" && !current.startsWith("../")) {
    folders.push(current);
    current = parentOf(current);
  }
  folders.push("");
  const above = enclosing(project);
  for (let step = ".."; above !== undefined && step.length <= above.length; step = `../${step}`) folders.push(step);
  return folders;
}

/**
 * Where the survey was asked for a part of a repository or workspace only: the root of that, as steps up (`../..`). What lies above is not
 * the project's; a tree does not show it.
 */
function enclosing(project: ProjectFiles): string | undefined {
  return project.memo("enclosing", () => findEnclosing(project));
}

function findEnclosing({ tree }: ProjectFiles): string | undefined {
  const isRoot = (folder: string): boolean => tree.isFolder(join(folder, ".git")) || tree.isFile(join(folder, ".git"));
  if (isRoot("")) return undefined;
  let workspace: string | undefined;
  let above = "..";
  for (let depth = 0; depth < 8 && tree.isFolder(above); depth++) {
    if (isRoot(above)) return above;
    if (["package.json", "pnpm-workspace.yaml", "pubspec.yaml"].some((file) => tree.isFile(join(above, file)))) workspace = above;
    above = `../${above}`;
  }
  return workspace;
}
