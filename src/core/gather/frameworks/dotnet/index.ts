import { insideOf, type Evaluated } from "../../../evaluate/msbuild/evaluation.js";
import { foldersBelow } from "../../../files/walk.js";
import { DOTNET_TARGET_LEVELS, DOTNET_ANDROID_FLOOR, XAMARIN_ANDROID_LEVELS } from "../../../knowledge/dotnet-android.js";
import type { SideName } from "../../../model/facts.js";
import { baseName, isAbsolutePath, isWithin, join, parentOf, relativeTo } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { reason, type Reason } from "../../../model/reason.js";
import { known, textOf, unknown, type Value } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, type Data, entriesOf, placeOf, valueAt } from "../../../syntax/data.js";
import { children } from "../../../syntax/xml.js";
import { compareLevels, isLevel } from "../../../versions/level.js";
import type { ProjectFiles } from "../../project-files.js";
import { debugEntitlements, entitlementEntries } from "../../platforms/ios/entries.js";
import { readLibraryManifest } from "../../platforms/android/manifest.js";
import type { FactSink } from "../../sink.js";
import { commonParent, type DetectedApp, type Discovery, type Framework, type TakenIn } from "../framework.js";
import { frameworkAndroid, frameworkIos } from "../framework-sides.js";
import { readAttributes } from "./attributes.js";
import { noteBundledFiles } from "./bundled-files.js";
import { filesOfBuild, noteGenerations, noteItemFiles, noteLostProperties, noteNamedFiles, noteSolution } from "./item-files.js";
import { noteMisspeltNames } from "./misspelt.js";
import { centralMistakes, noteSources, readPackages, type UnitOfApp } from "./packages.js";
import { noteProjectLines } from "./project-lines.js";
import {
  actionOf,
  includesOf,
  openProject,
  PLATFORMS,
  projectReferences,
  textOfProperty,
  type DotnetProject,
  type Platform,
} from "./project.js";

/** Kinds of project in the older form. Source: learn.microsoft.com, the project type ids of Xamarin. */
const OLD_KINDS: Record<Platform, RegExp> = {
  android: /EFBA0AD7-5A72-4C68-AF49-83D382785DCF/i,
  ios: /FEACFBD2-3405-455C-9665-78FE426C6842/i,
};
const PROJECT_FILE = /\.(cs|fs|vb)proj$/;
/** Build actions that take a file nowhere. */
const NO_ACTION = /^(None|Content|Compile|Folder|EmbeddedResource|MauiXaml)$/;

interface DotnetApp {
  android: DotnetProject | undefined;
  ios: DotnetProject | undefined;
  /** The app's own projects and all that they refer to. */
  units: UnitOfApp[];
}

/** Mobile apps in .NET: one project for both sides, or one for each. Source: learn.microsoft.com, ".NET MAUI single project" and "Xamarin". */
export const dotnet: Framework<DotnetApp> = {
  kind: "dotnet",
  find(discovery) {
    const candidates = projectFiles(discovery).flatMap((file) => {
      const project = openProject(discovery.project, file);
      const platforms = project ? applicationPlatforms(project) : [];
      return project && platforms.length > 0 ? [{ project, platforms }] : [];
    });
    const found: DetectedApp<DotnetApp>[] = [];
    for (let first = candidates.shift(); first; first = candidates.shift()) {
      const projects: Partial<Record<Platform, DotnetProject>> = {};
      for (const platform of first.platforms) projects[platform] = first.project;
      const [platform] = first.platforms;
      if (first.platforms.length === 1) {
        const stem = stemOf(first.project);
        const other = candidates.findIndex(
          ({ platforms, project }) => platforms.length === 1 && platforms[0] !== platform && stemOf(project) === stem,
        );
        const [twin] = other === -1 ? [] : candidates.splice(other, 1);
        if (twin) projects[twin.platforms[0] as Platform] = twin.project;
      }
      found.push(detectedOf(discovery.project, projects));
    }
    return found;
  },
  passedOver: (discovery) =>
    projectFiles(discovery).flatMap((file) => {
      const project = openProject(discovery.project, file);
      return project && applicationPlatforms(project).length > 0 ? [] : [{ file, why: project ? whyNoApp(project) : reason("no-project") }];
    }),
  complete(discovery, detected, app) {
    const of = detected.state;
    const first = of?.android ?? of?.ios;
    if (!of || !first) return;
    const declared = first.base.property("TargetFrameworks") ?? first.base.property("TargetFramework");
    app.hybrid({ folder: detected.path, framework: { name: ".NET", package: "dotnet", declared, installed: undefined } });
    noteUnits(discovery, app, of);
    readPackages(discovery.project, app, of.units);
    app.centralVersion(...centralMistakes(of.units));
    noteSources(discovery.project, app, first.folder, "shared");
    noteOldForm(discovery.project, app, of);
    noteFloor(app, of);
    noteDefaultLevel(app, of);
    readAttributes(discovery, app, of.units);
    if (of.android && app.manifests.length === 0 && app.entries.some(({ kind, side }) => kind === "permission" && side === "android"))
      app.manifest(of.android.file);
    readNativeReferences(discovery.project, app, of);
    readItems(discovery, app, of);
    noteStatedTwice(discovery.project, app, of);
    noteItemFiles(discovery.project, app, of.units);
    for (const side of PLATFORMS) {
      const owner = of[side];
      if (owner && app[side]) noteNamedFiles(discovery.project, app, side, owner);
    }
    noteLostProperties(discovery.project, app, of.units);
    noteMisspeltNames(discovery.project, app, filesOfBuild(discovery.project, of.units));
    noteProjectLines(discovery, app, of);
    noteBundledFiles(discovery, app, of.units);
    noteOtherHead(discovery, app, of);
    if (of.ios) noteDebugEntitlements(discovery.project, app, of.ios);
    noteSolution(discovery.project, app, first.folder);
    noteGenerations(discovery.project, app, first);
  },
  readAssets(discovery, detected, app, names) {
    const of = detected.state;
    if (of) readSettingsFiles(discovery, app, of, names);
  },
  takesIn(_discovery, detected, app) {
    const of = detected.state;
    return of ? itemsTaken(app, of) : [];
  },
  judgeFiles(_discovery, detected, app) {
    const of = detected.state;
    if (of) readServiceActions(app, of);
  },
};

