import { androidSet } from "../../knowledge/source-sets.js";
import type { ProjectFiles } from "../project-files.js";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { AndroidSide, IosSide } from "../../model/app.js";
import type { FactSink } from "../sink.js";
import type { ServiceFile } from "../../model/facts.js";
import { baseName, isWithin, join } from "../../model/paths.js";
import { takesIn } from "../../model/xcode.js";
import { reason } from "../../model/reason.js";
import { known, textOf, type Value } from "../../model/value.js";
import { placeOf, type Data } from "../../syntax/data.js";
import type { XcodeProject } from "./ios/xcode-project.js";

/** A key that names the app, in the many spellings that vendors use. */
const ID_KEY = /^(android_?)?(package(_?name)?|application_?id|bundle(_?id(entifier)?)?|(ios_?)?bundle_?id(entifier)?)$/i;
/** An id in reverse domain notation. */
const ID = /^[A-Za-z][\w-]*(\.[A-Za-z][\w-]*){1,}$/;
/** Files of the platforms' own tools. */
const TOOL_FILE =
  /^(Info|ExportOptions|PrivacyInfo|WorkspaceSettings|IDEWorkspaceChecks|IDETemplateMacros|Settings|Root|package|package-lock|app|tsconfig.*|Contents|output-metadata|Podfile\.lock|project|eas|android|ios|fetch|browser|frameworks|pods|cdv-gradle-config|capacitor\.config|capacitor\.plugins|expo|\.?babel.*|metro.*)\.(json|plist)$|\.(podspec|xcprivacy)\.?/i;
const MAX_TEXTS = 2000;

/**
 * Looks for files that hold a vendor's settings: by their shape (JSON or a property list that names an app id), or because a
 * sheet names them (`isNamed`, asked with the file's name).
 */
export function readServiceFiles(
  project: ProjectFiles,
  index: FolderIndex,
  app: FactSink,
  xcode: XcodeProject | undefined,
  isNamed: (name: string) => boolean,
  takenIn: readonly { path: string; side: "android" | "ios" }[] = [],
): void {
  // What a framework takes in is read, wherever it lies.
  for (const { path, side } of takenIn) {
    const files = project.tree.isFile(path)
      ? [path]
      : below(project, path).flatMap((folder) =>
          project.tree.list(folder).flatMap(({ name, kind }) => (kind === "file" ? join(folder, name) : [])),
        );
    for (const file of files) {
      const name = baseName(file);
      const named = isNamed(name);
      if (
        (!named && (!/\.(json|plist)$/.test(name) || TOOL_FILE.test(name))) ||
        app.serviceFiles.some((known) => known.file === file && known.side === side)
      )
        continue;
      const found = readFile(project, file, side, undefined, named);
      if (found) app.serviceFile({ ...found, read: true });
    }
  }
  const taken = new Set(app.serviceFiles.map(({ file, side }) => `${side} ${file}`));
  const before = app.serviceFiles.length;
  if (app.android) readAndroidFiles(project, app, app.android, isNamed);
  if (app.ios && xcode) readIosFiles(project, index, app, app.ios, xcode, isNamed);
  // The same file, or one of its name that is read, counts once.
  app.revise("serviceFiles", (files) =>
    files.filter(
      (file, index_) =>
        index_ < before ||
        (!taken.has(`${file.side} ${file.file}`) &&
          !(
            file.read === false &&
            files.slice(0, before).some((other) => other.side === file.side && baseName(other.file) === baseName(file.file))
          )),
    ),
  );
}

function readAndroidFiles(project: ProjectFiles, app: FactSink, side: AndroidSide, isNamed: (name: string) => boolean): void {
  const { module, build } = side;
  const variants = project.tree.list(join(module.folder, "src")).flatMap(({ kind, name }) => {
    const set = kind === "folder" ? androidSet(name) : undefined;
    return set === undefined ? [] : [{ name, variant: set === "main" ? undefined : set }];
  });
  const folders: { folder: string; variant: string | undefined; read: boolean | undefined }[] = [
    { folder: module.folder, variant: undefined, read: true },
    ...variants.map(({ name, variant }) => ({ folder: join(module.folder, "src", name), variant, read: true })),
    ...variants.flatMap(({ name, variant }) =>
      [...below(project, join(module.folder, "src", name, "assets")), join(module.folder, "src", name, "res/raw")].map((folder) => ({
        folder,
        variant,
        read: true,
      })),
    ),
    { folder: build.folder, variant: undefined, read: false },
    { folder: join(module.folder, "src/main/java"), variant: undefined, read: false },
    { folder: join(module.folder, "src/main/res"), variant: undefined, read: false },
  ];
  const files: ServiceFile[] = [];
  for (const { folder, variant, read } of folders) {
    if (folder === "" && !read) continue;
    for (const entry of project.tree.list(folder)) {
      const named = isNamed(entry.name);
      if (entry.kind !== "file" || (!named && (!entry.name.endsWith(".json") || TOOL_FILE.test(entry.name)))) continue;
      const file = readFile(project, join(folder, entry.name), "android", variant, named);
      if (file)
        files.push({
          ...file,
          read,
          why: read === false ? reason("no-build-looks", { module: module.path, folder }) : undefined,
          advice: `move it to ${module.folder || "the app's module"}`,
        });
    }
  }
  // A second copy beside one that is read does no harm.
  for (const file of files) {
    if (file.read === false && files.some((other) => other.read && baseName(other.file) === baseName(file.file))) continue;
    app.serviceFile(file);
  }
}

