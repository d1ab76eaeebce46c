import type { PluginGap } from "../../../model/app.js";
import { APPLE_MODULES } from "../../../knowledge/apple-frameworks.js";
import { join, parentOf } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { at, placeOf, textAt } from "../../../syntax/data.js";
import { closing } from "../../../syntax/code/callee.js";
import { withoutComments } from "../../../syntax/comments.js";
import type { Source } from "../../../syntax/source.js";
import { children, descendants } from "../../../syntax/xml.js";
import { execCalls } from "../../packages/cordova-scripts.js";
import { BUILT, packedBy } from "../../packages/workspace-packages.js";
import type { CordovaPlugin, PluginPlatform } from "../../packages/cordova-plugin.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";

/** Variables that the framework itself puts in. Source: cordova.apache.org, "Plugin.xml" (preference, "Variables"). */
const GIVEN_VARIABLES = new Set(["PACKAGE_NAME", "BUNDLE_IDENTIFIER", "PRODUCT_NAME"]);

/**
 * What a plugin of the repository says of itself and does not have, and code of it that nobody finds. Sources: cordova.apache.org, "Plugin.xml"
 * (source-file, preference, hook), "iOS Plugin Development Guide" (a class is made by its name, a method called by its selector), "Config.xml"
 * (GradlePluginKotlinEnabled).
 */
export function noteOwnGaps(project: ProjectFiles, app: FactSink, plugin: CordovaPlugin): void {
  const text = project.text(plugin.file);
  if (!text) return;
  const asked = plugin.modules.flatMap(({ file }) => execCalls(project.text(join(plugin.folder, file))?.text ?? ""));
  const awaited = new Set(asked.flatMap((call) => (call.awaited ? (call.action ?? []) : [])));
  const actions = new Set(asked.flatMap(({ action }) => action ?? []));
  for (const platform of plugin.platforms) {
    if ((platform.name !== "android" && platform.name !== "ios") || !app[platform.name]) continue;
    const sources = platform.sources.flatMap(({ file }) => project.text(join(plugin.folder, file)) ?? []);
    noteUnlisted(project, app, plugin, platform, sources);
    if (!bringsMore(project, plugin, platform)) noteImports(app, plugin, platform.name, sources);
    if (platform.name === "ios") noteApple(app, plugin, platform, sources, { actions, awaited });
    else noteAndroid(app, plugin, sources, awaited);
  }
  noteVariables(app, plugin, text);
  noteHooks(project, app, plugin);
  noteKotlin(project, app, plugin, text);
  notePackage(project, app, plugin);
}

function gap(
  app: FactSink,
  plugin: CordovaPlugin,
  side: PluginGap["side"],
  what: NonNullable<PluginGap["what"]>,
  type: string,
  place: PluginGap["at"],
): void {
  app.pluginGap({ package: plugin.id, side, type, what, at: place });
}

/** Native files beside those that the description names, which these use. */
function noteUnlisted(
  project: ProjectFiles,
  app: FactSink,
  plugin: CordovaPlugin,
  { name, sources, classes }: PluginPlatform,
  texts: readonly Source[],
): void {
  const side = name as PluginGap["side"];
  const listed = new Set(sources.map(({ file }) => join(plugin.folder, file)));
  const ending = side === "android" ? /\.(java|kt)$/ : /\.(swift|mm?)$/;
  // What the configuration names is used as well.
  const code = [...texts.map((source) => withoutComments(source.text)), ...classes.map((one) => one.name)].join("\n");
  for (const folder of new Set([...[...listed].map(parentOf), join(plugin.folder, `src/${name}`)]))
    for (const { name: file, kind } of project.tree.list(folder)) {
      const type = file.replace(/\.\w+$/, "");
      if (kind !== "file" || type === "" || !ending.test(file) || listed.has(join(folder, file))) continue;
      if (new RegExp(`\\b${type.replace(/[^\w]/g, "")}\\b`).test(code))
        gap(app, plugin, side, "unlisted source", file, startOf(join(folder, file)));
    }
}

