import { describe, expect, it } from "vitest";
import { MemoryTree } from "../../src/core/files/memory.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { packageNeeds, pageOfPackage, readPage, sheetFromPage } from "../../src/core/project/package-needs/index.js";
import { iosExample, reactNativeExample } from "../../src/core/rules/examples.js";
import { loadSheets } from "../../src/core/sheets/load.js";
import { needsText } from "../../src/views/text/needs.js";
import { styleFor } from "../../src/views/text/style.js";
import { surveyOf } from "../helpers/memory.js";

/** Pages as vendors write them: what is a step, what is one for some apps, what is none. */

const NAME = "@quaymap/react-native";
const fence = (language: string, ...lines: string[]) => ["```" + language, ...lines, "```", ""].join("\n");
const text = (key: string) => [`<key>${key}</key>`, "<string>Shows the chart.</string>"];
const permission = (name: string) => `<uses-permission android:name="android.permission.${name}" />`;

async function steps(page: string, file = "README.md"): Promise<string[]> {
  const { steps: found } = await readPage({ file, text: page }, NAME);
  return found.map(
    ({ on, kind, value, optional, line }) =>
      `${optional ? "perhaps " : ""}${on} ${kind} ${typeof value === "string" ? value : JSON.stringify(value)} :${line}`,
  );
}

