import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { permitsOf, type Permit } from "../../src/core/project/permits.js";
import { androidBlock, androidExample, iosExample, reactNativeExample } from "../../src/core/rules/examples.js";
import { permitsText } from "../../src/views/text/permits.js";
import { styleFor } from "../../src/views/text/style.js";
import { pilot } from "../helpers/native-apps.js";
import { reportOf } from "../helpers/memory.js";

/** The ledger: what merging manifests makes of permissions, who brings them, what stands against them. */

const manifest = (inside: string) =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools" package="example.tidewire">${inside}<application /></manifest>`;
const permission = (name: string, more = "") => `<uses-permission android:name="android.permission.${name}" ${more}/>`;
const AAR = "app/libs/tidewire-1.4.aar!/AndroidManifest.xml";

async function ledger(files: Record<string, string>, side: "android" | "ios" = "android") {
  const { survey } = await reportOf(files);
  const [app] = survey.apps;
  if (!app) throw new Error("no app");
  const permits = permitsOf(app, []);
  const found = permits.sides.find((one) => one.side === side);
  return { permits, found, of: (name: string): Permit | undefined => found?.permits.find((permit) => permit.name.endsWith(name)) };
}

const android = (own: string, library: string) =>
  androidExample(`${androidBlock()}\ndependencies {\n  implementation files('libs/tidewire-1.4.aar')\n}\n`, {
    "app/src/main/AndroidManifest.xml": manifest(own),
    [AAR]: manifest(library),
  });

describe("a permission", () => {
  it.each<[string, string, string, Partial<Record<"by" | "limit" | "removed", unknown>>]>([
    ["that a library brings", "", permission("CAMERA"), { by: ["tidewire-1.4.aar"], limit: undefined, removed: false }],
    ["that both have", permission("CAMERA"), permission("CAMERA"), { by: [undefined, "tidewire-1.4.aar"], limit: undefined }],
    ["that the app takes out", permission("CAMERA", 'tools:node="remove"'), permission("CAMERA"), { removed: true }],
    [
      "that the library limits",
      permission("CAMERA"),
      permission("CAMERA", 'android:maxSdkVersion="28"'),
      { limit: ["28", "tidewire-1.4.aar"] },
    ],
    [
      "that the app limits",
      permission("CAMERA", 'android:maxSdkVersion="30"'),
      permission("CAMERA", 'android:maxSdkVersion="28"'),
      { limit: ["30", undefined] },
    ],
    [
      "whose limit the app takes off",
      permission("CAMERA", 'tools:remove="android:maxSdkVersion"'),
      permission("CAMERA", 'android:maxSdkVersion="28"'),
      { limit: undefined },
    ],
    [
      "that the app replaces",
      permission("CAMERA", 'tools:node="replace"'),
      permission("CAMERA", 'android:maxSdkVersion="28"'),
      { limit: undefined },
    ],
  ])("%s", async (_, own, library, expected) => {
    const { of } = await ledger(android(own, library));
    const permit = of("CAMERA");
    if ("by" in expected) expect(permit?.by.map(({ name }) => name)).toEqual(expected.by);
    if ("limit" in expected) expect(permit?.limit && [permit.limit.level, permit.limit.by]).toEqual(expected.limit);
    if ("removed" in expected) expect(permit?.removed !== undefined).toBe(expected.removed);
  });

  it("of one flavour says so, and people are asked for some", async () => {
    const { of } = await ledger({
      ...androidExample(androidBlock()),
      "app/src/main/AndroidManifest.xml": manifest(permission("INTERNET")),
      "app/src/free/AndroidManifest.xml": manifest(permission("BLUETOOTH_SCAN")),
    });
    expect([of("BLUETOOTH_SCAN")?.variants, of("BLUETOOTH_SCAN")?.asked, of("INTERNET")?.asked]).toEqual([["free"], true, false]);
  });
});

