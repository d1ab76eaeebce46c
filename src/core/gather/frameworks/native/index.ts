import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { textOf } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import { configurationOf } from "../../platforms/ios/side.js";
import { take, type AndroidCandidate, type DetectedApp, type Discovery, type Framework, type IosCandidate } from "../framework.js";

/** Native projects: what no other framework has claimed. Two of them are one app when a setting, their id or their folders say so. */
export const native: Framework = {
  kind: "native",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const pair of discovery.settings.pair) {
      const [android] = take(discovery.android, (candidate) => isAt(androidFolders(candidate), pair.android)).slice(0, 1);
      const [ios] = take(discovery.ios, (candidate) => isAt(iosFolders(candidate), pair.ios)).slice(0, 1);
      if (android || ios) found.push(detected(pair.name, android, ios));
    }
    const rest = [...discovery.android];
    for (const android of rest) {
      const ios = partner(android, rest, discovery);
      take(discovery.android, (candidate) => candidate === android);
      if (ios) take(discovery.ios, (candidate) => candidate === ios);
      found.push(detected(undefined, android, ios));
    }
    for (const ios of take(discovery.ios, () => true)) found.push(detected(undefined, undefined, ios));
    return found;
  },
  complete({ project }, detected, app) {
    noteLostFramework(project, detected, app);
  },
};

