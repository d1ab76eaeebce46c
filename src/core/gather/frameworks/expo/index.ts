import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import type { Entry, LevelName, SideName } from "../../../model/facts.js";
import { ofRelease } from "../../../model/app.js";
import type { Place } from "../../../model/place.js";
import { reason, type Reason } from "../../../model/reason.js";
import { baseName, join, parentOf } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { inWords } from "../../../model/suggest.js";
import { known, textOf, unknown, type Value } from "../../../model/value.js";
import { findInstalled, readManifest } from "../../packages/packages.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, valueAt, type Data } from "../../../syntax/data.js";
import { ignoreMatcher } from "../../../settings/ignore.js";
import { withoutComments } from "../../../syntax/comments.js";
import { ignoredByGit } from "../../git-ignored.js";
import { satisfiesIn } from "../../../versions/ecosystem.js";
import { take, type DetectedApp, type Framework } from "../framework.js";
import { isPlatformPackage } from "../../../knowledge/platform-packages.js";
import { ASSOCIATED_DOMAIN, ASSOCIATED_DOMAINS } from "../../../knowledge/extension-points.js";
import { EXPO_PLUGINS, EXPO_RELEASES, type ExpoPlugin } from "../../../knowledge/expo-plugins.js";
import { buildProfiles, environmentOfRelease } from "./eas.js";
import { pluginWrites, type PluginWrites } from "./plugin-writes.js";
import { readGeneratedLevels } from "./defaults.js";
import { moduleAround, readLocalModules } from "./modules.js";
import { compareEntries, noteFramework, readTemplateLines } from "./native-folders.js";
import { compareSettings } from "./native-settings.js";
import { helperScriptsOf, reactNative } from "../react-native/index.js";
import { readOptions } from "../options.js";
import { noteMissingParts } from "./missing-parts.js";
import { noteLostExport, readExportedObject } from "../script-config.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import { BUILD_PROFILE_KEYS, EXPO_KEYS } from "../../../knowledge/known-names.js";
import { frameworkAndroid, frameworkIos } from "../framework-sides.js";

const CONFIGS = ["app.json", "app.config.json", "app.config.ts", "app.config.js", "app.config.mjs", "app.config.cjs"];

