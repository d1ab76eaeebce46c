import { gzipSync } from "node:zlib";
import { createTar } from "nanotar";
import { describe, expect, it } from "vitest";
import { xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, surveyOf } from "../helpers/memory.js";

const rulesOf = async (files: Record<string, string | Uint8Array>) =>
  (await reportOf(files)).findings.filter(({ severity }) => severity !== "note").map(({ rule, message }) => `${rule}: ${message}`);
const levels = (files: Record<string, string | Uint8Array>) => {
  const app = appOf(files);
  return Object.fromEntries(
    [...Object.entries(app.android?.effective ?? {}), ...Object.entries(app.ios?.effective ?? {})].map(([level, value]) => [
      level,
      shown(value),
    ]),
  );
};
const packages = (files: Record<string, string>) =>
  appOf(files)
    .dependencies.filter(({ platform }) => !platform)
    .map(({ name, side, declared, locked, route }) => `${side} ${name} ${declared ? shown(declared) : "-"} ${locked ?? "-"} ${route}`)
    .sort();

describe("Flutter", () => {
  const gradle = (min: string) =>
    `plugins {\n  id "com.android.application"\n  id "dev.flutter.flutter-gradle-plugin"\n}\nandroid {\n  compileSdk = flutter.compileSdkVersion\n  defaultConfig {\n    applicationId = "example.maresia.crewboard"\n    minSdk = ${min}\n    targetSdk = flutter.targetSdkVersion\n  }\n}\n`;
  const app = (more: Record<string, string> = {}, min = "flutter.minSdkVersion") => ({
    "pubspec.yaml":
      "name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n  tide_plugin:\n    path: packages/tide_plugin\n  gull: any\n",
    "android/settings.gradle": "include ':app'\n",
    "android/app/build.gradle": gradle(min),
    "ios/Runner.xcodeproj/project.pbxproj": xcodeExample({ id: "example.maresia.crewboard", target: "13.0" }),
    "packages/tide_plugin/pubspec.yaml":
      "name: tide_plugin\nversion: 1.2.0\ndependencies:\n  flutter:\n    sdk: flutter\nflutter:\n  plugin:\n    platforms:\n      android:\n        package: example.tide\n        pluginClass: TidePlugin\n      ios:\n        pluginClass: TidePlugin\n",
    "packages/tide_plugin/android/build.gradle": "android {\n  defaultConfig {\n    minSdk = 29\n  }\n}\n",
    "packages/tide_plugin/ios/tide_plugin.podspec":
      "Pod::Spec.new do |s|\n  s.name = 'tide_plugin'\n  s.version = '1.2.0'\n  s.platform = :ios, '14.0'\nend\n",
    ...more,
  });

  it("is found with its plugins, which are no apps, and their levels", () => {
    const { apps } = surveyOf(app());
    expect(apps.map(({ name, kind }) => `${name} ${kind}`)).toEqual(["crewboard flutter"]);
    expect(packages(app())).toEqual(["android tide_plugin - - path", "ios tide_plugin - - path", "shared gull any - registry"]);
    expect(apps[0]?.requiredLevels.map(({ level, by, value }) => `${by} ${level} ${shown(value)}`).sort()).toEqual([
      "tide_plugin iosTarget 14.0",
      "tide_plugin minSdk 29",
    ]);
  });

  it("a level that is left to the framework is unknown without its SDK, and known with it", () => {
    expect(levels(app()).minSdk).toMatch(/^unknown: left to Flutter's default/);
    const sdk = {
      "android/local.properties": "flutter.sdk=/memory/sdk\n",
      "sdk/packages/flutter_tools/gradle/src/main/kotlin/FlutterExtension.kt":
        "open class FlutterExtension {\n    val compileSdkVersion: Int = 35\n    val minSdkVersion: Int = 21\n    val targetSdkVersion: Int = 35\n}\n",
      "sdk/version": "3.27.1\n",
    };
    expect(levels(app(sdk))).toMatchObject({ minSdk: "21", targetSdk: "35", compileSdk: "35" });
  });

  it("reports the default that is certainly too low, and the level that is", async () => {
    expect(await rulesOf(app())).toContain("level/left-to-default: minSdk is left to Flutter's default, but tide_plugin needs 29");
    expect(await rulesOf(app({}, "24"))).toContain("level/below-need: tide_plugin needs minSdk 29; this app has 24");
    expect((await rulesOf(app({}, "29"))).join()).not.toContain("minSdk");
  });

  it("holds the lock against the constraints, and says what follows a branch", async () => {
    const files = {
      ...app(),
      "pubspec.yaml":
        "name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n  gull: ^2.0.0\n  quay:\n    git: https://git.quaymap.example/flutter.git\n",
      "pubspec.lock": 'packages:\n  gull:\n    dependency: "direct main"\n    source: hosted\n    version: "1.9.0"\n',
    };
    const found = await rulesOf(files);
    expect(found).toContain("version/lock-stale: gull is locked at 1.9.0, outside the declared ^2.0.0");
    const unlocked = Object.fromEntries(Object.entries(files).filter(([file]) => file !== "pubspec.lock"));
    expect((await rulesOf(unlocked)).join()).toContain(
      "version/floating: the version of quay is not pinned: it follows the default branch of a Git repository",
    );
  });

  it("an address with broken escapes in the package configuration stops nothing", () => {
    const files = app({
      ".dart_tool/package_config.json":
        '{ "packages": [{ "name": "gull", "rootUri": "../%E0%A4%A(%&Q" }, { "name": "tide_plugin", "rootUri": "file:///%" }] }',
    });
    expect(appOf(files).dependencies.map(({ name }) => name)).toEqual(expect.arrayContaining(["gull", "tide_plugin"]));
  });

  it("federated packages are one SDK", () => {
    const files = app({
      "pubspec.yaml": "name: c\ndependencies:\n  flutter:\n    sdk: flutter\n  gull: ^1.0.0\n  gull_android: ^1.0.0\n  gull_ios: ^1.0.0\n",
    });
    expect(new Set(appOf(files).dependencies.map(({ sdk }) => sdk))).toEqual(new Set(["gull"]));
  });

  it("reports a Podfile that does not link plugins, by the framework's own call", async () => {
    const files = app({
      "ios/Podfile": "platform :ios, '14.0'\ntarget 'Pilot' do\n  use_frameworks!\nend\n",
      "ios/Podfile.lock": "PODS:\n  - Flutter (1.0.0)\n\nDEPENDENCIES:\n  - Flutter (from `Flutter`)\n\nCOCOAPODS: 1.16.2\n",
    });
    expect((await rulesOf(files)).join()).toContain(
      "native/unregistered: nothing links tide_plugin on iOS: the Podfile has no flutter_install_all_ios_pods",
    );
    const linked = {
      ...files,
      "ios/Podfile":
        "platform :ios, '14.0'\ntarget 'Pilot' do\n  flutter_install_all_ios_pods File.dirname(File.realpath(__FILE__))\nend\n",
    };
    expect((await rulesOf(linked)).join()).not.toContain("native/unregistered");
  });

  it("reports a written list of plugins that lacks one", async () => {
    const registrant = (text: string) => app({ "android/app/src/main/java/io/flutter/plugins/GeneratedPluginRegistrant.java": text }, "29");
    expect((await rulesOf(registrant("public final class GeneratedPluginRegistrant {}\n"))).join()).toContain(
      "native/not-linked: tide_plugin has native code for Android",
    );
    expect((await rulesOf(registrant("flutterEngine.getPlugins().add(new example.tide.TidePlugin());\n"))).join()).not.toContain(
      "native/not-linked",
    );
  });
});

describe("Cordova", () => {
  const config = (body: string, id = "example.maresia.quayside") =>
    `<?xml version='1.0'?>\n<widget id="${id}" xmlns="http://www.w3.org/ns/widgets">\n  <name>Quayside</name>\n${body}</widget>\n`;
  const plugin = (id: string, body: string) =>
    `<plugin xmlns="http://apache.org/cordova/ns/plugins/1.0" id="${id}" version="1.4.0">\n${body}</plugin>\n`;
  const both =
    '  <platform name="android"><source-file src="src/Tide.java" target-dir="src" /></platform>\n  <platform name="ios"><source-file src="src/Tide.m" /></platform>\n';
  const app = (body: string, more: Record<string, string> = {}) => ({
    "config.xml": config(`  <engine name="android" spec="13.0.0" />\n  <engine name="ios" spec="7.1.1" />\n${body}`),
    "plugins/cordova-plugin-tide/plugin.xml": plugin("cordova-plugin-tide", both),
    ...more,
  });

  it("its configuration counts, and levels that it does not state come from the platform packages", () => {
    expect(levels(app('  <platform name="android"><preference name="android-minSdkVersion" value="26" /></platform>\n'))).toMatchObject({
      minSdk: "26",
      targetSdk: "34",
      compileSdk: "34",
      iosTarget: "11.0",
    });
    const open = app("");
    expect(levels({ ...open, "config.xml": open["config.xml"].replace("13.0.0", "https://git.example/android.git") })).toMatchObject({
      minSdk: expect.stringContaining("unknown: left to cordova-android") as string,
    });
    const installed = {
      "node_modules/cordova-android/package.json": '{ "name": "cordova-android", "version": "13.0.0" }',
      "node_modules/cordova-android/framework/cdv-gradle-config-defaults.json":
        '{ "MIN_SDK_VERSION": 24, "SDK_VERSION": 34, "AGP_VERSION": "8.3.0" }',
      "node_modules/cordova-ios/package.json": '{ "name": "cordova-ios", "version": "7.1.1" }',
      "node_modules/cordova-ios/templates/project/__PROJECT__.xcodeproj/project.pbxproj": xcodeExample({ target: "11.0" }),
    };
    expect(levels(app("", installed))).toMatchObject({
      minSdk: "24",
      targetSdk: "34",
      compileSdk: "34",
      androidPlugin: "8.3.0",
      iosTarget: "11.0",
    });
  });

  it("the native projects that it writes are no apps of their own", () => {
    const written = {
      "platforms/android/settings.gradle": "include ':app'\n",
      "platforms/android/app/build.gradle": "apply plugin: 'com.android.application'\n",
      "platforms/ios/Quayside.xcodeproj/project.pbxproj": xcodeExample(),
    };
    expect(surveyOf(app("", written)).apps.map(({ kind }) => kind)).toEqual(["cordova"]);
  });

  it("a plugin that a platform's register does not have", async () => {
    const declared = '  <plugin name="cordova-plugin-tide" spec="1.4.0" />\n';
    const register = (names: string) => ({ "platforms/ios/ios.json": `{ "installed_plugins": { ${names} } }` });
    expect((await rulesOf(app(declared, register("")))).join()).toContain(
      "native/not-linked: cordova-plugin-tide has native code for iOS that is not linked: ios.json has no cordova-plugin-tide",
    );
    expect(await rulesOf(app(declared, register('"cordova-plugin-tide": {}')))).toEqual([]);
    expect(await rulesOf(app(declared))).toEqual([]);
  });

  it("variables: left empty, left out, with a default", async () => {
    const described = (preference: string) => ({
      "plugins/cordova-plugin-tide/plugin.xml": plugin("cordova-plugin-tide", `  ${preference}\n${both}`),
    });
    const declared = (variable: string) => `  <plugin name="cordova-plugin-tide" spec="1.4.0">${variable}</plugin>\n`;
    const wants = described('<preference name="TIDE_KEY" />');
    expect((await rulesOf(app(declared(""), wants))).join()).toContain(
      "key/missing: the variable of the plugin cordova-plugin-tide TIDE_KEY is empty",
    );
    expect((await rulesOf(app(declared('<variable name="TIDE_KEY" value="YOUR_KEY_HERE" />'), wants))).join()).toContain("key/placeholder");
    expect(await rulesOf(app(declared('<variable name="TIDE_KEY" value="td-4711" />'), wants))).toEqual([]);
    expect(await rulesOf(app(declared(""), described('<preference name="TIDE_KEY" default="td-1" />')))).toEqual([]);
  });

  it("Git without a revision, copied files, a class that no file has, a plugin for a newer platform", async () => {
    const git = (ref: string) => app(`  <plugin name="cordova-plugin-tide" spec="https://git.tidewire.example/plugin.git${ref}" />\n`);
    expect((await rulesOf(git(""))).join()).toContain(
      "version/floating: the version of cordova-plugin-tide is not pinned: it follows the default branch",
    );
    expect(await rulesOf(git("#v1.4.0"))).toEqual([]);
    const declared = '  <plugin name="cordova-plugin-tide" spec="1.4.0" />\n';
    expect((await rulesOf(app(declared, { "native/Tide.java": "class Tide {}\n" }))).join()).toContain(
      "native/linked-twice: native/Tide.java is a file of cordova-plugin-tide",
    );
    const orphan = plugin(
      "cordova-plugin-tide",
      both.replace(
        "<source-file",
        '<config-file target="res/xml/config.xml" parent="/*"><feature name="T"><param name="android-package" value="example.tide.Gone" /></feature></config-file><source-file',
      ),
    );
    expect((await rulesOf(app(declared, { "plugins/cordova-plugin-tide/plugin.xml": orphan }))).join()).toContain(
      "has no class example.tide.Gone",
    );
    const engines = plugin("cordova-plugin-tide", `<engines><engine name="cordova-android" version=">=14.0.0" /></engines>${both}`);
    const installed = { "node_modules/cordova-android/package.json": '{ "name": "cordova-android", "version": "13.0.0" }' };
    expect((await rulesOf(app(declared, { ...installed, "plugins/cordova-plugin-tide/plugin.xml": engines }))).join()).toContain(
      "version/wrapper-apart: cordova-plugin-tide requires cordova-android >=14.0.0; this app has 13.0.0",
    );
  });

  it("what plugins and the configuration put into the platforms' files counts", () => {
    const body = plugin(
      "cordova-plugin-tide",
      '<platform name="android"><config-file target="AndroidManifest.xml" parent="/*"><uses-permission android:name="android.permission.CAMERA" xmlns:android="x" /></config-file></platform><platform name="ios"><config-file target="*-Info.plist" parent="NSCameraUsageDescription"><string>Reads codes.</string></config-file></platform>',
    );
    const { entries } = appOf(
      app('  <plugin name="cordova-plugin-tide" spec="1.4.0" />\n  <access origin="http://feed.tidewire.example" />\n', {
        "plugins/cordova-plugin-tide/plugin.xml": body,
      }),
    );
    expect(entries.map(({ kind, side, name, by }) => `${kind} ${side} ${name} ${by ?? ""}`).sort()).toEqual(
      [
        "host android feed.tidewire.example ",
        "host ios feed.tidewire.example ",
        "permission android android.permission.CAMERA cordova-plugin-tide",
        "plist ios NSCameraUsageDescription cordova-plugin-tide",
        "purposeText ios NSCameraUsageDescription cordova-plugin-tide",
      ].sort(),
    );
  });
});

describe("Capacitor", () => {
  const android = {
    "android/settings.gradle": "include ':app'\napply from: 'capacitor.settings.gradle'\n",
    "android/build.gradle": "apply from: 'variables.gradle'\nallprojects { repositories { google() } }\n",
    "android/variables.gradle": "ext {\n  minSdkVersion = 23\n}\n",
    "android/capacitor.settings.gradle": "include ':tide'\nproject(':tide').projectDir = new File('../node_modules/tide/android')\n",
    "android/app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.kiosk'\n    minSdkVersion rootProject.ext.minSdkVersion\n  }\n}\n",
  };
  const app = (
    config: Record<string, string>,
    more: Record<string, string> = {},
    dependencies: Record<string, string> = { "@capacitor/core": "7.2.0", "@capacitor/android": "7.2.0", tide: "1.0.0" },
  ) => ({
    "package.json": JSON.stringify({ name: "kiosk", dependencies }),
    ...config,
    ...android,
    "node_modules/tide/package.json":
      '{ "name": "tide", "version": "1.0.0", "capacitor": { "ios": { "src": "ios" }, "android": { "src": "android" } } }',
    "node_modules/tide/android/build.gradle":
      "apply plugin: 'com.android.library'\nandroid {\n  defaultConfig {\n    minSdkVersion 22\n  }\n}\n",
    ...more,
  });
  const json = { "capacitor.config.json": '{ "appId": "example.maresia.kiosk", "appName": "Kiosk" }' };

  it.each([
    ["JSON", json],
    [
      "TypeScript",
      {
        "capacitor.config.ts":
          "import type { CapacitorConfig } from '@capacitor/cli';\nconst name = 'Kiosk';\nconst config: CapacitorConfig = {\n  appId: 'example.maresia.kiosk',\n  appName: name,\n};\nexport default config;\n",
      },
    ],
    ["JavaScript", { "capacitor.config.js": "module.exports = { appId: 'example.maresia.kiosk', appName: 'Kiosk' };\n" }],
  ])("its configuration is read in %s", (_, config) => {
    const { apps } = surveyOf(app(config));
    expect(apps.map(({ name, kind }) => `${name} ${kind}`)).toEqual(["Kiosk capacitor"]);
    expect(levels(app(config)).minSdk).toBe("23");
  });

  it("what the last sync wrote is held against what is declared", async () => {
    expect((await rulesOf(app(json))).join()).not.toContain("native/not-linked");
    expect((await rulesOf(app(json, { "android/capacitor.settings.gradle": "include ':capacitor-android'\n" }))).join()).toContain(
      "native/not-linked: tide has native code for Android that is not linked: capacitor.settings.gradle has no tide",
    );
  });

  it("its own packages must be of one major version", async () => {
    const apart = { "@capacitor/core": "7.2.0", "@capacitor/android": "6.1.0" };
    expect((await rulesOf(app(json, {}, apart))).join()).toContain(
      "version/family-apart: Capacitor's packages are of different major versions",
    );
    const older = { "@capacitor/core": "7.2.0", "@capacitor/cli": "6.2.0" };
    expect((await rulesOf(app(json, {}, older))).join()).toContain("different major versions: @capacitor/core 7.2.0, @capacitor/cli 6.2.0");
  });
});

describe("Expo", () => {
  const base = {
    "package.json": JSON.stringify({
      name: "deckpass",
      dependencies: { expo: "~51.0.0", "react-native": "0.74.5", "expo-camera": "~14.0.0" },
    }),
  };
  const config = (body: string) => ({
    ...base,
    "App.tsx": "",
    "app.json": `{ "expo": { "name": "Deckpass", "slug": "deckpass", ${body} } }`,
  });

  it("without native folders the configuration answers, and the rest is known only after generation", async () => {
    const files = config(
      '"android": { "package": "example.maresia.deckpass", "permissions": ["CAMERA"] }, "ios": { "bundleIdentifier": "example.maresia.deckpass", "infoPlist": { "NSCameraUsageDescription": "Reads codes." } }',
    );
    const [app] = surveyOf(files).apps;
    expect(app?.kind).toBe("expo");
    expect([shown(app?.android?.ids[0]?.value), shown(app?.ios?.ids[0]?.value)]).toEqual([
      "example.maresia.deckpass",
      "example.maresia.deckpass",
    ]);
    expect(levels(files).minSdk).toMatch(/known only after the native projects are generated/);
    expect(app?.entries.map(({ kind, name }) => `${kind} ${name}`)).toEqual(
      expect.arrayContaining(["permission android.permission.CAMERA", "purposeText NSCameraUsageDescription"]) as string[],
    );
    expect(await rulesOf(files)).toEqual([]);
  });

  it("what the generation puts in is read from the installed packages, and packages are held against it", async () => {
    const installed = (template: boolean): Record<string, string | Uint8Array> => ({
      ...config('"android": { "package": "example.maresia.deckpass" }, "ios": { "bundleIdentifier": "example.maresia.deckpass" }'),
      "node_modules/expo/package.json": '{ "name": "expo", "version": "54.0.0" }',
      "node_modules/expo/Expo.podspec": "Pod::Spec.new do |s|\n  s.name = 'Expo'\n  s.platforms = { :ios => '15.1' }\nend\n",
      "node_modules/react-native/package.json": '{ "name": "react-native", "version": "0.81.5" }',
      "node_modules/react-native/gradle/libs.versions.toml": '[versions]\nminSdk = "24"\ntargetSdk = "36"\ncompileSdk = "36"\n',
      "node_modules/expo-camera/package.json": '{ "name": "expo-camera", "version": "17.0.0" }',
      ...(template
        ? {
            "node_modules/expo-modules-autolinking/package.json": '{ "name": "expo-modules-autolinking" }',
            "node_modules/expo-modules-autolinking/android/expo-gradle-plugin/build.gradle.kts": "",
            "node_modules/expo/template.tgz": gzipSync(
              createTar([{ name: "package/ios/Template.xcodeproj/project.pbxproj", data: xcodeExample({ target: "15.1" }) }]),
            ),
          }
        : {}),
    });
    const levelRules = async (files: Parameters<typeof rulesOf>[0]) => (await rulesOf(files)).filter((told) => told.startsWith("level/"));
    const chart = {
      "node_modules/expo-camera/android/build.gradle": "android {\n  defaultConfig {\n    minSdkVersion 26\n  }\n}\n",
      "node_modules/expo-camera/ios/Chart.podspec": "Pod::Spec.new do |s|\n  s.name = 'Chart'\n  s.platforms = { :ios => '16.0' }\nend\n",
      "node_modules/expo-camera/expo-module.config.json": '{ "platforms": ["android", "apple"] }',
    };
    expect(levels(installed(true))).toMatchObject({ minSdk: "24", targetSdk: "36", compileSdk: "36", iosTarget: "15.1" });
    expect(await levelRules(installed(true))).toEqual([]);
    expect(await levelRules({ ...installed(true), ...chart })).toEqual([
      "level/left-to-default: minSdk is left to Expo's default, but expo-camera needs 26",
      "level/left-to-default: iosTarget is left to Expo's default, but expo-camera needs 16.0",
    ]);
    const { findings } = await reportOf({ ...installed(true), ...chart });
    expect(findings.find(({ rule }) => rule === "level/left-to-default")?.fix).toBe(
      "set minSdk to 26 or higher in app.json, with the plugin expo-build-properties",
    );
    // An archive that is none, or whose sizes lead nowhere, says nothing.
    const whole = createTar([{ name: "package/ios/Template.xcodeproj/project.pbxproj", data: xcodeExample({ target: "15.1" }) }]);
    for (const size of ["-0000001000\0", "zzzzzzzzzzz\0"]) {
      const odd = new Uint8Array(whole);
      odd.set(new TextEncoder().encode(size), 124);
      const files = { ...installed(true), "node_modules/expo/template.tgz": gzipSync(odd), ...chart };
      expect((await levelRules(files))[1]).toContain("nothing in the project sets iosTarget");
    }
    // Where they do not say it, the default is at least what the framework itself needs.
    expect(levels(installed(false)).minSdk).toMatch(/known only after the native projects are generated/);
    expect(await levelRules(installed(false))).toEqual([]);
    expect(await levelRules({ ...installed(false), ...chart })).toEqual([
      "level/left-to-default: nothing in the project sets minSdk, but expo-camera needs 26",
      "level/left-to-default: nothing in the project sets iosTarget, but expo-camera needs 16.0",
    ]);
    // A template that cannot be unpacked says nothing.
    const broken = { ...installed(true), "node_modules/expo/template.tgz": Buffer.from("no archive") };
    expect(levels(broken).iosTarget).toMatch(/known only after the native projects are generated/);
  });

  it("its Gradle plugin gives the native project the levels of React Native's catalog, and the team's properties go before", async () => {
    const generated = {
      ...config('"android": { "package": "example.maresia.deckpass" }, "platforms": ["android"]'),
      "android/settings.gradle": "expoAutolinking.useExpoVersionCatalog()\ninclude ':app'\n",
      "android/build.gradle": 'apply plugin: "expo-root-project"\n',
      "android/app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid {\n  compileSdk rootProject.ext.compileSdkVersion\n  defaultConfig {\n    applicationId 'example.maresia.deckpass'\n    minSdkVersion rootProject.ext.minSdkVersion\n  }\n}\ndependencies {\n  implementation \"example.gull:gull:${expoLibs.versions.gull.get()}\"\n}\n",
    };
    const installed = {
      ...generated,
      "node_modules/react-native/package.json": '{ "name": "react-native", "version": "0.81.5" }',
      "node_modules/react-native/gradle/libs.versions.toml": '[versions]\nminSdk = "24"\ncompileSdk = "36"\ngull = "3.1.0"\n',
    };
    expect(levels(generated).minSdk).toBe("unknown: react-native is not installed: its version catalog cannot be read");
    expect(levels(installed)).toMatchObject({ minSdk: "24", compileSdk: "36" });
    expect(shown(appOf(installed).dependencies.find(({ name }) => name === "example.gull:gull")?.declared)).toBe("3.1.0");
    const own = { "android/gradle.properties": "android.minSdkVersion=26\n" };
    expect(levels({ ...installed, ...own }).minSdk).toBe("26");
    expect(levels({ ...generated, ...own }).minSdk).toBe("26");
    // What is installed is not the place to change it.
    const chart = {
      "node_modules/expo-camera/package.json": '{ "name": "expo-camera", "version": "14.0.0" }',
      "node_modules/expo-camera/android/build.gradle": "android {\n  defaultConfig {\n    minSdkVersion 26\n  }\n}\n",
    };
    const { findings } = await reportOf({ ...installed, ...chart });
    expect(findings.find(({ rule }) => rule === "level/below-need")).toMatchObject({
      message: "expo-camera needs minSdk 26; this app has 24",
      fix: "raise minSdk to 26 in android/app/build.gradle",
    });
  });

  it("build properties state levels; dynamic configurations are read statically", () => {
    const files = {
      ...base,
      "app.config.ts":
        "import { ExpoConfig } from 'expo/config';\nconst id = 'example.maresia.deckpass';\nexport default (): ExpoConfig => ({\n  name: 'Deckpass',\n  slug: 'deckpass',\n  android: { package: id },\n  ios: { bundleIdentifier: id },\n  plugins: [['expo-build-properties', { android: { minSdkVersion: 26 }, ios: { deploymentTarget: '15.1' } }]],\n});\n",
    };
    expect(levels(files)).toMatchObject({ minSdk: "26", iosTarget: "15.1" });
  });

  it("a plugin without its package, and a version that the release does not expect", async () => {
    const files = {
      ...config('"android": { "package": "example.maresia.deckpass" }, "plugins": ["expo-camera", ["tide-plugin", {}], "./plugins/own"]'),
      "plugins/own.js": "module.exports = (config) => config;\n",
      "node_modules/expo/package.json": '{ "name": "expo", "version": "51.0.38" }',
      "node_modules/expo/bundledNativeModules.json": '{ "expo-camera": "~15.0.16" }',
      "node_modules/expo-camera/package.json": '{ "name": "expo-camera", "version": "14.0.1" }',
    };
    const found = await rulesOf(files);
    expect(found).toContain(
      "source/build-plugin: the configuration lists the plugin tide-plugin, but no package of the project provides it",
    );
    expect(found).toContain("version/family-apart: Expo 51.0.38 expects another version: expo-camera 14.0.1; expected ~15.0.16");
    expect(found.join()).not.toContain("./plugins/own");
  });
});

describe(".NET", () => {
  const single = (body: string, properties = "") => ({
    "Lock/Lock.csproj": `<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup>\n    <TargetFrameworks>net8.0-android34.0;net8.0-ios</TargetFrameworks>\n    <OutputType>Exe</OutputType>\n    <ApplicationId>example.maresia.lock</ApplicationId>\n${properties}  </PropertyGroup>\n${body}</Project>\n`,
  });
  const items = (...lines: string[]) => `  <ItemGroup>\n${lines.map((line) => `    ${line}\n`).join("")}  </ItemGroup>\n`;
  const android = "$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'android'";

  it("one project for both sides: levels and packages by condition", () => {
    const files = single(
      items(
        '<PackageReference Include="Quaymap.Mobile" Version="4.2.0" />',
        `<PackageReference Include="Gull.Mobile" Version="[5.0,6.0)" Condition="${android}" />`,
        '<PackageReference Include="Tide.Mobile" Version="1.*" Condition="$(TargetFramework.Contains(\'-ios\'))" />',
      ),
      `    <Minimum>24.0</Minimum>\n    <SupportedOSPlatformVersion Condition="${android}">$(Minimum)</SupportedOSPlatformVersion>\n    <SupportedOSPlatformVersion Condition="$(TargetFramework) != 'net8.0-android34.0' and $(TargetFramework.Contains('-ios'))">15.0</SupportedOSPlatformVersion>\n`,
    );
    expect(levels(files)).toMatchObject({ minSdk: "24", compileSdk: "34", iosTarget: "15.0" });
    expect(packages(files)).toEqual([
      "android Gull.Mobile [5.0,6.0) - registry",
      "ios Tide.Mobile 1.* - registry",
      "shared Quaymap.Mobile 4.2.0 - registry",
    ]);
  });

  it("a property that adds to itself, and one that grows without end", () => {
    const grown = Array.from({ length: 40 }, () => "    <Grown>$(Grown)$(Grown)x</Grown>\n").join("");
    const files = single(
      items('<PackageReference Include="Quaymap.Mobile" Version="$(Grown)" />'),
      `    <TargetFrameworks Condition="$([MSBuild]::IsOSPlatform('windows'))">$(TargetFrameworks);net8.0-windows10.0.19041.0</TargetFrameworks>\n    <Grown>1</Grown>\n${grown}`,
    );
    expect(levels(files)).toMatchObject({ compileSdk: "34" });
    expect(packages(files)).toEqual(["shared Quaymap.Mobile unknown: the value is too long - registry"]);
  });

  it("central versions, overrides and the lock", async () => {
    const files = {
      ...single(
        items('<PackageReference Include="Quaymap.Mobile" />', '<PackageReference Include="Gull.Mobile" VersionOverride="5.2.0" />'),
      ),
      "Directory.Packages.props": `<Project>\n<PropertyGroup><ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally></PropertyGroup>\n${items('<PackageVersion Include="Quaymap.Mobile" Version="[4.2.0]" />', '<PackageVersion Include="Gull.Mobile" Version="5.0.0" />')}</Project>\n`,
      "Lock/packages.lock.json":
        '{ "version": 1, "dependencies": { "net8.0-android34.0": { "Quaymap.Mobile": { "type": "Direct", "requested": "[4.1.0, )", "resolved": "4.1.0" } } } }',
    };
    expect(packages(files)).toEqual(["shared Gull.Mobile 5.2.0 - registry", "shared Quaymap.Mobile [4.2.0] 4.1.0 registry"]);
    // The central list says another version than the lock was made for, and one package came later.
    expect(await rulesOf(files)).toEqual([
      "version/lock-stale: Quaymap.Mobile is declared as [4.2.0], packages.lock.json was made for [4.1.0, )",
      "version/lock-stale: Gull.Mobile is declared but not in packages.lock.json",
    ]);
    files["Lock/packages.lock.json"] =
      '{ "version": 1, "dependencies": { "net8.0-android34.0": { "Quaymap.Mobile": { "type": "Direct", "requested": "[4.2.0, 4.2.0]", "resolved": "4.2.0" }, "Gull.Mobile": { "type": "Direct", "requested": "[5.2.0, )", "resolved": "5.2.0" } } } }';
    expect(await rulesOf(files)).toEqual([]);
  });

  it("the central list wins over a version of the project's own", () => {
    const files = {
      ...single(items('<PackageReference Include="Quaymap.Mobile" Version="4.0.0" />')),
      "Directory.Packages.props": `<Project><PropertyGroup><ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally></PropertyGroup>\n${items('<PackageVersion Include="Quaymap.Mobile" Version="4.2.0" />')}</Project>\n`,
    };
    expect(packages(files)).toEqual(["shared Quaymap.Mobile 4.2.0 - registry"]);
  });

  it("build actions of files with a vendor's settings", async () => {
    const service = { "Lock/Platforms/Android/tide-services.json": '{ "client": { "package_name": "example.maresia.lock" } }\n' };
    const of = (line: string) => ({ ...single(items(line)), ...service });
    const item = (action: string) => `<${action} Include="Platforms\\Android\\tide-services.json" />`;
    expect((await rulesOf(of(item("None")))).join()).toContain(
      "identity/service-file-misplaced: Lock/Platforms/Android/tide-services.json is not read: its build action is None",
    );
    expect(await rulesOf(of(item("TideServices")))).toEqual([]);
    expect((await rulesOf({ ...single(""), ...service })).join()).toContain("no item of the project gives it a build action");
  });

  it("attributes in code write permissions and schemes", () => {
    const files = {
      ...single(""),
      "Lock/Platforms/Android/App.cs":
        '[assembly: UsesPermission(Android.Manifest.Permission.AccessFineLocation)]\n[IntentFilter(new[] { Intent.ActionView }, DataScheme = "lock")]\npublic class A { }\n',
    };
    expect(appOf(files).entries.map(({ kind, name }) => `${kind} ${name}`)).toEqual([
      "permission android.permission.ACCESS_FINE_LOCATION",
      "urlScheme lock",
    ]);
  });

  it("the older form: one project for each platform is one app, and what shared code uses has to be in both", async () => {
    const old = (name: string, guid: string, more: string) =>
      `<Project xmlns="http://schemas.microsoft.com/developer/msbuild/2003">\n  <PropertyGroup>\n    <ProjectTypeGuids>{${guid}};{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}</ProjectTypeGuids>\n    <OutputType>Exe</OutputType>\n${more}  </PropertyGroup>\n  <ItemGroup>\n    <ProjectReference Include="..\\${name}\\${name}.csproj" />\n  </ItemGroup>\n</Project>\n`;
    const config = (...ids: string[]) =>
      `<packages>\n${ids.map((id) => `  <package id="${id}" version="1.0.0" />\n`).join("")}</packages>\n`;
    const files = {
      "Lock.Android/Lock.Android.csproj": old(
        "Lock",
        "EFBA0AD7-5A72-4C68-AF49-83D382785DCF",
        "    <AndroidApplication>True</AndroidApplication>\n",
      ),
      "Lock.Android/packages.config": config("Tide.Core"),
      "Lock.Android/Properties/AndroidManifest.xml":
        '<manifest xmlns:android="x" package="example.maresia.lock"><uses-sdk android:minSdkVersion="23" android:targetSdkVersion="33" /></manifest>',
      "Lock.iOS/Lock.iOS.csproj": old("Lock", "FEACFBD2-3405-455C-9665-78FE426C6842", ""),
      "Lock.iOS/packages.config": config(),
      "Lock.iOS/Info.plist":
        '<plist version="1.0"><dict><key>CFBundleIdentifier</key><string>example.maresia.lock</string><key>MinimumOSVersion</key><string>14.0</string></dict></plist>',
      "Lock/Lock.csproj":
        '<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup><TargetFramework>netstandard2.0</TargetFramework></PropertyGroup>\n</Project>\n',
      "Lock/packages.config": config("Tide.Core"),
    };
    expect(surveyOf(files).apps.map(({ name, android, ios }) => [name, android !== undefined, ios !== undefined])).toEqual([
      ["Lock", true, true],
    ]);
    expect(levels(files)).toMatchObject({ minSdk: "23", targetSdk: "33", iosTarget: "14.0" });
    expect(await rulesOf(files)).toEqual([
      "native/not-linked: Tide.Core has native code for iOS that is not linked: packages.config has no Tide.Core",
    ]);
  });
});

describe("Unity", () => {
  const settings = (more = "") =>
    `%YAML 1.1\n%TAG !u! tag:unity3d.com,2011:\n--- !u!129 &1\nPlayerSettings:\n  productName: Tide\n  applicationIdentifier:\n    Android: example.maresia.tide\n    iPhone: example.maresia.tide\n  AndroidMinSdkVersion: 24\n  AndroidTargetSdkVersion: 0\n  iOSTargetOSVersionString: 13.0\n${more}`;
  const app = (more: Record<string, string> = {}) => ({
    "ProjectSettings/ProjectSettings.asset": settings(),
    "ProjectSettings/ProjectVersion.txt": "m_EditorVersion: 2022.3.45f1\n",
    "Assets/Game.cs": "class Game {}\n",
    ...more,
  });
  const list = (body: string) => `<dependencies>\n${body}</dependencies>\n`;

  it("ids and levels of its settings; a level left to the editor is unknown", () => {
    expect(levels(app())).toMatchObject({
      minSdk: "24",
      targetSdk: expect.stringContaining("left to the editor") as string,
      iosTarget: "13.0",
    });
    expect(shown(appOf(app()).android?.ids[0]?.value)).toBe("example.maresia.tide");
  });

  it("packages and their lock", async () => {
    const files = app({
      "Packages/manifest.json":
        '{ "dependencies": { "example.quaymap.sdk": "4.2.0", "example.tide.sdk": "https://git.tidewire.example/unity.git", "com.unity.ugui": "1.0.0" } }',
      "Packages/packages-lock.json":
        '{ "dependencies": { "example.quaymap.sdk": { "version": "4.1.0", "source": "registry" }, "com.unity.ugui": { "version": "1.0.0" } } }',
    });
    expect(packages(files)).toEqual([
      "shared example.quaymap.sdk 4.2.0 4.1.0 registry",
      "shared example.tide.sdk https://git.tidewire.example/unity.git - git",
    ]);
    expect(await rulesOf(files)).toContain("version/lock-stale: example.quaymap.sdk is locked at 4.1.0, outside the declared 4.2.0");
  });

  it("dependency lists: packages, pods, repositories, and one library in two versions", async () => {
    const files = app({
      "Assets/A/Editor/ADependencies.xml": list(
        '  <androidPackages>\n    <repositories><repository>https://maven.quaymap.example/releases</repository></repositories>\n    <androidPackage spec="example.quaymap:quaymap-android:4.2.0" />\n  </androidPackages>\n  <iosPods><iosPod name="QuaymapSDK" version="~> 4.2" minTargetSdk="14.0" /></iosPods>\n',
      ),
      "Assets/B/Editor/BDependencies.xml": list(
        '  <androidPackages><androidPackage spec="example.quaymap:quaymap-android:4.0.0" /></androidPackages>\n',
      ),
    });
    const found = (await rulesOf(files)).join("\n");
    expect(found).toContain(
      "version/conflict: example.quaymap:quaymap-android is declared in 2 versions: 4.2.0 in Assets/A/Editor/ADependencies.xml, 4.0.0 in Assets/B/Editor/BDependencies.xml",
    );
    expect(found).toContain("level/below-need: QuaymapSDK needs iosTarget 14.0; this app has 13.0");
  });

  it("native plugins are taken for the platforms that their import settings name", async () => {
    const meta = (enabled: string) =>
      `fileFormatVersion: 2\nPluginImporter:\n  platformData:\n  - first:\n      Android: Android\n    second:\n      enabled: ${enabled}\n      settings: {}\n`;
    const of = (enabled: string) => app({ "Assets/Plugins/Android/tide.aar": "x", "Assets/Plugins/Android/tide.aar.meta": meta(enabled) });
    expect(packages(of("1"))).toEqual(["android tide.aar - - binary"]);
    expect(await rulesOf(of("0"))).toEqual(["native/left-out: linking of tide.aar is disabled for Android by a setting"]);
  });

  it("an assembly that leaves out one platform", async () => {
    const of = (body: string) => app({ "Assets/Scripts/Game.asmdef": `{ "name": "Game", ${body} }` });
    expect(await rulesOf(of('"excludePlatforms": ["iOS"]'))).toEqual(["native/left-out: linking of Game is disabled for iOS by a setting"]);
    expect(await rulesOf(of('"includePlatforms": ["Editor"]'))).toEqual([]);
  });
});

describe("shared Kotlin code, and pairs of a native and a hybrid side", () => {
  it("one build with one application and one Xcode project inside is one app, with the pods of the shared code", () => {
    const files = {
      "settings.gradle.kts": 'include(":composeApp", ":shared")\n',
      "composeApp/build.gradle.kts":
        'plugins { id("com.android.application") }\nandroid { defaultConfig { applicationId = "example.maresia.pilot" } }\ndependencies { implementation(project(":shared")) }\n',
      "shared/build.gradle.kts":
        'plugins { kotlin("multiplatform")\n kotlin("native.cocoapods") }\nkotlin {\n  cocoapods {\n    ios.deploymentTarget = "15.0"\n    pod("QuaymapSDK") { version = "~> 4.2" }\n  }\n  sourceSets {\n    androidMain.dependencies { implementation("example.quaymap:quaymap-android:4.2.0") }\n  }\n}\n',
      "iosApp/iosApp.xcodeproj/project.pbxproj": xcodeExample({ id: "example.maresia.pilot.ios", target: "14.0" }),
    };
    const { apps } = surveyOf(files);
    expect(apps.map(({ android, ios }) => [android !== undefined, ios !== undefined])).toEqual([[true, true]]);
    expect(packages(files)).toEqual(["android example.quaymap:quaymap-android 4.2.0 - registry", "ios QuaymapSDK ~> 4.2 - registry"]);
    expect(apps[0]?.requiredLevels.map(({ by, value }) => `${by} ${shown(value)}`)).toContain(":shared 15.0");
  });

  it("a setting makes a native Android side and a hybrid's iOS side one app", async () => {
    const files = {
      "enredo.yaml": "pair:\n  - { name: ferry, android: native, ios: hybrid }\n",
      "native/settings.gradle": "include ':app'\n",
      "native/app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid { defaultConfig { applicationId 'example.maresia.ferry' } }\n",
      "hybrid/package.json": '{ "name": "hybrid", "dependencies": { "react-native": "0.80.0" } }',
      "hybrid/ios/Ferry.xcodeproj/project.pbxproj": xcodeExample({ id: "example.maresia.ferry" }),
    };
    const { survey } = await reportOf(files);
    expect(survey.apps.map(({ name, kind, android, ios }) => [name, kind, android !== undefined, ios !== undefined])).toEqual([
      ["ferry", "react-native", true, true],
    ]);
  });
});

describe("a monorepo with one app of each kind", () => {
  it("finds all of them and mixes none up", () => {
    const files: Record<string, string> = {
      "apps/a/pubspec.yaml": "name: a\ndependencies:\n  flutter:\n    sdk: flutter\n",
      "apps/a/ios/Runner.xcodeproj/project.pbxproj": xcodeExample(),
      "apps/b/config.xml": '<widget id="b.b.b" xmlns="http://www.w3.org/ns/widgets"><name>b</name><engine name="ios" spec="7" /></widget>',
      "apps/c/package.json": '{ "name": "c", "dependencies": { "@capacitor/core": "7.0.0" } }',
      "apps/c/capacitor.config.json": '{ "appId": "c.c.c", "appName": "c" }',
      "apps/c/ios/App/App.xcodeproj/project.pbxproj": xcodeExample(),
      "apps/d/package.json": '{ "name": "d", "dependencies": { "expo": "51.0.0" } }',
      "apps/d/app.json": '{ "expo": { "slug": "d" } }',
      "apps/e/package.json": '{ "name": "e", "dependencies": { "react-native": "0.80.0" } }',
      "apps/e/ios/E.xcodeproj/project.pbxproj": xcodeExample(),
      "apps/f/F.csproj":
        '<Project Sdk="Microsoft.NET.Sdk"><PropertyGroup><TargetFrameworks>net8.0-ios</TargetFrameworks><OutputType>Exe</OutputType></PropertyGroup></Project>',
      "apps/g/ProjectSettings/ProjectSettings.asset": "PlayerSettings:\n  productName: g\n  applicationIdentifier:\n    iPhone: g.g.g\n",
      "apps/g/Assets/G.cs": "class G {}\n",
      "apps/h/H.xcodeproj/project.pbxproj": xcodeExample(),
    };
    expect(surveyOf(files).apps.map(({ name, kind }) => `${name} ${kind}`)).toEqual([
      "a flutter",
      "b cordova",
      "c capacitor",
      "d expo",
      "e react-native",
      "F dotnet",
      "g unity",
      "H native",
    ]);
  });
});

describe("broken input", () => {
  it.each([
    [
      "pubspec.yaml",
      {
        "pubspec.yaml": "name: c\ndependencies:\n  flutter:\n    sdk: flutter\n  x: [\n",
        "ios/R.xcodeproj/project.pbxproj": xcodeExample(),
      },
    ],
    [
      "config.xml",
      { "config.xml": '<widget id="a.b.c"><name>Q</name>\n<engine name="ios"', "A.xcodeproj/project.pbxproj": xcodeExample() },
    ],
    [
      "Lock.csproj",
      { "Lock.csproj": "<Project><PropertyGroup><TargetFrameworks>net8.0-ios</Targ", "A.xcodeproj/project.pbxproj": xcodeExample() },
    ],
    [
      "Packages/manifest.json",
      {
        "ProjectSettings/ProjectSettings.asset": "PlayerSettings:\n  applicationIdentifier:\n    iPhone: g.g.g\n",
        "Assets/a.cs": "",
        "Packages/manifest.json": '{ "dependencies": { "a": "1',
      },
    ],
    [
      "capacitor.config.json",
      {
        "capacitor.config.json": '{ "appId": ',
        "package.json": '{ "name": "k" }',
        "ios/App/App.xcodeproj/project.pbxproj": xcodeExample(),
      },
    ],
    ["app.json", { "app.json": '{ "expo": { "slug": "d" ', "package.json": '{ "name": "d", "dependencies": { "expo": "51.0.0" } }' }],
  ])("%s is named with its line, and the rest of the answer comes", async (file, files) => {
    const { findings, survey } = await reportOf(files as unknown as Record<string, string>);
    expect(findings.filter(({ rule }) => rule === "project/unreadable").map(({ places }) => places[0]?.file)).toContain(file);
    expect(survey.apps.length).toBe(1);
  });
});