function projectFiles({ index }: Discovery): string[] {
  return [...index].flatMap(([folder, { files }]) =>
    /(^|\/)(bin|obj)(\/|$)/.test(folder) ? [] : files.filter((name) => PROJECT_FILE.test(name)).map((name) => join(folder, name)),
  );
}

/** The platforms for which a project makes an app. */
function applicationPlatforms(project: DotnetProject): Platform[] {
  const kinds = textOfProperty(project.base, "ProjectTypeGuids");
  if (kinds !== undefined && project.frameworks.every(({ platform }) => platform === "")) {
    if (OLD_KINDS.android.test(kinds))
      return /^true$/i.test(textOfProperty(project.build("android"), "AndroidApplication") ?? "") ? ["android"] : [];
    return OLD_KINDS.ios.test(kinds) && isProgram(project.build("ios")) ? ["ios"] : [];
  }
  return PLATFORMS.filter(
    (platform) => project.frameworks.some((framework) => framework.platform === platform) && isProgram(project.build(platform)),
  );
}

function isProgram(build: Evaluated): boolean {
  const type = build.property("OutputType");
  const texts = type?.kind === "either" ? type.options.map(textOf) : [textOf(type)];
  return texts.some((text) => /^(Exe|WinExe)$/i.test(text ?? ""));
}

/** Why a project is no mobile app. */
function whyNoApp(project: DotnetProject): Reason {
  const { frameworks, base } = project;
  const stated = base.property("TargetFrameworks") ?? base.property("TargetFramework");
  if (frameworks.length === 0)
    return stated?.kind === "unknown" ? reason("target-frameworks-unknown", { why: stated.why }) : reason("no-target-framework");
  const phones = frameworks.filter(({ platform }) => (PLATFORMS as readonly string[]).includes(platform));
  if (phones.length === 0) return reason("not-for-phones", { frameworks: frameworks.map(({ text }) => text).join(", ") });
  return reason("library-project");
}

/** The project of the app's name for the other phone, which has a manifest and is none that is built as an app. */
function noteOtherHead(discovery: Discovery, app: FactSink, { android, ios }: DotnetApp): void {
  const first = android ?? ios;
  if (!first || (android && ios)) return;
  const { project } = discovery;
  const manifests = android ? ["Info.plist"] : ["AndroidManifest.xml", "Properties/AndroidManifest.xml"];
  for (const file of projectFiles(discovery)) {
    const other = openProject(project, file);
    if (!other || other.file === first.file || stemOf(other) !== stemOf(first) || applicationPlatforms(other).length > 0) continue;
    if (manifests.some((name) => project.tree.isFile(join(other.folder, name))))
      app.templateLine({ line: "head that is no app", side: android ? "ios" : "android", at: startOf(other.file) });
  }
}

/** `Lockkeeper.Android` and `Lockkeeper.iOS` are one app. */
function stemOf({ name }: DotnetProject): string {
  return name.replace(/[._-]?(android|droid|ios|iphone|touch)$/i, "").toLowerCase();
}

