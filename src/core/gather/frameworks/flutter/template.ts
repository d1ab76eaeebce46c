import { foldersBelow } from "../../../files/walk.js";
import type { TemplateLine } from "../../../model/app.js";
import { isWithin, join } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { textOf } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import { textAt } from "../../../syntax/data.js";
import type { Source } from "../../../syntax/source.js";
import { dartFolder } from "./packages.js";
import { asksForAtLeast } from "./release.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";

/** Names of the Gradle plugins and scripts that link plugins and build the Dart code, of today and of earlier editions. */
const LOADER = /dev\.flutter\.flutter-plugin-loader|app_plugin_loader\.gradle|\.flutter-plugins/;
const GRADLE_PLUGIN = /dev\.flutter\.flutter-gradle-plugin|flutter_tools\/gradle\/flutter\.gradle/;
/** Other scripts, builds and catalogs can apply anything. */
const FURTHER = /\bapply\s*(?:\(\s*)?from\s*[:=]|\bincludeBuild\b|\bapply\s*<|\balias\s*\(|convention/;

/**
 * The lines of the framework's template without which plugins are not in the app, or nothing is built.
 * Sources: docs.flutter.dev, "Deprecated imperative apply of Flutter's Gradle plugins", "Upgrading pre 1.12 Android projects", "Adding Flutter
 * to an existing app"; the templates of the Flutter SDK, read 2026-11.
 */
export function noteTemplate(discovery: Discovery, detected: DetectedApp, app: FactSink, isHost: boolean, hasPlugins: boolean): void {
  const { project } = discovery;
  const lacks = (line: TemplateLine, side: "android" | "ios", at: Place): void => app.templateLine({ line, side, at });
  if (detected.android && app.android && !isHost) {
    androidBuild(project, app, lacks);
    androidCode(discovery, app, lacks);
  }
  if (detected.ios && app.ios) iosLines(discovery, app, isHost, hasPlugins, lacks);
  if (app.android && app.ios && !isHost) bothSides(project, join(dartFolder(detected), "pubspec.yaml"), app, lacks);
  if (app.android && !isHost) versionOfBoth(project, app, join(dartFolder(detected), "pubspec.yaml"), lacks);
}

function bothSides(project: ProjectFiles, pubspec: string, app: FactSink, lacks: Lacks): void {
  numbersOfBoth(project, pubspec, app, lacks);
  const [left, right] = [entryOf(app, "android", "flutter_deeplinking_enabled"), entryOf(app, "ios", "FlutterDeepLinkingEnabled")];
  const [android, ios] = [textOf(left?.value), textOf(right?.value)];
  if (left && right && android !== undefined && ios !== undefined && android !== ios)
    lacks("links on one side", android === "true" ? "ios" : "android", (android === "true" ? right : left).at);
  // From then on links are taken where nothing is said.
  const [said, other] = left ? [left, right] : [right, left];
  if (said && !other && asksForAtLeast(project, pubspec, LINKS_ON) && textOf(said.value) === "false")
    lacks("links on one side", left ? "android" : "ios", said.at);
}

/** A number of the build that one side takes from pubspec.yaml, and the other has written out. Source: docs.flutter.dev, "Build and release" an app (version). */
function numbersOfBoth(project: ProjectFiles, pubspec: string, app: FactSink, lacks: Lacks): void {
  const number = entryOf(app, "ios", "CFBundleVersion");
  if (number?.value?.kind === "known" && /^[\d.]+$/.test(number.value.text) && takesVersion(app))
    lacks("version of the bundle", "ios", number.value.place);
  const written = versionCode(app);
  const isStated = textAt(project.yaml(pubspec)?.root, "version") !== undefined;
  if (written?.kind === "known" && /^\d+$/.test(written.text) && number?.value?.kind === "unknown" && isStated)
    lacks("number of the build", "android", written.place);
}

/** The release of Flutter from which on links are taken by default. Sources: docs.flutter.dev, "Set up app links", "Deep links flag change". */
const LINKS_ON = { flutter: "3.27.0", dart: "3.6.0" };

const entryOf = (app: FactSink, side: "android" | "ios", name: string) =>
  app.entries.find((one) => one.side === side && one.name === name && one.by === undefined);

/** The number of the build that the Android app states for all variants. */
const versionCode = ({ android }: FactSink) =>
  android?.module.settings.find(({ name, block }) => name === "versionCode" && block === "defaultConfig")?.values[0];

/** Whether the Android app takes its number from what the framework hands on. */
const takesVersion = (app: FactSink): boolean => versionCode(app)?.kind === "unknown";

/**
 * The version that both sides take; the example of a plugin has none in its template. Sources: dart.dev, "The pubspec file" (version); docs.flutter.dev, "Build and
 * release an Android app" (the version comes from there).
 */
function versionOfBoth(project: ProjectFiles, app: FactSink, file: string, lacks: Lacks): void {
  const root = project.yaml(file)?.root;
  if (root && textAt(root, "version") === undefined && takesVersion(app) && !/(^|\/)example\/pubspec\.yaml$/.test(file))
    lacks("version of the app", "android", startOf(file));
}

type Lacks = (line: TemplateLine, side: "android" | "ios", at: Place) => void;

function androidBuild(project: ProjectFiles, app: FactSink, lacks: Lacks): void {
  const settings = app.android?.build.settingsFile;
  const build = app.android?.module.buildFile;
  const plain = (file: string | undefined): { source: Source; text: string } | undefined => {
    const source = file === undefined ? undefined : project.text(file);
    return source && { source, text: withoutComments(source.text) };
  };
  const above = plain(settings);
  const others = above && withoutFramework(above.text).replace(/includeBuild[^\n]{0,300}flutter[^\n]*/gi, "");
  if (settings !== undefined && above && others !== undefined) settingsLines(settings, above.text, others, lacks);
  const own = plain(build);
  if (build === undefined || !own) return;
  const rest = withoutFramework(own.text);
  const flutterAt = own.text.search(GRADLE_PLUGIN);
  if (flutterAt === -1) {
    if (!FURTHER.test(rest) && !FURTHER.test(others ?? "")) lacks("build plugin", "android", startOf(build));
    return;
  }
  if (!/\bflutter\s*\{|\bflutter\.source\b/.test(own.text) && !FURTHER.test(rest)) lacks("source of the app", "android", startOf(build));
  movedFolder(
    app,
    lacks,
    [settings, build].map((file) => plain(file)?.text ?? ""),
    plain(app.android?.build.root.buildFile)?.text,
  );
  const androidAt = own.text.search(/com\.android\.application/);
  if (androidAt > flutterAt) lacks("order of build plugins", "android", own.source.place(flutterAt));
}

/** The framework's own script is no other. */
const withoutFramework = (text: string): string => text.replace(/apply[^\n]{0,300}flutter[^\n]*/gi, "");

function settingsLines(file: string, text: string, others: string, lacks: Lacks): void {
  if (!LOADER.test(text) && !FURTHER.test(others)) lacks("plugin loader", "android", startOf(file));
  // By its id the plugin comes from the framework's build alone.
  if (/dev\.flutter\.flutter-plugin-loader/.test(text) && !/\bincludeBuild\b|\bapply\s*(?:\(|from\b)/.test(text))
    lacks("build of the framework", "android", startOf(file));
}

/** The root's own folder, and that of each module: `rootProject.buildDir = '../build'`, `project.layout.buildDirectory.value(…)`. */
const MOVES =
  /(\bproject\.)?\b(?:rootProject\.)?(?:layout\.)?buildDir(?:ectory)?\s*(?:=[^=]|\.(?:set|value|fileValue)\s*\()|\bset[bB]uildDir\s*\(/g;

/** Source: the template of the Flutter SDK (android/build.gradle); the tool looks for what Gradle made below the app's own folder build/. */
function movedFolder(app: FactSink, lacks: Lacks, around: readonly string[], script: string | undefined): void {
  const root = app.android?.build.root.buildFile;
  const all = [script ?? "", ...around];
  if (root === undefined || script === undefined || all.some((text) => FURTHER_SCRIPT.test(text))) return;
  const moved = [...script.matchAll(MOVES)];
  const isElsewhere = around.some((text) => /\bbuildDir(?:ectory)?\b/.test(text));
  // One statement for all of them is enough.
  const isForAll = /\ballprojects\s*\{[^}]*\b(?:buildDir|setBuildDir|buildDirectory)\b/.test(script);
  if (!isElsewhere && !isForAll && moved.length < 2) lacks("folder of the build", "android", startOf(root));
}

const FURTHER_SCRIPT = /\bapply\s*(?:\(\s*)?from\s*[:=](?![^\n]*flutter)|convention/;

function androidCode(discovery: Discovery, app: FactSink, lacks: Lacks): void {
  const { project, index } = discovery;
  const [manifest] = app.manifests;
  const folder = app.android?.module.folder;
  if (folder === undefined) return;
  let ofToday = false;
  const launchers = new Set(
    app.elements.length > 0
      ? app.entries
          .filter(({ kind, side, by }) => kind === "component" && side === "android" && by === undefined)
          .map(({ name }) => name.split(".").at(-1))
      : [],
  );
  for (const { source, text } of sourcesIn(project, index, folder, /\.(kt|java)$/)) {
    if (/\bio\.flutter\.embedding\b/.test(text)) ofToday = true;
    const plain = /\bclass\s+(\w+)\s*(?::\s*|extends\s+)(?:android\.app\.)?(?:App[cC]ompat|Component|Fragment)?Activity\b/.exec(text);
    if (
      plain &&
      launchers.has(plain[1]) &&
      /\bFlutterEngine\b/.test(text) &&
      !/\bFlutterEngine\s*\(|FlutterFragment\b|FlutterEngineCache/.test(text)
    )
      lacks("framework's activity", "android", source.place(plain.index));
    const override = /\bconfigureFlutterEngine\s*\(/.exec(text);
    if (
      override &&
      /\boverride\s+fun\s+configureFlutterEngine|\bvoid\s+configureFlutterEngine/.test(text) &&
      /:\s*Flutter(?:Fragment)?Activity\b|extends\s+Flutter(?:Fragment)?Activity\b/.test(text) &&
      !/super\.configureFlutterEngine|GeneratedPluginRegistrant/.test(text)
    )
      lacks("call of super", "android", source.place(override.index));
  }
  const embedding = app.entries.filter(({ kind, name, side }) => kind === "metaData" && side === "android" && name === "flutterEmbedding");
  if (manifest === undefined || !ofToday) return;
  const [first] = embedding;
  if (!first) lacks("embedding", "android", startOf(manifest));
  else if (embedding.every(({ value }) => textOf(value) === "1")) lacks("embedding", "android", first.value?.place ?? first.at);
}

function iosLines({ project, index }: Discovery, app: FactSink, isHost: boolean, hasPlugins: boolean, lacks: Lacks): void {
  const { ios } = app;
  if (!ios) return;
  const sources = [...sourcesIn(project, index, ios.folder, /\.(swift|mm?)$/)];
  const delegate = sources.find(({ text }) =>
    /\bFlutterAppDelegate\b|@(?:main|UIApplicationMain)\b|\bdidFinishLaunchingWithOptions\b/.test(text),
  );
  if (hasPlugins && delegate && !sources.some(({ text }) => /GeneratedPluginRegistrant[\s.]*(?:register|registerWithRegistry)/.test(text)))
    lacks("registration", "ios", startOf(delegate.source.file));
  if (
    !isHost &&
    delegate &&
    /\bclass\s+\w*AppDelegate\s*:\s*UIResponder\b|@interface\s+\w*AppDelegate\s*:\s*UIResponder\b/.test(delegate.text) &&
    !sources.some(({ text }) => /FlutterPluginAppLifeCycleDelegate|FlutterAppLifeCycleProvider|FlutterEngine\s*\(/.test(text))
  )
    lacks("framework's delegate", "ios", startOf(delegate.source.file));
  implicitEngine(sources, lacks);
  launchOfBase(sources, lacks);
  if (!ios.pods || isHost) return;
  const podfile = project.text(ios.pods.file);
  const script = podfile && withoutComments(podfile.text, "hash");
  if (
    hasPlugins &&
    script !== undefined &&
    !/\bflutter_install_all_ios_pods\b|\binstall_all_flutter_pods\b|\bflutter_install_ios_plugin_pods\b|\.flutter-plugins/.test(script)
  )
    lacks("pods of plugins", "ios", startOf(ios.pods.file));
  podfileLines(podfile, script, hasPlugins, lacks);
  // The framework's tool writes the line of the pods into these files; where one has it and another has not, a merge took it out.
  const files = ["Debug", "Release", "Profile"].flatMap((name) => {
    const file = join(ios.folder, `Flutter/${name}.xcconfig`);
    const text = project.tree.isFile(file) ? project.text(file)?.text : undefined;
    if (text === undefined) return [];
    const lines = withoutComments(text)
      .split(/\r?\n/)
      .filter((line) => /^\s*#include/.test(line));
    return takesOther(project, ios.folder, lines)
      ? []
      : [{ file, pods: lines.some((line) => /Pods\//.test(line)), generated: lines.some((line) => /Generated\.xcconfig/.test(line)) }];
  });
  for (const { file, pods, generated } of files) {
    if (!pods && files.some((other) => other.pods)) lacks("pods file", "ios", startOf(file));
    if (!generated) lacks("generated file", "ios", startOf(file));
  }
  settingsOfFlavors(project, ios, new Set(files.map(({ file }) => file)), lacks);
}

/** Source: the Podfile of the Flutter SDK's template. */
function podfileLines(podfile: Source | undefined, script: string | undefined, hasPlugins: boolean, lacks: Lacks): void {
  if (!podfile || script === undefined || !/\bflutter_install_all_ios_pods\b/.test(script)) return;
  if (hasPlugins && !/\bflutter_additional_ios_build_settings\b/.test(script)) lacks("settings of the pods", "ios", startOf(podfile.file));
  const used = /\bflutter_root\b/.exec(script);
  if (used && !/\bdef\s+flutter_root\b|\bflutter_root\s*=/.test(script)) lacks("root of the framework", "ios", podfile.place(used.index));
}

/** Source: api.flutter.dev, FlutterAppDelegate (overrides call super, which hands the event on to plugins). */
function launchOfBase(sources: readonly { source: Source; text: string }[], lacks: Lacks): void {
  for (const { source, text } of sources) {
    const own = /\boverride\s+func\s+application\s*\([^{]{0,200}?\bdidFinishLaunchingWithOptions\b/.exec(text);
    const isBased = /\bclass\s+\w+\s*:\s*FlutterAppDelegate\b/.test(text);
    if (own && isBased && !/\bsuper\s*\.\s*application\s*\([^)]{0,120}\bdidFinishLaunchingWithOptions\b/.test(text))
      lacks("launch of plugins", "ios", source.place(own.index));
  }
}

/** Source: docs.flutter.dev, "UISceneDelegate adoption" (FlutterImplicitEngineDelegate). */
function implicitEngine(sources: readonly { source: Source; text: string }[], lacks: Lacks): void {
  const unasked = sources.find(({ text }) => /\bdidInitializeImplicitFlutterEngine\b/.test(text));
  if (unasked && !sources.some(({ text }) => /\bFlutterImplicitEngineDelegate\b/.test(text)))
    lacks("implicit engine", "ios", unasked.source.place(unasked.text.search(/\bdidInitializeImplicitFlutterEngine\b/)));
}

/** The files of settings that configurations are based on, whatever they are named, but for some. */
function settingsOfFlavors(project: ProjectFiles, ios: NonNullable<FactSink["ios"]>, told: Set<string>, lacks: Lacks): void {
  const bases = ios.target.configurations.flatMap(({ settings: { file } }) => (file && project.tree.isFile(file.file) ? [file] : []));
  const takesPods = ({ file, includes }: (typeof bases)[number]): boolean =>
    [file, ...includes].some((path) => /(^|\/)[Pp]ods-[^/]*\.xcconfig$/.test(path));
  for (const base of bases) {
    if (told.has(base.file)) continue;
    told.add(base.file);
    if (!takesPods(base) && bases.some(takesPods)) lacks("pods file", "ios", startOf(base.file));
    if (!base.includes.some((path) => /(^|\/)Generated\.xcconfig$/.test(path)) && !/[Pp]ods-[^/]*\.xcconfig$/.test(base.file))
      lacks("generated file", "ios", startOf(base.file));
  }
}

/** Whether a settings file takes in another one of the team's, which may take in the rest. */
function takesOther(project: ProjectFiles, folder: string, lines: readonly string[]): boolean {
  return lines.some((line) => {
    const named = /"([^"]+)"/.exec(line)?.[1];
    return named !== undefined && !/Pods|Generated/.test(named) && project.tree.isFile(join(folder, "Flutter", named));
  });
}

function* sourcesIn(
  project: ProjectFiles,
  index: Discovery["index"],
  folder: string,
  ending: RegExp,
): Generator<{ source: Source; text: string }> {
  for (const [path, { files }] of foldersBelow(index, folder)) {
    if (!isWithin(path, folder) || /(^|\/)(Pods|build|Flutter\/ephemeral|\.symlinks|\w*Tests?)(\/|$)/.test(path.slice(folder.length)))
      continue;
    for (const name of files) {
      if (!ending.test(name) || /^GeneratedPluginRegistrant/.test(name)) continue;
      const source = project.text(join(path, name));
      if (source && source.text.length < 500_000) yield { source, text: withoutComments(source.text) };
    }
  }
}
