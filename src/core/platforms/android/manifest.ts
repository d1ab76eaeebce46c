import type { Project } from "../../files/project.js";
import type { AndroidSide, App } from "../../model/app.js";
import type { Entry, EntryKind } from "../../model/facts.js";
import { join } from "../../model/paths.js";
import { known, textOf, unknown, type Value } from "../../model/value.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import type { GradleModule } from "./gradle-facts.js";
import { manifestFile } from "./side.js";

/** Folders under `src/` that do not go into the app. */
const TEST_SOURCES = /^(test|androidTest)/;

/**
 * Reads the manifests of an app into entries: the main one, those of its variants and of its own modules.
 * Source: developer.android.com, "App manifest overview" and "Manage manifest files" (merging, markers, placeholders).
 */
export function readManifests(project: Project, app: App, side: AndroidSide): void {
  const resources = readStrings(project, app, side);
  for (const module of side.modules) {
    const own = module === side.module;
    const by = own ? undefined : module.path;
    const main = manifestFile(project, module);
    if (main) readManifestFile(project, app, { file: main, by, variant: undefined, module, resources });
    for (const entry of project.tree.list(join(module.folder, "src"))) {
      const file = join(module.folder, "src", entry.name, "AndroidManifest.xml");
      if (entry.kind !== "folder" || entry.name === "main" || TEST_SOURCES.test(entry.name) || !project.tree.isFile(file)) continue;
      readManifestFile(project, app, { file, by, variant: entry.name, module, resources });
    }
  }
  readBuildEntries(app, side);
}

interface ManifestContext {
  file: string;
  by: string | undefined;
  variant: string | undefined;
  module: GradleModule | undefined;
  resources: Map<string, Value>;
}

/** The manifest of an installed library; what it holds is merged into the app's. */
export function readLibraryManifest(project: Project, app: App, file: string, by: string): void {
  if (!project.tree.isFile(file)) return;
  app.libraryManifests.push({ file, by });
  readManifestFile(project, app, { file, by, variant: undefined, module: undefined, resources: new Map() });
}

const COMPONENTS = ["activity", "activity-alias", "service", "receiver", "provider"];

function readManifestFile(project: Project, app: App, context: ManifestContext): void {
  const root = project.xml(context.file)?.root;
  if (!root) return;
  if (context.by === undefined || context.module) readElements(app, root);
  if (context.by === undefined) app.manifests.push(context.file);
  const removed = (element: XmlElement): boolean => /^remove(All)?$/.test(element.attributes.get("tools:node")?.value ?? "");
  const add = (kind: EntryKind, name: string, element: XmlElement, attribute: string, value?: Value): void => {
    const start = element.attributes.get(attribute)?.start ?? element.start;
    const entry: Entry = { kind, side: "android", name, value, at: element.source.place(start) };
    if (context.variant !== undefined) entry.variant = context.variant;
    if (context.by !== undefined) entry.by = context.by;
    if (removed(element)) entry.removed = true;
    app.entries.push(entry);
  };
  const nameOf = (element: XmlElement): string | undefined => element.attributes.get("android:name")?.value;
  for (const tag of ["uses-permission", "uses-permission-sdk-23", "uses-permission-sdk-m"])
    for (const element of children(root, tag)) add("permission", nameOf(element) ?? "", element, "android:name");
  for (const element of children(root, "uses-feature")) add("feature", nameOf(element) ?? "", element, "android:name");
  const namespace =
    root.attributes.get("package")?.value ??
    textOf(context.module?.settings.find(({ name, block }) => name === "namespace" && block === "")?.values[0]);
  for (const application of children(root, "application")) {
    for (const tag of COMPONENTS) {
      for (const element of children(application, tag)) {
        const name = nameOf(element);
        if (name !== undefined) add("component", name.startsWith(".") && namespace ? namespace + name : name, element, "android:name");
        for (const data of descendants(element, "data")) {
          const scheme = data.attributes.get("android:scheme");
          if (scheme) add("urlScheme", textOf(resolve(scheme.value, data, scheme.start, context)) ?? scheme.value, data, "android:scheme");
        }
      }
    }
    for (const element of descendants(application, "meta-data")) {
      const attribute = element.attributes.has("android:value") ? "android:value" : "android:resource";
      const written = element.attributes.get(attribute);
      add("metaData", nameOf(element) ?? "", element, attribute, written && resolve(written.value, element, written.start, context));
    }
    const clear = application.attributes.get("android:usesCleartextTraffic");
    if (clear) add("clearText", "*", application, "android:usesCleartextTraffic", known(clear.value, root.source.place(clear.start)));
    const config = application.attributes.get("android:networkSecurityConfig")?.value;
    if (config?.startsWith("@xml/") && context.module) readNetworkSecurity(project, app, context.module, config.slice(5));
  }
  for (const queries of children(root, "queries"))
    for (const data of descendants(queries, "data")) {
      const scheme = data.attributes.get("android:scheme");
      if (scheme) add("queriedScheme", scheme.value, data, "android:scheme");
    }
}

