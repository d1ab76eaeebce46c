import { describe, expect, it } from "vitest";
import { isPlaceholderSentence, isPlaceholderText } from "../../src/core/knowledge/placeholder-texts.js";
import { buildRegions, variantAt } from "../../src/core/gather/platforms/build-regions.js";
import { isAside } from "../../src/core/gather/platforms/own-files.js";
import { isTestScope } from "../../src/core/gather/platforms/android/configurations.js";
import {
  androidBlock,
  androidExample,
  quaymapAndroid,
  quaymapIos,
  quaymapSheet,
  reactNativeExample,
  serviceJson,
  xcodeExample,
} from "../../src/core/rules/examples.js";
import { brinelogSheet, scriptExample, startExample } from "../../src/core/rules/start/examples.js";
import { compareSides } from "../../src/core/project/compare.js";
import { gitReference } from "../../src/core/versions/git-reference.js";
import { covers } from "../../src/core/needs/keep-rule.js";
import { traceText } from "../../src/views/text/trace.js";
import { styleFor } from "../../src/views/text/style.js";
import { reportOf, surveyOf, tracesOf } from "../helpers/memory.js";

type Files = Record<string, string>;
const rulesOf = async (files: Files): Promise<string[]> => (await reportOf(files)).findings.map(({ rule }) => rule);
const messagesOf = async (files: Files, rule: string): Promise<string[]> =>
  (await reportOf(files)).findings.flatMap((finding) => (finding.rule === rule ? [`${finding.side ?? ""}: ${finding.message}`] : []));
/** The states of an SDK's wires of one kind, by side. */
const statesOf = async (files: Files, kind: string, sdk = "quaymap"): Promise<Record<string, string>> =>
  Object.fromEntries(
    (await tracesOf(files, sdk)).traces.flatMap(({ sides }) =>
      sides.flatMap(({ side, wires }) => wires.flatMap(({ need, state }) => (need.kind === kind ? [[side, state] as const] : []))),
    ),
  );

const maui = (program: string): Files => ({
  "Lock.csproj":
    '<Project Sdk="Microsoft.NET.Sdk"><PropertyGroup><TargetFrameworks>net9.0-android;net9.0-ios</TargetFrameworks><OutputType>Exe</OutputType><UseMaui>true</UseMaui><ApplicationId>example.maresia.lock</ApplicationId></PropertyGroup><ItemGroup><PackageReference Include="Quaymap.Mobile" Version="4.2.0" /></ItemGroup></Project>',
  "MauiProgram.cs": program,
  "enredo/sheets/quaymap.sdk.yaml":
    "sdk: quaymap\npackages: { nuget: Quaymap.Mobile }\nneeds:\n  - { on: both, start: { android: Quaymap.Start, ios: Quaymap.Start, shared: Quaymap.Start } }\n",
});
const builder = (start: string): string =>
  `using Quaymap.Mobile;\npublic static class MauiProgram {\n  public static MauiApp CreateMauiApp() {\n    var builder = MauiApp.CreateBuilder();\n${start}\n    return builder.Build();\n  }\n}\n`;

describe("a start is connected only on the side that runs it", () => {
  it("in C# behind a condition of one platform", async () => {
    expect(await statesOf(maui(builder("    Quaymap.Start();")), "start")).toEqual({ android: "connected", ios: "connected" });
    expect(await statesOf(maui(builder("#if ANDROID\n    Quaymap.Start();\n#endif")), "start")).toEqual({
      android: "connected",
      ios: "missing",
    });
  });

  it("in scripts behind a condition of one platform", async () => {
    const app = (start: string): Files => ({
      ...scriptExample(
        `import { Platform } from "react-native";\nimport Quaymap from "@quaymap/react-native";\n${start}\nexport default () => null;\n`,
        ["on: both, start: { shared: Quaymap.start }"],
      ),
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
      "node_modules/@quaymap/react-native/quaymap.podspec": 'Pod::Spec.new do |s|\n  s.name = "quaymap"\nend\n',
    });
    expect(await statesOf(app("Quaymap.start();"), "start")).toEqual({ android: "connected", ios: "connected" });
    expect(await statesOf(app('if (Platform.OS === "android") {\n  Quaymap.start();\n}'), "start")).toEqual({
      android: "connected",
      ios: "missing",
    });
    const both = 'if (Platform.OS === "android" || Platform.OS === "ios") {\n  Quaymap.start();\n}';
    expect(await statesOf(app(both), "start")).toEqual({ android: "connected", ios: "connected" });
  });

  it("in debug builds alone, where it goes into those alone", async () => {
    const example = startExample({ onCreate: "    if (BuildConfig.DEBUG) Quaymap.start(this)\n" });
    expect(await statesOf(example, "start")).toEqual({ android: "loose" });
    const build = example["app/build.gradle"]?.replace("implementation 'example.quaymap", "debugImplementation 'example.quaymap") ?? "";
    expect(build).toContain("debugImplementation");
    expect(await statesOf({ ...example, "app/build.gradle": build }, "start")).toEqual({ android: "connected" });
  });

  it("and a word in a comment or a text is no call", async () => {
    expect(await rulesOf(startExample({ onCreate: "    // Quaymap.start(this) comes with the next release\n" }))).toContain(
      "start/missing",
    );
    expect(await rulesOf(startExample({ onCreate: '    log("Quaymap.start is not called")\n' }))).not.toContain("start/unused");
  });
});

