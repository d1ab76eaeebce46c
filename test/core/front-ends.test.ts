import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { appOf, shown, tracesOf } from "../helpers/memory.js";
import { callsOfGrammar, callsOfScript } from "../helpers/front-ends.js";

/** Build files and settings that people write, in the languages that the tool reads in two ways. */
const FILES: Record<string, string> = {
  "build.gradle.kts": `plugins {
    id("com.android.application")
    kotlin("android") version libs.versions.kotlin.get()
}
android {
    namespace = "example.maresia.pilot"
    defaultConfig {
        minSdk = maxOf(24, rootProject.extra["floor"].toString().toInt())
        buildConfigField("String", "KEY", "\\"\${providers.gradleProperty("quaymap.key").getOrElse("")}\\"")
    }
    buildTypes.getByName("release") { isMinifyEnabled = true }
}
val own: (String) -> Boolean = { name: String -> name.startsWith("example.") }
listOf("quaymap", "brinelog").filter { it.isNotEmpty() }.forEach { name: String ->
    implementation("example.$name:$name-android:\${version(name) ?: "4.2.0"}")
}
fun version(name: String): String? = when (name) {
    "quaymap" -> findProperty("quaymap")?.toString()
    else -> null
}
tasks.register("stamp") { doLast { if (!file("out").exists()) println("none") } }
`,
  "settings.gradle.kts": `pluginManagement {
    repositories { google(); mavenCentral() }
}
dependencyResolutionManagement {
    repositories {
        maven { url = uri("https://maven.quaymap.example/releases"); content { includeGroup("example.quaymap") } }
    }
}
file("modules").listFiles()?.filter { it.isDirectory }?.forEach { folder -> include(":\${folder.name}") }
`,
  "Package.swift": `// swift-tools-version:5.9
import PackageDescription

let floor = ProcessInfo().environment["FLOOR"].flatMap { Int($0) } ?? 15
let package = Package(
    name: "Charts",
    platforms: [.iOS(.v15)],
    products: [.library(name: "Charts", targets: ["Charts"])],
    dependencies: [
        .package(url: "https://git.quaymap.example/quaymap-ios.git", from: "4.2.0"),
        .package(path: "../Tides"),
    ],
    targets: [
        .target(name: "Charts", dependencies: [.product(name: "Quaymap", package: "quaymap-ios")], resources: [.process("Assets")]),
        .testTarget(name: "ChartsTests", dependencies: ["Charts"]),
    ]
)
`,
  "app.config.ts": `import { existsSync } from "node:fs";
import type { ConfigContext, ExpoConfig } from "expo/config";

const quoted = (text: string) => /["'/]/.test(text) || text.split(/[/"']/).length > 1;
const stage = typeof process.env.STAGE === "string" && process.env.STAGE.trim() !== "" ? process.env.STAGE : "prod";
let match: RegExpExecArray | null = null;
while ((match = /(\\d+)/.exec(stage)) !== null) { note(match[0]); break; }
switch (stage) {
  case "prod": { if (existsSync("secrets.json")) load(); break; }
  default: note("no " + stage);
}
export default async ({ config }: ConfigContext): Promise<ExpoConfig> => {
  const plugins = await Promise.all(["a", "b"].map(async name => plugin(name)));
  return { ...config, name: title(stage), plugins: plugins.filter(Boolean), extra: { quoted: quoted(stage), n: (first(), last()) } };
};
`,
  "react-native.config.js": `const path = require("path");
function root() { return /^\\/["']?/.exec(__dirname) ? path.join(__dirname, "..") : __dirname; }
module.exports = {
  project: { ios: { sourceDir: path.join(root(), "ios") }, android: {} },
  dependencies: Object.fromEntries(["quaymap"].map(function (name) { return [name, { root: path.join(root(), name) }]; })),
};
`,
};

describe("a language that is read in two ways", () => {
  it.each(Object.entries(FILES))("%s has the same calls both times", async (file, text) => {
    const calls = await callsOfGrammar(file, text);
    expect(calls.length).toBeGreaterThan(5);
    expect(callsOfScript(file, text)).toEqual(calls);
  });

  it.each(Object.entries(FILES))("%s has them with Windows line ends", (file, text) => {
    expect(callsOfScript(file, text.replaceAll("\n", "\r\n"))).toEqual(callsOfScript(file, text));
  });
});

