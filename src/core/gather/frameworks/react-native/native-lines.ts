import type { TemplateLine } from "../../../model/app.js";
import { isInstalled, isWithin, join } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import { textOf } from "../../../model/value.js";
import { closing } from "../../../syntax/code/callee.js";
import { withoutComments } from "../../../syntax/comments.js";
import type { Source } from "../../../syntax/source.js";
import { ancestors, findInstalled, readManifest, type NpmManifest } from "../../packages/packages.js";
import { findMember } from "../../packages/workspace-packages.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { iosSources, nativeSources, type NativeSource } from "../native-sources.js";

/** A script of the build, with its text without the comments. */
interface BuildScript {
  file: string;
  source: Source;
  text: string;
}

function scriptOf(project: ProjectFiles, file: string | undefined): BuildScript | undefined {
  const source = file === undefined || !project.tree.isFile(file) ? undefined : project.text(file);
  return file === undefined || source === undefined ? undefined : { file, source, text: withoutComments(source.text) };
}

/** The text of the first block of a name, and the text around it. */
function blockOf(text: string, name: RegExp): { inside: string; around: string } {
  const match = name.exec(text);
  if (!match) return { inside: "", around: text };
  const open = match.index + match[0].length - 1;
  const end = closing(text, open);
  return { inside: text.slice(open, end), around: text.slice(0, match.index) + text.slice(end) };
}

