import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { startOf, type Place } from "../../../model/place.js";
import type { Data } from "../../../syntax/data.js";
import { at, textAt } from "../../../syntax/data.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
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
  const text = match[1] as string;
  const line = source.text.slice(source.text.lastIndexOf("\n", match.index) + 1, match.index);
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

function dependsOnModule({ module }: AndroidCandidate): boolean {
  return module.modules.some(({ path }) => path === ":flutter");
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
export function noteHosts({ project }: Discovery, detected: DetectedApp<Hosts>, app: FactSink): boolean {
  const { state: hosts, android, ios } = detected;
  if (!hosts) return false;
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
  if (android) {
    if (!hosts.android && android.build.settingsFile !== undefined)
      app.templateLine({ line: "module in settings", side: "android", at: startOf(android.build.settingsFile) });
    if (hosts.android && !dependsOnModule(android))
      app.templateLine({ line: "module as dependency", side: "android", at: startOf(android.module.buildFile ?? android.module.folder) });
    if (!isWithin(android.build.folder, detected.path)) app.sourceFolder({ folder: android.build.folder, side: "android" });
  }
  const podfile = ios && app.ios?.pods?.file;
  const script = podfile === undefined ? undefined : project.text(podfile)?.text.replace(/(^|\s)#[^\n]*/g, "$1");
  if (podfile !== undefined && script !== undefined) {
    if (!/\binstall_all_flutter_pods\b|\binstall_flutter_application_pod\b/.test(script))
      app.templateLine({ line: "module's pods", side: "ios", at: startOf(podfile) });
    else if (!/\bflutter_post_install\b|\bflutter_additional_ios_build_settings\b/.test(script))
      app.templateLine({ line: "module's post install", side: "ios", at: startOf(podfile) });
  }
  return true;
}
