import { distance } from "fastest-levenshtein";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { AssetFault, CodeFacts, PageFault } from "../../model/code.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { nearest, slipOf } from "../../model/suggest.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";
import type { Source } from "../../syntax/source.js";
import type { ProjectFiles } from "../project-files.js";
import { escaped } from "./mentions.js";
import { dotnetNames } from "./dotnet-names.js";
import { dotnetSettings } from "./dotnet-settings.js";
import { unregisteredServices } from "./dotnet-services.js";
import { keptFaults } from "./kept-names.js";
import { ScriptClasses, type ScriptCode } from "./script-classes.js";
import { XamlBindings } from "./xaml-bindings.js";
import type { SourceFile } from "./sources.js";

/** Events of controls and pages. Source: learn.microsoft.com, ".NET MAUI controls" and "app lifecycle", the events of each. */
const EVENTS =
  /^(Clicked|Pressed|Released|Tapped|Swiped|PanUpdated|PinchUpdated|TextChanged|Completed|SearchButtonPressed|Toggled|CheckedChanged|ValueChanged|DateSelected|SelectedIndexChanged|SelectionChanged|ItemSelected|ItemTapped|Refreshing|RemainingItemsThresholdReached|Scrolled|Focused|Unfocused|Loaded|Unloaded|Appearing|Disappearing|NavigatedTo|NavigatedFrom|NavigatingFrom|Navigated|Navigating|SizeChanged|BlazorWebViewInitialized|UrlLoading)$/;

/** Base classes of the framework: the handlers of others may lie in them. */
const OF_FRAMEWORK =
  /^(ContentPage|ContentView|Shell|Window|Application|ResourceDictionary|TabbedPage|FlyoutPage|NavigationPage|Grid|Frame|Border|StackLayout|VerticalStackLayout|HorizontalStackLayout|AbsoluteLayout|FlexLayout|ViewCell|DataTemplate)$/;

interface Pages {
  /** Their texts. */
  texts: Source[];
  faults: PageFault[];
  assets: AssetFault[];
  unset: CodeFacts["unsetVariables"];
}

/** Names in the pages and the code of an app in .NET that lead nowhere. */
export function xamlPages(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): Pages {
  return app.kind === "dotnet" && app.shared
    ? new XamlPages(project, index, app, app.shared.folder, sources).read()
    : { texts: [], faults: [], assets: [], unset: [] };
}

/** Attributes that name a picture, and those that do so on some elements alone. */
const PICTURES = /^(Icon|IconImageSource|ImageSource|FlyoutIcon|BackgroundImageSource)$/;
const PICTURE_ELEMENTS = /^(Image|ImageButton)$/;

/** Assemblies that are not an app's own. */
const FOREIGN_ASSEMBLIES = /^(System\b|Microsoft\.|Mono\.|Xamarin\.|netstandard|mscorlib|Newtonsoft\.|CommunityToolkit\.)/;

/** A page, or a dictionary of resources. */
interface Page {
  file: string;
  root: XmlElement;
  elements: readonly XmlElement[];
  /** Its code, and the class that both declare. */
  behind: ScriptCode | undefined;
  stated: string | undefined;
  type: string | undefined;
}

/**
 * Methods of events, classes, fonts, pictures, web pages, resources and their dictionaries; files that code opens; services that a constructor asks for
 * and nothing registers; routes. Sources: learn.microsoft.com, "XAML namespaces" (x:Class, clr-namespace), "Fonts in .NET MAUI", "Image", "File system
 * helpers", "Host a Blazor web app in a .NET MAUI app", "Dependency injection", "Resource dictionaries" (StaticResource, Source).
 */
class XamlPages {
  private readonly found: Pages = { texts: [], faults: [], assets: [], unset: [] };
  private readonly classes: ScriptClasses;
  private readonly files: readonly string[];
  private readonly names: ReadonlySet<string>;
  private readonly stems: ReadonlySet<string>;
  private readonly fonts = new Set<string>();
  /** Whether all that the builder is given as fonts is written out. */
  private areFontsKnown = true;
  private readonly pages: readonly Page[];
  private readonly types: ReadonlySet<string>;

