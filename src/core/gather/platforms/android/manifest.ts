import { distance } from "fastest-levenshtein";
import { ATTRIBUTE_WORDS, BOOLEAN_ATTRIBUTES } from "../../../knowledge/intent-names.js";
import { NAMES_IN_MANIFESTS } from "../../../knowledge/manifest-names.js";
import {
  MANIFEST_ATTRIBUTES,
  MANIFEST_NAMESPACES,
  NETWORK_ELEMENTS,
  BACKUP_DOMAINS,
  BACKUP_ELEMENTS,
  LOCALE_ELEMENTS,
  WRAPPER_KEYS,
  FILE_PATH_ELEMENTS,
} from "../../../knowledge/known-names.js";
import { androidSet } from "../../../knowledge/source-sets.js";
import { isInArchive } from "../../../files/archives.js";
import type { ProjectFiles } from "../../project-files.js";
import type { AndroidSide } from "../../../model/app.js";
import { noteMisspeltAttributes, noteMisspeltElements, noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Entry, EntryKind } from "../../../model/facts.js";
import { isInstalled, join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { reason, type Reason } from "../../../model/reason.js";
import { misspelling, slipOf } from "../../../model/suggest.js";
import { known, possibleTexts, textOf, unknown, type Value } from "../../../model/value.js";
import { entriesOf, textAt, valueAt } from "../../../syntax/data.js";
import { allElements, children, descendants, type XmlElement } from "../../../syntax/xml.js";
import { namespaceIn, type GradleModule } from "../../../model/gradle.js";
import { manifestFile } from "./side.js";

/** Folders under `src/` that do not go into the app. */

/**
 * Reads the manifests of an app into entries: the main one, those of its variants and of its own modules.
 * Source: developer.android.com, "App manifest overview" and "Manage manifest files" (merging, markers, placeholders).
 */
export function readManifests(project: ProjectFiles, app: FactSink, side: AndroidSide): void {
  const resources = readStrings(project, app, side);
  for (const module of side.modules) {
    const own = module === side.module;
    const by = own ? undefined : module.path;
    const main = manifestFile(project, module);
    if (main) readManifestFile(project, app, { file: main, by, variant: undefined, module, resources });
    for (const entry of project.tree.list(join(module.folder, "src"))) {
      const file = join(module.folder, "src", entry.name, "AndroidManifest.xml");
      const set = androidSet(entry.name);
      if (entry.kind !== "folder" || set === "main" || set === undefined || !project.tree.isFile(file)) continue;
      readManifestFile(project, app, { file, by, variant: set, module, resources });
    }
  }
  readBuildEntries(app, side);
  const properties = join(side.build.folder, "gradle.properties");
  const root = project.tree.isFile(properties) ? project.properties(properties) : undefined;
  if (root) side.propertiesFile = properties;
  for (const [name, { value, start }] of entriesOf(root)) {
    app.entry({ kind: "gradleProperty", side: "android", name, value: valueAt(value), at: value.source.place(start) });
    const stated = textAt(value);
    if (SWITCHES.has(name) && stated !== undefined && !/^(true|false)$/i.test(stated.trim()))
      app.unfitValue({ what: "property of the build", value: `${name}=${stated}`, side: "android", at: value.source.place(start) });
  }
  noteWrapper(project, app, side.build.folder);
}

/** Attributes of the application that name a list of rules, and the elements of each. */
const NAMED_LISTS = [
  ["android:dataExtractionRules", BACKUP_ELEMENTS],
  ["android:fullBackupContent", BACKUP_ELEMENTS],
  ["android:localeConfig", LOCALE_ELEMENTS],
] as const;

/** Properties that are true or false. Sources: developer.android.com, "gradle.properties"; reactnative.dev, the template. */
const SWITCHES: ReadonlySet<string> = new Set([
  "android.useAndroidX",
  "android.enableJetifier",
  "android.nonTransitiveRClass",
  "android.enableR8.fullMode",
  "newArchEnabled",
  "hermesEnabled",
  "edgeToEdgeEnabled",
]);

/** The file that names the edition of Gradle: its keys, and the host that everybody fetches it from. Source: docs.gradle.org, "Gradle Wrapper". */
function noteWrapper(project: ProjectFiles, app: FactSink, folder: string): void {
  const file = join(folder, "gradle/wrapper/gradle-wrapper.properties");
  const root = project.tree.isFile(file) ? project.properties(file) : undefined;
  noteMisspeltKeys(app, root, WRAPPER_KEYS);
  const address = valueAt(root, "distributionUrl");
  if (root && address === undefined && entriesOf(root).length > 0)
    app.unfitValue({ what: "address of Gradle", value: "", side: "android", at: { file, line: 1, column: 1 } });
  if (address?.kind !== "known") return;
  const host = /^https?:\/\/([\w.-]+)\//.exec(address.text)?.[1] ?? "";
  const right = misspelling(host, ["services.gradle.org"]);
  if (right !== undefined) app.misspelling({ what: "host", name: host, right, side: "android", at: address.place });
}

interface ManifestContext {
  file: string;
  by: string | undefined;
  variant: string | undefined;
  module: GradleModule | undefined;
  /** The module into whose manifest it is merged, where that is another. */
  merged?: GradleModule | undefined;
  resources: ReadonlyMap<string, readonly InVariant[]>;
}

/** A value, and the flavour or build type that has it; all have it where none is named. */
interface InVariant {
  variant: string | undefined;
  value: Value;
}

/**
 * The manifest of a library; what it holds is merged into the app's, with the app's placeholders. Source: developer.android.com, "Manage manifest
 * files", "Inject build variables into the manifest" and "Override for imported libraries".
 */
export function readLibraryManifest(project: ProjectFiles, app: FactSink, file: string, by: string): void {
  if (!project.tree.isFile(file)) return;
  app.libraryManifest({ file, by });
  readManifestFile(project, app, { file, by, variant: undefined, module: undefined, merged: app.android?.module, resources: new Map() });
}

/**
 * What the manifest of a library asks of the app's build: placeholders, and a level where it is one that was built (a package with sources states
 * its level in its build).
 * @param given the placeholders that the library's own build gives
 */
export function noteManifestNeeds(
  project: ProjectFiles,
  app: FactSink,
  file: string,
  { by, sdk }: { by: string; sdk: string | undefined },
  given: Pick<ReadonlySet<string>, "has"> = new Set(),
): void {
  const root = project.tree.isFile(file) ? project.xml(file)?.root : undefined;
  if (!root) return;
  for (const { name, at } of placeholdersIn(root))
    if (!GIVEN_PLACEHOLDERS.has(name) && !given.has(name)) app.placeholderNeed({ name, by, sdk, at });
  const minimum = isInArchive(file) ? children(root, "uses-sdk")[0]?.attributes.get("android:minSdkVersion") : undefined;
  if (!minimum || !/^\d+$/.test(minimum.value) || app.overriddenLibraries.includes(root.attributes.get("package")?.value ?? "")) return;
  app.required({ level: "minSdk", value: known(minimum.value, root.source.place(minimum.start)), by, sdk, from: "archive" });
}

/**
 * What every build gives (the app's id), and what the build of a framework gives. Sources: the Flutter plugin for Gradle, `applicationName`; the React
 * Native plugin for Gradle from 0.82 on, `usesCleartextTraffic`.
 */
const GIVEN_PLACEHOLDERS = new Set(["applicationId", "packageName", "applicationName", "usesCleartextTraffic"]);

/** Every placeholder in a manifest, once. */
function placeholdersIn(root: XmlElement): { name: string; at: Place }[] {
  const found = new Map<string, Place>();
  for (const { attributes } of allElements(root))
    for (const { value, start } of attributes.values())
      for (const [, name = ""] of value.matchAll(/\$\{([^}]+)\}/g)) if (!found.has(name)) found.set(name, root.source.place(start));
  return [...found].map(([name, at]) => ({ name, at }));
}

