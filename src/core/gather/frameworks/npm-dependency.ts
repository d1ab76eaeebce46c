import { gitReference } from "../../versions/git-reference.js";
import { PLATFORM_PACKAGES } from "../../knowledge/platform-packages.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import type { Dependency, SideName } from "../../model/facts.js";
import { join } from "../../model/paths.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import type { LockedVersion } from "../packages/locks.js";
import type { NpmDeclaration } from "../packages/packages.js";
import { parseSpecifier } from "../../versions/npm.js";

export interface NpmPresence {
  side: SideName;
  locked: LockedVersion | undefined;
  /** Name of the package that declares it. */
  in: string;
  native: { android: boolean; ios: boolean };
  nativeUnknown: boolean;
  /** Brings native code to neither side, so that a development dependency is one for tests. */
  testOnly: boolean;
}

/** A JavaScript package as a dependency of one side. */
export function npmDependency(declaration: NpmDeclaration, presence: NpmPresence): Dependency {
  const { name } = declaration;
  const specifier = parseSpecifier(declaration.specifier.text);
  const dependency: Dependency = {
    sdk: sdkIdOf("npm", name),
    side: presence.side,
    ecosystem: "npm",
    name,
    route: specifier.kind === "git" ? "git" : specifier.kind === "path" ? "path" : specifier.kind === "url" ? "binary" : "registry",
    declared: declaration.specifier,
    requirement: specifier,
    locked: presence.locked?.version,
    scope: declaration.section,
    in: presence.in,
    direct: true,
    test: declaration.section === "devDependencies" && presence.testOnly,
    platform: PLATFORM_PACKAGES.npm.test(name),
    conditional: false,
    native: presence.native,
    nativeUnknown: presence.nativeUnknown,
    places: [declaration.at],
  };
  if (presence.locked) dependency.lockedAt = presence.locked.at;
  if (specifier.kind === "git")
    dependency.reference = specifier.semver
      ? { kind: "tag", text: specifier.ref ?? specifier.url }
      : gitReference(specifier.ref, specifier.url);
  if (specifier.kind === "path") dependency.reference = { kind: "path", text: specifier.path };
  if (specifier.kind === "workspace") dependency.fixedBy = "the workspace";
  if (specifier.kind === "catalog") dependency.fixedBy = "pnpm's catalog";
  return dependency;
}

/** A package by path, as a path that the build follows. */
export function notePath(project: ProjectFiles, app: FactSink, folder: string, declaration: NpmDeclaration): void {
  const specifier = parseSpecifier(declaration.specifier.text);
  if (specifier.kind !== "path") return;
  const text = specifier.path;
  const absolute = /^([/~]|[A-Za-z]:)/.test(text);
  const resolved = absolute ? undefined : join(folder, text);
  const exists = resolved === undefined ? undefined : project.tree.isFolder(resolved) || project.tree.isFile(resolved);
  app.pathFollowed({ text, resolved, kind: "package", exists, side: "shared", generated: false, at: declaration.specifier.place });
}
