import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { androidBlock, androidExample, xcodeExample } from "../../src/core/rules/examples.js";
import { WordIndex } from "../../src/core/gather/code/word-index.js";
import { reportOf, surveyOf } from "../helpers/memory.js";

type Files = Record<string, string>;
const messagesOf = async (files: Files, rule: RegExp): Promise<string[]> =>
  (await reportOf(files)).findings.flatMap((finding) => (rule.test(finding.rule) ? [`${finding.severity}: ${finding.message}`] : []));

/** An iOS app that takes in a resource, by the lines of its project. */
const withResource = (objects: string, children: string, plist: string): Files => ({
  "Pilot.xcodeproj/project.pbxproj": xcodeExample({
    objects: `${objects}\n    R1 = { isa = PBXResourcesBuildPhase; files = ( B1, ); };\n    B1 = { isa = PBXBuildFile; fileRef = F1; };`,
    children: children.split(" "),
    settings: 'INFOPLIST_FILE = "Info.plist";',
  }).replace("buildPhases = ( )", "buildPhases = ( R1, )"),
  "Info.plist": `<?xml version="1.0"?>\n<plist version="1.0"><dict>\n<key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>\n${plist}</dict></plist>\n`,
});

describe("what an Xcode project takes in", () => {
  it("a screen for the launch may be a nib, and lie beside the project", async () => {
    const app = (path: string): Files =>
      withResource(
        `F1 = { isa = PBXFileReference; lastKnownFileType = file.xib; name = Launch.xib; path = ${path}; sourceTree = "<group>"; };`,
        "F1",
        "<key>UILaunchStoryboardName</key><string>Launch</string>\n",
      );
    expect(await messagesOf({ ...app("../Shared/Launch.xib"), "Shared/Launch.xib": "<document/>" }, /component-broken/)).toEqual([]);
    expect(await messagesOf(app("Other.xib"), /component-broken/)).toHaveLength(1);
  });

  it("a text that lacks in many languages is told once, in few each", async () => {
    const app = (languages: string[]): Files =>
      withResource(
        `F1 = { isa = PBXVariantGroup; name = Port.strings; children = ( ${languages.map((one) => `V${one}, `).join("")}); sourceTree = "<group>"; };\n${languages.map((one) => `    V${one} = { isa = PBXFileReference; lastKnownFileType = text.plist.strings; name = ${one}; path = ${one}.lproj/Port.strings; sourceTree = "<group>"; };`).join("\n")}`,
        "F1",
        "",
      );
    expect(await messagesOf(app(["de", "fr"]), /binary-missing/)).toEqual([
      "error: the file de.lproj/Port.strings is referred to here but is missing",
      "error: the file fr.lproj/Port.strings is referred to here but is missing",
    ]);
    expect(await messagesOf(app(["da", "de", "fr", "it", "nl"]), /binary-missing/)).toEqual([
      "error: the file da.lproj/Port.strings (and those of 4 more languages) is referred to here but is missing",
    ]);
  });

  it("what a template leaves open is nobody's mistake", async () => {
    const template = xcodeExample({
      objects:
        '$more_files\n    F1 = { isa = PBXFileReference; lastKnownFileType = archive.ar; path = "$port.a"; sourceTree = "<group>"; };',
      children: ["F1"],
    });
    const survey = surveyOf({ "Pilot.xcodeproj/project.pbxproj": template });
    expect(survey.unreadable.every((one) => one.template)).toBe(true);
    expect(await messagesOf({ "Pilot.xcodeproj/project.pbxproj": template }, /./)).toEqual([]);
  });

  it("a pod that runs commands first may write its own files", async () => {
    const app = (prepares: string): Files => ({
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
      "ios/Podfile": "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'Berths', :path => '../berths'\nend\n",
      "berths/Berths.podspec": `Pod::Spec.new do |s|\n  s.name = 'Berths'\n  s.version = '1.0.0'\n  s.ios.deployment_target = '15.0'\n  s.source_files = 'gen/*.swift'\n${prepares}end\n`,
    });
    expect(await messagesOf(app(""), /binary-missing/)).toHaveLength(1);
    expect(await messagesOf(app("  s.prepare_command = 'make gen'\n"), /binary-missing/)).toEqual([]);
  });
});

