import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { AssetFault } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, itemsOf, placeOf, textAt, type Data } from "../../syntax/data.js";
import { ignoredByGit } from "../git-ignored.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Calls that load an asset by its name. Source: docs.flutter.dev, "Adding assets and images". */
const LOADED =
  /(?:(?:\b[A-Z]\w*\s*\.\s*asset|\bAssetImage|\brootBundle\s*\.\s*(?:load|loadString|loadStructuredData))\s*\(|\bdotenv\s*\.\s*load\s*\(\s*fileName\s*:)\s*(?:r?(["'])([^"'$\n\\]+)\1)/g;

/** Folders of the same picture for other densities. Source: as above, "Resolution-aware image assets". */
const DENSITY = /^\d+(\.\d+)?x$/;

/**
 * Assets of a Flutter app that are listed and not there, that code loads and no file is, and that are there and not listed. Of names outside of
 * calls that load one, only those in a folder that is listed are looked at.
 */
export function flutterAssets(project: ProjectFiles, app: App, sources: readonly SourceFile[]): AssetFault[] {
  if (app.kind !== "flutter" || !app.shared) return [];
  const { folder } = app.shared;
  const pubspec = project.yaml(join(folder, "pubspec.yaml"))?.root;
  const list = at(pubspec, "flutter", "assets");
  const listed = listedIn(pubspec);
  const isThere = (path: string): boolean => isAsset(project, join(folder, path));
  const families = itemsOf(at(pubspec, "flutter", "fonts"));
  const fonts = fontsOf(families);
  const isMade = madeIn(project, folder);
  const found = lostIn(project, folder, [...listed, ...fonts]);
  found.push(...lostInPackages(project, app, list), ...assetsOfPackages(project, app, sources, new Set(listed.map(({ path }) => path))));
  const covers = (path: string): boolean =>
    listed.some((entry) => entry.path === path || (entry.path.endsWith("/") && parentOf(path) === entry.path.slice(0, -1)));
  const roots = new Set(listed.map(({ path }) => path.split("/")[0] as string));
  const told = new Set<string>();
  const known = families.flatMap((family) => textAt(family, "family") ?? []);
  found.push(...missingTexts(project, folder, sources), ...iconFonts(project, app, pubspec, sources));
  for (const source of sources) {
    // Packages beside the app have assets of their own.
    if (source.language !== "dart" || source.guards.length > 0 || !isWithin(source.file, join(folder, "lib"))) continue;
    if (known.length > 0 && source.text.includes("fontFamily")) found.push(...misspeltFamilies(source, known, told));
    if (!/\.asset\b|AssetImage|rootBundle|\bdotenv\b/.test(source.text) && ![...roots].some((root) => source.text.includes(`${root}/`)))
      continue;
    const text = withoutComments(source.text);
    const names = assetsNamed(text, roots);
    for (const [offset, { asset, loads }] of names) {
      if (told.has(asset) || asset.startsWith("packages/") || isMade(asset)) continue;
      const there = isThere(asset);
      // A name that nothing loads here, of no file and in no folder that is listed, may be one of something else.
      if (there ? covers(asset) : !loads && !covers(asset)) continue;
      told.add(asset);
      found.push({ what: there ? "unlisted" : "absent", asset, at: source.place(offset) });
    }
  }
  return found;
}

/** Icons whose font the app does not take in. Sources: docs.flutter.dev, "Flutter pubspec options" (uses-material-design); api.flutter.dev, `Icons`, `CupertinoIcons`. */
function iconFonts(project: ProjectFiles, app: App, pubspec: Data | undefined, sources: readonly SourceFile[]): AssetFault[] {
  const folder = app.shared?.folder ?? "";
  const uses = (form: RegExp, library: string): SourceFile | undefined =>
    sources.find(
      ({ language, guards, file, text }) =>
        language === "dart" &&
        guards.length === 0 &&
        isWithin(file, join(folder, "lib")) &&
        text.includes(`package:flutter/${library}.dart`) &&
        form.test(text) &&
        form.test(withoutComments(text)),
    );
  const fonts = [
    {
      asset: "Icons",
      library: "material",
      form: /(?<![\w.])Icons\s*\.\s*[a-z]\w*/,
      there: textAt(pubspec, "flutter", "uses-material-design") === "true",
    },
    {
      asset: "CupertinoIcons",
      library: "cupertino",
      form: /(?<![\w.])CupertinoIcons\s*\.\s*[a-z]\w*/,
      there: bringsIcons(project, app),
    },
  ];
  return fonts.flatMap(({ asset, library, form, there }): AssetFault[] => {
    const source = there || !pubspec || sources.some(({ text }) => text.includes(`class ${asset} `)) ? undefined : uses(form, library);
    return source ? [{ what: "icon font", asset, at: source.place(withoutComments(source.text).search(form)) }] : [];
  });
}

const CUPERTINO_ICONS = "cupertino_icons";

/** Whether the package of the icons is in, by itself or brought by another; without a lock any may bring it. */
function bringsIcons(project: ProjectFiles, { shared, dependencies }: App): boolean {
  const own = dependencies.filter(({ ecosystem, platform, test }) => ecosystem === "pub" && !platform && !test);
  if (dependencies.some(({ ecosystem, name }) => ecosystem === "pub" && name === CUPERTINO_ICONS)) return true;
  const lock = project.yaml(join(shared?.folder ?? "", "pubspec.lock"))?.root;
  return lock ? at(lock, "packages", CUPERTINO_ICONS) !== undefined : own.length > 0;
}

/** An asset or a font that a list names. */
interface Listed {
  path: string;
  at: Place;
}

/** The assets that a package's pubspec lists of its own. */
function listedIn(pubspec: Data | undefined): Listed[] {
  return itemsOf(at(pubspec, "flutter", "assets")).flatMap((item) => {
    const path = textAt(item) ?? textAt(item, "path");
    return path === undefined || path.startsWith("packages/") ? [] : [{ path: path.replace(/^\.\//, ""), at: placeOf(item) }];
  });
}

/** Whether a file of an asset is there, for some density. */
function isAsset({ tree }: ProjectFiles, file: string): boolean {
  const folder = parentOf(file);
  return (
    tree.isFile(file) ||
    tree
      .list(folder)
      .some((entry) => entry.kind === "folder" && DENSITY.test(entry.name) && tree.isFile(join(folder, `${entry.name}/${baseName(file)}`)))
  );
}

/** Whether a path is kept out of the repository: what lies there is made or fetched before a build. */
function madeIn(project: ProjectFiles, folder: string): (path: string) => boolean {
  const ignored = ignoredByGit(project, ["", folder]);
  return (path) => ignored(path) || path.split("/").some((part) => part !== "" && (ignored(part) || ignored(`${part}/`)));
}

/** What is listed and not there. */
function lostIn(project: ProjectFiles, folder: string, listed: readonly Listed[]): AssetFault[] {
  const isMade = madeIn(project, folder);
  return listed.flatMap(({ path, at: place }): AssetFault[] => {
    const full = join(folder, path.replace(/\/$/, ""));
    const there = project.tree.isFolder(full) || (!path.endsWith("/") && isAsset(project, full));
    return there || isMade(path) ? [] : [{ what: "listed", asset: path, at: place }];
  });
}

/** Files of packages of the tree that the app lists: they lie in the package's library. Source: docs.flutter.dev, "Adding assets and images". */
function lostInPackages({ tree }: ProjectFiles, app: App, list: Data | undefined): AssetFault[] {
  return itemsOf(list).flatMap((item): AssetFault[] => {
    const path = textAt(item) ?? textAt(item, "path");
    const [, name, below] = /^packages\/(\w+)\/(.+)$/.exec(path ?? "") ?? [];
    const library = app.sourceFolders.find((other) => other.package !== undefined && other.package === name)?.folder;
    if (path === undefined || below === undefined || library === undefined) return [];
    const file = join(library, below.replace(/\/$/, ""));
    return tree.isFile(file) || tree.isFolder(file) ? [] : [{ what: "listed", asset: path, at: placeOf(item) }];
  });
}

/** A load of an asset that names the package which has it. */
const OF_PACKAGE =
  /(?:\b[A-Z]\w*\s*\.\s*asset|\bAssetImage|\bAssetBundleImageKey)\s*\(\s*r?(["'])([^"'$\n\\]+)\1[^;()]{0,200}?\bpackage\s*:\s*(["'])([^"'$\n]+)\3/g;

/**
 * Assets of packages of the tree: those that their own lists name and that are not there, and those that code loads from them and no list has.
 * Source: docs.flutter.dev, "Adding assets and images" (bundling of package assets).
 */
function assetsOfPackages(project: ProjectFiles, app: App, sources: readonly SourceFile[], listedByApp: ReadonlySet<string>): AssetFault[] {
  const { tree } = project;
  const packages = new Map(
    app.sourceFolders.flatMap(({ folder, package: name }) => {
      if (name === undefined || folder.startsWith("..")) return [];
      const home = parentOf(folder);
      return [[name, { home, listed: listedIn(project.yaml(join(home, "pubspec.yaml"))?.root) }] as const];
    }),
  );
  const found = [...packages.values()].flatMap(({ home, listed }) => lostIn(project, home, listed));
  const told = new Set<string>();
  for (const source of sources) {
    if (source.language !== "dart" || !/\bpackage\s*:/.test(source.text)) continue;
    for (const match of withoutComments(source.text).matchAll(OF_PACKAGE)) {
      const [, , asset = "", , name = ""] = match;
      const owner = packages.get(name);
      const at_ = source.place(match.index + match[0].indexOf(asset));
      const key = `packages/${name}/${asset}`;
      if (told.has(key)) continue;
      told.add(key);
      if (!owner) {
        const near = [...packages.keys()].find((other) => distance(other, name) <= 2 || other.startsWith(name) || name.startsWith(other));
        if (near !== undefined && !app.dependencies.some((other) => other.ecosystem === "pub" && other.name === name))
          found.push({ what: "absent", asset: key, at: at_ });
        continue;
      }
      // What lies in its library is listed by the app.
      if (listedByApp.has(key) || tree.isFile(join(owner.home, "lib", asset))) continue;
      const isListed = owner.listed.some(({ path }) => path === asset || (path.endsWith("/") && parentOf(asset) === path.slice(0, -1)));
      if (!isListed) found.push({ what: isAsset(project, join(owner.home, asset)) ? "unlisted" : "absent", asset: key, at: at_ });
    }
  }
  return found;
}

/** The files of fonts that the app lists. */
function fontsOf(families: Data[]): { path: string; at: Place }[] {
  return families.flatMap((family) =>
    itemsOf(at(family, "fonts")).flatMap((item) => {
      const path = textAt(item, "asset");
      return path === undefined || path.startsWith("packages/") ? [] : [{ path, at: placeOf(item) }];
    }),
  );
}

/** The assets that a text names, by the place of the name. */
function assetsNamed(text: string, roots: Set<string>): Map<number, { asset: string; loads: boolean }> {
  const names = new Map<number, { asset: string; loads: boolean }>();
  for (const match of text.matchAll(LOADED)) {
    const end = match.index + match[0].length;
    // Those of a package lie in it.
    if (!/^[^;]{0,200}?\bpackage\s*:/.test(text.slice(end, end + 240).split(/[;\n]\s*\n|\)\s*[,;)]/, 1)[0] as string))
      names.set(end - (match[2] as string).length - 1, { asset: match[2] as string, loads: true });
  }
  for (const match of text.matchAll(/(["'])([\w-]+\/[\w./@-]+\.\w{2,5})\1/g)) {
    const asset = match[2] as string;
    const offset = match.index + 1;
    if (
      !names.has(offset) &&
      roots.has(asset.split("/")[0] as string) &&
      !/\bpackage\s*:/.test(text.slice(offset, offset + 160).split(/[;\n]/, 1)[0] as string)
    )
      names.set(offset, { asset, loads: false });
  }
  return names;
}

/** Families that code asks for and that are almost one that pubspec.yaml lists: the system's font is shown in their place. */
function misspeltFamilies(source: SourceFile, known: readonly string[], told: Set<string>): AssetFault[] {
  return [...withoutComments(source.text).matchAll(/\bfontFamily\s*:\s*(["'])([\w -]+)\1/g)].flatMap((match): AssetFault[] => {
    const name = match[2] as string;
    const near = known.find((other) => distance(other.toLowerCase(), name.toLowerCase()) <= (name.length > 5 ? 2 : 0));
    if (known.includes(name) || near === undefined || told.has(`family ${name}`)) return [];
    told.add(`family ${name}`);
    return [{ what: "family", asset: name, near, at: source.place(match.index) }];
  });
}

/** What the classes of texts are generated from, where l10n.yaml names it. Source: docs.flutter.dev, "Internationalizing Flutter apps". */
function missingTexts(project: ProjectFiles, folder: string, sources: readonly SourceFile[]): AssetFault[] {
  const { tree } = project;
  const file = join(folder, "l10n.yaml");
  const settings = tree.isFile(file) ? project.yaml(file)?.root : undefined;
  if (!settings) return [];
  const arbs = textAt(settings, "arb-dir") ?? "lib/l10n";
  const template = textAt(settings, "template-arb-file") ?? "app_en.arb";
  const place = (key: string) => placeOf(at(settings, key) ?? settings);
  const faults: AssetFault[] = [];
  if (!tree.isFolder(join(folder, arbs))) faults.push({ what: "texts", asset: arbs, at: place("arb-dir") });
  else if (!tree.isFile(join(folder, arbs, template)))
    faults.push({ what: "texts", asset: `${arbs}/${template}`, at: place("template-arb-file") });
  const pubspec = project.yaml(join(folder, "pubspec.yaml"))?.root;
  const user = sources.find(({ language, text }) => language === "dart" && text.includes("package:flutter_gen/gen_l10n/"));
  if (user && pubspec && textAt(pubspec, "flutter", "generate") !== "true")
    faults.push({ what: "not generated", asset: "flutter_gen", at: user.place(user.text.indexOf("package:flutter_gen/gen_l10n/")) });
  return faults;
}
