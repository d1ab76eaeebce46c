import { describe, expect, it } from "vitest";
import { earlier, hosted, workspace } from "../helpers/flutter-apps.js";
import { reportOf } from "../helpers/memory.js";
import { changed, expectTold, type Changes, type Files } from "../helpers/mistakes.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string];

const MISTAKES: Mistake[] = [
  [
    "min level too low for the SDK",
    workspace,
    [["apps/crew/android/app/build.gradle.kts", "minSdk = 24", "minSdk = 21"]],
    "level/below-need",
  ],
  ["local plugin asks for more", workspace, [["packages/beacon/android/build.gradle", "minSdk 23", "minSdk 26"]], "level/below-need"],
  ["local plugin's pod asks for more", workspace, [["packages/beacon/ios/beacon.podspec", "'13.0'", "'15.0'"]], "level/below-need"],
  [
    "compile level under a local plugin's",
    workspace,
    [
      ["apps/crew/android/app/build.gradle.kts", "compileSdk = 35", "compileSdk = 33"],
      ["apps/crew/android/app/build.gradle.kts", "targetSdk = 35", "targetSdk = 33"],
    ],
    "level/below-need|level/order",
  ],
  [
    "permission gone",
    workspace,
    [["apps/crew/android/app/src/main/AndroidManifest.xml", '    <uses-permission android:name="android.permission.INTERNET" />\n', ""]],
    "permit/permission-missing",
  ],
  [
    "plugin loader lost",
    workspace,
    [["apps/crew/android/settings.gradle.kts", '    id("dev.flutter.flutter-plugin-loader") version "1.0.0"\n', ""]],
    "native/.*",
  ],
  [
    "framework's build plugin lost",
    workspace,
    [["apps/crew/android/app/build.gradle.kts", '    id("dev.flutter.flutter-gradle-plugin")\n', ""]],
    "native/.*",
  ],
  [
    "framework's plugin before Android's",
    workspace,
    [
      [
        "apps/crew/android/app/build.gradle.kts",
        '    id("com.android.application")\n    id("kotlin-android")\n    id("dev.flutter.flutter-gradle-plugin")',
        '    id("dev.flutter.flutter-gradle-plugin")\n    id("com.android.application")\n    id("kotlin-android")',
      ],
    ],
    "native/.*",
  ],
  [
    "embedding meta-data lost",
    workspace,
    [
      [
        "apps/crew/android/app/src/main/AndroidManifest.xml",
        '        <meta-data android:name="flutterEmbedding" android:value="2" />\n',
        "",
      ],
    ],
    "native/.*",
  ],
  [
    "embedding of the old kind",
    workspace,
    [["apps/crew/android/app/src/main/AndroidManifest.xml", 'flutterEmbedding" android:value="2"', 'flutterEmbedding" android:value="1"']],
    "native/.*",
  ],
  [
    "override without super",
    workspace,
    [
      [
        "apps/crew/android/app/src/main/kotlin/example/maresia/crew/MainActivity.kt",
        "        super.configureFlutterEngine(flutterEngine)\n",
        "",
      ],
    ],
    "native/.*",
  ],
  [
    "registrant call lost in Swift",
    workspace,
    [["apps/crew/ios/Runner/AppDelegate.swift", "    GeneratedPluginRegistrant.register(with: self)\n", ""]],
    "native/.*",
  ],
  [
    "registrant call lost in Objective-C",
    earlier,
    [["ios/Runner/AppDelegate.m", "  [GeneratedPluginRegistrant registerWithRegistry:self];\n", ""]],
    "native/.*",
  ],
  [
    "release xcconfig without the pods file",
    workspace,
    [["apps/crew/ios/Flutter/Release.xcconfig", '#include? "Pods/Target Support Files/Pods-Runner/Pods-Runner.release.xcconfig"\n', ""]],
    "native/.*",
  ],
  [
    "helper for pods lost",
    workspace,
    [["apps/crew/ios/Podfile", "  flutter_install_all_ios_pods File.dirname(File.realpath(__FILE__))\n", ""]],
    "native/.*",
  ],
  ["lock out of range", workspace, [["apps/crew/pubspec.yaml", "brinelog: ^3.0.0", "brinelog: ^3.1.0"]], "version/lock-stale"],
  [
    "package added, lock not",
    workspace,
    [["apps/crew/pubspec.yaml", "  brinelog: ^3.0.0", "  brinelog: ^3.0.0\n  tollbuoy: ^1.0.0"]],
    "version/lock-stale",
  ],
  ["git ref raised, lock not", workspace, [["apps/crew/pubspec.yaml", "ref: v1.2.0", "ref: v1.3.0"]], "version/lock-stale"],
  ["git without ref", workspace, [["apps/crew/pubspec.yaml", "      ref: v1.2.0\n", ""]], "version/floating|version/lock-stale"],
  [
    "member's version outside of the range",
    workspace,
    [["packages/design/pubspec.yaml", "version: 1.0.3", "version: 2.0.0"]],
    "version/lock-stale|version/conflict",
  ],
  [
    "override outside of the declared range",
    earlier,
    [
      ["pubspec.yaml", "  brinelog: 3.0.1", "  brinelog: 2.9.0"],
      ["pubspec.lock", 'version: "3.0.1"', 'version: "2.9.0"'],
    ],
    "version/.*",
  ],
  [
    "plugin that is used is a dev dependency",
    workspace,
    [
      ["apps/crew/pubspec.yaml", "  brinelog: ^3.0.0\n", ""],
      ["apps/crew/pubspec.yaml", "dev_dependencies:\n", "dev_dependencies:\n  brinelog: ^3.0.0\n"],
    ],
    "source/declared-elsewhere",
  ],
  ["imported and not declared", workspace, [["apps/crew/pubspec.yaml", "  beacon: ^0.0.1\n", ""]], "source/declared-elsewhere"],
  [
    "path to a folder that is not there",
    earlier,
    [["pubspec.yaml", "path: plugins/gull_local", "path: plugin/gull_local"]],
    "source/binary-missing",
  ],
  [
    "path on one machine in the overrides file",
    workspace,
    { "apps/crew/pubspec_overrides.yaml": "dependency_overrides:\n  brinelog:\n    path: /Users/me/brinelog\n" },
    "source/outside-project",
  ],
  [
    "plugin class not there",
    workspace,
    [["packages/beacon/pubspec.yaml", "pluginClass: BeaconPlugin\n      ios", "pluginClass: BeaconsPlugin\n      ios"]],
    "native/.*",
  ],
  [
    "side with code not declared",
    workspace,
    [["packages/beacon/pubspec.yaml", "      ios:\n        pluginClass: BeaconPlugin\n", ""]],
    "native/.*|parity/.*",
  ],
  [
    "channel name differs on Android",
    workspace,
    [
      [
        "apps/crew/android/app/src/main/kotlin/example/maresia/crew/MainActivity.kt",
        '"example.maresia.crew/tide"',
        '"example.maresia.crew/tides"',
      ],
    ],
    "parity/service-missing",
  ],
  ["channel name differs in Dart", workspace, [["apps/crew/lib/channels.dart", "$prefix/tide", "$prefix/tides"]], "parity/service-missing"],
  [
    "handler lost on iOS",
    workspace,
    [
      [
        "apps/crew/ios/Runner/AppDelegate.swift",
        '    let channel = FlutterMethodChannel(name: Channels.tide, binaryMessenger: controller.binaryMessenger)\n    channel.setMethodCallHandler { call, result in\n      switch call.method {\n      case "level": result(1)\n      case "unit": result("m")\n      default: result(FlutterMethodNotImplemented)\n      }\n    }\n',
        "",
      ],
    ],
    "parity/service-missing",
  ],
  [
    "method not handled on iOS",
    workspace,
    [["apps/crew/ios/Runner/AppDelegate.swift", '      case "unit": result("m")\n', ""]],
    "parity/service-missing",
  ],
  ["method misspelt in Dart", workspace, [["apps/crew/lib/tide.dart", "'unit'", "'units'"]], "parity/service-missing"],
  ["ensureInitialized lost", workspace, [["apps/crew/lib/main.dart", "  WidgetsFlutterBinding.ensureInitialized();\n", ""]], "start/.*"],
  ["start lost", workspace, [["apps/crew/lib/main.dart", "  await Brinelog.start('bl_0123abcd');\n", ""]], "start/missing"],
  [
    "start after runApp in debug only",
    workspace,
    [
      [
        "apps/crew/lib/main.dart",
        "  await Brinelog.start('bl_0123abcd');\n",
        "  if (kDebugMode) {\n    await Brinelog.start('bl_0123abcd');\n  }\n",
      ],
    ],
    "start/.*",
  ],
  [
    "service file of the other flavour",
    workspace,
    [["apps/crew/android/app/src/staging/brinelog-services.json", "example.maresia.crew.staging", "example.maresia.crew"]],
    "identity/service-file-mismatch",
  ],
  ["service file of one flavour lost", workspace, "apps/crew/android/app/src/staging/brinelog-services.json", "identity/.*|permit/.*"],
  ["flavour without a scheme", workspace, "apps/crew/ios/Runner.xcodeproj/xcshareddata/xcschemes/staging.xcscheme", "project/.*|parity/.*"],
  [
    "flavour without a configuration",
    workspace,
    [["apps/crew/android/app/build.gradle.kts", 'create("staging")', 'create("beta")']],
    "project/.*|parity/.*",
  ],
  [
    "pods lock without the plugin",
    workspace,
    [
      ["apps/crew/ios/Podfile.lock", "  - beacon (0.0.1):\n    - Flutter\n", ""],
      ["apps/crew/ios/Podfile.lock", "  - beacon (from `.symlinks/plugins/beacon/ios`)\n", ""],
    ],
    "version/lock-stale|native/not-linked",
  ],
  [
    "keep rules lost with shrinking by default",
    workspace,
    [["apps/crew/android/app/proguard-rules.pro", "-keep class example.brinelog.** { *; }\n", ""]],
    "keep/rules-missing",
  ],
  ["rules file not named", workspace, [["apps/crew/android/app/build.gradle.kts", ', "proguard-rules.pro"', ""]], "keep/.*"],
  [
    "repository lost",
    workspace,
    [["apps/crew/android/build.gradle.kts", '        maven { url = uri("https://maven.brinelog.example/releases") }\n', ""]],
    "source/repository-missing",
  ],
  ["background mode lost", workspace, [["apps/crew/ios/Runner/Info.plist", "remote-notification", "audio"]], "permit/entry-missing"],
  [
    "key of an instruction",
    workspace,
    [["apps/crew/android/app/src/main/AndroidManifest.xml", "bl_0123abcd", "YOUR_KEY_HERE"]],
    "key/placeholder",
  ],
  [
    "bundle id differs from the service file",
    earlier,
    [["ios/Runner/Brinelog-Services.plist", "example.maresia.roster", "example.maresia.rooster"]],
    "identity/service-file-mismatch",
  ],
  [
    "old loader script lost",
    earlier,
    [["android/settings.gradle", 'apply from: "$flutterSdkPath/packages/flutter_tools/gradle/app_plugin_loader.gradle"\n', ""]],
    "native/.*",
  ],
  [
    "old build script lost",
    earlier,
    [["android/app/build.gradle", 'apply from: "$flutterRoot/packages/flutter_tools/gradle/flutter.gradle"\n', ""]],
    "native/.*",
  ],
  [
    "platform of the Podfile under the plugin's",
    earlier,
    [["plugins/gull_local/ios/gull_local.podspec", "11.0", "14.0"]],
    "level/below-need",
  ],
  [
    "module: path of the include script",
    hosted,
    [["harbour_android/settings.gradle", "crew_module/.android", "crewmodule/.android"]],
    "source/.*|native/.*",
  ],
  [
    "module: not among the dependencies",
    hosted,
    [["harbour_android/app/build.gradle", "    implementation project(':flutter')\n", ""]],
    "native/.*|source/.*",
  ],
  ["module: pods helper's path", hosted, [["harbour_ios/Podfile", "'../crew_module'", "'../crewmodule'"]], "source/.*|native/.*"],
  [
    "module: helper not called",
    hosted,
    [["harbour_ios/Podfile", "  install_all_flutter_pods(flutter_application_path)\n", ""]],
    "native/.*",
  ],
  ["module: host under the SDK's level", hosted, [["harbour_android/app/build.gradle", "minSdk 24", "minSdk 21"]], "level/below-need"],
  ["module: lock behind", hosted, [["crew_module/pubspec.yaml", "brinelog: ^3.0.0", "brinelog: ^4.0.0"]], "version/lock-stale"],
  [
    "module: channel handler lost on iOS",
    hosted,
    [
      [
        "harbour_ios/Runner/AppDelegate.swift",
        '    FlutterMethodChannel(name: "example.maresia.crew/tide", binaryMessenger: engine.binaryMessenger).setMethodCallHandler { call, result in\n      if call.method == "level" { result(1) } else { result(FlutterMethodNotImplemented) }\n    }\n',
        "",
      ],
    ],
    "parity/service-missing",
  ],
  [
    "module: registrant lost",
    hosted,
    [["harbour_ios/Runner/AppDelegate.swift", "    GeneratedPluginRegistrant.register(with: engine)\n", ""]],
    "native/.*",
  ],
  [
    "module: key lost",
    hosted,
    [
      [
        "harbour_android/app/src/main/AndroidManifest.xml",
        '    <meta-data android:name="example.brinelog.KEY" android:value="bl_0123abcd" />\n',
        "",
      ],
    ],
    "key/missing",
  ],
  ["module: start lost", hosted, [["crew_module/lib/main.dart", "  Brinelog.start('bl_0123abcd');\n", ""]], "start/missing"],
];

