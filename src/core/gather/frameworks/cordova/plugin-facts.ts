import { LIST_KEYS } from "../../../knowledge/purpose-keys.js";
import { PLATFORM_PACKAGES } from "../../../knowledge/platform-packages.js";
import type { ProjectFiles } from "../../project-files.js";
import { readGuardedFiles } from "../../packages/guarded-uses.js";
import type { FactSink } from "../../sink.js";
import type { Ecosystem, Entry } from "../../../model/facts.js";
import { baseName, join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known } from "../../../model/value.js";
import { descendants, type XmlElement } from "../../../syntax/xml.js";
import type { CordovaPlugin, PluginPlatform } from "../../packages/cordova-plugin.js";

/** What a plugin brings into the sides of an app: manifest and property-list entries, packages, pods, and what its code uses. */
export function notePlugin(project: ProjectFiles, app: FactSink, plugin: CordovaPlugin, sdk: string): void {
  const sources = app.ios ? plugin.platforms.flatMap(({ name, sources: own }) => (name === "ios" ? own : [])) : [];
  readGuardedFiles(
    project,
    app,
    sources.map(({ file }) => join(plugin.folder, file)),
    { by: plugin.id, sdk },
  );
  for (const platform of plugin.platforms) {
    const side = platform.name === "android" ? "android" : platform.name === "ios" ? "ios" : undefined;
    if (side === undefined || !app[side]) continue;
    const asks = (ecosystem: Ecosystem, name: string, version: string | undefined, at: Place): void => {
      // A version that holds a variable is known only when the plugin is installed.
      const requirement = version?.includes("$") ? undefined : version;
      app.packageNeed({ by: plugin.id, sdk, side, ecosystem, name, requirement, from: "plugin.xml", at });
    };
    for (const { target, parent, elements } of platform.insertions) {
      if (side === "android" && /AndroidManifest\.xml$/.test(target))
        for (const element of elements) noteManifest(app, element, plugin.id, parent);
      if (side === "ios" && /(-Info\.plist|Info\.plist)$/.test(target)) notePlist(app, parent, elements, plugin.id);
    }
    noteFrameworks(app, platform, side, plugin, asks);
    for (const { name, spec, at } of platform.pods) asks("cocoapods", name, spec, at);
  }
  for (const { id, version, at } of plugin.dependencies)
    app.packageNeed({
      by: plugin.id,
      sdk,
      side: "shared",
      ecosystem: "cordova",
      name: id,
      requirement: version,
      from: "plugin.xml",
      at,
    });
}

/** Frameworks and Maven packages that a platform of the plugin asks for. */
function noteFrameworks(
  app: FactSink,
  platform: PluginPlatform,
  side: "android" | "ios",
  plugin: CordovaPlugin,
  asks: (ecosystem: Ecosystem, name: string, version: string | undefined, at: Place) => void,
): void {
  for (const { src, kind, at } of platform.frameworks) {
    // Source: cordova.apache.org, "Plugin.xml", framework: system frameworks are linked, own ones (`custom`) embedded where it says so.
    if (side === "ios" && (kind === "system" || kind === "custom"))
      app.linked({
        name: baseName(src),
        target: plugin.id,
        linked: true,
        embedded: kind === "custom",
        form: undefined,
        system: kind === "system",
        at,
      });
    if (kind !== "maven" || side !== "android") continue;
    const [group = "", artifact = "", version] = src.split(":");
    const name = `${group}:${artifact}`;
    if (PLATFORM_PACKAGES.maven.test(name)) continue;
    asks("maven", name, version, at);
  }
}

/** An element that goes into the manifest. */
export function noteManifest(app: FactSink, element: XmlElement, by: string | undefined, parent = ""): void {
  const add = (kind: Entry["kind"], owner: XmlElement, attribute: string, value?: string): void => {
    const name = owner.attributes.get(attribute);
    if (!name) return;
    const at = owner.source.place(name.start);
    const entry: Entry = { kind, side: "android", name: name.value, value: value === undefined ? undefined : known(value, at), at };
    if (by !== undefined) entry.by = by;
    app.entry(entry);
  };
  if (/^uses-permission/.test(element.name)) add("permission", element, "android:name");
  if (/^(activity|service|receiver|provider)$/.test(element.name)) add("component", element, "android:name");
  if (element.name === "uses-feature") add("feature", element, "android:name");
  const clear = element.name === "application" ? element.attributes.get("android:usesCleartextTraffic") : undefined;
  if (clear) {
    const at = element.source.place(clear.start);
    app.entry({
      kind: "clearText",
      side: "android",
      name: "*",
      value: known(clear.value, at),
      at,
      ...(by === undefined ? {} : { by }),
    });
  }
  for (const data of descendants(element, "meta-data")) {
    // Beside the application it means nothing. Source: developer.android.com, "<meta-data>" (contained in).
    if (data === element && /^\/(\*|manifest)$/.test(parent)) continue;
    const value = data.attributes.get("android:value")?.value;
    if (value === undefined || !value.includes("$")) add("metaData", data, "android:name", value);
  }
  for (const data of descendants(element, "data")) {
    const scheme = data.attributes.get("android:scheme")?.value;
    if (scheme !== undefined && !scheme.includes("$")) add("urlScheme", data, "android:scheme", scheme);
  }
}

