import { distance } from "fastest-levenshtein";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { AssetFault } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, itemsOf, placeOf } from "../../syntax/data.js";
import { isScript } from "../../syntax/code/languages.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

const FONT = /\.(ttf|otf)$/i;

/** Families that the systems have. Sources: developer.android.com, "Typeface"; developer.apple.com, "System Fonts"; reactnative.dev, "Text Style Props". */
const OF_THE_SYSTEM =
  /^(System|normal|serif|sans-serif[\w-]*|monospace|casual|cursive|inherit|Roboto[\w-]*|Arial[\w -]*|Avenir[\w -]*|Helvetica[\w -]*|Courier[\w -]*|Georgia[\w-]*|Menlo[\w-]*|Times[\w -]*|SF[\w -]*|San Francisco|Verdana[\w-]*|Palatino[\w-]*|Futura[\w-]*|Gill ?Sans[\w-]*|American Typewriter|Noto[\w -]*|Droid[\w -]*|Optima[\w-]*|Trebuchet[\w-]*|ui-\w+)$/i;

/**
 * Fonts of a native app and of a React Native app: Android looks for the file of the name that a style gives, iOS takes what the property list names. Sources: reactnative.dev,
 * "Text" (custom fonts, assets/fonts), ReactFontManager of the framework; developer.apple.com, "UIAppFonts".
 */
export function scriptFonts(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): AssetFault[] {
  // Fonts that code registers are in no list.
  if (app.kind === "native")
    return sources.some(({ side, text }) => side === "ios" && /CTFontManagerRegister|CGFont\b/.test(text)) ? [] : listedFonts(project, app);
  if (app.kind !== "react-native" || !app.shared) return [];
  return [...listedFonts(project, app), ...askedFonts(index, app, sources)];
}

/** Fonts in the property list against the resources of the target. */
function listedFonts(project: ProjectFiles, { ios, propertyLists }: App): AssetFault[] {
  if (!ios || ios.generated || ios.target.synchronized.length > 0) return [];
  const resources = new Set(ios.target.resources.map(baseName).filter((name) => FONT.test(name)));
  const lists = propertyLists.flatMap((file) => (file.endsWith(".plist") ? (project.plist(file)?.root ?? []) : []));
  const listed = lists.flatMap((root) => itemsOf(at(root, "UIAppFonts")));
  const names = new Set(listed.flatMap((item) => (item.kind === "scalar" ? baseName(String(item.value)) : [])));
  const [first] = lists;
  // Copied by a script, or as a folder.
  if (
    ios.target.scripts.some((script) => /\.(ttf|otf)|fonts/i.test(script)) ||
    ios.target.resources.some((file) => /(^|\/)fonts$/i.test(file))
  )
    return [];
  const lost = listed.flatMap((item): AssetFault[] => {
    const name = item.kind === "scalar" ? baseName(String(item.value)) : "";
    // Pods bring fonts too.
    return FONT.test(name) && resources.size > 0 && !resources.has(name)
      ? near(name, resources).map((other) => ({ what: "listed font", asset: name, near: other, at: placeOf(item) }))
      : [];
  });
  const unlisted = first
    ? [...resources].flatMap((name): AssetFault[] =>
        names.has(name) || lost.some((fault) => fault.near === name)
          ? []
          : [{ what: "unlisted font", asset: name, near: undefined, at: placeOf(first) }],
      )
    : [];
  return [...lost, ...unlisted];
}

function near(name: string, others: Iterable<string>): string[] {
  const found = [...others].find((other) => distance(other.toLowerCase(), name.toLowerCase()) <= 2);
  return found === undefined ? [] : [found];
}

/** Families that styles ask for against the files of Android. */
function askedFonts(index: FolderIndex, { android, ios }: App, sources: readonly SourceFile[]): AssetFault[] {
  if (!android || android.generated) return [];
  const files = (form: RegExp): string[] =>
    android.modules.flatMap(({ folder }) =>
      [...foldersBelow(index, folder)].flatMap(([of, { files: names }]) =>
        form.test(`${of}/`) ? names.filter((name) => FONT.test(name) || name.endsWith(".xml")) : [],
      ),
    );
  const assets = files(/\/assets\/fonts\/$/).map((name) => name.replace(FONT, ""));
  const resources = files(/\/res\/font\/$/).map((name) => name.replace(/\.\w+$/, ""));
  const onIos = new Set(
    (ios?.target.resources ?? [])
      .map(baseName)
      .filter((name) => FONT.test(name))
      .map((name) => name.replace(FONT, "")),
  );
  // Without fonts of its own anywhere an app may get them from packages.
  if (assets.length === 0 && onIos.size === 0) return [];
  const plain = (name: string): string => name.replace(/_(bold|italic|bold_italic)$/, "");
  const there = new Set([...assets.flatMap((name) => [name, plain(name)]), ...resources]);
  // Names that code gives to fonts of its own.
  if (sources.some(({ side, text }) => side === "android" && /ReactFontManager|addCustomFont/.test(text))) return [];
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (
      source.side !== "shared" ||
      !isScript(source.language) ||
      !source.text.includes("fontFamily") ||
      source.guards.some(({ kind }) => kind === "ios")
    )
      return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bfontFamily\s*[:=]\s*\{?\s*(["'])([^"'\n]+)\1/g)].flatMap((match): AssetFault[] => {
      const name = match[2] as string;
      const around = text.slice(Math.max(0, text.lastIndexOf("\n", match.index - 1) - 120), match.index);
      if (told.has(name) || there.has(name) || OF_THE_SYSTEM.test(name) || /\bios\s*:|Platform\b/.test(around)) return [];
      told.add(name);
      const place = source.place(match.index + match[0].lastIndexOf(name));
      const [other] = near(name, there);
      if (other !== undefined) return [{ what: "family", asset: name, near: other, at: place }];
      // On iOS it is there under this name.
      return onIos.has(name) ? [{ what: "font of one side", asset: name, near: undefined, at: place }] : [];
    });
  });
}
