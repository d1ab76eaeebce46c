import { distance } from "fastest-levenshtein";
import { APPLE_MODULES } from "../../knowledge/apple-frameworks.js";
import type { App, SwiftModule } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { isWithin } from "../../model/paths.js";
import { moduleOfPod, packageIdentity } from "../../model/sdk-id.js";
import { takesIn, type IosTargetFacts } from "../../model/xcode.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

const IMPORT =
  /^[ \t]*(?:(?:@\w+(?:\([^()\n]*\))?|public|internal|private|fileprivate|package)[ \t]+)*import[ \t]+(?:(?:class|struct|func|enum|protocol|typealias|var|let)[ \t]+)?(\w+)/gm;

/** A file of Swift with the module that it belongs to, what that is called, and which modules it sees; `undefined` where that is not known. */
interface Placed {
  source: SourceFile;
  plain: string;
  owner: string;
  /** The packages that its own asks for. */
  beside: readonly string[];
  sees: ReadonlySet<string> | undefined;
  imports: { name: string; offset: number }[];
}

/** The module that a file of a package belongs to: that of the nearest folder. */
function moduleOf(modules: readonly SwiftModule[], file: string): SwiftModule | undefined {
  return modules.filter(({ folder }) => isWithin(file, folder)).sort((a, b) => b.folder.length - a.folder.length)[0];
}

/** Files of Swift in modules of the repository's packages, and in targets that take some of these in. */
function placed({ ios, swiftModules }: App, sources: readonly SourceFile[]): Placed[] {
  const lists = new Map<string, IosTargetFacts[]>();
  for (const target of ios?.allTargets ?? []) for (const file of target.sources) lists.set(file, [...(lists.get(file) ?? []), target]);
  return sources.flatMap((source): Placed[] => {
    if (source.language !== "swift" || source.side !== "ios") return [];
    const plain = withoutComments(source.text);
    const imports = [...plain.matchAll(IMPORT)].map((match) => ({
      name: match[1] as string,
      offset: match.index + match[0].length - (match[1] as string).length,
    }));
    const module = moduleOf(swiftModules, source.file);
    if (module)
      return [
        {
          source,
          plain,
          owner: module.name,
          beside: module.beside,
          sees: module.open ? undefined : new Set([module.name, ...module.sees]),
          imports,
        },
      ];
    const listed = lists.get(source.file) ?? [];
    const [target, more] =
      listed.length > 0 ? listed : (ios?.allTargets ?? []).filter((own) => own.synchronized.length > 0 && takesIn(own, source.file));
    if (!target || more) return [];
    if (target.packageProducts.length === 0) return [{ source, plain, owner: target.name, beside: [], sees: undefined, imports }];
    const products = new Set(target.packageProducts.map(({ product }) => product));
    const taken = swiftModules.filter((own) => own.products.some((product) => products.has(product)));
    return [
      {
        source,
        plain,
        owner: target.name,
        beside: [],
        sees: new Set([target.name, ...products, ...taken.flatMap(({ name, sees }) => [name, ...sees])]),
        imports,
      },
    ];
  });
}

/** Whether a package that the app or the module's own package asks for has a name by which it must be the one with a module. */
function isPackage({ dependencies }: App, module: string, beside: readonly string[]): boolean {
  const plain = (name: string): string =>
    name
      .toLowerCase()
      .replace(/-(?:ios|swift|sdk)$/, "")
      .replace(/[^a-z\d]/g, "");
  return [...dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "swiftpm" ? packageIdentity(name) : [])), ...beside].some(
    (name) => plain(name) === plain(module),
  );
}

/** Modules of a framework of shared code, which its tools give to each package. */
const OF_FRAMEWORK = /^(?:Flutter\w*|React\w*|RCT\w*|Yoga|jsi|ExpoModulesCore|Expo|Capacitor|Cordova)$/;

/**
 * Imports of pods of the repository that their specifications do not ask for: nothing else brings them, where all that they ask for is known.
 * Source: CocoaPods, "Podspec Syntax Reference" (dependency).
 */
