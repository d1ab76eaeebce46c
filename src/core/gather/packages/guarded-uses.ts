import { ANY_GUARDED, GUARDED_INTERFACES } from "../../knowledge/guarded-interfaces.js";
import { ANY_RESTRICTED, RESTRICTED_INTERFACES } from "../../knowledge/restricted-interfaces.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { takesIn } from "../../model/xcode.js";
import { withoutComments } from "../../syntax/comments.js";
import { formOfBinary, usesOfBinary } from "../../syntax/mach-o.js";
import { filesMatching } from "../globbing.js";
import { bytesIn } from "../platforms/ios/binary.js";
import type { Podspec } from "../platforms/ios/podspec.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { reason } from "../../model/reason.js";

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
  const parts = [...spec.parts].flatMap(([part, { sources, excluded, open }]) =>
    !open && (part === "" || (locked ? locked.has(`${spec.name}/${part}`) : spec.defaults.includes(part))) ? [{ sources, excluded }] : [],
  );
  const uses = project.part("guarded interfaces of a pod", [folder, JSON.stringify(parts)], () =>
    usesIn(
      project,
      parts.flatMap(({ sources, excluded }) => {
        const left = new Set(excluded.flatMap((pattern) => filesMatching(project.tree, folder, pattern)));
        return sources
          .flatMap((pattern) => filesMatching(project.tree, folder, withFiles(project, folder, pattern)))
          .filter((file) => SOURCE.test(file) && !left.has(file))
          .map((file) => join(folder, file));
      }),
    ),
  );
  note(app, uses, owner);
}

/** A folder stands for the source files in it. Source: CocoaPods, "Podspec Syntax Reference", "File patterns". */
function withFiles({ tree }: ProjectFiles, folder: string, pattern: string): string {
  return tree.isFolder(join(folder, pattern)) ? `${pattern}/*` : pattern;
}

/** The same of source files that go into the build as they are. */
export function readGuardedFiles(project: ProjectFiles, app: FactSink, files: readonly string[], owner: Owner): void {
  const sources = files.filter((file) => SOURCE.test(file) && project.tree.isFile(file));
  if (sources.length === 0) return;
  note(
    app,
    project.part("guarded interfaces of files", sources, () => usesIn(project, sources)),
    owner,
  );
}

/** The same of the source files that the shipped target compiles. */
export function readGuardedCode(project: ProjectFiles, app: FactSink): void {
  const target = app.ios?.target;
  if (!target) return;
  const below = (folder: string): string[] => filesMatching(project.tree, folder, "**/*").map((file) => join(folder, file));
  const files = [...target.sources, ...target.synchronized.flatMap(below)].filter(
    (file) => SOURCE.test(file) && takesIn(target, file) && project.tree.isFile(file),
  );
  const { guarded, restricted } = usesIn(project, new Set(files), true);
  // What the app's own code calls it does not call perhaps.
  note(app, { guarded: guarded.map((use) => ({ ...use, perhaps: false })), restricted }, { by: undefined, sdk: undefined });
  // The watch asks for itself; extensions ask in the app's name.
  for (const { target: part, runsOn } of app.partTargets) {
    if (runsOn !== "watch") continue;
    const own = [...part.sources, ...part.synchronized.flatMap(below)].filter(
      (file) => SOURCE.test(file) && takesIn(part, file) && project.tree.isFile(file),
    );
    app.partUse(...usesIn(project, new Set(own), true).guarded.map((use) => ({ ...use, target: part.name })));
  }
}

/**
 * The same of what a framework or library that is linked as it is takes from the system: all of it in a dynamic one; of a static one only what
 * the linker takes in.
 */
export function readGuardedBinary(project: ProjectFiles, app: FactSink, file: string, owner: Owner & { by: string }): void {
  const { tree } = project;
  const form = formOfBinary(bytesIn(tree, file));
  if (!form) return;
  const at = { file, line: 1, column: 1 };
  const used = project.part("guarded interfaces of a binary", [file], () => {
    const uses = usesOfBinary(bytesIn(tree, file), tree.size(file) ?? 0);
    const has = ({ symbols = [], selectors = [] }: { symbols?: readonly string[]; selectors?: readonly string[] } = {}): boolean =>
      symbols.some((name) => uses?.symbols.has(name)) || selectors.some((name) => uses?.selectors.has(name));
    return (
      uses && {
        guarded: GUARDED_INTERFACES.filter(({ inBinary }) => has(inBinary)).map(({ capability }) => capability),
        restricted: RESTRICTED_INTERFACES.filter(({ inBinary }) => has(inBinary)).map(({ category }) => category),
      }
    );
  });
  if (!used) {
    app.blindSpot({ side: "ios", what: baseName(file), why: reason("too-large-for-interfaces"), places: [at] });
    return;
  }
  note(
    app,
    {
      guarded: GUARDED_INTERFACES.filter(({ capability }) => used.guarded.includes(capability)).map(({ capability, keys, perhaps }) => ({
        capability,
        keys,
        perhaps: perhaps === true || form === "static",
        at,
      })),
      restricted: form === "static" ? [] : used.restricted.map((category) => ({ category, at })),
    },
    owner,
  );
}

/** What source files use, of each capability and each category the first place. */
interface Uses {
  guarded: Omit<FactSink["guardedUses"][number], keyof Owner>[];
  restricted: Omit<FactSink["restrictedUses"][number], keyof Owner>[];
}

function usesIn(project: ProjectFiles, files: Iterable<string>, isOwn = false): Uses {
  const uses: Uses = { guarded: [], restricted: [] };
  for (const file of files) {
    const source = project.text(file);
    if (!source || !(ANY_GUARDED.test(source.text) || ANY_RESTRICTED.test(source.text))) continue;
    const code = certain(withoutComments(source.text));
    for (const { capability, pattern, keys, perhaps = false, own = false } of GUARDED_INTERFACES) {
      if (own && !isOwn) continue;
      const match = uses.guarded.some((use) => use.capability === capability) ? null : pattern.exec(code);
      if (match) uses.guarded.push({ capability, keys, perhaps, at: source.place(match.index) });
    }
    for (const { category, pattern } of RESTRICTED_INTERFACES) {
      const match = uses.restricted.some((use) => use.category === category) ? null : pattern.exec(code);
      if (match) uses.restricted.push({ category, at: source.place(match.index) });
    }
  }
  return uses;
}

/** Of one owner each is told once. */
function note(app: FactSink, { guarded, restricted }: Uses, { by, sdk }: Owner): void {
  app.guardedUse(
    ...guarded
      .filter(({ capability }) => !app.guardedUses.some((use) => use.capability === capability && use.by === by))
      .map((use) => ({ ...use, by, sdk })),
  );
  app.restrictedUse(
    ...restricted
      .filter(({ category }) => !app.restrictedUses.some((use) => use.category === category && use.by === by))
      .map((use) => ({ ...use, by, sdk })),
  );
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
