import { readdirSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { at, entriesOf, itemsOf, keyPlace, placeOf, textAt, type Data } from "../../src/core/syntax/data.js";
import { readJson } from "../../src/core/syntax/json.js";
import { readLockYaml } from "../../src/core/syntax/lock-yaml.js";
import { readPlist } from "../../src/core/syntax/plist.js";
import { readProperties } from "../../src/core/syntax/properties.js";
import { pathOf, type Statement } from "../../src/core/syntax/script/ast.js";
import { scriptFrame } from "../../src/core/evaluate/frame.js";
import { evaluate } from "../../src/core/evaluate/interpret.js";
import { parseScript } from "../../src/core/syntax/script/parser.js";
import { parseRuby } from "../../src/core/syntax/script/ruby.js";
import { Source } from "../../src/core/syntax/source.js";
import { readToml } from "../../src/core/syntax/toml.js";
import { readXcconfig } from "../../src/core/syntax/xcconfig.js";
import { descendants, readXml } from "../../src/core/syntax/xml.js";
import { readYaml } from "../../src/core/syntax/yaml.js";
import { ROOT } from "../helpers/program.js";

const source = (text: string) => new Source("file", text);

/** Every scalar's place must hold its value. */
function expectPlaces(data: Data | undefined, text: string): void {
  if (!data) return;
  if (data.kind === "map") for (const [, entry] of entriesOf(data)) expectPlaces(entry.value, text);
  else if (data.kind === "list") for (const item of itemsOf(data)) expectPlaces(item, text);
  else if (typeof data.value === "string" && data.value !== "" && !/[\n\\"]/.test(data.value)) {
    const { line, column } = placeOf(data);
    expect(
      text
        .replace(/^\ufeff/, "")
        .split("\n")
        [line - 1]?.slice(column - 1),
    ).toContain(data.value.slice(0, 20));
  }
}

describe("data formats keep places", () => {
  it.each([
    ["JSON", readJson, '{\n  // comment\n  "a": { "b": ["x", "y1"] },\n  "c": "z",\n}', ["a", "b", 1], "y1"],
    ["JSON with Windows line ends and a BOM", readJson, '\ufeff{\r\n  "a": "b"\r\n}', ["a"], "b"],
    ["YAML", readYaml, "a:\n  b:\n    - x\n    - y1 # comment\nversion: 1.10\n", ["a", "b", 1], "y1"],
    ["YAML keeps 1.10 apart from 1.1", readYaml, "version: 1.10\n", ["version"], "1.10"],
    ["TOML", readToml, '[a]\nb = ["x", "y1"]\n[c.d]\ne = { f = "g" }\n', ["c", "d", "e", "f"], "g"],
    [
      "property list in XML",
      readPlist,
      '<?xml version="1.0"?>\n<plist><dict>\n<key>a</key>\n<array><string>x</string><string>y1</string></array></dict></plist>',
      ["a", 1],
      "y1",
    ],
    ["property list as text", readPlist, '// !$*UTF8*$!\n{ a = ( x, "y \\"1", ); /* c */ b = { c = <0fbd77>; }; }', ["a", 1], 'y "1'],
    [
      "lock file",
      readLockYaml,
      'PODS:\n  - A (1.0):\n    - B (~> 2)\n  - C (2)\nSPEC:\n  A:\n    :path: "../x"\n',
      ["SPEC", "A", ":path"],
      "../x",
    ],
  ] as const)("%s", (_, read, text, path_, value) => {
    const file = read(source(text));
    expect(file.problems).toEqual([]);
    expect(textAt(file.root, ...path_)).toBe(value);
    expectPlaces(file.root, text);
  });

  it("places keys too", () => {
    expect(keyPlace(readJson(source('{\n  "alpha": 1\n}')).root, "alpha")).toEqual({ file: "file", line: 2, column: 4 });
  });

  it("reads Yarn's lock files of both generations and pnpm's", () => {
    const classic = readLockYaml(
      source(
        '# yarn lockfile v1\n\n"@quaymap/rn@^4.0.0", "@quaymap/rn@~4.2":\n  version "4.2.1"\n  dependencies:\n    a "^1"\n\nb@1:\n  version "1.0.0"\n',
      ),
    ).root;
    expect(entriesOf(classic).map(([key]) => key)).toEqual(["@quaymap/rn@^4.0.0, @quaymap/rn@~4.2", "b@1"]);
    expect(textAt(classic, "b@1", "version")).toBe("1.0.0");
    const berry = readLockYaml(
      source('__metadata:\n  version: 8\n\n"b@npm:^1, b@npm:1":\n  version: 1.2.0\n  resolution: "b@npm:1.2.0"\n'),
    ).root;
    expect(textAt(berry, "b@npm:^1, b@npm:1", "version")).toBe("1.2.0");
    const pnpm = readLockYaml(
      source(
        "lockfileVersion: '9.0'\nimporters:\n  .:\n    dependencies:\n      b:\n        specifier: ^1\n        version: 1.2.0\npackages:\n  b@1.2.0:\n    resolution: {integrity: sha512-x}\n",
      ),
    ).root;
    expect(textAt(pnpm, "importers", ".", "dependencies", "b", "version")).toBe("1.2.0");
    expect(textAt(pnpm, "packages", "b@1.2.0", "resolution", "integrity")).toBe("sha512-x");
  });

  it("reads properties: joins, escapes, comments, all separators", () => {
    const map = readProperties(source("# c\na=1\nb : two words \nc three\nurl=https\\://x\nlong=one,\\\n  two\n! c\n"));
    expect(["a", "b", "c", "url", "long"].map((key) => textAt(map, key))).toEqual(["1", "two words", "three", "https://x", "one,two"]);
  });

  it("reads xcconfig files: includes, conditions, comments", () => {
    const file = readXcconfig(source('#include? "Base.xcconfig"\nA = 1 // c\nB[sdk=iphoneos*] = $(A) x\n\n'));
    expect(file.includes).toMatchObject([{ path: "Base.xcconfig", optional: true }]);
    expect(file.settings.map(({ key, condition, value }) => [key, condition, value])).toEqual([
      ["A", "", "1"],
      ["B", "sdk=iphoneos*", "$(A) x"],
    ]);
  });

  it("reads XML attributes and text with places", () => {
    const text = '<manifest\n  xmlns:android="x">\n  <uses-permission android:name="android.permission.CAMERA"/>\n</manifest>';
    const { root } = readXml(source(text));
    const attribute = descendants(root, "uses-permission")[0]?.attributes.get("android:name");
    expect(attribute && source(text).place(attribute.start)).toEqual({ file: "file", line: 3, column: 34 });
  });
});

describe("broken data files give problems with places, and what could be read", () => {
  it.each([
    ["JSON", readJson, '{ "a": "1",\n  "b": ', "a", "1", 2],
    ["YAML", readYaml, 'a: "1"\nb: [1, 2\nc: {', "a", "1", undefined],
    ["TOML", readToml, 'a = "1"\nb = = 3\nc = "2"\n', "a", "1", 2],
    ["XML property list", readPlist, "<plist><dict><key>a</key><string>1</string>\n<key>b</key><str", "a", "1", 2],
    ["text property list", readPlist, "{ a = 1; b = { c = 2;", "a", "1", 1],
  ] as const)("%s", (_, read, text, key, value, line) => {
    const file = read(source(text));
    expect(file.problems.length).toBeGreaterThan(0);
    if (line !== undefined) expect(file.problems[0]?.place.line).toBe(line);
    expect(textAt(file.root, key)).toBe(value);
  });

  it("does not fall for depth, entity bombs or self-references", () => {
    expect(readJson(source("[".repeat(100_000))).problems).toHaveLength(1);
    expect(readPlist(source("{a=".repeat(50_000))).problems).toHaveLength(1);
    const bomb = `<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, i) => `<!ENTITY b${i} "${`&${i === 0 ? "a" : `b${i - 1}`};`.repeat(10)}">`).join("")}]><x>&b8;</x>`;
    expect((readXml(source(bomb)).root?.text ?? "").length).toBeLessThan(1000);
    expect(readYaml(source("a: &x [*x, *x]\n")).root?.kind).toBe("map");
    expect(() => readYaml(source(`${"- ".repeat(5000)}x`))).not.toThrow();
    for (const dialect of ["groovy", "kotlin", "swift", "javascript"] as const) {
      expect(() => parseScript(source("a(".repeat(20_000)), dialect)).not.toThrow();
      expect(() => parseScript(source("a { ".repeat(20_000)), dialect)).not.toThrow();
      expect(() => parseScript(source(`x = ${"1 + ".repeat(5_000)}1`), dialect)).not.toThrow();
      expect(() => parseScript(source(`x = ${"!".repeat(20_000)}a`), dialect)).not.toThrow();
    }
    for (const dialect of ["groovy", "kotlin", "swift", "javascript"] as const)
      expect(() => parseScript(source("fun a(): List<Class'ide\n"), dialect)).not.toThrow();
    expect(() => parseRuby(source("a do\n".repeat(20_000)))).not.toThrow();
    expect(() => parseRuby(source(`x = ${"[".repeat(20_000)}`))).not.toThrow();
    expect(() => parseRuby(source(`x = ${"!".repeat(20_000)}a`))).not.toThrow();
  });
});

const value = (text: string, dialect: Parameters<typeof parseScript>[1] = "groovy", known: Record<string, string> = {}) => {
  const ending = { groovy: "gradle", kotlin: "kts", swift: "swift", javascript: "js" }[dialect];
  const script = text.startsWith("ruby:")
    ? parseRuby(new Source("Podfile", text.slice(5)))
    : parseScript(new Source(`x.${ending}`, text), dialect);
  const last = script.body.at(-1) as Statement;
  const expr = last.kind === "assign" ? last.value : last.kind === "expression" ? last.value : undefined;
  if (!expr) return undefined;
  const frame = scriptFrame(script.source, {
    lookup: (path_) =>
      known[path_.join(".")] === undefined
        ? undefined
        : { kind: "known", text: known[path_.join(".")] as string, place: { file: "", line: 1, column: 1 } },
  });
  const result = evaluate(expr, frame);
  return result.kind === "known" ? result.text : result.kind;
};

describe("scripts are evaluated without being run", () => {
  it.each([
    ['x = "1.${minor}.0"', "groovy", "1.4.0"],
    ["x = '$minor'", "groovy", "$minor"],
    ["x = 20 + 4", "groovy", "24"],
    ["x = flag ? 'a' : 'b'", "groovy", "a"],
    ["x = missing ?: 21", "groovy", "either"],
    ["x = null ?: 21", "groovy", "21"],
    ["x = [a: 1, b: [c: 2]].b.c", "groovy", "2"],
    ["x = Math.max(21, 24)", "groovy", "24"],
    ['val x = listOf("a", "b")[1]', "kotlin", "b"],
    ['val x = if (flag == "true") 1 else 2', "kotlin", "1"],
    ['val x: Int = "34".toInt()', "kotlin", "34"],
    ['let x = "v\\(minor)"', "swift", "v4"],
    ["const x = { a: { 'b-c': `v${minor}` } }['a']['b-c']", "javascript", "v4"],
    ["const x = (a) => a + 1", "javascript", "function"],
    ['ruby:x = "1.#{minor}"', "groovy", "1.4"],
    ["ruby:x = { :ios => '15.1' }[:ios]", "groovy", "15.1"],
    ["ruby:x = nil || '15.1'", "groovy", "15.1"],
  ] as const)("%s (%s) is %s", (text, dialect, expected) => {
    expect(value(text, dialect, { minor: "4", flag: "true" })).toBe(expected);
  });

  it.each([
    ["groovy", "implementation 'a:b:1', { exclude group: 'c' }"],
    ["groovy", "implementation(platform('a:b:1')) { because 'x' }"],
    ["kotlin", 'id("a") version "1" apply false'],
    ["kotlin", "configure<com.android.build.Extension> { a = 1 }"],
    ["swift", '.package(url: "x", .upToNextMajor(from: "1.0"))'],
  ] as const)("%s: %s is one call", (dialect, text) => {
    const { body, problems } = parseScript(source(text), dialect);
    expect(problems).toEqual([]);
    expect(body).toHaveLength(1);
    expect(body[0]).toMatchObject({ kind: "expression", value: { kind: "call" } });
  });

  it("says where a script breaks", () => {
    const broken = parseScript(source("android {\n  defaultConfig {\n    minSdk 24\n}\n"), "groovy");
    expect(broken.problems[0]).toMatchObject({ message: '"{" is never closed', place: { line: 1 } });
    expect(parseScript(source("x = 'abc\ny = 1"), "groovy").problems[0]).toMatchObject({
      message: "a string is not closed",
      place: { line: 1, column: 5 },
    });
    expect(parseRuby(source("target 'A' do\n  pod 'B'\n")).problems[0]?.message).toContain("never closed");
  });

  it("comments, regular expressions and here-documents do not confuse it", () => {
    const text = '/* { */ a = /[{(]/\n// }\nb = """\n{ ${c}\n"""\nd \'e\'\n';
    const { body, problems } = parseScript(source(text), "groovy");
    expect(problems).toEqual([]);
    expect(body).toHaveLength(3);
    const ruby = parseRuby(source("a = <<~X\n  do {\nX\nb = %w[c d]\n# do\ne = /do|{/ if f\n"));
    expect(ruby.problems).toEqual([]);
    expect(ruby.body.map(({ kind }) => kind)).toEqual(["assign", "assign", "if"]);
  });

  it("keeps dotted names", () => {
    const { body } = parseScript(source("rootProject.ext.minSdk = 24"), "groovy");
    expect(body[0]?.kind === "assign" && pathOf(body[0].target)).toEqual(["rootProject", "ext", "minSdk"]);
  });
});

/** The demo's own files, cut and mixed: no reader may throw, whatever it is given. */
describe("readers are total", () => {
  const files: string[] = [];
  const visit = (folder: string): void => {
    for (const name of readdirSync(folder)) {
      const full = path.join(folder, name);
      if (statSync(full).isDirectory()) visit(full);
      else files.push(full);
    }
  };
  visit(path.join(ROOT, "demo"));
  const texts = files.map((file) => readFileSync(file, "utf8"));
  const readers = [
    readJson,
    readYaml,
    readToml,
    readPlist,
    readLockYaml,
    readXml,
    readXcconfig,
    readProperties,
    parseRuby,
    ...(["groovy", "kotlin", "swift", "javascript"] as const).map((dialect) => (text: Source) => parseScript(text, dialect)),
  ];

  it("on truncated, swapped and doubled pieces", () => {
    const cut = fc
      .tuple(
        fc.constantFrom(...texts),
        fc.nat(),
        fc.nat(),
        fc.constantFrom("", "{", "}", '"', "'", "(", "do\n", "\0", "\ufeff", "/*", "<<", "$("),
      )
      .map(([text, a, b, extra]) => text.slice(0, a % (text.length + 1)) + extra + text.slice(b % (text.length + 1)));
    fc.assert(
      fc.property(cut, fc.constantFrom(...readers), (text, read) => {
        read(source(text));
      }),
      { numRuns: 800, seed: 7 },
    );
  });
});

it("at follows keys and indexes", () => {
  expect(at(readJson(source('{"a":[{"b":1}]}')).root, "a", 0, "b")).toMatchObject({ value: 1 });
});
