import { PLATFORM_PACKAGES } from "../../knowledge/platform-packages.js";
import type { ProjectFiles } from "../project-files.js";
import type { AndroidSide } from "../../model/app.js";
import type { FactSink } from "../sink.js";
import type { LevelName, RepositoryFact } from "../../model/facts.js";
import { placeholdersGiven, type GradleModule } from "../../model/gradle.js";
import { isInstalled, isWithin, join, parentOf } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { noteModuleNames } from "../platforms/android/gradle/misspelt.js";
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
import { readPodspec } from "../platforms/ios/podspec.js";
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
  // A module of the app's own build asks for itself.
  if (!side.modules.some((own) => own.folder === folder)) requireLevels(app, module, asks, isOverridden, folder, name, sdk);
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
  if (isInstalled(`${folder}/`) || folder.startsWith("..")) return;
  app.packageModule(module);
  noteModuleNames(app, module);
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
