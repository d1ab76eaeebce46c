import { NATIVE_NAME } from "../../../knowledge/platform-packages.js";
import type { ProjectFiles } from "../../project-files.js";
import { PACKAGE_KEYS } from "../../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Dependency, LinkingFact, PackageNeed, SideName } from "../../../model/facts.js";
import type { Place } from "../../../model/place.js";
import { baseName, join, isInstalled } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { readPodspec } from "../../platforms/ios/podspec.js";
import type { HelperScripts } from "../../platforms/ios/ruby-host.js";
import { findInstalled, type NpmDeclaration, type NpmManifest } from "../../packages/packages.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, placeOf, textAt } from "../../../syntax/data.js";
import type { Source } from "../../../syntax/source.js";
import type { AndroidCandidate, DetectedApp } from "../framework.js";
import { CONFIG_FILES, nativeCode, type NativeCode, type NativeConfig } from "./native-code.js";

/** What links the packages of Expo, and with them the others. */
const EXPO_LINKS = /expo-autolinking|useExpoModules/;

/**
 * The two halves that link packages on Android: the settings take their projects in, a module's script depends on them.
 * Sources: the React Native templates 0.60 to 0.74, and those from 0.75 on.
 */
const LINKS = [
  {
    settings: /autolinkLibrariesFrom\w+/,
    app: /autolinkLibrariesWithApp/,
    calls: ["autolinkLibrariesFromCommand()", "autolinkLibrariesWithApp()"],
  },
  {
    settings: /applyNativeModulesSettingsGradle/,
    app: /applyNativeModulesAppBuildGradle/,
    calls: ["applyNativeModulesSettingsGradle(settings)", "applyNativeModulesAppBuildGradle(project)"],
  },
] as const;

