import { PACKAGE_ROOTS, type PackageRoot } from "../../knowledge/package-roots.js";
import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { textOf } from "../../model/value.js";
import type { Source } from "../../syntax/source.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

type Dependency = App["dependencies"][number];

/** What packages need once in the app and that nothing has: the first place that uses them. */
export function lackingRoots(
  app: App,
  sources: readonly SourceFile[],
  pages: readonly Pick<Source, "text" | "place">[],
): CodeFacts["lackingRoots"] {
  const declared = new Map(
    app.dependencies.flatMap((one) => (one.test ? [] : [[`${one.ecosystem} ${one.name.toLowerCase()}`, one] as const])),
  );
  const own = ({ ecosystem }: PackageRoot, name: string): Dependency | undefined => declared.get(`${ecosystem} ${name.toLowerCase()}`);
  const shared = sources.filter(({ side, language }) => side === "shared" || language === "csharp");
  return PACKAGE_ROOTS.flatMap((root) => {
    const name = root.packages.find((one) => own(root, one) && majorOf(own(root, one)) >= (root.from ?? 0));
    // A mention in a string of a page or of a script that is put together counts too.
    if (name === undefined || root.doneBy?.some((one) => own(root, one)) || shared.some(({ text }) => root.root.test(text))) return [];
    for (const source of shared) {
      const match = isOf(root, source.language) && root.uses.test(source.text) ? root.uses.exec(withoutComments(source.text)) : null;
      if (match) return [{ package: name, what: root.what, without: root.without, at: source.place(match.index) }];
    }
    // A page that names what it uses by its namespace.
    for (const page of root.ecosystem === "nuget" ? pages : []) {
      const match = root.uses.exec(page.text);
      if (match) return [{ package: name, what: root.what, without: root.without, at: page.place(match.index) }];
    }
    return [];
  });
}

/** The major version of a package, as it is locked or declared; 0 where that is not written out. */
export function majorOf(dependency: Dependency | undefined): number {
  return Number(/(\d+)/.exec(dependency?.locked ?? textOf(dependency?.declared) ?? "")?.[1] ?? 0);
}

function isOf({ ecosystem }: PackageRoot, language: SourceFile["language"]): boolean {
  if (ecosystem === "pub") return language === "dart";
  return ecosystem === "nuget" ? language === "csharp" : isScript(language);
}
