import type { IosSide, TemplateLine } from "../../../model/app.js";
import type { LockFact } from "../../../model/facts.js";
import { join } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { textOf } from "../../../model/value.js";
import { closing } from "../../../syntax/code/callee.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, textAt } from "../../../syntax/data.js";
import { NATIVE_NAME } from "../../../knowledge/platform-packages.js";
import { findInstalled, type NpmDeclaration, type NpmManifest } from "../../packages/packages.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import { iosSources, nativeSources, type NativeSource } from "../native-sources.js";
import { linksOnAndroid } from "./linking.js";
import { noteBuildLines, noteCodeLines, noteOlderLines, noteEntry } from "./native-lines.js";

const PACKAGE = "react-native";

/** The number of a release behind the zero: 76 of `0.76.5`. */
export function releaseOf(version: string | undefined): number {
  return Number(/^\D{0,2}0\.(\d+)/.exec(version ?? "")?.[1] ?? NaN);
}

/**
 * Lines of the framework's template that native projects cannot do without. Sources: reactnative.dev, "React Native
 * 0.76" (merged native library), "Integration with Existing Apps" (Podfile), the templates of 0.60 to 0.84 (@react-native-community/template).
 */
export function noteNativeLines(discovery: Discovery, { path }: DetectedApp, app: FactSink, version: string | undefined): void {
  const { project } = discovery;
  const release = releaseOf(version);
  // Before, packages were linked by hand.
  if (!(release >= 60)) return;
  noteIosLines(discovery, app, release);
  noteAndroidLines(discovery, project, app, release, path);
  noteBuildLines(project, app, release);
  noteOlderLines(project, app, release);
  noteCodeLines(discovery, app, path, release);
}

