import type { Example } from "./rule.js";

/** An Android app of one module, for the examples of the rules: `app` is the body of its build script. */
export function androidExample(app: string, more: Example = {}): Example {
  return {
    "settings.gradle": "include ':app'\n",
    "build.gradle": "allprojects {\n  repositories {\n    google()\n    mavenCentral()\n  }\n}\n",
    "app/build.gradle": `apply plugin: 'com.android.application'\n\n${app}\n`,
    ...more,
  };
}

/** An `android` block with the usual levels. */
export function androidBlock(settings = "minSdk 24\n    targetSdk 35", id = "example.maresia.pilot"): string {
  return `android {\n  compileSdk 35\n  defaultConfig {\n    applicationId '${id}'\n    ${settings}\n  }\n}\n`;
}

export interface XcodeExample {
  id?: string;
  target?: string;
  projectTarget?: string;
  /** Further settings of the target, one per line. */
  settings?: string;
  /** Further objects of the project file. */
  objects?: string;
  /** Ids of further children of the main group. */
  children?: string[];
  /** Configurations of the target, all with the same settings. */
  configurations?: string[];
  /** Folders whose files belong to the target by lying there. */
  synchronized?: string[];
}

/** A project file with one application target. */
export function xcodeExample({
  id = "example.maresia.pilot",
  target = "15.0",
  projectTarget,
  settings = "",
  objects = "",
  children = [],
  configurations = ["Release"],
  synchronized = [],
}: XcodeExample = {}): string {
  return `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    P1 = { isa = PBXProject; buildConfigurationList = L1; mainGroup = G1; targets = ( T1, ); };
    G1 = { isa = PBXGroup; children = ( ${[...children, ...synchronized.map((_, index) => `S${index}`)].map((child) => `${child}, `).join("")}); sourceTree = "<group>"; };
    T1 = { isa = PBXNativeTarget; name = Pilot; productType = "com.apple.product-type.application"; buildConfigurationList = L2; buildPhases = ( );${synchronized.length > 0 ? ` fileSystemSynchronizedGroups = ( ${synchronized.map((_, index) => `S${index}, `).join("")});` : ""} };
    L1 = { isa = XCConfigurationList; buildConfigurations = ( C1, ); defaultConfigurationName = Release; };
    L2 = { isa = XCConfigurationList; buildConfigurations = ( ${configurations.map((_, index) => `C${index + 2}, `).join("")}); defaultConfigurationName = Release; };
    C1 = { isa = XCBuildConfiguration; name = Release; buildSettings = { ${projectTarget ? `IPHONEOS_DEPLOYMENT_TARGET = ${projectTarget}; ` : ""}SDKROOT = iphoneos; }; };
${configurations
  .map(
    (name, index) => `    C${index + 2} = { isa = XCBuildConfiguration; name = ${/^\w+$/.test(name) ? name : `"${name}"`}; buildSettings = {
      IPHONEOS_DEPLOYMENT_TARGET = ${target};
      PRODUCT_BUNDLE_IDENTIFIER = ${id};
      ${settings}
    }; };
`,
  )
  .join(
    "",
  )}${synchronized.map((path, index) => `    S${index} = { isa = PBXFileSystemSynchronizedRootGroup; path = ${path}; sourceTree = "<group>"; };\n`).join("")}    ${objects}
  };
  rootObject = P1;
}
`;
}

/** An iOS app whose project lies in `folder`. */
export function iosExample(xcode: XcodeExample = {}, more: Example = {}, folder = ""): Example {
  return { [`${folder}Pilot.xcodeproj/project.pbxproj`]: xcodeExample(xcode), ...more };
}

/** A React Native app with an Android side; `packages` become its dependencies. */
export function reactNativeExample(packages: Record<string, string>, more: Example = {}): Example {
  const android = androidExample(androidBlock());
  const files: Example = {
    "package.json": JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", ...packages } }, undefined, 2),
    ...Object.fromEntries(Object.entries(android).map(([file, text]) => [`android/${file}`, text])),
    ...more,
  };
  // The framework's build plugin stands in every such app.
  const script = "android/app/build.gradle";
  if (files[script]?.includes("com.facebook.react") === false) files[script] += 'apply plugin: "com.facebook.react"\n';
  return files;
}

/** An app in Flutter as its template lays it down; `changes` are texts that are replaced in its files. */
export function flutterExample(changes: Record<string, [from: string, to: string]> = {}): Example {
  const files: Example = {
    "pubspec.yaml": "name: crewboard\nenvironment:\n  sdk: ^3.5.0\ndependencies:\n  flutter:\n    sdk: flutter\n",
    "lib/main.dart": "void main() => runApp(const CrewApp());\n",
    "android/settings.gradle.kts":
      'pluginManagement {\n    includeBuild("../flutter/packages/flutter_tools/gradle")\n}\n\nplugins {\n    id("dev.flutter.flutter-plugin-loader") version "1.0.0"\n    id("com.android.application") version "8.7.0" apply false\n}\n\ninclude(":app")\n',
    "android/app/build.gradle.kts":
      'plugins {\n    id("com.android.application")\n    id("kotlin-android")\n    id("dev.flutter.flutter-gradle-plugin")\n}\n\nandroid {\n    namespace = "example.maresia.crewboard"\n    compileSdk = 35\n    defaultConfig {\n        applicationId = "example.maresia.crewboard"\n        minSdk = 24\n        targetSdk = 35\n    }\n}\n\nflutter {\n    source = "../.."\n}\n',
    "android/app/src/main/AndroidManifest.xml":
      '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n    <application android:label="Crewboard">\n        <activity android:name=".MainActivity" android:exported="true" />\n        <meta-data android:name="flutterEmbedding" android:value="2" />\n    </application>\n</manifest>\n',
    "android/app/src/main/kotlin/MainActivity.kt":
      "package example.maresia.crewboard\n\nimport io.flutter.embedding.android.FlutterActivity\n\nclass MainActivity : FlutterActivity()\n",
  };
  for (const [file, [from, to]] of Object.entries(changes)) files[file] = (files[file] ?? "").replace(from, to);
  return files;
}

