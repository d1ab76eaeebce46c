import path from "node:path";
import { describe, expect, inject, it } from "vitest";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

/** One monorepo with an app of each kind: every command answers for each, and none is mixed up with another. */

interface Named {
  name: string;
  kind: string;
}

const { demo: fleet, clean } = inject("sampleApps");

const json = async <T>(args: string[]): Promise<T> => JSON.parse((await enredo([...args, "--json"])).stdout) as T;

const KINDS = {
  crewboard: "flutter",
  deckpass: "react-native",
  kiosk: "capacitor",
  Lockkeeper: "dotnet",
  Pilot: "native",
  Quayside: "cordova",
  logbook: "expo",
  Tidegame: "unity",
};

describe("a fleet", () => {
  it("every app is found once, as what it is", async () => {
    const { apps } = await json<{ apps: Named[] }>(["survey", fleet]);
    expect(Object.fromEntries(apps.map(({ name, kind }) => [name, kind]))).toEqual(KINDS);
    expect(apps).toHaveLength(Object.keys(KINDS).length);
  });

  it("what is not linked on a side is open there, and the next thing to do", async () => {
    const app = path.join(fleet, "crewboard");
    const { comparisons } = await json<{
      comparisons: { rows: { sdk: string; agreement: string; right: { states: { missing: number } } }[] }[];
    }>(["compare", app]);
    const gullpost = comparisons[0]?.rows.find(({ sdk }) => sdk === "gullpost");
    expect([gullpost?.agreement, gullpost?.right.states.missing]).toEqual(["open", 1]);
    const { stdout } = await enredo(["trace", "gullpost", app]);
    expect(stdout).toContain("Podfile.lock has no gullpost_flutter");
    expect(stdout).toContain("Next, on iOS: run flutter pub get and pod install");
    expect((await enredo(["trace", "gullpost", path.join(clean, "crewboard")])).stdout).not.toContain("missing   ");
  });

  it("alone, each app says what it says in the fleet, but for the sheets that lie above it", async () => {
    const { findings } = await json<{ findings: { app: string; rule: string; places: { file: string }[] }[] }>(["check", fleet]);
    for (const [name, folder] of [
      ["crewboard", "crewboard"],
      ["Tidegame", "tidegame"],
      ["kiosk", "kiosk"],
    ] as const) {
      const alone = await json<{ findings: { rule: string; places: { file: string }[] }[] }>(["check", path.join(fleet, folder)]);
      const together = findings.filter(({ app }) => app === name).map(({ rule, places: [place] }) => `${rule} ${place?.file ?? ""}`);
      for (const { rule, places } of alone.findings) expect(together).toContain(`${rule} ${folder}/${places[0]?.file ?? ""}`);
    }
  });

  it("no file of one app is a place of another", async () => {
    const { findings } = await json<{ findings: { app: string; places: { file: string }[] }[] }>(["check", fleet]);
    for (const { app, places } of findings)
      for (const { file } of places) if (!file.startsWith("enredo/")) expect(file.split("/")[0]?.toLowerCase()).toBe(app.toLowerCase());
  });

  it.each(Object.keys(KINDS))("%s: levels, compare and trace answer at 80 columns and as JSON", async (name) => {
    for (const command of ["levels", "compare", "survey", "check"]) {
      const { code, stdout, stderr } = await enredo([command, fleet, "--app", name], { env: { COLUMNS: "80" } });
      expect(code).toBeLessThan(2);
      expect(stderr).toBe("");
      expect(stdout).toContain(name);
      expect(stdout).not.toMatch(/undefined|\[object|NaN/);
      for (const line of stdout.split("\n")) if (!/[\w-]\/|https?:|\.\w+:\d/.test(line)) expect(line.length).toBeLessThanOrEqual(80);
      for (const other of Object.keys(KINDS)) if (other !== name) expect(stdout).not.toContain(`\n${other}  `);
    }
    const { apps } = await json<{ apps: { name: string; sides: Record<string, unknown> }[] }>(["levels", fleet, "--app", name]);
    expect(apps.map((app) => app.name)).toEqual([name]);
  });

  it("trace finds an SDK in every app that has it, by whatever route", async () => {
    const { apps } = await json<{ apps: Named[] }>(["trace", "quaymap", fleet]);
    expect(apps.map(({ name }) => name).sort()).toEqual(["Lockkeeper", "Pilot", "Quayside", "Tidegame", "crewboard", "deckpass"]);
  });

  it("compare: a range's least version beside a full one is alike; a branch is named, not its address", async () => {
    const { stdout } = await enredo(["compare", fleet, "--app", "Quayside"]);
    expect(stdout).toMatch(/quaymap +4\.2\.0 .* 4\.2 .*/);
    expect(stdout).toMatch(/tidewire +default branch/);
    expect((await enredo(["compare", fleet, "--app", "deckpass"])).stdout).toMatch(/≠ key publishableKey/);
  });

  it("an SDK that is nowhere: says so, with the nearest name", async () => {
    const { code, stderr } = await enredo(["trace", "quaymop", fleet]);
    expect(code).toBe(2);
    expect(stderr).toMatch(/quaymop/);
    expect(stderr).toMatch(/quaymap/);
  });

  it("the mended fleet has nothing to report", async () => {
    const { code, stdout } = await enredo(["check", clean, "--fail-on", "note"]);
    expect(stdout).toContain("nothing to report");
    expect(code).toBe(0);
  });

  it("an app that is broken beyond reading does not take the others with it", async () => {
    const folder = path.join(temporaryFolder(), "fleet");
    expect((await enredo(["demo", folder])).code).toBe(0);
    write(folder, {
      "kiosk/package.json": "{",
      "quayside/config.xml": "<widget",
      "crewboard/pubspec.yaml": "name: [",
      "tidegame/ProjectSettings/ProjectSettings.asset": "\0\0",
      "lockkeeper/Lockkeeper.csproj": "<Project",
    });
    const { code, stdout } = await enredo(["check", folder, "--json"]);
    expect(code).toBe(1);
    const { findings } = JSON.parse(stdout) as { findings: { app: string; rule: string; places: { file: string; line: number }[] }[] };
    const unreadable = findings.filter(({ rule }) => rule === "project/unreadable").flatMap(({ places }) => places.map(({ file }) => file));
    for (const file of ["quayside/config.xml", "crewboard/pubspec.yaml", "lockkeeper/Lockkeeper.csproj"])
      expect(unreadable).toContain(file);
    expect(findings.some(({ app }) => app === "Pilot")).toBe(true);
    expect(findings.some(({ app }) => app === "deckpass")).toBe(true);
  });
});

describe("two native sides of different kinds", () => {
  const files = {
    "app-android/settings.gradle": "include ':app'\n",
    "app-android/app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n    targetSdk 35\n  }\n}\n",
    "app-shared/pubspec.yaml": "name: pilot\ndependencies:\n  flutter:\n    sdk: flutter\n",
    "app-shared/ios/Runner.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{ objects = {
  P = { isa = PBXProject; buildConfigurationList = L; mainGroup = G; targets = ( T, ); };
  G = { isa = PBXGroup; children = ( ); sourceTree = "<group>"; };
  T = { isa = PBXNativeTarget; name = Runner; productType = "com.apple.product-type.application"; buildConfigurationList = L; buildPhases = ( ); };
  L = { isa = XCConfigurationList; buildConfigurations = ( C, ); };
  C = { isa = XCBuildConfiguration; name = Release; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.0; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.pilot; }; };
}; rootObject = P; }
`,
  };

  it("are two apps, until a setting pairs them", async () => {
    const folder = temporaryFolder(files);
    expect((await json<{ apps: Named[] }>(["survey", folder])).apps.map(({ kind }) => kind)).toEqual(["native", "flutter"]);
    write(folder, { "enredo.yaml": "pair:\n  - { name: pilot, android: app-android, ios: app-shared }\n" });
    const { apps } = await json<{ apps: (Named & { sides: Record<string, unknown> })[] }>(["survey", folder]);
    expect(apps.map(({ name, kind }) => `${name} ${kind}`)).toEqual(["pilot flutter"]);
    expect(Object.keys(apps[0]?.sides ?? {})).toEqual(expect.arrayContaining(["android", "ios"]));
  });

  it("a pair that names a folder without an app is told", async () => {
    const folder = temporaryFolder({ ...files, "enredo.yaml": "pair:\n  - { name: pilot, android: nowhere, ios: app-shared }\n" });
    const { stdout } = await enredo(["check", folder]);
    expect(stdout).toMatch(/nowhere/);
  });
});
