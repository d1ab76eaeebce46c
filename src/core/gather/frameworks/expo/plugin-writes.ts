import type { Entry } from "../../../model/facts.js";
import { join, parentOf } from "../../../model/paths.js";
import { reason } from "../../../model/reason.js";
import { known, unknown } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import type { Source } from "../../../syntax/source.js";
import type { ProjectFiles } from "../../project-files.js";

/** What a config plugin does to the native projects, as far as its code tells. */
export interface PluginWrites {
  /** Sides to whose entries it may add what its code does not name. */
  open: readonly ("android" | "ios")[];
  entries: Entry[];
}

/** The most files of a plugin that are read, and how long they may be together. */
const MOST_FILES = 30;
const MOST_TEXT = 400_000;

/** Functions that change a native project, by what they change. Source: docs.expo.dev, "Mods". */
const MODS: Readonly<Record<string, "android" | "ios" | "none">> = {
  withAndroidManifest: "android",
  withStringsXml: "android",
  withInfoPlist: "ios",
  withEntitlementsPlist: "ios",
  // What these change holds no entries of a manifest or a property list.
  withAndroidColors: "none",
  withAndroidColorsNight: "none",
  withAndroidStyles: "none",
  withGradleProperties: "none",
  withAppBuildGradle: "none",
  withProjectBuildGradle: "none",
  withSettingsGradle: "none",
  withMainActivity: "none",
  withMainApplication: "none",
  withXcodeProject: "none",
  withAppDelegate: "none",
  withPodfile: "none",
  withPodfileProperties: "none",
  withExpoPlist: "none",
  // Those that hold others together.
  withPlugins: "none",
  withRunOnce: "none",
};

