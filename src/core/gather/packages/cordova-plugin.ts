import type { ProjectFiles } from "../project-files.js";
import { join } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";

/** What a plugin says about one platform. */
export interface PluginPlatform {
  name: string;
  sources: { file: string; at: Place }[];
  /** Further files that it brings. */
  resources: { file: string; at: Place }[];
  /** Names under which scripts call native code. */
  services: string[];
  /** Native classes that the configuration names. */
  classes: { name: string; at: Place }[];
  /** Gradle references, pods, system frameworks and own binaries. */
  frameworks: { src: string; kind: "maven" | "gradle" | "system" | "custom"; at: Place }[];
  pods: { name: string; spec: string | undefined; at: Place }[];
  /** XML that goes into the platform's files: the file and the elements. */
  insertions: { target: string; parent: string; elements: XmlElement[]; at: Place }[];
}

export interface CordovaPlugin {
  id: string;
  version: string | undefined;
  file: string;
  folder: string;
  platforms: PluginPlatform[];
  /** Variables that people give when they add it. */
  variables: { name: string; fallback: string | undefined; at: Place }[];
  dependencies: { id: string; version: string | undefined; at: Place }[];
  engines: { name: string; version: string; at: Place }[];
  /** Scripts that it brings, for one platform or for all. */
  modules: { file: string; platform: string | undefined; at: Place }[];
  /** What its scripts add to the global object. */
  globals: string[];
  /** Which of its scripts makes which of these. */
  objects: { file: string; target: string }[];
}

/** Reads a plugin's description. Source: cordova.apache.org, "Plugin.xml". */
export function readPluginXml(project: ProjectFiles, folder: string): CordovaPlugin | undefined {
  const file = join(folder, "plugin.xml");
  const root = project.tree.isFile(file) ? project.xml(file)?.root : undefined;
  const id = root?.attributes.get("id")?.value;
  if (!root || id === undefined) return undefined;
  const place = (element: XmlElement, attribute?: string): Place =>
    element.source.place((attribute && element.attributes.get(attribute)?.start) || element.start);
  const plugin: CordovaPlugin = {
    id,
    version: root.attributes.get("version")?.value,
    file,
    folder,
    platforms: [],
    variables: [],
    dependencies: [],
    engines: [],
    modules: [],
    globals: [],
    objects: [],
  };
  for (const owner of [root, ...children(root, "platform")]) {
    readVariables(owner, plugin, place);
    readModules(owner, root, plugin, place);
  }
  // What is left of a range in a broken file is another one.
  const whole = (project.xml(file)?.problems.length ?? 0) === 0;
  readEngines(whole, root, plugin, place);
  for (const element of children(root, "platform")) plugin.platforms.push(readPlatform(element, root, place));
  return plugin;
}

/** Variables of the plugin, and plugins that it asks for. */
function readVariables(owner: XmlElement, plugin: CordovaPlugin, place: (element: XmlElement, attribute?: string) => Place): void {
  for (const preference of children(owner, "preference")) {
    const name = preference.attributes.get("name")?.value;
    if (name !== undefined)
      plugin.variables.push({ name, fallback: preference.attributes.get("default")?.value, at: place(preference, "name") });
  }
  for (const dependency of children(owner, "dependency")) {
    const other = dependency.attributes.get("id")?.value;
    if (other !== undefined && !other.startsWith("."))
      plugin.dependencies.push({ id: other, version: dependency.attributes.get("version")?.value, at: place(dependency, "id") });
  }
}

/** The scripts of the plugin, and the names under which a page finds them. */
function readModules(
  owner: XmlElement,
  root: XmlElement,
  plugin: CordovaPlugin,
  place: (element: XmlElement, attribute?: string) => Place,
): void {
  for (const module of children(owner, "js-module")) {
    const src = module.attributes.get("src")?.value;
    if (src !== undefined && (owner === root || /^(android|ios)$/.test(owner.attributes.get("name")?.value ?? "")))
      plugin.modules.push({
        file: src,
        platform: owner === root ? undefined : owner.attributes.get("name")?.value,
        at: place(module, "src"),
      });
    for (const tag of ["clobbers", "merges"])
      for (const element of children(module, tag)) {
        const target = element.attributes.get("target")?.value ?? "";
        plugin.globals.push(target);
        if (src !== undefined && target !== "" && tag === "clobbers") plugin.objects.push({ file: src, target });
      }
  }
}

