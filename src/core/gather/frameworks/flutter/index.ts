import { FLUTTER_TARGETS, HIGHEST_FLUTTER_MIN_SDK } from "../../../knowledge/flutter-levels.js";
import type { ProjectFiles } from "../../project-files.js";
import { PUBSPEC_KEYS } from "../../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { LevelName } from "../../../model/facts.js";
import { baseName, join, parentOf } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { misspelling } from "../../../model/suggest.js";
import { known, unknown, type Value } from "../../../model/value.js";
import { at, entriesOf, textAt, valueAt, type Data } from "../../../syntax/data.js";
import { take, type DetectedApp, type Framework } from "../framework.js";
import { moduleApps, noteHosts, type Hosts } from "./module.js";
import { dartFolder, fromRoot, readPackages } from "./packages.js";
import { asksForAtLeast } from "./release.js";
import { noteTemplate } from "./template.js";

/** Whether a package asks for the framework, also under a key that is a slip of `dependencies`: the app is one all the same. */
function takesFramework(root: Data | undefined): boolean {
  return entriesOf(root).some(
    ([key, { value }]) =>
      textAt(value, "flutter", "sdk") === "flutter" && (key === "dependencies" || misspelling(key, ["dependencies"]) !== undefined),
  );
}

/** Apps made with Flutter. Source: dart.dev, "The pubspec file"; docs.flutter.dev, "Developing packages and plugins". */
export const flutter: Framework<Hosts> = {
  kind: "flutter",
  find(discovery) {
    const found: DetectedApp<Hosts>[] = moduleApps(discovery);
    for (const [folder, { files }] of discovery.index) {
      if (!files.includes("pubspec.yaml")) continue;
      const root = discovery.project.yaml(join(folder, "pubspec.yaml"))?.root;
      if (!takesFramework(root) || at(root, "flutter", "plugin") || at(root, "flutter", "module")) continue;
      const [android] = take(discovery.android, ({ build }) => build.folder === join(folder, "android"));
      const [ios] = take(discovery.ios, ({ xcode }) => xcode.folder === join(folder, "ios"));
      if (!android && !ios) continue;
      found.push({
        kind: "flutter",
        name: textAt(root, "name") ?? (baseName(folder) || "app"),
        path: folder,
        android,
        ios,
        shared: folder,
      });
    }
    return found;
  },
  complete(discovery, detected, app) {
    const { project } = discovery;
    const file = join(dartFolder(detected), "pubspec.yaml");
    const root = project.yaml(file)?.root;
    if (!root) return;
    const sdk = flutterSdk(project, detected);
    app.hybrid({
      folder: dartFolder(detected),
      framework: {
        name: "Flutter",
        package: "flutter",
        declared: valueAt(root, "environment", "flutter") ?? valueAt(root, "environment", "sdk"),
        installed: sdk && sdkVersion(project, sdk),
      },
    });
    noteMisspeltKeys(app, root, PUBSPEC_KEYS);
    readPackages(discovery, detected, app, root);
    noteTemplate(
      discovery,
      detected,
      app,
      noteHosts(discovery, detected, app),
      app.dependencies.some(
        ({ ecosystem, platform, test, native, nativeUnknown }) =>
          ecosystem === "pub" && !platform && !test && (nativeUnknown || native?.ios === true),
      ),
    );
    if (detected.android?.build.folder === join(dartFolder(detected), "android")) shrinkByDefault(app);
    noteFlavors(project, app);
    readDefaults(project, app, sdk, leastTarget(project, file));
  },
};

/** The SDK that the Android side was last built with, relative to the survey's root. */
function flutterSdk(project: ProjectFiles, detected: DetectedApp): string | undefined {
  const local = project.properties(join(dartFolder(detected), "android/local.properties"));
  const stated = textAt(local, "flutter.sdk");
  const folder = stated === undefined ? undefined : fromRoot(project, "", stated);
  return folder !== undefined && project.tree.isFolder(folder) ? folder : undefined;
}

function sdkVersion(project: ProjectFiles, sdk: string): string | undefined {
  return project.text(join(sdk, "version"))?.text.trim() || undefined;
}

/** What the SDK's target level is at least, by the release that the app asks for. */
function leastTarget(project: ProjectFiles, file: string): string | undefined {
  return FLUTTER_TARGETS.find((release) => asksForAtLeast(project, file, release))?.targetSdk;
}

