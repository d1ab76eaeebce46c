import { PRIVACY_MANIFEST } from "../../knowledge/restricted-interfaces.js";
import { baseName, join } from "../../model/paths.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { known } from "../../model/value.js";
import { at, itemsOf, placeOf, textAt } from "../../syntax/data.js";
import { binaryForm, binaryOf } from "../platforms/ios/binary.js";
import { readGuardedBinary } from "./guarded-uses.js";
import { readPrivacyManifest } from "./privacy-manifests.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";

/** The frameworks that the shipped target links, as far as they lie in the tree. */
export function readLinkedFrameworks(project: ProjectFiles, app: FactSink): void {
  const linked = new Map(app.ios?.target.linked.flatMap(({ name, path }) => (path === undefined ? [] : [[path, name] as const])));
  for (const [path, name] of linked) {
    if (project.tree.isFolder(path)) app.iosPackageRead({ name, by: name });
    readAppleFramework(project, app, path, name, sdkIdOf("binary", name));
  }
}

/**
 * What a framework says of itself: the systems that its parts are for, and from a dynamic one the lowest system that it runs on.
 * Source: Apple, "Distributing binary frameworks as Swift packages" and "MinimumOSVersion"; the property list that Xcode writes into an XCFramework.
 */
export function readAppleFramework(project: ProjectFiles, app: FactSink, path: string, by: string, sdk: string): void {
  if (/\.(framework|a|dylib)$/.test(path)) readFramework(project, app, path, by, sdk);
  if (!path.endsWith(".xcframework")) return;
  const file = join(path, "Info.plist");
  const list = at(project.tree.isFile(file) ? project.plist(file)?.root : undefined, "AvailableLibraries");
  if (!list) return;
  const parts = itemsOf(list)
    .filter((item) => textAt(item, "SupportedPlatform") === "ios")
    .map((item) => ({
      folder: join(path, textAt(item, "LibraryIdentifier") ?? ""),
      library: textAt(item, "LibraryPath") ?? "",
      variant: textAt(item, "SupportedPlatformVariant"),
    }));
  const device = parts.find(({ variant }) => variant === undefined);
  app.frameworkParts({
    name: baseName(path),
    by,
    sdk,
    devices: device !== undefined,
    simulators: parts.some(({ variant }) => variant === "simulator"),
    at: placeOf(list),
  });
  if (device) readFramework(project, app, join(device.folder, device.library), by, sdk);
}

function readFramework(project: ProjectFiles, app: FactSink, framework: string, by: string, sdk: string): void {
  readGuardedBinary(project, app, binaryOf(framework), { by, sdk });
  if (!framework.endsWith(".framework")) return;
  readMinimum(project, app, framework, by, sdk);
  readPrivacyManifest(project, app, join(framework, PRIVACY_MANIFEST), { by, taken: true });
}

function readMinimum(project: ProjectFiles, app: FactSink, framework: string, by: string, sdk: string): void {
  const file = join(framework, "Info.plist");
  // A static one becomes part of the app, and is what the app is.
  if (binaryForm(project.tree, framework) !== "dynamic" || !project.tree.isFile(file)) return;
  const minimum = at(project.plist(file)?.root, "MinimumOSVersion");
  const text = textAt(minimum);
  if (minimum && text !== undefined && /^\d+(\.\d+)*$/.test(text))
    app.required({ level: "iosTarget", value: known(text, placeOf(minimum)), by, sdk, from: "framework" });
}