/** The editions of the framework that the plugin asks for. */
function readEngines(
  whole: boolean,
  root: XmlElement,
  plugin: CordovaPlugin,
  place: (element: XmlElement, attribute?: string) => Place,
): void {
  for (const engines of whole ? children(root, "engines") : [])
    for (const engine of children(engines, "engine"))
      plugin.engines.push({
        name: engine.attributes.get("name")?.value ?? "",
        version: engine.attributes.get("version")?.value ?? "*",
        at: place(engine, "version"),
      });
}

function readPlatform(element: XmlElement, root: XmlElement, place: (element: XmlElement, attribute?: string) => Place): PluginPlatform {
  const platform: PluginPlatform = {
    name: element.attributes.get("name")?.value ?? "",
    sources: [],
    resources: [],
    services: [],
    classes: [],
    frameworks: [],
    pods: [],
    insertions: [],
  };
  for (const tag of ["source-file", "header-file"])
    for (const source of children(element, tag))
      platform.sources.push({ file: source.attributes.get("src")?.value ?? "", at: place(source, "src") });
  for (const tag of ["resource-file", "asset", "lib-file"])
    for (const file of [...children(element, tag), ...(tag === "asset" ? children(root, tag) : [])]) {
      const src = file.attributes.get("src")?.value;
      if (src !== undefined) platform.resources.push({ file: src, at: place(file, "src") });
    }
  readFrameworks(element, place, platform);
  for (const pod of descendants(element, "pod"))
    platform.pods.push({ name: pod.attributes.get("name")?.value ?? "", spec: pod.attributes.get("spec")?.value, at: place(pod, "name") });
  for (const owner of [element, root]) {
    for (const tag of ["config-file", "edit-config"]) {
      readInsertions(owner, tag, platform, place);
    }
  }
  return platform;
}

/** Frameworks, libraries and pods of the older form. */
function readFrameworks(element: XmlElement, place: (element: XmlElement, attribute?: string) => Place, platform: PluginPlatform): void {
  for (const framework of children(element, "framework")) {
    const src = framework.attributes.get("src")?.value ?? "";
    const type = framework.attributes.get("type")?.value;
    const custom = framework.attributes.get("custom")?.value === "true";
    const at = place(framework, "src");
    if (type === "podspec") platform.pods.push({ name: src, spec: framework.attributes.get("spec")?.value, at });
    else
      platform.frameworks.push({
        src,
        kind: type === "gradleReference" ? "gradle" : custom ? "custom" : /^[\w.-]+:[\w.-]+(:|$)/.test(src) ? "maven" : "system",
        at,
      });
  }
}

/** What the plugin puts into the files of the platform. */
function readInsertions(
  owner: XmlElement,
  tag: string,
  platform: PluginPlatform,
  place: (element: XmlElement, attribute?: string) => Place,
): void {
  for (const insertion of children(owner, tag)) {
    platform.insertions.push({
      ...insertionPoint(insertion),
      elements: insertion.children,
      at: place(insertion),
    });
    // A feature without a class is none that the framework finds.
    for (const feature of descendants(insertion, "feature"))
      if (
        (platform.name !== "android" && platform.name !== "ios") ||
        children(feature, "param").some((param) => /-package$/.test(param.attributes.get("name")?.value ?? ""))
      )
        platform.services.push(feature.attributes.get("name")?.value ?? "");
    for (const param of descendants(insertion, "param")) {
      if (/^(android|ios)-package$/.test(param.attributes.get("name")?.value ?? ""))
        platform.classes.push({ name: param.attributes.get("value")?.value ?? "", at: place(param, "value") });
    }
  }
}

/**
 * Into which file an element puts something, and where in it. `config-file` names the file as `target` and the place as `parent`;
 * `edit-config` names the file as `file` and the place as `target`. Source: cordova.apache.org, "Plugin.xml" and "Config.xml".
 */
export function insertionPoint(element: XmlElement): { target: string; parent: string } {
  const value = (name: string): string => element.attributes.get(name)?.value ?? "";
  return element.name === "edit-config"
    ? { target: value("file"), parent: value("target") }
    : { target: value("target"), parent: value("parent") };
}
