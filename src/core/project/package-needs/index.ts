import type { App } from "../../model/app.js";
import type { Dependency } from "../../model/facts.js";
import { baseName, join } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { KEY_OF, type Sheet, type SheetNeed } from "../../model/sheet.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { traceOf, type Trace } from "../../needs/index.js";
import { scalar } from "../../needs/drafting.js";
import { findInstalled } from "../../gather/packages/packages.js";
import type { ProjectFiles } from "../../gather/project-files.js";
import { readHtmlPage, readMarkdown, type PageBlock } from "../../syntax/page.js";
import { stepsOf, type PageLink, type PageReading, type PageRest, type PageStep } from "./page-steps.js";

/** A page on which a package says how it is set up. */
export interface Page {
  /** As people know it: a path. */
  file: string;
  text: string;
}

/** What a package asks for, and what of it is done in one app. */
export interface PackageNeeds {
  app: App;
  package: string;
  sdk: string;
  /** Whether the app has the package; without it the answer is what would have to be done. */
  isIn: boolean;
  trace: Trace;
}

/** What a page says, and those in the package to which it leads, with the sheet that they make. */
export interface PackagePage {
  page: Page;
  steps: (PageStep & { file: string })[];
  rest: (PageRest & { file: string })[];
  /** Pages about setting up to which it leads and that are not in the package. */
  links: PageLink[];
  sheet: Sheet;
}

const README = /^readme(\.(md|markdown|html?))?$/i;
/** How much of a page is read: several times the longest that was seen. In UTF-16 units. */
const MAX_LENGTH = 256 * 1024;

/** The page that comes with an installed package, or that lies in a folder with one. */
export function pageOfPackage(project: ProjectFiles, name: string, from: string): Page | undefined {
  const folders = [findInstalled(project, from, name)?.folder, join(from, `plugins/${name}`)].filter((folder) => folder !== undefined);
  for (const folder of folders) {
    const page = pageIn(project, folder);
    if (page) return page;
  }
  return undefined;
}

/** Gives pages that lie in a folder, by their paths in it. */
export function pagesBeside(project: ProjectFiles, folder: string): (path: string) => Page | undefined {
  return (path) => {
    const file = join(folder, path);
    const source = project.tree.isFile(file) ? project.text(file) : undefined;
    return source && { file, text: source.text };
  };
}

/** The page in a folder. */
export function pageIn(project: ProjectFiles, folder: string): Page | undefined {
  const entry = project.tree.list(folder).find(({ name, kind }) => kind === "file" && README.test(name));
  const file = entry && join(folder, entry.name);
  const source = file === undefined ? undefined : project.text(file);
  return source && file !== undefined ? { file, text: source.text } : undefined;
}

/**
 * Reads a page of a package, and the pages beside it to which it leads for setting up: the steps that they give, as the needs of a sheet.
 * @param beside gives the text of a page by its path from the first; nothing where it is not there
 */
