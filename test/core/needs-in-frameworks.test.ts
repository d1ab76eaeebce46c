import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { androidBlock, xcodeExample } from "../../src/core/rules/examples.js";
import { tracesOf } from "../helpers/memory.js";

/** One and the same need of a sheet, held where each framework states such things. */

type Files = Record<string, string>;
type Case = [title: string, need: string, state: string, files: Files];

const sheet = (need: string): Files => ({
  "enredo/sheets/gull.sdk.yaml": `sdk: gull\npackages:\n  npm: "@gull/native"\n  pub: gull\n  cordova: cordova-plugin-gull\n  nuget: Gull.Mobile\n  unity: example.gull.sdk\n  maven: example.gull:gull-android\n  cocoapods: GullKit\nneeds:\n  - { ${need} }\n`,
});
const manifest = (inside: string, application = "") =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n${inside}  <application>\n${application}  </application>\n</manifest>\n`;
const plist = (entries: string) =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">\n<dict>\n  <key>CFBundleIdentifier</key>\n  <string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>\n${entries}</dict>\n</plist>\n`;
const camera = '  <uses-permission android:name="android.permission.CAMERA" />\n';
const purpose = "  <key>NSCameraUsageDescription</key>\n  <string>Scans the pass.</string>\n";
const scheme = (value: string) =>
  `  <key>CFBundleURLTypes</key>\n  <array><dict><key>CFBundleURLSchemes</key><array><string>${value}</string></array></dict></array>\n`;
const key = (value: string) => `    <meta-data android:name="example.gull.KEY" android:value="${value}" />\n`;
const KEY = 'on: android, key: { name: mapKey, shape: "gl_[0-9a-f]{8}", in: [{ manifest: example.gull.KEY }] }';

const native = (folder: string, inside: string, application = ""): Files => ({
  [`${folder}settings.gradle`]: "include ':app'\n",
  [`${folder}build.gradle`]: "allprojects { repositories { google(); mavenCentral() } }\n",
  [`${folder}app/build.gradle`]: `apply plugin: 'com.android.application'\n${androidBlock()}`,
  [`${folder}app/src/main/AndroidManifest.xml`]: manifest(inside, application),
});
const apple = (project: string, entries: string): Files => ({
  [`${project}.xcodeproj/project.pbxproj`]: xcodeExample({ settings: "INFOPLIST_FILE = Pilot/Info.plist;" }),
  [`${project.split("/").slice(0, -1).join("/")}/Pilot/Info.plist`]: plist(entries),
});

