import type { ProjectFiles } from "../../../project-files.js";
import { CATALOG_KEYS } from "../../../../knowledge/known-names.js";
import { misspeltKeys } from "../../../misspelt-names.js";
import { known, type Value } from "../../../../model/value.js";
import type { Place } from "../../../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, type Data } from "../../../../syntax/data.js";

export interface CatalogLibrary {
  group: string;
  artifact: string;
  version: Value | undefined;
  at: Place;
}

export interface CatalogPlugin {
  id: string;
  version: Value | undefined;
  at: Place;
}

/** A version catalog. Aliases are kept in accessor form: `quaymap-android` → `quaymap.android`. */
export interface Catalog {
  versions: Map<string, Value>;
  libraries: Map<string, CatalogLibrary>;
  bundles: Map<string, string[]>;
  plugins: Map<string, CatalogPlugin>;
  /** All of it stands in a file that was read without a fault: an alias that is not there is nowhere. */
  whole?: boolean;
}

export function emptyCatalog(): Catalog {
  return { versions: new Map(), libraries: new Map(), bundles: new Map(), plugins: new Map() };
}

export function accessor(alias: string): string {
  return alias.replace(/[-_.]+/g, ".");
}

/** Reads a version catalog. Source: Gradle user guide, "Version catalogs, The version catalog TOML file format". */
export function readCatalog(project: ProjectFiles, file: string): Catalog | undefined {
  const data = project.toml(file);
  const root = data?.root;
  if (!root) return undefined;
  const catalog = emptyCatalog();
  catalog.whole = data.problems.length === 0;
  for (const { name, right, place } of misspeltKeys(root, CATALOG_KEYS))
    project.complain({ file, message: `${name} does not exist in a version catalog; ${right} does`, place });
  for (const table of ["libraries", "plugins"])
    for (const [, { value }] of entriesOf(at(root, table))) {
      const reference = at(value, "version", "ref") ?? at(value, "version.ref");
      const name = textAt(reference);
      if (reference && name !== undefined && !entriesOf(at(root, "versions")).some(([alias]) => accessor(alias) === accessor(name)))
        project.complain({ file, message: `the version reference ${name} is not among its [versions]`, place: placeOf(reference) });
    }
  for (const [alias, { value }] of entriesOf(at(root, "versions"))) {
    const version = richVersion(value);
    if (version) catalog.versions.set(accessor(alias), version);
  }
  for (const [alias, { value }] of entriesOf(at(root, "libraries"))) {
    const library = readLibrary(value, catalog);
    if (library) catalog.libraries.set(accessor(alias), library);
  }
  const libraries = new Set(entriesOf(at(root, "libraries")).map(([alias]) => accessor(alias)));
  for (const [alias, { value }] of entriesOf(at(root, "bundles"))) {
    for (const item of itemsOf(value)) {
      const name = textAt(item);
      if (name !== undefined && !libraries.has(accessor(name)))
        project.complain({ file, message: `the bundle ${alias} lists ${name}, which is not among its [libraries]`, place: placeOf(item) });
    }
    catalog.bundles.set(
      accessor(alias),
      itemsOf(value).flatMap((item) => textsOf(item).map(accessor)),
    );
  }
  for (const [alias, { value }] of entriesOf(at(root, "plugins"))) {
    const plugin = readPlugin(value, catalog);
    if (plugin) catalog.plugins.set(accessor(alias), plugin);
  }
  return catalog;
}

/** A plain version, or the strongest part of a rich one (`strictly`, then `require`, then `prefer`). */
function richVersion(data: Data | undefined): Value | undefined {
  if (!data) return undefined;
  if (data.kind === "scalar") return data.value === null ? undefined : known(String(data.value), placeOf(data));
  for (const key of ["strictly", "require", "prefer"]) {
    const part = at(data, key);
    if (part?.kind !== "scalar") continue;
    const text = String(part.value);
    return known(key === "strictly" && !/[[\](),]/.test(text) ? `${text}!!` : text, placeOf(part));
  }
  return undefined;
}

function versionOf(data: Data, catalog: Catalog): Value | undefined {
  const reference = textAt(data, "version", "ref") ?? textAt(data, "version.ref");
  if (reference !== undefined) return catalog.versions.get(accessor(reference));
  return richVersion(at(data, "version"));
}

function readLibrary(data: Data, catalog: Catalog): CatalogLibrary | undefined {
  const notation = data.kind === "scalar" ? String(data.value) : undefined;
  if (notation !== undefined) {
    const [group, artifact, version] = notation.split(":");
    if (!group || !artifact) return undefined;
    return { group, artifact, version: version ? known(version, placeOf(data)) : undefined, at: placeOf(data) };
  }
  const [group, artifact] = textAt(data, "module")?.split(":") ?? [textAt(data, "group"), textAt(data, "name")];
  if (!group || !artifact) return undefined;
  return { group, artifact, version: versionOf(data, catalog), at: placeOf(at(data, "module") ?? at(data, "name") ?? data) };
}

function readPlugin(data: Data, catalog: Catalog): CatalogPlugin | undefined {
  if (data.kind === "scalar") {
    const [id, version] = String(data.value).split(":");
    return id ? { id, version: version ? known(version, placeOf(data)) : undefined, at: placeOf(data) } : undefined;
  }
  const id = textAt(data, "id");
  return id ? { id, version: versionOf(data, catalog), at: placeOf(at(data, "id") ?? data) } : undefined;
}
