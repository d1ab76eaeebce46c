import { execFileSync, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, realpathSync, symlinkSync, utimesSync, writeFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { androidBlock, androidExample } from "../../src/core/rules/examples.js";
import { enredoProcess, ROOT, temporaryFolder, write } from "../helpers/program.js";

const app = androidExample(androidBlock("minSdk 40\n    targetSdk 35"));
const windows = process.platform === "win32";
const check = (folder: string, env: Record<string, string>) => enredoProcess(["check", folder], { env });
const binaries = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: "utf8" })
    .filter((name) => name.endsWith(".bin"))
    .map((name) => path.join(folder, name));
/** A folder that is the user's own, as a cache should be. */
const ownFolder = (): string => {
  const folder = path.join(temporaryFolder(), "kept");
  mkdirSync(folder, { mode: 0o700 });
  return folder;
};

describe("what is kept between runs", () => {
  it("is not taken up when it is damaged in any place, or was made from another source", () => {
    const folder = temporaryFolder(app);
    const cache = ownFolder();
    const wanted = check(folder, { ENREDO_CACHE: "off" });
    expect(wanted.stdout).toContain("level/order");
    check(folder, { ENREDO_CACHE: cache });
    const program = binaries(cache).find((name) => name.includes("program")) ?? "";
    const whole = readFileSync(program);
    const page = Buffer.from(whole);
    for (let at = whole.length >> 1; at < (whole.length >> 1) + 4096; at++) page[at] = (page[at] ?? 0) ^ 0xff;
    const other = whole.subarray(64);
    const planted = Buffer.concat([createHash("blake2b512").update(other).digest(), other]);
    for (const bytes of [page, planted, Buffer.concat([whole, Buffer.from("x")])]) {
      writeFileSync(program, bytes);
      expect(check(folder, { ENREDO_CACHE: cache })).toEqual(wanted);
      // Made anew, and whole again.
      expect(readFileSync(program).subarray(64).length).toBeGreaterThan(1000);
      expect(readFileSync(program)).not.toEqual(bytes);
    }
  });

  it.skipIf(windows)("is not kept in a folder that the project or somebody else can write to, which is said once", () => {
    const repository = temporaryFolder({ ...Object.fromEntries(Object.entries(app).map(([file, text]) => [`apps/one/${file}`, text])) });
    mkdirSync(path.join(repository, ".git"));
    const folder = path.join(repository, "apps/one");
    const wanted = check(folder, { ENREDO_CACHE: "off" }).stdout;
    const open = ownFolder();
    chmodSync(open, 0o777);
    const target = ownFolder();
    const link = path.join(temporaryFolder(), "link");
    symlinkSync(target, link);
    for (const [cache, why] of [
      [path.join(folder, "cache"), "inside the project"],
      [path.join(repository, "cache"), "inside the project"],
      [open, "other users can write to it"],
      [link, "it is a link"],
      ["/proc/self/enredo", "" /* cannot be made: no word, no wait */],
    ] as const) {
      const { code, stdout, stderr } = check(folder, { ENREDO_CACHE: cache });
      expect([code, stdout]).toEqual([1, wanted]);
      if (why !== "") expect(stderr.match(/nothing is kept in/g)?.length, cache).toBe(1);
      expect(stderr).toContain(why);
      if (existsSync(cache)) expect(readdirSync(cache)).toEqual([]);
    }
    expect(enredoProcess(["check", folder, "--quiet"], { env: { ENREDO_CACHE: open } }).stderr).toBe("");
  });

  it("removes only files of its own, and leaves no part behind", () => {
    const folder = temporaryFolder(app);
    const cache = ownFolder();
    check(folder, { ENREDO_CACHE: cache });
    const readings = path.join(cache, "readings");
    const old = new Date(Date.now() - 90 * 86_400_000);
    const keep = (name: string): string => {
      const file = path.join(readings, name);
      writeFileSync(file, "mine");
      utimesSync(file, old, old);
      return file;
    };
    const others = ["letter.txt", "notes.reading", `${"a".repeat(40)}.reading.bak`].map(keep);
    const own = Array.from({ length: 210 }, (_, index) => keep(`${index.toString(16).padStart(40, "0")}.reading`));
    write(folder, { "app/build.gradle": app["app/build.gradle"]?.replace("minSdk 40", "minSdk 41") ?? "" });
    check(folder, { ENREDO_CACHE: cache });
    expect(others.map((file) => existsSync(file))).toEqual([true, true, true]);
    expect(own.filter((file) => existsSync(file))).toEqual([]);
    expect(readdirSync(cache, { recursive: true, encoding: "utf8" }).filter((name) => name.endsWith(".part"))).toEqual([]);
  });
});

