import type { ProjectFiles } from "../../project-files.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { baseName, join } from "../../../model/paths.js";
import { pathOf, type Expr, type Script } from "../../../syntax/script/ast.js";
import { evaluate } from "../../../evaluate/evaluate.js";

/** What `react-native.config.js` of an app or a package says. */
export interface NativeConfig {
  androidFolder?: string;
  iosFolder?: string;
  /** Packages whose linking is switched off, per side. */
  off: { name: string; side: SideName; place: Dependency["places"][number] }[];
  /** For a package's own file: sides that it does not link. */
  own: { android?: string | false; ios?: string | false };
}

/** The names that such a file can have. */
export const CONFIG_FILES = ["react-native.config.js", "react-native.config.cjs", "react-native.config.mjs", "react-native.config.ts"];

/** Reads `react-native.config.js` statically. Source: the React Native command line's documentation, "Configuration". */
export function readConfig(project: ProjectFiles, folder: string): NativeConfig {
  const config: NativeConfig = { off: [], own: {} };
  const file = CONFIG_FILES.map((name) => join(folder, name)).find((candidate) => project.tree.isFile(candidate));
  const script = file ? project.script(file) : undefined;
  const exported = script && exportedObject(script);
  if (!script || exported?.kind !== "map") return config;
  const entry = (expr: Expr | undefined, name: string): Expr | undefined =>
    expr?.kind === "map" ? expr.entries.find((item) => item.name === name)?.value : undefined;
  const text = (expr: Expr | undefined): string | undefined => {
    const result = expr && evaluate(expr, { source: script.source, lookup: () => undefined });
    return result?.kind === "known" ? result.text : undefined;
  };
  config.androidFolder = text(entry(entry(entry(exported, "project"), "android"), "sourceDir"));
  config.iosFolder = text(entry(entry(entry(exported, "project"), "ios"), "sourceDir"));
  const isNull = (expr: Expr | undefined): boolean => expr?.kind === "literal" && (expr.text === "null" || expr.text === "false");
  const dependencies = entry(exported, "dependencies");
  for (const item of dependencies?.kind === "map" ? dependencies.entries : []) {
    if (item.name === undefined) continue;
    const platforms = entry(item.value, "platforms");
    for (const side of ["android", "ios"] as const) {
      if (isNull(entry(platforms, side)))
        config.off.push({ name: item.name, side, place: script.source.place(item.nameStart ?? item.value.start) });
    }
  }
  const own = entry(entry(exported, "dependency"), "platforms");
  for (const side of ["android", "ios"] as const) {
    const value = entry(own, side);
    if (isNull(value)) config.own[side] = false;
    else {
      const folderText = text(entry(value, side === "android" ? "sourceDir" : "podspecPath"));
      if (folderText !== undefined) config.own[side] = folderText;
    }
  }
  return config;
}

function exportedObject(script: Script): Expr | undefined {
  const constants = new Map<string, Expr>();
  let found: Expr | undefined;
  for (const statement of script.body) {
    if (statement.kind === "assign") {
      const path = pathOf(statement.target)?.join(".");
      if (path === "module.exports" || path === "exports.default") found = statement.value;
      else if (path !== undefined) constants.set(path, statement.value);
    } else if (statement.kind === "expression" && statement.value.kind === "map") found ??= statement.value;
  }
  if (found?.kind === "name") return constants.get(found.name);
  if (found?.kind === "call" && found.args[0]) return found.args[0].value;
  return found;
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