describe("a start that is missing is told although other SDKs are started beside it", () => {
  const both = (onCreate: string): Files => ({
    ...startExample({ onCreate: `${onCreate}\n` }),
    ...brinelogSheet,
  });
  it.each([
    ["another type's call of the same name", "    Brinelog.start(this)\n    Quaymap.setKey(key)", true],
    ["the type alone", "    Brinelog.start(this)\n    val mode = Quaymap.Mode.NIGHT", true],
    ["both words of one call", "    Brinelog.start(this)\n    Quaymap.start(this)", false],
    ["a variable that holds it", "    Brinelog.start(this)\n    val map = Quaymap(this)\n    map.start()", false],
    ["a list of things to start", "    listOf(Quaymap, Tidewire).forEach { it.start(this) }", false],
  ])("%s", async (_, onCreate, told) => {
    expect((await messagesOf(both(onCreate), "start/missing")).some((message) => message.includes("quaymap"))).toBe(told);
  });
});

describe("texts of instructions", () => {
  it.each([
    "We show your location while you use the app.",
    "Add photos of your ticket with the camera.",
    "Your contacts help you to put the names of friends in.",
    "Enter your harbour with one tap: the app reads the location.",
    "Replace your old pass by taking a picture of the new one here.",
    "Insert the name of a friend from your contacts.",
    "So that we can paste your address here.",
    "This is used to show your api of choice",
  ])("are none of natural sentences: %s", (text) => {
    expect([isPlaceholderSentence(text), isPlaceholderText(text)]).toEqual([false, false]);
  });

  it.each(["<say what it is used for>", "‹reason›", "TODO: say why", "The app uses YOUR_REASON_HERE for maps", "{{reason}}"])(
    "are marked in sentences: %s",
    (text) => {
      expect(isPlaceholderSentence(text)).toBe(true);
    },
  );

  it.each([
    "TODO_KEY",
    "CHANGEME_X",
    "CHANGE_ME",
    "INSERT_KEY_HERE",
    "YOUR_API_KEY",
    "put-your-key-here",
    "<key>",
    "xxxx-xxxx",
    "your-app-id",
  ])("are no keys: %s", (text) => {
    expect(isPlaceholderText(text)).toBe(true);
  });

  it.each(["qm-7f3a90c2", "todoist-4711-ab12", "changeling-0815", "insertion-77aa"])("are not what merely begins like one: %s", (text) => {
    expect(isPlaceholderText(text)).toBe(false);
  });
});

