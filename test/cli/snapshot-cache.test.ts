import { execFileSync } from "node:child_process";
import fc from "fast-check";
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, describe, expect, it, vi } from "vitest";
import { apps } from "../helpers/apps.js";
import { damage, damaged } from "../helpers/damage.js";
import { enredo } from "../helpers/in-process.js";
import { enredoProcess, temporaryFolder, write, type Run } from "../helpers/program.js";

const made: string[] = [];
const folderOf = (files: Record<string, string> = {}): string => {
  const folder = temporaryFolder(files);
  made.push(folder);
  return folder;
};
afterAll(() => {
  for (const folder of made) rmSync(folder, { recursive: true, force: true });
});

const filesOf = (wanted: string): Record<string, string> => apps.find(({ name }) => name === wanted)?.files ?? {};
const readings = (cache: string): Map<string, Buffer> => {
  const folder = path.join(cache, "readings");
  const names = existsSync(folder) ? readdirSync(folder) : [];
  return new Map(names.map((name) => [name, readFileSync(path.join(folder, name))]));
};
const anew = (args: string[]): Run => enredoProcess([...args, "--no-cache"]);
const bytesIn = (folder: string): Map<string, Buffer> =>
  new Map(readdirSync(folder).map((name) => [name, readFileSync(path.join(folder, name))]));