const flutter = ({ inside = "", application = "", entries = "" } = {}): Files => ({
  "pubspec.yaml": "name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n  gull: ^2.0.0\n",
  ...native("android/", inside, application),
  ...apple("ios/Runner", entries),
});
const reactNative = ({ inside = "", application = "", entries = "" } = {}): Files => ({
  "package.json": JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", "@gull/native": "2.0.0" } }),
  ...native("android/", inside, application),
  ...apple("ios/Pilot", entries),
});
const capacitor = ({ inside = "", application = "", entries = "" } = {}): Files => ({
  "package.json": JSON.stringify({ name: "kiosk", dependencies: { "@capacitor/core": "7.2.0", "@gull/native": "2.0.0" } }),
  "capacitor.config.json": '{ "appId": "example.maresia.pilot", "appName": "Kiosk" }\n',
  ...native("android/", inside, application),
  ...apple("ios/App/App", entries),
});
const cordova = (config = "", plugin = ""): Files => ({
  "config.xml": `<widget id="example.maresia.quayside" xmlns="http://www.w3.org/ns/widgets" xmlns:android="http://schemas.android.com/apk/res/android">\n  <name>Quayside</name>\n  <engine name="android" spec="13.0.0" />\n  <engine name="ios" spec="7.1.1" />\n  <plugin name="cordova-plugin-gull" spec="2.0.0" />\n${config}</widget>\n`,
  "www/index.html": "<html></html>\n",
  "plugins/cordova-plugin-gull/plugin.xml": `<plugin xmlns="http://apache.org/cordova/ns/plugins/1.0" xmlns:android="http://schemas.android.com/apk/res/android" id="cordova-plugin-gull" version="2.0.0">\n  <platform name="android">\n${plugin}  </platform>\n  <platform name="ios">\n    <framework src="Gull.framework" custom="true" />\n  </platform>\n</plugin>\n`,
  "plugins/cordova-plugin-gull/package.json": '{ "name": "cordova-plugin-gull", "version": "2.0.0" }\n',
});
const dotnet = ({ inside = "", application = "", entries = "", code = "" } = {}): Files => ({
  "Lock.csproj":
    '<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup>\n    <TargetFrameworks>net8.0-android;net8.0-ios</TargetFrameworks>\n    <OutputType>Exe</OutputType>\n    <ApplicationId>example.maresia.lock</ApplicationId>\n  </PropertyGroup>\n  <ItemGroup>\n    <PackageReference Include="Gull.Mobile" Version="2.0.0" />\n  </ItemGroup>\n</Project>\n',
  "Platforms/Android/AndroidManifest.xml": manifest(inside, application),
  "Platforms/Android/MainApplication.cs": code,
  "Platforms/iOS/Info.plist": plist(entries),
});
const unity = ({ inside = "", application = "" } = {}): Files => ({
  "ProjectSettings/ProjectVersion.txt": "m_EditorVersion: 2022.3.45f1\n",
  "ProjectSettings/ProjectSettings.asset":
    "%YAML 1.1\n--- !u!129 &1\nPlayerSettings:\n  productName: Tidegame\n  applicationIdentifier:\n    Android: example.maresia.tidegame\n    iPhone: example.maresia.tidegame\n  AndroidMinSdkVersion: 24\n  AndroidTargetSdkVersion: 35\n  iOSTargetOSVersionString: 14.0\n",
  "Packages/manifest.json": '{ "dependencies": { "example.gull.sdk": "2.0.0" } }\n',
  "Assets/Plugins/Android/AndroidManifest.xml": manifest(inside, application),
});
const expo = (android = "", ios = "", more = ""): Files => ({
  "package.json": JSON.stringify({ name: "pier", dependencies: { expo: "~52.0.0", "react-native": "0.76.0", "@gull/native": "2.0.0" } }),
  "app.json": `{ "expo": { "name": "Pier", "android": { "package": "example.maresia.pier"${android} }, "ios": { "bundleIdentifier": "example.maresia.pier"${ios} }${more} } }\n`,
});

