import { describe, expect, it } from "vitest";
import {
  androidBlock,
  androidExample,
  iosExample,
  quaymapAndroid,
  quaymapIos,
  quaymapSheet,
  reactNativeExample,
  serviceJson,
  xcodeExample,
  type XcodeExample,
} from "../../src/core/rules/examples.js";
import { linkingExample } from "../../src/core/rules/native/examples.js";
import { RULES } from "../../src/core/rules/index.js";
import type { Example } from "../../src/core/rules/rule.js";
import { reportOf } from "../helpers/memory.js";

/** For each rule: what it must say, and what it must not; no messages means silence. */
type Case = [title: string, files: Example, messages: string[]];

const permission = (name: string, more = "") => `  <uses-permission android:name="${name}"${more} />\n`;
const metaData = (name: string, value: string) => `    <meta-data android:name="${name}" android:value="${value}" />\n`;
const text = (key: string, value: string) => `  <key>${key}</key>\n  <string>${value}</string>\n`;
const below = (folder: string, files: Example): Example =>
  Object.fromEntries(Object.entries(files).map(([file, content]) => [`${folder}/${file}`, content]));
const settings = (yaml: string): Example => ({ "enredo.yaml": yaml });
const both = (android: Example, ios: Example): Example => ({ ...below("android", android), ...below("ios", ios) });
const gradle = (body: string, more: Example = {}) => androidExample(`${androidBlock()}${body}`, more);
const root = (plugin: string, more = "") =>
  `buildscript {\n  repositories { google() }\n  dependencies {\n    classpath 'com.android.tools.build:gradle:${plugin}'\n${more}  }\n}\nallprojects { repositories { google(); mavenCentral() } }\n`;
const wrapper = (version: string): Example => ({
  "gradle/wrapper/gradle-wrapper.properties": `distributionUrl=https\\://services.gradle.org/distributions/gradle-${version}-bin.zip\n`,
});
const podfile = (body: string, platform = "15.0") => ({ Podfile: `platform :ios, '${platform}'\ntarget 'Pilot' do\n${body}end\n` });
/** `react-native-quaymap` is in; it wants `peer`, which is installed as `files` say. */
const wants = (peer: string, files: Example = {}, { own = {}, optional = false, native = true } = {}): Example =>
  reactNativeExample(
    { "react-native-quaymap": "1.0.0", ...own },
    {
      "node_modules/react-native-quaymap/package.json": JSON.stringify({
        name: "react-native-quaymap",
        version: "1.0.0",
        peerDependencies: { react: "*", "react-native": "*", [peer]: "2.x" },
        ...(optional ? { peerDependenciesMeta: { [peer]: { optional: true } } } : {}),
      }),
      ...(native ? { "node_modules/react-native-quaymap/android/build.gradle": "apply plugin: 'com.android.library'\n" } : {}),
      ...files,
    },
  );
const installed = (name: string, native = true): Example => ({
  [`node_modules/${name}/package.json`]: JSON.stringify({ name, version: "2.1.0" }),
  ...(native ? { [`node_modules/${name}/android/build.gradle`]: "apply plugin: 'com.android.library'\n" } : {}),
});
const expoPlugins = (plugins: string, ios = '"bundleIdentifier": "example.maresia.pilot"'): Example => ({
  "package.json":
    '{ "name": "pilot", "dependencies": { "expo": "~53.0.0", "react-native": "0.79.2", "expo-camera": "~16.1.0", "expo-image-picker": "~16.1.0" } }\n',
  "app.json": `{ "expo": { "name": "Pilot", "slug": "pilot", "ios": { ${ios} }, "plugins": [${plugins}] } }\n`,
});
const cordovaTexts = (one: string, other: string, own = ""): Example => {
  const example = { ...(RULES.find(({ name }) => name === "permit/purpose-twice")?.examples.reported ?? {}) };
  const change = (file: string, from: string, to: string) => (example[file] = (example[file] ?? "").replace(from, to));
  change("plugins/tidewire-scan/plugin.xml", "To scan a ticket.", one);
  change("plugins/quaymap-view/plugin.xml", "To look at the quay.", other);
  change("config.xml", '<platform name="ios" />', `<platform name="ios">${own}</platform>`);
  return example;
};
const unlinked = "react-native-quaymap requires react-native-tidewire, which is installed but not linked, as package.json does not list it";
const absent = "react-native-quaymap requires react-native-tidewire, which is not installed";
const notLinked = (file: string, call: string) => `nothing links chart-deck on Android: ${file} has no ${call}`;
const OLD_SETTINGS =
  "apply from: file('../node_modules/@react-native-community/cli-platform-android/native_modules.gradle')\napplyNativeModulesSettingsGradle(settings)\ninclude ':app'\n";
const OLD_LINK =
  "apply from: file('../../node_modules/@react-native-community/cli-platform-android/native_modules.gradle')\napplyNativeModulesAppBuildGradle(project)\n";
const hybrid = (manifest: string, entries: string): Example =>
  reactNativeExample(
    {},
    {
      "android/app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n${manifest}  <application />\n</manifest>\n`,
      ...below("ios", quaymapIos(entries)),
    },
  );
