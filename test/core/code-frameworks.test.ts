import { describe, expect, it } from "vitest";
import { xcodeExample } from "../../src/core/rules/examples.js";
import type { Example } from "../../src/core/rules/rule.js";
import { appWithCode, shownFacts } from "../helpers/code.js";
import { reportOf } from "../helpers/memory.js";

/** Where each framework begins, and what shared code asks of the native sides. */

const gradle = (id = "crew") => ({
  "android/settings.gradle": "include ':app'\n",
  "android/app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.${id}'\n    minSdk 24\n  }\n}\n`,
  "android/app/src/main/AndroidManifest.xml":
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android"><application><activity android:name=".MainActivity" /></application></manifest>\n',
});
const xcode = { "ios/Runner.xcodeproj/project.pbxproj": xcodeExample() };
const sheet = (packages: string, needs: string): Example => ({
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages: ${packages}\nneeds:\n${needs}`,
});
const NEEDS =
  "  - on: shared\n    start: { shared: Quaymap.start, csharp: Quaymap.Start, at: launch }\n  - on: shared\n    use: { shared: Quaymap.show, csharp: Quaymap.Show }\n";

const flutter = (main: string, more: Example = {}): Example => ({
  "pubspec.yaml": "name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n  quaymap_flutter: 4.2.0\n",
  ...gradle(),
  ...xcode,
  ...sheet("{ pub: quaymap_flutter }", NEEDS),
  "lib/main.dart": main,
  ...more,
});
const dotnet = (more: Example): Example => ({
  "Lock.csproj":
    '<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup>\n    <TargetFrameworks>net8.0-android;net8.0-ios</TargetFrameworks>\n    <OutputType>Exe</OutputType>\n    <UseMaui>true</UseMaui>\n    <SingleProject>true</SingleProject>\n    <ApplicationId>example.maresia.lock</ApplicationId>\n  </PropertyGroup>\n  <ItemGroup>\n    <PackageReference Include="Quaymap.Mobile" Version="4.2.0" />\n  </ItemGroup>\n</Project>\n',
  "Platforms/Android/AndroidManifest.xml":
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android"><application /></manifest>\n',
  "Platforms/iOS/Info.plist": '<plist version="1.0"><dict></dict></plist>\n',
  ...sheet("{ nuget: Quaymap.Mobile }", `${NEEDS}  - on: android\n    start: { csharp: Quaymap.Boot, at: launch }\n`),
  ...more,
});
const unity = (more: Example): Example => ({
  "ProjectSettings/ProjectVersion.txt": "m_EditorVersion: 2022.3.10f1\n",
  "ProjectSettings/ProjectSettings.asset":
    "%YAML 1.1\nPlayerSettings:\n  productName: Tide\n  applicationIdentifier:\n    Android: example.maresia.tide\n    iPhone: example.maresia.tide\n  AndroidMinSdkVersion: 24\n",
  "Packages/manifest.json": '{ "dependencies": { "example.quaymap.sdk": "4.2.0" } }\n',
  ...sheet("{ unity: example.quaymap.sdk }", NEEDS),
  ...more,
});
const script = (body: string) => `using UnityEngine;\n\npublic class Map : MonoBehaviour\n{\n${body}\n}\n`;
const meta = { "Assets/Map.cs.meta": "fileFormatVersion: 2\nguid: 0123456789abcdef0123456789abcdef\n" };
const scene = (guid: string) => ({
  "Assets/Main.unity": `%YAML 1.1\nMonoBehaviour:\n  m_Script: {fileID: 11500000, guid: ${guid}, type: 3}\n`,
});
const web = (kind: "cordova" | "capacitor", file: string, text: string): Example => ({
  ...(kind === "cordova"
    ? {
        "config.xml":
          '<widget id="example.maresia.quay" version="1.0.0" xmlns="http://www.w3.org/ns/widgets"><name>Quay</name><plugin name="cordova-plugin-quaymap" spec="4.2.0" /><platform name="android" /><platform name="ios" /></widget>\n',
        "package.json":
          '{ "name": "quay", "dependencies": { "cordova-plugin-quaymap": "4.2.0" }, "cordova": { "platforms": ["android", "ios"], "plugins": { "cordova-plugin-quaymap": {} } } }\n',
      }
    : {
        "capacitor.config.json": '{ "appId": "example.maresia.quay", "appName": "Quay", "webDir": "www" }\n',
        "package.json": '{ "name": "quay", "dependencies": { "@capacitor/core": "7.0.0", "@quaymap/capacitor": "4.2.0" } }\n',
        ...gradle("quay"),
      }),
  ...sheet('{ cordova: cordova-plugin-quaymap, npm: "@quaymap/capacitor" }', NEEDS),
  [file]: text,
});

describe("when a start runs", () => {
  it.each<[string, Example, string[]]>([
    [
      "Flutter: in main",
      flutter("import 'package:quaymap_flutter/quaymap.dart';\nvoid main() {\n  Quaymap.start();\n  runApp(const Crew());\n}\n"),
      ["quaymap start main: entry launch"],
    ],
    [
      "Flutter: in the state of the first widget, and on a touch",
      flutter("void main() => runApp(const Crew());\n", {
        "lib/crew.dart":
          "import 'package:quaymap_flutter/quaymap.dart';\nclass Crew extends StatefulWidget {\n  const Crew({super.key});\n  @override State<Crew> createState() => _CrewState();\n}\nclass _CrewState extends State<Crew> {\n  @override void initState() { super.initState(); Quaymap.start(); }\n  @override Widget build(BuildContext c) => TextButton(onPressed: () => Quaymap.show(), child: const Text('a'));\n}\n",
      }),
      ["quaymap start _CrewState.initState: entry firstScreen", "quaymap use _CrewState.build: entry later"],
    ],
    [
      "Flutter: by a prefix",
      flutter("import 'package:quaymap_flutter/quaymap.dart' as qm;\nFuture<void> main() async {\n  await qm.Quaymap.start();\n}\n"),
      ["quaymap start main: entry launch"],
    ],
    [
      ".NET: in the builder, the shared App, and on one platform",
      dotnet({
        "MauiProgram.cs":
          "using Quaymap.Mobile;\nnamespace Lock;\npublic static class MauiProgram\n{\n    public static MauiApp CreateMauiApp()\n    {\n        var builder = MauiApp.CreateBuilder();\n        builder.UseMauiApp<App>();\n#if ANDROID\n        Quaymap.Boot();\n#endif\n        return builder.Build();\n    }\n}\n",
        "App.xaml.cs":
          "namespace Lock;\npublic partial class App : Application\n{\n    public App()\n    {\n        InitializeComponent();\n        Quaymap.Start();\n    }\n}\n",
      }),
      ["quaymap start MauiProgram.CreateMauiApp: entry launch", "quaymap start App.init: entry launch"],
    ],
    [
      ".NET: in the application of one platform",
      dotnet({
        "Platforms/Android/MainApplication.cs":
          "namespace Lock;\n[Application]\npublic class MainApplication : MauiApplication\n{\n    public override void OnCreate()\n    {\n        base.OnCreate();\n        Quaymap.Boot();\n    }\n}\n",
      }),
      ["quaymap start MainApplication.OnCreate: entry launch"],
    ],
    [
      "Unity: on load",
      unity({
        "Assets/Map.cs":
          "public static class Map\n{\n    [RuntimeInitializeOnLoadMethod(RuntimeInitializeLoadType.BeforeSceneLoad)]\n    static void Boot() { Quaymap.Start(); }\n}\n",
      }),
      ["quaymap start Map.Boot: entry launch"],
    ],
    [
      "Unity: in a script that a scene uses, and a coroutine",
      unity({
        "Assets/Map.cs": script(
          '    void Awake() { Quaymap.Start(); StartCoroutine("Later"); }\n    IEnumerator Later() { yield return null; Quaymap.Show(); }',
        ),
        ...meta,
        ...scene("0123456789abcdef0123456789abcdef"),
      }),
      ["quaymap start Map.Awake: entry launch", "quaymap use Map.Later: entry launch"],
    ],
    [
      "Unity: in a script that no scene uses",
      unity({ "Assets/Map.cs": script("    void Awake() { Quaymap.Start(); }"), ...meta, ...scene("ffffffffffffffffffffffffffffffff") }),
      ["quaymap start Map.Awake: never"],
    ],
    [
      "Unity: without a scene nothing is known",
      unity({ "Assets/Map.cs": script("    void Awake() { Quaymap.Start(); }"), ...meta }),
      ["quaymap start Map.Awake: entry launch"],
    ],
    [
      "Cordova: once the device is ready",
      web(
        "cordova",
        "www/js/index.js",
        "document.addEventListener('deviceready', ready, false);\nfunction ready() {\n  Quaymap.start();\n  button.addEventListener('click', function () { Quaymap.show(); });\n}\n",
      ),
      ["quaymap start ready: entry launch", "quaymap use ready: entry later"],
    ],
    [
      "Capacitor: in the first script",
      web("capacitor", "src/main.ts", 'import { Quaymap } from "@quaymap/capacitor";\n\nvoid Quaymap.start();\n'),
      ["quaymap start main.ts: entry launch"],
    ],
    [
      "Capacitor: what the sync copied is not the app's code",
      web("capacitor", "android/app/src/main/assets/public/main.js", "Quaymap.start();\n"),
      [],
    ],
  ])("%s", async (_, files, expected) => {
    const { code } = await appWithCode(files);
    expect(shownFacts(code)).toEqual(expected);
  });
});

const missing = async (files: Example): Promise<string[]> =>
  (await reportOf(files)).findings
    .filter(({ rule }) => rule === "parity/service-missing")
    .map(({ side, message }) => `${side ?? ""} ${message}`);

describe("parity/service-missing", () => {
  const dart =
    "import 'package:flutter/services.dart';\nconst channel = MethodChannel('maresia/tide');\nvoid main() { channel.invokeMethod('level'); }\n";
  const kotlin = (name: string) => ({
    "android/app/src/main/kotlin/MainActivity.kt": `class MainActivity : FlutterActivity() {\n  override fun configureFlutterEngine(e: FlutterEngine) {\n    MethodChannel(e.dartExecutor.binaryMessenger, "${name}").setMethodCallHandler { c, r -> }\n  }\n}\n`,
  });
  const swift = (name: string) => ({
    "ios/Runner/AppDelegate.swift": `@main\nclass AppDelegate: FlutterAppDelegate {\n  let tide = FlutterMethodChannel(name: "${name}", binaryMessenger: messenger)\n  func listen() { tide.setMethodCallHandler { _, _ in } }\n}\n`,
  });
  const service =
    "namespace Lock;\npublic static class Start\n{\n    public static void Go() => DependencyService.Get<IGauge>().Read();\n}\n";
  const gauge = (side: string) => ({
    [`Platforms/${side}/Gauge.cs`]: `[assembly: Dependency(typeof(Gauge))]\npublic class Gauge : IGauge { }\n`,
  });
  const native = {
    "Platforms/iOS/AppDelegate.cs": "public class AppDelegate { }\n",
    "Platforms/Android/MainActivity.cs": "public class MainActivity { }\n",
  };
  const plugin = (kotlinName: string, swiftName: string): Example => ({
    ...web(
      "capacitor",
      "src/main.ts",
      'import { registerPlugin } from "@capacitor/core";\n\nconst Tide = registerPlugin("Tide");\nvoid Tide.read();\n',
    ),
    ...Object.fromEntries(Object.entries(xcode).map(([, text]) => ["ios/App/App.xcodeproj/project.pbxproj", text])),
    "android/app/src/main/java/Tide.java": `@CapacitorPlugin(name = "${kotlinName}")\npublic class TidePlugin extends Plugin { }\n`,
    "android/app/src/main/java/MainActivity.java":
      "public class MainActivity extends BridgeActivity { void a() { registerPlugin(TidePlugin.class); } }\n",
    "ios/App/App/MainController.swift":
      "class MainController: CAPBridgeViewController { override func capacitorDidLoad() { bridge?.registerPluginInstance(TidePlugin()) } }\n",
    "ios/App/App/Tide.swift": `class TidePlugin: CAPPlugin, CAPBridgedPlugin {\n  let jsName = "${swiftName}"\n}\n`,
  });

  it.each<[string, Example, string[]]>([
    [
      "a method channel that one side has",
      flutter(dart, { ...kotlin("maresia/tide"), ...swift("maresia/depth") }),
      ["ios the shared code uses the method channel maresia/tide, but only Android offers it"],
    ],
    ["a method channel that both have", flutter(dart, { ...kotlin("maresia/tide"), ...swift("maresia/tide") }), []],
    ["a method channel of a package", flutter(dart, { ...kotlin("maresia/depth"), ...swift("maresia/depth") }), []],
    [
      "a method channel behind a look at the platform",
      flutter(dart.replace("{ channel", "{ if (Platform.isAndroid) channel"), { ...kotlin("maresia/tide"), ...swift("maresia/depth") }),
      [],
    ],
    [
      "a method channel in a constant",
      flutter(
        dart
          .replace("MethodChannel('maresia/tide')", "MethodChannel(name)")
          .replace("const channel", "const name = 'maresia/tide';\nconst channel"),
        { ...kotlin("maresia/tide"), ...swift("maresia/depth") },
      ),
      ["ios the shared code uses the method channel maresia/tide, but only Android offers it"],
    ],
    [
      "a service of .NET that one side registers",
      dotnet({ "Start.cs": service, ...native, ...gauge("iOS") }),
      ["android the shared code uses the service IGauge, but only iOS offers it"],
    ],
    ["a service of .NET that both register", dotnet({ "Start.cs": service, ...native, ...gauge("iOS"), ...gauge("Android") }), []],
    [
      "an own plugin of Capacitor under two names",
      plugin("Tide", "Tides"),
      ["ios the shared code uses the plugin Tide, but only Android offers it"],
    ],
    ["an own plugin of Capacitor", plugin("Tide", "Tide"), []],
  ])("%s", async (_, files, expected) => expect(await missing(files)).toEqual(expected));

  it("an own plugin that the view controller does not register", async () => {
    const files = plugin("Tide", "Tide");
    files["ios/App/App/MainController.swift"] = "class MainController: CAPBridgeViewController { }\n";
    const { findings } = await reportOf(files);
    expect(findings.filter(({ rule }) => rule === "native/unregistered").map(({ side, message }) => `${side ?? ""} ${message}`)).toEqual([
      "ios TidePlugin is a plugin that nothing registers",
    ]);
  });

  it("an own plugin that the activity does not register", async () => {
    const files = plugin("Tide", "Tide");
    files["android/app/src/main/java/MainActivity.java"] = "public class MainActivity extends BridgeActivity { }\n";
    const { findings } = await reportOf(files);
    expect(findings.filter(({ rule }) => rule === "native/unregistered").map(({ message }) => message)).toEqual([
      "TidePlugin is a plugin that nothing registers",
    ]);
  });
});
