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
