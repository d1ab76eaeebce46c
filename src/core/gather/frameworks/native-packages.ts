import { PLATFORM_PACKAGES } from "../../knowledge/platform-packages.js";
import type { ProjectFiles } from "../project-files.js";
import type { AndroidSide } from "../../model/app.js";
import type { FactSink } from "../sink.js";
import type { LevelName, RepositoryFact } from "../../model/facts.js";
import { placeholdersGiven, type GradleModule } from "../../model/gradle.js";
import { isInstalled, isWithin, join, parentOf } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { readModule } from "../platforms/android/gradle/build.js";
import { namespaceOf, noteManifestNeeds, readLibraryManifest } from "../platforms/android/manifest.js";
import { repositoryNeeds } from "../platforms/android/repositories.js";
import { readLibraryRules } from "../platforms/android/shrink.js";
import { readPodContents } from "../packages/ios-packages.js";
import { nativeFolders, readNativeLibraries } from "../packages/android-binaries.js";
import { variantOfConfiguration } from "../../knowledge/source-sets.js";
import { isTestScope } from "../platforms/android/configurations.js";
import { moduleLevels } from "../platforms/android/side.js";
import type { HelperScripts } from "../platforms/ios/ruby-host.js";
import { noteSpecFiles } from "../platforms/ios/side.js";
import { filesMatching } from "../globbing.js";
import { readPodspec, type Podspec } from "../platforms/ios/podspec.js";
import { readSwiftManifest } from "../platforms/ios/swift-manifest.js";
import { swiftModulesOf } from "../platforms/ios/swift-packages.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { describe } from "../../versions/swiftpm.js";
import { addSpecLevel } from "../platforms/ios/side.js";

/** What a package's own Android folder asks of the app: levels (those in `asks`), repositories, permissions, keep rules, dependencies. */
export function noteAndroidPackage(
  project: ProjectFiles,
  app: FactSink,
  side: AndroidSide,
  name: string,
  sdk: string,
  folder: string,
  asks: readonly LevelName[] = ["minSdk"],
): void {
  const module = readModule(project, side.build.folder, `:${name}`, folder);
  const manifest = join(folder, "src/main/AndroidManifest.xml");
  const isOverridden = app.overriddenLibraries.includes(
    namespaceOf(project.tree.isFile(manifest) ? project.xml(manifest)?.root : undefined, module) ?? "",
  );
  requireLevels(app, module, asks, isOverridden, folder, name, sdk);
  for (const { kind, exists, resolved, configuration = "", at } of module.paths)
    if (kind === "binary" && exists === true && resolved !== undefined && !isTestScope(configuration))
      app.androidLibrary({ file: resolved, by: name, sdk, ...variantOfConfiguration(configuration), places: [at] });
  for (const natives of nativeFolders(module)) readNativeLibraries(project, app, natives, { by: name, sdk, variant: undefined });
  app.repositoryNeed(...repositoryNeeds(module, name, sdk));
  app.repository(...handedOn(module, side));
  readLibraryManifest(project, app, manifest, name);
  const given = placeholdersGiven(module);
  if (given) noteManifestNeeds(project, app, manifest, { by: name, sdk }, given);
  readLibraryRules(project, app, module, name);
  for (const setting of module.settings) {
    if (setting.name !== "minCompileSdk" || !setting.block.includes("aarMetadata") || !setting.values[0]) continue;
    app.required({ level: "compileSdk", value: setting.values[0], by: name, sdk, from: "android folder" });
  }
  noteModules(app, module, name, sdk);
  if (!isInstalled(`${folder}/`) && !folder.startsWith("..")) app.packageModule(module);
}

/** The repositories that its build script gives to every project of the app's build. */
function handedOn({ repositories }: GradleModule, side: AndroidSide): RepositoryFact[] {
  return repositories.flatMap((repository) => (repository.forAll ? { ...repository, module: side.module.path } : []));
}

/** The levels that its build script states. */
function requireLevels(
  app: FactSink,
  module: GradleModule,
  asks: readonly LevelName[],
  isOverridden: boolean,
  folder: string,
  name: string,
  sdk: string,
): void {
  for (const fact of moduleLevels(module, "package")) {
    // A level taken from the app, or a default for an app that says nothing, asks for nothing.
    if (!asks.includes(fact.level) || fact.value.kind === "either" || (isOverridden && fact.level === "minSdk")) continue;
    if (fact.value.kind === "known" && (fact.value.fallback || !isWithin(fact.value.place.file, parentOf(folder)))) continue;
    app.required({
      level: fact.level,
      value: fact.value,
      by: name,
      sdk,
      from: fact.level === "minSdk" ? "android folder" : "own compile level",
    });
  }
}

/** Modules that its build script asks for. */
function noteModules(app: FactSink, module: GradleModule, name: string, sdk: string): void {
  for (const dependency of module.dependencies) {
    const artifact = `${dependency.group}:${dependency.artifact}`;
    if (dependency.kind !== "module" || /test|compileOnly/i.test(dependency.configuration) || PLATFORM_PACKAGES.maven.test(artifact))
      continue;
    const [place] = dependency.places;
    if (place)
      app.packageNeed({
        by: name,
        sdk,
        side: "android",
        ecosystem: "maven",
        name: artifact,
        requirement: textOf(dependency.version),
        from: "android folder",
        at: place,
      });
  }
}

/** What a package's podspec asks of the app: its deployment target and the pods that it depends on. */
export function notePodspec(project: ProjectFiles, app: FactSink, file: string, name: string, sdk: string, helpers: HelperScripts): void {
  addSpecLevel({ project, helpers }, app, file, sdk, name);
  const spec = readPodspec(project, file, helpers);
  if (spec) readPodContents(project, app, spec, { by: name, sdk });
  if (!file.startsWith("..")) noteSpecFiles({ project, helpers }, app, file, name);
  if (spec && !file.startsWith("..") && !isInstalled(file)) noteOwnPod(project, app, spec);
  for (const dependency of spec?.dependencies ?? []) {
    if (dependency.conditional || PLATFORM_PACKAGES.cocoapods.test(dependency.name.split("/")[0] as string)) continue;
    app.packageNeed({
      by: name,
      sdk,
      side: "ios",
      ecosystem: "cocoapods",
      name: dependency.name,
      requirement: dependency.requirement,
      from: "podspec",
      at: dependency.at,
    });
  }
}

/** Pods that bring no module but their own and those of the framework that they belong to. Source: the specifications of these pods, read 2026-11-30. */
const OF_FRAMEWORK = /^(?:Flutter|FlutterMacOS|React\b.*|RCT.*|Yoga|hermes-engine|ExpoModulesCore|Capacitor|CapacitorCordova|Cordova)$/;

/** A pod of the repository, and the Swift package that lies beside its specification or in a folder of its name. */
function noteOwnPod(project: ProjectFiles, app: FactSink, spec: Podspec): void {
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
      spec.unread.length > 0 ||
      parts.some(({ open }) => open) ||
      names.some((name) => name !== spec.name && !OF_FRAMEWORK.test(name)),
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

/** The name under which the code of a pod is imported. Source: CocoaPods, "Podspec Syntax Reference" (module_name: letters that cannot stand in it become _). */
function moduleOfPod(name: string): string {
  return name.replace(/[-+.]/g, "_");
}

/** The modules of a Swift package of the repository. */
export function noteSwiftModules(project: ProjectFiles, app: FactSink, folder: string): void {
  const file = join(folder, "Package.swift");
  const manifest = project.tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
  if (manifest) app.swiftModule(...swiftModulesOf(project, new Map([[folder, manifest]])));
}
