import { gitReference } from "../../../versions/git-reference.js";
import type { ProjectFiles } from "../../project-files.js";
import { foldersBelow, type FolderIndex } from "../../../files/walk.js";
import type { FactSink } from "../../sink.js";
import type { Dependency, SideName } from "../../../model/facts.js";
import { baseName, join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import { known, unknown, type Value } from "../../../model/value.js";
import { readModule, type GradleBuild } from "../../platforms/android/gradle/build.js";
import { androidDependencies } from "../../platforms/android/side.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, valueAt, type Data } from "../../../syntax/data.js";
import { children, descendants } from "../../../syntax/xml.js";
import type { DetectedApp, Discovery, Framework, TakenIn } from "../framework.js";
import { frameworkAndroid, frameworkIos } from "../framework-sides.js";

/** Packages of the engine's maker. Source: docs.unity3d.com, "Packages and feature sets". */
const PLATFORM = /^com\.unity\./;

/** Apps made with Unity. Source: docs.unity3d.com, "Project manifest", "Player settings", "Gradle templates", "Import and configure plug-ins". */
export const unity: Framework = {
  kind: "unity",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const [folder, { folders }] of discovery.index) {
      const settingsFile = join(folder, "ProjectSettings/ProjectSettings.asset");
      if (!folders.includes("ProjectSettings") || !folders.includes("Assets") || !discovery.project.tree.isFile(settingsFile)) continue;
      const settings = at(discovery.project.lockYaml(settingsFile)?.root, "PlayerSettings");
      if (!settings) continue;
      const ids = at(settings, "applicationIdentifier");
      const name = textAt(settings, "productName") ?? (baseName(folder) || "game");
      const start = { file: settingsFile, line: 1, column: 1 };
      const level = (key: string): Value | undefined => {
        const value = valueAt(settings, key);
        // 0 leaves the level to the editor.
        return value?.kind === "known" && (value.text === "0" || value.text === "") ? undefined : value;
      };
      const detected: DetectedApp = { kind: "unity", name, path: folder, shared: folder };
      const android = valueAt(ids, "Android");
      const ios = valueAt(ids, "iPhone");
      const manifest = join(folder, "Assets/Plugins/Android/AndroidManifest.xml");
      if (android || discovery.project.tree.isFolder(join(folder, "Assets/Plugins/Android")))
        detected.android = frameworkAndroid(
          {
            folder: join(folder, "Assets/Plugins/Android"),
            file: settingsFile,
            start,
            id: android,
            levels: { minSdk: level("AndroidMinSdkVersion"), targetSdk: level("AndroidTargetSdkVersion") },
          },
          discovery.project.tree.isFile(manifest) ? manifest : undefined,
        );
      if (ios || discovery.project.tree.isFolder(join(folder, "Assets/Plugins/iOS")))
        detected.ios = frameworkIos(
          {
            folder: join(folder, "Assets/Plugins/iOS"),
            file: settingsFile,
            start,
            id: ios,
            levels: { iosTarget: level("iOSTargetOSVersionString") },
          },
          name,
        );
      if (detected.android ?? detected.ios) found.push(detected);
    }
    return found;
  },
  takesIn({ index }, detected, app) {
    const assets = join(detected.path, "Assets");
    const taken: TakenIn[] = [];
    for (const side of ["android", "ios"] as const) if (app[side]) taken.push({ path: join(assets, "StreamingAssets"), side });
    // Source: docs.unity3d.com, "Android Library plug-ins and Android Archive plug-ins".
    if (app.android)
      for (const [folder] of foldersBelow(index, assets))
        if (folder.endsWith(".androidlib"))
          for (const inner of ["assets", "res/raw", "src/main/assets", "src/main/res/raw"])
            taken.push({ path: join(folder, inner), side: "android" });
    return taken;
  },
  complete(discovery, detected, app) {
    const { project, index } = discovery;
    const version = project.text(join(detected.path, "ProjectSettings/ProjectVersion.txt"));
    const match = version && /m_EditorVersion:\s*(\S+)/.exec(version.text);
    app.hybrid({
      folder: detected.path,
      framework: {
        name: "Unity",
        package: "unity",
        declared:
          version && match
            ? known(match[1] as string, version.place(match.index + match[0].length - (match[1] as string).length))
            : undefined,
        installed: undefined,
      },
    });
    leaveToEditor(app, detected);
    readPackages(discovery, detected, app);
    readTemplates(project, detected, app);
    readDependencyLists(project, index, detected, app);
    readNativePlugins(project, index, detected, app);
    readAssemblies(project, index, detected, app);
  },
};

function leaveToEditor(app: FactSink, detected: DetectedApp): void {
  const place = { file: join(detected.path, "ProjectSettings/ProjectSettings.asset"), line: 1, column: 1 };
  if (app.android)
    for (const level of ["minSdk", "targetSdk"] as const)
      app.android.effective[level] ??= unknown("left to the editor, which takes the highest that is installed", place);
}