/** A value with its placeholders and resource references worked out. */
function resolve(text: string, element: XmlElement, start: number, context: ManifestContext): Value {
  const at = element.source.place(start);
  const reference = /^@string\/(.+)$/.exec(text);
  if (reference) return context.resources.get(reference[1] as string) ?? unknown(`the resource ${text} is not in the files`, at);
  if (!text.includes("${")) return known(text, at);
  const placeholders = placeholdersOf(context.module);
  let only: Value | undefined;
  let why: string | undefined;
  const result = text.replace(/\$\{([^}]+)\}/g, (whole, name: string) => {
    const value = placeholders.get(name);
    if (value?.kind !== "known") {
      why ??= value?.kind === "unknown" ? value.why : `the placeholder ${name} has no value in the files`;
      return whole;
    }
    only = value;
    return value.text;
  });
  if (why !== undefined) return unknown(why, at);
  return text.startsWith("${") && text.indexOf("}") === text.length - 1 && only ? only : known(result, at);
}

function placeholdersOf(module: GradleModule | undefined): Map<string, Value> {
  const found = new Map<string, Value>();
  for (const setting of module?.settings ?? []) {
    if (setting.name === "manifestPlaceholders" || setting.name.startsWith("manifestPlaceholders."))
      for (const [name, value] of setting.named)
        if (setting.block === "defaultConfig" || setting.block === "" || !found.has(name)) found.set(name, value);
    if (setting.name === "applicationId" && setting.block === "defaultConfig" && setting.values[0])
      found.set("applicationId", setting.values[0]);
  }
  return found;
}

/** Placeholders, `buildConfigField` and `resValue` of the build script as entries, per variant. */
function readBuildEntries(app: App, side: AndroidSide): void {
  for (const module of side.modules) {
    for (const setting of module.settings) {
      const variant = /^(?:flavor|buildType):([^.]+)$/.exec(setting.block)?.[1];
      const push = (kind: EntryKind, name: string, value: Value | undefined): void => {
        const entry: Entry = { kind, side: "android", name, value, at: value?.kind === "known" ? value.place : setting.at };
        if (variant !== undefined) entry.variant = variant;
        app.entries.push(entry);
      };
      if (setting.name === "manifestPlaceholders") for (const [name, value] of setting.named) push("placeholder", name, value);
      const [type, name, value] = setting.values;
      if ((setting.name !== "buildConfigField" && setting.name !== "resValue") || textOf(type) === undefined || textOf(name) === undefined)
        continue;
      if (setting.name === "buildConfigField") push("buildConfig", textOf(name) ?? "", value && unquoted(value));
      else if (textOf(type) === "string") push("string", textOf(name) ?? "", value);
    }
  }
}

/** The value of a build config field is Java code: `"\"abc\""`. */
function unquoted(value: Value): Value {
  return value.kind === "known" ? { ...value, text: value.text.replace(/^\\?"(.*?)\\?"$/, "$1") } : value;
}

/** String resources of the app's own modules, in the default language. */
function readStrings(project: Project, app: App, side: AndroidSide): Map<string, Value> {
  const found = new Map<string, Value>();
  for (const module of side.modules) {
    for (const source of project.tree.list(join(module.folder, "src"))) {
      if (source.kind !== "folder" || TEST_SOURCES.test(source.name)) continue;
      const folder = join(module.folder, "src", source.name, "res/values");
      for (const file of project.tree.list(folder)) {
        if (file.kind !== "file" || !file.name.endsWith(".xml")) continue;
        for (const element of children(project.xml(join(folder, file.name))?.root, "string")) {
          const name = element.attributes.get("name")?.value;
          if (name === undefined) continue;
          const start = element.textStart === -1 ? element.start : element.textStart;
          const value = known(element.text.trim(), element.source.place(start));
          if (source.name === "main" || !found.has(name)) found.set(name, value);
          const entry: Entry = { kind: "string", side: "android", name, value, at: value.place };
          if (source.name !== "main") entry.variant = source.name;
          app.entries.push(entry);
        }
      }
    }
  }
  return found;
}

/** Source: developer.android.com, "Network security configuration". */
function readNetworkSecurity(project: Project, app: App, module: GradleModule, name: string): void {
  const file = join(module.folder, "src/main/res/xml", `${name}.xml`);
  const root = project.tree.isFile(file) ? project.xml(file)?.root : undefined;
  if (!root) return;
  for (const base of children(root, "base-config")) {
    const allowed = base.attributes.get("cleartextTrafficPermitted");
    if (allowed)
      app.entries.push({
        kind: "clearText",
        side: "android",
        name: "*",
        value: known(allowed.value, root.source.place(allowed.start)),
        at: root.source.place(allowed.start),
      });
  }
  for (const config of descendants(root, "domain-config")) {
    const allowed = config.attributes.get("cleartextTrafficPermitted");
    for (const domain of children(config, "domain")) {
      const at = domain.source.place(domain.textStart === -1 ? domain.start : domain.textStart);
      app.entries.push({ kind: "host", side: "android", name: domain.text.trim(), value: allowed && known(allowed.value, at), at });
    }
  }
}

/** The names of the elements of a manifest, for the rule about misspelt ones. */
function readElements(app: App, root: XmlElement): void {
  const open = [root];
  for (let next = open.pop(); next; next = open.pop()) {
    for (const child of next.children) {
      app.elements.push({ name: child.name, parent: next.name, at: child.source.place(child.start + 1) });
      open.push(child);
    }
  }
}