/** The same with a plugin whose halves are packages of their own. */
const federated: Files = {
  ...changed(workspace, [
    ["pubspec.yaml", "  - packages/beacon\n", "  - packages/beacon\n  - packages/lamp\n  - packages/lamp_android\n  - packages/lamp_ios\n"],
    ["apps/crew/pubspec.yaml", "  beacon: ^0.0.1\n", "  beacon: ^0.0.1\n  lamp: ^1.0.0\n"],
    [
      "apps/crew/ios/Podfile.lock",
      "  - beacon (0.0.1):\n    - Flutter\n",
      "  - beacon (0.0.1):\n    - Flutter\n  - lamp_ios (1.0.0):\n    - Flutter\n",
    ],
    [
      "apps/crew/ios/Podfile.lock",
      "  - beacon (from `.symlinks/plugins/beacon/ios`)\n",
      "  - beacon (from `.symlinks/plugins/beacon/ios`)\n  - lamp_ios (from `.symlinks/plugins/lamp_ios/ios`)\n",
    ],
  ]),
  "packages/lamp/pubspec.yaml": `name: lamp
version: 1.0.0
environment:
  sdk: ^3.5.0
resolution: workspace
dependencies:
  flutter:
    sdk: flutter
  lamp_android: ^1.0.0
  lamp_ios: ^1.0.0
flutter:
  plugin:
    platforms:
      android:
        default_package: lamp_android
      ios:
        default_package: lamp_ios
`,
  "packages/lamp/lib/lamp.dart": `class Lamp { static Future<void> on() async {} }
`,
  "packages/lamp_android/pubspec.yaml": `name: lamp_android
version: 1.0.0
environment:
  sdk: ^3.5.0
resolution: workspace
dependencies:
  flutter:
    sdk: flutter
flutter:
  plugin:
    implements: lamp
    platforms:
      android:
        package: example.maresia.lamp
        pluginClass: LampPlugin
`,
  "packages/lamp_android/android/build.gradle": `apply plugin: 'com.android.library'
android {
    namespace 'example.maresia.lamp'
    compileSdk 35
    defaultConfig {
        minSdk 23
    }
}
`,
  "packages/lamp_android/android/src/main/kotlin/example/maresia/lamp/LampPlugin.kt": `package example.maresia.lamp

import io.flutter.embedding.engine.plugins.FlutterPlugin

class LampPlugin : FlutterPlugin {
  override fun onAttachedToEngine(binding: FlutterPlugin.FlutterPluginBinding) {}
  override fun onDetachedFromEngine(binding: FlutterPlugin.FlutterPluginBinding) {}
}
`,
  "packages/lamp_ios/pubspec.yaml": `name: lamp_ios
version: 1.0.0
environment:
  sdk: ^3.5.0
resolution: workspace
dependencies:
  flutter:
    sdk: flutter
flutter:
  plugin:
    implements: lamp
    platforms:
      ios:
        pluginClass: LampPlugin
`,
  "packages/lamp_ios/ios/lamp_ios/Package.swift": `// swift-tools-version: 5.9
import PackageDescription

let package = Package(
    name: "lamp_ios",
    platforms: [.iOS("13.0")],
    products: [.library(name: "lamp-ios", targets: ["lamp_ios"])],
    dependencies: [],
    targets: [.target(name: "lamp_ios")]
)
`,
  "packages/lamp_ios/ios/lamp_ios/Sources/lamp_ios/LampPlugin.swift": `import Flutter

public class LampPlugin: NSObject, FlutterPlugin {
  public static func register(with registrar: FlutterPluginRegistrar) {}
}
`,
  "packages/lamp_ios/ios/lamp_ios.podspec": `Pod::Spec.new do |s|
  s.name = 'lamp_ios'
  s.version = '1.0.0'
  s.summary = 'The lamp on iOS'
  s.homepage = 'https://maresia.example'
  s.author = 'Maresia'
  s.source = { :path => '.' }
  s.source_files = 'lamp_ios/Sources/lamp_ios/**/*.swift'
  s.dependency 'Flutter'
  s.platform = :ios, '13.0'
end
`,
};

