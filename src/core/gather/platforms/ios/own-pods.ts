import { join, parentOf } from "../../../model/paths.js";
import { isPlatformPackage } from "../../../knowledge/platform-packages.js";
import { moduleOfPod, sdkIdOf } from "../../../model/sdk-id.js";
import { describe } from "../../../versions/swiftpm.js";
import { filesMatching } from "../../globbing.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { Podspec } from "./podspec.js";
import { readSwiftManifest } from "./swift-manifest.js";
import { swiftModulesOf } from "./swift-packages.js";

/** A pod of the repository, and the Swift package that lies beside its specification or in a folder of its name. */
export function noteOwnPod(project: ProjectFiles, app: FactSink, spec: Podspec): void {
  const folder = parentOf(spec.file);
  const parts = [...spec.parts.values()];
  const files = parts.flatMap(({ sources, excluded }) => {
    const out = new Set(excluded.flatMap((pattern) => filesMatching(project.tree, folder, pattern)));
    return sources.flatMap((pattern) => filesMatching(project.tree, folder, pattern)).filter((file) => !out.has(file));
  });
  const names = spec.dependencies.map(({ name }) => name.split("/")[0] as string);
  app.ownPod({
    name: spec.name,
    module: moduleOfPod(spec.name),
    files: [...new Set(files)].filter((file) => /\.(?:swift|mm?|h)$/.test(file)).map((file) => join(folder, file)),
    sees: names.map(moduleOfPod),
    open:
      spec.vendored.length > 0 ||
      spec.prepares ||
      parts.some(({ open }) => open) ||
      names.some((name) => name !== spec.name && !isPlatformPackage("cocoapods", name)),
  });
  for (const home of [folder, join(folder, spec.name)]) {
    noteSwiftModules(project, app, home);
    noteListsApart(project, app, spec, home);
  }
}

/** The first number of a version or of what asks for one; `undefined` where there is none. */
function majorIn(requirement: string | undefined): string | undefined {
  return /^(?:\D*\s)?v?(\d+)\./.exec(requirement ?? "")?.[1];
}

/** Libraries that a pod of the repository and the Swift package beside it ask for in different major versions. */
function noteListsApart(project: ProjectFiles, app: FactSink, spec: Podspec, folder: string): void {
  const file = join(folder, "Package.swift");
  const manifest = project.tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
  for (const { location, local, requirement, at } of manifest?.dependencies ?? []) {
    if (local || requirement === undefined || requirement.kind === "branch" || requirement.kind === "revision") continue;
    const pod = spec.dependencies.find(({ name }) => sdkIdOf("cocoapods", name) === sdkIdOf("swiftpm", location));
    const asked = describe(requirement);
    const [left, right] = [majorIn(pod?.requirement), majorIn(`${asked} `)];
    if (!pod || left === undefined || right === undefined || left === right) continue;
    app.agreement({
      title: `${spec.name} asks for different major versions in its podspec and its Swift package`,
      members: [
        { name: pod.name, version: pod.requirement ?? "", at: pod.at },
        { name: sdkIdOf("swiftpm", location), version: asked, at },
      ],
      wanted: undefined,
    });
  }
}

/** The modules of a Swift package of the repository. */
export function noteSwiftModules(project: ProjectFiles, app: FactSink, folder: string): void {
  const file = join(folder, "Package.swift");
  const manifest = project.tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
  if (manifest) app.swiftModule(...swiftModulesOf(project, new Map([[folder, manifest]])));
}