describe.skipIf(windows)("files outside of the repository", () => {
  const outside = temporaryFolder({
    "build.gradle": "apply plugin: 'com.android.application'\nandroid { defaultConfig { applicationId 'example.maresia.other' } }\n",
    "secret.properties": "other=value\n",
    "sheets/x.sdk.yaml": "sdk: x\n",
  });

  it("are not read through links, and the answer says which", () => {
    const folder = temporaryFolder(app);
    mkdirSync(path.join(folder, ".git"));
    symlinkSync(path.join(outside, "secret.properties"), path.join(folder, "gradle.properties"));
    symlinkSync(outside, path.join(folder, "other"));
    symlinkSync("/proc/kmsg", path.join(folder, ".env"));
    symlinkSync("/proc/self/pagemap", path.join(folder, "package.json"));
    const { code, stdout } = enredoProcess(["check", folder, "--json"]);
    const report = JSON.parse(stdout) as { apps: { name: string }[]; blindSpots: { what: string; why: string }[] };
    expect([code, report.apps.length]).toEqual([1, 1]);
    expect(report.blindSpots.filter(({ why }) => why.includes("outside the repository")).map(({ what }) => what)).toEqual(
      expect.arrayContaining([".env", "gradle.properties", "other", "package.json"]),
    );
    const survey = JSON.parse(enredoProcess(["survey", folder, "--json"]).stdout) as { passedOver: { file: string }[] };
    expect(survey.passedOver.map(({ file }) => file)).toContain("gradle.properties");
  });

  it("are neither shown nor changed by a patch; what a link inside leads to is changed where it lies", () => {
    const script =
      'android {\n  compileSdk 34\n  defaultConfig {\n    applicationId "example.maresia.pilot"\n    minSdk 21\n    targetSdk 36\n  }\n}\n';
    const files = {
      "settings.gradle": "include ':app'\n",
      "build.gradle": "",
      "app/src/main/AndroidManifest.xml": '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n</manifest>\n',
      "enredo/sheets/quaymap.sdk.yaml":
        'sdk: quaymap\npackages: { maven: "example.quaymap:quaymap-android" }\nneeds:\n  - { on: android, minSdk: 24 }\n',
      "shared/real.gradle": `apply plugin: 'com.android.application'\n${script}dependencies { implementation 'example.quaymap:quaymap-android:4.2.0' }\n`,
    };
    const inside = temporaryFolder(files);
    mkdirSync(path.join(inside, ".git"));
    symlinkSync("../shared/real.gradle", path.join(inside, "app/build.gradle"));
    const mended = enredoProcess(["patch", inside]).stdout;
    expect(mended).toContain("+++ b/shared/real.gradle");
    expect(mended).not.toContain("b/app/build.gradle");
    const far = temporaryFolder({ "real.gradle": files["shared/real.gradle"] });
    const linked = temporaryFolder(files);
    mkdirSync(path.join(linked, ".git"));
    symlinkSync(path.join(far, "real.gradle"), path.join(linked, "app/build.gradle"));
    const { stdout, stderr, code } = enredoProcess(["patch", linked]);
    expect([code, stdout]).toEqual([2, ""]);
    expect(stderr).toContain("no app found");
  });

  it("are read where a package manager links to a package", () => {
    const folder = temporaryFolder({
      ...Object.fromEntries(Object.entries(app).map(([file, text]) => [`android/${file}`, text])),
      "package.json": '{ "name": "deckpass", "dependencies": { "react-native": "0.80.0", "@quaymap/react-native": "4.2.0" } }',
    });
    mkdirSync(path.join(folder, ".git"));
    const store = temporaryFolder({
      "quaymap/package.json": '{ "name": "@quaymap/react-native", "version": "4.2.0" }',
      "quaymap/android/build.gradle": "android {\n  defaultConfig {\n    minSdkVersion 41\n  }\n}\n",
    });
    mkdirSync(path.join(folder, "node_modules/@quaymap"), { recursive: true });
    symlinkSync(path.join(store, "quaymap"), path.join(folder, "node_modules/@quaymap/react-native"));
    expect(enredoProcess(["check", folder]).stdout).toContain("@quaymap/react-native");
    expect(enredoProcess(["levels", folder]).stdout).toContain("41");
  });
});