/** Other scripts and builds may do anything. */
const FURTHER = /\bapply\s*\(?\s*from\b(?![^\n]*native_modules)|\bbuild-logic\b|\bbuildSrc\b/;

/**
 * Lines of the Gradle scripts that find the framework's build plugins and put the framework into the app. Source: the templates of React Native 0.72 to
 * 0.79 (@react-native-community/template) and of Expo (expo-template-bare-minimum).
 */
export function noteBuildLines(project: ProjectFiles, app: FactSink, release: number): void {
  const { android } = app;
  if (!android || android.generated || !(release >= 72)) return;
  const { build, module } = android;
  const [settings, root, script] = [build.settingsFile, build.root.buildFile, module.buildFile].map((file) => scriptOf(project, file));
  if (!settings || !root || !script || [settings, root, script].some(({ text }) => FURTHER.test(text))) return;
  const lacks = (line: TemplateLine, at: Place): void => app.templateLine({ line, side: "android", at });
  noteBuildOfFramework(settings, root, lacks);
  const applied = /\bapply\s*\(?\s*plugin\s*[:=]\s*["']com\.facebook\.react["']/.exec(script.text);
  if (
    applied &&
    /\bclasspath\b/.test(root.text) &&
    !/\bcom\.facebook\.react\b/.test(root.text.replace(/com\.facebook\.react\.rootproject/g, ""))
  )
    lacks("class path of the framework", script.source.place(applied.index));
  noteFramework(app, script, lacks);
}

/**
 * Lines of scripts before the framework's build plugin: its own script, its library, and the folder of the package in which the library lies; without that
 * folder an edition of years ago is taken from Maven Central. Source: the templates of React Native 0.60 to 0.70; reactnative.dev, "Fixing Android builds
 * failures with React Native since Nov 4th 2022".
 */
export function noteOlderLines(project: ProjectFiles, app: FactSink, release: number): void {
  const { android } = app;
  if (!android || android.generated || !(release < 71) || android.build.conventions.length > 0) return;
  const { build, module } = android;
  const scripts = [build.settingsFile, build.root.buildFile, ...[...build.modules.values()].map(({ buildFile }) => buildFile)];
  // An app may take the framework in by a module beside it.
  const all = [...new Set([module.buildFile, ...scripts])]
    .flatMap((file) => (isInstalled(file ?? "") ? [] : (scriptOf(project, file)?.text ?? [])))
    .join("\n");
  if (module.buildFile === undefined || FURTHER.test(all.replace(/^[^\n]*\breact\.gradle\b[^\n]*/gm, ""))) return;
  const lacks = (line: TemplateLine, file: string | undefined): void => {
    if (file !== undefined) app.templateLine({ line, side: "android", at: startOf(file) });
  };
  if (!/\breact\.gradle\b|(?:\bplugin\s*[:=]\s*|\bid\s*\(?\s*)["']com\.facebook\.react["']/.test(all))
    lacks("framework's script", module.buildFile);
  const library =
    /\b(?:implementation|api|compile)\s*\(?\s*(?:["']com\.facebook\.react:react-native(:\+)?|project\s*\(\s*["']:ReactAndroid)/.exec(all);
  if (!library) lacks("framework's library", module.buildFile);
  else if (library[1] !== undefined && !/\breact-native\/android["')]/.test(all)) lacks("folder of the library", build.root.buildFile);
}

/** How the settings and the root script find the build that has the framework's plugins, and apply them. */
function noteBuildOfFramework(settings: BuildScript, root: BuildScript, lacks: (line: TemplateLine, at: Place) => void): void {
  const { inside, around } = blockOf(settings.text, /\bpluginManagement\s*\{/);
  const asked = /["'](?:com\.facebook\.react\.settings|expo-autolinking-settings)["']/.exec(settings.text);
  if (asked && !/\bincludeBuild\b/.test(inside)) lacks("build of the framework", settings.source.place(asked.index + 1));
  const usesSettings = /\bautolinkLibraries\w*|\bReactSettingsExtension\b/.exec(settings.text);
  if (usesSettings && !/\bcom\.facebook\.react\.settings\b/.test(settings.text))
    lacks("settings plugin", settings.source.place(usesSettings.index));
  const classpath = /["']com\.facebook\.react:react-native-gradle-plugin["']/.exec(root.text);
  if (classpath && !/\bincludeBuild\b/.test(around) && !/react-native-gradle-plugin/.test(settings.text.replace(inside, "")))
    lacks("build of the framework", root.source.place(classpath.index + 1));
}

/** What the app's script takes of the framework: its library, and an engine for scripts. */
function noteFramework(app: FactSink, script: BuildScript, lacks: (line: TemplateLine, at: Place) => void): void {
  if (!/\bcom\.facebook\.react\b/.test(script.text) || !/^\s*dependencies\s*\{/m.test(script.text)) return;
  if (!/["']com\.facebook\.react:react-(?:android|native)["':]|:ReactAndroid\b|:react-native:/.test(script.text))
    return lacks("framework in app", startOf(script.file));
  const { inside } = blockOf(script.text, /^dependencies\s*\{/m);
  const switched = app.entries.find(({ kind, name }) => kind === "gradleProperty" && name === "hermesEnabled");
  // The switch names an engine too, and is none.
  const engines = inside.replace(/\bhermesEnabled\b|\benableHermes\b/g, "");
  if (!/\bhermes|\bjsc/i.test(engines) || (textOf(switched?.value)?.trim() === "true" && !/\bhermes/i.test(engines)))
    lacks("engine of scripts", startOf(script.file));
  const asked = /\bhermesEnabled\s*\.\s*toBoolean\s*\(/.exec(inside);
  if (asked && !switched && !/\bhermesEnabled\s*=/.test(script.text))
    lacks("switch of the engine", script.source.place(script.text.indexOf(asked[0])));
}

/**
 * What classes of the framework are to be told: the component that is shown, the bundle, the native libraries of the new architecture. Source: the
 * templates of React Native 0.71 to 0.79 (MainApplication, MainActivity, AppDelegate).
 */
export function noteCodeLines(discovery: Discovery, app: FactSink, path: string, release: number): void {
  if (!(release >= 71)) return;
  if (app.android && !app.android.generated) {
    const code = nativeSources(discovery, app.android.module.folder, /\.(kt|java)$/, /React(Activity|Application)\b/);
    noteArchitecture(app, code, release);
    noteActivity(app, code);
  }
  if (app.ios && !app.ios.generated)
    noteBundles(
      discovery.project,
      app,
      path,
      release,
      iosSources(discovery, app.ios, /\.(swift|mm?|h)$/, /AppDelegate|RCTBundleURLProvider|jsbundle/),
    );
}

/** Source: reactnative.dev, the template's MainApplication from 0.71 to 0.81 (DefaultNewArchitectureEntryPoint.load). */
function noteArchitecture(app: FactSink, code: readonly NativeSource[], release: number): void {
  const on = app.entries.find(({ kind, name }) => kind === "gradleProperty" && name === "newArchEnabled");
  if (!on || textOf(on.value)?.trim() !== "true" || release > 81) return;
  const application = code.find(({ text }) => /\bReactApplication\b/.test(text) && /\bDefaultReactNativeHost\b/.test(text));
  if (!application || code.some(({ text }) => /\bload\s*\(|\bloadReactNative\b/.test(withoutImports(text)))) return;
  app.templateLine({ line: "new architecture", side: "android", at: startOf(application.source.file) });
}

function noteActivity(app: FactSink, code: readonly NativeSource[]): void {
  for (const { source, text } of code) {
    const type = /\bclass\s+\w+\s*(?::\s*ReactActivity\s*\(\s*\)|extends\s+ReactActivity\b)/.exec(text);
    if (!type || /\bgetMainComponentName\b|ReactActivityDelegate\w*\s*\([^)]*["']/.test(text)) continue;
    app.templateLine({ line: "component of the activity", side: "android", at: source.place(type.index) });
  }
}

const withoutImports = (text: string): string => text.replace(/^[ \t]*import\s[^\n]*/gm, "");

/** The development server's script, the bundle of the release, and the component, as the app delegate names them. */
function noteBundles(project: ProjectFiles, app: FactSink, path: string, release: number, code: readonly NativeSource[]): void {
  const delegate = code.find(({ text }) => /\bAppDelegate\s*:\s*RCTAppDelegate\b/.test(text));
  if (delegate && !code.some(({ text }) => /\b(?:setM|m)oduleName\b|\bwithModuleName\b|\brootView\b/.test(text)))
    app.templateLine({ line: "component of the delegate", side: "ios", at: startOf(delegate.source.file) });
  noteProvider(app, code, release);
  noteStart(app, code);
  const scripts = app.ios?.target.scripts.join("\n") ?? "";
  for (const { source, text } of code) {
    const entry = /\bjsBundleURL(?:\s*\(\s*forBundleRoot\s*:\s*|ForBundleRoot\s*:\s*@?)"([^"\n.]+)"/.exec(text);
    if (entry)
      noteEntry(project, app, path, entry[1] as string, source.place(entry.index + entry[0].lastIndexOf('"', entry[0].length - 2) + 1));
    const bundle = /\b(?:forResource|URLForResource)\s*:\s*@?"([^"\n]+)"\s*,?\s*withExtension\s*:\s*@?"jsbundle"/.exec(text);
    // The framework's script writes main.jsbundle, unless it is told otherwise.
    if (bundle && bundle[1] !== "main" && !scripts.includes(bundle[1] as string) && !/BUNDLE_NAME/.test(scripts))
      app.templateLine({ line: "bundle of the release", side: "ios", at: source.place(bundle.index) });
  }
}

/** Source: the template's AppDelegate since 0.79 (RCTReactNativeFactory.startReactNative); an app may take the view and show it itself. */
function noteStart(app: FactSink, code: readonly NativeSource[]): void {
  const made = code.find(({ text }) => /\b(?:RCT|Expo)ReactNativeFactory\s*\(|\bRCTReactNativeFactory\s+alloc\b/.test(text));
  const shows =
    /\bstartReactNative|\brootViewFactory\b|\bviewWithModuleName\b|\brecreateRootView\b|\b\w*SceneDelegate\b|\bExpoReactNativeFactoryProvider\b/;
  if (made && !code.some(({ text }) => shows.test(text)))
    app.templateLine({ line: "framework's view", side: "ios", at: startOf(made.source.file) });
}

/** Source: the template's AppDelegate since 0.77 (RCTAppDependencyProvider). */
function noteProvider(app: FactSink, code: readonly NativeSource[], release: number): void {
  const starts = code.find(({ text }) =>
    /\b(?:RCT|Expo)ReactNativeFactory\s*[(.]|\bRCTReactNativeFactory\s+alloc\b|:\s*RCTAppDelegate\b/.test(text),
  );
  if (!(release >= 77) || !starts || code.some(({ text }) => /\b(?:d|setD)ependencyProvider\b/.test(text))) return;
  app.templateLine({ line: "provider of generated code", side: "ios", at: startOf(starts.source.file) });
}

/**
 * A member of a workspace whose bundler does not look at the folders above, where packages of the workspace are. Source: metrobundler.dev, "watchFolders";
 * reactnative.dev, "Metro" (the framework's configuration watches the app's own folder).
 */
export function noteWatchedFolders(project: ProjectFiles, app: FactSink, path: string, { declarations }: NpmManifest): void {
  const outside = declarations.some(({ name }) => {
    const member = findMember(project, path, name);
    return member !== undefined && !isWithin(member.folder, path);
  });
  const file = ["metro.config.js", "metro.config.cjs", "metro.config.ts"]
    .map((name) => join(path, name))
    .find((name) => project.tree.isFile(name));
  const source = file === undefined ? undefined : project.text(file);
  if (app.kind !== "react-native" || !outside || !source) return;
  const text = withoutComments(source.text);
  // Others than the framework's own may look at the workspace by themselves.
  const taken = [...text.matchAll(/\b(?:require\s*\(|from)\s*["']([^"']+)["']/g)].map(([, name = ""]) => name);
  if (/\bwatchFolders\b/.test(text) || taken.some((name) => !/^(@react-native\/metro-config|metro-config|(node:)?path)$/.test(name)))
    return;
  app.templateLine({ line: "folders of the workspace", side: app.ios ? "ios" : "android", at: startOf(source.file) });
}

/**
 * The command line that links packages and runs the app, which the framework does not bring by itself any more. Source: reactnative.dev, "React Native 0.76"
 * (@react-native-community/cli becomes a dependency of the app).
 */
export function noteCommandLine(project: ProjectFiles, app: FactSink, { file, folder, scripts }: NpmManifest, release: number): void {
  const around = ancestors(project, folder).flatMap((path) => readManifest(project, path) ?? []);
  const has = (form: RegExp): boolean => around.some(({ declarations }) => declarations.some(({ name }) => form.test(name)));
  const runs = scripts.some(({ command }) => /^react-native\s+(run-|start|bundle)/.test(command));
  if (app.kind !== "react-native" || !(release >= 76) || !runs || has(/^expo$|\bcli\b/)) return;
  if (findInstalled(project, folder, "@react-native-community/cli")) return;
  app.templateLine({ line: "command line", side: app.android ? "android" : "ios", at: startOf(file) });
}

/** The script that the development server is asked for, where no file of that name is there. Source: the template's AppDelegate and MainApplication. */
export function noteEntry(project: ProjectFiles, app: FactSink, path: string, name: string, at: Place): void {
  const endings = ["js", "jsx", "ts", "tsx", "mjs", "android.js", "ios.js", "native.js", "android.tsx", "ios.tsx", "android.ts", "ios.ts"];
  if (endings.some((ending) => project.tree.isFile(join(path, `${name}.${ending}`))) || project.tree.isFile(join(path, name))) return;
  app.pathFollowed({
    text: `${name}.js`,
    resolved: join(path, `${name}.js`),
    kind: "source file",
    exists: false,
    side: "shared",
    generated: false,
    at,
  });
}
