import { describe, expect, it } from "vitest";
import { permitsOf } from "../../src/core/project/permits.js";
import { iosExample, privacyManifest, reactNativeExample, xcodeExample } from "../../src/core/rules/examples.js";
import { permitsText } from "../../src/views/text/permits.js";
import { styleFor } from "../../src/views/text/style.js";
import { reportOf, surveyOf } from "../helpers/memory.js";

/** Privacy manifests: what the app's own code and that of its packages use, against the reasons that get into the app. */

type Files = Record<string, string>;

const MANIFEST = "Pilot/PrivacyInfo.xcprivacy";
const app = (files: Files) => iosExample({ synchronized: ["Pilot"] }, files);
const swift = (body: string): Files => ({ "Pilot/Log.swift": `import Foundation\n\nfunc log() {\n  ${body}\n}\n` });
const objc = (body: string): Files => ({ "Pilot/Log.m": `#import <Foundation/Foundation.h>\n\nvoid Log(void) {\n  ${body}\n}\n` });
const DEFAULTS = "UserDefaults.standard.set(1, forKey: key)";

/** A project whose target leaves a file of its folder out. */
const leavesOut = (name: string): Files => ({
  "Pilot.xcodeproj/project.pbxproj": xcodeExample({
    synchronized: ["Pilot"],
    objects: `E1 = { isa = PBXFileSystemSynchronizedBuildFileExceptionSet; membershipExceptions = ( ${name}, ); target = T1; };`,
  }).replace("PBXFileSystemSynchronizedRootGroup;", "PBXFileSystemSynchronizedRootGroup; exceptions = ( E1, );"),
});

async function told(files: Files): Promise<string[]> {
  const { findings } = await reportOf(files, { today: "2026-11-28" });
  return findings.flatMap(({ rule, severity, message }) => (/^permit\/reason/.test(rule) ? `${severity}: ${message}` : []));
}

describe("the app's own code", () => {
  it.each<[string, Files, string]>([
    ["user defaults", swift(DEFAULTS), "user defaults"],
    ["the user defaults of a group", swift('UserDefaults(suiteName: "group.example")?.synchronize()'), "user defaults"],
    ["the user defaults in Objective-C", objc('[[NSUserDefaults standardUserDefaults] setBool:YES forKey:@"a"];'), "user defaults"],
    ["the time of a file", swift("_ = try url.resourceValues(forKeys: [.contentModificationDateKey])"), "file timestamps"],
    ["the time of a file in C", objc("struct stat st; stat(path, &st);"), "file timestamps"],
    ["the time since the start", swift("let t = ProcessInfo.processInfo.systemUptime"), "system boot time"],
    ["the time since the start in Objective-C", objc("[NSProcessInfo processInfo].systemUptime;"), "system boot time"],
    ["an attribute of a file", swift("_ = attributes[.modificationDate]"), "file timestamps"],
    ["the disk", swift("_ = try url.resourceValues(forKeys: [.volumeAvailableCapacityForImportantUsageKey])"), "disk space"],
    ["the keyboards", swift("_ = UITextInputMode.activeInputModes"), "active keyboards"],
  ])("that uses %s wants a reason", async (_, files, title) => {
    expect(await told(app(files))).toEqual([
      `error: the app's own code uses ${title}, but no privacy manifest in the app gives a reason for it`,
    ]);
  });

  it("counts where another file is left out, and a manifest that is left out does not", async () => {
    const reason = { [MANIFEST]: privacyManifest("UserDefaults", "CA92.1") };
    expect(await told(app({ ...swift(DEFAULTS), ...leavesOut("Old.swift") }))).toHaveLength(1);
    expect(await told(app({ ...swift(DEFAULTS), ...reason, ...leavesOut("PrivacyInfo.xcprivacy") }))).toHaveLength(2);
  });

  it("is held against what the manifest in the app says, all in one finding", async () => {
    const both = swift(`${DEFAULTS}; _ = ProcessInfo.processInfo.systemUptime; _ = UITextInputMode.activeInputModes`);
    expect(await told(app({ ...both, [MANIFEST]: privacyManifest("UserDefaults", "CA92.1") }))).toEqual([
      "error: the app's own code uses system boot time and active keyboards, but the app's privacy manifest gives no reason for it",
    ]);
  });

  it.each<[string, Files]>([
    ["with a reason", { ...swift(DEFAULTS), [MANIFEST]: privacyManifest("UserDefaults", "CA92.1") }],
    ["in a file that its folder's target leaves out", { ...swift(DEFAULTS), ...leavesOut("Log.swift") }],
    ["that names it in a comment", swift(`// ${DEFAULTS}`)],
    ["that names it in a text", swift('print("UserDefaults")')],
    ["of debug builds", swift(`#if DEBUG\n  ${DEFAULTS}\n  #endif`)],
    ["with names of its own", swift("let creationDate = asset.creationDate; let stat = table.stat(a, b)")],
    ["with names of its own for a time", swift("let fileModificationDate = 1; let shown: [Field] = [.creationDate]")],
  ])("%s is quiet", async (_, files) => {
    expect(await told(app(files))).toEqual([]);
  });

  it("is not asked in projects that a framework makes anew", async () => {
    expect(await told({ ...reactNativeExample({ expo: "52.0.0" }), "app.json": '{ "expo": { "ios": {} } }' })).toEqual([]);
  });
});

