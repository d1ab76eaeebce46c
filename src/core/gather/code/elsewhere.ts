import type { App, AssemblyFact } from "../../model/app.js";
import type { Dependency } from "../../model/facts.js";
import { hasLostModules, namespaceIn, sourceFolders, type GradleModule } from "../../model/gradle.js";
import type { CodeFacts } from "../../model/code.js";
import { isInstalled, isWithin, join, parentOf } from "../../model/paths.js";
import { at, entriesOf, textAt } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { takesIn, type IosTargetFacts } from "../../model/xcode.js";
import { moduleOfPod, sdkIdOf } from "../../model/sdk-id.js";
import { BROUGHT_ALONG, isPlatformPackage, PLATFORM_PLUGIN } from "../../knowledge/platform-packages.js";
import { withoutComments } from "../../syntax/comments.js";
import { underConditions } from "../platforms/directives.js";
import { escaped } from "./mentions.js";
import { ModuleViews } from "./module-views.js";
import type { SourceFile } from "./sources.js";

/** In code for all builds of a module. */
const IN_MAIN = /\/src\/(?:main|androidMain)\//;

/** Imports of packages that another module or target declares, and neither the file's own nor one that it depends on. */
export function importsElsewhere(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const found = [
    ...inModules(app, sources),
    ...ownModules(app, sources),
    ...onlyForTests(app, sources),
    ...leftInCatalog(app, sources),
    ...inPackageModules(project, app, sources),
    ...inTargets(app, sources),
    ...inPackages(project, app, sources),
    ...inAssemblies(app, sources),
    ...packagesOfProjects(app, sources),
  ];
  const told = new Set<string>();
  return found.filter(({ package: name, owner }) => !told.has(`${name} ${owner}`) && told.add(`${name} ${owner}`));
}

function inModules({ android, dependencies }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  if (!android || android.modules.length < 2) return [];
  const found: CodeFacts["elsewhere"] = [];
  const groupOf = (name: string): string => name.split(":")[0] ?? name;
  const views = new ModuleViews(android.build, android.modules);
  for (const source of sources) {
    if (source.side !== "android" || source.imports.length === 0 || !IN_MAIN.test(source.file)) continue;
    const module = views.of(source.file);
    if (!module) continue;
    const visible = modulesSeen(views, module);
    for (const { sdk, package: name, offset } of source.imports) {
      const declared = dependencies.filter(
        (dependency) =>
          dependency.ecosystem === "maven" && !dependency.test && (dependency.sdk === sdk || groupOf(dependency.name) === groupOf(name)),
      );
      const owners = [...new Set(declared.map((dependency) => dependency.in))];
      // What the root or a script for all modules declares is declared for each.
      if (
        owners.length === 0 ||
        declared.some((dependency) => visible.sees(dependency)) ||
        owners.some((owner) => !android.modules.some(({ path }) => path === owner) || owner === ":")
      )
        continue;
      if (declared.some(({ conditional }) => conditional)) continue;
      found.push({ sdk, package: name, owner: module.path, declaredIn: owners, side: "android", at: source.place(offset) });
    }
  }
  return found;
}

/**
 * Imports of packages of a module of the same build that the file's own neither depends on nor gets handed on: told where the module is known by
 * its namespace or its sources, and no module that is seen has the package.
 */
