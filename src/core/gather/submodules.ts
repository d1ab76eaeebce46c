import { isWithin, join, parentOf } from "../model/paths.js";
import type { ProjectFiles } from "./project-files.js";
import type { FactSink } from "./sink.js";
import { reason } from "../model/reason.js";

/** Folders of submodules that the `.gitmodules` of a folder lists. Source: git-scm.com, "gitmodules". */
function submodulesOf(project: ProjectFiles, folder: string): string[] {
  const file = join(folder, ".gitmodules");
  const text = project.tree.isFile(file) ? (project.text(file)?.text ?? "") : "";
  return [...text.matchAll(/^[ \t]*path[ \t]*=[ \t]*(\S.*?)[ \t]*$/gm)].map(([, path = ""]) => join(folder, path));
}

/** What a build refers to in a submodule that is not checked out is not missing: a blind spot of the app, once for each submodule. */
export function noteSubmodules(project: ProjectFiles, app: FactSink): void {
  const lists = new Map<string, string[]>();
  const told = new Set<string>();
  const around = (path: string): string | undefined => {
    for (let folder = parentOf(path); ; folder = parentOf(folder)) {
      if (!lists.has(folder)) lists.set(folder, submodulesOf(project, folder));
      const found = lists.get(folder)?.find((module) => isWithin(path, module));
      if (found !== undefined || folder === "") return found;
    }
  };
  app.leavePaths((path) => {
    const module =
      path.exists === false && path.resolved !== undefined && !path.resolved.startsWith("..") ? around(path.resolved) : undefined;
    if (module === undefined || project.tree.list(module).length > 0) return false;
    if (!told.has(module)) app.blindSpot({ side: path.side, what: module, why: reason("submodule-absent"), places: [path.at] });
    told.add(module);
    return true;
  });
}
