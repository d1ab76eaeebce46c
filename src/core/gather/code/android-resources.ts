import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { hasLostModules } from "../../model/gradle.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { inWords } from "../../model/suggest.js";
import { buildsWithout, sourceSetOfManifest } from "../../model/variants.js";
import { textOf } from "../../model/value.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";
import { resourceFolders } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import type { LoggedTree } from "../../files/tree.js";

/** Kinds of resources that are files of their own. */
const IN_FILES = /^(xml|mipmap|drawable|raw|layout|navigation|menu|animator|anim)$/;

/** Kinds of which an app's own files name its own: those of libraries are named by the libraries. */
const OWN_PAGES = /^(layout|navigation|menu|xml)$/;

/** The resources of the app's own modules, listed when they are first asked for. */
export class Resources {
  /** By their type, then their name: the variants that have it, "" for all. */
  private readonly names = new Map<string, Map<string, Set<string>>>();
  private readonly named = new Map<string, NamedValue[]>();
  private folders: { folder: string; variant: string }[] | undefined;
  /** Whether any resources lie in the tree. */
  private any = false;

  constructor(
    private readonly project: ProjectFiles,
    private readonly app: App,
  ) {}

  /**
   * References of a manifest to resources that are nowhere, where no library can have them: files of an app without packages of shared code, values
   * that are almost there. Source: developer.android.com, "App resources overview".
   * @param ofLibraries whether what is named is often a library's, as in files that a manifest names
   */
  // eslint-disable-next-line complexity -- one question after the other for each name of a resource
  missing(root: XmlElement, ofLibraries = false): ComponentFault[] {
    const faults: ComponentFault[] = [];
    const native = this.app.kind === "native";
    for (const element of allElements(root))
      for (const [attribute, { value, start }] of element.attributes) {
        const [, type, name] = /^@(?!android:)(\w+)\/([\w.]+)$/.exec(value) ?? [];
        if (type === undefined || name === undefined || !attribute.startsWith("android:")) continue;
        const known = this.of(type);
        if (known.size === 0 && !this.any) continue;
        const variants = known.get(name);
        if (variants) {
          const set = sourceSetOfManifest(element.source.file);
          const without = variants.has("") || !this.app.android ? [] : buildsWithout(this.app.android.module, variants, set);
          if (without.length > 0 && this.plain())
            faults.push({
              what: "resource of variants",
              side: "android",
              element: attribute,
              name: value,
              near: inWords(without),
              at: element.source.place(start),
            });
          continue;
        }
        const near = [...known.keys()].find((other) => distance(other, name) <= Math.min(3, Math.floor(name.length / 4)));
        // Items make icons and splash screens.
        if (this.app.kind === "dotnet" && (type === "mipmap" || (type === "style" && near === undefined))) continue;
        // Themes of libraries have dots in their names.
        // `Theme.App.` is what apps call their own.
        const ownTheme =
          type === "style" && /^[A-Z]\w*$|^Theme\.App\./.test(name) && !/^(Theme(?!\.App\.)|Base|Widget)/.test(name) && this.plain();
        const alone = this.isAlone(ownTheme, type, native);
        if (
          near === undefined &&
          (!alone || (ofLibraries && !OWN_PAGES.test(type) && this.isOpen()) || (!native && this.isBrought(type, name)))
        )
          continue;
        if (this.app.entries.some((entry) => entry.kind === "string" && entry.side === "android" && entry.name === name)) continue;
        faults.push({
          what: "resource",
          side: "android",
          element: attribute,
          name: value,
          near: near === undefined ? undefined : `@${type}/${near}`,
          // Packages of shared code that are not here may have it.
          ...(this.mayBeBrought(near, native, type) ? { unsure: true } : {}),
          at: element.source.place(start),
        });
      }
    return faults;
  }

  /** Whether packages that are not here may bring resources: what other files than the manifest name often is a library's. */
  private isOpen(): boolean {
    return (
      !this.plain() ||
      this.app.dependencies.some(
        ({ ecosystem, side, platform, test }) =>
          (ecosystem === "maven" || ecosystem === "binary") && side === "android" && !platform && !test,
      )
    );
  }

  /** Whether only the app's own files can have it. */
  private isAlone(ownTheme: boolean, type: string, native: boolean): boolean {
    return ownTheme || (type !== "style" && (IN_FILES.test(type) || (native ? this.plain() : type === "string" && this.plain())));
  }

  /** Packages of shared code that are not here may have it. */
  private mayBeBrought(near: string | undefined, native: boolean, type: string): boolean {
    return (
      near === undefined &&
      !native &&
      (this.app.kind === "dotnet" ||
        type === "string" ||
        type === "style" ||
        this.app.dependencies.some(({ nativeUnknown }) => nativeUnknown))
    );
  }