describe("whose code a file is", () => {
  it.each([
    ["react-native", "src/pay.test.ts", true],
    ["react-native", "src/pay.spec.tsx", true],
    ["react-native", "src/Button.stories.tsx", true],
    ["react-native", "jest.setup.js", true],
    ["react-native", "metro.config.js", true],
    ["react-native", "__mocks__/quaymap.js", true],
    ["react-native", ".storybook/preview.tsx", true],
    ["react-native", "scripts/release.ts", true],
    ["react-native", "src/scripts/start.ts", false],
    ["react-native", "src/contest/index.ts", false],
    ["react-native", "src/latest.ts", false],
    ["flutter", "integration_test/app_test.dart", true],
    ["flutter", "test_driver/app.dart", true],
    ["flutter", "tool/make.dart", true],
    ["flutter", "lib/tool/start.dart", false],
    ["unity", "Assets/Editor/Build.cs", true],
    ["unity", "Assets/Scripts/Start.cs", false],
    ["unity", "Assets/TESTS/PlayMode/StartTests.cs", true],
    ["unity", "Assets/Scripts/EditorTools.cs", false],
    ["native", "app/src/androidTestDebug/java/A.kt", true],
    ["native", "app/src/latest/java/A.kt", false],
    ["native", "shared/src/commonTest/kotlin/A.kt", true],
    ["native", "app/src/main/java/example/test/A.kt", false],
    ["native", "PilotTests/ATests.swift", true],
  ] as const)("%s %s", (kind, file, aside) => {
    expect(isAside(file, kind)).toBe(aside);
  });

  it.each([
    ["testImplementation", true],
    ["androidTestImplementation", true],
    ["testDebugImplementation", true],
    ["latestImplementation", false],
    ["contestReleaseImplementation", false],
    ["implementation", false],
  ])("%s is one of tests: %s", (configuration, test) => {
    expect(isTestScope(configuration)).toBe(test);
  });

  it("a start in a test hides no start that is missing", async () => {
    const files = startExample({
      onCreate: "",
      files: { "app/src/test/java/StartTest.kt": "import example.quaymap.Quaymap\nfun x() { Quaymap.start(null) }\n" },
    });
    expect(await rulesOf(files)).toContain("start/missing");
  });

  it("what a tool lays down is nobody's code", () => {
    const unity = {
      "ProjectSettings/ProjectSettings.asset":
        "PlayerSettings:\n  productName: Tide\n  applicationIdentifier:\n    Android: example.maresia.tide\n",
      "Packages/manifest.json": "{}",
      "Assets/a.cs": "class A {}",
    };
    const found = surveyOf({
      ...unity,
      "Library/PackageCache/x/app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid { defaultConfig { applicationId 'example.other' } }\n",
    });
    expect(found.apps.map(({ kind }) => kind)).toEqual(["unity"]);
  });

  it.each([
    ["for tests", '{ "name": "PlayMode", "optionalUnityReferences": ["TestAssemblies"] }', "missing", "connected"],
    ["for tests, by a constraint", '{ "name": "PlayMode", "defineConstraints": ["UNITY_INCLUDE_TESTS"] }', "missing", "connected"],
    ["for the editor", '{ "name": "Tools", "includePlatforms": ["Editor"] }', "missing", "connected"],
    ["for one platform and the editor", '{ "name": "Native", "includePlatforms": ["Android", "Editor"] }', "connected", "connected"],
    ["of the app", '{ "name": "Core" }', "connected", "connected"],
  ])("an assembly of Unity %s", async (_, definition, state, nested) => {
    const start =
      "using UnityEngine;\nusing Quaymap;\nclass Boot {\n  [RuntimeInitializeOnLoadMethod]\n  static void Begin() { Quaymap.Start(); }\n}\n";
    const unity = {
      "ProjectSettings/ProjectSettings.asset":
        "PlayerSettings:\n  productName: Tide\n  applicationIdentifier:\n    Android: example.maresia.tide\n",
      "Packages/manifest.json": '{ "dependencies": { "example.quaymap.sdk": "4.2.0" } }',
      "enredo/sheets/quaymap.sdk.yaml":
        "sdk: quaymap\npackages: { unity: example.quaymap.sdk }\nneeds:\n  - { on: both, start: { csharp: Quaymap.Start } }\n",
      "Assets/Other.cs": "class Other {}\n",
      "Assets/Harbour/Harbour.asmdef": definition,
    };
    expect(await statesOf({ ...unity, "Assets/Harbour/Boot.cs": start }, "start")).toEqual({ android: state });
    // The nearest assembly decides.
    const within = { ...unity, "Assets/Harbour/App/App.asmdef": '{ "name": "App" }', "Assets/Harbour/App/Boot.cs": start };
    expect(await statesOf(within, "start")).toEqual({ android: nested });
  });
});