/** What a manifest's short names of classes begin with. */
export function namespaceOf(root: XmlElement | undefined, module: GradleModule | undefined): string | undefined {
  return root?.attributes.get("package")?.value ?? (module && namespaceIn(module));
}

const COMPONENTS = ["activity", "activity-alias", "service", "receiver", "provider"];

function readManifestFile(project: ProjectFiles, app: FactSink, context: ManifestContext): void {
  const root = project.xml(context.file)?.root;
  if (root) new ManifestReader(project, app, context, root).read();
}

const nameOf = (element: XmlElement): string | undefined => element.attributes.get("android:name")?.value;

/** Attributes of the application that are for developers. */
const FOR_DEVELOPERS = [
  ["android:debuggable", "debuggable"],
  ["android:testOnly", "test only"],
] as const;

/** Entries of one manifest, each with the variant and the package that it is of. */
class ManifestReader {
  constructor(
    private readonly project: ProjectFiles,
    private readonly app: FactSink,
    private readonly context: ManifestContext,
    private readonly root: XmlElement,
  ) {}

  read(): void {
    const { app, context, root } = this;
    const isOwn = !isInstalled(context.file) && !isInArchive(context.file) && !context.file.startsWith("..");
    if (context.by === undefined || context.module || (isOwn && !/(^|\/)plugins\//.test(context.file))) {
      readElements(app, root);
      this.words();
    }
    if (context.by === undefined) this.ofTheApp();
    for (const tag of ["uses-permission", "uses-permission-sdk-23", "uses-permission-sdk-m"])
      for (const element of children(root, tag)) this.add("permission", nameOf(element) ?? "", element, "android:name");
    for (const element of children(root, "uses-feature")) this.add("feature", nameOf(element) ?? "", element, "android:name");
    for (const application of children(root, "application")) this.application(application);
    for (const queries of children(root, "queries"))
      for (const data of descendants(queries, "data")) {
        const scheme = data.attributes.get("android:scheme");
        if (scheme) this.add("queriedScheme", scheme.value, data, "android:scheme");
      }
  }

  /** Names and words of the platform's that are almost right, and attributes that are neither true nor false. */
  private words(): void {
    const { app, root } = this;
    noteMisspeltAttributes(app, root, "android", MANIFEST_ATTRIBUTES, "android");
    for (const [prefix, namespace] of Object.entries(MANIFEST_NAMESPACES)) {
      const written = root.attributes.get(prefix);
      if (written && misspelling(written.value, [namespace]) !== undefined)
        app.misspelling({
          what: "namespace",
          name: written.value,
          right: namespace,
          side: "android",
          at: root.source.place(written.start),
        });
    }
    for (const element of allElements(root)) {
      this.intentName(element);
      for (const [attribute, written] of element.attributes)
        if (attribute.startsWith("android:")) this.attributeWords(element, attribute, written);
    }
  }

  private intentName(element: XmlElement): void {
    const { attribute, what, known: named } = NAMES_IN_MANIFESTS[element.name] ?? {};
    const written = attribute === undefined ? undefined : element.attributes.get(attribute);
    const right = named && written ? intentSlip(written.value, named) : undefined;
    if (!written || what === undefined || right === undefined) return;
    this.app.misspelling({ what, name: written.value, right, side: "android", at: element.source.place(written.start) });
  }

  private attributeWords(element: XmlElement, attribute: string, { value, start }: { value: string; start: number }): void {
    const own = attribute.slice("android:".length);
    const at = element.source.place(start);
    if (BOOLEAN_ATTRIBUTES.has(own) && !/^(true|false)$/i.test(value) && !/[@?$<{%]/.test(value))
      this.app.unfitValue({ what: "attribute of a manifest", value: `${attribute}="${value}"`, side: "android", at });
    const words = Object.hasOwn(ATTRIBUTE_WORDS, own) ? (ATTRIBUTE_WORDS[own] ?? []) : [];
    for (const word of words.length > 0 ? value.split("|") : []) {
      const meant = words.includes(word) ? undefined : slipOf(word, words);
      if (meant !== undefined) this.app.misspelling({ what: attribute, name: word, right: meant, side: "android", at });
    }
  }

  /** What only the app's own manifests say: placeholders, libraries whose level is overridden, options for developers. */
  private ofTheApp(): void {
    if (this.root.attributes.has("android:versionCode")) this.add("manifestAttribute", "versionCode", this.root, "android:versionCode");
    const { app, context, root } = this;
    for (const { name, at } of placeholdersIn(root))
      if (!GIVEN_PLACEHOLDERS.has(name)) app.placeholderNeed({ name, by: undefined, sdk: undefined, at });
    app.manifest(context.file);
    for (const element of children(root, "uses-sdk"))
      app.overridesLibrary(
        ...(element.attributes.get("tools:overrideLibrary")?.value ?? "")
          .split(",")
          .map((name) => name.trim())
          .filter(Boolean),
      );
    if (context.variant !== undefined && !/release$/i.test(context.variant)) return;
    for (const application of children(root, "application"))
      for (const [attribute, what] of FOR_DEVELOPERS) {
        const found = application.attributes.get(attribute);
        if (found?.value === "true")
          app.debugOption({ what, side: "android", text: `${attribute}="true"`, at: root.source.place(found.start) });
      }
  }

  private add(kind: EntryKind, name: string, element: XmlElement, attribute: string, value?: Value, variant = this.context.variant): void {
    const start = element.attributes.get(attribute)?.start ?? element.start;
    const entry: Entry = { kind, side: "android", name, value, at: element.source.place(start) };
    if (variant !== undefined) entry.variant = variant;
    if (this.context.by !== undefined) entry.by = this.context.by;
    if (/^remove(All)?$/.test(element.attributes.get("tools:node")?.value ?? "")) entry.removed = true;
    const limits = kind === "permission" ? limitsOf(element) : undefined;
    if (limits) entry.limits = limits;
    const flags = kind === "permission" ? element.attributes.get("android:usesPermissionFlags")?.value : undefined;
    if (flags !== undefined) entry.flags = flags;
    this.app.entry(entry);
  }

  private application(application: XmlElement): void {
    const { project, app, context, root } = this;
    for (const tag of COMPONENTS) for (const element of children(application, tag)) this.component(element);
    for (const element of descendants(application, "meta-data")) {
      const attribute = element.attributes.has("android:value") ? "android:value" : "android:resource";
      const written = element.attributes.get(attribute);
      if (!written) this.add("metaData", nameOf(element) ?? "", element, attribute);
      else
        for (const { variant, value } of resolve(written.value, element, written.start, context))
          this.add("metaData", nameOf(element) ?? "", element, attribute, value, variant);
    }
    const clear = application.attributes.get("android:usesCleartextTraffic");
    if (clear) this.add("clearText", "*", application, "android:usesCleartextTraffic", known(clear.value, root.source.place(clear.start)));
    const config = application.attributes.get("android:networkSecurityConfig")?.value;
    if (config?.startsWith("@xml/") && context.module) readNetworkSecurity(project, app, context.module, config.slice(5));
    this.filePaths(application);
    this.namedLists(application);
  }

  /** Lists of rules that the application names by an attribute. */
  private namedLists(application: XmlElement): void {
    const { project, app, context } = this;
    for (const [attribute, elements] of NAMED_LISTS) {
      const name = application.attributes.get(attribute)?.value;
      const file = name?.startsWith("@xml/") && context.module ? xmlResource(project, context.module, name.slice(5)) : undefined;
      const root = file === undefined ? undefined : project.xml(file)?.root;
      if (!root) continue;
      noteMisspeltElements(app, root, elements, "android");
      for (const element of allElements(root)) {
        const domain = element.attributes.get("domain");
        const right = domain ? misspelling(domain.value, BACKUP_DOMAINS) : undefined;
        if (domain && right !== undefined)
          app.misspelling({ what: "domain", name: domain.value, right, side: "android", at: root.source.place(domain.start) });
      }
    }
  }

  /** The folders that a provider of files may hand out. */
  private filePaths(application: XmlElement): void {
    const { project, app, context } = this;
    for (const data of descendants(application, "meta-data")) {
      const paths = nameOf(data) === FILE_PATHS ? data.attributes.get("android:resource")?.value : undefined;
      const file = paths?.startsWith("@xml/") && context.module ? xmlResource(project, context.module, paths.slice(5)) : undefined;
      const of = file === undefined ? undefined : project.xml(file)?.root;
      if (of) noteMisspeltElements(app, of, FILE_PATH_ELEMENTS, "android");
    }
  }

  private component(element: XmlElement): void {
    const { context, root } = this;
    const name = nameOf(element);
    const namespace = namespaceOf(root, context.module);
    if (name !== undefined) this.add("component", name.startsWith(".") && namespace ? namespace + name : name, element, "android:name");
    for (const filter of descendants(element, "intent-filter")) {
      const all = children(filter, "data");
      if (!all.some((data) => /^https?$/.test(data.attributes.get("android:scheme")?.value ?? ""))) continue;
      for (const data of all)
        this.resolved(data, "android:host", (host, _, variant) => this.add("linkHost", host, data, "android:host", undefined, variant));
    }
    for (const data of descendants(element, "data"))
      this.resolved(data, "android:scheme", (scheme, value, variant) =>
        this.add("urlScheme", scheme, data, "android:scheme", value.kind === "unknown" ? value : undefined, variant),
      );
  }

  /** An attribute with its placeholders worked out, for each variant that has a value of its own. */
  private resolved(data: XmlElement, attribute: string, take: (text: string, value: Value, variant: string | undefined) => void): void {
    const written = data.attributes.get(attribute);
    for (const { variant, value } of written ? resolve(written.value, data, written.start, this.context) : [])
      take(textOf(value) ?? written?.value ?? "", value, variant);
  }
}

/** The name of the platform's that is meant by one that is almost it. */
export function intentSlip(name: string, known: readonly string[]): string | undefined {
  if (known.includes(name)) return undefined;
  const letters = (text: string): string => [...text].sort().join("");
  // Short names are near to each other without being meant, but for two letters that changed places.
  return known.find((other) => {
    const own = other.slice(other.lastIndexOf(".") + 1);
    const apart = distance(other, name);
    return (
      other.toLowerCase() === name.toLowerCase() || apart <= 1 || (apart === 2 && (own.length > 5 || letters(other) === letters(name)))
    );
  });
}

/** Source: developer.android.com, "uses-permission", "uses-permission-sdk-23" and "Manage manifest files" (markers). */
function limitsOf(element: XmlElement): Entry["limits"] {
  const highest = element.attributes.get("android:maxSdkVersion")?.value;
  const alone =
    element.attributes.get("tools:node")?.value === "replace" ||
    /\bmaxSdkVersion\b/.test(
      `${element.attributes.get("tools:remove")?.value ?? ""} ${element.attributes.get("tools:replace")?.value ?? ""}`,
    );
  const later = element.name !== "uses-permission";
  if (highest === undefined && !alone && !later) return undefined;
  return { ...(later ? { lowest: "23" } : {}), ...(highest === undefined ? {} : { highest }), ...(alone ? { alone } : {}) };
}

/** A value with its placeholders and resource references worked out: one for each variant that has one of its own. */
function resolve(text: string, element: XmlElement, start: number, context: ManifestContext): InVariant[] {
  const at = element.source.place(start);
  const own = (list: readonly InVariant[]): InVariant[] => {
    // The manifest of a variant sees what that variant has, else what all have.
    if (context.variant === undefined) return [...list];
    const fits = list.find(({ variant }) => variant === context.variant) ?? list.find(({ variant }) => variant === undefined);
    return fits ? [{ ...fits, variant: context.variant }] : [];
  };
  const reference = /^@string\/(.+)$/.exec(text);
  if (reference) {
    const found = own(context.resources.get(reference[1] as string) ?? []);
    return found.length > 0 ? found : [{ variant: context.variant, value: unknown(reason("resource-missing", { resource: text }), at) }];
  }
  if (!text.includes("${")) return [{ variant: context.variant, value: known(text, at) }];
  const placeholders = placeholdersOf(context.module ?? context.merged);
  const names = [...text.matchAll(/\$\{([^}]+)\}/g)].map(([, name = ""]) => name);
  const of = (name: string): InVariant[] => own(placeholders.get(name) ?? []);
  const variants = new Set(names.flatMap((name) => of(name).map(({ variant }) => variant)));
  // What a build gets that has nothing of its own; none does where every value is one of a variant.
  if (names.every((name) => of(name).some(({ variant }) => variant === undefined)) || variants.size === 0) variants.add(context.variant);
  else if (context.variant === undefined) variants.delete(undefined);
  return [...variants].map((variant) => {
    let only: Value | undefined;
    let why: Reason | undefined;
    let lacks: string | undefined;
    const result = text.replace(/\$\{([^}]+)\}/g, (whole, name: string) => {
      const list = of(name);
      const value = (list.find((entry) => entry.variant === variant) ?? list.find((entry) => entry.variant === undefined))?.value;
      if (value?.kind !== "known") {
        why ??= value?.kind === "unknown" ? value.why : reason("placeholder-without-value", { name });
        if (!value && list.length === 0 && !GIVEN_PLACEHOLDERS.has(name)) lacks ??= name;
        return whole;
      }
      only = value;
      return value.text;
    });
    if (why !== undefined) return { variant, value: lacks === undefined ? unknown(why, at) : { ...unknown(why, at), lacks } };
    return { variant, value: text.startsWith("${") && text.indexOf("}") === text.length - 1 && only ? only : known(result, at) };
  });
}

