// Writes a large, made-up workspace: Gradle modules, apps, pods and installed packages.
import { execFileSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, readdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

function write(root, file, text) {
  const full = path.join(root, file);
  mkdirSync(path.dirname(full), { recursive: true });
  writeFileSync(full, text);
}

const moduleScript = (index, modules) => `plugins {
    id("com.android.library")
    id("org.jetbrains.kotlin.android")
}

android {
    namespace = "example.maresia.module${index}"
    compileSdk = rootProject.extra["compileLevel"] as Int

    defaultConfig {
        minSdk = rootProject.extra["minLevel"] as Int
        consumerProguardFiles("consumer-rules.pro")
    }

    buildTypes {
        release {
            isMinifyEnabled = false
        }
    }
}

dependencies {
    implementation(libs.quaymap)
    implementation("example.brinelog:brinelog-android:2.1.${index % 3 === 0 ? 0 : 0}")
    ${index + 1 < modules ? `api(project(":module${index + 1}"))` : ""}
    testImplementation("example.tools:tests:1.0.0")
}
`;

function nativeApp(root, folder, modules) {
  const include = Array.from({ length: modules }, (_, index) => `include(":module${index}")`).join("\n");
  write(
    root,
    `${folder}/settings.gradle.kts`,
    `dependencyResolutionManagement {\n    repositories {\n        google()\n        mavenCentral()\n        maven("https://maven.quaymap.example/releases")\n    }\n}\ninclude(":app")\n${include}\n`,
  );
  write(root, `${folder}/build.gradle.kts`, `val minLevel by extra(24)\nval compileLevel by extra(35)\n`);
  write(
    root,
    `${folder}/gradle/libs.versions.toml`,
    `[versions]\nquaymap = "4.2.0"\n\n[libraries]\nquaymap = { module = "example.quaymap:quaymap-android", version.ref = "quaymap" }\n`,
  );
  write(
    root,
    `${folder}/app/build.gradle.kts`,
    `plugins {\n    id("com.android.application")\n}\nandroid {\n    compileSdk = 35\n    defaultConfig {\n        applicationId = "example.maresia.big"\n        minSdk = 24\n        targetSdk = 35\n    }\n}\ndependencies {\n${modules > 0 ? '    implementation(project(":module0"))\n' : ""}    implementation(libs.quaymap)\n}\n`,
  );
  for (let index = 0; index < modules; index++) {
    write(root, `${folder}/module${index}/build.gradle.kts`, moduleScript(index, modules));
    write(root, `${folder}/module${index}/src/main/AndroidManifest.xml`, "<manifest />\n");
    write(
      root,
      `${folder}/module${index}/src/main/kotlin/example/maresia/Module${index}.kt`,
      `package example.maresia\n\nobject Module${index}\n`,
    );
  }
}

const projectFile = (name) => `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    P1 = { isa = PBXProject; buildConfigurationList = L1; mainGroup = G1; targets = ( T1, ); };
    G1 = { isa = PBXGroup; children = ( ${Array.from({ length: 300 }, (_, index) => `F${index}, `).join("")}); sourceTree = "<group>"; };
    T1 = { isa = PBXNativeTarget; name = ${name}; productType = "com.apple.product-type.application"; buildConfigurationList = L2; buildPhases = ( ); };
    L1 = { isa = XCConfigurationList; buildConfigurations = ( C1, ); defaultConfigurationName = Release; };
    L2 = { isa = XCConfigurationList; buildConfigurations = ( C2, ); defaultConfigurationName = Release; };
    C1 = { isa = XCBuildConfiguration; name = Release; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; SDKROOT = iphoneos; }; };
    C2 = { isa = XCBuildConfiguration; name = Release; buildSettings = { PRODUCT_BUNDLE_IDENTIFIER = example.maresia.${name}; IPHONEOS_DEPLOYMENT_TARGET = 15.1; }; };
${Array.from({ length: 300 }, (_, index) => `    F${index} = { isa = PBXFileReference; lastKnownFileType = sourcecode.swift; path = File${index}.swift; sourceTree = "<group>"; };`).join("\n")}
  };
  rootObject = P1;
}
`;

function podLock(pods) {
  const lines = Array.from(
    { length: pods },
    (_, index) => `  - Pod${index} (1.${index}.0)${index % 3 === 0 ? `:\n    - Pod${(index + 1) % pods} (~> 1.0)` : ""}`,
  );
  return `PODS:\n${lines.join("\n")}\n\nDEPENDENCIES:\n${Array.from({ length: pods }, (_, index) => `  - Pod${index} (~> 1.0)`).join("\n")}\n\nCOCOAPODS: 1.16.2\n`;
}

function reactNativeApp(root, folder, number, packages, pods, perApp) {
  const dependencies = { "react-native": "0.80.0" };
  for (let index = 0; index < perApp; index++) dependencies[`package-${(number * perApp + index) % packages}`] = "^1.0.0";
  write(root, `${folder}/package.json`, `${JSON.stringify({ name: `app-${number}`, dependencies }, undefined, 2)}\n`);
  write(root, `${folder}/android/settings.gradle`, "include ':app'\n");
  write(
    root,
    `${folder}/android/build.gradle`,
    "buildscript {\n  ext {\n    minSdkVersion = 24\n    compileSdkVersion = 35\n    targetSdkVersion = 35\n  }\n}\nallprojects {\n  repositories {\n    google()\n    mavenCentral()\n  }\n}\n",
  );
  write(
    root,
    `${folder}/android/app/build.gradle`,
    `apply plugin: "com.android.application"\nandroid {\n  compileSdk rootProject.ext.compileSdkVersion\n  defaultConfig {\n    applicationId "example.maresia.app${number}"\n    minSdkVersion rootProject.ext.minSdkVersion\n    targetSdkVersion rootProject.ext.targetSdkVersion\n  }\n}\ndependencies {\n  implementation("com.facebook.react:react-android")\n}\n`,
  );
  write(root, `${folder}/ios/App${number}.xcodeproj/project.pbxproj`, projectFile(`App${number}`));
  write(
    root,
    `${folder}/ios/Podfile`,
    `platform :ios, '15.1'\ntarget 'App${number}' do\n${Array.from({ length: pods }, (_, index) => `  pod 'Pod${index}', '~> 1.0'`).join("\n")}\nend\n`,
  );
  write(root, `${folder}/ios/Podfile.lock`, podLock(pods));
  for (let index = 0; index < 20; index++) write(root, `${folder}/src/screen${index}.tsx`, `export const Screen${index} = () => null;\n`);
}

function installedPackage(root, index) {
  const folder = `node_modules/package-${index}`;
  write(
    root,
    `${folder}/package.json`,
    `${JSON.stringify({ name: `package-${index}`, version: "1.2.0", description: "x".repeat(600), dependencies: { other: "^1.0.0" } }, undefined, 2)}\n`,
  );
  write(root, `${folder}/index.js`, "module.exports = {};\n");
  if (index % 4 !== 0) return;
  write(
    root,
    `${folder}/Package${index}.podspec`,
    `Pod::Spec.new do |s|\n  s.name = "Package${index}"\n  s.version = "1.2.0"\n  s.platforms = { :ios => "14.0" }\n  s.dependency "React-Core"\nend\n`,
  );
  write(
    root,
    `${folder}/android/build.gradle`,
    `apply plugin: "com.android.library"\ndef safeExtGet(prop, fallback) {\n  rootProject.ext.has(prop) ? rootProject.ext.get(prop) : fallback\n}\nandroid {\n  compileSdkVersion safeExtGet("compileSdkVersion", 35)\n  defaultConfig {\n    minSdkVersion safeExtGet("minSdkVersion", 21)\n  }\n}\nrepositories {\n  google()\n}\ndependencies {\n  implementation "example.packages:package-${index}:1.2.0"\n}\n`,
  );
}

/** Sizes: modules of the native app, React Native apps, pods of each app, installed packages, dependencies of each app. */
export function writeWorkspace(root, { modules, apps, pods, packages, perApp = 50 }) {
  nativeApp(root, "native/android", modules);
  write(root, "package.json", `${JSON.stringify({ name: "fleet", private: true, workspaces: ["apps/*"] })}\n`);
  const locked = { "": { name: "fleet" } };
  for (let index = 0; index < packages; index++)
    locked[`node_modules/package-${index}`] = {
      version: "1.2.0",
      resolved: `https://packages.example/package-${index}-1.2.0.tgz`,
      integrity: "sha512-".padEnd(90, "x"),
    };
  for (let number = 0; number < apps; number++) {
    const folder = `apps/app-${number}`;
    reactNativeApp(root, folder, number, packages, pods, perApp);
    const dependencies = { "react-native": "0.80.0" };
    for (let index = 0; index < perApp; index++) dependencies[`package-${(number * perApp + index) % packages}`] = "^1.0.0";
    locked[folder] = { name: `app-${number}`, dependencies };
  }
  locked["node_modules/react-native"] = { version: "0.80.0" };
  write(root, "package-lock.json", `${JSON.stringify({ lockfileVersion: 3, packages: locked }, undefined, 2)}\n`);
  write(root, "node_modules/react-native/package.json", '{ "name": "react-native", "version": "0.80.0" }\n');
  for (let index = 0; index < packages; index++) installedPackage(root, index);
}

const demo = fileURLToPath(new URL("../demo", import.meta.url));

/** One app of each kind side by side: the sample apps as a team would have them. */
export function writeFleet(root) {
  for (const entry of readdirSync(demo)) {
    const layers = ["project", "installed"].map((layer) => path.join(demo, entry, layer)).filter((layer) => existsSync(layer));
    for (const layer of layers) cpSync(layer, path.join(root, "apps", entry), { recursive: true });
  }
  cpSync(path.join(demo, "sheets"), path.join(root, "enredo/sheets"), { recursive: true });
}

/** An app with many packages, and a sheet with many needs of different kinds for one of them. */
export function writeWithSheets(root, { packages, needs }) {
  writeWorkspace(root, { modules: 0, apps: 1, pods: packages, packages, perApp: packages });
  if (needs === 0) return;
  const kinds = [
    (index) => `{ on: android, permission: example.permission.NUMBER_${index} }`,
    (index) => `{ on: android, manifestEntry: { element: meta-data, name: example.package.KEY_${index} } }`,
    (index) => `{ on: ios, plistEntry: { key: ExamplePackageKey${index} } }`,
    (index) => `{ on: ios, urlScheme: example-${index} }`,
  ];
  const lines = Array.from({ length: needs }, (_, index) => `  - ${kinds[index % kinds.length](index)}`);
  write(root, "enredo/sheets/package-0.sdk.yaml", `sdk: package-0\npackages: { npm: package-0 }\nneeds:\n${lines.join("\n")}\n`);
}

/** A source file of one language that names no SDK, of about fifty lines; every `calls`-th one calls one. */
function sourceFile(language, index, calls) {
  const sdk = index % calls === 0;
  const body = Array.from({ length: 12 }, (_, line) => line);
  switch (language) {
    case "kt":
      return `package example.maresia.big.part${index % 40}\n\nimport android.content.Context\n${sdk ? "import example.quaymap.Quaymap\n" : ""}\nclass Screen${index}(private val context: Context) {\n${body.map((line) => `    private fun work${line}(value: Int): Int {\n        val next = value * ${line} + ${index}\n        return if (next > 100) next - 100 else next\n    }\n`).join("\n")}\n    fun show() {\n        ${sdk ? `Quaymap.show("harbour${index}")` : `println(work${index % 12}(${index}))`}\n    }\n}\n`;
    case "java":
      return `package example.maresia.big.old${index % 40};\n\nimport android.content.Context;\n\npublic class Form${index} {\n${body.map((line) => `    private int work${line}(int value) {\n        int next = value * ${line} + ${index};\n        return next > 100 ? next - 100 : next;\n    }\n`).join("\n")}\n    public void show(Context context) {\n        ${sdk ? `example.quaymap.Quaymap.show("harbour${index}");` : `System.out.println(work${index % 12}(${index}));`}\n    }\n}\n`;
    case "swift":
      return `import Foundation\n${sdk ? "import QuaymapSDK\n" : ""}\nfinal class Screen${index} {\n${body.map((line) => `  private func work${line}(_ value: Int) -> Int {\n    let next = value * ${line} + ${index}\n    return next > 100 ? next - 100 : next\n  }\n`).join("\n")}\n  func show() {\n    ${sdk ? `Quaymap.show("harbour${index}")` : `print(work${index % 12}(${index}))`}\n  }\n}\n`;
    default:
      return `import { useState } from "react";\nimport { Text } from "react-native";\n${sdk ? 'import Quaymap from "@quaymap/react-native";\n' : ""}\n${body.map((line) => `function work${line}(value: number): number {\n  const next = value * ${line} + ${index};\n  return next > 100 ? next - 100 : next;\n}\n`).join("\n")}\nexport function Screen${index}() {\n  const [count] = useState(work${index % 12}(${index}));\n  ${sdk ? `Quaymap.show("harbour${index}");` : ""}\n  return <Text>{count}</Text>;\n}\n`;
  }
}

/** A hybrid app with many source files in four languages, of which one in `calls` calls an SDK. */
export function writeSources(root, { files, calls }) {
  write(
    root,
    "package.json",
    `${JSON.stringify({ name: "big", dependencies: { "react-native": "0.80.0", "@quaymap/react-native": "4.2.0" } }, undefined, 2)}\n`,
  );
  write(root, "node_modules/@quaymap/react-native/package.json", '{ "name": "@quaymap/react-native", "version": "4.2.0" }\n');
  write(root, "node_modules/@quaymap/react-native/android/build.gradle", "apply plugin: 'com.android.library'\n");
  write(
    root,
    "node_modules/@quaymap/react-native/RNQuaymap.podspec",
    "Pod::Spec.new do |s|\n  s.name = 'RNQuaymap'\n  s.version = '4.2.0'\nend\n",
  );
  nativeApp(root, "android", 0);
  write(
    root,
    "android/app/src/main/AndroidManifest.xml",
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application android:name=".BigApplication" />\n</manifest>\n',
  );
  write(
    root,
    "android/app/src/main/java/example/maresia/big/BigApplication.kt",
    "package example.maresia.big\n\nimport android.app.Application\nimport example.quaymap.Quaymap\n\nclass BigApplication : Application() {\n    override fun onCreate() {\n        super.onCreate()\n        Quaymap.start(this)\n    }\n}\n",
  );
  write(root, "ios/Podfile", "platform :ios, '15.1'\ntarget 'Big' do\n  use_native_modules!\n  pod 'QuaymapSDK', '4.2.0'\nend\n");
  write(root, "ios/Big.xcodeproj/project.pbxproj", xcodeProject());
  write(
    root,
    "ios/Big/AppDelegate.swift",
    "import QuaymapSDK\nimport UIKit\n\n@main\nclass AppDelegate: UIResponder, UIApplicationDelegate {\n  func application(_ application: UIApplication, didFinishLaunchingWithOptions options: [UIApplication.LaunchOptionsKey: Any]?) -> Bool {\n    Quaymap.start()\n    return true\n  }\n}\n",
  );
  write(
    root,
    "index.js",
    'import { AppRegistry } from "react-native";\nimport { Screen0 } from "./src/Screen0";\n\nAppRegistry.registerComponent("Big", () => Screen0);\n',
  );
  write(
    root,
    "enredo/sheets/quaymap.sdk.yaml",
    'sdk: quaymap\npackages:\n  maven: example.quaymap:quaymap-android\n  cocoapods: QuaymapSDK\n  npm: "@quaymap/react-native"\nneeds:\n  - on: both\n    start: { android: Quaymap.start, ios: Quaymap.start, at: launch }\n  - on: both\n    use: { android: Quaymap.show, ios: Quaymap.show, shared: Quaymap.show }\n',
  );
  for (let index = 0; index < files; index++) {
    const [language, folder, name] = [
      ["kt", `android/app/src/main/java/example/maresia/big/part${index % 40}`, `Screen${index}.kt`],
      ["java", `android/app/src/main/java/example/maresia/big/old${index % 40}`, `Form${index}.java`],
      ["swift", "ios/Big", `Screen${index}.swift`],
      ["tsx", "src", `Screen${index}.tsx`],
    ][index % 4];
    write(root, `${folder}/${name}`, sourceFile(language, index, calls));
  }
}

/** The demo's native app, with its source code or without. */
export function writeSmall(root, { sources }) {
  const demo = path.join(path.dirname(fileURLToPath(import.meta.url)), "../demo");
  cpSync(path.join(demo, "pilot/project"), root, { recursive: true, filter: (file) => sources || !/\.(kt|java|swift)$/.test(file) });
  cpSync(path.join(demo, "sheets"), path.join(root, "enredo/sheets"), { recursive: true });
}

function xcodeProject() {
  return `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    P1 = { isa = PBXProject; buildConfigurationList = L1; mainGroup = G1; targets = ( T1, ); };
    G1 = { isa = PBXGroup; children = ( ); sourceTree = "<group>"; };
    T1 = { isa = PBXNativeTarget; name = Big; productType = "com.apple.product-type.application"; buildConfigurationList = L2; buildPhases = ( ); };
    L1 = { isa = XCConfigurationList; buildConfigurations = ( C1, ); defaultConfigurationName = Release; };
    L2 = { isa = XCConfigurationList; buildConfigurations = ( C2, ); defaultConfigurationName = Release; };
    C1 = { isa = XCBuildConfiguration; name = Release; buildSettings = { SDKROOT = iphoneos; }; };
    C2 = { isa = XCBuildConfiguration; name = Release; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.big; }; };
  };
  rootObject = P1;
}
`;
}

/** A repository of about two thousand files with two commits, between which some of them differ. */
export function writeRepository(root) {
  const git = (...args) =>
    execFileSync("git", ["-c", "user.email=skipper@maresia.example", "-c", "user.name=Skipper", ...args], { cwd: root, stdio: "ignore" });
  writeWorkspace(root, { modules: 300, apps: 6, pods: 60, packages: 0 });
  for (let index = 0; index < 900; index++)
    write(root, `notes/part${index % 30}/note${index}.md`, `# Note ${index}\n\nNothing about the wiring.\n`);
  git("init", "-q");
  git("add", "-A");
  git("commit", "-qm", "first");
  git("tag", "before");
  write(root, "notes/part0/note0.md", "# Another note\n");
  for (let index = 0; index < 40; index++)
    write(root, `native/android/module${index}/build.gradle.kts`, moduleScript(index, 300).replace("2.1.0", "2.2.0"));
  git("add", "-A");
  git("commit", "-qm", "second");
}