describe("values of one build are judged in that build", () => {
  const placeholders = (debug: string, release: string) =>
    quaymapAndroid({
      android: `  buildTypes {\n    debug {\n      manifestPlaceholders = [quaymapKey: "${debug}"]\n    }\n    release {\n      manifestPlaceholders = [quaymapKey: "${release}"]\n    }\n  }\n`,
      application:
        '    <meta-data android:name="example.quaymap.KEY" android:value="${quaymapKey}" />\n    <activity android:name=".A"><intent-filter><data android:scheme="pay-${quaymapKey}" /></intent-filter></activity>\n',
    });
  const key = quaymapSheet(
    'on: android, key: { name: key, environments: { test: "^qm_test_", live: "^qm_live_" }, in: [ manifest: example.quaymap.KEY ] }',
    'on: android, urlScheme: { key: key, prefix: "pay-" }',
  );

  it("by placeholders of build types", async () => {
    expect(await rulesOf({ ...placeholders("qm_test_7f3a", "qm_live_90c2"), ...key })).not.toContain("key/environment");
    expect(await messagesOf({ ...placeholders("qm_test_7f3a", "qm_test_90c2"), ...key }, "key/environment")).toHaveLength(1);
    expect((await messagesOf({ ...placeholders("qm_live_7f3a", "qm_live_90c2"), ...key }, "key/environment"))[0]).toContain("debug");
  });

  it("a scheme is built from the key of the same build", async () => {
    expect(await statesOf({ ...placeholders("qm_test_7f3a", "qm_live_90c2"), ...key }, "urlScheme")).toEqual({ android: "connected" });
    const fixed = placeholders("qm_test_7f3a", "qm_live_90c2");
    const manifest = (fixed["app/src/main/AndroidManifest.xml"] ?? "").replace("pay-${quaymapKey}", "pay-qm_test_7f3a");
    expect(await statesOf({ ...fixed, ...key, "app/src/main/AndroidManifest.xml": manifest }, "urlScheme")).toEqual({ android: "loose" });
  });

  it("a key in debug builds alone is missing in the others", async () => {
    const only = quaymapAndroid({
      android: '  buildTypes {\n    debug {\n      manifestPlaceholders = [quaymapKey: "qm_test_7f3a"]\n    }\n  }\n',
      application: '    <meta-data android:name="example.quaymap.KEY" android:value="${quaymapKey}" />\n',
    });
    expect(await statesOf({ ...only, ...quaymapSheet("on: android, key: { name: key, in: [ placeholder: quaymapKey ] }") }, "key")).toEqual(
      { android: "loose" },
    );
  });

  it("two keys of one name, each for its side, build each side's scheme", async () => {
    const files = {
      ...quaymapAndroid({
        application:
          '    <meta-data android:name="example.quaymap.KEY" android:value="qm-a1" />\n    <activity android:name=".A"><intent-filter><data android:scheme="pay-qm-a1" /></intent-filter></activity>\n',
      }),
      ...Object.fromEntries(
        Object.entries(
          quaymapIos(
            "  <key>QuaymapKey</key>\n  <string>qm-i2</string>\n  <key>CFBundleURLTypes</key>\n  <array><dict><key>CFBundleURLSchemes</key><array><string>pay-qm-i2</string></array></dict></array>\n",
          ),
        ).map(([file, text]) => [`ios/${file}`, text]),
      ),
      ...quaymapSheet(
        "on: android, key: { name: key, in: [ manifest: example.quaymap.KEY ] }",
        "on: ios, key: { name: key, in: [ plist: QuaymapKey ] }",
        'on: both, urlScheme: { key: key, prefix: "pay-" }',
      ),
    };
    expect(await statesOf(files, "urlScheme")).toEqual({ android: "connected", ios: "connected" });
  });

  it.each([
    ["#if DEBUG\nlet k = 1\n#else\nlet k = 2\n#endif\nlet k = 3\n", ["debug", "release", undefined]],
    ["#if !DEBUG\nk = 1\n#endif\nk = 2\nk = 3\n", ["release", undefined, undefined]],
    ["#if os(iOS)\nk = 1\n#else\nk = 2\n#endif\nk = 3\n", [undefined, undefined, undefined]],
    ["if (BuildConfig.DEBUG) {\n k = 1\n} else {\n k = 2\n}\nk = 3\n", ["debug", "release", undefined]],
    ["if (!__DEV__) {\n k = 1\n}\nk = 2\nk = 3\n", ["release", undefined, undefined]],
    ["if (kReleaseMode) {\n k = 1\n}\nk = 2\nk = 3\n", ["release", undefined, undefined]],
    ["if (BuildConfig.DEBUG && flag) {\n k = 1\n}\nk = 2\nk = 3\n", [undefined, undefined, undefined]],
    ["if (process.env.NODE_ENV !== 'production') {\n k = 1\n}\nk = 2\nk = 3\n", ["debug", undefined, undefined]],
  ])("in code: %j", (text, variants) => {
    const regions = buildRegions(text);
    expect([1, 2, 3].map((value) => variantAt(regions, text.indexOf(`k = ${value}`)))).toEqual(variants);
  });
});

