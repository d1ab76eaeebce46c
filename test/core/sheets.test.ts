import { readFileSync, readdirSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parse, parseAllDocuments } from "yaml";
import { NEED_KINDS } from "../../src/core/model/sheet.js";
import { loadSheets } from "../../src/core/sheets/load.js";
import { SheetShape } from "../../src/core/sheets/shape.js";
import { isSurelyValid, problemsOf } from "../../src/core/settings/validate.js";
import { sheetSchema } from "../../src/core/sheets/schema.js";
import { wildcard } from "../../src/core/model/wildcard.js";
import { NEEDS } from "../../src/core/needs/kinds/index.js";
import { RULE_NAMES } from "../../src/core/rules/index.js";
import { mask } from "../../src/core/needs/mask.js";
import { looksLikeToken } from "../../src/core/knowledge/key-shapes.js";
import { quaymapAndroid } from "../../src/core/rules/examples.js";
import { reportOf } from "../helpers/memory.js";
import { ROOT } from "../helpers/program.js";

const head = "sdk: quaymap\npackages:\n  maven: example.quaymap:quaymap-android\n";
const load = (...texts: string[]) => loadSheets(texts.map((text, index) => ({ file: `enredo/sheets/${index}.sdk.yaml`, text })));

describe("what is wrong in a sheet is said with its line, and the rest still counts", () => {
  it.each([
    ["an unknown key", `${head}nedes: []\n`, 4, 'unknown key "nedes"', 'did you mean "needs"?'],
    [
      "an unknown kind",
      `${head}needs:\n  - on: android\n    permision: x\n`,
      5,
      "this need does not say what is needed",
      'did you mean "permission"?',
    ],
    [
      "two kinds in one",
      `${head}needs:\n  - on: android\n    permission: x\n    minSdk: 24\n`,
      5,
      "this need says 2 things: minSdk, permission",
      "",
    ],
    ["no side", `${head}needs:\n  - permission: x\n`, 5, "on must be android, ios, both or shared", "add on to this entry"],
    ["a wrong side", `${head}needs:\n  - on: andriod\n    permission: x\n`, 5, "on must be android, ios, both or shared", ""],
    ["a level that is none", `${head}needs:\n  - on: android\n    minSdk: high\n`, 6, "minSdk must be a version", ""],
    [
      "an unknown key deep inside",
      `${head}needs:\n  - on: android\n    key: { name: k, in: [{ manifset: x }] }\n`,
      6,
      'unknown key "manifset"',
      'did you mean "manifest"?',
    ],
    [
      "a key without its places",
      `${head}needs:\n  - on: android\n    key: { name: k }\n`,
      6,
      "in must be a list of places",
      "add in to this entry",
    ],
    [
      "a pattern with a back-reference",
      `${head}needs:\n  - on: android\n    key: { name: k, shape: "(a)\\\\1", in: [{ manifest: x }] }\n`,
      6,
      "is not a usable pattern",
      "",
    ],
    [
      "a path that leaves the project",
      `${head}needs:\n  - on: android\n    licenceFile: ../../etc/passwd\n`,
      6,
      "points outside the project",
      "",
    ],
    ["no id", "packages:\n  maven: a:b\n", 1, "sdk must be a short id", "add sdk to this entry"],
    ["no packages", "sdk: quaymap\n", 1, "packages must be a table of keys", "add packages to this entry"],
    ["YAML that breaks", `${head}needs: [\n`, 5, "the sheet is not valid YAML", "fix the YAML"],
    ["a list", "- a\n", 1, "the sheet has no keys", ""],
  ])("%s", async (_, text, line, message, fix) => {
    const { problems } = await load(text);
    const hit = problems.find((problem) => problem.message.includes(message));
    expect(problems.map((problem) => problem.message).join("\n")).toContain(message);
    expect(hit?.place.line).toBe(line);
    expect(problems.map((problem) => problem.fix).join("\n")).toContain(fix);
  });

  it("keeps the other needs and the other sheets", async () => {
    const { sheets, problems } = await load(
      `${head}needs:\n  - on: android\n    minSdk: high\n    \n  - on: android\n    permission: x\n`,
      head.replace("quaymap", "tollbuoy"),
    );
    expect(problems).toHaveLength(1);
    expect(sheets.map(({ sdk, needs }) => [sdk, needs.map(({ kind }) => kind)])).toEqual([
      // What was found wrong in a need is told, and the need counts for nothing.
      ["quaymap", ["permission"]],
      ["tollbuoy", []],
    ]);
  });

  it("says where the other sheet for the same SDK is", async () => {
    const { sheets, problems } = await load(head, `# again\n${head}`);
    expect(sheets).toHaveLength(1);
    expect(problems[0]?.message).toBe("two sheets describe quaymap: this one and enredo/sheets/0.sdk.yaml:1; the other one is used");
    expect(problems[0]?.place).toMatchObject({ file: "enredo/sheets/1.sdk.yaml", line: 2 });
  });
});