/** Levels that are left to `flutter.…`: from the SDK where it is there. */
function readDefaults(project: ProjectFiles, app: FactSink, sdk: string | undefined, leastTarget: string | undefined): void {
  const { android } = app;
  if (!android) return;
  const files = [
    "packages/flutter_tools/gradle/src/main/kotlin/FlutterExtension.kt",
    "packages/flutter_tools/gradle/src/main/groovy/flutter.groovy",
    "packages/flutter_tools/gradle/flutter.gradle",
  ];
  const source =
    sdk === undefined
      ? undefined
      : files
          .map((file) => join(sdk, file))
          .map((file) => (project.tree.isFile(file) ? project.text(file) : undefined))
          .find((text) => text !== undefined);
  for (const [level, name] of [
    ["minSdk", "minSdkVersion"],
    ["targetSdk", "targetSdkVersion"],
    ["compileSdk", "compileSdkVersion"],
  ] as [LevelName, string][]) {
    const left = android.levels.filter(
      (fact) =>
        fact.level === level && fact.owner === "app" && fact.value.kind === "unknown" && /^flutter(\.\w+)?$/.test(fact.value.lacks ?? ""),
    );
    const [first] = left;
    if (!first) continue;
    const match = source && new RegExp(`\\b${name}\\s*(?::\\s*Int\\s*)?=\\s*(\\d+)`).exec(source.text);
    const value: Value =
      source && match
        ? known(match[1] as string, source.place(match.index + match[0].length - (match[1] as string).length))
        : unknown(reason("no-flutter-sdk"), first.value.place);
    android.effective[level] = value;
    android.levels = android.levels.filter((fact) => !left.includes(fact));
    // Without the SDK the highest default that a release has had is taken: only what is above it is certainly too low.
    android.defaults[level] = {
      value: value.kind === "known" || level !== "minSdk" ? value : known(HIGHEST_FLUTTER_MIN_SDK, first.value.place),
      from: "Flutter",
    };
    android.leftTo = { ...android.leftTo, [level]: first.value.place };
    if (level === "targetSdk" && value.kind === "unknown" && leastTarget !== undefined)
      android.defaultAtLeast = { ...android.defaultAtLeast, targetSdk: leastTarget };
  }
}

/**
 * A flavour is built on iOS by the scheme of its name and the configuration `Release-NAME`. Only where the Xcode project has some of them:
 * an app may have flavours on Android alone. Source: docs.flutter.dev, "Set up Flutter flavors for iOS and macOS".
 */
function noteFlavors(project: ProjectFiles, app: FactSink): void {
  const { android, ios } = app;
  if (!android || !ios) return;
  const flavors = new Map(
    android.module.settings.flatMap(({ block, at: place }) => {
      const flavor = /^flavor:([^.]+)$/.exec(block)?.[1];
      return flavor === undefined ? [] : [[flavor, place] as const];
    }),
  );
  const folder = parentOf(ios.projectFile);
  const schemes = project.tree
    .list(join(folder, "xcshareddata/xcschemes"))
    .flatMap(({ name }) => (name.endsWith(".xcscheme") ? name.replace(/\.xcscheme$/, "").toLowerCase() : []));
  const configurations = ios.target.configurations.map(({ name }) => name.toLowerCase());
  const has = (flavor: string): { scheme: boolean; configuration: boolean } => ({
    scheme: schemes.includes(flavor.toLowerCase()),
    configuration: configurations.some((name) => name === `release-${flavor.toLowerCase()}` || name === `release ${flavor.toLowerCase()}`),
  });
  const found = [...flavors].map(([flavor, place]) => ({ flavor, place, ...has(flavor) }));
  if (!found.some(({ scheme, configuration }) => scheme || configuration)) return;
  for (const { flavor, place, scheme, configuration } of found) {
    if (!configuration) app.flavorGap({ flavor, lacks: "configuration", at: place, project: ios.projectFile });
    // Schemes that nobody shares are on the machine of whoever made them.
    else if (!scheme && schemes.length > 0) app.flavorGap({ flavor, lacks: "scheme", at: place, project: ios.projectFile });
  }
}

/** A release build is shrunk unless the build script says otherwise. Source: docs.flutter.dev, "Build and release an Android app", "Shrink your code". */
function shrinkByDefault(app: FactSink): void {
  const { android } = app;
  if (!android) return;
  const file = android.module.buildFile;
  const states = android.module.settings.some(({ block, name }) => block === "buildType:release" && name === "minifyEnabled");
  if (file === undefined || states) return;
  app.revise("shrink", (facts) =>
    facts.map((fact) => (fact.variant === "release" ? { ...fact, enabled: known("true", startOf(file)) } : fact)),
  );
}
