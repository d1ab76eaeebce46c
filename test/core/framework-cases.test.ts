import { describe, expect, it } from "vitest";
import { xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, surveyOf } from "../helpers/memory.js";

/** Notations of each framework, one case a line: what is written, and what must come out. */

const of = (files: Record<string, string>, side?: string) =>
  appOf(files)
    .dependencies.filter((dependency) => !dependency.platform && (side === undefined || dependency.side === side))
    .map(({ name, declared, reference, route, locked }) => {
      const what = declared ? shown(declared) : reference ? `${reference.kind} ${reference.text}` : "-";
      return `${name} ${what} ${locked ?? "-"} ${route}`;
    });
const told = async (files: Record<string, string>, rule: string) =>
  (await reportOf(files)).findings.filter((finding) => finding.rule === rule).map(({ message }) => message);

describe("Flutter: a package in every notation", () => {
  const app = (dependency: string, more: Record<string, string> = {}) => ({
    "pubspec.yaml": `name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n${dependency}`,
    "android/settings.gradle": "include ':app'\n",
    "android/app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.crewboard'\n    minSdk 24\n  }\n}\n",
    ...more,
  });
  it.each([
    ["a caret", "  gull: ^2.0.0\n", "gull ^2.0.0 - registry"],
    ["quoted", '  gull: ">=2.0.0 <3.0.0"\n', "gull >=2.0.0 <3.0.0 - registry"],
    ["any", "  gull: any\n", "gull any - registry"],
    ["nothing", "  gull:\n", "gull - - registry"],
    ["a hosted table", "  gull:\n    hosted: https://pub.example\n    version: ^2.0.0\n", "gull ^2.0.0 - registry"],
    ["Git by address", "  gull:\n    git: https://git.gull.example/gull.git\n", "gull none - git"],
    ["Git with a tag", "  gull:\n    git:\n      url: https://git.gull.example/gull.git\n      ref: v2.0.0\n", "gull v2.0.0 - git"],
    ["a path", "  gull:\n    path: ../gull\n", "gull ../gull - path"],
    ["Windows line ends", "  gull: ^2.0.0\r\n", "gull ^2.0.0 - registry"],
    ["a comment behind it", "  gull: ^2.0.0 # since the new login\n", "gull ^2.0.0 - registry"],
  ])("%s", (_, dependency, expected) => {
    const found = of(app(dependency));
    expect(found.length).toBeGreaterThan(0);
    const [name, , , route] = [expected.split(" ")[0], 0, 0, expected.split(" ").at(-1)];
    expect(found[0]?.startsWith(`${name ?? ""} `)).toBe(true);
    expect(found[0]?.endsWith(` ${route ?? ""}`)).toBe(true);
    for (const part of expected.split(" ").slice(1, -2)) expect(found[0]).toContain(part === "none" ? "" : part);
  });

  it("an override wins over the declaration", () => {
    const files = app("  gull: ^1.0.0\n\ndependency_overrides:\n  gull: 2.1.0\n", {
      "pubspec.lock":
        'packages:\n  gull:\n    dependency: "direct overridden"\n    description:\n      name: gull\n      url: "https://pub.example"\n    source: hosted\n    version: "2.1.0"\n',
    });
    expect(of(files)[0]).toContain("2.1.0");
    expect(surveyOf(files).apps).toHaveLength(1);
  });

  it("an override that the lock follows is no stale lock", async () => {
    const files = app("  gull: ^1.0.0\n\ndependency_overrides:\n  gull: 2.1.0\n", {
      "pubspec.lock":
        'packages:\n  gull:\n    dependency: "direct overridden"\n    description:\n      name: gull\n      url: "https://pub.example"\n    source: hosted\n    version: "2.1.0"\n',
    });
    expect(await told(files, "version/lock-stale")).toEqual([]);
  });

  it("dev dependencies are for tests", () => {
    const { dependencies } = appOf(app("\ndev_dependencies:\n  gull_test: ^1.0.0\n"));
    expect(dependencies.filter(({ name, test }) => name === "gull_test" && !test)).toEqual([]);
  });
});

