import type { ProjectFiles } from "../gather/project-files.js";
import { join } from "../model/paths.js";
import { findInstalled, readManifest } from "../gather/packages/packages.js";
import type { FolderIndex } from "../files/walk.js";
import type { SheetFile } from "../sheets/load.js";

const SHEET = /\.sdk\.ya?ml$/;

/** The sheets of a project: in `enredo/sheets/` at its root (for all apps) and beside its apps, then those that installed packages ship. */
export function findSheets(project: ProjectFiles, index: FolderIndex): SheetFile[] {
  const files: SheetFile[] = [];
  const seen = new Set<string>();
  const add = (folder: string, scope: string): void => {
    for (const entry of project.tree.list(folder)) {
      const file = join(folder, entry.name);
      if (entry.kind !== "file" || !SHEET.test(entry.name) || seen.has(file)) continue;
      seen.add(file);
      const source = project.text(file);
      if (source) files.push({ file, text: source.text, scope });
    }
  };
  for (const folder of index.keys())
    if (folder === "enredo/sheets" || folder.endsWith("/enredo/sheets"))
      add(folder, folder.slice(0, -"enredo/sheets".length).replace(/\/$/, ""));
  for (const [folder, { files: names }] of index) {
    if (!names.includes("package.json")) continue;
    for (const { name, section } of readManifest(project, folder)?.declarations ?? []) {
      if (section !== "dependencies") continue;
      const installed = findInstalled(project, folder, name);
      if (installed) add(installed.folder, folder);
    }
  }
  return files;
}
