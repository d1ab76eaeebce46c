import { describe, expect, it } from "vitest";
import { RULES } from "../../src/core/rules/index.js";
import { reportOf } from "../helpers/memory.js";

describe.each(RULES.map((rule) => [rule.name, rule] as const))("%s", (name, rule) => {
  it("reports its example", async () => {
    const { findings } = await reportOf(rule.examples.reported, { today: "2026-11-28" });
    const own = findings.filter((finding) => finding.rule === name);
    expect(own.length).toBeGreaterThan(0);
    for (const finding of own) {
      expect(finding.places.length).toBeGreaterThan(0);
      expect(finding.places[0]?.line).toBeGreaterThan(0);
      expect(finding.message).not.toMatch(/undefined|\[object/);
      expect(finding.fix).not.toBe("");
    }
  });

  it("is silent about the mended example", async () => {
    const { findings } = await reportOf(rule.examples.silent, { today: "2026-11-28" });
    expect(findings.filter((finding) => finding.rule === name)).toEqual([]);
  });

  it("says what it is about", () => {
    for (const text of [rule.title, rule.looksAt, rule.why, rule.advice]) expect(text.length).toBeGreaterThan(10);
    expect(name).toMatch(/^[a-z]+\/[a-z-]+$/);
  });
});

describe("rules about versions and levels, further cases", () => {
  const android = (app: string, more: Record<string, string> = {}) => ({
    "settings.gradle": "include ':app'\n",
    "build.gradle": "allprojects { repositories { google(); mavenCentral() } }\n",
    "app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n    targetSdk 35\n  }\n}\n${app}`,
    ...more,
  });
  const rulesOf = async (files: Record<string, string>) =>
    (await reportOf(files)).findings.map(({ rule, message }) => `${rule} ${message}`);

  it.each([
    [
      "a BOM fixes the versions of its group",
      "dependencies {\n implementation platform('example.quaymap:quaymap-bom:4.2.0')\n implementation 'example.quaymap:quaymap-core'\n}",
    ],
    [
      "a constraint fixes the version",
      "dependencies {\n constraints { implementation 'example.quaymap:quaymap-core:4.2.0' }\n implementation 'example.quaymap:quaymap-core'\n}",
    ],
    [
      "a rich version in the closure",
      "dependencies {\n implementation('example.quaymap:quaymap-core') { version { strictly '4.2.0' } }\n}",
    ],
    ["a range is a choice, not an accident", "dependencies {\n implementation 'example.quaymap:quaymap-core:[4.0,5.0)'\n}"],
    ["dependencies of tests may float", "dependencies {\n testImplementation 'example.quaymap:quaymap-core:+'\n}"],
    [
      "a version from a variable that nobody defines is unknown, not floating",
      'dependencies {\n implementation "example.quaymap:quaymap-core:$nowhere"\n}',
    ],
  ])("version/floating is silent: %s", async (_, app) => {
    expect((await rulesOf(android(app))).filter((text) => text.startsWith("version/floating"))).toEqual([]);
  });

  it.each(["+", "4.+", "latest.release"])("version/floating reports %s", async (version) => {
    expect(await rulesOf(android(`dependencies {\n implementation 'example.quaymap:quaymap-core:${version}'\n}`))).toEqual([
      `version/floating the version of example.quaymap:quaymap-core is not pinned: "${version}"`,
    ]);
  });

  it("a Gradle lock file fixes a floating version, and is held against the declaration", async () => {
    const lock = (version: string) => ({
      "app/gradle.lockfile": `example.quaymap:quaymap-core:${version}=releaseRuntimeClasspath\nempty=\n`,
    });
    expect(await rulesOf(android("dependencies {\n implementation 'example.quaymap:quaymap-core:4.+'\n}", lock("4.2.0")))).toEqual([]);
    expect(
      (await rulesOf(android("dependencies {\n implementation 'example.quaymap:quaymap-core:4.3.0'\n}", lock("4.2.0")))).join(),
    ).toContain("locked at 4.2.0, outside the declared 4.3.0");
  });

  it("repositories in modules do not count when the settings forbid them", async () => {
    const settings = (mode: string) =>
      `dependencyResolutionManagement {\n  repositoriesMode.set(RepositoriesMode.${mode})\n  repositories { mavenCentral() }\n}\ninclude ':app'\n`;
    const app = "repositories { google(); mavenCentral() }\ndependencies {\n implementation 'androidx.core:core-ktx:1.15.0'\n}";
    const files = (mode: string) => ({ ...android(app), "settings.gradle": settings(mode), "build.gradle": "" });
    expect((await rulesOf(files("FAIL_ON_PROJECT_REPOS"))).join()).toContain(
      "source/repository-missing androidx.core:core-ktx comes from Google's repository",
    );
    expect(await rulesOf(files("PREFER_PROJECT"))).toEqual([]);
  });

  it("a plugin that only some builds apply, and helpers on the class path, are nobody's mistake", async () => {
    const root =
      "buildscript {\n  dependencies {\n    classpath 'com.android.tools.build:gradle:8.7.0'\n    classpath 'example.tools:download-task:1.0'\n  }\n}\nallprojects { repositories { google() } }\n";
    const files = android("if (System.getenv('PUSH')) {\n  apply plugin: 'example.gullpost.services'\n}\n", { "build.gradle": root });
    expect((await rulesOf(files)).filter((text) => text.startsWith("source/build-plugin"))).toEqual([]);
    const always = { ...files, "app/build.gradle": files["app/build.gradle"].replace(/if .*\{\n|\n}\n$/g, "\n") };
    expect((await rulesOf(always)).join()).toContain(
      "source/build-plugin the build plugin example.gullpost.services is applied, but nothing puts it on the class path",
    );
  });

  it("two mistakes of one kind in one file are two findings", async () => {
    const findings = await rulesOf(
      android("dependencies {\n implementation 'example.quaymap:quaymap-core:+'\n implementation 'example.tollbuoy:tollbuoy-android:+'\n}"),
    );
    expect(findings.filter((text) => text.startsWith("version/floating"))).toHaveLength(2);
  });

  it("levels of flavours: only what some variant really gets counts", async () => {
    const flavors = (text: string) =>
      android("").valueOf() && {
        ...android(""),
        "app/build.gradle": android("")
          ["app/build.gradle"].replace("minSdk 24", "minSdk 19")
          .replace(/}\n$/, `  productFlavors {\n${text}\n  }\n}\n`),
      };
    const floor = { "enredo.yaml": "floors:\n  minSdk: 24\n" };
    expect((await rulesOf({ ...flavors("free { minSdk 24 }\n paid { minSdk 26 }"), ...floor })).join()).not.toContain("level/below-need");
    expect((await rulesOf({ ...flavors("free { minSdk 21 }\n paid { minSdk 26 }"), ...floor })).join()).toContain(
      "the team's minimum is minSdk 24; this app has 21 in free",
    );
  });
});