const CAMERA = "on: android, permission: android.permission.CAMERA";
const PURPOSE = "on: ios, purposeText: NSCameraUsageDescription";
const PROPERTY = "on: android, gradleProperty: { name: gull.mode, value: fast }";
const RESOURCE = "on: android, resource: gull_channel";
const FRAMEWORKS = 'on: ios, podfileCall: { name: "use_frameworks!", value: "linkage: static" }';
const PLUGIN = 'on: shared, configPlugin: "@gull/native"';
const OPTION = 'on: shared, option: { of: "@gull/native", name: ios.tiles, value: true }';
const VARIABLE = "on: shared, option: { of: cordova-plugin-gull, name: TILES, value: large }";
const strings = (name: string): Files => ({
  "android/app/src/main/res/values/strings.xml": `<resources>\n  <string name="${name}">Berths</string>\n</resources>\n`,
});
const podfile = (line: string): Files => ({ "ios/Podfile": `target 'Runner' do\n  ${line}\nend\n` });
const screen = (line: string): Files => ({
  "index.js": `import { AppRegistry } from 'react-native';\nimport Gull from '@gull/native';\n\nfunction App() {\n  ${line}\n  return null;\n}\nAppRegistry.registerComponent('Pilot', () => App);\n`,
});
const CASES: Case[] = [
  ["React Native: the manifest", CAMERA, "connected", reactNative({ inside: camera })],
  ["React Native: no manifest entry", CAMERA, "missing", reactNative()],
  ["React Native: the property list", PURPOSE, "connected", reactNative({ entries: purpose })],
  ["React Native: no purpose text", PURPOSE, "missing", reactNative()],
  ["React Native: a key of the right shape", KEY, "connected", reactNative({ application: key("gl_0a1b2c3d") })],
  ["React Native: a key of another shape", KEY, "loose", reactNative({ application: key("qm-1") })],
  ["React Native: a scheme", "on: ios, urlScheme: gull", "connected", reactNative({ entries: scheme("gull") })],
  ["Flutter: the manifest", CAMERA, "connected", flutter({ inside: camera })],
  ["Flutter: no manifest entry", CAMERA, "missing", flutter()],
  ["Flutter: the property list", PURPOSE, "connected", flutter({ entries: purpose })],
  ["Flutter: no purpose text", PURPOSE, "missing", flutter()],
  ["Flutter: a key", KEY, "connected", flutter({ application: key("gl_0a1b2c3d") })],
  ["Flutter: a level", "on: android, minSdk: 26", "loose", flutter()],
  ["Capacitor: the manifest", CAMERA, "connected", capacitor({ inside: camera })],
  ["Capacitor: no manifest entry", CAMERA, "missing", capacitor()],
  ["Capacitor: the property list", PURPOSE, "connected", capacitor({ entries: purpose })],
  ["Capacitor: no purpose text", PURPOSE, "missing", capacitor()],
  ["Capacitor: a level", "on: android, minSdk: 24", "connected", capacitor()],
  [
    "Cordova: put in by the plugin",
    CAMERA,
    "connected",
    cordova(
      "",
      '    <config-file target="AndroidManifest.xml" parent="/*">\n      <uses-permission android:name="android.permission.CAMERA" />\n    </config-file>\n',
    ),
  ],
  [
    "Cordova: put in by the configuration",
    CAMERA,
    "connected",
    cordova(
      '  <platform name="android">\n    <config-file target="AndroidManifest.xml" parent="/*">\n      <uses-permission android:name="android.permission.CAMERA" />\n    </config-file>\n  </platform>\n',
    ),
  ],
  ["Cordova: put in by nobody, before the platform is made, with all plugins here", CAMERA, "missing", cordova()],
  [
    "Cordova: put in by nobody, and a hook may do it",
    CAMERA,
    "unknown",
    cordova('  <hook type="after_prepare" src="scripts/manifest.js" />\n'),
  ],
  [
    "Cordova: a purpose text by edit-config",
    PURPOSE,
    "connected",
    cordova(
      '  <platform name="ios">\n    <edit-config target="NSCameraUsageDescription" file="*-Info.plist" mode="merge">\n      <string>Scans the pass.</string>\n    </edit-config>\n  </platform>\n',
    ),
  ],
  [
    "Cordova: a host without encryption, allowed by edit-config",
    "on: android, host: feed.gull.example",
    "connected",
    cordova(
      '  <platform name="android">\n    <edit-config file="app/src/main/AndroidManifest.xml" mode="merge" target="/manifest/application">\n      <application android:usesCleartextTraffic="true" />\n    </edit-config>\n  </platform>\n',
    ),
  ],
  [
    "Cordova: a level by a preference",
    "on: android, minSdk: 26",
    "connected",
    cordova('  <preference name="android-minSdkVersion" value="26" />\n'),
  ],
  [
    "Cordova: a level that is too low",
    "on: android, minSdk: 26",
    "loose",
    cordova('  <preference name="android-minSdkVersion" value="24" />\n'),
  ],
  [".NET: the manifest", CAMERA, "connected", dotnet({ inside: camera })],
  [
    ".NET: an attribute in code",
    CAMERA,
    "connected",
    dotnet({ code: "using Android.App;\n[assembly: UsesPermission(Android.Manifest.Permission.Camera)]\n" }),
  ],
  [".NET: neither", CAMERA, "missing", dotnet()],
  [".NET: the property list", PURPOSE, "connected", dotnet({ entries: purpose })],
  [".NET: no purpose text", PURPOSE, "missing", dotnet()],
  ["Unity: the manifest", CAMERA, "connected", unity({ inside: camera })],
  ["Unity: no manifest entry", CAMERA, "missing", unity()],
  [
    "Unity: what the editor adds since a script uses the camera",
    CAMERA,
    "connected",
    { ...unity(), "Assets/Scan.cs": "using UnityEngine;\nclass Scan { WebCamTexture camera = new WebCamTexture(); }\n" },
  ],
  ["Unity: what the editor adds if compiled code uses the camera", CAMERA, "unknown", { ...unity(), "Assets/Tide.dll": "MZ" }],
  ["Unity: what the editor adds if anything uses the network", "on: android, permission: android.permission.INTERNET", "unknown", unity()],
  ["Unity: no purpose text, but the SDK's own package may add it", PURPOSE, "unknown", unity()],
  ["Unity: a level", "on: android, minSdk: 26", "loose", unity()],
  ["Unity: a key", KEY, "connected", unity({ application: key("gl_0a1b2c3d") })],
  ["Expo: a permission of the configuration", CAMERA, "connected", expo(', "permissions": ["android.permission.CAMERA"]')],
  [
    "Expo: a purpose text of the configuration",
    PURPOSE,
    "connected",
    expo("", ', "infoPlist": { "NSCameraUsageDescription": "Scans the pass." }'),
  ],
  ["Expo: a purpose text that is empty", PURPOSE, "missing", expo("", ', "infoPlist": { "NSCameraUsageDescription": "" }')],
  [
    "Expo: a purpose text that is empty, beside a config plugin",
    PURPOSE,
    "missing",
    expo("", ', "infoPlist": { "NSCameraUsageDescription": "" }', ', "plugins": ["@gull/native"]'),
  ],
  ["Expo: no purpose text, but a config plugin may add it", PURPOSE, "unknown", expo("", "", ', "plugins": ["@gull/native"]')],
  ["Expo: no permission, and no plugin that could add it", CAMERA, "missing", expo()],
  ["Expo: no permission, but a config plugin may add it", CAMERA, "unknown", expo("", "", ', "plugins": ["@gull/native"]')],
  ["Expo: a plugin whose entries are known writes the text", PURPOSE, "connected", expo("", "", ', "plugins": ["expo-camera"]')],
  [
    "Expo: a plugin that is told to write no text",
    PURPOSE,
    "missing",
    expo("", "", ', "plugins": [["expo-camera", { "cameraPermission": false }]]'),
  ],
  ["React Native: a Gradle property", PROPERTY, "connected", { ...reactNative(), "android/gradle.properties": "gull.mode = fast\r\n" }],
  [
    "React Native: a Gradle property with another value",
    PROPERTY,
    "loose",
    { ...reactNative(), "android/gradle.properties": "gull.mode=slow\n" },
  ],
  ["React Native: no such Gradle property", PROPERTY, "missing", { ...reactNative(), "android/gradle.properties": "#gull.mode=fast\n" }],
  ["Expo: a Gradle property, before the projects are made", PROPERTY, "unneeded", expo()],
  [
    "React Native: a number that is written otherwise",
    "on: android, gradleProperty: { name: gull.level, value: 1 }",
    "connected",
    { ...reactNative(), "android/gradle.properties": "gull.level=1.0\n" },
  ],
  [
    "React Native: another edition that begins alike",
    "on: android, gradleProperty: { name: gull.edition, value: '1.1' }",
    "loose",
    { ...reactNative(), "android/gradle.properties": "gull.edition=1.10\n" },
  ],
  [
    "React Native: a word that is no switch in Gradle",
    "on: android, gradleProperty: { name: gull.on, value: true }",
    "loose",
    { ...reactNative(), "android/gradle.properties": "gull.on=yes\n" },
  ],
  [
    "React Native: a permission for old systems alone, where nothing is said of limits",
    CAMERA,
    "connected",
    reactNative({ inside: camera.replace(" />", ' android:maxSdkVersion="28" />') }),
  ],
  [
    "Flutter: one of several things that a call is given",
    "on: ios, podfileCall: { name: gull_setup, value: 'mode: fast' }",
    "connected",
    { ...flutter(), ...podfile("gull_setup('a', :mode => 'fast')") },
  ],
  [
    "Flutter: a call whose value the build decides",
    FRAMEWORKS,
    "unknown",
    { ...flutter(), ...podfile("use_frameworks! :linkage => ENV['LINKAGE'].to_sym") },
  ],
  ["Flutter: a string resource", RESOURCE, "connected", { ...flutter(), ...strings("gull_channel") }],
  ["Flutter: no string resource", RESOURCE, "missing", { ...flutter(), ...strings("gull_chanel") }],
  ["Flutter: a call in the Podfile", FRAMEWORKS, "connected", { ...flutter(), ...podfile("use_frameworks! :linkage => :static") }],
  [
    "Flutter: a call in the Podfile with another value",
    FRAMEWORKS,
    "loose",
    { ...flutter(), ...podfile("use_frameworks! :linkage => :dynamic") },
  ],
  ["Flutter: no such call in the Podfile", FRAMEWORKS, "missing", { ...flutter(), ...podfile("# use_frameworks! :linkage => :static") }],
  [
    "Flutter: a call in the hook of the Podfile",
    "on: ios, podfileCall: gull_post_install",
    "connected",
    { ...flutter(), ...podfile("end\npost_install do |installer|\n  gull_post_install(installer)") },
  ],
  ["Flutter: a call in the Podfile of an app without one", FRAMEWORKS, "unneeded", flutter()],
  ["Expo: a config plugin", PLUGIN, "connected", expo("", "", ', "plugins": [["@gull/native", {}]]')],
  ["Expo: a config plugin that is not listed", PLUGIN, "missing", expo("", "", ', "plugins": ["expo-router"]')],
  ["React Native: a config plugin", PLUGIN, "unneeded", reactNative()],
  [
    "Expo: an option of a config plugin",
    OPTION,
    "connected",
    expo("", "", ', "plugins": [["@gull/native", { "ios": { "tiles": true } }]]'),
  ],
  [
    "Expo: an option of a config plugin with another value",
    OPTION,
    "loose",
    expo("", "", ', "plugins": [["@gull/native", { "ios": { "tiles": false } }]]'),
  ],
  ["Expo: a config plugin without options", OPTION, "missing", expo("", "", ', "plugins": ["@gull/native"]')],
  [
    "Capacitor: an option of a plugin",
    OPTION,
    "connected",
    {
      ...capacitor(),
      "capacitor.config.json": '{ "appId": "example.maresia.pilot", "plugins": { "@gull/native": { "ios": { "tiles": true } } } }\n',
    },
  ],
  ["Capacitor: no option of a plugin", OPTION, "missing", capacitor()],
  [
    "Cordova: a variable of a plugin",
    VARIABLE,
    "connected",
    cordova('  <plugin name="cordova-plugin-gull" spec="2.0.0">\n    <variable name="TILES" value="large" />\n  </plugin>\n'),
  ],
  ["Cordova: no variable of a plugin", VARIABLE, "missing", cordova()],
  [
    "React Native: a permission that is limited to less than is needed",
    "on: android, permission: { name: android.permission.CAMERA, maxSdkVersion: 30 }",
    "loose",
    reactNative({ inside: camera.replace(" />", ' android:maxSdkVersion="28" />') }),
  ],
  [
    "React Native: a permission that is limited to what is needed",
    "on: android, permission: { name: android.permission.CAMERA, maxSdkVersion: 30 }",
    "connected",
    reactNative({ inside: camera.replace(" />", ' android:maxSdkVersion="30" />') }),
  ],
  [
    "React Native: a permission without a limit, where one would do",
    "on: android, permission: { name: android.permission.CAMERA, maxSdkVersion: 30 }",
    "connected",
    reactNative({ inside: camera }),
  ],
  [
    "React Native: a permission with a flag",
    "on: android, permission: { name: android.permission.CAMERA, flags: neverForLocation }",
    "connected",
    reactNative({ inside: camera.replace(" />", ' android:usesPermissionFlags="neverForLocation" />') }),
  ],
  [
    "React Native: a permission without its flag",
    "on: android, permission: { name: android.permission.CAMERA, flags: neverForLocation }",
    "loose",
    reactNative({ inside: camera }),
  ],
  [
    "React Native: only where the app calls something, and it does",
    `${PURPOSE}, uses: Gull.scan`,
    "missing",
    { ...reactNative(), ...screen("Gull.scan();") },
  ],
  [
    "React Native: only where the app calls something, and it does not",
    `${PURPOSE}, uses: Gull.scan`,
    "unneeded",
    { ...reactNative(), ...screen("Gull.show();") },
  ],
  ["React Native: only where the app calls something, without source files", `${PURPOSE}, uses: Gull.scan`, "unknown", reactNative()],
  [
    "React Native: a value of the property list that is a switch",
    "on: ios, plistEntry: { key: GullTiles, value: true }",
    "connected",
    reactNative({ entries: "  <key>GullTiles</key>\n  <true/>\n" }),
  ],
];

