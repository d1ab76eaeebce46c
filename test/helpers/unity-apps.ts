import type { Files } from "./mistakes.js";

const HEAD = "%YAML 1.1\n%TAG !u! tag:unity3d.com,2011:\n";

const json = (value: unknown): string => `${JSON.stringify(value, undefined, 2)}\n`;

/** The file that the editor lays beside another. */
const meta = (guid: string, body = "MonoImporter:\n  externalObjects: {}\n  serializedVersion: 2\n  executionOrder: 0\n"): string =>
  `fileFormatVersion: 2\nguid: ${guid}\n${body}`;

interface Platforms {
  android?: boolean;
  ios?: false | { embed?: boolean; fw?: string };
}

/** The import settings of a native plugin. */
function plugin(guid: string, { android, ios }: Platforms): string {
  const platform = (first: string, second: boolean, settings: string): string =>
    `  - first:\n      ${first}\n    second:\n      enabled: ${second ? 1 : 0}\n      settings:${settings}\n`;
  const own = ios || {};
  return meta(
    guid,
    `PluginImporter:\n  serializedVersion: 2\n  isPreloaded: 0\n  isOverridable: 0\n  platformData:\n${android === undefined ? "" : platform("Android: Android", android, " {}")}${platform("Any: ", false, " {}")}${platform("Editor: Editor", false, "\n        DefaultValueInitialized: true")}${ios === undefined ? "" : platform("iPhone: iOS", ios !== false, `\n        AddToEmbeddedBinaries: ${own.embed ?? false}\n        FrameworkDependencies: ${own.fw ?? ""}`)}  userData: \n  assetBundleName: \n`,
  );
}

interface SceneObject {
  name: string;
  active?: boolean;
  /** Its place in the list. */
  parent?: number;
  scripts?: [guid: string, enabled: boolean, fields: string][];
}

/** A scene or prefab: the object at place N has the id 1000 + 100 N, its transform and scripts the ids behind. */
function scene(objects: SceneObject[]): string {
  const parts = objects.map(({ name, active = true, parent, scripts = [] }, index) => {
    const id = 1000 + index * 100;
    const components = scripts.map((_, place) => `  - component: {fileID: ${id + 2 + place}}\n`).join("");
    const behaviours = scripts.map(
      ([guid, enabled, fields], place) =>
        `--- !u!114 &${id + 2 + place}\nMonoBehaviour:\n  m_ObjectHideFlags: 0\n  m_GameObject: {fileID: ${id}}\n  m_Enabled: ${enabled ? 1 : 0}\n  m_EditorHideFlags: 0\n  m_Script: {fileID: 11500000, guid: ${guid}, type: 3}\n  m_Name: \n  m_EditorClassIdentifier: \n${fields}`,
    );
    return `--- !u!1 &${id}\nGameObject:\n  m_ObjectHideFlags: 0\n  serializedVersion: 6\n  m_Component:\n  - component: {fileID: ${id + 1}}\n${components}  m_Layer: 0\n  m_Name: ${name}\n  m_TagString: Untagged\n  m_IsActive: ${active ? 1 : 0}\n--- !u!4 &${id + 1}\nTransform:\n  m_ObjectHideFlags: 0\n  m_GameObject: {fileID: ${id}}\n  m_LocalPosition: {x: 0, y: 0, z: 0}\n  m_Children: []\n  m_Father: {fileID: ${parent === undefined ? 0 : 1001 + parent * 100}}\n${behaviours.join("")}`;
  });
  return `${HEAD}--- !u!29 &1\nOcclusionCullingSettings:\n  m_ObjectHideFlags: 0\n${parts.join("")}`;
}

/** The player settings, with the parts in which the projects differ. */
function settings({
  product = "Tidegame",
  company = "Maresia Lines",
  ids = "    Android: example.maresia.tidegame\n    iPhone: example.maresia.tidegame\n",
  mins = 24,
  target = 35,
  ios = "15.0",
  symbols = "    Android: TIDE_ADS\n    iPhone: TIDE_ADS\n",
  extra = "",
  loc = "Shows the harbours near you.",
  cam = "",
  mic = "",
  schemes = "  iOSURLSchemes: []\n",
  bg = "  iosAppInBackgroundBehavior: 0\n  iOSBackgroundModes: 0\n",
  minify = 1,
  flags = "  useCustomMainManifest: 1\n  useCustomLauncherManifest: 0\n  useCustomMainGradleTemplate: 1\n  useCustomLauncherGradleManifest: 0\n  useCustomBaseGradleTemplate: 0\n  useCustomGradlePropertiesTemplate: 1\n  useCustomGradleSettingsTemplate: 1\n  useCustomProguardFile: 1\n",
}: Record<string, string | number | undefined> = {}): string {
  const map = (entries: string | number): string => (entries === "" ? " {}\n" : `\n${entries}`);
  return `${HEAD}--- !u!129 &1\nPlayerSettings:\n  m_ObjectHideFlags: 0\n  serializedVersion: 26\n  productGUID: 5b1f00d4c3a29e87aa0011bb22cc33dd\n  AndroidProfiler: 0\n  companyName: ${company}\n  productName: ${product}\n  applicationIdentifier:${map(ids)}  buildNumber:\n    Standalone: 0\n    iPhone: 0\n  overrideDefaultApplicationIdentifier: 1\n  AndroidBundleVersionCode: 7\n  AndroidMinSdkVersion: ${mins}\n  AndroidTargetSdkVersion: ${target}\n  AndroidPreferredInstallLocation: 1\n  stripEngineCode: 1\n  ForceInternetPermission: 1\n  ForceSDCardPermission: 0\n  iOSTargetOSVersionString: ${ios}\n${schemes}  appleDeveloperTeamID: \n  cameraUsageDescription: ${cam}\n  locationUsageDescription: ${loc}\n  microphoneUsageDescription: ${mic}\n${bg}  AndroidTargetArchitectures: 2\n${flags}  AndroidMinifyWithR8: 0\n  AndroidMinifyRelease: ${minify}\n  AndroidMinifyDebug: 0\n  scriptingDefineSymbols:${map(symbols)}  additionalCompilerArguments: {}\n${extra}`;
}

const scenesInBuild = (scenes: [enabled: boolean, path: string, guid: string][]): string =>
  `${HEAD}--- !u!1045 &1\nEditorBuildSettings:\n  m_ObjectHideFlags: 0\n  serializedVersion: 2\n  m_Scenes:\n${scenes.map(([enabled, path, guid]) => `  - enabled: ${enabled ? 1 : 0}\n    path: ${path}\n    guid: ${guid}\n`).join("")}  m_configObjects: {}\n`;

