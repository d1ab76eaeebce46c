import { join, parentOf, relativeTo, baseName } from "../../model/paths.js";
import { startOf, type Place } from "../../model/place.js";
import { reason } from "../../model/reason.js";
import { either, known, unknown, type Value } from "../../model/value.js";
import type { XmlElement } from "../../syntax/xml.js";
import { holds } from "./condition.js";
import { expand, MOST_OPTIONS, ROOT, valueOf, type Scope, type Worked } from "./expression.js";
import { frameworkParts } from "./functions.js";

/** The files that an evaluation asks for, by their paths from the survey's root. */
export interface MsbuildFiles {
  /** The root element of a project file; nothing where there is none, or it is no project. */
  load(file: string): XmlElement | undefined;
  exists(path: string): boolean;
  textOf(file: string): string | undefined;
  /** Whether a solution lies in a folder. */
  hasSolution(folder: string): boolean;
  /** What is worked out once, whoever asks. */
  memo<T>(key: string, make: () => T): T;
}

/** An item of a project: a package, a file with a build action, a reference; or what changes or takes away such. */
export interface MsbuildItem {
  /** `PackageReference`, `BundleResource`, `AndroidAsset`, … */
  kind: string;
  does: "include" | "update" | "remove";
  /** A name, or a path with `*` for anything, relative to the project's folder or from the root (`fromRoot`). */
  include: string;
  fromRoot: boolean;
  /** Patterns that are left out of an include. */
  exclude: readonly string[];
  metadata: ReadonlyMap<string, { value: Value; at: Place }>;
  /** Its condition, or one around it, cannot be worked out. */
  open: boolean;
  at: Place;
}

/** A file that a project takes in. */
export interface MsbuildImport {
  /** As it is written. */
  text: string;
  /** From the root, where it can be worked out. */
  file: string | undefined;
  exists: boolean | undefined;
  /** Its condition cannot be worked out. */
  open: boolean;
  at: Place;
}

/** One project as one build sees it: after all its files, in their order. */
export interface Evaluated {
  file: string;
  folder: string;
  items: readonly MsbuildItem[];
  imports: readonly MsbuildImport[];
  /** Names of configurations that conditions compare with. */
  configurations: readonly string[];
  /** A property in the end; `undefined` where nothing in the files sets it. */
  property(name: string): Value | undefined;
}

interface Statement extends Worked {
  /** A condition around it is not known: the build may not have it. */
  perhaps?: boolean;
}

const MOST_STATEMENTS = 30_000;
const DEEPEST_IMPORT = 30;
/** Files above a project that are taken in by themselves, before and after it. Source: learn.microsoft.com, "Customize the build by folder", "Central package management". */
const BEFORE = ["Directory.Build.props", "Directory.Packages.props"];
const AFTER = ["Directory.Build.targets"];

/**
 * Evaluates a project for one build: properties in their order with what is imported where it is imported, then items.
 * Source: learn.microsoft.com, "How MSBuild builds projects", "Evaluation phase".
 *
 * @param globals properties that the build is started with: they win over what files state. Names are in any case.
 */
export function evaluateProject(files: MsbuildFiles, file: string, globals: Readonly<Record<string, string>>): Evaluated | undefined {
  const root = files.load(file);
  return root && new Evaluation(files, file, globals).run(root);
}

class Evaluation implements Scope {
  private readonly folder: string;
  private readonly properties = new Map<string, Statement>();
  private readonly globals: ReadonlyMap<string, string>;
  private readonly groups: { element: XmlElement; file: string; open: boolean }[] = [];
  private readonly items: MsbuildItem[] = [];
  private readonly imports: MsbuildImport[] = [];
  private readonly imported = new Set<string>();
  private readonly configurations = new Set<string>();
  private left = MOST_STATEMENTS;
  /** The file that is read. */
  private current: string;
  private itself = "";
  /** Properties that are set for other targets than the one that is built. */
  private readonly off = new Set<string>();

  constructor(
    private readonly files: MsbuildFiles,
    private readonly file: string,
    globals: Readonly<Record<string, string>>,
  ) {
    this.folder = parentOf(file);
    this.current = file;
    this.globals = new Map(Object.entries(globals).map(([name, text]) => [name.toLowerCase(), text]));
  }