/** Whether a project keeps what is a platform's in a folder of that name. Source: learn.microsoft.com, ".NET MAUI single project" (Platforms). */
function hasPlatformFolders(project: ProjectFiles, { folder, base }: DotnetProject): boolean {
  return /^true$/i.test(textOfProperty(base, "SingleProject") ?? "") || project.tree.isFolder(join(folder, "Platforms"));
}

/** The level that the release of the framework is for, where the project leaves it open. */
function noteDefaultLevel(app: FactSink, { android }: DotnetApp): void {
  const version = android?.frameworks.find(({ platform }) => platform === "android")?.version;
  const level = version === undefined ? undefined : DOTNET_TARGET_LEVELS[String(Number.parseInt(version, 10))];
  if (app.android && level !== undefined && !app.android.effective.targetSdk)
    app.android.defaultAtLeast = { ...app.android.defaultAtLeast, targetSdk: level };
}

function detectedOf(project: ProjectFiles, { android, ios }: Partial<Record<Platform, DotnetProject>>): DetectedApp<DotnetApp> {
  const first = (android ?? ios) as DotnetProject;
  const path = android && ios && android !== ios ? commonParent(android.folder, ios.folder) : first.folder;
  const stem = first.name.replace(/[._-]?(android|droid|ios|iphone|touch)$/i, "");
  const name = stem || (textOfProperty(first.base, "ApplicationTitle") ?? "app");
  const single = hasPlatformFolders(project, first) || android === ios;
  const state = { android, ios, units: unitsOf(project, { android, ios }) };
  const detected: DetectedApp<DotnetApp> = { kind: "dotnet", name, path, shared: path, state };
  if (android) {
    const build = android.build("android");
    const target = compileLevel(android);
    detected.android = frameworkAndroid(
      {
        folder: single ? join(android.folder, "Platforms/Android") : android.folder,
        file: android.file,
        start: startOf(android.file),
        id: build.property("ApplicationId"),
        levels: {
          minSdk: wholeLevel(build.property("SupportedOSPlatformVersion")),
          targetSdk: wholeLevel(build.property("TargetPlatformVersion")) ?? target,
          compileSdk: target,
        },
      },
      manifestOf(project, android, single),
      join(android.folder, single ? "Platforms/Android/Resources" : "Resources"),
    );
  }
  detectIos(project, ios, single, detected, name);
  return detected;
}

/** The iOS side that the project's settings make. */
function detectIos(
  project: ProjectFiles,
  ios: DotnetProject | undefined,
  single: boolean,
  detected: DetectedApp<DotnetApp>,
  name: string,
): void {
  if (ios) {
    const build = ios.build("ios");
    const folder = single ? join(ios.folder, "Platforms/iOS") : ios.folder;
    const plist = plistOf(project, ios, single);
    const start = startOf(ios.file);
    const inFolder = (file: string): Value => known(relativeTo(folder, file), start);
    const entitlements = entitlementsOf(project, ios, folder);
    detected.ios = frameworkIos(
      {
        folder,
        file: ios.file,
        start,
        id: build.property("ApplicationId"),
        levels: { iosTarget: build.property("SupportedOSPlatformVersion") },
      },
      name,
      {
        INFOPLIST_FILE: plist === undefined ? undefined : inFolder(plist),
        CODE_SIGN_ENTITLEMENTS: entitlements === undefined ? undefined : inFolder(entitlements),
      },
    );
    // In the older form the level stands in the property list.
    const minimum = at(plist === undefined ? undefined : project.plist(plist)?.root, "MinimumOSVersion");
    const layer = detected.ios.targets[0]?.configurations[0]?.settings;
    if (minimum?.kind === "scalar" && layer && !layer.value("IPHONEOS_DEPLOYMENT_TARGET"))
      layer.state("IPHONEOS_DEPLOYMENT_TARGET", known(String(minimum.value), placeOf(minimum)) as Value & { kind: "known" });
  }
}

function manifestOf(project: ProjectFiles, android: DotnetProject, single: boolean): string | undefined {
  const stated = textOfProperty(android.build("android"), "AndroidManifest");
  const usual = [...(single ? ["Platforms/Android/AndroidManifest.xml"] : ["AndroidManifest.xml"]), "Properties/AndroidManifest.xml"];
  return [...(stated === undefined ? usual : [stated.replaceAll("\\", "/")])]
    .map((file) => join(android.folder, file))
    .find((file) => project.tree.isFile(file));
}

function plistOf(project: ProjectFiles, ios: DotnetProject, single: boolean): string | undefined {
  return [...(single ? ["Platforms/iOS/Info.plist"] : []), "Info.plist"]
    .map((file) => join(ios.folder, file))
    .find((file) => project.tree.isFile(file));
}