/** Packages of every kind, assemblies, Gradle templates, a build script that writes the iOS side. */
export const packaged: Files = {
  "ProjectSettings/ProjectSettings.asset": settings({}),
  "ProjectSettings/ProjectVersion.txt": `m_EditorVersion: 2022.3.45f1
m_EditorVersionWithRevision: 2022.3.45f1 (a13dfa44d684)
`,
  "ProjectSettings/EditorBuildSettings.asset": scenesInBuild([
    [true, "Assets/Scenes/Start.unity", "5b1f00d4c3a29e870000000000001f99"],
    [true, "Assets/Scenes/Harbour.unity", "5b1f00d4c3a29e870000000000003e88"],
  ]),
  "Packages/manifest.json": json({
    dependencies: {
      "com.unity.textmeshpro": "3.0.9",
      "com.unity.modules.ui": "1.0.0",
      "example.brinelog.unity": "3.0.1",
      "example.gullpost.unity": "https://git.gullpost.example/unity.git?path=/package#v2.1.0",
      "com.maresia.charts": "file:../LocalPackages/com.maresia.charts",
      "com.maresia.tools": "file:tools-1.4.0.tgz",
    },
    scopedRegistries: [{ name: "Brinelog", url: "https://packages.brinelog.example", scopes: ["example.brinelog"] }],
  }),
  "Packages/packages-lock.json": json({
    dependencies: {
      "com.unity.textmeshpro": { version: "3.0.9", depth: 0, source: "registry", dependencies: {}, url: "https://packages.unity.com" },
      "com.unity.modules.ui": { version: "1.0.0", depth: 0, source: "builtin", dependencies: {} },
      "example.brinelog.unity": {
        version: "3.0.1",
        depth: 0,
        source: "registry",
        dependencies: {},
        url: "https://packages.brinelog.example",
      },
      "example.gullpost.unity": {
        version: "https://git.gullpost.example/unity.git?path=/package#v2.1.0",
        depth: 0,
        source: "git",
        dependencies: {},
        hash: "0123456789abcdef0123456789abcdef01234567",
      },
      "com.maresia.charts": { version: "file:../LocalPackages/com.maresia.charts", depth: 0, source: "local", dependencies: {} },
      "com.maresia.tools": { version: "file:tools-1.4.0.tgz", depth: 0, source: "local-tarball", dependencies: {} },
      "com.maresia.sea": { version: "file:com.maresia.sea", depth: 0, source: "embedded", dependencies: {} },
    },
  }),
  "Packages/tools-1.4.0.tgz": Buffer.from(
    "H4sIANRJCmsC/+3U0WrDIBTGcR9FvNpgGM2yFHa/Fxh9AWdDcUtiiUlvQt+9thuU9nqEsv1/N0c8F4LHz53zX27bFLvvqj9T7MUvM1ldVeea3VZjXurL+rRvbV2uhDRiAVMa3ZCPF//TrHrXNepV+djpzg1NCk6PMbZJPal9M6QQ+9y1utJGHQT+mJ/cF2+bMMahWJ8mr31aNv8re5P/srTP5H+R+U8fbfAyX8KYi29dSvL8COQsr3v7GDbyfeofHuV8kHwFAAAAAAAAAAAAAAAA9+EISR0OuwAoAAA=",
    "base64",
  ),
  "Packages/com.maresia.sea/package.json": json({
    name: "com.maresia.sea",
    version: "1.2.0",
    displayName: "Sea",
    unity: "2021.3",
    dependencies: { "com.unity.textmeshpro": "3.0.6" },
  }),
  "Packages/com.maresia.sea/Runtime/Maresia.Sea.asmdef": json({
    name: "Maresia.Sea",
    references: [],
    includePlatforms: [],
    excludePlatforms: [],
  }),
  "Packages/com.maresia.sea/Runtime/Maresia.Sea.asmdef.meta": meta(
    "5b1f00d4c3a29e870000000000026b56",
    `AssemblyDefinitionImporter:
  externalObjects: {}
`,
  ),
  "Packages/com.maresia.sea/Runtime/Waves.cs": `namespace Maresia.Sea
{
    public static class Waves
    {
        public static float Height(float t) => t;
    }
}
`,
  "LocalPackages/com.maresia.charts/package.json": json({ name: "com.maresia.charts", version: "0.4.0", unity: "2021.3" }),
  "LocalPackages/com.maresia.charts/Editor/ChartsDependencies.xml": `<?xml version="1.0" encoding="utf-8"?>
<dependencies>
  <androidPackages>
    <repositories>
      <repository>https://maven.charts.example/releases</repository>
    </repositories>
    <androidPackage spec="example.charts:charts:1.1.0" />
  </androidPackages>
  <iosPods>
    <iosPod name="Charts" version="~> 1.1" minTargetSdk="14.0" />
  </iosPods>
</dependencies>
`,
  "LocalPackages/com.maresia.charts/Runtime/Charts.asmdef": json({
    name: "Maresia.Charts",
    references: ["GUID:5b1f00d4c3a29e870000000000026b56"],
  }),
  "LocalPackages/com.maresia.charts/Runtime/Chart.cs": `using Maresia.Sea;

namespace Maresia.Charts
{
    public static class Chart
    {
        public static float Draw() => Waves.Height(1f);
    }
}
`,
  "Assets/Scripts/Maresia.Game.asmdef": json({
    name: "Maresia.Game",
    references: ["GUID:5b1f00d4c3a29e870000000000026b56", "Maresia.Charts", "Maresia.Sdk"],
    includePlatforms: [],
    excludePlatforms: ["WebGL"],
    allowUnsafeCode: false,
    defineConstraints: [],
    versionDefines: [],
  }),
  "Assets/Scripts/Boot.cs": `using System.Collections;
using Maresia.Sdk;
using UnityEngine;

namespace Maresia
{
    public class Boot : MonoBehaviour
    {
        [SerializeField] private string channel = "store";

        private void Awake()
        {
            DontDestroyOnLoad(gameObject);
            Brinelog.Start(channel);
        }

        private IEnumerator Start()
        {
            yield return null;
            yield return StartCoroutine(Register());
        }

        private IEnumerator Register()
        {
            yield return new WaitForSeconds(1f);
            Gullpost.Register();
        }

        public void OnMapClicked()
        {
            QuaymapBridge.Show("harbour");
        }
    }
}
`,
  "Assets/Scripts/Boot.cs.meta": meta("5b1f00d4c3a29e870000000000013600"),
  "Assets/Scripts/QuaymapBridge.cs": `using System.Runtime.InteropServices;
using UnityEngine;

namespace Maresia
{
    public static class QuaymapBridge
    {
#if UNITY_IOS && !UNITY_EDITOR
        [DllImport("__Internal")]
        private static extern void quaymap_show(string name);
#endif

        public static void Show(string name)
        {
#if UNITY_EDITOR
            Debug.Log("map " + name);
#elif UNITY_IOS
            quaymap_show(name);
#elif UNITY_ANDROID
            using (var map = new AndroidJavaClass("example.maresia.tidegame.MapBridge"))
                map.CallStatic("show", name);
#endif
        }
    }
}
`,
  "Assets/Scripts/Ads.cs": `#if TIDE_ADS
using UnityEngine;

namespace Maresia
{
    public static class Ads
    {
        [RuntimeInitializeOnLoadMethod(RuntimeInitializeLoadType.BeforeSceneLoad)]
        private static void Prepare()
        {
            Debug.Log("ads");
        }
    }
}
#endif
`,
  "Assets/Sdk/Maresia.Sdk.asmdef": json({ name: "Maresia.Sdk" }),
  "Assets/Sdk/Brinelog.cs": `using UnityEngine;

namespace Maresia.Sdk
{
    public static class Log
    {
        public static void Note(string text) => Debug.Log(text);
    }
}
`,
  "Assets/Editor/BuildSteps.cs": `using System.IO;
using UnityEditor;
using UnityEditor.Callbacks;
using UnityEditor.iOS.Xcode;

namespace Maresia.Editor
{
    public static class BuildSteps
    {
        const string Key = "bl_0a1b2c3d";
        const string MapKey = "qm_11aa22bb";

        [PostProcessBuild(100)]
        public static void OnPostprocessBuild(BuildTarget target, string path)
        {
            if (target != BuildTarget.iOS) return;
            var plistPath = Path.Combine(path, "Info.plist");
            var plist = new PlistDocument();
            plist.ReadFromFile(plistPath);
            PlistElementDict root = plist.root;
            root.SetString("BrinelogKey", Key);
            root.SetString("QuaymapKey", MapKey);
            root.SetBoolean("ITSAppUsesNonExemptEncryption", false);
            var queries = root.CreateArray("LSApplicationQueriesSchemes");
            queries.AddString("quaymap");
            var types = root.CreateArray("CFBundleURLTypes");
            var type = types.AddDict();
            type.SetString("CFBundleURLName", "map");
            type.CreateArray("CFBundleURLSchemes").AddString("quay-" + MapKey);
            plist.WriteToFile(plistPath);

            AddCapabilities(path);
        }

        static void AddCapabilities(string path)
        {
            var projectPath = PBXProject.GetPBXProjectPath(path);
            var project = new PBXProject();
            project.ReadFromFile(projectPath);
            var main = project.GetUnityMainTargetGuid();
            var framework = project.GetUnityFrameworkTargetGuid();
            project.AddFrameworkToProject(framework, "CoreLocation.framework", false);
            project.AddBuildProperty(framework, "OTHER_LDFLAGS", "-ObjC");
            project.SetBuildProperty(main, "ENABLE_BITCODE", "NO");
            project.WriteToFile(projectPath);

            var manager = new ProjectCapabilityManager(projectPath, "tidegame.entitlements", null, main);
            manager.AddPushNotifications(false);
            manager.AddBackgroundModes(BackgroundModesOptions.RemoteNotifications);
            manager.WriteToFile();
        }
    }
}
`,
  "Assets/Editor/Menu.cs": `using UnityEditor;

public static class Menu
{
    [MenuItem("Tide/Start log")]
    static void Start() { Brinelog.Start("editor"); }
}
`,
  "Assets/Scenes/Start.unity": scene([
    { name: "Main Camera" },
    { name: "Boot", scripts: [["5b1f00d4c3a29e870000000000013600", true, "  channel: store\n"]] },
    { name: "Canvas" },
    {
      name: "MapButton",
      parent: 2,
      scripts: [
        [
          "fe87c0e1cc204ed48ad3b37840f39efc",
          true,
          "  m_OnClick:\n    m_PersistentCalls:\n      m_Calls:\n      - m_Target: {fileID: 1102}\n        m_TargetAssemblyTypeName: Maresia.Boot, Maresia.Game\n        m_MethodName: OnMapClicked\n        m_Mode: 1\n        m_CallState: 2\n",
        ],
      ],
    },
  ]),
  "Assets/Scenes/Start.unity.meta": meta(
    "5b1f00d4c3a29e870000000000001f99",
    `DefaultImporter:
  externalObjects: {}
`,
  ),
  "Assets/Scenes/Harbour.unity": scene([{ name: "Main Camera" }]),
  "Assets/Scenes/Harbour.unity.meta": meta(
    "5b1f00d4c3a29e870000000000003e88",
    `DefaultImporter:
  externalObjects: {}
`,
  ),
  "Assets/Plugins/Android/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools">
    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
    <uses-permission android:name="android.permission.POST_NOTIFICATIONS" />
    <application>
        <activity android:name="com.unity3d.player.UnityPlayerActivity" android:theme="@style/UnityThemeSelector" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
            <meta-data android:name="unityplayer.UnityActivity" android:value="true" />
        </activity>
        <meta-data android:name="example.brinelog.KEY" android:value="bl_0a1b2c3d" />
        <meta-data android:name="example.quaymap.KEY" android:value="qm_11aa22bb" />
        <service android:name="example.gullpost.MessageService" android:exported="false" />
    </application>
</manifest>
`,
  "Assets/Plugins/Android/mainTemplate.gradle": `apply plugin: 'com.android.library'
apply from: '../shared/keepUnitySymbols.gradle'
**APPLY_PLUGINS**

dependencies {
    implementation fileTree(dir: 'libs', include: ['*.jar'])
    implementation 'example.brinelog:brinelog:3.0.1'
    implementation 'example.quaymap:quaymap-android:4.2.0'
    implementation 'example.gullpost:gullpost:2.1.0'
**DEPS**}

android {
    namespace "com.unity3d.player"
    ndkPath "**NDKPATH**"
    compileSdk **APIVERSION**
    buildToolsVersion '**BUILDTOOLS**'

    compileOptions {
        sourceCompatibility JavaVersion.VERSION_17
        targetCompatibility JavaVersion.VERSION_17
    }

    defaultConfig {
        minSdk **MINSDK**
        targetSdk **TARGETSDK**
        ndk {
            abiFilters **ABIFILTERS**
        }
        versionCode **VERSIONCODE**
        versionName '**VERSIONNAME**'
        consumerProguardFiles 'proguard-unity.txt'**USER_PROGUARD**
    }

    lint {
        abortOnError false
    }

    androidResources {
        noCompress = **BUILTIN_NOCOMPRESS** + unityStreamingAssets.tokenize(', ')
        ignoreAssetsPattern = "!.svn:!.git:!.ds_store:!*.scc:!CVS:!thumbs.db:!picasa.ini:!*~"
    }**PACKAGING**
}
**IL_CPP_BUILD_SETUP**
**SOURCE_BUILD_SETUP**
**EXTERNAL_SOURCES**
`,
  "Assets/Plugins/Android/settingsTemplate.gradle": `pluginManagement {
    repositories {
        **ARTIFACTORYREPOSITORY**
        gradlePluginPortal()
        google()
        mavenCentral()
    }
}

include ':launcher', ':unityLibrary'
**INCLUDES**

dependencyResolutionManagement {
    repositoriesMode.set(RepositoriesMode.PREFER_SETTINGS)
    repositories {
        **ARTIFACTORYREPOSITORY**
        google()
        mavenCentral()
        maven {
            url "https://maven.quaymap.example/releases"
        }
        flatDir {
            dirs "\${project(':unityLibrary').projectDir}/libs"
        }
    }
}
`,
  "Assets/Plugins/Android/gradleTemplate.properties": `org.gradle.jvmargs=-Xmx**JVM_HEAP_SIZE**M
org.gradle.parallel=true
unityStreamingAssets=**STREAMING_ASSETS**
android.useAndroidX=true
**ADDITIONAL_PROPERTIES**
`,
  "Assets/Plugins/Android/proguard-user.txt": `-keep class example.quaymap.** { *; }
-keep class example.maresia.** { *; }
`,
  "Assets/Plugins/Android/MapBridge.java": `package example.maresia.tidegame;

import example.quaymap.Quaymap;

public class MapBridge {
    public static void show(String name) {
        Quaymap.show(name);
    }
}
`,
  "Assets/Plugins/Android/MapBridge.java.meta": plugin("5b1f00d4c3a29e87000000000003a0ac", { android: true }),
  "Assets/Plugins/Android/Settings.androidlib/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.maresia.settings" />
`,
  "Assets/Plugins/Android/Settings.androidlib/project.properties": `android.library=true
`,
  "Assets/Plugins/Android/Settings.androidlib/assets/quaymap-services.json": `{
  "package": "example.maresia.tidegame",
  "project": "tide"
}
`,
  "Assets/Plugins/iOS/QuaymapBridge.mm": `#import <Quaymap/Quaymap.h>

extern "C" {
void quaymap_show(const char *name) {
    [Quaymap show:[NSString stringWithUTF8String:name]];
}
}
`,
  "Assets/Plugins/iOS/QuaymapBridge.mm.meta": plugin("5b1f00d4c3a29e87000000000003bf9b", { ios: { fw: "" } }),
  "Assets/Editor/PodDependencies.xml": `<dependencies>
  <iosPods>
    <iosPod name="QuaymapSDK" version="~> 4.2" />
    <iosPod name="Brinelog" version="3.0.1" />
    <iosPod name="Gullpost" version="2.1.0" />
  </iosPods>
</dependencies>
`,
  "enredo/sheets/brinelog.sdk.yaml": `sdk: brinelog
packages:
  unity: example.brinelog.unity
  maven: example.brinelog:brinelog
  cocoapods: Brinelog
  binary: ["brinelog-*.aar", "Brinelog.xcframework", "Brinelog.framework"]
needs:
  - { on: android, minSdk: 23 }
  - { on: ios, iosTarget: "14.0" }
  - { on: android, permission: android.permission.INTERNET }
  - on: both
    key: { name: appKey, shape: "bl_[0-9a-f]{8}", in: [manifest: example.brinelog.KEY, plist: BrinelogKey], sameOnBothSides: true }
  - { on: shared, start: { shared: Brinelog.Start, at: firstScreen } }
`,
  "enredo/sheets/gullpost.sdk.yaml": `sdk: gullpost
packages:
  unity: example.gullpost.unity
  maven: example.gullpost:gullpost
  cocoapods: Gullpost
needs:
  - { on: ios, entitlement: aps-environment }
  - { on: ios, backgroundMode: remote-notification }
  - { on: android, permission: android.permission.POST_NOTIFICATIONS }
  - { on: android, manifestEntry: { element: service, name: example.gullpost.MessageService } }
  - { on: shared, start: { shared: Gullpost.Register, after: [brinelog] } }
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  unity: example.quaymap.unity
  maven: example.quaymap:quaymap-android
  cocoapods: QuaymapSDK
  binary: ["quaymap-*.aar", "Quaymap.framework"]
needs:
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, repository: "https://maven.quaymap.example/releases" }
  - { on: ios, queriedScheme: quaymap }
  - { on: ios, urlScheme: { key: mapKey, prefix: "quay-" } }
  - on: both
    key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [manifest: example.quaymap.KEY, plist: QuaymapKey], sameOnBothSides: true }
  - { on: android, keepRule: "-keep class example.quaymap.** { *; }" }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: package } }
`,
};