  constructor(
    private readonly project: ProjectFiles,
    index: FolderIndex,
    private readonly app: App,
    private readonly folder: string,
    sources: readonly SourceFile[],
  ) {
    this.classes = new ScriptClasses(sources);
    this.files = [folder, ...app.sourceFolders.map((other) => other.folder)]
      .flatMap((root) => [...foldersBelow(index, root)])
      .flatMap(([below, { files }]) => (/(^|\/)(bin|obj)(\/|$)/.test(below) ? [] : files.map((name) => join(below, name))));
    this.names = new Set(this.files.map((file) => baseName(file).toLowerCase()));
    this.stems = new Set([...this.names].map((name) => name.replace(/\.\w+$/, "")));
    this.pages = this.files.flatMap((file) => this.pageOf(file));
    this.types = new Set([
      ...this.classes.types().keys(),
      ...this.files.flatMap((file) => /([^/]+)\.razor$/.exec(file)?.[1] ?? []),
      ...this.pages.flatMap(({ stated }) => stated ?? []),
    ]);
  }

  read(): Pages {
    this.filesOfCode();
    this.found.texts.push(...this.pages.map(({ root }) => root.source));
    const dictionaries = new Dictionaries(this.pages, this.classes, this.folder);
    const bindings = new XamlBindings(this.classes);
    for (const page of this.pages) {
      this.readPage(page, dictionaries);
      this.found.faults.push(...bindings.faultsOf(page.root), ...dataless(page));
    }
    this.webViews();
    const { all } = this.classes;
    const routes = this.pages.flatMap(({ elements }) => elements.flatMap(({ attributes }) => attributes.get("Route")?.value ?? []));
    this.found.faults.push(
      ...dictionaries.faults,
      ...unregisteredServices(all, this.shownByType()),
      ...dotnetNames(this.app, this.classes, routes),
    );
    const settings = dotnetSettings(this.project, this.app, this.classes);
    this.found.faults.push(...settings.faults);
    this.found.unset.push(...settings.unset);
    this.keptNames();
    return this.found;
  }

  /** Pages that a shell makes by their type. Source: learn.microsoft.com, ".NET MAUI Shell pages" (ContentTemplate). */
  private shownByType(): string[] {
    return this.pages.flatMap(({ elements }) =>
      elements.flatMap(({ attributes }) => {
        const name = /\{\s*DataTemplate\s+(?:\w+:)?(\w+)\s*\}/.exec(attributes.get("ContentTemplate")?.value ?? "")?.[1];
        return name ?? [];
      }),
    );
  }

  private pageOf(file: string): Page[] {
    const root = file.endsWith(".xaml") ? this.project.xml(file)?.root : undefined;
    if (!root) return [];
    const behind = this.classes.all.find(({ source }) => source.file === `${file}.cs`);
    const stated = /^(?:[\w.]*\.)?(\w+)$/.exec(root.attributes.get("x:Class")?.value ?? "")?.[1];
    const space = root.attributes.get("x:Class")?.value.split(".").slice(0, -1).join(".");
    const isDeclared =
      behind &&
      stated !== undefined &&
      new RegExp(`\\bclass\\s+${stated}\\b`).test(behind.code) &&
      (!space || !/\bnamespace\s/.test(behind.code) || new RegExp(`\\bnamespace\\s+${escaped(space)}\\s*[;{]`).test(behind.code));
    return [{ file, root, elements: allElements(root), behind, stated, type: isDeclared ? stated : undefined }];
  }

