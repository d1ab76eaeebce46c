import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { privacyManifest, quaymapIos, xcodeExample } from "../../src/core/rules/examples.js";
import { usesOfBinary } from "../../src/core/syntax/mach-o.js";
import { fatBinary, machO, staticLibrary } from "../helpers/archives.js";
import { reportOf, tracesOf } from "../helpers/memory.js";

/** What iOS packages that lie on the machine bring and use: what they lack, and what looks like it and is right. */

type Files = Record<string, string | Uint8Array>;

const read = (bytes: Uint8Array) => (offset: number, length: number) => bytes.subarray(offset, offset + length);
const uses = (bytes: Uint8Array) => {
  const found = usesOfBinary(read(bytes), bytes.length);
  return found && [...found.symbols, ...found.selectors];
};

describe("a binary", () => {
  const bluetooth = machO({ symbols: ["OBJC_CLASS_$_CBCentralManager", "stat"], own: ["start"], selectors: ["activeInputModes"] });
  it("is asked for what it takes from elsewhere", () => {
    expect(uses(bluetooth)).toEqual(["OBJC_CLASS_$_CBCentralManager", "stat", "activeInputModes"]);
    const other = machO({ symbols: ["fstat"] });
    expect(
      uses(
        fatBinary([
          [7, other],
          [0x0100000c, bluetooth],
        ]),
      ),
    ).toContain("stat");
    expect(uses(staticLibrary({ "a.o": machO({ type: 1, symbols: ["odd"] }), "bc.o": bluetooth }))).toEqual([
      "odd",
      "OBJC_CLASS_$_CBCentralManager",
      "stat",
      "activeInputModes",
    ]);
  });

  it("that is cut off, lies or is something else gives what can be read", () => {
    for (let length = 0; length < bluetooth.length; length += 7) expect(uses(bluetooth.subarray(0, length))).toBeDefined();
    const archive = staticLibrary({ "a.o": bluetooth });
    for (let at = 0; at < archive.length; at += 5) {
      const broken = Buffer.from(archive);
      broken[at] = 0xff;
      expect(uses(broken)).toBeDefined();
    }
    expect(uses(Buffer.from("#!/bin/sh\n"))).toEqual([]);
    expect(usesOfBinary(read(Buffer.concat([Buffer.from("!<arch>\n"), Buffer.alloc(20)])), 17 << 20)).toBeUndefined();
  });
});

const told = async (files: Files) =>
  (await reportOf(files, { today: "2026-11-28" })).findings
    .filter(({ rule }) => /^permit\/(purpose|reason)-missing$|^level\/below-need$|^native\/slice/.test(rule))
    .map(({ rule, severity, message }) => `${severity} ${rule}: ${message}`);

const SCANS = "import CoreBluetooth\nfinal class Scanner {\n  let manager = CBCentralManager()\n}\n";
const BLUETOOTH = "NSBluetoothAlwaysUsageDescription: the store rejects the upload";

