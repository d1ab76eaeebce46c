import { distance } from "fastest-levenshtein";
import { EXPORTED_SINCE } from "../../../knowledge/foreground-services.js";
import { TEMPLATE_MARKS } from "../../../knowledge/unity.js";
import type { TemplateLine } from "../../../model/app.js";
import { join } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { misspelling } from "../../../model/suggest.js";
import { known, textOf, type Value } from "../../../model/value.js";
import type { GradleModule } from "../../../model/gradle.js";
import type { LevelName } from "../../../model/facts.js";
import { closing } from "../../../syntax/code/callee.js";
import { withoutComments } from "../../../syntax/comments.js";
import { children, type XmlElement } from "../../../syntax/xml.js";
import { declaredIn } from "../../platforms/android/components.js";
import { readModule } from "../../platforms/android/gradle/build.js";
import { readLibraryManifest } from "../../platforms/android/manifest.js";
import { readRulesFile } from "../../platforms/android/shrink.js";
import { androidDependencies } from "../../platforms/android/side.js";
import type { FactSink } from "../../sink.js";
import type { ProjectFiles } from "../../project-files.js";
import type { Discovery } from "../framework.js";
import { foldersIn, type UnityProject } from "./project.js";
import { levelOf, minifies, switchedOff } from "./settings.js";

const FOLDER = "Assets/Plugins/Android";

/** Source: docs.unity3d.com, "Modify Gradle project files with Gradle template files". */
const TEMPLATES = ["mainTemplate.gradle", "launcherTemplate.gradle", "baseProjectTemplate.gradle", "settingsTemplate.gradle"];

/** The settings of the player by which each is used. Source: `ProjectSettings.asset` of Unity 2022.3 and 6000.0, read 2026-11-30. */
const SWITCHES: Readonly<Record<string, string>> = {
  "mainTemplate.gradle": "useCustomMainGradleTemplate",
  "launcherTemplate.gradle": "useCustomLauncherGradleManifest",
  "baseProjectTemplate.gradle": "useCustomBaseGradleTemplate",
  "settingsTemplate.gradle": "useCustomGradleSettingsTemplate",
};

const LEVELS: readonly (readonly [names: RegExp, level: LevelName, setting: string | undefined])[] = [
  [/^minSdk(Version)?$/, "minSdk", "AndroidMinSdkVersion"],
  [/^targetSdk(Version)?$/, "targetSdk", "AndroidTargetSdkVersion"],
  [/^compileSdk(Version)?$/, "compileSdk", undefined],
];

