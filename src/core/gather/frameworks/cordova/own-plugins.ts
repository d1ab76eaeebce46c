import { isWithin, join, parentOf } from "../../../model/paths.js";
import { textOf, type Value } from "../../../model/value.js";
import { parseSpecifier } from "../../../versions/npm.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import { CORDOVA_PLUGIN_ELEMENTS } from "../../../knowledge/known-names.js";
import { noteMisspeltElements } from "../../misspelt-names.js";
import { noteOwnGaps } from "./own-gaps.js";
import { noteMisspeltParts } from "./misspelt-parts.js";
import type { Place } from "../../../model/place.js";
import { readPluginXml, type CordovaPlugin } from "../../packages/cordova-plugin.js";

/** The folder that a plugin is taken from, where it is given by a path; it may not be there. */
export function folderOfPlugin(folder: string, spec: Value | undefined): string | undefined {
  const specifier = parseSpecifier(textOf(spec) ?? "*");
  if (specifier.kind !== "path" || /\.(tgz|tar\.gz|zip)$/.test(specifier.path) || /^(~|\/|\w:)/.test(specifier.path)) return undefined;
  return join(folder, specifier.path.replaceAll("\\", "/").replace(/\/+$/, ""));
}

/**
 * A plugin that the project has itself: its native files are the app's own code, each of the side whose part of plugin.xml names it. Tells where
 * the folder is not there, or holds a plugin of another id.
 */
export function readOwnPlugin(
  project: ProjectFiles,
  app: FactSink,
  folder: string,
  { id, spec, at }: { id: string; spec: Value | undefined; at: Place },
): CordovaPlugin | undefined {
  const own = readPluginXml(project, folder);
  const place = spec?.place ?? at;
  if (!own) {
    if (!project.tree.isFolder(folder))
      app.pathFollowed({
        text: textOf(spec) ?? folder,
        resolved: folder,
        kind: "package",
        exists: false,
        side: "shared",
        generated: false,
        at: place,
      });
    return undefined;
  }
  if (own.id !== id) app.misspelling({ what: "plugin", name: id, right: own.id, side: "shared", at });
  if (folder.startsWith("..")) return own;
  app.ownPlugin(folder);
  const root = project.xml(own.file)?.root;
  if (root) {
    noteMisspeltElements(app, root, CORDOVA_PLUGIN_ELEMENTS, "shared");
    noteMisspeltParts(app, root);
  }
  noteOwnGaps(project, app, own);
  for (const { name, sources } of own.platforms) {
    if (name !== "android" && name !== "ios") continue;
    const folders = new Set(sources.map(({ file }) => parentOf(join(folder, file))));
    for (const of of folders) if (of !== folder && isWithin(of, folder)) app.sourceFolder({ folder: of, side: name });
  }
  return own;
}
