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
import { stepsOf, type PageReading, type PageStep } from "./page-steps.js";

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

/** What a page says, with the sheet that it makes. */
export interface PackagePage extends PageReading {
  page: Page;
  sheet: Sheet;
}

const README = /^readme(\.(md|markdown|html?))?$/i;
/** A page is for people: a larger one is something else. In UTF-16 units. */
const MAX_LENGTH = 2 * 1024 * 1024;

/** The page that comes with an installed package, or that lies in a folder with one. */
export function pageOfPackage(project: ProjectFiles, name: string, from: string): Page | undefined {
  const folders = [findInstalled(project, from, name)?.folder, join(from, `plugins/${name}`)].filter((folder) => folder !== undefined);
  for (const folder of folders) {
    const page = pageIn(project, folder);
    if (page) return page;
  }
  return undefined;
}

/** The page in a folder. */
export function pageIn(project: ProjectFiles, folder: string): Page | undefined {
  const entry = project.tree.list(folder).find(({ name, kind }) => kind === "file" && README.test(name));
  const file = entry && join(folder, entry.name);
  const source = file === undefined ? undefined : project.text(file);
  return source && file !== undefined ? { file, text: source.text } : undefined;
}

/** Reads a page of a package: the steps that it gives, as the needs of a sheet. */
export async function readPage(page: Page, name: string): Promise<PackagePage> {
  const text = page.text
    .slice(0, MAX_LENGTH)
    .replace(/^\ufeff/, "")
    .replace(/\r\n?/g, "\n");
  const blocks: PageBlock[] =
    /\.html?$/i.test(page.file) || /^\s*<(!doctype|html)\b/i.test(text) ? await readHtmlPage(text) : await readMarkdown(text);
  const reading = stepsOf(blocks, name);
  const at = (line: number): Place => ({ file: page.file, line, column: 1 });
  const sheet: Sheet = {
    sdk: "",
    title: name,
    docs: undefined,
    file: page.file,
    scope: "",
    agree: undefined,
    packages: new Map(),
    needs: reading.steps.flatMap(({ on, kind, value, optional, line }): SheetNeed[] => {
      const need: SheetNeed = {
        kind,
        value,
        on,
        from: undefined,
        before: undefined,
        frameworks: [],
        variant: undefined,
        with: undefined,
        why: undefined,
        at: at(line),
        valueAt: at(line),
        ...(optional ? { optional: true } : {}),
      };
      return [need];
    }),
    patterns: new Map(),
    searches: new Map(),
    at: at(1),
  };
  return { ...reading, page, sheet };
}

/** What a page asks for, and what the package's own files do, held against an app. A package that is not in it is taken as if it were. */
export function packageNeeds(app: App, name: string, page: PackagePage | undefined): PackageNeeds {
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
  return { app, package: name, sdk, isIn: first !== undefined, trace: { ...trace, sides } };
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
export function sheetFromPage({ steps, rest, page }: PackagePage, name: string, ecosystem: Dependency["ecosystem"], sdk: string): string {
  const key = KEY_OF[ecosystem] ?? "npm";
  const file = baseName(page.file);
  const value = ({ value: of }: PageStep): string => (typeof of === "string" ? scalar(of) : JSON.stringify(of));
  return `${[
    `sdk: ${sdk}`,
    `title: ${scalar(name)}`,
    `packages:`,
    `  ${key}: ${scalar(name)}`,
    ...(steps.length === 0 ? ["needs: []"] : ["needs:"]),
    ...steps.flatMap((step) => [
      `  - on: ${step.on}`,
      `    ${step.kind}: ${value(step)}  # ${file}:${step.line}${step.section === "" ? "" : `, ${oneLine(step.section)}`}`,
      ...(step.optional ? ["    optional: true"] : []),
    ]),
    ...rest.map(({ section, line, text }) => `# by hand, or not understood: ${file}:${line}, ${oneLine(section)}: ${oneLine(text)}`),
  ].join("\n")}\n`;
}

/** Text for a comment: in one line, without control signs. */
function oneLine(text: string): string {
  return text
    .replace(/[\u0000-\u001f\u007f-\u009f]+/g, " ")
    .trim()
    .slice(0, 100);
}
