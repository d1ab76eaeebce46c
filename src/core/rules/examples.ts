import type { Example } from "./rule.js";

/** An Android app of one module, for the examples of the rules: `app` is the body of its build script. */
export function androidExample(app: string, more: Example = {}): Example {
  return {
    "settings.gradle": "include ':app'\n",
    "build.gradle": "allprojects {\n  repositories {\n    google()\n    mavenCentral()\n  }\n}\n",
    "app/build.gradle": `apply plugin: 'com.android.application'\n\n${app}\n`,
    ...more,
  };
}

/** An `android` block with the usual levels. */
export function androidBlock(settings = "minSdk 24\n    targetSdk 35", id = "example.maresia.pilot"): string {
  return `android {\n  compileSdk 35\n  defaultConfig {\n    applicationId '${id}'\n    ${settings}\n  }\n}\n`;
}

export interface XcodeExample {
  id?: string;
  target?: string;
  projectTarget?: string;
  /** Further settings of the target, one per line. */
  settings?: string;
  /** Further objects of the project file. */
  objects?: string;
  /** Ids of further children of the main group. */
  children?: string[];
}

/** A project file with one application target. */
export function xcodeExample({
  id = "example.maresia.pilot",
  target = "15.0",
  projectTarget,
  settings = "",
  objects = "",
  children = [],
}: XcodeExample = {}): string {
  return `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    P1 = { isa = PBXProject; buildConfigurationList = L1; mainGroup = G1; targets = ( T1, ); };
    G1 = { isa = PBXGroup; children = ( ${children.map((child) => `${child}, `).join("")}); sourceTree = "<group>"; };
    T1 = { isa = PBXNativeTarget; name = Pilot; productType = "com.apple.product-type.application"; buildConfigurationList = L2; buildPhases = ( ); };
    L1 = { isa = XCConfigurationList; buildConfigurations = ( C1, ); defaultConfigurationName = Release; };
    L2 = { isa = XCConfigurationList; buildConfigurations = ( C2, ); defaultConfigurationName = Release; };
    C1 = { isa = XCBuildConfiguration; name = Release; buildSettings = { ${projectTarget ? `IPHONEOS_DEPLOYMENT_TARGET = ${projectTarget}; ` : ""}SDKROOT = iphoneos; }; };
    C2 = { isa = XCBuildConfiguration; name = Release; buildSettings = {
      IPHONEOS_DEPLOYMENT_TARGET = ${target};
      PRODUCT_BUNDLE_IDENTIFIER = ${id};
      ${settings}
    }; };
    ${objects}
  };
  rootObject = P1;
}
`;
}

/** An iOS app whose project lies in `folder`. */
export function iosExample(xcode: XcodeExample = {}, more: Example = {}, folder = ""): Example {
  return { [`${folder}Pilot.xcodeproj/project.pbxproj`]: xcodeExample(xcode), ...more };
}

/** A React Native app with an Android side; `packages` become its dependencies. */
export function reactNativeExample(packages: Record<string, string>, more: Example = {}): Example {
  const android = androidExample(androidBlock());
  return {
    "package.json": JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", ...packages } }, undefined, 2),
    ...Object.fromEntries(Object.entries(android).map(([file, text]) => [`android/${file}`, text])),
    ...more,
  };
}