function ownModules({ android }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  if (!android || android.build.modules.size < 2) return [];
  const { build } = android;
  const views = new ModuleViews(build);
  const named = android.modules.flatMap((module) => sourceFolders(module).map(({ folder }) => ({ folder, path: module.path })));
  const namespaces = new Map<string, string>();
  for (const module of build.modules.values()) {
    const name = namespaceIn(module);
    if (name !== undefined) namespaces.set(name, module.path);
  }
  const declaring = new Map<string, Set<string>>();
  const files = sources.flatMap((source) => {
    if (source.side !== "android" || (source.language !== "kotlin" && source.language !== "java") || !IN_MAIN.test(source.file)) return [];
    const module = views.of(source.file);
    const own = /^\s*package\s+([\w.]+)/m.exec(source.text.slice(0, 4_000))?.[1];
    if (!module || own === undefined) return [];
    const paths = declaring.get(own) ?? new Set<string>();
    for (const path of [module.path, ...named.flatMap((root) => (isWithin(source.file, root.folder) ? root.path : []))]) paths.add(path);
    declaring.set(own, paths);
    return hasLostModules(build, [module]) ? [] : [{ source, module }];
  });
  const found: CodeFacts["elsewhere"] = [];
  for (const { source, module } of files) {
    const sees = (owner: string): boolean => owner === module.path || views.handedTo(module).has(owner);
    for (const match of source.text.matchAll(/^[ \t]*import\s+([a-z][\w.]*?)\.(?:[A-Z]\w*|\*|[a-z]\w*[ \t]*$)/gm)) {
      const name = match[1] as string;
      const namespace = namespaces.get(name);
      const owners = declaring.get(name) ?? new Set(namespace === undefined ? [] : [namespace]);
      if (owners.size === 0 || [...owners].some(sees) || module.modules.some(({ conditional }) => conditional)) continue;
      const at = source.place(match.index + match[0].indexOf("import"));
      found.push({ sdk: undefined, package: name, owner: module.path, declaredIn: [...owners], side: "android", at });
    }
  }
  return found;
}

/** Modules of the frameworks, which bring those roots alone. */
const MODULE_OF_FRAMEWORK = /^:(?:capacitor-android|capacitor-cordova-android-plugins|expo-modules-core|react-native)$/;

/**
 * Imports of packages of the repository that nothing brings: their modules ask for no library of others at all. A class that the build writes is in
 * a package like the module's own.
 */
function inPackageModules(
  { tree }: ProjectFiles,
  { packageModules, android }: App,
  sources: readonly SourceFile[],
): CodeFacts["elsewhere"] {
  const rootOf = (name: string): string => name.split(".").slice(0, 2).join(".");
  // Modules that the app's own build takes in from a package of the repository are read as parts of it.
  const around = (android?.modules ?? []).filter(
    ({ folder }) => android && !isWithin(folder, android.folder) && !isInstalled(`${folder}/`),
  );
  return [...packageModules, ...around].flatMap((module): CodeFacts["elsewhere"] => {
    const { dependencies, modules, paths, unread, folder, plugins } = module;
    const asks = dependencies.filter(({ configuration }) => configuration !== "classpath" && !/test/i.test(configuration));
    const isClosed =
      unread.length === 0 &&
      asks.every(({ kind, group, artifact }) => kind === "module" && isPlatformPackage("maven", `${group}:${artifact}`)) &&
      modules.every(({ path }) => MODULE_OF_FRAMEWORK.test(path)) &&
      paths.every(({ kind }) => kind !== "binary") &&
      !tree.isFolder(join(folder, "libs")) &&
      plugins.some(({ applied, id }) => applied && /^com\.android\.library$/.test(id));
    const lent = withoutFramework(module, sources);
    if (!isClosed) return lent;
    const own = sources.filter((source) => isWithin(source.file, folder) && (source.language === "kotlin" || source.language === "java"));
    const roots = new Set([
      rootOf(namespaceIn(module) ?? ""),
      ...own.flatMap(({ text }) => rootOf(/^\s*package\s+([\w.]+)/m.exec(text)?.[1] ?? "")),
    ]);
    const found = own
      .filter(({ file }) => IN_MAIN.test(file))
      .flatMap((source) =>
        [...withoutComments(source.text).matchAll(/^[ \t]*import\s+(?:static\s+)?([a-z]\w*(?:\.[a-z]\w*)+)\.[A-Z*]/gm)].flatMap((match) => {
          const name = match[1] as string;
          if (BROUGHT_ALONG.test(name) || roots.has(rootOf(name))) return [];
          const at = source.place(match.index + match[0].indexOf("import"));
          return [{ sdk: undefined, package: name, owner: module.path, declaredIn: [], side: "android" as const, at }];
        }),
      );
    return [...lent, ...found];
  });
}

/**
 * A package of the repository whose code takes the framework's classes, and whose script does not depend on it. Sources: reactnative.dev, "Create a Library
 * for Your Module"; capacitorjs.com, "Creating Plugins" (their build scripts).
 */
