import type { App } from "../../model/app.js";
import type { CodeCall, CodeFile, CodeNeedKind, Language } from "../../model/code.js";
import { namespaceIn } from "../../model/gradle.js";
import type { Dependency, SideName } from "../../model/facts.js";
import { moduleOfPod } from "../../model/sdk-id.js";

/** A name that a sheet gives, to be found in the code of one side. */
export interface WantedName {
  sdk: string;
  kind: CodeNeedKind;
  side: SideName;
  /** As the sheet writes it. */
  name: string;
  segments: string[];
  language: Language | undefined;
}

/** What is looked for in the source code of an app. */
export interface Wanted {
  names: readonly WantedName[];
  /** Words of which one stands in every file that calls an SDK by a sheet's name. */
  words: Set<string>;
  /** Types that the app's own code declares, where it is parsed. */
  ownTypes: Set<string>;
  /** Packages by what an import of them says, per ecosystem. */
  packages: {
    npm: Map<string, Imported>;
    pub: Map<string, Imported>;
    maven: [string, Imported][];
    /** Packages of shared code with native code of their own, by what of their names stands in those of its Java packages. */
    stems: Map<string, Imported>;
    /** Namespaces of the app's own modules. */
    own: string[];
    modules: Map<string, Imported>;
    nuget: [string, Imported][];
  };
}

export interface Imported {
  sdk: string;
  package: string;
}

/** Names under which calls are looked for: those that are asked for, and what imports of the app's packages say. */
export function wantedOf(app: App, names: readonly WantedName[]): Wanted {
  const packages: Wanted["packages"] = {
    npm: new Map(),
    pub: new Map(),
    maven: [],
    stems: new Map(),
    own: ownNamespaces(app),
    modules: new Map(),
    nuget: [],
  };
  for (const { ecosystem, name, sdk, platform, test, native, nativeUnknown, side } of app.dependencies) {
    if (platform || test) continue;
    // A package of scripts alone is a library, and nothing that has to be wired.
    if (ecosystem === "npm" && side === "shared" && native && !native.android && !native.ios && !nativeUnknown && !app.sheets.includes(sdk))
      continue;
    addPackage(packages, ecosystem, name, { sdk, package: name });
    if (native?.android || nativeUnknown) addStem(packages, ecosystem, name, sdk);
  }
  addProducts(app, packages);
  for (const name of names)
    if (name.kind === "import" && name.segments.length === 1)
      packages.modules.set(name.segments[0] as string, { sdk: name.sdk, package: name.name });
  const words = new Set<string>();
  for (const { segments, kind } of names)
    if (kind !== "import") words.add(segments.length > 1 ? (segments.at(-2) as string) : (segments[0] as string));
  return { names, words, ownTypes: new Set(), packages };
}

/** A package under the name by which code takes it in. */
function addPackage(packages: Wanted["packages"], ecosystem: Dependency["ecosystem"], name: string, imported: Imported): void {
  switch (ecosystem) {
    case "npm":
    case "cordova":
      packages.npm.set(name, imported);
      return;
    case "pub":
      packages.pub.set(name, imported);
      return;
    case "maven":
      packages.maven.push([name.split(":")[0] ?? name, imported]);
      return;
    case "nuget":
      packages.nuget.push([name, imported]);
      return;
    case "cocoapods":
      packages.modules.set(moduleOfPod(name), imported);
      return;
    case "binary": {
      const module = name.replace(/\.\w+$/, "").replace(/\W/g, "_");
      if (/\.(xc)?framework$/.test(name) && !packages.modules.has(module)) packages.modules.set(module, imported);
      return;
    }
    default:
  }
}

