import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { join, parentOf } from "../../model/paths.js";
import { inWords } from "../../model/suggest.js";
import { buildsWithout } from "../../model/variants.js";
import { textOf } from "../../model/value.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { allElements, children, descendants, type XmlElement } from "../../syntax/xml.js";
import { resourceFolders } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** What the elements of the app's own manifests lack, so that the system does not do what they are written for. */
export function manifestFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
): ComponentFault[] {
  const resources = new Resources(project, app);
  return [
    ...roots.flatMap((root) => [...linkFaults(app, root), ...providerFaults(root, sources), ...resources.missing(root)]),
    ...authorityFaults(roots, sources),
  ];
}

const valueOf = (element: XmlElement, name: string): string | undefined => element.attributes.get(`android:${name}`)?.value;

function faultAt(element: XmlElement, attribute: string, fault: Omit<ComponentFault, "side" | "element" | "at">): ComponentFault {
  const start = element.attributes.get(`android:${attribute}`)?.start ?? element.start;
  return { ...fault, side: "android", element: element.name, at: element.source.place(start) };
}

const VIEW = "android.intent.action.VIEW";
/** Schemes of the web and of the system, for which a filter may be meant otherwise. */
const OF_THE_SYSTEM = /^(https?|file|content|geo|tel|mailto|sms|smsto|mms|mmsto|market|intent|data|about|ftp|package)$/;
const CATEGORIES = ["DEFAULT", "BROWSABLE"].map((name) => `android.intent.category.${name}`);

/**
 * Filters for addresses of the web that nobody's tap reaches. Source: developer.android.com, "Create deep links to app content" and "Verify Android
 * App Links" (action, categories, scheme and host).
 */
function linkFaults(app: App, root: XmlElement): ComponentFault[] {
  return descendants(root, "intent-filter").flatMap((filter): ComponentFault[] => {
    const named = (tag: string): string[] => children(filter, tag).flatMap((element) => valueOf(element, "name") ?? []);
    const data = children(filter, "data");
    const schemes = data.flatMap((element) => valueOf(element, "scheme") ?? []);
    if (!named("action").includes(VIEW)) return [];
    const categories = named("category");
    const ofTheApp = schemes.length > 0 && schemes.every((scheme) => !OF_THE_SYSTEM.test(scheme));
    if (ofTheApp && !data.some((element) => element.attributes.has("android:mimeType"))) {
      // One that has neither is for who knows the component's name.
      const lacking = CATEGORIES.filter((name) => !categories.includes(name));
      const [scheme = ""] = schemes;
      // Other apps may be the only ones that are to find it: links are meant where the other side takes them.
      const isLink = app.entries.some(
        ({ kind, side, name }) => kind === "urlScheme" && side === "ios" && (name === scheme || scheme.includes("$")),
      );
      return lacking.length !== 1 || (lacking[0]?.endsWith("BROWSABLE") === true && !isLink)
        ? []
        : [faultAt(filter, "autoVerify", { what: "link category", name: `${scheme}:`, near: lacking[0] })];
    }
    if (!schemes.some((scheme) => /^https?$/.test(scheme))) return [];
    // One that takes any address is a browser's.
    const host = data.flatMap((element) => valueOf(element, "host") ?? []);
    const verified = valueOf(filter, "autoVerify") === "true";
    if (host.length === 0 && !verified) return [];
    const missing = CATEGORIES.filter((name) => !categories.includes(name));
    const name = host[0] ?? "https";
    return [
      ...missing.map((near) => faultAt(filter, "autoVerify", { what: "link category", name, near })),
      ...(host.length === 0 ? [faultAt(filter, "autoVerify", { what: "link host", name, near: undefined })] : []),
    ];
  });
}

const FILE_PROVIDER = /\.FileProvider$/;
const STARTUP = "androidx.startup.InitializationProvider";

/**
 * Providers that stop the app when it starts, and initializers that their provider does not find. Sources: developer.android.com, "FileProvider"
 * ("Specifying available files", `attachInfo`), "App Startup" ("Set up manifest entries").
 */
function providerFaults(root: XmlElement, sources: readonly SourceFile[]): ComponentFault[] {
  return descendants(root, "provider").flatMap((provider): ComponentFault[] => {
    const name = valueOf(provider, "name") ?? "";
    const taken = provider.attributes.get("tools:node")?.value === "remove";
    if (FILE_PROVIDER.test(name) && !taken) {
      const paths = children(provider, "meta-data").some((data) => valueOf(data, "name") === "android.support.FILE_PROVIDER_PATHS");
      return [
        ...(valueOf(provider, "grantUriPermissions") === "true"
          ? []
          : [faultAt(provider, "grantUriPermissions", { what: "file provider", name, near: "grantUriPermissions" })]),
        ...(valueOf(provider, "exported") === "true"
          ? [faultAt(provider, "exported", { what: "file provider", name, near: "exported" })]
          : []),
        // A subclass may be given its paths by code.
        ...(paths || !name.startsWith("androidx.core.content.")
          ? []
          : [faultAt(provider, "name", { what: "file provider", name, near: "paths" })]),
      ];
    }
    if (name !== STARTUP) return [];
    return children(provider, "meta-data").flatMap((data): ComponentFault[] => {
      const initializer = valueOf(data, "name") ?? "";
      const simple = initializer.slice(initializer.lastIndexOf(".") + 1);
      const isOwn = sources.some(
        ({ side, text }) =>
          side === "android" && text.includes(simple) && new RegExp(`\\bclass\\s+${simple}\\b[^{]*\\bInitializer\\b`).test(text),
      );
      const removed = data.attributes.get("tools:node")?.value === "remove";
      if (simple === "" || !isOwn || removed) return [];
      if (taken) return [faultAt(data, "name", { what: "initializer", name: initializer, near: "removed" })];
      return valueOf(data, "value") === "androidx.startup"
        ? []
        : [faultAt(data, "value", { what: "initializer", name: initializer, near: valueOf(data, "value") ?? "" })];
    });
  });
}