describe("settings of an app that are a program", () => {
  const app = (config: string) =>
    appOf({ "package.json": '{"name": "pilot", "dependencies": {"expo": "~54.0.0"}}', "app.config.ts": config });
  const idsOf = (config: string): (string | undefined)[] => {
    const { android, ios } = app(config);
    return [android, ios].map((side) => side?.ids.map(({ value }) => (value.kind === "known" ? value.text : value.kind)).join(" "));
  };

  it.each([
    [
      "a regular expression with a slash and quotes in a class",
      'const plain = (text: string) => { return /[/"\']/.test(text) ? "" : text; };\nexport default { name: "Pilot", slug: "pilot", android: { package: plain("example.maresia.pilot") }, ios: { bundleIdentifier: "example.maresia.pilot" } };\n',
    ],
    [
      "made in a function",
      'const id = "example.maresia.pilot";\nexport default ({ config }) => {\n  config.name = "Pilot";\n  config.slug = "pilot";\n  config.android = { package: id };\n  return { ...config, ios: { bundleIdentifier: id } };\n};\n',
    ],
    [
      "behind a test of a kind",
      'const given = "example.maresia.pilot";\nconst id = typeof given === "string" && given.trim() !== "" ? given : "example.other";\nmodule.exports = { name: "Pilot", slug: "pilot", android: { package: id }, ios: { bundleIdentifier: id } };\n',
    ],
  ])("%s", (_, config) => {
    expect(idsOf(config)).toEqual(["example.maresia.pilot", "example.maresia.pilot"]);
  });

  it("tells what is left open, takes both ways where one is taken, and calls nothing missing that may be there", async () => {
    const found = app(
      'const dev = process.env.STAGE === "dev";\nexport default { name: "P", slug: "p", android: { package: dev ? "example.p.dev" : "example.p", permissions: asked() }, ios: { bundleIdentifier: id() } };\n',
    );
    expect(found.android?.ids.map(({ value }) => shown(value))).toEqual(["either: example.p.dev, example.p"]);
    expect(found.blindSpots.map(({ side, what, why, places }) => [side, what, reasonText(why), places[0]?.line])).toEqual(
      expect.arrayContaining([
        ["android", "android.permissions in app.config.ts", "asked() cannot be worked out", 2],
        ["ios", "ios.bundleIdentifier in app.config.ts", "id() cannot be worked out", 2],
      ]),
    );
    expect(found.entries.filter(({ kind }) => kind === "permission")).toEqual([]);
    const project = (scheme: string) => ({
      "package.json": '{"name": "p", "dependencies": {"expo": "~54.0.0", "quaymap": "4.2.0"}}',
      "app.config.js": `module.exports = { name: "p", slug: "p", android: { package: "example.p" }, scheme: ${scheme} };\n`,
      "enredo/sheets/quaymap.sdk.yaml": "sdk: quaymap\npackages:\n  npm: quaymap\nneeds:\n  - on: android\n    urlScheme: quaymap\n",
    });
    const states = async (scheme: string) =>
      (await tracesOf(project(scheme), "quaymap")).traces.flatMap(({ sides }) =>
        sides.flatMap(({ wires }) => wires.map(({ state }) => state)),
      );
    expect(await states('"quaymap"')).toContain("connected");
    expect(await states('"other"')).toContain("missing");
    expect(await states("asked()")).not.toContain("missing");
  });

  it("gives no value where more stands in brackets than is understood", () => {
    const [android] = idsOf(
      'const id = ("example.a" ^ "example.b");\nexport default { name: "P", slug: "p", android: { package: id } };\n',
    );
    expect(android).not.toBe("example.a");
  });

  it.each([
    [
      "the opposite of what is not known",
      "const a = !process.env.A;\nconst id = a ? 'example.a' : 'example.b';",
      "either: example.a, example.b",
    ],
    [
      "a value that one way gives twice",
      "let id = 'example.a';\nif (process.env.A) { id = 'example.b'; id = 'example.c'; }",
      "either: example.c, example.a",
    ],
    ["what kind a number is", "const id = typeof 3 === 'number' ? 'example.n' : 'example.t';", "example.n"],
    ["a pattern that goes on where it ended", "const id = /a/g.test('a') ? 'example.a' : 'example.b';", "either: example.a, example.b"],
  ])("%s", (_, program, id) => {
    const { android } = app(`${program}\nexport default { name: "P", slug: "p", android: { package: id } };\n`);
    expect(android?.ids.map(({ value }) => shown(value))).toEqual([id]);
  });
});