describe("a page says what to do", () => {
  it.each<[string, string, string[]]>([
    [
      "in a block for the property list",
      `## iOS setup\n\n${fence("xml", ...text("NSCameraUsageDescription"))}`,
      ["ios purposeText NSCameraUsageDescription :4"],
    ],
    [
      "in a block for the manifest",
      `## Android\n\n${fence("xml", "<manifest>", permission("CAMERA"), "</manifest>")}`,
      ["android permission android.permission.CAMERA :5"],
    ],
    [
      "with the attributes of a permission",
      `## Android\n\n${fence("xml", '<uses-permission android:name="android.permission.BLUETOOTH" android:maxSdkVersion="30" />')}`,
      ['android permission {"name":"android.permission.BLUETOOTH","maxSdkVersion":"30"} :4'],
    ],
    [
      "in the list of config plugins",
      `## Expo\n\n${fence("json", "{", `  "expo": { "plugins": [["${NAME}", { "tiles": true }]] }`, "}")}${fence("json", '{ "plugins": ["other"] }')}`,
      [`shared configPlugin ${NAME} :5`],
    ],
    [
      "in the properties of the build",
      `## Android setup\n\n${fence("properties", "# tiles", "quaymap.tiles=true", "quaymap.name=Harbour")}`,
      ['android gradleProperty {"name":"quaymap.tiles","value":"true"} :5', 'android gradleProperty {"name":"quaymap.name"} :6'],
    ],
    [
      "in a sentence that names a permission in short",
      "## Android setup\n\nThe `READ_CONTACTS` permission must be added to `AndroidManifest.xml`. If your app writes contacts, add `WRITE_CONTACTS` to the manifest as a permission. The manifest does not need the `CAMERA` permission.\n",
      ["android permission android.permission.READ_CONTACTS :3", "perhaps android permission android.permission.WRITE_CONTACTS :3"],
    ],
    [
      "below a level of Android, which is no reference",
      `## Permissions\n\n### API 23+\n\n${fence("xml", permission("CAMERA"))}### API 22 and below\n\n${fence("xml", permission("READ_PROFILE"))}### API\n\n${fence("xml", permission("NFC"))}`,
      ["android permission android.permission.CAMERA :6", "perhaps android permission android.permission.READ_PROFILE :11"],
    ],
    [
      "in a list of platforms",
      "## Supported platforms\n\n- iOS 15.1+\n- Android (API 26+)\n\n## Other\n\n- iOS 17+\n",
      ["ios iosTarget 15.1 :3", "android minSdk 26 :4"],
    ],
    [
      "for a feature that some apps have",
      `## Android setup\n\nTo enable the \`video recording\` feature add this:\n\n${fence("xml", permission("RECORD_AUDIO"))}`,
      ["perhaps android permission android.permission.RECORD_AUDIO :6"],
    ],
    [
      "and not what it does by itself",
      `## iOS setup\n\nThe option will take care of adding the text to the property list:\n\n${fence("xml", ...text("NSCameraUsageDescription"))}`,
      [],
    ],
    [
      "in the configuration of Cordova, also among remarks on a platform",
      `## iOS quirks\n\n${fence("xml", '<edit-config target="NSCameraUsageDescription" file="*-Info.plist" mode="merge"><string>Scans.</string></edit-config>')}## API\n\n${fence("xml", '<edit-config target="NSMotionUsageDescription" file="*-Info.plist"></edit-config>')}`,
      ["ios purposeText NSCameraUsageDescription :4"],
    ],
    [
      "of an entitlement",
      "## iOS setup\n\nAdd the entitlement `com.apple.developer.nfc.readersession.formats`.\n",
      ["ios entitlement com.apple.developer.nfc.readersession.formats :3"],
    ],
    [
      "with variables of a plugin",
      `## Installation\n\n${fence("bash", `cordova plugin add ${NAME} --variable MAP_KEY="..."`)}`,
      [`shared option {"of":"${NAME}","name":"MAP_KEY"} :4`],
    ],
    [
      "in string resources",
      `## Android setup\n\n${fence("xml", "<resources>", '  <string name="quaymap_channel">Berths</string>', "</resources>")}`,
      ["android resource quaymap_channel :5"],
    ],
    [
      "in lists of the property list",
      `## Setup\n\n${fence("", "<key>UIBackgroundModes</key>", "<array><string>audio</string></array>", "<key>LSApplicationQueriesSchemes</key>", "<array>", "<string>pay</string>", "</array>")}`,
      ["ios backgroundMode audio :4", "ios queriedScheme pay :6"],
    ],
    [
      "with lines that a change adds",
      `## Installation\n\n${fence("diff", " <manifest>", `-${permission("CAMERA")}`, `+${permission("RECORD_AUDIO")}`)}`,
      ["android permission android.permission.RECORD_AUDIO :6"],
    ],
    [
      "for the build",
      `## Setup\n\n${fence("gradle", "android {", "  minSdkVersion = 26", "}", "maven { url 'https://maven.quaymap.example/a' }")}`,
      ["android minSdk 26 :5", "android repository https://maven.quaymap.example/a :7"],
    ],
    ["for pods", `## Setup\n\n${fence("ruby", "platform :ios, '15.1'")}`, ["ios iosTarget 15.1 :4"]],
    [
      "for the shrinker",
      `## Configuration\n\n${fence("", "-keep class example.quaymap.** { *; }")}`,
      ["android keepRule -keep class example.quaymap.** { *; } :4"],
    ],
    [
      "with packages beside it",
      `## Install\n\n${fence("sh", `npm install ${NAME} quay-core@^2.0.0 --save`)}`,
      ['both companion {"package":"quay-core"} :4'],
    ],
    [
      "in a configuration",
      `## Expo setup\n\n${fence("json", '{ "ios": { "infoPlist": { "NSCameraUsageDescription": "x" } }, "android": { "permissions": ["CAMERA"] } }')}`,
      ["ios purposeText NSCameraUsageDescription :4", "android permission android.permission.CAMERA :4"],
    ],
    [
      "in a sentence",
      "## iOS\n\nYou must add `NSCameraUsageDescription` to your property list. Requires iOS 15.1 or later.",
      ["ios purposeText NSCameraUsageDescription :3", "ios iosTarget 15.1 :3"],
    ],
    [
      "by the title that the editor shows",
      "## iOS\n\nAdd the key `Privacy - Photo Library Usage Description`.",
      ["ios purposeText NSPhotoLibraryUsageDescription :3"],
    ],
    [
      "in a table",
      "## Permissions\n\n| Requirement | Key |\n|---|---|\n| Camera | `NSCameraUsageDescription` |\n",
      ["ios purposeText NSCameraUsageDescription :5"],
    ],
    ["in a list", "## Permissions\n\n* Add `android.permission.CAMERA`\n", ["android permission android.permission.CAMERA :3"]],
    [
      "in a part that is folded away",
      `## Setup\n\n<details>\n<summary>iOS</summary>\n\n${fence("xml", ...text("NSCameraUsageDescription"))}</details>`,
      ["ios purposeText NSCameraUsageDescription :7"],
    ],
    [
      "twice, once",
      `## iOS\n\n${fence("xml", ...text("NSCameraUsageDescription"))}\nAdd \`NSCameraUsageDescription\`, if you need the camera.`,
      ["ios purposeText NSCameraUsageDescription :4"],
    ],
  ])("%s", async (_, page, expected) => {
    expect(await steps(page)).toEqual(expected);
  });

  it.each<[string, string, string[]]>([
    [
      "by the sentence before",
      `## iOS\n\nIf you need the camera, also add:\n\n${fence("xml", ...text("NSCameraUsageDescription"))}`,
      ["perhaps ios purposeText NSCameraUsageDescription :6"],
    ],
    [
      "by its heading",
      `## Setup\n\n### Scanning (optional)\n\n${fence("xml", permission("CAMERA"))}`,
      ["perhaps android permission android.permission.CAMERA :6"],
    ],
    [
      "by a comment, up to the next one",
      `## Android\n\n${fence("xml", permission("CAMERA"), "<!-- Optional: for notes by voice -->", permission("RECORD_AUDIO"), "<!-- Needed -->", permission("NFC"))}`,
      [
        "android permission android.permission.CAMERA :4",
        "perhaps android permission android.permission.RECORD_AUDIO :6",
        "android permission android.permission.NFC :8",
      ],
    ],
    [
      "by a list to choose from",
      `## Android\n\n${fence("xml", "<!-- Keep only those that you use -->", ...["CAMERA", "NFC", "RECORD_AUDIO", "READ_CONTACTS", "READ_CALENDAR", "INTERNET"].flatMap((name) => [`<!-- ${name} -->`, permission(name)]))}`,
      ["CAMERA", "NFC", "RECORD_AUDIO", "READ_CONTACTS", "READ_CALENDAR", "INTERNET"].map(
        (name, index) => `perhaps android permission android.permission.${name} :${6 + 2 * index}`,
      ),
    ],
  ])("for some apps only: %s", async (_, page, expected) => {
    expect(await steps(page)).toEqual(expected);
  });

  it.each<[string, string]>([
    ["under a heading of the interface", `## API\n\n${fence("xml", permission("CAMERA"))}`],
    ["below one", `## Quirks\n\n### iOS\n\n${fence("xml", ...text("NSCameraUsageDescription"))}`],
    ["in a comment", `## Android\n\n${fence("xml", "<manifest>", `<!-- ${permission("CAMERA")} -->`)}`],
    ["that tells how systems behave", "## iOS\n\nThe dialog is shown on devices running iOS 15 or later."],
    ["that only names it", "## iOS\n\nSee the page about `NSCameraUsageDescription`."],
    ["that is a level for readers of a table", "## Setup\n\n| Version | Made for |\n|---|---|\n| 1.0 | iOS 9 |\n"],
    ["with tools for work on it", `## Install\n\n${fence("sh", `npm install --save-dev ${NAME} quay-lint`)}`],
    ["of another package's installation", `## Install\n\n${fence("sh", "npm install quay-core other-kit")}`],
    ["in words in place of a command", `## Install\n\n${fence("sh", `npm install latest version of ${NAME}`)}`],
  ])("no step is what stands %s", async (_, page) => {
    expect(await steps(page)).toEqual([]);
  });

  it("on a page beside it to which it leads; others are told", async () => {
    const page =
      "## Setup\n\nSee [the setup](docs/setup.md), [our guide](https://docs.quaymap.example/install), [up](../../setup.md), ![badge](install.svg).\n\n## API\n\n[more](api/setup.md)\n";
    const beside = (path: string) =>
      path === "docs/setup.md" ? { file: "package/docs/setup.md", text: "# Setup\n\nAdd `NSCameraUsageDescription`.\n" } : undefined;
    const found = await readPage({ file: "package/README.md", text: page }, NAME, beside);
    expect(found.steps.map(({ kind, value, file, line }) => [kind, value, file, line])).toEqual([
      ["purposeText", "NSCameraUsageDescription", "package/docs/setup.md", 3],
    ]);
    expect(found.links.map(({ to }) => to)).toEqual(["https://docs.quaymap.example/install", "../../setup.md"]);
  });

  it("by hand, where linking does it as well, but what it asks for besides holds", async () => {
    const page = `## Manual linking\n\n${fence("gradle", "include ':quay'")}\n### iOS\n\nAdd \`NSCameraUsageDescription\`.`;
    const { steps: found, rest } = await readPage({ file: "README.md", text: page }, NAME);
    expect([found.map(({ optional }) => optional), rest.map(({ optional }) => optional)]).toEqual([[false], [true]]);
  });

  it("in HTML, as a browser saves it", async () => {
    const page = `<!doctype html><html><head><title>Setup</title></head><body><nav><a>API</a></nav><h2>iOS setup</h2>\n<p>Add this:</p>\n<pre><code class="language-xml">&lt;key&gt;NSCameraUsageDescription&lt;/key&gt;\n&lt;string&gt;x&lt;/string&gt;</code></pre>\n<ul><li>Add <code>NSMicrophoneUsageDescription</code></li></ul>\n<table><tr><td>Contacts</td><td>NSContactsUsageDescription</td></tr></table></body></html>`;
    expect(await steps(page, "setup.html")).toEqual([
      "ios purposeText NSCameraUsageDescription :3",
      "ios purposeText NSMicrophoneUsageDescription :5",
      "ios purposeText NSContactsUsageDescription :6",
    ]);
  });

  it("with line ends and a mark of Windows", async () => {
    expect(await steps(`\ufeff## iOS\r\n\r\nAdd \`NSCameraUsageDescription\`.\r\n`)).toEqual([
      "ios purposeText NSCameraUsageDescription :3",
    ]);
  });

  it("and ends, whatever it holds", async () => {
    const words = ["[", "> ", "* ", "- a\n  ", "<div>", "| a ", "`", "**a", "_a ", "```\n", "<key>", "<!--", "\t- ", "[a](", "# a\n"];
    const code = ["<uses-permission ", "<key>NSFoo</key><dict>", "maven {  url ", "-keep a {", '"permissions": [', "<!--", "Privacy - a "];
    for (const [fence, parts] of [
      ["", words],
      ["~~~xml\n", code],
    ] as const)
      for (const part of parts)
        await readPage({ file: "README.md", text: `## Setup\n\n${fence}${part.repeat(60_000 / part.length)}` }, NAME);
  });

  it("and is told where it is longer than what is read", async () => {
    const { rest } = await readPage({ file: "README.md", text: `## Setup\n\n${"a\n\n".repeat(100_000)}` }, NAME);
    expect(rest.at(-1)?.text).toBe("the page goes on, and is not read from here on");
  });
});

