import { xcodeExample } from "../../src/core/rules/examples.js";
import { execFileSync } from "node:child_process";
import { readdirSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { editOf } from "../../src/core/project/patch/edits.js";
import type { QuickFix } from "../../src/core/model/quick-fix.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder } from "../helpers/program.js";

interface PatchDocument {
  diff: string;
  mended: { rule: string; app: string; fingerprint: string }[];
  left: { rule: string; why: string }[];
}
const fingerprints = async (folder: string): Promise<string[]> =>
  (JSON.parse((await enredo(["check", folder, "--json"])).stdout) as { findings: { fingerprint: string }[] }).findings
    .map(({ fingerprint }) => fingerprint)
    .sort();
/** Every file of a folder with its text. */
function texts(folder: string, below = ""): Record<string, string> {
  const found: Record<string, string> = {};
  for (const name of readdirSync(path.join(folder, below))) {
    const file = path.join(below, name);
    if (statSync(path.join(folder, file)).isDirectory()) Object.assign(found, name === ".git" ? {} : texts(folder, file));
    else found[file] = readFileSync(path.join(folder, file), "utf8");
  }
  return found;
}

let folder: string;
let document: PatchDocument;
beforeAll(async () => {
  folder = path.join(temporaryFolder(), "fleet");
  expect((await enredo(["demo", folder])).code).toBe(0);
  document = JSON.parse((await enredo(["patch", folder, "--json"])).stdout) as PatchDocument;
});

describe("patch on the sample apps", () => {
  it("mends findings of several rules, in several apps", () => {
    const rules = new Set(document.mended.map(({ rule }) => rule));
    for (const rule of [
      "level/below-need",
      "permit/permission-missing",
      "permit/misspelt",
      "permit/purpose-missing",
      "permit/entry-missing",
      "keep/file-unused",
      "version/conflict",
    ])
      expect(rules).toContain(rule);
    expect(new Set(document.mended.map(({ app }) => app)).size).toBeGreaterThan(5);
  });

  it("git apply takes it, and afterwards exactly these findings are gone", async () => {
    const before = await fingerprints(folder);
    execFileSync("git", ["init", "-q"], { cwd: folder });
    execFileSync("git", ["apply", "-"], { cwd: folder, input: document.diff });
    const after = await fingerprints(folder);
    const rest = [...before];
    for (const { fingerprint } of document.mended) rest.splice(rest.indexOf(fingerprint), 1);
    expect(after.filter((fingerprint) => !rest.includes(fingerprint))).toEqual([]);
    for (const { fingerprint } of document.mended)
      expect(after.filter((other) => other === fingerprint).length).toBeLessThan(before.filter((other) => other === fingerprint).length);
    expect((await enredo(["patch", folder])).stdout.match(/^@@/gm)?.length ?? 0).toBe(0);
  });

  it("each hunk says what it mends, and only files of the project are touched", () => {
    for (const line of document.diff.split("\n").filter((text) => text.startsWith("@@")))
      expect(line).toMatch(/^@@ -\d+(,\d+)? \+\d+(,\d+)? @@ [a-z]+\/[a-z-]+: ./);
    expect(document.diff).not.toMatch(/^\+\+\+ .*(node_modules|Pods|\.pub-cache|\.\.)/m);
  });

  it.each(["crewboard", "deckpass", "kiosk", "lockkeeper", "logbook", "pilot", "quayside", "tidegame"])(
    "%s: --write gives what the diff says, and changes nothing else",
    async (app) => {
      const own = path.join(temporaryFolder(), "fleet");
      await enredo(["demo", own]);
      const before = texts(own);
      const { diff } = JSON.parse((await enredo(["patch", own, "--app", app, "--json"])).stdout) as PatchDocument;
      expect((await enredo(["patch", own, "--app", app, "--write"])).code).toBe(0);
      const after = texts(own);
      const changed = Object.keys(after).filter((file) => after[file] !== before[file]);
      expect(changed.map((file) => file.split(path.sep).join("/")).sort()).toEqual(
        [...diff.matchAll(/^\+\+\+ b\/(.*?)\t?$/gm)].map((match) => match[1]).sort(),
      );
      expect(Object.keys(after).sort()).toEqual(Object.keys(before).sort());
    },
  );
});

describe("patch", () => {
  const android = (text: string) => ({
    "settings.gradle": "include ':app'\n",
    "app/build.gradle": text,
    "enredo.yaml": "floors: { minSdk: 24 }\n",
  });
  const script =
    "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 21 // since the old ferry\n  }\n}\n";

  it("keeps Windows line ends, a byte order mark, comments and a missing last line end", async () => {
    const text = `\ufeff${script.replaceAll("\n", "\r\n").trimEnd()}`;
    const own = temporaryFolder(android(text));
    expect((await enredo(["patch", own, "--write"])).code).toBe(0);
    expect(readFileSync(path.join(own, "app/build.gradle"), "utf8")).toBe(text.replace("minSdk 21", "minSdk 24"));
    const fresh = temporaryFolder(android(text));
    execFileSync("git", ["init", "-q"], { cwd: fresh });
    execFileSync("git", ["apply", "--whitespace=nowarn", "-"], { cwd: fresh, input: (await enredo(["patch", fresh])).stdout });
    expect(readFileSync(path.join(fresh, "app/build.gradle"), "utf8")).toBe(text.replace("minSdk 21", "minSdk 24"));
  });

  it("raises a level to the highest demand, and the Podfile with the target", async () => {
    const spec = (name: string, level: string) =>
      `Pod::Spec.new do |s|\n  s.name = '${name}'\n  s.version = '1.0.0'\n  s.platform = :ios, '${level}'\nend\n`;
    const own = temporaryFolder({
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample({ target: "14.0" }),
      "ios/Podfile":
        "platform :ios, '14.0' # as the target\ntarget 'Pilot' do\n  pod 'Chart', :path => '../chart'\n  pod 'Tide', :path => '../tide'\nend\n",
      "chart/Chart.podspec": spec("Chart", "15.0"),
      "tide/Tide.podspec": spec("Tide", "16.0"),
    });
    const rules = async () =>
      (JSON.parse((await enredo(["check", own, "--json"])).stdout) as { findings: { rule: string }[] }).findings.map(({ rule }) => rule);
    expect((await rules()).filter((rule) => rule === "level/below-need")).toHaveLength(2);
    expect((await enredo(["patch", own, "--write"])).stderr).toContain("2 findings fixed in 2 files");
    expect((await rules()).filter((rule) => rule.startsWith("level/"))).toEqual([]);
    expect(readFileSync(path.join(own, "ios/Podfile"), "utf8")).toMatch(/^platform :ios, '16.0' # as the target\n/);
    expect(readFileSync(path.join(own, "ios/Pilot.xcodeproj/project.pbxproj"), "utf8")).not.toContain("14.0");
  });

  it("limits itself to a rule, and knows the rules' names", async () => {
    const own = temporaryFolder(android(script));
    expect(await enredo(["patch", own, "--rule", "permit/misspelt"])).toMatchObject({ code: 0, stdout: "" });
    expect((await enredo(["patch", own, "--rule", "level/below-need"])).stdout).toContain("+    minSdk 24 // since the old ferry");
    const wrong = await enredo(["patch", own, "--rule", "level/below-ned"]);
    expect([wrong.code, wrong.stderr.includes("level/below-need")]).toEqual([2, true]);
  });

  it("writes entries that accept, into new settings and into those that are there", async () => {
    const own = temporaryFolder({
      ...android(script),
      "enredo.yaml": "# ours\nfloors: { minSdk: 24 }\naccept:\n  - rule: version/floating\n    reason: known\n",
    });
    expect((await enredo(["patch", own, "--accept", "level/below-need", "--write"])).code).toBe(0);
    const settings = readFileSync(path.join(own, "enredo.yaml"), "utf8");
    expect(settings).toMatch(/^# ours\n/);
    expect(settings).toContain(
      'accept:\n  - rule: level/below-need\n    app: "app"\n    reason: "to be written: why this is fine"\n  - rule: version/floating',
    );
    expect((await enredo(["check", own])).code).toBe(0);
    const bare = temporaryFolder({
      "settings.gradle": "include ':app'\n",
      "app/build.gradle": script.replace("minSdk 21", "minSdk 24\n    targetSdk 36"),
    });
    const diff = (await enredo(["patch", bare, "--accept", "level/order"])).stdout;
    expect(diff).toContain("--- /dev/null\n+++ b/enredo.yaml");
    execFileSync("git", ["init", "-q"], { cwd: bare });
    execFileSync("git", ["apply", "-"], { cwd: bare, input: diff });
    expect((await enredo(["check", bare])).code).toBe(0);
  });

  it("leaves what it cannot change for certain, and says why", async () => {
    const own = temporaryFolder(android(script.replace("minSdk 21", "minSdk levels.min + 1")));
    expect((await enredo(["patch", own])).stdout).toBe("");
    const variable = temporaryFolder({ ...android(`def low = 21\n${script.replace("minSdk 21", "minSdk low")}`) });
    expect((await enredo(["patch", variable])).stdout).toContain("+def low = 24");
  });
});

describe("edits", () => {
  const at = (file: string, line: number, column: number) => ({ file, line, column });
  const applied = (quickFix: QuickFix, text: string): string | undefined => {
    const edit = editOf(quickFix, text);
    return edit && text.slice(0, edit.from) + edit.text + text.slice(edit.to);
  };
  const plist = (body: string) => `<plist version="1.0">\n<dict>\n${body}</dict>\n</plist>\n`;
  it.each<[string, QuickFix, string, string | undefined]>([
    ["a number", { do: "replace", at: at("a", 1, 8), from: "21", to: "24" }, "minSdk 21\n", "minSdk 24\n"],
    ["not a part of a longer one", { do: "replace", at: at("a", 1, 8), from: "21", to: "24" }, "minSdk 210\n", undefined],
    ["a level with .0", { do: "replace", at: at("a", 1, 1), from: "21", to: "24" }, "21.0", "24.0"],
    [
      "a version behind its name",
      { do: "replace", at: at("a", 1, 1), from: "4.0.1", to: "4.2.0" },
      "'example.quaymap:quaymap-android:4.0.1'",
      "'example.quaymap:quaymap-android:4.2.0'",
    ],
    [
      "a repository, a line of its own",
      { do: "repository", after: at("a.gradle", 2, 3), url: "https://x" },
      "r {\n  maven { url 'y'\n  }\n}\n",
      "r {\n  maven { url 'y'\n  }\n  maven { url 'https://x' }\n}\n",
    ],
    [
      "a repository on one line",
      { do: "repository", after: at("a.gradle", 1, 5), url: "https://x" },
      "r { google(); mavenCentral() }",
      "r { google(); maven { url 'https://x' }; mavenCentral() }",
    ],
    [
      "a repository in Kotlin",
      { do: "repository", after: at("a.kts", 2, 3), url: "https://x" },
      "r {\n  google() // first\n}\n",
      'r {\n  google() // first\n  maven("https://x")\n}\n',
    ],
    [
      "a permission where there is none",
      { do: "permission", file: "m", name: "p" },
      '<manifest a="b">\n  <application/>\n</manifest>',
      '<manifest a="b">\n  <uses-permission android:name="p" />\n  <application/>\n</manifest>',
    ],
    [
      "an entry of a list",
      { do: "plist", file: "p", key: "K", value: "b", list: true },
      plist("\t<key>K</key>\n\t<array>\n\t\t<string>a</string>\n\t</array>\n"),
      plist("\t<key>K</key>\n\t<array>\n\t\t<string>b</string>\n\t\t<string>a</string>\n\t</array>\n"),
    ],
    [
      "an empty text",
      { do: "plist", file: "p", key: "K", value: "a & b", list: false },
      plist("\t<key>K</key>\n\t<string/>\n"),
      plist("\t<key>K</key>\n\t<string>a &amp; b</string>\n"),
    ],
    [
      "not a text that is there",
      { do: "plist", file: "p", key: "K", value: "b", list: false },
      plist("\t<key>K</key>\n\t<string>a</string>\n"),
      undefined,
    ],
    ["not a binary list", { do: "plist", file: "p", key: "K", value: "b", list: false }, "bplist00", undefined],
    [
      "a rules file",
      { do: "rulesFile", after: at("a", 1, 15), name: "b.pro" },
      'proguardFiles "a.pro"\n',
      'proguardFiles "a.pro", "b.pro"\n',
    ],
  ])("%s", (_, quickFix, text, expected) => expect(applied(quickFix, text)).toBe(expected));
  it("nothing where the place is beyond the text", () =>
    expect(editOf({ do: "replace", at: at("a", 9, 9), from: "1", to: "2" }, "x")).toBeUndefined());
});
