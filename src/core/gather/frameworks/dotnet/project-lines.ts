import { insideOf, type Evaluated } from "../../../evaluate/msbuild/evaluation.js";
import { foldersBelow } from "../../../files/walk.js";
import type { TemplateLine } from "../../../model/app.js";
import { baseName, join, parentOf } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { misspelling, nearest } from "../../../model/suggest.js";
import { textOf } from "../../../model/value.js";
import { at, placeOf, textAt } from "../../../syntax/data.js";
import { children, type XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import { TRIMMER_ELEMENTS } from "../../../knowledge/known-names.js";
import { noteMisspeltElements } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import type { UnitOfApp } from "./packages.js";
import { actionOf, includesOf, isOn, PLATFORMS, textOfProperty, type DotnetProject, type Platform } from "./project.js";

/** Platforms of target frameworks. Source: learn.microsoft.com, "Target frameworks in SDK-style projects" (OS-specific TFMs). */
const PLATFORM_NAMES = ["android", "ios", "maccatalyst", "macos", "tvos", "windows", "tizen", "browser"];

/** From this edition on the build asks a project of MAUI to name the framework's packages itself, by its warning MA002. */
const OWN_PACKAGES_SINCE = 8;

interface AppProjects {
  android: DotnetProject | undefined;
  ios: DotnetProject | undefined;
  units: UnitOfApp[];
}

/** Lines of a project file without which what it says is not what is built, and values that the stores refuse. */
export function noteProjectLines(discovery: Discovery, app: FactSink, of: AppProjects): void {
  const { project } = discovery;
  const first = of.android ?? of.ios;
  if (!first) return;
  const side = of.android ? "android" : "ios";
  const lacks = (line: TemplateLine, at = startOf(first.file)): void => app.templateLine({ line, side, at });
  noteTargets(project, app, of);
  const build = first.build(side);
  if (isOn(build, "UseMaui")) {
    if (lacksPackage(of)) lacks("framework's package");
    const folders = ["Android", "iOS"].filter((name) => project.tree.isFolder(join(first.folder, "Platforms", name)));
    if (build.property("SingleProject") === undefined && folders.length === 2) lacks("single project");
    noteIcons(project, app, of);
    noteIdentity(app, of, lacks);
  }
  for (const unit of of.units) noteBinding(discovery, app, unit, of);
  noteTrimmer(discovery, app, first, side);
  noteFolders(project, app, of);
  noteVersions(app, of);
}

/** Platforms of target frameworks, and of conditions, that are almost one that there is; items for a platform that the project is not built for. */
function noteTargets(project: ProjectFiles, app: FactSink, { units }: AppProjects): void {
  for (const { project: unit } of units) {
    for (const name of ["TargetFrameworks", "TargetFramework"]) {
      const stated = unit.base.property(name);
      for (const [, platform = ""] of (textOf(stated) ?? "").matchAll(/\bnet\d[\d.]*-([a-z]+)/gi)) {
        const right = misspelling(platform, PLATFORM_NAMES);
        if (stated && right !== undefined && right !== platform.toLowerCase())
          app.misspelling({ what: "platform", name: platform, right, side: "shared", at: stated.place });
      }
    }
    noteConditions(project, app, unit);
  }
}

/** The ways in which a condition asks for the platform; text is compared without a look at its case, and looked for with one. */
const ASKS =
  /\.(?:Contains|EndsWith)\(\s*'-?([A-Za-z]+)'\s*\)|(?:TargetPlatformIdentifier|GetTargetPlatformIdentifier)[^=!]*[!=]=\s*'([A-Za-z]+)'/g;

function noteConditions(project: ProjectFiles, app: FactSink, { file, frameworks }: DotnetProject): void {
  const built = new Set(frameworks.map(({ platform }) => platform));
  if (!PLATFORMS.some((platform) => built.has(platform))) return;
  const told = new Set<string>();
  const groups = project.xml(file)?.root?.children ?? [];
  for (const group of groups.flatMap((one) => [one, ...one.children])) {
    const condition = group.attributes.get("Condition");
    for (const match of condition?.value.matchAll(ASKS) ?? []) {
      const [, sought, compared] = match;
      const name = (sought ?? compared) as string;
      const place = group.source.place(condition?.start ?? group.start);
      const right = misspelling(name, PLATFORM_NAMES);
      if (right !== undefined && (sought !== undefined || right !== name.toLowerCase()))
        app.misspelling({ what: "platform of a condition", name, right, side: "shared", at: place });
      else if (isPhone(name) && !built.has(name) && ITEMS.test(group.name) && !told.has(name)) {
        told.add(name);
        app.templateLine({ line: "platform of the items", side: name, at: place });
      }
    }
  }
}

const ITEMS = /^(ItemGroup|\w+Reference|BundleResource|AndroidResource)$/;

function isPhone(name: string): name is Platform {
  return (PLATFORMS as readonly string[]).includes(name);
}

/** No project of the app takes in a package of the framework, nor one that could bring it. */
function lacksPackage({ units, android, ios }: AppProjects): boolean {
  const first = (android ?? ios) as DotnetProject;
  if (!first.frameworks.some(({ version }) => Number.parseInt(version, 10) >= OWN_PACKAGES_SINCE)) return false;
  return units.every(({ project: unit, platforms }) =>
    platforms.every((platform) => {
      const build = unit.build(platform);
      const isOpen = build.imports.some(({ exists }) => exists !== true);
      return !isOpen && !includesOf(build, "PackageReference").some(({ include }) => /maui|\$/i.test(include));
    }),
  );
}

/** Icons that the framework makes of a picture, by their names. Source: learn.microsoft.com, "Add an app icon to a .NET MAUI app project". */
function madeIcons(build: Evaluated): { names: string[]; open: boolean } {
  const items = includesOf(build, "MauiIcon");
  return {
    names: items.map((item) =>
      baseName(textOf(item.metadata.get("Link")?.value)?.replaceAll("\\", "/") ?? insideOf(build, item)).replace(/\.\w+$/, ""),
    ),
    open: items.some(({ include, open }) => open || /[*$%]/.test(include)),
  };
}

/**
 * The id and the number of the app, where nothing at all states them. Source: learn.microsoft.com, ".NET MAUI single project" (ApplicationId,
 * ApplicationVersion).
 */
function noteIdentity(app: FactSink, { android, ios }: AppProjects, lacks: (line: TemplateLine) => void): void {
  const builds = [android?.build("android"), ios?.build("ios")].flatMap((build) => build ?? []);
  if (builds.some((build) => build.imports.some(({ exists }) => exists !== true) || textOfProperty(build, "GenerateApplicationManifest")))
    return;
  const isUnsaid = (name: string): boolean => builds.every((build) => build.property(name) === undefined);
  const stated = (names: RegExp): boolean =>
    app.entries.some(({ kind, name }) => /^(plist|manifestAttribute)$/.test(kind) && names.test(name));
  const hasId = [app.android?.ids, app.ios?.ids].some((ids) => (ids ?? []).some(({ value }) => value.kind === "known"));
  if (isUnsaid("ApplicationId") && !hasId) lacks("id of the app");
  if (isUnsaid("ApplicationVersion") && !isUnsaid("ApplicationDisplayVersion") && !stated(/^(CFBundleVersion|versionCode)$/))
    lacks("versions of the app");
}

/** Icons that the manifest and the property list name, against those that the project makes or has. */
function noteIcons(project: ProjectFiles, app: FactSink, { android, ios }: AppProjects): void {
  const [manifest] = app.manifests;
  const root = manifest?.endsWith(".xml") ? project.xml(manifest)?.root : undefined;
  if (android && root) noteManifestIcons(project, app, android, root);
  const [list] = app.propertyLists;
  if (ios && list?.endsWith(".plist")) noteIconSet(project, app, ios, list);
}

/** The names of pictures in the resources of a project. */
function ownPictures(project: ProjectFiles, folder: string): string[] {
  return ["Platforms/Android/Resources", "Resources"]
    .map((home) => join(folder, home))
    .filter((home) => project.tree.isFolder(home))
    .flatMap((home) => project.tree.list(home).flatMap(({ name }) => (/^(mipmap|drawable)/.test(name) ? join(home, name) : [])))
    .flatMap((home) => project.tree.list(home).map(({ name }) => name.replace(/\.\w+$/, "")));
}

function noteManifestIcons(project: ProjectFiles, app: FactSink, android: DotnetProject, root: XmlElement): void {
  const { names, open } = madeIcons(android.build("android"));
  if (open) return;
  const known = [
    ...ownPictures(project, android.folder),
    ...names.map((icon) => icon.toLowerCase()).flatMap((icon) => [icon, `${icon}_round`]),
  ];
  for (const application of children(root, "application"))
    for (const attribute of ["android:icon", "android:roundIcon"]) {
      const stated = application.attributes.get(attribute);
      const name = /^@mipmap\/(\w+)$/.exec(stated?.value ?? "")?.[1];
      if (!stated || name === undefined || known.includes(name)) continue;
      const near = nearest(name, known) ?? known[0];
      app.componentFault({
        what: "resource",
        side: "android",
        element: attribute,
        name: stated.value,
        near: near === undefined ? undefined : `@mipmap/${near}`,
        at: application.source.place(stated.start),
      });
    }
}

function noteIconSet(project: ProjectFiles, app: FactSink, ios: DotnetProject, list: string): void {
  const entry = at(project.plist(list)?.root, "XSAppIconAssets");
  const text = textAt(entry);
  const { names, open } = madeIcons(ios.build("ios"));
  const root = project.plist(list)?.root;
  // Source: learn.microsoft.com, "Add an app icon to a .NET MAUI app project" (XSAppIconAssets).
  if (
    root &&
    !entry &&
    names.length > 0 &&
    !open &&
    ios.build("ios").property("AppIcon") === undefined &&
    !/CFBundleIcon/.test(project.text(list)?.text ?? "")
  )
    app.templateLine({ line: "icons of the list", side: "ios", at: startOf(list) });
  if (!entry || text === undefined || open) return;
  const isThere = [ios.folder, parentOf(list)].some((folder) => project.tree.isFolder(join(folder, text)));
  const sets = names.map((icon) => `Assets.xcassets/${icon}.appiconset`);
  if (!isThere && !sets.includes(text))
    app.componentFault({ what: "icon set", side: "ios", element: baseName(list), name: text, near: sets[0], at: placeOf(entry) });
}

/** Items that give a project of bindings something native. Source: learn.microsoft.com, "Build items" (.NET for Android, .NET for iOS). */
const NATIVE = [
  "AndroidLibrary",
  "AndroidMavenLibrary",
  "AndroidGradleProject",
  "AndroidJavaLibrary",
  "AndroidAarLibrary",
  "LibraryProjectZip",
  "EmbeddedJar",
  "InputJar",
];

/** Projects that bind a native library: the library, the definitions, and the switch. */
function noteBinding(discovery: Discovery, app: FactSink, { project: unit, platforms }: UnitOfApp, { android, ios }: AppProjects): void {
  if (unit === android || unit === ios) return;
  for (const side of platforms) {
    const build = unit.build(side);
    const has = (kind: string): boolean => includesOf(build, kind).length > 0;
    const line = (name: TemplateLine): void => app.templateLine({ line: name, side, at: startOf(unit.file) });
    if (side === "android") {
      const files = [...foldersBelow(discovery.index, unit.folder)].flatMap(([, { files: names }]) => names);
      const isBinding = has("TransformFile") && !files.some((name) => name.endsWith(".cs"));
      if (isBinding && ![...NATIVE, "PackageReference", "ProjectReference"].some(has) && !files.some((name) => /\.(aar|jar)$/.test(name)))
        line("bound library");
      continue;
    }
    const isBinding = isOn(build, "IsBindingProject");
    if (!isBinding && has("ObjcBindingApiDefinition")) line("binding's switch");
    if (!isBinding) continue;
    const isNative = (one: Evaluated): boolean =>
      ["NativeReference", "ObjcBindingNativeLibrary", "PackageReference", "XcodeProject"].some((kind) => includesOf(one, kind).length > 0);
    if (!has("ObjcBindingApiDefinition") && discovery.project.tree.isFile(join(unit.folder, "ApiDefinition.cs")))
      line("binding's definitions");
    if (!isNative(build) && !(ios && includesOf(ios.build("ios"), "NativeReference").length > 0)) line("bound library");
  }
}

/** Descriptions for the trimmer that no item takes in: they keep nothing. Source: learn.microsoft.com, "Trimming options" (TrimmerRootDescriptor). */
function noteTrimmer({ project, index }: Discovery, app: FactSink, unit: DotnetProject, side: Platform): void {
  for (const [folder, { files }] of foldersBelow(index, unit.folder)) {
    if (/(^|\/)(bin|obj|Platforms)(\/|$)/.test(folder)) continue;
    for (const name of files) {
      const file = join(folder, name);
      if (!name.endsWith(".xml") || project.xml(file)?.root?.name !== "linker") continue;
      const root = project.xml(file)?.root;
      if (root) noteMisspeltElements(app, root, TRIMMER_ELEMENTS, "shared");
      const action = PLATFORMS.flatMap((platform) => actionOf(unit.build(platform), file, []) ?? []);
      if (!action.some(({ kind }) => !/^(None|Content)$/.test(kind))) app.templateLine({ line: "trimmer's list", side, at: startOf(file) });
    }
  }
}

/** Folders of pictures, fonts and assets whose name is a slip of one that is there. */
function noteFolders(project: ProjectFiles, app: FactSink, { units }: AppProjects): void {
  const told = new Set<string>();
  for (const { project: unit, platforms } of units)
    for (const side of platforms)
      for (const kind of ["MauiImage", "MauiFont", "MauiAsset"])
        for (const item of includesOf(unit.build(side), kind)) {
          const folder = /^([^*?$%@;]+)\/\*/.exec(insideOf(unit.build(side), item))?.[1];
          if (folder === undefined || told.has(`${kind} ${folder}`) || project.tree.isFolder(join(unit.folder, folder))) continue;
          told.add(`${kind} ${folder}`);
          const parts = folder.split("/");
          const there = parts.findIndex((_, index) => !project.tree.isFolder(join(unit.folder, parts.slice(0, index + 1).join("/"))));
          const above = parts.slice(0, there).join("/");
          const beside = project.tree.list(join(unit.folder, above)).flatMap((entry) => (entry.kind === "folder" ? entry.name : []));
          const near = misspelling(parts[there] ?? "", beside);
          if (near !== undefined) app.misspelling({ what: "folder", name: folder, right: join(above, near), side: "shared", at: item.at });
        }
}

/** Source: learn.microsoft.com, ".NET MAUI single project" (ApplicationVersion is an integer); developer.apple.com, "CFBundleShortVersionString". */
function noteVersions(app: FactSink, { android, ios }: AppProjects): void {
  const code = android?.build("android").property("ApplicationVersion");
  if (code?.kind === "known" && code.text !== "" && !/^\d+$/.test(code.text))
    app.unfitValue({ what: "version code", value: code.text, side: "android", at: code.place });
  const shown = ios?.build("ios").property("ApplicationDisplayVersion");
  const list = ios && textOfProperty(ios.build("ios"), "GenerateApplicationManifest");
  if (shown?.kind === "known" && shown.text !== "" && !/^false$/i.test(list ?? "") && !/^\d+(\.\d+){0,2}$/.test(shown.text))
    app.unfitValue({ what: "bundle version", value: shown.text, side: "ios", at: shown.place });
}