export async function readPage(page: Page, name: string, beside?: (path: string) => Page | undefined): Promise<PackagePage> {
  const first = await readOne(page, name);
  const links: PageLink[] = [];
  const pages = [{ page, reading: first }];
  for (const link of first.links) {
    const path = link.to.replace(/^\.\//, "").replace(/#.*$/, "");
    const further = /^[\w./ -]+\.(md|markdown)$/i.test(path) && !path.includes("..") ? beside?.(path) : undefined;
    if (further) pages.push({ page: further, reading: await readOne(further, name) });
    else links.push(link);
  }
  const steps = pages.flatMap(({ page: { file }, reading }) => reading.steps.map((step) => ({ ...step, file })));
  // What two pages ask for is one step.
  const unique = [
    ...new Map(steps.toReversed().map((step) => [`${step.on} ${step.kind} ${JSON.stringify(step.value)}`, step])).values(),
  ].toReversed();
  return {
    page,
    steps: unique,
    rest: pages.flatMap(({ page: { file }, reading }) => reading.rest.map((one) => ({ ...one, file }))),
    links,
    sheet: sheetOf(page, name, unique),
  };
}

async function readOne(page: Page, name: string): Promise<PageReading> {
  const text = page.text
    .slice(0, MAX_LENGTH)
    .replace(/^\ufeff/, "")
    .replace(/\r\n?/g, "\n");
  const blocks: PageBlock[] =
    /\.html?$/i.test(page.file) || /^\s*<(!doctype|html)\b/i.test(text) ? await readHtmlPage(text) : await readMarkdown(text);
  const reading = stepsOf(blocks, name);
  if (page.text.length <= MAX_LENGTH) return reading;
  const line = text.split("\n").length;
  return {
    ...reading,
    rest: [...reading.rest, { section: "", line, optional: false, text: "the page goes on, and is not read from here on" }],
  };
}

function sheetOf(page: Page, name: string, steps: PackagePage["steps"]): Sheet {
  return {
    sdk: "",
    title: name,
    docs: undefined,
    file: page.file,
    scope: "",
    agree: undefined,
    packages: new Map(),
    needs: steps.map(({ on, kind, value, optional, expo, file, line }): SheetNeed => {
      const at: Place = { file, line, column: 1 };
      return {
        kind,
        value,
        on,
        from: undefined,
        before: undefined,
        frameworks: expo ? ["expo"] : [],
        variant: undefined,
        with: undefined,
        why: undefined,
        at,
        valueAt: at,
        ...(optional ? { optional: true } : {}),
      };
    }),
    patterns: new Map(),
    searches: new Map(),
    at: { file: page.file, line: 1, column: 1 },
  };
}

/**
 * What a page asks for, and what the package's own files do, held against an app. A package that is not in it is taken as if it were.
 * @param guest whether the package is only seen as if it were in the app
 */
export function packageNeeds(app: App, name: string, page: PackagePage | undefined, guest = false): PackageNeeds {
  const own = app.dependencies.filter((dependency) => dependency.name === name && !dependency.test);
  const [first] = own;
  const ecosystem = first?.ecosystem ?? "npm";
  const sdk = first?.sdk ?? sdkIdOf(ecosystem, name);
  const key = KEY_OF[ecosystem];
  const sheet: Sheet | undefined = page && { ...page.sheet, sdk, packages: new Map(key ? [[key, [name]]] : []) };
  const seen: App = {
    ...app,
    dependencies: first ? app.dependencies : [...app.dependencies, ...asIfIn(app, name, ecosystem, sdk)],
    sheets: [...new Set([...app.sheets, sdk])],
  };
  const trace = traceOf(seen, sheet ? [sheet] : [], sdk);
  // What the package's files ask for as well is told once, by the page.
  const used = new Set(app.guardedUses.flatMap(({ by, keys, perhaps }) => (by === name && !perhaps ? keys : [])));
  const sides = trace.sides.map((side) => ({
    ...side,
    // What the page leaves to the app and the package's own code uses anyway is needed.
    wires: side.wires
      .map((wire) => (wire.need.optional && used.has(wire.wanted) ? { ...wire, need: { ...wire.need, optional: false } } : wire))
      .filter(
        ({ need }) =>
          need.derived === undefined || !side.wires.some((other) => other.need.derived === undefined && other.need.what === need.what),
      ),
  }));
  return { app, package: name, sdk, isIn: first !== undefined && !guest, trace: { ...trace, sides } };
}

function asIfIn(app: App, name: string, ecosystem: Dependency["ecosystem"], sdk: string): Dependency[] {
  return (["shared", "android", "ios"] as const)
    .filter((side) => app[side] !== undefined)
    .map((side) => ({
      sdk,
      side,
      ecosystem,
      name,
      route: "registry",
      declared: undefined,
      locked: undefined,
      scope: "",
      in: app.name,
      direct: true,
      test: false,
      platform: false,
      conditional: false,
      native: { android: app.android !== undefined, ios: app.ios !== undefined },
      places: [],
    }));
}

/** A sheet with what a page asks for, each with the line of the page; what is for some apps only is marked so. */
export function sheetFromPage({ steps, rest, links }: PackagePage, name: string, ecosystem: Dependency["ecosystem"], sdk: string): string {
  const key = KEY_OF[ecosystem] ?? "npm";
  const value = ({ value: of }: PageStep): string => {
    if (typeof of === "string") return scalar(of);
    // A name alone is the short form.
    return Object.keys(of).join() === "name" && typeof of.name === "string" ? scalar(of.name) : JSON.stringify(of);
  };
  return `${[
    `sdk: ${sdk}`,
    `title: ${scalar(name)}`,
    `packages:`,
    `  ${key}: ${scalar(name)}`,
    ...(steps.length === 0 ? ["needs: []"] : ["needs:"]),
    ...steps.flatMap((step) => [
      `  - on: ${step.on}`,
      `    ${step.kind}: ${value(step)}  # ${baseName(step.file)}:${step.line}${step.section === "" ? "" : `, ${oneLine(step.section)}`}`,
      ...(step.expo ? ["    framework: expo"] : []),
      ...(step.optional ? ["    optional: true"] : []),
    ]),
    ...rest.map(
      ({ file, section, line, text }) => `# by hand, or not understood: ${baseName(file)}:${line}, ${oneLine(section)}: ${oneLine(text)}`,
    ),
    ...links.map(({ to }) => `# the page leads elsewhere: ${oneLine(to)}`),
  ].join("\n")}\n`;
}

/** Text for a comment: in one line, without control signs. */
function oneLine(text: string): string {
  return text
    .replace(/[\u0000-\u001f\u007f-\u009f]+/g, " ")
    .trim()
    .slice(0, 100);
}