/**
 * What items of a project add beside its files: entitlements, parts of the manifest; and the source files that they take out of the build.
 * Source: learn.microsoft.com, "Build items" (CustomEntitlements of .NET for iOS, AndroidManifestOverlay of .NET for Android, Compile).
 */
function readItems({ project, index }: Discovery, app: FactSink, of: DotnetApp): void {
  for (const { kind, does, include, metadata, open, at: place } of of.ios && app.ios ? of.ios.build("ios").items : []) {
    if (kind !== "CustomEntitlements" || does !== "include") continue;
    const stated = metadata.get("Value")?.value ?? known("", place);
    app.entry({
      kind: "entitlement",
      side: "ios",
      name: include,
      value: open ? unknown(reason("own-condition-open"), place) : stated,
      at: place,
    });
  }
  if (of.android && app.android) {
    const build = of.android.build("android");
    for (const item of build.items)
      if (item.kind === "AndroidManifestOverlay" && item.does === "include")
        readLibraryManifest(project, app, join(of.android.folder, insideOf(build, item)), "an overlay of the manifest");
  }
  for (const unit of of.units) {
    const sides = PLATFORMS.filter((side) => app[side] && unit.platforms.includes(side));
    if (!sides.some((side) => unit.project.build(side).items.some(({ kind, does }) => kind === "Compile" && does === "remove"))) continue;
    for (const [folder, { files }] of foldersBelow(index, unit.project.folder))
      for (const name of files) {
        if (!name.endsWith(".cs")) continue;
        const file = join(folder, name);
        const gone = sides.filter(
          (side) => actionOf(unit.project.build(side), file, [{ kind: "Compile", pattern: "**/*.cs" }]) === undefined,
        );
        if (gone.length > 0) app.notCompiled(file, gone);
      }
  }
}

/** The entitlements of the shipped build: those that the project names, or the file that is taken without being named. */
function entitlementsOf(project: ProjectFiles, ios: DotnetProject, folder: string): string | undefined {
  const stated = textOfProperty(ios.build("ios"), "CodesignEntitlements");
  const file = stated === undefined || stated === "" ? join(folder, "Entitlements.plist") : join(ios.folder, stated.replaceAll("\\", "/"));
  return project.tree.isFile(file) ? file : undefined;
}

/** The entitlements of builds for debugging, where the project names a list of their own. */
function noteDebugEntitlements(project: ProjectFiles, app: FactSink, ios: DotnetProject): void {
  const lists = ["Debug", "Release"].flatMap((variant) => {
    const stated = textOfProperty(ios.build("ios", variant), "CodesignEntitlements")?.replaceAll("\\", "/");
    const file = stated === undefined || stated === "" ? undefined : join(ios.folder, stated);
    const root = file !== undefined && project.tree.isFile(file) ? project.plist(file)?.root : undefined;
    return root ? entitlementEntries(root).map((entry) => ({ ...entry, variant })) : [];
  });
  // Without a list that is named, one of its folder may be taken.
  if (lists.some(({ variant }) => variant === "Release")) app.debugEntitlement(...debugEntitlements(lists, ["Debug", "Release"]));
}

/** `21.0` is level 21 on Android. */
function wholeLevel(value: Value | undefined): Value | undefined {
  return value?.kind === "known" ? { ...value, text: value.text.replace(/\.0+$/, "") } : value;
}

/** `net8.0-android34.0` compiles against level 34; without a number the SDK decides. */
function compileLevel(project: DotnetProject): Value | undefined {
  const framework = project.frameworks.find(({ platform }) => platform === "android");
  if (framework?.platformVersion !== undefined) {
    const before = framework.text.toLowerCase().indexOf("-android") + "-android".length;
    return known(framework.platformVersion.replace(/\.0+$/, ""), { ...framework.at, column: framework.at.column + before });
  }
  const old = framework ? undefined : project.build("android").property("TargetFrameworkVersion");
  const level = old?.kind === "known" ? XAMARIN_ANDROID_LEVELS[old.text] : undefined;
  return old && level !== undefined ? known(level, old.place) : undefined;
}

/** The projects of an app: its own, and those that they refer to, with the sides by which they are reached. */
function unitsOf(project: ProjectFiles, { android, ios }: Partial<Record<Platform, DotnetProject>>): UnitOfApp[] {
  const found = new Map<DotnetProject, Set<Platform>>();
  const add = (unit: DotnetProject, platform: Platform): void => {
    const platforms = found.get(unit) ?? new Set();
    if (platforms.has(platform)) return;
    found.set(unit, platforms.add(platform));
    for (const { file } of projectReferences(unit.build(platform))) {
      const other = openProject(project, file);
      if (other) add(other, platform);
    }
  };
  if (android) add(android, "android");
  if (ios) add(ios, "ios");
  return [...found].map(([unit, platforms]) => ({ project: unit, platforms: PLATFORMS.filter((platform) => platforms.has(platform)) }));
}