describe("Cordova: a plugin in every notation", () => {
  const app = (config: string, more: Record<string, string> = {}) => ({
    "config.xml": `<?xml version="1.0" encoding="utf-8"?>\n<widget id="example.maresia.quayside" xmlns="http://www.w3.org/ns/widgets" xmlns:cdv="http://cordova.apache.org/ns/1.0">\n    <name>Quayside</name>\n    <engine name="android" spec="13.0.0" />\n${config}</widget>\n`,
    "www/index.html": "<html></html>\n",
    ...more,
  });
  it.each([
    ["a version", '    <plugin name="cordova-plugin-gull" spec="2.0.0" />\n', "2.0.0", "registry"],
    ["a caret", '    <plugin name="cordova-plugin-gull" spec="^2.0.0" />\n', "^2.0.0", "registry"],
    ["a tilde", '    <plugin name="cordova-plugin-gull" spec="~2.0.0" />\n', "~2.0.0", "registry"],
    ["the old attribute", '    <plugin name="cordova-plugin-gull" version="2.0.0" />\n', "2.0.0", "registry"],
    ["Git with a tag", '    <plugin name="cordova-plugin-gull" spec="https://git.gull.example/cordova.git#v2.0.0" />\n', "v2.0.0", "git"],
    ["a folder", '    <plugin name="cordova-plugin-gull" spec="file:../gull" />\n', "../gull", "path"],
    [
      "inside a platform",
      '    <platform name="android">\n        <plugin name="cordova-plugin-gull" spec="2.0.0" />\n    </platform>\n',
      "",
      "",
    ],
  ])("%s", (_, config, version, route) => {
    const { dependencies } = appOf(app(config));
    const plugin = dependencies.find(({ name }) => name === "cordova-plugin-gull");
    if (route === "") return expect(surveyOf(app(config)).apps).toHaveLength(1);
    expect(plugin?.route).toBe(route);
    expect(`${plugin?.declared ? shown(plugin.declared) : ""} ${plugin?.reference?.text ?? ""}`).toContain(version);
  });

  it("package.json's section counts as the configuration does", () => {
    const files = app("", {
      "package.json": JSON.stringify({
        name: "quayside",
        cordova: { platforms: ["android"], plugins: { "cordova-plugin-gull": { GULL_KEY: "" } } },
        devDependencies: { "cordova-plugin-gull": "^2.0.0", "cordova-android": "^13.0.0" },
      }),
    });
    expect(of(files).some((text) => text.startsWith("cordova-plugin-gull ^2.0.0"))).toBe(true);
  });

  it.each([
    ["below the root", "android-minSdkVersion", "26"],
    ["any case", "Android-MinSdkVersion", "26"],
  ])("a preference for a level: %s", (_, name, value) => {
    expect(shown(appOf(app(`    <preference name="${name}" value="${value}" />\n`)).android?.effective.minSdk)).toBe("26");
  });

  it("a preference inside the platform wins for it", () => {
    const files = app(
      '    <preference name="android-minSdkVersion" value="22" />\n    <platform name="android">\n        <preference name="android-minSdkVersion" value="26" />\n    </platform>\n',
    );
    expect(shown(appOf(files).android?.effective.minSdk)).toBe("26");
  });
});

describe("Capacitor: a configuration in every form", () => {
  const native = {
    "package.json": JSON.stringify({
      name: "kiosk",
      dependencies: { "@capacitor/core": "7.2.0", "@capacitor/android": "7.2.0", "@gull/capacitor": "2.0.0" },
    }),
    "android/settings.gradle": "include ':app'\n",
    "android/app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.kiosk'\n    minSdk 24\n  }\n}\n",
  };
  it.each([
    ["JSON", { "capacitor.config.json": '{ "appId": "example.maresia.kiosk", "appName": "Kiosk", "webDir": "www" }\n' }],
    [
      "TypeScript",
      {
        "capacitor.config.ts":
          "import type { CapacitorConfig } from '@capacitor/cli';\n\nconst config: CapacitorConfig = {\n  appId: 'example.maresia.kiosk',\n  appName: 'Kiosk',\n  webDir: 'www',\n};\n\nexport default config;\n",
      },
    ],
    ["JavaScript", { "capacitor.config.js": "module.exports = { appId: 'example.maresia.kiosk', appName: 'Kiosk' };\n" }],
    [
      "TypeScript with satisfies",
      { "capacitor.config.ts": "export default { appId: 'example.maresia.kiosk', appName: 'Kiosk' } satisfies object;\n" },
    ],
    [
      "TypeScript with a choice by environment",
      {
        "capacitor.config.ts":
          "const dev = process.env.DEV === '1';\nexport default { appId: dev ? 'example.maresia.kiosk.dev' : 'example.maresia.kiosk', appName: 'Kiosk' };\n",
      },
    ],
  ])("%s", (_, config) => {
    const app = appOf({ ...native, ...config });
    expect(app.kind).toBe("capacitor");
    expect(app.dependencies.map(({ name }) => name)).toContain("@gull/capacitor");
    expect(app.android?.ids.map(({ value }) => shown(value))).toEqual(["example.maresia.kiosk"]);
  });

  it("half a configuration is told, and the app is still found", async () => {
    const files = { ...native, "capacitor.config.ts": "export default {\n  appId: 'example.maresia.kiosk',\n" };
    expect(appOf(files).kind).toBe("capacitor");
    expect(await told(files, "project/unreadable")).toHaveLength(1);
  });
});

