import { describe, expect, it } from "vitest";
import { quaymapSheet } from "../../src/core/rules/examples.js";
import { levelTable } from "../../src/core/derive/level-table.js";
import { reportOf, tracesOf } from "../helpers/memory.js";

/** Several apps from one Xcode project: each is judged by what it is built from, and only by what is surely in it. */

type Files = Record<string, string>;

const PURPOSE = "  <key>NSLocationWhenInUseUsageDescription</key>\n  <string>Shows where the ferry is.</string>\n";
const plist = (inside: string): string => `<plist version="1.0">\n<dict>\n${inside}</dict>\n</plist>\n`;
const podfile = (targets: string): string => `platform :ios, '15.0'\n${targets}`;
const BOTH = podfile("abstract_target 'Shared' do\n  pod 'QuaymapSDK', '4.2.0'\n  target 'Pilot'\n  target 'PilotDev'\nend\n");

interface Second {
  plist?: string;
  target?: string;
  type?: string;
  pods?: string;
  products?: string;
  objects?: string;
}

function twoTargets({
  plist: list = "PilotDev/Info.plist",
  target = "15.0",
  type = "application",
  pods,
  products = "",
  objects = "",
}: Second): Files {
  const settings = (id: string, file: string, level: string): string =>
    `buildSettings = { ${level === "" ? "" : `IPHONEOS_DEPLOYMENT_TARGET = ${level}; `}PRODUCT_BUNDLE_IDENTIFIER = ${id}; INFOPLIST_FILE = ${file}; };`;
  return {
    "Pilot.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{ objectVersion = 56; objects = {
  P = { isa = PBXProject; buildConfigurationList = L; mainGroup = G; targets = ( T1, T2 ); packageReferences = ( R1 ); };
  G = { isa = PBXGroup; children = ( ); sourceTree = "<group>"; };
  L = { isa = XCConfigurationList; buildConfigurations = ( C ); };
  C = { isa = XCBuildConfiguration; name = Release; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.0; }; };
  T1 = { isa = PBXNativeTarget; name = Pilot; productType = "com.apple.product-type.application"; buildConfigurationList = L1; buildPhases = ( ); packageProductDependencies = ( ${products === "" ? "" : "D1"} ); };
  T2 = { isa = PBXNativeTarget; name = PilotDev; productType = "com.apple.product-type.${type}"; buildConfigurationList = L2; buildPhases = ( ); packageProductDependencies = ( ${products} ); };
  L1 = { isa = XCConfigurationList; buildConfigurations = ( A ); };
  L2 = { isa = XCConfigurationList; buildConfigurations = ( B1, B2 ); };
  A = { isa = XCBuildConfiguration; name = Release; ${settings("example.maresia.pilot", "Pilot/Info.plist", "15.0")} };
  B1 = { isa = XCBuildConfiguration; name = Debug; ${settings("example.maresia.pilot.dev", list, target)} };
  B2 = { isa = XCBuildConfiguration; name = Release; ${settings("example.maresia.pilot.dev", list, target)} };
  ${objects}
}; rootObject = P; }
`,
    "Pilot/Info.plist": plist(PURPOSE),
    "PilotDev/Info.plist": plist(""),
    ...(pods === undefined
      ? {}
      : { Podfile: pods, "Podfile.lock": "PODS:\n  - QuaymapSDK (4.2.0)\n\nDEPENDENCIES:\n  - QuaymapSDK (= 4.2.0)\n" }),
    ...quaymapSheet("on: ios, iosTarget: 14.0", "on: ios, purposeText: NSLocationWhenInUseUsageDescription"),
  };
}

const found = async (files: Files): Promise<string[]> =>
  (await reportOf(files)).findings.filter(({ sdk }) => sdk === "quaymap").map(({ rule, places }) => `${rule} ${places[0]?.file ?? ""}`);

const MISSING = "permit/purpose-missing PilotDev/Info.plist";

describe("an application target beside the shipped one", () => {
  it.each<[string, Second, string[]]>([
    ["has a property list of its own, without the purpose text", { pods: BOTH }, [MISSING]],
    [
      "is within the target that has the pod",
      { pods: podfile("target 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\n  target 'PilotDev' do\n    inherit! :complete\n  end\nend\n") },
      [MISSING],
    ],
    [
      "is built for older systems",
      { pods: BOTH, target: "13.0", plist: "Pilot/Info.plist" },
      ["level/below-need Pilot.xcodeproj/project.pbxproj"],
    ],
    ["has the property list of the shipped one", { pods: BOTH, plist: "Pilot/Info.plist" }, []],
    ["leaves its level to the project", { pods: BOTH, target: "", plist: "Pilot/Info.plist" }, []],
    [
      "does not have the pod",
      { pods: podfile("target 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\ntarget 'PilotDev' do\nend\n"), target: "13.0" },
      [],
    ],
    ["is not in the Podfile", { pods: podfile("target 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n"), target: "13.0" }, []],
    ["is an extension, which asks for nothing itself", { pods: BOTH, type: "app-extension" }, []],
  ])("%s", async (_, second, expected) => {
    expect(await found(twoTargets(second))).toEqual(expected);
  });

  it("takes a product of the Swift package, or does not", async () => {
    const sheet = {
      "enredo/sheets/quaymap.sdk.yaml":
        "sdk: quaymap\npackages:\n  swiftpm: https://git.quaymap.example/quaymap-ios\nneeds:\n  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }\n",
    };
    const objects =
      'R1 = { isa = XCRemoteSwiftPackageReference; repositoryURL = "https://git.quaymap.example/quaymap-ios"; requirement = { kind = exactVersion; version = 4.2.0; }; };\n  D1 = { isa = XCSwiftPackageProductDependency; package = R1; productName = Quaymap; };\n  D2 = { isa = XCSwiftPackageProductDependency; package = R1; productName = Quaymap; };\n  D3 = { isa = XCSwiftPackageProductDependency; productName = Harbour; };';
    expect(await found({ ...twoTargets({ products: "D2", objects }), ...sheet })).toContain(MISSING);
    expect(await found({ ...twoTargets({ products: "D3", objects }), ...sheet })).not.toContain(MISSING);
  });

  it("is told once where the property list that both have lacks the text", async () => {
    const files = { ...twoTargets({ pods: BOTH, plist: "Pilot/Info.plist" }), "Pilot/Info.plist": plist("") };
    expect(await found(files)).toEqual(["permit/purpose-missing Pilot/Info.plist"]);
  });

  it("and the shipped one, both too low, are two findings that are accepted apart", async () => {
    const files = twoTargets({ pods: BOTH, target: "13.0", plist: "Pilot/Info.plist" });
    const project = "Pilot.xcodeproj/project.pbxproj";
    const low = {
      ...files,
      [project]: String(files[project]).replace("example.maresia.pilot;", "example.maresia.pilot; IPHONEOS_DEPLOYMENT_TARGET = 13.0;"),
    };
    const { findings } = await reportOf(low);
    const told = findings.filter(({ rule }) => rule === "level/below-need");
    expect(told).toHaveLength(2);
    expect(new Set(told.map(({ fingerprint }) => fingerprint)).size).toBe(2);
  });

  it("check, trace and levels say the same of it", async () => {
    const files = twoTargets({ pods: BOTH, target: "13.0" });
    expect(await found(files)).toEqual(["level/below-need Pilot.xcodeproj/project.pbxproj", MISSING]);
    const { apps, traces } = await tracesOf(files, "quaymap");
    expect(
      traces.flatMap(({ sides }) => sides.flatMap(({ wires }) => wires.map(({ need, state }) => [need.what, state, need.target]))),
    ).toEqual([
      ["iosTarget 14.0", "connected", undefined],
      ["purpose text NSLocationWhenInUseUsageDescription", "connected", undefined],
      ["iosTarget 14.0 in the target PilotDev", "loose", "PilotDev"],
      ["purpose text NSLocationWhenInUseUsageDescription in the target PilotDev", "missing", "PilotDev"],
    ]);
    expect(apps.flatMap((app) => levelTable(app).map(({ level, tooLowIn }) => [level, tooLowIn]))).toEqual([["iosTarget", ["PilotDev"]]]);
  });
});
