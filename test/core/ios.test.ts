import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, reportOf, shown, surveyOf, textAtPlace } from "../helpers/memory.js";

const project = (options: Parameters<typeof xcodeExample>[0] = {}) => ({ "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(options) });

describe("Xcode projects", () => {
  it("target settings go before the project's, configuration files below each", () => {
    const files = {
      ...project({
        target: '"$(inherited)"',
        projectTarget: "14.0",
        id: '"$(PREFIX).$(TARGET_NAME:lower)"',
        objects: 'X1 = { isa = PBXFileReference; path = Base.xcconfig; sourceTree = "<group>"; };',
        children: ["X1"],
      }),
      "ios/Base.xcconfig": '#include "Common.xcconfig"\nPREFIX = example.maresia\n',
      "ios/Common.xcconfig": "PREFIX = wrong\n",
    };
    files["ios/Pilot.xcodeproj/project.pbxproj"] = files["ios/Pilot.xcodeproj/project.pbxproj"].replace(
      "C2 = { isa = XCBuildConfiguration;",
      "C2 = { isa = XCBuildConfiguration; baseConfigurationReference = X1;",
    );
    const app = appOf(files);
    expect(shown(app.ios?.effective.iosTarget)).toBe("14.0");
    expect(shown(app.ios?.ids[0]?.value)).toBe("example.maresia.pilot");
  });

  it("a setting for devices goes before the plain one; transformations of names work", () => {
    const app = appOf(
      project({
        id: '"example.maresia.$(TARGET_NAME:rfc1034identifier)"',
        settings: '"PRODUCT_BUNDLE_IDENTIFIER[sdk=iphoneos*]" = example.maresia.device;',
      }),
    );
    expect(shown(app.ios?.ids[0]?.value)).toBe("example.maresia.device");
  });

  it("an unknown variable is a blind spot, and names the missing configuration file", async () => {
    const files = project({
      id: '"$(APP_ID)"',
      objects: 'X1 = { isa = PBXFileReference; path = Gone.xcconfig; sourceTree = "<group>"; };',
      children: ["X1"],
    });
    files["ios/Pilot.xcodeproj/project.pbxproj"] = files["ios/Pilot.xcodeproj/project.pbxproj"].replace(
      "C2 = { isa = XCBuildConfiguration;",
      "C2 = { isa = XCBuildConfiguration; baseConfigurationReference = X1;",
    );
    const spots = ["bundle id: APP_ID may come from ios/Gone.xcconfig, which is not there"];
    const { blindSpots, findings } = await reportOf(files);
    expect(blindSpots.map(({ what, why }) => `${what}: ${reasonText(why)}`)).toEqual(spots);
    expect(findings.map(({ message }) => message)).toEqual(["the file Gone.xcconfig is referred to here but is missing"]);
    // What is kept out of the repository is on the machines of those who build.
    const kept = await reportOf({ ...files, "ios/.gitignore": "*.xcconfig\n" });
    expect(kept.blindSpots.map(({ what, why }) => `${what}: ${reasonText(why)}`)).toEqual(spots);
    expect(kept.findings).toEqual([]);
  });

  it("an id written in the property list counts; projects for the Mac are no iOS apps", () => {
    const plist = '<?xml version="1.0"?><plist><dict><key>CFBundleIdentifier</key><string>example.maresia.written</string></dict></plist>';
    expect(shown(appOf({ ...project({ settings: "INFOPLIST_FILE = Info.plist;" }), "ios/Info.plist": plist }).ios?.ids[0]?.value)).toBe(
      "example.maresia.written",
    );
    expect(surveyOf(project({ settings: "SUPPORTED_PLATFORMS = macosx;" })).apps).toEqual([]);
  });
});

const podfile = (text: string) => ({ ...project(), "ios/Podfile": text });
const pods = (text: string, more: Record<string, string> = {}) =>
  appOf({ ...podfile(text), ...more }).dependencies.map(
    ({ name, declared, in: target, route }) => `${target} ${name} ${shown(declared)} ${route}`,
  );

describe("Podfiles", () => {
  it("targets nest, share and repeat; variables and lists are followed", () => {
    const text = `
$version = '4.2.0'
def shared
  pod 'Brinelog', '~> 2.1'
end
abstract_target 'All' do
  platform :ios, '15.0'
  shared
  target 'Pilot' do
    pod "QuaymapSDK", $version
    pod 'Tollbuoy/Core', '>= 3.0', '< 4.0', :inhibit_warnings => true
  end
  target 'PilotTests' do
    inherit! :search_paths
    pod 'Fakes'
  end
end
['Tidewire', 'Moorid'].each do |name|
  pod name, '1.0'
end
pod 'Gull', git: 'https://git.gullpost.example/ios.git', branch: 'main'
pod 'Local', :path => '../Local' if true
`;
    expect(pods(text)).toEqual([
      "All Brinelog ~> 2.1 registry",
      "Pilot QuaymapSDK 4.2.0 registry",
      "Pilot Tollbuoy/Core >= 3.0, < 4.0 registry",
      "PilotTests Fakes none registry",
      " Tidewire 1.0 registry",
      " Moorid 1.0 registry",
      " Gull none git",
      " Local none path",
    ]);
  });

  it("the platform of the nearest target counts; hooks that change deployment targets are seen", () => {
    const app = appOf(
      podfile(
        "platform :ios, '12.0'\ntarget 'Pilot' do\n  platform :ios, '15.1'\nend\npost_install do |installer|\n  installer.pods_project.targets.each do |t|\n    t.build_configurations.each do |c|\n      c.build_settings['IPHONEOS_DEPLOYMENT_TARGET'] = '13.0'\n    end\n  end\nend\n",
      ),
    );
    expect(app.ios?.levels.filter(({ owner }) => owner !== "app").map(({ owner, value }) => `${owner} ${shown(value)}`)).toEqual([
      "podfile 15.1",
      "pods 13.0",
    ]);
  });

  it("values come from JSON beside the Podfile, with their place", () => {
    const files = {
      ...podfile(
        "require 'json'\nproperties = JSON.parse(File.read(File.join(__dir__, 'Podfile.properties.json'))) rescue {}\nplatform :ios, properties['ios.deploymentTarget'] || '15.1'\ntarget 'Pilot' do\n  pod 'A', '1'\nend\n",
      ),
      "ios/Podfile.properties.json": '{\n  "ios.deploymentTarget": "16.0"\n}',
    };
    const fact = appOf(files).ios?.levels.find(({ owner }) => owner === "podfile");
    expect(fact && textAtPlace(files, fact.value.place)).toBe('16.0"');
    const without = Object.fromEntries(Object.entries(files).filter(([file]) => !file.endsWith(".json")));
    expect(shown(appOf(without).ios?.levels.find(({ owner }) => owner === "podfile")?.value)).toBe("15.1");
  });

  it("the lock is held against the Podfile: ranges, absence, checksum, what is installed", async () => {
    const text = "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '~> 4.2'\n  pod 'Brinelog'\nend\n";
    const lock =
      "PODS:\n  - Quay (1.0)\n  - QuaymapSDK (4.1.0):\n    - Quay (~> 1)\n\nDEPENDENCIES:\n  - QuaymapSDK (~> 4.2)\n\nPODFILE CHECKSUM: 0000\n";
    const { findings } = await reportOf({
      ...podfile(text),
      "ios/Podfile.lock": lock,
      "ios/Pods/Manifest.lock": lock.replace("Quay (1.0)", "Quay (1.1)"),
    });
    expect(findings.map(({ rule, message }) => `${rule}: ${message}`).sort()).toEqual(
      [
        "version/lock-stale: Podfile.lock was written for another version of the Podfile: the checksums differ",
        "version/lock-stale: QuaymapSDK is locked at 4.1.0, outside the declared ~> 4.2",
        "version/lock-stale: Brinelog is declared but not in Podfile.lock",
        "version/lock-stale: the installed packages differ from Podfile.lock: Quay 1.1 instead of 1.0",
      ].sort(),
    );
  });

  it("a Windows checkout of the Podfile has the same checksum", async () => {
    const text = "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'A', '1.0'\nend\n";
    const { createHash } = await import("node:crypto");
    const lock = `PODS:\n  - A (1.0)\n\nDEPENDENCIES:\n  - A (= 1.0)\n\nPODFILE CHECKSUM: ${createHash("sha1").update(text).digest("hex")}\n`;
    const { findings } = await reportOf({ ...podfile(text.replaceAll("\n", "\r\n")), "ios/Podfile.lock": lock.replaceAll("\n", "\r\n") });
    expect(findings).toEqual([]);
  });
});

describe("Swift packages and Carthage", () => {
  const packages = (requirement: string) =>
    project({
      objects: `R1 = { isa = XCRemoteSwiftPackageReference; repositoryURL = "https://git.quaymap.example/quaymap-ios.git"; requirement = { ${requirement} }; };\nR2 = { isa = XCLocalSwiftPackageReference; relativePath = ../charts; };`,
    });
  const resolved = (version: string, format: 1 | 2) =>
    format === 1
      ? JSON.stringify(
          {
            object: {
              pins: [
                { package: "quaymap", repositoryURL: "https://git.quaymap.example/quaymap-ios.git", state: { revision: "abc", version } },
              ],
            },
            version: 1,
          },
          undefined,
          2,
        )
      : JSON.stringify(
          {
            pins: [{ identity: "quaymap-ios", location: "https://git.quaymap.example/quaymap-ios", state: { revision: "abc", version } }],
            version: 2,
          },
          undefined,
          2,
        );
  const file = "ios/Pilot.xcodeproj/project.xcworkspace/xcshareddata/swiftpm/Package.resolved";
  const manifest = {
    "charts/Package.swift":
      '// swift-tools-version:5.9\nimport PackageDescription\nlet package = Package(\n  name: "Charts",\n  platforms: [.iOS(.v17), .macOS("14.0")],\n  dependencies: [.package(url: "https://git.tidewire.example/ios", "1.0.0"..<"2.0.0")],\n  targets: [.target(name: "Charts")]\n)\n',
  };

  it.each([1, 2] as const)("Package.resolved of format %i is held against the requirement", async (format) => {
    const files = { ...packages("kind = upToNextMajorVersion; minimumVersion = 4.2.0;"), ...manifest, [file]: resolved("4.1.0", format) };
    const messages = (await reportOf(files)).findings.map(({ message }) => message);
    expect(messages).toContain("https://git.quaymap.example/quaymap-ios.git is locked at 4.1.0, outside the declared from 4.2.0");
    expect(messages).toContain("https://git.tidewire.example/ios is declared but not in Package.resolved");
  });

  it("a local package brings its level and its own packages", () => {
    const app = appOf({ ...packages("kind = exactVersion; version = 4.2.0;"), ...manifest });
    expect(app.requiredLevels.map(({ by, value }) => `${by} ${shown(value)}`)).toEqual(["Charts 17"]);
    expect(app.dependencies.map(({ name, declared }) => `${name} ${shown(declared)}`)).toEqual([
      "https://git.quaymap.example/quaymap-ios.git 4.2.0",
      "https://git.tidewire.example/ios 1.0.0..<2.0.0",
    ]);
  });

  it("Carthage's two files", async () => {
    const { findings } = await reportOf({
      ...project(),
      "ios/Cartfile": 'github "maresia/charts" ~> 1.2 # c\ngit "https://git.moorid.example/ios" "main"\n',
      "ios/Cartfile.resolved": 'github "maresia/charts" "2.0.0"\n',
    });
    expect(findings.map(({ message }) => message).sort()).toEqual([
      "https://git.moorid.example/ios is declared but not in Cartfile.resolved",
      "maresia/charts is locked at 2.0.0, outside the declared ~> 1.2",
    ]);
  });
});

describe("pairs of native projects", () => {
  const gradle = (folder: string, id = "example.maresia.pilot") => ({
    [`${folder}/settings.gradle`]: "include ':app'",
    [`${folder}/app/build.gradle`]: `apply plugin: 'com.android.application'\nandroid { defaultConfig { applicationId '${id}' } }`,
  });
  const xcode = (folder: string, id?: string) => ({ [`${folder}/Pilot.xcodeproj/project.pbxproj`]: xcodeExample({ id }) });
  const sides = (files: Record<string, string>) => surveyOf(files).apps.map((app) => [app.android?.folder, app.ios?.folder]);

  it.each([
    ["side by side", "android", "ios"],
    ["by name", "pilot-android", "pilot-ios"],
    ["in a monorepo", "apps/pilot/android", "apps/pilot/ios"],
  ])("%s are one app", (_, a, b) => {
    expect(sides({ ...gradle(a, "example.maresia.a"), ...xcode(b, "example.maresia.b") })).toEqual([[a, b]]);
  });

  it("one id makes one app, wherever the folders are; otherwise they stay apart", () => {
    expect(sides({ ...gradle("left"), ...xcode("right") })).toEqual([["left", "right"]]);
    expect(sides({ ...gradle("left", "example.maresia.x"), ...xcode("right") })).toEqual([
      ["left", undefined],
      [undefined, "right"],
    ]);
  });

  it("a setting pairs them", async () => {
    const files = {
      ...gradle("left", "example.maresia.x"),
      ...xcode("right"),
      "enredo.yaml": "pair:\n  - name: pilot\n    android: left\n    ios: right\n",
    };
    expect((await reportOf(files)).survey.apps.map(({ name, android, ios }) => [name, android?.folder, ios?.folder])).toEqual([
      ["pilot", "left", "right"],
    ]);
  });
});
