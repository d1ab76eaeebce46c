import { join, relativeTo } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import type { FileTree } from "../../files/tree.js";
import type { PackageManager } from "../../model/facts.js";
import type { Place } from "../../model/place.js";
import { at, entriesOf, textAt, type Data } from "../../syntax/data.js";
import { ancestors } from "./packages.js";

export interface LockedVersion {
  version: string;
  at: Place;
  /** Where it is installed, for layouts that say so. */
  folder?: string;
}

/** A lock file of npm, Yarn or pnpm, asked in one way. */
export interface JsLock {
  manager: Extract<PackageManager, "npm" | "yarn" | "pnpm">;
  file: string;
  /** The version that the package in `importer` gets for a declaration. */
  locked(importer: string, name: string, specifier: string): LockedVersion | undefined;
  /** The specifier that the lock was made for; `undefined` when the format does not record it, "" when the entry is absent. */
  recorded(importer: string, name: string): { specifier: string; at: Place } | undefined;
  /** What `importer` declares, as the lock records it; `undefined` when the format does not record it. */
  declared(importer: string): { name: string; specifier: string; at: Place }[] | undefined;
  /** Where the format does not record what is declared: what no other package in the lock asks for, so that a package.json has to. */
  unasked?(): { name: string; specifier: string; at: Place }[];
  /** Every version of a package in the lock. */
  versions(name: string): LockedVersion[];
  /** The names of all packages in the lock. */
  names(): Iterable<string>;
}

const LOCK_FILES = ["package-lock.json", "npm-shrinkwrap.json", "yarn.lock", "pnpm-lock.yaml"];

export function findLockFile(project: ProjectFiles, folder: string): string | undefined {
  for (const above of ancestors(project, folder)) {
    for (const name of LOCK_FILES) {
      const file = join(above, name);
      if (project.tree.isFile(file)) return file;
    }
  }
  return undefined;
}

export function readJsLock(project: ProjectFiles, file: string): JsLock | undefined {
  return project.memo(`lock of JavaScript ${file}`, () => read(project, file));
}

function read(project: ProjectFiles, file: string): JsLock | undefined {
  if (file.endsWith(".json")) {
    const root = project.json(file)?.root;
    return root ? npmLock(project.tree, file, root) : undefined;
  }
  const root = project.lockYaml(file)?.root;
  if (!root) return undefined;
  return file.endsWith("yarn.lock") ? yarnLock(project.tree, file, root) : pnpmLock(project.tree, file, root);
}

function folderOf(file: string): string {
  return file.includes("/") ? file.slice(0, file.lastIndexOf("/")) : "";
}

/** Importers are named relative to the lock file's folder. Where that lies above the root, the root's own path tells the names between. */
function importerName({ place = "" }: FileTree, file: string, importer: string): string {
  const folder = folderOf(file);
  const above = folder.split("/").filter((part) => part === "..").length;
  const name = above === 0 ? relativeTo(folder, importer) : join(...place.split("/").slice(-above), importer);
  return name === "." ? "" : name;
}

/** Source: npm documentation, "package-lock.json" (versions 1 to 3). */
function npmLock(tree: FileTree, file: string, root: Data): JsLock {
  const packages = at(root, "packages");
  const byName = new Map<string, LockedVersion[]>();
  const remember = (name: string, entry: LockedVersion): void => {
    const list = byName.get(name);
    if (list) list.push(entry);
    else byName.set(name, [entry]);
  };
  const versionAt = (data: Data | undefined, folder: string): LockedVersion | undefined => {
    const version = at(data, "version");
    return version?.kind === "scalar" ? { version: String(version.value), at: version.source.place(version.start), folder } : undefined;
  };
  if (packages) {
    for (const [path, { value }] of entriesOf(packages)) {
      const marker = path.lastIndexOf("node_modules/");
      const entry = marker === -1 ? undefined : versionAt(value, path);
      if (entry) remember(path.slice(marker + 13), entry);
    }
  } else {
    const visit = (data: Data | undefined, prefix: string, depth: number): void => {
      if (depth > 40) return;
      for (const [name, { value }] of entriesOf(at(data, "dependencies"))) {
        const folder = `${prefix}node_modules/${name}`;
        const entry = versionAt(value, folder);
        if (entry) remember(name, entry);
        visit(value, `${folder}/`, depth + 1);
      }
    };
    visit(root, "", 0);
  }
  return {
    manager: "npm",
    file,
    locked(importer, name) {
      const from = importerName(tree, file, importer);
      const candidates = byName.get(name) ?? [];
      let current = from;
      for (;;) {
        const folder = current === "" ? `node_modules/${name}` : `${current}/node_modules/${name}`;
        const found = candidates.find((candidate) => candidate.folder === folder);
        if (found) return found;
        if (current === "") return undefined;
        current = current.includes("/") ? current.slice(0, current.lastIndexOf("/")) : "";
      }
    },
    recorded(importer, name) {
      const entry = packages && at(packages, importerName(tree, file, importer));
      if (!entry) return undefined;
      for (const section of ["dependencies", "devDependencies", "optionalDependencies", "peerDependencies"]) {
        const found = at(entry, section, name);
        if (found?.kind === "scalar") return { specifier: String(found.value), at: found.source.place(found.start) };
      }
      return { specifier: "", at: entry.source.place(entry.start) };
    },
    declared(importer) {
      const entry = packages && at(packages, importerName(tree, file, importer));
      return entry && declaredIn(entry, ["dependencies", "devDependencies", "optionalDependencies"]);
    },
    versions: (name) => byName.get(name) ?? [],
    names: () => byName.keys(),
  };
}