function placeholdersOf(module: GradleModule | undefined): Map<string, InVariant[]> {
  const found = new Map<string, InVariant[]>();
  const add = (name: string, variant: string | undefined, value: Value): void => {
    const list = (found.get(name) ?? []).filter((entry) => entry.variant !== variant);
    found.set(name, [...list, { variant, value }]);
  };
  for (const setting of module?.settings ?? []) {
    const variant = /^(?:flavor|buildType):([^.]+)$/.exec(setting.block)?.[1];
    if (setting.name === "manifestPlaceholders" || setting.name.startsWith("manifestPlaceholders."))
      for (const [name, value] of setting.named) add(name, variant, value);
    if (setting.name === "applicationId" && setting.block === "defaultConfig" && setting.values[0])
      add("applicationId", undefined, setting.values[0]);
  }
  return found;
}

/** Placeholders, `buildConfigField` and `resValue` of the build script as entries, per variant. */
function readBuildEntries(app: FactSink, side: AndroidSide): void {
  for (const module of side.modules) {
    for (const setting of module.settings) {
      const variant = /^(?:flavor|buildType):([^.]+)$/.exec(setting.block)?.[1];
      const push = (kind: EntryKind, name: string, value: Value | undefined): void => {
        // Left empty where something else is not there: the value of a build that has it is not in the files.
        const isLeft = setting.conditional && textOf(value) === "";
        const given = isLeft ? unknown(reason("condition-leaves-empty"), setting.at) : value;
        const entry: Entry = { kind, side: "android", name, value: given, at: value?.kind === "known" ? value.place : setting.at };
        if (variant !== undefined) entry.variant = variant;
        app.entry(entry);
      };
      if (setting.name === "manifestPlaceholders") for (const [name, value] of setting.named) push("placeholder", name, value);
      const [type, name, value] = setting.values;
      if ((setting.name !== "buildConfigField" && setting.name !== "resValue") || textOf(type) === undefined || textOf(name) === undefined)
        continue;
      if (setting.name === "buildConfigField") push("buildConfig", textOf(name) ?? "", value && unquoted(value));
      else if (textOf(type) === "string") push("string", textOf(name) ?? "", value);
    }
  }
}

