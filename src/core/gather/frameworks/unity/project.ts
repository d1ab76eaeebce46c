import { foldersBelow } from "../../../files/walk.js";
import { OWN_SYMBOLS, TARGET_GROUPS, WRITES_NOTHING } from "../../../knowledge/unity.js";
import type { AppFacts } from "../../../model/app.js";
import { baseName, join } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, textAt, type Data } from "../../../syntax/data.js";
import { readJson } from "../../../syntax/json.js";
import { Source } from "../../../syntax/source.js";
import { readTarball } from "../../../syntax/tarball.js";
import type { DetectedApp, Discovery } from "../framework.js";
import type { ProjectFiles } from "../../project-files.js";

/** A package of the project, with the folder in which its files can be looked at. */
export interface UnityPackage {
  name: string;
  sdk: string;
  /** Where its files lie: embedded, local, or in the editor's cache. */
  folder: string | undefined;
  /** Its files are written by the team. */
  own: boolean;
  manifest: Data | undefined;
  /** Texts of the archive that it comes as, by their names in it. */
  archived?: { file: string; texts: Readonly<Record<string, string>> };
}

/** A project of the editor as far as several readers need it. */
export interface UnityProject {
  folder: string;
  settingsFile: string;
  settings: Data;
  start: Place;
  packages: UnityPackage[];
  /** Folders with files of the project and of its packages that can be looked at. */
  roots: string[];
}

/** The settings of the player; `undefined` where a folder is no project of the editor. */
export function playerSettings({ project }: Discovery, folder: string): Data | undefined {
  const file = join(folder, "ProjectSettings/ProjectSettings.asset");
  return project.tree.isFile(file) ? at(project.lockYaml(file)?.root, "PlayerSettings") : undefined;
}

/** The project of an app, read once. */
export function unityProject(discovery: Discovery, { path: folder }: DetectedApp): UnityProject | undefined {
  return discovery.project.memo(`Unity project ${folder}`, () => {
    const settings = playerSettings(discovery, folder);
    if (!settings) return undefined;
    const settingsFile = join(folder, "ProjectSettings/ProjectSettings.asset");
    const packages = packagesOf(discovery, folder);
    return {
      folder,
      settingsFile,
      settings,
      start: { file: settingsFile, line: 1, column: 1 },
      packages,
      roots: [join(folder, "Assets"), ...packages.flatMap(({ folder: own }) => own ?? [])],
    };
  });
}

/**
 * The packages that the manifest asks for and those that are embedded, which need no entry in it.
 * Source: docs.unity3d.com, "Embedded dependencies", "Local folder or tarball paths", "Package cache".
 */
function packagesOf({ project }: Discovery, folder: string): UnityPackage[] {
  const { tree } = project;
  const found: UnityPackage[] = [];
  const add = (name: string, place: string | undefined, own: boolean): void => {
    if (found.some((other) => other.name === name)) return;
    found.push({ name, sdk: sdkIdOf("unity", name), folder: place, own, manifest: place === undefined ? undefined : manifestIn(place) });
  };
  const addArchive = (name: string, file: string): void => {
    const read = tree.read(file);
    const texts = read.ok ? readTarball(read.bytes, (entry) => /\.(cs|asmdef)$|^package\/package\.json$/.test(entry)) : undefined;
    const manifest = texts?.["package/package.json"];
    found.push({
      name,
      sdk: sdkIdOf("unity", name),
      folder: undefined,
      own: false,
      manifest: manifest === undefined ? undefined : readJson(new Source(file, manifest)).root,
      ...(texts ? { archived: { file, texts } } : {}),
    });
  };
  const manifestIn = (place: string): Data | undefined => {
    const file = join(place, "package.json");
    return tree.isFile(file) ? project.json(file)?.root : undefined;
  };
  for (const { name, kind } of tree.list(join(folder, "Packages"))) {
    const place = join(folder, "Packages", name);
    if (kind === "folder" && tree.isFile(join(place, "package.json"))) add(textAt(manifestIn(place), "name") ?? name, place, true);
  }
  const manifest = join(folder, "Packages/manifest.json");
  const cache = tree.isFolder(join(folder, "Library/PackageCache")) ? tree.list(join(folder, "Library/PackageCache")) : [];
  for (const [name, { value }] of entriesOf(tree.isFile(manifest) ? at(project.json(manifest)?.root, "dependencies") : undefined)) {
    const local = /^file:(.*)$/.exec(textAt(value) ?? "")?.[1];
    if (local !== undefined) {
      const place = /^([/~]|[A-Za-z]:)/.test(local) ? undefined : join(folder, "Packages", local);
      if (place !== undefined && tree.isFile(place)) addArchive(name, place);
      else add(name, place !== undefined && tree.isFolder(place) ? place : undefined, true);
      continue;
    }
    // The maker's own packages are large, and most have nothing that matters here.
    const cached = WRITES_NOTHING.test(name)
      ? undefined
      : cache.find((entry) => entry.kind === "folder" && entry.name.startsWith(`${name}@`));
    add(name, cached && join(folder, "Library/PackageCache", cached.name), false);
  }
  return found;
}

