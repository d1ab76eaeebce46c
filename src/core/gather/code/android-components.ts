import { distance } from "fastest-levenshtein";
import {
  EXPORTED_SINCE,
  FOREGROUND_SERVICE_PERMISSIONS,
  FOREGROUND_TYPES_SINCE,
  WORKER_SERVICE,
} from "../../knowledge/foreground-services.js";
import { targetOf, type App } from "../../model/app.js";
import type { CodeFacts, ComponentFault } from "../../model/code.js";
import { LIBRARY_COMPONENTS } from "../../knowledge/library-components.js";
import { baseName } from "../../model/paths.js";
import type { GradleModule } from "../../model/gradle.js";
import { nearest } from "../../model/suggest.js";
import type { Place } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import { children, type XmlElement } from "../../syntax/xml.js";
import { COMPONENTS, declaredIn } from "../platforms/android/components.js";
import { namespaceOf } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import { layoutClasses } from "./layout-classes.js";
import { manifestFaults, permissionsOf } from "./manifest-faults.js";
import { classesIn, isJvm, type OwnClasses, type OwnClass } from "./own-classes.js";
import type { SourceFile } from "./sources.js";
import { systemFaults } from "./system-services.js";

/** Frameworks whose native code is written by people, and lies where the build takes it from. */
export const KINDS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["native", "react-native", "expo", "flutter", "capacitor", "unity"]);

/** Attributes whose value is a class, by the element. Source: developer.android.com, "activity element" (android:parentActivityName; before level 16 in meta-data), "application element". */
const NAMED_CLASSES: Readonly<Record<string, readonly [attribute: string, what: string][]>> = {
  activity: [["parentActivityName", "parent activity"]],
  application: [
    ["backupAgent", "backup agent"],
    ["manageSpaceActivity", "activity for the space"],
  ],
};

/** A manifest of a module, with what names in it begin with. */
interface ModuleManifest {
  root: XmlElement;
  module: GradleModule;
}

/** An element for a component, with what its name means. */
interface Component {
  element: XmlElement;
  tag: string;
  /** The class's full name, as the manifest means it. */
  full: string;
  /** Classes of the app's own that have its simple name. */
  alike: readonly OwnClass[];
  /** One of them is it. */
  known: boolean;
  place: Place;
}

/** What elements of the app's manifests name and its code does not have, and what these elements lack. */
export function androidFaults(
  project: ProjectFiles,
  app: App,
  classes: OwnClasses,
  sources: readonly SourceFile[],
  manifests: readonly ModuleManifest[],
): ComponentFault[] {
  if (!app.android) return [];
  const roots = manifests.map(({ root }) => root);
  return [
    ...new ComponentElements(app, classes, sources, roots).faults(manifests),
    ...systemFaults((name) => classes.named(name), roots),
    ...layoutClasses(project, app, classes, sources),
    ...manifestFaults(project, app, roots, sources),
  ];
}

class ComponentElements {
  private readonly target: number;
  private readonly permissions: ReadonlySet<string>;
  private readonly exported: ReadonlySet<string>;
  private readonly kind: App["kind"];
  private readonly found: ComponentFault[] = [];

  constructor(
    app: App,
    private readonly classes: OwnClasses,
    private readonly sources: readonly SourceFile[],
    roots: readonly XmlElement[],
  ) {
    this.target = Math.max(
      targetOf(app) || 0,
      ...(app.android?.levels ?? []).flatMap(({ level, owner, value }) =>
        level === "targetSdk" && owner === "app" ? Number(textOf(value)) || [] : [],
      ),
    );
    this.kind = app.kind;
    this.permissions = permissionsOf(app);
    this.exported = new Set(
      roots.flatMap((root) =>
        componentsOf(root).flatMap(({ element }) => (element.attributes.has("android:exported") ? simpleName(element) : [])),
      ),
    );
  }

  faults(manifests: readonly ModuleManifest[]): ComponentFault[] {
    for (const { root, module } of manifests) {
      const namespace = namespaceOf(root, module);
      const applications = children(root, "application").map((element) => ({ element, tag: "application" }));
      for (const { element, tag } of [...applications, ...componentsOf(root)]) {
        this.read(element, tag, namespace);
        for (const [attribute, what] of NAMED_CLASSES[tag] ?? []) this.named(element, attribute, what, namespace);
      }
    }
    return this.found;
  }

