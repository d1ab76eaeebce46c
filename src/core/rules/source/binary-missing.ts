import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = `${androidBlock()}dependencies {\n  implementation files('libs/tidewire-1.4.aar')\n}\n`;

export const binaryMissing = defineRule({
  name: "source/binary-missing",
  severity: "error",
  title: "A referenced binary is not on disk",
  looksAt:
    "Frameworks, libraries, AAR and JAR files that a build file or a project file names, and local packages given by path. What package managers and builds lay down is left out.",
  why: "The build works where the file happens to lie and fails everywhere else: it was never committed, or it was moved.",
  advice: "Commit the file (or the link to large-file storage), or take the reference out.",
  examples: { reported: androidExample(app), silent: androidExample(app, { "app/libs/tidewire-1.4.aar": "binary" }) },
  check({ app: { paths } }) {
    return paths.flatMap((path) => {
      if (path.exists !== false || path.generated || (path.kind !== "binary" && path.kind !== "package" && path.kind !== "project"))
        return [];
      return [
        {
          side: path.side,
          message: `the ${path.kind} ${path.text} is named here and is not there`,
          fix: `put it at ${path.resolved ?? path.text}, or take the reference out`,
          places: [path.at],
          subject: path.resolved ?? path.text,
        },
      ];
    });
  },
});
