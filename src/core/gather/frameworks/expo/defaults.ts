import { MemoryTree } from "../../../files/memory.js";
import { ProjectFiles } from "../../project-files.js";
import type { Side } from "../../../model/app.js";
import type { FactSink } from "../../sink.js";
import type { LevelName } from "../../../model/facts.js";
import { PROPERTY_PLUGINS } from "../../../knowledge/property-plugins.js";
import { join, parentOf } from "../../../model/paths.js";
import { known, textOf, type Value } from "../../../model/value.js";
import { readCatalog } from "../../platforms/android/gradle/catalog.js";
import { applicationTargets, configurationOf } from "../../platforms/ios/side.js";
import { readXcodeProject } from "../../platforms/ios/xcode-project.js";
import { findInstalled } from "../../packages/packages.js";
import { readTarball } from "../../../syntax/tarball.js";
import { compareLevels } from "../../../versions/level.js";
import type { DetectedApp } from "../framework.js";

/**
 * The levels that the native projects get when they are generated, as far as the installed packages tell. On Android Expo's Gradle plugin
 * takes them from React Native's version catalog (source: expo-modules-autolinking, `ExpoRootProjectPlugin.kt` and
 * `ExpoAutolinkingSettingsExtension.kt`); on iOS they stand in the template that the `expo` package holds since release 54
 * (source: expo, `template.tgz`). Where neither is there, the default is at least what the framework itself asks for.
 */
export function readGeneratedLevels(project: ProjectFiles, detected: DetectedApp, app: FactSink, framework: string): void {
  const { android, ios } = app;
  if (android) {
    const values = androidDefaults(project, detected, framework);
    for (const level of ["minSdk", "targetSdk", "compileSdk"] as const) setDefault(app, android, level, values(level));
  }
  if (ios) setDefault(app, ios, "iosTarget", iosDefault(project, framework));
}

function setDefault(app: FactSink, side: Side, level: LevelName, value: Value | undefined): void {
  if (side.effective[level]) return;
  if (value?.kind === "known") {
    side.defaults[level] = { value, from: "Expo" };
    side.effective[level] = value;
    return;
  }
  const asked = app.requiredLevels.filter(
    (required) => required.level === level && (required.by === "expo" || required.by === "react-native"),
  );
  const highest = asked
    .flatMap((required) => textOf(required.value) ?? [])
    .sort(compareLevels)
    .at(-1);
  if (highest !== undefined) side.defaultAtLeast = { ...side.defaultAtLeast, [level]: highest };
}

function androidDefaults(project: ProjectFiles, detected: DetectedApp, framework: string): (level: string) => Value | undefined {
  const linking = findInstalled(project, framework, "expo-modules-autolinking");
  const plugin = PROPERTY_PLUGINS.find((entry) => entry.plugin === "expo-root-project");
  const owner = plugin && (findInstalled(project, detected.path, plugin.package) ?? findInstalled(project, framework, plugin.package));
  if (!linking || !owner || !project.tree.isFolder(join(linking.folder, "android/expo-gradle-plugin"))) return () => undefined;
  const catalog = readCatalog(project, join(owner.folder, plugin.file));
  return (level) => catalog?.versions.get(level);
}

function iosDefault(project: ProjectFiles, framework: string): Value | undefined {
  const file = join(framework, "template.tgz");
  const read = project.tree.isFile(file) ? project.tree.read(file) : undefined;
  if (!read?.ok) return undefined;
  const template = readTarball(read.bytes, (name) => name.endsWith(".pbxproj")) ?? {};
  const description = Object.keys(template).find((name) => /\/ios\/[^/]+\.xcodeproj\/project\.pbxproj$/.test(name));
  const xcode = description === undefined ? undefined : readXcodeProject(new ProjectFiles(new MemoryTree(template)), parentOf(description));
  const [target] = xcode ? applicationTargets(xcode) : [];
  const value = target && configurationOf(target)?.settings.value("IPHONEOS_DEPLOYMENT_TARGET");
  return value?.kind === "known" ? known(value.text, { file, line: 1, column: 1 }) : undefined;
}
