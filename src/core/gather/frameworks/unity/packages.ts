import { join, parentOf } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import type { Dependency, LockFact } from "../../../model/facts.js";
import type { Value } from "../../../model/value.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, valueAt, type Data } from "../../../syntax/data.js";
import { gitReference } from "../../../versions/git-reference.js";
import { UNITY_MANIFEST_KEYS } from "../../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import type { UnityProject } from "./project.js";

/** Packages of the engine's maker. Source: docs.unity3d.com, "Packages and feature sets". */
const PLATFORM = /^com\.unity\./;
const MODULE = /^com\.unity\.modules\./;

/**
 * `Packages/manifest.json`, its lock, embedded packages, and what packages of the team ask for.
 * Source: docs.unity3d.com, "Project manifest", "Scoped registries", "Lock files", "Git dependencies", "Embedded dependencies".
 */
export function readPackages({ project, versioned }: Discovery, detected: DetectedApp, unity: UnityProject, app: FactSink): void {
  const file = join(detected.path, "Packages/manifest.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  const lockFile = join(detected.path, "Packages/packages-lock.json");
  const lock = project.tree.isFile(lockFile) ? at(project.json(lockFile)?.root, "dependencies") : undefined;
  if (!root) return;
  const recordedApart: LockedApart[] = [];
  noteMisspeltKeys(app, root, UNITY_MANIFEST_KEYS);
  noteRegistries(app, root);
  for (const [name, { value, start }] of entriesOf(at(root, "dependencies")).filter(([own]) => !MODULE.test(own))) {
    const declared = valueAt(value);
    if (declared?.kind !== "known") continue;
    const entry = at(lock, name);
    const local = /^file:(.*)$/.exec(declared.text)?.[1];
    const git = routeOf(declared.text) === "git";
    const at_ = value.source.place(start);
    const dependency: Dependency = {
      ...(isEmbedded(unity, detected.path, name) ? { fixedBy: "a path" } : {}),
      sdk: sdkIdOf("unity", name),
      side: "shared",
      ecosystem: "unity",
      name,
      route: routeOf(declared.text),
      declared,
      locked: routeOf(declared.text) === "registry" ? textAt(entry, "version") : undefined,
      scope: "Packages",
      in: detected.name,
      direct: true,
      test: false,
      platform: PLATFORM.test(name),
      conditional: false,
      places: [at_],
    };
    const version = at(entry, "version");
    if (version && dependency.locked !== undefined) dependency.lockedAt = placeOf(version);
    if (git) recordedApart.push(...noteRevision(dependency, declared.text, entry));
    if (local !== undefined) dependency.locked = readLocal(project, unity, app, name, local, declared.place);
    else if (!git && !PLATFORM.test(name)) readScope(root, app, name, dependency, valueAt(entry, "url"));
    app.dependency(dependency);
  }
  readEmbedded(unity, root, app, detected);
  app.lock({
    manager: "unity",
    side: "shared",
    manifest: { file, line: 1, column: 1 },
    lockName: "packages-lock.json",
    lock: lock ? lockFile : undefined,
    expected: versioned,
    needed: needsLock(root),
    declaredApart: [...recordedApart, ...lockedAlone(root, lock)],
  });
  readNeeds(unity, lock, app, root);
}

type LockedApart = LockFact["declaredApart"][number];

/** A package that lies in the Packages folder is taken, whatever the manifest asks for. */
function isEmbedded({ packages }: UnityProject, path: string, name: string): boolean {
  const folder = packages.find((own) => own.name === name)?.folder;
  return folder !== undefined && parentOf(folder) === join(path, "Packages");
}

/** The way by which a package comes, by what the manifest asks for. */
function routeOf(text: string): "path" | "git" | "registry" {
  if (text.startsWith("file:")) return "path";
  return /^(https?|ssh|git):|^git@|\.git(#|\?|$)/.test(text) ? "git" : "registry";
}

/** A project can do without a lock. Source: docs.unity3d.com, "Project manifest" (enableLockFile). */
function needsLock(root: Data): boolean {
  return textAt(root, "enableLockFile") !== "false" && entriesOf(at(root, "dependencies")).some(([name]) => !MODULE.test(name));
}

/** The registries of the manifest, with the names that they serve. */
function noteRegistries(app: FactSink, root: Data): void {
  for (const registry of itemsOf(at(root, "scopedRegistries"))) {
    const url = valueAt(registry, "url");
    if (url)
      app.repository({
        kind: "url",
        url,
        for: "packages",
        groups: textsOf(at(registry, "scopes")),
        module: "Packages/manifest.json",
        at: url.place,
      });
  }
}

/** A package from Git: its reference, and the lock's where that is another. */
function noteRevision(dependency: Dependency, declared: string, entry: Data | undefined): LockedApart[] {
  const version = at(entry, "version");
  dependency.reference = gitReference(/#(.+)$/.exec(declared)?.[1], declared);
  // The lock holds the revision of a branch.
  dependency.locked = textAt(entry, "hash")?.slice(0, 10);
  const recorded = textAt(version);
  if (recorded === undefined || recorded === declared) return [];
  return [
    {
      name: dependency.name,
      declared: shownReference(declared),
      recorded: shownReference(recorded),
      places: [...dependency.places, ...(version ? [placeOf(version)] : [])],
    },
  ];
}

/** Packages that the lock has as the project's own wish (depth 0), and that the manifest no longer names. Source: docs.unity3d.com, "Lock files". */
function lockedAlone(root: Data, lock: Data | undefined): { name: string; declared: undefined; recorded: string; places: Place[] }[] {
  const declared = new Set(entriesOf(at(root, "dependencies")).map(([name]) => name));
  return entriesOf(lock).flatMap(([name, { value }]) =>
    declared.has(name) || textAt(value, "depth") !== "0" || textAt(value, "source") === "embedded"
      ? []
      : [{ name, declared: undefined, recorded: textAt(value, "version") ?? "", places: [placeOf(at(value, "version") ?? value)] }],
  );
}

/** A Git address as far as people tell its states apart: the revision, or the whole of it. */
function shownReference(text: string): string {
  return /#(.+)$/.exec(text)?.[1] ?? "the default branch";
}

/** A folder or an archive beside the project; its version is what its own manifest says. */
function readLocal(
  project: Discovery["project"],
  unity: UnityProject,
  app: FactSink,
  name: string,
  text: string,
  place: Dependency["places"][number],
): string | undefined {
  const absolute = /^([/~]|[A-Za-z]:)/.test(text);
  const resolved = absolute ? undefined : join(unity.folder, "Packages", text);
  app.pathFollowed({
    text,
    resolved,
    kind: "package",
    exists: resolved === undefined ? undefined : project.tree.isFolder(resolved) || project.tree.isFile(resolved),
    side: "shared",
    generated: false,
    at: place,
  });
  const found = unity.packages.find((other) => other.name === name);
  return textAt(found?.manifest, "version") ?? /-(\d[\w.-]*?)\.(?:tgz|tar\.gz)$/.exec(text)?.[1];
}

/** A package of another registry than the maker's is looked for where a scope covers its name. Source: docs.unity3d.com, "Scoped registries". */
function readScope(root: Data, app: FactSink, name: string, dependency: Dependency, taken: Value | undefined): void {
  const registries = itemsOf(at(root, "scopedRegistries"));
  const scopes = registries.flatMap((registry) => textsOf(at(registry, "scopes")));
  const list = at(registries[0], "scopes");
  if (!list && registries.length === 0 && taken?.kind === "known" && !/\bunity\.(com|cn)\b/.test(taken.text)) {
    const declared = placeOf(at(root, "dependencies", name) ?? root);
    app.repositoryUncovered({ package: name, sdk: dependency.sdk, side: "shared", at: declared, list: taken.place });
  }
  if (!list || dependency.fixedBy !== undefined || scopes.some((scope) => name === scope || name.startsWith(`${scope}.`) || scope === "*"))
    return;
  app.repositoryUncovered({
    package: name,
    sdk: dependency.sdk,
    side: "shared",
    at: placeOf(at(root, "dependencies", name) ?? list),
    list: placeOf(list),
  });
}

/** Packages that lie in the Packages folder are in the app without any entry. */
function readEmbedded(unity: UnityProject, root: Data, app: FactSink, detected: DetectedApp): void {
  const declared = new Set(entriesOf(at(root, "dependencies")).map(([name]) => name));
  for (const { name, sdk, folder, manifest } of unity.packages) {
    if (folder === undefined || declared.has(name) || !manifest) continue;
    const version = valueAt(manifest, "version");
    app.dependency({
      sdk,
      side: "shared",
      ecosystem: "unity",
      name,
      route: "path",
      declared: version,
      scope: "Packages",
      in: detected.name,
      platform: PLATFORM.test(name),
      reference: { kind: "path", text: folder.slice(unity.folder === "" ? 0 : unity.folder.length + 1) },
      places: [placeOf(at(manifest, "name") ?? manifest)],
    });
  }
}

/** What packages of the team ask for: other packages, and an editor that is new enough. Source: docs.unity3d.com, "Package manifest". */
function readNeeds(unity: UnityProject, lock: Data | undefined, app: FactSink, root: Data): void {
  for (const { own, manifest, name, sdk } of unity.packages) {
    if (!own || !manifest) continue;
    for (const [needed, { value }] of entriesOf(at(manifest, "dependencies"))) {
      const wanted = valueAt(value);
      const embedded = unity.packages.find((other) => other.name === needed && other.own);
      if (wanted?.kind !== "known" || embedded?.folder !== undefined) continue;
      const found = textAt(lock, needed, "version") ?? textAt(root, "dependencies", needed);
      if (found !== undefined || lock) app.packageWants({ by: name, sdk, name: needed, wanted, found });
    }
    const editor = valueAt(manifest, "unity");
    const installed = app.shared?.framework.declared;
    if (editor && installed?.kind === "known")
      app.packageWants({ by: name, sdk, name: "the editor", wanted: editor, found: installed.text });
  }
}
