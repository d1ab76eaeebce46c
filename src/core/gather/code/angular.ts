import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { AssetFault, CodeFacts, LostImport, PageFault } from "../../model/code.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import { startOf } from "../../model/place.js";
import { nearest } from "../../model/suggest.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, entriesOf, itemsOf, textAt, type Data } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { angularBuilder, type PageBuilder } from "../packages/page-builder.js";
import { majorOf } from "./package-roots.js";
import { isScript, type SourceFile } from "./sources.js";

/** A script, or the template of a component, without its comments. */
interface Text {
  source: Pick<SourceFile, "file" | "place">;
  text: string;
}

interface Angular {
  faults: PageFault[];
  roots: CodeFacts["lackingRoots"];
  screens: CodeFacts["lostScreens"];
  imports: LostImport[];
  assets: AssetFault[];
}

const NOTHING: Angular = { faults: [], roots: [], screens: [], imports: [], assets: [] };

/**
 * What an app whose pages are made with Angular needs so that they come up, and names in its code that lead nowhere. Sources: angular.dev, "Dependency
 * injection" (providedIn, providers), "HTTP interceptors" (withInterceptors), "Routing" (redirects, parameters, the base of the page), "Zoneless" (from 21 on
 * the default), "Workspace configuration" (fileReplacements, assets, polyfills).
 */
export function angularFaults(project: ProjectFiles, app: App, sources: readonly SourceFile[]): Angular {
  const core = app.dependencies.find(({ ecosystem, name }) => ecosystem === "npm" && name === "@angular/core");
  if (!core || !app.shared || (app.kind !== "capacitor" && app.kind !== "cordova")) return NOTHING;
  const scripts = sources.flatMap((source): Text[] =>
    source.side === "shared" && isScript(source.language) && !/\.(spec|test)\.[jt]s$|(^|\/)(e2e|cypress)\//.test(source.file)
      ? [{ source, text: withoutComments(source.text) }]
      : [],
  );
  const components = new Components(project, scripts);
  const builder = angularBuilder(project, app.shared.folder);
  return {
    faults: [
      ...unprovidedServices(scripts),
      ...unprovidedClasses(scripts),
      ...lostValues(project, builder, scripts),
      ...lostTexts(project, app.shared.folder, components.templates, scripts),
      ...unaddedIcons(project, app.shared.folder, builder, scripts, components.templates),
      ...rootOfPage(project, app.shared.folder, builder, scripts),
    ],
    roots: [...lackingParts(project, app, app.shared.folder, builder, scripts), ...unlikeMajors(app, majorOf(core))],
    screens: lostRoutes(scripts, components.templates),
    imports: components.lost,
    assets: lostPictures(project, app.shared.folder, builder, components.templates),
  };
}

/** Templates of components, with the files that their decorators name and that are not there. */
class Components {
  readonly templates: Text[] = [];
  readonly lost: LostImport[] = [];

