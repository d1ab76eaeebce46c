import { iosExample, xcodeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const part = (identifier: string, variant = ""): string =>
  `<dict><key>LibraryIdentifier</key><string>${identifier}</string><key>LibraryPath</key><string>Quaymap.framework</string><key>SupportedPlatform</key><string>ios</string>${variant}</dict>`;
const SIMULATOR = part("ios-arm64_x86_64-simulator", "<key>SupportedPlatformVariant</key><string>simulator</string>");
const linked = xcodeExample({
  children: ["F1"],
  objects: `F1 = { isa = PBXFileReference; lastKnownFileType = wrapper.xcframework; path = Quaymap.xcframework; sourceTree = "<group>"; };
    B1 = { isa = PBXBuildFile; fileRef = F1; };
    H1 = { isa = PBXFrameworksBuildPhase; files = ( B1, ); };`,
}).replace("buildPhases = ( )", "buildPhases = ( H1, )");
const example = (parts: string) =>
  iosExample(
    {},
    {
      "Pilot.xcodeproj/project.pbxproj": linked,
      "Quaymap.xcframework/Info.plist": `<plist version="1.0"><dict><key>AvailableLibraries</key><array>${parts}</array></dict></plist>\n`,
    },
  );

export const sliceMissing = defineRule({
  name: "native/slice-missing",
  severity: "error",
  title: "A framework has no slice for devices",
  looksAt:
    "The slices of XCFrameworks that targets link and installed packages contain: one for iOS devices is required. A missing one for simulators is a note.",
  silentFor: "Android.",
  why: "The app builds for the simulator but not for a device, which only shows when it is archived.",
  advice: "Use the vendor's complete framework.",
  examples: { reported: example(SIMULATOR), silent: example(SIMULATOR + part("ios-arm64")) },
  check({ app }) {
    return app.frameworks
      .filter(({ devices, simulators }) => !devices || !simulators)
      .map(({ name, by, sdk, devices, at }) => ({
        side: "ios" as const,
        sdk,
        ...(devices ? { severity: "note" as const } : {}),
        message: `${name}${by === name ? "" : ` of ${by}`} has no slice for ${devices ? "simulators" : "iOS devices"}`,
        fix: `use a framework that has ${devices ? "one, if you use simulators" : "one"}`,
        places: [at],
        subject: `${by} ${name} ${devices ? "simulators" : "devices"}`,
      }));
  },
});