/** The authority of a file provider as code writes it: what follows the app's id. */
const OF_THE_APP =
  /^(?:(?:\w+\.)*(?:packageName|getPackageName\(\)|BuildConfig\.APPLICATION_ID)\s*\+\s*)?"(?:\$\{?[\w.()]*(?:packageName|APPLICATION_ID)\}?)?(\.[\w.]+)"$/;

/** Code that asks for the address of a file from a provider that no manifest has. Source: developer.android.com, "FileProvider" (getUriForFile). */
function authorityFaults(roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const authorities = roots.flatMap((root) =>
    descendants(root, "provider").flatMap((provider) => (valueOf(provider, "authorities") ?? "").split(";")),
  );
  if (authorities.length === 0) return [];
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (source.side !== "android" || !source.text.includes("getUriForFile")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bgetUriForFile\s*\(/g)].flatMap((match): ComponentFault[] => {
      const open = match.index + match[0].length - 1;
      const [, authority = ""] = argumentsIn(text, open);
      const suffix = OF_THE_APP.exec(authority.trim())?.[1];
      if (suffix === undefined || told.has(suffix) || authorities.some((known) => known.endsWith(suffix))) return [];
      told.add(suffix);
      const near = authorities[0];
      return [{ what: "authority", side: "android", element: "provider", name: suffix, near, at: source.place(match.index) }];
    });
  });
}

/** Kinds of resources that are files of their own. */
const IN_FILES = /^(xml|mipmap|drawable|raw|layout|navigation|menu|animator|anim)$/;

/** The resources of the app's own modules, listed when they are first asked for. */
class Resources {
  /** By their type, then their name: the variants that have it, "" for all. */
  private readonly names = new Map<string, Map<string, Set<string>>>();
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
   */
  missing(root: XmlElement): ComponentFault[] {
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
          const without = variants.has("") || !this.app.android ? [] : buildsWithout(this.app.android.module, variants);
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
        if (this.app.kind === "dotnet" && (type === "mipmap" || type === "style")) continue;
        // Themes of libraries have dots in their names.
        const ownTheme = type === "style" && /^[A-Z]\w*$/.test(name) && !/^(Theme|Base|Widget)/.test(name) && this.plain();
        const alone =
          ownTheme || (type !== "style" && (IN_FILES.test(type) || (native ? this.plain() : type === "string" && this.plain())));
        if (near === undefined && (!alone || (!native && this.isBrought(type, name)))) continue;
        if (this.app.entries.some((entry) => entry.kind === "string" && entry.side === "android" && entry.name === name)) continue;
        faults.push({
          what: "resource",
          side: "android",
          element: attribute,
          name: value,
          near: near === undefined ? undefined : `@${type}/${near}`,
          // Packages of shared code that are not here may have it.
          ...(near === undefined &&
          !native &&
          (this.app.kind === "dotnet" ||
            type === "string" ||
            type === "style" ||
            this.app.dependencies.some(({ nativeUnknown }) => nativeUnknown))
            ? { unsure: true }
            : {}),
          at: element.source.place(start),
        });
      }
    return faults;
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
    const module = this.app.android?.module;
    return module !== undefined && !module.settings.some(({ name }) => name === "resValue") && module.unread.length === 0;
  }

  private of(type: string): ReadonlyMap<string, ReadonlySet<string>> {
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
    for (const { folder, variant } of this.folders)
      for (const entry of tree.list(folder)) {
        const [kind] = entry.name.split("-");
        if (entry.kind !== "folder") continue;
        this.any = true;
        if (kind === type) for (const { name } of tree.list(join(folder, entry.name))) add(name.replace(/\..*$/, ""), variant);
        // A drawable may be a colour or an alias.
        if (kind === "values") for (const name of this.values(join(folder, entry.name), type, IN_FILES.test(type))) add(name, variant);
      }
    for (const { name, values } of this.app.android?.module.settings ?? [])
      if (name === "resValue" && textOf(values[0]) === type) add(textOf(values[1]) ?? "", "");
    return names;
  }

  private values(folder: string, type: string, onlyItems: boolean): string[] {
    const names: string[] = [];
    for (const { name, kind } of this.project.tree.list(folder)) {
      if (kind !== "file" || !name.endsWith(".xml")) continue;
      for (const element of this.project.xml(join(folder, name))?.root?.children ?? []) {
        const of = element.name === "item" ? element.attributes.get("type")?.value : /-array$/.test(element.name) ? "array" : element.name;
        const own = element.attributes.get("name")?.value;
        if (own !== undefined && of === type && (!onlyItems || element.name === "item" || element.name === type)) names.push(own);
      }
    }
    return names;
  }
}
