import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { quaymapAndroid, quaymapIos } from "../../src/core/rules/examples.js";
import type { Example } from "../../src/core/rules/rule.js";
import { tracesOf } from "../helpers/memory.js";

const sheetOf = (need: string): Example => ({
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages:\n  maven: example.quaymap:quaymap-android\n  cocoapods: QuaymapSDK\n  binary: Quaymap.framework\nneeds:\n  - { ${need} }\n`,
});
const permission = (name: string, more = "") => `  <uses-permission android:name="${name}" ${more}/>\n`;
const meta = (value: string, name = "example.quaymap.KEY") => `    <meta-data android:name="${name}" android:value="${value}" />\n`;
const string = (key: string, value: string) => `  <key>${key}</key>\n  <string>${value}</string>\n`;
const list = (key: string, ...values: string[]) =>
  `  <key>${key}</key>\n  <array>${values.map((value) => `<string>${value}</string>`).join("")}</array>\n`;
const schemes = (...values: string[]) =>
  `  <key>CFBundleURLTypes</key>\n  <array><dict><key>CFBundleURLSchemes</key><array>${values.map((value) => `<string>${value}</string>`).join("")}</array></dict></array>\n`;
const fine = "android.permission.ACCESS_FINE_LOCATION";
const shrinks = (files: string, on = "true") =>
  `  buildTypes {\n    release {\n      minifyEnabled ${on}\n      proguardFiles ${files}\n    }\n  }\n`;
const noManifest = (example: Example): Example => Object.fromEntries(Object.entries(example).filter(([file]) => !file.endsWith(".xml")));
const noPlist = (example: Example): Example => Object.fromEntries(Object.entries(example).filter(([file]) => !file.endsWith(".plist")));
const kotlin = (text: string) => ({ "app/src/main/java/App.kt": text });
const metaData = (name: string, value: string) => `    <meta-data android:name="${name}" android:value="${value}" />\n`;
const activity = '    <activity android:name=".MainActivity" />\n';
const onCreate = (body: string) => `class MainActivity : Activity() {\n  override fun onCreate(state: Bundle?) {\n    ${body}\n  }\n}\n`;
const linked = (files: string, more = "") =>
  quaymapIos(
    "",
    { Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\nend\n", "Quaymap.framework/Info.plist": "<plist><dict/></plist>" },
    {
      objects: `F1 = { isa = PBXFileReference; path = Quaymap.framework; sourceTree = "<group>"; };\n    F2 = { isa = PBXFileReference; name = CoreLocation.framework; path = System/CoreLocation.framework; sourceTree = SDKROOT; };\n    B1 = { isa = PBXBuildFile; fileRef = F1; };\n    B2 = { isa = PBXBuildFile; fileRef = F2; };\n    K1 = { isa = PBXFrameworksBuildPhase; files = ( ${files} ); };\n    K2 = { isa = PBXCopyFilesBuildPhase; dstSubfolderSpec = 10; files = ( ${more} ); };`,
      children: ["F1", "F2"],
    },
  );
const withPhases = (example: Example): Example => ({
  ...example,
  "Pilot.xcodeproj/project.pbxproj": (example["Pilot.xcodeproj/project.pbxproj"] ?? "").replace(
    "buildPhases = ( )",
    "buildPhases = ( K1, K2, )",
  ),
});
const repositories = (text: string) =>
  quaymapAndroid({}, { "build.gradle": `allprojects {\n  repositories {\n    google()\n    mavenCentral()\n${text}  }\n}\n` });
const services = (id: string) => `{ "client": { "package_name": "${id}" } }\n`;

type State = "connected" | "loose" | "missing" | "unneeded" | "unknown";
const CASES: [need: string, cases: [State, Example][]][] = [
  [
    "on: android, minSdk: 24",
    [
      ["connected", quaymapAndroid()],
      ["loose", replaced(quaymapAndroid(), "minSdk 24", "minSdk 21")],
      ["missing", replaced(quaymapAndroid(), "minSdk 24\n    ", "")],
      ["unknown", replaced(quaymapAndroid(), "minSdk 24", "minSdk nobodyKnows")],
    ],
  ],
  [
    'on: ios, iosTarget: "15.0"',
    [
      ["connected", quaymapIos()],
      ["loose", quaymapIos("", {}, { target: "14.0" })],
    ],
  ],
  ["on: android, kotlin: '2.0'", [["unknown", quaymapAndroid()]]],
  [
    "on: android, gradle: '8.0'",
    [
      [
        "loose",
        quaymapAndroid({}, { "gradle/wrapper/gradle-wrapper.properties": "distributionUrl=https\\://h.example/gradle-7.6-bin.zip\n" }),
      ],
    ],
  ],
  [
    "on: android, repository: 'https://maven.quaymap.example/releases'",
    [
      ["connected", repositories('    maven { url "https://maven.quaymap.example/releases/" }\n')],
      ["missing", repositories("")],
      ["unknown", repositories("    maven { url companyMirror }\n")],
      [
        "loose",
        {
          ...repositories(""),
          "settings.gradle":
            "pluginManagement {\n  repositories {\n    maven { url 'https://maven.quaymap.example/releases' }\n  }\n}\ninclude ':app'\n",
        },
      ],
    ],
  ],
  [
    "on: android, buildPlugin: { id: example.quaymap.tiles, classpath: 'example.quaymap:tiles-gradle' }",
    [
      ["connected", replaced(quaymapAndroid(), "android {", "apply plugin: 'example.quaymap.tiles'\nandroid {")],
      [
        "loose",
        quaymapAndroid(
          {},
          { "build.gradle": "buildscript {\n  dependencies {\n    classpath 'example.quaymap:tiles-gradle:1.0'\n  }\n}\n" },
        ),
      ],
      ["missing", quaymapAndroid()],
      [
        "unknown",
        replaced(quaymapAndroid(), "android {", "if (System.getenv('CI')) {\n  apply plugin: 'example.quaymap.tiles'\n}\nandroid {"),
      ],
    ],
  ],
  [
    "on: android, companion: { package: 'example.quaymap:tiles', atLeast: '2.0' }",
    [
      ["connected", dependency("example.quaymap:tiles:2.1.0")],
      ["connected", dependency("example.quaymap:tiles:2.0")],
      ["loose", dependency("example.quaymap:tiles:1.9.0")],
      ["missing", quaymapAndroid()],
      ["unknown", dependency("example.quaymap:tiles")],
    ],
  ],
  [
    "on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name }",
    [
      ["connected", quaymapAndroid({}, { "app/quaymap-services.json": services("example.maresia.pilot") })],
      ["loose", quaymapAndroid({}, { "app/quaymap-services.json": services("example.maresia.deckpass") })],
      ["loose", quaymapAndroid({}, { "app/src/main/java/quaymap-services.json": services("example.maresia.pilot") })],
      ["loose", quaymapAndroid({}, { "app/src/debug/quaymap-services.json": services("example.maresia.pilot") })],
      ["missing", quaymapAndroid()],
      ["unknown", quaymapAndroid({}, { ".gitignore": "quaymap-services.json\n" })],
    ],
  ],
  [
    "on: android, licenceFile: 'quaymap*.lic'",
    [
      ["connected", quaymapAndroid({}, { "app/src/main/assets/quaymap-android.lic": "x" })],
      ["missing", quaymapAndroid()],
    ],
  ],
  [
    "on: android, key: { name: mapKey, shape: 'qm_[0-9a-f]{8}', in: [ manifest: example.quaymap.KEY, code: mapKey ] }",
    [
      ["connected", quaymapAndroid({ application: meta("qm_0123abcd") })],
      ["connected", quaymapAndroid({}, kotlin('val mapKey = "qm_0123abcd"\n'))],
      [
        "connected",
        quaymapAndroid(
          { application: meta("@string/k") },
          { "app/src/main/res/values/keys.xml": '<resources><string name="k">qm_0123abcd</string></resources>' },
        ),
      ],
      [
        "connected",
        quaymapAndroid({ application: meta("${k}"), android: "  defaultConfig {\n    manifestPlaceholders = [k: 'qm_0123abcd']\n  }\n" }),
      ],
      ["missing", quaymapAndroid({ application: meta("  ") })],
      ["loose", quaymapAndroid({ application: meta("qm_0123") })],
      ["loose", quaymapAndroid({ application: meta("YOUR_MAP_KEY") })],
      ["loose", quaymapAndroid({ application: meta("qm_0123abcd") }, kotlin('val mapKey: String = "qm_0123abce"\n'))],
      ["missing", quaymapAndroid({ application: meta("") })],
      ["missing", quaymapAndroid({ application: meta('qm_0123abcd" tools:node="remove') })],
      ["missing", quaymapAndroid()],
      ["unknown", quaymapAndroid({ application: meta("${fromTheEnvironment}") })],
    ],
  ],
  ["on: android, key: { name: mapKey, in: [ plist: QuaymapKey ] }", [["unneeded", quaymapAndroid()]]],
  [
    `on: android, permission: ${fine}`,
    [
      ["connected", quaymapAndroid({ manifest: permission(fine) })],
      ["loose", quaymapAndroid({ manifest: permission(fine, 'tools:node="remove" ') })],
      ["loose", quaymapAndroid({}, { "app/src/debug/AndroidManifest.xml": `<manifest>${permission(fine)}</manifest>` })],
      ["missing", quaymapAndroid()],
      ["unknown", noManifest(quaymapAndroid())],
    ],
  ],
  [
    "on: ios, purposeText: NSCameraUsageDescription",
    [
      ["connected", quaymapIos(string("NSCameraUsageDescription", "Reads the code."))],
      ["loose", quaymapIos(string("NSCameraUsageDescription", "YOUR_TEXT_HERE replace me"))],
      ["missing", quaymapIos(string("NSCameraUsageDescription", " "))],
      ["missing", quaymapIos()],
      ["unknown", noPlist(quaymapIos())],
    ],
  ],
  [
    "on: android, manifestEntry: { element: meta-data, name: example.quaymap.MODE, value: full }",
    [
      ["connected", quaymapAndroid({ application: meta("full", "example.quaymap.MODE") })],
      ["loose", quaymapAndroid({ application: meta("small", "example.quaymap.MODE") })],
      ["missing", quaymapAndroid()],
      ["unknown", quaymapAndroid({ application: meta("${mode}", "example.quaymap.MODE") })],
    ],
  ],
  [
    "on: ios, plistEntry: { key: QuaymapMode, value: full }",
    [
      ["connected", quaymapIos(string("QuaymapMode", "full"))],
      [
        "connected",
        quaymapIos(string("QuaymapMode", "$(MAP_MODE)"), {}, { settings: "INFOPLIST_FILE = Pilot/Info.plist; MAP_MODE = full;" }),
      ],
      ["loose", quaymapIos(string("QuaymapMode", "small"))],
      ["missing", quaymapIos()],
      ["unknown", quaymapIos(string("QuaymapMode", "$(NOBODY_KNOWS)"))],
    ],
  ],
  [
    "on: ios, entitlement: aps-environment",
    [
      [
        "connected",
        quaymapIos(
          "",
          { "Pilot/Pilot.entitlements": `<plist version="1.0"><dict>${string("aps-environment", "production")}</dict></plist>` },
          { settings: "INFOPLIST_FILE = Pilot/Info.plist; CODE_SIGN_ENTITLEMENTS = Pilot/Pilot.entitlements;" },
        ),
      ],
      ["missing", quaymapIos()],
    ],
  ],
  [
    "on: ios, backgroundMode: location",
    [
      ["connected", quaymapIos(list("UIBackgroundModes", "location"))],
      ["missing", quaymapIos(list("UIBackgroundModes", "audio"))],
      ["unknown", noPlist(quaymapIos())],
    ],
  ],
  [
    "on: ios, urlScheme: quaymap-pilot",
    [
      ["connected", quaymapIos(schemes("quaymap-pilot"))],
      ["loose", quaymapIos(schemes("Quaymap-Pilot"))],
      ["missing", quaymapIos()],
      ["unknown", quaymapIos(schemes("$(NOBODY_KNOWS)"))],
    ],
  ],
  [
    "on: ios, queriedScheme: quaymap",
    [
      ["connected", quaymapIos(list("LSApplicationQueriesSchemes", "quaymap"))],
      ["missing", quaymapIos()],
    ],
  ],
  [
    "on: android, host: tiles.quaymap.example",
    [
      ["connected", replaced(quaymapAndroid(), "<application>", '<application android:usesCleartextTraffic="true">')],
      [
        "loose",
        replaced(
          quaymapAndroid(
            {},
            {
              "app/src/main/res/xml/net.xml":
                '<network-security-config><domain-config cleartextTrafficPermitted="false"><domain>tiles.quaymap.example</domain></domain-config></network-security-config>',
            },
          ),
          "<application>",
          '<application android:networkSecurityConfig="@xml/net">',
        ),
      ],
      ["missing", quaymapAndroid()],
    ],
  ],
  ["on: ios, host: 'https://tiles.quaymap.example'", [["unneeded", quaymapIos()]]],
  [
    "on: ios, systemFramework: CoreLocation",
    [
      ["connected", withPhases(linked("B1, B2,"))],
      ["missing", withPhases(linked("B1,"))],
      ["unneeded", quaymapIos()],
    ],
  ],
  [
    "on: ios, embed: { name: Quaymap.framework, kind: dynamic }",
    [
      ["connected", withPhases(linked("B1,", "B1,"))],
      ["loose", withPhases(linked("B1,"))],
      ["unneeded", quaymapIos()],
    ],
  ],
  [
    "on: ios, linkerFlag: -ObjC",
    [
      ["connected", quaymapIos("", {}, { settings: 'OTHER_LDFLAGS = ( "$(inherited)", "-ObjC", );' })],
      ["unknown", quaymapIos()],
      ["missing", withPhases(linked("B1,"))],
    ],
  ],
  ["on: ios, searchPath: vendor/quaymap", [["connected", quaymapIos("", {}, { settings: "HEADER_SEARCH_PATHS = vendor/quaymap;" })]]],
  [
    "on: android, keepRule: '-keep class example.quaymap.Renderer'",
    [
      ["connected", quaymapAndroid({ android: shrinks("'rules.pro'") }, { "app/rules.pro": "-keep class example.quaymap.** { *; }\n" })],
      [
        "loose",
        quaymapAndroid({ android: shrinks("'rules.pro'") }, { "app/proguard-quaymap.pro": "-keep class example.quaymap.Renderer\n" }),
      ],
      ["missing", quaymapAndroid({ android: shrinks("'rules.pro'") })],
      ["unneeded", quaymapAndroid({ android: shrinks("'rules.pro'", "false") })],
      ["unknown", quaymapAndroid({ android: shrinks("'rules.pro'", "nobodyKnows") })],
    ],
  ],
  [
    "on: android, packaging: { option: pickFirst, value: lib/x.so }",
    [
      ["connected", quaymapAndroid({ android: "  packaging {\n    jniLibs {\n      pickFirsts += 'lib/x.so'\n    }\n  }\n" })],
      ["missing", quaymapAndroid()],
    ],
  ],
  [
    "on: android, start: Quaymap.start",
    [
      ["connected", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.start(this)")))],
      ["connected", quaymapAndroid({}, kotlin("class Later { fun go() = with(Quaymap) { start() } }\nval later = Later().go()\n"))],
      ["unknown", quaymapAndroid({}, kotlin('class Later { fun go() = Bridge.call("Quaymap", "start") }\nval later = Later().go()\n'))],
      ["missing", quaymapAndroid({}, kotlin("// Quaymap.start(this)\n"))],
      ["loose", quaymapAndroid({}, kotlin("fun go() { Quaymap.start(this) }\n"))],
      ["unknown", quaymapAndroid()],
    ],
  ],
  [
    "on: android, withdrawn: { versions: '[4.0,4.3)', instead: '4.3' }",
    [
      ["loose", quaymapAndroid()],
      ["unneeded", replaced(quaymapAndroid(), "quaymap-android:4.2.0", "quaymap-android:4.3.0")],
    ],
  ],
  [
    "on: android, withdrawn: { calls: [Quaymap.init], instead: Quaymap.start }",
    [
      ["loose", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.init(this)")))],
      ["unneeded", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.start(this)")))],
    ],
  ],
  [
    "on: android, withdrawn: { versions: '[4.0,4.3)', calls: [Quaymap.init], instead: Quaymap.start }",
    [
      ["loose", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.init(this)")))],
      ["unneeded", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.start(this)")))],
      ["unneeded", replaced(quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.init(this)"))), ":4.2.0", ":4.3.0")],
      ["unknown", replaced(quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.init(this)"))), ":4.2.0'", "'")],
    ],
  ],
  [
    "on: android, withdrawn: { kotlin: [Quaymap.init, Quaymap.open], java: Quaymap.start, instead: Quaymap.begin }",
    [
      ["loose", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.open(this)")))],
      ["unneeded", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.start(this)")))],
    ],
  ],
  [
    "on: android, debugOnly: { android: [Quaymap.setVerbose, Quaymap.record] }",
    [
      ["loose", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.record(true)")))],
      ["loose", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.setVerbose(true)")))],
      ["connected", quaymapAndroid({ application: activity }, kotlin(onCreate("if (BuildConfig.DEBUG) Quaymap.record(true)")))],
      ["unneeded", quaymapAndroid({ application: activity }, kotlin(onCreate("Quaymap.start(this)")))],
    ],
  ],
  [
    "on: android, serviceFile: { name: style.json, folder: src/main/assets }",
    [
      ["connected", quaymapAndroid({}, { "app/src/main/assets/style.json": '{ "tiles": "sea" }' })],
      ["connected", quaymapAndroid({}, { "app/src/free/assets/style.json": '{ "tiles": "sea" }', "app/src/main/assets/style.json": "{}" })],
      ["loose", quaymapAndroid({}, { "app/style.json": '{ "tiles": "sea" }' })],
      ["loose", quaymapAndroid({}, { "app/src/main/res/raw/style.json": '{ "tiles": "sea" }' })],
      ["missing", quaymapAndroid()],
    ],
  ],
  [
    "on: android, key: { name: serverKey, shape: 'qms_[0-9a-f]{16}', in: [] }",
    [
      ["unknown", quaymapAndroid()],
      ["connected", quaymapAndroid({}, kotlin('val other = "qm_live_0123"\n'))],
      ["unknown", quaymapAndroid({ application: metaData("example.quaymap.KEY", "qm_live_0123456789abcdef") })],
      ["loose", quaymapAndroid({ application: metaData("example.tides.KEY", "qms_0123456789abcdef") })],
      ["loose", quaymapAndroid({}, kotlin('val secret = "qms_0123456789abcdef"\n'))],
    ],
  ],
  [
    // A key that looks like a word.
    "on: android, key: { name: serverKey, shape: 'harbour-[a-z]+', in: [] }",
    [
      ["loose", quaymapAndroid({}, kotlin('val secret = "harbour-lantern"\n'))],
      ["connected", quaymapAndroid({}, kotlin('val other = "the harbour-lantern of old"\n'))],
    ],
  ],
  ["on: android, logLine: 'Quaymap: up'", [["unknown", quaymapAndroid()]]],
  [
    `on: android, from: "5.0", permission: ${fine}`,
    [
      ["unneeded", quaymapAndroid()],
      ["missing", replaced(quaymapAndroid(), "quaymap-android:4.2.0", "quaymap-android:5.0.0")],
      ["unknown", replaced(quaymapAndroid(), ":4.2.0'", "'")],
    ],
  ],
  [`on: android, before: "4.0", permission: ${fine}`, [["unneeded", quaymapAndroid()]]],
  [`on: android, framework: [react-native], permission: ${fine}`, [["unneeded", quaymapAndroid()]]],
  [`on: android, framework: native, permission: ${fine}`, [["missing", quaymapAndroid()]]],
  [
    `on: android, with: tollbuoy, permission: ${fine}`,
    [
      ["unneeded", quaymapAndroid()],
      ["missing", dependency("example.tollbuoy:tollbuoy:1.0.0")],
    ],
  ],
  [`on: android, variant: staging, permission: ${fine}`, [["unneeded", quaymapAndroid()]]],
  [
    "on: android, variant: release, key: { name: k, in: [ buildConfig: MAP_KEY ] }",
    [
      [
        "connected",
        quaymapAndroid({
          android: "  buildTypes {\n    release {\n      buildConfigField 'String', 'MAP_KEY', '\"abcdef\"'\n    }\n  }\n",
        }),
      ],
      [
        "missing",
        quaymapAndroid({ android: "  buildTypes {\n    debug {\n      buildConfigField 'String', 'MAP_KEY', '\"abcdef\"'\n    }\n  }\n" }),
      ],
    ],
  ],
];

function replaced(example: Example, from: string, to: string): Example {
  const result = Object.fromEntries(Object.entries(example).map(([file, text]) => [file, text.replace(from, to)]));
  expect(result).not.toEqual(example);
  return result;
}

function dependency(notation: string): Example {
  return replaced(quaymapAndroid(), "dependencies {\n", `dependencies {\n  implementation '${notation}'\n`);
}

describe.each(CASES)("%s", (need, cases) => {
  it.each(cases)("is %s", async (state, files) => {
    const { traces, problems } = await tracesOf({ ...files, ...sheetOf(need) }, "quaymap");
    expect(problems).toEqual([]);
    const wires = traces.flatMap(({ sides }) => sides.flatMap(({ wires: list }) => list)).filter((wire) => wire.need.derived === undefined);
    expect(wires).toHaveLength(1);
    const [wire] = wires;
    expect(wire?.state, `${wire?.found ?? ""} ${wire?.why?.code ?? ""}`).toBe(state);
    if (state === "loose" || state === "missing") {
      expect(wire?.fix ?? "").not.toBe("");
      expect(wire?.places.length ?? 0).toBeGreaterThan(0);
    }
    if (state === "unknown" || state === "unneeded") expect(wire?.why).toBeDefined();
    for (const place of wire?.places ?? []) expect(place.line).toBeGreaterThan(0);
  });
});

describe("a start in whose place the app has a call that the vendor has withdrawn", () => {
  it("is not told as missing; one beside which only a call for debugging stands is", async () => {
    const needs =
      "on: android, start: Quaymap.start }\n  - { on: android, withdrawn: { calls: [Quaymap.init], instead: Quaymap.start } }\n  - { on: android, debugOnly: { android: Quaymap.record }";
    const startOf = async (call: string) => {
      const files = quaymapAndroid({ application: activity }, kotlin(onCreate(call)));
      const { traces } = await tracesOf({ ...files, ...sheetOf(needs) }, "quaymap");
      const wires = traces.flatMap(({ sides }) => sides.flatMap(({ wires: list }) => list));
      return wires.flatMap(({ need, state, why }) => (need.kind === "start" ? [state, why && reasonText(why)] : []));
    };
    expect(await startOf("Quaymap.init(this)")).toEqual(["unknown", "Quaymap.init is called in its place"]);
    expect((await startOf("Quaymap.record(true)"))[0]).toBe("missing");
  });
});

describe("a URL scheme that is built from a key", () => {
  const key = "on: ios, key: { name: client, in: [ plist: QuaymapClient ] }";
  const states = async (need: string, files: Example): Promise<State[]> => {
    const { traces } = await tracesOf({ ...files, ...sheetOf(`${key} }\n  - { on: ios, urlScheme: ${need}`) }, "quaymap");
    return traces.flatMap(({ sides }) =>
      sides.flatMap(({ wires }) => wires.flatMap((wire) => (wire.need.kind === "urlScheme" ? wire.state : []))),
    );
  };
  const client = string("QuaymapClient", "12-ab.pilot.example");

  it.each<[string, string, string, State]>([
    ["as it is, after a prefix", "{ key: client, prefix: qm }", "qm12-ab.pilot.example", "connected"],
    ["with its parts in the order of a package name", "{ key: client, reversed: true }", "example.pilot.12-ab", "connected"],
    ["not reversed, where it is to be", "{ key: client, reversed: true }", "12-ab.pilot.example", "missing"],
    ["reversed, where it is not to be", "{ key: client }", "example.pilot.12-ab", "missing"],
    ["with one character too many", "{ key: client, prefix: qm }", "qm12-ab.pilot.examples", "loose"],
  ])("%s", async (_, need, scheme, state) => {
    expect(await states(need, quaymapIos(client + schemes(scheme)))).toEqual([state]);
  });
});