  run(root: XmlElement): Evaluated {
    for (const name of BEFORE) this.takeAbove(name);
    this.imported.add(this.file);
    this.body(root, this.file, false, 0);
    for (const name of AFTER) this.takeAbove(name);
    for (const { element, file, open } of this.groups) {
      this.current = file;
      // A condition about items sees the properties as they are in the end.
      const fits = this.fits(element);
      if (fits !== false) for (const item of element.children) this.item(item, open || fits === undefined);
    }
    const { file, folder, items, imports, configurations, properties, globals } = this;
    return {
      file,
      folder,
      items,
      imports,
      configurations: [...configurations],
      property: (name) => {
        const given = globals.get(name.toLowerCase());
        if (given !== undefined) return known(given, startOf(file));
        const statement = properties.get(name.toLowerCase());
        return statement && valueOfStatement(statement, startOf(file));
      },
    };
  }

  /** The nearest file of that name, in the project's folder or above. */
  private takeAbove(name: string): void {
    for (let current = this.folder; ; current = parentOf(current)) {
      const file = join(current, name);
      if (this.files.exists(file)) {
        this.take(file, 0, false);
        return;
      }
      if (current === "" || current.startsWith("..")) return;
    }
  }

  private take(file: string, depth: number, open: boolean): boolean {
    if (this.imported.has(file) || depth > DEEPEST_IMPORT) return true;
    const root = this.files.load(file);
    if (!root) return false;
    this.imported.add(file);
    const before = this.current;
    this.body(root, file, open, depth);
    this.current = before;
    return true;
  }

  private body(element: XmlElement, file: string, open: boolean, depth: number): void {
    for (const child of element.children) {
      if (--this.left <= 0) return;
      this.current = file;
      switch (child.name) {
        case "PropertyGroup": {
          const fits = this.fits(child);
          if (fits !== false) for (const property of child.children) this.state(property, open || fits === undefined);
          break;
        }
        case "ItemGroup":
          this.groups.push({ element: child, file, open });
          break;
        case "Import":
          this.import(child, file, open, depth);
          break;
        case "ImportGroup": {
          const fits = this.fits(child);
          if (fits !== false) this.body(child, file, open || fits === undefined, depth);
          break;
        }
        case "Choose":
          this.choose(child, file, open, depth);
          break;
        default:
      }
    }
  }

  private choose(element: XmlElement, file: string, open: boolean, depth: number): void {
    let undecided = open;
    for (const branch of element.children) {
      const fits = branch.name === "Otherwise" ? true : branch.name === "When" ? this.fits(branch) : false;
      if (fits === false) continue;
      // Behind a branch that may be the one, each further one may be.
      this.body(branch, file, undecided || fits === undefined, depth);
      if (fits === true) return;
      undecided = true;
    }
  }

  private fits(element: XmlElement): boolean | undefined {
    const condition = element.attributes.get("Condition");
    if (!condition || condition.value.trim() === "") return true;
    this.noteConfigurations(condition.value);
    return holds(condition.value, element.source.place(condition.start), this);
  }