/** Further mistakes. */
const FURTHER: Mistake[] = [
  ["Swift package's level", federated, [["packages/lamp_ios/ios/lamp_ios/Package.swift", '"13.0"', '"16.0"']], "level/below-need"],
  [
    "half asks for a higher minimum",
    federated,
    [["packages/lamp_android/android/build.gradle", "minSdk 23", "minSdk 29"]],
    "level/below-need",
  ],
  [
    "class of a half misspelt",
    federated,
    [["packages/lamp_android/pubspec.yaml", "pluginClass: LampPlugin", "pluginClass: LampsPlugin"]],
    "native/.*",
  ],
  [
    "class of the iOS half misspelt",
    federated,
    [["packages/lamp_ios/pubspec.yaml", "pluginClass: LampPlugin", "pluginClass: LampIosPlugin"]],
    "native/.*",
  ],
  ["half's folder gone", federated, "packages/lamp_ios/pubspec.yaml", "native/.*|source/.*|version/.*"],
  [
    "half not endorsed any more",
    federated,
    [["packages/lamp/pubspec.yaml", "      ios:\n        default_package: lamp_ios\n", ""]],
    "native/.*|parity/.*",
  ],
  [
    "half not in the pods lock",
    federated,
    [
      ["apps/crew/ios/Podfile.lock", "  - lamp_ios (1.0.0):\n    - Flutter\n", ""],
      ["apps/crew/ios/Podfile.lock", "  - lamp_ios (from `.symlinks/plugins/lamp_ios/ios`)\n", ""],
    ],
    "native/not-linked|version/lock-stale",
  ],
  [
    "method renamed on Android",
    workspace,
    [["apps/crew/android/app/src/main/kotlin/example/maresia/crew/MainActivity.kt", '"unit" ->', '"units" ->']],
    "parity/service-missing",
  ],
  [
    "activity is none of Flutter's",
    workspace,
    [
      [
        "apps/crew/android/app/src/main/kotlin/example/maresia/crew/MainActivity.kt",
        "class MainActivity : FlutterActivity()",
        "class MainActivity : Activity()",
      ],
    ],
    "native/.*",
  ],
  [
    "delegate is none of Flutter's",
    workspace,
    [["apps/crew/ios/Runner/AppDelegate.swift", "class AppDelegate: FlutterAppDelegate", "class AppDelegate: UIResponder"]],
    "native/.*",
  ],
  [
    "generated settings not included",
    workspace,
    [["apps/crew/ios/Flutter/Release.xcconfig", '#include "Generated.xcconfig"\n', ""]],
    "native/.*",
  ],
  [
    "target of the Podfile",
    workspace,
    [["apps/crew/ios/Podfile", "target 'Runner' do", "target 'App' do"]],
    "native/.*|source/.*|project/.*|version/.*",
  ],
  ["Podfile under the target", workspace, [["apps/crew/ios/Podfile", "platform :ios, '13.0'", "platform :ios, '12.0'"]], "level/.*"],
  [
    "service file not among the resources",
    workspace,
    [
      [
        "apps/crew/ios/Runner.xcodeproj/project.pbxproj",
        "isa = PBXResourcesBuildPhase; files = ( SB )",
        "isa = PBXResourcesBuildPhase; files = ( )",
      ],
    ],
    "identity/.*",
  ],
  [
    "keep rule misspelt",
    workspace,
    [["apps/crew/android/app/proguard-rules.pro", "example.brinelog.**", "example.brinlog.**"]],
    "keep/rules-missing",
  ],
  [
    "Gradle too old",
    workspace,
    [["apps/crew/android/gradle/wrapper/gradle-wrapper.properties", "gradle-8.9-", "gradle-7.6-"]],
    "level/tools-apart",
  ],
  [
    "suffix of a flavour",
    workspace,
    [["apps/crew/android/app/build.gradle.kts", 'applicationIdSuffix = ".staging"', 'applicationIdSuffix = ".stage"']],
    "identity/.*",
  ],
  [
    "start after the first frame",
    workspace,
    [
      ["apps/crew/lib/main.dart", "  await Brinelog.start('bl_0123abcd');\n", ""],
      [
        "apps/crew/lib/main.dart",
        "  runApp(const CrewApp());\n",
        "  runApp(const CrewApp());\n  await Future.delayed(const Duration(seconds: 5));\n}\n\nFuture<void> later() async {\n  await Brinelog.start('bl_0123abcd');\n",
      ],
    ],
    "start/.*",
  ],
  [
    "plugin used and only its half declared",
    federated,
    [
      ["apps/crew/pubspec.yaml", "  lamp: ^1.0.0\n", "  lamp_ios: ^1.0.0\n"],
      ["apps/crew/lib/main.dart", "import 'tide.dart';", "import 'package:lamp/lamp.dart';\nimport 'tide.dart';"],
    ],
    "source/declared-elsewhere",
  ],
  [
    "bundle id of one configuration",
    earlier,
    [
      [
        "ios/Runner.xcodeproj/project.pbxproj",
        "PRODUCT_BUNDLE_IDENTIFIER = example.maresia.roster;",
        "PRODUCT_BUNDLE_IDENTIFIER = example.maresia.roster.app;",
      ],
    ],
    "identity/.*",
  ],
  ["version of the lock under the override", earlier, [["pubspec.yaml", "  brinelog: 3.0.1", "  brinelog: 3.2.0"]], "version/.*"],
  ["module: lock out of range", hosted, [["crew_module/pubspec.yaml", "  brinelog: ^3.0.0", "  brinelog: ^3.9.0"]], "version/lock-stale"],
];

