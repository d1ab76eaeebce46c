import { beforeAll, describe, expect, inject, it } from "vitest";
import { RULE_NAMES } from "../../src/core/rules/index.js";
import { enredoProcess } from "../helpers/program.js";

/** What is true of the sample apps, written down by reading their files: every finding, fact and wire, and nothing else. */

interface Place {
  file: string;
  line: number;
}
interface CheckDocument {
  findings: { rule: string; severity: string; app: string; side?: string; places: Place[] }[];
}
interface SurveyDocument {
  apps: {
    name: string;
    kind: string;
    sides: Record<string, { id: string | null; levels: Record<string, { value: string | null }> }>;
    sdks: {
      sdk: string;
      side: string;
      name: string;
      declared: string | null;
      locked: string | null;
      platform: boolean;
      direct: boolean;
      test: boolean;
    }[];
  }[];
}
interface TraceDocument {
  apps: { name: string; sides: Record<string, { need: string; state: string; wanted: string; derived: string | null }[]> }[];
}

const { demo } = inject("sampleApps");
let checked: CheckDocument;
let surveyed: SurveyDocument;
beforeAll(() => {
  checked = JSON.parse(enredoProcess(["check", demo, "--json"]).stdout) as CheckDocument;
  surveyed = JSON.parse(enredoProcess(["survey", demo, "--json"]).stdout) as SurveyDocument;
});