/** Whether a half brings code that is not its own: packages, archives, another plugin, a script that may declare any. */
function bringsMore(
  project: ProjectFiles,
  { folder, dependencies }: CordovaPlugin,
  { frameworks, pods, resources }: PluginPlatform,
): boolean {
  return (
    dependencies.length > 0 ||
    pods.length > 0 ||
    project.tree.isFile(join(folder, "Package.swift")) ||
    resources.some(({ file }) => /\.(jar|aar|so|a|framework|xcframework)$/.test(file)) ||
    frameworks.some(({ src, kind }) =>
      kind === "gradle"
        ? /\b(implementation|api|compile|classpath|files|fileTree)\b/.test(project.text(join(folder, src))?.text ?? "implementation")
        : kind !== "system",
    )
  );
}

/** What code in the half of a side may import without anything that brings it: the platform's, the framework's, and its own. */
const BROUGHT: Readonly<Record<PluginGap["side"], RegExp>> = {
  android:
    /^(android|androidx|java|javax|kotlin|kotlinx\.coroutines|dalvik|org\.apache\.cordova|org\.json|org\.xml|org\.w3c|org\.xmlpull|org\.apache\.http|junit)\b/,
  ios: /^(Cordova|CordovaLib|\w+_Swift|UIKit)$/,
};

/** Imports of a half that brings no code but its own. */
function noteImports(app: FactSink, plugin: CordovaPlugin, side: PluginGap["side"], sources: readonly Source[]): void {
  const own = new Set(sources.flatMap(({ text }) => /^\s*package\s+([\w.]+)/m.exec(text)?.[1] ?? []));
  for (const source of sources)
    for (const match of source.text.matchAll(
      side === "android" ? /^import\s+(?:static\s+)?([\w.]+)/gm : /^import\s+(?:class\s+|struct\s+)?(\w+)\s*$/gm,
    )) {
      const name = match[1] as string;
      if (BROUGHT[side].test(name) || APPLE_MODULES.has(name) || [...own].some((one) => name.startsWith(`${one}.`))) continue;
      return gap(app, plugin, side, "import", name, source.place(match.index));
    }
}

interface Asked {
  actions: ReadonlySet<string>;
  awaited: ReadonlySet<string>;
}

