import { join } from "../../../model/paths.js";
import { nearest } from "../../../model/suggest.js";
import type { Place } from "../../../model/place.js";
import { descendants } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink, IosReading } from "../../sink.js";
import { orNear, type IosContext } from "./side.js";
import type { SchemeFacts } from "./xcode-project.js";

/** The actions of a scheme that build by a configuration. Source: developer.apple.com, "Customizing the build schemes for a project". */
const ACTIONS = ["LaunchAction", "TestAction", "ProfileAction", "AnalyzeAction", "ArchiveAction"];

/**
 * What shared schemes of the app build: configurations that the project does not have, and archives for the store that are debug builds. Where
 * other schemes archive another configuration, one for developers does not matter.
 */
export function readSchemes({ project, xcode }: IosContext, app: FactSink, side: IosReading): void {
  const folder = join(xcode.path, "xcshareddata/xcschemes");
  const configurations = [...new Set(xcode.targets.flatMap((target) => target.configurations.map(({ name }) => name)))];
  if (configurations.length === 0) return;
  const archives: { name: string; configuration: string; at: Place }[] = [];
  for (const { name, targets, actions } of [...(xcode.spec?.schemes ?? []), ...sharedSchemes(project, folder)]) {
    if (!targets.includes(side.target.name)) continue;
    for (const { action, configuration, at } of actions)
      if (!configurations.includes(configuration))
        app.pathFollowed({
          text: configuration,
          resolved: undefined,
          kind: "configuration",
          exists: false,
          side: "ios",
          generated: false,
          at,
          ...orNear(nearest(configuration, configurations)),
        });
      else if (action === "ArchiveAction") archives.push({ name, configuration, at });
  }
  // Compiled by the name of the configuration, as templates have it.
  const isDebug = (configuration: string): boolean => /debug/i.test(configuration);
  if (archives.length === 0 || archives.some(({ configuration }) => !isDebug(configuration))) return;
  if (!configurations.some((name) => /release/i.test(name))) return;
  for (const { name, configuration, at } of archives)
    app.debugOption({ what: "archive", side: "ios", text: `the scheme ${name} archives ${configuration}`, at });
}

function sharedSchemes(project: ProjectFiles, folder: string): SchemeFacts[] {
  return project.tree.list(folder).flatMap(({ name }): SchemeFacts[] => {
    const root = name.endsWith(".xcscheme") ? project.xml(join(folder, name))?.root : undefined;
    if (!root) return [];
    return [
      {
        name: name.replace(/\.xcscheme$/, ""),
        targets: descendants(root, "BuildableReference").flatMap((element) => element.attributes.get("BlueprintName")?.value ?? []),
        actions: ACTIONS.flatMap((tag) => descendants(root, tag)).flatMap((action) => {
          const stated = action.attributes.get("buildConfiguration");
          return stated ? [{ action: action.name, configuration: stated.value, at: action.source.place(stated.start) }] : [];
        }),
      },
    ];
  });
}