describe("what an Xcode project says twice, or almost", () => {
  it("a bundle id in the property list beside another of the build", async () => {
    const app = (id: string): Files => {
      const files = withResource('F1 = { isa = PBXFileReference; path = Base.strings; sourceTree = "<group>"; };', "F1", "");
      return { ...files, "Base.strings": "", "Info.plist": (files["Info.plist"] ?? "").replace("$(PRODUCT_BUNDLE_IDENTIFIER)", id) };
    };
    expect(await messagesOf(app("example.maresia.skipper"), /ids-differ/)).toEqual([
      "warning: the property list has the bundle id example.maresia.skipper, and the build example.maresia.pilot",
    ]);
    expect(await messagesOf(app("example.maresia.pilot"), /ids-differ/)).toEqual([]);
    expect(await messagesOf(app("$(PRODUCT_BUNDLE_IDENTIFIER)"), /ids-differ/)).toEqual([]);
  });

  it("a pod whose module is almost the one that is imported", async () => {
    const app = (pod: string, module: string): Files => ({
      "Pilot.xcodeproj/project.pbxproj": xcodeExample(),
      Podfile: `platform :ios, '15.0'\ntarget 'Pilot' do\n  pod '${pod}', '~> 4.2'\n  pod 'Brinelog', '~> 2.4'\nend\n`,
      "Pilot/Map.swift": `import SwiftUI\nimport ${module}\nimport Brinelog\n\nfunc show() { Quaymap.show() }\n`,
    });
    expect(await messagesOf(app("Quaymap-Swft", "Quaymap_Swift"), /declared-elsewhere/)).toHaveLength(1);
    expect(await messagesOf(app("Quaymap-Swift", "Quaymap_Swift"), /declared-elsewhere/)).toEqual([]);
    expect(await messagesOf(app("Quaymap-Swift", "TidewireKit"), /declared-elsewhere/)).toEqual([]);
  });

  it("code of another project beside it is not its own", async () => {
    const source = (name: string, id: string): string =>
      `S${id} = { isa = PBXFileReference; path = ${name}; sourceTree = "<group>"; };\n    B${id} = { isa = PBXBuildFile; fileRef = S${id}; };`;
    const app: Files = {
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample({
        objects: `${source("Pilot.swift", "1")}\n    SP = { isa = PBXSourcesBuildPhase; files = ( B1, ); };`,
        children: ["S1"],
      }).replace("buildPhases = ( )", "buildPhases = ( SP, )"),
      "ios/Pilot.swift": "import UIKit\n\n@main\nclass Pilot: UIResponder, UIApplicationDelegate {\n  let chart = Chart()\n}\n",
      "ios/Chart.swift": "final class Chart {}\n",
      "settings.gradle": "include ':app'\n",
      "app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock()}`,
      "mac/Desk.xcodeproj/project.pbxproj": xcodeExample({ id: "example.maresia.desk" }).replaceAll("iphoneos", "macosx"),
      "mac/Chart.swift": "final class Chart {}\n",
    };
    expect(await messagesOf(app, /file-outside-target/)).toHaveLength(1);
  });
});