/** Apps made with Expo: React Native whose native projects are written from a configuration, or were once. Source: docs.expo.dev, "app.json / app.config.js". */
export const expo: Framework = {
  kind: "expo",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const [folder, { files }] of discovery.index) {
      if (!files.includes("package.json") || !files.some((name) => CONFIGS.includes(name))) continue;
      const manifest = readManifest(discovery.project, folder);
      if (!manifest?.declarations.some(({ name, section }) => name === "expo" && section === "dependencies")) continue;
      const config = readConfig(discovery.project, folder);
      const [android] = take(discovery.android, ({ build }) => build.folder === join(folder, "android"));
      const [ios] = take(discovery.ios, ({ xcode }) => xcode.folder === join(folder, "ios"));
      const name = textAt(config?.root, "slug") ?? manifest.name?.replace(/^@[^/]+\//, "") ?? (baseName(folder) || "app");
      const detected: DetectedApp = { kind: "expo", name, path: folder, android, ios, shared: folder };
      if (!android && !ios) {
        if (!config) continue;
        detected.generated = true;
        const platforms = textsOf(at(config.root, "platforms"));
        if (platforms.length === 0 || platforms.includes("android"))
          detected.android = frameworkAndroid(sideFromConfig(config, folder, "android"), undefined);
        if (platforms.length === 0 || platforms.includes("ios")) detected.ios = frameworkIos(sideFromConfig(config, folder, "ios"), name);
      }
      found.push(detected);
    }
    return found;
  },
  helpers: helperScriptsOf,
  linked(discovery, detected) {
    const around = moduleAround(discovery.project, detected);
    return [...(reactNative.linked?.(discovery, detected) ?? []), ...(around ? [around] : [])];
  },
  readAssets({ project }, detected, app, names) {
    const config = readConfig(project, detected.path);
    for (const name of names) {
      const [asset, ...path] = name.split(".");
      const value = asset === "app" ? valueAt(config?.root, ...path) : undefined;
      if (value) app.entry({ kind: "asset", side: "shared", name, value, at: value.place });
    }
  },
  takesIn({ project }, detected) {
    const config = readConfig(project, detected.path);
    if (!config || !detected.generated) return [];
    return (["android", "ios"] as const).flatMap((side) => {
      const path = textAt(config.root, side, "googleServicesFile");
      return path === undefined ? [] : [{ path: join(detected.path, path), side }];
    });
  },
  complete(discovery, detected, app) {
    reactNative.complete(discovery, detected, app);
    const { project } = discovery;
    const framework = findInstalled(project, detected.path, "expo");
    const declared = readManifest(project, detected.path)?.declarations.find(({ name }) => name === "expo");
    if (app.shared) app.shared.framework = { name: "Expo", package: "expo", declared: declared?.specifier, installed: framework?.version };
    const config = readConfig(project, detected.path);
    if (config) {
      const configured = entriesOfConfig(config.root);
      tellOpen(app, config);
      noteNames(project, detected, app, config);
      readPlugins(project, detected, app, config.root);
      noteFiles(project, detected, app, config);
      noteLostParts(project, app, config.file);
      noteMissingParts({ project, app, path: detected.path, config, generated: detected.generated === true });
      noteLinks(app, config);
      noteProfiles(project, detected, app, config);
      app.optionsIn = config.file;
      readOptions(app, "extra", at(config.root, "extra"));
      app.optionNames = extraNames(project, config);
      noteRouter(project, detected, app, config);
      for (const side of ["android", "ios"] as const) {
        const own = configured.filter((entry) => entry.side === side);
        if (!app[side]) continue;
        // What lies in the tree is built as it is.
        if (!detected.generated) compareEntries(app, own, side);
        else {
          app.entry(...own);
          app.configIsWhole({ side, file: config.file });
        }
      }
      if (detected.generated) {
        noteUnlisted(project, detected, app, config);
        noteRunAnyway(project, detected, app);
        if (framework) readGeneratedLevels(project, detected, app, framework.folder);
        generatedBlindSpots(app, config);
        noteStyle(app, config.root);
      } else {
        checkAgainstFolders(app, config.root);
        compareSettings(discovery, app, detected.path, config.root);
        // Before SDK 43 its modules were taken in otherwise. Source: docs.expo.dev, "Install Expo modules in an existing project".
        const sdk = Number(/\d+/.exec(framework?.version ?? declared?.specifier.text ?? "")?.[0] ?? NaN);
        if (!(sdk < 43)) readTemplateLines(discovery, app);
        noteFramework(project, app, detected.path);
      }
    }
    readLocalModules(discovery, detected, app);
    if (framework) readExpected(project, detected, app, framework.folder, framework.version);
    else if (declared) readPaired(app, declared.specifier);
  },
};

/** Keys of the configuration and of the build profiles that are almost right. */
function noteNames(project: ProjectFiles, { path }: DetectedApp, app: FactSink, { root }: Config): void {
  noteMisspeltKeys(app, root, EXPO_KEYS);
  const profiles = join(path, "eas.json");
  if (project.tree.isFile(profiles)) noteMisspeltKeys(app, project.json(profiles)?.root, BUILD_PROFILE_KEYS);
}

interface Config {
  root: Data;
  file: string;
}

/** The static configuration, with what the dynamic one states literally on top. */
function readConfig(project: ProjectFiles, folder: string): Config | undefined {
  const found = CONFIGS.map((name) => join(folder, name)).filter((file) => project.tree.isFile(file));
  for (const file of found) {
    const read = readExportedObject(project, file, environmentOfRelease(project, folder));
    const root = at(read, "expo") ?? (file.endsWith(".json") && !at(read, "name") ? undefined : read);
    if (root?.kind === "map" && (root.entries.size > 0 || found.length === 1)) return { root, file };
  }
  return undefined;
}

