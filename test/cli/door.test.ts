import { execFileSync } from "node:child_process";
import { mkdirSync, readdirSync, readFileSync, statSync, symlinkSync } from "node:fs";
import path from "node:path";
import { pathToFileURL } from "node:url";
import { describe, expect, it } from "vitest";
import type * as Door from "../../src/core/index.js";
import { enredoProcess, ROOT, temporaryFolder, write } from "../helpers/program.js";

/** What other programs get: the door, as the package holds it. */

const APPS = ["pilot/clean", "pilot/project", "deckpass", "crewboard"].map((name) => path.join(ROOT, "demo", name));
const nothing = { packages: [], today: "2026-11-28" };

async function door(): Promise<typeof Door> {
  return (await import(pathToFileURL(path.join(ROOT, "dist/index.cjs")).href)) as typeof Door;
}

describe("the door", () => {
  it.each(APPS)("finds in %s what the program finds", async (folder) => {
    const { openProject } = await door();
    const { findings, accepted } = await openProject(folder, { packages: [] }).check();
    const { stdout } = enredoProcess(["check", folder, "--json", "--no-cache"]);
    const told = JSON.parse(stdout) as { findings: { fingerprint: string }[]; accepted?: unknown[] };
    expect(findings.map(({ fingerprint }) => fingerprint)).toEqual(told.findings.map(({ fingerprint }) => fingerprint));
    expect(findings.length + accepted.length).toBeGreaterThan(0);
  });

  it("answers everything from one reading", async () => {
    const { openProject } = await door();
    const steps: string[] = [];
    const project = openProject(path.join(ROOT, "demo/pilot/project"), { ...nothing, onProgress: (step) => steps.push(step) });
    const { apps } = await project.survey();
    expect(apps.map(({ name }) => name)).toEqual(["Pilot"]);
    expect((await project.levels())[0]?.answer.some(({ level }) => level === "minSdk")).toBe(true);
    expect((await project.trace("QUAYMAP"))[0]?.answer.sdk).toBe("quaymap");
    expect((await project.sdks()).length).toBeGreaterThan(3);
    expect((await project.compare())[0]?.answer.length).toBeGreaterThan(3);
    expect((await project.startup())[0]?.answer.map(({ side }) => side)).toEqual(["android", "ios"]);
    expect((await project.permits())[0]?.answer.sides).toHaveLength(2);
    expect((await project.patch()).mended.length).toBeGreaterThan(0);
    expect((await project.settings()).problems).toEqual([]);
    const clean = openProject(path.join(ROOT, "demo/pilot/clean"), nothing);
    expect((await clean.diff(project)).length).toBeGreaterThan(0);
    expect((await project.findings()).findings).toEqual((await project.check()).findings);
    expect(steps.filter((step) => step === "settings")).toHaveLength(1);
  });

  it("reads files that lie elsewhere, with texts in place of some", async () => {
    const { openProject, DiskTree, MemoryTree, OverlayTree } = await door();
    const files = { "settings.gradle": "include ':app'\n", "app/build.gradle": "apply plugin: 'com.android.application'\n" };
    expect((await openProject(new MemoryTree(files), nothing).survey()).apps).toHaveLength(1);
    const tree = new OverlayTree(new DiskTree(temporaryFolder(files)), new Map([["settings.gradle", "include ':other'\n"]]));
    await expect(openProject(tree, nothing).survey()).rejects.toMatchObject({ name: "ProjectProblem", code: "no-app" });
  });

  it("says in a code what is wrong", async () => {
    const { openProject } = await door();
    const folder = temporaryFolder({ "a.txt": "" });
    const code = async (open: () => Promise<unknown> | { root: string }): Promise<unknown> => {
      try {
        await open();
      } catch (error) {
        return (error as { code: unknown }).code;
      }
      return undefined;
    };
    expect(await code(() => openProject(path.join(folder, "nowhere")))).toBe("folder-missing");
    expect(await code(() => openProject(path.join(folder, "a.txt")))).toBe("not-a-folder");
    expect(await code(() => openProject(folder, { packages: [path.join(folder, "none")] }))).toBe("packages-missing");
    expect(await code(async () => openProject(folder, { ...nothing, sheets: [path.join(folder, "none")] }).survey())).toBe(
      "sheets-missing",
    );
    expect(await code(async () => openProject(folder, { ...nothing, settings: "none.yaml" }).survey())).toBe("settings-missing");
    expect(await code(async () => openProject(folder, nothing).check())).toBe("no-app");
    const pilot = path.join(ROOT, "demo/pilot/clean");
    expect(await code(async () => openProject(pilot, { ...nothing, app: "none" }).check())).toBe("app-unknown");
    expect(await code(async () => openProject(pilot, nothing).trace("none"))).toBe("sdk-unknown");
  });

  it("ends where it is told to, and can be asked again", async () => {
    const { openProject } = await door();
    const stop = new AbortController();
    const project = openProject(path.join(ROOT, "demo/pilot"), {
      ...nothing,
      signal: stop.signal,
      onProgress: (step) => step === "files" && stop.abort(new Error("no longer wanted")),
    });
    await expect(project.check()).rejects.toThrow("no longer wanted");
    await expect(project.check()).rejects.toThrow("no longer wanted");
  });

  it("keeps readings where it is told to", async () => {
    const { openProject } = await door();
    const folder = temporaryFolder();
    const ask = async () =>
      (await openProject(path.join(ROOT, "demo/pilot/clean"), { ...nothing, cache: { folder, build: "a" } }).findings()).findings;
    const first = await ask();
    // Written when the answer is out.
    await new Promise((resolve) => setImmediate(resolve));
    expect(readdirSync(folder).length).toBeGreaterThan(0);
    expect(await ask()).toEqual(first);
  });
});