describe("a hybrid", () => {
  const files = (purpose: string) =>
    reactNativeExample(
      {},
      {
        "android/app/src/main/AndroidManifest.xml": manifest(permission("CAMERA")),
        ...iosExample(
          { settings: "INFOPLIST_FILE = Info.plist;" },
          {
            "ios/Info.plist": `<plist version="1.0"><dict>\n<key>CFBundleName</key>\n<string>Deckpass</string>\n${purpose}</dict></plist>\n`,
          },
          "ios/",
        ),
      },
    );
  const purpose = "<key>NSCameraUsageDescription</key>\n<string>Scans \u001b[31m the boarding pass.</string>\n";

  it("has counterparts, or lacks them", async () => {
    expect((await ledger(files(""))).of("CAMERA")?.counterpart?.there).toEqual([]);
    expect((await ledger(files(purpose))).of("CAMERA")?.counterpart?.there).toEqual(["NSCameraUsageDescription"]);
    expect((await ledger(files(purpose), "ios")).of("NSCameraUsageDescription")?.counterpart?.there).toEqual(["android.permission.CAMERA"]);
  });

  it.each([80, 120])("is told in %i columns, with nothing unclean", async (width) => {
    const { permits } = await ledger(files(purpose));
    const text = permitsText([permits], styleFor({ color: false, width }), true);
    expect(text).toContain("✓ NSCameraUsageDescription");
    expect(text).toContain("the boarding pass.”");
    expect(text).not.toContain("\u001b");
    for (const line of text.split("\n")) if (!line.includes("/")) expect(line.length).toBeLessThanOrEqual(width);
  });
});

it("says why there may be more", async () => {
  const declared = (extra: string) =>
    androidExample(`${androidBlock()}\ndependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n${extra}}\n`);
  const { found, permits } = await ledger(declared(""));
  expect(found?.open.map(reasonText)).toEqual(["what 1 package from registries adds is not on this machine"]);
  expect(permits.packages).toEqual({ known: 0, unknown: 1 });
});