const MODULE_ENDINGS = ["", ".js", ".ts", ".cjs", ".mjs", ".json", "/index.js", "/index.ts"];

/** Files of the project that the configuration is made of and that are not there. */
function noteLostParts(project: ProjectFiles, app: FactSink, file: string): void {
  noteLostExport(project, app, file);
  const source = /\.[cm]?[jt]s$/.test(file) ? project.text(file) : undefined;
  if (!source) return;
  const code = withoutComments(source.text);
  for (const match of code.matchAll(/\brequire\s*\(\s*["'](\.\.?\/[^"'\n]+)["']\s*\)|\bfrom\s*["'](\.\.?\/[^"'\n]+)["']/g)) {
    const text = (match[1] ?? match[2]) as string;
    const base = join(parentOf(file), text);
    // A script of TypeScript may be named as what it is compiled to.
    const places = [...MODULE_ENDINGS.map((ending) => base + ending), base.replace(/\.js$/, ".ts")];
    if (base.startsWith("..") || places.some((place) => project.tree.isFile(place))) continue;
    app.pathFollowed({
      text,
      resolved: base,
      kind: "file",
      exists: false,
      side: "shared",
      generated: ignoredByGit(project, ["", parentOf(base)])(baseName(base)),
      at: source.place(match.index + match[0].indexOf(text)),
    });
  }
}

/** Parts of the configuration whose texts are no files of the project, or are looked at elsewhere. */
const NO_FILES: ReadonlySet<string> = new Set(["plugins", "extra", "web", "updates", "hooks"]);

/**
 * Files that the configuration names: icons, pictures, service files. Source: docs.expo.dev, "app.json / app.config.js" (paths are relative to the
 * project).
 */
function noteFiles(project: ProjectFiles, detected: DetectedApp, app: FactSink, { root }: Config): void {
  const ignored = ignoreMatcher((project.text(join(detected.path, ".gitignore"))?.text ?? "").split(/\r?\n/));
  const visitAll = (data: Data): void => {
    visit(data, "shared", 6);
    for (const item of itemsOf(data)) visitAll(item);
    for (const [, { value }] of entriesOf(data)) visitAll(value);
  };
  const visit = (data: Data, side: SideName, depth: number): void => {
    if (data.kind === "map" && depth < 6)
      for (const [name, { value }] of entriesOf(data))
        if (!NO_FILES.has(name)) visit(value, depth === 0 && (name === "android" || name === "ios") ? name : side, depth + 1);
    if (
      data.kind !== "scalar" ||
      typeof data.value !== "string" ||
      data.open !== undefined ||
      !/^\.\/[\w@./ -]+\.[a-zA-Z]{2,5}$/.test(data.value)
    )
      return;
    const resolved = join(detected.path, data.value);
    // An icon of Xcode is a folder.
    if (!project.tree.isFile(resolved) && !project.tree.isFolder(resolved))
      app.pathFollowed({
        text: data.value,
        resolved,
        kind: "file",
        exists: false,
        side,
        generated: ignored(data.value.slice(2)),
        at: placeOf(data),
      });
  };
  visit(root, "shared", 0);
  // Plugins are given files of the project by the same kind of path.
  for (const item of itemsOf(at(root, "plugins"))) if (item.kind === "list") for (const given of item.items.slice(1)) visitAll(given);
}

/** Options of a plugin in the list: `["expo-build-properties", { … }]`. */
function pluginOptions(root: Data, name: string): Data | undefined {
  for (const item of itemsOf(at(root, "plugins"))) if (item.kind === "list" && textAt(item, 0) === name) return at(item, 1);
  return undefined;
}

const BUILD_LEVELS: Record<"android" | "ios", [LevelName, string][]> = {
  android: [
    ["minSdk", "minSdkVersion"],
    ["targetSdk", "targetSdkVersion"],
    ["compileSdk", "compileSdkVersion"],
  ],
  ios: [["iosTarget", "deploymentTarget"]],
};

