import { runClosure } from "../../../../evaluate/interpret.js";
import type { CallPart, Frame } from "../../../../evaluate/frame.js";
import { asFallback, fromData, fromText, mapOf, NOTHING, textIn, type Result } from "../../../../evaluate/values.js";
import { callName, plainText } from "../../../../syntax/script/ast.js";
import { filesMatching } from "../../../globbing.js";
import { join, parentOf, relativeTo } from "../../../../model/paths.js";
import type { Place } from "../../../../model/place.js";
import { reason } from "../../../../model/reason.js";
import { known, truthValue, unknown, type Value } from "../../../../model/value.js";
import { findInstalled } from "../../../packages/packages.js";
import { COMPOSE_ACCESSORS } from "../../../../knowledge/platform-packages.js";
import { accessor, type CatalogLibrary } from "./catalog.js";
import { AT_PROJECT, delegateOf, type Reading } from "./reading.js";
import { allProperties, property, rootOf, type ProjectVariables } from "./variables.js";
import type { ProjectFiles } from "../../../project-files.js";

const OWN = new Set(["project", "this", "self", "target", "delegate", "owner", "settings"]);
const EXTRA = new Set(["ext", "extra", "properties", "extraProperties"]);

/** The value of a dotted name that a script of a project sees beside its own variables. */
// eslint-disable-next-line complexity -- the ways in which a name gets its value, the nearest first
export function projectValue(path: readonly string[], reading: Reading, frame: Frame, at: number): Result | undefined {
  const { variables } = reading;
  let [first, ...rest] = path as [string, ...string[]];
  let from = variables;
  while (OWN.has(first) || first === "rootProject" || EXTRA.has(first) || (first === "extensions" && EXTRA.has(rest[0] ?? ""))) {
    if (first === "rootProject") from = rootOf(variables);
    if (rest.length === 0) {
      if (first === "rootProject") return rootDelegate(reading);
      return EXTRA.has(first) ? mapOf(first === "properties" ? allProperties(from) : from.extra) : undefined;
    }
    [first, ...rest] = rest as [string, ...string[]];
  }
  const found = property(from, first) ?? (rest.length > 0 ? property(from, [first, ...rest].join(".")) : undefined);
  if (found) return descend(found, rest);
  const place = frame.source.place(at);
  const catalog = catalogValue(first, rest, reading, place);
  if (catalog) return catalog;
  const compose = first === "compose" ? COMPOSE_ACCESSORS[rest.join(".")]?.split(":") : undefined;
  if (compose && reading.module.plugins.some(({ id }) => id === "org.jetbrains.compose")) {
    const [group = "", artifact = ""] = compose;
    const library: CatalogLibrary = { group: `org.jetbrains.compose.${group}`, artifact, version: undefined, at: place };
    return { kind: "object", name: "libraries", of: [library] };
  }
  if (first === "projects" && rest.length > 0) return { kind: "object", name: "module", of: `:${rest.map(kebab).join(":")}` };
  const constant = variables.constants.get([first, ...rest].join("."));
  if (constant) return constant;
  const folder = folderNamed(first, rest, variables, from);
  // Paths are kept relative to the project's own folder.
  if (folder !== undefined) return known(relativeTo(variables.folder, folder), frame.source.place(0));
  switch ([first, ...rest].join(".")) {
    case "name":
      return path.length > 1 ? known(from.name, frame.source.place(0)) : undefined;
    case "gradle":
      return delegateOf(reading, AT_PROJECT);
    default:
      break;
  }
  return rest.length === 0 && EXTRA.has(path.at(-2) ?? "") ? NOTHING : undefined;
}

/** The folder that a script means, of the tree. Source: docs.gradle.org, `Settings` (settingsDir, rootDir), `Project` (projectDir). */
function folderNamed(name: string, steps: readonly string[], variables: ProjectVariables, from: ProjectVariables): string | undefined {
  if (!/^(?:root|project|settings)Dir$/.test(name)) return undefined;
  const root = rootOf(variables);
  let folder: string | undefined = name !== "projectDir" || from === root ? root.folder : variables.folder;
  for (const step of steps) {
    if (/^(?:parentFile|parent)$/.test(step) && folder !== undefined && folder !== "") folder = parentOf(folder);
    else if (!/^(?:path|absolutePath|canonicalPath|absoluteFile|canonicalFile)$/.test(step)) return undefined;
  }
  return folder;
}