/** Statements on what a mod is given that name what they write. */
const PLIST_KEY = /\bmodResults(?:\.([A-Z]\w+)|\[\s*["']([\w.]+)["']\s*\])\s*(?:\?\?=|\|\|=|=(?!=))/g;
const META_DATA = /\baddMetaDataItemToMainApplication\s*\(\s*[\w.]+\s*,\s*["']([\w.]+)["']\s*,\s*(?:["']([^"'\n]*)["'])?/g;

/**
 * What a config plugin writes: keys and items that its code names. A side is open where its code hands the manifest or the property list on, writes
 * under a name that is worked out, runs code on files, or calls the plugin of another package.
 * @param file the file of the plugin
 * @param folder what its files lie in: they are followed no further
 */
export function pluginWrites(project: ProjectFiles, file: string, folder: string, by: string): PluginWrites | undefined {
  const texts = filesOf(project, file, folder);
  if (!texts) return undefined;
  const open = new Set<"android" | "ios">();
  const entries: Entry[] = [];
  for (const { source, text } of texts) {
    for (const [name] of text.matchAll(/\bwith[A-Z]\w*(?=\s*\)?\s*\()/g)) {
      if (name === "withDangerousMod" || isOwn(name, text)) continue;
      const writes = MODS[name];
      // One of the plugin's own files.
      if (writes === undefined && !texts.some((other) => isOwn(name, other.text)))
        for (const side of ["android", "ios"] as const) open.add(side);
    }
    for (const [, side] of text.matchAll(/\bwithDangerousMod\b[^[]{0,200}\[\s*["'](\w+)["']/g))
      if (side === "android" || side === "ios") open.add(side);
    if (calls(text, "withDangerousMod") && !/\bwithDangerousMod\b[^[]{0,200}\[\s*["']/.test(text)) open.add("android").add("ios");
    if (/\b(?:IOSConfig|createPermissionsPlugin|createEntitlementsPlugin|createInfoPlistPlugin\w*)\b/.test(text)) open.add("ios");
    readPropertyList(source, text, by, open, entries);
    readAndroidManifest(source, text, by, open, entries);
  }
  return { open: [...open], entries };
}

/** Whether a text declares the function itself, and does not take it from elsewhere. */
function isOwn(name: string, text: string): boolean {
  return new RegExp(
    `\\bfunction\\s+${name}\\b|\\bexports\\.${name}\\s*=|\\b(?:const|let|var)\\s+${name}\\b[^=\\n]*=\\s*(?!\\s*(?:require|_?interop|__import))`,
  ).test(text);
}

/** Whether a text calls a function of that name, also as a compiler writes it: `(0, config_plugins_1.withInfoPlist)(config, …)`. */
function calls(text: string, name: string): boolean {
  return new RegExp(`\\b${name}\\b\\s*\\)?\\s*\\(`).test(text);
}

function readPropertyList(source: Source, text: string, by: string, open: Set<"android" | "ios">, entries: Entry[]): void {
  if (!calls(text, "with(?:InfoPlist|EntitlementsPlist)")) return;
  const isEntitlement = calls(text, "withEntitlementsPlist");
  let named = 0;
  for (const match of text.matchAll(PLIST_KEY)) {
    named++;
    const name = (match[1] ?? match[2]) as string;
    const at = source.place(match.index);
    const literal = /^\s*(?:["']([^"'\n]*)["']|(true|false))\s*;?\s*$/m.exec(
      text.slice(match.index + match[0].length).split("\n", 1)[0] ?? "",
    );
    const value = literal ? known(literal[1] ?? (literal[2] as string), at) : unknown(reason("config-plugin-makes-it"), at);
    const kinds = isEntitlement && !calls(text, "withInfoPlist") ? (["entitlement"] as const) : (["plist"] as const);
    for (const kind of /UsageDescription$/.test(name) ? (["purposeText", "plist"] as const) : kinds)
      entries.push({ kind, side: "ios", name, value, by, at });
  }
  const all = text.match(/\bmodResults\b/g)?.length ?? 0;
  const ofAndroid = calls(text, "with(?:AndroidManifest|StringsXml|\\w+Gradle\\w*|Main\\w+|Podfile\\w*|AppDelegate|XcodeProject)");
  if (all > named && !ofAndroid) open.add("ios");
  // Where one file holds both, a name must stand right behind the list.
  else if (ofAndroid && /\binfoPlist\b|\bsetInfoPlist\b/i.test(text.replace(/withInfoPlist/g, ""))) open.add("ios");
}

function readAndroidManifest(source: Source, text: string, by: string, open: Set<"android" | "ios">, entries: Entry[]): void {
  if (/\bPermissions\s*\.\s*(?:withPermissions|ensurePermissions?|addPermission)\b/.test(text)) {
    for (const match of text.matchAll(/["'](android\.permission\.[A-Z_]+)["']/g))
      entries.push({ kind: "permission", side: "android", name: match[1] as string, value: undefined, by, at: source.place(match.index) });
    if (!/["']android\.permission\./.test(text)) open.add("android");
  }
  if (!calls(text, "withAndroidManifest")) {
    if (calls(text, "withStringsXml")) open.add("android");
    return;
  }
  const items = [...text.matchAll(META_DATA)];
  for (const match of items) {
    const at = source.place(match.index);
    const value = match[2] === undefined ? unknown(reason("config-plugin-makes-it"), at) : known(match[2], at);
    entries.push({ kind: "metaData", side: "android", name: match[1] as string, value, by, at });
  }
  // Whoever takes the manifest apart may add anything.
  const plain = text.replace(/\bgetMainApplicationOrThrow\s*\([^)]*\)/g, "").replace(/\bgetMainApplication\s*\([^)]*\)/g, "");
  if (items.length === 0 || /\bmodResults\b(?!\s*;)/.test(plain.replace(/\breturn\s+\w+(?:\.modResults)?/g, ""))) {
    const ofIos = calls(text, "withInfoPlist") && items.length > 0;
    if (!ofIos || /\bmodResults\s*\.\s*manifest\b/.test(plain)) open.add("android");
  }
}

/** The file and those of the same folder that it takes in; `undefined` where one is not there, or there are too many. */
function filesOf(project: ProjectFiles, file: string, folder: string): { source: Source; text: string }[] | undefined {
  const found: { source: Source; text: string }[] = [];
  const paths = [file];
  let length = 0;
  for (const path of paths) {
    const source = project.text(path);
    length += source?.text.length ?? 0;
    if (!source || found.length >= MOST_FILES || length > MOST_TEXT) return undefined;
    const text = withoutComments(source.text);
    found.push({ source, text });
    for (const match of text.matchAll(/(?:\bfrom\s*|\brequire\s*\(\s*|\bimport\s*)["'](\.{1,2}\/[^"'\n]*)["']/g)) {
      const base = join(parentOf(path), match[1] as string);
      // What the framework's tool for modules builds is made of what lies beside. Source: docs.expo.dev, "Mods" (plugin/src, plugin/build).
      const next = [base, base.replace(/(^|\/)build(?=\/|$)/, "$1src")]
        .flatMap((stem) => ["", ".js", ".ts", ".cjs", ".mjs", "/index.js", "/index.ts"].map((ending) => stem + ending))
        .find((candidate) => project.tree.isFile(candidate));
      if (next === undefined || !next.startsWith(folder === "" ? "" : `${folder}/`)) {
        if (!/\.json$|package$/.test(base)) return undefined;
      } else if (!next.endsWith(".json") && !paths.includes(next)) paths.push(next);
    }
  }
  return found;
}