describe("a package of an app", () => {
  const PAGE = `# Quaymap\n\n## Setup\n\n### iOS\n\n${fence("xml", ...text("NSCameraUsageDescription"), ...text("NSLocationWhenInUseUsageDescription"))}\n### Android\n\nIf you scan, add:\n\n${fence("xml", permission("CAMERA"))}\n${fence("xml", permission("INTERNET"))}\n${fence("kotlin", "override fun onCreate() {", "}")}`;
  const files = (more: Record<string, string> = {}) =>
    reactNativeExample(
      { [NAME]: "4.2.0" },
      {
        [`node_modules/${NAME}/package.json`]: `{ "name": "${NAME}", "version": "4.2.0" }`,
        [`node_modules/${NAME}/android/build.gradle`]: "apply plugin: 'com.android.library'\n",
        [`node_modules/${NAME}/RNQuaymap.podspec`]:
          "Pod::Spec.new do |s|\n  s.name = 'RNQuaymap'\n  s.version = '4.2.0'\n  s.platforms = { :ios => '13.0' }\n  s.source_files = 'ios/*.m'\nend\n",
        [`node_modules/${NAME}/ReadMe.md`]: PAGE,
        "android/app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">${permission("INTERNET")}<application /></manifest>`,
        ...iosExample(
          { settings: "INFOPLIST_FILE = Info.plist;" },
          {
            "ios/Podfile": "target 'Pilot' do\n  use_native_modules!\nend\n",
            "ios/Info.plist": `<plist version="1.0"><dict>\n${text("NSLocationWhenInUseUsageDescription").join("\n")}\n</dict></plist>\n`,
          },
          "ios/",
        ),
        ...more,
      },
    );
  async function answer(more: Record<string, string> = {}, name = NAME) {
    const all = files(more);
    const [app] = surveyOf(all).apps;
    const found = pageOfPackage(new ProjectFiles(new MemoryTree(all)), NAME, "");
    if (!app || !found) throw new Error("no app, or no page");
    const page = await readPage(found, name);
    return { page, needs: packageNeeds(app, name, page) };
  }
  const statesOf = ({ trace }: ReturnType<typeof packageNeeds>) =>
    trace.sides.flatMap(({ side, wires }) =>
      wires.map(({ need, state }) => `${side} ${need.optional ? "perhaps " : ""}${need.what}: ${state}`),
    );

  it("has a checklist for each side", async () => {
    const { needs, page } = await answer();
    expect(needs.isIn).toBe(true);
    expect(statesOf(needs)).toEqual(
      expect.arrayContaining([
        "android perhaps permission android.permission.CAMERA: missing",
        "android permission android.permission.INTERNET: connected",
        "ios purpose text NSCameraUsageDescription: missing",
        "ios purpose text NSLocationWhenInUseUsageDescription: connected",
      ]),
    );
    expect(page.rest.map(({ section, text: line }) => `${section}: ${line}`)).toEqual(["Android: override fun onCreate() {"]);
    for (const width of [80, 120]) {
      const shown = needsText([needs], page, styleFor({ color: false, width }), false);
      expect(shown).toMatch(/✗ to do\s+purpose text NSCameraUsageDescription/);
      expect(shown).toMatch(/· optional\s+permission android.permission.CAMERA/);
      expect(shown).toContain("1 optional and open");
    }
  });

  it("needs what its code uses, though the page leaves it open", async () => {
    const use = {
      [`node_modules/${NAME}/ios/Scan.m`]: "[AVCaptureDevice requestAccessForMediaType:AVMediaTypeVideo completionHandler:nil];\n",
    };
    const open = {
      [`node_modules/${NAME}/ReadMe.md`]: `## iOS\n\nIf you scan, add:\n\n${fence("xml", ...text("NSCameraUsageDescription"))}`,
    };
    expect(statesOf((await answer(open)).needs)).toContain("ios perhaps purpose text NSCameraUsageDescription: missing");
    expect(statesOf((await answer({ ...open, ...use })).needs)).toContain("ios purpose text NSCameraUsageDescription: missing");
  });

  it("that is not in the app is answered as if it were", async () => {
    const { needs } = await answer({}, "quay-other");
    expect(needs.isIn).toBe(false);
    expect(statesOf(needs)).toContain("ios purpose text NSCameraUsageDescription: missing");
  });

  it("asks of apps of one framework alone what a part about it asks", async () => {
    const page = `## Installation with Expo\n\n${fence("json", '{ "ios": { "infoPlist": { "NSCameraUsageDescription": "Scans." } } }')}## iOS\n\n${fence("xml", ...text("NSMotionUsageDescription"))}`;
    const found = await readPage({ file: "README.md", text: page }, NAME);
    expect(sheetFromPage(found, NAME, "npm", "quaymap")).toContain("framework: expo");
    const property = await readPage(
      { file: "README.md", text: `## Android setup\n\n${fence("properties", "quaymap.name=Harbour")}` },
      NAME,
    );
    expect(sheetFromPage(property, NAME, "npm", "quaymap")).toContain("gradleProperty: quaymap.name  #");
    const [app] = surveyOf(iosExample()).apps;
    const { trace } = packageNeeds(app as NonNullable<typeof app>, NAME, found);
    const states = trace.sides.flatMap(({ wires }) => wires.map(({ need, state }) => `${state} ${need.what}`));
    expect(states).toContain("unneeded purpose text NSCameraUsageDescription");
    expect(states.filter((line) => line.includes("NSMotionUsageDescription"))).not.toContain(
      "unneeded purpose text NSMotionUsageDescription",
    );
  });

  it("gives a sheet that is one", async () => {
    const { page, needs } = await answer();
    const sheet = sheetFromPage(page, NAME, "npm", needs.sdk);
    const { sheets, problems } = await loadSheets([{ file: "quaymap.sdk.yaml", text: sheet }]);
    expect(problems).toEqual([]);
    expect(sheets[0]?.needs.map(({ kind, optional }) => `${kind}${optional ? " perhaps" : ""}`)).toEqual([
      "purposeText",
      "purposeText",
      "permission perhaps",
      "permission",
    ]);
    expect(sheet).toContain("# ReadMe.md:8, iOS");
    expect(sheet).toMatch(/^# by hand, or not understood: ReadMe.md:\d+, Android: override fun onCreate\(\) \{$/m);
  });
});
