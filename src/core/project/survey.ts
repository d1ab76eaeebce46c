import { takeBackDoubtful } from "../gather/incomplete.js";
import { FRAMEWORKS } from "../gather/frameworks/index.js";
import type { AppSeed, Discovery, Framework, TakenIn } from "../gather/frameworks/framework.js";
import { baseName, isWithin, join, parentOf } from "../model/paths.js";
import { ProjectFiles } from "../gather/project-files.js";
import type { FileTree } from "../files/tree.js";
import { foldersBelow, walk, type FolderIndex } from "../files/walk.js";
import type { Sheet } from "../sheets/sheet.js";
import { emptyApp, ofRelease, type App, type Survey } from "../model/app.js";
import type { BlindSpot, LevelName, SideName } from "../model/facts.js";
import { sideOfLevel, sideOf } from "../model/app.js";
import { gradleRoots, readGradleBuild } from "../gather/platforms/android/gradle/build.js";
import {
  androidBuildFacts,
  androidDependencies,
  applicationModules,
  moduleDemands,
  readAndroidSide,
  readSharedPods,
} from "../gather/platforms/android/side.js";
import { noHelpers } from "../gather/platforms/ios/ruby-host.js";
import { applicationTargets, iosDependencies, readIosSide } from "../gather/platforms/ios/side.js";
import { readXcodeProject } from "../gather/platforms/ios/xcode-project.js";
import { readManifests } from "../gather/platforms/android/manifest.js";
import { readShrinking } from "../gather/platforms/android/shrink.js";
import { readIosEntries } from "../gather/platforms/ios/entries.js";
import { readEnvironment } from "../gather/platforms/environment.js";
import { readPairedFiles, readServiceFiles } from "../gather/platforms/service-files.js";
import { looksLikeToken, readSourceText } from "../gather/platforms/source-text.js";
import { applySheets, wildcard } from "../needs/match.js";
import { addDemandsOfSheets, questionOf, fileNamesOf } from "../needs/questions.js";
import { ancestors, readManifest } from "../gather/packages/packages.js";
import { ignoreMatcher } from "../settings/ignore.js";
import { readSourceCode } from "../gather/code/index.js";
import { languageOf, type Language } from "../syntax/code/languages.js";
import { startParser } from "../syntax/code/process.js";
import { noSettings, type Settings } from "../settings/settings.js";

/**
 * Finds every app below the root of a tree (or of a project whose files are partly read) and reads its facts; `sheets` tell which
 * further files and names to look for. Never throws on what a project contains: files that cannot be read
 * are listed in `unreadable`, values that cannot be worked out are in the apps' blind spots.
 */
export async function survey(from: FileTree | ProjectFiles, settings: Settings = noSettings(), sheets: readonly Sheet[] = []): Promise<Survey> {
  const project = from instanceof ProjectFiles ? from : new ProjectFiles(from);
  prepareParser(project, settings);
  const found = surveyBuildFiles(project, settings, sheets);
  const cutShort = await readSourceCode(project, folderIndex(project, settings), found.apps, sheets);
  const passedOver = [...(project.tree.passedOver ?? [])].map(([file, why]) => ({ file, why }));
  tellPassedOver(found.apps, passedOver);
  return { ...found, passedOver, cutShort, filesRead: project.filesRead };
}

/** What was not read since it lies outside is a blind spot of the app in whose folder the way to it begins. */
function tellPassedOver(apps: readonly App[], passedOver: Survey["passedOver"]): void {
  for (const { file, why } of passedOver) {
    const owners = apps.filter(({ path }) => isWithin(file, path));
    const app = owners.sort((a, b) => b.path.length - a.path.length)[0] ?? apps[0];
    if (!app) continue;
    const side: SideName =
      app.ios && app.ios.folder !== app.path && isWithin(file, app.ios.folder)
        ? "ios"
        : app.android && app.android.folder !== app.path && isWithin(file, app.android.folder)
          ? "android"
          : app.shared
            ? "shared"
            : app.android
              ? "android"
              : "ios";
    app.blindSpots.push({ side, what: file, why: `${why}, and is not read`, places: [{ file, line: 1, column: 1 }] });
  }
}

/**
 * Starts what parses the source code of a project, where it has some: it gets ready while build files are read. Not for JavaScript alone,
 * which is often only the settings of tools, of which nothing is parsed.
 */
export function prepareParser(project: ProjectFiles, settings: Settings): void {
  const languages = languagesIn(folderIndex(project, settings));
  if ([...languages].some((language) => language !== "javascript")) startParser(languages);
}