function rootDelegate(reading: Reading): Result {
  return delegateOf(reading.build.projects.get(":") ?? reading, AT_PROJECT);
}

/** `coreUi` → `core-ui`: how type-safe accessors write a module's name. */
function kebab(name: string): string {
  return name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
}

/** A part of a value by its keys; nothing where a map has no such key. What is no map has members of its own, which are not looked up here. */
function descend(result: Result, path: readonly string[]): Result | undefined {
  let current: Result = result;
  for (const step of path) {
    if (current.kind !== "map") return undefined;
    const next: Result | undefined = current.entries.get(step);
    // A method of maps (`get`, `containsKey`) is none of its keys.
    if (!next) return METHOD_OF_MAPS.test(step) ? undefined : NOTHING;
    current = next;
  }
  return current;
}

const METHOD_OF_MAPS =
  /^(get|getAt|getOrDefault|containsKey|keySet|values|keys|size|isEmpty|each|forEach|findAll|collect|entrySet|plus|put|any|every|find)$/;

const CATALOG_METHOD =
  /^(find\w*|get\w*|is\w*|to[A-Z]\w*|map|flatMap|filter|orNull|orElse|orElseGet|zip|forUseAtConfigurationTime|javaClass|class|name|aliases|\w*Aliases)$/;

/** `libs.versions.x`, `libs.plugins.x`, `libs.bundles.x`, `libs.x`: what a catalog has under an alias. */
// eslint-disable-next-line complexity -- one question for each kind of entry in a catalog
function catalogValue(first: string, rest: readonly string[], reading: Reading, place: Place): Result | undefined {
  const catalog = reading.variables.catalogs.get(first);
  if (!catalog || rest.length === 0) return undefined;
  const steps = rest.filter((step) => step !== "get" && step !== "asProvider" && step !== "toString");
  const missing = (): Result => {
    const text = [first, ...steps].join(".");
    const { paths } = reading.module;
    // What Gradle itself gives a catalog, and what its values give.
    if (
      catalog.whole &&
      !steps.some((step) => CATALOG_METHOD.test(step)) &&
      !paths.some(({ at, text: other }) => other === text && at.line === place.line)
    )
      paths.push({ text, resolved: undefined, kind: "catalog entry", exists: false, side: "android", generated: false, at: place });
    return unknown(reason("catalog-entry-absent", { catalog: first, entry: steps.join(".") }), place);
  };
  const alias = steps.slice(1).join(".");
  if (steps[0] === "versions" && steps.length > 1) {
    // `libs.versions.x.get().toInt()` comes step by step.
    return catalog.versions.get(alias) ?? ([...catalog.versions.keys()].some((key) => key.startsWith(`${alias}.`)) ? undefined : missing());
  }
  if (steps[0] === "plugins" && steps.length > 1) {
    const plugin = catalog.plugins.get(alias);
    if (plugin) return { kind: "object", name: "plugin", of: plugin };
    return [...catalog.plugins.keys()].some((key) => key.startsWith(`${alias}.`)) ? undefined : missing();
  }
  const libraries =
    steps[0] === "bundles"
      ? catalog.bundles.get(alias)?.flatMap((name) => catalog.libraries.get(name) ?? [])
      : [catalog.libraries.get(steps.join("."))].filter((library) => library !== undefined);
  if (libraries && libraries.length > 0) return { kind: "object", name: "libraries", of: libraries satisfies CatalogLibrary[] };
  if (steps[0] === "bundles" && alias !== "" && !catalog.bundles.has(alias))
    return [...catalog.bundles.keys()].some((key) => key.startsWith(`${alias}.`)) ? undefined : missing();
  const within = [...catalog.libraries.keys()].some((key) => key.startsWith(`${steps.join(".")}.`));
  return within || steps[0] === "versions" || steps[0] === "plugins" || steps[0] === "bundles" ? undefined : missing();
}