describe("Expo: a configuration in every form", () => {
  const base = (config: Record<string, string>, dependencies: Record<string, string> = {}) => ({
    "package.json": JSON.stringify({ name: "pier", dependencies: { expo: "~52.0.0", "react-native": "0.76.0", ...dependencies } }),
    ...config,
  });
  const expo =
    '{ "name": "Pier", "ios": { "bundleIdentifier": "example.maresia.pier" }, "android": { "package": "example.maresia.pier" } }';
  it.each([
    ["app.json", { "app.json": `{ "expo": ${expo} }\n` }],
    ["app.json without the outer key", { "app.json": `${expo}\n` }],
    ["app.config.json", { "app.config.json": `{ "expo": ${expo} }\n` }],
    ["app.config.js", { "app.config.js": `module.exports = { expo: ${expo} };\n` }],
    [
      "app.config.js, a function of the configuration",
      { "app.config.js": `module.exports = ({ config }) => ({ ...config, ...${expo} });\n` },
    ],
    [
      "app.config.ts",
      { "app.config.ts": `import { ExpoConfig } from 'expo/config';\nconst config: ExpoConfig = ${expo};\nexport default config;\n` },
    ],
    ["app.config.ts beside app.json", { "app.json": `{ "expo": ${expo} }\n`, "app.config.ts": "export default ({ config }) => config;\n" }],
  ])("%s", (_, config) => {
    const app = appOf(base(config));
    expect(app.kind).toBe("expo");
    const ids = [...(app.android?.ids ?? []), ...(app.ios?.ids ?? [])].map(({ value }) => shown(value));
    for (const id of ids) expect(id).toMatch(/^example\.maresia\.pier$|^unknown/);
    expect(ids.length).toBeGreaterThan(0);
  });

  it("plugins with and without options are read", () => {
    const files = base({
      "app.json": `{ "expo": { "name": "Pier", "android": { "package": "example.maresia.pier" }, "plugins": ["gull-plugin", ["tide-plugin", { "mode": "full" }], "./plugins/local.js"] } }\n`,
    });
    expect(appOf(files).configPlugins.map(({ name }) => name)).toEqual(expect.arrayContaining(["gull-plugin", "tide-plugin"]));
  });
});

describe("NuGet: a version in every notation", () => {
  const project = (reference: string, more: Record<string, string> = {}): Record<string, string> => ({
    "Lock.csproj": `<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup>\n    <TargetFrameworks>net8.0-android;net8.0-ios</TargetFrameworks>\n    <OutputType>Exe</OutputType>\n    <ApplicationId>example.maresia.lock</ApplicationId>\n    <GullVersion>2.0.0</GullVersion>\n  </PropertyGroup>\n  <ItemGroup>\n    ${reference}\n  </ItemGroup>\n</Project>\n`,
    ...more,
  });
  it.each([
    ["an attribute", '<PackageReference Include="Gull" Version="2.0.0" />', "2.0.0", false],
    ["an element", '<PackageReference Include="Gull"><Version>2.0.0</Version></PackageReference>', "2.0.0", false],
    ["a property", '<PackageReference Include="Gull" Version="$(GullVersion)" />', "2.0.0", false],
    ["a range", '<PackageReference Include="Gull" Version="[2.0.0,3.0.0)" />', "[2.0.0,3.0.0)", false],
    ["exactly one", '<PackageReference Include="Gull" Version="[2.0.0]" />', "[2.0.0]", false],
    ["a floating one", '<PackageReference Include="Gull" Version="2.*" />', "2.*", true],
    ["any", '<PackageReference Include="Gull" Version="*" />', "*", true],
    ["a floating pre-release", '<PackageReference Include="Gull" Version="2.0.0-*" />', "2.0.0-*", true],
  ])("%s", async (_, reference, version, floats) => {
    const files = project(reference);
    const gull = appOf(files).dependencies.find(({ name }) => name === "Gull");
    expect(gull && shown(gull.declared)).toBe(version);
    expect((await told(files, "version/floating")).length > 0).toBe(floats);
  });

  it("central versions reach every project below, and an override wins", () => {
    const files = project('<PackageReference Include="Gull" />', {
      "Directory.Packages.props":
        '<Project>\n  <PropertyGroup>\n    <ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally>\n  </PropertyGroup>\n  <ItemGroup>\n    <PackageVersion Include="Gull" Version="2.4.0" />\n  </ItemGroup>\n</Project>\n',
    });
    expect(shown(appOf(files).dependencies.find(({ name }) => name === "Gull")?.declared)).toBe("2.4.0");
    const overridden = project('<PackageReference Include="Gull" VersionOverride="2.5.0" />', {
      "Directory.Packages.props": files["Directory.Packages.props"] ?? "",
    });
    expect(shown(appOf(overridden).dependencies.find(({ name }) => name === "Gull")?.declared)).toBe("2.5.0");
  });
});

