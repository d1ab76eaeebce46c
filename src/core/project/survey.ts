import { identified, type Identified } from "../derive/identity.js";
import type { FileTree } from "../files/tree.js";
import { walk, type FolderIndex } from "../files/walk.js";
import { completeApp, gatherApp, gatherAsked, gatherSourceText, type Questions } from "../gather/app.js";
import type { CodeOfApp } from "../gather/code/app-code.js";
import { CodeReader } from "../gather/code/index.js";
import type { DetectedApp, Discovery, Framework } from "../gather/frameworks/framework.js";
import { FRAMEWORKS } from "../gather/frameworks/index.js";
import { isKeptOut } from "../gather/git-ignored.js";
import { applicationsLeftOut, gradleRoots, readGradleBuild } from "../gather/platforms/android/gradle/build.js";
import { applicationModules } from "../gather/platforms/android/side.js";
import { applicationTargets } from "../gather/platforms/ios/side.js";
import { readProjectSpec, SPEC_NAMES } from "../gather/platforms/ios/project-spec/index.js";
import { readXcodeProject, type XcodeProject } from "../gather/platforms/ios/xcode-project.js";
import type { KeptPart } from "../gather/kept-part.js";
import { ProjectFiles } from "../gather/project-files.js";
import { FactSink, type KeptFacts } from "../gather/sink.js";
import type { App, Survey } from "../model/app.js";
import type { SideName } from "../model/facts.js";
import type { GradleBuildFacts } from "../model/gradle.js";
import { baseName, isWithin, join, parentOf } from "../model/paths.js";
import { startOf } from "../model/place.js";
import { reason, reasonText, type Reason } from "../model/reason.js";
import { assetNamesOf, fileNamesOf, questionOf, wantedNames } from "../needs/questions.js";
import { ignoreMatcher } from "../settings/ignore.js";
import { noSettings, type Settings } from "../settings/settings.js";
import type { Sheet } from "../model/sheet.js";
import { languageOf, type Language } from "../syntax/code/languages.js";
import { startParser } from "../syntax/code/process.js";

/**
 * Finds every app below the root of a tree (or of a project whose files are partly read) and reads its facts; `sheets` tell which
 * further files and names to look for; `onApp` is called before each app is read, and ends the survey where it throws. Never throws on what a project contains: files that cannot be read
 * are listed in `unreadable`, values that cannot be worked out are in the apps' blind spots.
 */
export async function survey(
  from: FileTree | ProjectFiles,
  settings: Settings = noSettings(),
  sheets: readonly Sheet[] = [],
  onApp?: () => void,
): Promise<Survey> {
  return (await surveyWithKeys(from, settings, sheets, onApp)).survey;
}

/** The same, with what stands for all that an app's facts rest on, by the app's name, where that is known. */
export async function surveyWithKeys(
  from: FileTree | ProjectFiles,
  settings: Settings,
  sheets: readonly Sheet[],
  onApp?: () => void,
): Promise<{ survey: Survey; keys: ReadonlyMap<string, string> }> {
  const project = from instanceof ProjectFiles ? from : new ProjectFiles(from);
  prepareParser(project, settings);
  const reader = new CodeReader(project, folderIndex(project, settings));
  const gathered = gatherBuildFiles(project, settings, sheets, reader, onApp);
  const code = await reader.finish();
  const passedOver = byName([...(project.tree.passedOver ?? []), ...leftOutOf(gathered.discovery)]).map(([file, why]) => ({ file, why }));
  tellPassedOver(gathered.apps, passedOver);
  tellNotIncluded(gathered);
  const apps = gathered.apps.map((sink) => withCode(finished(sink, sheets), code.facts.get(sink)));
  const told = surveyOf(project, gathered, apps, { passedOver, cutShort: code.cutShort });
  return { survey: told, keys: keysOf(gathered, told) };
}

/** The facts of an app rest on its files, and on what was found out of the project as a whole. */
function keysOf({ apps, parts }: Gathered, { passedOver, repository }: Survey): Map<string, string> {
  return new Map(
    apps.flatMap((sink) => {
      const key = parts.get(sink)?.key;
      return key === undefined ? [] : [[sink.name, JSON.stringify([key, sink.name, repository, passedOver])]];
    }),
  );
}

