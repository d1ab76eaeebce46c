import { describe, expect, it } from "vitest";
import { entriesOf, textAt, type Data } from "../../src/core/syntax/data.js";
import { Source } from "../../src/core/syntax/source.js";
import { readYaml } from "../../src/core/syntax/yaml.js";
import { appOf, reportOf, shown, surveyOf } from "../helpers/memory.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder } from "../helpers/program.js";
import { written } from "../helpers/spec-apps.js";

const SPEC = "ios/project.yml";

/** The app with texts of its spec replaced. */
function changed(...edits: [from: string, to: string][]): Record<string, string> {
  let spec = written[SPEC] ?? "";
  for (const [from, to] of edits) {
    expect(spec).toContain(from);
    spec = spec.replace(from, to);
  }
  return { ...written, [SPEC]: spec };
}

async function alarmsOf(files: Readonly<Record<string, string>>): Promise<string[]> {
  const { findings } = await reportOf(files);
  return findings
    .filter(({ severity }) => severity !== "note")
    .map(({ rule, message, places: [at] }) => `${rule} ${at?.file ?? ""}:${at?.line ?? 0} ${message}`);
}

describe("an Xcode project that is written from a spec", () => {
  it("has what the spec, what it includes and its templates say, each where it stands", () => {
    const { name, ios, dependencies } = appOf(written);
    expect(name).toBe("Pilot");
    expect(ios?.ids.map(({ value, variant }) => `${variant ?? ""} ${shown(value)}`)).toEqual([
      "Debug example.maresia.pilot",
      "Beta example.maresia.pilot.beta",
      "Release example.maresia.pilot",
    ]);
    expect(shown(ios?.effective.iosTarget)).toBe("15.0");
    expect(shown(ios?.effective.swift)).toBe("5.9");
    expect(ios?.effective.iosTarget?.place).toMatchObject({ file: "ios/shared/base.yml", line: 2 });
    expect(ios?.allTargets.map((target) => target.name)).toEqual(["Pilot", "Core_iOS", "Core_tvOS"]);
    expect(ios?.target.synchronized).toEqual(["ios/Pilot"]);
    expect(ios?.target.embedded.map((one) => one.name)).toEqual(["Core.framework"]);
    expect(ios?.target.packageProducts.map(({ product }) => product)).toEqual(["Quaymap", "QuaymapOffline", "Charts"]);
    const map = dependencies.find((one) => one.name.includes("quaymap"));
    expect(map?.name).toBe("https://github.com/quaymap/quaymap-ios");
    expect(map?.requirement).toEqual({ kind: "upToNextMinor", version: "4.2.0" });
  });

  it("puts lists of templates and of the target together, and one in place of the other where it says so", () => {
    const sources = (own: string) =>
      appOf(
        changed(
          ["    platform: iOS\n    dependencies:\n", `    ${own}\n    platform: iOS\n    dependencies:\n`],
          ["    sources: ${target_name}\n", "    sources: [Pilot]\n"],
        ),
      ).ios?.target.synchronized;
    expect(sources("sources: [Core]")).toEqual(["ios/Pilot", "ios/Core"]);
    expect(sources("sources:REPLACE: [Core]")).toEqual(["ios/Core"]);
  });

  it("counts paths of what is included from where that lies, or from the spec", async () => {
    const base = (relative: string) => ({
      ...changed(["  - shared/base.yml\n", `  - path: shared/base.yml\n    relativePaths: ${relative}\n`]),
      "ios/Release.xcconfig": "PILOT_HOST = b\n",
    });
    const names = async (files: Record<string, string>) => (await alarmsOf(files)).length;
    expect(await names(base("true"))).toBe(0);
    expect(appOf(base("false")).entries.filter(({ name }) => name === "PILOT_HOST")).toHaveLength(1);
    expect(appOf(base("true")).entries.filter(({ name }) => name === "PILOT_HOST")).toHaveLength(0);
  });

  it("has settings as Xcode writes them, by the name of the configuration before a part of it", () => {
    const { entries, ios } = appOf(
      changed(
        ["        CURRENT_PROJECT_VERSION: 7\n", "        CURRENT_PROJECT_VERSION: 7\n        PILOT_FLAG: true\n"],
        ["  Beta: release\n", "  Beta: release\n  Release Beta: release\n"],
        ["        beta:\n", "        Beta:\n"],
      ),
    );
    expect(entries.filter(({ name }) => name === "PILOT_FLAG").map(({ value }) => shown(value))).toEqual(["YES"]);
    expect(ios?.ids.map(({ value, variant }) => `${variant ?? ""} ${shown(value)}`)).toContain("Release Beta example.maresia.pilot");
  });

  it("leaves open what the environment gives, and what nothing gives not", async () => {
    const key = (value: string) =>
      changed([
        "        UILaunchScreen: {}\n",
        `        UILaunchScreen: {}\n        CFBundleURLTypes: [{ CFBundleURLSchemes: ["${value}"] }]\n`,
      ]);
    expect(await alarmsOf(key("${PILOT_KEY}"))).toEqual([]);
    expect(await alarmsOf(key("$(PILOT_KEY)"))).toEqual([expect.stringMatching(/^project\/value-missing ios\/project\.yml/)]);
  });

  it("takes a list that lies among the sources", () => {
    const spec = (written[SPEC] ?? "").replace(/    info:\n(?: {6}.*\n)+/, "");
    const list = '<plist version="1.0">\n<dict>\n\t<key>NSCameraUsageDescription</key>\n\t<string>Scans.</string>\n</dict>\n</plist>\n';
    const { entries } = appOf({ ...written, [SPEC]: spec, "ios/Pilot/Info.plist": list });
    expect(entries.filter(({ kind }) => kind === "purposeText").map(({ at }) => at.file)).toEqual(["ios/Pilot/Info.plist"]);
  });

  it("is quiet where nothing is wrong", async () => expect(await alarmsOf(written)).toEqual([]));

  it("is no spec where nothing says what is built, and nothing of it is lost where a part is broken", async () => {
    await expect(reportOf({ "project.yml": "name: server\ntargets:\n  api: { image: node }\n" })).resolves.toMatchObject({ findings: [] });
    expect(await alarmsOf(changed(["  Charts:\n    path: Packages/Charts\n", "  Charts:\n   - path: [\n"]))).toContainEqual(
      expect.stringMatching(/^project\/unreadable ios\/project\.yml:\d+ ios\/project\.yml: not valid YAML/),
    );
  });

  it.each<[what: string, edit: [from: string, to: string], told: RegExp]>([
    [
      "a template",
      ["    sources: [Core]", "    templates: [Part]\n    sources: [Core]"],
      /project\.yml:\d+ the template Part is named here/,
    ],
    ["a local package", ["path: Packages/Charts", "path: Charts"], /project\.yml:15 the package Charts is referred to here but is missing/],
    ["a file that is included", ["shared/base.yml", "shared/bases.yml"], /project\.yml:3 the file shared\/bases\.yml is referred to here/],
    ["a target", ["- target: Core", "- target: Kern"], /project\.yml:\d+ the target Kern is named here/],
    ["a configuration", ["        beta:", "        nightly:"], /project\.yml:\d+ the configuration nightly is named here/],
    [
      "a framework that code imports",
      ["      - target: Core\n", ""],
      /PilotApp\.swift:1 Pilot imports Core, but only the project declares it/,
    ],
    [
      "products that code imports",
      ["      - package: Quaymap\n        products: [Quaymap, QuaymapOffline]\n", ""],
      /PilotApp\.swift:2 Pilot imports Quaymap, but only the project declares it/,
    ],
  ])("tells what is lost: %s", async (_what, edit, told) => {
    expect(await alarmsOf(changed(edit))).toContainEqual(expect.stringMatching(told));
  });

  it("says nothing of what a command or each who builds lays down", async () => {
    const generated = "    sources: [Core, Parts/Strings.swift]";
    expect(await alarmsOf(changed(["    sources: [Core]", generated]))).not.toEqual([]);
    expect(await alarmsOf({ ...changed(["    sources: [Core]", generated]), "ios/.gitignore": "Parts/\n" })).toEqual([]);
    expect(
      await alarmsOf(changed(["    sources: [Core]", generated], ["name: Pilot\n", "name: Pilot\noptions: { preGenCommand: make }\n"])),
    ).toEqual([]);
    expect(
      await alarmsOf(
        changed(
          ["  - shared/base.yml", "  - ${PART}.yml"],
          ["      - target: Core\n", "      - target: Core\n      - target: Elsewhere\n"],
        ),
      ),
    ).toEqual([expect.stringContaining("level/")]);
  });

  it("tells what it names and has not where no app is left of it", () => {
    const { apps, unreadable } = surveyOf(changed(["templates: [App]", "templates: [Apps]"]));
    expect(apps).toEqual([]);
    expect(unreadable.map(({ file, place, message }) => `${file}:${place.line} ${message}`)).toEqual([
      "ios/project.yml:24 names the template Apps, which is not there: no project is written from it",
    ]);
  });

  it("takes the project that is in the repository before the spec", async () => {
    const own = { ...written, "ios/Pilot.xcodeproj/project.pbxproj": "// !$*UTF8*$!\n{ objects = { }; rootObject = A; }\n" };
    expect(await alarmsOf(own)).toEqual([]);
    expect(surveyOf(own).apps.map(({ name }) => name)).toEqual(["Pilot"]);
    expect(surveyOf({ ...own, ".gitignore": "" }).apps).toEqual([]);
  });

  it("tells keys of a list in the repository that the next writing takes out", async () => {
    const list = '<plist version="1.0">\n<dict>\n\t<key>QuaymapKey</key>\n\t<string>x</string>\n</dict>\n</plist>\n';
    expect(await alarmsOf({ ...written, "ios/Pilot/Info.plist": list })).toEqual([
      "project/config-apart ios/Pilot/Info.plist:3 Info.plist has QuaymapKey, and project.yml, from which it is written, does not: it is gone the next time",
    ]);
    expect(await alarmsOf({ ...written, "ios/Pilot/Info.plist": list, ".gitignore": "*.xcodeproj\nInfo.plist\n" })).toEqual([]);
  });

  it("follows aliases, and stops where they lead to themselves or to too much", async () => {
    const ten = (name: string): string => `[${`*${name}, `.repeat(9)}*${name}]`;
    const bomb = `a: &a [x]\nb: &b ${ten("a")}\nc: &c ${ten("b")}\nd: &d ${ten("c")}\ne: &e ${ten("d")}\nf: &f ${ten("e")}\n`;
    expect(await alarmsOf({ ...written, [SPEC]: `${bomb}x: &x\n  y: *x\n${written[SPEC] ?? ""}` })).toEqual([]);
  });

  it("follows only so many parts of a document that grows without end; what a map says itself goes before what it takes over", () => {
    const ten = (name: string): string => `[${`*${name}, `.repeat(9)}*${name}]`;
    const text = `a: &a [x]\n${["ab", "bc", "cd", "de", "ef", "fg"].map(([of = "", to = ""]) => `${to}: &${to} ${ten(of)}\n`).join("")}`;
    const count = (data: Data | undefined): number =>
      data?.kind === "list"
        ? data.items.reduce((sum, item) => sum + count(item), 1)
        : entriesOf(data).reduce((sum, [, { value }]) => sum + count(value), 1);
    expect(count(readYaml(new Source("a.yml", text)).root)).toBeLessThan(100_000);
    const wide = `a: &a\n${"- x\n".repeat(1_000)}b:\n${"- *a\n".repeat(400)}`;
    expect(count(readYaml(new Source("c.yml", wide)).root)).toBeLessThan(100_000);
    const { root } = readYaml(new Source("b.yml", "a: &a { x: 1, y: 2 }\nb: { x: 3, <<: *a }\n"));
    expect([textAt(root, "b", "x"), textAt(root, "b", "y")]).toEqual(["3", "2"]);
  });

  it("lets code import what a product of another name may bring to a framework of the project", async () => {
    const files = changed(
      ["      - package: Quaymap\n        products: [Quaymap, QuaymapOffline]\n", ""],
      ["    sources: [Core]\n", "    sources: [Core]\n    dependencies:\n      - package: Quaymap\n        product: QuaymapKit\n"],
    );
    expect((await alarmsOf(files)).filter((alarm) => alarm.startsWith("source/"))).toEqual([]);
  });

  it("is found and checked by the program", async () => {
    const folder = temporaryFolder({ ...changed(["        UILaunchScreen: {}\n", ""]) });
    const { stdout } = await enredo(["check", folder, "--json"], { cache: null });
    const { findings } = JSON.parse(stdout) as { findings: { rule: string; places: { file: string }[] }[] };
    expect(findings.map(({ rule, places: [at] }) => `${rule} ${at?.file ?? ""}`)).toContain("project/component-broken ios/project.yml");
  });
});