/** Calls that give a value wherever they stand: properties, files, notations of dependencies. */
export function libraryCall(call: CallPart, reading: Reading): Result | undefined {
  const { path } = call;
  const owner = path?.at(-2);
  const onProject =
    owner === undefined ||
    OWN.has(owner) ||
    owner === "rootProject" ||
    EXTRA.has(owner) ||
    /^(providers|settings|extensions|rootProject|layout)$/.test(owner);
  return (
    catalogCall(call, reading) ??
    (path && propertyCall(call, reading, owner, onProject)) ??
    fileCall(call, reading, onProject) ??
    notationCall(call, onProject, reading) ??
    jsonCall(call, reading) ??
    propertiesCall(call, reading)
  );
}

/**
 * What the build's own code asks a catalog for: `extensions.getByType<VersionCatalogsExtension>().named("libs").findLibrary("x").get()`. Source:
 * docs.gradle.org, "Using the catalog from a convention plugin" (VersionCatalog).
 */
function catalogCall(call: CallPart, reading: Reading): Result | undefined {
  const { name, path } = call;
  const { catalogs } = reading.variables;
  if (!/^(?:named|find(?:Library|Bundle|Version|Plugin)|get|orNull|orElseThrow|getRequiredVersion|getDisplayName|toString)$/.test(name))
    return undefined;
  const receiver = call.receiver();
  const of = receiver?.kind === "object" ? receiver : undefined;
  const asked = key(call);
  if (name === "named")
    return of?.name === "catalogs" && catalogs.has(asked ?? "") ? { kind: "object", name: "catalog", of: asked } : undefined;
  if (!name.startsWith("find")) return of?.name === "libraries" || of?.name === "plugin" ? of : undefined;
  const own = catalogMeant(receiver, path);
  return own !== undefined && catalogs.has(own) && asked !== undefined
    ? catalogValue(own, [...(FINDS[name] ?? []), ...accessor(asked).split(".")], reading, call.place)
    : undefined;
}

/** The catalog that a call is made on: one in a variable, or what the build's own code calls by a catalog's name. */
function catalogMeant(receiver: Result | undefined, path: readonly string[] | undefined): string | undefined {
  if (receiver?.kind === "object") return receiver.name === "catalog" ? (receiver.of as string) : undefined;
  return !receiver || receiver.kind === "unknown" ? path?.at(-2) : undefined;
}

/** What stands before an alias, by the function that looks for it. */
const FINDS: Readonly<Record<string, readonly string[]>> = {
  findBundle: ["bundles"],
  findVersion: ["versions"],
  findPlugin: ["plugins"],
};

function key(call: CallPart): string | undefined {
  return textIn(call.positional()[0]?.result);
}

/** Extensions of plugins, which are properties of a project too. */
const EXTENSIONS = /^(android|androidComponents|kotlin|java|base|publishing|signing|flutter|react|application|spotless|detekt|ktlint)$/;

// eslint-disable-next-line complexity -- one case for each function that gives a property
function propertyCall(call: CallPart, { variables, module }: Reading, owner: string | undefined, onProject: boolean): Result | undefined {
  const { name, path, place } = call;
  const from = path?.includes("rootProject") ? rootOf(variables) : variables;
  switch (name) {
    case "findProperty":
    case "property":
    case "getProperty":
    case "gradleProperty": {
      if (!onProject) return undefined;
      const text = key(call);
      if (text === undefined) return undefined;
      const found = property(from, text);
      if (found) return found;
      return name === "property" || name === "getProperty" ? unknown(reason("no-property", { name: text }), place) : NOTHING;
    }
    case "get":
    case "getAt": {
      if (!owner || !EXTRA.has(owner)) return undefined;
      const text = key(call);
      return text === undefined ? undefined : (property(from, text) ?? unknown(reason("no-property", { name: text }), place));
    }
    case "has":
    case "hasProperty": {
      if (!onProject) return undefined;
      const text = key(call);
      if (text === undefined) return undefined;
      const there = property(from, text) !== undefined;
      if (there || name === "has" || !EXTENSIONS.test(text)) return truthValue(there, place);
      if (
        /^android/.test(text) &&
        module.plugins.some(({ id, applied, conditional }) => applied && !conditional && /^com\.android\./.test(id))
      )
        return truthValue(true, place);
      return unknown(reason("project-plugin-open", { plugin: text }), place);
    }
    case "hasPlugin": {
      const text = key(call);
      return module.plugins.some(({ id, applied, conditional }) => applied && !conditional && id === text)
        ? truthValue(true, place)
        : unknown(reason("plugin-application-open", { plugin: text ?? "a plugin" }), place);
    }
    case "getenv":
    case "environmentVariable":
      return unknown(reason("environment-when-built"), place);
    case "systemProperty":
      return unknown(reason("system-property"), place);
    case "getProperties":
      return onProject ? mapOf(from.extra) : undefined;
    default:
      return undefined;
  }
}

