import fc from "fast-check";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { DiskTree } from "../../src/core/files/disk.js";
import type { ReadResult } from "../../src/core/files/tree.js";
import { openProject } from "../../src/core/project/open.js";
import { apps } from "../helpers/apps.js";
import { damage, damaged, type Damage } from "../helpers/damage.js";
import { enredo } from "../helpers/in-process.js";
import { written } from "../helpers/spec-apps.js";
import { temporaryFolder, write } from "../helpers/program.js";

/** Answers of two commands about a folder, with what earlier runs kept in `cache` or with nothing. */
async function answers(folder: string, cache: string | null): Promise<string[]> {
  const runs = [
    ["check", folder, "--json", "--verbose"],
    ["survey", folder, "--json"],
  ].map((args) => enredo(args, { cache }));
  const texts = (await Promise.all(runs)).map(({ stdout, stderr }) => stdout + stderr);
  // What is kept is written on the next turn, when the answer is out.
  await new Promise((resolve) => setImmediate(resolve));
  return texts;
}

/** What is done to one file; the one that was changed before is put back now and then. */
interface Edit {
  file: number;
  how: Damage | "gone" | "copied";
  back: boolean;
}

const edit: fc.Arbitrary<Edit> = fc.record({
  file: fc.nat(1_000_000),
  how: fc.oneof({ weight: 6, arbitrary: damage }, fc.constantFrom<Edit["how"]>("gone", "copied")),
  back: fc.boolean(),
});

/** All sample apps below one folder, and each alone. */
const together: Record<string, string> = {};
for (const { name, files } of apps)
  for (const [file, text] of Object.entries(files)) together[file.startsWith("enredo/sheets/") ? file : `apps/${name}/${file}`] = text;

describe("a run that finds some files changed", () => {
  it.each([...apps, { name: "written from a spec", files: written }, { name: "all together", files: together }])(
    "gives the answer of a run that knows nothing: $name",
    async ({ files }) => {
      const folder = temporaryFolder(files);
      const cache = temporaryFolder();
      const names = Object.keys(files).sort();
      const changed: string[] = [];
      expect(await answers(folder, cache)).toEqual(await answers(folder, null));
      for (const [index, { file, how, back }] of fc.sample(edit, { seed: 7, numRuns: 14 }).entries()) {
        const name = names[file % names.length] as string;
        const full = path.join(folder, name);
        if (how === "gone") rmSync(full, { force: true });
        else {
          mkdirSync(path.dirname(full), { recursive: true });
          if (how === "copied") writeFileSync(path.join(path.dirname(full), `Copy${index}${path.extname(name)}`), files[name] as string);
          else writeFileSync(full, damaged(files[name] as string, how));
        }
        const before = changed.shift();
        if (before !== undefined && back) write(folder, { [before]: files[before] as string });
        changed.push(name);
        expect(await answers(folder, cache), `${index}: ${JSON.stringify(how)} ${name}`).toEqual(await answers(folder, null));
      }
    },
  );
});

describe("two apps that share a package", () => {
  const app = (name: string): Record<string, string> => ({
    [`apps/${name}/package.json`]: `{ "name": "${name}", "dependencies": { "react-native": "0.76.3", "quaymap-react-native": "4.2.0" } }\n`,
    [`apps/${name}/android/settings.gradle`]: "include ':app'\n",
    [`apps/${name}/android/app/build.gradle`]: `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.${name}'\n    minSdk 24\n  }\n}\n`,
  });
  const level = (minSdk: number): string =>
    `apply plugin: 'com.android.library'\nandroid {\n  compileSdk 35\n  defaultConfig { minSdk ${minSdk} }\n}\n`;

  it.each([
    ["the build script of the package", "node_modules/quaymap-react-native/android/build.gradle", level(30)],
    ["its version", "node_modules/quaymap-react-native/package.json", '{ "name": "quaymap-react-native", "version": "4.9.0" }\n'],
    ["the lock file", "package-lock.json", '{ "name": "fleet", "lockfileVersion": 3, "packages": {} }\n'],
  ])("are both read again when this changed: %s", async (_, file, text) => {
    const cache = temporaryFolder();
    const folder = temporaryFolder({
      "package.json": '{ "name": "fleet", "private": true, "workspaces": ["apps/*"] }\n',
      "package-lock.json":
        '{ "name": "fleet", "lockfileVersion": 3, "packages": { "node_modules/quaymap-react-native": { "version": "4.2.0" } } }\n',
      ...app("deckpass"),
      ...app("pilot"),
      "node_modules/quaymap-react-native/package.json": '{ "name": "quaymap-react-native", "version": "4.2.0" }\n',
      "node_modules/quaymap-react-native/android/build.gradle": level(21),
    });
    const before = await answers(folder, cache);
    write(folder, { [file]: text });
    const after = await answers(folder, cache);
    expect(after).toEqual(await answers(folder, null));
    expect(after).not.toEqual(before);
  });
});

