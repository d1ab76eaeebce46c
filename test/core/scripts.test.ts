import { describe, expect, it } from "vitest";
import { MemoryTree } from "../../src/core/files/memory.js";
import { readPodfile } from "../../src/core/gather/platforms/ios/podfile.js";
import { noHelpers } from "../../src/core/gather/platforms/ios/ruby-host.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { appOf, shown } from "../helpers/memory.js";

const app = (body: string, before = ""): string =>
  `${before}\napply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n  }\n}\n${body}\n`;
const kotlin = (body: string, before = ""): string =>
  `${before}\nplugins { id("com.android.application") }\nandroid {\n  defaultConfig {\n    applicationId = "example.maresia.pilot"\n    minSdk = 24\n  }\n}\n${body}\n`;
const groovyFiles = (text: string, more: Record<string, string> = {}) => ({
  "settings.gradle": "include ':app'\n",
  "app/build.gradle": text,
  ...more,
});
const kotlinFiles = (text: string) => ({ "settings.gradle.kts": 'include(":app")\n', "app/build.gradle.kts": text });
const packages = (files: Record<string, string>): string[] =>
  appOf(files).dependencies.map(({ name, declared, conditional }) => `${name} ${shown(declared)}${conditional ? " perhaps" : ""}`);
const minSdk = (files: Record<string, string>): string => shown(appOf(files).android?.effective.minSdk);

describe("dependencies that a script makes", () => {
  it.each([
    ["a loop over a list", groovyFiles(app("dependencies { ['a.b:c:1', 'd.e:f:2'].each { implementation it } }")), ["a.b:c 1", "d.e:f 2"]],
    ["a loop with a name for the item", groovyFiles(app("dependencies { ['a.b:c:1'].each { lib -> implementation lib } }")), ["a.b:c 1"]],
    [
      "a loop over pairs",
      groovyFiles(app("dependencies { ['a.b:c': '1'].each { name, version -> implementation \"$name:$version\" } }")),
      ["a.b:c 1"],
    ],
    ["for in", groovyFiles(app("dependencies { for (x in ['a.b:c:1', 'd.e:f:2']) { implementation x } }")), ["a.b:c 1", "d.e:f 2"]],
    ["for with a type", groovyFiles(app("dependencies { for (String x : ['a.b:c:1']) { implementation x } }")), ["a.b:c 1"]],
    [
      "a list in a variable",
      groovyFiles(app("dependencies { implementation all }", "def all = ['a.b:c:1', 'd.e:f:2']")),
      ["a.b:c 1", "d.e:f 2"],
    ],
    [
      "a map in a variable",
      groovyFiles(app("dependencies { implementation lib }", "def lib = [group: 'a.b', name: 'c', version: '1']")),
      ["a.b:c 1"],
    ],
    [
      "a loop in Kotlin",
      kotlinFiles(kotlin('dependencies { listOf("a.b:c:1", "d.e:f:2").forEach { implementation(it) } }')),
      ["a.b:c 1", "d.e:f 2"],
    ],
    ["for in Kotlin", kotlinFiles(kotlin('dependencies { for (x in listOf("a.b:c:1")) { implementation(x) } }')), ["a.b:c 1"]],
    ["a helper", groovyFiles(app("dependencies { quay('c') }", 'def quay(name) {\n  implementation "a.b:${name}:1"\n}')), ["a.b:c 1"]],
    [
      "a helper that calls another, twice",
      groovyFiles(
        app(
          "dependencies {\n  both('c')\n  both('d')\n}",
          "def one(name) { implementation \"a.b:$name:1\" }\ndef both(name) {\n  one(name)\n  one(name + '-x')\n}",
        ),
      ),
      ["a.b:c 1", "a.b:c-x 1", "a.b:d 1", "a.b:d-x 1"],
    ],
    [
      "a helper that calls itself",
      groovyFiles(app("dependencies { quay(1) }", "def quay(n) {\n  implementation 'a.b:c:1'\n  quay(n)\n}")),
      ["a.b:c 1"],
    ],
    [
      "a condition that is known, on one line",
      groovyFiles(app("dependencies { if (true) implementation 'a.b:c:1' else implementation 'd.e:f:2' }")),
      ["a.b:c 1"],
    ],
    [
      "a condition that is not",
      groovyFiles(app("dependencies { if (System.getenv('CI')) implementation 'a.b:c:1' else implementation 'd.e:f:2' }")),
      ["a.b:c 1 perhaps", "d.e:f 2 perhaps"],
    ],
    [
      "a text of a property is no boolean",
      groovyFiles(app("dependencies { if (useQuay) { implementation 'a.b:c:1' } }"), { "gradle.properties": "useQuay=false\n" }),
      ["a.b:c 1"],
    ],
    [
      "unless it is made one",
      groovyFiles(app("dependencies { if (useQuay.toBoolean()) { implementation 'a.b:c:1' } }"), {
        "gradle.properties": "useQuay=false\n",
      }),
      [],
    ],
  ])("%s", (_, files, expected) => {
    expect(packages(files)).toEqual(expected);
  });

  it.each([
    ["a list from elsewhere", groovyFiles(app("dependencies { readList().each { implementation it } }")), /implementation/],
    ["a name that is not in the files", groovyFiles(app("dependencies { implementation nowhere }")), /implementation/],
    ["in Kotlin", kotlinFiles(kotlin("dependencies { implementation(nowhere) }")), /implementation/],
  ])("what cannot be worked out is told: %s", (_, files, what) => {
    const spots = appOf(files).blindSpots.filter((spot) => what.test(spot.what));
    expect(spots.length).toBe(1);
    expect(spots[0]?.places[0]?.file).toMatch(/^app\/build\.gradle/);
  });
});