const FINDINGS: Record<string, string[]> = {
  Lockkeeper: [
    "error level/framework-apart shared lockkeeper/Bookings/Bookings.csproj:4",
    "error start/missing shared lockkeeper/Lockkeeper.csproj:17",
    "error version/central-apart shared lockkeeper/Lockkeeper.csproj:18",
    "error identity/service-file-misplaced android lockkeeper/Platforms/Android/brinelog-services.json:1",
    "error level/below-need android lockkeeper/Lockkeeper.csproj:11",
    "error permit/permission-missing android lockkeeper/Platforms/Android/AndroidManifest.xml:1",
    "error identity/service-file-mismatch ios lockkeeper/Platforms/iOS/Brinelog-Services.plist:8",
    "error parity/service-missing ios lockkeeper/MauiProgram.cs:9",
    "warning version/floating shared lockkeeper/Lockkeeper.csproj:17",
    "warning parity/one-sided ios lockkeeper/Lockkeeper.csproj:19",
    "warning project/config-apart ios lockkeeper/Lockkeeper.csproj:10",
  ],
  Pilot: [
    "error keep/packaging android pilot/android/app/build.gradle.kts:1",
    "error key/environment android pilot/android/app/build.gradle.kts:26",
    "error key/shape android pilot/android/app/src/main/res/values/moorid.xml:2",
    "error level/order android pilot/android/app/build.gradle.kts:10",
    "error level/tools-apart android pilot/android/gradle/wrapper/gradle-wrapper.properties:3",
    "error permit/host android pilot/android/app/src/main/AndroidManifest.xml:1",
    "error permit/misspelt android pilot/android/app/src/main/AndroidManifest.xml:5",
    "error permit/permission-missing android pilot/android/app/src/main/AndroidManifest.xml:1",
    "error project/component-broken android pilot/android/app/src/main/AndroidManifest.xml:13",
    "error source/binary-missing android pilot/android/app/build.gradle.kts:47",
    "error start/never-reached android pilot/android/app/src/main/java/example/maresia/pilot/PilotApplication.kt:15",
    "error start/order android pilot/android/app/src/main/java/example/maresia/pilot/ChartInitializers.kt:20",
    "error start/too-late android pilot/android/app/src/main/java/example/maresia/pilot/MainActivity.kt:10",
    "error key/missing ios pilot/ios/Pilot.xcodeproj/project.pbxproj:1",
    "error key/missing ios pilot/ios/Pilot/Info.plist:1",
    "error key/sides-swapped ios pilot/ios/Pilot/Info.plist:41",
    "error native/framework-missing ios pilot/ios/Pilot.xcodeproj/project.pbxproj:1",
    "error native/not-embedded ios pilot/ios/Pilot.xcodeproj/project.pbxproj:45",
    "error native/slice-missing ios pilot/ios/Frameworks/Moorid.xcframework/Info.plist:6",
    "error permit/entry-missing ios pilot/ios/Pilot.xcodeproj/project.pbxproj:1",
    "error permit/entry-missing ios pilot/ios/Pilot/Info.plist:1",
    "error permit/host ios pilot/ios/Pilot/Info.plist:1",
    "error permit/purpose-missing ios pilot/ios/Pilot/Info.plist:26",
    "error permit/reason-missing ios pilot/ios/Pilot/PilotApp.swift:15",
    "error permit/scheme ios pilot/ios/Pilot/Moorid-Settings.plist:8",
    "error project/extension-broken ios pilot/ios/Pilot/RouteNotes.swift:11",
    "error project/file-outside-target ios pilot/ios/Pilot/RouteMark.swift:1",
    "error source/outside-project ios pilot/ios/Pilot.xcodeproj/project.pbxproj:212",
    "error start/missing ios pilot/ios/Pilot/PilotApp.swift:11",
    "error start/order ios pilot/ios/Pilot/PilotApp.swift:13",
    "error version/lock-stale ios pilot/ios/Pilot.xcodeproj/project.pbxproj:268",
    "error version/two-routes ios pilot/ios/Pilot.xcodeproj/project.pbxproj:284",
    "warning version/sides-apart both pilot/android/gradle/libs.versions.toml:6",
    "warning key/in-the-open android pilot/android/app/build.gradle.kts:18",
    "warning parity/one-sided android pilot/ios/Pilot.xcodeproj/project.pbxproj:268",
    "warning source/declared-elsewhere android pilot/android/charts/src/main/java/example/maresia/pilot/charts/ChartNews.kt:3",
    "warning source/insecure android pilot/android/settings.gradle.kts:17",
    "warning start/debug-left-on android pilot/android/app/src/main/java/example/maresia/pilot/PilotApplication.kt:10",
    "warning version/conflict android pilot/android/gradle/libs.versions.toml:5",
    "warning version/raised android pilot/android/gradle/libs.versions.toml:6",
    "warning parity/one-sided ios pilot/android/app/src/main/java/example/maresia/pilot/MainActivity.kt:11",
    "warning project/value-missing ios pilot/ios/Pilot/RouteNotes.swift:14",
    "warning start/twice ios pilot/ios/Pilot/PilotApp.swift:12",
    "warning version/withdrawn ios pilot/ios/Pilot.xcodeproj/project.pbxproj:271",
    "note permit/permission-missing android pilot/android/app/src/main/AndroidManifest.xml:4",
    "note permit/unneeded android pilot/android/app/src/main/AndroidManifest.xml:6",
  ],
  Quayside: [
    "error permit/host both quayside/config.xml:1",
    "error key/missing shared quayside/config.xml:10",
    "error level/below-need android quayside/config.xml:5",
    "error native/not-linked ios quayside/config.xml:12",
    "error permit/purpose-missing ios quayside/config.xml:1",
    "warning version/floating both quayside/config.xml:13",
    "warning start/unguarded shared quayside/www/js/index.js:3",
    "warning permit/purpose-twice ios quayside/plugins/cordova-plugin-quaymap/plugin.xml:26",
    "note permit/pair-broken ios quayside/plugins/cordova-plugin-quaymap/plugin.xml:19",
  ],
  Tidegame: [
    "error project/handler-missing shared tidegame/Assets/Scenes/Harbour.unity:64",
    "error version/lock-stale shared tidegame/Packages/manifest.json:4",
    "error version/lock-stale shared tidegame/Packages/manifest.json:5",
    "error key/shape android tidegame/Assets/Plugins/Android/AndroidManifest.xml:4",
    "error level/below-need android tidegame/ProjectSettings/ProjectSettings.asset:12",
    "error permit/permission-missing android tidegame/Assets/Plugins/Android/AndroidManifest.xml:1",
    "warning version/sides-apart both tidegame/Assets/Harbour/Editor/HarbourDependencies.xml:3",
    "warning level/store-floor android tidegame/ProjectSettings/ProjectSettings.asset:13",
    "warning native/left-out android tidegame/Assets/Plugins/Android/tidewire-1.4.aar.meta:9",
    "warning version/conflict android tidegame/Assets/Harbour/Editor/HarbourDependencies.xml:3",
  ],
  crewboard: [
    "error version/lock-stale both crewboard/pubspec.yaml:14",
    "error source/asset-missing shared crewboard/pubspec.yaml:27",
    "error source/repository-missing android crewboard/android/build.gradle:3",
    "error identity/service-file-misplaced ios crewboard/ios/Runner/Brinelog-Services.plist:1",
    "error native/not-linked ios crewboard/pubspec.yaml:13",
    "error native/template-line ios crewboard/ios/Runner/AppDelegate.swift:1",
    "error permit/purpose-missing ios crewboard/ios/Runner/Info.plist:1",
    "warning start/debug-left-on shared crewboard/lib/main.dart:8",
    "warning level/left-to-default android crewboard/android/app/build.gradle:13",
    "warning level/spread ios crewboard/ios/Podfile:1",
    "warning parity/flavor-missing ios crewboard/android/app/build.gradle:31",
    "warning permit/pair-broken ios crewboard/android/app/src/main/AndroidManifest.xml:3",
    "note start/unused shared crewboard/pubspec.yaml:13",
    "note start/unused shared crewboard/pubspec.yaml:15",
    "note source/not-taken android crewboard/android/app/build.gradle:24",
  ],
  deckpass: [
    "error start/import-missing shared deckpass/src/feed.js:3",
    "error start/missing shared deckpass/index.js:1",
    "error start/wrong-call shared deckpass/src/App.tsx:9",
    "error identity/service-file-misplaced android deckpass/android/brinelog-services.json:1",
    "error keep/rules-missing android deckpass/android/app/proguard-tollbuoy.pro:2",
    "error key/placeholder android deckpass/android/app/src/main/AndroidManifest.xml:9",
    "error level/below-need android deckpass/android/build.gradle:4",
    "error level/below-need android deckpass/android/build.gradle:4",
    "error native/linked-twice android deckpass/android/app/build.gradle:40",
    "error native/unregistered android deckpass/android/app/src/main/java/example/maresia/deckpass/TicketReaderPackage.kt:20",
    "error permit/permission-missing android deckpass/android/app/src/main/AndroidManifest.xml:1",
    "error permit/scheme android deckpass/android/app/src/main/AndroidManifest.xml:23",
    "error project/setup-missing android deckpass/android/gradle.properties:1",
    "error source/build-plugin android deckpass/android/build.gradle:18",
    "error source/repository-missing android deckpass/android/build.gradle:26",
    "error version/companion-missing android deckpass/android/app/build.gradle:1",
    "error version/only-in-variant android deckpass/android/app/src/main/java/example/maresia/deckpass/MainApplication.kt:10",
    "error identity/service-file-mismatch ios deckpass/ios/Deckpass/Brinelog-Services.plist:8",
    "error key/places-apart ios deckpass/ios/Deckpass/Info.plist:30",
    "error native/half-missing ios deckpass/ios/Deckpass/GateLock.m:3",
    "error native/not-linked ios deckpass/package.json:12",
    "error permit/manifest-missing ios deckpass/package.json:15",
    "error version/lock-stale ios deckpass/ios/Podfile:19",
    "error version/wrapper-apart ios deckpass/ios/Podfile.lock:3",
    "warning version/patch-apart shared deckpass/patches/@tidewire+react-native+1.4.0.patch:1",
    "warning keep/file-unused android deckpass/android/app/proguard-tollbuoy.pro:2",
    "warning keep/misspelt android deckpass/android/app/proguard-rules.pro:4",
    "warning version/floating android deckpass/android/app/build.gradle:39",
    "warning native/left-out ios deckpass/react-native.config.js:3",
    "warning permit/pair-broken ios deckpass/android/app/src/main/AndroidManifest.xml:3",
    "warning source/workspace-bypassed ios deckpass/scripts/archive-ios.sh:4",
    "note start/unused shared deckpass/package.json:11",
    "note start/unused shared deckpass/package.json:12",
    "note start/unused shared deckpass/package.json:15",
  ],
  kiosk: [
    "error key/placeholder-unset android kiosk/android/app/build.gradle:1",
    "error level/below-need android kiosk/android/variables.gradle:2",
    "error level/desugaring-off android kiosk/android/app/build.gradle:1",
    "error native/library-doubled android kiosk/android/app/libs/tidewire-1.4.aar!/jni/arm64-v8a/libtide.so:1",
    "error native/not-linked android kiosk/package.json:10",
    "error project/build-stops android kiosk/android/app/build.gradle:15",
    "error version/classes-doubled android kiosk/android/app/build.gradle:21",
    "error version/companion-missing android kiosk/android/app/build.gradle:1",
    "error key/placeholder ios kiosk/ios/App/App/Info.plist:18",
    "error permit/reason-invalid ios kiosk/ios/App/App/PrivacyInfo.xcprivacy:9",
    "error project/component-broken ios kiosk/ios/App/App/Info.plist:1",
    "warning version/family-apart both kiosk/package-lock.json:22",
    "warning project/debug-option shared kiosk/capacitor.config.ts:7",
    "warning version/lock-stale shared kiosk/package-lock.json:31",
    "warning native/page-size android kiosk/android/app/libs/tidewire-1.4.aar!/jni/arm64-v8a/libtide.so:1",
    "warning native/processor-missing android kiosk/android/app/libs/tidewire-1.4.aar!/jni/armeabi-v7a/libtidesound.so:1",
    "warning permit/limited-by-package android kiosk/android/app/src/main/AndroidManifest.xml:3",
    "warning source/repository-retired android kiosk/android/build.gradle:17",
    "note start/unused shared kiosk/package.json:9",
  ],
  logbook: [
    "error key/in-address shared logbook/package.json:8",
    "warning version/lock-missing shared logbook/package.json:1",
    "warning identity/placeholder-id android logbook/app.json:14",
    "note identity/ids-differ both logbook/app.json:14",
    "note native/plugin-unlisted shared logbook/app.json:17",
  ],
};