/** Another script may have what the Podfile does not have. */
const LOADS_MORE = /\brequire_relative\b|(?<!["'-])\beval\b|\bload\s/;

function notePodfile(project: ProjectFiles, app: FactSink, release: number): void {
  const pods = app.ios?.pods;
  const podfile = pods && project.text(pods.file)?.text;
  if (!pods || podfile === undefined) return;
  const text = withoutComments(podfile, "hash");
  const isWhole = !LOADS_MORE.test(text.replace(/\brequire_relative\b[^\n]*(react_native_pods|native_modules)\b[^\n]*/g, ""));
  const lacks = (line: TemplateLine): void => app.templateLine({ line, side: "ios", at: startOf(pods.file) });
  if (!/\buse_react_native!/.test(text)) {
    if (release >= 63 && isWhole && !/\bpod\s+["']React/.test(text)) lacks("framework's pods");
    return;
  }
  const byHand = app.linking.some(({ side, manual }) => side === "ios" && manual);
  const takesIn = /\buse_(native|expo)_modules!|\blink_native_modules!/.test(text);
  if ((hasNativePackages(app, "ios") && !takesIn && !byHand) || takesOfNothing(text)) lacks("pods of packages");
  if (release >= 66 && isWhole && !/\breact_native_post_install\b/.test(text)) lacks("pods' post install");
}

/** Lines of the Podfile and of the app delegate. */
function noteIosLines(discovery: Discovery, app: FactSink, release: number): void {
  if (!app.ios || app.ios.generated) return;
  notePodfile(discovery.project, app, release);
  noteDelegate(discovery, app, app.ios);
}

/** The Podfile goes on with what the framework's own function gives, and nothing gives it. Source: the templates of React Native and Expo (config). */
const takesOfNothing = (podfile: string): boolean => /\bconfig\s*\[/.test(podfile) && !/\bconfig\s*=/.test(podfile);

/** Whether packages bring native code to a side: where nothing is installed, the pods that come with packages show it, and names of packages. */
function hasNativePackages({ kind, dependencies }: FactSink, side: "android" | "ios"): boolean {
  // Expo's own package has native code.
  if (kind === "expo") return true;
  return dependencies.some(
    ({ ecosystem, native, nativeUnknown, broughtBy, platform, test, name }) =>
      !platform &&
      !test &&
      ((ecosystem === "npm" && (native?.[side] === true || (nativeUnknown === true && NATIVE_NAME.test(name)))) ||
        (ecosystem === "cocoapods" && broughtBy?.ecosystem === "npm")),
  );
}

/** What loads the framework's native libraries. */
const LOADS_NATIVE = /\bSoLoader\s*\.\s*init\b|\bloadReactNative\b|\bReactNativeApplicationEntryPoint\b|\bOpenSourceMergedSoMapping\b/;

/** Where the framework is started or its libraries are loaded. */
const NATIVE_START = /ReactApplication|SoLoader|loadReactNative|ReactNativeApplicationEntryPoint|OpenSourceMergedSoMapping/;

/** What the application class loads, and the scripts that link packages. */
function noteAndroidLines(discovery: Discovery, project: ProjectFiles, app: FactSink, release: number, path: string): void {
  if (app.android && !app.android.generated) {
    noteLinkingScripts(project, app, release);
    const code = nativeSources(discovery, app.android.module.folder, /\.(kt|java)$/, NATIVE_START);
    const classes = code.filter(({ text }) => /\bReactApplication\b/.test(text));
    // A class above may do it.
    const loads = code.some(({ text }) => LOADS_NATIVE.test(text.replace(/^[ \t]*import\s[^\n]*/gm, "")));
    for (const { source, text } of classes) {
      // Source: reactnative.dev, the template's MainApplication (SoLoader; ReactNativeApplicationEntryPoint since 0.82).
      if (/\bApplication\s*(?:\(|\bimplements\b|,|\{)|extends\s+\w*Application\b/.test(text) && !loads)
        app.templateLine({ line: "native loader", side: "android", at: source.place(Math.max(0, text.search(/\bclass\s/))) });
      const init = /\bSoLoader\s*\.\s*init\s*\(/.exec(text);
      if (release >= 76 && init && !/OpenSourceMergedSoMapping|\bloadReactNative\b/.test(text.slice(init.index)))
        app.templateLine({ line: "merged libraries", side: "android", at: source.place(init.index) });
      noteEntryFile(project, path, app, { source, text });
    }
  }
}

/**
 * The lines by which packages with native code come into the Android project: a script of the command line until 0.74, a function of the build
 * plugin from 0.75 on. Told where pods show that there are such packages.
 */
function noteLinkingScripts(project: ProjectFiles, app: FactSink, release: number): void {
  const { android } = app;
  if (!android || !hasNativePackages(app, "android") || app.linking.some(({ side }) => side === "android")) return;
  if (release >= 75) {
    const { automatic, lacks } = linksOnAndroid(project, android);
    const { settingsFile } = android.build;
    const { buildFile } = android.module;
    for (const [line, file] of [
      ["packages in settings", settingsFile],
      ["packages in app", buildFile],
    ] as const)
      if (!automatic && file !== undefined && (!lacks || lacks.file === file))
        app.templateLine({ line, side: "android", at: startOf(file) });
    return;
  }
  const textOfFile = (file: string | undefined): string | undefined =>
    file === undefined ? undefined : withoutComments(project.text(file)?.text ?? "");
  const [settings, script] = [textOfFile(android.build.settingsFile), textOfFile(android.module.buildFile)];
  const links = /\bnative_modules\b|\bautolinkLibraries\w*|\bapplyNativeModules\w*|\buseExpoModules\b|\bautolinking\b/;
  const byHand = /\bproject\(\s*["']:[\w-]*react-native/;
  if (settings !== undefined && android.build.settingsFile !== undefined && !links.test(settings) && !byHand.test(settings))
    app.templateLine({ line: "packages in settings", side: "android", at: startOf(android.build.settingsFile) });
  if (script !== undefined && android.module.buildFile !== undefined && !links.test(script) && !byHand.test(script))
    app.templateLine({ line: "packages in app", side: "android", at: startOf(android.module.buildFile) });
}

/** A delegate of the framework's that does not let its base start anything. Source: reactnative.dev, the template's AppDelegate (0.71 to 0.76). */
function noteDelegate(discovery: Discovery, app: FactSink, ios: IosSide): void {
  const code = iosSources(discovery, ios, /\.(swift|mm?|h)$/, /AppDelegate/);
  if (!code.some(({ text }) => /\bAppDelegate\s*:\s*RCTAppDelegate\b/.test(text))) return;
  for (const { source, text } of code) {
    const launch = /\bdidFinishLaunchingWithOptions\b[^{;]*\{/.exec(text);
    if (!launch || !/@implementation\s+AppDelegate\b|\bclass\s+AppDelegate\b/.test(text)) continue;
    const body = text.slice(launch.index, closing(text, launch.index + launch[0].length - 1));
    // One that makes its own bridge or window starts it in its own way.
    if (!/\[\s*super\s+application\b|\bsuper\s*\.\s*application\b|\bstartReactNative\b|\brootView|[bB]ridge|\bwindow\b/.test(body))
      app.templateLine({ line: "start of the framework", side: "ios", at: source.place(launch.index) });
  }
}

/**
 * Switches that each side has for itself: the engine of scripts, the architecture. Sources: reactnative.dev, "Using Hermes"; "New Architecture"
 * (newArchEnabled, RCT_NEW_ARCH_ENABLED).
 */
export function noteSwitches(project: ProjectFiles, app: FactSink): void {
  const pods = app.ios?.pods;
  if (!pods || !app.android) return;
  const podfile = project.text(pods.file);
  const text = withoutComments(podfile?.text ?? "", "hash");
  const property = (name: string) => {
    const entry = app.entries.find((other) => other.kind === "gradleProperty" && other.name === name);
    const value = textOf(entry?.value)?.trim();
    return entry && (value === "true" || value === "false") ? { name, version: value, at: entry.at } : undefined;
  };
  const inPodfile = (form: RegExp): { value: string; offset: number } | undefined => {
    const match = form.exec(text);
    return match && !isUnderCondition(text, match.index, match.index + match[0].length)
      ? { value: match[1] as string, offset: match.index }
      : undefined;
  };
  const engine = property("hermesEnabled");
  const stated = inPodfile(/:?hermes_enabled\s*(?:=>|:)\s*(true|false)\b/);
  const built = pods.locked?.get("hermes-engine");
  const other =
    stated && podfile
      ? { name: "hermes_enabled", version: stated.value, at: podfile.place(stated.offset) }
      : built && { name: "hermes-engine", version: "true", at: built.at };
  if (engine && other && engine.version !== other.version)
    app.agreement({ title: "the sides run scripts in different engines", members: [engine, other], wanted: undefined });
  const architecture = property("newArchEnabled");
  const switched = inPodfile(/\bENV\[["']RCT_NEW_ARCH_ENABLED["']\]\s*(?:\|\|)?=\s*["']([01])["']/);
  if (architecture && switched && podfile && architecture.version !== String(switched.value === "1"))
    app.agreement({
      title: "the sides are built for different architectures",
      members: [architecture, { name: "RCT_NEW_ARCH_ENABLED", version: switched.value, at: podfile.place(switched.offset) }],
      wanted: undefined,
    });
}

/** Whether a statement of Ruby depends on something: by what stands behind it, or by the nearest line above that stands further out. */
function isUnderCondition(text: string, from: number, to: number): boolean {
  if (/^[^\n]*?\b(?:if|unless)\b/.test(text.slice(to))) return true;
  const lines = text.slice(0, from).split("\n");
  const depth = (line: string): number => line.length - line.trimStart().length;
  const own = depth(`${lines.at(-1) ?? ""}x`);
  const above = lines.slice(0, -1).findLast((line) => line.trim() !== "" && depth(line) < own);
  return above !== undefined && /^\s*(?:if|unless|else|elsif|when|case)\b/.test(above);
}

/** The script that the development server is asked for. Source: reactnative.dev, the template's MainApplication (getJSMainModuleName). */
function noteEntryFile(project: ProjectFiles, path: string, app: FactSink, { source, text }: NativeSource): void {
  const match = /\bgetJSMainModuleName\s*\(\s*\)[^"{=]{0,40}(?:=|\{\s*return)\s*"([\w./-]+)"/.exec(text);
  const name = match?.[1];
  if (!match || name === undefined || name.startsWith(".")) return;
  noteEntry(project, app, path, name, source.place(match.index + match[0].lastIndexOf(`"${name}"`) + 1));
}

/** Packages of the framework's repository that are made for one release. Source: github.com/facebook/react-native, "packages" (versions since 0.73). */
const OF_ONE_RELEASE = /^@react-native\/(babel-preset|babel-plugin-codegen|codegen|gradle-plugin|metro-config|metro-babel-transformer)$/;

/** The edition of React that releases are made for, from the release on. Source: react-native's package.json of each (peerDependencies). */
const REACT_OF: readonly [release: number, react: number][] = [
  [78, 19],
  [69, 18],
  [64, 17],
];

/** React of another edition than the release is made for, as the app's own list says. */
function noteReact({ declarations }: NpmManifest, app: FactSink, release: number): void {
  const wanted = REACT_OF.find(([from]) => release >= from)?.[1];
  const own = declarations.find(({ name, section }) => name === "react" && section === "dependencies");
  const framework = declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
  const stated = Number(/^[~^]?(\d+)\./.exec(own?.specifier.text ?? "")?.[1] ?? NaN);
  if (!own || !framework || wanted === undefined || Number.isNaN(stated) || stated === wanted) return;
  app.agreement({
    title: `React Native 0.${release} is made for React ${wanted}`,
    members: [
      { name: PACKAGE, version: framework.specifier.text, at: framework.specifier.place },
      { name: "react", version: own.specifier.text, at: own.specifier.place },
    ],
    wanted: `react ${wanted}`,
  });
}

/** What the framework's own packages ask for: React of an edition, and each other of one release. */
export function noteFrameworkPackages(project: ProjectFiles, { path }: DetectedApp, app: FactSink, manifest: NpmManifest): void {
  const installed = findInstalled(project, path, PACKAGE);
  const own = manifest.declarations.find(({ name, section }) => name === PACKAGE && section !== "peerDependencies");
  const version = installed?.version ?? textOf(own?.specifier);
  const release = releaseOf(version);
  noteReact(manifest, app, release);
  noteReleases(project, app, own, release, manifest, path, version);
  const root = installed && project.json(join(installed.folder, "package.json"))?.root;
  for (const [name, { value, start }] of entriesOf(at(root, "peerDependencies"))) {
    const requirement = textAt(value);
    if (name !== "react" || requirement === undefined || !manifest.declarations.some((declaration) => declaration.name === name)) continue;
    app.packageNeed({
      by: PACKAGE,
      sdk: PACKAGE,
      side: "shared",
      ecosystem: "npm",
      name,
      requirement,
      from: "peerDependencies",
      at: value.source.place(start),
    });
  }
}

/** Packages of the framework that are of another release than it. */
function noteReleases(
  project: ProjectFiles,
  app: FactSink,
  own: NpmDeclaration | undefined,
  release: number,
  manifest: NpmManifest,
  path: string,
  version: string | undefined,
): void {
  if (own && release >= 72)
    for (const { name, specifier } of manifest.declarations) {
      if (!OF_ONE_RELEASE.test(name)) continue;
      const found = findInstalled(project, path, name)?.version ?? specifier.text;
      const other = releaseOf(found);
      // Before 0.73 only some of them had the framework's number.
      if (!Number.isNaN(other) && other !== release && (release >= 73 || (name.endsWith("/metro-config") && other >= 72)))
        app.agreement({
          title: `${name} is of React Native 0.${other}`,
          members: [
            { name: PACKAGE, version: version ?? "", at: own.specifier.place },
            { name, version: found, at: specifier.place },
          ],
          wanted: `0.${release}`,
        });
    }
}

/**
 * Pods of the framework that a lock has of another release than the package that they come with. Source: guides.cocoapods.org, "Podfile.lock"; pods by
 * path have the version of their package.
 */
export function noteLockedPods(project: ProjectFiles, { path }: DetectedApp, app: FactSink): void {
  const pods = app.ios?.pods;
  noteLockedPackages(app);
  const installed = findInstalled(project, path, PACKAGE)?.version ?? app.dependencies.find(({ name }) => name === PACKAGE)?.locked;
  const locked = pods?.locked?.get("React-Core");
  if (!pods || !locked || installed === undefined || !/^\d+\.\d+\.\d+/.test(locked.version) || locked.version === installed) return;
  noteApart(app, [{ name: PACKAGE, declared: installed, recorded: locked.version, places: [locked.at] }]);
}

/** Pods that come with packages, which the two locks have in different versions: one of them was not written again. */
function noteLockedPackages(app: FactSink): void {
  const apart = app.dependencies.flatMap(({ ecosystem, name, broughtBy, locked, lockedAt, platform }) => {
    if (ecosystem !== "cocoapods" || platform || broughtBy?.ecosystem !== "npm" || broughtBy.name === PACKAGE || !lockedAt) return [];
    const owner = app.dependencies.find(
      (other) => other.ecosystem === "npm" && other.name === broughtBy.name && other.locked !== undefined,
    );
    // Several pods of one package may have versions of their own; what is installed says it for certain.
    const alone = app.dependencies.every(
      (other) => other.ecosystem !== "cocoapods" || other.broughtBy?.name !== broughtBy.name || other.name === name,
    );
    const plain = /^\d+\.\d+\.\d+$/;
    if (!owner?.nativeUnknown || !alone || !plain.test(owner.locked ?? "") || !plain.test(locked ?? "") || owner.locked === locked)
      return [];
    return [{ name: broughtBy.name, declared: owner.locked, recorded: locked, places: [lockedAt] }];
  });
  if (apart.length > 0) noteApart(app, apart);
}

/** What the lock of the pods records in another version than the packages have. */
function noteApart(app: FactSink, apart: LockFact["declaredApart"]): void {
  app.revise("locks", (locks) =>
    locks.map((lock) =>
      lock.manager === "cocoapods" && lock.lock !== undefined ? { ...lock, declaredApart: [...lock.declaredApart, ...apart] } : lock,
    ),
  );
}
