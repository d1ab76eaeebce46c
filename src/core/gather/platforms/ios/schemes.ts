import { join } from "../../../model/paths.js";
import { nearest } from "../../../model/suggest.js";
import { descendants, type XmlElement } from "../../../syntax/xml.js";
import type { FactSink, IosReading } from "../../sink.js";
import { orNear, type IosContext } from "./side.js";

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
  const archives: { name: string; configuration: string; action: XmlElement }[] = [];
  for (const { name } of project.tree.list(folder)) {
    const root = name.endsWith(".xcscheme") ? project.xml(join(folder, name))?.root : undefined;
    if (!root) continue;
    const built = descendants(root, "BuildableReference").map((element) => element.attributes.get("BlueprintName")?.value);
    if (!built.includes(side.target.name)) continue;
    for (const action of ACTIONS.flatMap((tag) => descendants(root, tag))) {
      const stated = action.attributes.get("buildConfiguration");
      if (!stated) continue;
      const { value } = stated;
      if (!configurations.includes(value))
        app.pathFollowed({
          text: value,
          resolved: undefined,
          kind: "configuration",
          exists: false,
          side: "ios",
          generated: false,
          at: action.source.place(stated.start),
          ...orNear(nearest(value, configurations)),
        });
      else if (action.name === "ArchiveAction") archives.push({ name, configuration: value, action });
    }
  }
  // Compiled by the name of the configuration, as templates have it.
  const isDebug = (configuration: string): boolean => /debug/i.test(configuration);
  if (archives.length === 0 || archives.some(({ configuration }) => !isDebug(configuration))) return;
  if (!configurations.some((name) => /release/i.test(name))) return;
  for (const { name, configuration, action } of archives)
    app.debugOption({
      what: "archive",
      side: "ios",
      text: `the scheme ${name.replace(/\.xcscheme$/, "")} archives ${configuration}`,
      at: action.source.place(action.attributes.get("buildConfiguration")?.start ?? action.start),
    });
}
