import { PLATFORM_PLUGIN } from "../knowledge/platform-packages.js";
import type { BuildPluginFact } from "../model/facts.js";
import type { GradleBuildFacts, GradleModule } from "../model/gradle.js";

/**
 * Whether a plugin of the build's own (in buildSrc or a build that is taken in) may do to a module what no script says: one that it or the root
 * applies, or one that it applies by name and that nothing else brings.
 */
export function hasOwnPlugins(build: GradleBuildFacts, module: GradleModule): boolean {
  if (build.conventions.length === 0 && build.includedBuilds.every((folder) => folder.includes("node_modules/"))) return false;
  return [build.root, module].some(({ plugins }) =>
    plugins.some(
      (plugin) => plugin.applied && (build.openConventions.includes(plugin.id) || !(isSeen(build, plugin) || isBrought(build, plugin))),
    ),
  );
}

/** Whether a plugin is one of the build's own whose code says all that it does. */
export function isSeen({ conventions, openConventions }: GradleBuildFacts, { id }: Pick<BuildPluginFact, "id">): boolean {
  return conventions.includes(id) && !openConventions.includes(id);
}

/** Whether something other than the build's own plugins brings a plugin: it is the platform's, or is declared with its version. */
export function isBrought({ settings, root, modules }: GradleBuildFacts, { id, version }: BuildPluginFact): boolean {
  if (version !== undefined || !id.includes(".") || PLATFORM_PLUGIN.test(id)) return true;
  const all = [settings, root, ...modules.values()];
  return all.some(({ plugins }) => plugins.some((other) => other.id === id && other.version !== undefined));
}
