import type { FunctionResult, Result } from "../../../../evaluate/values.js";
import type { Frame, Variables } from "../../../../evaluate/frame.js";
import type { GradleModule } from "../../../../model/gradle.js";
import { join } from "../../../../model/paths.js";
import type { Place } from "../../../../model/place.js";
import type { Reason } from "../../../../model/reason.js";
import type { Value } from "../../../../model/value.js";
import type { Script } from "../../../../syntax/script/ast.js";
import type { ProjectFiles } from "../../../project-files.js";
import type { ProjectVariables } from "./variables.js";

/** One Gradle project while its scripts are read. */
export interface Reading {
  readonly project: ProjectFiles;
  readonly module: GradleModule;
  readonly variables: ProjectVariables;
  readonly build: BuildReading;
  /** Scripts and plugins that were applied already. */
  readonly applied: Set<string>;
  /** What is left for the end (`afterEvaluate`). */
  readonly deferred: (() => void)[];
}

/** What the projects of one build share while they are read. */
export interface BuildReading {
  readonly folder: string;
  /** Scripts of convention plugins, by plugin id. */
  readonly conventions: Map<string, Script>;
  /** Functions and types of the build's own code, as far as they are no plugins. */
  readonly helpers: Script[];
  /** What they declare, once a script has asked for it. */
  helpersSeen?: Variables;
  /** The projects of the build by their paths, the root as `:`. */
  readonly projects: Map<string, Reading>;
  /** Builds that the settings take in. */
  readonly included: { folder: string; at: Place }[];
  /** Told of every module that settings include. */
  include(path: string, at: Place): void;
  /** Told of a module's folder, where the settings set it; `undefined` where it cannot be worked out. */
  place(path: string, folder: string | undefined, at: Place): void;
}

/** What a repository's own block says, while it is read. */
export interface RepositoryDraft {
  url: Value | undefined;
  groups: string[];
}

/** Blocks whose calls and assignments have a meaning of their own. */
export type BlockName =
  | "project"
  | "plugins"
  | "dependencies"
  | "constraints"
  | "repositories"
  | "repository"
  | "exclusiveContent"
  | "android"
  | "level"
  | "catalogs"
  | "catalog"
  | "configurations"
  | "resolutionStrategy"
  | "kotlin"
  | "cocoapods"
  | "pod"
  | "extra"
  | "apply";

/** Where a statement stands. Never changed: what stands further in is another one. */
export interface Standing {
  readonly block: BlockName;
  /** Names of the blocks inside of `android`. */
  readonly path: readonly string[];
  /** Inside of `buildscript` or `pluginManagement`: for the build itself. */
  readonly forBuild: boolean;
  /** Groups that a repository around is limited to. */
  readonly groups: readonly string[];
  readonly repository?: RepositoryDraft;
  /** The catalog that is being declared, or the pod. */
  readonly name?: string;
  readonly pod?: { version: Value | undefined };
  /** The source set of Kotlin Multiplatform around, as `androidMain`. */
  readonly sourceSet?: string;
}

export const AT_PROJECT: Standing = { block: "project", path: [], forBuild: false, groups: [] };

/** A project, a block or an extension in a variable: what is called on it stands there. */
export interface Delegate {
  reading: Reading;
  standing: Standing;
}

export function delegateOf(reading: Reading, standing: Standing): Result {
  return { kind: "object", name: "delegate", of: { reading, standing } satisfies Delegate };
}

/** Tells of a statement that was not understood, in a block that can hold facts. */
export function tell(reading: Reading, what: string, why: Reason, at: Place, lost?: "lost"): void {
  const { unread } = reading.module;
  if (!unread.some((told) => told.at.file === at.file && told.at.line === at.line && told.at.column === at.column))
    unread.push({ what, why, at, ...(lost && { lost: true }) });
}

/** A function that is run for a project. */
export type Configured = (fn: FunctionResult, frame: Frame) => void;

/** The build script of a folder. */
export function buildFileIn(project: ProjectFiles, folder: string): string | undefined {
  for (const name of ["build.gradle.kts", "build.gradle"]) {
    const file = join(folder, name);
    if (project.tree.isFile(file)) return file;
  }
  return undefined;
}