function leftOutOf({ leftOut }: Discovery): [file: string, why: Reason][] {
  return leftOut.map((file) => [file, reason("in-no-settings")]);
}

/**
 * The Android half of a hybrid app whose own settings do not include it: nothing of it is built. Told where the settings were read in full and lead to no
 * other application.
 */
function tellNotIncluded({ apps, discovery }: Gathered): void {
  for (const file of discovery.leftOut) {
    const build = discovery.builds
      .filter(({ folder, settingsFile }) => settingsFile !== undefined && isWithin(file, folder))
      .sort((a, b) => b.folder.length - a.folder.length)[0];
    const app = apps.find(({ path, shared, android }) => shared && !android && build && parentOf(build.folder) === path);
    if (
      !build?.settingsFile ||
      !app ||
      build.settings.unread.some(({ what, lost }) => !lost && /module|says/.test(what)) ||
      applicationModules(build).length > 0
    )
      continue;
    if (parentOf(parentOf(file)) === build.folder)
      app.templateLine({ line: "app in settings", side: "android", at: startOf(build.settingsFile) });
  }
}

/** In the order of their names, whenever they were met. */
function byName(files: Iterable<[string, Reason]>): [file: string, why: Reason][] {
  return [...files].sort(([a], [b]) => (a < b ? -1 : 1));
}

function withCode(app: App, code: App["code"]): App {
  return code ? { ...app, code } : app;
}

/** The facts, which nothing changes any more, as the sheets see them. */
function finished(sink: FactSink, sheets: readonly Sheet[]): App {
  return identified(sink.finish(), sheets).app;
}

/** What was not read since it lies outside is a blind spot of the app in whose folder the way to it begins. */
function tellPassedOver(apps: readonly FactSink[], passedOver: Survey["passedOver"]): void {
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
    app.blindSpot({ side, what: file, why: reason("passed-over", { why }), places: [startOf(file)] });
  }
}

/**
 * Starts what parses the source code of a project, where it has some: it gets ready while build files are read. Not for JavaScript alone,
 * which is often only the settings of tools, of which nothing is parsed.
 */
export function prepareParser(project: ProjectFiles, settings: Settings): void {
  const languages = languagesIn(folderIndex(project, settings));
  // What an earlier run parsed is mostly known: what is not starts it.
  if (!project.kept?.any && [...languages].some((language) => language !== "javascript")) startParser(languages);
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
  const gathered = gatherBuildFiles(project, settings, sheets);
  const apps = gathered.apps.map((sink) => finished(sink, sheets));
  return surveyOf(project, gathered, apps, { passedOver: [], cutShort: false });
}

/** What was gathered of all apps, before it is finished. */
interface Gathered {
  discovery: Discovery;
  apps: FactSink[];
  unpaired: Survey["unpaired"];
  /** What stands for all that is known of an app. */
  parts: Map<FactSink, KeptPart<CodeOfApp>>;
}