function withoutFramework(
  { dependencies, modules, unread, folder, path, plugins }: GradleModule,
  sources: readonly SourceFile[],
): CodeFacts["elsewhere"] {
  const isLibrary = plugins.some(({ applied, id }) => applied && /^com\.android\.library$/.test(id));
  const isPlain = plugins.every(({ applied, id }) => !applied || PLATFORM_PLUGIN.test(id));
  if (!isLibrary || !isPlain || unread.length > 0) return [];
  for (const [form, group, module] of OF_FRAMEWORKS) {
    if (dependencies.some((one) => one.group.startsWith(group)) || modules.some((one) => module.test(one.path))) continue;
    for (const source of sources) {
      const match = isWithin(source.file, folder) && IN_MAIN.test(source.file) ? form.exec(source.text) : null;
      if (match)
        return [
          { sdk: undefined, package: match[1] as string, owner: path, declaredIn: [], side: "android", at: source.place(match.index) },
        ];
    }
  }
  return [];
}

/** Classes of frameworks, the group of their library and the module that it is in an app. */
const OF_FRAMEWORKS: readonly [classes: RegExp, group: string, module: RegExp][] = [
  [/^[ \t]*import\s+(com\.facebook\.react)\./m, "com.facebook.react", /^:(ReactAndroid|packages:react-native.*|react-native.*)$/],
  [/^[ \t]*import\s+(com\.getcapacitor)\./m, "com.capacitorjs", /^:capacitor-android$/],
];

/** Packages whose classes the system has as well: tests bring them since they run elsewhere. Source: developer.android.com, "Android API reference" (packages). */
const IN_PLATFORM = /^(?:org\.json|org\.xmlpull|xmlpull|org\.w3c|xml-apis|org\.apache\.httpcomponents|javax\.xml|android)[.:]/;

/**
 * Libraries of the build's catalog that no module depends on, and whose classes code of the app imports: a line of the dependencies was lost. Only where the
 * package is called like the group, and the group is nowhere else. Source: docs.gradle.org, "Version catalogs" (an alias is a name, and no dependency).
 */
function leftInCatalog({ android }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  if (!android || android.build.catalog.length === 0 || android.build.openConventions.length > 0) return [];
  const all = [android.build.root, ...android.build.modules.values(), ...android.modules];
  if (all.some(({ unread }) => unread.length > 0)) return [];
  const used = new Set(all.flatMap(({ dependencies }) => dependencies.map(({ group }) => group)));
  const idle = android.build.catalog.filter(
    ({ group, artifact }) => !used.has(group) && !isPlatformPackage("maven", `${group}:${artifact}`),
  );
  const views = new ModuleViews(android.build);
  return idle.flatMap(({ group, artifact, at: declared }): CodeFacts["elsewhere"] => {
    const form = new RegExp(`^[ \\t]*import\\s+(?:static\\s+)?${escaped(group)}\\.[\\w.]*[A-Z*]`, "m");
    const source = sources.find(({ side, file, text }) => side === "android" && IN_MAIN.test(file) && form.test(text));
    const match = source && form.exec(source.text);
    if (!source || !match) return [];
    const at = source.place(match.index);
    return [
      {
        sdk: undefined,
        package: `${group}:${artifact}`,
        owner: views.of(source.file)?.path ?? ":app",
        declaredIn: [declared.file],
        side: "android",
        at,
      },
    ];
  });
}

/** Packages of a registry that code of the app imports and that it has for its tests alone. */
function onlyForTests({ android, dependencies }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  if (!android) return [];
  const groupOf = (name: string): string => name.split(":")[0] ?? name;
  // What was not read may be the package itself.
  if (android.modules.some(({ unread }) => unread.length > 0)) return [];
  const maven = dependencies.filter(({ ecosystem, platform }) => ecosystem === "maven" && !platform);
  const shipped = new Set(maven.filter(({ test }) => !test).map(({ name }) => groupOf(name)));
  const aside = new Map(
    maven
      .filter(({ name, test, direct }) => test && direct && !shipped.has(groupOf(name)) && !IN_PLATFORM.test(name))
      .map((one) => [groupOf(one.name), one]),
  );
  if (aside.size === 0) return [];
  const views = new ModuleViews(android.build);
  return sources.flatMap((source): CodeFacts["elsewhere"] => {
    if (source.side !== "android" || !IN_MAIN.test(source.file)) return [];
    return [...source.text.matchAll(/^[ \t]*import\s+([a-z][\w.]*)\.[A-Z*]/gm)].flatMap((match) => {
      const name = match[1] as string;
      const dependency = [...aside].find(([group]) => name === group || name.startsWith(`${group}.`))?.[1];
      const owner = views.of(source.file)?.path ?? ":app";
      if (!dependency) return [];
      const at = source.place(match.index + match[0].indexOf("import"));
      return [{ sdk: dependency.sdk, package: dependency.name, owner, declaredIn: [dependency.scope], side: "android" as const, at }];
    });
  });
}