/** Whether packages are linked by themselves on Android, and else the half that is missing. */
export function linksOnAndroid(project: ProjectFiles, { build, module }: AndroidCandidate): Pick<LinkingFact, "automatic" | "lacks"> {
  const textOfScript = (file: string | undefined): string =>
    (file === undefined ? "" : (project.text(file)?.text ?? "")).replace(/\/\*[\s\S]*?\*\/|(^|[^:"'])\/\/.*$/gm, "$1");
  const [settings, app] = [build.settingsFile, module.buildFile].map(textOfScript) as [string, string];
  if (EXPO_LINKS.test(settings) || EXPO_LINKS.test(app)) return { automatic: true };
  const half = LINKS.find(({ settings: inSettings, app: inApp }) => inSettings.test(settings) || inApp.test(app));
  const [taken, used] = [half?.settings.test(settings) ?? false, half?.app.test(app) ?? false];
  // A script that is applied, a plugin of the build's own or another module may have what is not in the two files.
  const hidden =
    build.conventions.length > 0 ||
    build.includedBuilds.some((folder) => !folder.includes("node_modules")) ||
    [...(taken ? [] : [settings]), ...(used ? [] : [app])].some((text) =>
      /\bapply\s*\(?\s*from\b/.test(text.replace(/^.*(native_modules|node_modules).*$/gm, "")),
    );
  if (hidden || (taken && used)) return { automatic: true };
  if (!half) return { automatic: false };
  if ([build.root, ...build.modules.values()].some(({ buildFile }) => (taken ? half.app : half.settings).test(textOfScript(buildFile))))
    return { automatic: true };
  const file = taken ? module.buildFile : build.settingsFile;
  return file === undefined ? { automatic: true } : { automatic: false, lacks: { call: half.calls[taken ? 1 : 0], file } };
}

/**
 * Where the app's code adds a package's class to the list that the framework fills by itself. Source: reactnative.dev, "Native Modules" (the list of
 * packages in the application class).
 */
function addedByHand(project: ProjectFiles, { module }: { module: AndroidCandidate["module"] }, folder: string): Place | undefined {
  for (const { source, text } of applicationSources(project, module.folder))
    for (const match of text.matchAll(/^[ \t]*import\s+([\w.]+\.(\w+Package))\s*;?\s*$/gm)) {
      const path = join(folder, "src/main/java", (match[1] as string).replaceAll(".", "/"));
      if (!["java", "kt"].some((ending) => project.tree.isFile(`${path}.${ending}`))) continue;
      const call = new RegExp(`\\badd\\s*\\(\\s*(?:new\\s+)?${match[2] as string}\\s*\\(`).exec(text);
      if (call) return source.place(call.index);
    }
  return undefined;
}

/** The code of the application class, which holds the list of packages. */
function applicationSources(project: ProjectFiles, folder: string): { source: Source; text: string }[] {
  return project.memo(`application sources ${folder}`, () => {
    const list: { source: Source; text: string }[] = [];
    const visit = (at: string, depth: number): void => {
      if (depth > 12) return;
      for (const { name, kind, link } of project.tree.list(at)) {
        if (kind === "folder" && !link) visit(join(at, name), depth + 1);
        else if (/\.(kt|java)$/.test(name)) {
          const source = project.text(join(at, name));
          if (source && /\bPackageList\b/.test(source.text)) list.push({ source, text: withoutComments(source.text) });
        }
      }
    };
    visit(join(folder, "src/main"), 0);
    return list;
  });
}

/** Who links a package on each side: the framework's own mechanism, people by hand, or nobody. */
export function readLinking(
  project: ProjectFiles,
  app: FactSink,
  declaration: NpmDeclaration,
  native: NativeCode,
  { off, links, helpers }: { off: NativeConfig["off"]; links: Pick<LinkingFact, "automatic" | "lacks">; helpers: HelperScripts },
): void {
  const base = { package: declaration.name, sdk: sdkIdOf("npm", declaration.name), declared: declaration.at };
  noteOnAndroid(project, app, native, declaration, links, base, off);
  const [podspec] = native.podspecs;
  if (app.ios?.pods && podspec !== undefined && project.tree.isFile(podspec)) {
    const spec = readPodspec(project, podspec, helpers);
    const name = spec?.name ?? baseName(podspec).replace(/\.podspec(\.json)?$/, "");
    const { pods } = app.ios;
    const locked = pods.locked?.get(name);
    app.linkage({
      ...base,
      side: "ios",
      automatic: pods.helpers.some((helper) => /^use_(native|expo)_modules!$/.test(helper)),
      off: off.find(({ side }) => side === "ios")?.place,
      manual: pods.declared.get(name),
      native: name,
      installed: pods.locked && [...pods.locked.keys()].some((pod) => pod === name || pod.startsWith(`${name}/`)),
      list: pods.locked ? { file: pods.lockFile, line: 1, column: 1 } : { file: pods.file, line: 1, column: 1 },
      // A package of the repository is on from release to release: its pod follows when pods are installed.
      ...(locked && isInstalled(podspec) && spec?.version !== undefined && locked.version !== spec.version
        ? { lockedApart: { locked: locked.version, installed: spec.version, at: locked.at } }
        : {}),
    });
  }
}

/** Whether the Android project links its native code: by the framework's mechanism, or by hand. */
function noteOnAndroid(
  project: ProjectFiles,
  app: FactSink,
  native: NativeCode,
  declaration: NpmDeclaration,
  links: Pick<LinkingFact, "automatic" | "lacks">,
  base: { package: string; sdk: string; declared: Place },
  off: { name: string; side: SideName; place: Dependency["places"][number] }[],
): void {
  if (app.android && native.androidFolder !== undefined) {
    const { build, module } = app.android;
    const folder = native.androidFolder;
    const own = [...build.modules.values()].find(
      (candidate) => candidate.folder === folder || candidate.folder.endsWith(`node_modules/${declaration.name}/android`),
    );
    const added = links.automatic ? addedByHand(project, app.android, folder) : undefined;
    const reference = own && module.modules.find(({ path }) => (path.startsWith(":") ? path : `:${path}`) === own.path);
    app.linkage({
      ...base,
      side: "android",
      ...links,
      off: off.find(({ side }) => side === "android")?.place,
      manual: reference?.at ?? added,
      native: declaration.name,
      installed: undefined,
      list: { file: build.settingsFile ?? module.buildFile ?? build.folder, line: 1, column: 1 },
    });
  }
}

/**
 * Other packages that an installed package wants beside it. Sources: npm documentation, "peerDependencies"; what links packages reads all
 * three sections of the app's own package.json (the React Native command line, cli-config, findDependencies).
 */
export function readPeers(
  project: ProjectFiles,
  detected: DetectedApp,
  app: FactSink,
  manifest: NpmManifest,
  { name, folder, native }: { name: string; folder: string; native: boolean },
): void {
  const root = project.json(join(folder, "package.json"))?.root;
  if (!isInstalled(`${folder}/`)) noteMisspeltKeys(app, root, PACKAGE_KEYS);
  const generated = native ? at(root, "codegenConfig", "name") : undefined;
  const title = generated === undefined ? undefined : textAt(generated);
  if (generated !== undefined && title !== undefined) app.generatedCode({ package: name, name: title, at: placeOf(generated) });
  for (const [peer, { value, start }] of entriesOf(at(root, "peerDependencies"))) {
    const requirement = textAt(value);
    if (requirement === undefined || textAt(root, "peerDependenciesMeta", peer, "optional") === "true") continue;
    // What code without native parts wants of other such code is not about the wiring.
    if (!native && !NATIVE_NAME.test(peer)) continue;
    const declared = manifest.declarations.some((own) => own.name === peer);
    app.packageNeed({
      by: name,
      sdk: sdkIdOf("npm", name),
      side: "shared",
      ecosystem: "npm",
      name: peer,
      requirement,
      from: "peerDependencies",
      ...(declared ? {} : { undeclared: howInstalled(project, detected, app, manifest, peer, folder) }),
      at: value.source.place(start),
    });
  }
}

/** How a package is installed that only another package asks for. Some package managers put it beside that one's real folder. */
function howInstalled(
  project: ProjectFiles,
  { path, android }: DetectedApp,
  { ios }: FactSink,
  manifest: NpmManifest,
  peer: string,
  folder: string,
): PackageNeed["undeclared"] {
  const found = findInstalled(project, folder, peer);
  if (!found) return "not at all";
  const { androidFolder, podspecs } = nativeCode(project, found.folder);
  if (androidFolder === undefined && podspecs.length === 0) return "without native code";
  // Source: docs.expo.dev, "Autolinking": there dependencies of dependencies are linked too.
  if (manifest.declarations.some(({ name }) => name === "expo")) return "without native code";
  const lists = [
    ...CONFIG_FILES.map((name) => join(path, name)),
    ...(android ? [android.build.settingsFile, android.module.buildFile] : []),
    ios?.pods?.file,
  ];
  return lists.some((file) => file !== undefined && project.text(file)?.text.includes(peer)) ? "linked by hand" : "with native code";
}
