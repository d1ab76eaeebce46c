import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import { Spec, Validation } from "@cyclonedx/cyclonedx-library";
import { Ajv } from "ajv";
import addFormatsModule from "ajv-formats";
import type { Log } from "sarif";
import { SaxesParser } from "saxes";
import { beforeAll, describe, expect, it } from "vitest";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

const require = createRequire(import.meta.url);
let demo: string;
beforeAll(async () => {
  demo = path.join(temporaryFolder(), "fleet");
  expect((await enredo(["demo", demo])).code).toBe(0);
});

/** A tree of elements, or the error that the parser found. */
function elements(xml: string): { name: string; attributes: Record<string, string>; text: string }[] {
  const found: { name: string; attributes: Record<string, string>; text: string }[] = [];
  const parser = new SaxesParser();
  parser.on("opentag", ({ name, attributes }) => found.push({ name, attributes: attributes as Record<string, string>, text: "" }));
  for (const event of ["text", "cdata"] as const)
    parser.on(event, (text: string) => {
      const last = found.at(-1);
      if (last) last.text += text;
    });
  parser.on("error", (error) => {
    throw error;
  });
  parser.write(xml).close();
  return found;
}

describe("check --format", () => {
  it("sarif is valid by the standard's schema, with rules, regions, fingerprints and suppressions", async () => {
    write(demo, { "enredo.yaml": "accept:\n  - rule: version/floating\n    reason: the harbour wants the newest\n" });
    const { stdout, code } = await enredo(["check", demo, "--format", "sarif"]);
    write(demo, { "enredo.yaml": "" });
    expect(code).toBe(1);
    const log = JSON.parse(stdout) as Log;
    const schema = JSON.parse(
      readFileSync(require.resolve("schemastore/package.json").replace("package.json", "schemas/json/sarif-2.1.0.json"), "utf8"),
    ) as object;
    const ajv = new Ajv({ strict: false, allErrors: true, unicodeRegExp: false });
    (addFormatsModule as unknown as (ajv: Ajv) => void)(ajv);
    const validate = ajv.compile(schema);
    validate(log);
    expect(validate.errors ?? []).toEqual([]);
    const [run] = log.runs;
    const rules = run?.tool.driver.rules ?? [];
    expect(rules.length).toBeGreaterThan(30);
    for (const result of run?.results ?? []) {
      expect(rules[result.ruleIndex ?? -1]?.id).toBe(result.ruleId);
      expect(result.partialFingerprints?.["enredo/2"]).toMatch(/^[0-9a-f]{20}$/);
      expect(result.locations?.[0]?.physicalLocation?.region?.startLine).toBeGreaterThan(0);
      expect(result.locations?.[0]?.physicalLocation?.artifactLocation?.uri).not.toMatch(/^\/|\\|\.\./);
    }
    const accepted = run?.results?.filter(({ suppressions }) => suppressions !== undefined) ?? [];
    expect(accepted.length).toBeGreaterThan(0);
    expect(
      accepted.every(
        ({ ruleId, suppressions }) => ruleId === "version/floating" && suppressions?.[0]?.justification === "the harbour wants the newest",
      ),
    ).toBe(true);
  });

  it("junit is well formed; a finding is a case that fails as --fail-on says", async () => {
    const count = async (failOn: string) => {
      const found = elements((await enredo(["check", demo, "--format", "junit", "--fail-on", failOn])).stdout);
      const of = (name: string) => found.filter((element) => element.name === name);
      const suites = of("testsuite");
      const sum = (key: string) => suites.reduce((total, { attributes }) => total + Number(attributes[key]), 0);
      expect(found[0]?.name).toBe("testsuites");
      expect(sum("tests")).toBe(of("testcase").length);
      expect(sum("failures")).toBe(of("failure").length);
      for (const { attributes } of of("testcase")) expect(attributes.name !== "" && attributes.classname !== "").toBe(true);
      return of("failure").length;
    };
    const { summary } = JSON.parse((await enredo(["check", demo, "--json"])).stdout) as {
      summary: { errors: number; warnings: number; notes: number };
    };
    expect(await count("error")).toBe(summary.errors);
    expect(await count("note")).toBe(summary.errors + summary.warnings + summary.notes);
    expect(await count("never")).toBe(0);
  });

  it("github is one workflow command a finding, with paths from the root of the repository", async () => {
    const folder = temporaryFolder();
    execFileSync("git", ["init", "-q"], { cwd: folder });
    expect((await enredo(["demo", path.join(folder, "apps")])).code).toBe(0);
    const { stdout } = await enredo(["check", path.join(folder, "apps/crewboard"), "--format", "github"]);
    const lines = stdout.trimEnd().split("\n");
    expect(lines.length).toBeGreaterThan(5);
    for (const line of lines)
      expect(line).toMatch(/^::(error|warning|notice) file=apps\/crewboard\/[^:,]+,line=\d+,col=\d+,title=[a-z]+\/[a-z-]+::.+%0A.+$/);
  });

  it("gitlab is a list with one fingerprint each", async () => {
    const list = JSON.parse((await enredo(["check", demo, "--format", "gitlab"])).stdout) as {
      description: string;
      check_name: string;
      fingerprint: string;
      severity: string;
      location: { path: string; lines: { begin: number } };
    }[];
    expect(new Set(list.map(({ fingerprint }) => fingerprint)).size).toBe(list.length);
    for (const entry of list) {
      expect(["info", "minor", "major", "critical", "blocker"]).toContain(entry.severity);
      expect(entry.location.lines.begin).toBeGreaterThan(0);
      expect(entry.description !== "" && entry.check_name.includes("/")).toBe(true);
    }
  });

  it("markdown takes nothing from files as markup", async () => {
    const folder = temporaryFolder({
      "settings.gradle": "include ':app'\n",
      "app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n  }\n}\ndependencies {\n  implementation 'example.<b>x</b>*:map_*y*:+'\n}\n",
    });
    const { stdout } = await enredo(["check", folder, "--format", "markdown"]);
    expect(stdout).toMatch(/^## Enredo: how the SDKs are wired\n/);
    expect(stdout).toContain("&lt;b&gt;");
    expect(stdout).not.toContain("<b>");
    expect(stdout).toContain("`version/floating`");
  });
});

describe("survey --format cyclonedx", () => {
  it("is valid by the standard's schema, and names every third-party package of each side", async () => {
    const { stdout } = await enredo(["survey", demo, "--format", "cyclonedx"]);
    const problem = await new Validation.JsonStrictValidator(Spec.Version.v1dot6).validate(stdout);
    expect(problem).toBeNull();
    const bom = JSON.parse(stdout) as {
      components: { name: string; purl?: string; properties?: { name: string; value: string }[] }[];
      dependencies: { ref: string; dependsOn?: string[] }[];
    };
    const quaymap = bom.components.filter(({ purl }) => purl?.includes("quaymap-android"));
    expect(quaymap.map(({ purl }) => purl)).toContain("pkg:maven/example.quaymap/quaymap-android@4.2.0");
    expect(quaymap[0]?.properties?.some(({ name, value }) => name === "enredo:side" && value === "android")).toBe(true);
    expect(bom.dependencies.find(({ ref }) => ref === "app:pilot#Pilot")?.dependsOn?.length).toBeGreaterThan(5);
    expect((await enredo(["survey", demo, "--format", "cyclonedx"])).stdout).toBe(stdout);
  });
});

describe("a baseline", () => {
  it("leaves out what is known, tells what is gone, and fails on what is new", async () => {
    const folder = path.join(temporaryFolder(), "fleet");
    await enredo(["demo", folder]);
    const file = path.join(temporaryFolder(), "known.json");
    const app = path.join(folder, "crewboard");
    expect(await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file])).toMatchObject({ code: 2 });
    expect(
      await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file, "--write-baseline"]),
    ).toMatchObject({
      code: 0,
      stdout: "",
    });
    const same = await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file]);
    expect(same.code).toBe(0);
    expect(same.stdout).toContain("nothing to report");
    // Moved lines and comments change nothing; another value does.
    const gradle = path.join(app, "android/app/build.gradle");
    const text = readFileSync(gradle, "utf8");
    write(app, { "android/app/build.gradle": `// moved\n\n\n${text}` });
    expect((await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file])).code).toBe(0);
    write(app, {
      "android/app/build.gradle": `${text}\ndependencies {\n    implementation 'example.tidewire:tidewire-android:+'\n}\n`,
    });
    const fresh = await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file, "--fail-on", "warning"]);
    expect(fresh.code).toBe(1);
    expect(fresh.stdout).toContain("version/floating");
    const main = readFileSync(path.join(app, "lib/main.dart"), "utf8");
    write(app, { "android/app/build.gradle": text, "lib/main.dart": main.replace("  Brinelog.setVerbose(true);\n", "") });
    expect((await enredo(["check", app, "--sheets", path.join(folder, "enredo/sheets"), "--baseline", file])).stderr).toContain("1 of ");
  });

  it.each([
    ["no JSON", "{"],
    ["another file", "{}"],
    ["an entry without a fingerprint", '{"schema":"enredo.baseline/1","findings":[{}]}'],
  ])("that is broken ends with what to do: %s", async (_, text) => {
    const folder = temporaryFolder({ "known.json": text });
    const { code, stderr } = await enredo(["check", demo, "--baseline", path.join(folder, "known.json")]);
    expect(code).toBe(2);
    expect(stderr).toContain("--write-baseline");
  });
});