describe("a project of .NET", () => {
  const app = (file: string): Files => ({
    "Lock.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <Import Project="targets.props" />
  <PropertyGroup>
    <TargetFrameworks>net9.0-android;net9.0-ios</TargetFrameworks>
    <TargetFrameworks Condition="$([MSBuild]::IsOSPlatform('windows'))">$(TargetFrameworks);net9.0-windows10.0.19041.0</TargetFrameworks>
    <OutputType>Exe</OutputType>
    <UseMaui>true</UseMaui>
    <ApplicationId>example.maresia.lock</ApplicationId>
    <SupportedOSPlatformVersion Condition="'$(IsAndroid)' == 'true'">24.0</SupportedOSPlatformVersion>
    <SupportedOSPlatformVersion Condition="'$(IsWindows)' == 'true'">10.0.17763.0</SupportedOSPlatformVersion>
    <SupportedOSPlatformVersion Condition="'$(IsIos)' == 'true'">15.0</SupportedOSPlatformVersion>
  </PropertyGroup>
  <ItemGroup><MauiFont Include="Resources\\Fonts\\*" /></ItemGroup>
</Project>
`,
    "targets.props": `<Project>
  <PropertyGroup>
${["Android", "Ios", "Windows"].map((name) => `    <Is${name} Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == '${name.toLowerCase()}'">true</Is${name}>`).join("\n")}
  </PropertyGroup>
</Project>
`,
    "MauiProgram.cs": `public static class MauiProgram {\n  public static MauiApp CreateMauiApp() {\n    var builder = MauiApp.CreateBuilder();\n    builder.UseMauiApp<App>().ConfigureFonts(fonts => fonts.AddFont("${file}", "Signs"));\n    return builder.Build();\n  }\n}\n`,
    "Resources/Fonts/Signs-Semibold.ttf": "font",
  });

  it("switches that are on for one target are off for the others", () => {
    const [lock] = surveyOf(app("Signs-Semibold.ttf")).apps;
    expect(lock?.android?.effective.minSdk).toMatchObject({ kind: "known", text: "24" });
    expect(lock?.ios?.effective.iosTarget).toMatchObject({ kind: "known", text: "15.0" });
  });

  it("finds a font by its letters as they are", async () => {
    expect(await messagesOf(app("Signs-Semibold.ttf"), /asset-missing/)).toEqual([]);
    expect(await messagesOf(app("Signs-SemiBold.ttf"), /asset-missing/)).toHaveLength(1);
  });
});

describe("a repository with several projects", () => {
  const module = (id: string): string =>
    `apply plugin: 'com.android.application'\n${androidBlock(`applicationId '${id}'\n    minSdk 24\n    targetSdk 35`)}`;

  it("an Xcode project far from the only application is an app of its own, one beside it is its other phone", () => {
    const apps = (folder: string): string[] =>
      surveyOf({
        "settings.gradle": "include ':port'\nproject(':port').projectDir = file('apps/port')\n",
        "apps/port/build.gradle": module("example.maresia.port"),
        [`${folder}/Viewer.xcodeproj/project.pbxproj`]: xcodeExample({ id: "example.maresia.viewer" }),
      }).apps.map(({ android, ios }) => `${android ? "android" : ""} ${ios ? "ios" : ""}`.trim());
    expect(apps("apps/phone")).toEqual(["android ios"]);
    expect(apps("core/samples/viewer").sort()).toEqual(["android", "ios"]);
  });

  it("an application that no settings include is told, and so is a module whose folder is gone", async () => {
    const files: Files = {
      "settings.gradle": "include ':port', ':quay'\n",
      "port/build.gradle": module("example.maresia.port"),
      "kiosk/build.gradle": module("example.maresia.kiosk"),
      "tests/kiosk/build.gradle": module("example.maresia.tested"),
    };
    const report = await reportOf(files);
    expect(report.blindSpots.map(({ what }) => what)).toEqual(["kiosk/build.gradle"]);
    expect(await messagesOf(files, /binary-missing/)).toEqual([
      "warning: the settings include the module :quay, but its folder quay is not there",
    ]);
  });

  it("what lies in a submodule that is not checked out is not missing", async () => {
    const app = (modules: string): Files => ({
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
      "ios/Podfile": "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'Berths', :path => '../vendor/berths'\nend\n",
      ".gitmodules": modules,
    });
    const listed = app('[submodule "berths"]\n\tpath = vendor/berths\n\turl = https://git.maresia.example/berths.git\n');
    expect(await messagesOf(app(""), /binary-missing/)).toHaveLength(1);
    expect(await messagesOf(listed, /binary-missing/)).toEqual([]);
    expect((await reportOf(listed)).blindSpots.map(({ what, why }) => `${what}: ${reasonText(why)}`)).toContain(
      "vendor/berths: a submodule that is not checked out",
    );
  });

  it("a module alone takes nothing from a root script that lies elsewhere", async () => {
    const files: Files = {
      "app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock().replace("compileSdk 35", "compileSdk rootProject.ext.compileLevel")}`,
    };
    expect(await messagesOf(files, /binary-missing/)).toEqual([]);
    const whole = { ...files, "settings.gradle": "include ':app'\n", "build.gradle": "ext { targetLevel = 35 }\n" };
    expect(await messagesOf(whole, /binary-missing/)).toHaveLength(1);
  });

  it("a part of a build says nothing of repositories and ids that the rest has", async () => {
    const script = `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig { minSdk 24 }\n  flavorDimensions 'shop'\n  productFlavors {\n    port {\n      dimension 'shop'\n      applicationId 'example.maresia.port'\n    }\n  }\n  buildTypes { debug { applicationIdSuffix '.debug' } }\n}\nrepositories { mavenCentral() }\ndependencies { implementation 'androidx.core:core-ktx:1.15.0' }\n`;
    const rules = /repository-missing|build-stops/;
    expect(await messagesOf({ "app/build.gradle": script }, rules)).toEqual([]);
    const whole = { "app/build.gradle": script, "settings.gradle": "include ':app'\n", "build.gradle": "" };
    expect(await messagesOf(whole, rules)).toHaveLength(1);
  });

  it("a module is found by the end of a path that begins with what only the build knows", () => {
    const modules = (folder: string): number | undefined =>
      surveyOf({
        "settings.gradle": `include ':port', ':sync'\nproject(':sync').projectDir = new File("\${gradle.checkout.folder}/${folder}")\n`,
        "port/build.gradle": `${module("example.maresia.port")}dependencies { implementation project(':sync') }\n`,
        "libraries/sync/build.gradle": "apply plugin: 'com.android.library'\nandroid { namespace 'example.maresia.sync' }\n",
      }).apps[0]?.android?.modules.flatMap(({ settings }) => settings.filter(({ name }) => name === "namespace")).length;
    expect(modules("libraries/sync")).toBe(1);
    expect(modules("elsewhere/sync")).toBe(0);
  });

  it("resources of a module are imported by its namespace, with no code beside it; those of one that was not found are not known", async () => {
    const app = (reference: string, label = "@string/port"): Files => ({
      "settings.gradle": "include ':port', ':core', ':ui'\n",
      "port/build.gradle": `${module("example.maresia.port")}dependencies {\n${reference}}\n`,
      "port/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android"><application android:label="${label}" /></manifest>\n`,
      "port/src/main/res/values/strings.xml": '<resources><string name="port">Port</string></resources>\n',
      "port/src/main/java/example/maresia/port/Main.kt":
        "package example.maresia.port\n\nimport example.maresia.core.R\n\nval icon = R.drawable.buoy\n",
      "core/build.gradle": "apply plugin: 'com.android.library'\nandroid { namespace 'example.maresia.core' }\n",
      "core/src/main/java/example/maresia/core/map/Chart.kt": "package example.maresia.core.map\n\nclass Chart\n",
      "core/src/main/res/drawable/buoy.xml": "<vector />\n",
      "ui/build.gradle": "apply plugin: 'com.android.library'\nandroid { namespace 'example.maresia.ui' }\n",
    });
    const core = "  implementation project(':core')\n";
    expect(await messagesOf(app(core), /declared-elsewhere|component-broken/)).toEqual([]);
    expect(await messagesOf(app("  implementation project(':ui')\n"), /declared-elsewhere/)).toHaveLength(1);
    expect(await messagesOf(app(core, "@string/quay"), /component-broken/)).toHaveLength(1);
    expect(await messagesOf(app(`${core}  implementation project(':words')\n`, "@string/quay"), /component-broken/)).toEqual([]);
  });

  it("an expression in a text of Kotlin may go over several lines, with texts in it", () => {
    const script = (version: string): string =>
      `plugins { id("com.android.application") }\nval banner = "built by \${listOf("a", "b").joinToString(\n  ", ",\n  transform = { "<\${it}\${if (it == "a") "" else " {"}>" },\n)}"\nval raw = """public static final String NAME = "([^"]+)""""\nandroid {\n  compileSdk = 35\n  defaultConfig {\n    applicationId = "example.maresia.port"\n    minSdk = ${version}\n  }\n}\n`;
    const survey = surveyOf({ "settings.gradle.kts": 'include(":port")\n', "port/build.gradle.kts": script("26") });
    expect(survey.unreadable).toEqual([]);
    expect(survey.apps[0]?.android?.effective.minSdk).toMatchObject({ text: "26" });
    const halfWritten = script("26").replace('", ",\n', "").replace("\n)}", "\n)");
    expect(surveyOf({ "settings.gradle.kts": 'include(":port")\n', "port/build.gradle.kts": halfWritten }).unreadable).not.toEqual([]);
  });

  it("what a module that was not found declares is not known", async () => {
    const app = (reference: string): Files => ({
      ...androidExample(`${androidBlock()}dependencies {\n${reference}}\n`, {
        "app/src/main/AndroidManifest.xml": '<manifest xmlns:android="http://schemas.android.com/apk/res/android" />\n',
        "app/src/main/java/example/maresia/pilot/Scan.kt":
          "package example.maresia.pilot\n\nimport android.Manifest\nimport android.app.Activity\n\nfun scan(activity: Activity) = activity.requestPermissions(arrayOf(Manifest.permission.CAMERA), 1)\n",
      }),
    });
    expect(await messagesOf(app(""), /permission-missing/)).toHaveLength(1);
    expect(await messagesOf(app("  implementation project(':scanner')\n"), /permission-missing/)).toEqual([]);
  });
});

describe("versions of one package in several modules", () => {
  const app = (other: string): Files =>
    androidExample(
      `${androidBlock()}dependencies {\n  implementation project(':charts')\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`,
      {
        "settings.gradle": "include ':app', ':charts'\n",
        "charts/build.gradle": `apply plugin: 'com.android.library'\ndependencies {\n  ${other}\n}\n`,
      },
    );
  it.each([
    ["another minor version is a warning", "implementation 'example.quaymap:quaymap-android:4.0.1'", ["warning"]],
    ["another major version is an error", "implementation 'example.quaymap:quaymap-android:3.9.0'", ["error"]],
    ["that of one flavour is its own", "stagingImplementation 'example.quaymap:quaymap-android:3.9.0'", []],
  ])("%s", async (_, other, severities) => {
    expect((await messagesOf(app(other), /version\/conflict/)).map((one) => one.split(":")[0])).toEqual(severities);
  });
});

describe("keys that say what they are for", () => {
  it("are told once, by their sheet where one names them", async () => {
    const live =
      "  flavorDimensions 'stage'\n  productFlavors {\n    live {\n      dimension 'stage'\n      buildConfigField 'String', 'MAP_KEY', '\"qm_test_0a1b2c3d4e5f\"'\n    }\n  }\n";
    const app: Files = androidExample(
      androidBlock().replace(/\}\n$/, `${live}}\n`).concat("dependencies { implementation 'example.quaymap:quaymap-android:4.2.0' }\n"),
    );
    const sheet =
      'sdk: quaymap\npackages: { maven: "example.quaymap:quaymap-android" }\nneeds:\n  - { on: android, key: { name: mapKey, in: [ buildConfig: MAP_KEY ], environments: { test: "^qm_test", live: "^qm_live" } } }\n';
    expect(await messagesOf(app, /key\/environment/)).toEqual(["warning: MAP_KEY of live has a key for tests (qm_test_…)"]);
    expect(await messagesOf({ ...app, "enredo/sheets/quaymap.sdk.yaml": sheet }, /key\/environment/)).toHaveLength(1);
  });
});

describe("an index of words", () => {
  it("finds the same texts before and after it is made, for names of any sign", () => {
    const texts = Array.from({ length: 50 }, (_, index) => ({ text: `berth${index} $quay pier-${index % 5} größe${index % 3}` }));
    const index = new WordIndex(texts);
    const names = ["berth7", "$quay", "pier-3", "größe1", "nowhere", ""];
    const counts = (): number[] => names.map((name) => index.having(name).length);
    const first = counts();
    for (let round = 0; round < 100; round++) index.having(`berth${round % 50}`);
    expect(first.slice(1)).toEqual(counts().slice(1));
    expect(index.having("berth7")).toEqual([texts[7]]);
    expect(first).toEqual([1, 50, 10, 17, 0, 0]);
  });
});