/** The value of a build config field is Java code: `"\"abc\""`. */
function unquoted(value: Value): Value {
  return value.kind === "known" ? { ...value, text: value.text.replace(/^\\?"(.*?)\\?"$/, "$1") } : value;
}

/** String resources of the app's own modules, in the default language. */
function readStrings(project: ProjectFiles, app: FactSink, side: AndroidSide): Map<string, InVariant[]> {
  const found = new Map<string, InVariant[]>();
  for (const { folder, variant } of side.modules.flatMap((module) => resourceFolders(project, module))) {
    const values = join(folder, "values");
    for (const file of project.tree.list(values)) {
      if (file.kind !== "file" || !file.name.endsWith(".xml")) continue;
      for (const element of children(project.xml(join(values, file.name))?.root, "string")) {
        const name = element.attributes.get("name")?.value;
        if (name === undefined) continue;
        const start = element.textStart === -1 ? element.start : element.textStart;
        const value = known(element.text.trim(), element.source.place(start));
        const others = (found.get(name) ?? []).filter((other) => other.variant !== variant);
        found.set(name, [...others, { variant, value }]);
        const entry: Entry = { kind: "string", side: "android", name, value, at: value.place };
        if (variant !== undefined) entry.variant = variant;
        app.entry(entry);
      }
    }
  }
  for (const { name: setting, values, block } of side.modules.flatMap(({ settings }) => settings)) {
    const [type, name, value] = values;
    const key = setting === "resValue" && textOf(type) === "string" ? textOf(name) : undefined;
    if (key === undefined || !value) continue;
    const variant = /^(?:flavor|buildType):([^.]+)$/.exec(block)?.[1];
    found.set(key, [...(found.get(key) ?? []).filter((other) => other.variant !== variant), { variant, value }]);
  }
  return found;
}

