import { join, parentOf } from "../../model/paths.js";
import { startOf } from "../../model/place.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { at, entriesOf, textAt } from "../../syntax/data.js";
import { findLockFile, readJsLock } from "../packages/locks.js";
import { findInstalled, readManifest } from "../packages/packages.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";

/** `NAME+VERSION.patch`, in a scope `@scope+NAME+VERSION.patch`, with a number and a word behind where there are several. */
const FILE = /^((?:@[^+]+\+)?[^+]+)\+(\d[^+]*?)(?:\+\d{3}(?:\+[^+]+)?)?(?:\.dev)?\.patch$/;

/**
 * Patches of installed packages, by the names of their files, and what applies them: a script of a manifest, or the package manager itself.
 * Sources: the documentation of patch-package (names, postinstall); pnpm.io, "pnpm patch" (patchedDependencies); yarnpkg.com, "Protocol: patch".
 */
export function readPatches(project: ProjectFiles, app: FactSink, folder: string): void {
  const lockFile = findLockFile(project, folder);
  const lock = lockFile === undefined ? undefined : readJsLock(project, lockFile);
  const roots = [...new Set([folder, ...(lockFile === undefined ? [] : [parentOf(lockFile)])])];
  for (const root of roots) {
    const files = project.tree.list(join(root, "patches")).filter(({ kind, name }) => kind === "file" && FILE.test(name));
    const manifests = roots.map((at_) => readManifest(project, at_)?.root);
    const scripts = manifests.flatMap((manifest) => entriesOf(at(manifest, "scripts")).map(([, { value }]) => textAt(value) ?? ""));
    const applied = scripts.some((text) => /patch-package|\bpatches?\b/.test(text)) || scripts.length === 0;
    for (const { name } of files) {
      const [, written = "", made = ""] = FILE.exec(name) ?? [];
      const package_ = written.replaceAll("+", "/");
      const declared = manifests.flatMap(
        (manifest) => textAt(manifest, "dependencies", package_) ?? textAt(manifest, "devDependencies", package_) ?? [],
      )[0];
      const installed = findInstalled(project, folder, package_)?.version;
      const locked = lock?.versions(package_).map(({ version }) => version) ?? [];
      const direct = declared === undefined ? undefined : lock?.locked(folder, package_, declared)?.version;
      // What other packages bring may be there in several versions.
      const has = direct ?? (locked.includes(made) ? made : locked[0]) ?? installed;
      if (has === undefined && lock === undefined) continue;
      app.patch({ package: package_, sdk: sdkIdOf("npm", package_), made, has, applied, at: startOf(join(root, "patches", name)) });
    }
  }
}