describe("the package", () => {
  const folder = temporaryFolder({
    "package.json": '{ "name": "harbour-tool", "private": true, "type": "module" }',
    "tsconfig.json": JSON.stringify({
      compilerOptions: {
        strict: true,
        exactOptionalPropertyTypes: true,
        module: "nodenext",
        target: "es2023",
        types: ["node"],
        noEmit: true,
      },
      files: ["tool.ts"],
    }),
    "tool.ts": `import { openProject, isProjectProblem, type Finding, type ProjectOptions } from "enredo";

const options: ProjectOptions = { packages: [], onProgress: (step) => void step.length };
try {
  const project = openProject(process.argv[2] ?? ".", options);
  const worst: Finding[] = (await project.check()).findings.filter(({ severity }) => severity === "error");
  for (const { app, answer } of await project.trace("quaymap")) for (const { side, wires } of answer.sides) console.log(app.name, side, wires.length);
  console.log(worst.length);
} catch (error) {
  if (!isProjectProblem(error)) throw error;
  console.log(error.code);
}
`,
  });
  const npm = (...args: string[]): string =>
    execFileSync("npm", args, { cwd: ROOT, encoding: "utf8", shell: process.platform === "win32" });
  const [packed] = JSON.parse(npm("pack", "--ignore-scripts", "--json", "--pack-destination", folder)) as [
    { filename: string; files: { path: string }[]; unpackedSize: number },
  ];
  execFileSync("tar", ["-xzf", path.join(folder, packed.filename), "-C", folder]);
  mkdirSync(path.join(folder, "node_modules"));
  symlinkSync(path.join(folder, "package"), path.join(folder, "node_modules/enredo"), "junction");
  symlinkSync(path.join(ROOT, "node_modules/env-paths"), path.join(folder, "node_modules/env-paths"), "junction");
  symlinkSync(path.join(ROOT, "node_modules/@types"), path.join(folder, "node_modules/@types"), "junction");
  const node = (...args: string[]): string => execFileSync(process.execPath, args, { cwd: folder, encoding: "utf8" });

  it("is small, and holds what it needs", () => {
    const { dependencies } = JSON.parse(readFileSync(path.join(folder, "package/package.json"), "utf8")) as { dependencies: object };
    expect(Object.keys(dependencies)).toEqual(["env-paths"]);
    // Where it is published, the grammars are packed smaller still.
    expect(statSync(path.join(folder, packed.filename)).size).toBeLessThan(2.5 * 1024 * 1024);
    expect(packed.unpackedSize).toBeLessThan(8 * 1024 * 1024);
    const files = packed.files.map((file) => file.path);
    for (const wanted of ["README.md", "CHANGELOG.md", "LICENSE", "bin/enredo.js", "dist/core/index.d.ts", "sheets/sheet.schema.json"])
      expect(files).toContain(wanted);
    expect(files.filter((file) => /^(src|test|scripts|node_modules)\/|\.map$/.test(file))).toEqual([]);
  });

  it("is one that a strict program compiles against and runs with", () => {
    node(path.join(ROOT, "node_modules/typescript/bin/tsc"), "-p", folder);
    write(folder, {
      "tool.js": readFileSync(path.join(folder, "tool.ts"), "utf8")
        .replace(/, type \w+/g, "")
        .replace(/: (ProjectOptions|Finding\[\])/g, ""),
    });
    expect(node("tool.js", path.join(ROOT, "demo/pilot/project"))).toMatch(/^Pilot android \d+\nPilot ios \d+\n\d+\n$/);
    expect(node("tool.js", "nowhere")).toBe("folder-missing\n");
  });

  it("runs the program with nothing beside it", () => {
    const run = (...args: string[]): string => node(path.join(folder, "package/bin/enredo.js"), ...args);
    expect(run("--version")).toContain("enredo/");
    expect(run("survey", path.join(ROOT, "demo/pilot/clean"))).toContain("quaymap");
    expect(run("autocomplete", "script", "bash")).toContain("enredo");
    expect(run("check", path.join(ROOT, "demo/pilot/clean"), "--format", "junit", "--fail-on", "never")).toContain("<testsuites");
    expect(run("survey", path.join(ROOT, "demo/pilot/clean"), "--format", "cyclonedx")).toContain("CycloneDX");
    expect(run("help", "check")).toContain("USAGE");
  });
});

it("the reference pages say what the doc comments say", async () => {
  const { Application } = await import("typedoc");
  const fresh = temporaryFolder();
  const reference = await Application.bootstrapWithPlugins({
    options: path.join(ROOT, "typedoc.json"),
    out: fresh,
    outputs: [{ name: "markdown", path: fresh }],
    logLevel: "Error",
  } as object);
  const model = await reference.convert();
  expect(model).toBeDefined();
  if (model) await reference.generateOutputs(model);
  const pages = (folder: string): Record<string, string> =>
    Object.fromEntries(
      readdirSync(folder, { recursive: true, encoding: "utf8" })
        .filter((name) => name.endsWith(".md"))
        .sort()
        .map((name) => [name.replaceAll("\\", "/"), readFileSync(path.join(folder, name), "utf8").replaceAll("\r\n", "\n")]),
    );
  expect(pages(fresh)).toEqual(pages(path.join(ROOT, "docs/api")));
});
