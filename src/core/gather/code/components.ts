import { distance } from "fastest-levenshtein";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { GradleModule } from "../../model/gradle.js";
import type { ComponentFault } from "../../model/code.js";
import { baseName, isInstalled, join } from "../../model/paths.js";
import { takesIn } from "../../model/xcode.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, entriesOf, itemsOf, type Data, type ScalarData } from "../../syntax/data.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";
import { manifestFile } from "../platforms/android/side.js";
import type { ProjectFiles } from "../project-files.js";
import { laidResources, writtenManifest } from "../packages/cordova-manifest.js";
import { androidFaults, KINDS } from "./android-components.js";
import { OwnClasses } from "./own-classes.js";
import { dotnetComponents } from "./dotnet-components.js";
import { interfaceFaults } from "./interface-files.js";
import { manifestFaults } from "./manifest-faults.js";
import { unhandledFetches, unhandledOpenings } from "./apple-handlers.js";
import { idleRegistries } from "./apple-parts.js";
import { askedOrientations } from "./shared-interfaces.js";
import type { SourceFile } from "./sources.js";

/** Components of the system that cannot start: their class is not there, or what the system asks of their element is missing. */
export function componentFaults(
  project: ProjectFiles,
  index: FolderIndex,
  app: App,
  sources: readonly SourceFile[],
  views: readonly SourceFile[],
): ComponentFault[] {
  if (app.kind === "dotnet") {
    const roots = app.manifests.flatMap((file) => (file.endsWith(".xml") ? (project.xml(file)?.root ?? []) : []));
    return [
      ...manifestFaults(project, app, roots, sources, views),
      ...dotnetComponents(project, index, app, sources),
      // The framework's single project makes the screen of the launch itself.
      ...(sources.some(({ text }) => /\bUseMauiApp\b/.test(text)) ? [] : sceneFaults(project, index, app, sources)),
      ...interfaceFaults(project, index, app, sources),
      ...unhandledFetches(app, sources),
    ];
  }
  if (app.kind === "cordova") return cordovaFaults(project, app, sources);
  if (!KINDS.has(app.kind)) return [];
  return [
    ...androidFaults(project, app, new OwnClasses(sources), sources, manifestsOf(project, app)),
    ...sceneFaults(project, index, app, sources),
    ...interfaceFaults(project, index, app, sources),
    ...idleRegistries(app, sources),
    ...unhandledOpenings(app, sources),
    ...unhandledFetches(app, sources),
    ...askedOrientations(project, app, sources),
  ];
}

/** What a configuration and the project's own plugins write into the manifest, against the classes and files that they bring. */
function cordovaFaults(project: ProjectFiles, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const root = app.android && writtenManifest(project, app);
  if (!root || !app.android) return [];
  const { module } = app.android;
  const laid = laidResources(project, app);
  // Of a plugin that is not here nothing is known, and the template has files of its own.
  const open = app.dependencies.some(({ nativeUnknown }) => nativeUnknown);
  const resources = allElements(root).flatMap(({ source, attributes }) =>
    [...attributes].flatMap(([element, { value: name, start }]): ComponentFault[] => {
      const [, type, own] = /^@(xml|raw)\/(\w+)$/.exec(name) ?? [];
      if (type === undefined || own === undefined || laid.has(`${type}/${own}`) || /^(config|cdv_\w+|opener_paths)$/.test(own)) return [];
      const near = [...laid].find((other) => other.startsWith(`${type}/`) && distance(other, `${type}/${own}`) <= 4);
      return open && near === undefined
        ? []
        : [
            {
              what: "resource",
              side: "android",
              element,
              name,
              near: near === undefined ? undefined : `@${near}`,
              at: source.place(start),
            },
          ];
    }),
  );
  return [...androidFaults(project, app, new OwnClasses(sources), sources, [{ root, module }]), ...resources];
}

/** The manifests of the app's own modules. */
function manifestsOf(project: ProjectFiles, app: App): { root: XmlElement; module: GradleModule }[] {
  if (!app.android) return [];
  const main = app.android.module;
  const own = app.manifests.filter((file) => file.endsWith("AndroidManifest.xml")).map((file) => ({ file, module: main }));
  const ofModules = app.android.modules.flatMap((module) => {
    const file = module === main || isInstalled(`${module.folder}/`) ? undefined : manifestFile(project, module);
    return file === undefined ? [] : [{ file, module }];
  });
  return [...own, ...ofModules].flatMap(({ file, module }) => {
    const root = project.xml(file)?.root;
    return root ? [{ root, module }] : [];
  });
}

