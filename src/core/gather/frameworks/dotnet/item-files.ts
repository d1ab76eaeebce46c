import { distance } from "fastest-levenshtein";
import { insideOf } from "../../../evaluate/msbuild/evaluation.js";
import { join, parentOf } from "../../../model/paths.js";
import { textOf } from "../../../model/value.js";
import { at, textAt, valueAt } from "../../../syntax/data.js";
import type { Source } from "../../../syntax/source.js";
import { ignoredByGit } from "../../git-ignored.js";
import type { FactSink } from "../../sink.js";
import type { ProjectFiles } from "../../project-files.js";
import type { UnitOfApp } from "./packages.js";
import type { DotnetProject, Platform, TargetFramework } from "./project.js";

/** Items that are files of the project, by the build action; without them the build stops, or the app lacks the file. */
const FILES =
  /^(MauiIcon|MauiSplashScreen|MauiImage|MauiFont|MauiAsset|MauiCss|AndroidResource|AndroidAsset|AndroidJavaSource|ProguardConfiguration|BundleResource|ImageAsset|InterfaceDefinition|EmbeddedResource|PartialAppManifest|ObjcBindingApiDefinition|ObjcBindingCoreSource|TransformFile|TrimmerRootDescriptor)$/;

/** Items that are no files, or are looked at elsewhere. */
const NO_FILES =
  /(Reference|Version|Compile|Using|Folder|None|Content|Remove|Workload|Attribute|Root|Option|Visible\w*|Configuration|Library|Capability|Environment\w*|Entitlements|Overlay|Symbol\w*|Analyzer|Target\w*|Import|Page|Xaml|CustomEntitlements)$/;

