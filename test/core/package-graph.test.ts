import { execFileSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { DiskTree } from "../../src/core/files/disk.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { mavenStoreAt } from "../../src/core/gather/packages/maven-store.js";
import { survey } from "../../src/core/project/survey.js";
import { androidBlock, androidExample } from "../../src/core/rules/examples.js";
import { zip } from "../helpers/archives.js";
import { reportOf, surveyOf } from "../helpers/memory.js";

/** What comes with packages, by their descriptions. */

type Files = Record<string, string | Uint8Array>;

/** `tollbuoy 2.1: quaymap 5.0, tide ? (optional)` is a package and what it asks for. */
function described(...lines: string[]): Files {
  const files: Files = {};
  for (const line of lines) {
    const [own = "", asked = ""] = line.split(": ");
    const [artifact = "", version = ""] = own.split(" ");
    const dependencies = asked.split(", ").filter(Boolean).map(dependency).join("");
    files[at(artifact, version, "pom")] = pom(artifact, version, `<dependencies>${dependencies}</dependencies>`);
  }
  return files;
}

const at = (artifact: string, version: string, ending: string) => `repo/example/${artifact}/${version}/${artifact}-${version}.${ending}`;
const pom = (artifact: string, version: string, more: string) =>
  `<project><modelVersion>4.0.0</modelVersion><groupId>example</groupId><artifactId>${artifact}</artifactId><version>${version}</version>${more}</project>`;

function dependency(text: string): string {
  const [name = "", version = "", more = ""] = text.split(" ");
  const tag = (element: string, value: string) => (value === "" ? "" : `<${element}>${value}</${element}>`);
  const without = /^-(.+)$/.exec(more)?.[1];
  const excluded = without
    ? `<exclusions><exclusion><groupId>example</groupId><artifactId>${without}</artifactId></exclusion></exclusions>`
    : "";
  return `<dependency><groupId>example</groupId><artifactId>${name}</artifactId>${tag("version", version === "?" ? "" : version)}${more === "optional" ? "<optional>true</optional>" : without ? "" : tag("scope", more)}${excluded}</dependency>`;
}

const app = (declared: string[], more = "") =>
  androidExample(
    `repositories {\n  maven { url '../repo' }\n}\n${androidBlock()}\n${more}\ndependencies {\n${declared.map((line) => `  ${line}\n`).join("")}}\n`,
  );

function versions(declared: string[], files: Files, more = ""): string[] {
  const [found] = surveyOf({ ...app(declared, more), ...files }).apps;
  return [
    ...(found?.graph?.packages ?? []).map(({ name, version }) => `${name.split(":")[1] ?? ""} ${version}`),
    ...(found?.graph?.gaps ?? []).map(({ name }) => `${name.split(":")[1] ?? ""} ?`),
  ].sort();
}

describe("the packages that an app gets", () => {
  it.each<[string, string[], string[], string[], string?]>([
    [
      "of two versions the higher",
      ["a 1.0: c 1.0", "b 1.0: c 1.10", "c 1.0", "c 1.10"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0", "b 1.0", "c 1.10"],
    ],
    [
      "what the higher one asks for, not the lower",
      ["a 1.0: c 1.0", "b 1.0: c 2.0", "c 1.0: d 1.0", "c 2.0", "d 1.0"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0", "b 1.0", "c 2.0"],
    ],
    [
      "a release over its candidate",
      ["a 1.0: c 2.0-rc1", "b 1.0: c 2.0", "c 2.0-rc1", "c 2.0"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0", "b 1.0", "c 2.0"],
    ],
    [
      "nothing for tests, nothing optional, nothing provided",
      ["a 1.0: b 1.0 test, c 1.0 optional, d 1.0 provided, e 1.0 runtime", "e 1.0"],
      ["'example:a:1.0'"],
      ["a 1.0", "e 1.0"],
    ],
    ["without what is left out on every way", ["a 1.0: c 1.0 -d", "c 1.0: d 1.0", "d 1.0"], ["'example:a:1.0'"], ["a 1.0", "c 1.0"]],
    [
      "with what is left out on one way only",
      ["a 1.0: c 1.0 -d", "b 1.0: c 1.0", "c 1.0: d 1.0", "d 1.0"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0", "b 1.0", "c 1.0", "d 1.0"],
    ],
    [
      "without what the script leaves out",
      ["a 1.0: b 1.0, c 1.0", "b 1.0", "c 1.0"],
      ["('example:a:1.0') { exclude group: 'example', module: 'b' }"],
      ["a 1.0", "c 1.0"],
    ],
    [
      "with what is left out on the shorter way only",
      ["a 1.0: c 1.0 -d", "b 1.0: e 1.0", "e 1.0: c 1.0", "c 1.0: d 1.0", "d 1.0"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0", "b 1.0", "c 1.0", "d 1.0", "e 1.0"],
    ],
    ["alone where the script says so", ["a 1.0: b 1.0", "b 1.0"], ["('example:a:1.0') { transitive = false }"], ["a 1.0"]],
    [
      "without what all configurations leave out",
      ["a 1.0: b 1.0", "b 1.0"],
      ["'example:a:1.0'"],
      ["a 1.0"],
      "configurations.all {\n  exclude group: 'example', module: 'b'\n}",
    ],
    [
      "without what all configurations leave out, though the script asks for it",
      ["a 1.0: b 1.0", "b 1.0"],
      ["'example:a:1.0'", "'example:b:1.0'"],
      ["a 1.0"],
      "configurations.all {\n  exclude group: 'example', module: 'b'\n}",
    ],
    [
      "a forced version, though lower",
      ["a 1.0: c 2.0", "c 1.0", "c 2.0"],
      ["'example:a:1.0'"],
      ["a 1.0", "c 1.0"],
      "configurations.all {\n  resolutionStrategy { force 'example:c:1.0' }\n}",
    ],
    [
      "what only the tests leave out",
      ["a 1.0: b 1.0", "b 1.0"],
      ["'example:a:1.0'"],
      ["a 1.0", "b 1.0"],
      "configurations {\n  testImplementation { exclude group: 'example', module: 'b' }\n}\nconfigurations.androidTestImplementation.exclude group: 'example', module: 'b'\n",
    ],
    [
      "a gap where a condition decides",
      ["a 1.0: c 1.0", "b 1.0: c 2.0", "c 1.0", "c 2.0"],
      ["'example:a:1.0'"],
      ["a 1.0", "b ?", "c ?"],
      "if (System.getenv('TIDE')) {\n  dependencies {\n    implementation 'example:b:1.0'\n  }\n}\n",
    ],
    ["circles", ["a 1.0: b 1.0", "b 1.0: a 1.0"], ["'example:a:1.0'"], ["a 1.0", "b 1.0"]],
    ["a gap for what is not here", ["a 1.0: b 1.0"], ["'example:a:1.0'"], ["a 1.0", "b 1.0", "b ?"]],
    ["a gap for a range", ["a 1.0: b [1,2)", "b 1.0"], ["'example:a:1.0'"], ["a 1.0", "b ?"]],
  ])("have %s", (_, lines, declared, expected, more) => {
    expect(
      versions(
        declared.map((line) => `implementation${line.startsWith("(") ? "" : " "}${line}`),
        described(...lines),
        more,
      ),
    ).toEqual(expected);
  });

  it("have versions that a parent, a property or an imported list gives", () => {
    const files = {
      ...described("c 1.3", "d 2.0"),
      [at("list", "1.0", "pom")]: pom(
        "list",
        "1.0",
        `<dependencyManagement><dependencies>${dependency("d 2.0")}</dependencies></dependencyManagement>`,
      ),
      [at("parent", "1.0", "pom")]: pom(
        "parent",
        "1.0",
        `<properties><c.version>1.2</c.version></properties><dependencyManagement><dependencies>${dependency("c ${c.version}")}${dependency("list 1.0 import")}</dependencies></dependencyManagement>`,
      ),
      [at("a", "1.0", "pom")]: pom(
        "a",
        "1.0",
        `<parent><groupId>example</groupId><artifactId>parent</artifactId><version>1.0</version></parent><properties><c.version>1.3</c.version></properties><dependencies>${dependency("c ?")}${dependency("d ?")}</dependencies>`,
      ),
    };
    expect(versions(["implementation 'example:a:1.0'"], files)).toEqual(["a 1.0", "c 1.3", "d 2.0"]);
    expect(versions(["implementation platform('example:list:1.0')", "implementation 'example:d'"], files)).toEqual(["d 2.0"]);
  });

  it("have what module metadata asks for when the app runs, and its constraints", () => {
    const variant = (name: string, usage: string, more: object) => ({
      name,
      attributes: { "org.gradle.usage": usage, "org.gradle.category": "library" },
      ...more,
    });
    const files = {
      ...described("b 1.0", "c 1.0", "c 1.5", "d 1.0: c 1.0"),
      [at("a", "1.0", "module")]: JSON.stringify({
        formatVersion: "1.1",
        variants: [
          variant("api", "java-api", { dependencies: [{ group: "example", module: "z", version: { requires: "9" } }] }),
          variant("runtime", "java-runtime", {
            dependencies: [{ group: "example", module: "b", version: { requires: "1.0" } }],
            dependencyConstraints: [{ group: "example", module: "c", version: { requires: "1.5" } }],
          }),
        ],
      }),
    };
    expect(versions(["implementation 'example:a:1.0'"], files)).toEqual(["a 1.0", "b 1.0"]);
    expect(versions(["implementation 'example:a:1.0'", "implementation 'example:d:1.0'"], files)).toEqual([
      "a 1.0",
      "b 1.0",
      "c 1.5",
      "d 1.0",
    ]);
  });

  it("say by whom a level is asked for", async () => {
    const manifest =
      '<manifest package="example.core"><uses-sdk xmlns:android="http://schemas.android.com/apk/res/android" android:minSdkVersion="28" /></manifest>';
    const { findings } = await reportOf({
      ...app(["implementation 'example:a:1.0'"]),
      ...described("a 1.0: core 3.0", "core 3.0"),
      [at("core", "3.0", "aar")]: zip({ "AndroidManifest.xml": manifest }),
    });
    expect(findings.filter(({ rule }) => rule === "level/below-need").map(({ message }) => message)).toEqual([
      "example:core (by way of example:a) needs minSdk 28; this app has 24",
    ]);
  });

  it("are told where two hold the same classes, and their versions are certain", async () => {
    const jar = (...classes: string[]) => zip(Object.fromEntries(classes.map((name) => [`example/${name}.class`, "class"])));
    const told = async (files: Files, ...declared: string[]) =>
      (await reportOf({ ...app(declared), ...described("a 1.0: core 3.0", "b 1.0", "core 3.0"), ...files })).findings
        .filter(({ rule }) => rule === "version/classes-doubled")
        .map(({ message, places }) => `${message} ${places.map(({ line }) => line).join(" ")}`);
    const files = { [at("core", "3.0", "jar")]: jar("core/Feed", "core/Tide"), [at("b", "1.0", "jar")]: jar("core/Feed", "b/Main") };
    expect(await told(files, "implementation 'example:a:1.0'", "implementation 'example:b:1.0'")).toEqual([
      "example:b and example:core (by way of example:a) both contain example.core.Feed 18 17",
    ]);
    expect(await told(files, "implementation 'example:a:1.0'")).toEqual([]);
    expect(await told(files, "implementation 'example:a:1.0'", "testImplementation 'example:b:1.0'")).toEqual([]);
    // What is not here may ask for another version of either; what lies in the project stays as it is.
    const open = ["implementation 'example:a:1.0'", "implementation 'example:b:1.0'", "implementation 'example:c:1.0'"];
    expect(await told(files, ...open)).toEqual([]);
    const own = { ...files, "app/libs/feed.jar": jar("core/Feed") };
    expect(
      await told(own, "implementation 'example:a:1.0'", "implementation 'example:c:1.0'", "implementation files('libs/feed.jar')"),
    ).toHaveLength(1);
  });

  it("end for packages that name each other without end, and for names that lead out of the store", () => {
    const many = Array.from(
      { length: 60 },
      (_, k) => `p${k} 1.0: ${Array.from({ length: 20 }, (_, j) => `p${(k + j + 1) % 60} ${j % 2 ? "1.0" : "2.0"}`).join(", ")}`,
    );
    const both = [...many, ...many.map((line) => line.replace(" 1.0:", " 2.0:"))];
    expect(versions(["implementation 'example:p0:1.0'"], described(...both)).length).toBeGreaterThan(30);
    expect(versions(["implementation 'example:a:1.0'"], described("a 1.0: ../../x 1.0"))).toContain("../../x ?");
  });
});

describe("a home of Gradle", () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), "enredo-store-"));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const write = (files: Files) => {
    for (const [name, content] of Object.entries(files)) {
      mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
      writeFileSync(path.join(folder, name), content);
    }
  };
  write(Object.fromEntries(Object.entries(app(["implementation 'example:a:1.0'"])).map(([name, text]) => [`app/${name}`, text])));
  for (const [name, text] of Object.entries(described("a 1.0: b 1.0", "b 1.0"))) {
    const [, group = "", artifact = "", version = "", file = ""] = name.split("/");
    write({ [`home/caches/modules-2/files-2.1/${group}/${artifact}/${version}/0123abcd/${file}`]: text });
  }

  it("outside of the project is read where it is named", async () => {
    const store = path.join(folder, "home");
    const tree = new DiskTree(path.join(folder, "app"), [store]);
    const found = mavenStoreAt(tree, "../home");
    expect(found?.kind).toBe("cache");
    const { apps } = await survey(new ProjectFiles(tree, ["../home"]));
    expect(apps[0]?.graph?.packages.map(({ name }) => name)).toEqual(["example:a", "example:b"]);
    expect(mavenStoreAt(new DiskTree(path.join(folder, "app")), "../home")).toBeUndefined();
  });

  it("is taken from the environment and from the option, by the program", () => {
    const run = (env: Record<string, string>, ...options: string[]) =>
      execFileSync(
        process.execPath,
        [path.resolve("bin/enredo.js"), "permits", "--json", "--no-cache", ...options, path.join(folder, "app")],
        {
          env: { ...process.env, ...env },
          encoding: "utf8",
        },
      );
    const packagesOf = (output: string) => (JSON.parse(output) as { apps: { packages: { known: number } }[] }).apps[0]?.packages.known;
    expect(packagesOf(run({ GRADLE_USER_HOME: path.join(folder, "home") }))).toBe(2);
    expect(packagesOf(run({ GRADLE_USER_HOME: folder }))).toBe(0);
    expect(packagesOf(run({ GRADLE_USER_HOME: folder }, "--packages", path.join(folder, "home")))).toBe(2);
  });
});