describe("a need in", () => {
  it.each(CASES)("%s", async (_, need, state, files) => {
    const { traces, problems } = await tracesOf({ ...files, ...sheet(need) }, "gull");
    expect(problems).toEqual([]);
    expect(traces).toHaveLength(1);
    const side = /^on: (\w+)/.exec(need)?.[1];
    const wires = traces[0]?.sides.find((candidate) => candidate.side === side)?.wires ?? [];
    const [wire] = wires.filter((candidate) => candidate.need.derived === undefined);
    expect(`${wire?.state ?? "no wire"} ${wire?.why ? reasonText(wire.why) : ""}`).toMatch(new RegExp(`^${state}\\b`));
    if (state === "connected") expect(wire?.places.length).toBeGreaterThan(0);
    if (state === "loose" || state === "missing") expect(wire?.fix ?? "").not.toBe("");
  });
});

it.each([
  [30, "loose"],
  [21, "connected"],
])("a level %d that a package asks for, where the framework's own applies, is %s", async (asked, state) => {
  const files = {
    "package.json":
      '{ "name": "crewpass", "main": "index.js", "dependencies": { "expo": "~52.0.11", "react-native": "0.76.3", "@gull/native": "4.2.0" } }',
    "app.json": '{ "expo": { "name": "crewpass", "android": { "package": "example.maresia.crewpass" } } }',
    "node_modules/expo/package.json": '{ "name": "expo", "version": "52.0.11" }',
    "node_modules/react-native/package.json": '{ "name": "react-native", "version": "0.76.3" }',
    "node_modules/react-native/gradle/libs.versions.toml": '[versions]\nminSdk = "24"\n',
    "node_modules/expo-modules-autolinking/package.json": '{ "name": "expo-modules-autolinking", "version": "2.0.4" }',
    "node_modules/expo-modules-autolinking/android/expo-gradle-plugin/build.gradle.kts": "",
    "node_modules/@gull/native/package.json": '{ "name": "@gull/native", "version": "4.2.0" }',
    "node_modules/@gull/native/android/build.gradle": `apply plugin: 'com.android.library'\nandroid { defaultConfig { minSdkVersion ${asked} } }\n`,
  };
  const { traces } = await tracesOf(files, "gull");
  const wires = traces.flatMap(({ sides }) => sides.flatMap(({ wires: own }) => own));
  expect(wires.flatMap((wire) => (wire.need.kind === "minSdk" ? [wire.state] : []))).toEqual([state]);
});