function sideFromConfig(config: Config, folder: string, side: "android" | "ios") {
  const options = at(pluginOptions(config.root, "expo-build-properties"), side);
  const levels = Object.fromEntries(BUILD_LEVELS[side].map(([level, key]) => [level, valueAt(options, key)]));
  return {
    folder: join(folder, side),
    file: config.file,
    start: placeOf(config.root),
    id: valueAt(config.root, side, side === "android" ? "package" : "bundleIdentifier"),
    levels,
  };
}

/** What the configuration, and plugins of the framework's own, put into the native projects. */
function entriesOfConfig(root: Data): Entry[] {
  const found: Entry[] = [];
  const add = (entry: Entry): void => void found.push(entry);
  for (const item of itemsOf(at(root, "android", "permissions"))) {
    const name = textAt(item);
    if (name === undefined) continue;
    add({
      kind: "permission",
      side: "android",
      name: name.includes(".") ? name : `android.permission.${name}`,
      value: undefined,
      at: placeOf(item),
    });
  }
  for (const item of named(at(root, "android", "blockedPermissions")))
    add({ kind: "permission", side: "android", name: textAt(item) ?? "", value: undefined, removed: true, at: placeOf(item) });
  addListEntries(root, add);
  for (const [name, { value, start }] of entriesOf(at(root, "ios", "entitlements")))
    add({ kind: "entitlement", side: "ios", name, value: valueAt(value), at: value.source.place(start) });
  for (const domain of named(at(root, "ios", "associatedDomains")))
    add({ kind: "entitlement", side: "ios", name: ASSOCIATED_DOMAINS, value: valueAt(domain), at: placeOf(domain) });
  addLinkHosts(root, add);
  addSchemes(root, add);
  for (const item of itemsOf(at(root, "plugins"))) {
    const named_ = item.kind === "list" ? at(item, 0) : item;
    const name = textAt(named_) ?? "";
    const plugin = EXPO_PLUGINS[name];
    if (plugin && named_) for (const entry of pluginEntries(plugin, at(item, 1), placeOf(named_))) add({ ...entry, by: name });
  }
  return found;
}

/** The style that the property list is given. Source: docs.expo.dev, "app.json / app.config.js" (userInterfaceStyle: if not provided, defaults to light). */
function noteStyle(app: FactSink, root: Data): void {
  const stated = at(root, "ios", "userInterfaceStyle") ?? at(root, "userInterfaceStyle");
  if (!app.ios || at(root, "ios", "infoPlist", "UIUserInterfaceStyle")) return;
  const place = placeOf(stated ?? root);
  const text = stated ? textOf(valueAt(stated)) : "light";
  const value: Value =
    text === undefined ? unknown(reason("configuration-makes-it"), place) : known(`${text[0]?.toUpperCase() ?? ""}${text.slice(1)}`, place);
  app.entry({ kind: "plist", side: "ios", name: "UIUserInterfaceStyle", value, at: place });
}

/** Entries of the property list. */
function addListEntries(root: Data, add: (entry: Entry) => void): void {
  for (const [name, { value, start }] of entriesOf(at(root, "ios", "infoPlist"))) {
    const place = value.source.place(start);
    const text = valueAt(value);
    if (/UsageDescription$/.test(name)) add({ kind: "purposeText", side: "ios", name, value: text, at: place });
    add({ kind: "plist", side: "ios", name, value: text, at: place });
    if (name === "UIBackgroundModes")
      for (const mode of named(value))
        add({ kind: "backgroundMode", side: "ios", name: textAt(mode) ?? "", value: undefined, at: placeOf(mode) });
    if (name === "LSApplicationQueriesSchemes")
      for (const scheme of named(value))
        add({ kind: "queriedScheme", side: "ios", name: textAt(scheme) ?? "", value: undefined, at: placeOf(scheme) });
  }
}