/** Files that items of the projects name, each alone, and that are not there. Source: learn.microsoft.com, "Build items", ".NET MAUI single project". */
export function noteItemFiles(project: ProjectFiles, app: FactSink, units: readonly UnitOfApp[]): void {
  const told = new Set<string>();
  for (const { project: unit, platforms } of units)
    for (const side of platforms) {
      const build = unit.build(side);
      for (const item of build.items) {
        if (item.does !== "include" || item.open) continue;
        const isData = /\.(json|plist|xml|ttf|otf|png|svg|wav|mp3|html|css|js|txt|p8|cer)$/i.test(item.include);
        if (!FILES.test(item.kind) && item.kind !== "Compile" && (NO_FILES.test(item.kind) || !isData)) continue;
        const named = [
          { text: insideOf(build, item), place: item.at },
          ...["ForegroundFile"].flatMap((key) => {
            const stated = item.metadata.get(key);
            const text = textOf(stated?.value)?.replaceAll("\\", "/");
            return stated && text !== undefined ? [{ text, place: stated.at }] : [];
          }),
        ];
        for (const { text, place } of named) {
          if (text === "" || /[*?$%;@]/.test(text) || !/\.\w+$/.test(text)) continue;
          const file = join(unit.folder, text);
          const key = `${place.file}:${place.line}:${text}`;
          if (told.has(key) || file.startsWith("..") || /(^|\/)(obj|bin)\//.test(file) || project.tree.isFile(file)) continue;
          told.add(key);
          const ignored = ignoredByGit(
            project,
            file.split("/").map((_, index, parts) => parts.slice(0, index).join("/")),
          );
          app.pathFollowed({
            text,
            resolved: file,
            kind: "file",
            exists: false,
            side: platforms.length === 1 ? side : "shared",
            generated: ignored(file.slice(file.lastIndexOf("/") + 1)),
            at: place,
          });
        }
      }
    }
}

/** Files that properties name. */
export function noteNamedFiles(project: ProjectFiles, app: FactSink, side: Platform, unit: DotnetProject): void {
  for (const [name, kind] of side === "ios"
    ? ([["CodesignEntitlements", "entitlements file"]] as const)
    : ([["AndroidManifest", "file"]] as const)) {
    const stated = unit.build(side).property(name);
    const text = textOf(stated)?.replaceAll("\\", "/");
    if (!stated || text === undefined || text === "" || text.startsWith("/")) continue;
    const file = join(unit.folder, text);
    if (!file.startsWith("..") && !project.tree.isFile(file))
      app.pathFollowed({ text, resolved: file, kind, exists: false, side, generated: false, at: stated.place });
  }
}

/** Properties that files of the build ask for and nothing sets, where one of almost the same name is set: they are empty. */
export function noteLostProperties(project: ProjectFiles, app: FactSink, units: readonly UnitOfApp[]): void {
  const files = filesOfBuild(project, units);
  const texts = [...files].flatMap((file) => {
    const source = project.tree.isFile(file) ? project.text(file) : undefined;
    return source ? [{ source, text: source.text.replace(/<!--[\s\S]*?-->/g, (comment) => " ".repeat(comment.length)) }] : [];
  });
  const defined = new Map<string, string>();
  for (const { text } of texts)
    for (const group of text.matchAll(/<PropertyGroup\b[^>]*>([\s\S]*?)<\/PropertyGroup>/g))
      for (const [, name = ""] of (group[1] ?? "").matchAll(/<([A-Za-z_]\w*)\b/g)) defined.set(name.toLowerCase(), name);
  noteConfigurations(project, app, texts, units);
  const told = new Set<string>();
  for (const { source, text } of texts)
    for (const match of text.matchAll(/\$\(([A-Za-z_]\w*)\)/g)) {
      const name = match[1] as string;
      const lower = name.toLowerCase();
      if (defined.has(lower) || told.has(lower) || name.length < 7 || GIVEN.test(name)) continue;
      const near = [...defined].find(([other]) => other.length > 6 && distance(other, lower) <= (lower.length > 9 ? 2 : 1));
      if (near === undefined) continue;
      told.add(lower);
      app.lostProperty({ name, near: near[1], at: source.place(match.index) });
    }
}

/** The files that the builds of the units read. */
export function filesOfBuild(project: ProjectFiles, units: readonly UnitOfApp[]): Set<string> {
  const files = new Set<string>();
  for (const { project: unit } of units) {
    files.add(unit.file);
    for (let folder = parentOf(unit.file); ; folder = parentOf(folder)) {
      for (const name of ["Directory.Build.props", "Directory.Build.targets", "Directory.Packages.props"])
        if (project.tree.isFile(join(folder, name))) files.add(join(folder, name));
      if (folder === "") break;
    }
    for (const side of ["android", "ios"] as const)
      for (const { file } of unit.build(side).imports) if (file !== undefined) files.add(file);
  }
  return files;
}

/**
 * Conditions that ask for a configuration which is almost one that there is. Source: learn.microsoft.com, "Common MSBuild project properties"
 * (Configuration, Configurations: Debug and Release without it), "Solution (.sln) file".
 */
function noteConfigurations(
  project: ProjectFiles,
  app: FactSink,
  texts: readonly { source: Source; text: string }[],
  units: readonly UnitOfApp[],
): void {
  const solutions = solutionsAbove(project, units[0]?.project.folder ?? "");
  const known = [
    "Debug",
    "Release",
    ...texts.flatMap(({ text }) => [...text.matchAll(/<Configurations>([^<]*)</g)].flatMap(([, list = ""]) => list.split(/[;\s]+/))),
    ...solutions.flatMap((source) => [...source.text.matchAll(/^\s*([\w-]+)\|/gm)].map(([, name = ""]) => name)),
  ].filter(Boolean);
  const lower = new Set(known.map((name) => name.toLowerCase()));
  for (const { source, text } of texts)
    for (const match of text.matchAll(/'\$\(Configuration\)(?:\|[^']*)?'\s*[!=]=\s*'([\w-]+)/g)) {
      const name = match[1] as string;
      const near = known.find((other) => name.length > 3 && distance(other.toLowerCase(), name.toLowerCase()) <= 2);
      if (!lower.has(name.toLowerCase()) && near !== undefined)
        app.lostProperty({ name, near, of: "configuration", at: source.place(match.index) });
    }
}

