import { join } from "../model/paths.js";
import { ignoreMatcher } from "../settings/ignore.js";
import type { ProjectFiles } from "./project-files.js";

/** Tells whether a file or folder (its name ends with `/`) of that name is kept out of the repository by a `.gitignore` in one of some folders. */
export function ignoredByGit(project: ProjectFiles, folders: Iterable<string>): (name: string) => boolean {
  const patterns = [...new Set(folders)].flatMap((folder) => project.text(join(folder, ".gitignore"))?.text.split(/\r?\n/) ?? []);
  const matches = ignoreMatcher(patterns.map((pattern) => pattern.replace(/^(!?).*\/(?=[^/]+\/?$)/, "$1")));
  return (name) => !name.includes("*") && matches(name);
}

/** Whether a file or folder is kept out of the repository by the `.gitignore` of a folder around it. */
export function isKeptOut(project: ProjectFiles, path: string): boolean {
  const parts = path.split("/");
  return parts.some((_, index) => {
    const own = parts.slice(index).join("/");
    const lines = project.text(join(parts.slice(0, index).join("/"), ".gitignore"))?.text.split(/\r?\n/) ?? [];
    const matches = ignoreMatcher(lines);
    return !own.startsWith("..") && (matches(own) || matches(`${own}/`));
  });
}