/** `Packages/manifest.json` and its lock. */
function readPackages(discovery: Discovery, detected: DetectedApp, app: FactSink): void {
  const { project } = discovery;
  const file = join(detected.path, "Packages/manifest.json");
  const root = project.tree.isFile(file) ? project.json(file)?.root : undefined;
  const lockFile = join(detected.path, "Packages/packages-lock.json");
  const lock = project.tree.isFile(lockFile) ? at(project.json(lockFile)?.root, "dependencies") : undefined;
  if (!root) return;
  app.lock({
    manager: "unity",
    side: "shared",
    manifest: { file, line: 1, column: 1 },
    lockName: "packages-lock.json",
    lock: lock ? lockFile : undefined,
    expected: discovery.versioned,
    needed: entriesOf(at(root, "dependencies")).some(([name]) => !name.startsWith("com.unity.modules.")),
    installedApart: [],
    declaredApart: [],
  });
  for (const registry of itemsOf(at(root, "scopedRegistries"))) {
    const url = valueAt(registry, "url");
    if (url)
      app.repository({
        kind: "url",
        url,
        for: "packages",
        groups: textsOf(at(registry, "scopes")),
        module: "Packages/manifest.json",
        at: url.place,
      });
  }
  for (const [name, { value, start }] of entriesOf(at(root, "dependencies"))) {
    const declared = valueAt(value);
    if (declared?.kind !== "known" || name.startsWith("com.unity.modules.")) continue;
    const entry = at(lock, name);
    const local = /^file:(.*)$/.exec(declared.text)?.[1];
    const git = local === undefined && /^(https?|ssh|git):|^git@|\.git(#|\?|$)/.test(declared.text);
    const dependency: Dependency = {
      sdk: sdkIdOf("unity", name),
      side: "shared",
      ecosystem: "unity",
      name,
      route: local !== undefined ? "path" : git ? "git" : "registry",
      declared,
      locked: local === undefined && !git ? textAt(entry, "version") : undefined,
      scope: "Packages",
      in: detected.name,
      direct: true,
      test: false,
      platform: PLATFORM.test(name),
      conditional: false,
      places: [value.source.place(start)],
    };
    const version = at(entry, "version");
    if (version && dependency.locked !== undefined) dependency.lockedAt = placeOf(version);
    if (git) {
      const ref = /#(.+)$/.exec(declared.text)?.[1];
      // The lock holds the revision of a branch.
      dependency.locked = textAt(entry, "hash")?.slice(0, 10);
      dependency.reference = gitReference(ref, declared.text);
    }
    if (local !== undefined) {
      const absolute = /^([/~]|[A-Za-z]:)/.test(local);
      const resolved = absolute ? undefined : join(detected.path, "Packages", local);
      dependency.reference = { kind: "path", text: local };
      app.pathFollowed({
        text: local,
        resolved,
        kind: "package",
        exists: resolved === undefined ? undefined : project.tree.isFolder(resolved) || project.tree.isFile(resolved),
        side: "shared",
        generated: false,
        at: declared.place,
      });
    }
    app.dependency(dependency);
  }
}

/** Build templates that the project changes; marks such as `**DEPS**` stand for what the editor puts in. */
function readTemplates(project: ProjectFiles, detected: DetectedApp, app: FactSink): void {
  const { android } = app;
  if (!android) return;
  for (const name of ["mainTemplate.gradle", "launcherTemplate.gradle", "baseProjectTemplate.gradle", "settingsTemplate.gradle"]) {
    const file = join(detected.path, "Assets/Plugins/Android", name);
    if (!project.tree.isFile(file)) continue;
    const module = readModule(project, android.build as GradleBuild, `:${name}`, join(detected.path, "Assets/Plugins/Android"), file);
    module.path = name;
    android.modules.push(module);
    app.repository(...module.repositories);
  }
  const before = android.modules;
  android.modules = before.filter(({ path }) => path.endsWith(".gradle"));
  androidDependencies(app, android);
  android.modules = before;
}

/** Lists of native packages that plugins bring: Maven and pods, in XML under Editor folders. */
function readDependencyLists(project: ProjectFiles, index: FolderIndex, detected: DetectedApp, app: FactSink): void {
  for (const root of ["Assets", "Packages"]) {
    for (const [folder, { files }] of foldersBelow(index, join(detected.path, root))) {
      if (!/(^|\/)Editor(\/|$)/.test(folder)) continue;
      for (const name of files) if (/Dependencies\.xml$/.test(name)) readDependencyList(project, detected, app, join(folder, name));
    }
  }
}

function readDependencyList(project: ProjectFiles, detected: DetectedApp, app: FactSink, file: string): void {
  const root = project.xml(file)?.root;
  if (root?.name !== "dependencies") return;
  const owner = file.slice(detected.path === "" ? 0 : detected.path.length + 1);
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

const BINARY = /\.(aar|jar|a|framework|xcframework|bundle|so)$/;

/** Native plugins in the tree; their import settings say for which platforms they are taken. */
function readNativePlugins(project: ProjectFiles, index: FolderIndex, detected: DetectedApp, app: FactSink): void {
  for (const [folder, { files, folders }] of foldersBelow(index, join(detected.path, "Assets"))) {
    if (/\.(framework|xcframework|bundle)(\/|$)/.test(folder)) continue;
    for (const name of [...files, ...folders]) {
      if (!BINARY.test(name)) continue;
      const file = join(folder, name);
      const meta = project.tree.isFile(`${file}.meta`) ? project.lockYaml(`${file}.meta`)?.root : undefined;
      const native: "android" | "ios" = /\.(aar|jar|so)$/.test(name) ? "android" : "ios";
      if (!app[native]) continue;
      const start = { file: meta ? `${file}.meta` : file, line: 1, column: 1 };
      const enabled = enabledFor(meta, native);
      if (enabled === false) {
        app.linkage({
          package: name,
          sdk: sdkIdOf("binary", name),
          side: native,
          automatic: true,
          off: start,
          manual: undefined,
          native: name,
          installed: undefined,
          declared: start,
          list: undefined,
        });
        continue;
      }
      app.dependency({
        side: native,
        ecosystem: "binary",
        name,
        route: "binary",
        scope: "Assets",
        in: detected.name,
        places: [start],
      });
    }
  }
}

/** `platformData` in both forms: a list of first/second, or a table. Source: the importer's own files. */
function enabledFor(meta: Data | undefined, side: "android" | "ios"): boolean | undefined {
  const data = at(meta, "PluginImporter", "platformData");
  const wanted = side === "android" ? /^Android/ : /^(iPhone|iOS)/;
  for (const item of itemsOf(data)) {
    const first = at(item, "first");
    const names =
      first?.kind === "map" ? [...first.entries].flatMap(([key, { value }]) => [key, textAt(value) ?? ""]) : [textAt(first) ?? ""];
    if (names.some((name) => wanted.test(name))) return textAt(item, "second", "enabled") === "1";
  }
  for (const [name, { value }] of entriesOf(data)) if (wanted.test(name)) return textAt(value, "enabled") === "1";
  const any = itemsOf(data).find((item) => textAt(item, "first", "Any") !== undefined || at(item, "first", "Any"));
  return any ? textAt(any, "second", "enabled") === "1" || undefined : undefined;
}

/**
 * Assemblies: those for the editor or for tests are in no app; those that leave out a platform are not in that side.
 * Source: docs.unity3d.com, "Assembly Definition file format".
 */
function readAssemblies(project: ProjectFiles, index: FolderIndex, detected: DetectedApp, app: FactSink): void {
  for (const [folder, { files }] of foldersBelow(index, join(detected.path, "Assets"))) {
    for (const name of files) {
      if (!name.endsWith(".asmdef")) continue;
      const file = join(folder, name);
      const root = project.json(file)?.root;
      const include = textsOf(at(root, "includePlatforms"));
      const exclude = textsOf(at(root, "excludePlatforms"));
      const aside =
        (include.length > 0 && include.every((platform) => platform === "Editor")) ||
        textsOf(at(root, "defineConstraints")).includes("UNITY_INCLUDE_TESTS") ||
        textsOf(at(root, "optionalUnityReferences")).includes("TestAssemblies");
      app.assembly(folder, { aside });
      // For one platform, with the editor beside it to try it there.
      if (aside || !app.android || !app.ios || (include.length > 0 && include.filter((platform) => platform !== "Editor").length <= 1))
        continue;
      const sides: [SideName & ("android" | "ios"), string][] = [
        ["android", "Android"],
        ["ios", "iOS"],
      ];
      const out = sides.filter(([, platform]) => (include.length > 0 ? !include.includes(platform) : exclude.includes(platform)));
      // One that is for one platform only is a platform's own code.
      if (out.length !== 1) continue;
      const [[side]] = out as [["android" | "ios", string]];
      const list = at(root, include.length > 0 ? "includePlatforms" : "excludePlatforms");
      const place = list ? placeOf(list) : { file, line: 1, column: 1 };
      app.linkage({
        package: textAt(root, "name") ?? name,
        sdk: sdkIdOf("unity", textAt(root, "name") ?? name),
        side,
        automatic: true,
        off: place,
        manual: undefined,
        native: name,
        installed: undefined,
        declared: place,
        list: undefined,
      });
    }
  }
}
