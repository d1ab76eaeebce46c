import { distance } from "fastest-levenshtein";
import { FILE_PREFERENCES, HOOK_TYPES, PLATFORM_NAMES, PREFERENCE_VALUES, PREFERENCES } from "../../../knowledge/cordova.js";
import { CORDOVA_CONFIG_ELEMENTS, NETWORK_ELEMENTS } from "../../../knowledge/known-names.js";
import type { SideName } from "../../../model/facts.js";
import { join } from "../../../model/paths.js";
import { children, type XmlAttribute, type XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import { noteMisspeltElements } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import { noteMisspeltParts } from "./misspelt-parts.js";

const SIDES = ["android", "ios"] as const;

/** Whose part of a configuration it is: a platform's, or all of the app's. */
function sideOf(owner: XmlElement, widget: XmlElement): SideName | undefined {
  if (owner === widget) return "shared";
  return SIDES.find((side) => side === owner.attributes.get("name")?.value);
}

/** Names and values of a configuration that nobody understands. Source: cordova.apache.org, "Config.xml". */
export function noteConfigValues(app: FactSink, widget: XmlElement): void {
  for (const owner of [widget, ...children(widget, "platform")]) {
    const name = owner === widget ? undefined : owner.attributes.get("name");
    if (name) misspelt(app, "platform", owner, name, PLATFORM_NAMES, 2, "shared");
    const side = sideOf(owner, widget);
    if (side === undefined || (side !== "shared" && !app[side])) continue;
    for (const hook of children(owner, "hook")) {
      const type = hook.attributes.get("type");
      if (type) misspelt(app, "kind of hook", hook, type, HOOK_TYPES, 2, side);
    }
    for (const preference of children(owner, "preference")) {
      const of = preference.attributes.get("name");
      if (!of) continue;
      misspelt(app, "preference", preference, of, PREFERENCES, of.value.length < 10 ? 1 : 2, side);
      shortened(app, preference, of, side);
      const values = PREFERENCE_VALUES[of.value.toLowerCase()];
      const value = preference.attributes.get("value");
      if (value) noteLevel(app, preference, of.value, value);
      if (values && value) misspelt(app, `value of ${of.value}`, preference, value, values, 2, side);
    }
  }
  noteVersions(app, widget);
  noteMisspeltElements(app, widget, CORDOVA_CONFIG_ELEMENTS, "shared");
  noteMisspeltParts(app, widget);
}

function misspelt(
  app: FactSink,
  what: string,
  { source }: XmlElement,
  { value, start }: XmlAttribute,
  known: readonly string[],
  most: number,
  side: SideName,
): void {
  const own = value.toLowerCase();
  if (known.some((name) => name.toLowerCase() === own)) return;
  const right = known.find((name) => distance(name.toLowerCase(), own) <= most);
  if (right !== undefined) app.misspelling({ what, name: value, right, side, at: source.place(start) });
}

/** Source: cordova.apache.org, "Config.xml" (android-minSdkVersion and its likes, deployment-target). */
function noteLevel(app: FactSink, { source }: XmlElement, name: string, { value, start }: XmlAttribute): void {
  const isAndroid = /^android-(?:min|target|compile|max)SdkVersion$/i.test(name);
  const fits = isAndroid ? /^\s*(?:\d+|[A-Z]\w*)\s*$/ : /^deployment-target$/i.test(name) ? /^\s*\d+(?:\.\d+){0,2}\s*$/ : undefined;
  const side = isAndroid ? "android" : "ios";
  if (fits && app[side] && !/[${}]/.test(value) && !fits.test(value))
    app.unfitValue({ what: "level", value, side, at: source.place(start) });
}

/** The name of a level without its ending: `android-minSdk`. */
function shortened(app: FactSink, { source }: XmlElement, { value, start }: XmlAttribute, side: SideName): void {
  const right = /^android-\w+Sdk$/i.test(value)
    ? PREFERENCES.find((name) => name.toLowerCase() === `${value.toLowerCase()}version`)
    : undefined;
  if (right !== undefined) app.misspelling({ what: "preference", name: value, right, side, at: source.place(start) });
}

/** Source: developer.android.com, "Version your app" (versionCode); developer.apple.com, "CFBundleVersion" (three integers). */
function noteVersions(app: FactSink, widget: XmlElement): void {
  const check = (side: "android" | "ios", attribute: string, what: "version code" | "bundle version", fits: RegExp): void => {
    const given = widget.attributes.get(attribute);
    if (app[side] && given && given.value !== "" && !/[${}]/.test(given.value) && !fits.test(given.value))
      app.unfitValue({ what, value: given.value, side, at: widget.source.place(given.start) });
  };
  check("android", "android-versionCode", "version code", /^\d+$/);
  check("ios", "ios-CFBundleVersion", "bundle version", /^\d+(\.\d+){0,2}$/);
}

/** Files and folders that the configuration names, and whether they are there. Sources: cordova.apache.org, "Config.xml" (resource-file, hook), "Icons". */
export function noteConfigFiles(project: ProjectFiles, folder: string, app: FactSink, widget: XmlElement): void {
  for (const owner of [widget, ...children(widget, "platform")]) {
    const side = sideOf(owner, widget);
    if (side === undefined || (side !== "shared" && !app[side])) continue;
    const names = (element: XmlElement, attribute: string, kind: "binary" | "hook"): void => {
      const given = element.attributes.get(attribute);
      if (!given || given.value === "" || /[$*@]|^\w+:|(^|\/)(node_modules|plugins|platforms)\//.test(given.value)) return;
      const resolved = join(folder, given.value.replaceAll("\\", "/"));
      const exists = project.tree.isFile(resolved) || project.tree.isFolder(resolved);
      // What version control leaves out comes from somewhere else; the need of the file tells.
      app.pathFollowed({ text: given.value, resolved, kind, exists, side, generated: false, at: element.source.place(given.start) });
    };
    for (const element of children(owner, "resource-file")) {
      names(element, "src", "binary");
      const src = join(folder, (element.attributes.get("src")?.value ?? "").replaceAll("\\", "/"));
      const root = src.endsWith(".xml") && project.tree.isFile(src) ? project.xml(src)?.root : undefined;
      if (root?.name === "network-security-config") noteMisspeltElements(app, root, NETWORK_ELEMENTS, "android");
    }
    for (const tag of ["icon", "splash"])
      for (const element of children(owner, tag))
        for (const name of ["src", "foreground", "background", "monochrome"]) names(element, name, "binary");
    for (const element of children(owner, "hook")) names(element, "src", "hook");
    for (const element of children(owner, "preference"))
      if (FILE_PREFERENCES.some((name) => name.toLowerCase() === element.attributes.get("name")?.value.toLowerCase()))
        names(element, "value", "binary");
  }
}
