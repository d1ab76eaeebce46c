import { spawn, spawnSync } from "node:child_process";
import { chmodSync, existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { styleFor } from "../../src/views/text/style.js";
import { enredoProcess, ROOT, temporaryFolder } from "../helpers/program.js";

const script = (level: number): string =>
  `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk ${level}\n  }\n}\n`;
const files = { "settings.gradle": "include ':app'\n", "app/build.gradle": script(21), "enredo.yaml": "floors: { minSdk: 24 }\n" };

describe("enredo without a command", () => {
  it("says what to do next in this folder", () => {
    const { code, stdout } = enredoProcess([], { cwd: temporaryFolder(files) });
    expect(code).toBe(0);
    expect(stdout).toContain("Here: 1 app (app), 0 SDKs, 1 error, 0 warnings.");
    expect(stdout).toContain("enredo patch | git apply");
  });

  it("points to the demo where there is no app", () => {
    const { code, stdout } = enredoProcess([], { cwd: temporaryFolder({ "a.txt": "" }) });
    expect([code, stdout.includes("enredo demo")]).toEqual([0, true]);
  });
});

describe("check --watch", () => {
  it("answers again when a file changes, and goes on after input that is broken", async () => {
    const folder = temporaryFolder(files);
    const child = spawn(process.execPath, [path.join(ROOT, "bin/enredo.js"), "check", folder, "--watch"], {
      env: { ...process.env, NO_COLOR: "1" },
    });
    let out = "";
    let err = "";
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err += chunk.toString()));
    const answers = async (count: number): Promise<void> => {
      while ((err.match(/waiting for changes/g)?.length ?? 0) < count && child.exitCode === null)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(err.match(/waiting for changes/g)?.length ?? 0).toBeGreaterThanOrEqual(count);
    };
    try {
      await answers(1);
      expect(out).toContain("level/below-need");
      out = "";
      writeFileSync(path.join(folder, "app/build.gradle"), script(24));
      await answers(2);
      expect(out).toMatch(/^- 1 finding gone\n {4}✓ app: .*level\/below-need\n\nNow: nothing to report\n$/s);
      writeFileSync(path.join(folder, "app/build.gradle"), "nothing");
      await answers(3);
      expect(err).toContain("no app found");
      out = "";
      writeFileSync(path.join(folder, "app/build.gradle"), script(22));
      await answers(4);
      expect(out).toMatch(/^\+ 1 new finding\n\napp {2}.*level\/below-need.*\n\nNow: 1 error\n$/s);
      out = "";
      writeFileSync(path.join(folder, "notes.txt"), "");
      await answers(5);
      expect(out).toBe("No finding came, and none went.\nNow: 1 error\n");
    } finally {
      child.kill("SIGINT");
    }
    const code = await new Promise((resolve) => child.on("exit", resolve));
    expect(code === 0 || code === 1 || code === null).toBe(true);
  });
});

describe("places as links", () => {
  it("are links where the terminal knows them, and plain text elsewhere", () => {
    const link = (text: string): string => `<${text}>`;
    expect(styleFor({ color: true, width: 80, link }).place("a.gradle:1:2")).toContain("<a.gradle:1:2>");
    expect(styleFor({ color: false, width: 80 }).place("a.gradle:1:2")).toBe("a.gradle:1:2");
    expect(
      enredoProcess(["check", temporaryFolder(files)], { env: { FORCE_HYPERLINK: "1", FORCE_COLOR: "1", NO_COLOR: "" } }).stdout,
    ).not.toContain("\u001b]8;;");
  });
});

describe("completion", () => {
  it("is written for the shells", () => {
    const home = temporaryFolder();
    const { code, stdout } = enredoProcess(["autocomplete", "bash"], {
      env: { HOME: home, XDG_CACHE_HOME: path.join(home, "cache"), SHELL: "/bin/bash" },
    });
    expect([code, stdout.includes("enredo")]).toEqual([0, true]);
  });
});

describe("compiled code that is kept between runs", () => {
  const kept = (folder: string): string[] =>
    (existsSync(folder) ? readdirSync(folder, { recursive: true, encoding: "utf8" }) : []).filter((name) => name.endsWith(".bin"));

  it("changes no answer, also when it is damaged or cannot be kept", () => {
    const folder = temporaryFolder(files);
    const cache = temporaryFolder();
    const check = (env: Record<string, string>): [number | null, string, string] => {
      const { code, stdout, stderr } = enredoProcess(["check", folder], { env });
      return [code, stdout, stderr];
    };
    const wanted = check({ NODE_DISABLE_COMPILE_CACHE: "1", NODE_COMPILE_CACHE: cache });
    expect(wanted[1]).toContain("level/below-need");
    expect(kept(cache)).toEqual([]);
    expect(check({ NODE_COMPILE_CACHE: cache })).toEqual(wanted);
    expect(kept(cache)).toEqual([expect.stringMatching(/^enredo.check-/)]);
    expect(check({ NODE_COMPILE_CACHE: cache })).toEqual(wanted);
    for (const name of kept(cache)) {
      const file = path.join(cache, name);
      const whole = readFileSync(file);
      for (const damaged of [Buffer.from("nothing"), whole.subarray(0, whole.length / 2), Buffer.alloc(0)]) {
        writeFileSync(file, damaged);
        expect(check({ NODE_COMPILE_CACHE: cache })).toEqual(wanted);
        // What is of no use is made anew.
        expect(readFileSync(file).length).toBeGreaterThan(whole.length / 2);
      }
    }
    const blocked = path.join(temporaryFolder({ file: "" }), "file", "below");
    // Said once, and no other answer.
    expect(check({ NODE_COMPILE_CACHE: blocked })).toEqual([
      ...wanted.slice(0, 2),
      expect.stringMatching(/^enredo: nothing is kept in .*: it is not a folder\n$/),
    ]);
  });

  it("is not kept of a run that failed", () => {
    const cache = temporaryFolder();
    expect(enredoProcess(["check", path.join(cache, "none")], { env: { NODE_COMPILE_CACHE: cache } }).code).toBe(2);
    expect(kept(cache)).toEqual([]);
  });
});

describe("a user that the system knows nothing of, as in containers", () => {
  it.skipIf(process.getuid?.() !== 0)("gets the same answer", ({ skip }) => {
    const folder = temporaryFolder(files);
    chmodSync(folder, 0o755);
    const nobody = { uid: 54_321, gid: 54_321, env: { PATH: process.env.PATH ?? "" }, encoding: "utf8" } as const;
    const program = path.join(ROOT, "bin/enredo.js");
    const readable = spawnSync(process.execPath, ["-e", "require('fs').readFileSync(process.argv[1])", program], nobody);
    skip(readable.status !== 0, "the program lies where this user cannot read");
    for (const env of [nobody.env, { ...nobody.env, HOME: "/" }]) {
      const { status, stdout } = spawnSync(process.execPath, [program, "check", folder], { ...nobody, env });
      expect([status, stdout.includes("level/below-need")]).toEqual([1, true]);
    }
  });
});
