import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { closing, isInSight } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { ENVIRONMENT_LINE } from "../platforms/environment.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

const READ = /\bdotenv\s*\.\s*(?:env\s*\[|get(?:Int|Double|Bool)?\s*\()\s*(["'])(\w+)\1\s*([\])])\s*(\?\?)?/g;
const LOAD = /\bdotenv\s*\.\s*load\s*\(/g;

/**
 * Values that Dart code reads from files of the environment, where no file that it loads has them, or before it is loaded. Source: pub.dev, flutter_dotenv
 * ("Usage": files are assets, `.env` by default).
 */
export function dartEnvironment(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["unsetVariables"] {
  const home = app.shared?.folder;
  if (app.kind !== "flutter" || home === undefined) return [];
  const own = sources.flatMap((source) =>
    source.language === "dart" && source.side === "shared" && /\bdotenv\b/.test(source.text)
      ? [{ source, text: withoutComments(source.text) }]
      : [],
  );
  const known = namesLoaded(project, home, own);
  const told = new Set<string>();
  return own.flatMap(({ source, text }) => {
    const loads = [...text.matchAll(LOAD)].map(({ index }) => index);
    return [...text.matchAll(READ)].flatMap((match): CodeFacts["unsetVariables"] => {
      const [, , name = "", , otherwise] = match;
      const isFirst = loads.length > 0 && loads.every((load) => load > match.index && isInSight(text, match.index, load));
      if (told.has(name)) return [];
      const files = known && !known.names.has(name) && otherwise === undefined ? known.files : undefined;
      if (!isFirst && !files) return [];
      told.add(name);
      return [{ name, files: files ?? [], isFirst, at: source.place(match.index) }];
    });
  });
}

/** The names of all files that are loaded; `undefined` where one is not here, is named by code, or more is laid over it. */
function namesLoaded(
  project: ProjectFiles,
  home: string,
  own: readonly { text: string }[],
): { names: Set<string>; files: string[] } | undefined {
  const names = new Set<string>();
  const files: string[] = [];
  for (const { text } of own)
    for (const match of text.matchAll(LOAD)) {
      const open = match.index + match[0].length - 1;
      const given = text.slice(open + 1, closing(text, open)).trim();
      const named = /^fileName\s*:\s*(["'])([^"'$\\]+)\1\s*,?$/.exec(given)?.[2];
      if (given !== "" && named === undefined) return undefined;
      const file = join(home, named ?? ".env");
      const source = project.tree.isFile(file) ? project.text(file) : undefined;
      if (!source) return undefined;
      files.push(file);
      for (const line of source.text.matchAll(ENVIRONMENT_LINE)) names.add(line[1] as string);
    }
  return files.length > 0 ? { names, files } : undefined;
}
