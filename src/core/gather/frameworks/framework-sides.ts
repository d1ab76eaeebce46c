import type { Place } from "../../model/place.js";
import type { Value } from "../../model/value.js";
import { newModule } from "../../model/gradle.js";
import { BuildSettings, type SettingLayer } from "../platforms/ios/settings.js";
import { APPLICATION } from "../platforms/ios/side.js";
import { join, relativeTo } from "../../model/paths.js";
import type { AndroidCandidate, IosCandidate } from "./framework.js";

/** What a framework's own files state of a side whose native project is written by the framework. */
export interface FrameworkSide {
  /** Folder of the side's own files, relative to the root. */
  folder: string;
  /** The file that states it; fixes name it. */
  file: string;
  start: Place;
  id: Value | undefined;
  levels: Record<string, Value | undefined>;
}

/** An Android side that no build script of the project states: with its manifest and its folder of resources, where they are known. */
export function frameworkAndroid(side: FrameworkSide, manifest: string | undefined, resources?: string): AndroidCandidate {
  const module = newModule(":app", side.folder, side.file);
  const state = (block: string, name: string, value: Value | undefined): void => {
    if (value) module.settings.push({ block, name, values: [value], named: new Map(), conditional: false, at: value.place });
  };
  state("defaultConfig", "applicationId", side.id);
  state("defaultConfig", "minSdk", side.levels.minSdk);
  state("defaultConfig", "targetSdk", side.levels.targetSdk);
  state("", "compileSdk", side.levels.compileSdk);
  if (resources !== undefined)
    state("sourceSets.main.res", "srcDirs", { kind: "known", text: relativeTo(side.folder, resources), place: side.start });
  if (manifest !== undefined) {
    const path = relativeTo(side.folder, manifest);
    state("sourceSets.main", "manifest.srcFile", { kind: "known", text: path, place: side.start });
  }
  return {
    build: {
      folder: side.folder,
      settingsFile: undefined,
      root: newModule(":", side.folder, undefined),
      modules: new Map([[module.path, module]]),
      wrapper: undefined,
      settings: newModule("settings", side.folder, undefined),
      includedBuilds: [],
      absent: [],
      absentBuilds: [],
      unincluded: [],
      outside: [],
      catalog: [],
      hasOwnCode: false,
      accessorsOff: false,
      conventions: [],
      openConventions: [],
      daemonJdk: undefined,
    },
    module,
  };
}

/** An iOS side that no Xcode project of the project states. `settings` are further build settings, such as the property list's file. */
export function frameworkIos(side: FrameworkSide, name: string, settings: Record<string, Value | undefined> = {}): IosCandidate {
  const layer: SettingLayer = { from: "target", values: new Map() };
  const state = (key: string, value: Value | undefined): void => {
    if (value?.kind === "known") layer.values.set(key, [{ text: value.text, condition: "", place: value.place }]);
  };
  state("PRODUCT_BUNDLE_IDENTIFIER", side.id);
  state("IPHONEOS_DEPLOYMENT_TARGET", side.levels.iosTarget);
  for (const [key, value] of Object.entries(settings)) state(key, value);
  const target = {
    name,
    type: APPLICATION,
    configurations: [{ name: "Release", settings: new BuildSettings([layer], new Map([["PRODUCT_NAME", name]]), side.start) }],
    defaultConfiguration: "Release",
    at: side.start,
    linked: [],
    embedded: [],
    resources: [],
    sources: [],
    synchronized: [],
    leftOut: [],
    copied: [],
    placed: [],
    product: undefined,
    scripts: [],
    scriptsBehindSources: [],
    packageProducts: [],
    sourcesAt: new Map(),
    resourcesAt: new Map(),
    lost: [],
  };
  return {
    xcode: {
      path: join(side.folder, name),
      file: side.file,
      folder: side.folder,
      targets: [target],
      packages: [],
      references: [],
      binaries: [],
      searchPaths: [],
      start: side.start,
    },
    targets: [target],
  };
}
