import { describe, expect, it } from "vitest";
import { androidBlock, androidExample, iosExample, quaymapIos, xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, textAtPlace } from "../helpers/memory.js";

/** Native notations, a case a line: what is written, and what must come out, at the place where it is written. */

const text = (value: Parameters<typeof shown>[0]) => shown(value).replace(/^unknown: .*/, "?");
const told = async (files: Record<string, string>, rule: string) =>
  (await reportOf(files)).findings.filter((finding) => finding.rule === rule).map(({ message }) => message);

describe("a level in every notation of a Groovy script", () => {
  const app = (line: string, before = "", more: Record<string, string> = {}) =>
    androidExample(
      `${before}android {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    ${line}\n  }\n}\n`,
      more,
    );
  it.each([
    ["a number", "minSdk 24", "", "24"],
    ["an assignment", "minSdk = 24", "", "24"],
    ["the old name", "minSdkVersion 24", "", "24"],
    ["the old name with brackets", "minSdkVersion(24)", "", "24"],
    ["a text", "minSdkVersion '24'", "", "24"],
    ["a local variable", "minSdk least", "def least = 24\n", "24"],
    ["an extra property", "minSdk ext.least", "ext.least = 24\n", "24"],
    ["an extra property of the root project", "minSdk rootProject.ext.least", "", "24"],
    ["an extra property, inherited", "minSdk least", "", "24"],
    ["a sum", "minSdk 20 + 4", "", "24"],
    ["a choice by a known value", "minSdk true ? 24 : 21", "", "24"],
    ["a text turned into a number", "minSdk '24'.toInteger()", "", "24"],
    [
      "a look-up with a default",
      "minSdk safeExtGet('nothing', 24)",
      "def safeExtGet(prop, fallback) {\n  rootProject.ext.has(prop) ? rootProject.ext.get(prop) : fallback\n}\n",
      "24",
    ],
    [
      "a look-up that finds",
      "minSdk safeExtGet('least', 21)",
      "def safeExtGet(prop, fallback) {\n  rootProject.ext.has(prop) ? rootProject.ext.get(prop) : fallback\n}\n",
      "24",
    ],
    ["a property of the project", "minSdk project.property('leastOfFile').toInteger()", "", "24"],
    ["a property with findProperty", "minSdk findProperty('leastOfFile') as int", "", "24"],
    ["the environment", "minSdk System.getenv('LEAST').toInteger()", "", "?"],
    ["a name that nobody defines", "minSdk nowhere", "", "?"],
  ])("%s", (_, line, before, expected) => {
    const files = app(line, before, {
      "build.gradle": "ext {\n  least = 24\n}\nallprojects { repositories { google() } }\n",
      "gradle.properties": "leastOfFile=24\n",
    });
    const value = appOf(files).android?.effective.minSdk;
    expect(text(value)).toBe(expected);
    if (value?.kind === "known" && /^["']?24/.test(textAtPlace(files, value.place)))
      expect(textAtPlace(files, value.place)).toMatch(/^["']?24/);
  });
});

describe("a level in every notation of a Kotlin script", () => {
  const app = (line: string, before = "") => ({
    "settings.gradle.kts": 'include(":app")\n',
    "build.gradle.kts": 'val least by extra(24)\nextra["other"] = 24\n',
    "gradle.properties": "leastOfFile=24\n",
    "gradle/libs.versions.toml": '[versions]\nleast = "24"\n',
    "app/build.gradle.kts": `plugins {\n  id("com.android.application")\n}\n${before}android {\n  compileSdk = 35\n  defaultConfig {\n    applicationId = "example.maresia.pilot"\n    ${line}\n  }\n}\n`,
  });
  it.each([
    ["a number", "minSdk = 24", "", "24"],
    ["a call of the old name", "minSdkVersion(24)", "", "24"],
    ["a constant of the script", "minSdk = LEAST", "val LEAST = 24\n", "24"],
    ["an extra property of the root", 'minSdk = rootProject.extra["other"] as Int', "", "24"],
    ["the version catalog", "minSdk = libs.versions.least.get().toInt()", "", "24"],
    ["a property of the project", 'minSdk = (property("leastOfFile") as String).toInt()', "", "24"],
    ["a provider", 'minSdk = providers.gradleProperty("leastOfFile").get().toInt()', "", "24"],
    ["a choice with a default", 'minSdk = (findProperty("nothing") as String?)?.toInt() ?: 24', "", "24"],
    ["a name that nobody defines", "minSdk = Nowhere.LEAST", "", "?"],
  ])("%s", (_, line, before, expected) => {
    expect(text(appOf(app(line, before)).android?.effective.minSdk)).toBe(expected);
  });
});

describe("a pod in every notation", () => {
  const app = (body: string, more: Record<string, string> = {}) =>
    iosExample({}, { Podfile: `platform :ios, '15.0'\n${body.includes("target '") ? body : `target 'Pilot' do\n${body}end\n`}`, ...more });
  const pods = (files: Record<string, string>) =>
    appOf(files).dependencies.map(
      ({ name, declared, reference, route }) => `${name} ${declared ? shown(declared) : (reference?.text ?? "-")} ${route}`,
    );
  it.each([
    ["a requirement", "  pod 'Gull', '~> 2.0'\n", "Gull ~> 2.0 registry"],
    ["several", "  pod 'Gull', '>= 2.0', '< 3.0'\n", "Gull >= 2.0, < 3.0 registry"],
    ["none", "  pod 'Gull'\n", "Gull - registry"],
    ["brackets", "  pod('Gull', '2.0.0')\n", "Gull 2.0.0 registry"],
    ["double quotes", '  pod "Gull", "2.0.0"\n', "Gull 2.0.0 registry"],
    ["a part of a pod", "  pod 'Gull/Core', '2.0.0'\n", "Gull/Core 2.0.0 registry"],
    ["a variable", "  version = '2.0.0'\n  pod 'Gull', version\n", "Gull 2.0.0 registry"],
    ["interpolation", "  major = '2'\n  pod 'Gull', \"~> #{major}.0\"\n", "Gull ~> 2.0 registry"],
    ["a tag", "  pod 'Gull', :git => 'https://git.gull.example/ios.git', :tag => 'v2.0.0'\n", "Gull v2.0.0 git"],
    ["a branch, new notation", "  pod 'Gull', git: 'https://git.gull.example/ios.git', branch: 'main'\n", "Gull main git"],
    ["a path", "  pod 'Gull', :path => 'Gull'\n", "Gull Gull path"],
    ["inside a method", "def common\n  pod 'Gull', '2.0.0'\nend\ntarget 'Pilot' do\n  common\nend\n", "Gull 2.0.0 registry"],
    [
      "inside an abstract target",
      "abstract_target 'All' do\n  pod 'Gull', '2.0.0'\n  target 'Pilot' do\n  end\nend\n",
      "Gull 2.0.0 registry",
    ],
    ["out of a list", "target 'Pilot' do\n  %w[Gull].each do |name|\n    pod name, '2.0.0'\n  end\nend\n", "Gull 2.0.0 registry"],
    ["with a comment behind", "  pod 'Gull', '2.0.0' # pinned\n", "Gull 2.0.0 registry"],
    ["over two lines", "  pod 'Gull',\n      '2.0.0'\n", "Gull 2.0.0 registry"],
  ])("%s", (_, body, expected) => {
    expect(pods(app(body))).toEqual([expected]);
  });

  it.each([
    ["in a comment", "  # pod 'Gull', '2.0.0'\n"],
    ["in a block comment", "=begin\n  pod 'Gull', '2.0.0'\n=end\n"],
    ["after the end of the script", "target 'Pilot' do\nend\n__END__\ntarget 'Pilot' do\n  pod 'Gull'\nend\n"],
  ])("not %s", (_, body) => {
    expect(pods(app(body))).toEqual([]);
  });
});

describe("locks of JavaScript packages", () => {
  const app = (specifier: string, more: Record<string, string>) => ({
    "package.json": JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", "gull-native": specifier } }),
    "android/settings.gradle": "include ':app'\n",
    "android/app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock()}`,
    "node_modules/gull-native/package.json": '{ "name": "gull-native", "version": "2.1.0" }',
    "node_modules/gull-native/android/build.gradle": "apply plugin: 'com.android.library'\n",
    ...more,
  });
  const locked = (files: Record<string, string>) => appOf(files).dependencies.find(({ name }) => name === "gull-native")?.locked;
  it.each([
    [
      "npm, form 3",
      "^2.0.0",
      {
        "package-lock.json": JSON.stringify({
          lockfileVersion: 3,
          packages: {
            "": { dependencies: { "react-native": "0.80.0", "gull-native": "^2.0.0" } },
            "node_modules/gull-native": { version: "2.1.0" },
            "node_modules/react-native": { version: "0.80.0" },
          },
        }),
      },
    ],
    [
      "npm, form 1",
      "^2.0.0",
      {
        "package-lock.json": JSON.stringify({
          lockfileVersion: 1,
          dependencies: { "gull-native": { version: "2.1.0" }, "react-native": { version: "0.80.0" } },
        }),
      },
    ],
    [
      "yarn, first form",
      "^2.0.0",
      {
        "yarn.lock":
          '# yarn lockfile v1\n\n\ngull-native@^2.0.0:\n  version "2.1.0"\n  resolved "https://packages.example/gull.tgz"\n\nreact-native@0.80.0:\n  version "0.80.0"\n',
      },
    ],
    [
      "yarn, several requirements",
      "^2.0.0",
      {
        "yarn.lock":
          '# yarn lockfile v1\n\n\ngull-native@^2.0.0, gull-native@^2.1.0:\n  version "2.1.0"\n\nreact-native@0.80.0:\n  version "0.80.0"\n',
      },
    ],
    [
      "yarn, later form",
      "^2.0.0",
      {
        "yarn.lock":
          '__metadata:\n  version: 8\n\n"gull-native@npm:^2.0.0":\n  version: 2.1.0\n  resolution: "gull-native@npm:2.1.0"\n\n"react-native@npm:0.80.0":\n  version: 0.80.0\n  resolution: "react-native@npm:0.80.0"\n',
      },
    ],
    [
      "pnpm",
      "^2.0.0",
      {
        "pnpm-lock.yaml":
          "lockfileVersion: '9.0'\n\nimporters:\n\n  .:\n    dependencies:\n      gull-native:\n        specifier: ^2.0.0\n        version: 2.1.0(react-native@0.80.0)\n      react-native:\n        specifier: 0.80.0\n        version: 0.80.0\n",
      },
    ],
  ])("%s", async (_, specifier, more) => {
    const files = app(specifier, more as unknown as Record<string, string>);
    expect(locked(files)).toBe("2.1.0");
    expect(await told(files, "version/lock-stale")).toEqual([]);
    expect(await told(files, "version/floating")).toEqual([]);
    const apart = app("^3.0.0", more as unknown as Record<string, string>);
    expect((await told(apart, "version/lock-stale")).join()).toContain("gull-native");
  });
});

describe("a deployment target in every place", () => {
  it.each([
    ["the target's setting", { target: "15.1" }, {}, "15.1"],
    ["the project's, where the target says $(inherited)", { target: '"$(inherited)"', projectTarget: "14.0" }, {}, "14.0"],
    ["a variable of the same target", { target: '"$(LEAST)"', settings: "LEAST = 15.4;" }, {}, "15.4"],
    ["a variable that nobody sets", { target: '"$(NOWHERE)"' }, {}, "?"],
  ])("%s", (_, xcode, more, expected) => {
    const files = iosExample(xcode, more);
    expect(text(appOf(files).ios?.effective.iosTarget)).toBe(expected);
  });

  it.each([
    ["a plain one", "IPHONEOS_DEPLOYMENT_TARGET = 15.2\n", "15.2"],
    ["with a comment", "IPHONEOS_DEPLOYMENT_TARGET = 15.2 // since spring\n", "15.2"],
    ["out of an included file", '#include "Base.xcconfig"\n', "15.3"],
    ["an included file that is optional and not there", '#include? "Nowhere.xcconfig"\nIPHONEOS_DEPLOYMENT_TARGET = 15.2\n', "15.2"],
    ["the last one of two", "IPHONEOS_DEPLOYMENT_TARGET = 14.0\nIPHONEOS_DEPLOYMENT_TARGET = 15.2\n", "15.2"],
  ])("a configuration file: %s", (_, config, expected) => {
    const files = {
      "Pilot.xcodeproj/project.pbxproj": xcodeExample({
        objects: 'X1 = { isa = PBXFileReference; lastKnownFileType = text.xcconfig; path = App.xcconfig; sourceTree = "<group>"; };',
        children: ["X1"],
      })
        .replace("IPHONEOS_DEPLOYMENT_TARGET = 15.0;\n", "")
        .replace("C2 = { isa = XCBuildConfiguration;", "C2 = { isa = XCBuildConfiguration; baseConfigurationReference = X1;"),
      "App.xcconfig": config,
      "Base.xcconfig": "IPHONEOS_DEPLOYMENT_TARGET = 15.3\n",
    };
    expect(text(appOf(files).ios?.effective.iosTarget)).toBe(expected);
  });
});

describe("a property list in every form", () => {
  const entries = "  <key>NSCameraUsageDescription</key>\n  <string>Scans the pass.</string>\n";
  it.each([
    ["XML", quaymapIos(entries)["Pilot/Info.plist"] ?? ""],
    ["XML with Windows line ends and a BOM", `\uFEFF${(quaymapIos(entries)["Pilot/Info.plist"] ?? "").replaceAll("\n", "\r\n")}`],
    [
      "XML with a comment between key and value",
      (quaymapIos(entries)["Pilot/Info.plist"] ?? "").replace(
        "</key>\n  <string>Scans",
        "</key>\n  <!-- required by the store -->\n  <string>Scans",
      ),
    ],
    ["text", '{ CFBundleIdentifier = "$(PRODUCT_BUNDLE_IDENTIFIER)"; NSCameraUsageDescription = "Scans the pass."; }\n'],
  ])("%s", (_, plist) => {
    const app = appOf({ ...quaymapIos(), "Pilot/Info.plist": plist });
    const found = app.entries.find(({ kind, name }) => kind === "purposeText" && name === "NSCameraUsageDescription");
    expect(shown(found?.value)).toBe("Scans the pass.");
    expect(app.ios?.ids.map(({ value }) => shown(value))).toEqual(["example.maresia.pilot"]);
  });
});
