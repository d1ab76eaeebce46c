import { evaluateProject, pathOfItem, type Evaluated, type MsbuildFiles, type MsbuildItem } from "../../../evaluate/msbuild/evaluation.js";
import { baseName, join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { possibleTexts, textOf, type Value } from "../../../model/value.js";
import { wildcard } from "../../../model/wildcard.js";
import { ignoreMatcher } from "../../../settings/ignore.js";
import type { ProjectFiles } from "../../project-files.js";

export type Platform = "android" | "ios";
export const PLATFORMS: readonly Platform[] = ["android", "ios"];

/** A target framework that a project names, such as `net8.0-android34.0`. */
export interface TargetFramework {
  text: string;
  version: string;
  /** In lower case; empty where the framework is of no platform. */
  platform: string;
  platformVersion: string | undefined;
  at: Place;
}

/** The configuration that is shipped. */
const RELEASE = "Release";

/** One project file: what it is without a target framework, and how each of its builds sees it. */
export class DotnetProject {
  readonly base: Evaluated;
  readonly frameworks: readonly TargetFramework[];

  private constructor(
    private readonly files: MsbuildFiles,
    readonly file: string,
    base: Evaluated,
  ) {
    this.base = base;
    this.frameworks = frameworksOf(base);
  }

  /** Nothing where the file is no project. */
  static open(files: MsbuildFiles, file: string): DotnetProject | undefined {
    const base = evaluateProject(files, file, { Configuration: RELEASE });
    return base && new DotnetProject(files, file, base);
  }

  get folder(): string {
    return this.base.folder;
  }

  /** The name without the ending. */
  get name(): string {
    return baseName(this.file).replace(/\.\w+proj$/, "");
  }

  /** As it is built for a platform: for the framework of the platform, or one of none where it is a library for all. */
  build(platform: Platform, configuration = RELEASE): Evaluated {
    const framework = this.frameworkFor(platform);
    return this.files.memo(`.NET build ${framework?.text ?? ""} ${platform} ${configuration} ${this.file}`, () => {
      const globals: Record<string, string> = { Configuration: configuration };
      if (framework) globals.TargetFramework = framework.text;
      // Projects of the older form are built for the device.
      else if (platform === "ios") globals.Platform = "iPhone";
      return evaluateProject(this.files, this.file, globals) ?? this.base;
    });
  }

  /** The framework that a build for the platform takes: the platform's own, else the newest of no platform. */
  frameworkFor(platform: Platform): TargetFramework | undefined {
    return (
      this.frameworks.find((framework) => framework.platform === platform) ??
      this.frameworks.filter((framework) => framework.platform === "").sort((a, b) => Number(b.version) - Number(a.version))[0]
    );
  }

  /** All builds of the shipped configuration. */
  get all(): Evaluated[] {
    return PLATFORMS.map((platform) => this.build(platform));
  }
}

function frameworksOf(base: Evaluated): TargetFramework[] {
  const found = new Map<string, TargetFramework>();
  for (const name of ["TargetFrameworks", "TargetFramework"]) {
    for (const { text, place } of optionsOf(base.property(name)))
      for (const part of text.matchAll(/[^;\s]+/g)) {
        const match = /^net(?:standard|coreapp)?(\d[\d.]*)(?:-([a-z]+)(\d[\d.]*)?)?$/i.exec(part[0]);
        if (!match || found.has(part[0].toLowerCase())) continue;
        found.set(part[0].toLowerCase(), {
          text: part[0],
          version: match[1] as string,
          platform: (match[2] ?? "").toLowerCase(),
          platformVersion: match[3],
          at: { ...place, column: place.column + part.index },
        });
      }
    if (found.size > 0) break;
  }
  return [...found.values()];
}

/** Every text that a value can have, the ones beside what is not known too. */
function optionsOf(value: Value | undefined): { text: string; place: Place }[] {
  if (value?.kind === "known") return [value];
  return value?.kind === "either" ? value.options.flatMap(optionsOf) : [];
}

/** A project of a tree, opened once. */
export function openProject(project: ProjectFiles, file: string): DotnetProject | undefined {
  return project.memo(`.NET project ${file}`, () => DotnetProject.open(msbuildFiles(project), file));
}

function msbuildFiles(project: ProjectFiles): MsbuildFiles {
  return {
    load: (path) => {
      if (path.startsWith("..") || !project.tree.isFile(path)) return undefined;
      const root = project.xml(path)?.root;
      return root?.name === "Project" ? root : undefined;
    },
    exists: (path) => project.tree.isFile(path) || project.tree.isFolder(path),
    textOf: (path) => project.text(path)?.text,
    hasSolution: (folder) => project.tree.list(folder).some(({ name }) => /\.slnx?$/.test(name)),
    memo: (key, make) => project.memo(key, make),
  };
}

/** A reference of a project to another. */
export interface ProjectReference {
  text: string;
  /** From the root. */
  file: string;
  at: Place;
}

export function projectReferences(build: Evaluated): ProjectReference[] {
  return includesOf(build, "ProjectReference").map((item) => ({ text: item.include, file: pathOfItem(build, item), at: item.at }));
}

/** The items of a kind that are there in the end. Names of packages and of files are compared without a look at their case. */
export function includesOf(build: Evaluated, kind: string): MsbuildItem[] {
  const found: MsbuildItem[] = [];
  for (const item of build.items) {
    if (item.kind !== kind) continue;
    const path = pathOfItem(build, item).toLowerCase();
    if (item.does === "include") found.push(item);
    else if (item.does === "remove" && !item.open) {
      const gone = found.findIndex((other) => pathOfItem(build, other).toLowerCase() === path);
      if (gone !== -1) found.splice(gone, 1);
    }
  }
  return found;
}

/** What `Update` adds to the items of a kind and name. */
export function updatesOf(build: Evaluated, kind: string, name: string): MsbuildItem[] {
  return build.items.filter((item) => item.kind === kind && item.does === "update" && item.include.toLowerCase() === name.toLowerCase());
}

/** A property as a text, where it is certain. */
export function textOfProperty(build: Evaluated, name: string): string | undefined {
  return textOf(build.property(name));
}

/** Whether a property is switched on. */
export function isOn(build: Evaluated, name: string): boolean {
  return possibleTexts(build.property(name)).some((text) => /^(true|enable|enabled)$/i.test(text));
}

/** The build action of a file in a build: of the item that takes it in last; `undefined` where none does. */
export function actionOf(
  build: Evaluated,
  file: string,
  defaults: readonly { kind: string; pattern: string }[],
): { kind: string; open: boolean } | undefined {
  const actions = new Map<string, boolean>();
  for (const { kind, pattern } of defaults) if (matcher(join(build.folder, pattern))(file)) actions.set(kind, false);
  for (const item of build.items) {
    if (!mayTake(build, item, file)) continue;
    if (item.does === "include") actions.set(item.kind, item.open);
    else if (item.does === "remove" && !item.open) actions.delete(item.kind);
  }
  const [last] = [...actions].reverse();
  return last && { kind: last[0], open: last[1] };
}

/** The item of a kind that takes a file in. */
export function itemTaking(build: Evaluated, kind: string, file: string): MsbuildItem | undefined {
  return actionOf(build, file, [])?.kind === kind
    ? build.items.findLast((item) => item.kind === kind && item.does === "include" && mayTake(build, item, file))
    : undefined;
}

function mayTake(build: Evaluated, item: MsbuildItem, file: string): boolean {
  return matcher(pathOfItem(build, item))(file) && !item.exclude.some((pattern) => matcher(join(build.folder, pattern))(file));
}

const matchers = new Map<string, (file: string) => boolean>();

/** Tells files that a path with `*` and `**` stands for, in any case. */
function matcher(pattern: string): (file: string) => boolean {
  let matches = matchers.get(pattern);
  if (!matches) {
    if (matchers.size > 2_000) matchers.clear();
    const plain = pattern.toLowerCase();
    // A path out of the project's root is compared as it is written.
    matches =
      !pattern.includes("*") || pattern.startsWith("..")
        ? (file) => file.toLowerCase() === plain
        : // So many stars stand in no project that a person wrote; compared piece by piece they cannot be slow.
          pattern.split("*").length > 7
          ? (file) => wildcard(plain.replaceAll("**/", "*").replaceAll("**", "*"), file.toLowerCase())
          : ignoreMatcher([`/${pattern}`]);
    matchers.set(pattern, matches);
  }
  return matches;
}
