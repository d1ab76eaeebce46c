import type { ProjectFiles } from "../../project-files.js";
import { join, parentOf } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { known, unknown, type Value } from "../../../model/value.js";
import type { XmlElement } from "../../../syntax/xml.js";

export type Platform = "android" | "ios";

/** An item of a project: a package, a file with a build action, a reference. */
export interface Item {
  /** `PackageReference`, `BundleResource`, `AndroidAsset`, … */
  kind: string;
  include: string;
  /** Attributes and child elements: `Version`, `Update`, … */
  metadata: Map<string, { text: string; at: Place }>;
  platforms: Platform[] | undefined;
  removed: boolean;
  at: Place;
}

export interface Property {
  name: string;
  text: string;
  /** The platforms for which it holds; all without a condition. */
  platforms: Platform[] | undefined;
  /** Its condition is about something that the files do not tell. */
  conditional: boolean;
  at: Place;
}

/** One project file with what stands above it, the nearest last. */
export interface MsbuildProject {
  file: string;
  folder: string;
  properties: Property[];
  items: Item[];
  /** Files that are taken in: `Directory.Build.props` and the like. */
  imports: string[];
  /** Statements of properties that were worked out: index and platform → value. */
  evaluated: Map<string, Value>;
}

const SHARED_FILES = ["Directory.Build.props", "Directory.Packages.props", "Directory.Build.targets"];

/**
 * Reads a project with its shared files. Conditions about the target framework are worked out per platform; others are kept as such.
 * Source: learn.microsoft.com, "MSBuild project file schema", "Conditions", "Customize the build by folder" and "Central package management".
 */
export function readMsbuild(project: ProjectFiles, file: string): MsbuildProject | undefined {
  const root = project.xml(file)?.root;
  if (root?.name !== "Project") return undefined;
  const result: MsbuildProject = { file, folder: parentOf(file), properties: [], items: [], imports: [], evaluated: new Map() };
  for (const name of SHARED_FILES) {
    const shared = nearest(project, result.folder, name);
    const above = shared === undefined ? undefined : project.xml(shared)?.root;
    if (shared === undefined || above?.name !== "Project") continue;
    result.imports.push(shared);
    readBody(above, result, undefined, false);
  }
  readBody(root, result, undefined, false);
  return result;
}

/** The nearest file of that name, in the folder or above; only the nearest is taken in by itself. */
function nearest(project: ProjectFiles, folder: string, name: string): string | undefined {
  for (let current = folder; ; current = parentOf(current)) {
    const file = join(current, name);
    if (project.tree.isFile(file)) return file;
    if (current === "" || current.startsWith("..")) return undefined;
  }
}

function readBody(element: XmlElement, into: MsbuildProject, platforms: Platform[] | undefined, conditional: boolean): void {
  for (const group of element.children) {
    const condition = decide(group.attributes.get("Condition")?.value, platforms);
    if (condition.platforms?.length === 0) continue;
    const open = conditional || condition.conditional;
    if (group.name === "PropertyGroup") {
      for (const property of group.children) {
        const own = decide(property.attributes.get("Condition")?.value, condition.platforms);
        if (own.platforms?.length === 0) continue;
        into.properties.push({
          name: property.name,
          text: property.text.trim(),
          platforms: own.platforms,
          conditional: open || own.conditional,
          at: placeOfText(property),
        });
      }
    } else if (group.name === "ItemGroup") {
      for (const item of group.children) readItem(item, into, condition.platforms);
    } else if (group.name === "Choose" || group.name === "When" || group.name === "Otherwise")
      readBody(group, into, condition.platforms, true);
  }
}

function readItem(element: XmlElement, into: MsbuildProject, above: Platform[] | undefined): void {
  const { platforms } = decide(element.attributes.get("Condition")?.value, above);
  if (platforms?.length === 0) return;
  const include = element.attributes.get("Include") ?? element.attributes.get("Update") ?? element.attributes.get("Remove");
  if (!include) return;
  const metadata: Item["metadata"] = new Map();
  for (const [name, { value, start }] of element.attributes) metadata.set(name, { text: value, at: element.source.place(start) });
  for (const child of element.children) metadata.set(child.name, { text: child.text.trim(), at: placeOfText(child) });
  for (const name of include.value
    .split(";")
    .map((part) => part.trim())
    .filter(Boolean))
    into.items.push({
      kind: element.name,
      include: name.replaceAll("\\", "/"),
      metadata,
      platforms,
      removed: element.attributes.has("Remove"),
      at: element.source.place(include.start),
    });
}

function placeOfText(element: XmlElement): Place {
  return element.source.place(element.textStart === -1 ? element.start : element.textStart);
}