describe("a privacy manifest", () => {
  it.each<[string, string, string]>([
    ["UserDefaults", "C617.1", "error: C617.1 is not a reason for NSPrivacyAccessedAPICategoryUserDefaults"],
    [
      "UserDefault",
      "CA92.1",
      "error: NSPrivacyAccessedAPICategoryUserDefault is not an API category; NSPrivacyAccessedAPICategoryUserDefaults is",
    ],
    ["DiskSpace", "", "error: NSPrivacyAccessedAPICategoryDiskSpace has no reason"],
  ])("with %s and %s is told", async (kind, reason, expected) => {
    expect(await told(app({ [MANIFEST]: privacyManifest(kind, ...(reason === "" ? [] : [reason])) }))).toEqual([expected]);
  });

  it("that no target takes in is told, and gives no reason", async () => {
    const files = iosExample(
      { synchronized: ["Code"] },
      { "Code/Log.swift": `func a() { ${DEFAULTS} }\n`, [MANIFEST]: privacyManifest("UserDefaults", "CA92.1") },
    );
    expect(await told(files)).toEqual([
      "error: the app's own code uses user defaults, but no privacy manifest in the app gives a reason for it",
      `warning: ${MANIFEST} is in no target, so it is not in the app`,
    ]);
  });

  it.each<[string, Files]>([
    ["of a kind that came later", app({ [MANIFEST]: privacyManifest("Sensors", "AAAA.1") })],
    [
      "of a package in the tree",
      app({
        "Modules/Feed/Package.swift": "// swift-tools-version:5.9\n",
        "Modules/Feed/Sources/Feed/PrivacyInfo.xcprivacy": privacyManifest("UserDefaults", "CA92.1"),
      }),
    ],
    [
      "of another project in the tree",
      app({
        "Libs/Tide/Tide.xcodeproj/project.pbxproj": "// !$*UTF8*$!\n{ objects = { }; }\n",
        "Libs/Tide/Tide/PrivacyInfo.xcprivacy": privacyManifest("UserDefaults", "CA92.1"),
      }),
    ],
  ])("%s is quiet", async (_, files) => {
    expect(await told(files)).toEqual([]);
  });

  it("under another name is told", async () => {
    expect(await told(app({ "Pilot/Pilot.xcprivacy": privacyManifest("UserDefaults", "CA92.1") }))).toEqual([
      "warning: Pilot/Pilot.xcprivacy is not named PrivacyInfo.xcprivacy: the system ignores it",
    ]);
  });
});

