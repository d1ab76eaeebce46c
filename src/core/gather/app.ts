import { noteMisspeltSettings } from "./platforms/android/gradle/misspelt.js";
import { foldersBelow, type FolderIndex } from "../files/walk.js";
import { ofRelease, sideOf, sideOfLevel } from "../model/app.js";
import type { BlindSpot, LevelName } from "../model/facts.js";
import { baseName, isWithin, join, parentOf } from "../model/paths.js";
import { startOf } from "../model/place.js";
import { wildcard } from "../model/wildcard.js";
import { looksLikeToken } from "../knowledge/key-shapes.js";
import type { DetectedApp, Discovery, Framework } from "./frameworks/framework.js";
import { ignoredByGit } from "./git-ignored.js";
import { takeBackDoubtful } from "./incomplete.js";
import { androidFiles, readAndroidBinaries } from "./packages/android-binaries.js";
import { readIosPackages } from "./packages/ios-packages.js";
import { readLinkedFrameworks } from "./packages/apple-frameworks.js";
import { readGuardedCode } from "./packages/guarded-uses.js";
import { readNugetPackages } from "./packages/nuget-packages.js";
import { readPrivacyManifests } from "./packages/privacy-manifests.js";
import { readPackageGraph } from "./packages/android-graph.js";
import { ancestors, readManifest } from "./packages/packages.js";
import { noteWorkspacePackages } from "./packages/workspace-packages.js";
import { readManifests } from "./platforms/android/manifest.js";
import { readShrinking } from "./platforms/android/shrink.js";
import {
  androidBuildFacts,
  androidDependencies,
  noteLostModules,
  noteLostNames,
  requiredByModule,
  readAndroidSide,
  readSharedPods,
} from "./platforms/android/side.js";
import { noteKotlinFramework, noteSharedModules } from "./platforms/multiplatform.js";
import { readEnvironment } from "./platforms/environment.js";
import { readIosEntries } from "./platforms/ios/entries.js";
import { noHelpers } from "./platforms/ios/ruby-host.js";
import { iosDependencies, readIosSide } from "./platforms/ios/side.js";
import { readPairedFiles, readServiceFiles } from "./platforms/service-files.js";
import { readSourceText, type SourceQuestion } from "./platforms/source-text.js";
import { FactSink } from "./sink.js";
import { noteSubmodules } from "./submodules.js";

/** Kinds of apps whose shared code comes in packages of npm. */
const OF_SCRIPTS: ReadonlySet<FactSink["kind"]> = new Set<FactSink["kind"]>(["react-native", "expo", "capacitor", "cordova"]);

/** Reads the facts of one app, as far as they do not depend on what sheets ask for. */
export function gatherApp(discovery: Discovery, framework: Framework, detected: DetectedApp): FactSink {
  const { project } = discovery;
  const app = new FactSink(detected.name, detected.kind, detected.path);
  if (detected.android) {
    const android = (app.android = readAndroidSide(project, detected.android.build, detected.android.module));
    const { settingsFile, root } = detected.android.build;
    if (settingsFile === undefined && root.buildFile === undefined && detected.shared !== undefined) android.generated = true;
    androidDependencies(app, android);
    androidBuildFacts(app, android);
    noteLostModules(project, app, android);
    noteLostNames(app, android);
    noteMisspeltSettings(app, android);
    readManifests(project, app, android);
    readShrinking(project, app, android);
    requiredByModule(app, android);
    if (android.modules.some((module) => module.lockFile !== undefined)) {
      app.lock({
        manager: "gradle",
        side: "android",
        manifest: startOf(android.module.buildFile ?? android.folder),
        lockName: "gradle.lockfile",
        lock: android.module.lockFile,
        expected: false,
      });
    }
  }
  if (detected.ios) {
    const context = {
      project,
      xcode: detected.ios.xcode,
      helpers: framework.helpers?.(discovery, detected) ?? noHelpers,
      versioned: discovery.versioned,
    };
    const ios = (app.ios = readIosSide(context, detected.ios.targets));
    if (!detected.ios.xcode.path.endsWith(".xcodeproj")) ios.generated = true;
    iosDependencies(context, app, ios);
    readIosEntries(context, app, ios);
  }
  if (app.android && app.ios) {
    readSharedPods(app, app.android, app.ios);
    noteKotlinFramework(project, app, app.android, detected.ios?.targets[0]);
    noteSharedModules(project, app, app.android);
  }
  readEnvironment(project, app);
  framework.complete(discovery, detected, app);
  if (OF_SCRIPTS.has(app.kind)) noteWorkspacePackages(project, app, app.path, framework.linked?.(discovery, detected));
  androidFiles(app);
  readPackageGraph(project, app);
  readNugetPackages(project, app);
  readAndroidBinaries(project, app);
  readGuardedCode(project, app);
  readPrivacyManifests(project, discovery.index, app);
  readLinkedFrameworks(project, app);
  readIosPackages(project, app);
  noteSubmodules(project, app);
  return app;
}