describe("installed pods", () => {
  const podfile = (line: string) =>
    quaymapIos("", {
      Podfile: `platform :ios, '15.0'\ntarget 'Pilot' do\n  ${line}\nend\n`,
      "Podfile.lock": "PODS:\n  - Tidewire (1.4.0)\n\nDEPENDENCIES:\n  - Tidewire (~> 1.4)\n\nCOCOAPODS: 1.16.2\n",
    });
  const app = podfile("pod 'Tidewire', '~> 1.4'");

  it("need what their code uses", async () => {
    expect(await told(app)).toEqual([]);
    expect(await told({ ...app, "Pods/Tidewire/Sources/Scanner.swift": SCANS })).toEqual([
      `error permit/purpose-missing: Tidewire uses Bluetooth, but the property list has no ${BLUETOOTH}`,
    ]);
    expect(await told({ ...app, "Pods/Other/Sources/Scanner.swift": SCANS })).toEqual([]);
  });

  it("need what their frameworks use, and bring their reasons", async () => {
    const framework = "Pods/Tidewire/Tidewire.xcframework";
    const part =
      "<dict><key>LibraryIdentifier</key><string>ios-arm64</string><key>LibraryPath</key><string>Tidewire.framework</string><key>SupportedPlatform</key><string>ios</string></dict>";
    const more = (binary: Buffer, files: Files = {}): Files => ({
      ...app,
      [`${framework}/Info.plist`]: `<plist version="1.0"><dict><key>AvailableLibraries</key><array>${part}</array></dict></plist>`,
      [`${framework}/ios-arm64/Tidewire.framework/Tidewire`]: binary,
      ...files,
    });
    const binary = machO({ symbols: ["OBJC_CLASS_$_CBCentralManager", "OBJC_CLASS_$_NSUserDefaults"] });
    expect((await told(more(binary))).filter((line) => !line.includes("native/slice"))).toEqual([
      `error permit/purpose-missing: Tidewire uses Bluetooth, but the property list has no ${BLUETOOTH}`,
      "warning permit/reason-missing: Tidewire uses user defaults, but no privacy manifest in the app gives a reason for it",
    ]);
    const reason = { [`${framework}/ios-arm64/Tidewire.framework/PrivacyInfo.xcprivacy`]: privacyManifest("UserDefaults", "CA92.1") };
    expect((await told(more(binary, reason))).filter((line) => line.includes("reason-missing"))).toEqual([]);
    // Of a static one the linker takes in what it needs.
    const library = staticLibrary({ "a.o": machO({ type: 1, symbols: ["OBJC_CLASS_$_CBCentralManager", "stat"] }) });
    expect((await told(more(library))).filter((line) => line.includes("permit/"))).toEqual([
      "note permit/purpose-missing: Tidewire can request Bluetooth, but the property list has no NSBluetoothAlwaysUsageDescription",
    ]);
  });

  it("are asked for the manifest that a sheet wants in them, where they are here", async () => {
    const sheet = "sdk: tidewire\npackages:\n  cocoapods: Tidewire\nneeds:\n  - { on: ios, privacyManifest: own }\n";
    const state = async (files: Files) => {
      const { traces } = await tracesOf({ ...app, "enredo/sheets/tidewire.sdk.yaml": sheet, ...files }, "tidewire");
      return (traces[0]?.sides ?? [])
        .flatMap(({ wires }) => wires)
        .flatMap(({ need, state: of, why }) =>
          need.kind === "privacyManifest" ? `${need.side} ${of} ${why ? reasonText(why) : ""}`.trim() : [],
        );
    };
    expect(await state({})).toEqual(["ios unknown the files of Tidewire are not on this machine"]);
    expect(await state({ "Pods/Tidewire/Sources/Feed.swift": "import UIKit\n" })).toEqual(["ios missing"]);
    const manifest = privacyManifest("UserDefaults", "CA92.1");
    expect(await state({ "Pods/Tidewire/Resources/PrivacyInfo.xcprivacy": manifest })).toEqual(["ios connected"]);
    // The app's own, and that of another package, are none of the SDK.
    expect(
      await state({ "Pods/Tidewire/a.swift": "\n", "Pilot/PrivacyInfo.xcprivacy": manifest, "Pods/Other/PrivacyInfo.xcprivacy": manifest }),
    ).toEqual(["ios missing"]);
  });

  it("are asked for it in place of what wraps them", async () => {
    const wrapper = "node_modules/tidewire-react";
    const sheet = "sdk: tidewire\npackages:\n  npm: tidewire-react\n  cocoapods: Tidewire\nneeds:\n  - { on: ios, privacyManifest: own }\n";
    const manifest = privacyManifest("UserDefaults", "CA92.1");
    const state = async (files: Files) => {
      const all = {
        ...Object.fromEntries(Object.entries(app).map(([file, text]) => [`ios/${file}`, text])),
        "package.json": '{ "name": "pilot", "dependencies": { "react-native": "0.79.2", "tidewire-react": "1.0.0" } }\n',
        "node_modules/react-native/package.json": '{ "name": "react-native", "version": "0.79.2" }\n',
        [`${wrapper}/package.json`]: '{ "name": "tidewire-react", "version": "1.0.0" }\n',
        [`${wrapper}/RNTidewire.podspec`]:
          "Pod::Spec.new do |s|\n  s.name = 'RNTidewire'\n  s.version = '1.0'\n  s.resources = 'ios/*.xcprivacy'\n  s.dependency 'Tidewire', '~> 1.4'\nend\n",
        [`${wrapper}/ios/PrivacyInfo.xcprivacy`]: manifest,
        "enredo/sheets/tidewire.sdk.yaml": sheet,
        ...files,
      };
      const { traces } = await tracesOf(all, "tidewire");
      const wires = (traces[0]?.sides ?? []).flatMap(({ side, wires: own }) => (side === "ios" ? own : []));
      return wires.flatMap(({ need, state: of }) => (need.kind === "privacyManifest" ? of : []));
    };
    // The wrapper's own manifest says nothing of the SDK.
    expect(await state({})).toEqual(["unknown"]);
    expect(await state({ "ios/Pods/Tidewire/Sources/Feed.swift": "import UIKit\n" })).toEqual(["missing"]);
    expect(await state({ "ios/Pods/Tidewire/PrivacyInfo.xcprivacy": manifest, [`${wrapper}/ios/PrivacyInfo.xcprivacy`]: "" })).toEqual([
      "connected",
    ]);
  });

  it("of the repository are read by their specification", async () => {
    const own = podfile("pod 'Anchor', :path => 'pods/Anchor'");
    const spec = "Pod::Spec.new do |s|\n  s.name = 'Anchor'\n  s.version = '1.0'\n  s.source_files = 'Sources/**/*.swift'\nend\n";
    const files = { ...own, "pods/Anchor/Anchor.podspec": spec, "pods/Anchor/Sources/Scanner.swift": SCANS };
    expect(await told(files)).toEqual([`error permit/purpose-missing: Anchor uses Bluetooth, but the property list has no ${BLUETOOTH}`]);
    expect(await told({ ...own, "pods/Anchor/Anchor.podspec": spec, "pods/Anchor/Example/Scanner.swift": SCANS })).toEqual([]);
  });
});

