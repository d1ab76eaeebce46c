import { distance } from "fastest-levenshtein";
import { GIVEN_FIELD } from "../../knowledge/android-build.js";
import type { App } from "../../model/app.js";
import type { AndroidName } from "../../model/code.js";
import { namespaceIn, type GradleModule } from "../../model/gradle.js";
import { isInstalled } from "../../model/paths.js";
import { nearest } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import { descendants } from "../../syntax/xml.js";
import { manifestFile } from "../platforms/android/side.js";
import type { ProjectFiles } from "../project-files.js";
import { Resources } from "./android-resources.js";
import { ModuleViews } from "./module-views.js";
import type { SourceFile } from "./sources.js";

/** Words without which no text is looked through. */
const MAY_NAME =
  /\bR\.\w|\.R\s+as\s|\.databinding\.|\bBuildConfig\b|\bloadLibrary\b|\bgetPackageInfo\b|\bgetApplicationInfo\b|\bgetLaunchIntentForPackage\b/;

/** Types of resources of which each name is written out somewhere. */
const RESOURCE_TYPES = "layout|drawable|mipmap|xml|raw|menu|navigation|font|plurals|color|dimen|integer|bool|array";
const RESOURCE = new RegExp(`(?<![\\w.])R\\.(${RESOURCE_TYPES})\\.(\\w+)`, "g");

/** What code of Android takes that the build has to make, or to have, and does not have under that name. */
export function androidNames(project: ProjectFiles, app: App, sources: readonly SourceFile[]): AndroidName[] {
  const { android } = app;
  if (!android || android.generated) return [];
  const views = new ModuleViews(android.build, android.modules);
  const names = new Names(project, app);
  for (const source of sources) {
    if (source.side !== "android" || (source.language !== "kotlin" && source.language !== "java")) continue;
    const module = /\/src\/\w*[tT]est\w*\//.test(source.file) ? undefined : views.of(source.file);
    if (!module) continue;
    if (source.language === "kotlin") names.tell(source, 0, { kind: "Kotlin", name: module.path, module });
    if (MAY_NAME.test(source.text)) names.read(source, withoutComments(source.text), module);
  }
  names.manifests();
  return names.found;
}

class Names {
  readonly found: AndroidName[] = [];
  private readonly told = new Set<string>();
  private readonly resources: Resources;
  private readonly byNamespace = new Map<string, GradleModule>();
  private layouts: ReadonlyMap<string, string> | undefined;
  private askable: ReadonlySet<string> | undefined;

  constructor(
    private readonly project: ProjectFiles,
    private readonly app: App,
  ) {
    this.resources = new Resources(project, app);
    for (const module of app.android?.build.modules.values() ?? []) {
      const namespace = namespaceIn(module);
      if (namespace !== undefined) this.byNamespace.set(namespace, module);
    }
  }

  /** Each name once. */
  tell(
    source: SourceFile,
    offset: number,
    { kind, name, near, module }: Pick<AndroidName, "kind" | "name"> & { near?: string | undefined; module: GradleModule },
  ): void {
    const key = `${kind} ${name} ${module.path}`;
    if (this.told.has(key)) return;
    this.told.add(key);
    this.found.push({ kind, name, near, module: module.path, at: source.place(offset) });
  }

  /** Packages of manifests that are not the namespace of their module. */
  manifests(): void {
    for (const module of this.app.android?.modules ?? []) {
      const file = isInstalled(`${module.folder}/`) ? undefined : manifestFile(this.project, module);
      const root = file === undefined ? undefined : this.project.xml(file)?.root;
      const written = root?.attributes.get("package");
      const namespace = namespaceIn(module);
      if (root && written && namespace !== undefined && written.value !== namespace && !written.value.includes("${"))
        this.found.push({
          kind: "manifest package",
          name: written.value,
          near: namespace,
          module: module.path,
          at: root.source.place(written.start),
        });
    }
  }

  read(source: SourceFile, text: string, module: GradleModule): void {
    this.bindings(source, text);
    this.members(source, text, module);
    this.settings(source, text);
    this.libraries(source, text, module);
    this.packages(source, text, module);
  }

  /** Source: developer.android.com, "View binding" (one class for each layout, in the package `databinding` below the namespace). */
  private bindings(source: SourceFile, text: string): void {
    for (const match of text.matchAll(/^[ \t]*import\s+([\w.]+)\.databinding\.(\w+Binding)\b/gm)) {
      const [, namespace = "", name = ""] = match;
      const module = this.byNamespace.get(namespace);
      if (!module) continue;
      if (!makesBindings(module)) {
        this.tell(source, match.index, { kind: "binding off", name, module });
        continue;
      }
      this.layouts ??= new Map([...this.resources.of("layout").keys()].map((layout) => [bindingOf(layout), layout]));
      if (this.layouts.size > 0 && !this.layouts.has(name))
        this.tell(source, match.index, { kind: "binding", name, near: nearest(name, [...this.layouts.keys()]), module });
    }
  }

