import { samePlace } from "../../model/place.js";
import { findingsFromWires } from "../from-wires.js";
import { iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** How a static library begins. */
const ARCHIVE = "!<arch>\nobject.o/       ";
const objects = (embedded: boolean): string =>
  `F1 = { isa = PBXFileReference; path = Moorid.framework; sourceTree = "<group>"; };\n    B1 = { isa = PBXBuildFile; fileRef = F1; };\n    B2 = { isa = PBXBuildFile; fileRef = F1; };\n    K1 = { isa = PBXFrameworksBuildPhase; files = ( B1, ); };\n    K2 = { isa = PBXCopyFilesBuildPhase; dstSubfolderSpec = 10; files = ( ${embedded ? "B2, " : ""}); };`;
const app = (embedded: boolean) => {
  const example = iosExample({ objects: objects(embedded), children: ["F1"] }, { "Moorid.framework/Moorid": ARCHIVE });
  return {
    ...example,
    "Pilot.xcodeproj/project.pbxproj": (example["Pilot.xcodeproj/project.pbxproj"] ?? "").replace(
      "buildPhases = ( )",
      "buildPhases = ( K1, K2, )",
    ),
  };
};

export const notEmbedded = defineRule({
  name: "native/not-embedded",
  severity: "error",
  title: "A framework is linked but not embedded, or the other way round",
  looksAt:
    "Frameworks in the tree that the target links or embeds: what the binary is, is read from its first bytes. Further what sheets say of a binary.",
  silentFor: "Apps without an Xcode project in the tree: .NET, Unity, Expo and Cordova before the native folders are made.",
  why: "A dynamic framework that is not embedded is not on the device, and the app crashes at launch; a static one that is embedded is rejected by the store.",
  advice: "Set a dynamic framework to Embed & Sign, a static one to Do Not Embed.",
  examples: { reported: app(true), silent: app(false) },
  check({ app: model, wires }) {
    const found = findingsFromWires(wires, { rule: "native/not-embedded" });
    for (const { name, linked, embedded, form, target, at } of model.links) {
      const missing = form === "dynamic" && linked && !embedded;
      const surplus = form === "static" && embedded;
      if ((!missing && !surplus) || found.some(({ places }) => places.some((place) => samePlace(place, at)))) continue;
      found.push({
        side: "ios",
        message: missing
          ? `${name} is a dynamic framework that is linked but not embedded in ${target}`
          : `${name} is a static library but is embedded in ${target}`,
        fix: missing ? `set ${name} to Embed & Sign` : `set ${name} to Do Not Embed`,
        places: [at],
        subject: `${name} ${missing ? "not embedded" : "embedded"}`,
      });
    }
    return found;
  },
});