describe("hostile sheets end in bounded time", () => {
  it("deep nesting, aliases that refer to each other, huge text", async () => {
    const deep = `${head}needs: ${"[".repeat(20_000)}${"]".repeat(20_000)}\n`;
    const bomb = `a: &a [x, x, x]\nb: &b [*a, *a, *a]\nc: &c [*b, *b, *b]\nd: &d [*c, *c, *c]\n${head}needs: [*d, *d]\n`;
    const self = `${head}needs: &n [*n]\n`;
    const { problems } = await load(deep, bomb, self, "x".repeat(1_100_000));
    expect(problems.length).toBeGreaterThan(2);
  });

  it("names without a letter are looked for nowhere", async () => {
    for (const need of [
      'key: { name: k, in: [{ code: "" }] }',
      'start: ""',
      "start: { android: '', ios: '' }",
      'import: " "',
      'withdrawn: { calls: [""], instead: x }',
    ]) {
      const files = {
        ...quaymapAndroid({}, { "app/src/main/java/App.kt": "class App { fun go() { Quaymap.start() } }\n" }),
        "enredo/sheets/quaymap.sdk.yaml": `${head}needs:\n  - { on: android, ${need} }\n`,
      };
      expect((await reportOf(files)).survey.apps).toHaveLength(1);
    }
  });

  it("a pattern that makes other engines hang", async () => {
    const { sheets } = await load(`${head}needs:\n  - on: android\n    key: { name: k, shape: "(a+)+b", in: [{ manifest: x }] }\n`);
    const pattern = sheets[0]?.patterns.get("(a+)+b");
    expect(pattern?.("a".repeat(50_000))).toBe(false);
    expect(pattern?.("aab")).toBe(true);
  });

  it("wildcards are compared piece by piece", () => {
    expect(wildcard("*".repeat(2000) + "b", "a".repeat(50_000))).toBe(false);
    expect(wildcard("quaymap-*.aar", "quaymap-4.2.aar")).toBe(true);
    expect(wildcard("a*a", "a")).toBe(false);
  });
});

describe("keys", () => {
  it.each(["k", "12345678", "qm_live_5d0c9a1e74b83f26c0d91e7a", "x".repeat(400)])("%s is never shown in full", (value) => {
    expect(mask(value)).not.toContain(value);
    expect(mask(value)).toContain(`${value.length} characters`);
  });

  it("tells values that look like keys from words", () => {
    for (const key of ["qm_live_5d0c9a1e74b83f26c0d91e7a", "428190735-ios.apps.moorid.example", "AK39fd83kd02mlq7"])
      expect(looksLikeToken(key), key).toBe(true);
    for (const word of ["reset-password-link-2", "harbour_background_1", "application/json", "image-2024-05-01.png"])
      expect(looksLikeToken(word), word).toBe(false);
  });
});

describe("kinds of need", () => {
  it("name rules that are there", () => {
    const named = Object.entries(NEEDS).flatMap(([kind, { rules }]) => rules.map((rule) => ({ kind, rule })));
    expect(named.length).toBeGreaterThan(10);
    expect(named.filter(({ rule }) => !RULE_NAMES.includes(rule))).toEqual([]);
  });

  it("have the key of their long form among its keys", () => {
    for (const [kind, { main, form }] of Object.entries(NEEDS))
      if (main !== undefined) expect(form.form === "table" ? Object.keys(form.keys) : [], kind).toContain(main);
  });
});

