import type { AppKind } from "../model/app.js";
import type { SideName } from "../model/facts.js";

/** What a plugin or a script that runs after the build can write into an Xcode project, its property list and its entitlements. */
const IOS_PROJECT: readonly string[] = [
  "systemFramework",
  "linkerFlag",
  "embed",
  "searchPath",
  "entitlement",
  "plistEntry",
  "backgroundMode",
  "urlScheme",
  "queriedScheme",
  "host",
  "serviceFile",
  "purposeText",
];

/**
 * What nobody can tell of a native project that a framework writes when it builds, from the files that it is made of: kinds of need that
 * plugins, pods or scripts can meet in it. Whatever of these is found there is met; what is not found is unknown.
 *
 * Sources: cordova.apache.org, "Plugin.xml" (framework, podspec, hook) and "Hooks"; docs.expo.dev, "Config plugins"; docs.unity3d.com,
 * "Create a build post-processor" (PostProcessBuild), "Gradle for Android".
 */
const UNTOLD: Partial<Record<AppKind, Partial<Record<SideName, readonly string[]>>>> = {
  cordova: {
    android: ["buildPlugin", "packaging", "keepRule", "repository"],
    ios: ["systemFramework", "linkerFlag", "embed", "searchPath", "entitlement"],
  },
  expo: {
    android: [
      "buildPlugin",
      "packaging",
      "keepRule",
      "repository",
      "manifestEntry",
      "urlScheme",
      "queriedScheme",
      "host",
      "serviceFile",
      "permission",
    ],
    ios: IOS_PROJECT,
  },
  unity: {
    android: ["buildPlugin", "packaging"],
    ios: IOS_PROJECT,
  },
};

/** Whether a need that is not met in the files of a generated project may be met in the project all the same. */
export function isUntold(kind: AppKind, side: SideName, need: string): boolean {
  return UNTOLD[kind]?.[side]?.includes(need) ?? false;
}
