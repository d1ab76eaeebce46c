import {
  FRAMEWORK_PACKAGES,
  GIVEN_PROPERTIES,
  GROUP_ATTRIBUTES,
  ITEM_ATTRIBUTES,
  PROJECT_ITEMS,
  PROJECT_PROPERTIES,
  PROPERTY_WORDS,
} from "../../../knowledge/msbuild-names.js";
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
  for (const root of all) {
    tellAsked(app, root, (name) => texts.some((text) => text.includes(`<${name}>`) || text.includes(`<${name} `)));
    for (const group of root.children) {
      const isProperties = group.name === "PropertyGroup";
      if (!isProperties && group.name !== "ItemGroup") continue;
      tellAttributes(app, group, GROUP_ATTRIBUTES);
      for (const element of group.children) {
        const right = isAsked(isProperties ? "$" : "@", element.name)
          ? undefined
          : meant(element.name, isProperties ? PROJECT_PROPERTIES : PROJECT_ITEMS);
        if (right !== undefined) tell(app, isProperties ? "property" : "item", element, element.name, right);
        tellAttributes(app, element, isProperties ? GROUP_ATTRIBUTES : ITEM_ATTRIBUTES);
        if (isProperties) tellWord(app, element);
        else if (element.name === "PackageReference") tellPackage(app, element);
      }
    }
  }
}

function tell(app: FactSink, what: string, { source, start }: XmlElement, name: string, right: string, at = start + 1): void {
  app.misspelling({ what, name, right, side: "shared", at: source.place(at) });
}

function tellAttributes(app: FactSink, element: XmlElement, known: readonly string[]): void {
  for (const [name, { start }] of element.attributes) {
    const right = meant(name, known);
    if (right !== undefined && !element.attributes.has(right))
      tell(app, `attribute of ${element.name}`, element, name, right, element.source.text.lastIndexOf(name, start));
  }
}

/** The value of a property that knows only some words. */
function tellWord(app: FactSink, element: XmlElement): void {
  const known = Object.hasOwn(PROPERTY_WORDS, element.name) ? (PROPERTY_WORDS[element.name] ?? []) : [];
  const text = element.text.trim();
  const right = meant(text, known);
  if (right !== undefined) tell(app, `value of ${element.name}`, element, text, right, element.textStart);
}

function tellPackage(app: FactSink, element: XmlElement): void {
  const stated = element.attributes.get("Include");
  const right = stated && meant(stated.value, FRAMEWORK_PACKAGES);
  if (stated && right !== undefined) tell(app, "package", element, stated.value, right, stated.start);
}

/** Properties that conditions ask for, and that are almost one which the build itself sets. */
function tellAsked(app: FactSink, root: XmlElement, isSet: (name: string) => boolean): void {
  const text = root.source.text.replace(/<!--[\s\S]*?-->/g, (comment) => " ".repeat(comment.length));
  for (const match of text.matchAll(/\$\(([A-Za-z]\w{6,})(?=[).])/g)) {
    const name = match[1] as string;
    const right = meant(name, GIVEN_PROPERTIES);
    if (right !== undefined && !isSet(name)) tell(app, "property", root, name, right, match.index + 2);
  }
}