describe("every finding of the sample apps", () => {
  it.each(Object.entries(FINDINGS))("%s", (name, expected) => {
    const found = checked.findings
      .filter(({ app }) => app === name)
      .map(({ severity, rule, side, places: [first] }) => `${severity} ${rule} ${side ?? "both"} ${first?.file ?? ""}:${first?.line ?? 0}`);
    expect(found).toEqual(expected);
  });

  // The others are about settings and files that cannot be read, about apps for systems of ten years ago or for watches, and about a release without a number.
  it("are of every rule but five", () => {
    const shown = new Set(checked.findings.map(({ rule }) => rule));
    expect([...RULE_NAMES].filter((name) => !shown.has(name)).sort()).toEqual([
      "identity/version-unset",
      "identity/watch-apart",
      "level/method-limit",
      "project/settings",
      "project/unreadable",
    ]);
  });

  it("no other app has any", () => {
    expect(new Set(checked.findings.map(({ app }) => app))).toEqual(new Set(Object.keys(FINDINGS)));
  });
});

const FACTS: Record<string, string[]> = {
  crewboard: [
    "flutter",
    "android example.maresia.crewboard minSdk unknown, targetSdk 35, compileSdk 35, kotlin 2.0.21, androidPlugin 8.7.3, gradle 8.9",
    "ios example.maresia.crewboard iosTarget 14.0, swift 5.0",
    "android brinelog: brinelog_flutter ^2.1.0 2.1.0",
    "ios brinelog: brinelog_flutter ^2.1.0 2.1.0",
    "android gullpost: gullpost_flutter any 5.2.0",
    "ios gullpost: gullpost_flutter any 5.2.0",
    "android quaymap: quaymap_flutter ^4.2.0 4.1.0",
    "ios quaymap: quaymap_flutter ^4.2.0 4.1.0",
    "android tidewire: tidewire_flutter - 1.4.0",
    "ios tidewire: tidewire_flutter - 1.4.0",
  ],
  deckpass: [
    "react-native",
    "android example.maresia.deckpass minSdk 23, targetSdk 35, compileSdk 35, gradle 8.14.1, androidPlugin 8.9.2, kotlin 2.1.20",
    "ios example.maresia.deckpass iosTarget 15.1, swift 5.0",
    "android inspect: example.inspect:inspect 1.0.0 -",
    "android tollbuoy: example.tollbuoy:tollbuoy-android 3.+ -",
    "ios quaymap: QuaymapSDK ~> 4.2 4.1.3",
    "android brinelog: @brinelog/react-native 2.1.0 2.1.0",
    "ios brinelog: @brinelog/react-native 2.1.0 2.1.0",
    "android gullpost: @gullpost/react-native 5.2.0 5.2.0",
    "ios gullpost: @gullpost/react-native 5.2.0 5.2.0",
    "android moorid: @moorid/react-native 1.9.2 1.9.2",
    "android quaymap: @quaymap/react-native ^4.2.0 4.2.1",
    "ios quaymap: @quaymap/react-native ^4.2.0 4.2.1",
    "android tidewire: @tidewire/react-native 1.4.0 1.4.0",
    "ios tidewire: @tidewire/react-native 1.4.0 1.4.0",
    "android tollbuoy: @tollbuoy/react-native ~3.1.0 3.1.4",
    "ios tollbuoy: @tollbuoy/react-native ~3.1.0 3.1.4",
  ],
  kiosk: [
    "capacitor",
    "android example.maresia.kiosk minSdk 23, targetSdk 35, compileSdk 35, androidPlugin 8.7.2, gradle 8.11.1",
    "ios example.maresia.kiosk iosTarget 14.0, swift 5.0",
    "android tidewire: tidewire-1.4.aar - 1.4",
    "android tidewire-feed: tidewire-feed-1.4.jar - 1.4",
    "ios gullpost: GullpostCapacitor - -",
    "ios tollbuoy: TollbuoyCapacitor - -",
    "android gullpost: @gullpost/capacitor 5.2.0 5.2.0",
    "ios gullpost: @gullpost/capacitor 5.2.0 5.2.0",
    "android tollbuoy: @tollbuoy/capacitor 3.1.4 3.1.4",
    "ios tollbuoy: @tollbuoy/capacitor 3.1.4 3.1.4",
  ],
  Lockkeeper: [
    "dotnet",
    "android example.maresia.lockkeeper minSdk 21, targetSdk 35, compileSdk 35",
    "ios example.maresia.lockkeeper iosTarget 14.0",
    "shared quaymap: Quaymap.Mobile 4.2.0 -",
    "shared brinelog: Brinelog.Mobile 2.1.* -",
    "shared maresia-tables: Maresia.Tables - -",
    "android gullpost: Gullpost.Mobile 5.2.0 -",
  ],
  logbook: [
    "expo",
    "android com.anonymous.logbook minSdk 24, targetSdk 35, compileSdk 35",
    "ios example.maresia.logbook iosTarget 15.1",
    "android gullpost: @gullpost/react-native 5.2.0 -",
    "ios gullpost: @gullpost/react-native 5.2.0 -",
    "shared deck-forms: @maresia/deck-forms git+https://…@git.maresia.example/deck-forms.git#v1.2.0 -",
    "shared expo-build-properties: expo-build-properties 0.14.8 -",
  ],
  Pilot: [
    "native",
    "android example.maresia.pilot minSdk 26, targetSdk 36, compileSdk 35, kotlin 2.0.21, androidPlugin 8.7.3, gradle 8.7, java 17",
    "ios example.maresia.pilot iosTarget 16.0, swift 5.0",
    "android quaymap: example.quaymap:quaymap-android 4.2.0 -",
    "android gullpost: example.gullpost:gullpost-android 5.2.0 -",
    "android moorid: example.moorid:moorid-android 1.9.2 -",
    "android tidewire: tidewire-1.4.aar - 1.4",
    "android quaymap: example.quaymap:quaymap-android 4.0.1 -",
    "ios brinelog: https://git.brinelog.example/brinelog-ios 2.1.0 2.0.4",
    "ios gullpost: https://git.gullpost.example/gullpost-ios from 4.8.0 4.8.1",
    "ios moorid: https://git.moorid.example/moorid-ios from 1.9.0 1.9.2",
    "ios quaymap: https://git.quaymap.example/quaymap-ios from 4.2.0 4.2.3",
    "ios moorid: Moorid.xcframework - -",
    "ios tidewire: Tidewire.framework - 1.4.0",
  ],
  Quayside: [
    "cordova",
    "android example.maresia.quayside minSdk 23, targetSdk 35, compileSdk 35, androidPlugin 8.7.3, gradle 8.13",
    "ios example.maresia.quayside iosTarget 13.0",
    "android quaymap: cordova-plugin-quaymap 4.2.0 4.2.0",
    "ios quaymap: cordova-plugin-quaymap 4.2.0 4.2.0",
    "android gullpost: cordova-plugin-gullpost 5.2.0 5.2.0",
    "ios gullpost: cordova-plugin-gullpost 5.2.0 5.2.0",
    "android tidewire: cordova-plugin-tidewire https://git.tidewire.example/cordova-plugin-tidewire.git -",
    "ios tidewire: cordova-plugin-tidewire https://git.tidewire.example/cordova-plugin-tidewire.git -",
  ],
  Tidegame: [
    "unity",
    "android example.maresia.tidegame minSdk 22, targetSdk 33",
    "ios example.maresia.tidegame iosTarget 13.0",
    "shared brinelog: example.brinelog.sdk 2.1.0 2.0.4",
    "shared quaymap: example.quaymap.sdk https://git.quaymap.example/unity.git -",
    "android quaymap: example.quaymap:quaymap-android 4.0.1 -",
    "android quaymap: example.quaymap:quaymap-android 4.2.0 -",
    "ios quaymap: QuaymapSDK ~> 4.2 -",
  ],
};

