import { describe, expect, it } from "vitest";
import { check } from "../../src/core/project/check.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import { androidBlock, androidExample, xcodeExample } from "../../src/core/rules/examples.js";
import { startExample } from "../../src/core/rules/start/examples.js";
import { survey } from "../../src/core/project/survey.js";
import { readPlist } from "../../src/core/syntax/plist.js";
import { readJson } from "../../src/core/syntax/json.js";
import { readXml } from "../../src/core/syntax/xml.js";
import { monorepo } from "../helpers/dotnet-apps.js";
import { workspace } from "../helpers/flutter-apps.js";
import { reportOf } from "../helpers/memory.js";
import { Source } from "../../src/core/syntax/source.js";

/** Every sign and opening that some format gives a meaning, many times over, where a value belongs. */
const SIGNS = [
  ..."()[]{}<>\"'`/\\#$@!%^&*-+=|~?:;,._\n\t\r",
  ...["${", "#{", "$(", '"""', "'''", "/*", "*/", "//", "<!--", "-->", "%w[", "<<", "->", "=>", "::", "?.", "!!", "do ", "end ", "if "],
  ...["{ |x| ", "@a ", "#if A\n", 'r#"', "b'", "1", "a ", "a.", "a(", "a{", "a[", "new ", "(A)", "\\u{", "\0", "\ufeff", ": &a", "*a "],
];
const LENGTH = Number(process.env.SHAPE_LENGTH ?? 4_000);