describe("Flutter apps as teams lay them out", () => {
  it.each([
    ["a member of a workspace", workspace],
    ["a module in native apps", hosted],
    ["the earlier generation", earlier],
    ["a plugin in halves", federated],
  ])("are quiet: %s", async (_, app) => {
    expect((await reportOf(app)).findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  });

  it.each([...MISTAKES, ...FURTHER])("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});

describe("a service file per flavour", () => {
  it("may stand in a flavour of another dimension", async () => {
    const files = changed(workspace, [
      [
        "apps/crew/android/app/build.gradle.kts",
        '        create("staging") {\n            dimension = "stage"',
        '        create("staging") {\n            dimension = "tier"',
      ],
    ]);
    delete files["apps/crew/android/app/src/staging/brinelog-services.json"];
    expect((await reportOf(files)).findings.filter(({ message }) => message.includes("brinelog-services.json"))).toEqual([]);
  });
});

describe("what looks like a lost line, and is none", () => {
  const settings = "apps/crew/android/settings.gradle.kts";
  const build = "apps/crew/android/app/build.gradle.kts";
  const applied = '    id("dev.flutter.flutter-gradle-plugin")\n';
  it.each<[string, Changes]>([
    ["a plugin by the catalog", [[build, applied, "    alias(libs.plugins.flutter)\n"]]],
    [
      "a plugin that the team's own build applies",
      [
        [settings, "    repositories {", '    includeBuild("../build-logic")\n    repositories {'],
        [build, applied, '    id("example.maresia.app")\n'],
      ],
    ],
    [
      "settings files of the pods in one of the team's own",
      [
        [
          "apps/crew/ios/Flutter/Release.xcconfig",
          '#include? "Pods/Target Support Files/Pods-Runner/Pods-Runner.release.xcconfig"\n',
          '#include "Debug.xcconfig"\n',
        ],
      ],
    ],
    [
      "registration for an engine that the framework makes",
      [["apps/crew/ios/Runner/AppDelegate.swift", "register(with: self)", "register(with: engineBridge.pluginRegistry)"]],
    ],
  ])("%s", async (_, changes) => {
    const { findings } = await reportOf(changed(workspace, changes));
    expect(findings.filter(({ rule }) => rule === "native/template-line").map(({ message }) => message)).toEqual([]);
  });

  it("a key that only debug builds have is told as missing", async () => {
    const manifest = "apps/crew/android/app/src/main/AndroidManifest.xml";
    const line = /        <meta-data android:name="example.brinelog.KEY"[^\n]*\n/;
    const { findings } = await reportOf({
      ...workspace,
      [manifest]: String(workspace[manifest]).replace(line, ""),
      "apps/crew/android/app/src/debug/AndroidManifest.xml":
        '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n    <application>\n        <meta-data android:name="example.brinelog.KEY" android:value="bl_0123abcd" />\n    </application>\n</manifest>\n',
    });
    expect(findings.map(({ rule }) => rule)).toContain("key/missing");
  });

  it.each([
    ["staging", ["permit/permission-missing"]],
    ["production", []],
  ])("a permission that the flavour %s alone has", async (flavor, rules) => {
    const manifest = "apps/crew/android/app/src/main/AndroidManifest.xml";
    const permission = '    <uses-permission android:name="android.permission.INTERNET" />\n';
    const { findings } = await reportOf({
      ...workspace,
      [manifest]: String(workspace[manifest]).replace(permission, ""),
      [`apps/crew/android/app/src/${flavor}/AndroidManifest.xml`]: `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n${permission}</manifest>\n`,
    });
    expect(findings.flatMap(({ rule, severity }) => (severity === "note" ? [] : rule))).toEqual(rules);
  });
});
