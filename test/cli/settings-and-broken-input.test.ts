import { chmodSync, mkdirSync, symlinkSync, truncateSync, writeFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { androidBlock, androidExample, iosExample } from "../../src/core/rules/examples.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder } from "../helpers/program.js";

interface Place {
  file: string;
  line: number;
  column: number;
}
interface CheckDocument {
  schema: string;
  root: string;
  apps: { name: string; kind: string; path: string; sides: string[] }[];
  findings: {
    rule: string;
    severity: string;
    app: string;
    side?: string;
    sdk?: string;
    message: string;
    fix: string;
    places: Place[];
    fingerprint: string;
  }[];
  blindSpots: { app: string; side: string; what: string; why: string; places: Place[] }[];
  summary: Record<string, number>;
}

const checkJson = async (folder: string, ...more: string[]) =>
  JSON.parse((await enredo(["check", folder, "--json", ...more])).stdout) as CheckDocument;
const pilot = (more: Record<string, string> = {}) => androidExample(androidBlock(), more);

describe("settings", () => {
  const files = {
    ...pilot({ "app/build.gradle": (pilot()["app/build.gradle"] ?? "").replace("example.maresia.pilot", "com.example.pilot") }),
  };
  const run = async (settings: string) => {
    const folder = temporaryFolder({ ...files, "enredo.yaml": settings });
    return await checkJson(folder);
  };
  const rules = (document: CheckDocument) => document.findings.map(({ rule, severity }) => `${rule} ${severity}`);

  it("change severities, of rules and of concerns", async () => {
    expect(rules(await run("severity:\n  identity/placeholder-id: error\n"))).toEqual(["identity/placeholder-id error"]);
    expect(rules(await run("severity:\n  identity: note\n"))).toEqual(["identity/placeholder-id note"]);
    expect(rules(await run("severity:\n  identity/placeholder-id: off\n"))).toEqual([]);
  });

  it("accept findings with a reason, until a date", async () => {
    const accept = (more: string) => `accept:\n  - rule: identity/placeholder-id\n    reason: a sample app\n${more}`;
    expect(rules(await run(accept("")))).toEqual([]);
    expect(rules(await run(accept("    until: 2999-01-01\n")))).toEqual([]);
    expect(rules(await run(accept("    sdk: quaymap\n")))).toEqual(["identity/placeholder-id warning"]);
    const late = await run(accept("    until: 2020-01-01\n"));
    expect(late.findings[0]?.message).toContain("accepted until 2020-01-01: a sample app");
  });

  it.each([
    ["acept: []", 'unknown key "acept"', 'did you mean "accept"?', 1],
    ["accept:\n  - rule: identity/placeholder-id\n", "a reason is required", "add reason to this entry", 2],
    [
      "accept:\n  - rule: identity/placeholder\n    reason: x\n",
      'there is no rule "identity/placeholder"',
      'did you mean "identity/placeholder-id"?',
      2,
    ],
    ["severity:\n  version/floting: error\n", 'there is no rule or concern "version/floting"', 'did you mean "version/floating"?', 2],
    ["severity:\n  version/floating: eror\n", '"eror" is not a severity', 'did you mean "error"?', 2],
    ["floors:\n  minSdk: high\n", "minSdk must be a level such as 24", "correct the value", 2],
    ["floors:\n  minSkd: 24\n", 'unknown key "minSkd"', 'did you mean "minSdk"?', 2],
    ["ignore: [1, 2\n", "the settings file is not valid YAML", "fix the YAML", undefined],
    ["- a\n- b\n", "has no settings", "write keys", 1],
  ])("%j is a finding with line and suggestion, and the rest of the answer still comes", async (settings, message, fix, line) => {
    const { findings } = await run(settings);
    const own = findings.find(({ rule }) => rule === "project/settings");
    expect(own?.message).toContain(message);
    expect(own?.fix).toContain(fix);
    if (line !== undefined) expect(own?.places[0]).toMatchObject({ file: "enredo.yaml", line });
    expect(findings.some(({ rule }) => rule === "identity/placeholder-id")).toBe(true);
  });

  it("ignore paths; a settings file from elsewhere with --config", async () => {
    const folder = temporaryFolder({
      ...Object.fromEntries(Object.entries(files).map(([file, text]) => [`a/${file}`, text])),
      ...Object.fromEntries(Object.entries(files).map(([file, text]) => [`b/${file}`, text])),
    });
    const config = path.join(temporaryFolder({ "team.yaml": "ignore:\n  - b/\n" }), "team.yaml");
    expect((await checkJson(folder)).apps).toHaveLength(2);
    expect((await checkJson(folder, "--config", config)).apps.map(({ path: at }) => at)).toEqual(["a"]);
    expect((await enredo(["check", folder, "--config", "nowhere.yaml"])).code).toBe(2);
  });
});

describe("broken input", () => {
  const good = {
    ...androidExample(androidBlock()),
    ...iosExample(
      {},
      {
        Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'A', '1.0'\nend\n",
        "Podfile.lock": "PODS:\n  - A (1.0)\n\nDEPENDENCIES:\n  - A (= 1.0)\n",
      },
    ),
  };
  const unreadable = async (folder: string) => (await checkJson(folder)).findings.filter(({ rule }) => rule === "project/unreadable");

  it.each<[string, Record<string, string | Buffer>, string]>([
    [
      "a truncated project file",
      { "Pilot.xcodeproj/project.pbxproj": (good["Pilot.xcodeproj/project.pbxproj"] ?? "").slice(0, -60) },
      "the file ends inside a {",
    ],
    ["an unfinished build script", { "app/build.gradle": `${good["app/build.gradle"] ?? ""}dependencies {\n` }, "is never closed"],
    [
      "half a manifest",
      { "src/main/AndroidManifest.xml": "<manifest", "app/src/main/AndroidManifest.xml": '<manifest package="a">\n<application' },
      "not valid XML",
    ],
    [
      "a lock file with merge markers",
      { "Podfile.lock": "PODS:\n<<<<<<< HEAD\n  - A (1.0)\n=======\n  - A (1.1)\n>>>>>>> other\n" },
      "has unresolved merge markers",
    ],
    ["a binary under a text name", { "app/build.gradle": Buffer.from([0, 1, 2, 0, 255, 0]) }, "binary data in a text file"],
    ["an unfinished Podfile", { Podfile: "target 'Pilot' do\n  pod 'A'\n" }, "never closed"],
  ])("%s is named with its line, and the rest of the answer still comes", async (_, broken, message) => {
    const folder = temporaryFolder({ ...good, ...broken });
    const findings = await unreadable(folder);
    expect(findings.map(({ message: text }) => text).join()).toContain(message);
    expect(findings[0]?.places[0]?.line).toBeGreaterThan(0);
    expect((await checkJson(folder)).apps.length).toBeGreaterThan(0);
    expect((await enredo(["survey", folder])).code).toBe(0);
  });

  it("a template's marks are nobody's mistake", async () => {
    expect(await unreadable(temporaryFolder({ ...good, Podfile: "target '<%= name %>' do\n  pod 'A'\n" }))).toEqual([]);
  });

  it("a folder without permission, a circle of links, a file of 200 MB", async () => {
    const folder = temporaryFolder(good);
    mkdirSync(path.join(folder, "closed"));
    symlinkSync(folder, path.join(folder, "again"));
    symlinkSync("loop", path.join(folder, "loop"));
    writeFileSync(path.join(folder, "package.json"), "{}");
    truncateSync(path.join(folder, "package.json"), 200 * 1024 * 1024);
    chmodSync(path.join(folder, "closed"), 0);
    const { apps, findings } = await checkJson(folder);
    chmodSync(path.join(folder, "closed"), 0o755);
    expect(apps.length).toBe(1);
    expect(findings.map(({ message }) => message).join("\n")).toContain("package.json: cannot be read: it is larger than 24 MB");
    // The super user may read everything.
    if (process.getuid?.() !== 0)
      expect(findings.map(({ message }) => message).join("\n")).toContain("closed: cannot be read: there is no permission");
  });
});