const android = androidExample(androidBlock());
const base = {
  ...android,
  "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
  "ios/Podfile": "target 'Pilot' do\n  pod 'QuaymapSDK', '1.0'\nend\n",
  "package.json": '{"name":"x","dependencies":{"react-native":"0.80.0"}}',
};
const FORMATS: [string, (text: string) => Record<string, string>][] = [
  [
    "a Groovy script",
    (text) => ({ "app/build.gradle": `${android["app/build.gradle"] ?? ""}\next.y = ${text}\ndependencies { implementation ${text} }\n` }),
  ],
  [
    "a Kotlin script",
    (text) => ({ "build.gradle": "", "build.gradle.kts": `val y = ${text}\nallprojects { repositories { maven(${text}) } }\n` }),
  ],
  [
    "a component of Vue",
    (text) => ({
      "src/Page.vue": `<script setup>\nconst y = ${text}\n</script>\n<template><p :a="${text}" @b="${text}">{{ ${text} }}</p>${text}</template>\n`,
    }),
  ],
  [
    "a component of Svelte",
    (text) => ({ "src/Page.svelte": `<script>\nlet y = ${text}\n</script>\n<p a={${text}} onb={${text}}>${text}</p>\n` }),
  ],
  ["a Podfile", (text) => ({ "ios/Podfile": `x = ${text}\ntarget 'Pilot' do\n  pod ${text}\nend\n` })],
  ["a Swift manifest", (text) => ({ "ios/Package.swift": `let package = Package(name: "x", dependencies: [${text}])` })],
  ["a configuration in TypeScript", (text) => ({ "app.config.ts": `export default { expo: { name: ${text} } }` })],
  ["JSON", (text) => ({ "app.json": `{ "expo": ${text} }` })],
  ["YAML", (text) => ({ "pubspec.yaml": `name: x\ndependencies:\n  flutter:\n    sdk: flutter\n  z: ${text}\n` })],
  ["TOML", (text) => ({ "gradle/libs.versions.toml": `[versions]\na = ${text}\n` })],
  ["XML", (text) => ({ "app/src/main/AndroidManifest.xml": `<manifest><application>${text}</application></manifest>` })],
  ["a property list", (text) => ({ "ios/Pilot/Info.plist": `<plist><dict><key>a</key>${text}</dict></plist>` })],
  ["an Xcode project", (text) => ({ "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample({ settings: `Z = "a"; Y = ${text};` }) })],
  ["properties", (text) => ({ "gradle.properties": `a=${text}\n` })],
  ["a lock of pods", (text) => ({ "ios/Podfile.lock": `PODS:\n  - ${text}\n` })],
  ["a lock of Yarn", (text) => ({ "yarn.lock": `a@${text}:\n  version "1"\n` })],
  ["a lock of pnpm", (text) => ({ "pnpm-lock.yaml": `lockfileVersion: '9.0'\nimporters:\n  .:\n    dependencies:\n      a: ${text}\n` })],
  ["xcconfig", (text) => ({ "ios/a.xcconfig": `A = ${text}\n` })],
];

describe("one sign, many times over", () => {
  it.each(FORMATS)("in %s: no crash, and the rest is answered", async (_, make) => {
    for (const sign of SIGNS) {
      const files = { ...base, ...make(sign.repeat(Math.ceil(LENGTH / sign.length))) };
      const found = await survey(new MemoryTree(files));
      const shown = JSON.stringify(sign);
      expect(check(found).survey.apps.length, shown).toBeGreaterThan(0);
    }
  });
});

describe("parts that stand in a binary property list many times over", () => {
  /** `levels` lists of two that both are the next list. */
  function shared(levels: number): Buffer {
    const objects: Buffer[] = [];
    for (let index = 0; index < levels; index++) objects.push(Buffer.from([0xa2, index + 1, index + 1]));
    objects.push(Buffer.from([0x51, 0x61]));
    const offsets: number[] = [];
    let at = 8;
    for (const object of objects) {
      offsets.push(at);
      at += object.length;
    }
    const trailer = Buffer.alloc(32);
    trailer.writeUInt8(1, 6);
    trailer.writeUInt8(1, 7);
    trailer.writeBigUInt64BE(BigInt(objects.length), 8);
    trailer.writeBigUInt64BE(BigInt(at), 24);
    return Buffer.concat([Buffer.from("bplist00"), ...objects, Buffer.from(offsets), trailer]);
  }
  const read = (bytes: Buffer) => readPlist(new Source("Info.plist", bytes.toString("utf8")), bytes);

  it("are read where they are few", () => {
    const { root, problems } = read(shared(3));
    expect(problems).toEqual([]);
    expect(root?.kind === "list" && root.items.length).toBe(2);
  });

  it("are told where they are more than can be", () => {
    const { root, problems } = read(shared(26));
    expect(root).toBeUndefined();
    expect(problems.map(({ message }) => message)).toEqual(["not a valid binary property list: it unfolds to more than 200000 values"]);
  });

  it("and what is cut off or points out of the file is told too", () => {
    const whole = shared(3);
    for (let length = 0; length < whole.length; length++) expect(read(whole.subarray(0, length)).root).toBeUndefined();
    for (let at = 8; at < whole.length; at++) {
      const damaged = Buffer.from(whole);
      damaged[at] = 0xff;
      expect(() => read(damaged)).not.toThrow();
    }
  });
});

describe("nesting", () => {
  it("of XML is told where it is cut", () => {
    const { problems } = readXml(new Source("a.xml", `${"<a>".repeat(600)}${"</a>".repeat(600)}`));
    expect(problems.map(({ message }) => message)).toEqual(["nested more than 500 levels deep; what is deeper is not read"]);
  });

  it("of JSON does not count brackets in texts", () => {
    expect(readJson(new Source("a.json", JSON.stringify({ a: "[".repeat(5_000), b: '\\"[['.repeat(900) }))).problems).toEqual([]);
    expect(readJson(new Source("a.json", `${"[".repeat(600)}${"]".repeat(600)}`)).problems).toHaveLength(1);
  });
});

describe("what no person would write in projects of other frameworks", () => {
  const long = 60_000;
  const app = "src/App/App.csproj";
  const inProject = (more: string): Record<string, string> => ({
    ...monorepo,
    [app]: (monorepo[app] ?? "").replace("<ItemGroup>", `${more}<ItemGroup>`),
  });
  const android = "src/App/Platforms/Android/MainApplication.cs";
  it.each<[string, Record<string, string>]>([
    ["line breaks without end after an attribute", { ...monorepo, [android]: `[assembly: UsesPermission(X)]${"\n".repeat(long)}` }],
    ["comments that nothing closes", { ...monorepo, [android]: `[assembly: UsesPermission(X)]${"/*".repeat(long)}` }],
    ["constants without end", { ...monorepo, "src/Core/Permissions.cs": 'class A { const string B = "x"; }\n'.repeat(6_000) }],
    ["halves without end", { ...monorepo, "src/App/TideGauge.cs": "partial int A<".repeat(20_000) }],
    [
      "a condition without end",
      inProject(`<PropertyGroup><X Condition="${"'$(A)' == 'b' or ".repeat(6_000)}'a' == 'a'">1</X></PropertyGroup>`),
    ],
    ["functions in functions without end", inProject(`<PropertyGroup><X>${"$(A.Trim(".repeat(6_000)}</X></PropertyGroup>`)],
    ["stars without end", inProject(`<ItemGroup>${`<X Include="${"*a".repeat(40)}" />`.repeat(100)}</ItemGroup>`)],
    ["channels in channels", { ...workspace, "apps/crew/lib/tide.dart": "MethodChannel(".repeat(8_000) }],
    [
      "constants that double",
      {
        ...workspace,
        "apps/crew/lib/channels.dart": Array.from(
          { length: 600 },
          (_, index) => `const a${index} = '$a${index + 1}$a${index + 1}';\n`,
        ).join(""),
        "apps/crew/lib/tide.dart": "final channel = MethodChannel(a0);\n",
      },
    ],
  ])("ends: %s", async (_, files) => {
    const { survey } = await reportOf(files);
    expect(survey.apps).toHaveLength(1);
  });
});

describe("source code that no person would write", () => {
  const lines = (count: number, line: (index: number) => string) => Array.from({ length: count }, (_, index) => line(index)).join("\n");
  const type = (name: string, body: string) =>
    `package example.maresia.pilot\n\nimport example.quaymap.Quaymap\n\nclass ${name} {\n${body}\n}\n`;
  const START = 'Quaymap.start(null, "x")';
  const folder = "app/src/main/java/example/maresia/pilot";
  it.each<[string, Record<string, string>]>([
    [
      "a chain of functions without end",
      { "Chain.kt": type("Chain", `${lines(3_000, (k) => `  fun step${k}() { step${k + 1}() }`)}\n  fun step3000() { ${START} }`) },
    ],
    [
      "dead types that all name each other",
      Object.fromEntries(
        Array.from({ length: 14 }, (_, k) => [
          `Dead${k}.kt`,
          type(`Dead${k}`, `  fun go${k}() {\n    ${START}\n${lines(14, (j) => (j === k ? "" : `    Dead${j}().go${j}()`))}\n  }`),
        ]),
      ),
    ],
    [
      "arguments of very many names",
      Object.fromEntries(
        Array.from({ length: 300 }, (_, k) => [
          `Arg${k}.kt`,
          type(
            `Arg${k}`,
            lines(10, (j) => `  fun go${j}() { Quaymap.start(value${k}x${j}, Keys${k}x${j}.MAIN, other${k}x${j}) }`),
          ),
        ]),
      ),
    ],
    [
      "very many lazy values",
      {
        "Lazy.kt": type(
          "Lazy",
          `${lines(600, (k) => `  val lazy${k} by lazy { ${START} }\n  fun go${k}() { lazy${k}.toString() }`)}\n  fun all() {\n${lines(600, (k) => `    go${k}()`)}\n  }`,
        ),
      },
    ],
  ])("ends: %s", async (_, files) => {
    const { survey } = await reportOf(
      startExample({
        onCreate: "",
        start: ', arguments: [{ position: 2, shape: "qm_[0-9a-f]{8}" }]',
        files: Object.fromEntries(Object.entries(files).map(([name, text]) => [`${folder}/${name}`, text])),
      }),
    );
    expect(survey.apps[0]?.code?.calls.length).toBeGreaterThan(0);
  });
});