describe("what a run read", () => {
  it.each(apps.map(({ name }) => name))("is taken up by the next runs of all commands as it was, for %s", async (name) => {
    const folder = folderOf(filesOf(name));
    const cache = folderOf();
    const check = ["check", folder, "--json"];
    expect(await enredo(check, { cache })).toEqual(await enredo(check, { cache: null }));
    const first = bytesIn(cache);
    expect([...first.keys()].map((file) => path.extname(file)).sort()).toEqual([".parts", ".reading", ".report"]);
    for (const args of [
      check,
      ["check", folder, "--side", "ios"],
      ["check", folder, "--app", name],
      ["survey", folder, "--json"],
      ["levels", folder],
      ["trace", "quaymap", folder, "--verbose"],
      ["trace", "brinelog", folder, "--json"],
      ["compare", folder],
      ["permits", folder],
      ["startup", folder],
      ["patch", folder],
      ["next", folder],
    ])
      expect(await enredo(args, { cache }), args.join(" ")).toEqual(await enredo(args, { cache: null }));
    // What is written is encrypted anew each time: the same bytes were not written again.
    expect([...bytesIn(cache)].flatMap(([file, bytes]) => (first.get(file)?.equals(bytes) ? [] : [file]))).toEqual([]);
  });

  it("is of no use once anything changed that it depends on", async () => {
    const files = filesOf("pilot");
    const folder = folderOf(files);
    const cache = folderOf();
    const check = async (...more: string[]): Promise<string> => (await enredo(["check", folder, "--json", ...more], { cache })).stdout;
    const now = async (...more: string[]): Promise<string> => (await enredo(["check", folder, "--json", ...more], { cache: null })).stdout;
    const before = await check();
    const script = Object.keys(files).find((file) => file.endsWith("app/build.gradle.kts")) as string;
    const changes: (() => void)[] = [
      () => write(folder, { [script]: (files[script] as string).replace(/minSdk = \d+/, "minSdk = 16") }),
      () => rmSync(path.join(folder, script)),
      () => write(folder, files),
      () => write(folder, { "enredo.yaml": "rules:\n  level: off\n" }),
      () => rmSync(path.join(folder, "enredo.yaml")),
      () => write(folder, { "more/package.json": '{ "name": "more" }' }),
      () => rmSync(path.join(folder, "more"), { recursive: true }),
    ];
    const seen = new Set([before]);
    for (const change of changes) {
      change();
      const answer = await check();
      expect(answer).toBe(await now());
      seen.add(answer);
    }
    expect(await check()).toBe(before);
    expect(seen.size).toBeGreaterThanOrEqual(4);
    // Files outside the project.
    const config = path.join(cache, "settings.yaml");
    for (const text of ["rules:\n  level: off\n", "rules:\n  key: off\n"]) {
      writeFileSync(config, text);
      expect(await check("--config", config)).toBe(await now("--config", config));
      expect(await check("--config", config)).toBe(await now("--config", config));
    }
    const sheets = folderOf();
    for (const minSdk of [19, 99]) {
      write(sheets, { "quaymap.sdk.yaml": `sdk: quaymap\npackages:\n  npm: [quaymap]\nneeds:\n  - minSdk: ${minSdk}\n    on: android\n` });
      expect(await check("--sheets", sheets)).toBe(await now("--sheets", sheets));
    }
  });

  it("is not kept where nobody wants it", () => {
    const folder = folderOf(filesOf("pilot"));
    const cache = folderOf();
    const wanted = anew(["check", folder]);
    expect(enredoProcess(["check", folder, "--no-cache"], { env: { ENREDO_CACHE: cache } })).toEqual(wanted);
    expect(enredoProcess(["check", folder], { env: { ENREDO_CACHE: "off" } })).toEqual(wanted);
    expect(readings(cache).size).toBe(0);
    const blocked = path.join(folderOf({ file: "" }), "file");
    const { stdout, stderr, code } = enredoProcess(["check", folder], { env: { ENREDO_CACHE: blocked } });
    expect([stdout, code, stderr]).toEqual([
      wanted.stdout,
      wanted.code,
      expect.stringMatching(/^enredo: nothing is kept in .*: it is not a folder\n$/),
    ]);
  });

  it("is read anew when what is kept is damaged", async () => {
    const folder = folderOf(filesOf("pilot"));
    const cache = folderOf();
    const run = (command: string): Promise<Run> => enredo([command, folder], { cache });
    const [wanted, levels] = [await run("check"), await run("levels")];
    for (const [name, bytes] of bytesIn(cache)) {
      // Not looked at while the whole holds.
      if (name.endsWith(".parts")) continue;
      const flipped = Buffer.from(bytes);
      flipped[bytes.length - 5] = (flipped[bytes.length - 5] as number) ^ 1;
      for (const broken of [flipped, bytes.subarray(0, bytes.length / 2), Buffer.alloc(0), Buffer.from("h0:\nhx\nq\n\0\nx")]) {
        writeFileSync(path.join(cache, name), broken);
        expect(await run("check")).toEqual(wanted);
        expect(await run("levels")).toEqual(levels);
        // Written when the answer is out.
        await new Promise((resolve) => setImmediate(resolve));
        expect(bytesIn(cache).get(name)?.equals(broken)).toBe(false);
      }
    }
  });

  it.skipIf(process.platform === "win32")("does not wait for a file that became a pipe", () => {
    const files = filesOf("pilot");
    const folder = folderOf(files);
    const cache = folderOf();
    const check = (): Run => enredoProcess(["check", folder], { env: { ENREDO_CACHE: cache } });
    const first = check();
    const manifest = path.join(folder, Object.keys(files).find((file) => file.endsWith("AndroidManifest.xml")) as string);
    rmSync(manifest);
    execFileSync("mkfifo", [manifest]);
    const second = check();
    expect(second).toEqual(anew(["check", folder]));
    expect(second.stdout).not.toBe(first.stdout);
  });

  it("cannot be read by who does not have the project's files", () => {
    const secret = "mq_live_4f9a2c7be81d06355e";
    const files = filesOf("pilot");
    const name = Object.keys(files).find((file) => file.endsWith("PilotApplication.kt")) as string;
    const folder = folderOf({ ...files, [name]: `${files[name] as string}\nval other = start(key = "${secret}")\n` });
    const cache = folderOf();
    enredoProcess(["check", folder], { env: { ENREDO_CACHE: cache } });
    const kept = readings(cache);
    expect(kept.size).toBe(3);
    for (const bytes of kept.values()) {
      expect(bytes.includes(secret)).toBe(false);
      expect(bytes.includes("example.maresia.pilot")).toBe(false);
    }
  });

  it("holds the same after any accident to any file", async () => {
    const cache = folderOf();
    const laid = new Map(apps.map(({ name, files }) => [name, { files, folder: folderOf(files) }]));
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...laid.keys()), fc.nat(1_000_000), damage, async (name, pick, one) => {
        const { files, folder } = laid.get(name) as { files: Record<string, string>; folder: string };
        const file = Object.keys(files)[pick % Object.keys(files).length] as string;
        const check = ["check", folder, "--json"];
        await enredo(check, { cache });
        write(folder, { [file]: damaged(files[file] as string, one) });
        const answers = [await enredo(check, { cache }), await enredo(check, { cache })];
        const wanted = await enredo(check, { cache: null });
        write(folder, { [file]: files[file] as string });
        expect(answers).toEqual([wanted, wanted]);
      }),
      { numRuns: Number(process.env.CACHE_RUNS ?? 40), seed: 20_261 },
    );
  }, 3_600_000);

  it("is judged by the day", async () => {
    const folder = folderOf(filesOf("pilot"));
    const cache = folderOf();
    const count = async (): Promise<number> => {
      const { stdout } = await enredo(["check", folder, "--json"], { cache });
      return (JSON.parse(stdout) as { findings: unknown[] }).findings.length;
    };
    const { stdout } = await enredo(["check", folder, "--json"], { cache: null });
    const [first] = (JSON.parse(stdout) as { findings: { rule: string }[] }).findings;
    const all = await count();
    write(folder, {
      "enredo.yaml": `accept:\n  - rule: ${first?.rule ?? ""}\n    reason: mended in the next release\n    until: "2027-01-31"\n`,
    });
    vi.useFakeTimers({ toFake: ["Date"] });
    try {
      for (const [day, fewer] of [
        ["2027-01-30", true],
        ["2027-01-31", true],
        ["2027-02-01", false],
        ["2027-01-30", true],
      ] as const) {
        vi.setSystemTime(new Date(`${day}T12:00:00Z`));
        expect((await count()) < all, day).toBe(fewer);
      }
    } finally {
      vi.useRealTimers();
    }
  });
});
