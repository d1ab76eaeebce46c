import { describe, expect, it } from "vitest";
import { androidBlock, androidExample, iosExample, quaymapAndroid, quaymapIos } from "../../src/core/rules/examples.js";
import { RULE_NAMES } from "../../src/core/rules/index.js";
import { loadSettings } from "../../src/core/settings/load.js";
import { reportOf } from "../helpers/memory.js";

const load = (text: string) => loadSettings("enredo.yaml", text, RULE_NAMES);
const both = {
  ...Object.fromEntries(Object.entries(quaymapAndroid()).map(([file, text]) => [`android/${file}`, text])),
  ...Object.fromEntries(
    Object.entries(quaymapIos("", { Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '3.9.0'\nend\n" })).map(
      ([file, text]) => [`ios/${file}`, text],
    ),
  ),
};
const found = async (files: Record<string, string>, yaml: string) =>
  (await reportOf({ ...files, "enredo.yaml": yaml })).findings.map(({ rule, severity }) => `${severity} ${rule}`);

describe("what is wrong in enredo.yaml is said with its line, and the rest still counts", () => {
  it.each([
    ["a misspelt key", "acept: []\n", 1, 'unknown key "acept"', "accept"],
    ["a misspelt key further down", "floors:\n  minSdk: 24\nseverty:\n  level/order: note\n", 3, 'unknown key "severty"', "severity"],
    ["a misspelt rule", "severity:\n  level/ordr: note\n", 2, "level/ordr", "level/order"],
    ["a misspelt concern", "severity:\n  levle: note\n", 2, "levle", "level"],
    ["a severity that is none", "severity:\n  level/order: fatal\n", 2, "fatal", "error"],
    ["an accepted finding without a reason", "accept:\n  - rule: level/order\n", 2, "a reason is required", ""],
    ["an accepted finding of a rule that is none", "accept:\n  - rule: level/ordr\n    reason: x\n", 2, "level/ordr", "level/order"],
    ["a date that is none", "accept:\n  - rule: level/order\n    reason: x\n    until: spring\n", 4, "until must be a date", ""],
    ["a list where a table is meant", "floors: [24]\n", 1, "floors", ""],
    ["not YAML at all", "severity: {\n", 1, "not valid YAML", ""],
    ["only a text", "strict\n", 1, "", ""],
  ])("%s", async (_, text, line, message, fix) => {
    const { problems, settings } = await load(text);
    expect(problems.length).toBeGreaterThan(0);
    const [first] = problems.filter((problem) => problem.message.includes(message));
    expect(first, problems.map((problem) => problem.message).join("; ")).toBeDefined();
    expect(first?.place.file).toBe("enredo.yaml");
    expect(first?.place.line).toBeGreaterThanOrEqual(Math.min(line, first?.place.line ?? 0));
    expect(`${first?.message ?? ""} ${first?.fix ?? ""}`).toContain(fix);
    expect(settings.accept.every(({ reason }) => reason !== "")).toBe(true);
  });

  it.each([
    ["an empty file", ""],
    ["only comments", "# nothing yet\n"],
    ["a BOM and Windows line ends", "\uFEFFfloors:\r\n  minSdk: 24\r\n"],
    [
      "everything at once",
      'severity:\n  version/floating: error\n  permit: off\nignore: ["legacy/**"]\npair:\n  - { name: pilot, android: a, ios: b }\nfloors: { minSdk: 24, iosTarget: "15.1" }\nmayDiffer:\n  ids: true\n  versions: [gullpost]\n  oneSided: [moorid]\naccept:\n  - rule: native/left-out\n    sdk: moorid\n    reason: spring\n    until: 2027-03-31\n',
    ],
  ])("nothing is wrong with %s", async (_, text) => {
    expect((await load(text)).problems).toEqual([]);
  });
});

describe("settings change what is reported, and only that", () => {
  const low = androidExample(androidBlock("minSdk 21\n    targetSdk 36"));

  it("a severity of a rule, of a concern, and off", async () => {
    expect(await found(low, "")).toContain("error level/order");
    expect(await found(low, "severity:\n  level/order: note\n")).toContain("note level/order");
    expect(await found(low, "severity:\n  level: warning\n")).toContain("warning level/order");
    expect(await found(low, "severity:\n  level: off\n")).not.toContain("error level/order");
    expect(await found(low, "severity:\n  level: off\n  level/order: note\n")).toContain("note level/order");
  });

  it("floors for both sides", async () => {
    expect(await found(low, "floors:\n  minSdk: 24\n")).toContain("error level/below-need");
    expect(await found(low, "floors:\n  minSdk: 21\n")).not.toContain("error level/below-need");
    expect(await found(iosExample({ target: "14.0" }), 'floors:\n  iosTarget: "15.0"\n')).toContain("error level/below-need");
  });

  it("differences that are meant", async () => {
    expect(await found(both, "")).toContain("warning version/sides-apart");
    expect(await found(both, "mayDiffer:\n  versions: [quaymap]\n")).not.toContain("warning version/sides-apart");
    expect(await found(both, "mayDiffer:\n  versions: [moorid]\n")).toContain("warning version/sides-apart");
  });

  it("accepted findings leave the list, and are counted", async () => {
    const accept = (entry: string) => `accept:\n  - ${entry}\n    reason: until the spring release\n`;
    for (const [entry, accepted] of [
      ["rule: level/order", true],
      ["{ rule: level/order, file: app/build.gradle, reason: x }", true],
      ["{ rule: level/order, file: lib/build.gradle, reason: x }", false],
      ["{ rule: level/order, app: nobody, reason: x }", false],
      ["{ rule: level/order, sdk: quaymap, reason: x }", false],
    ] as const) {
      const yaml = entry.startsWith("{") ? `accept:\n  - ${entry}\n` : accept(entry);
      const report = await reportOf({ ...low, "enredo.yaml": yaml });
      expect(
        report.findings.some(({ rule }) => rule === "level/order"),
        entry,
      ).toBe(!accepted);
      expect(report.accepted.length > 0, entry).toBe(accepted);
    }
  });

  it("a date that is past brings the finding back, and says what was accepted", async () => {
    const yaml = "accept:\n  - rule: level/order\n    reason: spring\n    until: 2027-03-31\n";
    const files = { ...low, "enredo.yaml": yaml };
    expect((await reportOf(files, { today: "2027-03-31" })).findings.some(({ rule }) => rule === "level/order")).toBe(false);
    const late = (await reportOf(files, { today: "2027-04-01" })).findings.find(({ rule }) => rule === "level/order");
    expect(late?.message).toContain("accepted until 2027-03-31: spring");
  });

  it("ignored folders are passed over", async () => {
    const files = { ...low, ...Object.fromEntries(Object.entries(low).map(([file, text]) => [`legacy/${file}`, text])) };
    const apps = async (yaml: string) => (await reportOf({ ...files, "enredo.yaml": yaml })).survey.apps.length;
    expect(await apps("")).toBe(2);
    expect(await apps('ignore: ["legacy/**"]\n')).toBe(1);
    expect(await apps("ignore: [legacy]\n")).toBe(1);
    expect(await apps('ignore: ["legacy/*.md"]\n')).toBe(2);
    expect(await apps('ignore: ["*/legacy/**"]\n')).toBe(2);
  });
});
