import { foldersBelow } from "../../../files/walk.js";
import { join, relativeTo } from "../../../model/paths.js";
import { textOf } from "../../../model/value.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import type { UnitOfApp } from "./packages.js";
import { itemTaking, textOfProperty, type DotnetProject, type Platform } from "./project.js";

/** What is code, a page or a picture: no file of data that code opens. */
const NO_DATA = /\.(cs|xaml|razor|css|svg|png|jpe?g|ttf|otf|resx|cshtml)$/i;

/** Files of data that items lay into the app, and the names by which code opens them. Source: learn.microsoft.com, "Manifest resource names". */
export function noteBundledFiles({ index }: Discovery, app: FactSink, units: readonly UnitOfApp[]): void {
  for (const { project, platforms } of units)
    for (const [folder, { files }] of foldersBelow(index, project.folder)) {
      if (/(^|\/)(bin|obj)(\/|$)/.test(folder)) continue;
      for (const name of files) if (!NO_DATA.test(name)) noteFile(app, project, platforms, join(folder, name));
    }
}

function noteFile(app: FactSink, project: DotnetProject, platforms: readonly Platform[], file: string): void {
  for (const side of platforms) {
    const build = project.build(side);
    const embedded = itemTaking(build, "EmbeddedResource", file);
    if (embedded) {
      app.bundledFile({ kind: "embedded", name: resourceName(project, embedded.metadata, file), file });
      return;
    }
    if (itemTaking(build, "MauiAsset", file)) {
      app.bundledFile({ kind: "asset", name: undefined, file });
      return;
    }
  }
}

/** The name of a resource: the one that its item states, or the project's root namespace with the path. */
function resourceName(
  project: DotnetProject,
  metadata: NonNullable<ReturnType<typeof itemTaking>>["metadata"],
  file: string,
): string | undefined {
  const path = relativeTo(project.folder, file);
  const stated = metadata.get("LogicalName");
  if (stated) {
    const text = textOf(stated.value)
      ?.replaceAll("%(Filename)", path.replace(/^.*\//, "").replace(/\.[^.]*$/, ""))
      .replaceAll("%(Extension)", /\.[^./]*$/.exec(path)?.[0] ?? "");
    return text?.includes("%(") ? undefined : text;
  }
  const root = textOfProperty(project.base, "RootNamespace") ?? project.name.replace(/[^\w.]/g, "_");
  if (metadata.has("Link") || path.startsWith("..")) return undefined;
  const parts = path.split("/");
  const folders = parts.slice(0, -1).map((part) => part.replace(/[^\w.]/g, "_").replace(/^(?=\d)/, "_"));
  return [root, ...folders, parts.at(-1)].filter(Boolean).join(".");
}