  /** Whether a package of shared code that is here has a resource that is a file of its own. */
  private isBrought(type: string, name: string): boolean {
    const { tree } = this.project;
    return this.app.libraryManifests.some(({ file }) => {
      const folder = join(parentOf(file), "res");
      return tree
        .list(folder)
        .some(
          (entry) =>
            entry.kind === "folder" &&
            (entry.name.split("-")[0] === type
              ? tree.list(join(folder, entry.name)).some((one) => one.name.replace(/\..*$/, "") === name)
              : entry.name === "values" && type === "drawable"),
        );
    });
  }

  /** Whether nothing that the module applies or states makes resources while it builds. */
  private plain(): boolean {
    const { android } = this.app;
    const module = android?.module;
    // A resource that the script names by what it works out may be any.
    const isOpen = module?.settings.some(
      ({ name, values }) => name === "resValue" && (textOf(values[0]) === undefined || textOf(values[1]) === undefined),
    );
    return android !== undefined && !isOpen && android.module.unread.length === 0 && !hasLostModules(android.build, android.modules);
  }

  /** The names of a type, each with the variants that have it, "" for all. */
  of(type: string): ReadonlyMap<string, ReadonlySet<string>> {
    const known = this.names.get(type);
    if (known) return known;
    const names = new Map<string, Set<string>>();
    const add = (name: string, variant: string): void => void names.set(name, (names.get(name) ?? new Set()).add(variant));
    this.names.set(type, names);
    const { tree } = this.project;
    this.folders ??=
      this.app.kind === "dotnet"
        ? [{ folder: join(this.app.android?.folder ?? "", "Resources"), variant: "" }]
        : (this.app.android?.modules ?? []).flatMap((module) =>
            resourceFolders(this.project, module).map(({ folder, variant }) => ({
              folder,
              variant: module === this.app.android?.module ? (variant ?? "") : "",
            })),
          );
    this.addFromFolders(tree, type, add);
    for (const { name, values, block } of this.app.android?.module.settings ?? [])
      if (name === "resValue" && textOf(values[0]) === type) add(textOf(values[1]) ?? "", variantOf(block));
    return names;
  }

  /** Names of the files of a type, and of the values of that type. */
  private addFromFolders(tree: LoggedTree, type: string, add: (name: string, variant: string) => void): void {
    for (const { folder, variant } of this.folders ?? [])
      for (const entry of tree.list(folder)) {
        const [kind] = entry.name.split("-");
        if (entry.kind !== "folder") continue;
        this.any = true;
        if (kind === type) for (const { name } of tree.list(join(folder, entry.name))) add(name.replace(/\..*$/, ""), variant);
        // A drawable may be a colour or an alias.
        if (kind === "values") for (const name of this.values(join(folder, entry.name), type, IN_FILES.test(type))) add(name, variant);
      }
  }

  private values(folder: string, type: string, onlyItems: boolean): string[] {
    let named = this.named.get(folder);
    if (!named) this.named.set(folder, (named = this.namedIn(folder)));
    return named.flatMap(({ element, of, name }) => (of === type && (!onlyItems || element === "item" || element === type) ? name : []));
  }

  private namedIn(folder: string): NamedValue[] {
    const isPlain = baseName(folder) === "values";
    return this.project.tree.list(folder).flatMap(({ name, kind }) => {
      if (kind !== "file" || !name.endsWith(".xml")) return [];
      const file = join(folder, name);
      if (!isPlain) return namedInText(this.project.text(file)?.text ?? "");
      return (this.project.xml(file)?.root?.children ?? []).flatMap((element): NamedValue[] => {
        const own = element.attributes.get("name")?.value;
        return own === undefined ? [] : [namedValue(element.name, element.attributes.get("type")?.value, own)];
      });
    });
  }
}

/** A value of a resource: its element, its type and its name. */
interface NamedValue {
  element: string;
  of: string | undefined;
  name: string;
}

function namedValue(element: string, type: string | undefined, name: string): NamedValue {
  return { element, of: element === "item" ? type : element.endsWith("-array") ? "array" : element, name };
}

/** The values that a file names, by its text alone: those of languages and screens are many, and only their names are asked for. */
function namedInText(text: string): NamedValue[] {
  return [...text.matchAll(/<([a-z][\w-]*)\s([^<>]*)>/g)].flatMap(([, element = "", attributes = ""]): NamedValue[] => {
    const name = /\bname\s*=\s*["']([^"']+)/.exec(attributes)?.[1];
    return name === undefined ? [] : [namedValue(element, /\btype\s*=\s*["']([^"']+)/.exec(attributes)?.[1], name)];
  });
}

/** The flavour or build type of a block, "" for what all have. */
function variantOf(block: string): string {
  return /^(?:flavor|buildType):([^.]+)$/.exec(block)?.[1] ?? "";
}
