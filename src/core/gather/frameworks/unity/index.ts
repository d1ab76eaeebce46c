import { TRIMMER_ELEMENTS } from "../../../knowledge/known-names.js";
import { noteMisspeltElements } from "../../misspelt-names.js";
import { foldersBelow } from "../../../files/walk.js";
import { baseName, isWithin, join } from "../../../model/paths.js";
import { reason } from "../../../model/reason.js";
import { known, unknown } from "../../../model/value.js";
import { ARCHITECTURE_BITS, ARCHITECTURES } from "../../../knowledge/unity.js";
import { at, placeOf, textAt, type Data } from "../../../syntax/data.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Framework, TakenIn } from "../framework.js";
import { frameworkAndroid, frameworkIos } from "../framework-sides.js";
import { readSettingsAssets } from "./assets.js";
import { readAssemblies } from "./assemblies.js";
import { readDependencyLists } from "./lists.js";
import { readPackages } from "./packages.js";
import { readNativePlugins } from "./plugins.js";
import { buildSymbols, playerSettings, unityProject } from "./project.js";
import { readBuildScripts } from "./scripts.js";
import { idOf, levelOf, readPermissions, switchedOff } from "./settings.js";
import { checkManifest, readLibraryFolders, readRules, readTemplates } from "./templates.js";

/** Apps made with Unity. Source: docs.unity3d.com, "Project manifest", "Player settings", "Gradle templates", "Import and configure plug-ins". */
export const unity: Framework = {
  kind: "unity",
  find(discovery) {
    const found: DetectedApp[] = [];
    for (const [folder, { folders }] of discovery.index) {
      if (!folders.includes("ProjectSettings") || !folders.includes("Assets")) continue;
      const settings = playerSettings(discovery, folder);
      if (!settings) continue;
      const settingsFile = join(folder, "ProjectSettings/ProjectSettings.asset");
      const name = textAt(settings, "productName") ?? (baseName(folder) || "game");
      const start = { file: settingsFile, line: 1, column: 1 };
      const detected: DetectedApp = { kind: "unity", name, path: folder, shared: folder };
      const android = idOf(settings, "android");
      const ios = idOf(settings, "ios");
      const { tree } = discovery.project;
      const manifest = join(folder, "Assets/Plugins/Android/AndroidManifest.xml");
      // Without an id of its own, what lies in the platform's folder tells that the platform is built for.
      const isFor = (names: readonly string[], platform: string): boolean =>
        names.some((own) => textAt(settings, "applicationIdentifier", own) !== undefined) ||
        tree.isFolder(join(folder, "Assets/Plugins", platform));
      if (isFor(["Android"], "Android"))
        detected.android = frameworkAndroid(
          {
            folder: join(folder, "Assets/Plugins/Android"),
            file: settingsFile,
            start,
            id: android,
            levels: { minSdk: levelOf(settings, "AndroidMinSdkVersion"), targetSdk: levelOf(settings, "AndroidTargetSdkVersion") },
          },
          tree.isFile(manifest) && !switchedOff({ settings }, "useCustomMainManifest") ? manifest : undefined,
        );
      if (isFor(["iPhone", "iOS"], "iOS"))
        detected.ios = frameworkIos(
          {
            folder: join(folder, "Assets/Plugins/iOS"),
            file: settingsFile,
            start,
            id: ios,
            levels: { iosTarget: levelOf(settings, "iOSTargetOSVersionString") },
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
    const { project } = discovery;
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
    const read = unityProject(discovery, detected);
    if (!read) return;
    app.compiledWith(buildSymbols(discovery, read));
    for (const { folder, own } of read.packages)
      if (own && folder !== undefined && !isWithin(folder, detected.path)) app.sourceFolder({ folder, side: "shared" });
    readPackages(discovery, detected, read, app);
    readTemplates(discovery, read, app);
    readRules(discovery, read, app);
    readLibraryFolders(discovery, read, app);
    checkManifest(discovery, read, app);
    readDependencyLists(discovery, read, app);
    readNativePlugins(discovery, detected, read, app);
    readAssemblies(discovery, read, app);
    for (const [folder, { files }] of foldersBelow(discovery.index, join(detected.path, "Assets"))) {
      const root = files.includes("link.xml") ? project.xml(join(folder, "link.xml"))?.root : undefined;
      if (root) noteMisspeltElements(app, root, TRIMMER_ELEMENTS, "shared");
    }
    readPermissions(discovery, read, app);
    const processors = at(read.settings, "AndroidTargetArchitectures");
    const stated = Number(textAt(processors));
    const bits = isMono(read.settings) ? stated & ~ARM64 || ARMV7 : stated;
    const backend = isMono(read.settings) ? at(at(read.settings, "scriptingBackend"), "Android") : undefined;
    const said = processors && stated > 0 ? processors : backend;
    if (said)
      app.option({
        side: "android",
        name: ARCHITECTURES,
        values: ARCHITECTURE_BITS.flatMap(([bit, processor]) => ((bits & bit) === 0 ? [] : processor)),
        at: placeOf(said),
      });
  },
  readAssets(discovery, detected, app, names) {
    const read = unityProject(discovery, detected);
    if (read) readSettingsAssets(discovery, read, app, names);
  },
  async readScripts(discovery, detected, app, batch) {
    const read = unityProject(discovery, detected);
    if (read) await readBuildScripts(discovery, read, app, batch);
  },
};

/** Source: docs.unity3d.com, "Scripting backends" and "Android Player settings" (ARM64 is built with IL2CPP only; Mono is 0). */
const ARM64 = 2;
const ARMV7 = 1;

function isMono(settings: Data): boolean {
  return textAt(settings, "scriptingBackend", "Android") === "0";
}

function leaveToEditor(app: FactSink, detected: DetectedApp): void {
  const place = { file: join(detected.path, "ProjectSettings/ProjectSettings.asset"), line: 1, column: 1 };
  if (app.android)
    for (const level of ["minSdk", "targetSdk"] as const) app.android.effective[level] ??= unknown(reason("left-to-editor"), place);
}