describe("a service file is found where a build takes it in", () => {
  const sheet = quaymapSheet("on: android, serviceFile: harbour-services.json");
  it.each([
    "app/harbour-services.json",
    "app/src/main/res/raw/harbour-services.json",
    "app/src/main/assets/config/harbour-services.json",
    "app/src/release/assets/harbour-services.json",
  ])("%s", async (file) => {
    expect(await statesOf({ ...quaymapAndroid(), ...sheet, [file]: serviceJson("example.maresia.pilot") }, "serviceFile")).toEqual({
      android: "connected",
    });
  });

  it("of Unity, .NET and Cordova", async () => {
    const needs = (packages: string) => ({
      "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages: { ${packages} }\nneeds:\n  - { on: android, serviceFile: harbour-services.json }\n`,
    });
    const unity = {
      "ProjectSettings/ProjectSettings.asset":
        "PlayerSettings:\n  productName: Tide\n  applicationIdentifier:\n    Android: example.maresia.pilot\n",
      "Packages/manifest.json": '{ "dependencies": { "example.quaymap.sdk": "4.2.0" } }',
      "Assets/a.cs": "class A {}",
      ...needs("unity: example.quaymap.sdk"),
    };
    for (const file of [
      "Assets/StreamingAssets/harbour-services.json",
      "Assets/Plugins/Android/quay.androidlib/res/raw/harbour-services.json",
    ])
      expect((await statesOf({ ...unity, [file]: serviceJson("example.maresia.pilot") }, "serviceFile")).android, file).toBe("connected");
    const lock = maui(builder(""));
    for (const [file, item] of [
      ["Resources/Raw/harbour-services.json", ""],
      ["Config/harbour-services.json", '<ItemGroup><HarbourJson Include="Config\\**" /></ItemGroup>'],
      ["Config/harbour-services.json", '<ItemGroup><HarbourJson Include="Config\\harbour-services.json" /></ItemGroup>'],
    ] as const)
      expect(
        (
          await statesOf(
            {
              ...lock,
              ...needs("nuget: Quaymap.Mobile"),
              "Lock.csproj": (lock["Lock.csproj"] ?? "").replace("</Project>", `${item}</Project>`),
              [file]: serviceJson("example.maresia.lock"),
            },
            "serviceFile",
          )
        ).android,
        file + item,
      ).toBe("connected");
    const cordova = {
      "config.xml":
        '<widget id="example.maresia.pilot"><name>quay</name><engine name="android" spec="13.0.0" /><platform name="android"><resource-file src="keys/harbour-services.json" target="app/harbour-services.json" /></platform><plugin name="cordova-plugin-quaymap" spec="4.2.0" /></widget>',
      "package.json": "{}",
      "www/index.html": "",
      "keys/harbour-services.json": serviceJson("example.maresia.pilot"),
      ...needs("cordova: cordova-plugin-quaymap"),
    };
    expect((await statesOf(cordova, "serviceFile")).android).toBe("connected");
  });

  it("is held against the ids of the builds that take it", async () => {
    const flavours = (own: string): Files =>
      androidExample(
        `android {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n    targetSdk 35\n  }\n  flavorDimensions 'x'\n  productFlavors {\n    dev { dimension 'x'\n      applicationIdSuffix '.dev' }\n    prod { dimension 'x' }\n  }\n  buildTypes { debug { applicationIdSuffix '.debug' } }\n}\n`,
        {
          "app/src/dev/harbour-services.json": serviceJson(own),
        },
      );
    expect(await rulesOf(flavours("example.maresia.pilot.dev"))).not.toContain("identity/service-file-mismatch");
    expect(await rulesOf(flavours("example.maresia.pilot.dev.debug"))).not.toContain("identity/service-file-mismatch");
    expect(await rulesOf(flavours("example.maresia.pilot"))).toContain("identity/service-file-mismatch");
    const root = (id: string): Files => ({ ...flavours("example.maresia.pilot.dev"), "app/harbour-services.json": serviceJson(id) });
    expect(await rulesOf(root("example.maresia.pilot"))).not.toContain("identity/service-file-mismatch");
    expect(await rulesOf(root("example.maresia.pilot.debug"))).toContain("identity/service-file-mismatch");
  });
});

describe("the workspace around an app", () => {
  it("of pub has the lock and the packages of its members", () => {
    const member = (resolution: string): Files => ({
      ".git/HEAD": "",
      "pubspec.yaml": "name: fleet\nworkspace:\n  - apps/crew\n",
      "pubspec.lock": 'packages:\n  quaymap_flutter:\n    dependency: "direct main"\n    version: "4.2.0"\n',
      ".dart_tool/package_config.json": JSON.stringify({
        packages: [{ name: "quaymap_flutter", rootUri: "../hosted/quaymap_flutter-4.2.0" }],
      }),
      "hosted/quaymap_flutter-4.2.0/pubspec.yaml":
        "name: quaymap_flutter\nflutter:\n  plugin:\n    platforms:\n      android:\n        pluginClass: Q\n",
      "apps/crew/pubspec.yaml": `name: crew\n${resolution}dependencies:\n  flutter:\n    sdk: flutter\n  quaymap_flutter: ^4.2.0\n`,
      ...Object.fromEntries(Object.entries(androidExample(androidBlock())).map(([file, text]) => [`apps/crew/android/${file}`, text])),
    });
    const [app] = surveyOf(member("resolution: workspace\n")).apps;
    expect(app?.dependencies.map(({ name, locked, side }) => [name, locked, side])).toEqual([["quaymap_flutter", "4.2.0", "android"]]);
    expect(app?.locks.map(({ lock }) => lock)).toContain("pubspec.lock");
  });
});

describe("one SDK in two packages is one SDK, and nothing is said that nobody knows", () => {
  const pods = (lock: string): Files => ({
    "package.json": JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", "@gullpost/react-native": "5.2.0" } }),
    "package-lock.json": JSON.stringify({
      lockfileVersion: 3,
      packages: {
        "": { dependencies: { "@gullpost/react-native": "5.2.0" } },
        "node_modules/@gullpost/react-native": { version: "5.2.0" },
      },
    }),
    ...Object.fromEntries(Object.entries(androidExample(androidBlock())).map(([file, text]) => [`android/${file}`, text])),
    "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
    "ios/Podfile": "platform :ios, '15.1'\ntarget 'Pilot' do\n  use_native_modules!\nend\n",
    "ios/Podfile.lock": lock,
  });
  const lock =
    'PODS:\n  - RNBirdPost (5.2.0):\n    - SeaShell (= 2.0.0)\n  - SeaShell (2.0.0)\n\nDEPENDENCIES:\n  - RNBirdPost (from `../node_modules/@gullpost/react-native`)\n\nEXTERNAL SOURCES:\n  RNBirdPost:\n    :path: "../node_modules/@gullpost/react-native"\n';

  it("a pod by path belongs to its package; what a pod brings along is not of one side; nothing installed is not known", () => {
    const [app] = surveyOf(pods(lock)).apps;
    if (!app) throw new Error("no app");
    const rows = compareSides(app, []);
    expect(rows.map(({ sdk, only, agreement, left, right }) => [sdk, only, agreement, left?.known, right?.known])).toEqual([
      ["gullpost", undefined, "untold", false, true],
    ]);
    expect(rows[0]?.right?.version).toBe("5.2.0");
  });
});

