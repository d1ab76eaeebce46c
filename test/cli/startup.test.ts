import { execFileSync } from "node:child_process";
import { readdirSync, renameSync } from "node:fs";
import path from "node:path";
import { describe, expect, inject, it } from "vitest";
import { enredo } from "../helpers/in-process.js";
import { ROOT, temporaryFolder, write } from "../helpers/program.js";

const { demo, clean } = inject("sampleApps");

interface StartupDocument {
  schema: string;
  apps: {
    name: string;
    sides: Record<
      string,
      {
        steps: { number: number | null; sdk: string | null; what: string; moment: string; marks: { kind: string }[]; side: string }[];
        others: { what: string; marks: { kind: string }[] }[];
      }
    >;
  }[];
}

describe("startup", () => {
  it.each([80, 120])("numbers what runs on each side, at %d columns", async (width) => {
    const { code, stdout } = await enredo(["startup", demo, "--app", "pilot"], { env: { COLUMNS: String(width) } });
    expect(code).toBe(0);
    expect(stdout).toMatch(/Providers and initializers\n +✗ initializer/);
    expect(stdout).toMatch(/At launch\n +1 {3}quaymap {2}Quaymap\.setVerbose/);
    expect(stdout).toMatch(/With the first screen\n +3 ✗ moorid/);
    expect(stdout).toMatch(/Never reached\n +✗ gullpost/);
    expect(stdout).toContain("11 steps, 6 with something wrong");
    for (const line of stdout.split("\n")) if (!line.includes("/")) expect(line.length).toBeLessThanOrEqual(width);
  });

  it("the mended app starts in order", async () => {
    const { stdout } = await enredo(["startup", clean, "--app", "pilot", "--side", "ios"]);
    expect(stdout).not.toContain("Android\n");
    expect(stdout.match(/^ +\d {3}\w+/gm)?.map((line) => line.trim())).toEqual([
      "1   brinelog",
      "2   quaymap",
      "3   moorid",
      "4   gullpost",
      "5   moorid",
    ]);
    expect(stdout).toContain("nothing out of order");
  });

  it("as JSON: steps with their moment and marks", async () => {
    const document = JSON.parse((await enredo(["startup", demo, "--json"])).stdout) as StartupDocument;
    expect(document.schema).toBe("enredo.startup/1");
    const pilot = document.apps.find(({ name }) => name === "Pilot");
    expect(pilot?.sides.ios?.steps.map(({ number, sdk, marks }) => [number, sdk, marks.map(({ kind }) => kind).join()])).toEqual([
      [1, "quaymap", "twice"],
      [2, "brinelog", "order"],
      [3, "moorid", ""],
      [4, "quaymap", ""],
    ]);
    expect(pilot?.sides.android?.others.map(({ marks }) => marks[0]?.kind)).toEqual(["never"]);
    const crew = document.apps.find(({ name }) => name === "crewboard");
    expect(crew?.sides.android?.steps.map(({ side, what, moment }) => `${side} ${what} ${moment}`)).toEqual([
      "shared Brinelog.start() launch",
      "shared Brinelog.setVerbose(…) launch",
    ]);
  });

  it("as a graph", async () => {
    const dot = (await enredo(["startup", demo, "--app", "pilot", "--format", "dot"])).stdout;
    expect(dot).toMatch(/^digraph startup \{/);
    expect(dot).toContain('label="Pilot, ios"');
    expect(dot.match(/style=dashed/g)).toHaveLength(2);
    expect(dot.match(/\{/g)?.length).toBe(dot.match(/\}/g)?.length);
    const mermaid = (await enredo(["startup", demo, "--app", "pilot", "--format", "mermaid"])).stdout;
    expect(mermaid).toMatch(/^flowchart TB\n {2}subgraph g0\["Pilot, android"\]/);
    expect(mermaid).toContain(":::wrong");
  });

  it("an app without source code says so, and so does one whose code names no SDK", async () => {
    const files = {
      "settings.gradle": "include ':app'\n",
      "app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n  }\n}\n",
    };
    const bare = await enredo(["startup", temporaryFolder(files)]);
    expect([bare.code, bare.stdout.includes("no source code with an entry point was found")]).toEqual([0, true]);
    const text = "object Ferry {\n  fun sail(): Int = 7\n}\n";
    const plain = await enredo(["startup", temporaryFolder({ ...files, "app/src/main/java/Ferry.kt": text })]);
    expect([plain.code, plain.stdout.includes("no call that starts an SDK was found")]).toEqual([0, true]);
  });
});

describe("confirm", () => {
  it("the good log of the demo, and the one in which an SDK stays silent", async () => {
    const good = await enredo(["confirm", path.join(demo, "pilot/logs/android-launch.log"), demo]);
    expect(good.code).toBe(0);
    expect(good.stdout).toMatch(/1 ✓ quaymap +came up/);
    expect(good.stdout).toContain("2 came up, 0 stay silent, 2 not known");
    const silent = await enredo(["confirm", path.join(demo, "pilot/logs/ios-launch.log"), demo], { env: { COLUMNS: "80" } });
    expect(silent.code).toBe(1);
    expect(silent.stdout).toMatch(/✗ gullpost +silent/);
    expect(silent.stdout).toContain("came up after quaymap, which must come later");
    expect(silent.stdout).toContain("error: Quaymap is started a second time");
    expect((await enredo(["confirm", path.join(demo, "pilot/logs/ios-launch.log"), demo, "--fail-on", "never"])).code).toBe(0);
  });

  it("as JSON", async () => {
    const document = JSON.parse((await enredo(["confirm", path.join(demo, "pilot/logs/ios-launch.log"), demo, "--json"])).stdout) as {
      schema: string;
      log: { form: string };
      apps: { name: string; sides: { ios: { sdk: string; state: string; severity: string | null }[] } }[];
    };
    expect(document.schema).toBe("enredo.confirm/1");
    expect(document.log.form).toBe("Apple log");
    expect(document.apps.map(({ name }) => name)).toEqual(["Pilot"]);
    expect(document.apps[0]?.sides.ios.find(({ sdk }) => sdk === "gullpost")).toMatchObject({ state: "silent", severity: "error" });
  });

  it.each([
    [["confirm", "nowhere.log"], /there is no log nowhere\.log/],
    [["confirm", ROOT], /is not a file/],
    [["confirm"], /Missing 1 required arg/],
  ])("%j ends with what to do", async (args, message) => {
    const { code, stderr } = await enredo(args);
    expect(code).toBe(2);
    expect(stderr).toMatch(message);
    expect(stderr).not.toMatch(/^ +at /m);
  });

  it("an empty log, and a log of a side that no app has", async () => {
    const folder = temporaryFolder({
      "empty.log": "\n",
      "ios.log": "2026-11-25 09:14:03.482 Pilot[1:4] x\n",
      "app/settings.gradle": "include ':app'\n",
      "app/app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n  }\n}\n",
    });
    expect(await enredo(["confirm", path.join(folder, "empty.log"), folder])).toMatchObject({ code: 2 });
    const { code, stderr } = await enredo(["confirm", path.join(folder, "ios.log"), folder]);
    expect([code, stderr.includes("no app here has that side")]).toEqual([2, true]);
  });
});

describe("the packed program", () => {
  it("reads source code after it was packed and installed in an empty folder", () => {
    const folder = temporaryFolder();
    const npm = (args: string[], cwd: string) =>
      execFileSync(process.platform === "win32" ? "npm.cmd" : "npm", args, {
        cwd,
        encoding: "utf8",
        stdio: ["ignore", "pipe", "ignore"],
        shell: process.platform === "win32",
      });
    npm(["pack", "--ignore-scripts", "--pack-destination", folder], ROOT);
    const [tarball = ""] = readdirSync(folder).filter((name) => name.endsWith(".tgz"));
    renameSync(path.join(folder, tarball), path.join(folder, "enredo.tgz"));
    write(folder, { "package.json": "{}" });
    npm(["install", "--no-audit", "--no-fund", "./enredo.tgz"], folder);
    const program = path.join(folder, "node_modules/enredo/bin/enredo.js");
    const stdout = execFileSync(process.execPath, [program, "startup", demo, "--json"], { cwd: folder, encoding: "utf8" });
    const document = JSON.parse(stdout) as StartupDocument;
    expect(document.apps.find(({ name }) => name === "Pilot")?.sides.ios?.steps).toHaveLength(4);
    expect(readdirSync(path.join(folder, "node_modules"))).not.toContain("web-tree-sitter");
  });
});
