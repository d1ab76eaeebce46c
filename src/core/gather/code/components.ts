import { distance } from "fastest-levenshtein";
import type { FolderIndex } from "../../files/walk.js";
import { EXPORTED_SINCE, FOREGROUND_SERVICE_PERMISSIONS, FOREGROUND_TYPES_SINCE } from "../../knowledge/foreground-services.js";
import type { App } from "../../model/app.js";
import type { GradleModule } from "../../model/gradle.js";
import type { CodeFacts, ComponentFault } from "../../model/code.js";
import { baseName, isWithin, join } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, entriesOf, itemsOf, type Data, type ScalarData } from "../../syntax/data.js";
import { allElements, children, type XmlElement } from "../../syntax/xml.js";
import { COMPONENTS, declaredIn } from "../platforms/android/components.js";
import { namespaceOf } from "../platforms/android/manifest.js";
import { manifestFile } from "../platforms/android/side.js";
import type { ProjectFiles } from "../project-files.js";
import { laidResources, writtenManifest } from "../packages/cordova-manifest.js";
import { interfaceFaults } from "./interface-files.js";
import { manifestFaults } from "./manifest-faults.js";
import type { SourceFile } from "./sources.js";

/** Frameworks whose native code is written by people, and lies where the build takes it from. */
const KINDS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["native", "react-native", "expo", "flutter", "capacitor"]);

/** A class of the app's own code for Android. */
interface OwnClass {
  /** With its package. */
  full: string;
  name: string;
  package: string;
  /** What stands behind its name, up to its body. */
  header: string;
  source: SourceFile;
  offset: number;
  abstract: boolean;
}

/** Components of the system that cannot start: their class is not there, or what the system asks of their element is missing. */
export function componentFaults(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  if (app.kind === "dotnet") {
    const roots = app.manifests.flatMap((file) => (file.endsWith(".xml") ? (project.xml(file)?.root ?? []) : []));
    return manifestFaults(project, app, roots, sources);
  }
  if (app.kind === "cordova") return cordovaFaults(project, app, sources);
  if (!KINDS.has(app.kind)) return [];
  return [
    ...androidFaults(project, app, new OwnClasses(sources), sources, manifestsOf(project, app)),
    ...sceneFaults(project, index, app, sources),
    ...interfaceFaults(project, index, app, sources),
  ];
}

/** Where the header of a class without a body ends. */
const NEXT_DECLARATION =
  /\n\s*(?=@|(?:(?:public|private|internal|protected|open|abstract|data|sealed|enum)\s+)*(?:class|object|interface|fun|val|var)\b)/;

