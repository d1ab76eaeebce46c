import { Ajv } from "ajv";
import formats from "ajv-formats";
import { execFileSync, spawnSync } from "node:child_process";
import { chmodSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { parse } from "yaml";
import { ROOT, temporaryFolder, write } from "../helpers/program.js";

const page = readFileSync(path.join(ROOT, "docs/how-to/ci.md"), "utf8");
/** The files of the page by the name in their first line. */
const recipes = new Map(
  [...page.matchAll(/```(?:yaml|groovy|sh)\n(?:#|\/\/) (\S+)\n([\s\S]*?)```/g)].map((match) => [match[1] as string, match[2] as string]),
);
const schemas = path.join(path.dirname(createRequire(import.meta.url).resolve("schemastore/package.json")), "schemas/json");

/** Every line of a parsed file that starts the program. */
function lines(value: unknown): string[] {
  if (typeof value === "string") return /^npx --no enredo /.test(value) ? [value] : [];
  return value !== null && typeof value === "object" ? Object.values(value).flatMap(lines) : [];
}

const script = (level: number): string =>
  `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk ${level}\n  }\n}\n`;

function repository(): { folder: string; base: string } {
  const folder = temporaryFolder({
    "settings.gradle": "include ':app'\n",
    "app/build.gradle": script(26),
    "enredo.yaml": "floors: { minSdk: 24 }\n",
  });
  const git = (...args: string[]): string =>
    execFileSync("git", ["-c", "user.email=skipper@maresia.example", "-c", "user.name=Skipper", ...args], {
      cwd: folder,
      encoding: "utf8",
    });
  git("init", "-q");
  git("add", "-A");
  git("commit", "-qm", "before");
  const base = git("rev-parse", "HEAD").trim();
  write(folder, { "app/build.gradle": script(21), "known.json": '{ "schema": "enredo.baseline/1", "findings": [] }' });
  git("add", "-A");
  git("commit", "-qm", "after");
  return { folder, base };
}

describe("the recipes for CI", () => {
  it("are for the services that the page names", () => {
    expect([...recipes.keys()]).toEqual([
      ".github/workflows/wiring.yml",
      ".gitlab-ci.yml",
      ".circleci/config.yml",
      "azure-pipelines.yml",
      "Jenkinsfile",
      ".git/hooks/pre-commit",
    ]);
  });

  it.each([
    [".github/workflows/wiring.yml", "github-workflow.json"],
    [".circleci/config.yml", "circleciconfig.json"],
  ])("%s fits the schema of its service", (file, schema) => {
    const ajv = new Ajv({ strict: false, allErrors: true, validateFormats: false, logger: false });
    formats.default(ajv);
    // Without its dialect: one is of draft 4, of which it uses nothing that draft 7 reads otherwise.
    const text = readFileSync(path.join(schemas, schema), "utf8");
    const validate = ajv.compile({ ...(JSON.parse(text) as object), $schema: undefined });
    expect(validate(parse(recipes.get(file) as string)), JSON.stringify(validate.errors)).toBe(true);
    // The schema is one that can fail.
    expect(validate({ jobs: 7 })).toBe(false);
  });

  // A shell and a stand-in for npx, which takes packages from a registry.
  it.skipIf(process.platform === "win32").each([...recipes.keys()])("%s finds the mistake of a change, and fails", (file) => {
    const { folder, base } = repository();
    const bin = temporaryFolder({
      npx: `#!/bin/sh\n[ "$1 $2" = "--no enredo" ] || exit 9\nshift 2\nexec "${process.execPath}" "${path.join(ROOT, "bin/enredo.js")}" "$@"\n`,
    });
    chmodSync(path.join(bin, "npx"), 0o755);
    const text = recipes.get(file) as string;
    const commands = /\.ya?ml$/.test(file) ? lines(parse(text)) : [/npx --no enredo [^'\n]*/.exec(text)?.[0] as string];
    expect(commands.length).toBeGreaterThan(0);
    const summary = path.join(temporaryFolder(), "summary.md");
    const codes = commands.map((command) => {
      const env = {
        ...process.env,
        PATH: `${bin}${path.delimiter}${process.env.PATH ?? ""}`,
        NO_COLOR: "1",
        BASE: base,
        GITHUB_STEP_SUMMARY: summary,
      };
      const { status, stdout, stderr } = spawnSync("sh", ["-e", "-c", command], { cwd: folder, encoding: "utf8", env });
      expect(stderr, command).not.toMatch(/enredo:/);
      const written = /--output (\S+)/.exec(command)?.[1];
      const said = written
        ? readFileSync(path.join(folder, written), "utf8")
        : command.includes(">>")
          ? readFileSync(summary, "utf8")
          : stdout;
      expect(said, command).toContain("app/build.gradle");
      expect(said, command).toContain("level/below-need");
      return status;
    });
    expect(codes.at(-1)).toBe(1);
    // What only tells stops nothing.
    expect(codes.slice(0, -1).every((code) => code === 0)).toBe(true);
  });
});
