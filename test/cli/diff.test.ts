import { execFileSync } from "node:child_process";
import { readFileSync, symlinkSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { openRevision } from "../../src/core/files/git.js";
import { apps } from "../helpers/apps.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

const git = (folder: string, ...args: string[]): void =>
  void execFileSync("git", ["-c", "user.email=skipper@maresia.example", "-c", "user.name=Skipper", ...args], {
    cwd: folder,
    stdio: "ignore",
  });

let folder: string;
let demo: string;
let clean: string;
/** A repository: first the app with its mistakes, then without. */
beforeAll(async () => {
  folder = temporaryFolder();
  demo = path.join(folder, "apps");
  clean = path.join(temporaryFolder(), "apps");
  git(folder, "init", "-q");
  expect((await enredo(["demo", demo])).code).toBe(0);
  expect((await enredo(["demo", clean, "--clean"])).code).toBe(0);
  git(folder, "add", "-A");
  git(folder, "commit", "-qm", "first");
  git(folder, "tag", "v1");
  execFileSync(process.execPath, ["-e", "require('fs').cpSync(process.argv[1], process.argv[2], { recursive: true })", clean, demo]);
  git(folder, "add", "-A");
  git(folder, "commit", "-qm", "second");
});

interface DiffDocument {
  schema: string;
  apps: {
    name: string;
    only: string | null;
    changes: { kind: string; how: string; side: string; what: string; before: string | null; after: string | null }[];
    findings: { new: { rule: string }[]; gone: { rule: string }[]; still: number };
  }[];
}
const changesOf = (document: DiffDocument, app: string) =>
  document.apps
    .find(({ name }) => name === app)
    ?.changes.map(({ kind, how, side, what, before, after }) => `${side} ${kind} ${what} ${how}: ${before ?? ""} > ${after ?? ""}`) ?? [];

describe("diff", () => {
  it("between two revisions: SDKs, levels, permissions, settings, starts and findings", async () => {
    const { code, stdout } = await enredo(["diff", "v1..HEAD", "--json"], { cwd: demo });
    expect(code).toBe(0);
    const document = JSON.parse(stdout) as DiffDocument;
    expect(document.schema).toBe("enredo.diff/1");
    const pilot = changesOf(document, "Pilot");
    expect(pilot).toContain("android SDK example.brinelog:brinelog-android added:  > 2.1.0");
    expect(pilot).toContain("android level targetSdk changed: 36 > 35");
    expect(pilot).toContain("android permission android.permission.READ_CONTACTS removed: there > ");
    expect(pilot).toContain("ios purpose text NSLocationWhenInUseUsageDescription changed: (empty) > Shows your vessel on the chart.");
    expect(pilot).toContain("ios start gullpost Gullpost.start() added:  > at launch, after moorid");
    const findings = document.apps.map(({ findings: found }) => found);
    expect(findings.flatMap((found) => found.new)).toEqual([]);
    expect(findings.reduce((sum, found) => sum + found.gone.length, 0)).toBeGreaterThan(80);
  });

  it("the same from folders, from a revision and a folder, and from a revision and the files here", async () => {
    const of = async (...args: string[]) => {
      const document = JSON.parse((await enredo(["diff", ...args, "--json"], { cwd: demo })).stdout) as DiffDocument;
      return changesOf(document, "Pilot");
    };
    const revisions = await of("v1..HEAD");
    expect(revisions.length).toBeGreaterThan(20);
    expect(await of("v1")).toEqual(revisions);
    expect(await of("v1", clean)).toEqual(revisions);
    expect(await of("HEAD", ".")).toEqual([]);
    expect((await of("HEAD..v1")).length).toBe(revisions.length);
  });

  it("a folder inside of the repository is compared with that folder", async () => {
    const { apps } = JSON.parse((await enredo(["diff", "v1", "--json"], { cwd: path.join(demo, "pilot") })).stdout) as DiffDocument;
    expect(apps.map(({ name }) => name)).toEqual(["Pilot"]);
  });

  it("as Markdown and text, and with an exit code for new findings", async () => {
    const { stdout } = await enredo(["diff", "HEAD..v1", "--format", "markdown"], { cwd: demo });
    expect(stdout).toMatch(/^## Enredo: what changed in the wiring\n/);
    expect(stdout).toContain("| ✏️ changed | Android | level targetSdk | 35 → 36 |");
    expect(stdout).toContain("**New findings**");
    expect((await enredo(["diff", "HEAD..v1", "--fail-on", "error"], { cwd: demo })).code).toBe(1);
    expect((await enredo(["diff", "v1..HEAD", "--fail-on", "error"], { cwd: demo })).code).toBe(0);
    const text = (await enredo(["diff", "HEAD..v1", "--app", "pilot"], { cwd: demo, env: { COLUMNS: "80" } })).stdout;
    expect(text).toMatch(/changes; findings: \d+ new, 0 gone/);
    for (const line of text.split("\n")) if (!/[/:]\S{20}/.test(line)) expect(line.length).toBeLessThanOrEqual(80);
    expect((await enredo(["diff", "HEAD"], { cwd: demo })).stdout).toContain("nothing changed in the wiring");
  });

  it("a start that comes in between moves no other; one that changes its place is told", async () => {
    const sdks = ["quaymap", "gullpost", "moorid"] as const;
    const starts = (...names: string[]): Record<string, string> => ({
      "settings.gradle": "include ':app'\n",
      "app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n  }\n}\ndependencies {\n${sdks.map((name) => `  implementation 'example.${name}:${name}:1.0.0'\n`).join("")}}\n`,
      "app/src/main/AndroidManifest.xml":
        '<manifest xmlns:android="http://schemas.android.com/apk/res/android"><application android:name=".Pilot" /></manifest>\n',
      "app/src/main/java/Pilot.kt": `class Pilot : Application() {\n  override fun onCreate() {\n${names.map((name) => `    ${name}.start(this)\n`).join("")}  }\n}\n`,
      ...Object.fromEntries(
        sdks.map((name) => [
          `enredo/sheets/${name}.sdk.yaml`,
          `sdk: ${name}\npackages: { maven: "example.${name}:${name}" }\nneeds:\n  - { on: android, start: ${name}.start }\n`,
        ]),
      ),
    });
    const of = async (before: string[], after: string[]): Promise<string[]> => {
      const { stdout } = await enredo(["diff", temporaryFolder(starts(...before)), temporaryFolder(starts(...after)), "--json"]);
      return changesOf(JSON.parse(stdout) as DiffDocument, "app");
    };
    expect(await of(["quaymap", "moorid"], ["quaymap", "gullpost", "moorid"])).toEqual([
      "android start gullpost gullpost.start(…) added:  > at launch, after quaymap",
    ]);
    expect(await of(["quaymap", "gullpost", "moorid"], ["gullpost", "moorid", "quaymap"])).toEqual([
      "android start quaymap quaymap.start(…) changed: at launch, first > at launch, after moorid",
    ]);
    expect(await of(["quaymap", "moorid"], ["quaymap", "moorid", "quaymap"])).toEqual([
      "android start quaymap quaymap.start(…) changed: at launch, first > at launch, first and at launch, after moorid",
    ]);
    expect(await of(["gullpost", "quaymap", "moorid"], ["quaymap", "moorid"])).toEqual([
      "android start gullpost gullpost.start(…) removed: at launch, first > ",
    ]);
  });

  it("a plugin that asks for more in the second state", async () => {
    const files = apps.find(({ name }) => name === "crewboard")?.files ?? {};
    const spec = Object.keys(files).find((file) => file.endsWith("gullpost_flutter.podspec")) as string;
    const raised = (files[spec] as string).replace(/s\.platform = .*/, "s.platform = :ios, '99.0'");
    expect(raised).not.toBe(files[spec]);
    const { stdout } = await enredo(["diff", temporaryFolder(files), temporaryFolder({ ...files, [spec]: raised }), "--json"]);
    const fresh = (JSON.parse(stdout) as DiffDocument).apps.flatMap(({ findings }) => findings.new);
    expect(fresh.map(({ rule }) => rule)).toContain("level/below-need");
  });

  it("an app that is new, and one that is gone", async () => {
    const before = temporaryFolder();
    const after = temporaryFolder();
    const app = (id: string) => ({
      [`${id}/settings.gradle`]: "include ':app'\n",
      [`${id}/app/build.gradle`]: `apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.${id}'\n  }\n}\n`,
    });
    write(before, { ...app("kept"), ...app("old") });
    write(after, { ...app("kept"), ...app("fresh") });
    const { apps } = JSON.parse((await enredo(["diff", before, after, "--json"])).stdout) as DiffDocument;
    expect(apps.map(({ name, only }) => `${name} ${only ?? "-"}`).sort()).toEqual(["fresh after", "kept -", "old before"]);
  });

  it.each([
    [["diff", "nowhere"], /no folder and no revision "nowhere"/],
    [["diff", "--", "--output=stolen"], /is not a revision/],
    [["diff", "HEAD..no^such"], /no revision/],
  ])("%j ends with what is wrong", async (args, message) => {
    const { code, stderr } = await enredo(args, { cwd: demo });
    expect([code, message.test(stderr)]).toEqual([2, true]);
  });

  it("outside of a repository", async () =>
    expect(await enredo(["diff", "main"], { cwd: temporaryFolder({ "a.txt": "" }) })).toMatchObject({ code: 2 }));

  it("writes a sheet out of what a change added", async () => {
    const { code, stdout } = await enredo(["sheet", "draft", "brinelog", "--between", "v1..HEAD", "--app", "pilot"], { cwd: demo });
    expect(code).toBe(0);
    expect(stdout).toContain("maven: example.brinelog:brinelog-android");
    expect(stdout).toContain("buildPlugin: example.brinelog.symbols");
    expect(stdout).toContain("serviceFile: brinelog-services.json");
    expect(stdout).not.toContain("ACCESS_FINE_LOCATION");
    expect((await enredo(["sheet", "draft", "brinelog", "--between", "v1"], { cwd: demo })).code).toBe(2);
  });
});

describe("a revision as a tree of files", () => {
  it("lists and reads what a checkout has, links included, and nothing above the repository", () => {
    const repository = temporaryFolder({ "a/b.txt": "text", "a/großer name.txt": "x", "empty.txt": "", "bin.png": Buffer.from([1, 0, 2]) });
    symlinkSync("a", path.join(repository, "link"));
    symlinkSync("a/b.txt", path.join(repository, "file-link"));
    symlinkSync("link2", path.join(repository, "link3"));
    symlinkSync("link3", path.join(repository, "link2"));
    git(repository, "init", "-q");
    git(repository, "add", "-A");
    git(repository, "commit", "-qm", "first");
    const opened = openRevision(repository, "HEAD");
    if (!opened.ok) throw new Error(reasonText(opened.why));
    const { tree } = opened;
    const text = (file: string) => {
      const read = tree.read(file);
      return read.ok ? Buffer.from(read.bytes).toString("utf8") : reasonText(read.why);
    };
    expect(tree.list("").map(({ name, kind, link }) => `${name} ${kind} ${String(link)}`)).toEqual([
      "a folder false",
      "bin.png file false",
      "empty.txt file false",
      "file-link file true",
      "link folder true",
    ]);
    expect(text("a/b.txt")).toBe("text");
    expect(text("link/b.txt")).toBe("text");
    expect(text("file-link")).toBe("text");
    expect(text("empty.txt")).toBe("");
    expect(text("a/großer name.txt")).toBe("x");
    expect(tree.part("bin.png", 0, 2)).toEqual(Buffer.from([1, 0]));
    expect([text("link2"), text("../x"), tree.isFile("a"), tree.isFolder("a"), tree.isFile("no")]).toEqual([
      "it does not exist",
      "it does not exist",
      false,
      true,
      false,
    ]);
    expect(tree.realPath("link/b.txt")).toBe("a/b.txt");
    expect(readFileSync(path.join(repository, "a/b.txt"), "utf8")).toBe("text");
  });
});