/** What the native projects of a hybrid app have, and the file and key by which it is one. */
const FRAMEWORKS = [
  {
    marks: /\bcom\.facebook\.react\b|\buse_react_native!/,
    file: "package.json",
    declares: /"react-native"\s*:/,
    line: "framework in package.json",
  },
  {
    marks: /\bdev\.flutter\.flutter-gradle-plugin\b|flutter_tools\/gradle\/flutter\.gradle|\bflutter_install_all_ios_pods\b/,
    file: "pubspec.yaml",
    declares: /^\s+flutter\s*:\s*(?:\{\s*)?sdk\s*:\s*["']?flutter\b/m,
    line: "framework in pubspec.yaml",
  },
] as const;

/** Native projects that are halves of a hybrid app, whose list of packages no longer names the framework: it is taken for a native app. */
function noteLostFramework(project: ProjectFiles, { android, ios }: DetectedApp, app: FactSink): void {
  const text = (file: string | undefined): string =>
    file !== undefined && project.tree.isFile(file) ? withoutComments(project.text(file)?.text ?? "") : "";
  const scripts = [android?.module.buildFile, android?.build.settingsFile, ios && join(ios.xcode.folder, "Podfile")].map(text).join("\n");
  const native = android?.build.folder ?? ios?.xcode.folder;
  const home = native === undefined || native === "" ? undefined : parentOf(native);
  for (const { marks, file, declares, line } of FRAMEWORKS) {
    if (home === undefined || !marks.test(scripts) || !project.tree.isFile(join(home, file))) continue;
    const above = home.split("/").map((_, index, parts) => parts.slice(0, index).join("/"));
    const lists = [home, ...above].map((folder) => text(join(folder, file)));
    if (!lists.some((list) => declares.test(list)))
      app.templateLine({ line, side: android ? "android" : "ios", at: startOf(join(home, file)) });
  }
}

function detected(name: string | undefined, android: AndroidCandidate | undefined, ios: IosCandidate | undefined): DetectedApp {
  const folders = [android?.build.folder, ios?.xcode.folder].filter((folder) => folder !== undefined);
  const path = folders.length === 2 ? commonParent(folders[0] as string, folders[1] as string) : (folders[0] ?? "");
  return { kind: "native", name: name ?? appName(android, ios, path), path, android, ios };
}

function appName(android: AndroidCandidate | undefined, ios: IosCandidate | undefined, path: string): string {
  const generic = /^(android|ios|app|apps|mobile|src|native|project|platforms|)$/i;
  const folder = baseName(path);
  const xcodeName = ios && baseName(ios.xcode.path).replace(/\.xcodeproj$/, "");
  if (xcodeName && !generic.test(xcodeName)) return xcodeName;
  if (android && ios && !generic.test(folder)) return folder;
  if (android && !generic.test(baseName(android.module.folder))) return baseName(android.module.folder);
  // `reader` for the module in `apps/reader/app`.
  const around = android && android.module.folder !== "" ? parentOf(android.module.folder) : "";
  if (android && around !== android.build.folder && !generic.test(baseName(around))) return baseName(around);
  if (!generic.test(folder)) return folder;
  const above = baseName(parentOf(path));
  if (above && !generic.test(above)) return above;
  return xcodeName ?? (folder || "app");
}

function androidFolders({ build, module }: AndroidCandidate): string[] {
  return [module.folder, build.folder];
}

function iosFolders({ xcode }: IosCandidate): string[] {
  return [xcode.path, xcode.folder];
}

function isAt(folders: string[], wanted: string): boolean {
  const clean = wanted.replace(/^\.\//, "").replace(/\/+$/, "");
  return folders.includes(clean === "." ? "" : clean);
}

function commonParent(a: string, b: string): string {
  let current = a;
  while (current !== "" && b !== current && !b.startsWith(`${current}/`)) current = parentOf(current);
  return current;
}

/** The iOS project that belongs to an Android project, one of all that no other framework has taken. */
function partner(android: AndroidCandidate, all: readonly AndroidCandidate[], discovery: Discovery): IosCandidate | undefined {
  const id = androidId(android);
  const sameId = id === undefined ? [] : discovery.ios.filter((ios) => iosIds(ios).includes(id));
  if (sameId.length === 1) return sameId[0];
  const folder = android.build.folder;
  const named = discovery.ios.filter((ios) => areSiblings(folder, android.module.folder, ios.xcode.folder));
  const others = all.filter(
    (other) => other !== android && named.some((ios) => areSiblings(other.build.folder, other.module.folder, ios.xcode.folder)),
  );
  if (named.length === 1 && others.length === 0) return named[0];
  // One build with one application and one Xcode project inside: shared code for both, with a folder for each.
  const inside = discovery.ios.filter(
    (ios) => ios.xcode.folder !== folder && isWithin(ios.xcode.folder, folder) && isBeside(android.module.folder, ios.xcode.folder),
  );
  const applications = all.filter(({ build }) => build === android.build);
  return inside.length === 1 && applications.length === 1 ? inside[0] : undefined;
}

/** Whether a module and an Xcode project lie in one folder, or in folders of one: one that lies elsewhere in a large repository is another app's. */
function isBeside(module: string, xcode: string): boolean {
  const common = commonParent(module, xcode);
  return common === parentOf(xcode) || common === parentOf(parentOf(xcode));
}

function androidId({ module }: AndroidCandidate): string | undefined {
  return textOf(module.settings.find(({ name, block }) => name === "applicationId" && block === "defaultConfig")?.values[0]);
}

function iosIds({ targets }: IosCandidate): string[] {
  return targets.flatMap((target) => textOf(configurationOf(target)?.settings.value("PRODUCT_BUNDLE_IDENTIFIER")) ?? []);
}

/** `x/android` beside `x/ios`, `x-android` beside `x-ios`, `androidApp` beside `iosApp`: equal but for the side's name. */
function areSiblings(buildFolder: string, moduleFolder: string, iosFolder: string): boolean {
  const plain = (folder: string): string => folder.toLowerCase().replace(/android|ios/g, "*");
  for (const folder of [buildFolder, moduleFolder]) {
    if (folder !== iosFolder && /android/i.test(folder) && /ios/i.test(iosFolder) && plain(folder) === plain(iosFolder)) return true;
  }
  return (
    buildFolder !== "" &&
    parentOf(buildFolder) === parentOf(iosFolder) &&
    /(^|[-_./])android/i.test(baseName(buildFolder)) &&
    /ios|iphone/i.test(baseName(iosFolder)) &&
    plain(baseName(buildFolder)).replace(/[^a-z*]/g, "") === plain(baseName(iosFolder)).replace(/[^a-z*]/g, "")
  );
}
