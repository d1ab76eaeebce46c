import { isWithin, join, parentOf } from "../../model/paths.js";
import { at, entriesOf, textAt, textsOf, type Data } from "../../syntax/data.js";
import { parseSpecifier } from "../../versions/npm.js";
import { filesMatching } from "../globbing.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { ancestors, findInstalled, readManifest, type InstalledPackage, type NpmManifest } from "./packages.js";
import { pathAliases } from "./path-aliases.js";

/** How many packages of the repository an app is followed through. */
const MOST = 200;

/**
 * The packages of the repository, and the folders with a name of their own, whose code an app of scripts runs: members of its workspace and packages by path, also those that these ask for.
 * What they do counts as the app's own code. Sources: docs.npmjs.com, "workspaces"; pnpm.io, "pnpm-workspace.yaml".
 */
export function noteWorkspacePackages(project: ProjectFiles, app: FactSink, folder: string): void {
  const members = membersOf(project, folder);
  app.ownPackage(...pathAliases(project, folder).map((alias) => ({ ...alias, alias: true as const })));
  const open = [folder];
  const seen = new Set(open);
  for (let from = open.shift(); from !== undefined && seen.size < MOST; from = open.shift())
    for (const { name, section, specifier, at: declared } of readManifest(project, from)?.declarations ?? []) {
      const home = homeOf(project, from, name, specifier.text) ?? members.get(name);
      // Asked for as a member of the workspace, which has none of that name.
      if (home === undefined && from === folder && specifier.text.startsWith("workspace:") && members.size > 0)
        app.pathFollowed({
          text: name,
          resolved: undefined,
          kind: "package",
          exists: false,
          side: "shared",
          generated: false,
          at: declared,
        });
      if (section === "devDependencies") continue;
      if (home === undefined || seen.has(home)) continue;
      seen.add(home);
      open.push(home);
      app.ownPackage({ name, folder: home, entries: entriesIn(project, home) });
      if (isWithin(home, app.path)) continue;
      app.sourceFolder(
        { folder: join(home, "android"), side: "android" },
        { folder: join(home, "ios"), side: "ios" },
        { folder: home, side: "shared" },
      );
    }
}

/** The packages of the repository that an app takes in, also through others, the app's own left out. */
export function reachedMembers(project: ProjectFiles, folder: string): NpmManifest[] {
  const members = membersOf(project, folder);
  const open = [folder];
  const seen = new Set(open);
  const found: NpmManifest[] = [];
  for (let from = open.shift(); from !== undefined && seen.size < MOST; from = open.shift())
    for (const { name, section, specifier } of readManifest(project, from)?.declarations ?? []) {
      const home = section === "devDependencies" ? undefined : (homeOf(project, from, name, specifier.text) ?? members.get(name));
      const manifest = home === undefined || seen.has(home) ? undefined : readManifest(project, home);
      if (!manifest || home === undefined) continue;
      seen.add(home);
      open.push(home);
      found.push(manifest);
    }
  return found;
}

/** Where a package lies in the project: what is installed is a link to it, or its specifier names a folder. */
function homeOf(project: ProjectFiles, from: string, name: string, text: string): string | undefined {
  const { tree } = project;
  const installed = findInstalled(project, from, name);
  const specifier = parseSpecifier(text);
  const folder = installed ? tree.realPath(installed.folder) : specifier.kind === "path" ? join(from, specifier.path) : undefined;
  return folder === undefined ||
    folder.startsWith("..") ||
    /(^|\/)node_modules(\/|$)/.test(folder) ||
    !tree.isFile(join(folder, "package.json"))
    ? undefined
    : folder;
}

/** A package as it is installed, or as it lies in the workspace where nothing is. */
export function findPackage(project: ProjectFiles, from: string, name: string): InstalledPackage | undefined {
  return findInstalled(project, from, name) ?? findMember(project, from, name);
}

/** A member of the workspace around a folder: it is what an installation links to, and is here without one. */
export function findMember(project: ProjectFiles, from: string, name: string): InstalledPackage | undefined {
  const folder = membersOf(project, from).get(name);
  return folder === undefined || folder.startsWith("..") || folder === from
    ? undefined
    : { name, folder, version: readManifest(project, folder)?.version };
}

/** The members of the workspace around a folder, by name. */
function membersOf(project: ProjectFiles, folder: string): ReadonlyMap<string, string> {
  for (const root of ancestors(project, folder)) {
    if (root.startsWith("..")) break;
    const file = join(root, "pnpm-workspace.yaml");
    const patterns = [
      ...(readManifest(project, root)?.workspaces ?? []),
      ...(project.tree.isFile(file) ? textsOf(at(project.yaml(file)?.root, "packages")) : []),
    ];
    if (patterns.length > 0) return project.memo(`members of ${root}`, () => readMembers(project, root, patterns));
  }
  return new Map();
}

function readMembers(project: ProjectFiles, root: string, patterns: readonly string[]): Map<string, string> {
  const found = new Map<string, string>();
  const files = (pattern: string): string[] => filesMatching(project.tree, root, `${pattern.replace(/\/+$/, "")}/package.json`);
  const without = new Set(patterns.filter((pattern) => pattern.startsWith("!")).flatMap((pattern) => files(pattern.slice(1))));
  for (const path of patterns.filter((pattern) => !pattern.startsWith("!")).flatMap(files)) {
    if (without.has(path) || /(^|\/)node_modules\//.test(path)) continue;
    const home = join(root, parentOf(path));
    const name = readManifest(project, home)?.name;
    if (name !== undefined && !found.has(name)) found.set(name, home);
  }
  return found;
}

/** Files that may be what an import of the package by its name means, the most likely first; from its folder on. */
function entriesIn(project: ProjectFiles, folder: string): string[] {
  const root = readManifest(project, folder)?.root;
  const exported = at(root, "exports");
  // Without a path of its own what stands there is what the package gives out.
  const isList = entriesOf(exported).some(([key]) => key.startsWith("."));
  const named = [
    ...["react-native", "source", "module", "main"].flatMap((key) => textAt(root, key) ?? []),
    ...textsBelow(isList ? at(exported, ".") : exported),
  ];
  return [...new Set([...named.map((path) => path.replace(/^\.\//, "")), "src/index", "index"])];
}

/** Every text in conditions of any depth. */
function textsBelow(data: Data | undefined): string[] {
  const own = textAt(data);
  return own === undefined ? entriesOf(data).flatMap(([, { value }]) => textsBelow(value)) : [own];
}