describe("Unity: a package in every notation", () => {
  const project = (version: string) => ({
    "Assets/Scenes/Quay.unity": "%YAML 1.1\n",
    "ProjectSettings/ProjectVersion.txt": "m_EditorVersion: 2022.3.45f1\n",
    "ProjectSettings/ProjectSettings.asset":
      "%YAML 1.1\n--- !u!129 &1\nPlayerSettings:\n  productName: Tidegame\n  applicationIdentifier:\n    Android: example.maresia.tidegame\n  AndroidMinSdkVersion: 24\n  AndroidTargetSdkVersion: 35\n",
    "Packages/manifest.json": JSON.stringify({ dependencies: { "example.gull.sdk": version } }),
  });
  it.each([
    ["2.0.0", "registry", ""],
    ["2.0.0-preview.3", "registry", ""],
    ["https://git.gull.example/unity.git#2.0.0", "git", "2.0.0"],
    ["https://git.gull.example/unity.git?path=/sdk#main", "git", "main"],
    ["git@git.gull.example:gull/unity.git", "git", ""],
    ["file:../gull", "path", ""],
    ["file:../gull-2.0.0.tgz", "path", ""],
  ])("%s", (version, route, reference) => {
    const gull = appOf(project(version)).dependencies.find(({ name }) => name === "example.gull.sdk");
    expect(gull?.route).toBe(route);
    if (reference !== "") expect(gull?.reference?.text).toBe(reference);
  });
});

describe("fingerprints", () => {
  const files = (): Record<string, string> => ({
    "settings.gradle": "include ':app'\n",
    "build.gradle": "allprojects { repositories { google(); jcenter() } }\n",
    "app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'com.example.pilot'\n    minSdk 24\n    targetSdk 36\n  }\n}\ndependencies {\n  implementation 'example.gull:gull-android:2.+'\n}\n",
    "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample({ id: "com.example.pilot", target: "14.0" }),
    "ios/Podfile": "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK'\nend\n",
  });
  const prints = async (changed: Record<string, string>) =>
    (await reportOf(changed)).findings.map(({ rule, fingerprint }) => `${rule} ${fingerprint}`).sort();

  it("stay when lines move, comments come and whole apps are renamed", async () => {
    const before = await prints(files());
    expect(before.length).toBeGreaterThan(4);
    const moved = Object.fromEntries(
      Object.entries(files()).map(([file, text]) => [
        file,
        file.endsWith("pbxproj") ? text : file.endsWith("Podfile") ? `# a comment\n\n${text}` : `// a comment\n\n${text}`,
      ]),
    );
    expect(await prints(moved)).toEqual(before);
    const windows = Object.fromEntries(Object.entries(files()).map(([file, text]) => [file, text.replaceAll("\n", "\r\n")]));
    expect(await prints(windows)).toEqual(before);
  });

  it("stay the same when the value that is wrong is another wrong one", async () => {
    const before = await prints(files());
    const changed = files();
    changed["app/build.gradle"] = (changed["app/build.gradle"] ?? "").replace("targetSdk 36", "targetSdk 37").replace("2.+", "3.+");
    expect(await prints(changed)).toEqual(before);
  });

  it("are all different within a report", async () => {
    const all = await prints(files());
    expect(new Set(all).size).toBe(all.length);
  });
});
