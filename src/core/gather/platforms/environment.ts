import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { join } from "../../model/paths.js";
import { known } from "../../model/value.js";

/** A line of a file of the environment: its name, and its value with the quotes. */
export const ENVIRONMENT_LINE = /^[ \t]*(?:export[ \t]+)?([A-Za-z_]\w*)[ \t]*=[ \t]*("[^"\n]*"|'[^'\n]*'|[^\r\n#]*)/gm;

/** `.env` and its variants (`.env.staging`) beside the app, as entries with their variant. */
export function readEnvironment(project: ProjectFiles, app: FactSink): void {
  for (const entry of project.tree.list(app.path)) {
    const variant = /^\.env(?:\.([\w.-]+))?$/.exec(entry.name);
    if (entry.kind !== "file" || !variant || /\.(example|sample|template|dist)$/.test(entry.name)) continue;
    const source = project.text(join(app.path, entry.name));
    if (!source) continue;
    for (const match of source.text.matchAll(ENVIRONMENT_LINE)) {
      const raw = (match[2] ?? "").trim();
      const quoted = /^["']/.test(raw);
      const at = source.place(match.index + match[0].indexOf(raw, (match[1] ?? "").length) + (quoted ? 1 : 0));
      app.entry({
        kind: "env",
        side: "shared",
        name: match[1] as string,
        value: known(quoted ? raw.slice(1, -1) : raw, at),
        ...(variant[1] ? { variant: variant[1] } : {}),
        at,
      });
    }
  }
}
