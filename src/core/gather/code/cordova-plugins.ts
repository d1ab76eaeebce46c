import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { BridgeFact } from "../../model/code.js";
import { OF_THE_WEB_VIEW } from "../../knowledge/cordova.js";
import { isWithin, join } from "../../model/paths.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { execCalls } from "../packages/cordova-scripts.js";
import { readPluginXml, type CordovaPlugin } from "../packages/cordova-plugin.js";
import type { ProjectFiles } from "../project-files.js";
import { isScript, type SourceFile } from "./sources.js";

/**
 * What scripts ask of the plugins that the project has itself: objects and methods that the page calls, and actions of services, against what the
 * plugins' scripts and native halves have. Source: cordova.apache.org, "Plugin Development Guide" (exec, clobbers), and the guides of Android and iOS.
 */
export function cordovaBridges(project: ProjectFiles, app: App, sources: readonly SourceFile[]): BridgeFact[] {
  if (app.kind !== "cordova") return [];
  const scripts = pageScripts(app, sources);
  const plugins = app.ownPlugins.flatMap((folder) => readPluginXml(project, folder) ?? []);
  const globals = new Set(plugins.flatMap(({ objects }) => objects.map(({ target }) => globalOf(target))));
  const own = plugins.flatMap((plugin) => [...actions(project, app, plugin, scripts), ...calls(project, plugin, scripts, globals)]);
  return [...own, ...leftBehind(project, app, scripts)];
}

/**
 * Calls of a plugin that lies in the folder of plugins and that nothing declares any more: in the next copy of the project it is not there. Not of a
 * plugin that another one asks for.
 */
function leftBehind(project: ProjectFiles, { path, dependencies, broken }: App, scripts: readonly SourceFile[]): BridgeFact[] {
  // What a broken file no longer says may declare it.
  if (["config.xml", "package.json"].some((name) => broken.has(join(path, name)))) return [];
  const folder = join(path, "plugins");
  const all = project.tree
    .list(folder)
    .flatMap(({ name, kind }) => (kind === "folder" ? (readPluginXml(project, join(folder, name)) ?? []) : []));
  const declared = new Set(dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "cordova" ? name : [])));
  const wanted = new Set([...declared, ...all.flatMap((plugin) => plugin.dependencies.map(({ id }) => id))]);
  if (declared.size === 0) return [];
  const here = new Set(all.flatMap(({ id, globals }) => (wanted.has(id) ? globals : [])));
  return all.flatMap(({ id, globals }): BridgeFact[] => {
    if (wanted.has(id)) return [];
    for (const global of globals) {
      const name = globalOf(global);
      if (here.has(global) || OF_THE_WEB_VIEW.has(name) || name === "") continue;
      const call = new RegExp(`(?<![\\w$.])(?:window\\.)?${escaped(name)}\\.\\w+\\s*\\(`);
      for (const source of scripts) {
        const match = call.exec(withoutComments(source.text));
        if (match)
          return [
            {
              kind: "plugin",
              name,
              role: "asked",
              side: "shared",
              guards: [],
              near: "",
              advice: `declare ${id}, which lies in ${folder} and is in no list`,
              at: source.place(match.index),
            },
          ];
      }
    }
    return [];
  });
}

/** The scripts of the page itself. */
function pageScripts({ path, ownPlugins }: App, sources: readonly SourceFile[]): SourceFile[] {
  // An app within a plugin's repository shows it.
  return sources.filter(
    ({ file, side, language }) =>
      side === "shared" &&
      isScript(language) &&
      !ownPlugins.some((folder) => isWithin(file, folder) && !(isWithin(path, folder) && isWithin(file, path))),
  );
}

