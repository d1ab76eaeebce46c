import type { ProjectFiles } from "../../project-files.js";
import type { AppFacts } from "../../../model/app.js";
import type { Place } from "../../../model/place.js";
import { children, descendants, type XmlElement } from "../../../syntax/xml.js";

/** What a manifest lets the system create by itself. */
export interface AndroidComponents {
  applications: { name: string; at: Place }[];
  launchers: { name: string; at: Place }[];
  /** All activities of the app's own manifest. */
  screens: { name: string; at: Place }[];
  providers: { name: string; initOrder: number; by: string | undefined; removed: boolean; at: Place }[];
  /** Entries of the platform's start-up library: classes that it runs. */
  initializers: { name: string; by: string | undefined; removed: boolean; at: Place }[];
}

/** Source: developer.android.com, "App Startup", "Set up manifest entries". */
const STARTUP_PROVIDER = "androidx.startup.InitializationProvider";
const STARTUP_VALUE = "androidx.startup";

/** The components of the app's own manifests and of those that its libraries bring, the app's first. */
export function androidComponents(project: ProjectFiles, app: AppFacts): AndroidComponents {
  const found: AndroidComponents = { applications: [], launchers: [], screens: [], providers: [], initializers: [] };
  const removed = new Set<string>();
  for (const { file, by } of [...app.manifests.map((own) => ({ file: own, by: undefined })), ...app.libraryManifests]) {
    const root = project.xml(file)?.root;
    for (const application of children(root, "application")) {
      const place = (element: XmlElement): Place => element.source.place(element.attributes.get("android:name")?.start ?? element.start);
      const own = nameOf(application);
      if (own !== undefined && by === undefined) found.applications.push({ name: own, at: place(application) });
      for (const tag of ["activity", "activity-alias"])
        for (const activity of children(application, tag)) {
          const launcher = descendants(activity, "category").some((category) => nameOf(category) === "android.intent.category.LAUNCHER");
          const name = tag === "activity" ? nameOf(activity) : activity.attributes.get("android:targetActivity")?.value;
          if (name !== undefined && by === undefined) found.screens.push({ name, at: place(activity) });
          if (launcher && name !== undefined && by === undefined) found.launchers.push({ name, at: place(activity) });
        }
      for (const provider of children(application, "provider")) {
        const name = nameOf(provider);
        if (name === undefined) continue;
        const out = isRemoved(provider);
        if (out) removed.add(name);
        if (name === STARTUP_PROVIDER) {
          for (const entry of children(provider, "meta-data")) {
            const initializer = nameOf(entry);
            if (initializer === undefined || (entry.attributes.get("android:value")?.value !== STARTUP_VALUE && !isRemoved(entry)))
              continue;
            if (isRemoved(entry)) removed.add(initializer);
            found.initializers.push({ name: initializer, by, removed: isRemoved(entry) || out, at: place(entry) });
          }
        } else
          found.providers.push({
            name,
            initOrder: Number(provider.attributes.get("android:initOrder")?.value ?? 0) || 0,
            by,
            removed: out || provider.attributes.get("android:enabled")?.value === "false",
            at: place(provider),
          });
      }
    }
  }
  // A marker takes out what libraries bring, too.
  for (const part of [...found.providers, ...found.initializers]) {
    if (removed.has(part.name)) part.removed = true;
    if ("initOrder" in part ? false : removed.has(STARTUP_PROVIDER)) part.removed = true;
  }
  return found;
}

function nameOf(element: XmlElement): string | undefined {
  return element.attributes.get("android:name")?.value;
}

function isRemoved(element: XmlElement): boolean {
  return /^remove(All)?$/.test(element.attributes.get("tools:node")?.value ?? "");
}