export function unseenPods({ ownPods, swiftModules }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const modules = new Set(ownPods.map(({ module }) => module));
  const bySource = new Map(sources.map((source) => [source.file, source]));
  return ownPods.flatMap((pod): CodeFacts["elsewhere"] => {
    // What another pod of the repository asks for comes along with it.
    const isKnown = !pod.open && pod.sees.every((name) => !modules.has(name) || name === pod.module);
    const told = new Set<string>();
    return pod.files.flatMap((file): CodeFacts["elsewhere"] => {
      const source = bySource.get(file);
      if (!source) return [];
      return [...withoutComments(source.text).matchAll(source.language === "swift" ? IMPORT : FRAMEWORK_HEADER)].flatMap(
        (match): CodeFacts["elsewhere"] => {
          const name = (match[1] ?? match[2]) as string;
          // Headers that code generation makes, and those of the pod's own folders.
          if (source.language !== "swift" && (name.endsWith("Spec") || pod.files.some((own) => own.includes(`/${name}/`)))) return [];
          if (name === pod.module || pod.sees.includes(name) || APPLE_MODULES.has(name) || told.has(name)) return [];
          // React Native and Expo have helpers that ask for theirs.
          if (!STATED.test(name) && (!isKnown || OF_FRAMEWORK.test(name))) return [];
          if (isConditional(source.text, match.index)) return [];
          told.add(name);
          const beside = swiftModules.filter(
            ({ folder, takes }) => isWithin(file, folder) && takes.some(({ product }) => product === name),
          );
          const at = source.place(match.index + match[0].indexOf(name));
          return [
            {
              sdk: source.imports.find((entry) => entry.package === name)?.sdk,
              package: name,
              owner: `the pod ${pod.name}`,
              declaredIn: beside.map((module) => `the Swift package ${module.package}`),
              side: "ios",
              at,
            },
          ];
        },
      );
    });
  });
}

/** Modules of a framework that each pod has to ask for itself. */
const STATED = /^(?:Flutter|Capacitor)$/;

