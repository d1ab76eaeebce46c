import { RETIRED_REPOSITORIES } from "../../knowledge/retired-repositories.js";
import type { RepositoryFact } from "../../model/facts.js";
import { comparePlaces, uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { normalizedUrl } from "../../derive/repositories.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const build = (repository: string) =>
  androidExample(androidBlock(), { "build.gradle": `allprojects {\n  repositories {\n    google()\n    ${repository}()\n  }\n}\n` });

export const repositoryRetired = defineRule({
  name: "source/repository-retired",
  severity: "warning",
  title: "A repository that has been shut down",
  looksAt: "The package repositories of the build, against those that have been shut down.",
  why: "A build asks every repository in turn: a dead one slows it down, hides packages that moved, and breaks the build on the day its host stops answering.",
  advice: "Remove the repository and use its replacement.",
  examples: { reported: build("jcenter"), silent: build("mavenCentral") },
  check({ app }) {
    return RETIRED_REPOSITORIES.flatMap((retired) => {
      const hits = app.repositories.filter((repository) => retired.address.test(addressOf(repository)));
      const [first] = hits;
      if (!first) return [];
      return [
        {
          side: "android" as const,
          message: `${first.kind === "jcenter" ? "jcenter()" : (textOf(first.url) ?? retired.name)} has been shut down: ${retired.name} closed on ${retired.since}`,
          fix: `use ${retired.instead}`,
          places: uniquePlaces(hits.map(({ at }) => at)).sort(comparePlaces),
          subject: retired.name,
        },
      ];
    });
  },
});

function addressOf(repository: RepositoryFact): string {
  if (repository.kind === "jcenter") return "jcenter.bintray.com";
  return normalizedUrl(textOf(repository.url) ?? "");
}