  private noteConfigurations(condition: string): void {
    for (const [, name] of condition.matchAll(/\$\(Configuration\)[^']*'?\s*[=!]=\s*'([\w.-]+)/g)) this.configurations.add(name as string);
  }

  private state(element: XmlElement, open: boolean): void {
    if (--this.left <= 0) return;
    const name = element.name.toLowerCase();
    if (this.globals.has(name)) return;
    const fits = this.fits(element);
    if (fits === false) {
      // A switch that is on for another target is off for this one.
      if (/\bTarget(Framework|Platform)/i.test(element.attributes.get("Condition")?.value ?? "")) this.off.add(name);
      return;
    }
    const text = element.text.trim();
    const at = element.source.place(element.textStart === -1 ? element.start : element.textStart);
    this.itself = name;
    const worked = expand(text, at, this);
    this.itself = "";
    const before = this.properties.get(name);
    this.properties.set(name, open || fits === undefined ? perhaps(before, worked) : worked);
  }

  // eslint-disable-next-line complexity -- one case for each property that the build gives
  property(name: string): Worked | undefined {
    const key = name.toLowerCase();
    const at = { file: this.current, line: 1, column: 1 };
    const single = (text: string): Worked => ({ options: [{ text, at }] });
    const path = (text: string): Worked => single(`${ROOT}${text}`);
    const given = this.globals.get(key);
    if (given !== undefined) return single(given);
    const stated = this.properties.get(key);
    if (stated) return stated;
    // A property that adds to itself begins with nothing.
    if (key === this.itself || this.off.has(key)) return single("");
    const slash = (folder: string): string => (folder === "" ? "" : `${folder}/`);
    switch (key) {
      case "msbuildthisfiledirectory":
        return path(slash(parentOf(this.current)));
      case "msbuildthisfile":
        return single(baseName(this.current));
      case "msbuildthisfilename":
        return single(baseName(this.current).replace(/\.\w+$/, ""));
      case "msbuildthisfilefullpath":
        return path(this.current);
      case "msbuildprojectdirectory":
        return path(this.folder);
      case "projectdir":
        return path(slash(this.folder));
      case "msbuildprojectfullpath":
        return path(this.file);
      case "msbuildprojectfile":
        return single(baseName(this.file));
      case "msbuildprojectname":
      case "assemblyname":
      case "rootnamespace":
        return single(baseName(this.file).replace(/\.\w+$/, ""));
      case "msbuildprojectextension":
        return single(/\.\w+$/.exec(this.file)?.[0] ?? "");
      case "solutiondir": {
        const folder = this.solutionFolder();
        return folder === undefined ? undefined : path(slash(folder));
      }
      case "targetplatformidentifier":
      case "targetframeworkidentifier":
      case "targetplatformversion":
      case "targetframeworkversion": {
        const target = this.globals.get("targetframework") ?? this.properties.get("targetframework")?.options[0]?.text;
        const parts = target === undefined ? undefined : frameworkParts(target);
        if (!parts) return undefined;
        return single(
          key === "targetplatformidentifier"
            ? parts.platform
            : key === "targetframeworkidentifier"
              ? parts.identifier
              : key === "targetplatformversion"
                ? parts.platformVersion
                : `v${parts.version}`,
        );
      }
      // Nobody knows on which machine it is built.
      case "os":
        return {
          options: [
            { text: "Windows_NT", at },
            { text: "Unix", at },
          ],
        };
      default:
        return undefined;
    }
  }

  private solutionFolder(): string | undefined {
    for (let current = this.folder; ; current = parentOf(current)) {
      if (this.files.hasSolution(current)) return current;
      if (current === "" || current.startsWith("..")) return undefined;
    }
  }

  exists(path: string): boolean {
    return this.files.exists(path);
  }

  textOf(path: string): string | undefined {
    return this.files.textOf(path);
  }

  resolve(path: string): string | undefined {
    const plain = path.replaceAll("\\", "/");
    const mark = plain.lastIndexOf(ROOT);
    if (mark !== -1) return join(plain.slice(mark + 1));
    return isAbsolute(plain) ? undefined : join(this.folder, plain);
  }

  private import(element: XmlElement, file: string, open: boolean, depth: number): void {
    if (element.attributes.has("Sdk")) return;
    const fits = this.fits(element);
    const project = element.attributes.get("Project");
    if (fits === false || !project) return;
    const at = element.source.place(project.start);
    const worked = expand(project.value, at, this);
    const [option] = worked.options;
    if (worked.why !== undefined || worked.unset !== undefined || worked.options.length !== 1 || !option) {
      // Files of the tools themselves, which nobody writes.
      if (!/MSBuild(Extensions|ToolsPath|Bin)|VSToolsPath|NuGet/i.test(project.value))
        this.imports.push({ text: project.value, file: undefined, exists: undefined, open: true, at });
      return;
    }
    if (option.text === "") {
      // A look for a file above that found none.
      this.imports.push({ text: project.value, file: undefined, exists: false, open: open || fits === undefined, at });
      return;
    }
    const plain = option.text.replaceAll("\\", "/");
    // A path without a start is relative to the file that imports it.
    const target = plain.includes(ROOT) || isAbsolute(plain) ? this.resolve(plain) : join(parentOf(file), plain);
    if (target === undefined || /[*?]/.test(target)) {
      this.imports.push({ text: project.value, file: undefined, exists: undefined, open: true, at });
      return;
    }
    const there = this.take(target, depth + 1, open || fits === undefined);
    this.imports.push({
      text: project.value,
      file: target,
      exists: there || this.files.exists(target),
      open: open || fits === undefined,
      at,
    });
  }

  private item(element: XmlElement, open: boolean): void {
    if (--this.left <= 0) return;
    const fits = this.fits(element);
    if (fits === false) return;
    const does = element.attributes.has("Include")
      ? "include"
      : element.attributes.has("Update")
        ? "update"
        : element.attributes.has("Remove")
          ? "remove"
          : undefined;
    const named = element.attributes.get("Include") ?? element.attributes.get("Update") ?? element.attributes.get("Remove");
    if (does === undefined || !named) return;
    const at = element.source.place(named.start);
    const metadata = new Map<string, { value: Value; at: Place }>();
    const put = (name: string, text: string, place: Place): void => {
      metadata.set(name, { value: valueOf(expand(text, place, this), place), at: place });
    };
    for (const [name, { value, start }] of element.attributes)
      if (!/^(Include|Update|Remove|Exclude|Condition)$/.test(name)) put(name, value, element.source.place(start));
    for (const child of element.children)
      if (this.fits(child) !== false)
        put(child.name, child.text.trim(), child.source.place(child.textStart === -1 ? child.start : child.textStart));
    const excluded = element.attributes.get("Exclude");
    const exclude = excluded ? this.names(excluded.value, at).flatMap(({ text }) => text) : [];
    for (const { text, fromRoot } of this.names(named.value, at))
      this.items.push({
        kind: element.name,
        does,
        include: text,
        fromRoot,
        exclude,
        metadata,
        open: open || fits === undefined,
        at,
      });
  }

  /** The parts of a list of names or paths; those of a value with several choices are all there. */
  private names(text: string, at: Place): { text: string; fromRoot: boolean }[] {
    const worked = expand(text, at, this);
    if (worked.why !== undefined || worked.unset !== undefined) return [];
    return worked.options
      .flatMap((option) => option.text.split(";"))
      .map((part) => part.trim().replaceAll("\\", "/"))
      .filter((part) => part !== "")
      .map((part) => {
        const mark = part.lastIndexOf(ROOT);
        return mark === -1 ? { text: part, fromRoot: false } : { text: join(part.slice(mark + 1)), fromRoot: true };
      });
  }
}

function isAbsolute(path: string): boolean {
  return /^(\/|[A-Za-z]:|~)/.test(path);
}

/** What a statement under a condition that nobody can work out leaves: the value before it, or its own. */
function perhaps(before: Statement | undefined, after: Worked): Statement {
  if (after.why !== undefined || !before) return { ...after, perhaps: true };
  if (before.why !== undefined) return { ...before, perhaps: true };
  const options = [...before.options, ...after.options].filter(
    (option, index, all) => all.findIndex(({ text }) => text === option.text) === index,
  );
  if (options.length > MOST_OPTIONS) return { options: [], why: reason("too-many-values") };
  const unset = before.unset ?? after.unset;
  return { options, ...(unset === undefined ? {} : { unset }), ...(before.perhaps ? { perhaps: true } : {}) };
}

function valueOfStatement(statement: Statement, start: Place): Value {
  const at = statement.options[0]?.at ?? start;
  const value = valueOf(statement, at);
  return statement.perhaps ? either([value, unknown(reason("condition-unknown"), at)], at) : value;
}

/** A path of an item, from the root. */
export function pathOfItem({ folder }: Pick<Evaluated, "folder">, { include, fromRoot }: MsbuildItem): string {
  return fromRoot ? include : join(folder, include);
}

/** How an item's path is seen from the project's folder. */
export function insideOf(project: Pick<Evaluated, "folder">, item: MsbuildItem): string {
  return item.fromRoot ? relativeTo(project.folder, item.include) : join(item.include);
}