/** A game beside shared packages of a monorepo, with an SDK unpacked into it and everything in the player settings. */
export const unpacked: Files = {
  "games/regatta/ProjectSettings/ProjectSettings.asset": settings({
    product: "Regatta",
    ids: "    Android: example.maresia.regatta\n    iPhone: example.maresia.regatta\n    Standalone: example.maresia.regatta\n",
    mins: 26,
    ios: "16.0",
    symbols: "    Android: TOLL;RELEASE\n    iPhone: TOLL;RELEASE\n",
    cam: "Scans the ticket.",
    loc: "",
    schemes: "  iOSURLSchemes:\n  - regatta-pay\n",
    bg: "  iosAppInBackgroundBehavior: -1\n  iOSBackgroundModes: 256\n",
    minify: 0,
    flags: "  useCustomMainManifest: 1\n  useCustomMainGradleTemplate: 0\n  useCustomProguardFile: 0\n",
  }),
  "games/regatta/ProjectSettings/ProjectVersion.txt": `m_EditorVersion: 6000.0.23f1
m_EditorVersionWithRevision: 6000.0.23f1 (1c4764c07fb4)
`,
  "games/regatta/ProjectSettings/EditorBuildSettings.asset": scenesInBuild([
    [true, "Assets/Scenes/Start.unity", "5b1f00d4c3a29e8700000000000c34f5"],
    [false, "Assets/Scenes/Test.unity", "5b1f00d4c3a29e8700000000000c53e4"],
  ]),
  "games/regatta/Packages/manifest.json": json({
    dependencies: { "com.unity.inputsystem": "1.11.2", "com.maresia.core": "file:../../../packages/com.maresia.core" },
  }),
  "games/regatta/Packages/packages-lock.json": json({
    dependencies: {
      "com.unity.inputsystem": { version: "1.11.2", depth: 0, source: "registry", dependencies: {}, url: "https://packages.unity.com" },
      "com.maresia.core": { version: "file:../../../packages/com.maresia.core", depth: 0, source: "local", dependencies: {} },
    },
  }),
  "packages/com.maresia.core/package.json": json({ name: "com.maresia.core", version: "2.0.0", unity: "6000.0" }),
  "packages/com.maresia.core/Runtime/Maresia.Core.asmdef": json({ name: "Maresia.Core" }),
  "packages/com.maresia.core/Runtime/Service.cs": `using UnityEngine;

namespace Maresia.Core
{
    public abstract class Service : MonoBehaviour
    {
        protected virtual void Awake() { Setup(); }
        protected abstract void Setup();
    }
}
`,
  "games/regatta/Assets/Game/Game.asmdef": json({ name: "Game", references: ["Maresia.Core", "Tollbuoy"] }),
  "games/regatta/Assets/Game/Payments.cs": `using Maresia.Core;

public class Payments : Service
{
    protected override void Setup()
    {
        Tollbuoy.Begin(TollbuoySettings.Load().key);
    }

    public void Buy() => Tollbuoy.Pay(100);
}
`,
  "games/regatta/Assets/Game/Payments.cs.meta": meta("5b1f00d4c3a29e8700000000000d4b5c"),
  "games/regatta/Assets/Game/Scanner.cs": `using UnityEngine;

public class Scanner : MonoBehaviour
{
    WebCamTexture camera;
    void OnEnable() { camera = new WebCamTexture(); camera.Play(); }
}
`,
  "games/regatta/Assets/Game/Scanner.cs.meta": meta("5b1f00d4c3a29e8700000000000d6a4b"),
  "games/regatta/Assets/Tollbuoy/Runtime/Tollbuoy.asmdef": json({ name: "Tollbuoy", includePlatforms: ["Android", "iOS", "Editor"] }),
  "games/regatta/Assets/Tollbuoy/Runtime/Tollbuoy.cs": `using System.Runtime.InteropServices;
using UnityEngine;

public static class Tollbuoy
{
#if UNITY_IOS && !UNITY_EDITOR
    [DllImport("__Internal")] static extern void tollbuoy_begin(string key);
    [DllImport("__Internal")] static extern void tollbuoy_pay(int cents);
#endif
    public static void Begin(string key)
    {
#if UNITY_ANDROID && !UNITY_EDITOR
        using (var c = new AndroidJavaClass("example.tollbuoy.Tollbuoy")) c.CallStatic("begin", key);
#elif UNITY_IOS && !UNITY_EDITOR
        tollbuoy_begin(key);
#endif
    }

    public static void Pay(int cents)
    {
#if UNITY_ANDROID && !UNITY_EDITOR
        using (var c = new AndroidJavaClass("example.tollbuoy.Tollbuoy")) c.CallStatic("pay", cents);
#elif UNITY_IOS && !UNITY_EDITOR
        tollbuoy_pay(cents);
#endif
    }
}
`,
  "games/regatta/Assets/Tollbuoy/Runtime/TollbuoySettings.cs": `using UnityEngine;

public class TollbuoySettings : ScriptableObject
{
    public string key;
    public bool sandbox;
    public static TollbuoySettings Load() => Resources.Load<TollbuoySettings>("TollbuoySettings");
}
`,
  "games/regatta/Assets/Tollbuoy/Runtime/TollbuoySettings.cs.meta": meta("5b1f00d4c3a29e8700000000000d893a"),
  "games/regatta/Assets/Resources/TollbuoySettings.asset": `%YAML 1.1
%TAG !u! tag:unity3d.com,2011:
--- !u!114 &11400000
MonoBehaviour:
  m_ObjectHideFlags: 0
  m_GameObject: {fileID: 0}
  m_Enabled: 1
  m_EditorHideFlags: 0
  m_Script: {fileID: 11500000, guid: 5b1f00d4c3a29e8700000000000d893a, type: 3}
  m_Name: TollbuoySettings
  m_EditorClassIdentifier: 
  key: tb_99aa88bb
  sandbox: 0
`,
  "games/regatta/Assets/Tollbuoy/Plugins/Android/tollbuoy-5.1.0.aar!/AndroidManifest.xml": "<manifest />",
  "games/regatta/Assets/Tollbuoy/Plugins/Android/tollbuoy-5.1.0.aar.meta": plugin("5b1f00d4c3a29e8700000000000e80b2", { android: true }),
  "games/regatta/Assets/Tollbuoy/Plugins/iOS/Tollbuoy.xcframework/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>AvailableLibraries</key>
  <array/>
</dict>
</plist>
`,
  "games/regatta/Assets/Tollbuoy/Plugins/iOS/Tollbuoy.xcframework.meta": plugin("5b1f00d4c3a29e8700000000000e9fa1", {
    ios: { embed: true, fw: "" },
  }),
  "games/regatta/Assets/Tollbuoy/Plugins/iOS/TollbuoyBridge.mm": `#import <Tollbuoy/Tollbuoy.h>

extern "C" {
void tollbuoy_begin(const char *key) { [Tollbuoy beginWithKey:[NSString stringWithUTF8String:key]]; }
void tollbuoy_pay(int cents) { [Tollbuoy pay:cents]; }
}
`,
  "games/regatta/Assets/Tollbuoy/Plugins/iOS/TollbuoyBridge.mm.meta": plugin("5b1f00d4c3a29e8700000000000ebe90", {
    ios: { fw: "PassKit;UIKit;" },
  }),
  "games/regatta/Assets/Plugins/Android/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools">
    <uses-permission android:name="android.permission.CAMERA" />
    <application>
        <activity android:name="com.unity3d.player.UnityPlayerActivity" android:theme="@style/UnityThemeSelector" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
            <intent-filter>
                <action android:name="android.intent.action.VIEW" />
                <category android:name="android.intent.category.DEFAULT" />
                <category android:name="android.intent.category.BROWSABLE" />
                <data android:scheme="regatta-pay" />
            </intent-filter>
            <meta-data android:name="unityplayer.UnityActivity" android:value="true" />
        </activity>
    </application>
</manifest>
`,
  "games/regatta/Assets/Prefabs/Services.prefab": scene([{ name: "Services", scripts: [["5b1f00d4c3a29e8700000000000d4b5c", true, ""]] }]),
  "games/regatta/Assets/Prefabs/Services.prefab.meta": meta(
    "5b1f00d4c3a29e8700000000000fb608",
    `PrefabImporter:
  externalObjects: {}
`,
  ),
  "games/regatta/Assets/Scenes/Start.unity":
    scene([
      { name: "Main Camera" },
      { name: "Scanner", active: false, scripts: [["5b1f00d4c3a29e8700000000000d6a4b", true, ""]] },
      {
        name: "Buy",
        scripts: [
          [
            "fe87c0e1cc204ed48ad3b37840f39efc",
            true,
            "  m_OnClick:\n    m_PersistentCalls:\n      m_Calls:\n      - m_Target: {fileID: 5002}\n        m_TargetAssemblyTypeName: Payments, Game\n        m_MethodName: Buy\n        m_Mode: 1\n        m_CallState: 2\n",
          ],
        ],
      },
    ]) +
    `--- !u!1001 &5000
PrefabInstance:
  m_ObjectHideFlags: 0
  serializedVersion: 2
  m_Modification:
    serializedVersion: 3
    m_TransformParent: {fileID: 0}
    m_Modifications:
    - target: {fileID: 1000, guid: 5b1f00d4c3a29e8700000000000fb608, type: 3}
      propertyPath: m_Name
      value: Services
      objectReference: {fileID: 0}
    m_RemovedComponents: []
  m_SourcePrefab: {fileID: 100100000, guid: 5b1f00d4c3a29e8700000000000fb608, type: 3}
`,
  "games/regatta/Assets/Scenes/Start.unity.meta": meta(
    "5b1f00d4c3a29e8700000000000c34f5",
    `DefaultImporter:
`,
  ),
  "games/regatta/Assets/Scenes/Test.unity": scene([{ name: "Main Camera" }]),
  "games/regatta/Assets/Scenes/Test.unity.meta": meta(
    "5b1f00d4c3a29e8700000000000c53e4",
    `DefaultImporter:
`,
  ),
  "enredo/sheets/tollbuoy.sdk.yaml": `sdk: tollbuoy
packages:
  unity: example.tollbuoy.unity
  binary: ["tollbuoy-*.aar", "Tollbuoy.framework", "Tollbuoy.xcframework"]
needs:
  - { on: ios, purposeText: NSCameraUsageDescription }
  - { on: ios, backgroundMode: remote-notification }
  - { on: both, urlScheme: regatta-pay }
  - { on: ios, embed: { name: Tollbuoy.xcframework, kind: dynamic } }
  - { on: ios, systemFramework: PassKit }
  - { on: android, minSdk: 24 }
  - { on: android, permission: android.permission.CAMERA }
  - { on: shared, start: { shared: Tollbuoy.Begin, at: firstScreen } }
  - { on: shared, use: { shared: Tollbuoy.Pay } }
`,
};

