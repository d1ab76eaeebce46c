import type { AndroidSide, AppFacts } from "../model/app.js";
import type { RepositoryFact } from "../model/facts.js";
import { textOf } from "../model/value.js";

/** The repositories in which the application's packages are looked up. */
export function usableRepositories(app: AppFacts, side: AndroidSide): RepositoryFact[] {
  const packages = app.repositories.filter(
    (repository) =>
      repository.for === "packages" &&
      repository.kind !== "flatDir" &&
      repository.module !== "Podfile" &&
      repository.module !== "NuGet.config",
  );
  // Where the framework writes the build, everything that its files name is put into it.
  if (side.build.settingsFile === undefined && side.build.root.buildFile === undefined)
    return packages.filter((repository) => repository.module !== "Packages/manifest.json");
  const central = packages.filter(({ module }) => module === "settings");
  const mode = textOf(side.build.settings.settings.find(({ name }) => name === "repositoriesMode")?.values[0]);
  const own = packages.filter(({ module }) => module === side.module.path);
  if (central.length > 0 && (mode === "FAIL_ON_PROJECT_REPOS" || mode === "PREFER_SETTINGS")) return central;
  return own.length > 0 ? own : central;
}

/** An address without what makes no difference: protocol, user, trailing slash, case of the host. */
export function normalizedUrl(url: string): string {
  return url
    .replace(/^https?:\/\/(?:[^/@]*@)?/, "")
    .replace(/\/+$/, "")
    .toLowerCase();
}

/** Whether a repository is one that companies put in front of others: by the path under which such servers offer them. */
export function mayMirror(repository: RepositoryFact): boolean {
  return repository.kind === "url" && /\/(repository|artifactory|nexus)(\/|$)/.test(textOf(repository.url) ?? "");
}