describe("the end of a trace", () => {
  const ended = async (files: Files): Promise<string> => {
    const { traces } = await tracesOf(files, "quaymap");
    const app = surveyOf(files).apps[0];
    return app
      ? traceText(
          traces.map((trace) => ({ app, trace })),
          styleFor({ color: false, width: 120 }),
          { verbose: false },
        )
      : "";
  };
  it("says that nothing is left only with a sheet whose needs are all known", async () => {
    const permission = '  <uses-permission android:name="android.permission.CAMERA" />\n';
    const needs = (more: string[]) => ({
      ...quaymapAndroid({ manifest: permission }),
      ...quaymapSheet("on: android, permission: android.permission.CAMERA", ...more),
    });
    expect(await ended(needs([]))).toContain("Nothing is left to do.");
    expect(await ended(needs(['on: android, logLine: "ready"']))).not.toContain("Nothing is left");
    expect(await ended(quaymapAndroid())).not.toContain("Nothing is left");
    expect(await ended(quaymapAndroid())).toContain("Package files do not say which purpose texts, keys and start calls it needs");
  });
});

describe("needs of a sheet", () => {
  const problems = async (need: string): Promise<string[]> =>
    ((await tracesOf({ ...quaymapAndroid(), ...quaymapSheet(need) }, "quaymap")).problems as { message: string }[]).map(
      ({ message }) => message,
    );
  it("that a side cannot have are told, and an invalid one is not held", async () => {
    expect(await problems("on: ios, permission: android.permission.CAMERA")).toEqual([
      "permission exists on Android only; on: ios cannot have it",
    ]);
    expect(await problems("on: android, purposeText: NSCameraUsageDescription")).toHaveLength(1);
    expect(await problems("on: android, permission: android.permission.CAMERA")).toEqual([]);
    expect(await statesOf({ ...quaymapAndroid(), ...quaymapSheet("on: android, minSdk: high") }, "minSdk")).toEqual({});
  });

  it("a companion is of its own side, and one that the lock has is there", async () => {
    const pair = (more: Files): Files => ({
      ...quaymapAndroid(),
      ...Object.fromEntries(Object.entries(quaymapIos()).map(([file, text]) => [`ios/${file}`, text])),
      ...more,
    });
    expect(await statesOf(pair(quaymapSheet('on: both, companion: "example.quaymap:quaymap-tiles"')), "companion")).toEqual({
      android: "missing",
      ios: "unneeded",
    });
    const script = scriptExample("export default () => null;\n", ['on: shared, companion: "quay-tiles"']);
    const packages = (more: object) => ({ "package-lock.json": JSON.stringify({ lockfileVersion: 3, packages: { "": {}, ...more } }) });
    expect((await statesOf({ ...script, ...packages({}) }, "companion")).shared).toBe("missing");
    expect((await statesOf({ ...script, ...packages({ "node_modules/quay-tiles": { version: "1.0.0" } }) }, "companion")).shared).toBe(
      "connected",
    );
  });

  it("an option is met by the same option, not by one that begins alike", async () => {
    const ios = (flags: string): Files => ({
      ...quaymapIos("", {}, { settings: `INFOPLIST_FILE = Pilot/Info.plist; OTHER_LDFLAGS = ( "$(inherited)", ${flags} );` }),
      Podfile: "",
      Cartfile: 'binary "https://quaymap.example/QuaymapSDK.json"\n',
      "enredo/sheets/quaymap.sdk.yaml":
        'sdk: quaymap\npackages: { carthage: "https://quaymap.example/QuaymapSDK.json", cocoapods: QuaymapSDK }\nneeds:\n  - { on: ios, linkerFlag: "-lz" }\n',
    });
    expect((await statesOf(ios('"-lz"'), "linkerFlag")).ios).toBe("connected");
    expect((await statesOf(ios('"-lzipped"'), "linkerFlag")).ios).not.toBe("connected");
  });
});

describe("a keep rule", () => {
  const wanted = "-keep class example.quaymap.** { *; }";
  it.each([
    ["-keep class example.quaymap.** { *; }", true],
    ["-keep  class example.quaymap.**{*;}", true],
    ["-keep class example.** { *; }", true],
    ["-keep,allowobfuscation class example.quaymap.** { *; }", false],
    ["-keep,allowshrinking class example.quaymap.** { *; }", false],
    ["-keepnames class example.quaymap.** { *; }", false],
    ["-keep class example.quaymap.**", false],
    ["-keep class example.quaymap.** { <fields>; <methods>; }", true],
    ["-keep public class example.quaymap.** { *; }", false],
    ["-keep class example.quaymap.core.** { *; }", false],
    ["-keep class example.quaymap.* { *; }", false],
    ["# -keep class example.quaymap.** { *; }", false],
  ])("%s", (written, enough) => {
    expect(covers(written, wanted)).toBe(enough);
  });
});