/** Hosts of the links that Android opens in the app. */
function addLinkHosts(root: Data, add: (entry: Entry) => void): void {
  for (const filter of itemsOf(at(root, "android", "intentFilters")))
    for (const data of listOrOne(at(filter, "data"))) {
      const host = at(data, "host");
      if (host && /^https?$/.test(textAt(data, "scheme") ?? ""))
        add({ kind: "linkHost", side: "android", name: textAt(host) ?? "", value: valueAt(host), at: placeOf(host) });
    }
}

/** Schemes of the whole app and of a side. */
function addSchemes(root: Data, add: (entry: Entry) => void): void {
  for (const owner of [root, at(root, "android"), at(root, "ios")]) {
    const schemes = at(owner, "scheme");
    for (const item of schemes?.kind === "list" ? schemes.items : schemes ? [schemes] : [])
      for (const side of ["android", "ios"] as const)
        if (owner === root || owner === at(root, side))
          add({ kind: "urlScheme", side, name: textAt(item) ?? "", value: valueAt(item), at: placeOf(item) });
  }
}

/** What a plugin of the framework's own writes, by its options. */
function pluginEntries(
  { texts = {}, permissions = [], modes = {}, entitlements = [] }: ExpoPlugin,
  options: Data | undefined,
  place: Place,
): Entry[] {
  const found: Entry[] = [];
  for (const { name, unless, when } of permissions) {
    const stated = at(options, unless ?? when ?? "");
    const value = textAt(stated);
    if (when === undefined ? value !== "false" : value === "true")
      found.push({ kind: "permission", side: "android", name, value: undefined, at: stated ? placeOf(stated) : place });
  }
  for (const [option, name] of Object.entries(texts).flatMap(([key, names]) => [names].flat().map((one) => [key, one] as const))) {
    const stated = at(options, option);
    if (textAt(stated) === "false") continue;
    const value = stated ? valueAt(stated) : unknown(reason("plugin-provides-text"), place);
    const where = stated ? placeOf(stated) : place;
    found.push({ kind: "purposeText", side: "ios", name, value, at: where }, { kind: "plist", side: "ios", name, value, at: where });
  }
  for (const name of entitlements)
    found.push({ kind: "entitlement", side: "ios", name, value: unknown(reason("plugin-provides-value"), place), at: place });
  for (const [option, name] of Object.entries(modes)) {
    const stated = at(options, option);
    if (stated && textAt(stated) === "true")
      found.push({ kind: "backgroundMode", side: "ios", name, value: undefined, at: placeOf(stated) });
  }
  return found;
}

/** What may be given alone or as a list. */
function listOrOne(data: Data | undefined): readonly Data[] {
  return data?.kind === "list" ? data.items : data ? [data] : [];
}

/**
 * Domains that are not written as the system takes them, and filters for links that no tap in a browser reaches. Sources: developer.apple.com,
 * "Supporting associated domains"; docs.expo.dev, "Android App Links" (intentFilters).
 */
function noteLinks(app: FactSink, { root }: Config): void {
  for (const domain of named(at(root, "ios", "associatedDomains"))) {
    const text = textAt(domain) ?? "";
    if (!ASSOCIATED_DOMAIN.test(text))
      app.extensionFault({ what: "domain", target: "the app", name: text, near: undefined, at: placeOf(domain) });
  }
  for (const filter of itemsOf(at(root, "android", "intentFilters"))) {
    const category = at(filter, "category");
    const categories = listOrOne(category).map((one) => textAt(one));
    const isLink = listOrOne(at(filter, "data")).some((data) => /^https?$/.test(textAt(data, "scheme") ?? ""));
    if (!category || textAt(filter, "action") !== "VIEW" || !isLink || categories.includes(undefined)) continue;
    const [lacks] = ["DEFAULT", "BROWSABLE"].filter((name) => !categories.includes(name));
    if (lacks !== undefined)
      app.extensionFault({ what: "link filter", target: "android.intentFilters", name: lacks, near: undefined, at: placeOf(category) });
  }
}