/** Classes and storyboards that property lists name. Source: developer.apple.com, "UIApplicationSceneManifest", "UIMainStoryboardFile". */
function sceneFaults(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  if (!app.ios) return [];
  const folder = app.ios.folder;
  const code = sources.filter(({ side }) => side === "ios");
  let named: Set<string> | undefined;
  const types = (): Set<string> =>
    (named ??= new Set(
      code.flatMap(({ text }) =>
        [...withoutComments(text).matchAll(/(?:\bclass|@implementation)\s+(\w+)/g)].map((match) => match[1] as string),
      ),
    ));
  const files = new Set([
    ...[...foldersBelow(index, folder)].flatMap(([, { files: names }]) => names),
    // A project may take them from elsewhere.
    ...(app.ios?.allTargets ?? []).flatMap(({ resources }) => resources.map(baseName)),
  ]);
  // Folders of languages are listed by nobody before.
  let inLanguages: Map<string, string> | undefined;
  const localized = (): ReadonlyMap<string, string> =>
    (inLanguages ??= new Map(
      [...foldersBelow(index, folder)].flatMap(([above, { folders }]) =>
        folders
          .filter((name) => name.endsWith(".lproj"))
          .flatMap((name) => project.tree.list(join(above, name)).map((entry) => [entry.name, join(above, name, entry.name)] as const)),
      ),
    ));
  const faults: ComponentFault[] = [...sceneManifest(project, app, code), ...firstScreen(project, app, files, localized, code)];
  for (const file of app.propertyLists.filter((name) => name.endsWith(".plist"))) {
    const root = project.plist(file)?.root;
    faults.push(...resourcesOutside(index, app, root, localized));
    for (const [key, value] of scalarsOf(root)) {
      const text = String(value.value);
      const place = value.source.place(value.start);
      const type = key === "UISceneDelegateClassName" ? /^\$\(PRODUCT_MODULE_NAME\)\.(\w+)$/.exec(text)?.[1] : undefined;
      if (type !== undefined && code.length > 0 && !types().has(type))
        faults.push({
          what: "scene delegate",
          side: "ios",
          element: baseName(file),
          name: type,
          near: [...types()].find((other) => distance(other, type) <= 3),
          at: place,
        });
      if (/^(UIMainStoryboardFile|UISceneStoryboardFile|UILaunchStoryboardName)$/.test(key) && /^[\w -]+$/.test(text))
        if (
          !["storyboard", "xib", "nib", "storyboardc"].some(
            (ending) => files.has(`${text}.${ending}`) || localized().has(`${text}.${ending}`),
          )
        )
          faults.push({ what: "storyboard", side: "ios", element: key, name: text, near: undefined, at: place });
    }
  }
  return faults;
}