describe("a reference to a Git repository", () => {
  it.each([
    [undefined, "none"],
    ["main", "branch"],
    ["release/4.2.0", "branch"],
    ["v4.2.0", "tag"],
    ["quaymap-v4.2.0", "tag"],
    ["@quaymap/react-native@4.2.0", "tag"],
    ["refs/tags/stable", "tag"],
    ["0123abc", "revision"],
    ["release-4.2", "branch"],
  ])("%s is a %s", (ref, kind) => {
    expect(gitReference(ref, "https://git.quaymap.example/x").kind).toBe(kind);
  });
});

describe("starting twice", () => {
  const flutter = (files: Files): Files => ({
    "pubspec.yaml": "name: crew\ndependencies:\n  flutter:\n    sdk: flutter\n  quaymap_flutter: 4.2.0\n",
    ...Object.fromEntries(Object.entries(androidExample(androidBlock())).map(([file, text]) => [`android/${file}`, text])),
    "enredo/sheets/quaymap.sdk.yaml":
      "sdk: quaymap\npackages: { pub: quaymap_flutter }\nneeds:\n  - { on: shared, start: Quaymap.start }\n",
    ...files,
  });
  const main = (body: string): string =>
    `import 'package:quaymap_flutter/quaymap_flutter.dart';\n\nvoid main() async {\n${body}  runApp(App());\n}\n`;
  it("is not what main functions of different builds do, nor what runs in an isolate of its own", async () => {
    const start = "  await Quaymap.start();\n";
    expect(await rulesOf(flutter({ "lib/main_dev.dart": main(start), "lib/main_prod.dart": main(start) }))).not.toContain("start/twice");
    const background = "\n@pragma('vm:entry-point')\nFuture<void> onMessage(message) async {\n  await Quaymap.start();\n}\n";
    expect(await rulesOf(flutter({ "lib/main.dart": main(`${start}  Gullpost.onBackground(onMessage);\n`) + background }))).not.toContain(
      "start/twice",
    );
    expect(
      await rulesOf(flutter({ "lib/main.dart": main(`${start}  setUp();\n`) + "\nvoid setUp() {\n  Quaymap.start();\n}\n" })),
    ).toContain("start/twice");
  });
});

describe("one cause is one finding", () => {
  it("a low level names all that ask for more", async () => {
    const names = ["chart-deck", "tide-view", "sail-map", "buoy-kit"];
    const files = reactNativeExample(
      Object.fromEntries(names.map((name) => [name, "2.0.0"])),
      Object.fromEntries(
        names.flatMap((name, index) => [
          [`node_modules/${name}/package.json`, `{ "name": "${name}", "version": "2.0.0", "main": "index.js" }`],
          [
            `node_modules/${name}/android/build.gradle`,
            `apply plugin: 'com.android.library'\nandroid {\n  defaultConfig {\n    minSdkVersion ${26 + (index % 2)}\n  }\n}\n`,
          ],
        ]),
      ),
    );
    expect(await messagesOf(files, "level/below-need")).toEqual([
      "android: minSdk 24 is too low for 4 packages: buoy-kit, tide-view need 27; chart-deck, sail-map need 26",
    ]);
    const [low] = (await reportOf(files)).findings.filter(({ rule }) => rule === "level/below-need");
    expect(low?.quickFix?.map((edit) => ("to" in edit ? edit.to : ""))).toEqual(["27"]);
  });
});

describe("a package that nothing refers to", () => {
  const unused = async (more: Files, app = "export default () => null;\n"): Promise<boolean> =>
    (await rulesOf(scriptExample(app, [], more))).includes("start/unused");
  it("is told, but not where another one asks for it, it works unnamed, or nobody can tell", async () => {
    expect(await unused({})).toBe(true);
    const installed = (text: object): Files => ({
      "node_modules/@quaymap/react-native/package.json": JSON.stringify({ name: "@quaymap/react-native", version: "4.2.0", ...text }),
    });
    expect(await unused(installed({}))).toBe(false);
    expect(await unused({ ...installed({ main: "index.js" }), "node_modules/@quaymap/react-native/app.plugin.js": "" })).toBe(false);
    expect(await unused({}, "const load = (name) => require(name);\nexport default load;\n")).toBe(false);
    const asked = {
      ...scriptExample("export default () => null;\n", []),
      "package.json":
        '{ "name": "deckpass", "dependencies": { "react-native": "0.80.0", "@quaymap/react-native": "4.2.0", "deck-charts": "1.0.0" } }',
      "node_modules/deck-charts/package.json":
        '{ "name": "deck-charts", "version": "1.0.0", "main": "index.js", "peerDependencies": { "@quaymap/react-native": "*" }, "peerDependenciesMeta": { "@quaymap/react-native": { "optional": true } } }',
    };
    expect(await rulesOf(asked)).not.toContain("start/unused");
  });
});