/** The languages of the source files below a folder. */
function languagesIn(index: FolderIndex): Set<Language> {
  const found = new Set<Language>();
  for (const { files } of index.values())
    for (const file of files) {
      const language = languageOf(file);
      if (language !== undefined) found.add(language);
    }
  return found;
}

/** The same without the source code: what build files, manifests, locks and packages say. */
export function surveyBuildFiles(from: FileTree | ProjectFiles, settings: Settings = noSettings(), sheets: readonly Sheet[] = []): Survey {
  const project = from instanceof ProjectFiles ? from : new ProjectFiles(from);
  const { tree } = project;
  const index = folderIndex(project, settings);
  const repository = repositoryOf(tree);
  const discovery: Discovery = { project, index, settings, android: [], ios: [], versioned: repository !== undefined };
  for (const folder of gradleRoots(index)) {
    const build = readGradleBuild(project, folder);
    for (const module of applicationModules(build)) discovery.android.push({ build, module });
  }
  for (const [folder, { folders }] of index) {
    for (const name of folders) {
      if (!name.endsWith(".xcodeproj")) continue;
      const xcode = readXcodeProject(project, join(folder, name));
      const targets = xcode ? applicationTargets(xcode) : [];
      if (xcode && targets.length > 0) discovery.ios.push({ xcode, targets });
    }
  }
  const apps: App[] = [];
  const seeds = FRAMEWORKS.flatMap((framework) => framework.find(discovery).map((seed) => ({ framework, seed })));
  const unpaired: Survey["unpaired"] = [];
  for (const { framework, seed } of paired(seeds, settings, unpaired)) apps.push(readApp(discovery, framework, seed, sheets));
  apps.sort((a, b) => (a.path === b.path ? (a.name < b.name ? -1 : 1) : a.path < b.path ? -1 : 1));
  distinguish(apps);
  for (const entry of tree.unreadable)
    project.unreadable.push({
      file: entry[0],
      message: `cannot be read: ${entry[1]}`,
      place: { file: entry[0] || ".", line: 1, column: 1 },
    });
  return {
    root: tree.root,
    repository,
    apps,
    withoutNative: FRAMEWORKS.flatMap(({ kind, withoutNative }) => (withoutNative?.(discovery) ?? []).map((folder) => ({ folder, kind }))),
    unpaired,
    unreadable: project.unreadable.map(({ file, message, place, template }) => ({ file, message, place, template: template ?? false })),
    passedOver: [],
    cutShort: false,
    filesRead: project.filesRead,
  };
}

const indexes = new WeakMap<ProjectFiles, { key: string; index: FolderIndex }>();

/** The folders of a project that people write, listed once per run. */
export function folderIndex(project: ProjectFiles, settings: Settings): FolderIndex {
  const key = settings.ignore.join("\0");
  const known = indexes.get(project);
  if (known?.key === key) return known.index;
  const index = walk(project.tree, ignoreMatcher(settings.ignore));
  indexes.set(project, { key, index });
  return index;
}

function repositoryOf(tree: FileTree): string | undefined {
  const isRepository = (folder: string): boolean => tree.isFolder(join(folder, ".git")) || tree.isFile(join(folder, ".git"));
  let above = "";
  for (let depth = 0; depth < 12; depth++) {
    if (isRepository(above)) return above;
    above = above === "" ? ".." : `../${above}`;
    if (!tree.isFolder(above)) return undefined;
  }
  return undefined;
}

function readApp(discovery: Discovery, framework: Framework, seed: AppSeed, sheets: readonly Sheet[]): App {
  const { project } = discovery;
  const app = emptyApp(seed.name, seed.kind, seed.path);
  if (seed.android) {
    app.android = readAndroidSide(project, seed.android.build, seed.android.module);
    const { settingsFile, root } = seed.android.build;
    if (settingsFile === undefined && root.buildFile === undefined && seed.shared !== undefined) app.android.generated = true;
    androidDependencies(app, app.android);
    androidBuildFacts(app, app.android);
    readManifests(project, app, app.android);
    readShrinking(project, app, app.android);
    moduleDemands(app, app.android);
    if (app.android.modules.some((module) => module.lockFile !== undefined)) {
      app.locks.push({
        manager: "gradle",
        side: "android",
        manifest: { file: app.android.module.buildFile ?? app.android.folder, line: 1, column: 1 },
        lockName: "gradle.lockfile",
        lock: app.android.module.lockFile,
        expected: false,
        needed: true,
        installedApart: [],
        declaredApart: [],
      });
    }
  }
  if (seed.ios) {
    const context = {
      project,
      xcode: seed.ios.xcode,
      helpers: framework.helpers?.(discovery, seed) ?? noHelpers,
      versioned: discovery.versioned,
    };
    app.ios = readIosSide(context, seed.ios.targets);
    if (!seed.ios.xcode.path.endsWith(".xcodeproj")) app.ios.generated = true;
    iosDependencies(context, app, app.ios);
    readIosEntries(context, app, app.ios);
  }
  if (app.android && app.ios) readSharedPods(app, app.android);
  readEnvironment(project, app);
  framework.complete(discovery, seed, app);
  gatherForSheets(discovery, seed, app, sheets, framework.takesIn?.(discovery, seed, app) ?? []);
  framework.judgeFiles?.(discovery, seed, app);
  takeBackDoubtful(
    app,
    project.unreadable.map(({ file }) => file),
  );
  if (app.ios?.usesPods) app.workspaceBypasses = findWorkspaceBypasses(discovery, app);
  app.blindSpots.push(...levelBlindSpots(app), ...versionBlindSpots(app));
  return app;
}

