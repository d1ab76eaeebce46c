import { PACKAGE_KEYS } from "../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../misspelt-names.js";
import type { LockFact } from "../../model/facts.js";
import type { FactSink } from "../sink.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { findLockFile, readJsLock, type JsLock } from "../packages/locks.js";
import { findInstalled, hasNodeModules, type NpmDeclaration, type NpmManifest } from "../packages/packages.js";
import { at } from "../../syntax/data.js";
import { satisfiesIn } from "../../versions/ecosystem.js";
import { parseSpecifier } from "../../versions/npm.js";
import type { Discovery } from "./framework.js";
import type { ProjectFiles } from "../project-files.js";

/** Sources: docs.npmjs.com, yarnpkg.com, pnpm.io, bun.sh (the names of their lock files). */
const LOCKS = ["package-lock.json", "yarn.lock", "pnpm-lock.yaml", "bun.lock", "bun.lockb"];

/** The lock file of an app's JavaScript packages, held against what is declared and what is installed. */
export function readNpmLock(discovery: Discovery, manifest: NpmManifest, app: FactSink): void {
  const { project } = discovery;
  noteMisspeltKeys(app, manifest.root, PACKAGE_KEYS);
  const file = findLockFile(project, manifest.folder);
  const lock = file === undefined ? undefined : readJsLock(project, file);
  for (const name of lock?.names() ?? []) app.lockedName(`npm ${name}`);
  const installed = hasNodeModules(project, manifest.folder);
  const fact: LockFact = {
    manager: lock?.manager ?? "npm",
    side: "shared",
    manifest: { file: manifest.file, line: 1, column: 1 },
    lockName: lock ? baseName(lock.file) : "package-lock.json, yarn.lock or pnpm-lock.yaml",
    lock: file,
    expected: installed || discovery.versioned,
    needed: manifest.declarations.some(({ section }) => section === "dependencies"),
    installedApart: [],
    declaredApart: [],
  };
  const rivals =
    file === undefined ? [] : LOCKS.filter((name) => name !== baseName(file) && project.tree.isFile(join(parentOf(file), name)));
  if (rivals.length > 0) fact.rivals = rivals;
  notePackages(project, manifest, lock, fact, installed);
  app.lock(fact);
}

/** Packages that are declared or installed otherwise than the lock records. */
function notePackages(project: ProjectFiles, manifest: NpmManifest, lock: JsLock | undefined, fact: LockFact, installed: boolean): void {
  noteLeftInLock(manifest, lock, fact);
  for (const declaration of manifest.declarations) {
    if (declaration.section === "peerDependencies" || declaration.section === "optionalDependencies") continue;
    const { kind } = parseSpecifier(declaration.specifier.text);
    if (!lock) {
      if (kind === "range") noteOutside(project, manifest, fact, declaration);
      continue;
    }
    const recorded = lock.recorded(manifest.folder, declaration.name);
    if (recorded && recorded.specifier !== declaration.specifier.text && kind !== "catalog" && kind !== "workspace") {
      fact.declaredApart.push({
        name: declaration.name,
        declared: declaration.specifier.text,
        recorded: recorded.specifier || undefined,
        places: [declaration.specifier.place, recorded.at],
      });
    }
    const locked = kind === "range" ? lock.locked(manifest.folder, declaration.name, declaration.specifier.text) : undefined;
    if (!locked || !installed) continue;
    const package_ = findInstalled(project, manifest.folder, declaration.name);
    if (package_?.version && package_.version !== locked.version)
      fact.installedApart.push({ name: declaration.name, locked: locked.version, installed: package_.version, at: locked.at });
  }
}

/** Packages that the lock records as declared, and that are not any more. */
function noteLeftInLock({ declarations, folder, root }: NpmManifest, lock: JsLock | undefined, fact: LockFact): void {
  const names = new Set(declarations.map(({ name }) => name));
  // Of a lock that several lists share, another may declare it; settings that force versions leave entries that nobody asks for.
  const isAlone =
    lock !== undefined && parentOf(lock.file) === folder && !["workspaces", "resolutions"].some((key) => at(root, key) !== undefined);
  for (const { name, specifier, at: place } of lock?.declared(folder) ?? (isAlone ? lock.unasked?.() : undefined) ?? [])
    if (!names.has(name)) fact.declaredApart.push({ name, declared: undefined, recorded: specifier, places: [place] });
}

/** Without a lock: an installed package that the declared range does not take; one that the settings force, or that is no release, is meant. */
function noteOutside(project: ProjectFiles, manifest: NpmManifest, fact: LockFact, { name, specifier }: NpmDeclaration): void {
  const installed = findInstalled(project, manifest.folder, name)?.version;
  if (installed === undefined || installed.includes("-") || satisfiesIn("npm", installed, specifier.text) !== false) return;
  const forces = /"(?:overrides|resolutions)"\s*:/;
  const lists = [manifest.file, "package.json"].flatMap((file) => (project.tree.isFile(file) ? (project.text(file)?.text ?? []) : []));
  if (lists.some((text) => forces.test(text))) return;
  fact.installedOutside = [...(fact.installedOutside ?? []), { name, declared: specifier.text, installed, at: specifier.place }];
}