/**
 * What the code of a module sees of the packages that modules declare: its own, and those that the modules which it depends on hand on.
 * Source: docs.gradle.org, "The Java Library Plugin, API and implementation separation".
 */
function modulesSeen(views: ModuleViews, module: GradleModule): { sees: (dependency: Dependency) => boolean } {
  return {
    sees: (dependency) => dependency.in === module.path || (/api/i.test(dependency.scope) && views.handedTo(module).has(dependency.in)),
  };
}

/**
 * Packages of Dart that the app's own library imports and that only its tests may use, that come only with others, or that nothing brings.
 * Source: dart.dev, "Package dependencies" (a package in lib/ has to be a dependency).
 */
// eslint-disable-next-line complexity -- one question after the other for each import
function inPackages(
  project: ProjectFiles,
  { kind, path: home, shared, dependencies, name: own, lockedNames, sourceFolders }: App,
  sources: readonly SourceFile[],
): CodeFacts["elsewhere"] {
  if (kind !== "flutter") return [];
  // The code of a module lies beside the native projects that take it in.
  const path = shared?.folder ?? home;
  const found: CodeFacts["elsewhere"] = [];
  // What each package of the tree declares, by its name, and whether for tests alone.
  const declarations = new Map<string, Map<string, boolean>>();
  for (const { ecosystem, name, test, direct, in: owner } of dependencies) {
    if (ecosystem !== "pub" || !direct) continue;
    const declared = declarations.get(owner) ?? new Map<string, boolean>();
    declarations.set(owner, declared.set(name, (declared.get(name) ?? true) && test));
  }
  const libraries = sourceFolders.flatMap(({ folder, package: owner }) => (owner === undefined ? [] : [{ folder, owner }]));
  // Of a package of the tree its own tests alone have what it says for them.
  const forTests = (owner: string, folder: string): ReadonlySet<string> => {
    const root = owner === own ? undefined : project.yaml(join(parentOf(folder), "pubspec.yaml"))?.root;
    return new Set(entriesOf(at(root, "dev_dependencies")).map(([name]) => name));
  };
  const isLocked = [...lockedNames].some((name) => name.startsWith("pub "));
  // Members of a workspace and packages of the tree are in no lock.
  const inTree = new Set(
    sourceFolders.map(({ folder }) =>
      folder
        .replace(/\/lib$/, "")
        .split("/")
        .at(-1),
    ),
  );
  for (const source of sources) {
    if (source.language !== "dart") continue;
    const library = libraries.find(({ folder }) => isWithin(source.file, folder));
    const owner = isWithin(source.file, join(path, "lib")) ? own : library?.owner;
    if (owner === undefined) continue;
    const declared = declarations.get(owner);
    let tests: ReadonlySet<string> | undefined;
    for (const match of source.text.matchAll(/^[ \t]*(?:import|export)\s*["']package:([\w]+)\//gm)) {
      const name = match[1] as string;
      const onlyTests = declared?.get(name) ?? (library && (tests ??= forTests(owner, library.folder)).has(name) ? true : undefined);
      if (name === owner || onlyTests === false || isFlutterPackage(name)) continue;
      // Without a lock nobody knows what comes with others; `flutter_gen` is written by the build.
      const comes = lockedNames.has(`pub ${name}`) || inTree.has(name) || liesAround(project, path, name);
      if (onlyTests === undefined && !comes && (!isLocked || name === "flutter_gen")) continue;
      const dependency = dependencies.find((other) => other.ecosystem === "pub" && other.name === name);
      found.push({
        sdk: dependency?.sdk ?? sdkIdOf("pub", name),
        package: name,
        owner,
        declaredIn: onlyTests === true ? ["dev_dependencies"] : comes ? ["another package"] : [],
        side: "shared",
        at: source.place(match.index + match[0].indexOf("package:")),
      });
    }
  }
  return found;
}

/** Whether a package of that name lies around the app, or in a folder called so beside it or further up. */
function liesAround(project: ProjectFiles, path: string, name: string): boolean {
  const isCalled = (folder: string): boolean => {
    const file = join(folder, "pubspec.yaml");
    return project.tree.isFile(file) && textAt(project.yaml(file)?.root, "name") === name;
  };
  for (let folder = path; folder !== "";) {
    folder = parentOf(folder);
    if (isCalled(folder) || isCalled(join(folder, name))) return true;
  }
  return false;
}

/** Packages that come with the framework itself. */
function isFlutterPackage(name: string): boolean {
  return /^(flutter|flutter_test|flutter_localizations|flutter_web_plugins|flutter_driver|integration_test|sky_engine)$/.test(name);
}

/** The assembly of code that no definition claims. Source: docs.unity3d.com, "Special folders and script compilation order". */
const PREDEFINED = "Assembly-CSharp";

/**
 * Namespaces that the code of one assembly uses and that only assemblies declare to which it does not refer. The code that no definition
 * claims may use all; no definition can refer to it. Source: docs.unity3d.com, "Assembly definitions" (references).
 */
function inAssemblies(
  { kind, assemblies, dependencies, otherProjects: others }: App,
  sources: readonly SourceFile[],
): CodeFacts["elsewhere"] {
  if ((kind !== "unity" && kind !== "dotnet") || assemblies.size === 0) return [];
  const ofFile = (file: string): AssemblyFact | undefined => assemblyOf(assemblies, file);
  const declaring = new Map<string, Set<string>>();
  const files = sources.filter(({ language }) => language === "csharp").map((source) => ({ source, assembly: ofFile(source.file) }));
  for (const { source, assembly } of files)
    for (const match of source.text.matchAll(/^[ \t]*namespace\s+([\w.]+)/gm)) {
      const owners = declaring.get(match[1] as string) ?? new Set();
      declaring.set(match[1] as string, owners.add(assembly?.name ?? PREDEFINED));
    }
  const found: CodeFacts["elsewhere"] = [];
  // A project that nothing refers to is known by its name, which is that of its first namespace.
  const packages = dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "nuget" ? name.toLowerCase() : []));
  const ofNone = (namespace: string): Set<string> | undefined => {
    const names = others.filter((name) => namespace === name || namespace.startsWith(`${name}.`));
    const isOpen = names.length === 0 || [...declaring.keys()].some((other) => other.startsWith(`${namespace}.`));
    const lower = namespace.toLowerCase();
    return isOpen || packages.some((name) => lower === name || lower.startsWith(`${name}.`)) ? undefined : new Set(names);
  };
  for (const { source, assembly } of files) {
    if (!assembly || assembly.name === "" || assembly.aside) continue;
    const isConditional = underConditions(source.text);
    const may = new Set([assembly.name, ...assembly.references]);
    for (const match of source.text.matchAll(/^[ \t]*using\s+(?:static\s+)?([\w.]+)\s*;/gm)) {
      const owners = declaring.get(match[1] as string) ?? ofNone(match[1] as string);
      if (!owners || [...owners].some((owner) => may.has(owner)) || isConditional(match.index)) continue;
      found.push({
        sdk: undefined,
        package: match[1] as string,
        owner: assembly.name,
        declaredIn: [...owners],
        side: "shared",
        at: source.place(match.index + match[0].indexOf("using")),
      });
    }
  }
  return found;
}

