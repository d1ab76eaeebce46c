import { spawn } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, inject, it } from "vitest";
import { unpacked } from "../helpers/archives.js";
import { RULE_NAMES } from "../../src/core/rules/index.js";
import { androidBlock, androidExample } from "../../src/core/rules/examples.js";
import { enredo } from "../helpers/in-process.js";
import { enredoProcess, ROOT, temporaryFolder, write } from "../helpers/program.js";

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
interface SurveyDocument {
  apps: {
    name: string;
    path: string;
    sides: Record<string, { id?: string; levels?: Record<string, { value: string | null; why?: string; places: Place[] }> }>;
    sdks: {
      sdk: string;
      side: string;
      purl: string | null;
      declared: string | null;
      locked: string | null;
      name: string;
      places: Place[];
    }[];
  }[];
}

const checkJson = async (folder: string, ...more: string[]) =>
  JSON.parse((await enredo(["check", folder, "--json", ...more])).stdout) as CheckDocument;
const pilot = (more: Record<string, string> = {}) => androidExample(androidBlock(), more);

const { demo, clean } = inject("sampleApps");

describe("the demo", () => {
  it("has no finding and no blind spot once it is mended", async () => {
    const { findings, blindSpots } = await checkJson(clean);
    expect(findings).toEqual([]);
    // What a plugin of a package would write is in no file.
    expect(blindSpots.map(({ app, what }) => `${app ?? ""}: ${what}`)).toEqual([
      "logbook: manifest and property-list entries that @gullpost/react-native may add",
    ]);
    expect((await enredo(["check", clean])).code).toBe(0);
  });

  it("every place really holds the value", async () => {
    const { apps } = JSON.parse((await enredo(["survey", demo, "--json"])).stdout) as SurveyDocument;
    const lineAt = ({ file, line, column }: Place) =>
      (unpacked(path.join(demo, file)).toString("utf8").split("\n")[line - 1] ?? "").slice(column - 1);
    let checked = 0;
    for (const app of apps) {
      for (const { levels } of Object.values(app.sides)) {
        for (const { value, places } of Object.values(levels ?? {})) {
          if (value === null) continue;
          const written = value === "17" ? "VERSION_17" : value;
          expect(lineAt(places[0] as Place), `${value} at ${JSON.stringify(places[0])}`).toContain(written);
          checked++;
        }
      }
      for (const { name, places } of app.sdks) {
        const line = lineAt(places[0] as Place);
        const last = (name.split(/[:/]/).at(-1) ?? name).replace(/^cordova-(?=android$|ios$)/, "");
        // A catalog accessor names the package by its alias, the catalog's line by its coordinates.
        expect([line, ...places.slice(1).map(lineAt)].join("\n")).toContain(last);
        checked++;
      }
    }
    for (const { places } of (await checkJson(demo)).findings) for (const place of places) expect(lineAt(place).trim()).not.toBe("");
    expect(checked).toBeGreaterThan(40);
  });

  it("is not laid into a folder that holds something else", async () => {
    const folder = temporaryFolder({ "mine.txt": "mine" });
    const run = await enredo(["demo", folder]);
    expect(run.code).toBe(2);
    expect(run.stderr).toContain("is not empty");
    expect(readFileSync(path.join(folder, "mine.txt"), "utf8")).toBe("mine");
  });

  it("shows all its steps", async () => {
    const { stdout } = await enredo(["demo", path.join(temporaryFolder(), "new")]);
    for (const text of ["1. enredo survey", "2. enredo check", "3. enredo levels", "4. enredo trace", "Next:"])
      expect(stdout).toContain(text);
    expect(stdout.split("\n").length).toBeLessThan(140);
  });
});