  /** Members of the class of resources that no module of the app has. */
  private members(source: SourceFile, text: string, module: GradleModule): void {
    const imports = [...text.matchAll(/^[ \t]*import\s+([\w.]+)\.R\b(?!\.)(?:\s+as\s+(\w+))?/gm)];
    const classes = imports.map(([, own = "", alias]) => ({ own, name: alias ?? "R" }));
    const home = /^\s*package\s+([\w.]+)/m.exec(text)?.[1];
    if (home !== undefined && !classes.some(({ name }) => name === "R")) classes.push({ own: home, name: "R" });
    for (const { own, name: by } of classes) {
      if (!this.byNamespace.has(own)) continue;
      const pattern = by === "R" ? RESOURCE : new RegExp(`(?<![\\w.])${by}\\.(string|${RESOURCE_TYPES})\\.(\\w+)`, "g");
      for (const match of text.matchAll(pattern)) {
        const [, type = "", name = ""] = match;
        const known = this.resources.of(type);
        const plain = [...known.keys()].map((other) => other.replaceAll(".", "_"));
        const near = nearest(name, plain);
        // Texts are also made while the app is built.
        if (known.size === 0 || plain.includes(name) || (type === "string" && near === undefined)) continue;
        this.tell(source, match.index, { kind: "resource", name: `${by}.${type}.${name}`, near, module });
      }
    }
  }

  /** Fields of the class of settings of another module than the file's own. */
  private settings(source: SourceFile, text: string): void {
    const match = /^[ \t]*import\s+([\w.]+)\.BuildConfig\b(?!\.)(?!\s+as\b)/m.exec(text);
    const module = match && this.byNamespace.get(match[1] as string);
    // What the app's own has is asked for elsewhere.
    if (!match || !module || module === this.app.android?.module) return;
    const fields = new Set(module.settings.flatMap(({ name, values }) => (name === "buildConfigField" ? (textOf(values[1]) ?? "?") : [])));
    if (fields.has("?")) return;
    for (const use of text.matchAll(/(?<![\w.])BuildConfig\.([A-Z]\w*)/g)) {
      const name = use[1] as string;
      if (fields.has(name) || GIVEN_FIELD.test(name)) continue;
      this.tell(source, use.index, { kind: "settings", name, near: this.ownField(name), module });
    }
  }

  private ownField(name: string): string | undefined {
    const { module } = this.app.android ?? {};
    return module?.settings.some((setting) => setting.name === "buildConfigField" && textOf(setting.values[1]) === name)
      ? module.path
      : undefined;
  }

  /** Source: developer.android.com, "Add C and C++ code to your project" (the name without `lib` and `.so`). */
  private libraries(source: SourceFile, text: string, module: GradleModule): void {
    const there = this.app.nativeLibraries.map(({ name }) => name.replace(/^lib|\.so$/g, ""));
    for (const match of text.matchAll(/\bloadLibrary\s*\(\s*"([\w.+-]+)"\s*\)/g)) {
      const name = match[1] as string;
      if (there.includes(name)) continue;
      const plain = name.replace(/^lib|\.so$/g, "");
      const near = there.includes(plain) ? plain : there.find((other) => distance(other, name) <= 2 && name.length > 5);
      if (near !== undefined) this.tell(source, match.index, { kind: "library", name, near, module });
    }
  }

  /** Source: developer.android.com, "Declare package visibility needs". */
  private packages(source: SourceFile, text: string, module: GradleModule): void {
    for (const match of text.matchAll(/\b(?:getPackageInfo|getApplicationInfo|getLaunchIntentForPackage)\s*\(\s*"([\w.]+\.[\w.]+)"/g)) {
      const name = match[1] as string;
      if (/^(android|com\.android|com\.google\.android)(\.|$)/.test(name)) continue;
      this.askable ??= this.queried();
      if (!this.askable.has(name))
        this.tell(source, match.index, { kind: "package", name, near: nearest(name, [...this.askable]), module });
    }
  }

  /** Packages that the manifests ask to see, and the app itself. */
  private queried(): ReadonlySet<string> {
    const { app, project } = this;
    const files = [
      ...app.manifests.filter((file) => file.endsWith("AndroidManifest.xml")),
      ...app.libraryManifests.map(({ file }) => file),
    ];
    const named = files.flatMap((file) => {
      const root = project.xml(file)?.root;
      return root
        ? descendants(root, "queries").flatMap((queries) =>
            descendants(queries, "package").flatMap((element) => element.attributes.get("android:name")?.value ?? []),
          )
        : [];
    });
    return new Set([...named, ...(app.android?.ids ?? []).flatMap(({ value }) => textOf(value) ?? [])]);
  }
}

/** `activity_gate` is `ActivityGateBinding`. */
function bindingOf(layout: string): string {
  return `${layout
    .split("_")
    .map((word) => `${word[0]?.toUpperCase() ?? ""}${word.slice(1)}`)
    .join("")}Binding`;
}

/** Whether a module may make classes for its layouts: switched on, or by a value that is not known. */
function makesBindings({ settings }: GradleModule): boolean {
  return settings.some(
    ({ block, name, values }) =>
      (/^(view|data)Binding$/.test(name) || (/(^|\.)(view|data)Binding$/.test(block) && /^(isE|e)nabled$/.test(name))) &&
      textOf(values[0]) !== "false",
  );
}
