import { PACKAGE_ROOTS, type PackageRoot } from "../../knowledge/package-roots.js";
import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** What packages need once in the app and that nothing has: the first place that uses them. */
export function lackingRoots(app: App, sources: readonly SourceFile[]): CodeFacts["lackingRoots"] {
  const declared = new Set(app.dependencies.flatMap(({ ecosystem, name, test }) => (test ? [] : `${ecosystem} ${name.toLowerCase()}`)));
  const asked = PACKAGE_ROOTS.filter(({ ecosystem, packages }) =>
    packages.some((name) => declared.has(`${ecosystem} ${name.toLowerCase()}`)),
  );
  if (asked.length === 0) return [];
  const shared = sources.filter(({ side, language, file }) => (side === "shared" || language === "csharp") && !IN_TESTS.test(file));
  return asked.flatMap((root) => {
    const own = shared.filter(({ language }) => isOf(root, language));
    // It may stand in a string of a page or a script that is put together: any mention counts.
    if (shared.some(({ text }) => root.root.test(text))) return [];
    for (const source of own) {
      if (!root.uses.test(source.text)) continue;
      const match = root.uses.exec(withoutComments(source.text));
      if (!match) continue;
      const [name = ""] = root.packages.filter((one) => declared.has(`${root.ecosystem} ${one.toLowerCase()}`));
      return [{ package: name, what: root.what, without: root.without, at: source.place(match.index) }];
    }
    return [];
  });
}

const IN_TESTS = /(^|\/)(?:test|tests|__tests__|integration_test|e2e|__mocks__)\/|[._](?:test|spec)\.\w+$/i;

function isOf({ ecosystem }: PackageRoot, language: SourceFile["language"]): boolean {
  if (ecosystem === "pub") return language === "dart";
  return ecosystem === "nuget" ? language === "csharp" : isScript(language);
}
