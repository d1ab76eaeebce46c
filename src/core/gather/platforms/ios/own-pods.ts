import { baseName, join, parentOf } from "../../../model/paths.js";
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
  for (const { name, right, at } of spec.misspelt) app.misspelling({ what: "attribute", name, right, side: "ios", at });
  noteGaps(project, app, spec, folder, files);
  for (const home of [folder, join(folder, spec.name)]) {
    noteSwiftModules(project, app, home);
    noteListsApart(project, app, spec, home);
  }
}

/**
 * What a specification of the repository lacks, so that its pod is refused or empty. Sources: CocoaPods, "Podspec Syntax Reference" (name, source_files);
 * reactnative.dev, "Create a Library for Your Module" (install_modules_dependencies).
 */
function noteGaps(project: ProjectFiles, app: FactSink, spec: Podspec, folder: string, files: readonly string[]): void {
  const stem = baseName(spec.file).replace(/\.podspec(\.json)?$/, "");
  const gap = (what: "name of the podspec" | "sources of the podspec" | "framework of the podspec", type = what as string): void =>
    app.pluginGap({ package: stem, side: "ios", type, what, at: spec.at });
  if (spec.name !== stem) gap("name of the podspec", spec.name);
  const parts = [...spec.parts.values()];
  const isEmpty = parts.every(({ sources, open }) => sources.length === 0 && !open) && spec.vendored.length === 0 && !spec.prepares;
  if (
    isEmpty &&
    ["ios/**/*", "Classes/**/*", "Sources/**/*", ...(folder === "" ? [] : ["*"])].some((pattern) =>
      filesMatching(project.tree, folder, pattern).some((file) => /\.(swift|mm?)$/.test(file)),
    )
  )
    gap("sources of the podspec");
  const text = spec.file.endsWith(".json") ? undefined : project.text(spec.file)?.text;
  if (text === undefined || (app.kind !== "react-native" && app.kind !== "expo")) return;
  if (/\binstall_modules_dependencies\b|\bReact\b|\bReact-|\bExpoModulesCore\b|\bload\b|\beval\b/.test(text)) return;
  const takes = files.some((file) =>
    /^\s*(?:#\s*import\s*<React\/|@import\s+React\b|import\s+(?:React|ExpoModulesCore)\b|#\s*import\s*<\w+Spec\/)/m.test(
      project.text(join(folder, file))?.text ?? "",
    ),
  );
  if (takes) gap("framework of the podspec");
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
