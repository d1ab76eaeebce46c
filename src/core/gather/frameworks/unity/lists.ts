import { baseName, join } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import type { Place } from "../../../model/place.js";
import { known, type Value } from "../../../model/value.js";
import { children, descendants, type XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import { DEPENDENCY_LIST_ELEMENTS } from "../../../knowledge/known-names.js";
import { noteMisspeltElements } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { foldersIn, isEditorFolder, type UnityProject } from "./project.js";

/** Lists of native packages that plugins bring: Maven and pods, in XML under folders of the editor, of the project and of its packages. */
export function readDependencyLists(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  for (const root of unity.roots)
    for (const [folder, { files }] of foldersIn(discovery, root)) {
      if (!isEditorFolder(folder)) continue;
      for (const name of files) if (/Dependencies\.xml$/.test(name)) readDependencyList(discovery.project, unity, app, join(folder, name));
    }
}

function readDependencyList(project: ProjectFiles, unity: UnityProject, app: FactSink, file: string): void {
  const root = project.xml(file)?.root;
  if (root?.name !== "dependencies") return;
  noteMisspeltElements(app, root, DEPENDENCY_LIST_ELEMENTS, "shared");
  const owner = unity.folder !== "" && file.startsWith(`${unity.folder}/`) ? file.slice(unity.folder.length + 1) : file;
  const add = (side: "android" | "ios", ecosystem: "maven" | "cocoapods", name: string, version: Value | undefined, place: Place): void => {
    app.dependency({
      side,
      ecosystem,
      name,
      declared: version,
      scope: baseName(file),
      in: owner,
      platform: /^(androidx\.|com\.android\.)/.test(name),
      places: [place],
    });
  };
  const repositories = (element: (typeof root.children)[number]): void => {
    for (const repository of descendants(element, "repository")) {
      const place = repository.source.place(repository.textStart === -1 ? repository.start : repository.textStart);
      const text = repository.text.trim();
      if (/^https?:/.test(text))
        app.repository({ kind: "url", url: known(text, place), for: "packages", groups: [], module: owner, at: place });
    }
  };
  if (app.android) {
    for (const list of children(root, "androidPackages")) {
      repositories(list);
      for (const element of children(list, "androidPackage")) {
        const spec = element.attributes.get("spec");
        const [group, artifact, version] = spec?.value.split("@")[0]?.split(":") ?? [];
        if (!spec || !group || !artifact) continue;
        const place = element.source.place(spec.start);
        add(
          "android",
          "maven",
          `${group}:${artifact}`,
          version === undefined ? undefined : known(version.replace("LATEST", "+"), place),
          place,
        );
      }
    }
  }
  if (!app.ios) return;
  readPods(app, root, add, file);
}

/** The pods of the list, and the levels that they ask for. */
function readPods(
  app: FactSink,
  root: XmlElement,
  add: (side: "android" | "ios", ecosystem: "maven" | "cocoapods", name: string, version: Value | undefined, place: Place) => void,
  file: string,
): void {
  for (const list of children(root, "iosPods")) {
    for (const element of children(list, "iosPod")) {
      const name = element.attributes.get("name");
      const version = element.attributes.get("version");
      const level = element.attributes.get("minTargetSdk");
      if (!name) continue;
      add(
        "ios",
        "cocoapods",
        name.value,
        version && known(version.value, element.source.place(version.start)),
        element.source.place(name.start),
      );
      if (level)
        app.required({
          level: "iosTarget",
          value: known(level.value, element.source.place(level.start)),
          by: name.value,
          sdk: sdkIdOf("cocoapods", name.value),
          from: baseName(file),
        });
    }
  }
}