  /** A class that an attribute of an element names: of the app's own, in a package that it has. */
  private named(element: XmlElement, attribute: string, tag: string, namespace: string | undefined): void {
    const meta =
      attribute === "parentActivityName"
        ? children(element, "meta-data").find((one) => one.attributes.get("android:name")?.value === "android.support.PARENT_ACTIVITY")
        : undefined;
    for (const written of [element.attributes.get(`android:${attribute}`), meta?.attributes.get("android:value")]) {
      if (!written || written.value === "" || /[${}@]/.test(written.value)) continue;
      const full = fullName(written.value, namespace);
      const own = full.slice(0, full.lastIndexOf("."));
      const simple = full.slice(own.length + 1);
      if (!this.classes.hasPackage(own) || this.classes.named(simple).some((type) => isMeant(type, full))) continue;
      const near = this.classes.inPackage(own).find((type) => distance(type.name, simple) <= 2);
      const place = element.source.place(written.start);
      this.tell("class", { element, tag, full, alike: [], known: false, place }, near?.full);
    }
  }

  private tell(what: ComponentFault["what"], { tag, full, place }: Component, near?: string): void {
    this.found.push({ what, side: "android", element: tag, name: full, near, at: place });
  }

  private read(element: XmlElement, tag: string, namespace: string | undefined): void {
    const name = nameOf(element);
    if (name === undefined || /[${}]/.test(name.replace(/\w\$\w/g, ""))) return;
    if (/^remove/.test(element.attributes.get("tools:node")?.value ?? "")) return;
    const { classes } = this;
    const full = fullName(name, namespace);
    const plain = full.replaceAll("$", ".");
    const own = plain.slice(0, plain.lastIndexOf("."));
    const simple = plain.slice(own.length + 1);
    // The manifest that Unity takes has the package of the engine.
    const ownPackage = (own === namespace && this.kind !== "unity") || classes.hasPackage(own);
    const alike = ownPackage || classes.hasPackage(own.slice(0, Math.max(0, own.lastIndexOf(".")))) ? classes.named(simple) : [];
    const known = alike.some((type) => isMeant(type, plain));
    const place = element.source.place(element.attributes.get("android:name")?.start ?? element.start);
    const component: Component = { element, tag, full, alike, known, place };
    if (namespace !== undefined) this.noteUnknown(component, own, simple, ownPackage);
    // What a library's own manifest says of its component is merged in.
    if (full === WORKER_SERVICE) this.typesOf(component);
    if (tag === "application" || !(known || tag === "activity-alias")) return;
    this.judgeOwn(component, simple, plain);
  }

  /** A class that no file of its package holds. */
  private noteUnknown(component: Component, own: string, simple: string, ownPackage: boolean): void {
    const { classes } = this;
    const { tag, known, alike } = component;
    if (tag === "activity-alias" || known) return;
    const library = LIBRARY_COMPONENTS.has(component.full) ? undefined : nearest(component.full, [...LIBRARY_COMPONENTS]);
    if (library !== undefined && library.slice(0, library.lastIndexOf(".")) === own) return this.tell("class", component, library);
    if (!classes.any) return;
    if (ownPackage) {
      const near = alike[0] ?? classes.inPackage(own).find((type) => distance(type.name, simple) <= Math.max(2, simple.length / 3));
      this.tell("class", component, near?.full);
      return;
    }
    // The package of a class of the app's own, but for its last part.
    const meant = own.includes(".") ? classes.named(simple).find(({ full }) => full.startsWith(`${own}.`)) : undefined;
    if (meant) this.tell("class", component, meant.full);
  }

  /** What has to be said of a component of the app's own. */
  private judgeOwn(component: Component, simple: string, plain: string): void {
    const { tag, element } = component;
    const filtered = tag !== "provider" && children(element, "intent-filter").length > 0;
    if (this.target >= EXPORTED_SINCE && filtered && !this.exported.has(simple)) this.tell("exported", component);
    if (tag === "service") this.service(component, plain);
  }

