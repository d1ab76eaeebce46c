import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import type { Data } from "../../../syntax/data.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, textAt } from "../../../syntax/data.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import { nativeSources, type NativeSource } from "../native-sources.js";
import { commonParent, type AndroidCandidate, type DetectedApp, type Discovery, type IosCandidate } from "../framework.js";

/** A module of the framework, which native apps take in as a part of them. Source: docs.flutter.dev, "Add Flutter to an existing app". */
interface Module {
  folder: string;
  root: Data;
}

/** Where a host names the module: a path, as it is written and from the root. */
interface Named {
  text: string;
  resolved: string | undefined;
  at: Place;
}

/** The native apps that take a module in. */
export interface Hosts {
  module: Module;
  android: Named | undefined;
  ios: Named | undefined;
}

/** The modules of a tree with the native apps that take them in. */
export function moduleApps(discovery: Discovery): DetectedApp<Hosts>[] {
  const { project, index } = discovery;
  const modules = [...index].flatMap(([folder, { files }]): Module[] => {
    const root = files.includes("pubspec.yaml") ? project.yaml(join(folder, "pubspec.yaml"))?.root : undefined;
    return root && at(root, "flutter", "module") ? [{ folder, root }] : [];
  });
  return modules.flatMap((module): DetectedApp<Hosts>[] => {
    const only = modules.length === 1;
    const fits = (named: Named | undefined): boolean =>
      named !== undefined && (named.resolved === module.folder || (only && !isModule(modules, named.resolved)));
    const android = takeFirst(discovery.android, (candidate) => {
      const named = namedBySettings(project, candidate);
      return fits(named) || (only && named === undefined && dependsOnModule(candidate));
    });
    const ios = takeFirst(discovery.ios, (candidate) => fits(namedByPodfile(project, candidate)));
    if (!android && !ios) return [];
    const folders = [module.folder, android?.build.folder, ios?.xcode.folder].filter((folder) => folder !== undefined);
    const detected: DetectedApp<Hosts> = {
      kind: "flutter",
      name: textAt(module.root, "name") ?? baseName(module.folder),
      path: folders.reduce(commonParent),
      ...(android ? { android } : {}),
      ...(ios ? { ios } : {}),
      shared: module.folder,
      state: { module, android: android && namedBySettings(project, android), ios: ios && namedByPodfile(project, ios) },
    };
    return [detected];
  });
}

function isModule(modules: readonly Module[], folder: string | undefined): boolean {
  return modules.some((module) => module.folder === folder);
}

function takeFirst<T>(list: T[], fits: (item: T) => boolean): T | undefined {
  const found = list.findIndex(fits);
  return found === -1 ? undefined : list.splice(found, 1)[0];
}

