import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, inject, it } from "vitest";
import { binaryForm } from "../../src/core/gather/platforms/ios/binary.js";
import { DiskTree } from "../../src/core/files/disk.js";
import { quaymapIos, reactNativeExample } from "../../src/core/rules/examples.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

/** The iOS side of an app of React Native, with its property list. */
const iosSide = (entries = ""): Record<string, string> =>
  Object.fromEntries(
    Object.entries(quaymapIos(entries, { Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\n  use_native_modules!\nend\n" })).map(
      ([file, text]) => [`ios/${file}`, text],
    ),
  );

interface TraceDocument {
  schema: string;
  sdk: string;
  apps: {
    name: string;
    sides: Record<
      string,
      {
        need: string;
        step: number;
        state: string;
        found: string | null;
        wanted: string;
        why: string | null;
        places: { file: string; line: number }[];
        additional?: boolean;
        derived: string | null;
      }[]
    >;
  }[];
}

const { demo, clean } = inject("sampleApps");

describe("trace", () => {
  it("prints every wire in the vendor's order, on each side, and the next thing to do", async () => {
    const { code, stdout } = await enredo(["trace", "quaymap", demo, "--app", "deckpass"], { env: { COLUMNS: "80" } });
    expect(code).toBe(0);
    expect(stdout.indexOf("Android")).toBeLessThan(stdout.indexOf("  iOS"));
    expect(stdout).toMatch(/1 ✗ missing {3}repository https:\/\/maven\.quaymap\.example\/releases/);
    expect(stdout).toMatch(/~ loose {5}key mapKey/);
    expect(stdout).toContain("– 5 needs that do not apply here; --verbose lists them");
    const all = (await enredo(["trace", "quaymap", demo, "--app", "deckpass", "--verbose"], { env: { COLUMNS: "80" } })).stdout;
    expect(all).toMatch(/– unneeded {2}minSdk 23\n\s+only before version 4\.0; 4\.2\.0 is installed/);
    expect(stdout).toMatch(/Next, on Android: add maven/);
    for (const line of stdout.split("\n")) if (!/[\w-]\/|https:/.test(line)) expect(line.length).toBeLessThanOrEqual(80);
  });

  it("sets both sides next to each other where there is room", async () => {
    const { stdout } = await enredo(["trace", "moorid", demo, "--app", "pilot"], { env: { COLUMNS: "200" } });
    expect(stdout).toMatch(/Android {2}1\.9\.2 +iOS {2}1\.9\.2/);
  });

  it("as JSON: a list of wires for each app and side", async () => {
    const document = JSON.parse((await enredo(["trace", "quaymap", demo, "--json"])).stdout) as TraceDocument;
    expect(document.schema).toBe("enredo.trace/1");
    const wires = document.apps.find(({ name }) => name === "deckpass")?.sides.android ?? [];
    expect(wires.map(({ step }) => step)).toEqual(wires.map((_, index) => index + 1));
    expect(wires.find(({ need }) => need === "minSdk 24")).toMatchObject({ state: "loose", found: "23", wanted: "24 or higher" });
    expect(wires.some(({ derived }) => derived?.includes("android folder of @quaymap/react-native"))).toBe(true);
  });

  it("tells what an upgrade asks for beyond today", async () => {
    const document = JSON.parse(
      (await enredo(["trace", "quaymap", demo, "--app", "deckpass", "--at", "5.0.0", "--json"])).stdout,
    ) as TraceDocument;
    const more = Object.values(document.apps[0]?.sides ?? {}).flatMap((wires) =>
      wires.filter(({ additional }) => additional).map(({ need }) => need),
    );
    expect(more.sort()).toEqual(["iosTarget 16.0", "service example.quaymap.OfflineService"]);
    expect((await enredo(["trace", "quaymap", demo, "--at", "5.0.0"])).stdout).toContain(
      "quaymap 5.0.0 has 2 needs that the installed version does not have",
    );
  });

  it("suggests the name of an SDK, and is complete on the mended apps", async () => {
    const { code, stderr } = await enredo(["trace", "quaymaps", demo]);
    expect(code).toBe(2);
    expect(stderr).toContain('did you mean "quaymap"?');
    expect((await enredo(["trace", "tollbuoy", clean])).stdout).toContain("Nothing is left to do.");
    // The name of a package is as good as the id.
    const byId = (await enredo(["trace", "quaymap", demo])).stdout;
    for (const name of ["Quaymap", "@quaymap/react-native", "example.quaymap:quaymap-android", "QuaymapSDK"])
      expect((await enredo(["trace", name, demo])).stdout).toBe(byId);
    expect((await enredo(["sheet", "draft", "example.quaymap:quaymap-android", "--from", path.join(demo, "pilot")])).stdout).toMatch(
      /^sdk: quaymap$/m,
    );
  });
});

describe("compare", () => {
  it("an SDK a row, what differs stands out, ends with a count", async () => {
    const { stdout } = await enredo(["compare", demo, "--app", "pilot"], { env: { COLUMNS: "200" } });
    expect(stdout).toMatch(/gullpost +5\.2\.0 .* +4\.8\.1 .* +≠ version/);
    expect(stdout).toMatch(/brinelog +– +2\.0\.4 .*! only iOS/);
    expect(stdout).toMatch(/5 SDKs: 3 that differ, 1 only iOS, 1 open/);
  });

  it("this app beside that one", async () => {
    const { code, stdout } = await enredo(["compare", path.join(demo, "deckpass"), "--with", path.join(demo, "pilot"), "--json"]);
    expect(code).toBe(0);
    const { comparisons } = JSON.parse(stdout) as {
      comparisons: { left: string; right: string; rows: { sdk: string; only: string | null }[] }[];
    };
    expect(comparisons.map(({ left, right }) => [left, right])).toEqual([
      ["deckpass", "Pilot"],
      ["deckpass", "Pilot"],
    ]);
    expect(comparisons[0]?.rows.find(({ sdk }) => sdk === "tollbuoy")?.only).toBe("deckpass");
  });
});

describe("sheet", () => {
  it("list shows each sheet and where its SDK is", async () => {
    expect((await enredo(["sheet", "list", demo])).stdout).toMatch(/tollbuoy +8 +maven, cocoapods, npm +deckpass/);
    expect((await enredo(["sheet", "list", path.join(demo, "pilot")])).stdout).toContain("no sheets");
  });

  it("check names file, line and suggestion, and the exit code says it", async () => {
    const folder = temporaryFolder({ "enredo/sheets/a.sdk.yaml": "sdk: quaymap\npackages:\n  mavn: a:b\n" });
    const { code, stdout } = await enredo(["sheet", "check", folder]);
    expect(code).toBe(1);
    expect(stdout).toContain("enredo/sheets/a.sdk.yaml:3:3");
    expect(stdout).toContain('did you mean "maven"?');
    expect((await enredo(["sheet", "check", demo])).code).toBe(0);
    expect((await enredo(["sheet", "check", temporaryFolder()])).code).toBe(2);
    // A folder of sheets, as a team keeps them beside its apps.
    const apart = await enredo(["sheet", "check", path.join(folder, "enredo/sheets")]);
    expect([apart.code, apart.stdout.includes("a.sdk.yaml:3:3")]).toEqual([1, true]);
  });

  it("new writes a valid one, and nothing over another", async () => {
    const folder = temporaryFolder();
    const args = ["sheet", "new", "quaymap", "--maven", "example.quaymap:quaymap-android", "--npm", "@quaymap/react-native"];
    expect((await enredo(args, { cwd: folder })).code).toBe(0);
    expect(readFileSync(path.join(folder, "enredo/sheets/quaymap.sdk.yaml"), "utf8")).toContain("maven: example.quaymap:quaymap-android");
    expect((await enredo(["sheet", "check", folder])).code).toBe(0);
    expect((await enredo(args, { cwd: folder })).stderr).toContain("already exists");
    expect((await enredo(["sheet", "new"], { cwd: folder })).code).toBe(2);
  });

  it("draft writes a sheet that the app it came from fulfils, with where each line came from", async () => {
    const { code, stdout } = await enredo(["sheet", "draft", "tollbuoy", "--from", path.join(clean, "deckpass")]);
    expect(code).toBe(0);
    expect(stdout).toMatch(/keepRule: -keep class example\.tollbuoy\.\*\* \{ \*; \} {2}# from android\/app\/proguard-tollbuoy\.pro:2/);
    expect(stdout).toContain("unsure:");
    const folder = temporaryFolder({ "tollbuoy.sdk.yaml": stdout });
    expect((await enredo(["sheet", "check", "--sheets", folder, folder])).code).toBe(0);
    const traced = JSON.parse(
      (await enredo(["trace", "tollbuoy", path.join(clean, "deckpass"), "--sheets", folder, "--json"])).stdout,
    ) as TraceDocument;
    const states = Object.values(traced.apps[0]?.sides ?? {}).flatMap((wires) => wires.map(({ state }) => state));
    expect(states.filter((state) => state !== "connected")).toEqual([]);
  });

  it("draft takes of what the app has only what the SDK's page and code ask for", async () => {
    const name = "@quaymap/react-native";
    const text = (key: string): string => `<key>${key}</key><string>Shows the chart.</string>`;
    const app = reactNativeExample(
      { [name]: "4.2.0" },
      {
        ...iosSide(text("NSContactsUsageDescription") + text("NSCameraUsageDescription")),
        [`node_modules/${name}/package.json`]: JSON.stringify({ name, version: "4.2.0" }),
        [`node_modules/${name}/RNQuaymap.podspec`]:
          "Pod::Spec.new do |s|\n  s.name = 'RNQuaymap'\n  s.version = '4.2.0'\n  s.source_files = 'ios/*.m'\nend\n",
        [`node_modules/${name}/ios/Scan.m`]: "void scan(void) {\n  [[CBCentralManager alloc] init];\n}\n",
      },
    );
    const lines = async (files: Record<string, string>): Promise<string[]> => {
      const { stdout } = await enredo(["sheet", "draft", "quaymap", "--from", temporaryFolder(files)]);
      return stdout.split("\n").flatMap((line) => /^ {4}(purposeText: \w+|optional: true)/.exec(line)?.[1] ?? []);
    };
    const page = `# Quaymap\n\n## iOS setup\n\n\`\`\`xml\n${text("NSCameraUsageDescription")}\n\`\`\`\n\nIf you track, add:\n\n\`\`\`xml\n${text("NSMotionUsageDescription")}\n\`\`\`\n`;
    expect(await lines({ ...app, [`node_modules/${name}/README.md`]: page })).toEqual([
      "purposeText: NSCameraUsageDescription",
      "purposeText: NSMotionUsageDescription",
      "optional: true",
      "purposeText: NSBluetoothAlwaysUsageDescription",
    ]);
  });

  it("a broken sheet is a finding, and the other sheets still count", async () => {
    const folder = temporaryFolder();
    expect((await enredo(["demo", path.join(folder, "demo")])).code).toBe(0);
    write(path.join(folder, "demo"), { "enredo/sheets/broken.sdk.yaml": "sdk: [\n" });
    const { stdout, code } = await enredo(["check", path.join(folder, "demo")]);
    expect(code).toBe(1);
    expect(stdout).toContain("enredo/sheets/broken.sdk.yaml:");
    expect(stdout).toContain("project/settings");
    expect(stdout).toContain("permit/purpose-missing");
  });
});

describe("secrets", () => {
  it("no command prints a key in full, in any form", async () => {
    const keys = [
      "qm_live_a41f7be02c9d8563e0b7f1c4",
      "qm_live_91c0e7d2ab5f4836d0c1e2fb",
      "tbp4c81f0a97e2d5b36c80fa1937e4d",
      "tbp4c81f0a97e2d5b63c80fa1937e4d",
      "gp_test_H3s8Yd5Pn0Kq7Jf2Mw4T",
      "gp_test_Q7m2Xc9Rt4Lw8Zk1Vb6N",
      "mr-90f1c7ab3e58d264",
      "428190735-ios.apps.moorid.example",
    ];
    const sdks = ["quaymap", "brinelog", "tollbuoy", "gullpost", "moorid", "tidewire"];
    const runs = [
      ["survey", demo],
      ["check", demo],
      ["levels", demo],
      ["compare", demo],
      ["sheet", "list", demo],
      ...sdks.map((sdk) => ["trace", sdk, demo]),
    ].flatMap((args) => [
      [...args, "--verbose"],
      [...args, "--json"],
    ]);
    runs.push(...sdks.map((sdk) => ["sheet", "draft", sdk, "--from", demo]));
    for (const args of runs) {
      const { stdout, stderr } = await enredo(args);
      for (const key of keys) expect(stdout + stderr, `${args.join(" ")} prints ${key.slice(0, 5)}…`).not.toContain(key);
    }
  });
});

describe("needs of a package that is not in the app", () => {
  const project = reactNativeExample({}, iosSide());
  const guest = {
    "package.json": '{ "name": "@tidewire/react-native", "version": "1.4.0" }',
    "RNTidewire.podspec":
      "Pod::Spec.new do |s|\n  s.name = 'RNTidewire'\n  s.version = '1.4.0'\n  s.platforms = { :ios => '16.0' }\n  s.source_files = 'ios/*.swift'\nend\n",
    "ios/Scanner.swift": "import CoreBluetooth\nlet manager = CBCentralManager()\n",
    "android/build.gradle": "apply plugin: 'com.android.library'\nandroid {\n  defaultConfig {\n    minSdkVersion 26\n  }\n}\n",
    "android/src/main/AndroidManifest.xml":
      '<manifest xmlns:android="http://schemas.android.com/apk/res/android"><uses-permission android:name="android.permission.BLUETOOTH_SCAN" /></manifest>',
  };
  const ask = async (files: Record<string, string>, folder: Record<string, string>, ...more: string[]) =>
    enredo(["needs", "@tidewire/react-native", temporaryFolder(files), "--from", temporaryFolder(folder), ...more]);

  it("are read from its folder, with its levels and what it brings", async () => {
    const { stdout, code } = await ask(project, guest);
    expect(code).toBe(0);
    for (const line of [
      /not in this app yet/,
      /~ to fix +minSdk 26/,
      /✓ it brings +permission android\.permission\.BLUETOOTH_SCAN/,
      /✗ to do +purpose text NSBluetoothAlwaysUsageDescription/,
      /~ to fix +iosTarget 16\.0/,
      /4 steps: 1 that it brings, 3 to do/,
    ])
      expect(stdout).toMatch(line);
    // In a Flutter app too.
    const flutter = {
      "pubspec.yaml": "name: crewboard\ndependencies:\n  flutter:\n    sdk: flutter\n",
      "android/app/build.gradle": "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    minSdk = 24\n  }\n}\n",
      "android/settings.gradle": "include ':app'\n",
    };
    const pubspec =
      "name: tidewire\nversion: 1.4.0\nflutter:\n  plugin:\n    platforms:\n      android:\n        package: example.tidewire\n        pluginClass: Tidewire\n";
    const dart = await enredo([
      "needs",
      "tidewire",
      temporaryFolder(flutter),
      "--from",
      temporaryFolder({ ...guest, "pubspec.yaml": pubspec }),
    ]);
    expect(dart.stdout).toMatch(/minSdk 26/);
  });

  it("change nothing in the app, and are refused for a folder that holds no package", async () => {
    const folder = temporaryFolder(project);
    const before = readFileSync(path.join(folder, "package.json"), "utf8");
    await enredo(["needs", "@tidewire/react-native", folder, "--from", temporaryFolder(guest)]);
    expect(readFileSync(path.join(folder, "package.json"), "utf8")).toBe(before);
    expect(existsSync(path.join(folder, "node_modules"))).toBe(false);
    const { code, stderr } = await ask(project, { "notes.txt": "" });
    expect([code, /holds no package/.test(stderr)]).toEqual([2, true]);
  });
});

describe("binaries", () => {
  it("dynamic and static ones are told by their first bytes, also with several architectures", () => {
    const macho = (type: number) =>
      Buffer.concat([Buffer.from("cffaedfe0c00000100000000", "hex"), Buffer.from([type, 0, 0, 0]), Buffer.alloc(16)]);
    const fat = Buffer.alloc(64);
    fat.writeUInt32BE(0xcafebabe, 0);
    fat.writeUInt32BE(1, 4);
    fat.writeUInt32BE(32, 16);
    macho(6).copy(fat, 32);
    const folder = temporaryFolder({
      "A.framework/A": macho(6),
      "B.framework/B": Buffer.from("!<arch>\nobject.o/       "),
      "C.framework/C": fat,
      "D.xcframework/ios-arm64/D.framework/D": macho(6),
      "E.xcframework/ios-arm64/libE.a": "x",
    });
    const tree = new DiskTree(folder);
    expect(
      ["A.framework", "B.framework", "C.framework", "D.xcframework", "E.xcframework", "F.framework"].map((name) => binaryForm(tree, name)),
    ).toEqual(["dynamic", "static", "dynamic", "dynamic", "static", undefined]);
    expect(existsSync(folder)).toBe(true);
  });
});