  /** What a service lacks that runs in the foreground. */
  private service(component: Component, plain: string): void {
    const types = component.element.attributes.get("android:foregroundServiceType")?.value.split("|") ?? [];
    const type = component.alike.find((one) => one.full === plain);
    const fault = type && inFront(type, types, this.target, this.sources);
    if (fault) this.tell(fault, component);
    this.typesOf(component);
  }

  /** Permissions that the types of a service ask for. */
  private typesOf(component: Component): void {
    const types = component.element.attributes.get("android:foregroundServiceType")?.value.split("|") ?? [];
    if (this.target < FOREGROUND_TYPES_SINCE) return;
    for (const stated of types)
      for (const permission of [FOREGROUND_SERVICE_PERMISSIONS[stated.trim()], "android.permission.FOREGROUND_SERVICE"])
        if (permission !== undefined && !this.permissions.has(permission) && !this.found.some(({ near }) => near === permission))
          this.tell("service type", component, permission);
  }
}

/** The name of a class as a manifest means it: one without a package is of the module's namespace. */
function fullName(name: string, namespace = ""): string {
  return name.startsWith(".") ? `${namespace}${name}` : name.includes(".") ? name : `${namespace}.${name}`;
}

/** Whether a name is a class's, with its package; a class in another has the outer one's name before its own. */
function isMeant(type: OwnClass, name: string): boolean {
  if (type.full === name) return true;
  const inner = name.startsWith(`${type.package}.`) ? name.slice(type.package.length + 1).split(".") : [];
  return inner.length > 0 && inner.every((part) => /^[A-Z_]/.test(part));
}

/** Bases of the platform that do nothing in the foreground by themselves. */
const PLAIN_SERVICE = /(?:\bextends\s+|:\s*)(?:[\w.]+\.)?(?:Service|IntentService|LifecycleService|MediaBrowserService(?:Compat)?)\b/;

/**
 * What stops a service of the app's own in the foreground. Sources: developer.android.com, "Launch a foreground service" (startForeground within
 * seconds of startForegroundService), "Foreground service types are required" (Android 14).
 */
