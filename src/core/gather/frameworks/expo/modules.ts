import { foldersBelow } from "../../../files/walk.js";
import { baseName, join } from "../../../model/paths.js";
import { at, itemsOf, placeOf, textAt, textsOf, type Data } from "../../../syntax/data.js";
import { readManifest } from "../../packages/packages.js";
import { findMember } from "../../packages/workspace-packages.js";
import { EXPO_MODULE_KEYS } from "../../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import { noteAndroidPackage, notePodspec } from "../native-packages.js";
import { nativeCode } from "../react-native/native-code.js";
import { helperScriptsOf } from "../react-native/index.js";

const CONFIG = "expo-module.config.json";

/**
 * Native modules of the app's own: folders with a configuration below `modules`, which are linked like packages. What they ask for, whose
 * side their code is, and whether the classes that they name are there. Source: docs.expo.dev, "Local Expo modules", "Module config".
 */
export function readLocalModules(discovery: Discovery, detected: DetectedApp, app: FactSink): void {
  const { project } = discovery;
  const root = modulesFolder(project, detected);
  const own = moduleAround(project, detected);
  const below = project.tree.list(root).flatMap(({ name, kind }) => (kind === "folder" ? [{ name, folder: join(root, name) }] : []));
  for (const { name, folder } of [...(own ? [own] : []), ...below]) {
    const config = project.tree.isFile(join(folder, CONFIG)) ? project.json(join(folder, CONFIG))?.root : undefined;
    if (!config) continue;
    noteMisspeltKeys(app, config, EXPO_MODULE_KEYS);
    const native = nativeCode(project, folder);
    app.sourceFolder({ folder: join(folder, "android"), side: "android" }, { folder: join(folder, "ios"), side: "ios" });
    if (app.android && native.androidFolder !== undefined) noteAndroidPackage(project, app, app.android, name, name, native.androidFolder);
    if (app.ios)
      for (const file of native.podspecs)
        if (project.tree.isFile(file)) notePodspec(project, app, file, name, name, helperScriptsOf(discovery, detected));
    const platforms = at(config, "platforms");
    const isApple = textsOf(platforms).some((one) => /^(apple|ios)$/.test(one));
    if (
      app.ios &&
      platforms &&
      isApple &&
      native.podspecs.every((file) => !project.tree.isFile(file)) &&
      project.tree.isFolder(join(folder, "ios"))
    )
      app.pathFollowed({
        text: `${name}.podspec`,
        resolved: join(folder, `ios/${name}.podspec`),
        kind: "file",
        exists: false,
        side: "ios",
        generated: false,
        at: placeOf(platforms),
      });
    readClasses(discovery, app, config, folder, name);
  }
  readMembers(discovery, detected, app);
}

/** The folder with the app's own modules. Source: docs.expo.dev, "Autolinking" (nativeModulesDir). */
function modulesFolder(project: ProjectFiles, { path }: DetectedApp): string {
  return join(path, textAt(readManifest(project, path)?.root, "expo", "autolinking", "nativeModulesDir") ?? "modules");
}

/** The package around an example app, where the app links it by the folder that it lies in: the layout of the framework's template for modules. */
export function moduleAround(project: ProjectFiles, detected: DetectedApp): { name: string; folder: string } | undefined {
  const folder = modulesFolder(project, detected);
  const { name } = (project.tree.isFile(join(folder, CONFIG)) && readManifest(project, folder)) || {};
  return name === undefined || folder.startsWith("..") ? undefined : { name, folder };
}

/** Members of the workspace are linked like packages, too: whether the classes that they name are there. */
function readMembers(discovery: Discovery, detected: DetectedApp, app: FactSink): void {
  const { project } = discovery;
  for (const { name, section } of readManifest(project, detected.path)?.declarations ?? []) {
    const member = section === "devDependencies" ? undefined : findMember(project, detected.path, name);
    const config = member && project.tree.isFile(join(member.folder, CONFIG)) ? project.json(join(member.folder, CONFIG))?.root : undefined;
    if (member && config) readClasses(discovery, app, config, member.folder, baseName(member.folder));
  }
}

function readClasses({ project, index }: Discovery, app: FactSink, config: Data, folder: string, name: string): void {
  const platforms = at(config, "platforms");
  const named = textsOf(platforms);
  for (const side of ["android", "ios"] as const) {
    const texts = [...foldersBelow(index, join(folder, side))].flatMap(([below, { files }]) =>
      files.flatMap((name) => (/\.(kt|java|swift)$/.test(name) ? (project.text(join(below, name))?.text ?? []) : [])),
    );
    const list = side === "android" ? at(config, "android", "modules") : (at(config, "apple", "modules") ?? at(config, "ios", "modules"));
    const isNamed = side === "android" ? named.includes("android") : named.some((name) => /^(apple|ios)$/.test(name));
    if (!app[side]) continue;
    if (texts.length === 0) {
      // Classes that are named, without any code of the side.
      const [first] = itemsOf(list);
      if (first && isNamed) app.pluginGap({ package: name, side, type: textAt(first) ?? "", at: placeOf(first) });
      continue;
    }
    if (named.length > 0 && (!isNamed || itemsOf(list).length === 0) && texts.some((text) => /\bModuleDefinition\b/.test(text))) {
      app.pluginGap({ package: name, side, type: undefined, at: placeOf(platforms ?? config) });
      continue;
    }
    noteLostModules(app, list, side, texts, name);
    if (side === "ios")
      noteLostModules(app, at(config, "apple", "appDelegateSubscribers") ?? at(config, "ios", "appDelegateSubscribers"), side, texts, name);
  }
}

/** Classes that are named and that no file of the side holds. */
function noteLostModules(app: FactSink, list: Data | undefined, side: "android" | "ios", texts: string[], name: string): void {
  for (const item of itemsOf(list)) {
    const type = textAt(item);
    const simple = type?.split(".").at(-1) ?? "";
    const of = side === "android" && type?.includes(".") ? type.slice(0, type.lastIndexOf(".")) : undefined;
    const has = texts.some(
      (text) =>
        new RegExp(`\\b(?:class|object)\\s+${simple.replace(/\W/g, "")}\\b`).test(text) &&
        (of === undefined ||
          new RegExp(`^[ \\t]*package\\s+${of.replace(/[^\w.]/g, "").replaceAll(".", "\\.")}\\s*;?\\s*$`, "m").test(text)),
    );
    if (type !== undefined && !has) app.pluginGap({ package: name, side, type, at: placeOf(item) });
  }
}