describe("a purpose text that native code needs", () => {
  const PACKAGE = "node_modules/@quaymap/react-native";
  const OBJC = "[_manager requestWhenInUseAuthorization];";
  const spec = (sources: string, more = "") =>
    `Pod::Spec.new do |s|\n  s.name = 'RNQuaymap'\n  s.version = '4.2.0'\n  s.platforms = { :ios => '13.0' }\n  s.source_files = ${sources}\n${more}end\n`;
  const app = (code: string, { podspec = spec("'ios/**/*.{h,m}'"), purpose = "", file = "ios/Map.m" } = {}) =>
    reactNativeExample(
      { "@quaymap/react-native": "4.2.0" },
      {
        "android/app/src/main/AndroidManifest.xml": manifest(""),
        [`${PACKAGE}/package.json`]: '{ "name": "@quaymap/react-native", "version": "4.2.0" }',
        [`${PACKAGE}/RNQuaymap.podspec`]: podspec,
        [`${PACKAGE}/${file}`]: `#import <CoreLocation/CoreLocation.h>\n@implementation Map\n${code}\n@end\n`,
        ...iosExample(
          { settings: "INFOPLIST_FILE = Info.plist;" },
          {
            "ios/Podfile": "target 'Pilot' do\n  use_native_modules!\nend\n",
            "ios/Info.plist": `<plist version="1.0"><dict>\n<key>CFBundleName</key>\n<string>Deckpass</string>\n${purpose}</dict></plist>\n`,
          },
          "ios/",
        ),
      },
    );
  const told = async (files: Record<string, string>) =>
    (await reportOf(files)).findings
      .filter(({ rule }) => rule === "permit/purpose-missing")
      .map(({ severity, message }) => `${severity}: ${message}`);
  const text = (key: string, value = "Shows where the ferry is.") => `<key>${key}</key>\n<string>${value}</string>\n`;
  const missing = (capability: string, key: string) =>
    `error: @quaymap/react-native uses ${capability}, but the property list has no ${key}: the store rejects the upload`;

  it.each<[string, Parameters<typeof app>, string]>([
    ["the location", [OBJC], missing("the location", "NSLocationWhenInUseUsageDescription")],
    [
      "with an empty text",
      [OBJC, { purpose: text("NSLocationWhenInUseUsageDescription", " ") }],
      missing("the location", "NSLocationWhenInUseUsageDescription"),
    ],
    [
      "the camera",
      ["[AVCaptureDevice requestAccessForMediaType:AVMediaTypeVideo completionHandler:^(BOOL ok) {}];"],
      missing("the camera", "NSCameraUsageDescription"),
    ],
    [
      "in Swift",
      ["CNContactStore().requestAccess(for: .contacts) { _, _ in }", { podspec: spec("'ios/*.swift'"), file: "ios/Map.swift" }],
      missing("contacts", "NSContactsUsageDescription"),
    ],
    [
      "in a folder that the specification names",
      [OBJC, { podspec: spec("'ios'") }],
      missing("the location", "NSLocationWhenInUseUsageDescription"),
    ],
    [
      "under a condition that holds on iOS",
      [`#if TARGET_OS_IOS\n${OBJC}\n#endif`],
      missing("the location", "NSLocationWhenInUseUsageDescription"),
    ],
    [
      "of two uses that one text serves",
      ["[PHPhotoLibrary requestAuthorization:^(id s) {}];\nUIImageWriteToSavedPhotosAlbum(image, nil, nil, nil);"],
      missing("photos", "NSPhotoLibraryUsageDescription"),
    ],
    [
      "at all times, as a note",
      ["[_manager requestAlwaysAuthorization];"],
      "note: @quaymap/react-native can request the location at all times, but the property list has no NSLocationAlwaysAndWhenInUseUsageDescription",
    ],
  ])("is told: %s", async (_, of, expected) => {
    expect(await told(app(...of))).toEqual([expected]);
  });

  it.each<[string, Parameters<typeof app>]>([
    ["that is there", [OBJC, { purpose: text("NSLocationWhenInUseUsageDescription") }]],
    [
      "of which one of several is there",
      ["UIImageWriteToSavedPhotosAlbum(image, nil, nil, nil);", { purpose: text("NSPhotoLibraryUsageDescription") }],
    ],
    ["in a comment", [`// ${OBJC}\n/* ${OBJC} */`]],
    ["under a condition that a setup switches on", [`#if QUAYMAP_LOCATION\n${OBJC}\n#endif`]],
    ["on the other side of a condition", [`#if TARGET_OS_IOS\n#else\n${OBJC}\n#endif`]],
    ["in a file that the specification does not take in", [OBJC, { podspec: spec("'ios/core/*.m'") }]],
    ["in a file that it leaves out", [OBJC, { podspec: spec("'ios/*.m'", "  s.exclude_files = 'ios/Map.m'\n") }]],
    [
      "in a part that the app does not get",
      [
        OBJC,
        {
          podspec: spec(
            "'ios/core/*.m'",
            "  s.default_subspecs = 'Core'\n  s.subspec 'Core' do |c|\n  end\n  s.subspec 'Map' do |m|\n    m.source_files = 'ios/Map.m'\n  end\n",
          ),
        },
      ],
    ],
    ["in files that a variable of the setup chooses", [OBJC, { podspec: spec("ENV['QUAYMAP_FILES']") }]],
    [
      "where only its state is asked for",
      ["[CLLocationManager authorizationStatus];\n[AVCaptureDevice authorizationStatusForMediaType:AVMediaTypeVideo];"],
    ],
  ])("is not told: %s", async (_, of) => {
    expect(await told(app(...of))).toEqual([]);
  });

  it("is told of the app's own code, where the target compiles the file", async () => {
    const file = "ios/Pilot/Chart.swift";
    const use = "final class Steps {\n  let pedometer = CMPedometer()\n}\n";
    expect(await told({ ...pilot, [file]: `${pilot[file] ?? ""}\n${use}` })).toEqual([
      "error: the app's own code uses physical activity, but the property list has no NSMotionUsageDescription: the system ends the app, or the store rejects the upload",
    ]);
    expect(await told({ ...pilot, "ios/Pilot/Other.swift": use })).toEqual([]);
  });

  it("stands in the ledger, with who uses it", async () => {
    const { permits, of } = await ledger(app(OBJC), "ios");
    expect(of("NSLocationWhenInUseUsageDescription")).toMatchObject({ by: [], usedBy: ["@quaymap/react-native"] });
    expect(permitsText([permits], styleFor({ color: false, width: 120 }), false)).toContain("✗ missing, used by @quaymap/react-native");
  });
});
