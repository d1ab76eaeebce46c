import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const build = (protocol: string) =>
  androidExample(androidBlock(), {
    "build.gradle": `allprojects {\n  repositories {\n    google()\n    maven { url '${protocol}://maven.quaymap.example/releases' }\n  }\n}\n`,
  });

export const insecure = defineRule({
  name: "source/insecure",
  severity: "warning",
  title: "Packages are fetched over plain HTTP",
  looksAt: "Addresses of repositories, Git references and pod sources.",
  why: "Anyone between the build machine and the server can put code into your app. Gradle 7 and later refuse such a repository unless it is explicitly allowed.",
  advice: "Use addresses with https.",
  examples: { reported: build("http"), silent: build("https") },
  check({ app }) {
    const findings: RawFinding[] = [];
    const seen = new Set<string>();
    const add = (side: "android" | "ios" | "shared", url: string | undefined, place: RawFinding["places"][number], sdk?: string): void => {
      if (
        url === undefined ||
        !/^(http|git):\/\//i.test(url) ||
        /^\w+:\/\/(localhost|127\.|10\.|192\.168\.|\[::1\])/.test(url) ||
        seen.has(url)
      )
        return;
      seen.add(url);
      findings.push({
        side,
        sdk,
        message: `packages are fetched from ${url} without encryption`,
        fix: "use https",
        places: [place],
        subject: url,
      });
    };
    for (const repository of app.repositories)
      add(
        repository.module === "Podfile" ? "ios" : repository.module === "NuGet.config" ? "shared" : "android",
        textOf(repository.url),
        repository.at,
      );
    for (const { repositories } of app.packageModules) for (const { url, at } of repositories) add("android", textOf(url), at);
    for (const dependency of app.dependencies) {
      if (dependency.ecosystem === "swiftpm" || dependency.ecosystem === "carthage")
        add(dependency.side, dependency.name, dependency.places[0] ?? { file: app.path, line: 1, column: 1 }, dependency.sdk);
      else if (dependency.ecosystem === "npm")
        add(
          dependency.side,
          textOf(dependency.declared),
          dependency.declared?.place ?? { file: app.path, line: 1, column: 1 },
          dependency.sdk,
        );
    }
    return findings;
  },
});
