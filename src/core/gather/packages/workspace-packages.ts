import { isWithin, join, parentOf } from "../../model/paths.js";
import { at, entriesOf, placeOf, textAt, textsOf, type Data } from "../../syntax/data.js";
import { parseSpecifier } from "../../versions/npm.js";
import { filesMatching } from "../globbing.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { ancestors, findInstalled, readManifest, type InstalledPackage, type NpmManifest } from "./packages.js";
import { pathAliases, toolAliases } from "./path-aliases.js";

/** How many packages of the repository an app is followed through. */
const MOST = 200;

/**
 * The packages of the repository, and the folders with a name of their own, whose code an app of scripts runs: members of its workspace and packages by path, also those that these ask for.
 * What they do counts as the app's own code. Sources: docs.npmjs.com, "workspaces"; pnpm.io, "pnpm-workspace.yaml".
 */
export function noteWorkspacePackages(
  project: ProjectFiles,
  app: FactSink,
  folder: string,
  linked: readonly { name: string; folder: string }[] = [],
): void {
  const members = membersOf(project, folder);
  const aliases = pathAliases(project, folder);
  const ofTools = toolAliases(project, folder).folders.filter(({ name }) => !aliases.some((one) => one.name === name));
  app.ownPackage(...[...aliases, ...ofTools].map((alias) => ({ ...alias, alias: true as const })));
  const open = [folder];
  const seen = new Set(open);
  const takeIn = (name: string, home: string): void => {
    if (seen.has(home)) return;
    seen.add(home);
    open.push(home);
    app.ownPackage({ name, folder: home, entries: entriesIn(project, home) });
    notePacking(project, app, name, home);
    if (isWithin(home, app.path)) return;
    app.sourceFolder(
      { folder: join(home, "android"), side: "android" },
      { folder: join(home, "ios"), side: "ios" },
      { folder: home, side: "shared" },
    );
  };
  for (const one of linked) takeIn(one.name, one.folder);
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
      if (section !== "devDependencies" && home !== undefined) takeIn(name, home);
    }
}

/** A part of the iOS folder that is none of its tests. */
const isSourceOf = (pattern: string): boolean => pattern.startsWith("ios/") && !/^ios\/\w*[tT]ests?(\/|$)/.test(pattern);

/** Folders that a build of the package writes. */
export const BUILT = /^(?:\.\/)?(?:lib|dist|build|out)\//;

/**
 * What a package of the repository says of itself and does not hold: sources that are not there, and native code that is not packed. Sources:
 * docs.npmjs.com, "package.json" (files); metrobundler.dev, "resolverMainFields" (react-native).
 */
function notePacking(project: ProjectFiles, app: FactSink, name: string, folder: string): void {
  const root = readManifest(project, folder)?.root;
  const { tree } = project;
  for (const key of ["react-native", "source"]) {
    const value = at(root, key);
    const text = textAt(value);
    if (text === undefined || BUILT.test(text) || !value) continue;
    const path = join(folder, text);
    const isThere = ["", ".ts", ".tsx", ".js", ".jsx", ".json", ".mjs"].some((ending) => tree.isFile(path + ending)) || tree.isFolder(path);
    if (!isThere)
      app.pathFollowed({ text, resolved: path, kind: "source file", exists: false, side: "shared", generated: false, at: placeOf(value) });
  }
  if (textAt(root, "private") !== "true") noteLeftOut(project, app, name, folder, at(root, "files"));
}

/**
 * Tells what a package's list of files packs, from its folder on; `undefined` where it packs all. Source: docs.npmjs.com, "package.json" (files).
 */
export function packedBy(files: Data | undefined): { patterns: readonly string[]; takes: (own: string) => boolean } | undefined {
  const patterns = textsOf(files).map((pattern) => pattern.replace(/^\.?\/|\/?\**$/g, ""));
  if (!files || patterns.some((pattern) => pattern === "" || pattern === "*")) return undefined;
  const takes = (own: string): boolean =>
    patterns.some(
      (pattern) =>
        pattern === own ||
        pattern.startsWith(`${own}/`) ||
        own.startsWith(`${pattern}/`) ||
        (pattern.startsWith("*.") && own.endsWith(pattern.slice(1))),
    );
  return { patterns, takes };
}

/** Native code that the list of what is packed leaves out. */
function noteLeftOut(project: ProjectFiles, app: FactSink, name: string, folder: string, files: Data | undefined): void {
  const { tree } = project;
  const packed = packedBy(files);
  if (!files || !packed) return;
  const { patterns, takes } = packed;
  const entries = tree.list(folder);
  const podspec = entries.find((entry) => entry.name.endsWith(".podspec"))?.name;
  const tell = (side: "android" | "ios", type: string): void =>
    app.pluginGap({ package: name, side, type, what: "not packed", at: placeOf(files) });
  if (tree.isFolder(join(folder, "android/src")) && app.android && !takes("android")) tell("android", "android");
  if (!app.ios) return;
  if (podspec !== undefined && !takes(podspec)) tell("ios", podspec);
  if (podspec !== undefined && tree.isFolder(join(folder, "ios")) && !patterns.some((one) => one === "ios" || isSourceOf(one)))
    tell("ios", "ios");
  if (tree.isFile(join(folder, "Package.swift")) && !takes("Package.swift")) tell("ios", "Package.swift");
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

/** A package as it is installed, or as it lies in the workspace or in the folder that is asked for where nothing is. */
export function findPackage(project: ProjectFiles, from: string, name: string, specifier: string): InstalledPackage | undefined {
  const found = findInstalled(project, from, name) ?? findMember(project, from, name);
  const folder = found ? undefined : homeOf(project, from, name, specifier);
  return found ?? (folder === undefined ? undefined : { name, folder, version: readManifest(project, folder)?.version });
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
  // The root is a member too. Source: yarnpkg.com, "Workspaces"; pnpm.io, "Workspace" (the root package is always included).
  const own = readManifest(project, root)?.name;
  if (own !== undefined) found.set(own, root);
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
