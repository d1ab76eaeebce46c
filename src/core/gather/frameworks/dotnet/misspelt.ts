import { ITEM_ATTRIBUTES, PROJECT_ITEMS, PROJECT_PROPERTIES } from "../../../knowledge/msbuild-names.js";
import { misspelling } from "../../../model/suggest.js";
import type { XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";

/** The known name that another one was meant to be: MSBuild takes large and small letters alike. */
function meant(name: string, known: readonly string[]): string | undefined {
  const right = misspelling(name, known);
  return right?.toLowerCase() === name.toLowerCase() ? undefined : right;
}

/**
 * Properties, items and attributes of project files that are almost one that the build knows: it passes them over without a word. What a file of the
 * build asks for by its name is the team's own.
 */
export function noteMisspeltNames(project: ProjectFiles, app: FactSink, files: Iterable<string>): void {
  const all = [...files].flatMap((file) => (project.tree.isFile(file) ? (project.xml(file)?.root ?? []) : []));
  const texts = all.map(({ source }) => source.text);
  const isAsked = (sign: string, name: string): boolean => texts.some((text) => text.includes(`${sign}(${name})`));
  const tell = (what: string, element: XmlElement, name: string, right: string, at = element.start + 1): void =>
    app.misspelling({ what, name, right, side: "shared", at: element.source.place(at) });
  for (const root of all)
    for (const group of root.children) {
      const isProperties = group.name === "PropertyGroup";
      if (!isProperties && group.name !== "ItemGroup") continue;
      for (const element of group.children) {
        const right = isAsked(isProperties ? "$" : "@", element.name)
          ? undefined
          : meant(element.name, isProperties ? PROJECT_PROPERTIES : PROJECT_ITEMS);
        if (right !== undefined) tell(isProperties ? "property" : "item", element, element.name, right);
        for (const [name, { start }] of isProperties ? [] : element.attributes) {
          const own = meant(name, ITEM_ATTRIBUTES);
          if (own !== undefined && !element.attributes.has(own))
            tell(`attribute of ${element.name}`, element, name, own, element.source.text.lastIndexOf(name, start));
        }
      }
    }
}
