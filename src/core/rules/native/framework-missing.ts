import { findingsFromWires } from "../from-wires.js";
import { iosExample, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = {
  "enredo/sheets/quaymap.sdk.yaml": (
    quaymapSheet("on: ios, systemFramework: CoreLocation")["enredo/sheets/quaymap.sdk.yaml"] ?? ""
  ).replace("  maven:", "  binary: Quaymap.xcframework\n  maven:"),
};
const objects = (system: boolean): string =>
  `F1 = { isa = PBXFileReference; path = Quaymap.xcframework; sourceTree = "<group>"; };\n    F2 = { isa = PBXFileReference; name = CoreLocation.framework; path = System/Library/Frameworks/CoreLocation.framework; sourceTree = SDKROOT; };\n    B1 = { isa = PBXBuildFile; fileRef = F1; };\n    B2 = { isa = PBXBuildFile; fileRef = F2; };\n    K1 = { isa = PBXFrameworksBuildPhase; files = ( B1, ${system ? "B2, " : ""}); };`;
const app = (system: boolean) => {
  const example = iosExample(
    { objects: objects(system), children: ["F1", "F2"] },
    { ...sheet, "Quaymap.xcframework/Info.plist": "<plist><dict/></plist>" },
  );
  return {
    ...example,
    "Pilot.xcodeproj/project.pbxproj": (example["Pilot.xcodeproj/project.pbxproj"] ?? "").replace(
      "buildPhases = ( )",
      "buildPhases = ( K1, )",
    ),
  };
};

export const frameworkMissing = defineRule({
  name: "native/framework-missing",
  severity: "error",
  title: "A system framework that the SDK needs is not linked",
  looksAt:
    "System frameworks and libraries that a sheet names, where the SDK comes as a binary in the tree. Packages link what they need themselves.",
  why: "The linker stops with missing symbols; with a dynamic binary the app crashes at launch.",
  advice: "Link the framework in the app's target.",
  examples: { reported: app(false), silent: app(true) },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "native/framework-missing" });
  },
});
