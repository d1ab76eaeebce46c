import { distance } from "fastest-levenshtein";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App, DebugOption } from "../../model/app.js";
import type { AssetFault, PageFault } from "../../model/code.js";
import { baseName, join } from "../../model/paths.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";
import { underConditions } from "../platforms/directives.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Events of controls and pages. Source: learn.microsoft.com, ".NET MAUI controls" and "app lifecycle", the events of each. */
const EVENTS =
  /^(Clicked|Pressed|Released|Tapped|Swiped|PanUpdated|PinchUpdated|TextChanged|Completed|SearchButtonPressed|Toggled|CheckedChanged|ValueChanged|DateSelected|SelectedIndexChanged|SelectionChanged|ItemSelected|ItemTapped|Refreshing|RemainingItemsThresholdReached|Scrolled|Focused|Unfocused|Loaded|Unloaded|Appearing|Disappearing|NavigatedTo|NavigatedFrom|NavigatingFrom|Navigated|Navigating|SizeChanged|BlazorWebViewInitialized|UrlLoading)$/;

/** Base classes of the framework: the handlers of others may lie in them. */
const OF_FRAMEWORK =
  /^(ContentPage|ContentView|Shell|Window|Application|ResourceDictionary|TabbedPage|FlyoutPage|NavigationPage|Grid|Frame|Border|StackLayout|VerticalStackLayout|HorizontalStackLayout|AbsoluteLayout|FlexLayout|ViewCell|DataTemplate)$/;

interface Pages {
  faults: PageFault[];
  assets: AssetFault[];
}

/**
 * Names in the pages of an app in .NET that lead nowhere: methods of events, classes, fonts, pictures, web pages; files that its code opens; services
 * that a constructor asks for and nothing registers. Sources: learn.microsoft.com, "XAML namespaces" (x:Class), "Fonts in .NET MAUI", "Image",
 * "File system helpers", "Host a Blazor web app in a .NET MAUI app", "Dependency injection".
 */