describe("output", () => {
  it("follows the JSON contract", async () => {
    const document = await checkJson(demo);
    expect(document.schema).toBe("enredo.check/1");
    expect(path.isAbsolute(document.root)).toBe(true);
    expect(document.apps).toEqual([
      { name: "crewboard", kind: "flutter", path: "crewboard", sides: ["android", "ios", "shared"] },
      { name: "deckpass", kind: "react-native", path: "deckpass", sides: ["android", "ios", "shared"] },
      { name: "kiosk", kind: "capacitor", path: "kiosk", sides: ["android", "ios", "shared"] },
      { name: "Lockkeeper", kind: "dotnet", path: "lockkeeper", sides: ["android", "ios", "shared"] },
      { name: "logbook", kind: "expo", path: "logbook", sides: ["android", "ios", "shared"] },
      { name: "Pilot", kind: "native", path: "pilot", sides: ["android", "ios"] },
      { name: "Quayside", kind: "cordova", path: "quayside", sides: ["android", "ios", "shared"] },
      { name: "Tidegame", kind: "unity", path: "tidegame", sides: ["android", "ios", "shared"] },
    ]);
    const finding = document.findings.find(({ rule, sdk, app }) => rule === "level/below-need" && sdk === "quaymap" && app === "deckpass");
    expect(finding).toMatchObject({
      severity: "error",
      app: "deckpass",
      side: "android",
      message: "quaymap needs minSdk 24; this app has 23",
      fix: "raise minSdk to 24 in deckpass/android/build.gradle",
    });
    expect(finding?.places[0]).toEqual({ file: "deckpass/android/build.gradle", line: 4, column: 25 });
    expect(new Set(document.findings.map(({ fingerprint }) => fingerprint)).size).toBe(document.findings.length);
    const { apps } = JSON.parse((await enredo(["survey", demo, "--json"])).stdout) as SurveyDocument;
    const purls = apps.flatMap(({ sdks }) => sdks.map(({ purl }) => purl));
    for (const purl of [
      "pkg:maven/example.quaymap/quaymap-android@4.2.0",
      "pkg:cocoapods/QuaymapSDK@4.1.3",
      "pkg:npm/%40quaymap/react-native@4.2.1",
      "pkg:swift/git.brinelog.example/brinelog-ios@2.0.4",
    ])
      expect(purls).toContain(purl);
    const table = JSON.parse((await enredo(["levels", demo, "--json"])).stdout) as {
      schema: string;
      apps: { name: string; sides: Record<string, { level: string; effective: string; headroom: number; requiredLevels: unknown[] }[]> }[];
    };
    expect(table.schema).toBe("enredo.levels/1");
    expect(table.apps.find(({ name }) => name === "deckpass")?.sides.android?.[0]).toMatchObject({
      level: "minSdk",
      effective: "23",
      headroom: -1,
    });
  });

  it("is plain text when piped, fits the width, and cuts no path", async () => {
    for (const columns of ["80", "120"]) {
      for (const command of ["survey", "levels", "check"]) {
        const { stdout } = await enredo([command, demo], { env: { COLUMNS: columns } });

        expect(stdout).not.toMatch(/\u001b/);
        for (const line of stdout.split("\n"))
          if (!/\S:\d+:\d+/.test(line) && !line.includes("://")) expect(line.length, line).toBeLessThanOrEqual(Number(columns));
        expect(stdout).not.toContain("…/");
      }
    }
  });

  it("is coloured when asked, and then too every finding has its word", async () => {
    const { stdout } = await enredo(["check", demo], { env: { NO_COLOR: "", FORCE_COLOR: "1" } });

    expect(stdout).toMatch(/\u001b\[31m✗ error/);

    expect((await enredo(["check", demo, "--no-color"], { env: { NO_COLOR: "", FORCE_COLOR: "1" } })).stdout).not.toMatch(/\u001b/);
  });

  it("goes to a file with --output", async () => {
    const file = path.join(temporaryFolder(), "deep/report.json");
    const run = await enredo(["check", demo, "--json", "--output", file]);
    expect(run.stdout).toBe("");
    expect((JSON.parse(readFileSync(file, "utf8")) as CheckDocument).schema).toBe("enredo.check/1");
  });

  it("cleans control characters of names before they reach a terminal", async () => {
    const folder = temporaryFolder(
      pilot({ "app/build.gradle": pilot()["app/build.gradle"]?.replace("example.maresia.pilot", "com.example.\u001b]0;x\u0007y") ?? "" }),
    );

    expect((await enredo(["check", folder])).stdout).not.toMatch(/[\u001b\u0007]/);
  });

  it("survives a reader that stops reading", async () => {
    const child = spawn(process.execPath, [path.join(ROOT, "bin/enredo.js"), "survey", demo, "--json"], {
      stdio: ["ignore", "pipe", "pipe"],
    });
    child.stdout.destroy();
    let errors = "";
    child.stderr.on("data", (data: Buffer) => (errors += data.toString()));
    const code = await new Promise((resolve) => child.on("close", resolve));
    expect([code, errors]).toEqual([0, ""]);
  });
});

describe("findings that say the same of different packages", () => {
  const folder = () => path.join(demo, "deckpass");

  it("are shown as one from three on, each alone with --verbose, and all in JSON", async () => {
    const text = async (...more: string[]) => (await enredo(["check", folder(), "--min-severity", "note", ...more])).stdout;
    const unused = /start\/unused/g;
    const all = (await checkJson(folder())).findings.filter(({ rule }) => rule === "start/unused");
    expect(all.length).toBeGreaterThanOrEqual(3);
    expect((await text()).match(unused)).toHaveLength(1);
    const names = all.slice(1).map(({ message }) => /refers to (\S+):/.exec(message)?.[1]);
    expect(await text()).toContain(`likewise ${names.join(", ")}; --verbose shows each`);
    expect((await text("--verbose")).match(unused)).toHaveLength(all.length);
    expect(await text("--verbose")).not.toContain("likewise");
    // The counts are of all.
    expect(await text()).toContain(`${all.length} notes`);
  });
});

describe("exit codes and usage", () => {
  const withWarning = () =>
    temporaryFolder(
      pilot({ "app/build.gradle": (pilot()["app/build.gradle"] ?? "").replace("example.maresia.pilot", "com.example.pilot") }),
    );

  it.each([
    [[], 0],
    [["--fail-on", "warning"], 1],
    [["--fail-on", "note"], 1],
    [["--fail-on", "never"], 0],
    [["--fail-on", "error"], 0],
    [["--fail-on", "sometimes"], 2],
    [["--formt", "json"], 2],
  ])("check %j gives %i on a warning", (args, code) => {
    expect(enredoProcess(["check", withWarning(), ...args]).code).toBe(code);
  });

  it("--min-severity hides and does not change the exit code", () => {
    const run = enredoProcess(["check", withWarning(), "--min-severity", "error", "--fail-on", "warning"]);
    expect(run.code).toBe(1);
    expect(run.stdout).not.toContain("placeholder-id");
  });

  it.each([
    ["an empty folder", () => temporaryFolder(), "no app found"],
    [
      "a Capacitor app without platforms",
      () => temporaryFolder({ "package.json": '{ "name": "kiosk" }', "capacitor.config.json": '{ "appId": "example.maresia.kiosk" }' }),
      "holds a Capacitor app without a native project",
    ],
    [
      "React Native code without native folders",
      () => temporaryFolder({ "package.json": '{ "name": "deckpass", "dependencies": { "react-native": "0.80.0" } }' }),
      "holds a React Native app without a native project",
    ],
    [
      "a Cordova app before its platforms",
      () =>
        temporaryFolder({
          "config.xml": '<widget id="example.maresia.quayside" version="1.0.0"><name>Quayside</name></widget>',
          "package.json": '{"name":"quayside","version":"1.0.0"}',
          "www/index.html": "<html></html>",
        }),
      "holds a Cordova app without a native project",
    ],
    ["a folder that is not there", () => "/nowhere/at/all", "there is no folder"],
    ["a file", () => path.join(temporaryFolder({ "a.txt": "" }), "a.txt"), "is a file"],
  ])("%s: exit code 2 and a sentence", (_, folder, message) => {
    for (const command of ["check", "survey", "levels"]) {
      const run = enredoProcess([command, folder()]);
      expect(run.code).toBe(2);
      expect(run.stderr).toContain(message);
      expect(run.stderr).not.toContain("    at ");
      expect(run.stdout).toBe("");
    }
  });

  it("suggests what was meant: options, apps, rules", async () => {
    for (const [word, hint] of [
      ["chekc", 'did you mean "check"?'],
      ["sheet lsit", 'did you mean "sheet list"?'],
      ["frobnicate", "see `enredo --help`"],
      [demo, `to check this folder: \`enredo check ${demo}\``],
    ] as const) {
      const { code, stdout, stderr } = await enredo(word.split(" "));
      expect([code, stdout]).toEqual([2, ""]);
      expect(stderr).toContain(hint);
    }
    expect((await enredo(["check", demo, "--jsn"])).stderr).toContain('did you mean "--json"?');
    expect((await enredo(["check", demo, "--app", "decpass"])).stderr).toContain('did you mean "deckpass"');
    expect((await enredo(["explain", "level/below-ned"])).stderr).toContain('did you mean "level/below-need"');
    expect((await enredo(["explain", "level/below-ned"])).code).toBe(2);
  });

  it("--app and --side narrow the answer", async () => {
    expect((await checkJson(demo, "--app", "pilot")).findings.every(({ app }) => app === "Pilot")).toBe(true);
    const sides = new Set((await checkJson(demo, "--side", "ios")).findings.map(({ side }) => side));
    expect(sides).toEqual(new Set([undefined, "ios"]));
  });

  it("explain prints a rule with its examples", async () => {
    const { code, stdout } = await enredo(["explain", "level/below-need"]);
    expect(code).toBe(0);
    for (const title of ["What it looks at", "Why it matters", "How to fix it", "Reported", "Not reported"])
      expect(stdout).toContain(title);
  });

  it("explain lists every rule", async () => {
    const { stdout } = await enredo(["explain"]);
    for (const rule of RULE_NAMES) expect(stdout).toContain(rule);
  });
});

describe("the package", () => {
  it("answers --version and --help, for the program and for each command", () => {
    const { version } = JSON.parse(readFileSync(path.join(ROOT, "package.json"), "utf8")) as { version: string };
    expect(enredoProcess(["--version"]).stdout).toContain(version);
    for (const command of ["check", "survey", "levels", "explain", "demo"]) {
      expect(enredoProcess(["--help"]).stdout).toContain(command);
      expect(enredoProcess([command, "--help"]).stdout).toContain("USAGE");
    }
  });

  it("starts nothing and writes nothing in the project", async () => {
    const folder = temporaryFolder(pilot({ "settings.gradle": "'touch pwned'.execute()\ninclude ':app'\n" }));
    const before = await checkJson(folder);
    write(folder, {});
    expect(existsSync(path.join(folder, "pwned"))).toBe(false);
    expect(await checkJson(folder)).toEqual(before);
  });
});