/** A header of another module. */
const FRAMEWORK_HEADER = /^[ \t]*(?:#\s*import\s*<([A-Z]\w+)\/[^>\n]+>|@import\s+([A-Z]\w+)\s*;)/gm;

/** Whether an import stands under `#if`: of a module that may be there, say. */
function isConditional(text: string, offset: number): boolean {
  const before = text.slice(0, offset);
  return (before.match(/^[ \t]*#if\w*\b/gm) ?? []).length > (before.match(/^[ \t]*#endif\b/gm) ?? []).length;
}

/**
 * Imports of modules of the repository, and of products that another of its modules takes, that the file's own module does not take in. Source:
 * docs.swift.org, "PackageDescription" (Target.Dependency).
 */
export function unseenModules(app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const { swiftModules } = app;
  if (swiftModules.length === 0) return [];
  const found = new Map<string, CodeFacts["elsewhere"][number]>();
  for (const { source, owner, beside, sees, imports } of placed(app, sources)) {
    if (!sees) continue;
    for (const { name, offset } of imports) {
      const key = `${owner} ${name}`;
      if (sees.has(name) || APPLE_MODULES.has(name) || OF_FRAMEWORK.test(name) || found.has(key)) continue;
      if (isConditional(source.text, offset)) continue;
      const own = swiftModules.filter((module) => module.name === name);
      const takers = swiftModules.filter((module) => module.sees.includes(name) && module.name !== owner);
      const declaredIn = own.length > 0 ? own.map((module) => `the package ${module.package}`) : takers.map((module) => module.name);
      // Only products of others have modules of other names.
      const isNowhere =
        [...sees].every((seen) => OF_FRAMEWORK.test(seen) || swiftModules.some((module) => module.name === seen)) &&
        isPackage(app, name, beside);
      if (declaredIn.length === 0 && !isNowhere) continue;
      const sdk = source.imports.find((entry) => entry.package === name)?.sdk;
      found.set(key, {
        sdk,
        package: name,
        owner,
        declaredIn: [...new Set(declaredIn)].slice(0, 3),
        side: "ios",
        at: source.place(offset),
      });
    }
  }
  return [...found.values()];
}

/** A letter or two off; a module may have its pod's name in other letters. */
function isAlmost(module: string, name: string): boolean {
  const far = distance(module.toLowerCase(), name.toLowerCase());
  return far > 0 && far <= 2;
}

/** Imports of modules that no pod has, and that are almost the one of a pod which no file imports: its name is misspelt in the Podfile. */
export function misspeltPods({ dependencies, ios, swiftModules }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const pods = dependencies.filter(({ ecosystem }) => ecosystem === "cocoapods");
  const modules = new Set(pods.map(({ name }) => moduleOfPod(name)));
  if (!ios || modules.size === 0) return [];
  const own = new Set([
    ...swiftModules.map(({ name }) => name),
    ...ios.allTargets.flatMap(({ name, packageProducts }) => [name, ...packageProducts.map(({ product }) => product)]),
  ]);
  const imports = sources.flatMap((source) =>
    source.language === "swift" && source.side === "ios"
      ? [...withoutComments(source.text).matchAll(IMPORT)].map((match) => ({
          source,
          name: match[1] as string,
          at: match.index + match[0].length - (match[1] as string).length,
        }))
      : [],
  );
  const imported = new Set(imports.map(({ name }) => name));
  const told = new Set<string>();
  return imports.flatMap(({ source, name, at }): CodeFacts["elsewhere"] => {
    if (name.length < 6 || modules.has(name) || own.has(name) || APPLE_MODULES.has(name) || told.has(name)) return [];
    const meant = pods.find(
      (pod) => pod.direct && pod.route === "registry" && !imported.has(moduleOfPod(pod.name)) && isAlmost(moduleOfPod(pod.name), name),
    );
    if (!meant) return [];
    told.add(name);
    return [
      { sdk: meant.sdk, package: name, owner: `the app with the pod ${meant.name}`, declaredIn: [], side: "ios", at: source.place(at) },
    ];
  });
}

/**
 * Types of one module of the repository that a file of another uses without importing it. Only where nothing else that the file imports can
 * bring them.
 */
export function unimportedModules(app: App, sources: readonly SourceFile[]): CodeFacts["missingImports"] {
  const frameworks = (app.ios?.allTargets ?? []).flatMap(({ name, type }) => (/product-type\.framework/.test(type) ? name : []));
  const names = new Set([...app.swiftModules.map(({ name }) => name), ...frameworks]);
  if (names.size === 0) return [];
  const files = placed(app, sources);
  const homes = new Map<string, Set<string>>();
  for (const { plain, owner } of files)
    for (const [, type = ""] of plain.matchAll(/\b(?:class|struct|enum|actor|protocol|typealias)\s+([A-Z]\w*)/g))
      homes.set(type, (homes.get(type) ?? new Set()).add(owner));
  const exports = files.some(({ plain }) => /@_exported\s+import|\bpublic\s+import\b/.test(plain));
  if (exports) return [];
  return files.flatMap(({ source, plain, owner, imports }) => {
    // A module of others can have a type of that name.
    if (!imports.every(({ name }) => APPLE_MODULES.has(name) || names.has(name))) return [];
    const imported = new Set(imports.map(({ name }) => name));
    const use = [...plain.matchAll(/(?<![\w.])([A-Z]\w*)(?=\.\w+\s*[({])/g)].find(({ 1: type = "" }) => {
      const [home, more] = homes.get(type) ?? [];
      return (
        home !== undefined && more === undefined && home !== owner && names.has(home) && !imported.has(home) && !APPLE_MODULES.has(type)
      );
    });
    const [home] = use ? (homes.get(use[1] as string) ?? []) : [];
    return use && home !== undefined
      ? [{ sdk: undefined, callee: use[1] as string, wanted: home, side: "ios" as const, at: source.place(use.index) }]
      : [];
  });
}