describe("every fact of the sample apps", () => {
  it.each(Object.entries(FACTS))("%s", (name, expected) => {
    const app = surveyed.apps.find((candidate) => candidate.name === name);
    const sides = Object.entries(app?.sides ?? {})
      .filter(([side]) => side !== "shared")
      .map(
        ([side, { id, levels }]) =>
          `${side} ${id ?? "-"} ${Object.entries(levels)
            .map(([level, { value }]) => `${level} ${value ?? "unknown"}`)
            .join(", ")}`,
      );
    const sdks = (app?.sdks ?? [])
      .filter(({ platform, direct, test }) => !platform && direct && !test)
      .map(({ side, sdk, name: own, declared, locked }) => `${side} ${sdk}: ${own} ${declared ?? "-"} ${locked ?? "-"}`);
    expect([app?.kind, ...sides, ...sdks]).toEqual(expected);
  });
});

const WIRES: Record<string, Record<string, string[]>> = {
  quaymap: {
    "crewboard android": [
      "missing repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "unknown minSdk 24 24 or higher",
      "connected key mapKey example.quaymap.KEY in the manifest",
      "connected permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "crewboard ios": [
      "connected iosTarget 14.0 14.0 or higher",
      "connected key mapKey QuaymapKey in the property list",
      "missing purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "deckpass android": [
      "missing repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "loose minSdk 24 24 or higher",
      "loose key mapKey example.quaymap.KEY in the manifest",
      "missing Gradle property quaymap.tiles quaymap.tiles = offline",
      "missing permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "deckpass ios": [
      "connected iosTarget 14.0 14.0 or higher",
      "connected key mapKey QuaymapKey in the property list",
      "connected purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Lockkeeper android": [
      "unknown repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "loose minSdk 24 24 or higher",
      "connected key mapKey example.quaymap.KEY in the manifest",
      "missing permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Lockkeeper ios": [
      "connected iosTarget 14.0 14.0 or higher",
      "connected key mapKey QuaymapKey in the property list",
      "connected purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Pilot android": [
      "connected repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "connected minSdk 24 24 or higher",
      "connected key mapKey example.quaymap.KEY in the manifest",
      "connected permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "connected start Quaymap.start Quaymap.start",
      "loose only in debug builds Quaymap.setVerbose Quaymap.setVerbose",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Pilot ios": [
      "connected iosTarget 14.0 14.0 or higher",
      "loose key mapKey QuaymapKey in the property list",
      "missing purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "loose start Quaymap.start Quaymap.start",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Quayside android": [
      "unknown repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "loose minSdk 24 24 or higher",
      "connected permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Quayside ios": [
      "missing purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Tidegame android": [
      "connected repository https://maven.quaymap.example/releases https://maven.quaymap.example/releases",
      "loose minSdk 24 24 or higher",
      "loose key gameKey example.quaymap.KEY in the manifest",
      "missing permission android.permission.ACCESS_FINE_LOCATION android.permission.ACCESS_FINE_LOCATION",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
    "Tidegame ios": [
      "connected key gameKey QuaymapKey in the property list",
      "connected purpose text NSLocationWhenInUseUsageDescription NSLocationWhenInUseUsageDescription",
      "unknown log line Quaymap [0-9.]+ ready Quaymap [0-9.]+ ready",
    ],
  },
  brinelog: {
    "crewboard android": [
      "connected service file brinelog-services.json brinelog-services.json",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "crewboard ios": [
      "loose service file Brinelog-Services.plist Brinelog-Services.plist",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "crewboard shared": [
      "connected start Brinelog.start Brinelog.start",
      "loose only in debug builds Brinelog.setVerbose Brinelog.setVerbose",
    ],
    "deckpass android": [
      "loose build plugin example.brinelog.symbols example.brinelog.symbols",
      "loose service file brinelog-services.json brinelog-services.json",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "deckpass ios": [
      "loose service file Brinelog-Services.plist example.maresia.deckpass",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "deckpass shared": ["missing start Brinelog.start Brinelog.start"],
    "Lockkeeper android": [
      "loose service file brinelog-services.json brinelog-services.json",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "Lockkeeper ios": [
      "loose service file Brinelog-Services.plist example.maresia.lockkeeper",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "Lockkeeper shared": ["missing start BrinelogReporter.Start BrinelogReporter.Start"],
    "Pilot ios": [
      "missing service file Brinelog-Services.plist Brinelog-Services.plist",
      "loose withdrawn <2.1.0 2.1.0 or newer",
      "loose start Brinelog.start Brinelog.start",
      "unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started",
    ],
    "Tidegame android": ["unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started"],
    "Tidegame ios": ["unknown log line Brinelog: session [0-9a-f]+ started Brinelog: session [0-9a-f]+ started"],
  },
  tollbuoy: {
    "deckpass android": [
      "connected minSdk 21 21 or higher",
      "missing companion example.tollbuoy:tollbuoy-wallet 3.0 example.tollbuoy:tollbuoy-wallet 3.0 or newer",
      "connected key publishableKey example.tollbuoy.PUBLISHABLE_KEY in the manifest",
      "loose URL scheme from publishableKey pay-tbp…4d (31 characters)",
      "loose keep rule -keep class example.tollbuoy.** { *; } -keep class example.tollbuoy.** { *; }",
    ],
    "deckpass ios": [
      "loose key publishableKey TollbuoyKey in the property list",
      "connected URL scheme from publishableKey pay-tbp…4d (31 characters)",
    ],
    "deckpass shared": ["unknown start Tollbuoy.start Tollbuoy.start", "loose withdrawn calls Tollbuoy.start"],
    "kiosk android": [
      "connected minSdk 21 21 or higher",
      "missing companion example.tollbuoy:tollbuoy-wallet 3.0 example.tollbuoy:tollbuoy-wallet 3.0 or newer",
      "connected key publishableKey example.tollbuoy.PUBLISHABLE_KEY in the manifest",
      "connected URL scheme from publishableKey pay-tbp…82 (31 characters)",
    ],
    "kiosk ios": [
      "loose key publishableKey TollbuoyKey in the property list",
      "unknown URL scheme from publishableKey built from publishableKey",
    ],
    "kiosk shared": ["connected start Tollbuoy.start Tollbuoy.start"],
  },
  gullpost: {
    "crewboard android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
    "deckpass android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
    "kiosk android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
    "Lockkeeper android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
    "logbook android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
    "Pilot android": [
      "loose key senderKey GULLPOST_KEY in the build config fields",
      "missing permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS",
      "connected service example.gullpost.MessageService <service example.gullpost.MessageService>",
      "loose start Gullpost.start Gullpost.start",
      "unknown log line Gullpost: address [0-9a-f]+ fetched Gullpost: address [0-9a-f]+ fetched",
    ],
    "Pilot ios": [
      "missing key senderKey GullpostKey in the property list",
      "missing entitlement aps-environment aps-environment",
      "missing background mode remote-notification remote-notification",
      "missing start Gullpost.start Gullpost.start",
      "unknown log line Gullpost: address [0-9a-f]+ fetched Gullpost: address [0-9a-f]+ fetched",
    ],
    "Quayside android": ["connected permission android.permission.POST_NOTIFICATIONS android.permission.POST_NOTIFICATIONS"],
  },
  tidewire: {
    "deckpass ios": ["missing privacy manifest in its own files PrivacyInfo.xcprivacy"],
    "deckpass shared": [
      "loose import @tidewire/react-native @tidewire/react-native",
      "connected use Tidewire.subscribe Tidewire.subscribe",
    ],
    "Pilot android": [
      "missing host feed.tidewire.example feed.tidewire.example",
      "missing packaging option pickFirst lib/*/libtide.so pickFirst lib/*/libtide.so",
    ],
    "Pilot ios": [
      "missing host feed.tidewire.example feed.tidewire.example",
      "missing system framework libz.tbd libz.tbd",
      "loose embedded binary Tidewire.framework Tidewire.framework, embedded",
    ],
    "Quayside android": ["missing host feed.tidewire.example feed.tidewire.example"],
    "Quayside ios": ["missing host feed.tidewire.example feed.tidewire.example"],
    "Quayside shared": ["loose use tidewire.subscribe tidewire.subscribe"],
  },
  moorid: {
    "Pilot android": [
      "loose key clientId moorid_client_id in the string resources",
      "connected key relaySecret MOORID_RELAY_SECRET in the build config fields",
      "loose start Moorid.start Moorid.start",
      "connected use Moorid.signIn Moorid.signIn",
    ],
    "Pilot ios": [
      "loose service file Moorid-Settings.plist exa…os (33 characters) as a URL scheme",
      "connected queried scheme moorid moorid",
      "connected start Moorid.start Moorid.start",
    ],
  },
};

describe("every wire that a sheet of the sample apps asks for", () => {
  it.each(Object.entries(WIRES))("%s", (sdk, expected) => {
    const { apps } = JSON.parse(enredoProcess(["trace", sdk, demo, "--json"]).stdout) as TraceDocument;
    const found: Record<string, string[]> = {};
    for (const { name, sides } of apps)
      for (const [side, wires] of Object.entries(sides)) {
        const asked = wires.filter(({ state, derived }) => state !== "unneeded" && derived === null);
        if (asked.length > 0) found[`${name} ${side}`] = asked.map(({ state, need, wanted }) => `${state} ${need} ${wanted}`);
      }
    expect(found).toEqual(expected);
  });
});