/** The earlier generation: no packages to speak of, ids left to the editor, symbols by number, Windows line ends. */
export const earlier: Files = {
  "ProjectSettings/ProjectSettings.asset": `%YAML 1.1
%TAG !u! tag:unity3d.com,2011:
--- !u!129 &1
PlayerSettings:
  m_ObjectHideFlags: 0
  serializedVersion: 26
  productGUID: 5b1f00d4c3a29e87aa0011bb22cc33dd
  AndroidProfiler: 0
  companyName: Maresia
  productName: Tide Puzzle
  applicationIdentifier: {}
  buildNumber:
    Standalone: 0
    iPhone: 0
  AndroidBundleVersionCode: 7
  AndroidMinSdkVersion: 23
  AndroidTargetSdkVersion: 34
  AndroidPreferredInstallLocation: 1
  stripEngineCode: 1
  ForceInternetPermission: 0
  ForceSDCardPermission: 0
  iOSTargetOSVersionString: 13.0
  iOSURLSchemes: []
  appleDeveloperTeamID: 
  cameraUsageDescription: 
  locationUsageDescription: Finds the nearest quay.
  microphoneUsageDescription: 
  iosAppInBackgroundBehavior: 0
  iOSBackgroundModes: 0
  AndroidTargetArchitectures: 2
  AndroidMinifyRelease: 0
  scriptingDefineSymbols:
    4: PUZZLE
    7: PUZZLE
  additionalCompilerArguments: {}
`,
  "ProjectSettings/ProjectVersion.txt": `m_EditorVersion: 2019.4.40f1
`,
  "ProjectSettings/EditorBuildSettings.asset": scenesInBuild([[true, "Assets/Main.unity", "5b1f00d4c3a29e870000000000184a51"]]),
  "Packages/manifest.json": json({ dependencies: { "com.unity.ugui": "1.0.0", "com.unity.modules.androidjni": "1.0.0" } }),
  "Packages/packages-lock.json": json({
    dependencies: {
      "com.unity.ugui": { version: "1.0.0", depth: 0, source: "builtin", dependencies: {} },
      "com.unity.modules.androidjni": { version: "1.0.0", depth: 0, source: "builtin", dependencies: {} },
    },
  }),
  "Assets/Quaymap/Editor/QuaymapDependencies.xml":
    '<dependencies>\r\n  <androidPackages>\r\n    <androidPackage spec="example.quaymap:quaymap-android:4.2.0">\r\n      <repositories>\r\n        <repository>https://maven.quaymap.example/releases</repository>\r\n      </repositories>\r\n    </androidPackage>\r\n  </androidPackages>\r\n  <iosPods>\r\n    <iosPod name="QuaymapSDK" version="~> 4.2" minTargetSdk="12.0" />\r\n  </iosPods>\r\n</dependencies>\r\n',
  "Assets/Quaymap/Editor/QuaymapPost.cs": `using System.IO;
using System.Collections.Generic;
using UnityEditor;
using UnityEditor.Build;
using UnityEditor.Build.Reporting;
#if UNITY_IOS
using UnityEditor.iOS.Xcode;
#endif

public class QuaymapPost : IPostprocessBuildWithReport
{
    public int callbackOrder => 10;

    public void OnPostprocessBuild(BuildReport report)
    {
#if UNITY_IOS
        if (report.summary.platform != BuildTarget.iOS) return;
        string file = report.summary.outputPath + "/Info.plist";
        PlistDocument document = new PlistDocument();
        document.ReadFromString(File.ReadAllText(file));
        document.root.SetString("QuaymapKey", "qm_55ee66ff");
        PlistElementArray queries = document.root.CreateArray("LSApplicationQueriesSchemes");
        foreach (var scheme in new[] { "quaymap", "harbours" })
            queries.AddString(scheme);
        var types = document.root.CreateArray("CFBundleURLTypes");
        var entry = types.AddDict();
        var schemes = entry.CreateArray("CFBundleURLSchemes");
        schemes.AddString("quay-qm_55ee66ff");
        File.WriteAllText(file, document.WriteToString());

        string pbx = PBXProject.GetPBXProjectPath(report.summary.outputPath);
        PBXProject project = new PBXProject();
        project.ReadFromString(File.ReadAllText(pbx));
        string guid = project.GetUnityFrameworkTargetGuid();
        project.AddFrameworkToProject(guid, "CoreLocation.framework", false);
        File.WriteAllText(pbx, project.WriteToString());
#endif
    }
}
`,
  "Assets/Scripts/Main.cs": `using System.Collections;
using UnityEngine;
using UnityEngine.UI;

public class Main : MonoBehaviour
{
    public Button map;

    void Start()
    {
        map.onClick.AddListener(Open);
        StartCoroutine("Boot");
        Invoke(nameof(Later), 2f);
    }

    IEnumerator Boot()
    {
        yield return Input.location.isEnabledByUser;
        Input.location.Start();
        Quaymap.Prepare();
    }

    void Later() { Quaymap.Warm(); }

    void Open() { Quaymap.Show("quay"); }
}
`,
  "Assets/Scripts/Main.cs.meta": meta("5b1f00d4c3a29e8700000000001960b8"),
  "Assets/Scripts/Pushes.cs": `using UnityEngine;

public class Pushes : MonoBehaviour
{
    public static Pushes Instance { get; private set; }

    [RuntimeInitializeOnLoadMethod]
    static void Create()
    {
        Instance = new GameObject("Pushes").AddComponent<Pushes>();
    }

    void OnEnable() { Debug.Log("pushes"); }
}
`,
  "Assets/Scripts/Pushes.cs.meta": meta("5b1f00d4c3a29e870000000000197fa7"),
  "Assets/Main.unity": scene([{ name: "Main", scripts: [["5b1f00d4c3a29e8700000000001960b8", true, "  map: {fileID: 0}\n"]] }]),
  "Assets/Main.unity.meta": meta(
    "5b1f00d4c3a29e870000000000184a51",
    `DefaultImporter:
`,
  ),
  "Assets/Plugins/Android/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="com.Maresia.TidePuzzle">
    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
    <application>
        <activity android:name="com.unity3d.player.UnityPlayerActivity" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
            <meta-data android:name="unityplayer.UnityActivity" android:value="true" />
        </activity>
        <meta-data android:name="example.quaymap.KEY" android:value="qm_55ee66ff" />
    </application>
</manifest>
`,
  "Assets/Plugins/Android/baseProjectTemplate.gradle": `// GENERATED BY UNITY. REMOVE THIS COMMENT TO PREVENT OVERWRITING WHEN EXPORTING AGAIN
allprojects {
    buildscript {
        repositories {**ARTIFACTORYREPOSITORY**
            google()
            mavenCentral()
        }
        dependencies {
            classpath 'com.android.tools.build:gradle:4.0.1'
            **BUILD_SCRIPT_DEPS**
        }
    }
    repositories {**ARTIFACTORYREPOSITORY**
        google()
        mavenCentral()
        flatDir {
            dirs "\${project(':unityLibrary').projectDir}/libs"
        }
    }
}
task clean(type: Delete) {
    delete rootProject.buildDir
}
`,
  "Assets/Plugins/Android/quaymapres.androidlib/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.maresia.res" />
`,
  "Assets/Plugins/Android/quaymapres.androidlib/assets/quaymap-services.json": `{ "package": "com.Maresia.TidePuzzle" }
`,
  "Assets/Plugins/iOS/libtide.a": `!<arch>
`,
  "Assets/Plugins/iOS/libtide.a.meta": `fileFormatVersion: 2
guid: 5b1f00d4c3a29e8700000000001bcb64
PluginImporter:
  serializedVersion: 2
  platformData:
    Any:
      enabled: 0
      settings: {}
    iOS:
      enabled: 1
      settings:
        CompileFlags: 
        FrameworkDependencies: 
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  unity: example.quaymap.unity
  maven: example.quaymap:quaymap-android
  cocoapods: QuaymapSDK
  binary: ["quaymap-*.aar", "Quaymap.framework"]
needs:
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, repository: "https://maven.quaymap.example/releases" }
  - { on: ios, queriedScheme: quaymap }
  - { on: ios, urlScheme: { key: mapKey, prefix: "quay-" } }
  - on: both
    key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [manifest: example.quaymap.KEY, plist: QuaymapKey], sameOnBothSides: true }
  - { on: shared, start: { shared: Quaymap.Prepare } }
  - { on: android, keepRule: "-keep class example.quaymap.** { *; }" }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: package } }
`,
};

