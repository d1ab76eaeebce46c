import { distance } from "fastest-levenshtein";
import { foldersBelow } from "../../../files/walk.js";
import type { FolderIndex } from "../../../files/walk.js";
import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import type { Source } from "../../../syntax/source.js";
import { ignoredByGit } from "../../git-ignored.js";
import type { ProjectFiles } from "../../project-files.js";
import { startOf } from "../../../model/place.js";
import { PLATFORM_NAMES } from "../../../knowledge/cordova.js";
import { nearest } from "../../../model/suggest.js";
import { known } from "../../../model/value.js";
import type { WebPage } from "../../../model/app.js";
import { children, type XmlElement } from "../../../syntax/xml.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import { viteBuilder } from "../../packages/page-builder.js";

/** Scripts that bring in others, in ways that are not followed. */
const LOADS_MORE =
  /createElement\s*\(\s*["']script|document\.write|importScripts|getScript\s*\(|require(?:js)?\.config|data-main|importmap|System\.import|<base\b/;

/** Whether a page loads the script of the framework, which is laid beside the start page. */
function loadsFramework({ scripts }: WebPage, root: string, text: string): boolean {
  if (!/cordova(?:\.min)?\.js/i.test(text)) return false;
  const named = scripts.filter((script) => /(^|\/)cordova\.js$/.test(script));
  return named.length === 0 || named.some((script) => script === join(root, "cordova.js"));
}

/** What builds, the framework and other tools lay down. */
const LAID_DOWN =
  /(^|\/)(cordova[\w.-]*\.js|plugins\/.*|build\/.*|dist\/.*|bundle[\w.-]*\.js|vendor\/.*|lib\/.*|.*\.min\.(js|css))$|[{}$%<]/;

/** Scripts and style sheets of the app's own that a page names and that are not there, while others of their folder are. */
function noteLost(
  project: ProjectFiles,
  index: FolderIndex,
  app: FactSink,
  { root, file, source, text }: { root: string; file: string; source: Source; text: string },
): void {
  if (/<base\b/i.test(text)) return;
  const ignored = ignoredByGit(project, ["", parentOf(root), root]);
  for (const match of text.matchAll(
    /<(?:script\b[^>]{0,1000}?\bsrc|link\b[^>]{0,1000}?\bhref)\s*=\s*["']([^"'\n]+\.(?:js|css))(?:\?[^"'\n]*)?["']/gi,
  )) {
    const name = match[1] as string;
    if (/^(\w+:)?\/\//.test(name) || LAID_DOWN.test(name)) continue;
    const resolved = join(name.startsWith("/") ? root : parentOf(file), name.replace(/^\//, ""));
    const ending = name.slice(name.lastIndexOf("."));
    const there = index.get(parentOf(resolved))?.files ?? [];
    if (project.tree.isFile(resolved) || ignored(baseName(resolved))) continue;
    const place = source.place(match.index + match[0].indexOf(name));
    const laid = mergedFiles(project, root, resolved);
    const lacks =
      laid.length === 0 ? [] : (["android", "ios"] as const).filter((side) => app[side] && !laid.some((one) => one.side === side));
    for (const side of lacks)
      app.pathFollowed({ text: name, resolved, kind: "source file", exists: false, side, generated: false, at: place });
    if (laid.length === 0 && there.some((other) => other.endsWith(ending)))
      app.pathFollowed({ text: name, resolved, kind: "source file", exists: false, side: "shared", generated: false, at: place });
  }
}

/**
 * The files of the platforms that are laid over one of the pages' folder. Source: cordova.apache.org, "Customize your app for each platform" (merges).
 */
function mergedFiles(project: ProjectFiles, root: string, file: string): { side: "android" | "ios"; file: string }[] {
  const within = isWithin(file, root) ? file.slice(root.length + 1) : undefined;
  return (["android", "ios"] as const).flatMap((side) => {
    const own = within === undefined ? "" : join(parentOf(root), "merges", side, within);
    return own !== "" && project.tree.isFile(own) ? [{ side, file: own }] : [];
  });
}

/** Folders that are laid over the pages for a platform, under a name that is almost one. */
function noteMerges(project: ProjectFiles, folder: string, app: FactSink): void {
  for (const { name, kind } of project.tree.list(join(folder, "merges"))) {
    const right = kind !== "folder" || PLATFORM_NAMES.includes(name) ? undefined : nearest(name, PLATFORM_NAMES);
    if (right === "android" || right === "ios")
      app.misspelling({ what: "platform", name, right, side: right, at: startOf(join(folder, "merges", name)) });
  }
}

/** Whether a name is almost the one of the event, which is told apart by its letters' case, too. */
function isNearlyReady(event: string): boolean {
  const plain = event.toLowerCase().replace(/^on|[-_]/g, "");
  return event !== "deviceready" && plain.length > 8 && distance(plain, "deviceready") <= 2;
}

/** A listener of an event that is named almost like the one that the framework sends. Source: cordova.apache.org, "Events" (deviceready). */
function readReadyEvent({ project, index }: Discovery, app: FactSink, root: string): void {
  const texts = [...foldersBelow(index, root)].flatMap(([folder, { files }]) =>
    files.flatMap((name) => (/\.(m?js|[jt]sx?|vue|svelte|html?)$/.test(name) ? (project.text(join(folder, name))?.text ?? []) : [])),
  );
  // A name in any other place than a listener's may bring it in.
  const declares = (name: string): boolean =>
    texts.some((text) =>
      new RegExp(`(?<![\\w$])${name.replace(/\$/g, "\\$&")}(?![\\w$])`).test(
        text.replace(/\baddEventListener\s*\(\s*["'][\w-]+["']\s*,\s*[\w$]+/g, ""),
      ),
    );
  for (const [folder, { files }] of foldersBelow(index, root))
    for (const name of files) {
      const source =
        /\.(?:m?js|[jt]sx?|vue|svelte)$/.test(name) && !/cordova|\.min\./.test(name) ? project.text(join(folder, name)) : undefined;
      const match = [...(source?.text.matchAll(/\baddEventListener\s*\(\s*["']([\w-]+)["']/g) ?? [])].find(([, event = ""]) =>
        isNearlyReady(event),
      );
      const handler = source && /\baddEventListener\s*\(\s*["']deviceready["']\s*,\s*([A-Za-z_$][\w$]*)\s*[,)]/.exec(source.text);
      if (source && handler && !declares(handler[1] as string))
        for (const side of ["android", "ios"] as const)
          if (app[side]) app.templateLine({ line: "ready handler", side, at: source.place(handler.index) });
      if (source && match)
        for (const side of ["android", "ios"] as const)
          if (app[side]) app.templateLine({ line: "ready event", side, at: source.place(match.index) });
    }
}

/**
 * The pages of an app: which of its scripts they load, and what their policies allow. A page that loads scripts and not the one of the framework has
 * no plugins. Sources: cordova.apache.org, "Create your first app", "Allow List Guide" (Content Security Policy); w3.org, "Content Security Policy".
 */
export function readPages({ project, index }: Discovery, detected: DetectedApp, app: FactSink, widget: XmlElement): void {
  const start = children(widget, "content")[0]?.attributes.get("src")?.value ?? "index.html";
  if (/^\w+:/.test(start)) return;
  const root = join(detected.path, "www");
  const first = join(root, start.replace(/[?#].*$/, ""));
  const named = children(widget, "content")[0];
  // A folder without any page is written by a build.
  const isWritten = ![...foldersBelow(index, root)].some(([, { files }]) => files.some((name) => /\.html?$/.test(name)));
  if (named && !isWritten && !project.tree.isFile(first))
    app.pathFollowed({
      text: start,
      resolved: first,
      kind: "source file",
      exists: false,
      side: "shared",
      generated: false,
      at: named.source.place(named.attributes.get("src")?.start ?? named.start),
    });
  readReadyEvent({ project, index } as Discovery, app, isWritten ? join(detected.path, "src") : root);
  noteMerges(project, detected.path, app);
  if (isWritten) noteBuilder(project, detected.path, app, widget);
  const pages = isWritten
    ? builtPages(project, detected.path)
    : [...foldersBelow(index, root)].flatMap(([folder, { files }]) =>
        files.flatMap((name) => (/\.html?$/.test(name) ? join(folder, name) : [])),
      );
  for (const file of pages) readPage(project, index, app, { file, first, root, isWritten });
  for (const file of pages) noteBlockedLinks(project, app, widget, file);
  const origins = children(widget, "access");
  app.webOrigin(
    ...origins.flatMap((element) => {
      const origin = element.attributes.get("origin");
      return origin ? [{ origin: origin.value, at: element.source.place(origin.start) }] : [];
    }),
  );
}

/** Links that other apps open. */
const LINK = /<a\b[^>]*?\bhref\s*=\s*["']\s*((?:tel|sms|mailto|geo):)/gi;

/**
 * Links of a page that the system may not be asked to open, where the configuration keeps a list of those that it may. Source: cordova.apache.org, "Network
 * Request Whitelisting" (allow-intent: by default no external URLs are allowed).
 */
function noteBlockedLinks(project: ProjectFiles, app: FactSink, widget: XmlElement, file: string): void {
  const allowed = [widget, ...children(widget, "platform")].flatMap((owner) => children(owner, "allow-intent"));
  const [first] = allowed;
  const source = project.text(file);
  if (!first || !source) return;
  const hrefs = allowed.map((element) => element.attributes.get("href")?.value.trim().toLowerCase() ?? "");
  for (const match of source.text.matchAll(LINK)) {
    const scheme = (match[1] as string).toLowerCase();
    if (hrefs.some((href) => href.startsWith("*") || href.startsWith(scheme)) || app.blockedLinks.some((link) => link.scheme === scheme))
      continue;
    app.blockedLink({ scheme, at: source.place(match.index), list: first.source.place(first.start) });
  }
}

/** One page: what it loads and allows, and whether it loads the framework where it is the first. */
function readPage(
  project: ProjectFiles,
  index: FolderIndex,
  app: FactSink,
  { file, first, root, isWritten }: { file: string; first: string; root: string; isWritten: boolean },
): void {
  const source = project.text(file);
  if (!source) return;
  const text = source.text.replace(/<!--[\s\S]*?(?:-->|$)/g, (comment) => " ".repeat(comment.length));
  const page: WebPage = isWritten
    ? { ...webPageOf(project, { file, first: file, root: parentOf(file) }, text, source), open: true }
    : webPageOf(project, { file, first, root }, text, source);
  app.webPage(page);
  if (!isWritten) noteLost(project, index, app, { root, file, source, text });
  const loads = isWritten ? /cordova(?:\.min)?\.js|<%|\{\{/i.test(text) : loadsFramework(page, root, text);
  if (page.first && /<script\b/i.test(text) && !loads)
    for (const side of ["android", "ios"] as const) if (app[side]) app.templateLine({ line: "page script", side, at: startOf(file) });
}

/** A builder that writes its pages to another folder than the one that goes into the app, where nothing seems to move them. */
function noteBuilder(project: ProjectFiles, folder: string, app: FactSink, widget: XmlElement): void {
  const output = viteBuilder(project, folder)?.output;
  const hooks = [widget, ...children(widget, "platform")].flatMap((owner) => children(owner, "hook"));
  const scripts = [join(folder, "package.json"), ...hooks.map((hook) => join(folder, hook.attributes.get("src")?.value ?? ""))];
  if (!output || output.folder === "www" || scripts.some((file) => /\bwww\b|\bdist\b/.test(project.text(file)?.text ?? ""))) return;
  app.configuredOtherwise({
    what: "the folder of the pages",
    side: "shared",
    configured: known("www", widget.source.place(widget.start)),
    native: known(output.folder, output.at),
    files: ["config.xml", baseName(output.at.file)],
  });
}

/**
 * The page that a builder fills and writes into the folder of pages: it keeps what stands in it. Sources: vite.dev, "index.html and Project Root";
 * webpack.js.org, "HtmlWebpackPlugin" (template).
 */
function builtPages(project: ProjectFiles, folder: string): string[] {
  const isBuilt = project.tree.list(folder).some(({ name }) => /^(?:vite|vue|webpack|rspack|quasar)\.config\.[cm]?[jt]s$/.test(name));
  const own = ["index.html", "src/index.html", "public/index.html"]
    .map((name) => join(folder, name))
    .filter((file) => project.tree.isFile(file));
  // A script of the build may add what a page lacks.
  return isBuilt ? own.slice(0, 1) : [];
}

/** A page: its scripts and its content policy. */
function webPageOf(
  project: ProjectFiles,
  { file, first, root }: { file: string; first: string; root: string },
  text: string,
  source: Source,
): WebPage {
  const page: WebPage = { file, first: file === first, scripts: [], open: LOADS_MORE.test(text) };
  for (const match of text.matchAll(/<script\b[^>]{0,1000}?\bsrc\s*=\s*["']([^"'\n]+)["']/gi)) {
    const src = (match[1] as string).replace(/[?#].*$/, "");
    if (/^(\w+:)?\/\//.test(src)) continue;
    const script = join(src.startsWith("/") ? root : parentOf(file), src.replace(/^\//, ""));
    page.scripts.push(script, ...mergedFiles(project, root, script).map((own) => own.file));
  }
  for (const match of text.matchAll(/<script\b[^>]{0,200}?\btype\s*=\s*["']module["'][^>]{0,200}>([\s\S]{0,20000}?)<\/script>/gi))
    for (const inner of (match[1] ?? "").matchAll(/\bimport\b[^"'\n]*["'](\.[^"'\n]+)["']/g))
      page.scripts.push(join(parentOf(file), inner[1] as string));
  const policy =
    /<meta\b[^>]{0,200}?http-equiv\s*=\s*["']Content-Security-Policy["'][^>]{0,200}?\bcontent\s*=\s*(["'])([\s\S]{0,4000}?)\1/i.exec(text);
  if (policy) page.policy = { text: policy[2] as string, at: source.place(policy.index + policy[0].indexOf(policy[2] as string)) };
  const inline =
    /<script\b(?![^>]{0,1000}?\bsrc\s*=)(?![^>]{0,200}?\btype\s*=\s*["']?(?!text\/javascript|module))[^>]{0,1000}>(?!\s*<\/script)/i.exec(
      text,
    );
  if (inline) page.inline = source.place(inline.index);
  return page;
}