// eslint-disable-next-line complexity -- one case for each function of a file
function fileCall(call: CallPart, reading: Reading, onProject: boolean): Result | undefined {
  const { name, path, place } = call;
  const { variables, project } = reading;
  const owner = path?.at(-2);
  switch (name) {
    case "file": {
      if (!onProject || call.positional().length !== 1) return undefined;
      const [given] = call.positional();
      const text = key(call);
      if (text === undefined) return given?.result.kind === "unknown" ? given.result : undefined;
      return known(owner === "rootProject" ? join(relativeTo(variables.folder, rootOf(variables).folder), text) : text, place);
    }
    case "File": {
      const parts = call.positional().map(({ result }) => textIn(result));
      if (parts.length > 0 && parts.every((part) => part !== undefined)) return known(join(...(parts as string[])), place);
      return call
        .positional()
        .map(({ result }) => result)
        .find((result) => result.kind === "unknown");
    }
    case "FileInputStream":
    case "FileReader":
    case "InputStreamReader":
    case "BufferedReader":
      return call.positional()[0]?.result;
    default:
      break;
  }
  if (path && path.length < 2) return undefined;
  if (
    !/^(exists|isFile|isDirectory|canRead|newDataInputStream|newInputStream|inputStream|reader|newReader|withInputStream|withReader|text|getText|readText|execute)$/.test(
      name,
    )
  )
    return undefined;
  const receiver = call.receiver();
  if (name === "execute") return receiver?.kind === "list" ? resolved(receiver.items, reading, place) : undefined;
  if (receiver?.kind === "object" && receiver.name === "process")
    return name === "text" || name === "getText" ? (receiver.of as Result) : undefined;
  if (receiver?.kind !== "known" || receiver.type) return undefined;
  const file = join(variables.folder, receiver.text);
  switch (name) {
    case "exists":
    case "isFile":
    case "isDirectory":
    case "canRead": {
      const there =
        name === "isDirectory"
          ? project.tree.isFolder(file)
          : project.tree.isFile(file) || (name === "exists" && project.tree.isFolder(file));
      // What people and tools keep to themselves may be there on another machine.
      return there ? truthValue(true, place) : unknown(reason("not-there-perhaps-when-built", { file }), place);
    }
    case "withInputStream":
    case "withReader": {
      const block = call.block();
      if (block) runClosure(block, [receiver], call.frame);
      return NOTHING;
    }
    case "text":
    case "getText":
    case "readText": {
      const source = project.tree.isFile(file) ? project.text(file) : undefined;
      return source ? known(source.text, source.place(0)) : undefined;
    }
    default:
      return receiver;
  }
}

/**
 * `["node", "--print", "require.resolve('x/package.json')"].execute(…)`: where an installed package lies, as scripts of frameworks ask for it.
 * Nothing is run: the file is looked up.
 */
