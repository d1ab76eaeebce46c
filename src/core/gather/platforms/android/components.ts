import type { ProjectFiles } from "../../project-files.js";
import type { AppFacts } from "../../../model/app.js";
import { isInstalled } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { manifestFile } from "./side.js";
import { children, descendants, type XmlElement } from "../../../syntax/xml.js";

/** What a manifest lets the system create by itself. */
export interface AndroidComponents {
  applications: { name: string; at: Place }[];
  launchers: { name: string; at: Place }[];
  /** All activities of the app's own manifest; `closed`: the app's own code alone can open it. */
  screens: { name: string; closed: boolean; at: Place }[];
  providers: { name: string; initOrder: number; by: string | undefined; removed: boolean; at: Place }[];
  /** Entries of the platform's start-up library: classes that it runs. */
  initializers: { name: string; by: string | undefined; removed: boolean; at: Place }[];
}

/** Source: developer.android.com, "App Startup", "Set up manifest entries". */
const STARTUP_PROVIDER = "androidx.startup.InitializationProvider";
const STARTUP_VALUE = "androidx.startup";

/** What one manifest declares. */
interface Declared {
  applications: { name: string; at: Place }[];
  /** By tag: `activity`, `service`, `receiver`, `provider`, `activity-alias`; by their names as written. */
  components: { tag: string; name: string; closed: boolean; at: Place }[];
  launchers: { name: string; at: Place }[];
  providers: { name: string; initOrder: number; off: boolean; out: boolean; at: Place }[];
  initializers: { name: string; provider: boolean; out: boolean; at: Place }[];
}

/** Tags of components in a manifest. Source: developer.android.com, "App manifest overview", "App components". */
export const COMPONENTS = ["activity", "activity-alias", "service", "receiver", "provider"];

/** The components of the app's own manifests, those of its modules, and of those that its libraries bring, the app's first. */
export function androidComponents(project: ProjectFiles, app: AppFacts): AndroidComponents {
  const found: AndroidComponents = { applications: [], launchers: [], screens: [], providers: [], initializers: [] };
  const removed = new Set<string>();
  const modules = (app.android?.modules ?? []).flatMap((module) => {
    const file = module === app.android?.module || isInstalled(`${module.folder}/`) ? undefined : manifestFile(project, module);
    return file === undefined || app.manifests.includes(file) ? [] : [file];
  });
  for (const { file, by } of [...[...app.manifests, ...modules].map((own) => ({ file: own, by: undefined })), ...app.libraryManifests]) {
    const { applications, components, launchers, providers, initializers } = declaredIn(project, file);
    if (by === undefined) {
      found.applications.push(...applications);
      found.launchers.push(...launchers);
      found.screens.push(
        ...components.filter(({ tag }) => tag.startsWith("activity")).map(({ name, closed, at }) => ({ name, closed, at })),
      );
    }
    for (const { name, out } of [...providers, ...initializers]) if (out) removed.add(name);
    found.initializers.push(...initializers.map(({ name, provider, out, at }) => ({ name, by, removed: out || provider, at })));
    found.providers.push(
      ...providers.flatMap(({ name, initOrder, off, out, at }) =>
        name === STARTUP_PROVIDER ? [] : { name, initOrder, by, removed: out || off, at },
      ),
    );
  }
  // A marker takes out what libraries bring, too.
  for (const part of found.providers) part.removed ||= removed.has(part.name);
  for (const part of found.initializers) part.removed ||= removed.has(part.name) || removed.has(STARTUP_PROVIDER);
  return found;
}

/** What a manifest declares below its application; nothing where it cannot be read. */
export function declaredIn(project: ProjectFiles, file: string): Declared {
  return project.memo(`declared in ${file}`, () => project.part("components of a manifest", [file], () => readDeclared(project, file)));
}

/** An activity without filters that is not exported. Source: developer.android.com, "<activity>" (exported). */
function isClosed(component: XmlElement): boolean {
  return (
    component.name === "activity" &&
    component.attributes.get("android:exported")?.value !== "true" &&
    children(component, "intent-filter").length === 0
  );
}

function readDeclared(project: ProjectFiles, file: string): Declared {
  const found: Declared = { applications: [], components: [], launchers: [], providers: [], initializers: [] };
  const place = (element: XmlElement): Place => element.source.place(element.attributes.get("android:name")?.start ?? element.start);
  for (const application of children(project.xml(file)?.root, "application")) {
    const own = nameOf(application);
    if (own !== undefined) found.applications.push({ name: own, at: place(application) });
    for (const tag of COMPONENTS)
      for (const component of children(application, tag)) {
        const name = tag === "activity-alias" ? component.attributes.get("android:targetActivity")?.value : nameOf(component);
        if (name === undefined) continue;
        const at = place(component);
        found.components.push({ tag, name, closed: isClosed(component), at });
        if (descendants(component, "category").some((category) => nameOf(category) === "android.intent.category.LAUNCHER"))
          found.launchers.push({ name, at });
        if (tag === "provider") readProvider(component, name, at, found);
      }
  }
  return found;
}

function readProvider(provider: XmlElement, name: string, at: Place, found: Declared): void {
  const out = isRemoved(provider);
  found.providers.push({
    name,
    initOrder: Number(provider.attributes.get("android:initOrder")?.value ?? 0) || 0,
    off: provider.attributes.get("android:enabled")?.value === "false",
    out,
    at,
  });
  for (const entry of name === STARTUP_PROVIDER ? children(provider, "meta-data") : []) {
    const initializer = nameOf(entry);
    if (initializer === undefined || (entry.attributes.get("android:value")?.value !== STARTUP_VALUE && !isRemoved(entry))) continue;
    const attribute = entry.attributes.get("android:name");
    found.initializers.push({
      name: initializer,
      provider: out,
      out: isRemoved(entry),
      at: entry.source.place(attribute?.start ?? entry.start),
    });
  }
}

function nameOf(element: XmlElement): string | undefined {
  return element.attributes.get("android:name")?.value;
}

function isRemoved(element: XmlElement): boolean {
  return /^remove(All)?$/.test(element.attributes.get("tools:node")?.value ?? "");
}