/** What build files say; `reader` begins with the source code of an app as soon as its packages are known. */
function gatherBuildFiles(
  project: ProjectFiles,
  settings: Settings,
  sheets: readonly Sheet[],
  reader?: CodeReader,
  onApp?: () => void,
): Gathered {
  const discovery = discover(project, settings);
  const found = FRAMEWORKS.flatMap((framework) => {
    const { value, asks } = project.logged(() => framework.find(discovery));
    return value.map((detected) => ({ framework, detected, asks }));
  });
  const unpaired: Survey["unpaired"] = [];
  const apps: Gathered["apps"] = [];
  const parts: Gathered["parts"] = new Map();
  const { asks: ofFolders } = project.logged(() => [folderIndex(project, settings), repositoryOf(project.tree)]);
  const before = [...project.foundation, digestOf(project, ofFolders)];
  for (const of of paired(found, settings, unpaired)) {
    const { framework, detected } = of;
    onApp?.();
    const { sink, key } = factsOf(discovery, of, sheets, before);
    const part = project.begin<CodeOfApp>("code", key === undefined ? undefined : [key]);
    if (part.known) reader?.takeOver(sink, part);
    else {
      const kept = { before: part.isKept ? sink.soFar() : undefined, part };
      part.step(() => {
        const { app, matched } = identified(sink, sheets);
        // What it adds is in the view too: that shows what the sink holds.
        gatherSourceText(discovery, sink, questionsOf(matched));
        if (!reader) return;
        const scripts = framework.readScripts?.(discovery, detected, sink, reader.batch);
        reader.begin({ sink, app, names: wantedNames(app, sheets), scripts, kept });
      });
    }
    parts.set(sink, part);
    apps.push(sink);
  }
  apps.sort((a, b) => (a.path === b.path ? (a.name < b.name ? -1 : 1) : a.path < b.path ? -1 : 1));
  distinguish(apps);
  return { discovery, apps, unpaired, parts };
}

/**
 * What the files of an app say, of which an earlier run may know; `key` stands for all that it rests on, where that is known.
 * @param before stands for what all apps rest on: settings, sheets, and the folders of the project
 */
function factsOf(
  discovery: Discovery,
  { framework, detected, asks }: Detected,
  sheets: readonly Sheet[],
  before: readonly string[],
): { sink: FactSink; key?: string | undefined } {
  const gather = (): FactSink => {
    const sink = gatherApp(discovery, framework, detected);
    gatherAsked(discovery, framework, detected, sink, questionsOf(identified(sink, sheets).matched));
    completeApp(discovery, framework, detected, sink);
    return sink;
  };
  const { project } = discovery;
  const { kind, name, path, shared, generated = false, android, ios } = detected;
  const native = [android?.build, ios?.xcode].flatMap((own) => own ?? []);
  // What the framework knows since it looked for its apps, or made of their files then, rests on what it asked for that.
  const own = detected.state !== undefined || native.some((project_) => !discovery.asks.has(project_)) ? asks : [];
  const part = project.begin<KeptFacts>("app", [
    kind,
    JSON.stringify([
      name,
      path,
      shared,
      generated,
      android?.build.folder,
      android?.module.path,
      ios?.xcode.path,
      ios?.targets.map((target) => target.name),
    ]),
    // What is known to be broken makes other facts doubtful.
    JSON.stringify(project.unreadable.map(({ file }) => file)),
    ...before,
    digestOf(project, own),
    ...native.map((of) => digestOf(project, discovery.asks.get(of) ?? [])),
  ]);
  if (part.known) {
    part.replay("at once");
    return { sink: FactSink.of(part.known, android?.build), key: part.key };
  }
  const sink = part.step(gather);
  part.keep(() => sink.toKeep());
  return { sink, key: part.key };
}

/** Stands for what is answered to some asks, which were made before. */
function digestOf({ tree }: ProjectFiles, asks: readonly string[]): string {
  return tree.log?.digestOf(asks)?.toString("hex") ?? "";
}

/** What sheets ask to look for, of the SDKs that are in an app. */
function questionsOf(matched: Identified["matched"]): Questions {
  const { service, licence } = fileNamesOf(matched);
  return {
    assets: assetNamesOf(matched),
    serviceFiles: service,
    licenceFiles: licence,
    source: questionOf(matched),
    asked: matched.length > 0,
  };
}

