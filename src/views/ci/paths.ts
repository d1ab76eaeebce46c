import type { Survey } from "../../core/model/app.js";

/**
 * A file's path as services of a repository know it: relative to the root of version control where there is one, else to the
 * folder that was checked.
 */
export function repositoryPath({ root, repository }: Pick<Survey, "root" | "repository">, file: string): string {
  const depth = repository === undefined || repository === "" ? 0 : repository.split("/").length;
  const above = depth === 0 ? [] : root.split(/[/\\]/).filter(Boolean).slice(-depth);
  return [...above, file || "."].join("/");
}