/** Methods in Objective-C for actions. */
const OBJECTIVE_C = /-\s*\(\s*void\s*\)\s*(\w+)\s*:\s*\(\s*CDVInvokedUrlCommand\s*\*?\s*\)\s*(\w+)\s*\{/g;

/** Methods in Swift for actions: what stands before, the name, the label, and the name within. */
const SWIFT =
  /((?:@\w+(?:\([^)]*\))?\s+|\b(?:public|open|internal|override|private|fileprivate)\s+)*)func\s+(\w+)\s*\(\s*(\w+)(?:\s+(\w+))?\s*:\s*CDVInvokedUrlCommand\s*\)[^{]*\{/g;

/** Classes and methods for iOS that the framework does not find by their names, and methods that answer nobody. */
function noteApple(app: FactSink, plugin: CordovaPlugin, { classes }: PluginPlatform, sources: readonly Source[], asked: Asked): void {
  for (const source of sources) {
    const code = withoutComments(source.text);
    if (source.file.endsWith(".swift")) {
      noteClasses(app, plugin, classes, source, code);
      noteMethods(app, plugin, source, code, asked);
    } else
      for (const match of code.matchAll(OBJECTIVE_C)) {
        const [whole, name = "", command = ""] = match;
        const open = match.index + whole.length - 1;
        if (asked.awaited.has(name)) answers(app, plugin, source, code, name, command, open);
        noteDropped(app, plugin, source, code, name, open);
      }
  }
}

function noteClasses(app: FactSink, plugin: CordovaPlugin, classes: PluginPlatform["classes"], source: Source, code: string): void {
  for (const { name } of classes) {
    if (!/^\w+$/.test(name)) continue;
    const declared = new RegExp(`((?:@\\w+(?:\\([^)]*\\))?\\s+|\\b(?:public|open|final|internal)\\s+)*)class\\s+${name}\\s*:`).exec(code);
    if (declared && !new RegExp(`@objc\\(\\s*${name}\\s*\\)`).test(declared[1] ?? ""))
      gap(app, plugin, "ios", "class for Objective-C", name, source.place(declared.index));
  }
}

function noteMethods(app: FactSink, plugin: CordovaPlugin, source: Source, code: string, { actions, awaited }: Asked): void {
  for (const match of code.matchAll(SWIFT)) {
    const [whole, attributes = "", name = "", label = "", own = label] = match;
    if (!actions.has(name)) continue;
    const selector = /@objc\(\s*([\w:]+)\s*\)/.exec(attributes)?.[1];
    const isPlain = /@objc\b(?!\()/.test(attributes) || /@objcMembers\b/.test(code);
    const isFound = selector === undefined ? isPlain && label === "_" : selector === `${name}:`;
    const open = match.index + whole.length - 1;
    if (!isFound) gap(app, plugin, "ios", "method for Objective-C", name, source.place(match.index + attributes.length));
    else if (awaited.has(name)) answers(app, plugin, source, code, name, own, open);
    noteDropped(app, plugin, source, code, name, open);
  }
}

/** Whether a method does anything with its command by which the answer could come. */
function answers(app: FactSink, plugin: CordovaPlugin, source: Source, code: string, name: string, command: string, open: number): void {
  const body = code.slice(open, closing(code, open));
  const used = new RegExp(`\\b${command}\\b(?!\\s*[.!?]*\\.?\\s*(?:argument|arguments|className|methodName)\\b)`);
  // Answers may come by a callback that was kept, or by a script that is run.
  if (/\bevalJs\b|callbackId:\s*(?!\s*\w*[cC]ommand\.)\w|CallbackId\b|\bcallbacks?\s*\[/.test(code)) return;
  if (!used.test(body.replace(new RegExp(`\\[\\s*${command}\\s+argument\\w*\\b`, "g"), "")))
    gap(app, plugin, "ios", "no answer", name, source.place(open));
}

function noteDropped(app: FactSink, plugin: CordovaPlugin, source: Source, code: string, name: string, open: number): void {
  const body = code.slice(open, closing(code, open));
  if (isDropped(body)) gap(app, plugin, "ios", "callback not kept", name, source.place(open));
}

/** A result that says that nothing came yet, and lets go of the callback. Source: cordova.apache.org, "Plugin Development Guide" of each platform (keep callback). */
function isDropped(body: string): boolean {
  const isHeld = /=\s*(?:\[\s*)?(?:\w*[cC]allback\w*|\w+\.callbackId)\b/.test(body);
  return isHeld && /\bNO_RESULT\b|CDVCommandStatus_NO_RESULT|\.noResult\b/.test(body) && !/[kK]eepCallback/.test(body);
}

/** Branches for an action on Android, by the ways in which it is compared. */
const BRANCH =
  /"(\w+)"\s*->\s*\{|\bif\s*\(\s*(?:"(\w+)"\s*\.\s*equals\s*\(\s*\w+\s*\)|\w+\s*\.\s*equals\s*\(\s*"(\w+)"\s*\)|\w+\s*==\s*"(\w+)")\s*\)\s*\{/g;

/** Branches for an action on Android that never touch the callback, where nothing around them does. */
function noteAndroid(app: FactSink, plugin: CordovaPlugin, sources: readonly Source[], awaited: ReadonlySet<string>): void {
  for (const source of sources) {
    const code = withoutComments(source.text);
    const head = /\bexecute\s*\([^)]*?(?:(\w+)\s*:\s*CallbackContext\b|CallbackContext\s+(\w+))[^)]*\)[^{;]*\{/.exec(code);
    const callback = head?.[1] ?? head?.[2];
    if (!head || callback === undefined) continue;
    const named = new RegExp(`\\b${callback}\\b`);
    const start = head.index + head[0].length - 1;
    const end = closing(code, start);
    const branches = [...code.slice(start, end).matchAll(BRANCH)].map((match) => {
      const open = start + match.index + match[0].length - 1;
      return { name: match.slice(1).find((one) => one !== undefined) as string, at: start + match.index, open, close: closing(code, open) };
    });
    const around = branches.reduce(
      (text, { open, close }) => text.slice(0, open - start) + " ".repeat(close - open) + text.slice(close - start),
      code.slice(start, end),
    );
    for (const { name, at: place, open, close } of branches) {
      const body = code.slice(open, close);
      if (awaited.has(name) && !named.test(body) && !named.test(around))
        gap(app, plugin, "android", "no answer", name, source.place(place));
      if (isDropped(body)) gap(app, plugin, "android", "callback not kept", name, source.place(place));
    }
  }
}

/** Variables that the description puts in and does not declare. */
function noteVariables(app: FactSink, plugin: CordovaPlugin, source: Source): void {
  const declared = new Set(plugin.variables.map(({ name }) => name));
  const code = source.text.replace(/<!--[\s\S]*?-->/g, (comment) => " ".repeat(comment.length));
  const told = new Set<string>();
  for (const match of code.matchAll(/\$([A-Z][A-Z0-9_]{2,})\b/g)) {
    const name = match[1] as string;
    if (declared.has(name) || GIVEN_VARIABLES.has(name) || told.has(name)) continue;
    told.add(name);
    gap(app, plugin, app.android ? "android" : "ios", "variable", name, source.place(match.index));
  }
}

/** Scripts that the description runs and that are not there. */
function noteHooks(project: ProjectFiles, app: FactSink, { file, folder }: CordovaPlugin): void {
  const root = project.xml(file)?.root;
  for (const hook of root ? descendants(root, "hook") : []) {
    const src = hook.attributes.get("src");
    const resolved = src && join(folder, src.value);
    if (src && resolved !== undefined && !/[$*]|node_modules/.test(src.value))
      app.pathFollowed({
        text: src.value,
        resolved,
        kind: "hook",
        exists: project.tree.isFile(resolved),
        side: "shared",
        generated: false,
        at: hook.source.place(src.start),
      });
  }
}

/** Code in Kotlin that the app's build does not compile, as neither the app nor the plugin switches it on. */
function noteKotlin(project: ProjectFiles, app: FactSink, { platforms }: CordovaPlugin, { text }: Source): void {
  const kotlin = platforms.find(({ name }) => name === "android")?.sources.find(({ file }) => file.endsWith(".kt"));
  const widget = project.xml(join(app.path, "config.xml"))?.root;
  if (!app.android || !kotlin || !widget || /GradlePluginKotlinEnabled/i.test(text)) return;
  const isOn = [widget, ...children(widget, "platform")].some((owner) =>
    children(owner, "preference").some(
      ({ attributes }) =>
        attributes.get("name")?.value.toLowerCase() === "gradlepluginkotlinenabled" && attributes.get("value")?.value !== "false",
    ),
  );
  if (!isOn) app.templateLine({ line: "Kotlin of plugins", side: "android", at: startOf(join(app.path, "config.xml")) });
}

/** Files that a plugin's package.json names and that are not there, and those of the plugin that it does not pack. Source: docs.npmjs.com, "package.json" (files, types). */
function notePackage(project: ProjectFiles, app: FactSink, plugin: CordovaPlugin): void {
  const { tree } = project;
  const file = join(plugin.folder, "package.json");
  const root = tree.isFile(file) ? project.json(file)?.root : undefined;
  const types = at(root, "types");
  const text = textAt(types);
  if (types && text !== undefined && !BUILT.test(text) && !tree.isFile(join(plugin.folder, text)))
    app.pathFollowed({
      text,
      resolved: join(plugin.folder, text),
      kind: "source file",
      exists: false,
      side: "shared",
      generated: false,
      at: placeOf(types),
    });
  const files = at(root, "files");
  const packed = packedBy(files);
  // A list with patterns of its own is not followed.
  if (!files || !packed || textAt(root, "private") === "true" || packed.patterns.some((pattern) => /[!*]/.test(pattern))) return;
  for (const { name, sources } of plugin.platforms) {
    if (name !== "android" && name !== "ios") continue;
    const left = sources.find(({ file: source }) => !packed.takes(source));
    if (left && app[name]) gap(app, plugin, name, "not packed", left.file, placeOf(files));
  }
}