/** By the system's protocol, or by its name and that of a base which a framework brings: the scenes of a game have delegates of their own. */
const SCENE_DELEGATE = [
  /\bclass\s+(\w+)\s*:[^{]*\bUIWindowSceneDelegate\b/,
  /@interface\s+(\w+)\s*:[^@{]*\bUIWindowSceneDelegate\b/,
  /\bclass\s+(SceneDelegate)\s*:\s*\w+SceneDelegate\b/,
];

/** A scene's delegate that neither the property list nor code names. Source: developer.apple.com, "Specifying the scenes your app supports". */
function sceneManifest(project: ProjectFiles, { ios, entries, propertyLists }: App, code: readonly SourceFile[]): ComponentFault[] {
  const list = propertyLists.find((file) => file.endsWith(".plist"));
  const root = list === undefined ? undefined : project.plist(list)?.root;
  if (!ios || ios.generated || list === undefined || !root) return [];
  const scenes = at(root, "UIApplicationSceneManifest");
  const isGenerated = entries.some(({ name }) => /^(INFOPLIST_KEY_)?UIApplicationSceneManifest/.test(name) && scenes === undefined);
  const named = scalarsOf(scenes).some(([key]) => /^UIScene(DelegateClassName|ClassName)$/.test(key));
  if (named || isGenerated) return [];
  const plain = code.filter(({ file }) => takesIn(ios.target, file)).map((source) => ({ source, text: withoutComments(source.text) }));
  const classes = plain.flatMap(({ source, text }) => {
    const match = SCENE_DELEGATE.map((form) => form.exec(text)).find((found) => found !== null);
    return match ? [{ name: match[1] as string, at: source.place(match.index) }] : [];
  });
  const [first] = classes;
  if (!first || plain.some(({ text }) => /\bdelegateClass\b|\bsetDelegateClass\b|\bUISceneConfiguration\b/.test(text))) return [];
  return [{ what: "scene manifest", side: "ios", element: baseName(list), name: first.name, near: undefined, at: first.at }];
}

/** What makes a window, or a view of SwiftUI, or leaves it to the framework's own delegate. */
const MAKES_WINDOW =
  /\bUIWindow\b[^?!;\n]{0,40}[([]|\bUIWindow\s+alloc\b|\bWindowGroup\b|\bwindow\s*=|\bsetWindow:|\bmakeKeyAndVisible\b|\bRCTAppDelegate\b|\bReactNativeFactory\b|\bUIApplicationMain\s*\([^)]*,[^)]*,\s*@?"/;

/** An app of storyboards whose property list names none. Source: developer.apple.com, "UIMainStoryboardFile", "UISceneStoryboardFile". */
function firstScreen(
  project: ProjectFiles,
  { ios, kind, entries, propertyLists }: App,
  files: ReadonlySet<string>,
  localized: () => ReadonlyMap<string, string>,
  code: readonly SourceFile[],
): ComponentFault[] {
  const list = propertyLists.find((file) => file.endsWith(".plist"));
  const root = list === undefined ? undefined : project.plist(list)?.root;
  if (!ios || ios.generated || kind === "unity" || list === undefined || !root || code.length === 0) return [];
  const keys = new Set(scalarsOf(root).map(([key]) => key));
  if (["UIMainStoryboardFile", "UISceneStoryboardFile", "NSMainNibFile", "UIMainStoryboardFile~ipad"].some((key) => keys.has(key)))
    return [];
  if (entries.some(({ name }) => /MainStoryboardFile|UIApplicationSceneManifest_Generation/.test(name))) return [];
  const main = ["Main.storyboard", "MainStoryboard.storyboard"].find((name) => files.has(name) || localized().has(name));
  // A list without the keys that each has is none of a whole app.
  if (main === undefined || !keys.has("CFBundleIdentifier")) return [];
  const own = code.filter(({ file }) => takesIn(ios.target, file)).map(({ text }) => withoutComments(text));
  const delegate = own.some((text) => /\b(UIApplicationDelegate|FlutterAppDelegate|CDVAppDelegate)\b/.test(text));
  if (!delegate || own.some((text) => MAKES_WINDOW.test(text) || /\binstantiateInitialViewController\b/.test(text))) return [];
  return [
    {
      what: "first screen",
      side: "ios",
      element: baseName(list),
      name: "",
      near: main.replace(".storyboard", ""),
      at: root.source.place(0),
    },
  ];
}

/** Storyboards and fonts that a property list names, and that lie in the project and in no resources of the target. */
function resourcesOutside(
  index: FolderIndex,
  { ios, path, propertyLists }: App,
  root: Data | undefined,
  localized: () => ReadonlyMap<string, string>,
): ComponentFault[] {
  if (!ios || ios.generated || ios.target.synchronized.length > 0 || ios.target.resources.length === 0) return [];
  if (root === undefined || !propertyLists.includes(root.source.file)) return [];
  const { resources, scripts, copied } = ios.target;
  const taken = new Set([...resources.map(baseName), ...copied]);
  const isCopied = (form: RegExp): boolean =>
    scripts.some((script) => form.test(script)) || resources.some((file) => /(^|\/)fonts$/i.test(file) || /\.bundle$/.test(file));
  const fonts = isCopied(/\.(ttf|otf)|fonts/i) ? [] : itemsOf(at(root, "UIAppFonts"));
  const boards = scalarsOf(root).filter(([key]) => /^(UIMainStoryboardFile|UISceneStoryboardFile|UILaunchStoryboardName)$/.test(key));
  const named = [
    ...fonts.flatMap((item) => (item.kind === "scalar" ? [{ key: "UIAppFonts", item, name: baseName(String(item.value)) }] : [])),
    ...boards.map(([key, item]) => ({ key, item, name: `${String(item.value)}.storyboard` })),
  ];
  if (named.every(({ name }) => taken.has(name))) return [];
  const places = new Map(localized());
  for (const [folder, { files }] of foldersBelow(index, path))
    for (const file of files)
      if (!isInstalled(`${folder}/`) && !/(^|\/)(Pods|build)(\/|$)/.test(folder)) places.set(file, join(folder, file));
  return named.flatMap(({ key, item, name }): ComponentFault[] => {
    const lies = places.get(name);
    if (taken.has(name) || lies === undefined) return [];
    return [{ what: "outside the target", side: "ios", element: key, name, near: lies, at: item.source.place(item.start) }];
  });
}

/** All texts of a property list with their keys, at any depth. */
function scalarsOf(data: Data | undefined, depth = 0): [key: string, value: ScalarData][] {
  if (depth > 8 || data === undefined) return [];
  if (data.kind === "list") return itemsOf(data).flatMap((item) => scalarsOf(item, depth + 1));
  return entriesOf(data).flatMap(([key, { value }]): [string, ScalarData][] =>
    value.kind === "scalar" ? (typeof value.value === "string" ? [[key, value]] : []) : scalarsOf(at(data, key), depth + 1),
  );
}
