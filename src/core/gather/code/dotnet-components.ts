import { distance } from "fastest-levenshtein";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { baseName, join } from "../../model/paths.js";
import { nearest } from "../../model/suggest.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, textAt, placeOf } from "../../syntax/data.js";
import { keptOff } from "../platforms/directives.js";
import type { ProjectFiles } from "../project-files.js";
import { Resources } from "./android-resources.js";
import type { SourceFile } from "./sources.js";

/** Kinds of resources that libraries do not share with the apps that use them, or whose names there have a prefix of their own. */
const OWN_KINDS: Record<string, string> = { Layout: "layout", Menu: "menu", Raw: "raw", Xml: "xml", Navigation: "navigation" };

/**
 * What code in C# names of the app's own resources and property lists, and what these name of the code: told where the app has files of the kind
 * and not this one. Sources: learn.microsoft.com, "Android resource basics" (Resource), "Storyboards in .NET for iOS" (Register), "Application icons"
 * (XSAppIconAssets).
 */
export function dotnetComponents(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const code = sources.filter(({ language }) => language === "csharp").map((source) => ({ source, text: withoutComments(source.text) }));
  return [
    ...(app.android ? resourcesOfCode(new Resources(project, app), code) : []),
    ...(app.ios ? [...lostIcons(project, app), ...lostDelegate(code), ...lostStoryboards(index, app, code)] : []),
  ];
}

interface Code {
  source: SourceFile;
  text: string;
}

/** `Resource.Layout.main`, and `"@string/app_name"` in an attribute. */
function resourcesOfCode(resources: Resources, code: readonly Code[]): ComponentFault[] {
  return code.flatMap(({ source, text }) => {
    if (source.side === "ios" || !/\bResource\s*\.|"@\w+\//.test(text)) return [];
    const off = keptOff(text);
    const named = [
      ...[...text.matchAll(/(?<![\w.])(?:Resource|_Microsoft\.Android\.Resource\.Designer\.Resource)\s*\.\s*([A-Z]\w*)\s*\.\s*(\w+)/g)].map(
        (match) => ({ match, kind: OWN_KINDS[match[1] as string], name: match[2] as string, alone: true }),
      ),
      ...[...text.matchAll(/=\s*"@(string|style|xml|mipmap|drawable)\/([\w.]+)"/g)].map((match) => ({
        match,
        kind: match[1],
        name: match[2] as string,
        alone: match[1] === "xml",
      })),
    ];
    return named.flatMap(({ match, kind, name, alone }): ComponentFault[] => {
      const known = kind === undefined ? undefined : resources.of(kind);
      if (kind === undefined || !known || known.size === 0 || off(match.index).has("android")) return [];
      // A dot of a style is an underscore in code.
      const names = [...known.keys()].map((own) => own.replaceAll(".", "_"));
      const wanted = name.replaceAll(".", "_");
      if (names.includes(wanted)) return [];
      const near = names.find((other) => distance(other, wanted) <= Math.min(3, Math.floor(wanted.length / 4)));
      if (near === undefined && !alone) return [];
      return [
        {
          what: "resource",
          side: "android",
          element: "code",
          name: `@${kind}/${name}`,
          near: near === undefined ? undefined : `@${kind}/${near}`,
          ...(near === undefined ? { unsure: true as const } : {}),
          at: source.place(match.index),
        },
      ];
    });
  });
}

/** The set of icons that the property list names. */
function lostIcons(project: ProjectFiles, app: App): ComponentFault[] {
  return app.propertyLists.flatMap((file): ComponentFault[] => {
    const root = file.endsWith(".plist") ? project.plist(file)?.root : undefined;
    const entry = at(root, "XSAppIconAssets");
    const text = textAt(entry);
    const catalog = text?.split("/")[0];
    if (!entry || text === undefined || catalog === undefined || !app.ios) return [];
    // Where items make the icons no catalog is in the tree.
    const homes = [app.ios.folder, join(app.ios.folder, "Resources")].filter((folder) => project.tree.isFolder(join(folder, catalog)));
    const sets = homes.flatMap((folder) => project.tree.list(join(folder, catalog)).map(({ name }) => `${catalog}/${name}`));
    if (sets.length === 0 || sets.includes(text)) return [];
    return [{ what: "icon set", side: "ios", element: baseName(file), name: text, near: nearest(text, sets), at: placeOf(entry) }];
  });
}

/** The delegate by its name, as the program gives it to the application. */
function lostDelegate(code: readonly Code[]): ComponentFault[] {
  const own = code.flatMap(({ text }) => [
    ...[...text.matchAll(/\[\s*Register\s*\(\s*(?:nameof\s*\(\s*)?"?(\w+)"?/g)].map((match) => match[1] as string),
    ...[...text.matchAll(/\bclass\s+(\w+)/g)].map((match) => match[1] as string),
  ]);
  return code.flatMap(({ source, text }) =>
    [...text.matchAll(/\bUIApplication\s*\.\s*Main\s*\([^;]*?,\s*"(\w+)"\s*\)/g)].flatMap((match): ComponentFault[] => {
      const name = match[1] as string;
      const near = nearest(name, own);
      return own.includes(name) || near === undefined
        ? []
        : [{ what: "scene delegate", side: "ios", element: "the program", name, near, at: source.place(match.index) }];
    }),
  );
}

/** Storyboards that code opens by name, of the app's own bundle. */
function lostStoryboards(index: FolderIndex, { ios, sourceFolders }: App, code: readonly Code[]): ComponentFault[] {
  if (!ios) return [];
  const there = new Set(
    [ios.folder, ...sourceFolders.map(({ folder }) => folder)].flatMap((folder) =>
      [...foldersBelow(index, folder)].flatMap(([, { files }]) => files.flatMap((name) => /^(.+)\.storyboard$/.exec(name)?.[1] ?? [])),
    ),
  );
  if (there.size === 0) return [];
  return code.flatMap(({ source, text }) =>
    [...text.matchAll(/\bUIStoryboard\s*\.\s*FromName\s*\(\s*"([^"\n]+)"\s*,\s*(?:null|NSBundle\s*\.\s*MainBundle)\s*\)/g)].flatMap(
      (match): ComponentFault[] => {
        const name = match[1] as string;
        return there.has(name)
          ? []
          : [{ what: "storyboard", side: "ios", element: "code", name, near: nearest(name, [...there]), at: source.place(match.index) }];
      },
    ),
  );
}