const configurations = (debug: string, release: string): XcodeExample => ({
  target: release,
  objects: `C3 = { isa = XCBuildConfiguration; name = Debug; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = ${debug}; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.pilot; }; };`,
});
const twoConfigurations = (debug: string, release: string): Example => ({
  "Pilot.xcodeproj/project.pbxproj": xcodeExample(configurations(debug, release)).replace(
    "buildConfigurations = ( C2, )",
    "buildConfigurations = ( C3, C2, )",
  ),
});
const modules = (versions: Record<string, string>): Example => ({
  ...androidExample(
    `${androidBlock()}dependencies {\n  implementation project(':core')\n  implementation 'example.quaymap:quaymap-android:${versions.app ?? ""}'\n}`,
  ),
  "settings.gradle": "include ':app', ':core'\n",
  "core/build.gradle": `apply plugin: 'com.android.library'\nandroid { compileSdk 35 }\ndependencies {\n  implementation 'example.quaymap:quaymap-android:${versions.core ?? ""}'\n}\n`,
});

const CASES: Record<string, Case[]> = {
  "identity/ids-differ": [
    [
      "forced: no hyphens on Android, no underscores on iOS",
      both(androidExample(androidBlock(undefined, "example.maresia.deck_pass")), iosExample({ id: "example.maresia.deck-pass" })),
      [],
    ],
    [
      "meant, by the settings",
      { ...both(androidExample(androidBlock()), iosExample({ id: "example.maresia.skipper" })), ...settings("mayDiffer:\n  ids: true\n") },
      [],
    ],
    [
      "one side's id is not in the files",
      both(androidExample(androidBlock().replace("'example.maresia.pilot'", '"$nowhere"')), iosExample({ id: "example.maresia.two" })),
      [],
    ],
    [
      "two apps of one name",
      both(androidExample(androidBlock(undefined, "example.maresia.one")), iosExample({ id: "example.maresia.two" })),
      ["the sides have different ids: example.maresia.one on Android, example.maresia.two on iOS"],
    ],
  ],
  "identity/placeholder-id": [
    [
      "on iOS",
      iosExample({ id: "org.reactjs.native.example.Pilot" }),
      ["the bundle id org.reactjs.native.example.Pilot is still the project template's (the React Native template)"],
    ],
    ["only part of the word", androidExample(androidBlock(undefined, "com.examplement.pilot")), []],
    ["the domain of the made-up company", androidExample(androidBlock(undefined, "example.maresia.pilot")), []],
  ],
  "identity/service-file-mismatch": [
    [
      "a variant's own file for its own id",
      androidExample(
        `android {\n  compileSdk 35\n  defaultConfig { applicationId 'example.maresia.pilot'\n minSdk 24 }\n  buildTypes { debug { applicationIdSuffix '.debug' } }\n}`,
        { "app/src/debug/harbour-services.json": serviceJson("example.maresia.pilot.debug") },
      ),
      [],
    ],
    ["a JSON file that names no app", androidExample(androidBlock(), { "app/harbour-services.json": '{ "project": "harbour" }\n' }), []],
    [
      "a file of another app",
      androidExample(androidBlock(), { "app/harbour-services.json": serviceJson("example.maresia.kiosk") }),
      ["app/harbour-services.json is for example.maresia.kiosk; this app is example.maresia.pilot"],
    ],
  ],
  "identity/service-file-misplaced": [
    [
      "in the folder of a flavour",
      androidExample(
        `android {\n  compileSdk 35\n  defaultConfig { applicationId 'example.maresia.pilot' }\n  flavorDimensions 'port'\n  productFlavors { north {} }\n}`,
        { "app/src/north/harbour-services.json": serviceJson("example.maresia.pilot") },
      ),
      [],
    ],
    [
      "among the resources",
      androidExample(androidBlock(), { "app/src/main/res/harbour-services.json": serviceJson("example.maresia.pilot") }),
      ["app/src/main/res/harbour-services.json is not read: no build of :app looks in app/src/main/res"],
    ],
  ],
  "level/order": [
    ["a preview level is no number", androidExample(androidBlock("minSdk 24\n    targetSdkPreview 'Baklava'")), []],
    [
      "minSdk above target",
      androidExample(androidBlock("minSdk 36\n    targetSdk 35")),
      ["minSdk 36 is higher than targetSdk 35", "minSdk 36 is higher than compileSdk 35"],
    ],
    [
      "levels as strings and with the old names",
      androidExample(
        "android {\n  compileSdkVersion 'android-35'\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdkVersion 24\n    targetSdkVersion 35\n  }\n}\n",
      ),
      [],
    ],
  ],
  "level/spread": [
    ["15 and 15.0 are one level", twoConfigurations("15", "15.0"), []],
    [
      "two configurations apart",
      twoConfigurations("13.0", "15.0"),
      ["the deployment target differs between configurations: 13.0 in Debug, 15.0 in Release"],
    ],
    ["the project is lower than the target, which overrides it", iosExample({ target: "15.0", projectTarget: "13.0" }), []],
    [
      "the pods are older than the app: no harm for the app",
      iosExample({ target: "15.0" }, podfile("  pod 'QuaymapSDK', '4.2.0'\n", "15.0")),
      [],
    ],
  ],
  "level/tools-apart": [
    ["old enough to fit", androidExample(androidBlock(), { "build.gradle": root("8.7.3"), ...wrapper("8.9") }), []],
    [
      "a plugin that is newer than the table needs at least what the newest row needs",
      androidExample(androidBlock(), { "build.gradle": root("99.0.0"), ...wrapper("8.9") }),
      [
        'Android Gradle plugin 99.0.0 needs Gradle 9.1.0 or newer; this build has 8.9 (developer.android.com, Android Gradle plugin release notes, "Update Gradle")',
      ],
    ],
    ["a version out of nowhere", androidExample(androidBlock(), { "build.gradle": root("$nowhere"), ...wrapper("7.0") }), []],
  ],
  "level/below-need": [
    [
      "one demand of a package that comes as a pod by its path too",
      {
        ...linkingExample({
          podfile:
            "platform :ios, '15.1'\ntarget 'Pilot' do\n  config = use_native_modules!\n  pod 'ChartDeck', :path => '../node_modules/chart-deck'\nend\n",
        }),
        "node_modules/chart-deck/ChartDeck.podspec":
          "Pod::Spec.new do |s|\n  s.name = 'ChartDeck'\n  s.version = '2.0.0'\n  s.platforms = { :ios => '16.0' }\nend\n",
      },
      ["chart-deck needs iosTarget 16.0; this app has 15.1 in Release"],
    ],
    ["no floor, no needs", androidExample(androidBlock("minSdk 16")), []],
    [
      "the team's floor",
      { ...androidExample(androidBlock("minSdk 21")), ...settings("floors:\n  minSdk: 24\n") },
      ["the team's minimum is minSdk 24; this app has 21"],
    ],
    ["exactly the floor", { ...androidExample(androidBlock("minSdk 24")), ...settings("floors:\n  minSdk: 24\n") }, []],
    [
      "a floor for iOS",
      { ...iosExample({ target: "14.0" }), ...settings('floors:\n  iosTarget: "15.1"\n') },
      ["the team's minimum is iosTarget 15.1; this app has 14.0 in Release"],
    ],
    ["a sheet's need, met", { ...quaymapAndroid(), ...quaymapSheet("on: android, minSdk: 24") }, []],
    [
      "a sheet's need, not met",
      { ...quaymapAndroid(), ...quaymapSheet("on: android, minSdk: 26") },
      ["quaymap needs minSdk 26; this app has 24"],
    ],
    [
      "a need of a newer version, where nobody knows the version",
      {
        ...quaymapAndroid(),
        "app/build.gradle": (quaymapAndroid()["app/build.gradle"] ?? "")
          .replace("quaymap-android:4.2.0'", 'quaymap-android:$nowhere"')
          .replace("implementation '", 'implementation "'),
        ...quaymapSheet('on: android, minSdk: 26, from: "5.0"'),
      },
      [],
    ],
    ["a need of an older version only", { ...quaymapAndroid(), ...quaymapSheet('on: android, minSdk: 26, before: "4.0"') }, []],
  ],
  "key/missing": [
    [
      "an empty entry whose name says key",
      quaymapAndroid({ application: metaData("example.quaymap.API_KEY", "") }),
      ["the meta-data example.quaymap.API_KEY is empty"],
    ],
    ["an empty entry that is no key", quaymapAndroid({ application: metaData("example.quaymap.TITLE", "") }), []],
    [
      "a key in a placeholder that the build fills",
      quaymapAndroid({
        application: metaData("example.quaymap.API_KEY", "${quaymapKey}"),
        android: "  defaultConfig { manifestPlaceholders = [quaymapKey: System.getenv('K')] }\n",
      }),
      [],
    ],
    [
      "a key that a sheet wants and that is there",
      { ...quaymapIos(text("QuaymapKey", "qm-12345")), ...quaymapSheet("on: ios, key: { name: map, in: [{ plist: QuaymapKey }] }") },
      [],
    ],
  ],
  "key/placeholder": [
    [
      "text of the instructions in the property list",
      quaymapIos(text("QuaymapKey", "REPLACE_ME")),
      ["the property-list entry QuaymapKey is still the placeholder from the instructions: REPLACE_ME"],
    ],
    ["a word that only looks like it", quaymapAndroid({ application: metaData("example.quaymap.KEY", "your-harbour-7f3a90c2") }), []],
    [
      "a resource that is a sentence",
      quaymapAndroid(
        {},
        { "app/src/main/res/values/strings.xml": '<resources>\n  <string name="hint">Enter your name here</string>\n</resources>\n' },
      ),
      [],
    ],
  ],
  "key/places-apart": [
    [
      "two keys of one kind that only share their beginning",
      quaymapAndroid({ application: metaData("A_KEY", "qm7f3a90c2b4d85e61f0") + metaData("B_KEY", "qm7f11aa2299ffee0011") }),
      [],
    ],
    [
      "values of other variants",
      quaymapAndroid(
        { application: metaData("KEY", "qm7f3a90c2b4d85e61f0") },
        {
          "app/src/debug/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application>\n${metaData("KEY", "qm7f3a90c2b4d85e61f1")}  </application>\n</manifest>\n`,
        },
      ),
      [],
    ],
  ],
  "permit/misspelt": [
    [
      "upper and lower case",
      quaymapAndroid({ manifest: permission("android.permission.Camera") }),
      ["the permission android.permission.Camera does not exist; android.permission.CAMERA does"],
    ],
    ["another vendor's namespace", quaymapAndroid({ manifest: permission("example.harbour.permission.READ_BADG") }), []],
    [
      "a new permission that is far from all known",
      quaymapAndroid({ manifest: permission("android.permission.SOMETHING_ENTIRELY_NEW_AND_LONG") }),
      [],
    ],
    [
      "a purpose text with a letter too few",
      quaymapIos(text("NSCameraUsageDescripton", "Scans.")),
      ["the key NSCameraUsageDescripton does not exist; NSCameraUsageDescription does"],
    ],
    ["an own key of the property list", quaymapIos(text("MaresiaHarbour", "north")), []],
    [
      "a permission that is taken out again",
      quaymapAndroid({
        manifest: permission("android.permission.CAMERA", ' tools:node="remove"').replace(
          "/>",
          'xmlns:tools="http://schemas.android.com/tools" />',
        ),
      }),
      [],
    ],
  ],
  "permit/pair-broken": [
    ["both sides ask", hybrid(permission("android.permission.CAMERA"), text("NSCameraUsageDescription", "Scans the pass.")), []],
    [
      "Android alone",
      hybrid(permission("android.permission.CAMERA"), ""),
      ["Android requests the camera (android.permission.CAMERA), but iOS has no NSCameraUsageDescription"],
    ],
    [
      "iOS alone, where Android needs a permission",
      hybrid("", text("NSLocationWhenInUseUsageDescription", "Shows the quay.")),
      ["iOS requests the location (NSLocationWhenInUseUsageDescription), but Android has no android.permission.ACCESS_FINE_LOCATION"],
    ],
    ["photos: Android needs none for the picker", hybrid("", text("NSPhotoLibraryUsageDescription", "Picks a picture.")), []],
    ["a native app's sides may differ", both(quaymapAndroid({ manifest: permission("android.permission.CAMERA") }), quaymapIos()), []],
    ["the internet has no purpose text", hybrid(permission("android.permission.INTERNET"), ""), []],
  ],
  "permit/permission-missing": [
    [
      "required by the sheet and there",
      {
        ...quaymapAndroid({ manifest: permission("android.permission.CAMERA") }),
        ...quaymapSheet("on: android, permission: android.permission.CAMERA"),
      },
      [],
    ],
    [
      "removed by a merge marker",
      {
        ...quaymapAndroid({
          manifest: `  <uses-permission xmlns:tools="http://schemas.android.com/tools" android:name="android.permission.CAMERA" tools:node="remove" />\n`,
        }),
        ...quaymapSheet("on: android, permission: android.permission.CAMERA"),
      },
      ["quaymap needs the permission android.permission.CAMERA: removed by a merge marker"],
    ],
    ["the SDK is not in", { ...androidExample(androidBlock()), ...quaymapSheet("on: android, permission: android.permission.CAMERA") }, []],
    [
      "brought by another module of the app",
      {
        ...quaymapAndroid(),
        "settings.gradle": "include ':app', ':core'\n",
        "app/build.gradle": `${quaymapAndroid()["app/build.gradle"] ?? ""}dependencies { implementation project(':core') }\n`,
        "core/build.gradle": "apply plugin: 'com.android.library'\nandroid { compileSdk 35 }\n",
        "core/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n${permission("android.permission.CAMERA")}</manifest>\n`,
        ...quaymapSheet("on: android, permission: android.permission.CAMERA"),
      },
      [],
    ],
  ],
  "permit/purpose-twice": [
    [
      "what two plugins of Expo word",
      expoPlugins('["expo-camera", { "cameraPermission": "To scan." }], ["expo-image-picker", { "cameraPermission": "For your face." }]'),
      ["expo-camera and expo-image-picker write different texts for NSCameraUsageDescription: only one of them reaches people"],
    ],
    [
      "one text, one that the plugin provides, one switched off",
      expoPlugins('["expo-camera", { "cameraPermission": "To scan." }], "expo-image-picker"'),
      [],
    ],
    [
      "the app's own text beside them",
      expoPlugins(
        '["expo-camera", { "cameraPermission": "To scan." }], ["expo-image-picker", { "cameraPermission": "For your face." }]',
        '"infoPlist": { "NSCameraUsageDescription": "To scan." }',
      ),
      [],
    ],
    ["texts that a variable words", cordovaTexts("$CAMERA_TEXT", "To look."), []],
    [
      "a text and an empty one",
      cordovaTexts("To look.", ""),
      ["tidewire-scan and quaymap-view write different texts for NSCameraUsageDescription: only one of them reaches people"],
    ],
    [
      "the app's own text beside those of plugins",
      cordovaTexts(
        "To scan.",
        "To look.",
        '<edit-config file="*-Info.plist" mode="merge" target="NSCameraUsageDescription"><string>To scan.</string></edit-config>',
      ),
      [],
    ],
  ],
  "permit/purpose-missing": [
    [
      "only blanks",
      { ...quaymapIos(text("NSCameraUsageDescription", "  ")), ...quaymapSheet("on: ios, purposeText: NSCameraUsageDescription") },
      ["quaymap needs the purpose text NSCameraUsageDescription: it is empty"],
    ],
    [
      "from the build settings",
      {
        ...quaymapIos(
          "",
          {},
          {
            settings:
              'INFOPLIST_FILE = Pilot/Info.plist; GENERATE_INFOPLIST_FILE = YES; INFOPLIST_KEY_NSCameraUsageDescription = "Scans the pass.";',
          },
        ),
        ...quaymapSheet("on: ios, purposeText: NSCameraUsageDescription"),
      },
      [],
    ],
    [
      "from build settings of which Xcode makes no list",
      {
        ...quaymapIos(
          "",
          {},
          { settings: 'INFOPLIST_FILE = Pilot/Info.plist; INFOPLIST_KEY_NSCameraUsageDescription = "Scans the pass.";' },
        ),
        ...quaymapSheet("on: ios, purposeText: NSCameraUsageDescription"),
      },
      ["quaymap needs the purpose text NSCameraUsageDescription, but it is missing"],
    ],
  ],
  "permit/scheme": [
    [
      "the sheet's scheme is there",
      {
        ...quaymapIos(
          "  <key>CFBundleURLTypes</key>\n  <array><dict><key>CFBundleURLSchemes</key><array><string>quaymap</string></array></dict></array>\n",
        ),
        ...quaymapSheet("on: ios, urlScheme: quaymap"),
      },
      [],
    ],
    [
      "the sheet's scheme is not there",
      { ...quaymapIos(), ...quaymapSheet("on: ios, urlScheme: quaymap") },
      ["quaymap needs the URL scheme quaymap, but it is missing"],
    ],
  ],
  "permit/entry-missing": [
    [
      "a service of the manifest",
      {
        ...quaymapAndroid({ application: '    <service android:name="example.quaymap.Service" />\n' }),
        ...quaymapSheet("on: android, manifestEntry: { element: service, name: example.quaymap.Service }"),
      },
      [],
    ],
    [
      "a value that differs",
      { ...quaymapIos(text("QuaymapMode", "lite")), ...quaymapSheet("on: ios, plistEntry: { key: QuaymapMode, value: full }") },
      ["quaymap needs the property-list entry QuaymapMode: lite; expected QuaymapMode = full"],
    ],
  ],
  "source/insecure": [
    [
      "allowed by name, still not encrypted",
      androidExample(androidBlock(), {
        "build.gradle":
          "allprojects { repositories { google(); maven { url 'http://maven.harbour.example'; allowInsecureProtocol = true } } }\n",
      }),
      ["packages are fetched from http://maven.harbour.example without encryption"],
    ],
    [
      "on this machine",
      androidExample(androidBlock(), {
        "build.gradle": "allprojects { repositories { google(); maven { url 'http://localhost:8081/releases' } } }\n",
      }),
      [],
    ],
    [
      "a folder",
      androidExample(androidBlock(), { "build.gradle": 'allprojects { repositories { google(); maven { url "$rootDir/maven" } } }\n' }),
      [],
    ],
  ],
  "source/repository-retired": [
    [
      "in a comment",
      androidExample(androidBlock(), { "build.gradle": "allprojects { repositories { google(); mavenCentral() // jcenter()\n } }\n" }),
      [],
    ],
    [
      "in a block comment",
      androidExample(androidBlock(), { "build.gradle": "/* jcenter() */ allprojects { repositories { google(); mavenCentral() } }\n" }),
      [],
    ],
  ],
  "source/binary-missing": [
    ["a tree of files is no file", gradle("dependencies {\n  implementation fileTree(dir: 'libs', include: ['*.jar'])\n}"), []],
    ["by a variable that nobody sets", gradle('dependencies {\n  implementation files("$nowhere/tidewire.aar")\n}'), []],
    [
      "two, one of them there",
      gradle("dependencies {\n  implementation files('libs/a.aar', 'libs/b.aar')\n}", { "app/libs/a.aar": "x" }),
      ["the binary libs/b.aar is referred to here but is missing"],
    ],
  ],
  "source/outside-project": [
    [
      "a package of the workspace beside the app",
      {
        ...below("apps/one", iosExample({}, podfile("  pod 'Harbour', :path => '../../packages/harbour'\n"))),
        "packages/harbour/Harbour.podspec": "Pod::Spec.new do |s|\n  s.name = 'Harbour'\nend\n",
      },
      [],
    ],
    [
      "a search path into Xcode",
      iosExample({ settings: "FRAMEWORK_SEARCH_PATHS = /Applications/Xcode.app/Contents/Developer/Library/Frameworks;" }),
      [],
    ],
  ],
  "source/workspace-bypassed": [
    ["no pods: the project is right", iosExample({}, { "build.sh": "xcodebuild -project Pilot.xcodeproj archive\n" }), []],
    [
      "another project of the repository",
      iosExample({}, { ...podfile("  pod 'QuaymapSDK', '4.2.0'\n"), "build.sh": "xcodebuild -project Tools.xcodeproj archive\n" }),
      [],
    ],
    [
      "in a comment of the script",
      iosExample({}, { ...podfile("  pod 'QuaymapSDK', '4.2.0'\n"), "build.sh": "# xcodebuild -project Pilot.xcodeproj archive\n" }),
      [],
    ],
  ],
  "source/repository-missing": [
    [
      "only a mirror that serves everything",
      androidExample(`${androidBlock()}dependencies {\n  implementation 'androidx.core:core-ktx:1.15.0'\n}`, {
        "build.gradle": "allprojects { repositories { maven { url 'https://mirror.harbour.example/repository/all' } } }\n",
      }),
      [],
    ],
    [
      "the sheet's repository with a slash at its end",
      {
        ...quaymapAndroid(
          {},
          { "build.gradle": "allprojects { repositories { google(); maven { url 'https://maven.quaymap.example/releases/' } } }\n" },
        ),
        ...quaymapSheet('on: android, repository: "https://maven.quaymap.example/releases"'),
      },
      [],
    ],
    [
      "the sheet's repository is not there",
      { ...quaymapAndroid(), ...quaymapSheet('on: android, repository: "https://maven.quaymap.example/releases"') },
      ["quaymap needs the repository https://maven.quaymap.example/releases, but it is missing"],
    ],
  ],
  "source/build-plugin": [
    [
      "applied and brought",
      androidExample(`apply plugin: 'example.quaymap.symbols'\n${androidBlock()}`, {
        "build.gradle": root("8.7.3", "    classpath 'example.quaymap:quaymap-symbols:1.0'\n"),
      }),
      [],
    ],
    [
      "the platform's own plugins",
      androidExample(androidBlock(), {
        "build.gradle": root("8.7.3", "    classpath 'org.jetbrains.kotlin:kotlin-gradle-plugin:2.1.0'\n"),
      }),
      [],
    ],
  ],
  "version/conflict": [
    ["one version everywhere", modules({ app: "4.2.0", core: "4.2.0" }), []],
    [
      "two versions",
      modules({ app: "4.2.0", core: "4.0.1" }),
      ["example.quaymap:quaymap-android is declared in 2 versions: 4.2.0 in :app, 4.0.1 in :core"],
    ],
    ["a range beside a version is a choice", modules({ app: "4.2.0", core: "[4.0,5.0)" }), []],
    [
      "tests may have another",
      {
        ...modules({ app: "4.2.0", core: "4.2.0" }),
        "core/build.gradle":
          "apply plugin: 'com.android.library'\nandroid { compileSdk 35 }\ndependencies { testImplementation 'example.quaymap:quaymap-android:4.0.0' }\n",
      },
      [],
    ],
    [
      "a forced version decides",
      {
        ...modules({ app: "4.2.0", core: "4.0.1" }),
        "build.gradle":
          "allprojects {\n  repositories { google() }\n  configurations.all { resolutionStrategy { force 'example.quaymap:quaymap-android:4.2.0' } }\n}\n",
      },
      [],
    ],
  ],
  "version/sides-apart": [
    ["the same major version", both(quaymapAndroid(), quaymapIos()), []],
    ["numbers that were never meant to agree", both(quaymapAndroid(), quaymapIos("", podfile("  pod 'QuaymapSDK', '11.2.0'\n"))), []],
    [
      "by the sheet: free",
      {
        ...both(quaymapAndroid(), quaymapIos("", podfile("  pod 'QuaymapSDK', '3.9.0'\n"))),
        "enredo/sheets/quaymap.sdk.yaml":
          'sdk: quaymap\npackages: { maven: "example.quaymap:quaymap-android", cocoapods: QuaymapSDK }\nagree: free\nneeds: []\n',
      },
      [],
    ],
    [
      "by the sheet: exactly",
      {
        ...both(quaymapAndroid(), quaymapIos("", podfile("  pod 'QuaymapSDK', '4.2.1'\n"))),
        "enredo/sheets/quaymap.sdk.yaml":
          'sdk: quaymap\npackages: { maven: "example.quaymap:quaymap-android", cocoapods: QuaymapSDK }\nagree: exact\nneeds: []\n',
      },
      ["quaymap is 4.2.0 on Android and 4.2.1 on iOS"],
    ],
    [
      "meant, by the settings",
      {
        ...both(quaymapAndroid(), quaymapIos("", podfile("  pod 'QuaymapSDK', '3.9.0'\n"))),
        ...settings("mayDiffer:\n  versions: [quaymap]\n"),
      },
      [],
    ],
  ],
  "version/two-routes": [
    ["a pod and a Swift package of two SDKs", quaymapIos(), []],
    [
      "core and add-on of one vendor by one route",
      gradle(
        "dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n  implementation 'example.quaymap:quaymap-tiles:4.2.0'\n}",
      ),
      [],
    ],
  ],
  "version/floating": [
    ["a pod of the repository has no version", iosExample({}, podfile("  pod 'Harbour', :path => '../Harbour'\n")), []],
    [
      "a package of the repository has none",
      gradle("dependencies {\n  implementation project(':harbour')\n  implementation files('libs/quaymap.aar')\n}"),
      [],
    ],
  ],
  "version/family-apart": [
    [
      "two packages are no family",
      gradle("dependencies {\n  implementation 'example.quaymap:quaymap-a:4.2.0'\n  implementation 'example.quaymap:quaymap-b:4.0.0'\n}"),
      [],
    ],
    [
      "another major version is another product",
      gradle(
        `dependencies {\n${["a", "b", "c"].map((name) => `  implementation 'example.quaymap:quaymap-${name}:4.2.0'\n`).join("")}  implementation 'example.quaymap:quaymap-old:1.0.0'\n}`,
      ),
      [],
    ],
    [
      "of which only a part is at one version is none",
      gradle(
        `dependencies {\n${["a", "b", "c"].map((name) => `  implementation 'example.quaymap:quaymap-${name}:4.2.0'\n`).join("")}${["d", "e"].map((name) => `  implementation 'example.quaymap:quaymap-${name}:4.1.0'\n`).join("")}}`,
      ),
      [],
    ],
    [
      "one of four is behind",
      gradle(
        `dependencies {\n${["a", "b", "c"].map((name) => `  implementation 'example.quaymap:quaymap-${name}:4.2.0'\n`).join("")}  implementation 'example.quaymap:quaymap-d:4.0.0'\n}`,
      ),
      ["example.quaymap:quaymap-d is 4.0.0; 3 others of example.quaymap are 4.2.0"],
    ],
  ],
  "version/companion-missing": [
    [
      "there, and new enough",
      {
        ...gradle(
          "dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n  implementation 'example.quaymap:quaymap-tiles:3.0.1'\n}",
        ),
        ...quaymapSheet('on: android, companion: { package: "example.quaymap:quaymap-tiles", atLeast: "3.0" }'),
      },
      [],
    ],
    [
      "there, and too old",
      {
        ...gradle(
          "dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n  implementation 'example.quaymap:quaymap-tiles:2.9.9'\n}",
        ),
        ...quaymapSheet('on: android, companion: { package: "example.quaymap:quaymap-tiles", atLeast: "3.0" }'),
      },
      ["quaymap needs the companion example.quaymap:quaymap-tiles 3.0: 2.9.9; expected example.quaymap:quaymap-tiles 3.0 or newer"],
    ],
    ["wanted by an installed package, and not installed", wants("react-native-tidewire"), [absent]],
    ["the same for a package without native code", wants("react-native-tidewire", {}, { native: false }), [absent]],
    ["installed beside it, and not named in package.json", wants("react-native-tidewire", installed("react-native-tidewire")), [unlinked]],
    [
      "installed inside of the package that wants it",
      wants("react-native-tidewire", below("node_modules/react-native-quaymap", installed("react-native-tidewire"))),
      [unlinked],
    ],
    [
      "named in package.json",
      wants("react-native-tidewire", installed("react-native-tidewire"), { own: { "react-native-tidewire": "2.1.0" } }),
      [],
    ],
    ["optional", wants("react-native-tidewire", {}, { optional: true }), []],
    ["installed, and without native code", wants("react-native-tidewire", installed("react-native-tidewire", false)), []],
    ["absent, and by its name nothing with native code", wants("tides"), []],
    ["for another platform", wants("react-native-web"), []],
    [
      "linked by hand in the settings",
      wants("react-native-tidewire", {
        ...installed("react-native-tidewire"),
        "android/settings.gradle":
          "include ':app', ':react-native-tidewire'\nproject(':react-native-tidewire').projectDir = file('../node_modules/react-native-tidewire/android')\n",
      }),
      [],
    ],
    [
      "named in the configuration of the command line",
      wants("react-native-tidewire", {
        ...installed("react-native-tidewire"),
        "react-native.config.js":
          "module.exports = { dependencies: { 'react-native-tidewire': { root: './node_modules/react-native-tidewire' } } };\n",
      }),
      [],
    ],
    [
      "where dependencies of dependencies are linked too",
      wants("react-native-tidewire", { ...installed("react-native-tidewire"), ...installed("expo", false) }, { own: { expo: "54.0.0" } }),
      [],
    ],
  ],
  "native/unregistered": [
    [
      "the settings of today and no call in the app's script",
      linkingExample({ link: "" }),
      [notLinked("android/app/build.gradle", "autolinkLibrariesWithApp()")],
    ],
    [
      "a call that is commented out",
      linkingExample({ link: "react {\n  // autolinkLibrariesWithApp()\n}\n" }),
      [notLinked("android/app/build.gradle", "autolinkLibrariesWithApp()")],
    ],
    [
      "the call in the app's script and none in the settings",
      linkingExample({ settings: "plugins { id 'com.facebook.react.settings' }\ninclude ':app'\n" }),
      [notLinked("android/settings.gradle", "autolinkLibrariesFromCommand()")],
    ],
    [
      "neither",
      linkingExample({ settings: "include ':app'\n", link: "" }),
      ["nothing links chart-deck on Android: the settings do not link packages"],
    ],
    ["both of the older form", linkingExample({ settings: OLD_SETTINGS, link: OLD_LINK }), []],
    [
      "one of the older form",
      linkingExample({ settings: OLD_SETTINGS, link: "" }),
      [notLinked("android/app/build.gradle", "applyNativeModulesAppBuildGradle(project)")],
    ],
    ["in a script that the app's own applies", linkingExample({ link: "apply from: '../linking.gradle'\n" }), []],
    ["by Expo", linkingExample({ settings: "useExpoModules()\ninclude ':app'\n", link: "" }), []],
    [
      "in another module",
      {
        ...linkingExample({
          settings: "extensions.configure { ex -> ex.autolinkLibrariesFromCommand() }\ninclude ':app', ':screens'\n",
          link: "",
        }),
        "android/screens/build.gradle": "apply plugin: 'com.android.library'\nreact { autolinkLibrariesWithApp() }\n",
      },
      [],
    ],
  ],
  "version/withdrawn": [
    [
      "a newer one is in",
      { ...quaymapAndroid(), ...quaymapSheet('on: android, withdrawn: { versions: "<4.2.0", instead: "4.2.0 or newer" }') },
      [],
    ],
    [
      "the withdrawn one is in",
      { ...quaymapAndroid(), ...quaymapSheet('on: android, withdrawn: { versions: "<4.3.0", instead: "4.3.0 or newer" }') },
      ["quaymap uses 4.2.0, which the vendor has withdrawn: <4.3.0 is withdrawn"],
    ],
  ],
  "parity/one-sided": [
    ["on both sides", { ...both(quaymapAndroid(), quaymapIos()), ...quaymapSheet() }, []],
    ["an app of one side", { ...quaymapAndroid(), ...quaymapSheet("on: android, minSdk: 21") }, []],
    [
      "meant, by the settings",
      {
        ...both(quaymapAndroid(), iosExample()),
        ...quaymapSheet("on: android, minSdk: 21"),
        ...settings("mayDiffer:\n  oneSided: [quaymap]\n"),
      },
      [],
    ],
    [
      "on Android only",
      { ...both(quaymapAndroid(), iosExample()), ...quaymapSheet("on: android, minSdk: 21") },
      ["quaymap is on Android only; it exists for iOS, and nothing says that this is intended"],
    ],
  ],
  "keep/rules-missing": [
    ["nothing shrinks", { ...quaymapAndroid(), ...quaymapSheet('on: android, keepRule: "-keep class example.quaymap.** { *; }"') }, []],
    [
      "a wider rule",
      {
        ...quaymapAndroid(
          { android: "  buildTypes { release { minifyEnabled true\n proguardFiles 'rules.pro' } }\n" },
          { "app/rules.pro": "-keep class example.** { *; }\n" },
        ),
        ...quaymapSheet('on: android, keepRule: "-keep class example.quaymap.** { *; }"'),
      },
      [],
    ],
    [
      "a rule in a comment",
      {
        ...quaymapAndroid(
          { android: "  buildTypes { release { minifyEnabled true\n proguardFiles 'rules.pro' } }\n" },
          { "app/rules.pro": "# -keep class example.quaymap.** { *; }\n" },
        ),
        ...quaymapSheet('on: android, keepRule: "-keep class example.quaymap.** { *; }"'),
      },
      ["quaymap needs the keep rule -keep class example.quaymap.** { *; }, but it is missing"],
    ],
  ],
  "permit/host": [
    [
      "allowed for the whole app",
      {
        ...quaymapAndroid({ application: "" }),
        "app/src/main/AndroidManifest.xml":
          '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application android:usesCleartextTraffic="true" />\n</manifest>\n',
        ...quaymapSheet("on: android, host: tiles.quaymap.example"),
      },
      [],
    ],
    [
      "an address with https needs nothing",
      { ...quaymapAndroid(), ...quaymapSheet('on: android, host: "https://tiles.quaymap.example"') },
      [],
    ],
    [
      "not allowed",
      { ...quaymapAndroid(), ...quaymapSheet("on: android, host: tiles.quaymap.example") },
      ["quaymap needs the host tiles.quaymap.example, but it is missing"],
    ],
  ],
};

describe.each(Object.entries(CASES))("%s", (name, cases) => {
  it.each(cases)("%s", async (_, files, messages) => {
    expect(RULES.map((rule) => rule.name)).toContain(name);
    const { findings } = await reportOf(files);
    expect(
      findings
        .filter(({ rule }) => rule === name)
        .map(({ message }) => message)
        .sort(),
    ).toEqual([...messages].sort());
  });
});