export function xamlPages(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): Pages {
  const found: Pages = { faults: [], assets: [] };
  if (app.kind !== "dotnet" || !app.shared) return found;
  const csharp = sources.filter(({ language }) => language === "csharp").map((source) => ({ source, code: withoutComments(source.text) }));
  const roots = [app.shared.folder, ...app.sourceFolders.map(({ folder }) => folder)];
  const files = roots
    .flatMap((root) => [...foldersBelow(index, root)])
    .flatMap(([folder, { files: names }]) => (/(^|\/)(bin|obj)(\/|$)/.test(folder) ? [] : names.map((name) => join(folder, name))));
  const names = new Map(files.map((file) => [baseName(file).toLowerCase(), file]));
  const stems = new Set(
    files.map((file) =>
      baseName(file)
        .replace(/\.\w+$/, "")
        .toLowerCase(),
    ),
  );
  const fonts = new Set<string>();
  for (const { source, code } of csharp) {
    for (const match of code.matchAll(/\bAddFont\s*\(/g)) {
      const [file = "", alias = ""] = argumentsIn(code, match.index + match[0].length - 1).map(
        (part) => /^\s*"([^"]*)"/.exec(part)?.[1] ?? "",
      );
      for (const name of [alias, file, file.replace(/\.\w+$/, "")]) if (name !== "") fonts.add(name);
      if (file !== "" && /\.(ttf|otf)$/i.test(file) && !names.has(file.toLowerCase()))
        found.assets.push({ what: "absent", asset: file, at: source.place(match.index) });
    }
    for (const match of code.matchAll(/\bOpenAppPackageFileAsync\s*\(\s*"([^"\n]+)"/g)) {
      const asset = match[1] as string;
      // What a build lays down has no file here.
      if (!asset.startsWith("wwwroot/_") && !files.some((file) => file.toLowerCase().endsWith(`/${asset.toLowerCase()}`)))
        found.assets.push({ what: "absent", asset, at: source.place(match.index) });
    }
  }
  const types = new Set([
    ...csharp.flatMap(({ code }) => [...code.matchAll(/\b(?:class|record|struct)\s+(\w+)/g)].map((match) => match[1] as string)),
    ...files.flatMap((file) => /([^/]+)\.razor$/.exec(file)?.[1] ?? []),
  ]);
  let usesWebView: PageFault["at"] | undefined;
  for (const file of files.filter((name) => name.endsWith(".xaml"))) {
    const root = project.xml(file)?.root;
    if (!root) continue;
    const behind = csharp.find(({ source }) => source.file === `${file}.cs`);
    const stated = root.attributes.get("x:Class")?.value.split(".").at(-1);
    const isDeclared = behind && stated !== undefined && new RegExp(`\\bclass\\s+${stated}\\b`).test(behind.code);
    const type = isDeclared ? stated : undefined;
    if (behind && stated !== undefined && !isDeclared)
      found.faults.push({
        what: "class",
        name: stated,
        near: /\bpartial\s+class\s+(\w+)/.exec(behind.code)?.[1],
        at: placeOf(root, "x:Class"),
      });
    for (const element of allElements(root)) {
      const plain = element.name.replace(/^\w+:/, "");
      if (plain === "BlazorWebView") usesWebView ??= element.source.place(element.start);
      if (behind && type !== undefined) found.faults.push(...lostHandlers(element, type, behind.code, csharp));
      const font = element.attributes.get("FontFamily")?.value;
      const near =
        font === undefined || fonts.has(font) || /[{]/.test(font) ? undefined : [...fonts].find((other) => distance(other, font) <= 2);
      if (font !== undefined && near !== undefined && font.length > 3)
        found.assets.push({ what: "family", asset: font, near, at: placeOf(element, "FontFamily") });
      const picture = /^(Image|ImageButton)$/.test(plain) ? element.attributes.get("Source")?.value : undefined;
      if (picture !== undefined && /^[\w-]+\.(png|jpg|jpeg|gif)$/i.test(picture) && !stems.has(picture.replace(/\.\w+$/, "").toLowerCase()))
        found.assets.push({ what: "absent", asset: picture, at: placeOf(element, "Source") });
      if (plain === "BlazorWebView") found.faults.push(...webView(project, app.shared.folder, element, types));
    }
  }
  const registers = csharp.some(({ code }) => /\bAdd(Maui|Wpf|Windows\w*)?BlazorWebView\s*\(/.test(code));
  if (usesWebView && !registers && csharp.some(({ code }) => /\bCreateBuilder\s*\(/.test(code)))
    found.faults.push({ what: "web views", name: "AddMauiBlazorWebView", near: undefined, at: usesWebView });
  found.faults.push(...unregistered(csharp), ...platformClasses(csharp));
  return found;
}

function placeOf(element: XmlElement, attribute: string): PageFault["at"] {
  return element.source.place(element.attributes.get(attribute)?.start ?? element.start);
}

interface Code {
  source: SourceFile;
  code: string;
}

/** Methods that events name and the class of the page does not have; where it extends one of the framework, and all of it is here. */
function lostHandlers(element: XmlElement, type: string, code: string, all: readonly Code[]): PageFault[] {
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

/** The page that a web view shows, the element that it writes into, and the component that it shows there. */
function webView(project: ProjectFiles, folder: string, element: XmlElement, types: ReadonlySet<string>): PageFault[] {
  const host = element.attributes.get("HostPage")?.value;
  if (host === undefined || /[{]/.test(host)) return [];
  const page = project.text(join(folder, host))?.text;
  if (page === undefined) return [{ what: "host page", name: host, near: undefined, at: placeOf(element, "HostPage") }];
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

/** Classes of one platform's folder that shared code names and the folder does not have. */
function platformClasses(all: readonly Code[]): PageFault[] {
  return all.flatMap(({ source, code }) =>
    /(^|\/)Platforms\//.test(source.file)
      ? []
      : [...code.matchAll(/(?<![\w.])Platforms\.(iOS|Android)\.([A-Z]\w*)/g)].flatMap((match): PageFault[] => {
          const [, platform = "", name = ""] = match;
          const own = all.filter((other) => other.source.file.includes(`Platforms/${platform}/`));
          if (
            own.length === 0 ||
            own.some((other) => new RegExp(`\\b(?:class|enum|record|struct|interface)\\s+${name}\\b`).test(other.code))
          )
            return [];
          return [{ what: "platform class", name, near: platform, at: source.place(match.index) }];
        }),
  );
}

const REGISTERS = /\b(?:Try)?Add(?:Keyed)?(?:Singleton|Transient|Scoped)(?:WithShellRoute)?\s*(?:<([^>();]+)>)?\s*\(/g;

/**
 * Types of the app's own that the constructor of a registered class, or of the application, asks for and that nothing registers: told where all is
 * registered by its type, without a scan of assemblies.
 */
function unregistered(all: readonly Code[]): PageFault[] {
  const setup = all.filter(({ code }) => code.search(REGISTERS) !== -1);
  if (
    setup.length === 0 ||
    all.some(({ code }) => /\.\s*Scan\s*\(|GetTypes\s*\(|\bAutofac\b|\bRegisterTypes\b|\bPrism\b|DefinedTypes/.test(code))
  )
    return [];
  // Whatever else is added or configured by a type may be handed out, too: `AddHttpClient<TideClient>()`.
  const registered = new Set(
    all.flatMap(({ code }) =>
      [...code.matchAll(/\.\s*(?:Try)?(?:Add|Register|Configure|Map|Use)\w*\s*<([^>();]+)>\s*\(/g)].flatMap((match) =>
        (match[1] as string).split(",").map(last),
      ),
    ),
  );
  const made = new Set<string>();
  for (const { code } of setup)
    for (const match of code.matchAll(REGISTERS)) {
      const given = argumentsIn(code, match.index + match[0].length - 1);
      const types = [
        ...(match[1]?.split(",") ?? []),
        ...given.flatMap((part) => [...(/\btypeof\s*\(\s*([\w.]+)\s*\)/g.exec(part)?.slice(1) ?? [])]),
      ];
      const made_ = given.flatMap((part) => /\bnew\s+([\w.]+)\s*[({]/.exec(part)?.[1] ?? []);
      // A value of a type that is not written here.
      if (types.length + made_.length === 0) return [];
      for (const type of [...types, ...made_]) registered.add(last(type));
      // One that code makes gets what the code gives it.
      if (made_.length === 0 && !given.some((part) => part.includes("=>"))) for (const type of types.slice(-1)) made.add(last(type));
    }
  for (const { code } of all) for (const [, type = ""] of code.matchAll(/\bUseMauiApp\s*<\s*([\w.]+)\s*>/g)) made.add(last(type));
  const declared = new Map<string, Code>();
  for (const one of all)
    for (const [, name = ""] of one.code.matchAll(/\b(?:class|interface|record)\s+(\w+)/g))
      if (!declared.has(name)) declared.set(name, one);
  const told = new Set<string>();
  return [...made].flatMap((type): PageFault[] => {
    const home = declared.get(type);
    if (!home) return [];
    const constructors = [...home.code.matchAll(new RegExp(`\\bpublic\\s+${type}\\s*\\(`, "g"))];
    const [only] = constructors;
    if (!only || constructors.length > 1) return [];
    const open = only.index + only[0].length - 1;
    return argumentsIn(home.code, open).flatMap((part): PageFault[] => {
      const asked = /^\s*(?:\[[^\]]*\]\s*)?([\w.]+)\s+\w+\s*$/.exec(part)?.[1];
      const name = asked === undefined ? undefined : last(asked);
      // A value that has a default, a type of a package, one that is registered.
      if (name === undefined || !declared.has(name) || registered.has(name) || told.has(name) || part.includes("=")) return [];
      told.add(name);
      return [{ what: "service", name, near: type, at: home.source.place(open) }];
    });
  });
}

function last(type: string): string {
  return type.trim().split(".").at(-1) ?? type;
}

/** Tools for developers that are added under no condition. Source: learn.microsoft.com, "Use browser developer tools with ASP.NET Core Blazor Hybrid". */
export function developerTools(app: App, sources: readonly SourceFile[]): DebugOption[] {
  if (app.kind !== "dotnet") return [];
  return sources.flatMap((source) => {
    if (source.language !== "csharp" || !source.text.includes("AddBlazorWebViewDeveloperTools")) return [];
    const code = withoutComments(source.text);
    const isConditional = underConditions(code);
    const match = /\bAddBlazorWebViewDeveloperTools\s*\(/.exec(code);
    const line = match ? code.slice(code.lastIndexOf("\n", match.index) + 1, match.index) : "";
    return match && !isConditional(match.index) && !/\bif\b|Debug/i.test(line)
      ? [{ what: "page inspection", side: "shared", text: "AddBlazorWebViewDeveloperTools", at: source.place(match.index) }]
      : [];
  });
}
