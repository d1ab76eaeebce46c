import { describe, expect, it } from "vitest";
import { reportOf } from "../helpers/memory.js";
import { changed, expectTold, type Changes, type Files } from "../helpers/mistakes.js";
import { deckpass, pilot } from "../helpers/native-apps.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string];

const MISTAKES: Mistake[] = [
  [
    "product not in the Frameworks phase",
    pilot,
    [["ios/Pilot.xcodeproj/project.pbxproj", "WB0, WB1, PB0, PB1", "WB0, WB1, PB1"]],
    "native/.*",
  ],
  [
    "local product not in the Frameworks phase",
    pilot,
    [["ios/Pilot.xcodeproj/project.pbxproj", "WB0, WB1, PB0, PB1", "WB0, WB1, PB0"]],
    "native/.*",
  ],
  [
    "source file outside of the target",
    pilot,
    [["ios/Pilot.xcodeproj/project.pbxproj", "FB0, FB1, FB2", "FB0, FB2"]],
    "native/.*|start/.*|project/.*",
  ],
  [
    "source file not in the project at all",
    pilot,
    [
      ["ios/Pilot.xcodeproj/project.pbxproj", "FB0, FB1, FB2", "FB0, FB2"],
      [
        "ios/Pilot.xcodeproj/project.pbxproj",
        '    F1 = { isa = PBXFileReference; path = Maps.swift; sourceTree = "<group>"; };\n    FB1 = { isa = PBXBuildFile; fileRef = F1; };\n',
        "",
      ],
      ["ios/Pilot.xcodeproj/project.pbxproj", "F0, F1, F2", "F0, F2"],
    ],
    "native/.*|start/.*|project/.*",
  ],
  ["file in the project that is not on disk", pilot, "ios/Pilot/Chart.swift", "source/binary-missing|native/.*|project/.*"],
  ["framework not embedded", pilot, [["ios/Pilot.xcodeproj/project.pbxproj", "files = ( WE0 )", "files = (  )"]], "native/not-embedded"],
  ["system framework lost", pilot, [["ios/Pilot.xcodeproj/project.pbxproj", "WB0, WB1, PB0", "WB0, PB0"]], "native/framework-missing"],
  ["linker flag lost", pilot, [["ios/Pilot.xcodeproj/project.pbxproj", '"-ObjC"', '"-lz"']], "native/.*|keep/.*"],
  ["binary not on disk", pilot, "ios/Tidewire.xcframework/Info.plist", "source/binary-missing"],
  ["package level", pilot, [["ios/Packages/MaresiaCore/Package.swift", ".v14", ".v17"]], "level/below-need"],
  [
    "local package nowhere",
    pilot,
    [["ios/Pilot.xcodeproj/project.pbxproj", "Packages/MaresiaCore;", "Packages/MaresiaKern;"]],
    "source/.*",
  ],
  [
    "product that the package does not have",
    pilot,
    [["ios/Packages/MaresiaCore/Package.swift", '.library(name: "MaresiaCore"', '.library(name: "MaresiaKern"']],
    "native/.*|source/.*",
  ],
  [
    "pin outside of the requirement",
    pilot,
    [["ios/Pilot.xcodeproj/project.xcworkspace/xcshareddata/swiftpm/Package.resolved", "4.2.1", "5.0.0"]],
    "version/.*",
  ],
  [
    "pin lost",
    pilot,
    [
      ["ios/Pilot.xcodeproj/project.xcworkspace/xcshareddata/swiftpm/Package.resolved", '"quaymap-ios"', '"quaymap-tv"'],
      ["ios/Pilot.xcodeproj/project.xcworkspace/xcshareddata/swiftpm/Package.resolved", "example/quaymap-ios", "example/quaymap-tv"],
    ],
    "version/lock-stale",
  ],
  [
    "module not included",
    pilot,
    [["settings.gradle.kts", 'include(":app", ":core:maps")', 'include(":app")']],
    "source/.*|native/.*|project/.*",
  ],
  ["module's minimum over the app's", pilot, [["core/maps/build.gradle.kts", "minSdk = 24", "minSdk = 28"]], "level/.*"],
  ["compile level under the target", pilot, [["app/build.gradle.kts", "compileSdk = 35", "compileSdk = 34"]], "level/order"],
  ["Gradle too old for the plugin", pilot, [["gradle/wrapper/gradle-wrapper.properties", "8.11.1", "8.7"]], "level/tools-apart"],
  [
    "Kotlin of another catalog entry",
    pilot,
    [["gradle/libs.versions.toml", 'version.ref = "kotlin" }', 'version.ref = "kotlins" }']],
    "version/.*|source/.*|project/.*",
  ],
  [
    "SDK versions of the sides apart",
    pilot,
    [["gradle/libs.versions.toml", 'quaymap = "4.2.0"', 'quaymap = "3.9.0"']],
    "version/sides-apart",
  ],
  [
    "api turned to implementation is fine; dependency lost",
    pilot,
    [["core/maps/build.gradle.kts", "    api(libs.quaymap)\n", ""]],
    "parity/one-sided|source/.*|start/.*",
  ],
  [
    "import of another module's package",
    pilot,
    [
      [
        "app/src/main/kotlin/example/maresia/pilot/MainActivity.kt",
        "import android.app.Activity\n",
        "import android.app.Activity\nimport example.tidewire.Feed\n",
      ],
      ["app/build.gradle.kts", "    implementation(libs.tidewire)\n", ""],
      ["core/maps/build.gradle.kts", "    api(libs.quaymap)\n", "    api(libs.quaymap)\n    implementation(libs.tidewire)\n"],
    ],
    "source/declared-elsewhere",
  ],
  ["application class not named", pilot, [["app/src/main/AndroidManifest.xml", ' android:name=".PilotApp"', ""]], "start/.*|native/.*"],
  ["application class misspelt", pilot, [["app/src/main/AndroidManifest.xml", '".PilotApp"', '".PilotApplication"']], "start/.*|native/.*"],
  ["start lost on iOS", pilot, [["ios/Pilot/Maps.swift", "        Quaymap.start()\n", ""]], "start/missing"],
  [
    "start not reached on Android",
    pilot,
    [["app/src/main/kotlin/example/maresia/pilot/PilotApp.kt", "        Maps.begin(this)\n", ""]],
    "start/.*",
  ],
  [
    "purpose text lost",
    pilot,
    [["ios/Pilot/Info.plist", "  <key>NSLocationWhenInUseUsageDescription</key><string>Shows the way.</string>\n", ""]],
    "permit/purpose-missing",
  ],
  [
    "rn: linked by hand beside autolinking",
    deckpass,
    [
      [
        "android/app/src/main/java/example/maresia/deckpass/MainApplication.kt",
        "            add(GatePackage())\n",
        "            add(GatePackage())\n            add(QuaymapPackage())\n",
      ],
      [
        "android/app/src/main/java/example/maresia/deckpass/MainApplication.kt",
        "import com.facebook.react.PackageList\n",
        "import com.facebook.react.PackageList\nimport example.quaymap.react.QuaymapPackage\n",
      ],
    ],
    "native/linked-twice",
  ],
  [
    "rn: own package not added",
    deckpass,
    [["android/app/src/main/java/example/maresia/deckpass/MainApplication.kt", "            add(GatePackage())\n", ""]],
    "native/unregistered",
  ],
  [
    "rn: patch of another version",
    deckpass,
    [
      ["package.json", '"tide-chart": "1.3.0"', '"tide-chart": "1.4.0"'],
      ["package-lock.json", '"tide-chart": "1.3.0"', '"tide-chart": "1.4.0"'],
      [
        "package-lock.json",
        '"node_modules/tide-chart": {\n      "version": "1.3.0"',
        '"node_modules/tide-chart": {\n      "version": "1.4.0"',
      ],
      ["node_modules/tide-chart/package.json", '"version": "1.3.0"', '"version": "1.4.0"'],
      ["node_modules/tide-chart/tide-chart.podspec", "1.3.0", "1.4.0"],
      ["ios/Podfile.lock", "tide-chart (1.3.0)", "tide-chart (1.4.0)"],
    ],
    "version/.*|source/.*",
  ],
  [
    "rn: patches not applied",
    deckpass,
    [["package.json", '"postinstall": "patch-package"', '"postinstall": "echo ready"']],
    "source/.*|version/.*|native/.*|project/.*",
  ],
  ["rn: native module misspelt", deckpass, [["App.tsx", "NativeModules.Gate", "NativeModules.Gates"]], "parity/service-missing"],
  [
    "rn: native module lost on iOS",
    deckpass,
    [["ios/Deckpass/Gate.m", "RCT_EXTERN_MODULE(Gate", "RCT_EXTERN_MODULE(Door"]],
    "parity/service-missing",
  ],
  [
    "rn: method lost on iOS",
    deckpass,
    [["ios/Deckpass/Gate.m", "RCT_EXTERN_METHOD(open)\n", "RCT_EXTERN_METHOD(close)\n"]],
    "parity/service-missing",
  ],
  ["rn: method misspelt in the script", deckpass, [["App.tsx", "Gate.open()", "Gate.opens()"]], "parity/service-missing"],
  [
    "rn: bridge file outside of the target",
    deckpass,
    [["ios/Deckpass.xcodeproj/project.pbxproj", "FB0, FB1, FB2", "FB0, FB2"]],
    "native/.*|parity/.*",
  ],
  [
    "rn: bluetooth text lost",
    deckpass,
    [["ios/Deckpass/Info.plist", "  <key>NSBluetoothAlwaysUsageDescription</key><string>Opens the gate.</string>\n", ""]],
    "permit/pair-broken",
  ],
  [
    "rn: module not in the lock of pods",
    deckpass,
    [
      ["ios/Podfile.lock", "  - tide-chart (1.3.0)\n", ""],
      ["ios/Podfile.lock", "  - tide-chart (from `../node_modules/tide-chart`)\n", ""],
    ],
    "native/not-linked",
  ],
  ["rn: peer not met", deckpass, [["node_modules/@quaymap/react-native/package.json", ">=0.72.0", ">=0.78.0"]], "version/.*"],
  [
    "rn: registered under another name",
    deckpass,
    [["ios/Deckpass/AppDelegate.swift", '"Deckpass"', '"DeckPass"']],
    "native/.*|project/.*|parity/.*",
  ],
  [
    "rn: package's level",
    deckpass,
    [["node_modules/@quaymap/react-native/android/build.gradle", "minSdkVersion 24", "minSdkVersion 26"]],
    "level/below-need|project/settings",
  ],
  [
    "rn: settings plugin lost",
    deckpass,
    [
      [
        "android/settings.gradle",
        "extensions.configure(com.facebook.react.ReactSettingsExtension){ ex -> ex.autolinkLibrariesFromCommand() }\n",
        "",
      ],
    ],
    "native/.*",
  ],
  [
    "rn: installed is not the lock's",
    deckpass,
    [["node_modules/tide-chart/package.json", '"version": "1.3.0"', '"version": "1.2.0"']],
    "version/.*",
  ],
];

