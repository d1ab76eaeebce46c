import type { ProjectFiles } from "../../project-files.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { baseName, isInstalled, join } from "../../../model/paths.js";
import { textIn, type Result } from "../../../evaluate/values.js";
import { exportsOf } from "../script-config.js";

/** What `react-native.config.js` of an app or a package says. */
export interface NativeConfig {
  androidFolder?: string;
  iosFolder?: string;
  /** Packages whose linking is switched off, per side. */
  off: { name: string; side: SideName; place: Dependency["places"][number] }[];
  /** Packages that lie in a folder of the repository and are linked from there, beside those that the app's list has. */
  linked: { name: string; folder: string; place: Dependency["places"][number] }[];
  /** Folders that it names for packages and that are not there. */
  lost: { text: string; folder: string; place: Dependency["places"][number] }[];
  /** For a package's own file: sides that it does not link. */
  own: { android?: string | false; ios?: string | false };
}

/** The names that such a file can have. */
export const CONFIG_FILES = ["react-native.config.js", "react-native.config.cjs", "react-native.config.mjs", "react-native.config.ts"];

function entry(result: Result | undefined, ...path: string[]): Result | undefined {
  return path.reduce<Result | undefined>((at, name) => (at?.kind === "map" ? at.entries.get(name) : undefined), result);
}

function isOff(result: Result | undefined): boolean {
  return result?.kind === "nothing" || textIn(result) === "false";
}

/** Reads `react-native.config.js` statically. Source: the React Native command line's documentation, "Configuration". */
export function readConfig(project: ProjectFiles, folder: string): NativeConfig {
  const config: NativeConfig = { off: [], linked: [], lost: [], own: {} };
  const file = CONFIG_FILES.map((name) => join(folder, name)).find((candidate) => project.tree.isFile(candidate));
  const script = file ? project.script(file) : undefined;
  const exported = file === undefined ? undefined : exportsOf(project, file)?.result;
  if (!script || exported?.kind !== "map") return config;
  config.androidFolder = textIn(entry(exported, "project", "android", "sourceDir"));
  config.iosFolder = textIn(entry(exported, "project", "ios", "sourceDir"));
  readDependencies(project, config, folder, { of: entry(exported, "dependencies"), start: script.source.place(0) });
  for (const side of ["android", "ios"] as const) {
    const value = entry(exported, "dependency", "platforms", side);
    if (isOff(value)) config.own[side] = false;
    else {
      const folderText = textIn(entry(value, side === "android" ? "sourceDir" : "podspecPath"));
      if (folderText !== undefined) config.own[side] = folderText;
    }
  }
  return config;
}

/** What it says of single packages: which sides are not linked, and where they lie. */
function readDependencies(
  project: ProjectFiles,
  config: NativeConfig,
  folder: string,
  { of, start }: { of: Result | undefined; start: Dependency["places"][number] },
): void {
  if (of?.kind !== "map") return;
  for (const [name, value] of of.entries) {
    const place = of.keys?.get(name) ?? start;
    for (const side of ["android", "ios"] as const) if (isOff(entry(value, "platforms", side))) config.off.push({ name, side, place });
    const root = textIn(entry(value, "root"));
    if (root !== undefined) noteRoot(project, config, { name, text: root, folder: join(folder, root), place });
  }
}

/** The folder in which a package lies that a configuration links. */
function noteRoot(project: ProjectFiles, config: NativeConfig, root: NativeConfig["lost"][number] & { name: string }): void {
  const { name, folder, place } = root;
  if (folder.startsWith("..") || isInstalled(`${folder}/`)) return;
  if (project.tree.isFile(join(folder, "package.json"))) config.linked.push({ name, folder, place });
  else if (!project.tree.isFolder(folder)) config.lost.push(root);
}

export interface NativeCode {
  androidFolder: string | undefined;
  podspecs: string[];
}

/** What an installed package ships: an `android/` folder, podspecs. */
export function nativeCode(project: ProjectFiles, folder: string): NativeCode {
  const entries = project.tree.list(folder);
  const hasConfig = entries.some(({ name }) => name.startsWith("react-native.config."));
  const own = hasConfig ? readConfig(project, folder).own : {};
  const podspecs =
    own.ios === false
      ? []
      : typeof own.ios === "string"
        ? [join(folder, own.ios)]
        : linkedPodspec(
            entries.flatMap(({ name, kind }) => (kind === "file" && name.endsWith(".podspec") ? name : [])),
            folder,
          );
  // Packages of Expo keep their podspec beside their sources. Source: docs.expo.dev, "Module config".
  if (podspecs.length === 0 && own.ios !== false && entries.some(({ name }) => name === "expo-module.config.json"))
    podspecs.push(
      ...linkedPodspec(
        project.tree.list(join(folder, "ios")).flatMap(({ name }) => (name.endsWith(".podspec") ? name : [])),
        join(folder, "ios"),
      ),
    );
  let androidFolder: string | undefined;
  if (own.android !== false) {
    const candidate = join(folder, typeof own.android === "string" ? own.android : "android");
    if (project.tree.isFolder(candidate) && project.tree.list(candidate).some(({ name }) => /^build\.gradle(\.kts)?$|^src$/.test(name)))
      androidFolder = candidate;
  }
  return { androidFolder, podspecs };
}

/**
 * Of several podspecs the one that is linked by itself; the others are for people to name in their Podfile.
 * Source: the React Native command line, platform-apple, findPodspec: the one named after the folder, else the first.
 */
function linkedPodspec(names: string[], folder: string): string[] {
  const named = `${baseName(folder)}.podspec`;
  const chosen = names.includes(named) ? named : names[0];
  return chosen === undefined ? [] : [join(folder, chosen)];
}