describe("values that a script works out", () => {
  const level = (expression: string, before = "", more: Record<string, string> = {}): string =>
    minSdk(
      groovyFiles(
        `${before}\napply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk ${expression}\n  }\n}\n`,
        more,
      ),
    );
  it.each([
    ["n", "def n = 20\nn += 4", "24"],
    ["n", "def n = 21\nif (System.getenv('CI')) n = 24", "either: 24, 21"],
    ["n", "def n = 21\nif (System.getenv('CI')) { n = 24 } else { n = 26 }", "either: 24, 26"],
    ["n", "def n = 21\nif (true) n = 24", "24"],
    ["n", "def n = '' ?: 24", "24"],
    ["n", "def n = 0 ? 21 : 24", "24"],
    ["f()", "def f() {\n  def v = 21\n  if (true) { v = 24 }\n  return v\n}", "24"],
    ["f()", "def f() {\n  def v = 21\n  if (System.getenv('CI')) { v = 24 }\n  return v\n}", "either: 24, 21"],
    ["f()", "def f() {\n  def v = 21\n  for (x in [22, 24]) { v = x }\n  return v\n}", "24"],
    ["f(3)", "def f(n) {\n  if (n > 2) return 24\n  return 21\n}", "24"],
    ["v.missing ?: 24", "def v = [a: 21]", "24"],
    ["v.b.c", "def v = [a: 21, b: [c: 24]]", "24"],
  ])("%s after %j is %s", (expression, before, expected) => {
    expect(level(expression, before)).toBe(expected);
  });

  it("a property is a text: what is added to it is put behind it", () => {
    expect(level("n", "def n = (base + 3).toInteger()", { "gradle.properties": "base=2\n" })).toBe("23");
    expect(level("base.toInteger() + 3", "", { "gradle.properties": "base=21\n" })).toBe("24");
  });

  it("a text with a part that is not known in one of the ways is not known", () => {
    const files = groovyFiles(
      app('dependencies { implementation "a.b:c:$v" }', "def v = '1'\nif (System.getenv('CI')) v = System.getenv('V')"),
    );
    expect(packages(files)).toEqual(["a.b:c unknown: a part of the text depends on the build"]);
  });

  it("what stands for nothing in Ruby is one of the ways", () => {
    const files = { Podfile: "pod 'QuaymapSDK', ENV['V'] || '4.2'\n" };
    const [pod] = readPodfile(new ProjectFiles(new MemoryTree(files)), "Podfile", noHelpers)?.pods ?? [];
    expect(shown(pod?.requirement)).toMatch(/^either: unknown.*, 4\.2$/);
  });

  it("a level under a condition of the build is not certain", () => {
    const text = app("").replace("    minSdk 24\n", "    minSdk 21\n    if (System.getenv('CI')) { minSdk 30 }\n");
    expect(minSdk(groovyFiles(text))).toBe("either: 21, 30");
  });
});

describe("modules and archives", () => {
  it("a type-safe accessor names a module in either spelling", () => {
    const files = (path: string) => ({
      "settings.gradle.kts": `include(":app", "${path}")\n`,
      "app/build.gradle.kts": kotlin("dependencies { implementation(projects.coreUi) }"),
      [`${path.slice(1)}/build.gradle.kts`]: 'plugins { id("com.android.library") }\ndependencies { implementation("a.b:c:1") }\n',
    });
    for (const path of [":core-ui", ":coreUi"]) expect(packages(files(path)), path).toEqual(["a.b:c 1"]);
  });

  it("an archive of a folder of archives is a binary", () => {
    const files = { "app/libs/tidewire-1.4.aar": "x" };
    for (const notation of ["name: 'tidewire-1.4', ext: 'aar'", "':tidewire-1.4@aar'"])
      expect(
        appOf(groovyFiles(app(`dependencies { implementation ${notation} }`), files)).dependencies.map(
          ({ name, route }) => `${route} ${name}`,
        ),
        notation,
      ).toEqual(["binary tidewire-1.4.aar"]);
  });
});