/** A project in Unity with one scene, whose button calls a method; `changes` are texts that are replaced in its files. */
export function unityExample(changes: Record<string, [from: string, to: string]> = {}): Example {
  const head = "%YAML 1.1\n%TAG !u! tag:unity3d.com,2011:\n";
  const files: Example = {
    "ProjectSettings/ProjectSettings.asset": `${head}--- !u!129 &1\nPlayerSettings:\n  companyName: Maresia\n  productName: Tidegame\n  applicationIdentifier:\n    Android: example.maresia.tidegame\n    iPhone: example.maresia.tidegame\n  AndroidMinSdkVersion: 24\n  AndroidTargetSdkVersion: 35\n  iOSTargetOSVersionString: 15.0\n`,
    "ProjectSettings/EditorBuildSettings.asset": `${head}--- !u!1045 &1\nEditorBuildSettings:\n  m_Scenes:\n  - enabled: 1\n    path: Assets/Main.unity\n    guid: 00000000000000000000000000000001\n`,
    "Assets/Boot.cs":
      'using UnityEngine;\n\npublic class Boot : MonoBehaviour\n{\n    void Start() { Debug.Log("tide"); }\n\n    public void Buy() { Debug.Log("bought"); }\n}\n',
    "Assets/Boot.cs.meta": "fileFormatVersion: 2\nguid: 00000000000000000000000000000002\n",
    "Assets/Main.unity": `${head}--- !u!1 &10\nGameObject:\n  m_Name: Boot\n  m_IsActive: 1\n--- !u!114 &11\nMonoBehaviour:\n  m_GameObject: {fileID: 10}\n  m_Enabled: 1\n  m_Script: {fileID: 11500000, guid: 00000000000000000000000000000002, type: 3}\n--- !u!114 &12\nMonoBehaviour:\n  m_GameObject: {fileID: 10}\n  m_Enabled: 1\n  m_OnClick:\n    m_PersistentCalls:\n      m_Calls:\n      - m_Target: {fileID: 11}\n        m_TargetAssemblyTypeName: Boot, Assembly-CSharp\n        m_MethodName: Buy\n        m_Mode: 1\n`,
  };
  for (const [file, [from, to]] of Object.entries(changes)) files[file] = (files[file] ?? "").replace(from, to);
  return files;
}

/** A sheet for `quaymap`; `needs` are the entries of its list, one per line. */
export function quaymapSheet(...needs: string[]): Example {
  return {
    "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages:\n  maven: example.quaymap:quaymap-android\n  cocoapods: QuaymapSDK\nneeds:\n${needs.map((need) => `  - { ${need} }\n`).join("")}`,
  };
}

export interface QuaymapAndroid {
  /** Inside the manifest, before the application. */
  manifest?: string;
  /** Inside the application element. */
  application?: string;
  /** Further lines of the android block. */
  android?: string;
}

/** An Android app that uses `quaymap`, with its manifest. */
export function quaymapAndroid({ manifest = "", application = "", android = "" }: QuaymapAndroid = {}, more: Example = {}): Example {
  return androidExample(
    `${androidBlock().replace(/}\n$/, `${android}}\n`)}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`,
    {
      "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n${manifest}  <application>\n${application}  </application>\n</manifest>\n`,
      ...more,
    },
  );
}

/** An iOS app that uses `quaymap` as a pod, with its property list; `entries` are keys and values of it. */
export function quaymapIos(entries = "", more: Example = {}, xcode: XcodeExample = {}): Example {
  return iosExample(
    { settings: "INFOPLIST_FILE = Pilot/Info.plist;", ...xcode },
    {
      Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n",
      "Pilot/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">\n<dict>\n  <key>CFBundleIdentifier</key>\n  <string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>\n${entries}</dict>\n</plist>\n`,
      ...more,
    },
  );
}

/** A privacy manifest that gives reasons for the use of one kind of interface, by the end of its name. */
export function privacyManifest(kind: string, ...reasons: string[]): string {
  return `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">\n<dict>\n  <key>NSPrivacyAccessedAPITypes</key>\n  <array>\n    <dict>\n      <key>NSPrivacyAccessedAPIType</key>\n      <string>NSPrivacyAccessedAPICategory${kind}</string>\n      <key>NSPrivacyAccessedAPITypeReasons</key>\n      <array>${reasons.map((reason) => `<string>${reason}</string>`).join("")}</array>\n    </dict>\n  </array>\n</dict>\n</plist>\n`;
}

/** A JSON file as vendors give it out for an app. */
export function serviceJson(id: string): string {
  return `${JSON.stringify({ project: "harbour", client: { package_name: id } }, undefined, 2)}\n`;
}