describe("Swift packages", () => {
  const manifest = (platforms: string, targets: string, more = "") =>
    `// swift-tools-version:5.9\nimport PackageDescription\nlet package = Package(\n  name: "Tidewire",\n  platforms: [${platforms}],\n  products: [.library(name: "Tidewire", targets: ["Tidewire"]), .library(name: "TidewireScan", targets: ["Scan"])],\n${more}  targets: [${targets}]\n)\n`;
  const TARGETS = '.target(name: "Tidewire"), .target(name: "Scan", dependencies: ["Tidewire"])';
  const objects =
    'R1 = { isa = XCRemoteSwiftPackageReference; repositoryURL = "https://git.example/maresia/tidewire.git"; requirement = { kind = upToNextMajorVersion; minimumVersion = 1.4.0; }; };\n  D1 = { isa = XCSwiftPackageProductDependency; package = R1; productName = Tidewire; };';
  const project = xcodeExample({ settings: "INFOPLIST_FILE = Pilot/Info.plist;", objects })
    .replace("targets = ( T1, );", "targets = ( T1, ); packageReferences = ( R1, );")
    .replace("name = Pilot;", "name = Pilot; packageProductDependencies = ( D1, );");
  const app = { ...quaymapIos(), Podfile: "", "Pilot.xcodeproj/project.pbxproj": project };
  const checkout = (files: Files): Files => ({
    ...app,
    ...Object.fromEntries(Object.entries(files).map(([file, text]) => [`SourcePackages/checkouts/tidewire/${file}`, text])),
  });

  it("that were checked out ask for a level, and need what the products that the app takes use", async () => {
    expect(await told(checkout({ "Package.swift": manifest(".iOS(.v17)", TARGETS) }))).toEqual([
      "error level/below-need: Tidewire needs iosTarget 17; this app has 15.0 in Release",
    ]);
    const scans = { "Package.swift": manifest(".iOS(.v13)", TARGETS) };
    expect(await told(checkout({ ...scans, "Sources/Tidewire/Scanner.swift": SCANS }))).toEqual([
      `error permit/purpose-missing: Tidewire uses Bluetooth, but the property list has no ${BLUETOOTH}`,
    ]);
    // The other product is not in the app.
    expect(await told(checkout({ ...scans, "Sources/Scan/Scanner.swift": SCANS }))).toEqual([]);
    expect(await told(checkout({ ...scans, "Tests/TidewireTests/Scanner.swift": SCANS }))).toEqual([]);
    const needed = manifest(".iOS(.v13)", '.target(name: "Tidewire", dependencies: [.target(name: "Scan")]), .target(name: "Scan")');
    expect(await told(checkout({ "Package.swift": needed, "Sources/Scan/Scanner.swift": SCANS }))).toHaveLength(1);
    const left = manifest(".iOS(.v13)", '.target(name: "Tidewire", path: "src", exclude: ["old"])');
    expect(await told(checkout({ "Package.swift": left, "src/old/Scanner.swift": SCANS }))).toEqual([]);
    expect(await told(checkout({ "Package.swift": left, "src/new/Scanner.swift": SCANS }))).toHaveLength(1);
  });
});