/** A program of MAUI whose project does not switch the framework on. Source: learn.microsoft.com, ".NET MAUI single project" (UseMaui). */
function noteSwitch(project: ProjectFiles, app: FactSink, unit: DotnetProject | undefined, platform: Platform): void {
  const program = unit && join(unit.folder, "MauiProgram.cs");
  const text = program === undefined || !project.tree.isFile(program) ? "" : withoutComments(project.text(program)?.text ?? "");
  if (!unit || !/\bMauiApp\s*\.\s*CreateBuilder\b/.test(text)) return;
  const stated = unit.build(platform).property("UseMaui");
  if (stated === undefined || /^(false|)$/i.test(textOf(stated) ?? "?"))
    app.templateLine({ line: "framework's switch", side: platform, at: startOf(unit.file) });
}

/** Folders of a phone for which the app's one project has no target framework. */
function noteLeftFolders(project: ProjectFiles, app: FactSink, android: DotnetProject | undefined, ios: DotnetProject | undefined): void {
  if (android && !ios && project.tree.isFile(join(android.folder, "Platforms/iOS/Info.plist")))
    app.templateLine({ line: "target framework", side: "ios", at: startOf(android.file) });
  if (ios && !android && project.tree.isFile(join(ios.folder, "Platforms/Android/AndroidManifest.xml")))
    app.templateLine({ line: "target framework", side: "android", at: startOf(ios.file) });
}

/**
 * The projects as units: references that lead nowhere, files that are taken in and are not there, levels and frameworks of libraries, and
 * folders of code that are the app's although they lie outside of it, or in it although they are not.
 */
function noteUnits(discovery: Discovery, app: FactSink, { android, ios, units }: DotnetApp): void {
  const { project } = discovery;
  noteLeftFolders(project, app, android, ios);
  noteSwitch(project, app, android ?? ios, android ? "android" : "ios");
  const told = new Set<string>();
  for (const { project: unit, platforms } of units) {
    const own = unit === android || unit === ios;
    for (const platform of platforms) {
      const build = unit.build(platform);
      noteReferences(project, app, build, told, platforms);
      noteImports(app, build, told, platforms, unit);
      if (own) continue;
      // A library that is made for the other platform alone says nothing of this one.
      const stated = unit.frameworks.flatMap((framework) => framework.platform ?? []);
      const least = stated.length === 0 || stated.includes(platform) ? wholeLevel(build.property("SupportedOSPlatformVersion")) : undefined;
      const framework = unit.frameworkFor(platform);
      if (least?.kind === "known" && isLevel(least.text) && (framework?.platform === platform || framework === undefined))
        app.required({
          level: platform === "android" ? "minSdk" : "iosTarget",
          value: least,
          by: unit.name,
          sdk: undefined,
          from: "project",
        });
      noteFramework(app, unit, platform, platform === "android" ? android : ios);
    }
    if (!isWithin(unit.folder, app.path)) app.sourceFolder({ folder: unit.folder, side: sideOfUnit(platforms) });
    noteOutsideSources(app, platforms, unit);
  }
  // Other projects below the app's folder are other programs.
  noteOtherPrograms(discovery, app, units);
}

/** What the framework itself asks of the minimum. */
function noteFloor(app: FactSink, { android }: DotnetApp): void {
  const build = android?.build("android");
  // Without one the framework's is what the app has.
  const target = build?.property("SupportedOSPlatformVersion") ? build.property("TargetFramework") : undefined;
  const [, framework] = /^(net\d+\.\d+)-android/.exec((target && textOf(target)) ?? "") ?? [];
  if (target && framework !== undefined)
    app.required({
      level: "minSdk",
      value: known(DOTNET_ANDROID_FLOOR, target.place),
      by: `${framework}-android`,
      sdk: undefined,
      from: "target framework",
    });
}

/** The projects that one refers to, and those that these refer to: a project sees them all. Source: learn.microsoft.com, "ProjectReference". */
function seenFrom(unit: DotnetProject, units: readonly UnitOfApp[]): string[] {
  const seen = new Set<DotnetProject>();
  const open = [unit];
  for (let next = open.pop(); next; next = open.pop())
    for (const build of next.all)
      for (const { file } of projectReferences(build)) {
        const other = units.find(({ project }) => project.file === file)?.project;
        if (!other || seen.has(other)) continue;
        seen.add(other);
        open.push(other);
      }
  return [...seen].map(({ name }) => name);
}

