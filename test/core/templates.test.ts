import { describe, expect, it } from "vitest";
import { xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, surveyOf } from "../helpers/memory.js";

/** Projects as a framework's own tools lay them out, untouched, over the years: read in full, and nothing to complain about. */

const levels = (files: Record<string, string>) => {
  const app = appOf(files);
  return Object.fromEntries(
    [...Object.entries(app.android?.effective ?? {}), ...Object.entries(app.ios?.effective ?? {})].map(([level, value]) => [
      level,
      shown(value).replace(/^unknown: /, "? "),
    ]),
  );
};
const complaints = async (files: Record<string, string>) =>
  (await reportOf(files)).findings.filter(({ severity }) => severity !== "note").map(({ rule, message }) => `${rule} ${message}`);
const manifest = (attributes = "", inside = "") =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android"${attributes}>\n    <application\n        android:label="crewboard"\n        android:name="\${applicationName}"\n        android:icon="@mipmap/ic_launcher">\n${inside}    </application>\n</manifest>\n`;
const wrapper = (version: string) =>
  `distributionBase=GRADLE_USER_HOME\ndistributionPath=wrapper/dists\ndistributionUrl=https\\://services.gradle.org/distributions/gradle-${version}-all.zip\n`;
const plist = (entries: string) => `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">\n<dict>\n${entries}</dict>\n</plist>\n`;

