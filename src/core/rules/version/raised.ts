import { textOf } from "../../model/value.js";
import { compareIn } from "../../versions/ecosystem.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const pom = (artifact: string, version: string, dependency = ""): Record<string, string> => ({
  [`repo/example/${artifact}/${version}/${artifact}-${version}.pom`]: `<project><modelVersion>4.0.0</modelVersion><groupId>example</groupId><artifactId>${artifact}</artifactId><version>${version}</version>${dependency}</project>`,
});
const wantsQuaymap =
  "<dependencies><dependency><groupId>example</groupId><artifactId>quaymap</artifactId><version>5.0.0</version></dependency></dependencies>";
const repository = {
  ...pom("quaymap", "4.2.0"),
  ...pom("quaymap", "5.0.0"),
  ...pom("tollbuoy", "2.1.0", wantsQuaymap),
};
const app = (version: string): string =>
  `repositories {\n  maven { url '../repo' }\n}\n${androidBlock()}\ndependencies {\n  implementation 'example:quaymap:${version}'\n  implementation 'example:tollbuoy:2.1.0'\n}\n`;

export const raised = defineRule({
  name: "version/raised",
  severity: "warning",
  title: "Another package raises an SDK to another major version",
  looksAt:
    "The versions that the Android build ends up with, by the package descriptions in Gradle's cache, in folders given with --packages, and in repositories in the tree, against the versions that the app declares. Of another major version it warns; less is a note.",
  silentFor: "iOS, and packages of the platform. Where a description is missing, what it pulls in is not known.",
  why: "The app is written for one version and runs with another, whose API may differ.",
  advice: "Declare the version that the build uses and test with it, or use a version of the other package that fits.",
  examples: {
    reported: androidExample(app("4.2.0"), repository),
    silent: androidExample(app("5.0.0"), repository),
  },
  check({ app: { dependencies, graph } }) {
    return (graph?.packages ?? []).flatMap(({ name, version, asked, way, platform, sdk }) => {
      const own = dependencies.find(
        (dependency) => dependency.ecosystem === "maven" && dependency.name === name && !dependency.test && dependency.declared,
      );
      const declared = textOf(own?.declared);
      if (platform || way.length > 0 || !own?.declared || declared === undefined || !/^\d[\w.-]*$/.test(declared)) return [];
      if (compareIn("maven", declared, version) >= 0) return [];
      const by = asked.filter((ask) => ask.by !== undefined && ask.version === version).map((ask) => ask.by);
      if (by.length === 0) return [];
      return [
        {
          side: "android" as const,
          sdk,
          ...(declared.split(".")[0] === version.split(".")[0] ? { severity: "note" as const } : {}),
          message: `${name} ${declared} is declared, but the build uses ${version}, which ${by.join(" and ")} requires`,
          fix: `declare ${version}, or use a version of ${by[0] ?? ""} that requires ${declared}`,
          places: [own.declared.place],
          subject: `${name} raised`,
        },
      ];
    });
  },
});
