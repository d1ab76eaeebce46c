import type { AndroidSide, App } from "../../../model/app.js";
import type { RepositoryFact, RepositoryNeed } from "../../../model/facts.js";
import { textOf } from "../../../model/value.js";
import type { GradleModule } from "../../../model/gradle.js";

/**
 * Repositories that a package's own build names and that plainly serve one of its dependencies: by a filter on the group, or
 * because the host's name is the group's name (`maven.quaymap.example` and `example.quaymap`). Others may be there from habit.
 */
export function repositoryNeeds(module: GradleModule, by: string, sdk: string): RepositoryNeed[] {
  const needs: RepositoryNeed[] = [];
  for (const repository of module.repositories) {
    const url = textOf(repository.url);
    if (repository.kind !== "url" || repository.for !== "packages" || url === undefined || !/^https?:/.test(url)) continue;
    const dependency = module.dependencies.find(
      ({ group, kind, configuration }) => kind === "module" && !/test/i.test(configuration) && serves(repository, url, group),
    );
    if (dependency) needs.push({ by, sdk, url, dependency: `${dependency.group}:${dependency.artifact}`, at: repository.at });
  }
  return needs;
}

function serves(repository: RepositoryFact, url: string, group: string): boolean {
  if (repository.groups.length > 0)
    return repository.groups.some((pattern) => pattern === group || (pattern.endsWith(".*") && group.startsWith(pattern.slice(0, -2))));
  const host = /^https?:\/\/([^/:]+)/.exec(url)?.[1]?.toLowerCase();
  if (!host) return false;
  const labels = host.split(".").reverse().slice(0, 2);
  return labels.length === 2 && group.toLowerCase().startsWith(labels.join("."));
}

/** The repositories in which the application's packages are looked up. */
export function usableRepositories(app: App, side: AndroidSide): RepositoryFact[] {
  const packages = app.repositories.filter(
    (repository) => repository.for === "packages" && repository.kind !== "flatDir" && repository.module !== "Podfile",
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