/** A build script with helpers and tables, symbols of csc.rsp, objects made by code, events of scenes. */
export const scripted: Files = {
  "ProjectSettings/ProjectSettings.asset": settings({
    product: "Pilot",
    company: "Maresia",
    ids: "",
    mins: 25,
    target: 35,
    ios: "14.0",
    loc: "",
    minify: 0,
    flags: "",
    symbols: "    Android: \n    iPhone: \n    Standalone: STEAM\n",
  }),
  "ProjectSettings/ProjectVersion.txt": `m_EditorVersion: 2021.3.40f1
`,
  "ProjectSettings/EditorBuildSettings.asset": scenesInBuild([
    [true, "Assets/Boot.unity", "5b1f00d4c3a29e870000000000245fad"],
    [true, "Assets/Menu.unity", "5b1f00d4c3a29e870000000000247e9c"],
    [false, "Assets/Playground.unity", "5b1f00d4c3a29e870000000000249d8b"],
  ]),
  "Packages/manifest.json": json({
    dependencies: { "com.unity.textmeshpro": "3.0.6", "com.unity.test-framework": "1.1.33" },
    enableLockFile: false,
  }),
  "Assets/csc.rsp": `-define:MOORID_ON
-nowarn:0649
`,
  "Assets/Moorid/Editor/MooridDependencies.xml": `<dependencies>
  <androidPackages>
    <androidPackage spec="example.moorid:moorid:2.3.0" />
  </androidPackages>
  <iosPods>
    <iosPod name="MooridKit" version="2.3.0" />
  </iosPods>
</dependencies>
`,
  "Assets/Moorid/Editor/MooridPost.cs": `#if UNITY_IOS
using System.Collections.Generic;
using System.IO;
using System.Linq;
using UnityEditor;
using UnityEditor.Callbacks;
using UnityEditor.iOS.Xcode;
using UnityEngine;

public class MooridPost
{
    private const string ClientId = "a1b2c3.moorid.example";
    static readonly Dictionary<string, string> Entries = new Dictionary<string, string>
    {
        { "MooridClientId", ClientId },
        { "MooridMode", "full" },
    };

    [PostProcessBuild]
    static void OnBuilt(BuildTarget buildTarget, string buildPath)
    {
        if (buildTarget == BuildTarget.iOS)
        {
            EditPlist(Path.Combine(buildPath, "Info.plist"));
            EditProject(buildPath);
        }
    }

    static void EditPlist(string file)
    {
        var doc = new PlistDocument();
        doc.ReadFromString(File.ReadAllText(file));
        foreach (var entry in Entries)
            doc.root.SetString(entry.Key, entry.Value);

        var schemes = doc.root.values.ContainsKey("LSApplicationQueriesSchemes")
            ? doc.root["LSApplicationQueriesSchemes"].AsArray()
            : doc.root.CreateArray("LSApplicationQueriesSchemes");
        if (!schemes.values.Any(value => value.AsString() == "moorid"))
            schemes.AddString("moorid");

        AddUrlType(doc.root, "moorid", string.Join(".", ClientId.Split('.').Reverse()));
        doc.WriteToFile(file);
        Debug.Log($"moorid: edited {file}");
    }

    static void AddUrlType(PlistElementDict root, string name, params string[] schemes)
    {
        PlistElementArray types;
        if (root.values.TryGetValue("CFBundleURLTypes", out var element)) types = element.AsArray();
        else types = root.CreateArray("CFBundleURLTypes");
        var type = types.AddDict();
        type.SetString("CFBundleURLName", name);
        var list = type.CreateArray("CFBundleURLSchemes");
        foreach (var scheme in schemes) list.AddString(scheme);
    }

    static void EditProject(string buildPath)
    {
        string projectPath = PBXProject.GetPBXProjectPath(buildPath);
        var project = new PBXProject();
        project.ReadFromString(File.ReadAllText(projectPath));
#if UNITY_2019_3_OR_NEWER
        string target = project.GetUnityMainTargetGuid();
#else
        string target = project.TargetGuidByName("Unity-iPhone");
#endif
        project.SetBuildProperty(target, "CODE_SIGN_ALLOW_ENTITLEMENTS_MODIFICATION", "YES");
        File.WriteAllText(projectPath, project.WriteToString());

        var capabilities = new ProjectCapabilityManager(projectPath, "Pilot.entitlements", targetGuid: target);
        capabilities.AddAssociatedDomains(new[] { "applinks:pilot.maresia.example" });
        capabilities.WriteToFile();
    }
}
#endif
`,
  "Assets/Moorid/Runtime/Moorid.cs": `public static class Moorid
{
    public static void Configure(string id) { }
    public static void Enter() { }
}
`,
  "Assets/Scripts/Startup.cs": `using UnityEngine;

public static class Startup
{
    [RuntimeInitializeOnLoadMethod(RuntimeInitializeLoadType.BeforeSceneLoad)]
    private static void Run()
    {
#if MOORID_ON
        Moorid.Configure("a1b2c3.moorid.example");
#endif
#if STEAM
        Debug.Log("desktop");
#endif
        var services = new GameObject("Services", typeof(Services));
        Object.DontDestroyOnLoad(services);
    }
}
`,
  "Assets/Scripts/Services.cs": `using UnityEngine;

public class Services : MonoBehaviour
{
    void Start() { Debug.Log("services"); }
}
`,
  "Assets/Scripts/Services.cs.meta": meta("5b1f00d4c3a29e870000000000257614"),
  "Assets/Scripts/Door.cs": `using UnityEngine;

public class Door : Panel
{
    [SerializeField] GameObject inner;
    public void Open() { inner.SetActive(true); Moorid.Enter(); }
}
`,
  "Assets/Scripts/Door.cs.meta": meta("5b1f00d4c3a29e870000000000259503"),
  "Assets/Scripts/Panel.cs": `using UnityEngine;

public abstract class Panel : MonoBehaviour
{
    public void Close() { gameObject.SetActive(false); }
}
`,
  "Assets/Scripts/Panel.cs.meta": meta("5b1f00d4c3a29e87000000000025b3f2"),
  "Assets/Boot.unity": scene([{ name: "Main Camera" }]),
  "Assets/Boot.unity.meta": meta(
    "5b1f00d4c3a29e870000000000245fad",
    `DefaultImporter:
`,
  ),
  "Assets/Menu.unity": scene([
    { name: "Door", scripts: [["5b1f00d4c3a29e870000000000259503", true, "  inner: {fileID: 0}\n"]] },
    {
      name: "Button",
      scripts: [
        [
          "fe87c0e1cc204ed48ad3b37840f39efc",
          true,
          "  m_OnClick:\n    m_PersistentCalls:\n      m_Calls:\n      - m_Target: {fileID: 1002}\n        m_TargetAssemblyTypeName: Door, Assembly-CSharp\n        m_MethodName: Open\n        m_Mode: 1\n      - m_Target: {fileID: 1002}\n        m_TargetAssemblyTypeName: Door, Assembly-CSharp\n        m_MethodName: Close\n        m_Mode: 1\n      - m_Target: {fileID: 1000}\n        m_TargetAssemblyTypeName: UnityEngine.GameObject, UnityEngine\n        m_MethodName: SetActive\n        m_Mode: 6\n      - m_Target: {fileID: 1002}\n        m_TargetAssemblyTypeName: Door, Assembly-CSharp\n        m_MethodName: set_enabled\n        m_Mode: 6\n",
        ],
      ],
    },
  ]),
  "Assets/Menu.unity.meta": meta(
    "5b1f00d4c3a29e870000000000247e9c",
    `DefaultImporter:
`,
  ),
  "Assets/Playground.unity": scene([{ name: "X" }]),
  "Assets/Playground.unity.meta": meta(
    "5b1f00d4c3a29e870000000000249d8b",
    `DefaultImporter:
`,
  ),
  "Assets/Tests/Tests.asmdef": json({
    name: "Tests",
    references: ["UnityEngine.TestRunner", "UnityEditor.TestRunner"],
    includePlatforms: ["Editor"],
    defineConstraints: ["UNITY_INCLUDE_TESTS"],
  }),
  "Assets/Tests/DoorTests.cs": `using NUnit.Framework;

public class DoorTests { [Test] public void Opens() { Moorid.Configure("test"); } }
`,
  "Assets/Plugins/Android/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools">
    <application>
        <activity android:name="com.unity3d.player.UnityPlayerActivity" android:theme="@style/UnityThemeSelector" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
            <meta-data android:name="unityplayer.UnityActivity" android:value="true" />
        </activity>
        <meta-data android:name="example.moorid.CLIENT" android:value="a1b2c3.moorid.example" />
        <activity android:name="example.moorid.ReturnActivity" android:exported="true" />
    </application>
</manifest>
`,
  "Assets/Plugins/iOS/Keep.m": `#import <Foundation/Foundation.h>
`,
  "Assets/Plugins/iOS/Keep.m.meta": meta(
    "5b1f00d4c3a29e87000000000027e0c0",
    `PluginImporter:
  serializedVersion: 2
  platformData:
  - first:
      : Any
    second:
      enabled: 0
      settings:
        Exclude Android: 1
        Exclude iOS: 0
  - first:
      iPhone: iOS
    second:
      enabled: 1
      settings:
        FrameworkDependencies: StoreKit;
`,
  ),
  "Assets/Plugins/macOS/Helper.mm": `#import <AppKit/AppKit.h>
`,
  "Assets/Plugins/macOS/Helper.mm.meta": meta(
    "5b1f00d4c3a29e87000000000027ffaf",
    `PluginImporter:
  serializedVersion: 2
  platformData:
  - first:
      iPhone: iOS
    second:
      enabled: 0
      settings: {}
  - first:
      Standalone: OSXUniversal
    second:
      enabled: 1
      settings: {}
`,
  ),
  "Assets/Plugins/Android/look.androidlib/build.gradle": `apply plugin: 'com.android.library'
android {
    namespace "example.maresia.look"
}
`,
  "enredo/sheets/moorid.sdk.yaml": `sdk: moorid
packages:
  unity: example.moorid.unity
  cocoapods: MooridKit
  maven: example.moorid:moorid
needs:
  - { on: ios, urlScheme: { key: clientId, reversed: true } }
  - { on: both, key: { name: clientId, shape: "[0-9a-z]+\\\\.moorid\\\\.example", in: [manifest: example.moorid.CLIENT, plist: MooridClientId], sameOnBothSides: true } }
  - { on: ios, entitlement: com.apple.developer.associated-domains }
  - { on: ios, plistEntry: { key: MooridMode, value: full } }
  - { on: ios, queriedScheme: moorid }
  - { on: android, manifestEntry: { element: activity, name: example.moorid.ReturnActivity } }
  - { on: shared, start: { shared: Moorid.Configure, at: launch } }
`,
};

/** A package in the cache, nested prefabs, assemblies with a reference file, a library folder with its own manifest. */
export const nested: Files = {
  "ProjectSettings/ProjectSettings.asset": settings({
    product: "Lighthouse",
    ids: "    Android: example.maresia.lighthouse\n    iPhone: example.maresia.lighthouse.ios\n",
    mins: 26,
    ios: "15.0",
    minify: 1,
    loc: "Where is the light?",
    flags: "  useCustomMainManifest: 0\n  useCustomMainGradleTemplate: 0\n  useCustomProguardFile: 0\n",
    symbols: "    Android: LIGHT\n    iPhone: LIGHT\n",
    bg: "  iosAppInBackgroundBehavior: -1\n  iOSBackgroundModes: 257\n",
    schemes: "  iOSURLSchemes:\n  - lighthouse\n  - lh2\n",
  }),
  "ProjectSettings/ProjectVersion.txt": `m_EditorVersion: 2022.3.45f1
`,
  "ProjectSettings/EditorBuildSettings.asset": scenesInBuild([
    [true, "Assets/_Game/Scenes/Loader.unity", "5b1f00d4c3a29e870000000000307509"],
  ]),
  "Packages/manifest.json": json({
    dependencies: { "com.unity.textmeshpro": "3.0.9", "example.tidewire.unity": "1.4.0" },
    scopedRegistries: [{ name: "Tidewire", url: "https://npm.tidewire.example", scopes: ["example.tidewire", "example.other"] }],
    testables: ["com.unity.textmeshpro"],
  }),
  "Packages/packages-lock.json": json({
    dependencies: {
      "com.unity.textmeshpro": { version: "3.2.0", depth: 0, source: "registry", dependencies: {}, url: "https://packages.unity.com" },
      "example.tidewire.unity": { version: "1.4.0", depth: 0, source: "registry", dependencies: {}, url: "https://npm.tidewire.example" },
    },
  }),
  "Library/PackageCache/example.tidewire.unity@1.4.0/package.json": json({
    name: "example.tidewire.unity",
    version: "1.4.0",
    unity: "2020.3",
  }),
  "Library/PackageCache/example.tidewire.unity@1.4.0/Runtime/Tidewire.asmdef": json({ name: "Tidewire" }),
  "Library/PackageCache/example.tidewire.unity@1.4.0/Runtime/Tidewire.cs": `namespace TidewireSdk
{
    public static class Tidewire
    {
        public static void Open(string key) {}
        public static void Push() {}
    }
}
`,
  "Library/PackageCache/example.tidewire.unity@1.4.0/Editor/TidewireDependencies.xml": `<dependencies>
  <androidPackages>
    <androidPackage spec="example.tidewire:tidewire:1.4.0" />
  </androidPackages>
  <iosPods>
    <iosPod name="Tidewire" version="1.4.0" minTargetSdk="13.0" />
  </iosPods>
</dependencies>
`,
  "Library/PackageCache/example.tidewire.unity@1.4.0/Editor/Post.cs": `using UnityEditor;
using UnityEditor.Callbacks;
using UnityEditor.iOS.Xcode;
namespace TidewireSdk.Editor
{
    static class Post
    {
        [PostProcessBuild(999)]
        public static void Do(BuildTarget t, string p)
        {
            if (t != BuildTarget.iOS) { return; }
            var proj = new PBXProject();
            var pp = PBXProject.GetPBXProjectPath(p);
            proj.ReadFromFile(pp);
            var fw = proj.GetUnityFrameworkTargetGuid();
            proj.AddFrameworkToProject(fw, "Network.framework", weak: true);
            proj.AddBuildProperty(fw, "OTHER_LDFLAGS", "-ObjC");
            proj.WriteToFile(pp);
        }
    }
}
`,
  "Assets/_Game/Game.asmdef": json({
    name: "Game",
    references: ["Tidewire"],
    autoReferenced: true,
    versionDefines: [{ name: "com.unity.addressables", expression: "1.0", define: "HAS_ADDRESSABLES" }],
  }),
  "Assets/_Game/Loader.cs": `using System;
using System.Collections;
using TidewireSdk;
using UnityEngine;
using UnityEngine.SceneManagement;

namespace Game
{
    public class Loader : MonoBehaviour
    {
        private Coroutine running;
        private void OnEnable() => running = StartCoroutine(Begin());
        private IEnumerator Begin()
        {
            yield return Wait();
            Tidewire.Open(Keys.Tide);
#if HAS_ADDRESSABLES
            Debug.Log("addressables");
#endif
            SceneManager.LoadScene("Loader");
        }
        private IEnumerator Wait() { yield return new WaitForSecondsRealtime(0.1f); }
        public void Send(int value) { if (Application.platform == RuntimePlatform.Android) Tidewire.Push(); }
    }
}
`,
  "Assets/_Game/Loader.cs.meta": meta("5b1f00d4c3a29e870000000000318b70"),
  "Assets/_Game/Data/Keys.cs": `namespace Game
{
    internal static class Keys
    {
        public const string Tide = "tw_00112233";
    }
}
`,
  "Assets/_Game/Ui/Ui.asmdef": json({ name: "Game.Ui", references: ["Game"] }),
  "Assets/_Game/Ui/Hud.cs": `using Game;
using UnityEngine;

namespace Game.Ui
{
    [RequireComponent(typeof(Loader))]
    public class Hud : MonoBehaviour
    {
        public void Refresh(string text) { }
        public bool Shown { get; set; }
    }
}
`,
  "Assets/_Game/Ui/Hud.cs.meta": meta("5b1f00d4c3a29e87000000000031aa5f"),
  "Assets/_Extra/Extra.asmref": json({ reference: "Game.Ui" }),
  "Assets/_Extra/HudMore.cs": `using Game;

namespace Game.Ui
{
    public static class HudMore { public static string Name => nameof(Loader); }
}
`,
  "Assets/_Game/Prefabs/Hud.prefab": scene([
    {
      name: "Hud",
      scripts: [
        ["5b1f00d4c3a29e87000000000031aa5f", true, ""],
        [
          "fe87c0e1cc204ed48ad3b37840f39efc",
          true,
          "  m_OnValueChanged:\n    m_PersistentCalls:\n      m_Calls:\n      - m_Target: {fileID: 1002}\n        m_TargetAssemblyTypeName: Game.Ui.Hud, Game.Ui\n        m_MethodName: Refresh\n        m_Mode: 0\n      - m_Target: {fileID: 1002}\n        m_TargetAssemblyTypeName: Game.Ui.Hud, Game.Ui\n        m_MethodName: set_Shown\n        m_Mode: 6\n",
        ],
      ],
    },
  ]),
  "Assets/_Game/Prefabs/Hud.prefab.meta": meta(
    "5b1f00d4c3a29e87000000000032c0c6",
    `PrefabImporter:
`,
  ),
  "Assets/_Game/Prefabs/Root.prefab":
    scene([{ name: "Root", scripts: [["5b1f00d4c3a29e870000000000318b70", true, ""]] }]) +
    `--- !u!1001 &6000
PrefabInstance:
  m_ObjectHideFlags: 0
  m_Modification:
    m_TransformParent: {fileID: 1001}
    m_Modifications:
    - target: {fileID: 1000, guid: 5b1f00d4c3a29e87000000000032c0c6, type: 3}
      propertyPath: m_Name
      value: Hud
      objectReference: {fileID: 0}
  m_SourcePrefab: {fileID: 100100000, guid: 5b1f00d4c3a29e87000000000032c0c6, type: 3}
`,
  "Assets/_Game/Prefabs/Root.prefab.meta": meta(
    "5b1f00d4c3a29e87000000000032dfb5",
    `PrefabImporter:
`,
  ),
  "Assets/_Game/Scenes/Loader.unity":
    scene([{ name: "Main Camera" }]) +
    `--- !u!1001 &7000
PrefabInstance:
  m_ObjectHideFlags: 0
  m_Modification:
    m_TransformParent: {fileID: 0}
    m_Modifications:
    - target: {fileID: 1000, guid: 5b1f00d4c3a29e87000000000032dfb5, type: 3}
      propertyPath: m_Name
      value: Root
      objectReference: {fileID: 0}
    - target: {fileID: 1000, guid: 5b1f00d4c3a29e87000000000032dfb5, type: 3}
      propertyPath: m_IsActive
      value: 1
      objectReference: {fileID: 0}
  m_SourcePrefab: {fileID: 100100000, guid: 5b1f00d4c3a29e87000000000032dfb5, type: 3}
`,
  "Assets/_Game/Scenes/Loader.unity.meta": meta(
    "5b1f00d4c3a29e870000000000307509",
    `DefaultImporter:
`,
  ),
  "Assets/Plugins/Android/Tide.androidlib/src/main/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android">
    <uses-permission android:name="android.permission.BLUETOOTH_CONNECT" />
    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
    <application>
        <meta-data android:name="example.tidewire.KEY" android:value="tw_00112233" />
        <receiver android:name="example.tidewire.Receiver" android:exported="false" />
    </application>
</manifest>
`,
  "Assets/Plugins/Android/Tide.androidlib/build.gradle": `plugins {
    id 'com.android.library'
}
android {
    namespace 'example.maresia.tide'
    compileSdk 35
}
`,
  "Assets/Plugins/Android/Tide.androidlib/src/main/assets/tidewire.json": `{ "package_name": "example.maresia.lighthouse" }
`,
  "Assets/Plugins/iOS/readme.txt": `native code for iOS comes with packages
`,
  "enredo/sheets/tidewire.sdk.yaml": `sdk: tidewire
packages:
  unity: example.tidewire.unity
  maven: example.tidewire:tidewire
  cocoapods: Tidewire
needs:
  - { on: android, permission: android.permission.BLUETOOTH_CONNECT }
  - { on: android, manifestEntry: { element: receiver, name: example.tidewire.Receiver } }
  - { on: android, key: { name: tideKey, shape: "tw_[0-9a-f]{8}", in: [manifest: example.tidewire.KEY] } }
  - { on: android, serviceFile: { name: tidewire.json, idKey: package_name } }
  - { on: ios, backgroundMode: audio }
  - { on: ios, urlScheme: lighthouse }
  - { on: ios, linkerFlag: "-ObjC" }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: shared, start: { shared: Tidewire.Open, at: firstScreen } }
  - { on: shared, use: { shared: Tidewire.Push } }
`,
};
