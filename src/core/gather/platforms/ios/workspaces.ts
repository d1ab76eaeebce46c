import { isInstalled, isWithin, join, parentOf } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import type { XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import { readXcodeProject, type XcodeProject } from "./xcode-project.js";

/** How many folders above a project are searched for a workspace that takes it in. */
const MOST_ABOVE = 4;

/**
 * The workspaces beside a project, and those above it that take it in; the nearest first. Source: developer.apple.com, "Managing multiple projects
 * and their dependencies" (workspaces refer to projects by paths from their own folder).
 */
export function workspacesAround(project: ProjectFiles, xcode: XcodeProject): string[] {
  const found: string[] = [];
  let folder = xcode.folder;
  for (let step = 0; step <= MOST_ABOVE; step++) {
    for (const { name, kind } of project.tree.list(folder)) {
      if (kind !== "folder" || !name.endsWith(".xcworkspace")) continue;
      const workspace = join(folder, name);
      if (step === 0 || referred(project, workspace).some((other) => other.folder === xcode.path)) found.push(workspace);
    }
    if (folder === "" || folder.startsWith("..")) break;
    folder = parentOf(folder);
  }
  return found;
}

/** The projects and folders that a workspace refers to. */
export function referred(project: ProjectFiles, workspace: string): { folder: string; at: Place }[] {
  const file = join(workspace, "contents.xcworkspacedata");
  const xml = project.tree.isFile(file) ? project.xml(file) : undefined;
  const home = parentOf(workspace);
  const below = (element: XmlElement, base: string): { folder: string; at: Place }[] =>
    element.children.flatMap((child) => {
      const [how = "", to = ""] = (child.attributes.get("location")?.value ?? "").split(/:(.*)/s);
      // Paths of one machine, and of Xcode itself, are nobody's here.
      if (how === "absolute" || how === "developer") return [];
      const folder = how === "container" ? join(home, to) : join(base, to);
      if (child.name === "Group") return below(child, folder);
      return child.name === "FileRef" && to !== "" ? [{ folder, at: child.source.place(child.start) }] : [];
    });
  return xml?.root ? below(xml.root, home) : [];
}

/** The paths of a project, of those to which it refers, and of those in its workspaces. */
export function projectsTogether(project: ProjectFiles, xcode: XcodeProject): string[] {
  const around = workspacesAround(project, xcode).flatMap((workspace) => referred(project, workspace).map(({ folder }) => folder));
  return [...new Set([xcode.path, ...[...xcode.references, ...around].filter((path) => path.endsWith(".xcodeproj"))])];
}

/**
 * Other projects of the repository, in a workspace with an app's or referred to by it, of which its targets take in a framework or library:
 * with those of their targets that make one, and what they say of packages.
 */
export function projectsBeside(project: ProjectFiles, xcode: XcodeProject): XcodeProject[] {
  return project.memo(`projects beside\0${xcode.path}`, () => findBeside(project, xcode));
}

function findBeside(project: ProjectFiles, xcode: XcodeProject): XcodeProject[] {
  const paths = new Set(projectsTogether(project, xcode).filter((path) => path !== xcode.path && !isInstalled(`${path}/`)));
  const taken = new Set(xcode.targets.flatMap(({ linked, embedded }) => [...linked, ...embedded].map(({ name }) => name)));
  const found: XcodeProject[] = [];
  // What one takes in of another counts too.
  for (let more = true; more;) {
    more = false;
    for (const path of paths) {
      const other = project.tree.isFile(join(path, "project.pbxproj")) ? readXcodeProject(project, path) : undefined;
      const targets =
        other?.targets.filter(({ product, type }) => product !== undefined && /framework|library/.test(type) && taken.has(product)) ?? [];
      if (!other || targets.length === 0) continue;
      paths.delete(path);
      found.push({ ...other, targets });
      for (const { linked } of targets) for (const { name } of linked) taken.add(name);
      more = true;
    }
  }
  return found;
}

/** The folders with the sources of a project's targets, but for those that hold more than these. */
export function sourceFoldersOf({ targets }: XcodeProject, app: string): string[] {
  return [...new Set(targets.flatMap(({ synchronized, sources }) => [...synchronized, ...sources.map(parentOf)]))].filter(
    (folder) => !isWithin(app, folder),
  );
}