/** Native code that finds what an action does in ways that are not followed. */
const BY_REFLECTION = /\bget(?:Declared)?Methods?\s*\(|\bvalueOf\s*\(\s*action|\binvoke\s*\(|\bactions?\s*\.\s*(?:get|containsKey)\b/;

/** An action that a native half handles, by the ways in which it is compared or named. */
const HANDLED: Record<"android" | "ios", RegExp> = {
  android:
    /"(\w+)"\s*\.\s*equals(?:IgnoreCase)?\s*\(\s*action|\baction\s*\.\s*equals(?:IgnoreCase)?\s*\(\s*"(\w+)"|\bcase\s+"(\w+)"|"(\w+)"\s*(?:,\s*"\w+"\s*)*->|\baction\s*==\s*"(\w+)"/g,
  ios: /[-+]\s*\(\s*void\s*\)\s*(\w+)\s*:\s*\(\s*CDVInvokedUrlCommand\b|@objc\(\s*(\w+):|\bfunc\s+(\w+)\s*\(\s*_?\s*\w+\s*:\s*CDVInvokedUrlCommand/g,
};

/**
 * Actions that a plugin's scripts ask for and that one half handles under another name, which no script asks for. That a half does not handle an action
 * at all may be meant.
 */
function actions(
  project: ProjectFiles,
  app: App,
  { folder, modules, platforms, objects }: CordovaPlugin,
  scripts: readonly SourceFile[],
): BridgeFact[] {
  const asked = modules.flatMap(({ file, platform }) => {
    const source = project.text(join(folder, file));
    if (!source) return [];
    return execCalls(source.text).flatMap(({ service, action, given, offset }) => {
      if (action === undefined) return [];
      const names = objects.flatMap((object) => (given !== undefined && object.file === file ? `${globalOf(object.target)}.${given}` : []));
      return [{ service, action, platform, given: names, at: source.place(offset) }];
    });
  });
  const named = new Set(modules.flatMap(({ file }) => project.text(join(folder, file))?.text.match(/(?<=["'])\w+(?=["'])/g) ?? []));
  const halves = new Map((["android", "ios"] as const).map((side) => [side, handledBy(project, side, folder, platforms)] as const));
  return [
    ...lostServices(asked, [...halves.values()]),
    ...[...halves].flatMap(([side, half]): BridgeFact[] => {
      if (!app[side] || !half) return [];
      const other = halves.get(side === "ios" ? "android" : "ios")?.actions;
      const left = [...half.actions].filter((name) => !named.has(name));
      const lost = asked.filter(
        ({ service, action, platform }) =>
          (platform === undefined || platform === side) &&
          half.services.includes(service) &&
          !half.actions.has(action) &&
          !half.code.includes(`"${action}"`),
      );
      return lost.flatMap(({ service, action, given, at }): BridgeFact[] => {
        // Nearly its name, or the one by which the halves differ.
        const near =
          left.find((name) => distance(name.toLowerCase(), action.toLowerCase()) <= 2) ??
          left.find((name) => other?.has(action) && same(other, new Set([...half.actions].map((own) => (own === name ? action : own)))));
        if (near === undefined) {
          const otherHalf = halves.get(side === "ios" ? "android" : "ios");
          // Of none of the two it is a slip; of one alone only where the page asks for it on both.
          const isNowhere = otherHalf && !otherHalf.actions.has(action) && !otherHalf.code.includes(`"${action}"`);
          if (!isNowhere && !(otherHalf && calledOnBoth(given, scripts))) return [];
          const advice = `handle ${action} in the native code of ${isNowhere ? "both sides" : side === "ios" ? "iOS" : "Android"}`;
          return [{ kind: "action", name: `${service}.${action}`, role: "asked", side: "shared", guards: [], near: "", advice, at }];
        }
        const offered = `${near} on ${side === "ios" ? "iOS" : "Android"}`;
        return [{ kind: "action", name: `${service}.${action}`, role: "asked", side: "shared", guards: [], near: offered, at }];
      });
    }),
  ];
}

/** Whether the page calls one of these without a look at the platform. */
function calledOnBoth(names: readonly string[], scripts: readonly SourceFile[]): boolean {
  return names.some((name) => {
    const call = new RegExp(`(?<![\\w$.])(?:window\\.)?${escaped(name)}\\s*\\(`);
    return scripts.some(({ text }) => call.test(text) && !/\b(?:platformId|device\s*\.\s*platform)\b/.test(text));
  });
}

/** Services that a plugin's scripts ask for and that neither half has, under almost the name of one that both have. */
function lostServices(
  asked: readonly { service: string; action: string; at: BridgeFact["at"] }[],
  halves: readonly ReturnType<typeof handledBy>[],
): BridgeFact[] {
  const offered = halves.flatMap((half) => half?.services ?? []);
  if (halves.some((half) => !half)) return [];
  return asked.flatMap(({ service, action, at }): BridgeFact[] => {
    const near = offered.includes(service) ? undefined : offered.find((own) => distance(own.toLowerCase(), service.toLowerCase()) <= 2);
    return near === undefined
      ? []
      : [{ kind: "action", name: `${service}.${action}`, role: "asked", side: "shared", guards: [], near: `the service ${near}`, at }];
  });
}

function same(one: ReadonlySet<string>, other: ReadonlySet<string>): boolean {
  return one.size === other.size && [...one].every((item) => other.has(item));
}

/** The actions that the native half of a side handles; `undefined` where that cannot be told. */
function handledBy(
  project: ProjectFiles,
  side: "android" | "ios",
  folder: string,
  platforms: CordovaPlugin["platforms"],
): { services: readonly string[]; actions: Set<string>; code: string } | undefined {
  const half = platforms.find(({ name }) => name === side);
  const files = half?.sources.filter(({ file }) => /\.(java|kt|m|mm|swift)$/.test(file)) ?? [];
  const texts = files.map(({ file }) => project.text(join(folder, file)));
  if (!half || texts.length === 0 || texts.some((text) => text === undefined)) return undefined;
  const code = texts.map((source) => withoutComments(source?.text ?? "")).join("\n");
  if (side === "android" && BY_REFLECTION.test(code)) return undefined;
  const actions_ = [...code.matchAll(HANDLED[side])].map((match) => match.slice(1).find((name) => name !== undefined) as string);
  return { services: half.services, actions: new Set(actions_), code };
}

/** What a script gives to those who load it, where all of it is written out. */
function exportsOf(text: string): Set<string> | undefined {
  const plain = withoutComments(text);
  // Another name for all of it: what is given out under that is not followed.
  if (/=\s*(?:module\.)?exports\b(?!\s*[.=])/.test(plain)) return undefined;
  const names = new Set([...plain.matchAll(/\b(?:module\.)?exports\.(\w+)\s*=/g)].map((match) => match[1] as string));
  const whole = /\bmodule\.exports\s*=\s*/.exec(plain);
  if (whole) {
    const open = whole.index + whole[0].length;
    if (plain[open] !== "{") return undefined;
    for (const member of argumentsIn(plain, open)) {
      if (member.trim() === "") continue;
      const name = /^\s*(?:async\s+|[gs]et\s+)?\*?\s*["']?(\w+)["']?\s*(?:[:(]|$)/.exec(member)?.[1];
      if (name === undefined) return undefined;
      names.add(name);
    }
  }
  return names.size > 0 ? names : undefined;
}

/** More may be given out than is written out. */
const GIVES_MORE = /\bexports\s*\[|\bObject\.(?:assign|defineProper)|\.prototype\b|\bextend\s*\(/;

function globalOf(target: string): string {
  return target.replace(/^window\./, "");
}

/** Calls of the page that are almost those of a plugin's object, and methods of it that its script does not have. */
function calls(
  project: ProjectFiles,
  { folder, objects }: CordovaPlugin,
  scripts: readonly SourceFile[],
  others: ReadonlySet<string>,
): BridgeFact[] {
  return objects.flatMap(({ file, target }) => {
    const global = globalOf(target);
    const own = project.text(join(folder, file))?.text;
    return [...lostMethods(own, global, scripts), ...likeObjects(global, scripts, others)];
  });
}

/** Methods of a plugin's object that its script does not have. */
function lostMethods(own: string | undefined, global: string, scripts: readonly SourceFile[]): BridgeFact[] {
  const methods = own === undefined ? undefined : exportsOf(own);
  if (own === undefined || !methods) return [];
  const told = new Set<string>();
  const object = `(?<![\\w$.])(?:window\\.)?${escaped(global)}`;
  const call = new RegExp(`${object}\\.(\\w+)\\s*\\(`, "g");
  // Pages add to the object.
  const more = new RegExp(
    `${object}(?:\\.(\\w+)\\s*=(?!=)|\\s*\\[[^\\]]*\\]\\s*=(?!=))|\\b(?:assign|extend|mixin)\\s*\\(\\s*(?:window\\.)?${escaped(global)}\\b`,
    "g",
  );
  const added = scripts.flatMap(({ text }) => [...text.matchAll(more)]);
  for (const match of added) if (match[1] !== undefined) methods.add(match[1]);
  const isAddedTo = added.some((match) => match[1] === undefined);
  return scripts.flatMap((source) =>
    [...withoutComments(source.text).matchAll(call)].flatMap((match): BridgeFact[] => {
      const name = match[1] as string;
      if (methods.has(name) || told.has(name) || name in Function.prototype) return [];
      const near = [...methods].find((other) => distance(other, name) <= 2);
      if (near === undefined && (isAddedTo || GIVES_MORE.test(own))) return [];
      told.add(name);
      return [asked("plugin method", `${global}.${name}`, near === undefined ? "" : `${global}.${near}`, source, match.index)];
    }),
  );
}

/** Objects of almost the name of a plugin's, that no script declares. */
function likeObjects(global: string, scripts: readonly SourceFile[], others: ReadonlySet<string>): BridgeFact[] {
  if (!/^(?:\w+\.)*\w{5,}$/.test(global)) return [];
  const told = new Set<string>();
  return scripts.flatMap((source) =>
    [...withoutComments(source.text).matchAll(/(?<![\w$.])((?:\w+\.)*\w{4,})(?:\.\w+\s*\(|\s*[;,)])/g)].flatMap((match): BridgeFact[] => {
      const name = globalOf(match[1] as string);
      const isNear = name.split(".").length === global.split(".").length && distance(name.toLowerCase(), global.toLowerCase()) <= 1;
      if (others.has(name) || told.has(name) || !isNear || isDeclared(name.split(".").at(-1) as string, scripts)) return [];
      told.add(name);
      return [asked("plugin", name, global, source, match.index)];
    }),
  );
}

function asked(kind: BridgeFact["kind"], name: string, near: string, source: SourceFile, offset: number): BridgeFact {
  return { kind, name, role: "asked", side: "shared", guards: [], near, at: source.place(offset) };
}

function isDeclared(name: string, scripts: readonly SourceFile[]): boolean {
  const declared = new RegExp(
    `\\b(?:var|let|const|function|class|import)\\s+(?:[\\w\\s,={}*'"]*[\\s,{])?${name}\\b|\\b${name}\\s*=(?!=)|[(,{]\\s*${name}\\s*[,)}=:]|\\bas\\s+${name}\\b|\\b${name}\\s*=>`,
  );
  return scripts.some(({ text }) => text.includes(name) && declared.test(text));
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
}