function classesIn(source: SourceFile): OwnClass[] {
  const text = withoutComments(source.text);
  const own = /^\s*package\s+([\w.]+)/m.exec(text)?.[1] ?? "";
  return [...text.matchAll(/((?:\b(?:abstract|sealed)\s+)?)\b(?:class|object|interface)\s+(\w+)(?=([^{;]{0,400}))/g)].map(
    (match): OwnClass => ({
      full: own === "" ? (match[2] as string) : `${own}.${match[2] as string}`,
      name: match[2] as string,
      package: own,
      header: (match[3] ?? "").split(NEXT_DECLARATION, 1)[0] ?? "",
      source,
      offset: match.index + match[0].indexOf(match[2] as string, (match[1] ?? "").length),
      abstract: match[1] !== "" || /\babstract\b[^\n]*$/.test(text.slice(text.lastIndexOf("\n", match.index) + 1, match.index)),
    }),
  );
}

function isJvm({ side, language }: SourceFile): boolean {
  return side === "android" && (language === "kotlin" || language === "java");
}

/** The app's own classes for Android, looked for where they can be: no file is read for what it does not name. */
class OwnClasses {
  private readonly sources: readonly SourceFile[];
  private readonly packages = new Map<string, SourceFile[]>();
  private readonly read = new Map<SourceFile, OwnClass[]>();

  constructor(sources: readonly SourceFile[]) {
    this.sources = sources.filter(isJvm);
    for (const source of this.sources) {
      const own = /^\s*package\s+([\w.]+)/m.exec(source.text.slice(0, 4_000))?.[1] ?? "";
      const list = this.packages.get(own);
      if (list) list.push(source);
      else this.packages.set(own, [source]);
    }
  }

  get any(): boolean {
    return this.sources.length > 0;
  }

  hasPackage(name: string): boolean {
    return this.packages.has(name);
  }

  /** The classes of a simple name, in any package. */
  named(name: string): OwnClass[] {
    return this.sources.filter(({ text }) => text.includes(name)).flatMap((source) => this.of(source).filter((type) => type.name === name));
  }

  inPackage(name: string): OwnClass[] {
    return (this.packages.get(name) ?? []).flatMap((source) => this.of(source));
  }

  private of(source: SourceFile): OwnClass[] {
    const known = this.read.get(source) ?? classesIn(source);
    this.read.set(source, known);
    return known;
  }
}

/** What a configuration and the project's own plugins write into the manifest, against the classes and files that they bring. */
function cordovaFaults(project: ProjectFiles, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const root = app.android && writtenManifest(project, app);
  if (!root || !app.android) return [];
  const { module } = app.android;
  const laid = laidResources(project, app);
  // Of a plugin that is not here nothing is known, and the template has files of its own.
  const open = app.dependencies.some(({ nativeUnknown }) => nativeUnknown);
  const resources = allElements(root).flatMap(({ source, attributes }) =>
    [...attributes].flatMap(([element, { value: name, start }]): ComponentFault[] => {
      const [, type, own] = /^@(xml|raw)\/(\w+)$/.exec(name) ?? [];
      if (type === undefined || own === undefined || laid.has(`${type}/${own}`) || /^(config|cdv_\w+|opener_paths)$/.test(own)) return [];
      const near = [...laid].find((other) => other.startsWith(`${type}/`) && distance(other, `${type}/${own}`) <= 4);
      return open && near === undefined
        ? []
        : [
            {
              what: "resource",
              side: "android",
              element,
              name,
              near: near === undefined ? undefined : `@${near}`,
              at: source.place(start),
            },
          ];
    }),
  );
  return [...androidFaults(project, app, new OwnClasses(sources), sources, [{ root, module }]), ...resources];
}

/** The manifests of the app's own modules. */
function manifestsOf(project: ProjectFiles, app: App): { root: XmlElement; module: GradleModule }[] {
  if (!app.android) return [];
  const main = app.android.module;
  const own = app.manifests.filter((file) => file.endsWith("AndroidManifest.xml")).map((file) => ({ file, module: main }));
  const ofModules = app.android.modules.flatMap((module) => {
    const file = module === main ? undefined : manifestFile(project, module);
    return file === undefined ? [] : [{ file, module }];
  });
  return [...own, ...ofModules].flatMap(({ file, module }) => {
    const root = project.xml(file)?.root;
    return root ? [{ root, module }] : [];
  });
}

function androidFaults(
  project: ProjectFiles,
  app: App,
  classes: OwnClasses,
  sources: readonly SourceFile[],
  manifests: readonly { root: XmlElement; module: GradleModule }[],
): ComponentFault[] {
  const faults: ComponentFault[] = [];
  if (!app.android) return faults;
  const target = Math.max(
    0,
    ...app.android.levels.flatMap(({ level, owner, value }) =>
      level === "targetSdk" && owner === "app" ? Number(textOf(value)) || [] : [],
    ),
  );
  const permissions = new Set(
    app.entries.flatMap(({ kind, side, name, removed }) => (kind === "permission" && side === "android" && !removed ? name : [])),
  );
  const roots = manifests.map(({ root }) => root);
  const exported = new Set(
    roots.flatMap((root) =>
      componentsOf(root).flatMap(({ element }) => (element.attributes.has("android:exported") ? simpleName(element) : [])),
    ),
  );
  for (const { root, module } of manifests) {
    const namespace = namespaceOf(root, module);
    for (const { element, tag } of [
      ...children(root, "application").map((element) => ({ element, tag: "application" })),
      ...componentsOf(root),
    ]) {
      const name = nameOf(element);
      const attribute = element.attributes.get("android:name");
      const place = element.source.place(attribute?.start ?? element.start);
      if (
        name === undefined ||
        /[${}]/.test(name.replace(/\w\$\w/g, "")) ||
        /^remove/.test(element.attributes.get("tools:node")?.value ?? "")
      )
        continue;
      const full = name.startsWith(".") ? `${namespace ?? ""}${name}` : name.includes(".") ? name : `${namespace ?? ""}.${name}`;
      const plain = full.replaceAll("$", ".");
      const own = plain.slice(0, plain.lastIndexOf("."));
      const simple = plain.slice(own.length + 1);
      const ownPackage = own === namespace || classes.hasPackage(own);
      const alike = ownPackage || classes.hasPackage(own.slice(0, Math.max(0, own.lastIndexOf(".")))) ? classes.named(simple) : [];
      // A class in another has the outer one's name before its own.
      const known = alike.some(
        (type) =>
          type.full === plain ||
          (plain.startsWith(`${type.package}.`) &&
            plain
              .slice(type.package.length + 1)
              .split(".")
              .every((part) => /^[A-Z_]/.test(part))),
      );
      if (tag !== "activity-alias" && !known && classes.any && namespace !== undefined && ownPackage) {
        const near = alike[0] ?? classes.inPackage(own).find((type) => distance(type.name, simple) <= Math.max(2, simple.length / 3));
        faults.push({ what: "class", side: "android", element: tag, name: full, near: near?.full, at: place });
      }
      if (tag === "application") continue;
      // What a library's own manifest says of its component is merged in.
      const mine = known || tag === "activity-alias";
      if (mine && target >= EXPORTED_SINCE && tag !== "provider" && children(element, "intent-filter").length > 0 && !exported.has(simple))
        faults.push({ what: "exported", side: "android", element: tag, name: full, near: undefined, at: place });
      const types = element.attributes.get("android:foregroundServiceType")?.value.split("|") ?? [];
      if (known && tag === "service") {
        const [type] = alike.filter((one) => one.full === plain);
        const fault = type && inFront(type, types, target, sources);
        if (fault) faults.push({ what: fault, side: "android", element: tag, name: full, near: undefined, at: place });
      }
      if (mine && tag === "service" && target >= FOREGROUND_TYPES_SINCE)
        for (const type of types) {
          const wanted = [FOREGROUND_SERVICE_PERMISSIONS[type.trim()], "android.permission.FOREGROUND_SERVICE"];
          for (const permission of wanted)
            if (permission !== undefined && !permissions.has(permission) && !faults.some((fault) => fault.near === permission))
              faults.push({ what: "service type", side: "android", element: tag, name: full, near: permission, at: place });
        }
    }
  }
  return [...faults, ...manifestFaults(project, app, roots, sources)];
}

/** Bases of the platform that do nothing in the foreground by themselves. */
const PLAIN_SERVICE = /(?:\bextends\s+|:\s*)(?:[\w.]+\.)?(?:Service|IntentService|LifecycleService)\b/;

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
    ...(app.kind === "react-native" ? unmadeModules(sources) : []),
    ...classes.flatMap(({ name, header, source, offset, abstract, package: own }) => {
      const base =
        /(?:\bextends\s+|:\s*(?:[\w.]+\.)?)(?:[\w.]+\.)?(\w+)/.exec(header.replace(/^\s*(?:<[^>]*>)?\s*(?:\([^)]*\))?/, ""))?.[1] ?? "";
      // What the service of an SDK is named, the system starts by the manifest.
      const [, kindOfSdk] = /^[A-Z]\w+?(Service|Receiver)(?:Base)?$/.exec(base) ?? [];
      const ofSdk = kindOfSdk !== undefined && isForeign(base, source.text, own);
      const what = ANDROID_BASES.find(([form]) => form.test(base))?.[1] ?? (ofSdk ? kindOfSdk.toLowerCase() : undefined);
      if (what === undefined || abstract || declared.has(name) || source.guards.some(({ kind }) => kind !== "variant")) return [];
      const started = new RegExp(
        `\\b(?:Intent|startActivity|startService|startForegroundService|bindService|setClass|JobInfo\\.Builder|ComponentName)\\b[^;\\n]{0,200}\\b${name}(?:::class|\\.class)\\b`,
      );
      // A receiver may be made by code; one that nothing mentions is not.
      const mentioned = new RegExp(`(?<!\\b(?:class|object)\\s+)\\b${name}\\b`);
      const lost =
        what === "receiver" || what === "provider" || ofSdk
          ? !sources.some((other) => other.side === "android" && mentioned.test(withoutComments(other.text)))
          : sources.some((other) => other.side === "android" && started.test(other.text));
      if (!lost) return [];
      return [
        { name, what, side: "android" as const, wanted: `the manifest: <${what} android:name=".${name}" />`, at: source.place(offset) },
      ];
    }),
  ];
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
      const elsewhere = new RegExp(`\\b${name}\\b`);
      if (jvm.some((other) => other !== source && elsewhere.test(withoutComments(other.text)))) return [];
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