/** A folder and those below it, as far as assets are sorted into folders. */
function below(project: ProjectFiles, folder: string, depth = 0): string[] {
  if (depth > 4) return [];
  return [
    folder,
    ...project.tree
      .list(folder)
      .flatMap(({ name, kind, link }) => (kind === "folder" && !link ? below(project, join(folder, name), depth + 1) : [])),
  ];
}

/** Commands of a script by which a file comes into the app. */
const COPIES = /\b(cp|ditto|rsync|mv|ln|install|PlistBuddy|plutil|sed|cat|tee|echo)\b|\.plist|\.json/;

function readIosFiles(
  project: ProjectFiles,
  index: FolderIndex,
  app: FactSink,
  side: IosSide,
  xcode: XcodeProject,
  isNamed: (name: string) => boolean,
): void {
  const plists = new Set(
    xcode.targets.flatMap((target) =>
      target.configurations.flatMap(({ settings }) => {
        const text = textOf(settings.value("INFOPLIST_FILE"));
        return text ? join(xcode.folder, text.replaceAll('"', "")) : [];
      }),
    ),
  );
  const scripts = side.targets.flatMap((target) => target.scripts).join("\n");
  const files: ServiceFile[] = [];
  for (const [folder, { files: names }] of foldersBelow(index, xcode.folder)) {
    if (folder.slice(xcode.folder.length).split("/").length > 5) continue;
    // The Android project of an app whose iOS project lies at the root.
    if (isOfAndroid(app, xcode, folder)) continue;
    if (/\.(xcassets|xcodeproj|xcworkspace|framework|xcframework|bundle)(\/|$)/.test(folder)) continue;
    for (const name of names) {
      const named = isNamed(name);
      if (!named && (!/\.(plist|json)$/.test(name) || TOOL_FILE.test(name))) continue;
      const path = join(folder, name);
      if (plists.has(path)) continue;
      const file = readFile(project, path, "ios", undefined, named);
      if (!file) continue;
      const stem = name.replace(/\.\w+$/, "").split(/[-_.]/)[0] as string;
      const takers = side.targets.filter((target) => takesIn(target, path));
      // A script that names it, or that copies something of its name, may put it into the app.
      const copies = scripts.includes(name) || (stem !== "" && scripts.includes(stem) && COPIES.test(scripts));
      const read = takers.length > 0 ? true : copies ? undefined : false;
      files.push({
        ...file,
        ...(side.targets.length > 1 && takers.length > 0 ? { targets: takers.map((target) => target.name) } : {}),
        read,
        why: read === false ? reason("no-member-of-target") : undefined,
        advice: `add it to the target ${side.target.name}`,
      });
    }
  }
  noteFiles(files, app);
}

/** The Android project of an app whose iOS project lies at the root. */
function isOfAndroid(app: FactSink, xcode: XcodeProject, folder: string): boolean | undefined {
  return (
    app.android && xcode.folder !== app.android.folder && isWithin(folder, app.android.folder) && isWithin(app.android.folder, xcode.folder)
  );
}

/** Each file, but for those of no target beside one of the same name that is taken. */
function noteFiles(files: ServiceFile[], app: FactSink): void {
  for (const file of files) {
    if (file.read === false && files.some((other) => other.read !== false && baseName(other.file) === baseName(file.file))) continue;
    app.serviceFile(file);
  }
}

function readFile(
  project: ProjectFiles,
  path: string,
  side: "android" | "ios",
  variant: string | undefined,
  named: boolean,
): ServiceFile | undefined {
  const size = project.tree.size(path) ?? 0;
  if (size === 0 || size > 262_144) return undefined;
  const file: ServiceFile = {
    file: path,
    side,
    ids: [],
    texts: new Map(),
    variant,
    read: undefined,
    why: undefined,
    advice: "move it to where the build reads it",
  };
  const root = path.endsWith(".json") ? project.json(path)?.root : path.endsWith(".plist") ? project.plist(path)?.root : undefined;
  if (root?.kind !== "map") return named ? file : undefined;
  const visit = (data: Data, name: string, key: string, depth: number): void => {
    if (depth > 12 || file.texts.size > MAX_TEXTS) return;
    if (data.kind === "map")
      for (const [inner, { value }] of data.entries) visit(value, name === "" ? inner : `${name}.${inner}`, inner, depth + 1);
    else if (data.kind === "list") data.items.forEach((item, number) => visit(item, `${name}.${number}`, key, depth + 1));
    else if (typeof data.value === "string") {
      const value = known(data.value, placeOf(data)) as Value & { kind: "known" };
      file.texts.set(name, value);
      if (ID_KEY.test(key) && ID.test(data.value)) file.ids.push({ key, value });
    }
  };
  visit(root, "", "", 0);
  return named || file.ids.length > 0 ? file : undefined;
}

/** Files that come in a pair, one for each side: `x.android.json` and `x.ios.json`. */
export function readPairedFiles(index: FolderIndex, app: FactSink): void {
  if (!app.android || !app.ios) return;
  for (const [folder, { files }] of foldersBelow(index, app.path)) {
    if (folder.slice(app.path.length).split("/").length > 6) continue;
    for (const name of files) {
      const match = /^(.+)[._-](android|ios)\.(json|plist|xml|lic|license|licence|key|properties|yaml|yml|txt|dat|cfg)$/i.exec(name);
      if (match)
        app.namedFile({
          file: join(folder, name),
          side: (match[2] as string).toLowerCase() as "android" | "ios",
          variant: undefined,
        });
    }
  }
}
