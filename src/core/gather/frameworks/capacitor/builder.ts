import { join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, type Data } from "../../../syntax/data.js";
import type { ProjectFiles } from "../../project-files.js";

/** Where the builder of the app's pages puts them, and the files that it takes in place of others in a production build. */
export interface PageBuilder {
  /** From the app's folder; absent where it cannot be told. */
  output: { folder: string; at: Place } | undefined;
  replaced: { file: string; by: string; at: Place }[];
}

/** Builders that put pages in a folder `browser`. Source: angular.dev, "Angular workspace configuration" (outputPath of the application builder). */
const WITH_BROWSER = /:application$/;

/**
 * What `angular.json` says of an app's builder.
 * Source: angular.dev, "Workspace configuration" (outputPath, fileReplacements), "Build environments".
 */
export function angularBuilder(project: ProjectFiles, folder: string): PageBuilder | undefined {
  const file = join(folder, "angular.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  const all = entriesOf(at(root, "projects")).map(([, { value }]) => at(value, "architect", "build") ?? at(value, "targets", "build"));
  const [build, ...others] = all.filter((target) => target !== undefined);
  if (!build || others.length > 0) return undefined;
  const replacements = itemsOf(at(build, "configurations", "production", "fileReplacements"));
  return {
    output: outputOf(build),
    replaced: replacements.flatMap((item) => {
      const [replaced, by] = [textAt(item, "replace"), textAt(item, "with")];
      return replaced === undefined || by === undefined
        ? []
        : [{ file: join(folder, replaced), by: join(folder, by), at: placeOf(at(item, "with") ?? item) }];
    }),
  };
}

function outputOf(build: Data): PageBuilder["output"] {
  const stated = at(build, "options", "outputPath");
  const builder = textAt(build, "builder");
  if (!stated || builder === undefined) return undefined;
  const place = placeOf(stated);
  if (stated.kind === "map") {
    const base = textAt(stated, "base");
    return base === undefined ? undefined : { folder: plain(join(base, textAt(stated, "browser") ?? "browser")), at: place };
  }
  const base = textAt(stated);
  return base === undefined ? undefined : { folder: plain(WITH_BROWSER.test(builder) ? join(base, "browser") : base), at: place };
}

function plain(path: string): string {
  return path.replace(/^\.\//, "").replace(/\/$/, "");
}
