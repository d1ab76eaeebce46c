import { ANY_GUARDED, GUARDED_INTERFACES } from "../../knowledge/guarded-interfaces.js";
import { ANY_RESTRICTED, RESTRICTED_INTERFACES } from "../../knowledge/restricted-interfaces.js";
import { join, parentOf } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { filesMatching } from "../globbing.js";
import type { Podspec } from "../platforms/ios/podspec.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";

const SOURCE = /\.(swift|mm?|c|cc|cpp)$/;

/** Who has the code: a package, or nobody for the app's own. */
interface Owner {
  by: string | undefined;
  sdk: string | undefined;
}

/**
 * The interfaces that the system guards, or for which the store wants a reason, and that the source files of a pod use. Only files that its
 * specification certainly takes in; of its parts those that the lock has, where there is one.
 */
export function readGuardedPod(project: ProjectFiles, app: FactSink, spec: Podspec, owner: Owner & { by: string }): void {
  const locked = app.ios?.pods?.locked;
  const folder = parentOf(spec.file);
  const parts = [...spec.parts].filter(
    ([part]) => part === "" || (locked ? locked.has(`${spec.name}/${part}`) : spec.defaults.includes(part)),
  );
  for (const [, { sources, excluded, open }] of parts) {
    if (open) continue;
    const left = new Set(excluded.flatMap((pattern) => filesMatching(project.tree, folder, pattern)));
    const files = sources.flatMap((pattern) => filesMatching(project.tree, folder, withFiles(project, folder, pattern)));
    noteUses(
      project,
      app,
      files.filter((file) => SOURCE.test(file) && !left.has(file)).map((file) => join(folder, file)),
      owner,
    );
  }
}

/** A folder stands for the source files in it. Source: CocoaPods, "Podspec Syntax Reference", "File patterns". */
function withFiles({ tree }: ProjectFiles, folder: string, pattern: string): string {
  return tree.isFolder(join(folder, pattern)) ? `${pattern}/*` : pattern;
}

/** The same of the source files that the shipped target compiles. */
export function readGuardedCode(project: ProjectFiles, app: FactSink): void {
  const target = app.ios?.target;
  if (!target) return;
  const below = (folder: string): string[] => filesMatching(project.tree, folder, "**/*").map((file) => join(folder, file));
  const files = [...target.sources, ...target.synchronized.flatMap(below)].filter((file) => SOURCE.test(file) && project.tree.isFile(file));
  noteUses(project, app, [...new Set(files)], { by: undefined, sdk: undefined });
}

function noteUses(project: ProjectFiles, app: FactSink, files: readonly string[], { by, sdk }: Owner): void {
  for (const file of files) {
    const source = project.text(file);
    if (!source || !(ANY_GUARDED.test(source.text) || ANY_RESTRICTED.test(source.text))) continue;
    const code = certain(withoutComments(source.text));
    for (const { capability, pattern, keys, perhaps = false } of GUARDED_INTERFACES) {
      if (app.guardedUses.some((use) => use.capability === capability && use.by === by)) continue;
      const match = pattern.exec(code);
      if (match) app.guardedUse({ capability, keys, by, sdk, perhaps, at: source.place(match.index) });
    }
    for (const { category, pattern } of RESTRICTED_INTERFACES) {
      if (app.restrictedUses.some((use) => use.category === category && use.by === by)) continue;
      const match = pattern.exec(code);
      if (match) app.restrictedUse({ category, by, sdk, at: source.place(match.index) });
    }
  }
}

/** Conditions that hold in every iOS build. */
const HOLDS =
  /^(?:TARGET_OS_(?:IOS|IPHONE)|!\s*TARGET_OS_(?:TV|OSX|WATCH|MACCATALYST|VISION|SIMULATOR)|os\(iOS\)|!\s*os\((?:tvOS|macOS|watchOS|visionOS)\)|canImport\(\w+\)|__has_include\([^)]*\))$/;

/** A text in which what stands under a preprocessor's condition is blanked out, unless the condition holds in every iOS build. */
function certain(text: string): string {
  if (!/^[ \t]*#[ \t]*if/m.test(text)) return text;
  const open: boolean[] = [];
  return text
    .split("\n")
    .map((line) => {
      const [, word, condition = ""] = /^[ \t]*#[ \t]*(if|ifdef|ifndef|elif|elseif|else|endif)\b[ \t]*(.*?)\r?$/.exec(line) ?? [];
      if (word?.startsWith("if")) open.push(word === "if" && HOLDS.test(condition.trim()));
      else if (word === "endif") open.pop();
      else if (word !== undefined) open[open.length - 1] = false;
      return word === undefined && open.every(Boolean) ? line : " ".repeat(line.length);
    })
    .join("\n");
}