describe("input that is made to keep a program busy", () => {
  const doubled = Array.from({ length: 18 }, (_, index) => `def p${index + 1} = "\${p${index}}\${p${index}}\${p${index}}"`).join("\n");
  it.each([
    ["3,000 terms", `ext.x = ${Array.from({ length: 3_000 }, () => "a").join(" + ")}\n`, /nested or chained too deeply/],
    ["3,000 calls", `ext.x = a${".b()".repeat(3_000)}\n`, /nested or chained too deeply/],
    ["nested conditions", `ext.x = ${"(a ? b : ".repeat(2_000)}c${")".repeat(2_000)}\n`, /nested or chained too deeply/],
    ["nesting of blocks", `${"x {\n".repeat(100_000)}${"}\n".repeat(100_000)}`, /nested or chained too deeply/],
    ["negations", `ext.x = ${"!".repeat(100_000)}a\n`, /nested or chained too deeply/],
    ["a text that is doubled", `def p0 = "0123456789"\n${doubled}\next.x = p18\n`, undefined],
    [
      "a function that calls itself twice",
      "def f(n) { if (a) { return f(n) }; if (b) { return f(n) }; return f(n) }\next.x = f(1)\n",
      undefined,
    ],
  ])("%s: the file is told where it is not read in full, and everything else is answered", (_, text, told) => {
    const folder = temporaryFolder({ ...app, "app/build.gradle": `${text}${app["app/build.gradle"] ?? ""}` });
    const elsewhere = temporaryFolder({ ...app, "build.gradle": `${text}${app["build.gradle"] ?? ""}` });
    for (const root of [folder, elsewhere]) {
      const { code, stdout, stderr } = enredoProcess(["check", root, "--no-cache"]);
      expect([code === 0 || code === 1, stderr]).toEqual([true, ""]);
      if (told) expect(stdout).toMatch(told);
      if (told) expect(stdout).toContain("project/unreadable");
    }
    expect(enredoProcess(["check", elsewhere, "--no-cache"]).stdout).toContain("level/order");
  });

  it("200,000 backticks in a configuration of JavaScript", () => {
    const folder = temporaryFolder({
      ...Object.fromEntries(Object.entries(app).map(([file, text]) => [`android/${file}`, text])),
      "package.json": '{ "name": "deckpass", "dependencies": { "expo": "54.0.0" } }',
      "app.config.js": `export default { expo: { name: ${"`".repeat(200_000)} } };\n`,
    });
    const { code, stdout } = enredoProcess(["check", folder, "--no-cache"]);
    expect(code).toBe(1);
    expect(stdout).toContain("level/order");
  });

  it("source code that keeps its grammar busy is given up, told, and the rest is read", () => {
    const sheet =
      'sdk: quaymap\npackages: { maven: "example.quaymap:quaymap-android", cocoapods: QuaymapSDK }\nneeds:\n  - { on: both, start: Quaymap.start }\n';
    const folder = temporaryFolder({
      ...app,
      "app/build.gradle": `${app["app/build.gradle"] ?? ""}\ndependencies { implementation 'example.quaymap:quaymap-android:4.2.0' }\n`,
      "app/src/main/java/A.kt": "class A : Application() {\n  override fun onCreate() { Quaymap.start(this) }\n}\n",
      "app/src/main/java/B.swift": `import QuaymapSDK\nfunc x() { Quaymap.start() ${"#".repeat(30_000)} }\n`,
      "enredo/sheets/quaymap.sdk.yaml": sheet,
    });
    const report = JSON.parse(enredoProcess(["check", folder, "--json", "--no-cache"]).stdout) as {
      blindSpots: { what: string; why: string }[];
    };
    expect(report.blindSpots).toContainEqual(expect.objectContaining({ what: "the code of B.swift", why: "it takes too long to parse" }));
    const trace = enredoProcess(["trace", "quaymap", folder, "--no-cache"]).stdout;
    expect(trace).toMatch(/Quaymap\.start.*|in A\.onCreate/);
  });

  it("files and sheets that are larger than any real one", () => {
    const folder = temporaryFolder({
      ...app,
      "gradle/libs.versions.toml": `[versions]\n${"a = 1\n".repeat(2 ** 18)}`,
      "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">${"<a/>\n".repeat(3_000_000)}</manifest>`,
      "enredo/sheets/x.sdk.yaml": `sdk: x\npackages: { maven: "example.x:x" }\nneeds:\n${"  - { on: android, minSdk: 21 }\n".repeat(7_500)}`,
    });
    const { code, stdout } = enredoProcess(["check", folder, "--no-cache"]);
    expect(code).toBe(1);
    expect(stdout).toMatch(/libs\.versions\.toml: too large for such a file \(over 1 MB\)/);
    expect(stdout).toMatch(/AndroidManifest\.xml: too large for such a file \(over 8 MB\)/);
    expect(stdout).toMatch(/the sheet has 7500 needs; the first 1000 are read/);
    expect(stdout).toContain("level/order");
  });
});

describe("a clone without the contents of its files", () => {
  it("is not compared, and the answer says how many are missing and how to fetch them", () => {
    const origin = temporaryFolder(app);
    const git = (folder: string, ...args: string[]): void => {
      execFileSync("git", ["-c", "user.name=a", "-c", "user.email=a@b.example", ...args], { cwd: folder, stdio: "ignore" });
    };
    git(origin, "init", "-q");
    git(origin, "config", "uploadpack.allowfilter", "true");
    git(origin, "add", ".");
    git(origin, "commit", "-qm", "one");
    const clone = path.join(temporaryFolder(), "clone");
    git(ROOT, "clone", "-q", "--filter=blob:none", "--no-checkout", `file://${origin}`, clone);
    const { code, stdout, stderr } = enredoProcess(["diff", "HEAD", "HEAD"], { cwd: clone });
    expect([code, stdout]).toEqual([2, ""]);
    expect(stderr).toMatch(/^enredo: 3 files of "HEAD" are not in this clone.*git fetch --refetch --no-filter/);
  });
});

describe("streams and surroundings", () => {
  it.skipIf(!existsSync("/dev/full"))("output that cannot be written is one line and exit code 2", () => {
    const folder = temporaryFolder(app);
    const { status, stderr } = spawnSync("sh", ["-c", `"${process.execPath}" "${ROOT}/bin/enredo.js" check "${folder}" > /dev/full`], {
      encoding: "utf8",
    });
    expect([status, stderr]).toEqual([2, "enredo: the output cannot be written: there is no space left\n"]);
  });

  it.skipIf(windows)("a home folder that cannot be read makes no noise", () => {
    const folder = temporaryFolder(app);
    const home = path.join(temporaryFolder(), "none");
    const { code, stderr } = enredoProcess(["check", folder], { env: { HOME: home, XDG_CACHE_HOME: "", ENREDO_CACHE: "" } });
    expect([code, stderr]).toEqual([1, ""]);
  });

  it("reads the root of a linked folder", () => {
    if (windows) return;
    const folder = temporaryFolder(app);
    const link = path.join(realpathSync(temporaryFolder()), "link");
    symlinkSync(folder, link);
    expect(enredoProcess(["check", link]).code).toBe(1);
  });
});
