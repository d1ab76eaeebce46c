import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import { MERGED_BY_PODS, PRIVACY_MANIFEST } from "../../knowledge/restricted-interfaces.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { takesIn } from "../../model/xcode.js";
import { known, textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import { at, itemsOf, placeOf, textAt, type Data } from "../../syntax/data.js";
import { compareIn } from "../../versions/ecosystem.js";
import { filesMatching } from "../globbing.js";
import type { Podspec } from "../platforms/ios/podspec.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";

/** Folders whose files are nobody's own: what they hold comes with what they belong to. */
const NOT_OWN = /(^|\/)(Pods|build|DerivedData|Carthage|SourcePackages)(\/|$)|\.(xcframework|framework|bundle|xcodeproj|xcassets)(\/|$)/;

/** The privacy manifests in the iOS project of the app, and whether its shipped target takes them in. */
export function readPrivacyManifests(project: ProjectFiles, index: FolderIndex, app: FactSink): void {
  const { ios } = app;
  if (!ios) return;
  const takes = (file: string) => (target: (typeof ios.allTargets)[number]) => takesIn(target, file);
  const merged = ios.pods !== undefined && mergesWithPods(project, app, ios.pods.file);
  // A package, a pod or a project of its own takes in what lies in its folder.
  const others: string[] = [];
  for (const [folder, { files, folders }] of foldersBelow(index, ios.folder)) {
    if (isOther(folders, files) && (folder !== ios.folder || files.includes("Package.swift"))) others.push(folder);
    if (NOT_OWN.test(folder.slice(ios.folder.length))) continue;
    for (const name of files) {
      if (!name.endsWith(".xcprivacy")) continue;
      const file = join(folder, name);
      const taken = takes(file)(ios.target) || merged;
      // One of an extension, a framework or a watch app is theirs.
      if (!taken && (ios.allTargets.some(takes(file)) || others.some((other) => isWithin(file, other)))) continue;
      readPrivacyManifest(project, app, file, { by: undefined, taken: taken && name === PRIVACY_MANIFEST });
    }
  }
}

function isOther(folders: readonly string[], files: readonly string[]): boolean {
  return folders.some((name) => name.endsWith(".xcodeproj")) || files.some((name) => name === "Package.swift" || name.endsWith(".podspec"));
}

/** What a framework's own step adds when pods are installed; editions before do not. */
function mergesWithPods(project: ProjectFiles, app: FactSink, podfile: string): boolean {
  const script = project.tree.isFile(podfile) ? withoutComments(project.text(podfile)?.text ?? "", "hash") : "";
  const { by, from, call, off, reasons } = MERGED_BY_PODS;
  const found = call.exec(script);
  const version = app.dependencies
    .filter(({ ecosystem, name }) => ecosystem === "npm" && name === by)
    .map(({ locked, declared }) => locked ?? textOf(declared)?.replace(/^[^\d]+/, ""))
    .find((text) => text !== undefined && /^\d/.test(text));
  if (!found || off.test(script) || (version !== undefined && compareIn("npm", version, from) < 0)) return false;
  const place = { file: podfile, line: script.slice(0, found.index).split("\n").length, column: 1 };
  app.privacyManifest({ file: podfile, by, taken: true, merges: true, reasons: reasons.map((reason) => ({ ...reason, at: place })) });
  for (const { category, reasons: codes } of reasons)
    app.entry({ kind: "accessReason", side: "ios", name: category, value: known(codes.join(", "), place), by, at: place });
  return true;
}

/** Those that a pod brings, by its specification. */
export function readPodPrivacy(project: ProjectFiles, app: FactSink, spec: Podspec, by: string): void {
  const folder = parentOf(spec.file);
  if (spec.resourcesOpen) app.privacyUnknown(by);
  for (const pattern of new Set(spec.resources)) {
    const file = (path: string): string => join(folder, path);
    for (const path of filesMatching(project.tree, folder, pattern))
      for (const found of path.endsWith(".bundle") || project.tree.isFolder(file(path)) ? [join(path, PRIVACY_MANIFEST)] : [path])
        if (baseName(found) === PRIVACY_MANIFEST) readPrivacyManifest(project, app, file(found), { by, taken: true });
  }
}

/** What a privacy manifest says. Source: Apple, "Privacy manifest files". */
export function readPrivacyManifest(
  project: ProjectFiles,
  app: FactSink,
  file: string,
  { by, taken }: { by: string | undefined; taken: boolean },
): void {
  const root = project.tree.isFile(file) ? project.plist(file)?.root : undefined;
  if (!root) return;
  const texts = (data: Data | undefined): string[] => itemsOf(data).flatMap((item) => textAt(item) ?? []);
  const reasons = itemsOf(at(root, "NSPrivacyAccessedAPITypes")).map((item) => ({
    category: textAt(item, "NSPrivacyAccessedAPIType") ?? "",
    reasons: texts(at(item, "NSPrivacyAccessedAPITypeReasons")),
    at: placeOf(item),
  }));
  const tracking = at(root, "NSPrivacyTracking");
  const silent = textAt(tracking) === "true" && itemsOf(at(root, "NSPrivacyTrackingDomains")).length === 0;
  app.privacyManifest({ file, by, taken, reasons, ...(tracking && silent ? { tracksNowhere: placeOf(tracking) } : {}) });
  if (!taken) return;
  const entry = (kind: "accessReason" | "collectedData" | "trackingDomain", name: string, values: readonly string[], place: Place): void =>
    app.entry({
      kind,
      side: "ios",
      name,
      value: values.length > 0 ? known(values.join(", "), place) : undefined,
      ...(by === undefined ? {} : { by }),
      at: place,
    });
  for (const { category, reasons: codes, at: place } of reasons) entry("accessReason", category, codes, place);
  for (const item of itemsOf(at(root, "NSPrivacyCollectedDataTypes")))
    entry(
      "collectedData",
      textAt(item, "NSPrivacyCollectedDataType") ?? "",
      texts(at(item, "NSPrivacyCollectedDataTypePurposes")),
      placeOf(item),
    );
  for (const item of itemsOf(at(root, "NSPrivacyTrackingDomains"))) entry("trackingDomain", textAt(item) ?? "", [], placeOf(item));
}
