import { readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { MemoryTree } from "../../src/core/files/memory.js";
import { readGradleBuild } from "../../src/core/gather/platforms/android/gradle/build.js";
import { readPodfile } from "../../src/core/gather/platforms/ios/podfile.js";
import { noHelpers } from "../../src/core/gather/platforms/ios/ruby-host.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { ROOT } from "../helpers/program.js";
import { shown } from "../helpers/memory.js";

/**
 * Scripts as teams write them, with what the programs of the languages themselves gave for them (Ruby 3.1 and Groovy 2.4, with stand-ins for the
 * commands of Podfiles and build scripts): a script, further files each behind its name, and behind `>>>` what comes out.
 */
function casesOf(language: string): { script: string; files: Record<string, string>; expected: string[] }[] {
  return readFileSync(path.join(ROOT, "test/cases", `${language}.txt`), "utf8")
    .split(/^===\n/m)
    .map((block) => {
      const [given = "", expected = ""] = block.split(/^>>>\n/m);
      const [script = "", ...more] = given.split(/^--- /m);
      const files = more.map((file) => [file.slice(0, file.indexOf("\n")), file.slice(file.indexOf("\n") + 1)] as const);
      return { script, files: Object.fromEntries(files), expected: expected.split("\n").filter(Boolean).sort() };
    });
}

const projectOf = (name: string, script: string, files: Record<string, string>): ProjectFiles =>
  new ProjectFiles(new MemoryTree({ ...files, [name]: script }));

describe("Podfiles say what Ruby says", () => {
  const OPTIONS = ["path", "git", "branch", "tag", "commit", "podspec"];

  it.each(casesOf("ruby"))("$script", ({ script, files, expected }) => {
    const podfile = readPodfile(projectOf("Podfile", script, files), "Podfile", noHelpers);
    const found = (podfile?.pods ?? []).map(({ name, requirement, target, options, conditional }) => {
      const own = [...options].filter(([key]) => OPTIONS.includes(key)).map(([key, value]) => `${key}=${shown(value)}`);
      return `${conditional ? "perhaps " : ""}${name}|${requirement ? shown(requirement) : ""}|${target}|${own.sort().join(",")}`;
    });
    expect(found.sort()).toEqual(expected);
    expect(podfile?.unread).toEqual([]);
  });
});

describe.each([
  ["Groovy", "build.gradle"],
  // Without such a program for Kotlin: worked out by hand.
  ["Kotlin", "build.gradle.kts"],
])("build scripts say what %s says", (language, name) => {
  const isKnown = (text: string): string => text.replace("buildType:", "buildTypes.").replace("flavor:", "productFlavors.");

  it.each(casesOf(language.toLowerCase()))("$script", ({ script, files, expected }) => {
    const { root } = readGradleBuild(projectOf(name, script, files), "");
    const perhaps = ({ conditional }: { conditional?: boolean }): string => (conditional ? "perhaps " : "");
    const found = [
      ...root.settings.map((setting) => {
        const named = [...setting.named].map(([key, value]) => `${key}:${shown(value)}`);
        const values = [...setting.values.map(shown), ...named].join(",");
        const own = setting.name.replace(/^(min|target|compile)SdkVersion$/, "$1Sdk");
        return `${perhaps(setting)}${isKnown(setting.block)}|${own}|${values}`;
      }),
      ...root.dependencies.map((dependency) => {
        const { configuration, group, artifact, version, kind } = dependency;
        const notation = `${group}:${artifact}:${version ? shown(version) : ""}`;
        return `${perhaps(dependency)}${configuration}|${kind === "bom" ? "bom " : ""}${notation}`;
      }),
      ...root.modules.map((module) => `${perhaps(module)}${module.configuration}|module ${module.path}`),
      ...root.plugins.filter(({ applied }) => applied).map((plugin) => `${perhaps(plugin)}plugin ${plugin.id}`),
      ...root.repositories.map(({ kind, url }) => `repo ${kind === "url" && url ? shown(url) : kind}`),
    ];
    expect(found.sort()).toEqual(expected);
    expect(root.unread).toEqual([]);
  });
});
