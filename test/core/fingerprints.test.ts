import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { apps } from "../helpers/apps.js";
import { reportOf } from "../helpers/memory.js";
import { againstBaseline, baselineOf, readBaseline } from "../../src/core/project/baseline.js";

/** How a comment is written in a file; `undefined` where lines cannot be put in front of everything. */
function comment(file: string, text: string): string | undefined {
  if (/\.(gradle|kts|kt|java|swift|m|mm|js|ts|tsx|dart|cs)$/.test(file)) return `// ${text}\n`;
  if (/(Podfile|\.toml|\.properties|\.ya?ml|\.rb|\.sh)$/.test(file) && !/\.lock$/.test(file)) return `# ${text}\n`;
  return /\.(plist|csproj)$|AndroidManifest\.xml$|\.json$/.test(file) ? "\n" : undefined;
}

const fingerprints = async (files: Record<string, string>): Promise<string[]> =>
  (await reportOf(files)).findings.map(({ fingerprint }) => fingerprint).sort();

describe.each(apps)("fingerprints of $name", ({ files }) => {
  // A Podfile's checksum is in its lock, a script's first line may name its program, and XML that begins with its declaration must begin with it.
  const movable = Object.keys(files).filter(
    (file) =>
      !file.startsWith("enredo/") &&
      comment(file, "") !== undefined &&
      !/Podfile$|\.sh$|node_modules|\.pub-cache|^platforms|^plugins/.test(file) &&
      !(files[file] ?? "").startsWith("<?xml"),
  );

  it("stay the same when lines move and comments come in", async () => {
    const before = await fingerprints(files);
    await fc.assert(
      fc.asyncProperty(
        fc.subarray(movable, { minLength: 1 }),
        fc.integer({ min: 1, max: 9 }),
        fc.stringMatching(/^[a-z ]{1,20}$/),
        async (chosen, lines, text) => {
          const moved = { ...files };
          for (const file of chosen) moved[file] = (comment(file, text) ?? "").repeat(lines) + (moved[file] ?? "");
          expect(await fingerprints(moved)).toEqual(before);
        },
      ),
      { numRuns: 12, seed: 7 },
    );
  });

  it("stay the same when the app moves into another folder", async () => {
    const moved = Object.fromEntries(
      Object.entries(files).map(([file, text]) => [file.startsWith("enredo/") ? file : `apps/harbour/${file}`, text]),
    );
    const [before, after] = [await reportOf(files), await reportOf(moved)];
    const own = (report: typeof before) => report.findings.map(({ rule, fingerprint }) => `${rule} ${fingerprint}`).sort();
    // An app that is named after its folder has another name there.
    if (before.survey.apps[0]?.name === after.survey.apps[0]?.name) expect(own(after)).toEqual(own(before));
    else expect(after.findings.map(({ rule }) => rule).sort()).toEqual(before.findings.map(({ rule }) => rule).sort());
  });
});

const withLevel = (level: number, floor = 26): Record<string, string> => ({
  "settings.gradle": "include ':app'\n",
  "enredo.yaml": `floors: { minSdk: ${floor} }\n`,
  "app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk ${level}\n  }\n}\n`,
});

it("a value that is another one and still wrong is the same finding", async () => {
  const all = await Promise.all([21, 24, 25].map(async (level) => (await fingerprints(withLevel(level))).join()));
  expect(all[0]).not.toBe("");
  expect(new Set(all).size).toBe(1);
});

it("another need is another finding", async () => {
  expect(await fingerprints(withLevel(21, 26))).not.toEqual(await fingerprints(withLevel(21, 28)));
});

it("a baseline of the first edition is read by what it says, and told to be written again", async () => {
  const report = await reportOf(withLevel(21));
  const { findings } = baselineOf(report);
  const earlier = { schema: "enredo.baseline/1", findings: findings.map((entry) => ({ ...entry, fingerprint: "0123456789abcdef0123" })) };
  const read = readBaseline(JSON.stringify(earlier));
  if (!read.ok) throw new Error(read.why);
  const against = againstBaseline(report, read.baseline);
  expect([against.report.findings.length, against.known, against.gone.length, against.isEarlier]).toEqual([0, findings.length, 0, true]);
  const now = readBaseline(JSON.stringify(baselineOf(report)));
  expect(now.ok && againstBaseline(report, now.baseline)).toMatchObject({ known: findings.length, gone: [], isEarlier: false });
});