describe("Flutter", () => {
  const shared = (sdk: string) => ({
    "pubspec.yaml": `name: crewboard\nversion: 1.0.0+1\nenvironment:\n  sdk: ${sdk}\n\ndependencies:\n  flutter:\n    sdk: flutter\n\ndev_dependencies:\n  flutter_test:\n    sdk: flutter\n`,
    "pubspec.lock":
      'packages:\n  flutter:\n    dependency: "direct main"\n    description: flutter\n    source: sdk\n    version: "0.0.0"\n  flutter_test:\n    dependency: "direct dev"\n    description: flutter\n    source: sdk\n    version: "0.0.0"\nsdks:\n  dart: ">=3.0.0 <4.0.0"\n',
    ".gitignore": ".dart_tool/\n.flutter-plugins-dependencies\nbuild/\n",
    "lib/main.dart": "void main() {}\n",
  });
  const ios = (target: string) => ({
    "ios/Runner.xcodeproj/project.pbxproj": xcodeExample({
      id: "example.maresia.crewboard",
      target,
      settings: "INFOPLIST_FILE = Runner/Info.plist;",
    }),
    "ios/Runner/Info.plist": plist(
      "  <key>CFBundleIdentifier</key>\n  <string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>\n  <key>CFBundleShortVersionString</key>\n  <string>$(FLUTTER_BUILD_NAME)</string>\n  <key>CFBundleVersion</key>\n  <string>$(FLUTTER_BUILD_NUMBER)</string>\n  <key>UILaunchScreen</key>\n  <dict/>\n",
    ),
    "ios/Podfile": `# platform :ios, '${target}'\nENV['COCOAPODS_DISABLE_STATS'] = 'true'\n\ndef flutter_root\n  path = File.expand_path(File.join('..', 'Flutter', 'Generated.xcconfig'), __FILE__)\n  File.foreach(path) do |line|\n    matches = line.match(/FLUTTER_ROOT\\=(.*)/)\n    return matches[1].strip if matches\n  end\nend\n\nrequire File.expand_path(File.join('packages', 'flutter_tools', 'bin', 'podhelper'), flutter_root)\n\nflutter_ios_podfile_setup\n\ntarget 'Pilot' do\n  use_frameworks!\n  flutter_install_all_ios_pods File.dirname(File.realpath(__FILE__))\nend\n\npost_install do |installer|\n  installer.pods_project.targets.each do |target|\n    flutter_additional_ios_build_settings(target)\n  end\nend\n`,
    "ios/Flutter/Debug.xcconfig":
      '#include? "Pods/Target Support Files/Pods-Runner/Pods-Runner.debug.xcconfig"\n#include "Generated.xcconfig"\n',
    "ios/Flutter/Release.xcconfig":
      '#include? "Pods/Target Support Files/Pods-Runner/Pods-Runner.release.xcconfig"\n#include "Generated.xcconfig"\n',
  });
  const left = "? left to Flutter's default, but android/local.properties points to no Flutter SDK on this machine";

  const applied = {
    ...shared("'>=2.17.0 <3.0.0'"),
    ...ios("11.0"),
    "android/settings.gradle": `include ':app'\n\ndef localPropertiesFile = new File(rootProject.projectDir, "local.properties")\ndef properties = new Properties()\nassert localPropertiesFile.exists()\nlocalPropertiesFile.withReader("UTF-8") { reader -> properties.load(reader) }\n\ndef flutterSdkPath = properties.getProperty("flutter.sdk")\nassert flutterSdkPath != null, "flutter.sdk not set in local.properties"\napply from: "$flutterSdkPath/packages/flutter_tools/gradle/app_plugin_loader.gradle"\n`,
    "android/build.gradle":
      "buildscript {\n    ext.kotlin_version = '1.7.10'\n    repositories {\n        google()\n        mavenCentral()\n    }\n    dependencies {\n        classpath 'com.android.tools.build:gradle:7.2.0'\n        classpath \"org.jetbrains.kotlin:kotlin-gradle-plugin:$kotlin_version\"\n    }\n}\n\nallprojects {\n    repositories {\n        google()\n        mavenCentral()\n    }\n}\n\nrootProject.buildDir = '../build'\nsubprojects {\n    project.buildDir = \"${rootProject.buildDir}/${project.name}\"\n}\nsubprojects {\n    project.evaluationDependsOn(':app')\n}\n",
    "android/gradle/wrapper/gradle-wrapper.properties": wrapper("7.5"),
    "android/app/build.gradle": `def localProperties = new Properties()\ndef localPropertiesFile = rootProject.file('local.properties')\nif (localPropertiesFile.exists()) {\n    localPropertiesFile.withReader('UTF-8') { reader ->\n        localProperties.load(reader)\n    }\n}\n\ndef flutterRoot = localProperties.getProperty('flutter.sdk')\nif (flutterRoot == null) {\n    throw new GradleException("Flutter SDK not found.")\n}\ndef flutterVersionCode = localProperties.getProperty('flutter.versionCode')\n\napply plugin: 'com.android.application'\napply plugin: 'kotlin-android'\napply from: "$flutterRoot/packages/flutter_tools/gradle/flutter.gradle"\n\nandroid {\n    compileSdkVersion flutter.compileSdkVersion\n    ndkVersion flutter.ndkVersion\n\n    sourceSets {\n        main.java.srcDirs += 'src/main/kotlin'\n    }\n\n    defaultConfig {\n        applicationId "example.maresia.crewboard"\n        minSdkVersion flutter.minSdkVersion\n        targetSdkVersion flutter.targetSdkVersion\n        versionCode flutterVersionCode.toInteger()\n    }\n\n    buildTypes {\n        release {\n            signingConfig signingConfigs.debug\n        }\n    }\n}\n\nflutter {\n    source '../..'\n}\n\ndependencies {\n    implementation "org.jetbrains.kotlin:kotlin-stdlib-jdk7:$kotlin_version"\n}\n`,
    "android/app/src/main/AndroidManifest.xml": manifest('\n    package="example.maresia.crewboard"'),
    "android/app/src/debug/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android"\n    package="example.maresia.crewboard">\n    <uses-permission android:name="android.permission.INTERNET"/>\n</manifest>\n`,
  };
  const declared = {
    ...shared("^3.6.0"),
    ...ios("12.0"),
    "android/settings.gradle": `pluginManagement {\n    def flutterSdkPath = {\n        def properties = new Properties()\n        file("local.properties").withInputStream { properties.load(it) }\n        def flutterSdkPath = properties.getProperty("flutter.sdk")\n        assert flutterSdkPath != null, "flutter.sdk not set in local.properties"\n        return flutterSdkPath\n    }()\n\n    includeBuild("$flutterSdkPath/packages/flutter_tools/gradle")\n\n    repositories {\n        google()\n        mavenCentral()\n        gradlePluginPortal()\n    }\n}\n\nplugins {\n    id "dev.flutter.flutter-plugin-loader" version "1.0.0"\n    id "com.android.application" version "8.1.0" apply false\n    id "org.jetbrains.kotlin.android" version "1.8.22" apply false\n}\n\ninclude ":app"\n`,
    "android/build.gradle":
      'allprojects {\n    repositories {\n        google()\n        mavenCentral()\n    }\n}\n\nrootProject.buildDir = "../build"\nsubprojects {\n    project.buildDir = "${rootProject.buildDir}/${project.name}"\n}\n\ntasks.register("clean", Delete) {\n    delete rootProject.buildDir\n}\n',
    "android/gradle/wrapper/gradle-wrapper.properties": wrapper("8.3"),
    "android/app/build.gradle":
      'plugins {\n    id "com.android.application"\n    id "kotlin-android"\n    id "dev.flutter.flutter-gradle-plugin"\n}\n\nandroid {\n    namespace = "example.maresia.crewboard"\n    compileSdk = flutter.compileSdkVersion\n\n    compileOptions {\n        sourceCompatibility = JavaVersion.VERSION_1_8\n        targetCompatibility = JavaVersion.VERSION_1_8\n    }\n\n    defaultConfig {\n        applicationId = "example.maresia.crewboard"\n        minSdk = flutter.minSdkVersion\n        targetSdk = flutter.targetSdkVersion\n        versionCode = flutter.versionCode\n    }\n\n    buildTypes {\n        release {\n            signingConfig = signingConfigs.debug\n        }\n    }\n}\n\nflutter {\n    source = "../.."\n}\n',
    "android/app/src/main/AndroidManifest.xml": manifest(),
  };
  const kotlin = {
    ...shared("^3.7.0"),
    ...ios("13.0"),
    "android/settings.gradle.kts": `pluginManagement {\n    val flutterSdkPath =\n        run {\n            val properties = java.util.Properties()\n            file("local.properties").inputStream().use { properties.load(it) }\n            val flutterSdkPath = properties.getProperty("flutter.sdk")\n            require(flutterSdkPath != null) { "flutter.sdk not set in local.properties" }\n            flutterSdkPath\n        }\n\n    includeBuild("$flutterSdkPath/packages/flutter_tools/gradle")\n\n    repositories {\n        google()\n        mavenCentral()\n        gradlePluginPortal()\n    }\n}\n\nplugins {\n    id("dev.flutter.flutter-plugin-loader") version "1.0.0"\n    id("com.android.application") version "8.9.1" apply false\n    id("org.jetbrains.kotlin.android") version "2.1.0" apply false\n}\n\ninclude(":app")\n`,
    "android/build.gradle.kts":
      'allprojects {\n    repositories {\n        google()\n        mavenCentral()\n    }\n}\n\nval newBuildDir: Directory =\n    rootProject.layout.buildDirectory\n        .dir("../../build")\n        .get()\nrootProject.layout.buildDirectory.value(newBuildDir)\n\nsubprojects {\n    val newSubprojectBuildDir: Directory = newBuildDir.dir(project.name)\n    project.layout.buildDirectory.value(newSubprojectBuildDir)\n}\nsubprojects {\n    project.evaluationDependsOn(":app")\n}\n\ntasks.register<Delete>("clean") {\n    delete(rootProject.layout.buildDirectory)\n}\n',
    "android/gradle/wrapper/gradle-wrapper.properties": wrapper("8.12"),
    "android/app/build.gradle.kts":
      'plugins {\n    id("com.android.application")\n    id("kotlin-android")\n    id("dev.flutter.flutter-gradle-plugin")\n}\n\nandroid {\n    namespace = "example.maresia.crewboard"\n    compileSdk = flutter.compileSdkVersion\n\n    compileOptions {\n        sourceCompatibility = JavaVersion.VERSION_11\n        targetCompatibility = JavaVersion.VERSION_11\n    }\n\n    kotlinOptions {\n        jvmTarget = JavaVersion.VERSION_11.toString()\n    }\n\n    defaultConfig {\n        applicationId = "example.maresia.crewboard"\n        minSdk = flutter.minSdkVersion\n        targetSdk = flutter.targetSdkVersion\n    }\n\n    buildTypes {\n        release {\n            signingConfig = signingConfigs.getByName("debug")\n        }\n    }\n}\n\nflutter {\n    source = "../.."\n}\n',
    "android/app/src/main/AndroidManifest.xml": manifest(),
  };

  it.each([
    ["scripts applied by path", applied, { kotlin: "1.7.10", androidPlugin: "7.2.0", gradle: "7.5", iosTarget: "11.0" }],
    ["plugins declared, Groovy", declared, { kotlin: "1.8.22", androidPlugin: "8.1.0", gradle: "8.3", iosTarget: "12.0", java: "8" }],
    ["plugins declared, Kotlin", kotlin, { kotlin: "2.1.0", androidPlugin: "8.9.1", gradle: "8.12", iosTarget: "13.0" }],
  ])("%s", async (_, files, expected) => {
    expect(levels(files)).toMatchObject({ minSdk: left, targetSdk: left, compileSdk: left, ...expected });
    expect(appOf(files).dependencies.filter(({ platform, test }) => !platform && !test)).toEqual([]);
    expect(await complaints(files)).toEqual([]);
  });

  it("levels that an older project wrote out itself win over the framework", () => {
    const files = {
      ...applied,
      "android/app/build.gradle": applied["android/app/build.gradle"]
        .replace("minSdkVersion flutter.minSdkVersion", "minSdkVersion 21")
        .replace("compileSdkVersion flutter.compileSdkVersion", "compileSdkVersion 34"),
    };
    expect(levels(files)).toMatchObject({ minSdk: "21", compileSdk: "34", targetSdk: left });
  });

  it("levels out of local.properties with a default", () => {
    const files = {
      ...applied,
      "android/local.properties": "flutter.minSdkVersion=23\n",
      "android/app/build.gradle": applied["android/app/build.gradle"].replace(
        "minSdkVersion flutter.minSdkVersion",
        "minSdkVersion localProperties.getProperty('flutter.minSdkVersion').toInteger()",
      ),
    };
    expect(levels(files).minSdk).toMatch(/^23$|^\? /);
  });
});

describe(".NET", () => {
  const single = {
    "Lock.csproj": `<Project Sdk="Microsoft.NET.Sdk">

	<PropertyGroup>
		<TargetFrameworks>net8.0-android;net8.0-ios;net8.0-maccatalyst</TargetFrameworks>
		<TargetFrameworks Condition="$([MSBuild]::IsOSPlatform('windows'))">$(TargetFrameworks);net8.0-windows10.0.19041.0</TargetFrameworks>
		<OutputType>Exe</OutputType>
		<RootNamespace>Lock</RootNamespace>
		<UseMaui>true</UseMaui>
		<SingleProject>true</SingleProject>

		<ApplicationTitle>Lock</ApplicationTitle>
		<ApplicationId>example.maresia.lock</ApplicationId>
		<ApplicationDisplayVersion>1.0</ApplicationDisplayVersion>
		<ApplicationVersion>1</ApplicationVersion>

		<SupportedOSPlatformVersion Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'ios'">11.0</SupportedOSPlatformVersion>
		<SupportedOSPlatformVersion Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'maccatalyst'">13.1</SupportedOSPlatformVersion>
		<SupportedOSPlatformVersion Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'android'">21.0</SupportedOSPlatformVersion>
		<SupportedOSPlatformVersion Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'windows'">10.0.17763.0</SupportedOSPlatformVersion>
	</PropertyGroup>

	<ItemGroup>
		<MauiIcon Include="Resources\\AppIcon\\appicon.svg" Color="#512BD4" />
		<MauiAsset Include="Resources\\Raw\\**" LogicalName="%(RecursiveDir)%(Filename)%(Extension)" />
	</ItemGroup>

	<ItemGroup>
		<PackageReference Include="Microsoft.Maui.Controls" Version="$(MauiVersion)" />
		<PackageReference Include="Microsoft.Extensions.Logging.Debug" Version="8.0.0" />
	</ItemGroup>

</Project>
`,
    "Resources/AppIcon/appicon.svg": "<svg />\n",
    "Platforms/Android/AndroidManifest.xml":
      '<?xml version="1.0" encoding="utf-8"?>\n<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n\t<application android:allowBackup="true" android:supportsRtl="true"></application>\n\t<uses-permission android:name="android.permission.INTERNET" />\n</manifest>\n',
    "Platforms/iOS/Info.plist": plist(
      "\t<key>LSRequiresIPhoneOS</key>\n\t<true/>\n\t<key>XSAppIconAssets</key>\n\t<string>Assets.xcassets/appicon.appiconset</string>\n",
    ),
  };
  const platformProject = (guid: string, more: string, items: string) => `<?xml version="1.0" encoding="utf-8"?>
<Project DefaultTargets="Build" ToolsVersion="4.0" xmlns="http://schemas.microsoft.com/developer/msbuild/2003">
  <PropertyGroup>
    <Configuration Condition=" '$(Configuration)' == '' ">Debug</Configuration>
    <ProjectTypeGuids>{${guid}};{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}</ProjectTypeGuids>
${more}  </PropertyGroup>
  <PropertyGroup Condition=" '$(Configuration)|$(Platform)' == 'Debug|AnyCPU' ">
    <DebugSymbols>true</DebugSymbols>
  </PropertyGroup>
${items}</Project>
`;
  const android = "EFBA0AD7-5A72-4C68-AF49-83D382785DCF";
  const ios = "FEACFBD2-3405-455C-9665-78FE426C6842";
  const perPlatform = (items: (side: string) => string, more: Record<string, string> = {}) => ({
    "Lock.Droid/Lock.Droid.csproj": platformProject(
      android,
      "    <OutputType>Library</OutputType>\n    <AndroidApplication>True</AndroidApplication>\n    <AndroidManifest>Properties\\AndroidManifest.xml</AndroidManifest>\n    <TargetFrameworkVersion>v12.0</TargetFrameworkVersion>\n",
      items("android"),
    ),
    "Lock.Droid/Properties/AndroidManifest.xml":
      '<?xml version="1.0" encoding="utf-8"?>\n<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.maresia.lock">\n\t<uses-sdk android:minSdkVersion="21" android:targetSdkVersion="31" />\n\t<application android:label="Lock"></application>\n</manifest>\n',
    "Lock.iOS/Lock.iOS.csproj": platformProject(ios, "    <OutputType>Exe</OutputType>\n", items("ios")),
    "Lock.iOS/Info.plist": plist(
      "\t<key>MinimumOSVersion</key>\n\t<string>12.0</string>\n\t<key>CFBundleIdentifier</key>\n\t<string>example.maresia.lock</string>\n",
    ),
    ...more,
  });

  it("one project for all platforms, which adds to its own list of frameworks", async () => {
    expect(levels(single)).toMatchObject({ minSdk: "21", iosTarget: "11.0" });
    expect(appOf(single).android?.ids.map(({ value }) => shown(value))).toEqual(["example.maresia.lock"]);
    expect(await complaints(single)).toEqual([]);
  });

  it("one project per platform, packages in the project files", async () => {
    const files = perPlatform(
      () =>
        '  <ItemGroup>\n    <PackageReference Include="Quaymap.Mobile">\n      <Version>4.2.0</Version>\n    </PackageReference>\n  </ItemGroup>\n',
    );
    expect(levels(files)).toMatchObject({ minSdk: "21", targetSdk: "31", iosTarget: "12.0" });
    expect(appOf(files).dependencies.map(({ name, side, declared }) => `${side} ${name} ${shown(declared)}`)).toEqual([
      "android Quaymap.Mobile 4.2.0",
      "ios Quaymap.Mobile 4.2.0",
    ]);
    expect(await complaints(files)).toEqual([]);
  });

  it("one project per platform, packages in packages.config", async () => {
    const config = (framework: string) =>
      `<?xml version="1.0" encoding="utf-8"?>\n<packages>\n  <package id="Quaymap.Mobile" version="4.2.0" targetFramework="${framework}" />\n</packages>\n`;
    const files = perPlatform(() => "", {
      "Lock.Droid/packages.config": config("monoandroid12.0"),
      "Lock.iOS/packages.config": config("xamarinios10"),
    });
    expect(appOf(files).dependencies.map(({ name, side, declared }) => `${side} ${name} ${shown(declared)}`)).toEqual([
      "android Quaymap.Mobile 4.2.0",
      "ios Quaymap.Mobile 4.2.0",
    ]);
    expect(await complaints(files)).toEqual([]);
  });

  it("Windows line ends and a BOM change nothing", () => {
    const files = Object.fromEntries(Object.entries(single).map(([file, text]) => [file, `\uFEFF${text.replaceAll("\n", "\r\n")}`]));
    expect(levels(files)).toEqual(levels(single));
  });
});

describe("Unity", () => {
  const settings = (serialized: number, min: number, target: number, ios: string) => `%YAML 1.1
%TAG !u! tag:unity3d.com,2011:
--- !u!129 &1
PlayerSettings:
  m_ObjectHideFlags: 0
  serializedVersion: ${serialized}
  companyName: Maresia
  productName: Tidegame
  applicationIdentifier:
    Android: example.maresia.tidegame
    Standalone: example.maresia.tidegame
    iPhone: example.maresia.tidegame
  AndroidMinSdkVersion: ${min}
  AndroidTargetSdkVersion: ${target}
  iOSTargetOSVersionString: ${ios}
  cameraUsageDescription: 
  scriptingDefineSymbols: {}
`;
  const project = (editor: string, text: string, dependencies: Record<string, string>, locked = true) => ({
    "ProjectSettings/ProjectVersion.txt": `m_EditorVersion: ${editor}\nm_EditorVersionWithRevision: ${editor} (0123456789ab)\n`,
    "ProjectSettings/ProjectSettings.asset": text,
    "Packages/manifest.json": JSON.stringify({ dependencies }, undefined, 2),
    "Assets/Scenes/SampleScene.unity": "%YAML 1.1\n",
    ...(locked
      ? {
          "Packages/packages-lock.json": JSON.stringify(
            {
              dependencies: Object.fromEntries(
                Object.entries(dependencies).map(([name, version]) => [
                  name,
                  { version, depth: 0, source: name.includes("modules") ? "builtin" : "registry", dependencies: {} },
                ]),
              ),
            },
            undefined,
            2,
          ),
        }
      : {}),
  });
  const packages = { "com.unity.ugui": "1.0.0", "com.unity.modules.physics": "1.0.0" };

  it.each([
    ["2019, no lock yet", project("2019.4.40f1", settings(20, 19, 0, "10.0"), packages, false), { minSdk: "19", iosTarget: "10.0" }],
    ["2022", project("2022.3.45f1", settings(24, 22, 0, "12.0"), packages), { minSdk: "22", iosTarget: "12.0" }],
    ["6", project("6000.0.23f1", settings(28, 23, 35, "13.0"), packages), { minSdk: "23", targetSdk: "35", iosTarget: "13.0" }],
  ])("%s", async (_, files, expected) => {
    expect(levels(files)).toMatchObject(expected);
    expect(appOf(files).shared?.framework.name).toBe("Unity");
    expect(await complaints(files)).toEqual([]);
  });

  it("a project with an id for the desktop alone is no mobile app, until it has a folder for Android", () => {
    const files = project("2019.4.40f1", settings(20, 19, 0, "10.0").replace(/ {4}(Android|iPhone): .*\n/g, ""), packages);
    expect(surveyOf(files).apps).toEqual([]);
    const withFolder = {
      ...files,
      "Assets/Plugins/Android/AndroidManifest.xml":
        '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application />\n</manifest>\n',
    };
    const app = appOf(withFolder);
    expect([app.android !== undefined, app.ios !== undefined]).toEqual([true, false]);
    // The editor makes the id of company and product.
    expect(app.android?.ids.map(({ value }) => shown(value))).toEqual(["com.Maresia.Tidegame"]);
  });
});