/** Files and names that are looked for since sheets ask for them: the named inputs of what is read of them. */
export interface Questions {
  /** Names of files, with `*` for anything. */
  serviceFiles: readonly string[];
  licenceFiles: readonly string[];
  /** Entries of settings assets: the asset's name and a path in it, with dots. */
  assets: readonly string[];
  source: SourceQuestion;
  /** Sheets hold for the app. */
  asked: boolean;
}

/** Reads what is only looked for since sheets ask for it: files by name, settings in assets. */
export function gatherAsked(discovery: Discovery, framework: Framework, detected: DetectedApp, app: FactSink, questions: Questions): void {
  const { project, index } = discovery;
  const { serviceFiles: service, licenceFiles: licence } = questions;
  const takenIn = framework.takesIn?.(discovery, detected, app) ?? [];
  readServiceFiles(project, index, app, detected.ios?.xcode, (name) => service.some((pattern) => wildcard(pattern, name)), takenIn);
  readPairedFiles(index, app);
  if (questions.assets.length > 0) framework.readAssets?.(discovery, detected, app, new Set(questions.assets));
  noteLicenceFiles(app, licence, index);
  const ignored = ignoredByGit(
    project,
    ["", app.path, app.android?.folder, app.android?.module.folder, app.ios?.folder].filter((folder) => folder !== undefined),
  );
  for (const name of [...service, ...licence]) if (ignored(name)) app.outOfGit(name);
  for (const { kind, at } of app.entries) if (kind === "env" && ignored(baseName(at.file))) app.outOfGit(baseName(at.file));
}

/** Files of the names that sheets ask for, in the folders of a side. */
function noteLicenceFiles(app: FactSink, licence: readonly string[], index: FolderIndex): void {
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
          if (licence.some((pattern) => wildcard(pattern, name))) app.namedFile({ file: join(folder, name), side, variant: undefined });
    }
  }
}

/** Reads the names that sheets ask for, and what looks like a key, in the text of the source code. */
export function gatherSourceText({ project, index }: Discovery, app: FactSink, { source: question, asked: described }: Questions): void {
  if (described)
    for (const { kind, name, by } of app.entries)
      if (kind === "permission" && by === undefined) for (const names of question.names.values()) names.add(name.split(".").at(-1) ?? name);
  const asked = question.shapes.length > 0 || question.keys.size > 0 || [...question.names.values()].some((names) => names.size > 0);
  if (asked || app.entries.some(({ value }) => value?.kind === "known" && looksLikeToken(value.text)))
    readSourceText(project, index, app, question);
}

/** What is left when all that sheets require is read: the framework's last word, and what is not known. */
export function completeApp(discovery: Discovery, framework: Framework, detected: DetectedApp, app: FactSink): void {
  const { project } = discovery;
  framework.judgeFiles?.(discovery, detected, app);
  takeBackDoubtful(
    app,
    project.unreadable.map(({ file }) => file),
  );
  if (app.ios?.usesPods) app.workspaceBypass(...workspaceBypasses(discovery, app));
  app.blindSpot(...levelBlindSpots(app), ...versionBlindSpots(app));
}

function levelBlindSpots(app: FactSink): BlindSpot[] {
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
  for (const required of app.requiredLevels) {
    if (required.value.kind === "unknown")
      spots.push({
        side: sideOfLevel(required.level),
        what: `the ${required.level} that ${required.by} asks for`,
        why: required.value.why,
        places: [required.value.place],
      });
  }
  return spots;
}

function versionBlindSpots(app: FactSink): BlindSpot[] {
  const spots = new Map<string, BlindSpot>();
  for (const { declared, name, side } of app.dependencies) {
    if (declared?.kind !== "unknown") continue;
    spots.set(`${side} ${name}`, { side, what: `the version of ${name}`, why: declared.why, places: [declared.place] });
  }
  return [...spots.values()];
}

const SCRIPT_FILE = /\.(sh|bash|ya?ml|rb)$|^(Makefile|Fastfile|Jenkinsfile|Rakefile|justfile)$/;

/** Scripts and CI files that name the project where the workspace is meant. */
function workspaceBypasses(discovery: Discovery, app: FactSink): FactSink["workspaceBypasses"] {
  const { project, index } = discovery;
  const found: FactSink["workspaceBypasses"][number][] = [];
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