/**
 * The folders with a module's resources: those of its source sets, and those that it names instead or besides.
 * Source: developer.android.com, "Configure build variants", "Change default source set configurations".
 */
export function resourceFolders(project: ProjectFiles, module: GradleModule): { folder: string; variant: string | undefined }[] {
  const variantOf = (set: string): string | undefined => (set === "main" ? undefined : set);
  const usual = project.tree.list(join(module.folder, "src")).flatMap(({ kind, name }) => {
    const set = kind === "folder" ? androidSet(name) : undefined;
    return set === undefined ? [] : [{ folder: join(module.folder, "src", name, "res"), variant: variantOf(set) }];
  });
  const named = module.settings.flatMap(({ block, name, values }) => {
    const set = /^sourceSets\.(\w+)\.res$/.exec(block)?.[1];
    if (set === undefined || androidSet(set) === undefined || !/^(srcDirs?|setSrcDirs)$/.test(name)) return [];
    return values.flatMap((value) => possibleTexts(value).map((text) => ({ folder: join(module.folder, text), variant: variantOf(set) })));
  });
  return [...usual, ...named.filter(({ folder }) => !usual.some((other) => other.folder === folder))];
}

/** The name under which a provider of files is given the folders that it may hand out. Source: developer.android.com, "FileProvider". */
const FILE_PATHS = "android.support.FILE_PROVIDER_PATHS";