const NAMES: Record<string, Platform | "other"> = {
  android: "android",
  ios: "ios",
  maccatalyst: "other",
  macos: "other",
  windows: "other",
  tizen: "other",
  tvos: "other",
};

/** For which platforms a condition holds; `conditional` when it is about something else. */
function decide(condition: string | undefined, above: Platform[] | undefined): { platforms: Platform[] | undefined; conditional: boolean } {
  const text = condition?.trim() ?? "";
  if (text === "" || text.toLowerCase() === "true") return { platforms: above, conditional: false };
  if (!/TargetFramework|TargetPlatform|RuntimeIdentifier|UseMaui\b|\$\(Configuration\)/i.test(text))
    return { platforms: above, conditional: true };
  // `and` and `or` of comparisons: each names a platform, or its opposite.
  const holds = (platform: Platform): boolean | undefined => {
    const alternatives = text.split(/\s+or\s+/i).map((alternative) => {
      const parts = alternative.split(/\s+and\s+/i).map((part) => comparison(part, platform));
      return parts.includes(false) ? false : parts.includes(undefined) ? undefined : true;
    });
    return alternatives.includes(true) ? true : alternatives.includes(undefined) ? undefined : false;
  };
  const answers = (["android", "ios"] as Platform[]).map((platform) => [platform, holds(platform)] as const);
  const platforms = answers.flatMap(([platform, answer]) => (answer === false || (above && !above.includes(platform)) ? [] : [platform]));
  return { platforms, conditional: answers.some(([, answer]) => answer === undefined) };
}

function comparison(text: string, platform: Platform): boolean | undefined {
  const named = [...text.matchAll(/(?:^|[^A-Za-z])-?(android|ios|maccatalyst|macos|windows|tizen|tvos)/gi)].map(
    (match) => NAMES[(match[1] as string).toLowerCase()],
  );
  if (named.length === 0) return inRelease(text);
  const negated = /!=|^\s*!|==\s*'?false'?/i.test(text);
  return named.includes(platform) !== negated;
}

/** Whether a comparison of the configuration holds in the build that is shipped; `undefined` for one of something else. */
function inRelease(text: string): boolean | undefined {
  const compared = /^\(?\s*'?([^'=!]*\$\(Configuration\)[^'=!]*)'?\s*(==|!=)\s*'?([^'|]*)[^']*'?\s*\)?$/i.exec(text.trim());
  if (!compared) return undefined;
  return /^release/i.test((compared[3] ?? "").trim()) === (compared[2] === "==");
}

/** No value of a build is longer; repeated doubling would be. */
const LONGEST_VALUE = 20_000;
const DEEPEST = 200;

/**
 * The last statement of a property for a platform. Statements are worked out in order: what stands in one refers to those before it, so that
 * `$(Name);more` adds to the property's own earlier value. Source: learn.microsoft.com, "How MSBuild builds projects", "Evaluation phase".
 */
export function property(project: MsbuildProject, name: string, platform: Platform | undefined): Value | undefined {
  return stateBefore(project, name, platform, project.properties.length, 0);
}

function stateBefore(project: MsbuildProject, name: string, platform: Platform | undefined, end: number, depth: number): Value | undefined {
  const wanted = name.toLowerCase();
  for (let index = end - 1; index >= 0; index--) {
    const statement = project.properties[index] as Property;
    if (statement.name.toLowerCase() !== wanted) continue;
    if (statement.platforms !== undefined && (platform === undefined || !statement.platforms.includes(platform))) continue;
    const key = `${index} ${platform ?? ""}`;
    let value = project.evaluated.get(key);
    if (!value) project.evaluated.set(key, (value = expand(project, statement.text, statement.at, platform, index, depth + 1)));
    return value;
  }
  return undefined;
}

/** Puts the properties that are stated before `end` into a text. */
export function expand(
  project: MsbuildProject,
  text: string,
  at: Place,
  platform: Platform | undefined,
  end = project.properties.length,
  depth = 0,
): Value {
  if (depth > DEEPEST) return unknown("properties refer to each other too deeply", at);
  let why: string | undefined;
  const result = text.replace(/\$\((\w+)\)/g, (whole, name: string) => {
    const value = stateBefore(project, name, platform, end, depth);
    if (value?.kind === "known") return value.text;
    why ??= `the property ${name} has no value in the files`;
    return whole;
  });
  if (result.length > LONGEST_VALUE) why ??= "the value is too long";
  return why === undefined ? known(result, at) : unknown(why, at);
}

/** The references of a project to others, as files. */
export function projectReferences(project: MsbuildProject): string[] {
  return project.items.flatMap(({ kind, include }) => (kind === "ProjectReference" ? join(project.folder, include) : []));
}