  constructor(project: ProjectFiles, scripts: readonly Text[]) {
    for (const { source, text } of scripts) {
      if (!text.includes("@Component")) continue;
      for (const match of text.matchAll(/\btemplate\s*:\s*`([^`]*)`/g)) {
        const from = match.index + match[0].length - 1 - (match[1] as string).length;
        this.templates.push({ source: { file: source.file, place: (offset) => source.place(from + offset) }, text: match[1] as string });
      }
      for (const match of text.matchAll(/\btemplateUrl\s*:\s*(["'])(\.[^"'\n]+)\1/g)) {
        const page = project.text(join(parentOf(source.file), match[2] as string));
        if (page)
          this.templates.push({
            source: { file: page.file, place: (offset) => page.place(offset) },
            text: page.text.replace(/<!--[\s\S]*?(?:-->|$)/g, (remark) => " ".repeat(remark.length)),
          });
      }
      for (const list of text.matchAll(/\bstyleUrls?\s*:\s*(?:\[[^\]]*\]|["'][^"'\n]+["'])/g))
        for (const match of list[0].matchAll(/(["'])(\.[^"'\n]+)\1/g)) {
          const file = join(parentOf(source.file), match[2] as string);
          if (!file.startsWith("..") && !project.tree.isFile(file))
            this.lost.push({ name: match[2] as string, file, certain: true, at: source.place(list.index + match.index) });
        }
    }
  }
}

/** Classes of the app's own that are to be handed out by their type, and that nothing provides. */
function unprovidedServices(scripts: readonly Text[]): PageFault[] {
  const homes = new Map<string, Text>();
  for (const script of scripts)
    for (const [, name = ""] of script.text.matchAll(/\bclass\s+([A-Z]\w*)/g)) if (!homes.has(name)) homes.set(name, script);
  const provided = namesProvided(scripts);
  const told = new Set<string>();
  return scripts.flatMap(({ source, text }) => {
    const asked = [
      ...[...text.matchAll(/\binject\(\s*([A-Z]\w*)\s*\)/g)].map((match) => ({ name: match[1] as string, index: match.index })),
      ...(/@(?:Component|Injectable|Directive|Pipe)\s*\(/.test(text)
        ? [...text.matchAll(/\bconstructor\s*\(/g)].flatMap((match) => {
            const open = match.index + match[0].length - 1;
            const given = text.slice(open, closing(text, open));
            return [
              ...given.matchAll(/(?:^\(|,)\s*(?:(?:private|public|protected|readonly|override)\s+)*\w+\s*:\s*([A-Z]\w*)\s*(?=,|$)/g),
            ].map((one) => ({ name: one[1] as string, index: open + one.index }));
          })
        : []),
    ];
    return asked.flatMap(({ name, index }): PageFault[] => {
      const home = homes.get(name);
      if (!home || told.has(name) || !isUnprovided(name, home.text, provided)) return [];
      told.add(name);
      const around = [...text.slice(0, index).matchAll(/\bclass\s+(\w+)/g)].at(-1)?.[1] ?? baseName(source.file);
      return [{ what: "provider", name, near: around, at: source.place(index) }];
    });
  });
}

function isUnprovided(name: string, home: string, provided: ReadonlySet<string>): boolean {
  const before = home.slice(0, home.search(new RegExp(`\\bclass\\s+${name}\\b`)));
  const decorators = before.slice(
    Math.max(...["Injectable", "Component", "Directive", "Pipe", "NgModule"].map((one) => before.lastIndexOf(`@${one}(`)), 0),
  );
  return !/@(?:Component|Directive|Pipe|NgModule)\s*\(|\bprovidedIn\b/.test(decorators) && !provided.has(name);
}

/** Names that stand in a list of providers, whatever it is called, or in what a function gives that provides. */
function namesProvided(scripts: readonly Text[]): ReadonlySet<string> {
  const found = new Set<string>();
  for (const { text } of scripts)
    for (const [part] of text.matchAll(/provid\w*[^;]*/gi)) {
      for (const [, name = ""] of part.matchAll(/\bprovide\s*:\s*(\w+)/g)) found.add(name);
      for (const [, name = ""] of part.matchAll(/(?:[[,]|\.{3}|:)\s*(\w+)\s*(?=[,\]}])/g)) found.add(name);
    }
  return found;
}

/** What a class or a function is made for, and how it comes to be used. */
const MADE_FOR: readonly [form: RegExp, fix: (name: string) => string][] = [
  [/\bclass\s+(\w+)\s+(?:extends\s+\w+\s+)?implements\s+[^{]*\bErrorHandler\b/g, (name) => `{ provide: ErrorHandler, useClass: ${name} }`],
  [
    /\bclass\s+(\w+)\s+(?:extends\s+\w+\s+)?implements\s+[^{]*\bHttpInterceptor\b/g,
    (name) => `{ provide: HTTP_INTERCEPTORS, useClass: ${name}, multi: true }`,
  ],
  [/\bclass\s+(\w+)\s+extends\s+ErrorHandler\b/g, (name) => `{ provide: ErrorHandler, useClass: ${name} }`],
  [/\bconst\s+(\w+)\s*:\s*HttpInterceptorFn\b/g, (name) => `provideHttpClient(withInterceptors([${name}]))`],
];

/** Handlers of errors and of requests that nothing names. */
function unprovidedClasses(scripts: readonly Text[]): PageFault[] {
  return scripts.flatMap(({ source, text }) =>
    MADE_FOR.flatMap(([form, fix]) =>
      [...text.matchAll(form)].flatMap((match): PageFault[] => {
        const name = match[1] as string;
        const uses = scripts.some((other) =>
          [...other.text.matchAll(new RegExp(`\\b${name}\\b`, "g"))].some(
            ({ index }) =>
              !(other.source === source && index >= match.index && index < match.index + match[0].length) && !isImported(other.text, index),
          ),
        );
        return uses ? [] : [{ what: "unprovided", name, near: fix(name), at: source.place(match.index) }];
      }),
    ),
  );
}

/** Whether a place of a script lies in the list of an import or of what is handed on. */
function isImported(text: string, index: number): boolean {
  const before = text.slice(Math.max(0, index - 400), index);
  const from = Math.max(before.lastIndexOf("import "), before.lastIndexOf("export {"));
  return from !== -1 && !/[;\n]\s*(?!\s)|\bfrom\b/.test(before.slice(from).replace(/\{[^}]*$/, (list) => list.replace(/\s/g, " ")));
}

/** Values of the file for development that the one in its place lacks in the build that ships. */
function lostValues(project: ProjectFiles, builder: PageBuilder | undefined, scripts: readonly Text[]): PageFault[] {
  return (builder?.replaced ?? []).flatMap(({ file, by }): PageFault[] => {
    const [own, other] = [keysOf(project.text(file)?.text), keysOf(project.text(by)?.text)];
    if (!own || !other) return [];
    return [...own].flatMap((name): PageFault[] => {
      const isRead = scripts.some(({ text }) => new RegExp(`\\benvironment\\s*\\.\\s*${name}\\b`).test(text));
      return other.has(name) || !isRead ? [] : [{ what: "replaced value", name, of: by, near: file, at: startOf(by) }];
    });
  });
}

/** Names in the first level of the object that a file gives out as `environment`. */
function keysOf(whole: string | undefined): Set<string> | undefined {
  const text = whole === undefined ? "" : withoutComments(whole);
  const head = /\bexport\s+const\s+environment\s*(?::\s*[\w.<>]+\s*)?=\s*\{/.exec(text);
  if (!head) return undefined;
  const from = head.index + head[0].length - 1;
  const body = text.slice(from + 1, closing(text, from));
  if (body.includes("...")) return undefined;
  const found = new Set<string>();
  let depth = 0;
  for (const match of body.matchAll(/[{([]|[})\]]|(?:^|[,{\s])(["']?)([A-Za-z_]\w*)\1\s*(?=[:,}]|$)/g)) {
    if (/^[{([]$/.test(match[0])) depth++;
    else if (/^[})\]]$/.test(match[0])) depth--;
    else if (depth === 0) found.add(match[2] as string);
  }
  return found;
}

/** Texts that pages ask for by a key which no file of texts has. Source: the documents of ngx-translate ("assets/i18n"). */
function lostTexts(project: ProjectFiles, folder: string, templates: readonly Text[], scripts: readonly Text[]): PageFault[] {
  const home = ["src/assets/i18n", "public/i18n", "public/assets/i18n"]
    .map((path) => join(folder, path))
    .find((path) => project.tree.isFolder(path));
  const entries = home === undefined ? [] : project.tree.list(home);
  // Parts of an app may have texts of their own below.
  if (home === undefined || entries.some(({ kind }) => kind === "folder")) return [];
  const files = entries.flatMap(({ name }) => (name.endsWith(".json") ? [join(home, name)] : []));
  const keys = new Set<string>();
  for (const file of files) {
    const root = project.json(file)?.root;
    if (!root) return [];
    const visit = (data: Data, path: string): void => {
      for (const [key, { value }] of entriesOf(data)) {
        const own = path === "" ? key : `${path}.${key}`;
        keys.add(own);
        if (value.kind === "map") visit(value, own);
      }
    };
    visit(root, "");
  }
  if (keys.size === 0) return [];
  const told = new Set<string>();
  const form =
    /(["'])([A-Za-z][\w-]*(?:\.[\w-]+)+|[A-Z][A-Z\d_.]+)\1\s*\|\s*translate\b|\btranslate(?:Service)?\s*\.\s*(?:instant|get|stream)\(\s*(["'])([\w.-]+)\3/g;
  return [...templates, ...scripts].flatMap(({ source, text }) =>
    [...text.matchAll(form)].flatMap((match): PageFault[] => {
      const name = (match[2] ?? match[4]) as string;
      if (keys.has(name) || told.has(name) || name.endsWith(".")) return [];
      told.add(name);
      return [{ what: "text", name, of: home, near: [...keys].find((key) => distance(key, name) <= 3), at: source.place(match.index) }];
    }),
  );
}

/** Icons that pages show by name and that nothing adds. Source: ionicframework.com, "Angular standalone" (addIcons: components alone load no icons). */
function unaddedIcons(
  project: ProjectFiles,
  folder: string,
  builder: PageBuilder | undefined,
  scripts: readonly Text[],
  templates: readonly Text[],
): PageFault[] {
  // Where the builder copies all of them, they are found by their names.
  if (!builder || /ionicons/.test(project.text(join(folder, builder.by))?.text ?? "")) return [];
  if (!scripts.some(({ text }) => /\bIonIcon\b[^;]*["']@ionic\/angular\/standalone["']/.test(text))) return [];
  const added = new Set<string>();
  for (const { text } of scripts) {
    if (/\bIonicModule\b/.test(text)) return [];
    for (const match of text.matchAll(/\baddIcons\s*\(\s*(?:\{([^{}]*)\})?/g)) {
      if (match[1] === undefined || match[1].includes("...")) return [];
      for (const [, key = ""] of match[1].matchAll(/(?:^|,)\s*["']?([\w-]+)/g))
        added.add(key.replace(/[A-Z]/g, (sign) => `-${sign.toLowerCase()}`));
    }
  }
  const told = new Set<string>();
  return templates.flatMap(({ source, text }) =>
    [...text.matchAll(/<ion-icon\b[^<>]*?\sname\s*=\s*"([\w-]+)"/g)].flatMap((match): PageFault[] => {
      const name = match[1] as string;
      if (added.has(name) || told.has(name)) return [];
      told.add(name);
      return [{ what: "icon", name, near: [...added].find((other) => distance(other, name) <= 2), at: source.place(match.index) }];
    }),
  );
}

/** Packages that come out together, and of which one is of another major version. Source: the peers in package.json of each ("@angular/core": its own version). */
const TOGETHER = /^@angular\/(?:animations|common|compiler|forms|platform-browser|platform-browser-dynamic|router|service-worker)$/;

function unlikeMajors({ dependencies }: App, major: number): CodeFacts["lackingRoots"] {
  return dependencies.flatMap((one): CodeFacts["lackingRoots"] => {
    const own = one.ecosystem === "npm" && one.direct && TOGETHER.test(one.name) ? majorOf(one) : 0;
    const [place] = one.places;
    return own === 0 || major === 0 || own === major || !place
      ? []
      : [
          {
            package: one.name,
            what: `@angular/core ${String(own)}`,
            without: `${String(major)} is declared, and they are not made for each other`,
            at: place,
            isStep: true,
          },
        ];
  });
}

/** The page that the builder begins with. */
function pageOf(project: ProjectFiles, folder: string, builder: PageBuilder | undefined): ReturnType<ProjectFiles["text"]> {
  const stated = textAt(builder?.options, "index") ?? textAt(builder?.options, "index", "input");
  return project.text(join(folder, stated ?? "src/index.html"));
}

/** The element of the component that the app begins with, which the page has to have. */
function rootOfPage(project: ProjectFiles, folder: string, builder: PageBuilder | undefined, scripts: readonly Text[]): PageFault[] {
  const page = pageOf(project, folder, builder);
  const begun = scripts.flatMap(
    ({ text }) => /\bbootstrapApplication\(\s*(\w+)/.exec(text)?.[1] ?? /\bbootstrap\s*:\s*\[\s*(\w+)\s*,?\s*\]/.exec(text)?.[1] ?? [],
  );
  const [name, another] = [...new Set(begun)];
  if (!page || name === undefined || another !== undefined) return [];
  return scripts.flatMap(({ text }): PageFault[] => {
    const before = new RegExp(`@Component\\s*\\(\\s*\\{((?:(?!@Component)[\\s\\S])*?)\\bclass\\s+${name}\\b`).exec(text)?.[1];
    const selector = before === undefined ? undefined : /\bselector\s*:\s*(["'])([a-z][\w-]*)\1/.exec(before)?.[2];
    return selector === undefined || new RegExp(`<${selector}[\\s/>]`).test(page.text)
      ? []
      : [{ what: "root element", name: selector, of: page.file, near: name, at: startOf(page.file) }];
  });
}

/** From this major version on nothing is asked of a zone. */
const ZONELESS_SINCE = 21;

/** What the app has to have before its first component comes up. */
function lackingParts(
  project: ProjectFiles,
  app: App,
  folder: string,
  builder: PageBuilder | undefined,
  scripts: readonly Text[],
): CodeFacts["lackingRoots"] {
  const has = (form: RegExp): boolean => scripts.some(({ text }) => form.test(text));
  if (!has(/\bbootstrapApplication\s*\(|\bbootstrapModule\s*\(/)) return [];
  const found: CodeFacts["lackingRoots"] = [];
  const lacks = (name: string, what: string, without: string, file: string): void => {
    found.push({ package: name, what, without, at: startOf(file), isStep: true });
  };
  if (builder && asksForZone(app) && !takesZone(project, folder, builder) && !has(WITHOUT_ZONE))
    lacks("@angular/core", "zone.js among the polyfills", "the app does not begin", join(folder, builder.by));
  const page = pageOf(project, folder, builder);
  const isRouted = has(/\bprovideRouter\s*\(|\bRouterModule\s*\.\s*forRoot\b/);
  if (page && isRouted && !/<base\b/i.test(page.text) && !has(/\bAPP_BASE_HREF\b|\bwithHashLocation\b|\buseHash\s*:\s*true/))
    lacks("@angular/router", '<base href="/"> in the page', "the router fails when it begins", page.file);
  return found;
}

/** Code that brings the zone in itself, or goes without. */
const WITHOUT_ZONE = /["']zone\.js|\bprovide(?:Experimental)?ZonelessChangeDetection\b|\bngZone\s*:\s*["']noop/;

function asksForZone({ dependencies }: App): boolean {
  const of = (name: string): App["dependencies"][number] | undefined =>
    dependencies.find((one) => one.ecosystem === "npm" && one.name === name);
  const major = majorOf(of("@angular/core"));
  return of("zone.js") !== undefined && major > 0 && major < ZONELESS_SINCE;
}

function takesZone(project: ProjectFiles, folder: string, { options }: PageBuilder): boolean {
  const polyfills = at(options, "polyfills");
  const named = polyfills ? [textAt(polyfills) ?? "", ...itemsOf(polyfills).map((item) => textAt(item) ?? "")] : [];
  return named.some(
    (name) =>
      name.startsWith("zone.js") || (name.endsWith(".ts") && /\bzone\.js\b/.test(project.text(join(folder, name))?.text ?? "zone.js")),
  );
}

const GOES =
  /\bnavigateByUrl\(\s*(["'`])\/([^"'`?#/$]*)|\b(?:navigate|createUrlTree|navigate(?:Forward|Back|Root))\(\s*\[?\s*(["'`])\/([^"'`?#/$]*)/g;
const LINKS = /\brouterLink\s*=\s*(["'])\/([^"'?#/{]*)|\[routerLink\]\s*=\s*"\s*\[?\s*(')\/([^'?#/]*)/g;

/** The first parts of the paths of all routes, and their parameters; `undefined` where one takes any, or is worked out. */
function routesWritten(scripts: readonly Text[]): { first: Set<string>; parameters: Set<string> } | undefined {
  const first = new Set<string>();
  const parameters = new Set<string>();
  for (const { text } of scripts) {
    if (!/\bRoutes\b|\bRoute\[\]|\bprovideRouter\b|\bRouterModule\b/.test(text)) continue;
    for (const match of text.matchAll(/(?<![\w.])path\s*:\s*(?:(["'`])([^"'`$]*)\1|([^,\s}]))/g)) {
      const path = match[2];
      const parts = path?.split("/").filter(Boolean) ?? [];
      if (path === undefined || path === "**" || parts[0]?.startsWith(":")) return undefined;
      if (parts[0] !== undefined) first.add(parts[0]);
      for (const part of parts) if (part.startsWith(":")) parameters.add(part.slice(1));
    }
    if (/\bmatcher\s*:/.test(text)) return undefined;
  }
  return first.size > 0 ? { first, parameters } : undefined;
}

/** Paths and parameters that no route has, where all routes are written out. */
function lostRoutes(scripts: readonly Text[], templates: readonly Text[]): CodeFacts["lostScreens"] {
  const routes = routesWritten(scripts);
  if (!routes) return [];
  const { first, parameters } = routes;
  const told = new Set<string>();
  const found: CodeFacts["lostScreens"] = [];
  const look = (what: "path" | "parameter", name: string, known: ReadonlySet<string>, { source }: Text, index: number): void => {
    if (name === "" || known.size === 0 || known.has(name) || told.has(`${what} ${name}`)) return;
    told.add(`${what} ${name}`);
    found.push({ what, name, near: nearest(name, [...known]), at: source.place(index) });
  };
  for (const script of scripts) {
    for (const match of script.text.matchAll(GOES)) look("path", match[2] ?? match[4] ?? "", first, script, match.index);
    for (const match of script.text.matchAll(/(?<!query\w*)\bparamMap\s*\.\s*get\(\s*(["'])(\w+)\1/g))
      look("parameter", match[2] as string, parameters, script, match.index);
  }
  for (const page of templates)
    for (const match of page.text.matchAll(LINKS)) look("path", match[2] ?? match[4] ?? "", first, page, match.index);
  return found;
}

/** Pictures that pages show and no file is, or that the builder does not copy. */
function lostPictures(project: ProjectFiles, folder: string, builder: PageBuilder | undefined, templates: readonly Text[]): AssetFault[] {
  const assets = at(builder?.options, "assets");
  if (!builder) return [];
  const inputs = assets ? itemsOf(assets).map((item) => textAt(item) ?? textAt(item, "input") ?? "") : [];
  return templates.flatMap(({ source, text }) =>
    [...text.matchAll(/<(?:img|ion-img)\b[^<>]*?\ssrc\s*=\s*"(?:\.\/|\/)?(assets\/[^"{}]+)"/g)].flatMap((match): AssetFault[] => {
      const asset = match[1] as string;
      const file = ["src", "public", "src/public"].map((home) => join(home, asset)).find((path) => project.tree.isFile(join(folder, path)));
      const isThere = file !== undefined;
      if (isThere && inputs.some((input) => isWithin(file, input.replace(/^\.\/|\/$/g, "")))) return [];
      // What is copied from elsewhere is not looked for.
      if (!isThere && inputs.some((input) => /node_modules|\.\.\//.test(input))) return [];
      return [{ what: isThere ? "uncopied" : "absent", asset, at: source.place(match.index) }];
    }),
  );
}
