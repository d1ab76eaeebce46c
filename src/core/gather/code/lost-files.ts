import type { FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { LostImport } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript } from "../../syntax/code/languages.js";
import { ignoredByGit } from "../git-ignored.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Frameworks whose shared code is put together from the files as they are. */
const KINDS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["flutter", "react-native", "expo"]);

const DART = /^[ \t]*(?:import|export|part)\s+(["'])((?![\w+.-]*:)[^"'$\n]+|package:[^"'$\n]+)\1/gm;
const SCRIPT = /^[ \t]*(?:(?:import|export)\s[^'"\n;]*?from\s*|import\s*|\}\s*from\s*)(["'])(\.{1,2}\/[^"'\n?!]*)\1/gm;

/** Files that tools write from others: `tide.g.dart`, `graphql/__generated__/`. */
const MADE = /\.\w+\.dart$|(^|\/)(generated|__generated__|gen|l10n|\.dart_tool)(\/|$)|\.(css|scss|graphql|gql)$/;

const ENDINGS = [".ts", ".tsx", ".js", ".jsx", ".mjs", ".cjs", ".json", ".d.ts"];
const PLATFORMS = ["", ".ios", ".android", ".native", ".web"];

/**
 * Imports of files of the app's own that are not there: the build stops. What a tool makes or Git leaves out is passed over. Sources: dart.dev,
 * "Libraries & imports"; reactnative.dev, "Platform-specific code"; metrobundler.dev, "Module resolution".
 */
export function lostImports(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): LostImport[] {
  if (!KINDS.has(app.kind) || !app.shared) return [];
  const { folder } = app.shared;
  const name =
    app.kind === "flutter" ? /^name:\s*["']?(\w+)/m.exec(project.text(join(folder, "pubspec.yaml"))?.text ?? "")?.[1] : undefined;
  const isThere = (file: string): boolean => index.get(parentOf(file))?.files.includes(baseName(file)) ?? false;
  const folders = new Set<string>();
  const found: (LostImport & { by: string })[] = [];
  const imported = new Set<string>();
  for (const { file, language, text, place } of sources) {
    if (!isWithin(file, folder) || (language !== "dart" && !isScript(language))) continue;
    const dart = language === "dart";
    if (dart && !/^[ \t]*(?:import|export|part)\b/m.test(text)) continue;
    let plain: string | undefined;
    for (const match of text.matchAll(dart ? DART : SCRIPT)) {
      const written = match[2] as string;
      const target = dart ? ofDart(written, file, folder, name) : join(parentOf(file), written);
      if (target === undefined || target.startsWith("..") || !isWithin(target, folder)) continue;
      const real = (dart ? [target] : candidates(target, index)).find(isThere);
      if (real !== undefined) imported.add(real);
      if (real !== undefined || MADE.test(target) || index.has(target) || !index.has(parentOf(file))) continue;
      // Not in a comment, nor in a text of several lines.
      plain ??= withoutComments(text);
      if (plain.slice(match.index, match.index + match[0].length) !== match[0]) continue;
      folders.add(parentOf(target));
      found.push({ name: written, file: target, by: file, certain: false, at: place(match.index + match[0].lastIndexOf(written)) });
    }
  }
  if (found.length === 0) return [];
  const above = (path: string): string[] => path.split("/").map((_, at, parts) => parts.slice(0, at).join("/"));
  return found.flatMap(({ by, ...lost }) => {
    const ignored = ignoredByGit(project, above(lost.file));
    if (lost.file.split("/").some((part) => ignored(part) || ignored(`${part}/`) || ENDINGS.some((ending) => ignored(part + ending))))
      return [];
    return [{ ...lost, certain: imported.has(by) || /^(main\w*|index|App|_layout)\.\w+$/.test(baseName(by)) }];
  });
}

function ofDart(written: string, file: string, folder: string, name: string | undefined): string | undefined {
  if (!written.startsWith("package:")) return join(parentOf(file), written);
  return name !== undefined && written.startsWith(`package:${name}/`)
    ? join(folder, "lib", written.slice(`package:${name}/`.length))
    : undefined;
}

function candidates(target: string, index: FolderIndex): string[] {
  const plain = target.replace(/\/$/, "");
  const stem = plain.replace(/\.(?:js|jsx|mjs|cjs|ts|tsx)$/, "");
  const picture = /^(.*)(\.\w+)$/.exec(plain);
  return [
    plain,
    ...[plain, stem, ...(index.has(plain) ? [`${plain}/index`] : [])].flatMap((base) =>
      PLATFORMS.flatMap((platform) => ENDINGS.map((ending) => `${base}${platform}${ending}`)),
    ),
    ...(picture
      ? ["@2x", "@3x", "@1x", "@4x", ".ios", ".android"].map((part) => `${picture[1] as string}${part}${picture[2] as string}`)
      : []),
    ...(index.has(plain) ? [`${plain}/package.json`] : []),
  ];
}