function inFront(
  { header, name, source }: OwnClass,
  types: readonly string[],
  target: number,
  sources: readonly SourceFile[],
): "service never in front" | "service without type" | undefined {
  if (!PLAIN_SERVICE.test(header)) return undefined;
  const text = withoutComments(source.text);
  if (/\bstartForeground\s*\(/.test(text)) {
    // A type may be given to the call itself, which asks for one in the manifest too.
    return types.length === 0 && target >= FOREGROUND_TYPES_SINCE ? "service without type" : undefined;
  }
  if (/\bstartForeground\b|\bServiceCompat\b/.test(text)) return undefined;
  // A class around it, or one that is handed the service, may do so.
  if (sources.some((other) => isJvm(other) && /\bstartForeground\s*\(/.test(other.text))) return undefined;
  const started = new RegExp(`\\bstartForegroundService\\s*\\([^;\\n]{0,200}\\b${name}(?:::class|\\.class)\\b`);
  return sources.some((other) => isJvm(other) && other.text.includes("startForegroundService") && started.test(withoutComments(other.text)))
    ? "service never in front"
    : undefined;
}

function componentsOf(root: XmlElement): { element: XmlElement; tag: string }[] {
  return children(root, "application").flatMap((application) =>
    COMPONENTS.flatMap((tag) => children(application, tag).map((element) => ({ element, tag }))),
  );
}

function nameOf(element: XmlElement): string | undefined {
  return element.attributes.get("android:name")?.value;
}

/** A component's name without its package: a manifest may write it in full, another in short. */
function simpleName(element: XmlElement): string[] {
  return nameOf(element)?.split(/[.$]/).slice(-1) ?? [];
}

/** Base classes of what only a manifest lets the system start; the app's own and those of libraries by the ending of their names. */
const ANDROID_BASES: readonly [base: RegExp, what: string][] = [
  [/^(?:\w*Activity)$/, "activity"],
  [/^(?:Service|IntentService|JobIntentService|LifecycleService|JobService)$/, "service"],
  [/^ContentProvider$/, "provider"],
  [/^BroadcastReceiver$/, "receiver"],
];

const STARTED_CLASS = /Activity\b|(?:Service|Receiver)(?:Base)?\b|ContentProvider/;

/** Whether a class takes its base from a package that is not the app's own. */
function isForeign(base: string, text: string, own: string): boolean {
  const from = new RegExp(`^[ \\t]*import\\s+([\\w.]+)\\.${base}\\b`, "m").exec(text)?.[1];
  return from !== undefined && !from.startsWith(own.split(".").slice(0, 2).join("."));
}

/** Activities and services of the app's own that its code starts by their class, and that no manifest names. */
export function undeclaredComponents(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  if (!KINDS.has(app.kind) || !app.android) return [];
  // Those of the app, of its modules, and of its libraries.
  const files = new Set([
    ...app.manifests.filter((file) => file.endsWith("AndroidManifest.xml")),
    ...app.elements.map(({ at: place }) => place.file),
    ...app.libraryManifests.map(({ file }) => file),
  ]);
  const declared = new Set(
    [...files].flatMap((file) =>
      declaredIn(project, file).components.flatMap(({ tag, name }) => (tag === "activity-alias" ? [] : name.split(/[.$]/).slice(-1))),
    ),
  );
  if (declared.size === 0) return [];
  const classes = sources.filter((source) => isJvm(source) && STARTED_CLASS.test(source.text)).flatMap(classesIn);
  const workers = sources.filter((source) => isJvm(source) && WORKER.test(source.text)).flatMap(classesIn);
  return [
    ...workers.flatMap((type) => unenqueued(type, sources)),
    ...(app.kind === "react-native" ? [...unmadeModules(sources), ...unregisteredTasks(sources)] : []),
    ...classes.flatMap((type) => {
      const { name, header, source, offset, abstract, package: own } = type;
      const base =
        /(?:\bextends\s+|:\s*(?:[\w.]+\.)?)(?:[\w.]+\.)?(\w+)/.exec(header.replace(/^\s*(?:<[^>]*>)?\s*(?:\([^)]*\))?/, ""))?.[1] ?? "";
      // What the service of an SDK is named, the system starts by the manifest.
      const [, kindOfSdk] = /^[A-Z]\w+?(Service|Receiver)(?:Base)?$/.exec(base) ?? [];
      const ofPlatform = ANDROID_BASES.find(([form]) => form.test(base))?.[1];
      const ofSdk = ofPlatform === undefined && kindOfSdk !== undefined && isForeign(base, source.text, own);
      const what = ofPlatform ?? (ofSdk ? kindOfSdk.toLowerCase() : undefined);
      if (what === undefined || abstract || declared.has(name) || source.guards.some(({ kind }) => kind !== "variant")) return [];
      if (!isLost(type, what, ofSdk, sources)) return [];
      return [
        { name, what, side: "android" as const, wanted: `the manifest: <${what} android:name=".${name}" />`, at: source.place(offset) },
      ];
    }),
  ];
}

/** Whether code needs a component of the manifest that no manifest has: it starts it by its class, or nothing but the manifest can lead to it. */
function isLost({ name, source: own }: OwnClass, what: string, ofSdk: boolean, sources: readonly SourceFile[]): boolean {
  const ofAndroid = sources.filter(({ side, text }) => side === "android" && text.includes(name));
  const started = new RegExp(
    `\\b(?:Intent|startActivity|startService|startForegroundService|bindService|setClass|JobInfo\\.Builder|ComponentName)\\b[^;\\n]{0,200}\\b${name}(?:::class|\\.class)\\b`,
  );
  // A helper that starts what stands beside it, and that nothing names, starts nothing.
  const isStarted = (): boolean => {
    const starting = ofAndroid.filter(({ text }) => started.test(text));
    const stem = baseName(own.file).replace(/\.\w+$/, "");
    return (
      starting.some((other) => other !== own) ||
      (starting.length > 0 && sources.some((other) => other !== own && other.side === "android" && other.text.includes(stem)))
    );
  };
  // What is sent to a receiver by its class only comes to one of the manifest.
  const sentTo = new RegExp(`\\bIntent\\s*\\([^;\\n]{0,80}\\b${name}(?:::class|\\.class)\\b`);
  const byMention = what === "provider" || ofSdk || (what === "receiver" && !ofAndroid.some(({ text }) => sentTo.test(text)));
  if (!byMention) return isStarted();
  // A receiver may be made by code; one that nothing mentions is not.
  const mentioned = new RegExp(`(?<!\\b(?:class|object)\\s+)\\b${name}\\b`);
  return !ofAndroid.some(({ text }) => mentioned.test(withoutComments(text))) || (ofSdk && what === "service" && isStarted());
}

/** Tasks without a screen that native code starts by a name which no script gives to one. Source: reactnative.dev, "Headless JS". */
function unregisteredTasks(sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  const native = sources.filter((source) => isJvm(source) && source.text.includes("HeadlessJsTaskConfig"));
  if (native.length === 0) return [];
  const registered = sources.flatMap(({ side, text }) =>
    side === "shared" && text.includes("registerHeadlessTask")
      ? [...withoutComments(text).matchAll(/\bregisterHeadlessTask\s*\(\s*(?:["'`]([^"'`$]+)["'`])?/g)].map(([, name]) => name)
      : [],
  );
  // A name that a constant gives may be any.
  if (registered.includes(undefined)) return [];
  return native.flatMap((source) =>
    [...withoutComments(source.text).matchAll(/\bHeadlessJsTaskConfig\s*\(\s*"([^"$]+)"/g)].flatMap((match): CodeFacts["unnamed"] => {
      const name = match[1] as string;
      return registered.includes(name)
        ? []
        : [
            {
              name,
              what: "task without a screen",
              side: "android",
              wanted: "the scripts: AppRegistry.registerHeadlessTask",
              at: source.place(match.index),
            },
          ];
    }),
  );
}

const WORKER = /\bandroidx\.work\./;

const NATIVE_MODULE = /\b(ReactContextBaseJavaModule|SimpleViewManager|ViewGroupManager)\b/;

/** Native modules and views that no package makes: scripts do not find them. Source: reactnative.dev, "Android Native Modules" (register the module). */
function unmadeModules(sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  const jvm = sources.filter(isJvm);
  return jvm
    .filter(({ text }) => NATIVE_MODULE.test(text))
    .flatMap(classesIn)
    .flatMap(({ name, header, source, offset, abstract }) => {
      if (abstract || !NATIVE_MODULE.test(header.split("{", 1)[0] ?? "")) return [];
      const mentioned = new RegExp(`(?<!["'\\w]|\\b(?:class|object)\\s+)${name}\\b`);
      // A constructor of Java has the name of its class.
      const constructor = new RegExp(`\\b${name}\\s*\\([^()]*\\)\\s*\\{`, "g");
      const named = (other: SourceFile): boolean => {
        const text = withoutComments(other.text);
        return mentioned.test(other === source && other.language === "java" ? text.replace(constructor, "") : text);
      };
      if (jvm.some((other) => other.text.includes(name) && named(other))) return [];
      return [{ name, what: "native module", side: "android" as const, wanted: "a package of native modules", at: source.place(offset) }];
    });
}

/** A worker that no code names: nothing enqueues it. Source: developer.android.com, "Define work requests". */
function unenqueued({ name, header, source, offset, abstract }: OwnClass, sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  if (abstract || !/(?:\bextends\s+|:\s*)(?:[\w.]+\.)?(?:Coroutine|Listenable|Rx)?Worker\b/.test(header.replace(/^\s*\([^)]*\)/, "")))
    return [];
  const mentioned = new RegExp(`(?<!\\b(?:class|object)\\s+)\\b${name}\\b`);
  // A constructor has the class's name too.
  const named = (other: SourceFile): boolean => {
    const text = withoutComments(other.text);
    return mentioned.test(other === source ? text.replace(new RegExp(`\\b(?:public|protected|private)\\s+${name}\\s*\\(`, "g"), "") : text);
  };
  if (sources.some((other) => other.text.includes(name) && named(other))) return [];
  return [{ name, what: "worker", side: "android", wanted: "a request to the work manager", at: source.place(offset) }];
}
