import { type FolderIndex, foldersBelow } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import { join } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Names that Xcode, the compiler, a package manager or a framework's own scripts define. Sources: developer.apple.com, "Build settings reference"; guides.cocoapods.org. */
const DEFINED =
  /^(DEBUG|COCOAPODS|SWIFT_PACKAGE|(?:TARGET|EXPO|RCT|REACT_NATIVE|FLUTTER|CAPACITOR|CORDOVA)_\w+|os|arch|swift|compiler|canImport|targetEnvironment|has\w+|true|false)$/;

/** Files that may define a name for a build: projects, settings, packages, tools that write projects, and what starts a build. */
const DEFINES = /\.(xcconfig|ya?ml|sh|rb|toml|json|mk)$|^(Package\.swift|Project\.swift|[A-Z]\w+file)$/;

/**
 * Code behind a condition of Swift (`#if RELEASE`) whose name no file of the repository defines: no build has it. Source: docs.swift.org,
 * "Conditional Compilation Block" (a name that is not set is false).
 */
export function settleSwiftConditions(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): void {
  if (!app.ios || app.ios.generated) return;
  let texts: string[] | undefined;
  const known = new Map<string, boolean>();
  const isDefined = (name: string): boolean => {
    let found = known.get(name);
    if (found === undefined) {
      texts ??= definingTexts(project, index);
      found = texts.length === 0 || texts.some((text) => new RegExp(`(?<!\\w)${name}(?!\\w)`).test(text));
      known.set(name, found);
    }
    return found;
  };
  for (const { code, language } of sources) {
    if (!code || language !== "swift") continue;
    for (const { guards } of code.calls)
      guards.forEach((guard, at) => {
        const name = /^[A-Za-z_]\w*$/.exec(guard.text.trim())?.[0];
        if (guard.compiled && name !== undefined && !DEFINED.test(name) && !isDefined(name)) guards[at] = { ...guard, kind: "never" };
      });
  }
}

/** The texts that may define a name; none where the project itself is not among them, as a tool writes it. */
function definingTexts(project: ProjectFiles, index: FolderIndex): string[] {
  const found: string[] = [];
  let projects = 0;
  // What starts builds elsewhere lies in hidden folders, where nothing else is looked for.
  addFromWorkflows(project, found);
  for (const [folder, { files, folders }] of foldersBelow(index, "")) {
    for (const name of files) if (DEFINES.test(name)) found.push(project.text(join(folder, name))?.text ?? "");
    for (const name of folders)
      if (name.endsWith(".xcodeproj")) {
        found.push(project.text(join(folder, name, "project.pbxproj"))?.text ?? "");
        projects++;
      }
  }
  return projects === 0 ? [] : found;
}

/** What starts builds elsewhere lies in hidden folders, where nothing else is looked for. */
function addFromWorkflows(project: ProjectFiles, found: string[]): void {
  for (const { name, kind } of project.tree.list(""))
    if (kind === "folder" && name.startsWith(".") && name !== ".git")
      for (const folder of [name, join(name, "workflows")])
        for (const entry of project.tree.list(folder))
          if (entry.kind === "file" && DEFINES.test(entry.name)) found.push(project.text(join(folder, entry.name))?.text ?? "");
}