/** Properties that the build itself sets. Source: learn.microsoft.com, "MSBuild reserved and well-known properties", "Common MSBuild project properties". */
const GIVEN =
  /^(MSBuild\w*|Solution\w*|Project\w*|NuGet\w*|TargetFramework\w*|TargetPlatform\w*|Configuration|Platform|Output\w*|Intermediate\w*|Base\w*|RuntimeIdentifiers?|AssemblyName|RootNamespace|DefaultItemExcludes)$/i;

/** The solutions in the nearest folder above that has any. */
function solutionsAbove(project: ProjectFiles, folder: string): Source[] {
  for (let above = folder; ; above = parentOf(above)) {
    const found = project.tree
      .list(above)
      .flatMap(({ name, kind }) => (kind === "file" && name.endsWith(".sln") ? (project.text(join(above, name)) ?? []) : []));
    if (found.length > 0 || above === "") return found;
  }
}

/** Projects that the solution around the app lists and that are not there. Source: learn.microsoft.com, "Solution (.sln) file". */
export function noteSolution(project: ProjectFiles, app: FactSink, folder: string): void {
  for (const source of solutionsAbove(project, folder))
    for (const match of source.text.matchAll(/^Project\("\{[^"]*"\)\s*=\s*"[^"]*",\s*"([^"]+\.\w+proj)"/gm)) {
      const text = (match[1] as string).replaceAll("\\", "/");
      const file = join(parentOf(source.file), text);
      if (!file.startsWith("..") && !project.tree.isFile(file))
        app.pathFollowed({
          text,
          resolved: file,
          kind: "project",
          exists: false,
          side: "shared",
          generated: false,
          at: source.place(match.index),
        });
    }
}

/**
 * The SDK that the repository fixes, and packages of the framework, against the framework that the app is built for. Sources: learn.microsoft.com,
 * "global.json overview" (rollForward), "NETSDK1045"; ".NET MAUI release schedule" (its packages are made for the framework of their number).
 */
export function noteGenerations(project: ProjectFiles, app: FactSink, first: DotnetProject): void {
  const newest = Math.max(...first.frameworks.map(({ version }) => Number.parseInt(version, 10)).filter((version) => version >= 5));
  const framework = first.frameworks.find(({ version }) => Number.parseInt(version, 10) === newest);
  if (!framework) return;
  noteToolkit(project, app, first, newest, framework);
  for (const { ecosystem, name, declared, places } of app.dependencies) {
    const version = textOf(declared);
    const major = /^(\d+)\.\d/.exec(version ?? "")?.[1];
    const [place] = places;
    if (ecosystem !== "nuget" || !OF_FRAMEWORK.test(name) || major === undefined || version === undefined || !place) continue;
    if (Number(major) > newest)
      app.agreement({
        title: `${name} is made for .NET ${major}`,
        members: [{ name, version, at: declared?.place ?? place }],
        wanted: `${newest}.x for ${framework.text}`,
      });
  }
}

const OF_FRAMEWORK = /^(Microsoft\.Maui\.|Microsoft\.AspNetCore\.Components\.WebView)/;

/** The SDK that the nearest global.json fixes. */
function noteToolkit(project: ProjectFiles, app: FactSink, first: DotnetProject, newest: number, framework: TargetFramework): void {
  for (let above = first.folder; ; above = parentOf(above)) {
    const file = join(above, "global.json");
    const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
    if (root) {
      const version = valueAt(root, "sdk", "version");
      const major = Number.parseInt(textOf(version) ?? "", 10);
      if (version && major < newest && !/^(major|latestMajor)$/i.test(textAt(at(root, "sdk"), "rollForward") ?? ""))
        app.agreement({
          title: `${framework.text} needs the SDK of its number`,
          members: [{ name: "sdk", version: textOf(version) ?? "", at: version.place }],
          wanted: `${newest}.0 or newer`,
        });
      break;
    }
    if (above === "") break;
  }
}