/** References to other projects, each once. */
function noteReferences(project: ProjectFiles, app: FactSink, build: Evaluated, told: Set<string>, platforms: readonly Platform[]): void {
  for (const { text, file, at: place } of projectReferences(build)) {
    const key = `${place.file}:${place.line}:${text}`;
    if (told.has(key)) continue;
    told.add(key);
    app.pathFollowed({
      text,
      resolved: isAbsolutePath(text) ? undefined : file,
      kind: "project",
      exists: isAbsolutePath(text) ? undefined : project.tree.isFile(file),
      side: sideOfUnit(platforms),
      generated: false,
      at: place,
    });
  }
}

/** Files of the build that are taken in and are not there, each once. */
function noteImports(app: FactSink, build: Evaluated, told: Set<string>, platforms: readonly Platform[], unit: DotnetProject): void {
  for (const { text, file, exists, open, at: place } of build.imports) {
    const key = `${place.file}:${place.line}:${text}`;
    if (told.has(key) || exists === true) continue;
    told.add(key);
    // Where a restore or a build lays it down, it is not there yet.
    const laidDown = /(^|\/)(obj|bin|packages)\//.test(file ?? "");
    if (exists === false && !open && !laidDown)
      app.pathFollowed({
        text,
        resolved: file ?? parentOf(place.file),
        kind: "project",
        exists,
        side: sideOfUnit(platforms),
        generated: false,
        at: place,
      });
    app.blindSpot({
      side: sideOfUnit(platforms),
      what: `what ${baseName(unit.file)} takes in from ${text}`,
      why: file === undefined && exists === undefined ? reason("path-not-worked-out") : reason("file-gone"),
      places: [place],
    });
  }
}

/** Folders outside of the app whose code a project takes in. */
function noteOutsideSources(app: FactSink, platforms: readonly Platform[], unit: DotnetProject): void {
  for (const item of platforms.flatMap((platform) => unit.build(platform).items)) {
    if (item.kind !== "Compile" || item.does !== "include") continue;
    const inside = insideOf(unit.base, item);
    if (!inside.startsWith("../")) continue;
    const folder = join(unit.folder, parentOf(inside.replace(/\*.*$/, "x")));
    if (!isWithin(folder, app.path)) app.sourceFolder({ folder, side: sideOfUnit(platforms) });
  }
}

/** Other projects are other programs. */
function noteOtherPrograms(discovery: Discovery, app: FactSink, units: UnitOfApp[]): void {
  const folders = new Set(units.map(({ project: unit }) => unit.folder));
  // A reference whose path is not known may be to any of them.
  const open = units.some(({ project: unit }) => unit.all.some((build) => projectReferences(build).some(({ text }) => text.includes("$"))));
  for (const { project: unit } of units) {
    const isWhole = !open && units.filter(({ project: other }) => other.folder === unit.folder).length === 1;
    app.assembly(unit.folder, { aside: false, name: isWhole ? unit.name : "", references: isWhole ? seenFrom(unit, units) : [] });
  }
  for (const [folder, { files }] of discovery.index) {
    const file = folders.has(folder) || folder === app.path ? undefined : files.find((name) => PROJECT_FILE.test(name));
    if (file === undefined) continue;
    if (isWithin(folder, app.path)) app.assembly(folder, { aside: true, name: "", references: [] });
    // By its name it may be what the app's code means and does not refer to.
    const name = file.replace(/\.\w+$/, "");
    const isTaken = units.some(({ project: unit }) =>
      unit.all.some((build) => includesOf(build, "Reference").some(({ include }) => include.split(",")[0] === name)),
    );
    if (!open && !isTaken) app.otherProject(name);
  }
}

function sideOfUnit(platforms: readonly Platform[]): SideName {
  return platforms.length === 1 ? (platforms[0] as Platform) : "shared";
}

/** A library for a newer framework, or for other platforms only, cannot be taken in. */
function noteFramework(app: FactSink, unit: DotnetProject, platform: Platform, owner: DotnetProject | undefined): void {
  const wanted = owner?.frameworks.find((framework) => framework.platform === platform);
  if (!wanted || unit.frameworks.length === 0) return;
  const offered = unit.frameworks.filter((framework) => framework.platform === "" || framework.platform === platform);
  const standard = offered.some(({ text }) => /^netstandard/i.test(text));
  if (standard || offered.some(({ version }) => compareLevels(version, wanted.version) <= 0)) return;
  app.unfitProject({
    project: unit.name,
    side: platform,
    offers: unit.frameworks.map(({ text }) => text).join(", "),
    wanted: wanted.text,
    at: (offered[0] ?? unit.frameworks[0])?.at ?? startOf(unit.file),
    owner: wanted.at,
  });
}