describe("the code of a package", () => {
  const NAME = "@quaymap/react-native";
  const folder = `node_modules/${NAME}`;
  const hybrid = (podfile: string, more: Files = {}, spec = ""): Files => ({
    ...reactNativeExample(
      { [NAME]: "4.2.0" },
      {
        [`${folder}/package.json`]: `{ "name": "${NAME}", "version": "4.2.0" }`,
        [`${folder}/quaymap.podspec`]: `Pod::Spec.new do |s|\n  s.name = 'quaymap'\n  s.version = '4.2.0'\n  s.platforms = { :ios => '13.0' }\n  s.source_files = 'ios/**/*.{h,m}'\n${spec}end\n`,
        [`${folder}/ios/Quaymap.m`]: "void a(void) { [[NSFileManager new] b]; id k = NSFileSystemFreeSize; }\n",
        ...more,
      },
    ),
    ...Object.fromEntries(
      Object.entries(iosExample({ settings: "INFOPLIST_FILE = Pilot/Info.plist;" })).map(([file, text]) => [`ios/${file}`, text]),
    ),
    "ios/Podfile": `target 'Pilot' do\n  use_native_modules!\n${podfile}end\n`,
  });
  const MERGED = "  post_install do |installer|\n    react_native_post_install(installer)\n  end\n";
  const own = { [`${folder}/ios/PrivacyInfo.xcprivacy`]: privacyManifest("DiskSpace", "E174.1") };
  const bundle = "  s.resource_bundles = { 'QuaymapPrivacy' => ['ios/PrivacyInfo.xcprivacy'] }\n";
  const expected = [`warning: ${NAME} uses disk space, but no privacy manifest in the app gives a reason for it`];

  it("wants a reason from its own manifest or the app's", async () => {
    expect(await told(hybrid(""))).toEqual(expected);
    expect(await told(hybrid("", own, bundle))).toEqual([]);
    // It lies there, and the specification does not take it in.
    expect(await told(hybrid("", own))).toEqual(expected);
    expect(await told(hybrid("", {}, "  s.resource_bundles = privacy_bundles(s)\n"))).toEqual([]);
  });

  it("where pods are merged has the framework's reasons too", async () => {
    expect(await told(hybrid(MERGED))).toEqual(expected);
    const defaults = { [`${folder}/ios/Quaymap.m`]: "void a(void) { [[NSUserDefaults standardUserDefaults] b]; }\n" };
    expect(await told(hybrid(MERGED, defaults))).toEqual([]);
    expect(
      await told(hybrid(MERGED.replace("installer)", "installer, :privacy_file_aggregation_enabled => false)"), defaults)),
    ).toHaveLength(1);
  });

  it("has none of the framework's in an edition before it merged", async () => {
    const defaults = { [`${folder}/ios/Quaymap.m`]: "void a(void) { [[NSUserDefaults standardUserDefaults] b]; }\n" };
    const files = hybrid(MERGED, defaults);
    const manifest = files["package.json"] ?? "";
    const at = (version: string) => ({ ...files, "package.json": manifest.replace(/("react-native": ")[^"]*/, `$1${version}`) });
    expect(await told(at("^0.72.4"))).toHaveLength(1);
    expect(await told(at("^0.76.0"))).toEqual([]);
  });

  it("is in the ledger", async () => {
    const { survey } = await reportOf(hybrid(MERGED, own, bundle));
    const text = permitsText(
      survey.apps.map((one) => permitsOf(one, [])),
      styleFor({ color: false, width: 120 }),
      false,
    );
    expect(text).toMatch(/DiskSpace \(E174\.1\) +@quaymap\/react-native/);
    expect(text).toMatch(/UserDefaults \(CA92\.1\) +react-native /);
  });
});

it("of what an app collects the ledger lists what and why", () => {
  const data =
    "<key>NSPrivacyCollectedDataTypes</key><array><dict><key>NSPrivacyCollectedDataType</key><string>NSPrivacyCollectedDataTypeCoarseLocation</string><key>NSPrivacyCollectedDataTypePurposes</key><array><string>NSPrivacyCollectedDataTypePurposeAnalytics</string></array></dict></array><key>NSPrivacyTrackingDomains</key><array><string>tide.example</string></array>";
  const { apps } = surveyOf(app({ [MANIFEST]: `<plist version="1.0"><dict>${data}</dict></plist>` }));
  const text = permitsText(
    apps.map((one) => permitsOf({ ...one, sheets: [], sheetDifferences: [] }, [])),
    styleFor({ color: false, width: 120 }),
    false,
  );
  expect(text).toMatch(/CoarseLocation \(Analytics\)/);
  expect(text).toMatch(/tide\.example/);
});
