import { isPlatformPackage } from "../../knowledge/platform-packages.js";
import type { GradleDependency, GradleModule } from "../../model/gradle.js";
import type { PackageNeed } from "../../model/facts.js";
import { isWithin, join } from "../../model/paths.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { textOf } from "../../model/value.js";
import { isApart, isTestScope } from "../platforms/android/configurations.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { isExcluded, nameOf, resolveGraph, type GraphNode } from "./maven-graph.js";
import { MavenMetadata, type Request } from "./maven-metadata.js";
import { mavenStoreAt, type MavenStore } from "./maven-store.js";

/** Folders in which other tools keep packages. */
const OTHERS = /(^|\/)(DerivedData|SourcePackages|\.nuget\/packages)$/;

/**
 * The packages that the Android side gets in the end, with their archives. Only where descriptions of packages are on this machine:
 * in a repository that lies in the tree, in Gradle's cache.
 */
export function readPackageGraph(project: ProjectFiles, app: FactSink): void {
  const side = app.android;
  const stores = side
    ? [
        ...repositoriesInTree(project, app),
        ...project.packageFolders.flatMap((folder) => (OTHERS.test(folder) ? [] : (mavenStoreAt(project.tree, folder) ?? []))),
      ]
    : [];
  if (!side || stores.length === 0) return;
  const metadata = new MavenMetadata(project, stores);
  const roots = [...side.modules.flatMap((module) => requestsOf(module)), ...requestsOfPackages(app)];
  const root = side.build.root.dependencies;
  const forced = new Map<string, string>(
    [...root, ...side.modules.flatMap(({ dependencies }) => dependencies)].flatMap(({ kind, group, artifact, version }) => {
      const text = textOf(version);
      return kind === "force" && text !== undefined ? [[`${group}:${artifact}`, text] as const] : [];
    }),
  );
  for (const [name, { version }] of side.module.locked) forced.set(name, version);
  const graph = resolveGraph([...roots, ...kotlinLibrary(app)], forced, metadata);
  const known = graph.nodes.filter((node) => metadata.requestsOf(node) !== undefined);
  // Nothing of the app is in any store: that is not told for each package.
  if (known.length === 0) return;
  app.graph = {
    packages: graph.nodes.map((node) => ({
      name: nameOf(node),
      version: node.version,
      asked: node.asked,
      way: node.way,
      sdk: sdkOf(app, node),
      platform: isPlatformPackage("maven", nameOf(node)),
    })),
    gaps: graph.gaps,
  };
  for (const node of known) {
    const file = metadata.archiveOf(node);
    if (file === undefined) continue;
    const bringer = bringerOf(app, node);
    const first = node.way[0] ?? bringer?.by;
    const asked = app.dependencies.find(({ ecosystem, name }) => ecosystem === "maven" && name === (node.way[0] ?? nameOf(node)));
    app.androidLibrary({
      file,
      by: `${nameOf(node)}${first === undefined ? "" : ` (by way of ${first})`}`,
      sdk: sdkOf(app, node),
      places: asked?.places ?? (bringer ? [bringer.at] : []),
      fetched: { platform: isPlatformPackage("maven", nameOf(node)), open: graph.gaps.length > 0 },
    });
  }
}

/** The SDK of a package: of what the app itself declares, where it comes with that. */
function sdkOf(app: FactSink, node: GraphNode): string {
  const bringer = bringerOf(app, node);
  if (bringer) return bringer.sdk;
  const name = node.way[0] ?? nameOf(node);
  return app.dependencies.find((dependency) => dependency.ecosystem === "maven" && dependency.name === name)?.sdk ?? sdkIdOf("maven", name);
}

/** The package of shared code whose native half asks for a package, or for that by way of which it comes. */
function bringerOf(app: FactSink, node: GraphNode): PackageNeed | undefined {
  const name = node.way[0] ?? nameOf(node);
  if (app.dependencies.some((dependency) => dependency.ecosystem === "maven" && dependency.name === name)) return undefined;
  return app.packageNeeds.find((need) => need.ecosystem === "maven" && need.side === "android" && need.name === name);
}

/** What the Android halves of packages of shared code ask for: they are modules of the same build. */
function requestsOfPackages(app: FactSink): Request[] {
  return app.packageNeeds.flatMap(({ ecosystem, side, name, requirement }): Request[] => {
    const [group, artifact] = name.split(":");
    return ecosystem === "maven" && side === "android" && group !== undefined && artifact !== undefined && requirement !== undefined
      ? [{ group, artifact, version: plainVersion(requirement), kind: "module", exclusions: [] }]
      : [];
  });
}

/** A version without the mark that it is a strict one. */
function plainVersion(version: string | undefined): string | undefined {
  return version?.replace(/!!$/, "");
}

/** What a module asks for in the builds that are shipped. */
function requestsOf({ dependencies, exclusions }: GradleModule): Request[] {
  return dependencies.flatMap((dependency): Request[] => {
    const kind = KINDS[dependency.kind];
    if (!kind || (kind === "module" ? isApart : isTestScope)(dependency.configuration)) return [];
    // What a configuration leaves out it also leaves out where the script asks for it.
    if (kind === "module" && exclusions.some((exclusion) => isExcluded(exclusion, dependency))) return [];
    const written = textOf(dependency.version);
    return [
      {
        group: dependency.group,
        artifact: dependency.artifact,
        version: plainVersion(written),
        kind,
        exclusions: [...exclusions, ...(dependency.exclusions ?? [])],
        ...(dependency.conditional ? { perhaps: true } : {}),
        ...(dependency.alone ? { alone: true } : {}),
        ...(written?.endsWith("!!") ? { strict: true } : {}),
      },
    ];
  });
}

const KINDS: Partial<Record<GradleDependency["kind"], Request["kind"]>> = { module: "module", bom: "platform", constraint: "constraint" };

/** The Kotlin plugin adds its library in its own version. Source: kotlinlang.org, "Dependency on the standard library" (from 1.4 on). */
function kotlinLibrary(app: FactSink): Request[] {
  const version = textOf(app.android?.effective.kotlin);
  return version === undefined || !/^[1-9]\d*\.\d+\.\d+$/.test(version) || version.startsWith("1.3.")
    ? []
    : [{ group: "org.jetbrains.kotlin", artifact: "kotlin-stdlib", version, kind: "module", exclusions: [] }];
}

/** Repositories that the build names by a path: they come with the project or with a package. */
function repositoriesInTree(project: ProjectFiles, app: FactSink): MavenStore[] {
  const build = app.android?.build;
  const folders = new Set<string>();
  for (const { kind, url, module, at } of app.repositories) {
    const text = textOf(url)?.replace(/^file:(\/\/)?/, "");
    if (kind !== "url" || text === undefined || /^[a-z]+:|^\//i.test(text)) continue;
    const owner = build?.modules.get(module)?.folder ?? build?.folder ?? "";
    for (const base of [owner, build?.folder ?? "", at.file.replace(/\/?[^/]*$/, "")]) {
      const folder = join(base, text);
      if (project.tree.isFolder(folder) && !isWithin(base, folder)) folders.add(folder);
    }
  }
  return [...folders].map((folder) => ({ kind: "repository", folder }));
}
