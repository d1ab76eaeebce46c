import { join } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, type Data } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";

/** Where the builder of the app's pages puts them, and the files that it takes in place of others in a production build. */
export interface PageBuilder {
  /** The file with its settings. */
  by: string;
  /** From the app's folder; absent where it cannot be told. */
  output: { folder: string; at: Place } | undefined;
  replaced: { file: string; by: string; at: Place }[];
  /** What it is told for every build, as its file has it. */
  options?: Data;
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
  const [build, ...others] = entriesOf(at(root, "projects")).flatMap(([, { value }]) => {
    const target = at(value, "architect", "build") ?? at(value, "targets", "build");
    return target && textAt(value, "projectType") !== "library" ? [target] : [];
  });
  if (!build || others.length > 0) return undefined;
  const options = at(build, "options");
  const replacements = itemsOf(at(build, "configurations", "production", "fileReplacements"));
  return {
    by: "angular.json",
    output: outputOf(build),
    ...(options ? { options } : {}),
    replaced: replacements.flatMap((item) => {
      const [replaced, by] = [textAt(item, "replace"), textAt(item, "with")];
      return replaced === undefined || by === undefined
        ? []
        : [{ file: join(folder, replaced), by: join(folder, by), at: placeOf(at(item, "with") ?? item) }];
    }),
  };
}

/** The folder that Vite writes, where its configuration says it plainly and no script another one. Source: vite.dev, "Build Options" (build.outDir). */
export function viteBuilder(project: ProjectFiles, folder: string): PageBuilder | undefined {
  const name = project.tree.list(folder).find((entry) => /^vite\.config\.[cm]?[jt]s$/.test(entry.name))?.name;
  const config = name === undefined ? undefined : project.text(join(folder, name));
  const scripts = project.text(join(folder, "package.json"))?.text ?? "";
  if (name === undefined || !config || /(?<![\w.])root\s*:|\b(?:mergeConfig|loadConfigFromFile)\b|\.\.\.\w/.test(config.text))
    return undefined;
  if (!/(?:"|&& )vite build\b/.test(scripts) || /--outDir|vite build [^"&]*--config/.test(scripts)) return undefined;
  const said = /\boutDir\s*:\s*(["'])(?:\.\/)?([\w./-]+?)\/?\1/.exec(config.text);
  if (!said && /\boutDir\b/.test(config.text)) return undefined;
  return { by: name, output: { folder: said?.[2] ?? "dist", at: config.place(said?.index ?? 0) }, replaced: [] };
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