/** Packages whose files are not here, so that nothing tells what they do when the project is built. */
export function unseenPackages({ packages }: UnityProject): UnityPackage[] {
  return packages.filter(({ name, folder, archived }) => folder === undefined && !archived && !WRITES_NOTHING.test(name));
}

const MAX_DEPTH = 12;

/** The folders below one with the names of what they hold; also of one that lies outside of what is walked. */
export function* foldersIn(
  { index, project }: Discovery,
  folder: string,
  depth = 0,
): Generator<[string, { files: readonly string[]; folders: readonly string[] }]> {
  if (index.has(folder)) {
    yield* foldersBelow(index, folder);
    return;
  }
  const entries = project.tree.list(folder);
  const folders = entries.filter(({ kind, link, name }) => kind === "folder" && !link && !/~$|^\./.test(name)).map(({ name }) => name);
  yield [folder, { files: entries.filter(({ kind }) => kind === "file").map(({ name }) => name), folders }];
  if (depth < MAX_DEPTH)
    for (const name of folders)
      if (!/\.(framework|xcframework|bundle)$/.test(name)) yield* foldersIn({ index, project } as Discovery, join(folder, name), depth + 1);
}

/** Whether code in a folder is for the editor alone. Source: docs.unity3d.com, "Special folder names". */
export function isEditorFolder(folder: string): boolean {
  return /(^|\/)Editor(\/|$)/.test(folder);
}

export interface BuildSymbols {
  defined: Record<"android" | "ios", string[]>;
  /** Symbols that something may define: version defines of assemblies, scripts of the editor. */
  open: string[];
}

/**
 * The symbols that scripts are compiled with. Source: docs.unity3d.com, "Conditional compilation", "Custom scripting symbols" (player settings,
 * csc.rsp), "Assembly Definition file format" (versionDefines).
 */
export function buildSymbols(discovery: Discovery, unity: UnityProject): BuildSymbols {
  const { project } = discovery;
  const found: BuildSymbols = { defined: { android: [], ios: [] }, open: [] };
  for (const [group, { value }] of entriesOf(at(unity.settings, "scriptingDefineSymbols"))) {
    const side = TARGET_GROUPS[group];
    if (side) found.defined[side].push(...(textAt(value) ?? "").split(/[;,\s]+/).filter(Boolean));
  }
  addResponseFiles(project, unity, found);
  for (const root of unity.roots)
    for (const [folder, { files }] of foldersIn(discovery, root))
      for (const name of files) {
        if (name.endsWith(".asmdef"))
          for (const define of itemsText(at(project.json(join(folder, name))?.root, "versionDefines"))) found.open.push(define);
        else if (name.endsWith(".cs") && isEditorFolder(folder)) {
          const text = project.text(join(folder, name))?.text ?? "";
          if (/DefineSymbols/.test(text))
            for (const match of text.matchAll(/["']([A-Z][A-Z0-9_]{2,})["']/g)) found.open.push(match[1] as string);
        } else if (/\.rsp$/.test(name) && baseName(folder) !== "Assets")
          found.open.push(...(project.text(join(folder, name))?.text.match(/[A-Z][A-Z0-9_]+/g) ?? []));
      }
  return found;
}

/** Symbols of the files with the compiler's options. */
function addResponseFiles(project: ProjectFiles, unity: UnityProject, found: BuildSymbols): void {
  for (const name of ["csc.rsp", "mcs.rsp"]) {
    const text = project.tree.isFile(join(unity.folder, "Assets", name))
      ? project.text(join(unity.folder, "Assets", name))?.text
      : undefined;
    for (const match of text?.matchAll(/[-/]d(?:efine)?:\s*("?)([\w;,]+)\1/g) ?? [])
      for (const side of ["android", "ios"] as const) found.defined[side].push(...(match[2] as string).split(/[;,]/).filter(Boolean));
  }
}

function itemsText(list: Data | undefined): string[] {
  return list?.kind === "list" ? list.items.flatMap((item) => textAt(item, "define") ?? []) : [];
}

/** Whether a symbol is defined in what is built for a side; in the editor, while it builds, `UNITY_EDITOR` is too. */
export function isDefined(
  { defined, open }: NonNullable<AppFacts["buildSymbols"]>,
  side: "android" | "ios",
  name: string,
  inEditor: boolean,
): boolean | undefined {
  if (name === "UNITY_IOS" || name === "UNITY_IPHONE") return side === "ios";
  if (name === "UNITY_ANDROID") return side === "android";
  if (name === "UNITY_EDITOR") return inEditor;
  if (defined[side].includes(name)) return true;
  if (/^UNITY_(STANDALONE|WEBGL|TVOS|WSA|SERVER|PS\d|XBOX\w*|SWITCH)/.test(name)) return false;
  return OWN_SYMBOLS.test(name) || open.includes(name) ? undefined : false;
}