const PROJECT = "ios/Pilot.xcodeproj/project.pbxproj";
const MAPS = "core/maps/build.gradle.kts";
const APPLICATION = "android/app/src/main/java/example/maresia/deckpass/MainApplication.kt";

/** What looks wrong and is right. */
const RIGHT: [what: string, app: Files, changes: Changes][] = [
  ["a file that nothing of a target uses", pilot, [[PROJECT, "FB0, FB1, FB2", "FB0, FB1"]]],
  [
    "a package that a module hands on",
    pilot,
    [
      ["app/build.gradle.kts", "    implementation(libs.tidewire)\n", ""],
      [MAPS, "api(libs.quaymap)", "api(libs.quaymap)\n    api(libs.tidewire)"],
    ],
  ],
  ["a module by its path", pilot, [["app/build.gradle.kts", "projects.core.maps", 'project(":core:maps")']]],
  [
    "a module for tests alone that is not here",
    pilot,
    [
      [
        "app/build.gradle.kts",
        "    implementation(libs.tidewire)\n",
        '    implementation(libs.tidewire)\n    testImplementation(project(":testing"))\n',
      ],
    ],
  ],
  [
    "modules that a script includes",
    pilot,
    {
      "settings.gradle.kts": String(pilot["settings.gradle.kts"]).replace(
        'include(":app", ":core:maps")',
        'include(":app")\napply(from = "modules.gradle.kts")',
      ),
      "modules.gradle.kts": 'include(":core:maps")\n',
    },
  ],
  [
    "own packages added to the list",
    deckpass,
    [[APPLICATION, "            add(GatePackage())\n", "            add(GatePackage())\n            // add(QuaymapPackage())\n"]],
  ],
  [
    "a root component whose name comes from elsewhere",
    deckpass,
    [
      ["index.js", "'Deckpass'", "appName"],
      ["ios/Deckpass/AppDelegate.swift", '"Deckpass"', '"Deck"'],
    ],
  ],
  [
    "a method that every module has",
    deckpass,
    [["App.tsx", "NativeModules.Gate.open();", "NativeModules.Gate.open();\n  NativeModules.Gate.addListener('x');"]],
  ],
  ["a second patch of one package", deckpass, { "patches/tide-chart+1.3.0+002+more.patch": "diff\n" }],
  [
    "a headset by Bluetooth, which iOS asks nobody for",
    deckpass,
    [["android/app/src/main/AndroidManifest.xml", "BLUETOOTH_SCAN", "BLUETOOTH_CONNECT"]],
  ],
];

describe("native apps and React Native as teams lay them out", () => {
  it.each([
    ["native on both sides", pilot],
    ["React Native with packages installed", deckpass],
  ])("are quiet: %s", async (_, app) => {
    expect((await reportOf(app)).findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  });

  it.each(RIGHT)("are quiet with %s", async (_, app, changes) => {
    const { findings } = await reportOf(changed(app, changes));
    expect(findings.filter(({ severity }) => severity !== "note").map(({ rule, message }) => `${rule} ${message}`)).toEqual([]);
  });

  it.each(MISTAKES)("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});