/** The declarations in sections of an importer's entry, each with its range. */
function declaredIn(entry: Data, sections: readonly string[]): { name: string; specifier: string; at: Place }[] {
  return sections.flatMap((section) =>
    entriesOf(at(entry, section)).map(([name, { value, start }]) => ({
      name,
      specifier: value.kind === "scalar" ? String(value.value) : (textAt(value, "specifier") ?? ""),
      at: value.source.place(start),
    })),
  );
}

/** Source: the format of Yarn's lock files, first generation (`name@range:`) and later ones (`name@npm:range:`). */
function yarnLock(tree: FileTree, file: string, root: Data): JsLock {
  /** What members of the workspace declare, by their folders. Source: yarnpkg.com (releases from 2 on record it). */
  const members = new Map<string, Data>();
  const byKey = new Map<string, LockedVersion>();
  const byName = new Map<string, LockedVersion[]>();
  for (const [keys, { value, start }] of entriesOf(root)) {
    const version = textAt(value, "version");
    if (version === undefined || keys === "__metadata") continue;
    const entry: LockedVersion = { version, at: value.source.place(start) };
    const member = /@workspace:(.*)$/.exec(textAt(value, "resolution") ?? "")?.[1];
    if (member !== undefined) members.set(member === "." ? "" : member, value);
    for (const key of keys.split(/,\s*/)) {
      byKey.set(key, entry);
      const name = key.slice(0, key.indexOf("@", 1));
      const list = byName.get(name) ?? [];
      if (!list.some((known) => known.version === version)) list.push(entry);
      byName.set(name, list);
    }
  }
  return {
    manager: "yarn",
    file,
    locked(_importer, name, specifier) {
      for (const key of [`${name}@${specifier}`, `${name}@npm:${specifier}`]) {
        const found = byKey.get(key);
        if (found) return found;
      }
      // A patched or linked package carries more in its key.
      for (const [key, entry] of byKey) if (key.startsWith(`${name}@patch:`) || key.startsWith(`${name}@${specifier}#`)) return entry;
      return undefined;
    },
    recorded(importer, name) {
      const member = members.get(importerName(tree, file, importer));
      const found = member && declaredIn(member, ["dependencies"]).find((one) => one.name === name);
      if (!member || (found && !/^npm:/.test(found.specifier))) return undefined;
      return found
        ? { specifier: found.specifier.slice("npm:".length), at: found.at }
        : { specifier: "", at: member.source.place(member.start) };
    },
    declared(importer) {
      const member = members.get(importerName(tree, file, importer));
      return member && declaredIn(member, ["dependencies"]).map((one) => ({ ...one, specifier: one.specifier.replace(/^npm:/, "") }));
    },
    ...(members.size === 0 ? { unasked: () => unaskedIn(root) } : {}),
    versions: (name) => byName.get(name) ?? [],
    names: () => byName.keys(),
  };
}

/** Source: the format of Yarn's lock files, first generation (each entry has what it depends on as it asks for it). */
function unaskedIn(root: Data): { name: string; specifier: string; at: Place }[] {
  const asked = new Set(
    entriesOf(root).flatMap(([, { value }]) =>
      declaredIn(value, ["dependencies", "optionalDependencies"]).map(({ name, specifier }) => `${name}@${specifier}`),
    ),
  );
  return entriesOf(root).flatMap(([keys, { value, start }]) => {
    const own = keys.split(/,\s*/);
    const [first = ""] = own;
    const split = first.indexOf("@", 1);
    if (split === -1 || value.kind !== "map" || own.some((key) => asked.has(key))) return [];
    return [{ name: first.slice(0, split), specifier: first.slice(split + 1), at: value.source.place(start) }];
  });
}

/** Source: the format of `pnpm-lock.yaml`, versions 5 to 9. */
function pnpmLock(tree: FileTree, file: string, root: Data): JsLock {
  const importers = at(root, "importers");
  const importerData = (importer: string): Data | undefined => {
    const name = importerName(tree, file, importer);
    return importers ? at(importers, name === "" ? "." : name) : name === "" ? root : undefined;
  };
  const find = (importer: string, name: string): { version?: string; specifier?: string; at: Place } | undefined => {
    const data = importerData(importer);
    for (const section of ["dependencies", "devDependencies", "optionalDependencies"]) {
      const found = at(data, section, name);
      if (!found) continue;
      const place = found.source.place(found.start);
      if (found.kind === "scalar") return { version: String(found.value), specifier: textAt(data, "specifiers", name), at: place };
      return { version: textAt(found, "version"), specifier: textAt(found, "specifier"), at: place };
    }
    return undefined;
  };
  const byName = new Map<string, LockedVersion[]>();
  for (const [key, { value, start }] of entriesOf(at(root, "packages"))) {
    const match = /^\/?((?:@[^/@]+\/)?[^/@]+)[@/](\d[^(_]*)/.exec(key);
    if (match)
      byName.set(match[1] as string, [
        ...(byName.get(match[1] as string) ?? []),
        { version: match[2] as string, at: value.source.place(start) },
      ]);
  }
  return {
    manager: "pnpm",
    file,
    locked(importer, name) {
      const found = find(importer, name);
      const version = found?.version?.replace(/[(_].*$/, "");
      return found && version ? { version: version.replace(/^.*@(?=\d)/, ""), at: found.at } : undefined;
    },
    recorded(importer, name) {
      const data = importerData(importer);
      if (!data) return undefined;
      const found = find(importer, name);
      return { specifier: found?.specifier ?? "", at: found?.at ?? data.source.place(data.start) };
    },
    declared(importer) {
      const data = importerData(importer);
      return data && declaredIn(data, ["dependencies", "devDependencies", "optionalDependencies"]);
    },
    versions: (name) => byName.get(name) ?? [],
    names: () => byName.keys(),
  };
}
