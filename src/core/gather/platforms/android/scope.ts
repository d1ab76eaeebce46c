import { join, relativeTo } from "../../../model/paths.js";
import { known, truthValue, unknown } from "../../../model/value.js";
import { at, type Data } from "../../../syntax/data.js";
import { plainText, type CallExpr, type Expr } from "../../../syntax/script/ast.js";
import { NOTHING, type Result, type Scope } from "../../../evaluate/evaluate.js";
import type { Source } from "../../../syntax/source.js";
import type { Catalog } from "./catalog.js";

/** What the scripts of one Gradle project can see: extra properties, script variables, property files, catalogs, constants. */
export interface ProjectVariables {
  /** Folder of the Gradle project, relative to the root of the survey. */
  folder: string;
  name: string;
  extra: Map<string, Result>;
  properties: Data[];
  parent: ProjectVariables | undefined;
  root: ProjectVariables;
  catalogs: Map<string, Catalog>;
  /** Constants of `buildSrc` and of included builds: `Versions.minSdk`. */
  constants: Map<string, Result>;
  /** A plugin that is applied here sets properties that cannot be read. */
  opaquePlugin?: string;
}

export function property(variables: ProjectVariables, name: string): Result | undefined {
  for (let current: ProjectVariables | undefined = variables; current; current = current.parent) {
    const found = current.extra.get(name);
    if (found) return found;
  }
  for (let current: ProjectVariables | undefined = variables; current; current = current.parent) {
    for (const file of current.properties) {
      const entry = at(file, name);
      if (entry?.kind === "scalar") return known(String(entry.value), entry.source.place(entry.start));
    }
  }
  return undefined;
}

const OWN = new Set(["project", "this", "self", "target", "delegate", "owner"]);
const EXTRA = new Set(["ext", "extra", "properties", "extraProperties"]);

/** The scope of one script: its own variables first, then what its project sees. */
export function scriptScope(source: Source, variables: ProjectVariables, locals: Map<string, Result>): Scope {
  return {
    source,
    lookup: (path) => lookup(path, variables, locals, source),
    call: (callee, call, evaluate) => knownCall(callee, call, evaluate, variables, source),
  };
}

function lookup(path: string[], variables: ProjectVariables, locals: Map<string, Result>, source: Source): Result | undefined {
  let [first, ...rest] = path as [string, ...string[]];
  const local = locals.get(first);
  if (local) return descend(local, rest);
  let from = variables;
  while (OWN.has(first) || first === "rootProject" || EXTRA.has(first) || (first === "extensions" && EXTRA.has(rest[0] ?? ""))) {
    if (first === "rootProject") from = variables.root;
    if (rest.length === 0) return undefined;
    [first, ...rest] = rest as [string, ...string[]];
  }
  const found = property(from, first) ?? (rest.length > 0 ? property(from, [first, ...rest].join(".")) : undefined);
  if (found) return descend(found, rest);
  const catalog = variables.catalogs.get(first);
  if (catalog && rest[0] === "versions") {
    const alias = rest.slice(1).filter((step) => step !== "get" && step !== "asProvider");
    return catalog.versions.get(alias.join("."));
  }
  const constant = variables.constants.get([first, ...rest].join("."));
  if (constant) return constant;
  const start = source.place(0);
  switch ([first, ...rest].join(".")) {
    case "rootDir":
    case "projectDir":
    case "rootDir.path":
    case "rootDir.absolutePath": {
      const folder = first === "rootDir" || from === variables.root ? variables.root.folder : variables.folder;
      // Paths are kept relative to the project's own folder.
      return known(relativeTo(variables.folder, folder), start);
    }
    case "name":
      return path.length > 1 ? known(from.name, start) : undefined;
    default:
      break;
  }
  if (rest.length === 0 && EXTRA.has(path.at(-2) ?? "")) return NOTHING;
  return undefined;
}

/** A part of a value by its keys; nothing where a map has no such key. What is no map has members of its own, which are not looked up here. */
function descend(result: Result, path: string[]): Result | undefined {
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

function knownCall(
  callee: string[],
  call: CallExpr,
  evaluate: (expr: Expr) => Result,
  variables: ProjectVariables,
  source: Source,
): Result | undefined {
  const name = callee.at(-1) as string;
  const first = call.args[0]?.value;
  const place = source.place(call.start);
  const from = callee.includes("rootProject") ? variables.root : variables;
  const key = (): string | undefined => {
    const result = first && evaluate(first);
    return result?.kind === "known" ? result.text : undefined;
  };
  const owner = callee.at(-2);
  const onProject =
    owner === undefined ||
    OWN.has(owner) ||
    owner === "rootProject" ||
    EXTRA.has(owner) ||
    owner === "providers" ||
    owner === "settings" ||
    owner === "extensions";
  switch (name) {
    case "findProperty":
    case "property":
    case "getProperty":
    case "gradleProperty": {
      if (!onProject)
        return owner === "localProperties" || owner === "properties"
          ? unknown(`read from a file of properties (${key() ?? "?"}) that this machine's tools write`, place)
          : undefined;
      const text = key();
      if (text === undefined) return undefined;
      const found = property(from, text);
      if (found) return found;
      return name === "property" || name === "getProperty" ? unknown(`no property "${text}" in the files`, place) : NOTHING;
    }
    case "get":
    case "getAt": {
      if (!owner || !EXTRA.has(owner)) return undefined;
      const text = key();
      if (text === undefined) return undefined;
      return property(from, text) ?? unknown(`no property "${text}" in the files`, place);
    }
    case "has":
    case "hasProperty": {
      if (!onProject) return undefined;
      const text = key();
      if (text === undefined) return undefined;
      if (property(from, text)) return truthValue(true, place);
      const opaque = from.opaquePlugin ?? from.root.opaquePlugin;
      return opaque ? unknown(`the plugin ${opaque} may set it`, place) : truthValue(false, place);
    }
    case "getenv":
    case "environmentVariable":
      return unknown("read from the environment when it builds", place);
    case "systemProperty":
      return unknown("read from a system property when it builds", place);
    case "file":
    case "files": {
      if (!onProject || call.args.length !== 1) return undefined;
      const text = key();
      if (text === undefined) return undefined;
      return known(owner === "rootProject" ? join(relativeTo(variables.folder, variables.root.folder), text) : text, place);
    }
    case "File": {
      const parts = call.args.map((arg) => evaluate(arg.value));
      if (parts.every((part) => part.kind === "known"))
        return known(join(...parts.map((part) => (part.kind === "known" ? part.text : ""))), place);
      return undefined;
    }
    case "release":
      // compileSdk { version = release(36) }
      return callee.length === 1 && first ? evaluate(first) : undefined;
    case "kotlin":
      return undefined;
    default:
      return undefined;
  }
}

/** Text of the first positional argument when it is a plain string. */
export function firstText(call: CallExpr): string | undefined {
  return plainText(call.args.find((arg) => arg.name === undefined)?.value);
}
