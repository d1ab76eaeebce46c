import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { AssetFault } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { nearest } from "../../model/suggest.js";
import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Pictures by their names in the app itself. Source: developer.apple.com, "UIImage" (init(named:)), "Image" (SwiftUI). */
const TAKES =
  /\bUIImage\s*\(\s*named\s*:\s*"([^"\\\n]+)"\s*\)|\bimageNamed\s*:\s*@"([^"\n]+)"\s*\]|(?<![\w.])Image\s*\(\s*"([^"\\\n]+)"\s*\)/g;

/** Pictures that code of iOS takes by a name and that neither a catalog nor a file of the app's own folders has. */
export function applePictures(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): AssetFault[] {
  const { ios, kind } = app;
  if (!ios || ios.generated || kind !== "native") return [];
  let known: Map<string, string> | undefined;
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (source.side !== "ios" || !/\b(UIImage|imageNamed|Image)\b/.test(source.text)) return [];
    return [...withoutComments(source.text).matchAll(TAKES)].flatMap((match): AssetFault[] => {
      const name = (match[1] ?? match[2] ?? match[3]) as string;
      known ??= picturesOf(project, index, ios.folder);
      const plain = name.replace(/\.(png|jpe?g|pdf|svg|heic|gif)$/i, "").toLowerCase();
      // Without any picture the catalogs lie elsewhere.
      if (known.size === 0 || known.has(plain) || known.has(plain.split("/").at(-1) as string) || told.has(name)) return [];
      told.add(name);
      const like = nearest(plain, [...known.keys()]);
      const near = like === undefined ? undefined : known.get(like);
      return [{ what: "picture", asset: name, ...(near === undefined ? {} : { near }), at: source.place(match.index) }];
    });
  });
}

/** Source: developer.apple.com, "UIApplication" (setAlternateIconName), "CFBundleAlternateIcons". */
const TAKES_ICON = /\bsetAlternateIconName\s*(?:\(\s*|:\s*@)"([^"\\\n]+)"/g;
const ALTERNATE_ICONS = /^CFBundleIcons(?:~ipad)?\.CFBundleAlternateIcons\.([^.]+)$/;

/** Icons that code takes in place of the first, and that neither the property list nor a catalog has. */
export function alternateIcons(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): AssetFault[] {
  const { ios, entries } = app;
  if (!ios || ios.generated) return [];
  const listed = entries.flatMap(({ side, kind, name }) =>
    side === "ios" && kind === "plist" ? (ALTERNATE_ICONS.exec(name)?.[1] ?? []) : [],
  );
  let sets: ReadonlySet<string> | undefined;
  return sources.flatMap((source) => {
    if (source.side !== "ios" || !source.text.includes("setAlternateIconName")) return [];
    return [...withoutComments(source.text).matchAll(TAKES_ICON)].flatMap((match): AssetFault[] => {
      const name = match[1] as string;
      sets ??= iconSets(project, index, ios.folder);
      if (listed.includes(name) || sets.has(name)) return [];
      const near = nearest(name, listed) ?? (listed.length === 1 ? listed[0] : undefined);
      return [{ what: "alternate icon", asset: name, ...(near === undefined ? {} : { near }), at: source.place(match.index) }];
    });
  });
}

/** Icons of the app in the catalogs below a folder. */
function iconSets(project: ProjectFiles, index: FolderIndex, folder: string): ReadonlySet<string> {
  return new Set(
    [...foldersBelow(index, folder)].flatMap(([above, { folders }]) =>
      folders
        .filter((name) => name.endsWith(".xcassets"))
        .flatMap((name) => project.tree.list(join(above, name)).flatMap((entry) => /^(.+)\.appiconset$/.exec(entry.name)?.[1] ?? [])),
    ),
  );
}

/** The names of all pictures below a folder, in small letters, as they are written. */
export function picturesOf(project: ProjectFiles, index: FolderIndex, folder: string): Map<string, string> {
  const names = new Map<string, string>();
  const add = (name: string): void => {
    const plain = name.replace(/(@[23]x)?(~\w+)?\.\w+$/, "");
    names.set(plain.toLowerCase(), plain);
  };
  const catalog = (at: string, depth: number): void => {
    for (const entry of project.tree.list(at))
      if (entry.kind === "folder") {
        add(entry.name);
        if (depth < 6 && !/set$/.test(entry.name)) catalog(join(at, entry.name), depth + 1);
      }
  };
  for (const [above, { files, folders }] of foldersBelow(index, folder)) {
    for (const name of files) if (/\.(png|jpe?g|pdf|svg|heic|gif)$/i.test(name)) add(name);
    for (const name of folders) if (name.endsWith(".xcassets")) catalog(join(above, name), 0);
  }
  return names;
}
