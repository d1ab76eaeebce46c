import type { App } from "../../model/app.js";
import { baseName, join } from "../../model/paths.js";
import { children, type XmlElement } from "../../syntax/xml.js";
import type { ProjectFiles } from "../project-files.js";
import { insertionPoint, readPluginXml } from "./cordova-plugin.js";

/** What goes into the manifest: where, and which elements. */
interface Insertion {
  parent: string;
  elements: readonly XmlElement[];
  /** The attributes of the elements go into the one that is there. */
  merged: boolean;
}

/**
 * The manifest of the Android side as far as the configuration and the project's own plugins write it, each element with its place in their files;
 * what the platform's template and other plugins have is not in it. `undefined` where they write nothing. Source: cordova.apache.org, "Config.xml"
 * and "Plugin.xml" (config-file, edit-config).
 */
export function writtenManifest(project: ProjectFiles, { path, ownPlugins }: Pick<App, "path" | "ownPlugins">): XmlElement | undefined {
  const widget = project.xml(join(path, "config.xml"))?.root;
  if (!widget) return undefined;
  const ofPlugins = ownPlugins.flatMap((folder) => readPluginXml(project, folder)?.platforms ?? []);
  const insertions = [
    ...insertionsOf(widget),
    ...ofPlugins.flatMap(({ name, insertions: list }) =>
      name === "android"
        ? list.flatMap(({ target, parent, elements }) => (isManifest(target) ? [{ parent, elements, merged: false }] : []))
        : [],
    ),
  ];
  if (insertions.length === 0) return undefined;
  const made = (name: string): XmlElement => ({
    name,
    source: widget.source,
    start: widget.start,
    attributes: new Map(),
    children: [],
    text: "",
    textStart: -1,
  });
  const manifest = made("manifest");
  const id = widget.attributes.get("android-packageName") ?? widget.attributes.get("id");
  if (id) manifest.attributes.set("package", id);
  const application = made("application");
  const activity = made("activity");
  for (const { parent, elements, merged } of insertions) {
    if (merged) {
      const into = parent.endsWith("/application") ? application : parent.includes("/activity") ? activity : undefined;
      for (const element of into ? elements : [])
        for (const [name, value] of element.attributes) (into as XmlElement).attributes.set(name, { ...value, start: value.start });
    } else (parent.includes("/activity") ? activity : parent.includes("/application") ? application : manifest).children.push(...elements);
  }
  if (activity.children.length > 0) application.children.push(activity);
  manifest.children.push(application);
  return manifest;
}

function isManifest(target: string): boolean {
  return /AndroidManifest\.xml$/.test(target);
}

function insertionsOf(widget: XmlElement): Insertion[] {
  const owners = [widget, ...children(widget, "platform").filter((owner) => owner.attributes.get("name")?.value === "android")];
  return owners.flatMap((owner) =>
    ["config-file", "edit-config"].flatMap((tag) =>
      children(owner, tag).flatMap((element): Insertion[] => {
        const { target, parent } = insertionPoint(element);
        return isManifest(target) ? [{ parent, elements: element.children, merged: tag === "edit-config" }] : [];
      }),
    ),
  );
}

/** Files of resources that the configuration and all plugins lay down, by their type and name: `xml/network_security_config`. */
export function laidResources(project: ProjectFiles, { path, ownPlugins }: Pick<App, "path" | "ownPlugins">): ReadonlySet<string> {
  const widget = project.xml(join(path, "config.xml"))?.root;
  const targets = (owner: XmlElement): string[] =>
    children(owner, "resource-file").flatMap(({ attributes }) => {
      const target = (attributes.get("target")?.value ?? "").replaceAll("\\", "/");
      const src = attributes.get("src")?.value ?? "";
      return /\.\w+$/.test(target) ? target : `${target.replace(/\/+$/, "")}/${baseName(src)}`;
    });
  const roots = ownPlugins.flatMap((folder) => project.xml(join(folder, "plugin.xml"))?.root ?? []);
  const all = [widget, ...roots].flatMap((root) => (root ? [root, ...children(root, "platform")] : [])).flatMap(targets);
  return new Set(all.flatMap((target) => /(?:^|\/)res\/(\w+)(?:-[\w-]+)?\/([\w.-]+?)\.\w+$/.exec(target)?.slice(1, 3).join("/") ?? []));
}