/** Products of Swift packages, under the names of their modules: those that targets take, and modules of the repository's packages. */
function addProducts({ ios, swiftModules, dependencies }: App, { modules }: Wanted["packages"]): void {
  const taken = [
    ...(ios?.allTargets.flatMap(({ packageProducts }) => packageProducts) ?? []),
    ...swiftModules.flatMap(({ takes }) => takes),
  ];
  for (const { product, location } of taken) {
    const owner = dependencies.find(({ ecosystem, name, platform }) => ecosystem === "swiftpm" && name === location && !platform);
    if (owner) modules.set(product.replace(/[-+.]/g, "_"), { sdk: owner.sdk, package: product });
  }
}

/** `[Quaymap startWithKey:]`, `Quaymap.start(…)`, `Quaymap::start` → `Quaymap`, `start`. */
export function segmentsOf(name: string): string[] {
  return name
    .replace(/^\[|\]$/g, "")
    .replace(/\(.*$/s, "")
    .split(/\.|::|\s+|#/)
    .map((segment) => segment.replace(/:.*$/, "").trim())
    .filter((segment) => segment !== "");
}

/** Which package an import brings in. */
export function packageOfImport(wanted: Wanted, language: Language, source: string): Imported | undefined {
  const { packages } = wanted;
  switch (language) {
    case "dart":
      return packages.pub.get(/^package:([^/]+)\//.exec(source)?.[1] ?? "");
    case "kotlin":
    case "java":
      // Source: kotlinlang.org, "Add dependencies on a Pod library": its module below `cocoapods`.
      if (source.startsWith("cocoapods.")) return packages.modules.get(source.split(".")[1] as string);
      return longest(packages.maven, (group) => source === group || source.startsWith(`${group}.`)) ?? ofSharedCode(packages, source);
    case "csharp":
      return (
        longest(packages.nuget, (id) => source === id || source.startsWith(`${id}.`)) ??
        longest(packages.nuget, (id) => id.startsWith(`${source}.`))
      );
    case "swift":
    case "objc":
      return packages.modules.get((source.split(/[/.]/)[0] ?? source).replace(/[-+]/g, "_"));
    default:
      return packages.npm.get(packageOfSpecifier(source));
  }
}

const ownNamespaces = ({ android }: App): string[] => (android?.modules ?? []).flatMap((module) => namespaceIn(module) ?? []);

function addStem({ stems }: Wanted["packages"], ecosystem: Dependency["ecosystem"], name: string, sdk: string): void {
  const stem = stemOf(ecosystem, name);
  if (stem !== undefined) stems.set(stem, { sdk, package: name });
}

/** `react-native-quay-map` → `quaymap`, which its Java packages have as a part of theirs; nothing for what says too little. */
function stemOf(ecosystem: Dependency["ecosystem"], name: string): string | undefined {
  if (ecosystem !== "npm" && ecosystem !== "pub") return undefined;
  const stem = name
    .replace(/^@[^/]*\//, "")
    .replace(/^(?:react-native|expo|capacitor|flutter)[-_]|[-_](?:react-native|expo|capacitor|flutter)$/, "")
    .replace(/[-_]/g, "")
    .toLowerCase();
  return stem.length < 6 || stem === "reactnative" ? undefined : stem;
}

/** Native code of the app can use the classes of a package of shared code. */
function ofSharedCode({ stems, own }: Wanted["packages"], source: string): Imported | undefined {
  if (stems.size === 0 || /^(?:android|androidx|javax?|kotlinx?|com\.(?:google|android|facebook\.react))\./.test(source)) return undefined;
  if (own.some((namespace) => source.startsWith(`${namespace}.`))) return undefined;
  for (const part of source.toLowerCase().split(".").slice(1)) {
    const found = stems.get(part) ?? stems.get(part.replace(/^(?:rn|reactnative)/, ""));
    if (found) return found;
  }
  return undefined;
}

/** `@a/b/c` → `@a/b`, `a/b` → `a`. */
function packageOfSpecifier(source: string): string {
  return source.split("/", source.startsWith("@") ? 2 : 1).join("/");
}

function longest(entries: readonly [string, Imported][], fits: (name: string) => boolean): Imported | undefined {
  let best: [string, Imported] | undefined;
  for (const entry of entries) if (fits(entry[0]) && entry[0].length > (best?.[0].length ?? 0)) best = entry;
  return best?.[1];
}

/**
 * Tells whether a call is the one that a name means: `exact` when nothing stands in between, `loose` when it is called on
 * something that the named type made (`Quaymap.shared.start`, a variable that holds one).
 */
// eslint-disable-next-line complexity -- one question after the other for each way to write the call
export function fits(
  call: CodeCall,
  { segments, language, name, side }: WantedName,
  file: CodeFile,
  owner: (source: string) => boolean,
): "exact" | "loose" | undefined {
  const apple = file.language === "kotlin" && (side === "ios" || language === "objc");
  if (language !== undefined && language !== (apple ? "objc" : file.language)) return undefined;
  const written = call.callee.split(".");
  const last = segments.at(-1) as string;
  // Kotlin calls what Apple's frameworks have by the first part of the selector. Source: kotlinlang.org, "Interoperability with Swift/Objective-C".
  const objc = apple || (file.language === "objc" && call.selector !== undefined);
  const sameLast = (text: string | undefined): boolean => isVerb(text, last, call, file, objc);
  // A selector in full asks for that selector.
  const selector = /:/.test(name) && objc && !apple ? /[\w:]*:$/.exec(name.replace(/\]$/, ""))?.[0] : undefined;
  if (selector !== undefined && call.selector !== selector) return undefined;
  const ways = waysOf(written, file, owner, segments);
  let found: "loose" | undefined;
  for (const way of ways) {
    const tail = way.slice(-segments.length);
    if (tail.length === segments.length && sameLast(tail.at(-1)) && tail.slice(0, -1).every((part, index) => part === segments[index]))
      return "exact";
    // Making an object of a type is its `init`.
    if (last === "init" && segments.length > 1 && way.at(-1) === segments.at(-2)) return "exact";
    if (segments.length < 2 || !sameLast(way.at(-1))) continue;
    const wantedHead = segments[0] as string;
    const type = file.variables.get(way.length > 2 && /^(this|self)$/.test(way[0] as string) ? (way[1] as string) : (way[0] as string));
    if (way.slice(0, -1).includes(wantedHead) || type?.split(".")[0] === wantedHead) found = "loose";
  }
  return found;
}

/**
 * Whether a word is the verb that is wanted: Kotlin assigns to what Java has a method for, Objective-C by the name of the property, and the
 * verb of a selector goes on with its first label. Source: kotlinlang.org, "Calling Java from Kotlin".
 */
function isVerb(text: string | undefined, verb: string, call: CodeCall, file: CodeFile, objc: boolean): boolean {
  if (text === undefined) return false;
  if (text === verb || (objc && text.startsWith(verb) && /^[A-Z]/.test(text.slice(verb.length)))) return true;
  const assigns = /^(kotlin|objc|swift)$/.test(file.language) && call.assignment && /^set[A-Z]/.test(verb);
  return assigns && text === verb.charAt(3).toLowerCase() + verb.slice(4);
}

/** The ways to write what is called: as it stands, and by the names of what is imported. */
function waysOf(written: string[], file: CodeFile, owner: (source: string) => boolean, segments: string[]): string[][] {
  const ways = [written];
  const head = written[0] as string;
  const binding = file.imports.flatMap(({ source, names }) =>
    names.filter(({ local }) => local === head).map(({ imported }) => ({ source, imported })),
  )[0];
  if (binding) {
    if (binding.imported !== "default" && binding.imported !== "*" && binding.imported !== "")
      ways.push([binding.imported, ...written.slice(1)]);
    if (binding.imported === "") ways.push(written.slice(1));
    if (owner(binding.source)) {
      // The name by which a file imports a package is the file's own choice.
      if (binding.imported === "default" || binding.imported === "*") ways.push([segments[0] as string, ...written.slice(1)]);
      else if (written.length === 1 && segments.length > 1) ways.push([...segments.slice(0, -1), binding.imported]);
    }
  }
  return ways;
}