/** The file of a resource of the kind `xml`, in the source set that every build has. */
export function xmlResource(project: ProjectFiles, module: GradleModule, name: string): string | undefined {
  const folders = resourceFolders(project, module).filter(({ variant }) => variant === undefined || variant === "androidMain");
  return folders.map(({ folder }) => join(folder, "xml", `${name}.xml`)).find((path) => project.tree.isFile(path));
}

/** Source: developer.android.com, "Network security configuration". */
function readNetworkSecurity(project: ProjectFiles, app: FactSink, module: GradleModule, name: string): void {
  const file = xmlResource(project, module, name);
  const root = file === undefined ? undefined : project.xml(file)?.root;
  if (!root) return;
  noteMisspeltElements(app, root, NETWORK_ELEMENTS, "android");
  for (const base of children(root, "base-config")) {
    const allowed = base.attributes.get("cleartextTrafficPermitted");
    if (allowed)
      app.entry({
        kind: "clearText",
        side: "android",
        name: "*",
        value: known(allowed.value, root.source.place(allowed.start)),
        at: root.source.place(allowed.start),
      });
  }
  for (const config of descendants(root, "domain-config")) {
    const allowed = config.attributes.get("cleartextTrafficPermitted");
    for (const domain of children(config, "domain")) {
      const at = domain.source.place(domain.textStart === -1 ? domain.start : domain.textStart);
      app.entry({ kind: "host", side: "android", name: domain.text.trim(), value: allowed && known(allowed.value, at), at });
    }
  }
}

/** The names of the elements of a manifest, for the rule about misspelt ones. */
function readElements(app: FactSink, root: XmlElement): void {
  const open = [root];
  for (let next = open.pop(); next; next = open.pop()) {
    for (const child of next.children) {
      app.element({ name: child.name, parent: next.name, at: child.source.place(child.start + 1) });
      open.push(child);
    }
  }
}