/** The assembly that a file belongs to: the nearest above it. */
function assemblyOf(assemblies: App["assemblies"], file: string): AssemblyFact | undefined {
  for (let folder = parentOf(file); ; folder = parentOf(folder)) {
    const found = assemblies.get(folder);
    if (found || folder === "") return found;
  }
}

/** Packages that come with the platform or with almost every other one. */
const OF_THE_PLATFORM = /^(?:Microsoft|System|Xamarin|NETStandard)\b/;

/**
 * Namespaces of packages that the project of a file neither has nor gets by its references: another project of the app alone declares them.
 * Source: learn.microsoft.com, "PackageReference in project files" (what a referenced project has goes on to those that refer to it).
 */
function packagesOfProjects({ kind, assemblies, dependencies }: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  if (kind !== "dotnet" || assemblies.size < 2) return [];
  const packages = dependencies.filter(({ ecosystem, name }) => ecosystem === "nuget" && !OF_THE_PLATFORM.test(name));
  return sources.flatMap((source) => {
    const assembly = source.language === "csharp" ? assemblyOf(assemblies, source.file) : undefined;
    if (!assembly || assembly.name === "" || assembly.aside) return [];
    const isConditional = underConditions(source.text);
    const sees = new Set([assembly.name, ...assembly.references]);
    return [...source.text.matchAll(/^[ \t]*using\s+(?:static\s+)?([\w.]+)\s*;/gm)].flatMap((match): CodeFacts["elsewhere"] => {
      const namespace = match[1] as string;
      const exact = packages.filter(({ name }) => namespace === name || namespace.startsWith(`${name}.`));
      const fitting = exact.length > 0 ? exact : packages.filter(({ name }) => name.startsWith(`${namespace}.`));
      const owners = [...new Set(fitting.map((dependency) => dependency.in.replace(/\.\w+proj$/, "")))];
      const [first] = fitting;
      if (!first || owners.some((owner) => sees.has(owner)) || isConditional(match.index)) return [];
      return [
        {
          sdk: first.sdk,
          package: first.name,
          owner: assembly.name,
          declaredIn: owners,
          side: source.side,
          at: source.place(match.index + match[0].indexOf("using")),
        },
      ];
    });
  });
}

