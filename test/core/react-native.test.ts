import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { reactNativeExample, xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, surveyOf } from "../helpers/memory.js";

const library = (
  folder: string,
  gradle: string,
  podspec = "Pod::Spec.new do |s|\n  s.name = 'RNChart'\n  s.platforms = { :ios => '15.0' }\nend\n",
) => ({
  [`${folder}/package.json`]: '{ "name": "chart-deck", "version": "2.0.1" }',
  [`${folder}/android/build.gradle`]: gradle,
  [`${folder}/RNChart.podspec`]: podspec,
});
const plain = "android { defaultConfig { minSdkVersion 26 } }";
const ios = { "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample() };
const requiredLevels = (files: Record<string, string>) =>
  appOf(files).requiredLevels.map(({ level, by, value }) => `${by} ${level} ${shown(value)}`);
const sidesOfChart = (files: Record<string, string>) =>
  appOf(files)
    .dependencies.filter(({ name }) => name === "chart-deck")
    .map(({ side }) => side);

describe("packages with native code", () => {
  it("are recognised by what they ship", () => {
    expect(
      sidesOfChart({ ...reactNativeExample({ "chart-deck": "^2.0.0" }), ...ios, ...library("node_modules/chart-deck", plain) }),
    ).toEqual(["android", "ios"]);
    expect(
      sidesOfChart({ ...reactNativeExample({ "chart-deck": "^2.0.0" }), ...ios, "node_modules/chart-deck/package.json": "{}" }),
    ).toEqual(["shared"]);
  });

  it("are found when hoisted to the root of a workspace", () => {
    const app = Object.fromEntries(
      Object.entries({ ...reactNativeExample({ "chart-deck": "^2.0.0" }), ...ios }).map(([file, text]) => [`apps/deckpass/${file}`, text]),
    );
    const files = {
      "package.json": '{ "workspaces": ["apps/*"], "dependencies": {} }',
      ...app,
      ...library("node_modules/chart-deck", plain),
    };
    expect(sidesOfChart(files)).toEqual(["android", "ios"]);
    expect(surveyOf(files).apps.map(({ name, path }) => `${name} ${path}`)).toEqual(["deckpass apps/deckpass"]);
  });

  it("that only another package of the workspace asks for are not linked, unless the app's own files say so", async () => {
    const inApps = (more: Record<string, string>) =>
      Object.fromEntries(
        Object.entries({ ...reactNativeExample({ "@maresia/charts": "*" }), ...ios, ...more }).map(([file, text]) => [
          `apps/deckpass/${file}`,
          text,
        ]),
      );
    const files = (more: Record<string, string> = {}, declared = "dependencies") => ({
      "package.json": '{ "workspaces": ["apps/*", "packages/*"] }',
      ...inApps(more),
      "packages/charts/package.json": `{ "name": "@maresia/charts", "version": "1.0.0", "main": "index.js", "${declared}": { "chart-deck": "^2.0.0" } }`,
      "packages/charts/index.js": 'export { Chart } from "chart-deck";\n',
      ...library("node_modules/chart-deck", plain),
    });
    const told = async (all: Record<string, string>) =>
      (await reportOf(all)).findings.flatMap(({ rule, side, message }) => (rule === "native/not-linked" ? `${side}: ${message}` : []));
    const says = "and only @maresia/charts asks for it: the framework links what deckpass lists itself";
    expect(await told(files())).toEqual([
      `android: chart-deck has native code for Android, ${says}`,
      `ios: chart-deck has native code for iOS, ${says}`,
    ]);
    expect(await told(files({}, "devDependencies"))).toEqual([]);
    for (const config of [
      "module.exports = { dependencies: { 'chart-deck': { root: '../../node_modules/chart-deck' } } };",
      "const list = require('./linked');\nmodule.exports = { dependencies: { ...list } };",
    ])
      expect(await told(files({ "react-native.config.js": config }))).toEqual([]);
  });

  it("respect settings that switch linking off, in the app and in the package", () => {
    const files = { ...reactNativeExample({ "chart-deck": "^2.0.0" }), ...ios, ...library("node_modules/chart-deck", plain) };
    expect(
      sidesOfChart({
        ...files,
        "react-native.config.js": "module.exports = { dependencies: { 'chart-deck': { platforms: { ios: null } } } };",
      }),
    ).toEqual(["android"]);
    expect(
      sidesOfChart({
        ...files,
        "node_modules/chart-deck/react-native.config.js":
          "const config = { dependency: { platforms: { android: null } } };\nmodule.exports = config;",
      }),
    ).toEqual(["ios"]);
  });
});

describe("levels that packages ask for", () => {
  const with_ = (gradle: string, root = "") => {
    const files: Record<string, string> = {
      ...reactNativeExample({ "chart-deck": "^2.0.0" }),
      ...library("node_modules/chart-deck", gradle),
      "node_modules/chart-deck/android/gradle.properties": "Chart_minSdkVersion=26\n",
    };
    // The framework's own levels are known by its release.
    return requiredLevels({ ...files, "android/build.gradle": `${root}\n${files["android/build.gradle"] ?? ""}` }).filter(
      (text) => !text.startsWith("react-native "),
    );
  };
  it.each([
    ["a number is a demand", plain, "", ["chart-deck minSdk 26"]],
    [
      "a default for an app that says nothing is none",
      "def get(p, d) { rootProject.ext.has(p) ? rootProject.ext.get(p) : d }\nandroid { defaultConfig { minSdkVersion get('minSdkVersion', 26) } }",
      "",
      [],
    ],
    [
      "a value taken from the app is none",
      "def get = { p, d -> rootProject.ext.has(p) ? rootProject.ext.get(p) : d }\nandroid { defaultConfig { minSdkVersion get('minSdkVersion', 26) } }",
      "ext.minSdkVersion = 21",
      [],
    ],
    [
      "a default in the package's own properties is none",
      "def get(p) { return rootProject.ext.has(p) ? rootProject.ext.get(p) : (project.properties['Chart_' + p]).toInteger() }\nandroid { defaultConfig { minSdkVersion get('minSdkVersion') } }",
      "",
      [],
    ],
    [
      "a maximum with a number of its own is a demand",
      "android { defaultConfig { minSdkVersion Math.max(rootProject.ext.minSdkVersion as int, 26) } }",
      "ext.minSdkVersion = 21",
      ["chart-deck minSdk 26"],
    ],
    [
      "a maximum that the app meets is none",
      "android { defaultConfig { minSdkVersion Math.max(rootProject.ext.minSdkVersion as int, 26) } }",
      "ext.minSdkVersion = 28",
      [],
    ],
  ])("%s", (_, gradle, root, expected) => {
    expect(with_(gradle, root)).toEqual(expected);
  });

  it.each([
    ["s.platform = :ios, '15.0'", "15.0"],
    ["s.ios.deployment_target = '15.0'", "15.0"],
    ["s.platforms = { ios: '15.0', osx: '14' }", "15.0"],
    ["s.platforms = { :ios => min_ios_version_supported }", "16.4"],
    ["low = '15.' + '0'\n  s.platforms = { :ios => low }", "15.0"],
    ["s.platform = :ios", undefined],
  ])("podspec %s", (line, expected) => {
    const helpers = {
      "node_modules/react-native/package.json": '{ "version": "0.80.0" }',
      "node_modules/react-native/scripts/react_native_pods.rb":
        "def min_ios_version_supported\n  return Helpers::Constants.min_ios_version_supported\nend\n",
      "node_modules/react-native/scripts/cocoapods/helpers.rb":
        "module Helpers\n  class Constants\n    def self.min_ios_version_supported\n      return '16.4'\n    end\n  end\nend\n",
    };
    const files = {
      ...reactNativeExample({ "chart-deck": "^2.0.0" }),
      ...ios,
      ...helpers,
      ...library("node_modules/chart-deck", "", `Pod::Spec.new do |s|\n  s.name = 'RNChart'\n  ${line}\nend\n`),
    };
    expect(requiredLevels(files).filter((text) => text.startsWith("chart-deck"))).toEqual(
      expected === undefined ? [] : [`chart-deck iosTarget ${expected}`],
    );
    expect(requiredLevels(files)).toContain("react-native iosTarget 16.4");
  });

  it("without an installed framework its values are unknown, with that reason", async () => {
    const app = reactNativeExample({});
    const files = {
      ...app,
      "android/app/build.gradle": String(app["android/app/build.gradle"]).replace(
        "android {",
        'android {\n  namespace "example.maresia.deckpass"',
      ),
      ...ios,
      "ios/Podfile":
        "require_relative '../node_modules/react-native/scripts/react_native_pods'\nplatform :ios, min_ios_version_supported\ntarget 'Pilot' do\n  use_react_native!\n  post_install { |installer| react_native_post_install(installer) }\nend\n",
    };
    files["ios/Pilot.xcodeproj/project.pbxproj"] = String(ios["ios/Pilot.xcodeproj/project.pbxproj"]).replaceAll("15.0", "15.1");
    const { blindSpots, findings } = await reportOf(files);
    expect(blindSpots.map(({ what, why }) => `${what}: ${reasonText(why)}`)).toContain(
      "the Podfile's platform: React Native is not installed: its scripts and catalogs cannot be read",
    );
    expect(findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  });
});

describe("lock files of JavaScript packages", () => {
  const files = reactNativeExample({ "chart-deck": "^2.0.0" });
  const stale = async (lock: Record<string, string>) =>
    (await reportOf({ ...files, ...lock })).findings.filter(({ rule }) => rule.startsWith("version/lock")).map(({ message }) => message);
  const npm = (range: string, version: string) => ({
    "package-lock.json": JSON.stringify(
      {
        lockfileVersion: 3,
        packages: {
          "": { dependencies: { "react-native": "0.80.0", "chart-deck": range } },
          "node_modules/react-native": { version: "0.80.0" },
          "node_modules/chart-deck": { version },
        },
      },
      undefined,
      1,
    ),
  });
  const yarn = (range: string, version: string) => ({
    "yarn.lock": `# yarn lockfile v1\n\nchart-deck@${range}:\n  version "${version}"\n\nreact-native@0.80.0:\n  version "0.80.0"\n`,
  });
  const berry = (range: string, version: string) => ({
    "yarn.lock": `__metadata:\n  version: 8\n\n"chart-deck@npm:${range}":\n  version: ${version}\n\n"react-native@npm:0.80.0":\n  version: 0.80.0\n`,
  });
  const pnpm = (range: string, version: string) => ({
    "pnpm-lock.yaml": `lockfileVersion: '9.0'\nimporters:\n  .:\n    dependencies:\n      chart-deck:\n        specifier: ${range}\n        version: ${version}(react@19.0.0)\n      react-native:\n        specifier: 0.80.0\n        version: 0.80.0\n`,
  });

  it.each([
    ["npm", npm],
    ["Yarn", yarn],
    ["later Yarn", berry],
    ["pnpm", pnpm],
  ] as const)("%s: a lock that fits is fine, one for another range or version is stale", async (_, lock) => {
    expect(await stale(lock("^2.0.0", "2.3.1"))).toEqual([]);
    expect(await stale(lock("^2.0.0", "3.0.0"))).toEqual(["chart-deck is locked at 3.0.0, outside the declared ^2.0.0"]);
    expect(await stale(lock("^1.0.0", "1.9.0"))).toHaveLength(1);
  });

  it("reports native code that is installed in two versions", async () => {
    const lock = JSON.parse(npm("^2.0.0", "2.0.1")["package-lock.json"]) as { packages: Record<string, unknown> };
    lock.packages["node_modules/other/node_modules/chart-deck"] = { version: "1.0.0" };
    const { findings } = await reportOf({
      ...files,
      ...library("node_modules/chart-deck", plain),
      "package-lock.json": JSON.stringify(lock, undefined, 1),
    });
    expect(findings.map(({ rule, message }) => `${rule} ${message}`)).toContain(
      "version/conflict chart-deck has native code and is installed in 2 versions: 2.0.1, 1.0.0",
    );
  });
});