/** Classes and storyboards that property lists name. Source: developer.apple.com, "UIApplicationSceneManifest", "UIMainStoryboardFile". */
function sceneFaults(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  if (!app.ios) return [];
  const folder = app.ios.folder;
  const code = sources.filter(({ side }) => side === "ios");
  let named: Set<string> | undefined;
  const types = (): Set<string> =>
    (named ??= new Set(
      code.flatMap(({ text }) =>
        [...withoutComments(text).matchAll(/(?:\bclass|@implementation)\s+(\w+)/g)].map((match) => match[1] as string),
      ),
    ));
  const files = new Set([...index].flatMap(([above, { files: names }]) => (isWithin(above, folder) ? names : [])));
  // Folders of languages are listed by nobody before.
  let inLanguages: Set<string> | undefined;
  const localized = (): Set<string> =>
    (inLanguages ??= new Set(
      [...index].flatMap(([above, { folders }]) =>
        isWithin(above, folder)
          ? folders
              .filter((name) => name.endsWith(".lproj"))
              .flatMap((name) => project.tree.list(join(above, name)).map((entry) => entry.name))
          : [],
      ),
    ));
  const faults: ComponentFault[] = [];
  for (const file of app.propertyLists.filter((name) => name.endsWith(".plist"))) {
    const root = project.plist(file)?.root;
    for (const [key, value] of scalarsOf(root)) {
      const text = String(value.value);
      const place = value.source.place(value.start);
      const type = key === "UISceneDelegateClassName" ? /^\$\(PRODUCT_MODULE_NAME\)\.(\w+)$/.exec(text)?.[1] : undefined;
      if (type !== undefined && code.length > 0 && !types().has(type))
        faults.push({
          what: "scene delegate",
          side: "ios",
          element: baseName(file),
          name: type,
          near: [...types()].find((other) => distance(other, type) <= 3),
          at: place,
        });
      if (/^(UIMainStoryboardFile|UISceneStoryboardFile|UILaunchStoryboardName)$/.test(key) && /^[\w -]+$/.test(text))
        if (
          !["storyboard", "xib", "nib", "storyboardc"].some(
            (ending) => files.has(`${text}.${ending}`) || localized().has(`${text}.${ending}`),
          )
        )
          faults.push({ what: "storyboard", side: "ios", element: key, name: text, near: undefined, at: place });
    }
  }
  return faults;
}

/** All texts of a property list with their keys, at any depth. */
function scalarsOf(data: Data | undefined, depth = 0): [key: string, value: ScalarData][] {
  if (depth > 8 || data === undefined) return [];
  if (data.kind === "list") return itemsOf(data).flatMap((item) => scalarsOf(item, depth + 1));
  return entriesOf(data).flatMap(([key, { value }]): [string, ScalarData][] =>
    value.kind === "scalar" ? (typeof value.value === "string" ? [[key, value]] : []) : scalarsOf(at(data, key), depth + 1),
  );
}
