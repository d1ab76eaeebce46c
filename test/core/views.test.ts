import stringWidth from "string-width";
import { describe, expect, it } from "vitest";
import { RULES } from "../../src/core/rules/index.js";
import { checkText } from "../../src/views/text/check.js";
import { explainText, ruleListText, ruleMarkdown } from "../../src/views/text/explain.js";
import { flowing, table, wrapped } from "../../src/views/text/layout.js";
import { levelsText } from "../../src/views/text/levels.js";
import { clean, styleFor } from "../../src/views/text/style.js";
import { surveyText } from "../../src/views/text/survey.js";
import { androidBlock, androidExample, iosExample, quaymapIos, reactNativeExample } from "../../src/core/rules/examples.js";
import { reportOf, surveyOf } from "../helpers/memory.js";

const narrow = styleFor({ color: false, width: 60 });
const widths = (text: string): number[] => text.split("\n").map((line) => stringWidth(line));

describe("layout", () => {
  it("wraps at words, with the indent on every line, and leaves a path whole", () => {
    const text = wrapped(narrow, `${"many words ".repeat(12)}a/very/long/path/${"x".repeat(80)}/build.gradle and an end`, 4);
    for (const line of text.split("\n")) expect(line.startsWith("    ")).toBe(true);
    expect(text).toContain(`a/very/long/path/${"x".repeat(80)}/build.gradle`);
    expect(Math.max(...widths(text.replace(/\S{60,}/g, "")))).toBeLessThanOrEqual(60);
  });

  it("lets parts flow: beside each other where there is room, each whole", () => {
    const part = (text: string) => ({ text, show: (shown: string) => shown });
    expect(flowing(narrow, [part("a".repeat(20)), part("b".repeat(20)), part("c")], 4).split("\n")).toHaveLength(1);
    const lines = flowing(narrow, [part("a".repeat(40)), part("b".repeat(40)), part("c")], 4).split("\n");
    expect(lines).toEqual([`    ${"a".repeat(40)}`, `    ${"b".repeat(40)}  c`]);
    expect(flowing(narrow, [part("d".repeat(90))], 4)).toBe(`    ${"d".repeat(90)}`);
  });

  it("moves the last column under its row where the table is too wide", () => {
    const rows = [
      ["quaymap", "4.2.0", "a/path/to/a/file.gradle:1:1"],
      ["brinelog", "2.1.0", "another/long/path/to/a/file/of/the/project.gradle:10:20"],
    ];
    const text = table(narrow, ["SDK", "version", "where"], rows);
    expect(text.split("\n")).toHaveLength(1 + rows.length * 2);
    for (const [, , where] of rows) expect(text).toContain(where as string);
    expect(table(styleFor({ color: false, width: 120 }), ["SDK", "version", "where"], rows).split("\n")).toHaveLength(1 + rows.length);
    expect(table(narrow, ["SDK"], [])).toBe("");
  });

  it("takes control characters out of what comes from files", () => {
    expect(clean("a\u001b[31mb\u0007c\rd")).not.toMatch(/[\u0000-\u001f]/);
  });
});

describe("pages of the rules", () => {
  it.each(RULES.map((rule) => [rule.name, rule] as const))("%s", (name, rule) => {
    const page = ruleMarkdown(rule, "✗ error");
    const text = explainText(rule, narrow);
    for (const part of ["What it looks at", "Why it matters", "How to fix it", "Reported", "Not reported"]) {
      expect(page).toContain(`## ${part}`);
      expect(text).toContain(part);
    }
    expect(page.includes("## Where it cannot apply")).toBe(rule.silentFor !== undefined);
    expect(text.startsWith(name)).toBe(true);
    expect(`${page}${text}`).not.toMatch(/undefined|\[object/);
  });

  it("the list names each once", () => {
    const list = ruleListText(RULES, narrow);
    for (const { name } of RULES) expect(list.split(`  ${name} `)).toHaveLength(2);
  });
});

describe("the survey", () => {
  const rows = (files: Record<string, string>) =>
    surveyText(surveyOf(files), styleFor({ color: false, width: 120 }), { verbose: false, quiet: true })
      .split("\n")
      .filter((line) => /package\.json|build\.gradle|Podfile:/.test(line))
      .map((line) => line.trim().replace(/ {2,}/g, " | "));
  const native = (name: string) => ({
    [`node_modules/${name}/package.json`]: `{ "name": "${name}", "version": "4.2.0" }`,
    [`node_modules/${name}/android/build.gradle`]: "apply plugin: 'com.android.library'\n",
    [`node_modules/${name}/quaymap.podspec`]: "Pod::Spec.new do |s|\n  s.name = 'quaymap'\n  s.platforms = { :ios => '13.0' }\nend\n",
  });
  const hybrid = (more: Record<string, string>) => ({
    ...reactNativeExample({ "@quaymap/react-native": "4.2.0" }, more),
    ...Object.fromEntries(Object.entries(iosExample()).map(([file, text]) => [`ios/${file}`, text])),
  });

  it("has one row for a package of both sides, under its own name", () => {
    expect(rows(hybrid(native("@quaymap/react-native")))).toEqual([
      "@quaymap/react-native | Android and iOS | npm | 4.2.0 | – | package.json:5:6",
    ]);
  });

  it("lists what is declared where nothing is installed", () => {
    expect(rows(hybrid({}))).toEqual(["@quaymap/react-native | native part unknown | npm | 4.2.0 | – | package.json:5:6"]);
  });

  it("names the SDK where several packages are it", () => {
    const both = {
      ...androidExample(
        `${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n  implementation 'example.tide:tide-feed:1.0'\n}`,
      ),
      ...quaymapIos(),
    };
    expect(rows(both)).toEqual([
      "example.tide:tide-feed | Android | Maven | 1.0 | – | app/build.gradle:13:19",
      "quaymap | Android | Maven | 4.2.0 | – | app/build.gradle:12:19",
      "quaymap | iOS | pod | 4.2.0 | – | Podfile:3:8",
    ]);
  });
});

describe("colour", () => {
  it("changes nothing but colour", async () => {
    const report = await reportOf(androidExample(androidBlock("minSdk 24\n    targetSdk 36", "com.example.pilot")));
    const plain = styleFor({ color: false, width: 80 });
    const coloured = styleFor({ color: true, width: 80 });

    const stripped = (text: string): string => text.replace(/\u001b\[[\d;]*m/g, "");
    const options = { verbose: true, quiet: false };
    expect(stripped(checkText(report, coloured, options))).toBe(checkText(report, plain, options));
    expect(stripped(surveyText(report.survey, coloured, options))).toBe(surveyText(report.survey, plain, options));
    expect(stripped(levelsText(report.survey, coloured, { verbose: true }))).toBe(levelsText(report.survey, plain, { verbose: true }));
    expect(checkText(report, plain, options)).toMatch(/✗ error .*targetSdk 36 is higher than compileSdk 35/);
  });
});