/** Build templates that the project changes; marks such as `**DEPS**` stand for what the editor puts in. */
export function readTemplates(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  const { project } = discovery;
  const { android } = app;
  if (!android) return;
  const folder = join(unity.folder, FOLDER);
  const templates: GradleModule[] = [];
  for (const name of TEMPLATES) {
    const file = join(folder, name);
    if (!project.tree.isFile(file)) continue;
    const module = readModule(project, android.build.folder, `:${name}`, folder, file);
    if (switchedOff(unity, SWITCHES[name] ?? "")) {
      // What it says is not in the build; one that says nothing of its own is not missed.
      if (module.dependencies.some(({ kind }) => kind === "module") || module.plugins.length > 0)
        app.templateLine({ line: "template in use", side: "android", at: startOf(file) });
      continue;
    }
    module.path = name;
    templates.push(module);
    android.modules.push(module);
    app.repository(...module.repositories);
  }
  const before = android.modules;
  android.modules = templates;
  androidDependencies(app, android);
  android.modules = before;
  readLevels(unity, app, templates);
  noteOwnLines(project, app, unity, templates);
  const main = join(folder, "mainTemplate.gradle");
  const text = project.tree.isFile(main) ? project.text(main) : undefined;
  if (text && !text.text.includes("**DEPS**")) app.templateLine({ line: "dependencies mark", side: "android", at: startOf(main) });
  const settings = join(folder, "settingsTemplate.gradle");
  const lines = project.tree.isFile(settings) ? withoutComments(project.text(settings)?.text ?? "") : undefined;
  if (lines === undefined || switchedOff(unity, "useCustomGradleSettingsTemplate")) return;
  if (!/\binclude\b[^\n]*["']:unityLibrary["']/.test(lines))
    app.templateLine({ line: "engine's modules", side: "android", at: startOf(settings) });
  notePluginRepositories(app, settings, lines);
  const libraries = unity.roots.some((root) => [...foldersIn(discovery, root)].some(([name]) => name.endsWith(".androidlib")));
  if (libraries && !lines.includes("**INCLUDES**")) app.templateLine({ line: "library folders", side: "android", at: startOf(settings) });
}

/** What the templates cannot do without, and marks in them that are none. */
function noteOwnLines(project: ProjectFiles, app: FactSink, unity: UnityProject, templates: readonly GradleModule[]): void {
  for (const { buildFile } of templates) if (buildFile !== undefined) noteMarks(project, app, buildFile);
  noteLibrary(project, app, unity, templates);
  const properties = join(unity.folder, FOLDER, "gradleTemplate.properties");
  const source =
    project.tree.isFile(properties) && !switchedOff(unity, "useCustomGradlePropertiesTemplate") ? project.text(properties) : undefined;
  if (source && !/^\s*unityStreamingAssets\b|\*\*STREAMING_ASSETS\*\*/m.test(source.text))
    app.templateLine({ line: "assets of the engine", side: "android", at: startOf(properties) });
}

/** Marks that the editor does not know: they stay as they are, and the script is none. */
function noteMarks(project: ProjectFiles, app: FactSink, file: string): void {
  const source = project.text(file);
  for (const match of withoutComments(source?.text ?? "").matchAll(/\*\*([A-Z][A-Z_]+)\*\*/g)) {
    const name = match[1] as string;
    const right = misspelling(name, TEMPLATE_MARKS);
    if (source && right !== undefined)
      app.misspelling({ what: "mark of the template", name, right, side: "android", at: source.place(match.index + 2) });
  }
}

/** The first edition whose build plugin takes the namespace from the script alone. Source: docs.unity3d.com, "Gradle for Android" (versions of each edition). */
const NAMESPACE_SINCE = 6000;

/** The engine's module is a library, and has its namespace. */
function noteLibrary(project: ProjectFiles, app: FactSink, { folder }: UnityProject, templates: readonly GradleModule[]): void {
  const main = templates.find(({ path }) => path === "mainTemplate.gradle");
  if (!main?.buildFile || main.unread.length > 0) return;
  if (!main.plugins.some(({ id }) => id === "com.android.library"))
    app.templateLine({ line: "engine's library", side: "android", at: main.plugins[0]?.at ?? startOf(main.buildFile) });
  const text = withoutComments(project.text(main.buildFile)?.text ?? "");
  // Source: the templates that Unity's editor copies into Assets/Plugins/Android (docs.unity3d.com, "Gradle template files").
  const line = (name: TemplateLine): void => app.templateLine({ line: name, side: "android", at: startOf(main.buildFile ?? "") });
  if (!/\bcompileSdk/.test(text)) line("engine's level");
  if (!/\bfileTree\b|\bunity-classes\b/.test(text)) line("engine's classes");
  const named = main.settings.some(({ block, name }) => block === "" && name === "namespace");
  const edition = /m_EditorVersion:\s*(\d+)/.exec(project.text(join(folder, "ProjectSettings/ProjectVersion.txt"))?.text ?? "")?.[1];
  if (!named && Number(edition) >= NAMESPACE_SINCE)
    app.templateLine({ line: "engine's namespace", side: "android", at: startOf(main.buildFile) });
}

/** The Android plugin comes from Google's repository alone. Source: developer.android.com, "Android Gradle plugin" (google()). */
function notePluginRepositories(app: FactSink, file: string, lines: string): void {
  const block = /\bpluginManagement\s*\{/.exec(lines);
  if (!block) return;
  const inside = lines.slice(block.index, closing(lines, block.index + block[0].length - 1));
  if (/\brepositories\b/.test(inside) && !/\bgoogle\s*[({]|\bmaven\s*[({]|\bmavenLocal\b/.test(inside))
    app.templateLine({ line: "repository of plugins", side: "android", at: startOf(file) });
}

/** Activities of the engine, today's and earlier ones. Source: docs.unity3d.com, "Android application entry points", "Override the Android App Manifest". */
const ENGINE_ACTIVITIES = ["UnityPlayerActivity", "UnityPlayerGameActivity", "UnityPlayerNativeActivity", "UnityPlayerProxyActivity"];

/** What the manifest that takes the place of the engine's own cannot do without. Source: docs.unity3d.com, "Override the Android App Manifest". */
export function checkManifest(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  const file = join(unity.folder, FOLDER, "AndroidManifest.xml");
  const { project } = discovery;
  if (!app.android || !project.tree.isFile(file)) return;
  if (switchedOff(unity, "useCustomMainManifest")) {
    app.templateLine({ line: "template in use", side: "android", at: startOf(file) });
    return;
  }
  const root = project.xml(file)?.root;
  const activities = children(children(root, "application")[0], "activity");
  if (activities.length === 0) return;
  const line = (name: TemplateLine, element?: XmlElement): void =>
    app.templateLine({ line: name, side: "android", at: element ? element.source.place(element.start) : startOf(file) });
  const elsewhere = app.libraryManifests.some((library) => declaredIn(project, library.file).launchers.length > 0);
  if (declaredIn(project, file).launchers.length === 0 && !elsewhere) line("launcher activity");
  const target = Number(textOf(app.android.effective.targetSdk) ?? Number.NaN);
  for (const activity of activities) {
    const name = activity.attributes.get("android:name")?.value ?? "";
    const own = /^com\.unity3d\.player\.(\w+)$/.exec(name)?.[1];
    if (own !== undefined && !ENGINE_ACTIVITIES.includes(own) && ENGINE_ACTIVITIES.some((known_) => distance(known_, own) <= 3))
      line("engine's activity", activity);
    if (target >= EXPORTED_SINCE && children(activity, "intent-filter").length > 0 && !activity.attributes.has("android:exported"))
      line("exported activity", activity);
  }
}

/** Levels that a template fixes, in place of the mark that stands for the player settings'. */
function readLevels(unity: UnityProject, app: FactSink, templates: readonly GradleModule[]): void {
  const { android } = app;
  if (!android) return;
  for (const { path, settings, buildFile } of templates) {
    if (!/^(main|launcher)Template/.test(path) || buildFile === undefined) continue;
    for (const { name, values, block } of settings) {
      const found = LEVELS.find(([names]) => names.test(name));
      const value = values[0];
      if (!found || value?.kind !== "known" || !/^(android-)?\d+$/.test(value.text) || (block !== "" && block !== "defaultConfig"))
        continue;
      const [, level, setting] = found;
      const written: Value = known(value.text.replace("android-", ""), value.place);
      const stated = setting === undefined ? undefined : levelOf(unity.settings, setting);
      if (stated?.kind === "known" && stated.text !== written.text)
        app.configuredOtherwise({
          what: level,
          side: "android",
          configured: stated,
          native: written,
          files: [unity.settingsFile, buildFile],
        });
      // The launcher is the application; where it has no template of its own, its levels are the settings'.
      if (path.startsWith("launcher") || level === "compileSdk") {
        android.effective[level] = written;
        android.levels.push({ level, value: written, owner: "app", of: path, at: written.place });
      }
    }
  }
}

/**
 * Whether release builds shrink, with the project's own rules where the template takes them in.
 * Source: docs.unity3d.com, "Android Player settings" (Minify, Custom Proguard File), "proguard-user.txt".
 */
export function readRules({ project }: Discovery, unity: UnityProject, app: FactSink): void {
  const minify = minifies(unity);
  if (!app.android || minify?.kind !== "known") return;
  const folder = join(unity.folder, FOLDER);
  const file = join(folder, "proguard-user.txt");
  const template = join(folder, "mainTemplate.gradle");
  const there = project.tree.isFile(file);
  const text = project.tree.isFile(template) ? project.text(template) : undefined;
  const takes =
    !switchedOff(unity, "useCustomProguardFile") &&
    (text === undefined || text.text.includes("**USER_PROGUARD**") || text.text.includes("proguard-user.txt"));
  app.revise("shrink", () => [
    {
      variant: "release",
      enabled: { ...minify, text: minify.text === "0" ? "false" : "true" },
      files: there && takes ? [{ path: "proguard-user.txt", resolved: file, at: startOf(file) }] : [],
      module: "launcher",
    },
  ]);
  if (there) readRulesFile(project, app, file, undefined);
}

/** Library folders are Android libraries of the build: their manifests are merged. Source: docs.unity3d.com, "Android Library Project". */
export function readLibraryFolders(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  if (!app.android) return;
  const { project } = discovery;
  for (const root of unity.roots)
    for (const [folder] of foldersIn(discovery, root)) {
      if (!folder.endsWith(".androidlib")) continue;
      const manifest = [join(folder, "AndroidManifest.xml"), join(folder, "src/main/AndroidManifest.xml")].find((file) =>
        project.tree.isFile(file),
      );
      if (manifest !== undefined)
        readLibraryManifest(project, app, manifest, folder.slice(unity.folder === "" ? 0 : unity.folder.length + 1));
      else if (![join(folder, "build.gradle"), join(folder, "build.gradle.kts")].some((file) => project.tree.isFile(file)))
        app.templateLine({ line: "library manifest", side: "android", at: startOf(folder) });
    }
}