describe("parts that are kept", () => {
  const deckpass = apps.find(({ name }) => name === "deckpass")?.files ?? {};
  const partsIn = (cache: string): string[] => readdirSync(cache).filter((name) => name.endsWith(".parts"));

  it("hold nothing that can be read without the files", async () => {
    const cache = temporaryFolder();
    const secret = "tbk_live_0a1b2c3d4e5f60718293";
    const folder = temporaryFolder({
      ...deckpass,
      "src/key.ts": `export const harbourKey = "${secret}";\n`,
      // What is wrong in a file is told with a piece of it.
      "android/gradle/libs.versions.toml": `[libraries]\nquaymap = { module = "example.quaymap:quaymap", version.ref = "${secret}" }\n`,
    });
    await answers(folder, cache);
    const [parts] = partsIn(cache);
    const bytes = readFileSync(path.join(cache, parts as string));
    expect(bytes.length).toBeGreaterThan(10_000);
    expect(bytes.includes("app/build.gradle")).toBe(true);
    for (const text of [secret, "harbourKey", "example.maresia"]) expect(bytes.includes(text), text).toBe(false);
  });

  /** Every part in the file by its name, as the bytes that it has there. */
  const partsOf = (cache: string): Map<string, string> => {
    const bytes = readFileSync(path.join(cache, partsIn(cache)[0] as string));
    let at = bytes.indexOf(10) + 1;
    const head = JSON.parse(bytes.toString("utf8", 0, at)) as [id: string, asks: string[], length: number][];
    return new Map(head.map(([id, , length]) => [id, bytes.toString("latin1", at, (at += length))]));
  };

  it("stay as they are, with all that was kept for them, while another app is worked on", async () => {
    const cache = temporaryFolder();
    const folder = temporaryFolder(together);
    await answers(folder, cache);
    const first = partsOf(cache);
    const file = "apps/deckpass/src/App.tsx";
    for (const line of ["// one", "// two", "// three"]) {
      write(folder, { [file]: `${together[file] ?? ""}${line}\n` });
      await answers(folder, cache);
    }
    const last = partsOf(cache);
    const other = [...last].filter(([id, bytes]) => first.get(id) !== bytes);
    // The file, what the app's code says, and what the rules say of the app: not more, and nothing is left over of the edits between.
    expect(other).toHaveLength(3);
    expect(last.size).toBe(first.size);
  });

  it("are of the bytes that were compared, where a file changes while it is looked at", async () => {
    const cache = temporaryFolder();
    const folder = temporaryFolder(deckpass);
    const file = "src/App.tsx";
    const [text, start] = [deckpass[file] ?? "", deckpass["index.js"] ?? ""];
    const ask = async (tree: DiskTree, kept = true): Promise<string> => {
      const options = { packages: [], today: "2026-06-01", ...(kept ? { cache: { folder: cache, build: "" } } : {}) };
      const { findings } = await openProject(tree, options).check();
      await new Promise((resolve) => setImmediate(resolve));
      return JSON.stringify(findings);
    };
    /** Another program writes the file once it has been compared, and before it is read. */
    class Changing extends DiskTree {
      override read(path_: string): ReadResult {
        const read = super.read(path_);
        if (path_ === file) write(folder, { [file]: "export default function App() {\n  return null;\n}\n" });
        return read;
      }
    }
    const before = await ask(new DiskTree(folder));
    write(folder, { "index.js": `${start}// one\n` });
    expect(await ask(new Changing(folder))).toBe(before);
    const after = await ask(new DiskTree(folder));
    expect(after).not.toBe(before);
    expect(after).toBe(await ask(new DiskTree(folder), false));
    write(folder, { [file]: text });
    expect(await ask(new DiskTree(folder))).toBe(await ask(new DiskTree(folder), false));
  });

  it("are left alone where they are damaged", async () => {
    const cache = temporaryFolder();
    const folder = temporaryFolder(deckpass);
    await answers(folder, cache);
    const [parts] = partsIn(cache);
    const file = path.join(cache, parts as string);
    const whole = readFileSync(file);
    const head = whole.indexOf(10);
    for (const bytes of [
      Buffer.from("nothing"),
      Buffer.from("[[1,2]]\n"),
      Buffer.from('[["a",["x"],99999999]]\n'),
      whole.subarray(0, head + 50),
      Buffer.concat([whole.subarray(0, head + 1), Buffer.alloc(whole.length - head - 1)]),
      Buffer.alloc(0),
    ]) {
      writeFileSync(file, bytes);
      writeFileSync(path.join(folder, "src/App.tsx"), `${deckpass["src/App.tsx"] ?? ""}\n// ${bytes.length}\n`);
      expect(await answers(folder, cache)).toEqual(await answers(folder, null));
      expect(existsSync(file)).toBe(true);
    }
  });
});