/** Elements that go under a key of the property list. */
export function notePlist(app: FactSink, parent: string, elements: readonly XmlElement[], by: string | undefined): void {
  const [first] = elements;
  if (!first || parent === "" || parent === "*") return;
  const text = first.text.trim();
  const place = first.source.place(first.textStart === -1 ? first.start : first.textStart);
  const entry = (kind: Entry["kind"], name: string, value: string | undefined, at = place): void => {
    app.entry({
      kind,
      side: "ios",
      name,
      value: value === undefined || value.includes("$") ? undefined : known(value, at),
      at,
      ...(by === undefined ? {} : { by }),
    });
  };
  if (LIST_KEYS.has(parent) && /^(string|true|false|integer|dict)$/.test(first.name))
    app.unfitValue({ what: "list", value: parent, side: "ios", at: place });
  entry("plist", parent, first.name === "string" ? text : undefined);
  if (/UsageDescription$/.test(parent)) entry("purposeText", parent, text);
  for (const string of elements.flatMap((element) => descendants(element, "string"))) {
    const at = string.source.place(string.textStart === -1 ? string.start : string.textStart);
    if (parent === "CFBundleURLTypes") entry("urlScheme", string.text.trim(), string.text.trim(), at);
    if (parent === "LSApplicationQueriesSchemes") entry("queriedScheme", string.text.trim(), undefined, at);
    if (parent === "UIBackgroundModes") entry("backgroundMode", string.text.trim(), undefined, at);
  }
}

/** Native classes that a plugin's configuration names and that none of its files can hold. */
export function orphanClasses(
  project: ProjectFiles,
  plugin: CordovaPlugin,
): { name: string; side: "android" | "ios"; at: CordovaPlugin["platforms"][number]["classes"][number]["at"] }[] {
  return plugin.platforms.flatMap((platform) => {
    const side = platform.name === "android" ? ("android" as const) : platform.name === "ios" ? ("ios" as const) : undefined;
    if (side === undefined || platform.sources.length === 0) return [];
    const code = platform.sources.filter(({ file }) => /\.(java|kt|swift|mm?|h|c|cpp|cc)$/.test(file));
    const texts = code.map(({ file }) => project.text(join(plugin.folder, file))?.text);
    // Binaries and references may hold any class, unless the plugin's own code is that of the class.
    const own = texts.every((text) => text !== undefined) && texts.some((text) => /\b(?:CordovaPlugin|CDVPlugin)\b/.test(text));
    if (
      !own &&
      (platform.pods.length > 0 || platform.frameworks.some(({ kind }) => kind === "custom" || kind === "gradle" || kind === "maven"))
    )
      return [];
    const files = new Set(platform.sources.map(({ file }) => baseName(file).replace(/\.\w+$/, "")));
    if (platform.sources.some(({ file }) => /\.(jar|aar|a|so)$/.test(file))) return [];
    return platform.classes.flatMap(({ name, at }) => {
      const short = name.split(".").at(-1) ?? name;
      const home = name.slice(0, -short.length - 1);
      // Where all of the code is here, it says which classes there are.
      if (texts.every((text) => text !== undefined))
        return texts.some(
          (text) =>
            // On Android its package counts too, where the code says one.
            (side === "ios" ||
              home === "" ||
              new RegExp(`^\\s*package\\s+${home.replace(/\W/g, "\\$&")}\\s*;?\\s*$`, "m").test(text ?? "")) &&
            new RegExp(
              `${side === "ios" ? "(?:class|@implementation)" : "(?:class|object|interface)"}\\s+${short.replace(/\W/g, "")}\\b|@objc\\(\\s*${short.replace(/\W/g, "")}\\s*\\)`,
            ).test(text ?? ""),
        )
          ? []
          : [{ name, side, at }];
      const wanted = side === "android" ? /(^|\.)[A-Z]\w*$/.test(name) : true;
      return !wanted || [...files].some((file) => file === short || file.startsWith(short) || short.startsWith(file))
        ? []
        : [{ name, side, at }];
    });
  });
}

export function sdkOfPlugin(id: string): string {
  return sdkIdOf("cordova", id);
}