/** Whether a module is of a package, or of a framework of the project, that the target does not take and gets from none that it could link. */
function isForNoTarget({ ios, swiftModules }: App, module: string, owner: IosTargetFacts): boolean {
  if (!ios || [...owner.linked, ...owner.embedded].some(({ name }) => name.replace(/\.(xc)?framework$/, "") === module)) return false;
  const own = ios.allTargets.find(({ name }) => name === module || name === `${module}_iOS`);
  if (!own) {
    const of = ios.likelyModules?.find(({ names }) => names.includes(module.toLowerCase()))?.package;
    const takers = ios.allTargets.filter(({ packageProducts }) => packageProducts.some((product) => product.package === of));
    if (of === undefined || takers.some((taker) => taker === owner || /framework|library/.test(taker.type))) return false;
    // What a package of the repository takes is seen by whoever takes that.
    return !swiftModules.some(({ name, takes }) => name === module || takes.some(({ product }) => product === module));
  }
  // In a project that Xcode keeps, a static one is found without being named.
  return !ios.projectFile.endsWith(".pbxproj") && own !== owner && own.type === "com.apple.product-type.framework";
}

function inTargets(app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const { ios, dependencies } = app;
  if (!ios || (ios.allTargets.length < 2 && !ios.likelyModules?.length)) return [];
  const found: CodeFacts["elsewhere"] = [];
  for (const source of sources) {
    if (source.side !== "ios" || source.language !== "swift") continue;
    const owners = ios.allTargets.filter((target) => takesIn(target, source.file));
    const [owner] = owners;
    if (owners.length !== 1 || !owner || /test/.test(owner.type)) continue;
    for (const match of source.text.matchAll(/^[ \t]*(?:@\w+\s+)?import\s+(?:struct\s+|class\s+|func\s+)?(\w+)/gm)) {
      const module = match[1] as string;
      const linking = ios.allTargets.filter(({ packageProducts }) => packageProducts.some(({ product }) => product === module));
      const pods = dependencies.filter(({ ecosystem, name }) => ecosystem === "cocoapods" && moduleOfPod(name) === module);
      const names = [...new Set([...linking.map(({ name }) => name), ...pods.map((pod) => pod.in)])];
      if (names.length === 0 && isForNoTarget(app, module, owner)) names.push("the project");
      else if (
        names.length === 0 ||
        names.includes(owner.name) ||
        names.some((name) => !ios.allTargets.some((target) => target.name === name))
      )
        continue;
      const sdk = pods[0]?.sdk ?? source.imports.find((entry) => entry.package === module)?.sdk;
      found.push({
        sdk,
        package: module,
        owner: owner.name,
        declaredIn: names,
        side: "ios",
        at: source.place(match.index + match[0].indexOf("import")),
      });
    }
  }
  return found;
}