/** What shared code uses has to be in both platform projects, in the form where each project lists its own. */
function noteOldForm(project: ProjectFiles, app: FactSink, { android, ios }: DotnetApp): void {
  if (!android || !ios || android === ios) return;
  const projects = { android, ios };
  if (!PLATFORMS.every((side) => project.tree.isFile(join(projects[side].folder, "packages.config")))) return;
  for (const dependency of app.dependencies.filter(
    ({ side, ecosystem, platform }) => side === "shared" && ecosystem === "nuget" && !platform,
  ))
    for (const side of PLATFORMS) {
      const [place] = dependency.places;
      const has = app.dependencies.some(
        (other) => other.ecosystem === "nuget" && other.side === side && other.name.toLowerCase() === dependency.name.toLowerCase(),
      );
      if (!place || has) continue;
      app.linkage({
        package: dependency.name,
        sdk: dependency.sdk,
        side,
        automatic: true,
        off: undefined,
        manual: undefined,
        native: dependency.name,
        installed: false,
        declared: place,
        list: startOf(join(projects[side].folder, "packages.config")),
        refresh: `install ${dependency.name} in the project of this side as well`,
      });
    }
}

/** Folders whose files a project takes in without an item. Source: learn.microsoft.com, "Build items" (.NET for Android and for iOS). */
function fixedFolders({ android, ios }: DotnetApp, side: Platform): { kind: string; pattern: string }[] {
  const owner = side === "android" ? android : ios;
  // A project of the older form lists every file.
  if (!owner?.frameworks.some(({ platform }) => platform === side)) return [];
  const own = side === "android" ? ["Assets", "Platforms/Android/Assets"] : ["Resources", "Platforms/iOS/Resources"];
  const kind = side === "android" ? "AndroidAsset" : "BundleResource";
  return [
    ...(android === ios ? own.slice(1) : own).map((folder) => ({ kind, pattern: `${folder}/**` })),
    { kind: "MauiAsset", pattern: "Resources/Raw/**" },
  ];
}

/**
 * What the items of a project and the folders of its kind take into a side. Sources: learn.microsoft.com, "Build items" (.NET for Android and
 * for iOS) and ".NET MAUI single project" (Resources/Raw, Platforms).
 */
function itemsTaken(app: FactSink, of: DotnetApp): TakenIn[] {
  const { android, ios } = of;
  const taken: TakenIn[] = [];
  for (const [side, owner] of [["android", android] as const, ["ios", ios] as const]) {
    if (!owner || !app[side]) continue;
    for (const { pattern } of fixedFolders(of, side)) taken.push({ path: join(owner.folder, pattern.replace("/**", "")), side });
    const build = owner.build(side);
    for (const item of build.items) {
      if (item.does !== "include" || NO_ACTION.test(item.kind) || /Reference$|^Compile$/.test(item.kind)) continue;
      const path = insideOf(build, item).replace(/\/?\*\*.*$|\/?\*[^/]*$/, "");
      if (path !== "" && !path.startsWith("/")) taken.push({ path: join(owner.folder, path), side });
    }
  }
  return taken;
}

/**
 * Entries of settings in JSON that go into the app as a resource or asset: `FILE.Section.Key`, the file without its ending. A file that only one
 * side takes in is that side's. Source: learn.microsoft.com, "Configuration in .NET" (JSON), ".NET MAUI single project" (Resources/Raw).
 */
function readSettingsFiles({ project, index }: Discovery, app: FactSink, of: DotnetApp, names: ReadonlySet<string>): void {
  const stems = new Set([...names].map((name) => name.split(".")[0] as string));
  const told = new Set<string>();
  for (const unit of of.units)
    for (const [folder, { files }] of foldersBelow(index, unit.project.folder))
      for (const name of files) {
        const stem = /^(.+)\.json$/.exec(name)?.[1];
        const file = join(folder, name);
        if (stem === undefined || !stems.has(stem) || told.has(file)) continue;
        const sides = PLATFORMS.filter((side) => {
          const action =
            app[side] && unit.platforms.includes(side) ? actionOf(unit.project.build(side), file, fixedFolders(of, side)) : undefined;
          return action !== undefined && !/^(None|Content|Compile|Folder)$/.test(action.kind);
        });
        const [side] = sides;
        if (side === undefined) continue;
        told.add(file);
        const visit = (data: Data, path: string): void => {
          for (const [key, { value }] of entriesOf(data)) {
            const at = `${path}.${key}`;
            const text = valueAt(value);
            if (text && names.has(at))
              app.entry({ kind: "asset", side: sides.length > 1 ? "shared" : side, name: at, value: text, at: placeOf(value) });
            if (value.kind === "map") visit(value, at);
          }
        };
        const root = project.json(file)?.root;
        if (root) visit(root, stem);
      }
}

