import { describe, expect, it } from "vitest";
import { earlier, nested, packaged, scripted, unpacked } from "../helpers/unity-apps.js";
import { reportOf } from "../helpers/memory.js";
import { expectTold, type Changes, type Files } from "../helpers/mistakes.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string];

const MISTAKES: Mistake[] = [
  [
    "min level under the SDK's",
    packaged,
    [["ProjectSettings/ProjectSettings.asset", "AndroidMinSdkVersion: 24", "AndroidMinSdkVersion: 22"]],
    "level/below-need",
  ],
  [
    "iOS level under the SDK's",
    packaged,
    [["ProjectSettings/ProjectSettings.asset", "VersionString: 15.0", "VersionString: 13.0"]],
    "level/below-need",
  ],
  [
    "iOS level under the list's",
    packaged,
    [["LocalPackages/com.maresia.charts/Editor/ChartsDependencies.xml", 'minTargetSdk="14.0"', 'minTargetSdk="16.0"']],
    "level/below-need",
  ],
  [
    "level fixed in the Gradle template",
    packaged,
    [["Assets/Plugins/Android/mainTemplate.gradle", "minSdk **MINSDK**", "minSdk 21"]],
    "level/.*|project/config-apart",
  ],
  [
    "target over the compile level in the template",
    packaged,
    [["Assets/Plugins/Android/mainTemplate.gradle", "compileSdk **APIVERSION**", "compileSdk 33"]],
    "level/.*",
  ],
  [
    "editor older than a package wants",
    packaged,
    [["LocalPackages/com.maresia.charts/package.json", '"unity": "2021.3"', '"unity": "2023.1"']],
    "level/.*|version/.*",
  ],
  [
    "lock behind",
    packaged,
    [["Packages/manifest.json", '"example.brinelog.unity": "3.0.1"', '"example.brinelog.unity": "3.1.0"']],
    "version/lock-stale",
  ],
  [
    "package without lock entry",
    packaged,
    [["Packages/manifest.json", '"com.unity.modules.ui"', '"example.brinelog.ads": "1.0.0",\n    "com.unity.modules.ui"']],
    "version/lock-stale",
  ],
  ["git revision raised, lock not", packaged, [["Packages/manifest.json", "#v2.1.0", "#v2.2.0"]], "version/lock-stale"],
  [
    "scope of the registry does not cover",
    packaged,
    [["Packages/manifest.json", '"example.brinelog"\n', '"example.brine"\n']],
    "source/.*",
  ],
  [
    "plain http registry",
    packaged,
    [["Packages/manifest.json", "https://packages.brinelog.example", "http://packages.brinelog.example"]],
    "source/insecure",
  ],
  [
    "local package nowhere",
    packaged,
    [["Packages/manifest.json", "file:../LocalPackages/com.maresia.charts", "file:../LocalPackage/com.maresia.charts"]],
    "source/.*",
  ],
  ["tarball nowhere", packaged, "Packages/tools-1.4.0.tgz", "source/.*"],
  [
    "local package of one machine",
    packaged,
    [["Packages/manifest.json", "file:../LocalPackages/com.maresia.charts", "file:/Users/me/charts"]],
    "source/outside-project",
  ],
  [
    "embedded package needs a newer one",
    packaged,
    [["Packages/com.maresia.sea/package.json", '"com.unity.textmeshpro": "3.0.6"', '"com.unity.textmeshpro": "3.2.0"']],
    "version/.*",
  ],
  [
    "two lists with different versions",
    packaged,
    [["Assets/Editor/PodDependencies.xml", "</iosPods>", '<iosPod name="Charts" version="~> 2.0" />\n  </iosPods>']],
    "version/.*",
  ],
  [
    "Maven in list and template apart",
    packaged,
    [
      [
        "LocalPackages/com.maresia.charts/Editor/ChartsDependencies.xml",
        "example.charts:charts:1.1.0",
        "example.quaymap:quaymap-android:4.1.0",
      ],
    ],
    "version/.*",
  ],
  ["pod of an SDK apart from Android", packaged, [["Assets/Editor/PodDependencies.xml", '"~> 4.2"', '"~> 3.0"']], "version/.*"],
  [
    "floating in a list",
    packaged,
    [["LocalPackages/com.maresia.charts/Editor/ChartsDependencies.xml", "charts:1.1.0", "charts:1.+"]],
    "version/floating",
  ],
  [
    "Maven repository of an SDK lost",
    packaged,
    [
      [
        "Assets/Plugins/Android/settingsTemplate.gradle",
        '        maven {\n            url "https://maven.quaymap.example/releases"\n        }\n',
        "",
      ],
    ],
    "source/repository-missing",
  ],
  [
    "repository of the list lost",
    earlier,
    [["Assets/Quaymap/Editor/QuaymapDependencies.xml", "<repository>https://maven.quaymap.example/releases</repository>", ""]],
    "source/repository-missing",
  ],
  [
    "assembly reference by name lost",
    packaged,
    [["Assets/Sdk/Maresia.Sdk.asmdef", '"Maresia.Sdk"', '"Maresia.Kit"']],
    "native/.*|source/.*|start/.*",
  ],
  [
    "assembly reference by guid lost",
    packaged,
    [["Packages/com.maresia.sea/Runtime/Maresia.Sea.asmdef.meta", "5b1f00d4c3a29e870000000000026b56", "5b1f00d4c3a29e870000000000028a45"]],
    "native/.*|source/.*|start/.*",
  ],
  [
    "code uses an assembly that is not referenced",
    packaged,
    [["Assets/Scripts/Maresia.Game.asmdef", '    "Maresia.Charts",\n    "Maresia.Sdk"\n', '    "Maresia.Charts"\n']],
    "source/.*|start/.*|native/.*",
  ],
  ["assembly leaves out iOS", packaged, [["Assets/Scripts/Maresia.Game.asmdef", '"WebGL"', '"iOS"']], "native/.*|parity/.*"],
  [
    "SDK's assembly for Android and editor only",
    unpacked,
    [["games/regatta/Assets/Tollbuoy/Runtime/Tollbuoy.asmdef", '    "iOS",\n', ""]],
    "native/.*|parity/.*|source/.*",
  ],
  [
    "assembly for the editor only",
    packaged,
    [
      ["Assets/Scripts/Maresia.Game.asmdef", '"includePlatforms": []', '"includePlatforms": ["Editor"]'],
      ["Assets/Scripts/Maresia.Game.asmdef", '"excludePlatforms": [\n    "WebGL"\n  ]', '"excludePlatforms": []'],
    ],
    "start/missing|native/.*",
  ],
  ["start under an editor folder", packaged, { moved: ["Assets/Scripts/Boot.cs", "Assets/Scripts/Editor/Boot.cs"] }, "start/.*"],
  [
    "start behind a symbol of one side",
    packaged,
    [
      [
        "Assets/Scripts/Boot.cs",
        "            Brinelog.Start(channel);\n",
        "#if UNITY_ANDROID\n            Brinelog.Start(channel);\n#endif\n",
      ],
    ],
    "start/.*",
  ],
  [
    "start behind a symbol that iOS lacks",
    packaged,
    [
      ["Assets/Scripts/Boot.cs", "            Brinelog.Start(channel);\n", "#if BRINE\n            Brinelog.Start(channel);\n#endif\n"],
      ["ProjectSettings/ProjectSettings.asset", "    Android: TIDE_ADS\n", "    Android: TIDE_ADS;BRINE\n"],
    ],
    "start/.*",
  ],
  [
    "start behind a symbol that nothing defines",
    packaged,
    [["Assets/Scripts/Boot.cs", "            Brinelog.Start(channel);\n", "#if BRINELOG\n            Brinelog.Start(channel);\n#endif\n"]],
    "start/.*",
  ],
  [
    "start in the editor only",
    packaged,
    [
      [
        "Assets/Scripts/Boot.cs",
        "            Brinelog.Start(channel);\n",
        "#if UNITY_EDITOR\n            Brinelog.Start(channel);\n#endif\n",
      ],
    ],
    "start/.*",
  ],
  [
    "script in no scene",
    packaged,
    [["Assets/Scenes/Start.unity", "5b1f00d4c3a29e870000000000013600", "5b1f00d4c3a29e8700000000000154ef"]],
    "start/.*",
  ],
  [
    "object switched off",
    packaged,
    [
      [
        "Assets/Scenes/Start.unity",
        "m_Name: Boot\n  m_TagString: Untagged\n  m_IsActive: 1",
        "m_Name: Boot\n  m_TagString: Untagged\n  m_IsActive: 0",
      ],
    ],
    "start/.*",
  ],
  ["component switched off (Start)", earlier, [["Assets/Main.unity", "m_Enabled: 1", "m_Enabled: 0"]], "start/.*"],
  [
    "scene not in the build",
    packaged,
    [
      [
        "ProjectSettings/EditorBuildSettings.asset",
        "  - enabled: 1\n    path: Assets/Scenes/Start.unity",
        "  - enabled: 0\n    path: Assets/Scenes/Start.unity",
      ],
    ],
    "start/.*",
  ],
  [
    "prefab not in the scene",
    unpacked,
    [["games/regatta/Assets/Scenes/Start.unity", "5b1f00d4c3a29e8700000000000fb608", "5b1f00d4c3a29e8700000000000fd4f7"]],
    "start/.*",
  ],
  [
    "coroutine called and not started",
    packaged,
    [["Assets/Scripts/Boot.cs", "yield return StartCoroutine(Register());", "Register();"]],
    "start/.*",
  ],
  ["coroutine by a wrong name", earlier, [["Assets/Scripts/Main.cs", 'StartCoroutine("Boot")', 'StartCoroutine("Boots")']], "start/.*"],
  [
    "button's method renamed",
    unpacked,
    [["games/regatta/Assets/Game/Payments.cs", "public void Buy()", "public void BuyTicket()"]],
    "native/.*|start/.*|source/.*|parity/.*|project/.*",
  ],
  [
    "on-load method not static",
    packaged,
    [
      [
        "Assets/Scripts/Boot.cs",
        "        private void Awake()\n        {\n            DontDestroyOnLoad(gameObject);\n            Brinelog.Start(channel);\n        }\n",
        "        [RuntimeInitializeOnLoadMethod]\n        private void Prepare()\n        {\n            Brinelog.Start(channel);\n        }\n",
      ],
    ],
    "start/.*",
  ],
  [
    "order of starts turned",
    packaged,
    [
      [
        "Assets/Scripts/Boot.cs",
        "            Brinelog.Start(channel);\n",
        "            Gullpost.Register();\n            Brinelog.Start(channel);\n",
      ],
      [
        "Assets/Scripts/Boot.cs",
        "            yield return new WaitForSeconds(1f);\n            Gullpost.Register();\n",
        "            yield return null;\n",
      ],
    ],
    "start/order",
  ],
  ["start lost", packaged, [["Assets/Scripts/Boot.cs", "            Brinelog.Start(channel);\n", ""]], "start/missing"],
  [
    "purpose text lost",
    packaged,
    [["ProjectSettings/ProjectSettings.asset", "locationUsageDescription: Shows the harbours near you.", "locationUsageDescription: "]],
    "permit/purpose-missing",
  ],
  [
    "purpose text lost, no scripts",
    unpacked,
    [["games/regatta/ProjectSettings/ProjectSettings.asset", "cameraUsageDescription: Scans the ticket.", "cameraUsageDescription: "]],
    "permit/purpose-missing",
  ],
  [
    "URL scheme lost",
    unpacked,
    [["games/regatta/ProjectSettings/ProjectSettings.asset", "  iOSURLSchemes:\n  - regatta-pay\n", "  iOSURLSchemes: []\n"]],
    "permit/.*",
  ],
  [
    "URL scheme misspelt",
    unpacked,
    [["games/regatta/ProjectSettings/ProjectSettings.asset", "  - regatta-pay\n", "  - regata-pay\n"]],
    "permit/.*",
  ],
  ["URL scheme of another key", packaged, [["Assets/Editor/BuildSteps.cs", '"quay-" + MapKey', '"quay-" + Key']], "permit/.*"],
  [
    "background mode lost",
    unpacked,
    [["games/regatta/ProjectSettings/ProjectSettings.asset", "iOSBackgroundModes: 256", "iOSBackgroundModes: 1"]],
    "permit/entry-missing",
  ],
  ["queried scheme lost", earlier, [["Assets/Quaymap/Editor/QuaymapPost.cs", '"quaymap", "harbours"', '"harbours"']], "permit/.*"],
  [
    "property list not written",
    packaged,
    [["Assets/Editor/BuildSteps.cs", "            plist.WriteToFile(plistPath);\n", ""]],
    "permit/.*|key/.*|native/.*",
  ],
  [
    "script for the wrong target",
    packaged,
    [["Assets/Editor/BuildSteps.cs", "if (target != BuildTarget.iOS) return;", "if (target == BuildTarget.iOS) return;"]],
    "permit/.*|key/.*",
  ],
  [
    "attribute of the script lost",
    packaged,
    [["Assets/Editor/BuildSteps.cs", "        [PostProcessBuild(100)]\n", ""]],
    "permit/.*|key/.*",
  ],
  ["keys apart", packaged, [["Assets/Editor/BuildSteps.cs", '"bl_0a1b2c3d"', '"bl_0a1b2c3e"']], "key/.*"],
  [
    "key of an instruction",
    earlier,
    [["Assets/Quaymap/Editor/QuaymapPost.cs", '"QuaymapKey", "qm_55ee66ff"', '"QuaymapKey", "YOUR_MAP_KEY"']],
    "key/.*",
  ],
  [
    "framework of the SDK lost",
    unpacked,
    [["games/regatta/Assets/Tollbuoy/Plugins/iOS/TollbuoyBridge.mm.meta", "PassKit;UIKit;", "UIKit;"]],
    "native/framework-missing",
  ],
  [
    "not embedded",
    unpacked,
    [
      [
        "games/regatta/Assets/Tollbuoy/Plugins/iOS/Tollbuoy.xcframework.meta",
        "AddToEmbeddedBinaries: true",
        "AddToEmbeddedBinaries: false",
      ],
    ],
    "native/not-embedded",
  ],
  [
    "permission lost",
    packaged,
    [
      [
        "Assets/Plugins/Android/AndroidManifest.xml",
        '    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n',
        "",
      ],
    ],
    "permit/permission-missing",
  ],
  [
    "service lost",
    packaged,
    [
      [
        "Assets/Plugins/Android/AndroidManifest.xml",
        '        <service android:name="example.gullpost.MessageService" android:exported="false" />\n',
        "",
      ],
    ],
    "permit/entry-missing",
  ],
  ["keep rule lost", packaged, [["Assets/Plugins/Android/proguard-user.txt", "-keep class example.quaymap.** { *; }\n", ""]], "keep/.*"],
  [
    "rules file switched off",
    packaged,
    { moved: ["Assets/Plugins/Android/proguard-user.txt", "Assets/Plugins/Android/proguard-user.txt.DISABLED"] },
    "keep/.*",
  ],
  ["template does not take the rules", packaged, [["Assets/Plugins/Android/mainTemplate.gradle", "**USER_PROGUARD**", ""]], "keep/.*"],
  [
    "main manifest switched off",
    packaged,
    { moved: ["Assets/Plugins/Android/AndroidManifest.xml", "Assets/Plugins/Android/AndroidManifest.xml.DISABLED"] },
    "permit/.*|key/.*",
  ],
  [
    "archive switched off for Android",
    unpacked,
    [
      [
        "games/regatta/Assets/Tollbuoy/Plugins/Android/tollbuoy-5.1.0.aar.meta",
        "Android: Android\n    second:\n      enabled: 1",
        "Android: Android\n    second:\n      enabled: 0",
      ],
    ],
    "native/left-out",
  ],
  [
    "bridge switched off for iOS",
    packaged,
    [
      [
        "Assets/Plugins/iOS/QuaymapBridge.mm.meta",
        "iPhone: iOS\n    second:\n      enabled: 1",
        "iPhone: iOS\n    second:\n      enabled: 0",
      ],
    ],
    "native/.*|parity/.*",
  ],
  [
    "bridge function renamed on iOS",
    packaged,
    [["Assets/Plugins/iOS/QuaymapBridge.mm", "void quaymap_show", "void quaymap_show_map"]],
    "native/.*|parity/.*|source/.*",
  ],
  [
    "bridge class renamed on Android",
    packaged,
    [["Assets/Scripts/QuaymapBridge.cs", "example.maresia.tidegame.MapBridge", "example.maresia.tidegame.MapsBridge"]],
    "native/.*|parity/.*|source/.*",
  ],
  [
    "service file of another app",
    packaged,
    [["Assets/Plugins/Android/Settings.androidlib/assets/quaymap-services.json", "example.maresia.tidegame", "example.maresia.tides"]],
    "identity/service-file-mismatch",
  ],
  [
    "service file beside the folder",
    packaged,
    { moved: ["Assets/Plugins/Android/Settings.androidlib/assets/quaymap-services.json", "Assets/Plugins/quaymap-services.json"] },
    "identity/.*|key/missing",
  ],
  [
    "ids of the sides apart",
    packaged,
    [["ProjectSettings/ProjectSettings.asset", "iPhone: example.maresia.tidegame", "iPhone: example.maresia.tidgame"]],
    "identity/ids-differ",
  ],
  [
    "id of a new project",
    unpacked,
    [["games/regatta/ProjectSettings/ProjectSettings.asset", "Android: example.maresia.regatta", "Android: com.DefaultCompany.Regatta"]],
    "identity/.*",
  ],
  [
    "library folder without manifest",
    packaged,
    "Assets/Plugins/Android/Settings.androidlib/AndroidManifest.xml",
    "native/.*|source/.*|project/.*",
  ],
  [
    "service class misspelt in manifest",
    packaged,
    [["Assets/Plugins/Android/AndroidManifest.xml", "example.gullpost.MessageService", "example.gullpost.MessagesService"]],
    "permit/.*",
  ],
  [
    "dependencies mark lost in the template",
    packaged,
    [["Assets/Plugins/Android/mainTemplate.gradle", "**DEPS**", ""]],
    "native/.*|source/.*|project/.*",
  ],
  [
    "entry lost in the table",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", '        { "MooridMode", "full" },\n', ""]],
    "permit/entry-missing",
  ],
  [
    "other mode",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", '"MooridMode", "full"', '"MooridMode", "lite"']],
    "permit/entry-missing|permit/.*",
  ],
  [
    "client id of another app",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", '"a1b2c3.moorid.example"', '"a1b2c4.moorid.example"']],
    "key/.*",
  ],
  ["scheme not reversed", scripted, [["Assets/Moorid/Editor/MooridPost.cs", ".Reverse()", ""]], "permit/scheme"],
  [
    "scheme appended to the wrong list",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", 'type.CreateArray("CFBundleURLSchemes")', 'type.CreateArray("CFBundleURLScheme")']],
    "permit/scheme",
  ],
  [
    "query scheme misspelt",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", 'schemes.AddString("moorid")', 'schemes.AddString("morid")']],
    "permit/.*",
  ],
  [
    "capabilities not written",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", "        capabilities.WriteToFile();\n", ""]],
    "permit/entry-missing",
  ],
  [
    "script compiled for Android only",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", "#if UNITY_IOS\nusing System", "#if UNITY_ANDROID\nusing System"]],
    "key/missing|permit/.*",
  ],
  [
    "method of the script not static",
    scripted,
    [["Assets/Moorid/Editor/MooridPost.cs", "    static void OnBuilt", "    void OnBuilt"]],
    "key/missing|permit/.*",
  ],
  [
    "list replaced later",
    scripted,
    [
      [
        "Assets/Moorid/Editor/MooridPost.cs",
        "        doc.WriteToFile(file);",
        '        doc.root.CreateArray("CFBundleURLTypes");\n        doc.WriteToFile(file);',
      ],
    ],
    "permit/scheme",
  ],
  ["symbol lost in csc.rsp", scripted, [["Assets/csc.rsp", "-define:MOORID_ON", "-define:MOORID_OFF"]], "start/.*"],
  ["start only where desktop symbol", scripted, [["Assets/Scripts/Startup.cs", "#if MOORID_ON", "#if STEAM"]], "start/.*"],
  [
    "on load too late",
    scripted,
    [["Assets/Scripts/Startup.cs", "RuntimeInitializeLoadType.BeforeSceneLoad", "RuntimeInitializeLoadType.AfterSceneLoad"]],
    "start/too-late",
  ],
  [
    "attribute lost",
    scripted,
    [["Assets/Scripts/Startup.cs", "    [RuntimeInitializeOnLoadMethod(RuntimeInitializeLoadType.BeforeSceneLoad)]\n", ""]],
    "start/.*",
  ],
  ["event's method renamed in the base", scripted, [["Assets/Scripts/Panel.cs", "Close()", "Shut()"]], "project/handler-missing"],
  ["pods list lost version", scripted, [["Assets/Moorid/Editor/MooridDependencies.xml", ' version="2.3.0"', ""]], "version/floating"],
  [
    "list: sides apart",
    scripted,
    [["Assets/Moorid/Editor/MooridDependencies.xml", 'name="MooridKit" version="2.3.0"', 'name="MooridKit" version="1.9.0"']],
    "version/.*",
  ],
  [
    "library activity lost",
    scripted,
    [
      [
        "Assets/Plugins/Android/AndroidManifest.xml",
        '        <activity android:name="example.moorid.ReturnActivity" android:exported="true" />\n',
        "",
      ],
    ],
    "permit/entry-missing",
  ],
  [
    "source for iOS switched off",
    scripted,
    [["Assets/Plugins/iOS/Keep.m.meta", "iPhone: iOS\n    second:\n      enabled: 1", "iPhone: iOS\n    second:\n      enabled: 0"]],
    "native/.*",
  ],
  [
    "associated domains lost",
    scripted,
    [
      [
        "Assets/Moorid/Editor/MooridPost.cs",
        '        capabilities.AddAssociatedDomains(new[] { "applinks:pilot.maresia.example" });\n',
        "",
      ],
    ],
    "permit/entry-missing",
  ],
  [
    "library's permission lost",
    nested,
    [
      [
        "Assets/Plugins/Android/Tide.androidlib/src/main/AndroidManifest.xml",
        '    <uses-permission android:name="android.permission.BLUETOOTH_CONNECT" />\n',
        "",
      ],
    ],
    "permit/permission-missing",
  ],
  [
    "library's receiver lost",
    nested,
    [
      [
        "Assets/Plugins/Android/Tide.androidlib/src/main/AndroidManifest.xml",
        '        <receiver android:name="example.tidewire.Receiver" android:exported="false" />\n',
        "",
      ],
    ],
    "permit/entry-missing",
  ],
  [
    "key of another shape",
    nested,
    [["Assets/Plugins/Android/Tide.androidlib/src/main/AndroidManifest.xml", "tw_00112233", "tw_001122"]],
    "key/shape",
  ],
  [
    "service file of the iOS id",
    nested,
    [
      [
        "Assets/Plugins/Android/Tide.androidlib/src/main/assets/tidewire.json",
        "example.maresia.lighthouse",
        "example.maresia.lighthouse.ios",
      ],
    ],
    "identity/.*",
  ],
  [
    "library folder renamed",
    nested,
    {
      moved: [
        "Assets/Plugins/Android/Tide.androidlib/src/main/AndroidManifest.xml",
        "Assets/Plugins/Android/Tide.lib/src/main/AndroidManifest.xml",
      ],
    },
    "permit/.*|key/.*|identity/.*",
  ],
  [
    "audio mode lost",
    nested,
    [["ProjectSettings/ProjectSettings.asset", "iOSBackgroundModes: 257", "iOSBackgroundModes: 256"]],
    "permit/entry-missing",
  ],
  [
    "background behaviour not custom",
    nested,
    [["ProjectSettings/ProjectSettings.asset", "iosAppInBackgroundBehavior: -1", "iosAppInBackgroundBehavior: 0"]],
    "permit/entry-missing",
  ],
  ["scheme lost", nested, [["ProjectSettings/ProjectSettings.asset", "  - lighthouse\n", ""]], "permit/scheme"],
  [
    "level under the list's",
    nested,
    [["ProjectSettings/ProjectSettings.asset", "VersionString: 15.0", "VersionString: 12.0"]],
    "level/below-need",
  ],
  ["ui no longer refers to the game", nested, [["Assets/_Game/Ui/Ui.asmdef", '    "Game"\n', ""]], "source/declared-elsewhere"],
  [
    "prefab switched off in the scene",
    nested,
    [["Assets/_Game/Scenes/Loader.unity", "propertyPath: m_IsActive\n      value: 1", "propertyPath: m_IsActive\n      value: 0"]],
    "start/.*",
  ],
  [
    "loader's component off in the prefab",
    nested,
    [["Assets/_Game/Prefabs/Root.prefab", "m_GameObject: {fileID: 1000}\n  m_Enabled: 1", "m_GameObject: {fileID: 1000}\n  m_Enabled: 0"]],
    "start/.*",
  ],
  [
    "root prefab not in the scene",
    nested,
    [["Assets/_Game/Scenes/Loader.unity", "5b1f00d4c3a29e87000000000032dfb5", "5b1f00d4c3a29e8700000000003c4c87"]],
    "start/.*",
  ],
  [
    "coroutine only called",
    nested,
    [["Assets/_Game/Loader.cs", "OnEnable() => running = StartCoroutine(Begin());", "OnEnable() { Begin(); }"]],
    "start/.*",
  ],
  ["handler renamed", nested, [["Assets/_Game/Ui/Hud.cs", "Refresh(", "Redraw("]], "project/handler-missing"],
  [
    "property of an event renamed",
    nested,
    [["Assets/_Game/Ui/Hud.cs", "public bool Shown", "public bool IsShown"]],
    "project/handler-missing",
  ],
  [
    "lock lacks the package",
    nested,
    [["Packages/packages-lock.json", 'example.tidewire.unity": {', 'example.tidewire.unty": {']],
    "version/lock-stale",
  ],
  [
    "declared newer than the lock",
    nested,
    [["Packages/manifest.json", '"com.unity.textmeshpro": "3.0.9"', '"com.unity.textmeshpro": "3.3.0"']],
    "version/lock-stale",
  ],
  [
    "scope of the registry misspelt",
    nested,
    [["Packages/manifest.json", '"example.tidewire",', '"example.tidewires",']],
    "source/repository-missing",
  ],
  [
    "min level under nothing but target order",
    nested,
    [["ProjectSettings/ProjectSettings.asset", "AndroidTargetSdkVersion: 35", "AndroidTargetSdkVersion: 24"]],
    "level/order",
  ],
  ["start in the editor's folder", nested, { moved: ["Assets/_Game/Loader.cs", "Assets/_Game/Editor/Loader.cs"] }, "start/.*|source/.*"],
];

describe("Unity projects as teams lay them out", () => {
  it.each([
    ["packages of every kind, a build script", packaged],
    ["an SDK unpacked, everything in the player settings", unpacked],
    ["the earlier generation", earlier],
    ["a build script with helpers", scripted],
    ["nested prefabs, a package in the cache", nested],
  ])("are quiet: %s", async (_, app) => {
    expect((await reportOf(app)).findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  });

  it.each(MISTAKES)("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});
