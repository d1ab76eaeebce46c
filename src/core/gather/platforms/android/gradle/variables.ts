import type { Result } from "../../../../evaluate/values.js";
import { known } from "../../../../model/value.js";
import { at, entriesOf, type Data } from "../../../../syntax/data.js";
import type { Catalog } from "./catalog.js";

/** What the scripts of one Gradle project can see: extra properties, property files, catalogs, constants. */
export interface ProjectVariables {
  /** Folder of the Gradle project, relative to the root of the survey. */
  folder: string;
  name: string;
  extra: Map<string, Result>;
  properties: Data[];
  /** The project around it; the root has none. */
  parent: ProjectVariables | undefined;
  catalogs: Map<string, Catalog>;
  /** Constants of `buildSrc` and of included builds: `Versions.minSdk`. */
  constants: Map<string, Result>;
}

export function newVariables(folder: string, name: string, properties: Data[], parent: ProjectVariables | undefined): ProjectVariables {
  return {
    folder,
    name,
    extra: new Map(),
    properties,
    parent,
    catalogs: parent?.catalogs ?? new Map<string, Catalog>(),
    constants: parent?.constants ?? new Map<string, Result>(),
  };
}

export function rootOf(variables: ProjectVariables): ProjectVariables {
  let at_ = variables;
  while (at_.parent) at_ = at_.parent;
  return at_;
}

/** All properties that a project sees. */
export function allProperties(variables: ProjectVariables): Map<string, Result> {
  const all = variables.parent ? allProperties(variables.parent) : new Map<string, Result>();
  for (const file of variables.properties)
    for (const [name, { value }] of entriesOf(file))
      if (value.kind === "scalar") all.set(name, known(String(value.value), value.source.place(value.start)));
  for (const [name, value] of variables.extra) all.set(name, value);
  return all;
}

/** A property of a project: what scripts set, then what files of properties say, each from the project outwards. */
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