/** Whether files with a vendor's settings have a build action that takes them into the app. */
function readServiceActions(app: FactSink, of: DotnetApp): void {
  const { android, ios } = of;
  for (const file of app.serviceFiles) {
    const owner = file.side === "android" ? android : ios;
    if (!owner) continue;
    const action = actionOf(owner.build(file.side), file.file, fixedFolders(of, file.side));
    file.read = action === undefined || NO_ACTION.test(action.kind) ? false : action.open ? undefined : true;
    file.why = file.read !== false ? undefined : action ? reason("build-action", { action: action.kind }) : whyUntaken(owner, file);
    file.advice = `list it in ${baseName(owner.file)} with the build action that its vendor specifies`;
  }
}

/** Why nothing takes a file in: nothing at all does, or only the other side's build. */
function whyUntaken(owner: DotnetProject, { file, side }: { file: string; side: Platform }): Reason {
  const other = side === "android" ? "ios" : "android";
  const there = owner.frameworks.some(({ platform }) => platform === other) ? actionOf(owner.build(other), file, []) : undefined;
  return there && !NO_ACTION.test(there.kind)
    ? reason(other === "ios" ? "item-for-ios-only" : "item-for-android-only")
    : reason("no-build-action");
}

/** Native references and binding libraries of all projects. */
function readNativeReferences(project: ProjectFiles, app: FactSink, { units }: DotnetApp): void {
  const seen = new Set<string>();
  for (const { project: owner, platforms } of units)
    for (const side of platforms)
      for (const kind of ["NativeReference", "AndroidLibrary", "AndroidAarLibrary", "AndroidJavaLibrary", "AndroidNativeLibrary"])
        for (const item of includesOf(owner.build(side), kind)) {
          const of: Platform = kind === "NativeReference" ? "ios" : "android";
          const key = `${side} ${owner.file} ${item.include}`;
          if (of !== side || seen.has(key) || item.include.includes("*")) continue;
          seen.add(key);
          const absolute = isAbsolutePath(item.include);
          const resolved = absolute ? undefined : join(owner.folder, insideOf(owner.base, item));
          app.pathFollowed({
            text: item.include,
            resolved,
            kind: "binary",
            exists: resolved === undefined ? undefined : project.tree.isFile(resolved) || project.tree.isFolder(resolved),
            side,
            generated: false,
            at: item.at,
          });
          app.dependency({
            side,
            ecosystem: "binary",
            name: baseName(item.include),
            route: "binary",
            scope: kind,
            in: baseName(owner.file),
            places: [item.at],
          });
        }
}

/**
 * What a project says and its manifest or property list says again, otherwise. Source: learn.microsoft.com, "Android manifest in .NET"
 * (SupportedOSPlatformVersion and uses-sdk, ApplicationId and package) and "Info.plist in .NET for iOS" (MinimumOSVersion).
 */
function noteStatedTwice(project: ProjectFiles, app: FactSink, { android, ios }: DotnetApp): void {
  const note = (
    side: Platform,
    what: string,
    configured: Value | undefined,
    native: Value | undefined,
    same: (a: string, b: string) => boolean,
  ): void => {
    if (
      configured?.kind === "known" &&
      native?.kind === "known" &&
      native.text !== "" &&
      !/[$@]/.test(native.text) &&
      !same(configured.text, native.text)
    )
      app.configuredOtherwise({
        what,
        side,
        configured,
        native,
        files: ["the project", side === "android" ? "the manifest" : "the property list"],
      });
  };
  const levels = (a: string, b: string): boolean => !isLevel(a) || !isLevel(b) || compareLevels(a, b) === 0;
  const texts = (a: string, b: string): boolean => a === b;
  const [manifest] = app.manifests;
  const root = android && manifest !== undefined && manifest.endsWith(".xml") ? project.xml(manifest)?.root : undefined;
  if (android && root) {
    const build = android.build("android");
    const attribute = (element: typeof root, name: string): Value | undefined => {
      const found = element.attributes.get(name);
      return found && known(found.value, element.source.place(found.start));
    };
    const [uses] = children(root, "uses-sdk");
    if (uses)
      note("android", "minSdk", wholeLevel(build.property("SupportedOSPlatformVersion")), attribute(uses, "android:minSdkVersion"), levels);
    note("android", "the application id", build.property("ApplicationId"), attribute(root, "package"), texts);
  }
  const [list] = app.propertyLists;
  const plist = ios && list !== undefined ? project.plist(list)?.root : undefined;
  if (ios && plist) {
    const build = ios.build("ios");
    const entry = (key: string): Value | undefined => {
      const found = at(plist, key);
      return found?.kind === "scalar" ? known(String(found.value), placeOf(found)) : undefined;
    };
    note("ios", "iosTarget", build.property("SupportedOSPlatformVersion"), entry("MinimumOSVersion"), levels);
    note("ios", "the bundle id", build.property("ApplicationId"), entry("CFBundleIdentifier"), texts);
  }
}