interface Seeded {
  framework: Framework;
  seed: AppSeed;
}

/** Two apps of one side each that a setting makes one: the hybrid one, if there is one, takes the other's side. */
function paired(seeds: Seeded[], settings: Settings, unpaired: Survey["unpaired"]): Seeded[] {
  const rest = [...seeds];
  const liesAt = (folders: (string | undefined)[], wanted: string): boolean =>
    folders.includes(wanted.replace(/^\.\//, "").replace(/\/+$/, ""));
  for (const pair of settings.pair) {
    const android = rest.find(
      ({ seed }) => seed.android && liesAt([seed.path, seed.android.build.folder, seed.android.module.folder], pair.android),
    );
    const ios = rest.find(({ seed }) => seed.ios && liesAt([seed.path, seed.ios.xcode.folder, seed.ios.xcode.path], pair.ios));
    if (!android) unpaired.push({ side: "android", folder: pair.android, at: pair.at.android });
    if (!ios) unpaired.push({ side: "ios", folder: pair.ios, at: pair.at.ios });
    if (!android || !ios || android === ios) continue;
    const keeper = ios.seed.shared !== undefined && android.seed.shared === undefined ? ios : android;
    const given = keeper === ios ? android : ios;
    keeper.seed.android = android.seed.android;
    keeper.seed.ios = ios.seed.ios;
    if (pair.name !== undefined) keeper.seed.name = pair.name;
    rest.splice(rest.indexOf(given), 1);
  }
  return rest;
}

/** What the sheets of the SDKs that are in tell to look for: files by name, names in source code, levels. */
function gatherForSheets(discovery: Discovery, seed: AppSeed, app: App, sheets: readonly Sheet[], takenIn: readonly TakenIn[]): void {
  const { project, index } = discovery;
  const matched = applySheets(app, sheets);
  const { service, licence } = fileNamesOf(matched);
  readServiceFiles(project, index, app, seed.ios?.xcode, (name) => service.some((pattern) => wildcard(pattern, name)), takenIn);
  readPairedFiles(index, app);
  if (licence.length > 0) {
    for (const [folder, { files }] of foldersBelow(index, app.path)) {
      const side =
        app.android && isWithin(folder, app.android.folder) && app.android.folder !== app.path
          ? "android"
          : app.ios && isWithin(folder, app.ios.folder)
            ? "ios"
            : app.android && isWithin(folder, app.android.folder)
              ? "android"
              : undefined;
      if (side)
        for (const name of files)
          if (licence.some((pattern) => wildcard(pattern, name)))
            app.namedFiles.push({ file: join(folder, name), side, variant: undefined });
    }
  }
  const ignored = ignoredByGit(project, app);
  for (const name of [...service, ...licence]) if (ignored(name)) app.leftOutOfGit.add(name);
  addDemandsOfSheets(app, matched);
  for (const { kind, at } of app.entries) if (kind === "env" && ignored(baseName(at.file))) app.leftOutOfGit.add(baseName(at.file));
  const question = questionOf(matched);
  if (matched.length > 0)
    for (const { kind, name, by } of app.entries)
      if (kind === "permission" && by === undefined) for (const names of question.names.values()) names.add(name.split(".").at(-1) ?? name);
  const asked = question.keys.size > 0 || [...question.names.values()].some((names) => names.size > 0);
  if (asked || app.entries.some(({ value }) => value?.kind === "known" && looksLikeToken(value.text)))
    readSourceText(project, index, app, question);
}

/** Tells whether a file of that name in the app's folders would be kept out of the repository. */
function ignoredByGit(project: ProjectFiles, app: App): (name: string) => boolean {
  const folders = new Set(
    ["", app.path, app.android?.folder, app.android?.module.folder, app.ios?.folder].filter((folder) => folder !== undefined),
  );
  const patterns = [...folders].flatMap((folder) => project.text(join(folder, ".gitignore"))?.text.split(/\r?\n/) ?? []);
  const matches = ignoreMatcher(patterns.map((pattern) => pattern.replace(/^.*\/(?=[^/]+$)/, "")));
  return (name) => !name.includes("*") && matches(name);
}

/** Two apps of one name are told apart by their folders. */
function distinguish(apps: App[]): void {
  const counts = new Map<string, number>();
  for (const app of apps) counts.set(app.name, (counts.get(app.name) ?? 0) + 1);
  const used = new Set<string>();
  for (const app of apps) {
    let name = (counts.get(app.name) ?? 0) > 1 && app.path !== "" ? app.path : app.name;
    if (used.has(name) && app.android) name = `${name} (${app.android.module.path})`;
    else if (used.has(name) && app.ios) name = `${name} (${baseName(parentOf(app.ios.projectFile))})`;
    used.add(name);
    app.name = name;
  }
}

function levelBlindSpots(app: App): BlindSpot[] {
  const spots: BlindSpot[] = [];
  for (const level of ["minSdk", "targetSdk", "compileSdk", "androidPlugin", "kotlin", "iosTarget"] as LevelName[]) {
    const value = sideOf(app, sideOfLevel(level))?.effective[level];
    if (value?.kind === "unknown")
      spots.push({ side: sideOfLevel(level), what: level, why: value.why, places: value.place.line > 0 ? [value.place] : [] });
  }
  for (const side of [app.android, app.ios]) {
    const id = ofRelease(side?.ids ?? []);
    if (side && id?.value.kind === "unknown")
      spots.push({
        side: side.side,
        what: side.side === "android" ? "application id" : "bundle id",
        why: id.value.why,
        places: [id.value.place],
      });
  }
  for (const fact of app.ios?.levels ?? []) {
    if (fact.owner === "podfile" && fact.value.kind === "unknown")
      spots.push({ side: "ios", what: "the Podfile's platform", why: fact.value.why, places: [fact.value.place] });
  }
  for (const demand of app.demands) {
    if (demand.value.kind === "unknown")
      spots.push({
        side: sideOfLevel(demand.level),
        what: `the ${demand.level} that ${demand.by} asks for`,
        why: demand.value.why,
        places: [demand.value.place],
      });
  }
  return spots;
}

function versionBlindSpots(app: App): BlindSpot[] {
  const spots = new Map<string, BlindSpot>();
  for (const { declared, name, side } of app.dependencies) {
    if (declared?.kind !== "unknown") continue;
    spots.set(`${side} ${name}`, { side, what: `the version of ${name}`, why: declared.why, places: [declared.place] });
  }
  return [...spots.values()];
}

const SCRIPT_FILE = /\.(sh|bash|ya?ml|rb)$|^(Makefile|Fastfile|Jenkinsfile|Rakefile|justfile)$/;

/** Scripts and CI files that name the project where the workspace is meant. */
function findWorkspaceBypasses(discovery: Discovery, app: App): App["workspaceBypasses"] {
  const { project, index } = discovery;
  const found: App["workspaceBypasses"] = [];
  const projectName = baseName(parentOf(app.ios?.projectFile ?? ""));
  const inspect = (text: string, place: (offset: number) => { file: string; line: number; column: number }): void => {
    for (const match of text.matchAll(
      /xcodebuild\b[^\n#;|&]*?(?:\\\r?\n[^\n#;|&]*?)*-project\s+["']?([^\s"']+)|\bproject:\s*["']([^"']+\.xcodeproj)["']/g,
    )) {
      const named = match[1] ?? match[2] ?? "";
      const before = text.slice(text.lastIndexOf("\n", match.index) + 1, match.index);
      if (baseName(named) === projectName && !/(^|\s)#/.test(before))
        found.push({ command: match[0].replace(/\s+/g, " ").trim(), at: place(match.index + match[0].indexOf(named)) });
    }
  };
  const manifest = readManifest(project, app.path);
  for (const script of manifest?.scripts ?? []) inspect(script.command, () => script.at);
  const folders = new Set([
    app.path,
    join(app.path, "scripts"),
    join(app.path, "fastlane"),
    app.ios?.folder ?? "",
    join(app.ios?.folder ?? "", "fastlane"),
    ".github/workflows",
    "scripts",
    "ci",
    "fastlane",
    ...ancestors(project, app.path),
  ]);
  for (const folder of folders) {
    if (folder.startsWith("..")) continue;
    const files = index.get(folder)?.files ?? [];
    for (const name of files) {
      if (!SCRIPT_FILE.test(name)) continue;
      const source = project.text(join(folder, name));
      if (source && source.text.length < 200_000) inspect(source.text, (offset) => source.place(offset));
    }
  }
  return found;
}