/** Routes are opened by links, for which a scheme is needed. Source: docs.expo.dev, "Install Expo Router", "Modify project configuration". */
function noteRouter(project: ProjectFiles, detected: DetectedApp, app: FactSink, { root }: Config): void {
  const manifest = readManifest(project, detected.path);
  const router = manifest?.declarations.find(({ name, section }) => name === "expo-router" && section === "dependencies");
  const hasScheme = [root, at(root, "ios"), at(root, "android")].some((owner) => at(owner, "scheme") !== undefined);
  if (detected.generated && router && !hasScheme && textAt(manifest?.root, "main") === "expo-router/entry" && app.openConfig.length === 0)
    app.templateLine({ line: "scheme of the router", side: "ios", at: placeOf(root) });
}

/** What profiles build, and how the app hears of updates. */
function noteProfiles(project: ProjectFiles, detected: DetectedApp, app: FactSink, { root }: Config): void {
  for (const { name, development, at: place } of buildProfiles(project, detected.path))
    if (development && /^(production|release|store)$/i.test(name))
      app.debugOption({ what: "development client", side: "shared", text: `developmentClient in the profile ${name}`, at: place });
  const address = at(root, "updates", "url");
  const text = textAt(address);
  if (address && text !== undefined && /^http:\/\//i.test(text))
    app.entry({ kind: "address", side: "shared", name: "updates.url", value: valueAt(address), at: placeOf(address) });
}

/** Items of a list that have a name. */
function named(list: Data | undefined): Data[] {
  return itemsOf(list).filter((item) => textAt(item) !== undefined);
}

/** How many values of a configuration that cannot be worked out are told. */
const MOST_TOLD = 10;

/** What the configuration leaves open of what goes into the native projects: told, and nothing is missing for certain there. */
function tellOpen(app: FactSink, { root, file }: Config): void {
  let told = 0;
  for (const { path, why, place } of openIn(root)) {
    const key = path.join(".");
    const [first] = path;
    const side: SideName = first === "android" || first === "ios" ? first : "shared";
    if (ADDS.has(key)) app.configIsOpen(...(side === "shared" ? (["android", "ios"] as const) : [side]));
    if ((ADDS.has(key) || STATES.test(key)) && told++ < MOST_TOLD) app.blindSpot({ side, what: `${key} in ${file}`, why, places: [place] });
  }
}

/** Keys that hold entries of the native projects: where one is open, any entry may be there. */
const ADDS: ReadonlySet<string> = new Set([
  "android",
  "android.permissions",
  "android.intentFilters",
  "ios",
  "ios.infoPlist",
  "ios.entitlements",
  "plugins",
  "scheme",
]);

/** Keys that say one thing of them. */
const STATES =
  /^(?:android\.(?:package|blockedPermissions|scheme)|ios\.(?:bundleIdentifier|scheme|infoPlist\..*|entitlements\..*)|plugins\..*)$/;

function openIn(root: Data): { path: string[]; why: Reason; place: Place }[] {
  const found: { path: string[]; why: Reason; place: Place }[] = [];
  const visit = (data: Data | undefined, path: string[]): void => {
    if (data?.kind === "scalar" && data.open?.kind === "unknown") found.push({ path, why: data.open.why, place: data.open.place });
    for (const [key, { value }] of entriesOf(data)) visit(value, [...path, key]);
    for (const item of itemsOf(data)) visit(item, path);
  };
  for (const key of ["android", "ios", "plugins", "scheme"]) visit(at(root, key), [key]);
  return found;
}

/** The names that what the configuration hands to the app's code can have; `undefined` where it takes in what is not known. */
function extraNames(project: ProjectFiles, { root, file }: Config): string[] | undefined {
  const text = withoutComments(project.text(file)?.text ?? "");
  const extra = at(root, "extra");
  if (extra?.kind === "scalar" || /\.\.\.(?!config\b)|Object\.assign|\bextra\s*[.[]/.test(text)) return undefined;
  // What has no value here may have one elsewhere.
  return [...new Set([...entriesOf(extra).map(([name]) => name), ...(text.match(/[\w$]+/g) ?? [])])];
}

/** Plugins of the configuration have to come from a package of the project, or a file of it. */
function readPlugins(project: ProjectFiles, detected: DetectedApp, app: FactSink, root: Data): void {
  const manifest = readManifest(project, detected.path);
  for (const item of itemsOf(at(root, "plugins"))) {
    const named = item.kind === "list" ? at(item, 0) : item;
    const name = textAt(named);
    if (name === undefined || !named) continue;
    const package_ = /^(@[^/]+\/[^/]+|[^/]+)/.exec(name)?.[1] ?? name;
    const found = name.startsWith(".")
      ? ["", ".js", ".ts", ".cjs", ".mjs", "/index.js"].some((suffix) => project.tree.isFile(join(detected.path, name) + suffix))
      : (manifest?.declarations.some((declaration) => declaration.name === package_) ?? false) ||
        findInstalled(project, detected.path, package_) !== undefined;
    app.entry({ kind: "configPlugin", side: "shared", name, value: undefined, at: placeOf(named) });
    readOptions(app, name, item.kind === "list" ? at(item, 1) : undefined);
    const writes = EXPO_PLUGINS[name] ? { open: [], entries: [] } : writesOf(project, detected, name, package_);
    app.configPlugin({ name, found, open: writes?.open ?? ["android", "ios"], at: placeOf(named) });
    // What lies in the native folders is told from there.
    if (detected.generated) app.entry(...(writes?.entries ?? []).filter(({ side }) => side === "shared" || app[side] !== undefined));
  }
}

/** What the code of a plugin writes: a file of the project, or one that an installed package names. */
function writesOf(project: ProjectFiles, detected: DetectedApp, name: string, package_: string): PluginWrites | undefined {
  const installed = name.startsWith(".") ? undefined : findInstalled(project, detected.path, package_)?.folder;
  if (!name.startsWith(".") && installed === undefined) return undefined;
  const base = installed === undefined ? join(detected.path, name) : join(installed, name.slice(package_.length) || "app.plugin.js");
  const file = ["", ".js", ".ts", ".cjs", ".mjs", "/index.js", "/index.ts"]
    .map((ending) => base + ending)
    .find((path) => project.tree.isFile(path));
  // A plugin above the app is that of the package around it.
  const home = installed ?? (file !== undefined && name.startsWith("..") ? parentOf(file) : detected.path);
  return file === undefined ? undefined : pluginWrites(project, file, home, name);
}

/**
 * A config plugin of a package is run where the configuration lists it. Those of the framework's own packages are left out: of them some are run
 * anyway, and most have defaults. Source: docs.expo.dev, "Config plugins" (`app.plugin.js` at the root of a package).
 */
function noteUnlisted(project: ProjectFiles, detected: DetectedApp, app: FactSink, { root, file }: Config): void {
  if (app.openConfig.length > 0) return;
  const listed = new Set(app.configPlugins.map(({ name }) => name.replace(/^((?:@[^/]+\/)?[^/]+).*$/, "$1")));
  for (const { name, section, at: declared } of readManifest(project, detected.path)?.declarations ?? []) {
    if (section !== "dependencies" || listed.has(name) || /^(@expo\/|expo(-|$))/.test(name) || isPlatformPackage("npm", name)) continue;
    const folder = findInstalled(project, detected.path, name)?.folder;
    if (folder === undefined || !project.tree.isFile(join(folder, "app.plugin.js"))) continue;
    app.unlistedPlugin({ package: name, sdk: sdkIdOf("npm", name), config: file, at: [placeOf(at(root, "plugins") ?? root), declared] });
  }
}

/** What plugins of the framework's own packages write that are run without being listed. */
function noteRunAnyway(project: ProjectFiles, detected: DetectedApp, app: FactSink): void {
  const listed = new Set(app.configPlugins.map(({ name }) => name));
  for (const { name, section, at: declared } of readManifest(project, detected.path)?.declarations ?? []) {
    const plugin = EXPO_PLUGINS[name];
    if (section !== "dependencies" || plugin?.anyway !== true || listed.has(name)) continue;
    for (const entry of pluginEntries(plugin, undefined, declared))
      if (entry.side !== "shared" && app[entry.side]) app.entry({ ...entry, by: name });
  }
}

/** What only the generation of the native projects decides. */
function generatedBlindSpots(app: FactSink, config: Config): void {
  const start = placeOf(config.root);
  for (const [side, levels] of [
    ["android", ["minSdk", "targetSdk", "compileSdk"]],
    ["ios", ["iosTarget"]],
  ] as ["android" | "ios", LevelName[]][]) {
    const own = app[side];
    if (!own) continue;
    for (const level of levels) own.effective[level] ??= unknown(reason("known-after-prebuild-or-properties"), start);
    const open = app.configPlugins.filter((plugin) => plugin.open.includes(side)).map(({ name }) => name);
    if (open.length === 0 && !app.openConfig.includes(side)) continue;
    app.blindSpot({
      side,
      what: `manifest and property-list entries that ${open.length > 0 ? inWords(open) : "config plugins"} may add`,
      why: reason("known-after-prebuild"),
      places: [start],
    });
  }
}

/** Configuration against the folders that are there: it no longer reaches them by itself. */
function checkAgainstFolders(app: FactSink, root: Data): void {
  for (const side of ["android", "ios"] as const) {
    const own = app[side];
    if (!own) continue;
    const configured = valueAt(root, side, side === "android" ? "package" : "bundleIdentifier");
    const id = ofRelease(own.ids);
    if (configured?.kind === "known" && id?.value.kind === "known" && !own.ids.some(({ value }) => textOf(value) === configured.text))
      app.configuredOtherwise({ what: side === "android" ? "application id" : "bundle id", side, configured, native: id.value });
    const options = at(pluginOptions(root, "expo-build-properties"), side);
    for (const [level, key] of BUILD_LEVELS[side]) {
      const wanted = valueAt(options, key);
      const has: Value | undefined = own.effective[level];
      if (wanted?.kind === "known" && has?.kind === "known" && wanted.text !== has.text)
        app.configuredOtherwise({ what: level, side, configured: wanted, native: has });
    }
  }
}

/** The versions that the release expects, by the table that it ships. */
function readExpected(project: ProjectFiles, detected: DetectedApp, app: FactSink, folder: string, release: string | undefined): void {
  const file = join(folder, "bundledNativeModules.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  const manifest = readManifest(project, detected.path);
  const excluded = new Set(textsOf(at(manifest?.root, "expo", "install", "exclude")));
  for (const [name, { value }] of entriesOf(root)) {
    const wanted = textAt(value);
    const dependency = app.dependencies.find((candidate) => candidate.ecosystem === "npm" && candidate.name === name);
    if (wanted === undefined || !dependency || excluded.has(name)) continue;
    const version = dependency.locked ?? findInstalled(project, detected.path, name)?.version;
    const place = dependency.lockedAt ?? dependency.places[0];
    if (version === undefined || !place || satisfiesIn("npm", version, wanted) !== false) continue;
    app.agreement({ title: `Expo ${release ?? ""} expects another version`, members: [{ name, version, at: place }], wanted });
  }
}

/** The versions that a release is made for, where it is not installed: by what the app declares. */
function readPaired(app: FactSink, declared: Value): void {
  const release = /^[~^]?(\d+)\./.exec(textOf(declared) ?? "")?.[1];
  for (const [name, wanted] of Object.entries(EXPO_RELEASES[release ?? ""] ?? {})) {
    const dependency = app.dependencies.find((candidate) => candidate.ecosystem === "npm" && candidate.name === name);
    const version = dependency?.locked ?? /^[~^]?(\d+\.\d+\.\d+)$/.exec(textOf(dependency?.declared) ?? "")?.[1];
    const place = dependency?.lockedAt ?? dependency?.places[0];
    if (version === undefined || !place || satisfiesIn("npm", version, wanted) !== false) continue;
    app.agreement({ title: `Expo ${release ?? ""} expects another version`, members: [{ name, version, at: place }], wanted });
  }
}