/** The path of the include script in the settings: `settingsDir.parentFile` is the folder above. */
function namedBySettings(project: ProjectFiles, { build }: AndroidCandidate): Named | undefined {
  const source = build.settingsFile === undefined ? undefined : project.text(build.settingsFile);
  const match = source && /["']([^"'\n]*\.android\/include_flutter\.groovy)["']/.exec(source.text);
  if (!source || !match) return undefined;
  const line = source.text.slice(source.text.lastIndexOf("\n", match.index) + 1, match.index);
  // What follows a folder that is put before it begins with a slash.
  const text = /\+\s*$/.test(line) ? (match[1] as string).replace(/^\//, "") : (match[1] as string);
  const above = [...line.matchAll(/\bparent(?:File)?\b/g)].length;
  const relative = text.replace(/^\$\{?(?:settingsDir|rootDir|rootProject\.projectDir)(?:\.parent(?:File)?)?\}?\//, (start) =>
    /parent/.test(start) ? "../" : "",
  );
  const folder = join(
    build.folder,
    ...Array.from({ length: above }, () => ".."),
    relative.replace(/\/?\.android\/include_flutter\.groovy$/, ""),
  );
  return { text, resolved: /[${]/.test(relative) ? undefined : folder, at: source.place(match.index + 1) };
}

/** Whether a release takes the module in: as a project, or as the archive that is built of it. Source: docs.flutter.dev, "Add-to-app: Android setup". */
function dependsOnModule({ module }: AndroidCandidate): boolean {
  return (
    module.modules.some(({ path, configuration }) => path === ":flutter" && !/^(debug|test|androidTest)/.test(configuration)) ||
    module.dependencies.some(({ artifact }) => artifact === "flutter_release")
  );
}

/** Where the engine's archives come from. Source: docs.flutter.dev, "Add-to-app: Android setup" (dependencyResolutionManagement). */
const ENGINE_REPOSITORY = /download\.flutter\.io|FLUTTER_STORAGE_BASE_URL|storageUrl/;

/** Repositories of the settings alone count, and the engine's is none of them. */
function lacksRepository(project: ProjectFiles, { build }: AndroidCandidate): boolean {
  const text = build.settingsFile === undefined ? undefined : withoutComments(project.text(build.settingsFile)?.text ?? "");
  return (
    text !== undefined &&
    /\b(PREFER_SETTINGS|FAIL_ON_PROJECT_REPOS)\b/.test(text) &&
    /\brepositories\b/.test(text) &&
    !ENGINE_REPOSITORY.test(text)
  );
}

/** Engines that host code makes. Source: docs.flutter.dev, "Add a Flutter screen" (Android, iOS). */
function noteEngines(app: FactSink, side: "android" | "ios", sources: readonly NativeSource[]): void {
  const made = /\bFlutterEngine\s*\(/;
  const home = sources.find(({ text }) => made.test(text));
  if (!home) return;
  const all = sources.map(({ text }) => text).join("\n");
  const at = home.source.place(made.exec(home.text)?.index ?? 0);
  const runs =
    side === "android"
      ? /\bexecuteDartEntrypoint\b|\bcreateAndRunEngine\b|\bexecuteDartCallback\b/
      : /\.\s*run\s*\(|\bmakeEngine\b|\[\s*[\w.]+\s+run(?:WithEntrypoint)?\b/;
  if (!runs.test(all)) app.templateLine({ line: "engine that runs", side, at });
  else if (side === "ios") noteEachEngine(app, sources);
}

/** Engines of Swift by the names that hold them: whether each is run, and has its plugins. */
function noteEachEngine(app: FactSink, sources: readonly NativeSource[]): void {
  // A helper that is given an engine may do either.
  if (sources.some(({ text }) => /\bfunc\s+\w+\s*\([^)]*:\s*FlutterEngine\b/.test(text))) return;
  for (const { source, text } of sources)
    for (const match of text.matchAll(/\b(?:let|var)\s+(\w+)\s*(?::\s*FlutterEngine[?!]?\s*)?=\s*FlutterEngine\s*\(/g)) {
      const name = match[1] as string;
      const does = (own: string, elsewhere: string): boolean =>
        new RegExp(own).test(text) || sources.some((other) => other.source !== source && new RegExp(elsewhere).test(other.text));
      const at = source.place(match.index);
      if (!does(`\\b${name}\\s*[?!]?\\.\\s*run\\b`, `\\.\\s*${name}\\s*[?!]?\\.\\s*run\\b`))
        app.templateLine({ line: "engine that runs", side: "ios", at });
      const registers = "GeneratedPluginRegistrant\\s*\\.\\s*register\\s*\\(\\s*with\\s*:\\s*";
      if (!does(`${registers}(?:self\\.)?${name}\\b`, `${registers}[\\w.?!]*\\.${name}\\b`))
        app.templateLine({ line: "plugins of the engine", side: "ios", at });
    }
}

function namedByPodfile(project: ProjectFiles, { xcode }: IosCandidate): Named | undefined {
  const file = join(xcode.folder, "Podfile");
  const source = project.tree.isFile(file) ? project.text(file) : undefined;
  const match = source && /^\s*flutter_application_path\s*=\s*["']([^"'\n]+)["']/m.exec(source.text);
  if (!source || !match) return undefined;
  const text = match[1] as string;
  return {
    text,
    resolved: text.startsWith("/") ? undefined : join(parentOf(file), text),
    at: source.place(match.index + match[0].lastIndexOf(text)),
  };
}

/** What hosts need so that the module is in them. Nothing for an app that is no module's. */
export function noteHosts(discovery: Discovery, detected: DetectedApp<Hosts>, app: FactSink): boolean {
  const { state: hosts, android, ios } = detected;
  const { project } = discovery;
  if (!hosts) return false;
  noteModulePaths(project, app, hosts);
  if (android) {
    if (!hosts.android && android.build.settingsFile !== undefined)
      app.templateLine({ line: "module in settings", side: "android", at: startOf(android.build.settingsFile) });
    if (hosts.android && !dependsOnModule(android))
      app.templateLine({ line: "module as dependency", side: "android", at: startOf(android.module.buildFile ?? android.module.folder) });
    if (lacksRepository(project, android))
      app.templateLine({
        line: "repository of the engine",
        side: "android",
        at: startOf(android.build.settingsFile ?? android.build.folder),
      });
    const code = nativeSources(discovery, join(android.module.folder, "src"), /\.(kt|java)$/);
    noteEngines(app, "android", code);
    noteActivity(project, app, code);
    if (!isWithin(android.build.folder, detected.path)) app.sourceFolder({ folder: android.build.folder, side: "android" });
  }
  if (ios) noteEngines(app, "ios", nativeSources(discovery, ios.xcode.folder, /\.(swift|mm?)$/));
  noteModulePods(project, app, ios);
  return true;
}

const ENGINE_ACTIVITY = "io.flutter.embedding.android.FlutterActivity";

/** Where the hosts look for the module. */
function noteModulePaths(project: ProjectFiles, app: FactSink, hosts: Hosts): void {
  for (const [side, named] of [["android", hosts.android] as const, ["ios", hosts.ios] as const])
    if (named)
      app.pathFollowed({
        text: named.text,
        resolved: named.resolved,
        kind: "project",
        exists: named.resolved === undefined ? undefined : project.tree.isFile(join(named.resolved, "pubspec.yaml")),
        side,
        generated: false,
        at: named.at,
      });
}

/** The module's pods, and what runs after they are installed. */
function noteModulePods(project: ProjectFiles, app: FactSink, ios: IosCandidate | undefined): void {
  const podfile = ios && app.ios?.pods?.file;
  const script = podfile === undefined ? undefined : project.text(podfile)?.text.replace(/(^|\s)#[^\n]*/g, "$1");
  if (podfile !== undefined && script !== undefined) {
    if (!/\binstall_all_flutter_pods\b|\binstall_flutter_application_pod\b/.test(script))
      app.templateLine({ line: "module's pods", side: "ios", at: startOf(podfile) });
    else if (!/\bflutter_post_install\b|\bflutter_additional_ios_build_settings\b/.test(script))
      app.templateLine({ line: "module's post install", side: "ios", at: startOf(podfile) });
  }
}

/** The engine's own activity, where code starts it and the manifest does not name it. Source: docs.flutter.dev, "Add a Flutter screen to an Android app". */
function noteActivity(project: ProjectFiles, app: FactSink, code: readonly NativeSource[]): void {
  const starts = /\bFlutterActivity\s*\.\s*(?:with(?:CachedEngine|NewEngine(?:InGroup)?)|createDefaultIntent)\s*\(/;
  const home = code.find(({ text }) => starts.test(text));
  const named = app.manifests.some((file) => project.text(file)?.text.includes(`"${ENGINE_ACTIVITY}"`));
  if (home && app.manifests.length > 0 && !named)
    app.templateLine({ line: "activity of the engine", side: "android", at: home.source.place(starts.exec(home.text)?.index ?? 0) });
}