describe("the published schema and the reference", () => {
  it("are those of the classes", () => {
    const published = JSON.parse(readFileSync(path.join(ROOT, "sheets/sheet.schema.json"), "utf8")) as unknown;
    expect(published).toEqual(JSON.parse(JSON.stringify(sheetSchema())));
  });

  it("have one valid example for every kind of need", async () => {
    const text = readFileSync(path.join(ROOT, "docs/sheets.md"), "utf8");
    const blocks = [...text.matchAll(/```yaml\n([\s\S]*?)```/g)].map((match) => match[1] ?? "");
    const examples = blocks.map((block) => (block.startsWith("sdk:") ? block : `${head}needs:\n${block.replace(/^/gm, "  ").trimEnd()}\n`));
    const { sheets, problems } = await loadSheets(
      examples.map((example, index) => ({ file: `${index}`, text: example.replace(/^sdk: (.*)$/m, `sdk: s${index}`) })),
    );
    expect(problems).toEqual([]);
    const kinds = new Set(sheets.flatMap(({ needs }) => needs.map(({ kind }) => kind)));
    expect(NEED_KINDS.filter((kind) => !kinds.has(kind))).toEqual([]);
    expect(parseAllDocuments(examples[0] ?? "")).toHaveLength(1);
  });
});

describe("a need that is optional", () => {
  const told = async (more: string) =>
    (
      await reportOf({
        ...quaymapAndroid(),
        "enredo/sheets/quaymap.sdk.yaml": `${head}needs:\n  - on: android\n    permission: android.permission.ACCESS_FINE_LOCATION\n${more}`,
      })
    ).findings
      .filter(({ rule }) => rule === "permit/permission-missing")
      .map(({ severity, message }) => `${severity}: ${message}`);

  it("is a note where it is missing, and must be true or false", async () => {
    expect(await told("")).toEqual(["error: quaymap needs the permission android.permission.ACCESS_FINE_LOCATION, but it is missing"]);
    expect(await told("    optional: true\n")).toEqual([
      "note: quaymap can use the permission android.permission.ACCESS_FINE_LOCATION, but it is missing",
    ]);
    expect((await load(`${head}needs:\n  - on: android\n    permission: x\n    optional: perhaps\n`)).problems).toHaveLength(1);
  });
});

const asWritten = (_: unknown, value: unknown): unknown => (typeof value === "number" ? String(value) : value);

describe("a sheet that is surely right is right by the validator, too", () => {
  const folder = path.join(ROOT, "demo/sheets");
  // Numbers are read as they are written.
  const sheets = readdirSync(folder).map((file) => parse(readFileSync(path.join(folder, file), "utf8"), asWritten) as unknown);
  /** Every table and list in a sheet with what holds it, to be broken in one place. */
  const nodes = (at: unknown): (Record<string, unknown> | unknown[])[] =>
    typeof at === "object" && at !== null ? [at as Record<string, unknown>, ...Object.values(at).flatMap(nodes)] : [];

  it("those of the demo are", () => {
    for (const sheet of sheets) {
      expect(isSurelyValid(sheet, SheetShape)).toBe(true);
      expect(problemsOf(sheet, SheetShape)).toEqual([]);
    }
  });

  it("also where they are broken in any place", () => {
    const odd = fc.constantFrom(undefined, null, "", "x", 0, 24, true, [], ["x"], [1], [[]], [null], {}, { on: "android" }, { other: 1 });
    let right = 0;
    fc.assert(
      fc.property(fc.constantFrom(...sheets), fc.nat(), fc.nat(), odd, fc.boolean(), (sheet, node, key, value, added) => {
        const copy = structuredClone(sheet);
        const all = nodes(copy);
        const at = all[node % all.length] as Record<string, unknown>;
        const keys = Object.keys(at);
        at[added || keys.length === 0 ? "key" : (keys[key % keys.length] as string)] = value;
        const surely = isSurelyValid(copy, SheetShape);
        if (surely) right++;
        if (surely) expect(problemsOf(copy, SheetShape)).toEqual([]);
      }),
      { numRuns: 2_000 },
    );
    expect(right).toBeGreaterThan(20);
  });
});