/** The native projects that frameworks find their apps among. */
function discover(project: ProjectFiles, settings: Settings): Discovery {
  const index = folderIndex(project, settings);
  const versioned = repositoryOf(project.tree) !== undefined;
  const asks = new Map<GradleBuildFacts | XcodeProject, readonly string[]>();
  const discovery: Discovery = { project, index, settings, android: [], ios: [], versioned, leftOut: [], builds: [], asks };
  const { builds } = discovery;
  for (const folder of gradleRoots(index)) {
    const { value: build, asks: ofBuild } = project.logged(() => readGradleBuild(project, folder));
    asks.set(build, ofBuild);
    builds.push(build);
    for (const module of applicationModules(build)) discovery.android.push({ build, module });
  }
  discovery.leftOut.push(...applicationsLeftOut(project, index, builds));
  const takeXcode = (read: () => XcodeProject | undefined): void => {
    const { value: xcode, asks: ofProject } = project.logged(read);
    const targets = xcode ? applicationTargets(xcode) : [];
    if (!xcode || targets.length === 0) return;
    asks.set(xcode, ofProject);
    discovery.ios.push({ xcode, targets });
  };
  for (const [folder, { files, folders }] of index) {
    const written = files.filter((name) => SPEC_NAMES.has(name)).map((name) => join(folder, name));
    for (const name of folders) {
      const path = join(folder, name);
      // The spec that a project is written from says more than a copy of one machine.
      if (name.endsWith(".xcodeproj") && (written.length === 0 || !isKeptOut(project, path)))
        takeXcode(() => readXcodeProject(project, path));
    }
    for (const file of written) takeXcode(() => readProjectSpec(project, file));
  }
  return discovery;
}

function surveyOf(
  project: ProjectFiles,
  { discovery, unpaired }: Gathered,
  apps: readonly App[],
  { passedOver, cutShort }: Pick<Survey, "passedOver" | "cutShort">,
): Survey {
  const { tree } = project;
  for (const [file, why] of byName(tree.unreadable))
    project.unreadable.push({ file, message: `cannot be read: ${reasonText(why)}`, place: startOf(file || ".") });
  return {
    root: tree.root,
    repository: repositoryOf(tree),
    apps,
    withoutNative: FRAMEWORKS.flatMap(({ kind, withoutNative }) => (withoutNative?.(discovery) ?? []).map((folder) => ({ folder, kind }))),
    noApps: apps.length > 0 ? [] : FRAMEWORKS.flatMap(({ passedOver: no }) => no?.(discovery) ?? []),
    unpaired,
    unreadable: project.unreadable.map(({ file, message, place, template }) => ({ file, message, place, template: template ?? false })),
    passedOver,
    cutShort,
    filesRead: project.filesRead,
  };
}

/** The folders of a project that people write, listed once per run. */
export function folderIndex(project: ProjectFiles, settings: Settings): FolderIndex {
  return project.memo(`folders ${settings.ignore.join("\0")}`, () => walk(project.tree, ignoreMatcher(settings.ignore)));
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

interface Detected {
  framework: Framework;
  detected: DetectedApp;
  /** What the framework asked of the files to find its apps. */
  asks: readonly string[];
}

/** Two apps of one side each that a setting makes one: the hybrid one, if there is one, takes the other's side. */
function paired(found: Detected[], settings: Settings, unpaired: Survey["unpaired"]): Detected[] {
  const rest = [...found];
  const liesAt = (folders: (string | undefined)[], wanted: string): boolean =>
    folders.includes(wanted.replace(/^\.(?:\/|$)/, "").replace(/\/+$/, ""));
  for (const pair of settings.pair) {
    const android = rest.find(
      ({ detected }) =>
        detected.android && liesAt([detected.path, detected.android.build.folder, detected.android.module.folder], pair.android),
    );
    const ios = rest.find(
      ({ detected }) => detected.ios && liesAt([detected.path, detected.ios.xcode.folder, detected.ios.xcode.path], pair.ios),
    );
    if (!android) unpaired.push({ side: "android", folder: pair.android, at: pair.at.android });
    if (!ios) unpaired.push({ side: "ios", folder: pair.ios, at: pair.at.ios });
    if (!android || !ios || android === ios) continue;
    const keeper = ios.detected.shared !== undefined && android.detected.shared === undefined ? ios : android;
    const given = keeper === ios ? android : ios;
    keeper.detected.android = android.detected.android;
    keeper.detected.ios = ios.detected.ios;
    if (pair.name !== undefined) keeper.detected.name = pair.name;
    rest.splice(rest.indexOf(given), 1);
  }
  return rest;
}

/** Two apps of one name are told apart by their folders. */
function distinguish(apps: readonly FactSink[]): void {
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
