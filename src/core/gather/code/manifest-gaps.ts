import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { isWithin, join } from "../../model/paths.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { resourceFolders } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import { faultAt, valueOf } from "./manifest-element.js";

/** What the elements of a manifest cannot do without, and what nothing in the manifest names. */
export function manifestGaps(project: ProjectFiles, app: App, roots: readonly XmlElement[]): ComponentFault[] {
  // A configuration of Cordova writes attributes into elements that the framework's template has.
  const whole = app.kind === "cordova" ? [] : roots;
  return [...whole.flatMap(namelessElements), ...roots.flatMap(idleFilters), ...unnamedLists(project, app, roots)];
}

/** Elements that are nothing without their name. Source: developer.android.com, "App manifest overview" (android:name of each of them is required). */
const NAMED = ["activity", "activity-alias", "service", "receiver", "provider", "meta-data", "uses-permission", "action", "category"];

const isMarked = (element: XmlElement): boolean => /^remove/.test(element.attributes.get("tools:node")?.value ?? "");

function namelessElements(root: XmlElement): ComponentFault[] {
  // What is asked about is named by what it has.
  const asked = new Set(children(root, "queries").flatMap((queries) => children(queries, "provider")));
  return NAMED.flatMap((tag) =>
    descendants(root, tag).flatMap((element) =>
      valueOf(element, "name") !== undefined || isMarked(element) || asked.has(element)
        ? []
        : [faultAt(element, "name", { what: "no name", name: tag, near: undefined })],
    ),
  );
}

/**
 * Filters that let nothing through: without an action, or for links without an address. Source: developer.android.com, "Intents and intent filters"
 * (action test: a filter that lists no actions matches no intent), "Create deep links to app content" (data).
 */
function idleFilters(root: XmlElement): ComponentFault[] {
  return descendants(root, "intent-filter").flatMap((filter): ComponentFault[] => {
    if (isMarked(filter)) return [];
    const actions = children(filter, "action");
    const name = children(filter, "category")
      .flatMap((category) => valueOf(category, "name")?.split(".").at(-1) ?? [])
      .join(", ");
    if (actions.length === 0) return [faultAt(filter, "autoVerify", { what: "filter without action", name, near: undefined })];
    const isForLinks = name.includes("BROWSABLE") && actions.every((action) => valueOf(action, "name") === "android.intent.action.VIEW");
    return isForLinks && children(filter, "data").length === 0
      ? [faultAt(filter, "autoVerify", { what: "filter without data", name, near: undefined })]
      : [];
  });
}

/**
 * Files of resources that only the manifest puts to use, by their element, with the attribute that does. Sources: developer.android.com, "Network security
 * configuration", "Back up user data with Auto Backup".
 */
const LISTS: Readonly<Record<string, string>> = {
  "network-security-config": "networkSecurityConfig",
  "data-extraction-rules": "dataExtractionRules",
  "full-backup-content": "fullBackupContent",
};

function unnamedLists(project: ProjectFiles, app: App, roots: readonly XmlElement[]): ComponentFault[] {
  const { android } = app;
  if (!android || android.generated) return [];
  const own = roots.filter(({ source }) => isWithin(source.file, android.module.folder));
  const [application] = own.flatMap((root) => descendants(root, "application"));
  if (!application) return [];
  const used = new Set(
    roots.flatMap((root) => descendants(root, "application").flatMap((one) => [...one.attributes.keys()].map((key) => key.slice(8)))),
  );
  const told = new Set<string>();
  return resourceFolders(project, android.module).flatMap(({ folder, variant }) =>
    (variant === undefined ? project.tree.list(join(folder, "xml")) : []).flatMap(({ name, kind }): ComponentFault[] => {
      const file = join(folder, "xml", name);
      const source = kind === "file" && name.endsWith(".xml") ? project.text(file) : undefined;
      const attribute = source && Object.entries(LISTS).find(([tag]) => source.text.includes(`<${tag}`))?.[1];
      if (!source || attribute === undefined || used.has(attribute) || told.has(attribute)) return [];
      if (!Object.hasOwn(LISTS, project.xml(file)?.root?.name ?? "")) return [];
      told.add(attribute);
      return [faultAt(application, "name", { what: "unnamed list", name: `@xml/${name.replace(/\.xml$/, "")}`, near: attribute })];
    }),
  );
}