function resolved(command: readonly Result[], { project, variables }: Reading, place: Place): Result | undefined {
  const words = command.map(textIn);
  const asked = words[0] === "node" ? /require\.resolve\(\s*['"]((?:@[^/'"]+\/)?[^/'"]+)\/([^'"]+)['"]/.exec(words.at(-1) ?? "") : null;
  const installed = asked && findInstalled(project, variables.folder, asked[1] as string);
  if (!asked) return { kind: "object", name: "process", of: unknown(reason("program-output"), place) };
  const text: Value = installed
    ? known(relativeTo(variables.folder, join(installed.folder, asked[2] as string)), place)
    : unknown(reason("package-not-installed", { package: asked[1] ?? "" }), place);
  return { kind: "object", name: "process", of: text };
}

/** Endings of what a build takes in as a library. */
const LIBRARIES = ["**/*.aar", "**/*.jar"];

/**
 * The archives of `fileTree(dir: "libs", include: ["*.aar"])`, also with a closure that includes and excludes.
 * Source: docs.gradle.org, "Working With Files", "File trees".
 */
function treeFiles(call: CallPart, { project, variables, module }: Reading): Result[] {
  const [first] = call.positional();
  const parts = new Map([...call.named()].map(([name, { result }]) => [name, result] as const));
  if (first?.result.kind === "map") for (const [name, result] of first.result.entries) parts.set(name, result);
  const folder = textIn(parts.get("dir")) ?? textIn(first?.result);
  if (folder === undefined) return [];
  const patterns = (name: string): string[] => {
    const given = parts.get(name);
    const written = given?.kind === "list" ? given.items.flatMap((item) => textIn(item) ?? []) : [textIn(given) ?? []].flat();
    return [...written, ...closurePatterns(call, name)];
  };
  const included = patterns("include");
  const base = join(variables.folder, folder);
  if (!project.tree.isFolder(base) && !module.paths.some(({ kind, resolved }) => kind === "search path" && resolved === base))
    module.paths.push({
      text: folder,
      resolved: base,
      kind: "search path",
      exists: false,
      side: "android",
      generated: /(^|\/)build\//.test(folder),
      at: call.place,
    });
  const excluded = new Set(patterns("exclude").flatMap((pattern) => filesMatching(project.tree, base, pattern)));
  return (included.length > 0 ? included : LIBRARIES)
    .flatMap((pattern) => filesMatching(project.tree, base, pattern))
    .filter((path) => !excluded.has(path))
    .map((path) => known(join(folder, path), call.place));
}

/** The texts that a closure hands to a command: `{ include '*.aar' }`. */
function closurePatterns({ expr }: CallPart, name: string): string[] {
  const last = expr.closure ?? expr.args.at(-1)?.value;
  if (last?.kind !== "closure") return [];
  return last.body.flatMap((statement) =>
    statement.kind === "expression" && statement.value.kind === "call" && callName(statement.value) === name
      ? statement.value.args.flatMap(({ value }) => (value.kind === "text" ? (plainText(value) ?? []) : []))
      : [],
  );
}

/** What dependencies are declared with, beside texts: modules, platforms, files, parts of Kotlin. */
// eslint-disable-next-line complexity -- one case for each function that gives a notation
function notationCall(call: CallPart, onProject: boolean, reading: Reading): Result | undefined {
  const { name, path } = call;
  if (path && path.length > 1 && !onProject && path[0] !== "dependencies") return undefined;
  const [first] = call.positional();
  switch (name) {
    case "project": {
      const target = textIn(call.named().get("path")?.result) ?? key(call);
      return target === undefined ? undefined : { kind: "object", name: "module", of: target };
    }
    case "platform":
    case "enforcedPlatform":
      return first && { kind: "object", name: "platform", of: first.result };
    case "testFixtures":
    case "variantOf":
    case "create":
      return path?.length === 1 || path?.[0] === "dependencies" ? first?.result : undefined;
    case "files":
      return {
        kind: "object",
        name: "files",
        of: call.positional().flatMap(({ result }) => (result.kind === "list" ? result.items : [result])),
      };
    case "fileTree":
      return { kind: "object", name: "files", of: treeFiles(call, reading) };
    case "gradleApi":
    case "localGroovy":
    case "gradleTestKit":
    case "npm":
    case "devNpm":
      return { kind: "object", name: "files", of: [] };
    case "kotlin": {
      const part = key(call);
      if (part === undefined) return undefined;
      const version = call.positional()[1]?.result;
      const library: CatalogLibrary = {
        group: "org.jetbrains.kotlin",
        artifact: `kotlin-${part}`,
        version: version?.kind === "known" ? version : undefined,
        at: call.place,
      };
      return { kind: "object", name: "libraries", of: [library] };
    }
    case "uri":
      return first?.result;
    case "release":
      // compileSdk { version = release(36) }
      return path?.length === 1 ? first?.result : undefined;
    default:
      return undefined;
  }
}

/** `new JsonSlurper().parse(file)`, `.parseText(text)` */
function jsonCall(call: CallPart, { project, variables }: Reading): Result | undefined {
  const { name, place } = call;
  if (name === "JsonSlurper" || name === "JsonSlurperClassic") return { kind: "object", name: "json", of: undefined };
  if (!/^(parse|parseText|parseFile)$/.test(name) || call.expr.callee.kind !== "member") return undefined;
  const receiver = call.receiver();
  const given = call.positional()[0]?.result;
  if (receiver?.kind !== "object" || receiver.name !== "json" || given?.kind !== "known") return undefined;
  if (name !== "parseText") {
    const file = join(variables.folder, given.text);
    return project.tree.isFile(file) ? fromData(project.json(file)?.root) : unknown(reason("not-there", { what: file }), place);
  }
  const whole = project.text(given.place.file)?.text === given.text;
  return whole ? fromData(project.json(given.place.file)?.root) : fromText(given.text, given.place);
}

/** Files of properties that a script loads itself. */
interface Loaded {
  entries: ReadonlyMap<string, Result> | undefined;
  /** The file, where it is not there. */
  file?: string;
}

// eslint-disable-next-line complexity -- one question for each function of loaded properties
function propertiesCall(call: CallPart, { project, variables }: Reading): Result | undefined {
  const { name, path, place } = call;
  if (name === "Properties" && (path?.length === 1 || path?.at(-2) === "util"))
    return { kind: "object", name: "properties", of: { entries: new Map() } satisfies Loaded };
  if (
    !/^(load|getProperty|get|getAt|\[\]|containsKey|getOrDefault|contains|propertyNames|stringPropertyNames|isEmpty|setProperty|each)$/.test(
      name,
    ) &&
    !call.expr.bare
  )
    return undefined;
  const onSelf = call.expr.callee.kind === "name" && call.receiver() !== undefined;
  if (call.expr.callee.kind !== "member" && !onSelf) return undefined;
  const head = path?.[0];
  if (!onSelf && path && (path.length < 2 || (head !== undefined && call.frame.variables.get(head)?.kind !== "object"))) return undefined;
  const receiver = call.receiver();
  if (receiver?.kind !== "object" || receiver.name !== "properties") return undefined;
  const loaded = receiver.of as Loaded;
  if (name === "load") {
    return loadFrom(project, call, variables, loaded);
  }
  const asked = call.expr.bare ? name : key(call);
  if (asked === undefined || name === "setProperty") return undefined;
  if (!loaded.entries) return unknown(reason("property-of-absent-file", { file: loaded.file ?? "?", name: asked }), place);
  const found = loaded.entries.get(asked);
  if (name === "containsKey" || name === "contains") return truthValue(found !== undefined, place);
  const fallback = call.positional()[1]?.result;
  return found ?? (fallback ? asFallback(fallback) : NOTHING);
}

/** Reads a file of properties into the object. */
function loadFrom(project: ProjectFiles, call: CallPart, variables: ProjectVariables, loaded: Loaded): Result {
  const given = call.positional()[0]?.result;
  const text = textIn(given);
  const file = text === undefined ? undefined : join(variables.folder, text);
  const data = file !== undefined && project.tree.isFile(file) ? project.properties(file) : undefined;
  const values = data && fromData(data);
  // One object: what it holds from now on.
  if (values?.kind === "map") loaded.entries = values.entries;
  else {
    loaded.entries = undefined;
    if (file !== undefined) loaded.file = file;
  }
  return NOTHING;
}