  /** Fonts that the builder is given, and files that code opens. */
  private filesOfCode(): void {
    for (const { source, code } of this.classes.all) {
      for (const match of code.matchAll(/\bAddFont\s*\(/g)) {
        const [file = "", alias = ""] = argumentsIn(code, match.index + match[0].length - 1).map(
          (part) => /^\s*"([^"]*)"/.exec(part)?.[1] ?? "",
        );
        if (file === "") this.areFontsKnown = false;
        for (const name of [alias, file, file.replace(/\.\w+$/, "")]) if (name !== "") this.fonts.add(name);
        // The phones tell the case of letters apart.
        if (file !== "" && /\.(ttf|otf)$/i.test(file) && !this.files.some((other) => baseName(other) === file))
          this.found.assets.push({ what: "absent", asset: file, ...this.alike(file), at: source.place(match.index) });
      }
      for (const match of code.matchAll(/\bOpenAppPackageFileAsync\s*\(\s*"([^"\n]+)"/g)) {
        const asset = match[1] as string;
        // What a build lays down has no file here.
        if (!asset.startsWith("wwwroot/_") && !this.files.some((file) => file.toLowerCase().endsWith(`/${asset.toLowerCase()}`)))
          this.found.assets.push({ what: "absent", asset, at: source.place(match.index) });
      }
    }
  }

  /** A file that is there under the same name in other letters. */
  private alike(file: string): { near?: string } {
    const near = this.files.map((other) => baseName(other)).find((name) => name.toLowerCase() === file.toLowerCase());
    return near === undefined ? {} : { near };
  }

  private readPage(page: Page, dictionaries: Dictionaries): void {
    const { root, elements, behind, stated, type } = page;
    if (behind && stated !== undefined && type === undefined)
      this.found.faults.push({
        what: "class",
        name: stated,
        near: declaredClass(behind.code, stated),
        at: placeOf(root, "x:Class"),
      });
    for (const element of elements) {
      if (behind && type !== undefined) this.found.faults.push(...lostHandlers(element, type, behind.code, this.classes.all));
      this.font(element);
      this.pictures(element);
      if (plainName(element) === "BlazorWebView") this.webView(element, page);
      dictionaries.uses(element);
    }
    this.ownTypes(page);
  }

  private font(element: XmlElement): void {
    // A setter of a style names what it sets.
    const attribute = element.attributes.get("Property")?.value === "FontFamily" ? "Value" : "FontFamily";
    const font = element.attributes.get(attribute)?.value;
    if (font === undefined || font.length <= 3 || this.fonts.has(font) || /[{]/.test(font)) return;
    const near =
      [...this.fonts].find((other) => distance(other, font) <= 2) ??
      this.files.map((file) => baseName(file)).find((name) => /\.(ttf|otf)$/i.test(name) && plainFont(name) === plainFont(font));
    if (near !== undefined && this.areFontsKnown)
      this.found.assets.push({ what: "family", asset: font, near, at: placeOf(element, attribute) });
  }

  private pictures(element: XmlElement): void {
    for (const [attribute, { value }] of element.attributes) {
      if (!PICTURES.test(attribute) && !(attribute === "Source" && PICTURE_ELEMENTS.test(plainName(element)))) continue;
      if (/^[\w-]+\.(png|jpg|jpeg|gif)$/i.test(value) && !this.stems.has(value.replace(/\.\w+$/, "").toLowerCase()))
        this.found.assets.push({ what: "absent", asset: value, at: placeOf(element, attribute) });
      // A drawing is packed as pictures. Source: learn.microsoft.com, "Add images to a .NET MAUI app project".
      else if (/^[\w-]+\.svg$/i.test(value) && this.names.has(value.toLowerCase()))
        this.found.assets.push({ what: "absent", asset: value, near: value.replace(/svg$/i, "png"), at: placeOf(element, attribute) });
    }
  }

  /** Classes of the app's own that a page names by the prefix of their namespace. */
  private ownTypes({ root, elements }: Page): void {
    const spaces = new Map<string, string>();
    for (const [name, { value }] of root.attributes) {
      const space = /^clr-namespace:([\w.]+)$/.exec(value)?.[1];
      if (name.startsWith("xmlns:") && space !== undefined && this.declares(space)) spaces.set(name.slice(6), space);
    }
    if (spaces.size === 0) return;
    const look = (prefix: string | undefined, type: string | undefined, element: XmlElement, attribute: string): void => {
      if (prefix === undefined || type === undefined || !spaces.has(prefix) || this.types.has(type)) return;
      this.found.faults.push({ what: "type", name: type, near: nearest(type, [...this.types]), at: placeOf(element, attribute) });
    };
    for (const element of elements) {
      const [, prefix, type] = /^(\w+):(\w+)$/.exec(element.name) ?? [];
      look(prefix, type, element, "");
      for (const [attribute, { value }] of element.attributes)
        for (const [, of, name] of value.matchAll(/\{\s*(?:DataTemplate|x:Type)\s+(\w+):(\w+)\s*\}/g)) look(of, name, element, attribute);
    }
  }

  private declares(space: string): boolean {
    return this.classes.all.some(
      ({ code }) => code.includes(space) && new RegExp(`\\bnamespace\\s+${space.replaceAll(".", "\\.")}\\b`).test(code),
    );
  }

  private webViews(): void {
    const uses = this.pages.flatMap(({ elements }) => elements).find((element) => plainName(element) === "BlazorWebView");
    const { all } = this.classes;
    const registers = all.some(({ code }) => /\bAdd(Maui|Wpf|Windows\w*)?BlazorWebView\s*\(/.test(code));
    if (uses && !registers && all.some(({ code }) => /\bCreateBuilder\s*\(/.test(code)))
      this.found.faults.push({ what: "web views", name: "AddMauiBlazorWebView", near: undefined, at: uses.source.place(uses.start) });
  }

  /** The page that a web view shows, what that loads, the element that it writes into, and the component that it shows there. */
  private webView(element: XmlElement, { root }: Page): void {
    const host = element.attributes.get("HostPage")?.value;
    if (host === undefined || /[{]/.test(host)) return;
    const source = this.project.text(join(this.folder, host));
    if (!source) {
      this.found.faults.push({ what: "host page", name: host, near: undefined, at: placeOf(element, "HostPage") });
      return;
    }
    this.found.faults.push(...rootComponents(element, source.text, host, this.types), ...this.lostAssemblies(element, root));
    this.found.faults.push(...this.loadedFiles(host, source));
  }

  /** Source: learn.microsoft.com, "Host a Blazor web app in a .NET MAUI app" (index.html), "Consume content from a referenced RCL" (_content). */
  private loadedFiles(host: string, source: Pick<Source, "text" | "place">): PageFault[] {
    const code = source.text.replace(/<!--[\s\S]*?(?:-->|$)/g, (comment) => " ".repeat(comment.length));
    const scripts = [...code.matchAll(/_framework\/blazor\.(\w+)\.js\b/g)];
    const [first] = scripts;
    const found: PageFault[] = scripts.some(([, name]) => name === "webview")
      ? []
      : [{ what: "web view script", name: host, near: first?.[0], at: source.place(first?.index ?? 0) }];
    for (const match of code.matchAll(/\b_content\/([\w.]+)\/([\w./-]+)/g)) {
      const [, library = "", file = ""] = match;
      const folder = this.folderOf(library);
      if (folder === undefined) {
        const near = this.nearProject(library);
        if (near !== undefined) found.push({ what: "assembly", name: library, near, at: source.place(match.index) });
        continue;
      }
      if (file.endsWith(".styles.css") || file.endsWith(".bundle.scp.css")) continue;
      const path = join(folder, "wwwroot", file);
      if (!this.files.includes(path))
        found.push({ what: "library file", name: match[0], near: nearest(path, this.files), of: library, at: source.place(match.index) });
    }
    return found;
  }

  /** The folder of a project of the app, by its name. */
  private folderOf(project: string): string | undefined {
    const file = this.files.find((one) => new RegExp(`(?:^|/)${escaped(project)}\\.\\w+proj$`).test(one));
    return file === undefined ? undefined : parentOf(file);
  }

  /** Assemblies of the components, by the prefixes of the page, that are neither a project nor a package. */
  private lostAssemblies(element: XmlElement, root: XmlElement): PageFault[] {
    return allElements(element).flatMap((child): PageFault[] => {
      const prefix = /\{\s*x:Type\s+(\w+):\w+\s*\}/.exec(child.attributes.get("ComponentType")?.value ?? "")?.[1];
      const assembly = /;\s*assembly=([\w.]+)/.exec(root.attributes.get(`xmlns:${prefix ?? ""}`)?.value ?? "")?.[1];
      const near = assembly === undefined ? undefined : this.nearProject(assembly);
      return assembly === undefined || near === undefined
        ? []
        : [{ what: "assembly", name: assembly, near, at: placeOf(root, `xmlns:${prefix ?? ""}`) }];
    });
  }

  /** The project that an assembly seems to be meant for, where it is neither one nor a package, and named like the others. */
  private nearProject(assembly: string): string | undefined {
    const isKnown = this.app.dependencies.some(({ name }) => name === assembly) || FOREIGN_ASSEMBLIES.test(assembly);
    const own = this.projects();
    return isKnown || own.includes(assembly) ? undefined : own.find((name) => name.split(".")[0] === assembly.split(".")[0]);
  }

  private projects(): string[] {
    return this.files.flatMap((file) => /([^/]+)\.\w+proj$/.exec(file)?.[1] ?? []);
  }

  /** What the descriptions of the trimmer keep. */
  private keptNames(): void {
    const assemblies = new Set(this.projects());
    for (const file of this.files.filter((name) => name.endsWith(".xml"))) {
      const root = this.project.xml(file)?.root;
      if (root?.name === "linker")
        this.found.faults.push(
          ...keptFaults(root, { assemblies, foreign: FOREIGN_ASSEMBLIES, types: this.classes.types() }).map(({ near, ...fault }) => ({
            near,
            ...fault,
          })),
        );
    }
  }
}

/** The keys of resources, and the dictionaries that have them. */
class Dictionaries {
  readonly faults: PageFault[] = [];
  private readonly keys = new Map<string, Page[]>();
  private readonly merged = new Set<string>();
  /** The files that each page or dictionary takes in, in their order. */
  private readonly takesIn = new Map<string, Set<string>>();
  /** A dictionary that is not here may have any key. */
  private open = false;

  constructor(
    private readonly pages: readonly Page[],
    { all }: ScriptClasses,
    folder: string,
  ) {
    const there = new Set(pages.map(({ file }) => file));
    for (const page of pages)
      for (const element of page.elements) {
        const key = element.attributes.get("x:Key")?.value;
        if (key !== undefined) this.keys.set(key, [...(this.keys.get(key) ?? []), page]);
        this.take(element, page, there, folder);
      }
    for (const { code } of all)
      for (const match of code.matchAll(/\bResources\s*(?:\.\s*(?:Add|TryAdd)\s*\(\s*|\[\s*)(?:"([^"\n]+)")?/g)) {
        if (match[1] === undefined) this.open = true;
        else this.keys.set(match[1], this.keys.get(match[1]) ?? []);
      }
  }

  /** What a dictionary takes in. */
  private take(element: XmlElement, page: Page, there: ReadonlySet<string>, folder: string): void {
    const plain = plainName(element);
    if (element.name.includes(":") && /(Theme|Resources|Dictionary|Styles|Colors)$/.test(plain)) this.open = true;
    const source = plain === "ResourceDictionary" ? element.attributes.get("Source")?.value : undefined;
    if (source === undefined || source.includes("{")) return;
    if (source.includes(";assembly=")) {
      this.open = true;
      return;
    }
    const found = [join(parentOf(page.file), source), join(folder, source)].find((file) => there.has(file));
    if (found !== undefined) {
      this.merged.add(found);
      const own = this.takesIn.get(page.file) ?? new Set();
      this.takesIn.set(page.file, own.add(found));
    } else if (!source.includes(";"))
      this.faults.push({
        what: "dictionary",
        name: source,
        near: nearest(
          baseName(source),
          [...there].map((file) => baseName(file)),
        ),
        at: placeOf(element, "Source"),
      });
  }

  private get lists(): (readonly string[])[] {
    return [...this.takesIn.values()].map((files) => [...files]);
  }

  /** Whether one list takes in a dictionary behind another that asks for what it has. Source: learn.microsoft.com, "Resource dictionaries" (lookup). */
  private isLater(home: string, asks: string): boolean {
    if (home === asks) return false;
    const lists = this.lists.filter((list) => list.includes(home) && list.includes(asks));
    return lists.length > 0 && lists.every((list) => list.indexOf(home) > list.indexOf(asks)) && !this.takesIn.get(asks)?.has(home);
  }

  /** Keys that an element asks for when it is made. */
  uses(element: XmlElement): void {
    for (const { value, start } of element.attributes.values())
      for (const match of value.matchAll(/\{\s*StaticResource\s+(?:Key\s*=\s*)?(\w+)\s*\}/g)) {
        const key = match[1] as string;
        const homes = this.keys.get(key);
        const at = element.source.place(start);
        if (this.faults.some(({ what, name }) => /resource|unmerged|merged later/.test(what) && name === key)) continue;
        if (homes) {
          const [home] = homes;
          const isLoose = ({ root, stated, file }: Page): boolean =>
            plainName(root) === "ResourceDictionary" && stated === undefined && !this.merged.has(file);
          if (home && homes.every(isLoose) && !this.open) this.faults.push({ what: "unmerged", name: key, near: home.file, at });
          else if (home && homes.length === 1 && this.isLater(home.file, at.file))
            this.faults.push({ what: "merged later", name: key, near: home.file, at });
          continue;
        }
        const others = [...this.keys.keys()];
        if (this.pages.some(({ root }) => plainName(root) === "Application") && (!this.open || slipOf(key, others) !== undefined))
          this.faults.push({ what: "resource", name: key, near: nearest(key, others), at });
      }
  }
}

/** The name of a font's file, or of a family, in small letters without what separates words. */
function plainFont(name: string): string {
  return name
    .replace(/\.(ttf|otf)$/i, "")
    .replace(/[^A-Za-z\d]/g, "")
    .toLowerCase();
}

/** The class of a page's code: with its namespace, where only that differs. */
function declaredClass(code: string, stated: string): string | undefined {
  const name = /\bpartial\s+class\s+(\w+)/.exec(code)?.[1];
  return name === stated ? `${/\bnamespace\s+([\w.]+)/.exec(code)?.[1] ?? ""}.${name}` : name;
}

/**
 * A page that states the type of its data, whose constructor is given one of it, and that hands it to nobody. Source: learn.microsoft.com, "Data binding basics"
 * (BindingContext).
 */
function dataless({ root, behind, type }: Page): PageFault[] {
  const data = /^(?:\w+:)?(\w+)$/.exec(root.attributes.get("x:DataType")?.value ?? "")?.[1];
  if (!behind || type === undefined || data === undefined || !/^(ContentPage|ContentView)$/.test(root.name)) return [];
  const made = new RegExp(`\\b${type}\\s*\\([^()]*?\\b${data}\\s+\\w+`).exec(behind.code);
  const isBound = allElements(root).some(({ attributes }) => [...attributes.values()].some(({ value }) => /^\{\s*Binding\b/.test(value)));
  return made &&
    isBound &&
    !behind.code.includes("BindingContext") &&
    !allElements(root).some(({ name }) => name.endsWith(".BindingContext"))
    ? [{ what: "data of the page", name: type, near: data, at: behind.source.place(made.index) }]
    : [];
}

function plainName({ name }: XmlElement): string {
  return name.replace(/^\w+:/, "");
}

function placeOf(element: XmlElement, attribute: string): PageFault["at"] {
  return element.source.place(element.attributes.get(attribute)?.start ?? element.start);
}

/** Methods that events name and the class of the page does not have; where it extends one of the framework, and all of it is here. */
function lostHandlers(element: XmlElement, type: string, code: string, all: readonly ScriptCode[]): PageFault[] {
  const base = new RegExp(`\\bclass\\s+${type}\\s*:\\s*([\\w.]+)`).exec(code)?.[1]?.split(".").at(-1);
  if (base !== undefined && !OF_FRAMEWORK.test(base)) return [];
  return [...element.attributes].flatMap(([attribute, { value, start }]): PageFault[] => {
    if (!EVENTS.test(attribute) || !/^[A-Za-z_]\w*$/.test(value)) return [];
    const parts = all.filter((other) => new RegExp(`\\bclass\\s+${type}\\b`).test(other.code));
    if (parts.some((part) => new RegExp(`\\b${value}\\s*\\(`).test(part.code))) return [];
    const methods = parts.flatMap((part) => [...part.code.matchAll(/\bvoid\s+(\w+)\s*\(/g)].map((match) => match[1] as string));
    return [{ what: "handler", name: value, near: methods.find((other) => distance(other, value) <= 3), at: element.source.place(start) }];
  });
}

/** The element that a web view writes into, and the component that it shows there. */
function rootComponents(element: XmlElement, page: string, host: string, types: ReadonlySet<string>): PageFault[] {
  return allElements(element).flatMap((child): PageFault[] => {
    if (!child.name.endsWith("RootComponent")) return [];
    const selector = child.attributes.get("Selector")?.value;
    const component = /\{\s*x:Type\s+\w+:(\w+)\s*\}/.exec(child.attributes.get("ComponentType")?.value ?? "")?.[1];
    const id = /^#([\w-]+)$/.exec(selector ?? "")?.[1];
    return [
      ...(id !== undefined && !new RegExp(`\\bid\\s*=\\s*["']?${id}\\b`).test(page)
        ? [{ what: "selector" as const, name: selector ?? "", near: host, at: placeOf(child, "Selector") }]
        : []),
      ...(component !== undefined && !types.has(component)
        ? [
            {
              what: "component" as const,
              name: component,
              near: [...types].find((other) => distance(other, component) <= 2),
              at: placeOf(child, "ComponentType"),
            },
          ]
        : []),
    ];
  });
}
