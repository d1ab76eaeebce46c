import { isWithin, parentOf } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import type { FolderIndex } from "../../files/walk.js";
import type { AppKind } from "../../model/app.js";
import type { FactSink } from "../sink.js";
import type { GradleBuildFacts, GradleModule } from "../../model/gradle.js";
import type { IosTarget, XcodeProject } from "../platforms/ios/xcode-project.js";
import type { HelperScripts } from "../platforms/ios/ruby-host.js";
import type { Settings } from "../../settings/settings.js";
import type { Batch } from "../../syntax/code/process.js";
import type { Reason } from "../../model/reason.js";

/** An application module or an Xcode project that no app has claimed yet. */
export interface AndroidCandidate {
  build: GradleBuildFacts;
  module: GradleModule;
}

export interface IosCandidate {
  xcode: XcodeProject;
  targets: IosTarget[];
}

/** What frameworks look through to find their apps. */
export interface Discovery {
  project: ProjectFiles;
  index: FolderIndex;
  settings: Settings;
  android: AndroidCandidate[];
  ios: IosCandidate[];
  versioned: boolean;
  /** Scripts of applications that no build takes in. */
  leftOut: string[];
  /** The Gradle builds of the project. */
  builds: GradleBuildFacts[];
  /** What was asked of the files for each native project. */
  asks: ReadonlyMap<GradleBuildFacts | XcodeProject, readonly string[]>;
}

/** An app as a framework recognised it, before its facts are read. */
export interface DetectedApp<State = unknown> {
  kind: AppKind;
  name: string;
  path: string;
  android?: AndroidCandidate;
  ios?: IosCandidate;
  /** Folder of the shared code. */
  shared?: string;
  /** The native projects are written by the framework when it builds, and are not there. */
  generated?: boolean;
  /** What the framework found out meanwhile and needs again: the app rests on all that was asked to find the framework's apps. */
  state?: State;
}

/** A file or folder that a framework takes into a side. */
export interface TakenIn {
  path: string;
  side: "android" | "ios";
}

/** One framework: how it is recognised, and the facts that only it knows. The survey knows no framework by name. */
export interface Framework<State = unknown> {
  kind: AppKind;
  /** Finds the framework's apps; takes what it claims out of the candidates. */
  find(discovery: Discovery): DetectedApp<State>[];
  /** Folders that are the framework's by their declarations, and have no native project. */
  withoutNative?: (discovery: Discovery) => string[];
  /** Project files of the framework's kind that are no app, and why. */
  passedOver?: (discovery: Discovery) => { file: string; why: Reason }[];
  /** Scripts that the framework brings for Podfiles and podspecs, when it is installed. */
  helpers?(discovery: Discovery, detected: DetectedApp<State>): HelperScripts;
  /** Packages of the repository that its configuration links, whether or not the app's list has them. */
  linked?(discovery: Discovery, detected: DetectedApp<State>): { name: string; folder: string }[];
  /** Files, and folders with all below them, that the framework takes into a side beside the places of native projects. */
  takesIn?(discovery: Discovery, detected: DetectedApp<State>, app: FactSink): TakenIn[];
  /** Reads entries of the framework's settings assets that sheets require: `NAME.PATH`, the asset's name and a path in it. */
  readAssets?(discovery: Discovery, detected: DetectedApp<State>, app: FactSink, names: ReadonlySet<string>): void;
  /** Corrects what is known of files with vendors' settings, where the framework decides which files are taken in. */
  judgeFiles?(discovery: Discovery, detected: DetectedApp<State>, app: FactSink): void;
  /** Adds the framework's own facts to an app whose native sides are read. */
  complete(discovery: Discovery, detected: DetectedApp<State>, app: FactSink): void;
  /** Adds what scripts that run when the app is built do to a native project: they are parsed beside everything else. */
  readScripts?(discovery: Discovery, detected: DetectedApp<State>, app: FactSink, batch: Batch): Promise<void>;
}

/** Takes the candidates whose folder fits out of the list. */
export function take<T>(list: T[], fits: (item: T) => boolean): T[] {
  const taken = list.filter(fits);
  for (const item of taken) list.splice(list.indexOf(item), 1);
  return taken;
}

/** The nearest folder that two lie in. */
export function commonParent(a: string, b: string): string {
  let current = a;
  while (!isWithin(b, current)) current = parentOf(current);
  return current;
}
