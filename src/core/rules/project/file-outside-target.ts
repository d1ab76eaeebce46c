import { xcodeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (listed: boolean) => ({
  "Pilot.xcodeproj/project.pbxproj": xcodeExample({
    objects: `S1 = { isa = PBXFileReference; path = AppDelegate.swift; sourceTree = "<group>"; };\n    S2 = { isa = PBXFileReference; path = Chart.swift; sourceTree = "<group>"; };\n    SB1 = { isa = PBXBuildFile; fileRef = S1; };\n    SB2 = { isa = PBXBuildFile; fileRef = S2; };\n    SP = { isa = PBXSourcesBuildPhase; files = ( SB1, ${listed ? "SB2, " : ""}); };`,
    children: ["S1", "S2"],
  }).replace("buildPhases = ( )", "buildPhases = ( SP )"),
  "AppDelegate.swift": "import UIKit\n\n@main\nclass AppDelegate: UIResponder, UIApplicationDelegate {\n  let chart = Chart()\n}\n",
  "Chart.swift": "final class Chart {}\n",
});

export const fileOutsideTarget = defineRule({
  name: "project/file-outside-target",
  severity: "error",
  title: "A target uses a file that no target compiles",
  looksAt:
    "Swift and Objective-C files that are next to a target's files in the Xcode project but belong to no target, where the target's code uses a type of theirs. Folders that belong to a target as a whole are left alone.",
  silentFor: "Apps without an Xcode project in the tree, and those whose project names no source files.",
  why: "The build stops at the first use of the type; a merge of the project file loses such lines without a conflict.",
  advice: "Add the file to the target again.",
  examples: { reported: app(false), silent: app(true) },
  check({ app: { code } }) {
    return (code?.outside ?? []).map(({ file, name, at, used }) => ({
      side: "ios",
      message: `${file.split("/").at(-1) ?? file} is compiled by no target, and its ${name} is used in ${used.file.split("/").at(-1) ?? used.file}`,
      fix: "add the file to the target",
      places: [at, used],
      subject: file.split("/").at(-1) ?? file,
    }));
  },
});