describe("a native project that is not there yet", () => {
  it("is not held against what only it could show", async () => {
    const cordova = {
      "config.xml":
        '<widget id="example.maresia.pilot"><name>quay</name><engine name="ios" spec="7.0.0" /><plugin name="cordova-plugin-quaymap" spec="4.2.0" /></widget>',
      "package.json": "{}",
      "www/index.html": "",
      "enredo/sheets/quaymap.sdk.yaml":
        'sdk: quaymap\npackages: { cordova: cordova-plugin-quaymap }\nneeds:\n  - { on: ios, linkerFlag: "-ObjC" }\n  - { on: ios, systemFramework: CoreLocation }\n  - { on: ios, purposeText: NSCameraUsageDescription }\n',
    };
    expect(await statesOf(cordova, "linkerFlag")).toEqual({ ios: "unknown" });
    expect(await statesOf(cordova, "systemFramework")).toEqual({ ios: "unknown" });
    expect(await statesOf(cordova, "purposeText")).not.toEqual({ ios: "connected" });
    const plugin = {
      "plugins/cordova-plugin-quaymap/plugin.xml":
        '<plugin id="cordova-plugin-quaymap" version="4.2.0"><platform name="ios"><framework src="CoreLocation.framework" /></platform></plugin>',
    };
    expect(await statesOf({ ...cordova, ...plugin }, "systemFramework")).toEqual({ ios: "connected" });
  });
});

describe("a text that is given another value later is not the one that a start is given", () => {
  const kotlin = (later: string): Files =>
    startExample({
      onCreate: "    key = Settings.key(this)\n    Quaymap.start(this, key)\n".replace("    key = Settings.key(this)\n", later),
      members: '  private var key = ""\n',
    });
  const script = (later: string): Files =>
    scriptExample(
      `import Quaymap from "@quaymap/react-native";\nlet key = "";\nfunction open(given) {\n${later}  Quaymap.start(key);\n}\nopen(load());\nexport default () => null;\n`,
      ["on: both, start: { shared: Quaymap.start }"],
    );

  it.each([
    ["Kotlin", kotlin, "    key = Settings.key(this)\n"],
    ["Kotlin, by `this`", kotlin, "    this.key = Settings.key(this)\n"],
    ["a script", script, "  key = given;\n"],
  ])("%s", async (_, app, later) => {
    const empty = async (files: Files): Promise<string[]> =>
      (await reportOf(files)).findings.flatMap(({ message }) => (/empty text/.test(message) ? [message] : []));
    expect(await empty(app(""))).toHaveLength(1);
    expect(await empty(app(later))).toEqual([]);
  });
});

describe("what apps of an older generation do", () => {
  const old = (plugin: string, support: string): Files => ({
    "settings.gradle": "include ':app'\n",
    "build.gradle": `buildscript {\n  repositories { mavenCentral() }\n  dependencies { classpath 'com.android.tools.build:gradle:${plugin}' }\n}\nallprojects {\n  repositories {\n    mavenLocal()\n    mavenCentral()\n  }\n}\n`,
    "app/build.gradle": `apply plugin: "com.android.application"\n\n${androidBlock()}dependencies {\n  compile "com.android.support:appcompat-v7:${support}"\n}\n`,
  });

  it.each([
    ["the platform's tools have the package", "2.2.3", "23.0.1", 0],
    ["they have it no longer", "2.2.3", "27.1.1", 1],
    ["the plugin, and its own tools", "3.4.0", "23.0.1", 2],
  ])("packages without Google's repository: %s", async (_, plugin, support, count) => {
    expect(await messagesOf(old(plugin, support), "source/repository-missing")).toHaveLength(count);
  });

  it("libraries that another project makes are linked by their name alone", async () => {
    const app = xcodeExample({
      objects:
        'F1 = { isa = PBXFileReference; lastKnownFileType = archive.ar; path = libTide.a; sourceTree = "<group>"; };\n    F9 = { isa = PBXFileReference; lastKnownFileType = "wrapper.pb-project"; name = Tide.xcodeproj; path = ../node_modules/tide/Tide.xcodeproj; sourceTree = "<group>"; };\n    G9 = { isa = PBXGroup; children = ( ); sourceTree = "<group>"; };',
      children: ["F1", "F9"],
    });
    const linked = app.replace(
      "targets = ( T1, );",
      "targets = ( T1, ); projectReferences = ( { ProductGroup = G9; ProjectRef = F9; }, );",
    );
    expect(await messagesOf({ "Pilot.xcodeproj/project.pbxproj": linked }, "source/binary-missing")).toEqual([]);
    expect(await messagesOf({ "Pilot.xcodeproj/project.pbxproj": app }, "source/binary-missing")).toHaveLength(1);
  });
});
